//! Evidence: what the log tells.

use super::ok;
use super::upload::file;
use crate::device::Looking;
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Query};
use motilis_formats::{Format, write_rates};
use motilis_view::present::{EvidenceLook, evidence, rates};
use serde::Deserialize;

/// What the page is asked for.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    fish: String,
    by: String,
    crossed: String,
    a: String,
    b: String,
}

impl Ask {
    fn look(&self) -> EvidenceLook {
        EvidenceLook {
            fish: self.fish.clone(),
            by: self.by.clone(),
            crossed: self.crossed.clone(),
            a: self.a.clone(),
            b: self.b.clone(),
        }
    }
}

async fn table(app: &App, looking: Looking, ask: &Ask, format: Format) -> Result<String, Error> {
    let look = ask.look();
    app.ask(move |book| Ok(write_rates(&rates(book, looking.0, &look)?, format)))
        .await
}

/// `GET /evidence.csv`
pub(crate) async fn csv(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let body = table(&app, looking, &ask, Format::Csv).await?;
    Ok(file("text/csv; charset=utf-8", "rates.csv", body))
}

/// `GET /evidence.json`
pub(crate) async fn json(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let body = table(&app, looking, &ask, Format::Json).await?;
    Ok(file("application/json", "rates.json", body))
}

/// `GET /evidence`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let look = ask.look();
    let page = app
        .ask(move |book| Ok(evidence(book, looking.0, &look)?))
        .await?;
    ok(&page)
}
