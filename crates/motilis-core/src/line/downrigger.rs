//! Two lines in one: the lure line from the rig to the release, the cable from the ball to the water.

use crate::error::{Error, Range};
use crate::tackle::{CABLE_DIAMETER, ball_load};
use crate::towline::{LineDrag, Place, PointLoad, Reach, Segment, Shape, Towline};
use crate::units::{
    GRAVITY, Kilograms, Metres, MetresPerSecond, Newtons, NewtonsPerMetre, SquareMetres,
};
use crate::water::Water;
use std::f64::consts::PI;

const CABLE: Range = Range::above(0.0, 400.0, "m", "above 0 and at most 400 m");

/// The shape with so much cable out: the lure line hung behind the ball.
pub(super) fn with_cable(
    lure_line: &Towline,
    ball: Kilograms,
    cable: Metres,
    speed: MetresPerSecond,
    water: &Water,
) -> Result<Shape, Error> {
    CABLE.check("setback_m", cable.0)?;
    let lure = lure_line.solve_with_profile()?;
    let cable = cable_line(&lure, ball, cable, speed, water)?.solve_with_profile()?;
    Ok(joined(&lure, cable))
}

/// The cable that puts the rig, with the sag of its own line, at a depth.
pub(super) fn reach(
    lure_line: &Towline,
    ball: Kilograms,
    wanted: Metres,
    longest: Metres,
    speed: MetresPerSecond,
    water: &Water,
) -> Result<Reach, Error> {
    let lure = lure_line.solve_with_profile()?;
    let ball_depth = wanted - lure.tail_depth();
    if ball_depth.0 <= 0.0 {
        return Ok(Reach::TooShallow(lure));
    }
    let cable = cable_line(&lure, ball, longest, speed, water)?;
    Ok(match cable.reach(ball_depth, longest)? {
        Reach::At(shape) => Reach::At(joined(&lure, shape)),
        Reach::TooDeep(shape) => Reach::TooDeep(joined(&lure, shape)),
        Reach::TooShallow(_) => Reach::TooShallow(lure),
    })
}

/// The cable with the ball at its tail, pulled back by what the release holds.
fn cable_line(
    lure: &Shape,
    ball: Kilograms,
    length: Metres,
    speed: MetresPerSecond,
    water: &Water,
) -> Result<Towline, Error> {
    let q = water.dynamic_pressure(speed);
    let load = ball_load(ball, water);
    let pull = lure.top.tension.0 * lure.top.angle.0.cos();
    let sag = lure.top.tension.0 * lure.top.angle.0.sin();
    let tail = PointLoad {
        submerged_weight: load.submerged_weight + Newtons(sag),
        drag_area: load.drag_area + SquareMetres(if q > 0.0 { pull / q } else { 0.0 }),
        ..load
    };
    let section = PI / 4.0 * CABLE_DIAMETER.0.powi(2);
    let steel = (crate::blade::STEEL - water.density()).0;
    let segment = Segment {
        length,
        diameter: CABLE_DIAMETER,
        submerged_weight: NewtonsPerMetre(steel * GRAVITY * section),
        node: None,
    };
    Towline::new(speed, *water, LineDrag::default(), tail, vec![segment])
}

/// The lure line moved down and back to where the ball hangs, then the cable.
fn joined(lure: &Shape, cable: Shape) -> Shape {
    let ball = cable.tail;
    let behind = |place: &Place| Place {
        run: place.run + ball.run,
        depth: place.depth + ball.depth,
    };
    let mut nodes: Vec<Place> = lure.nodes.iter().map(behind).collect();
    nodes.extend(cable.nodes);
    let mut profile: Vec<Place> = lure.profile.iter().map(behind).collect();
    profile.extend(cable.profile);
    Shape {
        tail: behind(&lure.tail),
        nodes,
        top: cable.top,
        top_length: cable.top_length,
        profile,
    }
}
