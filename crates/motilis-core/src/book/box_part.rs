use super::{RigId, plain_text};
use crate::error::{Error, Range};
use crate::fields;
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
    /// What the angler calls its size, where it is another name than the trade's.
    pub size_name: String,
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
            size_name: String::new(),
        }
    }

    /// Whether it runs short.
    pub fn is_low(&self) -> bool {
        self.low > 0.0 && self.left <= self.low
    }

    /// Whether it is the same thing under the same name, whatever is left of it.
    pub fn is_alike(&self, other: &Self) -> bool {
        self.part == other.part && self.size_name == other.size_name
    }

    /// It with more of the same put beside it; what the newcomer says of price, place and mark counts.
    #[must_use]
    pub fn with(&self, more: &Self) -> Self {
        let place = if more.place.is_empty() { self } else { more };
        Self {
            left: self.left + more.left,
            low: if more.low > 0.0 { more.low } else { self.low },
            unit_cost: more.unit_cost.or(self.unit_cost),
            place: place.place.clone(),
            ..self.clone()
        }
    }

    /// Whether every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        fields::LEFT.check(self.left)?;
        fields::LOW.check(self.low)?;
        if let Some(cost) = self.unit_cost {
            fields::COST.check(cost)?;
        }
        if let Some(back) = self.part.back {
            back.check()?;
        }
        let whole = self.part.what().is_by_length() || self.left.fract() == 0.0;
        if !whole {
            return Err(Error::contradiction(
                "left_count",
                format!("{} pieces cannot be; count whole ones", self.left),
            ));
        }
        if let Some(blade) = self.part.blade() {
            BLADE_LENGTH.check("length_m", blade.length.0)?;
            BLADE_WIDTH.check("width_m", blade.width.0)?;
            BLADE_THICKNESS.check("thickness_m", blade.thickness.0)?;
        }
        plain_text("size_name", &self.size_name, 24)?;
        plain_text("place", &self.place, 60)
    }
}

/// Blades that the model of [`crate::blade`] can bear at every speed a boat trolls at.
const BLADE_LENGTH: Range = Range::closed(5e-3, 0.3, "m", "between 5 and 300 mm, as blades are");
const BLADE_WIDTH: Range = Range::closed(2e-3, 0.2, "m", "between 2 and 200 mm, as blades are");
const BLADE_THICKNESS: Range =
    Range::closed(5e-5, 5e-3, "m", "between 0.05 and 5 mm, as blades are");

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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::blade::Family;
    use crate::rig::{BARE, Measured, What};
    use crate::units::MILLIMETRE;
    use rstest::rstest;

    #[rstest]
    #[case(0.3, Some("length_m"))]
    #[case(25.5, None)]
    #[case(900.0, Some("length_m"))]
    fn only_a_blade_that_the_model_bears_goes_into_the_box(
        #[case] mm: f64,
        #[case] refused: Option<&str>,
    ) {
        let measured = Measured {
            length: Some(mm * MILLIMETRE),
            ..Measured::default()
        };
        let part = Part::new(What::Blade(Family::Colorado), 4.0, BARE).unwrap();
        let found = part
            .measured(measured)
            .and_then(|part| BoxPart::none_left(part).check())
            .err();
        assert_eq!(found.as_ref().map(Error::quantity), refused);
    }
}
