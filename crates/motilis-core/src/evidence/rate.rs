use crate::error::{Error, Range};
use statrs::distribution::{ContinuousCDF, Gamma};

/// Fish and rod-hours of a rig.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Record {
    /// Fish on.
    pub fish: u32,
    /// Hours a rod carried it.
    pub rod_hours: f64,
}

impl Record {
    /// Both together.
    pub fn and(self, other: Self) -> Self {
        Self {
            fish: self.fish + other.fish,
            rod_hours: self.rod_hours + other.rod_hours,
        }
    }
}

/// What an angler catches on the whole, fish per rod-hour.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Angler {
    rate: f64,
}

/// Shape of the prior.
const SHAPE: f64 = 0.5;
/// Rod-hours a fish takes where nobody knows better.
const USUAL_HOURS: f64 = 4.0;
/// Rod-hours after which an angler's own mean counts as known.
const KNOWN_FROM: f64 = 8.0;

const RATE: Range = Range::above(
    0.0,
    1_000.0,
    "/h",
    "above 0 and at most 1000 fish per rod-hour",
);
const HOURS: Range = Range::closed(0.0, 1e6, "h", "between 0 and 1000000 h");

impl Default for Angler {
    fn default() -> Self {
        Self {
            rate: 1.0 / USUAL_HOURS,
        }
    }
}

impl Angler {
    /// An angler by all fish and all rod-hours; one fish in four hours while they are few.
    pub fn of(all: Record) -> Self {
        if all.rod_hours < KNOWN_FROM || all.fish == 0 {
            return Self::default();
        }
        Self {
            rate: f64::from(all.fish) / all.rod_hours,
        }
    }

    /// An angler who is known to catch so many fish per rod-hour.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a rate that cannot be.
    pub fn with_rate(rate: f64) -> Result<Self, Error> {
        RATE.check("mean_per_hour", rate)?;
        Ok(Self { rate })
    }

    /// Fish per rod-hour.
    pub fn rate(self) -> f64 {
        self.rate
    }

    /// What a rig's record makes of its rate.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for hours that cannot be.
    pub fn believes(self, record: Record) -> Result<Belief, Error> {
        HOURS.check("rod_hours", record.rod_hours)?;
        let prior_hours = SHAPE / self.rate;
        Ok(Belief {
            record,
            shape: SHAPE + f64::from(record.fish),
            hours: prior_hours + record.rod_hours,
            certainty: record.rod_hours / (prior_hours + record.rod_hours),
            mean: self.rate,
        })
    }
}

/// What is believed of a rig's rate: a gamma distribution.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Belief {
    /// What it rests on.
    pub record: Record,
    /// Shape of the gamma.
    pub(super) shape: f64,
    /// Its rate parameter, h.
    pub(super) hours: f64,
    /// 0 while nothing is known, towards 1 with many hours.
    pub certainty: f64,
    /// The angler's own mean, fish per rod-hour.
    pub mean: f64,
}

impl Belief {
    /// Mean rate, fish per rod-hour.
    pub fn rate(&self) -> f64 {
        self.shape / self.hours
    }

    /// The same angler's belief with more fish and hours.
    pub(super) fn with(self, more: Record) -> Self {
        let prior_hours = SHAPE / self.mean;
        let hours = self.hours + more.rod_hours;
        Self {
            record: self.record.and(more),
            shape: self.shape + f64::from(more.fish),
            hours,
            certainty: (hours - prior_hours) / hours,
            mean: self.mean,
        }
    }

    /// Chances of 0, 1, 2 ... fish in some more rod-hours: negative binomial, up to where less than 1e-6 is left.
    pub(super) fn fish_in(&self, rod_hours: f64) -> Vec<f64> {
        let share = self.hours / (self.hours + rod_hours);
        let mut chances = vec![share.powf(self.shape)];
        let mut sum = chances[0];
        while sum < 1.0 - 1e-6 && chances.len() < 400 {
            let fish = chances.len() as f64;
            let next =
                chances[chances.len() - 1] * (self.shape + fish - 1.0) / fish * (1.0 - share);
            sum += next;
            chances.push(next);
        }
        chances
    }

    /// The 80 % interval of the rate, fish per rod-hour.
    pub fn interval(&self) -> (f64, f64) {
        let gamma = Gamma::new(self.shape, self.hours).expect("shape and hours are above zero");
        (gamma.inverse_cdf(0.1), gamma.inverse_cdf(0.9))
    }

    /// How it stands to the angler's mean: 1 for twice the rate or more, −1 for half or less, drawn to 0 as
    /// far as little is known.
    pub fn points(&self) -> f64 {
        (self.rate() / self.mean).log2().clamp(-1.0, 1.0) * self.certainty
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;

    fn belief(fish: u32, rod_hours: f64) -> Belief {
        Angler::default()
            .believes(Record { fish, rod_hours })
            .unwrap()
    }

    #[test]
    fn a_rig_nobody_fished_stands_at_the_mean() {
        let none = belief(0, 0.0);
        assert_abs_diff_eq!(none.rate(), 0.25, epsilon = 1e-12);
        assert_abs_diff_eq!(none.points(), 0.0, epsilon = 1e-12);
    }

    #[test]
    fn fish_speak_for_it_and_empty_hours_against_it() {
        assert!(belief(5, 6.0).points() > 0.5);
        assert!(belief(0, 12.0).points() < -0.5);
        // One lucky fish says little.
        assert!(belief(1, 0.5).points() < belief(5, 6.0).points());
    }

    /// The posterior of shape 3.5 and 8 rod-hours; its 80 % interval is that of χ² with 7 degrees of
    /// freedom (2.833 and 12.017, as printed tables give it) over twice the hours.
    #[test]
    fn the_interval_is_that_of_the_chi_squared_table() {
        let (low, high) = belief(3, 6.0).interval();
        assert_abs_diff_eq!(low, 2.833 / 16.0, epsilon = 1e-4);
        assert_abs_diff_eq!(high, 12.017 / 16.0, epsilon = 1e-4);
    }

    #[test]
    fn an_anglers_own_mean_counts_once_it_is_known() {
        let of = |fish, rod_hours| Angler::of(Record { fish, rod_hours }).rate();
        assert_abs_diff_eq!(of(30, 40.0), 0.75, epsilon = 1e-12);
        assert_abs_diff_eq!(of(3, 4.0), 0.25, epsilon = 1e-12);
        assert_abs_diff_eq!(of(0, 40.0), 0.25, epsilon = 1e-12);
    }

    #[test]
    fn hours_that_cannot_be_are_refused() {
        let refusal = Angler::default().believes(Record {
            fish: 1,
            rod_hours: f64::NAN,
        });
        assert_eq!(refusal.unwrap_err().quantity(), "rod_hours");
    }
}
