//! Evidence: what the log tells.

use super::ok;
use crate::device::Looking;
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Query};
use motilis_view::present::{EvidenceLook, evidence};
use serde::Deserialize;

/// What the page is asked for.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    fish: String,
    by: String,
    crossed: String,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    a: Option<usize>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    b: Option<usize>,
}

/// `GET /evidence`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let look = EvidenceLook {
        fish: ask.fish.clone(),
        by: ask.by.clone(),
        crossed: ask.crossed.clone(),
        a: ask.a,
        b: ask.b,
    };
    let page = app
        .ask(move |book| Ok(evidence(book, looking.0, &look)?))
        .await?;
    ok(&page)
}
