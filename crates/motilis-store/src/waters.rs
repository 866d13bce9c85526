//! Lakes, rivers and sea areas.

use crate::Error;
use crate::row::found;
use motilis_core::book::{WaterBody, WaterId};
use motilis_core::units::Metres;
use rusqlite::{Connection, Row, named_params};

/// Adds a water.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range.
pub fn add(connection: &Connection, water: &WaterBody) -> Result<WaterId, Error> {
    connection.execute(
        "INSERT INTO waters (name, latitude_deg, longitude_deg, zone, salt, clarity_m)
         VALUES (:name, :latitude_deg, :longitude_deg, :zone, :salt, :clarity_m)",
        named_params! {
            ":name": water.name,
            ":latitude_deg": water.latitude_deg,
            ":longitude_deg": water.longitude_deg,
            ":zone": water.zone,
            ":salt": water.salt,
            ":clarity_m": water.clarity.0,
        },
    )?;
    Ok(WaterId(connection.last_insert_rowid()))
}

/// Every water, by name.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection) -> Result<Vec<(WaterId, WaterBody)>, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM waters WHERE deleted_utc_s IS NULL ORDER BY name")?;
    let rows = statement.query_map([], |row| Ok((WaterId(row.get("id")?), read(row)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// One water, deleted or not: old outings still show it.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: WaterId) -> Result<WaterBody, Error> {
    let mut statement = connection.prepare_cached("SELECT * FROM waters WHERE id = ?1")?;
    found(statement.query_row([id.0], read), "water", id.0)
}

fn read(row: &Row<'_>) -> rusqlite::Result<WaterBody> {
    Ok(WaterBody {
        name: row.get("name")?,
        latitude_deg: row.get("latitude_deg")?,
        longitude_deg: row.get("longitude_deg")?,
        zone: row.get("zone")?,
        salt: row.get("salt")?,
        clarity: Metres(row.get("clarity_m")?),
    })
}
