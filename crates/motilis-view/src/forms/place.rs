//! Where a water lies: degrees as they are typed, and the time zone there.

use crate::screens::Field;
use crate::units::Problem;
use jiff::Timestamp;
use jiff::tz::TimeZone;
use motilis_core::fields;
use motilis_formats::quoted;
use std::sync::OnceLock;
use tzf_rs::DefaultFinder;

/// Hours by which a zone may keep another time than its place has, before one asks.
const HOURS_APART: i32 = 2;

/// A latitude or longitude as typed, with its figure when it is one.
pub(super) fn axis(
    asked: fields::Field,
    label: &'static str,
    [positive, negative]: [char; 2],
    typed: &str,
) -> (Field, Option<f64>) {
    let read = degrees(typed, positive, negative);
    let problem = match read {
        None if typed.trim().is_empty() => Some(format!(
            "{label} is empty; write it like 46.21, 46 12.5 {positive} or -46.21."
        )),
        None => Some(format!(
            "{label} {} is no position; write it like 46.21, 46 12.5 {positive}, 46° 12' 30\" {negative} or -46.21.",
            quoted(typed)
        )),
        Some(figure) if !asked.range.holds(figure) => Some(format!(
            "{label} {} is off the globe; give {}.",
            quoted(typed),
            asked.range.words
        )),
        Some(_) => None,
    };
    let sound = problem.is_none();
    let field = Field {
        name: asked.form,
        label,
        unit: "°",
        value: typed.to_owned(),
        problem: problem.map(Problem),
    };
    (field, read.filter(|_| sound))
}

/// Reads degrees: decimal, or with minutes and seconds, with a sign or the letter of the side.
fn degrees(typed: &str, positive: char, negative: char) -> Option<f64> {
    let upper = typed.trim().to_uppercase().replace('−', "-");
    let letters: Vec<char> = upper.chars().filter(char::is_ascii_alphabetic).collect();
    let side = match letters.as_slice() {
        [] => 1.0,
        [one] if *one == positive => 1.0,
        [one] if *one == negative => -1.0,
        _ => return None,
    };
    let is_mark = |c: char| c.is_whitespace() || "°º'’′\"”″:".contains(c) || c.is_alphabetic();
    let pieces: Vec<&str> = upper.split(is_mark).filter(|one| !one.is_empty()).collect();
    let figures: Vec<f64> = pieces
        .iter()
        .map(|one| one.replace(',', ".").parse::<f64>().ok())
        .collect::<Option<_>>()?;
    let (whole, parts) = figures.split_first()?;
    let below_sixty = parts.iter().all(|part| (0.0..60.0).contains(part));
    let broken = figures.iter().rev().skip(1).any(|one| one.fract() != 0.0);
    if parts.len() > 2 || !below_sixty || broken || !whole.is_finite() {
        return None;
    }
    let signed = whole.is_sign_negative();
    if signed && !letters.is_empty() {
        return None;
    }
    let parts = parts.first().unwrap_or(&0.0) / 60.0 + parts.get(1).unwrap_or(&0.0) / 3600.0;
    Some(side * (whole + if signed { -parts } else { parts }))
}

/// The zone of the time zone map a place lies in.
pub(super) fn zone_at(latitude: f64, longitude: f64) -> String {
    static MAP: OnceLock<DefaultFinder> = OnceLock::new();
    MAP.get_or_init(DefaultFinder::new)
        .get_tz_name(longitude, latitude)
        .to_owned()
}

/// By how many hours a zone's clock is off the one a place has, when that is more than a border explains.
pub(super) fn hours_apart(zone: &TimeZone, there: &str) -> Option<i32> {
    // A winter's day of the north: summer times stand still.
    let day: Timestamp = "2026-01-15T12:00:00Z".parse().ok()?;
    let there = TimeZone::get(there).ok()?;
    let off = zone.to_offset(day).seconds() - there.to_offset(day).seconds();
    let hours = (off.abs() + 1800) / 3600;
    (hours > HOURS_APART).then_some(hours)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case("46.21", Some(46.21))]
    #[case("-46,21", Some(-46.21))]
    #[case("46 12.6 N", Some(46.21))]
    #[case("46° 12' 36\" S", Some(-46.21))]
    #[case("n46:12:36", Some(46.21))]
    #[case("-46 12 36", Some(-46.21))]
    #[case("46 12 W", None)]
    #[case("-46 S", None)]
    #[case("46 72 N", None)]
    #[case("46.5 12 N", None)]
    #[case("46 12 1 2", None)]
    #[case("north", None)]
    #[case("", None)]
    fn degrees_are_read_as_they_are_written(#[case] typed: &str, #[case] wanted: Option<f64>) {
        let read = degrees(typed, 'N', 'S');
        match (read, wanted) {
            (Some(read), Some(wanted)) => assert!((read - wanted).abs() < 1e-9, "{read}"),
            (read, wanted) => assert_eq!(read, wanted),
        }
    }

    /// Cities far from a border, by the tz database.
    #[rstest]
    #[case(41.9, -87.6, "America/Chicago")]
    #[case(49.9, -97.1, "America/Winnipeg")]
    #[case(60.2, 24.9, "Europe/Helsinki")]
    #[case(-36.8, 174.8, "Pacific/Auckland")]
    fn a_place_has_the_zone_of_the_map(
        #[case] latitude: f64,
        #[case] longitude: f64,
        #[case] zone: &str,
    ) {
        assert_eq!(zone_at(latitude, longitude), zone);
    }

    #[test]
    fn a_longitude_without_its_minus_is_half_a_world_off() {
        let chicago = TimeZone::get("America/Chicago").unwrap();
        assert_eq!(hours_apart(&chicago, &zone_at(46.0, -95.5)), None);
        assert_eq!(hours_apart(&chicago, "America/Denver"), None);
        assert!(hours_apart(&chicago, &zone_at(46.0, 100.0)).unwrap() > 10);
    }
}
