//! Temperatures read at several places on an outing.

use crate::Error;
use crate::row::{readable, unreadable};
use jiff::Timestamp;
use motilis_core::book::{OutingId, ReadingId, TemperatureReading};
use motilis_core::units::{Celsius, Metres};
use rusqlite::{Connection, Row, named_params};

/// Adds a reading.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the outing does not exist.
pub fn add(connection: &Connection, reading: &TemperatureReading) -> Result<ReadingId, Error> {
    connection.execute(
        "INSERT INTO temperature_readings (outing_id, place, at_utc_s, depth_m, temperature_c)
         VALUES (:outing_id, :place, :at_utc_s, :depth_m, :temperature_c)",
        named_params! {
            ":outing_id": reading.outing.0,
            ":place": reading.place.trim(),
            ":at_utc_s": reading.at.as_second(),
            ":depth_m": reading.depth.0,
            ":temperature_c": reading.temperature.0,
        },
    )?;
    Ok(ReadingId(connection.last_insert_rowid()))
}

/// Those of an outing, the newest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(
    connection: &Connection,
    outing: OutingId,
) -> Result<Vec<(ReadingId, TemperatureReading)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM temperature_readings WHERE outing_id = ?1 AND deleted_utc_s IS NULL
         ORDER BY at_utc_s DESC, id DESC",
    )?;
    let rows = statement.query_map([outing.0], |row| {
        Ok((ReadingId(row.get("id")?), read(row)?))
    })?;
    readable(rows)
}

fn read(row: &Row<'_>) -> rusqlite::Result<TemperatureReading> {
    Ok(TemperatureReading {
        outing: OutingId(row.get("outing_id")?),
        place: row.get("place")?,
        at: Timestamp::from_second(row.get("at_utc_s")?).map_err(unreadable)?,
        depth: Metres(row.get("depth_m")?),
        temperature: Celsius(row.get("temperature_c")?),
    })
}
