//! Outings with their conditions, and the line that runs.

use crate::Error;
use crate::row::{found, keyed, keyed_or_none, readable, unreadable};
use jiff::Timestamp;
use motilis_core::advice::{Mark, Mood, Sky, Wind};
use motilis_core::book::{Outing, OutingId, RigId, WaterId};
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::Stain;
use motilis_core::rig::Kind;
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use rusqlite::types::Value;
use rusqlite::{Connection, Row};

/// Adds an outing.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the water does not exist.
pub fn add(connection: &Connection, outing: &Outing) -> Result<OutingId, Error> {
    connection.execute(
        "INSERT INTO outings (water_id, started_utc_s, ended_utc_s, speed_mps, temperature_c, clarity_m, stain, sky,
             wind, fish, fish_from_m, fish_to_m, bottom_m, thermocline_m, mood, forage, nibblers, crowd,
             wanted_depth_m)
         VALUES (:water_id, :started_utc_s, :ended_utc_s, :speed_mps, :temperature_c, :clarity_m, :stain, :sky,
             :wind, :fish, :fish_from_m, :fish_to_m, :bottom_m, :thermocline_m, :mood, :forage, :nibblers,
             :crowd, :wanted_depth_m)",
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
        "UPDATE outings SET water_id = :water_id, started_utc_s = :started_utc_s, ended_utc_s = :ended_utc_s,
                 speed_mps = :speed_mps, temperature_c = :temperature_c, clarity_m = :clarity_m,
                 stain = :stain, sky = :sky, wind = :wind, fish = :fish, fish_from_m = :fish_from_m,
                 fish_to_m = :fish_to_m, bottom_m = :bottom_m, thermocline_m = :thermocline_m,
                 mood = :mood, forage = :forage, nibblers = :nibblers, crowd = :crowd,
                 wanted_depth_m = :wanted_depth_m
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

/// Names of the conditions that were carried over from another outing and not confirmed since.
///
/// # Errors
/// [`Error::Missing`].
pub fn carried(connection: &Connection, id: OutingId) -> Result<Vec<String>, Error> {
    let mut statement = connection.prepare_cached("SELECT carried FROM outings WHERE id = ?1")?;
    let names: String = found(
        statement.query_row([id.0], |row| row.get(0)),
        "outing",
        id.0,
    )?;
    let names = names.split(',').filter(|name| !name.is_empty());
    Ok(names.map(str::to_owned).collect())
}

/// Whether an outing is practice on a simulated lake: it counts for nothing.
///
/// # Errors
/// [`Error::Missing`].
pub fn is_practice(connection: &Connection, id: OutingId) -> Result<bool, Error> {
    let mut statement = connection.prepare_cached("SELECT practice FROM outings WHERE id = ?1")?;
    found(
        statement.query_row([id.0], |row| row.get(0)),
        "outing",
        id.0,
    )
}

/// Makes an outing one of practice.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn set_practice(connection: &Connection, id: OutingId) -> Result<(), Error> {
    connection.execute("UPDATE outings SET practice = 1 WHERE id = ?1", [id.0])?;
    Ok(())
}

/// When the boat's instruments were last heard while an outing went on.
///
/// # Errors
/// [`Error::Missing`].
pub fn heard(connection: &Connection, id: OutingId) -> Result<Option<Timestamp>, Error> {
    let mut statement =
        connection.prepare_cached("SELECT heard_utc_s FROM outings WHERE id = ?1")?;
    let second: Option<i64> = found(
        statement.query_row([id.0], |row| row.get(0)),
        "outing",
        id.0,
    )?;
    // A second that cannot be one tells nothing.
    Ok(second.and_then(|second| Timestamp::from_second(second).ok()))
}

/// The boat's instruments were heard.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn set_heard(connection: &Connection, id: OutingId, at: Timestamp) -> Result<(), Error> {
    connection.execute(
        "UPDATE outings SET heard_utc_s = ?2 WHERE id = ?1 AND ended_utc_s IS NULL",
        (id.0, at.as_second()),
    )?;
    Ok(())
}

/// Says which conditions are carried over.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn set_carried(connection: &Connection, id: OutingId, names: &[String]) -> Result<(), Error> {
    connection.execute(
        "UPDATE outings SET carried = ?1 WHERE id = ?2",
        (names.join(","), id.0),
    )?;
    Ok(())
}

fn columns(outing: &Outing) -> [(&'static str, Value); 19] {
    [
        (":water_id", outing.water.0.into()),
        (":started_utc_s", outing.started.as_second().into()),
        (
            ":ended_utc_s",
            outing.ended.map(Timestamp::as_second).into(),
        ),
        (":speed_mps", outing.speed.0.into()),
        (":temperature_c", outing.temperature.0.into()),
        (":clarity_m", outing.clarity.0.into()),
        (":stain", outing.stain.key().to_owned().into()),
        (":sky", outing.sky.key().to_owned().into()),
        (":wind", outing.wind.key().to_owned().into()),
        (":fish", outing.fish.key().to_owned().into()),
        (":fish_from_m", outing.fish_depth.0.0.into()),
        (":fish_to_m", outing.fish_depth.1.0.into()),
        (":bottom_m", outing.bottom.0.into()),
        (
            ":thermocline_m",
            outing.thermocline.map(|depth| depth.0).into(),
        ),
        (":forage", outing.forage.key().to_owned().into()),
        (":nibblers", i64::from(outing.nibblers).into()),
        (
            ":crowd",
            outing.crowd.map(|kind| kind.key().to_owned()).into(),
        ),
        (":mood", outing.mood.key().to_owned().into()),
        (":wanted_depth_m", outing.wanted_depth.0.into()),
    ]
}

/// Every outing, the newest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn all(connection: &Connection) -> Result<Vec<(OutingId, Outing)>, Error> {
    let mut statement = connection.prepare_cached(&format!(
        "SELECT {COLUMNS}, id FROM outings WHERE deleted_utc_s IS NULL ORDER BY started_utc_s DESC, id DESC"
    ))?;
    let rows = statement.query_map([], |row| Ok((OutingId(row.get("id")?), read(row)?)))?;
    readable(rows)
}

/// One outing that is not deleted.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: OutingId) -> Result<Outing, Error> {
    let mut statement = connection.prepare_cached(&format!(
        "SELECT {COLUMNS} FROM outings WHERE id = ?1 AND deleted_utc_s IS NULL"
    ))?;
    found(statement.query_row([id.0], read), "outing", id.0)
}

/// Columns of an outing, in the order in which [`read`] takes them: every page asks for all outings, and to look each column up by its
/// name would take longer than all the rest.
pub(crate) const COLUMNS: &str = "water_id, started_utc_s, ended_utc_s, speed_mps, temperature_c, clarity_m, stain, sky, wind, fish,
    fish_from_m, fish_to_m, bottom_m, thermocline_m, mood, forage, nibblers, crowd, wanted_depth_m";

/// An outing out of [`COLUMNS`].
pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<Outing> {
    let second = |at: i64| Timestamp::from_second(at).map_err(unreadable);
    Ok(Outing {
        water: WaterId(row.get(0)?),
        started: second(row.get(1)?)?,
        ended: row.get::<_, Option<i64>>(2)?.map(second).transpose()?,
        speed: MetresPerSecond(row.get(3)?),
        temperature: Celsius(row.get(4)?),
        clarity: Metres(row.get(5)?),
        stain: keyed(row, 6, Stain::from_key)?,
        sky: keyed(row, 7, Sky::from_key)?,
        wind: keyed(row, 8, Wind::from_key)?,
        fish: keyed(row, 9, Fish::from_key)?,
        fish_depth: (Metres(row.get(10)?), Metres(row.get(11)?)),
        bottom: Metres(row.get(12)?),
        thermocline: row.get::<_, Option<f64>>(13)?.map(Metres),
        mood: keyed(row, 14, Mood::from_key)?,
        forage: keyed(row, 15, Forage::from_key)?,
        nibblers: row.get(16)?,
        crowd: keyed_or_none(row, 17, Kind::from_key)?,
        wanted_depth: Metres(row.get(18)?),
    })
}

/// What was said of the rigs on an outing's call sheet.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn marks(connection: &Connection, id: OutingId) -> Result<Vec<(RigId, Mark)>, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM outing_marks WHERE outing_id = ?1 ORDER BY rig_id")?;
    let rows = statement.query_map([id.0], |row| {
        Ok((
            RigId(row.get("rig_id")?),
            keyed(row, "mark", Mark::from_key)?,
        ))
    })?;
    readable(rows)
}

/// Pins a rig to the sheet, strikes it off, or takes either back.
///
/// # Errors
/// [`Error::Sqlite`] when the outing or the rig do not exist.
pub fn set_mark(
    connection: &Connection,
    id: OutingId,
    rig: RigId,
    mark: Option<Mark>,
) -> Result<(), Error> {
    match mark {
        Some(mark) => connection.execute(
            "INSERT OR REPLACE INTO outing_marks (outing_id, rig_id, mark) VALUES (?1, ?2, ?3)",
            (id.0, rig.0, mark.key()),
        )?,
        None => connection.execute(
            "DELETE FROM outing_marks WHERE outing_id = ?1 AND rig_id = ?2",
            (id.0, rig.0),
        )?,
    };
    Ok(())
}
