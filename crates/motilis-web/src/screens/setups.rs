//! Line set-ups: what the rods are rigged with, every depth tool among them.

use super::{Gone, follow, ok};
use crate::app::Reading;
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use motilis_core::book::SetupId;
use motilis_core::line::LineSetup;
use motilis_helm::{Act, SetupAct};
use motilis_view::forms::{Texts, setup as form};
use motilis_view::present::setups;

fn of_new() -> (String, String) {
    ("/setups".into(), "A new set-up".into())
}

fn of_kept(id: SetupId, setup: &LineSetup) -> (String, String) {
    (format!("/setups/{}", id.0), setup.name.clone())
}

/// `GET /setups`
pub(crate) async fn list(
    app: Data<App>,
    looking: Looking,
    gone: Query<Gone>,
) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| {
            let usual = LineSetup {
                name: String::new(),
                ..LineSetup::usual()?
            };
            let (action, head) = of_new();
            let mut form = form::shown(&usual, action, head, looking.0);
            form.base.clear();
            Ok(setups(book, looking.0, form, gone.deleted)?)
        })
        .await?;
    ok(&page)
}

/// `GET /setups/{setup}`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    id: Path<i64>,
) -> Result<HttpResponse, Error> {
    let id = SetupId(*id);
    let page = app
        .ask(move |book| {
            let setup = book.setup(id)?;
            let (action, head) = of_kept(id, &setup);
            let form = form::shown(&setup, action, head, looking.0);
            Ok(setups(book, looking.0, form, None)?)
        })
        .await?;
    ok(&page)
}

/// `POST /setups`
pub(crate) async fn add(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (texts, device) = (sent.form, sent.device);
    let outcome = app
        .act(&sent.borne, move |book| {
            Ok(match form::read(&texts, None, None, of_new(), device) {
                Ok(setup) => Reading::Act(Act::Setup(SetupAct::Add(Box::new(setup)))),
                Err(form) => Reading::Page(setups(book, device, *form, None)?),
            })
        })
        .await?;
    follow(outcome, |_| "/setups".into())
}

/// `POST /setups/{setup}`
pub(crate) async fn save(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, texts, device) = (SetupId(*id), sent.form, sent.device);
    let base = sent.borne.base.clone();
    let outcome = app
        .act(&sent.borne, move |book| {
            let kept = book.setup(id)?;
            let read = form::read(
                &texts,
                base.as_deref(),
                Some(&kept),
                of_kept(id, &kept),
                device,
            );
            Ok(match read {
                Ok(setup) => Reading::Act(Act::Setup(SetupAct::Change(id, Box::new(setup)))),
                Err(form) => Reading::Page(setups(book, device, *form, None)?),
            })
        })
        .await?;
    follow(outcome, |_| "/setups".into())
}
