//! What was in the water from when to when.

use crate::Error;
use crate::row::{readable, unreadable};
use jiff::Timestamp;
use motilis_core::book::{OutingId, PassId, RigId};
use motilis_core::evidence::Pass;
use rusqlite::{Connection, Row};

/// A rig goes out: its pass begins, and the one that was out ends. A rig that is out already stays out.
///
/// # Errors
/// [`Error::Sqlite`] when the outing or the rig do not exist.
pub fn put_out(
    connection: &Connection,
    outing: OutingId,
    rig: RigId,
    at: Timestamp,
) -> Result<(), Error> {
    let open = of_outing(connection, outing)?
        .into_iter()
        .find(|(_, pass)| pass.to.is_none());
    if let Some((id, pass)) = open {
        if pass.rig == rig {
            return Ok(());
        }
        take_in(connection, id, at.max(pass.from))?;
    }
    add(
        connection,
        outing,
        &Pass {
            rig,
            from: at,
            to: None,
        },
    )?;
    Ok(())
}

/// Adds a pass.
///
/// # Errors
/// As [`put_out`].
pub fn add(connection: &Connection, outing: OutingId, pass: &Pass) -> Result<PassId, Error> {
    connection.execute(
        "INSERT INTO passes (outing_id, rig_id, from_utc_s, to_utc_s) VALUES (?1, ?2, ?3, ?4)",
        (
            outing.0,
            pass.rig.0,
            pass.from.as_second(),
            pass.to.map(Timestamp::as_second),
        ),
    )?;
    Ok(PassId(connection.last_insert_rowid()))
}

fn take_in(connection: &Connection, id: PassId, at: Timestamp) -> Result<(), Error> {
    connection.execute(
        "UPDATE passes SET to_utc_s = ?1 WHERE id = ?2",
        [at.as_second(), id.0],
    )?;
    Ok(())
}

/// The passes of an outing, the earliest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(connection: &Connection, outing: OutingId) -> Result<Vec<(PassId, Pass)>, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM passes WHERE outing_id = ?1 ORDER BY from_utc_s, id")?;
    readable(statement.query_map([outing.0], |row| Ok((PassId(row.get("id")?), read(row)?)))?)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<Pass> {
    let instant = |second| Timestamp::from_second(second).map_err(unreadable);
    Ok(Pass {
        rig: RigId(row.get("rig_id")?),
        from: instant(row.get("from_utc_s")?)?,
        to: row
            .get::<_, Option<i64>>("to_utc_s")?
            .map(instant)
            .transpose()?,
    })
}
