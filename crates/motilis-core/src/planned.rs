//! Records of what was planned and observed: spreads by the numbers of their rigs, dunk tests, bottom touches.

use crate::blade::{Blade, Family, Observation};
use crate::entry::plain_text;
use crate::error::Error;
use crate::ids::{LureId, RigId, SetupId};
use crate::line::{LineSetup, Start};
use crate::spread::{Holder, Rod, Stance, Towed};
use crate::tackle::LineStock;
use crate::units::{Celsius, Kilograms, Metres, MetresPerSecond};
use crate::water::{SEA_SALINITY, Water};
use jiff::Timestamp;
use std::sync::Arc;

/// What a planned rod tows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Tackle {
    /// A rig of the box.
    Rig(RigId),
    /// A plug or spoon with its dive table.
    Lure(LureId),
}

/// A rod of a spread, by numbers.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PlannedRod {
    /// Its holder.
    pub holder: Holder,
    /// How it points.
    pub stance: Stance,
    /// Its length.
    pub length: Metres,
    /// Distance of its board.
    pub board: Option<Metres>,
    /// Height of its release above a downrigger's ball.
    pub above: Option<Metres>,
    /// What it tows.
    pub tackle: Tackle,
    /// The set-up it started from.
    pub setup: SetupId,
    /// Mass of the weight in use, for set-ups that have one.
    pub weight: Option<Kilograms>,
    /// The lead in use.
    pub lead: Metres,
    /// What is let out.
    pub out: Metres,
    /// Depth wanted.
    pub wanted: Metres,
}

impl PlannedRod {
    /// The set-up as this rod uses it.
    pub fn in_use(&self, setup: &LineSetup) -> LineSetup {
        let mut used = LineSetup {
            lead: self.lead,
            ..setup.clone()
        };
        if let (Some(weight), Some(mass)) = (setup.weight, self.weight) {
            used.weight = Some(weight.with_mass(mass));
        }
        if let (Start::Downrigger { above, .. }, Some(height)) = (&mut used.start, self.above) {
            *above = height;
        }
        used
    }

    /// The rod, with its set-up and what it tows at hand.
    pub fn rod(&self, setup: &LineSetup, towed: Towed) -> Rod {
        Rod {
            holder: self.holder,
            stance: self.stance,
            length: self.length,
            board: self.board,
            setup: Arc::new(self.in_use(setup)),
            towed,
            out: self.out,
            wanted: self.wanted,
        }
    }
}

/// A spread of the boat book.
#[derive(Debug, Clone, PartialEq)]
pub struct PlannedSpread {
    /// Its name.
    pub name: String,
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// Its rods.
    pub rods: Vec<PlannedRod>,
}

impl PlannedSpread {
    /// Whether its name can be.
    ///
    /// # Errors
    /// [`Error::Contradiction`] with the field.
    pub fn check_name(name: &str) -> Result<(), Error> {
        if name.trim().is_empty() {
            return Err(Error::contradiction(
                "name",
                "a spread needs a name; give it one you will know it by",
            ));
        }
        plain_text("name", name, 60)
    }
}

/// A spread with its place among its versions.
#[derive(Debug, Clone, PartialEq)]
pub struct SavedSpread {
    /// The spread.
    pub plan: PlannedSpread,
    /// Whether there is a change to take back.
    pub can_undo: bool,
    /// Whether there is an undone change to make again.
    pub can_redo: bool,
}

/// What an angler saw of a rig's blade beside the boat.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DunkTest {
    /// What was seen.
    pub seen: Observation,
    /// Temperature of the water.
    pub temperature: Celsius,
    /// Whether it was salt.
    pub salt: bool,
    /// Family of the blade it was seen of.
    pub family: Family,
    /// Length of that blade.
    pub length: Metres,
    /// When.
    pub at: Timestamp,
}

/// Lengths nearer than this are one blade's.
const SAME: f64 = 1e-4;

impl DunkTest {
    /// The water it was seen in.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a temperature that cannot be.
    pub fn water(&self) -> Result<Water, Error> {
        if self.salt {
            Water::with_salt(self.temperature, SEA_SALINITY)
        } else {
            Water::fresh(self.temperature)
        }
    }

    /// Whether it was seen of such a blade.
    pub fn is_of(&self, blade: &Blade) -> bool {
        self.family == blade.family && (self.length - blade.length).0.abs() < SAME
    }
}

/// A touch of the bottom, or a pass without one, with the line that was out.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BottomTouch {
    /// The rig.
    pub rig: RigId,
    /// The set-up.
    pub setup: SetupId,
    /// The main line in use.
    pub main: LineStock,
    /// The weight in use.
    pub weight: Option<Kilograms>,
    /// The lead.
    pub lead: Metres,
    /// What was let out.
    pub out: Metres,
    /// Depth of the bottom.
    pub bottom: Metres,
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// Whether it touched.
    pub touched: bool,
    /// When.
    pub at: Timestamp,
}

impl BottomTouch {
    /// Whether it was made with this rod, line and weight.
    pub fn is_with(&self, setup: SetupId, in_use: &LineSetup) -> bool {
        let mass = in_use.weight.and_then(|weight| weight.mass());
        let same_mass = match (self.weight, mass) {
            (Some(a), Some(b)) => (a.0 - b.0).abs() < 1e-6,
            (None, None) => true,
            _ => false,
        };
        self.setup == setup && self.main == in_use.main && same_mass
    }
}
