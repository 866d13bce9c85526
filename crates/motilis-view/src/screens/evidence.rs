use super::{Choice, Frame};
use crate::draw::{Lengths, RateBar, Timeline};
use askama::Template;

/// What the log tells.
#[derive(Debug, Template)]
#[template(path = "evidence.html")]
pub struct EvidenceScreen {
    /// The frame.
    pub frame: Frame,
    /// Fish it can be of.
    pub fish: Vec<Choice>,
    /// What rates are grouped by.
    pub by: Vec<Choice>,
    /// What they are crossed with.
    pub crossed: Vec<Choice>,
    /// Whether they are.
    pub is_crossed: bool,
    /// How much is known, in a sentence.
    pub whole: String,
    /// What is not, in sentences.
    pub unknown: Vec<String>,
    /// The rates, those with the most hours first.
    pub rates: Vec<RateRow>,
    /// What is asked of the table that goes out.
    pub export: String,
    /// Rates by the cast.
    pub by_cast: Vec<RateRow>,
    /// Groups left out of the list, for want of hours.
    pub more: usize,
    /// The first of two to compare.
    pub a: Vec<Choice>,
    /// The second.
    pub b: Vec<Choice>,
    /// What comes of comparing them.
    pub compared: Option<Better>,
    /// Strikes and fish by hour and depth, for a desk and for a phone.
    pub hours: Option<(Timeline, Timeline)>,
    /// The season, week by week.
    pub weeks: Vec<RateRow>,
    /// Lengths of fish, species by species.
    pub lengths: Vec<LengthRow>,
}

/// A rate.
#[derive(Debug)]
pub struct RateRow {
    /// Of what.
    pub name: String,
    /// The interval.
    pub bar: RateBar,
    /// "0.31 an hour, 0.22–0.41".
    pub rate: String,
    /// "9 fish, 14 strikes in 29.1 rod-hours".
    pub rests_on: String,
    /// "best of these: 41 %"; empty where it was not asked.
    pub best: String,
}

/// Two held against each other.
#[derive(Debug)]
pub struct Better {
    /// Within the same places and hours.
    pub fair: String,
    /// Whatever they were fished in.
    pub raw: String,
    /// What to make of it when the two differ.
    pub caution: Option<&'static str>,
}

/// Lengths of a species.
#[derive(Debug)]
pub struct LengthRow {
    /// Which.
    pub name: &'static str,
    /// How many were landed and measured, kept and released.
    pub count: String,
    /// "13 in to 26 in, half of them above 17 in".
    pub lengths: String,
    /// Standard weight of the middle one, with its source.
    pub weight: String,
    /// Each length as a dot, for a desk and for a phone.
    pub picture: Option<(Lengths, Lengths)>,
}
