use crate::boat::is_running;
use crate::error::Error;
use crate::standing::StandingRig;
use crate::stored::StoredBox;
use jiff::tz::TimeZone;
use jiff::{Timestamp, ZonedDateTime};
use motilis_core::advice::Day;
use motilis_core::bench::Stocked;
use motilis_core::boat::Moment;
use motilis_core::book::{
    Board, BottomTouch, LureId, Outing, OutingId, RigId, SetupId, TouchId, WaterBody, WaterId,
};
use motilis_core::book::{BoxPart, PartId};
use motilis_core::line::{Changes, DiveFit, LineSetup, Surroundings, Touch};
use motilis_core::spread::Lure;
use motilis_core::tackle::LineStock;
use motilis_core::units::MetresPerSecond;
use motilis_store::{Connection, lures, observed, outings, rigs, settings, setups, waters};
use std::cell::{OnceCell, RefCell};
use std::collections::VecDeque;
use std::sync::{Arc, Mutex, PoisonError};

/// Speeds through the water at which lines are towed, m/s.
const TROLLED: std::ops::RangeInclusive<f64> = 0.1..=4.5;

/// The boat book, opened for one question: all of it out of one moment, each thing loaded when first asked for.
pub struct Book<'c> {
    connection: &'c Connection,
    here: OnceCell<Option<Here>>,
    stored: OnceCell<Arc<StoredBox>>,
    setups: OnceCell<Vec<(SetupId, Arc<LineSetup>)>>,
    lures: OnceCell<Vec<(LureId, Arc<Lure>)>>,
    touches: OnceCell<Vec<(TouchId, BottomTouch)>>,
    fits: RefCell<Vec<(Rod, Option<DiveFit>)>>,
    moment: Option<Moment>,
}

/// What a dive curve belongs to: a set-up with its main line and the mass of its weight.
#[derive(Clone, Copy, PartialEq)]
struct Rod {
    setup: SetupId,
    main: LineStock,
    grams: Option<i64>,
}

/// The open outing and where it is.
#[derive(Debug, Clone)]
pub struct Here {
    /// Number of the open outing.
    pub id: OutingId,
    /// The open outing.
    pub outing: Outing,
    /// Its water.
    pub water: WaterBody,
    /// Every water.
    pub waters: Vec<(WaterId, WaterBody)>,
    /// Every outing, the newest first.
    pub outings: Vec<(OutingId, Outing)>,
    /// What a judgement needs of it, or which of its conditions cannot be.
    pub day: Result<Day, motilis_core::Error>,
    /// Names of the conditions that were carried over from another outing and not confirmed since.
    pub carried: Vec<String>,
}

/// The line in use: a set-up, what is otherwise on it, and what the bottom taught.
#[derive(Debug, Clone)]
pub struct InUse {
    /// Number of the set-up.
    pub id: SetupId,
    /// The set-up as it is in use.
    pub setup: Arc<LineSetup>,
    /// The angler's own dive curve; it is in use.
    pub fit: Option<DiveFit>,
}

impl Here {
    /// An instant in the water's own time.
    pub fn local(&self, at: Timestamp) -> ZonedDateTime {
        at.to_zoned_datetime(zone(&self.water))
    }

    /// The day, for what cannot do without it.
    ///
    /// # Errors
    /// Which of the conditions cannot be.
    pub fn day(&self) -> Result<&Day, motilis_core::Error> {
        self.day.as_ref().map_err(Clone::clone)
    }

    /// What lines run in.
    ///
    /// # Errors
    /// As [`Self::day`].
    pub fn surroundings(&self) -> Result<Surroundings, motilis_core::Error> {
        self.day()?.surroundings()
    }
}

/// A water's time zone; UTC when its name is not in the database of zones.
pub fn zone(water: &WaterBody) -> TimeZone {
    TimeZone::get(&water.zone).unwrap_or(TimeZone::UTC)
}

/// The value of a cell, loaded when it is first asked for.
fn once<T>(cell: &OnceCell<T>, load: impl FnOnce() -> Result<T, Error>) -> Result<&T, Error> {
    if let Some(value) = cell.get() {
        return Ok(value);
    }
    let value = load()?;
    Ok(cell.get_or_init(|| value))
}

impl<'c> Book<'c> {
    /// Opens it on a connection that sees one moment.
    pub fn new(connection: &'c Connection) -> Self {
        Self {
            connection,
            here: OnceCell::new(),
            stored: OnceCell::new(),
            setups: OnceCell::new(),
            lures: OnceCell::new(),
            touches: OnceCell::new(),
            fits: RefCell::default(),
            moment: None,
        }
    }

    /// The same, looked into at a moment of which the boat's instruments know something.
    #[must_use]
    pub fn at(self, moment: Option<Moment>) -> Self {
        Self { moment, ..self }
    }

    /// What the instruments knew at the moment of an act, on an outing that went on then.
    pub fn moment(&self) -> Option<&Moment> {
        let moment = self.moment.as_ref()?;
        let here = self.here_if_any().ok()??;
        is_running(here, moment.at).then_some(moment)
    }

    /// Speed through the water: by the instruments at the moment of an act, else the outing's.
    ///
    /// # Errors
    /// [`Error::NoOuting`].
    pub fn speed(&self) -> Result<MetresPerSecond, Error> {
        let said = self.moment().and_then(|moment| moment.through);
        // A boat that stands, or runs to another place, tows nothing whose depth could be told.
        let towed = |speed: &MetresPerSecond| TROLLED.contains(&speed.0);
        let said = said.map(|through| through.speed).filter(towed);
        Ok(said.unwrap_or(self.here()?.outing.speed))
    }

    /// The connection, for what is asked of one table only.
    pub fn connection(&self) -> &'c Connection {
        self.connection
    }

    /// The open outing.
    ///
    /// # Errors
    /// [`Error::NoOuting`].
    pub fn here(&self) -> Result<&Here, Error> {
        self.here_if_any()?.ok_or(Error::NoOuting)
    }

    /// The open outing, if there is one: the one last opened, or the newest whose water can be read.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn here_if_any(&self) -> Result<Option<&Here>, Error> {
        Ok(once(&self.here, || load_here(self.connection))?.as_ref())
    }

    /// Every rig as it lies on the bench, by name.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn boards(&self) -> Result<&[(RigId, Board)], Error> {
        Ok(&self.stored()?.boards)
    }

    /// Rigs and parts as they lie in the file.
    pub(crate) fn stored(&self) -> Result<&Arc<StoredBox>, Error> {
        once(&self.stored, || StoredBox::load(self.connection))
    }

    /// Every part as it is kept, in the order of the trays; with plenty left of it where no count is kept.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn parts(&self) -> Result<&[(PartId, BoxPart)], Error> {
        Ok(&self.stored()?.parts)
    }

    /// Every part, and how many are left of it.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn stock(&self) -> Result<&[Stocked], Error> {
        Ok(&self.stored()?.stock)
    }

    /// Every rig as it stands, by name.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn rigs(&self) -> Result<&[StandingRig], Error> {
        Ok(&self.stored()?.rigs)
    }

    /// A rig as it stands, thrown away or not: old entries and spreads still name it.
    ///
    /// # Errors
    /// [`Error::Store`] when there never was one.
    pub fn rig(&self, id: RigId) -> Result<StandingRig, Error> {
        if let Some(rig) = self.rigs()?.iter().find(|rig| rig.id == id) {
            return Ok(rig.clone());
        }
        Ok(StandingRig::of(id, &rigs::board(self.connection, id)?))
    }

    /// Every set-up, by name.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn setups(&self) -> Result<&[(SetupId, Arc<LineSetup>)], Error> {
        Ok(once(&self.setups, || {
            let all = setups::all(self.connection)?.into_iter();
            Ok(all.map(|(id, setup)| (id, Arc::new(setup))).collect())
        })?)
    }

    /// A set-up as it was made, thrown away or not.
    ///
    /// # Errors
    /// [`Error::Store`] when there never was one.
    pub fn setup(&self, id: SetupId) -> Result<Arc<LineSetup>, Error> {
        let known = self.setups()?.iter().find(|(known, _)| *known == id);
        match known {
            Some((_, setup)) => Ok(Arc::clone(setup)),
            None => Ok(Arc::new(setups::get(self.connection, id)?)),
        }
    }

    /// Every plug and spoon, thrown away or not.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn lures(&self) -> Result<&[(LureId, Arc<Lure>)], Error> {
        Ok(once(&self.lures, || {
            let all = lures::ever(self.connection)?.into_iter();
            Ok(all.map(|(id, lure)| (id, Arc::new(lure))).collect())
        })?)
    }

    fn touches(&self) -> Result<&[(TouchId, BottomTouch)], Error> {
        Ok(once(&self.touches, || {
            Ok(observed::touches(self.connection)?)
        })?)
    }

    /// The touches made with a rod, line and weight, the newest first.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn touches_of(
        &self,
        setup: SetupId,
        in_use: &LineSetup,
    ) -> Result<Vec<(TouchId, BottomTouch)>, Error> {
        let all = self.touches()?.iter();
        let of_this = all.filter(|(_, touch)| touch.is_with(setup, in_use));
        Ok(of_this.copied().collect())
    }

    /// The line in use: a set-up with what is otherwise on it, and the dive curve that its touches taught.
    ///
    /// This is the only place where the two meet; every screen asks it.
    ///
    /// # Errors
    /// [`Error::Store`] for a set-up that does not exist.
    pub fn in_use(&self, id: SetupId, changes: &Changes) -> Result<InUse, Error> {
        let setup = self.setup(id)?;
        let setup = if *changes == Changes::default() {
            setup
        } else {
            Arc::new(setup.changed(changes))
        };
        let fit = self.fit(id, &setup)?;
        let setup = match fit {
            Some(fit) => Arc::new(LineSetup {
                learned: fit.learned(),
                ..(*setup).clone()
            }),
            None => setup,
        };
        Ok(InUse { id, setup, fit })
    }

    fn fit(&self, id: SetupId, in_use: &LineSetup) -> Result<Option<DiveFit>, Error> {
        let mass = in_use.weight.and_then(|weight| weight.mass());
        let rod = Rod {
            setup: id,
            main: in_use.main,
            grams: mass.map(|mass| (mass.0 * 1e6).round() as i64),
        };
        let known = self
            .fits
            .borrow()
            .iter()
            .find(|(known, _)| *known == rod)
            .map(|(_, fit)| *fit);
        if let Some(fit) = known {
            return Ok(fit);
        }
        let fit = self.fitted(id, in_use)?;
        self.fits.borrow_mut().push((rod, fit));
        Ok(fit)
    }

    fn fitted(&self, id: SetupId, in_use: &LineSetup) -> Result<Option<DiveFit>, Error> {
        let mut touches = Vec::new();
        for (_, touch) in self.touches_of(id, in_use)? {
            // A rig that has changed since cannot say how its line ran.
            let Ok(rig) = self.rig(touch.rig)?.stands else {
                continue;
            };
            touches.push(Touch {
                rig,
                lead: touch.lead,
                out: touch.out,
                bottom: touch.bottom,
                speed: touch.speed,
                touched: touch.touched,
            });
        }
        if touches.is_empty() {
            return Ok(None);
        }
        let surroundings = self.here()?.surroundings();
        Ok(surroundings
            .ok()
            .and_then(|water| Fitted::of(in_use, water, touches)))
    }
}

/// A fit with all that it was made of. Nothing else goes into it, so the last few are kept for the next question.
struct Fitted {
    setup: LineSetup,
    surroundings: Surroundings,
    touches: Vec<Touch>,
    fit: Option<DiveFit>,
}

/// How many fits are kept.
const KEPT: usize = 32;
static LAST: Mutex<VecDeque<Fitted>> = Mutex::new(VecDeque::new());

impl Fitted {
    fn of(setup: &LineSetup, surroundings: Surroundings, touches: Vec<Touch>) -> Option<DiveFit> {
        // A fit is whole or not there: what another thread left is as good.
        let last = || LAST.lock().unwrap_or_else(PoisonError::into_inner);
        let same = |one: &Fitted| {
            one.setup == *setup && one.surroundings == surroundings && one.touches == touches
        };
        if let Some(known) = last().iter().find(|one| same(one)) {
            return known.fit;
        }
        let fit = DiveFit::to(setup, surroundings, &touches);
        let mut kept = last();
        kept.truncate(KEPT - 1);
        kept.push_front(Self {
            setup: setup.clone(),
            surroundings,
            touches,
            fit,
        });
        fit
    }
}

fn load_here(connection: &Connection) -> Result<Option<Here>, Error> {
    let outings = outings::all(connection)?;
    let opened: Option<i64> =
        settings::get(connection, "open_outing")?.and_then(|id| id.parse().ok());
    let first = outings.iter().filter(|(id, _)| Some(id.0) == opened);
    for (id, outing) in first.chain(&outings) {
        let water = match waters::get(connection, outing.water) {
            Ok(water) => water,
            // Its water cannot be read: the next outing is opened instead.
            Err(motilis_store::Error::Unreadable { .. }) => continue,
            Err(error) => return Err(error.into()),
        };
        return Ok(Some(Here {
            carried: outings::carried(connection, *id)?,
            id: *id,
            day: outing.day(&water),
            outing: outing.clone(),
            water,
            waters: waters::all(connection)?,
            outings: outings.clone(),
        }));
    }
    Ok(None)
}
