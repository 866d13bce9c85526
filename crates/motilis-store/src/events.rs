//! What happened on the water: strikes, fish, follows, bottom touches, notes.

use crate::row::{found, keyed, readable, unreadable};
use crate::{Error, passes};
use jiff::Timestamp;
use motilis_core::book::{Event, EventId, EventKind, OnLine, OutingId, RigId};
use motilis_core::evidence::{Entry, Logged};
use motilis_core::fish::Fish;
use motilis_core::units::{Metres, MetresPerSecond};
use rusqlite::types::Value;
use rusqlite::{Connection, Row};
use std::collections::BTreeMap;

/// Adds an event.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the outing or rig do not exist.
pub fn add(connection: &Connection, event: &Event) -> Result<EventId, Error> {
    connection.execute(
        "INSERT INTO events (outing_id, kind, at_utc_s, entered_utc_s, rig_id, out_m, depth_m, speed_mps,
             length_m, kept, note)
         VALUES (:outing_id, :kind, :at_utc_s, :entered_utc_s, :rig_id, :out_m, :depth_m, :speed_mps,
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
        "UPDATE events SET outing_id = :outing_id, kind = :kind, at_utc_s = :at_utc_s, entered_utc_s = :entered_utc_s,
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
    readable(rows)
}

/// What the log says of hours, of every outing for one fish.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn logged(connection: &Connection, fish: Fish) -> Result<Vec<Logged>, Error> {
    let mut outings: BTreeMap<i64, Logged> = BTreeMap::new();
    let mut statement = connection.prepare_cached(
        "SELECT id, started_utc_s, ended_utc_s FROM outings WHERE fish = ?1 AND deleted_utc_s IS NULL",
    )?;
    let instant = |second| Timestamp::from_second(second).map_err(unreadable);
    let rows = statement.query_map([fish.key()], |row| {
        let logged = Logged {
            started: instant(row.get(1)?)?,
            ended: row.get::<_, Option<i64>>(2)?.map(instant).transpose()?,
            entries: Vec::new(),
            passes: Vec::new(),
        };
        Ok((row.get::<_, i64>(0)?, logged))
    })?;
    outings.extend(readable(rows)?);
    let mut statement = connection.prepare_cached(
        "SELECT outing_id, events.rig_id, at_utc_s, entered_utc_s, kind = 'fish'
         FROM events JOIN outings ON outings.id = outing_id
         WHERE fish = ?1 AND events.deleted_utc_s IS NULL AND outings.deleted_utc_s IS NULL",
    )?;
    let rows = statement.query_map([fish.key()], |row| {
        let entry = Entry {
            rig: row.get::<_, Option<i64>>(1)?.map(RigId),
            at: instant(row.get(2)?)?,
            entered: instant(row.get(3)?)?,
            fish: row.get(4)?,
        };
        Ok((row.get::<_, i64>(0)?, entry))
    })?;
    for (outing, entry) in readable(rows)? {
        if let Some(logged) = outings.get_mut(&outing) {
            logged.entries.push(entry);
        }
    }
    for (outing, logged) in &mut outings {
        let passes = passes::of_outing(connection, OutingId(*outing))?;
        logged.passes = passes.into_iter().map(|(_, pass)| pass).collect();
    }
    Ok(outings.into_values().collect())
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

fn columns(event: &Event) -> [(&'static str, Value); 11] {
    let line = event.line;
    [
        (":outing_id", event.outing.0.into()),
        (":kind", event.kind.key().to_owned().into()),
        (":at_utc_s", event.at.as_second().into()),
        (":entered_utc_s", event.entered.as_second().into()),
        (":rig_id", line.map(|line| line.rig.0).into()),
        (":out_m", line.map(|line| line.out.0).into()),
        (
            ":depth_m",
            line.and_then(|line| line.depth).map(|depth| depth.0).into(),
        ),
        (":speed_mps", event.speed.0.into()),
        (":length_m", event.length.map(|length| length.0).into()),
        (":kept", event.kept.map(i64::from).into()),
        (":note", event.note.clone().into()),
    ]
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<Event> {
    let line = match row.get::<_, Option<i64>>("rig_id")? {
        None => None,
        Some(rig) => Some(OnLine {
            rig: RigId(rig),
            out: Metres(row.get("out_m")?),
            depth: row.get::<_, Option<f64>>("depth_m")?.map(Metres),
        }),
    };
    Ok(Event {
        outing: OutingId(row.get("outing_id")?),
        kind: keyed(row, "kind", EventKind::from_key)?,
        at: Timestamp::from_second(row.get("at_utc_s")?).map_err(unreadable)?,
        entered: Timestamp::from_second(row.get("entered_utc_s")?).map_err(unreadable)?,
        line,
        speed: MetresPerSecond(row.get("speed_mps")?),
        length: row.get::<_, Option<f64>>("length_m")?.map(Metres),
        kept: row.get("kept")?,
        note: row.get("note")?,
    })
}
