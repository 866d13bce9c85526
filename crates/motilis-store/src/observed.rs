//! What was observed on the water: dunk tests of blades, touches of the bottom. Raw, as it was seen.

use crate::Error;
use crate::row::{keyed, line_stock, readable, unreadable};
use jiff::Timestamp;
use motilis_core::blade::{Family, Observation};
use motilis_core::book::{BottomTouch, DunkId, DunkTest, RigId, SetupId, TouchId};
use motilis_core::units::{Celsius, Hertz, Kilograms, Metres, MetresPerSecond};
use rusqlite::{Connection, Row, named_params};
use std::collections::BTreeMap;

/// Adds a dunk test of a rig.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the rig does not exist.
pub fn add_dunk(connection: &Connection, rig: RigId, test: &DunkTest) -> Result<DunkId, Error> {
    let (seen, speed, turns) = match test.seen {
        Observation::Started(speed) => ("started", speed, None),
        Observation::Turned { rate, speed } => ("turned", speed, Some(rate.0)),
        Observation::RolledOver(speed) => ("rolled_over", speed, None),
    };
    connection.execute(
        "INSERT INTO dunk_tests (rig_id, seen, speed_mps, turns_hz, temperature_c, salt, family,
             length_m, at_utc_s)
         VALUES (:rig_id, :seen, :speed_mps, :turns_hz, :temperature_c, :salt, :family, :length_m,
             :at_utc_s)",
        named_params! {
            ":rig_id": rig.0,
            ":seen": seen,
            ":speed_mps": speed.0,
            ":turns_hz": turns,
            ":temperature_c": test.temperature.0,
            ":salt": test.salt,
            ":family": test.family.key(),
            ":length_m": test.length.0,
            ":at_utc_s": test.at.as_second(),
        },
    )?;
    Ok(DunkId(connection.last_insert_rowid()))
}

/// The dunk tests of a rig, the newest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn dunks(connection: &Connection, rig: RigId) -> Result<Vec<(DunkId, DunkTest)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM dunk_tests WHERE rig_id = ?1 AND deleted_utc_s IS NULL
         ORDER BY at_utc_s DESC, id DESC",
    )?;
    let rows = statement.query_map([rig.0], |row| Ok((DunkId(row.get("id")?), read_dunk(row)?)))?;
    readable(rows)
}

/// Every dunk test, by its rig.
pub(crate) fn dunks_by_rig(connection: &Connection) -> Result<BTreeMap<i64, Vec<DunkTest>>, Error> {
    let mut statement =
        connection.prepare_cached("SELECT * FROM dunk_tests WHERE deleted_utc_s IS NULL")?;
    let mut rows = statement.query([])?;
    let mut tests: BTreeMap<i64, Vec<DunkTest>> = BTreeMap::new();
    while let Some(row) = rows.next()? {
        tests
            .entry(row.get("rig_id")?)
            .or_default()
            .push(read_dunk(row)?);
    }
    Ok(tests)
}

fn read_dunk(row: &Row<'_>) -> rusqlite::Result<DunkTest> {
    let speed = MetresPerSecond(row.get("speed_mps")?);
    let seen = match row.get::<_, String>("seen")?.as_str() {
        "started" => Observation::Started(speed),
        "turned" => Observation::Turned {
            rate: Hertz(row.get("turns_hz")?),
            speed,
        },
        _ => Observation::RolledOver(speed),
    };
    Ok(DunkTest {
        seen,
        temperature: Celsius(row.get("temperature_c")?),
        salt: row.get("salt")?,
        family: keyed(row, "family", Family::from_key)?,
        length: Metres(row.get("length_m")?),
        at: Timestamp::from_second(row.get("at_utc_s")?).map_err(unreadable)?,
    })
}

/// Adds a touch of the bottom, or a pass without one.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or rig or set-up do not exist.
pub fn add_touch(connection: &Connection, touch: &BottomTouch) -> Result<TouchId, Error> {
    connection.execute(
        "INSERT INTO bottom_touches (rig_id, setup_id, main_material, main_test_lb, main_diameter_m,
             weight_kg, lead_m, out_m, bottom_m, speed_mps, touched, at_utc_s)
         VALUES (:rig_id, :setup_id, :main_material, :main_test_lb, :main_diameter_m,
             :weight_kg, :lead_m, :out_m, :bottom_m, :speed_mps, :touched, :at_utc_s)",
        named_params! {
            ":rig_id": touch.rig.0,
            ":setup_id": touch.setup.0,
            ":main_material": touch.main.material.key(),
            ":main_test_lb": touch.main.test_lb,
            ":main_diameter_m": touch.main.diameter.0,
            ":weight_kg": touch.weight.map(|mass| mass.0),
            ":lead_m": touch.lead.0,
            ":out_m": touch.out.0,
            ":bottom_m": touch.bottom.0,
            ":speed_mps": touch.speed.0,
            ":touched": touch.touched,
            ":at_utc_s": touch.at.as_second(),
        },
    )?;
    Ok(TouchId(connection.last_insert_rowid()))
}

/// Every touch and pass, the newest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn touches(connection: &Connection) -> Result<Vec<(TouchId, BottomTouch)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM bottom_touches WHERE deleted_utc_s IS NULL ORDER BY at_utc_s DESC, id DESC",
    )?;
    let rows = statement.query_map([], |row| {
        let touch = BottomTouch {
            rig: RigId(row.get("rig_id")?),
            setup: SetupId(row.get("setup_id")?),
            main: line_stock(row, "main")?,
            weight: row.get::<_, Option<f64>>("weight_kg")?.map(Kilograms),
            lead: Metres(row.get("lead_m")?),
            out: Metres(row.get("out_m")?),
            bottom: Metres(row.get("bottom_m")?),
            speed: MetresPerSecond(row.get("speed_mps")?),
            touched: row.get("touched")?,
            at: Timestamp::from_second(row.get("at_utc_s")?).map_err(unreadable)?,
        };
        Ok((TouchId(row.get("id")?), touch))
    })?;
    readable(rows)
}
