//! Throwing a record away, and taking it back.

use crate::Error;
use jiff::Timestamp;
use motilis_core::book::{
    DunkId, EventId, LureId, OutingId, PartId, ReadingId, RigId, RuleId, SetupId, SpreadId,
    TouchId, WaterId,
};
use rusqlite::Connection;

/// A record that can be thrown away.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Record {
    /// A water.
    Water(WaterId),
    /// A rig.
    Rig(RigId),
    /// A part of the box.
    Part(PartId),
    /// A line set-up.
    Setup(SetupId),
    /// An outing; its events go and come with it.
    Outing(OutingId),
    /// A temperature read at a place.
    Reading(ReadingId),
    /// A log entry.
    Event(EventId),
    /// A local rule.
    Rule(RuleId),
    /// A spread.
    Spread(SpreadId),
    /// A plug or spoon.
    Lure(LureId),
    /// A dunk test.
    Dunk(DunkId),
    /// A touch of the bottom.
    Touch(TouchId),
}

impl Record {
    /// Its number.
    pub fn number(self) -> i64 {
        self.table().2
    }

    fn table(self) -> (&'static str, &'static str, i64) {
        match self {
            Self::Water(id) => ("waters", "water", id.0),
            Self::Rig(id) => ("rigs", "rig", id.0),
            Self::Part(id) => ("parts", "part", id.0),
            Self::Setup(id) => ("line_setups", "line set-up", id.0),
            Self::Outing(id) => ("outings", "outing", id.0),
            Self::Reading(id) => ("temperature_readings", "temperature reading", id.0),
            Self::Event(id) => ("events", "log entry", id.0),
            Self::Rule(id) => ("local_rules", "rule", id.0),
            Self::Spread(id) => ("spreads", "spread", id.0),
            Self::Lure(id) => ("lures", "lure", id.0),
            Self::Dunk(id) => ("dunk_tests", "dunk test", id.0),
            Self::Touch(id) => ("bottom_touches", "bottom touch", id.0),
        }
    }
}

/// Throws a record away; doing so twice is the same as once.
///
/// # Errors
/// [`Error::Missing`] when there never was one.
pub fn throw(connection: &Connection, record: Record, now: Timestamp) -> Result<(), Error> {
    mark(connection, record, Some(now.as_second()))
}

/// Takes it back.
///
/// # Errors
/// [`Error::Missing`] when there never was one.
pub fn take_back(connection: &Connection, record: Record) -> Result<(), Error> {
    mark(connection, record, None)
}

fn mark(connection: &Connection, record: Record, deleted: Option<i64>) -> Result<(), Error> {
    let (table, what, id) = record.table();
    let changed = connection.execute(
        &format!("UPDATE {table} SET deleted_utc_s = ?1 WHERE id = ?2"),
        (deleted, id),
    )?;
    if changed == 0 {
        return Err(Error::Missing { what, id });
    }
    Ok(())
}
