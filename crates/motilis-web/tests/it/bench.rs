//! The bench over HTTP: edits, mends, versions, building, the sheet.

use crate::server::{Page, TestServer};
use rstest::rstest;

/// Number of a demo rig.
fn rig(server: &TestServer, name: &str) -> String {
    let page = server.get("/bench/1");
    let wanted = format!("{name}<");
    let mut options = page
        .body
        .split("<option value=\"")
        .filter_map(|rest| rest.split_once('"'));
    let is_it = |words: &str| {
        words
            .split_once('>')
            .is_some_and(|(_, words)| words.starts_with(&wanted))
    };
    let found = options.find(|(_, words)| is_it(words));
    found.expect("the demo has that rig").0.to_owned()
}

fn edit(server: &TestServer, rig: &str, form: &[(&str, &str)]) -> Page {
    let answer = server.post(&format!("/bench/{rig}/edit"), form);
    assert_eq!(answer.status, 303, "{}", answer.body);
    server.get(&answer.location)
}

fn level(page: &Page, check: &str) -> String {
    page.text(&format!("[data-check={check}] .ck-mark"))
}

#[test]
fn too_few_beads_are_found_and_mended_by_the_proposal() {
    let server = TestServer::start();
    let rig = rig(&server, "Two beads short");
    let page = server.get(&format!("/bench/{rig}"));
    assert_eq!(level(&page, "tip"), "Fix");
    assert!(
        page.text("[data-check=tip]")
            .contains("Blade fouls the front hook")
    );
    assert_eq!(page.count("[data-check=tip] .mend"), 5);
    let at = page.attribute("[data-check=tip] input[name=at]", "value");
    let page = edit(
        &server,
        &rig,
        &[
            ("edit", "mend"),
            ("check", "tip"),
            ("at", &at),
            ("mend", "0"),
        ],
    );
    assert_eq!(level(&page, "tip"), "Good");
    // The same mend again: the page has moved on.
    let stale = server.post(
        &format!("/bench/{rig}/edit"),
        &[
            ("edit", "mend"),
            ("check", "tip"),
            ("at", &at),
            ("mend", "0"),
        ],
    );
    assert_eq!(stale.status, 422);
    assert!(stale.text(".notice").contains("mended already"));
    server.post(&format!("/bench/{rig}/undo"), &[]);
    assert_eq!(level(&server.get(&format!("/bench/{rig}")), "tip"), "Fix");
    server.post(&format!("/bench/{rig}/redo"), &[]);
    assert_eq!(level(&server.get(&format!("/bench/{rig}")), "tip"), "Good");
}

#[test]
fn parts_are_moved_counted_doubled_and_taken_off() {
    let server = TestServer::start();
    let order = |page: &Page| page.text(".strip ol");
    let page = edit(&server, "1", &[("edit", "more"), ("at", "4")]);
    assert!(
        order(&page).contains("6 × 6 mm bead, chartreuse"),
        "{}",
        order(&page)
    );
    let page = edit(
        &server,
        "1",
        &[("edit", "count"), ("at", "4"), ("count", "3")],
    );
    assert!(order(&page).contains("3 × 6 mm bead"));
    let page = edit(&server, "1", &[("edit", "ahead"), ("at", "4")]);
    assert!(
        order(&page).contains("3 × 6 mm bead, chartreuse4 mm bead, red"),
        "{}",
        order(&page)
    );
    let page = edit(&server, "1", &[("edit", "move"), ("at", "3"), ("to", "0")]);
    assert!(
        order(&page).starts_with("3 × 6 mm bead"),
        "{}",
        order(&page)
    );
    let page = edit(&server, "1", &[("edit", "duplicate"), ("at", "0")]);
    assert!(
        order(&page).starts_with("3 × 6 mm bead, chartreuse6 mm bead"),
        "{}",
        order(&page)
    );
    let page = edit(&server, "1", &[("edit", "remove"), ("at", "0")]);
    assert!(order(&page).starts_with("6 mm bead"), "{}", order(&page));
    let refused = server.post("/bench/1/edit", &[("edit", "fewer"), ("at", "0")]);
    assert_eq!(refused.status, 422);
    assert!(
        refused
            .text(".notice")
            .contains("to have none, take the part off")
    );
}

#[rstest]
#[case("3 1/2 in", "3½ in, 88.9 mm")]
#[case("95", "3¾ in, 95 mm")]
#[case("9.1 cm", "3 5/8 in, 91 mm")]
fn a_measure_is_typed_in_any_unit(#[case] typed: &str, #[case] shown: &str) {
    let server = TestServer::start();
    let form = [
        ("edit", "set"),
        ("setting", "hook_spacing"),
        ("hook_spacing", typed),
    ];
    let page = edit(&server, "1", &form);
    assert_eq!(page.text(".dim-shown"), shown);
}

#[test]
fn a_measure_that_cannot_be_stays_as_typed_with_a_sentence() {
    let server = TestServer::start();
    let form = [
        ("edit", "set"),
        ("setting", "hook_spacing"),
        ("hook_spacing", "9 ft"),
    ];
    let page = server.post("/bench/1/edit", &form);
    assert_eq!(page.status, 422);
    assert!(
        page.text("#problem-hook_spacing")
            .contains("too large; give 5 mm to 400 mm")
    );
    assert_eq!(page.attribute("#hook_spacing", "value"), "9 ft");
    assert_eq!(page.count("details.measures[open]"), 1);
}

#[test]
fn a_new_rig_of_every_kind_starts_with_nothing_to_fix() {
    let server = TestServer::start();
    let kinds: Vec<String> = server
        .get("/bench/new")
        .body
        .split("name=\"kind\" value=\"")
        .skip(1)
        .map(|rest| rest.split('"').next().unwrap().to_owned())
        .collect();
    assert_eq!(kinds.len(), 14);
    for kind in &kinds {
        let form = [
            ("name", "Try"),
            ("kind", kind),
            ("fish", "walleye"),
            ("start", "working"),
        ];
        let made = server.post("/bench/new", &form);
        assert_eq!(made.status, 303, "{kind}");
        let page = server.get(&made.location);
        assert_eq!(page.text("#tally-fix"), "0", "{kind}");
        assert!(page.count(".piece") >= 3, "{kind}");
        assert!(page.count(".order li") >= 4, "{kind}");
    }
    let refused = server.post("/bench/new", &[("name", " "), ("kind", "crawler_harness")]);
    assert_eq!(refused.status, 422);
    assert!(refused.text("#problem-name").contains("Name is empty"));
}

#[test]
fn an_empty_data_file_starts_at_the_bench_with_the_first_rig() {
    let server = TestServer::empty();
    assert_eq!(server.get("/bench").location, "/bench/new");
    let form = [
        ("name", "First"),
        ("kind", "crawler_harness"),
        ("start", "empty"),
    ];
    let made = server.post("/bench/new", &form);
    let page = server.get(&made.location);
    assert!(page.text(".strip .empty").contains("Start with a blade"));
    assert_eq!(page.text("#tally-fix"), "2");
    // No box yet: the mends take trade sizes.
    for check in ["hook", "blade"] {
        let page = edit(
            &server,
            "1",
            &[("edit", "mend"), ("check", check), ("mend", "0")],
        );
        assert!(page.count(".piece") > 0);
    }
    assert_eq!(server.get("/box").status, 200);
}

#[test]
fn steps_are_ticked_off_and_stay_so() {
    let server = TestServer::start();
    assert_eq!(
        server
            .post("/bench/1/tick", &[("step", "0"), ("done", "true")])
            .status,
        303
    );
    let page = server.get("/bench/1");
    assert!(page.text("#order-head").contains("1 of 11 done"));
    assert_eq!(page.attribute("#step-1", "aria-pressed"), "true");
    assert_eq!(page.count(".balloon-done"), 0, "cutting is about no part");
    server.post("/bench/1/tick", &[("step", "1"), ("done", "true")]);
    assert_eq!(server.get("/bench/1").count(".balloon-done"), 1);
    server.post("/bench/1/tick", &[("step", "0"), ("done", "false")]);
    assert!(
        server
            .get("/bench/1")
            .text("#order-head")
            .contains("1 of 11 done")
    );
}

#[test]
fn building_three_empties_the_box_and_undo_fills_it() {
    let server = TestServer::start();
    let rig = rig(&server, "Smallmouth harness");
    let before = server.contents();
    let built = server.post(
        &format!("/bench/{rig}/build"),
        &[("n", "3"), ("place", "Winder 9")],
    );
    assert_eq!(built.status, 303, "{}", built.text(".notice"));
    let page = server.get(&built.location);
    assert!(page.text(".notice").contains("Built"));
    assert!(server.get("/box?tray=made").body.contains("Winder 9"));
    let undo = page.attribute(".notice form", "action");
    server.post(&undo, &[("back", "/bench/1")]);
    let stock = |contents: &str| {
        contents
            .lines()
            .filter(|line| line.contains("Tray"))
            .collect::<Vec<_>>()
            .join("\n")
    };
    assert_eq!(stock(&server.contents()), stock(&before));
    let page = server.get(&format!("/bench/{rig}?n=6"));
    assert!(
        page.text(".totals").contains("Cut 6 pieces of 1 8"),
        "{}",
        page.text(".totals")
    );
    let short = server.post(
        &format!("/bench/{rig}/build"),
        &[("n", "90"), ("place", "")],
    );
    assert_eq!(short.status, 422);
    assert!(
        short
            .text(".notice")
            .contains("Not built, the box runs short")
    );
}

#[test]
fn a_variant_is_compared_part_by_part() {
    let server = TestServer::start();
    let copy = server.post("/bench/1/duplicate", &[]).location;
    let copy = copy.trim_start_matches("/bench/").to_owned();
    edit(&server, &copy, &[("edit", "remove"), ("at", "0")]);
    let page = server.get(&format!("/bench/compare?left=1&right={copy}"));
    assert!(page.text("thead").contains("Tamarin two-hook 2"));
    assert!(page.count("tr.differs") > 3);
    assert!(page.count("svg[role=img]") == 2);
    // Thrown away, it can be taken back.
    let gone = server.post(&format!("/bench/{copy}/delete"), &[]);
    // It stays at the bench, on another rig.
    let next = server.get(&gone.location).location;
    let page = server.get(&next);
    assert!(next.starts_with("/bench/") && page.text("#bench-notice").contains("Rig thrown away"));
    server.post(&page.attribute("#bench-notice form", "action"), &[]);
    assert!(server.get("/bench/1").body.contains("Tamarin two-hook 2"));
}

#[rstest]
#[case("a4", "841.8")]
#[case("letter", "792")]
fn a_sheet_comes_as_a_page_and_as_pdf(#[case] paper: &str, #[case] width: &str) {
    let server = TestServer::start();
    let page = server.get(&format!("/bench/1/sheet?paper={paper}"));
    assert_eq!(page.count(&format!(".tying-sheet-{paper}")), 1);
    let pdf = server.bytes(&format!("/bench/1/sheet.pdf?paper={paper}"));
    assert!(pdf.starts_with(b"%PDF"));
    assert!(String::from_utf8_lossy(&pdf).contains(width));
    let refused = server.get("/bench/1/sheet?paper=legal");
    assert_eq!(refused.status, 400);
    assert!(refused.text("main").contains("a4 and letter"));
}

#[test]
fn measured_by_eye_only_failures_are_shown() {
    let server = TestServer::start();
    let rig = rig(&server, "Tight clevis");
    server.post("/bench/1/measuring", &[]);
    let page = server.get(&format!("/bench/{rig}"));
    assert_eq!((page.count(".ck"), page.count(".ck-cannot")), (1, 1));
    server.post("/bench/1/measuring", &[]);
    assert!(server.get(&format!("/bench/{rig}")).count(".ck") > 8);
}
