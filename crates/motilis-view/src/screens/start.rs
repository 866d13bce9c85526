use super::{Choice, Frame, WaterForm};
use askama::Template;

/// The first page of an empty data file.
#[derive(Debug, Template)]
#[template(path = "start.html")]
pub struct Start {
    /// The frame.
    pub frame: Frame,
    /// What the door that was tried is for.
    pub door: String,
    /// Waters of the file that an outing can begin on.
    pub waters: Vec<(i64, String)>,
    /// What is typed in.
    pub form: StartForm,
    /// Whether somebody typed in it already.
    pub typed: bool,
}

/// What a start is typed in with.
#[derive(Debug)]
pub struct StartForm {
    /// The water.
    pub water: WaterForm,
    /// The fish wanted.
    pub wanted: Vec<Choice>,
    /// Trays of the box.
    pub trays: Vec<Choice>,
    /// Rods aboard.
    pub rods: Vec<Choice>,
    /// The rig to begin with.
    pub kind: Vec<Choice>,
    /// Whether no count of the parts is kept.
    pub uncounted: bool,
}
