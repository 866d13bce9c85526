//! One view model for each screen, and the frame they share.

mod frame;
mod log;
mod message;
mod tank;
mod today;

pub use frame::{Choice, Field, Frame, Here, Screen, Theme};
pub use log::{Entry, EntryForm, Log, Notice, Running};
pub use message::Message;
pub use tank::{Fact, Kind, Slider, Tank, TankForm};
pub use today::{Conditions, Today, TodayRow};
