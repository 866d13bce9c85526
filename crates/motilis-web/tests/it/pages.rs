//! What the pages show and what a change does.

use crate::server::{TestServer, conditions};
use rstest::rstest;

fn row(rig: &str, part: &str) -> String {
    format!("[data-rig='{rig}'] {part}")
}

#[test]
fn the_door_leads_to_today() {
    let server = TestServer::start();
    let page = server.get("/");
    assert_eq!((page.status, page.location.as_str()), (303, "/today"));
}

#[test]
fn today_shows_all_rigs_with_those_that_cannot_work_last() {
    let server = TestServer::start();
    let page = server.get("/today");
    // Three on the sheet; those of them that need no swap are not in the list below.
    assert_eq!(page.count(".pick"), 3);
    assert_eq!(page.count(".call") + page.count(".pick[data-rig]"), 40);
    let order: Vec<usize> = ["call-works", "call-watch", "call-cannot"]
        .iter()
        .map(|class| {
            page.body
                .rfind(&format!("class=\"call {class}"))
                .unwrap_or(0)
        })
        .filter(|at| *at > 0)
        .collect();
    assert!(order.is_sorted(), "{order:?}");
    assert!(
        page.text(&row("Tamarin two-hook", ".call-out"))
            .ends_with("ft")
    );
}

#[test]
fn the_speed_changes_the_states() {
    let server = TestServer::start();
    assert_eq!(
        server
            .post("/today", &conditions(&[("speed", "2,1")]))
            .status,
        303
    );
    let page = server.get("/today");
    assert_eq!(
        page.text(&row("Big thumper", ".call-state")),
        "Rolling over"
    );
    assert!(
        page.text(&row("Big thumper", ".call-reason"))
            .starts_with("Blows out at this speed.")
    );
    assert_eq!(page.text("#pick-primary"), "Double willow");
    server.post("/today", &conditions(&[("speed", "0.3")]));
    let page = server.get("/today");
    assert_eq!(page.text(&row("Slow wing", ".call-state")), "Turning");
    assert_eq!(
        page.text(&row("Tamarin two-hook", ".call-state")),
        "Stalling"
    );
}

#[test]
fn a_stepper_lands_on_whole_tenths() {
    let server = TestServer::start();
    server.post("/today", &conditions(&[("speed", "1.23"), ("step", "1")]));
    assert_eq!(server.get("/today").attribute("#speed", "value"), "1.3");
    server.post("/today", &conditions(&[("speed", "0"), ("step", "-1")]));
    assert_eq!(server.get("/today").attribute("#speed", "value"), "0.0");
}

#[rstest]
#[case(
    "speed",
    "fast",
    "Speed “fast” is not a number; write it like 1.2 mph."
)]
#[case(
    "temperature",
    "999",
    "Temp. “999” is too large; give 28 °F to 104 °F."
)]
#[case(
    "fish_to",
    "40",
    "The fish lie below the bottom; correct their depth or the water's (bottom 27 ft)."
)]
#[case(
    "wanted_depth",
    "27",
    "The depth wanted lies on or below the bottom; choose less, or correct the water's depth (bottom 27 ft)."
)]
#[case(
    "started",
    "soon",
    "Date and hour “soon” cannot be read; write it like 2026-09-05 06:20."
)]
fn a_wrong_condition_is_answered_beside_its_field(
    #[case] field: &str,
    #[case] typed: &str,
    #[case] sentence: &str,
) {
    let server = TestServer::start();
    let before = server.contents();
    let page = server.post("/today", &conditions(&[(field, typed)]));
    assert_eq!(page.status, 422);
    assert_eq!(page.text(&format!("#problem-{field}")), sentence);
    assert_eq!(page.attribute(&format!("#{field}"), "value"), typed);
    assert_eq!(page.count(".call") + page.count(".pick[data-rig]"), 40);
    assert_eq!(server.contents(), before);
}

#[test]
fn the_tank_is_a_function_of_its_address() {
    let server = TestServer::start();
    let page = server.get("/tank?rig=1&was_rig=1&setup=1&was_setup=1&speed=1.2&out=68&weight=1&lead=5&line=nylon-10&depth=22");
    assert_eq!(page.status, 200);
    assert!(
        page.text(".facts").contains("22 ft"),
        "{}",
        page.text(".facts")
    );
    let heavier = server.get("/tank?rig=1&was_rig=1&setup=1&was_setup=1&speed=1.2&out=68&weight=2&lead=5&line=nylon-10&depth=22");
    assert!(
        heavier.text(".facts").contains("drags"),
        "{}",
        heavier.text(".facts")
    );
    let faster = server.get("/tank?rig=1&was_rig=1&setup=1&was_setup=1&speed=2.4&out=68&weight=1&lead=5&line=nylon-10&depth=22");
    assert!(faster.text(".state").starts_with("Rolling over"));
}

#[test]
fn a_figure_that_cannot_be_read_leaves_the_tank_without_an_answer() {
    let server = TestServer::start();
    let page = server.get("/tank?rig=1&was_rig=1&setup=1&was_setup=1&speed=fast&out=68&weight=1&lead=5&line=nylon-10&depth=22");
    assert_eq!(page.status, 422);
    assert_eq!(page.attribute("#speed", "value"), "fast");
    assert!(page.text(".state").starts_with("Not known"));
    assert!(!page.text(".facts").contains("Rig runs at"));
}

#[test]
fn a_wanted_depth_fills_in_the_line() {
    let server = TestServer::start();
    let page = server.get("/tank?rig=1&was_rig=1&setup=1&was_setup=1&speed=1.2&out=10&weight=1&lead=5&line=nylon-10&depth=22&set=depth");
    assert_eq!(page.attribute("#out", "value"), "66");
    let page = server.get("/tank?rig=1&was_rig=1&setup=1&was_setup=1&speed=2.4&out=10&weight=1&lead=5&line=nylon-10&depth=25&set=depth");
    assert!(
        page.text("#problem-depth")
            .starts_with("It runs no deeper than"),
        "{}",
        page.text("#problem-depth")
    );
    assert!(page.text("#problem-depth").contains("oz would do it"));
}

#[test]
fn another_rig_brings_its_own_line() {
    let server = TestServer::start();
    let page = server.get("/tank?rig=13&was_rig=1&setup=1&was_setup=1&speed=2.2&out=68&weight=1");
    assert_eq!(page.text("label[for=out]"), "Cable out ft");
    assert_eq!(page.count("#weight"), 0);
    for nowhere in [
        "/tank?rig=99",
        "/tank?rig=x",
        "/tank?rig=1&was_rig=1&setup=77",
    ] {
        assert_eq!(server.get(nowhere).status, 404, "{nowhere}");
    }
}

#[test]
fn a_fish_is_logged_corrected_deleted_and_taken_back() {
    let server = TestServer::start();
    let count = |server: &TestServer| server.get("/log").count(".entry");
    let before = count(&server);
    let logged = server.post("/log", &[("kind", "fish")]);
    assert_eq!(logged.status, 303);
    let page = server.get(&logged.location);
    let notice = page.text(".notice");
    assert!(
        notice.starts_with("Fish logged: rod 1, Tamarin two-hook, 22 ft down, 66 ft out, 1.2 mph"),
        "{notice}"
    );
    assert_eq!(count(&server), before + 1);

    let entry = page.attribute(".entry", "id");
    let id = entry.trim_start_matches("entry-");
    let form = page_form(&server, id);
    let corrected = server.post(
        &format!("/log/{id}"),
        &[
            ("kind", "fish"),
            ("at", &form),
            ("length", "21 3/4"),
            ("kept", "released"),
            ("note", "a \"good\" <one>"),
        ],
    );
    assert_eq!(corrected.status, 303, "{}", corrected.body);
    let page = server.get("/log");
    assert_eq!(
        page.text(&format!("#{entry} .entry-fish")),
        "21¾ in, releaseda \"good\" <one>"
    );

    let refused = server.post(
        &format!("/log/{id}"),
        &[
            ("kind", "strike"),
            ("at", &form),
            ("length", "21"),
            ("kept", ""),
            ("note", ""),
        ],
    );
    assert_eq!(refused.status, 422);
    assert!(
        refused
            .text("#problem-length")
            .starts_with("Only a fish has a length")
    );

    assert_eq!(
        server.post(&format!("/log/{id}/delete"), &[]).location,
        format!("/log?deleted={id}")
    );
    assert_eq!(count(&server), before);
    assert_eq!(server.post(&format!("/log/{id}/undo"), &[]).status, 303);
    assert_eq!(count(&server), before + 1);
}

/// The hour that the form of an entry shows.
fn page_form(server: &TestServer, id: &str) -> String {
    server
        .get(&format!("/log?edit={id}"))
        .attribute("#at", "value")
}

#[test]
fn a_note_must_say_something() {
    let server = TestServer::start();
    let page = server.post("/log", &[("kind", "note"), ("note", "  ")]);
    assert_eq!(page.status, 422);
    assert_eq!(
        page.text("#problem-note"),
        "Note is empty; write what you saw."
    );
    let long = "x".repeat(600);
    let page = server.post("/log", &[("kind", "note"), ("note", &long)]);
    assert_eq!(page.attribute("#note", "value"), long);
    assert!(page.text("#problem-note").contains("500 characters"));
    assert_eq!(
        server
            .post("/log", &[("kind", "note"), ("note", "Bait at 18 ft")])
            .status,
        303
    );
    assert!(server.get("/log").body.contains("Bait at 18 ft"));
}

#[test]
fn the_line_of_the_tank_is_the_one_that_is_logged_on() {
    let server = TestServer::start();
    let form = [
        ("rig", "6"),
        ("was_rig", "6"),
        ("setup", "2"),
        ("was_setup", "2"),
        ("speed", "1.8"),
        ("out", "90"),
        ("weight", "3"),
        ("lead", "4"),
        ("line", "nylon-12"),
        ("depth", "22"),
    ];
    assert_eq!(server.post("/log/line", &form).location, "/log");
    let page = server.get("/log");
    assert!(
        page.text(".running").contains("1 Double willow"),
        "{}",
        page.text(".running")
    );
    assert!(page.text(".running").contains("90 ft out, 1.8 mph"));
    let back = server.get("/tank?rig=6");
    assert_eq!(back.attribute("#weight", "value"), "3");
    assert_eq!(back.attribute("#lead", "value"), "4");
    let mut wrong = form;
    wrong[4] = ("speed", "quick");
    assert_eq!(server.post("/log/line", &wrong).status, 400);
}

#[test]
fn outings_begin_open_go_and_come_back() {
    let server = TestServer::start();
    let outings = |server: &TestServer| server.get("/today").count("#outing option");
    assert_eq!(outings(&server), 62);
    assert_eq!(server.post("/outings", &[]).status, 303);
    assert_eq!(outings(&server), 63);
    assert!(
        server
            .get("/log")
            .text(".running")
            .contains("1 Tamarin two-hook")
    );
    assert_eq!(server.get("/log").count(".entry"), 0);
    assert_eq!(
        server
            .post("/outings/open", &[("outing", "4"), ("back", "/log")])
            .location,
        "/log"
    );
    assert!(server.get("/today").text(".where").contains("Orrin Sound"));
    assert_eq!(
        server.post("/outings/4/delete", &[]).location,
        "/today?deleted=4"
    );
    assert_eq!(outings(&server), 62);
    assert_eq!(
        server
            .get("/today?deleted=4")
            .count("form[action='/outings/4/undo']"),
        1
    );
    server.post("/outings/4/undo", &[]);
    assert_eq!(outings(&server), 63);
    assert!(server.get("/today").text(".where").contains("Orrin Sound"));
}

#[test]
fn the_last_outing_stays() {
    let server = TestServer::start();
    for id in (1..=62).filter(|id| *id != 6) {
        assert_eq!(
            server.post(&format!("/outings/{id}/delete"), &[]).status,
            303
        );
    }
    assert_eq!(server.post("/outings/6/delete", &[]).status, 400);
    assert_eq!(server.get("/today").status, 200);
}

#[test]
fn units_and_theme_switch() {
    let server = TestServer::start();
    let metric = server.post("/settings/units", &[("back", "/tank?rig=1&out=68")]);
    assert_eq!(metric.location, "/tank");
    let cookie = metric.headers["set-cookie"].to_str().unwrap();
    let cookie = cookie.split(';').next().unwrap();
    let page = server.get_bearing("/today", cookie);
    assert!(page.text("#headline").ends_with("km/h"));
    assert_eq!(page.attribute("#bottom", "value"), "8.2");
    // Units are a device's own: another one sees feet as before.
    assert_eq!(server.get("/today").attribute("#bottom", "value"), "27");
    // What the form shows can be sent back as it stands, by a device whose own units are others.
    let form = conditions(&[
        ("_units", "metric"),
        ("speed", "1.9"),
        ("temperature", "14.4"),
        ("clarity", "2.1"),
        ("fish_from", "6.1"),
        ("fish_to", "7.6"),
        ("bottom", "8.2"),
        ("wanted_depth", "6.7"),
    ]);
    assert_eq!(server.post("/today", &form).status, 303);
    let night = server.post("/settings/theme", &[("back", "//evil.example")]);
    assert_eq!(night.location, "/today");
    let cookie = night.headers["set-cookie"].to_str().unwrap();
    assert!(
        cookie.starts_with("motilis-theme=night") && cookie.contains("HttpOnly"),
        "{cookie}"
    );
}

#[test]
fn an_empty_data_file_is_answered_with_a_sentence() {
    let server = TestServer::start();
    server
        .store
        .write(|c| {
            c.execute_batch("DELETE FROM temperature_readings; DELETE FROM casts; DELETE FROM tracks; DELETE FROM experiments; DELETE FROM rods; DELETE FROM events; DELETE FROM passes; DELETE FROM outings;")
                .unwrap();
            Ok::<_, motilis_store::Error>(())
        })
        .unwrap();
    for path in ["/today", "/tank", "/log"] {
        let page = server.get(path);
        assert_eq!(page.status, 303);
        let start = server.get(&page.location);
        assert_eq!(start.status, 200);
        // The waters are there: one tap begins an outing on one of them.
        assert!(
            start.text("main").contains("Begin on Lake Tamarin"),
            "{path}"
        );
        assert!(!start.text("#door").is_empty());
    }
}

/// An hour of the demo's open day.
fn that_morning() -> jiff::Timestamp {
    "2026-09-05T14:00:00Z".parse().unwrap()
}

/// A fish tapped on a rod, and the number of its entry.
fn fish_on(server: &TestServer, rod: &str) -> String {
    let logged = server.post("/log", &[("kind", "fish"), ("rod", rod)]);
    assert_eq!(logged.status, 303, "{}", logged.body);
    logged
        .location
        .trim_start_matches("/log?logged=")
        .to_owned()
}

#[test]
fn a_length_is_held_against_the_rules_of_its_day() {
    let server = TestServer::start_at(that_morning);
    let id = fish_on(&server, "2");
    let measured = |length: &str, kept: &str| {
        let sent = [("length", length), ("kept", kept), ("_units", "imperial")];
        let done = server.post(&format!("/log/{id}"), &sent);
        server.get(&done.location).text("#rod-2 .notice")
    };
    let over = measured("24", "kept");
    assert!(over.contains("By the rule you entered"), "{over}");
    assert!(
        over.contains("one over it was kept already") && over.contains("5th walleye kept"),
        "{over}"
    );
    // Within a quarter of an inch of 21.7 nobody can tell.
    let close = measured("21 3/4", "released");
    assert!(close.contains("Too close to call"), "{close}");
    let wrong = server.post(&format!("/log/{id}"), &[("length", "huge")]);
    assert_eq!(wrong.status, 422);
    assert!(wrong.text("#problem-length").contains("is not a number"));
}

#[test]
fn rods_go_out_and_come_in_and_their_hours_are_corrected() {
    let server = TestServer::start_at(that_morning);
    let rod = |number: u8| server.get("/log").text(&format!("#rod-{number}"));
    assert!(rod(3).contains("out since"));
    fish_on(&server, "3");
    assert!(rod(3).contains("aboard"), "{}", rod(3));
    let out = server.post("/log/rods/out", &[("rod", "3")]);
    assert_eq!(out.location, "/log?out=3");
    assert!(rod(3).contains("out since 09:00"), "{}", rod(3));
    for (form, status) in [
        (vec![("rod", "9")], 400),
        (vec![("rod", "two")], 400),
        (vec![], 303),
    ] {
        assert_eq!(
            server.post("/log/rods/in", &form).status,
            status,
            "{form:?}"
        );
    }
    let page = server.get("/log");
    let pass = page.attribute(".pass-form", "action");
    let wrong = server.post(
        &pass,
        &[("from", "2026-09-05 12:00"), ("to", "2026-09-05 11:00")],
    );
    assert_eq!(wrong.status, 422);
    assert!(wrong.text(".pass-form").contains("ends before it begins"));
    let right = server.post(
        &pass,
        &[("from", "2026-09-05 06:30"), ("to", "2026-09-05 08:00")],
    );
    assert_eq!(right.status, 303);
    let row = pass.replace("/log/passes/", "#pass-");
    assert!(server.get("/log").text(&row).contains("1 h 30 min"));
    let gone = server.post(&format!("{pass}/delete"), &[]);
    let undo = server
        .get(&gone.location)
        .attribute(".notice form", "action");
    assert!(undo.ends_with("/restore"), "{undo}");
    assert_eq!(server.post(&undo, &[]).status, 303);
    let away = server.post("/log/rods/away", &[("rod", "4"), ("away", "yes")]);
    assert_eq!(away.status, 303);
    assert!(rod(4).contains("put away"));
}

#[test]
fn the_evidence_answers_whatever_it_is_asked() {
    let server = TestServer::start();
    for by in [
        "rig",
        "blade",
        "finish",
        "depth",
        "over_bottom",
        "speed",
        "after_dawn",
        "clarity",
        "temperature",
        "water",
        "lead",
        "bait",
        "nonsense",
    ] {
        for crossed in ["", "after_dawn", by] {
            let page = server.get(&format!(
                "/evidence?fish=all&by={by}&crossed={crossed}&a=0&b=1"
            ));
            assert_eq!(page.status, 200, "{by} × {crossed}");
            assert!(page.count(".rate") > 0, "{by} × {crossed}");
        }
    }
    assert_eq!(server.get("/evidence?a=99&b=x&fish=pike").status, 200);
    let none = server.get("/evidence?fish=chum");
    assert!(none.text("#evidence").contains("a blank hour is evidence"));
    // The demo's truth: of two rigs the one fished early looks better than it is, and the page says how many places tell.
    let page = server.get("/evidence?fish=walleye&by=rig&a=0&b=1");
    assert!(
        page.text("#compared-fair")
            .contains("Within the same outing")
    );
    assert!(TestServer::empty().get("/evidence").status < 500);
}
