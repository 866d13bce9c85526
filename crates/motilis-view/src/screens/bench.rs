use super::{Choice, Fact, Field, Frame};
use crate::draw::BenchDrawing;
use crate::draw::part::Lying;
use askama::Template;

/// One rig on the bench.
#[derive(Debug, Template)]
#[template(path = "bench.html")]
pub struct Bench {
    /// The frame.
    pub frame: Frame,
    /// Its number.
    pub id: i64,
    /// Its name.
    pub name: Field,
    /// Its kind.
    pub kind: &'static str,
    /// Every rig.
    pub rigs: Vec<Choice>,
    /// The set-ups.
    pub setups: Vec<Choice>,
    /// Whether a change can be taken back, and made again.
    pub back_and_forth: (bool, bool),
    /// The drawing.
    pub drawing: BenchDrawing,
    /// Zooms of the drawing.
    pub zooms: Vec<Choice>,
    /// The title block.
    pub block: Vec<(&'static str, String)>,
    /// The pieces in threading order.
    pub pieces: Vec<PieceRow>,
    /// The piece in hand.
    pub in_hand: Option<InHand>,
    /// The dimension in hand.
    pub dimension: Dimension,
    /// Measures to type.
    pub measures: Vec<Measure>,
    /// Front knots; none on wire.
    pub knots: Vec<Choice>,
    /// Schools of spacing.
    pub spacings: Vec<Choice>,
    /// Spools.
    pub spools: Vec<Choice>,
    /// How many checks must be mended, looked at, and are good.
    pub counts: (usize, usize, usize),
    /// The checks, the worst first.
    pub checks: Vec<CheckRow>,
    /// Whether only hard failures are shown.
    pub by_eye: bool,
    /// What it weighs and does.
    pub facts: Vec<Fact>,
    /// The order of work.
    pub steps: Vec<StepRow>,
    /// Steps done.
    pub done: usize,
    /// How many to build.
    pub batch: Field,
    /// Where they are to lie.
    pub place: Field,
    /// What the batch takes.
    pub totals: Vec<String>,
    /// What cannot be.
    pub notice: Option<BenchNotice>,
    /// Trays of the rail.
    pub bays: Vec<Bay>,
    /// Parts in the open tray that fit here.
    pub pegs: Vec<Peg>,
    /// What the rail is filtered by.
    pub fits: String,
    /// What a tap on the rail does.
    pub tap: &'static str,
    /// Where it is changed.
    pub other_tap: String,
    /// The query to come back with: piece, tray and dimension in hand.
    pub query: String,
    /// Version that is shown.
    pub version: i64,
}

impl Bench {
    fn is_fixed(&self) -> bool {
        self.counts.0 == 0
    }

    /// Whether something typed under the measures could not be taken.
    fn has_problem(&self) -> bool {
        self.name.problem.is_some()
            || self
                .measures
                .iter()
                .any(|measure| measure.field.problem.is_some())
    }
}

/// A sentence over the board, with a deed that can be undone.
#[derive(Debug)]
pub struct BenchNotice {
    /// The sentence.
    pub sentence: String,
    /// The deed.
    pub undo: Option<String>,
    /// Whether it is about building, and stands there.
    pub of_build: bool,
}

/// A piece in the strip.
#[derive(Debug)]
pub struct PieceRow {
    /// Its place.
    pub at: usize,
    /// What it is.
    pub words: String,
    /// `true` for the one in hand.
    pub in_hand: bool,
    /// The mark of its worst check, if one is not content.
    pub flag: Option<&'static str>,
}

/// What can be done with the piece in hand.
#[derive(Debug)]
pub struct InHand {
    /// Its place.
    pub at: usize,
    /// Places of its neighbours, where it has them.
    pub ahead: Option<usize>,
    /// Behind.
    pub behind: Option<usize>,
    /// What it is.
    pub words: String,
    /// Its figures and of which kind they are.
    pub figures: String,
    /// How many.
    pub count: Field,
    /// Bend of a soft wing.
    pub bend: Option<Field>,
    /// The part in the box.
    pub part: Option<i64>,
}

/// The dimension that the arrow keys move.
#[derive(Debug)]
pub struct Dimension {
    /// Its key.
    pub key: &'static str,
    /// Which ones there are.
    pub all: Vec<Choice>,
    /// Its value now, m or a count.
    pub less: String,
    /// The value a step up.
    pub more: String,
    /// As it reads.
    pub shown: String,
    /// Size of a step, in words.
    pub step: &'static str,
}

/// A measure to type.
#[derive(Debug)]
pub struct Measure {
    /// Its key.
    pub key: &'static str,
    /// The field.
    pub field: Field,
    /// The same in inches.
    pub inches: String,
}

/// A check.
#[derive(Debug)]
pub struct CheckRow {
    /// Its rule's key.
    pub key: &'static str,
    /// The piece it is about.
    pub at: Option<usize>,
    /// Symbol and class: `works`, `watch`, `cannot`.
    pub mark: &'static str,
    /// The word beside it.
    pub word: &'static str,
    /// What it says.
    pub head: String,
    /// Its figures.
    pub figures: String,
    /// What mends it.
    pub mends: Vec<MendRow>,
}

/// A mend to apply.
#[derive(Debug)]
pub struct MendRow {
    /// Which of the check's mends.
    pub index: usize,
    /// The word on the button.
    pub verb: &'static str,
    /// What it does.
    pub words: String,
}

/// A step of the work.
#[derive(Debug)]
pub struct StepRow {
    /// Its number, from 1.
    pub number: usize,
    /// What to do.
    pub words: String,
    /// With what.
    pub tool: &'static str,
    /// What to mind.
    pub caution: Option<&'static str>,
    /// Whether it is done.
    pub done: bool,
    /// Whether it is the next one.
    pub next: bool,
}

/// A tray of the rail.
#[derive(Debug)]
pub struct Bay {
    /// Its key.
    pub key: &'static str,
    /// Its name.
    pub name: &'static str,
    /// Where it opens.
    pub address: String,
    /// Whether it is open.
    pub open: bool,
}

/// A part on the rail.
#[derive(Debug)]
pub struct Peg {
    /// Its number.
    pub id: i64,
    /// Its drawing at true size.
    pub drawing: Lying,
    /// Whether it stands upright: a blade hangs by its hole.
    pub upright: bool,
    /// What it is.
    pub name: String,
    /// How it looks.
    pub looks: String,
    /// How many are left, in words.
    pub left: String,
    /// `on`, `in` or `none`.
    pub state: &'static str,
}

/// What starts a rig.
#[derive(Debug, Template)]
#[template(path = "bench_new.html")]
pub struct BenchNew {
    /// The frame.
    pub frame: Frame,
    /// What it is to be called.
    pub name: Field,
    /// Kinds of rig.
    pub kind: Vec<KindCard>,
    /// Fish.
    pub fish: Vec<Choice>,
    /// Hook sizes; empty for the kind's usual one.
    pub hook: Vec<Choice>,
    /// Set-ups.
    pub setup: Vec<Choice>,
    /// What cannot be.
    pub refusal: Option<String>,
}

/// A kind of rig to pick, drawn.
#[derive(Debug)]
pub struct KindCard {
    /// Its key.
    pub key: &'static str,
    /// Its name.
    pub name: String,
    /// What it is tied for.
    pub fish: String,
    /// The speeds it is towed at.
    pub speed: String,
    /// Its drawing.
    pub drawing: BenchDrawing,
    /// Whether it is picked.
    pub chosen: bool,
}

/// Two rigs part by part.
#[derive(Debug, Template)]
#[template(path = "compare.html")]
pub struct Compare {
    /// The frame.
    pub frame: Frame,
    /// The rigs for the left side.
    pub left: Vec<Choice>,
    /// The rigs for the right side.
    pub right: Vec<Choice>,
    /// Names of both.
    pub names: (String, String),
    /// Drawings of both.
    pub drawings: (BenchDrawing, BenchDrawing),
    /// Rows: what, left, right, whether they differ.
    pub rows: Vec<CompareRow>,
}

/// A row of a comparison.
#[derive(Debug)]
pub struct CompareRow {
    /// What is compared.
    pub label: String,
    /// On the left.
    pub left: String,
    /// On the right.
    pub right: String,
}

impl CompareRow {
    fn differs(&self) -> bool {
        self.left != self.right
    }
}
