//! The page of the log.

use super::{cannot_row, frame, outing_choices};
use crate::draw::{Happening, Timeline, TimelineSource};
use crate::forms::{entry as entry_form, text};
use crate::screens::{Entry, EntryForm, Field, Log, Notice, Running, Screen};
use crate::seen::Device;
use crate::units::{Problem, System};
use crate::words;
use jiff::Timestamp;
use motilis_core::book::{Event, EventId, EventKind, RigId, check_clock};
use motilis_core::evidence::{self, End, Logged};
use motilis_helm::{Aboard, Book, Error, Here};
use motilis_store::{events, passes, rigs};
use std::collections::HashMap;

/// What the page tells beside the list.
#[derive(Debug, Clone, Copy, Default)]
pub struct Told {
    /// An entry that is being corrected.
    pub edit: Option<i64>,
    /// An entry that was just logged.
    pub logged: Option<i64>,
    /// An entry that was just thrown away.
    pub deleted: Option<i64>,
    /// The hour at which the page is looked at; `None` where a form comes back.
    pub now: Option<Timestamp>,
}

/// Forms that came back because something in them cannot be.
#[derive(Debug, Default)]
pub struct Extra {
    note: Option<Field>,
    form: Option<Box<EntryForm>>,
}

impl Extra {
    /// A note as it was typed, with its problem.
    pub fn note(typed: &str, problem: Problem) -> Self {
        let note = Field {
            problem: Some(problem),
            ..text("note", "Note", typed)
        };
        Self {
            note: Some(note),
            form: None,
        }
    }

    /// An entry's form as it was typed, with its problems.
    pub fn form(form: Box<EntryForm>) -> Self {
        Self {
            note: None,
            form: Some(form),
        }
    }
}

/// What the page is made of.
struct Day<'a> {
    here: &'a Here,
    device: Device,
    events: Vec<(EventId, Event)>,
    names: HashMap<RigId, String>,
    logged: Logged,
}

impl<'a> Day<'a> {
    fn load(book: &'a Book<'_>, device: Device) -> Result<Self, Error> {
        let (here, connection) = (book.here()?, book.connection());
        let events = events::of_outing(connection, here.id)?;
        // Entries speak of rigs by name, whatever became of them.
        let mut names = HashMap::new();
        for line in events.iter().filter_map(|(_, event)| event.line) {
            if let std::collections::hash_map::Entry::Vacant(place) = names.entry(line.rig) {
                place.insert(rigs::name(connection, line.rig)?);
            }
        }
        let entries = events.iter().map(|(_, event)| evidence::Entry {
            rig: event.line.map(|line| line.rig),
            at: event.at,
            entered: event.entered,
            fish: event.kind == EventKind::Fish,
        });
        let passes = passes::of_outing(connection, here.id)?;
        Ok(Self {
            logged: Logged {
                started: here.outing.started,
                ended: here.outing.ended,
                entries: entries.collect(),
                passes: passes.into_iter().map(|(_, pass)| pass).collect(),
            },
            here,
            device,
            events,
            names,
        })
    }
}

/// The whole page.
pub fn log(book: &Book<'_>, device: Device, told: Told, mut extra: Extra) -> Result<Log, Error> {
    let day = Day::load(book, device)?;
    let here = day.here;
    let entries = day.events.iter().map(|(id, event)| {
        let form = (told.edit == Some(id.0)).then(|| {
            let typed = extra.form.take().map(|form| *form);
            typed.unwrap_or_else(|| entry_form::shown(event, here, device))
        });
        entry(&day, id.0, event, form)
    });
    let entries = entries.collect();
    Ok(Log {
        frame: frame(Some(here), Screen::Log, device, "/log"),
        outings: outing_choices(here),
        headline: headline(&day.events),
        hours: hours(&day),
        has_ended: here.outing.ended.is_some(),
        running: Aboard::load(book)?.map(|aboard| running(&day, &aboard, told.now)),
        note: extra.note.unwrap_or_else(|| text("note", "Note", "")),
        notice: notice(&day, told),
        timeline: timelines(&day),
        entries,
        cautions: words::cautions_of_day(&here.outing, device.system),
    })
}

/// How long the outing was, and how that is known.
fn hours(day: &Day<'_>) -> String {
    let Some(span) = day.logged.span() else {
        return "Nobody knows how long yet.".to_owned();
    };
    let minutes = (span.hours() * 60.0).round() as u64;
    let long = format!("{} h {:02} min", minutes / 60, minutes % 60);
    match span.end {
        End::Said => format!("It lasted {long}."),
        End::Reckoned => format!(
            "{long} so far: reckoned to a quarter of an hour after the last sign of life, until you say it ended."
        ),
    }
}

/// How long the bait has been on: since it was last renewed, or since the line was put out.
fn bait(day: &Day<'_>, aboard: &Aboard, now: Option<Timestamp>) -> Option<String> {
    let rig = aboard.rig.runs().ok()?;
    let bait = rig
        .stack()
        .pieces
        .iter()
        .find_map(|piece| piece.part.bait())?;
    let on_it = |event: &&Event| event.line.is_some_and(|line| line.rig == aboard.line.rig);
    let renewed = day
        .events
        .iter()
        .map(|(_, event)| event)
        .filter(|event| event.kind == EventKind::FreshBait)
        .find(on_it);
    let put_out = day
        .logged
        .passes
        .iter()
        .filter(|pass| pass.rig == aboard.line.rig && pass.to.is_none())
        .map(|pass| pass.from)
        .max();
    let since = renewed.map(|event| event.at).or(put_out)?;
    let scent = renewed.map_or("", |event| event.note.as_str());
    let named = if scent.is_empty() {
        words::capital(bait.name())
    } else {
        format!("{} with {scent}", words::capital(bait.name()))
    };
    let at = day.here.local(since).strftime("%H:%M").to_string();
    let Some(fresh) = bait.fresh_minutes() else {
        return Some(format!("{named} on since {at}; it stays."));
    };
    let minutes = now.map(|now| (now.as_second() - since.as_second()) / 60);
    Some(match minutes {
        Some(minutes) if (0..=i64::from(fresh)).contains(&minutes) => {
            format!("{named} on since {at}, {minutes} min; fresh for about {fresh}.")
        }
        _ => format!("{named} on since {at}: renew it, it is fresh for about {fresh} min."),
    })
}

fn running(day: &Day<'_>, aboard: &Aboard, now: Option<Timestamp>) -> Running {
    let system = day.device.system;
    let cable = if aboard.in_use.setup.lets_out_cable() {
        " of cable"
    } else {
        ""
    };
    let out = format!("{}{cable} out", system.depth(aboard.line.out));
    let speed = system.speed(day.here.outing.speed);
    let place = match (&aboard.depth, &aboard.sure) {
        (Ok(depth), _) if depth.0 <= 0.0 => format!("floats, {out}, {speed}"),
        (Ok(depth), Some(sure)) => {
            let between = system.between(sure.depth.low, sure.depth.high);
            format!("{} down ({between}), {out}, {speed}", system.depth(*depth))
        }
        (Ok(depth), None) => format!("{} down, {out}, {speed}", system.depth(*depth)),
        (Err(_), _) => format!("{out}, {speed}"),
    };
    Running {
        rig: aboard.rig.name.clone(),
        place,
        cannot: aboard.depth.as_ref().err().map(cannot_row),
        bait: bait(day, aboard, now),
        tank: format!("/tank?rig={}", aboard.line.rig.0),
    }
}

/// Longest stretch after the start that counts as the outing's own hours.
const OUTING_SECONDS: i64 = 30 * 3_600;
/// Sizes of the timeline: on a desk, on a phone.
const WIDE: (f64, f64) = (1_230.0, 180.0);
const NARROW: (f64, f64) = (390.0, 170.0);

/// The outing on its hours; entries written down days later are left to the list.
fn timelines(day: &Day<'_>) -> Option<(Timeline, Timeline)> {
    let (here, events) = (day.here, &day.events);
    let outing = &here.outing;
    let midnight = here
        .local(outing.started)
        .start_of_day()
        .ok()?
        .timestamp()
        .as_second();
    let happenings: Vec<Happening> = events
        .iter()
        .filter(|(_, event)| {
            let after = event.at.as_second() - outing.started.as_second();
            (-3_600..=OUTING_SECONDS).contains(&after)
        })
        .filter_map(|(_, event)| {
            Some(Happening {
                second: (event.at.as_second() - midnight) as f64,
                depth: event.line?.depth?,
                mark: event.kind.key(),
            })
        })
        .collect();
    let draw = |size| {
        Timeline::new(&TimelineSource {
            happenings: &happenings,
            bottom: outing.bottom,
            system: day.device.system,
            size,
        })
    };
    Some((draw(WIDE)?, draw(NARROW)?))
}

fn headline(events: &[(EventId, Event)]) -> String {
    let count = |kind| {
        events
            .iter()
            .filter(|(_, event)| event.kind == kind)
            .count()
    };
    let fish = count(EventKind::Fish);
    let strikes = count(EventKind::Strike);
    let plural = if strikes == 1 { "" } else { "s" };
    format!("{fish} fish, {strikes} strike{plural}")
}

fn notice(day: &Day<'_>, told: Told) -> Option<Notice> {
    if let Some(id) = told.deleted {
        return Some(Notice {
            sentence: "Entry deleted.".into(),
            warning: None,
            undo: Some(format!("/log/{id}/undo")),
            measure: None,
        });
    }
    let logged = told.logged?;
    let (_, event) = day.events.iter().find(|(id, _)| id.0 == logged)?;
    let entry = entry(day, logged, event, None);
    let beyond = entry.beyond.then(|| beyond(day, event));
    let place = [entry.rig, entry.place]
        .into_iter()
        .filter(|text| !text.is_empty());
    let place: Vec<String> = place.collect();
    let what = if place.is_empty() {
        String::new()
    } else {
        format!(": {}", place.join(", "))
    };
    Some(Notice {
        sentence: format!("{} logged{what}.", event.kind.name()),
        warning: beyond,
        undo: Some(format!("/log/{logged}/delete")),
        measure: (event.kind == EventKind::Fish).then(|| {
            let form = entry_form::shown(event, day.here, day.device);
            let usual = match day.device.system {
                System::Imperial => "18",
                System::Metric => "45",
            };
            (logged, form, usual)
        }),
    })
}

/// What there is to say of an entry that lies beyond the outing.
fn beyond(day: &Day<'_>, event: &Event) -> String {
    if let Err(why) = check_clock("at", event.at) {
        return format!("{}.", words::capital(&why.to_string()));
    }
    let began = day.here.local(day.here.outing.started);
    format!(
        "This outing began on {}: it does not count in its hours. Begin a new outing, or correct the entry’s time.",
        began.strftime("%-d %B %Y")
    )
}

fn entry(day: &Day<'_>, id: i64, event: &Event, form: Option<EntryForm>) -> Entry {
    let system = day.device.system;
    let at = day.here.local(event.at);
    let started = day.here.local(day.here.outing.started);
    let time = match (at.date() == started.date(), at.year() == started.year()) {
        (true, _) => "%H:%M",
        (_, true) => "%-d %b, %H:%M",
        _ => "%-d %b %Y, %H:%M",
    };
    Entry {
        id,
        kind: event.kind.name(),
        mark: event.kind.key(),
        time: at.strftime(time).to_string(),
        rig: event
            .line
            .and_then(|line| day.names.get(&line.rig).cloned())
            .unwrap_or_default(),
        place: place(event, system),
        fish: fish(event, system),
        note: event.note.clone(),
        beyond: day.logged.is_beyond(event.at),
        form,
    }
}

fn place(event: &Event, system: System) -> String {
    let Some(line) = event.line else {
        return String::new();
    };
    let speed = system.speed(event.speed);
    let out = system.depth(line.out);
    match line.depth {
        Some(down) => format!("{} down, {out} out, {speed}", system.depth(down)),
        None => format!("depth not computed, {out} out, {speed}"),
    }
}

fn fish(event: &Event, system: System) -> String {
    let length = event
        .length
        .map(|length| system.length_in_fractions(length).to_string());
    let kept = event
        .kept
        .map(|kept| if kept { "kept" } else { "released" }.to_owned());
    length
        .into_iter()
        .chain(kept)
        .collect::<Vec<_>>()
        .join(", ")
}
