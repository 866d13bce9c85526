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
    shape: f64,
    hours: f64,
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
