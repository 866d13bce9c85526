//! The angler's own dive curve: the strumming factor of one rod, line and weight, fitted to what the bottom said.

use super::sure::READING;
use super::{Learned, Line, LineSetup, Surroundings};
use crate::error::Error;
use crate::fields;
use crate::rig::Rig;
use crate::towline::TENTH;
use crate::units::{Metres, MetresPerSecond};
use rayon::prelude::*;
use statrs::distribution::{ContinuousCDF, Normal};
use std::sync::Arc;

/// "I touched bottom at 24 ft with 80 ft out at 1.2 mph", or a pass that did not touch.
#[derive(Debug, Clone, PartialEq)]
pub struct Touch {
    /// The rig that was on.
    pub rig: Arc<Rig>,
    /// The lead behind the weight.
    pub lead: Metres,
    /// What was let out.
    pub out: Metres,
    /// Depth of the bottom there.
    pub bottom: Metres,
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// Whether it touched.
    pub touched: bool,
}

/// A dive curve fitted to touches: what the drag across the line is multiplied by.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DiveFit {
    /// The factor on the drag across it.
    pub held: f64,
    /// Its 80 % band.
    pub band: (f64, f64),
    /// On how many touches it rests.
    pub touches: usize,
    /// And on how many passes that did not touch.
    pub misses: usize,
    /// Two touches that cannot both be right.
    pub apart: Option<Apart>,
}

/// Two touches that disagree by more than their readings can.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Apart {
    /// Line out and bottom of the one that found the line deeper than the other would have it.
    pub deeper: (Metres, Metres),
    /// Of the other.
    pub shallower: (Metres, Metres),
    /// By how many spreads of a difference of two readings.
    pub spreads: f64,
}

/// Spreads from which two touches are told to disagree.
const APART: f64 = 3.0;

/// How far the logarithm of the factor may be from 1 before anything was seen. It stands for all that stays the same
/// from pass to pass (strumming, diameter, the drag of weight and rig), which together move a depth as some 25 % of the
/// line's drag do.
const PRIOR: f64 = 0.25;
/// Factors that are looked at.
const LEAST: f64 = 0.3;
const MOST: f64 = 4.0;

impl Touch {
    /// Whether every figure of it can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the field; [`Error::Contradiction`] for a bottom deeper than the line is long.
    pub fn check(&self) -> Result<(), Error> {
        fields::TOUCH_OUT.check(self.out.0)?;
        fields::TOUCH_DEPTH.check(self.bottom.0)?;
        fields::TOUCH_SPEED.check(self.speed.0)?;
        if self.touched && self.bottom > self.out + self.lead {
            return Err(Error::contradiction(
                fields::TOUCH_DEPTH.key,
                "that bottom is deeper than the line was long, so it cannot have touched; correct one of the two",
            ));
        }
        Ok(())
    }

    /// How deep the line's deepest part runs by the model with a factor on its drag.
    fn deepest(&self, setup: &LineSetup, held: f64, surroundings: Surroundings) -> Option<f64> {
        let setup = LineSetup {
            learned: Learned { held, touches: 0 },
            lead: self.lead,
            ..setup.clone()
        };
        let line = Line::new(&self.rig, &setup, surroundings).ok()?;
        let run = line.run(self.speed, self.out).ok()?;
        let weight = run.weight.map_or(0.0, |weight| weight.depth.0);
        Some(run.rig.depth.0.max(weight))
    }
}

impl DiveFit {
    /// What the line then is known by.
    pub fn learned(&self) -> Learned {
        Learned {
            held: self.held,
            touches: self.touches,
        }
    }

    /// Fits the factor of a set-up (as it was in use) to touches with it.
    ///
    /// The most likely logarithm of the factor given a prior of 25 % about 1, readings of depth that are off by some
    /// 6 %, and passes without a touch as what they are: the line ran shallower than that. The band is that of a
    /// parabola at the top (Laplace). `None` without touches and passes.
    pub fn to(setup: &LineSetup, surroundings: Surroundings, touches: &[Touch]) -> Option<Self> {
        if touches.is_empty() {
            return None;
        }
        let open = Surroundings {
            bottom: None,
            ..surroundings
        };
        let normal = Normal::standard();
        let cost = |ln: f64| -> f64 {
            let prior = ln / PRIOR;
            let seen: Vec<f64> = touches
                .par_iter()
                .filter_map(|touch| {
                    let depth = touch.deepest(setup, ln.exp(), open)?;
                    let off = (depth - touch.bottom.0) / (READING * touch.bottom.0);
                    Some(if touch.touched {
                        0.5 * off * off
                    } else {
                        -normal.cdf(-off).max(1e-12).ln()
                    })
                })
                .collect();
            0.5 * prior * prior + seen.iter().sum::<f64>()
        };
        let (least, most) = (LEAST.ln(), MOST.ln());
        let near = smallest(cost, least, most);
        let (near, _) = vertex(cost, near, 0.03, (least, most));
        let (best, bend) = vertex(cost, near, 0.02, (least, most));
        let spread = TENTH / bend.max(1.0 / (PRIOR * PRIOR)).sqrt();
        let touched = touches.iter().filter(|touch| touch.touched).count();
        let apart = apart(setup, open, touches, best.exp());
        // A touch that no line can have made pulls the factor to its end, not beyond.
        let borne = |ln: f64| ln.exp().clamp(LEAST, MOST);
        Some(Self {
            held: borne(best),
            band: (borne(best - spread), borne(best + spread)),
            touches: touched,
            misses: touches.len() - touched,
            apart,
        })
    }
}

/// The two touches that are farthest from each other as seen from the fitted curve, if that is too far.
fn apart(setup: &LineSetup, open: Surroundings, touches: &[Touch], held: f64) -> Option<Apart> {
    let mut off: Vec<(f64, &Touch)> = touches
        .iter()
        .filter(|touch| touch.touched)
        .filter_map(|touch| {
            let depth = touch.deepest(setup, held, open)?;
            Some(((touch.bottom.0 / depth).ln() / READING, touch))
        })
        .collect();
    off.sort_by(|a, b| a.0.total_cmp(&b.0));
    let ((least, shallower), (most, deeper)) = (off.first()?, off.last()?);
    let spreads = (most - least) / std::f64::consts::SQRT_2;
    (spreads > APART).then_some(Apart {
        deeper: (deeper.out, deeper.bottom),
        shallower: (shallower.out, shallower.bottom),
        spreads,
    })
}

/// Where the parabola through three points of a function has its least, and how it bends there; the middle point itself where
/// it has none nearby.
fn vertex(f: impl Fn(f64) -> f64, at: f64, h: f64, (from, to): (f64, f64)) -> (f64, f64) {
    let (before, here, after) = (f(at - h), f(at), f(at + h));
    let bend = (after - 2.0 * here + before) / (h * h);
    let step = (before - after) / (2.0 * h * bend);
    if bend > 0.0 && step.abs() <= 2.0 * h {
        ((at + step).clamp(from, to), bend)
    } else {
        (at, bend)
    }
}

/// Where a function with one valley is least, to some hundredths: golden sections.
fn smallest(f: impl Fn(f64) -> f64, mut from: f64, mut to: f64) -> f64 {
    let golden = 0.5 * (5.0_f64.sqrt() - 1.0);
    let mut inner = (to - golden * (to - from), from + golden * (to - from));
    let mut costs = (f(inner.0), f(inner.1));
    while to - from > 0.04 {
        if costs.0 < costs.1 {
            to = inner.1;
            inner = (to - golden * (to - from), inner.0);
            costs = (f(inner.0), costs.0);
        } else {
            from = inner.0;
            inner = (inner.1, from + golden * (to - from));
            costs = (costs.1, f(inner.1));
        }
    }
    0.5 * (from + to)
}
