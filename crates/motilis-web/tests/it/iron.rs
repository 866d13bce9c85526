//! The data file's page, what happens when the disk refuses, who is let in, and what is held off.

use crate::server::{MULTIPART, Page, TestServer, multipart};
use motilis_store::{Error, settings};
use motilis_view::Role;
use motilis_web::Access;
use rstest::rstest;
use std::io::{Read, Write};
use std::net::TcpStream;
use std::time::Duration;

const PHRASE: &str = "heron cedar nine buoys";
const CREW: &str = "amber kettle dry oars";
/// What another program that passes requests on says: who asks does not sit here.
const FROM: (&str, &str) = ("x-forwarded-for", "192.168.4.20");
const FORM: (&str, &str) = ("content-type", "application/x-www-form-urlencoded");

/// A server that asks whoever comes from beyond.
fn asking() -> TestServer {
    TestServer::asking(|access: &Access| {
        access.set_phrase(Role::Captain, PHRASE).unwrap().unwrap();
        access.set_phrase(Role::Crew, CREW).unwrap().unwrap();
    })
}

fn get(server: &TestServer, path: &str, cookie: &str) -> Page {
    server.get_with(path, &[FROM, ("cookie", cookie), ("accept", "text/html")])
}

fn post(server: &TestServer, path: &str, cookie: &str, body: &str) -> Page {
    server.send(path, &[FROM, FORM, ("cookie", cookie)], body.as_bytes())
}

/// The cookie of who signs in.
fn session(server: &TestServer, phrase: &str) -> String {
    let page = post(
        server,
        "/sign-in",
        "",
        &format!("phrase={}&back=/boat", phrase.replace(' ', "+")),
    );
    assert_eq!(
        (page.status, page.location.as_str()),
        (303, "/boat"),
        "{}",
        page.body
    );
    let cookie = page.headers["set-cookie"].to_str().unwrap();
    for part in ["HttpOnly", "SameSite=Lax", "Path=/", "Max-Age=20736000"] {
        assert!(cookie.contains(part), "{cookie}");
    }
    cookie.split(';').next().unwrap().to_owned()
}

#[test]
fn who_sits_at_the_machine_is_not_asked_and_who_does_not_is() {
    let server = asking();
    assert_eq!(server.get("/today").status, 200);
    let page = get(&server, "/log?edit=3", "");
    assert_eq!(
        (page.status, page.location.as_str()),
        (303, "/sign-in?back=%2Flog%3Fedit%3D3")
    );
    // A script is told so, and is not sent a page.
    let now = server.get_with("/boat/now.json", &[FROM]);
    assert_eq!(now.status, 401);
    let act = post(&server, "/log", "", "kind=fish");
    assert_eq!(act.status, 401);
    assert!(act.text("main").contains("Sign in first, then do it again"));
    let api = server.send("/api/v1/solve/sun", &[FROM], b"{}");
    assert_eq!(api.status, 401);
    assert!(api.body.starts_with("{\"error\""), "{}", api.body);
    for open in [
        "/sign-in",
        "/worker.js",
        "/manifest.webmanifest",
        "/link",
        "/favicon.ico",
    ] {
        assert!(get(&server, open, "").status < 300, "{open}");
    }
    let health: serde_json::Value =
        serde_json::from_str(&get(&server, "/health", "").body).unwrap();
    assert_eq!(
        health.as_object().unwrap().len(),
        2,
        "no more than ready and version: {health}"
    );
}

#[test]
fn captain_crew_and_guest_do_what_is_theirs() {
    let server = asking();
    let (captain, crew) = (session(&server, PHRASE), session(&server, CREW));
    let card = post(&server, "/aboard/card", &captain, "");
    let address = card.text("figcaption");
    let key = address.strip_prefix("http://192.168.4.1:8620").unwrap();
    let come = get(&server, key, "");
    assert_eq!((come.status, come.location.as_str()), (303, "/today"));
    let guest = come.headers["set-cookie"]
        .to_str()
        .unwrap()
        .split(';')
        .next()
        .unwrap()
        .to_owned();
    assert_eq!(get(&server, "/guest/made-up", "").status, 403);
    let who = [&captain, &crew, &guest];
    let seen = |path: &str| who.map(|cookie| get(&server, path, cookie).status);
    assert_eq!(seen("/today"), [200; 3]);
    assert_eq!(seen("/boat/now.json"), [200; 3]);
    assert_eq!(seen("/data"), [200, 403, 403]);
    assert_eq!(seen("/aboard"), [200, 403, 403]);
    assert_eq!(seen("/log/files/book.json"), [200, 200, 403]);
    let done = |path: &str, body: &str| who.map(|cookie| post(&server, path, cookie, body).status);
    assert_eq!(done("/log", "kind=note&note=seen"), [303, 303, 403]);
    assert_eq!(done("/bench/1/rename", "name=Mine"), [303, 403, 403]);
    assert_eq!(done("/settings/units", "back=/today"), [303; 3]);
    assert_eq!(done("/data/copy", ""), [303, 403, 403]);
    let page = get(&server, "/today", &guest);
    assert!(page.text("main").contains("You look on as a guest"));
    assert!(page.text("footer").contains("Guest") && !page.body.contains("href=\"/data\""));
    let refused = post(&server, "/bench/1/rename", &crew, "name=Mine");
    assert!(
        refused.text("main").contains("That is the captain’s"),
        "{}",
        refused.body
    );
}

/// The crew takes back what was done on Boat and Log, and nothing else.
#[test]
fn the_crew_takes_back_its_own_kind_of_acts() {
    let server = asking();
    let crew = session(&server, CREW);
    server.post("/bench/1/rename", &[("name", "Another")]);
    let last = || -> i64 {
        let read = server.store.read(|c| {
            Ok::<_, Error>(c.query_row("SELECT max(n) FROM acts", [], |row| row.get(0))?)
        });
        read.unwrap()
    };
    let bench = last();
    assert_eq!(
        post(&server, &format!("/acts/{bench}/undo"), &crew, "").status,
        403
    );
    post(&server, "/log", &crew, "kind=note&note=seen");
    assert_eq!(
        post(&server, &format!("/acts/{}/undo", last()), &crew, "").status,
        303
    );
}

#[test]
fn signing_out_ends_it_here_or_everywhere() {
    let server = asking();
    let (one, other, third) = (
        session(&server, PHRASE),
        session(&server, PHRASE),
        session(&server, CREW),
    );
    let page = post(&server, "/sign-out", &one, "");
    assert!(
        page.headers["set-cookie"]
            .to_str()
            .unwrap()
            .contains("Max-Age=0")
    );
    assert_eq!(get(&server, "/today", &one).status, 303);
    assert_eq!(get(&server, "/today", &other).status, 200);
    let page = get(&server, "/aboard", &other);
    assert_eq!(
        page.count("form[action^='/aboard/sessions/'][action$='/end']"),
        3
    );
    post(&server, "/aboard/sessions/end", &other, "");
    for cookie in [&other, &third, &"motilis-session=made-up".to_owned()] {
        assert_eq!(get(&server, "/today", cookie).status, 303);
    }
}

#[test]
fn a_wrong_phrase_says_so_and_costs_time_after_five() {
    let server = asking();
    for _ in 0..5 {
        let page = post(
            &server,
            "/sign-in",
            "",
            "phrase=not+it+at+all&back=//evil.example",
        );
        assert_eq!(page.status, 422);
        assert!(
            page.text(".problem")
                .contains("neither the captain’s nor the crew’s")
        );
        assert_eq!(
            page.value("input[name=back]"),
            "/today",
            "no way out of here"
        );
        assert_eq!(page.value("#phrase"), "", "never sent back");
    }
    let page = post(&server, "/sign-in", "", "phrase=heron+cedar+nine+buoys");
    assert_eq!(page.status, 429);
    // A busy machine takes a while for the five.
    let wait: u64 = page.headers["retry-after"]
        .to_str()
        .unwrap()
        .parse()
        .unwrap();
    assert!((20..=30).contains(&wait), "{wait}");
    let says = page.text(".problem");
    assert!(says.contains(&format!("wait {wait} s")), "{says}");
}

#[test]
fn a_phrase_that_cannot_be_is_said_beside_its_field() {
    let server = asking();
    let captain = session(&server, PHRASE);
    let page = post(&server, "/aboard/crew", &captain, "crew=short");
    assert_eq!(page.status, 422);
    assert!(
        page.text("#problem-crew")
            .contains("at least 12 characters")
    );
    let page = post(
        &server,
        "/aboard/crew",
        &captain,
        "crew=nine+grey+kettles+sing",
    );
    assert_eq!(page.location, "/aboard?done=phrase");
    assert_eq!(post(&server, "/aboard/mate", &captain, "").status, 404);
}

fn last_copy(server: &TestServer) -> String {
    server.store.copies().all().first().unwrap().name()
}

fn entries(server: &TestServer) -> i64 {
    let read = server.store.read(|c| {
        Ok::<_, Error>(c.query_row("SELECT count(*) FROM events", [], |row| row.get(0))?)
    });
    read.unwrap()
}

#[test]
fn a_copy_is_made_saved_and_gone_back_to_and_that_is_taken_back() {
    let server = TestServer::start();
    let twice = [("_act", "copy-1")];
    for _ in 0..2 {
        let page = server.post("/data/copy", &twice);
        assert_eq!(page.location, "/data?done=copy");
    }
    assert_eq!(
        server.store.copies().all().len(),
        1,
        "asked for twice, made once"
    );
    let copy = last_copy(&server);
    let saved = server.bytes(&format!("/data/copies/{copy}"));
    assert!(saved.starts_with(b"SQLite format 3\0"));
    let before = entries(&server);
    server.post("/log", &[("kind", "note"), ("note", "after the copy")]);
    assert_eq!(entries(&server), before + 1);

    let page = server.post("/data/restore", &[("copy", &copy)]);
    assert_eq!(entries(&server), before);
    assert!(!server.get("/log").body.contains("after the copy"));
    let page = server.get(&page.location);
    assert!(
        page.text(".notice")
            .contains("The file is as that copy was")
    );
    let kept = page.value(".notice input[name=copy]");
    server.post("/data/restore", &[("copy", &kept)]);
    assert_eq!(entries(&server), before + 1);
    assert!(server.get("/log").body.contains("after the copy"));
    for nowhere in ["", "../demo.db", "demo.db", "/etc/passwd"] {
        assert_eq!(
            server.post("/data/restore", &[("copy", nowhere)]).status,
            404
        );
    }
    assert_eq!(server.get("/data/copies/..%2Fdemo.db").status, 404);
}

#[test]
fn a_copy_from_another_device_takes_the_place_of_the_book() {
    let other = TestServer::start();
    other.post("/log", &[("kind", "note"), ("note", "from the skiff")]);
    other.post("/data/copy", &[]);
    let copy = other.bytes(&format!("/data/copies/{}", last_copy(&other)));
    let server = TestServer::start();
    server.post("/log", &[("kind", "note"), ("note", "from the heron")]);
    let put = |bytes: &[u8], number: &str| {
        let fields = [("_act", number)];
        server.upload("/data", &fields, Some(("skiff.db", bytes)))
    };
    let done = put(&copy, "put-1");
    assert_eq!(done.status, 303, "{}", done.body);
    assert_eq!(put(&copy, "put-1").location, done.location, "once");
    // Another copy of the same name and size is another, from the same page, too.
    let mut other = copy.clone();
    other[60..64].copy_from_slice(&99_u32.to_be_bytes());
    assert_eq!(put(&other, "put-1").status, 422);
    assert_eq!(server.get("/data").status, 200);
    let log = server.get("/log").body;
    assert!(log.contains("from the skiff") && !log.contains("from the heron"));
    let page = server.get(&done.location);
    assert!(
        page.text(".notice")
            .contains("The book is the one you brought")
    );
    server.post(
        "/data/restore",
        &[("copy", &page.value(".notice input[name=copy]"))],
    );
    assert!(server.get("/log").body.contains("from the heron"));

    // What is no book changes nothing and says so beside the field.
    let before = server.contents();
    let newer = {
        let mut newer = copy.clone();
        newer[60..64].copy_from_slice(&99_u32.to_be_bytes());
        newer
    };
    for (bytes, says) in [
        (
            &b"dear diary"[..],
            "“skiff.db” is not a Motilis data file: nothing was changed; choose a copy that was saved from this page",
        ),
        (&copy[..copy.len() / 2], "“skiff.db” was cut off: "),
        (&newer, "was written by a newer Motilis (data version 99"),
        (b"", "Choose a file first"),
    ] {
        let page = put(bytes, "");
        assert_eq!(page.status, 422, "{says}");
        let said = page.text("#problem-file");
        assert!(said.contains(says), "{said}");
    }
    assert!(put(&[], "").text("#problem-file").contains("Choose a file"));
    assert_eq!(server.contents(), before);

    // A new boat computer has an empty book, and its first page leads there.
    let fresh = TestServer::empty();
    assert_eq!(fresh.get("/start").count("a[href='/data#put-in']"), 1);
    fresh.upload("/data", &[], Some(("skiff.db", &copy)));
    assert!(fresh.get("/log").body.contains("from the skiff"));
}

#[test]
fn what_is_wrong_is_listed_mended_and_put_back() {
    let server = TestServer::start();
    let page = server.post("/data/check", &[]);
    assert!(server.get(&page.location).body.contains("Nothing is wrong"));
    let spoilt: Result<(), Error> = server.store.write(|c| {
        let one = "(SELECT max(id) FROM events WHERE kind = 'note')";
        c.execute_batch(&format!(
            "UPDATE events SET kind = 'mermaid' WHERE id = {one}"
        ))?;
        Ok(())
    });
    spoilt.unwrap();
    let before = entries(&server);
    server.post("/data/check", &[]);
    let page = server.get("/data");
    assert!(
        page.text("main")
            .contains("cannot be read: kind is \"mermaid\""),
        "{}",
        page.text("main")
    );
    let page = server.post("/data/mend", &[]);
    let page = server.get(&page.location);
    assert!(
        page.text(".notice").contains("1 record set aside"),
        "{}",
        page.text("main")
    );
    assert_eq!(entries(&server), before - 1);
    let back = page.attribute("form[action$='/back']", "action");
    assert_eq!(server.post(&back, &[]).location, "/data?done=aside");
    assert_eq!(entries(&server), before);
    assert_eq!(server.post(&back, &[]).status, 404);
}

#[test]
fn clearing_out_is_said_before_it_is_done() {
    let server = TestServer::start();
    let thrown: Result<(), Error> = server.store.write(|c| {
        c.execute_batch("UPDATE events SET deleted_utc_s = 1000 WHERE id IN (SELECT id FROM events WHERE kind = 'note' LIMIT 3)")?;
        Ok(())
    });
    thrown.unwrap();
    let before = entries(&server);
    server.post("/data/tidy", &[("act", "look")]);
    let page = server.get("/data");
    assert!(
        page.text("main").contains("To clear out: 3 records"),
        "{}",
        page.text("main")
    );
    assert_eq!(entries(&server), before);
    let page = server.post("/data/tidy", &[("act", "do")]);
    assert!(
        server
            .get(&page.location)
            .text(".notice")
            .contains("Cleared out: 3 records")
    );
    assert_eq!(entries(&server), before - 3);
    server.post("/data/tidy", &[("act", "look")]);
    assert!(
        server
            .get("/data")
            .text("main")
            .contains("There is nothing to clear out.")
    );
}

#[test]
fn before_a_file_is_read_in_the_book_is_copied() {
    let server = TestServer::start();
    let box_csv = server.get("/box/export.csv").body;
    server.upload(
        "/box/import",
        &[("act", "import")],
        Some(("box.csv", box_csv.as_bytes())),
    );
    let log = server.get("/log/files/log.json").body;
    let log = log.replacen("\"wind\":\"ripple\"", "\"wind\":\"calm\"", 1);
    let came = server.upload(
        "/log/files",
        &[("act", "import"), ("format", "json")],
        Some(("log.json", log.as_bytes())),
    );
    assert_eq!(came.status, 303, "{}", came.text("main"));
    let copies = server.store.copies().all();
    assert!(
        copies
            .iter()
            .all(|copy| copy.name().contains("before-import"))
    );
    assert_eq!(copies.len(), 2);
}

/// The file may have so many pages and no more.
fn pages(server: &TestServer, most: &str) {
    let set: Result<(), Error> = server
        .store
        .write(|c| Ok(c.query_row(&format!("PRAGMA max_page_count = {most}"), [], |_| Ok(()))?));
    set.unwrap();
}

#[test]
fn a_full_disk_says_so_loses_nothing_and_goes_on_when_there_is_room() {
    let server = TestServer::start();
    pages(&server, "1");
    let note = "x".repeat(300);
    let mut status = 303;
    let mut page = None;
    for n in 0..400 {
        let said = server.post(
            "/log",
            &[("kind", "note"), ("note", &format!("{n} {note}"))],
        );
        status = said.status;
        if status != 303 {
            page = Some(said);
            break;
        }
    }
    assert_eq!(status, 507);
    let words = page.unwrap().text("main");
    assert!(
        words.contains("The disk is full") && words.contains("make room there and do it again"),
        "{words}"
    );
    let before = entries(&server);
    assert_eq!(server.get("/log").status, 200);
    assert_eq!(server.get("/today").status, 200);
    assert_eq!(entries(&server), before);
    pages(&server, "1000000");
    let said = server.post("/log", &[("kind", "note"), ("note", "there is room")]);
    assert_eq!((said.status, entries(&server)), (303, before + 1));
}

#[test]
fn a_file_held_by_another_program_is_said_to_be() {
    let server = TestServer::start();
    let other = motilis_store::Connection::open(server.store.path()).unwrap();
    other.execute_batch("BEGIN IMMEDIATE").unwrap();
    let said = server.post("/log", &[("kind", "note"), ("note", "held")]);
    assert_eq!(said.status, 503);
    assert!(
        said.text("main")
            .contains("Another program holds the data file")
    );
    other.execute_batch("ROLLBACK").unwrap();
    assert_eq!(
        server
            .post("/log", &[("kind", "note"), ("note", "free")])
            .status,
        303
    );
}

#[test]
fn what_can_only_be_read_is_shown_and_says_so_on_every_page() {
    let server = TestServer::rescued();
    for path in include_str!("../pages.txt").lines() {
        let page = server.get(path);
        assert!(page.status < 500, "{path} {}", page.status);
        if page.status == 200 && !path.contains("table") && page.body.contains("<main") {
            assert!(
                page.text("main")
                    .contains("could be read of a damaged file"),
                "{path}"
            );
        }
    }
    let said = server.post("/log", &[("kind", "note"), ("note", "?")]);
    assert_eq!(said.status, 403);
    assert!(
        said.text("main")
            .contains("is open for reading only: nothing was changed"),
        "{}",
        said.text("main")
    );
    let page = server.get("/data");
    assert!(
        page.text("main")
            .contains("Of events some could not be read"),
        "{}",
        page.text("main")
    );
    assert_eq!(page.count("form[action='/data/copy']"), 0);
}

#[test]
fn health_says_what_a_watcher_needs() {
    let server = TestServer::under_way();
    let health: serde_json::Value = serde_json::from_str(&server.get("/health").body).unwrap();
    assert_eq!(health["ready"], true);
    assert_eq!(health["file"]["standing"], "whole");
    assert_eq!(health["file"]["data_version"], 16);
    assert_eq!(health["twin"]["behind"], false);
    assert!(health["last_copy"].is_object() || health["last_copy"].is_null());
}

/// Sixty uploads that are begun and never ended: six are waited for, the others are told so at once, and pages go on.
/// A phone still shows the book that a copy took the place of: there a number is another record's.
#[test]
fn a_page_of_another_book_touches_no_record_of_this_one() {
    let server = TestServer::start();
    server.post("/data/copy", &[]);
    let copy = last_copy(&server);
    server.post("/log", &[("kind", "note"), ("note", "of the old book")]);
    let stale = server.get("/log");
    let number = stale.value(".entry input[name=_book]");
    let delete = stale.attribute(".entry form", "action");
    server.post("/data/restore", &[("copy", &copy)]);
    server.post("/log", &[("kind", "note"), ("note", "of the new book")]);
    let fresh = server.get("/log");
    assert_eq!(
        delete,
        fresh.attribute(".entry form", "action"),
        "the same number"
    );
    let before = server.contents();
    let said = server.post(&delete, &[("_act", "page-1"), ("_book", &number)]);
    assert_eq!(said.status, 409);
    assert!(
        said.text("main")
            .contains("A copy has taken the place of the book that this page is of"),
        "{}",
        said.text("main")
    );
    let photo = delete.replace("/delete", "/photo");
    let png: &[u8] = &[0x89, b'P', b'N', b'G', 1, 2, 3];
    let said = server.upload(&photo, &[("_book", &number)], Some(("fish.png", png)));
    assert_eq!(said.status, 409);
    assert_eq!(server.contents(), before);
    // A tap names no record: it is a fish in whatever book there is. So is what a page of this book asks.
    let tap = [("kind", "fish"), ("_act", "page-2"), ("_book", &number)];
    assert_eq!(server.post("/log", &tap).status, 303);
    let number = fresh.value(".entry input[name=_book]");
    let done = server.post(&delete, &[("_act", "page-3"), ("_book", &number)]);
    assert_eq!(done.status, 303);
}

/// RFC 9110, 9.3.2: a `HEAD` is answered as its `GET` is, without content; one who asks so for a stream holds no place in it.
#[test]
fn a_watcher_may_ask_for_the_head_alone() {
    let server = TestServer::start();
    for (path, status) in [
        ("/health", 200),
        ("/today", 200),
        ("/boat/live", 200),
        ("/no-such-page", 404),
    ] {
        let head = server.head(path);
        assert_eq!((head.status, head.body.as_str()), (status, ""), "{path}");
    }
    for _ in 0..60 {
        server.head("/boat/live");
    }
    assert_eq!(server.get("/health").status, 200);
    assert_eq!(server.head("/boat/live").status, 200);
}

#[test]
fn held_uploads_hold_nobody_up() {
    let server = TestServer::start();
    let host = server.address.trim_start_matches("http://").to_owned();
    let held: Vec<TcpStream> = (0..60)
        .map(|_| {
            let mut stream = TcpStream::connect(&host).unwrap();
            stream.set_read_timeout(Some(Duration::from_secs(20))).unwrap();
            write!(
                stream,
                "POST /box/import HTTP/1.1\r\nhost: {host}\r\ncontent-type: {MULTIPART}\r\ncontent-length: 4000000\r\n\r\n--cut\r\ncontent-disposition: form-data; name=\"file\"; filename=\"b.csv\"\r\n\r\npart,"
            )
            .unwrap();
            stream
        })
        .collect();
    assert_eq!(server.get("/today").status, 200);
    let told = held.into_iter().map(|mut stream| {
        stream
            .set_read_timeout(Some(Duration::from_millis(700)))
            .unwrap();
        let mut head = [0; 12];
        match stream.read_exact(&mut head) {
            Ok(()) => (String::from_utf8_lossy(&head).into_owned(), Some(stream)),
            Err(_) => (String::new(), Some(stream)),
        }
    });
    let told: Vec<_> = told.collect();
    let refused = told
        .iter()
        .filter(|(head, _)| head.ends_with("503"))
        .count();
    let waiting = told.iter().filter(|(head, _)| head.is_empty()).count();
    assert_eq!((refused, waiting), (54, 6));
    let busy = server.upload("/box/import", &[], Some(("b.csv", b"part")));
    assert_eq!(busy.status, 503);
    assert!(busy.text("main").contains("Others are sending just now"));
    drop(told);
    // Given back as soon as who held them hangs up.
    let again = (0..50).find(|_| {
        std::thread::sleep(Duration::from_millis(100));
        server
            .upload("/box/import", &[], Some(("b.csv", b"part")))
            .status
            != 503
    });
    assert!(again.is_some());
}

#[rstest]
#[case::form("/log", FORM.1, "note=".len() + 70_000, 413, "holds more than is taken")]
#[case::upload(
    "/box/import",
    MULTIPART,
    5_000_000,
    413,
    "at most 4 MB of CSV or JSON"
)]
#[case::torn("/box/import", "multipart/form-data", 100, 400, "could not be read")]
fn too_large_is_413_and_torn_is_not(
    #[case] path: &str,
    #[case] kind: &str,
    #[case] size: usize,
    #[case] status: u16,
    #[case] says: &str,
) {
    let server = TestServer::start();
    let body = if kind == MULTIPART {
        multipart(&[], Some(("b.csv", &vec![b'x'; size])))
    } else {
        format!("note={}", "x".repeat(size)).into_bytes()
    };
    let page = server.send(path, &[("content-type", kind)], &body);
    assert_eq!(page.status, status, "{}", page.body);
    assert!(page.text("main").contains(says), "{}", page.text("main"));
}

#[test]
fn settings_that_are_not_asked_for_stay() {
    // A page that is only looked at writes nothing where nothing can be written.
    let server = TestServer::rescued();
    let before = server
        .store
        .read(|c| settings::get(c, "open_spread"))
        .unwrap();
    let page = server.get("/spread/1");
    assert_eq!(page.status, 200, "{}", page.location);
    assert_eq!(
        server
            .store
            .read(|c| settings::get(c, "open_spread"))
            .unwrap(),
        before
    );
}
