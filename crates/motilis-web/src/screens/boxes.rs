//! Box: parts in their trays, made-up rigs, what to buy, files in and out.

use super::upload::{Upload, file};
use super::{Nothing, back, follow, made, ok, refused, see};
use crate::app::{Outcome, Reading};
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_multipart::form::MultipartForm;
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use motilis_core::book::{DeedId, MadeId, MadeState, PartId, plain_text};
use motilis_formats::{Format, read, write};
use motilis_helm::{Act, BoxAct};
use motilis_store::{made as made_rigs, parts};
use motilis_view::forms::{Texts, merge};
use motilis_view::present::{self, BoxLook};
use motilis_view::screens::{BreakOff, ImportScreen};
use std::fmt::Write;

/// `GET /box`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    look: Query<BoxLook>,
) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| Ok(present::boxes(book, looking.0, &look)?))
        .await?;
    ok(&page)
}

/// `POST /box/made/{made}/state`
pub(crate) async fn set_state(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, form, base) = (MadeId(*id), sent.form, sent.borne.base.clone());
    let outcome: Outcome<BreakOff> = app
        .act(&sent.borne, move |book| {
            let kept = made_rigs::get(book.connection(), id)?;
            let now = [("state", kept.state.key()), ("place", kept.place.as_str())];
            let now = now.map(|(name, text)| (name.to_owned(), text.to_owned())).into();
            let merged = merge(&form, base.as_deref(), &now);
            if let Some((field, theirs)) = merged.conflicts.first() {
                return Err(Error::BadRequest(format!(
                    "{field} was changed to {theirs} meanwhile, on another page or device; look at it as it is now"
                )));
            }
            let text = |name: &str| merged.texts.get(name).map_or("", String::as_str).trim();
            let state = MadeState::from_key(text("state")).ok_or_else(|| {
                Error::BadRequest("a made-up rig is new, used or re-tie; choose one".into())
            })?;
            let place = text("place").to_owned();
            plain_text("place", &place, 60).map_err(|error| Error::BadRequest(error.to_string()))?;
            Ok(Reading::Act(Act::Box(BoxAct::State(id, state, place))))
        })
        .await?;
    follow(outcome, |_| "/box?tray=made".into())
}

/// `POST /box/made/{made}/dismantle`
pub(crate) async fn dismantle(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let act = BoxAct::Dismantle(MadeId(*id));
    let deed = made(app.do_act(&sent.borne, Act::Box(act)).await?);
    Ok(see(&format!("/box?tray=made&done=dismantled&deed={deed}")))
}

/// `GET /box/made/{made}/break-off`
pub(crate) async fn broken(
    app: Data<App>,
    looking: Looking,
    id: Path<i64>,
) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| {
            Ok(present::broken(
                book,
                looking.0,
                MadeId(*id),
                &Texts::new(),
            )?)
        })
        .await?;
    ok(&page)
}

/// `POST /box/made/{made}/break-off`
pub(crate) async fn break_off(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, form, device) = (MadeId(*id), sent.form, sent.device);
    let outcome = app
        .act(&sent.borne, move |book| {
            let page = present::broken(book, device, id, &form)?;
            if page.parts.iter().any(|row| row.problem.is_some()) {
                return Ok(Reading::Page(page));
            }
            let rows = page.parts.iter();
            let came = rows
                .filter_map(|row| Some((PartId(row.part), row.field.trim().parse::<f64>().ok()?)));
            let came = came.filter(|(_, count)| *count > 0.0).collect();
            Ok(Reading::Act(Act::Box(BoxAct::BreakOff(id, came))))
        })
        .await?;
    follow(outcome, |done| {
        format!("/box?tray=made&done=lost&deed={}", made(done))
    })
}

/// `POST /box/deeds/{deed}/undo`
pub(crate) async fn undo(
    app: Data<App>,
    deed: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let act = BoxAct::Undo(DeedId(*deed));
    let undone = app.do_act(&sent.borne, Act::Box(act)).await?.made.is_some();
    let to = back(sent.form.get("back").map_or("/box", String::as_str));
    if undone && to.starts_with("/bench/") {
        return Ok(see(to));
    }
    let done = if undone { "undone" } else { "used" };
    Ok(see(&format!("/box?tray=made&done={done}")))
}

async fn export(app: &App, format: Format) -> Result<String, Error> {
    app.ask(move |book| Ok(write(&parts::all(book.connection())?, format)))
        .await
}

/// `GET /box/export.csv`
pub(crate) async fn export_csv(app: Data<App>) -> Result<HttpResponse, Error> {
    let body = export(&app, Format::Csv).await?;
    Ok(file("text/csv; charset=utf-8", "box.csv", body))
}

/// `GET /box/export.json`
pub(crate) async fn export_json(app: Data<App>) -> Result<HttpResponse, Error> {
    let body = export(&app, Format::Json).await?;
    Ok(file("application/json", "box.json", body))
}

/// `GET /box/import`
pub(crate) async fn import_form(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| {
            let blank = present::import_form(book, looking.0, String::new(), Format::Csv);
            Ok(blank?)
        })
        .await?;
    ok(&page)
}

/// `POST /box/import`: a preview, or all of it.
pub(crate) async fn import(
    app: Data<App>,
    looking: Looking,
    sent: MultipartForm<Upload>,
) -> Result<HttpResponse, Error> {
    let (device, mut sent) = (looking.0, sent.into_inner());
    let (bytes, format) = sent.bytes();
    let reading = read(&bytes, format);
    let wants_all = sent.wants_all();
    let borne = sent.borne(&bytes);
    // What is no text cannot be shown again.
    let text = String::from_utf8(bytes).unwrap_or_default();
    let outcome: Outcome<ImportScreen> = app
        .act(&borne, move |book| {
            let reading = match reading {
                Ok(reading) => reading,
                Err(refusal) => {
                    let mut page = present::import_form(book, device, text, format)?;
                    page.refusal = Some(format!("Not imported: {refusal}."));
                    return Ok(Reading::Page(page));
                }
            };
            if let (true, Some(sound)) = (wants_all, reading.sound()) {
                let records = sound.into_iter().map(|(id, boxed)| (id, boxed.clone()));
                return Ok(Reading::Act(Act::Box(BoxAct::Import(records.collect()))));
            }
            Ok(Reading::Page(present::preview(
                book, device, text, format, &reading,
            )?))
        })
        .await?;
    match outcome {
        Outcome::Done(done) => Ok(see(&match done.made {
            Some(came) => format!("/box?tray=new&done=imported&came={came}"),
            None => "/box?done=imported".to_owned(),
        })),
        Outcome::Page(page) if page.sound => ok(&page),
        Outcome::Page(page) => refused(&page),
    }
}

/// `POST /box/import/undo`: the box as it was before the last import.
pub(crate) async fn undo_import(
    app: Data<App>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let done = app
        .do_act(&sent.borne, Act::Box(BoxAct::UndoImport))
        .await?;
    let done = done.made.map_or("used", |_| "undone");
    Ok(see(&format!("/box?done={done}")))
}

/// `GET /box/shopping`
pub(crate) async fn shopping(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| Ok(present::shopping(book, looking.0)?))
        .await?;
    ok(&page)
}

/// `GET /box/shopping.txt`
pub(crate) async fn shopping_text(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let (rows, _) = app
        .ask(move |book| Ok(present::shopping_rows(book, looking.0.system)?))
        .await?;
    let mut list = String::new();
    for row in rows {
        // Writing to a text cannot fail.
        let _ = writeln!(list, "{} × {} ({} left)", row.buy, row.words, row.left);
    }
    Ok(file("text/plain; charset=utf-8", "shopping.txt", list))
}

/// `GET /box/shopping.csv`
pub(crate) async fn shopping_csv(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let (rows, _) = app
        .ask(move |book| Ok(present::shopping_rows(book, looking.0.system)?))
        .await?;
    let records = rows
        .into_iter()
        .map(|row| [row.buy, row.words, row.left, row.cost]);
    let list = motilis_formats::table(["buy", "part", "left", "cost"], records);
    Ok(file("text/csv; charset=utf-8", "shopping.csv", list))
}
