//! What it takes out of the box.

use super::{Bench, Level, Rule, pass_or};
use crate::units::Metres;

impl Bench<'_> {
    /// What is cut off the spool and taken out of the box for one rig.
    pub(super) fn takes_from_box(&mut self) {
        let left_of = |id| self.stock.iter().find(|stocked| Some(stocked.id) == id);
        let whole = self.cut.whole;
        let left = self
            .stack
            .mount
            .stock
            .map(|id| Metres(left_of(Some(id)).map_or(0.0, |stocked| stocked.left)));
        let level = pass_or(Level::Warn, left.is_none_or(|left| left >= whole));
        let rule = Rule::Cut {
            whole,
            finished: self.cut.straight,
            left,
        };
        let mut short = 0;
        let mut first = None;
        for (at, piece) in self.stack.pieces.iter().enumerate() {
            let taken: f64 = self.stack.pieces[..=at]
                .iter()
                .filter(|other| other.stock == piece.stock)
                .map(|other| f64::from(other.count))
                .sum();
            // Bait is not kept in the box.
            let counted = piece.part.bait().is_none();
            let left = left_of(piece.stock).map_or(0.0, |stocked| stocked.left);
            if counted && (piece.stock.is_none() || left < taken) {
                short += 1;
                first.get_or_insert(at);
            }
        }
        self.add(rule, level, None, Vec::new());
        let level = pass_or(Level::Warn, short == 0);
        self.add(Rule::Stock { short }, level, first, Vec::new());
    }
}
