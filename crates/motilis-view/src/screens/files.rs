use super::Frame;
use askama::Template;

/// The log's files: out, and in with a preview.
#[derive(Debug, Template)]
#[template(path = "files.html")]
pub struct FilesScreen {
    /// The frame.
    pub frame: Frame,
    /// What was just done.
    pub done: Option<String>,
    /// Why a file is refused as a whole.
    pub refusal: Option<String>,
    /// What was read, to be sent again when it is taken.
    pub text: String,
    /// Whether that is JSON.
    pub json: bool,
    /// Records that are not here just so; empty before a file was read.
    pub rows: Vec<LogImportRow>,
    /// In one line: how many are new, changed, the same, wrong.
    pub summary: String,
    /// Whether all of it may go in.
    pub sound: bool,
}

/// A record of a log that comes in.
#[derive(Debug)]
pub struct LogImportRow {
    /// Its line or place.
    pub line: u64,
    /// "entry, 4 Jun 2026 05:41 UTC, Small wing amber".
    pub words: String,
    /// `new`, `changed` or `wrong`.
    pub fate: &'static str,
    /// What is wrong, field by field.
    pub problems: Vec<String>,
}
