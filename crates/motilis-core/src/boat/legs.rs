use crate::units::MetresPerSecond;
use glam::{DMat3, DVec3};
use std::collections::VecDeque;

/// A leg is straight while course and speed stay within this of its mean, degrees and m/s, and counts from so many seconds on.
const STRAIGHT: f64 = 12.0;
const STEADY: f64 = 0.15;
const A_LEG: f64 = 45.0;
/// Legs that are kept, and for how long, s.
const KEPT: usize = 8;
const FORGOTTEN: f64 = 2.0 * 3_600.0;
/// Two legs tell of a current when they lie so far apart, degrees.
const OPPOSITE: f64 = 100.0;
/// What is thought of a current before any leg, m/s; how well a hand keeps a throttle from leg to leg. From memory.
const PRIOR: f64 = 0.3;
const THROTTLE: f64 = 0.04;

/// A stretch that the boat went straight on, at one speed over ground.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct StraightLeg {
    /// Mean velocity over ground, m/s to the north and east.
    pub velocity: [f64; 2],
    /// How long.
    pub seconds: f64,
    /// When it ended.
    pub at: f64,
}

/// A current learnt from legs.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LearnedCurrent {
    /// Where the water goes, m/s to the north and east.
    pub velocity: [f64; 2],
    /// Speed through the water on those legs.
    pub through: MetresPerSecond,
    /// When the latest of them ended.
    pub at: f64,
    /// From how many legs.
    pub legs: usize,
    /// Standard deviation of it along the direction that is known best.
    pub sure: MetresPerSecond,
}

/// Finds straight legs in what a receiver says, and the current in the legs.
#[derive(Debug, Clone, Default)]
pub struct Legs {
    sum: [f64; 2],
    began: f64,
    count: f64,
    last: f64,
    gone: VecDeque<StraightLeg>,
}

impl Legs {
    /// Takes a speed and a course over ground, degrees, at a time.
    pub fn hear(&mut self, at: f64, ground: MetresPerSecond, course_deg: f64) {
        let (sin, cos) = course_deg.to_radians().sin_cos();
        let now = [ground.0 * cos, ground.0 * sin];
        if self.count > 0.0 {
            let mean = self.sum.map(|sum| sum / self.count);
            let speed = mean[0].hypot(mean[1]);
            let turned = mean[1].atan2(mean[0]).to_degrees() - course_deg;
            let turned = ((turned + 180.0).rem_euclid(360.0) - 180.0).abs();
            if turned > STRAIGHT || (speed - ground.0).abs() > STEADY || at - self.last > 10.0 {
                self.end();
            }
        }
        if self.count == 0.0 {
            self.began = at;
        }
        self.sum = [self.sum[0] + now[0], self.sum[1] + now[1]];
        self.count += 1.0;
        self.last = at;
    }

    fn end(&mut self) {
        self.gone.extend(self.running());
        while self.gone.len() > KEPT {
            self.gone.pop_front();
        }
        self.sum = [0.0; 2];
        self.count = 0.0;
    }

    /// The leg that is being gone, when it is long enough.
    fn running(&self) -> Option<StraightLeg> {
        let seconds = self.last - self.began;
        (self.count > 0.0 && seconds >= A_LEG).then(|| StraightLeg {
            velocity: self.sum.map(|sum| sum / self.count),
            seconds,
            at: self.last,
        })
    }

    /// The current by the circle through the legs' velocities, as pilots find the wind from turns at one speed (common
    /// practice, no source).
    ///
    /// The current that makes the legs' speeds through the water one and the same: the centre of the circle on which their
    /// velocities over ground lie (least squares, with a prior of no current). `None` until two legs lie apart.
    pub fn current(&self, now: f64) -> Option<LearnedCurrent> {
        let recent = |leg: &StraightLeg| now - leg.at < FORGOTTEN;
        let legs: Vec<StraightLeg> = self
            .gone
            .iter()
            .copied()
            .chain(self.running())
            .filter(recent)
            .collect();
        let course = |leg: &StraightLeg| leg.velocity[1].atan2(leg.velocity[0]).to_degrees();
        let apart = |a: f64, b: f64| ((a - b + 180.0).rem_euclid(360.0) - 180.0).abs();
        let told = legs
            .iter()
            .any(|a| legs.iter().any(|b| apart(course(a), course(b)) > OPPOSITE));
        if !told {
            return None;
        }
        let (found, precision) = fitted(&legs);
        let at = legs
            .iter()
            .map(|leg| leg.at)
            .fold(f64::NEG_INFINITY, f64::max);
        let variance = precision.inverse();
        Some(LearnedCurrent {
            velocity: [found.x, found.y],
            through: MetresPerSecond(found.z),
            at,
            legs: legs.len(),
            sure: MetresPerSecond(variance.x_axis.x.min(variance.y_axis.y).max(0.0).sqrt()),
        })
    }
}

/// Centre and radius of the circle through the legs' velocities, and how precisely they are known.
fn fitted(legs: &[StraightLeg]) -> (DVec3, DMat3) {
    let speeds: f64 = legs
        .iter()
        .map(|leg| leg.velocity[0].hypot(leg.velocity[1]))
        .sum();
    let mut at = DVec3::new(0.0, 0.0, speeds / legs.len() as f64);
    let prior = 1.0 / (PRIOR * PRIOR);
    let mut precision = DMat3::IDENTITY;
    for _ in 0..30 {
        precision = DMat3::from_diagonal(DVec3::new(prior, prior, 1e-9));
        let mut gradient = DVec3::new(-prior * at.x, -prior * at.y, 0.0);
        for leg in legs {
            let (x, y) = (leg.velocity[0] - at.x, leg.velocity[1] - at.y);
            let far = x.hypot(y).max(1e-9);
            let residual = far - at.z;
            // Of the residual: what a step of the centre and of the radius does to it.
            let slope = DVec3::new(-x / far, -y / far, -1.0);
            let weight = (leg.seconds / A_LEG).min(4.0) / (THROTTLE * THROTTLE);
            precision +=
                weight * DMat3::from_cols(slope * slope.x, slope * slope.y, slope * slope.z);
            gradient -= weight * residual * slope;
        }
        let step = precision.inverse() * gradient;
        at += step;
        if step.length() < 1e-9 {
            break;
        }
    }
    (at, precision)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A boat at one throttle on legs of these headings, in a current.
    fn after(headings: &[f64], through: f64, current: [f64; 2]) -> Legs {
        let mut legs = Legs::default();
        let mut now = 0.0;
        for heading in headings {
            let (sin, cos) = heading.to_radians().sin_cos();
            let (x, y) = (through * cos + current[0], through * sin + current[1]);
            for _ in 0..180 {
                legs.hear(now, MetresPerSecond(x.hypot(y)), y.atan2(x).to_degrees());
                now += 1.0;
            }
        }
        legs
    }

    /// Up and down a run the current along it is half the difference of the speeds (`spread::Current::between`).
    #[test]
    fn opposite_legs_tell_the_current_along_them() {
        let legs = after(&[0.0, 180.0], 0.6, [0.15, 0.0]);
        let learned = legs.current(360.0).unwrap();
        assert!((learned.velocity[0] - 0.15).abs() < 0.01, "{learned:?}");
        assert!(learned.velocity[1].abs() < 1e-6);
        assert!((learned.through.0 - 0.6).abs() < 0.01);
        assert!(learned.sure.0 < 0.05 && learned.legs == 2);
    }

    #[test]
    fn three_legs_tell_all_of_it() {
        let legs = after(&[10.0, 130.0, 250.0], 0.7, [0.12, -0.2]);
        let learned = legs.current(540.0).unwrap();
        assert!((learned.velocity[0] - 0.12).abs() < 0.01, "{learned:?}");
        assert!((learned.velocity[1] + 0.2).abs() < 0.01);
    }

    #[test]
    fn one_leg_tells_nothing_and_an_old_one_is_forgotten() {
        assert_eq!(after(&[0.0], 0.6, [0.15, 0.0]).current(180.0), None);
        let legs = after(&[0.0, 180.0], 0.6, [0.15, 0.0]);
        assert_eq!(legs.current(3.0 * 3_600.0), None);
    }
}
