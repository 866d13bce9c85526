//! The tying sheet of a rig.

use super::bare_frame;
use crate::draw::{Paper, Sheet};
use crate::screens::{Choice, Screen, SheetScreen};
use crate::seen::Device;
use motilis_core::book::RigId;
use motilis_helm::{Book, Error};
use motilis_store::rigs;

/// The sheet as it is looked at before it is printed.
///
/// # Errors
/// [`Error::Store`] when there is no such rig.
pub fn sheet(
    book: &Book<'_>,
    device: Device,
    id: RigId,
    paper: Paper,
) -> Result<SheetScreen, Error> {
    let board = rigs::board(book.connection(), id)?;
    let path = format!("/bench/{}/sheet", id.0);
    Ok(SheetScreen {
        frame: bare_frame(book, Screen::Bench, device, &path)?,
        id: id.0,
        name: board.name.clone(),
        papers: Choice::list(
            [Paper::A4, Paper::Letter].map(|paper| (paper.key(), paper.name())),
            paper.key(),
        ),
        sheet: Sheet::of_board(&board, paper),
    })
}
