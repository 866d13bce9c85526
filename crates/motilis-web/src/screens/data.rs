//! The data file: copies, a look through it, mending, clearing out, going back to a copy.

use super::{Nothing, ok, refused, see};
use crate::device::{Borne, Looking, Sent};
use crate::upkeep::Upkept;
use crate::{App, Error};
use actix_files::NamedFile;
use actix_multipart::form::MultipartForm;
use actix_multipart::form::tempfile::TempFile;
use actix_multipart::form::text::Text;
use actix_web::http::header::{
    CONTENT_TYPE, ContentDisposition, DispositionParam, DispositionType,
};
use actix_web::web::{Data, Path, Query, block};
use actix_web::{HttpResponse, Responder};
use jiff::Timestamp;
use motilis_helm::Error as Helm;
use motilis_store::Store;
use motilis_store::check;
use motilis_store::copies::Why;
use motilis_store::tidy;
use motilis_view::present::{self, DataLook};
use motilis_view::words::data as say;
use serde::Deserialize;
use sha2::{Digest, Sha256};
use std::io::{BufRead, BufReader};

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
        "in" => "The book is the one you brought.".to_owned(),
        "aside" => "It is back where it was.".to_owned(),
        // Said in full by what was done; nothing else is taken from an address.
        "mend" | "tidy" => app.upkept().said.clone().unwrap_or_default(),
        _ => String::new(),
    };
    let copy = app.store().copies().get(&copy).map(|copy| copy.name());
    let look = DataLook {
        done: (!words.is_empty()).then_some((words, copy)),
        ..looked(&app)
    };
    let store = app.store().clone();
    let page = app
        .ask(move |book| Ok(present::data(book, looking.0, &store, look)?))
        .await?;
    ok(&page)
}

/// What the program knows of the file.
fn looked(app: &App) -> DataLook {
    let upkept = app.upkept();
    DataLook {
        checked: upkept.checked.clone(),
        tidying: upkept.tidying,
        no_copy: upkept.no_copy.clone(),
        ..DataLook::default()
    }
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
pub(crate) async fn out(app: Data<App>, name: Path<String>) -> Result<impl Responder, Error> {
    let copy = app.store().copies().get(&name);
    let copy = copy.ok_or_else(no_copy)?;
    let name = copy.name();
    // Piece by piece: a large book is not held in memory for each device that saves it.
    let file = NamedFile::open(&copy.path)?;
    let file = file.set_content_disposition(ContentDisposition {
        disposition: DispositionType::Attachment,
        parameters: vec![DispositionParam::Filename(name)],
    });
    Ok(file
        .customize()
        .insert_header((CONTENT_TYPE, "application/vnd.sqlite3")))
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

/// A copy from another device.
#[derive(Debug, MultipartForm)]
pub(crate) struct Brought {
    #[multipart(limit = "256MiB")]
    file: Option<TempFile>,
    #[multipart(rename = "_act")]
    number: Option<Text<String>>,
}

/// `POST /data`: a copy from another device takes the place of the book, as one of the copies here does.
pub(crate) async fn put_in(
    app: Data<App>,
    looking: Looking,
    sent: MultipartForm<Brought>,
) -> Result<HttpResponse, Error> {
    let Brought { file, number } = sent.into_inner();
    let file = file.filter(|file| file.size > 0);
    let name = file.as_ref().and_then(|file| file.file_name.clone());
    let name = name.unwrap_or_else(|| "the file".to_owned());
    let number = number.map(Text::into_inner).unwrap_or_default();
    let why = match file {
        None => say::NO_FILE.to_owned(),
        Some(file) => {
            // Two copies of one name are often of one size, too: what is in it tells them apart.
            let digest = move || {
                let mut digest = Sha256::new();
                let mut bytes = BufReader::with_capacity(64 * 1024, file.file.as_file());
                while let read = bytes.fill_buf()?
                    && !read.is_empty()
                {
                    digest.update(read);
                    let length = read.len();
                    bytes.consume(length);
                }
                Ok::<_, std::io::Error>((file, digest.finalize()))
            };
            let (file, digest) = block(digest).await.map_err(|_| Error::Stopped)??;
            let borne = Borne::numbered(number, &digest);
            let work = move |store: &Store, upkept: &mut Upkept| {
                let (kept, _) = store.restore(file.file.path(), Timestamp::now())?;
                *upkept = Upkept::default();
                Ok(format!("/data?done=in&copy={}", kept.name()))
            };
            match app.work(&borne, work).await {
                Ok(address) => return Ok(see(&address)),
                Err(Error::Helm(Helm::Store(error))) => {
                    say::not_put_in(&error, &name).ok_or(Error::Helm(Helm::Store(error)))?
                }
                Err(other) => return Err(other),
            }
        }
    };
    let look = DataLook {
        not_in: Some(why),
        ..looked(&app)
    };
    let store = app.store().clone();
    let page = app
        .ask(move |book| Ok(present::data(book, looking.0, &store, look)?))
        .await?;
    refused(&page)
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
