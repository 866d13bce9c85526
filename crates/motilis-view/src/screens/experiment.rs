use super::{Choice, Field, Frame};
use askama::Template;

/// Two ways of fishing held against each other.
#[derive(Debug, Template)]
#[template(path = "experiment.html")]
pub struct ExperimentScreen {
    /// The frame.
    pub frame: Frame,
    /// The one that runs.
    pub running: Option<ExperimentRow>,
    /// Why none can be begun.
    pub closed: Option<&'static str>,
    /// The form of a new one, while none runs.
    pub form: Option<ExperimentForm>,
    /// Those of the outing that are over, the newest first.
    pub over: Vec<ExperimentRow>,
}

/// An experiment.
#[derive(Debug)]
pub struct ExperimentRow {
    /// Its number.
    pub id: i64,
    /// What A and B are.
    pub ways: [String; 2],
    /// "4 fish in 3.1 rod-hours", of each.
    pub records: [String; 2],
    /// What it says so far, in a sentence.
    pub verdict: String,
    /// Whether it may stop, and why.
    pub stop: Option<String>,
    /// "Rods 1 and 4 fish A, rods 2 and 3 fish B."
    pub dealt: String,
    /// When the rods change next, or that they should now.
    pub swap: Option<String>,
    /// Whether rods fish another way than they are dealt.
    pub due: bool,
    /// From when to when.
    pub hours: String,
}

/// What the log says of the experiment that runs.
#[derive(Debug)]
pub struct ExperimentStrip {
    /// Its number.
    pub id: i64,
    /// Who fishes what, and when they change.
    pub sentence: String,
    /// Whether rods fish another way than they are dealt.
    pub due: bool,
}

/// One of the two ways, in the form.
#[derive(Debug)]
pub struct Side {
    /// A or B.
    pub letter: &'static str,
    /// The field of its rig.
    pub name: &'static str,
    /// Rigs to choose.
    pub rigs: Vec<Choice>,
    /// Lead and bait; empty for each rod's own.
    pub fields: [Field; 2],
}

/// The form of a new experiment.
#[derive(Debug)]
pub struct ExperimentForm {
    /// A and B.
    pub sides: [Side; 2],
    /// The rods, ticked.
    pub rods: Vec<Choice>,
    /// What is wrong with the choice of rods, or with A and B.
    pub problem: Option<String>,
    /// Minutes after which rods swap.
    pub swap: Field,
    /// Until when.
    pub until: Field,
}
