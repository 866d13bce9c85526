//! What can be asked of the boat book, and what can be done with it. No HTTP, no words.
//!
//! - [`Book`] is the data file opened for one question: it loads what is asked for, once, out of one moment.
//!   [`Book::in_use`] is the only place where a set-up, what a day or rod has otherwise, the angler's own dive curve
//!   and the dunk tests become the line that runs.
//! - A *question* is a screen's: [`Desk`] for Today, [`Deck`] for a spread, [`Aboard`] for the line that runs,
//!   [`Shop`] for the bench.
//! - *Standing*: a stored thing that cannot run is an answer, [`Cannot`]: what it is called, what is wrong, where it
//!   is mended. Whatever does not need it goes on.
//! - An [`Act`] is a change as data. [`carry_out`] does it once, however often it is asked for, and leaves the trace
//!   that takes it back; it is refused when what it touches has changed since it was seen.

mod aboard;
mod acts;
mod boat;
mod book;
mod deck;
mod desk;
mod error;
mod evidence;
mod log_import;
mod names;
mod river;
mod season;
mod shop;
mod shortages;
mod standing;
mod stored;
mod switching;
mod tank;
mod track;
mod trying;
mod ways;
mod whole_log;

pub use aboard::Aboard;
pub use acts::{
    Act, ActId, Bite as CastBite, BoatAct, BoxAct, CastAct, Done, ExperimentAct, LAST_CAME, LogAct,
    LureAct, ObservedAct, OutingAct, RigAct, Seal, SetupAct, SpreadAct, StartAct, Undone, WaterAct,
    WaysAct, carry_out, done_before, take_back,
};
pub use boat::{Boat, BoatSettings, afloat, is_running, practice_score};
pub use book::{Book, Here, InUse, zone};
pub use deck::{Deck, planned};
pub use desk::{Desk, Origin};
pub use error::{Error, Refusal};
pub use evidence::{ByCast, Evidence};
pub use log_import::{Coming, Fate, LogImport};
pub use motilis_store::trash::Record;
pub use names::Names;
pub use river::River;
pub use season::{Bite, CastTold, Caught, Season, Told, logged_today};
pub use shop::Shop;
pub use shortages::{Short, shortages};
pub use standing::{Cannot, Mend, StandingRig};
pub use switching::{Switching, switching};
pub use tank::Tank;
pub use track::{SpotTold, TrackLook, outing_of};
pub use trying::{Tried, breaks, tried};
pub use ways::followed;
pub use whole_log::WholeLog;
