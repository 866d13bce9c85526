use super::{Field, Frame, RateRow};
use crate::draw::Plan;
use askama::Template;

/// Where the boat went on the outing.
#[derive(Debug, Template)]
#[template(path = "track.html")]
pub struct TrackScreen {
    /// The frame.
    pub frame: Frame,
    /// What was just done.
    pub done: Option<String>,
    /// Where it is taken back.
    pub undo: Option<String>,
    /// Why a file was refused.
    pub refusal: Option<String>,
    /// The plan, for a desk and for a phone.
    pub plan: Option<(Plan, Plan)>,
    /// How long and how far, in a sentence; none without a track.
    pub told: Option<String>,
    /// Number of the track, to throw it away.
    pub track: Option<i64>,
    /// What of the entries has a place, in a sentence.
    pub placed: String,
    /// Spots with what they brought.
    pub spots: Vec<SpotRow>,
    /// What the rates of spots rest on.
    pub counted: String,
    /// The form of a new spot.
    pub blank: SpotForm,
    /// Temperatures by place, and which place is meant by them.
    pub readings: Vec<String>,
    /// The place to fish by them.
    pub best: Option<String>,
}

/// A spot.
#[derive(Debug)]
pub struct SpotRow {
    /// Its number in the data file.
    pub id: i64,
    /// Its rate, with its name.
    pub rate: RateRow,
    /// "250 ft around 50.42000, −95.61000; 22 ft deep; a break".
    pub place: String,
    /// Its form.
    pub form: SpotForm,
}

/// The form of a spot.
#[derive(Debug)]
pub struct SpotForm {
    /// Its fields.
    pub fields: Vec<Field>,
}

impl SpotForm {
    /// Whether something in it cannot be.
    pub fn is_wrong(&self) -> bool {
        self.fields.iter().any(|field| field.problem.is_some())
    }
}
