//! The angler's own bottom of a water: cells that were sounded on all outings.

use crate::Error;
use crate::row::{readable, unreadable};
use jiff::Timestamp;
use motilis_core::boat::{Cell, Chart};
use motilis_core::book::WaterId;
use motilis_core::units::Metres;
use rusqlite::{Connection, OptionalExtension};

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
        let depths: String = row.get("depths")?;
        let depths: Vec<f64> = serde_json::from_str(&depths).map_err(unreadable)?;
        let cell = Cell::of(depths.into_iter().map(Metres), row.get("count")?);
        Ok(((row.get("north")?, row.get("east")?), cell))
    })?;
    let mut chart = Chart::default();
    for (at, cell) in readable(rows)? {
        chart.put(at, cell);
    }
    Ok(chart)
}

/// Keeps cells that were sounded, counted from an origin that holds for this water from now on.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn keep(
    connection: &Connection,
    water: WaterId,
    origin: [f64; 2],
    cells: &[((i32, i32), Cell)],
    at: Timestamp,
) -> Result<(), Error> {
    connection.execute(
        "INSERT OR IGNORE INTO bottom_charts (water_id, lat, lon) VALUES (?1, ?2, ?3)",
        (water.0, origin[0], origin[1]),
    )?;
    let mut statement = connection.prepare_cached(
        "INSERT INTO bottom_cells (water_id, north, east, depths, median_m, count, latest_utc_s)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)
         ON CONFLICT DO UPDATE SET depths = excluded.depths, median_m = excluded.median_m,
             count = excluded.count, latest_utc_s = excluded.latest_utc_s",
    )?;
    for ((north, east), cell) in cells {
        let Some(median) = cell.median() else {
            continue;
        };
        // A centimetre is more than a sounder knows.
        let depths: Vec<String> = cell
            .depths()
            .map(|depth| format!("{:.2}", depth.0))
            .collect();
        let depths = format!("[{}]", depths.join(","));
        statement.execute((
            water.0,
            north,
            east,
            depths,
            median.0,
            cell.count,
            at.as_second(),
        ))?;
    }
    Ok(())
}

/// Forgets the bottom of a water.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn forget(connection: &Connection, water: WaterId) -> Result<(), Error> {
    connection.execute("DELETE FROM bottom_cells WHERE water_id = ?1", [water.0])?;
    connection.execute("DELETE FROM bottom_charts WHERE water_id = ?1", [water.0])?;
    Ok(())
}
