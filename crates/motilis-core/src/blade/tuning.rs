use super::{Blade, Family};
use crate::error::Error;
use crate::units::{Celsius, Radians};

/// Bend of a soft wing as it comes, which gives the family's cone angle of 40°.
const AS_IT_COMES: f64 = 0.6;
/// Temperature at which a bend is what the fingers made it.
const BENCH_TEMPERATURE: Celsius = Celsius(15.0);
/// How far the water bends a film further for each degree it is warmer and softer (fitted to
/// common practice, no source).
const BEND_PER_DEGREE: f64 = 0.01;

/// Cone angle of a soft wing: 55° flat to 30° bent in.
pub(super) fn cone_angle(bend: f64) -> Radians {
    Radians::from_degrees(55.0 - 25.0 * bend)
}

impl Blade {
    /// A soft wing as practice sees it in water of a temperature; any other blade unchanged.
    ///
    /// Practice: bent in it turns faster, flat slower; cold water slows it, warm water quickens it
    /// (common practice, no source). The film gives way under the water, more so when it is warm, so
    /// warmth acts as a little more bend.
    ///
    /// - `bend`: 0 flat to 1 bent in; `None` as it comes (0.6).
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a bend outside 0–1.
    pub fn tuned(self, bend: Option<f64>, temperature: Celsius) -> Result<Self, Error> {
        if self.family != Family::SoftWing {
            return Ok(self);
        }
        let bend = bend.unwrap_or(AS_IT_COMES);
        self.bent(bend)?;
        let warmth = BEND_PER_DEGREE * (temperature - BENCH_TEMPERATURE).0;
        self.bent((bend + warmth).clamp(0.0, 1.0))
    }
}
