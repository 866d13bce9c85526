use super::{Blade, Family, Observation};
use crate::error::Error;
use crate::units::{Celsius, Metres};
use crate::water::{SEA_SALINITY, Water};
use jiff::Timestamp;

/// What an angler saw of a rig's blade beside the boat.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DunkTest {
    /// What was seen.
    pub seen: Observation,
    /// Temperature of the water.
    pub temperature: Celsius,
    /// Whether it was salt.
    pub salt: bool,
    /// Family of the blade it was seen of.
    pub family: Family,
    /// Length of that blade.
    pub length: Metres,
    /// When.
    pub at: Timestamp,
}

/// Lengths nearer than this are one blade's.
const SAME: f64 = 1e-4;

impl DunkTest {
    /// The water it was seen in.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a temperature that cannot be.
    pub fn water(&self) -> Result<Water, Error> {
        if self.salt {
            Water::with_salt(self.temperature, SEA_SALINITY)
        } else {
            Water::fresh(self.temperature)
        }
    }

    /// Whether it was seen of such a blade.
    pub fn is_of(&self, blade: &Blade) -> bool {
        self.family == blade.family && (self.length - blade.length).0.abs() < SAME
    }
}
