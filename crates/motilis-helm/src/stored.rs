//! The box as it lies in the data file, read once and kept while its stamp stands: rigs and parts of thousands are asked for by every page.

use crate::error::Error;
use crate::standing::StandingRig;
use motilis_core::bench::Stocked;
use motilis_core::book::{Board, BoxPart, PartId, RigId};
use motilis_core::rig::Piece;
use motilis_store::{Connection, parts, rigs, stamps};
use std::collections::HashMap;
use std::sync::{Arc, LazyLock, Mutex, PoisonError};

/// Boxes that are kept: that of the file in use, and that of an act on its way.
const KEPT_BOXES: usize = 2;

/// Rigs and parts.
#[derive(Debug)]
pub(crate) struct StoredBox {
    /// Changes with anything of it.
    pub stamp: i64,
    /// Every rig as it lies on the bench, by name.
    pub boards: Vec<(RigId, Board)>,
    /// The same as they stand.
    pub rigs: Vec<StandingRig>,
    /// Every part as it is kept, in the order of the trays.
    pub parts: Vec<(PartId, BoxPart)>,
    /// The same, as much as rigs want of them.
    pub stock: Vec<Stocked>,
    left: HashMap<PartId, f64>,
}

static KEPT: LazyLock<Mutex<Vec<Arc<StoredBox>>>> = LazyLock::new(Mutex::default);

impl StoredBox {
    /// The box as a connection sees it.
    pub fn load(connection: &Connection) -> Result<Arc<Self>, Error> {
        let stamp = stamps::of_box(connection)?;
        let kept = |boxes: &[Arc<Self>]| boxes.iter().find(|one| one.stamp == stamp).cloned();
        if let Some(known) = kept(&KEPT.lock().unwrap_or_else(PoisonError::into_inner)) {
            return Ok(known);
        }
        let boards = rigs::boards(connection)?;
        let parts = parts::as_kept(connection)?;
        let stock: Vec<Stocked> = parts
            .iter()
            .map(|(id, boxed)| Stocked {
                id: *id,
                part: boxed.part,
                left: boxed.left,
            })
            .collect();
        let read = Arc::new(Self {
            stamp,
            rigs: boards
                .iter()
                .map(|(id, board)| StandingRig::of(*id, board))
                .collect(),
            left: stock.iter().map(|one| (one.id, one.left)).collect(),
            boards,
            parts,
            stock,
        });
        let mut boxes = KEPT.lock().unwrap_or_else(PoisonError::into_inner);
        boxes.truncate(KEPT_BOXES - 1);
        boxes.insert(0, Arc::clone(&read));
        Ok(read)
    }

    /// How many are left of what a piece takes.
    pub fn left_of(&self, piece: &Piece) -> f64 {
        match piece.stock {
            Some(id) => self.left.get(&id).copied().unwrap_or(0.0),
            None => motilis_core::bench::left_of(&self.stock, piece),
        }
    }
}
