use super::Family;
use crate::error::Error;
use crate::units::{INCH, KilogramsPerCubicMetre, MILLIMETRE, Metres};

/// Density of blade brass.
pub const BRASS: KilogramsPerCubicMetre = KilogramsPerCubicMetre(8_500.0);
/// Density of steel.
pub const STEEL: KilogramsPerCubicMetre = KilogramsPerCubicMetre(7_850.0);
/// Density of polyester film.
pub const FILM: KilogramsPerCubicMetre = KilogramsPerCubicMetre(1_390.0);
/// Density of hard plastic.
pub const HARD_PLASTIC: KilogramsPerCubicMetre = KilogramsPerCubicMetre(1_200.0);

/// Width of a wing over its span.
const WING_WIDTH: f64 = 0.45;

/// Number, length and width in mm: generic trade sizes, from memory.
const COLORADO: &[(f64, f64, f64)] = &[
    (0.0, 14.0, 11.0),
    (1.0, 16.0, 12.5),
    (2.0, 19.0, 15.0),
    (3.0, 22.0, 17.0),
    (4.0, 25.5, 20.0),
    (5.0, 32.0, 25.0),
    (6.0, 38.0, 30.0),
    (7.0, 45.0, 35.0),
    (8.0, 55.0, 43.0),
];
const INDIANA: &[(f64, f64, f64)] = &[
    (1.0, 18.0, 11.0),
    (2.0, 21.0, 13.0),
    (3.0, 25.0, 15.0),
    (4.0, 30.0, 18.0),
    (5.0, 36.0, 22.0),
    (6.0, 42.0, 25.0),
];
const FRENCH: &[(f64, f64, f64)] = &[
    (0.0, 14.0, 7.5),
    (1.0, 17.0, 9.0),
    (2.0, 21.0, 11.0),
    (3.0, 25.0, 13.0),
    (4.0, 30.0, 15.5),
    (5.0, 36.0, 19.0),
    (6.0, 43.0, 22.0),
];
const WILLOW: &[(f64, f64, f64)] = &[
    (2.0, 25.0, 9.0),
    (3.0, 34.0, 12.0),
    (4.0, 43.0, 15.5),
    (5.0, 53.0, 19.0),
    (6.0, 63.0, 23.0),
    (7.0, 76.0, 27.0),
];
const MAGNUM_WILLOW: &[(f64, f64, f64)] = &[
    (3.5, 40.0, 17.0),
    (4.0, 46.0, 19.0),
    (5.0, 54.0, 23.0),
    (6.0, 62.0, 26.0),
    (7.0, 72.0, 30.0),
];
const HATCHET_CUT: &[(f64, f64, f64)] = &[(3.0, 28.0, 17.0), (4.0, 32.0, 20.0), (5.0, 38.0, 24.0)];
/// The lengths of French blades at half their length in width.
const THROUGH_WIRE_OVAL: &[(f64, f64, f64)] = &[
    (0.0, 14.0, 7.0),
    (1.0, 17.0, 8.5),
    (2.0, 21.0, 10.5),
    (3.0, 25.0, 12.5),
    (4.0, 30.0, 15.0),
    (5.0, 36.0, 18.0),
    (6.0, 43.0, 21.5),
];
/// Spans of wings in inches.
const SOFT_WING: &[f64] = &[0.8, 1.1, 1.5, 1.9, 2.8];
const HARD_WING: &[f64] = &[1.1, 1.5];

/// Number, length and width of every size a family comes in.
fn table(family: Family) -> Vec<(f64, Metres, Metres)> {
    let stamped = match family {
        Family::Colorado => COLORADO,
        Family::Indiana => INDIANA,
        Family::French => FRENCH,
        Family::HatchetCut => HATCHET_CUT,
        Family::Willow => WILLOW,
        Family::MagnumWillow => MAGNUM_WILLOW,
        Family::ThroughWireOval => THROUGH_WIRE_OVAL,
        Family::SoftWing => return wings(SOFT_WING),
        Family::HardWing => return wings(HARD_WING),
    };
    stamped
        .iter()
        .map(|(number, length, width)| (*number, *length * MILLIMETRE, *width * MILLIMETRE))
        .collect()
}

fn wings(spans: &[f64]) -> Vec<(f64, Metres, Metres)> {
    spans
        .iter()
        .map(|span| (*span, *span * INCH, *span * WING_WIDTH * INCH))
        .collect()
}

/// Length and width of a trade size.
pub(super) fn length_and_width(family: Family, number: f64) -> Result<(Metres, Metres), Error> {
    table(family)
        .into_iter()
        .find(|(listed, ..)| same(*listed, number))
        .map(|(_, length, width)| (length, width))
        .ok_or_else(|| no_such_size(family, number, &family.numbers()))
}

impl Family {
    /// The trade's numbers it comes in, the smallest first; for wings spans in inches.
    pub fn numbers(self) -> Vec<f64> {
        table(self).into_iter().map(|(number, ..)| number).collect()
    }

    /// The number whose length is nearest to a measured one.
    pub fn number_near(self, measured: Metres) -> f64 {
        let off = |length: Metres| (length - measured).0.abs();
        table(self)
            .into_iter()
            .min_by(|(_, a, _), (_, b, _)| off(*a).total_cmp(&off(*b)))
            .map_or(0.0, |(number, ..)| number)
    }
}

fn same(listed: f64, number: f64) -> bool {
    (listed - number).abs() < 1e-6
}

fn no_such_size(family: Family, number: f64, listed: &[f64]) -> Error {
    let listed: Vec<String> = listed.iter().map(f64::to_string).collect();
    Error::contradiction(
        "number",
        format!(
            "{} has no size {number}; it comes in {}",
            family.name(),
            listed.join(", ")
        ),
    )
}

/// Common thickness of the sheet a family is made from; from memory.
pub(super) fn gauge(family: Family, length: Metres) -> Metres {
    match family {
        Family::SoftWing => 0.35 * MILLIMETRE,
        Family::HardWing => 0.9 * MILLIMETRE,
        _ => 0.28 * MILLIMETRE + 0.0075 * length,
    }
}

/// Density of what a family is made of when nothing else is said: brass, film, hard plastic.
pub(super) fn material_density(family: Family) -> KilogramsPerCubicMetre {
    match family {
        Family::SoftWing => FILM,
        Family::HardWing => HARD_PLASTIC,
        _ => BRASS,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_size_that_does_not_exist_is_answered_with_those_that_do() {
        let refusal = length_and_width(Family::HatchetCut, 7.0).unwrap_err();
        assert_eq!(
            refusal.to_string(),
            "hatchet-cut has no size 7; it comes in 3, 4, 5"
        );
        assert!(length_and_width(Family::SoftWing, f64::NAN).is_err());
    }

    #[test]
    fn sizes_grow_with_their_number() {
        for table in [
            COLORADO,
            INDIANA,
            FRENCH,
            WILLOW,
            MAGNUM_WILLOW,
            HATCHET_CUT,
            THROUGH_WIRE_OVAL,
        ] {
            for pair in table.windows(2) {
                assert!(pair[0].0 < pair[1].0 && pair[0].1 < pair[1].1 && pair[0].2 < pair[1].2);
            }
        }
    }
}
