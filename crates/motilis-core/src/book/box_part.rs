use super::limits::{COST, LEFT};
use super::{RigId, plain_text};
use crate::error::Error;
use crate::keyed::keyed;
use crate::rig::Part;

/// A part of the box.
#[derive(Debug, Clone, PartialEq)]
pub struct BoxPart {
    /// The part.
    pub part: Part,
    /// Pieces left, or metres of line and wire.
    pub left: f64,
    /// With so few or fewer it runs short.
    pub low: f64,
    /// What one piece or metre cost, in the boat's own currency.
    pub unit_cost: Option<f64>,
    /// Where it lies.
    pub place: String,
}

impl BoxPart {
    /// A part that is known, and of which none is left.
    pub fn none_left(part: Part) -> Self {
        Self {
            part,
            left: 0.0,
            low: 0.0,
            unit_cost: None,
            place: String::new(),
        }
    }

    /// Whether it runs short.
    pub fn is_low(&self) -> bool {
        self.low > 0.0 && self.left <= self.low
    }

    /// Whether every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        LEFT.check("left_count", self.left)?;
        LEFT.check("low_count", self.low)?;
        if let Some(cost) = self.unit_cost {
            COST.check("unit_cost", cost)?;
        }
        let whole = self.part.what().is_by_length() || self.left.fract() == 0.0;
        if !whole {
            return Err(Error::contradiction(
                "left_count",
                format!("{} pieces cannot be; count whole ones", self.left),
            ));
        }
        plain_text("place", &self.place, 60)
    }
}

/// Part of the box that does not suffice.
#[derive(Debug, Clone, PartialEq)]
pub struct Shortage {
    /// Which.
    pub part: Part,
    /// How many, or metres, are asked for.
    pub needs: f64,
    /// How many are left.
    pub left: f64,
}

/// What a made-up rig is fit for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum MadeState {
    /// Not fished yet.
    New,
    /// Fished.
    Used,
    /// Its leader wants tying anew.
    ReTie,
}

keyed!(MadeState { New "new" "new", Used "used" "used", ReTie "re_tie" "re-tie" });

/// A rig made up and lying in the box.
#[derive(Debug, Clone, PartialEq)]
pub struct MadeRig {
    /// Of which rig.
    pub rig: RigId,
    /// What it is fit for.
    pub state: MadeState,
    /// Where it lies.
    pub place: String,
}
