//! A set-up with something at its end, at one speed, as pieces the solver knows.
//!
//! Every start comes down to the same picture: a part that is let out as far as it must (main line, lead-core
//! then backing, a downrigger's cable) with a load at its foot, and below it, where the pull changes its plane
//! or its place, a line that is solved first and hung onto it.
//!
//! - From a **rod tip or board**: leader and weight are the lower segments of one plane.
//! - Behind a **trip diver turned to the side** the leader hangs in the plane of travel; the main line lies in
//!   one tilted by the direction of pull at the diver, `tan ψ = side force / (weight + down-force)`. Exact for a
//!   main line without weight; for nylon the error is far below that of the diver's areas.
//! - On a **downrigger** the lure line hangs off its release, the cable carries the ball and all releases.

use super::setup::{LineSetup, Start};
use crate::error::Error;
use crate::tackle::{CABLE, LineStock, Weight, ball_load};
use crate::towline::{LineDrag, Moved, Place, PointLoad, Reach, STRUM, Segment, Shape, Towline};
use crate::units::{Metres, MetresPerSecond, Newtons, Radians, SquareMetres};
use crate::water::Water;

/// Least cosine of a tilted plane: a diver never pulls a line flatter than some 85 degrees.
const FLATTEST: f64 = 0.09;

/// A line solved with so much let out.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Hung {
    /// What is let out.
    pub out: Metres,
    /// Length of the straight piece between rod tip and water.
    pub air: Metres,
    /// By how much its plane is tilted to the side.
    pub tilt: Radians,
    /// Where the weight, the diver or the ball runs.
    pub weight: Option<Place>,
    /// The whole of it, seen from where it enters the water.
    pub shape: Shape,
    /// Number of the profile's point at which its own line ends and a cable begins; the last one without.
    pub own: usize,
}

impl Hung {
    /// How far the piece in the air reaches aft and aside.
    pub fn air_piece(&self) -> (f64, f64) {
        let top = &self.shape.top;
        let (sin, tilt) = (top.angle.0.sin(), self.tilt.0);
        let in_plane = (sin / tilt.cos()).clamp(-1.0, 1.0);
        let aft = self.air.0 * (1.0 - in_plane * in_plane).sqrt();
        (aft, self.air.0 * in_plane * tilt.sin())
    }
}

/// Whether a depth can be had.
pub(crate) enum Depth {
    At(Box<Hung>),
    /// The parts below alone run deeper: the depth with the least out.
    TooShallow(Metres),
    /// The depth with all of it out.
    TooDeep(Metres),
}

/// What another line pulls with where it is clipped to the same cable.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Clipped {
    /// Height of its release above the ball.
    pub above: Metres,
    /// Its pull backwards.
    pub back: Newtons,
    /// Its pull downwards.
    pub down: Newtons,
}

/// A line that hangs off another, with the shape it has far below the surface.
struct Below {
    line: Towline,
    shape: Shape,
    at: usize,
}

impl Below {
    /// Its shape where it hangs so deep: what floats lies on the water and no higher.
    fn hung_at(&self, depth: Metres) -> Result<Shape, Error> {
        if self.shape.highest() + depth < Metres(0.0) {
            return self.line.held_at(depth, true);
        }
        Ok(self.shape.clone())
    }
}

/// The set-up made ready at a speed.
pub(crate) struct Rigging<'a> {
    setup: &'a LineSetup,
    water: &'a Water,
    speed: MetresPerSecond,
    lean: f64,
    /// The line that was solved first, and at which node of the plane it hangs (0 is the foot).
    below: Option<Below>,
    foot: PointLoad,
    lower: Vec<Segment>,
    /// How much of the lower segments counts as let out: the cable below the highest release.
    counted: Metres,
    tops: Vec<Segment>,
    /// Node of the plane at which the weight sits; 0 is the foot.
    weight: Option<usize>,
    drag: LineDrag,
    by: Moved,
}

impl<'a> Rigging<'a> {
    /// Makes a set-up ready with `tail` at its end.
    pub fn new(
        setup: &'a LineSetup,
        tail: PointLoad,
        speed: MetresPerSecond,
        water: &'a Water,
        clipped: &[Clipped],
    ) -> Result<Self, Error> {
        Self::moved(setup, tail, speed, water, clipped, &Moved::default())
    }

    /// The same with figures that are off; the speed is the one it then has.
    pub fn moved(
        setup: &'a LineSetup,
        tail: PointLoad,
        speed: MetresPerSecond,
        water: &'a Water,
        clipped: &[Clipped],
        by: &Moved,
    ) -> Result<Self, Error> {
        let tail = by.tail(tail);
        let mut drag = setup.drag();
        drag.strum *= by.strum;
        let mut rigging = Self {
            setup,
            water,
            speed,
            lean: 0.0,
            below: None,
            foot: tail,
            lower: Vec::new(),
            counted: Metres(0.0),
            tops: Vec::new(),
            weight: None,
            drag,
            by: *by,
        };
        match (setup.start, setup.weight) {
            (Start::Downrigger { .. }, _) => rigging.hang_on_a_cable(tail, clipped)?,
            (_, Some(weight)) if weight.lean().0 > 0.0 => rigging.lean_out(tail, weight)?,
            (_, weight) => rigging.put_behind(weight),
        }
        Ok(rigging)
    }

    /// Leader, weight and what lies between them in one plane.
    fn put_behind(&mut self, weight: Option<Weight>) {
        let node = weight.map(|weight| self.by.node(weight.load(self.water)));
        let ahead = self.setup.ahead;
        if node.is_some() && ahead.0 > 0.0 {
            self.lower.push(self.leader(None));
            self.lower
                .push(self.main_piece(self.setup.main, ahead, node));
            self.weight = Some(2);
        } else {
            self.lower.push(self.leader(node));
            self.weight = node.map(|_| 1);
        }
        self.tops = self.main_line(1.0);
    }

    /// A diver that pulls to the side.
    fn lean_out(&mut self, tail: PointLoad, weight: Weight) -> Result<(), Error> {
        let leader = self.alone(tail, vec![self.leader(None)])?;
        let load = self.by.node(weight.load(self.water));
        let q = self.water.dynamic_pressure(self.speed);
        let push = q * load.down_area.0;
        let (sin, cos) = weight.lean().0.sin_cos();
        let [pulled_back, pulled_down] = pull(&leader.shape);
        let down = load.submerged_weight.0 + pulled_down + push * cos;
        let across = down.hypot(push * sin);
        let upright = if across > 0.0 {
            (down / across).max(FLATTEST)
        } else {
            1.0
        };
        self.lean = upright.acos();
        self.foot = PointLoad {
            submerged_weight: Newtons(across),
            drag_area: load.drag_area + SquareMetres(per(pulled_back, q)),
            down_area: SquareMetres(0.0),
        };
        self.below = Some(leader);
        self.weight = Some(0);
        self.tops = self.main_line(upright);
        Ok(())
    }

    /// A line clipped to a downrigger's cable.
    fn hang_on_a_cable(&mut self, tail: PointLoad, clipped: &[Clipped]) -> Result<(), Error> {
        let Start::Downrigger {
            ball,
            drop_back,
            above,
        } = self.setup.start
        else {
            return Ok(());
        };
        let mut segments = vec![self.leader(None)];
        if drop_back.0 > 0.0 {
            segments.push(self.main_piece(self.setup.main, drop_back, None));
        }
        let mut lure = self.alone(tail, segments)?;
        let [back, down] = pull(&lure.shape).map(Newtons);
        let own = Clipped { above, back, down };
        let q = self.water.dynamic_pressure(self.speed);
        let load = |clip: &Clipped| PointLoad {
            submerged_weight: clip.down,
            drag_area: SquareMetres(per(clip.back.0, q)),
            down_area: SquareMetres(0.0),
        };
        let mut clips: Vec<(Clipped, bool)> = clipped.iter().map(|clip| (*clip, false)).collect();
        clips.push((own, true));
        clips.sort_by(|a, b| a.0.above.0.total_cmp(&b.0.above.0));
        self.foot = self.by.node(ball_load(ball, self.water));
        self.drag = LineDrag {
            strum: STRUM * self.by.strum,
            ..LineDrag::default()
        };
        let mut height = Metres(0.0);
        for (clip, is_own) in clips {
            if clip.above > height {
                self.lower
                    .push(CABLE.segment(clip.above - height, Some(load(&clip)), self.water));
                height = clip.above;
            } else if let Some(node) = self.lower.last_mut().and_then(|last| last.node.as_mut()) {
                *node = with(*node, load(&clip));
            } else {
                self.foot = with(self.foot, load(&clip));
            }
            if is_own {
                lure.at = self.lower.len();
            }
        }
        self.counted = height;
        self.below = Some(lure);
        self.weight = Some(0);
        self.tops = vec![CABLE.segment(self.setup.reel, None, self.water)];
        Ok(())
    }

    /// The pull of this line where it is clipped to a cable.
    pub fn clip(&self) -> Clipped {
        let above = match self.setup.start {
            Start::Downrigger { above, .. } => above,
            Start::RodTip { .. } | Start::Board => Metres(0.0),
        };
        let [back, down] = self
            .below
            .as_ref()
            .map_or([0.0; 2], |lure| pull(&lure.shape))
            .map(Newtons);
        Clipped { above, back, down }
    }

    fn main_piece(&self, stock: LineStock, length: Metres, node: Option<PointLoad>) -> Segment {
        let piece = stock.segment(length, node, self.water);
        Segment {
            diameter: piece.diameter * self.by.diameter,
            ..piece
        }
    }

    fn leader(&self, node: Option<PointLoad>) -> Segment {
        self.setup.leader.segment(self.setup.lead, node, self.water)
    }

    /// What is let out, from below up: a sinking section if there is one, then the main line.
    fn main_line(&self, upright: f64) -> Vec<Segment> {
        let setup = self.setup;
        let core = setup
            .core
            .map(|core| self.main_piece(core.stock, core.length, None));
        let main = self.main_piece(setup.main, setup.reel, None);
        core.into_iter()
            .chain([main])
            .map(|segment| Segment {
                submerged_weight: segment.submerged_weight * upright,
                ..segment
            })
            .collect()
    }

    /// A line of its own that ends where it is clipped on.
    fn alone(&self, tail: PointLoad, segments: Vec<Segment>) -> Result<Below, Error> {
        let line = Towline::new(self.speed, *self.water, self.drag, tail, segments)?;
        let shape = line.held_at(Metres(f64::INFINITY), true)?;
        Ok(Below { line, shape, at: 0 })
    }

    /// Height of the rod tip, measured in the plane of the line.
    fn tip_height(&self) -> Metres {
        Metres(self.setup.tip_height().0 / self.lean.cos())
    }

    /// The line with the last of `pieces` let out; those before it are out whole.
    fn towline(&self, pieces: &[Segment]) -> Result<Towline, Error> {
        let segments = self.lower.iter().chain(pieces).copied().collect();
        Towline::new(self.speed, *self.water, self.drag, self.foot, segments)
    }

    /// Where it runs with so much out.
    pub fn at(&self, out: Metres) -> Result<Hung, Error> {
        let mut whole = self.counted;
        let mut hung = None;
        for count in 1..=self.tops.len() {
            let towline = self.towline(&self.tops[..count])?;
            let shape = towline.solve_setback(out - whole, self.tip_height())?;
            let last = self.tops[count - 1].length;
            let all_of_it = shape.top_length > last;
            hung = Some(self.hung(shape, out)?);
            if !all_of_it {
                break;
            }
            whole = whole + last;
        }
        hung.ok_or_else(|| Error::contradiction("reel_m", "there is no line to let out"))
    }

    /// What must be out for the rig to run at a depth.
    pub fn reach(&self, wanted: Metres) -> Result<Depth, Error> {
        let below = self.below.as_ref();
        let sag = below.map_or(Metres(0.0), |below| below.shape.tail_depth());
        self.seek(wanted - sag - self.attach_height()?)
    }

    /// What must be out for its deepest part to touch a depth.
    pub fn touch(&self, bottom: Metres) -> Result<Depth, Error> {
        let Some(below) = &self.below else {
            return self.seek_where(|towline, longest| towline.touch(bottom, longest));
        };
        let foot_above_rig = below.shape.deepest() + self.attach_height()?;
        self.seek(bottom - Metres(foot_above_rig.0.max(0.0)))
    }

    /// Depth of the place where the lower line hangs, less that of the foot: 0 or negative.
    fn attach_height(&self) -> Result<Metres, Error> {
        let Some(Below { at: at @ 1.., .. }) = &self.below else {
            return Ok(Metres(0.0));
        };
        let lower = self.lower[..*at].to_vec();
        let shape = Towline::new(self.speed, *self.water, self.drag, self.foot, lower)?.solve()?;
        Ok(-shape.tail_depth())
    }

    /// The same for the foot of the plane.
    fn seek(&self, foot: Metres) -> Result<Depth, Error> {
        let in_plane = Metres(foot.0 / self.lean.cos());
        if in_plane.0 <= 0.0 {
            let least = self.below.as_ref().map(|below| below.shape.tail_depth());
            return Ok(Depth::TooShallow(least.unwrap_or_default()));
        }
        self.seek_where(|towline, longest| towline.reach(in_plane, longest))
    }

    fn seek_where(
        &self,
        reach: impl Fn(&Towline, Metres) -> Result<Reach, Error>,
    ) -> Result<Depth, Error> {
        let mut whole = self.counted;
        let mut deepest = Metres(0.0);
        for count in 1..=self.tops.len() {
            let last = self.tops[count - 1].length;
            match reach(&self.towline(&self.tops[..count])?, last)? {
                Reach::At(shape) => {
                    let out = whole + shape.top_length + self.air(&shape);
                    if out <= self.setup.reel {
                        return Ok(Depth::At(Box::new(self.hung(shape, out)?)));
                    }
                    deepest = self.at(self.setup.reel)?.shape.tail_depth();
                }
                Reach::TooShallow(shape) => {
                    let hung = self.hung(shape, whole)?;
                    return Ok(Depth::TooShallow(hung.shape.tail_depth()));
                }
                Reach::TooDeep(shape) => deepest = self.hung(shape, whole)?.shape.tail_depth(),
            }
            whole = whole + last;
        }
        Ok(Depth::TooDeep(deepest))
    }

    fn air(&self, shape: &Shape) -> Metres {
        let height = self.tip_height();
        if height.0 == 0.0 {
            return Metres(0.0);
        }
        Metres(height.0 / shape.top.angle.0.sin())
    }

    /// The plane tilted, the lower line hung onto it.
    fn hung(&self, mut plane: Shape, out: Metres) -> Result<Hung, Error> {
        let air = self.air(&plane);
        if self.lean > 0.0 {
            tilt(&mut plane, self.lean);
        }
        let node = |at: usize, shape: &Shape| match at {
            0 => shape.tail,
            at => shape.nodes[at - 1],
        };
        let weight = self.weight.map(|at| node(at, &plane));
        let is_cable = self.setup.lets_out_cable();
        let below = match &self.below {
            Some(below) => Some(below.hung_at(node(below.at, &plane).depth)?),
            None => None,
        };
        let own = match &below {
            Some(below) if is_cable => below.profile.len() - 1,
            _ => plane.profile.len() - 1 + below.as_ref().map_or(0, |below| below.profile.len()),
        };
        let shape = match (&below, &self.below) {
            (Some(below), Some(Below { at, .. })) => joined(below, node(*at, &plane), plane),
            _ => plane,
        };
        Ok(Hung {
            own,
            out,
            air,
            tilt: Radians(self.lean),
            weight,
            shape,
        })
    }
}

/// Backward and downward pull at the upper end of a line, N.
pub(crate) fn pull(shape: &Shape) -> [f64; 2] {
    let (sin, cos) = shape.top.angle.0.sin_cos();
    [shape.top.tension.0 * cos, shape.top.tension.0 * sin]
}

/// The drag area that a force stands for at a dynamic pressure.
fn per(force: f64, q: f64) -> f64 {
    if q > 0.0 { (force / q).max(0.0) } else { 0.0 }
}

fn with(a: PointLoad, b: PointLoad) -> PointLoad {
    PointLoad {
        submerged_weight: a.submerged_weight + b.submerged_weight,
        drag_area: a.drag_area + b.drag_area,
        down_area: a.down_area + b.down_area,
    }
}

/// Leans a plane out by an angle.
fn tilt(shape: &mut Shape, lean: f64) {
    let (sin, cos) = lean.sin_cos();
    let places = shape
        .nodes
        .iter_mut()
        .chain(&mut shape.profile)
        .chain(std::iter::once(&mut shape.tail));
    for place in places {
        (place.depth, place.aside) = (place.depth * cos, place.depth * sin);
    }
    let angle = &mut shape.top.angle.0;
    *angle = (angle.sin() * cos).asin();
}

/// The lower line moved to where it hangs, then the plane.
fn joined(below: &Shape, at: Place, plane: Shape) -> Shape {
    let moved = |place: &Place| Place {
        run: place.run + at.run,
        depth: place.depth + at.depth,
        aside: place.aside + at.aside,
    };
    let mut nodes: Vec<Place> = below.nodes.iter().map(moved).collect();
    nodes.push(plane.tail);
    nodes.extend(plane.nodes);
    let mut profile: Vec<Place> = below.profile.iter().map(moved).collect();
    // Where the lower line is clipped half way up, the drawing goes on from there.
    profile.extend(
        plane
            .profile
            .into_iter()
            .filter(|place| place.depth <= at.depth),
    );
    Shape {
        tail: moved(&below.tail),
        nodes,
        top: plane.top,
        top_length: plane.top_length,
        profile,
    }
}
