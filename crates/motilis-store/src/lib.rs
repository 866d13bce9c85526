//! The Motilis data file: one `SQLite` file that holds the boat book.
//!
//! [`Store`] opens the file, brings an older one up to date (after keeping a copy of it) and refuses a
//! newer one. [`Store::read`] and [`Store::write`] hand out a connection: `read` sees the file as it is at one moment, `write` is one transaction,
//! on disk when it returns (write-ahead log, `synchronous = FULL`). The modules hold one aggregate
//! each, as functions on a connection; SQL stands where the table is owned.
//!
//! Nothing is deleted at once: [`trash`] marks a record and can take it back. Every change is an act ([`acts`])
//! that leaves a trace by which it is taken back. A row that this version cannot read is left out of lists and
//! named in [`unread`]; it is kept as it is.

pub mod acts;
pub mod archive;
pub mod bottoms;
pub mod casts;
pub mod check;
pub mod copies;
mod error;
pub mod events;
pub mod experiments;
mod fault;
mod file;
pub mod fish_marks;
mod lock;
pub mod lures;
pub mod made;
pub mod observed;
mod opening;
pub mod outings;
pub mod parts;
pub mod passes;
pub mod photographs;
pub mod readings;
mod rescue;
pub mod restore;
pub mod rigs;
pub mod rods;
mod row;
pub mod rules;
pub mod runs;
pub mod settings;
pub mod setups;
pub mod spots;
pub mod spreads;
pub mod stamps;
pub mod tidy;
mod trace;
pub mod tracks;
pub mod trash;
pub mod unread;
pub mod waters;

pub use error::Error;
pub use fault::Fault;
pub use file::{READERS, Standing, Store, newest_version};
pub use lock::is_held;
pub use opening::{Opening, free_space};
pub use rescue::Salvage;
pub use rusqlite::Connection;
pub use rusqlite::types::ValueRef;
