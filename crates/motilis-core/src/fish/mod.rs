//! The fish that are trolled for, what they eat, and what practice and the literature say of them.
//!
//! Preferred temperatures are published (each names its source; the figures are set down from memory).
//! Habits over the day, kinds of rig, bait and forage sizes are common practice without a source. Where no
//! eye of a species is modelled, the nearest one that is stands in for it, and [`Sight`] says so.

mod forage;
mod heft;

pub use forage::Forage;
pub use heft::{StandardWeight, weight_by_girth};

use crate::keyed::keyed;
use crate::light::Viewer;
use crate::rig::{Bait, Kind};
use crate::units::Celsius;

/// A fish that is wanted, or that takes the bait meant for another.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Fish {
    /// Walleye.
    Walleye,
    /// Rainbow trout.
    RainbowTrout,
    /// Brown trout.
    BrownTrout,
    /// Brook trout.
    BrookTrout,
    /// Lake trout.
    LakeTrout,
    /// Sockeye that never go to sea.
    LandlockedSockeye,
    /// Chinook that never go to sea.
    LandlockedChinook,
    /// Chinook.
    Chinook,
    /// Coho.
    Coho,
    /// Steelhead.
    Steelhead,
    /// Smallmouth bass.
    SmallmouthBass,
    /// Yellow perch: forage, and a thief of bait.
    YellowPerch,
    /// Atlantic salmon that never go to sea.
    LandlockedAtlantic,
    /// Cutthroat trout.
    Cutthroat,
    /// Sauger.
    Sauger,
    /// Pink salmon.
    Pink,
    /// Chum salmon.
    Chum,
}

keyed!(Fish {
    Walleye "walleye" "walleye",
    RainbowTrout "rainbow_trout" "rainbow trout",
    BrownTrout "brown_trout" "brown trout",
    BrookTrout "brook_trout" "brook trout",
    LakeTrout "lake_trout" "lake trout",
    LandlockedSockeye "landlocked_sockeye" "landlocked sockeye",
    LandlockedChinook "landlocked_chinook" "landlocked Chinook",
    Chinook "chinook" "Chinook",
    Coho "coho" "coho",
    Steelhead "steelhead" "steelhead",
    SmallmouthBass "smallmouth_bass" "smallmouth bass",
    YellowPerch "yellow_perch" "yellow perch",
    LandlockedAtlantic "landlocked_atlantic" "landlocked Atlantic salmon",
    Cutthroat "cutthroat" "cutthroat trout",
    Sauger "sauger" "sauger",
    Pink "pink" "pink salmon",
    Chum "chum" "chum salmon",
});

/// Temperatures a fish seeks, with the source.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Preferred {
    /// Lower end.
    pub from: Celsius,
    /// Upper end.
    pub to: Celsius,
    /// Where the figures stand; from memory.
    pub source: &'static str,
}

/// Whose eye the light model uses for a fish.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Sight {
    /// The eye.
    pub viewer: Viewer,
    /// Whether it is the fish's own; otherwise the nearest one modelled.
    pub own: bool,
}

impl Fish {
    /// Temperatures it prefers, as published; the figures are from memory.
    pub fn preferred(self) -> Preferred {
        const SALMON: &str = "Brett 1952, J. Fish. Res. Board Can. 9:265";
        let (from, to, source) = match self {
            Self::Sauger => (
                18.5,
                22.0,
                "Hokanson 1977, J. Fish. Res. Board Can. 34:1524",
            ),
            Self::Walleye => (
                20.0,
                24.0,
                "Hokanson 1977, J. Fish. Res. Board Can. 34:1524",
            ),
            Self::RainbowTrout => (
                12.0,
                18.0,
                "Raleigh et al. 1984, U.S. Fish Wildl. Serv. FWS/OBS-82/10.60",
            ),
            Self::BrownTrout => (
                12.0,
                19.0,
                "Raleigh et al. 1986, U.S. Fish Wildl. Serv. Biol. Rep. 82(10.124)",
            ),
            Self::BrookTrout => (
                11.0,
                16.0,
                "Raleigh 1982, U.S. Fish Wildl. Serv. FWS/OBS-82/10.24",
            ),
            Self::LakeTrout => (
                8.0,
                12.0,
                "Christie & Regier 1988, Can. J. Fish. Aquat. Sci. 45:301",
            ),
            Self::LandlockedSockeye
            | Self::LandlockedChinook
            | Self::Coho
            | Self::Pink
            | Self::Chum => (12.0, 14.0, SALMON),
            Self::LandlockedAtlantic => (
                11.0,
                16.0,
                "Stanley & Trial 1995, Natl. Biol. Serv. Biol. Sci. Rep. 3",
            ),
            Self::Cutthroat => (
                12.0,
                15.0,
                "Hickman & Raleigh 1982, U.S. Fish Wildl. Serv. FWS/OBS-82/10.5",
            ),
            Self::Chinook => (
                8.0,
                12.0,
                "Hinke et al. 2005, Mar. Ecol. Prog. Ser. 304:207",
            ),
            Self::Steelhead => (
                10.0,
                13.0,
                "Bell 1991, Fisheries Handbook, U.S. Army Corps of Engineers",
            ),
            Self::SmallmouthBass => (
                21.0,
                27.0,
                "Edwards et al. 1983, U.S. Fish Wildl. Serv. FWS/OBS-82/10.36",
            ),
            Self::YellowPerch => (
                18.0,
                24.0,
                "Hokanson 1977, J. Fish. Res. Board Can. 34:1524",
            ),
        };
        Preferred {
            from: Celsius(from),
            to: Celsius(to),
            source,
        }
    }

    /// What practice says of its day (common practice, no source).
    pub fn habit(self) -> &'static str {
        match self {
            Self::Walleye => "feeds at dawn, dusk and night, and by day in wind or stained water",
            Self::RainbowTrout => "feeds high at dawn and dusk, lower under a bright sky",
            Self::BrownTrout => "shyest in sun; feeds from dusk to dawn",
            Self::BrookTrout => "feeds in the cool hours, near springs and inlets in summer",
            Self::LakeTrout => {
                "feeds by day, deep in summer; shallow in spring and at the year's end"
            }
            Self::LandlockedSockeye => "schools; best in the first hours of light, deeper by noon",
            Self::LandlockedChinook => "chases bait at first and last light, deep by day",
            Self::Chinook => "best at first light and at the turn of the tide",
            Self::Coho => "high in the water, feeds through the day in broken light",
            Self::Steelhead => "takes in the early hours and under cloud",
            Self::SmallmouthBass => "feeds by day, most in the morning and evening",
            Self::YellowPerch => "feeds by day only",
            Self::LandlockedAtlantic => {
                "high along the shore after ice-out, deep and over bait in summer; best at dawn and in a chop"
            }
            Self::Cutthroat => "cruises shores and drop-offs, feeds high in broken light",
            Self::Sauger => "feeds deeper and in dirtier water than walleye, at dusk and night",
            Self::Pink => "schools near the top, takes slow, small and pink",
            Self::Chum => "holds deep and takes slowly; best in the early hours",
        }
    }

    /// The eye that looks.
    pub fn sight(self) -> Sight {
        let (viewer, own) = match self {
            Self::Walleye => (Viewer::Walleye, true),
            Self::RainbowTrout | Self::Steelhead => (Viewer::RainbowAdult, true),
            Self::BrownTrout => (Viewer::BrownTrout, true),
            Self::LakeTrout => (Viewer::LakeTrout, true),
            Self::Chinook | Self::LandlockedChinook => (Viewer::Chinook, true),
            Self::Coho => (Viewer::Coho, true),
            Self::BrookTrout => (Viewer::LakeTrout, false),
            Self::LandlockedAtlantic => (Viewer::BrownTrout, false),
            Self::Cutthroat => (Viewer::RainbowAdult, false),
            Self::LandlockedSockeye | Self::Pink | Self::Chum => (Viewer::Coho, false),
            Self::SmallmouthBass | Self::YellowPerch | Self::Sauger => (Viewer::Walleye, false),
        };
        Sight { viewer, own }
    }

    /// Whether it is a trout, char or salmon.
    pub fn is_salmonid(self) -> bool {
        !matches!(
            self,
            Self::Walleye | Self::Sauger | Self::SmallmouthBass | Self::YellowPerch
        )
    }

    /// Whether it is a trout or char, or a salmon of a lake, for which warm water makes release deadly.
    pub fn suffers_in_warm_water(self) -> bool {
        self.is_salmonid() && !matches!(self, Self::Chinook | Self::Coho | Self::Pink | Self::Chum)
    }

    /// Kinds of rig that practice ties for it, the favourites first (common practice, no source).
    pub fn kinds(self) -> &'static [Kind] {
        match self {
            Self::Walleye | Self::Sauger => &[
                Kind::CrawlerHarness,
                Kind::WingWorm,
                Kind::FastHarness,
                Kind::BaitSpinner,
                Kind::BareHook,
            ],
            Self::RainbowTrout
            | Self::BrownTrout
            | Self::BrookTrout
            | Self::LakeTrout
            | Self::Cutthroat
            | Self::Steelhead => &[
                Kind::RingBead,
                Kind::TrollingWire,
                Kind::InlineTorpedo,
                Kind::InlineBell,
                Kind::TailWeighted,
                Kind::Attractor,
            ],
            Self::LandlockedAtlantic => &[
                Kind::TrollingWire,
                Kind::RingBead,
                Kind::InlineBell,
                Kind::BaitSpinner,
                Kind::Attractor,
            ],
            Self::Pink => &[
                Kind::LeaderSquid,
                Kind::FlasherFly,
                Kind::RingBead,
                Kind::Attractor,
            ],
            Self::Chum => &[
                Kind::LeaderSquid,
                Kind::FlasherFly,
                Kind::BaitSpinner,
                Kind::Attractor,
            ],
            Self::LandlockedSockeye => &[
                Kind::RingBead,
                Kind::LeaderSquid,
                Kind::FlasherFly,
                Kind::Attractor,
            ],
            Self::Coho => &[
                Kind::FlasherFly,
                Kind::LeaderSquid,
                Kind::SalmonWire,
                Kind::BaitSpinner,
                Kind::Attractor,
            ],
            Self::Chinook | Self::LandlockedChinook => &[
                Kind::SalmonWire,
                Kind::FlasherFly,
                Kind::BaitSpinner,
                Kind::LeaderSquid,
                Kind::Attractor,
            ],
            Self::SmallmouthBass => &[
                Kind::InlineTorpedo,
                Kind::InlineBell,
                Kind::TailWeighted,
                Kind::WingWorm,
            ],
            Self::YellowPerch => &[Kind::WingWorm, Kind::RingBead, Kind::BareHook],
        }
    }

    /// Kinds of rig that practice casts for it in a river, the favourites first (common practice, no source).
    pub fn cast_kinds(self) -> &'static [Kind] {
        match self {
            Self::RainbowTrout
            | Self::BrownTrout
            | Self::BrookTrout
            | Self::Cutthroat
            | Self::LakeTrout => &[
                Kind::InlineTorpedo,
                Kind::InlineBell,
                Kind::TailWeighted,
                Kind::RingBead,
            ],
            Self::Steelhead
            | Self::Coho
            | Self::Chinook
            | Self::LandlockedChinook
            | Self::LandlockedAtlantic
            | Self::Pink
            | Self::Chum
            | Self::LandlockedSockeye => &[
                Kind::InlineTorpedo,
                Kind::InlineBell,
                Kind::TailWeighted,
                Kind::LeaderSquid,
            ],
            Self::Walleye | Self::Sauger | Self::SmallmouthBass => &[
                Kind::InlineTorpedo,
                Kind::InlineBell,
                Kind::TailWeighted,
                Kind::WingWorm,
            ],
            Self::YellowPerch => &[Kind::RingBead, Kind::WingWorm, Kind::BareHook],
        }
    }

    /// Baits that practice gives it, the favourites first (common practice, no source).
    pub fn baits(self) -> &'static [Bait] {
        match self {
            Self::Walleye | Self::Sauger => &[
                Bait::Crawler,
                Bait::Leech,
                Bait::HalfCrawler,
                Bait::MostCrawler,
                Bait::ThreadedCrawler,
                Bait::BaitFish,
                Bait::GrubTail,
            ],
            Self::RainbowTrout
            | Self::BrownTrout
            | Self::BrookTrout
            | Self::Cutthroat
            | Self::Steelhead => &[
                Bait::WormPiece,
                Bait::HalfInch,
                Bait::QuarterInch,
                Bait::HalfCrawler,
                Bait::Egg,
                Bait::Dough,
            ],
            Self::LakeTrout | Self::LandlockedAtlantic => {
                &[Bait::BaitFish, Bait::Strip, Bait::WormPiece]
            }
            Self::LandlockedSockeye => &[Bait::Corn, Bait::QuarterInch, Bait::WormPiece, Bait::Egg],
            Self::Coho | Self::Chinook | Self::LandlockedChinook | Self::Pink | Self::Chum => {
                &[Bait::BaitFish, Bait::Strip]
            }
            Self::SmallmouthBass => &[
                Bait::Leech,
                Bait::HalfCrawler,
                Bait::Crawler,
                Bait::GrubTail,
            ],
            Self::YellowPerch => &[
                Bait::WormPiece,
                Bait::HalfCrawler,
                Bait::Leech,
                Bait::HalfInch,
                Bait::GrubTail,
            ],
        }
    }

    /// What it feeds on most, where nobody says otherwise (common practice, no source).
    pub fn usual_forage(self) -> Forage {
        match self {
            Self::Walleye | Self::Sauger => Forage::YellowPerch,
            Self::RainbowTrout | Self::BrookTrout | Self::Steelhead | Self::YellowPerch => {
                Forage::Insects
            }
            Self::BrownTrout | Self::Cutthroat => Forage::Shiner,
            Self::LakeTrout | Self::LandlockedChinook | Self::LandlockedAtlantic => Forage::Smelt,
            Self::LandlockedSockeye | Self::Pink => Forage::Plankton,
            Self::Chinook => Forage::Herring,
            Self::Coho | Self::Chum => Forage::Squid,
            Self::SmallmouthBass => Forage::Crayfish,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_fish_has_its_temperatures_with_a_source() {
        for fish in Fish::ALL {
            let preferred = fish.preferred();
            assert!(preferred.from < preferred.to, "{fish:?}");
            // A source names a year.
            let year = preferred.source.split([' ', ',']).any(|word| {
                word.parse::<u16>()
                    .is_ok_and(|year| (1900..2030).contains(&year))
            });
            assert!(year, "{}", preferred.source);
        }
    }

    /// Cold-water fish like it colder than cool-water fish, and those than the bass of warm water
    /// (the guilds of Hokanson 1977 and of Magnuson et al. 1979, from memory).
    #[test]
    fn thermal_guilds_keep_their_order() {
        let middle = |fish: Fish| {
            let preferred = fish.preferred();
            f64::midpoint(preferred.from.0, preferred.to.0)
        };
        assert!(middle(Fish::LakeTrout) < middle(Fish::RainbowTrout));
        assert!(middle(Fish::RainbowTrout) < middle(Fish::YellowPerch));
        assert!(middle(Fish::YellowPerch) < middle(Fish::SmallmouthBass));
        for fish in Fish::ALL.iter().filter(|fish| fish.is_salmonid()) {
            assert!(
                fish.preferred().to < Fish::Walleye.preferred().from,
                "{fish:?}"
            );
        }
    }

    #[test]
    fn a_fish_is_offered_something() {
        for fish in Fish::ALL {
            assert!(!fish.kinds().is_empty() && !fish.baits().is_empty());
            assert!(fish.cast_kinds().iter().all(|kind| kind.is_cast()));
            assert!(!fish.habit().is_empty());
        }
    }
}
