//! Acts: every change of the data file, done once, with the trace that takes it back.

use crate::{Error, trace};
use jiff::Timestamp;
use rusqlite::{Connection, OptionalExtension, named_params};

/// Names an act in the data file; later acts have higher numbers.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct ActId(pub i64);

/// An act as it was asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Asked<'a> {
    /// The number that the one who asked gave it.
    pub id: &'a str,
    /// What exactly was asked: the same number with something else is another act.
    pub asked: &'a str,
}

/// An act that is done.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Done {
    /// Its number in the data file.
    pub act: ActId,
    /// The record it made or changed.
    pub made: Option<i64>,
}

/// How an attempt to take an act back went.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Undone {
    /// It is taken back.
    Done,
    /// It was taken back before.
    Already,
    /// Something done since touched what it touched.
    Overtaken,
    /// It lies too far back: its trace is not kept any more.
    Forgotten,
}

/// Acts whose numbers are remembered, and acts whose traces are.
const REMEMBERED: i64 = 20_000;
const TRACED: i64 = 1_000;

/// An act that was done already, if it was.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn done(connection: &Connection, asked: Asked<'_>) -> Result<Option<Done>, Error> {
    let mut statement =
        connection.prepare_cached("SELECT n, made FROM acts WHERE id = ?1 AND asked = ?2")?;
    let done = statement.query_row([asked.id, asked.asked], |row| {
        Ok(Done {
            act: ActId(row.get(0)?),
            made: row.get(1)?,
        })
    });
    Ok(done.optional()?)
}

/// What an act is called, where it is still remembered.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn name(connection: &Connection, act: ActId) -> Result<Option<String>, Error> {
    let mut statement = connection.prepare_cached("SELECT act FROM acts WHERE n = ?1")?;
    Ok(statement.query_row([act.0], |row| row.get(0)).optional()?)
}

/// Begins an act: from now on it is written down what takes it back.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn begin(connection: &Connection) -> Result<(), Error> {
    trace::clear(connection)
}

/// Keeps an act that is done, with its trace.
///
/// - `act`: what it is called.
/// - `at`: when it was asked for; `now`: when it is done.
///
/// # Errors
/// [`Error::Sqlite`], also when it was done before.
pub fn keep(
    connection: &Connection,
    asked: Asked<'_>,
    act: &str,
    (at, now): (Timestamp, Timestamp),
    made: Option<i64>,
) -> Result<ActId, Error> {
    connection
        .prepare_cached(
            "INSERT INTO acts (id, asked, act, at_utc_s, entered_utc_s, made)
             VALUES (:id, :asked, :act, :at, :entered, :made)",
        )?
        .execute(named_params! {
            ":id": asked.id,
            ":asked": asked.asked,
            ":act": act,
            ":at": at.as_second(),
            ":entered": now.as_second(),
            ":made": made,
        })?;
    let n = connection.last_insert_rowid();
    connection
        .prepare_cached(
            "INSERT INTO act_traces (act_n, place, record, back)
             SELECT ?1, place, record, back FROM temp.trace",
        )?
        .execute([n])?;
    trace::clear(connection)?;
    if n % 100 == 0 {
        connection.execute("DELETE FROM act_traces WHERE act_n <= ?1", [n - TRACED])?;
        connection.execute(
            "DELETE FROM acts WHERE n <= ?1 AND n NOT IN (SELECT undoes FROM acts WHERE undoes IS NOT NULL)
                 AND n NOT IN (SELECT undone_by FROM acts WHERE undone_by IS NOT NULL)",
            [n - REMEMBERED],
        )?;
    }
    Ok(ActId(n))
}

/// Takes an act back by its trace, as an act of its own that [`keep`] is then told of.
///
/// Nothing is changed when something done since touched the same records.
///
/// # Errors
/// [`Error::Missing`] when there never was one.
pub fn undo(connection: &Connection, act: ActId) -> Result<Undone, Error> {
    let undone: Option<Option<i64>> = connection
        .query_row("SELECT undone_by FROM acts WHERE n = ?1", [act.0], |row| {
            row.get(0)
        })
        .optional()?;
    match undone {
        None => {
            return Err(Error::Missing {
                what: "act",
                id: act.0,
            });
        }
        Some(Some(_)) => return Ok(Undone::Already),
        Some(None) => {}
    }
    let overtaken: bool = connection.query_row(
        "SELECT EXISTS (SELECT 1 FROM act_traces AS mine
             JOIN act_traces AS other ON other.record = mine.record AND other.act_n > mine.act_n
             JOIN acts ON acts.n = other.act_n
             WHERE mine.act_n = ?1 AND acts.undone_by IS NULL AND acts.undoes IS NULL)",
        [act.0],
        |row| row.get(0),
    )?;
    if overtaken {
        return Ok(Undone::Overtaken);
    }
    let statements: Vec<String> = connection
        .prepare_cached("SELECT back FROM act_traces WHERE act_n = ?1 ORDER BY place DESC")?
        .query_map([act.0], |row| row.get(0))?
        .collect::<Result<_, _>>()?;
    if statements.is_empty() {
        return Ok(Undone::Forgotten);
    }
    // Rows that name each other come back one after the other.
    connection.pragma_update(None, "defer_foreign_keys", "ON")?;
    for statement in statements {
        connection.execute(&statement, [])?;
    }
    Ok(Undone::Done)
}

/// Notes that an act was taken back by another.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn note_undone(connection: &Connection, act: ActId, by: ActId) -> Result<(), Error> {
    connection.execute("UPDATE acts SET undone_by = ?2 WHERE n = ?1", [act.0, by.0])?;
    connection.execute("UPDATE acts SET undoes = ?1 WHERE n = ?2", [act.0, by.0])?;
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Store, settings};

    const NOW: Timestamp = Timestamp::UNIX_EPOCH;

    fn store() -> (tempfile::TempDir, Store) {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(&folder.path().join("boat.db")).unwrap();
        (folder, store)
    }

    fn asked(id: &str) -> Asked<'_> {
        Asked { id, asked: "test" }
    }

    fn set(store: &Store, id: &str, name: &str, value: &str) -> ActId {
        store
            .write(|c| {
                begin(c)?;
                settings::set(c, name, value)?;
                keep(c, asked(id), "set", (NOW, NOW), Some(7))
            })
            .unwrap()
    }

    fn take_back(store: &Store, id: &str, act: ActId) -> Undone {
        store
            .write(|c| {
                begin(c)?;
                let undone = undo(c, act)?;
                if undone == Undone::Done {
                    let by = keep(c, asked(id), "undo", (NOW, NOW), None)?;
                    note_undone(c, act, by)?;
                }
                Ok::<_, Error>(undone)
            })
            .unwrap()
    }

    fn value(store: &Store) -> Option<String> {
        store.read(|c| settings::get(c, "units")).unwrap()
    }

    #[test]
    fn an_act_is_known_by_its_number_and_what_was_asked() {
        let (_folder, store) = store();
        let act = set(&store, "a-1", "units", "metric");
        let found = |asked: Asked<'_>| store.read(|c| done(c, asked)).unwrap();
        assert_eq!(found(asked("a-1")), Some(Done { act, made: Some(7) }));
        let other = Asked {
            asked: "something else",
            ..asked("a-1")
        };
        assert_eq!(found(other), None);
        assert_eq!(found(asked("a-2")), None);
    }

    #[test]
    fn an_act_is_taken_back_and_made_again() {
        let (_folder, store) = store();
        set(&store, "a-1", "units", "metric");
        let second = set(&store, "a-2", "units", "imperial");
        assert_eq!(take_back(&store, "u-1", second), Undone::Done);
        assert_eq!(value(&store).as_deref(), Some("metric"));
        assert_eq!(take_back(&store, "u-2", second), Undone::Already);
        // Taking the undoing back makes it again.
        assert_eq!(take_back(&store, "u-3", ActId(second.0 + 1)), Undone::Done);
        assert_eq!(value(&store).as_deref(), Some("imperial"));
    }

    #[test]
    fn what_was_overtaken_stays() {
        let (_folder, store) = store();
        let first = set(&store, "a-1", "units", "metric");
        let elsewhere = set(&store, "a-2", "crew", "3");
        set(&store, "a-3", "units", "imperial");
        assert_eq!(take_back(&store, "u-1", first), Undone::Overtaken);
        assert_eq!(value(&store).as_deref(), Some("imperial"));
        assert_eq!(take_back(&store, "u-2", elsewhere), Undone::Done);
    }
}
