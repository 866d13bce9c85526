//! Where the boat went: the plan of an outing, its spots, and the file that goes out.

use super::evidence::{rate_row, scale};
use super::frame;
use super::today::place_by_temperature;
use crate::draw::{Plan, PlanMark, PlanSource};
use crate::forms::spot;
use crate::screens::{Screen, SpotForm, SpotRow, TrackScreen};
use crate::seen::Device;
use crate::units::System;
use crate::words;
use motilis_core::book::{Event, EventKind, Given, SpotId};
use motilis_core::fish::Fish;
use motilis_core::track::{GROUND_SURE, Spot};
use motilis_formats::{Mark, write_gpx};
use motilis_helm::{Book, Error, Here, SpotTold, TrackLook};

/// What the page tells beside what it shows.
#[derive(Debug, Default)]
pub struct TrackTold {
    /// What was just done.
    pub done: Option<String>,
    /// Where it is taken back.
    pub undo: Option<String>,
    /// Why a file was refused.
    pub refusal: Option<String>,
    /// A form that came back; without a number it is of a new spot.
    pub form: Option<(Option<SpotId>, Box<SpotForm>)>,
}

/// Sizes of the plan: on a desk, on a phone.
const WIDE: (f64, f64) = (1_230.0, 560.0);
const NARROW: (f64, f64) = (390.0, 430.0);

/// "Fish, rod 2, Small wing amber, 22 ft down".
fn titled(look: &TrackLook, event: &Event, system: System) -> String {
    let mut said = vec![event.kind.name().to_owned()];
    if event.kind == EventKind::Fish {
        said.extend(event.caught.species.map(|fish| fish.name().to_owned()));
        let length = event.length;
        said.extend(length.map(|length| system.length_in_fractions(length).to_string()));
    }
    said.extend(event.rod.map(|rod| format!("rod {rod}")));
    if let Some(line) = event.line {
        said.push(look.names.get(line.tackle).to_owned());
        said.extend(
            line.depth
                .map(|depth| format!("{} down", system.depth(depth))),
        );
    }
    said.join(", ")
}

/// The page.
///
/// # Errors
/// [`Error::NoOuting`], [`Error::Store`].
pub fn track(book: &Book<'_>, device: Device, told: TrackTold) -> Result<TrackScreen, Error> {
    let here = book.here()?;
    let look = TrackLook::of(book, None)?;
    let system = device.system;
    let clock = |event: &Event| here.local(event.at).strftime("%H:%M").to_string();
    let marks: Vec<PlanMark> = look
        .entries
        .iter()
        .filter_map(|(_, event)| {
            Some(PlanMark {
                place: event.place?,
                mark: event.kind.key(),
                title: format!("{}, {}", clock(event), titled(&look, event, system)),
            })
        })
        .collect();
    let spots: Vec<Spot> = look.spots.iter().map(|told| told.spot.clone()).collect();
    let recorded = look.track.as_ref().map(|(_, track)| track);
    let sentence = recorded.map(|track| {
        let (from, to) = track.span();
        let hour = |at| here.local(at).strftime("%H:%M").to_string();
        format!(
            "{}: {} from {} to {}, {} points. Speeds over ground are taken over some ten seconds, sure to about {} (a good receiver, from memory).",
            words::capital(if track.name().is_empty() {
                "the track"
            } else {
                track.name()
            }),
            system.way(track.length()),
            hour(from),
            hour(to),
            track.points().len(),
            system.speed(GROUND_SURE)
        )
    });
    let plan = |size| {
        Plan::new(&PlanSource {
            track: recorded,
            marks: &marks,
            spots: &spots,
            system,
            size,
            title: format!(
                "Plan of the outing, north up: {} entries with a place, {} spots. {}",
                marks.len(),
                spots.len(),
                sentence.as_deref().unwrap_or("No track.")
            ),
        })
    };
    let (mut blank, mut wrong) = (None, None);
    match told.form {
        Some((None, form)) => blank = Some(*form),
        Some((Some(id), form)) => wrong = Some((id, *form)),
        None => {}
    }
    let middle = recorded.map(|track| {
        let point = track.points()[track.points().len() / 2];
        (point.latitude, point.longitude)
    });
    let most = scale(look.spots.iter().map(|told| &told.belief));
    Ok(TrackScreen {
        frame: frame(Some(here), Screen::Log, device, "/log/track"),
        done: told.done,
        undo: told.undo,
        refusal: told.refusal,
        plan: plan(WIDE).zip(plan(NARROW)),
        track: look.track.as_ref().map(|(id, _)| id.0),
        placed: placed(&look),
        counted: format!(
            "Fish and rod-hours within reach of each, over {} outing{} for {} with a track; where it has a gap of more than a minute nobody knows, and nothing is counted.",
            look.counted,
            if look.counted == 1 { "" } else { "s" },
            Fish::name(look.outing.fish)
        ),
        spots: look
            .spots
            .iter()
            .map(|told| {
                let form = wrong
                    .take_if(|(id, _)| *id == told.id)
                    .map(|(_, form)| form);
                spot_row(told, form, most, system)
            })
            .collect(),
        blank: blank.unwrap_or_else(|| spot::blank(middle, system)),
        readings: readings(&look, here, system),
        best: place_by_temperature(here, &look.readings, system),
        told: sentence,
    })
}

/// What of the entries has a place, and where from.
fn placed(look: &TrackLook) -> String {
    let count = |given| {
        let of = |(_, event): &&(_, Event)| event.given == given && event.place.is_some();
        look.entries.iter().filter(of).count()
    };
    let [track, live] = [Given::Track, Given::Live].map(count);
    let without = look.entries.len() - track - live;
    let live = (live > 0).then(|| format!(", {live} from the boat’s own instruments"));
    let without = (without > 0).then(|| {
        format!("; {without} lie where it has no point within a minute, and stay without")
    });
    format!(
        "{track} entries have their place, speed over ground and course from it{}{}.",
        live.unwrap_or_default(),
        without.unwrap_or_default()
    )
}

fn spot_row(told: &SpotTold, form: Option<SpotForm>, most: f64, system: System) -> SpotRow {
    let spot = &told.spot;
    let around = format!(
        "{} around {:.5}, {:.5}",
        system.way(spot.radius),
        spot.latitude,
        spot.longitude
    );
    let deep = spot
        .depth
        .map(|depth| format!("{} deep", system.depth(depth)));
    let there = Some(spot.structure.clone()).filter(|text| !text.is_empty());
    let place = [Some(around), deep, there].into_iter().flatten();
    let place = place.collect::<Vec<_>>().join("; ");
    SpotRow {
        id: told.id.0,
        rate: rate_row(spot.name.clone(), &told.belief, told.at.strikes, most, None),
        place,
        form: form.unwrap_or_else(|| spot::shown(spot, system)),
    }
}

fn readings(look: &TrackLook, here: &Here, system: System) -> Vec<String> {
    let row = |reading: &motilis_core::book::TemperatureReading| {
        format!(
            "{}: {} at {}, {} down",
            reading.place,
            system.temperature(reading.temperature),
            here.local(reading.at).strftime("%H:%M"),
            system.depth(reading.depth)
        )
    };
    look.readings.iter().map(row).collect()
}

/// The track, entries and spots of an outing as GPX.
pub fn gpx(look: &TrackLook, system: System) -> String {
    let entries = look.entries.iter().filter_map(|(_, event)| {
        Some(Mark {
            name: event.kind.name().to_owned(),
            description: [titled(look, event, system), event.note.clone()]
                .into_iter()
                .filter(|text| !text.is_empty())
                .collect::<Vec<_>>()
                .join(". "),
            at: Some(event.at),
            place: event.place?,
        })
    });
    let spots = look.spots.iter().map(|told| Mark {
        name: told.spot.name.clone(),
        description: told.spot.structure.clone(),
        at: None,
        place: (told.spot.latitude, told.spot.longitude),
    });
    let marks: Vec<Mark> = entries.chain(spots).collect();
    write_gpx(look.track.as_ref().map(|(_, track)| track), &marks)
}
