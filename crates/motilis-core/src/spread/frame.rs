//! The boat's frame, and how it bends in a turn.

use super::Side;
use crate::error::Error;
use crate::fields;
use crate::units::{Metres, MetresPerSecond};

/// Aft, starboard, depth in the boat's frame, m.
pub type Point = [f64; 3];

/// A steady turn.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Turn {
    /// Radius of the boat's own circle.
    pub radius: Metres,
    /// The side it turns to.
    pub to: Side,
}

impl Turn {
    /// Whether it can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`].
    pub fn check(&self) -> Result<(), Error> {
        fields::TURN_RADIUS.check(self.radius.0).map(|_| ())
    }

    /// Radius of the circle of what runs so far to starboard of the boat.
    fn radius_at(self, starboard: f64) -> f64 {
        self.radius.0 - self.to.sign() * starboard
    }

    /// Speed there: `V (1 + y/R)`, `y` counted to the outside; none inside of the turn's own centre.
    pub fn speed_at(self, boat: MetresPerSecond, starboard: f64) -> MetresPerSecond {
        MetresPerSecond((boat.0 * self.radius_at(starboard) / self.radius.0).max(0.0))
    }

    /// Where a point of a line is that entered the water at `aft`, `starboard` and trails `run` behind on the
    /// circle of its own.
    pub(super) fn behind(self, aft: f64, starboard: f64, run: f64, depth: f64) -> Point {
        let radius = self.radius_at(starboard);
        let least = 0.5_f64.copysign(radius);
        let own = if radius.abs() < 0.5 { least } else { radius };
        let angle = aft / self.radius.0 + run / own.abs();
        [
            radius.abs() * angle.sin(),
            self.to.sign() * (self.radius.0 - radius * angle.cos()),
            depth,
        ]
    }
}
