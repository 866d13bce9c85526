//! The box as CSV and JSON, in and out; the log, out.
//!
//! One record a part, the same fields in both formats ([`FIELDS`]); figures in SI with their unit in the
//! name, so that what goes out comes back to the last digit. Reading never stops at the first mistake:
//! [`Reading`] holds every record with its line and either a part or what is wrong with each field, so
//! that a preview can show all of it and nothing is imported by halves.

mod log;
mod parts;

pub use log::{Of, write_fish, write_log, write_passes};
pub use parts::{
    FIELDS, FieldProblem, Format, MOST_BYTES, Reading, Record, Refusal, read, table, write,
};
