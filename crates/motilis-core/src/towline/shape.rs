use crate::units::{Metres, Newtons, Radians};

/// A point of the line, seen from where it leaves the water.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Place {
    /// Distance behind the point where the line leaves the water.
    pub run: Metres,
    /// Depth below the surface.
    pub depth: Metres,
    /// Distance to the side, outwards; 0 for a line that runs in a plane.
    pub aside: Metres,
}

/// How the line leaves the water.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Top {
    /// Tension, with the load of a node at the top included.
    pub tension: Newtons,
    /// Angle above the horizontal.
    pub angle: Radians,
}

/// The steady shape of a towed line.
#[derive(Debug, Clone, PartialEq)]
pub struct Shape {
    /// Where the tail runs.
    pub tail: Place,
    /// Upper ends of the segments, from the tail up; the last is the surface, `0, 0`.
    pub nodes: Vec<Place>,
    /// How the line leaves the water.
    pub top: Top,
    /// Length of the last segment that lies in the water.
    pub top_length: Metres,
    /// Points along the line for a drawing, tail first, `n + 1` of them; empty unless asked for.
    pub profile: Vec<Place>,
}

impl Shape {
    /// Depth of the tail.
    pub fn tail_depth(&self) -> Metres {
        self.tail.depth
    }

    /// Depth of its highest load or drawn point.
    pub(crate) fn highest(&self) -> Metres {
        let places = self.nodes.iter().chain(&self.profile).chain([&self.tail]);
        Metres(
            places
                .map(|place| place.depth.0)
                .fold(f64::INFINITY, f64::min),
        )
    }

    /// Whether the tail lies on the water.
    pub fn tail_floats(&self) -> bool {
        self.tail.depth.0 <= 0.0
    }

    /// Depth of the deepest load: the tail, or a node that hangs below it.
    pub fn deepest(&self) -> Metres {
        self.nodes
            .iter()
            .map(|place| place.depth)
            .fold(self.tail.depth, |a, b| if b > a { b } else { a })
    }
}

/// Whether a depth can be had, and how.
#[derive(Debug, Clone, PartialEq)]
pub enum Reach {
    /// Yes: with [`Shape::top_length`] of the last segment.
    At(Shape),
    /// No: the segments below the last one alone already run deeper; their shape.
    TooShallow(Shape),
    /// No: not even with the longest last segment; the shape with that.
    TooDeep(Shape),
}
