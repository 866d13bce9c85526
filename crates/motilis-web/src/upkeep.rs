//! What nobody should have to think of: a copy a day, and the write-ahead log folded into the data file.

use crate::App;
use jiff::Timestamp;
use motilis_store::check::Wrong;
use motilis_store::tidy::Tidied;
use motilis_store::{Standing, Store};
use std::sync::Weak;
use std::thread;
use std::time::{Duration, Instant};

/// How often the log is folded in: a copy of the one file loses no more than a minute.
const FOLDS: Duration = Duration::from_secs(20);
/// How often it is looked whether the day's copy is due.
const COPIES: Duration = Duration::from_mins(10);
/// How often it is looked whether it is still wanted.
const LOOKS: Duration = Duration::from_millis(500);

/// What was looked at of the data file, and what became of it.
#[derive(Debug, Clone, Default)]
pub(crate) struct Upkept {
    /// What the last look through it found, and when.
    pub checked: Option<(Timestamp, Vec<Wrong>)>,
    /// What clearing out would do.
    pub tidying: Option<Tidied>,
    /// What was just done, in full.
    pub said: Option<String>,
    /// What was asked for last, and where it led.
    pub last: Option<((String, String), String)>,
    /// Why the day's copy could not be made.
    pub no_copy: Option<String>,
}

/// Starts it; it ends with the application.
pub(crate) fn start(app: &App, alive: Weak<()>) {
    if *app.store().standing() != Standing::Whole {
        return;
    }
    let app = app.clone();
    thread::spawn(move || {
        let mut folded = Instant::now();
        let mut copied: Option<Instant> = None;
        while alive.strong_count() > 0 {
            if copied.is_none_or(|at| at.elapsed() > COPIES) {
                copied = Some(Instant::now());
                copy(&app);
            }
            if folded.elapsed() > FOLDS {
                folded = Instant::now();
                if let Err(error) = app.store().fold() {
                    tracing::warn!(%error, "the log could not be folded into the data file");
                }
            }
            thread::sleep(LOOKS);
        }
    });
}

/// Makes the day's copy when it is due.
fn copy(app: &App) {
    let made = of_today(app.store());
    if let Err(error) = &made {
        tracing::warn!(%error, "the day's copy could not be made");
    }
    app.upkept().no_copy = made.err().map(|error| error.to_string());
}

fn of_today(store: &Store) -> Result<(), motilis_store::Error> {
    let now = Timestamp::now();
    if store.copies().is_due(store.path(), now) {
        store.read(|connection| {
            let why = motilis_store::copies::Why::Day;
            store.copies().keep(connection, now, why).map(drop)
        })?;
    }
    Ok(())
}
