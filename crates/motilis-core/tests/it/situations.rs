//! A hundred and twenty worked situations, forty here and eighty in `waters.rs`: what practice would tie on, and what the match calls first.
//!
//! Each row names the practice it stands for (common practice, no source; CP numbers are those of the trade's
//! rules). The box holds every kind of rig in the sizes and finishes of the trade, all made up, so that only
//! the conditions decide. Held against practice are the kind of rig, the family of the blade, the group of
//! its finish, and the speed it should be run at.

use crate::pool::{day, pool};
use crate::rods::tools;
use motilis_core::advice::{Day, Judge, Mood, Sky, Ways, draw_up};
use motilis_core::blade::Family;
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::Stain;
use motilis_core::rig::{Colour, Finish, Kind};
use motilis_core::units::{Celsius, FOOT, MILE_PER_HOUR};
use rstest::rstest;

/// Finishes practice speaks of together.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Group {
    /// Silver, and the natural blues.
    Silver,
    /// Gold and copper.
    Warm,
    /// Any bare metal.
    Metal,
    /// Loud paint: chartreuse, orange, pink.
    Loud,
    /// Loud paint, or bronze: gold and copper.
    LoudOrWarm,
    /// Dull or dark: hammered metal, black, white.
    Dull,
    /// Those, or loud paint.
    DullOrLoud,
    /// Glow.
    Glow,
    /// The practice says nothing of it.
    Any,
}

impl Group {
    fn holds(self, finish: Finish) -> bool {
        use Colour::{Black, Blue, Brass, Chartreuse, Copper, Glow, Nickel, Orange, Pink, White};
        let colour = finish.colour.goes_as();
        match self {
            Self::Silver => matches!(colour, Nickel | Blue),
            Self::Warm => matches!(colour, Brass | Copper),
            Self::Metal => colour.is_metal(),
            Self::Loud => matches!(colour, Chartreuse | Orange | Pink),
            Self::LoudOrWarm => Self::Loud.holds(finish) || Self::Warm.holds(finish),
            Self::Dull => {
                matches!(colour, Black | White | Glow)
                    || (colour.is_metal() && finish.hammered)
                    || finish.colour.is_matte()
            }
            Self::DullOrLoud => Self::Dull.holds(finish) || Self::Loud.holds(finish),
            Self::Glow => colour == Glow,
            Self::Any => true,
        }
    }
}

/// Water and sky of a situation: °F, ft of clarity, stain, sky, altitude of the sun.
pub type Scene = (f64, f64, Stain, Sky, f64);

pub fn situation(fish: Fish, mph: f64, depth_ft: f64, mood: Mood, scene: Scene) -> Day {
    let (fahrenheit, clarity_ft, stain, sky, sun_alt) = scene;
    let mut day = Day {
        speed: mph * MILE_PER_HOUR,
        temperature: Celsius::from_fahrenheit(fahrenheit),
        clarity: clarity_ft * FOOT,
        stain,
        sky,
        fish,
        fish_depth: ((depth_ft - 2.0).max(1.0) * FOOT, (depth_ft + 3.0) * FOOT),
        mood,
        forage: fish.usual_forage(),
        salt: matches!(fish, Fish::Coho | Fish::Chinook),
        bottom: (depth_ft + 8.0) * FOOT,
        wanted_depth: depth_ft * FOOT,
        ..day()
    };
    day.overhead.sun_alt = sun_alt;
    day.overhead.cloud = sky.cloud();
    day
}

pub fn walleye(mph: f64, depth_ft: f64, mood: Mood, scene: Scene) -> Day {
    situation(Fish::Walleye, mph, depth_ft, mood, scene)
}

use Family::{Colorado, French, HardWing, HatchetCut, Indiana, MagnumWillow, SoftWing, Willow};
use Kind::{
    Attractor, BaitSpinner, CrawlerHarness, FastHarness, FlasherFly, InlineBell, InlineTorpedo,
    LeaderSquid, RingBead, SalmonWire, TailWeighted, TrollingWire, WingWorm,
};
use Mood::{Active, Neutral, Shy};
use Sky::{Broken, Cloud, Rain, Sun};
use Stain::{Clear, Green, Muddy, Tea};

pub const WING: &[Family] = &[SoftWing, HardWing];
pub const TROUT: &[Kind] = &[
    RingBead,
    TrollingWire,
    InlineTorpedo,
    InlineBell,
    TailWeighted,
];
pub const SPINNER: &[Family] = &[French, Indiana, Willow];
pub const SALMON: &[Kind] = &[FlasherFly, SalmonWire, LeaderSquid, BaitSpinner];

#[rstest]
// Walleye: harnesses at 1.0 to 1.5 mph, Colorado or Indiana (CP-03).
#[case::summer_flats_in_stained_water(walleye(1.2, 14.0, Neutral, (68.0, 6.0, Tea, Cloud, 40.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::LoudOrWarm, (1.0, 1.5))]
// Stained water in wind: loud paint or bronze, thump.
#[case::stained_flats_in_wind(walleye(1.3, 10.0, Active, (64.0, 5.0, Green, Broken, 35.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::LoudOrWarm, (1.0, 1.5))]
#[case::orange_in_tea_water(walleye(1.2, 12.0, Neutral, (62.0, 5.0, Tea, Cloud, 30.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::LoudOrWarm, (1.0, 1.5))]
// Dog days, calm and shy: small wing on a bent-shank hook, slower, 0.8 to 0.9 (CP-03).
#[case::dog_day_calm(walleye(0.85, 18.0, Shy, (76.0, 9.0, Green, Sun, 55.0)), &[WingWorm], WING, Group::Any, (0.6, 1.0))]
#[case::shy_after_a_front(walleye(0.8, 20.0, Shy, (66.0, 14.0, Clear, Sun, 45.0)), &[WingWorm], WING, Group::Silver, (0.6, 1.0))]
// Below 50 °F slow down and go up one wing size.
#[case::cold_spring_shallows(walleye(0.7, 8.0, Neutral, (47.0, 8.0, Tea, Cloud, 25.0)), &[WingWorm], WING, Group::Any, (0.5, 0.9))]
#[case::cold_clear_spring_shallows(walleye(0.7, 7.0, Shy, (45.0, 15.0, Clear, Sun, 30.0)), &[WingWorm], WING, Group::Silver, (0.5, 0.9))]
// Dirty high water at dawn: most flash and most thump.
#[case::dirty_high_water_at_dawn(walleye(1.2, 8.0, Active, (58.0, 1.5, Muddy, Cloud, 1.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Metal, (1.0, 1.5))]
#[case::mud_after_a_storm(walleye(1.2, 8.0, Neutral, (66.0, 1.0, Muddy, Rain, 20.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Metal, (1.0, 1.5))]
// Clear water: chrome, silver, blue, natural.
#[case::clear_noon(walleye(1.2, 22.0, Neutral, (66.0, 18.0, Clear, Sun, 58.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Silver, (1.0, 1.5))]
// Fast boards with divers: double willow from 2 mph on (CP-04).
#[case::fast_boards_with_divers(walleye(2.2, 22.0, Active, (70.0, 8.0, Green, Sun, 50.0)), &[FastHarness], &[Willow], Group::Metal, (1.6, 2.8))]
#[case::fast_in_stained_water(walleye(2.0, 15.0, Active, (72.0, 5.0, Tea, Cloud, 40.0)), &[FastHarness], &[Willow], Group::Any, (1.6, 2.8))]
// Copper for 68 to 72 °F.
#[case::coppers_own_water(walleye(1.2, 15.0, Neutral, (70.0, 5.0, Tea, Cloud, 35.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Warm, (1.0, 1.5))]
// Active fish: a large thumping blade.
#[case::active_fish_thump(walleye(1.4, 16.0, Active, (66.0, 6.0, Tea, Cloud, 40.0)), &[CrawlerHarness], &[Colorado], Group::Any, (1.0, 1.5))]
// Last light: dull, white or glowing finishes.
#[case::last_light(walleye(1.1, 10.0, Neutral, (64.0, 14.0, Clear, Cloud, -3.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Dull, (1.0, 1.5))]
// Glow in the dark.
#[case::night_shift(walleye(1.1, 12.0, Neutral, (64.0, 14.0, Clear, Cloud, -25.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Glow, (1.0, 1.5))]
// Panfish about: one hook, so the wing with half a crawler.
#[case::panfish_strip_the_second_hook(Day { nibblers: true, ..walleye(0.9, 12.0, Neutral, (70.0, 7.0, Green, Cloud, 40.0)) }, &[WingWorm], WING, Group::Any, (0.6, 1.2))]
// Everybody drags harnesses: run something else.
#[case::everybody_drags_harnesses(Day { crowd: Some(CrawlerHarness), ..walleye(1.0, 14.0, Neutral, (70.0, 7.0, Green, Cloud, 40.0)) }, &[WingWorm, BaitSpinner], &[SoftWing, HardWing, Colorado, Indiana], Group::Any, (0.6, 1.8))]
// Rainbow trout: wire spinners 1.5 to 3 mph, ring beads 0.5 to 2 (CP-05); cold water 1.0 to 1.5.
#[case::rainbow_in_spring(situation(Fish::RainbowTrout, 1.2, 8.0, Neutral, (48.0, 12.0, Clear, Cloud, 30.0)), &[RingBead], SPINNER_OR_WING, Group::Any, (0.5, 1.5))]
#[case::rainbow_in_summer_sun(situation(Fish::RainbowTrout, 1.5, 20.0, Neutral, (60.0, 18.0, Clear, Sun, 55.0)), TROUT, SPINNER_OR_WING, Group::Metal, (0.9, 2.4))]
#[case::rainbow_trolled_fast(situation(Fish::RainbowTrout, 2.2, 15.0, Active, (58.0, 10.0, Green, Broken, 40.0)), &[TrollingWire, InlineTorpedo, InlineBell, TailWeighted], SPINNER, Group::Any, (1.4, 2.8))]
// A trout reservoir in mud: most flash and thump.
#[case::trout_in_a_muddy_reservoir(situation(Fish::RainbowTrout, 1.6, 6.0, Neutral, (56.0, 1.5, Muddy, Cloud, 30.0)), TROUT, SPINNER, Group::Metal, (1.0, 2.4))]
#[case::shy_rainbow_in_clear_water(situation(Fish::RainbowTrout, 1.1, 12.0, Shy, (62.0, 20.0, Clear, Sun, 55.0)), &[RingBead], SPINNER_OR_WING, Group::Metal, (0.5, 1.5))]
// Brown trout: dusk to dawn, dull finishes.
#[case::brown_trout_at_dusk(situation(Fish::BrownTrout, 1.6, 8.0, Neutral, (56.0, 14.0, Clear, Cloud, 0.0)), TROUT, SPINNER_OR_WING, Group::Dull, (0.9, 2.4))]
#[case::brown_trout_in_stained_water(situation(Fish::BrownTrout, 1.6, 6.0, Active, (54.0, 5.0, Tea, Rain, 20.0)), TROUT, SPINNER_OR_WING, Group::Any, (0.9, 2.4))]
// Brook trout: small and slow.
#[case::brook_trout_near_an_inlet(situation(Fish::BrookTrout, 1.2, 6.0, Neutral, (54.0, 8.0, Tea, Broken, 30.0)), &[RingBead], SPINNER_OR_WING, Group::Any, (0.5, 2.1))]
// Lake trout: deep, silver.
#[case::lake_trout_in_summer(situation(Fish::LakeTrout, 1.6, 60.0, Neutral, (48.0, 20.0, Clear, Sun, 55.0)), TROUT_AND_ATTRACTOR, SPINNER_OR_WING_OR_COLORADO, Group::Silver, (0.9, 2.4))]
#[case::lake_trout_at_ice_out(situation(Fish::LakeTrout, 1.2, 10.0, Neutral, (42.0, 18.0, Clear, Cloud, 35.0)), TROUT_AND_ATTRACTOR, SPINNER_OR_WING_OR_COLORADO, Group::Any, (0.5, 2.0))]
// Landlocked sockeye at 60 ft: ring bead or squid behind the attractor.
#[case::landlocked_sockeye_at_60_ft(situation(Fish::LandlockedSockeye, 1.4, 60.0, Neutral, (54.0, 18.0, Clear, Broken, 45.0)), &[RingBead, LeaderSquid, FlasherFly, Attractor], ANY_SMALL, Group::Any, (0.9, 2.4))]
// Shy ones: no attractor (CP-19).
#[case::shy_landlocked_sockeye(situation(Fish::LandlockedSockeye, 1.2, 50.0, Shy, (56.0, 20.0, Clear, Sun, 55.0)), &[RingBead, LeaderSquid], ANY_SMALL, Group::Any, (0.5, 1.8))]
#[case::sockeye_at_first_light(situation(Fish::LandlockedSockeye, 1.4, 25.0, Active, (54.0, 16.0, Clear, Broken, 1.0)), &[RingBead, LeaderSquid, FlasherFly, Attractor], ANY_SMALL, Group::Any, (0.9, 2.6))]
// Coho behind flashers.
#[case::coho_behind_flashers(situation(Fish::Coho, 2.4, 40.0, Active, (54.0, 20.0, Clear, Broken, 25.0)), &[FlasherFly, SalmonWire, LeaderSquid], BEHIND_FLASHER, Group::Any, (1.6, 3.2))]
#[case::coho_high_under_cloud(situation(Fish::Coho, 2.2, 20.0, Neutral, (55.0, 12.0, Clear, Cloud, 30.0)), &[FlasherFly, SalmonWire, LeaderSquid], BEHIND_FLASHER, Group::Any, (1.6, 3.2))]
// Chinook: salmon wire spinners and flasher flies, 1.6 to 3.2.
#[case::chinook_deep(situation(Fish::Chinook, 2.3, 90.0, Neutral, (50.0, 20.0, Clear, Sun, 45.0)), SALMON, BEHIND_FLASHER, Group::Any, (1.6, 3.2))]
#[case::chinook_at_first_light(situation(Fish::Chinook, 2.3, 40.0, Active, (52.0, 18.0, Clear, Cloud, -4.0)), SALMON, BEHIND_FLASHER, Group::Dull, (1.6, 3.2))]
#[case::landlocked_chinook(situation(Fish::LandlockedChinook, 2.2, 60.0, Neutral, (53.0, 16.0, Clear, Broken, 40.0)), SALMON, BEHIND_FLASHER, Group::Any, (1.6, 3.2))]
// Steelhead in the lake: trout spinners.
#[case::steelhead_in_the_open_lake(situation(Fish::Steelhead, 2.0, 12.0, Active, (52.0, 16.0, Clear, Broken, 40.0)), TROUT, SPINNER, Group::Any, (1.4, 2.8))]
#[case::steelhead_in_green_water(situation(Fish::Steelhead, 1.8, 8.0, Neutral, (48.0, 5.0, Green, Rain, 25.0)), TROUT, SPINNER_OR_WING, Group::Any, (0.9, 2.4))]
// Smallmouth: inline spinners.
#[case::smallmouth_in_summer(situation(Fish::SmallmouthBass, 1.8, 8.0, Active, (72.0, 10.0, Green, Sun, 50.0)), &[InlineTorpedo, InlineBell, TailWeighted], SPINNER, Group::Any, (1.2, 2.8))]
// Perch: small baits, slow.
#[case::perch_for_the_pan(situation(Fish::YellowPerch, 0.8, 12.0, Neutral, (66.0, 8.0, Green, Cloud, 40.0)), &[WingWorm, RingBead], SPINNER_OR_WING, Group::Any, (0.5, 1.3))]
fn practice_would_tie_on_the_first_call(
    #[case] day: Day,
    #[case] kinds: &[Kind],
    #[case] families: &[Family],
    #[case] finish: Group,
    #[case] speeds: (f64, f64),
) {
    first_call_is(&day, kinds, families, finish, speeds);
}

/// Whether what is called first is what practice would tie on, run at its speed, mph.
pub fn first_call_is(
    day: &Day,
    kinds: &[Kind],
    families: &[Family],
    finish: Group,
    (from, to): (f64, f64),
) {
    let candidates = pool();
    let ways = Ways {
        tools: tools(),
        ..Ways::usual(day.fish)
    };
    let judge = Judge::new(day, &ways).unwrap();
    let ranking = judge.rank(candidates);
    let sheet = draw_up(&judge, candidates, &ranking, |_| None);
    let first = sheet.picks.first().expect("something works");
    let rig = &candidates[first.index].rig;
    let (blade, _) = rig.front_blade().unwrap();
    let colour = rig.finish();
    let told: Vec<String> = first
        .call
        .terms
        .iter()
        .map(|term| format!("{} {:.2}", term.term().key(), term.weighted()))
        .collect();
    let says = format!("{} {told:?}", candidates[first.index].name);
    assert!(kinds.contains(&rig.kind()), "{says}");
    assert!(families.contains(&blade.family), "{says}");
    assert!(finish.holds(colour), "{says}");
    let mph = first.call.best_speed / MILE_PER_HOUR;
    assert!((from..=to).contains(&mph), "{mph:.2} mph, {says}");
}

pub const SPINNER_OR_WING: &[Family] = &[French, Indiana, Willow, SoftWing, HardWing];
pub const SPINNER_OR_WING_OR_COLORADO: &[Family] =
    &[French, Indiana, Willow, SoftWing, HardWing, Colorado];
pub const TROUT_AND_ATTRACTOR: &[Kind] = &[
    RingBead,
    TrollingWire,
    InlineTorpedo,
    InlineBell,
    TailWeighted,
    Attractor,
];
pub const ANY_SMALL: &[Family] = &[
    French, Indiana, Willow, SoftWing, HardWing, HatchetCut, Colorado,
];
pub const BEHIND_FLASHER: &[Family] = &[
    Indiana,
    MagnumWillow,
    HatchetCut,
    SoftWing,
    HardWing,
    Colorado,
];

/// Schools are followed: each moves the call its own way.
#[test]
fn a_school_moves_the_call() {
    use motilis_core::advice::{AttractorSchool, Schools, Term, Weights};
    let day = situation(
        Fish::LandlockedSockeye,
        1.4,
        60.0,
        Neutral,
        (54.0, 18.0, Clear, Broken, 45.0),
    );
    let candidates = pool();
    let first_has_attractor = |attractor| {
        let schools = Schools {
            attractor,
            ..Schools::default()
        };
        let weights = Weights::usual(day.fish, &schools)
            .with(Term::Attractor, 3.0)
            .unwrap();
        let ways = Ways {
            schools,
            weights,
            tools: tools(),
            ..Ways::usual(day.fish)
        };
        let judge = Judge::new(&day, &ways).unwrap();
        let ranking = judge.rank(candidates);
        let sheet = draw_up(&judge, candidates, &ranking, |_| None);
        let kind = candidates[sheet.picks[0].index].rig.kind();
        matches!(kind, Attractor | FlasherFly)
    };
    assert!(first_has_attractor(AttractorSchool::Always));
    assert!(!first_has_attractor(AttractorSchool::Never));
}

/// The forage chooses among finishes that are otherwise alike.
#[test]
fn shiners_ask_for_silver() {
    use motilis_core::advice::Basis;
    let points = |forage, colour| Basis::Forage { forage, colour }.points();
    assert!(points(Forage::Shiner, Colour::Nickel) > points(Forage::Shiner, Colour::Orange));
    assert!(points(Forage::YellowPerch, Colour::Green) > points(Forage::YellowPerch, Colour::Pink));
}
