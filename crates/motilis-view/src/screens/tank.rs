use super::{Choice, Field, Frame};
use crate::draw::{BenchDrawing, Curve, SideView, SpeedBar, SpeedRule};
use askama::Template;

/// One rig on its line.
#[derive(Debug, Template)]
#[template(path = "tank.html")]
pub struct Tank {
    /// The frame.
    pub frame: Frame,
    /// Name of the rig.
    pub name: String,
    /// Its kind.
    pub kind: String,
    /// What can be changed.
    pub form: TankForm,
    /// Class of the state: `works`, `watch` or `cannot`.
    pub verdict: &'static str,
    /// Symbol of the blade's state.
    pub glyph: &'static str,
    /// The state in words.
    pub state: &'static str,
    /// Turns a minute, and why not more.
    pub turns: String,
    /// The rule of speeds.
    pub rule: SpeedRule,
    /// The rig's window on it.
    pub bar: SpeedBar,
    /// The line from the side, for a desk.
    pub side: SideView,
    /// The same for a phone.
    pub side_narrow: SideView,
    /// The rig.
    pub sketch: BenchDrawing,
    /// Depth against line out.
    pub by_out: Curve,
    /// Depth against speed.
    pub by_speed: Curve,
    /// Everything computed, in a list.
    pub facts: Vec<Fact>,
    /// What cannot be, in one sentence.
    pub refusal: Option<String>,
    /// Cautions that apply.
    pub cautions: Vec<String>,
}

/// What can be changed in the tank.
#[derive(Debug)]
pub struct TankForm {
    /// The rigs.
    pub rig: Vec<Choice>,
    /// The set-ups.
    pub setup: Vec<Choice>,
    /// Rig and set-up the figures below were filled in for.
    pub was: (i64, i64),
    /// Speed through the water.
    pub speed: Field,
    /// Line (or cable) out.
    pub out: Field,
    /// Mass of the weight, for set-ups that have one.
    pub weight: Option<Field>,
    /// Main lines.
    pub main: Vec<Choice>,
    /// The lead.
    pub lead: Field,
    /// Depth wanted.
    pub depth: Field,
    /// Ends of the speed slider, in the unit shown.
    pub speed_slider: Slider,
    /// Ends of the line slider.
    pub out_slider: Slider,
}

/// A slider beside a field.
#[derive(Debug, Clone)]
pub struct Slider {
    /// Its upper end.
    pub most: String,
    /// Its step.
    pub step: &'static str,
    /// Where it stands.
    pub value: String,
}

impl Slider {
    /// A slider from 0.
    pub fn new(most: f64, step: &'static str, value: f64) -> Self {
        Self {
            most: format!("{most:.1}"),
            step,
            value: format!("{value:.1}"),
        }
    }
}

impl TankForm {
    /// The fields to type in.
    pub fn fields(&self) -> Vec<&Field> {
        let mut fields = vec![&self.speed, &self.out, &self.lead, &self.depth];
        fields.extend(&self.weight);
        fields
    }

    /// The parts of the page beside the drawing that change with the fields.
    fn live(&self) -> String {
        format!("#run-figures,{}", Field::problem_places(&self.fields()))
    }
}

/// What kind of figure a figure is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Kind {
    /// From a model.
    Computed,
    /// A rule of the trade without a source.
    Practice,
}

impl Kind {
    /// The words beside the figure.
    pub fn name(self) -> &'static str {
        match self {
            Self::Computed => "computed",
            Self::Practice => "common practice",
        }
    }
}

/// A figure with what it is and of which kind.
#[derive(Debug)]
pub struct Fact {
    /// What it is.
    pub label: &'static str,
    /// The figure.
    pub value: String,
    /// Its kind.
    pub kind: Kind,
    /// What it was computed from.
    pub from: String,
}
