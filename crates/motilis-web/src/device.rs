//! What a request says of itself: the device it comes from, and the seal of what it asks for.

use crate::Error;
use crate::access::Aboard;
use actix_web::dev::Payload;
use actix_web::web::{Form, Query};
use actix_web::{FromRequest, HttpMessage, HttpRequest};
use jiff::{SignedDuration, Timestamp};
use motilis_helm::Seal;
use motilis_view::screens::Theme;
use motilis_view::units::System;
use motilis_view::{Device, FileSaid, Role};
use serde::Deserialize;
use serde::de::DeserializeOwned;
use std::collections::hash_map::DefaultHasher;
use std::future::{Future, Ready, ready};
use std::hash::{Hash, Hasher};
use std::pin::Pin;
use std::sync::atomic::{AtomicU64, Ordering};

/// Cookies that remember a device's theme and units.
pub(crate) const THEME_COOKIE: &str = "motilis-theme";
pub(crate) const UNITS_COOKIE: &str = "motilis-units";

/// Day or night, as this device chose.
pub(crate) fn theme_of(request: &HttpRequest) -> Theme {
    let cookie = request.cookie(THEME_COOKIE);
    cookie.map_or_else(Theme::default, |cookie| Theme::from_key(cookie.value()))
}

/// A number no other page of this data file has: the second this program began, and a count.
fn page_number() -> u64 {
    static NEXT: AtomicU64 = AtomicU64::new(0);
    let start = || Timestamp::now().as_second().unsigned_abs() << 24;
    let _ = NEXT.compare_exchange(0, start(), Ordering::Relaxed, Ordering::Relaxed);
    NEXT.fetch_add(1, Ordering::Relaxed)
}

/// The units an address says its figures are in.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
struct Units {
    #[serde(rename = "_units")]
    units: Option<String>,
}

/// The device as it asks: its theme, and the units of the form or address, or else its own.
pub(crate) fn device_of(request: &HttpRequest, said: Option<&str>) -> Device {
    let own = request.cookie(UNITS_COOKIE);
    let key = said.or(own.as_ref().map(actix_web::cookie::Cookie::value));
    let app = request.app_data::<actix_web::web::Data<crate::App>>();
    let usual = || app.map_or_else(System::default, |app| app.usual_units());
    Device {
        theme: theme_of(request),
        system: key.map_or_else(usual, System::from_key),
        page: page_number(),
        file: app.map_or_else(FileSaid::default, |app| app.file_said()),
        role: request
            .extensions()
            .get::<Aboard>()
            .map_or(Role::Captain, |aboard| aboard.role),
    }
}

/// The device of a request without a form.
pub(crate) struct Looking(pub Device);

impl FromRequest for Looking {
    type Error = actix_web::Error;
    type Future = Ready<Result<Self, Self::Error>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let said = Query::<Units>::from_query(request.query_string());
        let said = said.ok().and_then(|units| units.into_inner().units);
        ready(Ok(Self(device_of(request, said.as_deref()))))
    }
}

/// What a form bears beside its fields.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Borne {
    #[serde(rename = "_act")]
    act: String,
    #[serde(rename = "_units")]
    units: Option<String>,
    /// What stood in the form when it was shown.
    #[serde(rename = "_base")]
    pub base: Option<String>,
    /// Version of the record that was shown.
    #[serde(rename = "_seen", deserialize_with = "motilis_view::forms::lenient")]
    pub seen: Option<i64>,
    /// The book of the page that it was sent from.
    #[serde(rename = "_book", deserialize_with = "motilis_view::forms::lenient")]
    book: Option<u64>,
    /// Milliseconds since it was asked for: more than a few when the link was down.
    #[serde(rename = "_age", deserialize_with = "motilis_view::forms::lenient")]
    age: Option<u32>,
    #[serde(skip)]
    asked: String,
}

/// A form with what it bears.
pub(crate) struct Sent<T> {
    /// Its fields.
    pub form: T,
    /// What it bears beside them.
    pub borne: Borne,
    /// The device, with the units the form was typed in.
    pub device: Device,
}

impl Borne {
    /// What an upload bears: the number it was given, and its bytes.
    pub fn numbered(act: String, bytes: &[u8]) -> Self {
        let mut hasher = DefaultHasher::new();
        bytes.hash(&mut hasher);
        Self {
            act,
            asked: format!("upload-{:016x}", hasher.finish()),
            ..Self::default()
        }
    }

    /// What an act bears that is done together with this one.
    pub fn and(&self, what: &str) -> Self {
        Self {
            act: if self.act.is_empty() {
                String::new()
            } else {
                format!("{}-{what}", self.act)
            },
            asked: format!("{}-{what}", self.asked),
            ..self.clone()
        }
    }

    /// Whether a record is meant by its number, and the page that named it is of another book: there that number is another
    /// record's. A tap on a rod names none, and is taken into whatever book there is.
    fn is_of_another_book(&self, request: &HttpRequest) -> bool {
        let names = |step: &str| !step.is_empty() && step.bytes().all(|b| b.is_ascii_digit());
        let app = request.app_data::<actix_web::web::Data<crate::App>>();
        let there = app.map(|app| app.file_said().book);
        // A script says nothing of a book and means the one there is.
        self.book.is_some_and(|book| there != Some(book)) && request.path().split('/').any(names)
    }

    /// The seal of the act that the form asks for.
    pub fn seal(&self, now: Timestamp, pace: f64) -> Seal {
        let waited = f64::from(self.age.unwrap_or(0)) * pace;
        let age = SignedDuration::from_millis(waited as i64);
        Seal {
            // A script that gives no number asks for something new each time.
            id: if self.act.is_empty() {
                format!("unnumbered-{:x}", page_number())
            } else {
                self.act.clone()
            },
            asked: self.asked.clone(),
            at: to_the_second(now.checked_sub(age).unwrap_or(now)),
            now: to_the_second(now),
        }
    }
}

fn to_the_second(at: Timestamp) -> Timestamp {
    Timestamp::from_second(at.as_second()).unwrap_or(at)
}

/// What exactly was asked for: the address and every field but the number and the age.
fn asked(request: &HttpRequest, pairs: &[(String, String)]) -> String {
    let mut hasher = DefaultHasher::new();
    request
        .uri()
        .path_and_query()
        .map(ToString::to_string)
        .hash(&mut hasher);
    let fields = pairs
        .iter()
        .filter(|(name, _)| name != "_act" && name != "_age");
    fields.for_each(|field| field.hash(&mut hasher));
    format!("{:016x}", hasher.finish())
}

fn read<T: DeserializeOwned>(pairs: &[(String, String)]) -> Result<T, Error> {
    let unreadable = |error: &dyn std::fmt::Display| {
        Error::BadRequest(format!("the form could not be read: {error}"))
    };
    let text = serde_urlencoded::to_string(pairs).map_err(|error| unreadable(&error))?;
    serde_urlencoded::from_str(&text).map_err(|error| unreadable(&error))
}

impl<T: DeserializeOwned + 'static> FromRequest for Sent<T> {
    type Error = actix_web::Error;
    type Future = Pin<Box<dyn Future<Output = Result<Self, Self::Error>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let form = Form::<Vec<(String, String)>>::from_request(request, payload);
        let query = Query::<Borne>::from_query(request.query_string());
        let request = request.clone();
        Box::pin(async move {
            // A button without a form of its own, such as an undo, sends nothing.
            let empty = request
                .headers()
                .get(actix_web::http::header::CONTENT_LENGTH)
                .is_none_or(|length| length == "0");
            let pairs = match form.await {
                Ok(form) => form.into_inner(),
                Err(_) if empty => Vec::new(),
                Err(error) => return Err(error),
            };
            let mut borne: Borne = read(&pairs)?;
            if borne.is_of_another_book(&request) {
                return Err(Error::OtherBook.into());
            }
            borne.seen = borne.seen.or(query.ok().and_then(|query| query.seen));
            borne.asked = asked(&request, &pairs);
            Ok(Self {
                form: read(&pairs)?,
                device: device_of(&request, borne.units.as_deref()),
                borne,
            })
        })
    }
}
