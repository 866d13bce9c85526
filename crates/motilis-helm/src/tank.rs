//! One rig on its line: what the tank needs to know.

use crate::book::{Book, Here};
use crate::error::Error;
use crate::standing::StandingRig;
use motilis_core::book::{BoatRod, RigId, RunningLine};
use motilis_core::line::Surroundings;
use motilis_store::{made, rods};
use std::collections::BTreeSet;

/// What the tank needs to know.
pub struct Tank<'b, 'c> {
    /// The boat book.
    pub book: &'b Book<'c>,
    /// The open outing.
    pub here: &'b Here,
    /// What lines run in.
    pub surroundings: Surroundings,
    /// Every rig, by name.
    pub rigs: &'b [StandingRig],
    /// The lines that are on a rod, by its number.
    pub running: Vec<(u8, RunningLine)>,
    /// Rigs that lie made up.
    pub made_up: BTreeSet<RigId>,
}

impl<'b, 'c> Tank<'b, 'c> {
    /// Reads it.
    ///
    /// # Errors
    /// [`Error::NoOuting`]; [`Error::Core`] for conditions that cannot be.
    pub fn load(book: &'b Book<'c>) -> Result<Self, Error> {
        let (here, connection) = (book.here()?, book.connection());
        let made = made::all(connection)?;
        Ok(Self {
            book,
            here,
            surroundings: here.surroundings()?,
            rigs: book.rigs()?,
            running: rods::of_outing(connection, here.id)?
                .iter()
                .filter_map(|boat| Some((boat.number, running(book, boat)?)))
                .collect(),
            made_up: made.into_iter().map(|(_, made)| made.rig).collect(),
        })
    }

    /// The line that carries a rig, or the first there is.
    pub fn running(&self, rig: Option<RigId>) -> Option<RunningLine> {
        let carries = |(_, line): &&(u8, RunningLine)| rig.is_none_or(|rig| line.rig == rig);
        self.running.iter().find(carries).map(|(_, line)| *line)
    }

    /// A rig of the box that can run.
    pub fn runs(&self, id: RigId) -> Option<&'b std::sync::Arc<motilis_core::rig::Rig>> {
        let rig = self.rigs.iter().find(|rig| rig.id == id)?;
        rig.stands.as_ref().ok()
    }
}

/// A rod's line as the tank has it; `None` for a lure, or a set-up that cannot be read.
fn running(book: &Book<'_>, boat: &BoatRod) -> Option<RunningLine> {
    let setup = book.setup(boat.setup()).ok()?;
    Some(RunningLine {
        rig: boat.rod.tackle.rig()?,
        setup: boat.setup(),
        main: boat.main.unwrap_or(setup.main),
        weight: boat.rod.weight,
        lead: boat.rod.lead,
        out: boat.rod.out,
    })
}
