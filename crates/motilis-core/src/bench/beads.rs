//! The bead solver: which beads of the box fill a length.

use super::Stocked;
use crate::rig::{Piece, What};
use crate::units::{MILLIMETRE, Metres};

/// The bead stack that is looked for.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Wanted {
    /// Shortest that will do.
    pub least: Metres,
    /// The length to come near to.
    pub ideal: Metres,
    /// Longest that will do.
    pub most: Metres,
    /// Diameters that will do.
    pub diameters: (Metres, Metres),
    /// Least diameter of the last bead, where a skirt would swallow a smaller one.
    pub last: Metres,
    /// Least bore.
    pub bore: Metres,
    /// Fewest and most beads.
    pub counts: (u8, u8),
}

/// How many stacks are proposed.
pub(super) const PROPOSALS: usize = 5;
/// Stacks looked at before the search gives up: 4 ms. Only a box of some forty unlike lengths and a
/// tolerance of hundredths of a millimetre asks for more; it is then answered with what was found.
const PATIENCE: u32 = 120_000;
/// Lengths are compared to a hundredth of a millimetre, a caliper's step.
const STEP: f64 = 1e-5;

/// Finds up to five bead stacks in a box, best first.
///
/// Fewest beads first; of equal ones those that read the same from both ends, then those of fewer
/// kinds, then those that leave most in the box, then the nearest to the ideal length, then by number
/// in the box. Stacks of several sizes taper towards their ends, unless a skirt needs a large last one.
///
/// The search counts up the number of beads and, within it, kinds; it is exact until it has looked at
/// some hundred thousand stacks.
pub fn proposals(wanted: &Wanted, stock: &[Stocked]) -> Vec<Vec<Piece>> {
    let mut kinds: Vec<Kind<'_>> = stock
        .iter()
        .filter(|stocked| wanted.takes(stocked))
        .map(|stocked| Kind {
            stocked,
            length: (stocked.part.length().0 / STEP).round() as i64,
            left: stocked.left.clamp(0.0, 255.0) as u8,
        })
        .collect();
    // The longest first: sums that are too short show early.
    kinds.sort_by_key(|kind| (-kind.length, kind.stocked.id));
    let mut search = Search {
        wanted,
        kinds: &kinds,
        limits: (
            // A stack within half a caliper's step of a limit fits it.
            (wanted.least.0 / STEP - 0.5).ceil() as i64,
            (wanted.most.0 / STEP + 0.5).floor() as i64,
        ),
        found: Vec::new(),
        chosen: Vec::new(),
        patience: PATIENCE,
    };
    for beads in wanted.counts.0.max(1)..=wanted.counts.1 {
        for mirrored in [true, false] {
            for kinds in 1..=beads.min(search.kinds.len() as u8) {
                search.group(beads, kinds, mirrored);
                if search.found.len() >= PROPOSALS {
                    return search.best();
                }
            }
        }
    }
    search.best()
}

impl Wanted {
    fn takes(&self, stocked: &Stocked) -> bool {
        let part = &stocked.part;
        let d = part.diameter();
        matches!(part.what(), What::Bead(_))
            && stocked.has(1)
            && part.bore() >= self.bore
            && d >= self.diameters.0
            && d <= self.diameters.1
    }
}

/// One kind of bead in the box.
struct Kind<'a> {
    stocked: &'a Stocked,
    length: i64,
    left: u8,
}

struct Search<'a> {
    wanted: &'a Wanted,
    kinds: &'a [Kind<'a>],
    limits: (i64, i64),
    /// Groups come in order; within one they are sorted at its end.
    found: Vec<Vec<(usize, u8)>>,
    chosen: Vec<(usize, u8)>,
    patience: u32,
}

impl Search<'_> {
    /// Every stack of so many beads of so many kinds, added to what was found in its order.
    fn group(&mut self, beads: u8, kinds: u8, mirrored: bool) {
        let before = self.found.len();
        self.extend(0, beads, kinds, 0, mirrored);
        let mut group = self.found.split_off(before);
        group.sort_by_cached_key(|stack| {
            let left = stack
                .iter()
                .map(|(kind, count)| self.kinds[*kind].left - count)
                .min()
                .unwrap_or(0);
            let length: i64 = self.length(stack);
            let ideal = (self.wanted.ideal.0 / STEP).round() as i64;
            let mut ids: Vec<_> = stack
                .iter()
                .map(|(kind, count)| (self.kinds[*kind].stocked.id, *count))
                .collect();
            ids.sort_unstable();
            (std::cmp::Reverse(left), (length - ideal).abs(), ids)
        });
        self.found.append(&mut group);
    }

    fn length(&self, stack: &[(usize, u8)]) -> i64 {
        stack
            .iter()
            .map(|(kind, count)| self.kinds[*kind].length * i64::from(*count))
            .sum()
    }

    fn extend(&mut self, from: usize, beads: u8, kinds: u8, length: i64, mirrored: bool) {
        if kinds == 0 {
            if beads == 0 && length >= self.limits.0 && length <= self.limits.1 {
                self.keep(mirrored);
            }
            return;
        }
        for kind in from..self.kinds.len() {
            let (one, left) = (self.kinds[kind].length, self.kinds[kind].left);
            // All later kinds are at most as long.
            if length + i64::from(beads) * one < self.limits.0 {
                return;
            }
            let most = if kinds == 1 {
                beads
            } else {
                beads - (kinds - 1)
            };
            let least = if kinds == 1 { beads } else { 1 };
            for count in least..=most.min(left) {
                if self.patience == 0 {
                    return;
                }
                self.patience -= 1;
                let sum = length + i64::from(count) * one;
                if sum > self.limits.1 {
                    break;
                }
                self.chosen.push((kind, count));
                self.extend(kind + 1, beads - count, kinds - 1, sum, mirrored);
                self.chosen.pop();
            }
        }
    }

    fn keep(&mut self, mirrored: bool) {
        let large_last = self
            .chosen
            .iter()
            .any(|(kind, _)| self.kinds[*kind].stocked.part.diameter() >= self.wanted.last);
        if large_last && self.is_mirrored(&self.chosen) == mirrored {
            self.found.push(self.chosen.clone());
        }
    }

    /// Whether the beads can be threaded so that they read the same from both ends and end well.
    fn is_mirrored(&self, stack: &[(usize, u8)]) -> bool {
        let odd = stack.iter().filter(|(_, count)| count % 2 == 1).count();
        // The ends are the smallest; with one kind of odd count that is not in the middle alone.
        let ends = self.ends(stack);
        odd <= 1 && ends.is_some_and(|d| d >= self.wanted.last)
    }

    /// Diameter of the beads at the ends of a mirrored stack: the smallest of which there is a pair.
    fn ends(&self, stack: &[(usize, u8)]) -> Option<Metres> {
        let one = stack.len() == 1;
        stack
            .iter()
            .filter(|(_, count)| one || *count > 1)
            .map(|(kind, _)| self.kinds[*kind].stocked.part.diameter())
            .min_by(|a, b| a.0.total_cmp(&b.0))
    }

    fn best(mut self) -> Vec<Vec<Piece>> {
        self.found.truncate(PROPOSALS);
        self.found
            .iter()
            .map(|stack| self.threaded(stack))
            .collect()
    }

    /// The beads in threading order: tapered towards both ends when mirrored, rising otherwise.
    fn threaded(&self, stack: &[(usize, u8)]) -> Vec<Piece> {
        let mut rising = stack.to_vec();
        rising.sort_by(|(a, _), (b, _)| {
            let d = |kind: &usize| self.kinds[*kind].stocked.part.diameter().0;
            d(a).total_cmp(&d(b)).then(a.cmp(b))
        });
        let piece = |kind: usize, count: u8| self.kinds[kind].stocked.piece(count);
        if !self.is_mirrored(stack) || stack.len() == 1 {
            return rising
                .into_iter()
                .map(|(kind, count)| piece(kind, count))
                .collect();
        }
        let middle = rising
            .iter()
            .find(|(_, count)| count % 2 == 1)
            .map(|(kind, _)| *kind);
        let halves: Vec<(usize, u8)> = rising
            .iter()
            .map(|(kind, count)| (*kind, count / 2))
            .filter(|(_, count)| *count > 0)
            .collect();
        let mut pieces: Vec<(usize, u8)> = halves.clone();
        pieces.extend(middle.map(|kind| (kind, 1)));
        pieces.extend(halves.into_iter().rev());
        // Neighbours of one kind are one piece.
        let mut joined: Vec<(usize, u8)> = Vec::new();
        for (kind, count) in pieces {
            match joined.last_mut() {
                Some((last, sum)) if *last == kind => *sum += count,
                _ => joined.push((kind, count)),
            }
        }
        joined
            .into_iter()
            .map(|(kind, count)| piece(kind, count))
            .collect()
    }
}

/// A bead stack of any size and bore between two lengths, as near to an ideal as may be.
impl Default for Wanted {
    fn default() -> Self {
        Self {
            least: Metres(0.0),
            ideal: Metres(0.0),
            most: Metres(0.0),
            diameters: (Metres(0.0), 20.0 * MILLIMETRE),
            last: Metres(0.0),
            bore: Metres(0.0),
            counts: (1, 24),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ids::PartId;
    use crate::rig::{BARE, BeadStyle, Part};

    fn stocked(id: i64, millimetres: f64, left: f64) -> Stocked {
        Stocked {
            id: PartId(id),
            part: Part::new(What::Bead(BeadStyle::Round), millimetres, BARE).unwrap(),
            left,
        }
    }

    fn wanted(least: f64, most: f64) -> Wanted {
        Wanted {
            least: least * MILLIMETRE,
            ideal: 0.5 * (least + most) * MILLIMETRE,
            most: most * MILLIMETRE,
            ..Wanted::default()
        }
    }

    fn read(stack: &[Piece]) -> Vec<(f64, u8)> {
        stack
            .iter()
            .map(|piece| (piece.part.size(), piece.count))
            .collect()
    }

    #[test]
    fn fewest_beads_come_first_and_plain_ones_before_mixed() {
        let stock = [
            stocked(1, 6.0, 20.0),
            stocked(2, 8.0, 20.0),
            stocked(3, 4.0, 20.0),
        ];
        let found = proposals(&wanted(23.0, 25.0), &stock);
        assert_eq!(read(&found[0]), [(8.0, 3)]);
        assert_eq!(read(&found[1]), [(6.0, 4)]);
        // 4 + 8 + 8 + 4 reads the same from both ends.
        assert_eq!(read(&found[2]), [(4.0, 1), (8.0, 2), (4.0, 1)]);
        assert_eq!(found.len(), 5);
    }

    #[test]
    fn a_body_tapers_up_and_back_down() {
        // 5/32, 3/16, 1/4, 5/16 and back: 3.97 + 4.76 + 6.35 + 7.94 + 6.35 + 4.76 + 3.97 = 38.1 mm.
        let stock = [
            stocked(1, 3.97, 2.0),
            stocked(2, 4.76, 2.0),
            stocked(3, 6.35, 2.0),
            stocked(4, 7.94, 1.0),
        ];
        let found = proposals(&wanted(38.0, 38.2), &stock);
        assert_eq!(
            read(&found[0]),
            [
                (3.97, 1),
                (4.76, 1),
                (6.35, 1),
                (7.94, 1),
                (6.35, 1),
                (4.76, 1),
                (3.97, 1)
            ]
        );
    }

    #[test]
    fn a_skirt_gets_its_large_last_bead() {
        let stock = [stocked(1, 4.0, 20.0), stocked(2, 6.35, 1.0)];
        let needs = Wanted {
            last: 6.35 * MILLIMETRE,
            ..wanted(14.0, 15.0)
        };
        let found = proposals(&needs, &stock);
        assert_eq!(read(&found[0]), [(4.0, 2), (6.35, 1)]);
    }

    #[test]
    fn an_empty_box_proposes_nothing() {
        assert!(proposals(&wanted(20.0, 24.0), &[]).is_empty());
        assert!(proposals(&wanted(20.0, 24.0), &[stocked(1, 6.0, 0.0)]).is_empty());
        assert!(proposals(&wanted(20.0, 24.0), &[stocked(1, 6.0, 3.0)]).is_empty());
    }
}
