use motilis_core::book::{Board, OutingId, RigId, SetupId};
use motilis_core::rig::Rig;
use std::sync::Arc;

/// A stored thing that cannot run: what it is called, what is wrong, where it is mended.
#[derive(Debug, Clone, PartialEq)]
pub struct Cannot {
    /// What it is called.
    pub name: String,
    /// What is wrong.
    pub why: motilis_core::Error,
    /// Where it is put right.
    pub mend: Mend,
}

/// Where a thing is put right.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Mend {
    /// On the bench.
    Bench(RigId),
    /// At its line set-up.
    Setup(SetupId),
    /// In the conditions of the day.
    Conditions(OutingId),
}

/// A rig of the box as it stands.
#[derive(Debug, Clone)]
pub struct StandingRig {
    /// Its number.
    pub id: RigId,
    /// What it is called.
    pub name: String,
    /// The set-up it usually goes on.
    pub setup: SetupId,
    /// The rig, or why it cannot run.
    pub stands: Result<Arc<Rig>, motilis_core::Error>,
}

impl StandingRig {
    pub(crate) fn of(id: RigId, board: &Board) -> Self {
        Self {
            id,
            name: board.name.clone(),
            setup: board.setup,
            stands: board.rig().map(|owned| Arc::new(owned.rig)),
        }
    }

    /// The rig.
    ///
    /// # Errors
    /// Why it cannot run, with the bench to mend it on.
    pub fn runs(&self) -> Result<&Arc<Rig>, Cannot> {
        self.stands.as_ref().map_err(|why| Cannot {
            name: self.name.clone(),
            why: why.clone(),
            mend: Mend::Bench(self.id),
        })
    }
}
