use super::{WaterBody, WaterId};
use crate::advice::{Day, Mood, Response, Sky, Wind, overhead};
use crate::entry::check_clock;
use crate::error::Error;
use crate::fields;
use crate::fish::{Fish, Forage};
use crate::light::Stain;
use crate::rig::Kind;
use crate::units::{Celsius, Metres, MetresPerSecond};
use jiff::Timestamp;

/// An outing with its conditions.
#[derive(Debug, Clone, PartialEq)]
pub struct Outing {
    /// On which water.
    pub water: WaterId,
    /// When it began.
    pub started: Timestamp,
    /// When it ended, if the angler said so.
    pub ended: Option<Timestamp>,
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
        let lake = Self {
            water: id,
            started,
            ended: None,
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
        };
        if !water.river {
            return lake;
        }
        // A run at walking pace.
        Self {
            speed: MetresPerSecond(1.3),
            fish_depth: (Metres(1.0), Metres(1.6)),
            bottom: Metres(1.8),
            wanted_depth: Metres(1.2),
            ..lake
        }
    }

    /// What a judgement needs of it, on its water at the hour it began.
    ///
    /// # Errors
    /// As [`Self::check`]; [`Error::OutOfRange`] for a position off the globe.
    pub fn day(&self, water: &WaterBody) -> Result<Day, Error> {
        self.check()?;
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
            river: water.river,
            clarity: self.clarity,
            stain: self.stain,
            sky: self.sky,
            overhead: overhead(water.place()?, at, self.sky, self.wind)?,
            fish: self.fish,
            fish_depth: self.fish_depth,
            mood: self.mood,
            forage: self.forage,
            response: Response::Unknown,
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
        check_clock("started", self.started)?;
        if self.ended.is_some_and(|ended| ended < self.started) {
            return Err(Error::contradiction(
                "ended",
                "the outing ends before it begins; correct one of the two",
            ));
        }
        fields::SPEED.check(self.speed.0)?;
        fields::TEMPERATURE.check(self.temperature.0)?;
        fields::CLARITY.check(self.clarity.0)?;
        self.stain
            .secchi_range()
            .check(fields::CLARITY.key, self.clarity.0)?;
        fields::BOTTOM.check(self.bottom.0)?;
        let (from, to) = self.fish_depth;
        fields::FISH_FROM.check(from.0)?;
        fields::FISH_TO.check(to.0)?;
        fields::WANTED_DEPTH.check(self.wanted_depth.0)?;
        if to < from {
            return Err(Error::contradiction(
                fields::FISH_TO.key,
                "the lower end of the fish lies above the upper end; swap the two",
            ));
        }
        if to > self.bottom {
            return Err(Error::contradiction(
                fields::FISH_TO.key,
                "the fish lie below the bottom; correct their depth or the water's",
            ));
        }
        if self.thermocline.is_some_and(|depth| depth > self.bottom) {
            return Err(Error::contradiction(
                fields::THERMOCLINE.key,
                "the thermocline lies below the bottom; correct its depth, or leave it empty",
            ));
        }
        if let Some(depth) = self.thermocline {
            fields::THERMOCLINE.check(depth.0)?;
        }
        if self.wanted_depth >= self.bottom {
            return Err(Error::contradiction(
                fields::WANTED_DEPTH.key,
                "the depth wanted lies on or below the bottom; choose less, or correct the water's depth",
            ));
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::super::water_body::tests::tamarin;
    use super::*;
    use crate::units::{FOOT, MILE_PER_HOUR};
    use rstest::rstest;

    fn outing() -> Outing {
        Outing {
            water: WaterId(1),
            started: "2026-06-04T10:12:00Z".parse().unwrap(),
            ended: None,
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
    #[case(Outing { speed: MetresPerSecond(f64::NAN), ..outing() }, "speed_mps")]
    #[case(Outing { temperature: Celsius(99.0), ..outing() }, "temperature_c")]
    #[case(Outing { fish_depth: (25.0 * FOOT, 20.0 * FOOT), ..outing() }, "fish_to_m")]
    #[case(Outing { fish_depth: (25.0 * FOOT, 60.0 * FOOT), ..outing() }, "fish_to_m")]
    #[case(Outing { wanted_depth: 27.0 * FOOT, ..outing() }, "wanted_depth_m")]
    #[case(Outing { clarity: Metres(0.0), ..outing() }, "clarity_m")]
    #[case(Outing { clarity: Metres(9.0), stain: Stain::Muddy, ..outing() }, "clarity_m")]
    #[case(Outing { started: "2199-06-04T10:12:00Z".parse().unwrap(), ..outing() }, "started")]
    #[case(Outing { ended: Some("2026-06-04T10:11:00Z".parse().unwrap()), ..outing() }, "ended")]
    #[case(Outing { thermocline: Some(40.0 * FOOT), ..outing() }, "thermocline_m")]
    fn conditions_that_cannot_be_are_refused(#[case] outing: Outing, #[case] field: &str) {
        assert_eq!(outing.check().unwrap_err().quantity(), field);
    }

    #[test]
    fn sound_conditions_pass() {
        assert_eq!(outing().check(), Ok(()));
    }

    #[test]
    fn the_first_outing_on_a_water_can_be() {
        let first = Outing::first_on(WaterId(1), &tamarin(), outing().started);
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
            Outing::first_on(WaterId(1), &bare, outing().started).check(),
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
}
