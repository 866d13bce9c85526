use super::{DELTA_T, Place};
use crate::error::Error;
use crate::numeric::root;
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

/// True altitude of the sun at civil dawn, degrees.
const CIVIL: f64 = -6.0;

/// Civil dawn before the solar noon nearest to an instant, to the minute; `None` where the sun does not cross 6° below
/// the horizon.
///
/// # Errors
/// As [`sun`].
pub fn dawn(place: Place, about: Timestamp) -> Result<Option<Timestamp>, Error> {
    let day = 86_400.0;
    let mean_noon = 0.5 * day - place.longitude / 360.0 * day;
    let second = about.as_second() as f64;
    let noon = ((second - mean_noon) / day).round() * day + mean_noon;
    let altitude = |second: f64| -> Result<f64, Error> {
        let at = Timestamp::from_second(second as i64);
        let at = at.map_err(|_| Error::contradiction("utc", "that time cannot be"))?;
        Ok(sun(place, at)?.altitude - CIVIL)
    };
    let at = |second: f64| altitude(second).unwrap_or(f64::NAN);
    let found = root(at, noon - 0.5 * day, noon, 30.0);
    Ok(found.and_then(|second| Timestamp::from_second(second as i64).ok()))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// By the tables of the reference the sun stands 6 degrees below the horizon within a minute or two of this.
    #[test]
    fn at_dawn_the_sun_stands_six_degrees_below_the_horizon() {
        let tamarin = Place::new(50.42, -95.61).unwrap();
        for day in [
            "2026-03-20T18:00:00Z",
            "2026-06-21T16:00:00Z",
            "2026-12-21T20:00:00Z",
        ] {
            let about: Timestamp = day.parse().unwrap();
            let dawn = dawn(tamarin, about).unwrap().unwrap();
            let altitude = sun(tamarin, dawn).unwrap().altitude;
            assert!((altitude - CIVIL).abs() < 0.2, "{day}: {altitude}");
            let before = about.duration_since(dawn).as_secs_f64() / 3_600.0;
            assert!((1.0..14.0).contains(&before), "{day}: {before} h");
        }
        let pole = Place::new(85.0, 0.0).unwrap();
        let june: Timestamp = "2026-06-21T12:00:00Z".parse().unwrap();
        assert_eq!(dawn(pole, june).unwrap(), None);
    }
}
