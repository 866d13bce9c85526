//! River, by its pages: runs typed in and kept, casts found, looked at and logged, what is refused.

use crate::server::{Page, TestServer};
use rstest::rstest;

fn boat() -> TestServer {
    TestServer::start_at(|| "2026-09-12T16:00:00Z".parse().unwrap())
}

fn follow(server: &TestServer, sent: Page) -> Page {
    assert_eq!(sent.status, 303, "{}", sent.body);
    server.get(sent.location.split('#').next().unwrap())
}

/// Sends a form as the page filled it in.
fn send(server: &TestServer, path: &str, form: &[(String, String)]) -> Page {
    let form: Vec<(&str, &str)> = form
        .iter()
        .map(|(name, value)| (name.as_str(), value.as_str()))
        .collect();
    server.post(path, &form)
}

/// The same boat with an outing open on its river.
fn on_the_river() -> TestServer {
    let server = boat();
    follow(&server, server.post("/outings", &[("water", "1")]));
    server
}

const ALDER: [(&str, &str); 17] = [
    ("name", "Alder bend"),
    ("bank", "left"),
    ("bed", "gravel"),
    ("run_length", "60 ft"),
    ("stand", "4 ft"),
    ("growth", "0"),
    ("offset_0", "0"),
    ("depth_0", "1"),
    ("surface_0", "slow walk"),
    ("offset_1", "20"),
    ("depth_1", "4.5"),
    ("surface_1", "30 ft in 8 s"),
    ("offset_2", "40"),
    ("depth_2", "1.5"),
    ("surface_2", "1 mph"),
    ("mark_0", "boulder"),
    ("along_0", "25"),
];

fn alder(change: &[(&'static str, &'static str)]) -> Vec<(&'static str, &'static str)> {
    let mut form: Vec<(&str, &str)> = ALDER.to_vec();
    form.push(("across_0", "22"));
    for (name, value) in change {
        form.retain(|(known, _)| known != name);
        form.push((name, value));
    }
    form
}

#[test]
fn a_run_is_typed_in_by_a_leaf_and_kept() {
    let server = boat();
    let kept = follow(&server, server.post("/waters/1/runs", &alder(&[])));
    assert!(kept.text("#run-head").contains("Alder bend"));
    assert_eq!(kept.value("#surface_1"), "2.6");
    assert!(
        kept.text("#discharge-check")
            .contains("cfs flow through it")
    );
    let list = server.get("/waters/1");
    assert!(list.text("#runs").contains("Alder bend"));
    // From the left bank the water goes to the left of who looks across.
    let river = server.get("/river?run=4");
    assert!(river.text("#river-live").contains("downstream ←"));
    // A gauge brings the speeds up, and nothing else.
    let mut form = alder(&[]);
    form.push(("discharge", "700 cfs"));
    let higher = follow(&server, server.post("/runs/4", &form));
    assert!(higher.text("#discharge-check").starts_with("700 cfs"));
    assert_eq!(higher.value("#depth_1"), "4.5");
    // Thrown away and taken back; casts and pages that name it go on.
    let gone = follow(&server, server.post("/runs/4/delete", &[]));
    assert!(gone.text(".notice").contains("Run thrown away"));
    assert_eq!(server.get("/river?run=4").status, 200);
    let back = follow(&server, server.post("/runs/4/restore", &[]));
    assert!(back.text("#run-head").contains("Alder bend"));
}

#[rstest]
#[case(("name", " "), "#problem-name", "needs a name")]
#[case(("depth_1", "0"), "#problem-depth_1", "too small")]
#[case(("surface_1", "12 mph"), "#problem-surface_1", "too large")]
#[case(("surface_1", "quick"), "#problem-surface_1", "walking pace")]
#[case(("surface_1", ""), "#problem-surface_1", "write a speed")]
#[case(("offset_2", "10"), "#run-form", "do not follow each other")]
#[case(("along_0", "90"), "#run-form", "outside the run")]
#[case(("discharge", "a lot"), "#problem-discharge", "not a number")]
#[case(("stand", "30 ft"), "#problem-stand", "half across")]
fn a_run_that_cannot_be_comes_back_as_typed(
    #[case] change: (&'static str, &'static str),
    #[case] beside: &str,
    #[case] says: &str,
) {
    let server = boat();
    let refused = server.post("/waters/1/runs", &alder(&[change]));
    assert_eq!(refused.status, 422, "{}", refused.body);
    let sentence = refused.text(beside);
    assert!(sentence.contains(says), "{sentence}");
    assert_eq!(refused.value(&format!("[name={}]", change.0)), change.1);
}

#[test]
fn casts_are_ticked_off_and_a_strike_goes_into_the_log() {
    let server = on_the_river();
    // Trolling rods stay at home.
    assert_eq!(server.get("/log").count(".rod"), 0);
    let mut page = server.get("/river?run=1&stand_along=30&lie=mark-0");
    assert_eq!(page.count(".cast-grid .cell-done"), 0);
    assert!(page.text(".casting-next").contains("Be ready"));
    for made in 1..=3 {
        let form = page.form(".casting-form");
        page = follow(&server, send(&server, "/river/cast", &form));
        assert_eq!(page.count(".cast-grid .cell-done"), made);
    }
    assert!(
        page.text(".casting-next")
            .contains("3 of 9 casts made here")
    );
    assert!(!page.text(".casting-next").contains("Be ready"));
    let mut form = page.form(".casting-form");
    form.retain(|(name, _)| name != "bite");
    form.push(("bite".into(), "strike".into()));
    let struck = follow(&server, send(&server, "/river/cast", &form));
    assert!(struck.text(".notice").contains("Strike logged"));
    let log = server.get("/log");
    assert!(
        log.text("main")
            .contains("spinner in Boulder run, 45 up 51 ft, at the boulder"),
        "{}",
        log.text("main")
    );
    assert!(
        log.text("main")
            .contains("4 casts logged, 1 of them with a bite")
    );
    let told = server.get("/evidence?fish=steelhead");
    assert!(told.text("#by-cast").contains("per 100 casts ("));
    let casts = server.get("/log/files/casts.csv").body;
    let last = casts.lines().last().unwrap();
    assert!(
        last.contains("Boulder run") && !last.ends_with(','),
        "{last}"
    );
    // Taken back, cast and entry with it.
    let undo = struck.attribute(".notice form", "action");
    server.post(&undo, &[("back", "/river")]);
    let after = server.get("/river?run=1&stand_along=30");
    assert_eq!(after.count(".cast-grid .cell-done"), 3);
    assert!(!server.get("/log").text("main").contains("in Boulder run"));
}

#[test]
fn the_same_tap_twice_is_one_cast() {
    let server = on_the_river();
    let page = server.get("/river?run=1");
    let mut form = page.form(".casting-form");
    form.retain(|(name, _)| name != "_act");
    form.push(("_act".into(), "tap-1".into()));
    for _ in 0..2 {
        follow(&server, send(&server, "/river/cast", &form));
    }
    assert_eq!(server.get("/river?run=1").count(".cast-grid .cell-done"), 1);
}

#[test]
fn two_steps_down_begin_a_new_grid_and_the_bed_stays_covered() {
    let server = on_the_river();
    let page = server.get("/river?run=1&stand_along=30");
    let page = follow(
        &server,
        send(&server, "/river/cast", &page.form(".casting-form")),
    );
    assert!(page.count(".wide-only .covered") > 3);
    let steps = page.attribute("#two-steps", "href");
    let next = server.get(&steps);
    assert_eq!(next.value("#stand_along"), "40");
    assert_eq!(next.count(".cast-grid .cell-done"), 0);
    assert!(next.count(".wide-only .covered") > 3);
    let end = server.get("/river?run=1&stand_along=129");
    assert_eq!(end.count("#two-steps"), 0);
}

#[test]
fn the_best_cast_for_a_boulder_is_found_and_said() {
    let server = on_the_river();
    let found = server.get("/river/best?run=1&stand_along=30&lie=mark-0");
    let page = follow(&server, found);
    assert!(
        page.text(".notice").contains("Found"),
        "{}",
        page.text(".notice")
    );
    assert!(page.text("#cast-says").contains("within reach of the lie"));
    assert_eq!(page.count("#cast-says.state-works"), 1);
    // Out of reach it says so.
    let far = server.get("/river/best?run=1&stand_along=0&lie=mark-3");
    let page = follow(&server, far);
    assert!(
        page.text(".notice")
            .contains("No cast from here reaches it")
    );
    let ranked = server.get("/river/rigs?run=1&stand_along=30&lie=mark-0");
    assert!(ranked.count("#ranked .tried li") > 5);
    assert!(
        ranked
            .text("#ranked")
            .contains("common practice, no source")
    );
}

#[rstest]
#[case("distance=900", "#problem-distance")]
#[case("distance=400&cast_angle=90", "#problem-distance")]
#[case("handle=-1&cast_angle=90&distance=30", "#problem-handle")]
#[case("handle=9", "#problem-handle")]
#[case("sink=fast", "#problem-sink")]
#[case("stand_along=500", "#problem-stand_along")]
#[case("stand=40", "#problem-stand")]
#[case("cast_angle=200&distance=30", "#problem-cast_angle")]
fn a_cast_that_cannot_be_is_said_beside_its_field(#[case] query: &str, #[case] beside: &str) {
    let server = boat();
    let page = server.get(&format!("/river?run=1&{query}"));
    assert_eq!(page.status, 422);
    assert!(page.text(beside).len() > 10, "{}", page.text(beside));
    assert!(page.count("#cast-form") == 1);
}

/// Whatever stands in an address, a page answers.
#[rstest]
#[case("run=99&rig=99&lie=mark-99&at=x,y&g=up&held=sideways")]
#[case("run=1&lie=at&at=1e999,nan")]
#[case("run=1&lie=at")]
#[case("g=up-far&cast_angle=&distance=")]
#[case("done=%3Cscript%3E&cast=x")]
fn nonsense_in_an_address_is_no_trap(#[case] query: &str) {
    let server = boat();
    let page = server.get(&format!("/river?{query}"));
    assert_eq!(page.status, 200, "{}", page.body);
    assert!(!page.body.contains("<script>alert"));
    for other in ["best", "rigs"] {
        let status = server.get(&format!("/river/{other}?{query}")).status;
        assert!([200, 303].contains(&status), "{other}: {status}");
    }
}

#[test]
fn gear_and_ways_are_kept_and_said_beside_the_field() {
    let server = boat();
    let page = server.get("/river");
    let mut form = page.form("#gear-form");
    form.retain(|(name, _)| name != "take_up");
    form.push(("take_up".into(), "2 in".into()));
    let refused = send(&server, "/river/gear", &form);
    assert_eq!(refused.status, 422);
    assert!(refused.text("#problem-take_up").contains("too small"));
    form.retain(|(name, _)| name != "take_up");
    form.push(("take_up".into(), "24 in".into()));
    let kept = follow(&server, send(&server, "/river/gear", &form));
    assert_eq!(kept.value("#take_up"), "24");
    let set = [
        ("school", "upstream"),
        ("order", "quiet_first"),
        ("back", "/river"),
    ];
    let set = follow(&server, server.post("/river/ways", &set));
    assert_eq!(set.count(".cast-grid li"), 3);
    assert!(set.text(".order").contains("bait under a float 0 of 8"));
}

/// On a lake's day the river can be looked at, and says where casts are logged; without a river it says what to add.
#[test]
fn the_first_page_is_no_dead_end() {
    let server = boat();
    let page = server.get("/river");
    assert!(
        page.text("#casting")
            .contains("Begin an outing on Cassel River")
    );
    let empty = TestServer::empty();
    assert_eq!(empty.get("/river").status, 303);
}
