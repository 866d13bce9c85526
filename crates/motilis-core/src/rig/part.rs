use super::{Bait, Colour, Finish, Hook, HookSize, Material, What};
use crate::blade::{Blade, Family};
use crate::error::{Error, Range};
use crate::fields;
use crate::tackle::LineStock;
use crate::units::{Kilograms, MILLIMETRE, Metres};

/// Figures somebody took with a caliper or a scale, in place of the table's.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Measured {
    /// Length: of a blade, a body, a shank; what a bead or clevis takes on the shaft.
    pub length: Option<Metres>,
    /// Width of a blade, gap of a hook.
    pub width: Option<Metres>,
    /// Thickness of sheet, wire of a hook.
    pub thickness: Option<Metres>,
    /// Outer diameter; of a hook or swivel that of its eye; of line and wire its own.
    pub diameter: Option<Metres>,
    /// Diameter of the hole.
    pub bore: Option<Metres>,
    /// Mass of one.
    pub mass: Option<Kilograms>,
}

/// One part: what it is, its size, what it is made of and how it looks.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Part {
    what: What,
    size: f64,
    /// What it is made of.
    pub material: Material,
    /// The face of a blade, or the whole of any other part.
    pub finish: Finish,
    /// The back of a blade where it differs.
    pub back: Option<Finish>,
    measured: Measured,
}

const SIZE: Range = Range::above(0.0, 2_000.0, "", "above 0 and at most 2 000");

impl Part {
    /// A part of a trade size in its usual material.
    ///
    /// # Errors
    /// [`Error::Contradiction`] for a number the trade does not make, [`Error::OutOfRange`] for a size
    /// that nothing has.
    pub fn new(what: What, size: f64, finish: Finish) -> Result<Self, Error> {
        finish.check()?;
        if what.is_numbered()
            && !what
                .sizes()
                .iter()
                .any(|listed| (listed - size).abs() < 1e-6)
        {
            let listed: Vec<String> = what
                .sizes()
                .into_iter()
                .map(|size| what.size_word(size))
                .collect();
            return Err(Error::contradiction(
                "size",
                format!(
                    "{} has no size {}; it comes in {}",
                    what.name(),
                    what.size_word(size),
                    listed.join(", ")
                ),
            ));
        }
        if !what.is_numbered() {
            SIZE.check("size", size)?;
        }
        Ok(Self {
            what,
            size,
            material: what.usual_material(),
            finish,
            back: None,
            measured: Measured::default(),
        })
    }

    /// The same part of another material.
    pub fn of(self, material: Material) -> Self {
        Self { material, ..self }
    }

    /// The same part with another back.
    pub fn backed(self, back: Option<Finish>) -> Self {
        Self { back, ..self }
    }

    /// The same part with figures of the angler's own in place of the table's.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the figure's field; [`Error::Contradiction`] for a hole as wide as
    /// the part.
    pub fn measured(self, measured: Measured) -> Result<Self, Error> {
        let check = |field: fields::Field, value: Option<f64>| {
            value.map_or(Ok(()), |value| field.check(value).map(|_| ()))
        };
        check(fields::PART_LENGTH, measured.length.map(|m| m.0))?;
        check(fields::PART_WIDTH, measured.width.map(|m| m.0))?;
        check(fields::PART_THICKNESS, measured.thickness.map(|m| m.0))?;
        check(fields::PART_DIAMETER, measured.diameter.map(|m| m.0))?;
        check(fields::PART_BORE, measured.bore.map(|m| m.0))?;
        check(fields::PART_MASS, measured.mass.map(|m| m.0))?;
        let part = Self { measured, ..self };
        if let What::Blade(family) = self.what {
            part.as_blade(family)?;
        }
        let holed = matches!(
            self.what,
            What::Bead(_) | What::Body(_) | What::Hook(_) | What::Swivel(_)
        );
        if holed && part.bore() >= part.diameter() {
            return Err(Error::contradiction(
                "bore_m",
                format!(
                    "the hole of {:.2} mm is as wide as the part of {:.2} mm; correct one of the two",
                    part.bore() / MILLIMETRE,
                    part.diameter() / MILLIMETRE
                ),
            ));
        }
        Ok(part)
    }

    /// What it is.
    pub fn what(&self) -> What {
        self.what
    }

    /// Its size in the trade's own count; see [`What`].
    pub fn size(&self) -> f64 {
        self.size
    }

    /// Whether another part is of the same kind and trade size, whatever its finish.
    pub fn is_same_size(&self, other: &Self) -> bool {
        self.what == other.what && (self.size - other.size).abs() < 1e-9
    }

    /// The size as the trade writes it: "4", "3/0", "6 mm", "1/4 in".
    pub fn size_word(&self) -> String {
        self.what.size_word(self.size)
    }

    /// The figures somebody measured.
    pub fn own_figures(&self) -> Measured {
        self.measured
    }

    /// The blade, if it is one.
    pub fn blade(&self) -> Option<Blade> {
        let What::Blade(family) = self.what else {
            return None;
        };
        Some(
            self.as_blade(family)
                .expect("`measured` takes what the blade's ranges hold only"),
        )
    }

    /// The blade of a family with the figures measured in place of the table's.
    fn as_blade(&self, family: Family) -> Result<Blade, Error> {
        let blade = Blade::of_size(family, self.size)?;
        let length = self.measured.length.unwrap_or(blade.length);
        // A measured length of an unmeasured width keeps the family's proportion.
        let width = self
            .measured
            .width
            .unwrap_or(blade.width * (length / blade.length));
        let thickness = self.measured.thickness.unwrap_or(blade.thickness);
        Blade::new(family, length, width, thickness, self.material.density())
    }

    /// The hook, if it is one.
    pub fn hook(&self) -> Option<Hook> {
        let What::Hook(style) = self.what else {
            return None;
        };
        let size =
            HookSize::from_code(self.size as i8).expect("`new` takes sizes of the table only");
        Some(Hook { style, size })
    }

    /// Whether it is a skirt that reaches over the hook.
    pub fn is_skirt(&self) -> bool {
        matches!(self.what, What::Dressing(dressing) if dressing.is_skirt())
    }

    /// The bait, if it is one.
    pub fn bait(&self) -> Option<Bait> {
        match self.what {
            What::Bait(bait) => Some(bait),
            _ => None,
        }
    }

    /// The line, if it is one.
    pub fn line(&self) -> Option<LineStock> {
        let What::Line(material) = self.what else {
            return None;
        };
        let stock = LineStock::of_test(material, self.size as u16)
            .expect("`new` takes strengths of the catalogue only");
        Some(LineStock {
            diameter: self.measured.diameter.unwrap_or(stock.diameter),
            ..stock
        })
    }
}

/// The finish of parts nobody looks at.
pub const BARE: Finish = Finish {
    colour: Colour::Nickel,
    hammered: false,
    over: None,
};

#[cfg(test)]
mod tests {
    use super::*;
    use crate::rig::{BeadStyle, BodyShape, Dressing, HookStyle};
    use crate::units::Celsius;
    use crate::water::Water;
    use approx::assert_relative_eq;
    use rstest::rstest;

    fn part(what: What, size: f64) -> Part {
        Part::new(what, size, BARE).unwrap()
    }

    #[test]
    fn every_kind_of_part_leads_back_from_its_keys_and_has_a_size() {
        let mut count = 0;
        for what in What::all() {
            let (group, style) = what.keys();
            assert_eq!(What::from_keys(group, style), Some(what));
            for size in what.sizes() {
                let part = part(what, size);
                assert!(
                    part.mass().0 >= 0.0 && part.length().0 >= 0.0,
                    "{what:?} {size}"
                );
                count += 1;
            }
        }
        assert!(count > 150, "{count}");
        assert_eq!(What::from_keys("blade", "stirrup"), None);
    }

    #[test]
    fn foam_carries_and_glass_sinks() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let foam = part(What::Dressing(Dressing::FoamFloat), 14.0);
        let glass = part(What::Bead(BeadStyle::Faceted), 6.0);
        assert!(foam.submerged_weight(&lake) < 0.0);
        assert!(glass.submerged_weight(&lake) > 0.0);
    }

    #[test]
    fn a_brass_torpedo_of_five_grams_is_as_large_as_its_metal() {
        // By hand: 5 g / 8.5 g/cm³ = 588.2 mm³ = 0.60 · π/4 · 3.2 d³, so d³ = 390.1 mm³, d = 7.31 mm.
        let body = part(What::Body(BodyShape::Torpedo), 5.0);
        assert_relative_eq!(body.diameter().0, 7.307e-3, max_relative = 1e-3);
        assert_relative_eq!(body.length().0, 3.2 * 7.307e-3, max_relative = 1e-3);
    }

    #[test]
    fn a_caliper_overrides_the_table() {
        let blade = part(What::Blade(Family::Colorado), 4.0);
        let own = blade
            .measured(Measured {
                length: Some(Metres(26.0e-3)),
                thickness: Some(Metres(0.5e-3)),
                ..Measured::default()
            })
            .unwrap();
        assert_eq!(own.length(), Metres(26.0e-3));
        // 20 mm on 25.5 mm in the table.
        assert_relative_eq!(own.width().0, 26.0e-3 * 20.0 / 25.5, max_relative = 1e-12);
        assert_eq!(own.blade().unwrap().thickness, Metres(0.5e-3));
    }

    #[rstest]
    #[case(
        What::Blade(Family::Colorado),
        9.0,
        "Colorado has no size 9; it comes in 0, 0.5, 1"
    )]
    #[case(
        What::Hook(HookStyle::Siwash),
        3.0,
        "siwash has no size 3; it comes in 10, 8"
    )]
    #[case(What::Bead(BeadStyle::Round), -4.0, "size -4  is not above 0")]
    #[case(What::Bead(BeadStyle::Round), f64::NAN, "size NaN  is not above 0")]
    fn a_size_nobody_makes_is_refused(#[case] what: What, #[case] size: f64, #[case] says: &str) {
        let refusal = Part::new(what, size, BARE).unwrap_err().to_string();
        assert!(refusal.starts_with(says), "{refusal}");
    }

    #[test]
    fn a_hole_wider_than_its_bead_is_refused() {
        let bead = part(What::Bead(BeadStyle::Round), 4.0);
        let wide = Measured {
            bore: Some(Metres(4.0e-3)),
            ..Measured::default()
        };
        assert_eq!(bead.measured(wide).unwrap_err().quantity(), "bore_m");
        let negative = Measured {
            mass: Some(Kilograms(-1.0)),
            ..Measured::default()
        };
        assert_eq!(bead.measured(negative).unwrap_err().quantity(), "mass_kg");
    }

    #[rstest]
    #[case(What::Hook(HookStyle::Siwash), -3.0, "3/0")]
    #[case(What::Bead(BeadStyle::Round), 6.35, "1/4 in")]
    #[case(What::Bead(BeadStyle::Round), 6.0, "6 mm")]
    #[case(What::Wire, 30.0, "0.030 in")]
    #[case(What::Blade(Family::SoftWing), 1.5, "1.5 in")]
    fn sizes_read_as_the_trade_writes_them(
        #[case] what: What,
        #[case] size: f64,
        #[case] word: &str,
    ) {
        assert_eq!(part(what, size).size_word(), word);
    }
}
