//! Boat: where every line is now, what is about to happen, one tap for a fish; the stream that keeps it so.

use super::ok;
use crate::device::Looking;
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::http::header::{CACHE_CONTROL, ContentEncoding};
use actix_web::rt::time::sleep;
use actix_web::web::{Bytes, Data, Query};
use futures_util::stream::unfold;
use motilis_view::forms::boat::TripForm;
use motilis_view::present::{self, BoatAsk, InstrumentsAsk, Told};
use motilis_view::units::System;
use serde::Deserialize;
use std::path::Path;
use std::time::Duration;

/// No phone is told more often than once a second of the boat's time, nor than this.
const A_SECOND: Duration = Duration::from_millis(950);
const OFTEN: Duration = Duration::from_millis(200);

/// What the page is asked to show beside the boat.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    logged: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    act: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    out: Option<u8>,
    #[serde(rename = "in", deserialize_with = "motilis_view::forms::lenient")]
    taken: Option<u8>,
    said: String,
}

impl Ask {
    fn told(&self) -> Told {
        let which = |rod: u8| match rod {
            0 => "All rods".to_owned(),
            rod => format!("Rod {rod}"),
        };
        let said = match self.said.as_str() {
            "marked" => Some("Fish marked.".to_owned()),
            "wound" => Some("Line taken in.".to_owned()),
            "changed" => Some("Rods changed; set them out with the new rig.".to_owned()),
            _ => None,
        };
        let out = self.out.map(|rod| format!("{} out.", which(rod)));
        Told {
            logged: self.logged,
            moved: out
                .or(self.taken.map(|rod| format!("{} aboard.", which(rod))))
                .or(said),
            ..Told::default()
        }
    }
}

/// `GET /boat`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let ask = BoatAsk {
        told: ask.told(),
        act: ask.act,
        throttle: throttle(&app),
        ..BoatAsk::default()
    };
    ok(&page(&app, looking.0, ask).await?)
}

/// The page with all that is known.
pub(crate) async fn page(
    app: &App,
    device: motilis_view::Device,
    ask: BoatAsk,
) -> Result<motilis_view::screens::Boat, Error> {
    let (told, now, version) = (app.live().told(), app.now(), app.version());
    app.ask(move |book| Ok(present::boat(book, device, &told, &ask, (now, version))?))
        .await
}

/// Throttle of a simulated boat.
pub(crate) fn throttle(app: &App) -> Option<motilis_core::units::MetresPerSecond> {
    let boat = app.live().boat()?;
    let boat = boat
        .lock()
        .unwrap_or_else(std::sync::PoisonError::into_inner);
    Some(boat.helm.throttled())
}

fn now_json(app: &App, system: System) -> String {
    let now = present::boat_now(&app.live().told(), &app.beside(), app.now(), system);
    serde_json::to_string(&now).unwrap_or_else(|_| "{}".to_owned())
}

/// `GET /boat/now.json`: for a browser whose stream does not hold.
pub(crate) async fn now(app: Data<App>, looking: Looking) -> HttpResponse {
    HttpResponse::Ok()
        .content_type("application/json")
        .body(now_json(&app, looking.0.system))
}

/// `GET /boat/live`: server-sent events, one a second while something changes.
pub(crate) async fn live(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let place = app.stream().ok_or_else(|| {
        Error::Crowded("too many look on at once; this page asks again by itself".into())
    })?;
    let system = looking.0.system;
    let changes = app.live().changes();
    let stream = unfold(
        (changes, app, place, false),
        move |(mut changes, app, place, told)| async move {
            if told {
                let pace = app.live().clock().pace().max(1.0);
                sleep(A_SECOND.div_f64(pace).max(OFTEN)).await;
                changes.changed().await.ok()?;
            }
            changes.mark_unchanged();
            let event = format!("data: {}\n\n", now_json(&app, system));
            Some((
                Ok::<_, actix_web::Error>(Bytes::from(event)),
                (changes, app, place, true),
            ))
        },
    );
    Ok(HttpResponse::Ok()
        .content_type("text/event-stream")
        .insert_header((CACHE_CONTROL, "no-store"))
        // Packed, it would wait for more.
        .insert_header(ContentEncoding::Identity)
        .streaming(stream))
}

/// `GET /boat/plan`: the plan alone.
pub(crate) async fn plan(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let (told, now, system) = (app.live().told(), app.now(), looking.0.system);
    let part = app
        .ask(move |book| Ok(present::boat_plan(book, &told, now, system)?))
        .await?;
    ok(&part)
}

/// `GET /boat/set-out`
pub(crate) async fn set_out(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let (told, now) = (app.live().told(), app.now());
    let page = app
        .ask(move |book| Ok(present::set_out(book, looking.0, &told, now)?))
        .await?;
    ok(&page)
}

/// Whether something was just set.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Set {
    set: String,
}

/// `GET /boat/instruments`
pub(crate) async fn instruments(
    app: Data<App>,
    looking: Looking,
    set: Query<Set>,
) -> Result<HttpResponse, Error> {
    let ask = InstrumentsAsk {
        saved: !set.set.is_empty(),
        ..InstrumentsAsk::default()
    };
    ok(&instruments_page(&app, looking.0, ask).await?)
}

/// The page of the instruments.
pub(crate) async fn instruments_page(
    app: &App,
    device: motilis_view::Device,
    ask: InstrumentsAsk,
) -> Result<motilis_view::screens::Instruments, Error> {
    let (told, now) = (app.live().told(), app.now());
    let ask = InstrumentsAsk {
        recording: app.live().recording(),
        rides: rides(app),
        throttle: throttle(app),
        ..ask
    };
    app.ask(move |book| Ok(present::instruments(book, device, &told, ask, now)?))
        .await
}

/// Names of the recordings there are, by name.
pub(crate) fn rides(app: &App) -> Vec<String> {
    let Ok(folder) = std::fs::read_dir(app.rides()) else {
        return Vec::new();
    };
    let mut names: Vec<String> = folder
        .flatten()
        .filter_map(|entry| entry.file_name().into_string().ok())
        .filter(|name| {
            Path::new(name)
                .extension()
                .is_some_and(|kind| kind == "nmea")
        })
        .collect();
    names.sort();
    names
}

/// `GET /boat/practice`
pub(crate) async fn practice(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    ok(&practice_page(&app, looking.0, TripForm::default()).await?)
}

/// The page with the trip's form.
pub(crate) async fn practice_page(
    app: &App,
    device: motilis_view::Device,
    trip: TripForm,
) -> Result<motilis_view::screens::Practice, Error> {
    let now = app.now();
    app.ask(move |book| Ok(present::practice(book, device, trip, now)?))
        .await
}

/// `GET /phone`
pub(crate) async fn phone(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let addresses = app.addresses().to_vec();
    let secure = addresses
        .iter()
        .any(|address| address.starts_with("https://"));
    let page = app
        .ask(move |book| Ok(present::phone(book, looking.0, &addresses, secure)?))
        .await?;
    ok(&page)
}
