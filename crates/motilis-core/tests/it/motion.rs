//! The lumped masses against the steady solver, and against what mechanics demands of any motion.

use crate::rigs::lake;
use crate::towline_reference::{cases, towline};
use approx::assert_relative_eq;
use motilis_core::motion::{Chain, Flow, NodeLoad, Piece, Still};
use motilis_core::towline::{LineDrag, PointLoad, Segment, Towline};
use motilis_core::units::{
    GRAVITY, Kilograms, Metres, MetresPerSecond, Newtons, NewtonsPerMetre, SquareMetres,
};
use serde_json::Value;

const DT: f64 = 0.05;

/// Tows a chain straight along the first axis for a time.
fn tow(chain: &mut Chain, speed: f64, seconds: f64) {
    let steps = (seconds / DT) as usize;
    for _ in 0..steps {
        let [x, y, z] = chain.place(0);
        chain.step(DT, [x + speed * DT, y, z], &Still);
    }
}

fn size(force: [f64; 3]) -> f64 {
    force.iter().map(|part| part * part).sum::<f64>().sqrt()
}

fn depth(chain: &Chain) -> f64 {
    chain.place(chain.last())[2]
}

/// A line laid out straight, sloping down at half a right angle: far from where it will run.
fn sloping(line: &Towline, cuts: usize, speed: f64) -> Chain {
    Chain::of(line, cuts, &[[0.0; 3], [-1.0, 0.0, 1.0]]).moving([speed, 0.0, 0.0])
}

fn length(case: &Value) -> f64 {
    let segments = case["segments"].as_array().unwrap();
    segments
        .iter()
        .map(|one| one["length_m"].as_f64().unwrap())
        .sum()
}

/// All 64 reference lines (solved with `SciPy`, see `tests/data/README.md`), begun far from their steady shape.
#[test]
fn a_straight_tow_comes_to_the_steady_shape() {
    for case in cases() {
        let line = towline(&case);
        let steady = line.solve().unwrap();
        let speed = case["speed_mps"].as_f64().unwrap();
        let mut chain = sloping(&line, 44, speed);
        // A light tail on a line that weighs nothing takes its time to sink.
        let bare = case["name"].as_str().unwrap().starts_with("bare-braid");
        let lengths = if bare { 30.0 } else { 7.0 };
        tow(&mut chain, speed, lengths * length(&case) / speed);
        let expected = case["expected"]["tail_depth_m"].as_f64().unwrap();
        let ours = depth(&chain);
        assert!(
            (ours / expected - 1.0).abs() < 0.01,
            "{}: {ours} not {expected}",
            case["name"]
        );
        let run = chain.place(0)[0] - chain.place(chain.last())[0];
        assert!(
            (run / steady.tail.run.0 - 1.0).abs() < 0.01,
            "{}",
            case["name"]
        );
        let tension = size(chain.top_pull());
        // The top segment ends half a cut below the surface.
        assert!(
            (tension / steady.top.tension.0 - 1.0).abs() < 0.03,
            "{}",
            case["name"]
        );
    }
}

fn bouncer(speed: f64, out: f64) -> Towline {
    let rig = PointLoad {
        submerged_weight: Newtons(0.03),
        drag_area: SquareMetres(5e-4),
        down_area: SquareMetres(0.0),
    };
    let weight = PointLoad {
        submerged_weight: Newtons(0.254),
        drag_area: SquareMetres(7.3e-4),
        down_area: SquareMetres(0.0),
    };
    let line = |length, node| Segment {
        length: Metres(length),
        diameter: Metres(2.8e-4),
        submerged_weight: NewtonsPerMetre(9e-5),
        node,
    };
    let segments = vec![line(1.5, Some(weight)), line(out, None)];
    Towline::new(
        MetresPerSecond(speed),
        lake(),
        LineDrag::default(),
        rig,
        segments,
    )
    .unwrap()
}

/// After a step of the speed the line is where the steady solver has it once the water that met the old speed has
/// passed: a few times `L / U`.
#[test]
fn a_step_of_the_speed_settles_in_the_advective_time() {
    let (slow, fast, out) = (0.45, 0.65, 20.0);
    let steady = |speed| bouncer(speed, out).solve().unwrap().tail_depth().0;
    let mut chain = sloping(&bouncer(slow, out), 50, slow);
    tow(&mut chain, slow, 10.0 * out / slow);
    let change = steady(slow) - steady(fast);
    tow(&mut chain, fast, 0.1 * out / fast);
    assert!(
        depth(&chain) - steady(fast) > 0.5 * change,
        "it cannot be there at once"
    );
    tow(&mut chain, fast, 2.9 * out / fast);
    assert!((depth(&chain) - steady(fast)).abs() < 0.1 * change);
}

/// What the hand at the top feels in a steady tow is what the steady solver says: weights and drag of the whole line.
#[test]
fn forces_balance_in_a_steady_tow() {
    let steady = bouncer(0.55, 20.0).solve().unwrap().top;
    let mut chain = sloping(&bouncer(0.55, 20.0), 50, 0.55);
    tow(&mut chain, 0.55, 400.0);
    let pull = chain.top_pull();
    let (sin, cos) = steady.angle.0.sin_cos();
    let expected = [-cos * steady.tension.0, sin * steady.tension.0];
    assert!(
        (pull[0] - expected[0]).abs() < 0.02 * steady.tension.0,
        "{pull:?} {expected:?}"
    );
    assert!(
        (pull[2] - expected[1]).abs() < 0.02 * steady.tension.0,
        "{pull:?} {expected:?}"
    );
    assert!(pull[1].abs() < 1e-6, "{pull:?}");
}

/// A line let go of the boat's speed swings down, and only ever loses energy to the water.
#[test]
fn a_stopped_line_never_gains_energy() {
    let mut chain = sloping(&bouncer(0.55, 20.0), 50, 0.55);
    tow(&mut chain, 0.55, 100.0);
    let mut before = chain.energy();
    for step in 0..4_000 {
        let top = chain.place(0);
        chain.step(DT, top, &Still);
        let now = chain.energy();
        assert!(
            now <= before + 1e-6 * before.abs().max(1.0),
            "step {step}: {now} {before}"
        );
        before = now;
    }
    // It hangs straight down in the end.
    assert_relative_eq!(depth(&chain), 21.5, max_relative = 2e-3);
}

/// Lines do not stretch: whatever the boat does, the chain is no longer than its line.
#[test]
fn a_jerked_line_keeps_its_length() {
    let mut chain = sloping(&bouncer(0.55, 20.0), 40, 0.55);
    let mut x = 0.0;
    for step in 0..3_000 {
        let t = f64::from(step) * DT;
        let speed = if (t / 6.0).fract() < 0.5 { 1.4 } else { 0.0 };
        x += speed * DT;
        chain.step(DT, [x, 2.0 * (0.4 * t).sin(), 0.0], &Still);
        assert!(chain.stretch() < 1.005, "{t}: {}", chain.stretch());
        assert!(
            chain
                .place(chain.last())
                .iter()
                .all(|figure| figure.is_finite()),
            "{t}"
        );
    }
}

/// In a steady turn a tail swings inside of the circle its top runs on (tractrix; common practice: inside lines
/// sink, outside lines rise).
#[test]
fn a_turn_lets_the_tail_cut_the_corner_and_sink() {
    let (radius, speed, out) = (25.0, 0.55, 20.0);
    let mut chain = sloping(&bouncer(speed, out), 50, speed);
    tow(&mut chain, speed, 150.0);
    let straight = depth(&chain);
    let start = chain.place(0)[0];
    for step in 0..(400.0 / DT) as usize {
        let angle = step as f64 * DT * speed / radius;
        let top = [
            start + radius * angle.sin(),
            radius * (1.0 - angle.cos()),
            0.0,
        ];
        chain.step(DT, top, &Still);
    }
    let tail = chain.place(chain.last());
    let own = (tail[0] - start).hypot(tail[1] - radius);
    assert!(own < 0.97 * radius && own > 0.3 * radius, "{own}");
    assert!(tail[2] > straight, "{} {straight}", tail[2]);
}

/// Momentum: a load on a slack line falls as the closed form has it, `v = v_t tanh(a t / v_t)`, until the line comes
/// taut and holds it. Its mass follows from its weight under water as that of a body of 4 000 kg/m³ (and a gram),
/// and it carries half of the water it displaces along.
#[test]
fn a_load_on_a_slack_line_falls_by_the_closed_form() {
    let (weight, area) = (1.0, 1e-3);
    let load = PointLoad {
        submerged_weight: Newtons(weight),
        drag_area: SquareMetres(area),
        down_area: SquareMetres(0.0),
    };
    let hair = Segment {
        length: Metres(5.0),
        diameter: Metres(1e-6),
        submerged_weight: NewtonsPerMetre(1e-9),
        node: None,
    };
    let line = Towline::new(
        MetresPerSecond(0.0),
        lake(),
        LineDrag::default(),
        load,
        vec![hair],
    )
    .unwrap();
    // Folded in two, so that its tail lies beside its top.
    let mut chain = Chain::of(&line, 20, &[[0.0; 3], [2.5, 0.0, 0.0], [0.0, 0.0, 0.0]]);
    let in_water = weight / GRAVITY;
    let mass = in_water / (1.0 - 1_000.0 / 4_000.0) + 1e-3;
    let carried = mass + 0.5 * (mass - in_water);
    let terminal = (2.0 * weight / (lake().density().0 * area)).sqrt();
    let dt = 0.002;
    let mut t = 0.0;
    for wanted in [0.05, 0.1, 0.2, 0.4, 1.0] {
        while t < wanted - 1e-9 {
            chain.step(dt, [0.0; 3], &Still);
            t += dt;
        }
        let closed = terminal * (weight / carried * t / terminal).tanh();
        let ours = chain.speed_at(chain.last()).0;
        assert!((ours / closed - 1.0).abs() < 0.03, "{t}: {ours} {closed}");
    }
    while t < 12.0 {
        chain.step(dt, [0.0; 3], &Still);
        t += dt;
    }
    assert_relative_eq!(depth(&chain), 5.0, max_relative = 1e-3);
    assert_relative_eq!(chain.top_pull()[2], weight, max_relative = 1e-2);
}

/// A line held in an even current is a line towed at its speed.
#[test]
fn hanging_in_an_even_current_is_being_towed() {
    for speed in [0.3, 0.55, 1.1] {
        let line = bouncer(speed, 20.0);
        let steady = line.solve().unwrap();
        let mut held = Chain::of(&line, 44, &[[0.0; 3], [-1.0, 0.0, 1.0]]);
        for _ in 0..(140.0 / speed / DT) as usize {
            held.step(DT, [0.0; 3], &|_: [f64; 3], _: f64| [-speed, 0.0, 0.0]);
        }
        assert_relative_eq!(depth(&held), steady.tail.depth.0, max_relative = 0.01);
        let met = held.speed_at(held.last()).0;
        assert_relative_eq!(met, speed, max_relative = 1e-3);
    }
}

/// The same motion seen from a bank and from a raft (Galileo): a current under everything changes nothing.
#[test]
fn a_current_under_everything_changes_nothing() {
    let line = bouncer(0.55, 20.0);
    let current = [0.4, -0.3, 0.0];
    let mut here = sloping(&line, 40, 0.55);
    let mut there = Chain::of(&line, 40, &[[0.0; 3], [-1.0, 0.0, 1.0]]).moving([0.95, -0.3, 0.0]);
    for step in 1..=600 {
        let t = f64::from(step) * DT;
        let (x, y) = (0.55 * t, (0.4 * t).sin());
        here.step(DT, [x, y, 0.0], &Still);
        let carried = [x + current[0] * t, y + current[1] * t, 0.0];
        there.step(DT, carried, &|_: [f64; 3], _: f64| current);
        // Thrown out straight, the first seconds are a jerk.
        if t < 15.0 {
            continue;
        }
        for node in [10, 25, here.last()] {
            let (a, b) = (here.place(node), there.place(node));
            for axis in 0..3 {
                let apart = b[axis] - current[axis] * t - a[axis];
                assert!(apart.abs() < 1e-4, "{t} s, node {node}: {a:?} {b:?}");
            }
        }
    }
}

/// What weighs as much as the water it displaces and has no drag goes with the water, however that surges: the
/// push of surging water on a body is that on the water in its place and half of it again (Morison and others,
/// 1950; the half is a sphere's, Lamb, *Hydrodynamics*; both from memory).
#[test]
fn what_weighs_like_water_goes_with_its_surge() {
    let nothing = PointLoad {
        submerged_weight: Newtons(0.0),
        drag_area: SquareMetres(0.0),
        down_area: SquareMetres(0.0),
    };
    let body = NodeLoad {
        mass: Kilograms(0.05),
        ..NodeLoad::of(nothing)
    };
    let hair = Segment {
        length: Metres(9.0),
        diameter: Metres(1e-6),
        submerged_weight: NewtonsPerMetre(0.0),
        node: None,
    };
    let piece = Piece {
        segment: hair,
        below: Some(body),
        cuts: 4,
        virtual_mass: None,
    };
    // Slack, three metres below its top.
    let path = [[0.0; 3], [0.0, 3.0, 3.0], [0.0, 0.0, 3.0]];
    let mut chain = Chain::new(&[piece], LineDrag::default(), &lake(), &path);
    let from = chain.place(chain.last());
    let surge = |_: [f64; 3], t: f64| [0.3 * (2.0 * t).sin(), 0.0, 0.0];
    let dt = 0.002;
    for step in 1..=1_000 {
        chain.step(dt, [0.0; 3], &surge);
        let t = f64::from(step) * dt;
        let water = 0.15 * (1.0 - (2.0 * t).cos());
        let gone = chain.place(chain.last())[0] - from[0];
        assert!((gone - water).abs() < 0.004, "{t} s: {gone} {water}");
    }
}

/// Water that turns like a wheel is drawn to its axle by `ω² r`.
#[test]
fn turning_water_is_drawn_to_its_axle() {
    let turn = 0.7;
    let wheel = |place: [f64; 3], _: f64| [-turn * place[1], turn * place[0], 0.0];
    let drawn = wheel.acceleration([3.0, -4.0, 1.0], 12.0);
    for (ours, exact) in drawn
        .iter()
        .zip([-turn * turn * 3.0, turn * turn * 4.0, 0.0])
    {
        assert!((ours - exact).abs() < 1e-9, "{drawn:?}");
    }
    assert!(
        Still
            .acceleration([3.0, -4.0, 1.0], 12.0)
            .iter()
            .all(|part| *part == 0.0)
    );
}
