use super::{Choice, Field, Frame};
use askama::Template;

/// How the call sheet judges: the schools followed and what each term counts.
#[derive(Debug, Template)]
#[template(path = "judging.html")]
pub struct Judging {
    /// The frame.
    pub frame: Frame,
    /// The fish the weights are for.
    pub fish: String,
    /// Each question with its schools.
    pub schools: Vec<SchoolRow>,
    /// Each term with its weight.
    pub weights: Vec<WeightRow>,
    /// Whether something was just set.
    pub done: Option<i64>,
    /// What stood in the two forms when they were shown.
    pub bases: (String, String),
    /// What was refused.
    pub refusal: Option<String>,
}

/// A question on which anglers disagree.
#[derive(Debug)]
pub struct SchoolRow {
    /// Name in the form.
    pub key: &'static str,
    /// The question.
    pub question: String,
    /// Its schools, the default first.
    pub choices: Vec<Choice>,
}

/// A term and its weight.
#[derive(Debug)]
pub struct WeightRow {
    /// The field.
    pub field: Field,
    /// The term.
    pub name: String,
    /// The default.
    pub usual: String,
    /// Why it is that.
    pub reason: &'static str,
}
