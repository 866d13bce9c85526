//! Every change of the boat book, as data.
//!
//! An act bears a [`Seal`]: the number that the one who asked gave it, when that was, and which state of things they
//! saw. [`carry_out`] does an act once; asked for again, it answers what it answered then.

mod boat;
mod boxes;
mod cast;
mod experiment;
mod log;
mod lure;
mod observed;
mod outing;
mod rig;
mod setup;
mod spread;
mod start;
mod water;
mod ways;

pub use boat::BoatAct;
pub use boxes::{BoxAct, LAST_CAME};
pub use cast::{Bite, CastAct};
pub use experiment::ExperimentAct;
pub use log::LogAct;
pub use lure::LureAct;
pub use motilis_store::acts::{ActId, Done, Undone};
pub use observed::ObservedAct;
pub use outing::OutingAct;
pub use rig::RigAct;
pub use setup::SetupAct;
pub use spread::SpreadAct;
pub use start::StartAct;
pub use water::WaterAct;
pub use ways::WaysAct;

use crate::book::Book;
use crate::error::{Error, Refusal};
use crate::track::back_fill;
use jiff::Timestamp;
use motilis_store::acts::{self, Asked};
use motilis_store::trash::{self, Record};
use motilis_store::{events, outings, tracks};

/// What an act bears beside what it does.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Seal {
    /// The number that the one who asked gave it.
    pub id: String,
    /// What exactly was asked: the same number with something else is another act.
    pub asked: String,
    /// When it was asked for, by the clock of this machine.
    pub at: Timestamp,
    /// When it is done.
    pub now: Timestamp,
}

/// A change of the boat book.
#[derive(Debug, Clone, PartialEq)]
pub enum Act {
    /// Of outings and their conditions.
    Outing(OutingAct),
    /// Of the log.
    Log(LogAct),
    /// Of the boat under way.
    Boat(BoatAct),
    /// Of casting in a river.
    Cast(CastAct),
    /// Of an experiment.
    Experiment(ExperimentAct),
    /// Of a rig on the bench.
    Rig(RigAct),
    /// Of the box.
    Box(BoxAct),
    /// Of a spread.
    Spread(SpreadAct),
    /// Of a line set-up.
    Setup(SetupAct),
    /// Of a plug or spoon.
    Lure(LureAct),
    /// Of a water or its rules.
    Water(WaterAct),
    /// Of what was observed.
    Observed(ObservedAct),
    /// Of how the angler wants to be advised.
    Ways(WaysAct),
    /// An empty data file is filled.
    Start(Box<StartAct>),
    /// A record is thrown away.
    Throw(Record),
    /// It is taken back out.
    TakeBack(Record),
}

/// What an act is done with.
struct Doing<'b, 'c> {
    book: &'b Book<'c>,
    at: Timestamp,
    now: Timestamp,
}

/// The record an act made or changed.
type Made = Result<Option<i64>, Error>;

impl Act {
    /// What it is called in the data file.
    /// Whether it reads a file into the book: the book as it was is copied first.
    pub fn reads_in(&self) -> bool {
        matches!(
            self,
            Self::Box(BoxAct::Import(_)) | Self::Log(LogAct::Import(_) | LogAct::Track(..))
        )
    }

    fn name(&self) -> &'static str {
        match self {
            Self::Outing(_) => "outing",
            Self::Log(_) => "log",
            Self::Boat(_) => "boat",
            Self::Cast(_) => "cast",
            Self::Experiment(_) => "experiment",
            Self::Rig(_) => "rig",
            Self::Box(_) => "box",
            Self::Spread(_) => "spread",
            Self::Setup(_) => "set-up",
            Self::Lure(_) => "lure",
            Self::Water(_) => "water",
            Self::Observed(_) => "observed",
            Self::Ways(_) => "ways",
            Self::Start(_) => "start",
            Self::Throw(_) => "throw",
            Self::TakeBack(_) => "take back",
        }
    }

    fn done(self, doing: &Doing<'_, '_>) -> Made {
        match self {
            Self::Outing(act) => act.done(doing),
            Self::Log(act) => act.done(doing),
            Self::Boat(act) => act.done(doing),
            Self::Cast(act) => act.done(doing),
            Self::Experiment(act) => act.done(doing),
            Self::Rig(act) => act.done(doing),
            Self::Box(act) => act.done(doing),
            Self::Spread(act) => act.done(doing),
            Self::Setup(act) => act.done(doing),
            Self::Lure(act) => act.done(doing),
            Self::Water(act) => act.done(doing),
            Self::Observed(act) => act.done(doing),
            Self::Ways(act) => act.done(doing),
            Self::Start(act) => act.done(doing),
            Self::Throw(record) => throw(record, doing),
            Self::TakeBack(record) => take_back_record(record, doing),
        }
    }
}

/// What was done when this was asked for before, if it was.
///
/// # Errors
/// [`Error::Store`].
pub fn done_before(book: &Book<'_>, seal: &Seal) -> Result<Option<Done>, Error> {
    Ok(acts::done(book.connection(), asked(seal))?)
}

/// Does an act and keeps it; the connection is inside one transaction that is undone when this fails.
///
/// # Errors
/// [`Error::Refused`] when it cannot be done, with nothing changed.
pub fn carry_out(book: &Book<'_>, seal: &Seal, act: Act) -> Result<Done, Error> {
    let connection = book.connection();
    if let Some(done) = done_before(book, seal)? {
        return Ok(done);
    }
    acts::begin(connection)?;
    let name = act.name();
    let made = act.done(&Doing {
        book,
        at: seal.at,
        now: seal.now,
    })?;
    let act = acts::keep(connection, asked(seal), name, (seal.at, seal.now), made)?;
    Ok(Done { act, made })
}

/// Takes an act back by the trace it left, as an act of its own.
///
/// # Errors
/// [`Error::Store`] when there never was one.
pub fn take_back(book: &Book<'_>, seal: &Seal, act: ActId) -> Result<Undone, Error> {
    let connection = book.connection();
    if done_before(book, seal)?.is_some() {
        return Ok(Undone::Already);
    }
    acts::begin(connection)?;
    let undone = acts::undo(connection, act)?;
    if undone == Undone::Done {
        let by = acts::keep(
            connection,
            asked(seal),
            "undo",
            (seal.at, seal.now),
            Some(act.0),
        )?;
        acts::note_undone(connection, act, by)?;
    }
    Ok(undone)
}

fn asked(seal: &Seal) -> Asked<'_> {
    Asked {
        id: &seal.id,
        asked: &seal.asked,
    }
}

fn throw(record: Record, doing: &Doing<'_, '_>) -> Made {
    let (book, connection) = (doing.book, doing.book.connection());
    match record {
        Record::Outing(id) => {
            outings::get(connection, id)?;
            if outings::all(connection)?.len() == 1 {
                return Err(Refusal::OnlyOuting.into());
            }
        }
        Record::Water(id) => {
            let here = book.here_if_any()?;
            if here.is_some_and(|here| here.outing.water == id) {
                return Err(Refusal::OpenOnWater.into());
            }
        }
        Record::Event(id) => drop(events::get(connection, id)?),
        _ => {}
    }
    let track = match record {
        Record::Track(id) => Some(tracks::outing(connection, id)?),
        _ => None,
    };
    trash::throw(connection, record, doing.now)?;
    if let Some(outing) = track {
        back_fill(connection, outing)?;
    }
    Ok(Some(record.number()))
}

fn take_back_record(record: Record, doing: &Doing<'_, '_>) -> Made {
    let connection = doing.book.connection();
    trash::take_back(connection, record)?;
    match record {
        Record::Outing(id) => outing::open(connection, id)?,
        Record::Track(id) => back_fill(connection, tracks::outing(connection, id)?)?,
        _ => {}
    }
    Ok(Some(record.number()))
}
