//! Line set-ups: what a rod is rigged with.

use crate::Error;
use crate::row::{found, keyed, line_stock, unreadable};
use motilis_core::book::SetupId;
use motilis_core::line::{LineSetup, Start};
use motilis_core::tackle::{DiverSize, Weight, WeightMaterial};
use motilis_core::units::{Kilograms, Metres};
use rusqlite::{Connection, Row, named_params};

/// Adds a set-up.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range.
pub fn add(connection: &Connection, setup: &LineSetup) -> Result<SetupId, Error> {
    let (start, tip_height, ball, drop_back) = match setup.start {
        Start::RodTip { height } => ("rod_tip", Some(height.0), None, None),
        Start::Board => ("board", None, None, None),
        Start::Downrigger { ball, drop_back } => {
            ("downrigger", None, Some(ball.0), Some(drop_back.0))
        }
    };
    let (weight, material, diver) = match setup.weight {
        None => (None, None, None),
        Some(Weight::BottomBouncer(_, m)) => (Some("bottom_bouncer"), Some(m.key()), None),
        Some(Weight::Sinker(_, m)) => (Some("sinker"), Some(m.key()), None),
        Some(Weight::ClipOn(_, m)) => (Some("clip_on"), Some(m.key()), None),
        Some(Weight::TripDiver(size)) => (Some("trip_diver"), None, Some(size.key())),
    };
    connection.execute(
        "INSERT INTO line_setups (name, start, tip_height_m, ball_kg, drop_back_m,
             main_material, main_test_lb, main_diameter_m, weight, weight_kg, weight_material,
             diver_size, leader_material, leader_test_lb, leader_diameter_m, lead_m, strum, reel_m)
         VALUES (:name, :start, :tip_height_m, :ball_kg, :drop_back_m,
             :main_material, :main_test_lb, :main_diameter_m, :weight, :weight_kg, :weight_material,
             :diver_size, :leader_material, :leader_test_lb, :leader_diameter_m, :lead_m, :strum, :reel_m)",
        named_params! {
            ":name": setup.name,
            ":start": start,
            ":tip_height_m": tip_height,
            ":ball_kg": ball,
            ":drop_back_m": drop_back,
            ":main_material": setup.main.material.key(),
            ":main_test_lb": setup.main.test_lb,
            ":main_diameter_m": setup.main.diameter.0,
            ":weight": weight,
            ":weight_kg": setup.weight.and_then(|weight| weight.mass()).map(|mass| mass.0),
            ":weight_material": material,
            ":diver_size": diver,
            ":leader_material": setup.leader.material.key(),
            ":leader_test_lb": setup.leader.test_lb,
            ":leader_diameter_m": setup.leader.diameter.0,
            ":lead_m": setup.lead.0,
            ":strum": setup.strum,
            ":reel_m": setup.reel.0,
        },
    )?;
    Ok(SetupId(connection.last_insert_rowid()))
}

/// Every set-up, by name.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection) -> Result<Vec<(SetupId, LineSetup)>, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM line_setups WHERE deleted_utc_s IS NULL ORDER BY name")?;
    let rows = statement.query_map([], |row| Ok((SetupId(row.get("id")?), read(row)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// One set-up, deleted or not.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: SetupId) -> Result<LineSetup, Error> {
    let mut statement = connection.prepare_cached("SELECT * FROM line_setups WHERE id = ?1")?;
    found(statement.query_row([id.0], read), "line set-up", id.0)
}

fn read(row: &Row<'_>) -> rusqlite::Result<LineSetup> {
    let start = match row.get::<_, String>("start")?.as_str() {
        "rod_tip" => Start::RodTip {
            height: Metres(row.get("tip_height_m")?),
        },
        "board" => Start::Board,
        _ => Start::Downrigger {
            ball: Kilograms(row.get("ball_kg")?),
            drop_back: Metres(row.get("drop_back_m")?),
        },
    };
    Ok(LineSetup {
        name: row.get("name")?,
        start,
        main: line_stock(row, "main")?,
        weight: read_weight(row)?,
        leader: line_stock(row, "leader")?,
        lead: Metres(row.get("lead_m")?),
        strum: row.get("strum")?,
        reel: Metres(row.get("reel_m")?),
    })
}

fn read_weight(row: &Row<'_>) -> rusqlite::Result<Option<Weight>> {
    let Some(kind) = row.get::<_, Option<String>>("weight")? else {
        return Ok(None);
    };
    if kind == "trip_diver" {
        let size = keyed(row, "diver_size", DiverSize::from_key)?;
        return Ok(Some(Weight::TripDiver(size)));
    }
    let mass = Kilograms(row.get("weight_kg")?);
    let material = keyed(row, "weight_material", WeightMaterial::from_key)?;
    match kind.as_str() {
        "bottom_bouncer" => Ok(Some(Weight::BottomBouncer(mass, material))),
        "sinker" => Ok(Some(Weight::Sinker(mass, material))),
        "clip_on" => Ok(Some(Weight::ClipOn(mass, material))),
        other => Err(unreadable(format!("weight is {other:?}"))),
    }
}
