//! What belongs to the boat rather than to a device.

use crate::Error;
use rusqlite::{Connection, OptionalExtension};

/// The value of a setting, if it was ever set.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn get(connection: &Connection, name: &str) -> Result<Option<String>, Error> {
    let mut statement = connection.prepare_cached("SELECT value FROM settings WHERE name = ?1")?;
    Ok(statement.query_row([name], |row| row.get(0)).optional()?)
}

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
