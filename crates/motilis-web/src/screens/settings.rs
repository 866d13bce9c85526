//! Switches of this device, and what of the data file cannot be read.

use super::{back, ok, see};
use crate::device::{Looking, Sent, THEME_COOKIE, UNITS_COOKIE};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::cookie::{Cookie, SameSite, time::Duration};
use actix_web::web::{Data, Form};
use motilis_core::book::plain_text;
use motilis_helm::{Act, BoxAct};
use motilis_view::present::message;
use motilis_view::screens::Theme;
use serde::Deserialize;

/// Where to come back to.
#[derive(Deserialize)]
pub(crate) struct Switch {
    #[serde(default)]
    back: String,
    /// The theme that the page is seen in.
    #[serde(default)]
    seen: String,
}

fn remembering(mut response: HttpResponse, name: &str, value: &str) -> HttpResponse {
    let cookie = Cookie::build(name, value)
        .path("/")
        .same_site(SameSite::Strict)
        .http_only(true)
        .max_age(Duration::days(400))
        .finish();
    // The name and the value are ours, so the cookie can be written.
    let _ = response.add_cookie(&cookie);
    response
}

/// `POST /settings/theme`
pub(crate) async fn theme(looking: Looking, form: Form<Switch>) -> Result<HttpResponse, Error> {
    // What is seen counts: a device may be set to night without having chosen it here.
    let seen = match form.seen.as_str() {
        "dark" => Theme::Night,
        "light" => Theme::Day,
        _ => looking.0.theme,
    };
    let other = seen.other();
    Ok(remembering(
        see(back(&form.back)),
        THEME_COOKIE,
        other.key(),
    ))
}

/// `POST /settings/units`
pub(crate) async fn units(looking: Looking, form: Form<Switch>) -> Result<HttpResponse, Error> {
    let other = looking.0.system.other();
    // Figures in the address are in the old units: they are left behind.
    let path = back(&form.back);
    let path = path.split('?').next().unwrap_or(path);
    Ok(remembering(see(path), UNITS_COOKIE, other.key()))
}

/// `GET /link`: nothing but that the link holds.
pub(crate) async fn link() -> HttpResponse {
    HttpResponse::NoContent().finish()
}

/// Whether a count of the parts is kept.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Count {
    kept: String,
}

/// `POST /settings/count`
pub(crate) async fn count(app: Data<App>, sent: Sent<Count>) -> Result<HttpResponse, Error> {
    let act = BoxAct::KeepCount(sent.form.kept != "no");
    app.do_act(&sent.borne, Act::Box(act)).await?;
    Ok(see("/box"))
}

/// What money is counted in.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Money {
    currency: String,
}

/// `POST /settings/currency`
pub(crate) async fn currency(app: Data<App>, sent: Sent<Money>) -> Result<HttpResponse, Error> {
    let name = sent.form.currency.trim().to_owned();
    plain_text("currency", &name, 6).map_err(|why| Error::BadRequest(why.to_string()))?;
    app.do_act(&sent.borne, Act::Box(BoxAct::CountIn(name)))
        .await?;
    Ok(see("/box"))
}

/// `GET /unread`
pub(crate) async fn unread(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let unread = app.unread();
    let each = unread
        .iter()
        .map(|record| format!("{} number {}: {}", record.what, record.id, record.why));
    let each: Vec<String> = each.collect();
    let sentence = if each.is_empty() {
        "Every record of the data file can be read.".to_owned()
    } else {
        format!(
            "A newer program or a hand wrote what this version does not know: {}. It is kept as it is and left out of lists.",
            each.join("; ")
        )
    };
    ok(&message(looking.0, "What cannot be read", sentence, None))
}
