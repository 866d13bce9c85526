//! Boat, by its pages: taps that bear what the instruments knew, two phones, what comes back when something cannot be, practice.

use crate::server::{Page, TestServer};
use motilis_core::book::{EventKind, Given};
use motilis_store::{events, fish_marks, outings, passes, rods, settings};
use rstest::rstest;
use std::io::{BufRead, BufReader};
use std::thread;
use std::time::{Duration, Instant};

fn follow(server: &TestServer, sent: Page) -> Page {
    assert_eq!(sent.status, 303, "{}", sent.body);
    server.get(sent.location.split('#').next().unwrap())
}

/// A boat with an outing that goes on and its rods out.
fn out(server: &TestServer) {
    follow(server, server.post("/outings", &[("back", "/boat")]));
    for rod in ["1", "2", "3", "4"] {
        follow(
            server,
            server.post("/log/rods/out", &[("rod", rod), ("screen", "boat")]),
        );
    }
}

/// A simulated boat with four rods in motion.
fn sailing() -> TestServer {
    let server = TestServer::under_way();
    follow(
        &server,
        server.post("/boat/instruments", &[("way", "simulated"), ("pace", "5")]),
    );
    out(&server);
    until(&server, "four rods in motion", |now| {
        now["rods"].as_array().unwrap().len() == 4
    });
    server
}

fn open_outing(server: &TestServer) -> motilis_core::book::OutingId {
    let id = server
        .store
        .read(|connection| settings::get(connection, "open_outing"))
        .unwrap()
        .unwrap();
    motilis_core::book::OutingId(id.parse().unwrap())
}

fn logged(server: &TestServer) -> Vec<motilis_core::book::Event> {
    let id = open_outing(server);
    let all = server
        .store
        .read(|connection| events::of_outing(connection, id))
        .unwrap();
    all.into_iter().map(|(_, event)| event).collect()
}

/// What the stream says, until it is as it should be.
fn until(
    server: &TestServer,
    what: &str,
    holds: impl Fn(&serde_json::Value) -> bool,
) -> serde_json::Value {
    let began = Instant::now();
    loop {
        let now: serde_json::Value =
            serde_json::from_str(&server.get("/boat/now.json").body).unwrap();
        if holds(&now) {
            return now;
        }
        assert!(
            began.elapsed() < Duration::from_secs(90),
            "never {what}: {now}"
        );
        thread::sleep(Duration::from_millis(100));
    }
}

#[test]
fn without_an_outing_the_boat_offers_to_begin_one_and_then_sets_the_rods_out() {
    let server = TestServer::under_way();
    let page = server.get("/boat");
    assert!(page.body.contains("No outing goes on.") && page.body.contains("Begin one now"));
    follow(&server, server.post("/outings", &[("back", "/boat")]));
    until(&server, "a rod to set out", |now| {
        now["line"]["text"]
            .as_str()
            .unwrap()
            .starts_with("Next: rod")
    });
    let assistant = server.get("/boat/set-out");
    assert!(assistant.body.contains("0 of 4 in") && assistant.body.contains("let out"));
    follow(
        &server,
        server.post("/boat/reel", &[("reel_counted", "42")]),
    );
    let assistant = server.get("/boat/set-out");
    assert!(
        assistant.body.contains("turns of your reel"),
        "{}",
        assistant.body
    );
    for rod in ["1", "2", "3", "4"] {
        follow(
            &server,
            server.post("/log/rods/out", &[("rod", rod), ("screen", "set-out")]),
        );
    }
    assert!(
        server
            .get("/boat/set-out")
            .body
            .contains("All rods are in.")
    );
}

#[test]
fn a_fish_bears_what_the_instruments_knew_and_can_be_taken_back() {
    let server = sailing();
    until(&server, "bottom and temperature", |now| {
        now["depth"]["state"] == "fresh" && now["temperature"]["state"] == "fresh"
    });
    thread::sleep(Duration::from_millis(1_200));
    let page = follow(
        &server,
        server.post(
            "/log",
            &[("rod", "2"), ("kind", "fish"), ("screen", "boat")],
        ),
    );
    assert!(page.body.contains("Fish logged: rod 2"), "{}", page.body);
    let event = logged(&server)
        .into_iter()
        .find(|event| event.kind == EventKind::Fish)
        .unwrap();
    assert_eq!(event.given, Given::Live);
    assert!(
        event.place.is_some()
            && event.ground.is_some()
            && event.bottom.is_some()
            && event.temperature.is_some()
    );
    assert!(event.line.unwrap().depth.unwrap().0 > 2.0);
    until(&server, "rod 2 out", |now| {
        now["rods"].as_array().unwrap().len() == 3
    });
    // Undo takes back the fish and puts the rod in again.
    let act = page
        .body
        .split("/acts/")
        .nth(1)
        .unwrap()
        .split('/')
        .next()
        .unwrap()
        .to_owned();
    follow(
        &server,
        server.post(&format!("/acts/{act}/undo"), &[("back", "/boat")]),
    );
    assert!(
        logged(&server)
            .iter()
            .all(|event| event.kind != EventKind::Fish)
    );
    until(&server, "rod 2 in", |now| {
        now["rods"].as_array().unwrap().len() == 4
    });
}

#[test]
fn advice_is_followed_fish_are_marked_and_an_outing_ends_with_its_track() {
    let server = sailing();
    let id = open_outing(&server);
    let line_out = |server: &TestServer| {
        let rods = server
            .store
            .read(|connection| rods::of_outing(connection, id))
            .unwrap();
        rods[2].rod.out.0
    };
    let before = line_out(&server);
    // What is advised can be done: some line taken in.
    follow(
        &server,
        server.post("/boat/wind", &[("rod", "3"), ("by_m", "2.4384")]),
    );
    assert!((before - line_out(&server) - 2.4384).abs() < 1e-9);
    // A fish on the sounder is marked where the boat is.
    follow(&server, server.post("/boat/mark", &[("mark_depth", "21")]));
    let marks = server
        .store
        .read(|connection| fish_marks::of_outing(connection, id))
        .unwrap();
    assert_eq!(marks.len(), 1);
    assert!((marks[0].1.depth.0 - 21.0 * 0.3048).abs() < 1e-9);
    // The throttle of the simulated boat obeys.
    let speed = |now: &serde_json::Value| -> f64 {
        now["speed"]["value"].as_str().unwrap().parse().unwrap()
    };
    follow(&server, server.post("/boat/helm", &[("by", "0.3")]));
    until(&server, "faster", |now| speed(now) > 1.35);
    // And slower: by then more than one place was heard, however busy the machine is.
    follow(&server, server.post("/boat/helm", &[("by", "-0.3")]));
    until(&server, "slower", |now| speed(now) < 1.3);
    // The outing ends with its track.
    follow(
        &server,
        server.post("/outings/end", &[("ended", "now"), ("screen", "boat")]),
    );
    let track = server
        .store
        .read(|connection| motilis_store::tracks::of_outing(connection, id))
        .unwrap();
    let now = server.get("/boat/now.json").body;
    assert!(track.is_some(), "{now}");
}

#[test]
fn the_stream_tells_every_second_and_other_phones_see_what_one_did() {
    let server = TestServer::under_way();
    out(&server);
    let agent: ureq::Agent = ureq::Agent::config_builder()
        .timeout_global(Some(Duration::from_secs(20)))
        .build()
        .into();
    let mut response = agent
        .get(format!("{}/boat/live", server.address))
        .call()
        .unwrap();
    assert_eq!(response.headers()["content-type"], "text/event-stream");
    let mut lines = BufReader::new(response.body_mut().as_reader()).lines();
    let mut next = || loop {
        let line = lines.next().unwrap().unwrap();
        if let Some(text) = line.strip_prefix("data: ") {
            return serde_json::from_str::<serde_json::Value>(text).unwrap();
        }
    };
    let first = next()["version"].as_u64().unwrap();
    server.post(
        "/log",
        &[("rod", "1"), ("kind", "strike"), ("screen", "boat")],
    );
    let seen = (0..4)
        .map(|_| next()["version"].as_u64().unwrap())
        .find(|version| *version > first);
    assert!(seen.is_some());
}

/// Quiet is told only once the bottom under every rod has been sounded.
#[test]
fn nothing_ahead_is_said_when_it_is_known() {
    let server = TestServer::under_way();
    follow(
        &server,
        server.post("/boat/instruments", &[("way", "simulated"), ("pace", "20")]),
    );
    out(&server);
    until(&server, "all clear", |now| {
        let text = now["line"]["text"].as_str().unwrap();
        text.starts_with("Clear as far")
    });
}

/// A rod that is out again a moment later may have another: nobody is asked.
#[test]
fn a_rod_that_went_out_again_has_another_fish() {
    let server = sailing();
    let tap = [("rod", "2"), ("screen", "boat")];
    for _ in 0..2 {
        let fish = [("kind", "fish"), tap[0], tap[1]];
        let told = follow(&server, server.post("/log", &fish));
        assert!(told.body.contains("Fish logged: rod 2"), "{}", told.body);
        follow(&server, server.post("/log/rods/out", &tap));
    }
}

#[test]
fn a_fish_tapped_on_two_phones_is_asked_after_once() {
    let server = TestServer::start();
    out(&server);
    let tap = [("rod", "2"), ("kind", "fish"), ("screen", "boat")];
    follow(
        &server,
        server.post(
            "/log",
            &[
                ("rod", "2"),
                ("kind", "fish"),
                ("screen", "boat"),
                ("_act", "one"),
            ],
        ),
    );
    let asked = server.post("/log", &[tap[0], tap[1], tap[2], ("_act", "two")]);
    assert_eq!(asked.status, 422);
    assert!(asked.body.contains("One fish or two?"));
    // The first phone's own repeat is no second fish.
    follow(
        &server,
        server.post("/log", &[tap[0], tap[1], tap[2], ("_act", "one")]),
    );
    follow(
        &server,
        server.post(
            "/log",
            &[tap[0], tap[1], tap[2], ("sure", "two"), ("_act", "three")],
        ),
    );
    let fish = logged(&server)
        .iter()
        .filter(|event| event.kind == EventKind::Fish)
        .count();
    assert_eq!(fish, 2);
}

#[rstest]
#[case::address("/boat/instruments", &[("way", "tcp"), ("address", "not an address")], "Address is not a host and a port")]
#[case::port("/boat/instruments", &[("way", "udp"), ("port", "seventy")], "Port is not one")]
#[case::pace("/boat/instruments", &[("way", "simulated"), ("pace", "900")], "Times is not between 0.5 and 20")]
#[case::no_ride("/boat/instruments", &[("way", "replay"), ("pace", "1"), ("ride", "../../etc/passwd")], "There is no such recording")]
#[case::current("/boat/current", &[("flow", "fast"), ("set", "90")], "The water goes")]
#[case::reel("/boat/reel", &[("reel_counted", "0")], "The turns are not between 7 and 200")]
#[case::spool("/boat/reel", &[("reel_spool", "900")], "The diameter is not between")]
#[case::mark("/boat/mark", &[("mark_depth", "deep")], "Fish at")]
fn what_cannot_be_is_said_beside_the_field(
    #[case] path: &str,
    #[case] form: &[(&str, &str)],
    #[case] says: &str,
) {
    let server = TestServer::start();
    let refused = server.post(path, form);
    assert_eq!(refused.status, 422);
    assert!(refused.body.contains(says), "{}", refused.body);
    let (_, typed) = form.last().unwrap();
    assert!(
        typed.contains("..") || refused.body.contains(&format!("value=\"{typed}\"")),
        "{typed}"
    );
}

#[test]
fn a_recording_is_kept_and_one_that_cannot_be_says_so() {
    let server = sailing();
    let rides = server.folder.path().join("rides");
    // Somebody put a file where the folder should be.
    std::fs::write(&rides, "").unwrap();
    let refused = server.post("/boat/record", &[("record", "yes")]);
    assert_eq!(refused.status, 400);
    assert!(refused.body.contains("cannot be made"), "{}", refused.body);
    std::fs::remove_file(&rides).unwrap();
    for _ in 0..2 {
        let page = follow(&server, server.post("/boat/record", &[("record", "yes")]));
        assert_eq!(page.status, 200);
    }
    let names = || std::fs::read_dir(&rides).unwrap().count();
    assert_eq!(names(), 1);
    let stopped = follow(&server, server.post("/boat/record", &[("record", "no")]));
    assert!(!stopped.body.contains("Recording to"));
    let file = std::fs::read_dir(&rides).unwrap().next().unwrap().unwrap();
    assert!(file.path().extension().is_some_and(|end| end == "nmea"));
}

#[rstest]
#[case::no_number("abc")]
#[case::nothing("")]
#[case::too_large("1000000")]
#[case::half("2.5")]
fn a_lake_without_a_number_is_refused_beside_its_field(#[case] seed: &str) {
    let server = TestServer::start();
    let refused = server.post("/boat/practice", &[("pace", "20"), ("seed", seed)]);
    assert_eq!(refused.status, 422);
    let problem = "Lake number is no whole number from 0 to 999999; type one, such as 27";
    assert!(refused.body.contains(problem), "{}", refused.body);
    assert!(refused.body.contains(&format!(
        r#"name="seed" inputmode="numeric" value="{seed}""#
    )));
    assert!(refused.body.contains(r#"value="20" checked"#));
}

#[rstest]
#[case("by", "inf")]
#[case("speed_mps", "nan")]
#[case("turn", "1e300")]
fn a_helm_takes_what_can_be(#[case] name: &str, #[case] value: &str) {
    let server = sailing();
    let refused = server.post("/boat/helm", &[(name, value)]);
    assert_eq!(refused.status, 400);
    assert!(refused.body.contains("use the buttons of the boat"));
}

#[test]
fn what_needs_instruments_says_so_without_them() {
    let server = TestServer::start();
    out(&server);
    let refused = server.post("/boat/mark", &[("mark_depth", "21")]);
    assert!(
        refused.status < 500 && refused.body.contains("Nobody knows where the boat is"),
        "{}",
        refused.body
    );
    assert_eq!(server.post("/boat/helm", &[("by", "0.1")]).status, 400);
    assert_eq!(server.post("/boat/practice/end", &[]).status / 100, 4);
    assert_eq!(
        server
            .post("/boat/wind", &[("rod", "9"), ("by_m", "2")])
            .status
            / 100,
        4
    );
    let now: serde_json::Value = serde_json::from_str(&server.get("/boat/now.json").body).unwrap();
    assert_eq!(
        now["link"],
        "No instruments are heard: depths are those of a steady run at the outing’s speed."
    );
}

#[test]
fn a_practice_trip_is_scored_and_counts_for_nothing() {
    let server = TestServer::under_way();
    let before = server.get("/evidence").body;
    follow(
        &server,
        server.post("/boat/practice", &[("pace", "20"), ("seed", "5")]),
    );
    for rod in ["1", "2"] {
        follow(
            &server,
            server.post("/log/rods/out", &[("rod", rod), ("screen", "boat")]),
        );
    }
    until(&server, "two rods in motion", |now| {
        now["rods"].as_array().unwrap().len() == 2
    });
    follow(
        &server,
        server.post(
            "/log",
            &[("rod", "1"), ("kind", "fish"), ("screen", "boat")],
        ),
    );
    let id = open_outing(&server);
    assert!(
        server
            .store
            .read(|connection| outings::is_practice(connection, id))
            .unwrap()
    );
    let page = follow(&server, server.post("/boat/practice/end", &[]));
    assert!(
        page.body.contains("Score") && page.body.contains("Against the best"),
        "{}",
        page.body
    );
    let passes = server
        .store
        .read(|connection| passes::of_outing(connection, id))
        .unwrap();
    assert!(passes.iter().all(|(_, pass)| pass.to.is_some()));
    // The rates are those of before: practice is no evidence.
    let rates = |body: &str| body.matches("rod-hours").count();
    assert_eq!(rates(&server.get("/evidence").body), rates(&before));
    let wire = server
        .store
        .read(|connection| settings::get(connection, "boat_wire"))
        .unwrap();
    assert!(!wire.unwrap_or_default().starts_with("practice"));
}

#[test]
fn a_worker_and_a_manifest_are_there_for_who_installs_it() {
    let server = TestServer::start();
    let worker = server.get("/worker.js");
    assert_eq!(worker.status, 200);
    assert!(
        worker.headers["content-type"]
            .to_str()
            .unwrap()
            .starts_with("text/javascript")
    );
    assert!(
        server
            .get("/phone")
            .body
            .contains("This program listens on this machine only")
    );
}
