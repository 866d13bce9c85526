//! An edit of a rig as somebody saw it, on the rig as it is now: parts are found again by what they are, not by
//! where they were.

use super::{Edit, Piece, Stack};
use crate::error::Error;

impl Edit {
    /// The edit that does to `now` what this one was meant to do to `seen`.
    ///
    /// # Errors
    /// [`Error::Contradiction`] when what it touches was changed in between.
    pub fn onto(&self, seen: &Stack, now: &Stack) -> Result<Self, Error> {
        let places = Places::of(seen, now);
        Ok(match self {
            Self::Insert { at, piece } => Self::Insert {
                at: places.behind(*at),
                piece: *piece,
            },
            Self::Remove { at } => Self::Remove {
                at: places.of_part(*at)?,
            },
            Self::Move { from, to } => Self::Move {
                from: places.of_part(*from)?,
                to: places.of_part(*to).unwrap_or(*to).min(now.pieces.len() - 1),
            },
            Self::Replace { at, piece } => Self::Replace {
                at: places.of_same(*at)?,
                piece: *piece,
            },
            Self::Splice { from, to, pieces } => {
                let found = (*from..*to)
                    .map(|at| places.of_same(at))
                    .collect::<Result<Vec<_>, _>>()?;
                let first = found.first().copied().unwrap_or(places.behind(*from));
                if found.windows(2).any(|pair| pair[1] != pair[0] + 1) {
                    return Err(changed());
                }
                Self::Splice {
                    from: first,
                    to: first + found.len(),
                    pieces: pieces.clone(),
                }
            }
            Self::Count { at, count } => Self::Count {
                at: places.where_kept(*at, |piece| f64::from(piece.count))?,
                count: *count,
            },
            Self::Bend { at, bend } => Self::Bend {
                at: places.where_kept(*at, |piece| piece.bend.unwrap_or(-1.0))?,
                bend: *bend,
            },
            Self::Thread(_) if seen.mount != now.mount => return Err(changed()),
            Self::Set(setting, _)
                if (seen.build.get(*setting) - now.build.get(*setting)).abs() > 1e-9 =>
            {
                return Err(changed());
            }
            Self::Tie(_) if seen.build.front_knot != now.build.front_knot => return Err(changed()),
            Self::Follow(_) if seen.build.spacing != now.build.spacing => return Err(changed()),
            Self::Thread(_) | Self::Set(..) | Self::Tie(_) | Self::Follow(_) => self.clone(),
        })
    }
}

fn changed() -> Error {
    Error::contradiction(
        "edit",
        "that was changed meanwhile, on another page or device; look at the rig as it is now and do it again",
    )
}

fn gone() -> Error {
    Error::contradiction(
        "edit",
        "that part was taken off meanwhile, on another page or device",
    )
}

/// Where the pieces of one stack stand in another.
struct Places<'a> {
    seen: &'a Stack,
    now: &'a Stack,
    found: Vec<Option<usize>>,
}

impl<'a> Places<'a> {
    /// The longest run of pieces that both have in the same order.
    fn of(seen: &'a Stack, now: &'a Stack) -> Self {
        let (a, b) = (&seen.pieces, &now.pieces);
        let mut common = vec![vec![0_usize; b.len() + 1]; a.len() + 1];
        for i in (0..a.len()).rev() {
            for j in (0..b.len()).rev() {
                common[i][j] = if is_one(&a[i], &b[j]) {
                    common[i + 1][j + 1] + 1
                } else {
                    common[i + 1][j].max(common[i][j + 1])
                };
            }
        }
        let mut found = vec![None; a.len()];
        let (mut i, mut j) = (0, 0);
        while i < a.len() && j < b.len() {
            if is_one(&a[i], &b[j]) {
                found[i] = Some(j);
                (i, j) = (i + 1, j + 1);
            } else if common[i + 1][j] >= common[i][j + 1] {
                i += 1;
            } else {
                j += 1;
            }
        }
        Self { seen, now, found }
    }

    /// Where a piece stands.
    fn of_part(&self, at: usize) -> Result<usize, Error> {
        self.found.get(at).copied().flatten().ok_or_else(gone)
    }

    /// Where a piece stands that is as it was.
    fn of_same(&self, at: usize) -> Result<usize, Error> {
        let place = self.of_part(at).map_err(|_| changed())?;
        if self.now.pieces[place] == self.seen.pieces[at] {
            Ok(place)
        } else {
            Err(changed())
        }
    }

    /// Where a piece stands of which a figure is as it was.
    fn where_kept(&self, at: usize, figure: impl Fn(&Piece) -> f64) -> Result<usize, Error> {
        let place = self.of_part(at)?;
        let same = (figure(&self.now.pieces[place]) - figure(&self.seen.pieces[at])).abs() < 1e-9;
        if same { Ok(place) } else { Err(changed()) }
    }

    /// The place behind what stood ahead of a place.
    fn behind(&self, at: usize) -> usize {
        let ahead = self.found.iter().take(at).rev().flatten().next();
        ahead.map_or(0, |place| place + 1)
    }
}

/// Whether two pieces are one, whatever its count and bend are now.
fn is_one(a: &Piece, b: &Piece) -> bool {
    a.stock == b.stock && a.part == b.part
}

#[cfg(test)]
mod tests {
    use super::super::{BARE, BeadStyle, HookStyle, Kind, Mount, Part, Setting, What};
    use super::*;
    use crate::blade::Family;

    fn piece(what: What, size: f64) -> Piece {
        Piece::one(Part::new(what, size, BARE).unwrap())
    }

    fn stack() -> Stack {
        let mut stack = Stack::empty(Kind::CrawlerHarness, Mount::leader(17).unwrap());
        stack.pieces = vec![
            piece(What::Blade(Family::Colorado), 4.0),
            piece(What::Bead(BeadStyle::Round), 6.0),
            piece(What::Bead(BeadStyle::Round), 5.0),
            piece(What::Hook(HookStyle::Octopus), 2.0),
            piece(What::Hook(HookStyle::Octopus), 2.0),
        ];
        stack
    }

    #[test]
    fn nothing_moves_on_a_rig_that_stayed_as_it_was() {
        let seen = stack();
        for edit in [
            Edit::Remove { at: 3 },
            Edit::Count { at: 1, count: 4 },
            Edit::Move { from: 2, to: 1 },
            Edit::Set(Setting::Finished, 1.2),
        ] {
            assert_eq!(edit.onto(&seen, &seen), Ok(edit));
        }
    }

    #[test]
    fn a_part_is_found_again_behind_one_that_was_taken_off() {
        let seen = stack();
        let now = seen.edited(&Edit::Remove { at: 1 }).unwrap();
        let edit = Edit::Remove { at: 2 };
        assert_eq!(edit.onto(&seen, &now), Ok(Edit::Remove { at: 1 }));
        // The part itself is gone: taking it off twice takes nothing else off.
        let edit = Edit::Remove { at: 1 };
        assert!(edit.onto(&seen, &now).is_err());
    }

    #[test]
    fn two_edits_of_different_things_both_hold_and_of_the_same_the_second_is_refused() {
        let seen = stack();
        let now = seen.edited(&Edit::Count { at: 1, count: 6 }).unwrap();
        let other = Edit::Count { at: 2, count: 3 };
        assert_eq!(other.onto(&seen, &now), Ok(other));
        assert!(Edit::Count { at: 1, count: 3 }.onto(&seen, &now).is_err());
        let now = seen.edited(&Edit::Set(Setting::Finished, 1.2)).unwrap();
        assert!(Edit::Set(Setting::Finished, 1.1).onto(&seen, &now).is_err());
        let wraps = Edit::Set(Setting::SnellWraps, 9.0);
        assert_eq!(wraps.onto(&seen, &now), Ok(wraps));
    }
}
