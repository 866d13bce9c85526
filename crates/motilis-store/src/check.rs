//! What is wrong with a data file, and what mends it. Nothing is thrown away: what cannot stay is set aside, and can be put back.

use crate::copies::{Copy, Why};
use crate::file::{self, STEPS, columns, expected};
use crate::unread::{self, Unread};
use crate::{Error, Fault, Store, opening, trace};
use base64::Engine;
use base64::prelude::BASE64_STANDARD;
use jiff::Timestamp;
use rusqlite::types::{Value as Cell, ValueRef};
use rusqlite::{Connection, OptionalExtension, named_params, params_from_iter};
use serde_json::{Map, Value};
use std::path::Path;

/// Something that is wrong with a data file.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Wrong {
    /// What lies in it does not fit together.
    Damage(String),
    /// An index does not agree with its table.
    Index(String),
    /// It does not have what a file of its version has.
    Lacks(String),
    /// A row names something that is not there.
    Dangling(Dangling),
    /// A record that this version cannot read.
    Unread(Unread),
}

/// A row that names something that is not there.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Dangling {
    /// Its table.
    pub table: String,
    /// Its number in the table; none where rows have none.
    pub row: Option<i64>,
    /// The table of what is missing.
    pub parent: String,
    /// The column with its name, where that may be empty.
    pub may_be_empty: Option<String>,
}

/// What mends it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Mend {
    /// A copy has to take the file's place.
    Restore,
    /// The index is made anew.
    Reindex,
    /// The name is taken out; the row stays.
    Clear,
    /// The row is set aside, and can be put back.
    SetAside,
}

impl Wrong {
    /// What mends it.
    pub fn mend(&self) -> Mend {
        match self {
            Self::Damage(_) | Self::Lacks(_) => Mend::Restore,
            Self::Index(_) => Mend::Reindex,
            Self::Dangling(one) if one.may_be_empty.is_some() => Mend::Clear,
            Self::Dangling(_) | Self::Unread(_) => Mend::SetAside,
        }
    }
}

/// How many findings of one kind are listed.
const MOST: usize = 200;

/// Everything that is wrong with a file: its structure, its indices, what its rows name, every record.
///
/// # Errors
/// [`Error::Sqlite`] when the file cannot be looked through at all.
pub fn all(connection: &Connection) -> Result<Vec<Wrong>, Error> {
    let mut found = Vec::new();
    match integrity(connection) {
        Ok(lines) => found.extend(lines),
        Err(error) if error.fault() == Some(Fault::Damaged) => {
            found.push(Wrong::Damage(error.to_string()));
            return Ok(found);
        }
        Err(error) => return Err(error),
    }
    let has = columns(connection)?;
    let lacks = expected(STEPS.len())?
        .into_iter()
        .find(|one| !has.contains(one));
    found.extend(lacks.map(Wrong::Lacks));
    if found.iter().any(|wrong| wrong.mend() == Mend::Restore) {
        return Ok(found);
    }
    found.extend(dangling(connection)?.into_iter().map(Wrong::Dangling));
    found.extend(unread::all(connection)?.into_iter().map(Wrong::Unread));
    Ok(found)
}

/// Everything that is wrong with a file, which is not touched: a copy of it is brought up to date and looked through.
///
/// # Errors
/// Why it cannot be looked through at all.
pub fn of_file(path: &Path) -> Result<Vec<Wrong>, Error> {
    let not_there = || Error::Closed {
        path: path.into(),
        source: std::io::ErrorKind::NotFound.into(),
    };
    opening::look(path)?.ok_or_else(not_there)?;
    let (_folder, copy) = opening::copy_to_check(path)?;
    let mut connection = Connection::open(&copy)?;
    file::known_version(&connection, path)?;
    let brought = integrity(&connection).and_then(|lines| {
        let damaged = lines.iter().any(|one| one.mend() == Mend::Restore);
        if damaged {
            return Ok(Some(lines));
        }
        file::migrate(&mut connection, STEPS.len())?;
        Ok(None)
    });
    match brought {
        Ok(Some(damage)) => Ok(damage),
        Ok(None) => all(&connection),
        Err(error) if error.fault() == Some(Fault::Damaged) => {
            Ok(vec![Wrong::Damage(error.to_string())])
        }
        Err(error) => Err(error),
    }
}

fn integrity(connection: &Connection) -> Result<Vec<Wrong>, Error> {
    let mut statement = connection.prepare(&format!("PRAGMA integrity_check({MOST})"))?;
    let lines: Vec<String> = statement
        .query_map([], |row| row.get(0))?
        .collect::<Result<_, _>>()?;
    let is_index = |line: &str| {
        line.contains("missing from index")
            || line.contains("wrong # of entries in index")
            || line.contains("non-unique entry in index")
    };
    let lines = lines.into_iter().filter(|line| line != "ok");
    Ok(lines
        .map(|line| {
            let line = line.replace('\n', " ");
            if is_index(&line) {
                Wrong::Index(line)
            } else {
                Wrong::Damage(line)
            }
        })
        .collect())
}

fn dangling(connection: &Connection) -> Result<Vec<Dangling>, Error> {
    let mut statement = connection.prepare(
        "SELECT f.\"table\", f.rowid, f.parent,
             (SELECT k.\"from\" FROM pragma_foreign_key_list(f.\"table\") AS k
              JOIN pragma_table_info(f.\"table\") AS c ON c.name = k.\"from\"
              WHERE k.id = f.fkid AND c.\"notnull\" = 0 AND c.pk = 0)
         FROM pragma_foreign_key_check AS f LIMIT ?1",
    )?;
    let rows = statement.query_map([MOST as i64], |row| {
        Ok(Dangling {
            table: row.get(0)?,
            row: row.get(1)?,
            parent: row.get(2)?,
            may_be_empty: row.get(3)?,
        })
    })?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// What became of a mend.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Mended {
    /// Indices made anew.
    pub indices: bool,
    /// Names taken out of rows that stay.
    pub cleared: usize,
    /// Rows set aside.
    pub aside: usize,
    /// What is still wrong.
    pub left: usize,
}

/// Mends what can be mended, after a copy of the file as it is.
///
/// # Errors
/// [`Error::Copy`], and nothing is changed; [`Error::Sqlite`].
pub fn mend(store: &Store, now: Timestamp) -> Result<(Mended, Copy), Error> {
    store.writable()?;
    let connection = store.connection()?;
    let copy = store.copies().keep(&connection, now, Why::Mend)?;
    drop(connection);
    let wrong = store.read(all)?;
    let mut mended = Mended::default();
    if wrong.iter().any(|one| one.mend() == Mend::Reindex) {
        store.connection()?.execute_batch("REINDEX")?;
        mended.indices = true;
    }
    store.write(|connection| {
        // A row goes aside before those that name it do.
        connection.pragma_update(None, "defer_foreign_keys", "ON")?;
        let (cleared, aside) = tie_up(connection, now)?;
        connection.pragma_update(None, "defer_foreign_keys", "OFF")?;
        mended.cleared = cleared;
        mended.aside = aside;
        for one in unread::all(connection)? {
            match set_aside(connection, (one.table, one.id), &one.why, now) {
                Ok(()) => mended.aside += 1,
                Err(Error::Named { .. }) => {}
                Err(error) => return Err(error),
            }
        }
        mended.left = all(connection)?.len();
        trace::clear(connection)
    })?;
    Ok((mended, copy))
}

/// Takes out what names something that is not there, or sets the row aside; until nothing does any more.
pub(crate) fn tie_up(connection: &Connection, now: Timestamp) -> Result<(usize, usize), Error> {
    let (mut cleared, mut aside) = (0, 0);
    loop {
        let found = dangling(connection)?;
        let before = cleared + aside;
        for one in found {
            let table = &one.table;
            match (one.row, one.may_be_empty) {
                (Some(row), Some(column)) => {
                    let query = format!("UPDATE {table} SET {column} = NULL WHERE rowid = ?1");
                    // A row that has to name something of two, and loses the one it named, goes aside.
                    match connection.execute(&query, [row]) {
                        Ok(_) => cleared += 1,
                        Err(error) if is_constraint(&error) => {
                            aside += put_away(
                                connection,
                                table,
                                ("rowid = ?1", &[&row]),
                                &one.parent,
                                now,
                            )?;
                        }
                        Err(error) => return Err(error.into()),
                    }
                }
                (Some(row), None) => {
                    aside +=
                        put_away(connection, table, ("rowid = ?1", &[&row]), &one.parent, now)?;
                }
                (None, _) => aside += put_keyless_away(connection, table, &one.parent, now)?,
            }
        }
        if cleared + aside == before {
            return Ok((cleared, aside));
        }
    }
}

fn is_constraint(error: &rusqlite::Error) -> bool {
    error.sqlite_error_code() == Some(rusqlite::ErrorCode::ConstraintViolation)
}

/// Rows of a table without row numbers are found by what they name.
fn put_keyless_away(
    connection: &Connection,
    table: &str,
    parent: &str,
    now: Timestamp,
) -> Result<usize, Error> {
    let mut statement = connection.prepare(
        "SELECT id, \"from\", \"to\" FROM pragma_foreign_key_list(?1) WHERE \"table\" = ?2 ORDER BY id, seq",
    )?;
    let keys: Vec<(i64, String, Option<String>)> = statement
        .query_map([table, parent], |row| {
            Ok((row.get(0)?, row.get(1)?, row.get(2)?))
        })?
        .collect::<Result<_, _>>()?;
    let mut aside = 0;
    let mut ids: Vec<i64> = keys.iter().map(|(id, ..)| *id).collect();
    ids.dedup();
    for id in ids {
        let of = keys.iter().filter(|(other, ..)| *other == id);
        let pairs: Vec<String> = of
            .map(|(_, from, to)| format!("p.{} = {table}.{from}", to.as_deref().unwrap_or("id")))
            .collect();
        let none = format!(
            "NOT EXISTS (SELECT 1 FROM {parent} AS p WHERE {})",
            pairs.join(" AND ")
        );
        aside += put_away(connection, table, (&none, &[]), parent, now)?;
    }
    Ok(aside)
}

/// Sets rows aside that name something that is not there; how many.
fn put_away(
    connection: &Connection,
    table: &str,
    (which, values): (&str, &[&dyn rusqlite::ToSql]),
    parent: &str,
    now: Timestamp,
) -> Result<usize, Error> {
    let rows = rows_as_json(connection, table, (which, values))?;
    for row in &rows {
        keep(
            connection,
            table,
            row,
            &format!("what it names in {parent} is not there"),
            now,
        )?;
    }
    connection.execute(&format!("DELETE FROM {table} WHERE {which}"), values)?;
    Ok(rows.len())
}

/// Sets a record aside.
///
/// # Errors
/// [`Error::Missing`], [`Error::Named`] when others name it.
pub fn set_aside(
    connection: &Connection,
    (table, id): (&'static str, i64),
    why: &str,
    now: Timestamp,
) -> Result<(), Error> {
    let rows = rows_as_json(connection, table, ("id = ?1", &[&id]))?;
    let row = rows.first().ok_or(Error::Missing { what: table, id })?;
    // What only belongs to it would be lost with it: it goes only when nothing does.
    match connection.execute(&format!("DELETE FROM {table} WHERE id = ?1"), [id]) {
        Ok(_) => keep(connection, table, row, why, now),
        Err(error) if is_constraint(&error) => Err(Error::Named { what: table, id }),
        Err(error) => Err(error.into()),
    }
}

fn keep(
    connection: &Connection,
    table: &str,
    row: &Value,
    why: &str,
    now: Timestamp,
) -> Result<(), Error> {
    connection.execute(
        "INSERT INTO set_aside (record_table, record, why, at_utc_s) VALUES (:table, :record, :why, :at)",
        named_params! { ":table": table, ":record": row.to_string(), ":why": why, ":at": now.as_second() },
    )?;
    Ok(())
}

fn rows_as_json(
    connection: &Connection,
    table: &str,
    (which, values): (&str, &[&dyn rusqlite::ToSql]),
) -> Result<Vec<Value>, Error> {
    let mut statement = connection.prepare(&format!("SELECT * FROM {table} WHERE {which}"))?;
    let names: Vec<String> = statement
        .column_names()
        .into_iter()
        .map(str::to_owned)
        .collect();
    let mut rows = statement.query(values)?;
    let mut all = Vec::new();
    while let Some(row) = rows.next()? {
        let mut object = Map::new();
        for (place, name) in names.iter().enumerate() {
            object.insert(name.clone(), told(row.get_ref(place)?));
        }
        all.push(Value::Object(object));
    }
    Ok(all)
}

/// A cell as JSON.
pub(crate) fn told(cell: ValueRef<'_>) -> Value {
    match cell {
        ValueRef::Null => Value::Null,
        ValueRef::Integer(whole) => whole.into(),
        ValueRef::Real(figure) => figure.into(),
        ValueRef::Text(bytes) => String::from_utf8_lossy(bytes).into(),
        ValueRef::Blob(bytes) => serde_json::json!({ "base64": BASE64_STANDARD.encode(bytes) }),
    }
}

/// A cell out of JSON.
pub(crate) fn cell(value: &Value) -> Option<Cell> {
    Some(match value {
        Value::Null => Cell::Null,
        Value::Bool(flag) => Cell::Integer(i64::from(*flag)),
        Value::Number(number) => match number.as_i64() {
            Some(whole) => Cell::Integer(whole),
            None => Cell::Real(number.as_f64()?),
        },
        Value::String(text) => Cell::Text(text.clone()),
        Value::Object(map) => {
            let text = map.get("base64").filter(|_| map.len() == 1)?.as_str()?;
            Cell::Blob(BASE64_STANDARD.decode(text).ok()?)
        }
        Value::Array(_) => return None,
    })
}

/// A row that was set aside.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Aside {
    /// Its number among them.
    pub id: i64,
    /// The table it was in.
    pub table: String,
    /// The row, as JSON.
    pub record: String,
    /// Why it could not stay.
    pub why: String,
    /// When it was set aside.
    pub at: Timestamp,
}

/// Every row that is set aside, the newest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn aside(connection: &Connection) -> Result<Vec<Aside>, Error> {
    let mut statement = connection.prepare(
        "SELECT id, record_table, record, why, at_utc_s FROM set_aside ORDER BY id DESC",
    )?;
    let rows = statement.query_map([], |row| {
        Ok(Aside {
            id: row.get(0)?,
            table: row.get(1)?,
            record: row.get(2)?,
            why: row.get(3)?,
            at: Timestamp::from_second(row.get(4)?).unwrap_or(Timestamp::UNIX_EPOCH),
        })
    })?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// Puts a row back where it was.
///
/// # Errors
/// [`Error::Missing`]; [`Error::Unreadable`] when it still fits nowhere, and it stays where it is.
pub fn put_back(connection: &Connection, id: i64) -> Result<(), Error> {
    let missing = Error::Missing {
        what: "record set aside",
        id,
    };
    let found: Option<(String, String)> = connection
        .query_row(
            "SELECT record_table, record FROM set_aside WHERE id = ?1",
            [id],
            |row| Ok((row.get(0)?, row.get(1)?)),
        )
        .optional()?;
    let (table, record) = found.ok_or(missing)?;
    let unfit = |why: String| Error::Unreadable {
        what: "record set aside",
        id,
        why,
    };
    let has = columns(connection)?;
    let record: Map<String, Value> =
        serde_json::from_str(&record).map_err(|error| unfit(error.to_string()))?;
    if !has.contains(&table) {
        return Err(unfit(format!("there is no table {table} any more")));
    }
    let known: Vec<(&String, &Value)> = record
        .iter()
        .filter(|(column, _)| has.contains(&format!("{table}.{column}")))
        .collect();
    let names: Vec<&str> = known.iter().map(|(name, _)| name.as_str()).collect();
    let places = vec!["?"; names.len()].join(", ");
    let cells: Option<Vec<Cell>> = known.iter().map(|(_, value)| cell(value)).collect();
    let cells = cells.ok_or_else(|| unfit("a value is neither text nor figure".into()))?;
    let query = format!(
        "INSERT INTO {table} ({}) VALUES ({places})",
        names.join(", ")
    );
    match connection.execute(&query, params_from_iter(cells)) {
        Ok(_) => {}
        Err(error) if is_constraint(&error) => {
            return Err(unfit(
                "what it names is still not there, or its number is taken".into(),
            ));
        }
        Err(error) => return Err(error.into()),
    }
    connection.execute("DELETE FROM set_aside WHERE id = ?1", [id])?;
    trace::clear(connection)
}
