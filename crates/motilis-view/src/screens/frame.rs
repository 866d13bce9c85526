use crate::seen::{FileSaid, Role};
use crate::units::{Problem, System};
use askama::Template;

/// Day or night view; each device has its own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Theme {
    /// Ink on film.
    Day,
    /// Red on black, so that the eye stays adapted.
    Night,
    /// What the device itself is set to: it has chosen nothing here yet.
    #[default]
    Device,
}

impl Theme {
    /// The name in the cookie.
    pub fn key(self) -> &'static str {
        match self {
            Self::Day => "day",
            Self::Night => "night",
            Self::Device => "device",
        }
    }

    /// The theme of a key; the device's own for anything else.
    pub fn from_key(key: &str) -> Self {
        match key {
            "night" => Self::Night,
            "day" => Self::Day,
            _ => Self::Device,
        }
    }

    /// The other one.
    pub fn other(self) -> Self {
        match self {
            Self::Day | Self::Device => Self::Night,
            Self::Night => Self::Day,
        }
    }

    /// What the style sheets call it.
    pub fn attribute(self) -> &'static str {
        match self {
            Self::Day => "light",
            Self::Night => "dark",
            Self::Device => "device",
        }
    }
}

/// The screens there are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Screen {
    /// Conditions and call sheet.
    Today,
    /// One rig on the bench.
    Bench,
    /// One rig on its line.
    Tank,
    /// All lines together.
    Spread,
    /// Where every line is now.
    Boat,
    /// What happened.
    Log,
    /// Parts and made-up rigs.
    Box,
    /// Casts in a run of a river.
    River,
    /// Lakes, rivers and sea areas with their rules.
    Waters,
    /// None of them: a message.
    None,
}

/// Where and when, at the end of the rule.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Here {
    /// Name of the water.
    pub water: String,
    /// Day and temperature.
    pub when: String,
    /// Whether the water is a river, where nothing is trolled.
    pub river: bool,
}

/// What every page is framed by.
#[derive(Debug, Clone)]
pub struct Frame {
    /// The screen shown.
    pub screen: Screen,
    /// Day or night.
    pub theme: Theme,
    /// The boat's units.
    pub system: System,
    /// Where and when.
    pub here: Here,
    /// Path to come back to after a switch.
    pub path: String,
    /// Number of this page: its forms bear it, so that each is done once.
    pub page: u64,
    /// What is said of the data file.
    pub file: FileSaid,
    /// What whoever looks may do.
    pub role: Role,
}

/// What every form of a page bears: the number of the page, the units its figures are typed in, and the book it is of.
#[derive(Debug, Template)]
#[template(path = "_seal.html")]
pub struct Sealed {
    act: String,
    units: &'static str,
    book: u64,
}

impl Frame {
    /// Where the static files of this build are.
    pub fn assets(&self) -> String {
        format!("/static/{}", crate::assets::version())
    }

    /// What a page of towed lines says on a river.
    pub fn on_a_river(&self) -> Option<String> {
        self.here.river.then(|| {
            format!(
                "{} is a river: Today ranks what can be cast there. This is how a line would run behind a boat.",
                self.here.water
            )
        })
    }

    /// The screens that can be opened, with their addresses.
    pub fn doors(&self) -> [(Screen, &'static str, &'static str); 9] {
        [
            (Screen::Today, "/today", "Today"),
            (Screen::Bench, "/bench", "Bench"),
            (Screen::Tank, "/tank", "Tank"),
            (Screen::Spread, "/spread", "Spread"),
            (Screen::Boat, "/boat", "Boat"),
            (Screen::Log, "/log", "Log"),
            (Screen::Box, "/box", "Box"),
            (Screen::River, "/river", "River"),
            (Screen::Waters, "/waters", "Waters"),
        ]
    }

    /// The doors a thumb reaches on a phone.
    pub fn doors_near(&self) -> [(Screen, &'static str, &'static str); 4] {
        let [today, _, tank, spread, boat, log, _, river, _] = self.doors();
        // Where one casts, spread and boat stay at home.
        if self.here.river {
            [today, tank, river, log]
        } else {
            [today, spread, boat, log]
        }
    }

    /// The doors behind "More" there.
    pub fn doors_far(&self) -> [(Screen, &'static str, &'static str); 5] {
        let [_, bench, tank, spread, boat, _, stock, river, waters] = self.doors();
        if self.here.river {
            [bench, spread, boat, stock, waters]
        } else {
            [bench, tank, stock, river, waters]
        }
    }

    /// Whether the screen shown is behind "More".
    pub fn is_far(&self) -> bool {
        self.doors_far()
            .iter()
            .any(|(screen, ..)| self.is_at(screen))
    }

    /// What a form that changes something bears.
    pub fn seal(&self) -> Sealed {
        Sealed {
            act: self.act(),
            units: self.system.key(),
            book: self.file.book,
        }
    }

    /// Number under which a form of this page is sent until a script gives it one of its own.
    pub fn act(&self) -> String {
        format!("page-{:x}", self.page)
    }

    fn is_at(&self, screen: &Screen) -> bool {
        self.screen == *screen
    }

    /// Whether a door leads to the screen shown.
    pub fn current(&self, screen: &Screen) -> &'static str {
        if self.is_at(screen) { "page" } else { "false" }
    }

    /// Whether whoever looks may do everything.
    pub fn is_captains(&self) -> bool {
        self.role == Role::Captain
    }

    /// What whoever looks is called.
    pub fn role_words(&self) -> &'static str {
        crate::words::data::role(self.role)
    }

    /// What is to be said on every page: sentence, address to go on by, its words.
    pub fn strips(&self) -> Vec<(String, &'static str, &'static str)> {
        let mut strips = Vec::new();
        if self.file.rescued {
            let words = "This is what could be read of a damaged file; nothing can be changed.";
            strips.push((words.to_owned(), "/data", "What is missing"));
        } else if self.file.read_only {
            let words = "The data file can only be read where it lies; nothing can be changed.";
            strips.push((words.to_owned(), "/data", "Why"));
        }
        let unread = match self.file.unread {
            0 => None,
            1 => Some("One record of the data file cannot be read by this version.".to_owned()),
            some => Some(format!(
                "{some} records of the data file cannot be read by this version."
            )),
        };
        if let Some(words) = unread {
            strips.push((
                format!("{words} Nothing of it is lost."),
                "/unread",
                "Which",
            ));
        }
        if self.role == Role::Guest {
            let words = "You look on as a guest: nothing can be changed from here.";
            strips.push((words.to_owned(), "", ""));
        }
        strips
    }

    /// The program's version.
    pub fn version(&self) -> &'static str {
        env!("CARGO_PKG_VERSION")
    }

    /// What the units switch offers.
    pub fn units_label(&self) -> &'static str {
        match self.system {
            System::Imperial => "ft, mph",
            System::Metric => "m, km/h",
        }
    }
}

/// One entry of a list to choose from.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Choice {
    /// Value sent.
    pub value: String,
    /// Words shown.
    pub label: String,
    /// Whether it is chosen.
    pub chosen: bool,
}

impl Choice {
    /// Choices out of keys and names.
    pub fn list<'a>(all: impl IntoIterator<Item = (&'a str, &'a str)>, chosen: &str) -> Vec<Self> {
        all.into_iter()
            .map(|(value, label)| Self {
                value: value.to_owned(),
                label: crate::words::capital(label),
                chosen: value == chosen,
            })
            .collect()
    }
}

/// Choices that a list shows at once; of more, the browser looks for others by their words (`data-find`).
pub const LISTED: usize = 80;

/// The first of many choices, with the one that is chosen.
pub fn listed(choices: Vec<Choice>) -> Vec<Choice> {
    if choices.len() <= LISTED {
        return choices;
    }
    let (mut first, rest): (Vec<Choice>, Vec<Choice>) = {
        let mut all = choices;
        let rest = all.split_off(LISTED);
        (all, rest)
    };
    first.extend(rest.into_iter().filter(|choice| choice.chosen));
    first
}

/// A piece of a long list.
#[derive(Debug)]
pub struct Window {
    /// "1 to 80 of 3 412".
    pub says: String,
    /// Address of what comes before.
    pub before: Option<String>,
    /// Address of what comes after.
    pub after: Option<String>,
}

impl Window {
    /// The first row of the piece in which a row stands.
    pub fn from(row: usize, rows: usize) -> usize {
        row.min(rows.saturating_sub(1)) / LISTED * LISTED
    }

    /// The piece that begins at a row, of a list longer than one piece; `address` is where another piece is looked at.
    pub fn of(from: usize, rows: usize, address: impl Fn(usize) -> String) -> Option<Self> {
        let end = (from + LISTED).min(rows);
        (rows > LISTED).then(|| Self {
            says: format!("{} to {end} of {rows}", from + 1),
            before: (from > 0).then(|| address(from.saturating_sub(LISTED))),
            after: (end < rows).then(|| address(end)),
        })
    }
}

/// A field to type in: what was typed stays, with the problem beside it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Field {
    /// Its name in the form, and its id.
    pub name: &'static str,
    /// What it is called.
    pub label: &'static str,
    /// Its unit when none is typed.
    pub unit: &'static str,
    /// What stands in it.
    pub value: String,
    /// What is wrong with it.
    pub problem: Option<Problem>,
}

impl Field {
    /// The places of the sentences beside some fields, as a list for the live update.
    pub(super) fn problem_places(fields: &[&Self]) -> String {
        let places: Vec<String> = fields
            .iter()
            .map(|field| format!("#problem-{}", field.name))
            .collect();
        places.join(",")
    }

    /// The sentence beside it; empty when nothing is wrong.
    pub fn sentence(&self) -> &str {
        self.problem
            .as_ref()
            .map_or("", |problem| problem.0.as_str())
    }

    /// Which keys a phone shows for it.
    pub(super) fn keyboard(&self) -> &'static str {
        match self.name {
            "started" | "ended" | "taken" => " data-clock",
            "count" | "batch" | "lines" | "rods" => " inputmode=\"numeric\"",
            _ if self.unit.is_empty() => "",
            _ => " inputmode=\"decimal\"",
        }
    }

    /// For assistive technology.
    pub fn invalid(&self) -> &'static str {
        if self.problem.is_some() {
            "true"
        } else {
            "false"
        }
    }
}
