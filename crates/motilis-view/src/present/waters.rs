//! Waters: where they lie, what they are like, who lives in them, and the rules typed in for them.

use super::bare_frame;
use crate::forms::{Texts, rule as rule_form, water as water_form};
use crate::screens::{RuleRow, Screen, Water, WaterForm, WaterRow, Waters};
use crate::seen::Device;
use crate::units::System;
use crate::words::{self, rules as say};
use jiff::{SignedDuration, Timestamp};
use motilis_core::book::{RuleId, WaterBody, WaterId};
use motilis_core::column::{Course, hours};
use motilis_helm::{Book, Error, zone};
use motilis_store::{rules, runs, waters as table};

/// The list of waters, and one that was just thrown away.
///
/// # Errors
/// [`Error::Store`].
pub fn waters(
    book: &Book<'_>,
    device: Device,
    now: Timestamp,
    deleted: Option<i64>,
) -> Result<Waters, Error> {
    let connection = book.connection();
    let rows = table::all(connection)?;
    let rows = rows
        .iter()
        .map(|(id, water)| row(book, (*id, water), now, device.system))
        .collect::<Result<_, _>>()?;
    let undo = match deleted {
        None => None,
        Some(id) => Some((id, table::get(connection, WaterId(id))?.name)),
    };
    Ok(Waters {
        frame: bare_frame(book, Screen::Waters, device, "/waters")?,
        rows,
        undo,
    })
}

fn row(
    book: &Book<'_>,
    (id, water): (WaterId, &WaterBody),
    now: Timestamp,
    system: System,
) -> Result<WaterRow, Error> {
    let count = rules::of_water(book.connection(), id)?.len();
    let names = |names: Vec<&str>, none: &str| {
        if names.is_empty() {
            none.to_owned()
        } else {
            words::capital(&names.join(", "))
        }
    };
    Ok(WaterRow {
        id: id.0,
        name: water.name.clone(),
        place: place(water),
        zone: format!(
            "{} now, {}",
            now.to_zoned_datetime(zone(water)).strftime("%H:%M"),
            water.zone
        ),
        water: format!(
            "{} water, {}, a white disk lost at {}",
            if water.salt { "Salt" } else { "Fresh" },
            water.stain.name(),
            system.depth(water.clarity)
        ),
        fish: names(
            water.fish.iter().map(|fish| fish.name()).collect(),
            "No fish entered",
        ),
        forage: names(
            water.forage.iter().map(|forage| forage.name()).collect(),
            "No forage entered",
        ),
        sun: sun(water, now).unwrap_or_else(|why| format!("No sun: {why}")),
        rules: match count {
            0 => "Enter its rules".to_owned(),
            1 => "1 rule".to_owned(),
            many => format!("{many} rules"),
        },
    })
}

/// "50.42° N, 95.61° W"
fn place(water: &WaterBody) -> String {
    let of = |degrees: f64, [positive, negative]: [&str; 2]| {
        let side = if degrees < 0.0 { negative } else { positive };
        format!("{:.2}° {side}", degrees.abs())
    };
    format!(
        "{}, {}",
        of(water.latitude_deg, ["N", "S"]),
        of(water.longitude_deg, ["E", "W"])
    )
}

/// Dawn and dusk of today, or that the sun does neither.
fn sun(water: &WaterBody, now: Timestamp) -> Result<String, motilis_core::Error> {
    let local = now.to_zoned_datetime(zone(water));
    let midnight = local.start_of_day().map_or(now, |start| start.timestamp());
    let day = hours(
        water.place()?,
        midnight,
        midnight + SignedDuration::from_hours(24),
    )?;
    let clock = |at: Timestamp| {
        at.to_zoned_datetime(zone(water))
            .strftime("%H:%M")
            .to_string()
    };
    Ok(match day.course {
        Course::RisesAndSets => format!(
            "Light to fish by from {} to {} today",
            clock(day.from),
            clock(day.to)
        ),
        Course::NeverSets => "The sun does not set today".to_owned(),
        Course::NeverRises => "The sun does not rise today".to_owned(),
    })
}

/// What a page shows beside the water as it is.
#[derive(Default)]
pub struct Extra {
    /// The water's form as typed.
    pub water: Option<WaterForm>,
    /// The rule's form as typed, with its problem.
    pub rule: Option<(Option<RuleId>, Texts, rule_form::Refused)>,
    /// The rule in hand.
    pub in_hand: Option<i64>,
    /// A rule that was thrown away just now.
    pub deleted_rule: Option<i64>,
    /// Whether something was just saved.
    pub saved: bool,
    /// A run that was just thrown away.
    pub run_gone: Option<i64>,
}

/// The form of a new water, as typed or blank.
///
/// # Errors
/// [`Error::Store`].
pub fn new_water(book: &Book<'_>, device: Device, form: Option<WaterForm>) -> Result<Water, Error> {
    let blank = || {
        let read = water_form::read(&Texts::new(), device.system);
        water_form::without_problems(read.form)
    };
    Ok(Water {
        frame: bare_frame(book, Screen::Waters, device, "/waters/new")?,
        id: None,
        title: "A new water".to_owned(),
        form: form.unwrap_or_else(blank),
        rules: Vec::new(),
        rule: None,
        runs: None,
        notice: None,
    })
}

/// The page of a water.
///
/// # Errors
/// [`Error::Store`] when there is no such water.
pub fn water(
    book: &Book<'_>,
    device: Device,
    id: WaterId,
    now: Timestamp,
    extra: Extra,
) -> Result<Water, Error> {
    let (connection, units) = (book.connection(), device.system);
    let water = table::get(connection, id)?;
    let today = now.to_zoned_datetime(zone(&water)).date();
    let entered = rules::of_water(connection, id)?;
    let rows = entered
        .iter()
        .map(|(rule_id, rule)| RuleRow {
            id: rule_id.0,
            says: say::says(rule, units),
            span: say::span(rule),
            source: say::source(rule),
            holds: rule.holds_on(today),
        })
        .collect();
    let in_hand = extra
        .in_hand
        .and_then(|rule| entered.iter().find(|(id, _)| id.0 == rule));
    let rule = match (extra.rule, in_hand) {
        (Some((id, raw, refused)), _) => {
            let mut form = rule_form::form(id, &raw, &water, units, Some(&refused));
            let kept = entered.iter().find(|(known, _)| Some(*known) == id);
            form.base = kept.map_or_else(String::new, |(_, kept)| {
                crate::forms::base(&rule_form::typed_of(kept, units))
            });
            form
        }
        (None, Some((id, held))) => rule_form::form(
            Some(*id),
            &rule_form::typed_of(held, units),
            &water,
            units,
            None,
        ),
        (None, None) => rule_form::form(None, &Texts::new(), &water, units, None),
    };
    let gone = extra.run_gone.map(|run| {
        let undo = format!("/runs/{run}/restore");
        ("Run thrown away; casts in it stay.".to_owned(), Some(undo))
    });
    let notice = match (extra.deleted_rule, extra.saved) {
        _ if gone.is_some() => gone,
        (Some(rule), _) => Some((
            "Rule thrown away.".to_owned(),
            Some(format!("/waters/{}/rules/{rule}/restore", id.0)),
        )),
        (None, true) => Some(("Saved.".to_owned(), None)),
        (None, false) => None,
    };
    Ok(Water {
        frame: bare_frame(book, Screen::Waters, device, "/waters")?,
        id: Some(id.0),
        title: water.name.clone(),
        form: extra
            .water
            .unwrap_or_else(|| water_form::shown(&water, units)),
        rules: rows,
        rule: Some(rule),
        runs: of_river(book, id, &water, units)?,
        notice,
    })
}

/// A run of a river: its number, its name, what it is.
type RunRow = (i64, String, String);

/// The runs of a river, for its page; none of a lake.
fn of_river(
    book: &Book<'_>,
    id: WaterId,
    water: &WaterBody,
    system: System,
) -> Result<Option<Vec<RunRow>>, Error> {
    let all = runs::of_water(book.connection(), id)?;
    let rows = all
        .iter()
        .map(|(id, run)| (id.0, run.name.clone(), words::river::about(run, system)));
    Ok((water.river || !all.is_empty()).then(|| rows.collect()))
}
