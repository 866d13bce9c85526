//! Twenty years of a log and a box of thousands: no page grows with them, and whatever a list does not show is found by its words.

use crate::server::TestServer;
use rstest::rstest;
use std::sync::OnceLock;

/// 2 000 outings, 100 000 entries, 10 000 parts, 5 000 rigs: filled once for the whole run.
fn many() -> &'static TestServer {
    static MANY: OnceLock<TestServer> = OnceLock::new();
    MANY.get_or_init(|| {
        let server = TestServer::start();
        motilis_demo::multiply(&server.store).unwrap();
        server
    })
}

#[test]
fn no_page_has_more_than_400_kb() {
    let server = many();
    for path in include_str!("../pages.txt").lines().chain([
        "/box",
        "/box?tray=low",
        "/box/shopping",
        "/river",
        "/river/rigs",
        "/log",
        "/evidence",
        "/tank?rig=4000",
        "/spread/1",
    ]) {
        let page = server.get(path);
        assert!(
            page.status < 400 || path == "/no-such-page",
            "{path}: {}",
            page.status
        );
        assert!(page.body.len() < 400_000, "{path}: {}", page.body.len());
    }
}

#[test]
fn today_ranks_all_and_finds_any_by_its_name() {
    let server = many();
    let page = server.get("/today");
    assert!(
        page.text("#headline").contains("nearest work at"),
        "{}",
        page.text("#headline")
    );
    assert!(
        page.text(".find-form")
            .contains("All 5040 rigs of the box were ranked")
    );
    assert!(page.count(".pick") >= 2, "a call sheet as ever");
    let page = server.get("/today?find=thumper+77");
    assert!(
        page.text(".find-form").contains("1 found"),
        "{}",
        page.text(".find-form")
    );
    assert_eq!(page.count("li.call"), 1);
    let page = server.get("/today?find=mermaid");
    assert!(
        page.text(".find-form")
            .contains("No rig of the box has these words")
    );
}

#[rstest]
#[case("/find/rigs?q=thumper+77", 1)]
#[case("/find/rigs?q=", 80)]
#[case("/find/rigs?q=mermaid", 0)]
#[case("/find/outings?q=jun+2019", 1)]
fn what_a_list_does_not_show_is_found(#[case] path: &str, #[case] least: usize) {
    let found: Vec<(String, String)> = serde_json::from_str(&many().get(path).body).unwrap();
    assert!(
        found.len() >= least && found.len() <= 80,
        "{path}: {}",
        found.len()
    );
}

#[test]
fn a_long_tray_is_looked_through_piece_by_piece() {
    let server = many();
    let page = server.get("/box?tray=bead");
    let says = page.text(".window b");
    assert!(says.starts_with("1 to 80 of "), "{says}");
    let after = page.attribute(".window a", "href");
    let next = server.get(&after);
    assert!(next.text(".window b").starts_with("81 to 160 of "));
    assert_eq!(next.count(".lot"), 80);
    let last = server.get("/box?tray=bead&from=999999");
    assert!(last.count(".lot") <= 80);
    assert_eq!(last.count(".window a"), 2, "above and below");
}

#[test]
fn a_long_day_is_looked_through_piece_by_piece() {
    let server = TestServer::start();
    for n in 0..170 {
        let note = format!("seen {n:03}");
        server.post("/log", &[("kind", "note"), ("note", &note)]);
    }
    let page = server.get("/log?only=note");
    let says = page.text(".window b");
    assert!(says.starts_with("1 to 80 of 17"), "{says}");
    assert!(page.text(".entries").contains("seen 169"), "the newest");
    let next = server.get(&page.attribute(".window a", "href"));
    assert!(next.text(".window b").starts_with("81 to 160 of 17"));
    assert_eq!((next.count(".entry"), next.count(".window a")), (80, 4));
    // What is corrected is looked at, wherever it stands.
    let last = server.get("/log?only=note&from=160");
    let edit = last.attribute(".entry:last-child a.b", "href");
    let edited = server.get(&edit);
    assert_eq!(edited.count(".entry-form"), 1, "{edit}");
    let entry = edit.split(['=', '#']).nth(1).unwrap();
    let at = edited.attribute("#at", "value");
    let form = [("kind", "note"), ("at", at.as_str()), ("note", "corrected")];
    let saved = server.post(&format!("/log/{entry}"), &form);
    assert_eq!(saved.status, 303, "{}", saved.body);
    let after = server.get(saved.location.split('#').next().unwrap());
    assert!(after.text(".entries").contains("corrected"));
    assert!(after.text(".window b").starts_with("161 to "));
    // Where an entry was thrown away, and what is taken back out, too.
    let gone = server.post(&format!("/log/{entry}/delete"), &[]);
    let around = server.get(&gone.location);
    assert!(around.text(".window b").starts_with("161 to "));
    assert!(!around.text(".entries").contains("corrected"));
    let back = server.post(&format!("/log/{entry}/undo"), &[]);
    assert_eq!(back.location, format!("/log?at={entry}#entry-{entry}"));
}
