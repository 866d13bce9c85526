//! A rule of a water: typed in, held against those that are there, kept with its source and day of entry.

use super::{Texts as Raw, Typed, base, merge, overtaken, text};
use crate::screens::{Choice, Field, RuleForm};
use crate::units::{Problem, Quantity, System};
use crate::words::rules as say;
use jiff::civil::Date;
use motilis_core::book::{RuleId, WaterBody, WaterId};
use motilis_core::fields;
use motilis_core::fish::Fish;
use motilis_core::rules::{LocalRule, Says, Slot, Topic, clash};
use motilis_core::units::Metres;
use motilis_formats::quoted;
use motilis_helm::{Book, Error};
use motilis_store::rules;

/// The field that is wrong with a rule, and its sentence.
#[derive(Debug)]
pub struct Refused {
    field: String,
    sentence: String,
}

/// The rule of a form, held against the one that is kept and against those of the water.
///
/// # Errors
/// [`Error::Store`] when there is no such rule.
pub fn read(
    book: &Book<'_>,
    (water, id): (WaterId, Option<RuleId>),
    sent: &Raw,
    shown_before: Option<&str>,
    (today, units): (Date, System),
) -> Result<Result<LocalRule, Refused>, Error> {
    let connection = book.connection();
    let merged = match id {
        Some(id) => {
            let (_, kept) = rules::get(connection, id)?;
            merge(sent, shown_before, &typed_of(&kept, units))
        }
        None => merge(sent, None, sent),
    };
    if let Some((name, theirs)) = merged.conflicts.first() {
        return Ok(Err(Refused {
            field: name.clone(),
            sentence: overtaken("That", theirs).0,
        }));
    }
    let rule = match parse(&merged.texts, today, units) {
        Ok(rule) => rule,
        Err(refused) => return Ok(Err(refused)),
    };
    let there = rules::of_water(connection, water)?;
    Ok(match clash(&rule, id, &there) {
        Some(found) => Err(Refused {
            field: "rule_from".to_owned(),
            sentence: say::clash(&found, units),
        }),
        None => Ok(rule),
    })
}

fn parse(raw: &Raw, today: Date, units: System) -> Result<LocalRule, Refused> {
    let value = |name: &str| raw.get(name).map_or("", String::as_str).trim();
    let topic = Topic::from_key(value("topic")).unwrap_or(Topic::Lines);
    let says = if topic == Topic::Slot {
        Says::Slot(Slot {
            from: figure(slot_field(raw, units, 0), true)?.map(Metres),
            to: figure(slot_field(raw, units, 1), true)?.map(Metres),
            protected: value("protected") == "yes",
            one_over: value("one_over") == "yes",
        })
    } else if topic.has_count() {
        let count = figure(count_field(raw), false)?.unwrap_or_default();
        if count.fract() != 0.0 {
            return Err(Refused {
                field: "rule_count".to_owned(),
                sentence: format!("At most {count} cannot be; give a whole number."),
            });
        }
        Says::AtMost(topic, count as u8)
    } else {
        Says::Holds(topic)
    };
    let rule = LocalRule {
        says,
        fish: Fish::from_key(value("rule_fish")).filter(|_| topic.is_of_a_fish()),
        from: date("rule_from", "First day", value("rule_from"))?,
        to: date("rule_to", "Last day", value("rule_to"))?,
        source: value("rule_source").to_owned(),
        entered: today,
    };
    rule.check().map_err(|error| {
        let figures = [fields::RULE_COUNT, fields::SLOT_FROM, fields::SLOT_TO];
        let meant = figures.iter().find(|field| field.key == error.quantity());
        Refused {
            field: meant
                .map_or(error.quantity(), |field| field.form)
                .to_owned(),
            sentence: crate::forms::problem(&error).0,
        }
    })?;
    Ok(rule)
}

fn figure(mut typed: Typed, may_be_empty: bool) -> Result<Option<f64>, Refused> {
    let figure = if may_be_empty {
        typed.optional()
    } else {
        Some(typed.or(0.0))
    };
    match typed.field.problem {
        None => Ok(figure),
        Some(Problem(sentence)) => Err(Refused {
            field: typed.field.name.to_owned(),
            sentence,
        }),
    }
}

fn date(field: &str, label: &str, typed: &str) -> Result<Option<Date>, Refused> {
    if typed.is_empty() {
        return Ok(None);
    }
    typed.parse::<Date>().map(Some).map_err(|_| Refused {
        field: field.to_owned(),
        sentence: format!(
            "{label} {} is no day; write it like 2026-05-09, or leave it empty.",
            quoted(typed)
        ),
    })
}

fn count_field(raw: &Raw) -> Typed {
    Typed::new(
        fields::RULE_COUNT,
        "At most",
        (Quantity::Count, System::Metric),
        raw.get("rule_count").map_or("", String::as_str),
    )
}

fn slot_field(raw: &Raw, units: System, end: usize) -> Typed {
    let (asked, label) = [
        (fields::SLOT_FROM, "Shortest"),
        (fields::SLOT_TO, "Longest"),
    ][end];
    let typed = raw.get(asked.form).map_or("", String::as_str);
    Typed::new(asked, label, (Quantity::Length, units), typed)
}

/// A rule as its form would be typed.
pub fn typed_of(rule: &LocalRule, units: System) -> Raw {
    let flag = |flag: bool| if flag { "yes" } else { "no" }.to_owned();
    let day = |day: Option<Date>| day.map(|day| day.to_string()).unwrap_or_default();
    let length = |end: Option<Metres>| end.map(|end| units.length(end).typed()).unwrap_or_default();
    let mut typed = vec![
        ("topic", rule.says.topic().key().to_owned()),
        (
            "rule_fish",
            rule.fish
                .map(|fish| fish.key().to_owned())
                .unwrap_or_default(),
        ),
        ("rule_from", day(rule.from)),
        ("rule_to", day(rule.to)),
        ("rule_source", rule.source.clone()),
    ];
    match rule.says {
        Says::AtMost(_, most) => typed.push(("rule_count", most.to_string())),
        Says::Holds(_) => {}
        Says::Slot(slot) => typed.extend([
            ("slot_from", length(slot.from)),
            ("slot_to", length(slot.to)),
            ("protected", flag(slot.protected)),
            ("one_over", flag(slot.one_over)),
        ]),
    }
    typed
        .into_iter()
        .map(|(name, value)| (name.to_owned(), value))
        .collect()
}

/// The form of a rule, as typed, with its problem beside the field.
pub(crate) fn form(
    id: Option<RuleId>,
    raw: &Raw,
    water: &WaterBody,
    units: System,
    refused: Option<&Refused>,
) -> RuleForm {
    let value = |name: &str| raw.get(name).map_or("", String::as_str);
    let with_problem = |mut field: Field| {
        field.problem = refused
            .filter(|refused| refused.field == field.name)
            .map(|refused| Problem(refused.sentence.clone()));
        field
    };
    let plain = |name, label| with_problem(text(name, label, value(name)));
    let fish = Fish::ALL
        .iter()
        .filter(|fish| water.fish.is_empty() || water.fish.contains(fish))
        .map(|fish| (fish.key(), fish.name()));
    RuleForm {
        base: base(raw),
        id: id.map(|id| id.0),
        topic: Choice::list(
            Topic::ALL.iter().map(|topic| (topic.key(), topic.name())),
            value("topic"),
        ),
        fish: Choice::list(
            std::iter::once(("", "all fish")).chain(fish),
            value("rule_fish"),
        ),
        count: with_problem(count_field(raw).field),
        slot: [0, 1].map(|end| with_problem(slot_field(raw, units, end).field)),
        protected: Choice::list(
            [
                ("no", "keep those between"),
                ("yes", "release those between"),
            ],
            value("protected"),
        ),
        one_over: Choice::list(
            [("no", "none longer"), ("yes", "one may be longer")],
            value("one_over"),
        ),
        days: [
            plain("rule_from", "First day, or empty"),
            plain("rule_to", "Last day, or empty"),
        ],
        source: plain("rule_source", "Source, where you read it"),
    }
}
