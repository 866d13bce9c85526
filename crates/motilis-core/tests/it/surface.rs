//! Nothing of a line lies above the water.

use crate::rigs::lake;
use approx::assert_relative_eq;
use motilis_core::towline::{LONGEST, LineDrag, PointLoad, Reach, Segment, Shape, Towline};
use motilis_core::units::{Metres, MetresPerSecond, Newtons, NewtonsPerMetre, SquareMetres};
use proptest::prelude::*;
use proptest::test_runner::{RngAlgorithm, TestRng, TestRunner};
use std::cell::Cell;

fn load(weight: f64, area: f64, down: f64) -> PointLoad {
    PointLoad {
        submerged_weight: Newtons(weight),
        drag_area: SquareMetres(area),
        down_area: SquareMetres(down),
    }
}

fn piece(length: f64, weight: f64, node: Option<PointLoad>) -> Segment {
    Segment {
        length: Metres(length),
        diameter: Metres(3e-4),
        submerged_weight: NewtonsPerMetre(weight),
        node,
    }
}

fn tow(speed: f64, tail: PointLoad, segments: Vec<Segment>) -> Towline {
    let drag = LineDrag::default();
    Towline::new(MetresPerSecond(speed), lake(), drag, tail, segments).unwrap()
}

fn highest(shape: &Shape) -> f64 {
    shape
        .nodes
        .iter()
        .chain(&shape.profile)
        .chain([&shape.tail])
        .map(|place| place.depth.0)
        .fold(f64::INFINITY, f64::min)
}

fn length_along(shape: &Shape) -> f64 {
    shape
        .profile
        .windows(2)
        .map(|pair| {
            (pair[0].run - pair[1].run)
                .0
                .hypot((pair[0].depth - pair[1].depth).0)
        })
        .sum()
}

const NYLON: f64 = 9e-5;
const BRAID: f64 = -2e-5;

/// A float diver with a foam-floated harness, hardly moving: both lie on the water.
#[test]
fn a_float_diver_that_is_stopped_lies_on_the_water() {
    let harness = load(-0.01, 5.5e-4, 0.0);
    let diver = load(-0.15, 3.0e-3, 3.6e-3);
    let line = |speed| {
        let leader = piece(1.8, NYLON, Some(diver));
        tow(speed, harness, vec![leader, piece(25.0, NYLON, None)])
    };
    let slow = line(0.1).solve().unwrap();
    assert_eq!((slow.tail.depth.0, slow.nodes[0].depth.0), (0.0, 0.0));
    // It lies as far behind as its line is long, but for the little that nylon sags.
    assert!((26.7..=26.8).contains(&slow.tail.run.0), "{:?}", slow.tail);
    // Towed, it dives.
    assert!(line(0.8).solve().unwrap().nodes[0].depth.0 > 3.0);
}

#[test]
fn a_floating_tail_lies_on_the_water_and_its_line_hangs() {
    let float = load(-0.05, 5e-4, 0.0);
    let shape = tow(0.3, float, vec![piece(20.0, NYLON, None)])
        .solve_with_profile()
        .unwrap();
    assert!(shape.tail.depth.0.abs() < 1e-12);
    assert!(shape.profile.iter().any(|place| place.depth.0 > 0.01));
    // By hand, a level pull H = q CdA = 0.022 N bears w L² / 8 H = 0.2 m of sag, less what drag lifts.
    let sag = shape
        .profile
        .iter()
        .map(|place| place.depth.0)
        .fold(0.0, f64::max);
    assert!((0.02..0.2).contains(&sag), "{sag}");
    // A braid lies flat.
    let flat = tow(0.3, float, vec![piece(20.0, BRAID, None)])
        .solve_with_profile()
        .unwrap();
    assert_relative_eq!(flat.tail.run.0, 20.0, max_relative = 1e-9);
    assert!(flat.profile.iter().all(|place| place.depth.0.abs() < 1e-9));
}

#[test]
fn a_leader_under_a_float_hangs() {
    let rig = load(0.05, 2e-4, 0.0);
    let float = load(-0.3, 1e-3, 0.0);
    let segments = vec![piece(2.0, NYLON, Some(float)), piece(20.0, NYLON, None)];
    let shape = tow(0.2, rig, segments).solve().unwrap();
    assert!(shape.nodes[0].depth.0.abs() < 1e-12);
    // The same leader held at the surface by a board.
    let alone = tow(0.2, rig, vec![piece(2.0, NYLON, None)])
        .solve()
        .unwrap();
    assert_relative_eq!(shape.tail.depth.0, alone.tail.depth.0, max_relative = 1e-4);
}

#[test]
fn a_float_above_a_weight_stays_under_where_the_weight_is_heavy() {
    let foam = load(-0.02, 5e-4, 0.0);
    let line = |ounce: f64| {
        let leader = piece(1.5, NYLON, Some(load(ounce, 7e-4, 0.0)));
        tow(0.5, foam, vec![leader, piece(20.0, NYLON, None)])
            .solve()
            .unwrap()
    };
    let heavy = line(0.5);
    assert!(heavy.tail.depth < heavy.nodes[0].depth && heavy.tail.depth.0 > 1.0);
}

/// From a rod tip, what lies past the float is lifted off the water: the float is the triangle's far corner.
#[test]
fn a_float_from_a_rod_tip_hangs_on_line_in_the_air() {
    let float = load(-0.05, 5e-4, 0.0);
    let line = tow(0.3, float, vec![piece(1.0, NYLON, None)]);
    let shape = line.solve_setback(Metres(13.0), Metres(5.0)).unwrap();
    assert_eq!(
        (shape.tail.depth.0, shape.tail.run.0, shape.top_length.0),
        (0.0, 0.0, 0.0)
    );
    assert_relative_eq!(shape.top.angle.0.sin(), 5.0 / 13.0, max_relative = 1e-9);
    assert!(line.solve_setback(Metres(4.0), Metres(5.0)).is_err());
}

#[test]
fn a_depth_under_a_float_is_found() {
    let foam = load(-0.02, 5e-4, 0.0);
    let bouncer = load(0.25, 7e-4, 0.0);
    let line = tow(
        0.5,
        foam,
        vec![piece(1.5, NYLON, Some(bouncer)), piece(1.0, NYLON, None)],
    );
    let Reach::At(shape) = line.reach(Metres(6.0), LONGEST).unwrap() else {
        panic!("6 m are in reach")
    };
    assert_relative_eq!(shape.tail.depth.0, 6.0, max_relative = 1e-4);
    let float = tow(0.5, foam, vec![piece(1.0, NYLON, None)]);
    assert!(matches!(
        float.reach(Metres(2.0), Metres(100.0)).unwrap(),
        Reach::TooDeep(_)
    ));
}

prop_compose! {
    fn any_load()(weight in -0.4..0.8_f64, area in 0.0..4e-3_f64, down in prop_oneof![Just(0.0), 0.0..5e-3_f64])
        -> PointLoad {
        load(weight, area, down)
    }
}

prop_compose! {
    fn any_piece()(
        length in 0.0..40.0_f64,
        weight in prop_oneof![-1e-3..2e-3_f64, Just(BRAID), Just(0.0), Just(0.0205)],
        node in proptest::option::of(any_load()),
    ) -> Segment {
        piece(length, weight, node)
    }
}

/// Ten thousand lines of up to four pieces, any of which may float, on a board and from a rod tip.
#[test]
fn nothing_lies_above_the_water() {
    let config = ProptestConfig {
        failure_persistence: None,
        ..ProptestConfig::with_cases(10_000)
    };
    let pieces = prop::collection::vec(any_piece(), 1..5);
    let lines = (0.05..2.0_f64, any_load(), pieces, 0.0..3.0_f64);
    let afloat = Cell::new(0);
    let seed = TestRng::deterministic_rng(RngAlgorithm::ChaCha);
    TestRunner::new_with_rng(config, seed)
        .run(&lines, |(speed, tail, segments, tip)| {
            let length: f64 = segments.iter().map(|piece| piece.length.0).sum();
            let line = tow(speed, tail, segments);
            let shape = line.solve_with_profile().unwrap();
            prop_assert!(highest(&shape) > -1e-6, "{}", highest(&shape));
            let along = length_along(&shape);
            prop_assert!(
                (along - length).abs() < 0.02 * length + 1e-3,
                "{along} of {length}"
            );
            afloat.set(afloat.get() + i32::from(shape.tail_floats()));
            if let Ok(shape) = line.solve_setback(Metres(30.0), Metres(tip)) {
                prop_assert!(highest(&shape) > -1e-6, "from a tip: {}", highest(&shape));
            }
            Ok(())
        })
        .unwrap();
    assert!(afloat.get() > 1_000, "{}", afloat.get());
}
