//! The form of an experiment.

use super::{Texts, Typed, instant, problem, text};
use crate::screens::listed;
use crate::screens::{Choice, ExperimentForm, Field, Side};
use crate::units::{Quantity, System};
use jiff::{SignedDuration, Timestamp};
use motilis_core::book::RigId;
use motilis_core::evidence::{Experiment, Way};
use motilis_core::fields;
use motilis_core::units::Metres;
use motilis_helm::{Aboard, Book, Error, breaks, zone};
use motilis_store::rigs;

/// A lead's field for A or B: the same figure under two names.
const LEADS: [fields::Field; 2] = [
    fields::Field {
        form: "a_lead",
        ..fields::LEAD
    },
    fields::Field {
        form: "b_lead",
        ..fields::LEAD
    },
];
const BAITS: [&str; 2] = ["a_bait", "b_bait"];
const RIGS: [&str; 2] = ["a_rig", "b_rig"];

struct Figures {
    leads: [Typed; 2],
    swap: Typed,
}

fn figures(raw: &Texts, system: System) -> Figures {
    let value = |name: &str| raw.get(name).map_or("", String::as_str);
    Figures {
        leads: LEADS.map(|asked| {
            Typed::new(
                asked,
                "Lead, or empty for its own",
                (Quantity::Depth, system),
                value(asked.form),
            )
        }),
        swap: Typed::new(
            fields::SWAP_AFTER,
            "Swap every, minutes",
            (Quantity::Count, system),
            value(fields::SWAP_AFTER.form),
        ),
    }
}

fn form(
    book: &Book<'_>,
    raw: &Texts,
    figures: Figures,
    until: Field,
    problem: Option<String>,
) -> Result<ExperimentForm, Error> {
    let value = |name: &str| raw.get(name).map_or("", String::as_str);
    let all = rigs::names(book.connection())?;
    let choices = |name: &str| -> Vec<Choice> {
        let all = all.iter().map(|(id, label)| Choice {
            value: id.0.to_string(),
            label: label.clone(),
            chosen: id.0.to_string() == value(name),
        });
        listed(all.collect())
    };
    let rods = Aboard::all(book)?.into_iter().filter(|one| !one.boat.away);
    let [a, b] = figures.leads.map(|typed| typed.field);
    let bait = |name| {
        text(
            name,
            "On the hook; none for bare, empty for its own",
            value(name),
        )
    };
    let side = |arm: usize, lead: Field| Side {
        letter: ["A", "B"][arm],
        name: RIGS[arm],
        rigs: choices(RIGS[arm]),
        fields: [lead, bait(BAITS[arm])],
    };
    Ok(ExperimentForm {
        sides: [side(0, a), side(1, b)],
        rods: rods
            .map(|one| {
                let number = one.boat.number.to_string();
                Choice {
                    label: format!("{number}, {}", one.name),
                    chosen: value(&format!("rod_{number}")) == "yes",
                    value: number,
                }
            })
            .collect(),
        problem,
        swap: figures.swap.field,
        until,
    })
}

/// The form with a proposal: the first rod's rig on both sides, every rod, a swap each half hour, three hours.
///
/// # Errors
/// [`Error::Store`].
pub fn blank(book: &Book<'_>, system: System, now: Timestamp) -> Result<ExperimentForm, Error> {
    let here = book.here()?;
    let mut raw = Texts::new();
    let rods = Aboard::all(book)?;
    let out = rods.iter().filter(|one| !one.boat.away);
    let mut carried: Vec<i64> = Vec::new();
    for one in out {
        raw.insert(format!("rod_{}", one.boat.number), "yes".into());
        carried.extend(one.rig_id().map(|rig| rig.0));
    }
    let first = carried.first().copied();
    let other = carried.iter().copied().find(|rig| Some(*rig) != first);
    for (name, rig) in RIGS.iter().zip([first, other.or(first)]) {
        raw.extend(rig.map(|rig| ((*name).to_owned(), rig.to_string())));
    }
    raw.insert(fields::SWAP_AFTER.form.to_owned(), "30".into());
    let figures = figures(&raw, system);
    let until = here.local(now + SignedDuration::from_hours(3));
    let until = text(
        "until",
        UNTIL,
        &until.strftime("%Y-%m-%d %H:%M").to_string(),
    );
    form(book, &raw, figures, until, None)
}

const UNTIL: &str = "Until";

/// The experiment that a form tells of.
///
/// # Errors
/// [`Error::Store`].
pub fn read(
    book: &Book<'_>,
    raw: &Texts,
    (system, now, seed): (System, Timestamp, u64),
) -> Result<Result<Experiment, Box<ExperimentForm>>, Error> {
    let here = book.here()?;
    let value = |name: &str| raw.get(name).map_or("", String::as_str).trim();
    let mut figures = figures(raw, system);
    let minutes = figures.swap.or(30.0);
    let mut until_field = text("until", UNTIL, value("until"));
    let until = instant(value("until"), &zone(&here.water)).unwrap_or_else(|wrong| {
        until_field.problem = Some(wrong);
        now
    });
    let rods = raw.iter().filter(|(_, ticked)| *ticked == "yes");
    let rods = rods.filter_map(|(name, _)| name.strip_prefix("rod_")?.parse().ok());
    let leads = figures.leads.each_mut().map(Typed::optional);
    let way = |arm: usize| {
        Some(Way {
            rig: RigId(value(RIGS[arm]).parse().ok()?),
            lead: leads[arm].map(Metres),
            bait: Some(value(BAITS[arm]))
                .filter(|bait| !bait.is_empty())
                .map(|bait| if bait == "none" { "" } else { bait }.to_owned()),
        })
    };
    let mut wrong = None;
    if let Some((a, b)) = way(0).zip(way(1)) {
        let experiment = Experiment {
            outing: here.id,
            began: now,
            until,
            ended: None,
            period: SignedDuration::from_secs((minutes * 60.0) as i64),
            seed,
            rods: rods.collect(),
            ways: [a, b],
        };
        let sound = until_field.problem.is_none()
            && figures.swap.field.problem.is_none()
            && figures
                .leads
                .iter()
                .all(|lead| lead.field.problem.is_none());
        match experiment.check() {
            Ok(()) if sound && breaks(book, &experiment)? => {
                wrong = Some("With these on the rods more lines of the spread would fail than do now; choose other rods, or look at them on Spread.".to_owned());
            }
            Ok(()) if sound => return Ok(Ok(experiment)),
            Err(error) if error.quantity() == "until" && until_field.problem.is_none() => {
                until_field.problem = Some(problem(&error));
            }
            Err(error) if sound => wrong = Some(problem(&error).0),
            _ => {}
        }
    } else {
        wrong = Some("A and B each need a rig; tie one on the bench first.".to_owned());
    }
    Ok(Err(Box::new(form(book, raw, figures, until_field, wrong)?)))
}
