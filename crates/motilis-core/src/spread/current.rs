use crate::error::Error;
use crate::fields;
use crate::units::MetresPerSecond;

/// A current as it meets a run: along it (positive with the boat on the way down) and across.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Current {
    /// Along the run.
    pub along: MetresPerSecond,
    /// Across it.
    pub across: MetresPerSecond,
}

/// Speeds over ground that keep the blades the same on both legs.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Leg {
    /// Speed through the water on both legs.
    pub through: MetresPerSecond,
    /// Speed over ground against the current.
    pub up: MetresPerSecond,
    /// Speed over ground with it.
    pub down: MetresPerSecond,
    /// Angle by which the boat must point into a current from the side, degrees.
    pub crab_deg: f64,
}

impl Current {
    /// A current on a run.
    ///
    /// # Errors
    /// [`Error::OutOfRange`].
    pub fn new(along: MetresPerSecond, across: MetresPerSecond) -> Result<Self, Error> {
        fields::CURRENT_ALONG.check(along.0)?;
        fields::CURRENT_ACROSS.check(across.0)?;
        Ok(Self { along, across })
    }

    /// The current from a set and a heading, degrees from north: `set` is where it flows to.
    ///
    /// # Errors
    /// [`Error::OutOfRange`].
    pub fn setting(flow: MetresPerSecond, set_deg: f64, heading_deg: f64) -> Result<Self, Error> {
        fields::SET.check(set_deg)?;
        fields::HEADING.check(heading_deg)?;
        let (sin, cos) = (set_deg - heading_deg).to_radians().sin_cos();
        Self::new(flow * cos, flow * sin)
    }

    /// The current that shows in speeds over ground of one throttle, up and down the run, and the speed through
    /// the water then.
    ///
    /// # Errors
    /// [`Error::OutOfRange`].
    pub fn between(
        up: MetresPerSecond,
        down: MetresPerSecond,
    ) -> Result<(Self, MetresPerSecond), Error> {
        fields::GROUND_UP.check(up.0)?;
        fields::GROUND_DOWN.check(down.0)?;
        let current = Self::new(0.5 * (down - up), MetresPerSecond(0.0))?;
        Ok((current, 0.5 * (up + down)))
    }

    /// What the boat must do over ground on both legs for a speed through the water.
    ///
    /// # Errors
    /// [`Error::Contradiction`] when the current is stronger than the boat.
    pub fn legs(self, through: MetresPerSecond) -> Result<Leg, Error> {
        let ahead = through.0 * through.0 - self.across.0 * self.across.0;
        let ahead = if ahead > 0.0 { ahead.sqrt() } else { 0.0 };
        if ahead <= self.along.0.abs() {
            return Err(Error::contradiction(
                "current_along_mps",
                "the current is stronger than the boat: against it the boat would stand or drift back; go faster, or wait",
            ));
        }
        let flow = self.along.0.abs();
        Ok(Leg {
            through,
            up: MetresPerSecond(ahead - flow),
            down: MetresPerSecond(ahead + flow),
            crab_deg: (self.across.0 / through.0).asin().to_degrees(),
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    #[test]
    fn both_legs_meet_the_water_at_one_speed() {
        let current = Current::new(MetresPerSecond(0.2), MetresPerSecond(0.3)).unwrap();
        let leg = current.legs(MetresPerSecond(0.6)).unwrap();
        for (ground, flow) in [(leg.up, -0.2), (leg.down, 0.2)] {
            // By hand: the water passes at (ground − flow) along and −0.3 across.
            assert_relative_eq!((ground.0 - flow).hypot(0.3), 0.6, epsilon = 1e-12);
        }
        assert_relative_eq!(leg.crab_deg, 30.0, epsilon = 1e-9);
    }

    #[test]
    fn two_speeds_over_ground_tell_current_and_speed() {
        let (current, through) =
            Current::between(MetresPerSecond(0.4), MetresPerSecond(0.8)).unwrap();
        assert_relative_eq!(current.along.0, 0.2, epsilon = 1e-12);
        let leg = current.legs(through).unwrap();
        assert_relative_eq!(leg.up.0, 0.4, epsilon = 1e-12);
        assert_relative_eq!(leg.down.0, 0.8, epsilon = 1e-12);
    }

    #[test]
    fn a_set_across_the_heading_only_crabs_the_boat() {
        let current = Current::setting(MetresPerSecond(0.3), 350.0, 260.0).unwrap();
        assert_relative_eq!(current.along.0, 0.0, epsilon = 1e-12);
        assert_relative_eq!(current.across.0, 0.3, epsilon = 1e-12);
    }

    #[test]
    fn a_current_stronger_than_the_boat_is_said() {
        let current = Current::new(MetresPerSecond(0.7), MetresPerSecond(0.0)).unwrap();
        let refusal = current.legs(MetresPerSecond(0.6)).unwrap_err();
        assert!(refusal.to_string().contains("stronger than the boat"));
    }
}
