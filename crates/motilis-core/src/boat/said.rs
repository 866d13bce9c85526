//! What an instrument says, whatever wire it came over.

use crate::units::{Celsius, Metres, MetresPerSecond};
use jiff::Timestamp;

/// One thing that an instrument said.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Said {
    /// A receiver with a fix: when, where, how fast and where to over ground.
    Fix(BoatFix),
    /// A receiver without one, at a time it knows.
    Void(Timestamp),
    /// Where the boat is, at a time, from a sentence without speed.
    Place(Timestamp, [f64; 2]),
    /// Speed over ground and course.
    Ground(MetresPerSecond, Option<f64>),
    /// Depth of the bottom under the surface, the transducer's own depth added.
    Depth(Metres),
    /// Temperature of the water.
    Temperature(Celsius),
    /// Speed through the water, and the heading where a compass is on the same wire, degrees true.
    Through(MetresPerSecond, Option<f64>),
    /// Wind: the angle it comes from, degrees from the bow to starboard, its speed, and whether the boat's own way is in it.
    Wind {
        /// Degrees from the bow.
        from_deg: f64,
        /// How fast.
        speed: MetresPerSecond,
        /// As felt aboard.
        felt: bool,
    },
    /// Something sound that nothing here is asked of.
    Other,
}

/// A receiver's fix.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BoatFix {
    /// The receiver's own time.
    pub at: Timestamp,
    /// Latitude and longitude, degrees north and east.
    pub place: [f64; 2],
    /// Speed over ground.
    pub ground: Option<MetresPerSecond>,
    /// Course over ground, degrees from north through east; receivers at rest have none.
    pub course_deg: Option<f64>,
}
