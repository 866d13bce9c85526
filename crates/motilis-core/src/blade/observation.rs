use super::Shaft;
use super::running::SPEED;
use crate::error::{Error, Range};
use crate::units::{GRAVITY, Hertz, MetresPerSecond, NewtonMetres};
use crate::water::Water;
use std::f64::consts::TAU;

const TURNS: Range = Range::above(
    0.0,
    100.0,
    "turns/s",
    "above 0 and at most 100 turns a second",
);
const MOVING: Range = Range::above(0.0, 15.0, "m/s", "above 0 and at most 15 m/s");

/// What an angler saw of one blade beside the boat: a dunk test.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Observation {
    /// The slowest speed at which it turned.
    Started(MetresPerSecond),
    /// Turns counted at a speed, for instance from a slow-motion film.
    Turned {
        /// Turns a second.
        rate: Hertz,
        /// Speed through the water.
        speed: MetresPerSecond,
    },
    /// The speed at which the rig began to roll over.
    RolledOver(MetresPerSecond),
}

/// The coefficient that an observation puts in place of the family's; it holds for that blade or rig.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Learned {
    /// `C_T`, from the start.
    Torque(f64),
    /// `λ`, from a count of turns.
    Turn(f64),
    /// `M`, from a roll-over.
    HoldingMoment(NewtonMetres),
    /// So many times its start it sways, from a spoon that spun.
    SwayEnds(f64),
}

impl Observation {
    /// The one coefficient with which the model would have shown what was seen.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a speed or count that cannot be; [`Error::Contradiction`] for turns
    /// counted below the speed at which this blade starts: note the start first.
    pub fn learn(&self, shaft: &Shaft, water: &Water) -> Result<Learned, Error> {
        let blade = &shaft.blade;
        match *self {
            Self::Started(speed) => {
                MOVING.check("speed_mps", speed.0)?;
                let surplus = (blade.density / water.density() - 1.0).max(0.0);
                let torque = 2.0 * GRAVITY * blade.thickness.0 * surplus * shaft.start_factor;
                Ok(Learned::Torque(torque / speed.0.powi(2)))
            }
            Self::Turned { rate, speed } => {
                TURNS.check("turns_per_s", rate.0)?;
                SPEED.check("speed_mps", speed.0)?;
                let start = shaft.start(water);
                if speed <= start {
                    return Err(Error::contradiction(
                        "speed_mps",
                        format!(
                            "this blade starts at {:.2} m/s, so it cannot have turned at {:.2} m/s; note the slowest speed at which it turned first",
                            start.0, speed.0
                        ),
                    ));
                }
                let slip = (1.0 - (start / speed).powi(2)).sqrt();
                Ok(Learned::Turn(
                    rate.0 * TAU * blade.sweep_radius().0 / (speed.0 * slip),
                ))
            }
            Self::RolledOver(speed) => {
                MOVING.check("speed_mps", speed.0)?;
                if blade.family.sways() {
                    return Ok(Learned::SwayEnds(speed / shaft.start(water)));
                }
                Ok(Learned::HoldingMoment(NewtonMetres(
                    water.dynamic_pressure(speed)
                        * shaft.friction
                        * shaft.clevis_radius.0
                        * shaft.turning_drag_area().0,
                )))
            }
        }
    }
}

impl Learned {
    /// The mean of several of one kind; `None` of none.
    pub fn mean(several: &[Self]) -> Option<Self> {
        let first = several.first()?;
        let figure = |one: &Self| match one {
            Self::Torque(figure) | Self::Turn(figure) | Self::SwayEnds(figure) => *figure,
            Self::HoldingMoment(moment) => moment.0,
        };
        let mean = several.iter().map(figure).sum::<f64>() / several.len() as f64;
        Some(match first {
            Self::Torque(_) => Self::Torque(mean),
            Self::Turn(_) => Self::Turn(mean),
            Self::HoldingMoment(_) => Self::HoldingMoment(NewtonMetres(mean)),
            Self::SwayEnds(_) => Self::SwayEnds(mean),
        })
    }
}

impl Shaft {
    /// The same shaft with a learned coefficient in place of the default.
    pub fn calibrated(mut self, learned: Learned) -> Self {
        match learned {
            Learned::Torque(torque) => self.blade.coefficients.torque = torque,
            Learned::Turn(turn) => self.blade.coefficients.turn = turn,
            Learned::HoldingMoment(moment) => self.holding_moment = Some(moment),
            Learned::SwayEnds(times) => self.sway_ends = times,
        }
        self
    }
}

#[cfg(test)]
mod tests {
    use super::super::{Blade, Family, WET_METAL_ON_PLASTIC};
    use super::*;
    use crate::units::{Celsius, MILLIMETRE};
    use approx::assert_relative_eq;

    fn shaft() -> (Shaft, Water) {
        let blade = Blade::of_size(Family::Indiana, 4.0).unwrap();
        let shaft = Shaft::new(blade, 2, None, WET_METAL_ON_PLASTIC, 0.7 * MILLIMETRE).unwrap();
        (shaft, Water::fresh(Celsius(12.0)).unwrap())
    }

    #[test]
    fn a_calibrated_blade_does_what_was_seen() {
        let (shaft, lake) = shaft();
        let seen_start = MetresPerSecond(0.31);
        let learned = Observation::Started(seen_start)
            .learn(&shaft, &lake)
            .unwrap();
        let shaft = shaft.calibrated(learned);
        assert_relative_eq!(shaft.start(&lake).0, seen_start.0, max_relative = 1e-12);

        let (rate, speed) = (Hertz(3.4), MetresPerSecond(0.6));
        let learned = Observation::Turned { rate, speed }
            .learn(&shaft, &lake)
            .unwrap();
        let shaft = shaft.calibrated(learned);
        assert_relative_eq!(
            shaft.at(speed, &lake).unwrap().turns.0,
            rate.0,
            max_relative = 1e-12
        );

        let seen_roll = MetresPerSecond(0.9);
        let learned = Observation::RolledOver(seen_roll)
            .learn(&shaft, &lake)
            .unwrap();
        let shaft = shaft.calibrated(learned);
        assert_relative_eq!(
            shaft.roll_over(&lake).unwrap().0,
            seen_roll.0,
            max_relative = 1e-12
        );
    }

    #[test]
    fn turns_below_the_start_contradict_the_blade() {
        let (shaft, lake) = shaft();
        let count = Observation::Turned {
            rate: Hertz(1.0),
            speed: MetresPerSecond(0.2),
        };
        let refusal = count.learn(&shaft, &lake).unwrap_err();
        assert!(
            refusal.to_string().contains("note the slowest speed"),
            "{refusal}"
        );
    }

    #[test]
    fn a_start_at_no_speed_is_refused() {
        let (shaft, lake) = shaft();
        assert!(
            Observation::Started(MetresPerSecond(0.0))
                .learn(&shaft, &lake)
                .is_err()
        );
        assert!(
            Observation::RolledOver(MetresPerSecond(f64::NAN))
                .learn(&shaft, &lake)
                .is_err()
        );
    }
}
