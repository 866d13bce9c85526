//! What the log tells: rates by what was fished and how, two held against each other, and how the season went.

use crate::book::Book;
use crate::error::Error;
use jiff::Timestamp;
use motilis_core::book::{Outing, OutingId, RigId, Tackle, WaterId};
use motilis_core::evidence::{
    Angler, Belief, Compared, Group, Grouping, Key, Pass, Record, Stretch, Traits, grouped, strata,
};
use motilis_core::fish::Fish;
use motilis_core::rig::Rig;
use motilis_core::sky::dawn;
use motilis_store::{logged, lures, outings, rigs, waters};
use std::cell::RefCell;
use std::collections::{BTreeMap, HashMap};
use std::sync::Arc;

/// All that was fished for, cut into pieces that can be grouped.
pub struct Evidence {
    /// The fish it is of; `None` for all.
    pub fish: Option<Fish>,
    /// What the angler catches on the whole.
    pub angler: Angler,
    /// Fish and rod-hours that are known.
    pub whole: Record,
    /// Fish whose hours nobody kept.
    pub unknown: u32,
    /// Outings without a single pass.
    pub without_passes: usize,
    /// Outings looked at.
    pub outings: Vec<(OutingId, Outing)>,
    /// The pieces.
    pub stretches: Vec<Stretch>,
    /// What tackle is called.
    pub names: HashMap<Tackle, String>,
    /// What waters are called.
    pub waters: HashMap<WaterId, String>,
}

/// A rig as it was built for a pass.
type Built = (RigId, Option<i64>);

impl Evidence {
    /// Reads it.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn load(book: &Book<'_>, fish: Option<Fish>, named: &Named<'_>) -> Result<Self, Error> {
        let connection = book.connection();
        let days = logged::outings(connection, fish)?;
        let bodies: HashMap<_, _> = waters::all(connection)?.into_iter().collect();
        let kept: BTreeMap<OutingId, Outing> = outings::all(connection)?.into_iter().collect();
        let built: RefCell<HashMap<Built, Option<Arc<Rig>>>> = RefCell::default();
        let rig_of = |pass: &Pass| -> Option<Arc<Rig>> {
            let key = (pass.tackle.rig()?, pass.ran.version);
            if let Some(known) = built.borrow().get(&key) {
                return known.clone();
            }
            let board = match key.1 {
                Some(version) => rigs::board_at(connection, key.0, version),
                None => rigs::board(connection, key.0),
            };
            let rig = board.ok().and_then(|board| board.rig().ok());
            let rig = rig.map(|owned| Arc::new(owned.rig));
            built.borrow_mut().insert(key, rig.clone());
            rig
        };
        let mut stretches = Vec::new();
        let (mut unknown, mut without_passes) = (0, 0);
        for (id, day) in &days {
            let Some(outing) = kept.get(id) else { continue };
            unknown += day.fish_of_unknown_hours();
            without_passes += usize::from(day.passes.is_empty());
            let place = bodies
                .get(&outing.water)
                .and_then(|water| water.place().ok());
            let dawn = place.and_then(|place| dawn(place, outing.started).ok()?);
            let of = |pass: &Pass| traits(outing, pass, rig_of(pass).as_deref(), dawn, named);
            stretches.extend(day.stretches(*id, of));
        }
        let whole = stretches
            .iter()
            .fold(Record::default(), |sum, one| sum.and(one.record));
        let mut names = HashMap::new();
        for stretch in &stretches {
            if let std::collections::hash_map::Entry::Vacant(place) = names.entry(stretch.tackle) {
                place.insert(match stretch.tackle {
                    Tackle::Rig(rig) => rigs::name(connection, rig)?,
                    Tackle::Lure(lure) => lures::name(connection, lure)?,
                });
            }
        }
        let outings = days
            .keys()
            .filter_map(|id| Some((*id, kept.get(id)?.clone())));
        Ok(Self {
            fish,
            angler: Angler::of(whole),
            whole,
            unknown,
            without_passes,
            outings: outings.collect(),
            stretches,
            names,
            waters: bodies
                .into_iter()
                .map(|(id, water)| (id, water.name))
                .collect(),
        })
    }

    /// Rates by a grouping, or two crossed: those with the most hours first.
    ///
    /// # Errors
    /// [`Error::Core`] for hours that cannot be.
    pub fn rates(
        &self,
        by: Grouping,
        crossed: Option<Grouping>,
    ) -> Result<Vec<(Group, Belief)>, Error> {
        let mut rates = Vec::new();
        for group in grouped(&self.stretches, by, crossed) {
            let belief = self.angler.believes(group.record)?;
            rates.push((group, belief));
        }
        rates.sort_by(|(a, _), (b, _)| {
            let hours = b.record.rod_hours.total_cmp(&a.record.rod_hours);
            hours.then_with(|| (&a.key, &a.other).cmp(&(&b.key, &b.other)))
        });
        Ok(rates)
    }

    /// Two groups held against each other.
    ///
    /// # Errors
    /// [`Error::Core`] for hours that cannot be.
    pub fn compared(&self, by: Grouping, a: &Key, b: &Key) -> Result<Compared, Error> {
        let strata = strata(&self.stretches, by, a, b);
        Ok(Compared::of(self.angler, &strata)?)
    }
}

/// How a rig's blade, finish and bait are called: words are the views'.
pub struct Named<'n> {
    /// The blade: "Colorado 4".
    pub blade: &'n dyn Fn(&Rig) -> Option<String>,
    /// The finish.
    pub finish: &'n dyn Fn(&Rig) -> Option<String>,
    /// The bait.
    pub bait: &'n dyn Fn(&Rig) -> Option<String>,
}

fn traits(
    outing: &Outing,
    pass: &Pass,
    rig: Option<&Rig>,
    dawn: Option<Timestamp>,
    named: &Named<'_>,
) -> Traits {
    let bait = rig.and_then(|rig| (named.bait)(rig));
    Traits {
        blade: rig.and_then(|rig| (named.blade)(rig)),
        finish: rig.and_then(|rig| (named.finish)(rig)),
        bait: if pass.ran.bait.is_empty() {
            bait
        } else {
            Some(pass.ran.bait.clone())
        },
        depth: pass.ran.depth,
        bottom: outing.bottom,
        speed: pass.ran.speed.unwrap_or(outing.speed),
        lead: pass.ran.lead,
        clarity: outing.clarity,
        temperature: outing.temperature,
        water: outing.water,
        dawn,
    }
}
