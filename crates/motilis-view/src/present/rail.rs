//! The rail: trays of parts that fit at the place in hand.

use super::bench::Hand;
use crate::draw::part::{TRUE_SIZE, lying};
use crate::screens::{Bay, Peg};
use crate::seen::Seen;
use crate::words::{self, bench as say};
use motilis_core::bench::fits;
use motilis_core::book::{BoxPart, PartId};
use motilis_core::rig::{BARE, Colour, Part, Piece, Stack, What};
use motilis_helm::Shop;

/// Trays of the rail: key, name.
const BAYS: [(&str, &str); 8] = [
    ("blade", "Blades"),
    ("clevis", "Clevises"),
    ("bead", "Beads"),
    ("body", "Bodies"),
    ("dressing", "Skirts, floats"),
    ("hook", "Hooks"),
    ("hardware", "Swivels, attractors"),
    ("bait", "Bait"),
];
/// Most parts shown in a tray at once.
const MOST_PEGS: usize = 60;
/// The tray of the rail a part lies in.
pub fn bay_of(what: What) -> &'static str {
    match what {
        What::Blade(_) => "blade",
        What::Clevis(_) => "clevis",
        What::Bead(_) => "bead",
        What::Body(_) => "body",
        What::Dressing(_) => "dressing",
        What::Hook(_) => "hook",
        What::Bait(_) => "bait",
        What::Swivel(_) | What::Attractor(_) | What::Rudder | What::Tubing => "hardware",
        What::Line(_) | What::Wire => "spool",
    }
}

/// The trays, each with where it opens.
pub(crate) fn bays(open: &str, address: impl Fn(&str) -> String) -> Vec<Bay> {
    BAYS.into_iter()
        .map(|(key, name)| Bay {
            key,
            name,
            address: address(key),
            open: key == open,
        })
        .collect()
}

/// The tray that is open: the one asked for, or that of the piece in hand, or the first a rig lacks.
pub(crate) fn open(hand: &Hand, in_hand: Option<&Piece>, stack: &Stack) -> &'static str {
    let known = |key: &str| {
        BAYS.iter()
            .find(|(bay, _)| *bay == key)
            .map(|(bay, _)| *bay)
    };
    known(&hand.bay)
        .or_else(|| in_hand.and_then(|piece| known(bay_of(piece.part.what()))))
        .unwrap_or(if stack.blades().count() == 0 {
            "blade"
        } else {
            "bead"
        })
}

/// The parts of a tray that fit, and how many do.
pub(crate) fn pegs(
    shop: &Seen<Shop>,
    stack: &Stack,
    at: Option<usize>,
    bay: &str,
) -> (Vec<Peg>, String) {
    let of_bay: Vec<&(PartId, BoxPart)> = shop
        .stock
        .iter()
        .filter(|(_, boxed)| bay_of(boxed.part.what()) == bay)
        .collect();
    let place = |part: &Part| match at {
        Some(at) if bay_of(stack.pieces[at].part.what()) == bay => at,
        Some(at) => at + 1,
        None => stack.natural_place(part),
    };
    let on = |id: PartId| stack.pieces.iter().any(|piece| piece.stock == Some(id));
    let mut fitting: Vec<&(PartId, BoxPart)> = of_bay
        .iter()
        .copied()
        .filter(|(_, boxed)| fits(stack, place(&boxed.part), &boxed.part))
        .collect();
    let (shown, all) = (fitting.len().min(MOST_PEGS), of_bay.len());
    // What is on the rig comes first, then its colours; what the box only knows comes last.
    let colours: Vec<Colour> = stack
        .pieces
        .iter()
        .filter(|piece| piece.part.finish != BARE)
        .map(|piece| piece.part.finish.colour)
        .collect();
    fitting.sort_by_key(|(id, boxed)| {
        let matches = colours.contains(&boxed.part.finish.colour);
        (!on(*id), boxed.left <= 0.0, !matches)
    });
    let pegs = fitting
        .into_iter()
        .take(MOST_PEGS)
        .map(|(id, boxed)| {
            let part = &boxed.part;
            let state = if on(*id) {
                "on"
            } else if boxed.left > 0.0 || part.bait().is_some() {
                "in"
            } else {
                "none"
            };
            Peg {
                id: id.0,
                drawing: lying(part, TRUE_SIZE),
                upright: part.blade().is_some() || part.hook().is_some(),
                name: words::capital(&say::part_name(part)),
                looks: say::part_looks(part),
                left: match state {
                    "on" => format!(
                        "on the rig, {} left",
                        say::left(part, boxed.left, shop.device.system)
                    ),
                    "none" => "none left".to_owned(),
                    _ if part.bait().is_some() => "fresh".to_owned(),
                    _ => format!("{} left", say::left(part, boxed.left, shop.device.system)),
                },
                state,
            }
        })
        .collect();
    let where_to = match at {
        Some(at) => format!("at {}", say::part_name(&stack.pieces[at].part)),
        None => "in its natural place".to_owned(),
    };
    (pegs, format!("{shown} of {all} fit {where_to}"))
}
