//! Forms: what was typed, what it means, what is wrong with it, and what changed while it was typed.
//!
//! A form travels with what stood in it when it was shown ([`base`]). [`merge`] holds what was typed against that and
//! against what stands there now: two people who change two different fields both have their way.

pub mod bench;
pub mod boat;
pub mod conditions;
pub mod course;
pub mod entry;
pub mod experiment;
pub mod gear;
pub mod judging;
pub mod look;
pub mod lure;
pub mod observed;
pub mod part;
mod place;
pub mod reading;
pub mod rig;
pub mod river;
pub mod rod;
pub mod rule;
pub mod run;
pub mod secchi;
pub mod setup;
pub mod spot;
pub mod start;
pub mod tank;
pub mod water;

use crate::screens::Field;
use crate::units::{Problem, Quantity, Reader, System, show};
use motilis_core::fields;
use motilis_formats::quoted;
use std::collections::BTreeMap;

/// A field being read: keeps what was typed whatever comes of it.
pub struct Typed {
    /// As the page shows it again.
    pub field: Field,
    key: &'static str,
    reader: Reader,
}

impl Typed {
    /// A field of a quantity with the text typed in it.
    pub fn new(
        asked: fields::Field,
        label: &'static str,
        (quantity, system): (Quantity, System),
        typed: &str,
    ) -> Self {
        let field = Field {
            name: asked.form,
            label,
            unit: quantity.unit(system).symbol,
            value: typed.to_owned(),
            problem: None,
        };
        let reader = Reader {
            label,
            quantity,
            system,
            range: asked.range,
        };
        Self {
            field,
            key: asked.key,
            reader,
        }
    }

    /// Whether a refusal is about this field.
    pub fn is_meant(&self, refusal: &motilis_core::Error) -> bool {
        self.key == refusal.quantity()
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

    /// A figure that stands in the field as it was shown, or what was typed: the shown text is a rounding, and what was
    /// left alone is not rounded by looking at it.
    pub fn unless_shown(&self, kept: f64, typed: f64) -> f64 {
        let shown = show(self.reader.quantity, kept, self.reader.system).typed();
        if self.field.value.trim() == shown {
            kept
        } else {
            typed
        }
    }

    /// Fills the field with a figure.
    pub fn fill(&mut self, si: f64) {
        self.field.value = show(self.reader.quantity, si, self.reader.system).typed();
    }
}

/// A figure in an address that may be missing or nonsense: nothing is then said.
pub fn lenient<'de, D, T>(deserializer: D) -> Result<Option<T>, D::Error>
where
    D: serde::Deserializer<'de>,
    T: std::str::FromStr,
{
    let text = <String as serde::Deserialize>::deserialize(deserializer)?;
    Ok(text.parse().ok())
}

/// A form as texts, by the names of its fields.
pub type Texts = BTreeMap<String, String>;

/// What stands in a form, to travel with it.
pub fn base(texts: &Texts) -> String {
    serde_urlencoded::to_string(texts).unwrap_or_default()
}

/// A form's texts as its own type.
///
/// # Errors
/// When the type has fields that are no texts.
pub fn typed<T: serde::de::DeserializeOwned>(
    texts: &Texts,
) -> Result<T, serde_urlencoded::de::Error> {
    serde_urlencoded::from_str(&base(texts))
}

/// A form with what was changed meanwhile taken in.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Merged {
    /// What stands in it.
    pub texts: Texts,
    /// Fields that both changed, each with what the other put there.
    pub conflicts: Vec<(String, String)>,
}

/// What was typed, held against what stood there when the form was shown and what stands there now.
///
/// A field that was left alone keeps what stands there now; one that only was typed in takes what was typed; one that
/// both changed is a conflict and keeps what was typed. Without a base what was typed counts.
pub fn merge(typed: &Texts, base: Option<&str>, now: &Texts) -> Merged {
    let Some(base) = base.and_then(|base| serde_urlencoded::from_str::<Texts>(base).ok()) else {
        return Merged {
            texts: typed.clone(),
            conflicts: Vec::new(),
        };
    };
    let mut merged = Merged {
        texts: typed.clone(),
        conflicts: Vec::new(),
    };
    let text = |texts: &Texts, name: &str| texts.get(name).cloned().unwrap_or_default();
    for name in base.keys().chain(now.keys()) {
        let [mine, was, theirs] = [typed, &base, now].map(|texts| text(texts, name));
        if mine.trim() == was.trim() {
            // An empty field that was never there stays away: a box that is not ticked sends nothing.
            match now.get(name) {
                Some(theirs) => merged.texts.insert(name.clone(), theirs.clone()),
                None => merged.texts.remove(name),
            };
        } else if theirs.trim() != was.trim() && theirs.trim() != mine.trim() {
            let conflict = (name.clone(), theirs);
            if !merged.conflicts.contains(&conflict) {
                merged.conflicts.push(conflict);
            }
        }
    }
    merged
}

/// The sentence beside a field that two changed.
pub fn overtaken(label: &str, theirs: &str) -> Problem {
    let theirs = if theirs.is_empty() { "nothing" } else { theirs };
    Problem(format!(
        "{label} was changed to {theirs} meanwhile, on another page or device. Yours stands here: send it once more to put it in that one’s place."
    ))
}

/// A field that is no figure.
pub fn text(name: &'static str, label: &'static str, typed: &str) -> Field {
    Field {
        name,
        label,
        unit: "",
        value: typed.to_owned(),
        problem: None,
    }
}

/// A problem out of a core refusal, with a capital and a full stop.
pub fn problem(error: &motilis_core::Error) -> Problem {
    Problem(format!("{}.", crate::words::capital(&error.to_string())))
}

/// The time step of a local date and hour as typed: `2026-09-05 06:20`, with a `T` or a blank.
pub fn instant(typed: &str, zone: &jiff::tz::TimeZone) -> Result<jiff::Timestamp, Problem> {
    let text = typed.trim().replace('T', " ");
    let wrong = || {
        Problem(format!(
            "Date and hour {} cannot be read; write it like 2026-09-05 06:20.",
            quoted(typed)
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
    use super::*;
    use jiff::tz::TimeZone;
    use rstest::rstest;

    fn texts(all: &[(&str, &str)]) -> Texts {
        let text = |text: &str| text.to_owned();
        all.iter()
            .map(|(name, value)| (text(name), text(value)))
            .collect()
    }

    #[test]
    fn two_who_change_two_fields_both_have_their_way() {
        let was = texts(&[("speed", "1.2"), ("clarity", "7"), ("fish_coho", "yes")]);
        let mine = texts(&[("speed", "1.4"), ("clarity", "7"), ("fish_coho", "yes")]);
        let now = texts(&[("speed", "1.2"), ("clarity", "9"), ("fish_trout", "yes")]);
        let merged = merge(&mine, Some(&base(&was)), &now);
        assert_eq!(merged.conflicts, []);
        let expected = texts(&[("speed", "1.4"), ("clarity", "9"), ("fish_trout", "yes")]);
        assert_eq!(merged.texts, expected);
    }

    #[test]
    fn a_field_that_two_changed_is_said_and_keeps_what_was_typed() {
        let was = texts(&[("speed", "1.2")]);
        let mine = texts(&[("speed", "1.4")]);
        let merged = merge(&mine, Some(&base(&was)), &texts(&[("speed", "1.6")]));
        assert_eq!(merged.conflicts, [("speed".to_owned(), "1.6".to_owned())]);
        assert_eq!(merged.texts, mine);
        // Both typed the same, or nobody else typed anything.
        assert_eq!(merge(&mine, Some(&base(&was)), &mine).conflicts, []);
        assert_eq!(merge(&mine, Some(&base(&was)), &was).texts, mine);
        assert_eq!(merge(&mine, None, &texts(&[("speed", "1.6")])).texts, mine);
    }

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
