//! Spreads being towed: computed in the background, looked at when they are done.

use crate::Error;
use motilis_core::book::SpreadId;
use motilis_core::line::Surroundings;
use motilis_core::motion::{Course, Scene, record};
use motilis_core::spread::Spread;
use motilis_view::forms::course::Asked;
use motilis_view::forms::problem;
use motilis_view::present::Outcome;
use std::collections::BTreeMap;
use std::ops::ControlFlow;
use std::sync::atomic::{AtomicBool, AtomicU32, AtomicU64, Ordering};
use std::sync::{Arc, Mutex, PoisonError};

/// Runs kept to be looked at again.
const KEPT: usize = 8;

/// The runs of this program: gone when it stops.
#[derive(Default)]
pub(crate) struct Runs {
    next: AtomicU64,
    all: Mutex<BTreeMap<u64, Arc<Run>>>,
}

/// One run, under way or done.
pub(crate) struct Run {
    spread: SpreadId,
    /// What the boat does.
    pub course: Course,
    percent: AtomicU32,
    stop: AtomicBool,
    outcome: Mutex<Option<Outcome>>,
}

impl Runs {
    /// Sets a spread off on a thread of its own.
    pub fn start(
        &self,
        id: SpreadId,
        spread: Spread,
        surroundings: Surroundings,
        asked: Asked,
    ) -> u64 {
        let number = self.next.fetch_add(1, Ordering::Relaxed) + 1;
        let run = Arc::new(Run {
            spread: id,
            course: asked.course,
            percent: AtomicU32::new(0),
            stop: AtomicBool::new(false),
            outcome: Mutex::new(None),
        });
        let mut all = self.all.lock().unwrap_or_else(PoisonError::into_inner);
        while all.len() >= KEPT {
            if let Some((_, oldest)) = all.pop_first() {
                oldest.stop.store(true, Ordering::Relaxed);
            }
        }
        all.insert(number, Arc::clone(&run));
        drop(all);
        // A thread of its own: a run of an hour must not hold the pool that answers pages.
        std::thread::spawn(move || {
            let scene = Scene {
                spread: &spread,
                surroundings: &surroundings,
                course: asked.course,
                seconds: asked.seconds,
            };
            let recorded = record(&scene, |done| {
                run.percent.store((done * 100.0) as u32, Ordering::Relaxed);
                if run.stop.load(Ordering::Relaxed) {
                    ControlFlow::Break(())
                } else {
                    ControlFlow::Continue(())
                }
            });
            let outcome = match recorded {
                Ok(Some(recording)) => Outcome::Done(Arc::new(recording)),
                Ok(None) => Outcome::Stopped,
                Err(error) => Outcome::Refused(problem(&error).0),
            };
            *run.outcome.lock().unwrap_or_else(PoisonError::into_inner) = Some(outcome);
        });
        number
    }

    /// A run of a spread.
    pub fn get(&self, spread: SpreadId, number: u64) -> Result<Arc<Run>, Error> {
        let all = self.all.lock().unwrap_or_else(PoisonError::into_inner);
        all.get(&number)
            .filter(|run| run.spread == spread)
            .map(Arc::clone)
            .ok_or_else(|| {
                Error::NotFound("that run is not kept any more; set the spread off again".into())
            })
    }
}

impl Run {
    /// How much of it is done.
    pub fn percent(&self) -> u32 {
        self.percent.load(Ordering::Relaxed)
    }

    /// Stops it.
    pub fn stop(&self) {
        self.stop.store(true, Ordering::Relaxed);
    }

    /// How it ended, once it has.
    pub fn outcome(&self) -> Option<Outcome> {
        self.outcome
            .lock()
            .unwrap_or_else(PoisonError::into_inner)
            .clone()
    }
}
