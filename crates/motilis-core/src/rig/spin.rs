use super::{Rig, SwivelStyle, What};
use crate::blade::State;
use crate::error::Error;
use crate::units::{Celsius, Hertz, MetresPerSecond, Radians};
use crate::water::Water;

/// How a rig takes the torque of its blade, and what reaches the line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spin {
    /// How far it leans over while it holds against the clevis: `sin⁻¹(Q / M)`; a quarter turn when it gives way.
    pub lean: Radians,
    /// How much faster it could go before it gives way, as a share of that speed; negative beyond it.
    pub margin: Option<f64>,
    /// Share of turns that its swivel or rudder takes; assumed.
    pub taken: f64,
    /// Turns that reach the line in an hour; 0 while the blade turns on its shaft.
    pub twist_an_hour: f64,
    /// Flashes a second: each turn shows a face twice, front and back.
    pub flashes: Hertz,
}

/// Share of a rig's turns that a swivel takes before they reach the line (common practice, no source: "a
/// ball-bearing swivel is enough", a barrel under load hardly turns).
const BALL_BEARING: f64 = 0.95;
const BARREL: f64 = 0.5;
/// A rudder hangs in the water and does not turn with the rig.
const RUDDER: f64 = 0.98;

impl Rig {
    /// What its blade's torque does at a speed.
    ///
    /// # Errors
    /// As [`Rig::at`].
    pub fn spin(
        &self,
        speed: MetresPerSecond,
        water: &Water,
        temperature: Celsius,
    ) -> Result<Spin, Error> {
        let shaft = self.shaft(water, temperature)?;
        let running = shaft.at(speed, water)?;
        // Q over M grows with the square of the speed and is 1 where the rig rolls over.
        let share = running
            .roll_over
            .filter(|limit| limit.0 > 0.0 && running.state != State::Stalled)
            .map_or(0.0, |limit| (speed / limit).powi(2));
        let taken = self.taken();
        let rolling = running.state == State::RollingOver;
        let turns = if rolling {
            shaft.blade.turn_rate(speed, running.start).0
        } else {
            0.0
        };
        Ok(Spin {
            lean: Radians(share.min(1.0).asin()),
            margin: running.roll_over.map(|limit| 1.0 - speed / limit),
            taken,
            twist_an_hour: 3_600.0 * turns * (1.0 - taken),
            flashes: 2.0 * running.turns,
        })
    }

    fn taken(&self) -> f64 {
        self.stack()
            .pieces
            .iter()
            .map(|piece| match piece.part.what() {
                What::Rudder => RUDDER,
                What::Swivel(SwivelStyle::BallBearing) => BALL_BEARING,
                What::Swivel(SwivelStyle::Barrel | SwivelStyle::SnapSwivel) => BARREL,
                _ => 0.0,
            })
            .fold(0.0, f64::max)
    }
}
