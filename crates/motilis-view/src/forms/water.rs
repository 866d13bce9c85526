//! The form of a water, read and filled in.

use super::place::{axis, hours_apart, zone_at};
use super::{Texts, Typed, base, merge, overtaken, text};
use crate::screens::{Choice, Field, WaterForm};
use crate::units::{Problem, Quantity, System};
use jiff::tz::TimeZone;
use motilis_core::book::WaterBody;
use motilis_core::fields;
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::Stain;
use motilis_core::units::Metres;
use motilis_formats::quoted;

/// The form as typed, and the water if all of it is sound.
pub struct Read {
    /// The form.
    pub form: WaterForm,
    /// The water.
    pub water: Option<WaterBody>,
}

/// A water as its form would be typed.
pub fn typed_of(water: &WaterBody, system: System) -> Texts {
    let mut raw: Texts = [
        ("name", water.name.clone()),
        ("latitude", water.latitude_deg.to_string()),
        ("longitude", water.longitude_deg.to_string()),
        ("zone", water.zone.clone()),
        ("salt", if water.salt { "yes" } else { "no" }.to_owned()),
        ("river", if water.river { "yes" } else { "no" }.to_owned()),
        ("clarity", system.depth(water.clarity).typed()),
        ("stain", water.stain.key().to_owned()),
    ]
    .into_iter()
    .map(|(name, value)| (name.to_owned(), value))
    .collect();
    for fish in &water.fish {
        raw.insert(format!("fish_{}", fish.key()), "yes".to_owned());
    }
    for forage in &water.forage {
        raw.insert(format!("forage_{}", forage.key()), "yes".to_owned());
    }
    raw
}

/// The form of a water as it is kept.
pub fn shown(water: &WaterBody, system: System) -> WaterForm {
    let texts = typed_of(water, system);
    let mut form = read(&texts, system).form;
    form.base = base(&texts);
    form
}

/// Reads a form, held against the water as it is kept.
pub fn read_over(
    sent: &Texts,
    shown_before: Option<&str>,
    kept: &WaterBody,
    system: System,
) -> Read {
    let now = typed_of(kept, system);
    let merged = merge(sent, shown_before, &now);
    let mut read = read(&merged.texts, system);
    read.form.base = base(&now);
    let same = |name: &str| merged.texts.get(name) == now.get(name);
    if let Some(water) = &mut read.water {
        // What was left alone is not rounded by having been shown.
        if same("clarity") {
            water.clarity = kept.clarity;
        }
    }
    for (name, theirs) in &merged.conflicts {
        let [latitude, longitude] = &mut read.form.position;
        let fields = [
            &mut read.form.name,
            latitude,
            longitude,
            &mut read.form.zone,
            &mut read.form.clarity,
        ];
        match fields.into_iter().find(|field| field.name == name) {
            Some(field) => field.problem = Some(overtaken(field.label, theirs)),
            None => read.form.refusal = Some(overtaken("A list", theirs).0),
        }
        read.water = None;
    }
    read
}

/// Reads the form; every wrong field gets its sentence.
#[allow(clippy::too_many_lines, reason = "one form, field by field")]
pub fn read(raw: &Texts, system: System) -> Read {
    let value = |name: &str| raw.get(name).map_or("", String::as_str);
    let mut name = text("name", "Name", value("name"));
    let (latitude, north) = axis(fields::LATITUDE, "Latitude", ['N', 'S'], value("latitude"));
    let (longitude, east) = axis(
        fields::LONGITUDE,
        "Longitude",
        ['E', 'W'],
        value("longitude"),
    );
    let there = north.zip(east).map(|(north, east)| zone_at(north, east));
    // A zone that the page proposed itself moves with the position.
    let typed = value("zone").trim();
    let left_to_us = typed.is_empty() || typed == value("proposed");
    let zone_name = match &there {
        Some(there) if left_to_us => there.clone(),
        _ => typed.to_owned(),
    };
    let mut clarity = Typed::new(
        fields::CLARITY,
        "Clarity",
        (Quantity::Depth, system),
        value("clarity"),
    );
    let ticked = |group: &str, key: &str| raw.contains_key(&format!("{group}_{key}"));
    let water = WaterBody {
        name: name.value.trim().to_owned(),
        latitude_deg: north.unwrap_or(0.0),
        longitude_deg: east.unwrap_or(0.0),
        zone: zone_name,
        salt: value("salt") == "yes",
        river: value("river") == "yes",
        clarity: Metres(clarity.or(2.0)),
        stain: Stain::from_key(value("stain")).unwrap_or(Stain::Tea),
        fish: Fish::ALL
            .iter()
            .copied()
            .filter(|fish| ticked("fish", fish.key()))
            .collect(),
        forage: Forage::ALL
            .iter()
            .copied()
            .filter(|forage| ticked("forage", forage.key()))
            .collect(),
    };
    let mut zone = text("zone", "Time zone", &water.zone);
    let mut zone_doubted = false;
    match TimeZone::get(&water.zone) {
        Err(_) if water.zone.is_empty() => {
            zone.problem = Some(Problem(
                "The time zone is found by the position; type that first.".into(),
            ));
        }
        Err(_) => {
            zone.problem = Some(Problem(format!(
                "{} is no time zone; choose one of the list, such as America/Winnipeg.",
                quoted(&water.zone)
            )));
        }
        Ok(clock) => {
            let apart = there
                .as_ref()
                .and_then(|there| Some((there, hours_apart(&clock, there)?)));
            if let Some((there, hours)) = apart.filter(|_| value("zone_sure") != water.zone) {
                zone_doubted = true;
                zone.problem = Some(Problem(format!(
                    "{} keeps a clock {hours} hours off the one at that position ({there}). Is it east where it should be west? Correct one of them, or keep it.",
                    water.zone
                )));
            }
        }
    }
    if let Err(error) = water.check() {
        match error.quantity() {
            "name" => name.problem = Some(crate::forms::problem(&error)),
            key if key == fields::CLARITY.key && clarity.field.problem.is_none() => {
                clarity.field.problem = Some(out_of_stain(&water, system));
            }
            _ => {}
        }
    }
    let fields = [&name, &latitude, &longitude, &zone, &clarity.field];
    let sound = fields.iter().all(|field| field.problem.is_none());
    Read {
        form: WaterForm {
            salt: Choice::list(
                [("no", "fresh"), ("yes", "salt")],
                if water.salt { "yes" } else { "no" },
            ),
            river: Choice::list(
                [
                    ("no", "lake or sea, trolled"),
                    ("yes", "river or stream, cast"),
                ],
                if water.river { "yes" } else { "no" },
            ),
            stain: Choice::list(
                Stain::ALL.iter().map(|stain| (stain.key(), stain.name())),
                water.stain.key(),
            ),
            fish: ticks(
                Fish::ALL.iter().map(|fish| (fish.key(), fish.name())),
                |key| ticked("fish", key),
            ),
            forage: ticks(
                Forage::ALL
                    .iter()
                    .map(|forage| (forage.key(), forage.name())),
                |key| ticked("forage", key),
            ),
            name,
            position: [latitude, longitude],
            zone,
            zones: zones(),
            zone_doubted,
            proposed: there.unwrap_or_default(),
            clarity: clarity.field,
            base: String::new(),
            refusal: None,
        },
        water: sound.then_some(water),
    }
}

/// The same form with nothing said yet.
pub fn without_problems(mut form: WaterForm) -> WaterForm {
    let quiet = |field: &mut Field| field.problem = None;
    quiet(&mut form.name);
    form.position.iter_mut().for_each(quiet);
    quiet(&mut form.zone);
    form.zone_doubted = false;
    quiet(&mut form.clarity);
    form
}

fn out_of_stain(water: &WaterBody, system: System) -> Problem {
    let range = water.stain.secchi_range();
    Problem(format!(
        "A disk is lost between {} and {} in {} water; correct it, or choose another stain.",
        system.depth(Metres(range.least)).value,
        system.depth(Metres(range.most)),
        water.stain.name()
    ))
}

fn ticks<'a>(
    all: impl Iterator<Item = (&'a str, &'a str)>,
    ticked: impl Fn(&str) -> bool,
) -> Vec<Choice> {
    all.map(|(key, name)| Choice {
        value: key.to_owned(),
        label: crate::words::capital(name),
        chosen: ticked(key),
    })
    .collect()
}

/// Time zones of the database, by name.
fn zones() -> Vec<String> {
    let mut names: Vec<String> = jiff::tz::db()
        .available()
        .map(|name| name.to_string())
        .collect();
    names.sort_unstable();
    names
}
