//! What must hold for any line and any blade: monotony, limits, round trips.

use crate::rigs::{blade, bouncer, harness, lake, surroundings};
use motilis_core::blade::{Family, State};
use motilis_core::line::{Line, OutFor};
use motilis_core::towline::{LONGEST, LineDrag, PointLoad, Reach, Segment, Towline};
use motilis_core::units::{
    Celsius, FOOT, MILE_PER_HOUR, Metres, MetresPerSecond, Newtons, NewtonsPerMetre, SquareMetres,
};
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
        let shaft = rig.shaft(&lake(), Celsius(15.0)).unwrap();
        let running = shaft.at(mph * MILE_PER_HOUR, &lake()).unwrap();
        let speed = mph * MILE_PER_HOUR;
        let between = speed > running.start && speed <= running.roll_over.unwrap();
        prop_assert_eq!(running.state == State::Turning, between);
        prop_assert_eq!(running.turns.0 > 0.0, between);
    }
}
