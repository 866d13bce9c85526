use super::Through;
use crate::units::{Celsius, Metres, MetresPerSecond};
use jiff::Timestamp;

/// What the boat's instruments and its twin knew at a moment, for an entry that bears it.
#[derive(Debug, Clone, PartialEq)]
pub struct Moment {
    /// When.
    pub at: Timestamp,
    /// Speed through the water, and by whom; none where no instrument said one.
    pub through: Option<Through>,
    /// Speed over ground and course.
    pub ground: Option<(MetresPerSecond, Option<f64>)>,
    /// Where, degrees.
    pub position: Option<[f64; 2]>,
    /// Depth of the bottom under the boat.
    pub bottom: Option<Metres>,
    /// Temperature of the water.
    pub temperature: Option<Celsius>,
    /// The rods that were in.
    pub rods: Vec<RodThen>,
}

/// A rod at a moment.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RodThen {
    /// Its number.
    pub number: u8,
    /// Depth of its rig.
    pub depth: Metres,
    /// The bottom under it, where the boat's own sounder saw it.
    pub bottom: Option<Metres>,
}

impl Moment {
    /// A rod then.
    pub fn rod(&self, number: u8) -> Option<&RodThen> {
        self.rods.iter().find(|rod| rod.number == number)
    }
}
