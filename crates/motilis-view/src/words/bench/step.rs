//! What a step of the work says.

use super::{mm, part_name, piece};
use motilis_core::bench::{Action, Step};
use motilis_core::rig::{Stack, What};

/// A step as a sentence.
#[allow(clippy::too_many_lines, reason = "one sentence for each step")]
pub fn step(step: &Step, stack: &Stack) -> String {
    let wire = stack.mount.is_wire();
    let spool = part_name(stack.mount.part());
    let at = |place: usize| stack.pieces.get(place).map_or_else(String::new, piece);
    let name = |place: usize| {
        stack
            .pieces
            .get(place)
            .map_or_else(String::new, |piece| part_name(&piece.part))
    };
    let hooks: usize = stack
        .pieces
        .iter()
        .filter(|piece| piece.part.hook().is_some())
        .map(|piece| usize::from(piece.count))
        .sum();
    let front = if hooks == 1 {
        "the hook"
    } else {
        "the front hook"
    };
    match step.action {
        Action::Cut { length } => format!("Cut {} of {spool}.", mm(length)),
        Action::BendEye {
            front,
            inside,
            wraps,
        } => format!(
            "Bend the {} eye {} inside, {wraps} wraps, trim the tail.",
            if front { "front" } else { "lower" },
            mm(inside)
        ),
        Action::HangHook {
            piece,
            inside,
            wraps,
        } => format!(
            "Bend the lower eye {} inside, hang in {}, close with {wraps} wraps, trim.",
            mm(inside),
            name(piece)
        ),
        Action::Thread { piece } => format!("Thread {}.", at(piece)),
        Action::HangBlade { piece } => {
            let carrier = piece
                .checked_sub(1)
                .and_then(|before| stack.pieces.get(before))
                .filter(|before| matches!(before.part.what(), What::Clevis(_)));
            match carrier {
                Some(clevis) => format!(
                    "Hang {} on {}, hollow side to the {}.",
                    at(piece),
                    part_name(&clevis.part),
                    if wire { "shaft" } else { "line" }
                ),
                None => format!("Thread {} through its hole.", at(piece)),
            }
        }
        Action::LeaveRoom { length } => format!("Leave {} to twist the next eye.", mm(length)),
        Action::Straighten => {
            "Crimp an open hook eye, straighten both eyes in one line.".to_owned()
        }
        Action::Snell {
            piece,
            wraps,
            at: None,
            ..
        } if hooks == 1 => format!("Snell {}, {wraps} wraps.", name(piece)),
        Action::Snell {
            piece,
            wraps,
            at: None,
            ..
        } => format!("Snell {} as the last hook, {wraps} wraps.", name(piece)),
        Action::Snell {
            piece,
            wraps,
            at: Some(spacing),
            sliding,
            ..
        } => format!(
            "{} {} ahead of it, snell {}, {wraps} wraps{}.",
            if sliding { "About" } else { "At" },
            mm(spacing),
            name(piece),
            if sliding { " that slide" } else { "" }
        ),
        Action::Tie {
            knot,
            piece: Some(piece),
            finished,
        } => format!(
            "Tie on {} with {} {} knot, {} from {front}.",
            name(piece),
            if knot.name().starts_with(['i', 'u']) {
                "an"
            } else {
                "a"
            },
            knot.name(),
            mm(finished)
        ),
        Action::Tie { knot, finished, .. } => {
            format!(
                "Tie the {} knot {} from {front}.",
                knot.name(),
                mm(finished)
            )
        }
        Action::Attach { piece } => format!("Hang on {}.", name(piece)),
        Action::Test => match stack.blades().next() {
            None => "Draw it straight: nothing may slip.",
            Some((_, blade, _)) if blade.family.sways() => {
                "Draw it straight, swing the spoon: it must hang freely."
            }
            Some(_) => "Draw it straight, blow on the blade: it must turn freely.",
        }
        .to_owned(),
        Action::Trim { piece, length } => format!(
            "Trim the {} to {}, level with the hook’s bend.",
            name(piece),
            mm(length)
        ),
        Action::Bait { piece, how } => format!("On the water, {}: {}.", name(piece), how.name()),
    }
}
