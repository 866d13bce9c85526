//! A spread with everything around it, and the lines it makes.

use crate::book::{Book, Here, InUse};
use crate::error::Error;
use crate::standing::{Cannot, Mend, StandingRig};
use motilis_core::book::{
    LureId, PlannedRod, PlannedSpread, RigId, SavedSpread, SetupId, SpreadId, Tackle,
};
use motilis_core::line::{LineSetup, Start, Surroundings};
use motilis_core::rig::Rig;
use motilis_core::rules::Limits;
use motilis_core::spread::{Holder, Lure, Rod, Spread, Stance, Towed, USUAL_ROD, Unfit};
use motilis_core::units::{FOOT, Metres};
use motilis_store::{rules, settings, spreads};
use std::collections::HashMap;
use std::sync::Arc;

/// One spread with everything around it.
pub struct Deck<'b, 'c> {
    /// Its number.
    pub id: SpreadId,
    /// The spread as it is kept.
    pub saved: SavedSpread,
    /// Every spread, by name.
    pub names: Vec<(SpreadId, String)>,
    /// The open outing.
    pub here: &'b Here,
    /// What its lines run in.
    pub surroundings: Surroundings,
    /// Rigs that can run, by name.
    pub rigs: Vec<(RigId, Arc<Rig>)>,
    /// Lines the typed-in rules leave the crew.
    pub allowed: Option<u32>,
    /// Anglers aboard.
    pub crew: u32,
    book: &'b Book<'c>,
    /// What its own rods tow, whether it runs or not.
    towed: HashMap<RigId, StandingRig>,
}

/// Anglers aboard until somebody says otherwise.
const USUAL_CREW: u32 = 2;

impl<'b, 'c> Deck<'b, 'c> {
    /// Reads it.
    ///
    /// # Errors
    /// [`Error::NoOuting`]; [`Error::Core`] for conditions that cannot be; [`Error::Store`].
    pub fn load(book: &'b Book<'c>, id: SpreadId) -> Result<Self, Error> {
        let connection = book.connection();
        let here = book.here()?;
        let saved = spreads::get(connection, id)?;
        let date = here.local(here.outing.started).date();
        let rules = rules::of_water(connection, here.outing.water)?;
        let limits = Limits::on(date, here.outing.fish, &rules);
        let crew = settings::get(connection, "crew")?
            .and_then(|crew| crew.parse().ok())
            .unwrap_or(USUAL_CREW);
        let runs = |rig: &StandingRig| Some((rig.id, Arc::clone(rig.stands.as_ref().ok()?)));
        let mut towed = HashMap::new();
        for rod in &saved.plan.rods {
            if let Tackle::Rig(rig) = rod.tackle {
                towed.insert(rig, book.rig(rig)?);
            }
        }
        Ok(Self {
            id,
            names: spreads::names(connection)?,
            surroundings: here.surroundings()?,
            rigs: book.rigs()?.iter().filter_map(runs).collect(),
            allowed: limits.lines.map(|(a_person, _)| u32::from(a_person) * crew),
            crew,
            here,
            saved,
            book,
            towed,
        })
    }

    /// Every set-up, by name.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn setups(&self) -> Result<&'b [(SetupId, Arc<LineSetup>)], Error> {
        self.book.setups()
    }

    /// Every plug and spoon, thrown away or not.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn lures(&self) -> Result<&'b [(LureId, Arc<Lure>)], Error> {
        self.book.lures()
    }

    /// A set-up as it was made.
    ///
    /// # Errors
    /// [`Error::Store`] when there never was one.
    pub fn setup(&self, id: SetupId) -> Result<Arc<LineSetup>, Error> {
        self.book.setup(id)
    }

    /// A rod's set-up as it is in use.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn in_use(&self, rod: &PlannedRod) -> Result<InUse, Error> {
        self.book.in_use(rod.setup, &rod.changes())
    }

    /// What a rod tows; a rig that cannot run is towed by its name.
    ///
    /// # Errors
    /// [`Error::Store`] when there never was one.
    pub fn towed(&self, tackle: Tackle) -> Result<Towed, Error> {
        match tackle {
            Tackle::Rig(id) => {
                let standing = match self.towed.get(&id) {
                    Some(standing) => standing.clone(),
                    None => self.book.rig(id)?,
                };
                Ok(match standing.stands {
                    Ok(rig) => Towed::Rig(rig),
                    Err(why) => Towed::Unfit(Arc::new(Unfit {
                        name: standing.name,
                        why,
                    })),
                })
            }
            Tackle::Lure(id) => {
                let lures = self.book.lures()?;
                let lure = lures.iter().find(|(known, _)| *known == id);
                lure.map(|(_, lure)| Towed::Lure(Arc::clone(lure)))
                    .ok_or_else(|| Error::Missing("such lure".into()))
            }
        }
    }

    /// A planned rod made up.
    ///
    /// # Errors
    /// As [`Deck::towed`].
    pub fn rod(&self, planned: &PlannedRod) -> Result<Rod, Error> {
        Ok(planned.rod(self.in_use(planned)?.setup, self.towed(planned.tackle)?))
    }

    /// A plan made up.
    ///
    /// # Errors
    /// As [`Deck::towed`].
    pub fn spread(&self, plan: &PlannedSpread) -> Result<Spread, Error> {
        let rods = plan.rods.iter().map(|rod| self.rod(rod));
        Ok(Spread {
            speed: plan.speed,
            rods: rods.collect::<Result<_, _>>()?,
        })
    }

    /// Where a line that cannot run is mended.
    pub fn mend(&self, place: usize, why: &motilis_core::Error) -> Cannot {
        let rod = &self.saved.plan.rods[place];
        let unfit = match rod.tackle {
            Tackle::Rig(rig) => self.towed.get(&rig).filter(|rig| rig.stands.is_err()),
            Tackle::Lure(_) => None,
        };
        Cannot {
            name: unfit.map(|rig| rig.name.clone()).unwrap_or_default(),
            why: why.clone(),
            mend: unfit.map_or(Mend::Setup(rod.setup), |rig| Mend::Bench(rig.id)),
        }
    }

    /// Rigs of the box that no other line of this spread carries.
    pub fn free_rigs(&self) -> Vec<(RigId, Arc<Rig>)> {
        let used: Vec<Tackle> = self.saved.plan.rods.iter().map(|rod| rod.tackle).collect();
        self.rigs
            .iter()
            .filter(|(id, _)| !used.contains(&Tackle::Rig(*id)))
            .cloned()
            .collect()
    }

    /// The rods as somebody saw them, by the version that was shown; the present ones for an unknown version.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn rods_seen(&self, version: Option<i64>) -> Result<Vec<PlannedRod>, Error> {
        let seen = match version.filter(|version| *version != self.saved.version) {
            Some(version) => spreads::rods_at(self.book.connection(), self.id, version)?,
            None => None,
        };
        Ok(seen.unwrap_or_else(|| self.saved.plan.rods.clone()))
    }

    /// The place now of a rod that somebody saw at a place: the same tackle in the same holder, or else the only one
    /// with that tackle, or with that holder.
    pub fn place_of(&self, seen: &PlannedRod) -> Option<usize> {
        let rods = &self.saved.plan.rods;
        let tackle = |rod: &&PlannedRod| rod.tackle == seen.tackle;
        let holder = |rod: &&PlannedRod| rod.holder == seen.holder;
        let both = rods.iter().position(|rod| tackle(&rod) && holder(&rod));
        let with_tackle = rods.iter().filter(tackle).count() == 1;
        both.or_else(|| rods.iter().position(|rod| with_tackle && tackle(&rod)))
            .or_else(|| rods.iter().position(|rod| holder(&rod)))
    }

    /// A rod to begin a spread with, or to add to it.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn new_rod(&self, holder: Holder, rig: RigId) -> Result<Option<PlannedRod>, Error> {
        let first = self.setups()?.first();
        Ok(first.map(|(id, setup)| planned(holder, rig, *id, setup)))
    }
}

/// A rod with the usual figures of its set-up.
pub fn planned(holder: Holder, rig: RigId, setup_id: SetupId, setup: &LineSetup) -> PlannedRod {
    PlannedRod {
        holder,
        stance: Stance::Corner,
        length: USUAL_ROD,
        board: (setup.start == Start::Board).then_some(60.0 * FOOT),
        above: match setup.start {
            Start::Downrigger { above, .. } => Some(above),
            Start::RodTip { .. } | Start::Board => None,
        },
        tackle: Tackle::Rig(rig),
        setup: setup_id,
        weight: setup.weight.and_then(|weight| weight.mass()),
        lead: setup.lead,
        out: Metres((0.2 * setup.reel.0).clamp(5.0, 20.0)),
        wanted: Metres(5.0),
    }
}
