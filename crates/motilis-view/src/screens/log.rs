use super::{CannotRow, Choice, ExperimentStrip, Field, Frame, Window};
use crate::draw::{BenchDrawing, DayBars};
use askama::Template;

/// What happened on the outing.
#[derive(Debug, Template)]
#[template(path = "log.html")]
pub struct Log {
    /// The frame.
    pub frame: Frame,
    /// Outings to open.
    pub outings: Vec<Choice>,
    /// "9 fish, 4 strikes".
    pub headline: String,
    /// Casts of the outing, on a river.
    pub casts: Option<String>,
    /// How long the outing was, and how that is known.
    pub hours: String,
    /// Whether the angler said when it ended.
    pub has_ended: bool,
    /// The rods, by number.
    pub rods: Vec<RodRow>,
    /// The change that the day's fish call for.
    pub switch: Option<SwitchRow>,
    /// The experiment that runs.
    pub experiment: Option<ExperimentStrip>,
    /// How many of them are in the water.
    pub out: usize,
    /// Spreads whose rods can be taken.
    pub spreads: Vec<Choice>,
    /// The note that is being written.
    pub note: Field,
    /// What was just done, and how to take it back.
    pub notice: Option<Notice>,
    /// The outing as bars, for a desk and for a phone.
    pub bars: Option<(DayBars, DayBars)>,
    /// Kinds the list can be narrowed to.
    pub only: Vec<Choice>,
    /// Rods it can be narrowed to.
    pub only_rod: Vec<Choice>,
    /// Whether it is narrowed.
    pub narrowed: bool,
    /// Where one is in a long list of them.
    pub window: Option<Window>,
    /// The entries, newest first.
    pub entries: Vec<Entry>,
    /// The passes, the earliest first.
    pub passes: Vec<PassRow>,
    /// Whether a pass's form is wrong, so that it must be seen.
    pub passes_open: bool,
    /// Fish that count for no rate, since nobody kept their hours.
    pub unknown: u32,
    /// Cautions that apply.
    pub cautions: Vec<String>,
}

impl Log {
    fn is_editing(&self) -> bool {
        self.entries.iter().any(|entry| entry.form.is_some())
    }
}

/// A rod.
#[derive(Debug)]
pub struct RodRow {
    /// Its number.
    pub number: u8,
    /// "P1, corner rod".
    pub holder: String,
    /// What is on it.
    pub rig: String,
    /// That drawn; `None` for a lure, or what cannot run.
    pub drawing: Option<BenchDrawing>,
    /// Where it runs: "22 ft down (18–27), 80 ft out".
    pub place: String,
    /// "out since 06:20; 2 h 05 min today, 3 fish".
    pub hours: String,
    /// Why its depth cannot be computed, and where that is mended.
    pub cannot: Option<CannotRow>,
    /// How long its bait has been on; `None` without bait.
    pub bait: Option<String>,
    /// Whether it is in the water.
    pub fishes: bool,
    /// Whether it was put away.
    pub away: bool,
    /// Where its rig is looked at closely.
    pub tank: Option<String>,
}

/// What was just done.
#[derive(Debug)]
pub struct Notice {
    /// The rod it is about: it stands under that rod, so that the buttons stay where the thumb is.
    pub rod: Option<u8>,
    /// In one sentence.
    pub sentence: String,
    /// What else there is to say of it.
    pub warnings: Vec<String>,
    /// Where its undo goes.
    pub undo: Option<String>,
    /// What can be tried after what touched the rod and did not hold.
    pub playbook: Option<Playbook>,
    /// A fish that can be measured at once: its number, its form, and the figure the steps begin at.
    pub measure: Option<(i64, EntryForm, &'static str)>,
}

/// What is tried after a strike that did not hold.
#[derive(Debug)]
pub struct Playbook {
    /// The rod.
    pub rod: u8,
    /// What it was: "Short strike".
    pub touched: String,
    /// Key, words, and what it brought so far: "3 tried, 1 bit".
    pub plays: Vec<(&'static str, String, String)>,
}

impl Notice {
    fn is_at(&self, rod: &u8) -> bool {
        self.rod == Some(*rod)
    }
}

/// One entry of the log.
#[derive(Debug)]
pub struct Entry {
    /// Its number.
    pub id: i64,
    /// What happened.
    pub kind: &'static str,
    /// Key of what happened, for its mark.
    pub mark: &'static str,
    /// When, local.
    pub time: String,
    /// "Rod 2, "; empty where nobody knows.
    pub rod: String,
    /// The rig; empty for a note.
    pub rig: String,
    /// "22 ft down, 80 ft out, 1.2 mph".
    pub place: String,
    /// "21½ in, released".
    pub fish: String,
    /// What the typed-in rules say of it.
    pub rules: Vec<String>,
    /// The remark.
    pub note: String,
    /// Whether it has a photograph.
    pub photo: bool,
    /// Whether it is a fish, of which one can be kept.
    pub is_fish: bool,
    /// Whether it lies beyond the outing's hours and counts for no rate.
    pub beyond: bool,
    /// The form, when it is being corrected.
    pub form: Option<EntryForm>,
}

/// The form of an entry.
#[derive(Debug)]
pub struct EntryForm {
    /// What happened.
    pub kind: Vec<Choice>,
    /// When, local.
    pub at: Field,
    /// On which rod.
    pub rod: Vec<Choice>,
    /// Length of the fish.
    pub length: Field,
    /// How it was measured.
    pub measured: Vec<Choice>,
    /// Kept or released.
    pub kept: Vec<Choice>,
    /// Which fish.
    pub species: Vec<Choice>,
    /// How it ended.
    pub landing: Vec<Choice>,
    /// How the strike felt.
    pub strike: Vec<Choice>,
    /// What the bait looked like after it.
    pub bait_after: Vec<Choice>,
    /// Whether a fin was clipped.
    pub clipped: Vec<Choice>,
    /// Girth, weight, line out, depth, speed.
    pub figures: Vec<Field>,
    /// Sex, condition, where the hook sat.
    pub words: Vec<Field>,
    /// The remark.
    pub note: Field,
    /// What stood in the form when it was shown.
    pub base: String,
    /// What is wrong with the form as a whole.
    pub refusal: Option<String>,
}

/// A change of rods that is called.
#[derive(Debug)]
pub struct SwitchRow {
    /// The rig that is ahead.
    pub rig: i64,
    /// What to do and why.
    pub sentence: String,
}

/// A rod's stretch of time in the water.
#[derive(Debug)]
pub struct PassRow {
    /// Its number.
    pub id: i64,
    /// The rod.
    pub rod: String,
    /// What was on it.
    pub name: String,
    /// "22 ft down, 66 ft out, 1.2 mph".
    pub ran: String,
    /// "1 h 20 min".
    pub hours: String,
    /// Whether it is still out.
    pub open: bool,
    /// When it went out and came in.
    pub form: PassForm,
}

/// When a pass began and ended.
#[derive(Debug)]
pub struct PassForm {
    /// When it went out.
    pub from: Field,
    /// When it came in; empty while it is out.
    pub to: Field,
}

impl PassForm {
    fn fields(&self) -> [&Field; 2] {
        [&self.from, &self.to]
    }

    /// Whether something in it cannot be.
    pub fn is_wrong(&self) -> bool {
        self.from.problem.is_some() || self.to.problem.is_some()
    }
}
