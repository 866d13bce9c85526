use crate::error::Error;
use crate::keyed::keyed;
use crate::units::{Kilograms, MILLIMETRE, Metres};
use std::fmt;

/// The shape of a hook.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum HookStyle {
    /// Short shank, turned-up eye: harnesses.
    Octopus,
    /// Like it, with an offset point.
    Beak,
    /// Long shank, open eye: wire spinners.
    Siwash,
    /// Three bends on one shank.
    Treble,
    /// A bend in the shank that turns the worm.
    BentShank,
}

/// Size of a hook: numbers fall as hooks grow, then 1/0, 2/0 … grow.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct HookSize(i8);

/// A hook of a rig.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Hook {
    /// Its shape.
    pub style: HookStyle,
    /// Its size.
    pub size: HookSize,
}

/// Size code, mass in g, gap in mm and wire in mm of an octopus hook; from memory.
const OCTOPUS: &[(i8, f64, f64, f64)] = &[
    (10, 0.09, 4.8, 0.55),
    (8, 0.13, 5.5, 0.60),
    (6, 0.18, 6.5, 0.70),
    (4, 0.26, 7.5, 0.80),
    (2, 0.38, 9.0, 0.95),
    (1, 0.48, 10.0, 1.00),
    (-1, 0.62, 11.0, 1.10),
    (-2, 0.82, 12.5, 1.25),
    (-3, 1.05, 14.0, 1.40),
    (-4, 1.35, 15.5, 1.55),
    (-5, 1.70, 17.0, 1.70),
];

/// Outer and inner diameter of a hook's eye over its wire; from memory.
const EYE: (f64, f64) = (3.0, 1.3);

/// Centre of mass of a single hook below the line's axis, over its gap (fitted, see the module's head).
const SINGLE_OFFSET: f64 = 0.22;
/// A treble or siwash hangs in the wire's eye below its axis, over its gap (fitted likewise).
const HANGING_OFFSET: f64 = 0.85;

keyed!(HookStyle {
    Octopus "octopus" "octopus",
    Beak "beak" "beak",
    Siwash "siwash" "siwash",
    Treble "treble" "treble",
    BentShank "bent_shank" "bent-shank",
});

impl HookStyle {
    /// Mass over that of an octopus hook of the same size; from memory.
    fn mass_share(self) -> f64 {
        match self {
            Self::Octopus => 1.0,
            Self::Beak => 1.05,
            Self::Siwash => 1.3,
            Self::Treble => 2.6,
            Self::BentShank => 1.15,
        }
    }

    /// Length from the eye to the outside of the bend, over the gap; from memory.
    fn shank_share(self) -> f64 {
        match self {
            Self::Octopus => 2.1,
            Self::Beak => 2.2,
            Self::Siwash => 2.7,
            Self::Treble => 2.0,
            Self::BentShank => 3.0,
        }
    }
}

impl HookSize {
    /// A size of the falling numbers: 10, 8, 6, 4, 2, 1.
    ///
    /// # Errors
    /// [`Error::Contradiction`] for a number hooks are not made in.
    pub fn number(number: i8) -> Result<Self, Error> {
        Self::from_code(number)
    }

    /// A size of the rising aughts: 1 for 1/0 to 5 for 5/0.
    ///
    /// # Errors
    /// [`Error::Contradiction`] for a number hooks are not made in.
    pub fn aught(number: i8) -> Result<Self, Error> {
        Self::from_code(-number)
    }

    /// A size from its code in files: the number, or minus the aught.
    ///
    /// # Errors
    /// [`Error::Contradiction`] for a code that is no size.
    pub fn from_code(code: i8) -> Result<Self, Error> {
        if OCTOPUS.iter().any(|(size, ..)| *size == code) {
            return Ok(Self(code));
        }
        Err(Error::contradiction(
            "hook_size",
            format!(
                "{} is no hook size; they are 10, 8, 6, 4, 2, 1 and 1/0 to 5/0",
                Self(code)
            ),
        ))
    }

    /// The code in files.
    pub fn code(self) -> i8 {
        self.0
    }

    /// Every size, the smallest first.
    pub fn all() -> impl Iterator<Item = Self> {
        OCTOPUS.iter().map(|(code, ..)| Self(*code))
    }

    /// Mass in g, gap and wire in mm of an octopus hook.
    fn row(self) -> (f64, f64, f64) {
        let row = OCTOPUS.iter().find(|(size, ..)| *size == self.0);
        let (_, grams, gap, wire) = row.expect("`from_code` takes sizes of the table only");
        (*grams, *gap, *wire)
    }
}

impl fmt::Display for HookSize {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if self.0 > 0 {
            write!(f, "{}", self.0)
        } else {
            write!(f, "{}/0", -i16::from(self.0))
        }
    }
}

impl Hook {
    /// Its mass.
    pub fn mass(&self) -> Kilograms {
        Kilograms(self.size.row().0 * 1e-3 * self.style.mass_share())
    }

    /// From point to shank.
    pub fn gap(&self) -> Metres {
        self.size.row().1 * MILLIMETRE
    }

    /// From the eye to the outside of the bend.
    pub fn shank(&self) -> Metres {
        self.style.shank_share() * self.gap()
    }

    /// Diameter of its wire.
    pub fn wire(&self) -> Metres {
        self.size.row().2 * MILLIMETRE
    }

    /// Outer diameter of its eye.
    pub fn eye(&self) -> Metres {
        EYE.0 * self.wire()
    }

    /// Inner diameter of its eye.
    pub fn eye_bore(&self) -> Metres {
        EYE.1 * self.wire()
    }

    /// Diameter of the circle its points sweep about the shaft: twice the gap.
    pub fn span(&self) -> Metres {
        2.0 * self.gap()
    }

    /// Distance of its centre of mass below the axis.
    pub(super) fn offset(&self) -> Metres {
        let share = match self.style {
            HookStyle::Treble | HookStyle::Siwash => HANGING_OFFSET,
            HookStyle::Octopus | HookStyle::Beak | HookStyle::BentShank => SINGLE_OFFSET,
        };
        share * self.gap()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn sizes_read_as_the_trade_writes_them() {
        assert_eq!(HookSize::number(2).unwrap().to_string(), "2");
        assert_eq!(HookSize::aught(3).unwrap().to_string(), "3/0");
        assert_eq!(
            HookSize::number(3).unwrap_err().to_string(),
            "3 is no hook size; they are 10, 8, 6, 4, 2, 1 and 1/0 to 5/0"
        );
        assert!(HookSize::from_code(i8::MIN).is_err());
    }

    #[test]
    fn hooks_grow_heavier_down_the_table() {
        let mass = |code| {
            Hook {
                style: HookStyle::Octopus,
                size: HookSize::from_code(code).unwrap(),
            }
            .mass()
        };
        for pair in OCTOPUS.windows(2) {
            assert!(mass(pair[0].0) < mass(pair[1].0));
        }
    }
}
