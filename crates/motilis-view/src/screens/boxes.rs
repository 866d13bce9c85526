use super::{Choice, Field, Frame, Window};
use crate::draw::Sheet;
use crate::draw::part::Lying;
use askama::Template;
use motilis_core::rig::Kind;

/// What every page of the box begins with.
#[derive(Debug)]
pub struct BoxHead {
    /// Trays, the one shown chosen.
    pub trays: Vec<Choice>,
    /// What is sought.
    pub sought: String,
    /// A sentence about what was just done.
    pub notice: Option<String>,
    /// What takes it back: where to send to.
    pub undo: Option<String>,
}

impl BoxHead {
    /// Whether what runs short is looked at.
    pub(crate) fn is_short(&self) -> bool {
        self.trays
            .iter()
            .any(|tray| tray.chosen && tray.value == "low")
    }
}

/// The box: parts of a tray, or the made-up rigs.
#[derive(Debug, Template)]
#[template(path = "box.html")]
pub struct BoxScreen {
    /// The frame.
    pub frame: Frame,
    /// Trays and what was just done.
    pub head: BoxHead,
    /// In one line: how many parts and rigs, what they cost.
    pub summary: String,
    /// Parts of the tray, or a piece of a long one.
    pub parts: Vec<PartRow>,
    /// Which piece it is.
    pub window: Option<Window>,
    /// Made-up rigs, when their tray is open.
    pub made: Vec<MadeGroup>,
    /// Kinds of rig to look for.
    pub kinds: Vec<Choice>,
    /// Fish to look for rigs for.
    pub fish: Vec<Choice>,
    /// Whether a count is kept.
    pub counted: bool,
    /// What money is counted in.
    pub currency: String,
    /// Whether the made-up rigs are shown.
    pub shows_made: bool,
}

/// A part in a tray.
#[derive(Debug)]
pub struct PartRow {
    /// Its number.
    pub id: i64,
    /// Its drawing at true size.
    pub drawing: Lying,
    /// Whether it hangs.
    pub upright: bool,
    /// `in` or `none`.
    pub state: &'static str,
    /// What it is.
    pub name: String,
    /// How it looks.
    pub looks: String,
    /// Its figures.
    pub figures: String,
    /// Whether some of them were measured.
    pub measured: bool,
    /// ` lot-wide` when it is too long to lie beside its words.
    pub shape: &'static str,
    /// How many are left.
    pub left: String,
    /// The figure in the count's field.
    pub count: String,
    /// Whether it runs short.
    pub low: bool,
    /// Where it lies.
    pub place: String,
    /// What one costs.
    pub cost: String,
}

/// Made-up rigs of one kind.
#[derive(Debug)]
pub struct MadeGroup {
    /// The kind.
    pub kind: &'static str,
    /// Each rig.
    pub rows: Vec<MadeRow>,
}

/// A made-up rig.
#[derive(Debug)]
pub struct MadeRow {
    /// What kind it is; none when its board is gone.
    pub of: Option<Kind>,
    /// Its number.
    pub id: i64,
    /// The rig's number.
    pub rig: i64,
    /// The rig's name.
    pub name: String,
    /// Its kind.
    pub kind: &'static str,
    /// States to choose from.
    pub states: Vec<Choice>,
    /// Where it lies.
    pub place: String,
    /// What stood in its form when it was shown.
    pub base: String,
}

/// A part's own page.
#[derive(Debug, Template)]
#[template(path = "part.html")]
pub struct PartForm {
    /// The frame.
    pub frame: Frame,
    /// Its number; none for a new one.
    pub id: Option<i64>,
    /// What it is called now.
    pub name: String,
    /// Its drawing.
    pub drawing: Option<Lying>,
    /// Kinds of part.
    pub what: Vec<Choice>,
    /// Its size.
    pub size: Field,
    /// What it is made of; empty for the usual.
    pub material: Vec<Choice>,
    /// Colours of the face.
    pub colour: Vec<Choice>,
    /// Whether the face is hammered.
    pub hammered: Vec<Choice>,
    /// Colours of the back; empty for the face's.
    pub back: Vec<Choice>,
    /// Whether the back is hammered.
    pub back_hammered: Vec<Choice>,
    /// What lies over the face.
    pub over: Vec<Choice>,
    /// How much of it that covers.
    pub over_share: Vec<Choice>,
    /// What lies over the back.
    pub back_over: Vec<Choice>,
    /// How much of it that covers.
    pub back_over_share: Vec<Choice>,
    /// The angler's own name of the size.
    pub size_name: Field,
    /// Measured figures, each with the table's beside it.
    pub measured: Vec<(Field, String)>,
    /// Left, low, cost, place.
    pub stock: Vec<Field>,
    /// What cannot be, where no field is to blame.
    pub refusal: Option<String>,
    /// What stood in the form when it was shown.
    pub base: String,
}

/// What came back from a rig that was broken off.
#[derive(Debug, Template)]
#[template(path = "break_off.html")]
pub struct BreakOff {
    /// The frame.
    pub frame: Frame,
    /// Number of the made-up rig.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// Its parts.
    pub parts: Vec<ReturnRow>,
}

/// A part that may have come back.
#[derive(Debug)]
pub struct ReturnRow {
    /// Its number in the box.
    pub part: i64,
    /// What it is.
    pub words: String,
    /// How many there were.
    pub most: u32,
    /// How many came back, as typed.
    pub field: String,
    /// What is wrong with it.
    pub problem: Option<String>,
}

/// A file on its way into the box.
#[derive(Debug, Template)]
#[template(path = "import.html")]
pub struct ImportScreen {
    /// The frame.
    pub frame: Frame,
    /// Why the file is refused as a whole.
    pub refusal: Option<String>,
    /// What was pasted or read, to be sent again.
    pub text: String,
    /// Formats.
    pub format: Vec<Choice>,
    /// Its records; empty before a file was read.
    pub rows: Vec<ImportRow>,
    /// In one line: how many are new, changed, the same, wrong.
    pub summary: String,
    /// Whether all of it may go in.
    pub sound: bool,
}

/// A record of an import.
#[derive(Debug)]
pub struct ImportRow {
    /// Its line.
    pub line: u64,
    /// What it is, or as far as it could be read.
    pub words: String,
    /// `new`, `changed`, `same` or `wrong`.
    pub fate: &'static str,
    /// What is wrong, field by field.
    pub problems: Vec<String>,
}

/// What to buy.
#[derive(Debug, Template)]
#[template(path = "shopping.html")]
pub struct ShoppingScreen {
    /// The frame.
    pub frame: Frame,
    /// What runs short.
    pub rows: Vec<ShoppingRow>,
    /// What it will cost, where prices are known.
    pub total: String,
}

/// Something to buy.
#[derive(Debug, Clone, PartialEq)]
pub struct ShoppingRow {
    /// What.
    pub words: String,
    /// How many to buy.
    pub buy: String,
    /// How many are left.
    pub left: String,
    /// Why.
    pub why: String,
    /// What they will cost.
    pub cost: String,
}

/// The print preview of a tying sheet.
#[derive(Debug, Template)]
#[template(path = "sheet.html")]
pub struct SheetScreen {
    /// The frame.
    pub frame: Frame,
    /// The rig's number.
    pub id: i64,
    /// The rig's name.
    pub name: String,
    /// Papers.
    pub papers: Vec<Choice>,
    /// The sheet.
    pub sheet: Sheet,
}
