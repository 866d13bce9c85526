use crate::error::Error;
use crate::keyed::keyed;
use crate::towline::{PointLoad, Segment};
use crate::units::{GRAVITY, KilogramsPerCubicMetre, MILLIMETRE, Metres, NewtonsPerMetre};
use crate::water::Water;
use std::f64::consts::PI;

/// What a line is made of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum LineMaterial {
    /// Nylon monofilament.
    Nylon,
    /// Fluorocarbon monofilament.
    Fluorocarbon,
    /// Braided polyethylene; floats.
    Braid,
    /// A lead core in a woven sheath.
    LeadCore,
    /// Copper wire.
    Copper,
    /// Stranded steel wire.
    SteelWire,
}

/// Breaking strength in pounds and diameter in mm; from memory.
const NYLON: &[(u16, f64)] = &[
    (4, 0.20),
    (6, 0.23),
    (8, 0.26),
    (10, 0.28),
    (12, 0.33),
    (15, 0.36),
    (17, 0.39),
    (20, 0.43),
    (25, 0.48),
    (30, 0.52),
    (40, 0.60),
    (50, 0.70),
];
const BRAID: &[(u16, f64)] = &[
    (10, 0.15),
    (15, 0.19),
    (20, 0.23),
    (30, 0.28),
    (50, 0.36),
    (65, 0.41),
];
const LEAD_CORE: &[(u16, f64)] = &[(18, 0.90)];
const COPPER: &[(u16, f64)] = &[(32, 0.90), (45, 1.10)];
const STEEL_WIRE: &[(u16, f64)] = &[(20, 0.30), (30, 0.38), (40, 0.45)];

/// Weight of 18 lb lead-core under water, N/m: a composite, so it is given instead of a density.
const LEAD_CORE_WEIGHT: f64 = 0.0205;

keyed!(LineMaterial {
    Nylon "nylon" "nylon",
    Fluorocarbon "fluorocarbon" "fluorocarbon",
    Braid "braid" "braid",
    LeadCore "lead_core" "lead-core",
    Copper "copper" "copper",
    SteelWire "steel_wire" "steel wire",
});

impl LineMaterial {
    /// Strengths it comes in, lb, with their diameters in mm.
    fn table(self) -> &'static [(u16, f64)] {
        match self {
            Self::Nylon | Self::Fluorocarbon => NYLON,
            Self::Braid => BRAID,
            Self::LeadCore => LEAD_CORE,
            Self::Copper => COPPER,
            Self::SteelWire => STEEL_WIRE,
        }
    }

    fn density(self) -> KilogramsPerCubicMetre {
        KilogramsPerCubicMetre(match self {
            Self::Nylon => 1_140.0,
            Self::Fluorocarbon => 1_780.0,
            Self::Braid => 970.0,
            Self::LeadCore => 3_500.0,
            Self::Copper => 8_900.0,
            Self::SteelWire => 7_850.0,
        })
    }
}

/// A line off the spool: material, strength, diameter.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LineStock {
    /// What it is made of.
    pub material: LineMaterial,
    /// Breaking strength, in the pounds that are printed on the spool.
    pub test_lb: u16,
    /// Diameter, from the table or the angler's caliper.
    pub diameter: Metres,
}

impl LineStock {
    /// A line of a trade strength with its common diameter.
    ///
    /// # Errors
    /// [`Error::Contradiction`] when it is not sold in that strength; the message lists those it is.
    pub fn of_test(material: LineMaterial, test_lb: u16) -> Result<Self, Error> {
        let table = material.table();
        let Some(&(_, millimetres)) = table.iter().find(|(test, _)| *test == test_lb) else {
            let tests: Vec<String> = table.iter().map(|(test, _)| test.to_string()).collect();
            return Err(Error::contradiction(
                "test_lb",
                format!(
                    "{} of {test_lb} lb is not in the catalogue; it has {} lb",
                    material.name(),
                    tests.join(", ")
                ),
            ));
        };
        Ok(Self {
            material,
            test_lb,
            diameter: millimetres * MILLIMETRE,
        })
    }

    /// Every line of the catalogue, by material and strength.
    pub fn catalogue() -> impl Iterator<Item = Self> {
        LineMaterial::ALL.iter().flat_map(|&material| {
            material
                .table()
                .iter()
                .map(move |&(test_lb, millimetres)| Self {
                    material,
                    test_lb,
                    diameter: millimetres * MILLIMETRE,
                })
        })
    }

    /// Weight under water per metre; negative for line that floats.
    pub fn submerged_weight(&self, water: &Water) -> NewtonsPerMetre {
        if self.material == LineMaterial::LeadCore {
            return NewtonsPerMetre(LEAD_CORE_WEIGHT);
        }
        let section = PI / 4.0 * self.diameter.0.powi(2);
        NewtonsPerMetre((self.material.density() - water.density()).0 * GRAVITY * section)
    }

    /// A piece of it as the towline sees it, with what hangs at its upper end.
    pub fn segment(&self, length: Metres, node: Option<PointLoad>, water: &Water) -> Segment {
        Segment {
            length,
            diameter: self.diameter,
            submerged_weight: self.submerged_weight(water),
            node,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::Celsius;
    use approx::assert_relative_eq;

    #[test]
    fn nylon_sinks_and_braid_floats() {
        let lake = Water::fresh(Celsius(24.0)).unwrap();
        let nylon = LineStock::of_test(LineMaterial::Nylon, 10).unwrap();
        let braid = LineStock::of_test(LineMaterial::Braid, 20).unwrap();
        // By hand: (1140 − 997.3) · 9.80665 · π/4 · 0.00028².
        assert_relative_eq!(
            nylon.submerged_weight(&lake).0,
            8.617e-5,
            max_relative = 1e-3
        );
        assert!(braid.submerged_weight(&lake).0 < 0.0);
    }

    #[test]
    fn a_strength_nobody_sells_is_answered_with_the_list() {
        let refusal = LineStock::of_test(LineMaterial::LeadCore, 20).unwrap_err();
        assert_eq!(
            refusal.to_string(),
            "lead-core of 20 lb is not in the catalogue; it has 18 lb"
        );
    }

    #[test]
    fn the_catalogue_can_be_asked_for_each_of_its_lines() {
        assert!(LineStock::catalogue().count() > 30);
        for stock in LineStock::catalogue() {
            assert_eq!(
                LineStock::of_test(stock.material, stock.test_lb).unwrap(),
                stock
            );
        }
    }
}
