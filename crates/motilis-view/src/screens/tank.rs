use super::{Choice, Field, Frame};
use crate::draw::{BenchDrawing, Curve, SideView, SpeedBar, SpeedRule, ThumpWave, TurningBlade};
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
    /// How fast it sinks on a slack line, with seconds to count down.
    pub sinks: Option<(String, String)>,
    /// What cannot be, in one sentence.
    pub refusal: Option<String>,
    /// Cautions that apply.
    pub cautions: Vec<String>,
    /// The rig's blade, and that of another beside it.
    pub blades: Vec<BladePanel>,
    /// Every made-up rig by its speeds.
    pub rungs: Vec<LadderRung>,
    /// Dunk tests of this rig.
    pub dunk: DunkForm,
    /// Bottom touches of this rod, line and weight.
    pub touch: TouchForm,
    /// What the tank shows, for forms that come back to it.
    pub state_of: Vec<(&'static str, String)>,
}

/// One blade running.
#[derive(Debug)]
pub struct BladePanel {
    /// Its rig.
    pub name: String,
    /// Class of its state.
    pub verdict: &'static str,
    /// The state in words.
    pub state: &'static str,
    /// Blade and spinning bait, seen along the shaft.
    pub front: Vec<TurningBlade>,
    /// Its beat.
    pub wave: ThumpWave,
    /// Everything computed of it.
    pub facts: Vec<Fact>,
}

/// A made-up rig on the ladder of speeds.
#[derive(Debug)]
pub struct LadderRung {
    /// Its name.
    pub name: String,
    /// Where it is looked at.
    pub address: String,
    /// Its window.
    pub bar: SpeedBar,
    /// What it does at the speed of now.
    pub state: &'static str,
    /// Class of that.
    pub verdict: &'static str,
    /// Whether it is the rig in the tank.
    pub here: bool,
}

/// A dunk test to type in, and those that were made.
#[derive(Debug)]
pub struct DunkForm {
    /// What was seen.
    pub seen: Vec<Choice>,
    /// Speed and turns.
    pub fields: Vec<Field>,
    /// Number, what was seen, what the model said before, whether it counts.
    pub made: Vec<(i64, String, String, bool)>,
    /// That two of them disagree.
    pub apart: Option<String>,
    /// One that was just thrown away.
    pub undo: Option<i64>,
}

/// A bottom touch to type in, those that were made, and what they teach.
#[derive(Debug)]
pub struct TouchForm {
    /// Line out, depth, speed.
    pub fields: Vec<Field>,
    /// Whether it touched.
    pub touched: Vec<Choice>,
    /// Number and words of each.
    pub made: Vec<(i64, String)>,
    /// What they teach.
    pub says: String,
    /// The angler's own dive curve with its band and points.
    pub curve: Option<Curve>,
    /// One that was just thrown away.
    pub undo: Option<i64>,
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
    /// Rods it can go on.
    pub rod: Vec<Choice>,
    /// Another rig beside this one.
    pub beside: Vec<Choice>,
    /// Bend of a soft wing, 0 flat to 1 bent in, with its slider.
    pub bend: Option<(Field, Slider)>,
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
        fields.extend(self.bend.iter().map(|(field, _)| field));
        fields
    }

    /// Whether every field could be read.
    pub fn is_sound(&self) -> bool {
        self.fields().iter().all(|field| field.problem.is_none())
    }

    /// The parts of the page beside the drawing that change with the fields.
    fn live(&self) -> String {
        format!(
            "#run-figures,#tank-blades,#tank-ladder,#dunk-state,#touch-state,#dive-curve,{}",
            Field::problem_places(&self.fields())
        )
    }
}

impl Tank {
    /// How deep the rig runs, with its band.
    fn depth_now(&self) -> String {
        let fact = self.facts.iter().find(|fact| fact.label == "Rig runs at");
        fact.map_or_else(|| "no depth".to_owned(), |fact| fact.value.clone())
    }
}

/// What kind of figure a figure is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Kind {
    /// From a model.
    Computed,
    /// A rule of the trade without a source.
    Practice,
    /// A figure nobody looked up.
    FromMemory,
}

impl Kind {
    /// The words beside the figure.
    pub fn name(self) -> &'static str {
        match self {
            Self::Computed => "computed",
            Self::Practice => "common practice",
            Self::FromMemory => "from memory",
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
