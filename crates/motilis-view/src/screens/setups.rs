use super::{Choice, Field, Frame};
use askama::Template;

/// A line set-up in the list.
#[derive(Debug)]
pub struct SetupRow {
    /// Its number.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// Where it starts, what takes it down, its lead.
    pub says: String,
}

/// The form of a set-up.
#[derive(Debug)]
pub struct SetupForm {
    /// Where it is sent.
    pub action: String,
    /// Its head.
    pub head: String,
    /// Fields and lists in groups: what a group is about, its lists (name, label, entries), its fields.
    pub groups: Vec<SetupGroup>,
    /// What is wrong with the set-up as a whole.
    pub problem: String,
    /// What stood in the form when it was shown.
    pub base: String,
}

/// A group of the form.
#[derive(Debug)]
pub struct SetupGroup {
    /// What it is about.
    pub head: &'static str,
    /// When it counts.
    pub hint: &'static str,
    /// Lists to choose from: name, label, entries.
    pub lists: Vec<(&'static str, &'static str, Vec<Choice>)>,
    /// Fields to type in.
    pub fields: Vec<Field>,
}

/// The line set-ups of the boat.
#[derive(Debug, Template)]
#[template(path = "setups.html")]
pub struct Setups {
    /// The frame.
    pub frame: Frame,
    /// Those there are.
    pub rows: Vec<SetupRow>,
    /// A new one, or one that is changed.
    pub form: SetupForm,
    /// One that was just thrown away.
    pub undo: Option<i64>,
}
