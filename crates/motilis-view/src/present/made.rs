//! The question which parts of a lost rig came back.

use super::bare_frame;
use crate::forms::Texts;
use crate::screens::{BreakOff, ReturnRow, Screen};
use crate::seen::Device;
use crate::words::{self, bench as say};
use motilis_core::book::MadeId;
use motilis_formats::quoted;
use motilis_helm::{Book, Error};
use motilis_store::{made, rigs};

/// The question which parts came back, with what was typed.
///
/// # Errors
/// [`Error::Store`] when the rig is gone already.
pub fn broken(
    book: &Book<'_>,
    device: Device,
    id: MadeId,
    typed: &Texts,
) -> Result<BreakOff, Error> {
    let connection = book.connection();
    let rig = made::get(connection, id)?;
    let stack = made::stack_of(connection, id, &rig)?;
    let spool = stack.mount.stock;
    let parts = made::takes(&stack)
        .into_iter()
        .filter(|(part, _)| Some(*part) != spool)
        .map(|(part, count)| {
            let most = count as u32;
            let field = typed
                .get(&format!("part-{}", part.0))
                .cloned()
                .unwrap_or_else(|| "0".into());
            let words = stack
                .pieces
                .iter()
                .find(|piece| piece.stock == Some(part))
                .map_or_else(String::new, |piece| words::capital(&say::part(&piece.part)));
            let problem = match field.trim().parse::<u32>() {
                Ok(back) if back <= most => None,
                _ => Some(format!(
                    "{} cannot have come back; give 0 to {most}.",
                    quoted(&field)
                )),
            };
            ReturnRow {
                part: part.0,
                words,
                most,
                field,
                problem,
            }
        })
        .collect();
    Ok(BreakOff {
        frame: bare_frame(book, Screen::Box, device, "/box")?,
        id: id.0,
        name: rigs::name(connection, rig.rig)?,
        parts,
    })
}
