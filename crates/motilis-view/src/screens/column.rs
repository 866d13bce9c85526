use super::{Choice, Frame};
use crate::draw::{DayCurve, Sightings, WaterColumn};
use askama::Template;

/// The water column: light and finishes at any depth and hour.
#[derive(Debug, Template)]
#[template(path = "column.html")]
pub struct Column {
    /// The frame.
    pub frame: Frame,
    /// Sliders of the hour and the depth.
    pub slides: [Slide; 2],
    /// Where the fish looks.
    pub view: Vec<Choice>,
    /// The column, wide and narrow.
    pub column: [WaterColumn; 2],
    /// Finishes at that depth.
    pub sightings: Sightings,
    /// Sight through the day, wide and narrow.
    pub curve: [DayCurve; 2],
    /// Light there and where the sun stands: label, figure.
    pub facts: Vec<(&'static str, String)>,
    /// What must be said of the sun's course and the eye.
    pub notes: Vec<String>,
    /// What anglers say, beside what the model makes of it.
    pub claims: Vec<ClaimRow>,
}

/// A slider with what stands beside it.
#[derive(Debug, Clone, PartialEq)]
pub struct Slide {
    /// Name in the address.
    pub name: &'static str,
    /// What it is.
    pub label: &'static str,
    /// Ends and step, in its own figures.
    pub least: f64,
    /// Upper end.
    pub most: f64,
    /// Step.
    pub step: f64,
    /// Where it stands.
    pub value: f64,
    /// The same in words.
    pub shown: String,
}

/// A saying beside the model's figures.
#[derive(Debug, Clone)]
pub struct ClaimRow {
    /// What anglers say.
    pub lore: &'static str,
    /// The model's figures in their situation.
    pub physics: String,
    /// The verdict.
    pub verdict: &'static str,
    /// Its key.
    pub key: &'static str,
    /// What to make of it.
    pub note: &'static str,
}
