use super::{Choice, Field, Frame};
use crate::draw::{BenchDrawing, SpeedBar, SpeedRule, WaterColumn};
use crate::units::Figure;
use askama::Template;

/// The conditions of the outing, the call sheet they make, and the rest of the box.
#[derive(Debug, Template)]
#[template(path = "today.html")]
pub struct Today {
    /// The frame.
    pub frame: Frame,
    /// Outings to open.
    pub outings: Vec<Choice>,
    /// The conditions.
    pub conditions: Conditions,
    /// The call sheet.
    pub calls: Calls,
    /// What to know of the day beside the calls; nothing while a condition cannot be.
    pub side: Option<DaySide>,
    /// An outing that was thrown away just now.
    pub undo: Option<i64>,
    /// Number of the open outing.
    pub outing: i64,
}

/// The call sheet and the rigs that are not on it.
#[derive(Debug)]
pub struct Calls {
    /// Of a large box: what is looked for by name, and what is said of it.
    pub search: Option<(String, String)>,
    /// "9 of 14 work at 1.2 mph".
    pub headline: String,
    /// That the water is a river, and what the calls are then.
    pub river: Option<String>,
    /// What practice does about how the fish answered so far.
    pub response: Option<String>,
    /// The shared rule of speeds.
    pub rule: SpeedRule,
    /// First call, contrast, probe.
    pub picks: Vec<PickCard>,
    /// The other rigs of the box, best first.
    pub rows: Vec<TodayRow>,
    /// Why there is no first call, and what would make one.
    pub nothing: Option<String>,
    /// Names of pinned rigs that cannot go out.
    pub pinned_out: Vec<String>,
    /// Rigs of the box that cannot run as they lie.
    pub unfit: Vec<CannotRow>,
    /// What keeps the day from being judged.
    pub refusal: Option<String>,
    /// What was just said of a rig, with what takes it back and the place it stood at.
    pub marked: Option<Marked>,
}

/// A stored thing that cannot run: what it is called, what is wrong, where it is mended.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CannotRow {
    /// What it is called.
    pub name: String,
    /// What is wrong, in a sentence.
    pub sentence: String,
    /// Where it is put right.
    pub address: String,
    /// What the link there says.
    pub mend: &'static str,
}

/// What to know of the day.
#[derive(Debug)]
pub struct DaySide {
    /// The water of the day.
    pub column: WaterColumn,
    /// Where to look closer.
    pub column_at: String,
    /// Temperatures the fish likes and its habit, each with its source.
    pub fish: Vec<(String, String)>,
    /// Temperatures read on the outing.
    pub readings: Vec<ReadingRow>,
    /// The form of another one.
    pub reading: ReadingForm,
    /// A reading that was thrown away just now.
    pub reading_gone: Option<i64>,
    /// Rules of the date: what each says, and where it was read.
    pub rules: Vec<(String, String)>,
    /// Where the water's rules are kept.
    pub water_at: String,
    /// Cautions that apply.
    pub cautions: Vec<String>,
}

/// A temperature read at a place.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ReadingRow {
    /// Its number.
    pub id: i64,
    /// Where.
    pub place: String,
    /// "53 °F at 07:40, 3 ft down".
    pub said: String,
}

/// The form of a temperature reading.
#[derive(Debug, Clone)]
pub struct ReadingForm {
    /// Where.
    pub place: Field,
    /// When, by the clock there; empty for now.
    pub taken: Field,
    /// How deep, and what was read.
    pub figures: [Field; 2],
}

impl ReadingForm {
    /// Whether something of it is wrong, so that it must be seen.
    fn is_wrong(&self) -> bool {
        let [depth, temperature] = &self.figures;
        [&self.place, &self.taken, depth, temperature]
            .iter()
            .any(|field| field.problem.is_some())
    }
}

/// One place on the sheet.
#[derive(Debug)]
pub struct PickCard {
    /// "First call".
    pub role: String,
    /// Its key.
    pub key: &'static str,
    /// Number of the rig.
    pub rig: i64,
    /// Its name.
    pub name: String,
    /// What is to be changed on it first, with the numbers of the parts.
    pub swap: Option<Swap>,
    /// The rig, drawn.
    pub drawing: BenchDrawing,
    /// What it is made of.
    pub parts: String,
    /// The blade's state in a word.
    pub state: &'static str,
    /// Speed, depth, line out, lead, bait: label, value, note.
    pub figures: Vec<PickFigure>,
    /// How its finish looks there.
    pub look: FinishLook,
    /// Why, in one line.
    pub why: String,
    /// Each term.
    pub terms: Vec<TermRow>,
    /// What anglers say of the finish, beside the model.
    pub lore: Vec<LoreRow>,
    /// Whether it is pinned.
    pub pinned: bool,
    /// Where it is looked at closely, when it needs no part changed first.
    pub tank: Option<String>,
    /// What the tank and the log are asked with to start with it, likewise; empty otherwise.
    pub start: Vec<(&'static str, String)>,
}

/// What is swapped on a rig.
#[derive(Debug, Clone)]
pub struct Swap {
    /// "Swap the blade for Indiana 4, hammered copper".
    pub sentence: String,
    /// The blade's number in the box.
    pub blade: i64,
}

/// A figure of a call.
#[derive(Debug, Clone)]
pub struct PickFigure {
    /// What it is.
    pub label: &'static str,
    /// The figure with its unit.
    pub value: String,
    /// What goes with it.
    pub note: String,
}

/// How a finish looks at its depth.
#[derive(Debug, Clone)]
pub struct FinishLook {
    /// Its two letters.
    pub code: &'static str,
    /// Its name.
    pub name: String,
    /// Blade and water as a diver sees them.
    pub diver: (String, String),
    /// The same as the fish divides it.
    pub fish: (String, String),
    /// From how far it is seen, and what that is of the best.
    pub seen: String,
    /// Whose eye looks.
    pub eye: String,
}

/// A term of a call.
#[derive(Debug, Clone)]
pub struct TermRow {
    /// Its name.
    pub name: &'static str,
    /// What it was counted from.
    pub sentence: String,
    /// What kind of figure it is.
    pub kind: &'static str,
    /// Points, weight, and their product, signed.
    pub points: String,
    /// What it counts.
    pub weight: String,
    /// Points times weight.
    pub weighted: String,
    /// Whether it speaks for it, against it, or not at all: `for`, `against`, `none`.
    pub class: &'static str,
}

/// A saying beside what the model makes of it.
#[derive(Debug, Clone)]
pub struct LoreRow {
    /// What anglers say.
    pub lore: String,
    /// What the model says.
    pub physics: String,
    /// The verdict in a word.
    pub verdict: &'static str,
    /// Its key, for the mark beside it.
    pub key: &'static str,
}

/// The form of the conditions.
#[derive(Debug)]
pub struct Conditions {
    /// The waters.
    pub water: Vec<Choice>,
    /// Date and hour, local.
    pub started: Field,
    /// Speed through the water.
    pub speed: Field,
    /// Water temperature.
    pub temperature: Field,
    /// Depth at which a white disk is lost.
    pub clarity: Field,
    /// What colours the water.
    pub stain: Vec<Choice>,
    /// The skies.
    pub sky: Vec<Choice>,
    /// The surface.
    pub wind: Vec<Choice>,
    /// The fish.
    pub fish: Vec<Choice>,
    /// Upper end of the fish.
    pub fish_from: Field,
    /// Lower end.
    pub fish_to: Field,
    /// Depth of the water.
    pub bottom: Field,
    /// Depth of the thermocline, may stay empty.
    pub thermocline: Field,
    /// The moods.
    pub mood: Vec<Choice>,
    /// What they feed on.
    pub forage: Vec<Choice>,
    /// Whether weeds or panfish take the bait.
    pub nibblers: Vec<Choice>,
    /// What everybody drags.
    pub crowd: Vec<Choice>,
    /// Depth wanted.
    pub wanted_depth: Field,
    /// The depth that the school followed would choose, in words.
    pub height: String,
    /// The Secchi helper.
    pub helper: SecchiHelper,
    /// When it ended; empty while nobody said so.
    pub ended: Field,
    /// What stood in the form when it was shown.
    pub base: String,
    /// What is wrong with the form as a whole.
    pub refusal: Option<String>,
    /// Names of the conditions that were carried over and are not confirmed.
    pub carried: Vec<String>,
}

/// The clarity of an angler who has no disk.
#[derive(Debug)]
pub struct SecchiHelper {
    /// How deep a white blade is lost.
    pub lost: Field,
    /// White blades to choose from.
    pub blade: Vec<Choice>,
    /// What came of it.
    pub answer: Option<String>,
}

impl Conditions {
    /// The fields to type in, in the order of the form.
    pub fn fields(&self) -> [&Field; 10] {
        [
            &self.started,
            &self.ended,
            &self.speed,
            &self.temperature,
            &self.clarity,
            &self.bottom,
            &self.fish_from,
            &self.fish_to,
            &self.thermocline,
            &self.wanted_depth,
        ]
    }

    /// The lists to choose from, by their names in the form.
    pub fn lists(&self) -> [(&'static str, &[Choice]); 9] {
        [
            ("water", &self.water),
            ("stain", &self.stain),
            ("sky", &self.sky),
            ("wind", &self.wind),
            ("fish", &self.fish),
            ("mood", &self.mood),
            ("forage", &self.forage),
            ("nibblers", &self.nibblers),
            ("crowd", &self.crowd),
        ]
    }

    /// The parts of the page beside the calls that change with the conditions.
    fn live(&self) -> String {
        format!(
            "#day-side,#where,#height-hint,#conditions-base,#conditions-said,#carried,{}",
            Field::problem_places(&self.fields())
        )
    }

    /// All of them in one line.
    fn said(&self) -> String {
        let chosen = |list: &[Choice]| {
            let chosen = list.iter().find(|choice| choice.chosen);
            chosen
                .map_or("", |choice| choice.label.as_str())
                .to_lowercase()
        };
        let figure = |field: &Field| format!("{} {}", field.value, field.unit);
        let words = [
            format!(
                "{}, {}",
                crate::words::capital(&chosen(&self.fish)),
                chosen(&self.mood)
            ),
            figure(&self.temperature),
            format!("clarity {}", figure(&self.clarity)),
            format!("rig at {}", figure(&self.wanted_depth)),
            format!("bottom {}", figure(&self.bottom)),
            chosen(&self.sky),
        ];
        words.join(" · ")
    }

    /// What was carried over, as the form names it.
    fn carried_words(&self) -> String {
        let label = |name: &str| {
            let typed = self.fields().into_iter().find(|field| field.name == name);
            typed.map_or_else(
                || name.replace('_', " "),
                |field| field.label.to_lowercase(),
            )
        };
        let words: Vec<String> = self.carried.iter().map(|name| label(name)).collect();
        words
            .join(", ")
            .trim_end_matches('.')
            .replace("temp.", "temperature")
    }

    /// Whether a field that is folded away is wrong, so that it must be seen.
    fn is_open(&self) -> bool {
        let folded = |field: &&&Field| field.name != "speed";
        self.fields()
            .iter()
            .filter(folded)
            .any(|field| field.problem.is_some())
    }

    /// Whether a field of the second row is wrong, so that it must be seen.
    fn more_is_open(&self) -> bool {
        [&self.thermocline, &self.ended]
            .iter()
            .any(|field| field.problem.is_some())
    }
}

/// Rigs that would work and stand open in the list; the others are folded away.
const SHOWN: usize = 3;

/// A rig that was pinned or struck off just now.
#[derive(Debug)]
pub struct Marked {
    /// Its number.
    pub rig: i64,
    /// What was done.
    pub sentence: String,
    /// The mark that takes it back.
    pub back: &'static str,
    /// Place among the picks where that was tapped; none in the list below.
    pub place: Option<usize>,
}

impl Calls {
    /// Rigs of the list that would work, or would not.
    fn rows_that(&self, work: bool) -> Vec<&TodayRow> {
        self.rows
            .iter()
            .filter(|row| (row.verdict != "cannot") == work)
            .collect()
    }

    /// What was just said, if it was said at a place.
    fn marked_at(&self, place: &usize) -> Option<&Marked> {
        self.marked
            .as_ref()
            .filter(|marked| marked.place == Some(*place))
    }

    /// What was just said elsewhere.
    fn marked_elsewhere(&self) -> Option<&Marked> {
        let places = self.picks.len();
        self.marked
            .as_ref()
            .filter(|marked| marked.place.is_none_or(|place| place >= places))
    }
}

/// One rig that is not on the sheet.
#[derive(Debug)]
pub struct TodayRow {
    /// Number of the rig.
    pub rig: i64,
    /// Its name.
    pub name: String,
    /// Where it is looked at closely.
    pub tank: String,
    /// What it is made of.
    pub parts: String,
    /// What takes it down, where it is trolled.
    pub weight: Option<String>,
    /// Class of the row: `works`, `watch` or `cannot`.
    pub verdict: &'static str,
    /// Symbol of the blade's state.
    pub glyph: &'static str,
    /// The blade's state in a word.
    pub state: &'static str,
    /// Why it stands here.
    pub reason: String,
    /// Why it is not on the sheet.
    pub why_not: Vec<String>,
    /// Whether it was struck off.
    pub vetoed: bool,
    /// Whether it is pinned.
    pub pinned: bool,
    /// Its usable speeds.
    pub bar: SpeedBar,
    /// What to let out.
    pub out: Option<Figure>,
    /// Whether that is a downrigger's cable.
    pub cable: bool,
}

/// What would change the first call; a part of Today that is loaded after it.
#[derive(Debug, Template)]
#[template(path = "changes.html")]
pub struct Changes {
    /// The frame.
    pub frame: Frame,
    /// The first call.
    pub first: String,
    /// Each: the condition moved, what is called then.
    pub changes: Vec<(String, String)>,
    /// Conditions that were moved without changing it.
    pub tried: String,
}

/// The call sheet to print: half a page.
#[derive(Debug, Template)]
#[template(path = "call_card.html")]
pub struct CallCard {
    /// The frame.
    pub frame: Frame,
    /// Water, day and hour.
    pub head: String,
    /// The conditions in one line.
    pub conditions: String,
    /// First call, contrast, probe.
    pub picks: Vec<PickCard>,
    /// Why there is none.
    pub nothing: String,
    /// Rules of the date.
    pub rules: Vec<(String, String)>,
    /// Cautions.
    pub cautions: Vec<String>,
}
