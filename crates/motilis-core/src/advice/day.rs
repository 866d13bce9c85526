use crate::error::{Error, Range};
use crate::keyed::keyed;
use crate::line::Surroundings;
use crate::rig::Kind;
use crate::units::{Celsius, GramsPerKilogram, Metres, MetresPerSecond};
use crate::water::{SEA_SALINITY, Water};

/// The fish wanted.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Fish {
    /// Walleye.
    Walleye,
    /// Rainbow trout.
    RainbowTrout,
    /// Lake trout.
    LakeTrout,
    /// Landlocked salmon.
    LandlockedSalmon,
    /// Coho.
    Coho,
    /// Chinook.
    Chinook,
    /// Steelhead.
    Steelhead,
    /// Smallmouth bass.
    SmallmouthBass,
    /// Yellow perch.
    YellowPerch,
}

/// What the sky lets through.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Sky {
    /// Bright sun.
    Sun,
    /// Broken or full cloud.
    Cloud,
    /// Rain.
    Rain,
    /// Dawn or dusk.
    Twilight,
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

keyed!(Fish {
    Walleye "walleye" "walleye",
    RainbowTrout "rainbow_trout" "rainbow trout",
    LakeTrout "lake_trout" "lake trout",
    LandlockedSalmon "landlocked_salmon" "landlocked salmon",
    Coho "coho" "coho",
    Chinook "chinook" "Chinook",
    Steelhead "steelhead" "steelhead",
    SmallmouthBass "smallmouth_bass" "smallmouth bass",
    YellowPerch "yellow_perch" "yellow perch",
});
keyed!(Sky {
    Sun "sun" "sun",
    Cloud "cloud" "cloud",
    Rain "rain" "rain",
    Twilight "twilight" "twilight",
});
keyed!(Mood {
    Active "active" "active",
    Neutral "neutral" "neutral",
    Shy "shy" "shy",
});

impl Fish {
    /// Kinds of rig that practice ties for it (common practice, no source).
    pub(super) fn kinds(self) -> &'static [Kind] {
        match self {
            Self::Walleye => &[
                Kind::CrawlerHarness,
                Kind::WingWorm,
                Kind::FastHarness,
                Kind::BaitSpinner,
            ],
            Self::RainbowTrout | Self::LakeTrout | Self::Steelhead => &[
                Kind::RingBead,
                Kind::TrollingWire,
                Kind::InlineTorpedo,
                Kind::InlineBell,
                Kind::TailWeighted,
            ],
            Self::LandlockedSalmon => &[Kind::RingBead, Kind::FlasherFly, Kind::LeaderSquid],
            Self::Coho | Self::Chinook => &[
                Kind::SalmonWire,
                Kind::FlasherFly,
                Kind::BaitSpinner,
                Kind::LeaderSquid,
            ],
            Self::SmallmouthBass => &[
                Kind::InlineTorpedo,
                Kind::InlineBell,
                Kind::TailWeighted,
                Kind::WingWorm,
            ],
            Self::YellowPerch => &[Kind::WingWorm, Kind::RingBead],
        }
    }
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
    /// Depth at which a white disc is lost to sight.
    pub clarity: Metres,
    /// The sky.
    pub sky: Sky,
    /// The fish wanted.
    pub fish: Fish,
    /// How ready they are.
    pub mood: Mood,
    /// Depth of the water.
    pub bottom: Metres,
    /// Depth at which the rig shall run.
    pub wanted_depth: Metres,
}

const CLARITY: Range = Range::above(0.0, 60.0, "m", "above 0 and at most 60 m");

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
        CLARITY.check("clarity_m", self.clarity.0)?;
        Ok(Surroundings {
            water: self.water()?,
            temperature: self.temperature,
            bottom: Some(self.bottom),
        })
    }
}
