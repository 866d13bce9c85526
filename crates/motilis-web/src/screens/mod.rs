//! One module for each screen: what is asked of the helm, what is done, which page answers.

pub(crate) mod aboard;
pub(crate) mod acts;
pub(crate) mod bench;
pub(crate) mod boat;
pub(crate) mod boat_acts;
pub(crate) mod boxes;
pub(crate) mod column;
pub(crate) mod data;
pub(crate) mod evidence;
pub(crate) mod experiment;
pub(crate) mod files;
pub(crate) mod find;
pub(crate) mod health;
pub(crate) mod installed;
pub(crate) mod judging;
pub(crate) mod log;
pub(crate) mod lures;
pub(crate) mod motion;
pub(crate) mod outings;
pub(crate) mod parts;
pub(crate) mod photo;
pub(crate) mod river;
pub(crate) mod settings;
pub(crate) mod setups;
pub(crate) mod sheet;
pub(crate) mod spread;
pub(crate) mod spread_acts;
pub(crate) mod start;
pub(crate) mod tank;
pub(crate) mod today;
pub(crate) mod track;
mod upload;
pub(crate) mod waters;

use crate::Error;
use crate::app::Outcome;
use actix_web::http::header;
use actix_web::{HttpResponse, HttpResponseBuilder};
use askama::Template;
use motilis_helm::Done;

/// A page with its status.
pub(crate) fn page(
    mut response: HttpResponseBuilder,
    page: &impl Template,
) -> Result<HttpResponse, Error> {
    Ok(response
        .content_type("text/html; charset=utf-8")
        .body(page.render()?))
}

/// A page that answers.
pub(crate) fn ok(template: &impl Template) -> Result<HttpResponse, Error> {
    page(HttpResponse::Ok(), template)
}

/// A page that says what is wrong.
pub(crate) fn refused(template: &impl Template) -> Result<HttpResponse, Error> {
    page(HttpResponse::UnprocessableEntity(), template)
}

/// Sends the browser on after a change.
pub(crate) fn see(address: &str) -> HttpResponse {
    HttpResponse::SeeOther()
        .insert_header((header::LOCATION, address))
        .finish()
}

/// Sends the browser on after an act, or shows the page with what is wrong.
pub(crate) fn follow<P: Template>(
    outcome: Outcome<P>,
    address: impl FnOnce(Done) -> String,
) -> Result<HttpResponse, Error> {
    match outcome {
        Outcome::Done(done) => Ok(see(&address(done))),
        Outcome::Page(template) => refused(&template),
    }
}

/// Number of the record an act made.
pub(crate) fn made(done: Done) -> i64 {
    done.made.unwrap_or_default()
}

/// A path of ours to come back to; Today for anything else.
pub(crate) fn back(path: &str) -> &str {
    let ours = path.starts_with('/')
        && !path.starts_with("//")
        && path.chars().all(|c| c.is_ascii_graphic() && c != '\\');
    if ours { path } else { "/today" }
}

/// The screen a form was on, to come back to.
pub(crate) fn home(screen: &str) -> &'static str {
    match screen {
        "boat" => "/boat",
        "set-out" => "/boat/set-out",
        _ => "/log",
    }
}

/// A form without fields of its own.
#[derive(Debug, Default, serde::Deserialize)]
pub(crate) struct Nothing {}

/// What an address says was just thrown away.
#[derive(Debug, Default, serde::Deserialize)]
#[serde(default)]
pub(crate) struct Gone {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    pub deleted: Option<i64>,
}

#[cfg(test)]
mod tests {
    use super::back;
    use rstest::rstest;

    #[rstest]
    #[case("/tank?rig=3", "/tank?rig=3")]
    #[case("//evil.example", "/today")]
    #[case("https://evil.example", "/today")]
    #[case("/\\evil.example", "/today")]
    #[case("/log\r\nSet-Cookie: a=b", "/today")]
    #[case("", "/today")]
    fn only_a_path_of_ours_is_come_back_to(#[case] asked: &str, #[case] gone: &str) {
        assert_eq!(back(asked), gone);
    }
}
