use crate::blade::STEEL;
use crate::error::Error;
use crate::keyed::keyed;
use crate::units::{GRAVITY, Kilograms, MILLIMETRE, Metres};
use crate::water::Water;
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

/// Size code, mass in g and gap in mm of an octopus hook; from memory.
const OCTOPUS: &[(i8, f64, f64)] = &[
    (10, 0.09, 4.8),
    (8, 0.13, 5.5),
    (6, 0.18, 6.5),
    (4, 0.26, 7.5),
    (2, 0.38, 9.0),
    (1, 0.48, 10.0),
    (-1, 0.62, 11.0),
    (-2, 0.82, 12.5),
    (-3, 1.05, 14.0),
    (-4, 1.35, 15.5),
    (-5, 1.70, 17.0),
];

/// Centre of mass of a single hook below the line's axis, over its gap (fitted, see the module's head).
const SINGLE_OFFSET: f64 = 0.22;
/// A treble hangs from its eye below the axis of the wire, over its gap (fitted likewise).
const TREBLE_OFFSET: f64 = 0.85;

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

    fn row(self) -> (f64, f64) {
        let row = OCTOPUS.iter().find(|(size, ..)| *size == self.0);
        let (_, grams, gap) = row.expect("`from_code` takes sizes of the table only");
        (*grams, *gap)
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

    /// Weight under water, N.
    pub(super) fn submerged_weight(&self, water: &Water) -> f64 {
        self.mass().0 * GRAVITY * water.submerged_share(STEEL)
    }

    /// Distance of its centre of mass below the axis.
    pub(super) fn offset(&self) -> Metres {
        let share = if self.style == HookStyle::Treble {
            TREBLE_OFFSET
        } else {
            SINGLE_OFFSET
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
