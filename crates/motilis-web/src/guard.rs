//! Who may ask: this machine's own pages, under this machine's own names.
//!
//! A page of another site can make a browser send requests here. Such a request carries a foreign
//! `Origin`, or reaches us under a foreign name that was pointed at this machine (DNS rebinding). The
//! first is refused on every request that can change anything, the second always: it could read, too.

use crate::Error;
use actix_web::ResponseError;
use actix_web::body::{EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::header::{self, HeaderName, HeaderValue};
use actix_web::http::{Method, Uri};
use actix_web::middleware::Next;
use actix_web::web::Data;
use std::net::IpAddr;

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

const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; \
     font-src 'self'; connect-src 'self'; manifest-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";

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
