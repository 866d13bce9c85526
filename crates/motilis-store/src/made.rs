//! Rigs made up out of the box, and what was done with the box: each deed can be undone.

use crate::row::{found, keyed, readable};
use crate::{Error, parts, rigs};
use jiff::Timestamp;
use motilis_core::bench::cut;
use motilis_core::book::{DeedId, MadeId, MadeRig, MadeState, PartId, RigId, Shortage};
use motilis_core::rig::Stack;
use rusqlite::{Connection, Row};
use std::collections::BTreeMap;

/// How an attempt to build went.
#[derive(Debug, Clone, PartialEq)]
pub enum Built {
    /// Done; this undoes it.
    Done(DeedId),
    /// Not done, nothing taken: these run out.
    Short(Vec<Shortage>),
}

/// What one rig takes out of the box: parts, and line or wire by the metre. Bait is not kept there.
pub fn takes(stack: &Stack) -> BTreeMap<PartId, f64> {
    let mut takes = BTreeMap::new();
    let pieces = stack
        .pieces
        .iter()
        .filter(|piece| piece.part.bait().is_none());
    for (part, count) in pieces.filter_map(|piece| Some((piece.stock?, f64::from(piece.count)))) {
        *takes.entry(part).or_default() += count;
    }
    if let Some(spool) = stack.mount.stock {
        *takes.entry(spool).or_default() += cut(stack).whole.0;
    }
    takes
}

/// What the box lacks to build some rigs of a board's present version.
///
/// # Errors
/// [`Error::Missing`].
pub fn lacks(connection: &Connection, rig: RigId, count: u8) -> Result<Vec<Shortage>, Error> {
    let mut short = Vec::new();
    if !parts::is_counted(connection)? {
        return Ok(short);
    }
    let board = rigs::board(connection, rig)?;
    for (part, one) in takes(&board.stack) {
        let (boxed, needs) = (parts::get(connection, part)?, one * f64::from(count));
        if boxed.left - needs < -1e-9 {
            short.push(Shortage {
                part: boxed.part,
                needs,
                left: boxed.left,
            });
        }
    }
    Ok(short)
}

/// Builds some rigs of a board's present version, and puts them in a place.
///
/// # Errors
/// [`Error::Missing`].
pub fn build(
    connection: &Connection,
    rig: RigId,
    count: u8,
    place: &str,
    now: Timestamp,
) -> Result<Built, Error> {
    let board = rigs::board(connection, rig)?;
    let short = lacks(connection, rig, count)?;
    if !short.is_empty() {
        return Ok(Built::Short(short));
    }
    let counted = parts::is_counted(connection)?;
    let moves: Vec<(PartId, f64)> = takes(&board.stack)
        .into_iter()
        .filter(|_| counted)
        .map(|(part, one)| (part, -one * f64::from(count)))
        .collect();
    let deed = add_deed(connection, "build", Some(rig), count, now)?;
    move_stock(connection, deed, &moves)?;
    for _ in 0..count {
        connection.execute(
            "INSERT INTO made_rigs (rig_id, version, state, place, made_by) VALUES (?1, ?2, 'new', ?3, ?4)",
            (rig.0, board.version, place, deed.0),
        )?;
    }
    Ok(Built::Done(deed))
}

/// Takes a made-up rig apart: what came back goes into the box.
///
/// # Errors
/// [`Error::Missing`], also when it is gone already.
pub fn dismantle(connection: &Connection, id: MadeId, now: Timestamp) -> Result<DeedId, Error> {
    let made = get(connection, id)?;
    let stack = stack_of(connection, id, &made)?;
    // Line that was knotted and wire that was bent do not come back.
    let spool = stack.mount.stock;
    let back: Vec<(PartId, f64)> = takes(&stack)
        .into_iter()
        .filter(|(part, _)| Some(*part) != spool)
        .collect();
    take_out(connection, "dismantle", id, &made, &back, now)
}

/// A made-up rig was broken off: only what came back goes into the box.
///
/// # Errors
/// [`Error::Missing`], also when it is gone already.
pub fn break_off(
    connection: &Connection,
    id: MadeId,
    back: &[(PartId, f64)],
    now: Timestamp,
) -> Result<DeedId, Error> {
    let made = get(connection, id)?;
    take_out(connection, "break_off", id, &made, back, now)
}

fn take_out(
    connection: &Connection,
    what: &str,
    id: MadeId,
    made: &MadeRig,
    back: &[(PartId, f64)],
    now: Timestamp,
) -> Result<DeedId, Error> {
    let deed = add_deed(connection, what, Some(made.rig), 1, now)?;
    move_stock(connection, deed, back)?;
    connection.execute(
        "UPDATE made_rigs SET gone_by = ?1 WHERE id = ?2",
        [deed.0, id.0],
    )?;
    Ok(deed)
}

/// Counts a part anew, as a deed that can be undone.
///
/// # Errors
/// [`Error::Missing`].
pub fn count(
    connection: &Connection,
    part: PartId,
    left: f64,
    now: Timestamp,
) -> Result<DeedId, Error> {
    let moved = left - parts::get(connection, part)?.left;
    let deed = add_deed(connection, "count", None, 1, now)?;
    move_stock(connection, deed, &[(part, moved)])?;
    Ok(deed)
}

/// Undoes a deed, once: stock goes back, rigs it made are gone, rigs it took apart are whole again.
/// `false` when that cannot be: it is undone already, a rig it made has been taken apart since, or
/// what it put into the box has been used.
///
/// # Errors
/// [`Error::Missing`].
pub fn undo(connection: &Connection, deed: DeedId) -> Result<bool, Error> {
    let undone: bool = found(
        connection.query_row("SELECT undone FROM deeds WHERE id = ?1", [deed.0], |row| {
            row.get(0)
        }),
        "deed",
        deed.0,
    )?;
    let used: bool = connection
        .prepare_cached(
            "SELECT EXISTS (SELECT 1 FROM made_rigs WHERE made_by = ?1 AND gone_by IS NOT NULL)
                 OR EXISTS (SELECT 1 FROM stock_moves JOIN parts ON parts.id = part_id
                     WHERE deed_id = ?1 AND left_count - moved < -1e-9)",
        )?
        .query_row([deed.0], |row| row.get(0))?;
    if undone || used {
        return Ok(false);
    }
    let mut statement =
        connection.prepare_cached("SELECT part_id, moved FROM stock_moves WHERE deed_id = ?1")?;
    let moves = statement
        .query_map([deed.0], |row| {
            Ok((PartId(row.get(0)?), row.get::<_, f64>(1)?))
        })?
        .collect::<Result<Vec<_>, _>>()?;
    for (part, moved) in moves {
        parts::change_left(connection, part, -moved)?;
    }
    connection.execute(
        "UPDATE made_rigs SET gone_by = NULL WHERE gone_by = ?1",
        [deed.0],
    )?;
    connection.execute("DELETE FROM made_rigs WHERE made_by = ?1", [deed.0])?;
    connection.execute("UPDATE deeds SET undone = 1 WHERE id = ?1", [deed.0])?;
    Ok(true)
}

/// Says what became of a made-up rig, and where it lies.
///
/// # Errors
/// [`Error::Missing`].
pub fn set_state(
    connection: &Connection,
    id: MadeId,
    state: MadeState,
    place: &str,
) -> Result<(), Error> {
    get(connection, id)?;
    connection.execute(
        "UPDATE made_rigs SET state = ?1, place = ?2 WHERE id = ?3",
        (state.key(), place, id.0),
    )?;
    Ok(())
}

/// Every made-up rig that is there, by number.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection) -> Result<Vec<(MadeId, MadeRig)>, Error> {
    let mut statement =
        connection.prepare_cached("SELECT * FROM made_rigs WHERE gone_by IS NULL ORDER BY id")?;
    let rows = statement.query_map([], |row| Ok((MadeId(row.get("id")?), read(row)?)))?;
    readable(rows)
}

/// One made-up rig that is there.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: MadeId) -> Result<MadeRig, Error> {
    let mut statement =
        connection.prepare_cached("SELECT * FROM made_rigs WHERE id = ?1 AND gone_by IS NULL")?;
    found(statement.query_row([id.0], read), "made-up rig", id.0)
}

/// What a made-up rig was made of: the version it was built to.
///
/// # Errors
/// [`Error::Unreadable`].
pub fn stack_of(connection: &Connection, id: MadeId, made: &MadeRig) -> Result<Stack, Error> {
    let version: i64 = connection.query_row(
        "SELECT version FROM made_rigs WHERE id = ?1",
        [id.0],
        |row| row.get(0),
    )?;
    Ok(rigs::board_at(connection, made.rig, version)?.stack)
}

fn read(row: &Row<'_>) -> rusqlite::Result<MadeRig> {
    Ok(MadeRig {
        rig: RigId(row.get("rig_id")?),
        state: keyed(row, "state", MadeState::from_key)?,
        place: row.get("place")?,
    })
}

fn add_deed(
    connection: &Connection,
    what: &str,
    rig: Option<RigId>,
    count: u8,
    now: Timestamp,
) -> Result<DeedId, Error> {
    connection.execute(
        "INSERT INTO deeds (deed, rig_id, count, at_utc_s) VALUES (?1, ?2, ?3, ?4)",
        (what, rig.map(|rig| rig.0), count, now.as_second()),
    )?;
    Ok(DeedId(connection.last_insert_rowid()))
}

fn move_stock(connection: &Connection, deed: DeedId, moves: &[(PartId, f64)]) -> Result<(), Error> {
    for (part, moved) in moves {
        parts::change_left(connection, *part, *moved)?;
        connection.execute(
            "INSERT INTO stock_moves (deed_id, part_id, moved) VALUES (?1, ?2, ?3)",
            (deed.0, part.0, moved),
        )?;
    }
    Ok(())
}
