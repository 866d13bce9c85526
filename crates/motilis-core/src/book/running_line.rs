use super::{RigId, SetupId};
use crate::line::Changes;
use crate::tackle::LineStock;
use crate::units::{Kilograms, Metres};

/// The line that is out: a rig on a set-up, with what was changed for the day.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RunningLine {
    /// The rig.
    pub rig: RigId,
    /// The set-up it started from.
    pub setup: SetupId,
    /// The main line in use.
    pub main: LineStock,
    /// Mass of the weight in use, for set-ups that have one.
    pub weight: Option<Kilograms>,
    /// The lead in use.
    pub lead: Metres,
    /// What is let out.
    pub out: Metres,
}

impl RunningLine {
    /// What the day has otherwise than the set-up.
    pub fn changes(&self) -> Changes {
        Changes {
            main: Some(self.main),
            weight: self.weight,
            lead: Some(self.lead),
            above: None,
        }
    }
}
