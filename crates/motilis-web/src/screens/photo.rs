//! Photographs of fish.

use super::see;
use crate::device::Borne;
use crate::{App, Error};
use actix_multipart::form::MultipartForm;
use actix_multipart::form::tempfile::TempFile;
use actix_multipart::form::text::Text;
use actix_web::HttpResponse;
use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE};
use actix_web::web::{Data, Path};
use motilis_core::book::EventId;
use motilis_helm::{Act, LogAct};
use motilis_store::photographs::{self, Photograph};
use std::io::Read;

/// Largest photograph, bytes.
const MOST: u64 = 6 * 1024 * 1024;

/// A picture, or the wish to take it away.
#[derive(Debug, MultipartForm)]
pub(crate) struct Taken {
    #[multipart(limit = "6MiB")]
    file: Option<TempFile>,
    act: Option<Text<String>>,
    #[multipart(rename = "_act")]
    number: Option<Text<String>>,
    #[multipart(rename = "_book")]
    book: Option<Text<u64>>,
}

/// What a picture is, by its first bytes: what it is called does not matter.
fn kind(bytes: &[u8]) -> Option<&'static str> {
    match bytes {
        [0xff, 0xd8, 0xff, ..] => Some("image/jpeg"),
        [0x89, b'P', b'N', b'G', ..] => Some("image/png"),
        [
            b'R',
            b'I',
            b'F',
            b'F',
            _,
            _,
            _,
            _,
            b'W',
            b'E',
            b'B',
            b'P',
            ..,
        ] => Some("image/webp"),
        _ => None,
    }
}

/// `GET /log/{event}/photo`
pub(crate) async fn show(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let id = EventId(*id);
    let photo = app
        .ask(move |book| Ok(photographs::get(book.connection(), id)?))
        .await?;
    let photo = photo.ok_or_else(|| Error::NotFound("that entry has no photograph".into()))?;
    Ok(HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, photo.kind))
        .insert_header((CACHE_CONTROL, "no-cache"))
        .body(photo.bytes))
}

/// `POST /log/{event}/photo`
pub(crate) async fn keep(
    app: Data<App>,
    id: Path<i64>,
    sent: MultipartForm<Taken>,
) -> Result<HttpResponse, Error> {
    let (id, sent) = (EventId(*id), sent.into_inner());
    if sent.book.is_some_and(|book| *book != app.file_said().book) {
        return Err(Error::OtherBook);
    }
    let mut bytes = Vec::new();
    if let Some(sent) = sent.file {
        let read = sent.file.as_file().take(MOST + 1).read_to_end(&mut bytes);
        read.map_err(|error| Error::BadRequest(format!("the file could not be read: {error}")))?;
    }
    let number = sent.number.map(Text::into_inner).unwrap_or_default();
    let borne = Borne::numbered(number, &bytes);
    let photo = if sent.act.is_some_and(|act| *act == "remove") {
        None
    } else {
        let kind = kind(&bytes).ok_or_else(|| {
            Error::BadRequest(
                "that is no photograph that is kept here; choose one in JPEG, PNG or WebP".into(),
            )
        })?;
        Some(Box::new(Photograph {
            kind: kind.to_owned(),
            bytes,
        }))
    };
    app.do_act(&borne, Act::Log(LogAct::Photo(id, photo)))
        .await?;
    Ok(see(&format!("/log?edit={}#entry-{}", id.0, id.0)))
}
