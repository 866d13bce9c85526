use super::{LUMENS, Spectrum, WIDTH, dot, each, tables};
use crate::error::{Error, Range};
use crate::sky::Illuminance;

const ALTITUDE: Range = Range::closed(-90.0, 90.0, "°", "between -90 and 90°");
const PHASE: Range = Range::closed(0.0, 180.0, "°", "between 0 (full moon) and 180° (new moon)");
const CLOUD: Range = Range::closed(0.0, 1.0, "", "between 0 (clear) and 1 (overcast)");
const WIND: Range = Range::closed(0.0, 40.0, "m/s", "between 0 and 40 m/s");

/// What stands overhead: angles in degrees, cloud as a share, wind in m/s.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Sky {
    /// True altitude of the sun.
    pub sun_alt: f64,
    /// True altitude of the moon.
    pub moon_alt: f64,
    /// Phase angle of the moon, 0 full, 180 new.
    pub moon_phase: f64,
    /// Share of the sky under cloud.
    pub cloud: f64,
    /// Wind: 0 calm, 3 ripple, 6 chop, 10 rough.
    pub wind: f64,
}

impl Sky {
    /// Light on the surface, lux.
    pub fn lux(&self) -> f64 {
        Illuminance::at(self.sun_alt, self.moon_alt, self.moon_phase, self.cloud).total()
    }

    fn check(&self) -> Result<(), Error> {
        ALTITUDE.check("sun_alt", self.sun_alt)?;
        ALTITUDE.check("moon_alt", self.moon_alt)?;
        PHASE.check("moon_phase", self.moon_phase)?;
        CLOUD.check("cloud", self.cloud)?;
        WIND.check("wind", self.wind)?;
        Ok(())
    }
}

/// Daylight, twilight or moonlight just below the surface.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Daylight {
    /// Light on the surface, lux.
    pub illuminance: Illuminance,
    /// Colour temperature of sun and sky, K.
    pub colour_temperature: f64,
    /// Share that comes straight from the sun.
    pub direct: f64,
    /// Share that passes the surface.
    pub transmission: f64,
    /// Angle from the vertical, in air, at which it comes in on the whole, degrees.
    pub slant: f64,
    /// Spectral irradiance just below the surface.
    pub below: Spectrum,
}

/// Reflectance of the surface for light from everywhere (Burt 1954; Kirk 2011).
const DIFFUSE_REFLECTANCE: f64 = 0.066;

/// Refractive index of water; from memory.
const INDEX: f64 = 1.34;

/// Colour temperature of moonlight, K; from memory.
const MOONLIGHT: f64 = 4_100.0;

/// Altitude of the sun, degrees, and colour temperature of sun and sky, K; designed for this project,
/// anchored after Hernández-Andrés et al. (2001) and Johnsen et al. (2006) from memory.
const COLOURS: [(f64, f64); 8] = [
    (-90.0, 4_500.0),
    (-18.0, 4_500.0),
    (-12.0, 9_000.0),
    (-6.0, 12_000.0),
    (0.0, 7_500.0),
    (10.0, 6_000.0),
    (30.0, 5_700.0),
    (90.0, 5_600.0),
];

impl Daylight {
    /// Light below the surface under a sky.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the figure of the sky that cannot be.
    ///
    /// # Source
    /// Slopes of a surface in wind: Cox & Munk (1954); Fresnel's law. The share that comes straight from the
    /// sun, `exp(−0.13/sin altitude)` less the cloud, and the way chop lifts a low sun are designed for this
    /// project, not measured.
    pub fn under(sky: &Sky) -> Result<Self, Error> {
        sky.check()?;
        let illuminance = Illuminance::at(sky.sun_alt, sky.moon_alt, sky.moon_phase, sky.cloud);
        let high = sky.sun_alt.max(0.0);
        let direct = if sky.sun_alt <= 0.0 {
            0.0
        } else {
            (-0.13 / high.to_radians().sin()).exp() * (1.0 - sky.cloud)
        };
        let roughness = if sky.wind > 0.0 {
            (0.003 + 0.005_12 * sky.wind).sqrt().atan().to_degrees()
        } else {
            0.0
        };
        let incidence = (90.0 - high.hypot(roughness).min(90.0)).min(89.9);
        let transmission =
            direct * (1.0 - fresnel(incidence)) + (1.0 - direct) * (1.0 - DIFFUSE_REFLECTANCE);
        let colour_temperature = colour_temperature(sky.sun_alt, sky.cloud);
        let sun = lit(illuminance.sun, colour_temperature);
        let moon = lit(illuminance.moon, MOONLIGHT);
        Ok(Self {
            illuminance,
            colour_temperature,
            direct,
            transmission,
            slant: direct * (90.0 - high).min(75.0) + (1.0 - direct) * 45.0,
            below: each(|band| transmission * (sun[band] + moon[band])),
        })
    }
}

/// Colour temperature of sun and sky, K, linear in its inverse between the knots; cloud greys it.
fn colour_temperature(sun_alt: f64, cloud: f64) -> f64 {
    let above = COLOURS
        .iter()
        .position(|(altitude, _)| *altitude > sun_alt)
        .unwrap_or(COLOURS.len() - 1);
    let ((low, cold), (high, warm)) = (COLOURS[above - 1], COLOURS[above]);
    let share = (sun_alt - low) / (high - low);
    let clear = 1e6 / cold + share * (1e6 / warm - 1e6 / cold);
    let mired = if sun_alt > -12.0 {
        (1.0 - cloud) * clear + cloud * 1e6 / (1e6 / clear).max(6_500.0)
    } else {
        clear
    };
    1e6 / mired
}

/// Reflectance of the surface by the angle from the vertical in air, degrees, unpolarised.
fn fresnel(incidence: f64) -> f64 {
    let in_air = incidence.to_radians();
    let in_water = (in_air.sin() / INDEX).asin();
    let (less, more) = (in_air - in_water, in_air + in_water);
    if more < 1e-6 {
        return ((INDEX - 1.0) / (INDEX + 1.0)).powi(2);
    }
    f64::midpoint(
        (less.sin() / more.sin()).powi(2),
        (less.tan() / more.tan()).powi(2),
    )
}

/// Irradiance of a CIE daylight of a colour temperature that gives so many lux (CIE 015).
fn lit(lux: f64, kelvin: f64) -> Spectrum {
    let t = 1e3 / kelvin;
    let x = if kelvin <= 7_000.0 {
        0.244_063 + 0.099_11 * t + 2.967_8 * t.powi(2) - 4.607_0 * t.powi(3)
    } else {
        0.237_040 + 0.247_48 * t + 1.901_8 * t.powi(2) - 2.006_4 * t.powi(3)
    };
    let y = -3.0 * x * x + 2.870 * x - 0.275;
    let scale = 0.024_1 + 0.256_2 * x - 0.734_1 * y;
    let m1 = (-1.351_5 - 1.770_3 * x + 5.911_4 * y) / scale;
    let m2 = (0.030_0 - 31.442_4 * x + 30.071_7 * y) / scale;
    let shape =
        each(|band| (tables::S0[band] + m1 * tables::S1[band] + m2 * tables::S2[band]).max(0.0));
    let scale = lux / (LUMENS * WIDTH * dot(&shape, &tables::YBAR));
    shape.map(|one| scale * one)
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;

    #[test]
    fn straight_down_two_in_a_hundred_are_mirrored() {
        // Fresnel's closed form at normal incidence, n = 1.34.
        assert_abs_diff_eq!(fresnel(0.0), 0.0211, epsilon = 5e-5);
        assert_abs_diff_eq!(fresnel(0.01), fresnel(0.0), epsilon = 1e-7);
    }
}
