//! Line set-ups: what a rod is rigged with.

use crate::Error;
use crate::row::{found, keyed, line_stock, readable};
use motilis_core::book::SetupId;
use motilis_core::line::{Core, LineSetup, Start};
use motilis_core::tackle::{
    DiverSize, ReleaseHole, SideSetting, SinkerStyle, Weight, WeightMaterial,
};
use motilis_core::units::{Kilograms, Metres};
use rusqlite::types::Value;
use rusqlite::{Connection, Row, params_from_iter};

/// Columns of a set-up with their values.
fn columns(setup: &LineSetup) -> Vec<(&'static str, Value)> {
    let (start, tip_height, rigger) = match setup.start {
        Start::RodTip { height } => ("rod_tip", Some(height.0), None),
        Start::Board => ("board", None, None),
        Start::Downrigger {
            ball,
            drop_back,
            above,
        } => ("downrigger", None, Some((ball.0, drop_back.0, above.0))),
    };
    let (material, diver, trip) = match setup.weight {
        None => (None, None, None),
        Some(Weight::Sinker(_, _, material)) => (Some(material.key()), None, None),
        Some(Weight::TripDiver(size, side, hole)) => {
            (None, Some(size.key()), Some((side.key(), hole.key())))
        }
        Some(Weight::FloatDiver(size)) => (None, Some(size.key()), None),
    };
    let core = setup.core.map(|core| core.stock);
    vec![
        ("name", setup.name.clone().into()),
        ("start", start.to_owned().into()),
        ("tip_height_m", tip_height.into()),
        ("ball_kg", rigger.map(|(ball, ..)| ball).into()),
        (
            "drop_back_m",
            rigger.map(|(_, drop_back, _)| drop_back).into(),
        ),
        ("above_m", rigger.map(|(.., above)| above).into()),
        ("main_material", setup.main.material.key().to_owned().into()),
        ("main_test_lb", setup.main.test_lb.into()),
        ("main_diameter_m", setup.main.diameter.0.into()),
        (
            "core_material",
            core.map(|stock| stock.material.key().to_owned()).into(),
        ),
        ("core_test_lb", core.map(|stock| stock.test_lb).into()),
        ("core_diameter_m", core.map(|stock| stock.diameter.0).into()),
        ("core_m", setup.core.map(|core| core.length.0).into()),
        (
            "weight",
            setup.weight.map(|weight| weight.key().to_owned()).into(),
        ),
        (
            "weight_kg",
            setup
                .weight
                .and_then(|weight| weight.mass())
                .map(|mass| mass.0)
                .into(),
        ),
        ("weight_material", material.map(str::to_owned).into()),
        ("diver_size", diver.map(str::to_owned).into()),
        ("side_setting", trip.map(|(side, _)| side.to_owned()).into()),
        ("release_hole", trip.map(|(_, hole)| hole.to_owned()).into()),
        ("ahead_m", setup.ahead.0.into()),
        (
            "leader_material",
            setup.leader.material.key().to_owned().into(),
        ),
        ("leader_test_lb", setup.leader.test_lb.into()),
        ("leader_diameter_m", setup.leader.diameter.0.into()),
        ("lead_m", setup.lead.0.into()),
        ("strum", setup.strum.into()),
        ("reel_m", setup.reel.0.into()),
    ]
}

/// Adds a set-up.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range.
pub fn add(connection: &Connection, setup: &LineSetup) -> Result<SetupId, Error> {
    let (names, values): (Vec<_>, Vec<_>) = columns(setup).into_iter().unzip();
    let places: Vec<String> = (1..=names.len()).map(|place| format!("?{place}")).collect();
    connection.execute(
        &format!(
            "INSERT INTO line_setups ({}) VALUES ({})",
            names.join(", "),
            places.join(", ")
        ),
        params_from_iter(values),
    )?;
    Ok(SetupId(connection.last_insert_rowid()))
}

/// Puts a changed set-up in place of the old one; rods that use it follow.
///
/// # Errors
/// [`Error::Missing`], [`Error::Sqlite`].
pub fn update(connection: &Connection, id: SetupId, setup: &LineSetup) -> Result<(), Error> {
    let (names, mut values): (Vec<_>, Vec<_>) = columns(setup).into_iter().unzip();
    let set: Vec<String> = names
        .iter()
        .enumerate()
        .map(|(place, name)| format!("{name} = ?{}", place + 1))
        .collect();
    values.push(id.0.into());
    let changed = connection.execute(
        &format!(
            "UPDATE line_setups SET {} WHERE id = ?{}",
            set.join(", "),
            values.len()
        ),
        params_from_iter(values),
    )?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "line set-up",
            id: id.0,
        });
    }
    Ok(())
}

/// Every set-up, by name.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection) -> Result<Vec<(SetupId, LineSetup)>, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM line_setups WHERE deleted_utc_s IS NULL ORDER BY name")?;
    let rows = statement.query_map([], |row| Ok((SetupId(row.get("id")?), read(row)?)))?;
    readable(rows)
}

/// One set-up, deleted or not.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: SetupId) -> Result<LineSetup, Error> {
    let mut statement = connection.prepare_cached("SELECT * FROM line_setups WHERE id = ?1")?;
    found(statement.query_row([id.0], read), "line set-up", id.0)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<LineSetup> {
    let start = match row.get::<_, String>("start")?.as_str() {
        "rod_tip" => Start::RodTip {
            height: Metres(row.get("tip_height_m")?),
        },
        "board" => Start::Board,
        _ => Start::Downrigger {
            ball: Kilograms(row.get("ball_kg")?),
            drop_back: Metres(row.get("drop_back_m")?),
            above: Metres(row.get("above_m")?),
        },
    };
    Ok(LineSetup {
        name: row.get("name")?,
        start,
        main: line_stock(row, "main")?,
        core: match row.get::<_, Option<f64>>("core_m")? {
            None => None,
            Some(length) => Some(Core {
                stock: line_stock(row, "core")?,
                length: Metres(length),
            }),
        },
        weight: read_weight(row)?,
        ahead: Metres(row.get("ahead_m")?),
        leader: line_stock(row, "leader")?,
        lead: Metres(row.get("lead_m")?),
        strum: row.get("strum")?,
        learned: motilis_core::line::Learned::default(),
        reel: Metres(row.get("reel_m")?),
    })
}

fn read_weight(row: &Row<'_>) -> rusqlite::Result<Option<Weight>> {
    let Some(kind) = row.get::<_, Option<String>>("weight")? else {
        return Ok(None);
    };
    match kind.as_str() {
        "trip_diver" => Ok(Some(Weight::TripDiver(
            keyed(row, "diver_size", DiverSize::from_key)?,
            keyed(row, "side_setting", SideSetting::from_key)?,
            keyed(row, "release_hole", ReleaseHole::from_key)?,
        ))),
        "float_diver" => {
            let size = keyed(row, "diver_size", DiverSize::from_key)?;
            Ok(Some(Weight::FloatDiver(size)))
        }
        _ => Ok(Some(Weight::Sinker(
            keyed(row, "weight", SinkerStyle::from_key)?,
            Kilograms(row.get("weight_kg")?),
            keyed(row, "weight_material", WeightMaterial::from_key)?,
        ))),
    }
}
