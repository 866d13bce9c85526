//! Mends: the changes that make a check pass, out of what is in the box where it can.

use super::layout::{Layout, SAFE};
use super::{Stocked, Wanted, proposals};
use crate::rig::{BARE, Edit, Part, Piece, Setting, Spacing, Stack, What};
use crate::units::{MILLIMETRE, Metres};

/// A skirt swallows a smaller bead than this before it.
pub(super) const SKIRT_BEAD: Metres = Metres(6.35 * MILLIMETRE.0);
/// Free play of a wire or line in a hole.
pub(super) const PLAY: Metres = Metres(0.1 * MILLIMETRE.0);

/// Tip clearances the bead solver aims at: least, ideal, most.
fn aim(spacing: Spacing) -> (Metres, Metres, Metres) {
    match spacing {
        Spacing::Level => (-SAFE, Metres(0.0), SAFE),
        Spacing::Clear | Spacing::Cap => (SAFE, 2.0 * SAFE, 5.0 * SAFE),
    }
}

/// The run of body beads behind the rearmost blade, without a bearing bead, as places in the stack.
pub(super) fn bead_run(stack: &Stack) -> Option<(usize, usize)> {
    let first_hook = stack.hooks().first().copied().unwrap_or(stack.pieces.len());
    let blade = stack.pieces[..first_hook]
        .iter()
        .rposition(|piece| piece.part.blade().is_some())?;
    let is_bead = |at: usize| {
        stack
            .pieces
            .get(at)
            .is_some_and(|piece| matches!(piece.part.what(), What::Bead(_)))
    };
    let mut from = blade + 1;
    if is_bead(from) && is_bearing(&stack.pieces[from]) {
        from += 1;
    }
    let mut to = from;
    while is_bead(to) {
        to += 1;
    }
    Some((from, to))
}

/// Whether a piece is a bearing bead: one small or metal one.
fn is_bearing(piece: &Piece) -> bool {
    piece.count == 1
        && (piece.part.material.is_metal() || piece.part.diameter() <= 4.5 * MILLIMETRE)
}

/// The bead stacks of the box that put the blade's tip where its school wants it, as changes.
pub(super) fn bead_edits(stack: &Stack, stock: &[Stocked]) -> Vec<Edit> {
    let Some((wanted, from, to)) = wanted_beads(stack) else {
        return Vec::new();
    };
    // What the rig already carries can be threaded again.
    let mut box_and_board = stock.to_vec();
    for piece in &stack.pieces[from..to] {
        if let Some(stocked) = box_and_board
            .iter_mut()
            .find(|stocked| Some(stocked.id) == piece.stock)
        {
            stocked.left += f64::from(piece.count);
        }
    }
    proposals(&wanted, &box_and_board)
        .into_iter()
        .map(|pieces| Edit::Splice { from, to, pieces })
        .collect()
}

/// What the body beads of a stack must measure, and the places they stand at.
fn wanted_beads(stack: &Stack) -> Option<(Wanted, usize, usize)> {
    let (from, to) = bead_run(stack)?;
    let layout = Layout::new(stack);
    let beads = stack.pieces[from..to]
        .iter()
        .fold(Metres(0.0), |sum, piece| {
            sum + f64::from(piece.count) * piece.part.length()
        });
    let before_skirt = stack.pieces.get(to).is_some_and(|next| {
        next.part.what() == What::Dressing(crate::rig::Dressing::SiliconeSkirt)
    });
    let common = Wanted {
        bore: stack.mount.diameter() + PLAY,
        last: if before_skirt {
            SKIRT_BEAD
        } else {
            Metres(0.0)
        },
        ..Wanted::default()
    };
    let wanted = if stack.build.spacing == Spacing::Cap {
        Wanted {
            least: 29.0 * MILLIMETRE,
            ideal: 36.0 * MILLIMETRE,
            most: 38.0 * MILLIMETRE,
            diameters: (5.8 * MILLIMETRE, 6.4 * MILLIMETRE),
            counts: (5, 6),
            ..common
        }
    } else {
        let now = layout.tip_clearance(stack)?;
        let (least, ideal, most) = aim(stack.build.spacing);
        Wanted {
            least: beads + least - now,
            ideal: beads + ideal - now,
            most: beads + most - now,
            ..common
        }
    };
    (wanted.most.0 > 0.0).then_some((wanted, from, to))
}

/// The best part of the box for a place: of those that will do, the one that comes first in an order.
fn from_box<K: PartialOrd>(
    stock: &[Stocked],
    will_do: impl Fn(&Part) -> bool,
    order: impl Fn(&Part) -> K,
) -> Option<Piece> {
    stock
        .iter()
        .filter(|stocked| stocked.has(1) && will_do(&stocked.part))
        .min_by(|a, b| {
            order(&a.part)
                .partial_cmp(&order(&b.part))
                .unwrap_or(std::cmp::Ordering::Equal)
                .then(b.left.total_cmp(&a.left))
                .then(a.id.cmp(&b.id))
        })
        .map(|stocked| stocked.piece(1))
}

/// The same, or one of a trade size that the box does not hold yet.
pub(super) fn part_for(
    stock: &[Stocked],
    candidates: impl IntoIterator<Item = (What, f64)>,
    like: Option<&Part>,
    will_do: impl Fn(&Part) -> bool,
) -> Option<Piece> {
    let finish = like.map_or(BARE, |part| part.finish);
    let wanted: Vec<Part> = candidates
        .into_iter()
        .filter_map(|(what, size)| Part::new(what, size, finish).ok())
        .filter(|part| will_do(part))
        .collect();
    let rank = |part: &Part| {
        let place = wanted
            .iter()
            .position(|one| one.what() == part.what() && (one.size() - part.size()).abs() < 1e-6);
        (place.unwrap_or(usize::MAX), part.finish != finish)
    };
    from_box(
        stock,
        |part| will_do(part) && rank(part).0 != usize::MAX,
        rank,
    )
    .or_else(|| wanted.first().map(|part| Piece::one(*part)))
}

/// A smaller blade of the same family that keeps clear where the present one does not.
pub(super) fn smaller_blade(stack: &Stack, stock: &[Stocked]) -> Option<Edit> {
    let at = Layout::new(stack).rear_blade(stack)?.piece;
    let now = &stack.pieces[at];
    let family = now.part.what();
    let clears = |part: &Part| {
        let piece = Piece {
            part: *part,
            ..*now
        };
        let next = stack.edited(&Edit::Replace { at, piece });
        next.is_ok_and(|next| {
            Layout::new(&next)
                .tip_clearance(&next)
                .is_some_and(|clearance| clearance >= SAFE)
        })
    };
    let piece = from_box(
        stock,
        |part| part.what() == family && part.length() < now.part.length() && clears(part),
        |part| -part.length().0,
    )?;
    Some(Edit::Replace {
        at,
        piece: Piece {
            count: now.count,
            bend: now.bend,
            ..piece
        },
    })
}

/// Sets a measure to the middle of what will do.
pub(super) fn set(setting: Setting, value: Metres) -> Vec<Edit> {
    vec![Edit::Set(setting, value.0)]
}
