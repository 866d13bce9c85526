//! A spread: all lines behind the boat, at one speed through the water.
//!
//! A [`Spread`] is a list of [`Rod`]s in their holders, each with a set-up, something towed and so much line
//! out. [`Spread::running`] solves all of them, straight or in a turn; the answer tells where every line runs,
//! what its blade does and how near any two come. [`Spread::shared_speed`] looks for the speed that suits most,
//! [`Spread::order`] for the places practice gives them, [`Spread::faults`] for what is wrong and
//! [`mends`] for the least change that puts it right.
//!
//! # Places
//! Boat frame, metres: *aft* of the transom, *starboard* of the keel, *depth* below the surface.
//!
//! # In a turn
//! Quasi-steady: at offset `y` to the outside of a turn of radius `R` a line meets `V (1 + y/R)` and follows the
//! circle of the place where it enters the water. The motion in [`crate::motion`] does without this assumption.

mod board;
mod current;
mod fault;
mod kick;
mod lure;
mod mend;
mod order;
mod rod;
mod running;
mod shared;
mod tangle;
mod turn;

pub use board::{Balance, board_balance};
pub use current::{Current, Leg};
pub use fault::{Fault, Gravity};
pub use kick::{Kick, Passed, kick};
pub use lure::{DiveTable, Lure};
pub use mend::{Mend, mends};
pub use order::{Group, Order, Way};
pub use rod::{Holder, Side, Stance, Tip};
pub use running::{LineRunning, Point, Running, SetOut, State};
pub use shared::Shared;
pub use tangle::{NEAR, TANGLED, Tangle, closest};
pub use turn::{SafeTurn, Turn};

use crate::error::{Error, Range};
use crate::line::{Bottom, LineSetup, Start, Surroundings};
use crate::rig::Rig;
use crate::units::{Metres, MetresPerSecond};
use std::sync::Arc;

/// Most lines a spread can hold: six holders a side and two more a side for riggers.
pub const MOST_LINES: usize = 16;

const ROD: Range = Range::closed(0.5, 6.0, "m", "between 0.5 and 6 m");
const BOARD: Range = Range::closed(2.0, 80.0, "m", "between 2 and 80 m");
const SPEED: Range = Range::above(0.0, 4.5, "m/s", "above 0 and at most 4.5 m/s");

/// What a line tows.
#[derive(Debug, Clone, PartialEq)]
pub enum Towed {
    /// A bladed rig.
    Rig(Arc<Rig>),
    /// A plug or spoon with the angler's own dive table.
    Lure(Arc<Lure>),
}

impl Towed {
    /// What it is called.
    pub fn name(&self) -> &str {
        match self {
            Self::Rig(rig) => &rig.name,
            Self::Lure(lure) => &lure.name,
        }
    }
}

/// One rod in its holder with its line.
#[derive(Debug, Clone, PartialEq)]
pub struct Rod {
    /// Where it stands.
    pub holder: Holder,
    /// How it points.
    pub stance: Stance,
    /// Its length.
    pub length: Metres,
    /// Distance of its board from the keel, for set-ups that run from one.
    pub board: Option<Metres>,
    /// What it is rigged with.
    pub setup: Arc<LineSetup>,
    /// What it tows.
    pub towed: Towed,
    /// Line (or cable) out.
    pub out: Metres,
    /// Depth wanted.
    pub wanted: Metres,
}

impl Rod {
    /// The set-up with the tip where this rod holds it.
    pub(crate) fn line_setup(&self) -> LineSetup {
        let mut setup = (*self.setup).clone();
        if let Start::RodTip { height } = &mut setup.start {
            *height = self.tip().height;
        }
        setup
    }

    /// Where its tip is.
    pub fn tip(&self) -> Tip {
        self.holder.tip(self.stance, self.length)
    }

    /// Whether it runs from a board.
    pub fn has_board(&self) -> bool {
        self.setup.start == Start::Board
    }

    fn check(&self) -> Result<(), Error> {
        self.setup.check()?;
        ROD.check("rod_m", self.length.0)?;
        match (self.has_board(), self.board) {
            (true, None) => Err(Error::contradiction(
                "board_m",
                "a line from a board needs the board's distance from the boat",
            )),
            (true, Some(board)) => BOARD.check("board_m", board.0).map(|_| ()),
            (false, _) => Ok(()),
        }
    }
}

/// All lines behind the boat.
#[derive(Debug, Clone, PartialEq)]
pub struct Spread {
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// The rods.
    pub rods: Vec<Rod>,
}

impl Spread {
    /// Whether it can be, in this water.
    ///
    /// # Errors
    /// [`Error::Contradiction`] or [`Error::OutOfRange`] with the field, for a rod as `rods[2].lead_m`.
    pub fn check(&self, surroundings: &Surroundings) -> Result<(), Error> {
        SPEED.check("speed_mps", self.speed.0)?;
        if let Some(bottom) = surroundings.bottom {
            crate::line::BOTTOM.check("water_depth_m", bottom.0)?;
        }
        if self.rods.is_empty() || self.rods.len() > MOST_LINES {
            return Err(Error::contradiction(
                "rods",
                format!(
                    "a spread has between 1 and {MOST_LINES} lines, not {}",
                    self.rods.len()
                ),
            ));
        }
        for (place, rod) in self.rods.iter().enumerate() {
            rod.check()
                .map_err(|error| error.under(&format!("rods[{place}]")))?;
            if self.rods[..place]
                .iter()
                .any(|one| one.holder == rod.holder)
            {
                return Err(Error::contradiction(
                    format!("rods[{place}].holder"),
                    format!(
                        "two rods stand in holder {}; put one into a free holder",
                        rod.holder
                    ),
                ));
            }
            if surroundings
                .bottom
                .is_some_and(|bottom| rod.setup.lead >= bottom)
            {
                return Err(Error::contradiction(
                    format!("rods[{place}].lead_m"),
                    format!(
                        "the leader in holder {} is longer than the water is deep; tie a shorter one",
                        rod.holder
                    ),
                ));
            }
        }
        Ok(())
    }

    /// Whether two rods hang their lines on the same downrigger: there is one on each side.
    pub fn share_a_cable(&self, a: usize, b: usize) -> bool {
        let (a, b) = (&self.rods[a], &self.rods[b]);
        a.setup.lets_out_cable() && b.setup.lets_out_cable() && a.holder.side == b.holder.side
    }
}

/// Whether a line drags.
pub(crate) fn drags(bottom: Bottom) -> bool {
    matches!(bottom, Bottom::Dragging { .. })
}
