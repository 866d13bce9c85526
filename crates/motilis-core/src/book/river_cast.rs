use super::{EventId, OutingId, RigId, RunId};
use crate::error::Error;
use crate::fields;
use crate::river::{Far, Plan, Presentation, Way};
use crate::units::Metres;
use jiff::Timestamp;

/// A cast that was made in a run.
#[derive(Debug, Clone, PartialEq)]
pub struct RiverCast {
    /// On which outing.
    pub outing: OutingId,
    /// In which run.
    pub run: RunId,
    /// With which rod, by its number.
    pub rod: u8,
    /// What was cast, of what the box knows.
    pub rig: Option<RigId>,
    /// When.
    pub at: Timestamp,
    /// What was shown to the fish.
    pub presentation: Presentation,
    /// Where one stood, from the head of the run down.
    pub stand: Metres,
    /// Which cast of the grid it was, of one that was.
    pub grid: Option<(Way, Far)>,
    /// How it was made.
    pub plan: Plan,
    /// What came of it, by its entry in the log.
    pub event: Option<EventId>,
}

impl RiverCast {
    /// Checks that every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        fields::STAND_ALONG.check(self.stand.0)?;
        fields::CAST_ANGLE.check(self.plan.thrown.angle_deg)?;
        fields::CAST_DISTANCE.check(self.plan.thrown.distance.0)?;
        fields::CAST_REEL.check(self.plan.reel.0)?;
        fields::SINK.check(self.plan.sink)?;
        Ok(())
    }
}
