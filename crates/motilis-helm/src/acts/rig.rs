use super::{Doing, Made};
use crate::book::Book;
use crate::desk::Desk;
use crate::error::{Error, Refusal};
use crate::shop::Shop;
use motilis_core::bench::steps;
use motilis_core::book::{PartId, RigId, SetupId, Shortage};
use motilis_core::line::LineSetup;
use motilis_core::rig::{Edit, Stack};
use motilis_store::made::{self, Built};
use motilis_store::{Connection, rigs, setups};

/// A change of a rig on the bench.
#[derive(Debug, Clone, PartialEq)]
pub enum RigAct {
    /// A new one.
    Start {
        /// Its name.
        name: String,
        /// Its parts.
        stack: Box<Stack>,
        /// The set-up it goes on; the first there is, or a usual one, when none is said.
        setup: Option<SetupId>,
    },
    /// A rig of the call sheet with its other blade becomes one of its own, under this name.
    Take {
        /// The rig.
        rig: RigId,
        /// The blade of the box.
        blade: PartId,
        /// Its name.
        name: String,
    },
    /// Edits of a rig as somebody saw it.
    Edit {
        /// Which rig.
        rig: RigId,
        /// The version that was seen; the present one when it is not said.
        seen: Option<i64>,
        /// What is done to it.
        edits: Vec<Edit>,
        /// Place of the piece that is in hand after it; what the act makes.
        hand: Option<usize>,
    },
    /// The last change is taken back.
    Undo(RigId),
    /// An undone change is made again.
    Redo(RigId),
    /// A step of the work is done, or not.
    Tick(RigId, usize, bool),
    /// Another name.
    Rename(RigId, String),
    /// Another set-up.
    GoOn(RigId, SetupId),
    /// A variant beside it, under this name.
    Duplicate(RigId, String),
    /// So many are built, and lie there.
    Build(RigId, u8, String),
}

impl RigAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        match self {
            Self::Start { name, stack, setup } => start(connection, &name, &stack, setup),
            Self::Take { rig, blade, name } => take(doing, rig, blade, &name),
            Self::Edit {
                rig,
                seen,
                edits,
                hand,
            } => {
                edit(doing, rig, seen, &edits)?;
                Ok(hand.and_then(|at| i64::try_from(at).ok()))
            }
            Self::Undo(id) => rigs::undo(connection, id)
                .map(|_| Some(id.0))
                .map_err(Into::into),
            Self::Redo(id) => rigs::redo(connection, id)
                .map(|_| Some(id.0))
                .map_err(Into::into),
            Self::Tick(id, step, done) => tick(connection, id, step, done),
            Self::Rename(id, name) => {
                rigs::rename(connection, id, &name)?;
                Ok(Some(id.0))
            }
            Self::GoOn(id, setup) => {
                setups::get(connection, setup)?;
                rigs::set_setup(connection, id, setup)?;
                Ok(Some(id.0))
            }
            Self::Duplicate(id, name) => {
                let board = rigs::board(connection, id)?;
                let copy = rigs::add_board(connection, &name, &board.stack, board.setup)?;
                Ok(Some(copy.0))
            }
            Self::Build(id, count, place) => build(doing, id, count, &place),
        }
    }

    /// What edits of a rig, as somebody saw it, make of it as it is now; or why they cannot be.
    ///
    /// # Errors
    /// [`Error::Store`] when there is no such rig.
    pub fn edited(
        book: &Book<'_>,
        id: RigId,
        seen: Option<i64>,
        edits: &[Edit],
    ) -> Result<Result<Stack, motilis_core::Error>, Error> {
        let board = rigs::board(book.connection(), id)?;
        let mut seen = Shop::seen(book, &board, id, seen)?;
        let mut now = board.stack;
        for edit in edits {
            let next = edit
                .onto(&seen, &now)
                .and_then(|meant| Ok((seen.edited(edit)?, now.edited(&meant)?)));
            match next {
                Ok(next) => (seen, now) = next,
                Err(why) => return Ok(Err(why)),
            }
        }
        Ok(Ok(now))
    }

    /// What the box lacks to build so many of a rig.
    ///
    /// # Errors
    /// [`Error::Store`] when there is no such rig.
    pub fn lacks(connection: &Connection, rig: RigId, count: u8) -> Result<Vec<Shortage>, Error> {
        Ok(made::lacks(connection, rig, count)?)
    }
}

fn start(connection: &Connection, name: &str, stack: &Stack, setup: Option<SetupId>) -> Made {
    let setup = match setup {
        Some(id) => {
            setups::get(connection, id)?;
            id
        }
        // A fresh file has no rod yet.
        None => match setups::all(connection)?.first() {
            Some((id, _)) => *id,
            None => setups::add(connection, &LineSetup::usual()?)?,
        },
    };
    Ok(Some(rigs::add_board(connection, name, stack, setup)?.0))
}

fn take(doing: &Doing<'_, '_>, rig: RigId, blade: PartId, name: &str) -> Made {
    let desk = Desk::load(doing.book)?;
    let place = desk.swap(rig, blade).ok_or(Refusal::NoSuchSwap)?;
    let stack = desk.candidates[place].rig.stack();
    let setup = desk.origins[place].setup;
    Ok(Some(
        rigs::add_board(doing.book.connection(), name, stack, setup)?.0,
    ))
}

fn edit(doing: &Doing<'_, '_>, id: RigId, seen: Option<i64>, edits: &[Edit]) -> Result<(), Error> {
    let connection = doing.book.connection();
    let now = RigAct::edited(doing.book, id, seen, edits)?.map_err(Refusal::Figure)?;
    if now != rigs::board(connection, id)?.stack {
        rigs::save(connection, id, &now)?;
    }
    Ok(())
}

fn tick(connection: &Connection, id: RigId, step: usize, done: bool) -> Made {
    let steps = steps(&rigs::board(connection, id)?.stack).len();
    if step >= steps {
        return Err(Refusal::NoSuchStep {
            step: step + 1,
            steps,
        }
        .into());
    }
    rigs::tick(connection, id, step, done)?;
    Ok(Some(id.0))
}

fn build(doing: &Doing<'_, '_>, id: RigId, count: u8, place: &str) -> Made {
    let connection = doing.book.connection();
    if rigs::board(connection, id)?.stack.pieces.is_empty() {
        return Err(Refusal::NothingThreaded.into());
    }
    match made::build(connection, id, count, place, doing.now)? {
        Built::Done(deed) => {
            rigs::clear_ticks(connection, id)?;
            Ok(Some(deed.0))
        }
        Built::Short(_) => Err(Refusal::Overtaken { what: "box" }.into()),
    }
}
