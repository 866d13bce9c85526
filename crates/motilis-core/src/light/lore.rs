//! What anglers say of finishes, beside what the light model makes of it. Neither is bent towards the other.

use super::{
    Daylight, Eye, Finish, Optics, Scene, Sky, Stain, Target, View, Viewer, Watch, luminous,
};
use crate::keyed::keyed;
use std::sync::OnceLock;

/// How a claim stands to the model.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Verdict {
    /// The claimed better one is better by more than 3 %.
    Agree,
    /// The two lie within 3 %.
    NoDifference,
    /// The other one is better by more than 3 %.
    Disagree,
}

keyed!(Verdict {
    Agree "agree" "agrees",
    NoDifference "no_difference" "no difference",
    Disagree "disagree" "disagrees",
});

impl Verdict {
    /// The verdict on a claimed better figure and the one it is held against.
    pub fn on(claimed: f64, other: f64) -> Self {
        match claimed / other {
            better if better > 1.03 => Self::Agree,
            same if same >= 0.97 => Self::NoDifference,
            _ => Self::Disagree,
        }
    }
}

/// A saying of the trade with the exact situation it is held against.
#[derive(Debug, Clone, PartialEq)]
pub struct Claim {
    /// Its name in files.
    pub id: &'static str,
    /// What anglers say (common practice, no source).
    pub lore: &'static str,
    /// The situation the model was asked about; a figure in braces is a length in metres.
    pub situation: &'static str,
    /// What the first figure is, written likewise.
    pub claimed_what: &'static str,
    /// The claimed better one.
    pub claimed: f64,
    /// What the second figure is.
    pub other_what: &'static str,
    /// What it is held against.
    pub other: f64,
    /// `m` of sight, or a ratio.
    pub unit: &'static str,
    /// Finishes of the light model it speaks of.
    pub finishes: &'static [&'static str],
    /// What to make of it.
    pub note: &'static str,
}

impl Claim {
    /// Whether the model agrees.
    pub fn verdict(&self) -> Verdict {
        Verdict::on(self.claimed, self.other)
    }

    /// Whether it speaks of a finish.
    pub fn speaks_of(&self, finish: &str) -> bool {
        self.finishes.iter().any(|one| finish.starts_with(one))
    }
}

/// Every claim; computed once.
pub fn claims() -> &'static [Claim] {
    static CLAIMS: OnceLock<Vec<Claim>> = OnceLock::new();
    CLAIMS.get_or_init(|| SAYINGS.iter().map(Saying::held_against_the_model).collect())
}

/// Sun, water, Secchi depth, depth, view and eye of a situation. Under the sun's altitude stands no cloud
/// and a light wind; the moon is down.
type Situation = (f64, Stain, f64, f64, View, Viewer);

const CLEAR: Situation = (55.0, Stain::Clear, 15.0, 15.0, View::Level, Viewer::Walleye);
const SHALLOW: Situation = (55.0, Stain::Clear, 15.0, 1.0, View::Level, Viewer::Walleye);
const GREEN: Situation = (45.0, Stain::Green, 1.8, 3.0, View::Level, Viewer::Walleye);
const TEA: Situation = (30.0, Stain::Tea, 1.5, 2.5, View::Level, Viewer::Walleye);
const MUD: Situation = (50.0, Stain::Muddy, 0.4, 1.0, View::Level, Viewer::Walleye);
const DAY: Situation = (50.0, Stain::Clear, 6.0, 6.0, View::Level, Viewer::Walleye);
const NIGHT: Situation = (-30.0, Stain::Clear, 6.0, 6.0, View::Level, Viewer::Walleye);
const DUSK: Situation = (-5.0, Stain::Clear, 8.0, 8.0, View::Up, Viewer::Walleye);
const DEEP: Situation = (50.0, Stain::Clear, 10.0, 25.0, View::Level, Viewer::Chinook);
const BROOK: Situation = (
    50.0,
    Stain::Clear,
    15.0,
    4.0,
    View::Level,
    Viewer::RainbowJuvenile,
);
const DIM: Situation = (-8.0, Stain::Green, 2.0, 4.0, View::Level, Viewer::Walleye);
const DIM_TROUT: Situation = (-8.0, Stain::Green, 2.0, 4.0, View::Level, Viewer::LakeTrout);

/// A figure that the model is asked for.
enum Asked {
    /// Sight of a finish, m, at 12 flashes a second.
    Sight(Situation, &'static str),
    /// The same at another rate of flashes.
    Flashing(Situation, &'static str, f64),
    /// Brightness of one finish to another, to the human eye.
    Brightness(Situation, &'static str, &'static str),
    /// Sight of one finish over that of another.
    Share(Situation, &'static str, &'static str),
    /// Nothing: the one that stands for "as bright as plain".
    One,
}

impl Asked {
    fn figure(&self) -> f64 {
        match *self {
            Self::Sight(situation, finish) => sight(situation, finish, 12.0),
            Self::Flashing(situation, finish, flashes) => sight(situation, finish, flashes),
            Self::Brightness(situation, finish, other) => {
                let watch = watch(situation);
                let of = |name| luminous(&named(name).seen_in(watch.scene(), GLOW_MIN)[0]);
                of(finish) / of(other)
            }
            Self::Share(situation, finish, other) => {
                sight(situation, finish, 12.0) / sight(situation, other, 12.0)
            }
            Self::One => 1.0,
        }
    }
}

/// Minutes since the glow paint was charged.
const GLOW_MIN: f64 = 10.0;
/// Area of the target, m².
const AREA: f64 = 6e-4;

fn named(finish: &str) -> Finish {
    Finish::from_name(finish).expect("the sayings name finishes of the table")
}

fn watch((sun_alt, stain, secchi, depth, view, viewer): Situation) -> Watch {
    let in_range = "the situations lie inside the model's ranges";
    let daylight = Daylight::under(&Sky {
        sun_alt,
        moon_alt: -30.0,
        moon_phase: 90.0,
        cloud: 0.0,
        wind: 3.0,
    })
    .expect(in_range);
    let optics = Optics::from_secchi(stain, secchi, false).expect(in_range);
    let scene = Scene::new(&daylight, &optics, depth, view).expect(in_range);
    Watch::new(scene, Eye::of(viewer))
}

fn sight(situation: Situation, finish: &str, flashes: f64) -> f64 {
    let target = Target {
        area: AREA,
        flashes,
        glow_min: GLOW_MIN,
    };
    watch(situation)
        .sighting(&named(finish), &target)
        .expect("the target lies inside the model's ranges")
        .range
}

/// A saying before the model was asked.
struct Saying {
    id: &'static str,
    lore: &'static str,
    situation: &'static str,
    claimed: (&'static str, Asked),
    other: (&'static str, Asked),
    finishes: &'static [&'static str],
    note: &'static str,
}

impl Saying {
    fn held_against_the_model(&self) -> Claim {
        let ratio = matches!(
            self.claimed.1,
            Asked::Brightness(..) | Asked::Share(..) | Asked::One
        );
        Claim {
            id: self.id,
            lore: self.lore,
            situation: self.situation,
            claimed_what: self.claimed.0,
            claimed: self.claimed.1.figure(),
            other_what: self.other.0,
            other: self.other.1.figure(),
            unit: if ratio { "" } else { "m" },
            finishes: self.finishes,
            note: self.note,
        }
    }
}

const SAYINGS: [Saying; 16] = [
    Saying {
        id: "red_black",
        lore: "Red goes black first in clear water",
        situation: "clear, Secchi {15}",
        claimed: (
            "red over white, brightness at {1}",
            Asked::Brightness(SHALLOW, "red", "white"),
        ),
        other: ("the same at {15}", Asked::Brightness(CLEAR, "red", "white")),
        finishes: &["red", "fluoro_red"],
        note: "Dark is not invisible: a black target is seen well against bright water.",
    },
    Saying {
        id: "red_useless",
        lore: "Red is useless further down",
        situation: "clear, {15} deep, walleye, level",
        claimed: ("red", Asked::Sight(CLEAR, "red")),
        other: ("white", Asked::Sight(CLEAR, "white")),
        finishes: &["red"],
        note: "It works as a dark silhouette.",
    },
    Saying {
        id: "fluoro_keeps",
        lore: "Fluorescent colours keep their colour at depth",
        situation: "clear, {15} deep, walleye, level",
        claimed: (
            "fluorescent over plain orange, brightness",
            Asked::Brightness(CLEAR, "fluoro_orange", "orange"),
        ),
        other: ("plain", Asked::One),
        finishes: &["fluoro"],
        note: "Emission is pumped by the blue-green light that is left.",
    },
    Saying {
        id: "chartreuse_green",
        lore: "Chartreuse is seen farthest in green water",
        situation: "green, Secchi {1.8}, {3} deep, walleye, level",
        claimed: (
            "fluorescent chartreuse",
            Asked::Sight(GREEN, "fluoro_chartreuse"),
        ),
        other: ("white", Asked::Sight(GREEN, "white")),
        finishes: &["fluoro_chartreuse", "chartreuse"],
        note: "Close to equal in reach; metal flashes go farther than either.",
    },
    Saying {
        id: "copper_tea",
        lore: "Copper and gold beat silver in tea-stained water",
        situation: "tea, Secchi {1.5}, {2.5} deep, walleye, level",
        claimed: ("copper", Asked::Sight(TEA, "copper_polished")),
        other: ("silver", Asked::Sight(TEA, "silver_polished")),
        finishes: &["copper", "gold", "brass"],
        note: "Silver reflects all that copper does and more; in red-brown light the gap only closes.",
    },
    Saying {
        id: "copper_closes",
        lore: "Copper’s handicap is smaller in tea-stained than in clear water",
        situation: "walleye, level",
        claimed: (
            "copper over silver in tea",
            Asked::Share(TEA, "copper_polished", "silver_polished"),
        ),
        other: (
            "copper over silver in clear",
            Asked::Share(CLEAR, "copper_polished", "silver_polished"),
        ),
        finishes: &["copper", "gold", "brass"],
        note: "This is the part of the rule that physics supports.",
    },
    Saying {
        id: "silver_clear",
        lore: "Silver is best in clear bright water",
        situation: "clear, {15} deep, walleye, level",
        claimed: ("silver", Asked::Sight(CLEAR, "silver_polished")),
        other: ("the next best", Asked::Sight(CLEAR, "silver_hammered")),
        finishes: &["silver", "nickel", "chrome"],
        note: "A mirror throws the bright overhead light sideways.",
    },
    Saying {
        id: "black_dusk",
        lore: "Dark lures are best against the last light",
        situation: "clear, {8} deep, sun 5° below the horizon, seen from below",
        claimed: ("black", Asked::Sight(DUSK, "black")),
        other: ("white", Asked::Sight(DUSK, "white")),
        finishes: &["black", "purple"],
        note: "From below every opaque lure is a silhouette; the finish hardly matters.",
    },
    Saying {
        id: "glow_dark",
        lore: "Glow wins in the dark",
        situation: "clear, {6} deep, starlight, ten minutes after charging, level",
        claimed: ("glow", Asked::Sight(NIGHT, "glow_strontium")),
        other: ("white", Asked::Sight(NIGHT, "white")),
        finishes: &["glow"],
        note: "Charge it again before it is needed: it fades within the hour.",
    },
    Saying {
        id: "glow_day",
        lore: "Glow helps in daylight",
        situation: "clear, {6} deep, sun at 50°, level",
        claimed: ("glow", Asked::Sight(DAY, "glow_strontium")),
        other: ("white", Asked::Sight(DAY, "white")),
        finishes: &["glow"],
        note: "Body colour decides by day.",
    },
    Saying {
        id: "bright_mud",
        lore: "Bright colours are best in muddy water",
        situation: "muddy, Secchi {0.4}, {1} deep, walleye, level",
        claimed: (
            "fluorescent chartreuse",
            Asked::Sight(MUD, "fluoro_chartreuse"),
        ),
        other: ("black", Asked::Sight(MUD, "black")),
        finishes: &["fluoro", "white", "chartreuse", "orange"],
        note: "Scattered light fills the water, so pale paint blends and dark paint stands out.",
    },
    Saying {
        id: "uv_adult",
        lore: "UV finishes are seen farther by adult salmon",
        situation: "clear, Secchi {10}, {25} deep, grown Chinook, level",
        claimed: ("UV white", Asked::Sight(DEEP, "white_uv")),
        other: ("plain white", Asked::Sight(DEEP, "white")),
        finishes: &["white"],
        note: "Grown fish have lost most UV cones, and little UV is left so far down.",
    },
    Saying {
        id: "uv_juvenile",
        lore: "UV finishes are seen farther by young trout near the surface",
        situation: "clear, Secchi {15}, {4} deep, young rainbow trout, level",
        claimed: ("UV white", Asked::Sight(BROOK, "white_uv")),
        other: ("plain white", Asked::Sight(BROOK, "white")),
        finishes: &["white"],
        note: "Equal in reach, yet another colour near by.",
    },
    Saying {
        id: "hammered_far",
        lore: "Hammered blades flash farther than smooth ones",
        situation: "green, Secchi {1.8}, {3} deep, walleye, level",
        claimed: ("hammered silver", Asked::Sight(GREEN, "silver_hammered")),
        other: ("polished silver", Asked::Sight(GREEN, "silver_polished")),
        finishes: &[
            "silver_hammered",
            "nickel_hammered",
            "brass_hammered",
            "copper_hammered",
            "gold_hammered",
        ],
        note: "Hammering spreads the glint: more often seen, less bright. Rests on assumed surface factors.",
    },
    Saying {
        id: "slow_flash",
        lore: "A slow thump flashes better than a fast blur",
        situation: "clear, Secchi {6}, {6} deep, walleye, level",
        claimed: (
            "4 flashes a second",
            Asked::Flashing(DAY, "silver_polished", 4.0),
        ),
        other: (
            "30 flashes a second",
            Asked::Flashing(DAY, "silver_polished", 30.0),
        ),
        finishes: &["silver", "nickel", "brass", "copper", "gold", "chrome"],
        note: "The eye averages flashes faster than some 10 to 20 a second.",
    },
    Saying {
        id: "walleye_dim",
        lore: "Walleye see farther than other fish in dim light",
        situation: "green, Secchi {2}, {4} deep, sun 8° below the horizon",
        claimed: ("walleye", Asked::Sight(DIM, "white")),
        other: ("lake trout", Asked::Sight(DIM_TROUT, "white")),
        finishes: &[],
        note: "The light that passes the eye once is sent through it again.",
    },
];

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case(1.04, 1.0, Verdict::Agree)]
    #[case(1.02, 1.0, Verdict::NoDifference)]
    #[case(0.98, 1.0, Verdict::NoDifference)]
    #[case(0.96, 1.0, Verdict::Disagree)]
    fn within_three_in_a_hundred_there_is_no_difference(
        #[case] claimed: f64,
        #[case] other: f64,
        #[case] verdict: Verdict,
    ) {
        assert_eq!(Verdict::on(claimed, other), verdict);
    }

    #[test]
    fn a_claim_knows_its_finishes() {
        let copper: Vec<_> = claims()
            .iter()
            .filter(|claim| claim.speaks_of("copper_polished"))
            .map(|claim| claim.id)
            .collect();
        assert_eq!(copper, ["copper_tea", "copper_closes", "slow_flash"]);
    }
}
