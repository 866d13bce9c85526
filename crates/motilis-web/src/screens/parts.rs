//! A part's own page, and the count of what is left of it.

use super::{follow, made, ok};
use crate::app::{Outcome, Reading};
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path};
use motilis_core::book::PartId;
use motilis_helm::{Act, Book, BoxAct};
use motilis_store::parts;
use motilis_view::Device;
use motilis_view::forms::{Texts, part as form};
use motilis_view::present::{bay_of, box_frame};
use motilis_view::screens::{Frame, PartForm};

fn frame(book: &Book<'_>, device: Device) -> Result<Frame, Error> {
    Ok(box_frame(book, device)?)
}

/// `GET /box/parts/new`
pub(crate) async fn blank(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| Ok(form::read(frame(book, looking.0)?, None, &form::blank()).form))
        .await?;
    ok(&page)
}

/// `POST /box/parts/new`
pub(crate) async fn add(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (texts, device) = (sent.form, sent.device);
    let tray = tray(&texts);
    let outcome = app
        .act(&sent.borne, move |book| {
            let read = form::read(frame(book, device)?, None, &texts);
            Ok(match read.boxed {
                Some(boxed) => Reading::Act(Act::Box(BoxAct::Add(Box::new(boxed)))),
                None => Reading::Page(read.form),
            })
        })
        .await?;
    follow(outcome, |_| format!("/box?tray={tray}&done=saved"))
}

/// The tray of what a form says the part is.
fn tray(texts: &Texts) -> &'static str {
    let (group, style) = texts
        .get("what")
        .and_then(|what| what.split_once('/'))
        .unwrap_or_default();
    motilis_core::rig::What::from_keys(group, style).map_or("blade", bay_of)
}

/// `GET /box/parts/{part}`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    part: Path<i64>,
) -> Result<HttpResponse, Error> {
    let id = PartId(*part);
    let page = app
        .ask(move |book| {
            let kept = parts::get(book.connection(), id)?;
            Ok(form::shown(frame(book, looking.0)?, id, &kept))
        })
        .await?;
    ok(&page)
}

/// `POST /box/parts/{part}`
pub(crate) async fn save(
    app: Data<App>,
    part: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, texts, device) = (PartId(*part), sent.form, sent.device);
    let (tray, base) = (tray(&texts), sent.borne.base.clone());
    let outcome = app
        .act(&sent.borne, move |book| {
            let kept = parts::get(book.connection(), id)?;
            let frame = frame(book, device)?;
            let read = form::read_over(frame, id, &texts, base.as_deref(), &kept);
            Ok(match read.boxed {
                Some(boxed) => Reading::Act(Act::Box(BoxAct::Change(id, Box::new(boxed)))),
                None => Reading::Page(read.form),
            })
        })
        .await?;
    follow(outcome, |_| format!("/box?tray={tray}&done=saved"))
}

/// `POST /box/parts/{part}/count`
pub(crate) async fn count(
    app: Data<App>,
    part: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, device) = (PartId(*part), sent.device);
    let left = sent.form.get("left").cloned().unwrap_or_default();
    let base = sent.borne.base.clone();
    let outcome: Outcome<PartForm> = app
        .act(&sent.borne, move |book| {
            let kept = parts::get(book.connection(), id)?;
            let mut texts = form::typed_of(&kept, device.system);
            texts.insert("left".into(), left);
            let frame = frame(book, device)?;
            let read = form::read_over(frame, id, &texts, base.as_deref(), &kept);
            Ok(match read.boxed {
                Some(boxed) => Reading::Act(Act::Box(BoxAct::Count(id, boxed.left))),
                None => Reading::Page(read.form),
            })
        })
        .await?;
    let tray = app
        .ask(move |book| Ok(bay_of(parts::get(book.connection(), id)?.part.what())))
        .await?;
    follow(outcome, |done| {
        format!("/box?tray={tray}&done=counted&deed={}", made(done))
    })
}
