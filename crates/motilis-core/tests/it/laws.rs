//! What must hold for any line and any blade: monotony, limits, round trips.

use crate::rigs::{blade, bouncer, harness, lake, surroundings};
use motilis_core::blade::{Family, State};
use motilis_core::line::{Line, OutFor};
use motilis_core::towline::{LONGEST, LineDrag, PointLoad, Reach, Segment, Towline};
use motilis_core::units::{
    Celsius, FOOT, KilogramsPerCubicMetre, MILE_PER_HOUR, Metres, MetresPerSecond, Newtons,
    NewtonsPerMetre, SquareMetres, SquareMetresPerSecond,
};
use motilis_core::water::Water;
use proptest::prelude::*;

fn tow(speed: f64, weight: f64, area: f64, length: f64) -> Towline {
    let load = PointLoad {
        submerged_weight: Newtons(weight),
        drag_area: SquareMetres(area),
        down_area: SquareMetres(0.0),
    };
    let segment = Segment {
        length: Metres(length),
        diameter: Metres(3e-4),
        submerged_weight: NewtonsPerMetre(9e-5),
        node: None,
    };
    Towline::new(
        MetresPerSecond(speed),
        lake(),
        LineDrag::default(),
        load,
        vec![segment],
    )
    .unwrap()
}

/// Limit: the heavier the weight, the nearer the line to a plumb line.
#[test]
fn a_very_heavy_weight_hangs_straight_down() {
    let short =
        |weight: f64| 1.0 - tow(0.5, weight, 1e-4, 20.0).solve().unwrap().tail_depth().0 / 20.0;
    assert!(short(100.0) < 1e-4, "{}", short(100.0));
    assert!(short(1.0) > 10.0 * short(10.0));
}

/// Limit: without a boat's speed every line hangs straight down, whatever it weighs.
#[test]
fn a_stopped_boat_tows_a_plumb_line() {
    let shape = tow(0.0, 0.05, 2e-3, 12.0).solve().unwrap();
    assert!((shape.tail_depth().0 - 12.0).abs() < 1e-9);
    assert!(shape.tail.run.0.abs() < 1e-9);
}

/// Limit: a load without weight trails on the surface.
#[test]
fn a_weightless_line_trails_on_the_surface() {
    let depth = tow(1.0, 1e-7, 1e-3, 20.0).solve().unwrap().tail_depth().0;
    assert!((0.0..0.05).contains(&depth), "{depth}");
}

/// Dimensions: in water a quarter denser, with weights a quarter heavier, every pull is a quarter more and no place moves.
#[test]
fn a_denser_water_and_heavier_weights_move_nothing() {
    let shape = |times: f64| {
        let density = KilogramsPerCubicMetre(940.0 * times);
        let water = Water::measured(density, SquareMetresPerSecond(1.1e-6)).unwrap();
        let load = PointLoad {
            submerged_weight: Newtons(0.3 * times),
            drag_area: SquareMetres(6e-4),
            down_area: SquareMetres(1e-4),
        };
        let segment = Segment {
            length: Metres(25.0),
            diameter: Metres(3e-4),
            submerged_weight: NewtonsPerMetre(9e-5 * times),
            node: None,
        };
        let drag = LineDrag::default();
        let line = Towline::new(MetresPerSecond(0.6), water, drag, load, vec![segment]).unwrap();
        line.solve().unwrap()
    };
    let (light, dense) = (shape(1.0), shape(1.25));
    assert!((dense.tail_depth().0 - light.tail_depth().0).abs() < 3e-4);
    assert!((dense.tail.run.0 - light.tail.run.0).abs() < 3e-4);
    assert!((dense.top.tension.0 / light.top.tension.0 - 1.25).abs() < 1e-4);
}

/// A heavy line behind a light rig steepens as it rises: the piece in the air shortens faster than the line grows. What
/// is let out for a depth must still be found again by how much is let out.
#[test]
fn a_heavy_line_from_a_rod_tip_is_found_by_what_is_let_out() {
    let load = PointLoad {
        submerged_weight: Newtons(0.004),
        drag_area: SquareMetres(6e-4),
        down_area: SquareMetres(0.0),
    };
    let core = Segment {
        length: Metres(80.0),
        diameter: Metres(9.5e-4),
        submerged_weight: NewtonsPerMetre(0.0125),
        node: None,
    };
    let drag = LineDrag::default();
    let line = Towline::new(MetresPerSecond(0.447), lake(), drag, load, vec![core]).unwrap();
    let tip = Metres(1.5);
    for depth in [3.0, 5.0, 8.0] {
        let Reach::At(shape) = line.reach(Metres(depth), LONGEST).unwrap() else {
            panic!("{depth} m are in reach");
        };
        let out = shape.top_length + Metres(tip.0 / shape.top.angle.0.sin());
        let again = line.solve_setback(out, tip).unwrap();
        assert!(
            (again.tail_depth().0 - depth).abs() < 2e-3,
            "{depth}: {again:?}"
        );
    }
    // So little that the water is never reached is refused.
    assert!(line.solve_setback(Metres(1.4), tip).is_err());
}

proptest! {
    #[test]
    fn more_weight_runs_deeper_and_more_speed_shallower(
        speed in 0.2..2.5_f64, weight in 0.05..3.0_f64, area in 1e-5..2e-3_f64, length in 2.0..120.0_f64,
    ) {
        let depth = |speed, weight| tow(speed, weight, area, length).solve().unwrap().tail_depth().0;
        let here = depth(speed, weight);
        prop_assert!(here > 0.0 && here <= length * (1.0 + 1e-9));
        prop_assert!(depth(speed, weight * 1.2) > here - 1e-6);
        prop_assert!(depth(speed * 1.2, weight) < here + 1e-6);
    }

    #[test]
    fn the_inverse_undoes_the_forward_solution(
        speed in 0.2..2.5_f64, weight in 0.05..3.0_f64, length in 2.0..120.0_f64,
    ) {
        let forward = tow(speed, weight, 5e-4, length).solve().unwrap();
        let again = tow(speed, weight, 5e-4, 1.0).reach(forward.tail_depth(), LONGEST).unwrap();
        let Reach::At(shape) = again else { panic!("{again:?}") };
        prop_assert!((shape.top_length.0 / length - 1.0).abs() < 2e-3, "{:?}", shape.top_length);
    }

    #[test]
    fn a_profile_runs_from_the_tail_to_the_surface(
        speed in 0.0..2.5_f64, weight in 0.05..3.0_f64, length in 2.0..120.0_f64,
    ) {
        let shape = tow(speed, weight, 5e-4, length).solve_with_profile().unwrap();
        let along: f64 = shape.profile.windows(2)
            .map(|pair| (pair[0].run - pair[1].run).0.hypot((pair[0].depth - pair[1].depth).0))
            .sum();
        prop_assert!((along / length - 1.0).abs() < 1e-2, "{along} of {length}");
        prop_assert_eq!(shape.profile[0], shape.tail);
        prop_assert!(shape.profile.last().unwrap().depth.0.abs() < 1e-9);
    }

    #[test]
    fn what_is_let_out_for_a_depth_runs_at_that_depth(mph in 0.8..1.6_f64, feet in 8.0..24.0_f64) {
        let rig = harness(&[blade(Family::Colorado, 4.0)], 2);
        let setup = bouncer(2.0);
        let line = Line::new(&rig, &setup, surroundings()).unwrap();
        let speed = mph * MILE_PER_HOUR;
        let OutFor::Out(run) = line.out_for(speed, feet * FOOT).unwrap() else { panic!("in reach") };
        let again = line.run(speed, run.out).unwrap();
        prop_assert!((again.rig.depth - feet * FOOT).0.abs() < 2e-3);
    }

    #[test]
    fn a_blade_turns_between_its_start_and_its_roll_over(mph in 0.0..5.0_f64, number in 3_u8..8) {
        let rig = harness(&[blade(Family::Colorado, f64::from(number))], 2);
        let shaft = rig.shaft(&lake(), Celsius(15.0)).unwrap().unwrap();
        let running = shaft.at(mph * MILE_PER_HOUR, &lake()).unwrap();
        let speed = mph * MILE_PER_HOUR;
        let between = speed > running.start && speed <= running.roll_over.unwrap();
        prop_assert_eq!(running.state == State::Turning, between);
        prop_assert_eq!(running.turns.0 > 0.0, between);
    }
}
