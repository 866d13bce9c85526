//! Fish that were seen on the sounder.

use crate::Error;
use crate::row::{found, insert, readable, unreadable};
use jiff::Timestamp;
use motilis_core::book::{FishMark, FishMarkId, OutingId};
use motilis_core::units::Metres;
use rusqlite::{Connection, Row};

/// Adds a mark.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the outing does not exist.
pub fn add(connection: &Connection, mark: &FishMark) -> Result<FishMarkId, Error> {
    let columns = [
        ("outing_id", mark.outing.0.into()),
        ("lat", mark.place[0].into()),
        ("lon", mark.place[1].into()),
        ("depth_m", mark.depth.0.into()),
        ("at_utc_s", mark.at.as_second().into()),
    ];
    insert(connection, "fish_marks", &columns)?;
    Ok(FishMarkId(connection.last_insert_rowid()))
}

/// One that is not thrown away.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: FishMarkId) -> Result<FishMark, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM fish_marks WHERE id = ?1 AND deleted_utc_s IS NULL")?;
    found(statement.query_row([id.0], read), "fish mark", id.0)
}

/// Those of an outing, the earliest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(
    connection: &Connection,
    outing: OutingId,
) -> Result<Vec<(FishMarkId, FishMark)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM fish_marks WHERE outing_id = ?1 AND deleted_utc_s IS NULL ORDER BY at_utc_s, id",
    )?;
    readable(statement.query_map([outing.0], |row| {
        Ok((FishMarkId(row.get("id")?), read(row)?))
    })?)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<FishMark> {
    Ok(FishMark {
        outing: OutingId(row.get("outing_id")?),
        place: [row.get("lat")?, row.get("lon")?],
        depth: Metres(row.get("depth_m")?),
        at: Timestamp::from_second(row.get("at_utc_s")?).map_err(unreadable)?,
    })
}
