//! Where the blade hangs against what is behind and above it.

use super::super::layout::{Layout, SAFE};
use super::super::mend::{self, bead_run, set};
use super::{Bench, Level, Rule, pass_or};
use crate::rig::{ClevisStyle, Edit, Piece, Setting, Spacing, What};
use crate::units::{INCH, MILLIMETRE, Metres};

/// A tip that reaches so far behind the hook's eye hangs in the bend however it turns (common practice, no source).
const INTO_HOOK: Metres = Metres(8.0 * MILLIMETRE.0);

impl Bench<'_> {
    pub(super) fn tip(&mut self) {
        let Some(seat) = self.layout.rear_blade(self.stack).copied() else {
            return;
        };
        if self.stack.build.spacing == Spacing::Cap {
            let Some(count) = self.cap_beads() else {
                return;
            };
            let mends = self.bead_mends();
            let level = pass_or(Level::Fail, (5..=6).contains(&count));
            self.add(Rule::CapBeads { count }, level, Some(seat.piece), mends);
            return;
        }
        let (Some(clearance), Some(hook)) = (
            self.layout.tip_clearance(self.stack),
            self.layout.front_hook(self.stack),
        ) else {
            return;
        };
        let bend = hook.to - hook.from;
        let spacing = self.stack.build.spacing;
        let level = match spacing {
            _ if clearance < -Metres(bend.0.min(INTO_HOOK.0)) => Level::Fail,
            Spacing::Level => pass_or(Level::Warn, clearance.0.abs() <= SAFE.0 + 1e-9),
            Spacing::Clear | Spacing::Cap => pass_or(Level::Warn, clearance.0 >= SAFE.0 - 1e-9),
        };
        let mut mends = if level == Level::Pass {
            Vec::new()
        } else {
            self.bead_mends()
        };
        if mends.is_empty() && level != Level::Pass {
            mends.extend(mend::smaller_blade(self.stack, self.stock).map(|edit| vec![edit]));
        }
        self.add(
            Rule::Tip { clearance, spacing },
            level,
            Some(seat.piece),
            mends,
        );
    }

    /// The solver's bead stacks, each as one mend.
    fn bead_mends(&self) -> Vec<Vec<Edit>> {
        mend::bead_edits(self.stack, self.stock)
            .into_iter()
            .map(|edit| vec![edit])
            .collect()
    }

    /// Body beads between blade and cap; a bearing bead is none.
    fn cap_beads(&self) -> Option<u8> {
        self.layout.bead_run_ahead_of_cap(self.stack)?;
        let (from, to) = bead_run(self.stack)?;
        let six = |piece: &&Piece| piece.part.diameter() >= 5.5 * MILLIMETRE;
        Some(
            self.stack.pieces[from..to]
                .iter()
                .filter(six)
                .map(|piece| piece.count)
                .sum(),
        )
    }

    /// A quick-change clevis: every blade of the box that it carries, tried in the blade's place.
    pub(super) fn quick_change(&mut self) {
        let quick = What::Clevis(ClevisStyle::QuickChange);
        let Some(at) = self
            .stack
            .pieces
            .iter()
            .position(|piece| piece.part.what() == quick)
        else {
            return;
        };
        let Some(carries) = self.stack.pieces[at].part.carries() else {
            return;
        };
        let blade = at + 1;
        let is_blade = |piece: &Piece| piece.part.blade().is_some();
        if !self.stack.pieces.get(blade).is_some_and(is_blade) {
            return;
        }
        let (mut clear, mut of, mut worst) = (0_u8, 0_u8, Metres(f64::INFINITY));
        for stocked in self.stock.iter().filter(|stocked| stocked.has(1)) {
            let What::Blade(family) = stocked.part.what() else {
                continue;
            };
            let number = family.number_near(stocked.part.length());
            if family.is_wing() || number < carries.0 || number > carries.1 {
                continue;
            }
            let piece = stocked.piece(1);
            let Ok(tried) = self.stack.edited(&Edit::Replace { at: blade, piece }) else {
                continue;
            };
            let Some(clearance) = Layout::new(&tried).tip_clearance(&tried) else {
                continue;
            };
            of = of.saturating_add(1);
            clear = clear.saturating_add(u8::from(clearance >= SAFE));
            worst = Metres(worst.0.min(clearance.0));
        }
        if of > 0 {
            let level = pass_or(Level::Warn, clear == of);
            self.add(
                Rule::QuickChange { clear, of, worst },
                level,
                Some(at),
                Vec::new(),
            );
        }
    }

    /// CP-13: on wire at most 1/4 in free above the clevis, at least one clevis's width.
    pub(super) fn clevis_room(&mut self) {
        if !self.stack.mount.is_wire() {
            return;
        }
        let Some((at, clevis)) = self
            .stack
            .pieces
            .iter()
            .enumerate()
            .find(|(_, piece)| matches!(piece.part.what(), What::Clevis(_)))
        else {
            return;
        };
        let (least, most) = (clevis.part.length(), 0.25 * INCH);
        let clearance = self.stack.build.clearance;
        let good = clearance >= least && clearance.0 <= most.0 + 1e-9;
        let mends = vec![set(Setting::Clearance, 0.5 * (least + most))];
        let rule = Rule::ClevisRoom { clearance, least };
        self.add(rule, pass_or(Level::Warn, good), Some(at), mends);
    }
}
