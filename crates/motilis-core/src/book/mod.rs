//! The records of the boat book: waters, rigs, the box, outings, the line that runs, and what happened on it.
//!
//! Plain values; the store keeps them, the views show them. Times are UTC instants, shown in the
//! zone of the water they belong to.

mod board;
mod boat_rod;
mod box_part;
mod event;
mod fish_mark;
mod outing;
mod play;
mod river_cast;
mod running_line;
mod temperature_reading;
mod water_body;

pub use crate::blade::DunkTest;
pub use crate::entry::{check_clock, plain_text};
pub use crate::ids::{
    CastId, DeedId, DunkId, EventId, ExperimentId, FishMarkId, LureId, MadeId, OutingId, PartId,
    PassId, ReadingId, RigId, RuleId, RunId, SetupId, SpotId, SpreadId, TouchId, TrackId, WaterId,
};
pub use crate::line::BottomTouch;
pub use crate::spread::{PlannedRod, PlannedSpread, SavedSpread, Tackle};
pub use board::{Board, OwnedRig};
pub use boat_rod::BoatRod;
pub use box_part::{BoxPart, MadeRig, MadeState, Shortage};
pub use event::{BaitAfter, Caught, Event, EventKind, Given, Landing, Measured, OnLine, Strike};
pub use fish_mark::FishMark;
pub use outing::Outing;
pub use play::{OnRodAt, Play, Touched, Tried, tried};
pub use river_cast::RiverCast;
pub use running_line::RunningLine;
pub use temperature_reading::{BestPlace, TemperatureReading, best_place};
pub use water_body::WaterBody;
