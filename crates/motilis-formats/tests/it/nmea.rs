//! Sentences against an independent reading of a ride (`data/README.md`), and against what a wire can do to them.

use jiff::Timestamp;
use motilis_core::boat::{BoatFix, Said};
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use motilis_formats::nmea::{Counts, Heard, Reader, Sentences, ride};
use proptest::prelude::*;
use rstest::rstest;

const RIDE: &[u8] = include_bytes!("../data/ride.nmea");
const EXPECTED: &str = include_str!("../data/ride_expected.csv");
const COUNTS: &str = include_str!("../data/ride_counts.json");

fn heard(text: &str) -> (Vec<Said>, Counts) {
    let mut reader = Reader::default();
    let mut all = Vec::new();
    reader.read(text.as_bytes(), |heard| all.push(heard.said));
    reader.end(|heard| all.push(heard.said));
    (all, reader.counts())
}

/// A sentence with its checksum.
fn summed(body: &str) -> String {
    let sum = body.bytes().fold(0, |sum, byte| sum ^ byte);
    format!("${body}*{sum:02X}\r\n")
}

#[test]
fn every_second_of_the_ride_is_as_the_other_reader_has_it() {
    let ride = ride(RIDE).unwrap();
    let mut table = Vec::new();
    ride.write_csv(&mut table).unwrap();
    let table = String::from_utf8(table).unwrap();
    let (mut rows, mut places) = (0, 0);
    for (own, other) in table.lines().zip(EXPECTED.lines()) {
        let (own, other): (Vec<&str>, Vec<&str>) = (
            own.split(',').collect(),
            other.trim_end().split(',').collect(),
        );
        for column in 0..8 {
            let apart = match (own[column].parse::<f64>(), other[column].parse::<f64>()) {
                (Ok(a), Ok(b)) if matches!(column, 1 | 2) => {
                    places += 1;
                    (a - b).abs() > 1e-6
                }
                _ => own[column] != other[column],
            };
            assert!(!apart, "{own:?}\n{other:?}");
        }
        rows += 1;
    }
    assert_eq!(
        (rows, table.lines().count()),
        (601, EXPECTED.lines().count())
    );
    assert!(places > 1_000);
}

#[test]
fn every_fault_of_the_ride_is_counted_by_its_reason() {
    let counts = ride(RIDE).unwrap().counts;
    let expected: Counts = serde_json::from_str(COUNTS).unwrap();
    assert_eq!(counts, expected);
    assert_eq!(counts.dropped(), 124);
}

#[test]
fn bytes_that_come_in_pieces_are_read_as_if_whole() {
    for size in [1, 7, 100] {
        let (mut reader, mut all) = (Reader::default(), 0);
        for piece in RIDE.chunks(size) {
            reader.read(piece, |_| all += 1);
        }
        assert_eq!(all, ride(RIDE).unwrap().counts.good);
    }
}

/// Worked sentences of the kinds the ride has not; figures by hand.
#[rstest]
#[case::feet_of_a_sounder("SDDBT,32.8,f,10.00,M,5.4,F", Said::Depth(Metres(10.0)))]
#[case::feet_alone("SDDBT,32.8,f,,M,,F", Said::Depth(Metres(32.8 * 0.3048)))]
#[case::fathoms_alone("SDDBT,,f,,M,5.0,F", Said::Depth(Metres(5.0 * 1.8288)))]
#[case::transducer_under_the_surface("SDDPT,9.70,0.30", Said::Depth(Metres(10.0)))]
#[case::down_to_the_keel("SDDPT,10.50,-0.50,100.0", Said::Depth(Metres(10.0)))]
#[case::a_sounder_without_bottom("SDDPT,,0.30", Said::Other)]
#[case::a_depth_of_nought("SDDPT,0.00,0.00", Said::Other)]
#[case::warm("YXMTW,15.5,C", Said::Temperature(Celsius(15.5)))]
#[case::paddle_in_kilometres("VWVHW,,T,,M,,N,3.60,K", Said::Through(MetresPerSecond(1.0), None))]
#[case::paddle_with_compass(
    "VWVHW,271.5,T,,M,,N,3.60,K",
    Said::Through(MetresPerSecond(1.0), Some(271.5))
)]
#[case::wind("WIMWV,045.0,R,10.8,K,A", Said::Wind { from_deg: 45.0, speed: MetresPerSecond(10.8 / 3.6), felt: true })]
#[case::another_talker(
    "IIVTG,090.0,T,,M,10.00,N,18.52,K,A",
    Said::Ground(MetresPerSecond(5.144_444_444_444_445), Some(90.0))
)]
#[case::nobody_asked("GPGSV,1,1,00", Said::Other)]
fn a_sentence_says(#[case] body: &str, #[case] expected: Said) {
    let (said, counts) = heard(&summed(body));
    let close = |a: f64, b: f64| (a - b).abs() < 1e-6;
    let same = match (said[0], expected) {
        (
            Said::Wind {
                speed: a,
                from_deg: x,
                ..
            },
            Said::Wind {
                speed: b,
                from_deg: y,
                ..
            },
        ) => close(a.0, b.0) && close(x, y),
        (Said::Depth(a), Said::Depth(b)) => close(a.0, b.0),
        (Said::Ground(a, x), Said::Ground(b, y)) => close(a.0, b.0) && x == y,
        (a, b) => a == b,
    };
    assert!(same, "{said:?}");
    assert_eq!(counts.good, 1);
}

#[rstest]
#[case::not_a_number("SDDPT,NaN,0.30")]
#[case::deeper_than_any_sea("SDDPT,99999,0.30")]
#[case::faster_than_any_boat("VWVHW,,T,,M,900,N,,K")]
#[case::boiling("YXMTW,98.0,C")]
#[case::off_the_globe("GPRMC,101500.00,A,9925.20013,N,09536.60037,W,0.96,298.5,110726,,,A")]
fn a_figure_that_cannot_be_is_dropped_and_counted(#[case] body: &str) {
    let (said, counts) = heard(&summed(body));
    assert_eq!((said.len(), counts.unreadable), (0, 1));
}

#[test]
fn midnight_is_no_step_back() {
    let rmc = |time: &str, date: &str| {
        summed(&format!(
            "GPRMC,{time},A,5025.20013,N,09536.60037,W,0.96,298.5,{date},,,A"
        ))
    };
    let gga = |time: &str| {
        summed(&format!(
            "GPGGA,{time},5025.20013,N,09536.60037,W,1,09,0.9,301.2,M,-28.0,M,,"
        ))
    };
    let text = [
        rmc("235959.00", "110726"),
        gga("235959.00"),
        gga("000000.00"),
        rmc("000000.00", "120726"),
    ];
    let (said, counts) = heard(&text.concat());
    assert_eq!((said.len(), counts.late), (4, 0));
    let Said::Place(at, _) = said[2] else {
        panic!("{said:?}")
    };
    assert_eq!(at.to_string(), "2026-07-12T00:00:00Z");
}

#[test]
fn what_the_simulated_instruments_write_is_read_back() {
    let fix = BoatFix {
        at: "2026-07-11T10:15:07Z".parse().unwrap(),
        place: [50.420_017_2, -95.610_049_7],
        ground: Some(MetresPerSecond(0.54)),
        course_deg: Some(298.5),
    };
    let mut sentences = Sentences::default();
    sentences.fix(&fix);
    sentences.depth(Metres(8.61), Metres(0.3));
    sentences.through(MetresPerSecond(0.58));
    sentences.temperature(Celsius(14.2));
    sentences.wind(-30.0, MetresPerSecond(4.2));
    let (said, counts) = heard(&sentences.into_text());
    assert_eq!((counts.good, counts.dropped()), (7, 0));
    let Said::Fix(read) = said[0] else {
        panic!("{said:?}")
    };
    assert_eq!(read.at, fix.at);
    for (a, b) in read.place.iter().zip(fix.place) {
        assert!((a - b).abs() < 1e-7);
    }
    assert!((read.ground.unwrap().0 - 0.54).abs() < 0.003);
    assert!(matches!(said[3], Said::Depth(depth) if (depth.0 - 8.61).abs() < 1e-9));
    assert!(matches!(said[6], Said::Wind { from_deg, .. } if (from_deg - 330.0).abs() < 1e-9));
}

#[test]
fn a_line_without_end_takes_no_memory_and_counts_once() {
    let mut reader = Reader::default();
    for _ in 0..1_000 {
        reader.read(&[b'$'; 1_000], |_| panic!("nothing was said"));
    }
    reader.read(b"\n", |_| panic!("nothing was said"));
    assert_eq!((reader.counts().sentences, reader.counts().noise), (1, 1));
}

/// The fuzzers' part in every run: whatever comes, nothing panics, every line is counted, no second is impossible.
fn survives(bytes: &[u8]) -> Counts {
    let mut reader = Reader::default();
    let sound = |heard: Heard| {
        if let Said::Depth(depth) = heard.said {
            assert!(depth.0 > 0.0 && depth.0 <= 1_500.0);
        }
        if let Said::Fix(fix) = heard.said {
            assert!(fix.place[0].abs() <= 90.0 && fix.at > Timestamp::MIN);
        }
    };
    reader.read(bytes, sound);
    reader.end(sound);
    reader.counts()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(1_000))]

    #[test]
    fn any_bytes_are_survived(bytes in proptest::collection::vec(any::<u8>(), 0..300)) {
        let counts = survives(&bytes);
        let lines = bytes.split(|byte| matches!(byte, b'\n' | b'\r')).filter(|line| !line.is_empty());
        prop_assert_eq!(counts.sentences, lines.count() as u64);
    }

    #[test]
    fn any_fields_with_a_good_checksum_are_survived(
        kind in "(GP|II|SD)(RMC|GGA|VTG|DBT|DPT|MTW|VHW|MWV)",
        fields in proptest::collection::vec("[-+0-9.eENSWTAVMK]{0,9}|inf|nan", 0..14),
    ) {
        let counts = survives(summed(&format!("{kind},{}", fields.join(","))).as_bytes());
        prop_assert_eq!(counts.sentences, 1);
    }

    #[test]
    fn a_ride_with_bytes_turned_over_is_survived(
        turned in proptest::collection::vec((0..RIDE.len(), any::<u8>()), 1..200),
        from in 0..RIDE.len() - 5_000,
    ) {
        let mut bytes = RIDE.to_vec();
        for (place, byte) in turned {
            bytes[place] = byte;
        }
        let counts = survives(&bytes[from..from + 5_000]);
        prop_assert!(counts.good <= counts.sentences);
    }
}

/// A second reader, in another language and by other hands' rules, understands what the simulated instruments write. Skipped with a
/// word where there is no Python.
#[test]
fn a_second_reader_understands_the_simulated_instruments() {
    use std::io::Write;
    use std::process::{Command, Stdio};
    let script = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/it/second_reader.py");
    let child = Command::new("python3")
        .arg(script)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .spawn();
    let Ok(mut child) = child else {
        eprintln!("skipped: there is no python3 on this machine");
        return;
    };
    let fix = BoatFix {
        at: "2026-07-11T10:15:07Z".parse().unwrap(),
        place: [-33.420_017_2, 18.610_049_7],
        ground: Some(MetresPerSecond(0.54)),
        course_deg: Some(8.5),
    };
    let mut sentences = Sentences::default();
    sentences.fix(&fix);
    sentences.depth(Metres(8.61), Metres(0.3));
    sentences.through(MetresPerSecond(0.58));
    sentences.temperature(Celsius(14.2));
    let text = sentences.into_text();
    child
        .stdin
        .take()
        .unwrap()
        .write_all(text.as_bytes())
        .unwrap();
    let output = child.wait_with_output().unwrap();
    let rows: Vec<serde_json::Value> = String::from_utf8(output.stdout)
        .unwrap()
        .lines()
        .map(|line| serde_json::from_str(line).unwrap())
        .collect();
    let near = |row: usize, key: &str, expected: f64, within: f64| {
        assert!(
            (rows[row][key].as_f64().unwrap() - expected).abs() < within,
            "{key}: {rows:?}"
        );
    };
    near(0, "lat", fix.place[0], 1e-6);
    near(0, "lon", fix.place[1], 1e-6);
    near(0, "sog", 0.54, 0.003);
    near(1, "depth", 8.61, 0.006);
    near(2, "stw", 0.58, 0.003);
    near(3, "temperature", 14.2, 0.06);
}
