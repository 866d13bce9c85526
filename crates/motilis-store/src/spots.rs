//! Spots of a water: places that have a name.

use crate::Error;
use crate::row::{found, insert, readable, update_row};
use motilis_core::book::{SpotId, WaterId};
use motilis_core::track::Spot;
use motilis_core::units::Metres;
use rusqlite::types::Value;
use rusqlite::{Connection, Row};

/// Adds a spot.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the water does not exist.
pub fn add(connection: &Connection, spot: &Spot) -> Result<SpotId, Error> {
    insert(connection, "spots", &columns(spot))?;
    Ok(SpotId(connection.last_insert_rowid()))
}

/// Puts a corrected spot in place of the old one.
///
/// # Errors
/// [`Error::Missing`], [`Error::Sqlite`].
pub fn update(connection: &Connection, id: SpotId, spot: &Spot) -> Result<(), Error> {
    let changed = update_row(connection, "spots", id.0, &columns(spot))?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "spot",
            id: id.0,
        });
    }
    Ok(())
}

fn columns(spot: &Spot) -> [(&'static str, Value); 7] {
    [
        ("water_id", spot.water.0.into()),
        ("name", spot.name.trim().to_owned().into()),
        ("lat", spot.latitude.into()),
        ("lon", spot.longitude.into()),
        ("radius_m", spot.radius.0.into()),
        ("depth_m", spot.depth.map(|depth| depth.0).into()),
        ("structure", spot.structure.trim().to_owned().into()),
    ]
}

/// One spot that is not thrown away.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: SpotId) -> Result<Spot, Error> {
    let mut statement =
        connection.prepare_cached("SELECT * FROM spots WHERE id = ?1 AND deleted_utc_s IS NULL")?;
    found(statement.query_row([id.0], read), "spot", id.0)
}

/// Those of a water, by name.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_water(connection: &Connection, water: WaterId) -> Result<Vec<(SpotId, Spot)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM spots WHERE water_id = ?1 AND deleted_utc_s IS NULL ORDER BY name, id",
    )?;
    readable(statement.query_map([water.0], |row| Ok((SpotId(row.get("id")?), read(row)?)))?)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<Spot> {
    Ok(Spot {
        water: WaterId(row.get("water_id")?),
        name: row.get("name")?,
        latitude: row.get("lat")?,
        longitude: row.get("lon")?,
        radius: Metres(row.get("radius_m")?),
        depth: row.get::<_, Option<f64>>("depth_m")?.map(Metres),
        structure: row.get("structure")?,
    })
}
