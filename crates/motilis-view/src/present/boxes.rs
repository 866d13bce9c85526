//! Box: parts in their trays, and made-up rigs.

use super::bare_frame;
use super::bench::part_figures;
use super::rail::bay_of;
use crate::draw::part::{TRUE_SIZE, lying};
use crate::forms::base;
use crate::screens::{BoxHead, BoxScreen, Choice, MadeRow, PartRow, Screen};
use crate::seen::Device;
use crate::units::{Quantity, System, show as show_figure};
use crate::words::{self, bench as say};
use motilis_core::book::{BoxPart, MadeState, PartId};
use motilis_core::rig::Measured;
use motilis_helm::{Book, Error};
use motilis_store::{made as made_rigs, parts, rigs};
use serde::Deserialize;

/// Trays of the box: key, name.
const TRAYS: [(&str, &str); 11] = [
    ("made", "Made-up rigs"),
    ("low", "Runs short"),
    ("blade", "Blades"),
    ("clevis", "Clevises"),
    ("bead", "Beads"),
    ("body", "Bodies"),
    ("dressing", "Skirts, floats"),
    ("hook", "Hooks"),
    ("hardware", "Swivels, attractors"),
    ("spool", "Line, wire"),
    ("bait", "Bait"),
];

/// Widest drawing that lies beside its words, px.
const BESIDE: f64 = 118.0;

/// What of the box is shown, and what was just done.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct Look {
    tray: String,
    q: String,
    /// `rig-4` or `part-7`: just thrown away.
    gone: String,
    /// Number of the deed just done.
    #[serde(deserialize_with = "crate::forms::lenient")]
    deed: Option<i64>,
    /// A word for what was done.
    done: String,
}

/// The page of the box.
///
/// # Errors
/// [`Error::Store`].
pub fn boxes(book: &Book<'_>, device: Device, look: &Look) -> Result<BoxScreen, Error> {
    let connection = book.connection();
    let all = parts::all(connection)?;
    let made = made_rigs::all(connection)?;
    let sought = look.q.trim().to_lowercase();
    let tray = TRAYS
        .iter()
        .find(|(key, _)| *key == look.tray)
        .map_or(if sought.is_empty() { "blade" } else { "" }, |(key, _)| {
            *key
        });
    let is_in = |boxed: &BoxPart| {
        let words = format!("{} {}", say::part(&boxed.part), boxed.place).to_lowercase();
        let found = sought.split_whitespace().all(|word| words.contains(word));
        let in_tray = match tray {
            "" => true,
            "low" => boxed.is_low(),
            tray => bay_of(boxed.part.what()) == tray,
        };
        found && in_tray
    };
    let value: f64 = all
        .iter()
        .filter_map(|(_, boxed)| Some(boxed.left * boxed.unit_cost?))
        .sum();
    let rows = all
        .iter()
        .filter(|(_, boxed)| tray != "made" && is_in(boxed));
    let (notice, undo) = done(look);
    Ok(BoxScreen {
        frame: bare_frame(book, Screen::Box, device, "/box")?,
        head: BoxHead {
            trays: Choice::list(TRAYS, tray),
            sought: look.q.clone(),
            notice,
            undo,
        },
        summary: format!(
            "{} parts, {} made-up rigs, stock worth {value:.0}",
            all.len(),
            made.len()
        ),
        parts: rows.map(|(id, boxed)| row(*id, boxed)).collect(),
        made: if tray == "made" {
            made_rows(book)?
        } else {
            Vec::new()
        },
        shows_made: tray == "made",
    })
}

/// The sentence about what was just done, and where it is taken back.
fn done(look: &Look) -> (Option<String>, Option<String>) {
    let gone = look
        .gone
        .split_once('-')
        .and_then(|(what, id)| Some((what, id.parse::<i64>().ok()?)));
    match gone {
        Some(("rig", id)) => {
            return (
                Some("Rig thrown away.".into()),
                Some(format!("/bench/{id}/restore")),
            );
        }
        Some(("part", id)) => {
            return (
                Some("Part thrown away.".into()),
                Some(format!("/box/parts/{id}/restore")),
            );
        }
        _ => {}
    }
    if look.done == "imported" {
        return (Some("Imported.".into()), Some("/box/import/undo".into()));
    }
    let sentence = match look.done.as_str() {
        "dismantled" => "Dismantled. Its parts are in the box again; line and wire are not.",
        "lost" => "Taken out of the box with what did not come back.",
        "counted" => "Counted.",
        "undone" => "Undone.",
        "used" => "That cannot be undone any more: what it brought has been used since.",
        "saved" => "Saved. Rigs that carry it follow.",
        _ => return (None, None),
    };
    (
        Some(sentence.into()),
        look.deed.map(|deed| format!("/box/deeds/{deed}/undo")),
    )
}

fn row(id: PartId, boxed: &BoxPart) -> PartRow {
    let part = &boxed.part;
    let drawing = lying(part, TRUE_SIZE);
    let upright = part.blade().is_some() || part.hook().is_some();
    PartRow {
        id: id.0,
        shape: if !upright && drawing.size.0.0 > BESIDE {
            " lot-wide"
        } else {
            ""
        },
        drawing,
        upright,
        state: if boxed.left > 0.0 || part.bait().is_some() {
            "in"
        } else {
            "none"
        },
        name: if boxed.size_name.is_empty() {
            words::capital(&say::part_name(part))
        } else {
            let name = words::capital(&say::part_name(part));
            format!("{name}, “{}”", boxed.size_name)
        },
        looks: say::part_looks(part),
        figures: part_figures(part),
        measured: part.own_figures() != Measured::default(),
        left: say::left(part, boxed.left),
        count: show_figure(Quantity::Count, boxed.left, System::Metric).typed(),
        low: boxed.is_low(),
        place: boxed.place.clone(),
        cost: boxed
            .unit_cost
            .map_or_else(String::new, |cost| format!("{cost:.2} each")),
    }
}

fn made_rows(book: &Book<'_>) -> Result<Vec<MadeRow>, Error> {
    let made = made_rigs::all(book.connection())?;
    made.into_iter()
        .map(|(id, made)| {
            let boards = book.boards()?.iter();
            let known = boards
                .filter(|(rig, _)| *rig == made.rig)
                .map(|(_, board)| board)
                .next();
            // A rig thrown away may still lie in the box, made up.
            let (name, kind) = match known {
                Some(board) => (board.name.clone(), board.stack.kind.name()),
                None => (
                    rigs::name(book.connection(), made.rig)?,
                    "thrown away on the bench",
                ),
            };
            let stood = [("state", made.state.key()), ("place", made.place.as_str())];
            Ok(MadeRow {
                base: base(
                    &stood
                        .map(|(name, value)| (name.to_owned(), value.to_owned()))
                        .into(),
                ),
                id: id.0,
                rig: made.rig.0,
                kind,
                name,
                states: Choice::list(
                    MadeState::ALL
                        .iter()
                        .map(|state| (state.key(), state.name())),
                    made.state.key(),
                ),
                place: made.place,
            })
        })
        .collect()
}
