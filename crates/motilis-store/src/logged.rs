//! What the log says of hours, outing by outing.

use crate::row::{readable, unreadable};
use crate::spreads::tackle_of;
use crate::{Error, passes};
use jiff::Timestamp;
use motilis_core::book::OutingId;
use motilis_core::evidence::{Entry, Logged};
use motilis_core::fish::Fish;
use rusqlite::Connection;
use std::collections::BTreeMap;

/// Every outing that is not thrown away, or those for one fish.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn outings(
    connection: &Connection,
    fish: Option<Fish>,
) -> Result<BTreeMap<OutingId, Logged>, Error> {
    let of = fish.map(Fish::key);
    let instant = |second| Timestamp::from_second(second).map_err(unreadable);
    let mut statement = connection.prepare_cached(
        "SELECT id, started_utc_s, ended_utc_s FROM outings
         WHERE (?1 IS NULL OR fish = ?1) AND deleted_utc_s IS NULL",
    )?;
    let rows = statement.query_map([of], |row| {
        let logged = Logged {
            started: instant(row.get(1)?)?,
            ended: row.get::<_, Option<i64>>(2)?.map(instant).transpose()?,
            entries: Vec::new(),
            passes: Vec::new(),
        };
        Ok((OutingId(row.get(0)?), logged))
    })?;
    let mut outings: BTreeMap<OutingId, Logged> = readable(rows)?.into_iter().collect();
    let mut statement = connection.prepare_cached(
        "SELECT events.outing_id, events.rod, events.rig_id, events.lure_id, at_utc_s, entered_utc_s, kind
         FROM events JOIN outings ON outings.id = outing_id
         WHERE (?1 IS NULL OR fish = ?1) AND events.deleted_utc_s IS NULL AND outings.deleted_utc_s IS NULL
         ORDER BY at_utc_s",
    )?;
    let rows = statement.query_map([of], |row| {
        let kind: String = row.get("kind")?;
        let entry = Entry {
            rod: passes::rod(row)?,
            tackle: tackle_of(row)?,
            at: instant(row.get("at_utc_s")?)?,
            entered: instant(row.get("entered_utc_s")?)?,
            fish: kind == "fish",
            strike: kind == "strike",
        };
        Ok((OutingId(row.get("outing_id")?), entry))
    })?;
    for (outing, entry) in readable(rows)? {
        if let Some(logged) = outings.get_mut(&outing) {
            logged.entries.push(entry);
        }
    }
    let mut statement = connection.prepare_cached(
        "SELECT passes.* FROM passes JOIN outings ON outings.id = outing_id
         WHERE (?1 IS NULL OR fish = ?1) AND passes.deleted_utc_s IS NULL AND outings.deleted_utc_s IS NULL
         ORDER BY from_utc_s, passes.id",
    )?;
    let rows = statement.query_map([of], |row| {
        Ok((OutingId(row.get("outing_id")?), passes::read(row)?))
    })?;
    for (outing, pass) in readable(rows)? {
        if let Some(logged) = outings.get_mut(&outing) {
            logged.passes.push(pass);
        }
    }
    Ok(outings)
}
