//! The bench: where every part of a rig sits, what clears what, what to cut, and in which order.
//!
//! All of it is a function of a [`Stack`](crate::rig::Stack) and, where stock matters, of what the box
//! holds ([`Stocked`]):
//!
//! - [`Layout`] puts each part at its place along the shaft or leader;
//! - [`cut`] says how much wire or line that takes;
//! - [`figures`] weighs and balances it, by the physics of [`crate::blade`] and [`crate::rig`];
//! - [`checks`] judges it, each check with its figures and, where it can, a mend to apply;
//! - [`beads`] finds the bead stacks that a box can build for a length;
//! - [`steps`] is the order of work;
//! - [`starting`] is a working rig of a kind to start from, [`mended`] makes every mend at once.
//!
//! # The axis
//! `x` runs backwards in metres from the point where the line is tied: the eye of the swivel, or the
//! front of a wire eye. Front hardware lies ahead of it, at negative `x`.

mod beads;
mod check;
mod cut;
mod figures;
mod layout;
mod mend;
mod order;
mod start;

pub use beads::{Wanted, proposals};
pub use check::{Check, Checked, Level, Rule, checks};
pub use cut::{Cut, cut, helix};
pub use figures::{Attitude, Figures, figures};
pub use layout::{Layout, Seat};
pub use order::{Action, Caution, Step, Tool, steps};
pub use start::{mended, starting};

use crate::book::PartId;
use crate::rig::{Part, Piece};

/// A part of the box with what is left of it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Stocked {
    /// Its number in the box.
    pub id: PartId,
    /// The part.
    pub part: Part,
    /// Pieces left, or metres of line and wire.
    pub left: f64,
}

impl Stocked {
    /// Whether at least so many are left.
    pub fn has(&self, count: u8) -> bool {
        self.left >= f64::from(count)
    }

    /// So many of it as a piece of a rig.
    pub fn piece(&self, count: u8) -> Piece {
        Piece::many(self.part, count).from_box(self.id)
    }
}
