//! What Today judges: the rigs of the box and what their blades could be swapped for, with marks, rules,
//! schools, weights and the log.

use crate::Error;
use crate::screens::{Context, judging};
use jiff::civil::Date;
use motilis_core::advice::{
    Candidate, Day, Judge, Mark, Ranking, Sheet, Stand, Ways, draw_up, variants,
};
use motilis_core::bench::Stocked;
use motilis_core::book::{MadeState, PartId, RigId, RuleId, SetupId};
use motilis_core::evidence::{Angler, Record};
use motilis_core::line::LineSetup;
use motilis_core::rig::Finish;
use motilis_core::rules::{Limits, LocalRule};
use motilis_store::{Connection, events, made, outings, parts, rigs, rules, setups};
use std::collections::HashMap;
use std::sync::Arc;

/// Which rig of the box a candidate comes from.
#[derive(Clone, Copy)]
pub(in crate::screens) struct Origin {
    /// The rig.
    pub rig: RigId,
    /// Its usual set-up.
    pub setup: SetupId,
    /// The blade of the box that is swapped in.
    pub blade: Option<PartId>,
}

/// Everything a call sheet is drawn up from.
pub(in crate::screens) struct Desk {
    /// The open outing.
    pub context: Context,
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
    /// Finishes of the box's blades, tied or not, each once.
    pub finishes: Vec<Finish>,
    /// Rules of the water.
    pub rules: Vec<(RuleId, LocalRule)>,
    marks: HashMap<RigId, Mark>,
}

impl Desk {
    /// Reads it for the open outing, with the swaps that the box allows.
    pub fn load(connection: &Connection) -> Result<Self, Error> {
        let stock = parts::stocked(connection)?;
        let mut desk = Self::laid_out(connection, &stock)?;
        desk.add_swaps(&stock)?;
        Ok(desk)
    }

    /// Reads it with the rigs of the box as they are.
    pub fn without_swaps(connection: &Connection) -> Result<Self, Error> {
        Self::laid_out(connection, &parts::stocked(connection)?)
    }

    fn laid_out(connection: &Connection, stock: &[Stocked]) -> Result<Self, Error> {
        let context = Context::load(connection)?;
        let fish = context.outing.fish;
        let day = context.outing.day(&context.water)?;
        let date = context.local(context.outing.started).date();
        let rules = rules::of_water(connection, context.outing.water)?;
        let records = events::records(connection, fish)?;
        let (schools, weights) = judging::followed(connection, fish)?;
        let ways = Ways {
            schools,
            weights,
            limits: Limits::on(date, fish, &rules),
            angler: Angler::of(whole(&records)),
        };
        let mut desk = Self {
            marks: outings::marks(connection, context.id)?
                .into_iter()
                .collect(),
            context,
            day,
            date,
            ways,
            candidates: Vec::new(),
            origins: Vec::new(),
            own: 0,
            finishes: Vec::new(),
            rules,
        };
        desk.lay_out(connection, &records, stock)?;
        Ok(desk)
    }

    fn lay_out(
        &mut self,
        connection: &Connection,
        records: &[(RigId, Record)],
        stock: &[Stocked],
    ) -> Result<(), Error> {
        let records: HashMap<RigId, Record> = records.iter().copied().collect();
        let rods: HashMap<SetupId, Arc<LineSetup>> = setups::all(connection)?
            .into_iter()
            .map(|(id, setup)| (id, Arc::new(setup)))
            .collect();
        let mut made_up: HashMap<RigId, u32> = HashMap::new();
        for (_, made) in made::all(connection)? {
            if made.state != MadeState::ReTie {
                *made_up.entry(made.rig).or_default() += 1;
            }
        }
        for (id, owned) in rigs::all(connection)? {
            let setup = match rods.get(&owned.setup) {
                Some(setup) => Arc::clone(setup),
                None => Arc::new(setups::get(connection, owned.setup)?),
            };
            let made = made_up.get(&id).copied().unwrap_or(0);
            self.candidates.push(Candidate {
                name: owned.rig.name.clone(),
                stand: Stand::of(owned.rig.stack(), made, stock),
                rig: owned.rig,
                setup,
                record: records.get(&id).copied().unwrap_or_default(),
            });
            self.origins.push(Origin {
                rig: id,
                setup: owned.setup,
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
            .map(|candidate| candidate.rig.front_blade().1);
        self.finishes = in_trays.chain(tied).collect();
        self.finishes.sort_unstable();
        self.finishes.dedup();
        Ok(())
    }

    fn add_swaps(&mut self, stock: &[Stocked]) -> Result<(), Error> {
        // No blade makes a rig for other fish a rig for this one.
        let kinds = self.day.fish.kinds();
        for place in 0..self.own {
            if !kinds.contains(&self.candidates[place].rig.kind()) {
                continue;
            }
            let origin = self.origins[place];
            for variant in variants(&self.candidates[place], stock)? {
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

    /// What was said of a candidate: a veto holds for a rig with whatever blade, a pin for the rig as it is.
    pub fn mark(&self, index: usize) -> Option<Mark> {
        let origin = self.origins[index];
        match self.marks.get(&origin.rig) {
            Some(Mark::Pin) if origin.blade.is_some() => None,
            mark => mark.copied(),
        }
    }

    /// The judge of the day, with all candidates in order and the sheet.
    pub fn sheet(&self) -> Result<(Judge<'_>, Ranking, Sheet), Error> {
        let judge = Judge::new(&self.day, &self.ways)?;
        let ranking = judge.rank(&self.candidates)?;
        let sheet = draw_up(&judge, &self.candidates, &ranking, |index| self.mark(index))?;
        Ok((judge, ranking, sheet))
    }
}

fn whole(records: &[(RigId, Record)]) -> Record {
    records
        .iter()
        .fold(Record::default(), |sum, (_, record)| Record {
            fish: sum.fish + record.fish,
            rod_hours: sum.rod_hours + record.rod_hours,
        })
}
