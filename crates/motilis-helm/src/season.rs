//! What each outing tells, reckoned once and kept while its stamp stands: rates, bites and fish of thousands of outings
//! are asked for on every look at the log.

use crate::book::{Book, zone};
use crate::error::Error;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use motilis_core::book::{
    Event, EventId, EventKind, OnRodAt, Outing, OutingId, PassId, RigId, Tackle, WaterBody, WaterId,
};
use motilis_core::evidence::{Entry, Light, Logged, Pass, Record, Stretch, Traits, together};
use motilis_core::fish::Fish;
use motilis_core::rig::Rig;
use motilis_core::sky::{dawn, surface_light};
use motilis_core::units::Metres;
use motilis_store::{Connection, casts, events, outings, passes, rigs, stamps, waters};
use std::collections::{BTreeMap, HashMap};
use std::sync::{Arc, LazyLock, Mutex, PoisonError};

/// A strike or fish by the clock of its water.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bite {
    /// Second of the day.
    pub second: f64,
    /// Depth of the rig.
    pub depth: Metres,
    /// Strike or fish.
    pub kind: EventKind,
}

/// A fish that was on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Caught {
    /// Which fish.
    pub fish: Fish,
    /// Its length, where it was measured.
    pub length: Option<Metres>,
    /// Whether it was kept.
    pub kept: bool,
    /// The day, by its water's clock.
    pub date: Date,
}

/// A cast in a river, and what came of it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CastTold {
    /// What was cast.
    pub tackle: Tackle,
    /// Whether a fish was on.
    pub fish: bool,
    /// Whether it was a strike that did not hook.
    pub strike: bool,
}

/// What an outing tells.
#[derive(Debug, PartialEq)]
pub struct Told {
    /// The outing.
    pub id: OutingId,
    /// The fish that was fished for.
    pub fish: Fish,
    /// Its water.
    pub water: WaterId,
    /// The day it began, by its water's clock.
    pub date: Date,
    /// Fish and rod-hours of all of it.
    pub whole: Record,
    /// Strikes on them.
    pub strikes: u32,
    /// Pieces of passes, for rates.
    pub stretches: Vec<Stretch>,
    /// Fish that count for no rate.
    pub unknown: u32,
    /// Whether no hours were kept at all.
    pub without_passes: bool,
    /// Strikes and fish on rigs whose depth is known.
    pub bites: Vec<Bite>,
    /// Every fish.
    pub caught: Vec<Caught>,
    /// Plays and bites on rods, for what a play brought.
    pub on_rods: Vec<OnRodAt>,
    /// Casts of a spinner.
    pub casts: Vec<CastTold>,
}

/// What was reckoned of each outing, with the stamp it had then; stamps are drawn at random, so that those of two data
/// files differ.
static KEPT: LazyLock<Mutex<Kept>> = LazyLock::new(Mutex::default);
type Kept = HashMap<OutingId, (i64, Arc<Told>)>;

/// All that was fished for, outing by outing.
pub struct Season {
    outings: Vec<Arc<Told>>,
}

impl Season {
    /// Every outing that is not thrown away, or those for one fish, the newest first.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn load(connection: &Connection, fish: Option<Fish>) -> Result<Self, Error> {
        // Who comes while another reckons needs the same: one of them does it.
        let mut kept = KEPT.lock().unwrap_or_else(PoisonError::into_inner);
        let outings = told_all(connection, fish, &mut kept)?;
        Ok(Self { outings })
    }

    /// What each outing tells.
    pub fn outings(&self) -> &[Arc<Told>] {
        &self.outings
    }

    /// The pieces of all passes.
    pub fn stretches(&self) -> impl Iterator<Item = &Stretch> + Clone {
        self.outings.iter().flat_map(|told| &told.stretches)
    }

    /// Fish and rod-hours of everything.
    pub fn whole(&self) -> Record {
        let wholes = self.outings.iter().map(|told| told.whole);
        wholes.fold(Record::default(), Record::and)
    }

    /// Fish and rod-hours of each rig and lure; of pieces that a look holds.
    pub fn records(&self, holds: impl Fn(&Stretch) -> bool) -> BTreeMap<Tackle, Record> {
        let mut sums: BTreeMap<Tackle, Record> = BTreeMap::new();
        for stretch in self.stretches().filter(|stretch| holds(stretch)) {
            let sum = sums.entry(stretch.tackle).or_default();
            *sum = sum.and(stretch.record);
        }
        sums
    }
}

fn told_all(
    connection: &Connection,
    fish: Option<Fish>,
    kept: &mut Kept,
) -> Result<Vec<Arc<Told>>, Error> {
    let mut reckoner = Reckoner {
        connection,
        waters: None,
        built: HashMap::new(),
    };
    let mut told = Vec::new();
    for (id, stamp) in stamps::all(connection, fish)? {
        if let Some((_, known)) = kept.get(&id).filter(|(then, _)| *then == stamp) {
            told.push(Arc::clone(known));
            continue;
        }
        // A row that cannot be read is named elsewhere.
        let outing = match outings::get(connection, id) {
            Ok(outing) => outing,
            Err(motilis_store::Error::Unreadable { .. }) => continue,
            Err(error) => return Err(error.into()),
        };
        let one = Arc::new(reckoner.tell(id, &outing)?);
        kept.insert(id, (stamp, Arc::clone(&one)));
        told.push(one);
    }
    Ok(told)
}

/// A rig as it was built for a pass.
type Built = (RigId, i64);

/// The build of a pass; `None` for a lure, and where nobody kept it.
fn built(pass: &Pass) -> Option<Built> {
    Some((pass.tackle.rig()?, pass.ran.version?))
}

struct Reckoner<'c> {
    connection: &'c Connection,
    waters: Option<HashMap<WaterId, WaterBody>>,
    built: HashMap<Built, Option<Arc<Rig>>>,
}

impl Reckoner<'_> {
    fn water(&mut self, id: WaterId) -> Result<Option<WaterBody>, Error> {
        if self.waters.is_none() {
            self.waters = Some(waters::all(self.connection)?.into_iter().collect());
        }
        Ok(self.waters.as_ref().and_then(|all| all.get(&id)).cloned())
    }

    /// Reads the rig of a pass as it was built then.
    fn build(&mut self, pass: &Pass) {
        let Some(key) = built(pass) else { return };
        let connection = self.connection;
        let build = || {
            let board = rigs::board_at(connection, key.0, key.1).ok()?;
            Some(Arc::new(board.rig().ok()?.rig))
        };
        self.built.entry(key).or_insert_with(build);
    }

    fn tell(&mut self, id: OutingId, outing: &Outing) -> Result<Told, Error> {
        let events = events::of_outing(self.connection, id)?;
        let passes = passes::of_outing(self.connection, id)?;
        let water = self.water(outing.water)?;
        let place = water.as_ref().and_then(|water| water.place().ok());
        let dawn = place.and_then(|place| dawn(place, outing.started).ok()?);
        let logged = logged(self.connection, (id, outing), &events, &passes)?;
        for (_, pass) in &passes {
            self.build(pass);
        }
        let rig_of = |pass: &Pass| self.built.get(&built(pass)?)?.clone();
        let stretches = logged.stretches(id, |pass, from| Traits {
            rig: rig_of(pass),
            bait: pass.ran.bait.clone(),
            depth: pass.ran.depth,
            bottom: outing.bottom,
            speed: pass.ran.speed.unwrap_or(outing.speed),
            lead: pass.ran.lead,
            clarity: outing.clarity,
            temperature: outing.temperature,
            water: outing.water,
            dawn,
            light: place.and_then(|place| {
                let light = surface_light(place, from, outing.sky.cloud()).ok()?;
                Some(Light::of(light.total()))
            }),
        });
        let zone = water.as_ref().map(zone);
        let local = |event: &Event| {
            let zone = zone.clone().unwrap_or(TimeZone::UTC);
            event.at.to_zoned_datetime(zone)
        };
        let bites = events.iter().filter_map(|(_, event)| {
            let bites = matches!(event.kind, EventKind::Fish | EventKind::Strike);
            let depth = event.line.filter(|_| bites)?.depth?;
            let time = local(event).time();
            Some(Bite {
                second: f64::from(time.hour()) * 3_600.0 + f64::from(time.minute()) * 60.0,
                depth,
                kind: event.kind,
            })
        });
        let caught = events
            .iter()
            .filter(|(_, event)| event.kind == EventKind::Fish);
        let caught = caught.map(|(_, event)| Caught {
            fish: event.caught.species.unwrap_or(outing.fish),
            length: event.length,
            kept: event.kept == Some(true),
            date: local(event).date(),
        });
        let on_rods = events.iter().filter_map(|(_, event)| {
            let bite = matches!(event.kind, EventKind::Fish | EventKind::Strike);
            (bite || event.play.is_some()).then_some(OnRodAt {
                rod: event.rod?,
                at: event.at,
                play: event.play,
                bite,
            })
        });
        let of_event = |id: EventId| {
            let found = events.iter().find(|(known, _)| *known == id);
            found.map(|(_, event)| event.kind)
        };
        let casts = casts::of_outing(self.connection, id)?.into_iter();
        let casts = casts.filter_map(|(_, cast)| {
            let kind = cast.event.and_then(of_event);
            Some(CastTold {
                tackle: Tackle::Rig(cast.rig?),
                fish: kind == Some(EventKind::Fish),
                strike: kind == Some(EventKind::Strike),
            })
        });
        Ok(Told {
            id,
            casts: casts.collect(),
            fish: outing.fish,
            water: outing.water,
            date: outing
                .started
                .to_zoned_datetime(zone.clone().unwrap_or(TimeZone::UTC))
                .date(),
            whole: together(&stretches),
            strikes: stretches.iter().map(|one| one.strikes).sum(),
            unknown: logged.fish_of_unknown_hours(),
            without_passes: logged.passes.is_empty(),
            stretches,
            bites: bites.collect(),
            caught: caught.collect(),
            on_rods: on_rods.collect(),
        })
    }
}

/// An outing as far as hours go.
pub(crate) fn logged(
    connection: &Connection,
    (id, outing): (OutingId, &Outing),
    events: &[(EventId, Event)],
    passes: &[(PassId, Pass)],
) -> Result<Logged, Error> {
    let entries = events.iter().map(|(_, event)| Entry {
        rod: event.rod,
        tackle: event.line.map(|line| line.tackle),
        at: event.at,
        entered: event.entered,
        fish: event.kind == EventKind::Fish,
        strike: event.kind == EventKind::Strike,
    });
    let passes = passes.iter().map(|(_, pass)| pass.clone());
    let logged = Logged::new(
        outing.started,
        outing.ended,
        entries.collect(),
        passes.collect(),
    );
    Ok(logged.heard(outings::heard(connection, id)?))
}

/// The open outing as far as hours go.
///
/// # Errors
/// [`Error::NoOuting`], [`Error::Store`].
pub fn logged_today(book: &Book<'_>) -> Result<Logged, Error> {
    let here = book.here()?;
    let events = events::of_outing(book.connection(), here.id)?;
    let passes = passes::of_outing(book.connection(), here.id)?;
    logged(book.connection(), (here.id, &here.outing), &events, &passes)
}
