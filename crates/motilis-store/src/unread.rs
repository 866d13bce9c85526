//! Rows that this version of the program cannot read: a newer one wrote them, or a hand. They are kept as they are.

use crate::row::{is_unreadable, why};
use crate::{
    Error, casts, events, experiments, fish_marks, lures, outings, parts, passes, rigs, rods,
    rules, runs, setups, spots, tracks, waters,
};
use rusqlite::{Connection, Row};

/// A record that cannot be read.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Unread {
    /// Kind of record.
    pub what: &'static str,
    /// The table it lies in.
    pub table: &'static str,
    /// Its number.
    pub id: i64,
    /// What is wrong with it.
    pub why: String,
}

/// Every record of the file that this version cannot read.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection) -> Result<Vec<Unread>, Error> {
    let mut unread = Vec::new();
    let mut look = |what, query: &str, read: &dyn Fn(&Row<'_>) -> rusqlite::Result<()>| {
        find(connection, what, query, read, &mut unread)
    };
    look(("water", "waters"), waters::EVERY, &|row| {
        waters::read(row).map(drop)
    })?;
    let outings_query = format!("SELECT {}, id FROM outings", outings::COLUMNS);
    look(("outing", "outings"), &outings_query, &|row| {
        outings::read(row).map(drop)
    })?;
    look(
        ("line set-up", "line_setups"),
        "SELECT * FROM line_setups",
        &|row| setups::read(row).map(drop),
    )?;
    let events_query = format!("SELECT {}, id FROM events", events::COLUMNS);
    look(("log entry", "events"), &events_query, &|row| {
        events::read(row).map(drop)
    })?;
    look(("pass", "passes"), "SELECT * FROM passes", &|row| {
        passes::read(row).map(drop)
    })?;
    look(("rod", "rods"), "SELECT * FROM rods", &|row| {
        rods::read(row).map(drop)
    })?;
    look(("track", "tracks"), "SELECT * FROM tracks", &|row| {
        tracks::read(row).map(drop)
    })?;
    look(("spot", "spots"), "SELECT * FROM spots", &|row| {
        spots::read(row).map(drop)
    })?;
    look(("run", "runs"), "SELECT * FROM runs", &|row| {
        runs::read(row).map(drop)
    })?;
    look(("cast", "casts"), "SELECT * FROM casts", &|row| {
        casts::read(row).map(drop)
    })?;
    look(
        ("fish mark", "fish_marks"),
        "SELECT * FROM fish_marks",
        &|row| fish_marks::read(row).map(drop),
    )?;
    look(
        ("experiment", "experiments"),
        "SELECT * FROM experiments",
        &|row| experiments::read(row).map(drop),
    )?;
    look(
        ("rule", "local_rules"),
        "SELECT * FROM local_rules",
        &|row| rules::read(row).map(drop),
    )?;
    look(("lure", "lures"), "SELECT * FROM lures", &|row| {
        lures::read_speeds(row).map(drop)
    })?;
    let part = format!("SELECT {}, id FROM parts", parts::COLUMNS);
    look(("part", "parts"), &part, &|row| parts::read(row).map(drop))?;
    unread.extend(rigs::unread(connection)?);
    Ok(unread)
}

fn find(
    connection: &Connection,
    (what, table): (&'static str, &'static str),
    query: &str,
    read: &dyn Fn(&Row<'_>) -> rusqlite::Result<()>,
    unread: &mut Vec<Unread>,
) -> Result<(), Error> {
    let mut statement = connection.prepare(query)?;
    let mut rows = statement.query([])?;
    while let Some(row) = rows.next()? {
        match read(row) {
            Err(error) if is_unreadable(&error) => unread.push(Unread {
                what,
                table,
                id: row.get("id")?,
                why: why(&error),
            }),
            other => other?,
        }
    }
    Ok(())
}
