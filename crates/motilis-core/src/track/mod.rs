//! Where the boat went: a track by time, what it says of a moment, the plan of it, and hours at spots.
//!
//! A [`Track`] is what a receiver wrote down: points with time, kept whole. [`Track::fix`] tells place, speed over ground
//! and course of a moment; [`Plane`] lays it flat in metres; [`runs`] makes of it what a drawing needs; [`Spot`] is a
//! place with a radius, and [`at_spot`] how long rods were fished there.

mod plan;
mod plane;
mod spot;

pub use plan::{Pace, Run, runs};
pub use plane::Plane;
pub use spot::{At, Spot, at_spot};

use crate::entry::check_clock;
use crate::error::Error;
use crate::fields;
use crate::units::{Metres, MetresPerSecond};
use jiff::{SignedDuration, Timestamp};

/// A point so near in time is the moment's own.
const NEAR: SignedDuration = SignedDuration::from_secs(5);
/// How sure a speed over those ten seconds is: a metre of a good receiver, one standard deviation (from memory).
pub const GROUND_SURE: MetresPerSecond = MetresPerSecond(0.1);
/// Over a gap no longer than this a place is interpolated; over a longer one nobody knows.
const GAP: SignedDuration = SignedDuration::from_secs(60);
/// Most points of a track: a day and a quarter of one a second.
pub const MOST_POINTS: usize = 108_000;

/// A place at an instant.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Point {
    /// When.
    pub at: Timestamp,
    /// Latitude, degrees north.
    pub latitude: f64,
    /// Longitude, degrees east.
    pub longitude: f64,
}

/// What a receiver wrote down, in the order of time.
#[derive(Debug, Clone, PartialEq)]
pub struct Track {
    name: String,
    points: Vec<Point>,
}

/// Where the boat was at a moment, and how it went.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Fix {
    /// Latitude, degrees north.
    pub latitude: f64,
    /// Longitude, degrees east.
    pub longitude: f64,
    /// Speed over ground; `None` at a lone point.
    pub ground: Option<MetresPerSecond>,
    /// Course over ground, degrees from north through east; `None` where it stood still.
    pub course_deg: Option<f64>,
}

impl Track {
    /// A track of at least two points; of points at the same instant the first is kept.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a place off the globe or an impossible clock, [`Error::Contradiction`] for fewer than two
    /// points, more than [`MOST_POINTS`], or a track longer than two days.
    pub fn new(name: impl Into<String>, mut points: Vec<Point>) -> Result<Self, Error> {
        for point in &points {
            fields::LATITUDE.check(point.latitude)?;
            fields::LONGITUDE.check(point.longitude)?;
            check_clock("time", point.at)?;
        }
        points.sort_by_key(|point| point.at);
        points.dedup_by_key(|point| point.at);
        let wrong = |why: String| Err(Error::contradiction("points", why));
        let (Some(first), Some(last)) = (points.first(), points.last()) else {
            return wrong("the track has no points with a time; record one with times".into());
        };
        if points.len() < 2 {
            return wrong("the track has one point; two are needed to go anywhere".into());
        }
        if points.len() > MOST_POINTS {
            return wrong(format!(
                "the track has {} points; at most {MOST_POINTS} are kept, so record one a second or fewer",
                points.len()
            ));
        }
        if last.at.duration_since(first.at) > SignedDuration::from_hours(48) {
            return wrong("the track lasts longer than two days; cut it at each outing".into());
        }
        Ok(Self {
            name: name.into().chars().take(60).collect(),
            points,
        })
    }

    /// What it is called.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// Its points, in the order of time.
    pub fn points(&self) -> &[Point] {
        &self.points
    }

    /// Its first and last instant.
    pub fn span(&self) -> (Timestamp, Timestamp) {
        (self.points[0].at, self.points[self.points.len() - 1].at)
    }

    /// Where the boat was at a moment: the nearest point within five seconds, else between two points at most a minute
    /// apart, else nobody knows.
    pub fn fix(&self, at: Timestamp) -> Option<Fix> {
        let after = self.points.partition_point(|point| point.at < at);
        let (before, next) = (after.checked_sub(1), self.points.get(after));
        let before = before.map(|before| self.points[before]);
        let apart = |point: &Point| point.at.duration_since(at).abs();
        let near = [before, next.copied()].into_iter().flatten();
        let near = near.filter(|point| apart(point) <= NEAR).min_by_key(apart);
        let place = match (near, before, next) {
            (Some(near), _, _) => (near.latitude, near.longitude),
            (None, Some(a), Some(b)) if b.at.duration_since(a.at) <= GAP => between(&a, b, at),
            _ => return None,
        };
        let (ground, course_deg) = self.going(at);
        Some(Fix {
            latitude: place.0,
            longitude: place.1,
            ground,
            course_deg,
        })
    }

    /// Speed and course from some five seconds before a moment to five after: a receiver's own noise of a metre or two
    /// would otherwise be half a mile an hour.
    fn going(&self, at: Timestamp) -> (Option<MetresPerSecond>, Option<f64>) {
        let from = self.points.partition_point(|point| point.at <= at - NEAR);
        let from = self.points[from.saturating_sub(1)];
        let to = self.points.partition_point(|point| point.at < at + NEAR);
        let to = self.points[to.min(self.points.len() - 1)];
        let seconds = to.at.duration_since(from.at).as_secs_f64();
        if seconds <= 0.0 || seconds > 2.0 * GAP.as_secs_f64() {
            return (None, None);
        }
        let plane = Plane::at(from.latitude, from.longitude);
        let (east, north) = plane.place(to.latitude, to.longitude);
        let way = east.hypot(north);
        let course = east.atan2(north).to_degrees().rem_euclid(360.0);
        (
            Some(MetresPerSecond(way / seconds)),
            (way > 1.0).then_some(course),
        )
    }

    /// Way over ground.
    pub fn length(&self) -> Metres {
        let plane = Plane::of(self);
        let places: Vec<(f64, f64)> = self
            .points
            .iter()
            .map(|point| plane.place(point.latitude, point.longitude))
            .collect();
        let way = |pair: &[(f64, f64)]| (pair[1].0 - pair[0].0).hypot(pair[1].1 - pair[0].1);
        Metres(places.windows(2).map(way).sum())
    }
}

/// Between two points, in proportion to time.
fn between(a: &Point, b: &Point, at: Timestamp) -> (f64, f64) {
    let whole = b.at.duration_since(a.at).as_secs_f64();
    let share = at.duration_since(a.at).as_secs_f64() / whole;
    // Across the date line the shorter way.
    let turn = (b.longitude - a.longitude + 540.0).rem_euclid(360.0) - 180.0;
    let longitude = (a.longitude + share * turn + 540.0).rem_euclid(360.0) - 180.0;
    (a.latitude + share * (b.latitude - a.latitude), longitude)
}

#[cfg(test)]
pub(crate) mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;
    use rstest::rstest;

    pub(crate) fn at(second: i64) -> Timestamp {
        Timestamp::from_second(1_780_000_000 + second).unwrap()
    }

    /// North at 1 m/s from Lake Tamarin's middle, a point every `every` seconds.
    pub(crate) fn north(every: i64, seconds: i64) -> Track {
        let plane = Plane::at(50.42, -95.61);
        let points = (0..=seconds / every).map(|step| {
            let (latitude, longitude) = plane.back(0.0, (step * every) as f64);
            Point {
                at: at(step * every),
                latitude,
                longitude,
            }
        });
        Track::new("north", points.collect()).unwrap()
    }

    #[rstest]
    #[case(1, 30)]
    #[case(10, 30)]
    #[case(10, 33)]
    #[case(60, 90)]
    fn a_moment_has_its_place_speed_and_course(#[case] every: i64, #[case] second: i64) {
        let fix = north(every, 600).fix(at(second)).unwrap();
        let plane = Plane::at(50.42, -95.61);
        let (east, north) = plane.place(fix.latitude, fix.longitude);
        assert_abs_diff_eq!(east, 0.0, epsilon = 1e-3);
        // Within five seconds the point itself stands.
        assert_abs_diff_eq!(north, second as f64, epsilon = 5.0);
        assert_abs_diff_eq!(fix.ground.unwrap().0, 1.0, epsilon = 1e-3);
        assert_abs_diff_eq!(fix.course_deg.unwrap(), 0.0, epsilon = 1e-3);
    }

    #[test]
    fn over_a_long_gap_and_beyond_the_ends_nobody_knows() {
        let gaps = north(61, 610);
        assert_eq!(gaps.fix(at(30)), None);
        assert!(gaps.fix(at(58)).is_some(), "the point itself is near");
        assert_eq!(gaps.fix(at(-6)), None);
        assert_eq!(gaps.fix(at(616)), None);
        assert!(gaps.fix(at(-5)).is_some());
    }

    #[test]
    fn a_boat_that_lies_still_has_no_course() {
        let still = (0..100).map(|second| Point {
            at: at(second),
            latitude: 50.42,
            longitude: -95.61,
        });
        let track = Track::new("still", still.collect()).unwrap();
        let fix = track.fix(at(50)).unwrap();
        assert_eq!((fix.ground.unwrap().0, fix.course_deg), (0.0, None));
        assert_abs_diff_eq!(track.length().0, 0.0);
    }

    #[test]
    fn what_is_no_track_is_refused() {
        let point = |second, latitude| Point {
            at: at(second),
            latitude,
            longitude: -95.0,
        };
        let quantity = |points| Track::new("x", points).unwrap_err().quantity().to_owned();
        assert_eq!(quantity(vec![]), "points");
        assert_eq!(quantity(vec![point(0, 50.0), point(0, 50.1)]), "points");
        assert_eq!(quantity(vec![point(0, 50.0), point(9, 95.0)]), "lat");
        assert_eq!(
            quantity(vec![point(0, 50.0), point(200_000, 50.0)]),
            "points"
        );
        // Out of order is put in order.
        let track = Track::new("x", vec![point(9, 50.0), point(0, 50.1)]).unwrap();
        assert_eq!(track.span(), (at(0), at(9)));
    }
}
