//! The rods of the open outing: what is on them, and where they run now.

use crate::book::{Book, InUse};
use crate::error::Error;
use crate::standing::{Cannot, Mend, StandingRig};
use motilis_core::book::{BoatRod, OnLine, PassId, RigId, Tackle};
use motilis_core::evidence::{Pass, Ran};
use motilis_core::line::{Line, Sure};
use motilis_core::spread::{Spread, Towed};
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_store::{passes, rigs, rods};

/// A rod of the open outing.
#[derive(Debug, Clone)]
pub struct Aboard {
    /// Where it stands and what it carries.
    pub boat: BoatRod,
    /// What that is called.
    pub name: String,
    /// The rig on it, whether it can run or not; `None` for a lure.
    pub rig: Option<StandingRig>,
    /// Its set-up as it is in use.
    pub in_use: InUse,
    /// Depth of the rig at the outing's speed, no deeper than the bottom; or why it cannot be computed.
    pub depth: Result<Metres, Cannot>,
    /// How sure that depth is; `None` on the bottom, on the water, or where it cannot be computed.
    pub sure: Option<Sure>,
    /// The pass it is on, while it fishes.
    pub open: Option<(PassId, Pass)>,
}

impl Aboard {
    /// Every rod of the open outing, by number.
    ///
    /// # Errors
    /// [`Error::NoOuting`], [`Error::Store`].
    pub fn all(book: &Book<'_>) -> Result<Vec<Self>, Error> {
        let here = book.here()?;
        let open = passes::of_outing(book.connection(), here.id)?;
        let open: Vec<_> = open
            .into_iter()
            .filter(|(_, pass)| pass.is_open())
            .collect();
        let of = |number: u8| open.iter().find(|(_, pass)| pass.rod == Some(number));
        let all = rods::of_outing(book.connection(), here.id)?.into_iter();
        all.map(|boat| {
            let open = of(boat.number).cloned();
            Self::of(book, boat, open)
        })
        .collect()
    }

    /// A rod as it stands.
    ///
    /// # Errors
    /// As [`Self::all`].
    pub fn of(book: &Book<'_>, boat: BoatRod, open: Option<(PassId, Pass)>) -> Result<Self, Error> {
        let here = book.here()?;
        let in_use = book.in_use(boat.setup(), &boat.changes())?;
        let speed = book.speed()?;
        let (name, rig, depth, sure) = match boat.rod.tackle {
            Tackle::Rig(id) => {
                let rig = book.rig(id)?;
                let depth = depth(book, &rig, &in_use, speed, boat.rod.out)?;
                let clears = |depth: &Metres| *depth < here.outing.bottom;
                let sure = match (&depth, rig.runs(), here.surroundings()) {
                    (Ok(depth), Ok(runs), Ok(surroundings)) if clears(depth) => {
                        Line::new(runs, &in_use.setup, surroundings)
                            .ok()
                            .and_then(|towed| towed.sure(speed, boat.rod.out))
                    }
                    _ => None,
                };
                (rig.name.clone(), Some(rig), depth, sure)
            }
            Tackle::Lure(id) => {
                let lures = book.lures()?;
                let lure = lures.iter().find(|(known, _)| *known == id);
                let (_, lure) = lure.ok_or_else(|| Error::Missing("such lure".into()))?;
                let cannot = |why, mend| Cannot {
                    name: lure.name.clone(),
                    why,
                    mend,
                };
                let rod = boat
                    .rod
                    .rod(in_use.setup.clone(), Towed::Lure(lure.clone()));
                let spread = Spread {
                    speed,
                    rods: vec![rod],
                };
                let depth = match here.surroundings() {
                    Err(why) => Err(cannot(why, Mend::Conditions(here.id))),
                    Ok(surroundings) => match spread.running(&surroundings, None) {
                        Err(why) => Err(cannot(why, Mend::Setup(boat.setup()))),
                        Ok(running) => match &running.lines[0].refused {
                            Some(why) => Err(cannot(why.clone(), Mend::Setup(boat.setup()))),
                            None => Ok(running.lines[0].depth(Some(here.outing.bottom))),
                        },
                    },
                };
                (lure.name.clone(), None, depth, None)
            }
        };
        Ok(Self {
            boat,
            name,
            rig,
            in_use,
            depth,
            sure,
            open,
        })
    }

    /// Whether it is in the water.
    pub fn fishes(&self) -> bool {
        self.open.is_some()
    }

    /// The rig on it, by its number.
    pub fn rig_id(&self) -> Option<RigId> {
        self.boat.rod.tackle.rig()
    }

    /// How the line runs, for an entry of the log.
    pub fn on_line(&self) -> OnLine {
        OnLine {
            tackle: self.boat.rod.tackle,
            out: self.boat.rod.out,
            depth: self.depth.as_ref().ok().copied(),
        }
    }

    /// How it runs, for a pass that begins.
    pub(crate) fn ran(&self, book: &Book<'_>) -> Result<Ran, Error> {
        let rod = &self.boat.rod;
        let version = match rod.tackle {
            Tackle::Rig(rig) => Some(rigs::version(book.connection(), rig)?),
            Tackle::Lure(_) => None,
        };
        Ok(Ran {
            version,
            setup: Some(rod.setup),
            out: Some(rod.out),
            lead: Some(rod.lead),
            weight: rod.weight,
            depth: self.depth.as_ref().ok().copied(),
            speed: Some(book.speed()?),
            bait: self.boat.bait.clone(),
        })
    }
}

fn depth(
    book: &Book<'_>,
    rig: &StandingRig,
    in_use: &InUse,
    speed: MetresPerSecond,
    out: Metres,
) -> Result<Result<Metres, Cannot>, Error> {
    let here = book.here()?;
    let cannot = |why, mend| Cannot {
        name: rig.name.clone(),
        why,
        mend,
    };
    let runs = match rig.runs() {
        Ok(runs) => runs,
        Err(cannot) => return Ok(Err(cannot)),
    };
    let surroundings = match here.surroundings() {
        Ok(surroundings) => surroundings,
        Err(why) => return Ok(Err(cannot(why, Mend::Conditions(here.id)))),
    };
    let run = Line::new(runs, &in_use.setup, surroundings)
        .map(|line| line.run(speed, out).map_or(0.0, |run| run.rig.depth.0));
    Ok(match run {
        // One too long lies on the bottom.
        Ok(depth) => Ok(Metres(depth.clamp(0.0, here.outing.bottom.0))),
        Err(why) => Err(cannot(why, Mend::Setup(in_use.id))),
    })
}
