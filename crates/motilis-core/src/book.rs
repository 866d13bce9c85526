//! The records of the boat book: waters, outings, the line that runs, and what happened on it.
//!
//! Plain values; the store keeps them, the views show them. Times are UTC instants, shown in the
//! zone of the water they belong to.

use crate::advice::{Day, Mood, Sky, Wind, overhead};
pub use crate::entry::{limits, plain_text};
use crate::error::Error;
use crate::fish::{Fish, Forage};
pub use crate::ids::{
    DeedId, DunkId, EventId, LureId, MadeId, OutingId, PartId, RigId, RuleId, SetupId, SpreadId,
    TouchId, WaterId,
};
use crate::keyed::keyed;
use crate::light::Stain;
use crate::line::LineSetup;
pub use crate::planned::{BottomTouch, DunkTest, PlannedRod, PlannedSpread, SavedSpread, Tackle};
use crate::rig::{Kind, Part, Rig, Stack};
use crate::sky::Place;
use crate::tackle::LineStock;
use crate::units::{Celsius, Kilograms, Metres, MetresPerSecond, NewtonMetres};
use jiff::Timestamp;
use limits::{CLARITY, COST, DEPTH, FISH_DEPTH, LEFT, LENGTH, OUT, SPEED, TEMPERATURE};

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
    /// Depth at which a white disk is usually lost to sight.
    pub clarity: Metres,
    /// What usually colours it.
    pub stain: Stain,
    /// Fish that live in it.
    pub fish: Vec<Fish>,
    /// What they feed on.
    pub forage: Vec<Forage>,
}

impl WaterBody {
    /// Where it lies.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] off the globe.
    pub fn place(&self) -> Result<Place, Error> {
        Place::new(self.latitude_deg, self.longitude_deg)
    }

    /// The coldest it gets before it freezes (sea water: UNESCO 1983, from memory).
    pub fn freezes_at(&self) -> Celsius {
        Celsius(if self.salt { -1.9 } else { 0.0 })
    }

    /// Whether every figure can be, and they agree with each other.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        if self.name.trim().is_empty() {
            return Err(Error::contradiction(
                "name",
                "a water needs a name; give the one you use on the boat",
            ));
        }
        plain_text("name", &self.name, 60)?;
        self.place()?;
        self.stain
            .secchi_range()
            .check("clarity", self.clarity.0)
            .map(|_| ())
    }
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
    /// What was seen of its blade beside the boat.
    pub dunked: Vec<DunkTest>,
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
        rig.learn(&self.dunked);
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
    /// Depth at which a white disk is lost to sight.
    pub clarity: Metres,
    /// What colours the water.
    pub stain: Stain,
    /// The sky.
    pub sky: Sky,
    /// The surface.
    pub wind: Wind,
    /// The fish wanted.
    pub fish: Fish,
    /// Upper and lower end of the depths the fish hold at.
    pub fish_depth: (Metres, Metres),
    /// Depth of the water.
    pub bottom: Metres,
    /// Depth of the thermocline, if somebody found one.
    pub thermocline: Option<Metres>,
    /// How ready the fish are.
    pub mood: Mood,
    /// What they feed on.
    pub forage: Forage,
    /// Whether weeds or panfish take the bait.
    pub nibblers: bool,
    /// What every other boat drags, if they all drag one kind.
    pub crowd: Option<Kind>,
    /// Depth at which rigs shall run.
    pub wanted_depth: Metres,
}

impl Outing {
    /// The conditions to begin the first outing on a water with, until somebody says better: its usual
    /// clarity, fish and forage, mild water, and the speed of a harness.
    pub fn first_on(id: WaterId, water: &WaterBody, started: Timestamp) -> Self {
        let fish = water.fish.first().copied().unwrap_or(Fish::Walleye);
        let kind = fish.kinds()[0];
        Self {
            water: id,
            started,
            speed: kind.trolled().favourite,
            temperature: Celsius(15.0),
            clarity: water.clarity,
            stain: water.stain,
            sky: Sky::Broken,
            wind: Wind::Ripple,
            fish,
            fish_depth: (Metres(5.0), Metres(7.0)),
            bottom: Metres(9.0),
            thermocline: None,
            mood: Mood::Neutral,
            forage: water.forage.first().copied().unwrap_or(fish.usual_forage()),
            nibblers: false,
            crowd: None,
            wanted_depth: Metres(5.0),
        }
    }

    /// What a judgement needs of it, on its water at the hour it began.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a position off the globe or a year the sun's theory does not reach.
    pub fn day(&self, water: &WaterBody) -> Result<Day, Error> {
        self.day_at(water, self.started)
    }

    /// The same at another hour.
    ///
    /// # Errors
    /// As [`Self::day`].
    pub fn day_at(&self, water: &WaterBody, at: Timestamp) -> Result<Day, Error> {
        Ok(Day {
            speed: self.speed,
            temperature: self.temperature,
            salt: water.salt,
            clarity: self.clarity,
            stain: self.stain,
            sky: self.sky,
            overhead: overhead(water.place()?, at, self.sky, self.wind)?,
            fish: self.fish,
            fish_depth: self.fish_depth,
            mood: self.mood,
            forage: self.forage,
            nibblers: self.nibblers,
            crowd: self.crowd,
            bottom: self.bottom,
            wanted_depth: self.wanted_depth,
        })
    }

    /// Whether every figure can be, and they agree with each other.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field of the conditions.
    pub fn check(&self) -> Result<(), Error> {
        SPEED.check("speed", self.speed.0)?;
        TEMPERATURE.check("temperature", self.temperature.0)?;
        CLARITY.check("clarity", self.clarity.0)?;
        self.stain.secchi_range().check("clarity", self.clarity.0)?;
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
        if self.thermocline.is_some_and(|depth| depth > self.bottom) {
            return Err(Error::contradiction(
                "thermocline",
                "the thermocline lies below the bottom; correct its depth, or leave it empty",
            ));
        }
        if let Some(depth) = self.thermocline {
            DEPTH.check("thermocline", depth.0)?;
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
            stain: Stain::Tea,
            sky: Sky::Cloud,
            wind: Wind::Ripple,
            fish: Fish::Walleye,
            fish_depth: (20.0 * FOOT, 25.0 * FOOT),
            bottom: 27.0 * FOOT,
            thermocline: None,
            mood: Mood::Neutral,
            forage: Forage::YellowPerch,
            nibblers: false,
            crowd: None,
            wanted_depth: 22.0 * FOOT,
        }
    }

    #[rstest]
    #[case(Outing { speed: MetresPerSecond(f64::NAN), ..outing() }, "speed")]
    #[case(Outing { temperature: Celsius(99.0), ..outing() }, "temperature")]
    #[case(Outing { fish_depth: (25.0 * FOOT, 20.0 * FOOT), ..outing() }, "fish_to")]
    #[case(Outing { fish_depth: (25.0 * FOOT, 60.0 * FOOT), ..outing() }, "fish_to")]
    #[case(Outing { wanted_depth: 27.0 * FOOT, ..outing() }, "wanted_depth")]
    #[case(Outing { clarity: Metres(0.0), ..outing() }, "clarity")]
    #[case(Outing { clarity: Metres(9.0), stain: Stain::Muddy, ..outing() }, "clarity")]
    #[case(Outing { thermocline: Some(40.0 * FOOT), ..outing() }, "thermocline")]
    fn conditions_that_cannot_be_are_refused(#[case] outing: Outing, #[case] field: &str) {
        assert_eq!(outing.check().unwrap_err().quantity(), field);
    }

    #[test]
    fn sound_conditions_pass() {
        assert_eq!(outing().check(), Ok(()));
    }

    fn tamarin() -> WaterBody {
        WaterBody {
            name: "Lake Tamarin".into(),
            latitude_deg: 50.42,
            longitude_deg: -95.61,
            zone: "America/Winnipeg".into(),
            salt: false,
            clarity: Metres(2.1),
            stain: Stain::Tea,
            fish: vec![Fish::Walleye],
            forage: vec![Forage::YellowPerch],
        }
    }

    #[rstest]
    #[case(WaterBody { name: "  ".into(), ..tamarin() }, "name")]
    #[case(WaterBody { name: "=SUM(A1)".into(), ..tamarin() }, "name")]
    #[case(WaterBody { latitude_deg: 91.0, ..tamarin() }, "lat")]
    #[case(WaterBody { longitude_deg: f64::NAN, ..tamarin() }, "lon")]
    #[case(WaterBody { clarity: Metres(0.0), ..tamarin() }, "clarity")]
    fn a_water_that_cannot_be_is_refused(#[case] water: WaterBody, #[case] field: &str) {
        assert_eq!(water.check().unwrap_err().quantity(), field);
        assert_eq!(tamarin().check(), Ok(()));
    }

    #[test]
    fn the_first_outing_on_a_water_can_be() {
        let first = Outing::first_on(WaterId(1), &tamarin(), Timestamp::UNIX_EPOCH);
        assert_eq!(first.check(), Ok(()));
        assert_eq!(
            (first.fish, first.forage),
            (Fish::Walleye, Forage::YellowPerch)
        );
        let bare = WaterBody {
            fish: Vec::new(),
            forage: Vec::new(),
            ..tamarin()
        };
        assert_eq!(
            Outing::first_on(WaterId(1), &bare, Timestamp::UNIX_EPOCH).check(),
            Ok(())
        );
    }

    #[test]
    fn a_day_has_the_sun_of_its_hour() {
        let day = |at: &str| outing().day_at(&tamarin(), at.parse().unwrap()).unwrap();
        // Solar noon there is near 18:20 UTC; in June the sun stands 63 degrees high.
        let noon = day("2026-06-21T18:20:00Z").overhead.sun_alt;
        assert!((noon - 63.0).abs() < 0.3, "{noon}");
        assert!(day("2026-06-21T06:20:00Z").overhead.sun_alt < 0.0);
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
