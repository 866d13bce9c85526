use super::tow::Way;
use crate::error::{Error, Range};
use crate::fields;
use crate::spread::{Point, Side};
use crate::units::{Metres, MetresPerSecond};

/// What the boat does.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Course {
    /// Straight on at one speed.
    Straight,
    /// A circle after ten seconds straight on.
    Circle {
        /// Its radius.
        radius: Metres,
        /// The side it turns to.
        to: Side,
    },
    /// An S: so far to one side, back and as far to the other, and again.
    STurns {
        /// Radius of its bends.
        radius: Metres,
        /// Angle away from the course, degrees.
        angle_deg: f64,
    },
    /// The throttle opened and closed.
    Pulses {
        /// By what share the speed rises and falls.
        share: f64,
        /// Seconds from pulse to pulse.
        every_s: f64,
    },
    /// Stopped and started again.
    StopAndGo {
        /// Seconds under way.
        go_s: f64,
        /// Seconds stopped.
        stop_s: f64,
    },
    /// A fish on: slowed down after ten seconds, and kept there.
    FishOn {
        /// Share of the speed that is kept.
        share: f64,
    },
}

/// Seconds of steady tow before anything happens.
const LEAD_IN: f64 = 10.0;
/// What a boat gains or loses of its speed in a second, m/s²; from memory.
const THRUST: f64 = 0.25;

const ANGLE: Range = Range::closed(5.0, 90.0, "°", "between 5 and 90°");
const SHARE: Range = Range::closed(0.0, 0.9, "", "between 0 and 0.9");
const SECONDS: Range = Range::closed(2.0, 600.0, "s", "between 2 and 600 s");

impl Course {
    /// Whether it can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        match *self {
            Self::Straight => {}
            Self::Circle { radius, .. } => {
                fields::BEND_RADIUS.check(radius.0)?;
            }
            Self::STurns { radius, angle_deg } => {
                fields::BEND_RADIUS.check(radius.0)?;
                ANGLE.check("angle_deg", angle_deg)?;
            }
            Self::Pulses { share, every_s } => {
                SHARE.check("share", share)?;
                SECONDS.check("every_s", every_s)?;
            }
            Self::StopAndGo { go_s, stop_s } => {
                SECONDS.check("go_s", go_s)?;
                SECONDS.check("stop_s", stop_s)?;
            }
            Self::FishOn { share } => {
                SHARE.check("share", share)?;
            }
        }
        Ok(())
    }

    /// Speed asked for at a time, as a share of the trolling speed.
    fn share(&self, t: f64) -> f64 {
        let since = t - LEAD_IN;
        match *self {
            Self::Straight | Self::Circle { .. } | Self::STurns { .. } => 1.0,
            _ if since < 0.0 => 1.0,
            Self::Pulses { share, every_s } => {
                if since % every_s < 0.5 * every_s {
                    1.0 + share
                } else {
                    1.0 - share
                }
            }
            Self::StopAndGo { go_s, stop_s } => {
                f64::from(u8::from(since % (go_s + stop_s) >= stop_s))
            }
            Self::FishOn { share } => share,
        }
    }

    /// Curvature asked for after so much way, 1/m; positive to starboard.
    fn curvature(&self, way: f64, speed: f64) -> f64 {
        let since = way - LEAD_IN * speed;
        match *self {
            _ if since < 0.0 => 0.0,
            Self::Circle { radius, to } => to.sign() / radius.0,
            Self::STurns { radius, angle_deg } => {
                let bend = angle_deg.to_radians() * radius.0;
                // Out, back to the course and out again to the other side, back: 1, 2, 1 bends.
                let phase = (since / bend).rem_euclid(4.0);
                if (1.0..3.0).contains(&phase) {
                    -1.0 / radius.0
                } else {
                    1.0 / radius.0
                }
            }
            Self::Straight | Self::Pulses { .. } | Self::StopAndGo { .. } | Self::FishOn { .. } => {
                0.0
            }
        }
    }
}

/// The boat's way over the water: a point every step.
#[derive(Debug, Clone)]
pub struct Track {
    dt: f64,
    /// Way made, place, heading (from the first axis towards the second).
    points: Vec<(f64, [f64; 2], f64)>,
    speeds: Vec<f64>,
}

impl Track {
    /// The way of a course: heading along the first axis at first, so that the second lies to starboard.
    pub fn new(course: &Course, speed: MetresPerSecond, seconds: f64, dt: f64) -> Self {
        let steps = (seconds / dt).ceil() as usize;
        let mut points = vec![(0.0, [0.0; 2], 0.0)];
        let mut speeds = vec![speed.0];
        let (mut way, mut at, mut heading, mut v) = (0.0, [0.0_f64; 2], 0.0_f64, speed.0);
        for step in 1..=steps {
            let t = step as f64 * dt;
            let asked = speed.0 * course.share(t);
            v += (asked - v).clamp(-THRUST * dt, THRUST * dt);
            let turned = course.curvature(way, speed.0) * v * dt;
            let middle = heading + 0.5 * turned;
            at = [at[0] + v * dt * middle.cos(), at[1] + v * dt * middle.sin()];
            heading += turned;
            way += v * dt;
            points.push((way, at, heading));
            speeds.push(v);
        }
        Self { dt, points, speeds }
    }

    /// Steps of it.
    pub fn steps(&self) -> usize {
        self.points.len() - 1
    }

    /// Speed of the boat after a step.
    pub fn speed(&self, step: usize) -> MetresPerSecond {
        MetresPerSecond(self.speeds[step])
    }

    /// Seconds a step takes.
    pub fn dt(&self) -> f64 {
        self.dt
    }

    /// Place and heading after a step.
    pub fn boat(&self, step: usize) -> ([f64; 2], f64) {
        let (_, at, heading) = self.points[step];
        (at, heading)
    }

    /// The way as far as a step.
    pub fn at(&self, step: usize) -> impl Way + '_ {
        Reached { track: self, step }
    }

    /// Where something fixed to the boat is after a step: so far aft and to starboard.
    pub fn fixed(&self, step: usize, aft: f64, starboard: f64) -> [f64; 2] {
        let (at, heading) = self.boat(step);
        beside(at, heading, aft, starboard)
    }

    /// Where something is that follows the boat's way so far behind, so far to starboard: a board.
    pub fn following(&self, step: usize, behind: f64, starboard: f64) -> [f64; 2] {
        let way = self.points[step].0 - behind;
        if way <= 0.0 {
            return beside([way, 0.0], 0.0, 0.0, starboard);
        }
        let next = self.points[..=step]
            .partition_point(|point| point.0 < way)
            .max(1);
        between(self.points[next - 1], self.points[next], way, starboard)
    }

    /// A place seen from the boat after a step: aft, starboard, depth.
    pub fn seen(&self, step: usize, place: [f64; 3]) -> [f64; 3] {
        let (at, heading) = self.boat(step);
        aboard(at, heading, place)
    }
}

/// A place as it is seen from a boat: aft, starboard, depth.
pub(super) fn aboard(at: [f64; 2], heading: f64, place: [f64; 3]) -> Point {
    let (sin, cos) = heading.sin_cos();
    let (dx, dy) = (place[0] - at[0], place[1] - at[1]);
    [-(dx * cos + dy * sin), -dx * sin + dy * cos, place[2]]
}

/// A track as far as a step.
struct Reached<'a> {
    track: &'a Track,
    step: usize,
}

impl Way for Reached<'_> {
    fn dt(&self) -> f64 {
        self.track.dt
    }

    fn fixed(&self, aft: f64, starboard: f64) -> [f64; 2] {
        self.track.fixed(self.step, aft, starboard)
    }

    fn following(&self, behind: f64, starboard: f64) -> [f64; 2] {
        self.track.following(self.step, behind, starboard)
    }

    fn seen(&self, place: [f64; 3]) -> Point {
        self.track.seen(self.step, place)
    }
}

/// A place between two points of a way (way made, place, heading), so far to starboard.
pub(super) fn between(
    from: (f64, [f64; 2], f64),
    to: (f64, [f64; 2], f64),
    way: f64,
    starboard: f64,
) -> [f64; 2] {
    let share = if to.0 > from.0 {
        (way - from.0) / (to.0 - from.0)
    } else {
        0.0
    };
    let mix = |a: f64, b: f64| a + share * (b - a);
    let at = [mix(from.1[0], to.1[0]), mix(from.1[1], to.1[1])];
    beside(at, mix(from.2, to.2), 0.0, starboard)
}

pub(super) fn beside(at: [f64; 2], heading: f64, aft: f64, starboard: f64) -> [f64; 2] {
    let (sin, cos) = heading.sin_cos();
    [
        at[0] - aft * cos - starboard * sin,
        at[1] - aft * sin + starboard * cos,
    ]
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use std::f64::consts::PI;

    const SPEED: MetresPerSecond = MetresPerSecond(1.0);

    /// A board at offset `b` runs `(R + b) θ` while the boat runs `R θ`: geometry.
    #[test]
    fn a_board_outside_of_a_circle_goes_the_longer_way() {
        let radius = Metres(40.0);
        for (to, starboard) in [(Side::Port, 15.0), (Side::Starboard, 15.0)] {
            let course = Course::Circle { radius, to };
            let track = Track::new(&course, SPEED, 10.0 + 2.0 * PI * 40.0, 0.05);
            let from = (10.0 / 0.05) as usize;
            let places: Vec<_> = (from..=track.steps())
                .map(|step| track.following(step, 0.0, starboard))
                .collect();
            let way: f64 = places
                .windows(2)
                .map(|two| (two[1][0] - two[0][0]).hypot(two[1][1] - two[0][1]))
                .sum();
            let by_geometry = 2.0 * PI * (40.0 - to.sign() * starboard);
            assert_relative_eq!(way, by_geometry, max_relative = 2e-3);
        }
    }

    #[test]
    fn an_s_comes_back_to_its_heading() {
        let course = Course::STurns {
            radius: Metres(30.0),
            angle_deg: 45.0,
        };
        let whole = 4.0 * 45.0_f64.to_radians() * 30.0;
        let track = Track::new(&course, SPEED, 10.0 + whole, 0.05);
        assert!(track.boat(track.steps()).1.abs() < 0.02);
        let most = (0..=track.steps())
            .map(|step| track.boat(step).1)
            .fold(0.0, f64::max);
        assert_relative_eq!(most.to_degrees(), 45.0, epsilon = 1.0);
    }

    #[test]
    fn a_boat_needs_its_time_to_stop() {
        let course = Course::StopAndGo {
            go_s: 20.0,
            stop_s: 20.0,
        };
        let track = Track::new(&course, SPEED, 60.0, 0.05);
        let at = |t: f64| track.speed((t / 0.05) as usize).0;
        assert_relative_eq!(at(9.0), 1.0);
        assert_relative_eq!(at(12.0), 0.5, epsilon = 0.02);
        assert!(at(16.0) < 1e-9 && at(40.0) > 0.99);
    }

    #[test]
    fn what_is_seen_from_the_boat_is_where_it_was_put() {
        let course = Course::Circle {
            radius: Metres(30.0),
            to: Side::Starboard,
        };
        let track = Track::new(&course, SPEED, 60.0, 0.05);
        let step = track.steps();
        let place = track.fixed(step, 12.0, -3.0);
        let seen = track.seen(step, [place[0], place[1], 4.0]);
        assert_relative_eq!(seen[..], [12.0, -3.0, 4.0][..], epsilon = 1e-9);
    }

    #[test]
    fn a_course_that_cannot_be_is_refused() {
        let course = Course::Circle {
            radius: Metres(f64::NAN),
            to: Side::Port,
        };
        assert_eq!(course.check().unwrap_err().quantity(), "radius_m");
        let pulses = Course::Pulses {
            share: 2.0,
            every_s: 20.0,
        };
        assert_eq!(pulses.check().unwrap_err().quantity(), "share");
    }
}
