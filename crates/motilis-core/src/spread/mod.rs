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
mod frame;
mod kick;
mod line_running;
mod lure;
mod mend;
mod order;
mod plan;
mod rod;
mod running;
mod set_out;
mod shared;
mod tangle;
mod turn;

pub use board::{Balance, board_balance};
pub use current::{Current, Leg};
pub use fault::{Fault, Gravity};
pub use frame::{Point, Turn};
pub use kick::{Kick, Passed, kick};
pub use line_running::{LineRunning, State};
pub use lure::{DiveTable, Lure};
pub use mend::{Mend, mends};
pub use order::{Group, Order, Way};
pub use plan::{PlannedRod, PlannedSpread, SavedSpread, Tackle};
pub use rod::{Holder, Side, Stance, Tip};
pub use running::Running;
pub use set_out::SetOut;
pub use shared::Shared;
pub use tangle::{NEAR, TANGLED, Tangle, closest};
pub use turn::SafeTurn;

use crate::error::Error;
use crate::fields;
use crate::line::{LineSetup, Start, Surroundings};
use crate::rig::Rig;
use crate::units::{Metres, MetresPerSecond};
use std::sync::Arc;

/// Most lines a spread can hold: six holders a side and two more a side for riggers.
pub const MOST_LINES: usize = 16;

/// The rod that a set-up's tip height is taken on.
pub const USUAL_ROD: Metres = Metres(7.0 * 0.3048);

/// What a line tows.
#[derive(Debug, Clone, PartialEq)]
pub enum Towed {
    /// A bladed rig.
    Rig(Arc<Rig>),
    /// A plug or spoon with the angler's own dive table.
    Lure(Arc<Lure>),
    /// What is known by name but cannot run: its line keeps its place, with the reason.
    Unfit(Arc<Unfit>),
}

/// A rig that cannot run as it lies.
#[derive(Debug, Clone, PartialEq)]
pub struct Unfit {
    /// What it is called.
    pub name: String,
    /// What is wrong with it.
    pub why: Error,
}

impl Towed {
    /// What it is called.
    pub fn name(&self) -> &str {
        match self {
            Self::Rig(rig) => &rig.name,
            Self::Lure(lure) => &lure.name,
            Self::Unfit(unfit) => &unfit.name,
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
    ///
    /// A set-up's own tip height is that of a corner rod of the usual length, as Today and the tank have it; another
    /// rod is held higher or lower by as much as its geometry says.
    pub fn tip(&self) -> Tip {
        let tip = self.holder.tip(self.stance, self.length);
        let Start::RodTip { height } = self.setup.start else {
            return tip;
        };
        let usual = self.holder.tip(Stance::Corner, USUAL_ROD);
        Tip {
            height: Metres((height + tip.height - usual.height).0.max(0.0)),
            ..tip
        }
    }

    /// Whether it runs from a board.
    pub fn has_board(&self) -> bool {
        self.setup.start == Start::Board
    }

    fn check(&self) -> Result<(), Error> {
        self.setup.check().map_err(|error| error.under("setup"))?;
        fields::ROD.check(self.length.0)?;
        match (self.has_board(), self.board) {
            (true, None) => Err(Error::contradiction(
                "board_m",
                "a line from a board needs the board's distance from the boat",
            )),
            (true, Some(board)) => fields::BOARD.check(board.0).map(|_| ()),
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
    /// Whether every line of it can be, in this water.
    ///
    /// # Errors
    /// [`Error::Contradiction`] or [`Error::OutOfRange`] with the field, for a rod as `rods[2].lead_m`.
    pub fn check(&self, surroundings: &Surroundings) -> Result<(), Error> {
        self.check_whole(surroundings)?;
        for place in 0..self.rods.len() {
            if let Some(trouble) = self.trouble(place, surroundings) {
                return Err(trouble.under(&format!("rods[{place}]")));
            }
        }
        Ok(())
    }

    /// Whether it can be computed at all, whatever single lines are like.
    pub(crate) fn check_whole(&self, surroundings: &Surroundings) -> Result<(), Error> {
        fields::TOWED.check(self.speed.0)?;
        if let Some(bottom) = surroundings.bottom {
            crate::line::BOTTOM.check("bottom_m", bottom.0)?;
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
        Ok(())
    }

    /// What keeps a line from being computed, whatever the others are like.
    pub fn trouble(&self, place: usize, surroundings: &Surroundings) -> Option<Error> {
        let rod = &self.rods[place];
        if let Towed::Unfit(unfit) = &rod.towed {
            return Some(unfit.why.clone());
        }
        if let Err(trouble) = rod.check() {
            return Some(trouble);
        }
        if self.rods[..place]
            .iter()
            .any(|one| one.holder == rod.holder)
        {
            return Some(Error::contradiction(
                "holder",
                format!(
                    "two rods stand in holder {}; put one into a free holder",
                    rod.holder
                ),
            ));
        }
        let bottom = surroundings.bottom?;
        (rod.setup.lead >= bottom).then(|| {
            Error::contradiction(
                "setup.lead_m",
                format!(
                    "the leader in holder {} is longer than the water is deep; tie a shorter one",
                    rod.holder
                ),
            )
        })
    }

    /// Whether two rods hang their lines on the same downrigger: there is one on each side.
    pub fn share_a_cable(&self, a: usize, b: usize) -> bool {
        let (a, b) = (&self.rods[a], &self.rods[b]);
        a.setup.lets_out_cable() && b.setup.lets_out_cable() && a.holder.side == b.holder.side
    }
}
