//! Runs of rivers.

use crate::Error;
use crate::row::{found, insert, keyed, readable, unreadable, update_row};
use motilis_core::book::{RunId, WaterId};
use motilis_core::river::{Bank, Bed, Mark, MarkKind, Run, Station};
use motilis_core::units::{Metres, MetresPerSecond};
use rusqlite::types::Value;
use rusqlite::{Connection, Row};

/// Adds a run.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the water does not exist.
pub fn add(connection: &Connection, run: &Run) -> Result<RunId, Error> {
    insert(connection, "runs", &columns(run))?;
    Ok(RunId(connection.last_insert_rowid()))
}

/// Puts a corrected run in place of the old one.
///
/// # Errors
/// [`Error::Missing`], [`Error::Sqlite`].
pub fn update(connection: &Connection, id: RunId, run: &Run) -> Result<(), Error> {
    let changed = update_row(connection, "runs", id.0, &columns(run))?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "run",
            id: id.0,
        });
    }
    Ok(())
}

fn columns(run: &Run) -> [(&'static str, Value); 9] {
    let stations: Vec<[f64; 3]> = run
        .stations
        .iter()
        .map(|one| [one.offset.0, one.depth.0, one.surface.0])
        .collect();
    let marks: Vec<(&str, f64, f64)> = run
        .marks
        .iter()
        .map(|mark| (mark.kind.key(), mark.along.0, mark.across.0))
        .collect();
    let json = |text: serde_json::Result<String>| text.expect("a list of figures is JSON");
    [
        ("water_id", run.water.0.into()),
        ("name", run.name.trim().to_owned().into()),
        ("bank", run.bank.key().to_owned().into()),
        ("length_m", run.length.0.into()),
        ("wade_m", run.wade.0.into()),
        ("bed", run.bed.key().to_owned().into()),
        ("growth_m", run.growth.0.into()),
        ("stations", json(serde_json::to_string(&stations)).into()),
        ("marks", json(serde_json::to_string(&marks)).into()),
    ]
}

/// One run, thrown away or not: casts still name it.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: RunId) -> Result<Run, Error> {
    let mut statement = connection.prepare_cached("SELECT * FROM runs WHERE id = ?1")?;
    found(statement.query_row([id.0], read), "run", id.0)
}

/// Those of a water, in the order they were entered.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_water(connection: &Connection, water: WaterId) -> Result<Vec<(RunId, Run)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM runs WHERE water_id = ?1 AND deleted_utc_s IS NULL ORDER BY id",
    )?;
    readable(statement.query_map([water.0], |row| Ok((RunId(row.get("id")?), read(row)?)))?)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<Run> {
    let list = |column: &str, error: &dyn std::fmt::Display| {
        unreadable(format!("{column} cannot be read: {error}"))
    };
    let stations: String = row.get("stations")?;
    let stations: Vec<[f64; 3]> =
        serde_json::from_str(&stations).map_err(|error| list("stations", &error))?;
    let marks: String = row.get("marks")?;
    let marks: Vec<(String, f64, f64)> =
        serde_json::from_str(&marks).map_err(|error| list("marks", &error))?;
    let marks = marks.into_iter().map(|(kind, along, across)| {
        Ok(Mark {
            kind: MarkKind::from_key(&kind)
                .ok_or_else(|| unreadable(format!("marks holds {kind:?}")))?,
            along: Metres(along),
            across: Metres(across),
        })
    });
    Ok(Run {
        water: WaterId(row.get("water_id")?),
        name: row.get("name")?,
        bank: keyed(row, "bank", Bank::from_key)?,
        length: Metres(row.get("length_m")?),
        wade: Metres(row.get("wade_m")?),
        bed: keyed(row, "bed", Bed::from_key)?,
        growth: Metres(row.get("growth_m")?),
        stations: stations
            .into_iter()
            .map(|[offset, depth, surface]| Station {
                offset: Metres(offset),
                depth: Metres(depth),
                surface: MetresPerSecond(surface),
            })
            .collect(),
        marks: marks.collect::<rusqlite::Result<_>>()?,
    })
}
