//! A spread as the boat book keeps it: rods by the numbers of their rigs and set-ups.

use super::{Holder, Rod, Stance, Towed};
use crate::entry::plain_text;
use crate::error::Error;
use crate::ids::{LureId, RigId, SetupId};
use crate::line::{Changes, LineSetup};
use crate::units::{Kilograms, Metres, MetresPerSecond};
use std::sync::Arc;

/// What a planned rod tows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Tackle {
    /// A rig of the box.
    Rig(RigId),
    /// A plug or spoon with its dive table.
    Lure(LureId),
}

impl Tackle {
    /// The rig, if it is one.
    pub fn rig(self) -> Option<RigId> {
        match self {
            Self::Rig(rig) => Some(rig),
            Self::Lure(_) => None,
        }
    }
}

/// A rod of a spread, by numbers.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PlannedRod {
    /// Its holder.
    pub holder: Holder,
    /// How it points.
    pub stance: Stance,
    /// Its length.
    pub length: Metres,
    /// Distance of its board.
    pub board: Option<Metres>,
    /// Height of its release above a downrigger's ball.
    pub above: Option<Metres>,
    /// What it tows.
    pub tackle: Tackle,
    /// The set-up it started from.
    pub setup: SetupId,
    /// Mass of the weight in use, for set-ups that have one.
    pub weight: Option<Kilograms>,
    /// The lead in use.
    pub lead: Metres,
    /// What is let out.
    pub out: Metres,
    /// Depth wanted.
    pub wanted: Metres,
}

impl PlannedRod {
    /// What this rod has otherwise than its set-up.
    pub fn changes(&self) -> Changes {
        Changes {
            main: None,
            weight: self.weight,
            lead: Some(self.lead),
            above: self.above,
        }
    }

    /// The rod, with its set-up as it is in use and what it tows at hand.
    pub fn rod(&self, in_use: Arc<LineSetup>, towed: Towed) -> Rod {
        Rod {
            holder: self.holder,
            stance: self.stance,
            length: self.length,
            board: self.board,
            setup: in_use,
            towed,
            out: self.out,
            wanted: self.wanted,
        }
    }
}

/// A spread of the boat book.
#[derive(Debug, Clone, PartialEq)]
pub struct PlannedSpread {
    /// Its name.
    pub name: String,
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// Its rods.
    pub rods: Vec<PlannedRod>,
}

impl PlannedSpread {
    /// Whether its name can be.
    ///
    /// # Errors
    /// [`Error::Contradiction`] with the field.
    pub fn check_name(name: &str) -> Result<(), Error> {
        if name.trim().is_empty() {
            return Err(Error::contradiction(
                "name",
                "a spread needs a name; give it one you will know it by",
            ));
        }
        plain_text("name", name, 60)
    }
}

/// A spread with its place among its versions.
#[derive(Debug, Clone, PartialEq)]
pub struct SavedSpread {
    /// The spread.
    pub plan: PlannedSpread,
    /// Which version of it this is.
    pub version: i64,
    /// Whether there is a change to take back.
    pub can_undo: bool,
    /// Whether there is an undone change to make again.
    pub can_redo: bool,
}
