//! The angler's own bottom of a water: cells that were sounded on all outings.

use crate::Error;
use crate::row::{readable, unreadable};
use jiff::Timestamp;
use motilis_core::boat::{Cell, Chart};
use motilis_core::book::WaterId;
use motilis_core::units::Metres;
use rusqlite::{Connection, OptionalExtension, Row};
use std::collections::BTreeMap;

/// Where the cells of a water are counted from, degrees; `None` before it was sounded.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn origin(connection: &Connection, water: WaterId) -> Result<Option<[f64; 2]>, Error> {
    let mut statement =
        connection.prepare_cached("SELECT lat, lon FROM bottom_charts WHERE water_id = ?1")?;
    let found = statement.query_row([water.0], |row| Ok([row.get(0)?, row.get(1)?]));
    Ok(found.optional()?)
}

/// All that was sounded of a water.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_water(connection: &Connection, water: WaterId) -> Result<Chart, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT north, east, depths, count FROM bottom_cells WHERE water_id = ?1",
    )?;
    let rows = statement.query_map([water.0], |row| {
        Ok(((row.get("north")?, row.get("east")?), read(row)?))
    })?;
    let mut chart = Chart::default();
    for (at, cell) in readable(rows)? {
        chart.put(at, cell);
    }
    Ok(chart)
}

/// Adds soundings to the cells they fell into, counted from an origin that holds for this water from now on.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn add(
    connection: &Connection,
    water: WaterId,
    origin: [f64; 2],
    soundings: &[((i32, i32), Metres)],
    at: Timestamp,
) -> Result<(), Error> {
    connection.execute(
        "INSERT OR IGNORE INTO bottom_charts (water_id, lat, lon) VALUES (?1, ?2, ?3)",
        (water.0, origin[0], origin[1]),
    )?;
    let mut cells: BTreeMap<(i32, i32), Cell> = BTreeMap::new();
    for (place, depth) in soundings {
        if !cells.contains_key(place) {
            cells.insert(*place, cell(connection, water, *place)?.unwrap_or_default());
        }
        cells.entry(*place).or_default().sound(*depth);
    }
    let mut statement = connection.prepare_cached(
        "INSERT INTO bottom_cells (water_id, north, east, depths, median_m, count, latest_utc_s)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)
         ON CONFLICT DO UPDATE SET depths = excluded.depths, median_m = excluded.median_m,
             count = excluded.count, latest_utc_s = excluded.latest_utc_s",
    )?;
    for ((north, east), cell) in &cells {
        let Some(median) = cell.median() else {
            continue;
        };
        // A centimetre is more than a sounder knows.
        let depths: Vec<String> = cell
            .depths()
            .map(|depth| format!("{:.2}", depth.0))
            .collect();
        let depths = format!("[{}]", depths.join(","));
        let at = at.as_second();
        statement.execute((water.0, north, east, depths, median.0, cell.count, at))?;
    }
    Ok(())
}

fn cell(
    connection: &Connection,
    water: WaterId,
    (north, east): (i32, i32),
) -> Result<Option<Cell>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT depths, count FROM bottom_cells WHERE water_id = ?1 AND north = ?2 AND east = ?3",
    )?;
    Ok(statement
        .query_row((water.0, north, east), read)
        .optional()?)
}

fn read(row: &Row<'_>) -> rusqlite::Result<Cell> {
    let depths: String = row.get("depths")?;
    let depths: Vec<f64> = serde_json::from_str(&depths).map_err(unreadable)?;
    Ok(Cell::of(depths.into_iter().map(Metres), row.get("count")?))
}
