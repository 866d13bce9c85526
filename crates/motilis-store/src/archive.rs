//! The whole book as one JSON document, out and into a new data file.
//!
//! Every table with its columns and rows, as the file has them, thrown-away records too; only what remembers acts stays
//! behind. A document of an older version is read into a file of that version, which is then brought up to date.

use crate::check::{cell, told};
use crate::file::{STEPS, migrate};
use crate::{Error, Store, unread};
use rusqlite::types::Value as Cell;
use rusqlite::{Connection, params_from_iter};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::collections::BTreeMap;
use std::path::Path;

/// What remembers acts, and what a file reckons for itself.
const OUTSIDE: [&str; 4] = ["acts", "act_traces", "outing_stamps", "box_stamp"];
/// Make of the document.
const MAKE: u32 = 1;

#[derive(Debug, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Document {
    motilis_book: u32,
    data_version: usize,
    tables: BTreeMap<String, Table>,
}

#[derive(Debug, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Table {
    columns: Vec<String>,
    rows: Vec<Vec<Value>>,
}

fn tables(connection: &Connection) -> Result<Vec<String>, Error> {
    let mut statement = connection.prepare(
        "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name",
    )?;
    let names = statement.query_map([], |row| row.get::<_, String>(0))?;
    let names: Vec<String> = names.collect::<rusqlite::Result<_>>()?;
    let kept = names.into_iter();
    Ok(kept
        .filter(|name| !OUTSIDE.contains(&name.as_str()))
        .collect())
}

/// Everything the file holds, as JSON.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn write(connection: &Connection) -> Result<String, Error> {
    let mut whole = BTreeMap::new();
    for name in tables(connection)? {
        let mut statement = connection.prepare(&format!("SELECT * FROM {name}"))?;
        let columns: Vec<String> = statement
            .column_names()
            .into_iter()
            .map(str::to_owned)
            .collect();
        let mut rows = Vec::new();
        let mut found = statement.query([])?;
        while let Some(row) = found.next()? {
            let cells = (0..columns.len()).map(|place| Ok(told(row.get_ref(place)?)));
            rows.push(cells.collect::<rusqlite::Result<_>>()?);
        }
        whole.insert(name, Table { columns, rows });
    }
    let document = Document {
        motilis_book: MAKE,
        data_version: STEPS.len(),
        tables: whole,
    };
    Ok(serde_json::to_string(&document).expect("texts and finite figures can be written") + "\n")
}

/// What came out of a document.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Restored {
    /// Rows that came.
    pub rows: usize,
    /// Records among them that this version cannot read; they are kept as they are.
    pub unread: usize,
}

/// Makes a data file of a document; an existing file is left alone.
///
/// # Errors
/// [`Error::Exists`], [`Error::NoBook`] with what is wrong with the document, [`Error::Newer`]. Nothing is left then.
pub fn read(text: &str, path: &Path) -> Result<Restored, Error> {
    if path.exists() {
        return Err(Error::Exists { path: path.into() });
    }
    let reader = &mut serde_json::Deserializer::from_str(text);
    let document: Document = serde_path_to_error::deserialize(reader).map_err(|error| {
        let at = error.path().to_string();
        Error::NoBook(format!("{at}: {}", error.inner()))
    })?;
    if document.motilis_book != MAKE {
        let make = document.motilis_book;
        return Err(Error::NoBook(format!(
            "motilis_book: make {make} of the document is not known here, only {MAKE}"
        )));
    }
    if document.data_version > STEPS.len() || document.data_version == 0 {
        return Err(Error::Newer {
            path: path.into(),
            found: document.data_version,
            known: STEPS.len(),
        });
    }
    let made = make(&document, path).and_then(|rows| {
        let store = Store::open(path)?;
        let unread = store.read(unread::all)?.len();
        Ok(Restored { rows, unread })
    });
    if made.is_err() {
        for end in ["", "-wal", "-shm"] {
            let mut name = path.as_os_str().to_owned();
            name.push(end);
            // What is not there need not go.
            let _ = std::fs::remove_file(name);
        }
    }
    made
}

fn make(document: &Document, path: &Path) -> Result<usize, Error> {
    let mut connection = Connection::open(path)?;
    migrate(&mut connection, document.data_version)?;
    let known = tables(&connection)?;
    let transaction = connection.transaction()?;
    for table in &known {
        transaction.execute(&format!("DELETE FROM {table}"), [])?;
    }
    let mut count = 0;
    for (name, table) in &document.tables {
        if !known.contains(name) {
            return Err(Error::NoBook(format!(
                "tables.{name}: data version {} has no such table",
                document.data_version
            )));
        }
        let wrong = |place: String, why: &dyn std::fmt::Display| {
            Error::NoBook(format!("tables.{name}{place}: {why}"))
        };
        let columns: Vec<String> = transaction
            .prepare("SELECT name FROM pragma_table_info(?1)")?
            .query_map([name], |row| row.get(0))?
            .collect::<rusqlite::Result<_>>()?;
        if let Some(column) = table.columns.iter().find(|one| !columns.contains(one)) {
            return Err(wrong(
                ".columns".into(),
                &format!("there is no column {column:?}"),
            ));
        }
        let places: Vec<String> = (1..=table.columns.len()).map(|n| format!("?{n}")).collect();
        let query = format!(
            "INSERT INTO {name} ({}) VALUES ({})",
            table.columns.join(", "),
            places.join(", ")
        );
        let mut statement = transaction.prepare(&query)?;
        for (row, cells) in table.rows.iter().enumerate() {
            let at = format!(".rows[{row}]");
            if cells.len() != table.columns.len() {
                let why = format!(
                    "{} values stand under {} columns",
                    cells.len(),
                    table.columns.len()
                );
                return Err(wrong(at, &why));
            }
            let cells: Option<Vec<Cell>> = cells.iter().map(cell).collect();
            let cells =
                cells.ok_or_else(|| wrong(at.clone(), &"a value is neither text nor figure"))?;
            statement
                .execute(params_from_iter(cells))
                .map_err(|error| wrong(at, &error))?;
            count += 1;
        }
    }
    let broken: Option<String> = {
        let mut statement =
            transaction.prepare("SELECT \"table\", parent FROM pragma_foreign_key_check")?;
        let mut rows = statement.query_map([], |row| {
            Ok(format!(
                "{}: a row names something of {} that is not there",
                row.get::<_, String>(0)?,
                row.get::<_, String>(1)?
            ))
        })?;
        rows.next().transpose()?
    };
    if let Some(broken) = broken {
        return Err(Error::NoBook(format!("tables.{broken}")));
    }
    transaction.commit()?;
    Ok(count)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    fn filled() -> (tempfile::TempDir, String) {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(&folder.path().join("boat.db")).unwrap();
        let text = store.write(|connection| {
            connection.execute_batch(
                "INSERT INTO waters (id, name, latitude_deg, longitude_deg, zone, salt, clarity_m, stain)
                     VALUES (7, 'Lake Tamarin', 50.42, -95.61, 'America/Winnipeg', 0, 2.1000000000000001, 'tea');
                 INSERT INTO settings (name, value) VALUES ('currency', 'coins');
                 INSERT INTO outings (id, water_id, started_utc_s, speed_mps, temperature_c, clarity_m, stain, sky, wind, fish,
                     fish_from_m, fish_to_m, bottom_m, mood, forage, wanted_depth_m)
                     VALUES (1, 7, 1780000000, 0.5, 15, 2, 'tea', 'cloud', 'calm', 'walleye', 5, 6, 8, 'neutral', 'yellow_perch', 5);
                 INSERT INTO events (id, outing_id, kind, at_utc_s, entered_utc_s, speed_mps, note)
                     VALUES (3, 1, 'note', 1780000100, 1780000100, 0.5, '');
                 INSERT INTO photographs VALUES (3, 'image/png', x'89504e47ff00')",
            )?;
            write(connection)
        });
        (folder, text.unwrap())
    }

    #[test]
    fn a_book_comes_back_to_the_last_digit() {
        let (folder, text) = filled();
        let path = folder.path().join("again.db");
        let restored = read(&text, &path).unwrap();
        assert_eq!(restored.unread, 0);
        let again = Store::open(&path).unwrap().read(write).unwrap();
        assert_eq!(again, text);
        assert!(matches!(read(&text, &path), Err(Error::Exists { .. })));
    }

    #[rstest]
    #[case("\"motilis_book\":1", "\"motilis_book\":9", "make 9")]
    #[case("\"settings\":", "\"no_such\":", "no_such")]
    #[case("\"tea\"", "{}", "neither text nor figure")]
    #[case("2.1", "\"deep\"", "tables.waters.rows[0]")]
    #[case("\"salt\"", "\"sweet\"", "there is no column \"sweet\"")]
    fn what_is_no_book_is_refused_and_leaves_nothing(
        #[case] from: &str,
        #[case] to: &str,
        #[case] says: &str,
    ) {
        let (folder, text) = filled();
        let wrong = text.replacen(from, to, 1);
        assert_ne!(wrong, text);
        let path = folder.path().join("again.db");
        let error = read(&wrong, &path).unwrap_err().to_string();
        assert!(error.contains(says), "{error}");
        assert!(!path.exists());
    }

    #[test]
    fn a_newer_book_is_refused() {
        let (folder, text) = filled();
        let newer = text.replacen(
            &format!("\"data_version\":{}", STEPS.len()),
            "\"data_version\":999",
            1,
        );
        let error = read(&newer, &folder.path().join("new.db")).unwrap_err();
        assert!(matches!(error, Error::Newer { found: 999, .. }));
    }
}
