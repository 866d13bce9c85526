//! The angler's own dive curve: the strumming factor of one rod, line and weight, fitted to what the bottom said.

use super::setup::STRUMS;
use super::{Line, LineSetup, Surroundings};
use crate::error::Error;
use crate::fields;
use crate::rig::Rig;
use crate::towline::STRUM;
use crate::units::{Metres, MetresPerSecond};
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

/// A dive curve fitted to touches.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DiveFit {
    /// The strumming factor.
    pub strum: f64,
    /// Its 80 % band.
    pub band: (f64, f64),
    /// On how many touches it rests.
    pub touches: usize,
    /// And on how many passes that did not touch.
    pub misses: usize,
}

/// How far the logarithm of the factor may be from the usual one before anything was seen: 20 %.
const PRIOR: f64 = 0.2;
/// Share of the depth by which sounder, counter and speed are off together; from memory.
const READING: f64 = 0.06;
/// Factor of an 80 % interval.
const EIGHTY: f64 = 1.281_552;

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

    /// How deep the line's deepest part runs by the model with a strumming factor.
    fn deepest(&self, setup: &LineSetup, strum: f64, surroundings: Surroundings) -> Option<f64> {
        let setup = LineSetup {
            strum,
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
    /// Fits the factor of a set-up (as it was in use) to touches with it.
    ///
    /// The most likely `ln K` given a prior of 20 % about the usual factor, readings of depth that are off by some
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
        let cost = |ln_k: f64| -> f64 {
            let prior = (ln_k - STRUM.ln()) / PRIOR;
            let seen: f64 = touches
                .iter()
                .filter_map(|touch| {
                    let depth = touch.deepest(setup, ln_k.exp(), open)?;
                    let off = (depth - touch.bottom.0) / (READING * touch.bottom.0);
                    Some(if touch.touched {
                        0.5 * off * off
                    } else {
                        -normal.cdf(-off).max(1e-12).ln()
                    })
                })
                .sum();
            0.5 * prior * prior + seen
        };
        let (least, most) = (STRUMS.least.ln(), STRUMS.most.ln());
        let best = smallest(cost, least, most);
        let h = 0.02;
        let bend = (cost(best + h) - 2.0 * cost(best) + cost(best - h)) / (h * h);
        let spread = EIGHTY / bend.max(1.0 / (PRIOR * PRIOR)).sqrt();
        let touched = touches.iter().filter(|touch| touch.touched).count();
        // A touch that no line can have made pulls the factor to its end, not beyond.
        let borne = |ln_k: f64| ln_k.exp().clamp(STRUMS.least, STRUMS.most);
        Some(Self {
            strum: borne(best),
            band: (borne(best - spread), borne(best + spread)),
            touches: touched,
            misses: touches.len() - touched,
        })
    }
}

/// Where a function with one valley is least: golden sections.
fn smallest(f: impl Fn(f64) -> f64, mut from: f64, mut to: f64) -> f64 {
    let golden = 0.5 * (5.0_f64.sqrt() - 1.0);
    let mut inner = (to - golden * (to - from), from + golden * (to - from));
    let mut costs = (f(inner.0), f(inner.1));
    while to - from > 1e-4 {
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
