use super::{Plane, Track};
use crate::units::{KNOT, MetresPerSecond};
use geo::{Coord, LineString, Simplify};

/// How fast a stretch was gone, in steps a drawing can show.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Pace {
    /// Lying still or drifting.
    Still,
    /// Trolling slowly.
    Slow,
    /// Trolling fast.
    Brisk,
    /// Under way.
    Running,
}

impl Pace {
    /// Of a speed over ground; the steps are those of spinners, of spoons and plugs, and of a boat that only goes
    /// somewhere (common practice, no source).
    fn of(speed: MetresPerSecond) -> Self {
        match speed.0 / KNOT.0 {
            knots if knots < 0.5 => Self::Still,
            knots if knots < 1.6 => Self::Slow,
            knots if knots < 4.0 => Self::Brisk,
            _ => Self::Running,
        }
    }
}

/// A stretch of one pace, metres east and north on a plane.
#[derive(Debug, Clone, PartialEq)]
pub struct Run {
    /// The pace.
    pub pace: Pace,
    /// Its places, the first of a run being the last of the one before.
    pub places: Vec<(f64, f64)>,
}

/// Seconds over which a pace is taken: shorter ones are the receiver's noise.
const OVER: f64 = 15.0;
/// Longer gaps are not drawn over.
const GAP: f64 = 120.0;

/// A track as stretches of one pace, each with no more places than it needs to be drawn within a tolerance
/// (Douglas & Peucker 1973, as the `geo` crate has it).
pub fn runs(track: &Track, plane: &Plane, tolerance: f64) -> Vec<Run> {
    let points = track.points();
    let places: Vec<(f64, f64)> = points
        .iter()
        .map(|point| plane.place(point.latitude, point.longitude))
        .collect();
    let seconds: Vec<f64> = points
        .iter()
        .map(|point| point.at.duration_since(points[0].at).as_secs_f64())
        .collect();
    let mut runs: Vec<Run> = Vec::new();
    let mut ahead = 0;
    for step in 1..points.len() {
        if seconds[step] - seconds[step - 1] > GAP {
            continue;
        }
        // The pace of the next quarter of a minute.
        ahead = ahead.max(step);
        while ahead + 1 < points.len() && seconds[ahead] - seconds[step - 1] < OVER {
            ahead += 1;
        }
        let (from, to) = (places[step - 1], places[ahead]);
        let way = (to.0 - from.0).hypot(to.1 - from.1);
        let pace = Pace::of(MetresPerSecond(way / (seconds[ahead] - seconds[step - 1])));
        match runs.last_mut() {
            Some(run) if run.pace == pace && run.places.last() == Some(&places[step - 1]) => {
                run.places.push(places[step]);
            }
            _ => runs.push(Run {
                pace,
                places: vec![places[step - 1], places[step]],
            }),
        }
    }
    for run in &mut runs {
        let line: LineString<f64> = run
            .places
            .iter()
            .map(|(x, y)| Coord { x: *x, y: *y })
            .collect();
        run.places = line
            .simplify(tolerance)
            .coords()
            .map(|at| (at.x, at.y))
            .collect();
    }
    runs
}

#[cfg(test)]
mod tests {
    use super::super::tests::{at, north};
    use super::super::{Point, Track};
    use super::*;

    #[test]
    fn a_straight_way_is_two_places() {
        let track = north(1, 600);
        let runs = runs(&track, &Plane::of(&track), 0.5);
        assert_eq!(runs.len(), 1, "{runs:?}");
        assert_eq!(runs[0].places.len(), 2);
        assert_eq!(runs[0].pace, Pace::Brisk);
    }

    #[test]
    fn a_stop_and_a_gap_are_seen_and_nothing_strays_beyond_the_tolerance() {
        let plane = Plane::at(50.42, -95.61);
        let mut points = Vec::new();
        let mut put = |second: i64, east: f64, north: f64| {
            let (latitude, longitude) = plane.back(east, north);
            points.push(Point {
                at: at(second),
                latitude,
                longitude,
            });
        };
        for second in 0..300 {
            let turn = second as f64 / 60.0;
            put(second, 40.0 * turn.sin(), 40.0 * turn.cos());
        }
        for second in 300..400 {
            put(second, 40.0 * 5.0_f64.sin(), 40.0 * 5.0_f64.cos());
        }
        put(900, 0.0, 0.0);
        put(901, 1.0, 0.0);
        let track = Track::new("bend", points).unwrap();
        let drawn = runs(&track, &plane, 0.5);
        assert!(drawn.iter().any(|run| run.pace == Pace::Still));
        assert!(drawn.iter().any(|run| run.pace == Pace::Slow));
        // The circle is kept to half a metre, with few places.
        let bend: Vec<_> = drawn.iter().filter(|run| run.pace == Pace::Slow).collect();
        let count: usize = bend.iter().map(|run| run.places.len()).sum();
        assert!((10..60).contains(&count), "{count}");
        for run in bend {
            for pair in run.places.windows(2) {
                let middle = (0.5 * (pair[0].0 + pair[1].0), 0.5 * (pair[0].1 + pair[1].1));
                assert!((middle.0.hypot(middle.1) - 40.0).abs() < 0.6);
            }
        }
        // No line leads over the gap of eight minutes.
        let ends = drawn.last().unwrap();
        assert_eq!(ends.places.len(), 2);
    }
}
