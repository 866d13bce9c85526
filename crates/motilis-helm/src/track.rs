//! Where the boat went on an outing: its track with the entries on it, spots and what they brought, and what a track says
//! of entries.

use crate::book::Book;
use crate::error::{Error, Refusal};
use crate::names::Names;
use crate::season::{Season, logged};
use motilis_core::book::{
    Event, EventId, Given, Outing, OutingId, SpotId, TemperatureReading, TrackId,
};
use motilis_core::evidence::{Angler, Belief, LONGEST};
use motilis_core::track::{At, Spot, Track, at_spot};
use motilis_store::{Connection, events, outings, passes, readings, spots, tracks};

/// A spot with what it brought on all outings that have a track.
#[derive(Debug, Clone)]
pub struct SpotTold {
    /// Its number.
    pub id: SpotId,
    /// The spot.
    pub spot: Spot,
    /// Fish, strikes and rod-hours there.
    pub at: At,
    /// What is believed of its rate.
    pub belief: Belief,
}

/// Where the boat went on an outing.
#[derive(Debug, Clone)]
pub struct TrackLook {
    /// The outing.
    pub id: OutingId,
    /// The outing.
    pub outing: Outing,
    /// Its track.
    pub track: Option<(TrackId, Track)>,
    /// Its entries, the newest first.
    pub entries: Vec<(EventId, Event)>,
    /// What their tackle is called.
    pub names: Names,
    /// Spots of the water.
    pub spots: Vec<SpotTold>,
    /// How many outings the spots are counted over.
    pub counted: usize,
    /// Temperatures read on the outing.
    pub readings: Vec<TemperatureReading>,
    /// What the angler catches on the whole.
    pub angler: Angler,
}

impl TrackLook {
    /// Of an outing, or of the open one.
    ///
    /// # Errors
    /// [`Error::NoOuting`], [`Error::Store`].
    pub fn of(book: &Book<'_>, outing: Option<OutingId>) -> Result<Self, Error> {
        let connection = book.connection();
        let (id, outing) = if let Some(id) = outing {
            (id, outings::get(connection, id)?)
        } else {
            let here = book.here()?;
            (here.id, here.outing.clone())
        };
        let entries = events::of_outing(connection, id)?;
        let named = entries.iter().filter_map(|(_, event)| event.line);
        let season = Season::load(connection, Some(outing.fish))?;
        let angler = Angler::of(season.whole());
        let (spots, counted) = spots_told(connection, &outing, angler)?;
        let readings = readings::of_outing(connection, id)?.into_iter();
        Ok(Self {
            track: tracks::of_outing(connection, id)?,
            names: Names::of(connection, named.map(|line| line.tackle))?,
            readings: readings.map(|(_, reading)| reading).collect(),
            id,
            outing,
            entries,
            spots,
            counted,
            angler,
        })
    }
}

/// The spots of a water with what they brought on all its outings for the same fish that have a track.
fn spots_told(
    connection: &Connection,
    here: &Outing,
    angler: Angler,
) -> Result<(Vec<SpotTold>, usize), Error> {
    let of_water = spots::of_water(connection, here.water)?;
    let mut sums = vec![At::default(); of_water.len()];
    let mut counted = 0;
    for id in tracks::outings(connection)? {
        let Ok(outing) = outings::get(connection, id) else {
            continue;
        };
        if outing.water != here.water || outing.fish != here.fish || of_water.is_empty() {
            continue;
        }
        let Some((_, track)) = tracks::of_outing(connection, id)? else {
            continue;
        };
        counted += 1;
        let events = events::of_outing(connection, id)?;
        let passes = passes::of_outing(connection, id)?;
        let day = logged(connection, (id, &outing), &events, &passes)?;
        let end = day.span().map_or(track.span().1, |span| span.to);
        for ((_, spot), sum) in of_water.iter().zip(&mut sums) {
            let at = at_spot(spot, &track, &day.passes, &day.entries, end);
            sum.record = sum.record.and(at.record);
            sum.strikes += at.strikes;
        }
    }
    let mut told = Vec::new();
    for ((id, spot), at) in of_water.into_iter().zip(sums) {
        let belief = angler.believes(at.record)?;
        told.push(SpotTold {
            id,
            spot,
            at,
            belief,
        });
    }
    Ok((told, counted))
}

/// The outing a track was recorded on: of those it shares hours with, the one it shares most with.
///
/// # Errors
/// [`Refusal::NoOutingThen`].
pub fn outing_of(connection: &Connection, track: &Track) -> Result<OutingId, Error> {
    let (from, to) = track.span();
    let mut best: Option<(i64, OutingId)> = None;
    for (id, outing) in outings::all(connection)? {
        // What began after the track's end, or more than a day before its beginning, is another outing.
        if outing.started >= to || outing.started + LONGEST <= from {
            continue;
        }
        let events = events::of_outing(connection, id)?;
        let passes = passes::of_outing(connection, id)?;
        let span = logged(connection, (id, &outing), &events, &passes)?.span();
        let ended = span.map_or(to, |span| span.to);
        let shared = ended.min(to).duration_since(outing.started.max(from));
        let shared = shared.as_secs();
        if shared > 0 && best.is_none_or(|(most, _)| shared > most) {
            best = Some((shared, id));
        }
    }
    best.map(|(_, id)| id)
        .ok_or_else(|| Refusal::NoOutingThen(from, to).into())
}

/// What a track says of an entry; what the boat's own instruments said stays.
pub(crate) fn filled(event: Event, track: Option<&Track>) -> Event {
    if event.given == Given::Live {
        return event;
    }
    match track.and_then(|track| track.fix(event.at)) {
        Some(fix) => Event {
            given: Given::Track,
            place: Some((fix.latitude, fix.longitude)),
            ground: fix.ground,
            course_deg: fix.course_deg,
            ..event
        },
        // What an earlier track said holds no more.
        None if event.given == Given::Track => Event {
            given: Given::Conditions,
            place: None,
            ground: None,
            course_deg: None,
            ..event
        },
        None => event,
    }
}

/// Fills every entry of an outing from its track, or takes back what a track said when it has none.
pub(crate) fn back_fill(connection: &Connection, outing: OutingId) -> Result<(), Error> {
    let track = tracks::of_outing(connection, outing)?.map(|(_, track)| track);
    for (id, event) in events::of_outing(connection, outing)? {
        let filled = filled(event.clone(), track.as_ref());
        if filled != event {
            events::update(connection, id, &filled)?;
        }
    }
    Ok(())
}
