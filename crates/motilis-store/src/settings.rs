//! What belongs to the boat rather than to a device.

use crate::Error;
use jiff::Timestamp;
use rusqlite::{Connection, OptionalExtension};
use std::path::Path;

/// The value of a setting, if it was ever set.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn get(connection: &Connection, name: &str) -> Result<Option<String>, Error> {
    let mut statement = connection.prepare_cached("SELECT value FROM settings WHERE name = ?1")?;
    Ok(statement.query_row([name], |row| row.get(0)).optional()?)
}

/// Which book a file holds: another number after each copy that took the place of one, 0 while none did.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn book(connection: &Connection) -> Result<u64, Error> {
    let number = get(connection, BOOK)?;
    Ok(number
        .and_then(|number| number.parse().ok())
        .unwrap_or_default())
}

/// Marks a copy that takes the place of a book.
pub(crate) fn mark_book(connection: &Connection, now: Timestamp) -> Result<(), Error> {
    set(connection, BOOK, &now.as_millisecond().to_string())
}

const BOOK: &str = "book";

/// Sets it.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn set(connection: &Connection, name: &str, value: &str) -> Result<(), Error> {
    connection.execute(
        "INSERT OR REPLACE INTO settings (name, value) VALUES (?1, ?2)",
        [name, value],
    )?;
    Ok(())
}

/// Every setting whose name begins so, with its value.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn beginning(connection: &Connection, with: &str) -> Result<Vec<(String, String)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT name, value FROM settings WHERE substr(name, 1, length(?1)) = ?1",
    )?;
    let rows = statement.query_map([with], |row| Ok((row.get(0)?, row.get(1)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// Takes a setting back to what it was before it was ever set.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn forget(connection: &Connection, name: &str) -> Result<(), Error> {
    connection.execute("DELETE FROM settings WHERE name = ?1", [name])?;
    Ok(())
}
/// A setting of a file that is not open: none where it is no data file, or has none of that name.
pub fn of_file(path: &Path, name: &str) -> Option<String> {
    let flags = rusqlite::OpenFlags::SQLITE_OPEN_READ_ONLY;
    let connection = Connection::open_with_flags(path, flags).ok()?;
    crate::file::known_version(&connection, path).ok()?;
    get(&connection, name).ok().flatten()
}
