//! Small helpers between rows and records.

use crate::Error;
use motilis_core::book::OutingId;
use motilis_core::tackle::{LineMaterial, LineStock};
use motilis_core::units::Metres;
use rusqlite::types::{Value, ValueRef};
use rusqlite::{Connection, OptionalExtension, Row, RowIndex, params_from_iter};

/// Turns "no row" into [`Error::Missing`], and a row that cannot be read into [`Error::Unreadable`].
pub(crate) fn found<T>(row: rusqlite::Result<T>, what: &'static str, id: i64) -> Result<T, Error> {
    match row.optional() {
        Ok(row) => row.ok_or(Error::Missing { what, id }),
        Err(error) if is_unreadable(&error) => Err(Error::Unreadable {
            what,
            id,
            why: why(&error),
        }),
        Err(error) => Err(error.into()),
    }
}

/// Whether a row holds what this version cannot read, and the database is in order.
pub(crate) fn is_unreadable(error: &rusqlite::Error) -> bool {
    use rusqlite::Error::{FromSqlConversionFailure, IntegralValueOutOfRange, InvalidColumnType};
    matches!(
        error,
        FromSqlConversionFailure(..) | IntegralValueOutOfRange(..) | InvalidColumnType(..)
    )
}

/// What is wrong with a row that cannot be read.
pub(crate) fn why(error: &rusqlite::Error) -> String {
    match error {
        rusqlite::Error::FromSqlConversionFailure(_, _, why) => why.to_string(),
        other => other.to_string(),
    }
}

/// The rows that can be read; the others are named by [`crate::unread`].
pub(crate) fn readable<T>(
    rows: impl Iterator<Item = rusqlite::Result<T>>,
) -> Result<Vec<T>, Error> {
    let kept = rows.filter(|row| !row.as_ref().is_err_and(is_unreadable));
    Ok(kept.collect::<Result<_, _>>()?)
}

/// Why a column cannot be read, as the database's own error type.
pub(crate) fn unreadable(why: impl ToString) -> rusqlite::Error {
    rusqlite::Error::FromSqlConversionFailure(
        0,
        rusqlite::types::Type::Text,
        why.to_string().into(),
    )
}

/// Reads a keyed enumeration out of a text column.
pub(crate) fn keyed<T>(
    row: &Row<'_>,
    column: impl RowIndex + Copy,
    from_key: impl Fn(&str) -> Option<T>,
) -> rusqlite::Result<T> {
    let key = row.get_ref(column)?.as_str().map_err(unreadable)?;
    from_key(key).ok_or_else(|| {
        let name = column
            .idx(row.as_ref())
            .and_then(|at| row.as_ref().column_name(at));
        unreadable(format!("{} is {key:?}", name.unwrap_or_default()))
    })
}

/// The same out of a column that may be empty.
pub(crate) fn keyed_or_none<T>(
    row: &Row<'_>,
    column: impl RowIndex + Copy,
    from_key: impl Fn(&str) -> Option<T>,
) -> rusqlite::Result<Option<T>> {
    match row.get_ref(column)? {
        ValueRef::Null => Ok(None),
        _ => keyed(row, column, from_key).map(Some),
    }
}

/// Reads a line off the spool out of three columns that share a prefix.
pub(crate) fn line_stock(row: &Row<'_>, prefix: &str) -> rusqlite::Result<LineStock> {
    let column = |name: &str| format!("{prefix}_{name}");
    Ok(LineStock {
        material: keyed(row, &*column("material"), LineMaterial::from_key)?,
        test_lb: row.get(column("test_lb").as_str())?,
        diameter: Metres(row.get(column("diameter_m").as_str())?),
    })
}

/// Puts a row in by the names of its columns.
pub(crate) fn insert(
    connection: &Connection,
    table: &str,
    columns: &[(&'static str, Value)],
) -> rusqlite::Result<()> {
    let names: Vec<&str> = columns.iter().map(|(name, _)| *name).collect();
    let places: Vec<String> = (1..=names.len()).map(|place| format!("?{place}")).collect();
    let query = format!(
        "INSERT INTO {table} ({}) VALUES ({})",
        names.join(", "),
        places.join(", ")
    );
    let values = columns.iter().map(|(_, value)| value);
    connection
        .prepare_cached(&query)?
        .execute(params_from_iter(values))?;
    Ok(())
}

/// Puts columns of a row that is not thrown away anew; how many rows that were.
pub(crate) fn update_row(
    connection: &Connection,
    table: &str,
    id: i64,
    columns: &[(&'static str, Value)],
) -> rusqlite::Result<usize> {
    let sets: Vec<String> = (1..)
        .zip(columns)
        .map(|(place, (name, _))| format!("{name} = ?{place}"))
        .collect();
    let query = format!(
        "UPDATE {table} SET {} WHERE id = ?{} AND deleted_utc_s IS NULL",
        sets.join(", "),
        columns.len() + 1
    );
    let id = Value::from(id);
    let values = columns.iter().map(|(_, value)| value).chain([&id]);
    connection
        .prepare_cached(&query)?
        .execute(params_from_iter(values))
}

/// The outing of a row, thrown away or not, and whether it is; `None` for a number that none has.
pub(crate) fn whose_row(
    connection: &Connection,
    table: &str,
    id: i64,
) -> Result<Option<(OutingId, bool)>, Error> {
    let query = format!("SELECT outing_id, deleted_utc_s IS NOT NULL FROM {table} WHERE id = ?1");
    let mut statement = connection.prepare_cached(&query)?;
    let row = statement.query_row([id], |row| Ok((OutingId(row.get(0)?), row.get(1)?)));
    Ok(row.optional()?)
}
