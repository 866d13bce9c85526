//! Switches: the theme of this device, the units of the boat.

use super::{THEME_COOKIE, back, see, system, theme_of};
use crate::{App, Error};
use actix_web::cookie::{Cookie, SameSite, time::Duration};
use actix_web::web::{Data, Form};
use actix_web::{HttpRequest, HttpResponse};
use motilis_store::settings;
use serde::Deserialize;

/// Where to come back to.
#[derive(Deserialize)]
pub(crate) struct Switch {
    #[serde(default)]
    back: String,
}

/// `POST /settings/theme`
pub(crate) async fn theme(request: HttpRequest, form: Form<Switch>) -> HttpResponse {
    let cookie = Cookie::build(THEME_COOKIE, theme_of(&request).other().key())
        .path("/")
        .same_site(SameSite::Strict)
        .http_only(true)
        .max_age(Duration::days(400))
        .finish();
    let mut response = see(back(&form.back));
    // The name and the value are ours, so the cookie can be written.
    let _ = response.add_cookie(&cookie);
    response
}

/// `POST /settings/units`
pub(crate) async fn units(app: Data<App>, form: Form<Switch>) -> Result<HttpResponse, Error> {
    app.write(|connection| {
        let other = system(connection)?.other();
        Ok(settings::set(connection, "units", other.key())?)
    })
    .await?;
    // Figures in the address are in the old units: they are left behind.
    let path = back(&form.back);
    Ok(see(path.split('?').next().unwrap_or(path)))
}
