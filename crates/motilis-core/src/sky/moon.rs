use super::{Place, cos, days, horizontal, sin};
use jiff::Timestamp;

/// Where the moon stands, and how much of it is lit.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Moon {
    /// True topocentric altitude, degrees.
    pub altitude: f64,
    /// Azimuth, degrees.
    pub azimuth: f64,
    /// Phase angle, degrees: 0 full, 180 new.
    pub phase: f64,
    /// Horizontal parallax, degrees.
    pub parallax: f64,
}

impl Moon {
    /// How much brighter it is than at its mean distance.
    pub fn nearness(&self) -> f64 {
        const MEAN: f64 = 0.951;
        (self.parallax / MEAN).powi(2)
    }
}

/// Where the moon stands at a place and an instant.
///
/// # Source
/// The Astronomical Almanac's low-precision series, from memory; the sun's longitude after Meeus (1998),
/// *Astronomical Algorithms*, ch. 25.
pub fn moon(place: Place, at: Timestamp) -> Moon {
    let d = days(at);
    let t = d / 36_525.0;
    let longitude = 218.32 + 481_267.881 * t + 6.29 * sin(135.0 + 477_198.87 * t)
        - 1.27 * sin(259.3 - 413_335.36 * t)
        + 0.66 * sin(235.7 + 890_534.22 * t)
        + 0.21 * sin(269.9 + 954_397.74 * t)
        - 0.19 * sin(357.5 + 35_999.05 * t)
        - 0.11 * sin(186.5 + 966_404.03 * t);
    let latitude = 5.13 * sin(93.3 + 483_202.02 * t) + 0.28 * sin(228.2 + 960_400.89 * t)
        - 0.28 * sin(318.3 + 6_003.15 * t)
        - 0.17 * sin(217.6 - 407_332.21 * t);
    let parallax = 0.9508
        + 0.0518 * cos(135.0 + 477_198.87 * t)
        + 0.0095 * cos(259.3 - 413_335.36 * t)
        + 0.0078 * cos(235.7 + 890_534.22 * t)
        + 0.0028 * cos(269.9 + 954_397.74 * t);
    let tilt = 23.439_291_1 - 0.013_004_2 * t;
    let x = cos(latitude) * cos(longitude);
    let y = cos(latitude) * sin(longitude) * cos(tilt) - sin(latitude) * sin(tilt);
    let z = cos(latitude) * sin(longitude) * sin(tilt) + sin(latitude) * cos(tilt);
    let (geocentric, azimuth) = horizontal(
        place,
        d,
        y.atan2(x).to_degrees(),
        z.clamp(-1.0, 1.0).asin().to_degrees(),
    );
    let elongation = (cos(latitude) * cos(longitude - sun_longitude(d)))
        .clamp(-1.0, 1.0)
        .acos();
    Moon {
        altitude: geocentric - parallax * cos(geocentric),
        azimuth,
        phase: 180.0 - elongation.to_degrees(),
        parallax,
    }
}

/// Apparent longitude of the sun, degrees (Meeus, ch. 25).
fn sun_longitude(days: f64) -> f64 {
    let t = (days + super::DELTA_T / 86_400.0) / 36_525.0;
    let mean = 280.466_46 + 36_000.769_83 * t + 0.000_303_2 * t * t;
    let m = 357.529_11 + 35_999.050_29 * t - 0.000_153_7 * t * t;
    let centre = (1.914_602 - 0.004_817 * t - 0.000_014 * t * t) * sin(m)
        + (0.019_993 - 0.000_101 * t) * sin(2.0 * m)
        + 0.000_289 * sin(3.0 * m);
    let node = 125.04 - 1_934.136 * t;
    mean + centre - 0.005_69 - 0.004_78 * sin(node)
}
