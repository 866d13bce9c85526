//! What happened on the water: strikes, fish, follows, bottom touches, notes.

use crate::Error;
use crate::row::{found, keyed, unreadable};
use jiff::Timestamp;
use motilis_core::book::{Event, EventId, EventKind, OnLine, OutingId, RigId};
use motilis_core::evidence::Record;
use motilis_core::fish::Fish;
use motilis_core::units::{Metres, MetresPerSecond};
use rusqlite::types::Value;
use rusqlite::{Connection, Row};

/// Adds an event.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the outing or rig do not exist.
pub fn add(connection: &Connection, event: &Event) -> Result<EventId, Error> {
    connection.execute(
        "INSERT INTO events (outing_id, kind, at_utc_s, rig_id, out_m, depth_m, speed_mps,
             length_m, kept, note)
         VALUES (:outing_id, :kind, :at_utc_s, :rig_id, :out_m, :depth_m, :speed_mps,
             :length_m, :kept, :note)",
        &columns(event)[..],
    )?;
    Ok(EventId(connection.last_insert_rowid()))
}

/// Puts a corrected event in place of the old one.
///
/// # Errors
/// [`Error::Missing`], [`Error::Sqlite`].
pub fn update(connection: &Connection, id: EventId, event: &Event) -> Result<(), Error> {
    let mut columns = columns(event).to_vec();
    columns.push((":id", id.0.into()));
    let changed = connection.execute(
        "UPDATE events SET outing_id = :outing_id, kind = :kind, at_utc_s = :at_utc_s,
             rig_id = :rig_id, out_m = :out_m, depth_m = :depth_m, speed_mps = :speed_mps,
             length_m = :length_m, kept = :kept, note = :note
         WHERE id = :id AND deleted_utc_s IS NULL",
        &columns[..],
    )?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "log entry",
            id: id.0,
        });
    }
    Ok(())
}

/// The events of an outing, the newest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(
    connection: &Connection,
    outing: OutingId,
) -> Result<Vec<(EventId, Event)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM events WHERE outing_id = ?1 AND deleted_utc_s IS NULL
         ORDER BY at_utc_s DESC, id DESC",
    )?;
    let rows = statement.query_map([outing.0], |row| Ok((EventId(row.get("id")?), read(row)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// Fish and rod-hours of each rig, on outings for one fish.
///
/// A rig with an entry counts as out for the whole outing, from its beginning to its last entry: passes are
/// not logged yet, so this is the most that can be said.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn records(connection: &Connection, fish: Fish) -> Result<Vec<(RigId, Record)>, Error> {
    let mut statement = connection.prepare_cached(
        "WITH spans AS (
             SELECT outings.id, (max(at_utc_s) - started_utc_s) / 3600.0 AS hours
             FROM outings JOIN events ON outing_id = outings.id
             WHERE fish = ?1 AND outings.deleted_utc_s IS NULL AND events.deleted_utc_s IS NULL
             GROUP BY outings.id),
         days AS (
             SELECT rig_id, sum(kind = 'fish') AS fish, max(hours) AS hours
             FROM events JOIN spans ON spans.id = outing_id
             WHERE rig_id IS NOT NULL AND deleted_utc_s IS NULL
             GROUP BY rig_id, outing_id)
         SELECT rig_id, sum(fish) AS fish, sum(hours) AS hours FROM days GROUP BY rig_id",
    )?;
    let rows = statement.query_map([fish.key()], |row| {
        let record = Record {
            fish: row.get("fish")?,
            rod_hours: row.get::<_, f64>("hours")?.max(0.0),
        };
        Ok((RigId(row.get("rig_id")?), record))
    })?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// One event that is not deleted.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: EventId) -> Result<Event, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM events WHERE id = ?1 AND deleted_utc_s IS NULL")?;
    found(statement.query_row([id.0], read), "log entry", id.0)
}

fn columns(event: &Event) -> [(&'static str, Value); 10] {
    let line = event.line;
    [
        (":outing_id", event.outing.0.into()),
        (":kind", event.kind.key().to_owned().into()),
        (":at_utc_s", event.at.as_second().into()),
        (":rig_id", line.map(|line| line.rig.0).into()),
        (":out_m", line.map(|line| line.out.0).into()),
        (":depth_m", line.map(|line| line.depth.0).into()),
        (":speed_mps", event.speed.0.into()),
        (":length_m", event.length.map(|length| length.0).into()),
        (":kept", event.kept.map(i64::from).into()),
        (":note", event.note.clone().into()),
    ]
}

fn read(row: &Row<'_>) -> rusqlite::Result<Event> {
    let line = match row.get::<_, Option<i64>>("rig_id")? {
        None => None,
        Some(rig) => Some(OnLine {
            rig: RigId(rig),
            out: Metres(row.get("out_m")?),
            depth: Metres(row.get("depth_m")?),
        }),
    };
    Ok(Event {
        outing: OutingId(row.get("outing_id")?),
        kind: keyed(row, "kind", EventKind::from_key)?,
        at: Timestamp::from_second(row.get("at_utc_s")?).map_err(unreadable)?,
        line,
        speed: MetresPerSecond(row.get("speed_mps")?),
        length: row.get::<_, Option<f64>>("length_m")?.map(Metres),
        kept: row.get("kept")?,
        note: row.get("note")?,
    })
}
