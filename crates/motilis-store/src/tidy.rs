//! Clears out what nobody needs any more: records thrown away over thirty days ago that nothing names, steps of undo on bench and
//! spread that lie far back, and the room they took.

use crate::copies::{Copy, Why, copy_to};
use crate::{Error, Store, trace, trash};
use jiff::{SignedDuration, Timestamp};
use rusqlite::Connection;
use std::path::Path;

/// What was thrown away can be taken back for so long.
pub const KEPT_DAYS: i64 = 30;
/// How many steps back from what stands now an undo on bench or spread reaches afterwards.
pub const STEPS_BACK: usize = 20;

/// What was cleared out, or would be.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Tidied {
    /// Records thrown away long ago.
    pub records: usize,
    /// Such records that stay, because others name them.
    pub named: usize,
    /// Versions of rigs and spreads.
    pub versions: usize,
    /// How large the file was, bytes.
    pub before: u64,
    /// How large it is now, or would be.
    pub after: u64,
}

/// Rows that go with a record, in the order in which they go.
const OWNED: [(&str, &[&str]); 7] = [
    (
        "outings",
        &[
            "DELETE FROM casts WHERE outing_id = ?1",
            "DELETE FROM photographs WHERE event_id IN (SELECT id FROM events WHERE outing_id = ?1)",
            "DELETE FROM events WHERE outing_id = ?1",
            "DELETE FROM passes WHERE outing_id = ?1",
            "DELETE FROM rods WHERE outing_id = ?1",
            "DELETE FROM fish_marks WHERE outing_id = ?1",
            "DELETE FROM tracks WHERE outing_id = ?1",
            "DELETE FROM temperature_readings WHERE outing_id = ?1",
            "DELETE FROM outing_marks WHERE outing_id = ?1",
            "DELETE FROM experiments WHERE outing_id = ?1",
        ],
    ),
    ("events", &["DELETE FROM photographs WHERE event_id = ?1"]),
    (
        "rigs",
        &[
            "DELETE FROM rig_ticks WHERE rig_id = ?1",
            "DELETE FROM rig_pieces WHERE rig_id = ?1",
            "DELETE FROM rig_versions WHERE rig_id = ?1",
        ],
    ),
    (
        "spreads",
        &[
            "DELETE FROM spread_lines WHERE spread_id = ?1",
            "DELETE FROM spread_versions WHERE spread_id = ?1",
        ],
    ),
    ("lures", &["DELETE FROM lure_dives WHERE lure_id = ?1"]),
    (
        "waters",
        &[
            "DELETE FROM water_fish WHERE water_id = ?1",
            "DELETE FROM water_forage WHERE water_id = ?1",
            "DELETE FROM bottom_cells WHERE water_id = ?1",
            "DELETE FROM bottom_charts WHERE water_id = ?1",
            "DELETE FROM spots WHERE water_id = ?1 AND deleted_utc_s IS NOT NULL",
            "DELETE FROM local_rules WHERE water_id = ?1",
        ],
    ),
    ("runs", &[]),
];

/// Says what clearing out would do, by doing it on a copy.
///
/// # Errors
/// [`Error::Copy`], [`Error::Sqlite`].
pub fn preview(store: &Store, now: Timestamp) -> Result<Tidied, Error> {
    let failed = |error: std::io::Error| Error::Copy {
        path: std::env::temp_dir(),
        why: crate::copies::io_words(&error),
    };
    let folder = tempfile::tempdir().map_err(failed)?;
    let path = folder.path().join("copy.db");
    copy_to(&*store.connection()?, &path, false)?;
    let mut copy = Connection::open(&path)?;
    copy.pragma_update(None, "foreign_keys", "ON")?;
    clear_out(&mut copy, &path, now)
}

/// Clears out, after a copy of the file as it is.
///
/// # Errors
/// [`Error::ReadOnly`], [`Error::Copy`], [`Error::Sqlite`].
pub fn tidy(store: &Store, now: Timestamp) -> Result<(Tidied, Copy), Error> {
    store.writable()?;
    store.fold()?;
    let mut connection = store.connection()?;
    let copy = store.copies().keep(&connection, now, Why::Tidy)?;
    let mut tidied = clear_out(&mut connection, store.path(), now)?;
    drop(connection);
    store.fold()?;
    tidied.after = size(store.path());
    Ok((tidied, copy))
}

fn size(path: &Path) -> u64 {
    std::fs::metadata(path).map_or(0, |meta| meta.len())
}

fn clear_out(connection: &mut Connection, path: &Path, now: Timestamp) -> Result<Tidied, Error> {
    let mut tidied = Tidied {
        before: size(path),
        ..Tidied::default()
    };
    let until = now - SignedDuration::from_hours(24 * KEPT_DAYS);
    let transaction = connection.transaction()?;
    loop {
        // What named a record may have gone itself: until nothing goes any more.
        let (gone, named) = throw_out(&transaction, until)?;
        tidied.records += gone;
        tidied.named = named;
        if gone == 0 {
            break;
        }
    }
    tidied.versions += old_versions(&transaction, "rig", "rig_pieces", RIG_USED)?;
    tidied.versions += old_versions(&transaction, "spread", "spread_lines", "")?;
    transaction.commit()?;
    // A copy has nothing that writes changes down.
    if connection.prepare("SELECT 1 FROM temp.trace").is_ok() {
        trace::clear(connection)?;
    }
    connection.execute_batch("VACUUM")?;
    tidied.after = size(path);
    Ok(tidied)
}

/// Throws out what was thrown away before a moment; how many records went, and how many are named by others.
fn throw_out(connection: &Connection, until: Timestamp) -> Result<(usize, usize), Error> {
    let (mut gone, mut named) = (0, 0);
    for thrown in trash::since(connection, Timestamp::MIN)? {
        if thrown.at >= until {
            continue;
        }
        let (table, id) = (thrown.record.key(), thrown.record.number());
        connection.execute_batch("SAVEPOINT record")?;
        let owned = OWNED.iter().find(|(of, _)| *of == table);
        let went = || -> rusqlite::Result<()> {
            for statement in owned.map_or(&[][..], |(_, statements)| statements) {
                connection.prepare_cached(statement)?.execute([id])?;
            }
            connection.execute(&format!("DELETE FROM {table} WHERE id = ?1"), [id])?;
            Ok(())
        };
        match went() {
            Ok(()) => gone += 1,
            Err(error)
                if error.sqlite_error_code() == Some(rusqlite::ErrorCode::ConstraintViolation) =>
            {
                connection.execute_batch("ROLLBACK TO record")?;
                named += 1;
            }
            Err(error) => return Err(error.into()),
        }
        connection.execute_batch("RELEASE record")?;
    }
    Ok((gone, named))
}

/// Versions of a rig that were fished or made up are needed whatever their age.
const RIG_USED: &str = "AND NOT EXISTS (SELECT 1 FROM passes AS p WHERE p.rig_id = v.rig_id AND p.rig_version = v.version)
     AND NOT EXISTS (SELECT 1 FROM made_rigs AS m WHERE m.rig_id = v.rig_id AND m.version = v.version)";

/// Throws out versions that lie more than so many steps behind the one that stands.
fn old_versions(
    connection: &Connection,
    of: &str,
    pieces: &str,
    used: &str,
) -> Result<usize, Error> {
    // Rows of a rig's parts name its version, and ticks of its sheet do.
    let ticks = if of == "rig" {
        "DELETE FROM rig_ticks WHERE (rig_id, version) IN (SELECT of_id, version FROM temp.old);"
    } else {
        ""
    };
    connection.execute_batch(&format!(
        "CREATE TEMP TABLE IF NOT EXISTS old (of_id INTEGER, version INTEGER);
         DELETE FROM temp.old;
         WITH RECURSIVE back (of_id, version, steps) AS (
             SELECT id, version, 0 FROM {of}s
             UNION
             SELECT b.of_id, v.comes_from, b.steps + 1 FROM back AS b
             JOIN {of}_versions AS v ON v.{of}_id = b.of_id AND v.version = b.version
             WHERE v.comes_from IS NOT NULL AND b.steps < {STEPS_BACK}
         )
         INSERT INTO temp.old SELECT v.{of}_id, v.version FROM {of}_versions AS v
             JOIN {of}s AS o ON o.id = v.{of}_id
             WHERE v.version < o.version
             AND NOT EXISTS (SELECT 1 FROM back WHERE back.of_id = v.{of}_id AND back.version = v.version) {used};
         DELETE FROM {pieces} WHERE ({of}_id, version) IN (SELECT of_id, version FROM temp.old);
         {ticks}
         UPDATE {of}_versions SET comes_from = NULL
             WHERE ({of}_id, comes_from) IN (SELECT of_id, version FROM temp.old);
         DELETE FROM {of}_versions WHERE ({of}_id, version) IN (SELECT of_id, version FROM temp.old);"
    ))?;
    let count = connection.query_row("SELECT count(*) FROM temp.old", [], |row| {
        row.get::<_, i64>(0)
    })?;
    Ok(usize::try_from(count).unwrap_or(0))
}
