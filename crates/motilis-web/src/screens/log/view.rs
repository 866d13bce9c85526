//! The page of the log.

use super::{Ask, form, on_line};
use crate::Error;
use crate::forms::text;
use crate::screens::Context;
use motilis_core::book::{Event, EventId, EventKind, RigId};
use motilis_store::{Connection, events, outings, rigs};
use motilis_view::draw::{Happening, Timeline, TimelineSource};
use motilis_view::screens::{Entry, EntryForm, Field, Log, Notice, Running, Screen, Theme};
use motilis_view::units::{Problem, Quantity, System, show, show_fraction};
use motilis_view::words;
use std::collections::HashMap;

/// Forms that came back because something in them cannot be.
#[derive(Default)]
pub(super) struct Extra {
    note: Option<Field>,
    form: Option<Box<EntryForm>>,
}

impl Extra {
    /// A note as it was typed, with its problem.
    pub fn note(typed: String, problem: Problem) -> Self {
        let note = Field {
            problem: Some(problem),
            ..text("note", "Note", &typed)
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

/// The whole page.
pub(super) fn log(
    connection: &Connection,
    theme: Theme,
    ask: &Ask,
    mut extra: Extra,
) -> Result<Log, Error> {
    let context = Context::load(connection)?;
    let events = events::of_outing(connection, context.id)?;
    let names = names(connection, &events)?;
    let running = running(connection, &context)?;
    let notice = notice(ask, &events, &context, &names);
    let headline = headline(&events);
    let timeline = timelines(&events, &context);
    let entries = events
        .iter()
        .map(|(id, event)| {
            let form = (ask.edit == Some(id.0)).then(|| {
                extra
                    .form
                    .take()
                    .map_or_else(|| form::shown(event, &context), |form| *form)
            });
            entry(id.0, event, &context, &names, form)
        })
        .collect();
    Ok(Log {
        frame: context.frame(Screen::Log, theme, "/log"),
        outings: context.outing_choices(),
        headline,
        running,
        note: extra.note.unwrap_or_else(|| text("note", "Note", "")),
        notice,
        timeline,
        entries,
        cautions: words::cautions_of_day(&context.outing, context.system),
    })
}

/// Names of the rigs that the entries speak of, deleted ones too.
fn names(
    connection: &Connection,
    events: &[(EventId, Event)],
) -> Result<HashMap<RigId, String>, Error> {
    let mut names = HashMap::new();
    for line in events.iter().filter_map(|(_, event)| event.line) {
        if let std::collections::hash_map::Entry::Vacant(place) = names.entry(line.rig) {
            place.insert(rigs::get(connection, line.rig)?.rig.name);
        }
    }
    Ok(names)
}

fn running(connection: &Connection, context: &Context) -> Result<Option<Running>, Error> {
    let Some(line) = outings::running_line(connection, context.id)? else {
        return Ok(None);
    };
    let place = on_line(connection, context, &line)?;
    let speed = show(Quantity::Speed, context.outing.speed.0, context.system);
    Ok(Some(Running {
        rig: rigs::get(connection, line.rig)?.rig.name,
        place: format!(
            "{} down, {} out, {speed}",
            show(Quantity::Depth, place.depth.0, context.system),
            show(Quantity::Depth, place.out.0, context.system)
        ),
        tank: format!("/tank?rig={}", line.rig.0),
    }))
}

/// Longest stretch after the start that counts as the outing's own hours.
const OUTING_SECONDS: i64 = 30 * 3_600;
/// Sizes of the timeline: on a desk, on a phone.
const WIDE: (f64, f64) = (1_230.0, 180.0);
const NARROW: (f64, f64) = (390.0, 170.0);

/// The outing on its hours; entries written down days later are left to the list.
fn timelines(events: &[(EventId, Event)], context: &Context) -> Option<(Timeline, Timeline)> {
    let outing = &context.outing;
    let midnight = context
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
                depth: event.line?.depth,
                mark: event.kind.key(),
            })
        })
        .collect();
    let draw = |size| {
        Timeline::new(&TimelineSource {
            happenings: &happenings,
            bottom: outing.bottom,
            system: context.system,
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

fn notice(
    ask: &Ask,
    events: &[(EventId, Event)],
    context: &Context,
    names: &HashMap<RigId, String>,
) -> Option<Notice> {
    if let Some(id) = ask.deleted {
        return Some(Notice {
            sentence: "Entry deleted.".into(),
            undo: Some(format!("/log/{id}/undo")),
        });
    }
    let logged = ask.logged?;
    let (_, event) = events.iter().find(|(id, _)| id.0 == logged)?;
    let entry = entry(logged, event, context, names, None);
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
        undo: Some(format!("/log/{logged}/delete")),
    })
}

fn entry(
    id: i64,
    event: &Event,
    context: &Context,
    names: &HashMap<RigId, String>,
    form: Option<EntryForm>,
) -> Entry {
    let system = context.system;
    let at = context.local(event.at);
    let started = context.local(context.outing.started);
    let time = if at.date() == started.date() {
        "%H:%M"
    } else {
        "%-d %b, %H:%M"
    };
    Entry {
        id,
        kind: event.kind.name(),
        mark: event.kind.key(),
        time: at.strftime(time).to_string(),
        rig: event
            .line
            .and_then(|line| names.get(&line.rig).cloned())
            .unwrap_or_default(),
        place: place(event, system),
        fish: fish(event, system),
        note: event.note.clone(),
        form,
    }
}

fn place(event: &Event, system: System) -> String {
    let Some(line) = event.line else {
        return String::new();
    };
    let depth = |metres| show(Quantity::Depth, metres, system);
    let speed = show(Quantity::Speed, event.speed.0, system);
    format!(
        "{} down, {} out, {speed}",
        depth(line.depth.0),
        depth(line.out.0)
    )
}

fn fish(event: &Event, system: System) -> String {
    let length = event
        .length
        .map(|length| show_fraction(Quantity::Length, length.0, system).to_string());
    let kept = event
        .kept
        .map(|kept| if kept { "kept" } else { "released" }.to_owned());
    length
        .into_iter()
        .chain(kept)
        .collect::<Vec<_>>()
        .join(", ")
}
