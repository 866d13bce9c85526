//! Plugs and spoons with the angler's own dive tables.

use super::{Gone, follow, ok};
use crate::app::Reading;
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Query};
use motilis_helm::{Act, LureAct};
use motilis_view::forms::lure::{RawLure, read};
use motilis_view::present::lures;

/// `GET /lures`
pub(crate) async fn list(
    app: Data<App>,
    looking: Looking,
    gone: Query<Gone>,
) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| Ok(lures(book, looking.0, None, gone.deleted)?))
        .await?;
    ok(&page)
}

/// `POST /lures`
pub(crate) async fn add(app: Data<App>, sent: Sent<RawLure>) -> Result<HttpResponse, Error> {
    let (raw, device) = (sent.form, sent.device);
    let outcome = app
        .act(&sent.borne, move |book| {
            let (form, lure) = read(&raw, device.system, false);
            Ok(match lure {
                Some(lure) => Reading::Act(Act::Lure(LureAct::Add(Box::new(lure)))),
                None => Reading::Page(lures(book, device, Some(form), None)?),
            })
        })
        .await?;
    follow(outcome, |_| "/lures".into())
}
