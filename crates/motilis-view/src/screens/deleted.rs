use super::Frame;
use askama::Template;

/// What was thrown away in the last weeks.
#[derive(Debug, Template)]
#[template(path = "deleted.html")]
pub struct Deleted {
    /// The frame.
    pub frame: Frame,
    /// Each record, the newest first.
    pub rows: Vec<DeletedRow>,
}

/// A record in the trash.
#[derive(Debug)]
pub struct DeletedRow {
    /// Its kind, as addresses name it.
    pub key: &'static str,
    /// Its number.
    pub id: i64,
    /// What it is and what it was called.
    pub words: String,
    /// When it was thrown away.
    pub at: String,
}
