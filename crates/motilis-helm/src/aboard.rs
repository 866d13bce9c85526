//! The line that runs: what is on it, and where it runs now.

use crate::book::{Book, InUse};
use crate::error::Error;
use crate::standing::{Cannot, Mend, StandingRig};
use motilis_core::book::{OnLine, RunningLine};
use motilis_core::line::{Line, Sure};
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_store::outings;

/// The line that runs on the open outing.
#[derive(Debug, Clone)]
pub struct Aboard {
    /// As it was put out.
    pub line: RunningLine,
    /// What is on it, whether it can run or not.
    pub rig: StandingRig,
    /// Its set-up as it is in use.
    pub in_use: InUse,
    /// Depth of the rig at the outing's speed, no deeper than the bottom; or why it cannot be computed.
    pub depth: Result<Metres, Cannot>,
    /// How sure that depth is; `None` on the bottom, on the water, or where it cannot be computed.
    pub sure: Option<Sure>,
}

impl Aboard {
    /// Reads it; `None` while no line runs.
    ///
    /// # Errors
    /// [`Error::NoOuting`], [`Error::Store`].
    pub fn load(book: &Book<'_>) -> Result<Option<Self>, Error> {
        let here = book.here()?;
        let Some(line) = outings::running_line(book.connection(), here.id)? else {
            return Ok(None);
        };
        let rig = book.rig(line.rig)?;
        let in_use = book.in_use(line.setup, &line.changes())?;
        let depth = depth(book, &rig, &in_use, here.outing.speed, line.out)?;
        let clears = |depth: &Metres| *depth < here.outing.bottom;
        let sure = match (&depth, rig.runs(), here.surroundings()) {
            (Ok(depth), Ok(runs), Ok(surroundings)) if clears(depth) => {
                Line::new(runs, &in_use.setup, surroundings)
                    .ok()
                    .and_then(|towed| towed.sure(here.outing.speed, line.out))
            }
            _ => None,
        };
        Ok(Some(Self {
            line,
            rig,
            in_use,
            depth,
            sure,
        }))
    }

    /// How the line runs, for an entry of the log.
    pub fn on_line(&self) -> OnLine {
        OnLine {
            rig: self.line.rig,
            out: self.line.out,
            depth: self.depth.as_ref().ok().copied(),
        }
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
