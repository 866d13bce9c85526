//! The box as a file, out and in; nothing goes in by halves.

use super::shopping::file;
use crate::screens::{page, see, theme_of};
use crate::{App, Error};
use actix_multipart::form::MultipartForm;
use actix_multipart::form::bytes::Bytes;
use actix_multipart::form::text::Text;
use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::book::{BoxPart, PartId};
use motilis_formats::{Format, Reading, Record, read, write};
use motilis_store::{Connection, parts, settings};
use motilis_view::screens::{Choice, ImportRow, ImportScreen, Screen, Theme};
use motilis_view::words::{self, bench as say};

/// Most records shown in a preview.
const MOST_ROWS: usize = 500;

/// `GET /box/export.csv`
pub(crate) async fn export_csv(app: Data<App>) -> Result<HttpResponse, Error> {
    let all = app
        .read(|connection| Ok::<_, Error>(parts::all(connection)?))
        .await?;
    Ok(file(
        "text/csv; charset=utf-8",
        "box.csv",
        write(&all, Format::Csv),
    ))
}

/// `GET /box/export.json`
pub(crate) async fn export_json(app: Data<App>) -> Result<HttpResponse, Error> {
    let all = app
        .read(|connection| Ok::<_, Error>(parts::all(connection)?))
        .await?;
    Ok(file(
        "application/json",
        "box.json",
        write(&all, Format::Json),
    ))
}

/// A file, or its text pasted; and what to do with it.
#[derive(Debug, MultipartForm)]
pub(crate) struct Sent {
    #[multipart(limit = "4MiB")]
    file: Option<Bytes>,
    #[multipart(limit = "4MiB")]
    text: Option<Text<String>>,
    format: Option<Text<String>>,
    act: Option<Text<String>>,
}

/// `GET /box/import`
pub(crate) async fn import_form(
    app: Data<App>,
    request: HttpRequest,
) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let screen = app
        .read(move |connection| blank(connection, theme, String::new(), Format::Csv))
        .await?;
    page(HttpResponse::Ok(), &screen)
}

fn blank(
    connection: &Connection,
    theme: Theme,
    text: String,
    format: Format,
) -> Result<ImportScreen, Error> {
    let key = if format == Format::Csv { "csv" } else { "json" };
    Ok(ImportScreen {
        frame: crate::screens::frame(connection, Screen::Box, theme, "/box/import")?,
        refusal: None,
        text,
        format: Choice::list([("csv", "CSV"), ("json", "JSON")], key),
        rows: Vec::new(),
        summary: String::new(),
        sound: false,
    })
}

/// `POST /box/import`: a preview, or all of it.
pub(crate) async fn import(
    app: Data<App>,
    request: HttpRequest,
    sent: MultipartForm<Sent>,
) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let sent = sent.into_inner();
    let (bytes, named) = match sent.file.filter(|file| !file.data.is_empty()) {
        Some(file) => (file.data.to_vec(), file.file_name.unwrap_or_default()),
        None => (
            sent.text
                .map_or_else(Vec::new, |text| text.into_inner().into_bytes()),
            String::new(),
        ),
    };
    let asked = sent.format.map(Text::into_inner).unwrap_or_default();
    let is_json = asked == "json"
        || std::path::Path::new(&named)
            .extension()
            .is_some_and(|end| end.eq_ignore_ascii_case("json"));
    let format = if is_json { Format::Json } else { Format::Csv };
    let reading = read(&bytes, format);
    // What is no text cannot be shown again.
    let text = String::from_utf8(bytes).unwrap_or_default();
    let wants_all = sent.act.is_some_and(|act| act.into_inner() == "import");
    match reading {
        Err(refusal) => {
            let mut screen = app
                .read(move |connection| blank(connection, theme, text, format))
                .await?;
            screen.refusal = Some(format!("Not imported: {refusal}."));
            page(HttpResponse::UnprocessableEntity(), &screen)
        }
        Ok(reading) if wants_all && reading.sound().is_some() => {
            app.write(move |connection| put_all(connection, &reading))
                .await?;
            Ok(see("/box?tray=low&done=imported"))
        }
        Ok(reading) => {
            let sound = reading.sound().is_some();
            let screen = app
                .read(move |connection| preview(connection, theme, text, format, &reading))
                .await?;
            let response = if sound {
                HttpResponse::Ok()
            } else {
                HttpResponse::UnprocessableEntity()
            };
            page(response, &screen)
        }
    }
}

/// The setting that keeps the box as it was before the last import.
const BEFORE: &str = "box_before_import";

/// Every part of a sound file into the box; what was there before is kept aside.
fn put_all(connection: &Connection, reading: &Reading) -> Result<(), Error> {
    let before = write(&parts::all(connection)?, Format::Json);
    settings::set(connection, BEFORE, &before)?;
    for (id, boxed) in reading.sound().into_iter().flatten() {
        parts::import(connection, id, boxed)?;
    }
    Ok(())
}

/// `POST /box/import/undo`: the box as it was before the last import.
pub(crate) async fn undo_import(app: Data<App>) -> Result<HttpResponse, Error> {
    let now = app.now();
    let undone = app
        .write(move |connection| {
            let kept = settings::get(connection, BEFORE)?.unwrap_or_default();
            let Ok(reading) = read(kept.as_bytes(), Format::Json) else {
                return Ok(false);
            };
            let records = reading.records.into_iter();
            let before: Vec<(PartId, BoxPart)> = records
                .filter_map(|record| Some((record.id?, record.part.ok()?)))
                .collect();
            parts::put_back(connection, &before, now)?;
            settings::set(connection, BEFORE, "")?;
            Ok::<_, Error>(true)
        })
        .await?;
    Ok(see(if undone {
        "/box?done=undone"
    } else {
        "/box?done=used"
    }))
}

fn preview(
    connection: &Connection,
    theme: Theme,
    text: String,
    format: Format,
    reading: &Reading,
) -> Result<ImportScreen, Error> {
    let known = parts::all(connection)?;
    let rows: Vec<ImportRow> = reading
        .records
        .iter()
        .map(|record| row(record, &known))
        .collect();
    let count = |fate: &str| rows.iter().filter(|row| row.fate == fate).count();
    let wrong = count("wrong");
    let more = if rows.len() > MOST_ROWS {
        format!(" The first {MOST_ROWS} are shown, wrong ones first.")
    } else {
        String::new()
    };
    let summary = format!(
        "{} lines: {} new, {} changed, {} the same, {wrong} wrong.{more}{}",
        rows.len(),
        count("new"),
        count("changed"),
        count("same"),
        if wrong > 0 {
            " Correct the wrong ones; nothing is imported until then."
        } else {
            ""
        }
    );
    let mut shown = rows;
    if shown.len() > MOST_ROWS {
        shown.sort_by_key(|row| row.fate != "wrong");
        shown.truncate(MOST_ROWS);
    }
    Ok(ImportScreen {
        summary,
        sound: wrong == 0 && !shown.is_empty(),
        rows: shown,
        ..blank(connection, theme, text, format)?
    })
}

fn row(record: &Record, known: &[(PartId, BoxPart)]) -> ImportRow {
    match &record.part {
        Ok(boxed) => {
            let before = known
                .iter()
                .find(|(id, _)| Some(*id) == record.id)
                .map(|(_, boxed)| boxed);
            ImportRow {
                line: record.line,
                words: format!(
                    "{}, {} left",
                    words::capital(&say::part(&boxed.part)),
                    say::left(&boxed.part, boxed.left)
                ),
                fate: match before {
                    None => "new",
                    Some(before) if before == boxed => "same",
                    Some(_) => "changed",
                },
                problems: Vec::new(),
            }
        }
        Err(problems) => ImportRow {
            line: record.line,
            words: "cannot be read".into(),
            fate: "wrong",
            problems: problems
                .iter()
                .map(|problem| format!("{}: {}", problem.field, problem.message))
                .collect(),
        },
    }
}
