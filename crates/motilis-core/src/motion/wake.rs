use super::course::{aboard, beside, between};
use super::tow::Way;
use crate::spread::Point;
use crate::units::MetresPerSecond;
use std::collections::VecDeque;

/// Metres of way that are kept for what follows it.
const KEPT: f64 = 400.0;

/// The way of a boat over the water, as far as it has come: what it did, not what it will do.
///
/// Axes as everywhere in motion: the heading is counted from the first axis towards the second, which lies to starboard.
#[derive(Debug, Clone)]
pub struct Wake {
    dt: f64,
    /// Way made, place, heading, the latest last.
    points: VecDeque<(f64, [f64; 2], f64)>,
}

impl Wake {
    /// A boat that came straight on to a place.
    pub fn at(place: [f64; 2], heading: f64, dt: f64) -> Self {
        Self {
            dt,
            points: VecDeque::from([(0.0, place, heading)]),
        }
    }

    /// Where the boat is, and its heading.
    pub fn boat(&self) -> ([f64; 2], f64) {
        let (_, place, heading) = self.now();
        (place, heading)
    }

    fn now(&self) -> (f64, [f64; 2], f64) {
        // One point is there from the beginning, and the last is never dropped.
        self.points[self.points.len() - 1]
    }

    /// Goes on for a step at a speed, ending on a heading.
    pub fn go(&mut self, speed: MetresPerSecond, heading: f64) {
        let (way, at, before) = self.now();
        let turned = (heading - before + std::f64::consts::PI).rem_euclid(std::f64::consts::TAU)
            - std::f64::consts::PI;
        let middle = before + 0.5 * turned;
        let step = speed.0 * self.dt;
        let at = [at[0] + step * middle.cos(), at[1] + step * middle.sin()];
        // Headings run on without a leap, so that they can be mixed.
        self.points.push_back((way + step, at, before + turned));
        while self.points.len() > 2 && self.points[1].0 < way - KEPT {
            self.points.pop_front();
        }
        // A boat that stands leaves its points on one another: only the last matters.
        if step < 1e-9 && self.points.len() > 2 {
            let last = self.points.len() - 2;
            self.points.remove(last);
        }
    }

    /// The same way with other steps from now on.
    #[must_use]
    pub fn in_steps_of(mut self, dt: f64) -> Self {
        self.dt = dt;
        self
    }
}

impl Way for Wake {
    fn dt(&self) -> f64 {
        self.dt
    }

    fn fixed(&self, aft: f64, starboard: f64) -> [f64; 2] {
        let (_, at, heading) = self.now();
        beside(at, heading, aft, starboard)
    }

    fn following(&self, behind: f64, starboard: f64) -> [f64; 2] {
        let way = self.now().0 - behind;
        let first = self.points[0];
        if way <= first.0 {
            let (sin, cos) = first.2.sin_cos();
            let back = first.0 - way;
            let at = [first.1[0] - back * cos, first.1[1] - back * sin];
            return beside(at, first.2, 0.0, starboard);
        }
        let next = self.points.partition_point(|point| point.0 < way).max(1);
        between(self.points[next - 1], self.points[next], way, starboard)
    }

    fn seen(&self, place: [f64; 3]) -> Point {
        let (at, heading) = self.boat();
        aboard(at, heading, place)
    }
}

#[cfg(test)]
mod tests {
    use super::super::{Course, Track};
    use super::*;
    use crate::units::Metres;
    use approx::assert_relative_eq;

    /// A wake that does what a track did is that track: boat, boards and what is seen.
    #[test]
    fn a_wake_goes_where_the_track_went() {
        let course = Course::STurns {
            radius: Metres(30.0),
            angle_deg: 45.0,
        };
        let track = Track::new(&course, MetresPerSecond(0.6), 120.0, 0.05);
        let mut wake = Wake::at([0.0; 2], 0.0, 0.05);
        for step in 1..=track.steps() {
            wake.go(track.speed(step), track.boat(step).1);
            if step % 100 == 0 {
                let reached = track.at(step);
                for (behind, starboard) in [(0.0, 0.0), (7.0, -15.0), (60.0, 12.0)] {
                    let (own, its) = (
                        wake.following(behind, starboard),
                        reached.following(behind, starboard),
                    );
                    assert_relative_eq!(own[..], its[..], epsilon = 1e-9);
                }
                let place = [3.0, 4.0, 5.0];
                assert_relative_eq!(
                    wake.seen(place)[..],
                    reached.seen(place)[..],
                    epsilon = 1e-9
                );
            }
        }
    }

    #[test]
    fn a_boat_that_goes_round_and_round_keeps_no_more_than_it_needs() {
        let mut wake = Wake::at([0.0; 2], 0.0, 0.05);
        for step in 0..200_000 {
            wake.go(
                MetresPerSecond(if step % 1_000 < 500 { 1.0 } else { 0.0 }),
                f64::from(step) * 1e-3,
            );
        }
        assert!(wake.points.len() < 9_000, "{}", wake.points.len());
    }
}
