//! The water column: light and finishes at any depth and hour; a pure function of the address.

use super::frame;
use super::today::{column as water, ladder_of};
use crate::draw::{DayCurve, DayCurveSource, Sightings};
use crate::screens::{Choice, ClaimRow, Column, Screen, Slide};
use crate::seen::Seen;
use crate::units::Quantity;
use crate::words::{self, advice as say};
use jiff::{SignedDuration, Timestamp};
use motilis_core::advice::Day;
use motilis_core::column::{COMPARED, Course, Hours, hours, over_the_day, seen_at};
use motilis_core::light::{View, claims, luminous};
use motilis_core::rig::Finish;
use motilis_core::units::Metres;
use motilis_helm::{Desk, Error};
use serde::Deserialize;

/// The address: hour in minutes since local midnight, depth in the boat's unit, where the fish looks.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct Ask {
    #[serde(deserialize_with = "crate::forms::lenient")]
    hour: Option<f64>,
    #[serde(deserialize_with = "crate::forms::lenient")]
    depth: Option<f64>,
    view: String,
}

/// Finishes shown beside each other, and on the ladder.
const SHOWN: usize = 10;
/// Finishes on the ladder of a phone.
const NARROW: usize = 6;
/// Steps of the hour's slider, minutes.
const STEP: f64 = 10.0;
/// Points of the curve of the day.
const POINTS: i64 = 40;

/// The hours of the outing's day on its water.
struct Clock {
    midnight: Timestamp,
    hours: Hours,
}

impl Clock {
    fn of(desk: &Seen<Desk>) -> Result<Self, Error> {
        let here = &desk.here;
        let started = here.local(here.outing.started);
        let midnight = started
            .start_of_day()
            .map_or(here.outing.started, |start| start.timestamp());
        let ends = midnight + SignedDuration::from_hours(24);
        Ok(Self {
            midnight,
            hours: hours(here.water.place()?, midnight, ends)?,
        })
    }

    fn minutes(&self, at: Timestamp) -> f64 {
        at.duration_since(self.midnight).as_secs_f64() / 60.0
    }

    fn at(&self, minutes: f64) -> Timestamp {
        self.midnight + SignedDuration::from_secs((minutes * 60.0) as i64)
    }
}

#[allow(
    clippy::too_many_lines,
    reason = "the page's fields, one after the other"
)]
/// The page of the water column.
pub fn column(desk: &Seen<Desk>, ask: &Ask) -> Result<Column, Error> {
    let (here, system) = (&desk.here, desk.device.system);
    let outing = &here.outing;
    let clock = Clock::of(desk)?;
    let ends = (
        (clock.minutes(clock.hours.from) / STEP).floor() * STEP,
        (clock.minutes(clock.hours.to) / STEP).ceil() * STEP,
    );
    let minutes = ask
        .hour
        .filter(|hour| hour.is_finite())
        .unwrap_or_else(|| clock.minutes(outing.started))
        .clamp(ends.0, ends.1);
    let at = clock.at(minutes);
    let unit = Quantity::Depth.unit(system);
    let depth = Metres(
        ask.depth
            .filter(|depth| depth.is_finite())
            .map_or(outing.wanted_depth.0, |depth| unit.to_si(depth))
            .clamp(0.1, outing.bottom.0),
    );
    let day = outing.day_at(&here.water, at)?;
    let chosen = View::from_key(&ask.view);
    let view = chosen.unwrap_or_else(|| day.view_at(depth));
    let seen = seen_at(&day, depth, view, &desk.finishes, COMPARED)?;
    let best: Vec<Finish> = seen.iter().map(|one| one.finish).take(SHOWN).collect();
    let rail = ladder_of(best.iter().copied(), SHOWN);
    let deepest = unit.from_si(outing.bottom.0).floor();
    Ok(Column {
        frame: frame(Some(here), Screen::Today, desk.device, "/column"),
        slides: [
            Slide {
                name: "hour",
                label: "Hour",
                least: ends.0,
                most: ends.1,
                step: STEP,
                value: minutes.round(),
                shown: here.local(at).strftime("%H:%M").to_string(),
            },
            Slide {
                name: "depth",
                label: "Depth",
                least: 1.0,
                most: deepest.max(2.0),
                step: if deepest > 30.0 { 1.0 } else { 0.5 },
                value: (unit.from_si(depth.0) * 2.0).round() / 2.0,
                shown: system.depth(depth).to_string(),
            },
        ],
        view: views(chosen, &day, depth),
        column: [
            water(desk, &day, depth, "here", 620.0, &rail)?,
            water(
                desk,
                &day,
                depth,
                "here",
                400.0,
                &rail[..rail.len().min(NARROW)],
            )?,
        ],
        sightings: Sightings::new(&seen[..seen.len().min(SHOWN)], outing.fish.name(), system),
        curve: curve(desk, &clock, depth, chosen, &best, minutes)?,
        facts: facts(&day, depth)?,
        notes: notes(desk, &clock, seen.len()),
        claims: claims()
            .iter()
            .map(|claim| ClaimRow {
                lore: claim.lore,
                physics: words::light::claim(claim, system),
                verdict: claim.verdict().name(),
                key: claim.verdict().key(),
                note: claim.note,
            })
            .collect(),
    })
}

fn views(chosen: Option<View>, day: &Day, depth: Metres) -> Vec<Choice> {
    let own = day.view_at(depth);
    let keys = View::ALL.iter().map(|view| (view.key(), view.name()));
    let mut choices = Choice::list(keys, chosen.map_or("", View::key));
    choices.insert(
        0,
        Choice {
            value: String::new(),
            label: format!("As they hold ({})", own.name()),
            chosen: chosen.is_none(),
        },
    );
    choices
}

/// Sight of the two best finishes through the day.
fn curve(
    desk: &Seen<Desk>,
    clock: &Clock,
    depth: Metres,
    chosen: Option<View>,
    best: &[Finish],
    minutes: f64,
) -> Result<[DayCurve; 2], Error> {
    let (here, system) = (&desk.here, desk.device.system);
    let two = &best[..best.len().min(2)];
    let (from, to) = (clock.hours.from, clock.hours.to);
    let step = to.duration_since(from) / i32::try_from(POINTS).expect("some forty points");
    let instants: Vec<Timestamp> = (0..=POINTS)
        .map(|place| from + step * i32::try_from(place).expect("some forty points"))
        .collect();
    let day_at = |at: Timestamp| here.outing.day_at(&here.water, at);
    let view = chosen.unwrap_or_else(|| desk.day.view_at(depth));
    let ranges = over_the_day(&instants, day_at, depth, view, two)?;
    let sun = instants
        .iter()
        .map(|&at| Ok((clock.minutes(at) / 60.0, day_at(at)?.overhead.sun_alt)))
        .collect::<Result<Vec<_>, motilis_core::Error>>()?;
    let unit = Quantity::Depth.unit(system);
    let finishes: Vec<(String, Vec<f64>)> = two
        .iter()
        .enumerate()
        .map(|(place, finish)| {
            let seen = ranges.iter().map(|at| unit.from_si(at[place])).collect();
            (say::finish_name(*finish), seen)
        })
        .collect();
    let names: Vec<&str> = finishes.iter().map(|(name, _)| name.as_str()).collect();
    let source = DayCurveSource {
        width: 620.0,
        unit: unit.symbol,
        title: format!(
            "How far {} are seen from dawn to dark at {}.",
            names.join(" and "),
            system.depth(depth)
        ),
        sun,
        finishes,
        now: minutes / 60.0,
    };
    let narrow = DayCurveSource {
        width: 400.0,
        ..source.clone()
    };
    Ok([DayCurve::new(source), DayCurve::new(narrow)])
}

fn facts(day: &Day, depth: Metres) -> Result<Vec<(&'static str, String)>, Error> {
    use motilis_core::light::Scene;
    let daylight = day.daylight()?;
    let scene = Scene::new(&daylight, &day.optics()?, depth.0, View::Level)?;
    let surface = daylight.illuminance.total();
    let there = luminous(&scene.irradiance);
    let share = if surface > 0.0 {
        100.0 * there / surface
    } else {
        0.0
    };
    Ok(vec![
        ("Sun", words::light::altitude(day.overhead.sun_alt)),
        ("Light on the water", words::light::lux(surface)),
        (
            "Light at that depth",
            format!("{}, {share:.1} %", words::light::lux(there)),
        ),
    ])
}

fn notes(desk: &Seen<Desk>, clock: &Clock, finishes: usize) -> Vec<String> {
    let mut notes = Vec::new();
    match clock.hours.course {
        Course::RisesAndSets => {}
        Course::NeverSets => {
            notes.push("The sun does not set there that day: the slider runs through the night.".to_owned());
        }
        Course::NeverRises => notes.push(
            "The sun does not rise there that day: what light there is comes from twilight and the moon."
                .to_owned(),
        ),
    }
    let fish = desk.here.outing.fish;
    if !fish.sight().own {
        notes.push(format!(
            "No eye of {} is modelled; a {}’s stands in for it.",
            fish.name(),
            fish.sight().viewer.name()
        ));
    }
    notes.push(format!(
        "{finishes} finishes of your box on a number 4 Colorado, about four turns a second; glow charged ten minutes ago. Distances are good to a third, the order is steadier; no bottom, no glint, no layers in the model. To the fish: false colours, red, green and blue for its long, middle and short cones, the water behind made grey."
    ));
    notes
}
