use super::Frame;
use askama::Template;

/// The data file: where it is, its copies, what is wrong with it.
#[derive(Debug, Template)]
#[template(path = "data.html")]
pub struct DataScreen {
    /// The frame.
    pub frame: Frame,
    /// What was just done, and the copy by which it is taken back.
    pub done: Option<(String, Option<String>)>,
    /// Why a copy from another device was not put in; empty when it was, or none came.
    pub not_in: String,
    /// What is said of how it stands.
    pub says: Vec<String>,
    /// Whether it can be changed.
    pub writable: bool,
    /// Figures: name, figure, what it is.
    pub facts: Vec<(&'static str, String, String)>,
    /// What the last look through it found.
    pub found: Option<Found>,
    /// What clearing out would do, and whether it is worth it.
    pub tidying: Option<(String, bool)>,
    /// Its copies, the newest first.
    pub copies: Vec<CopyRow>,
    /// Records that are set aside.
    pub aside: Vec<AsideRow>,
}

/// What a look through the file found.
#[derive(Debug)]
pub struct Found {
    /// When.
    pub at: String,
    /// What is wrong, and what mends it.
    pub rows: Vec<(String, &'static str)>,
    /// Whether the program can mend some of it.
    pub mends: bool,
}

/// A copy.
#[derive(Debug)]
pub struct CopyRow {
    /// Name of its file.
    pub name: String,
    /// When it was made.
    pub at: String,
    /// Why.
    pub why: String,
    /// How large it is.
    pub size: String,
}

/// A record that is set aside.
#[derive(Debug)]
pub struct AsideRow {
    /// Its number.
    pub id: i64,
    /// What it is, and why it is there.
    pub words: String,
    /// The record as it was.
    pub record: String,
    /// When it was set aside.
    pub at: String,
}
