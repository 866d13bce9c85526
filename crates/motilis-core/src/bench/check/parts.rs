//! Whether the parts are there and belong together.

use super::super::mend::{SKIRT_BEAD, part_for};
use super::super::start;
use super::{Bench, Level, Rule, pass_or};
use crate::rig::{BeadStyle, ClevisStyle, Dressing, Edit, HookSize, Part, Piece, Setting, What};
use crate::units::Metres;

/// How far a skirt may reach past the bend and still count as level with it.
const TRIMMED: Metres = Metres(3e-3);

impl Bench<'_> {
    pub(super) fn has_its_parts(&mut self) {
        if self.stack.hooks().is_empty() {
            let piece = self.hook_for();
            let at = self.stack.pieces.len();
            let mends = piece.map(|piece| vec![Edit::Insert { at, piece }]);
            self.add(Rule::Hook, Level::Fail, None, mends.into_iter().collect());
        }
        let count = self.stack.blades().count() as u8;
        let equals = {
            let mut blades = self.stack.blades().map(|(_, blade, _)| blade);
            blades
                .next()
                .is_none_or(|first| blades.all(|next| next == first))
        };
        if self.stack.kind.has_blade() && !((1..=2).contains(&count) && equals) {
            let mends = if count == 0 {
                let family = start::usual_blade(self.stack.kind);
                part_for(self.stock, [family], None, |_| true)
                    .map(|piece| {
                        let at = self.stack.front_hardware();
                        vec![Edit::Insert { at, piece }]
                    })
                    .into_iter()
                    .collect()
            } else {
                Vec::new()
            };
            self.add(Rule::Blade { count }, Level::Fail, None, mends);
        }
    }

    /// A hook of the kind's usual style, as large as the blade asks for.
    fn hook_for(&self) -> Option<Piece> {
        let (what, size) = start::usual_hook(self.stack.kind);
        part_for(self.stock, [(what, size)], None, |_| true)
    }

    /// Blades that hang on clevises: each directly behind one of the right number, with a smooth
    /// bearing behind it.
    pub(super) fn clevises(&mut self) {
        let pieces = &self.stack.pieces;
        let mut found = Vec::new();
        let mut bearing_fails = None;
        let mut blades = 0;
        for (at, piece) in pieces.iter().enumerate() {
            let What::Blade(family) = piece.part.what() else {
                continue;
            };
            blades += 1;
            let own_hole = piece.part.threaded().0 > 0.0;
            let carrier = at.checked_sub(1).map(|before| &pieces[before].part);
            let number = family.number_near(piece.part.length());
            match carrier.and_then(Part::carries) {
                _ if own_hole => {}
                None => found.push((
                    Rule::OnClevis,
                    Level::Fail,
                    at,
                    self.clevis_mend(at, number, true),
                )),
                Some(carries) => {
                    let fits = number >= carries.0 && number <= carries.1;
                    let rule = Rule::Clevis {
                        blade: number,
                        carries,
                    };
                    let mends = self.clevis_mend(at - 1, number, false);
                    found.push((rule, pass_or(Level::Fail, fits), at - 1, mends));
                }
            }
            let smooth = |next: &Piece| match next.part.what() {
                What::Bead(style) => style == BeadStyle::Round,
                What::Body(_) | What::Dressing(Dressing::FoamFloat) => true,
                _ => false,
            };
            if !pieces.get(at + 1).is_some_and(smooth) {
                bearing_fails.get_or_insert(at + 1);
            }
        }
        for (rule, level, at, mends) in found {
            self.add(rule, level, Some(at), mends);
        }
        if blades > 0 {
            let mends = bearing_fails.and_then(|at| {
                let needs = self.needs_bore();
                let sizes = [4.0, 5.0, 4.76, 6.0].map(|size| (What::Bead(BeadStyle::Round), size));
                let piece = part_for(self.stock, sizes, None, |part| part.bore() >= needs)?;
                Some(vec![Edit::Insert { at, piece }])
            });
            let level = pass_or(Level::Warn, bearing_fails.is_none());
            self.add(
                Rule::Bearing,
                level,
                bearing_fails,
                mends.into_iter().collect(),
            );
        }
    }

    fn clevis_mend(&self, at: usize, number: f64, insert: bool) -> Vec<Vec<Edit>> {
        let needs = self.needs_bore();
        let fits = |part: &Part| {
            part.carries()
                .is_some_and(|(from, to)| number >= from && number <= to)
                && part.bore() >= needs
        };
        let sizes = What::Clevis(ClevisStyle::Stirrup)
            .sizes()
            .into_iter()
            .map(|size| (What::Clevis(ClevisStyle::Stirrup), size));
        let like = (!insert).then(|| &self.stack.pieces[at].part);
        part_for(self.stock, sizes, like, fits)
            .map(|piece| {
                vec![if insert {
                    Edit::Insert { at, piece }
                } else {
                    Edit::Replace { at, piece }
                }]
            })
            .into_iter()
            .collect()
    }

    /// On wire the blade turns beside the hook: its points must stand just outside the blade.
    pub(super) fn points(&mut self) {
        if !self.stack.mount.is_wire() {
            return;
        }
        let (Some((_, blade, _)), Some(at)) = (
            self.stack.blades().next(),
            self.stack.hooks().first().copied(),
        ) else {
            return;
        };
        let part = self.stack.pieces[at].part;
        // A caliper's gap counts.
        let span = 2.0 * part.width();
        let ratio = span / blade.width;
        let good = (1.0..=1.3).contains(&ratio);
        let mends = if good {
            Vec::new()
        } else {
            let fits = |hook: &Part| (1.0..=1.3).contains(&(2.0 * hook.width() / blade.width));
            let sizes = HookSize::all().map(|size| (part.what(), f64::from(size.code())));
            part_for(self.stock, sizes, Some(&part), fits)
                .map(|piece| vec![Edit::Replace { at, piece }])
                .into_iter()
                .collect()
        };
        let rule = Rule::Points {
            span,
            width: blade.width,
        };
        self.add(rule, pass_or(Level::Warn, good), Some(at), mends);
    }

    pub(super) fn above_clevis(&mut self) {
        let from = self.stack.front_hardware();
        let Some(first) = self.stack.blades().next().map(|(at, ..)| at) else {
            return;
        };
        let above: Vec<usize> = (from..first)
            .filter(|at| !matches!(self.stack.pieces[*at].part.what(), What::Clevis(_)))
            .collect();
        let parts = above.iter().map(|at| self.stack.pieces[*at].count).sum();
        let edits = above
            .iter()
            .rev()
            .map(|at| Edit::Remove { at: *at })
            .collect();
        let level = pass_or(Level::Warn, above.is_empty());
        self.add(
            Rule::AboveClevis { parts },
            level,
            above.first().copied(),
            vec![edits],
        );
    }

    /// CP-28 (common practice, no source): a skirt is trimmed level with the bend of the hook it dresses, and a trailing hook
    /// lies wholly behind it; else fish strike short.
    pub(super) fn skirt(&mut self) {
        let mut hooks = self
            .layout
            .seats
            .iter()
            .filter(|seat| self.stack.pieces[seat.piece].part.hook().is_some());
        let (Some(front), trailing) = (hooks.next(), hooks.next()) else {
            return;
        };
        let Some(skirt) = self
            .layout
            .seats
            .iter()
            .find(|seat| self.stack.pieces[seat.piece].part.is_skirt() && seat.from < front.to)
        else {
            return;
        };
        let past = skirt.to - front.to;
        let behind = trailing.map(|hook| hook.from >= skirt.to);
        let good = past <= TRIMMED && behind != Some(false);
        let (at, left) = (skirt.piece, (skirt.to - skirt.from) - past);
        let trims = !good && past.0 > 0.0 && Setting::Skirt.range().holds(left.0);
        let mends = trims.then(|| vec![Edit::Set(Setting::Skirt, left.0)]);
        let level = pass_or(Level::Warn, good);
        let rule = Rule::Skirt { past, behind };
        self.add(rule, level, Some(at), mends.into_iter().collect());
    }

    pub(super) fn skirt_bead(&mut self) {
        let skirt = What::Dressing(Dressing::SiliconeSkirt);
        let Some(at) = self
            .stack
            .pieces
            .iter()
            .position(|piece| piece.part.what() == skirt)
        else {
            return;
        };
        let before = at.checked_sub(1).map(|at| &self.stack.pieces[at]);
        let stops = |part: &Part| matches!(part.what(), What::Bead(_) | What::Body(_));
        let diameter = before
            .filter(|piece| stops(&piece.part))
            .map_or(Metres(0.0), |piece| piece.part.diameter());
        let needs = self.needs_bore();
        let sizes = [6.35, 7.94, 8.0].map(|size| (What::Bead(BeadStyle::Round), size));
        let large = |part: &Part| part.diameter() >= SKIRT_BEAD && part.bore() >= needs;
        let like = before.map(|piece| piece.part);
        let mends = part_for(self.stock, sizes, like.as_ref(), large).map(|piece| {
            // The last one of several small beads makes room for it.
            match before {
                Some(last) if matches!(last.part.what(), What::Bead(_)) => {
                    let mut pieces = Vec::new();
                    if last.count > 1 {
                        pieces.push(Piece {
                            count: last.count - 1,
                            ..*last
                        });
                    }
                    pieces.push(piece);
                    vec![Edit::Splice {
                        from: at - 1,
                        to: at,
                        pieces,
                    }]
                }
                _ => vec![Edit::Insert { at, piece }],
            }
        });
        let level = pass_or(Level::Fail, diameter.0 >= SKIRT_BEAD.0 - 1e-9);
        self.add(
            Rule::SkirtBead { diameter },
            level,
            Some(at),
            mends.into_iter().collect(),
        );
    }
}
