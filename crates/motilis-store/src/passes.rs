//! What was in the water from when to when.

use crate::Error;
use crate::row::{found, insert, readable, unreadable, update_row, whose_row};
use crate::spreads::{tackle_columns, tackle_of};
use jiff::Timestamp;
use motilis_core::book::{OutingId, PassId, SetupId};
use motilis_core::evidence::{Pass, Ran};
use motilis_core::units::{Kilograms, Metres, MetresPerSecond};
use rusqlite::types::Value;
use rusqlite::{Connection, Row};

/// Adds a pass.
///
/// # Errors
/// [`Error::Sqlite`] when the outing or what was fished do not exist.
pub fn add(connection: &Connection, outing: OutingId, pass: &Pass) -> Result<PassId, Error> {
    insert(connection, "passes", &columns(outing, pass))?;
    Ok(PassId(connection.last_insert_rowid()))
}

/// Adds a pass under a number that none has.
///
/// # Errors
/// [`Error::Sqlite`] as for [`add`], and when the number is taken.
pub fn add_as(
    connection: &Connection,
    id: PassId,
    outing: OutingId,
    pass: &Pass,
) -> Result<(), Error> {
    let mut columns = columns(outing, pass);
    columns.push(("id", id.0.into()));
    Ok(insert(connection, "passes", &columns)?)
}

/// Puts a pass as it really was in place of the old one.
///
/// # Errors
/// [`Error::Missing`], [`Error::Sqlite`].
pub fn update(
    connection: &Connection,
    id: PassId,
    outing: OutingId,
    pass: &Pass,
) -> Result<(), Error> {
    let changed = update_row(connection, "passes", id.0, &columns(outing, pass))?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "pass",
            id: id.0,
        });
    }
    Ok(())
}

/// The outing of a pass, thrown away or not, and whether it is; `None` for a number that none has.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn whose(connection: &Connection, id: PassId) -> Result<Option<(OutingId, bool)>, Error> {
    whose_row(connection, "passes", id.0)
}

fn columns(outing: OutingId, pass: &Pass) -> Vec<(&'static str, Value)> {
    let (rig, lure) = tackle_columns(pass.tackle);
    let ran = &pass.ran;
    let metres = |length: Option<Metres>| Value::from(length.map(|length| length.0));
    vec![
        ("outing_id", outing.0.into()),
        ("rod", pass.rod.map(i64::from).into()),
        ("rig_id", rig.into()),
        ("lure_id", lure.into()),
        ("rig_version", ran.version.into()),
        ("setup_id", ran.setup.map(|setup| setup.0).into()),
        ("out_m", metres(ran.out)),
        ("lead_m", metres(ran.lead)),
        ("weight_kg", ran.weight.map(|mass| mass.0).into()),
        ("depth_m", metres(ran.depth)),
        ("speed_mps", ran.speed.map(|speed| speed.0).into()),
        ("bait", ran.bait.clone().into()),
        ("from_utc_s", pass.from.as_second().into()),
        ("to_utc_s", pass.to.map(Timestamp::as_second).into()),
    ]
}

/// Sets when a pass began and ended.
///
/// # Errors
/// [`Error::Missing`].
pub fn set_hours(
    connection: &Connection,
    id: PassId,
    from: Timestamp,
    to: Option<Timestamp>,
) -> Result<(), Error> {
    let changed = connection.execute(
        "UPDATE passes SET from_utc_s = ?1, to_utc_s = ?2 WHERE id = ?3 AND deleted_utc_s IS NULL",
        (from.as_second(), to.map(Timestamp::as_second), id.0),
    )?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "pass",
            id: id.0,
        });
    }
    Ok(())
}

/// One pass that is not thrown away, with its outing.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: PassId) -> Result<(OutingId, Pass), Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM passes WHERE id = ?1 AND deleted_utc_s IS NULL")?;
    let row = statement.query_row([id.0], |row| {
        Ok((OutingId(row.get("outing_id")?), read(row)?))
    });
    found(row, "pass", id.0)
}

/// The passes of an outing, the earliest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(connection: &Connection, outing: OutingId) -> Result<Vec<(PassId, Pass)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM passes WHERE outing_id = ?1 AND deleted_utc_s IS NULL ORDER BY from_utc_s, id",
    )?;
    readable(statement.query_map([outing.0], |row| Ok((PassId(row.get("id")?), read(row)?)))?)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<Pass> {
    let instant = |second| Timestamp::from_second(second).map_err(unreadable);
    let figure = |column: &str| row.get::<_, Option<f64>>(column);
    Ok(Pass {
        rod: rod(row)?,
        tackle: tackle_of(row)?.ok_or_else(|| unreadable("it names neither a rig nor a lure"))?,
        from: instant(row.get("from_utc_s")?)?,
        to: row
            .get::<_, Option<i64>>("to_utc_s")?
            .map(instant)
            .transpose()?,
        ran: Ran {
            version: row.get("rig_version")?,
            setup: row.get::<_, Option<i64>>("setup_id")?.map(SetupId),
            out: figure("out_m")?.map(Metres),
            lead: figure("lead_m")?.map(Metres),
            weight: figure("weight_kg")?.map(Kilograms),
            depth: figure("depth_m")?.map(Metres),
            speed: figure("speed_mps")?.map(MetresPerSecond),
            bait: row.get("bait")?,
        },
    })
}

/// The number of a rod, where one is named.
pub(crate) fn rod(row: &Row<'_>) -> rusqlite::Result<Option<u8>> {
    let number = row.get::<_, Option<i64>>("rod")?;
    number
        .map(|rod| rod.try_into().map_err(unreadable))
        .transpose()
}
