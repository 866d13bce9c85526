//! `motilis ride`: a recording as rows, faults, or a track.

use crate::motilis;
use serde_json::Value;

const RIDE: &str = concat!(
    env!("CARGO_MANIFEST_DIR"),
    "/../motilis-formats/tests/data/ride.nmea"
);
const COUNTS: &str = include_str!("../../../motilis-formats/tests/data/ride_counts.json");

fn ride(arguments: &[&str]) -> (Option<i32>, String, String) {
    let output = motilis().arg("ride").args(arguments).output().unwrap();
    let text = |bytes: Vec<u8>| String::from_utf8(bytes).unwrap();
    (
        output.status.code(),
        text(output.stdout),
        text(output.stderr),
    )
}

#[test]
fn a_recording_is_rows_faults_or_a_track() {
    let (code, rows, _) = ride(&[RIDE]);
    assert_eq!((code, rows.lines().count()), (Some(0), 601));
    assert_eq!(ride(&[RIDE, "--csv"]).1, rows);
    let counts: Value = serde_json::from_str(&ride(&[RIDE, "--counts"]).1).unwrap();
    assert_eq!(counts, serde_json::from_str::<Value>(COUNTS).unwrap());
    let (_, gpx, _) = ride(&[RIDE, "--gpx"]);
    assert_eq!(gpx.matches("<trkpt").count(), 574);
}

#[test]
fn what_is_no_recording_says_so() {
    let (code, _, why) = ride(&[concat!(env!("CARGO_MANIFEST_DIR"), "/Cargo.toml")]);
    assert!(
        code == Some(1) && why.contains("none was a sound sentence"),
        "{why}"
    );
    let (code, _, why) = ride(&["/no/such/file.nmea"]);
    assert!(code == Some(1) && why.contains("cannot be opened"), "{why}");
}
