//! `solve light`: how far a fish sees a finish in a water, and what it looks like there.

use crate::sun::overhead;
use crate::{Refusal, Refused};
use motilis_core::light::{
    Daylight, Eye, Finish, Optics, Picture, Scene, Sky, Stain, Target, View, Viewer, Watch,
    luminous, rank,
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One sighting: sky, water, eye and lure. The sky is given by the three angles, or by `utc`, `lat` and
/// `lon`.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = LightRequest, example = json!({
    "utc": "2026-06-04T10:12:00Z", "lat": 50.42, "lon": -95.61, "cloud": 0.25, "wind": 3,
    "cls": "green", "zsd": 1.8, "salt": false, "depth": 3, "view": "level", "species": "walleye",
    "finish": "copper_hammered", "area": 0.0006, "hz": 12, "glow_min": 10
}))]
pub struct Request {
    /// Comes back with the answer.
    pub name: Option<String>,
    /// True altitude of the sun, degrees.
    pub sun_alt: Option<f64>,
    /// True altitude of the moon, degrees.
    pub moon_alt: Option<f64>,
    /// Phase angle of the moon, degrees, 0 full, 180 new.
    pub moon_phase: Option<f64>,
    /// Instant, RFC 3339, in place of the angles.
    pub utc: Option<String>,
    /// Latitude, degrees, north positive.
    pub lat: Option<f64>,
    /// Longitude, degrees, east positive.
    pub lon: Option<f64>,
    /// Share of the sky under cloud, 0 to 1.
    pub cloud: f64,
    /// Wind, m/s: 0 calm, 3 ripple, 6 chop, 10 rough.
    pub wind: f64,
    /// What colours the water: `clear` (Secchi 1.5 to 30 m), `green`, `tea` (0.3 to 6), `muddy` (0.05 to 2).
    pub cls: String,
    /// Secchi depth, m.
    pub zsd: f64,
    /// Whether it is salt water.
    pub salt: bool,
    /// Depth of the lure, m.
    pub depth: f64,
    /// Where the fish looks: `level`, `up` or `down`.
    pub view: String,
    /// `walleye`, `rainbow_adult`, `rainbow_juvenile`, `brown_trout`, `lake_trout`, `chinook`, `coho` or
    /// `human_diver`.
    pub species: String,
    /// Name of a finish (`copper_hammered`), or `*` to rank them all.
    pub finish: String,
    /// Area the lure shows, m²: of a turning blade half of length times width.
    pub area: f64,
    /// Flashes a second; 0 slow enough to see every phase.
    pub hz: f64,
    /// Minutes since glow paint was charged.
    pub glow_min: f64,
    /// Whether to tell what each receptor catches.
    #[serde(default)]
    pub receptors: bool,
}

/// The light, and what is seen in it.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = LightAnswer)]
pub struct Answer {
    /// The request's name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// True altitude of the sun, degrees.
    pub sun_alt: f64,
    /// True altitude of the moon, degrees.
    pub moon_alt: f64,
    /// Phase angle of the moon, degrees.
    pub moon_phase: f64,
    /// Light on the surface, lux.
    pub lux_surface: f64,
    /// Light at the depth, lux.
    pub lux_depth: f64,
    /// Angle from the vertical, in air, at which the light comes in on the whole, degrees.
    pub theta_eff: f64,
    /// Load of the stain in the water.
    pub load_a: f64,
    /// Irradiance at the depth at 450 nm, W m⁻² nm⁻¹.
    pub ed450: f64,
    /// The same at 550 nm.
    pub ed550: f64,
    /// The same at 650 nm.
    pub ed650: f64,
    /// Radiance of the water behind the lure at 550 nm, W m⁻² sr⁻¹ nm⁻¹.
    pub bg550: f64,
    /// What was asked of one finish.
    #[serde(flatten, skip_serializing_if = "Option::is_none")]
    pub seen: Option<Seen>,
    /// All finishes, best first, when `*` was asked for.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub ranking: Option<Vec<Ranked>>,
}

/// One finish as it is seen.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[allow(
    non_snake_case,
    reason = "dS is the name of the colour distance in the files"
)]
pub struct Seen {
    /// Radiance of the turning finish at 550 nm on the whole, W m⁻² sr⁻¹ nm⁻¹.
    pub lure_mean550: f64,
    /// The same at its brightest.
    pub lure_bright550: f64,
    /// The same at its darkest.
    pub lure_dark550: f64,
    /// Picture of the finish, sRGB 0 to 1.
    pub r: f64,
    /// Green.
    pub g: f64,
    /// Blue.
    pub b: f64,
    /// The same as `#rrggbb`.
    pub hex: String,
    /// Picture of the water behind it.
    pub bg_r: f64,
    /// Green.
    pub bg_g: f64,
    /// Blue.
    pub bg_b: f64,
    /// The same as `#rrggbb`.
    pub bg_hex: String,
    /// How far it is seen, m; good to perhaps a third.
    pub sight_m: f64,
    /// The receptor that sees it farthest.
    pub best_receptor: &'static str,
    /// Colour distance from the water at half that range, in just noticeable steps.
    pub dS: f64,
    /// `sight_m`, up to a quarter more for colour, m.
    pub score: f64,
    /// What each receptor catches, when asked for.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub receptors: Option<Vec<Caught>>,
}

/// Catches of a receptor at no range, photons m⁻² s⁻¹ sr⁻¹; contrasts are null where no light is left.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Caught {
    /// `UV`, `S`, `M`, `L`, `V` or `rod`.
    pub receptor: &'static str,
    /// Of the water behind.
    pub q_background: f64,
    /// Of the finish on the whole.
    pub q_mean: f64,
    /// At its brightest.
    pub q_bright: f64,
    /// At its darkest.
    pub q_dark: f64,
    /// Contrast on the whole.
    pub c_mean: Option<f64>,
    /// At its brightest.
    pub c_bright: Option<f64>,
    /// At its darkest.
    pub c_dark: Option<f64>,
    /// Least contrast seen at one metre.
    pub threshold_at_1m: Option<f64>,
}

/// A finish in the ranking.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[allow(
    non_snake_case,
    reason = "dS is the name of the colour distance in the files"
)]
pub struct Ranked {
    /// 1 for the best.
    pub rank: usize,
    /// Its name.
    pub finish: &'static str,
    /// How far it is seen, m.
    pub sight_m: f64,
    /// The receptor that sees it farthest.
    pub best_receptor: &'static str,
    /// Colour distance.
    pub dS: f64,
    /// `sight_m`, up to a quarter more for colour.
    pub score: f64,
    /// Score out of 100 of the best.
    pub noticeability: f64,
}

/// One of the known names, or a refusal that tells them.
fn known<T: Copy>(
    field: &str,
    given: &str,
    all: &[T],
    key: fn(T) -> &'static str,
) -> Result<T, Refusal> {
    all.iter()
        .copied()
        .find(|&one| key(one) == given)
        .ok_or_else(|| {
            let known: Vec<&str> = all.iter().map(|&one| key(one)).collect();
            Refusal::new(
                field,
                format!("{field} {given:?} is not one of {}", known.join(", ")),
            )
        })
}

fn sky(request: &Request) -> Result<Sky, Refusal> {
    let (sun_alt, moon_alt, moon_phase) = match request {
        Request {
            sun_alt: Some(sun_alt),
            moon_alt: Some(moon_alt),
            moon_phase: Some(moon_phase),
            utc: None,
            lat: None,
            lon: None,
            ..
        } => (*sun_alt, *moon_alt, *moon_phase),
        Request {
            sun_alt: None,
            moon_alt: None,
            moon_phase: None,
            utc: Some(utc),
            lat: Some(lat),
            lon: Some(lon),
            ..
        } => {
            let (sun, moon) = overhead(utc, *lat, *lon)?;
            (sun.altitude, moon.altitude, moon.phase)
        }
        _ => {
            let message = "the sky is given by sun_alt, moon_alt and moon_phase, or by utc, lat and lon, \
                           all three of the one and none of the other";
            return Err(Refusal::new("sun_alt", message));
        }
    };
    Ok(Sky {
        sun_alt,
        moon_alt,
        moon_phase,
        cloud: request.cloud,
        wind: request.wind,
    })
}

/// Answers one request.
///
/// # Errors
/// [`Refusal`] with the field.
#[utoipa::path(post, path = "/api/v1/solve/light", tag = "solve", request_body = Request, responses(
    (status = 200, description = "The light and what is seen in it", body = Answer),
    (status = 422, description = "The field that is wrong, and why", body = Refused),
))]
pub fn solve(request: Request) -> Result<Answer, Refusal> {
    let sky = sky(&request)?;
    let daylight = Daylight::under(&sky)?;
    let stain = known("cls", &request.cls, Stain::ALL, Stain::key)?;
    let optics = Optics::from_secchi(stain, request.zsd, request.salt)?;
    let view = known("view", &request.view, View::ALL, View::key)?;
    let viewer = known("species", &request.species, Viewer::ALL, Viewer::key)?;
    let scene = Scene::new(&daylight, &optics, request.depth, view)?;
    let watch = Watch::new(scene, Eye::of(viewer));
    let target = Target {
        area: request.area,
        flashes: request.hz,
        glow_min: request.glow_min,
    };
    let (seen, ranking) = if request.finish == "*" {
        (None, Some(ranking(&watch, &target)?))
    } else {
        let names: Vec<&str> = Finish::names().collect();
        let name = known("finish", &request.finish, &names, |name| name)?;
        let finish = Finish::from_name(name).expect("a listed name has its parts");
        (
            Some(seen(&watch, &finish, &target, request.receptors)?),
            None,
        )
    };
    let scene = watch.scene();
    let at = |nm: usize| (nm - 360) / 10;
    Ok(Answer {
        name: request.name,
        sun_alt: sky.sun_alt,
        moon_alt: sky.moon_alt,
        moon_phase: sky.moon_phase,
        lux_surface: daylight.illuminance.total(),
        lux_depth: luminous(&scene.irradiance),
        theta_eff: daylight.slant,
        load_a: optics.load,
        ed450: scene.irradiance[at(450)],
        ed550: scene.irradiance[at(550)],
        ed650: scene.irradiance[at(650)],
        bg550: scene.background[at(550)],
        seen,
        ranking,
    })
}

fn seen(watch: &Watch, finish: &Finish, target: &Target, receptors: bool) -> Result<Seen, Refusal> {
    const BAND_550: usize = 19;
    let sighting = watch.sighting(finish, target)?;
    let [mean, bright, dark] = finish
        .seen_in(watch.scene(), target.glow_min)
        .map(|phase| phase[BAND_550]);
    let picture = Picture::of(finish, watch.scene(), target.glow_min);
    let [r, g, b] = picture.finish;
    let [bg_r, bg_g, bg_b] = picture.behind;
    Ok(Seen {
        lure_mean550: mean,
        lure_bright550: bright,
        lure_dark550: dark,
        r,
        g,
        b,
        hex: Picture::hex(picture.finish),
        bg_r,
        bg_g,
        bg_b,
        bg_hex: Picture::hex(picture.behind),
        sight_m: sighting.range,
        best_receptor: sighting.receptor,
        dS: sighting.colour,
        score: sighting.score(),
        receptors: receptors.then(|| caught(watch, finish, target)),
    })
}

fn caught(watch: &Watch, finish: &Finish, target: &Target) -> Vec<Caught> {
    let finite = |figure: f64| figure.is_finite().then_some(figure);
    watch
        .catches(finish, target)
        .iter()
        .map(|catch| {
            let [q_mean, q_bright, q_dark] = catch.seen;
            let [c_mean, c_bright, c_dark] = catch.contrast().map(finite);
            Caught {
                receptor: catch.receptor,
                q_background: catch.behind,
                q_mean,
                q_bright,
                q_dark,
                c_mean,
                c_bright,
                c_dark,
                threshold_at_1m: finite(catch.threshold),
            }
        })
        .collect()
}

fn ranking(watch: &Watch, target: &Target) -> Result<Vec<Ranked>, Refusal> {
    let ranked = rank(watch, target)?;
    Ok(ranked
        .into_iter()
        .zip(1..)
        .map(|((finish, sighting, noticeability), rank)| Ranked {
            rank,
            finish,
            sight_m: sighting.range,
            best_receptor: sighting.receptor,
            dS: sighting.colour,
            score: sighting.score(),
            noticeability,
        })
        .collect())
}
