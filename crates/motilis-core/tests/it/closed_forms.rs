//! Towed lines whose shape is known exactly; the algebra stands beside each.

use approx::{assert_abs_diff_eq, assert_relative_eq};
use motilis_core::towline::{LineDrag, NormalDrag, PointLoad, Reach, Segment, Towline};
use motilis_core::units::{
    Celsius, Metres, MetresPerSecond, Newtons, NewtonsPerMetre, SquareMetres,
};
use motilis_core::water::Water;
use rstest::rstest;

const BARE: LineDrag = LineDrag {
    normal: NormalDrag::Constant(0.0),
    tangential: 0.0,
    strum: 1.0,
    held: 1.0,
};
const CONSTANT: LineDrag = LineDrag {
    normal: NormalDrag::Constant(1.2),
    ..BARE
};
const SINKER: PointLoad = PointLoad {
    submerged_weight: Newtons(0.25),
    drag_area: SquareMetres(5e-4),
    down_area: SquareMetres(0.0),
};

fn lake() -> Water {
    Water::fresh(Celsius(15.0)).unwrap()
}

fn piece(length: f64, diameter: f64, weight: f64) -> Segment {
    Segment {
        length: Metres(length),
        diameter: Metres(diameter),
        submerged_weight: NewtonsPerMetre(weight),
        node: None,
    }
}

fn line(speed: f64, drag: LineDrag, tail: PointLoad, segments: Vec<Segment>) -> Towline {
    Towline::new(MetresPerSecond(speed), lake(), drag, tail, segments).unwrap()
}

#[test]
fn a_line_without_drag_is_straight() {
    let shape = line(0.6, BARE, SINKER, vec![piece(25.0, 3e-4, 0.0)])
        .solve()
        .unwrap();
    let q = lake().dynamic_pressure(MetresPerSecond(0.6));
    let phi_0 = SINKER.submerged_weight.0.atan2(q * SINKER.drag_area.0);
    assert_relative_eq!(
        shape.tail_depth().0,
        25.0 * phi_0.sin(),
        max_relative = 1e-9
    );
    assert_relative_eq!(shape.tail.run.0, 25.0 * phi_0.cos(), max_relative = 1e-9);
}

/// With `R = q K C_n d`, `w = 0` and `C_t = 0` the tension is constant and
/// `s = (T/R)(cot φ − cot φ₀)`, `z = (T/R) ln(tan(φ₀/2) / tan(φ/2))`, `x = (T/R)(1/sin φ − 1/sin φ₀)`.
/// Integrate `dφ/ds = −(R/T) sin²φ` to check by hand.
#[rstest]
#[case(0.5, 3e-4, 20.0)]
#[case(1.0, 3e-4, 60.0)]
#[case(0.3, 9e-4, 5.0)]
fn a_weightless_line_hangs_in_the_known_curve(
    #[case] speed: f64,
    #[case] diameter: f64,
    #[case] length: f64,
) {
    let shape = line(speed, CONSTANT, SINKER, vec![piece(length, diameter, 0.0)])
        .solve()
        .unwrap();
    let q = lake().dynamic_pressure(MetresPerSecond(speed));
    let (h, v) = (q * SINKER.drag_area.0, SINKER.submerged_weight.0);
    let (t, phi_0) = (h.hypot(v), v.atan2(h));
    let t_over_r = t / (q * 1.2 * diameter);
    let phi = (1.0 / (length / t_over_r + 1.0 / phi_0.tan())).atan();
    let z = t_over_r * ((phi_0 / 2.0).tan() / (phi / 2.0).tan()).ln();
    let x = t_over_r * (1.0 / phi.sin() - 1.0 / phi_0.sin());
    assert_relative_eq!(shape.top.tension.0, t, max_relative = 1e-5);
    assert_relative_eq!(shape.top.angle.0, phi, max_relative = 1e-4);
    assert_relative_eq!(shape.tail_depth().0, z, max_relative = 1e-4);
    assert_relative_eq!(shape.tail.run.0, x, max_relative = 1e-4);
}

/// A long heavy line with nothing at its tail lies straight at the critical angle:
/// `w cos φ = R sin²φ`, so `cos φ_c = −a + √(a² + 1)` with `a = w / (2R)`.
#[rstest]
#[case(0.9)]
#[case(0.45)]
#[case(2.0)]
fn lead_core_alone_lies_at_the_critical_angle(#[case] speed: f64) {
    let (diameter, weight, length) = (9e-4, 0.0205, 100.0);
    let tow = line(
        speed,
        CONSTANT,
        PointLoad::default(),
        vec![piece(length, diameter, weight)],
    );
    let shape = tow.solve().unwrap();
    let q = lake().dynamic_pressure(MetresPerSecond(speed));
    let a = weight / (2.0 * q * 1.2 * diameter);
    let phi_c = ((a * a + 1.0).sqrt() - a).acos();
    assert_abs_diff_eq!(shape.top.angle.0, phi_c, epsilon = 1e-6);
    assert_relative_eq!(
        shape.tail_depth().0,
        length * phi_c.sin(),
        max_relative = 1e-5
    );
}

#[test]
fn a_line_at_rest_hangs_straight_down() {
    let tow = line(
        0.0,
        LineDrag::default(),
        SINKER,
        vec![piece(12.0, 3e-4, 1e-4)],
    );
    let shape = tow.solve().unwrap();
    assert_relative_eq!(shape.tail_depth().0, 12.0, max_relative = 1e-9);
    assert_abs_diff_eq!(shape.tail.run.0, 0.0, epsilon = 1e-9);
    assert_relative_eq!(shape.top.tension.0, 0.25 + 12.0 * 1e-4, max_relative = 1e-9);
}

#[test]
fn a_line_at_rest_with_nothing_on_it_hangs_too() {
    let tow = line(
        0.0,
        LineDrag::default(),
        PointLoad::default(),
        vec![piece(12.0, 3e-4, 0.0)],
    );
    assert_relative_eq!(
        tow.solve().unwrap().tail_depth().0,
        12.0,
        max_relative = 1e-9
    );
}

/// The vertical force at the top is the sum of all weights and down-forces less the lift of the line's
/// drag, which a trapezoid sum over the drawn profile gives a second way.
#[test]
fn the_forces_on_the_line_balance() {
    let speed = 0.7;
    let diver = PointLoad {
        submerged_weight: Newtons(0.1),
        drag_area: SquareMetres(2e-3),
        down_area: SquareMetres(2.2e-3),
    };
    let mut leader = piece(2.0, 3e-4, 1e-4);
    leader.node = Some(diver);
    let (diameter, weight) = (4e-4, 2e-4);
    let drag = LineDrag {
        tangential: 0.0,
        ..CONSTANT
    };
    let main = piece(30.0, diameter, weight);
    let tow = line(speed, drag, SINKER, vec![leader, main]);
    let shape = tow.solve_with_profile().unwrap();
    let q = lake().dynamic_pressure(MetresPerSecond(speed));
    let (mut lift, mut back) = (0.0, 0.0);
    for pair in shape.profile.windows(2) {
        let dx = (pair[0].run - pair[1].run).0;
        let dz = (pair[0].depth - pair[1].depth).0;
        let ds = dx.hypot(dz);
        let sin = dz / ds;
        let upper = pair[1].depth.0 < shape.nodes[0].depth.0 - 1e-9;
        let across = q * 1.2 * if upper { diameter } else { 3e-4 } * sin * sin * ds;
        lift += across * dx / ds;
        back += across * dz / ds;
    }
    let weights = 0.25 + 0.1 + 2.0 * 1e-4 + 30.0 * weight + q * 2.2e-3;
    let drags = q * (5e-4 + 2e-3);
    let vertical = shape.top.tension.0 * shape.top.angle.0.sin();
    let horizontal = shape.top.tension.0 * shape.top.angle.0.cos();
    assert_relative_eq!(vertical, weights - lift, max_relative = 2e-3);
    assert_relative_eq!(horizontal, drags + back, max_relative = 2e-3);
}

/// From a rod tip the air piece is straight: the setback is what lies in the water plus `h / sin φ`.
#[test]
fn the_air_piece_takes_its_share_of_the_setback() {
    let tow = line(0.5, CONSTANT, SINKER, vec![piece(1.0, 3e-4, 0.0)]);
    let (setback, height) = (Metres(20.0), Metres(1.5));
    let shape = tow.solve_setback(setback, height).unwrap();
    let air = height.0 / shape.top.angle.0.sin();
    assert_relative_eq!(shape.top_length.0 + air, setback.0, max_relative = 1e-6);
    let same = line(
        0.5,
        CONSTANT,
        SINKER,
        vec![piece(shape.top_length.0, 3e-4, 0.0)],
    );
    assert_relative_eq!(
        same.solve().unwrap().tail_depth().0,
        shape.tail_depth().0,
        max_relative = 1e-5
    );
}

#[test]
fn a_setback_that_does_not_reach_the_water_is_refused() {
    let tow = line(0.5, CONSTANT, SINKER, vec![piece(1.0, 3e-4, 0.0)]);
    let refusal = tow.solve_setback(Metres(1.0), Metres(1.5)).unwrap_err();
    assert!(refusal.to_string().contains("let out more"), "{refusal}");
}

/// A weightless line flattens for ever; its depth grows with the logarithm of its length only.
#[test]
fn a_depth_out_of_reach_names_the_weight_that_would_reach_it() {
    let tow = line(1.0, CONSTANT, SINKER, vec![piece(1.0, 3e-4, 0.0)]);
    let (target, longest) = (Metres(20.0), Metres(60.0));
    let Reach::TooDeep(shape) = tow.reach(target, longest).unwrap() else {
        panic!("20 m are out of reach")
    };
    assert!(shape.tail_depth() < target && shape.top_length == longest);
    let heavier = tow.weight_to_reach(target, longest).unwrap();
    let times = heavier / SINKER.submerged_weight.0;
    let sinker = PointLoad {
        submerged_weight: Newtons(heavier),
        drag_area: SINKER.drag_area * times.powf(2.0 / 3.0),
        ..SINKER
    };
    let depth = line(1.0, CONSTANT, sinker, vec![piece(60.0, 3e-4, 0.0)])
        .solve()
        .unwrap()
        .tail_depth();
    assert_relative_eq!(depth.0, 20.0, max_relative = 1e-2);
}

#[test]
fn a_leader_that_already_hangs_deeper_is_an_answer_too() {
    let tow = line(
        0.1,
        CONSTANT,
        SINKER,
        vec![piece(3.0, 3e-4, 0.0), piece(1.0, 3e-4, 0.0)],
    );
    assert!(matches!(
        tow.reach(Metres(1.0), Metres(50.0)).unwrap(),
        Reach::TooShallow(_)
    ));
}

/// A weight that hangs below a floating rig touches first.
#[test]
fn the_deepest_load_touches_the_bottom() {
    let float = PointLoad {
        submerged_weight: Newtons(-0.02),
        drag_area: SquareMetres(1e-4),
        down_area: SquareMetres(0.0),
    };
    let mut leader = piece(1.0, 3e-4, 0.0);
    leader.node = Some(SINKER);
    let tow = line(0.3, CONSTANT, float, vec![leader, piece(1.0, 3e-4, 0.0)]);
    let Reach::At(shape) = tow.touch(Metres(6.0), Metres(100.0)).unwrap() else {
        panic!("6 m can be reached")
    };
    assert!(shape.tail_depth() < shape.nodes[0].depth);
    assert_relative_eq!(shape.deepest().0, 6.0, max_relative = 1e-5);
}
