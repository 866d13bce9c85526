//! Every address of the application, on one screen.

use crate::error::Error;
use crate::screens::{log, outings, settings, tank, today};
use crate::{api, assets};
use actix_web::web::{self, FormConfig, PathConfig, PayloadConfig, QueryConfig, ServiceConfig};

/// Largest form and largest JSON request taken, bytes.
const FORM_LIMIT: usize = 64 * 1024;
const JSON_LIMIT: usize = 1024 * 1024;

/// Adds every route, and how unreadable requests are answered.
pub fn configure(config: &mut ServiceConfig) {
    let unreadable = |what: &str, error: &dyn std::fmt::Display| -> actix_web::Error {
        Error::BadRequest(format!("the {what} could not be read: {error}")).into()
    };
    config
        .app_data(
            FormConfig::default()
                .limit(FORM_LIMIT)
                .error_handler(move |e, _| unreadable("form", &e)),
        )
        .app_data(QueryConfig::default().error_handler(move |e, _| unreadable("address", &e)))
        .app_data(PathConfig::default().error_handler(|_, _| {
            Error::NotFound("there is no such page; the rule above leads to those there are".into())
                .into()
        }))
        .app_data(PayloadConfig::new(JSON_LIMIT))
        .route("/", web::get().to(today::door))
        .route("/today", web::get().to(today::show))
        .route("/today", web::post().to(today::set))
        .route("/tank", web::get().to(tank::show))
        .route("/log", web::get().to(log::show))
        .route("/log", web::post().to(log::tap))
        .route("/log/line", web::post().to(log::run_line))
        .route("/log/{event}", web::post().to(log::correct))
        .route("/log/{event}/delete", web::post().to(log::delete))
        .route("/log/{event}/undo", web::post().to(log::undo))
        .route("/outings", web::post().to(outings::begin))
        .route("/outings/open", web::post().to(outings::open))
        .route("/outings/{outing}/delete", web::post().to(outings::delete))
        .route("/outings/{outing}/undo", web::post().to(outings::undo))
        .route("/settings/theme", web::post().to(settings::theme))
        .route("/settings/units", web::post().to(settings::units))
        .route("/api/v1/openapi.json", web::get().to(api::document))
        .route("/api/v1/solve/{what}", web::post().to(api::solve))
        .route("/static/{version}/{path:.*}", web::get().to(assets::file));
}
