use super::{DunkTest, SetupId};
use crate::error::Error;
use crate::rig::{Rig, Stack};
use crate::units::NewtonMetres;

/// A rig of the box with the set-up it usually goes on.
#[derive(Debug, Clone, PartialEq)]
pub struct OwnedRig {
    /// The rig.
    pub rig: Rig,
    /// Its usual set-up.
    pub setup: SetupId,
}

/// A rig on the bench, finished or not.
#[derive(Debug, Clone, PartialEq)]
pub struct Board {
    /// Its name.
    pub name: String,
    /// Its parts.
    pub stack: Stack,
    /// The set-up it usually goes on.
    pub setup: SetupId,
    /// A holding moment observed by the angler.
    pub observed_moment: Option<NewtonMetres>,
    /// What was seen of its blade beside the boat.
    pub dunked: Vec<DunkTest>,
    /// Which version of it this is.
    pub version: i64,
    /// Whether there is a change to take back.
    pub can_undo: bool,
    /// Whether there is an undone change to make again.
    pub can_redo: bool,
}

impl Board {
    /// The rig, if it can run.
    ///
    /// # Errors
    /// As [`Rig::new`].
    pub fn rig(&self) -> Result<OwnedRig, Error> {
        let mut rig = Rig::new(self.name.clone(), self.stack.clone())?;
        rig.observed_moment = self.observed_moment;
        rig.learn(&self.dunked);
        Ok(OwnedRig {
            rig,
            setup: self.setup,
        })
    }
}
