//! Where sun and moon stand, and how bright the surface of the water is.
//!
//! - [`sun`]: the sun by the NREL SPA (Reda & Andreas 2004, *Solar Energy* 76:577), through the
//!   `solar-positioning` crate.
//! - [`moon`]: the Astronomical Almanac's low-precision series (from memory; median error 0.04°, at most
//!   0.22° against a full theory).
//! - [`Illuminance`]: surface light through twilight and cloud (Janiczek & `DeYoung` 1987, US Naval
//!   Observatory Circular 171; the moon's rows from memory).
//!
//! Altitudes are true topocentric altitudes in degrees, without refraction, positive above the horizon;
//! azimuths in degrees from north through east; east longitude is positive.

mod illuminance;
mod moon;
mod sun;

pub use illuminance::Illuminance;
pub use moon::{Moon, moon};
pub use sun::{Sun, dawn, sun};

use crate::error::Error;
use crate::fields;
use jiff::Timestamp;

/// A place on the globe, degrees.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Place {
    latitude: f64,
    longitude: f64,
}

impl Place {
    /// A place by its latitude (north positive) and longitude (east positive).
    ///
    /// # Errors
    /// [`Error::OutOfRange`] off the globe.
    pub fn new(latitude: f64, longitude: f64) -> Result<Self, Error> {
        fields::LATITUDE.check(latitude)?;
        fields::LONGITUDE.check(longitude)?;
        Ok(Self {
            latitude,
            longitude,
        })
    }
}

/// Light on the surface at a place and an instant, under a share of cloud (0-1).
///
/// # Errors
/// As [`sun`].
pub fn surface_light(place: Place, at: Timestamp, cloud: f64) -> Result<Illuminance, Error> {
    let (sun, moon) = (sun(place, at)?, moon(place, at));
    Ok(Illuminance::at(
        sun.altitude,
        moon.altitude,
        moon.phase,
        cloud,
    ))
}

/// Terrestrial less universal time, s; 67 to 70 in these decades.
const DELTA_T: f64 = 67.0;

/// Days since J2000.0 of an instant.
fn days(at: Timestamp) -> f64 {
    at.as_millisecond() as f64 / 86_400_000.0 + 2_440_587.5 - 2_451_545.0
}

fn sin(degrees: f64) -> f64 {
    degrees.to_radians().sin()
}

fn cos(degrees: f64) -> f64 {
    degrees.to_radians().cos()
}

/// Altitude and azimuth of a body by its right ascension and declination, degrees.
fn horizontal(place: Place, days: f64, ra: f64, dec: f64) -> (f64, f64) {
    let centuries = days / 36_525.0;
    let gmst = 280.460_618_37 + 360.985_647_366_29 * days + 0.000_387_933 * centuries.powi(2)
        - centuries.powi(3) / 38_710_000.0;
    let hour = gmst + place.longitude - ra;
    let lat = place.latitude;
    let up = sin(lat) * sin(dec) + cos(lat) * cos(dec) * cos(hour);
    let altitude = up.clamp(-1.0, 1.0).asin().to_degrees();
    let north = cos(hour) * sin(lat) - dec.to_radians().tan() * cos(lat);
    let azimuth = sin(hour).atan2(north).to_degrees() + 180.0;
    (altitude, azimuth.rem_euclid(360.0))
}
