use super::{Field, Frame};
use askama::Template;

/// The way in.
#[derive(Debug, Template)]
#[template(path = "sign_in.html")]
pub struct SignIn {
    /// The frame.
    pub frame: Frame,
    /// Where to go afterwards.
    pub back: String,
    /// What was wrong with the last try.
    pub problem: Option<String>,
}

/// Who is asked who they are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Asked {
    /// Nobody.
    Nobody,
    /// Who comes from another device.
    Others,
    /// Whoever sits at the machine, too.
    Everybody,
}

/// Who is aboard: pass phrases, sessions, the guest card.
#[derive(Debug, Template)]
#[template(path = "aboard.html")]
pub struct AboardScreen {
    /// The frame.
    pub frame: Frame,
    /// What was just done.
    pub done: Option<String>,
    /// Who is asked who they are.
    pub asked: Asked,
    /// The captain's new pass phrase.
    pub captain: Field,
    /// The crew's.
    pub crew: Field,
    /// Whether the crew has one.
    pub has_crew: bool,
    /// Whether there is a guest card.
    pub has_card: bool,
    /// Who is signed in.
    pub sessions: Vec<SessionRow>,
}

/// A session.
#[derive(Debug)]
pub struct SessionRow {
    /// Its number.
    pub id: u64,
    /// What it may do.
    pub role: &'static str,
    /// What device it is, by its browser's own words.
    pub device: String,
    /// When it began and was last seen.
    pub since: String,
    /// Whether it is the one that looks.
    pub own: bool,
}

/// The guest card, to be shown or printed: it is shown once.
#[derive(Debug, Template)]
#[template(path = "guest_card.html")]
pub struct GuestCard {
    /// The frame.
    pub frame: Frame,
    /// Addresses with their codes: text, path of squares, how many squares wide.
    pub codes: Vec<(String, String, usize)>,
    /// How long it lets somebody look on, days.
    pub days: i64,
}

impl AboardScreen {
    /// The two pass phrases: field, where it is sent, what it is good for.
    fn phrases(&self) -> [(&Field, &'static str, &'static str); 2] {
        let crew = if self.has_crew {
            "The crew has one; another one signs the crew out."
        } else {
            "For Boat, Log and looks. The crew has none yet."
        };
        [
            (
                &self.captain,
                "/aboard/captain",
                "For everything. Another one signs out who came in by the old one. 12 characters or more; four or five words are easy to remember.",
            ),
            (&self.crew, "/aboard/crew", crew),
        ]
    }
}
