//! Lakes, rivers and sea areas, with the fish and forage that live in them.

use crate::Error;
use crate::row::{found, keyed, readable, unreadable};
use motilis_core::book::{WaterBody, WaterId};
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::Stain;
use motilis_core::units::Metres;
use rusqlite::types::Value;
use rusqlite::{Connection, Row};

/// Adds a water.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range.
pub fn add(connection: &Connection, water: &WaterBody) -> Result<WaterId, Error> {
    connection.execute(
        "INSERT INTO waters (name, latitude_deg, longitude_deg, zone, salt, river, clarity_m, stain)
         VALUES (:name, :latitude_deg, :longitude_deg, :zone, :salt, :river, :clarity_m, :stain)",
        &columns(water)[..],
    )?;
    let id = WaterId(connection.last_insert_rowid());
    set_life(connection, id, water)?;
    Ok(id)
}

/// Puts a corrected water in place of the old one.
///
/// # Errors
/// [`Error::Missing`], [`Error::Sqlite`].
pub fn update(connection: &Connection, id: WaterId, water: &WaterBody) -> Result<(), Error> {
    let mut columns = columns(water).to_vec();
    columns.push((":id", id.0.into()));
    let changed = connection.execute(
        "UPDATE waters SET name = :name, latitude_deg = :latitude_deg,
             longitude_deg = :longitude_deg, zone = :zone, salt = :salt, river = :river,
             clarity_m = :clarity_m, stain = :stain
         WHERE id = :id AND deleted_utc_s IS NULL",
        &columns[..],
    )?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "water",
            id: id.0,
        });
    }
    set_life(connection, id, water)
}

fn columns(water: &WaterBody) -> [(&'static str, Value); 8] {
    [
        (":name", water.name.clone().into()),
        (":latitude_deg", water.latitude_deg.into()),
        (":longitude_deg", water.longitude_deg.into()),
        (":zone", water.zone.clone().into()),
        (":salt", i64::from(water.salt).into()),
        (":river", i64::from(water.river).into()),
        (":clarity_m", water.clarity.0.into()),
        (":stain", water.stain.key().to_owned().into()),
    ]
}

fn set_life(connection: &Connection, id: WaterId, water: &WaterBody) -> Result<(), Error> {
    connection.execute("DELETE FROM water_fish WHERE water_id = ?1", [id.0])?;
    for (place, fish) in (0_i64..).zip(&water.fish) {
        connection.execute(
            "INSERT INTO water_fish (water_id, place, fish) VALUES (?1, ?2, ?3)",
            (id.0, place, fish.key()),
        )?;
    }
    connection.execute("DELETE FROM water_forage WHERE water_id = ?1", [id.0])?;
    for (place, forage) in (0_i64..).zip(&water.forage) {
        connection.execute(
            "INSERT INTO water_forage (water_id, place, forage) VALUES (?1, ?2, ?3)",
            (id.0, place, forage.key()),
        )?;
    }
    Ok(())
}

/// A water with its lists read by one query: keys joined with commas, in their order.
pub(crate) const EVERY: &str = "SELECT *,
    (SELECT group_concat(fish) FROM (SELECT fish FROM water_fish WHERE water_id = id ORDER BY place)) AS fish,
    (SELECT group_concat(forage) FROM (SELECT forage FROM water_forage WHERE water_id = id ORDER BY place)) AS forage
    FROM waters";

/// Every water, by name.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection) -> Result<Vec<(WaterId, WaterBody)>, Error> {
    let mut statement = connection.prepare_cached(&format!(
        "{EVERY} WHERE deleted_utc_s IS NULL ORDER BY name"
    ))?;
    let rows = statement.query_map([], |row| Ok((WaterId(row.get("id")?), read(row)?)))?;
    readable(rows)
}

/// One water, deleted or not: old outings still show it.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: WaterId) -> Result<WaterBody, Error> {
    let mut statement = connection.prepare_cached(&format!("{EVERY} WHERE id = ?1"))?;
    found(statement.query_row([id.0], read), "water", id.0)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<WaterBody> {
    Ok(WaterBody {
        name: row.get("name")?,
        latitude_deg: row.get("latitude_deg")?,
        longitude_deg: row.get("longitude_deg")?,
        zone: row.get("zone")?,
        salt: row.get("salt")?,
        river: row.get("river")?,
        clarity: Metres(row.get("clarity_m")?),
        stain: keyed(row, "stain", Stain::from_key)?,
        fish: list(row, "fish", Fish::from_key)?,
        forage: list(row, "forage", Forage::from_key)?,
    })
}

fn list<T>(
    row: &Row<'_>,
    column: &str,
    from_key: impl Fn(&str) -> Option<T>,
) -> rusqlite::Result<Vec<T>> {
    row.get::<_, Option<String>>(column)?
        .unwrap_or_default()
        .split(',')
        .filter(|key| !key.is_empty())
        .map(|key| from_key(key).ok_or_else(|| unreadable(format!("{column} holds {key:?}"))))
        .collect()
}
