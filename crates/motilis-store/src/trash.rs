//! Throwing a record away, and taking it back.

use crate::Error;
use jiff::Timestamp;
use motilis_core::book::{
    CastId, DunkId, EventId, FishMarkId, LureId, OutingId, PartId, PassId, ReadingId, RigId,
    RuleId, RunId, SetupId, SpotId, SpreadId, TouchId, TrackId, WaterId,
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
    /// A pass: hours of a rod.
    Pass(PassId),
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
    /// A track of an outing.
    Track(TrackId),
    /// A spot.
    Spot(SpotId),
    /// A run of a river.
    Run(RunId),
    /// A cast.
    Cast(CastId),
    /// A fish seen on the sounder.
    FishMark(FishMarkId),
}

impl Record {
    /// The record of a kind, by its key, and a number.
    pub fn of(key: &str, id: i64) -> Option<Self> {
        KINDS
            .iter()
            .map(|(of, _)| of(id))
            .find(|record| record.key() == key)
    }

    /// Its kind, as addresses name it.
    pub fn key(self) -> &'static str {
        self.table().0
    }

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
            Self::Pass(id) => ("passes", "pass", id.0),
            Self::Rule(id) => ("local_rules", "rule", id.0),
            Self::Spread(id) => ("spreads", "spread", id.0),
            Self::Lure(id) => ("lures", "lure", id.0),
            Self::Dunk(id) => ("dunk_tests", "dunk test", id.0),
            Self::Touch(id) => ("bottom_touches", "bottom touch", id.0),
            Self::Track(id) => ("tracks", "track", id.0),
            Self::Spot(id) => ("spots", "spot", id.0),
            Self::Run(id) => ("runs", "run", id.0),
            Self::Cast(id) => ("casts", "cast", id.0),
            Self::FishMark(id) => ("fish_marks", "fish mark", id.0),
        }
    }
}

/// A record that lies in the trash.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Thrown {
    /// The record.
    pub record: Record,
    /// What it is: "rig", "log entry".
    pub what: &'static str,
    /// What it was called, or what tells it apart.
    pub name: String,
    /// When it was thrown away.
    pub at: Timestamp,
}

/// How a record is made of its number, and the SQL that says what it is called.
type Kind = (fn(i64) -> Record, &'static str);

/// Every kind of record.
const KINDS: [Kind; 18] = [
    (
        |id| Record::Outing(OutingId(id)),
        "date(started_utc_s, 'unixepoch')",
    ),
    (
        |id| Record::Event(EventId(id)),
        "replace(kind, '_', ' ') || ' of ' || date(at_utc_s, 'unixepoch')",
    ),
    (|id| Record::Reading(ReadingId(id)), "place"),
    (
        |id| Record::Pass(PassId(id)),
        "iif(rod IS NULL, '', 'rod ' || rod || ', ') || time(from_utc_s, 'unixepoch') || ' of ' || date(from_utc_s, 'unixepoch')",
    ),
    (|id| Record::Rig(RigId(id)), "name"),
    (
        |id| Record::Part(PartId(id)),
        "replace(style, '_', ' ') || ' ' || part || ' ' || size || ', ' || colour",
    ),
    (|id| Record::Setup(SetupId(id)), "name"),
    (|id| Record::Spread(SpreadId(id)), "name"),
    (|id| Record::Lure(LureId(id)), "name"),
    (|id| Record::Water(WaterId(id)), "name"),
    (
        |id| Record::Rule(RuleId(id)),
        "replace(topic, '_', ' ') || ', ' || source",
    ),
    (|id| Record::Dunk(DunkId(id)), "replace(seen, '_', ' ')"),
    (
        |id| Record::Touch(TouchId(id)),
        "iif(touched, 'touched', 'ran clear') || ' on ' || date(at_utc_s, 'unixepoch')",
    ),
    (|id| Record::Track(TrackId(id)), "name"),
    (|id| Record::Spot(SpotId(id)), "name"),
    (|id| Record::Run(RunId(id)), "name"),
    (
        |id| Record::Cast(CastId(id)),
        "replace(presentation, '_', ' ') || ' of ' || date(at_utc_s, 'unixepoch')",
    ),
    (
        |id| Record::FishMark(FishMarkId(id)),
        "'seen at ' || time(at_utc_s, 'unixepoch') || ' of ' || date(at_utc_s, 'unixepoch')",
    ),
];

/// What was thrown away since a moment, the newest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn since(connection: &Connection, from: Timestamp) -> Result<Vec<Thrown>, Error> {
    let mut thrown = Vec::new();
    for (of, name) in KINDS {
        let (table, what, _) = of(0).table();
        let mut statement = connection.prepare_cached(&format!(
            "SELECT id, {name}, deleted_utc_s FROM {table} WHERE deleted_utc_s >= ?1"
        ))?;
        let rows = statement.query_map([from.as_second()], |row| {
            Ok((
                row.get::<_, i64>(0)?,
                row.get::<_, String>(1)?,
                row.get::<_, i64>(2)?,
            ))
        })?;
        for row in rows {
            let (id, name, at) = row?;
            thrown.push(Thrown {
                record: of(id),
                what,
                name,
                at: Timestamp::from_second(at).unwrap_or(from),
            });
        }
    }
    thrown.sort_by_key(|one| std::cmp::Reverse(one.at));
    Ok(thrown)
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
