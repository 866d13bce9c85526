//! The steady shape of a line towed through still or moving water.
//!
//! A planar cable with point loads, started at the tail (the rig) and walked up to the surface.
//! With `T` tension, `φ` angle above the horizontal, `s` arc length from the tail and
//! `q = ρ U² / 2`, the classical equations are
//!
//! ```text
//! dT/ds   = w sin φ + q C_t π d cos²φ
//! T dφ/ds = w cos φ − q K C_n(Re) d sin²φ          Re = U |sin φ| d / ν
//! ```
//!
//! with the sign kept in the squares. We integrate them in components, `H = T cos φ` and
//! `V = T sin φ`, which is the same balance of forces without the division by `T` and without a
//! sine or cosine:
//!
//! ```text
//! dH/ds = f_t cos φ + f_n sin φ        dx/ds = cos φ = H / T
//! dV/ds = w + f_t sin φ − f_n cos φ    dz/ds = sin φ = V / T
//! ```
//!
//! A [`Towline`] is the whole problem; [`Towline::solve`] gives a [`Shape`], and
//! [`Towline::reach`] the length of the last segment that puts the tail at a wanted depth. Because
//! the walk starts at the tail, the length of the last segment only says where it ends: the inverse
//! costs one walk, like the forward solution.
//!
//! # Which normal drag?
//! | law | use |
//! |---|---|
//! | [`NormalDrag::SuckerBrauer`] | fishing line, Re 10–300, where a constant is wrong by up to a factor of two; the line strums only where it sheds vortices |
//! | [`NormalDrag::Reynolds`] | the same by White's fit, 10–18 % above measurements at Re 10–40, strumming everywhere |
//! | [`NormalDrag::Constant`] | comparison with closed forms and older tables |
//!
//! # Validity
//! Steady speed and direction, a perfectly flexible, inextensible line, no waves. `U` is the speed
//! through the water. Accuracy of the walk: 0.01 % of the depth; of the model: the strumming factor
//! `K` (default 1.3, fitted to practice: an ounce on 70 to 85 ft of line near 24 ft down, lead-core near 5 ft a colour,
//! each met within 5 %) is the largest unknown, some 20 % in the line's drag.
//!
//! # Sources
//! L. Pode (1951), David Taylor Model Basin Report 687; H. O. Berteaux (1976), *Buoy Engineering*;
//! D. Sucker & H. Brauer (1975), *Wärme- und Stoffübertragung* 8:149, and F. M. White, *Viscous Fluid Flow* (fits of
//! `C_n`). All from memory. That a line which sheds vortices is held harder is known (Skop, Griffin & Ramberg 1977, from
//! memory); they give no constant for it.

mod afloat;
mod band;
mod load;
mod march;
mod shape;

pub use band::{Band, Moved, Source, Spreads, TENTH};
pub use load::{LineDrag, NormalDrag, PointLoad, STRUM, Segment};
pub use shape::{Place, Reach, Shape, Top};

use crate::error::{Error, Range};
use crate::units::{Metres, MetresPerSecond};
use crate::water::Water;
use afloat::Held;
use march::Stop;

/// Longest last segment that [`Towline::reach`] looks at unless told otherwise.
pub const LONGEST: Metres = Metres(1_000.0);

pub(crate) const SPEED: Range = Range::closed(0.0, 15.0, "m/s", "between 0 and 15 m/s");
const TARGET: Range = Range::above(0.0, 1_000.0, "m", "above 0 and at most 1 000 m");
const SETBACK: Range = Range::above(0.0, 3_000.0, "m", "above 0 and at most 3 000 m");
const HEIGHT: Range = Range::closed(0.0, 20.0, "m", "between 0 and 20 m");

/// A line with its loads, towed at a speed: everything that decides its shape.
#[derive(Debug, Clone, PartialEq)]
pub struct Towline {
    speed: MetresPerSecond,
    water: Water,
    drag: LineDrag,
    tail: PointLoad,
    segments: Vec<Segment>,
}

impl Towline {
    /// A line of one or more segments, given from the tail to the surface.
    ///
    /// - `speed`: through the water, 0 to 15 m/s; at 0 the line hangs.
    /// - `tail`: the load at the lower end of the first segment.
    /// - `segments`: at least one, at most 100; each with the node at its upper end, if any.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the field as the JSON interface names it, and
    /// [`Error::Contradiction`] without segments.
    pub fn new(
        speed: MetresPerSecond,
        water: Water,
        drag: LineDrag,
        tail: PointLoad,
        segments: Vec<Segment>,
    ) -> Result<Self, Error> {
        SPEED.check("speed_mps", speed.0)?;
        drag.check()?;
        tail.check("tail")?;
        if segments.is_empty() || segments.len() > 100 {
            return Err(Error::contradiction(
                "segments",
                format!(
                    "a line needs between 1 and 100 segments, not {}",
                    segments.len()
                ),
            ));
        }
        for (place, segment) in segments.iter().enumerate() {
            segment.check(place)?;
        }
        Ok(Self {
            speed,
            water,
            drag,
            tail,
            segments,
        })
    }

    /// Its segments from the tail up.
    pub(crate) fn segments(&self) -> &[Segment] {
        &self.segments
    }

    /// The load at its tail.
    pub(crate) fn tail(&self) -> &PointLoad {
        &self.tail
    }

    /// How the water holds it.
    pub(crate) fn drag(&self) -> LineDrag {
        self.drag
    }

    /// The water it runs in.
    pub(crate) fn water(&self) -> &Water {
        &self.water
    }

    /// Dynamic pressure of the water it is towed through, Pa.
    pub(crate) fn pressure(&self) -> f64 {
        self.water.dynamic_pressure(self.speed)
    }

    /// The shape of the line as given, from the surface down to the tail. Nothing of it lies above the surface.
    ///
    /// # Errors
    /// [`Error::Slack`] when the tension vanishes on the way, as under a float that lies still and carries the line.
    pub fn solve(&self) -> Result<Shape, Error> {
        self.held_at(Metres(0.0), false)
    }

    /// The same with [`Shape::profile`] filled in for a drawing.
    ///
    /// # Errors
    /// As [`Towline::solve`].
    pub fn solve_with_profile(&self) -> Result<Shape, Error> {
        self.held_at(Metres(0.0), true)
    }

    /// The shape of a line held at a depth instead of at the surface, as behind a downrigger's release; places are
    /// counted from there.
    ///
    /// # Errors
    /// As [`Towline::solve`].
    pub(crate) fn held_at(&self, depth: Metres, drawing: bool) -> Result<Shape, Error> {
        let free = march::march(self, Stop::End, self.top_segment().length, drawing);
        if let Ok(end) = &free
            && !end.dips
        {
            return free.map(|end| end.shape);
        }
        match afloat::settle(self, Held::At(depth), drawing)? {
            Some(shape) => Ok(shape),
            None => free.map(|end| end.shape),
        }
    }

    /// The shape of a line of which `setback` is let out from a rod tip above the water.
    ///
    /// The last segment's length is ignored: the setback less the straight piece in the air,
    /// `h / sin φ_top`, is what lies in the water. Line past a float is lifted off the water.
    ///
    /// - `tip_height`: of the rod tip above the water, 0 to 20 m; 0 for a board or release.
    ///
    /// # Errors
    /// [`Error::Contradiction`] when the setback does not reach the water.
    pub fn solve_setback(&self, setback: Metres, tip_height: Metres) -> Result<Shape, Error> {
        SETBACK.check("setback_m", setback.0)?;
        HEIGHT.check("tip_height_m", tip_height.0)?;
        if tip_height.0 == 0.0 {
            return self.with_top(setback).solve_with_profile();
        }
        let stop = Stop::Setback {
            setback,
            tip_height,
        };
        let end = march::march(self, stop, setback, true)?;
        if end.dips {
            let held = Held::Tip {
                setback,
                height: tip_height,
            };
            if let Some(shape) = afloat::settle(self, held, true)? {
                return Ok(shape);
            }
        }
        if let Some(short_by) = end.short_by {
            return Err(Error::contradiction(
                "setback_m",
                format!(
                    "setback {:.1} m is shorter than the {:.1} m of line between rod tip and water; let out more",
                    setback.0,
                    setback.0 + short_by
                ),
            ));
        }
        Ok(end.shape)
    }

    /// The length of the last segment that puts the tail at a depth.
    ///
    /// - `target`: depth wanted for the tail, above 0 and at most 1 000 m.
    /// - `longest`: the longest last segment to look at; see [`LONGEST`].
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for the target; "cannot be reached" is an answer, not an error.
    pub fn reach(&self, target: Metres, longest: Metres) -> Result<Reach, Error> {
        TARGET.check("target_tail_depth_m", target.0)?;
        self.reach_where(target, longest, Stop::TailDepth, Shape::tail_depth)
    }

    /// The length of the last segment with which the deepest point of the line just touches a depth.
    ///
    /// # Errors
    /// As [`Towline::reach`].
    pub fn touch(&self, bottom: Metres, longest: Metres) -> Result<Reach, Error> {
        TARGET.check("bottom_depth_m", bottom.0)?;
        self.reach_where(bottom, longest, Stop::Deepest, Shape::deepest)
    }

    fn reach_where(
        &self,
        wanted: Metres,
        longest: Metres,
        stop: fn(Metres) -> Stop,
        depth: fn(&Shape) -> Metres,
    ) -> Result<Reach, Error> {
        let end = match march::march(self, stop(wanted), longest, true) {
            Ok(end) if !end.dips => end,
            _ => return self.reach_afloat(wanted, longest, depth),
        };
        Ok(match (end.short_by, end.found) {
            (Some(_), _) => Reach::TooShallow(end.shape),
            (None, true) => Reach::At(end.shape),
            (None, false) => Reach::TooDeep(end.shape),
        })
    }

    /// The same where something floats: found by how deep it runs with so much out.
    fn reach_afloat(
        &self,
        wanted: Metres,
        longest: Metres,
        depth: fn(&Shape) -> Metres,
    ) -> Result<Reach, Error> {
        let with = |length: f64| self.with_top(Metres(length)).solve_with_profile();
        let off = |length: f64| with(length).map_or(f64::NAN, |shape| (depth(&shape) - wanted).0);
        if off(0.0) > 0.0 {
            return with(0.0).map(Reach::TooShallow);
        }
        Ok(match crate::numeric::root(off, 0.0, longest.0, 1e-6) {
            Some(length) => Reach::At(with(length)?),
            None => Reach::TooDeep(with(longest.0)?),
        })
    }

    /// Submerged weight at the heaviest node (at the tail when there is none) that would put the
    /// tail at the target with `length` of the last segment; `None` when no weight would.
    ///
    /// The load's drag area grows with the ⅔ power of its weight, as bodies of one shape do.
    pub fn weight_to_reach(&self, target: Metres, length: Metres) -> Option<f64> {
        let heaviest = (0..self.segments.len().saturating_sub(1))
            .filter(|&i| self.segments[i].node.is_some())
            .max_by(|&a, &b| self.node_weight(a).total_cmp(&self.node_weight(b)));
        let load = heaviest
            .and_then(|i| self.segments[i].node)
            .unwrap_or(self.tail);
        let base = load.submerged_weight.0.max(0.01);
        let depth_of = |times: f64| {
            let mut trial = self.clone();
            let heavier = PointLoad {
                submerged_weight: crate::units::Newtons(base * times),
                drag_area: load.drag_area * times.powf(2.0 / 3.0),
                ..load
            };
            match heaviest {
                Some(i) => trial.segments[i].node = Some(heavier),
                None => trial.tail = heavier,
            }
            trial.top_segment_mut().length = length;
            trial.solve().map_or(f64::NAN, |shape| shape.tail_depth().0)
        };
        let power = crate::numeric::root(|p| depth_of(p.exp()) - target.0, 0.0, 7.0, 1e-3)?;
        Some(base * power.exp())
    }

    fn node_weight(&self, i: usize) -> f64 {
        self.segments[i]
            .node
            .map_or(f64::MIN, |node| node.submerged_weight.0)
    }

    /// The same line with another length of the last segment.
    #[must_use]
    pub fn with_top(&self, length: Metres) -> Self {
        let mut line = self.clone();
        line.top_segment_mut().length = length;
        line
    }

    fn top_segment(&self) -> &Segment {
        self.segments
            .last()
            .expect("`new` refuses a line without segments")
    }

    fn top_segment_mut(&mut self) -> &mut Segment {
        self.segments
            .last_mut()
            .expect("`new` refuses a line without segments")
    }
}
