//! The walk from the tail to the surface.

use super::Towline;
use super::load::{LineDrag, PointLoad, Segment};
use super::shape::{Place, Shape, Top};
use crate::error::Error;
use crate::numeric::{DormandPrince, Step, root};
use crate::units::{Metres, Newtons, Radians};
use std::cell::Cell;
use std::f64::consts::PI;
use std::ops::ControlFlow;

/// `H`, `V` in N; run `x` and height `z` above the tail in m.
pub(super) type State = [f64; 4];

/// Tolerances that leave a hundredth of the accuracy promised in the module's head.
const WALK: DormandPrince<4> = DormandPrince {
    relative: 3e-6,
    absolute: [1e-7, 1e-7, 2e-5, 2e-5],
    most_steps: 20_000,
};

/// Points of a drawing inside each step of the walk.
const POINTS_A_STEP: usize = 4;

/// Where the walk along the last segment ends.
#[derive(Debug, Clone, Copy)]
pub(super) enum Stop {
    /// At its end.
    End,
    /// When the tail is so deep.
    TailDepth(Metres),
    /// When the deepest load is so deep.
    Deepest(Metres),
    /// When this much, with the piece in the air, is let out.
    Setback { setback: Metres, tip_height: Metres },
}

impl Stop {
    /// By how much the stop is passed with `s` of the last segment walked; `lowest` is the height of the lowest load
    /// above the tail.
    pub(super) fn past(self, s: f64, y: &State, slope: &Slope, lowest: f64) -> f64 {
        match self {
            Self::End => -1.0,
            Self::TailDepth(depth) => y[3] - depth.0,
            Self::Deepest(depth) => y[3] - lowest - depth.0,
            Self::Setback {
                setback,
                tip_height,
            } => s + air_piece(tip_height, y, slope.free) - setback.0,
        }
    }
}

/// What the walk found.
pub(super) struct End {
    pub shape: Shape,
    /// Whether a part of it may lie higher than its end: something floats.
    pub dips: bool,
    /// Whether the stop was met (always so for the end).
    pub found: bool,
    /// By how much the stop was passed all the way along the last segment.
    pub short_by: Option<f64>,
}

/// The forces on a piece of line, made ready for the inner loop.
pub(super) struct Slope {
    drag: LineDrag,
    /// `q d`, N/m, to be multiplied by `K C_n sin²φ`.
    across: f64,
    /// `q C_t π d`, N/m, to be multiplied by `cos²φ`.
    along: f64,
    /// `U d / ν`.
    reynolds: f64,
    /// Submerged weight, N/m.
    pub(super) weight: f64,
    /// Direction taken where the line has no tension yet.
    pub(super) free: [f64; 2],
}

impl Slope {
    pub(super) fn new(segment: &Segment, line: &Towline, q: f64) -> Self {
        let (drag, speed, water) = (&line.drag, line.speed.0, &line.water);
        let d = segment.diameter.0;
        let mut slope = Self {
            drag: *drag,
            across: q * d,
            along: q * drag.tangential * PI * d,
            reynolds: speed * d / water.viscosity().0,
            weight: segment.submerged_weight.0,
            free: [0.0, 1.0],
        };
        let (sin, cos) = slope.critical_angle().sin_cos();
        slope.free = [cos, sin];
        slope
    }

    /// Angle at which weight and drag across a line without a tail balance, `w cos φ = f_n(φ)`.
    fn critical_angle(&self) -> f64 {
        let surplus = |phi: f64| self.weight * phi.cos() - self.normal_force(phi.sin());
        root(surplus, PI / 2.0, -PI / 2.0, 1e-12).unwrap_or((PI / 2.0).copysign(self.weight))
    }

    /// Drag across the line per metre, with the sign of `sin φ`.
    fn normal_force(&self, sin: f64) -> f64 {
        let (held, _) = self.drag.across(self.reynolds * sin.abs());
        self.across * held * sin * sin.abs()
    }

    /// Lays a length of it on the water: pulled on along itself only.
    pub(super) fn lie_flat(&self, walk: &mut Walk, length: f64) {
        let [h, _, x, z] = walk.y;
        walk.arrive([h + self.along * length, 0.0, x + length, z]);
    }

    fn direction(&self, y: &State) -> [f64; 2] {
        let tension = (y[0] * y[0] + y[1] * y[1]).sqrt();
        if tension > 0.0 {
            [y[0] / tension, y[1] / tension]
        } else {
            self.free
        }
    }

    fn at(&self, y: &State) -> State {
        let [cos, sin] = self.direction(y);
        let f_n = self.normal_force(sin);
        let f_t = self.along * cos * cos.abs();
        [
            f_t * cos + f_n * sin,
            self.weight + f_t * sin - f_n * cos,
            cos,
            sin,
        ]
    }
}

/// Collects the walk and turns it round, from "above the tail" to "below the surface".
#[derive(Clone)]
pub(super) struct Walk {
    pub(super) y: State,
    /// Height of the tail.
    tail: f64,
    /// `x`, `z` of the upper ends of the segments done.
    ends: Vec<[f64; 2]>,
    /// `x`, `z` of the points of the drawing; empty when none is wanted.
    points: Vec<[f64; 2]>,
    drawing: bool,
    /// Whether it pulled downwards somewhere: only then can a part lie higher than its end.
    pub(super) dips: bool,
    pub(super) free: [f64; 2],
}

impl Walk {
    /// The beginning of a walk, at the tail.
    pub(super) fn from_tail(line: &Towline, drawing: bool) -> Self {
        let [back, down] = line.tail.forces(line.pressure());
        let mut walk = Self {
            y: [back, down, 0.0, 0.0],
            tail: 0.0,
            ends: Vec::with_capacity(line.segments.len()),
            points: Vec::new(),
            drawing,
            dips: down < 0.0,
            free: [0.0, 1.0],
        };
        if drawing {
            walk.points.reserve(128);
            walk.points.push([0.0, 0.0]);
        }
        walk
    }

    /// Every height of it changed.
    fn map_heights(&mut self, map: impl Fn(f64) -> f64) {
        let places = self.ends.iter_mut().chain(&mut self.points);
        places.for_each(|place| place[1] = map(place[1]));
        self.tail = map(self.tail);
        self.y[3] = map(self.y[3]);
    }

    /// Lifts all of it.
    pub(super) fn shift(&mut self, by: f64) {
        self.map_heights(|z| z + by);
    }

    /// Lowers to a height what lies higher.
    pub(super) fn clip(&mut self, ceiling: f64) {
        self.map_heights(|z| z.min(ceiling));
    }

    fn record(&mut self, step: &Step<4>, up_to: f64) {
        if !self.drawing {
            return;
        }
        for i in 1..POINTS_A_STEP {
            let share = i as f64 / POINTS_A_STEP as f64 * up_to;
            let [_, _, x, z] = step.between(share);
            self.points.push([x, z]);
        }
    }

    fn arrive(&mut self, y: State) {
        self.y = y;
        self.dips |= y[1] < 0.0;
        if self.drawing {
            self.points.push([y[2], y[3]]);
        }
    }

    pub(super) fn end_segment(&mut self, node: Option<&PointLoad>, q: f64) {
        self.ends.push([self.y[2], self.y[3]]);
        if let Some(node) = node {
            let [back, down] = node.forces(q);
            self.y[0] += back;
            self.y[1] += down;
            self.dips |= self.y[1] < 0.0;
        }
    }

    /// Height of the lowest load above the tail: 0, or below it.
    fn lowest(&self) -> f64 {
        self.ends.iter().map(|end| end[1]).fold(0.0, f64::min)
    }

    pub(super) fn shape(self, top_length: f64) -> Shape {
        let [h, v, run, height] = self.y;
        let place = |[x, z]: [f64; 2]| Place {
            run: Metres(run - x),
            depth: Metres(height - z),
            aside: Metres(0.0),
        };
        let angle = if h == 0.0 && v == 0.0 {
            self.free[1].atan2(self.free[0])
        } else {
            v.atan2(h)
        };
        Shape {
            tail: place([0.0, self.tail]),
            nodes: self.ends.iter().copied().map(place).collect(),
            top: Top {
                tension: Newtons(h.hypot(v)),
                angle: Radians(angle),
            },
            top_length: Metres(top_length),
            profile: self.points.iter().copied().map(place).collect(),
        }
    }
}

/// Walks the line from its tail to the stop, at most `longest` along its last segment.
pub(super) fn march(
    line: &Towline,
    stop: Stop,
    longest: Metres,
    drawing: bool,
) -> Result<End, Error> {
    let q = line.pressure();
    let mut walk = Walk::from_tail(line, drawing);
    let (top, lower) = line.segments.split_last().expect("a line has a segment");
    for segment in lower {
        let slope = Slope::new(segment, line, q);
        walk_segment(&mut walk, &slope, segment.length.0, |_, _| -1.0)?;
        walk.end_segment(segment.node.as_ref(), q);
    }

    let slope = &Slope::new(top, line, q);
    walk.free = slope.free;
    let lowest = walk.lowest();
    let past = |s: f64, y: &State| stop.past(s, y, slope, lowest);
    let surplus = past(0.0, &walk.y);
    if surplus > 0.0 && !matches!(stop, Stop::Setback { .. }) {
        walk.end_segment(top.node.as_ref(), q);
        return Ok(End {
            dips: walk.dips,
            shape: walk.shape(0.0),
            found: false,
            short_by: Some(surplus),
        });
    }
    // A heavy line behind a light rig steepens as it rises, and the piece in the air then shortens faster than the
    // line grows: the rod tip may be out of reach at first and within it further up.
    let least = Cell::new(surplus);
    let (length, found) = walk_segment(&mut walk, slope, longest.0, |s, y| {
        let past = past(s, y);
        least.set(least.get().min(past));
        past
    })?;
    walk.end_segment(top.node.as_ref(), q);
    Ok(End {
        dips: walk.dips,
        shape: walk.shape(length),
        found: found || matches!(stop, Stop::End),
        short_by: Some(least.get()).filter(|least| *least > 0.0),
    })
}

/// Length of the straight piece between the water and a rod tip, m; endless for a flat line.
fn air_piece(tip_height: Metres, y: &State, free: [f64; 2]) -> f64 {
    if tip_height.0 == 0.0 {
        return 0.0;
    }
    let tension = y[0].hypot(y[1]);
    let sin = if tension > 0.0 {
        y[1] / tension
    } else {
        free[1]
    };
    if sin > 0.0 {
        tip_height.0 / sin
    } else {
        f64::INFINITY
    }
}

/// Walks one segment until `past` turns from negative to positive or `length` is done; says how far it came.
pub(super) fn walk_segment(
    walk: &mut Walk,
    slope: &Slope,
    length: f64,
    past: impl Fn(f64, &State) -> f64,
) -> Result<(f64, bool), Error> {
    let f = |y: &State| slope.at(y);
    let start = walk.y;
    let tension = start[0].hypot(start[1]);
    let turning = {
        let slope = f(&start);
        slope[0].hypot(slope[1])
    };
    // A tenth of the length over which the tension would turn; a millimetre without tension.
    let first = (0.1 * tension / turning.max(1e-12)).clamp(1e-3, length.max(1e-3));
    let mut found = None;
    let mut short = past(0.0, &start) <= 0.0;
    let end = WALK
        .integrate(f, (0.0, length), start, first, |step| {
            let was_short = std::mem::replace(&mut short, past(step.to, &step.end) <= 0.0);
            if short || !was_short {
                walk.record(step, 1.0);
                walk.arrive(step.end);
                return ControlFlow::Continue(());
            }
            let width = step.to - step.from;
            let h = root(
                |h| past(step.from + h, &step.again(f, h)),
                0.0,
                width,
                1e-7 * (1.0 + step.to),
            )
            .unwrap_or(width);
            walk.record(step, h / width);
            walk.arrive(step.again(f, h));
            found = Some(step.from + h);
            ControlFlow::Break(())
        })
        .map_err(|stopped| Error::Slack {
            along_m: stopped.at,
        })?;
    if let ControlFlow::Continue(y) = end {
        walk.y = y;
    }
    Ok(found.map_or((length, false), |s| (s, true)))
}
