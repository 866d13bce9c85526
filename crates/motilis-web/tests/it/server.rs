//! The real server on a free port, on demo data of its own, with a small client.

use motilis_store::{Opening, Store, ValueRef};
use motilis_web::{Access, App, Bound, Hosts, serve};
use scraper::{Html, Selector};
use std::fmt::Write;
use std::path::PathBuf;
use std::sync::OnceLock;
use std::time::Duration;
use ureq::Agent;
use ureq::http::Response;

/// A running server; its data go with it.
pub struct TestServer {
    pub store: Store,
    pub address: String,
    agent: Agent,
    pub folder: tempfile::TempDir,
}

/// What came back.
pub struct Page {
    pub status: u16,
    pub location: String,
    pub headers: ureq::http::HeaderMap,
    pub body: String,
}

/// The demo data as a file: filled once for the whole run, everyone gets a copy.
pub fn demo() -> &'static [u8] {
    static DEMO: OnceLock<Vec<u8>> = OnceLock::new();
    DEMO.get_or_init(|| {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("demo.db");
        let store = Store::open(&path).unwrap();
        motilis_demo::fill(&store, motilis_demo::SEED).unwrap();
        // The last connection that closes brings all of it into the one file.
        drop(store);
        std::fs::read(path).unwrap()
    })
}

/// A data file in a folder of its own.
fn stored(file: Option<&[u8]>) -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("demo.db");
    if let Some(bytes) = file {
        std::fs::write(&path, bytes).unwrap();
    }
    let store = Store::open(&path).unwrap();
    (folder, store)
}

/// What [`multipart`] is sent as.
pub const MULTIPART: &str = "multipart/form-data; boundary=cut";

/// A multipart form: plain fields, and a file with its name.
pub fn multipart(fields: &[(&str, &str)], file: Option<(&str, &[u8])>) -> Vec<u8> {
    let mut body = Vec::new();
    for (name, value) in fields {
        let head =
            format!("--cut\r\ncontent-disposition: form-data; name=\"{name}\"\r\n\r\n{value}\r\n");
        body.extend(head.bytes());
    }
    if let Some((name, bytes)) = file {
        let head = format!(
            "--cut\r\ncontent-disposition: form-data; name=\"file\"; filename=\"{name}\"\r\n\r\n"
        );
        body.extend(head.bytes());
        body.extend(bytes);
        body.extend(b"\r\n");
    }
    body.extend(b"--cut--\r\n");
    body
}

impl TestServer {
    /// Starts one on the demo data.
    pub fn start() -> Self {
        Self::on(Some(demo()), jiff::Timestamp::now, false)
    }

    /// Starts one on the demo data whose clock says something else.
    pub fn start_at(clock: fn() -> jiff::Timestamp) -> Self {
        Self::on(Some(demo()), clock, false)
    }

    /// Another one on a copy of the data as they are now.
    pub fn reopened(&self) -> Self {
        let checkpoint = "PRAGMA wal_checkpoint(TRUNCATE)";
        let done: Result<(), motilis_store::Error> = self
            .store
            .read(|connection| Ok(connection.query_row(checkpoint, [], |_| Ok(()))?));
        done.unwrap();
        let file = std::fs::read(self.folder.path().join("demo.db")).unwrap();
        Self::on(Some(&file), jiff::Timestamp::now, false)
    }

    /// Starts one on a fresh data file.
    pub fn empty() -> Self {
        Self::on(None, jiff::Timestamp::now, false)
    }

    /// Starts one on the demo data that listens to its instruments.
    pub fn under_way() -> Self {
        Self::on(Some(demo()), jiff::Timestamp::now, true)
    }

    /// Starts one on the demo data that asks whoever comes from beyond this machine.
    pub fn asking(set: impl FnOnce(&Access)) -> Self {
        let (folder, store) = stored(Some(demo()));
        let access = Access::of(folder.path().join("demo.access.json")).unwrap();
        set(&access);
        Self::with((folder, store), move |store, _| {
            let app = App::new(store).asking(access);
            app.reached_at(vec!["http://192.168.4.1:8620".into()]);
            app
        })
    }

    /// Starts one on what can be read of a demo file with a page overwritten.
    pub fn rescued() -> Self {
        let (folder, store) = stored(Some(demo()));
        let path = store.path().to_owned();
        drop(store);
        let mut bytes = std::fs::read(&path).unwrap();
        let has = |page: &[u8], words: &[u8]| page.windows(words.len()).any(|part| part == words);
        let is_leaf = |page: &[u8]| page[0] == 13 && has(page, b"follow") && !has(page, b"CREATE ");
        let leaf = bytes.chunks(4096).position(is_leaf).unwrap();
        bytes[leaf * 4096..(leaf + 1) * 4096].fill(0xa5);
        std::fs::write(&path, bytes).unwrap();
        let opening = Opening {
            rescue: true,
            ..Opening::default()
        };
        let store = opening.open(&path).unwrap();
        Self::with((folder, store), |store, _| App::new(store))
    }

    fn on(file: Option<&[u8]>, clock: fn() -> jiff::Timestamp, live: bool) -> Self {
        Self::with(stored(file), move |store, rides| {
            let app = App::with_clock(store, clock);
            if live { app.under_way(rides) } else { app }
        })
    }

    fn with(
        (folder, store): (tempfile::TempDir, Store),
        made: impl FnOnce(Store, PathBuf) -> App + Send + 'static,
    ) -> Self {
        let (sender, receiver) = std::sync::mpsc::channel();
        let served = store.clone();
        let rides = folder.path().join("rides");
        std::thread::spawn(move || {
            actix_web::rt::System::new().block_on(async move {
                let hosts = Hosts {
                    named: vec!["heron.local".into()],
                };
                let app = made(served, rides);
                let bound = Bound::to("127.0.0.1:0").unwrap();
                let address = bound.addresses()[0];
                let server = serve(app, hosts, bound, None).unwrap();
                sender.send(address).unwrap();
                server.run().await.unwrap();
            });
        });
        let address = receiver.recv().unwrap();
        let agent = Agent::config_builder()
            .http_status_as_error(false)
            .max_redirects(0)
            .timeout_global(Some(Duration::from_secs(20)))
            .build()
            .into();
        Self {
            store,
            address: format!("http://{address}"),
            agent,
            folder,
        }
    }

    fn page(response: Result<Response<ureq::Body>, ureq::Error>) -> Page {
        let mut response = response.unwrap();
        let location = response.headers().get("location");
        Page {
            status: response.status().as_u16(),
            location: location
                .map(|value| value.to_str().unwrap().to_owned())
                .unwrap_or_default(),
            headers: response.headers().clone(),
            body: String::from_utf8_lossy(&response.body_mut().read_to_vec().unwrap()).into_owned(),
        }
    }

    /// `GET`
    pub fn get(&self, path: &str) -> Page {
        Self::page(self.agent.get(format!("{}{path}", self.address)).call())
    }

    /// What a `HEAD` is answered with.
    pub fn head(&self, path: &str) -> Page {
        Self::page(self.agent.head(format!("{}{path}", self.address)).call())
    }

    /// The bytes of a `GET`.
    pub fn bytes(&self, path: &str) -> Vec<u8> {
        let mut response = self
            .agent
            .get(format!("{}{path}", self.address))
            .call()
            .unwrap();
        response.body_mut().read_to_vec().unwrap()
    }

    /// `GET` by a device with a cookie.
    pub fn get_bearing(&self, path: &str, cookie: &str) -> Page {
        let request = self.agent.get(format!("{}{path}", self.address));
        Self::page(request.header("cookie", cookie).call())
    }

    /// `GET` with headers.
    pub fn get_with(&self, path: &str, headers: &[(&str, &str)]) -> Page {
        let mut request = self.agent.get(format!("{}{path}", self.address));
        for (name, value) in headers {
            request = request.header(*name, *value);
        }
        Self::page(request.call())
    }

    /// `GET` under another name.
    pub fn get_as(&self, host: &str, path: &str) -> Page {
        let request = self.agent.get(format!("{}{path}", self.address));
        Self::page(request.header("host", host).call())
    }

    /// `POST` of a form.
    pub fn post(&self, path: &str, form: &[(&str, &str)]) -> Page {
        let request = self.agent.post(format!("{}{path}", self.address));
        Self::page(request.send_form(form.iter().copied()))
    }

    /// `POST` of any bytes, with headers. A server that refuses a body before all of it came may hang up before its answer
    /// is read; then it is asked again, as a person would.
    pub fn send(&self, path: &str, headers: &[(&str, &str)], body: &[u8]) -> Page {
        let sent = || {
            let mut request = self.agent.post(format!("{}{path}", self.address));
            for (name, value) in headers {
                request = request.header(*name, *value);
            }
            request.send(body)
        };
        let mut answer = sent();
        for _ in 0..8 {
            if !matches!(&answer, Err(ureq::Error::Io(_))) {
                break;
            }
            answer = sent();
        }
        Self::page(answer)
    }

    /// `POST` of a multipart form: plain fields, and a file with its name.
    pub fn upload(&self, path: &str, fields: &[(&str, &str)], file: Option<(&str, &[u8])>) -> Page {
        self.send(
            path,
            &[("content-type", MULTIPART)],
            &multipart(fields, file),
        )
    }

    /// All rows of all tables, to see whether anything changed.
    pub fn contents(&self) -> String {
        self.store
            .read(|connection| {
                let mut all = String::new();
                for table in [
                    "waters",
                    "water_fish",
                    "water_forage",
                    "local_rules",
                    "outing_marks",
                    "line_setups",
                    "rigs",
                    "rig_versions",
                    "rig_pieces",
                    "rig_ticks",
                    "parts",
                    "deeds",
                    "stock_moves",
                    "made_rigs",
                    "outings",
                    "rods",
                    "events",
                    "passes",
                    "lures",
                    "lure_dives",
                    "spreads",
                    "spread_versions",
                    "spread_lines",
                    "dunk_tests",
                    "temperature_readings",
                    "runs",
                    "casts",
                    "bottom_touches",
                    "settings",
                ] {
                    let mut statement = connection
                        .prepare(&format!("SELECT * FROM {table}"))
                        .unwrap();
                    let columns = statement.column_count();
                    let mut rows = statement.query([]).unwrap();
                    while let Some(row) = rows.next().unwrap() {
                        for column in 0..columns {
                            match row.get_ref(column).unwrap() {
                                ValueRef::Text(text) => {
                                    all.push_str(&String::from_utf8_lossy(text));
                                }
                                other => write!(all, "{other:?}").unwrap(),
                            }
                            all.push(' ');
                        }
                        all.push('\n');
                    }
                }
                Ok::<_, motilis_store::Error>(all)
            })
            .unwrap()
    }
}

impl Page {
    /// The words of the first element of a selector.
    pub fn text(&self, css: &str) -> String {
        let page = Html::parse_document(&self.body);
        let selector = Selector::parse(css).unwrap();
        let element = page
            .select(&selector)
            .next()
            .unwrap_or_else(|| panic!("no {css} in the page"));
        element
            .text()
            .collect::<Vec<_>>()
            .join("")
            .split_whitespace()
            .collect::<Vec<_>>()
            .join(" ")
    }

    /// The words of every element of a selector.
    pub fn texts(&self, css: &str) -> Vec<String> {
        let page = Html::parse_document(&self.body);
        page.select(&Selector::parse(css).unwrap())
            .map(|element| element.text().collect::<Vec<_>>().join(" "))
            .collect()
    }

    /// How many elements a selector finds.
    pub fn count(&self, css: &str) -> usize {
        Html::parse_document(&self.body)
            .select(&Selector::parse(css).unwrap())
            .count()
    }

    /// An attribute of the first element of a selector.
    pub fn attribute(&self, css: &str, name: &str) -> String {
        let page = Html::parse_document(&self.body);
        let element = page
            .select(&Selector::parse(css).unwrap())
            .next()
            .map(|e| e.attr(name).unwrap_or_default().to_owned());
        element.unwrap_or_else(|| panic!("no {css} in the page"))
    }

    /// What stands in a field.
    pub fn value(&self, css: &str) -> String {
        self.attribute(css, "value")
    }

    /// What a form would send: its fields as they stand, buttons apart.
    pub fn form(&self, css: &str) -> Vec<(String, String)> {
        let page = Html::parse_document(&self.body);
        let fields =
            Selector::parse(&format!("{css} input[name], {css} option[selected]")).unwrap();
        let sent = page.select(&fields).filter_map(|field| {
            let value = field.attr("value").unwrap_or_default().to_owned();
            let name = field.attr("name").or_else(|| {
                let select = field.parent().and_then(scraper::ElementRef::wrap)?;
                select.attr("name")
            })?;
            Some((name.to_owned(), value))
        });
        sent.collect()
    }
}

/// The conditions of the demo's open day, with some of them changed.
pub fn conditions<'a>(changes: &[(&'a str, &'a str)]) -> Vec<(&'a str, &'a str)> {
    let mut form = vec![
        ("water", "2"),
        ("started", "2026-09-05 06:20"),
        ("speed", "1.2"),
        ("temperature", "58"),
        ("clarity", "7"),
        ("sky", "cloud"),
        ("fish", "walleye"),
        ("fish_from", "20"),
        ("fish_to", "25"),
        ("bottom", "27"),
        ("mood", "neutral"),
        ("wanted_depth", "22"),
    ];
    for (name, value) in changes {
        match form.iter_mut().find(|(field, _)| field == name) {
            Some(field) => field.1 = value,
            None => form.push((name, value)),
        }
    }
    form
}
