use super::{Doing, Made};
use crate::error::{Error, Refusal};
use motilis_core::book::{RuleId, RunId, SpotId, WaterBody, WaterId};
use motilis_core::river::Run;
use motilis_core::rules::LocalRule;
use motilis_core::track::Spot;
use motilis_store::trash::{self, Record};
use motilis_store::{Connection, rules, runs, spots, waters};

/// A change of a water or its rules.
#[derive(Debug, Clone, PartialEq)]
pub enum WaterAct {
    /// A new one.
    Add(Box<WaterBody>),
    /// A water as it really is.
    Change(WaterId, Box<WaterBody>),
    /// A new rule of it, or one as it really is.
    Rule(WaterId, Option<RuleId>, Box<LocalRule>),
    /// A new spot of it, or one as it really is.
    Spot(Option<SpotId>, Box<Spot>),
    /// A new run of it, or one as it really is.
    Run(Option<RunId>, Box<Run>),
    /// A rule of it is thrown away.
    ThrowRule(WaterId, RuleId),
}

impl WaterAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        match &self {
            Self::Add(water) | Self::Change(_, water) => water.check().map_err(Refusal::Figure)?,
            Self::Rule(_, _, rule) => rule.check().map_err(Refusal::Figure)?,
            Self::Spot(_, spot) => spot.check().map_err(Refusal::Figure)?,
            Self::Run(_, run) => run.check().map_err(Refusal::Figure)?,
            Self::ThrowRule(..) => {}
        }
        Ok(Some(match self {
            Self::Add(water) => waters::add(connection, &water)?.0,
            Self::Change(id, water) => {
                waters::update(connection, id, &water)?;
                id.0
            }
            Self::Rule(water, None, rule) => rules::add(connection, water, &rule)?.0,
            Self::Rule(water, Some(id), rule) => {
                is_of(connection, water, id)?;
                rules::update(connection, id, &rule)?;
                id.0
            }
            Self::Spot(None, spot) => spots::add(connection, &spot)?.0,
            Self::Spot(Some(id), spot) => {
                spots::update(connection, id, &spot)?;
                id.0
            }
            Self::Run(None, run) => runs::add(connection, &run)?.0,
            Self::Run(Some(id), run) => {
                runs::update(connection, id, &run)?;
                id.0
            }
            Self::ThrowRule(water, id) => {
                is_of(connection, water, id)?;
                trash::throw(connection, Record::Rule(id), doing.now)?;
                id.0
            }
        }))
    }
}

/// Whether a rule is of a water.
fn is_of(connection: &Connection, water: WaterId, id: RuleId) -> Result<(), Error> {
    let (owner, _) = rules::get(connection, id)?;
    if owner == water {
        return Ok(());
    }
    Err(Refusal::OtherWater.into())
}
