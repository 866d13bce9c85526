//! What an act leaves behind so that it can be taken back: for every row it touched the statement that puts the row
//! back as it was.
//!
//! Temporary triggers on every table write those statements down, as `SQLite`'s own documentation describes it
//! ("Automatic Undo/Redo Using `SQLite`", sqlite.org/undoredo.html). They live in the connection, so that the data file
//! holds nothing of them.

use crate::Error;
use rusqlite::Connection;

/// Tables whose rows are not part of any act.
const OUTSIDE: [&str; 7] = [
    "set_aside",
    "box_stamp",
    "acts",
    "act_traces",
    "outing_stamps",
    "bottom_charts",
    "bottom_cells",
];

/// Begins to write down what is done on a connection.
///
/// # Errors
/// [`Error::Sqlite`].
pub(crate) fn watch(connection: &Connection) -> rusqlite::Result<()> {
    // A row that is replaced counts as thrown away and put in anew.
    connection.pragma_update(None, "recursive_triggers", "ON")?;
    connection.execute_batch(
        "CREATE TEMP TABLE IF NOT EXISTS trace (place INTEGER PRIMARY KEY, record TEXT, back TEXT)",
    )?;
    let mut statement = connection.prepare(
        "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'",
    )?;
    let tables: Vec<String> = statement
        .query_map([], |row| row.get(0))?
        .collect::<Result<_, _>>()?;
    for table in tables
        .iter()
        .filter(|table| !OUTSIDE.contains(&table.as_str()))
    {
        connection.execute_batch(&triggers(table, &Columns::of(connection, table)?))?;
    }
    Ok(())
}

/// Forgets what was written down.
pub(crate) fn clear(connection: &Connection) -> Result<(), Error> {
    connection.execute("DELETE FROM temp.trace", [])?;
    Ok(())
}

struct Columns {
    all: Vec<String>,
    key: Vec<String>,
}

impl Columns {
    fn of(connection: &Connection, table: &str) -> rusqlite::Result<Self> {
        let mut statement = connection.prepare("SELECT name, pk FROM pragma_table_info(?1)")?;
        let columns: Vec<(String, bool)> = statement
            .query_map([table], |row| Ok((row.get(0)?, row.get(1)?)))?
            .collect::<Result<_, _>>()?;
        let named = |(name, _): &(String, bool)| name.clone();
        Ok(Self {
            key: columns.iter().filter(|(_, key)| *key).map(named).collect(),
            all: columns.iter().map(named).collect(),
        })
    }
}

/// The three triggers of a table. Names of tables and columns are the migrations' own.
fn triggers(table: &str, columns: &Columns) -> String {
    let listed = |names: &[String], each: &dyn Fn(&str) -> String, between: &str| {
        let texts: Vec<String> = names.iter().map(|name| each(name)).collect();
        texts.join(between)
    };
    let key = |row: &str| {
        let equals = |name: &str| format!("'{name} = ' || quote({row}.{name})");
        listed(&columns.key, &equals, " || ' AND ' || ")
    };
    let record = |row: &str| format!("'{table}: ' || {}", key(row));
    let sets = listed(
        &columns.all,
        &|name| format!("'{name} = ' || quote(OLD.{name})"),
        " || ', ' || ",
    );
    let values = listed(
        &columns.all,
        &|name| format!("quote(OLD.{name})"),
        " || ', ' || ",
    );
    let names = columns.all.join(", ");
    let new = key("NEW");
    format!(
        "CREATE TEMP TRIGGER IF NOT EXISTS trace_{table}_i AFTER INSERT ON main.{table} BEGIN
             INSERT INTO trace (record, back) VALUES ({}, 'DELETE FROM {table} WHERE ' || {new}); END;
         CREATE TEMP TRIGGER IF NOT EXISTS trace_{table}_u AFTER UPDATE ON main.{table} BEGIN
             INSERT INTO trace (record, back) VALUES ({}, 'UPDATE {table} SET ' || {sets} || ' WHERE ' || {new}); END;
         CREATE TEMP TRIGGER IF NOT EXISTS trace_{table}_d AFTER DELETE ON main.{table} BEGIN
             INSERT INTO trace (record, back) VALUES ({}, 'INSERT INTO {table} ({names}) VALUES (' || {values} || ')'); END;",
        record("NEW"),
        record("NEW"),
        record("OLD"),
    )
}
