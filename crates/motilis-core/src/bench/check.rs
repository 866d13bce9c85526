use super::figures::{Attitude, Figures, figures};
use super::layout::{Layout, SAFE};
use super::mend::{self, PLAY, SKIRT_BEAD, bead_run, part_for, set};
use super::{Cut, Stocked, cut};
use crate::rig::{
    AttractorStyle, BeadStyle, BodyShape, ClevisStyle, Dressing, Edit, HookSize, HookStyle, Kind,
    Part, Piece, Setting, Spacing, Stack, SwivelStyle, What,
};
use crate::units::{Celsius, FOOT, INCH, MILE_PER_HOUR, MILLIMETRE, Metres, MetresPerSecond};
use crate::water::Water;

/// How a check came out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Level {
    /// It will not work.
    Fail,
    /// It works, but look at it.
    Warn,
    /// It works.
    Pass,
}

crate::keyed::keyed!(Level { Fail "fail" "Fix", Warn "warn" "Watch", Pass "pass" "Good" });

/// What was checked, with the figures it was judged by.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Rule {
    /// The rig has a hook.
    Hook,
    /// The rig has one blade, or a pair of equals.
    Blade {
        /// How many it has.
        count: u8,
    },
    /// Each blade that needs a clevis hangs on one.
    OnClevis,
    /// Distance of the blade's tip ahead of the front hook's eye; negative past it.
    Tip {
        /// The distance.
        clearance: Metres,
        /// Whose school it is judged by.
        spacing: Spacing,
    },
    /// Beads of 6 mm between blade and bait head cap.
    CapBeads {
        /// How many there are.
        count: u8,
    },
    /// The circle the hook's points sweep against the blade's width.
    Points {
        /// Its diameter.
        span: Metres,
        /// The blade's width.
        width: Metres,
    },
    /// A hole against the wire or line through it.
    Bore {
        /// The hole.
        bore: Metres,
        /// What it must be.
        needs: Metres,
    },
    /// A bead's hole against what it slides against.
    Swallow {
        /// The hole.
        bore: Metres,
        /// What it meets.
        meets: Metres,
    },
    /// A clevis against its blade.
    Clevis {
        /// Number of the blade, or of the one its length comes nearest to.
        blade: f64,
        /// Numbers the clevis carries.
        carries: (f64, f64),
    },
    /// A smooth bead or body directly behind the clevis.
    Bearing,
    /// The last bead before a silicone skirt.
    SkirtBead {
        /// Its diameter; none there is 0.
        diameter: Metres,
    },
    /// Free wire above the clevis.
    ClevisRoom {
        /// How much.
        clearance: Metres,
        /// At least a clevis's width.
        least: Metres,
    },
    /// Nothing above the clevis but a second blade.
    AboveClevis {
        /// Parts there.
        parts: u8,
    },
    /// From hook to hook.
    HookSpacing {
        /// The distance.
        spacing: Metres,
        /// Where practice has it.
        range: (Metres, Metres),
    },
    /// A bumper bead between the hooks of a sliding rig.
    Bumper,
    /// Leader between weight and rig.
    Leader {
        /// Its length.
        lead: Metres,
        /// Where practice has it.
        range: (Metres, Metres),
    },
    /// Leader behind a diver against the rod that lifts the fish to the net.
    Netting {
        /// Its length.
        lead: Metres,
        /// The rod.
        rod: Metres,
    },
    /// Wraps of the snells.
    Snell {
        /// How many.
        wraps: u8,
    },
    /// Wraps and tail of the eyes in the wire.
    WireEye {
        /// Twist wraps.
        wraps: u8,
        /// Tail before it is trimmed.
        tail: Metres,
    },
    /// From attractor to lure.
    AttractorLead {
        /// The distance.
        lead: Metres,
        /// Where practice has it: quick kick or short.
        quick: (Metres, Metres),
        /// An easier kick.
        easy: (Metres, Metres),
    },
    /// Something that takes the twist of a bare wire spinner.
    Twist,
    /// The usable speeds.
    Window {
        /// From.
        from: MetresPerSecond,
        /// To, where something ends it.
        to: Option<MetresPerSecond>,
        /// Where practice runs it.
        practice: Option<(MetresPerSecond, MetresPerSecond)>,
    },
    /// Nose or tail first.
    Sinks(Attitude),
    /// What to cut, and what is left on the spool; `None` for a spool that is not in the box.
    Cut {
        /// The piece.
        whole: Metres,
        /// Where it finishes: the leader to the front hook, or the wire's straight length.
        finished: Metres,
        /// Metres on the spool.
        left: Option<Metres>,
    },
    /// Parts that the box does not hold enough of.
    Stock {
        /// Kinds of part that run out.
        short: u8,
    },
    /// Blades of the box that a quick-change clevis may get.
    QuickChange {
        /// How many of them clear the hook.
        clear: u8,
        /// How many fit the clevis.
        of: u8,
        /// How far the worst tip is from the hook's eye.
        worst: Metres,
    },
}

impl Rule {
    /// Its name in the JSON interface.
    pub fn key(&self) -> &'static str {
        match self {
            Self::Hook => "hook",
            Self::Blade { .. } => "blade",
            Self::OnClevis => "on_clevis",
            Self::Tip { .. } => "tip",
            Self::CapBeads { .. } => "cap_beads",
            Self::Points { .. } => "points",
            Self::Bore { .. } => "bore",
            Self::Swallow { .. } => "swallow",
            Self::Clevis { .. } => "clevis",
            Self::Bearing => "bearing",
            Self::SkirtBead { .. } => "skirt_bead",
            Self::ClevisRoom { .. } => "clevis_room",
            Self::AboveClevis { .. } => "above_clevis",
            Self::HookSpacing { .. } => "hook_spacing",
            Self::Bumper => "bumper",
            Self::Leader { .. } => "leader",
            Self::Netting { .. } => "netting",
            Self::Snell { .. } => "snell",
            Self::WireEye { .. } => "wire_eye",
            Self::AttractorLead { .. } => "attractor_lead",
            Self::Twist => "twist",
            Self::Window { .. } => "window",
            Self::Sinks(_) => "sinks",
            Self::Cut { .. } => "cut",
            Self::Stock { .. } => "stock",
            Self::QuickChange { .. } => "quick_change",
        }
    }

    /// Its figures, SI, by name.
    pub fn figures(&self) -> Vec<(&'static str, f64)> {
        match *self {
            Self::Tip { clearance, .. } => vec![("clearance_m", clearance.0)],
            Self::Blade { count } | Self::CapBeads { count } => vec![("count", f64::from(count))],
            Self::Points { span, width } => vec![
                ("span_m", span.0),
                ("blade_width_m", width.0),
                ("ratio", span / width),
            ],
            Self::Bore { bore, needs } => vec![("bore_m", bore.0), ("needs_m", needs.0)],
            Self::Swallow { bore, meets } => vec![("bore_m", bore.0), ("meets_m", meets.0)],
            Self::Clevis { blade, carries } => vec![
                ("blade_number", blade),
                ("carries_from", carries.0),
                ("carries_to", carries.1),
            ],
            Self::SkirtBead { diameter } => vec![("diameter_m", diameter.0)],
            Self::ClevisRoom { clearance, least } => {
                vec![("clearance_m", clearance.0), ("least_m", least.0)]
            }
            Self::AboveClevis { parts } => vec![("parts", f64::from(parts))],
            Self::HookSpacing { spacing, range } => vec![
                ("spacing_m", spacing.0),
                ("least_m", range.0.0),
                ("most_m", range.1.0),
            ],
            Self::Leader { lead, range } => vec![
                ("lead_m", lead.0),
                ("least_m", range.0.0),
                ("most_m", range.1.0),
            ],
            Self::Netting { lead, rod } => vec![("lead_m", lead.0), ("rod_m", rod.0)],
            Self::Snell { wraps } => vec![("wraps", f64::from(wraps))],
            Self::WireEye { wraps, tail } => {
                vec![("wraps", f64::from(wraps)), ("tail_m", tail.0)]
            }
            Self::AttractorLead { lead, quick, easy } => vec![
                ("lead_m", lead.0),
                ("least_m", quick.0.0),
                ("most_m", easy.1.0),
            ],
            Self::Window { from, to, .. } => {
                let mut figures = vec![("from_mps", from.0)];
                figures.extend(to.map(|to| ("to_mps", to.0)));
                figures
            }
            Self::Cut {
                whole,
                finished,
                left,
            } => {
                let mut figures = vec![("cut_m", whole.0), ("finished_m", finished.0)];
                figures.extend(left.map(|left| ("left_m", left.0)));
                figures
            }
            Self::Stock { short } => vec![("short", f64::from(short))],
            Self::QuickChange { clear, of, worst } => vec![
                ("clear", f64::from(clear)),
                ("of", f64::from(of)),
                ("worst_m", worst.0),
            ],
            Self::Hook
            | Self::OnClevis
            | Self::Bearing
            | Self::Bumper
            | Self::Twist
            | Self::Sinks(_) => Vec::new(),
        }
    }
}

/// One check of a rig.
#[derive(Debug, Clone, PartialEq)]
pub struct Check {
    /// What was checked.
    pub rule: Rule,
    /// How it came out.
    pub level: Level,
    /// The piece it is about.
    pub at: Option<usize>,
    /// Changes that mend it, the best first: each is applied as a whole.
    pub mends: Vec<Vec<Edit>>,
}

/// A stack with everything that was found about it.
#[derive(Debug, Clone, PartialEq)]
pub struct Checked {
    /// Where each part sits.
    pub layout: Layout,
    /// What to cut.
    pub cut: Cut,
    /// What it weighs and does at its favourite speed.
    pub figures: Figures,
    /// Every check, the worst first.
    pub checks: Vec<Check>,
}

/// Water and speed the bench reckons with when nothing else is asked: fresh, 15 °C.
fn bench_water() -> (Water, Celsius) {
    let temperature = Celsius(15.0);
    let water = Water::fresh(temperature).expect("15 °C is in the range of fresh water");
    (water, temperature)
}

/// The speed a kind of rig is judged at on the bench.
fn bench_speed(kind: Kind) -> MetresPerSecond {
    kind.practice()
        .map_or(2.0 * MILE_PER_HOUR, |practice| practice.favourite)
}

/// Judges a stack, with mends out of a box, in a lake of 15 °C.
pub fn checks(stack: &Stack, stock: &[Stocked]) -> Checked {
    let (water, temperature) = bench_water();
    checks_in(stack, stock, &water, temperature)
}

/// Judges a stack, with mends out of a box, in a water.
pub fn checks_in(stack: &Stack, stock: &[Stocked], water: &Water, temperature: Celsius) -> Checked {
    let mut bench = Bench {
        stack,
        stock,
        layout: Layout::new(stack),
        cut: cut(stack),
        figures: figures(stack, water, temperature, bench_speed(stack.kind)),
        checks: Vec::new(),
    };
    bench.has_its_parts();
    bench.clevises();
    bench.tip();
    bench.quick_change();
    bench.points();
    bench.bores();
    bench.swallowed_beads();
    bench.skirt_bead();
    bench.clevis_room();
    bench.above_clevis();
    bench.hook_spacing();
    bench.knots();
    bench.leader();
    bench.attractor();
    bench.window();
    bench.sinks();
    bench.takes_from_box();
    let Bench {
        layout,
        cut,
        figures,
        mut checks,
        ..
    } = bench;
    checks.sort_by_key(|check| check.level);
    Checked {
        layout,
        cut,
        figures,
        checks,
    }
}

struct Bench<'a> {
    stack: &'a Stack,
    stock: &'a [Stocked],
    layout: Layout,
    cut: Cut,
    figures: Figures,
    checks: Vec<Check>,
}

/// Passes or not.
fn pass_or(level: Level, good: bool) -> Level {
    if good { Level::Pass } else { level }
}

impl Bench<'_> {
    fn add(&mut self, rule: Rule, level: Level, at: Option<usize>, mends: Vec<Vec<Edit>>) {
        let mends = if level == Level::Pass {
            Vec::new()
        } else {
            mends
        };
        self.checks.push(Check {
            rule,
            level,
            at,
            mends,
        });
    }

    fn has_its_parts(&mut self) {
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
                let family = super::start::usual_blade(self.stack.kind);
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
        let (what, size) = super::start::usual_hook(self.stack.kind);
        part_for(self.stock, [(what, size)], None, |_| true)
    }

    /// Blades that hang on clevises: each directly behind one of the right number, with a smooth
    /// bearing behind it.
    fn clevises(&mut self) {
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

    fn needs_bore(&self) -> Metres {
        self.stack.mount.diameter() + PLAY
    }

    fn tip(&mut self) {
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
            _ if clearance < -bend => Level::Fail,
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
    fn quick_change(&mut self) {
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

    /// On wire the blade turns beside the hook: its points must stand just outside the blade.
    fn points(&mut self) {
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

    /// Every hole lets the wire or line through; the tightest speaks for all that do.
    fn bores(&mut self) {
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
    fn swallowed_beads(&mut self) {
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

    fn skirt_bead(&mut self) {
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

    /// CP-13: on wire at most 1/4 in free above the clevis, at least one clevis's width.
    fn clevis_room(&mut self) {
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

    fn above_clevis(&mut self) {
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

    fn hook_spacing(&mut self) {
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
    fn knots(&mut self) {
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
    fn leader(&mut self) {
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

    fn attractor(&mut self) {
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
        let bare_wire = self.stack.kind == Kind::TrollingWire
            && self.stack.mount.is_wire()
            && attractor.is_none();
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

    fn window(&mut self) {
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
    fn sinks(&mut self) {
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

    /// What is cut off the spool and taken out of the box for one rig.
    fn takes_from_box(&mut self) {
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
