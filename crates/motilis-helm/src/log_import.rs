//! A log that comes back: what each record of a file would do to the book, and the doing of it.

use crate::error::Error;
use jiff::Timestamp;
use motilis_core::book::{Event, EventId, OnLine, Outing, OutingId, PassId, SetupId, Tackle};
use motilis_core::book::{LureId, RigId};
use motilis_core::evidence::Pass;
use motilis_formats::{FieldProblem, LogReading, LogRecord, Names};
use motilis_store::trash::{self, Record};
use motilis_store::{Connection, events, lures, outings, passes, rigs, setups, waters};
use std::collections::hash_map::Entry;
use std::collections::{BTreeMap, HashMap, HashSet};

/// What becomes of a record.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Fate {
    /// It is new here.
    New,
    /// It is here, and the file has it otherwise.
    Changed,
    /// It is here just so.
    Same,
    /// Something in it cannot be.
    Wrong,
}

/// One record of a file and what becomes of it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Coming {
    /// Line of a CSV file; place in its list of a JSON file.
    pub line: u64,
    /// "outing", "pass" or "entry".
    pub what: &'static str,
    /// What tells it apart: the water of an outing, the tackle of a pass or entry.
    pub name: String,
    /// When it began or happened, as far as that can be read.
    pub at: Option<Timestamp>,
    /// What becomes of it.
    pub fate: Fate,
    /// What is wrong with it, field by field.
    pub problems: Vec<(String, String)>,
}

/// What is done with a record that is sound.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Doing<I> {
    /// Put in, under its own number where that is free.
    Add(Option<I>),
    /// Put in place of what stands there.
    Change(I),
    /// Taken out of the trash.
    BringBack(I),
}

/// The outing of a record: one of the book, or one that comes with the file, by its place there.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Home {
    Here(OutingId),
    Comes(usize),
}

/// All that a file would do.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct LogImport {
    /// Every record of the file, outings first.
    pub records: Vec<Coming>,
    outings: Vec<(Doing<OutingId>, Outing)>,
    passes: Vec<(Home, Doing<PassId>, Pass)>,
    entries: Vec<(Home, Doing<EventId>, Event)>,
}

impl LogImport {
    /// What a file would do to the book.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn of(connection: &Connection, reading: LogReading) -> Result<Self, Error> {
        let mut planner = Planner::new(connection)?;
        for record in reading.outings {
            planner.outing(record);
        }
        for record in reading.passes {
            planner.pass(record)?;
        }
        for record in reading.entries {
            planner.entry(record)?;
        }
        Ok(planner.plan)
    }

    /// How many records have a fate.
    pub fn count(&self, fate: Fate) -> usize {
        let of = |coming: &&Coming| coming.fate == fate;
        self.records.iter().filter(of).count()
    }

    /// Whether it can be done: nothing is wrong, and something is new or changed.
    pub fn is_sound(&self) -> bool {
        self.count(Fate::Wrong) == 0 && self.count(Fate::New) + self.count(Fate::Changed) > 0
    }

    /// Does it; how many records came.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub(crate) fn carry_out(self, connection: &Connection) -> Result<usize, Error> {
        let came = self.outings.len() + self.passes.len() + self.entries.len();
        let mut homes = Vec::with_capacity(self.outings.len());
        for (doing, outing) in &self.outings {
            homes.push(match doing {
                Doing::Add(_) | Doing::BringBack(_) => outings::add(connection, outing)?,
                Doing::Change(id) => {
                    outings::update(connection, *id, outing)?;
                    *id
                }
            });
        }
        let home = |home: Home| match home {
            Home::Here(id) => id,
            Home::Comes(place) => homes[place],
        };
        for (at, doing, pass) in &self.passes {
            let outing = home(*at);
            match doing {
                Doing::Add(Some(id)) => passes::add_as(connection, *id, outing, pass)?,
                Doing::Add(None) => drop(passes::add(connection, outing, pass)?),
                Doing::Change(id) => passes::update(connection, *id, outing, pass)?,
                Doing::BringBack(id) => {
                    trash::take_back(connection, Record::Pass(*id))?;
                    passes::update(connection, *id, outing, pass)?;
                }
            }
        }
        for (at, doing, event) in self.entries {
            let event = Event {
                outing: home(at),
                ..event
            };
            match doing {
                Doing::Add(Some(id)) => events::add_as(connection, id, &event)?,
                Doing::Add(None) => drop(events::add(connection, &event)?),
                Doing::Change(id) => events::update(connection, id, &event)?,
                Doing::BringBack(id) => {
                    trash::take_back(connection, Record::Event(id))?;
                    events::update(connection, id, &event)?;
                }
            }
        }
        Ok(came)
    }
}

/// The book, as far as records of a log name things of it.
struct Planner<'c> {
    connection: &'c Connection,
    /// Outings of the book by their beginning.
    outings: HashMap<Timestamp, Vec<(OutingId, Outing)>>,
    waters: BTreeMap<i64, String>,
    rigs: Vec<(RigId, String)>,
    lures: Vec<(LureId, String)>,
    setups: Vec<(SetupId, String)>,
    /// Outings of the file that are new here, by water and beginning.
    coming: HashMap<(String, Timestamp), usize>,
    passes: HashMap<OutingId, Vec<(PassId, Pass)>>,
    entries: HashMap<OutingId, Vec<(EventId, Event)>>,
    seen: HashSet<(&'static str, i64)>,
    plan: LogImport,
}

type Problems = Vec<(String, String)>;

fn problem(field: &str, message: impl Into<String>) -> Problems {
    vec![(field.to_owned(), message.into())]
}

fn told(problems: Vec<FieldProblem>) -> Problems {
    let pair = |problem: FieldProblem| (problem.field, problem.message);
    problems.into_iter().map(pair).collect()
}

impl<'c> Planner<'c> {
    fn new(connection: &'c Connection) -> Result<Self, Error> {
        let mut by_beginning: HashMap<Timestamp, Vec<_>> = HashMap::new();
        for (id, outing) in outings::all(connection)? {
            let alike = by_beginning.entry(outing.started).or_default();
            alike.push((id, outing));
        }
        let waters = waters::all(connection)?.into_iter();
        let lures = lures::all(connection)?.into_iter();
        let setups = setups::all(connection)?.into_iter();
        Ok(Self {
            connection,
            outings: by_beginning,
            waters: waters.map(|(id, water)| (id.0, water.name)).collect(),
            rigs: rigs::names(connection)?,
            lures: lures.map(|(id, lure)| (id, lure.name)).collect(),
            setups: setups.map(|(id, setup)| (id, setup.name)).collect(),
            coming: HashMap::new(),
            passes: HashMap::new(),
            entries: HashMap::new(),
            seen: HashSet::new(),
            plan: LogImport::default(),
        })
    }

    fn say(&mut self, coming: Coming, fate: Result<Fate, Problems>) {
        let (fate, problems) = match fate {
            Ok(fate) => (fate, Vec::new()),
            Err(problems) => (Fate::Wrong, problems),
        };
        self.plan.records.push(Coming {
            fate,
            problems,
            ..coming
        });
    }

    /// The number of a record once: a second one of it in the same file is wrong.
    fn once(&mut self, what: &'static str, id: Option<i64>) -> Result<(), Problems> {
        match id {
            Some(id) if !self.seen.insert((what, id)) => Err(problem(
                "id",
                format!("number {id} stands in the file twice; leave it empty for a new one"),
            )),
            _ => Ok(()),
        }
    }

    /// An outing of the book, by its water's name and its beginning.
    fn known(&self, names: &Names) -> Option<(OutingId, &Outing)> {
        let then = self.outings.get(&names.started?)?.iter();
        let alike =
            then.filter(|(_, outing)| self.waters.get(&outing.water.0) == Some(&names.water));
        let alike: Vec<_> = alike.map(|(id, outing)| (*id, outing)).collect();
        let own = alike.iter().find(|(id, _)| Some(id.0) == names.outing);
        own.or(alike.first()).copied()
    }

    fn outing(&mut self, record: LogRecord<Outing>) {
        let coming = Coming {
            line: record.line,
            what: "outing",
            name: record.names.water.clone(),
            at: record.names.started,
            fate: Fate::New,
            problems: Vec::new(),
        };
        let fate = self.outing_fate(record);
        self.say(coming, fate);
    }

    fn outing_fate(&mut self, record: LogRecord<Outing>) -> Result<Fate, Problems> {
        self.once("outing", record.id)?;
        let outing = record.what.map_err(told)?;
        let name = &record.names.water;
        let water = self.waters.iter().find(|(_, known)| *known == name);
        let Some((water, _)) = water else {
            return Err(problem(
                "water",
                format!("there is no water {name:?} in this book; add it on Waters first"),
            ));
        };
        let outing = Outing {
            water: motilis_core::book::WaterId(*water),
            ..outing
        };
        let known = self.known(&record.names);
        let known = known.map(|(id, kept)| (id, *kept == outing));
        match known {
            Some((_, true)) => Ok(Fate::Same),
            Some((id, false)) => {
                self.plan.outings.push((Doing::Change(id), outing));
                Ok(Fate::Changed)
            }
            None => {
                let key = (name.clone(), outing.started);
                self.coming.insert(key, self.plan.outings.len());
                self.plan.outings.push((Doing::Add(None), outing));
                Ok(Fate::New)
            }
        }
    }

    fn home(&self, names: &Names) -> Result<Home, Problems> {
        if let Some((id, _)) = self.known(names) {
            return Ok(Home::Here(id));
        }
        let started = names.started.ok_or_else(Vec::new)?;
        let coming = self.coming.get(&(names.water.clone(), started));
        coming.map(|place| Home::Comes(*place)).ok_or_else(|| {
            problem(
                "outing_started_utc",
                format!(
                    "there is no outing on {:?} that began at {started}; begin it first, or import the JSON, which brings its outings",
                    names.water
                ),
            )
        })
    }

    fn tackle(&self, names: &Names) -> Result<Tackle, Problems> {
        let name = &names.tackle;
        // Its own number, thrown away or not, when that is what it is called there.
        let rig = names
            .rig
            .map(RigId)
            .filter(|id| rigs::name(self.connection, *id).is_ok_and(|called| called == *name));
        let lure = names
            .lure
            .map(LureId)
            .filter(|id| lures::name(self.connection, *id).is_ok_and(|called| called == *name));
        let rig = rig.or_else(|| {
            let named = self.rigs.iter().find(|(_, called)| called == name);
            named.filter(|_| names.lure.is_none()).map(|(id, _)| *id)
        });
        let lure = lure.or_else(|| {
            let named = self.lures.iter().find(|(_, called)| called == name);
            named.filter(|_| names.rig.is_none()).map(|(id, _)| *id)
        });
        rig.map(Tackle::Rig).or(lure.map(Tackle::Lure)).ok_or_else(|| {
            problem(
                "tackle",
                format!("there is no rig or lure {name:?} in this book; make it first, or import the whole book"),
            )
        })
    }

    fn pass(&mut self, record: LogRecord<Pass>) -> Result<(), Error> {
        let coming = Coming {
            line: record.line,
            what: "pass",
            name: record.names.tackle.clone(),
            at: record.what.as_ref().ok().map(|pass| pass.from),
            fate: Fate::New,
            problems: Vec::new(),
        };
        let fate = self.pass_fate(record)?;
        self.say(coming, fate);
        Ok(())
    }

    fn pass_fate(&mut self, record: LogRecord<Pass>) -> Result<Result<Fate, Problems>, Error> {
        let found = self
            .once("pass", record.id)
            .and_then(|()| record.what.map_err(told))
            .and_then(|pass| {
                let home = self.home(&record.names)?;
                Ok((home, self.tackle(&record.names)?, pass))
            });
        let (home, tackle, mut pass) = match found {
            Ok(found) => found,
            Err(problems) => return Ok(Err(problems)),
        };
        let own = tackle.rig().map(|rig| rig.0) == record.names.rig;
        pass.ran.version = pass.ran.version.filter(|_| own);
        let (called, number) = &record.names.setup;
        let alike = self.setups.iter().filter(|(_, name)| name == called);
        let setups: Vec<SetupId> = alike.map(|(id, _)| *id).collect();
        let same = setups.iter().find(|id| Some(id.0) == *number);
        pass.ran.setup = same.or(setups.first()).copied();
        pass.tackle = tackle;
        let kept: &[(PassId, Pass)] = match home {
            Home::Here(outing) => match self.passes.entry(outing) {
                Entry::Occupied(kept) => kept.into_mut(),
                Entry::Vacant(place) => place.insert(passes::of_outing(self.connection, outing)?),
            },
            Home::Comes(_) => &[],
        };
        let whose = |id| passes::whose(self.connection, id);
        let settled = settle(kept, record.id.map(PassId), &pass, home, whose)?;
        Ok(Ok(settled.map_or(Fate::Same, |(fate, doing)| {
            self.plan.passes.push((home, doing, pass));
            fate
        })))
    }

    fn entry(&mut self, record: LogRecord<Event>) -> Result<(), Error> {
        let coming = Coming {
            line: record.line,
            what: "entry",
            name: record.names.tackle.clone(),
            at: record.what.as_ref().ok().map(|event| event.at),
            fate: Fate::New,
            problems: Vec::new(),
        };
        let fate = self.entry_fate(record)?;
        self.say(coming, fate);
        Ok(())
    }

    fn entry_fate(&mut self, record: LogRecord<Event>) -> Result<Result<Fate, Problems>, Error> {
        let found = self
            .once("entry", record.id)
            .and_then(|()| record.what.map_err(told))
            .and_then(|event| {
                let home = self.home(&record.names)?;
                let line = match event.line {
                    Some(line) => Some(OnLine {
                        tackle: self.tackle(&record.names)?,
                        ..line
                    }),
                    None => None,
                };
                Ok((home, Event { line, ..event }))
            });
        let (home, event) = match found {
            Ok(found) => found,
            Err(problems) => return Ok(Err(problems)),
        };
        let (kept, event): (&[(EventId, Event)], Event) = match home {
            Home::Here(outing) => {
                let kept = match self.entries.entry(outing) {
                    Entry::Occupied(kept) => kept.into_mut(),
                    Entry::Vacant(place) => {
                        place.insert(events::of_outing(self.connection, outing)?)
                    }
                };
                (kept, Event { outing, ..event })
            }
            Home::Comes(_) => (&[], event),
        };
        let whose = |id| events::whose(self.connection, id);
        let settled = settle(kept, record.id.map(EventId), &event, home, whose)?;
        Ok(Ok(settled.map_or(Fate::Same, |(fate, doing)| {
            self.plan.entries.push((home, doing, event));
            fate
        })))
    }
}

/// What is done with a record of an outing that holds these; `None` when it is there just so.
fn settle<I: Copy + PartialEq, T: PartialEq>(
    kept: &[(I, T)],
    id: Option<I>,
    record: &T,
    home: Home,
    whose: impl Fn(I) -> Result<Option<(OutingId, bool)>, motilis_store::Error>,
) -> Result<Option<(Fate, Doing<I>)>, Error> {
    let own = kept.iter().find(|(known, _)| Some(*known) == id);
    Ok(match own {
        Some((_, known)) if known == record => None,
        Some((known, _)) => Some((Fate::Changed, Doing::Change(*known))),
        None if kept.iter().any(|(_, known)| known == record) => None,
        None => {
            let whose = id.map(whose).transpose()?.flatten();
            let doing = match (id, whose) {
                (Some(id), Some((of, true))) if Home::Here(of) == home => Doing::BringBack(id),
                (Some(id), None) => Doing::Add(Some(id)),
                _ => Doing::Add(None),
            };
            Some((Fate::New, doing))
        }
    })
}
