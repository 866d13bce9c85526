//! Plugs and spoons with the angler's own dive tables.

use crate::Error;
use crate::row::{found, line_stock, readable, unreadable};
use motilis_core::book::LureId;
use motilis_core::rig::Practice;
use motilis_core::spread::{DiveTable, Lure};
use motilis_core::units::{Metres, MetresPerSecond};
use rusqlite::{Connection, Row};
use std::collections::BTreeMap;

/// Adds a lure.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn add(connection: &Connection, lure: &Lure) -> Result<LureId, Error> {
    let speeds = &lure.speeds;
    connection.execute(
        "INSERT INTO lures (name, from_mps, favourite_mps, to_mps, line_material, line_test_lb, line_diameter_m)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)",
        (
            &lure.name,
            speeds.from.0,
            speeds.favourite.0,
            speeds.to.0,
            lure.on.map(|on| on.material.key()),
            lure.on.map(|on| on.test_lb),
            lure.on.map(|on| on.diameter.0),
        ),
    )?;
    let id = LureId(connection.last_insert_rowid());
    let mut statement = connection
        .prepare_cached("INSERT INTO lure_dives (lure_id, out_m, depth_m) VALUES (?1, ?2, ?3)")?;
    for (out, depth) in lure.dives.pairs() {
        statement.execute((id.0, out.0, depth.0))?;
    }
    Ok(id)
}

/// What a lure is called, thrown away or not.
///
/// # Errors
/// [`Error::Missing`].
pub fn name(connection: &Connection, id: LureId) -> Result<String, Error> {
    let mut statement = connection.prepare_cached("SELECT name FROM lures WHERE id = ?1")?;
    found(statement.query_row([id.0], |row| row.get(0)), "lure", id.0)
}

/// Every lure, by name.
///
/// # Errors
/// [`Error::Sqlite`], also for rows that hold no lure.
pub fn all(connection: &Connection) -> Result<Vec<(LureId, Lure)>, Error> {
    read(connection, "deleted_utc_s IS NULL")
}

/// Every lure, thrown away or not: old spreads still name them.
///
/// # Errors
/// As [`all`].
pub fn ever(connection: &Connection) -> Result<Vec<(LureId, Lure)>, Error> {
    read(connection, "TRUE")
}

fn read(connection: &Connection, which: &str) -> Result<Vec<(LureId, Lure)>, Error> {
    let mut dives: BTreeMap<i64, Vec<(Metres, Metres)>> = BTreeMap::new();
    let mut statement = connection.prepare_cached("SELECT * FROM lure_dives ORDER BY out_m")?;
    let mut rows = statement.query([])?;
    while let Some(row) = rows.next()? {
        let pair = (Metres(row.get("out_m")?), Metres(row.get("depth_m")?));
        dives.entry(row.get("lure_id")?).or_default().push(pair);
    }
    let mut statement = connection.prepare_cached(&format!(
        "SELECT * FROM lures WHERE {which} ORDER BY name, id"
    ))?;
    let lures = statement.query_map([], |row| {
        let id: i64 = row.get("id")?;
        let speeds = read_speeds(row)?;
        let table = DiveTable::new(dives.remove(&id).unwrap_or_default()).map_err(unreadable)?;
        let lure = Lure::new(row.get::<_, String>("name")?, speeds, table).map_err(unreadable)?;
        let on = match row.get::<_, Option<String>>("line_material")? {
            Some(_) => Some(line_stock(row, "line")?),
            None => None,
        };
        Ok((LureId(id), lure.measured_on(on)))
    })?;
    readable(lures)
}

pub(crate) fn read_speeds(row: &Row<'_>) -> rusqlite::Result<Practice> {
    Ok(Practice {
        from: MetresPerSecond(row.get("from_mps")?),
        favourite: MetresPerSecond(row.get("favourite_mps")?),
        to: MetresPerSecond(row.get("to_mps")?),
    })
}
