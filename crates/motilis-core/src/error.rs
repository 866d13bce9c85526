use thiserror::Error;

/// What the core refuses, with the value, its unit and the range that would do.
///
/// `quantity` is the name of the field as the JSON interface spells it (`speed_mps`,
/// `segments[0].length_m`), so that every edge can point at the place.
#[derive(Debug, Clone, PartialEq, Error)]
#[non_exhaustive]
pub enum Error {
    /// A figure is outside what the computation is good for.
    #[error("{quantity} {value} {unit} is not {allowed}")]
    OutOfRange {
        /// Field name with its SI suffix.
        quantity: String,
        /// The value given.
        value: f64,
        /// Its unit, as shown.
        unit: &'static str,
        /// The allowed range, in words that follow "is not".
        allowed: &'static str,
    },
    /// The request cannot be meant: two things that exclude each other, or one that is missing.
    #[error("{message}")]
    Contradiction {
        /// The field to look at.
        quantity: String,
        /// What is wrong and what would be right.
        message: String,
    },
    /// The line has no steady shape that the solver can follow.
    #[error(
        "the line has no steady shape here: its tension vanishes {along_m:.2} m above the tail"
    )]
    Slack {
        /// Distance along the line from the tail, m.
        along_m: f64,
    },
}

impl Error {
    /// The field the message is about, as the JSON interface names it.
    pub fn quantity(&self) -> &str {
        match self {
            Self::OutOfRange { quantity, .. } | Self::Contradiction { quantity, .. } => quantity,
            Self::Slack { .. } => "segments",
        }
    }

    /// The same refusal of a field inside of something: `lead_m` under `rods[2]` is `rods[2].lead_m`.
    #[must_use]
    pub fn under(self, path: &str) -> Self {
        match self {
            Self::OutOfRange {
                quantity,
                value,
                unit,
                allowed,
            } => Self::OutOfRange {
                quantity: format!("{path}.{quantity}"),
                value,
                unit,
                allowed,
            },
            Self::Contradiction { quantity, message } => Self::Contradiction {
                quantity: format!("{path}.{quantity}"),
                message,
            },
            slack @ Self::Slack { .. } => slack,
        }
    }

    /// A refusal that is no range: what is wrong and what would be right.
    pub fn contradiction(quantity: impl Into<String>, message: impl Into<String>) -> Self {
        Self::Contradiction {
            quantity: quantity.into(),
            message: message.into(),
        }
    }
}

/// A range a figure must lie in, in numbers and in words.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Range {
    /// Smallest allowed value.
    pub least: f64,
    /// Largest allowed value.
    pub most: f64,
    /// Whether `least` itself is refused.
    pub open: bool,
    /// Unit of both, as shown.
    pub unit: &'static str,
    /// The same in words that follow "is not".
    pub words: &'static str,
}

impl Range {
    /// A range that holds both its ends.
    pub const fn closed(least: f64, most: f64, unit: &'static str, words: &'static str) -> Self {
        Self {
            least,
            most,
            open: false,
            unit,
            words,
        }
    }

    /// A range that holds its upper end only.
    pub const fn above(least: f64, most: f64, unit: &'static str, words: &'static str) -> Self {
        Self {
            least,
            most,
            open: true,
            unit,
            words,
        }
    }

    /// Whether its lower end lies outside of it.
    pub fn is_open(&self) -> bool {
        self.open
    }

    /// Whether a figure lies in the range. A NaN never does.
    pub fn holds(&self, value: f64) -> bool {
        value <= self.most && (value > self.least || (!self.open && value >= self.least))
    }

    /// Passes the value on when it lies in the range.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the quantity's name and the value; NaN is outside every range.
    pub fn check(&self, quantity: &str, value: f64) -> Result<f64, Error> {
        if self.holds(value) {
            Ok(value)
        } else {
            Err(Error::OutOfRange {
                quantity: quantity.to_owned(),
                value,
                unit: self.unit,
                allowed: self.words,
            })
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const SPEED: Range = Range::above(0.0, 15.0, "m/s", "above 0 and at most 15 m/s");

    #[test]
    fn an_open_end_is_refused_and_a_closed_one_taken() {
        assert!(SPEED.check("speed_mps", 15.0).is_ok());
        assert_eq!(
            SPEED.check("speed_mps", 0.0).unwrap_err().to_string(),
            "speed_mps 0 m/s is not above 0 and at most 15 m/s"
        );
    }

    #[test]
    fn no_range_holds_a_nan() {
        assert!(!SPEED.holds(f64::NAN));
    }
}
