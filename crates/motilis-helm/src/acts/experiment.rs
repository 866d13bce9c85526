use super::log::{set_out, take_in};
use super::{Doing, Made};
use crate::aboard::Aboard;
use crate::error::{Error, Refusal};
use crate::trying::dealt;
use motilis_core::book::ExperimentId;
use motilis_core::evidence::{Experiment, LONGEST};
use motilis_store::{experiments, rods};

/// A change of an experiment.
#[derive(Debug, Clone, PartialEq)]
pub enum ExperimentAct {
    /// Two ways are held against each other from now on; the rods take over their first ways.
    Begin(Box<Experiment>),
    /// Its rods take over the ways they are dealt now.
    Swap(ExperimentId),
    /// It ends.
    End(ExperimentId),
}

impl ExperimentAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        match self {
            Self::Begin(experiment) => {
                experiment.check().map_err(Refusal::Figure)?;
                let outing = &doing.book.here()?.outing;
                let old = doing.at.duration_since(outing.started) >= LONGEST;
                if old || outing.ended.is_some() {
                    return Err(Refusal::Over.into());
                }
                let id = experiments::add(connection, &experiment)?;
                deal(doing, &experiment)?;
                Ok(Some(id.0))
            }
            Self::Swap(id) => {
                let experiment = experiments::get(connection, id)?;
                if experiment.ended.is_some() || doing.at >= experiment.until {
                    return Err(Refusal::Over.into());
                }
                deal(doing, &experiment)?;
                Ok(Some(id.0))
            }
            Self::End(id) => {
                experiments::end(connection, id, doing.at)?;
                Ok(Some(id.0))
            }
        }
    }
}

/// Puts each rod of an experiment onto the way it is dealt now.
fn deal(doing: &Doing<'_, '_>, experiment: &Experiment) -> Result<(), Error> {
    let all = Aboard::all(doing.book)?;
    for (before, boat) in dealt(&all, experiment, doing.at) {
        // Ways may differ by less than makes another pass otherwise.
        take_in(doing, before)?;
        rods::put(doing.book.connection(), experiment.outing, &boat)?;
        if before.fishes() {
            set_out(doing, Aboard::of(doing.book, boat, None)?)?;
        }
    }
    Ok(())
}
