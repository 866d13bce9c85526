use super::{Choice, Field, Frame};
use askama::Template;

/// The waters there are.
#[derive(Debug, Template)]
#[template(path = "waters.html")]
pub struct Waters {
    /// The frame.
    pub frame: Frame,
    /// Each water.
    pub rows: Vec<WaterRow>,
    /// A water that was thrown away just now.
    pub undo: Option<(i64, String)>,
}

/// One water of the list.
#[derive(Debug)]
pub struct WaterRow {
    /// Its number.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// Where it lies: "50.42° N, 95.61° W".
    pub place: String,
    /// Its time now: "06:20 America/Winnipeg".
    pub zone: String,
    /// Salt or fresh, clarity and stain.
    pub water: String,
    /// Fish that live in it.
    pub fish: String,
    /// What they feed on.
    pub forage: String,
    /// Sunrise and sunset today, or that there is none.
    pub sun: String,
    /// How many rules are entered.
    pub rules: String,
}

/// A water with its rules.
#[derive(Debug, Template)]
#[template(path = "water.html")]
pub struct Water {
    /// Runs of a river: number, name, what it is; `None` of a lake.
    pub runs: Option<Vec<(i64, String, String)>>,
    /// The frame.
    pub frame: Frame,
    /// Its number; none while it is new.
    pub id: Option<i64>,
    /// Its name, or what the page is for.
    pub title: String,
    /// Its form.
    pub form: WaterForm,
    /// Its rules.
    pub rules: Vec<RuleRow>,
    /// The form of a rule, new or corrected.
    pub rule: Option<RuleForm>,
    /// What was just done, with where to send to take it back.
    pub notice: Option<(String, Option<String>)>,
}

/// What a water is typed in with.
#[derive(Debug)]
pub struct WaterForm {
    /// Its name.
    pub name: Field,
    /// Latitude and longitude.
    pub position: [Field; 2],
    /// Its time zone.
    pub zone: Field,
    /// Time zones there are, for the field's list.
    pub zones: Vec<String>,
    /// The zone that the position proposes.
    pub proposed: String,
    /// Whether zone and position disagree by hours.
    pub zone_doubted: bool,
    /// Salt or fresh.
    pub salt: Vec<Choice>,
    /// Lake or river.
    pub river: Vec<Choice>,
    /// Usual clarity.
    pub clarity: Field,
    /// What usually colours it.
    pub stain: Vec<Choice>,
    /// Fish, ticked where they live in it.
    pub fish: Vec<Choice>,
    /// Forage, ticked where it is in it.
    pub forage: Vec<Choice>,
    /// What stood in the form when it was shown.
    pub base: String,
    /// What is wrong with the form as a whole.
    pub refusal: Option<String>,
}

/// A rule of the list.
#[derive(Debug)]
pub struct RuleRow {
    /// Its number.
    pub id: i64,
    /// What it says.
    pub says: String,
    /// When it holds.
    pub span: String,
    /// Where it was read and when it was entered.
    pub source: String,
    /// Whether it holds today.
    pub holds: bool,
}

/// What a rule is typed in with.
#[derive(Debug)]
pub struct RuleForm {
    /// Its number; none while it is new.
    pub id: Option<i64>,
    /// What it is about.
    pub topic: Vec<Choice>,
    /// For which fish.
    pub fish: Vec<Choice>,
    /// How many at most.
    pub count: Field,
    /// Ends of a slot.
    pub slot: [Field; 2],
    /// Keep between the ends, or release.
    pub protected: Vec<Choice>,
    /// Whether one may be longer.
    pub one_over: Vec<Choice>,
    /// First day and last day.
    pub days: [Field; 2],
    /// Where it was read.
    pub source: Field,
    /// What stood in the form when it was shown.
    pub base: String,
}
