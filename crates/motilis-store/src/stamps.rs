//! Stamps of outings: one changes whenever something of its outing does, by triggers of the data file.

use crate::Error;
use crate::row::readable;
use motilis_core::book::OutingId;
use rusqlite::Connection;
use std::collections::HashMap;

/// Every stamp.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection) -> Result<HashMap<OutingId, i64>, Error> {
    let mut statement = connection.prepare_cached("SELECT outing_id, stamp FROM outing_stamps")?;
    let rows = statement.query_map([], |row| Ok((OutingId(row.get(0)?), row.get(1)?)))?;
    Ok(readable(rows)?.into_iter().collect())
}
