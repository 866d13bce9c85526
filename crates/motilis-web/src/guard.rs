//! Who may ask: this machine's own pages, under this machine's own names.
//!
//! A page of another site can make a browser send requests here. Such a request carries a foreign
//! `Origin`, or reaches us under a foreign name that was pointed at this machine (DNS rebinding). The
//! first is refused on every request that can change anything, the second always: it could read, too.

use crate::access::{Aboard, is_for_all, may};
use crate::{App, Error};
use actix_web::body::{self, EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::header::{self, HeaderName, HeaderValue};
use actix_web::http::{Method, Uri};
use actix_web::middleware::Next;
use actix_web::web::Data;
use actix_web::{HttpMessage, ResponseError};
use jiff::Timestamp;
use motilis_view::Role;
use std::net::IpAddr;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::Duration;

/// Names under which this server may be asked.
#[derive(Debug, Clone, Default)]
pub struct Hosts {
    /// Names allowed beside `localhost` and plain addresses.
    pub named: Vec<String>,
}

impl Hosts {
    /// Whether a `Host` may be used: a name cannot be rebound to us if it is no name but an address.
    fn allows(&self, host: &str) -> bool {
        let Ok(uri) = host.parse::<Uri>() else {
            return false;
        };
        let Some(name) = uri.host() else {
            return false;
        };
        let bare = name.trim_start_matches('[').trim_end_matches(']');
        name.eq_ignore_ascii_case("localhost")
            || bare.parse::<IpAddr>().is_ok()
            || self
                .named
                .iter()
                .any(|known| known.eq_ignore_ascii_case(name))
    }
}

/// What is on its way to the server at once: each holds memory until it is whole.
#[derive(Debug)]
pub(crate) struct Bodies {
    files: AtomicUsize,
    forms: AtomicUsize,
}

impl Default for Bodies {
    fn default() -> Self {
        Self {
            files: AtomicUsize::new(FILES),
            forms: AtomicUsize::new(FORMS),
        }
    }
}

/// Files and forms that may be on their way at once, and for how long.
const FILES: usize = 6;
const FORMS: usize = 64;
const FILE_TIME: Duration = Duration::from_mins(2);
const FORM_TIME: Duration = Duration::from_secs(30);

/// A place among those on their way; given back whatever becomes of it.
struct Place<'a>(&'a AtomicUsize);

impl<'a> Place<'a> {
    fn among(left: &'a AtomicUsize) -> Option<Self> {
        let taken = left.fetch_update(Ordering::AcqRel, Ordering::Acquire, |left| {
            left.checked_sub(1)
        });
        // Made only when it was taken: one that is dropped gives a place back.
        taken.is_ok().then(|| Self(left))
    }
}

impl Drop for Place<'_> {
    fn drop(&mut self) {
        self.0.fetch_add(1, Ordering::AcqRel);
    }
}

/// Lets so many files and forms in at once, and waits for none without end.
pub(crate) async fn bodies<B: MessageBody + 'static>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B>>, actix_web::Error> {
    if matches!(*request.method(), Method::GET | Method::HEAD) {
        return Ok(next.call(request).await?.map_into_left_body());
    }
    let bodies = request
        .app_data::<Data<Bodies>>()
        .cloned()
        .unwrap_or_default();
    let is_file = request
        .headers()
        .get(header::CONTENT_TYPE)
        .is_some_and(|kind| kind.as_bytes().starts_with(b"multipart/"));
    let (left, time) = if is_file {
        (&bodies.files, FILE_TIME)
    } else {
        (&bodies.forms, FORM_TIME)
    };
    let Some(_place) = Place::among(left) else {
        let busy = Error::Crowded(
            "others are sending just now; nothing was changed: do it again in a moment".into(),
        );
        return Ok(request
            .into_response(busy.error_response())
            .map_into_right_body());
    };
    match actix_web::rt::time::timeout(time, next.call(request)).await {
        Ok(answered) => Ok(answered?.map_into_left_body()),
        Err(_) => Err(Error::Slow.into()),
    }
}

/// Lets in who sits at this machine and who is signed in, each as far as their role goes.
pub(crate) async fn aboard<B: MessageBody + 'static>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B>>, actix_web::Error> {
    let who = who(&request);
    let path = request.path().to_owned();
    let refused = match who {
        Some(aboard) if may(aboard.role, request.method(), &path) => {
            request.extensions_mut().insert(aboard);
            return Ok(next.call(request).await?.map_into_left_body());
        }
        Some(aboard) => {
            request.extensions_mut().insert(aboard);
            let text = match aboard.role {
                Role::Guest => "a guest looks on: nothing can be changed or carried away from here",
                _ => "that is the captain’s: ask them, or sign in by the captain’s pass phrase",
            };
            Error::Forbidden(text.into()).error_response()
        }
        None if is_for_all(&path) => return Ok(next.call(request).await?.map_into_left_body()),
        None if is_page(&request) => {
            let back = request
                .uri()
                .path_and_query()
                .map_or("/", |asked| asked.as_str());
            let query = serde_urlencoded::to_string([("back", back)]).unwrap_or_default();
            crate::screens::see(&format!("/sign-in?{query}"))
        }
        None => Error::SignIn.error_response(),
    };
    Ok(request.into_response(refused).map_into_right_body())
}

/// Whether a person waits for a page, and not a script for a part of one.
fn is_page(request: &ServiceRequest) -> bool {
    let has = |name: &str, value: &str| {
        let header = request
            .headers()
            .get(name)
            .and_then(|header| header.to_str().ok());
        header.is_some_and(|header| header.contains(value))
    };
    *request.method() == Method::GET
        && has("accept", "text/html")
        && !request.headers().contains_key("hx-request")
}

/// Who asks: the captain where nobody is asked or who asks sits at this machine, else whose session it is.
fn who(request: &ServiceRequest) -> Option<Aboard> {
    let app = request.app_data::<Data<App>>()?;
    let access = app.access();
    if !access.asks() || (is_here(request) && !access.asks_everybody()) {
        return Some(Aboard {
            role: Role::Captain,
            session: None,
        });
    }
    let cookie = request.cookie(session_cookie(request.app_config().secure()))?;
    access.who(cookie.value(), Timestamp::now())
}

/// Whether who asks sits at this machine. What another program passes on comes from there, and is somebody else's.
fn is_here(request: &ServiceRequest) -> bool {
    let passed_on = ["forwarded", "x-forwarded-for", "x-real-ip", "via"];
    request
        .peer_addr()
        .is_some_and(|peer| peer.ip().to_canonical().is_loopback())
        && !passed_on
            .iter()
            .any(|name| request.headers().contains_key(*name))
}

/// Name of the cookie with a session's token; over https bound to this host.
pub(crate) fn session_cookie(secure: bool) -> &'static str {
    if secure {
        "__Host-motilis-session"
    } else {
        "motilis-session"
    }
}

const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; \
     font-src 'self'; connect-src 'self'; manifest-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";

/// Writes a line a request, where the log asks for them (`RUST_LOG=info`).
pub(crate) async fn told<B: MessageBody + 'static>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<B>, actix_web::Error> {
    let began = std::time::Instant::now();
    let (method, path) = (request.method().clone(), request.path().to_owned());
    let peer = request.peer_addr();
    let answered = next.call(request).await;
    let status = answered
        .as_ref()
        .map_or(0, |response| response.status().as_u16());
    // A guest card is a key: it stays out of the log.
    let path = if path.starts_with("/guest/") {
        "/guest/…"
    } else {
        &path
    };
    let ms = began.elapsed().as_secs_f64() * 1e3;
    tracing::info!(%method, path, status, ms, peer = peer.map(tracing::field::display), "request");
    answered
}

/// Answers a `HEAD` as its `GET`, without what the answer holds: a watcher may ask so.
pub(crate) async fn heads<B: MessageBody + 'static>(
    mut request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B, body::None>>, actix_web::Error> {
    if *request.method() != Method::HEAD {
        return Ok(next.call(request).await?.map_into_left_body());
    }
    request.head_mut().method = Method::GET;
    let answered = next.call(request).await?;
    Ok(answered.map_body(|_, _| EitherBody::right(body::None::new())))
}

/// Refuses foreign hosts, and foreign origins on every change.
pub(crate) async fn strangers<B: MessageBody + 'static>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B>>, actix_web::Error> {
    let hosts = request
        .app_data::<Data<Hosts>>()
        .map(|hosts| hosts.as_ref().clone());
    if let Err(error) = check(&request, &hosts.unwrap_or_default()) {
        return Ok(request
            .into_response(error.error_response())
            .map_into_right_body());
    }
    Ok(next.call(request).await?.map_into_left_body())
}

fn check(request: &ServiceRequest, hosts: &Hosts) -> Result<(), Error> {
    let text = |name: HeaderName| -> Result<Option<&str>, Error> {
        let mut values = request.headers().get_all(&name);
        let first = values.next();
        if values.next().is_some() {
            return Err(Error::Forbidden(format!(
                "the request has more than one {name}"
            )));
        }
        first
            .map(|value| value.to_str())
            .transpose()
            .map_err(|_| Error::Forbidden(format!("the request's {name} cannot be read")))
    };
    let host = text(header::HOST)?.unwrap_or_default();
    if !hosts.allows(host) {
        return Err(Error::Forbidden(
            "this server does not answer under that name; open it by its address, or start it with --host NAME".into(),
        ));
    }
    if matches!(*request.method(), Method::GET | Method::HEAD) {
        return Ok(());
    }
    if let Some(origin) = text(header::ORIGIN)? {
        let authority = origin.split_once("://").map(|(_, authority)| authority);
        if authority.is_none_or(|authority| !authority.eq_ignore_ascii_case(host)) {
            return Err(Error::Forbidden(
                "this change was asked for by a page of another site".into(),
            ));
        }
    }
    let site = text(HeaderName::from_static("sec-fetch-site"))?;
    if matches!(site, Some("cross-site" | "same-site")) {
        return Err(Error::Forbidden(
            "this change was asked for by a page of another site".into(),
        ));
    }
    Ok(())
}

/// Tells the browser to run nothing and fetch nothing but what ships with the program.
pub(crate) async fn headers<B: MessageBody + 'static>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<B>, actix_web::Error> {
    let mut response = next.call(request).await?;
    let headers = response.headers_mut();
    for (name, value) in [
        (header::CONTENT_SECURITY_POLICY, POLICY),
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::REFERRER_POLICY, "same-origin"),
        (header::X_FRAME_OPTIONS, "DENY"),
    ] {
        headers.insert(name, HeaderValue::from_static(value));
    }
    if !headers.contains_key(header::CACHE_CONTROL) {
        headers.insert(header::CACHE_CONTROL, HeaderValue::from_static("no-store"));
    }
    Ok(response)
}

#[cfg(test)]
mod tests {
    use super::Hosts;
    use rstest::rstest;

    #[rstest]
    #[case("127.0.0.1:8080", true)]
    #[case("localhost", true)]
    #[case("LOCALHOST:80", true)]
    #[case("[::1]:8080", true)]
    #[case("192.168.4.1", true)]
    #[case("heron.local:8080", true)]
    #[case("evil.example", false)]
    #[case("127.0.0.1.evil.example", false)]
    #[case("localhost.evil.example:8080", false)]
    #[case("", false)]
    #[case("a b", false)]
    fn only_our_own_names_are_allowed(#[case] host: &str, #[case] allowed: bool) {
        let hosts = Hosts {
            named: vec!["heron.local".into()],
        };
        assert_eq!(hosts.allows(host), allowed);
    }
}
