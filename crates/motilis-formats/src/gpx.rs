//! Tracks as GPX 1.1 (topografix.com/GPX/1/1, by the `gpx` crate), in and out; out as CSV and JSON too.

use crate::Format;
use gpx::{Gpx, GpxVersion, Waypoint};
use jiff::Timestamp;
use motilis_core::track::{Point, Track};
use serde::Serialize;
use thiserror::Error;
use time::OffsetDateTime;

/// Largest GPX that is read, bytes: a day and more at one point a second.
pub const MOST_GPX_BYTES: usize = 24 * 1024 * 1024;

/// A waypoint that goes out: an entry of the log, or a spot.
#[derive(Debug, Clone, PartialEq)]
pub struct Mark {
    /// What it is called.
    pub name: String,
    /// What else there is to say of it; empty for nothing.
    pub description: String,
    /// When; `None` for a spot.
    pub at: Option<Timestamp>,
    /// Latitude and longitude, degrees.
    pub place: (f64, f64),
}

/// What a file recorded.
#[derive(Debug, Clone, PartialEq)]
pub struct Recorded {
    /// What its first track is called; empty for nothing.
    pub name: String,
    /// Every point of every track that has a time, in the order of the file.
    pub points: Vec<Point>,
    /// Points without a time: they say nothing of a moment.
    pub timeless: usize,
}

/// Why a file is no track.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[non_exhaustive]
pub enum GpxRefusal {
    /// Too large.
    #[error(
        "the file has {0} bytes; at most {MOST_GPX_BYTES} are read, a day at one point a second"
    )]
    TooLarge(usize),
    /// Not GPX.
    #[error("the file is not GPX: {0}; save the track as GPX 1.1")]
    NotGpx(String),
    /// No points with a time.
    #[error("the file holds no track points with a time; record one with times, not a route")]
    Timeless,
}

/// Reads every track of a GPX file.
///
/// # Errors
/// [`GpxRefusal`].
pub fn read_gpx(bytes: &[u8]) -> Result<Recorded, GpxRefusal> {
    if bytes.len() > MOST_GPX_BYTES {
        return Err(GpxRefusal::TooLarge(bytes.len()));
    }
    let gpx = gpx::read(bytes).map_err(|error| GpxRefusal::NotGpx(error.to_string()))?;
    let name = gpx.tracks.iter().find_map(|track| track.name.clone());
    let segments = gpx.tracks.iter().flat_map(|track| &track.segments);
    let (mut points, mut timeless) = (Vec::new(), 0);
    for point in segments.flat_map(|segment| &segment.points) {
        let at = point.time.map(OffsetDateTime::from);
        match at.and_then(|at| Timestamp::from_second(at.unix_timestamp()).ok()) {
            Some(at) => points.push(Point {
                at,
                latitude: point.point().y(),
                longitude: point.point().x(),
            }),
            None => timeless += 1,
        }
    }
    if points.is_empty() {
        return Err(GpxRefusal::Timeless);
    }
    Ok(Recorded {
        name: name.unwrap_or_default(),
        points,
        timeless,
    })
}

fn moment(at: Timestamp) -> Option<gpx::Time> {
    let at = OffsetDateTime::from_unix_timestamp(at.as_second()).ok()?;
    Some(at.into())
}

fn waypoint((latitude, longitude): (f64, f64), at: Option<Timestamp>) -> Waypoint {
    let mut point = Waypoint::new(geo_types::Point::new(longitude, latitude));
    point.time = at.and_then(moment);
    point
}

/// A track with marks as GPX 1.1, standard elements only; without a track the marks alone.
pub fn write_gpx(track: Option<&Track>, marks: &[Mark]) -> String {
    let marks = marks.iter().map(|mark| {
        let mut point = waypoint(mark.place, mark.at);
        point.name = Some(mark.name.clone());
        point.description = Some(mark.description.clone()).filter(|text| !text.is_empty());
        point
    });
    let tracks = track.iter().map(|track| gpx::Track {
        name: Some(track.name().to_owned()).filter(|name| !name.is_empty()),
        segments: vec![gpx::TrackSegment {
            points: track
                .points()
                .iter()
                .map(|point| waypoint((point.latitude, point.longitude), Some(point.at)))
                .collect(),
        }],
        ..gpx::Track::new()
    });
    let whole = Gpx {
        version: GpxVersion::Gpx11,
        creator: Some("Motilis".to_owned()),
        waypoints: marks.collect(),
        tracks: tracks.collect(),
        ..Gpx::default()
    };
    let mut bytes = Vec::new();
    gpx::write(&whole, &mut bytes).expect("a version is named, and memory takes everything");
    String::from_utf8(bytes).expect("texts stay texts")
}

#[derive(Debug, Serialize)]
struct PointRow {
    at_utc: String,
    lat: f64,
    lon: f64,
    ground_mps: Option<f64>,
    course_deg: Option<f64>,
}

/// A track as CSV or JSON: each point with speed and course over ground.
pub fn write_track(track: &Track, format: Format) -> String {
    let rows = track.points().iter().map(|point| {
        let fix = track.fix(point.at);
        PointRow {
            at_utc: point.at.to_string(),
            lat: point.latitude,
            lon: point.longitude,
            ground_mps: fix.and_then(|fix| fix.ground).map(|speed| speed.0),
            course_deg: fix.and_then(|fix| fix.course_deg),
        }
    });
    crate::log::written(rows, format)
}
