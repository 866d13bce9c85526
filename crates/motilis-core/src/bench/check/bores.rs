//! Holes against what runs through them and what they slide against.

use super::super::mend::part_for;
use super::{Bench, Check, Level, Rule};
use crate::rig::{BeadStyle, Edit, Part, Piece, What};
use crate::units::Metres;

impl Bench<'_> {
    /// Every hole lets the wire or line through; the tightest speaks for all that do.
    pub(super) fn bores(&mut self) {
        let needs = self.needs_bore();
        let holed = |part: &Part| {
            matches!(
                part.what(),
                What::Bead(_) | What::Body(_) | What::Dressing(_) | What::Clevis(_) | What::Tubing
            ) || (part.blade().is_some() && part.threaded().0 > 0.0)
        };
        let mut tightest: Option<(Metres, usize)> = None;
        for (at, piece) in self.stack.pieces.iter().enumerate() {
            let part = &piece.part;
            if !holed(part) {
                continue;
            }
            let bore = part.bore();
            if bore < needs {
                let candidates = part
                    .what()
                    .sizes()
                    .into_iter()
                    .map(|size| (part.what(), size));
                let mut sizes: Vec<_> = candidates.collect();
                // The nearest size that lets it through.
                sizes.sort_by(|a, b| {
                    (a.1 - part.size())
                        .abs()
                        .total_cmp(&(b.1 - part.size()).abs())
                });
                let mends = part_for(self.stock, sizes, Some(part), |other| other.bore() >= needs)
                    .map(|other| {
                        let piece = Piece {
                            count: piece.count,
                            bend: piece.bend,
                            ..other
                        };
                        vec![Edit::Replace { at, piece }]
                    });
                self.checks.push(Check {
                    rule: Rule::Bore { bore, needs },
                    level: Level::Fail,
                    at: Some(at),
                    mends: mends.into_iter().collect(),
                });
            } else if tightest.is_none_or(|(least, _)| bore < least) {
                tightest = Some((bore, at));
            }
        }
        if let Some((bore, at)) = tightest {
            self.add(
                Rule::Bore { bore, needs },
                Level::Pass,
                Some(at),
                Vec::new(),
            );
        }
    }

    /// A bead must not slide over the eye, knot or bead behind it.
    pub(super) fn swallowed_beads(&mut self) {
        let mut tightest: Option<(Rule, f64, usize)> = None;
        for at in 0..self.stack.pieces.len() {
            let part = self.stack.pieces[at].part;
            if !matches!(part.what(), What::Bead(_)) {
                continue;
            }
            let Some(next) = self.stack.pieces.get(at + 1) else {
                continue;
            };
            let meets = match next.part.what() {
                What::Bead(_) | What::Body(_) | What::Hook(_) => next.part.diameter(),
                _ => continue,
            };
            let bore = part.bore();
            let rule = Rule::Swallow { bore, meets };
            if bore >= meets {
                let sizes = [4.0, 5.0, 3.97].map(|size| (What::Bead(BeadStyle::Round), size));
                let needs = self.needs_bore();
                let stops = |stop: &Part| {
                    stop.bore() >= needs && stop.bore() < meets && stop.diameter() > bore
                };
                let mends = part_for(self.stock, sizes, None, stops)
                    .map(|piece| vec![Edit::Insert { at: at + 1, piece }]);
                self.add(rule, Level::Fail, Some(at), mends.into_iter().collect());
            } else {
                let ratio = bore / meets;
                if tightest.is_none_or(|(_, most, _)| ratio > most) {
                    tightest = Some((rule, ratio, at));
                }
            }
        }
        if let Some((rule, _, at)) = tightest {
            self.add(rule, Level::Pass, Some(at), Vec::new());
        }
    }
}
