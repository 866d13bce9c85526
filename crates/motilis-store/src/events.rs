//! What happened on the water: strikes, fish, follows, bottom touches, notes.

use crate::row::{
    found, insert, keyed, keyed_or_none, readable, unreadable, update_row, whose_row,
};
use crate::spreads::{tackle_columns, tackle_of};
use crate::{Error, passes};
use jiff::Timestamp;
use motilis_core::book::{
    BaitAfter, Caught, Event, EventId, EventKind, Given, Landing, Measured, OnLine, OutingId, Play,
    Strike,
};
use motilis_core::fish::Fish;
use motilis_core::units::{Celsius, Kilograms, Metres, MetresPerSecond};
use rusqlite::types::Value;
use rusqlite::{Connection, OptionalExtension, Row};

/// Adds an event.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the outing or rig do not exist.
pub fn add(connection: &Connection, event: &Event) -> Result<EventId, Error> {
    insert(connection, "events", &columns(event))?;
    Ok(EventId(connection.last_insert_rowid()))
}

/// Adds an event under a number that no entry has.
///
/// # Errors
/// [`Error::Sqlite`] as for [`add`], and when the number is taken.
pub fn add_as(connection: &Connection, id: EventId, event: &Event) -> Result<(), Error> {
    let mut columns = columns(event);
    columns.push(("id", id.0.into()));
    Ok(insert(connection, "events", &columns)?)
}

/// The outing of an entry, thrown away or not, and whether it is; `None` for a number that no entry has.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn whose(connection: &Connection, id: EventId) -> Result<Option<(OutingId, bool)>, Error> {
    whose_row(connection, "events", id.0)
}

/// Puts a corrected event in place of the old one.
///
/// # Errors
/// [`Error::Missing`], [`Error::Sqlite`].
pub fn update(connection: &Connection, id: EventId, event: &Event) -> Result<(), Error> {
    let changed = update_row(connection, "events", id.0, &columns(event))?;
    if changed == 0 {
        return Err(Error::Missing {
            what: "log entry",
            id: id.0,
        });
    }
    Ok(())
}

/// The events of an outing, the newest first.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(
    connection: &Connection,
    outing: OutingId,
) -> Result<Vec<(EventId, Event)>, Error> {
    let mut statement = connection.prepare_cached(&format!(
        "SELECT {COLUMNS}, id FROM events WHERE outing_id = ?1 AND deleted_utc_s IS NULL
         ORDER BY at_utc_s DESC, id DESC"
    ))?;
    let rows = statement.query_map([outing.0], |row| Ok((EventId(row.get("id")?), read(row)?)))?;
    readable(rows)
}

/// One event that is not deleted.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: EventId) -> Result<Event, Error> {
    let mut statement = connection.prepare_cached(&format!(
        "SELECT {COLUMNS} FROM events WHERE id = ?1 AND deleted_utc_s IS NULL"
    ))?;
    found(statement.query_row([id.0], read), "log entry", id.0)
}

/// When an event was, also of one that was deleted.
///
/// # Errors
/// As [`of_outing`].
pub fn hour(connection: &Connection, id: EventId) -> Result<Option<Timestamp>, Error> {
    let mut statement = connection.prepare_cached("SELECT at_utc_s FROM events WHERE id = ?1")?;
    let second: Option<i64> = statement.query_row([id.0], |row| row.get(0)).optional()?;
    Ok(second.and_then(|second| Timestamp::from_second(second).ok()))
}

fn columns(event: &Event) -> Vec<(&'static str, Value)> {
    let (line, caught) = (event.line, &event.caught);
    let (rig, lure) = line.map_or((None, None), |line| tackle_columns(line.tackle));
    let key = |key: Option<&str>| Value::from(key.map(str::to_owned));
    let metres = |length: Option<Metres>| Value::from(length.map(|length| length.0));
    vec![
        ("outing_id", event.outing.0.into()),
        ("kind", event.kind.key().to_owned().into()),
        ("at_utc_s", event.at.as_second().into()),
        ("entered_utc_s", event.entered.as_second().into()),
        ("rod", event.rod.map(i64::from).into()),
        ("rig_id", rig.into()),
        ("lure_id", lure.into()),
        ("out_m", metres(line.map(|line| line.out))),
        ("depth_m", metres(line.and_then(|line| line.depth))),
        ("speed_mps", event.speed.0.into()),
        ("length_m", metres(event.length)),
        ("kept", event.kept.map(i64::from).into()),
        ("species", key(caught.species.map(Fish::key))),
        ("landing", key(caught.landing.map(Landing::key))),
        ("girth_m", metres(caught.girth)),
        ("weight_kg", caught.weight.map(|weight| weight.0).into()),
        ("sex", caught.sex.clone().into()),
        ("condition", caught.condition.clone().into()),
        ("hooked", caught.hooked.clone().into()),
        ("clipped", caught.clipped.map(i64::from).into()),
        ("strike", key(caught.strike.map(Strike::key))),
        ("bait_after", key(caught.bait_after.map(BaitAfter::key))),
        ("given", event.given.key().to_owned().into()),
        ("lat", event.place.map(|(lat, _)| lat).into()),
        ("lon", event.place.map(|(_, lon)| lon).into()),
        ("measured", key(caught.measured.map(Measured::key))),
        ("ground_mps", event.ground.map(|speed| speed.0).into()),
        ("course_deg", event.course_deg.into()),
        ("play", key(event.play.map(Play::key))),
        (
            "temperature_c",
            event.temperature.map(|degrees| degrees.0).into(),
        ),
        ("bottom_m", metres(event.bottom)),
        ("note", event.note.clone().into()),
    ]
}

/// Columns of an event, in the order in which [`read`] takes them: a book of twenty years has a hundred thousand, and to look
/// each column up by its name would take longer than all the rest. Rod, rig and lure come first: others look them up by name.
pub(crate) const COLUMNS: &str = "rod, rig_id, lure_id, outing_id, kind, at_utc_s, entered_utc_s, out_m, depth_m,
    speed_mps, length_m, kept, species, landing, girth_m, weight_kg, sex, condition, hooked, clipped, strike, bait_after,
    measured, given, lat, lon, ground_mps, course_deg, play, temperature_c, bottom_m, note";

/// An event out of [`COLUMNS`].
pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<Event> {
    let figure = |column: usize| row.get::<_, Option<f64>>(column);
    let line = match tackle_of(row)? {
        None => None,
        Some(tackle) => Some(OnLine {
            tackle,
            out: Metres(row.get(7)?),
            depth: figure(8)?.map(Metres),
        }),
    };
    Ok(Event {
        outing: OutingId(row.get(3)?),
        kind: keyed(row, 4, EventKind::from_key)?,
        at: Timestamp::from_second(row.get(5)?).map_err(unreadable)?,
        entered: Timestamp::from_second(row.get(6)?).map_err(unreadable)?,
        rod: passes::rod(row)?,
        line,
        speed: MetresPerSecond(row.get(9)?),
        length: figure(10)?.map(Metres),
        kept: row.get(11)?,
        caught: Caught {
            species: keyed_or_none(row, 12, Fish::from_key)?,
            landing: keyed_or_none(row, 13, Landing::from_key)?,
            girth: figure(14)?.map(Metres),
            weight: figure(15)?.map(Kilograms),
            sex: row.get(16)?,
            condition: row.get(17)?,
            hooked: row.get(18)?,
            clipped: row.get(19)?,
            strike: keyed_or_none(row, 20, Strike::from_key)?,
            bait_after: keyed_or_none(row, 21, BaitAfter::from_key)?,
            measured: keyed_or_none(row, 22, Measured::from_key)?,
        },
        given: keyed(row, 23, Given::from_key)?,
        place: figure(24)?.zip(figure(25)?),
        ground: figure(26)?.map(MetresPerSecond),
        course_deg: figure(27)?,
        play: keyed_or_none(row, 28, Play::from_key)?,
        temperature: figure(29)?.map(Celsius),
        bottom: figure(30)?.map(Metres),
        note: row.get(31)?,
    })
}
