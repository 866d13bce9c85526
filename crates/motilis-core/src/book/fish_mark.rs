use super::OutingId;
use crate::error::Error;
use crate::fields;
use crate::units::Metres;
use jiff::Timestamp;

/// A fish that was seen on the sounder.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FishMark {
    /// On which outing.
    pub outing: OutingId,
    /// Latitude and longitude, degrees.
    pub place: [f64; 2],
    /// How deep.
    pub depth: Metres,
    /// When.
    pub at: Timestamp,
}

impl FishMark {
    /// Checks that every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        fields::LATITUDE.check(self.place[0])?;
        fields::LONGITUDE.check(self.place[1])?;
        fields::DEPTH.check(self.depth.0)?;
        Ok(())
    }
}
