//! Eighty more worked situations: lakes in cold spring, mud, night, bright clear noon, salt water, rivers.
//!
//! As in `situations.rs`: each row names the practice it stands for (common practice, no source).

use crate::situations::*;
use motilis_core::advice::{Day, Mood, Response, Sky};
use motilis_core::blade::Family;
use motilis_core::fish::Fish;
use motilis_core::light::Stain;
use motilis_core::rig::Kind;
use motilis_core::units::{FOOT, MetresPerSecond};
use rstest::rstest;

use Family::{Colorado, Indiana, Willow};
use Kind::{
    BaitSpinner, CrawlerHarness, FastHarness, FlasherFly, InlineBell, InlineTorpedo, LeaderSquid,
    RingBead, SalmonWire, TailWeighted, TrollingWire, WingWorm,
};
use Mood::{Active, Neutral, Shy};
use Sky::{Broken, Cloud, Rain, Sun};
use Stain::{Clear, Green, Muddy, Tea};

const HARNESS_OR_WING: &[Family] = &[
    Family::Colorado,
    Family::Indiana,
    Family::SoftWing,
    Family::HardWing,
];
const SOCKEYE: &[Kind] = &[RingBead, LeaderSquid, FlasherFly, Kind::Attractor];
const INLINE: &[Kind] = &[InlineTorpedo, InlineBell, TailWeighted];

/// A run of a river: speed of its water in m/s and depth in ft.
fn river(fish: Fish, flow: f64, feet: f64, mood: Mood, scene: Scene) -> Day {
    Day {
        river: true,
        speed: MetresPerSecond(flow),
        bottom: feet * FOOT,
        fish_depth: (0.5 * feet * FOOT, 0.9 * feet * FOOT),
        wanted_depth: 0.7 * feet * FOOT,
        ..situation(fish, 1.0, 5.0, mood, scene)
    }
}

#[rstest]
// Cold spring and late autumn: slow down, a wing at 0.8 and less (CP-02, CP-03; below 50 °F, common practice).
#[case::ice_out_at_an_inlet(walleye(0.7, 6.0, Neutral, (40.0, 6.0, Tea, Cloud, 20.0)), &[WingWorm], WING, Group::Any, (0.4, 0.85))]
#[case::cold_green_bay(walleye(0.8, 10.0, Neutral, (44.0, 8.0, Green, Broken, 30.0)), &[WingWorm], WING, Group::Any, (0.4, 0.85))]
#[case::cold_and_very_clear_at_noon(walleye(0.8, 15.0, Shy, (46.0, 25.0, Clear, Sun, 50.0)), &[WingWorm], WING, Group::Silver, (0.4, 0.85))]
#[case::cold_at_dusk(walleye(0.8, 8.0, Neutral, (48.0, 14.0, Clear, Cloud, -1.0)), &[WingWorm], WING, Group::Dull, (0.4, 0.9))]
#[case::cold_at_night(walleye(0.7, 6.0, Neutral, (46.0, 14.0, Clear, Cloud, -25.0)), &[WingWorm], WING, Group::Dull, (0.4, 0.9))]
#[case::cold_spring_rain(walleye(0.8, 6.0, Neutral, (45.0, 5.0, Tea, Rain, 25.0)), &[WingWorm], WING, Group::Any, (0.4, 0.85))]
#[case::cold_and_shy_in_tea_water(walleye(0.7, 8.0, Shy, (43.0, 5.0, Tea, Cloud, 25.0)), &[WingWorm], WING, Group::Any, (0.4, 0.85))]
#[case::late_autumn_on_the_flats(walleye(0.8, 14.0, Neutral, (47.0, 9.0, Green, Cloud, 15.0)), &[WingWorm], WING, Group::Any, (0.4, 0.85))]
// Mud and high water: most flash and most thump.
#[case::mud_in_summer(walleye(1.2, 7.0, Neutral, (70.0, 1.2, Muddy, Sun, 45.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Metal, (1.0, 1.5))]
#[case::mud_for_active_fish(walleye(1.3, 8.0, Active, (66.0, 1.5, Muddy, Cloud, 35.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Metal, (1.0, 1.5))]
#[case::mud_at_dusk(walleye(1.1, 6.0, Neutral, (62.0, 1.5, Muddy, Cloud, 0.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Any, (1.0, 1.5))]
// Night: glow, white, dull metal.
#[case::night_in_clear_water(walleye(1.1, 10.0, Neutral, (66.0, 20.0, Clear, Cloud, -30.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Dull, (1.0, 1.5))]
#[case::night_in_green_water(walleye(1.2, 10.0, Active, (70.0, 8.0, Green, Cloud, -20.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::DullOrLoud, (1.0, 1.5))]
#[case::night_in_autumn(walleye(1.0, 8.0, Neutral, (55.0, 12.0, Clear, Broken, -15.0)), &[CrawlerHarness, WingWorm], HARNESS_OR_WING, Group::Dull, (0.6, 1.5))]
#[case::before_the_sun(walleye(1.1, 9.0, Neutral, (64.0, 16.0, Clear, Sun, -4.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Dull, (1.0, 1.5))]
// Bright clear noon: chrome, silver, blue, natural.
#[case::noon_on_a_reef(walleye(1.2, 24.0, Neutral, (68.0, 25.0, Clear, Sun, 62.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Silver, (1.0, 1.5))]
#[case::noon_over_thirty_feet_of_sight(walleye(1.2, 28.0, Neutral, (66.0, 30.0, Clear, Sun, 60.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Silver, (1.0, 1.5))]
#[case::noon_and_shy(walleye(0.9, 22.0, Shy, (67.0, 22.0, Clear, Sun, 60.0)), &[WingWorm], WING, Group::Silver, (0.6, 1.0))]
#[case::noon_for_active_fish(walleye(1.4, 18.0, Active, (66.0, 18.0, Clear, Sun, 58.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Silver, (1.0, 1.5))]
// Warm water: faster.
#[case::dog_days_on_active_fish(walleye(1.4, 20.0, Active, (78.0, 6.0, Green, Cloud, 45.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Any, (1.2, 1.5))]
#[case::eighty_degrees(walleye(1.4, 22.0, Neutral, (80.0, 6.0, Green, Sun, 55.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Any, (1.2, 1.5))]
#[case::warm_and_fast_behind_boards(walleye(2.2, 18.0, Active, (76.0, 6.0, Green, Sun, 50.0)), &[FastHarness], &[Willow], Group::Any, (1.6, 2.8))]
// Stained water of every season: loud paint or bronze.
#[case::stained_in_june(walleye(1.2, 12.0, Neutral, (63.0, 4.0, Tea, Broken, 50.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::LoudOrWarm, (1.0, 1.5))]
#[case::stained_and_cloudy(walleye(1.1, 16.0, Neutral, (60.0, 5.0, Tea, Cloud, 25.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::LoudOrWarm, (1.0, 1.5))]
#[case::green_water_in_august(walleye(1.3, 18.0, Neutral, (72.0, 5.0, Green, Broken, 45.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::LoudOrWarm, (1.0, 1.5))]
// Rain: black, dull hammered brass, matte silver, glow (CP-27).
#[case::summer_rain_in_clear_water(walleye(1.2, 14.0, Neutral, (65.0, 16.0, Clear, Rain, 35.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Dull, (1.0, 1.5))]
#[case::light_rain_on_stained_flats(walleye(1.2, 12.0, Neutral, (64.0, 6.0, Tea, Rain, 30.0)), &[CrawlerHarness], &[Colorado, Indiana], Group::Any, (1.0, 1.5))]
// Followers: slow down step by step.
#[case::followers(Day { response: Response::Follow, ..walleye(1.1, 16.0, Neutral, (66.0, 6.0, Tea, Cloud, 40.0)) }, &[CrawlerHarness], &[Colorado, Indiana], Group::Any, (1.0, 1.19))]
// Short strikers: a treble, or what is shorter; still a harness for walleye.
#[case::short_strikers(Day { response: Response::Short, ..walleye(1.2, 14.0, Neutral, (66.0, 6.0, Tea, Cloud, 40.0)) }, &[CrawlerHarness, WingWorm], HARNESS_OR_WING, Group::Any, (0.6, 1.5))]
// Everybody drags the same thing: run something else.
#[case::everybody_drags_wings(Day { crowd: Some(WingWorm), ..walleye(1.0, 14.0, Neutral, (66.0, 7.0, Green, Cloud, 40.0)) }, &[CrawlerHarness, BaitSpinner], HARNESS_OR_WING, Group::Any, (0.6, 1.8))]
#[case::everybody_drags_them_at_noon(Day { crowd: Some(CrawlerHarness), ..walleye(0.9, 20.0, Shy, (68.0, 14.0, Clear, Sun, 50.0)) }, &[WingWorm, BaitSpinner], HARNESS_OR_WING, Group::Any, (0.5, 1.6))]
// Weeds or panfish about: leech or one hook.
#[case::panfish_in_the_weeds(Day { nibblers: true, ..walleye(0.8, 8.0, Neutral, (68.0, 9.0, Green, Sun, 45.0)) }, &[WingWorm], WING, Group::Any, (0.6, 1.1))]
// Rainbow trout: cold water 1.0 to 1.5 and ring beads (CP-05); wire spinners when it warms.
#[case::rainbow_at_ice_out(situation(Fish::RainbowTrout, 1.1, 5.0, Neutral, (41.0, 12.0, Clear, Cloud, 25.0)), &[RingBead], SPINNER_OR_WING, Group::Any, (0.5, 1.5))]
#[case::rainbow_in_cold_green_water(situation(Fish::RainbowTrout, 1.2, 8.0, Neutral, (46.0, 6.0, Green, Broken, 30.0)), &[RingBead], SPINNER_OR_WING, Group::Any, (0.5, 1.5))]
#[case::rainbow_in_autumn(situation(Fish::RainbowTrout, 1.4, 10.0, Neutral, (54.0, 10.0, Green, Cloud, 25.0)), TROUT, SPINNER_OR_WING, Group::Any, (0.9, 2.4))]
#[case::rainbow_at_first_light(situation(Fish::RainbowTrout, 1.4, 8.0, Active, (58.0, 14.0, Clear, Sun, 1.0)), TROUT, SPINNER_OR_WING, Group::Dull, (0.9, 2.6))]
#[case::rainbow_deep_in_august(situation(Fish::RainbowTrout, 1.6, 35.0, Neutral, (58.0, 18.0, Clear, Sun, 55.0)), TROUT, SPINNER_OR_WING, Group::Metal, (0.9, 2.4))]
#[case::rainbow_in_tea_water(situation(Fish::RainbowTrout, 1.4, 8.0, Neutral, (57.0, 5.0, Tea, Cloud, 30.0)), TROUT, SPINNER_OR_WING, Group::LoudOrWarm, (0.9, 2.4))]
#[case::rainbow_fast_at_noon(situation(Fish::RainbowTrout, 2.4, 15.0, Active, (62.0, 16.0, Clear, Sun, 55.0)), &[TrollingWire, InlineTorpedo, InlineBell, TailWeighted], SPINNER, Group::Metal, (1.4, 3.0))]
#[case::rainbow_shy_in_cold_clear_water(situation(Fish::RainbowTrout, 0.9, 10.0, Shy, (47.0, 20.0, Clear, Sun, 45.0)), &[RingBead], SPINNER_OR_WING, Group::Any, (0.4, 1.3))]
#[case::rainbow_in_the_mud_after_rain(situation(Fish::RainbowTrout, 1.5, 6.0, Active, (55.0, 1.2, Muddy, Rain, 20.0)), TROUT, SPINNER, Group::Metal, (1.0, 2.6))]
// Brown trout: shyest in sun, dusk to dawn.
#[case::brown_trout_at_night(situation(Fish::BrownTrout, 1.4, 6.0, Neutral, (58.0, 14.0, Clear, Cloud, -25.0)), TROUT, SPINNER_OR_WING, Group::Dull, (0.9, 2.4))]
#[case::brown_trout_in_sun(situation(Fish::BrownTrout, 1.2, 25.0, Shy, (56.0, 18.0, Clear, Sun, 55.0)), &[RingBead], SPINNER_OR_WING, Group::Metal, (0.5, 1.5))]
#[case::brown_trout_before_dawn(situation(Fish::BrownTrout, 1.5, 8.0, Active, (54.0, 12.0, Clear, Cloud, -5.0)), TROUT_AND_ATTRACTOR, SPINNER_OR_WING_OR_COLORADO, Group::Dull, (0.9, 2.6))]
#[case::brown_trout_in_cold_spring(situation(Fish::BrownTrout, 1.1, 5.0, Neutral, (44.0, 10.0, Green, Cloud, 30.0)), &[RingBead], SPINNER_OR_WING, Group::Any, (0.5, 1.5))]
// Brook trout: small and slow.
#[case::brook_trout_in_spring(situation(Fish::BrookTrout, 1.1, 5.0, Neutral, (48.0, 8.0, Tea, Cloud, 30.0)), &[RingBead], SPINNER_OR_WING, Group::Any, (0.5, 1.5))]
#[case::brook_trout_in_a_clear_pond(situation(Fish::BrookTrout, 1.1, 8.0, Shy, (56.0, 18.0, Clear, Sun, 50.0)), &[RingBead], SPINNER_OR_WING, Group::Any, (0.4, 1.6))]
#[case::brook_trout_at_dusk(situation(Fish::BrookTrout, 1.2, 6.0, Active, (57.0, 12.0, Clear, Cloud, 0.0)), &[RingBead], SPINNER_OR_WING, Group::Dull, (0.5, 2.1))]
// Lake trout: silver, deep in summer, shallow in spring.
#[case::lake_trout_at_100_ft(situation(Fish::LakeTrout, 1.6, 100.0, Neutral, (46.0, 25.0, Clear, Sun, 55.0)), TROUT_AND_ATTRACTOR, SPINNER_OR_WING_OR_COLORADO, Group::Any, (0.9, 2.4))]
#[case::lake_trout_in_june(situation(Fish::LakeTrout, 1.5, 35.0, Neutral, (50.0, 22.0, Clear, Broken, 50.0)), TROUT_AND_ATTRACTOR, SPINNER_OR_WING_OR_COLORADO, Group::Any, (0.9, 2.4))]
#[case::lake_trout_in_autumn_shallows(situation(Fish::LakeTrout, 1.4, 12.0, Active, (48.0, 18.0, Clear, Cloud, 25.0)), TROUT_AND_ATTRACTOR, SPINNER_OR_WING_OR_COLORADO, Group::Any, (0.9, 2.4))]
// Landlocked sockeye: ring beads and squid behind the attractor; none for shy ones (CP-19).
#[case::sockeye_in_may_at_20_ft(situation(Fish::LandlockedSockeye, 1.2, 20.0, Neutral, (52.0, 14.0, Clear, Broken, 40.0)), SOCKEYE, ANY_SMALL, Group::Any, (0.8, 2.4))]
#[case::sockeye_in_green_water(situation(Fish::LandlockedSockeye, 1.4, 35.0, Neutral, (55.0, 8.0, Green, Cloud, 40.0)), SOCKEYE, ANY_SMALL, Group::Any, (0.8, 2.4))]
#[case::sockeye_shy_at_noon(situation(Fish::LandlockedSockeye, 1.1, 70.0, Shy, (54.0, 25.0, Clear, Sun, 60.0)), &[RingBead, LeaderSquid], ANY_SMALL, Group::Any, (0.5, 1.8))]
#[case::sockeye_active_at_dusk(situation(Fish::LandlockedSockeye, 1.5, 30.0, Active, (55.0, 18.0, Clear, Cloud, 1.0)), SOCKEYE, ANY_SMALL, Group::Any, (0.8, 2.6))]
#[case::shy_landlocked_chinook(situation(Fish::LandlockedChinook, 2.0, 55.0, Shy, (53.0, 22.0, Clear, Sun, 50.0)), &[SalmonWire, LeaderSquid, BaitSpinner], BEHIND_FLASHER, Group::Any, (1.0, 3.0))]
#[case::landlocked_chinook_at_dawn(situation(Fish::LandlockedChinook, 2.2, 30.0, Active, (54.0, 16.0, Clear, Cloud, -3.0)), SALMON, BEHIND_FLASHER, Group::Dull, (1.6, 3.2))]
// Salt at 40 ft: behind flashers (CP-18), or a wire spinner of its own.
#[case::coho_at_40_ft_in_rain(situation(Fish::Coho, 2.4, 40.0, Active, (53.0, 18.0, Clear, Rain, 30.0)), SALMON, BEHIND_FLASHER, Group::Any, (1.6, 3.2))]
#[case::coho_at_40_ft_in_sun(situation(Fish::Coho, 2.4, 40.0, Neutral, (56.0, 25.0, Clear, Sun, 50.0)), SALMON, BEHIND_FLASHER, Group::Any, (1.6, 3.2))]
#[case::coho_in_green_water(situation(Fish::Coho, 2.2, 25.0, Active, (54.0, 8.0, Green, Cloud, 30.0)), SALMON, BEHIND_FLASHER, Group::Any, (1.6, 3.2))]
#[case::chinook_at_40_ft_at_dawn(situation(Fish::Chinook, 2.2, 40.0, Active, (51.0, 16.0, Clear, Broken, 0.0)), SALMON, BEHIND_FLASHER, Group::Any, (1.6, 3.2))]
#[case::chinook_at_40_ft_in_green_water(situation(Fish::Chinook, 2.2, 40.0, Neutral, (52.0, 9.0, Green, Cloud, 30.0)), SALMON, BEHIND_FLASHER, Group::Any, (1.6, 3.2))]
#[case::chinook_at_120_ft(situation(Fish::Chinook, 2.3, 120.0, Neutral, (48.0, 22.0, Clear, Broken, 40.0)), SALMON, BEHIND_FLASHER, Group::Any, (1.6, 3.2))]
#[case::shy_coho(situation(Fish::Coho, 2.0, 30.0, Shy, (55.0, 25.0, Clear, Sun, 50.0)), &[SalmonWire, LeaderSquid, BaitSpinner], BEHIND_FLASHER, Group::Any, (1.0, 3.0))]
// Steelhead in the lake; smallmouth; perch.
#[case::steelhead_in_cold_clear_water(situation(Fish::Steelhead, 1.5, 8.0, Neutral, (44.0, 16.0, Clear, Cloud, 25.0)), TROUT, SPINNER_OR_WING, Group::Any, (0.8, 2.4))]
#[case::steelhead_at_dusk(situation(Fish::Steelhead, 1.8, 8.0, Active, (52.0, 14.0, Clear, Cloud, 0.0)), TROUT, SPINNER_OR_WING, Group::Dull, (0.9, 2.8))]
#[case::smallmouth_in_clear_sun(situation(Fish::SmallmouthBass, 1.8, 10.0, Active, (74.0, 18.0, Clear, Sun, 55.0)), INLINE, SPINNER, Group::Metal, (1.2, 2.8))]
#[case::smallmouth_in_stained_water(situation(Fish::SmallmouthBass, 1.6, 6.0, Neutral, (70.0, 5.0, Tea, Cloud, 40.0)), INLINE, SPINNER, Group::Any, (1.0, 2.8))]
#[case::shy_smallmouth(situation(Fish::SmallmouthBass, 0.8, 12.0, Shy, (62.0, 16.0, Clear, Sun, 50.0)), &[WingWorm], WING, Group::Any, (0.5, 1.1))]
#[case::perch_in_autumn(situation(Fish::YellowPerch, 0.7, 18.0, Neutral, (55.0, 9.0, Green, Cloud, 25.0)), &[WingWorm, RingBead], SPINNER_OR_WING, Group::Any, (0.4, 1.3))]
#[case::shy_perch_in_clear_water(situation(Fish::YellowPerch, 0.6, 15.0, Shy, (62.0, 18.0, Clear, Sun, 50.0)), &[WingWorm, RingBead], SPINNER_OR_WING, Group::Any, (0.3, 1.1))]
#[case::perch_in_warm_weeds(situation(Fish::YellowPerch, 0.8, 8.0, Active, (74.0, 7.0, Green, Broken, 45.0)), &[WingWorm, RingBead], SPINNER_OR_WING, Group::Any, (0.5, 1.5))]
// Rivers, cast: torpedo for runs to 6 ft at walking pace, bell for fast water under 6 ft (CP-21).
#[case::a_run_at_walking_pace(river(Fish::Steelhead, 1.3, 5.5, Neutral, (48.0, 6.0, Green, Cloud, 25.0)), &[InlineTorpedo], SPINNER, Group::Any, (2.0, 4.0))]
#[case::a_deep_slow_pool(river(Fish::Steelhead, 0.8, 9.0, Neutral, (46.0, 8.0, Clear, Cloud, 25.0)), &[InlineTorpedo, TailWeighted], SPINNER, Group::Any, (1.2, 2.5))]
#[case::a_fast_riffle(river(Fish::Steelhead, 2.0, 3.5, Active, (52.0, 6.0, Green, Broken, 35.0)), &[InlineBell], SPINNER, Group::Any, (3.0, 6.0))]
#[case::fast_and_thin_for_trout(river(Fish::RainbowTrout, 2.1, 3.0, Neutral, (54.0, 8.0, Clear, Sun, 45.0)), &[InlineBell], SPINNER, Group::Metal, (3.0, 6.0))]
#[case::a_run_for_smallmouth(river(Fish::SmallmouthBass, 1.2, 5.0, Active, (68.0, 5.0, Green, Sun, 45.0)), &[InlineTorpedo], SPINNER, Group::Any, (2.0, 4.0))]
#[case::high_dirty_river(river(Fish::Steelhead, 1.4, 6.0, Neutral, (47.0, 1.2, Muddy, Rain, 20.0)), &[InlineTorpedo, TailWeighted], SPINNER, Group::Metal, (2.0, 4.5))]
#[case::a_coho_run_at_dawn(Day { salt: false, ..river(Fish::Coho, 1.3, 6.0, Active, (50.0, 8.0, Clear, Cloud, -2.0)) }, &[InlineTorpedo, TailWeighted], SPINNER, Group::DullOrLoud, (2.0, 4.0))]
#[case::a_trout_stream_at_dusk(river(Fish::BrownTrout, 1.2, 5.0, Neutral, (57.0, 8.0, Clear, Cloud, 0.0)), &[InlineTorpedo], SPINNER, Group::Dull, (2.0, 4.0))]
fn practice_would_tie_on_the_first_call(
    #[case] day: Day,
    #[case] kinds: &[Kind],
    #[case] families: &[Family],
    #[case] finish: Group,
    #[case] speeds: (f64, f64),
) {
    first_call_is(&day, kinds, families, finish, speeds);
}
