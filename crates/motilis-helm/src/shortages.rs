//! What runs short: parts at their low mark, and parts that a rig of the box wants more of than there are.

use crate::book::Book;
use crate::error::Error;
use motilis_core::book::{BoxPart, PartId, RigId};
use motilis_store::{made, parts};
use std::collections::{BTreeMap, HashSet};

/// A part that runs short.
#[derive(Debug, Clone, PartialEq)]
pub struct Short {
    /// Its number.
    pub id: PartId,
    /// It, with what is left.
    pub boxed: BoxPart,
    /// The rig that cannot be built for want of it, with how many it takes.
    pub wanted: Option<(String, f64)>,
}

impl Short {
    /// So many bring it to three times its low mark, and the rig that wants it can be built.
    pub fn buy(&self) -> f64 {
        let wanted = self.wanted.as_ref().map_or(0.0, |(_, takes)| *takes);
        (3.0 * self.boxed.low).max(wanted) - self.boxed.left
    }
}

/// Every part that runs short, in the order of the trays; none where no count is kept.
///
/// # Errors
/// [`Error::Store`].
pub fn shortages(book: &Book<'_>) -> Result<Vec<Short>, Error> {
    let connection = book.connection();
    if !parts::is_counted(connection)? {
        return Ok(Vec::new());
    }
    let made_up: HashSet<RigId> = made::all(connection)?
        .into_iter()
        .map(|(_, one)| one.rig)
        .collect();
    let mut wants: BTreeMap<PartId, (&str, f64)> = BTreeMap::new();
    for (id, board) in book.boards()? {
        if made_up.contains(id) {
            continue;
        }
        for (part, takes) in made::takes(&board.stack) {
            let most = wants.entry(part).or_default();
            if takes > most.1 {
                *most = (board.name.as_str(), takes);
            }
        }
    }
    let short = book.parts()?.iter().filter_map(|(id, boxed)| {
        let wanted = wants.remove(id).filter(|(_, takes)| boxed.left < *takes);
        (wanted.is_some() || boxed.is_low()).then(|| Short {
            id: *id,
            boxed: boxed.clone(),
            wanted: wanted.map(|(name, takes)| (name.to_owned(), takes)),
        })
    });
    Ok(short.collect())
}
