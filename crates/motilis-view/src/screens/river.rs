use super::{Choice, Fact, Field, Frame, Slider};
use crate::draw::{RunPlan, RunSection};
use askama::Template;

/// The form of a run.
#[derive(Debug)]
pub struct RunForm {
    /// What it is called.
    pub name: Field,
    /// The bank one stands on.
    pub bank: Vec<Choice>,
    /// What lies on the bottom.
    pub bed: Vec<Choice>,
    /// Length, how far one wades, how high weed stands.
    pub figures: Vec<Field>,
    /// What the gauge says today.
    pub discharge: Field,
    /// In which unit, when none is typed.
    pub discharge_unit: &'static str,
    /// Stations: offset, depth, surface speed.
    pub stations: Vec<[Field; 3]>,
    /// Marks: name of the list, what, along, across.
    pub marks: Vec<(&'static str, Vec<Choice>, Field, Field)>,
    /// What stood in it when it was shown.
    pub base: String,
    /// What is wrong with it as a whole.
    pub refusal: Option<String>,
}

impl RunForm {
    /// Takes what is wrong away: nothing was typed yet.
    pub(crate) fn quiet(&mut self) {
        let figures = self.figures.iter_mut();
        let stations = self.stations.iter_mut().flatten();
        for field in figures
            .chain(stations)
            .chain([&mut self.name, &mut self.discharge])
        {
            field.problem = None;
        }
    }
}

/// A run: its form, and what follows from it.
#[derive(Debug, Template)]
#[template(path = "run.html")]
pub struct RunScreen {
    /// The frame.
    pub frame: Frame,
    /// Its head.
    pub title: String,
    /// Number of the water.
    pub water: i64,
    /// What the water is called.
    pub water_name: String,
    /// Number of the run; `None` for a new one.
    pub id: Option<i64>,
    /// What was just done.
    pub done: Option<String>,
    /// The form.
    pub form: RunForm,
    /// Its plan for a desk and for a phone, where it can be drawn.
    pub plan: Option<(RunPlan, RunPlan)>,
    /// Discharge and speeds in a sentence.
    pub check: Option<String>,
    /// A way to time a leaf over.
    pub leaf: &'static str,
    /// What the words for a pace stand for.
    pub paces: String,
}

/// A cast of the grid.
#[derive(Debug)]
pub struct GridCell {
    /// "45 up, close".
    pub label: String,
    /// How far it goes.
    pub far: String,
    /// Where it is looked at.
    pub address: String,
    /// Whether it is made at this stand.
    pub done: bool,
    /// Whether it is the next.
    pub next: bool,
    /// Whether it is one of the first three.
    pub first: bool,
}

/// A step of the order of presentations.
#[derive(Debug)]
pub struct OrderRow {
    /// What is shown.
    pub name: &'static str,
    /// Casts made and to be made.
    pub count: String,
    /// Whether all are made.
    pub done: bool,
    /// Whether it is the next.
    pub next: bool,
}

/// What follows from the cast as it stands.
#[derive(Debug)]
pub struct CastLook {
    /// The plan, for a desk and for a phone.
    pub plan: (RunPlan, RunPlan),
    /// The section along the path, for a desk and for a phone.
    pub section: (RunSection, RunSection),
    /// The cast in one line, as a guide would say it.
    pub says: String,
    /// What comes of it in one line.
    pub comes: String,
    /// Whether it is good, to be watched, or cannot be.
    pub verdict: &'static str,
    /// Figures with their kind.
    pub facts: Vec<Fact>,
}

/// The casts at this stand and in the run.
#[derive(Debug)]
pub struct Counting {
    /// The grid.
    pub grid: Vec<GridCell>,
    /// How many of it are made here.
    pub counted: String,
    /// What the whole run takes.
    pub whole: String,
    /// Where one goes next, with the words of it.
    pub step: Option<(String, String)>,
    /// The order of presentations.
    pub order: Vec<OrderRow>,
    /// What is next.
    pub next: String,
    /// Whether a cast can be logged: the outing is on this river.
    pub can_log: bool,
    /// The presentation that is logged with the next tap.
    pub presentation: &'static str,
    /// What a tap logs: the grid's cast, or empty.
    pub grid_key: String,
    /// Casts and bites of the outing, in a sentence.
    pub so_far: String,
}

/// Casting in a river.
#[derive(Debug, Template)]
#[template(path = "river.html")]
pub struct RiverScreen {
    /// The frame.
    pub frame: Frame,
    /// What the river is called.
    pub river: String,
    /// Number of the river.
    pub water: i64,
    /// What was just done, with where it is undone.
    pub done: Option<(String, Option<String>)>,
    /// Runs to choose from.
    pub runs: Vec<Choice>,
    /// Rigs to choose from.
    pub rigs: Vec<Choice>,
    /// Where a fish lies.
    pub lies: Vec<Choice>,
    /// The run in hand.
    pub run: i64,
    /// What the run is, in a sentence.
    pub about: String,
    /// Fields: angle, distance, sink, turns, lift, stand, out, lie.
    pub fields: Vec<Field>,
    /// Their sliders, by the field's name.
    pub sliders: Vec<(&'static str, Slider)>,
    /// How the rod is held.
    pub held: Vec<Choice>,
    /// Whether the line is mended.
    pub mend: bool,
    /// Whether the tip follows.
    pub follow: bool,
    /// Schools.
    pub school: Vec<Choice>,
    /// Orders.
    pub orders: Vec<Choice>,
    /// A free lie, downstream and across.
    pub at: String,
    /// What follows; `None` when a field cannot be read.
    pub look: Option<CastLook>,
    /// Why there is nothing to see.
    pub refusal: Option<String>,
    /// The grid and what was cast.
    pub counting: Counting,
    /// The state as an address says it, for forms and links.
    pub state: Vec<(&'static str, String)>,
    /// The same, encoded.
    pub query: String,
    /// Rod, reel and line.
    pub gear: GearForm,
    /// Cautions.
    pub cautions: Vec<String>,
    /// The count-down of a free sink: its words and seconds.
    pub sinks: Option<(String, String)>,
}

impl RiverScreen {
    fn field(&self, name: &str) -> Option<&Field> {
        self.fields.iter().find(|field| field.name == name)
    }

    fn slider(&self, name: &str) -> Option<&Slider> {
        let mut sliders = self.sliders.iter();
        sliders
            .find(|(of, _)| *of == name)
            .map(|(_, slider)| slider)
    }

    /// What else a change of the cast puts in place: the sentences beside the fields.
    fn live(&self) -> String {
        let problems = self
            .fields
            .iter()
            .map(|field| format!("#problem-{}", field.name));
        // The list of rigs follows the cast, below everything that is pressed: it comes late and is long.
        let rigs = std::iter::once("#river-rigs".to_owned());
        problems.chain(rigs).collect::<Vec<_>>().join(",")
    }

    /// Whether every field can be.
    pub fn is_sound(&self) -> bool {
        self.refusal.is_none()
            && !self.gear.wrong
            && self.fields.iter().all(|field| field.problem.is_none())
    }
}

/// Rod, reel and line.
#[derive(Debug)]
pub struct GearForm {
    /// Figures.
    pub fields: Vec<Field>,
    /// Main line.
    pub main: Vec<Choice>,
    /// Bumper.
    pub bumper: Vec<Choice>,
    /// Whether something in it cannot be.
    pub wrong: bool,
}

/// A rig tried on the cast.
#[derive(Debug)]
pub struct TriedRow {
    /// What it is called.
    pub name: String,
    /// Its body or kind.
    pub kind: &'static str,
    /// Seconds in the zone.
    pub zone: String,
    /// Why it stands where it stands.
    pub why: String,
    /// Length of its bar, per cent.
    pub bar: String,
    /// Where it is looked at.
    pub address: String,
    /// Whether it is the one in hand.
    pub here: bool,
}

/// Every rig tried on one cast.
#[derive(Debug, Template)]
#[template(path = "river_rigs.html")]
pub struct RiverRigs {
    /// The frame.
    pub frame: Frame,
    /// The cast, as a guide would say it.
    pub says: String,
    /// The rigs, the best first; of many the first.
    pub rows: Vec<TriedRow>,
    /// How many can be cast.
    pub all: usize,
    /// What practice would put on, and whether the computation agrees.
    pub practice: String,
    /// Back to the cast.
    pub back: String,
}

/// A river without runs, or no river at all.
#[derive(Debug, Template)]
#[template(path = "river_none.html")]
pub struct RiverNone {
    /// The frame.
    pub frame: Frame,
    /// What the river is called, with its number.
    pub river: Option<(i64, String)>,
    /// What is missing.
    pub sentence: String,
}
