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
use std::collections::{BTreeSet, HashMap};

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

impl<'n> Evidence<'n> {
    /// Reads it.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn load(book: &Book<'_>, fish: Option<Fish>, named: &'n Named<'n>) -> Result<Self, Error> {
        let connection = book.connection();
        let season = Season::load(connection, fish)?;
        let whole = season.whole();
        let tackle: BTreeSet<Tackle> = season.stretches().map(|one| one.tackle).collect();
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

    /// Two groups held against each other.
    ///
    /// # Errors
    /// [`Error::Core`] for hours that cannot be.
    pub fn compared(&self, by: Grouping, a: &Key, b: &Key) -> Result<Compared, Error> {
        let strata = strata(self.season.stretches(), self.named, by, a, b);
        Ok(Compared::of(self.angler, &strata)?)
    }
}
