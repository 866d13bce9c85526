//! Spreads, edited in versions as rigs are.

use crate::Error;
use crate::row::{found, keyed, readable, unreadable};
use motilis_core::book::{
    LureId, PlannedRod, PlannedSpread, RigId, SavedSpread, SetupId, SpreadId, Tackle,
};
use motilis_core::spread::{Holder, Stance};
use motilis_core::units::{Kilograms, Metres, MetresPerSecond};
use rusqlite::{Connection, Row, named_params};

/// Adds a spread.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or a rig does not exist.
pub fn add(connection: &Connection, plan: &PlannedSpread) -> Result<SpreadId, Error> {
    connection.execute(
        "INSERT INTO spreads (name, version) VALUES (?1, 0)",
        [&plan.name],
    )?;
    let id = SpreadId(connection.last_insert_rowid());
    write_version(connection, id, (0, None), plan)?;
    Ok(id)
}

/// Keeps a spread as it is now: a new version that comes from the present one.
///
/// # Errors
/// [`Error::Missing`].
pub fn save(connection: &Connection, id: SpreadId, plan: &PlannedSpread) -> Result<(), Error> {
    let now = version(connection, id)?;
    let next: i64 = connection
        .prepare_cached("SELECT max(version) + 1 FROM spread_versions WHERE spread_id = ?1")?
        .query_row([id.0], |row| row.get(0))?;
    write_version(connection, id, (next, Some(now)), plan)?;
    connection.execute(
        "UPDATE spreads SET version = ?1, name = ?2 WHERE id = ?3",
        (next, &plan.name, id.0),
    )?;
    Ok(())
}

/// Takes the last change back; `false` when there is none.
///
/// # Errors
/// [`Error::Missing`].
pub fn undo(connection: &Connection, id: SpreadId) -> Result<bool, Error> {
    follow(
        connection,
        id,
        "SELECT comes_from FROM spread_versions WHERE spread_id = ?1 AND version = ?2",
    )
}

/// Makes an undone change again, the newest of several; `false` when there is none.
///
/// # Errors
/// [`Error::Missing`].
pub fn redo(connection: &Connection, id: SpreadId) -> Result<bool, Error> {
    follow(
        connection,
        id,
        "SELECT max(version) FROM spread_versions WHERE spread_id = ?1 AND comes_from = ?2",
    )
}

fn follow(connection: &Connection, id: SpreadId, next: &str) -> Result<bool, Error> {
    let now = version(connection, id)?;
    let next: Option<i64> = connection
        .prepare_cached(next)?
        .query_row([id.0, now], |row| row.get(0))?;
    if let Some(next) = next {
        connection.execute(
            "UPDATE spreads SET version = ?1 WHERE id = ?2",
            [next, id.0],
        )?;
    }
    Ok(next.is_some())
}

fn version(connection: &Connection, id: SpreadId) -> Result<i64, Error> {
    let mut statement = connection.prepare_cached("SELECT version FROM spreads WHERE id = ?1")?;
    found(
        statement.query_row([id.0], |row| row.get(0)),
        "spread",
        id.0,
    )
}

fn write_version(
    connection: &Connection,
    id: SpreadId,
    (version, comes_from): (i64, Option<i64>),
    plan: &PlannedSpread,
) -> Result<(), Error> {
    connection.execute(
        "INSERT INTO spread_versions (spread_id, version, comes_from, speed_mps)
         VALUES (?1, ?2, ?3, ?4)",
        (id.0, version, comes_from, plan.speed.0),
    )?;
    let mut statement = connection.prepare_cached(
        "INSERT INTO spread_lines (spread_id, version, place, holder, rod, rod_m, board_m, above_m,
             rig_id, lure_id, setup_id, weight_kg, lead_m, out_m, wanted_m)
         VALUES (:spread_id, :version, :place, :holder, :rod, :rod_m, :board_m, :above_m,
             :rig_id, :lure_id, :setup_id, :weight_kg, :lead_m, :out_m, :wanted_m)",
    )?;
    for (place, rod) in plan.rods.iter().enumerate() {
        let (rig, lure) = tackle_columns(rod.tackle);
        statement.execute(named_params! {
            ":spread_id": id.0,
            ":version": version,
            ":place": i64::try_from(place).unwrap_or(i64::MAX),
            ":holder": rod.holder.to_string(),
            ":rod": rod.stance.key(),
            ":rod_m": rod.length.0,
            ":board_m": rod.board.map(|board| board.0),
            ":above_m": rod.above.map(|above| above.0),
            ":rig_id": rig,
            ":lure_id": lure,
            ":setup_id": rod.setup.0,
            ":weight_kg": rod.weight.map(|mass| mass.0),
            ":lead_m": rod.lead.0,
            ":out_m": rod.out.0,
            ":wanted_m": rod.wanted.0,
        })?;
    }
    Ok(())
}

/// Number and name of every spread, by name.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn names(connection: &Connection) -> Result<Vec<(SpreadId, String)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT id, name FROM spreads WHERE deleted_utc_s IS NULL ORDER BY name, id",
    )?;
    let rows = statement.query_map([], |row| Ok((SpreadId(row.get(0)?), row.get(1)?)))?;
    readable(rows)
}

/// A spread as it was in a version; `None` when there is no such version.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn rods_at(
    connection: &Connection,
    id: SpreadId,
    version: i64,
) -> Result<Option<Vec<PlannedRod>>, Error> {
    let known: bool = connection.query_row(
        "SELECT EXISTS (SELECT 1 FROM spread_versions WHERE spread_id = ?1 AND version = ?2)",
        [id.0, version],
        |row| row.get(0),
    )?;
    if !known {
        return Ok(None);
    }
    let mut statement = connection.prepare_cached(
        "SELECT * FROM spread_lines WHERE spread_id = ?1 AND version = ?2 ORDER BY place",
    )?;
    readable(statement.query_map([id.0, version], read_rod)?).map(Some)
}

/// One spread, thrown away or not.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: SpreadId) -> Result<SavedSpread, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT spreads.name, spread_versions.*,
             EXISTS (SELECT 1 FROM spread_versions AS v
                 WHERE v.spread_id = spreads.id AND v.comes_from = spreads.version) AS can_redo
         FROM spreads JOIN spread_versions
             ON spread_versions.spread_id = spreads.id AND spread_versions.version = spreads.version
         WHERE spreads.id = ?1",
    )?;
    let mut saved = found(
        statement.query_row([id.0], |row| {
            Ok(SavedSpread {
                plan: PlannedSpread {
                    name: row.get("name")?,
                    speed: MetresPerSecond(row.get("speed_mps")?),
                    rods: Vec::new(),
                },
                version: row.get("version")?,
                can_undo: row.get::<_, Option<i64>>("comes_from")?.is_some(),
                can_redo: row.get("can_redo")?,
            })
        }),
        "spread",
        id.0,
    )?;
    let mut statement = connection.prepare_cached(
        "SELECT spread_lines.* FROM spreads JOIN spread_lines
             ON spread_lines.spread_id = spreads.id AND spread_lines.version = spreads.version
         WHERE spreads.id = ?1 ORDER BY place",
    )?;
    let rods = statement.query_map([id.0], read_rod)?;
    saved.plan.rods = readable(rods)?;
    Ok(saved)
}

/// What a line tows, as two columns of which one is empty.
pub(crate) fn tackle_columns(tackle: Tackle) -> (Option<i64>, Option<i64>) {
    match tackle {
        Tackle::Rig(rig) => (Some(rig.0), None),
        Tackle::Lure(lure) => (None, Some(lure.0)),
    }
}

/// The same out of a row; `None` where both are empty.
pub(crate) fn tackle_of(row: &Row<'_>) -> rusqlite::Result<Option<Tackle>> {
    let rig = row.get::<_, Option<i64>>("rig_id")?;
    let lure = row.get::<_, Option<i64>>("lure_id")?;
    Ok(rig
        .map(|rig| Tackle::Rig(RigId(rig)))
        .or(lure.map(|lure| Tackle::Lure(LureId(lure)))))
}

pub(crate) fn read_rod(row: &Row<'_>) -> rusqlite::Result<PlannedRod> {
    let optional = |column: &str| row.get::<_, Option<f64>>(column);
    let tackle = tackle_of(row)?.ok_or_else(|| unreadable("it names neither a rig nor a lure"))?;
    Ok(PlannedRod {
        holder: keyed(row, "holder", Holder::from_key)?,
        stance: keyed(row, "rod", Stance::from_key)?,
        length: Metres(row.get("rod_m")?),
        board: optional("board_m")?.map(Metres),
        above: optional("above_m")?.map(Metres),
        tackle,
        setup: SetupId(row.get("setup_id")?),
        weight: optional("weight_kg")?.map(Kilograms),
        lead: Metres(row.get("lead_m")?),
        out: Metres(row.get("out_m")?),
        wanted: Metres(row.get("wanted_m")?),
    })
}
