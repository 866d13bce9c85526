//! What a rig's turning does to the line it hangs on.

use super::{LineSetup, Start};
use crate::rig::{Holder, Spin};
use crate::tackle::{LineStock, SinkerStyle, Weight};
use crate::units::{Metres, NewtonMetres, Newtons};
use crate::water::Water;
use std::f64::consts::TAU;

/// Twist that a line has taken up when it no longer winds.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Twist {
    /// Turns it holds.
    pub turns: f64,
    /// Length of line they are in.
    pub length: Metres,
    /// Torque it stands under.
    pub torque: NewtonMetres,
    /// Seconds until it is wound up, at the pace it begins with.
    pub seconds: f64,
    /// Whether it throws coils when it goes slack.
    pub coils: bool,
    /// What holds the rig, so that it does not wind.
    pub held_by: Holder,
    /// What ends the twist further up.
    pub ends_at: End,
    /// Whether the rig's own swivel turns under what is passed to it.
    pub swivel_turns: Option<bool>,
}

/// What holds the upper end of the line that is twisted.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum End {
    /// A weight whose arm or plate does not turn.
    Weight,
    /// The release of a board or downrigger.
    Release,
    /// The rod.
    Rod,
}

/// Length of line whose weight is all the pull that is left when it goes slack, m.
const LIMP: f64 = 0.1;
/// Turns that nobody minds.
const FEW: f64 = 3.0;

/// Whether a weight hangs so that it cannot be turned: a bouncer by its arm, a diver by its plate.
fn holds(weight: Weight) -> bool {
    match weight {
        Weight::Sinker(style, ..) => {
            matches!(
                style,
                SinkerStyle::BottomBouncer | SinkerStyle::DivingWeight
            )
        }
        Weight::TripDiver(..) | Weight::FloatDiver(_) => true,
    }
}

impl Twist {
    /// Twist of a set-up with so much out, from what its rig does.
    pub fn of(setup: &LineSetup, out: Metres, spin: &Spin, water: &Water) -> Self {
        let (above, ends_at): (Vec<(LineStock, Metres)>, End) = match (setup.start, setup.weight) {
            (Start::Downrigger { drop_back, .. }, _) => {
                (vec![(setup.main, drop_back)], End::Release)
            }
            (_, Some(weight)) if holds(weight) => (vec![(setup.main, setup.ahead)], End::Weight),
            (Start::Board, _) => (let_out(setup, out), End::Release),
            (Start::RodTip { .. }, _) => (let_out(setup, out), End::Rod),
        };
        // The rig's swivel stands at the head of its leader; a wire's at its front eye, behind the leader.
        let passed = spin.passed();
        let pieces = std::iter::once((setup.leader, setup.lead)).chain(above);
        let (mut radians, mut length) = (0.0, Metres(0.0));
        for (stock, piece) in pieces {
            radians += passed.0 * piece.0 / stock.torsion();
            length = length + piece;
        }
        let turns = radians / TAU;
        let hangs = setup.leader.segment(Metres(1.0), None, water);
        let limp = Newtons(LIMP * hangs.submerged_weight.0.abs());
        Self {
            turns,
            length,
            torque: passed,
            seconds: turns / spin.winds.0.max(1e-3),
            coils: turns > FEW && passed.0 > setup.leader.coils_above(limp),
            held_by: spin.held_by,
            ends_at,
            swivel_turns: spin.swivel.map(|_| spin.swivel_turns()),
        }
    }
}

/// What is out between weight and surface: a core first, then the main line.
fn let_out(setup: &LineSetup, out: Metres) -> Vec<(LineStock, Metres)> {
    let Some(core) = setup.core else {
        return vec![(setup.main, out)];
    };
    let cored = if out < core.length { out } else { core.length };
    vec![(core.stock, cored), (setup.main, out - cored)]
}
