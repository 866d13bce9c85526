//! Tracks of outings, kept whole.

use crate::Error;
use crate::row::{found, insert, readable, unreadable};
use jiff::Timestamp;
use motilis_core::book::{OutingId, TrackId};
use motilis_core::track::{Point, Track};
use rusqlite::{Connection, Row};

/// Adds a track.
///
/// # Errors
/// [`Error::Sqlite`] when the outing does not exist.
pub fn add(connection: &Connection, outing: OutingId, track: &Track) -> Result<TrackId, Error> {
    let points = track.points().iter();
    // Seven decimals are a centimetre, and what receivers write.
    let points: Vec<String> = points
        .map(|point| {
            format!(
                "[{},{:.7},{:.7}]",
                point.at.as_second(),
                point.latitude,
                point.longitude
            )
        })
        .collect();
    let columns = [
        ("outing_id", outing.0.into()),
        ("name", track.name().to_owned().into()),
        ("points", format!("[{}]", points.join(",")).into()),
    ];
    insert(connection, "tracks", &columns)?;
    Ok(TrackId(connection.last_insert_rowid()))
}

/// The track of an outing, the last one that came; `None` where there is none.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(
    connection: &Connection,
    outing: OutingId,
) -> Result<Option<(TrackId, Track)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM tracks WHERE outing_id = ?1 AND deleted_utc_s IS NULL ORDER BY id DESC LIMIT 1",
    )?;
    let rows = statement.query_map([outing.0], |row| Ok((TrackId(row.get("id")?), read(row)?)))?;
    Ok(readable(rows)?.into_iter().next())
}

/// The outings that have one.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn outings(connection: &Connection) -> Result<Vec<OutingId>, Error> {
    let mut statement = connection
        .prepare_cached("SELECT DISTINCT outing_id FROM tracks WHERE deleted_utc_s IS NULL")?;
    readable(statement.query_map([], |row| Ok(OutingId(row.get(0)?)))?)
}

/// The outing of a track that is not thrown away.
///
/// # Errors
/// [`Error::Missing`].
pub fn outing(connection: &Connection, id: TrackId) -> Result<OutingId, Error> {
    let mut statement = connection
        .prepare_cached("SELECT outing_id FROM tracks WHERE id = ?1 AND deleted_utc_s IS NULL")?;
    let row = statement.query_row([id.0], |row| Ok(OutingId(row.get(0)?)));
    found(row, "track", id.0)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<Track> {
    let points: String = row.get("points")?;
    let points: Vec<(i64, f64, f64)> = serde_json::from_str(&points).map_err(unreadable)?;
    let points = points.into_iter().map(|(second, latitude, longitude)| {
        Ok(Point {
            at: Timestamp::from_second(second).map_err(unreadable)?,
            latitude,
            longitude,
        })
    });
    let points = points.collect::<rusqlite::Result<_>>()?;
    Track::new(row.get::<_, String>("name")?, points).map_err(unreadable)
}
