//! Who may change something, and what the browser is told.

use crate::server::TestServer;
use rstest::rstest;

#[rstest]
#[case::foreign_host(&[("host", "evil.example")], 403)]
#[case::rebound_host(&[("host", "127.0.0.1.evil.example")], 403)]
#[case::foreign_origin(&[("origin", "https://evil.example")], 403)]
#[case::null_origin(&[("origin", "null")], 403)]
#[case::other_port(&[("origin", "http://127.0.0.1:1")], 403)]
#[case::cross_site(&[("sec-fetch-site", "cross-site")], 403)]
#[case::named_host(&[("host", "heron.local"), ("origin", "http://heron.local")], 303)]
#[case::a_script(&[], 303)]
fn a_change_is_taken_from_our_own_pages_only(
    #[case] headers: &[(&str, &str)],
    #[case] status: u16,
) {
    let server = TestServer::start();
    let before = server.contents();
    let mut all = vec![("content-type", "application/x-www-form-urlencoded")];
    all.extend(headers);
    let page = server.send("/log", &all, b"kind=strike");
    assert_eq!(page.status, status, "{}", page.body);
    assert_eq!(server.contents() == before, status == 403);
    if status == 403 {
        assert!(page.text("h1").contains("Not from there"));
    }
}

#[test]
fn nothing_is_told_under_a_foreign_name() {
    let server = TestServer::start();
    let refused = server.get_as("evil.example", "/log");
    assert_eq!(refused.status, 403);
    assert!(!refused.body.contains("Tamarin"));
    assert_eq!(server.get_as("heron.local:8620", "/log").status, 200);
}

#[test]
fn every_change_has_the_guard() {
    let server = TestServer::start();
    let before = server.contents();
    for path in [
        "/today",
        "/log",
        "/log/line",
        "/log/1",
        "/log/1/delete",
        "/log/1/undo",
        "/outings",
        "/outings/open",
        "/outings/1/delete",
        "/outings/1/undo",
        "/settings/theme",
        "/settings/units",
        "/bench/new",
        "/bench/1/edit",
        "/bench/1/undo",
        "/bench/1/redo",
        "/bench/1/tick",
        "/bench/1/rename",
        "/bench/1/setup",
        "/bench/1/measuring",
        "/bench/1/duplicate",
        "/bench/1/delete",
        "/bench/1/restore",
        "/bench/1/build",
        "/box/import",
        "/box/import/undo",
        "/box/parts/new",
        "/box/parts/1",
        "/box/parts/1/count",
        "/box/parts/1/delete",
        "/box/parts/1/restore",
        "/box/made/1/state",
        "/box/made/1/dismantle",
        "/box/made/1/break-off",
        "/box/deeds/1/undo",
        "/api/v1/solve/blade",
    ] {
        let page = server.send(
            path,
            &[("origin", "https://evil.example")],
            b"kind=strike&outing=1",
        );
        assert_eq!(page.status, 403, "{path}");
    }
    assert_eq!(server.contents(), before);
}

/// Every page there is.
const PAGES: [&str; 12] = [
    "/today",
    "/tank",
    "/log",
    "/bench/1?at=2",
    "/bench/new",
    "/bench/compare",
    "/bench/1/sheet",
    "/box",
    "/box?tray=made",
    "/box/parts/1",
    "/box/import",
    "/box/shopping",
];

#[test]
fn pages_run_nothing_but_what_ships() {
    let server = TestServer::start();
    for path in PAGES.into_iter().chain(["/nowhere"]) {
        let page = server.get(path);
        let policy = page.headers["content-security-policy"].to_str().unwrap();
        assert!(
            policy.contains("default-src 'none'") && !policy.contains("unsafe"),
            "{policy}"
        );
        assert_eq!(page.headers["x-content-type-options"], "nosniff");
        assert_eq!(
            page.count("script:not([src])"),
            0,
            "{path}: an inline script"
        );
        for attribute in ["style", "onclick", "onload", "onchange", "hx-on", "hx-vals"] {
            assert_eq!(
                page.count(&format!("[{attribute}]")),
                0,
                "{path}: {attribute}"
            );
        }
        assert!(
            // An SVG names its own language by an address nobody asks for.
            !page
                .body
                .replace("http://www.w3.org/2000/svg", "")
                .contains("http://")
                && !page.body.contains("https://"),
            "{path}"
        );
    }
}

#[test]
fn every_drawing_says_in_words_what_it_shows() {
    let server = TestServer::start();
    for path in [
        "/today",
        "/tank",
        "/log",
        "/bench/1",
        "/bench/compare",
        "/bench/1/sheet",
    ] {
        let page = server.get(path);
        let drawings = page.count("main svg:not([aria-hidden])");
        assert!(drawings > 0, "{path}");
        assert_eq!(
            page.count("main svg[role][aria-label]:not([aria-label=''])"),
            drawings,
            "{path}"
        );
    }
}

#[test]
fn files_are_kept_under_the_address_of_their_build_only() {
    let server = TestServer::start();
    let address = server
        .get("/today")
        .attribute("link[rel=stylesheet]", "href");
    let kept = server.get(&address);
    assert_eq!(kept.status, 200);
    assert!(
        kept.headers["cache-control"]
            .to_str()
            .unwrap()
            .contains("immutable")
    );
    let old = address.replacen(|c: char| c.is_ascii_hexdigit(), "0", 40);
    assert_ne!(
        server.get(&old).headers["cache-control"],
        kept.headers["cache-control"]
    );
    for nowhere in [
        "/static/x/nothing.css",
        "/static/x/../../Cargo.toml",
        "/static/x/%2e%2e/Cargo.toml",
    ] {
        assert_eq!(server.get(nowhere).status, 404, "{nowhere}");
    }
}

#[test]
fn every_link_and_file_of_a_page_opens() {
    let server = TestServer::start();
    for path in PAGES {
        let body = server.get(path).body;
        let addresses = body
            .split("href=\"")
            .skip(1)
            .chain(body.split(" src=\"").skip(1));
        let mut opened = 0;
        for address in addresses.filter_map(|rest| rest.split('"').next()) {
            if address.starts_with('/') {
                let address = address.replace("&amp;", "&").replace("&#38;", "&");
                let status = server.get(address.split('#').next().unwrap()).status;
                // A door may lead on.
                assert!([200, 303].contains(&status), "{address}: {status}");
                opened += 1;
            }
        }
        assert!(opened > 5, "{path} has {opened} links");
    }
}
