//! Experiments of the open outing, and how they stand.

use crate::aboard::Aboard;
use crate::book::Book;
use crate::error::Error;
use crate::season::{Season, logged_today};
use jiff::Timestamp;
use motilis_core::book::ExperimentId;
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
        let other = |(rod, arm): (u8, _)| {
            let way = experiment.way(arm);
            let aboard = rods.iter().find(|one| one.boat.number == rod);
            aboard.is_some_and(|one| !one.boat.away && !way.is_on(&one.boat))
        };
        let due = runs && now < experiment.until && experiment.dealt(now).into_iter().any(other);
        told.push(Tried {
            id,
            records,
            standing,
            runs,
            due,
            experiment,
        });
    }
    Ok(told)
}
