//! Bait that spins of itself: a worm on a bent-shank hook, a whole bait under a head cap.
//!
//! Designed, no published model: the bait is a body bent by an angle `α` to the line, whose free half sweeps a circle of
//! radius `r = ½ ℓ sin α`. It screws itself through the water at the angle it stands at, less what slips:
//! `f = κ U tan α / (2π r) = κ U / (π ℓ cos α)`, with `κ = 0.8`; the bend sets how tight it turns, the bait's length how
//! fast. It turns at any speed at which it is towed (common practice, no source: from 0.6 mph and less). Its push to the
//! side is that of the water on the bent part, its torque a fifth of that push on the radius.

use super::{Bait, Dressing, HookStyle, Piece, Rig, Stack, What};
use crate::units::{Hertz, Metres, MetresPerSecond, NewtonMetres, Newtons, Radians};
use crate::water::Water;
use std::f64::consts::{PI, TAU};

/// Share of the screw that does not slip.
const GRIP: f64 = 0.8;
/// Drag coefficient of a bait across the flow, a blunt cylinder's.
const ACROSS: f64 = 1.1;
/// Share of the push that turns.
const TURNS: f64 = 0.2;
/// Angle of a bent-shank hook, and of a bait under a cap, as it comes; and the ends fingers bend it to.
const BENT_SHANK: f64 = 35.0;
const HEAD_CAP: f64 = 25.0;
const BEND: (f64, f64) = (15.0, 50.0);

/// A spinning bait at a speed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BaitSpin {
    /// The bait.
    pub bait: Bait,
    /// Whether a head cap spins it, and not a bent shank.
    pub cap: bool,
    /// How far it is bent.
    pub angle: Radians,
    /// Length that is bent.
    pub length: Metres,
    /// Radius it sweeps.
    pub radius: Metres,
    /// Turns a second.
    pub turns: Hertz,
    /// Push to the side, once a turn.
    pub side_force: Newtons,
    /// Torque by which it turns what it is tied to.
    pub torque: NewtonMetres,
}

/// A bait that something on the rig bends.
#[derive(Debug, Clone, Copy)]
struct Bent<'a> {
    piece: &'a Piece,
    bait: Bait,
    cap: bool,
    angle: Radians,
}

impl Stack {
    /// By how much hook or cap bends its bait; `None` where none is bent.
    pub fn bait_angle(&self) -> Option<Radians> {
        self.bent_bait().map(|bent| bent.angle)
    }

    fn bent_bait(&self) -> Option<Bent<'_>> {
        let has = |what: What| self.pieces.iter().any(|piece| piece.part.what() == what);
        let mut pieces = self.pieces.iter();
        let (piece, bait) = pieces.find_map(|piece| Some((piece, piece.part.bait()?)))?;
        let cap = has(What::Dressing(Dressing::BaitHeadCap));
        let shank = has(What::Hook(HookStyle::BentShank)) && bait.is_worm();
        let usual = if cap { HEAD_CAP } else { BENT_SHANK };
        let bend = |bend: f64| BEND.0 + bend * (BEND.1 - BEND.0);
        (cap || shank).then(|| Bent {
            piece,
            bait,
            cap,
            angle: Radians::from_degrees(piece.bend.map_or(usual, bend)),
        })
    }
}

impl Rig {
    /// How its bait spins at a speed; `None` where none does.
    pub fn bait_spin(&self, speed: MetresPerSecond, water: &Water) -> Option<BaitSpin> {
        let bent = self.stack().bent_bait()?;
        Some(BaitSpin::of(&bent, speed, water))
    }
}

impl BaitSpin {
    fn of(bent: &Bent<'_>, speed: MetresPerSecond, water: &Water) -> Self {
        let Bent {
            piece,
            bait,
            cap,
            angle,
        } = *bent;
        let (sin, cos) = angle.0.sin_cos();
        let length = piece.part.length();
        let radius = 0.5 * sin * length;
        let side = ACROSS * bait.thickness().0 * length.0 * sin * sin;
        let push = water.dynamic_pressure(speed) * side;
        Self {
            bait,
            cap,
            angle,
            length,
            radius,
            turns: Hertz(GRIP * speed.0 / (PI * length.0 * cos)),
            side_force: Newtons(push),
            torque: NewtonMetres(TURNS * push * radius.0),
        }
    }

    /// How strongly a fish feels it, by the measure of a blade's thump.
    pub fn thump_index(&self) -> f64 {
        if self.turns.0 > 0.0 {
            crate::blade::thump_index(self.side_force, self.turns)
        } else {
            0.0
        }
    }

    /// Speed of its tip on the circle.
    pub fn tip_speed(&self) -> MetresPerSecond {
        MetresPerSecond(TAU * self.radius.0 * self.turns.0)
    }
}
