use super::{DELTA_T, Place};
use crate::error::Error;
use jiff::Timestamp;
use solar_positioning::time::JulianDate;
use solar_positioning::{Location, RefractionCorrection, SolarPositions};

/// Where the sun stands.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Sun {
    /// True altitude, degrees.
    pub altitude: f64,
    /// Azimuth, degrees.
    pub azimuth: f64,
    /// Altitude as it is seen, lifted by refraction at 1 013 hPa and 12 °C, degrees.
    pub apparent: f64,
}

/// Where the sun stands at a place and an instant.
///
/// # Errors
/// [`Error::Contradiction`] outside the years the algorithm is made for.
pub fn sun(place: Place, at: Timestamp) -> Result<Sun, Error> {
    let seconds = at.as_millisecond() as f64 / 1e3;
    let refused = |error: &dyn std::fmt::Display| {
        Error::contradiction(
            "utc",
            format!("the sun cannot be computed for that time: {error}"),
        )
    };
    let julian =
        JulianDate::new(seconds / 86_400.0 + 2_440_587.5, DELTA_T).map_err(|e| refused(&e))?;
    let location = Location {
        latitude: place.latitude,
        longitude: place.longitude,
    };
    let prepared = SolarPositions::new()
        .for_time_from_julian(julian)
        .map_err(|e| refused(&e))?;
    let position = |refraction| prepared.at(location, 0.0, refraction);
    let true_place = position(None).map_err(|e| refused(&e))?;
    let air = RefractionCorrection::new(1_013.25, 12.0).map_err(|e| refused(&e))?;
    let seen = position(Some(air)).map_err(|e| refused(&e))?;
    Ok(Sun {
        altitude: true_place.elevation_angle(),
        azimuth: true_place.azimuth(),
        apparent: seen.elevation_angle(),
    })
}
