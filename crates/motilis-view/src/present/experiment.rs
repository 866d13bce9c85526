//! Experiments of the outing: the one that runs, those that are over, and the form of a new one.

use super::frame;
use super::log::known;
use crate::forms::experiment as form;
use crate::screens::{ExperimentForm, ExperimentRow, ExperimentScreen, ExperimentStrip, Screen};
use crate::seen::Device;
use crate::units::System;
use crate::words;
use jiff::Timestamp;
use motilis_core::book::ExperimentId;
use motilis_core::evidence::{self, Arm, Experiment, Standing, Stop, Way};
use motilis_helm::{Book, Error, Here, Tried, tried};
use motilis_store::rigs;

/// The page.
///
/// # Errors
/// [`Error::NoOuting`], [`Error::Store`].
pub fn experiments(
    book: &Book<'_>,
    device: Device,
    now: Timestamp,
    back: Option<Box<ExperimentForm>>,
) -> Result<ExperimentScreen, Error> {
    let here = book.here()?;
    let mut rows = Vec::new();
    let mut running = None;
    for one in tried(book, now)? {
        let row = row(book, here, &one, now, device.system)?;
        if one.runs {
            running = running.or(Some(row));
        } else {
            rows.push(row);
        }
    }
    let over =
        here.outing.ended.is_some() || now.duration_since(here.outing.started) >= evidence::LONGEST;
    let form = match (&running, back) {
        (Some(_), _) => None,
        (None, None) if over => None,
        (None, Some(back)) => Some(*back),
        (None, None) => Some(form::blank(book, device.system, now)?),
    };
    Ok(ExperimentScreen {
        frame: frame(Some(here), Screen::Log, device, "/log/experiment"),
        closed: (over && running.is_none() && form.is_none()).then_some(
            "This outing is over. Begin a new one on Today; then two ways can be held against each other on its rods.",
        ),
        running,
        form,
        over: rows,
    })
}

/// What the log says of the one that runs.
///
/// # Errors
/// As [`experiments`].
pub(super) fn strip(
    book: &Book<'_>,
    device: Device,
    now: Timestamp,
) -> Result<Option<ExperimentStrip>, Error> {
    let here = book.here()?;
    for one in tried(book, now)? {
        if one.runs {
            let row = row(book, here, &one, now, device.system)?;
            let stop = row.stop.unwrap_or(row.dealt);
            return Ok(Some(ExperimentStrip {
                id: row.id,
                sentence: format!("{stop} {}", row.swap.unwrap_or_default()),
                due: row.due,
            }));
        }
    }
    Ok(None)
}

fn way(book: &Book<'_>, way: &Way, system: System) -> Result<String, Error> {
    let lead = way.lead.map(|lead| format!("lead {}", system.depth(lead)));
    let bait = way.bait.as_deref().map(|bait| match bait {
        "" => "no bait".to_owned(),
        bait => bait.to_owned(),
    });
    let said = [Some(rigs::name(book.connection(), way.rig)?), lead, bait];
    Ok(said.into_iter().flatten().collect::<Vec<_>>().join(", "))
}

/// "Rods 1 and 4".
fn rods(dealt: &[(u8, Arm)], arm: Arm) -> String {
    let of: Vec<String> = dealt
        .iter()
        .filter(|(_, own)| *own == arm)
        .map(|(rod, _)| rod.to_string())
        .collect();
    let plural = if of.len() == 1 { "rod" } else { "rods" };
    format!("{plural} {}", of.join(" and "))
}

fn verdict(standing: &Standing, runs: bool) -> String {
    let (better, sure) = if standing.probability >= 0.5 {
        ("A", standing.probability)
    } else {
        ("B", 1.0 - standing.probability)
    };
    let said = match standing.verdict {
        motilis_core::evidence::Verdict::CannotTell => {
            format!("Cannot tell yet ({sure:.2} for {better}).")
        }
        verdict => format!("{better} is {} better ({sure:.2}).", words::surely(verdict)),
    };
    if runs && standing.verdict < motilis_core::evidence::Verdict::Likely {
        format!(
            "{said} Chance that one becomes likely in the hours left: {:.0} %.",
            100.0 * standing.chance
        )
    } else {
        said
    }
}

fn row(
    book: &Book<'_>,
    here: &Here,
    one: &Tried,
    now: Timestamp,
    system: System,
) -> Result<ExperimentRow, Error> {
    let Tried {
        id: ExperimentId(id),
        experiment,
        records,
        standing,
        runs,
        due,
    } = one;
    let clock = |at: Timestamp| here.local(at).strftime("%H:%M").to_string();
    let dealt = experiment.dealt(now);
    let swap = match (due, next(experiment, now)) {
        (true, _) => {
            Some("The rods are due to swap: fish it so, then say that they are swapped.".to_owned())
        }
        (false, Some(at)) => Some(format!("They swap at {}.", clock(at))),
        (false, None) => None,
    };
    let (from, to) = experiment.hours(now);
    Ok(ExperimentRow {
        id: *id,
        ways: [
            way(book, &experiment.ways[0], system)?,
            way(book, &experiment.ways[1], system)?,
        ],
        records: records.map(|record| known(&record)),
        verdict: verdict(standing, *runs),
        stop: runs.then(|| standing.stop.map(stop)).flatten(),
        dealt: format!(
            "{} fish A, {} fish B.",
            words::capital(&rods(&dealt, Arm::A)),
            rods(&dealt, Arm::B)
        ),
        swap: swap.filter(|_| *runs),
        due: *due,
        hours: if *runs {
            format!("Since {}, until {}.", clock(from), clock(experiment.until))
        } else {
            format!("From {} to {}", clock(from), clock(to))
        },
    })
}

fn next(experiment: &Experiment, now: Timestamp) -> Option<Timestamp> {
    experiment.next_swap(now)
}

fn stop(why: Stop) -> String {
    match why {
        Stop::Clear => "It is clear: you may stop, and fish the better one.",
        Stop::CannotTell => {
            "Cannot tell by the end at this rate: the hours left are better spent otherwise."
        }
        Stop::Over => "Its hours are up.",
    }
    .to_owned()
}
