use super::counts::Counts;
use super::reader::Reader;
use jiff::{SignedDuration, Timestamp};
use motilis_core::boat::{BoatFix, Said};
use motilis_core::track::{Point, Track};
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use std::io::{self, Read, Write};

/// A second of a ride: what was said in it, nothing of the seconds before.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Row {
    /// The second.
    pub at: Timestamp,
    /// The fix, where there was one.
    pub fix: Option<BoatFix>,
    /// Depth of the bottom.
    pub depth: Option<Metres>,
    /// Speed through the water.
    pub through: Option<MetresPerSecond>,
    /// Temperature of the water.
    pub temperature: Option<Celsius>,
}

/// A recorded ride.
#[derive(Debug, Clone, PartialEq)]
pub struct Ride {
    /// A row for each second from the first to the last.
    pub rows: Vec<Row>,
    /// What became of its sentences.
    pub counts: Counts,
}

/// Longest recording that is laid out second by second: two days.
const LONGEST: usize = 48 * 3_600;

/// Reads a recording.
///
/// # Errors
/// Of the reader; a recording whose clock leaps by more than two days is cut there.
pub fn ride(mut file: impl Read) -> io::Result<Ride> {
    let mut reader = Reader::default();
    let mut rows: Vec<Row> = Vec::new();
    let mut bytes = [0; 8_192];
    loop {
        let read = file.read(&mut bytes)?;
        if read == 0 {
            break;
        }
        reader.read(&bytes[..read], |heard| {
            lay(&mut rows, heard.second, heard.said);
        });
    }
    reader.end(|heard| lay(&mut rows, heard.second, heard.said));
    Ok(Ride {
        rows,
        counts: reader.counts(),
    })
}

fn lay(rows: &mut Vec<Row>, second: Option<Timestamp>, said: Said) {
    let Some(second) = second.and_then(|second| Timestamp::from_second(second.as_second()).ok())
    else {
        return;
    };
    let empty = |at| Row {
        at,
        fix: None,
        depth: None,
        through: None,
        temperature: None,
    };
    if rows.is_empty() {
        rows.push(empty(second));
    }
    let first = rows[0].at;
    let Ok(place) = usize::try_from(second.duration_since(first).as_secs()) else {
        return;
    };
    if place >= LONGEST {
        return;
    }
    while rows.len() <= place {
        let at = first + SignedDuration::from_secs(rows.len() as i64);
        rows.push(empty(at));
    }
    let row = &mut rows[place];
    match said {
        Said::Fix(fix) => row.fix = Some(fix),
        Said::Depth(depth) => row.depth = Some(depth),
        Said::Temperature(degrees) => row.temperature = Some(degrees),
        Said::Through(speed, _) => row.through = Some(speed),
        _ => {}
    }
}

/// So many decimals, without noughts at the end; a whole number keeps one.
fn written(figure: Option<f64>, decimals: usize) -> String {
    let Some(figure) = figure else {
        return String::new();
    };
    let text = format!("{figure:.decimals$}");
    let short = text.trim_end_matches('0');
    if short.ends_with('.') {
        format!("{short}0")
    } else {
        short.to_owned()
    }
}

impl Ride {
    /// Writes it as CSV, one row a second.
    ///
    /// # Errors
    /// Of the writer.
    pub fn write_csv(&self, to: impl Write) -> csv::Result<()> {
        let mut table = csv::WriterBuilder::new().from_writer(to);
        table.write_record([
            "utc",
            "lat",
            "lon",
            "sog_mps",
            "cog_deg",
            "depth_m",
            "stw_mps",
            "temperature_c",
        ])?;
        for row in &self.rows {
            let fix = row.fix.as_ref();
            table.write_record([
                row.at.strftime("%Y-%m-%dT%H:%M:%SZ").to_string(),
                written(fix.map(|fix| fix.place[0]), 7),
                written(fix.map(|fix| fix.place[1]), 7),
                written(fix.and_then(|fix| fix.ground).map(|speed| speed.0), 4),
                written(fix.and_then(|fix| fix.course_deg), 1),
                written(row.depth.map(|depth| depth.0), 2),
                written(row.through.map(|speed| speed.0), 4),
                written(row.temperature.map(|degrees| degrees.0), 1),
            ])?;
        }
        table.flush()?;
        Ok(())
    }

    /// Its fixes as a track.
    ///
    /// # Errors
    /// As [`Track::new`].
    pub fn track(&self, name: &str) -> Result<Track, motilis_core::Error> {
        let fixes = self.rows.iter().filter_map(|row| row.fix);
        let points = fixes.map(|fix| Point {
            at: fix.at,
            latitude: fix.place[0],
            longitude: fix.place[1],
        });
        Track::new(name, points.collect())
    }
}
