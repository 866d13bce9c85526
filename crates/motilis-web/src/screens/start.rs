//! The first page of an empty data file: a water, a box, rods, a rig and an outing in one act.

use super::{follow, ok, see};
use crate::app::Reading;
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Query};
use motilis_helm::Act;
use motilis_view::forms::{Texts, start as form};
use motilis_view::present;
use serde::Deserialize;

/// Which door of the rule was tried.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Tried {
    door: String,
}

/// `GET /start`: Today where there is an outing already.
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    tried: Query<Tried>,
) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| {
            if book.here_if_any()?.is_some() {
                return Ok(None);
            }
            Ok(Some(present::start(book, looking.0, &tried.door, None)?))
        })
        .await?;
    page.map_or_else(|| Ok(see("/today")), |page| ok(&page))
}

/// `GET /start/zone`: the page with the time zone that a position proposes.
pub(crate) async fn zone(
    app: Data<App>,
    looking: Looking,
    texts: Query<Texts>,
) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| Ok(present::half_typed(book, looking.0, &texts)?))
        .await?;
    ok(&page)
}

/// `POST /start`
pub(crate) async fn begin(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (texts, device) = (sent.form, sent.device);
    let outcome = app
        .act(&sent.borne, move |book| {
            let read = form::read(&texts, device.system);
            Ok(match read.act {
                Some(act) => Reading::Act(Act::Start(Box::new(act))),
                None => Reading::Page(present::start(book, device, "", Some(read.form))?),
            })
        })
        .await?;
    follow(outcome, |_| "/today".to_owned())
}
