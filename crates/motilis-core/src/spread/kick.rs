use crate::keyed::keyed;
use crate::units::{Metres, Radians};

/// How an attractor's swing comes through to the lure.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Kick {
    /// A quick, hard kick.
    Quick,
    /// An easier one.
    Easy,
    /// Hardly any.
    Faint,
}

keyed!(Kick { Quick "quick" "quick kick", Easy "easy" "easy kick", Faint "faint" "hardly any kick" });

/// What a leader passes on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Passed {
    /// Angle by which the leader swings to each side, degrees.
    pub tilt_deg: f64,
    /// How that feels to the lure.
    pub kind: Kick,
}

/// Half the width of an attractor's swing, as a share of its length; from memory.
const SWING: f64 = 0.5;
/// A leader that swings farther than this kicks quickly, less than that hardly: set so that a rotating flasher of
/// 8 in kicks quickly at 22–24 in and easily at 32–36 in, a 6-in dodger easily at 30 in (CP-18, common
/// practice, no source).
const QUICK: f64 = 9.0;
const FAINT: f64 = 4.0;

/// What reaches a lure on so much leader behind an attractor of a length: the attractor's tail swings to and fro by
/// half its length, the leader follows it with the angle whose sine is that over its own length.
pub fn kick(attractor: Metres, leader: Metres) -> Passed {
    let swing = SWING * attractor.0 / leader.0.max(attractor.0);
    let tilt_deg = Radians(swing.asin()).degrees();
    Passed {
        tilt_deg,
        kind: if tilt_deg > QUICK {
            Kick::Quick
        } else if tilt_deg > FAINT {
            Kick::Easy
        } else {
            Kick::Faint
        },
    }
}
