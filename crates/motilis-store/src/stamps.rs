//! Stamps of outings and of the box: one changes whenever something of its outing, or of the box, does, by triggers of the data file.

use crate::Error;
use crate::row::readable;
use motilis_core::book::OutingId;
use motilis_core::fish::Fish;
use rusqlite::Connection;

/// Stamps of the outings that are not thrown away and no practice, or of those for one fish, the newest outing first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection, fish: Option<Fish>) -> Result<Vec<(OutingId, i64)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT id, stamp FROM outings JOIN outing_stamps ON outing_id = id
         WHERE (?1 IS NULL OR fish = ?1) AND deleted_utc_s IS NULL AND NOT practice ORDER BY started_utc_s DESC, id DESC",
    )?;
    let rows = statement.query_map([fish.map(Fish::key)], |row| {
        Ok((OutingId(row.get(0)?), row.get(1)?))
    })?;
    readable(rows)
}

/// The stamp of the box: it changes with any rig, part or dunk test.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_box(connection: &Connection) -> Result<i64, Error> {
    let mut statement = connection.prepare_cached("SELECT stamp FROM box_stamp")?;
    Ok(statement.query_row([], |row| row.get(0))?)
}
