//! The form of a log entry, read and filled in.

use super::{Texts, Typed, base, instant, merge, overtaken, problem, text};
use crate::screens::{Choice, EntryForm, Field};
use crate::seen::Device;
use crate::units::{Problem, Quantity, System};
use motilis_core::book::{Event, EventKind};
use motilis_core::fields;
use motilis_core::units::Metres;
use motilis_helm::{Here, zone};
use serde::Deserialize;

/// The form as it was sent.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
struct RawEntry {
    kind: String,
    at: String,
    length: String,
    kept: String,
    note: String,
}

const KEPT: [(&str, &str); 3] = [("", "not said"), ("kept", "kept"), ("released", "released")];

fn length_field(typed: &str, system: System) -> Typed {
    Typed::new(
        fields::FISH_LENGTH,
        "Length",
        (Quantity::Length, system),
        typed,
    )
}

fn entry_form(kind: EventKind, kept: &str, at: Field, length: Field, note: Field) -> EntryForm {
    EntryForm {
        base: String::new(),
        refusal: None,
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
pub fn shown(event: &Event, here: &Here, device: Device) -> EntryForm {
    let mut length = length_field("", device.system);
    if let Some(metres) = event.length {
        length.fill(metres.0);
    }
    let kept = match event.kept {
        None => "",
        Some(true) => "kept",
        Some(false) => "released",
    };
    let at = here.local(event.at).strftime("%Y-%m-%d %H:%M").to_string();
    let mut form = entry_form(
        event.kind,
        kept,
        text("at", "When", &at),
        length.field,
        text("note", "Note", &event.note),
    );
    form.base = base(&texts_of(&form));
    form
}

/// The form as it would be typed.
fn texts_of(form: &EntryForm) -> Texts {
    let chosen = |list: &[Choice]| {
        let chosen = list.iter().find(|choice| choice.chosen);
        chosen
            .map(|choice| choice.value.clone())
            .unwrap_or_default()
    };
    let mut texts: Texts = [&form.at, &form.length, &form.note]
        .map(|field| (field.name.to_owned(), field.value.clone()))
        .into();
    texts.insert("kind".into(), chosen(&form.kind));
    texts.insert("kept".into(), chosen(&form.kept));
    texts
}

/// The corrected entry, with what others corrected meanwhile.
///
/// # Errors
/// The form as it was typed, with a sentence beside each field that cannot be.
pub fn read(
    sent: &Texts,
    shown_before: Option<&str>,
    event: &Event,
    here: &Here,
    device: Device,
) -> Result<Event, Box<EntryForm>> {
    let kept_form = shown(event, here, device);
    let kept_texts = texts_of(&kept_form);
    let merged = merge(sent, shown_before, &kept_texts);
    let raw: RawEntry = super::typed(&merged.texts).unwrap_or_default();
    let same = |name: &str| merged.texts.get(name) == kept_texts.get(name);
    let kind = EventKind::from_key(&raw.kind).unwrap_or(event.kind);
    let mut at = text("at", "When", &raw.at);
    let mut length = length_field(&raw.length, device.system);
    let mut note = text("note", "Note", &raw.note);
    let instant = instant(&raw.at, &zone(&here.water)).unwrap_or_else(|problem| {
        at.problem = Some(problem);
        event.at
    });
    let typed_length = length.optional().map(Metres);
    let corrected = Event {
        kind,
        // To the minute on the page, to the second in the file: what was left alone stays.
        at: if same("at") { event.at } else { instant },
        length: if same("length") {
            event.length
        } else {
            typed_length
        },
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
    let mut refusal = None;
    for (name, theirs) in &merged.conflicts {
        let fields = [&mut at, &mut length.field, &mut note];
        match fields.into_iter().find(|field| field.name == name) {
            Some(field) => field.problem = Some(overtaken(field.label, theirs)),
            None => refusal = Some(overtaken("A list", theirs).0),
        }
    }
    let fields = [&at, &length.field, &note];
    if refusal.is_none() && fields.iter().all(|field| field.problem.is_none()) {
        return Ok(corrected);
    }
    Err(Box::new(EntryForm {
        base: kept_form.base,
        refusal,
        ..entry_form(kind, &raw.kept, at, length.field, note)
    }))
}

/// What is wrong with a note before it is logged.
pub fn note_problem(note: &str) -> Option<Problem> {
    let note = note.trim();
    if note.is_empty() {
        return Some(Problem("Note is empty; write what you saw.".into()));
    }
    (note.chars().count() > 500)
        .then(|| Problem("The note is longer than 500 characters; shorten it.".into()))
}
