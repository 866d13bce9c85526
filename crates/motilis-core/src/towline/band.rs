//! How sure a depth is: stated spreads of what goes in, carried through to what comes out.
//!
//! Each figure that goes in is moved by itself to where one case in ten lies beyond it, either way; what that does to
//! the logarithm of the depth is added up in squares, the ways down and the ways up apart. In the logarithm because a
//! drag that is a fifth more and one that is a fifth less move a depth by like factors, and because depths end at 0.
//! Within 5 % of the band's width of what 3 000 drawn lines give (`tests/data/band_cases.jsonl`).

use super::{PointLoad, Towline};
use crate::error::{Error, Range};
use crate::units::{Metres, MetresPerSecond};

/// Standard deviations from the middle beyond which one case in ten lies (normal distribution).
pub const TENTH: f64 = 1.281_552;

/// Standard deviations of what goes into a line, each a share of its figure but the speed's.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Spreads {
    /// Of the strumming factor.
    pub strum: f64,
    /// Of the diameter of the last segment.
    pub main_diameter: f64,
    /// Of drag and down-force of the loads on the line.
    pub node_drag: f64,
    /// Of the drag of the load at the tail.
    pub tail_drag: f64,
    /// Of the weight of the loads on the line.
    pub node_weight: f64,
    /// Of the length of the last segment.
    pub top_length: f64,
    /// Of the speed through the water.
    pub speed: MetresPerSecond,
}

/// What a band comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Source {
    /// The strumming factor.
    Strum,
    /// The line's diameter.
    Diameter,
    /// The weight's (or diver's) drag.
    NodeDrag,
    /// The rig's drag.
    TailDrag,
    /// The weight's weight.
    NodeWeight,
    /// The counter.
    TopLength,
    /// The speed through the water.
    Speed,
    /// A current nobody knows of, where the speed is one over ground.
    Current,
}

/// Figures between which the true one lies in eight cases of ten.
#[derive(Debug, Clone, PartialEq)]
pub struct Band {
    /// One case in ten lies below.
    pub low: Metres,
    /// One case in ten lies above.
    pub high: Metres,
    /// What it comes from: the share of each source in its squares, the largest first.
    pub because: Vec<(Source, f64)>,
}

/// Depths less than this are the surface's; a logarithm needs an end.
const SURFACE: f64 = 0.01;

impl Band {
    /// About a depth, from what it would be with each source a tenth low and a tenth high. `weight` says how much of a
    /// source's square counts: less than 1 where an observation has narrowed it.
    pub(crate) fn about(
        middle: f64,
        moved: impl IntoIterator<Item = (Source, [f64; 2])>,
        weight: impl Fn(Source) -> f64,
    ) -> Self {
        let ln = |depth: f64| depth.max(SURFACE).ln();
        let (mut down, mut up) = (0.0, 0.0);
        let mut because = Vec::new();
        for (source, ends) in moved {
            let [a, b] = ends.map(|depth| ln(depth) - ln(middle));
            let (low, high) = (a.min(b).min(0.0), a.max(b).max(0.0));
            let counts = weight(source);
            down += counts * low * low;
            up += counts * high * high;
            because.push((source, 0.5 * counts * (low * low + high * high)));
        }
        let all: f64 = because.iter().map(|(_, square)| square).sum();
        for (_, square) in &mut because {
            *square /= all.max(f64::MIN_POSITIVE);
        }
        because.sort_by(|a, b| b.1.total_cmp(&a.1));
        Self {
            low: Metres(middle * (-down.sqrt()).exp()),
            high: Metres(middle * up.sqrt().exp()),
            because,
        }
    }
}

const SHARE: Range = Range::closed(0.0, 0.7, "", "between 0 and 0.7");
const SPEED: Range = Range::closed(0.0, 3.0, "m/s", "between 0 and 3 m/s");

/// Slowest speed that a moved one may come to.
const LEAST: MetresPerSecond = MetresPerSecond(0.01);

impl Spreads {
    /// Whether every one can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the field as the JSON interface names it.
    pub fn check(&self) -> Result<(), Error> {
        for (name, share) in [
            ("strum", self.strum),
            ("main_diameter", self.main_diameter),
            ("node_drag", self.node_drag),
            ("tail_drag", self.tail_drag),
            ("node_weight", self.node_weight),
            ("top_length", self.top_length),
        ] {
            SHARE.check(&format!("spreads.{name}"), share)?;
        }
        SPEED.check("spreads.speed_mps", self.speed.0)?;
        Ok(())
    }

    /// What each source comes to so many standard deviations off.
    pub fn moved(&self, source: Source, deviations: f64) -> Moved {
        let mut moved = Moved::default();
        let factor = |share: f64| 1.0 + deviations * share;
        match source {
            Source::Strum => moved.strum = factor(self.strum),
            Source::Diameter => moved.diameter = factor(self.main_diameter),
            Source::NodeDrag => moved.node_drag = factor(self.node_drag),
            Source::TailDrag => moved.tail_drag = factor(self.tail_drag),
            Source::NodeWeight => moved.node_weight = factor(self.node_weight),
            Source::TopLength => moved.length = factor(self.top_length),
            Source::Speed | Source::Current => moved.faster = self.speed * deviations,
        }
        moved
    }
}

/// Figures of a line that are off: factors, of the speed what is added.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Moved {
    /// Of the strumming factor.
    pub strum: f64,
    /// Of the main line's diameter.
    pub diameter: f64,
    /// Of the drag of what is on the line.
    pub node_drag: f64,
    /// Of the drag of what is at its end.
    pub tail_drag: f64,
    /// Of the weight of what is on the line.
    pub node_weight: f64,
    /// Of what is let out.
    pub length: f64,
    /// What the boat goes faster.
    pub faster: MetresPerSecond,
}

impl Default for Moved {
    fn default() -> Self {
        Self {
            strum: 1.0,
            diameter: 1.0,
            node_drag: 1.0,
            tail_drag: 1.0,
            node_weight: 1.0,
            length: 1.0,
            faster: MetresPerSecond(0.0),
        }
    }
}

impl Moved {
    /// A speed moved.
    pub fn speed(&self, speed: MetresPerSecond) -> MetresPerSecond {
        MetresPerSecond((speed + self.faster).0.max(LEAST.0))
    }

    /// A load on the line moved.
    pub fn node(&self, load: PointLoad) -> PointLoad {
        PointLoad {
            submerged_weight: load.submerged_weight * self.node_weight,
            drag_area: load.drag_area * self.node_drag,
            ..load
        }
    }

    /// The load at its end moved.
    pub fn tail(&self, load: PointLoad) -> PointLoad {
        PointLoad {
            drag_area: load.drag_area * self.tail_drag,
            ..load
        }
    }
}

impl Towline {
    /// The depths of the tail beyond which one case in ten lies either way.
    ///
    /// # Errors
    /// As [`Towline::solve`], and [`Error::OutOfRange`] for a spread that cannot be.
    pub fn band(&self, spreads: &Spreads) -> Result<Band, Error> {
        spreads.check()?;
        let middle = self.solve()?.tail_depth().0;
        let depth = |source, deviations| {
            let line = self.moved(&spreads.moved(source, deviations));
            line.solve().map_or(middle, |shape| shape.tail_depth().0)
        };
        let sources = [
            Source::Strum,
            Source::Diameter,
            Source::NodeDrag,
            Source::TailDrag,
            Source::NodeWeight,
            Source::TopLength,
            Source::Speed,
        ];
        let moved = sources.map(|source| (source, [depth(source, -TENTH), depth(source, TENTH)]));
        Ok(Band::about(middle, moved, |_| 1.0))
    }

    /// The same line with figures that are off.
    fn moved(&self, by: &Moved) -> Self {
        let mut line = self.clone();
        line.drag.strum *= by.strum;
        line.tail = by.tail(line.tail);
        for segment in &mut line.segments {
            segment.node = segment.node.map(|node| by.node(node));
        }
        let top = line.top_segment_mut();
        top.diameter = top.diameter * by.diameter;
        top.length = top.length * by.length;
        line.speed = by.speed(line.speed);
        line
    }
}
