use crate::keyed::keyed;
use crate::units::{Metres, Radians};
use std::fmt;

/// A side of the boat, seen forward.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Side {
    /// Left.
    Port,
    /// Right.
    Starboard,
}

keyed!(Side { Port "port" "port", Starboard "starboard" "starboard" });

impl Side {
    /// +1 to starboard, −1 to port.
    pub fn sign(self) -> f64 {
        match self {
            Self::Port => -1.0,
            Self::Starboard => 1.0,
        }
    }
}

/// A rod holder: 1 at the stern's corner, counted forwards.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Holder {
    /// Its side.
    pub side: Side,
    /// Its number.
    pub number: u8,
}

/// Holders on a side.
const A_SIDE: u8 = 8;
/// Half the beam of the boat, height of its gunwale, distance of two holders and reach of a rigger's boom:
/// a boat of some 18 ft; from memory.
const HALF_BEAM: f64 = 1.05;
const GUNWALE: f64 = 0.75;
const APART: f64 = 0.6;
const BOOM: f64 = 0.6;

impl Holder {
    /// Every holder, from the port stern round.
    pub fn all() -> impl Iterator<Item = Self> {
        Side::ALL
            .iter()
            .flat_map(|&side| (1..=A_SIDE).map(move |number| Self { side, number }))
    }

    /// The holder of a key, `P1` to `S8`.
    pub fn from_key(key: &str) -> Option<Self> {
        Self::all().find(|holder| holder.to_string() == key)
    }

    /// Where a rod of a length has its tip when it stands here.
    pub fn tip(self, stance: Stance, length: Metres) -> Tip {
        let (out, up) = stance.angles();
        let level = length.0 * up.0.cos();
        Tip {
            aft: Metres(level * out.0.cos() - APART * f64::from(self.number - 1)),
            starboard: Metres(self.side.sign() * (HALF_BEAM + level * out.0.sin())),
            height: Metres(GUNWALE + length.0 * up.0.sin()),
        }
    }

    /// Where the cable of this side's downrigger enters the water.
    pub(crate) fn boom(self) -> [f64; 2] {
        [0.0, self.side.sign() * (HALF_BEAM + BOOM)]
    }
}

impl fmt::Display for Holder {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let side = match self.side {
            Side::Port => 'P',
            Side::Starboard => 'S',
        };
        write!(f, "{side}{}", self.number)
    }
}

/// How a rod points out of its holder.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Stance {
    /// Backwards, over the corner.
    Corner,
    /// Straight out and low, beside the boat.
    Inside,
    /// Out to the side and up: the long rod outside of the others.
    Long,
}

keyed!(Stance { Corner "corner" "corner rod", Inside "inside" "inside rod", Long "long" "long rod" });

impl Stance {
    /// Angle away from straight aft, and above the horizontal; from memory.
    fn angles(self) -> (Radians, Radians) {
        let (out, up) = match self {
            Self::Corner => (12.0, 25.0),
            Self::Inside => (80.0, 8.0),
            Self::Long => (75.0, 15.0),
        };
        (Radians::from_degrees(out), Radians::from_degrees(up))
    }
}

/// Where a rod tip is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Tip {
    /// Aft of the transom.
    pub aft: Metres,
    /// To starboard of the keel.
    pub starboard: Metres,
    /// Above the water.
    pub height: Metres,
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::FOOT;

    #[test]
    fn every_holder_is_found_by_its_name() {
        assert_eq!(Holder::all().count(), 16);
        for holder in Holder::all() {
            assert_eq!(Holder::from_key(&holder.to_string()), Some(holder));
        }
        assert_eq!(Holder::from_key("P9"), None);
    }

    #[test]
    fn a_long_rod_reaches_out_farther_than_an_inside_rod() {
        let holder = Holder::from_key("S2").unwrap();
        let tip = |stance, feet: f64| holder.tip(stance, feet * FOOT);
        let long = tip(Stance::Long, 10.0);
        let inside = tip(Stance::Inside, 6.0);
        assert!(long.starboard > inside.starboard && long.height > inside.height);
        let port = Holder::from_key("P2")
            .unwrap()
            .tip(Stance::Long, 10.0 * FOOT);
        assert_eq!(port.starboard, -long.starboard);
    }
}
