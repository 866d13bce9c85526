//! One rig on the bench with the box beside it.

use crate::book::{Book, Here};
use crate::error::Error;
use motilis_core::bench::Stocked;
use motilis_core::book::{Board, BoxPart, PartId, RigId, SetupId};
use motilis_core::line::LineSetup;
use motilis_core::rig::Stack;
use motilis_core::units::Celsius;
use motilis_core::water::Water;
use motilis_store::{parts, rigs, settings};
use std::sync::Arc;

/// What the bench needs to know.
pub struct Shop {
    /// Number of the rig.
    pub id: RigId,
    /// The rig as it lies.
    pub board: Board,
    /// Every rig, by name.
    pub names: Vec<(RigId, String)>,
    /// The box.
    pub stock: Vec<(PartId, BoxPart)>,
    /// Every set-up, by name.
    pub setups: Vec<(SetupId, Arc<LineSetup>)>,
    /// Steps of the work that are done.
    pub ticks: Vec<usize>,
    /// Whether only what fails is shown.
    pub by_eye: bool,
    /// The water its figures are for: the open outing's, or a lake at 15 °C.
    pub water: Water,
    /// Temperature of it.
    pub temperature: Celsius,
    /// The open outing, if there is one.
    pub here: Option<Here>,
}

/// Temperature of the water that figures are for while no outing is open.
const MILD: Celsius = Celsius(15.0);

impl Shop {
    /// Reads it.
    ///
    /// # Errors
    /// [`Error::Store`] when there is no such rig.
    pub fn load(book: &Book<'_>, id: RigId) -> Result<Self, Error> {
        let connection = book.connection();
        let here = book.here_if_any()?;
        let day = here.and_then(|here| here.day.as_ref().ok());
        let open = day.and_then(|day| Some((day.water().ok()?, day.temperature)));
        let (water, temperature) = match open {
            Some(open) => open,
            None => (Water::fresh(MILD)?, MILD),
        };
        Ok(Self {
            id,
            board: rigs::board(connection, id)?,
            names: rigs::names(connection)?,
            stock: parts::as_kept(connection)?,
            setups: book.setups()?.to_vec(),
            ticks: rigs::ticks(connection, id)?,
            by_eye: settings::get(connection, "measuring")?.as_deref() == Some("by_eye"),
            water,
            temperature,
            // A day that cannot be has no water either.
            here: here.filter(|_| day.is_some()).cloned(),
        })
    }

    /// The stock as the checks ask for it.
    pub fn stocked(&self) -> Vec<Stocked> {
        let all = self.stock.iter();
        all.map(|(id, boxed)| Stocked {
            id: *id,
            part: boxed.part,
            left: boxed.left,
        })
        .collect()
    }

    /// The rig as somebody saw it, by the version that was shown; as it is for an unknown version.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn seen(
        book: &Book<'_>,
        board: &Board,
        id: RigId,
        version: Option<i64>,
    ) -> Result<Stack, Error> {
        match version.filter(|version| *version != board.version) {
            None => Ok(board.stack.clone()),
            Some(version) => match rigs::board_at(book.connection(), id, version) {
                Ok(seen) => Ok(seen.stack),
                Err(error) if error.is_missing() => Ok(board.stack.clone()),
                Err(error) => Err(error.into()),
            },
        }
    }
}
