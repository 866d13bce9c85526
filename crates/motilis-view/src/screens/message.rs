use super::{Choice, Frame};
use askama::Template;

/// A page that says one thing: not found, refused, failed.
#[derive(Debug, Template)]
#[template(path = "message.html")]
pub struct Message {
    /// The frame.
    pub frame: Frame,
    /// Its head.
    pub head: String,
    /// What is wrong and what would be right.
    pub sentence: String,
    /// Where to go on, and what the door there says.
    pub door: (String, &'static str),
    /// Others that are looked at instead, and the address that takes their number.
    pub others: Option<(&'static str, Vec<Choice>)>,
}
