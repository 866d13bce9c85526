//! The data file: copies, a look through it, mending, clearing out, going back to a copy.

use super::{Nothing, ok, see};
use crate::device::{Looking, Sent};
use crate::upkeep::Upkept;
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::http::header::{CONTENT_DISPOSITION, CONTENT_TYPE};
use actix_web::web::{Data, Path, Query};
use jiff::Timestamp;
use motilis_store::Store;
use motilis_store::check;
use motilis_store::copies::Why;
use motilis_store::tidy;
use motilis_view::present::{self, DataLook};
use motilis_view::words::data as say;
use serde::Deserialize;

/// What was just done, by its name, and the copy by which it is taken back.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    done: String,
    copy: String,
}

/// `GET /data`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let Ask { done, copy } = ask.into_inner();
    let words = match done.as_str() {
        "copy" => "A copy is made.".to_owned(),
        "back" => "The file is as that copy was.".to_owned(),
        "aside" => "It is back where it was.".to_owned(),
        // Said in full by what was done; nothing else is taken from an address.
        "mend" | "tidy" => app.upkept().said.clone().unwrap_or_default(),
        _ => String::new(),
    };
    let copy = app.store().copies().get(&copy).map(|copy| copy.name());
    let look = {
        let upkept = app.upkept();
        DataLook {
            checked: upkept.checked.clone(),
            tidying: upkept.tidying,
            no_copy: upkept.no_copy.clone(),
            done: (!words.is_empty()).then_some((words, copy)),
        }
    };
    let store = app.store().clone();
    let page = app
        .ask(move |book| Ok(present::data(book, looking.0, &store, look)?))
        .await?;
    ok(&page)
}

/// `POST /data/copy`
pub(crate) async fn copy(app: Data<App>, sent: Sent<Nothing>) -> Result<HttpResponse, Error> {
    let work = |store: &Store, _: &mut Upkept| {
        store.read(|connection| {
            store
                .copies()
                .keep(connection, Timestamp::now(), Why::Asked)
        })?;
        Ok("/data?done=copy".to_owned())
    };
    Ok(see(&app.work(&sent.borne, work).await?))
}

/// `GET /data/copies/{name}`
pub(crate) async fn out(app: Data<App>, name: Path<String>) -> Result<HttpResponse, Error> {
    let copy = app.store().copies().get(&name);
    let copy = copy.ok_or_else(no_copy)?;
    let name = copy.name();
    let file = actix_web::web::block(move || std::fs::read(copy.path))
        .await
        .map_err(|_| Error::Stopped)??;
    Ok(HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, "application/vnd.sqlite3"))
        .insert_header((
            CONTENT_DISPOSITION,
            format!("attachment; filename=\"{name}\""),
        ))
        .body(file))
}

/// `POST /data/check`
pub(crate) async fn look_through(
    app: Data<App>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let work = |store: &Store, upkept: &mut Upkept| {
        upkept.checked = Some((Timestamp::now(), store.read(check::all)?));
        Ok("/data#found-head".to_owned())
    };
    Ok(see(&app.work(&sent.borne, work).await?))
}

/// `POST /data/mend`
pub(crate) async fn mend(app: Data<App>, sent: Sent<Nothing>) -> Result<HttpResponse, Error> {
    let work = |store: &Store, upkept: &mut Upkept| {
        let (mended, copy) = check::mend(store, Timestamp::now())?;
        upkept.checked = Some((Timestamp::now(), store.read(check::all)?));
        upkept.said = Some(say::mended(&mended));
        Ok(format!("/data?done=mend&copy={}", copy.name()))
    };
    Ok(see(&app.work(&sent.borne, work).await?))
}

/// Whether it shall be done, or only looked at.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Tidying {
    act: String,
}

/// `POST /data/tidy`
pub(crate) async fn tidy(app: Data<App>, sent: Sent<Tidying>) -> Result<HttpResponse, Error> {
    let (now, done) = (Timestamp::now(), sent.form.act == "do");
    let work = move |store: &Store, upkept: &mut Upkept| {
        if !done {
            upkept.tidying = Some(tidy::preview(store, now)?);
            return Ok("/data".to_owned());
        }
        let (tidied, copy) = tidy::tidy(store, now)?;
        upkept.tidying = None;
        upkept.said = Some(say::tidying(&tidied, true));
        Ok(format!("/data?done=tidy&copy={}", copy.name()))
    };
    Ok(see(&app.work(&sent.borne, work).await?))
}

/// The copy to go back to.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Wanted {
    copy: String,
}

/// `POST /data/restore`
pub(crate) async fn restore(app: Data<App>, sent: Sent<Wanted>) -> Result<HttpResponse, Error> {
    let wanted = sent.form.copy;
    let work = move |store: &Store, upkept: &mut Upkept| {
        let copy = store.copies().get(&wanted).ok_or_else(no_copy)?;
        let (kept, _) = store.restore(&copy.path, Timestamp::now())?;
        *upkept = Upkept::default();
        Ok(format!("/data?done=back&copy={}", kept.name()))
    };
    Ok(see(&app.work(&sent.borne, work).await?))
}

fn no_copy() -> Error {
    Error::NotFound("there is no such copy any more".into())
}

/// `POST /data/aside/{id}/back`
pub(crate) async fn put_back(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let id = *id;
    let work = move |store: &Store, upkept: &mut Upkept| {
        store.write(|connection| check::put_back(connection, id))?;
        upkept.checked = None;
        Ok("/data?done=aside".to_owned())
    };
    Ok(see(&app.work(&sent.borne, work).await?))
}
