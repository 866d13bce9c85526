//! The log's files: out as CSV and JSON, in with a preview; the whole book.

use super::upload::{Upload, file};
use super::{ok, refused, see};
use crate::app::{Outcome, Reading};
use crate::device::Looking;
use crate::{App, Error};
use actix_multipart::form::MultipartForm;
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use motilis_formats::{
    Format, read_log, write_casts, write_entries, write_fish, write_log, write_passes,
};
use motilis_helm::{Act, LogAct, LogImport, WholeLog};
use motilis_store::archive;
use motilis_view::present;
use motilis_view::screens::FilesScreen;
use serde::Deserialize;

/// What was just done.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    came: Option<u32>,
}

/// `GET /log/files`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let done = ask.came.map(|came| format!("{came} records came in."));
    let page = app
        .ask(move |book| {
            let page = present::files(book, looking.0)?;
            Ok(FilesScreen { done, ..page })
        })
        .await?;
    ok(&page)
}

/// `GET /log/files/{name}`
pub(crate) async fn out(app: Data<App>, name: Path<String>) -> Result<HttpResponse, Error> {
    let name = name.into_inner();
    let wanted = name.clone();
    let (kind, body) = app
        .ask(move |book| {
            let connection = book.connection();
            let log = || WholeLog::load(connection);
            let (json, csv) = ("application/json", "text/csv; charset=utf-8");
            Ok(match wanted.as_str() {
                "log.json" => {
                    let log = log()?;
                    let whole = write_log(&log.outings(), &log.passes(), &log.entries());
                    (json, whole)
                }
                "entries.csv" => (csv, write_entries(&log()?.entries())),
                "passes.csv" => (csv, write_passes(&log()?.passes(), Format::Csv)),
                "casts.csv" => (csv, write_casts(&log()?.casts(), Format::Csv)),
                "fish.csv" => (csv, write_fish(&log()?.entries(), Format::Csv)),
                "book.json" => (json, archive::write(connection)?),
                _ => return Err(Error::NotFound(
                    "there is no such file; there are log.json, entries.csv, passes.csv, casts.csv, fish.csv and book.json".into(),
                )),
            })
        })
        .await?;
    Ok(file(kind, &name, body))
}

/// `POST /log/files`: a preview, or all of it.
pub(crate) async fn take_in(
    app: Data<App>,
    looking: Looking,
    sent: MultipartForm<Upload>,
) -> Result<HttpResponse, Error> {
    let (device, mut sent) = (looking.0, sent.into_inner());
    let (bytes, format) = sent.bytes();
    let wants_all = sent.wants_all();
    let borne = sent.borne(&bytes);
    let reading = read_log(&bytes, format);
    // What is no text cannot be sent again.
    let text = String::from_utf8(bytes).unwrap_or_default();
    let outcome: Outcome<FilesScreen> = app
        .act(&borne, move |book| {
            let reading = match reading {
                Ok(reading) => reading,
                Err(refusal) => {
                    let mut page = present::files(book, device)?;
                    page.refusal = Some(format!("Not taken in: {refusal}."));
                    return Ok(Reading::Page(page));
                }
            };
            let import = LogImport::of(book.connection(), reading)?;
            if wants_all && import.is_sound() {
                let act = LogAct::Import(Box::new(import));
                return Ok(Reading::Act(Act::Log(act)));
            }
            let json = format == Format::Json;
            let page = present::log_preview(book, device, (text, json), &import)?;
            Ok(Reading::Page(page))
        })
        .await?;
    match outcome {
        Outcome::Done(done) => Ok(see(&format!(
            "/log/files?came={}",
            done.made.unwrap_or_default()
        ))),
        Outcome::Page(page)
            if page.refusal.is_none() && !page.rows.iter().any(|row| row.fate == "wrong") =>
        {
            ok(&page)
        }
        Outcome::Page(page) => refused(&page),
    }
}
