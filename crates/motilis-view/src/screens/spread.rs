use super::{Choice, Field, Frame, Slider};
use crate::draw::{SpeedBar, SpeedRule, SpreadDrawing};
use askama::Template;

/// A spread and its neighbours.
#[derive(Debug, Clone)]
pub struct SpreadHead {
    /// Its number.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// Every spread, to open another.
    pub spreads: Vec<Choice>,
    /// Version that is shown.
    pub version: i64,
    /// Whether there is a change to take back.
    pub can_undo: bool,
    /// Whether there is an undone change to make again.
    pub can_redo: bool,
}

/// Something wrong with a line, with the changes that put it right.
#[derive(Debug, Clone)]
pub struct Trouble {
    /// Mark of it.
    pub mark: &'static str,
    /// What is wrong.
    pub sentence: String,
    /// Words and number of each mend, the cheapest first.
    pub mends: Vec<(String, usize)>,
    /// Where it is put right, and what the door there says.
    pub door: Option<(String, &'static str)>,
}

/// A line in the list beside the drawing.
#[derive(Debug, Clone)]
pub struct LineRow {
    /// Its number.
    pub number: usize,
    /// Where its rod stands.
    pub place: String,
    /// What it tows.
    pub name: String,
    /// Its mark.
    pub mark: &'static str,
    /// What its blade does.
    pub state: String,
    /// How deep it runs, and how sure that is.
    pub depth: String,
    /// Its usable speeds.
    pub bar: Option<SpeedBar>,
    /// What is wrong with it.
    pub troubles: Vec<Trouble>,
    /// Where a tap leads.
    pub address: String,
    /// Whether it is in hand.
    pub selected: bool,
}

/// The turn looked at.
#[derive(Debug, Clone)]
pub struct TurnForm {
    /// Straight on, to port, to starboard.
    pub side: Vec<Choice>,
    /// Its radius.
    pub radius: Field,
    /// The slider beside it.
    pub slider: Slider,
    /// The smallest safe turns.
    pub safe: Vec<String>,
}

/// The line in hand.
#[derive(Debug, Clone)]
pub struct Editor {
    /// Its number.
    pub number: usize,
    /// What it is called.
    pub title: String,
    /// Holders.
    pub holder: Vec<Choice>,
    /// How its rod points.
    pub stance: Vec<Choice>,
    /// Rigs and lures.
    pub tackle: Vec<Choice>,
    /// Set-ups.
    pub setup: Vec<Choice>,
    /// The fields to type in.
    pub fields: Vec<Field>,
    /// What is computed of it: label, figure.
    pub facts: Vec<(&'static str, String)>,
    /// Its rig on the bench, if it has one there.
    pub bench: Option<i64>,
}

impl Editor {
    /// What is let out.
    fn let_out(&self) -> &str {
        let fact = self.facts.iter().find(|(label, _)| *label == "Let out");
        fact.map_or("", |(_, out)| out)
    }
}

/// A rod holder, with the rod that stands in it.
#[derive(Debug, Clone)]
pub struct HolderBox {
    /// Its name.
    pub key: String,
    /// Number of the line.
    pub line: Option<usize>,
    /// What a tap does: address of the line in it.
    pub address: String,
}

/// Courses to tow the spread along.
#[derive(Debug, Clone)]
pub struct CourseForm {
    /// The courses.
    pub course: Vec<Choice>,
    /// Radius, time.
    pub fields: Vec<Field>,
}

/// All lines together.
#[derive(Debug, Template)]
#[template(path = "spread.html")]
pub struct SpreadScreen {
    /// The frame.
    pub frame: Frame,
    /// Which spread.
    pub head: SpreadHead,
    /// For a desk.
    pub drawing: SpreadDrawing,
    /// For a phone.
    pub drawing_narrow: SpreadDrawing,
    /// Speed through the water.
    pub speed: Field,
    /// The slider beside it.
    pub slider: Slider,
    /// The rule of speeds.
    pub rule: SpeedRule,
    /// The speeds most lines share.
    pub shared: String,
    /// The speed that suits most, shown and to send; `None` where the boat runs it.
    pub best: Option<String>,
    /// What it does, and who is left out of it.
    pub best_says: String,
    /// Whether the speed shown is another than the one kept.
    pub speed_differs: bool,
    /// The lines.
    pub rows: Vec<LineRow>,
    /// The turn.
    pub turn: TurnForm,
    /// Speeds over ground, up and down the run.
    pub ground: Vec<Field>,
    /// What they say.
    pub ground_says: String,
    /// The line in hand.
    pub editor: Option<Editor>,
    /// The holders of both sides, from the stern forwards.
    pub holders: [Vec<HolderBox>; 2],
    /// Order, boards, crossings.
    pub notes: Vec<String>,
    /// Whether boards could change places.
    pub can_sort: bool,
    /// How many anglers are aboard.
    pub crew: Vec<Choice>,
    /// Motion.
    pub course: CourseForm,
    /// What could not be done.
    pub refusal: Option<String>,
    /// What was done, with the spread to take back.
    pub notice: Option<(String, Option<i64>)>,
    /// Cautions.
    pub cautions: Vec<String>,
}

impl SpreadScreen {
    /// The parts beside the drawing that change with speed and turn.
    /// The line in hand.
    fn in_hand(&self) -> Option<&LineRow> {
        self.rows.iter().find(|row| row.selected)
    }

    fn live(&self) -> String {
        let mut fields = vec![&self.speed, &self.turn.radius];
        fields.extend(&self.ground);
        format!(
            "#spread-lines,#view-state,#turn-says,#ground-says,#speed-foot,#spread-notes,{}",
            Field::problem_places(&fields)
        )
    }
}

/// No spread yet, or a new one.
#[derive(Debug, Template)]
#[template(path = "spread_new.html")]
pub struct SpreadNew {
    /// The frame.
    pub frame: Frame,
    /// Its name.
    pub name: Field,
    /// Whether there is a rig and a set-up to begin with.
    pub can_begin: bool,
}

/// A row of the set-out card.
#[derive(Debug, Clone)]
pub struct CardRow {
    /// Number of the line.
    pub number: usize,
    /// Where its rod stands.
    pub place: String,
    /// What it tows.
    pub name: String,
    /// Board, weight or tool.
    pub tool: String,
    /// What to let out.
    pub out: String,
    /// The lead.
    pub lead: String,
    /// Depth.
    pub depth: String,
    /// Usable speeds.
    pub window: String,
}

/// The set-out card.
#[derive(Debug, Template)]
#[template(path = "set_out_card.html")]
pub struct SetOutCard {
    /// The frame.
    pub frame: Frame,
    /// Number of the spread.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// Water, day, speed.
    pub head: String,
    /// The rows, in the order they are set out.
    pub rows: Vec<CardRow>,
    /// The order they are brought in.
    pub bring_in: String,
    /// Cautions and the rule about rules.
    pub foot: Vec<String>,
}

/// A line of two spreads side by side.
#[derive(Debug, Clone)]
pub struct ComparedRow {
    /// What is compared.
    pub label: String,
    /// In the first.
    pub a: String,
    /// In the second.
    pub b: String,
    /// Whether the two differ.
    pub differs: bool,
}

/// Two spreads side by side.
#[derive(Debug, Template)]
#[template(path = "spread_compare.html")]
pub struct SpreadCompare {
    /// The frame.
    pub frame: Frame,
    /// Spreads for the first place.
    pub first: Vec<Choice>,
    /// For the second.
    pub second: Vec<Choice>,
    /// Both drawn.
    pub drawings: [(String, SpreadDrawing); 2],
    /// What differs.
    pub rows: Vec<ComparedRow>,
}

/// A spread in motion.
#[derive(Debug, Template)]
#[template(path = "motion.html")]
pub struct MotionScreen {
    /// The frame.
    pub frame: Frame,
    /// Number of the spread.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// Number of the run.
    pub run: u64,
    /// What the boat does.
    pub course: String,
    /// Share done, per cent; `None` when it is done or was stopped.
    pub percent: Option<u32>,
    /// Why there is nothing to show, when it was stopped.
    pub stopped: Option<String>,
    /// The spread as it runs straight on; the script moves its lines.
    pub drawing: Option<SpreadDrawing>,
    /// Last frame.
    pub last: usize,
    /// Seconds a frame.
    pub every_s: f64,
    /// Each line with what happened to it.
    pub rows: Vec<(usize, String, &'static str, Vec<String>)>,
}

/// The fields of a lure.
#[derive(Debug, Clone)]
pub struct LureForm {
    /// Name and speeds.
    pub fields: Vec<Field>,
    /// The lines it may have been measured on.
    pub line: Vec<Choice>,
    /// The pairs, a line each, as typed.
    pub pairs: String,
    /// What is wrong with them.
    pub problem: String,
}

/// Plugs and spoons with their dive tables.
#[derive(Debug, Template)]
#[template(path = "lures.html")]
pub struct LureScreen {
    /// The frame.
    pub frame: Frame,
    /// Number, name, speeds, pairs of each.
    pub lures: Vec<(i64, String, String, String)>,
    /// A new one.
    pub form: LureForm,
    /// A lure that was just thrown away.
    pub undo: Option<i64>,
}
