use super::call::{Call, Reason, Verdict};
use super::candidate::{Candidate, Stand, Traits};
use super::day::Day;
use super::look::{Look, Paint};
use super::outfit::{Tool, misfit, out_of};
use super::term::{Scored, Term};
use super::weight::Ways;
use crate::blade::{Running, State, Window};
use crate::error::Error;
use crate::light::{Eye, Scene, Shown, Sighting, Target, Watch};
use crate::line::{BOTTOM, Bottom, Line, LineSetup, OutFor};
use crate::rig::{Finish, Kind};
use crate::rules::Topic;
use crate::towline::SPEED;
use crate::units::{Metres, MetresPerSecond};
use crate::water::Water;
use rayon::prelude::*;
use std::collections::{HashMap, HashSet};
use std::sync::Arc;

/// A candidate as far as it stands alone: what others share with it is worked out for all of them.
struct Draft {
    traits: Traits,
    blade: Running,
    thump: f64,
    stirs: Option<Window>,
    window: Window,
    obstacle: Option<Reason>,
    look: Look,
    /// Drag and weight of the rig as steps of their logarithms: rigs that differ by a fiftieth have the same out.
    towed: (i64, i64),
}

/// Set-ups by number; equal ones have the same.
#[derive(Default)]
struct Setups<'a>(Vec<&'a Arc<LineSetup>>);

impl<'a> Setups<'a> {
    fn number(&mut self, setup: &'a Arc<LineSetup>) -> usize {
        let same = |known: &&Arc<LineSetup>| Arc::ptr_eq(known, setup) || **known == *setup;
        self.0.iter().position(same).unwrap_or_else(|| {
            self.0.push(setup);
            self.0.len() - 1
        })
    }
}

/// A day made ready to judge rigs.
#[derive(Debug)]
pub struct Judge<'a> {
    day: &'a Day,
    ways: &'a Ways,
    water: Water,
    /// Eyes that look level, up and down, with the share of the fish that do.
    watches: Vec<(Watch, f64)>,
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
    /// Apart, so that sorting moves little.
    prepared: Box<Prepared>,
}

impl Ranked {
    /// What kind of rig it is.
    pub(super) fn kind(&self) -> Kind {
        self.prepared.traits.kind
    }

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
    /// Candidates whose figures the computation cannot bear, with the reason: they stand in no order.
    pub unfit: Vec<(usize, Error)>,
    /// The best score of light among them.
    best_seen: f64,
}

#[derive(Debug, Clone)]
pub(super) struct Prepared {
    pub traits: Traits,
    pub blade: Running,
    /// Of blade and bait together.
    pub thump: f64,
    /// What takes it down.
    pub tool: Tool,
    /// What would be out for the depth; while candidates are ranked, for rigs nearly as heavy and as hard to tow.
    pub out: Option<Metres>,
    /// The attractor's own speeds.
    pub stirs: Option<Window>,
    pub window: Window,
    pub sighting: Sighting,
    obstacle: Option<Reason>,
}

impl Prepared {
    fn of(draft: Draft, tool: Tool, out: Option<Metres>, sighting: Sighting) -> Self {
        Self {
            traits: draft.traits,
            blade: draft.blade,
            thump: draft.thump,
            tool,
            out,
            stirs: draft.stirs,
            window: draft.window,
            sighting,
            obstacle: draft.obstacle,
        }
    }
}

/// Length and width of a blade of ordinary size, m, and its flashes a second below (designed: to tell finishes apart only).
const ORDINARY: (f64, f64) = (0.03, 0.022);

impl<'a> Judge<'a> {
    /// A day with its water and light, and the eye of its fish at the wanted depth.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for conditions that cannot be.
    pub fn new(day: &'a Day, ways: &'a Ways) -> Result<Self, Error> {
        day.surroundings()?;
        SPEED.check("speed_mps", day.speed.0)?;
        BOTTOM.check("water_depth_m", day.bottom.0)?;
        let (daylight, optics) = (day.daylight()?, day.optics()?);
        let mut views = day.views(day.wanted_depth).0;
        // The view most of them have comes first: it is the one that is pictured.
        views.sort_by(|a, b| b.1.total_cmp(&a.1));
        let watches = views
            .into_iter()
            .filter(|(_, share)| *share > 0.0)
            .map(|(view, share)| {
                let scene = Scene::new(&daylight, &optics, day.wanted_depth.0, view)?;
                Ok((Watch::new(scene, Eye::of(day.fish.sight().viewer)), share))
            })
            .collect::<Result<_, Error>>()?;
        Ok(Self {
            day,
            ways,
            water: day.water()?,
            watches,
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

    /// The speed at which a ranked candidate is at its best today.
    pub fn best_speed_of(&self, row: &Ranked) -> MetresPerSecond {
        self.best_speed(&row.prepared)
    }

    /// The eye of most of the fish, in the water of the day.
    pub fn watch(&self) -> &Watch {
        &self.watches[0].0
    }

    /// How far a turning blade of ordinary size is seen in a finish, m: to tell finishes apart before anything is built.
    pub fn seen_from(&self, (finish, back): (Finish, Option<Finish>)) -> f64 {
        let shown = self
            .watch()
            .show(&super::paint(finish, back), super::GLOW_MIN);
        let target = Target {
            area: Target::turning(ORDINARY.0, ORDINARY.1),
            flashes: 6.0,
            glow_min: super::GLOW_MIN,
        };
        self.watch().ranges(&[shown], &target)[0]
    }

    /// Orders candidates by what is cheap to know: every term, but not yet depth and build.
    ///
    /// One whose figures cannot be computed is named in [`Ranking::unfit`]; the others are ranked as ever.
    pub fn rank(&self, candidates: &[Candidate]) -> Ranking {
        let drafts: Vec<Result<Draft, Error>> = candidates
            .par_iter()
            .map(|candidate| self.draft(candidate))
            .collect();
        let sightings = self.sightings(&drafts);
        let outs = self.outs(candidates, &drafts);
        let mut unfit = Vec::new();
        let mut prepared = Vec::with_capacity(candidates.len());
        for (index, (draft, out)) in drafts.into_iter().zip(outs).enumerate() {
            let ready = draft.and_then(|draft| {
                let sighting = sightings[&draft.look].clone()?;
                let tool = Tool::of(&candidates[index].setup);
                Ok(Box::new(Prepared::of(draft, tool, out, sighting)))
            });
            match ready {
                Ok(ready) => prepared.push((index, ready)),
                Err(error) => unfit.push((index, error)),
            }
        }
        let best_seen = prepared
            .iter()
            .map(|(_, prepared)| prepared.sighting.score())
            .fold(0.0, f64::max);
        let scored: Vec<(usize, Result<Ranked, Error>)> = prepared
            .into_par_iter()
            .map(|(index, prepared)| {
                let terms = self.terms(&candidates[index], &prepared, best_seen);
                let row = terms.map(|terms| Ranked {
                    index,
                    score: terms.iter().map(Scored::weighted).sum(),
                    ruled_out: prepared.obstacle.is_some(),
                    prepared,
                });
                (index, row)
            })
            .collect();
        let mut rows = Vec::with_capacity(scored.len());
        for (index, row) in scored {
            match row {
                Ok(row) => rows.push(row),
                Err(error) => unfit.push((index, error)),
            }
        }
        rows.sort_by(|a, b| {
            b.score
                .total_cmp(&a.score)
                .then_with(|| candidates[a.index].name.cmp(&candidates[b.index].name))
        });
        Ranking {
            rows,
            unfit,
            best_seen,
        }
    }

    /// How each look among the drafts is seen, each once; what a finish shows is worked out once for all its looks.
    fn sightings(&self, drafts: &[Result<Draft, Error>]) -> HashMap<Look, Result<Sighting, Error>> {
        let looks: HashSet<&Look> = drafts.iter().flatten().map(|draft| &draft.look).collect();
        let paints: HashSet<Paint> = looks.iter().map(|look| look.paint()).collect();
        let shows: HashMap<Paint, Vec<Shown>> = paints
            .into_par_iter()
            .map(|paint| (paint, paint.shown_to(&self.watches)))
            .collect();
        looks
            .into_par_iter()
            .map(|look| {
                (
                    look.clone(),
                    look.seen(&self.watches, &shows[&look.paint()]),
                )
            })
            .collect()
    }

    /// What would be out for the depth, computed once for rigs of one set-up that differ by a fiftieth; nothing in a river.
    fn outs(
        &self,
        candidates: &[Candidate],
        drafts: &[Result<Draft, Error>],
    ) -> Vec<Option<Metres>> {
        if self.day.river {
            return vec![None; drafts.len()];
        }
        let (mut setups, mut first) = (Setups::default(), HashMap::new());
        let towed: Vec<Option<(usize, (i64, i64))>> = candidates
            .iter()
            .zip(drafts)
            .enumerate()
            .map(|(index, (candidate, draft))| {
                let towed = (setups.number(&candidate.setup), draft.as_ref().ok()?.towed);
                first.entry(towed).or_insert(index);
                Some(towed)
            })
            .collect();
        let known: HashMap<(usize, (i64, i64)), Option<Metres>> = first
            .into_par_iter()
            .map(|(towed, index)| (towed, self.line_out(&candidates[index])))
            .collect();
        towed
            .into_iter()
            .map(|towed| known.get(&towed?).copied().flatten())
            .collect()
    }

    fn line_out(&self, candidate: &Candidate) -> Option<Metres> {
        let here = self.day.surroundings().ok()?;
        let line = Line::new(&candidate.rig, &candidate.setup, here).ok()?;
        out_of(&line.out_for(self.day.speed, self.day.wanted_depth).ok()?)
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
        self.settle_on(candidate, &candidate.setup, ranking, row)
    }

    /// The same for the first candidates, as many as asked, in the order of their rank.
    pub fn settle_first(
        &self,
        candidates: &[Candidate],
        ranking: &Ranking,
        how_many: usize,
    ) -> Vec<(usize, Result<Call, Error>)> {
        ranking
            .rows
            .par_iter()
            .filter(|row| row.index < how_many)
            .map(|row| (row.index, self.settle(candidates, ranking, row)))
            .collect()
    }

    /// The same on another set-up than its own.
    pub(super) fn settle_on(
        &self,
        candidate: &Candidate,
        setup: &LineSetup,
        ranking: &Ranking,
        row: &Ranked,
    ) -> Result<Call, Error> {
        let out = if self.day.river {
            None
        } else {
            let line = Line::new(&candidate.rig, setup, self.day.surroundings()?)?;
            Some(line.out_for(self.day.speed, self.day.wanted_depth)?)
        };
        let prepared = &Prepared {
            tool: Tool::of(setup),
            out: out.as_ref().and_then(out_of),
            ..(*row.prepared).clone()
        };
        let terms = self.terms(candidate, prepared, ranking.best_seen)?;
        let (verdict, reason) = self.judge(candidate, prepared, out.as_ref(), &terms);
        Ok(Call {
            verdict,
            blade: prepared.blade,
            thump: prepared.thump,
            window: prepared.window,
            best_speed: self.best_speed(prepared),
            out,
            sighting: prepared.sighting.clone(),
            reason,
            score: terms.iter().map(Scored::weighted).sum(),
            terms: terms.to_vec(),
        })
    }

    /// Judges every candidate to the end; in the order of the candidates.
    ///
    /// # Errors
    /// As [`Self::settle`]; and the first of those whose figures cannot be computed.
    pub fn all(&self, candidates: &[Candidate]) -> Result<Vec<Call>, Error> {
        let ranking = self.rank(candidates);
        if let Some((_, error)) = ranking.unfit.first() {
            return Err(error.clone());
        }
        let mut calls: Vec<Option<Call>> = vec![None; candidates.len()];
        for row in &ranking.rows {
            calls[row.index] = Some(self.settle(candidates, &ranking, row)?);
        }
        Ok(calls.into_iter().flatten().collect())
    }

    fn draft(&self, candidate: &Candidate) -> Result<Draft, Error> {
        let traits = Traits::of(candidate);
        let rig = &candidate.rig;
        let shaft = if self.day.river {
            rig.cast_shaft(&self.water, self.day.temperature)?
        } else {
            rig.shaft(&self.water, self.day.temperature)?
        };
        let (blade, window) = match &shaft {
            Some(shaft) => (
                shaft.at(self.day.speed, &self.water)?,
                shaft.window(&self.water),
            ),
            None => (Running::bare(self.day.speed)?, Window::ANY),
        };
        let attractor = rig.attraction(self.day.speed, &self.water);
        let spun = rig.bait_spin(self.day.speed, &self.water);
        let load = rig.load(&blade, &self.water);
        let step = |figure: f64| (50.0 * figure.max(1e-6).ln()).round() as i64;
        Ok(Draft {
            obstacle: self
                .obstacle(candidate, &traits, &blade, window)
                .or_else(|| self.trips(candidate, load.drag_area)),
            look: Look::of(&traits, &blade, spun.as_ref()),
            thump: rig.thump_index(&blade, &self.water),
            stirs: attractor.map(|attractor| attractor.window),
            towed: (step(load.drag_area.0), step(1.0 + load.submerged_weight.0)),
            traits,
            blade,
            window,
        })
    }

    /// A diver whose release lets go under the rig's own pull.
    fn trips(
        &self,
        candidate: &Candidate,
        drag_area: crate::units::SquareMetres,
    ) -> Option<Reason> {
        let pull = crate::units::Newtons(self.water.dynamic_pressure(self.day.speed) * drag_area.0);
        let release = candidate.setup.weight?.release(pull)?;
        release.trips().then_some(Reason::Trips(release))
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
        if self.day.river && !traits.kind.is_cast() {
            return Some(Reason::NotCast);
        }
        let limits = &self.ways.limits;
        let forbidden = [
            (limits.closed, true, Topic::Closed),
            (
                limits.hooks.map(|(_, rule)| rule),
                limits.hooks.is_some_and(|(most, _)| traits.hooks > most),
                Topic::Hooks,
            ),
            (
                limits.points.map(|(_, rule)| rule),
                limits.points.is_some_and(|(most, _)| traits.points > most),
                Topic::Points,
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
            State::Turning | State::Swaying | State::Bare => None,
        }
    }

    fn judge(
        &self,
        candidate: &Candidate,
        prepared: &Prepared,
        out: Option<&OutFor>,
        terms: &[Scored],
    ) -> (Verdict, Reason) {
        if let Some(obstacle) = &prepared.obstacle {
            return (Verdict::Cannot, obstacle.clone());
        }
        if let Some(found) = out.and_then(|out| self.of_depth(prepared.tool, out)) {
            return found;
        }
        if let Some(rule) = unsound(candidate) {
            return (Verdict::Watch, Reason::Unsound { rule });
        }
        let (window, now) = (prepared.window, self.day.speed);
        if let Some(stirs) = prepared.stirs.filter(|stirs| !stirs.holds(now)) {
            let to = stirs.to.unwrap_or(now);
            return (
                Verdict::Watch,
                Reason::AttractorIdle {
                    from: stirs.from,
                    to,
                },
            );
        }
        if now < window.from {
            return (Verdict::Watch, Reason::NearStall { from: window.from });
        }
        if let Some(to) = window.to.filter(|to| now > *to) {
            return (Verdict::Watch, Reason::NearRollOver { to });
        }
        (Verdict::Works, Reason::Practice(loudest(terms)))
    }
}

impl Judge<'_> {
    /// What is wrong with what would be let out.
    fn of_depth(&self, tool: Tool, out: &OutFor) -> Option<(Verdict, Reason)> {
        match out {
            OutFor::BelowBottom { bottom } => {
                Some((Verdict::Cannot, Reason::BelowBottom { bottom: *bottom }))
            }
            OutFor::TooDeep { deepest, enough } => {
                let (deepest, enough) = (*deepest, *enough);
                Some((Verdict::Cannot, Reason::TooDeep { deepest, enough }))
            }
            OutFor::TooShallow { least } => {
                Some((Verdict::Cannot, Reason::TooShallow { least: *least }))
            }
            OutFor::Out(run) if matches!(run.bottom, Bottom::Dragging { .. }) => {
                Some((Verdict::Watch, Reason::Drags))
            }
            OutFor::Out(run) => {
                let misfit = misfit(tool, run.out, self.day.wanted_depth)?;
                Some((Verdict::Watch, misfit))
            }
        }
    }
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
    let found = checks(candidate.rig.stack(), &[]).checks;
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

#[cfg(test)]
mod tests {
    use super::*;

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
