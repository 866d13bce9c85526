use super::{Choice, Field, Frame};
use crate::draw::{SpeedBar, SpeedRule, WaterColumn};
use crate::units::Figure;
use askama::Template;

/// The conditions of the outing and what they make of each rig.
#[derive(Debug, Template)]
#[template(path = "today.html")]
pub struct Today {
    /// The frame.
    pub frame: Frame,
    /// Outings to open.
    pub outings: Vec<Choice>,
    /// The conditions.
    pub conditions: Conditions,
    /// "9 of 14 work at 1.2 mph".
    pub headline: String,
    /// The shared rule of speeds.
    pub rule: SpeedRule,
    /// The rigs, best first.
    pub rows: Vec<TodayRow>,
    /// The water of the day.
    pub column: WaterColumn,
    /// Cautions that apply.
    pub cautions: Vec<String>,
    /// An outing that was thrown away just now.
    pub undo: Option<i64>,
    /// Number of the open outing.
    pub outing: i64,
}

/// The form of the conditions.
#[derive(Debug)]
pub struct Conditions {
    /// The waters.
    pub water: Vec<Choice>,
    /// Date and hour, local.
    pub started: Field,
    /// Speed through the water.
    pub speed: Field,
    /// Water temperature.
    pub temperature: Field,
    /// Depth at which a white disc is lost.
    pub clarity: Field,
    /// The skies.
    pub sky: Vec<Choice>,
    /// The fish.
    pub fish: Vec<Choice>,
    /// Upper end of the fish.
    pub fish_from: Field,
    /// Lower end.
    pub fish_to: Field,
    /// Depth of the water.
    pub bottom: Field,
    /// The moods.
    pub mood: Vec<Choice>,
    /// Depth wanted.
    pub wanted_depth: Field,
}

impl Conditions {
    /// The fields to type in, in the order of the form.
    pub fn fields(&self) -> [&Field; 8] {
        [
            &self.started,
            &self.speed,
            &self.temperature,
            &self.clarity,
            &self.bottom,
            &self.fish_from,
            &self.fish_to,
            &self.wanted_depth,
        ]
    }

    /// The parts of the page beside the calls that change with the conditions.
    fn live(&self) -> String {
        format!("#column,#where,{}", Field::problem_places(&self.fields()))
    }
}

/// One rig on the sheet.
#[derive(Debug)]
pub struct TodayRow {
    /// Its name.
    pub name: String,
    /// Where it is looked at closely.
    pub tank: String,
    /// What it is made of.
    pub parts: String,
    /// What takes it down.
    pub weight: String,
    /// Class of the row: `works`, `watch` or `cannot`.
    pub verdict: &'static str,
    /// Symbol of the blade's state.
    pub glyph: &'static str,
    /// The blade's state in a word.
    pub state: &'static str,
    /// Why it stands here.
    pub reason: String,
    /// Its usable speeds.
    pub bar: SpeedBar,
    /// What to let out.
    pub out: Option<Figure>,
}
