//! Experiments: begun, swapped, ended.

use super::{Nothing, follow, ok, see};
use crate::app::Reading;
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path};
use motilis_core::book::ExperimentId;
use motilis_helm::{Act, ExperimentAct};
use motilis_view::forms::{Texts, experiment as form};
use motilis_view::present;
use std::collections::hash_map::RandomState;
use std::hash::{BuildHasher, Hasher};

/// `GET /log/experiment`
pub(crate) async fn show(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let now = app.now();
    let page = app
        .ask(move |book| Ok(present::experiments(book, looking.0, now, None)?))
        .await?;
    ok(&page)
}

/// `POST /log/experiments`
pub(crate) async fn begin(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (form, device, now) = (sent.form, sent.device, app.now());
    // The order of the deal is drawn anew each time; the record keeps what it was drawn from.
    let seed = RandomState::new().build_hasher().finish();
    let outcome = app
        .act(&sent.borne, move |book| {
            match form::read(book, &form, (device.system, now, seed))? {
                Ok(experiment) => {
                    let act = ExperimentAct::Begin(Box::new(experiment));
                    Ok(Reading::Act(Act::Experiment(act)))
                }
                Err(back) => {
                    let page = present::experiments(book, device, now, Some(back))?;
                    Ok(Reading::Page(page))
                }
            }
        })
        .await?;
    follow(outcome, |_| "/log/experiment".into())
}

/// `POST /log/experiments/{experiment}/swap`
pub(crate) async fn swap(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let act = ExperimentAct::Swap(ExperimentId(*id));
    app.do_act(&sent.borne, Act::Experiment(act)).await?;
    Ok(see("/log/experiment"))
}

/// `POST /log/experiments/{experiment}/end`
pub(crate) async fn end(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let act = ExperimentAct::End(ExperimentId(*id));
    app.do_act(&sent.borne, Act::Experiment(act)).await?;
    Ok(see("/log/experiment"))
}
