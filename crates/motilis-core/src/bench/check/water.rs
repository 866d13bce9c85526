//! What it does in the water.

use super::super::figures::Attitude;
use super::super::mend::part_for;
use super::{Bench, Level, Rule, pass_or};
use crate::rig::{BodyShape, Edit, HookStyle, Kind, Piece, What};

impl Bench<'_> {
    pub(super) fn window(&mut self) {
        let Some(running) = self.figures.running else {
            return;
        };
        let window = running.window;
        let practice = self.stack.kind.practice();
        let open = window.to.is_none_or(|to| to > window.from);
        let favourite = practice.is_none_or(|practice| window.holds(practice.favourite));
        let level = match (open, favourite) {
            (false, _) => Level::Fail,
            (true, false) => Level::Warn,
            (true, true) => Level::Pass,
        };
        let rule = Rule::Window {
            from: window.from,
            to: window.to,
            practice: practice.map(|practice| (practice.from, practice.to)),
        };
        // What rolls over too early on wire is held by a rudder, or by a treble of the same size.
        let mut mends = Vec::new();
        let rolls_early =
            practice.is_some_and(|practice| window.to.is_some_and(|to| to < practice.favourite));
        if self.stack.mount.is_wire() && rolls_early {
            let rudder = part_for(self.stock, [(What::Rudder, 60.0)], None, |_| true);
            mends.extend(rudder.map(|piece| vec![Edit::Insert { at: 0, piece }]));
            if let Some(&at) = self.stack.hooks().first() {
                let treble = What::Hook(HookStyle::Treble);
                let size = self.stack.pieces[at].part.size();
                let hook = part_for(self.stock, [(treble, size)], None, |_| true);
                mends.extend(hook.map(|piece| vec![Edit::Replace { at, piece }]));
            }
        }
        let at = self.stack.blades().next().map(|(at, ..)| at);
        self.add(rule, level, at, mends);
    }

    /// Castable inlines sink tail first, or the line falls over the blade.
    pub(super) fn sinks(&mut self) {
        let inline = matches!(
            self.stack.kind,
            Kind::InlineTorpedo | Kind::InlineBell | Kind::TailWeighted | Kind::TrollingWire
        );
        if !inline || self.figures.running.is_none() {
            return;
        }
        let attitude = self.figures.attitude;
        // The weight comes off the nose and goes behind the beads, ahead of skirt and hook.
        let tail_weight = What::Body(BodyShape::TailWeight);
        let pieces = &self.stack.pieces;
        let mends = pieces
            .iter()
            .position(|piece| piece.part.what() == What::Body(BodyShape::Torpedo))
            .and_then(|at| {
                let size = pieces[at].part.size();
                let piece = part_for(self.stock, [(tail_weight, size)], None, |_| true)?;
                let soft =
                    |piece: &Piece| matches!(piece.part.what(), What::Dressing(_) | What::Hook(_));
                let tail = pieces.iter().position(soft).unwrap_or(pieces.len());
                let tail = if tail > at { tail - 1 } else { tail };
                Some(vec![Edit::Remove { at }, Edit::Insert { at: tail, piece }])
            });
        let good = matches!(attitude, Attitude::TailFirst | Attitude::Level);
        self.add(
            Rule::Sinks(attitude),
            pass_or(Level::Warn, good),
            None,
            mends.into_iter().collect(),
        );
    }
}
