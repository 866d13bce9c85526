use super::candidate::{Candidate, Shortage, Stand, Traits};
use super::day::{Clearness, Day, Lighting, Mood};
use super::school::Schools;
use super::term::{Basis, Scored, Term};
use super::weight::Weights;
use crate::blade::{Running, State, Window};
use crate::error::Error;
use crate::evidence::Angler;
use crate::fish::Fish;
use crate::ids::RuleId;
use crate::light::{self, Eye, Scene, Sighting, Target, Watch};
use crate::line::{Bottom, Line, OutFor};
use crate::rig::{AttractorStyle, Colour, Finish, Kind};
use crate::rules::{Limits, Topic};
use crate::units::{Kilograms, MILE_PER_HOUR, Metres, MetresPerSecond};
use crate::water::Water;
use std::collections::HashMap;

/// Whether a rig is worth setting out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Verdict {
    /// It works.
    Works,
    /// It works, but something needs an eye.
    Watch,
    /// It cannot work as it is.
    Cannot,
}

/// The one thing to say about a rig.
#[derive(Debug, Clone, PartialEq)]
pub enum Reason {
    /// A part runs short: it cannot be built.
    Short(Box<Shortage>),
    /// A rule that the angler typed in speaks against it.
    AgainstRule {
        /// Which.
        rule: RuleId,
        /// What it is about.
        topic: Topic,
    },
    /// The blade hangs below this speed.
    Stalls {
        /// Slowest usable speed.
        needs: MetresPerSecond,
    },
    /// The rig rolls over above this speed.
    RollsOver {
        /// Fastest usable speed.
        above: MetresPerSecond,
        /// Whether it is on wire, where roll-over is line twist.
        twists_line: bool,
    },
    /// It turns, but so near its start that it is not to be trusted.
    NearStall {
        /// Slowest usable speed.
        from: MetresPerSecond,
    },
    /// It turns, but a little more speed rolls it over.
    NearRollOver {
        /// Fastest usable speed.
        to: MetresPerSecond,
    },
    /// The wanted depth lies below the bottom.
    BelowBottom {
        /// Depth of the bottom.
        bottom: Metres,
    },
    /// All the line does not take it down.
    TooDeep {
        /// Depth with all of it out.
        deepest: Metres,
        /// Weight that would, and what to let out with it.
        enough: Option<(Kilograms, Metres)>,
    },
    /// It runs deeper whatever is done.
    TooShallow {
        /// Its least depth.
        least: Metres,
    },
    /// The weight would drag over the bottom at the wanted depth.
    Drags,
    /// The bench found that it will not work as built.
    Unsound {
        /// What it found.
        rule: crate::bench::Rule,
    },
    /// It works; the term that speaks most, for it or against it.
    Practice(Scored),
}

/// The judgement of one rig.
#[derive(Debug, Clone, PartialEq)]
pub struct Call {
    /// Whether it works.
    pub verdict: Verdict,
    /// What the blade does at the speed of the day.
    pub blade: Running,
    /// Between which speeds the rig is worth fishing.
    pub window: Window,
    /// The speed practice would run it at today, inside that window.
    pub best_speed: MetresPerSecond,
    /// What to let out for the wanted depth.
    pub out: OutFor,
    /// How the fish sees it there.
    pub sighting: Sighting,
    /// The one thing to say.
    pub reason: Reason,
    /// Sum of the terms' points times their weights.
    pub score: f64,
    /// Each term, in their order.
    pub terms: Vec<Scored>,
}

impl Call {
    /// A term of it.
    pub fn term(&self, term: Term) -> &Scored {
        &self.terms[term as usize]
    }

    /// What the blade's noticeability is out of 100, the best of the candidates being 100.
    pub fn noticeability(&self) -> f64 {
        match self.term(Term::Seen).basis {
            Basis::Seen { score, best, .. } if best > 0.0 => 100.0 * score / best,
            _ => 0.0,
        }
    }
}

/// How the angler wants to be advised.
#[derive(Debug, Clone, PartialEq)]
pub struct Ways {
    /// The schools followed.
    pub schools: Schools,
    /// What each term counts.
    pub weights: Weights,
    /// What the typed-in rules of the date leave.
    pub limits: Limits,
    /// What the angler catches on the whole.
    pub angler: Angler,
}

impl Ways {
    /// The usual ones for a fish: default schools, usual weights, no rules, no log.
    pub fn usual(fish: Fish) -> Self {
        let schools = Schools::default();
        Self {
            weights: Weights::usual(fish, &schools),
            schools,
            limits: Limits::default(),
            angler: Angler::default(),
        }
    }
}

/// A day made ready to judge rigs.
#[derive(Debug)]
pub struct Judge<'a> {
    day: &'a Day,
    ways: &'a Ways,
    water: Water,
    watch: Watch,
}

/// A candidate with what is cheap to know of it.
#[derive(Debug, Clone)]
pub struct Ranked {
    /// Its place among the candidates.
    pub index: usize,
    /// Sum of the terms.
    pub score: f64,
    /// Whether box, rules or speed rule it out already.
    pub ruled_out: bool,
    prepared: Prepared,
}

impl Ranked {
    /// How the fish sees it.
    pub fn sighting(&self) -> &Sighting {
        &self.prepared.sighting
    }
}

/// Candidates in the order of their scores, ties by name; depth and build are not judged yet.
#[derive(Debug, Clone)]
pub struct Ranking {
    /// The best first.
    pub rows: Vec<Ranked>,
    /// The best score of light among them.
    best_seen: f64,
}

#[derive(Debug, Clone)]
struct Prepared {
    traits: Traits,
    blade: Running,
    window: Window,
    sighting: Sighting,
    obstacle: Option<Reason>,
}

/// Thump an active, a neutral and a shy fish want, as a multiple of a number 4 Colorado's at the same speed;
/// fitted so that practice comes out.
const WANTED_THUMP: (f64, f64, f64) = (1.6, 0.6, 0.25);

impl<'a> Judge<'a> {
    /// A day with its water and light, and the eye of its fish at the wanted depth.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for conditions that cannot be.
    pub fn new(day: &'a Day, ways: &'a Ways) -> Result<Self, Error> {
        day.surroundings()?;
        let view = day.view_at(day.wanted_depth);
        let scene = Scene::new(&day.daylight()?, &day.optics()?, day.wanted_depth.0, view)?;
        Ok(Self {
            day,
            ways,
            water: day.water()?,
            watch: Watch::new(scene, Eye::of(day.fish.sight().viewer)),
        })
    }

    /// The day.
    pub fn day(&self) -> &Day {
        self.day
    }

    /// How the angler wants to be advised.
    pub fn ways(&self) -> &Ways {
        self.ways
    }

    /// The eye that looks, in the water of the day.
    pub fn watch(&self) -> &Watch {
        &self.watch
    }

    /// Orders candidates by what is cheap to know: every term, but not yet depth and build.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a rig whose figures cannot be.
    pub fn rank(&self, candidates: &[Candidate]) -> Result<Ranking, Error> {
        let mut sightings = HashMap::new();
        let prepared = candidates
            .iter()
            .map(|candidate| self.prepare(candidate, &mut sightings))
            .collect::<Result<Vec<_>, _>>()?;
        let best_seen = prepared
            .iter()
            .map(|prepared| prepared.sighting.score())
            .fold(0.0, f64::max);
        let mut rows = prepared
            .into_iter()
            .enumerate()
            .map(|(index, prepared)| {
                let terms = self.terms(&candidates[index], &prepared, best_seen)?;
                Ok(Ranked {
                    index,
                    score: terms.iter().map(Scored::weighted).sum(),
                    ruled_out: prepared.obstacle.is_some(),
                    prepared,
                })
            })
            .collect::<Result<Vec<_>, Error>>()?;
        rows.sort_by(|a, b| {
            b.score
                .total_cmp(&a.score)
                .then_with(|| candidates[a.index].name.cmp(&candidates[b.index].name))
        });
        Ok(Ranking { rows, best_seen })
    }

    /// Judges one of the ranked to the end: depth, bottom and build too.
    ///
    /// # Errors
    /// [`Error`] for conditions, a rig or a set-up whose figures cannot be.
    pub fn settle(
        &self,
        candidates: &[Candidate],
        ranking: &Ranking,
        row: &Ranked,
    ) -> Result<Call, Error> {
        let candidate = &candidates[row.index];
        let prepared = &row.prepared;
        let line = Line::new(&candidate.rig, &candidate.setup, self.day.surroundings()?)?;
        let out = line.out_for(self.day.speed, self.day.wanted_depth)?;
        let terms = self.terms(candidate, prepared, ranking.best_seen)?;
        let (verdict, reason) = self.judge(candidate, prepared, &out, &terms);
        Ok(Call {
            verdict,
            blade: prepared.blade,
            window: prepared.window,
            best_speed: self.best_speed(prepared),
            out,
            sighting: prepared.sighting.clone(),
            reason,
            score: row.score,
            terms: terms.to_vec(),
        })
    }

    /// Judges every candidate to the end; in the order of the candidates.
    ///
    /// # Errors
    /// As [`Self::settle`].
    pub fn all(&self, candidates: &[Candidate]) -> Result<Vec<Call>, Error> {
        let ranking = self.rank(candidates)?;
        let mut calls: Vec<Option<Call>> = vec![None; candidates.len()];
        for row in &ranking.rows {
            calls[row.index] = Some(self.settle(candidates, &ranking, row)?);
        }
        Ok(calls.into_iter().flatten().collect())
    }

    fn prepare(
        &self,
        candidate: &Candidate,
        sightings: &mut HashMap<Look, Sighting>,
    ) -> Result<Prepared, Error> {
        let traits = Traits::of(candidate);
        let shaft = candidate.rig.shaft(&self.water, self.day.temperature)?;
        let blade = shaft.at(self.day.speed, &self.water)?;
        let window = shaft.window(&self.water);
        let look = Look::of(&traits, &blade);
        let sighting = if let Some(seen) = sightings.get(&look) {
            seen.clone()
        } else {
            let seen = look.sighting(&self.watch)?;
            sightings.insert(look, seen.clone());
            seen
        };
        let obstacle = self.obstacle(candidate, &traits, &blade, window);
        Ok(Prepared {
            traits,
            blade,
            window,
            sighting,
            obstacle,
        })
    }

    /// What rules it out whatever the depth.
    fn obstacle(
        &self,
        candidate: &Candidate,
        traits: &Traits,
        blade: &Running,
        window: Window,
    ) -> Option<Reason> {
        if let Stand::Short(short) = &candidate.stand {
            return Some(Reason::Short(short.clone()));
        }
        let limits = &self.ways.limits;
        let forbidden = [
            (limits.closed, true, Topic::Closed),
            (
                limits.hooks.map(|(_, rule)| rule),
                limits.hooks.is_some_and(|(most, _)| traits.hooks > most),
                Topic::Hooks,
            ),
            (limits.no_bait, traits.bait.is_some(), Topic::Bait),
            (limits.no_lead, traits.lead, Topic::Lead),
        ];
        for (rule, breaks, topic) in forbidden {
            if let (Some(rule), true) = (rule, breaks) {
                return Some(Reason::AgainstRule { rule, topic });
            }
        }
        match blade.state {
            State::Stalled => Some(Reason::Stalls { needs: window.from }),
            State::RollingOver => Some(Reason::RollsOver {
                above: window.to.unwrap_or(self.day.speed),
                twists_line: candidate.rig.stack().mount.is_wire(),
            }),
            State::Turning => None,
        }
    }

    fn judge(
        &self,
        candidate: &Candidate,
        prepared: &Prepared,
        out: &OutFor,
        terms: &[Scored],
    ) -> (Verdict, Reason) {
        if let Some(obstacle) = &prepared.obstacle {
            return (Verdict::Cannot, obstacle.clone());
        }
        match out {
            OutFor::BelowBottom { bottom } => {
                return (Verdict::Cannot, Reason::BelowBottom { bottom: *bottom });
            }
            OutFor::TooDeep { deepest, enough } => {
                let reason = Reason::TooDeep {
                    deepest: *deepest,
                    enough: *enough,
                };
                return (Verdict::Cannot, reason);
            }
            OutFor::TooShallow { least } => {
                return (Verdict::Cannot, Reason::TooShallow { least: *least });
            }
            OutFor::Out(run) if matches!(run.bottom, Bottom::Dragging { .. }) => {
                return (Verdict::Watch, Reason::Drags);
            }
            OutFor::Out(_) => {}
        }
        if let Some(rule) = unsound(candidate) {
            return (Verdict::Watch, Reason::Unsound { rule });
        }
        let (window, now) = (prepared.window, self.day.speed);
        if now < window.from {
            return (Verdict::Watch, Reason::NearStall { from: window.from });
        }
        if let Some(to) = window.to.filter(|to| now > *to) {
            return (Verdict::Watch, Reason::NearRollOver { to });
        }
        (Verdict::Works, Reason::Practice(loudest(terms)))
    }

    /// The favourite of practice, slower in cold water and for shy fish, inside the window.
    fn best_speed(&self, prepared: &Prepared) -> MetresPerSecond {
        let practice = prepared.traits.kind.trolled();
        let pace = self.day.pace();
        let reach = if pace < 0.0 {
            practice.favourite - practice.from
        } else {
            practice.to - practice.favourite
        };
        let best = practice.favourite + pace * reach;
        let least = best.0.max(prepared.window.from.0);
        MetresPerSecond(prepared.window.to.map_or(least, |to| least.min(to.0)))
    }

    /// Thump the day asks for.
    fn wanted_thump(&self) -> f64 {
        let day = self.day;
        let (active, neutral, shy) = WANTED_THUMP;
        let mood = match day.mood {
            Mood::Active => active,
            Mood::Neutral => neutral,
            Mood::Shy => shy,
        };
        // A thump grows with the cube of the speed; they want it louder or softer than the others there.
        let speed = (day.speed / (1.2 * MILE_PER_HOUR)).powi(3);
        let fish = match day.fish {
            Fish::LandlockedSockeye | Fish::YellowPerch | Fish::BrookTrout => 0.5,
            _ => 1.0,
        };
        let dirt = if day.clearness() == Clearness::Dirty {
            1.8
        } else {
            1.0
        };
        let dark = match day.lighting() {
            Lighting::Dark | Lighting::Low => 1.2,
            Lighting::Even | Lighting::Bright => 1.0,
        };
        let cold = if day.is_cold() { 0.6 } else { 1.0 };
        mood * speed * fish * dirt * dark * cold
    }

    fn terms(
        &self,
        candidate: &Candidate,
        prepared: &Prepared,
        best_seen: f64,
    ) -> Result<[Scored; Term::ALL.len()], Error> {
        let (day, schools, traits) = (self.day, &self.ways.schools, &prepared.traits);
        let practice = traits.kind.trolled();
        let colour = traits.finish.colour;
        let belief = self.ways.angler.believes(candidate.record)?;
        let bases = [
            Basis::Speed {
                now: day.speed,
                from: practice.from,
                to: practice.to,
                best: self.best_speed(prepared),
            },
            Basis::Kind {
                kind: traits.kind,
                place: place(day.fish.kinds(), traits.kind),
            },
            Basis::Thump {
                index: prepared.blade.thump_index(),
                wanted: self.wanted_thump(),
            },
            Basis::Seen {
                range: prepared.sighting.range,
                score: prepared.sighting.score(),
                best: best_seen,
            },
            Basis::Clarity {
                clearness: day.clearness(),
                colour,
            },
            Basis::Light {
                lighting: day.lighting(),
                finish: traits.finish,
            },
            Basis::Forage {
                forage: day.forage,
                colour,
            },
            Basis::Warmth {
                temperature: day.temperature,
                colour,
            },
            self.size(traits),
            self.bait(traits),
            Basis::Cold {
                span: (day.is_cold() && traits.blade.family.is_wing())
                    .then_some(traits.blade.length),
            },
            self.leader(traits),
            Basis::Hooks {
                treble: is_spinner(traits.kind).then_some(traits.treble),
                school: schools.hooks,
            },
            self.attractor(traits),
            Basis::FlasherBlade {
                family: behind_a_flasher(traits).then_some(traits.blade.family),
                school: schools.flasher_blade,
            },
            Basis::AboveClevis {
                // A fast harness has two by nature.
                blades: if traits.kind == Kind::FastHarness {
                    1
                } else {
                    traits.blades
                },
                school: schools.above_clevis,
            },
            Basis::Weight {
                place: traits.weight(),
                school: schools.weight,
            },
            ready(&candidate.stand),
            Basis::Evidence(belief),
            Basis::Novelty {
                like_the_crowd: day.crowd.map(|kind| kind == traits.kind),
                certainty: belief.certainty,
            },
        ];
        Ok(bases.map(|basis| Scored {
            weight: self.ways.weights.of(basis.term()),
            basis,
        }))
    }

    fn size(&self, traits: &Traits) -> Basis {
        let blade = traits.blade.length;
        Basis::Size {
            length: if traits.trailing > blade {
                traits.trailing
            } else {
                blade
            },
            forage: self.day.forage.length(),
        }
    }

    fn bait(&self, traits: &Traits) -> Basis {
        let fish = self.day.fish;
        Basis::Bait {
            bait: traits.bait,
            place: traits.bait.and_then(|bait| place(fish.baits(), bait)),
            wanted: !fish.is_salmonid() && !traits.is_inline(),
            stripped: self.day.nibblers && traits.bait.is_some() && traits.hooks > 1,
        }
    }

    fn leader(&self, traits: &Traits) -> Basis {
        use super::school::LeaderSchool;
        let day = self.day;
        let shy = day.mood == Mood::Shy || day.clearness() == Clearness::Clear;
        let large = matches!(
            day.fish,
            Fish::Chinook | Fish::LandlockedChinook | Fish::Coho
        );
        let wanted_lb = match (self.ways.schools.leader, large) {
            // What swings behind a flasher needs the stiff leader.
            (_, true) => 30.0,
            (LeaderSchool::Heavy, false) => 25.0,
            (LeaderSchool::Light, false) if shy => 8.0,
            (LeaderSchool::Light, false) => 12.0,
        };
        Basis::Leader {
            test_lb: traits.leader_lb,
            wanted_lb,
            school: self.ways.schools.leader,
        }
    }

    fn attractor(&self, traits: &Traits) -> Basis {
        // A flasher fly is run behind its flasher; others may carry one.
        let has = traits.attractor.is_some() || traits.kind == Kind::FlasherFly;
        Basis::Attractor {
            has: self.day.fish.is_salmonid().then_some(has),
            school: self.ways.schools.attractor,
            mood: self.day.mood,
        }
    }
}

fn place<T: PartialEq>(list: &[T], one: T) -> Option<usize> {
    list.iter().position(|other| *other == one)
}

fn ready(stand: &Stand) -> Basis {
    let (made_up, changes) = match stand {
        Stand::MadeUp(_) => (true, 0),
        Stand::Buildable(changes) => (false, changes.len() as u8),
        Stand::Short(_) => (false, 2),
    };
    Basis::Ready { made_up, changes }
}

fn is_spinner(kind: Kind) -> bool {
    kind.is_on_wire()
}

fn behind_a_flasher(traits: &Traits) -> bool {
    traits.kind == Kind::FlasherFly || traits.attractor == Some(AttractorStyle::RotatingFlasher)
}

/// The term that speaks most. That it is tied for the fish and lies ready goes without saying.
fn loudest(terms: &[Scored]) -> Scored {
    let worth_saying = |scored: &&Scored| {
        !matches!(scored.term(), Term::Kind | Term::Ready) || scored.points() < 0.0
    };
    terms
        .iter()
        .filter(worth_saying)
        .copied()
        .max_by(|a, b| a.weighted().abs().total_cmp(&b.weighted().abs()))
        .expect("there are terms that are neither kind nor ready")
}

/// What the bench says will not work as built: a check that fails, or a blade that reaches the hook.
fn unsound(candidate: &Candidate) -> Option<crate::bench::Rule> {
    use crate::bench::{Level, Rule, checks};
    let found = checks(candidate.rig.stack(), &[]).ok()?.checks;
    found
        .into_iter()
        .find(|check| match check.rule {
            Rule::Tip { clearance, .. } => clearance.0 < -2e-3 && check.level != Level::Pass,
            // A rig that is fished hangs its blade on something, noted or not.
            Rule::OnClevis => false,
            _ => check.level == Level::Fail,
        })
        .map(|check| check.rule)
}

/// What the light model needs of a blade; rigs with the same look are looked at once.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
struct Look {
    finish: Finish,
    back: Option<Finish>,
    /// Area and flashes as bits, so that they can be compared.
    area: u64,
    flashes: u64,
}

impl Look {
    fn of(traits: &Traits, blade: &Running) -> Self {
        let (length, width) = (traits.blade.length.0, traits.blade.width.0);
        let area = f64::from(traits.blades) * Target::turning(length, width);
        Self {
            finish: traits.finish,
            back: traits.back,
            area: area.to_bits(),
            // To half a flash a second: the eye cannot tell more.
            flashes: ((2.0 * blade.turns.0).round() / 2.0).to_bits(),
        }
    }

    fn sighting(&self, watch: &Watch) -> Result<Sighting, Error> {
        let target = Target {
            area: f64::from_bits(self.area),
            flashes: f64::from_bits(self.flashes),
            glow_min: GLOW_MIN,
        };
        watch.sighting(&paint(self.finish, self.back), &target)
    }
}

/// Minutes since the glow paint was charged: practice charges it with a torch every quarter of an hour or so
/// (common practice, no source).
pub const GLOW_MIN: f64 = 10.0;

/// The finish of the light model for a finish of the box, by face and back.
pub fn paint(face: Finish, back: Option<Finish>) -> light::Finish {
    let face = one_side(face);
    back.map_or_else(
        || face.clone(),
        |back| light::Finish::two_sided(&face, &one_side(back)),
    )
}

/// Chartreuse, orange and pink of the trade are fluorescent, and glow paints strontium aluminate (common
/// practice, no source); paint covers the dents of a hammered blade.
fn one_side(finish: Finish) -> light::Finish {
    let name = match (finish.colour, finish.hammered) {
        (Colour::Brass, false) => "brass_polished",
        (Colour::Brass, true) => "brass_hammered",
        (Colour::Copper, false) => "copper_polished",
        (Colour::Copper, true) => "copper_hammered",
        (Colour::Nickel, false) => "nickel_polished",
        (Colour::Nickel, true) => "nickel_hammered",
        (Colour::Chartreuse, _) => "fluoro_chartreuse",
        (Colour::Orange, _) => "fluoro_orange",
        (Colour::Pink, _) => "fluoro_pink",
        (Colour::White, _) => "white",
        (Colour::Purple, _) => "purple",
        (Colour::Red, _) => "red",
        (Colour::Green, _) => "green",
        (Colour::Blue, _) => "blue",
        (Colour::Black, _) => "black",
        (Colour::Glow, _) => "glow_strontium",
    };
    light::Finish::from_name(name).expect("every finish of the box has its row in the light model")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_finish_of_the_box_has_its_light() {
        for &colour in Colour::ALL {
            for finish in [Finish::plain(colour), Finish::hammered(colour)] {
                assert!(!paint(finish, None).name().is_empty());
                let both = paint(finish, Some(Finish::plain(Colour::Black)));
                assert_eq!(both.name(), paint(finish, None).name());
            }
        }
    }

    #[test]
    fn a_term_stands_at_its_place() {
        let day = super::super::day::tests::summer();
        let ways = Ways::usual(day.fish);
        let judge = Judge::new(&day, &ways).unwrap();
        let candidates = [super::super::sheet::tests::harness("a")];
        let call = &judge.all(&candidates).unwrap()[0];
        assert_eq!(call.terms.len(), Term::ALL.len());
        for &term in Term::ALL {
            assert_eq!(call.term(term).term(), term);
        }
    }
}
