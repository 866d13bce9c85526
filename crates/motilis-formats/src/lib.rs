//! Open formats: the box and the log as CSV and JSON, tracks as GPX, in and out; NMEA 0183 of a boat's instruments ([`nmea`]).
//!
//! One record a part or entry, the same fields in both formats ([`FIELDS`]); figures in SI with their unit in the
//! name, so that what goes out comes back to the last digit. Reading never stops at the first mistake:
//! [`Reading`] and [`LogReading`] hold every record with its line and either what it is or what is wrong with each
//! field, so that a preview can show all of it and nothing is imported by halves.

mod gpx;
mod log;
pub mod nmea;
mod parts;
mod quoted;

pub use gpx::{GpxRefusal, MOST_GPX_BYTES, Mark, Recorded, read_gpx, write_gpx, write_track};
pub use log::{
    LogReading, LogRecord, LogRefusal, MOST_LOG_BYTES, Names, Of, Rate, read_log, write_casts,
    write_entries, write_fish, write_log, write_passes, write_rates,
};
pub use parts::{
    FIELDS, FieldProblem, Format, MOST_BYTES, Reading, Record, Refusal, read, table, write,
};
pub use quoted::quoted;
