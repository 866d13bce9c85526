use super::{Doing, Made};
use crate::error::Refusal;
use motilis_core::book::{PlannedSpread, SpreadId};
use motilis_store::{settings, spreads};

/// A change of a spread.
#[derive(Debug, Clone, PartialEq)]
pub enum SpreadAct {
    /// A new one.
    Begin(PlannedSpread),
    /// A spread as it is from now on.
    Keep(SpreadId, PlannedSpread),
    /// The last change is taken back.
    Undo(SpreadId),
    /// An undone change is made again.
    Redo(SpreadId),
    /// A copy beside it, under this name.
    Duplicate(SpreadId, String),
    /// So many anglers are aboard.
    Crew(u32),
}

/// Most anglers on a boat that trolls.
const MOST_CREW: u32 = 12;

impl SpreadAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        let name = match &self {
            Self::Begin(plan) | Self::Keep(_, plan) => Some(&plan.name),
            Self::Duplicate(_, name) => Some(name),
            Self::Undo(_) | Self::Redo(_) | Self::Crew(_) => None,
        };
        if let Some(name) = name {
            PlannedSpread::check_name(name).map_err(Refusal::Figure)?;
        }
        Ok(Some(match self {
            Self::Begin(plan) => spreads::add(connection, &plan)?.0,
            Self::Keep(id, plan) => {
                if plan != spreads::get(connection, id)?.plan {
                    spreads::save(connection, id, &plan)?;
                }
                id.0
            }
            Self::Undo(id) => {
                spreads::undo(connection, id)?;
                id.0
            }
            Self::Redo(id) => {
                spreads::redo(connection, id)?;
                id.0
            }
            Self::Duplicate(id, name) => {
                let plan = PlannedSpread {
                    name,
                    ..spreads::get(connection, id)?.plan
                };
                spreads::add(connection, &plan)?.0
            }
            Self::Crew(crew) => {
                if !(1..=MOST_CREW).contains(&crew) {
                    return Err(Refusal::Crew(crew).into());
                }
                settings::set(connection, "crew", &crew.to_string())?;
                i64::from(crew)
            }
        }))
    }
}
