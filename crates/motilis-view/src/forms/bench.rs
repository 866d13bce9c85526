//! A form of the bench as changes of a stack.

use super::Texts;
use crate::present::bay_of;
use crate::units::{Quantity, Reader, System};
use crate::words::bench as say;
use motilis_core::bench::{Checked, offered};
use motilis_core::book::PartId;
use motilis_core::fields;
use motilis_core::rig::{Edit, Knot, Mount, Piece, Setting, Spacing, Stack};
use motilis_formats::quoted;
use motilis_helm::Shop;

/// Changes, and the piece that is in hand after them.
#[derive(Debug)]
pub struct Typed {
    /// The changes.
    pub edits: Vec<Edit>,
    /// The piece.
    pub at: Option<usize>,
}

/// What could not be taken, beside which field.
#[derive(Debug)]
pub struct Refused {
    /// The field; empty for the page as a whole.
    pub field: String,
    /// What was typed in it.
    pub typed: String,
    /// What is wrong and what would be right.
    pub sentence: String,
}

impl Refused {
    /// A refusal of the page as a whole.
    pub fn of(error: &motilis_core::Error) -> Self {
        Self::sentence(super::problem(error).0)
    }

    fn sentence(sentence: impl Into<String>) -> Self {
        Self {
            field: String::new(),
            typed: String::new(),
            sentence: sentence.into(),
        }
    }
}

/// Reads the changes that a form asks for, of the rig as it was when the form was shown.
///
/// # Errors
/// What could not be taken.
pub fn typed_edits(form: &Texts, shop: &Shop, seen: &Stack) -> Result<Typed, Refused> {
    let text = |name: &str| form.get(name).map_or("", String::as_str);
    let place = |name: &str| text(name).parse::<usize>().ok();
    let stack = seen;
    let at = place("at").filter(|at| *at < stack.pieces.len());
    let here = || at.ok_or_else(|| Refused::sentence("Choose a part of the rig first."));
    let one = |edit: Edit, at: Option<usize>| {
        Ok(Typed {
            edits: vec![edit],
            at,
        })
    };
    match text("edit") {
        "remove" => {
            let at = here()?;
            // The next one is in hand, or the one ahead of the end.
            let next = at.min(stack.pieces.len().saturating_sub(2));
            one(Edit::Remove { at }, Some(next))
        }
        "ahead" => moved(here()?, here()?.checked_sub(1)),
        "behind" => moved(
            here()?,
            Some(here()? + 1).filter(|to| *to < stack.pieces.len()),
        ),
        "move" => moved(here()?, place("to").filter(|to| *to < stack.pieces.len())),
        "more" => one(count(stack, here()?, 1), at),
        "fewer" => one(count(stack, here()?, -1), at),
        "count" => {
            let at = here()?;
            let count = counted("count", "Count", text("count"), 60.0)?;
            one(Edit::Count { at, count }, Some(at))
        }
        "bend" => {
            let at = here()?;
            let bend = figure("bend", "Bend", text("bend"), fields::BEND.range)?;
            one(Edit::Bend { at, bend }, Some(at))
        }
        "duplicate" => {
            let at = here()?;
            let piece = Piece {
                count: 1,
                ..stack.pieces[at]
            };
            one(Edit::Insert { at: at + 1, piece }, Some(at + 1))
        }
        "put" => put(
            (shop, stack),
            text("part"),
            text("tap"),
            at.or_else(|| place("in_hand")),
        ),
        "set" => set(form, at),
        "spool" => {
            let (id, boxed) = stock_of(shop, text("mount"))?;
            let mount = Mount::new(boxed, Some(id)).map_err(|error| Refused::of(&error))?;
            one(Edit::Thread(mount), at)
        }
        "knot" => {
            let knot = Knot::from_key(text("knot")).ok_or_else(|| {
                Refused::sentence("There is no such knot; choose one of the list.")
            })?;
            one(Edit::Tie(knot), at)
        }
        "spacing" => {
            let spacing = Spacing::from_key(text("spacing")).ok_or_else(|| {
                Refused::sentence("There is no such school; choose one of the list.")
            })?;
            one(Edit::Follow(spacing), at)
        }
        "mend" => mend(shop, text("check"), place("at"), place("mend")),
        other => Err(Refused::sentence(format!(
            "The bench cannot do {}.",
            quoted(other)
        ))),
    }
}

fn moved(from: usize, to: Option<usize>) -> Result<Typed, Refused> {
    let Some(to) = to else {
        return Err(Refused::sentence("That part is at the end already."));
    };
    Ok(Typed {
        edits: vec![Edit::Move { from, to }],
        at: Some(to),
    })
}

/// One more or fewer of a piece; fewer than one is refused by the stack.
fn count(stack: &Stack, at: usize, by: i16) -> Edit {
    let count = i16::from(stack.pieces[at].count) + by;
    Edit::Count {
        at,
        count: u8::try_from(count).unwrap_or(0),
    }
}

/// A part tapped on the rail: it takes the place of one of its own tray, or goes behind the one in hand.
fn put(
    (shop, stack): (&Shop, &Stack),
    part: &str,
    tap: &str,
    in_hand: Option<usize>,
) -> Result<Typed, Refused> {
    let (id, part) = stock_of(shop, part)?;
    let piece = Piece::one(part).from_box(id);
    let same_tray = |at: usize| bay_of(stack.pieces[at].part.what()) == bay_of(part.what());
    match in_hand.filter(|at| *at < stack.pieces.len()) {
        Some(at) if tap != "behind" && same_tray(at) => {
            let now = &stack.pieces[at];
            let piece = Piece {
                count: now.count,
                bend: now.bend.filter(|_| now.part.what() == part.what()),
                ..piece
            };
            Ok(Typed {
                edits: vec![Edit::Replace { at, piece }],
                at: Some(at),
            })
        }
        Some(at) if tap == "behind" => Ok(Typed {
            edits: vec![Edit::Insert { at: at + 1, piece }],
            at: Some(at + 1),
        }),
        _ => {
            let at = stack.natural_place(&part);
            Ok(Typed {
                edits: vec![Edit::Insert { at, piece }],
                at: Some(at),
            })
        }
    }
}

fn stock_of(shop: &Shop, id: &str) -> Result<(PartId, motilis_core::rig::Part), Refused> {
    let wanted = id.parse().ok().map(PartId);
    shop.stock
        .iter()
        .find(|(known, _)| Some(*known) == wanted)
        .map(|(id, boxed)| (*id, boxed.part))
        .ok_or_else(|| Refused::sentence("That part is not in the box any more; choose another."))
}

/// A measure: by its step (`si`) or as typed in its field.
fn set(form: &Texts, at: Option<usize>) -> Result<Typed, Refused> {
    let text = |name: &str| form.get(name).map_or("", String::as_str);
    let setting = Setting::from_key(text("setting"))
        .ok_or_else(|| Refused::sentence("There is no such measure; choose one of the list."))?;
    let value = if form.contains_key("si") {
        text("si")
            .parse::<f64>()
            .map_err(|_| Refused::sentence("That step cannot be read; type the measure instead."))?
    } else if setting.is_count() {
        let label = say::setting_label(setting);
        f64::from(counted(
            setting.key(),
            label,
            text(setting.key()),
            setting.range().most,
        )?)
    } else {
        let label = say::setting_label(setting);
        figure(setting.key(), label, text(setting.key()), setting.range())?
    };
    Ok(Typed {
        edits: vec![Edit::Set(setting, value)],
        at,
    })
}

/// A length of the bench as typed.
fn figure(
    field: &'static str,
    label: &'static str,
    typed: &str,
    range: motilis_core::Range,
) -> Result<f64, Refused> {
    let quantity = if field == "bend" {
        Quantity::Count
    } else {
        Quantity::Bench
    };
    let reader = Reader {
        label,
        quantity,
        system: System::Metric,
        range,
    };
    reader.read(typed).map_err(|problem| Refused {
        field: field.to_owned(),
        typed: typed.to_owned(),
        sentence: problem.0,
    })
}

/// A whole number as typed.
pub(crate) fn counted(field: &str, label: &str, typed: &str, most: f64) -> Result<u8, Refused> {
    let count = typed
        .trim()
        .parse::<u8>()
        .ok()
        .filter(|count| *count >= 1 && f64::from(*count) <= most);
    count.ok_or_else(|| Refused {
        field: field.to_owned(),
        typed: typed.to_owned(),
        sentence: format!(
            "{label} {} is no whole number from 1 to {most:.0}; write it like 3.",
            quoted(typed)
        ),
    })
}

/// The mend of a check, found anew: the rig may have changed since the page was shown.
fn mend(shop: &Shop, key: &str, at: Option<usize>, index: Option<usize>) -> Result<Typed, Refused> {
    let gone = || {
        Refused::sentence(
            "That is mended already, or the rig has changed; look at the checks again.",
        )
    };
    let stock = shop.stocked();
    let Checked { checks: found, .. } =
        offered(&shop.board.stack, &stock, &shop.water, shop.temperature);
    let check = found
        .into_iter()
        .find(|check| check.rule.key() == key && check.at == at && !check.mends.is_empty())
        .ok_or_else(gone)?;
    let edits = index
        .and_then(|index| check.mends.get(index).cloned())
        .ok_or_else(gone)?;
    Ok(Typed {
        edits,
        at: check.at,
    })
}
