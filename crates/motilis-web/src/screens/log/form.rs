//! The form of a log entry, read and filled in.

use crate::forms::{Typed, instant, problem, text};
use crate::screens::{Context, zone};
use motilis_core::book::{Event, EventKind, limits};
use motilis_core::units::Metres;
use motilis_view::screens::{Choice, EntryForm, Field};
use motilis_view::units::{Problem, Quantity, System};
use serde::Deserialize;

/// The form as it was sent.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct RawEntry {
    kind: String,
    at: String,
    length: String,
    kept: String,
    note: String,
}

const KEPT: [(&str, &str); 3] = [("", "not said"), ("kept", "kept"), ("released", "released")];

fn length_field(typed: &str, system: System) -> Typed {
    Typed::new(
        ("length", "Length"),
        (Quantity::Length, system),
        limits::LENGTH,
        typed,
    )
}

fn entry_form(kind: EventKind, kept: &str, at: Field, length: Field, note: Field) -> EntryForm {
    EntryForm {
        kind: Choice::list(
            EventKind::ALL.iter().map(|kind| (kind.key(), kind.name())),
            kind.key(),
        ),
        at,
        length,
        kept: Choice::list(KEPT, kept),
        note,
    }
}

/// The form filled in with an entry as it is.
pub(super) fn shown(event: &Event, context: &Context) -> EntryForm {
    let mut length = length_field("", context.system);
    if let Some(metres) = event.length {
        length.fill(metres.0);
    }
    let kept = match event.kept {
        None => "",
        Some(true) => "kept",
        Some(false) => "released",
    };
    let at = context
        .local(event.at)
        .strftime("%Y-%m-%d %H:%M")
        .to_string();
    entry_form(
        event.kind,
        kept,
        text("at", "When", &at),
        length.field,
        text("note", "Note", &event.note),
    )
}

/// The corrected entry.
///
/// # Errors
/// The form as it was typed, with a sentence beside each field that cannot be.
pub(super) fn read(
    raw: &RawEntry,
    event: &Event,
    context: &Context,
) -> Result<Event, Box<EntryForm>> {
    let kind = EventKind::from_key(&raw.kind).unwrap_or(event.kind);
    let mut at = text("at", "When", &raw.at);
    let mut length = length_field(&raw.length, context.system);
    let mut note = text("note", "Note", &raw.note);
    let instant = instant(&raw.at, &zone(&context.water)).unwrap_or_else(|problem| {
        at.problem = Some(problem);
        event.at
    });
    let corrected = Event {
        kind,
        at: instant,
        length: length.optional().map(Metres),
        kept: match raw.kept.as_str() {
            "kept" => Some(true),
            "released" => Some(false),
            _ => None,
        },
        note: raw.note.trim().to_owned(),
        ..event.clone()
    };
    if let Err(error) = corrected.check() {
        let field = if error.quantity() == "note" {
            &mut note
        } else {
            &mut length.field
        };
        field.problem.get_or_insert(problem(&error));
    }
    if [&at, &length.field, &note]
        .iter()
        .all(|field| field.problem.is_none())
    {
        return Ok(corrected);
    }
    Err(Box::new(entry_form(
        kind,
        &raw.kept,
        at,
        length.field,
        note,
    )))
}

/// What is wrong with a note before it is logged.
pub(super) fn note_problem(event: &Event) -> Option<Problem> {
    if event.kind == EventKind::Note && event.note.is_empty() {
        return Some(Problem("Note is empty; write what you saw.".into()));
    }
    event.check().err().map(|error| problem(&error))
}
