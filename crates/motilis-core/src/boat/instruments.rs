use super::{BoatFix, Said};
use crate::units::{Celsius, Metres, MetresPerSecond};

/// Older than this a figure is shown as stale, and as gone, seconds.
const STALE: f64 = 3.0;
const GONE: f64 = 30.0;
/// Faster than this no boat that trolls goes from fix to fix, m/s; a place that does is believed when more follow it.
const FASTEST: f64 = 25.0;
const MORE: u32 = 3;
/// A paddle that says nothing while the boat makes this way over ground is fouled, m/s.
const FOULED: (f64, f64) = (0.05, 0.4);
/// By so much no current of a lake or bay sets paddle and receiver apart, m/s; from memory.
const APART: f64 = 1.2;

/// Something an instrument said, and when that came in: seconds of a clock that only goes on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Figure<T> {
    /// What it said.
    pub value: T,
    /// When.
    pub at: f64,
}

/// Whether a figure can still be gone by.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Freshness {
    /// It is now.
    Fresh,
    /// It is not new any more.
    Stale,
    /// Nobody should go by it.
    Gone,
}

impl<T: Copy> Figure<T> {
    /// Seconds since it came.
    pub fn age(&self, now: f64) -> f64 {
        (now - self.at).max(0.0)
    }

    /// Whether it can still be gone by.
    pub fn freshness(&self, now: f64) -> Freshness {
        match self.age(now) {
            age if age <= STALE => Freshness::Fresh,
            age if age <= GONE => Freshness::Stale,
            _ => Freshness::Gone,
        }
    }

    /// What it said, unless that is gone.
    pub fn held(&self, now: f64) -> Option<T> {
        (self.freshness(now) != Freshness::Gone).then_some(self.value)
    }
}

/// Where a speed through the water comes from.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Source {
    /// A paddle wheel in the water.
    Paddle,
    /// Over ground, less a current.
    LessCurrent,
    /// Over ground; of a current nothing is known.
    Ground,
    /// Typed in.
    Typed,
}

/// A speed through the water.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Through {
    /// How fast.
    pub speed: MetresPerSecond,
    /// By whom.
    pub source: Source,
    /// Seconds since it was said; none for what was typed in.
    pub age_s: Option<f64>,
    /// Where the bow points, degrees true, as far as that is known.
    pub heading_deg: Option<f64>,
}

/// What the boat's instruments said last.
#[derive(Debug, Clone, Default)]
pub struct Instruments {
    /// The receiver's fix.
    pub fix: Option<Figure<BoatFix>>,
    /// Speed and course over ground.
    pub ground: Option<Figure<(MetresPerSecond, Option<f64>)>>,
    /// Depth of the bottom.
    pub depth: Option<Figure<Metres>>,
    /// Temperature of the water.
    pub temperature: Option<Figure<Celsius>>,
    /// Speed through the water, by paddle.
    pub paddle: Option<Figure<(MetresPerSecond, Option<f64>)>>,
    /// Wind: from where, how fast, felt aboard or true.
    pub wind: Option<Figure<(f64, MetresPerSecond, bool)>>,
    /// A place too far away to be believed, how often it was said, and how far it is.
    doubted: Option<(BoatFix, u32, Metres)>,
}

/// Something about what was said.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Remark {
    /// The place leapt so far, and is not believed yet.
    Leap(Metres),
    /// The boat is elsewhere than it was: what lies behind it there is unknown.
    Elsewhere(Metres),
}

impl Instruments {
    /// Takes what was said.
    pub fn hear(&mut self, said: Said, at: f64) -> Option<Remark> {
        match said {
            Said::Fix(fix) => return self.hear_fix(fix, at),
            Said::Ground(speed, course) => {
                self.ground = Some(Figure {
                    value: (speed, course),
                    at,
                });
            }
            Said::Depth(value) => self.depth = Some(Figure { value, at }),
            Said::Temperature(value) => self.temperature = Some(Figure { value, at }),
            Said::Through(speed, heading) => {
                self.paddle = Some(Figure {
                    value: (speed, heading),
                    at,
                });
            }
            Said::Wind {
                from_deg,
                speed,
                felt,
            } => {
                self.wind = Some(Figure {
                    value: (from_deg, speed, felt),
                    at,
                });
            }
            Said::Place(..) | Said::Void(_) | Said::Other => {}
        }
        None
    }

    fn hear_fix(&mut self, fix: BoatFix, at: f64) -> Option<Remark> {
        let mut remark = None;
        if let Some(last) = self.fix {
            let way = far(last.value.place, fix.place);
            let seconds = fix.at.duration_since(last.value.at).as_secs_f64().abs();
            if way.0 > FASTEST * seconds.clamp(1.0, 60.0) {
                let again = self
                    .doubted
                    .filter(|(doubted, ..)| far(doubted.place, fix.place).0 < FASTEST * 3.0);
                let times = again.map_or(0, |(_, times, _)| times) + 1;
                let leap = again.map_or(way, |(.., leap)| leap);
                if times < MORE {
                    self.doubted = Some((fix, times, leap));
                    return Some(Remark::Leap(way));
                }
                remark = Some(Remark::Elsewhere(leap));
            }
        }
        self.doubted = None;
        self.fix = Some(Figure { value: fix, at });
        if let Some(ground) = fix.ground {
            self.ground = Some(Figure {
                value: (ground, fix.course_deg),
                at,
            });
        }
        remark
    }

    /// Whether the paddle can be believed: that it turns while the boat goes, and agrees with the receiver within what a
    /// current can do.
    pub fn paddle_is_sound(&self, now: f64) -> bool {
        let Some((paddle, _)) = self.paddle.and_then(|figure| figure.held(now)) else {
            return false;
        };
        let Some((ground, _)) = self.ground.and_then(|figure| figure.held(now)) else {
            return true;
        };
        let stands = paddle.0 < FOULED.0 && ground.0 > FOULED.1;
        !stands && (paddle - ground).0.abs() < APART
    }

    /// Speed through the water by the best there is: paddle, else over ground less the current (metres a second to the north and east),
    /// else what was typed in.
    pub fn through(&self, now: f64, current: Option<[f64; 2]>, typed: MetresPerSecond) -> Through {
        let ground = self
            .ground
            .and_then(|figure| Some((figure.held(now)?, figure.age(now))));
        let over = ground.map(|((speed, course), age)| {
            let course = course.unwrap_or(0.0).to_radians();
            let [north, east] = current.unwrap_or_default();
            let (x, y) = (
                speed.0 * course.cos() - north,
                speed.0 * course.sin() - east,
            );
            (
                MetresPerSecond(x.hypot(y)),
                y.atan2(x).to_degrees().rem_euclid(360.0),
                age,
            )
        });
        let crabbed = over.map(|(_, heading, _)| heading);
        if let (Some(paddle), true) = (self.paddle, self.paddle_is_sound(now)) {
            return Through {
                speed: paddle.value.0,
                source: Source::Paddle,
                age_s: Some(paddle.age(now)),
                heading_deg: paddle.value.1.or(crabbed),
            };
        }
        match over {
            Some((speed, heading, age)) => Through {
                speed,
                source: if current.is_some() {
                    Source::LessCurrent
                } else {
                    Source::Ground
                },
                age_s: Some(age),
                heading_deg: Some(heading),
            },
            None => Through {
                speed: typed,
                source: Source::Typed,
                age_s: None,
                heading_deg: None,
            },
        }
    }
}

/// Metres from place to place, both near each other or not.
fn far(from: [f64; 2], to: [f64; 2]) -> Metres {
    let (east, north) = crate::track::Plane::at(from[0], from[1]).place(to[0], to[1]);
    Metres(east.hypot(north))
}

#[cfg(test)]
mod tests {
    use super::Freshness::{Fresh, Gone, Stale};
    use super::*;
    use jiff::{SignedDuration, Timestamp};

    const TYPED: MetresPerSecond = MetresPerSecond(0.5);

    fn fix(second: i64, latitude: f64) -> Said {
        Said::Fix(BoatFix {
            at: Timestamp::UNIX_EPOCH + SignedDuration::from_secs(second),
            place: [latitude, -95.61],
            ground: Some(MetresPerSecond(0.6)),
            course_deg: Some(0.0),
        })
    }

    fn paddle(speed: f64) -> Said {
        Said::Through(MetresPerSecond(speed), None)
    }

    #[test]
    fn figures_age_and_go() {
        let mut aboard = Instruments::default();
        aboard.hear(Said::Depth(Metres(9.0)), 10.0);
        let depth = aboard.depth.unwrap();
        let states = [10.0, 13.0, 13.1, 40.0, 40.1].map(|now| depth.freshness(now));
        assert_eq!(states, [Fresh, Fresh, Stale, Stale, Gone]);
        assert_eq!(depth.held(41.0), None);
    }

    #[test]
    fn the_best_source_of_a_speed_is_taken_and_named() {
        let mut aboard = Instruments::default();
        assert_eq!(aboard.through(0.0, None, TYPED).source, Source::Typed);
        aboard.hear(fix(0, 50.42), 0.0);
        assert_eq!(aboard.through(0.0, None, TYPED).source, Source::Ground);
        // A current of 0.2 to the south against a boat that goes north: it goes faster through the water.
        let less = aboard.through(0.0, Some([-0.2, 0.0]), TYPED);
        assert_eq!(less.source, Source::LessCurrent);
        assert!((less.speed.0 - 0.8).abs() < 1e-9);
        aboard.hear(paddle(0.75), 0.0);
        assert_eq!(aboard.through(0.0, None, TYPED).source, Source::Paddle);
        aboard.hear(paddle(0.0), 0.0);
        assert_eq!(aboard.through(0.0, None, TYPED).source, Source::Ground);
        aboard.hear(paddle(4.0), 0.0);
        assert!(!aboard.paddle_is_sound(0.0));
        assert_eq!(aboard.through(60.0, None, TYPED).source, Source::Typed);
    }

    #[test]
    fn a_current_from_the_side_makes_the_boat_crab() {
        let mut aboard = Instruments::default();
        aboard.hear(fix(0, 50.42), 0.0);
        let through = aboard.through(0.0, Some([0.0, 0.6]), TYPED);
        assert!((through.heading_deg.unwrap() - 315.0).abs() < 1e-6);
    }

    #[test]
    fn a_place_that_leaps_is_believed_when_it_stays() {
        let mut aboard = Instruments::default();
        aboard.hear(fix(0, 50.42), 0.0);
        assert!(matches!(
            aboard.hear(fix(1, 50.465), 1.0),
            Some(Remark::Leap(_))
        ));
        assert_eq!(aboard.hear(fix(2, 50.42), 2.0), None);
        assert!((aboard.fix.unwrap().value.place[0] - 50.42).abs() < 1e-9);
        for second in 3..5 {
            assert!(matches!(
                aboard.hear(fix(second, 50.465), 3.0),
                Some(Remark::Leap(_))
            ));
        }
        let Some(Remark::Elsewhere(way)) = aboard.hear(fix(5, 50.465), 5.0) else {
            panic!("the third is believed");
        };
        assert!((way.0 - 5_000.0).abs() < 50.0);
    }
}
