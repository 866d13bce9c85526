//! `solve sun`: where sun and moon stand, and how bright a clear sky makes the surface.

use crate::{Refusal, Refused};
use jiff::Timestamp;
use motilis_core::sky::{Illuminance, Moon, Place, Sun, moon, sun};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A place and an instant.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = SunRequest, example = json!({"utc": "2026-06-04T10:12:00Z", "lat": 50.42, "lon": -95.61}))]
pub struct Request {
    /// Comes back with the answer.
    pub name: Option<String>,
    /// Instant, RFC 3339.
    pub utc: String,
    /// Latitude, degrees, north positive.
    pub lat: f64,
    /// Longitude, degrees, east positive.
    pub lon: f64,
}

/// Where sun and moon stand; altitudes are topocentric, azimuths from north through east.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = SunAnswer)]
pub struct Answer {
    /// The request's name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// True altitude of the sun, without refraction.
    pub alt_true_deg: f64,
    /// Azimuth of the sun.
    pub az_deg: f64,
    /// Altitude as it is seen, lifted by refraction at 1013.25 hPa and 12 °C.
    pub alt_apparent_deg: f64,
    /// Altitude of the moon, good to about 0.2°.
    pub moon_alt_deg: f64,
    /// Azimuth of the moon.
    pub moon_az_deg: f64,
    /// Phase angle of the moon, 0 full, 180 new.
    pub moon_phase_deg: f64,
    /// Light of sun, moon and night sky on the surface without cloud, lux.
    pub lux_clear: f64,
}

/// An instant given in words.
pub(crate) fn instant(utc: &str) -> Result<Timestamp, Refusal> {
    utc.parse().map_err(|_| {
        Refusal::new(
            "utc",
            format!("utc {utc:?} is not a time like 2026-06-04T10:12:00Z"),
        )
    })
}

/// Sun and moon over a place at an instant given in words.
pub(crate) fn overhead(utc: &str, lat: f64, lon: f64) -> Result<(Sun, Moon), Refusal> {
    let at = instant(utc)?;
    let place = Place::new(lat, lon)?;
    Ok((sun(place, at)?, moon(place, at)))
}

/// Answers one request.
///
/// # Errors
/// [`Refusal`] with the field.
#[utoipa::path(post, path = "/api/v1/solve/sun", tag = "solve", request_body = Request, responses(
    (status = 200, description = "Where sun and moon stand", body = Answer),
    (status = 422, description = "The field that is wrong, and why", body = Refused),
))]
pub fn solve(request: Request) -> Result<Answer, Refusal> {
    let (sun, moon) = overhead(&request.utc, request.lat, request.lon)?;
    let light = Illuminance::at(sun.altitude, moon.altitude, moon.phase, 0.0);
    Ok(Answer {
        name: request.name,
        alt_true_deg: sun.altitude,
        az_deg: sun.azimuth,
        alt_apparent_deg: sun.apparent,
        moon_alt_deg: moon.altitude,
        moon_az_deg: moon.azimuth,
        moon_phase_deg: moon.phase,
        lux_clear: light.sun + light.moon * moon.nearness(),
    })
}
