//! What the log learns, by its pages: files in and out, a track, spots, an experiment, the playbook.

use crate::server::{Page, TestServer};
use jiff::{SignedDuration, Timestamp};
use motilis_core::track::{Plane, Point, Track};
use motilis_formats::write_gpx;
use rstest::rstest;

fn boat() -> TestServer {
    TestServer::start_at(|| "2026-09-05T16:00:00Z".parse().unwrap())
}

fn gpx(from: &str, seconds: i32) -> String {
    let from: Timestamp = from.parse().unwrap();
    let plane = Plane::at(50.42, -95.61);
    let points = (0..seconds).map(|second| {
        let (latitude, longitude) = plane.back(f64::from(second), 0.0);
        Point {
            at: from + SignedDuration::from_secs(second.into()),
            latitude,
            longitude,
        }
    });
    write_gpx(Some(&Track::new("east", points.collect()).unwrap()), &[])
}

fn follow(server: &TestServer, sent: Page) -> Page {
    assert_eq!(sent.status, 303, "{}", sent.body);
    server.get(sent.location.split('#').next().unwrap())
}

#[test]
fn a_table_that_went_out_comes_back_corrected_and_is_undone() {
    let server = boat();
    let entries = server.get("/log/files/entries.csv").body;
    let same = server.upload(
        "/log/files",
        &[("act", "preview")],
        Some(("e.csv", entries.as_bytes())),
    );
    assert_eq!(same.status, 200);
    assert!(same.text("#import-summary").contains(" 0 new, 0 changed"));
    assert_eq!(same.count("#import-all"), 0);
    // A spreadsheet corrects a length.
    let line = entries
        .lines()
        .find(|line| line.contains(",fish,") && line.contains(",0."))
        .unwrap();
    let corrected = line.replace(",fish,", ",strike,");
    let changed = entries.replace(line, &corrected);
    let file = Some(("e.csv", changed.as_bytes()));
    let preview = server.upload("/log/files", &[("act", "preview")], file);
    // A strike has no length: that is said, and nothing is taken in.
    assert_eq!(preview.status, 422);
    assert!(
        preview.text("table").contains("length"),
        "{}",
        preview.text("table")
    );
    let noted = format!("{line} with a note");
    let changed = entries.replace(line, &noted);
    let file = Some(("e.csv", changed.as_bytes()));
    let preview = server.upload("/log/files", &[("act", "preview")], file);
    assert!(preview.text("#import-summary").contains("1 changed"));
    let taken = server.upload("/log/files", &[("act", "import")], file);
    let page = follow(&server, taken);
    assert!(page.text("#came").contains("1 records"));
    assert!(
        server
            .get("/log/files/entries.csv")
            .body
            .contains("with a note")
    );
}

#[rstest]
#[case("e.csv", "not,a,log\n1,2,3\n", "this is no log")]
#[case("e.json", "{\"motilis_log\":1}", "missing field")]
#[case("e.csv", "", "empty")]
fn what_is_no_log_is_refused_beside_its_form(
    #[case] name: &str,
    #[case] text: &str,
    #[case] says: &str,
) {
    let server = boat();
    let page = server.upload(
        "/log/files",
        &[("act", "import")],
        Some((name, text.as_bytes())),
    );
    assert_eq!(page.status, 422);
    assert!(
        page.text("#refused").contains(says),
        "{}",
        page.text("#refused")
    );
}

#[test]
fn every_file_goes_out_and_others_are_not_found() {
    let server = boat();
    for (name, begins) in [
        ("/log/files/log.json", "{\"motilis_log\":1"),
        ("/log/files/book.json", "{\"motilis_book\":1"),
        ("/log/files/passes.csv", "id,outing,outing_started_utc"),
        ("/log/files/fish.csv", "id,outing,water"),
        ("/evidence.csv?by=blade", "group,crossed,fish"),
        ("/evidence.json?by=finish&crossed=depth", "["),
        ("/log/track.gpx", "<?xml"),
    ] {
        let page = server.get(name);
        assert_eq!(page.status, 200, "{name}");
        assert!(
            page.body.starts_with(begins),
            "{name}: {}",
            &page.body[..60]
        );
    }
    assert_eq!(server.get("/log/files/secrets.csv").status, 404);
}

#[test]
fn a_track_is_taken_in_drawn_and_thrown_away_again() {
    let server = boat();
    let file = gpx("2026-09-05T11:30:00Z", 3_600);
    let sent = server.upload("/log/track", &[], Some(("t.gpx", file.as_bytes())));
    let page = follow(&server, sent);
    assert!(
        page.text("#track-told").contains("3600 points"),
        "{}",
        page.text("#track-told")
    );
    assert_eq!(page.count("svg.plan"), 2);
    assert!(page.count("svg.plan path.way") >= 2);
    // Entries of the demo beyond that hour lie where it has no point.
    assert!(
        page.text("#track-told")
            .contains("no point within a minute")
    );
    let id = page
        .body
        .split("/log/tracks/")
        .nth(1)
        .unwrap()
        .split('/')
        .next()
        .unwrap()
        .to_owned();
    let gone = follow(
        &server,
        server.post(&format!("/log/tracks/{id}/delete"), &[]),
    );
    assert_eq!(gone.count("#undo"), 1);
    let back = follow(
        &server,
        server.post(&format!("/log/tracks/{id}/restore"), &[]),
    );
    assert!(back.text("#track-told").contains("3600 points"));
}

#[rstest]
#[case(gpx("2019-06-05T11:30:00Z", 600), "No outing was fished")]
#[case("<gpx/>".to_owned(), "not GPX")]
#[case(String::new(), "No file was chosen")]
fn a_file_that_is_no_track_of_ours_is_refused(#[case] file: String, #[case] says: &str) {
    let server = boat();
    let page = server.upload("/log/track", &[], Some(("t.gpx", file.as_bytes())));
    assert_eq!(page.status, 422);
    assert!(page.body.contains(says), "{says}");
}

#[test]
fn a_spot_is_kept_corrected_and_says_what_is_wrong() {
    let server = boat();
    let spot = |name: &str, latitude: &str, radius: &str| -> Vec<(String, String)> {
        [
            ("name", name),
            ("latitude", latitude),
            ("longitude", "95 36.6 W"),
            ("spot_radius", radius),
            ("spot_depth", "22"),
            ("structure", "a break"),
        ]
        .map(|(name, value)| (name.to_owned(), value.to_owned()))
        .into()
    };
    let send = |path: &str, form: &[(String, String)]| {
        let form: Vec<(&str, &str)> = form.iter().map(|(a, b)| (a.as_str(), b.as_str())).collect();
        server.post(path, &form)
    };
    let wrong = send("/spots", &spot("", "north", "2"));
    assert_eq!(wrong.status, 422);
    for field in ["latitude", "spot_radius"] {
        assert!(
            !wrong.text(&format!("#problem-{field}-new")).is_empty(),
            "{field}"
        );
    }
    assert_eq!(wrong.attribute("#latitude-new", "value"), "north");
    let page = follow(
        &server,
        send("/spots", &spot("Windfall", "50 25.2 N", "300")),
    );
    assert!(
        page.text("#spot-list").contains("Windfall"),
        "{}",
        page.text("#spot-list")
    );
    let id = page
        .body
        .split("id=\"spot-")
        .find(|part| part.contains("Windfall"))
        .unwrap();
    let id = id.split('"').next().unwrap().to_owned();
    let page = follow(
        &server,
        send(
            &format!("/spots/{id}"),
            &spot("Windfall bay", "50.42", "400"),
        ),
    );
    assert!(page.text(&format!("#spot-{id}")).contains("Windfall bay"));
    let gone = follow(&server, server.post(&format!("/spots/{id}/delete"), &[]));
    assert!(!gone.text("#spot-list").contains("Windfall bay"));
    assert_eq!(server.post("/spots/999/delete", &[]).status, 404);
}

#[test]
fn an_experiment_is_begun_swapped_and_ended() {
    let server = boat();
    let form = |until: &'static str, b_rig: &'static str| {
        [
            ("a_rig", "1"),
            ("b_rig", b_rig),
            ("a_lead", "4"),
            ("b_lead", "4"),
            ("a_bait", ""),
            ("b_bait", ""),
            ("rod_1", "yes"),
            ("rod_2", "yes"),
            ("rod_3", "yes"),
            ("swap_after", "20"),
            ("until", until),
        ]
    };
    let same = server.post("/log/experiments", &form("2026-09-05 14:00", "1"));
    assert_eq!(same.status, 422);
    assert!(
        same.text("#problem-ways").contains("the same"),
        "{}",
        same.text("#problem-ways")
    );
    let short = server.post("/log/experiments", &form("2026-09-05 11:10", "5"));
    assert!(short.text("#problem-until").contains("no two periods"));
    let page = follow(
        &server,
        server.post("/log/experiments", &form("2026-09-05 14:00", "5")),
    );
    assert_eq!(page.count("#running"), 1);
    assert!(
        page.text("#dealt").contains("fish A"),
        "{}",
        page.text("#dealt")
    );
    assert!(
        server
            .get("/log")
            .text("#experiment-strip")
            .contains("Experiment.")
    );
    let id = page
        .body
        .split("/log/experiments/")
        .nth(1)
        .unwrap()
        .split('/')
        .next()
        .unwrap();
    let swapped = server.post(&format!("/log/experiments/{id}/swap"), &[]);
    assert_eq!(swapped.status, 303);
    let over = follow(
        &server,
        server.post(&format!("/log/experiments/{id}/end"), &[]),
    );
    assert_eq!(
        (over.count("#running"), over.count(".experiment-over")),
        (0, 1)
    );
    assert_eq!(
        server
            .post(&format!("/log/experiments/{id}/swap"), &[])
            .status,
        400
    );
}

/// A short strike brings the playbook; what is tried is logged, and what bites after it counts.
#[test]
fn the_playbook_counts_what_was_tried_and_what_bit() {
    let server = boat();
    let tap = |kind: &str| {
        let sent = server.post("/log", &[("kind", kind), ("rod", "1")]);
        follow(&server, sent)
    };
    let brought = |page: &Page| page.text(".playbook button[value='play:trim_skirt']");
    let first = tap("short");
    assert_eq!(first.count(".playbook button"), 5);
    let before = brought(&first);
    tap("play:trim_skirt");
    let after = brought(&tap("short"));
    assert_ne!(before, after);
    assert!(after.contains("tried"), "{after}");
    assert_eq!(
        tap("strike").count(".playbook"),
        0,
        "a hard strike has no book"
    );
    assert_eq!(
        server
            .post("/log", &[("kind", "play:pray"), ("rod", "1")])
            .status,
        400
    );
}

/// Fish of the days before count for what is possessed, those of another outing of the day for the day.
#[test]
fn kept_fish_are_counted_over_outings() {
    let server = boat();
    let page = server.get("/log");
    let fish: Vec<&str> = page
        .body
        .split("id=\"entry-")
        .filter(|part| part.contains("kept"))
        .collect();
    assert!(!fish.is_empty());
    assert!(
        page.body
            .contains("for each angler by the rule you entered"),
        "no count is told"
    );
}

/// A photograph is kept with its fish, shown, and taken away; what is no picture is refused.
#[test]
fn a_fish_has_its_photograph() {
    let server = boat();
    let sent = server.post("/log", &[("kind", "fish"), ("rod", "1")]);
    let id = sent.location.split("logged=").nth(1).unwrap().to_owned();
    let path = format!("/log/{id}/photo");
    assert_eq!(server.get(&path).status, 404);
    let script = server.upload(&path, &[], Some(("fish.jpg", b"<script>alert(1)</script>")));
    assert_eq!(script.status, 400);
    let png = b"\x89PNG\r\n\x1a\n and the rest";
    let page = follow(&server, server.upload(&path, &[], Some(("fish.jpg", png))));
    assert_eq!(page.count(".photo-form img"), 1);
    let shown = server.get(&path);
    assert_eq!(shown.headers.get("content-type").unwrap(), "image/png");
    assert_eq!(server.bytes(&path), png);
    assert_eq!(
        server
            .get("/log")
            .count(&format!("#entry-{id} a[href='{path}']")),
        1
    );
    let gone = follow(&server, server.upload(&path, &[("act", "remove")], None));
    assert_eq!(gone.count(".photo-form img"), 0);
    assert_eq!(
        server
            .upload("/log/9999/photo", &[], Some(("x.png", png)))
            .status,
        404
    );
}

/// A fish measured to the fork is held against a rule of lengths with a word on how it was measured.
#[test]
fn a_fish_measured_to_the_fork_says_so_beside_the_rule() {
    let server = boat();
    let sent = server.post("/log", &[("kind", "fish"), ("rod", "1")]);
    let id = sent.location.split("logged=").nth(1).unwrap().to_owned();
    let form = [
        ("length", "14"),
        ("measured", "fork"),
        ("kept", "released"),
        ("_units", "imperial"),
    ];
    assert_eq!(server.post(&format!("/log/{id}"), &form).status, 303);
    let said = server.get("/log").text(&format!("#entry-{id} .entry-fish"));
    assert!(
        said.contains("to the fork") && said.contains("may count the total length"),
        "{said}"
    );
}
