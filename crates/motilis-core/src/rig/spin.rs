//! What turns a rig, what holds it, and what of that reaches the line.
//!
//! The clevis passes friction to the shaft at every speed, and a spinning bait turns what it is tied to. Against it stand:
//!
//! - a **rudder** or an **attractor** ahead, by its keel (an attractor's is taken as large as a rudder's and more);
//! - on a leader, **hooks and bait** that hang below the axis, up to the moment they have; a hook in a wire's eye hangs
//!   by itself and lets the wire turn in it, so it holds nothing (common practice, no source: a wire spinner trolled
//!   bare twists its line at every working speed);
//! - at last the line, which winds up until its torsion is as large: `N = M L / (2π G J)`, `J = π d⁴ / 32`.
//!
//! A swivel turns only above its own friction under the pull it bears, `μ T r`, and then hands on that much: a barrel's is
//! mostly above what a blade's clevis gives, a ball-bearing's far below.

use super::{Rig, SwivelStyle, What};
use crate::blade::State;
use crate::error::Error;
use crate::units::{
    Celsius, Hertz, MILLIMETRE, Metres, MetresPerSecond, NewtonMetres, Newtons, Radians,
};
use crate::water::Water;

/// How a rig takes the torque of its blade and bait.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spin {
    /// How far it leans over while it holds against the clevis: `sin⁻¹(Q / M)`; a quarter turn when it gives way.
    pub lean: Radians,
    /// How much faster it could go before it gives way, as a share of that speed; negative beyond it.
    pub margin: Option<f64>,
    /// Flashes a second: each turn shows a face twice, front and back.
    pub flashes: Hertz,
    /// Torque that nothing on the rig holds.
    pub torque: NewtonMetres,
    /// What holds it, where something does.
    pub held_by: Holder,
    /// The swivel at its head with its friction under this pull, where it has one.
    pub swivel: Option<(SwivelStyle, NewtonMetres)>,
    /// Pull at the rig.
    pub pull: Newtons,
    /// Turns a second with which a line begins to wind up.
    pub winds: Hertz,
}

/// What keeps a rig from turning its line.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Holder {
    /// Nothing: the line must.
    Nothing,
    /// Nothing turns it.
    NoTorque,
    /// Hooks and bait below the axis.
    Hooks,
    /// A rudder.
    Rudder,
    /// An attractor.
    Attractor,
}

/// Friction and radius of a swivel's bearing; from memory.
fn bearing(style: SwivelStyle) -> Option<(f64, Metres)> {
    match style {
        SwivelStyle::BallBearing => Some((0.02, 1.5 * MILLIMETRE)),
        SwivelStyle::Barrel | SwivelStyle::SnapSwivel => Some((0.30, 1.2 * MILLIMETRE)),
        SwivelStyle::Snap | SwivelStyle::SplitRing | SwivelStyle::Clip | SwivelStyle::Snubber => {
            None
        }
    }
}

impl Spin {
    /// Torque that goes on up the line past the rig's own swivel.
    pub fn passed(&self) -> NewtonMetres {
        match self.swivel {
            Some((_, friction)) if friction.0 < self.torque.0 => friction,
            _ => self.torque,
        }
    }

    /// Whether the swivel turns under this torque.
    pub fn swivel_turns(&self) -> bool {
        self.swivel
            .is_some_and(|(_, friction)| friction.0 < self.torque.0)
    }
}

impl Rig {
    /// What turns it at a speed, and what holds it.
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
        let (load, running) = self.at(speed, water, temperature)?;
        let bait = self.bait_spin(speed, water);
        // A spoon that sways turns nothing; one that spins does.
        let turns = shaft.filter(|_| running.state != State::Swaying);
        // Q over M grows with the square of the speed and is 1 where the rig rolls over.
        let share = running
            .roll_over
            .filter(|limit| turns.is_some() && limit.0 > 0.0 && running.state != State::Stalled)
            .map_or(0.0, |limit| (speed / limit).powi(2));
        let clevis = turns
            .filter(|_| running.state != State::Stalled)
            .map_or(0.0, |shaft| {
                shaft.friction * running.drag.0 * shaft.clevis_radius.0
            });
        let spun = bait.map_or(0.0, |bait| bait.torque.0);
        let has = |is: fn(What) -> bool| {
            self.stack()
                .pieces
                .iter()
                .any(|piece| is(piece.part.what()))
        };
        let hooks = if self.stack().mount.is_wire() {
            0.0
        } else {
            self.holding_moment(water).0
        };
        let left = (clevis - hooks).max(0.0);
        let (torque, held_by) = if has(|what| what == What::Rudder) {
            (0.0, Holder::Rudder)
        } else if has(|what| matches!(what, What::Attractor(_))) {
            (0.0, Holder::Attractor)
        } else if left + spun > 0.0 {
            (left + spun, Holder::Nothing)
        } else if clevis > 0.0 {
            (0.0, Holder::Hooks)
        } else {
            (0.0, Holder::NoTorque)
        };
        let pull = Newtons(water.dynamic_pressure(speed) * load.drag_area.0);
        let swivel = self
            .stack()
            .pieces
            .iter()
            .find_map(|piece| match piece.part.what() {
                What::Swivel(style) => bearing(style)
                    .map(|(friction, radius)| (style, NewtonMetres(friction * pull.0 * radius.0))),
                _ => None,
            });
        let turned = turns.map_or(0.0, |shaft| shaft.blade.turn_rate(speed, running.start).0);
        Ok(Spin {
            lean: Radians(share.min(1.0).asin()),
            margin: running.roll_over.map(|limit| 1.0 - speed / limit),
            flashes: 2.0 * running.turns,
            torque: NewtonMetres(torque),
            held_by,
            swivel,
            pull,
            winds: bait.map_or(Hertz(turned), |bait| bait.turns),
        })
    }
}
