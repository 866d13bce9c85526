//! The bench: where every part of a rig sits, what clears what, what to cut, and in which order.
//!
//! All of it is a function of a [`Stack`] and, where stock matters, of what the box
//! holds ([`Stocked`]):
//!
//! - [`Layout`] puts each part at its place along the shaft or leader;
//! - [`cut`] says how much wire or line that takes;
//! - [`figures`] weighs and balances it, by the physics of [`crate::blade`] and [`crate::rig`];
//! - [`checks`] judges it, each check with its figures and, where it can, a mend to apply;
//! - `beads` finds the bead stacks that a box can build for a length;
//! - [`steps`] is the order of work;
//! - [`fits`] tells which parts of the box go on at a place;
//! - [`StarterTray`] and [`StarterRod`] are what a box and a boat begin with;
//! - [`starting`] is a working rig of a kind to start from, [`mended`] makes every mend at once.
//!
//! # The axis
//! `x` runs backwards in metres from the point where the line is tied: the eye of the swivel, or the
//! front of a wire eye. Front hardware lies ahead of it, at negative `x`.

mod baiting;
mod beads;
mod check;
mod cut;
mod figures;
mod layout;
mod mend;
mod order;
mod start;
mod starter;

pub use baiting::{Baiting, baiting};
pub use beads::{Wanted, proposals};
pub use check::{Check, Checked, Level, Rule, checks, checks_in, offered};
pub use cut::{Cut, cut, helix};
pub use figures::{Attitude, Figures, figures};
pub use layout::{Layout, Seat};
pub use order::{Action, Caution, Step, Tool, steps};
pub use start::{mended, starting};
pub use starter::{StarterRod, StarterTray};

use crate::ids::PartId;
use crate::rig::{Part, Piece, Stack, What};

/// Whether a part goes on a rig at a place: its hole lets the wire or line through, and a blade or clevis
/// fits the clevis or blade beside it.
///
/// - `at`: the place in the stack it would stand at; its length for the end.
pub fn fits(stack: &Stack, at: usize, part: &Part) -> bool {
    let needs = stack.mount.diameter() + mend::PLAY;
    let threaded = matches!(
        part.what(),
        What::Bead(_) | What::Body(_) | What::Dressing(_) | What::Clevis(_) | What::Tubing
    ) || part.blade().is_some_and(|_| part.threaded().0 > 0.0);
    if threaded && part.bore() < needs {
        return false;
    }
    let beside = |at: Option<usize>| {
        at.and_then(|at| stack.pieces.get(at))
            .map(|piece| &piece.part)
    };
    let number = |part: &Part| {
        part.blade()
            .map(|blade| blade.family.number_near(blade.length))
    };
    let carried = |clevis: &Part, blade: &Part| match (clevis.carries(), number(blade)) {
        (Some((from, to)), Some(number)) => number >= from && number <= to,
        _ => true,
    };
    match part.what() {
        What::Blade(family) if !family.is_wing() => {
            beside(at.checked_sub(1)).is_none_or(|clevis| carried(clevis, part))
        }
        What::Clevis(_) => beside(Some(at + 1)).is_none_or(|blade| carried(part, blade)),
        _ => true,
    }
}

/// What is left of a part where no count is kept: more than any rig takes.
pub const UNCOUNTED: f64 = 1e9;

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

/// How many are left of what a piece takes.
pub fn left_of(stock: &[Stocked], piece: &Piece) -> f64 {
    let its_own = |stocked: &&Stocked| match piece.stock {
        Some(id) => stocked.id == id,
        None => stocked.part == piece.part,
    };
    stock
        .iter()
        .find(its_own)
        .map_or(0.0, |stocked| stocked.left)
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
