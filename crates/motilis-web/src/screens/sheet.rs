//! The tying sheet: preview for the browser's print, and the same as PDF.

use super::ok;
use crate::device::Looking;
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::http::header::{CONTENT_DISPOSITION, CONTENT_TYPE};
use actix_web::web::{self, Data, Path, Query};
use motilis_core::book::RigId;
use motilis_store::rigs;
use motilis_view::draw::{Paper, Sheet};
use motilis_view::present;
use serde::Deserialize;

/// On which paper.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct On {
    paper: String,
}

impl On {
    fn paper(&self) -> Result<Paper, Error> {
        if self.paper.is_empty() {
            return Ok(Paper::A4);
        }
        Paper::from_key(&self.paper).ok_or_else(|| {
            Error::BadRequest(format!(
                "there is no paper {}; sheets are printed on a4 and letter",
                motilis_formats::quoted(&self.paper)
            ))
        })
    }
}

/// `GET /bench/{rig}/sheet`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    rig: Path<i64>,
    on: Query<On>,
) -> Result<HttpResponse, Error> {
    let (id, paper) = (RigId(*rig), on.paper()?);
    let page = app
        .ask(move |book| Ok(present::sheet(book, looking.0, id, paper)?))
        .await?;
    ok(&page)
}

/// `GET /bench/{rig}/sheet.pdf`
pub(crate) async fn pdf(
    app: Data<App>,
    rig: Path<i64>,
    on: Query<On>,
) -> Result<HttpResponse, Error> {
    let (id, paper) = (RigId(*rig), on.paper()?);
    let board = app
        .ask(move |book| Ok(rigs::board(book.connection(), id)?))
        .await?;
    let pdf = web::block(move || {
        let svg = askama::Template::render(&Sheet::of_board(&board, paper).alone())?;
        Ok::<_, Error>(motilis_print::pdf(&svg)?)
    })
    .await
    .map_err(|_| Error::Stopped)??;
    Ok(HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, "application/pdf"))
        .insert_header((
            CONTENT_DISPOSITION,
            format!("attachment; filename=\"rig-{}.pdf\"", id.0),
        ))
        .body(pdf))
}
