use super::{Dressing, HookStyle, Kind, Material, Part, What};
use crate::blade::Blade;
use crate::error::{Error, Range};
use crate::ids::PartId;
use crate::keyed::keyed;
use crate::rig::part::BARE;
use crate::tackle::LineMaterial;
use crate::units::{INCH, MILLIMETRE, Metres};

/// Some equal parts at one place of a rig.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Piece {
    /// The part.
    pub part: Part,
    /// How many of it, one behind the other.
    pub count: u8,
    /// Bend of a soft wing, 0 flat to 1 bent in; `None` as it comes.
    pub bend: Option<f64>,
    /// The part's number in the box, if it came out of one.
    pub stock: Option<PartId>,
}

impl Piece {
    /// One part.
    pub fn one(part: Part) -> Self {
        Self::many(part, 1)
    }

    /// Some equal parts.
    pub fn many(part: Part, count: u8) -> Self {
        Self {
            part,
            count,
            bend: None,
            stock: None,
        }
    }

    /// The same out of the box.
    pub fn from_box(self, id: PartId) -> Self {
        Self {
            stock: Some(id),
            ..self
        }
    }
}

/// What the parts are threaded on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mount {
    part: Part,
    /// The spool in the box, if it came out of one.
    pub stock: Option<PartId>,
}

impl Mount {
    /// A spool of line or wire.
    ///
    /// # Errors
    /// [`Error::Contradiction`] for a part that is neither.
    pub fn new(part: Part, stock: Option<PartId>) -> Result<Self, Error> {
        if part.what().is_by_length() {
            return Ok(Self { part, stock });
        }
        Err(Error::contradiction(
            "mount",
            format!(
                "a rig is threaded on line or wire, not on a {}; choose a spool",
                part.what().name()
            ),
        ))
    }

    /// A shaft of spring wire, in thousandths of an inch.
    ///
    /// # Errors
    /// As [`Part::new`].
    pub fn wire(thousandths: f64) -> Result<Self, Error> {
        Self::new(Part::new(What::Wire, thousandths, BARE)?, None)
    }

    /// A leader of nylon of a strength in lb.
    ///
    /// # Errors
    /// As [`Part::new`].
    pub fn leader(test_lb: u16) -> Result<Self, Error> {
        let what = What::Line(LineMaterial::Nylon);
        Self::new(Part::new(what, f64::from(test_lb), BARE)?, None)
    }

    /// The spool.
    pub fn part(&self) -> &Part {
        &self.part
    }

    /// Diameter of the wire or line.
    pub fn diameter(&self) -> Metres {
        self.part.diameter()
    }

    /// Whether it is wire.
    pub fn is_wire(&self) -> bool {
        self.part.what() == What::Wire
    }
}

/// How far the blade's tip shall stay from what is behind it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Spacing {
    /// Tip ahead of the front hook's eye, so that it cannot foul the hook.
    Clear,
    /// Tip level with the top of the hook's eye: the salmon wire school.
    Level,
    /// Five to six 6 mm beads ahead of the bait head cap, or the blade spoils its spin.
    Cap,
}

keyed!(Spacing {
    Clear "clear" "tip ahead of the hook eye",
    Level "level" "tip level with the hook eye",
    Cap "cap" "beads ahead of the bait head cap",
});

/// A knot at the front of a leader.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Knot {
    /// Palomar.
    Palomar,
    /// Improved clinch.
    ImprovedClinch,
    /// A loop to hang in a snap.
    Loop,
    /// Uni.
    Uni,
}

keyed!(Knot {
    Palomar "palomar" "Palomar",
    ImprovedClinch "improved_clinch" "improved clinch",
    Loop "loop" "loop",
    Uni "uni" "uni",
});

impl Knot {
    /// Line it takes with its tag before trimming; from memory.
    pub fn takes(self) -> Metres {
        MILLIMETRE
            * match self {
                Self::Palomar => 130.0,
                Self::ImprovedClinch => 90.0,
                Self::Loop => 150.0,
                Self::Uni => 100.0,
            }
    }
}

/// How a rig is bent, tied and measured.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Build {
    /// Leader: from the front knot to the front hook's eye.
    pub finished: Metres,
    /// Wire: free wire between the front eye's wraps and the clevis.
    pub clearance: Metres,
    /// From the front hook's eye to the trailing hook's.
    pub hook_spacing: Metres,
    /// Inner diameter of an eye bent in wire.
    pub loop_diameter: Metres,
    /// Twist wraps behind such an eye.
    pub wraps: u8,
    /// Wire left at each eye before it is trimmed.
    pub tail: Metres,
    /// Wraps of a snell.
    pub snell_wraps: u8,
    /// Knot at the front of a leader.
    pub front_knot: Knot,
    /// What that knot takes in the angler's own hands.
    pub knot_use: Option<Metres>,
    /// How far the blade's tip shall stay from what is behind it.
    pub spacing: Spacing,
    /// What is left of a skirt, from its collar; `None` as it is sold.
    pub skirt: Option<Metres>,
}

/// A measure of [`Build`] that a number can be typed for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Setting {
    /// [`Build::finished`], m.
    Finished,
    /// [`Build::clearance`], m.
    Clearance,
    /// [`Build::hook_spacing`], m.
    HookSpacing,
    /// [`Build::loop_diameter`], m.
    LoopDiameter,
    /// [`Build::wraps`].
    Wraps,
    /// [`Build::tail`], m.
    Tail,
    /// [`Build::snell_wraps`].
    SnellWraps,
    /// [`Build::knot_use`], m.
    KnotUse,
    /// [`Build::skirt`], m.
    Skirt,
}

keyed!(Setting {
    Finished "finished" "leader to the front hook",
    Clearance "clearance" "free wire above the clevis",
    HookSpacing "hook_spacing" "hook to hook",
    LoopDiameter "loop_diameter" "eye inside",
    Wraps "wraps" "twist wraps",
    Tail "tail" "wire tail",
    SnellWraps "snell_wraps" "snell wraps",
    KnotUse "knot_use" "front knot takes",
    Skirt "skirt" "skirt trimmed to",
});

impl Setting {
    /// What the measure must lie in, SI.
    pub fn range(self) -> Range {
        match self {
            Self::Finished => Range::closed(0.05, 15.0, "m", "between 0.05 and 15 m"),
            Self::Clearance => Range::closed(0.0, 0.1, "m", "between 0 and 0.1 m"),
            Self::HookSpacing => Range::closed(0.005, 0.4, "m", "between 0.005 and 0.4 m"),
            Self::LoopDiameter => Range::closed(0.001, 0.02, "m", "between 0.001 and 0.02 m"),
            Self::Wraps | Self::SnellWraps => Range::closed(1.0, 30.0, "", "between 1 and 30"),
            Self::Tail => Range::closed(0.001, 0.1, "m", "between 0.001 and 0.1 m"),
            Self::KnotUse => Range::closed(0.01, 1.0, "m", "between 0.01 and 1 m"),
            Self::Skirt => Range::closed(0.01, 0.3, "m", "between 0.01 and 0.3 m"),
        }
    }

    /// Whether it counts instead of measuring.
    pub fn is_count(self) -> bool {
        matches!(self, Self::Wraps | Self::SnellWraps)
    }

    /// Whether it belongs to a rig on wire (`true`), on a leader (`false`), or to both.
    pub fn belongs_to_wire(self) -> Option<bool> {
        match self {
            Self::Clearance | Self::LoopDiameter | Self::Wraps | Self::Tail => Some(true),
            Self::Finished | Self::SnellWraps | Self::KnotUse => Some(false),
            Self::HookSpacing | Self::Skirt => None,
        }
    }
}

impl Build {
    /// The measures practice gives a kind of rig (common practice, no source).
    pub fn usual(kind: Kind) -> Self {
        let two_fingers = 38.0 * MILLIMETRE;
        Self {
            finished: match kind {
                Kind::RingBead => 18.0 * INCH,
                Kind::FlasherFly => 23.0 * INCH,
                Kind::Attractor => 30.0 * INCH,
                _ => 60.0 * INCH,
            },
            clearance: 5.0 * MILLIMETRE,
            hook_spacing: match kind {
                Kind::FlasherFly | Kind::LeaderSquid => two_fingers,
                Kind::RingBead => 20.0 * MILLIMETRE,
                _ => 89.0 * MILLIMETRE,
            },
            loop_diameter: 3.0 * MILLIMETRE,
            wraps: 3,
            tail: 12.7 * MILLIMETRE,
            snell_wraps: 8,
            front_knot: Knot::ImprovedClinch,
            knot_use: None,
            skirt: None,
            spacing: match kind {
                Kind::SalmonWire => Spacing::Level,
                Kind::BaitSpinner => Spacing::Cap,
                _ => Spacing::Clear,
            },
        }
    }

    /// The value of a measure; for the knot what it takes now.
    pub fn get(&self, setting: Setting) -> f64 {
        match setting {
            Setting::Finished => self.finished.0,
            Setting::Clearance => self.clearance.0,
            Setting::HookSpacing => self.hook_spacing.0,
            Setting::LoopDiameter => self.loop_diameter.0,
            Setting::Wraps => f64::from(self.wraps),
            Setting::Tail => self.tail.0,
            Setting::SnellWraps => f64::from(self.snell_wraps),
            Setting::KnotUse => self.front_knot_takes().0,
            Setting::Skirt => self.skirt.map_or(0.0, |skirt| skirt.0),
        }
    }

    /// What the front knot takes: the angler's own figure, or the table's.
    pub fn front_knot_takes(&self) -> Metres {
        self.knot_use.unwrap_or(self.front_knot.takes())
    }

    fn set(mut self, setting: Setting, value: f64) -> Result<Self, Error> {
        setting.range().check(setting.key(), value)?;
        match setting {
            Setting::Finished => self.finished = Metres(value),
            Setting::Clearance => self.clearance = Metres(value),
            Setting::HookSpacing => self.hook_spacing = Metres(value),
            Setting::LoopDiameter => self.loop_diameter = Metres(value),
            Setting::Wraps => self.wraps = value.round() as u8,
            Setting::Tail => self.tail = Metres(value),
            Setting::SnellWraps => self.snell_wraps = value.round() as u8,
            Setting::KnotUse => self.knot_use = Some(Metres(value)),
            Setting::Skirt => self.skirt = Some(Metres(value)),
        }
        Ok(self)
    }
}

/// A rig as it lies on the bench, finished or not: parts in threading order on wire or line.
#[derive(Debug, Clone, PartialEq)]
pub struct Stack {
    /// What it is to become.
    pub kind: Kind,
    /// Wire or leader.
    pub mount: Mount,
    /// Its parts from the front eye or swivel backwards.
    pub pieces: Vec<Piece>,
    /// How it is bent, tied and measured.
    pub build: Build,
}

/// One change of a rig on the bench; what a check proposes as its mend is a list of these.
#[derive(Debug, Clone, PartialEq)]
pub enum Edit {
    /// Threads a piece so that it comes to stand at a place.
    Insert {
        /// Where.
        at: usize,
        /// What.
        piece: Piece,
    },
    /// Takes a piece off.
    Remove {
        /// Which.
        at: usize,
    },
    /// Moves a piece to another place.
    Move {
        /// From where.
        from: usize,
        /// Where it stands afterwards.
        to: usize,
    },
    /// Puts another piece in a place.
    Replace {
        /// Where.
        at: usize,
        /// What.
        piece: Piece,
    },
    /// Puts pieces in the place of the pieces `from..to`.
    Splice {
        /// First one taken off.
        from: usize,
        /// First one that stays.
        to: usize,
        /// What comes in their place.
        pieces: Vec<Piece>,
    },
    /// So many equal parts at a place.
    Count {
        /// Where.
        at: usize,
        /// How many.
        count: u8,
    },
    /// Bends a soft wing.
    Bend {
        /// Which piece.
        at: usize,
        /// 0 flat to 1 bent in.
        bend: f64,
    },
    /// Threads everything on another spool.
    Thread(Mount),
    /// Changes a measure.
    Set(Setting, f64),
    /// Ties another knot at the front.
    Tie(Knot),
    /// Follows another school of spacing.
    Follow(Spacing),
}

/// Most pieces and most parts of a piece; more is a slip of the finger.
const MOST_PIECES: usize = 40;
const MOST_PARTS: u8 = 60;

impl Stack {
    /// An empty board for a kind of rig.
    pub fn empty(kind: Kind, mount: Mount) -> Self {
        Self {
            kind,
            mount,
            pieces: Vec::new(),
            build: Build::usual(kind),
        }
    }

    /// The stack after a change; the old one stays as it is.
    ///
    /// # Errors
    /// [`Error::Contradiction`] for a place that does not exist or too many parts,
    /// [`Error::OutOfRange`] for a measure that cannot be.
    pub fn edited(&self, edit: &Edit) -> Result<Self, Error> {
        let mut next = self.clone();
        let at_piece = |at: usize| {
            if at < self.pieces.len() {
                return Ok(at);
            }
            Err(Error::contradiction(
                "at",
                format!(
                    "there is no part number {}; the rig has {}",
                    at + 1,
                    self.pieces.len()
                ),
            ))
        };
        match edit {
            Edit::Insert { at, piece } => next.pieces.insert((*at).min(self.pieces.len()), *piece),
            Edit::Remove { at } => {
                next.pieces.remove(at_piece(*at)?);
            }
            Edit::Move { from, to } => {
                let piece = next.pieces.remove(at_piece(*from)?);
                next.pieces.insert(at_piece(*to)?, piece);
            }
            Edit::Replace { at, piece } => next.pieces[at_piece(*at)?] = *piece,
            Edit::Splice { from, to, pieces } => {
                if from > to || *to > self.pieces.len() {
                    return Err(Error::contradiction(
                        "at",
                        format!(
                            "the parts {from} to {to} are no run of the rig's {}",
                            self.pieces.len()
                        ),
                    ));
                }
                next.pieces.splice(from..to, pieces.iter().copied());
            }
            Edit::Count { at, count } => next.pieces[at_piece(*at)?].count = *count,
            Edit::Bend { at, bend } => {
                let spins = self.bends_bait();
                let piece = &mut next.pieces[at_piece(*at)?];
                match piece.part.blade() {
                    Some(blade) => {
                        blade.bent(*bend)?;
                    }
                    None if piece.part.bait().is_some() && spins => {
                        crate::fields::BEND.check(*bend)?;
                    }
                    None => {
                        return Err(Error::contradiction(
                            "bend",
                            "only a soft wing bends, or a bait on a bent-shank hook or under a head cap; choose one",
                        ));
                    }
                }
                piece.bend = Some(*bend);
            }
            Edit::Thread(mount) => next.mount = *mount,
            Edit::Set(setting, value) => next.build = self.build.set(*setting, *value)?,
            Edit::Tie(knot) => {
                next.build.front_knot = *knot;
                next.build.knot_use = None;
            }
            Edit::Follow(spacing) => next.build.spacing = *spacing,
        }
        next.check_size()?;
        Ok(next)
    }

    /// Whether something on it bends a bait so that it spins.
    pub fn bends_bait(&self) -> bool {
        self.pieces.iter().any(|piece| {
            matches!(
                piece.part.what(),
                What::Hook(HookStyle::BentShank) | What::Dressing(Dressing::BaitHeadCap)
            )
        })
    }

    /// The stack after several changes, all of them or none.
    ///
    /// # Errors
    /// As [`Stack::edited`].
    pub fn edited_by(&self, edits: &[Edit]) -> Result<Self, Error> {
        edits
            .iter()
            .try_fold(self.clone(), |stack, edit| stack.edited(edit))
    }

    fn check_size(&self) -> Result<(), Error> {
        if self.pieces.len() > MOST_PIECES {
            return Err(Error::contradiction(
                "pieces",
                format!("a rig holds at most {MOST_PIECES} kinds of part; take one off first"),
            ));
        }
        if self
            .pieces
            .iter()
            .any(|piece| !(1..=MOST_PARTS).contains(&piece.count))
        {
            return Err(Error::contradiction(
                "count",
                format!("a count lies between 1 and {MOST_PARTS}; to have none, take the part off"),
            ));
        }
        if self
            .pieces
            .iter()
            .any(|piece| piece.part.what().is_by_length())
        {
            return Err(Error::contradiction(
                "pieces",
                "line and wire are what a rig is threaded on; choose it as the spool",
            ));
        }
        Ok(())
    }

    /// The blades from the front, with their bend.
    pub fn blades(&self) -> impl Iterator<Item = (usize, Blade, &Piece)> {
        self.pieces.iter().enumerate().flat_map(|(at, piece)| {
            let blade = piece.part.blade();
            (0..piece.count).filter_map(move |_| blade.map(|blade| (at, blade, piece)))
        })
    }

    /// Places of the hooks from the front.
    pub fn hooks(&self) -> Vec<usize> {
        self.pieces
            .iter()
            .enumerate()
            .filter(|(_, piece)| piece.part.hook().is_some())
            .flat_map(|(at, piece)| std::iter::repeat_n(at, usize::from(piece.count)))
            .collect()
    }

    /// Length of a piece as it is built: of a skirt what is left of it.
    pub fn built_length(&self, piece: &Piece) -> Metres {
        let sold = piece.part.length();
        match self.build.skirt {
            Some(left) if piece.part.is_skirt() && left < sold => left,
            _ => sold,
        }
    }

    /// Its skirt, with what is left of it where it is trimmed.
    pub fn skirt(&self) -> Option<(usize, Option<Metres>)> {
        let at = self.pieces.iter().position(|piece| piece.part.is_skirt())?;
        let sold = self.pieces[at].part.length();
        Some((at, self.build.skirt.filter(|left| *left < sold)))
    }

    /// Whether a piece closes the front: swivel, snap, rudder or attractor.
    pub fn is_front_hardware(part: &Part) -> bool {
        matches!(
            part.what(),
            What::Swivel(_) | What::Attractor(_) | What::Rudder
        )
    }

    /// How many pieces at the front are hardware.
    pub fn front_hardware(&self) -> usize {
        self.pieces
            .iter()
            .take_while(|piece| Self::is_front_hardware(&piece.part))
            .count()
    }

    /// Where a part belongs when nobody says: hardware, clevis, blade, beads, body, dressing, hook, bait,
    /// behind what is there of its own kind and ahead of what follows.
    pub fn natural_place(&self, part: &Part) -> usize {
        let rank = |part: &Part| match part.what() {
            What::Attractor(_) | What::Rudder => 0,
            What::Swivel(_) => 1,
            What::Clevis(_) => 2,
            What::Blade(_) => 3,
            What::Bead(_) => 4,
            What::Body(_) => 5,
            What::Dressing(_) => 6,
            What::Tubing => 7,
            What::Hook(_) => 8,
            What::Bait(_) | What::Line(_) | What::Wire => 9,
        };
        let own = rank(part);
        self.pieces
            .iter()
            .rposition(|piece| rank(&piece.part) <= own)
            .map_or(0, |at| at + 1)
    }

    /// Whether the front blade starts harder than it should: its clevis is of the wrong size, or something
    /// presses on it from above.
    pub fn binds(&self) -> bool {
        let Some((at, blade, _)) = self.blades().next() else {
            return false;
        };
        let hardware = self.front_hardware();
        let number = blade.family.number_near(blade.length);
        let clevis = at
            .checked_sub(1)
            .and_then(|at| self.pieces[at].part.carries());
        let wrong = clevis.is_some_and(|(from, to)| number < from || number > to);
        let pressed = self.pieces[hardware.min(at)..at]
            .iter()
            .any(|piece| !matches!(piece.part.what(), What::Clevis(_)));
        wrong || pressed
    }

    /// Whether anything on it is lead.
    pub fn has_lead(&self) -> bool {
        self.pieces
            .iter()
            .any(|piece| piece.part.material == Material::Lead)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::blade::Family;
    use crate::rig::{BeadStyle, HookStyle};
    use rstest::rstest;

    fn piece(what: What, size: f64, count: u8) -> Piece {
        Piece::many(Part::new(what, size, BARE).unwrap(), count)
    }

    fn harness() -> Stack {
        let mut stack = Stack::empty(Kind::CrawlerHarness, Mount::leader(17).unwrap());
        stack.pieces = vec![
            piece(What::Blade(Family::Colorado), 4.0, 1),
            piece(What::Bead(BeadStyle::Round), 6.0, 5),
            piece(What::Hook(HookStyle::Octopus), 2.0, 2),
        ];
        stack
    }

    fn order(stack: &Stack) -> Vec<&'static str> {
        stack
            .pieces
            .iter()
            .map(|piece| piece.part.what().keys().0)
            .collect()
    }

    #[test]
    fn a_piece_moved_stands_where_it_was_put() {
        let moved = harness().edited(&Edit::Move { from: 2, to: 0 }).unwrap();
        assert_eq!(order(&moved), ["hook", "blade", "bead"]);
        let back = moved.edited(&Edit::Move { from: 0, to: 2 }).unwrap();
        assert_eq!(back, harness());
    }

    #[test]
    fn several_changes_are_made_all_or_none() {
        let edits = [Edit::Remove { at: 0 }, Edit::Remove { at: 7 }];
        let refusal = harness().edited_by(&edits).unwrap_err().to_string();
        assert_eq!(refusal, "there is no part number 8; the rig has 2");
        let edits = [Edit::Count { at: 1, count: 6 }, Edit::Remove { at: 0 }];
        let edited = harness().edited_by(&edits).unwrap();
        assert_eq!(
            (order(&edited), edited.pieces[0].count),
            (vec!["bead", "hook"], 6)
        );
    }

    #[rstest]
    #[case(Edit::Count { at: 1, count: 0 }, "count")]
    #[case(Edit::Count { at: 1, count: 99 }, "count")]
    #[case(Edit::Set(Setting::HookSpacing, f64::NAN), "hook_spacing")]
    #[case(Edit::Set(Setting::SnellWraps, 300.0), "snell_wraps")]
    #[case(Edit::Bend { at: 0, bend: 0.5 }, "bend")]
    #[case(Edit::Bend { at: 1, bend: 0.5 }, "bend")]
    #[case(Edit::Splice { from: 2, to: 9, pieces: Vec::new() }, "at")]
    #[case(Edit::Splice { from: 2, to: 1, pieces: Vec::new() }, "at")]
    fn what_cannot_be_is_refused_by_its_field(#[case] edit: Edit, #[case] field: &str) {
        assert_eq!(harness().edited(&edit).unwrap_err().quantity(), field);
    }

    #[test]
    fn a_part_finds_its_natural_place() {
        let stack = harness();
        let place = |what, size| stack.natural_place(&Part::new(what, size, BARE).unwrap());
        assert_eq!(
            place(What::Clevis(crate::rig::ClevisStyle::Stirrup), 2.0),
            0
        );
        assert_eq!(place(What::Bead(BeadStyle::Round), 4.0), 2);
        assert_eq!(place(What::Bait(crate::rig::Bait::Crawler), 125.0), 3);
    }

    #[test]
    fn blades_and_hooks_are_counted_one_by_one() {
        let stack = harness();
        assert_eq!(stack.hooks(), [2, 2]);
        assert_eq!(stack.blades().count(), 1);
        assert!(Mount::new(stack.pieces[0].part, None).is_err());
    }
}
