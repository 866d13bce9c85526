use super::{OutingId, Play};
use crate::error::Error;
use crate::fields;
use crate::fish::Fish;
use crate::keyed::keyed;
use crate::spread::Tackle;
use crate::units::{Celsius, Kilograms, Metres, MetresPerSecond};
use jiff::Timestamp;

/// What happened.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum EventKind {
    /// A hit that did not hook.
    Strike,
    /// A fish on.
    Fish,
    /// A fish that came and looked.
    Follow,
    /// The weight touched the bottom.
    BottomTouch,
    /// The rig hung on the bottom.
    Snag,
    /// Lines, or a line with itself.
    Tangle,
    /// The bait was renewed; the note says with which scent.
    FreshBait,
    /// Something was changed; the note says what.
    Change,
    /// A remark.
    Note,
}

keyed!(EventKind {
    Strike "strike" "Strike",
    Fish "fish" "Fish",
    Follow "follow" "Follow",
    BottomTouch "bottom_touch" "Bottom touch",
    Snag "snag" "Snag",
    Tangle "tangle" "Tangle",
    FreshBait "fresh_bait" "Fresh bait",
    Change "change" "Change",
    Note "note" "Note",
});

/// How a strike felt.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Strike {
    /// A peck.
    Light,
    /// A hard hit.
    Hard,
    /// Behind the hook.
    Short,
}

keyed!(Strike { Light "light" "light", Hard "hard" "hard", Short "short" "short" });

/// What the bait looked like after it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum BaitAfter {
    /// As it went out.
    Whole,
    /// Without its tail.
    TailGone,
    /// Nothing left.
    Stripped,
}

keyed!(BaitAfter { Whole "whole" "whole", TailGone "tail_gone" "tail gone", Stripped "stripped" "stripped" });

/// How a fish on ended.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Landing {
    /// In the boat.
    Landed,
    /// It came off.
    Lost,
    /// The line broke.
    BrokeOff,
}

keyed!(Landing { Landed "landed" "landed", Lost "lost" "lost", BrokeOff "broke_off" "broke off" });

/// How a fish was laid on the rule.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Measured {
    /// From the snout to the end of the tail as it lies.
    Total,
    /// To the fork of the tail.
    Fork,
    /// To the end of the tail pinched together.
    Pinched,
}

keyed!(Measured { Total "total" "total length", Fork "fork" "to the fork", Pinched "pinched" "tail pinched" });

/// Where the figures of a moment come from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum Given {
    /// From the outing's conditions, and computed.
    #[default]
    Conditions,
    /// From a track, by time.
    Track,
    /// From the boat's own instruments.
    Live,
}

keyed!(Given { Conditions "conditions" "conditions", Track "track" "track", Live "live" "live" });

/// Where and how a rig ran when something happened to it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OnLine {
    /// What was on it.
    pub tackle: Tackle,
    /// Line out.
    pub out: Metres,
    /// Depth it ran at; `None` when nobody could tell.
    pub depth: Option<Metres>,
}

/// What else there is to say of a fish or a strike.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Caught {
    /// Which fish; the one fished for when nobody says.
    pub species: Option<Fish>,
    /// How it ended.
    pub landing: Option<Landing>,
    /// Its girth.
    pub girth: Option<Metres>,
    /// What a scale said.
    pub weight: Option<Kilograms>,
    /// Its sex, in short words.
    pub sex: String,
    /// Its condition, in short words.
    pub condition: String,
    /// Where the hook sat, in short words.
    pub hooked: String,
    /// Whether a fin was clipped: a hatchery fish.
    pub clipped: Option<bool>,
    /// How the strike felt.
    pub strike: Option<Strike>,
    /// What the bait looked like after it.
    pub bait_after: Option<BaitAfter>,
    /// How its length was measured; `None` where nobody says.
    pub measured: Option<Measured>,
}

/// Something that happened on an outing.
#[derive(Debug, Clone, PartialEq)]
pub struct Event {
    /// On which outing.
    pub outing: OutingId,
    /// What.
    pub kind: EventKind,
    /// When it happened.
    pub at: Timestamp,
    /// When it was typed in.
    pub entered: Timestamp,
    /// The rod it happened on, by its number.
    pub rod: Option<u8>,
    /// What was on the line and how it ran, if it happened on one.
    pub line: Option<OnLine>,
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// Length of the fish.
    pub length: Option<Metres>,
    /// Whether the fish was kept.
    pub kept: Option<bool>,
    /// What else there is to say of it.
    pub caught: Caught,
    /// Where speed and depth come from.
    pub given: Given,
    /// Latitude and longitude, degrees, where they are known.
    pub place: Option<(f64, f64)>,
    /// Speed over ground, where it is known.
    pub ground: Option<MetresPerSecond>,
    /// Course over ground, degrees from north through east, where it is known.
    pub course_deg: Option<f64>,
    /// Temperature of the water then, where it was measured.
    pub temperature: Option<Celsius>,
    /// Depth of the bottom there and then, where it was sounded.
    pub bottom: Option<Metres>,
    /// What was tried, of a change that is one of the playbook.
    pub play: Option<Play>,
    /// A remark.
    pub note: String,
}

/// Most letters of a remark, and of a short word on a fish.
const NOTE: usize = 500;
const SHORT: usize = 40;

impl Event {
    /// Something that just happened, of which nothing more is known.
    pub fn new(outing: OutingId, kind: EventKind, at: Timestamp, speed: MetresPerSecond) -> Self {
        Self {
            outing,
            kind,
            at,
            entered: at,
            rod: None,
            line: None,
            speed,
            length: None,
            kept: None,
            caught: Caught::default(),
            given: Given::Conditions,
            place: None,
            ground: None,
            course_deg: None,
            play: None,
            temperature: None,
            bottom: None,
            note: String::new(),
        }
    }

    /// Checks that every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        fields::SPEED.check(self.speed.0)?;
        let caught = &self.caught;
        let figures = [
            (fields::FISH_LENGTH, self.length.map(|length| length.0)),
            (fields::FISH_GIRTH, caught.girth.map(|girth| girth.0)),
            (fields::FISH_WEIGHT, caught.weight.map(|weight| weight.0)),
        ];
        for (field, figure) in figures {
            if let Some(figure) = figure {
                field.check(figure)?;
            }
        }
        if let Some((latitude, longitude)) = self.place {
            fields::LATITUDE.check(latitude)?;
            fields::LONGITUDE.check(longitude)?;
        }
        if let Some(ground) = self.ground {
            fields::GROUND.check(ground.0)?;
        }
        if let Some(bottom) = self.bottom {
            fields::BOTTOM.check(bottom.0)?;
        }
        if let Some(degrees) = self.temperature {
            fields::TEMPERATURE.check(degrees.0)?;
        }
        if let Some(course) = self.course_deg {
            fields::COURSE.check(course)?;
        }
        if let Some(line) = self.line {
            fields::OUT.check(line.out.0)?;
            if let Some(depth) = line.depth {
                fields::DEPTH.check(depth.0)?;
            }
        }
        let measured = self.length.is_some() || caught.girth.is_some() || caught.weight.is_some();
        if self.kind != EventKind::Fish && (measured || self.kept.is_some()) {
            return Err(Error::contradiction(
                fields::FISH_LENGTH.key,
                "only a fish has a length and is kept or released; make it a fish, or leave them empty",
            ));
        }
        let short = [
            ("sex", &caught.sex),
            ("condition", &caught.condition),
            ("hooked", &caught.hooked),
        ];
        for (field, words) in short {
            if words.chars().count() > SHORT {
                return Err(Error::contradiction(
                    field,
                    format!("{field} is longer than {SHORT} characters; shorten it"),
                ));
            }
        }
        if self.note.chars().count() > NOTE {
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

    #[test]
    fn only_a_fish_has_a_length() {
        let event = |kind, length| Event {
            length,
            ..Event::new(
                OutingId(1),
                kind,
                Timestamp::UNIX_EPOCH,
                MetresPerSecond(0.5),
            )
        };
        assert!(event(EventKind::Fish, Some(Metres(0.5))).check().is_ok());
        assert!(event(EventKind::Strike, Some(Metres(0.5))).check().is_err());
        assert!(event(EventKind::Fish, Some(Metres(9.0))).check().is_err());
        assert!(event(EventKind::Strike, None).check().is_ok());
        let heavy = Event {
            caught: Caught {
                weight: Some(Kilograms(90.0)),
                ..Caught::default()
            },
            ..event(EventKind::Fish, None)
        };
        assert_eq!(heavy.check().unwrap_err().quantity(), "weight_kg");
    }
}
