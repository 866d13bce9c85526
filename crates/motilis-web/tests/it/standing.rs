//! A house that an ordinary edit cannot break, and one answer everywhere: what was found wrong once, each as a test.

use crate::crawl::form_of;
use crate::server::{Page, TestServer, conditions};
use motilis_store::{Connection, Store};
use rstest::rstest;

/// Pages that show rig, line or day of what is edited here.
const PAGES: [&str; 17] = [
    "/today",
    "/today/card",
    "/column",
    "/bench/1",
    "/bench/6",
    "/bench/9",
    "/box",
    "/tank",
    "/tank?rig=1",
    "/tank?rig=6",
    "/tank?rig=9",
    "/spread/1",
    "/spread/1/card",
    "/spread/2",
    "/spread/2/card",
    "/log",
    "/setups",
];

fn all_stand(server: &TestServer, after: &str) {
    for path in PAGES {
        let page = server.get(path);
        assert_eq!(
            page.status,
            200,
            "{path} after {after}: {}",
            page.text("main")
        );
    }
    assert_eq!(
        server.post("/log", &[("kind", "fish")]).status,
        303,
        "Fish on after {after}"
    );
}

/// A form of a page, sent with some fields otherwise.
fn send(server: &TestServer, page: &Page, action: &str, changes: &[(&str, &str)]) -> Page {
    let mut fields = form_of(&page.body, action);
    for (name, value) in changes {
        fields.retain(|(field, _)| field != name);
        fields.push(((*name).to_owned(), (*value).to_owned()));
    }
    let fields: Vec<(&str, &str)> = fields
        .iter()
        .map(|(a, b)| (a.as_str(), b.as_str()))
        .collect();
    server.post(action, &fields)
}

/// Place of the first piece of a rig whose name holds a word.
fn place_of(server: &TestServer, rig: i64, word: &str) -> String {
    let page = server.get(&format!("/bench/{rig}"));
    let names = page.texts(".piece-pick");
    let place = names
        .iter()
        .position(|name| name.to_lowercase().contains(word));
    place
        .unwrap_or_else(|| panic!("no {word} among {names:?}"))
        .to_string()
}

#[rstest]
#[case(1, "colorado")]
#[case(1, "octopus")]
#[case(6, "willow")]
fn a_part_taken_off_breaks_no_page(#[case] rig: i64, #[case] word: &str) {
    let server = TestServer::start();
    let at = place_of(&server, rig, word);
    let edit = [("edit", "remove"), ("at", at.as_str())];
    assert_eq!(
        server.post(&format!("/bench/{rig}/edit"), &edit).status,
        303
    );
    all_stand(&server, &format!("taking the {word} off rig {rig}"));
}

#[test]
fn a_rig_that_cannot_run_is_named_with_what_mends_it() {
    let server = TestServer::start();
    let at = place_of(&server, 1, "colorado");
    server.post("/bench/1/edit", &[("edit", "remove"), ("at", &at)]);
    for path in ["/tank?rig=1", "/log", "/spread/1"] {
        let page = server.get(path);
        assert!(page.body.contains("/bench/1"), "{path} leads to the bench");
        assert!(page.text("main").contains("Tamarin two-hook"), "{path}");
    }
    // What mends it mends every page.
    server.post("/bench/1/undo", &[]);
    assert_eq!(server.get("/tank?rig=1").count(".cannot"), 0);
}

#[rstest]
#[case(1)]
#[case(2)]
#[case(6)]
#[case(9)]
fn a_set_up_moved_to_a_board_breaks_no_page(#[case] setup: i64) {
    let server = TestServer::start();
    let address = format!("/setups/{setup}");
    let page = server.get(&address);
    assert_eq!(
        send(&server, &page, &address, &[("start", "board")]).status,
        303
    );
    all_stand(&server, &format!("set-up {setup} from a board"));
}

#[rstest]
#[case("12")]
#[case("6")]
fn a_bottom_above_the_leader_breaks_no_page(#[case] bottom: &str) {
    let server = TestServer::start();
    let day = conditions(&[
        ("bottom", bottom),
        ("fish_from", "2"),
        ("fish_to", "4"),
        ("wanted_depth", "3"),
    ]);
    assert_eq!(server.post("/today", &day).status, 303);
    all_stand(&server, &format!("a bottom of {bottom} ft"));
}

/// The speeds a rig works at, and the water they are for, as a page says them.
fn usable(page: &Page) -> String {
    let facts = page.texts(".facts > div");
    let usable = facts.iter().find(|fact| fact.trim().starts_with("Usable"));
    usable
        .unwrap_or_else(|| panic!("no window among {facts:?}"))
        .split_whitespace()
        .collect()
}

#[test]
fn bench_and_tank_speak_of_the_same_water_and_say_which() {
    let server = TestServer::start();
    for salt in [false, true] {
        if salt {
            let page = server.get("/waters/2");
            assert_eq!(
                send(&server, &page, "/waters/2", &[("salt", "yes")]).status,
                303
            );
        }
        let (bench, tank) = (
            usable(&server.get("/bench/1")),
            usable(&server.get("/tank?rig=1")),
        );
        assert_eq!(bench, tank);
        assert_eq!(bench.contains(",salt,"), salt, "{bench}");
    }
}

/// Hours and first call of an outing as the log says them.
fn hours(server: &TestServer) -> String {
    let said = server.get("/log").text("#outing-hours");
    said.split('.').next().unwrap_or_default().to_owned()
}

#[test]
fn an_entry_typed_late_moves_no_hours_and_no_call() {
    let server = TestServer::start();
    server.post(
        "/outings/end",
        &[("ended", "now"), ("_at", "2026-09-05T20:00:00Z")],
    );
    let (before, first) = (hours(&server), server.get("/today").text(".call"));
    // The program's own clock is months later than the demo's last outing.
    assert_eq!(server.post("/log", &[("kind", "fish")]).status, 303);
    assert_eq!(hours(&server), before);
    assert_eq!(server.get("/today").text(".call"), first);
}

#[test]
fn a_start_after_the_entries_leaves_no_negative_hours() {
    let server = TestServer::start();
    let late = conditions(&[("started", "2026-09-05 23:00")]);
    server.post("/today", &late);
    let said = hours(&server);
    assert!(!said.contains('-') && !said.contains('−'), "{said}");
    assert_eq!(server.get("/today").status, 200);
}

fn far_future() -> jiff::Timestamp {
    "2199-06-01T12:00:00Z".parse().unwrap()
}

#[test]
fn a_clock_that_cannot_be_right_is_said() {
    let server = TestServer::start_at(far_future);
    let begun = server.post("/outings", &[]);
    assert_eq!(begun.status, 400);
    assert!(
        begun.text("main").contains("clock"),
        "{}",
        begun.text("main")
    );
    assert_eq!(server.get("/today").status, 200);
}

#[test]
fn an_outing_of_2199_in_an_old_file_kills_no_page() {
    let server = TestServer::start();
    spoil(
        &server.store,
        "UPDATE outings SET started_utc_s = 7240000000 WHERE id = (SELECT max(id) FROM outings)",
    );
    for path in PAGES {
        let status = server.get(path).status;
        assert!(status < 500, "{path}: {status}");
    }
}

fn spoil(store: &Store, sql: &str) {
    let done: Result<_, motilis_store::Error> =
        store.write(|connection: &Connection| Ok(connection.execute_batch(sql)?));
    done.unwrap();
}

#[test]
fn a_comma_in_a_speed_stays_one_in_every_link() {
    let server = TestServer::start();
    let page = server.get("/spread/1?speed=1%2C3&radius=40%2C5");
    assert!(
        page.body.contains("speed=1%2C3"),
        "the speed is kept in links"
    );
    assert!(
        page.body.contains("radius=40%2C5"),
        "the radius is kept in links"
    );
    assert!(!page.body.contains("speed=13&") && !page.body.contains("radius=405"));
}

fn entries(server: &TestServer) -> usize {
    server.get("/log").count(".entry")
}

#[test]
fn a_tap_sent_twice_counts_once() {
    let server = TestServer::start();
    let before = entries(&server);
    for _ in 0..4 {
        let tap = server.post("/log", &[("kind", "fish"), ("_act", "tap-1")]);
        assert_eq!(tap.status, 303);
    }
    assert_eq!(entries(&server), before + 1);
    let options = |server: &TestServer| server.get("/today").count("select[name=outing] option");
    let outings = options(&server);
    for _ in 0..2 {
        server.post("/outings", &[("_act", "begin-1")]);
    }
    assert_eq!(options(&server), outings + 1);
}

#[test]
fn two_phones_change_two_figures_and_both_stand() {
    let server = TestServer::start();
    let (a, b) = (server.get("/today"), server.get("/today"));
    assert_eq!(
        send(&server, &a, "/today", &[("temperature", "64")]).status,
        303
    );
    assert_eq!(send(&server, &b, "/today", &[("clarity", "9")]).status, 303);
    let now = server.get("/today");
    assert_eq!(now.attribute("#temperature", "value"), "64");
    assert_eq!(now.attribute("#clarity", "value"), "9");
    // The same figure twice is a conflict, said beside the field with what it is now.
    let again = send(&server, &b, "/today", &[("temperature", "50")]);
    assert_eq!(again.status, 422);
    assert!(again.text("#problem-temperature").contains("64"));
}

#[test]
fn a_length_and_a_note_on_two_phones_are_both_kept() {
    let server = TestServer::start();
    server.post("/log", &[("kind", "fish")]);
    let id = server.get("/log").attribute(".entry", "id");
    let id = id.trim_start_matches("entry-");
    let (edit, save) = (format!("/log?edit={id}"), format!("/log/{id}"));
    let (a, b) = (server.get(&edit), server.get(&edit));
    assert_eq!(send(&server, &a, &save, &[("length", "18")]).status, 303);
    assert_eq!(
        send(&server, &b, &save, &[("note", "off the hump")]).status,
        303
    );
    let now = server.get(&edit);
    assert_eq!(now.attribute("#length", "value"), "18");
    assert_eq!(now.attribute("#note", "value"), "off the hump");
}

#[test]
fn a_count_survives_a_cost_typed_on_an_older_page() {
    let server = TestServer::start();
    let (a, b) = (server.get("/box/parts/1"), server.get("/box/parts/1"));
    assert_eq!(
        send(&server, &a, "/box/parts/1", &[("left", "3")]).status,
        303
    );
    assert_eq!(
        send(&server, &b, "/box/parts/1", &[("cost", "1.25")]).status,
        303
    );
    let now = server.get("/box/parts/1");
    assert_eq!(now.attribute("#left", "value"), "3");
    assert_eq!(now.attribute("#cost", "value"), "1.25");
}

#[test]
fn two_deletes_on_the_bench_take_one_part_off() {
    let server = TestServer::start();
    let page = server.get("/bench/6");
    let version = page.attribute("form.pegs input[name=_seen]", "value");
    let pieces = page.count(".piece-pick");
    let edit = [("edit", "remove"), ("at", "1"), ("_seen", version.as_str())];
    assert_eq!(server.post("/bench/6/edit", &edit).status, 303);
    let second = server.post("/bench/6/edit", &edit);
    assert_eq!(second.status, 422);
    assert!(
        second.text("main").contains("taken off meanwhile"),
        "{}",
        second.text("main")
    );
    assert_eq!(server.get("/bench/6").count(".piece-pick"), pieces - 1);
}

#[test]
fn units_are_a_devices_own() {
    let server = TestServer::start();
    let metric = server.get_bearing("/today", "motilis-units=metric");
    assert!(metric.text("main").contains("km/h"));
    assert!(server.get("/today").text("main").contains("mph"));
    // A form says the units it was filled in with, whoever has switched since.
    let page = server.get("/today");
    let saved = send(&server, &page, "/today", &[("speed", "1.4")]);
    assert_eq!(saved.status, 303);
    assert_eq!(server.get("/today").attribute("#speed", "value"), "1.4");
}

#[rstest]
#[case("3", "21")]
#[case("0.3", "21")]
#[case("1.3", "3")]
#[case("1.3", "40")]
fn a_touch_far_from_the_model_breaks_no_tank(#[case] speed: &str, #[case] bottom: &str) {
    let server = TestServer::start();
    let page = server.get("/tank?rig=1");
    let touch = [("speed", speed), ("bottom", bottom), ("out", "80")];
    let sent = send(&server, &page, "/tank/touch", &touch);
    assert!([303, 422].contains(&sent.status), "{}", sent.status);
    all_stand(&server, &format!("a touch at {speed} mph on {bottom} ft"));
}

#[test]
fn a_blade_shorter_than_blades_are_is_refused_beside_its_field() {
    let server = TestServer::start();
    let page = server.get("/box/parts/1");
    let sent = send(&server, &page, "/box/parts/1", &[("length", "0.3")]);
    assert_eq!(sent.status, 422);
    assert!(
        sent.text("#problem-length").contains('5'),
        "{}",
        sent.text("#problem-length")
    );
    assert_eq!(sent.attribute("#length", "value"), "0.3");
}

#[test]
fn a_value_of_another_version_in_a_closed_outing_hides_only_itself() {
    let server = TestServer::start();
    spoil(
        &server.store,
        "UPDATE outings SET sky = 'zzz' WHERE id = (SELECT min(id) FROM outings)",
    );
    let again = server.reopened();
    all_stand(&again, "an unknown sky in a closed outing");
    // It is said, and where to look.
    assert!(again.get("/today").body.contains("/unread"));
    assert!(again.get("/unread").text("main").contains("zzz"));
}

#[test]
fn the_units_of_an_old_file_are_those_of_a_device_that_chose_none() {
    let server = TestServer::start();
    spoil(
        &server.store,
        "INSERT OR REPLACE INTO settings VALUES ('units', 'metric')",
    );
    assert!(
        server
            .reopened()
            .get("/today")
            .text("main")
            .contains("km/h")
    );
}
