//! Box: parts in their trays, and made-up rigs.

use super::bare_frame;
use super::bench::part_figures;
use super::rail::bay_of;
use crate::draw::part::{TRUE_SIZE, lying};
use crate::forms::base;
use crate::forms::part::left_typed;
use crate::screens::{
    BoxHead, BoxScreen, Choice, LISTED, MadeGroup, MadeRow, PartRow, Screen, Window,
};
use crate::seen::Device;
use crate::units::{Quantity, System};
use crate::words::{self, bench as say};
use motilis_core::book::{BoxPart, MadeState, PartId};
use motilis_core::fish::Fish;
use motilis_core::rig::{Kind, Measured};
use motilis_helm::{Book, Error, LAST_CAME, shortages};
use motilis_store::{made as made_rigs, parts, rigs, settings};
use serde::Deserialize;
use std::collections::HashSet;

/// Trays of the box: key, name.
const TRAYS: [(&str, &str); 12] = [
    ("made", "Made-up rigs"),
    ("low", "Runs short"),
    ("new", "Came in last"),
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
    /// How many parts came in.
    #[serde(deserialize_with = "crate::forms::lenient")]
    came: Option<u32>,
    /// Rigs of one kind only.
    kind: String,
    /// Rigs that are tied for one fish only.
    fish: String,
    /// How many of a long tray come before what is shown.
    #[serde(deserialize_with = "crate::forms::lenient")]
    from: Option<usize>,
}

/// The page of the box.
///
/// # Errors
/// [`Error::Store`].
pub fn boxes(book: &Book<'_>, device: Device, look: &Look) -> Result<BoxScreen, Error> {
    let connection = book.connection();
    let (all, counted) = (book.parts()?, parts::is_counted(connection)?);
    let currency = currency(book)?;
    let short: HashSet<PartId> = shortages(book)?.into_iter().map(|short| short.id).collect();
    let made = made_rigs::all(connection)?;
    let sought = look.q.trim().to_lowercase();
    let tray = TRAYS
        .iter()
        .find(|(key, _)| *key == look.tray)
        .map_or(if sought.is_empty() { "blade" } else { "" }, |(key, _)| {
            *key
        });
    let came = settings::get(connection, LAST_CAME)?.unwrap_or_default();
    let came: Vec<PartId> = came
        .split(',')
        .filter_map(|id| Some(PartId(id.parse().ok()?)))
        .collect();
    let is_in = |id: PartId, boxed: &BoxPart| {
        let found = sought.is_empty() || {
            let words = format!("{} {}", say::part(&boxed.part), boxed.place).to_lowercase();
            sought.split_whitespace().all(|word| words.contains(word))
        };
        let in_tray = match tray {
            "" => true,
            "low" => short.contains(&id),
            "new" => came.contains(&id),
            tray => bay_of(boxed.part.what()) == tray,
        };
        found && in_tray
    };
    let value: f64 = all
        .iter()
        .filter_map(|(_, boxed)| Some(boxed.left * boxed.unit_cost?))
        .sum();
    let rows: Vec<&(PartId, BoxPart)> = all
        .iter()
        .filter(|(id, boxed)| tray != "made" && is_in(*id, boxed))
        .collect();
    let from = Window::from(look.from.unwrap_or(0), rows.len());
    let (notice, undo) = done(look);
    Ok(BoxScreen {
        frame: bare_frame(book, Screen::Box, device, "/box")?,
        head: BoxHead {
            trays: Choice::list(
                TRAYS
                    .into_iter()
                    .filter(|(key, _)| *key != "new" || !came.is_empty()),
                tray,
            ),
            sought: look.q.clone(),
            notice,
            undo,
        },
        summary: format!(
            "{} parts, {} made-up rigs, {}",
            all.len(),
            made.len(),
            if counted {
                format!("stock worth {}", words::money(value.round(), &currency))
            } else {
                "no count kept".to_owned()
            }
        ),
        window: Window::of(from, rows.len(), |from| piece(look, tray, from)),
        parts: rows
            .into_iter()
            .skip(from)
            .take(LISTED)
            .map(|(id, boxed)| PartRow {
                low: short.contains(id),
                ..row(*id, boxed, &currency, device.system)
            })
            .collect(),
        counted,
        currency,
        made: if tray == "made" {
            grouped(made_rows(book)?, look)
        } else {
            Vec::new()
        },
        kinds: chosen(
            Kind::ALL.iter().map(|kind| (kind.key(), kind.name())),
            "every kind",
            &look.kind,
        ),
        fish: chosen(
            Fish::ALL.iter().map(|fish| (fish.key(), fish.name())),
            "every fish",
            &look.fish,
        ),
        shows_made: tray == "made",
    })
}

/// The address of a piece of a long tray.
fn piece(look: &Look, tray: &str, from: usize) -> String {
    let from = from.to_string();
    let asked = [
        ("tray", tray),
        ("q", look.q.as_str()),
        ("from", from.as_str()),
    ];
    format!(
        "/box?{}#pieces",
        serde_urlencoded::to_string(asked).unwrap_or_default()
    )
}

/// A list with "all of them" ahead.
fn chosen(
    all: impl Iterator<Item = (&'static str, &'static str)>,
    every: &'static str,
    chosen: &str,
) -> Vec<Choice> {
    Choice::list(std::iter::once(("", every)).chain(all), chosen)
}

/// The made-up rigs that are looked for, kind by kind.
fn grouped(rows: Vec<MadeRow>, look: &Look) -> Vec<MadeGroup> {
    let (kind, fish) = (Kind::from_key(&look.kind), Fish::from_key(&look.fish));
    let is_sought = |row: &MadeRow| {
        kind.is_none_or(|kind| row.of == Some(kind))
            && fish.is_none_or(|fish| row.of.is_some_and(|of| fish.kinds().contains(&of)))
    };
    let mut groups: Vec<MadeGroup> = Vec::new();
    for row in rows.into_iter().filter(is_sought) {
        match groups.iter_mut().find(|group| group.kind == row.kind) {
            Some(group) => group.rows.push(row),
            None => groups.push(MadeGroup {
                kind: row.kind,
                rows: vec![row],
            }),
        }
    }
    groups.sort_by_key(|group| Kind::ALL.iter().position(|kind| kind.name() == group.kind));
    groups
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
        let came = match look.came {
            Some(1) => "One part came in.".to_owned(),
            Some(came) => format!("{came} parts came in."),
            None => "Imported.".to_owned(),
        };
        return (Some(came), Some("/box/import/undo".into()));
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

/// What money is counted in.
///
/// # Errors
/// [`Error::Store`].
pub(super) fn currency(book: &Book<'_>) -> Result<String, Error> {
    Ok(settings::get(book.connection(), "currency")?.unwrap_or_default())
}

fn row(id: PartId, boxed: &BoxPart, currency: &str, system: System) -> PartRow {
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
        left: say::left(part, boxed.left, system),
        count: left_typed(boxed, system),
        low: false,
        place: boxed.place.clone(),
        cost: boxed.unit_cost.map_or_else(String::new, |cost| {
            if part.what().is_by_length() {
                let unit = Quantity::Depth.unit(system);
                let price = words::money(cost * unit.to_si(1.0), currency);
                return format!("{price} a {}", unit.symbol);
            }
            format!("{} each", words::money(cost, currency))
        }),
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
            let of = known.map(|board| board.stack.kind);
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
                of,
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
