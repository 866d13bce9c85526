//! What Today judges: the rigs of the box and what their blades could be swapped for, with marks, rules, schools,
//! weights and the log.

use crate::book::{Book, Here};
use crate::error::Error;
use crate::season::Season;
use crate::standing::Cannot;
use crate::ways;
use jiff::civil::Date;
use motilis_core::advice::{
    Candidate, Day, Judge, Mark, Ranking, Response, Sheet, Stand, Ways, draw_up, variants,
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
use motilis_store::{Connection, events, made, outings, parts, readings, rules, runs};
use std::collections::{BTreeMap, HashMap};
use std::sync::Arc;

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
    /// Rigs of the box that cannot run as they lie.
    pub unfit: Vec<Cannot>,
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
        let stock = parts::stocked(book.connection())?;
        let mut desk = Self::laid_out(book, &stock)?;
        desk.add_swaps(&stock);
        Ok(desk)
    }

    /// With the rigs of the box as they are.
    ///
    /// # Errors
    /// As [`Desk::load`].
    pub fn without_swaps(book: &Book<'_>) -> Result<Self, Error> {
        Self::laid_out(book, &parts::stocked(book.connection())?)
    }

    fn laid_out(book: &Book<'_>, stock: &[Stocked]) -> Result<Self, Error> {
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
            unfit: Vec::new(),
            finishes: Vec::new(),
            rules,
            tools: Vec::new(),
            runs: runs::of_water(connection, here.outing.water)?,
            gear: crate::river::gear(connection)?,
            here,
        };
        desk.lay_out(book, &records, stock)?;
        Ok(desk)
    }

    fn lay_out(
        &mut self,
        book: &Book<'_>,
        records: &BTreeMap<Tackle, Record>,
        stock: &[Stocked],
    ) -> Result<(), Error> {
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
        for standing in book.rigs()? {
            let rig = match standing.runs() {
                Ok(rig) => (**rig).clone(),
                Err(cannot) => {
                    self.unfit.push(cannot);
                    continue;
                }
            };
            let made = made_up.get(&standing.id).copied().unwrap_or(0);
            self.candidates.push(Candidate {
                name: standing.name.clone(),
                stand: Stand::of(rig.stack(), made, stock),
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

    fn add_swaps(&mut self, stock: &[Stocked]) {
        // No blade makes a rig for other fish a rig for this one.
        let kinds = self.day.kinds();
        for place in 0..self.own {
            if !kinds.contains(&self.candidates[place].rig.kind()) {
                continue;
            }
            let origin = self.origins[place];
            // A rig whose swaps cannot be computed goes without.
            for variant in variants(&self.candidates[place], stock).unwrap_or_default() {
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
