//! The forms of a log entry and of a pass, read and filled in.

use super::{Texts, Typed, base, instant, merge, overtaken, problem, text};
use crate::screens::{Choice, EntryForm, Field, PassForm};
use crate::seen::Device;
use crate::units::{Problem, Quantity, System};
use crate::words::capital;
use jiff::Timestamp;
use motilis_core::book::{BaitAfter, Caught, Event, EventKind, Landing, Measured, OnLine, Strike};
use motilis_core::evidence::Pass;
use motilis_core::fields;
use motilis_core::fish::Fish;
use motilis_core::units::{Kilograms, Metres, MetresPerSecond};
use motilis_helm::{Aboard, Here, zone};

const KEPT: [(&str, &str); 3] = [("", "not said"), ("kept", "kept"), ("released", "released")];
const CLIPPED: [(&str, &str); 3] = [("", "not said"), ("yes", "clipped"), ("no", "whole")];

/// The figures of an entry, in the order of the form.
struct Figures {
    length: Typed,
    girth: Typed,
    weight: Typed,
    out: Typed,
    depth: Typed,
    speed: Typed,
}

impl Figures {
    fn new(system: System, typed: impl Fn(&str) -> String) -> Self {
        let figure = |asked: fields::Field, label, quantity| {
            Typed::new(asked, label, (quantity, system), &typed(asked.form))
        };
        Self {
            length: figure(fields::FISH_LENGTH, "Length", Quantity::Length),
            girth: figure(fields::FISH_GIRTH, "Girth", Quantity::Length),
            weight: figure(fields::FISH_WEIGHT, "Weight", Quantity::FishMass),
            out: figure(fields::OUT, "Line out", Quantity::Depth),
            depth: figure(fields::DEPTH, "Depth", Quantity::Depth),
            speed: figure(fields::SPEED, "Speed", Quantity::Speed),
        }
    }

    fn all(&mut self) -> [&mut Typed; 6] {
        [
            &mut self.length,
            &mut self.girth,
            &mut self.weight,
            &mut self.out,
            &mut self.depth,
            &mut self.speed,
        ]
    }

    fn fields(self) -> [Field; 6] {
        [
            self.length.field,
            self.girth.field,
            self.weight.field,
            self.out.field,
            self.depth.field,
            self.speed.field,
        ]
    }
}

/// Short words on a fish: names in the form and what they are called.
const WORDS: [(&str, &str); 3] = [
    ("sex", "Sex"),
    ("condition", "Condition"),
    ("hooked", "Hook sat"),
];

fn keyed<T: Copy>(
    all: &[T],
    key: impl Fn(T) -> &'static str,
    name: impl Fn(T) -> &'static str,
    chosen: &str,
) -> Vec<Choice> {
    let keys = all.iter().map(|one| (key(*one), name(*one)));
    Choice::list([("", "not said")].into_iter().chain(keys), chosen)
}

/// The form out of what was typed.
fn form(texts: &Texts, figures: Figures, at: Field, note: Field, rods: &[Aboard]) -> EntryForm {
    let chosen = |name: &str| texts.get(name).map_or("", String::as_str);
    let numbers = rods.iter().map(|aboard| {
        let number = aboard.boat.number;
        (number.to_string(), format!("{number}, {}", aboard.name))
    });
    let none = [(String::new(), "none".to_owned())];
    let mut rod: Vec<Choice> = none
        .into_iter()
        .chain(numbers)
        .map(|(value, label)| Choice {
            chosen: value == chosen("rod"),
            value,
            label,
        })
        .collect();
    if !rod.iter().any(|choice| choice.chosen) {
        rod.push(Choice {
            value: chosen("rod").to_owned(),
            label: chosen("rod").to_owned(),
            chosen: true,
        });
    }
    let [length, girth, weight, out, depth, speed] = figures.fields();
    EntryForm {
        base: String::new(),
        refusal: None,
        kind: Choice::list(
            EventKind::ALL.iter().map(|kind| (kind.key(), kind.name())),
            chosen("kind"),
        ),
        at,
        rod,
        length,
        measured: keyed(
            Measured::ALL,
            Measured::key,
            Measured::name,
            chosen("measured"),
        ),
        kept: Choice::list(KEPT, chosen("kept")),
        species: keyed(Fish::ALL, Fish::key, Fish::name, chosen("species")),
        landing: keyed(Landing::ALL, Landing::key, Landing::name, chosen("landing")),
        strike: keyed(Strike::ALL, Strike::key, Strike::name, chosen("strike")),
        bait_after: keyed(
            BaitAfter::ALL,
            BaitAfter::key,
            BaitAfter::name,
            chosen("bait_after"),
        ),
        clipped: Choice::list(CLIPPED, chosen("clipped")),
        figures: vec![girth, weight, out, depth, speed],
        words: WORDS
            .iter()
            .map(|(name, label)| text(name, label, chosen(name)))
            .collect(),
        note,
    }
}

/// An entry as its form would be typed.
fn typed_of(event: &Event, here: &Here, system: System) -> Texts {
    let caught = &event.caught;
    let mut figures = Figures::new(system, |_| String::new());
    let line = event.line;
    let kept = [
        event.length.map(|length| length.0),
        caught.girth.map(|girth| girth.0),
        caught.weight.map(|weight| weight.0),
        line.map(|line| line.out.0),
        line.and_then(|line| line.depth).map(|depth| depth.0),
        Some(event.speed.0),
    ];
    for (figure, kept) in figures.all().into_iter().zip(kept) {
        if let Some(kept) = kept {
            figure.fill(kept);
        }
    }
    let flag = |flag: Option<bool>, [yes, no]: [&str; 2]| match flag {
        None => String::new(),
        Some(true) => yes.to_owned(),
        Some(false) => no.to_owned(),
    };
    let key = |key: Option<&'static str>| key.unwrap_or_default().to_owned();
    let mut texts: Texts = figures
        .fields()
        .map(|field| (field.name.to_owned(), field.value))
        .into();
    let at = here.local(event.at).strftime("%Y-%m-%d %H:%M").to_string();
    texts.extend(
        [
            ("kind", event.kind.key().to_owned()),
            ("at", at),
            (
                "rod",
                event.rod.map_or_else(String::new, |rod| rod.to_string()),
            ),
            ("kept", flag(event.kept, ["kept", "released"])),
            ("species", key(caught.species.map(Fish::key))),
            ("landing", key(caught.landing.map(Landing::key))),
            ("strike", key(caught.strike.map(Strike::key))),
            ("bait_after", key(caught.bait_after.map(BaitAfter::key))),
            ("measured", key(caught.measured.map(Measured::key))),
            ("clipped", flag(caught.clipped, ["yes", "no"])),
            ("sex", caught.sex.clone()),
            ("condition", caught.condition.clone()),
            ("hooked", caught.hooked.clone()),
            ("note", event.note.clone()),
        ]
        .map(|(name, value)| (name.to_owned(), value)),
    );
    texts
}

/// The form filled in with an entry as it is.
pub fn shown(event: &Event, here: &Here, device: Device, rods: &[Aboard]) -> EntryForm {
    let texts = typed_of(event, here, device.system);
    let typed = |name: &str| texts.get(name).cloned().unwrap_or_default();
    let figures = Figures::new(device.system, typed);
    let at = text("at", "When", &typed("at"));
    let note = text("note", "Note", &typed("note"));
    EntryForm {
        base: base(&texts),
        ..form(&texts, figures, at, note, rods)
    }
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
    rods: &[Aboard],
) -> Result<Event, Box<EntryForm>> {
    let kept = typed_of(event, here, device.system);
    let merged = merge(sent, shown_before, &kept);
    // A form that asks for less leaves the rest as it is.
    let mut texts = kept.clone();
    texts.extend(merged.texts);
    let typed = |name: &str| texts.get(name).cloned().unwrap_or_default();
    let same = |name: &str| texts.get(name) == kept.get(name);
    let mut figures = Figures::new(device.system, typed);
    let mut at = text("at", "When", &typed("at"));
    let mut note = text("note", "Note", &typed("note"));
    let instant = instant(&typed("at"), &zone(&here.water)).unwrap_or_else(|problem| {
        at.problem = Some(problem);
        event.at
    });
    let rod: Option<u8> = typed("rod").parse().ok();
    let line = line_of(event, rod, rods);
    let given = [
        event.length.map(|length| length.0),
        event.caught.girth.map(|girth| girth.0),
        event.caught.weight.map(|weight| weight.0),
        line.map(|line| line.out.0),
        line.and_then(|line| line.depth).map(|depth| depth.0),
        Some(event.speed.0),
    ];
    let mut read = given;
    for ((figure, given), read) in figures.all().into_iter().zip(given).zip(&mut read) {
        // What was left alone is not rounded by looking at it.
        *read = if same(figure.field.name) {
            given
        } else {
            figure.optional()
        };
    }
    let [length, girth, weight, out, depth, speed] = read;
    let flag = |text: String, [yes, no]: [&str; 2]| match text {
        text if text == yes => Some(true),
        text if text == no => Some(false),
        _ => None,
    };
    let words = |name: &str| typed(name).trim().to_owned();
    let corrected = Event {
        kind: EventKind::from_key(&typed("kind")).unwrap_or(event.kind),
        // To the minute on the page, to the second in the file: what was left alone stays.
        at: if same("at") { event.at } else { instant },
        rod,
        line: line.map(|line| OnLine {
            out: out.map_or(line.out, Metres),
            depth: depth.map(Metres),
            ..line
        }),
        speed: speed.map_or(event.speed, MetresPerSecond),
        length: length.map(Metres),
        kept: flag(typed("kept"), ["kept", "released"]),
        caught: Caught {
            species: Fish::from_key(&typed("species")),
            landing: Landing::from_key(&typed("landing")),
            girth: girth.map(Metres),
            weight: weight.map(Kilograms),
            sex: words("sex"),
            condition: words("condition"),
            hooked: words("hooked"),
            clipped: flag(typed("clipped"), ["yes", "no"]),
            strike: Strike::from_key(&typed("strike")),
            bait_after: BaitAfter::from_key(&typed("bait_after")),
            measured: Measured::from_key(&typed("measured")),
        },
        note: typed("note").trim().to_owned(),
        ..event.clone()
    };
    let refusal = troubles(
        &corrected,
        &merged.conflicts,
        &mut figures,
        (&mut at, &mut note),
    );
    let sound = figures
        .all()
        .iter()
        .all(|figure| figure.field.problem.is_none());
    if refusal.is_none() && sound && at.problem.is_none() && note.problem.is_none() {
        return Ok(corrected);
    }
    Err(Box::new(EntryForm {
        base: base(&kept),
        refusal,
        ..form(&texts, figures, at, note, rods)
    }))
}

/// Puts what cannot be, and what others changed meanwhile, beside its field; what has no field comes back.
fn troubles(
    corrected: &Event,
    conflicts: &[(String, String)],
    figures: &mut Figures,
    (at, note): (&mut Field, &mut Field),
) -> Option<String> {
    let mut refusal = None;
    if let Err(error) = corrected.check() {
        let sound = figures
            .all()
            .iter()
            .all(|figure| figure.field.problem.is_none());
        let mut all = figures.all().into_iter();
        let meant = all.find(|figure| figure.is_meant(&error));
        match meant {
            Some(figure) => drop(figure.field.problem.get_or_insert(problem(&error))),
            None if error.quantity() == "note" => note.problem = Some(problem(&error)),
            None if sound => refusal = Some(problem(&error).0),
            None => {}
        }
    }
    for (name, theirs) in conflicts {
        let mut all = figures.all().map(|figure| &mut figure.field).into_iter();
        let field = all.find(|field| field.name == name);
        match (field, name.as_str()) {
            (Some(field), _) => field.problem = Some(overtaken(field.label, theirs)),
            (None, "at") => at.problem = Some(overtaken(at.label, theirs)),
            (None, "note") => note.problem = Some(overtaken(note.label, theirs)),
            (None, _) => refusal = Some(overtaken("A list", theirs).0),
        }
    }
    refusal
}

/// What the entry happened on: as it was, or what the rod now named carries.
fn line_of(event: &Event, rod: Option<u8>, rods: &[Aboard]) -> Option<OnLine> {
    if rod == event.rod {
        return event.line;
    }
    let named = rods.iter().find(|aboard| Some(aboard.boat.number) == rod);
    match (rod, named) {
        (None, _) => None,
        (Some(_), Some(aboard)) => Some(aboard.on_line()),
        (Some(_), None) => event.line,
    }
}

/// The form of a pass as it is.
pub fn pass_shown(pass: &Pass, here: &Here) -> PassForm {
    let at = |at: Timestamp| here.local(at).strftime("%Y-%m-%d %H:%M").to_string();
    PassForm {
        from: text("from", "Out from", &at(pass.from)),
        to: text("to", "In at", &pass.to.map_or_else(String::new, at)),
    }
}

/// When a pass began and ended, as typed; an hour that was left alone stays to the second.
///
/// # Errors
/// The form as it was typed, with a sentence beside each field that cannot be.
pub fn pass_read(
    sent: &Texts,
    pass: &Pass,
    here: &Here,
) -> Result<(Timestamp, Option<Timestamp>), Box<PassForm>> {
    let kept = pass_shown(pass, here);
    let typed = |name: &str| sent.get(name).cloned().unwrap_or_default();
    let mut from = text("from", kept.from.label, &typed("from"));
    let mut to = text("to", kept.to.label, &typed("to"));
    let zone = zone(&here.water);
    let read = |field: &mut Field, shown: &Field, was: Option<Timestamp>| {
        if field.value.trim() == shown.value {
            return was;
        }
        if field.value.trim().is_empty() {
            return None;
        }
        let read = instant(&field.value, &zone);
        read.map_err(|problem| field.problem = Some(problem)).ok()
    };
    let began = read(&mut from, &kept.from, Some(pass.from));
    let ended = read(&mut to, &kept.to, pass.to);
    if began.is_none() && from.problem.is_none() {
        from.problem = Some(Problem("Out from is empty; write when it went out.".into()));
    }
    if let (Some(began), Some(ended)) = (began, ended)
        && ended < began
    {
        to.problem = Some(Problem(capital(
            "the pass ends before it begins; correct one of the two.",
        )));
    }
    match began {
        Some(began) if from.problem.is_none() && to.problem.is_none() => Ok((began, ended)),
        _ => Err(Box::new(PassForm { from, to })),
    }
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
