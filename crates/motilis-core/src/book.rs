//! The records of the boat book: waters, outings, the line that runs, and what happened on it.
//!
//! Plain values; the store keeps them, the views show them. Times are UTC instants, shown in the
//! zone of the water they belong to.

use crate::advice::{Day, Fish, Mood, Sky};
use crate::error::Error;
pub use crate::ids::{DeedId, EventId, MadeId, OutingId, PartId, RigId, SetupId, WaterId};
use crate::keyed::keyed;
use crate::line::LineSetup;
use crate::rig::{Part, Rig, Stack};
use crate::tackle::LineStock;
use crate::units::{Celsius, Kilograms, Metres, MetresPerSecond, NewtonMetres};
use jiff::Timestamp;
use limits::{CLARITY, COST, DEPTH, FISH_DEPTH, LEFT, LENGTH, OUT, SPEED, TEMPERATURE};

/// Ranges that entries of the boat book must lie in, SI.
pub mod limits {
    use crate::error::Range;

    /// Speed of a boat that trolls.
    pub const SPEED: Range = Range::closed(0.0, 4.5, "m/s", "between 0 and 4.5 m/s");
    /// Water temperature.
    pub const TEMPERATURE: Range = Range::closed(-2.0, 40.0, "°C", "between -2 and 40 °C");
    /// Depth at which a white disc is lost.
    pub const CLARITY: Range = Range::closed(0.05, 40.0, "m", "between 0.05 and 40 m");
    /// Depth of the water, and of a rig that is wanted somewhere.
    pub const DEPTH: Range = Range::closed(0.3, 300.0, "m", "between 0.3 and 300 m");
    /// Depth of fish, and of a rig that was logged.
    pub const FISH_DEPTH: Range = Range::closed(0.0, 300.0, "m", "between 0 and 300 m");
    /// Length of a fish.
    pub const LENGTH: Range = Range::closed(0.03, 2.5, "m", "between 0.03 and 2.5 m");
    /// Pieces of a part, or metres of line and wire.
    pub const LEFT: Range = Range::closed(0.0, 100_000.0, "", "between 0 and 100 000");
    /// Cost of one piece or metre.
    pub const COST: Range = Range::closed(0.0, 100_000.0, "", "between 0 and 100 000");
    /// Line let out.
    pub const OUT: Range = Range::closed(0.3, 600.0, "m", "between 0.3 and 600 m");
}

/// A lake, river or sea area.
#[derive(Debug, Clone, PartialEq)]
pub struct WaterBody {
    /// Its name.
    pub name: String,
    /// Latitude, degrees north.
    pub latitude_deg: f64,
    /// Longitude, degrees east.
    pub longitude_deg: f64,
    /// Time zone, as the tz database names it.
    pub zone: String,
    /// Whether it is salt water.
    pub salt: bool,
    /// Depth at which a white disc is usually lost to sight.
    pub clarity: Metres,
}

/// A rig of the box with the set-up it usually goes on.
#[derive(Debug, Clone, PartialEq)]
pub struct OwnedRig {
    /// The rig.
    pub rig: Rig,
    /// Its usual set-up.
    pub setup: SetupId,
}

/// A rig on the bench, finished or not.
#[derive(Debug, Clone, PartialEq)]
pub struct Board {
    /// Its name.
    pub name: String,
    /// Its parts.
    pub stack: Stack,
    /// The set-up it usually goes on.
    pub setup: SetupId,
    /// A holding moment observed by the angler.
    pub observed_moment: Option<NewtonMetres>,
    /// Which version of it this is.
    pub version: i64,
    /// Whether there is a change to take back.
    pub can_undo: bool,
    /// Whether there is an undone change to make again.
    pub can_redo: bool,
}

impl Board {
    /// The rig, if it can run.
    ///
    /// # Errors
    /// As [`Rig::new`].
    pub fn rig(&self) -> Result<OwnedRig, Error> {
        let mut rig = Rig::new(self.name.clone(), self.stack.clone())?;
        rig.observed_moment = self.observed_moment;
        Ok(OwnedRig {
            rig,
            setup: self.setup,
        })
    }
}

/// A part of the box.
#[derive(Debug, Clone, PartialEq)]
pub struct BoxPart {
    /// The part.
    pub part: Part,
    /// Pieces left, or metres of line and wire.
    pub left: f64,
    /// With so few or fewer it runs short.
    pub low: f64,
    /// What one piece or metre cost, in the boat's own currency.
    pub unit_cost: Option<f64>,
    /// Where it lies.
    pub place: String,
}

impl BoxPart {
    /// A part that is known, and of which none is left.
    pub fn none_left(part: Part) -> Self {
        Self {
            part,
            left: 0.0,
            low: 0.0,
            unit_cost: None,
            place: String::new(),
        }
    }

    /// Whether it runs short.
    pub fn is_low(&self) -> bool {
        self.low > 0.0 && self.left <= self.low
    }

    /// Whether every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        LEFT.check("left_count", self.left)?;
        LEFT.check("low_count", self.low)?;
        if let Some(cost) = self.unit_cost {
            COST.check("unit_cost", cost)?;
        }
        let whole = self.part.what().is_by_length() || self.left.fract() == 0.0;
        if !whole {
            return Err(Error::contradiction(
                "left_count",
                format!("{} pieces cannot be; count whole ones", self.left),
            ));
        }
        plain_text("place", &self.place, 60)
    }
}

/// Whether a text is one line of a length, and nothing that a spreadsheet would run.
///
/// # Errors
/// [`Error::Contradiction`] with the field.
pub fn plain_text(field: &str, text: &str, most: usize) -> Result<(), Error> {
    if text.chars().count() > most {
        return Err(Error::contradiction(
            field,
            format!("{field} is longer than {most} characters; shorten it"),
        ));
    }
    if text.chars().any(char::is_control) {
        return Err(Error::contradiction(
            field,
            format!("{field} holds characters that cannot be shown; write it on one line"),
        ));
    }
    if text.starts_with(['=', '+', '-', '@']) {
        return Err(Error::contradiction(
            field,
            format!(
                "{field} begins like a spreadsheet's formula; begin it with a letter or figure"
            ),
        ));
    }
    Ok(())
}

/// Part of the box that does not suffice.
#[derive(Debug, Clone, PartialEq)]
pub struct Shortage {
    /// Which.
    pub part: Part,
    /// How many, or metres, are asked for.
    pub needs: f64,
    /// How many are left.
    pub left: f64,
}

/// What a made-up rig is fit for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum MadeState {
    /// Not fished yet.
    New,
    /// Fished.
    Used,
    /// Its leader wants tying anew.
    ReTie,
}

keyed!(MadeState { New "new" "new", Used "used" "used", ReTie "re_tie" "re-tie" });

/// A rig made up and lying in the box.
#[derive(Debug, Clone, PartialEq)]
pub struct MadeRig {
    /// Of which rig.
    pub rig: RigId,
    /// What it is fit for.
    pub state: MadeState,
    /// Where it lies.
    pub place: String,
}

/// An outing with its conditions.
#[derive(Debug, Clone, PartialEq)]
pub struct Outing {
    /// On which water.
    pub water: WaterId,
    /// When it began.
    pub started: Timestamp,
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// Water temperature.
    pub temperature: Celsius,
    /// Depth at which a white disc is lost to sight.
    pub clarity: Metres,
    /// The sky.
    pub sky: Sky,
    /// The fish wanted.
    pub fish: Fish,
    /// Upper and lower end of the depths the fish hold at.
    pub fish_depth: (Metres, Metres),
    /// Depth of the water.
    pub bottom: Metres,
    /// How ready the fish are.
    pub mood: Mood,
    /// Depth at which rigs shall run.
    pub wanted_depth: Metres,
}

impl Outing {
    /// What a judgement needs of it; `salt` is the water's.
    pub fn day(&self, salt: bool) -> Day {
        Day {
            speed: self.speed,
            temperature: self.temperature,
            salt,
            clarity: self.clarity,
            sky: self.sky,
            fish: self.fish,
            mood: self.mood,
            bottom: self.bottom,
            wanted_depth: self.wanted_depth,
        }
    }

    /// Whether every figure can be, and they agree with each other.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field of the conditions.
    pub fn check(&self) -> Result<(), Error> {
        SPEED.check("speed", self.speed.0)?;
        TEMPERATURE.check("temperature", self.temperature.0)?;
        CLARITY.check("clarity", self.clarity.0)?;
        DEPTH.check("bottom", self.bottom.0)?;
        let (from, to) = self.fish_depth;
        FISH_DEPTH.check("fish_from", from.0)?;
        FISH_DEPTH.check("fish_to", to.0)?;
        DEPTH.check("wanted_depth", self.wanted_depth.0)?;
        if to < from {
            return Err(Error::contradiction(
                "fish_to",
                "the lower end of the fish lies above the upper end; swap the two",
            ));
        }
        if to > self.bottom {
            return Err(Error::contradiction(
                "fish_to",
                "the fish lie below the bottom; correct their depth or the water's",
            ));
        }
        if self.wanted_depth >= self.bottom {
            return Err(Error::contradiction(
                "wanted_depth",
                "the depth wanted lies on or below the bottom; choose less, or correct the water's depth",
            ));
        }
        Ok(())
    }
}

/// The line that is out: a rig on a set-up, with what was changed for the day.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RunningLine {
    /// The rig.
    pub rig: RigId,
    /// The set-up it started from.
    pub setup: SetupId,
    /// The main line in use.
    pub main: LineStock,
    /// Mass of the weight in use, for set-ups that have one.
    pub weight: Option<Kilograms>,
    /// The lead in use.
    pub lead: Metres,
    /// What is let out.
    pub out: Metres,
}

impl RunningLine {
    /// The set-up as it is in use.
    pub fn in_use(&self, setup: &LineSetup) -> LineSetup {
        LineSetup {
            main: self.main,
            weight: match (setup.weight, self.weight) {
                (Some(weight), Some(mass)) => Some(weight.with_mass(mass)),
                (weight, _) => weight,
            },
            lead: self.lead,
            ..setup.clone()
        }
    }
}

/// What happened on a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum EventKind {
    /// A hit that did not hold.
    Strike,
    /// A fish on.
    Fish,
    /// A fish that came and looked.
    Follow,
    /// The weight touched the bottom.
    BottomTouch,
    /// A remark.
    Note,
}

keyed!(EventKind {
    Strike "strike" "Strike",
    Fish "fish" "Fish",
    Follow "follow" "Follow",
    BottomTouch "bottom_touch" "Bottom touch",
    Note "note" "Note",
});

/// How the line ran when something happened.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OnLine {
    /// The rig.
    pub rig: RigId,
    /// What was let out.
    pub out: Metres,
    /// Where the rig ran, computed.
    pub depth: Metres,
}

/// Something that happened on an outing.
#[derive(Debug, Clone, PartialEq)]
pub struct Event {
    /// During which outing.
    pub outing: OutingId,
    /// What.
    pub kind: EventKind,
    /// When.
    pub at: Timestamp,
    /// On which line; a note needs none.
    pub line: Option<OnLine>,
    /// Speed through the water then.
    pub speed: MetresPerSecond,
    /// Length of the fish, measured.
    pub length: Option<Metres>,
    /// Whether the fish was kept; `None` while nobody said.
    pub kept: Option<bool>,
    /// A remark.
    pub note: String,
}

impl Event {
    /// Whether every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field of the entry.
    pub fn check(&self) -> Result<(), Error> {
        SPEED.check("speed", self.speed.0)?;
        if let Some(length) = self.length {
            LENGTH.check("length", length.0)?;
        }
        if let Some(line) = self.line {
            OUT.check("out", line.out.0)?;
            FISH_DEPTH.check("depth", line.depth.0)?;
        }
        if self.kind != EventKind::Fish && (self.length.is_some() || self.kept.is_some()) {
            return Err(Error::contradiction(
                "length",
                "only a fish has a length and is kept or released; make it a fish, or leave them empty",
            ));
        }
        if self.note.chars().count() > 500 {
            return Err(Error::contradiction(
                "note",
                "the note is longer than 500 characters; shorten it",
            ));
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{FOOT, MILE_PER_HOUR};
    use rstest::rstest;

    fn outing() -> Outing {
        Outing {
            water: WaterId(1),
            started: Timestamp::UNIX_EPOCH,
            speed: 1.2 * MILE_PER_HOUR,
            temperature: Celsius(15.0),
            clarity: 7.0 * FOOT,
            sky: Sky::Cloud,
            fish: Fish::Walleye,
            fish_depth: (20.0 * FOOT, 25.0 * FOOT),
            bottom: 27.0 * FOOT,
            mood: Mood::Neutral,
            wanted_depth: 22.0 * FOOT,
        }
    }

    #[rstest]
    #[case(Outing { speed: MetresPerSecond(f64::NAN), ..outing() }, "speed")]
    #[case(Outing { temperature: Celsius(99.0), ..outing() }, "temperature")]
    #[case(Outing { fish_depth: (25.0 * FOOT, 20.0 * FOOT), ..outing() }, "fish_to")]
    #[case(Outing { fish_depth: (25.0 * FOOT, 60.0 * FOOT), ..outing() }, "fish_to")]
    #[case(Outing { wanted_depth: 27.0 * FOOT, ..outing() }, "wanted_depth")]
    fn conditions_that_cannot_be_are_refused(#[case] outing: Outing, #[case] field: &str) {
        assert_eq!(outing.check().unwrap_err().quantity(), field);
    }

    #[test]
    fn sound_conditions_pass() {
        assert_eq!(outing().check(), Ok(()));
    }

    #[test]
    fn only_a_fish_has_a_length() {
        let event = |kind, length| Event {
            outing: OutingId(1),
            kind,
            at: Timestamp::UNIX_EPOCH,
            line: None,
            speed: MetresPerSecond(0.5),
            length,
            kept: None,
            note: String::new(),
        };
        assert!(event(EventKind::Fish, Some(Metres(0.5))).check().is_ok());
        assert!(event(EventKind::Strike, Some(Metres(0.5))).check().is_err());
        assert!(event(EventKind::Fish, Some(Metres(9.0))).check().is_err());
        assert!(event(EventKind::Strike, None).check().is_ok());
    }
}
