//! Photographs of fish.

use crate::Error;
use crate::row::readable;
use motilis_core::book::{EventId, OutingId};
use rusqlite::{Connection, OptionalExtension};
use std::collections::BTreeSet;

/// A picture as it was taken.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Photograph {
    /// `image/jpeg`, `image/png` or `image/webp`.
    pub kind: String,
    /// Its bytes.
    pub bytes: Vec<u8>,
}

/// Puts a photograph to an entry, in place of the one there was.
///
/// # Errors
/// [`Error::Sqlite`] when there is no such entry or the picture is of another kind.
pub fn put(connection: &Connection, id: EventId, photo: &Photograph) -> Result<(), Error> {
    connection.execute(
        "INSERT OR REPLACE INTO photographs (event_id, kind, bytes) VALUES (?1, ?2, ?3)",
        (id.0, &photo.kind, &photo.bytes),
    )?;
    Ok(())
}

/// Takes it away; whether there was one.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn remove(connection: &Connection, id: EventId) -> Result<bool, Error> {
    let gone = connection.execute("DELETE FROM photographs WHERE event_id = ?1", [id.0])?;
    Ok(gone > 0)
}

/// The photograph of an entry, if it has one.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn get(connection: &Connection, id: EventId) -> Result<Option<Photograph>, Error> {
    let mut statement =
        connection.prepare_cached("SELECT kind, bytes FROM photographs WHERE event_id = ?1")?;
    let row = statement.query_row([id.0], |row| {
        Ok(Photograph {
            kind: row.get(0)?,
            bytes: row.get(1)?,
        })
    });
    Ok(row.optional()?)
}

/// Entries of an outing that have one.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(connection: &Connection, outing: OutingId) -> Result<BTreeSet<EventId>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT event_id FROM photographs JOIN events ON events.id = event_id WHERE outing_id = ?1",
    )?;
    let rows = statement.query_map([outing.0], |row| Ok(EventId(row.get(0)?)))?;
    Ok(readable(rows)?.into_iter().collect())
}
