//! Sun, moon, daylight, water, eyes and sightings against results of independent libraries.
//!
//! Every file's first line names how it was made and its tolerances; see `tests/data/README.md`.

use jiff::Timestamp;
use motilis_core::light::{
    BANDS, Daylight, Eye, Finish, Optics, Picture, Scene, Sky, Stain, Target, View, Viewer, Watch,
    claims, luminous, rank, wavelength,
};
use motilis_core::sky::{Illuminance, Place, moon, sun};
use proptest::prelude::*;
use rstest::rstest;
use std::collections::HashMap;

macro_rules! data {
    ($name:literal) => {
        rows(include_str!(concat!("../data/light/", $name)))
    };
}

/// A row of a reference file by its column names.
struct Row(HashMap<&'static str, &'static str>);

impl Row {
    fn text(&self, column: &str) -> &'static str {
        self.0
            .get(column)
            .unwrap_or_else(|| panic!("no column {column}"))
    }

    fn figure(&self, column: &str) -> f64 {
        let text = self.text(column);
        text.parse()
            .unwrap_or_else(|_| panic!("{column} is {text:?}"))
    }

    fn time(&self) -> Timestamp {
        self.text("utc").parse().unwrap()
    }

    fn place(&self) -> Place {
        Place::new(self.figure("lat"), self.figure("lon")).unwrap()
    }

    fn sky(&self) -> Sky {
        Sky {
            sun_alt: self.figure("sun_alt"),
            moon_alt: self.figure("moon_alt"),
            moon_phase: self.figure("moon_phase"),
            cloud: self.figure("cloud"),
            wind: self.figure("wind"),
        }
    }

    fn optics(&self) -> Optics {
        let stain = Stain::from_key(self.text("cls")).unwrap();
        Optics::from_secchi(stain, self.figure("zsd"), self.text("salt") == "True").unwrap()
    }

    fn watch(&self) -> Watch {
        let daylight = Daylight::under(&self.sky()).unwrap();
        let view = View::from_key(self.text("view")).unwrap();
        let scene = Scene::new(&daylight, &self.optics(), self.figure("depth"), view).unwrap();
        Watch::new(
            scene,
            Eye::of(Viewer::from_key(self.text("species")).unwrap()),
        )
    }

    fn finish(&self) -> Finish {
        Finish::from_name(self.text("finish")).unwrap()
    }

    fn target(&self) -> Target {
        Target {
            area: self.figure("area"),
            flashes: self.figure("hz"),
            glow_min: self.figure("glow_min"),
        }
    }
}

fn rows(file: &'static str) -> Vec<Row> {
    let mut reader = csv::ReaderBuilder::new();
    let mut reader = reader.comment(Some(b'#')).from_reader(file.as_bytes());
    let leak = |text: &str| -> &'static str { text.to_owned().leak() };
    let columns: Vec<&'static str> = reader.headers().unwrap().iter().map(leak).collect();
    reader
        .records()
        .map(|record| {
            let record = record.unwrap();
            Row(columns
                .iter()
                .copied()
                .zip(record.iter().map(leak))
                .collect())
        })
        .collect()
}

#[track_caller]
fn near(what: impl std::fmt::Display, ours: f64, expected: f64, relative: f64, absolute: f64) {
    let off = (ours - expected).abs();
    assert!(
        off <= relative * expected.abs() || off <= absolute,
        "{what}: {ours} not {expected}"
    );
}

#[test]
fn the_sun_stands_where_spa_puts_it() {
    let cases = data!("expected_sun.csv");
    assert_eq!(cases.len(), 60);
    for row in cases {
        let sun = sun(row.place(), row.time()).unwrap();
        let at = row.text("utc");
        near(at, sun.altitude, row.figure("alt_true"), 0.0, 1e-3);
        near(at, sun.apparent, row.figure("alt_apparent"), 0.0, 2e-3);
        let turn = (sun.azimuth - row.figure("az") + 180.0).rem_euclid(360.0) - 180.0;
        let allowed = 1e-3 / sun.altitude.to_radians().cos();
        assert!(turn.abs() < allowed, "{at}: azimuth off by {turn}");
    }
}

#[test]
fn the_worked_example_of_the_spa_paper() {
    // Reda & Andreas (2004), table A5.1: 17 October 2003, 12:30:30 at UTC−7, 39.742_476° N, 105.1786° W;
    // zenith 50.11162°, azimuth 194.34024°, at 1 830.14 m, 820 mbar, 11 °C. Ours stands at sea level under
    // 1 013 mbar: the topocentric elevation without refraction is 39.872046°.
    let place = Place::new(39.742_476, -105.1786).unwrap();
    let sun = sun(place, "2003-10-17T19:30:30Z".parse().unwrap()).unwrap();
    near("altitude", sun.altitude, 39.872_046, 0.0, 2e-4);
    near("azimuth", sun.azimuth, 194.34024, 0.0, 2e-4);
}

#[test]
fn the_moon_stands_where_its_series_puts_it() {
    let cases = data!("expected_moon.csv");
    assert_eq!(cases.len(), 32);
    for row in cases {
        let moon = moon(row.place(), row.time());
        let at = row.text("utc");
        near(at, moon.altitude, row.figure("alt"), 0.0, 0.01);
        near(at, moon.phase, row.figure("phase_angle"), 0.0, 0.01);
        near(at, moon.parallax, row.figure("parallax"), 0.0, 1e-4);
        let turn = (moon.azimuth - row.figure("az") + 180.0).rem_euclid(360.0) - 180.0;
        assert!(
            turn.abs() < 0.01 / moon.altitude.to_radians().cos(),
            "{at}: azimuth off by {turn}"
        );
        let lux = Illuminance::at(-90.0, moon.altitude, moon.phase, 0.0).moon * moon.nearness();
        near(at, lux, row.figure("lux"), 0.01, 1e-9);
    }
}

#[test]
fn light_on_the_surface() {
    for row in data!("expected_illuminance.csv") {
        let alt = row.figure("alt");
        near(
            alt,
            Illuminance::at(alt, -90.0, 0.0, 0.0).sun,
            row.figure("sun_lux"),
            1e-6,
            0.0,
        );
        for (phase, column) in [(0.0, "moon_full"), (60.0, "moon_60"), (120.0, "moon_120")] {
            let moon = Illuminance::at(-90.0, alt, phase, 0.0).moon;
            near(alt, moon, row.figure(column), 1e-6, 0.0);
        }
    }
}

#[test]
fn light_below_the_surface() {
    for row in data!("expected_sky.csv") {
        let daylight = Daylight::under(&row.sky()).unwrap();
        let check = |column: &str, ours: f64| near(column, ours, row.figure(column), 1e-5, 1e-9);
        check("cloud_factor", daylight.illuminance.cloud_factor);
        check("lux", daylight.illuminance.total());
        check("cct", daylight.colour_temperature);
        check("direct_fraction", daylight.direct);
        check("transmission", daylight.transmission);
        check("theta_eff", daylight.slant);
        for band in [0, 9, 19, 29, 34] {
            let column = format!("e0_{}", wavelength(band));
            let ours = daylight.below[band];
            near(&column, ours, row.figure(&column), 1e-5, 0.0);
        }
        let through = daylight.transmission * daylight.illuminance.total();
        near(
            "lux of the spectrum",
            luminous(&daylight.below),
            through,
            1e-9,
            0.0,
        );
    }
}

fn optics(row: &Row) -> Optics {
    let stain = Stain::from_key(row.text("cls")).unwrap();
    Optics::from_secchi(stain, row.figure("secchi"), row.text("salt") == "1").unwrap()
}

#[test]
fn water_by_the_band() {
    for row in data!("expected_water.csv") {
        let water = optics(&row);
        let band = ((row.figure("nm") - 360.0) / 10.0).round() as usize;
        for (column, ours) in [
            ("a", water.absorption[band]),
            ("b", water.scattering[band]),
            ("c", water.beam()[band]),
            ("bb", water.back[band]),
            ("kd_theta30", water.diffuse(30.0)[band]),
            ("kd_theta45", water.diffuse(45.0)[band]),
        ] {
            let what = format!("{} {} m {column}", row.text("cls"), row.text("secchi"));
            near(what, ours, row.figure(column), 1e-4, 0.0);
        }
    }
}

#[test]
fn water_at_a_glance() {
    for row in data!("expected_water_summary.csv") {
        let water = optics(&row);
        let what = format!("{} {} m", row.text("cls"), row.text("secchi"));
        near(&what, water.load, row.figure("load_a"), 1e-4, 0.0);
        near(&what, water.secchi(), row.figure("secchi_back"), 1e-4, 0.0);
        near(&what, water.beam()[19], row.figure("c550"), 1e-4, 0.0);
        near(&what, water.back[19], row.figure("bb550"), 1e-4, 0.0);
        near(&what, water.turbidity()[19], row.figure("u550"), 1e-4, 0.0);
    }
}

#[test]
fn what_cones_and_rods_take_up() {
    let cases = data!("receptor_sensitivity.csv");
    assert_eq!(cases.len(), BANDS);
    for &viewer in Viewer::ALL {
        for receptor in Eye::of(viewer).receptors {
            let column = format!("{}.{}", viewer.key(), receptor.name);
            for (row, ours) in cases.iter().zip(receptor.sensitivity) {
                near(&column, ours, row.figure(&column), 1e-6, 1e-9);
            }
        }
    }
}

#[rstest]
#[case(Viewer::Walleye, "L", 605.0)]
#[case(Viewer::RainbowAdult, "M", 531.0)]
#[case(Viewer::Chinook, "L", 570.0)]
#[case(Viewer::BrownTrout, "M", 535.0)]
fn a_pigment_peaks_where_it_was_measured(
    #[case] viewer: Viewer,
    #[case] name: &str,
    #[case] peak: f64,
) {
    let eye = Eye::of(viewer);
    let receptor = eye
        .receptors
        .iter()
        .find(|receptor| receptor.name == name)
        .unwrap();
    let best = (0..BANDS)
        .max_by(|&a, &b| receptor.sensitivity[a].total_cmp(&receptor.sensitivity[b]))
        .unwrap();
    assert!(
        (wavelength(best) - peak).abs() <= 10.0,
        "{}",
        wavelength(best)
    );
}

#[test]
fn sixty_sightings() {
    let cases = data!("expected_vision.csv");
    assert_eq!(cases.len(), 60);
    for row in cases {
        let id = row.text("id");
        let watch = row.watch();
        let scene = watch.scene();
        let daylight = Daylight::under(&row.sky()).unwrap();
        let check = |column: &str, ours, relative, absolute| {
            near(
                format!("{id} {column}"),
                ours,
                row.figure(column),
                relative,
                absolute,
            );
        };
        check("lux_surface", daylight.illuminance.total(), 1e-4, 0.0);
        check("lux_depth", luminous(&scene.irradiance), 1e-4, 0.0);
        check("theta_eff", daylight.slant, 1e-4, 0.0);
        check("load_a", row.optics().load, 1e-4, 0.0);
        for (column, band) in [("ed450", 9), ("ed550", 19), ("ed650", 29)] {
            check(column, scene.irradiance[band], 1e-4, 0.0);
        }
        check("bg550", scene.background[19], 1e-4, 0.0);
        let glow_min = row.target().glow_min;
        let seen = row.finish().seen_in(scene, glow_min);
        for (phase, column) in ["lure_mean550", "lure_bright550", "lure_dark550"]
            .iter()
            .enumerate()
        {
            check(column, seen[phase][19], 1e-4, 0.0);
        }
        let picture = Picture::of(&row.finish(), scene, glow_min);
        for (i, column) in ["r", "g", "b"].iter().enumerate() {
            check(column, picture.finish[i], 0.0, 5e-4);
            check(&format!("bg_{column}"), picture.behind[i], 0.0, 5e-4);
        }
        assert_eq!(Picture::hex(picture.finish), row.text("hex"), "{id}");
        let sighting = watch.sighting(&row.finish(), &row.target()).unwrap();
        check("sight_m", sighting.range, 2e-3, 0.002);
        check("dS", sighting.colour, 2e-3, 0.002);
        check("score", sighting.score(), 3e-3, 0.003);
        assert_eq!(sighting.receptor, row.text("best_receptor"), "{id}");
    }
}

#[test]
fn what_each_receptor_catches() {
    let sightings = data!("expected_vision.csv");
    for expected in data!("expected_receptors.csv") {
        let id = expected.text("id");
        let row = sightings.iter().find(|row| row.text("id") == id).unwrap();
        let catches = row.watch().catches(&row.finish(), &row.target());
        let name = expected.text("receptor");
        let catch = catches.iter().find(|catch| catch.receptor == name).unwrap();
        let check = |column: &str, ours, relative, absolute| {
            let what = format!("{id} {name} {column}");
            near(what, ours, expected.figure(column), relative, absolute);
        };
        check("q_background", catch.behind, 1e-4, 0.0);
        for (i, phase) in ["mean", "bright", "dark"].iter().enumerate() {
            check(&format!("q_{phase}"), catch.seen[i], 1e-4, 0.0);
            check(&format!("c_{phase}"), catch.contrast()[i], 1e-3, 1e-4);
        }
        check("threshold_at_1m", catch.threshold, 1e-3, 0.0);
    }
}

#[test]
fn six_rankings_of_all_finishes() {
    let cases = data!("expected_ranking.csv");
    for rows in cases.chunk_by(|a, b| a.text("condition") == b.text("condition")) {
        let condition = rows[0].text("condition");
        let ranked = rank(&rows[0].watch(), &rows[0].target()).unwrap();
        assert_eq!(ranked.len(), rows.len(), "{condition}");
        for row in rows {
            let name = row.text("finish");
            let place = ranked
                .iter()
                .position(|(finish, ..)| *finish == name)
                .unwrap();
            let (_, sighting, index) = &ranked[place];
            let what = format!("{condition} {name}");
            near(&what, sighting.range, row.figure("sight_m"), 2e-3, 0.002);
            near(&what, sighting.colour, row.figure("dS"), 2e-3, 0.002);
            near(&what, *index, row.figure("noticeability"), 6e-3, 0.01);
            // Ranks may swap where scores differ by less than 0.5 %.
            let (there, here) = (&rows[place], row.figure("score"));
            assert!(
                there.text("finish") == name || (there.figure("score") - here).abs() <= 5e-3 * here,
                "{what}: on rank {}",
                place + 1
            );
        }
    }
}

#[test]
fn from_time_and_place_to_how_far_it_is_seen() {
    let cases = data!("expected_end_to_end.csv");
    assert_eq!(cases.len(), 12);
    for row in cases {
        let id = row.text("id");
        let sun = sun(row.place(), row.time()).unwrap();
        let moon = moon(row.place(), row.time());
        near(id, sun.altitude, row.figure("sun_alt"), 0.0, 0.02);
        near(id, moon.altitude, row.figure("moon_alt"), 0.0, 0.01);
        near(id, moon.phase, row.figure("moon_phase"), 0.0, 0.01);
        let sky = Sky {
            sun_alt: sun.altitude,
            moon_alt: moon.altitude,
            moon_phase: moon.phase,
            cloud: row.figure("cloud"),
            wind: row.figure("wind"),
        };
        let daylight = Daylight::under(&sky).unwrap();
        near(
            id,
            daylight.illuminance.total(),
            row.figure("lux"),
            0.03,
            0.0,
        );
        let stain = Stain::from_key(row.text("cls")).unwrap();
        let optics = Optics::from_secchi(stain, row.figure("secchi"), false).unwrap();
        let scene = Scene::new(&daylight, &optics, row.figure("depth"), View::Level).unwrap();
        near(
            id,
            luminous(&scene.irradiance),
            row.figure("lux_depth"),
            0.03,
            0.0,
        );
        let watch = Watch::new(
            scene,
            Eye::of(Viewer::from_key(row.text("species")).unwrap()),
        );
        let target = Target {
            area: row.figure("area_m2"),
            flashes: row.figure("hz"),
            glow_min: row.figure("glow_min"),
        };
        let sighting = watch.sighting(&row.finish(), &target).unwrap();
        near(id, sighting.range, row.figure("sight_m"), 0.03, 0.03);
    }
}

#[rstest]
#[case(Stain::Clear, 6.0, 5.13)]
#[case(Stain::Clear, 15.0, 17.1)]
#[case(Stain::Green, 2.0, 1.49)]
#[case(Stain::Muddy, 0.5, 0.35)]
fn a_great_black_target_is_lost_at_duntleys_range(
    #[case] stain: Stain,
    #[case] secchi: f64,
    #[case] expected: f64,
) {
    // 4.8/c for a human eye on the level: Zaneveld & Pegau (2003), Opt. Express 11:2997.
    let diver = (
        50.0,
        stain,
        secchi,
        secchi / 3.0,
        View::Level,
        Viewer::HumanDiver,
    );
    let target = Target {
        area: 1.0,
        flashes: 0.0,
        glow_min: 0.0,
    };
    let black = Finish::from_name("black").unwrap();
    near(
        "range",
        watch(diver).sighting(&black, &target).unwrap().range,
        expected,
        0.12,
        0.0,
    );
}

#[rstest]
#[case(Stain::Clear, 1.0)]
#[case(Stain::Clear, f64::NAN)]
#[case(Stain::Muddy, 0.0)]
#[case(Stain::Tea, 9.0)]
fn a_secchi_depth_such_water_does_not_have_is_refused(#[case] stain: Stain, #[case] secchi: f64) {
    let refused = Optics::from_secchi(stain, secchi, false).unwrap_err();
    assert_eq!(refused.quantity(), "zsd");
    assert!(refused.to_string().contains("between"), "{refused}");
}

proptest! {
    /// What was read off the disk comes back from the water it gives.
    #[test]
    fn a_secchi_depth_comes_back(which in 0..4_usize, share in 0.0..1.0_f64, salt: bool) {
        let stain = Stain::ALL[which];
        let range = stain.secchi_range();
        let secchi = range.least + share * (range.most - range.least);
        let water = Optics::from_secchi(stain, secchi, salt).unwrap();
        prop_assert!((water.secchi() / secchi - 1.0).abs() < 1e-6);
    }

    /// Beer and Lambert: two halves of a depth dim the light as the whole does.
    #[test]
    fn light_falls_off_evenly(depth in 0.1..40.0_f64, sun_alt in -10.0..80.0_f64) {
        let sky = Sky { sun_alt, moon_alt: -30.0, moon_phase: 90.0, cloud: 0.3, wind: 3.0 };
        let daylight = Daylight::under(&sky).unwrap();
        let optics = Optics::from_secchi(Stain::Clear, 8.0, false).unwrap();
        let at = |depth| Scene::new(&daylight, &optics, depth, View::Level).unwrap().irradiance;
        let (top, half, whole) = (at(0.0), at(depth / 2.0), at(depth));
        for band in 0..BANDS {
            prop_assert!((half[band].powi(2) / (top[band] * whole[band]) - 1.0).abs() < 1e-9);
        }
    }
}

/// Sun, water, Secchi depth, depth, view and eye.
type Situation = (f64, Stain, f64, f64, View, Viewer);

fn watch((sun_alt, stain, secchi, depth, view, viewer): Situation) -> Watch {
    let sky = Sky {
        sun_alt,
        moon_alt: -30.0,
        moon_phase: 90.0,
        cloud: 0.0,
        wind: 3.0,
    };
    let daylight = Daylight::under(&sky).unwrap();
    let optics = Optics::from_secchi(stain, secchi, false).unwrap();
    let scene = Scene::new(&daylight, &optics, depth, view).unwrap();
    Watch::new(scene, Eye::of(viewer))
}

#[test]
fn lore_beside_physics() {
    let table = data!("lore_and_physics.csv");
    assert_eq!(table.len(), 16);
    assert_eq!(claims().len(), 16);
    for (row, claim) in table.iter().zip(claims()) {
        let id = row.text("id");
        assert_eq!(id, claim.id);
        near(id, claim.claimed, row.figure("a"), 4e-3, 6e-4);
        near(id, claim.other, row.figure("b"), 4e-3, 6e-4);
        assert_eq!(
            claim.verdict().key().replace('_', " "),
            row.text("verdict"),
            "{id}"
        );
        assert_eq!(claim.unit == "m", row.text("unit") == "m", "{id}");
    }
}
