//! One ordinary act, then every page: each form of the demo's pages is sent as it stands and with each other option,
//! button, box and figure, on a fresh copy of the data; then every page is opened. None may break.
//!
//! All of it is some fourteen thousand acts, 45 minutes of two cores: `MOTILIS_CRAWL=1 cargo test --release -p motilis-web
//! crawl` does them, `MOTILIS_CRAWL=10` every tenth. Without the flag a small seeded share is done.

use crate::server::{MULTIPART, TestServer, demo, multipart};
use actix_web::test::{self as inside, TestRequest};
use actix_web::web::Data;
use motilis_store::Store;
use motilis_web::{App, router};
use scraper::{ElementRef, Html, Selector};
use std::collections::BTreeSet;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};

/// One in so many acts is done without the flag.
const SHARE: u64 = 120;

/// Options of a list that are tried.
const LONG_LIST: usize = 15;

/// Something that can be sent.
#[derive(Debug, Clone)]
struct Act {
    /// The page it stands on.
    page: String,
    address: String,
    fields: Vec<(String, String)>,
    /// What is otherwise than the page has it.
    change: String,
}

/// Pages whose forms are sent.
fn pages_with_forms(server: &TestServer) -> Vec<String> {
    let mut pages: Vec<String> = [
        "/today",
        "/judging",
        "/waters",
        "/waters/new",
        "/waters/1",
        "/waters/2",
        "/bench/new",
        "/setups",
        "/lures",
        "/log",
        "/log?edit=1",
        "/spread/new",
        "/box/parts/new",
        "/box/made/1/break-off",
        "/box/import",
    ]
    .map(str::to_owned)
    .into();
    for tray in ["made", "blade", "bead", "hook", "spool"] {
        pages.push(format!("/box?tray={tray}"));
    }
    for rig in [1, 2, 3, 6, 9, 14, 20, 27, 31, 39] {
        pages.push(format!("/bench/{rig}"));
        let pieces = server.get(&format!("/bench/{rig}")).count(".piece-pick");
        pages.extend((0..pieces).map(|at| format!("/bench/{rig}?at={at}")));
    }
    for rig in [1, 2, 6, 9, 20, 31] {
        pages.push(format!("/tank?rig={rig}"));
    }
    for spread in 1..=2 {
        pages.push(format!("/spread/{spread}"));
        let lines = server.get(&format!("/spread/{spread}")).count(".line-row");
        pages.extend((1..=lines).map(|line| format!("/spread/{spread}?line={line}")));
    }
    pages.extend((1..=10).map(|setup| format!("/setups/{setup}")));
    pages.extend((1..=60).step_by(7).map(|part| format!("/box/parts/{part}")));
    pages
}

/// Rigs, lines and waters that are opened beside the doors.
const BESIDE: [&str; 13] = [
    "/waters/1",
    "/bench/1",
    "/bench/6",
    "/tank?rig=1",
    "/tank?rig=6",
    "/tank?rig=9",
    "/spread/1",
    "/spread/1?line=1",
    "/spread/1?side=port",
    "/spread/2",
    "/spread/2/card",
    "/spread/compare",
    "/setups/1",
];

/// Pages that are opened after every act: those there are, whatever the act was.
fn doors() -> impl Iterator<Item = &'static str> {
    let all = include_str!("../pages.txt").lines();
    all.filter(|page| !["/no-such-page", "/start/zone"].contains(page))
        .chain(BESIDE)
}

fn select(css: &str) -> Selector {
    Selector::parse(css).unwrap()
}

fn text(element: ElementRef<'_>, name: &str) -> String {
    element.attr(name).unwrap_or_default().to_owned()
}

/// Every act that a page offers.
fn acts_of(page: &str, body: &str) -> Vec<Act> {
    let html = Html::parse_document(body);
    let mut acts = Vec::new();
    for form in html.select(&select("form")) {
        let (fields, variants) = fields_of(form);
        let buttons: Vec<(String, Option<(String, String)>)> = form
            .select(&select("button"))
            .filter(|button| button.attr("disabled").is_none())
            .filter_map(|button| {
                let posts = button.attr("formmethod") == Some("post")
                    || form.attr("method") == Some("post");
                let address = button.attr("formaction").or(form.attr("action"))?;
                let named = button
                    .attr("name")
                    .map(|name| (name.to_owned(), text(button, "value")));
                posts.then(|| (address.to_owned(), named))
            })
            .collect();
        for (place, (address, button)) in buttons.iter().enumerate() {
            let with = |change: &str, fields: &[(String, String)]| {
                let mut fields = fields.to_vec();
                fields.extend(button.clone());
                Act {
                    page: page.to_owned(),
                    address: address.clone(),
                    fields,
                    change: format!("{change} by {button:?}"),
                }
            };
            acts.push(with("as it stands", &fields));
            if place == 0 {
                acts.extend(variants.iter().map(|(change, fields)| with(change, fields)));
            }
        }
        if buttons.is_empty() && form.attr("method") == Some("post") {
            let all = std::iter::once(("as it stands".to_owned(), fields.clone())).chain(variants);
            acts.extend(all.map(|(change, fields)| Act {
                page: page.to_owned(),
                address: text(form, "action"),
                fields,
                change,
            }));
        }
    }
    // Switches of the device are no acts.
    acts.retain(|act| !act.address.starts_with("/settings"));
    acts
}

type Fields = Vec<(String, String)>;

/// The fields of a page's form as it stands.
pub fn form_of(body: &str, action: &str) -> Fields {
    let html = Html::parse_document(body);
    let forms = select("form");
    let mut forms = html.select(&forms);
    let form = forms.find(|form| form.attr("action") == Some(action));
    fields_of(form.unwrap_or_else(|| panic!("no form to {action}"))).0
}

/// The fields of a form as it stands, and each ordinary change of one of them.
fn fields_of(form: ElementRef<'_>) -> (Fields, Vec<(String, Fields)>) {
    let mut fields: Fields = Vec::new();
    let mut changes: Vec<(String, String, Option<String>)> = Vec::new();
    for input in form.select(&select("input[name], textarea[name]")) {
        let (name, value) = (text(input, "name"), text(input, "value"));
        match input.attr("type") {
            Some("checkbox") => {
                let ticked = input.attr("checked").is_some();
                if ticked {
                    fields.push((name.clone(), value.clone()));
                }
                changes.push((
                    format!("{name} ticked: {}", !ticked),
                    name,
                    (!ticked).then_some(value),
                ));
            }
            Some("hidden" | "file") => fields.push((name, value)),
            _ => {
                fields.push((name.clone(), value.clone()));
                if name.starts_with('_') {
                    continue;
                }
                for other in others(&value) {
                    changes.push((format!("{name} {other}"), name.clone(), Some(other)));
                }
            }
        }
    }
    for list in form.select(&select("select[name]")) {
        let name = text(list, "name");
        let options: Vec<ElementRef<'_>> = list.select(&select("option")).collect();
        let chosen = options.iter().find(|one| one.attr("selected").is_some());
        let chosen = chosen.or(options.first()).map(|one| text(*one, "value"));
        fields.push((name.clone(), chosen.clone().unwrap_or_default()));
        // Of a long list (sizes, parts, zones of time) a few from all of it.
        for option in options.iter().step_by(options.len().div_ceil(LONG_LIST)) {
            let value = text(*option, "value");
            if Some(&value) != chosen.as_ref() {
                changes.push((format!("{name} {value}"), name.clone(), Some(value)));
            }
        }
    }
    let variants = changes
        .into_iter()
        .map(|(change, name, value)| {
            let mut changed: Fields = fields
                .iter()
                .filter(|(one, _)| *one != name)
                .cloned()
                .collect();
            changed.extend(value.map(|value| (name, value)));
            (change, changed)
        })
        .collect();
    (fields, variants)
}

/// What somebody might type instead.
fn others(value: &str) -> Vec<String> {
    match value.parse::<f64>() {
        Ok(figure) => [0.25, 0.5, 1.5, 4.0]
            .iter()
            .map(|times| format!("{:.2}", figure * times))
            .collect(),
        Err(_) if value.is_empty() => vec!["3".to_owned()],
        Err(_) => vec![format!("{value} x")],
    }
}

/// What came back, of what was asked.
struct Answer {
    status: u16,
    location: String,
    says: String,
}

fn broke(act: &Act, what: &str, page: &Answer) -> Option<String> {
    let is_door = what != "the act itself";
    let fine = match page.status {
        200 | 303 => true,
        status => !is_door && (400..500).contains(&status),
    };
    (!fine).then(|| {
        format!(
            "{} {} ({}) makes {what} {}: {}",
            act.page, act.address, act.change, page.status, page.says
        )
    })
}

/// Does an act on a fresh copy and opens every page; the application answers without a network between.
async fn tried(act: &Act) -> Vec<String> {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("demo.db");
    std::fs::write(&path, demo()).unwrap();
    let app = App::new(Store::open(&path).unwrap());
    let service = actix_web::App::new().app_data(Data::new(app));
    let service = inside::init_service(service.configure(router::configure)).await;
    let answer = async |request: TestRequest| {
        let (status, location, body) =
            match inside::try_call_service(&service, request.to_request()).await {
                Ok(answer) => {
                    let location = answer.headers().get("location");
                    let location = location.map_or("", |value| value.to_str().unwrap());
                    (answer.status(), location.to_owned(), String::new())
                }
                Err(error) => (
                    error.as_response_error().status_code(),
                    String::new(),
                    error.to_string(),
                ),
            };
        Answer {
            status: status.as_u16(),
            location,
            says: body,
        }
    };
    let get = async |path: &str| answer(TestRequest::get().uri(path)).await;
    let form: Vec<(&str, &str)> = act
        .fields
        .iter()
        .map(|(name, value)| (name.as_str(), value.as_str()))
        .collect();
    let post = TestRequest::post().uri(&act.address);
    let post = if act.address == "/box/import" {
        post.insert_header(("content-type", MULTIPART))
            .set_payload(multipart(&form, None))
    } else {
        post.set_form(&form)
    };
    let done = answer(post).await;
    let mut found: Vec<String> = broke(act, "the act itself", &done).into_iter().collect();
    if done.status == 303 {
        for door in doors().map(str::to_owned).chain([done.location.clone()]) {
            found.extend(broke(act, &door, &get(&door).await));
        }
        let tap = TestRequest::post().uri("/log");
        let tap = answer(tap.set_form([("kind", "fish")])).await;
        found.extend(broke(act, "a tap on Fish on", &tap));
    }
    found
}

#[test]
fn one_ordinary_act_breaks_no_page() {
    let share = std::env::var("MOTILIS_CRAWL").map_or(SHARE, |share| share.parse().unwrap());
    let server = TestServer::start();
    let mut acts = Vec::new();
    for page in pages_with_forms(&server) {
        acts.extend(acts_of(&page, &server.get(&page).body));
    }
    let known = acts.len();
    let mut seen = BTreeSet::new();
    acts.retain(|act| {
        // Numbers of pages are always others.
        let plain = act.fields.iter().filter(|(name, _)| !name.starts_with('_'));
        let plain: Vec<_> = plain.collect();
        let mut hasher = DefaultHasher::new();
        (&act.address, &plain).hash(&mut hasher);
        let hash = hasher.finish();
        seen.insert(hash) && hash.is_multiple_of(share)
    });
    assert!(known > 5_000, "{known}");
    let (next, found) = (AtomicUsize::new(0), Mutex::new(Vec::new()));
    std::thread::scope(|scope| {
        for _ in 0..2 {
            scope.spawn(|| {
                actix_web::rt::System::new().block_on(async {
                    while let Some(act) = acts.get(next.fetch_add(1, Ordering::Relaxed)) {
                        let broken = tried(act).await;
                        found.lock().unwrap().extend(broken);
                    }
                });
            });
        }
    });
    let found = found.into_inner().unwrap();
    println!(
        "{} acts of {} ({known} on the pages) done, {} pages broken",
        acts.len(),
        seen.len(),
        found.len()
    );
    assert!(found.is_empty(), "{}", found.join("\n"));
}
