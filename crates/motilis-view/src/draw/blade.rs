use super::kit::{Path, Px};
use motilis_core::blade::{Blade, Family};

/// A blade's face, hole end at the origin, tail along +x.
#[derive(Debug, Clone, PartialEq)]
pub struct Outline {
    points: Vec<(f64, f64)>,
    /// Where its hole is.
    pub hole: (f64, f64),
}

impl Outline {
    /// Its contour with the hole end at a place.
    pub fn at(&self, x: f64, y: f64) -> Path {
        let moved = self.points.iter().map(|(px, py)| (Px(px + x), Px(py + y)));
        Path::through(moved).closed()
    }
}

impl Outline {
    /// Its contour with the length shortened to a share, hung by its hole from a place: a blade seen along its
    /// shaft.
    pub(super) fn foreshortened(&self, share: f64, x: f64, y: f64) -> Path {
        let moved = self
            .points
            .iter()
            .map(|(px, py)| (Px((px - self.hole.0) * share + x), Px(py - self.hole.1 + y)));
        Path::through(moved).closed()
    }
}

/// Samples along each side of a contour.
const SAMPLES: usize = 30;

/// Widest place `m`, exponents `p` and `q`, hole `e` (shares of the length).
fn shape(family: Family) -> (f64, f64, f64, f64) {
    match family {
        Family::Colorado => (0.54, 2.10, 2.10, 0.0625),
        Family::Indiana => (0.60, 1.70, 2.10, 0.065),
        Family::Willow => (0.46, 1.45, 1.40, 0.055),
        Family::MagnumWillow => (0.50, 1.45, 1.40, 0.055),
        Family::Spoon => (0.64, 1.55, 1.90, 0.05),
        Family::HatchetCut => (0.68, 1.70, 3.00, 0.06),
        Family::French | Family::ThroughWireOval | Family::SoftWing | Family::HardWing => {
            (0.63, 1.60, 2.40, 0.06)
        }
    }
}

/// The face of a blade at so many pixels a metre.
pub fn outline(blade: &Blade, pixels_a_metre: f64) -> Outline {
    let length = blade.length.0 * pixels_a_metre;
    let width = blade.width.0 * pixels_a_metre;
    if blade.family.is_wing() {
        return wing(blade.family, length);
    }
    let (m, p, q, e) = shape(blade.family);
    let half = |u: f64| {
        let side = if u <= m {
            (1.0 - ((m - u) / m).powf(p)).powf(1.0 / p)
        } else {
            (1.0 - ((u - m) / (1.0 - m)).powf(q)).powf(1.0 / q)
        };
        0.5 * width * side
    };
    // A hatchet-cut blade ends at a line through 0.93 L that leans 24°.
    let clip = |x: f64, y: f64| {
        let limit = 0.93 * length - y * 24_f64.to_radians().tan();
        if blade.family == Family::HatchetCut && x > limit {
            limit
        } else {
            x
        }
    };
    let points = sides(|u| (u * length, half(u)));
    Outline {
        points: points.map(|(x, y)| (clip(x, y), y)).collect(),
        hole: (e * length, 0.0),
    }
}

/// Both sides of a contour, out along the upper one and back along the lower one.
fn sides(at: impl Fn(f64) -> (f64, f64) + Copy) -> impl Iterator<Item = (f64, f64)> {
    let share = |i: usize| 0.5 * (1.0 - (std::f64::consts::PI * i as f64 / SAMPLES as f64).cos());
    let upper = (0..=SAMPLES).map(move |i| at(share(i)));
    let lower = (1..SAMPLES).rev().map(move |i| {
        let (x, y) = at(share(i));
        (x, -y)
    });
    upper.chain(lower)
}

/// A wing about its centre hole: two lobes, shifted sideways opposite ways.
fn wing(family: Family, span: f64) -> Outline {
    let (w0, m, q) = if family == Family::SoftWing {
        (0.60, 0.50, 2.1)
    } else {
        (0.75, 0.78, 4.0)
    };
    let width = 0.34 * span;
    let half = |v: f64| {
        if v <= m {
            let rise = (std::f64::consts::FRAC_PI_2 * v / m).sin().powi(2);
            0.5 * width * (w0 + (1.0 - w0) * rise)
        } else {
            0.5 * width * (1.0 - ((v - m) / (1.0 - m)).powf(q)).powf(1.0 / q)
        }
    };
    let points = sides(|u| {
        let v = (2.0 * u - 1.0).abs();
        (u * span, half(v))
    });
    let lean = |x: f64| 0.6 * 0.14 * (x - 0.5 * span);
    Outline {
        points: points.map(|(x, y)| (x, y + lean(x))).collect(),
        hole: (0.5 * span, 0.0),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_family_has_a_face_as_long_as_the_blade() {
        for (family, number) in [
            (Family::Colorado, 4.0),
            (Family::Indiana, 4.0),
            (Family::French, 4.0),
            (Family::HatchetCut, 4.0),
            (Family::Willow, 4.0),
            (Family::MagnumWillow, 4.0),
            (Family::ThroughWireOval, 4.0),
            (Family::SoftWing, 1.5),
            (Family::HardWing, 1.5),
            (Family::Spoon, 2.0),
        ] {
            let blade = Blade::of_size(family, number).unwrap();
            let points = outline(&blade, 1_000.0).points;
            assert!(
                points.iter().all(|(x, y)| x.is_finite() && y.is_finite()),
                "{family:?}"
            );
            let longest = points.iter().map(|(x, _)| *x).fold(0.0, f64::max);
            let share = longest / (blade.length.0 * 1_000.0);
            assert!((0.9..=1.01).contains(&share), "{family:?}: {share}");
        }
    }
}
