//! What is tied: hooks, knots, leaders, attractors.

use super::super::mend::{part_for, set};
use super::{Bench, Level, Rule, pass_or};
use crate::rig::{AttractorStyle, BeadStyle, Edit, Kind, Piece, Setting, SwivelStyle, What};
use crate::units::{FOOT, INCH, MILLIMETRE, Metres};

impl Bench<'_> {
    pub(super) fn hook_spacing(&mut self) {
        let hooks = self.stack.hooks();
        let [front, trailing, ..] = hooks.as_slice() else {
            return;
        };
        let spacing = self.stack.build.hook_spacing;
        let range = hook_range(self.stack.kind);
        if let Some(range) = range {
            let good = spacing >= range.0 && spacing <= range.1;
            let middle = 0.5 * (range.0 + range.1);
            let rule = Rule::HookSpacing { spacing, range };
            let mends = vec![set(Setting::HookSpacing, middle)];
            self.add(rule, pass_or(Level::Warn, good), Some(*trailing), mends);
        }
        if self.stack.kind == Kind::BaitSpinner {
            let between = &self.stack.pieces[*front..*trailing];
            let good = between
                .iter()
                .any(|piece| matches!(piece.part.what(), What::Bead(_)));
            let needs = self.needs_bore();
            let sizes = [4.0, 5.0].map(|size| (What::Bead(BeadStyle::Round), size));
            let mends = part_for(self.stock, sizes, None, |part| part.bore() >= needs)
                .map(|piece| self.bumper(*front, piece));
            let level = pass_or(Level::Warn, good);
            self.add(
                Rule::Bumper,
                level,
                Some(*trailing),
                mends.into_iter().collect(),
            );
        }
    }

    /// A bead between the hooks; a pair of equal hooks comes apart for it.
    fn bumper(&self, front: usize, bead: Piece) -> Vec<Edit> {
        let hook = self.stack.pieces[front];
        if hook.count == 1 {
            return vec![Edit::Insert {
                at: front + 1,
                piece: bead,
            }];
        }
        let rest = Piece {
            count: hook.count - 1,
            ..hook
        };
        vec![Edit::Splice {
            from: front,
            to: front + 1,
            pieces: vec![Piece { count: 1, ..hook }, bead, rest],
        }]
    }

    /// CP-12 and CP-13 (common practice, no source): 8–10 snell wraps, a wrap more or less works; three
    /// twist wraps and half an inch of tail at each eye.
    pub(super) fn knots(&mut self) {
        let build = &self.stack.build;
        let (wraps, snell_wraps, tail) = (build.wraps, build.snell_wraps, build.tail);
        if self.stack.mount.is_wire() {
            let good = wraps >= 3 && tail.0 >= 10.0 * MILLIMETRE.0;
            let mend = vec![
                Edit::Set(Setting::Wraps, 3.0),
                Edit::Set(Setting::Tail, (0.5 * INCH).0),
            ];
            let rule = Rule::WireEye { wraps, tail };
            self.add(rule, pass_or(Level::Warn, good), None, vec![mend]);
        } else if !self.stack.hooks().is_empty() {
            let good = (7..=11).contains(&snell_wraps);
            let mend = vec![Edit::Set(Setting::SnellWraps, 8.0)];
            let rule = Rule::Snell { wraps: snell_wraps };
            self.add(rule, pass_or(Level::Warn, good), None, vec![mend]);
        }
    }

    /// CP-10, CP-12 and CP-16 (common practice, no source): 3 to 10 ft behind a bouncer, about 5 ft the
    /// standard; behind a diver no longer than a 7 ft rod.
    pub(super) fn leader(&mut self) {
        let lead = self.stack.build.finished;
        let standard = vec![set(Setting::Finished, 5.0 * FOOT)];
        match self.stack.kind {
            Kind::CrawlerHarness | Kind::FastHarness | Kind::WingWorm => {
                let range = (3.0 * FOOT, 10.0 * FOOT);
                let good = lead.0 >= range.0.0 - 1e-9 && lead.0 <= range.1.0 + 1e-9;
                self.add(
                    Rule::Leader { lead, range },
                    pass_or(Level::Warn, good),
                    None,
                    standard,
                );
            }
            Kind::LeaderSquid => {
                let rod = 7.0 * FOOT;
                let good = lead <= rod;
                self.add(
                    Rule::Netting { lead, rod },
                    pass_or(Level::Warn, good),
                    None,
                    standard,
                );
            }
            _ => {}
        }
    }

    pub(super) fn attractor(&mut self) {
        let attractor = self
            .stack
            .pieces
            .iter()
            .enumerate()
            .find_map(|(at, piece)| match piece.part.what() {
                What::Attractor(style) => Some((at, style)),
                _ => None,
            });
        if let Some((at, style)) = attractor {
            let inches = |from: f64, to: f64| (from * INCH, to * INCH);
            // CP-18 (common practice, no source).
            let (quick, easy) = match style {
                AttractorStyle::RotatingFlasher => (inches(22.0, 24.0), inches(32.0, 36.0)),
                _ => (inches(26.0, 34.0), inches(26.0, 34.0)),
            };
            let lead = self.stack.build.finished;
            let within =
                |(from, to): (Metres, Metres)| lead.0 >= from.0 - 1e-9 && lead.0 <= to.0 + 1e-9;
            let good = within(quick) || within(easy);
            let rule = Rule::AttractorLead { lead, quick, easy };
            let mends = [quick, easy].map(|(from, to)| set(Setting::Finished, 0.5 * (from + to)));
            let mends = if quick == easy {
                mends[..1].to_vec()
            } else {
                mends.to_vec()
            };
            self.add(rule, pass_or(Level::Warn, good), Some(at), mends);
        }
        self.twist(attractor.is_some());
    }

    /// A bare wire spinner twists the line unless something takes the twist.
    fn twist(&mut self, behind_attractor: bool) {
        let bare_wire = self.stack.kind == Kind::TrollingWire
            && self.stack.mount.is_wire()
            && !behind_attractor;
        if bare_wire {
            let takes = |piece: &Piece| {
                matches!(
                    piece.part.what(),
                    What::Rudder | What::Swivel(SwivelStyle::BallBearing)
                )
            };
            let good = self.stack.pieces.iter().any(takes);
            let mends = [
                (What::Swivel(SwivelStyle::BallBearing), 14.0),
                (What::Rudder, 60.0),
            ]
            .into_iter()
            .filter_map(|wanted| part_for(self.stock, [wanted], None, |_| true))
            .map(|piece| vec![Edit::Insert { at: 0, piece }])
            .collect();
            self.add(Rule::Twist, pass_or(Level::Warn, good), None, mends);
        }
    }
}

/// Where practice has the trailing hook (CP-12 and the bench's rules; common practice, no source).
fn hook_range(kind: Kind) -> Option<(Metres, Metres)> {
    let millimetres = |from: f64, to: f64| Some((from * MILLIMETRE, to * MILLIMETRE));
    match kind {
        Kind::CrawlerHarness | Kind::FastHarness => millimetres(75.0, 102.0),
        Kind::FlasherFly | Kind::LeaderSquid => millimetres(32.0, 45.0),
        Kind::BaitSpinner => millimetres(50.0, 120.0),
        _ => None,
    }
}
