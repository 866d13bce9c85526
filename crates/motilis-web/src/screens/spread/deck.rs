//! What the spread needs to know of the data file, and the lines it makes of it.

use crate::Error;
use crate::screens::Context;
use crate::screens::observed::Calibrations;
use motilis_core::book::{
    LureId, OwnedRig, PlannedRod, PlannedSpread, RigId, SavedSpread, SetupId, SpreadId, Tackle,
};
use motilis_core::line::{LineSetup, Start, Surroundings};
use motilis_core::rig::Rig;
use motilis_core::rules::Limits;
use motilis_core::spread::{Holder, Lure, Rod, Spread, Stance, Towed};
use motilis_core::units::{FOOT, Metres};
use motilis_store::{Connection, lures, rigs, rules, settings, setups, spreads};
use std::collections::HashMap;
use std::sync::Arc;

/// One spread with everything around it.
pub(super) struct Deck {
    pub id: SpreadId,
    pub saved: SavedSpread,
    pub names: Vec<(SpreadId, String)>,
    pub context: Context,
    pub surroundings: Surroundings,
    pub setups: Vec<(SetupId, LineSetup)>,
    /// Rigs that can run, by name.
    pub rigs: Vec<(RigId, Arc<Rig>)>,
    pub lures: Vec<(LureId, Arc<Lure>)>,
    /// Lines the typed-in rules leave the crew.
    pub allowed: Option<u32>,
    /// Anglers aboard.
    pub crew: u32,
    calibrations: Calibrations,
    /// Rigs and set-ups that were thrown away but are still rigged here.
    old_rigs: HashMap<RigId, Arc<Rig>>,
    old_setups: HashMap<SetupId, LineSetup>,
}

impl Deck {
    /// Reads it.
    pub fn load(connection: &Connection, id: SpreadId) -> Result<Self, Error> {
        let context = Context::load(connection)?;
        let saved = spreads::get(connection, id)?;
        let date = context.local(context.outing.started).date();
        let rules = rules::of_water(connection, context.outing.water)?;
        let limits = Limits::on(date, context.outing.fish, &rules);
        let crew = settings::get(connection, "crew")?
            .and_then(|crew| crew.parse().ok())
            .unwrap_or(2);
        let owned = |(id, owned): (RigId, OwnedRig)| (id, Arc::new(owned.rig));
        let rigs: Vec<_> = rigs::all(connection)?.into_iter().map(owned).collect();
        let setups = setups::all(connection)?;
        let mut deck = Self {
            id,
            names: spreads::names(connection)?,
            surroundings: context.outing.day(&context.water)?.surroundings()?,
            setups,
            rigs,
            lures: lures::ever(connection)?
                .into_iter()
                .map(|(id, lure)| (id, Arc::new(lure)))
                .collect(),
            allowed: limits.lines.map(|(a_person, _)| u32::from(a_person) * crew),
            crew,
            calibrations: Calibrations::load(connection)?,
            old_rigs: HashMap::new(),
            old_setups: HashMap::new(),
            saved,
            context,
        };
        for rod in deck.saved.plan.rods.clone() {
            if !deck.setups.iter().any(|(id, _)| *id == rod.setup) {
                let setup = setups::get(connection, rod.setup)?;
                deck.old_setups.insert(rod.setup, setup);
            }
            if let Tackle::Rig(rig) = rod.tackle
                && !deck.rigs.iter().any(|(id, _)| *id == rig)
            {
                let old = rigs::get(connection, rig)?.rig;
                deck.old_rigs.insert(rig, Arc::new(old));
            }
        }
        Ok(deck)
    }

    /// A set-up, as it was made.
    pub fn setup(&self, id: SetupId) -> Result<&LineSetup, Error> {
        self.setups
            .iter()
            .find(|(known, _)| *known == id)
            .map(|(_, setup)| setup)
            .or_else(|| self.old_setups.get(&id))
            .ok_or_else(|| Error::NotFound("there is no such line set-up".into()))
    }

    /// What a rod tows.
    pub fn towed(&self, tackle: Tackle) -> Result<Towed, Error> {
        match tackle {
            Tackle::Rig(id) => self
                .rigs
                .iter()
                .find(|(known, _)| *known == id)
                .map(|(_, rig)| Arc::clone(rig))
                .or_else(|| self.old_rigs.get(&id).map(Arc::clone))
                .map(Towed::Rig)
                .ok_or_else(|| Error::NotFound("there is no such rig".into())),
            Tackle::Lure(id) => self
                .lures
                .iter()
                .find(|(known, _)| *known == id)
                .map(|(_, lure)| Towed::Lure(Arc::clone(lure)))
                .ok_or_else(|| Error::NotFound("there is no such lure".into())),
        }
    }

    /// A planned rod made up, with the angler's own dive curve where there is one.
    pub fn rod(&self, planned: &PlannedRod) -> Result<Rod, Error> {
        let mut rod = planned.rod(self.setup(planned.setup)?, self.towed(planned.tackle)?);
        let fit = self
            .calibrations
            .fit(planned.setup, &rod.setup, self.surroundings, &|id| {
                self.rigs
                    .iter()
                    .find(|(known, _)| *known == id)
                    .map(|(_, rig)| Arc::clone(rig))
            });
        if let Some(fit) = fit {
            let mut setup = (*rod.setup).clone();
            setup.strum = fit.strum;
            rod.setup = Arc::new(setup);
        }
        Ok(rod)
    }

    /// A plan made up.
    pub fn spread(&self, plan: &PlannedSpread) -> Result<Spread, Error> {
        Ok(Spread {
            speed: plan.speed,
            rods: plan
                .rods
                .iter()
                .map(|rod| self.rod(rod))
                .collect::<Result<_, _>>()?,
        })
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
}

/// A rod to begin with, in the port corner.
pub(super) fn first_rod(rig: RigId, setup_id: SetupId, setup: &LineSetup) -> PlannedRod {
    planned(
        Holder::all().next().unwrap_or(ROD_HOLDER),
        rig,
        setup_id,
        setup,
    )
}

const ROD_HOLDER: Holder = Holder {
    side: motilis_core::spread::Side::Port,
    number: 1,
};

/// A rod with the usual figures of its set-up.
pub(super) fn planned(
    holder: Holder,
    rig: RigId,
    setup_id: SetupId,
    setup: &LineSetup,
) -> PlannedRod {
    PlannedRod {
        holder,
        stance: Stance::Corner,
        length: 7.0 * FOOT,
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
