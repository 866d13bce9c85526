use super::Frame;
use askama::Template;

/// What to let out for depths at speeds, to print and tape to a rod.
#[derive(Debug, Template)]
#[template(path = "line_table.html")]
pub struct LineTable {
    /// The frame.
    pub frame: Frame,
    /// Number of the rig, of the set-up.
    pub of: (i64, i64),
    /// The rig, and what it hangs on.
    pub head: String,
    /// What the line is, and the water.
    pub on: String,
    /// Unit of speeds, of depths.
    pub units: (&'static str, &'static str),
    /// Speeds across.
    pub speeds: Vec<String>,
    /// Depths down, each with what to let out at every speed; empty where it cannot be had.
    pub rows: Vec<(String, Vec<String>)>,
    /// How sure it is.
    pub sure: String,
    /// Cautions.
    pub cautions: Vec<String>,
}
