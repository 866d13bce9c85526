//! Tracks as GPX: read back by a reader that is not the one who wrote it, and held to what the schema says
//! (topografix.com/GPX/1/1/gpx.xsd: names, attributes and order of elements, from memory).

use jiff::{SignedDuration, Timestamp};
use motilis_core::track::{Plane, Point, Track};
use motilis_formats::{Format, GpxRefusal, Mark, read_gpx, write_gpx, write_track};
use roxmltree::{Document, Node};
use rstest::rstest;

const NAMESPACE: &str = "http://www.topografix.com/GPX/1/1";
/// Elements of a waypoint and of a track point, in the order the schema has them.
const WAYPOINT: [&str; 20] = [
    "ele",
    "time",
    "magvar",
    "geoidheight",
    "name",
    "cmt",
    "desc",
    "src",
    "link",
    "sym",
    "type",
    "fix",
    "sat",
    "hdop",
    "vdop",
    "pdop",
    "ageofdgpsdata",
    "dgpsid",
    "extensions",
    "",
];
const ROOT: [&str; 5] = ["metadata", "wpt", "rte", "trk", "extensions"];

fn began() -> Timestamp {
    "2026-09-05T11:20:00Z".parse().unwrap()
}

fn track() -> Track {
    let plane = Plane::at(50.42, -95.61);
    let points = (0..500).map(|step| {
        let t = f64::from(step);
        let (latitude, longitude) = plane.back(3.0 * t, 200.0 * (t / 40.0).sin());
        Point {
            at: began() + SignedDuration::from_secs(3 * i64::from(step)),
            latitude,
            longitude,
        }
    });
    Track::new("Lake Tamarin & back <1>", points.collect()).unwrap()
}

fn marks() -> Vec<Mark> {
    vec![
        Mark {
            name: "Fish".into(),
            description: "walleye, 18½ in, \"rod 2\" & amber".into(),
            at: Some(began() + SignedDuration::from_mins(12)),
            place: (50.4201, -95.6102),
        },
        Mark {
            name: "Gravel point".into(),
            description: String::new(),
            at: None,
            place: (50.43, -95.6),
        },
    ]
}

fn children<'a>(node: Node<'a, 'a>) -> Vec<Node<'a, 'a>> {
    node.children().filter(Node::is_element).collect()
}

fn is_ordered(node: Node<'_, '_>, order: &[&str]) {
    let places: Vec<usize> = node
        .children()
        .filter(Node::is_element)
        .map(|child| {
            let name = child.tag_name().name();
            let place = order.iter().position(|one| *one == name);
            place.unwrap_or_else(|| panic!("the schema has no {name} there"))
        })
        .collect();
    assert!(places.is_sorted(), "{places:?}");
}

#[test]
fn another_reader_finds_all_of_it_by_the_rules_of_the_schema() {
    let text = write_gpx(Some(&track()), &marks());
    let document = Document::parse(&text).unwrap();
    let root = document.root_element();
    assert_eq!(root.tag_name().name(), "gpx");
    assert_eq!(root.tag_name().namespace(), Some(NAMESPACE));
    assert_eq!(root.attribute("version"), Some("1.1"));
    assert_eq!(root.attribute("creator"), Some("Motilis"));
    is_ordered(root, &ROOT);
    let of = |name: &str| -> Vec<Node<'_, '_>> {
        document
            .descendants()
            .filter(|node| node.has_tag_name((NAMESPACE, name)))
            .collect()
    };
    let text_of = |node: &Node<'_, '_>, name: &str| {
        let child = children(*node)
            .into_iter()
            .find(|child| child.tag_name().name() == name);
        child
            .and_then(|child| child.text())
            .unwrap_or_default()
            .to_owned()
    };
    let waypoints = of("wpt");
    assert_eq!(waypoints.len(), 2);
    assert_eq!(text_of(&waypoints[0], "desc"), marks()[0].description);
    assert_eq!(text_of(&waypoints[0], "name"), "Fish");
    assert_eq!(text_of(&waypoints[1], "time"), "");
    assert!(of("sym").is_empty(), "no symbols of anybody's");
    assert_eq!(text_of(&of("trk")[0], "name"), track().name());
    let points = of("trkpt");
    assert_eq!(points.len(), track().points().len());
    for (node, point) in points.iter().chain(&waypoints).zip(track().points()) {
        is_ordered(*node, &WAYPOINT);
        let degrees = |name: &str| node.attribute(name).unwrap().parse::<f64>().unwrap();
        assert!(
            (-90.0..=90.0).contains(&degrees("lat")) && (-180.0..180.0).contains(&degrees("lon"))
        );
        if node.has_tag_name((NAMESPACE, "trkpt")) {
            assert!((degrees("lat") - point.latitude).abs() < 1e-9);
            assert!((degrees("lon") - point.longitude).abs() < 1e-9);
            let time: Timestamp = text_of(node, "time").parse().unwrap();
            assert_eq!(time, point.at);
        }
    }
}

#[test]
fn a_track_comes_back_as_it_went_out() {
    let recorded = read_gpx(write_gpx(Some(&track()), &marks()).as_bytes()).unwrap();
    assert_eq!(
        (recorded.timeless, recorded.name.as_str()),
        (0, track().name())
    );
    assert_eq!(Track::new(recorded.name, recorded.points).unwrap(), track());
}

#[rstest]
#[case(b"no xml".as_slice(), "not GPX")]
#[case(b"".as_slice(), "not GPX")]
#[case(b"<gpx version=\"1.1\" xmlns=\"http://www.topografix.com/GPX/1/1\"><trk>".as_slice(), "not GPX")]
#[case(b"<html></html>".as_slice(), "not GPX")]
#[case(b"\xff\xfe\x00".as_slice(), "not GPX")]
#[case(b"<gpx version=\"1.1\" creator=\"x\" xmlns=\"http://www.topografix.com/GPX/1/1\"><trk><trkseg><trkpt lat=\"50\" lon=\"-95\"></trkpt></trkseg></trk></gpx>".as_slice(), "with a time")]
fn what_is_no_track_is_refused_in_a_sentence(#[case] bytes: &[u8], #[case] says: &str) {
    let refusal = read_gpx(bytes).unwrap_err().to_string();
    assert!(refusal.contains(says), "{refusal}");
}

/// A hundred thousand entities that stand for each other are not unfolded.
#[test]
fn a_bomb_of_entities_is_refused() {
    let bomb = "<!DOCTYPE gpx [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;&a;&a;&a;&a;\"><!ENTITY c \"&b;&b;&b;&b;&b;&b;&b;&b;\"><!ENTITY d \"&c;&c;&c;&c;&c;&c;&c;&c;\"><!ENTITY e \"&d;&d;&d;&d;&d;&d;&d;&d;\"><!ENTITY f \"&e;&e;&e;&e;&e;&e;&e;&e;\"><!ENTITY g \"&f;&f;&f;&f;&f;&f;&f;&f;\">]><gpx version=\"1.1\" xmlns=\"http://www.topografix.com/GPX/1/1\"><trk><name>&g;&g;&g;&g;</name></trk></gpx>";
    assert!(matches!(
        read_gpx(bomb.as_bytes()),
        Err(GpxRefusal::NotGpx(_) | GpxRefusal::Timeless)
    ));
}

#[test]
fn as_a_table_each_point_has_its_speed_and_course() {
    let csv = write_track(&track(), Format::Csv);
    let mut lines = csv.lines();
    assert_eq!(lines.next(), Some("at_utc,lat,lon,ground_mps,course_deg"));
    assert_eq!(lines.count(), 500);
    let json: serde_json::Value =
        serde_json::from_str(&write_track(&track(), Format::Json)).unwrap();
    let speed = json[250]["ground_mps"].as_f64().unwrap();
    assert!((1.0..3.0).contains(&speed), "{speed}");
}
