//! All lines together: practice, closed forms, brute force, and what cannot be.

use crate::fleet::{
    clip_on, deep, diver, ft, indiana, lead_core, on_board, plug, rigger, rod, spread, twelve,
    willows,
};
use crate::rigs::{blade, bouncer, harness, lake, surroundings, wing, wire_trout};
use approx::assert_relative_eq;
use motilis_core::blade::Family;
use motilis_core::line::{
    Bottom, COLOUR, Core, DiveFit, Learned, Line, LineSetup, OutFor, Start, Surroundings, Touch,
};
use motilis_core::motion::{Course, Scene, record};
use motilis_core::spread::{
    Fault, Group, Holder, Mend, Rod, SetOut, Side, Spread, State, Towed, Turn, closest, mends,
};
use motilis_core::tackle::{DiverSize, LineMaterial, LineStock, ReleaseHole, SideSetting, Weight};
use motilis_core::units::{FOOT, GRAVITY, INCH, MILE_PER_HOUR, Metres, MetresPerSecond, POUND};
use proptest::prelude::*;
use rstest::rstest;
use std::ops::ControlFlow;
use std::sync::Arc;

fn run(spread: &Spread) -> motilis_core::spread::Running {
    spread.running(&deep(), None).unwrap()
}

/// Lead-core by colours with backing: the whole core out, then backing, against two lines solved one after the
/// other by hand: the backing adds less depth than the core did.
#[test]
fn backing_is_let_out_behind_the_last_colour() {
    let core = Core {
        stock: LineStock::of_test(LineMaterial::LeadCore, 18).unwrap(),
        length: 3.0 * COLOUR,
    };
    let setup = LineSetup {
        core: Some(core),
        lead: 20.0 * FOOT,
        ..on_board(None)
    };
    let rig = willows();
    let line = Line::new(&rig, &setup, surroundings()).unwrap();
    let whole = LineSetup {
        main: core.stock,
        core: None,
        ..setup.clone()
    };
    let all_core = Line::new(&rig, &whole, surroundings()).unwrap();
    let speed = 2.0 * MILE_PER_HOUR;
    let depth = |line: &Line<'_>, feet: f64| ft(line.run(speed, feet * FOOT).unwrap().rig.depth);
    // Up to the last colour the two are the same line.
    for feet in [30.0, 60.0, 90.0] {
        assert_relative_eq!(
            depth(&line, feet),
            depth(&all_core, feet),
            max_relative = 1e-6
        );
    }
    let (backed, core_only) = (depth(&line, 150.0), depth(&all_core, 150.0));
    assert!(
        backed > depth(&line, 90.0) && backed < core_only,
        "{backed} {core_only}"
    );
    // CP-09: near 5 ft a colour at 2 mph, 25 % (common practice, no source); the leader and blades aside.
    let per_colour = (depth(&line, 90.0) - depth(&line, 30.0)) / 2.0;
    assert!((3.75..6.25).contains(&per_colour), "{per_colour}");
    let OutFor::Out(again) = line.out_for(speed, backed * FOOT).unwrap() else {
        panic!("a depth that was run can be had");
    };
    assert_relative_eq!(ft(again.out), 150.0, max_relative = 2e-3);
}

/// A heavy ball and a thin cable: the closed form of a pendulum in a stream, `tan θ = drag / weight`, with the
/// drag of half the cable's length at its foot; blow-back within 10 %.
#[test]
fn a_ball_blows_back_as_a_pendulum_would() {
    let setup = LineSetup {
        lead: Metres(0.5),
        start: Start::Downrigger {
            ball: 10.0 * POUND,
            drop_back: Metres(0.0),
            above: Metres(0.0),
        },
        ..rigger(0.0)
    };
    let rig = wing(1.5);
    let line = Line::new(&rig, &setup, surroundings()).unwrap();
    let speed = 2.0 * MILE_PER_HOUR;
    let run = line.run(speed, Metres(12.0)).unwrap();
    let ball = run.weight.unwrap();
    let water = lake();
    let q = water.dynamic_pressure(speed);
    let lead = 11_340.0;
    let mass = (10.0 * POUND).0;
    let weight = mass * GRAVITY * (1.0 - water.density().0 / lead);
    let radius = (3.0 * mass / (4.0 * std::f64::consts::PI * lead)).cbrt();
    let sphere = 0.5 * std::f64::consts::PI * radius * radius;
    let (load, _) = rig.at(speed, &water, surroundings().temperature).unwrap();
    let reynolds = speed.0 * 0.7e-3 / water.viscosity().0;
    let c_n = 1.0 + 10.0 * reynolds.powf(-2.0 / 3.0);
    let half_cable = 0.5 * q * 1.2 * c_n * 0.7e-3 * 12.0;
    let back = q * (sphere + load.drag_area.0) + half_cable;
    assert_relative_eq!(
        ball.run.0,
        12.0 * (back / weight).atan().sin(),
        max_relative = 0.1
    );
}

/// A release 10 ft up the cable runs its rig 10 ft shallower than one at the ball, both hanging on one cable.
#[test]
fn stacked_releases_share_a_cable() {
    let spread = spread(
        1.5,
        vec![
            rod("P7", None, rigger(0.0), willows(), 45.0),
            rod("P8", None, rigger(10.0), willows(), 45.0),
        ],
    );
    let running = run(&spread);
    let apart = running.lines[0].rig[2] - running.lines[1].rig[2];
    assert!((9.0..10.05).contains(&(apart / FOOT.0)), "{apart}");
    // They do not count as tangled for hanging on the same cable.
    assert!(running.tangles.is_empty(), "{:?}", running.tangles);
    // The second line pulls the ball back a little more.
    let alone = Spread {
        rods: spread.rods[..1].to_vec(),
        ..spread.clone()
    };
    assert!(running.lines[0].weight.unwrap()[0] > run(&alone).lines[0].weight.unwrap()[0]);
}

/// A diver turned out gives depth for distance: the pull of its plate leans by the setting, and the line with it.
#[rstest]
#[case(SideSetting::One, 15.0)]
#[case(SideSetting::Two, 30.0)]
#[case(SideSetting::Three, 45.0)]
fn a_diver_set_to_the_side_runs_out_and_shallower(
    #[case] setting: SideSetting,
    #[case] degrees: f64,
) {
    let at = |side| {
        let spread = spread(2.0, vec![rod("S3", None, diver(side), wire_trout(), 80.0)]);
        let running = run(&spread);
        let line = &running.lines[0];
        (line.weight.unwrap(), line.tip)
    };
    let (straight, tip) = at(SideSetting::Straight);
    let (out, _) = at(setting);
    assert_relative_eq!(straight[1], tip[1], epsilon = 1e-9);
    let lean = ((out[1] - tip[1]) / (out[2] - tip[2])).atan().to_degrees();
    assert!((lean - degrees).abs() < 2.0, "{lean}");
    assert!(out[2] < straight[2] && out[1] > straight[1]);
}

/// A float diver planes down under way and comes up when the boat stops (common practice, no source).
#[test]
fn a_float_diver_dives_under_way_only() {
    let setup = LineSetup {
        weight: Some(Weight::FloatDiver(DiverSize::Medium)),
        ..diver(SideSetting::Straight)
    };
    let spread = spread(1.8, vec![rod("P1", None, setup, wing(1.5), 60.0)]);
    assert!(run(&spread).lines[0].weight.unwrap()[2] > 3.0);
    let scene = Scene {
        spread: &spread,
        surroundings: &deep(),
        course: Course::StopAndGo {
            go_s: 600.0,
            stop_s: 110.0,
        },
        seconds: 110.0,
    };
    let recording = record(&scene, |_| ControlFlow::Continue(()))
        .unwrap()
        .unwrap();
    let diver = |frame: usize| {
        let points = &recording.frames[frame].lines[0].points;
        points[points.len() - 4][2]
    };
    let last = recording.frames.len() - 1;
    assert!(
        diver(last) < 0.5 * diver(10),
        "{} {}",
        diver(last),
        diver(10)
    );
}

/// A clip-on weight some way up the line: the rig runs below the weight where it is heavy, and what is out counts
/// from the weight.
#[test]
fn a_clip_on_may_sit_up_the_line() {
    let setup = |ahead: f64| LineSetup {
        ahead: ahead * FOOT,
        ..on_board(Some(clip_on()))
    };
    let depth = |ahead: f64| {
        let spread = spread(
            1.2,
            vec![rod("P4", Some(40.0), setup(ahead), indiana(), 50.0)],
        );
        let line = run(&spread).lines[0].clone();
        (
            line.rig[0] - line.weight.unwrap()[0],
            line.weight.unwrap()[2],
        )
    };
    let (near, far) = (depth(0.0), depth(50.0));
    assert!(far.0 > near.0 + 12.0, "{far:?} {near:?}");
    assert!((far.1 - near.1).abs() < 0.35 * near.1);
}

/// A plug runs where its owner measured it, and its line is drawn to that depth.
#[rstest]
#[case(40.0, 5.0)]
#[case(60.0, 7.0)]
#[case(120.0, 12.0)]
fn a_lure_runs_by_its_table(#[case] out: f64, #[case] depth: f64) {
    let rod = Rod {
        towed: Towed::Lure(Arc::new(plug())),
        wanted: depth * FOOT,
        // The table counts from the lure: 5 ft of leader and the rest.
        ..rod("P6", Some(80.0), on_board(None), indiana(), out - 5.0)
    };
    let spread = spread(1.5, vec![rod]);
    let line = &run(&spread).lines[0];
    assert_relative_eq!(line.rig[2] / FOOT.0, depth, max_relative = 5e-3);
    let SetOut::Out(again) = spread.out_for(0, &deep()).unwrap() else {
        panic!("the table reaches there");
    };
    assert_relative_eq!(ft(again), out - 5.0, epsilon = 1e-9);
}

/// A table of one line is converted on another: thin braid dives deeper with the same setback, thick nylon less deep.
#[test]
fn a_dive_table_is_converted_to_another_line() {
    let nylon = |pounds| LineStock::of_test(LineMaterial::Nylon, pounds).unwrap();
    let of_ten = plug().measured_on(Some(nylon(10)));
    let water = deep().water;
    let speed = 1.5 * MILE_PER_HOUR;
    let setback = |main| {
        let setup = LineSetup {
            main,
            ..on_board(None)
        };
        let out = of_ten.out_for(&setup, 9.0 * FOOT, speed, &water).unwrap();
        (of_ten.is_converted_on(&setup), ft(out.unwrap()))
    };
    let (converted, own) = setback(nylon(10));
    // 80 ft from the lure, 5 ft of leader.
    assert!(!converted && (own - 75.0).abs() < 1e-6, "{own}");
    let (converted, thin) = setback(LineStock::of_test(LineMaterial::Braid, 10).unwrap());
    assert!(converted && thin < own - 3.0, "{thin}");
    let (converted, thick) = setback(nylon(20));
    assert!(converted && thick > own + 3.0, "{thick}");
}

/// CP-16: the leader behind a diver no longer than the rod, 5 ft with 7-ft rods (common practice, no source).
#[test]
fn a_leader_behind_a_diver_fits_the_rod() {
    let with = |lead: f64| {
        let setup = LineSetup {
            lead: lead * FOOT,
            ..diver(SideSetting::Straight)
        };
        rod("P3", None, setup, wire_trout(), 60.0)
    };
    assert_eq!(with(5.0).leader_fault(), None);
    assert_eq!(
        with(8.0).leader_fault(),
        Some(Fault::LeaderTooLong { most: 7.0 * FOOT })
    );
    let spread = spread(2.0, vec![with(8.0)]);
    let running = run(&spread);
    let mend = mends(&spread, &deep(), &running, 0, None, &[]).unwrap();
    assert_eq!(mend, [Mend::Lead(7.0 * FOOT)]);
    // A bouncer's long lead in clear water is no fault: it is led in by hand (CP-10).
    let long = LineSetup {
        lead: 10.0 * FOOT,
        ..bouncer(1.0)
    };
    assert_eq!(rod("P1", None, long, indiana(), 60.0).leader_fault(), None);
}

/// CP-17: boards: unweighted deep-running lines farthest out (100, 90, 80 ft), then weighted, then divers nearest
/// (50, 40, 30 ft), in a group the longest farthest out (common practice, no source).
#[test]
fn boards_go_out_in_the_order_of_practice() {
    let clip = || on_board(Some(clip_on()));
    let diving = || LineSetup {
        start: Start::Board,
        ..diver(SideSetting::Straight)
    };
    // As CP-17 has it, but a beginner put each at the place of another.
    let right = [
        (lead_core(), 150.0, 100.0),
        (lead_core(), 120.0, 90.0),
        (lead_core(), 90.0, 80.0),
        (clip(), 80.0, 60.0),
        (diving(), 60.0, 50.0),
        (diving(), 50.0, 40.0),
        (diving(), 40.0, 30.0),
    ];
    let shuffled = [80.0, 30.0, 100.0, 50.0, 60.0, 90.0, 40.0];
    let spread_of = |boards: &[f64]| {
        let rods = right
            .iter()
            .zip(boards)
            .enumerate()
            .map(|(i, ((setup, out, _), board))| {
                rod(
                    &format!("P{}", i + 1),
                    Some(*board),
                    setup.clone(),
                    willows(),
                    *out,
                )
            });
        spread(1.6, rods.collect())
    };
    let practice: Vec<f64> = right.iter().map(|line| line.2).collect();
    let sorted = spread_of(&practice);
    let order = sorted.order(&run(&sorted));
    assert!(order.moves.is_empty(), "{:?}", order.moves);
    assert_eq!(order.set_out, [0, 1, 2, 3, 4, 5, 6]);
    assert_eq!(order.bring_in, [6, 5, 4, 3, 2, 1, 0]);

    let mixed = spread_of(&shuffled);
    let mut boards = shuffled;
    for way in mixed.order(&run(&mixed)).moves {
        boards[way.rod] = ft(way.board);
    }
    for (board, practice) in boards.iter().zip(&practice) {
        assert_relative_eq!(*board, *practice, epsilon = 1e-9);
    }
    let groups: Vec<Group> = sorted.rods.iter().map(Rod::group).collect();
    assert!(groups.is_sorted() && sorted.rods[0].goes_deep());
}

/// CP-17, its last part: hard-pulling lines lag in a second row (common practice, no source).
#[test]
fn a_hard_puller_falls_back_into_a_second_row() {
    let diving = LineSetup {
        start: Start::Board,
        weight: Some(Weight::TripDiver(
            DiverSize::Medium,
            SideSetting::Straight,
            ReleaseHole::Middle,
        )),
        ..diver(SideSetting::Straight)
    };
    let spread = spread(
        1.8,
        vec![
            rod("P5", Some(80.0), on_board(None), wing(1.5), 60.0),
            rod("P4", Some(60.0), on_board(None), wing(1.5), 50.0),
            rod("P3", Some(40.0), diving, wire_trout(), 50.0),
        ],
    );
    let rows: Vec<u8> = run(&spread).lines.iter().map(|line| line.row).collect();
    assert_eq!(rows, [1, 1, 2]);
}

/// CP-18: a flasher 22–24 in ahead kicks the lure harder than one 32–36 in ahead; a 6-in dodger stands about 30 in
/// ahead of a spinner (common practice, no source). A kick of one amplitude tilts a shorter leader more.
#[test]
fn a_short_leader_passes_a_flashers_kick_on() {
    use motilis_core::spread::{Kick, kick};
    let at = |inches: f64| kick(8.0 * INCH, inches * INCH);
    assert!(at(23.0).tilt_deg > at(34.0).tilt_deg);
    assert_eq!((at(23.0).kind, at(34.0).kind), (Kick::Quick, Kick::Easy));
    assert_eq!(kick(6.0 * INCH, 30.0 * INCH).kind, Kick::Easy);
}

/// CP-08: faster runs shallower, slower deeper; some 2 oz instead of 1 oz to stay on the bottom from 30 ft down
/// (common practice, no source).
#[test]
fn a_faster_spread_runs_shallower() {
    let at = |mph| {
        let spread = spread(mph, vec![rod("P1", None, bouncer(1.0), indiana(), 70.0)]);
        run(&spread).lines[0].rig[2]
    };
    assert!(at(0.9) > at(1.2) && at(1.2) > at(1.6));
    let touching = |ounces: f64| {
        let rod = Rod {
            wanted: 32.0 * FOOT,
            ..rod("P1", None, bouncer(ounces), indiana(), 70.0)
        };
        let SetOut::Out(out) = spread(1.2, vec![rod]).out_for(0, &deep()).unwrap() else {
            panic!("32 ft can be had");
        };
        ft(out)
    };
    // With 1 oz the line lies so flat that the depth costs half as much line again.
    assert!(
        touching(1.0) > 1.5 * touching(2.0),
        "{} {}",
        touching(1.0),
        touching(2.0)
    );
}

/// CP-23: keep the rig just above suspended fish: 22 ft over 27 ft (common practice, no source).
#[test]
fn a_rig_wanted_above_the_fish_is_set_there() {
    let rods = vec![Rod {
        wanted: 22.0 * FOOT,
        ..rod("P1", None, bouncer(1.0), wing(1.5), 70.0)
    }];
    let surroundings = Surroundings {
        bottom: Some(27.0 * FOOT),
        ..surroundings()
    };
    let mut spread = spread(1.1, rods);
    let SetOut::Out(out) = spread.out_for(0, &surroundings).unwrap() else {
        panic!("22 ft over 27 ft can be had");
    };
    spread.rods[0].out = out;
    let line = spread.running(&surroundings, None).unwrap().lines.remove(0);
    assert_relative_eq!(line.rig[2] / FOOT.0, 22.0, epsilon = 0.05);
    assert!(matches!(line.bottom, Bottom::Clear(by) if by.0 > 0.3));
}

/// CP-03, CP-04: a wing, a Colorado and double willows share hardly a speed; the one found lies in most windows,
/// and in each window it is said to lie in.
#[test]
fn one_speed_suits_most() {
    let colorado = harness(&[blade(Family::Colorado, 5.0)], 2);
    let spread = spread(
        1.2,
        vec![
            rod("P3", Some(60.0), on_board(Some(clip_on())), willows(), 60.0),
            rod("P2", Some(40.0), on_board(Some(clip_on())), indiana(), 60.0),
            rod("P1", None, bouncer(1.0), colorado, 60.0),
        ],
    );
    let shared = spread.shared_speed(&deep()).unwrap();
    let running = run(&spread);
    for place in 0..3 {
        let holds = running.lines[place].window.holds(shared.at);
        assert_eq!(shared.inside.contains(&place), holds);
        assert_eq!(shared.outside.contains(&place), !holds);
    }
    // By brute force: no speed suits more.
    let most = (1..400)
        .map(|i| MetresPerSecond(f64::from(i) * 0.01))
        .map(|v| {
            running
                .lines
                .iter()
                .filter(|line| line.window.holds(v))
                .count()
        })
        .max();
    assert_eq!(Some(shared.inside.len()), most);
    assert!(shared.from <= shared.at && shared.at <= shared.to);
}

fn two_points() -> impl Strategy<Value = Vec<[f64; 3]>> {
    prop::collection::vec(prop::array::uniform3(-20.0..20.0_f64), 2..9)
}

proptest! {
    /// Against sampling both chains at 200 points a piece: never farther, and hardly nearer.
    #[test]
    fn the_closest_approach_is_what_brute_force_finds(a in two_points(), b in two_points()) {
        let sampled = |line: &[[f64; 3]]| -> Vec<[f64; 3]> {
            line.windows(2)
                .flat_map(|two| {
                    let (p, q) = (two[0], two[1]);
                    (0..=200).map(move |i| {
                        let share = f64::from(i) / 200.0;
                        [0, 1, 2].map(|axis| p[axis] + share * (q[axis] - p[axis]))
                    })
                })
                .collect()
        };
        let (ours, _) = closest(&a, &b);
        let (many_a, many_b) = (sampled(&a), sampled(&b));
        let brute = many_a
            .iter()
            .flat_map(|p| many_b.iter().map(move |q| (0..3).map(|i| (p[i] - q[i]).powi(2)).sum::<f64>()))
            .fold(f64::INFINITY, f64::min)
            .sqrt();
        // Points of a piece of at most 70 m lie 0.35 m apart.
        prop_assert!(ours <= brute + 1e-9 && ours >= brute - 0.5, "{ours} {brute}");
        let (back, _) = closest(&b, &a);
        prop_assert!((ours - back).abs() < 1e-9);
    }

    /// In any turn an inside line meets slower water and an outside line faster, by geometry.
    #[test]
    fn a_turn_slows_the_inside(radius in 40.0..400.0_f64) {
        let spread = twelve();
        for to in [Side::Port, Side::Starboard] {
            let turn = Turn { radius: Metres(radius), to };
            let turning = spread.running(&deep(), Some(turn)).unwrap();
            for (rod, line) in spread.rods.iter().zip(&turning.lines) {
                let inside = rod.holder.side == to;
                prop_assert_eq!(line.speed < spread.speed, inside);
            }
        }
    }
}

/// Where a line's parts run, with port for starboard.
fn flipped(points: &[[f64; 3]]) -> Vec<[f64; 3]> {
    points.iter().map(|[x, y, z]| [*x, -y, *z]).collect()
}

fn assert_same_places(ours: &[[f64; 3]], others: &[[f64; 3]], what: &str) {
    assert_eq!(ours.len(), others.len(), "{what}");
    for (a, b) in ours.iter().flatten().zip(others.iter().flatten()) {
        assert!((a - b).abs() < 1e-9, "{what}: {a} {b}");
    }
}

/// A boat has no favourite side: port and starboard changed, every line runs as before on the other one, straight on
/// and in a turn, and the orders of setting out and safe turns change sides with it.
#[rstest]
#[case(None)]
#[case(Some(60.0))]
fn a_mirrored_spread_runs_mirrored(#[case] radius: Option<f64>) {
    let other = |side| match side {
        Side::Port => Side::Starboard,
        Side::Starboard => Side::Port,
    };
    let ours = twelve();
    let mut mirrored = ours.clone();
    for rod in &mut mirrored.rods {
        rod.holder.side = other(rod.holder.side);
    }
    let turn = |to| {
        radius.map(|radius| Turn {
            radius: Metres(radius),
            to,
        })
    };
    let here = ours.running(&deep(), turn(Side::Port)).unwrap();
    let there = mirrored.running(&deep(), turn(Side::Starboard)).unwrap();
    for (place, (a, b)) in here.lines.iter().zip(&there.lines).enumerate() {
        let what = format!("line {place}");
        assert_same_places(&a.path, &flipped(&b.path), &what);
        assert_same_places(
            &[a.rig, a.tip, a.entry],
            &flipped(&[b.rig, b.tip, b.entry]),
            &what,
        );
        assert_eq!((a.state, a.row), (b.state, b.row), "{what}");
    }
    for to in [Side::Port, Side::Starboard] {
        let safe = ours.safe_turn(&deep(), to).unwrap().radius;
        assert_eq!(
            safe,
            mirrored.safe_turn(&deep(), other(to)).unwrap().radius,
            "{to:?}"
        );
    }
}

/// The rods' order on paper means nothing: told backwards, each line runs where it ran.
#[test]
fn the_order_of_rods_on_paper_means_nothing() {
    let ours = twelve();
    let mut told_backwards = ours.clone();
    told_backwards.rods.reverse();
    let (here, there) = (run(&ours), run(&told_backwards));
    for (place, (a, b)) in here.lines.iter().zip(there.lines.iter().rev()).enumerate() {
        assert_same_places(&a.path, &b.path, &format!("line {place}"));
        assert_eq!((a.state, a.row), (b.state, b.row), "line {place}");
    }
}

/// Limit: a turn of a mile's radius is all but straight on.
#[test]
fn a_very_wide_turn_is_straight_on() {
    let spread = twelve();
    let wide = Turn {
        radius: Metres(2_000.0),
        to: Side::Port,
    };
    let (straight, turning) = (run(&spread), spread.running(&deep(), Some(wide)).unwrap());
    for (a, b) in straight.lines.iter().zip(&turning.lines) {
        assert_relative_eq!(a.speed.0, b.speed.0, max_relative = 0.03);
        assert_relative_eq!(a.rig[2], b.rig[2], max_relative = 0.06, epsilon = 0.05);
    }
}

/// The smallest safe turn: a little wider and nothing fails that did not fail straight on; a little tighter and
/// something does.
#[test]
fn the_smallest_safe_turn_is_where_something_begins_to_fail() {
    let surroundings = Surroundings {
        bottom: Some(30.0 * FOOT),
        ..surroundings()
    };
    let spread = spread(
        1.4,
        vec![
            rod("P4", Some(70.0), on_board(Some(clip_on())), indiana(), 60.0),
            rod("P2", None, bouncer(1.0), indiana(), 60.0),
            rod("S4", Some(70.0), on_board(Some(clip_on())), indiana(), 60.0),
        ],
    );
    for to in [Side::Port, Side::Starboard] {
        let safe = spread.safe_turn(&surroundings, to).unwrap();
        let radius = safe.radius.unwrap();
        let failing = |share: f64| {
            let turn = Turn {
                radius: radius * share,
                to,
            };
            let turning = spread.running(&surroundings, Some(turn)).unwrap();
            (0..3).filter(|&place| turning.fails(place)).count()
        };
        assert_eq!(failing(1.02), 0, "{to:?} {radius:?}");
        assert!(failing(0.97) > 0, "{to:?} {radius:?}");
        assert!(safe.by.is_some());
    }
}

/// Too fast for a Colorado: each mend that is offered puts the line right and stops no other.
#[test]
fn every_mend_that_is_offered_works() {
    let colorado = harness(&[blade(Family::Colorado, 5.0)], 2);
    let spread = spread(
        2.1,
        vec![
            rod("P3", Some(60.0), on_board(Some(clip_on())), willows(), 60.0),
            rod("P1", None, bouncer(2.0), colorado, 60.0),
        ],
    );
    let running = run(&spread);
    assert_eq!(running.lines[1].state, State::RollingOver);
    let rigs: Vec<_> = [wing(1.5), wire_trout(), indiana()].map(Arc::new).to_vec();
    let offered = mends(&spread, &deep(), &running, 1, None, &rigs).unwrap();
    assert!(matches!(offered[0], Mend::Speed(_)), "{offered:?}");
    assert!(offered.contains(&Mend::Swap(1)), "{offered:?}");
    for mend in offered {
        let then = spread
            .mended(1, &mend, &rigs)
            .running(&deep(), None)
            .unwrap();
        assert!(!then.fails(1) && then.fishing() == 2, "{mend:?}");
    }
    assert!(
        mends(&spread, &deep(), &running, 0, None, &rigs)
            .unwrap()
            .is_empty()
    );
}

#[test]
fn a_line_on_the_bottom_is_wound_in() {
    let shallow = Surroundings {
        bottom: Some(20.0 * FOOT),
        ..surroundings()
    };
    let spread = spread(1.2, vec![rod("P1", None, bouncer(2.0), indiana(), 80.0)]);
    let running = spread.running(&shallow, None).unwrap();
    assert!(matches!(running.lines[0].bottom, Bottom::Dragging { .. }) && running.fails(0));
    let offered = mends(&spread, &shallow, &running, 0, None, &[]).unwrap();
    let [Mend::Out(out)] = offered[..] else {
        panic!("{offered:?}");
    };
    assert!(out < 80.0 * FOOT);
}

/// A rule that was typed in allows so many lines; those beyond it are marked, and the mend is to take them in.
#[test]
fn more_lines_than_the_rules_allow_are_marked() {
    let spread = twelve();
    let running = run(&spread);
    let marked = |allowed| {
        (0..12)
            .filter(|&place| {
                spread
                    .faults(&running, place, allowed)
                    .contains(&Fault::TooManyRods { allowed: 4 })
            })
            .count()
    };
    assert_eq!((marked(Some(4)), marked(None)), (8, 0));
}

#[test]
fn a_fish_from_outside_crosses_what_runs_inside_of_it() {
    let spread = spread(
        1.4,
        vec![
            rod("P5", Some(80.0), on_board(None), wing(1.5), 40.0),
            rod("P3", Some(40.0), on_board(None), wing(1.5), 90.0),
        ],
    );
    let order = spread.order(&run(&spread));
    assert_eq!(order.crossed[0], [1]);
    assert!(order.crossed[1].is_empty());
}

fn refusal(spread: &Spread) -> (String, String) {
    let error = spread.check(&deep()).unwrap_err();
    (error.quantity().to_owned(), error.to_string())
}

#[test]
fn a_spread_that_cannot_be_is_refused_in_a_sentence() {
    let plain = || rod("P1", None, bouncer(1.0), indiana(), 60.0);
    let (field, sentence) = refusal(&spread(1.2, vec![]));
    assert!(field == "rods" && sentence.contains("not 0"), "{sentence}");
    let (_, sentence) = refusal(&spread(1.2, vec![plain(); 40]));
    assert!(
        sentence.contains("between 1 and 16 lines, not 40"),
        "{sentence}"
    );
    let (field, sentence) = refusal(&spread(1.2, vec![plain(), plain()]));
    assert!(
        field == "rods[1].holder" && sentence.contains("holder P1"),
        "{sentence}"
    );
    let long = LineSetup {
        lead: 70.0 * FOOT,
        ..bouncer(1.0)
    };
    let (field, _) = refusal(&spread(1.2, vec![rod("P1", None, long, indiana(), 60.0)]));
    assert_eq!(field, "rods[0].setup.lead_m");
    let (field, _) = refusal(&spread(
        1.2,
        vec![rod("P4", None, on_board(None), indiana(), 60.0)],
    ));
    assert_eq!(field, "rods[0].board_m");
    let (field, _) = refusal(&spread(f64::NAN, vec![plain()]));
    assert_eq!(field, "speed_mps");
}

/// A setback shorter than the piece in the air is that line's own fault; the others run as ever.
#[test]
fn one_line_that_cannot_be_solved_leaves_the_others_alone() {
    let spread = spread(
        1.2,
        vec![
            rod("P1", None, bouncer(1.0), indiana(), 3.0),
            rod("S1", None, bouncer(1.0), indiana(), 60.0),
        ],
    );
    let running = run(&spread);
    let Some(Fault::Unsolved(why)) = running.faults_of(0).into_iter().next() else {
        panic!("{:?}", running.faults_of(0));
    };
    assert!(why.to_string().contains("let out more"), "{why}");
    assert!(!running.fails(1));
    let mend = mends(&spread, &deep(), &running, 0, None, &[]).unwrap();
    assert!(matches!(mend[..], [Mend::Out(_)] | []), "{mend:?}");
}

/// A towed spread, straight on, stays where the steady solver puts it; in a turn the inside sinks and slows, the
/// outside rises and speeds up.
#[test]
fn motion_agrees_with_the_steady_picture() {
    let spread = twelve();
    let surroundings = deep();
    let steady = run(&spread);
    let scene = |course| Scene {
        spread: &spread,
        surroundings: &surroundings,
        course,
        seconds: 60.0,
    };
    let go = |_| ControlFlow::Continue(());
    let straight = record(&scene(Course::Straight), go).unwrap().unwrap();
    let last = straight.frames.last().unwrap();
    for (place, (line, steady)) in last.lines.iter().zip(&steady.lines).enumerate() {
        let off = (line.depth.0 - steady.rig[2]).abs();
        assert!(
            off < 0.02 * steady.rig[2] + 0.05,
            "line {place}: {line:?} {:?}",
            steady.rig
        );
        assert_eq!(line.state, steady.state, "line {place}");
    }
    let circle = Course::Circle {
        radius: Metres(60.0),
        to: Side::Starboard,
    };
    let turned = record(&scene(circle), go).unwrap().unwrap();
    let last = turned.frames.last().unwrap();
    let outside = spread
        .rods
        .iter()
        .position(|rod| rod.holder == Holder::from_key("P5").unwrap());
    let inside = spread
        .rods
        .iter()
        .position(|rod| rod.holder == Holder::from_key("S5").unwrap());
    let (outside, inside) = (outside.unwrap(), inside.unwrap());
    assert!(last.lines[outside].depth.0 < steady.lines[outside].rig[2]);
    assert!(last.lines[inside].depth.0 > steady.lines[inside].rig[2]);
    assert!(last.lines[inside].speed < last.lines[outside].speed);
}

#[test]
fn a_recording_can_be_stopped_half_way() {
    let spread = twelve();
    let surroundings = deep();
    let scene = Scene {
        spread: &spread,
        surroundings: &surroundings,
        course: Course::Straight,
        seconds: 600.0,
    };
    let stopped = record(&scene, |done| {
        if done > 0.05 {
            ControlFlow::Break(())
        } else {
            ControlFlow::Continue(())
        }
    });
    assert_eq!(stopped.unwrap(), None);
    let endless = Scene {
        seconds: f64::NAN,
        ..scene
    };
    let refusal = record(&endless, |_| ControlFlow::Continue(())).unwrap_err();
    assert_eq!(refusal.quantity(), "seconds");
}

/// Touches made with a line that is held harder than usual: with many the fit finds its factor, with one it moves a
/// little from 1; passes without a touch only say how deep it does not run.
#[test]
fn bottom_touches_teach_the_dive_curve() {
    let rig = Arc::new(indiana());
    let truth = 1.3;
    let touch = |out: f64, mph: f64, touched: bool| {
        let setup = LineSetup {
            learned: Learned {
                held: truth,
                touches: 0,
            },
            ..bouncer(1.0)
        };
        let line = Line::new(&rig, &setup, surroundings()).unwrap();
        let run = line.run(mph * MILE_PER_HOUR, out * FOOT).unwrap();
        let deepest = run.rig.depth.0.max(run.weight.unwrap().depth.0);
        Touch {
            rig: Arc::clone(&rig),
            lead: 5.0 * FOOT,
            out: out * FOOT,
            bottom: Metres(if touched { deepest } else { 1.05 * deepest }),
            speed: mph * MILE_PER_HOUR,
            touched,
        }
    };
    let fit = |touches: &[Touch]| DiveFit::to(&bouncer(1.0), surroundings(), touches);
    assert_eq!(fit(&[]), None);
    let many: Vec<Touch> = (0..12)
        .map(|i| touch(50.0 + 5.0 * f64::from(i), 1.0 + 0.05 * f64::from(i), true))
        .collect();
    let all = many;
    let (one, many) = (fit(&all[..1]).unwrap(), fit(&all).unwrap());
    assert!((many.held - truth).abs() < 0.05, "{many:?}");
    assert!(one.held > 1.02 && one.held < many.held, "{one:?}");
    let width = |fit: &DiveFit| fit.band.1 / fit.band.0;
    assert!(width(&many) < width(&one));
    assert!(many.band.0 < truth && truth < many.band.1);
    assert_eq!((many.touches, many.misses), (12, 0));
    let missed = fit(&[touch(80.0, 1.2, false), touch(70.0, 1.2, false)]).unwrap();
    assert!(missed.held > 1.0 && missed.misses == 2, "{missed:?}");
    // Two that cannot both be right are told, and by how much.
    assert_eq!(many.apart, None);
    let mut wrong = all.clone();
    wrong[3].bottom = 0.6 * wrong[3].bottom;
    let told = fit(&wrong).unwrap().apart.unwrap();
    assert!(
        told.spreads > 3.0 && told.shallower.0 == wrong[3].out,
        "{told:?}"
    );
}

#[test]
fn a_touch_below_the_line_s_own_length_cannot_be() {
    let touch = Touch {
        rig: Arc::new(indiana()),
        lead: 5.0 * FOOT,
        out: 20.0 * FOOT,
        bottom: 40.0 * FOOT,
        speed: 1.2 * MILE_PER_HOUR,
        touched: true,
    };
    assert_eq!(touch.check().unwrap_err().quantity(), "bottom_m");
    let pass = Touch {
        touched: false,
        ..touch
    };
    assert_eq!(pass.check(), Ok(()));
}

/// A lure at the fastest speed it works at bears no turn in which it runs outside.
#[test]
fn a_line_at_its_limit_has_no_safe_turn() {
    let lure = Rod {
        towed: Towed::Lure(Arc::new(plug())),
        ..rod("P6", Some(80.0), on_board(None), indiana(), 50.0)
    };
    let spread = spread(2.4, vec![lure]);
    let safe = |to| spread.safe_turn(&deep(), to).unwrap();
    assert_eq!(
        (safe(Side::Starboard).radius, safe(Side::Starboard).by),
        (None, Some(0))
    );
    assert!(safe(Side::Port).radius.is_some());
}

/// Of the speeds at which as many lines work and as much is in the range of practice, the one nearest to their favourites.
#[test]
fn the_shared_speed_is_the_nearest_to_what_they_like_best() {
    let favourite = motilis_core::rig::Kind::CrawlerHarness
        .practice()
        .unwrap()
        .favourite;
    let one = spread(0.8, vec![rod("P1", None, bouncer(2.0), indiana(), 60.0)]);
    let shared = one.shared_speed(&deep()).unwrap();
    let off = (shared.at - favourite).0.abs() / MILE_PER_HOUR.0;
    assert!(off <= 0.05 + 1e-9, "{:?} {favourite:?}", shared.at);
}
