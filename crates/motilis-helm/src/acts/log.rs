use super::{Doing, Made};
use crate::aboard::Aboard;
use crate::error::{Error, Refusal};
use motilis_core::book::{Event, EventId, EventKind, Outing, RunningLine};
use motilis_core::units::MetresPerSecond;
use motilis_store::{events, outings, passes};

/// A change of the log.
#[derive(Debug, Clone, PartialEq)]
pub enum LogAct {
    /// Something just happened, on the line that runs.
    Tap {
        /// What.
        kind: EventKind,
        /// A remark.
        note: String,
    },
    /// An entry as it really was.
    Correct(EventId, Box<Event>),
    /// This line is the one that runs from now on, at this speed.
    Run(RunningLine, MetresPerSecond),
}

impl LogAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        match self {
            Self::Tap { kind, note } => {
                let event = just_now(doing, kind, note)?;
                event.check().map_err(Refusal::Figure)?;
                Ok(Some(events::add(connection, &event)?.0))
            }
            Self::Correct(id, event) => {
                event.check().map_err(Refusal::Figure)?;
                events::update(connection, id, &event)?;
                Ok(Some(id.0))
            }
            Self::Run(line, speed) => run(doing, line, speed),
        }
    }
}

/// What just happened. On a line that cannot be computed it happened all the same: its depth is then not known.
fn just_now(doing: &Doing<'_, '_>, kind: EventKind, note: String) -> Result<Event, Error> {
    let here = doing.book.here()?;
    let line = match kind {
        EventKind::Note => None,
        _ => Some(Aboard::load(doing.book)?.ok_or(Refusal::NoLine)?.on_line()),
    };
    Ok(Event {
        outing: here.id,
        kind,
        at: doing.at,
        entered: doing.now,
        line,
        speed: here.outing.speed,
        length: None,
        kept: None,
        note,
    })
}

fn run(doing: &Doing<'_, '_>, line: RunningLine, speed: MetresPerSecond) -> Made {
    let (connection, here) = (doing.book.connection(), doing.book.here()?);
    outings::run_line(connection, here.id, &line)?;
    passes::put_out(connection, here.id, line.rig, doing.at)?;
    let outing = Outing {
        speed,
        ..here.outing.clone()
    };
    outings::update(connection, here.id, &outing)?;
    Ok(Some(line.rig.0))
}
