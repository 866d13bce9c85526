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
/// Spoon blades of harnesses; from memory.
const SPOON: &[(f64, f64, f64)] = &[(1.0, 38.0, 15.0), (2.0, 48.0, 19.0), (3.0, 57.0, 22.0)];
/// Spans of wings in inches.
const SOFT_WING: &[f64] = &[0.8, 1.0, 1.1, 1.5, 1.9, 2.8];
const HARD_WING: &[f64] = &[1.1, 1.5];

/// A number with length and width in mm.
type Row = (f64, f64, f64);

/// The whole sizes of a stamped family.
fn stamped(family: Family) -> &'static [Row] {
    match family {
        Family::Colorado => COLORADO,
        Family::Indiana => INDIANA,
        Family::French => FRENCH,
        Family::HatchetCut => HATCHET_CUT,
        Family::Willow => WILLOW,
        Family::MagnumWillow => MAGNUM_WILLOW,
        Family::ThroughWireOval => THROUGH_WIRE_OVAL,
        Family::Spoon => SPOON,
        Family::SoftWing | Family::HardWing => &[],
    }
}

/// Spans of a wing, in.
fn spans(family: Family) -> &'static [f64] {
    match family {
        Family::SoftWing => SOFT_WING,
        Family::HardWing => HARD_WING,
        _ => &[],
    }
}

/// Half sizes lie midway between whole ones.
fn halves(family: Family) -> impl Iterator<Item = Row> {
    stamped(family)
        .windows(2)
        .filter(|pair| same(pair[1].0 - pair[0].0, 1.0))
        .map(|pair| {
            let (a, b) = (pair[0], pair[1]);
            (
                f64::midpoint(a.0, b.0),
                f64::midpoint(a.1, b.1),
                f64::midpoint(a.2, b.2),
            )
        })
}

/// Length and width of a trade size.
pub(super) fn length_and_width(family: Family, number: f64) -> Result<(Metres, Metres), Error> {
    if spans(family).iter().any(|span| same(*span, number)) {
        return Ok((number * INCH, number * WING_WIDTH * INCH));
    }
    stamped(family)
        .iter()
        .copied()
        .chain(halves(family))
        .find(|(listed, ..)| same(*listed, number))
        .map(|(_, length, width)| (length * MILLIMETRE, width * MILLIMETRE))
        .ok_or_else(|| no_such_size(family, number, &family.numbers()))
}

impl Family {
    /// The trade's numbers it comes in, the smallest first; for wings spans in inches.
    pub fn numbers(self) -> Vec<f64> {
        let rows = stamped(self).iter().copied().chain(halves(self));
        let mut numbers: Vec<f64> = rows
            .map(|(number, ..)| number)
            .chain(spans(self).iter().copied())
            .collect();
        numbers.sort_by(f64::total_cmp);
        numbers
    }

    /// The numbers every box has: without the half sizes.
    pub fn common_numbers(self) -> Vec<f64> {
        let stamped = stamped(self).iter().map(|(number, ..)| *number);
        stamped.chain(spans(self).iter().copied()).collect()
    }

    /// The number whose length is nearest to a measured one; of two as near the smaller.
    pub fn number_near(self, measured: Metres) -> f64 {
        let rows = stamped(self).iter().copied().chain(halves(self));
        let sizes = rows.map(|(number, length, _)| (number, length * MILLIMETRE));
        let sizes = sizes.chain(spans(self).iter().map(|span| (*span, *span * INCH)));
        let off = |length: Metres| (length - measured).0.abs();
        sizes
            .reduce(|near, next| {
                let (a, b) = (off(near.1), off(next.1));
                if b < a || (b <= a && next.0 < near.0) {
                    next
                } else {
                    near
                }
            })
            .map_or(0.0, |(number, _)| number)
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
        Family::Spoon => 0.7 * MILLIMETRE,
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
            "hatchet-cut has no size 7; it comes in 3, 3.5, 4, 4.5, 5"
        );
        assert!(length_and_width(Family::SoftWing, f64::NAN).is_err());
    }

    #[test]
    fn a_half_size_lies_midway() {
        let (length, width) = length_and_width(Family::Colorado, 4.5).unwrap();
        // By hand, between 25.5 × 20 and 32 × 25 mm.
        assert!(
            (length / MILLIMETRE - 28.75).abs() < 1e-9 && (width / MILLIMETRE - 22.5).abs() < 1e-9
        );
        // A magnum willow 3.5 is a size of its own.
        let (length, _) = length_and_width(Family::MagnumWillow, 3.5).unwrap();
        assert!((length / MILLIMETRE - 40.0).abs() < 1e-9);
        assert!(Family::SoftWing.numbers().contains(&1.0));
        assert!(!Family::Colorado.common_numbers().contains(&4.5));
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
