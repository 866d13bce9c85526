//! Experiments: two ways of fishing held against each other on the rods of an outing.

use crate::Error;
use crate::row::{found, insert, readable, unreadable};
use jiff::{SignedDuration, Timestamp};
use motilis_core::book::{ExperimentId, OutingId, RigId};
use motilis_core::evidence::{Experiment, Way};
use motilis_core::units::Metres;
use rusqlite::{Connection, Row};

/// Adds an experiment.
///
/// # Errors
/// [`Error::Sqlite`] when the outing or a rig do not exist.
pub fn add(connection: &Connection, experiment: &Experiment) -> Result<ExperimentId, Error> {
    let rods: Vec<String> = experiment.rods.iter().map(u8::to_string).collect();
    let [a, b] = &experiment.ways;
    let lead = |way: &Way| way.lead.map(|lead| lead.0);
    let columns = [
        ("outing_id", experiment.outing.0.into()),
        ("began_utc_s", experiment.began.as_second().into()),
        ("until_utc_s", experiment.until.as_second().into()),
        (
            "ended_utc_s",
            experiment.ended.map(Timestamp::as_second).into(),
        ),
        ("period_s", experiment.period.as_secs().into()),
        // The bits of the seed; SQLite's integers are signed.
        ("seed", experiment.seed.cast_signed().into()),
        ("rods", rods.join(",").into()),
        ("a_rig_id", a.rig.0.into()),
        ("a_lead_m", lead(a).into()),
        ("a_bait", a.bait.clone().into()),
        ("b_rig_id", b.rig.0.into()),
        ("b_lead_m", lead(b).into()),
        ("b_bait", b.bait.clone().into()),
    ];
    insert(connection, "experiments", &columns)?;
    Ok(ExperimentId(connection.last_insert_rowid()))
}

/// Ends one.
///
/// # Errors
/// [`Error::Missing`].
pub fn end(connection: &Connection, id: ExperimentId, at: Timestamp) -> Result<(), Error> {
    let changed = connection.execute(
        "UPDATE experiments SET ended_utc_s = ?1 WHERE id = ?2",
        (at.as_second(), id.0),
    )?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "experiment",
            id: id.0,
        });
    }
    Ok(())
}

/// One experiment.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: ExperimentId) -> Result<Experiment, Error> {
    let mut statement = connection.prepare_cached("SELECT * FROM experiments WHERE id = ?1")?;
    found(statement.query_row([id.0], read), "experiment", id.0)
}

/// Those of an outing, the newest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(
    connection: &Connection,
    outing: OutingId,
) -> Result<Vec<(ExperimentId, Experiment)>, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM experiments WHERE outing_id = ?1 ORDER BY id DESC")?;
    let rows = statement.query_map([outing.0], |row| {
        Ok((ExperimentId(row.get("id")?), read(row)?))
    })?;
    readable(rows)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<Experiment> {
    let instant = |second| Timestamp::from_second(second).map_err(unreadable);
    let rods: String = row.get("rods")?;
    let rods = rods.split(',').map(|rod| rod.parse().map_err(unreadable));
    let way = |arm: &str| -> rusqlite::Result<Way> {
        let column = |name: &str| format!("{arm}_{name}");
        Ok(Way {
            rig: RigId(row.get(column("rig_id").as_str())?),
            lead: row
                .get::<_, Option<f64>>(column("lead_m").as_str())?
                .map(Metres),
            bait: row.get(column("bait").as_str())?,
        })
    };
    Ok(Experiment {
        outing: OutingId(row.get("outing_id")?),
        began: instant(row.get("began_utc_s")?)?,
        until: instant(row.get("until_utc_s")?)?,
        ended: row
            .get::<_, Option<i64>>("ended_utc_s")?
            .map(instant)
            .transpose()?,
        period: SignedDuration::from_secs(row.get("period_s")?),
        seed: row.get::<_, i64>("seed")?.cast_unsigned(),
        rods: rods.collect::<rusqlite::Result<_>>()?,
        ways: [way("a")?, way("b")?],
    })
}
