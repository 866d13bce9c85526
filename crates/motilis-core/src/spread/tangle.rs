use super::frame::Point;
use crate::units::Metres;

/// Closer than this two lines may touch when one swings: a warning.
pub const NEAR: Metres = Metres(1.5);
/// Closer than this they count as tangled.
pub const TANGLED: Metres = Metres(0.5);

/// How near two lines come.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Tangle {
    /// The two, in the order of the spread.
    pub lines: (usize, usize),
    /// Their least distance under water.
    pub distance: Metres,
    /// Where on the first line.
    pub at: Point,
}

/// Points of a piece that shares one box.
const PIECE: usize = 6;

type Bounds = [[f64; 2]; 3];

/// The least distance of two chains of straight pieces, and the place of it on the first.
pub fn closest(a: &[Point], b: &[Point]) -> (f64, Point) {
    let (boxes_a, boxes_b) = (boxes(a), boxes(b));
    let mut best = (f64::INFINITY, a.first().copied().unwrap_or_default());
    for (from_a, box_a) in &boxes_a {
        for (from_b, box_b) in &boxes_b {
            if gap(box_a, box_b) >= best.0 {
                continue;
            }
            let end = |from: usize, all: &[Point]| (from + PIECE).min(all.len() - 1);
            for i in *from_a..end(*from_a, a) {
                for j in *from_b..end(*from_b, b) {
                    let found = pieces([a[i], a[i + 1]], [b[j], b[j + 1]]);
                    if found.0 < best.0 {
                        best = found;
                    }
                }
            }
        }
    }
    best
}

fn boxes(points: &[Point]) -> Vec<(usize, Bounds)> {
    (0..points.len().saturating_sub(1))
        .step_by(PIECE)
        .map(|from| {
            let to = (from + PIECE).min(points.len() - 1);
            let mut bounds = [[f64::INFINITY, f64::NEG_INFINITY]; 3];
            for point in &points[from..=to] {
                for (axis, bound) in bounds.iter_mut().enumerate() {
                    bound[0] = bound[0].min(point[axis]);
                    bound[1] = bound[1].max(point[axis]);
                }
            }
            (from, bounds)
        })
        .collect()
}

/// Least distance of two boxes.
fn gap(a: &Bounds, b: &Bounds) -> f64 {
    let apart = |axis: usize| {
        (a[axis][0] - b[axis][1])
            .max(b[axis][0] - a[axis][1])
            .max(0.0)
    };
    (0..3).map(|axis| apart(axis).powi(2)).sum::<f64>().sqrt()
}

fn minus(a: Point, b: Point) -> Point {
    [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
}

fn dot(a: Point, b: Point) -> f64 {
    a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

fn along(from: Point, way: Point, share: f64) -> Point {
    [
        from[0] + share * way[0],
        from[1] + share * way[1],
        from[2] + share * way[2],
    ]
}

/// Least distance of two straight pieces, and the place on the first (Ericson, *Real-Time Collision
/// Detection*, 2005, section 5.1.9, from memory).
fn pieces(p: [Point; 2], q: [Point; 2]) -> (f64, Point) {
    let (d1, d2, r) = (minus(p[1], p[0]), minus(q[1], q[0]), minus(p[0], q[0]));
    let (a, e, f) = (dot(d1, d1), dot(d2, d2), dot(d2, r));
    let (b, c) = (dot(d1, d2), dot(d1, r));
    let denominator = a * e - b * b;
    let mut s = if denominator > 1e-12 {
        ((b * f - c * e) / denominator).clamp(0.0, 1.0)
    } else {
        0.0
    };
    let mut t = if e > 1e-18 { (b * s + f) / e } else { 0.0 };
    if !(0.0..=1.0).contains(&t) {
        t = t.clamp(0.0, 1.0);
        s = if a > 1e-18 {
            ((b * t - c) / a).clamp(0.0, 1.0)
        } else {
            0.0
        };
    }
    let place = along(p[0], d1, s);
    let between = minus(place, along(q[0], d2, t));
    (dot(between, between).sqrt(), place)
}
