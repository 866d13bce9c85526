//! What the log tells: rates by what was fished and how, two held against each other, and how the season went.

use crate::book::Book;
use crate::error::Error;
use crate::names::Names;
use crate::season::Season;
use motilis_core::book::{Tackle, WaterId};
use motilis_core::evidence::{
    Angler, Belief, Compared, Group, Grouping, Key, Named, Record, grouped, strata,
};
use motilis_core::fish::Fish;
use motilis_store::waters;
use std::collections::{BTreeMap, BTreeSet, HashMap};

/// All that was fished for, cut into pieces that can be grouped.
pub struct Evidence<'n> {
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
    /// What each outing tells.
    pub season: Season,
    /// What waters are called.
    pub waters: HashMap<WaterId, String>,
    names: Names,
    named: &'n Named<'n>,
}

/// What a rig brought by the cast.
#[derive(Debug, Clone, PartialEq)]
pub struct ByCast {
    /// What was cast.
    pub tackle: Tackle,
    /// Casts.
    pub casts: u32,
    /// Strikes that did not hook.
    pub strikes: u32,
    /// Fish.
    pub fish: u32,
    /// What is believed of its rate, per hundred casts.
    pub belief: Option<Belief>,
}

impl<'n> Evidence<'n> {
    /// Reads it.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn load(book: &Book<'_>, fish: Option<Fish>, named: &'n Named<'n>) -> Result<Self, Error> {
        let connection = book.connection();
        let season = Season::load(connection, fish)?;
        let whole = season.whole();
        let cast = season.outings().iter().flat_map(|told| &told.casts);
        let tackle: BTreeSet<Tackle> = season
            .stretches()
            .map(|one| one.tackle)
            .chain(cast.map(|cast| cast.tackle))
            .collect();
        let bodies = waters::all(connection)?.into_iter();
        Ok(Self {
            fish,
            angler: Angler::of(whole),
            whole,
            unknown: season.outings().iter().map(|told| told.unknown).sum(),
            without_passes: season
                .outings()
                .iter()
                .filter(|told| told.without_passes)
                .count(),
            names: Names::of(connection, tackle)?,
            waters: bodies.map(|(id, water)| (id, water.name)).collect(),
            season,
            named,
        })
    }

    /// What a rig or lure is called.
    pub fn name(&self, tackle: Tackle) -> &str {
        self.names.get(tackle)
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
        for group in grouped(self.season.stretches(), self.named, by, crossed) {
            let belief = self.angler.believes(group.record)?;
            rates.push((group, belief));
        }
        rates.sort_by(|(a, _), (b, _)| {
            let hours = b.record.rod_hours.total_cmp(&a.record.rod_hours);
            hours.then_with(|| (&a.key, &a.other).cmp(&(&b.key, &b.other)))
        });
        Ok(rates)
    }

    /// What each rig brought by the cast, those with the most casts first: fish and strikes on hundreds of casts, with what is
    /// believed of the rate. The prior is the angler's own mean by the cast, a fish on a hundred casts while there are few
    /// (from memory).
    ///
    /// # Errors
    /// [`Error::Core`] for counts that cannot be.
    pub fn by_cast(&self) -> Result<Vec<ByCast>, Error> {
        let mut sums: BTreeMap<Tackle, ByCast> = BTreeMap::new();
        let all = self.season.outings().iter().flat_map(|told| &told.casts);
        for cast in all {
            let sum = sums.entry(cast.tackle).or_insert(ByCast {
                tackle: cast.tackle,
                casts: 0,
                strikes: 0,
                fish: 0,
                belief: None,
            });
            sum.casts += 1;
            sum.fish += u32::from(cast.fish);
            sum.strikes += u32::from(cast.strike);
        }
        let hundreds = |casts: u32| f64::from(casts) / 100.0;
        let fish: u32 = sums.values().map(|sum| sum.fish).sum();
        let casts: u32 = sums.values().map(|sum| sum.casts).sum();
        let mean = (f64::from(fish) + 1.0) / (hundreds(casts) + 1.0);
        let angler = Angler::with_rate(mean)?;
        let mut told: Vec<ByCast> = sums.into_values().collect();
        for one in &mut told {
            let record = Record {
                fish: one.fish,
                rod_hours: hundreds(one.casts),
            };
            one.belief = Some(angler.believes(record)?);
        }
        told.sort_by_key(|one| std::cmp::Reverse(one.casts));
        Ok(told)
    }

    /// Two groups held against each other.
    ///
    /// # Errors
    /// [`Error::Core`] for hours that cannot be.
    pub fn compared(&self, by: Grouping, a: &Key, b: &Key) -> Result<Compared, Error> {
        let strata = strata(self.season.stretches(), self.named, by, a, b);
        Ok(Compared::of(self.angler, &strata)?)
    }
}
