//! Outings with their conditions, and the line that runs.

use crate::Error;
use crate::row::{found, keyed, line_stock, unreadable};
use jiff::Timestamp;
use motilis_core::advice::{Fish, Mood, Sky};
use motilis_core::book::{Outing, OutingId, RigId, RunningLine, SetupId, WaterId};
use motilis_core::units::{Celsius, Kilograms, Metres, MetresPerSecond};
use rusqlite::types::Value;
use rusqlite::{Connection, OptionalExtension, Row, named_params};

/// Adds an outing.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the water does not exist.
pub fn add(connection: &Connection, outing: &Outing) -> Result<OutingId, Error> {
    connection.execute(
        "INSERT INTO outings (water_id, started_utc_s, speed_mps, temperature_c, clarity_m, sky,
             fish, fish_from_m, fish_to_m, bottom_m, mood, wanted_depth_m)
         VALUES (:water_id, :started_utc_s, :speed_mps, :temperature_c, :clarity_m, :sky,
             :fish, :fish_from_m, :fish_to_m, :bottom_m, :mood, :wanted_depth_m)",
        &columns(outing)[..],
    )?;
    Ok(OutingId(connection.last_insert_rowid()))
}

/// Puts new conditions in place of an outing's old ones.
///
/// # Errors
/// [`Error::Missing`], [`Error::Sqlite`].
pub fn update(connection: &Connection, id: OutingId, outing: &Outing) -> Result<(), Error> {
    let mut columns = columns(outing).to_vec();
    columns.push((":id", id.0.into()));
    let changed = connection.execute(
        "UPDATE outings SET water_id = :water_id, started_utc_s = :started_utc_s,
                 speed_mps = :speed_mps, temperature_c = :temperature_c, clarity_m = :clarity_m,
                 sky = :sky, fish = :fish, fish_from_m = :fish_from_m, fish_to_m = :fish_to_m,
                 bottom_m = :bottom_m, mood = :mood, wanted_depth_m = :wanted_depth_m
             WHERE id = :id AND deleted_utc_s IS NULL",
        &columns[..],
    )?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "outing",
            id: id.0,
        });
    }
    Ok(())
}

fn columns(outing: &Outing) -> [(&'static str, Value); 12] {
    [
        (":water_id", outing.water.0.into()),
        (":started_utc_s", outing.started.as_second().into()),
        (":speed_mps", outing.speed.0.into()),
        (":temperature_c", outing.temperature.0.into()),
        (":clarity_m", outing.clarity.0.into()),
        (":sky", outing.sky.key().to_owned().into()),
        (":fish", outing.fish.key().to_owned().into()),
        (":fish_from_m", outing.fish_depth.0.0.into()),
        (":fish_to_m", outing.fish_depth.1.0.into()),
        (":bottom_m", outing.bottom.0.into()),
        (":mood", outing.mood.key().to_owned().into()),
        (":wanted_depth_m", outing.wanted_depth.0.into()),
    ]
}

/// Every outing, the newest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection) -> Result<Vec<(OutingId, Outing)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM outings WHERE deleted_utc_s IS NULL ORDER BY started_utc_s DESC, id DESC",
    )?;
    let rows = statement.query_map([], |row| Ok((OutingId(row.get("id")?), read(row)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// One outing that is not deleted.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: OutingId) -> Result<Outing, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM outings WHERE id = ?1 AND deleted_utc_s IS NULL")?;
    found(statement.query_row([id.0], read), "outing", id.0)
}

fn read(row: &Row<'_>) -> rusqlite::Result<Outing> {
    Ok(Outing {
        water: WaterId(row.get("water_id")?),
        started: Timestamp::from_second(row.get("started_utc_s")?).map_err(unreadable)?,
        speed: MetresPerSecond(row.get("speed_mps")?),
        temperature: Celsius(row.get("temperature_c")?),
        clarity: Metres(row.get("clarity_m")?),
        sky: keyed(row, "sky", Sky::from_key)?,
        fish: keyed(row, "fish", Fish::from_key)?,
        fish_depth: (
            Metres(row.get("fish_from_m")?),
            Metres(row.get("fish_to_m")?),
        ),
        bottom: Metres(row.get("bottom_m")?),
        mood: keyed(row, "mood", Mood::from_key)?,
        wanted_depth: Metres(row.get("wanted_depth_m")?),
    })
}

/// Puts a line out: from now on events are logged on it.
///
/// # Errors
/// [`Error::Sqlite`] when outing, rig or set-up do not exist.
pub fn run_line(connection: &Connection, id: OutingId, line: &RunningLine) -> Result<(), Error> {
    connection.execute(
        "INSERT OR REPLACE INTO running_lines (outing_id, rig_id, setup_id, main_material,
             main_test_lb, main_diameter_m, weight_kg, lead_m, out_m)
         VALUES (:outing_id, :rig_id, :setup_id, :main_material,
             :main_test_lb, :main_diameter_m, :weight_kg, :lead_m, :out_m)",
        named_params! {
            ":outing_id": id.0,
            ":rig_id": line.rig.0,
            ":setup_id": line.setup.0,
            ":main_material": line.main.material.key(),
            ":main_test_lb": line.main.test_lb,
            ":main_diameter_m": line.main.diameter.0,
            ":weight_kg": line.weight.map(|mass| mass.0),
            ":lead_m": line.lead.0,
            ":out_m": line.out.0,
        },
    )?;
    Ok(())
}

/// The line that runs on an outing, if one was put out.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn running_line(connection: &Connection, id: OutingId) -> Result<Option<RunningLine>, Error> {
    let mut statement =
        connection.prepare_cached("SELECT * FROM running_lines WHERE outing_id = ?1")?;
    let line = statement.query_row([id.0], |row| {
        Ok(RunningLine {
            rig: RigId(row.get("rig_id")?),
            setup: SetupId(row.get("setup_id")?),
            main: line_stock(row, "main")?,
            weight: row.get::<_, Option<f64>>("weight_kg")?.map(Kilograms),
            lead: Metres(row.get("lead_m")?),
            out: Metres(row.get("out_m")?),
        })
    });
    Ok(line.optional()?)
}
