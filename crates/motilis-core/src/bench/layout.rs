use crate::rig::{Part, Piece, Spacing, Stack, What};
use crate::units::{MILLIMETRE, Metres};

/// One part at its place: a piece of several fills several seats.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Seat {
    /// Which piece of the stack.
    pub piece: usize,
    /// Which one of that piece, from 0.
    pub nth: u8,
    /// Its front end on the axis; of a blade the clevis it hangs on, of a hook its eye.
    pub from: Metres,
    /// Its rear end: of a hook the outside of the bend, of a blade its tip when pulled straight back.
    pub to: Metres,
}

/// Where every part of a stack sits, metres backwards from where the line is tied.
#[derive(Debug, Clone, PartialEq)]
pub struct Layout {
    /// The parts in threading order.
    pub seats: Vec<Seat>,
    /// Front of the threaded stack: of the first clevis, wing, bead or body.
    pub stack_from: Metres,
    /// Its rear, where the front hook's eye (or the lower eye's wraps) begins.
    pub stack_to: Metres,
    /// Length of a leader from its front knot to the front hook's eye, or of the straight wire
    /// between the insides of its two eyes.
    pub straight: Metres,
    /// Most rearward point of anything.
    pub end: Metres,
    /// Most forward point of anything.
    pub start: Metres,
}

/// Play of a wire stack, so that the clevis turns freely.
const PLAY: Metres = Metres(1e-3);

/// Hardware ahead of the point where the line is tied, and where it begins.
fn ahead(pieces: &[Piece]) -> (Vec<Seat>, Metres) {
    let mut seats = Vec::new();
    let mut start = Metres(0.0);
    for (piece, nth, part) in parts(pieces, 0).rev() {
        let to = start;
        start = to - part.length();
        seats.push(Seat {
            piece,
            nth,
            from: start,
            to,
        });
    }
    seats.reverse();
    (seats, start)
}

/// Where the threaded stack begins, where the front hook's eye hangs, and the straight length of wire or leader.
fn ends(stack: &Stack, threaded: Metres) -> (Metres, Metres, Metres) {
    let build = &stack.build;
    if !stack.mount.is_wire() {
        let finished = build.finished;
        return (finished - threaded, finished, finished);
    }
    let wire = stack.mount.diameter();
    let eye = build.loop_diameter + 2.0 * wire;
    let twist = f64::from(build.wraps) * wire;
    let from = eye + twist + build.clearance;
    // The hook's eye hangs at the rear of the lower eye.
    let hook_eye = from + threaded + PLAY + twist + wire + build.loop_diameter;
    // Between the insides of the two eyes.
    (from, hook_eye, hook_eye - build.loop_diameter - wire)
}

/// How far a stack is threaded.
struct Threading {
    /// Where the next part goes on.
    at: Metres,
    /// Eye of the front hook.
    hook_eye: Metres,
    /// Eye of the next hook.
    next_eye: Metres,
    front_eye: Option<Metres>,
    /// The clevis that a blade hangs on, and where it sits.
    carrier: Option<(Metres, Part)>,
    hook_spacing: Metres,
    /// What is left of a trimmed skirt.
    skirt: Option<Metres>,
}

impl Threading {
    /// Puts a part on: from where to where it sits.
    fn put_on(&mut self, part: Part) -> (Metres, Metres) {
        let at = self.at;
        match part.what() {
            What::Hook(_) => {
                let eye = self.next_eye;
                self.front_eye.get_or_insert(eye);
                // What is threaded behind a hook lies on the line to the next one.
                self.at = eye + part.length();
                self.next_eye = eye + self.hook_spacing;
                (eye, self.at)
            }
            What::Blade(family) if family.is_wing() => {
                self.at = at + part.threaded();
                (at, self.at + 0.5 * part.length())
            }
            What::Blade(_) if part.threaded().0 > 0.0 => {
                self.at = at + part.threaded();
                (at, at + part.length())
            }
            What::Blade(_) => {
                let (centre, reach) = self.carrier.map_or((at, Metres(0.0)), |(from, clevis)| {
                    (from + 0.5 * clevis.length(), clevis.reach())
                });
                (centre, centre + hang(&part, reach) + part.length())
            }
            What::Bait(_) => {
                let from = self.front_eye.unwrap_or(self.hook_eye);
                (from, from + part.length())
            }
            what => {
                if matches!(what, What::Clevis(_)) {
                    self.carrier = Some((at, part));
                }
                self.at = at + part.threaded();
                let sold = part.length();
                let left = self.skirt.filter(|left| *left < sold).unwrap_or(sold);
                (at, if part.is_skirt() { at + left } else { self.at })
            }
        }
    }
}

impl Layout {
    /// Lays a stack out.
    ///
    /// On a leader the stack rests against the front hook's eye and the clear line is ahead of it.
    /// On wire it starts behind the front eye's wraps and the free wire, and the front hook hangs in
    /// the lower eye, behind the wraps that close it.
    pub fn new(stack: &Stack) -> Self {
        let hardware = stack.front_hardware();
        let (mut seats, start) = ahead(&stack.pieces[..hardware]);
        let threaded: Metres = parts(&stack.pieces[hardware..], hardware)
            .take_while(|(_, _, part)| part.hook().is_none())
            .fold(Metres(0.0), |sum, (_, _, part)| sum + part.threaded());
        let (stack_from, hook_eye, straight) = ends(stack, threaded);
        let mut threading = Threading {
            at: stack_from,
            hook_eye,
            next_eye: hook_eye,
            front_eye: None,
            carrier: None,
            hook_spacing: stack.build.hook_spacing,
            skirt: stack.build.skirt,
        };
        for (piece, nth, part) in parts(&stack.pieces[hardware..], hardware) {
            let (from, to) = threading.put_on(part);
            seats.push(Seat {
                piece,
                nth,
                from,
                to,
            });
        }
        let rearmost = |end, seat: &Seat| if seat.to > end { seat.to } else { end };
        Self {
            stack_from,
            stack_to: stack_from + threaded,
            straight,
            end: seats.iter().fold(hook_eye, rearmost),
            start,
            seats,
        }
    }

    /// Length of the threaded stack between clevis and hook eye.
    pub fn stack_length(&self) -> Metres {
        self.stack_to - self.stack_from
    }

    /// From the front of the first part to the rear of the last.
    pub fn overall(&self) -> Metres {
        self.end - self.start
    }

    /// The seat of the front hook.
    pub fn front_hook(&self, stack: &Stack) -> Option<&Seat> {
        self.seats
            .iter()
            .find(|seat| stack.pieces[seat.piece].part.hook().is_some())
    }

    /// The seat of the rearmost blade that is threaded ahead of the front hook.
    pub fn rear_blade(&self, stack: &Stack) -> Option<&Seat> {
        self.seats
            .iter()
            .rfind(|seat| stack.pieces[seat.piece].part.blade().is_some())
    }

    /// What the blade's tip must stay clear of, and how far it does: the front hook's eye, or the
    /// front of the bait head cap. Negative when the tip reaches past it.
    pub fn tip_clearance(&self, stack: &Stack) -> Option<Metres> {
        let blade = self.rear_blade(stack)?;
        if stack.build.spacing == Spacing::Cap {
            return Some(self.bead_run_ahead_of_cap(stack)?.1);
        }
        Some(self.front_hook(stack)?.from - blade.to)
    }

    /// Beads between the blade and the bait head cap: how many and how long together.
    pub fn bead_run_ahead_of_cap(&self, stack: &Stack) -> Option<(u8, Metres)> {
        use crate::rig::Dressing;
        let cap = stack
            .pieces
            .iter()
            .position(|piece| piece.part.what() == What::Dressing(Dressing::BaitHeadCap))?;
        let blade = stack.pieces[..cap]
            .iter()
            .rposition(|piece| piece.part.blade().is_some())?;
        let run = stack.pieces[blade + 1..cap]
            .iter()
            .filter(|piece| matches!(piece.part.what(), What::Bead(_)));
        Some(run.fold((0, Metres(0.0)), |(count, length), piece| {
            let more = f64::from(piece.count) * piece.part.length();
            (count + piece.count, length + more)
        }))
    }
}

/// From the middle of the clevis to the front end of a blade pulled straight back: the clevis's
/// reach less the blade's metal ahead of its hole. Never ahead of the shaft's clevis by much.
fn hang(blade: &Part, reach: Metres) -> Metres {
    let hole = HOLE_FROM_EDGE * blade.length();
    reach - hole
}

/// Centre of a blade's hole from its front edge, over its length; from memory.
const HOLE_FROM_EDGE: f64 = 0.06;

/// Every single part of some pieces, with the piece's place in the stack.
fn parts(
    pieces: &[Piece],
    first: usize,
) -> impl DoubleEndedIterator<Item = (usize, u8, Part)> + '_ {
    pieces
        .iter()
        .enumerate()
        .flat_map(move |(at, piece)| (0..piece.count).map(move |nth| (first + at, nth, piece.part)))
}

/// Clearance that keeps a blade off the hook, and the tolerance of the salmon wire school.
pub(super) const SAFE: Metres = Metres(2.0 * MILLIMETRE.0);

#[cfg(test)]
mod tests {
    use super::*;
    use crate::blade::Family;
    use crate::rig::{BARE, BeadStyle, ClevisStyle, HookStyle, Kind, Mount, SwivelStyle};
    use approx::assert_relative_eq;

    fn many(what: What, size: f64, count: u8) -> Piece {
        Piece::many(Part::new(what, size, BARE).unwrap(), count)
    }

    fn harness() -> Stack {
        let mut stack = Stack::empty(Kind::CrawlerHarness, Mount::leader(17).unwrap());
        stack.build.finished = Metres(1.5);
        stack.pieces = vec![
            many(What::Swivel(SwivelStyle::Barrel), 14.0, 1),
            many(What::Clevis(ClevisStyle::Stirrup), 2.0, 1),
            many(What::Blade(Family::Colorado), 4.0, 1),
            many(What::Bead(BeadStyle::Round), 4.0, 1),
            many(What::Bead(BeadStyle::Round), 6.0, 4),
            many(What::Hook(HookStyle::Octopus), 2.0, 2),
        ];
        stack
    }

    #[test]
    fn a_harness_is_laid_out_as_reckoned_by_hand() {
        let stack = harness();
        let layout = Layout::new(&stack);
        // Clevis 3.2 + bead 4 + four beads of 6 = 31.2 mm ahead of the hook's eye at 1 500 mm.
        assert_relative_eq!(layout.stack_length().0, 31.2e-3, epsilon = 1e-12);
        assert_relative_eq!(layout.stack_from.0, 1.468_8, epsilon = 1e-12);
        // Blade: clevis centre 1 468.8 + 1.6, hang 4.5 − 0.06 · 25.5 = 2.97, length 25.5.
        let tip = layout.rear_blade(&stack).unwrap().to;
        assert_relative_eq!(tip.0, 1.468_8 + 1.6e-3 + 2.97e-3 + 25.5e-3, epsilon = 1e-12);
        // So the tip stays 31.2 − 30.07 = 1.13 mm ahead of the eye.
        assert_relative_eq!(
            layout.tip_clearance(&stack).unwrap().0,
            1.13e-3,
            epsilon = 1e-12
        );
        // Trailing hook: eye 89 mm behind, shank 2.1 · 9 = 18.9 mm.
        assert_relative_eq!(layout.end.0, 1.5 + 0.089 + 18.9e-3, epsilon = 1e-12);
        // The swivel lies ahead of the knot.
        assert_relative_eq!(layout.start.0, -14e-3, epsilon = 1e-12);
    }

    #[test]
    fn a_wire_spinner_is_laid_out_as_reckoned_by_hand() {
        let mut stack = Stack::empty(Kind::TrollingWire, Mount::wire(30.0).unwrap());
        stack.pieces = vec![
            many(What::Clevis(ClevisStyle::Stirrup), 1.0, 1),
            many(What::Blade(Family::French), 2.0, 1),
            many(What::Bead(BeadStyle::Round), 4.0, 6),
            many(What::Hook(HookStyle::Treble), 6.0, 1),
        ];
        let layout = Layout::new(&stack);
        let wire = 0.762e-3;
        // Eye 3 + 2 wires, three wraps, 5 mm free.
        let from = 3e-3 + 2.0 * wire + 3.0 * wire + 5e-3;
        assert_relative_eq!(layout.stack_from.0, from, epsilon = 1e-12);
        // Clevis 2.6 + 24 mm of beads, 1 mm play, three wraps, the wire, the eye.
        let eye = from + 26.6e-3 + 1e-3 + 3.0 * wire + wire + 3e-3;
        assert_relative_eq!(
            layout.front_hook(&stack).unwrap().from.0,
            eye,
            epsilon = 1e-12
        );
        // Straight wire between the insides of the two eyes.
        assert_relative_eq!(layout.straight.0, eye - 3e-3 - wire, epsilon = 1e-12);
    }

    #[test]
    fn a_wing_takes_its_sheet_and_reaches_half_its_span() {
        let mut stack = harness();
        stack.pieces[2] = many(What::Blade(Family::SoftWing), 1.5, 1);
        stack.pieces.remove(1);
        let layout = Layout::new(&stack);
        // 0.35 mm of film with 0.5 mm of play, 28 mm of beads.
        assert_relative_eq!(layout.stack_length().0, 28.85e-3, epsilon = 1e-12);
        let tip = layout.rear_blade(&stack).unwrap();
        assert_relative_eq!(
            (tip.to - tip.from).0,
            0.85e-3 + 0.75 * 25.4e-3,
            epsilon = 1e-12
        );
    }

    #[test]
    fn an_empty_board_has_a_layout_too() {
        let stack = Stack::empty(Kind::CrawlerHarness, Mount::leader(17).unwrap());
        let layout = Layout::new(&stack);
        assert!(layout.seats.is_empty());
        assert_eq!(layout.stack_length(), Metres(0.0));
        assert_eq!(layout.tip_clearance(&stack), None);
    }
}
