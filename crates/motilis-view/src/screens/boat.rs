use super::{CannotRow, Choice, Field, Frame, Notice, SwitchRow};
use crate::draw::{BoatPlan, Px};
use askama::Template;
use serde::Serialize;

/// The boat under way.
#[derive(Debug, Template)]
#[template(path = "boat.html")]
pub struct Boat {
    /// The frame.
    pub frame: Frame,
    /// What is known now.
    pub now: Now,
    /// The rods, by number.
    pub rods: Vec<BoatRow>,
    /// Speeds that suit most rods, on the rule.
    pub rule: Rule,
    /// What was just done, and how to take it back.
    pub notice: Option<Notice>,
    /// Species to choose from on the fish card.
    pub species: Vec<Choice>,
    /// The change of rods that is called.
    pub switch: Option<SwitchRow>,
    /// A fish that was tapped on another device a moment ago: its rod, and when.
    pub twice: Option<(u8, String)>,
    /// Whether the outing goes on; else one can be begun.
    pub running: bool,
    /// Whether it is practice.
    pub practice: bool,
    /// How many rods are still to be set out.
    pub aboard: usize,
    /// The field of the depth at which a fish is seen.
    pub mark: Field,
    /// What is seen from above.
    pub plan: BoatPlan,
    /// Whether the boat is simulated and can be steered here; its throttle.
    pub helm: Option<String>,
    /// Cautions that apply.
    pub cautions: Vec<String>,
}

/// The same seen from above, alone.
#[derive(Debug, Template)]
#[template(path = "boat.html", block = "plan")]
pub struct BoatPlanPart {
    /// The drawing.
    pub plan: BoatPlan,
}

/// A rod as far as it does not change from second to second.
#[derive(Debug)]
pub struct BoatRow {
    /// Its number.
    pub number: u8,
    /// What is on it.
    pub rig: String,
    /// Class and code of its finish.
    pub finish: Option<(String, &'static str)>,
    /// "68 ft out".
    pub out: String,
    /// "0 h 40 min, 2 fish".
    pub hours: String,
    /// Since when it is in, in seconds since 1970, and how long that is: "1 h 02".
    pub since: Option<(i64, String)>,
    /// "let out 68 ft: about 95 turns of your reel".
    pub let_out: String,
    /// Whether it is in the water.
    pub fishes: bool,
    /// Whether it is put away.
    pub away: bool,
    /// Why it cannot run.
    pub cannot: Option<CannotRow>,
    /// What it does now.
    pub now: RodNow,
}

/// The rule of speeds.
#[derive(Debug, Clone, PartialEq)]
pub struct Rule {
    /// Ticks: where, whether long, its figure.
    pub ticks: Vec<(f64, bool, String)>,
    /// The speeds that suit most rods: from where, how wide, and how many they are.
    pub shared: Option<(Px, Px, String)>,
    /// What a speed of one unit is on it, and where nought is.
    pub slope: (f64, f64),
    /// The rider.
    pub rider: Option<f64>,
}

/// A figure as it is now.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct Figure {
    /// Its value.
    pub value: String,
    /// Its unit.
    pub unit: &'static str,
    /// By whom, and how old where that matters.
    pub of: String,
    /// `fresh`, `stale` or `gone`.
    pub state: &'static str,
}

/// What is said in the one line under the rule, the most urgent first.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct Line {
    /// Mark: `works`, `watch`, `cannot`; empty for none.
    pub mark: &'static str,
    /// The sentence.
    pub text: String,
    /// What can be done about it.
    pub act: Option<LineAct>,
}

impl Line {
    /// Whether it calls for other rigs, which can be dismissed.
    pub fn is_switch(&self) -> bool {
        self.act
            .as_ref()
            .is_some_and(|act| act.address == "/log/switch")
    }
}

/// What can be done with a tap.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct LineAct {
    /// What the button says.
    pub label: String,
    /// Where it goes.
    pub address: &'static str,
    /// What goes with it.
    pub fields: Vec<(&'static str, String)>,
}

/// A rod as it is now.
#[derive(Debug, Clone, Default, PartialEq, Serialize)]
pub struct RodNow {
    /// Its number.
    pub number: u8,
    /// How deep its rig is; empty where nobody knows.
    pub depth: String,
    /// "± 2".
    pub half: String,
    /// What its blade does: `turning`, `stalled`, `rolling`, `works`, `out`.
    pub state: &'static str,
    /// The same in a word, or what is more urgent.
    pub word: String,
    /// `ok`, `watch` or `no`.
    pub grade: &'static str,
    /// The bottom between boat and rig as a path.
    pub bottom: String,
    /// Where the rig hangs in it: from the boat, from the surface.
    pub rig: [f64; 2],
    /// What a reader who does not see the strip is told.
    pub told: String,
}

/// All that changes from second to second.
#[derive(Debug, Clone, Default, PartialEq, Serialize)]
pub struct Now {
    /// Speed through the water.
    pub speed: Figure,
    /// Over ground.
    pub ground: Figure,
    /// Depth of the bottom.
    pub depth: Figure,
    /// Temperature of the water.
    pub temperature: Figure,
    /// The hour.
    pub clock: String,
    /// The same, in seconds since 1970.
    pub second: i64,
    /// How long there is light.
    pub dark: String,
    /// How it stands with the instruments; empty while all is well.
    pub link: String,
    /// The one line.
    pub line: Line,
    /// Speed in the device's unit, for the rule.
    pub at: Option<f64>,
    /// The rods that are in.
    pub rods: Vec<RodNow>,
    /// Changes of the data file: another device did something.
    pub version: u64,
}

/// One rod after the other, as the card has them.
#[derive(Debug, Template)]
#[template(path = "boat_set_out.html")]
pub struct SetOutAssistant {
    /// The frame.
    pub frame: Frame,
    /// The rod that is next; none when all are in.
    pub next: Option<BoatRow>,
    /// Where it stands: "P1, corner rod".
    pub holder: String,
    /// The depth wanted there.
    pub wanted: String,
    /// The speed to go meanwhile.
    pub speed: String,
    /// Whether an outing goes on.
    pub running: bool,
    /// How many are in, of how many.
    pub count: (usize, usize),
    /// The others: number, rig, and whether it is in.
    pub others: Vec<(u8, String, bool)>,
    /// Cautions that apply.
    pub cautions: Vec<String>,
}

/// How the instruments are set, and what became of what they said.
#[derive(Debug, Template)]
#[template(path = "boat_instruments.html")]
pub struct Instruments {
    /// The frame.
    pub frame: Frame,
    /// How it stands with them.
    pub stands: String,
    /// Ways to listen.
    pub ways: Vec<Choice>,
    /// Address, port, pace.
    pub fields: Vec<Field>,
    /// Recordings to replay.
    pub rides: Vec<Choice>,
    /// What became of the sentences: what, how many, and what it means.
    pub counts: Vec<(&'static str, u64, &'static str)>,
    /// Where it is recorded to, while it is.
    pub recording: Option<String>,
    /// Figures with age and source.
    pub figures: Vec<(&'static str, Figure)>,
    /// What is known of the current.
    pub current: String,
    /// A current typed in: speed and where it goes.
    pub current_fields: Vec<Field>,
    /// Line that a turn of the reel lets out, by three ways to say it.
    pub reel_fields: Vec<Field>,
    /// Fish that were marked: number, when and how deep.
    pub marks: Vec<(i64, String)>,
    /// How much of the water's bottom was sounded.
    pub chart: String,
    /// A simulated boat's throttle and course.
    pub helm: Option<Vec<Field>>,
    /// What was just done.
    pub saved: bool,
}

/// A practice trip.
#[derive(Debug, Template)]
#[template(path = "boat_practice.html")]
pub struct Practice {
    /// The frame.
    pub frame: Frame,
    /// Whether one goes on.
    pub running: bool,
    /// Paces to choose from.
    pub paces: Vec<Choice>,
    /// The lake's number.
    pub seed: Field,
    /// How it goes, or went: what and how much.
    pub score: Vec<(String, String)>,
    /// The rigs by how the fish liked them: name, how often against the best, and what evidence knew.
    pub taste: Vec<(String, String, String)>,
    /// What that teaches.
    pub lesson: String,
}

/// The address for the phone.
#[derive(Debug, Template)]
#[template(path = "phone.html")]
pub struct Phone {
    /// The frame.
    pub frame: Frame,
    /// Addresses: text and the code as one path of squares, and how many squares wide.
    pub codes: Vec<(String, String, usize)>,
    /// What can be done there, and what is missing for more.
    pub says: Vec<String>,
}
