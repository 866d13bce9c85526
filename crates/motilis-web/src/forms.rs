//! Fields of a form: what was typed, what it means, what is wrong with it.

use motilis_core::Range;
use motilis_view::screens::Field;
use motilis_view::units::{Problem, Quantity, Reader, System, show};

/// A field being read: keeps what was typed whatever comes of it.
pub(crate) struct Typed {
    /// As the page shows it again.
    pub field: Field,
    reader: Reader,
}

impl Typed {
    /// A field of a quantity with the text typed in it.
    pub fn new(
        (name, label): (&'static str, &'static str),
        (quantity, system): (Quantity, System),
        range: Range,
        typed: &str,
    ) -> Self {
        let field = Field {
            name,
            label,
            unit: quantity.unit(system).symbol,
            value: typed.to_owned(),
            problem: None,
        };
        let reader = Reader {
            label,
            quantity,
            system,
            range,
        };
        Self { field, reader }
    }

    /// The SI value; `otherwise` and a problem beside the field when it cannot be read.
    pub fn or(&mut self, otherwise: f64) -> f64 {
        match self.reader.read(&self.field.value) {
            Ok(value) => value,
            Err(problem) => {
                self.field.problem = Some(problem);
                otherwise
            }
        }
    }

    /// The SI value of a field that may stay empty.
    pub fn optional(&mut self) -> Option<f64> {
        match self.reader.read_optional(&self.field.value) {
            Ok(value) => value,
            Err(problem) => {
                self.field.problem = Some(problem);
                None
            }
        }
    }

    /// Fills the field with a figure.
    pub fn fill(&mut self, si: f64) {
        self.field.value = show(self.reader.quantity, si, self.reader.system).typed();
    }
}

/// A figure in an address that may be missing or nonsense: nothing is then said.
pub(crate) fn lenient<'de, D, T>(deserializer: D) -> Result<Option<T>, D::Error>
where
    D: serde::Deserializer<'de>,
    T: std::str::FromStr,
{
    let text = <String as serde::Deserialize>::deserialize(deserializer)?;
    Ok(text.parse().ok())
}

/// A field that is no figure.
pub(crate) fn text(name: &'static str, label: &'static str, typed: &str) -> Field {
    Field {
        name,
        label,
        unit: "",
        value: typed.to_owned(),
        problem: None,
    }
}

/// A problem out of a core refusal, with a capital and a full stop.
pub(crate) fn problem(error: &motilis_core::Error) -> Problem {
    Problem(format!(
        "{}.",
        motilis_view::words::capital(&error.to_string())
    ))
}

/// The time step of a local date and hour as typed: `2026-09-05 06:20`, with a `T` or a blank.
pub(crate) fn instant(typed: &str, zone: &jiff::tz::TimeZone) -> Result<jiff::Timestamp, Problem> {
    let text = typed.trim().replace('T', " ");
    let wrong = || {
        Problem(format!(
            "Date and hour “{}” cannot be read; write it like 2026-09-05 06:20.",
            typed.trim().chars().take(24).collect::<String>()
        ))
    };
    let civil = jiff::civil::DateTime::strptime("%Y-%m-%d %H:%M", &text).map_err(|_| wrong())?;
    if !(1990..=2100).contains(&civil.year()) {
        return Err(Problem(
            "Date and hour lie outside 1990 to 2100; correct the year.".into(),
        ));
    }
    zone.to_ambiguous_zoned_datetime(civil).unambiguous().map(|at| at.timestamp()).map_err(|_| {
        Problem(
            "Date and hour fall where the clocks change, so that hour is missing or comes twice; give an hour before or after.".into(),
        )
    })
}

#[cfg(test)]
mod tests {
    use super::instant;
    use jiff::tz::TimeZone;
    use rstest::rstest;

    #[test]
    fn a_local_hour_is_read_in_the_waters_zone() {
        let zone = TimeZone::get("America/Winnipeg").unwrap();
        let at = instant("2026-09-05 06:20", &zone).unwrap();
        assert_eq!(at.to_string(), "2026-09-05T11:20:00Z");
        assert_eq!(instant("2026-09-05T06:20", &zone).unwrap(), at);
    }

    #[rstest]
    #[case("yesterday", "cannot be read")]
    #[case("", "cannot be read")]
    #[case("2026-02-30 06:20", "cannot be read")]
    #[case("1066-10-14 09:00", "1990 to 2100")]
    // Clocks go from 02:00 to 03:00 on 8 March 2026 and back on 1 November.
    #[case("2026-03-08 02:30", "clocks change")]
    #[case("2026-11-01 01:30", "clocks change")]
    fn an_hour_that_is_none_is_answered_with_a_sentence(#[case] typed: &str, #[case] word: &str) {
        let zone = TimeZone::get("America/Winnipeg").unwrap();
        let problem = instant(typed, &zone).unwrap_err().0;
        assert!(problem.contains(word), "{problem}");
    }
}
