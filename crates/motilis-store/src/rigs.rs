//! Rigs: a board for each, edited in versions.

use crate::parts::{AFTER, COLUMNS};
use crate::row::{found, is_unreadable, keyed, unreadable, why};
use crate::unread::Unread;
use crate::{Error, observed, parts};
use motilis_core::book::{Board, OwnedRig, PartId, RigId, SetupId};
use motilis_core::rig::{Build, Kind, Knot, Mount, Piece, Spacing, Stack};
use motilis_core::units::{Metres, NewtonMetres};
use rusqlite::{Connection, Row, named_params};
use std::collections::BTreeMap;

/// Adds a rig that can run.
///
/// # Errors
/// As [`add_board`].
pub fn add(connection: &Connection, owned: &OwnedRig) -> Result<RigId, Error> {
    let id = add_board(connection, &owned.rig.name, owned.rig.stack(), owned.setup)?;
    connection.execute(
        "UPDATE rigs SET observed_moment_nm = ?1 WHERE id = ?2",
        (owned.rig.observed_moment.map(|moment| moment.0), id.0),
    )?;
    Ok(id)
}

/// Adds a board: a rig, finished or not.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the set-up does not exist.
pub fn add_board(
    connection: &Connection,
    name: &str,
    stack: &Stack,
    setup: SetupId,
) -> Result<RigId, Error> {
    connection.execute(
        "INSERT INTO rigs (name, setup_id, version) VALUES (?1, ?2, 0)",
        (name, setup.0),
    )?;
    let id = RigId(connection.last_insert_rowid());
    write_version(connection, id, (0, None), stack)?;
    Ok(id)
}

/// Gives a rig another name.
///
/// # Errors
/// [`Error::Missing`].
pub fn rename(connection: &Connection, id: RigId, name: &str) -> Result<(), Error> {
    changed(
        connection.execute("UPDATE rigs SET name = ?1 WHERE id = ?2", (name, id.0))?,
        id,
    )
}

/// Puts a rig on another set-up.
///
/// # Errors
/// [`Error::Missing`], [`Error::Sqlite`] for a set-up that does not exist.
pub fn set_setup(connection: &Connection, id: RigId, setup: SetupId) -> Result<(), Error> {
    changed(
        connection.execute(
            "UPDATE rigs SET setup_id = ?1 WHERE id = ?2",
            (setup.0, id.0),
        )?,
        id,
    )
}

fn changed(rows: usize, id: RigId) -> Result<(), Error> {
    if rows == 0 {
        return Err(Error::Missing {
            what: "rig",
            id: id.0,
        });
    }
    Ok(())
}

/// Keeps a rig as it is now: a new version that comes from the present one.
///
/// # Errors
/// [`Error::Missing`].
pub fn save(connection: &Connection, id: RigId, stack: &Stack) -> Result<(), Error> {
    let now = version(connection, id)?;
    let next: i64 = connection
        .prepare_cached("SELECT max(version) + 1 FROM rig_versions WHERE rig_id = ?1")?
        .query_row([id.0], |row| row.get(0))?;
    write_version(connection, id, (next, Some(now)), stack)?;
    go_to(connection, id, next)
}

/// Takes the last change back; `false` when there is none.
///
/// # Errors
/// [`Error::Missing`].
pub fn undo(connection: &Connection, id: RigId) -> Result<bool, Error> {
    follow(
        connection,
        id,
        "SELECT comes_from FROM rig_versions WHERE rig_id = ?1 AND version = ?2",
    )
}

/// Makes an undone change again, the newest of several; `false` when there is none.
///
/// # Errors
/// [`Error::Missing`].
pub fn redo(connection: &Connection, id: RigId) -> Result<bool, Error> {
    follow(
        connection,
        id,
        "SELECT max(version) FROM rig_versions WHERE rig_id = ?1 AND comes_from = ?2",
    )
}

fn follow(connection: &Connection, id: RigId, next: &str) -> Result<bool, Error> {
    let now = version(connection, id)?;
    let next: Option<i64> = connection
        .prepare_cached(next)?
        .query_row([id.0, now], |row| row.get(0))?;
    if let Some(next) = next {
        go_to(connection, id, next)?;
    }
    Ok(next.is_some())
}

/// The version of a rig that lies on the bench.
///
/// # Errors
/// [`Error::Missing`].
pub fn version(connection: &Connection, id: RigId) -> Result<i64, Error> {
    let mut statement = connection.prepare_cached("SELECT version FROM rigs WHERE id = ?1")?;
    found(statement.query_row([id.0], |row| row.get(0)), "rig", id.0)
}

fn go_to(connection: &Connection, id: RigId, version: i64) -> Result<(), Error> {
    connection.execute(
        "UPDATE rigs SET version = ?1 WHERE id = ?2",
        [version, id.0],
    )?;
    Ok(())
}

fn write_version(
    connection: &Connection,
    id: RigId,
    (version, comes_from): (i64, Option<i64>),
    stack: &Stack,
) -> Result<(), Error> {
    let build = &stack.build;
    let mount = match stack.mount.stock {
        Some(part) => part,
        None => parts::intern(connection, stack.mount.part())?,
    };
    connection
        .prepare_cached(
            "INSERT INTO rig_versions (rig_id, version, comes_from, kind, mount_part_id, finished_m, clearance_m,
                 hook_spacing_m, loop_diameter_m, wraps, tail_m, snell_wraps, front_knot, knot_use_m,
                 spacing, skirt_m)
             VALUES (:rig_id, :version, :comes_from, :kind, :mount_part_id, :finished_m, :clearance_m,
                 :hook_spacing_m, :loop_diameter_m, :wraps, :tail_m, :snell_wraps, :front_knot,
                 :knot_use_m, :spacing, :skirt_m)",
        )?
        .execute(named_params! {
            ":rig_id": id.0,
            ":version": version,
            ":comes_from": comes_from,
            ":kind": stack.kind.key(),
            ":mount_part_id": mount.0,
            ":finished_m": build.finished.0,
            ":clearance_m": build.clearance.0,
            ":hook_spacing_m": build.hook_spacing.0,
            ":loop_diameter_m": build.loop_diameter.0,
            ":wraps": build.wraps,
            ":tail_m": build.tail.0,
            ":snell_wraps": build.snell_wraps,
            ":front_knot": build.front_knot.key(),
            ":knot_use_m": build.knot_use.map(|knot_use| knot_use.0),
            ":spacing": build.spacing.key(),
            ":skirt_m": build.skirt.map(|skirt| skirt.0),
        })?;
    let mut statement = connection.prepare_cached(
        "INSERT INTO rig_pieces (rig_id, version, place, part_id, count, bend)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6)",
    )?;
    for (place, piece) in stack.pieces.iter().enumerate() {
        let part = match piece.stock {
            Some(part) => part,
            None => parts::intern(connection, &piece.part)?,
        };
        let place = i64::try_from(place).unwrap_or(i64::MAX);
        statement.execute((id.0, version, place, part.0, piece.count, piece.bend))?;
    }
    Ok(())
}

/// Every rig that can run, by name.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection) -> Result<Vec<(RigId, OwnedRig)>, Error> {
    let boards = boards(connection)?.into_iter();
    // A board that is not finished, or has no blade, is no rig to run yet.
    Ok(boards
        .filter_map(|(id, board)| Some((id, board.rig().ok()?)))
        .collect())
}

/// What a rig is called, deleted or not, whatever its parts are like.
///
/// # Errors
/// [`Error::Missing`].
pub fn name(connection: &Connection, id: RigId) -> Result<String, Error> {
    let mut statement = connection.prepare_cached("SELECT name FROM rigs WHERE id = ?1")?;
    found(statement.query_row([id.0], |row| row.get(0)), "rig", id.0)
}

/// Number and name of every rig, by name.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn names(connection: &Connection) -> Result<Vec<(RigId, String)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT id, name FROM rigs WHERE deleted_utc_s IS NULL ORDER BY name, id",
    )?;
    let rows = statement.query_map([], |row| Ok((RigId(row.get(0)?), row.get(1)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// Every board, by name.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn boards(connection: &Connection) -> Result<Vec<(RigId, Board)>, Error> {
    let boards = read_boards(connection, "rigs.deleted_utc_s IS NULL", &[])?;
    let read = boards
        .into_iter()
        .filter_map(|(id, board)| Some((id, board.ok()?)));
    Ok(read.collect())
}

/// One rig that can run, deleted or not: old events still name it.
///
/// # Errors
/// [`Error::Missing`], [`Error::Unreadable`].
pub fn get(connection: &Connection, id: RigId) -> Result<OwnedRig, Error> {
    board(connection, id)?
        .rig()
        .map_err(|error| Error::Unreadable {
            what: "rig",
            id: id.0,
            why: error.to_string(),
        })
}

/// One board, deleted or not.
///
/// # Errors
/// [`Error::Missing`], [`Error::Unreadable`].
pub fn board(connection: &Connection, id: RigId) -> Result<Board, Error> {
    one_of(read_boards(connection, "rigs.id = ?1", &[id.0])?, id)
}

/// One board as it was in a version.
///
/// # Errors
/// As [`board`].
pub fn board_at(connection: &Connection, id: RigId, version: i64) -> Result<Board, Error> {
    let boards = read_boards(connection, "rigs.id = ?1", &[id.0, version])?;
    one_of(boards, id)
}

/// Rigs whose rows this version cannot read.
pub(crate) fn unread(connection: &Connection) -> Result<Vec<Unread>, Error> {
    let boards = read_boards(connection, "TRUE", &[])?;
    let unread = boards.into_iter().filter_map(|(id, board)| {
        Some(Unread {
            what: "rig",
            table: "rigs",
            id: id.0,
            why: board.err()?,
        })
    });
    Ok(unread.collect())
}

fn one_of(boards: Vec<(RigId, Readable)>, id: RigId) -> Result<Board, Error> {
    match boards.into_iter().next() {
        None => Err(Error::Missing {
            what: "rig",
            id: id.0,
        }),
        Some((_, Ok(board))) => Ok(board),
        Some((_, Err(why))) => Err(Error::Unreadable {
            what: "rig",
            id: id.0,
            why,
        }),
    }
}

/// A board, or what is wrong with its rows.
type Readable = Result<Board, String>;

fn read_boards(
    connection: &Connection,
    which: &str,
    given: &[i64],
) -> Result<Vec<(RigId, Readable)>, Error> {
    // A version that is asked for is the second parameter; without one the present version counts.
    let at = if given.len() == 2 {
        "?2"
    } else {
        "rigs.version"
    };
    let given = rusqlite::params_from_iter(given);
    let mut pieces: BTreeMap<i64, Result<Vec<Piece>, String>> = BTreeMap::new();
    let mut statement = connection.prepare_cached(&format!(
        "SELECT {COLUMNS}, rig_pieces.rig_id, rig_pieces.part_id, rig_pieces.count, rig_pieces.bend
         FROM rigs JOIN rig_pieces ON rig_pieces.rig_id = rigs.id AND rig_pieces.version = {at}
             JOIN parts ON parts.id = rig_pieces.part_id
         WHERE {which} ORDER BY rig_pieces.rig_id, rig_pieces.place"
    ))?;
    let mut rows = statement.query(given.clone())?;
    while let Some(row) = rows.next()? {
        let threaded = pieces
            .entry(row.get(AFTER)?)
            .or_insert_with(|| Ok(Vec::new()));
        match (read_piece(row), &mut *threaded) {
            (Ok(piece), Ok(pieces)) => pieces.push(piece),
            (Ok(_), Err(_)) => {}
            (Err(error), _) if is_unreadable(&error) => *threaded = Err(why(&error)),
            (Err(error), _) => return Err(error.into()),
        }
    }
    let mut statement = connection.prepare_cached(&format!(
        "SELECT {COLUMNS}, rig_versions.*, rigs.name, rigs.setup_id, rigs.observed_moment_nm,
             EXISTS (SELECT 1 FROM rig_versions AS v
                 WHERE v.rig_id = rigs.id AND v.comes_from = rigs.version) AS can_redo
         FROM rigs JOIN rig_versions
             ON rig_versions.rig_id = rigs.id AND rig_versions.version = {at}
             JOIN parts ON parts.id = rig_versions.mount_part_id
         WHERE {which} ORDER BY rigs.name, rigs.id"
    ))?;
    let mut dunked = observed::dunks_by_rig(connection)?;
    let mut boards = Vec::new();
    let mut rows = statement.query(given)?;
    while let Some(row) = rows.next()? {
        let id: i64 = row.get("rig_id")?;
        let board = match pieces.remove(&id).unwrap_or_else(|| Ok(Vec::new())) {
            Err(why) => Err(why),
            Ok(pieces) => match read_board(row, pieces) {
                Ok(board) => Ok(Board {
                    dunked: dunked.remove(&id).unwrap_or_default(),
                    ..board
                }),
                Err(error) if is_unreadable(&error) => Err(why(&error)),
                Err(error) => return Err(error.into()),
            },
        };
        boards.push((RigId(id), board));
    }
    Ok(boards)
}

fn read_piece(row: &Row<'_>) -> rusqlite::Result<Piece> {
    Ok(Piece {
        part: parts::read(row)?.part,
        stock: Some(PartId(row.get(AFTER + 1)?)),
        count: row.get(AFTER + 2)?,
        bend: row.get(AFTER + 3)?,
    })
}

fn read_board(row: &Row<'_>, pieces: Vec<Piece>) -> rusqlite::Result<Board> {
    let spool = PartId(row.get("mount_part_id")?);
    let metres = |column: &str| row.get(column).map(Metres);
    let version: i64 = row.get("version")?;
    Ok(Board {
        name: row.get("name")?,
        stack: Stack {
            kind: keyed(row, "kind", Kind::from_key)?,
            mount: Mount::new(parts::read(row)?.part, Some(spool)).map_err(unreadable)?,
            pieces,
            build: Build {
                finished: metres("finished_m")?,
                clearance: metres("clearance_m")?,
                hook_spacing: metres("hook_spacing_m")?,
                loop_diameter: metres("loop_diameter_m")?,
                wraps: row.get("wraps")?,
                tail: metres("tail_m")?,
                snell_wraps: row.get("snell_wraps")?,
                front_knot: keyed(row, "front_knot", Knot::from_key)?,
                skirt: row.get::<_, Option<f64>>("skirt_m")?.map(Metres),
                knot_use: row.get::<_, Option<f64>>("knot_use_m")?.map(Metres),
                spacing: keyed(row, "spacing", Spacing::from_key)?,
            },
        },
        setup: SetupId(row.get("setup_id")?),
        observed_moment: row
            .get::<_, Option<f64>>("observed_moment_nm")?
            .map(NewtonMetres),
        dunked: Vec::new(),
        version,
        can_undo: row.get::<_, Option<i64>>("comes_from")?.is_some(),
        can_redo: row.get("can_redo")?,
    })
}

/// Steps of the present version that are done.
///
/// # Errors
/// [`Error::Missing`].
pub fn ticks(connection: &Connection, id: RigId) -> Result<Vec<usize>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT step FROM rig_ticks WHERE rig_id = ?1 AND version = ?2 ORDER BY step",
    )?;
    let rows = statement.query_map([id.0, version(connection, id)?], |row| {
        row.get::<_, u32>(0).map(|step| step as usize)
    })?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// Ticks a step off, or takes the tick back.
///
/// # Errors
/// [`Error::Missing`].
pub fn tick(connection: &Connection, id: RigId, step: usize, done: bool) -> Result<(), Error> {
    let version = version(connection, id)?;
    let step = i64::try_from(step).unwrap_or(i64::MAX);
    connection.execute(
        if done {
            "INSERT OR IGNORE INTO rig_ticks (rig_id, version, step) VALUES (?1, ?2, ?3)"
        } else {
            "DELETE FROM rig_ticks WHERE rig_id = ?1 AND version = ?2 AND step = ?3"
        },
        [id.0, version, step],
    )?;
    Ok(())
}

/// Takes every tick of the present version off, for the next rig.
///
/// # Errors
/// [`Error::Missing`].
pub fn clear_ticks(connection: &Connection, id: RigId) -> Result<(), Error> {
    let version = version(connection, id)?;
    connection.execute(
        "DELETE FROM rig_ticks WHERE rig_id = ?1 AND version = ?2",
        [id.0, version],
    )?;
    Ok(())
}
