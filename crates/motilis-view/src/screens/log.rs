use super::{CannotRow, Choice, Field, Frame};
use crate::draw::Timeline;
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
    /// How long the outing was, and how that is known.
    pub hours: String,
    /// Whether the angler said when it ended.
    pub has_ended: bool,
    /// The line that runs, if one was put out.
    pub running: Option<Running>,
    /// The note that is being written.
    pub note: Field,
    /// What was just done, and how to take it back.
    pub notice: Option<Notice>,
    /// The outing on its hours, for a desk and for a phone.
    pub timeline: Option<(Timeline, Timeline)>,
    /// The entries, newest first.
    pub entries: Vec<Entry>,
    /// Cautions that apply.
    pub cautions: Vec<String>,
}

impl Log {
    fn is_editing(&self) -> bool {
        self.entries.iter().any(|entry| entry.form.is_some())
    }
}

/// The line that runs.
#[derive(Debug)]
pub struct Running {
    /// Its rig.
    pub rig: String,
    /// Where it runs: "22 ft down, 80 ft out, 1.2 mph".
    pub place: String,
    /// Why it cannot be computed, and where that is mended.
    pub cannot: Option<CannotRow>,
    /// How long its bait has been on; `None` without bait.
    pub bait: Option<String>,
    /// Where it is looked at closely.
    pub tank: String,
}

/// What was just done.
#[derive(Debug)]
pub struct Notice {
    /// In one sentence.
    pub sentence: String,
    /// What else there is to say of it.
    pub warning: Option<String>,
    /// Where its undo goes.
    pub undo: Option<String>,
    /// A fish that can be measured at once: its number, its form, and the figure the steps begin at.
    pub measure: Option<(i64, EntryForm, &'static str)>,
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
    /// The rig; empty for a note.
    pub rig: String,
    /// "22 ft down, 80 ft out, 1.2 mph".
    pub place: String,
    /// "21½ in, released".
    pub fish: String,
    /// The remark.
    pub note: String,
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
    /// Length of the fish.
    pub length: Field,
    /// Kept or released.
    pub kept: Vec<Choice>,
    /// The remark.
    pub note: Field,
    /// What stood in the form when it was shown.
    pub base: String,
    /// What is wrong with the form as a whole.
    pub refusal: Option<String>,
}
