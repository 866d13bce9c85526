//! Casts that were made in the runs of rivers.

use crate::Error;
use crate::row::{insert, keyed, keyed_or_none, readable, unreadable};
use jiff::Timestamp;
use motilis_core::book::{CastId, EventId, OutingId, RigId, RiverCast, RunId};
use motilis_core::river::{Far, Held, Plan, Presentation, Thrown, Way};
use motilis_core::units::{Metres, MetresPerSecond};
use rusqlite::{Connection, Row};

/// Adds a cast.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range, or what it names does not exist.
pub fn add(connection: &Connection, cast: &RiverCast) -> Result<CastId, Error> {
    let plan = &cast.plan;
    let (way, far) = cast.grid.unzip();
    insert(
        connection,
        "casts",
        &[
            ("outing_id", cast.outing.0.into()),
            ("run_id", cast.run.0.into()),
            ("rod", i64::from(cast.rod).into()),
            ("rig_id", cast.rig.map(|rig| rig.0).into()),
            ("at_utc_s", cast.at.as_second().into()),
            ("presentation", cast.presentation.key().to_owned().into()),
            ("stand_along_m", cast.stand.0.into()),
            ("way", way.map(|way| way.key().to_owned()).into()),
            ("far", far.map(|far| far.key().to_owned()).into()),
            ("angle_deg", plan.thrown.angle_deg.into()),
            ("distance_m", plan.thrown.distance.0.into()),
            ("held", plan.held.key().to_owned().into()),
            ("sink_seconds", plan.sink.into()),
            ("reel_mps", plan.reel.0.into()),
            ("mend", i64::from(plan.mend).into()),
            ("follow", i64::from(plan.follow).into()),
            ("lift_seconds", plan.lift.into()),
            ("event_id", cast.event.map(|event| event.0).into()),
        ],
    )?;
    Ok(CastId(connection.last_insert_rowid()))
}

/// Those of an outing that are not thrown away, the first first; one whose entry was thrown away has brought nothing.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(
    connection: &Connection,
    outing: OutingId,
) -> Result<Vec<(CastId, RiverCast)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT casts.*, events.id AS standing_event_id FROM casts
         LEFT JOIN events ON events.id = casts.event_id AND events.deleted_utc_s IS NULL
         WHERE casts.outing_id = ?1 AND casts.deleted_utc_s IS NULL ORDER BY at_utc_s, casts.id",
    )?;
    readable(statement.query_map([outing.0], |row| {
        let event: Option<i64> = row.get("standing_event_id")?;
        let cast = RiverCast {
            event: event.map(EventId),
            ..read(row)?
        };
        Ok((CastId(row.get("id")?), cast))
    })?)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<RiverCast> {
    let at: i64 = row.get("at_utc_s")?;
    let event: Option<i64> = row.get("event_id")?;
    let rig: Option<i64> = row.get("rig_id")?;
    Ok(RiverCast {
        outing: OutingId(row.get("outing_id")?),
        run: RunId(row.get("run_id")?),
        rod: row.get("rod")?,
        rig: rig.map(RigId),
        at: Timestamp::from_second(at)
            .map_err(|error| unreadable(format!("at_utc_s cannot be: {error}")))?,
        presentation: keyed(row, "presentation", Presentation::from_key)?,
        stand: Metres(row.get("stand_along_m")?),
        grid: keyed_or_none(row, "way", Way::from_key)?.zip(keyed_or_none(
            row,
            "far",
            Far::from_key,
        )?),
        plan: Plan {
            thrown: Thrown {
                angle_deg: row.get("angle_deg")?,
                distance: Metres(row.get("distance_m")?),
            },
            held: keyed(row, "held", Held::from_key)?,
            sink: row.get("sink_seconds")?,
            reel: MetresPerSecond(row.get("reel_mps")?),
            mend: row.get::<_, i64>("mend")? != 0,
            follow: row.get::<_, i64>("follow")? != 0,
            lift: row.get("lift_seconds")?,
        },
        event: event.map(EventId),
    })
}
