//! Parts of a file, before they go into the box.

use super::bare_frame;
use crate::screens::{Choice, ImportRow, ImportScreen, Screen};
use crate::seen::Device;
use crate::units::System;
use crate::words::{self, bench as say};
use motilis_core::book::{BoxPart, PartId};
use motilis_formats::{Format, Reading, Record};
use motilis_helm::{Book, Error};
use motilis_store::parts;

/// Most records shown in a preview.
const MOST_ROWS: usize = 500;

/// The form, with a text that was pasted.
///
/// # Errors
/// [`Error::Store`].
pub fn blank(
    book: &Book<'_>,
    device: Device,
    text: String,
    format: Format,
) -> Result<ImportScreen, Error> {
    let key = if format == Format::Csv { "csv" } else { "json" };
    Ok(ImportScreen {
        frame: bare_frame(book, Screen::Box, device, "/box/import")?,
        refusal: None,
        text,
        format: Choice::list([("csv", "CSV"), ("json", "JSON")], key),
        rows: Vec::new(),
        summary: String::new(),
        sound: false,
    })
}

/// What a file would do to the box.
///
/// # Errors
/// [`Error::Store`].
pub fn preview(
    book: &Book<'_>,
    device: Device,
    text: String,
    format: Format,
    reading: &Reading,
) -> Result<ImportScreen, Error> {
    let known = parts::all(book.connection())?;
    let rows: Vec<ImportRow> = reading
        .records
        .iter()
        .map(|record| row(record, &known, device.system))
        .collect();
    let count = |fate: &str| rows.iter().filter(|row| row.fate == fate).count();
    let wrong = count("wrong");
    let more = if rows.len() > MOST_ROWS {
        format!(" The first {MOST_ROWS} are shown, wrong ones first.")
    } else {
        String::new()
    };
    let summary = format!(
        "{} {}: {} new, {} more of what lies there, {} changed, {} the same, {wrong} wrong.{more}{}",
        rows.len(),
        if rows.len() == 1 { "line" } else { "lines" },
        count("new"),
        count("more of one"),
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
        ..blank(book, device, text, format)?
    })
}

fn row(record: &Record, known: &[(PartId, BoxPart)], system: System) -> ImportRow {
    match &record.part {
        Ok(boxed) => {
            let before = known
                .iter()
                .find(|(id, _)| Some(*id) == record.id)
                .map(|(_, boxed)| boxed);
            let beside = || {
                let alike = |(_, lies): &&(PartId, BoxPart)| lies.is_alike(boxed);
                record.id.is_none() && known.iter().any(|lies| alike(&lies))
            };
            ImportRow {
                line: record.line,
                words: format!(
                    "{}, {} left",
                    words::capital(&say::part(&boxed.part)),
                    say::left(&boxed.part, boxed.left, system)
                ),
                fate: match before {
                    None if beside() => "more of one",
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
