//! What Today judges: the rigs of the box and what their blades could be swapped for, with marks, rules, schools,
//! weights and the log.

use crate::book::{Book, Here};
use crate::error::Error;
use crate::season::Season;
use crate::standing::{Cannot, StandingRig};
use crate::ways;
use jiff::civil::Date;
use motilis_core::advice::{
    Candidate, Day, Judge, Mark, Ranking, Response, Sheet, Stand, Ways, draw_up, variants,
    worth_swapping,
};
use motilis_core::bench::Stocked;
use motilis_core::book::{
    EventKind, MadeState, PartId, ReadingId, RigId, RuleId, RunId, SetupId, TemperatureReading,
};
use motilis_core::evidence::{Angler, Light, Record};
use motilis_core::line::{Changes, LineSetup};
use motilis_core::rig::Finish;
use motilis_core::river::{Gear, Run};
use motilis_core::rules::{Limits, LocalRule};
use motilis_core::spread::Tackle;
use motilis_store::{Connection, events, made, outings, readings, rules, runs};
use std::collections::hash_map::DefaultHasher;
use std::collections::{BTreeMap, HashMap, HashSet};
use std::hash::{Hash, Hasher};
use std::sync::{Arc, LazyLock, Mutex, PoisonError};

/// A box with more rigs is a large one: every rig is ranked, and only those that come near the sheet are judged to the end.
pub const LARGE: usize = 150;
/// So many of a large box come near; of those so many are tried with other blades, so many blades of it are tried.
const NEAR: usize = 96;
const SWAPPED: usize = 16;
const BLADES: usize = 36;
/// Rigs with most hours in the log are judged, too.
const FISHED: usize = 60;
/// Days, boxes and ways whose contenders are remembered.
const KEPT_DAYS: usize = 16;
/// Rigs that are listed when they are looked for by name.
const FOUND: usize = 40;

type Known = (u64, HashSet<RigId>);
static CONTENDERS: LazyLock<Mutex<Vec<Known>>> = LazyLock::new(Mutex::default);

/// Rigs whose names have all of the words.
fn found(rigs: &[StandingRig], words: &str) -> Vec<RigId> {
    let words = words.to_lowercase();
    let has = |rig: &&StandingRig| {
        let name = rig.name.to_lowercase();
        words.split_whitespace().all(|word| name.contains(word))
    };
    if words.trim().is_empty() {
        return Vec::new();
    }
    rigs.iter()
        .filter(has)
        .take(FOUND)
        .map(|rig| rig.id)
        .collect()
}

/// Rigs with most hours.
fn fished_most(records: &BTreeMap<Tackle, Record>) -> impl Iterator<Item = RigId> {
    let mut all: Vec<(f64, RigId)> = records
        .iter()
        .filter_map(|(tackle, record)| Some((record.rod_hours, tackle.rig()?)))
        .collect();
    all.sort_by(|a, b| b.0.total_cmp(&a.0));
    all.into_iter().take(FISHED).map(|(_, rig)| rig)
}

/// Which rig of the box a candidate comes from.
#[derive(Debug, Clone, Copy)]
pub struct Origin {
    /// The rig.
    pub rig: RigId,
    /// Its usual set-up.
    pub setup: SetupId,
    /// The blade of the box that is swapped in.
    pub blade: Option<PartId>,
}

/// Everything a call sheet is drawn up from.
#[derive(Debug)]
pub struct Desk {
    /// The open outing.
    pub here: Here,
    /// Its conditions.
    pub day: Day,
    /// The civil date there.
    pub date: Date,
    /// How the angler wants to be advised.
    pub ways: Ways,
    /// Rigs of the box, then those with another blade.
    pub candidates: Vec<Candidate>,
    /// Where each comes from.
    pub origins: Vec<Origin>,
    /// How many of them are rigs of the box as they are.
    pub own: usize,
    /// How many rigs the box has; of a large box only contenders are judged.
    pub in_box: usize,
    /// Rigs that are looked for by name, by their places among the candidates; `None` when none are.
    pub sought: Option<Vec<usize>>,
    /// The words that are looked for.
    pub words: String,
    /// Rigs of the box that cannot run as they lie, and of many how many there are.
    pub unfit: Vec<Cannot>,
    /// Their number.
    pub idle: usize,
    /// Finishes of the box's blades, tied or not, each once.
    pub finishes: Vec<Finish>,
    /// Numbers of the line set-ups, in the order of [`Ways::tools`].
    pub tools: Vec<SetupId>,
    /// Temperatures read on the outing, the newest first.
    pub readings: Vec<(ReadingId, TemperatureReading)>,
    /// Rules of the water.
    pub rules: Vec<(RuleId, LocalRule)>,
    /// Runs of the water, and the casting rod.
    pub runs: Vec<(RunId, Run)>,
    /// The casting rod.
    pub gear: Gear,
    marks: HashMap<RigId, Mark>,
}

/// What the log of the outing says of how the fish answer.
fn response(connection: &Connection, here: &Here) -> Result<Response, Error> {
    let logged = events::of_outing(connection, here.id)?;
    let count = |kind| {
        logged
            .iter()
            .filter(|(_, event)| event.kind == kind)
            .count()
    };
    Ok(Response::of(
        count(EventKind::Follow),
        count(EventKind::Strike),
        count(EventKind::Fish),
    ))
}

impl Desk {
    /// For the open outing, with the swaps that the box allows.
    ///
    /// # Errors
    /// [`Error::NoOuting`]; [`Error::Core`] for conditions that cannot be.
    pub fn load(book: &Book<'_>) -> Result<Self, Error> {
        Self::seeking(book, "")
    }

    /// The same, with rigs that are looked for by the words of their names.
    ///
    /// # Errors
    /// As [`Desk::load`].
    pub fn seeking(book: &Book<'_>, words: &str) -> Result<Self, Error> {
        let mut desk = Self::laid_out(book, words)?;
        desk.add_swaps(book.stock()?)?;
        Ok(desk)
    }

    /// With the rigs of the box as they are.
    ///
    /// # Errors
    /// As [`Desk::load`].
    pub fn without_swaps(book: &Book<'_>) -> Result<Self, Error> {
        Self::laid_out(book, "")
    }

    fn laid_out(book: &Book<'_>, words: &str) -> Result<Self, Error> {
        let connection = book.connection();
        let here = book.here()?.clone();
        let fish = here.outing.fish;
        let day = Day {
            response: response(connection, &here)?,
            ..*here.day()?
        };
        let date = here.local(here.outing.started).date();
        let rules = rules::of_water(connection, here.outing.water)?;
        // What the log says of a rig at the depth wanted and in the light there is.
        let season = Season::load(connection, Some(fish))?;
        let light = Some(Light::of(day.overhead.lux()));
        let records = season.records(|one| one.is_like(here.outing.wanted_depth, light));
        let (schools, weights) = ways::followed(connection, fish)?;
        let ways = Ways {
            schools,
            weights,
            limits: Limits::on(date, fish, &rules),
            angler: Angler::of(season.whole()),
            tools: Vec::new(),
        };
        let mut desk = Self {
            marks: outings::marks(connection, here.id)?.into_iter().collect(),
            readings: readings::of_outing(connection, here.id)?,
            day,
            date,
            ways,
            candidates: Vec::new(),
            origins: Vec::new(),
            own: 0,
            in_box: book.rigs()?.len(),
            sought: None,
            words: words.trim().to_owned(),
            unfit: Vec::new(),
            idle: 0,
            finishes: Vec::new(),
            rules,
            tools: Vec::new(),
            runs: runs::of_water(connection, here.outing.water)?,
            gear: crate::river::gear(connection)?,
            here,
        };
        let sought = found(book.rigs()?, words);
        let contenders = if desk.in_box > LARGE {
            let mut contenders = desk.contenders(book)?;
            let marked = desk.marks.keys().copied();
            contenders.extend(
                fished_most(&records)
                    .chain(marked)
                    .chain(sought.iter().copied()),
            );
            Some(contenders)
        } else {
            None
        };
        desk.lay_out(book, &records, contenders.as_ref())?;
        if !words.trim().is_empty() {
            let places = (0..desk.own).filter(|at| sought.contains(&desk.origins[*at].rig));
            desk.sought = Some(places.collect());
        }
        Ok(desk)
    }

    /// Rigs of a large box that come near the sheet today, whatever the log says of them: ranked once for each box, day and way.
    fn contenders(&self, book: &Book<'_>) -> Result<HashSet<RigId>, Error> {
        let mut hasher = DefaultHasher::new();
        let ways = (&self.ways.schools, &self.ways.weights, &self.ways.limits);
        format!("{} {:?} {ways:?}", book.stored()?.stamp, self.day).hash(&mut hasher);
        let key = hasher.finish();
        let kept = |known: &[(u64, HashSet<RigId>)]| {
            let of = known.iter().find(|(of, _)| *of == key);
            of.map(|(_, rigs)| rigs.clone())
        };
        if let Some(known) = kept(&CONTENDERS.lock().unwrap_or_else(PoisonError::into_inner)) {
            return Ok(known);
        }
        let mut all = Self {
            ways: self.ways.clone(),
            day: self.day,
            here: self.here.clone(),
            rules: Vec::new(),
            runs: Vec::new(),
            readings: Vec::new(),
            candidates: Vec::new(),
            origins: Vec::new(),
            unfit: Vec::new(),
            finishes: Vec::new(),
            tools: Vec::new(),
            marks: HashMap::new(),
            sought: None,
            words: String::new(),
            ..*self
        };
        all.lay_out(book, &BTreeMap::new(), None)?;
        let ranking = Judge::new(&all.day, &all.ways)?.rank(&all.candidates);
        let first = ranking
            .rows
            .iter()
            .take(NEAR)
            .map(|row| all.origins[row.index].rig);
        let rigs: HashSet<RigId> = first.collect();
        let mut known = CONTENDERS.lock().unwrap_or_else(PoisonError::into_inner);
        known.truncate(KEPT_DAYS - 1);
        known.insert(0, (key, rigs.clone()));
        Ok(rigs)
    }

    fn lay_out(
        &mut self,
        book: &Book<'_>,
        records: &BTreeMap<Tackle, Record>,
        only: Option<&HashSet<RigId>>,
    ) -> Result<(), Error> {
        let stored = book.stored()?;
        let stock = book.stock()?;
        let mut made_up: HashMap<RigId, u32> = HashMap::new();
        for (_, made) in made::all(book.connection())? {
            if made.state != MadeState::ReTie {
                *made_up.entry(made.rig).or_default() += 1;
            }
        }
        let mut in_use: HashMap<SetupId, Arc<LineSetup>> = HashMap::new();
        for (id, _) in book.setups()? {
            let setup = book.in_use(*id, &Changes::default())?.setup;
            self.tools.push(*id);
            self.ways.tools.push(Arc::clone(&setup));
            in_use.insert(*id, setup);
        }
        // What cannot run is told, whatever else is judged.
        let wanted = |standing: &&StandingRig| {
            only.is_none_or(|only| only.contains(&standing.id) || standing.stands.is_err())
        };
        for standing in book.rigs()?.iter().filter(wanted) {
            let rig = match standing.runs() {
                Ok(rig) => (**rig).clone(),
                Err(cannot) => {
                    self.idle += 1;
                    if self.unfit.len() < FOUND {
                        self.unfit.push(cannot);
                    }
                    continue;
                }
            };
            let made = made_up.get(&standing.id).copied().unwrap_or(0);
            self.candidates.push(Candidate {
                name: standing.name.clone(),
                stand: Stand::of(rig.stack(), made, |piece| stored.left_of(piece)),
                rig,
                setup: match in_use.get(&standing.setup) {
                    Some(setup) => Arc::clone(setup),
                    // One that was thrown away is still known to its rigs.
                    None => book.in_use(standing.setup, &Changes::default())?.setup,
                },
                record: records
                    .get(&Tackle::Rig(standing.id))
                    .copied()
                    .unwrap_or_default(),
            });
            self.origins.push(Origin {
                rig: standing.id,
                setup: standing.setup,
                blade: None,
            });
        }
        self.own = self.candidates.len();
        let in_trays = stock
            .iter()
            .filter(|stocked| stocked.part.blade().is_some() && stocked.left > 0.0)
            .map(|stocked| stocked.part.finish);
        let tied = self
            .candidates
            .iter()
            .map(|candidate| candidate.rig.finish());
        self.finishes = in_trays.chain(tied).collect();
        self.finishes.sort_unstable();
        self.finishes.dedup();
        Ok(())
    }

    fn add_swaps(&mut self, stock: &[Stocked]) -> Result<(), Error> {
        // No blade makes a rig for other fish a rig for this one.
        let kinds = self.day.kinds();
        let mut places: Vec<usize> = (0..self.own).collect();
        let mut stock = stock.to_vec();
        if self.in_box > LARGE {
            let judge = Judge::new(&self.day, &self.ways)?;
            stock = worth_swapping(&judge, &stock, BLADES);
            let ranking = judge.rank(&self.candidates);
            places = ranking
                .rows
                .iter()
                .take(SWAPPED)
                .map(|row| row.index)
                .collect();
        }
        for place in places {
            if !kinds.contains(&self.candidates[place].rig.kind()) {
                continue;
            }
            let origin = self.origins[place];
            // A rig whose swaps cannot be computed goes without.
            for variant in variants(&self.candidates[place], &stock).unwrap_or_default() {
                let blade = variant
                    .rig
                    .stack()
                    .blades()
                    .next()
                    .and_then(|(_, _, piece)| piece.stock);
                self.candidates.push(variant);
                self.origins.push(Origin { blade, ..origin });
            }
        }
        Ok(())
    }

    /// The place of a rig with a blade of the box swapped in.
    pub fn swap(&self, rig: RigId, blade: PartId) -> Option<usize> {
        self.origins
            .iter()
            .position(|origin| origin.rig == rig && origin.blade == Some(blade))
    }

    /// What was said of a candidate: a veto holds for a rig with whatever blade, a pin for the rig as it is.
    pub fn mark(&self, index: usize) -> Option<Mark> {
        let origin = self.origins[index];
        match self.marks.get(&origin.rig) {
            Some(Mark::Pin) if origin.blade.is_some() => None,
            mark => mark.copied(),
        }
    }

    /// The judge of the day, with all candidates in order and the sheet.
    ///
    /// # Errors
    /// [`Error::Core`] for conditions that cannot be.
    pub fn sheet(&self) -> Result<(Judge<'_>, Ranking, Sheet), Error> {
        let judge = Judge::new(&self.day, &self.ways)?;
        let ranking = judge.rank(&self.candidates);
        let sheet = draw_up(&judge, &self.candidates, &ranking, |index| self.mark(index));
        Ok((judge, ranking, sheet))
    }
}
