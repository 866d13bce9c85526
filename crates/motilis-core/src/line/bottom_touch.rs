use super::LineSetup;
use crate::ids::{RigId, SetupId};
use crate::tackle::LineStock;
use crate::units::{Kilograms, Metres, MetresPerSecond};
use jiff::Timestamp;

/// A touch of the bottom, or a pass without one, with the line that was out.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BottomTouch {
    /// The rig.
    pub rig: RigId,
    /// The set-up.
    pub setup: SetupId,
    /// The main line in use.
    pub main: LineStock,
    /// The weight in use.
    pub weight: Option<Kilograms>,
    /// The lead.
    pub lead: Metres,
    /// What was let out.
    pub out: Metres,
    /// Depth of the bottom.
    pub bottom: Metres,
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// Whether it touched.
    pub touched: bool,
    /// When.
    pub at: Timestamp,
}

impl BottomTouch {
    /// Whether it was made with this rod, line and weight.
    pub fn is_with(&self, setup: SetupId, in_use: &LineSetup) -> bool {
        let mass = in_use.weight.and_then(|weight| weight.mass());
        let same_mass = match (self.weight, mass) {
            (Some(a), Some(b)) => (a.0 - b.0).abs() < 1e-6,
            (None, None) => true,
            _ => false,
        };
        self.setup == setup && self.main == in_use.main && same_mass
    }
}
