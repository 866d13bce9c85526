//! The table of brass blades that the model was set by: starts, turns and drag areas, within 2 %.
//! Its figures come from the design note of the model; they guard the catalogue and the laws together.

use approx::assert_relative_eq;
use motilis_core::blade::{Blade, Family};
use motilis_core::blade::{Shaft, WET_METAL_ON_PLASTIC};
use motilis_core::units::{Celsius, MILE_PER_HOUR, MILLIMETRE};
use motilis_core::water::Water;
use rstest::rstest;

fn lake() -> Water {
    Water::fresh(Celsius(15.0)).unwrap()
}

#[rstest]
#[case(Family::Colorado, 3.0, 0.77)]
#[case(Family::Colorado, 5.0, 0.84)]
#[case(Family::Colorado, 7.0, 0.91)]
#[case(Family::Indiana, 4.0, 0.88)]
#[case(Family::French, 3.0, 0.83)]
#[case(Family::Willow, 4.0, 1.22)]
#[case(Family::SoftWing, 1.5, 0.21)]
#[case(Family::HardWing, 1.1, 0.24)]
fn a_blade_starts_at(#[case] family: Family, #[case] number: f64, #[case] mph: f64) {
    let start = Blade::of_size(family, number).unwrap().start_speed(&lake());
    // Wings are given to two digits: 0.21 stands for anything from 0.205 to 0.215.
    assert_relative_eq!(
        start / MILE_PER_HOUR,
        mph,
        max_relative = 0.02,
        epsilon = 0.005
    );
}

#[rstest]
#[case(Family::Colorado, 290.0)]
#[case(Family::Willow, 347.0)]
fn a_number_4_turns_at_2_mph(#[case] family: Family, #[case] per_minute: f64) {
    let blade = Blade::of_size(family, 4.0).unwrap();
    let shaft = Shaft::new(blade, 1, None, WET_METAL_ON_PLASTIC, 0.7 * MILLIMETRE).unwrap();
    let turns = shaft.at(2.0 * MILE_PER_HOUR, &lake()).unwrap().turns;
    assert_relative_eq!(turns.0 * 60.0, per_minute, max_relative = 0.02);
}

#[rstest]
#[case(Family::Colorado, 3.9)]
#[case(Family::Indiana, 3.1)]
#[case(Family::French, 2.9)]
#[case(Family::Willow, 1.8)]
fn a_number_4_drags(#[case] family: Family, #[case] square_centimetres: f64) {
    let area = Blade::of_size(family, 4.0).unwrap().turning_drag_area();
    assert_relative_eq!(area.0 * 1e4, square_centimetres, max_relative = 0.02);
}
