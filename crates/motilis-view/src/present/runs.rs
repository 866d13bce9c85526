//! A run of a river: its form, its plan, what flows through it.

use super::bare_frame;
use crate::draw::{RunPlan, RunPlanSource};
use crate::forms::run::{blank, shown_discharge, shown_run};
use crate::screens::{RunForm, RunScreen, Screen};
use crate::seen::Device;
use crate::units::System;
use motilis_core::book::{RunId, WaterId};
use motilis_core::river::{Pace, Run, SURFACE_COEFFICIENT};
use motilis_helm::{Book, Error};
use motilis_store::{runs, waters};

/// What the page shows beside the run as it is kept.
#[derive(Debug, Default)]
pub struct RunExtra {
    /// The form as it was typed.
    pub form: Option<RunForm>,
    /// What was just done.
    pub done: Option<String>,
}

/// Sizes of the plan: on a desk, on a phone.
const WIDE: (f64, f64) = (860.0, 300.0);
const NARROW: (f64, f64) = (390.0, 250.0);

/// The page of a run, or of a new one.
///
/// # Errors
/// [`Error::Store`].
pub fn run_page(
    book: &Book<'_>,
    device: Device,
    water: WaterId,
    id: Option<RunId>,
    extra: RunExtra,
) -> Result<RunScreen, Error> {
    let system = device.system;
    let connection = book.connection();
    let run = id.map(|id| runs::get(connection, id)).transpose()?;
    let water = run.as_ref().map_or(water, |run| run.water);
    let path = match id {
        Some(id) => format!("/runs/{}", id.0),
        None => format!("/waters/{}/runs/new", water.0),
    };
    let shown = run.as_ref().map(|run| shown_run(run, system));
    Ok(RunScreen {
        frame: bare_frame(book, Screen::Waters, device, &path)?,
        title: run
            .as_ref()
            .map_or("A new run".to_owned(), |run| run.name.clone()),
        water: water.0,
        water_name: waters::get(connection, water)?.name,
        id: id.map(|id| id.0),
        done: extra.done,
        plan: run
            .as_ref()
            .and_then(|run| Some((plan(run, system, WIDE)?, plan(run, system, NARROW)?))),
        check: run.as_ref().and_then(|run| check(run, system)),
        form: extra.form.or(shown).unwrap_or_else(|| blank(system)),
        leaf: leaf(system),
        paces: paces(system),
    })
}

fn plan(run: &Run, system: System, size: (f64, f64)) -> Option<RunPlan> {
    let section = run.section().ok()?;
    Some(RunPlan::new(&RunPlanSource {
        run,
        section: &section,
        stand: None,
        cast: None,
        others: &[],
        cover: None,
        lie: None,
        system,
        size,
        title: format!(
            "Plan of {}: {}",
            run.name,
            crate::words::river::about(run, system)
        ),
    }))
}

/// Discharge by the mean-section method, to hold against a gauge.
fn check(run: &Run, system: System) -> Option<String> {
    let section = run.section().ok()?;
    let flow = section.discharge();
    Some(format!(
        "{} flow through it: computed from the depths and {SURFACE_COEFFICIENT} of the surface speeds, strip by strip (Rantz and others 1982); method, coefficient and that it is good to some 20 % are from memory. Speed over depth by a power law of {:.0} over {}.",
        shown_discharge(flow, system),
        section.exponent(),
        run.bed.name()
    ))
}

/// A round way to time a leaf over.
fn leaf(system: System) -> &'static str {
    match system {
        System::Imperial => "30 ft",
        System::Metric => "10 m",
    }
}

/// What the words for a pace stand for.
fn paces(system: System) -> String {
    let each = Pace::ALL
        .iter()
        .map(|pace| format!("{} {}", pace.name(), system.speed(pace.speed())));
    format!(
        "A surface speed as a figure, as a pace ({}; from memory), or as a leaf timed over a way: {} in 8 s, 12 paces in 9 s (a pace is {}, from memory).",
        each.collect::<Vec<_>>().join(", "),
        leaf(system),
        system.depth(motilis_core::units::Metres(0.75))
    )
}
