//! Local rules of the waters, as they were typed in.

use crate::Error;
use crate::row::{found, keyed, keyed_or_none, readable, unreadable};
use jiff::civil::Date;
use motilis_core::book::{RuleId, WaterId};
use motilis_core::fish::Fish;
use motilis_core::rules::{LocalRule, Says, Slot, Topic};
use motilis_core::units::Metres;
use rusqlite::types::Value;
use rusqlite::{Connection, Row};

/// Adds a rule to a water.
///
/// # Errors
/// [`Error::Sqlite`] when the water does not exist.
pub fn add(connection: &Connection, water: WaterId, rule: &LocalRule) -> Result<RuleId, Error> {
    let mut columns = columns(rule).to_vec();
    columns.push((":water_id", water.0.into()));
    connection.execute(
        "INSERT INTO local_rules (water_id, topic, fish, from_date, to_date, most, slot_from_m,
             slot_to_m, slot_protected, slot_one_over, source, entered_date)
         VALUES (:water_id, :topic, :fish, :from_date, :to_date, :most, :slot_from_m,
             :slot_to_m, :slot_protected, :slot_one_over, :source, :entered_date)",
        &columns[..],
    )?;
    Ok(RuleId(connection.last_insert_rowid()))
}

/// Puts a corrected rule in place of the old one.
///
/// # Errors
/// [`Error::Missing`], [`Error::Sqlite`].
pub fn update(connection: &Connection, id: RuleId, rule: &LocalRule) -> Result<(), Error> {
    let mut columns = columns(rule).to_vec();
    columns.push((":id", id.0.into()));
    let changed = connection.execute(
        "UPDATE local_rules SET topic = :topic, fish = :fish, from_date = :from_date,
             to_date = :to_date, most = :most, slot_from_m = :slot_from_m, slot_to_m = :slot_to_m,
             slot_protected = :slot_protected, slot_one_over = :slot_one_over, source = :source,
             entered_date = :entered_date
         WHERE id = :id AND deleted_utc_s IS NULL",
        &columns[..],
    )?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "rule",
            id: id.0,
        });
    }
    Ok(())
}

/// The rules of a water, by topic and first day.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_water(
    connection: &Connection,
    water: WaterId,
) -> Result<Vec<(RuleId, LocalRule)>, Error> {
    let mut statement = connection.prepare_cached(
        "SELECT * FROM local_rules WHERE water_id = ?1 AND deleted_utc_s IS NULL
         ORDER BY topic, fish, from_date, id",
    )?;
    let rows = statement.query_map([water.0], |row| Ok((RuleId(row.get("id")?), read(row)?)))?;
    readable(rows)
}

/// A rule that is not deleted, with its water.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: RuleId) -> Result<(WaterId, LocalRule), Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM local_rules WHERE id = ?1 AND deleted_utc_s IS NULL")?;
    let rule = statement.query_row([id.0], |row| {
        Ok((WaterId(row.get("water_id")?), read(row)?))
    });
    found(rule, "rule", id.0)
}

fn columns(rule: &LocalRule) -> [(&'static str, Value); 11] {
    let most = match rule.says {
        Says::AtMost(_, most) => Some(i64::from(most)),
        Says::Holds(_) | Says::Slot(_) => None,
    };
    let slot = match rule.says {
        Says::Slot(slot) => Some(slot),
        Says::AtMost(..) | Says::Holds(_) => None,
    };
    let end = |end: Option<Metres>| Value::from(end.map(|end| end.0));
    let date = |date: Option<Date>| Value::from(date.map(|date| date.to_string()));
    [
        (":topic", rule.says.topic().key().to_owned().into()),
        (":fish", rule.fish.map(|fish| fish.key().to_owned()).into()),
        (":from_date", date(rule.from)),
        (":to_date", date(rule.to)),
        (":most", most.into()),
        (":slot_from_m", end(slot.and_then(|slot| slot.from))),
        (":slot_to_m", end(slot.and_then(|slot| slot.to))),
        (
            ":slot_protected",
            slot.map(|slot| i64::from(slot.protected)).into(),
        ),
        (
            ":slot_one_over",
            slot.map(|slot| i64::from(slot.one_over)).into(),
        ),
        (":source", rule.source.clone().into()),
        (":entered_date", rule.entered.to_string().into()),
    ]
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<LocalRule> {
    let topic = keyed(row, "topic", Topic::from_key)?;
    let says = if topic == Topic::Slot {
        let end = |column| Ok::<_, rusqlite::Error>(row.get::<_, Option<f64>>(column)?.map(Metres));
        Says::Slot(Slot {
            from: end("slot_from_m")?,
            to: end("slot_to_m")?,
            protected: row.get("slot_protected")?,
            one_over: row.get("slot_one_over")?,
        })
    } else if topic.has_count() {
        Says::AtMost(topic, row.get("most")?)
    } else {
        Says::Holds(topic)
    };
    let date = |column| match row.get::<_, Option<String>>(column)? {
        None => Ok(None),
        Some(text) => text.parse::<Date>().map(Some).map_err(unreadable),
    };
    Ok(LocalRule {
        says,
        fish: keyed_or_none(row, "fish", Fish::from_key)?,
        from: date("from_date")?,
        to: date("to_date")?,
        source: row.get("source")?,
        entered: date("entered_date")?.ok_or_else(|| unreadable("entered_date is empty"))?,
    })
}
