//! The box over HTTP: parts, made-up rigs, shopping, files in and out.

use crate::server::TestServer;

const HEADS: &str = "part,style,size,colour,left_count,place\n";

#[test]
fn a_part_is_added_measured_counted_thrown_away_and_back() {
    let server = TestServer::start();
    let form = [
        ("what", "bead/round"),
        ("size", "6"),
        ("colour", "GL"),
        ("left", "40"),
        ("low", "10"),
        ("length", "5.8"),
        ("place", "Tray 4"),
    ];
    let added = server.post("/box/parts/new", &form);
    assert_eq!(added.status, 303, "{}", added.body);
    let page = server.get("/box?q=glow+6+mm");
    assert!(page.body.contains("measured"));
    let id = page.attribute(".lot[data-part=\"272\"]", "data-part");
    let part = server.get(&format!("/box/parts/{id}"));
    assert_eq!(part.attribute("#length", "value"), "5.8");
    assert!(part.text(".part-form").contains("table: 6.00 mm"));
    let counted = server.post(&format!("/box/parts/{id}/count"), &[("left", "4")]);
    let page = server.get(&counted.location);
    assert!(
        page.text(&format!("[data-part='{id}']"))
            .contains("Runs short, 4 left")
    );
    server.post(&page.attribute(".notice form", "action"), &[]);
    assert!(
        server
            .get("/box?tray=bead")
            .text(&format!("[data-part='{id}']"))
            .contains("40 left")
    );
    let gone = server.post(&format!("/box/parts/{id}/delete"), &[]);
    let page = server.get(&gone.location);
    assert_eq!(
        server
            .get("/box?tray=bead")
            .count(&format!("[data-part='{id}']")),
        0
    );
    server.post(&page.attribute(".notice form", "action"), &[]);
    assert_eq!(
        server
            .get("/box?tray=bead")
            .count(&format!("[data-part='{id}']")),
        1
    );
}

#[test]
fn a_caliper_figure_reaches_the_bench() {
    let server = TestServer::start();
    let page = server.get("/bench/1?at=2");
    let blade = page.attribute(".in-hand a.b", "href");
    let form = [
        ("what", "blade/colorado"),
        ("size", "4"),
        ("colour", "BR"),
        ("hammered", "yes"),
        ("length", "29"),
        ("left", "5"),
        ("low", "1"),
    ];
    assert_eq!(server.post(&blade, &form).status, 303);
    let page = server.get("/bench/1?at=2");
    assert!(page.text("svg.bench-drawing").contains("29 mm long"));
    assert!(page.text(".in-hand").contains("measured: length 29.00 mm"));
}

#[test]
fn a_made_up_rig_changes_state_comes_apart_or_is_lost() {
    let server = TestServer::start();
    let form = [("state", "re_tie"), ("place", "Foam board")];
    assert_eq!(server.post("/box/made/1/state", &form).status, 303);
    let page = server.get("/box?tray=made");
    assert!(page.body.contains("Foam board"));
    let before = page.count(".made li");
    let apart = server.post("/box/made/1/dismantle", &[]);
    let page = server.get(&apart.location);
    assert_eq!(page.count(".made li"), before - 1);
    server.post(
        &page.attribute(".notice form", "action"),
        &[("back", "/box")],
    );
    assert_eq!(server.get("/box?tray=made").count(".made li"), before);

    let asked = server.get("/box/made/2/break-off");
    assert!(
        asked
            .text(".returns")
            .contains("Colorado 4, hammered brass")
    );
    let field = asked.attribute(".returns li input", "name");
    let refused = server.post("/box/made/2/break-off", &[(&field, "77")]);
    assert_eq!(refused.status, 422);
    assert!(refused.text(".problem:not(:empty)").contains("give 0 to"));
    let lost = server.post("/box/made/2/break-off", &[(&field, "1")]);
    assert_eq!(server.get(&lost.location).count(".made li"), before - 1);
    assert_eq!(server.post("/box/made/2/dismantle", &[]).status, 404);
}

#[test]
fn what_runs_short_is_listed_for_the_shop() {
    let server = TestServer::start();
    let page = server.get("/box/shopping");
    let rows = page.count("tbody tr");
    assert!(rows > 3);
    let text = server.get("/box/shopping.txt").body;
    assert_eq!(text.lines().count(), rows);
    let csv = server.get("/box/shopping.csv").body;
    assert_eq!(csv.lines().count(), rows + 1);
    assert!(csv.starts_with("buy,part,left,cost"));
}

/// All tables but the settings, where the box of before an import is kept for its undo.
fn without_settings(contents: &str) -> String {
    let end = ["box_before_import", "crew", "open_outing"]
        .iter()
        .filter_map(|name| contents.find(name))
        .min();
    contents[..end.unwrap_or(contents.len())].to_owned()
}

#[test]
fn the_box_goes_out_and_comes_back_unchanged() {
    let server = TestServer::start();
    let before = without_settings(&server.contents());
    for (file, format) in [("/box/export.csv", "csv"), ("/box/export.json", "json")] {
        let text = server.get(file).body;
        let preview = server.upload(
            "/box/import",
            &[("text", &text), ("format", format), ("act", "preview")],
            None,
        );
        assert_eq!(preview.status, 200, "{}", preview.text("main"));
        assert!(preview.text("#import-summary").contains(
            "271 lines: 0 new, 0 more of what lies there, 0 changed, 271 the same, 0 wrong"
        ));
        let all = server.upload(
            "/box/import",
            &[("act", "import"), ("format", format)],
            Some(("box.x", text.as_bytes())),
        );
        assert_eq!(all.status, 303, "{}", all.text("main"));
        assert_eq!(without_settings(&server.contents()), before, "{format}");
    }
}

#[test]
fn a_file_with_one_bad_line_is_shown_and_nothing_of_it_goes_in() {
    let server = TestServer::start();
    let before = server.contents();
    let text = format!(
        "{HEADS}bead,round,6,OR,20,Tray\nbead,round,-6,OR,20,Tray\nbead,round,6,OR,20,=2+2\n"
    );
    let page = server.upload(
        "/box/import",
        &[("act", "import")],
        Some(("box.csv", text.as_bytes())),
    );
    assert_eq!(page.status, 422);
    assert!(
        page.text("#import-summary")
            .contains("3 lines: 0 new, 1 more of what lies there, 0 changed, 0 the same, 2 wrong")
    );
    let wrong = page.text("tbody");
    assert!(
        wrong.contains("3cannot be read") || wrong.contains("3 cannot be read"),
        "{wrong}"
    );
    assert!(
        wrong.contains("size: size -6") && wrong.contains("formula"),
        "{wrong}"
    );
    assert_eq!(page.count("#import-all"), 0);
    assert_eq!(server.contents(), before);
    let mended = text.replace("-6", "5").replace("=2+2", "Tray");
    let preview = server.upload(
        "/box/import",
        &[("text", &mended), ("act", "preview")],
        None,
    );
    assert_eq!(preview.count("#import-all"), 1);
    let all = server.upload("/box/import", &[("text", &mended), ("act", "import")], None);
    assert_eq!(all.status, 303);
    let page = server.get(&all.location);
    assert!(page.text("#box-head").contains("271 parts"));
    // All of it can be taken back, once.
    let undo = page.attribute(".notice form", "action");
    assert!(
        server
            .get(&server.post(&undo, &[]).location)
            .text(".notice")
            .contains("Undone")
    );
    assert!(server.get("/box").text("#box-head").contains("271 parts"));
    assert!(
        server
            .get(&server.post(&undo, &[]).location)
            .text(".notice")
            .contains("cannot be undone")
    );
}

#[test]
fn files_that_are_none_are_refused_whole() {
    let server = TestServer::start();
    let before = server.contents();
    let cases: [(&[u8], &str); 5] = [
        (b"name;count\n1;2\n", "there is no field"),
        (b"\x89PNG\r\n\x1a\n\xff\xfe", "is no text"),
        (
            b"part,style,size\nbead,\"round,6\n",
            "a quote is opened and never closed",
        ),
        (b"", "the file is empty"),
        (b"{\"parts\": 7}", "there is no field"),
    ];
    for (bytes, says) in cases {
        let page = server.upload(
            "/box/import",
            &[("act", "import")],
            Some(("box.csv", bytes)),
        );
        assert_eq!(page.status, 422, "{says}");
        assert!(
            page.text("#refused").contains(says),
            "{}",
            page.text("#refused")
        );
    }
    let huge = vec![b'a'; 12 << 20];
    let page = server.upload(
        "/box/import",
        &[("act", "import")],
        Some(("box.csv", &huge)),
    );
    assert_eq!(page.status, 413);
    assert!(page.text("main").contains("at most 4 MB"));
    assert_eq!(server.contents(), before);
}

#[test]
fn a_finish_may_lie_under_lacquer_and_a_size_have_its_own_name() {
    let server = TestServer::start();
    let blade = |over: &str, colour: &str| {
        vec![
            ("what".to_owned(), "blade/indiana".to_owned()),
            ("size".to_owned(), "4".to_owned()),
            ("colour".to_owned(), colour.to_owned()),
            ("over".to_owned(), over.to_owned()),
            ("size_name".to_owned(), "fat four".to_owned()),
            ("left".to_owned(), "5".to_owned()),
            ("low".to_owned(), "1".to_owned()),
        ]
    };
    let send = |form: Vec<(String, String)>| {
        let form: Vec<(&str, &str)> = form.iter().map(|(k, v)| (k.as_str(), v.as_str())).collect();
        server.post("/box/parts/new", &form)
    };
    let refused = send(blade("RD", "WH"));
    assert_eq!(refused.status, 422);
    assert!(refused.text(".notice").contains("lacquer lies over metal"));
    assert_eq!(refused.attribute("#size_name", "value"), "fat four");
    assert_eq!(send(blade("RD", "NI")).status, 303);
    let page = server.get("/box");
    assert!(
        page.text("main").contains("“fat four”"),
        "{}",
        page.text("main")
    );
    assert!(page.text("main").contains("nickel under red lacquer"));
    let csv = server.get("/box/export.csv").body;
    assert!(
        csv.lines().any(|line| line.ends_with(",RD,,fat four")),
        "{csv}"
    );
}
