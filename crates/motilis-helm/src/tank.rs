//! One rig on its line: what the tank needs to know.

use crate::book::{Book, Here};
use crate::error::Error;
use crate::standing::StandingRig;
use motilis_core::book::{RigId, RunningLine};
use motilis_core::line::Surroundings;
use motilis_store::{made, outings};
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
    /// The line that runs.
    pub running: Option<RunningLine>,
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
            running: outings::running_line(connection, here.id)?,
            made_up: made.into_iter().map(|(_, made)| made.rig).collect(),
        })
    }

    /// A rig of the box that can run.
    pub fn runs(&self, id: RigId) -> Option<&'b std::sync::Arc<motilis_core::rig::Rig>> {
        let rig = self.rigs.iter().find(|rig| rig.id == id)?;
        rig.stands.as_ref().ok()
    }
}
