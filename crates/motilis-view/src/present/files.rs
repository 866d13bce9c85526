//! The log's files: what comes in, before it does.

use super::frame;
use crate::screens::{FilesScreen, LogImportRow, Screen};
use crate::seen::Device;
use motilis_helm::{Book, Coming, Error, Fate, LogImport};

/// Most records shown in a preview.
const MOST_ROWS: usize = 300;

/// The page with nothing read yet.
///
/// # Errors
/// [`Error::Store`].
pub fn files(book: &Book<'_>, device: Device) -> Result<FilesScreen, Error> {
    Ok(FilesScreen {
        frame: frame(book.here_if_any()?, Screen::Log, device, "/log/files"),
        done: None,
        refusal: None,
        text: String::new(),
        json: false,
        rows: Vec::new(),
        summary: String::new(),
        sound: false,
    })
}

fn fate(fate: Fate) -> &'static str {
    match fate {
        Fate::New => "new",
        Fate::Changed => "changed",
        Fate::Same => "same",
        Fate::Wrong => "wrong",
    }
}

fn row(coming: &Coming) -> LogImportRow {
    let at = coming
        .at
        .map(|at| at.strftime("%-d %b %Y %H:%M UTC").to_string());
    let words: Vec<String> = [Some(coming.what.to_owned()), at, Some(coming.name.clone())]
        .into_iter()
        .flatten()
        .filter(|text| !text.is_empty())
        .collect();
    let problems = coming.problems.iter();
    LogImportRow {
        line: coming.line,
        words: words.join(", "),
        fate: fate(coming.fate),
        problems: problems
            .map(|(field, message)| format!("{field}: {message}"))
            .collect(),
    }
}

/// What a file would do to the log.
///
/// # Errors
/// [`Error::Store`].
pub fn log_preview(
    book: &Book<'_>,
    device: Device,
    (text, json): (String, bool),
    import: &LogImport,
) -> Result<FilesScreen, Error> {
    let [new, changed, same, wrong] =
        [Fate::New, Fate::Changed, Fate::Same, Fate::Wrong].map(|fate| import.count(fate));
    let mut telling: Vec<&Coming> = import
        .records
        .iter()
        .filter(|coming| coming.fate != Fate::Same)
        .collect();
    telling.sort_by_key(|coming| coming.fate != Fate::Wrong);
    let more = if telling.len() > MOST_ROWS {
        format!(" The first {MOST_ROWS} that are not the same are shown, wrong ones first.")
    } else {
        String::new()
    };
    let then = match (wrong, new + changed) {
        (0, 0) => " Nothing to take in: all of it is here.",
        (0, _) => "",
        _ => " Correct the wrong ones; nothing is taken in until then.",
    };
    Ok(FilesScreen {
        rows: telling.into_iter().take(MOST_ROWS).map(row).collect(),
        summary: format!(
            "{} records: {new} new, {changed} changed, {same} the same, {wrong} wrong.{more}{then}",
            import.records.len()
        ),
        sound: import.is_sound(),
        text,
        json,
        ..files(book, device)?
    })
}
