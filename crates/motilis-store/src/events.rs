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
    let mut statement = connection.prepare_cached(
        "SELECT * FROM events WHERE outing_id = ?1 AND deleted_utc_s IS NULL
         ORDER BY at_utc_s DESC, id DESC",
    )?;
    let rows = statement.query_map([outing.0], |row| Ok((EventId(row.get("id")?), read(row)?)))?;
    readable(rows)
}

/// One event that is not deleted.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: EventId) -> Result<Event, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM events WHERE id = ?1 AND deleted_utc_s IS NULL")?;
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

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<Event> {
    let figure = |column: &str| row.get::<_, Option<f64>>(column);
    let line = match tackle_of(row)? {
        None => None,
        Some(tackle) => Some(OnLine {
            tackle,
            out: Metres(row.get("out_m")?),
            depth: figure("depth_m")?.map(Metres),
        }),
    };
    Ok(Event {
        outing: OutingId(row.get("outing_id")?),
        kind: keyed(row, "kind", EventKind::from_key)?,
        at: Timestamp::from_second(row.get("at_utc_s")?).map_err(unreadable)?,
        entered: Timestamp::from_second(row.get("entered_utc_s")?).map_err(unreadable)?,
        rod: passes::rod(row)?,
        line,
        speed: MetresPerSecond(row.get("speed_mps")?),
        length: figure("length_m")?.map(Metres),
        kept: row.get("kept")?,
        caught: Caught {
            species: keyed_or_none(row, "species", Fish::from_key)?,
            landing: keyed_or_none(row, "landing", Landing::from_key)?,
            girth: figure("girth_m")?.map(Metres),
            weight: figure("weight_kg")?.map(Kilograms),
            sex: row.get("sex")?,
            condition: row.get("condition")?,
            hooked: row.get("hooked")?,
            clipped: row.get("clipped")?,
            strike: keyed_or_none(row, "strike", Strike::from_key)?,
            bait_after: keyed_or_none(row, "bait_after", BaitAfter::from_key)?,
            measured: keyed_or_none(row, "measured", Measured::from_key)?,
        },
        given: keyed(row, "given", Given::from_key)?,
        place: figure("lat")?.zip(figure("lon")?),
        ground: figure("ground_mps")?.map(MetresPerSecond),
        course_deg: figure("course_deg")?,
        play: keyed_or_none(row, "play", Play::from_key)?,
        temperature: figure("temperature_c")?.map(Celsius),
        bottom: figure("bottom_m")?.map(Metres),
        note: row.get("note")?,
    })
}
