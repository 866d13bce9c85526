use super::{Angler, Belief, Record};
use crate::error::Error;
use statrs::distribution::{Continuous, ContinuousCDF, Gamma};
use statrs::function::beta::beta_reg;
use statrs::function::gamma::ln_gamma;

/// Fewest rod-hours of either side before anything is said of the two (common practice, no source).
pub const ENOUGH_HOURS: f64 = 2.0;

/// How sure it is that one rate is above another, in words that are the same everywhere.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Verdict {
    /// Under 0.65, or too few hours.
    CannotTell,
    /// 0.65 to 0.8.
    Leaning,
    /// 0.8 to 0.95.
    Likely,
    /// Over 0.95.
    Clear,
}

impl Verdict {
    /// The word for a probability that rests on so many hours of each side.
    pub fn of(probability: f64, hours: [f64; 2]) -> Self {
        if hours.iter().any(|hours| *hours < ENOUGH_HOURS) {
            return Self::CannotTell;
        }
        match probability {
            p if p > 0.95 => Self::Clear,
            p if p >= 0.8 => Self::Likely,
            p if p >= 0.65 => Self::Leaning,
            _ => Self::CannotTell,
        }
    }

    /// What it is called.
    pub fn name(self) -> &'static str {
        match self {
            Self::CannotTell => "cannot tell",
            Self::Leaning => "leaning",
            Self::Likely => "likely",
            Self::Clear => "clear",
        }
    }
}

impl Belief {
    /// Probability that this rate is above another: `I_{b/(a+b)}(shape_b, shape_a)` with `a` and `b` the rate
    /// parameters, the regularised incomplete beta function.
    pub fn beats(&self, other: &Self) -> f64 {
        let share = self.hours / (self.hours + other.hours);
        // The one with more hours behind it keeps the tail it has digits for.
        1.0 - beta_reg(self.shape, other.shape, share)
    }

    /// The word for that.
    pub fn verdict_over(&self, other: &Self) -> Verdict {
        let hours = [self.record.rod_hours, other.record.rod_hours];
        Verdict::of(self.beats(other), hours)
    }

    fn gamma(&self) -> Gamma {
        Gamma::new(self.shape, self.hours).expect("shape and hours are above zero")
    }
}

/// Probability of each to have the highest rate of all, in their order; they add up to one.
///
/// `∫ f_i(x) Π_{j≠i} F_j(x) dx`, over the logarithm of `x` by the trapezoidal rule, which converges geometrically for
/// such smooth, decaying integrands (Trefethen & Weideman 2014, SIAM Review 56(3), from memory). The step resolves the
/// narrowest of the gammas; the tails left out weigh less than 1e-11.
pub fn best_of(beliefs: &[Belief]) -> Vec<f64> {
    if beliefs.len() < 2 {
        return vec![1.0; beliefs.len()];
    }
    let gammas: Vec<Gamma> = beliefs.iter().map(Belief::gamma).collect();
    let widest = beliefs.iter().map(|one| one.shape).fold(1.0, f64::max);
    let step = 0.35 / widest.sqrt();
    // F(x) is at most (b x)^a / Γ(a + 1); the best of all is above what any of them surely is.
    let low =
        |one: &Belief| ((TAIL.ln() + ln_gamma(one.shape + 1.0)) / one.shape).exp() / one.hours;
    let high = |one: &Belief| (one.shape + 9.0 * one.shape.sqrt() + 30.0) / one.hours;
    let from = beliefs.iter().map(low).fold(0.0, f64::max).ln();
    let to = beliefs.iter().map(high).fold(0.0, f64::max).ln();
    let mut sums = vec![0.0; beliefs.len()];
    let steps = ((to - from) / step).ceil() as usize;
    for at in 0..=steps {
        let x = (from + at as f64 * step).exp();
        let below: Vec<f64> = gammas.iter().map(|gamma| gamma.cdf(x)).collect();
        for (i, gamma) in gammas.iter().enumerate() {
            let others = below.iter().enumerate().filter(|(j, _)| *j != i);
            let product: f64 = others.map(|(_, below)| below).product();
            if product > 0.0 {
                sums[i] += gamma.pdf(x) * x * product * step;
            }
        }
    }
    sums
}

/// What a gamma leaves below the grid.
const TAIL: f64 = 1e-12;

/// Two rigs in one place of the water at one time: the same outing, band of depth and hours.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Stratum {
    /// The first.
    pub a: Record,
    /// The second.
    pub b: Record,
}

/// A ratio of two rates, stratum by stratum.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Ratio {
    /// Rate of the first over that of the second.
    pub ratio: f64,
    /// Standard error of its logarithm.
    pub log_error: f64,
    /// Strata in which both were fished and something bit: the others say nothing.
    pub informing: usize,
}

impl Ratio {
    /// Probability that the first rate is the higher one, by the normal approximation of the logarithm.
    pub fn probability(&self) -> f64 {
        0.5 * statrs::function::erf::erfc(
            -self.ratio.ln() / (self.log_error * std::f64::consts::SQRT_2),
        )
    }

    /// Its 80 % interval.
    pub fn interval(&self) -> (f64, f64) {
        let reach = (1.281_551_565_544_6 * self.log_error).exp();
        (self.ratio / reach, self.ratio * reach)
    }
}

/// The Mantel–Haenszel rate ratio for person-time with the variance of Greenland and Robins; `None` where the strata
/// leave nothing to compare, or all fish are on one side.
///
/// # Source
/// Rothman, Greenland & Lash (2008), *Modern Epidemiology*, 3rd ed., ch. 15 (from memory); Greenland & Robins (1985),
/// Biometrics 41.
pub fn stratified(strata: &[Stratum]) -> Option<Ratio> {
    let (mut over, mut under, mut spread, mut informing) = (0.0, 0.0, 0.0, 0);
    for Stratum { a, b } in strata {
        let hours = a.rod_hours + b.rod_hours;
        let fish = f64::from(a.fish + b.fish);
        if a.rod_hours <= 0.0 || b.rod_hours <= 0.0 || fish == 0.0 {
            continue;
        }
        informing += 1;
        over += f64::from(a.fish) * b.rod_hours / hours;
        under += f64::from(b.fish) * a.rod_hours / hours;
        spread += fish * a.rod_hours * b.rod_hours / (hours * hours);
    }
    (over > 0.0 && under > 0.0).then(|| Ratio {
        ratio: over / under,
        log_error: (spread / (over * under)).sqrt(),
        informing,
    })
}

/// Two rigs held against each other: as they are, and within the same places and hours.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Compared {
    /// All of the first, and all of the second.
    pub whole: Stratum,
    /// Probability that the first is the better one, whatever it was fished in.
    pub raw: f64,
    /// The word for it.
    pub raw_verdict: Verdict,
    /// The ratio within strata; `None` where they leave nothing to compare.
    pub stratified: Option<Ratio>,
    /// Probability that the first is the better one within the same places and hours.
    pub probability: f64,
    /// The word for that: the one that counts.
    pub verdict: Verdict,
}

impl Compared {
    /// Compares two rigs over strata in which either was fished.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for hours that cannot be.
    pub fn of(angler: Angler, strata: &[Stratum]) -> Result<Self, Error> {
        let whole = strata.iter().fold(Stratum::default(), |sum, one| Stratum {
            a: sum.a.and(one.a),
            b: sum.b.and(one.b),
        });
        let (a, b) = (angler.believes(whole.a)?, angler.believes(whole.b)?);
        let both: Vec<Stratum> = strata
            .iter()
            .filter(|one| one.a.rod_hours > 0.0 && one.b.rod_hours > 0.0)
            .copied()
            .collect();
        let shared = both.iter().fold([0.0, 0.0], |sum, one| {
            [sum[0] + one.a.rod_hours, sum[1] + one.b.rod_hours]
        });
        let stratified = stratified(&both);
        let raw = a.beats(&b);
        let probability = stratified.map_or(0.5, |ratio| ratio.probability());
        let sure = |probability: f64| probability.max(1.0 - probability);
        Ok(Self {
            whole,
            raw,
            raw_verdict: Verdict::of(sure(raw), [whole.a.rod_hours, whole.b.rod_hours]),
            stratified,
            probability,
            verdict: Verdict::of(sure(probability), shared),
        })
    }

    /// Whether the first has the edge within strata; `None` where nothing can be told.
    pub fn first_leads(&self) -> Option<bool> {
        (self.verdict > Verdict::CannotTell).then_some(self.probability > 0.5)
    }

    /// Whether the raw comparison says something that the strata do not bear out: it is then probably the depth or the
    /// hour.
    pub fn misleads(&self) -> bool {
        let raw_leads = (self.raw_verdict > Verdict::CannotTell).then_some(self.raw > 0.5);
        raw_leads.is_some() && raw_leads != self.first_leads()
    }
}
