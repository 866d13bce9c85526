use crate::error::Error;
use crate::fish::{Fish, Forage};
use crate::keyed::keyed;
use crate::light::{self, Daylight, Fading, Optics, Stain, View};
use crate::line::Surroundings;
use crate::rig::Kind;
use crate::sky::{Place, moon, sun};
use crate::units::{Celsius, GramsPerKilogram, Metres, MetresPerSecond};
use crate::water::{SEA_SALINITY, Water};
use jiff::Timestamp;

/// What the sky lets through.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Sky {
    /// Bright sun.
    Sun,
    /// Sun and cloud.
    Broken,
    /// Full cloud.
    Cloud,
    /// Rain.
    Rain,
}

/// What the wind does to the surface.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Wind {
    /// None.
    Calm,
    /// A ripple.
    Ripple,
    /// A chop.
    Chop,
    /// White caps.
    Rough,
}

/// How ready the fish are.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Mood {
    /// They chase.
    Active,
    /// Neither.
    Neutral,
    /// They look and turn away.
    Shy,
}

/// What the fish did with what was shown them so far.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum Response {
    /// Nothing that says anything.
    #[default]
    Unknown,
    /// They come, look and turn away.
    Follow,
    /// They hit behind the hook.
    Short,
}

keyed!(Response {
    Unknown "unknown" "nothing to tell",
    Follow "follow" "they follow and turn away",
    Short "short" "they strike short",
});

impl Response {
    /// What the log of an outing tells: at least two follows, or two strikes that did not hold, and more of them than fish;
    /// of both the more frequent (designed).
    pub fn of(follows: usize, strikes: usize, fish: usize) -> Self {
        let tells = |count: usize| count >= 2 && count > fish;
        if tells(strikes) && strikes >= follows {
            Self::Short
        } else if tells(follows) {
            Self::Follow
        } else {
            Self::Unknown
        }
    }
}

keyed!(Sky {
    Sun "sun" "sun",
    Broken "broken" "sun and cloud",
    Cloud "cloud" "cloud",
    Rain "rain" "rain",
});
keyed!(Wind {
    Calm "calm" "calm",
    Ripple "ripple" "ripple",
    Chop "chop" "chop",
    Rough "rough" "rough",
});
keyed!(Mood {
    Active "active" "active",
    Neutral "neutral" "neutral",
    Shy "shy" "shy",
});

impl Sky {
    /// Share of the sky under cloud; designed for this project.
    pub fn cloud(self) -> f64 {
        match self {
            Self::Sun => 0.0,
            Self::Broken => 0.5,
            Self::Cloud => 0.9,
            Self::Rain => 1.0,
        }
    }
}

impl Wind {
    /// Its speed, m/s, as the light model takes it.
    pub fn speed(self) -> f64 {
        match self {
            Self::Calm => 0.0,
            Self::Ripple => 3.0,
            Self::Chop => 6.0,
            Self::Rough => 10.0,
        }
    }
}

/// The sky over a place at an instant, as the light model takes it.
///
/// # Errors
/// [`Error::OutOfRange`] for a year the sun's theory does not reach.
pub fn overhead(place: Place, at: Timestamp, sky: Sky, wind: Wind) -> Result<light::Sky, Error> {
    let moon = moon(place, at);
    Ok(light::Sky {
        sun_alt: sun(place, at)?.altitude,
        moon_alt: moon.altitude,
        moon_phase: moon.phase,
        cloud: sky.cloud(),
        wind: wind.speed(),
    })
}

/// The conditions of an outing, as far as a judgement needs them.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Day {
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// Water temperature.
    pub temperature: Celsius,
    /// Whether the water is salt.
    pub salt: bool,
    /// Whether it is a river, fished by casting: the speed is then that of the water past the spinner.
    pub river: bool,
    /// Depth at which a white disk is lost to sight.
    pub clarity: Metres,
    /// What colours the water.
    pub stain: Stain,
    /// What the angler sees above.
    pub sky: Sky,
    /// Where sun and moon stand, with cloud and wind.
    pub overhead: light::Sky,
    /// The fish wanted.
    pub fish: Fish,
    /// Upper and lower end of the depths the fish hold at.
    pub fish_depth: (Metres, Metres),
    /// How ready they are.
    pub mood: Mood,
    /// What they feed on.
    pub forage: Forage,
    /// What the fish did so far.
    pub response: Response,
    /// Whether weeds or panfish take the bait.
    pub nibblers: bool,
    /// What every other boat drags, if they all drag one kind.
    pub crowd: Option<Kind>,
    /// Depth of the water.
    pub bottom: Metres,
    /// Depth at which the rig shall run.
    pub wanted_depth: Metres,
}

/// How clear water is by the rules of practice (from memory: clear from 4 m, dirty under 1 m).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Clearness {
    /// Clear.
    Clear,
    /// Stained.
    Stained,
    /// Dirty.
    Dirty,
}

/// What light there is by the rules of practice.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Lighting {
    /// The sun is down.
    Dark,
    /// Dawn, dusk or rain.
    Low,
    /// Between.
    Even,
    /// Bright sun.
    Bright,
}

impl Day {
    /// The water of the day.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for the temperature.
    pub fn water(&self) -> Result<Water, Error> {
        let salinity = if self.salt {
            SEA_SALINITY
        } else {
            GramsPerKilogram(0.0)
        };
        Water::with_salt(self.temperature, salinity)
    }

    /// What a line of the day runs in.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for the temperature or the clarity.
    pub fn surroundings(&self) -> Result<Surroundings, Error> {
        crate::fields::CLARITY.check(self.clarity.0)?;
        Ok(Surroundings {
            water: self.water()?,
            temperature: self.temperature,
            bottom: Some(self.bottom),
        })
    }

    /// What the water does to light.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a clarity such water does not have.
    pub fn optics(&self) -> Result<Optics, Error> {
        Optics::from_secchi(self.stain, self.clarity.0, self.salt)
    }

    /// The light that enters it.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a sky that cannot be.
    pub fn daylight(&self) -> Result<Daylight, Error> {
        Daylight::under(&self.overhead)
    }

    /// How its light fades with depth.
    ///
    /// # Errors
    /// As [`Day::optics`] and [`Day::daylight`].
    pub fn fading(&self) -> Result<Fading, Error> {
        Ok(Fading::new(&self.daylight()?, &self.optics()?))
    }

    /// Where most fish look to see a lure at a depth.
    pub fn view_at(&self, depth: Metres) -> View {
        self.views(depth).most()
    }

    /// How clear the water mostly is.
    pub fn clearness(&self) -> Clearness {
        self.clearness_shares().most()
    }

    /// What light there mostly is.
    pub fn lighting(&self) -> Lighting {
        self.lighting_shares().most()
    }

    /// What practice does at this temperature: below 50 °F slow down and go up one wing size, where the water is colder
    /// than the fish like it look for the warmest bay, in warm water faster (common practice, no source).
    pub fn practice_of_temperature(&self) -> Option<&'static str> {
        if self.cold() > 0.5 {
            Some("cold water: slow down, and go up one wing size")
        } else if self.temperature < self.fish.preferred().from {
            Some("cooler than they like it: look for the warmest bay")
        } else if self.warm() > 0.5 {
            Some("warm water: go faster")
        } else {
            None
        }
    }

    /// How much slower (towards −1) or faster (towards 1) than the favourite speed of a rig to go: slower in
    /// cold water and for shy fish, faster in warm water and for active ones (common practice, no source; the
    /// shares are from memory).
    pub fn pace(&self) -> f64 {
        let water = 0.3 * self.warm() - 0.6 * self.cold();
        let mood: f64 = match self.mood {
            Mood::Active => 0.2,
            Mood::Neutral => 0.0,
            Mood::Shy => -0.5,
        };
        // Followers: slow down step by step.
        let follow = if self.response == Response::Follow {
            -0.3
        } else {
            0.0
        };
        (water + mood + follow).clamp(-1.0, 1.0)
    }

    /// Kinds of rig that practice ties for the fish: trolled, or in a river cast.
    pub fn kinds(&self) -> &'static [Kind] {
        if self.river {
            self.fish.cast_kinds()
        } else {
            self.fish.kinds()
        }
    }

    /// Lead that practice ties behind a weight: 3 ft in dirty water, 5 to 6 ft as a rule, to 10 ft in clear
    /// water or for shy fish (CP-10 of the trade's rules; common practice, no source).
    pub fn lead(&self) -> Metres {
        use crate::units::FOOT;
        if self.mood == Mood::Shy {
            return 10.0 * FOOT;
        }
        let feet = self.clearness_shares().mean(|clearness| match clearness {
            Clearness::Clear => 10.0,
            Clearness::Stained => 5.5,
            Clearness::Dirty => 3.0,
        });
        feet * FOOT
    }
}

#[cfg(test)]
pub(crate) mod tests {
    use super::*;
    use crate::units::{FOOT, MILE_PER_HOUR};
    use rstest::rstest;

    /// A cloudy summer morning over stained water.
    pub(crate) fn summer() -> Day {
        Day {
            speed: 1.2 * MILE_PER_HOUR,
            temperature: Celsius(17.0),
            salt: false,
            river: false,
            clarity: 7.0 * FOOT,
            stain: Stain::Tea,
            sky: Sky::Cloud,
            overhead: light::Sky {
                sun_alt: 30.0,
                moon_alt: -20.0,
                moon_phase: 90.0,
                cloud: Sky::Cloud.cloud(),
                wind: Wind::Ripple.speed(),
            },
            fish: Fish::Walleye,
            fish_depth: (20.0 * FOOT, 25.0 * FOOT),
            mood: Mood::Neutral,
            forage: Forage::YellowPerch,
            response: Response::Unknown,
            nibblers: false,
            crowd: None,
            bottom: 27.0 * FOOT,
            wanted_depth: 22.0 * FOOT,
        }
    }

    #[rstest]
    #[case(-10.0, Sky::Sun, Lighting::Dark)]
    #[case(2.0, Sky::Sun, Lighting::Low)]
    #[case(40.0, Sky::Rain, Lighting::Low)]
    #[case(40.0, Sky::Cloud, Lighting::Even)]
    #[case(40.0, Sky::Sun, Lighting::Bright)]
    fn the_hour_and_the_sky_make_the_light(
        #[case] sun_alt: f64,
        #[case] sky: Sky,
        #[case] light: Lighting,
    ) {
        let mut day = Day { sky, ..summer() };
        day.overhead.sun_alt = sun_alt;
        assert_eq!(day.lighting(), light);
    }

    #[rstest]
    #[case(8.0, Some("cold"))]
    #[case(13.5, Some("cool"))]
    #[case(20.5, Some("warm"))]
    fn practice_has_a_word_for_a_temperature(#[case] celsius: f64, #[case] word: Option<&str>) {
        let day = Day {
            temperature: Celsius(celsius),
            ..summer()
        };
        let said = day.practice_of_temperature();
        assert_eq!(said.map(|said| &said[..4]), word);
    }

    #[test]
    fn cold_water_and_shy_fish_slow_the_boat() {
        let pace = |celsius, mood| {
            Day {
                temperature: Celsius(celsius),
                mood,
                ..summer()
            }
            .pace()
        };
        assert!(pace(8.0, Mood::Neutral) < pace(15.0, Mood::Neutral));
        assert!(pace(15.0, Mood::Shy) < pace(15.0, Mood::Neutral));
        assert!(pace(22.0, Mood::Active) > pace(15.0, Mood::Neutral));
        assert!(pace(4.0, Mood::Shy) >= -1.0);
    }

    // CP-10 of the trade's rules (common practice, no source).
    #[rstest]
    #[case(0.6, Mood::Neutral, 3.0)]
    #[case(2.1, Mood::Neutral, 5.5)]
    #[case(6.5, Mood::Neutral, 10.0)]
    #[case(2.1, Mood::Shy, 10.0)]
    fn the_lead_follows_the_water(#[case] clarity: f64, #[case] mood: Mood, #[case] feet: f64) {
        let day = Day {
            clarity: Metres(clarity),
            stain: Stain::Clear,
            mood,
            ..summer()
        };
        assert!((day.lead() / FOOT - feet).abs() < 1e-9);
    }

    #[rstest]
    #[case(0, 0, 0, Response::Unknown)]
    #[case(1, 1, 0, Response::Unknown)]
    #[case(3, 1, 0, Response::Follow)]
    #[case(3, 1, 3, Response::Unknown)]
    #[case(2, 2, 1, Response::Short)]
    fn the_log_tells_how_they_answer(
        #[case] follows: usize,
        #[case] strikes: usize,
        #[case] fish: usize,
        #[case] response: Response,
    ) {
        assert_eq!(Response::of(follows, strikes, fish), response);
        let day = Day {
            response,
            ..summer()
        };
        assert_eq!(day.pace() < summer().pace(), response == Response::Follow);
    }

    #[test]
    fn a_fish_below_the_rig_looks_up() {
        let day = summer();
        assert_eq!(day.view_at(10.0 * FOOT), View::Up);
        assert_eq!(day.view_at(22.0 * FOOT), View::Level);
        assert_eq!(day.view_at(26.0 * FOOT), View::Down);
    }

    #[test]
    fn clarity_that_the_stain_does_not_have_is_refused() {
        let day = Day {
            clarity: Metres(12.0),
            stain: Stain::Muddy,
            ..summer()
        };
        assert!(day.optics().is_err());
    }
}
