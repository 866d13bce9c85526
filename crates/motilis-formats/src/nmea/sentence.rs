//! One line: whether it is whole, and what it says.

use super::counts::Fault;
use jiff::Timestamp;
use jiff::civil::{Date, DateTime, Time};
use jiff::tz::TimeZone;
use motilis_core::boat::{BoatFix, Said};
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use nmea::sentences::mwv::{MwvReference, MwvWindSpeedUnits};
use nmea::sentences::rmc::RmcStatusOfFix;
use nmea::{ParseResult, parse_str};

/// A knot, m/s: a nautical mile of 1 852 m an hour (SI brochure, 9th ed., table 8).
const KNOT: f64 = 1_852.0 / 3_600.0;
const FOOT: f64 = 0.3048;
const FATHOM: f64 = 6.0 * FOOT;
const MILE_PER_HOUR: f64 = 0.447_04;
/// Longest line that is taken for a sentence; the standard says 82 characters, receivers write more.
pub(super) const LONGEST: usize = 102;
/// No boat that trolls goes faster, no water is deeper or as warm.
const FASTEST: f64 = 60.0;
const DEEPEST: f64 = 1_500.0;
const TEMPERATURES: std::ops::RangeInclusive<f64> = -5.0..=45.0;

/// Whether a line is a whole sentence; then what stands between `$` and `*`.
pub(super) fn body(line: &[u8]) -> Result<&str, Fault> {
    let (Some(b'$' | b'!'), true) = (
        line.first(),
        line.iter().all(|byte| (32..127).contains(byte)),
    ) else {
        return Err(Fault::Noise);
    };
    if line.len() > LONGEST {
        return Err(Fault::Noise);
    }
    let text = std::str::from_utf8(&line[1..]).map_err(|_| Fault::Noise)?;
    let (body, sum) = text.rsplit_once('*').ok_or(Fault::CutShort)?;
    let hex = sum.len() == 2 && sum.bytes().all(|digit| digit.is_ascii_hexdigit());
    let sum = u8::from_str_radix(sum, 16).ok().filter(|_| hex);
    let sum = sum.ok_or(Fault::CutShort)?;
    if checksum(body) != sum {
        return Err(Fault::BadChecksum);
    }
    Ok(body)
}

/// Exclusive or of all characters.
pub(super) fn checksum(body: &str) -> u8 {
    body.bytes().fold(0, |sum, byte| sum ^ byte)
}

/// The time that a line of a receiver names, even where the line is damaged.
pub(super) fn clock_of(line: &[u8]) -> Option<Time> {
    let text = std::str::from_utf8(line).ok()?;
    let mut fields = text.split(',');
    let kind = fields.next()?.get(3..6)?;
    if !matches!(kind, "RMC" | "GGA") {
        return None;
    }
    let clock = fields.next()?;
    // The field must have ended for its digits to be all there.
    fields.next()?;
    let two = |from: usize| -> Option<i8> { clock.get(from..from + 2)?.parse().ok() };
    let rest: &str = clock.get(6..)?;
    let sound = rest.is_empty()
        || rest
            .strip_prefix('.')?
            .bytes()
            .all(|byte| byte.is_ascii_digit());
    if !sound || !clock.bytes().take(6).all(|byte| byte.is_ascii_digit()) {
        return None;
    }
    Time::new(two(0)?, two(2)?, two(4)?, 0).ok()
}

/// The moment of a time of day that lies nearest to one that is known.
pub(super) fn near(time: Time, known: Timestamp) -> Option<Timestamp> {
    let date = TimeZone::UTC.to_datetime(known).date();
    let days = [date.yesterday().ok(), Some(date), date.tomorrow().ok()];
    let moments = days
        .into_iter()
        .flatten()
        .filter_map(|date| moment(date, time));
    moments.min_by_key(|moment| moment.duration_since(known).abs())
}

fn moment(date: Date, time: Time) -> Option<Timestamp> {
    let datetime = DateTime::from_parts(date, time);
    TimeZone::UTC.to_timestamp(datetime).ok()
}

/// What a whole sentence says; the moment last known dates those that name a time alone.
pub(super) fn said(body: &str, line: &str, known: Option<Timestamp>) -> Result<Said, Fault> {
    let kind = body.split(',').next().unwrap_or("");
    let proprietary = kind.starts_with('P') || line.starts_with('!');
    let kind = kind.get(2..).filter(|_| !proprietary);
    match kind {
        Some("DBT") => dbt(body),
        Some("DPT") => dpt(body),
        Some("RMC" | "GGA" | "VTG" | "VHW" | "MTW" | "MWV") => {
            let read = parse_str(line).map_err(|_| Fault::Unreadable)?;
            of(read, known)
        }
        _ => Ok(Said::Other),
    }
}

fn of(read: ParseResult, known: Option<Timestamp>) -> Result<Said, Fault> {
    Ok(match read {
        ParseResult::RMC(rmc) => {
            let date = rmc.fix_date.and_then(civil_date);
            let time = rmc.fix_time.and_then(civil_time);
            let at = date.zip(time).and_then(|(date, time)| moment(date, time));
            let (Some(at), true) = (at, rmc.status_of_fix != RmcStatusOfFix::Invalid) else {
                return at.map(Said::Void).ok_or(Fault::VoidFix);
            };
            let Some(place) = place(rmc.lat, rmc.lon)? else {
                return Ok(Said::Void(at));
            };
            Said::Fix(BoatFix {
                at,
                place,
                ground: rmc.speed_over_ground.map(knots).transpose()?,
                course_deg: rmc.true_course.map(degrees).transpose()?,
            })
        }
        ParseResult::GGA(gga) => {
            let time = gga.fix_time.and_then(civil_time);
            let at = time.zip(known).and_then(|(time, known)| near(time, known));
            let fixed = gga.fix_type.is_some_and(nmea::sentences::FixType::is_valid);
            match (at, place(gga.latitude, gga.longitude)?) {
                (Some(at), Some(place)) if fixed => Said::Place(at, place),
                (Some(at), _) if !fixed => Said::Void(at),
                _ if !fixed => return Err(Fault::VoidFix),
                // A time of day before any date is known.
                _ => Said::Other,
            }
        }
        ParseResult::VTG(vtg) => match vtg.speed_over_ground {
            Some(speed) => Said::Ground(knots(speed)?, vtg.true_course.map(degrees).transpose()?),
            None => Said::Other,
        },
        ParseResult::VHW(vhw) => {
            let speed = vhw.relative_speed_knots.map(|speed| speed * KNOT);
            let speed = speed.or(vhw.relative_speed_kmph.map(|speed| speed / 3.6));
            let heading = vhw.heading_true.map(turn).transpose()?;
            match speed {
                Some(speed) => Said::Through(speed_of(speed)?, heading),
                None => Said::Other,
            }
        }
        ParseResult::MTW(mtw) => match mtw.temperature {
            Some(degrees) if TEMPERATURES.contains(&degrees) => Said::Temperature(Celsius(degrees)),
            Some(_) => return Err(Fault::Unreadable),
            None => Said::Other,
        },
        ParseResult::MWV(mwv) => match (mwv.wind_direction, mwv.wind_speed, mwv.wind_speed_units) {
            (Some(from), Some(speed), Some(unit)) if mwv.data_valid => Said::Wind {
                from_deg: degrees(from)?,
                speed: speed_of(f64::from(speed) * a_unit(unit))?,
                felt: mwv.reference != Some(MwvReference::Theoretical),
            },
            _ => Said::Other,
        },
        _ => Said::Other,
    })
}

fn a_unit(unit: MwvWindSpeedUnits) -> f64 {
    match unit {
        MwvWindSpeedUnits::KilometersPerHour => 1.0 / 3.6,
        MwvWindSpeedUnits::MetersPerSecond => 1.0,
        MwvWindSpeedUnits::Knots => KNOT,
        MwvWindSpeedUnits::MilesPerHour => MILE_PER_HOUR,
    }
}

/// Depth below the transducer: the first of metres, feet and fathoms that is there.
fn dbt(body: &str) -> Result<Said, Fault> {
    let fields: Vec<&str> = body.split(',').collect();
    for (place, unit) in [(3, 1.0), (1, FOOT), (5, FATHOM)] {
        if let Some(depth) = number(fields.get(place))? {
            return depth_of(depth * unit);
        }
    }
    Ok(Said::Other)
}

/// Depth below the transducer and its offset: upwards to the surface, or, below zero, down to the keel.
fn dpt(body: &str) -> Result<Said, Fault> {
    let fields: Vec<&str> = body.split(',').collect();
    let Some(depth) = number(fields.get(1))? else {
        return Ok(Said::Other);
    };
    let offset = number(fields.get(2))?.unwrap_or(0.0);
    depth_of(depth + offset)
}

fn number(field: Option<&&str>) -> Result<Option<f64>, Fault> {
    let field = field.map_or("", |field| field.trim());
    if field.is_empty() {
        return Ok(None);
    }
    let read: f64 = field.parse().map_err(|_| Fault::Unreadable)?;
    if read.is_finite() {
        Ok(Some(read))
    } else {
        Err(Fault::Unreadable)
    }
}

fn depth_of(depth: f64) -> Result<Said, Fault> {
    // A sounder that has lost the bottom says nothing, or nought.
    if depth <= 0.0 {
        return Ok(Said::Other);
    }
    if depth > DEEPEST {
        return Err(Fault::Unreadable);
    }
    Ok(Said::Depth(Metres(depth)))
}

fn knots(speed: f32) -> Result<MetresPerSecond, Fault> {
    // As it was written: two decimals of a knot that a single precision does not hold.
    let written: f64 = speed.to_string().parse().map_err(|_| Fault::Unreadable)?;
    speed_of(written * KNOT)
}

fn speed_of(speed: f64) -> Result<MetresPerSecond, Fault> {
    if (0.0..=FASTEST).contains(&speed) {
        Ok(MetresPerSecond(speed))
    } else {
        Err(Fault::Unreadable)
    }
}

fn degrees(written: f32) -> Result<f64, Fault> {
    turn(written.to_string().parse().map_err(|_| Fault::Unreadable)?)
}

fn turn(degrees: f64) -> Result<f64, Fault> {
    if (0.0..=360.0).contains(&degrees) {
        Ok(degrees)
    } else {
        Err(Fault::Unreadable)
    }
}

fn place(latitude: Option<f64>, longitude: Option<f64>) -> Result<Option<[f64; 2]>, Fault> {
    let Some((latitude, longitude)) = latitude.zip(longitude) else {
        return Ok(None);
    };
    let on_the_globe = latitude.abs() <= 90.0 && longitude.abs() <= 180.0;
    if on_the_globe {
        Ok(Some([latitude, longitude]))
    } else {
        Err(Fault::Unreadable)
    }
}

fn civil_date(date: chrono::NaiveDate) -> Option<Date> {
    use chrono::Datelike;
    let year = i16::try_from(date.year()).ok()?;
    Date::new(
        year,
        i8::try_from(date.month()).ok()?,
        i8::try_from(date.day()).ok()?,
    )
    .ok()
}

fn civil_time(time: chrono::NaiveTime) -> Option<Time> {
    use chrono::Timelike;
    let part = |part: u32| i8::try_from(part).ok();
    let nanos = i32::try_from(time.nanosecond().min(999_999_999)).ok()?;
    Time::new(
        part(time.hour())?,
        part(time.minute())?,
        part(time.second())?,
        nanos,
    )
    .ok()
}
