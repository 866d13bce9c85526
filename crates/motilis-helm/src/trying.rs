//! Experiments of the open outing, and how they stand.

use crate::aboard::Aboard;
use crate::book::Book;
use crate::error::Error;
use crate::season::{Season, logged_today};
use crate::switching::fails;
use jiff::Timestamp;
use motilis_core::book::{BoatRod, ExperimentId, Tackle};
use motilis_core::evidence::{Angler, Experiment, Record, Standing};
use motilis_store::experiments;

/// An experiment with what it brought.
#[derive(Debug, Clone)]
pub struct Tried {
    /// Its number.
    pub id: ExperimentId,
    /// The experiment.
    pub experiment: Experiment,
    /// Fish and rod-hours of A and B.
    pub records: [Record; 2],
    /// How it stands.
    pub standing: Standing,
    /// Whether it goes on.
    pub runs: bool,
    /// Whether some of its rods fish another way than they are dealt now.
    pub due: bool,
}

/// The rods of an experiment that fish another way than they are dealt at an instant, each with what it would carry then:
/// line, set-up and weight stay its own, so that nothing else differs. One that was put away meanwhile, or gave way to the
/// rods of a spread, is left alone.
pub(crate) fn dealt<'a>(
    rods: &'a [Aboard],
    experiment: &Experiment,
    at: Timestamp,
) -> Vec<(&'a Aboard, BoatRod)> {
    let of = experiment.dealt(at).into_iter().filter_map(|(rod, arm)| {
        let way = experiment.way(arm);
        let before = rods.iter().find(|one| one.boat.number == rod)?;
        let mut boat = before.boat.clone();
        boat.rod.tackle = Tackle::Rig(way.rig);
        boat.rod.lead = way.lead.unwrap_or(boat.rod.lead);
        boat.bait = way.bait.clone().unwrap_or(boat.bait);
        (!before.boat.away && boat != before.boat).then_some((before, boat))
    });
    of.collect()
}

/// Whether the spread would hold worse while the rods fish either way round than it does now: tried on the spread before
/// an experiment is begun.
///
/// # Errors
/// [`Error::NoOuting`], [`Error::Store`].
pub fn breaks(book: &Book<'_>, experiment: &Experiment) -> Result<bool, Error> {
    let rods = Aboard::all(book)?;
    let out: Vec<BoatRod> = rods
        .iter()
        .filter(|one| !one.boat.away)
        .map(|one| one.boat.clone())
        .collect();
    let now = fails(book, &out)?;
    for at in [experiment.began, experiment.began + experiment.period] {
        let changed = dealt(&rods, experiment, at);
        let then: Vec<BoatRod> = out
            .iter()
            .map(|boat| {
                let own = changed.iter().find(|(_, new)| new.number == boat.number);
                own.map_or_else(|| boat.clone(), |(_, new)| new.clone())
            })
            .collect();
        if fails(book, &then)? > now {
            return Ok(true);
        }
    }
    Ok(false)
}

/// Every experiment of the open outing, the newest first, as it stands at an instant.
///
/// # Errors
/// [`Error::NoOuting`], [`Error::Store`].
pub fn tried(book: &Book<'_>, now: Timestamp) -> Result<Vec<Tried>, Error> {
    let here = book.here()?;
    let all = experiments::of_outing(book.connection(), here.id)?;
    if all.is_empty() {
        return Ok(Vec::new());
    }
    let day = logged_today(book)?;
    let season = Season::load(book.connection(), Some(here.outing.fish))?;
    let angler = Angler::of(season.whole());
    let rods = Aboard::all(book)?;
    let mut told = Vec::new();
    for (id, experiment) in all {
        let records = experiment.records(&day.passes, &day.entries, now);
        let standing = experiment.standing(angler, records, now)?;
        let runs = experiment.ended.is_none() && here.outing.ended.is_none();
        let due = runs && now < experiment.until && !dealt(&rods, &experiment, now).is_empty();
        told.push(Tried {
            id,
            experiment,
            records,
            standing,
            runs,
            due,
        });
    }
    Ok(told)
}
