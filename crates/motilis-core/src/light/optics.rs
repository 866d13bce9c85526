use super::{Spectrum, each, tables, wavelength};
use crate::error::{Error, Range};
use crate::keyed::keyed;
use crate::numeric::root;

/// What colours the water.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Stain {
    /// Hardly anything: blue water.
    Clear,
    /// Algae.
    Green,
    /// Tannin.
    Tea,
    /// Silt.
    Muddy,
}

keyed!(Stain {
    Clear "clear" "clear",
    Green "green" "green with algae",
    Tea "tea" "tea-stained",
    Muddy "muddy" "muddy",
});

/// Composition of a stain at load 1; designed for this project, inside the ranges of Kirk (2011), Babin
/// et al. (2003) and Gordon & Morel (1983), from memory.
struct Mix {
    dissolved: (f64, f64),
    algae: f64,
    silt: (f64, f64),
    scatter: (f64, f64),
    back: f64,
}

impl Stain {
    fn mix(self) -> Mix {
        let (dissolved, algae, silt, scatter, back) = match self {
            Self::Clear => ((0.060, 0.0170), 0.040, (0.010, 0.0110), (0.42, 0.8), 0.012),
            Self::Green => ((0.600, 0.0165), 0.700, (0.120, 0.0110), (4.00, 0.5), 0.012),
            Self::Tea => ((5.000, 0.0160), 0.150, (0.200, 0.0110), (2.00, 0.6), 0.016),
            Self::Muddy => ((0.800, 0.0165), 0.150, (1.300, 0.0115), (15.0, 0.3), 0.022),
        };
        Mix {
            dissolved,
            algae,
            silt,
            scatter,
            back,
        }
    }

    /// Secchi depths that such water can have.
    pub fn secchi_range(self) -> Range {
        match self {
            Self::Clear => Range::closed(1.5, 30.0, "m", "between 1.5 and 30 m in clear water"),
            Self::Green => Range::closed(0.3, 6.0, "m", "between 0.3 and 6 m in green water"),
            Self::Tea => Range::closed(0.3, 6.0, "m", "between 0.3 and 6 m in tea-stained water"),
            Self::Muddy => Range::closed(0.05, 2.0, "m", "between 0.05 and 2 m in muddy water"),
        }
    }
}

/// What a water absorbs and scatters, 1/m by band.
#[derive(Debug, Clone, PartialEq)]
pub struct Optics {
    /// How much of the stain is in it, 1 the kind's middle.
    pub load: f64,
    /// Absorption.
    pub absorption: Spectrum,
    /// Scattering.
    pub scattering: Spectrum,
    /// Scattering backwards.
    pub back: Spectrum,
    /// Back scattering of the water itself.
    pure_back: Spectrum,
}

/// Least and most load the search looks through.
const LOADS: (f64, f64) = (1e-5, 1e3);

/// Bands the Secchi disk is looked for in: 410 to 670 nm.
const DISK_BANDS: std::ops::RangeInclusive<usize> = 5..=31;

impl Optics {
    /// The water of a stain in which a white disk is lost at that depth, m.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a Secchi depth such water does not have.
    ///
    /// # Source
    /// Lee et al. (2015), *Remote Sens. Environ.* 169:139, with the band of greatest depth in place of the
    /// one of least attenuation, so that the depth falls steadily as the load grows.
    pub fn from_secchi(stain: Stain, secchi: f64, salt: bool) -> Result<Self, Error> {
        stain.secchi_range().check("zsd", secchi)?;
        let clearest = Self::with_load(stain, LOADS.0, salt);
        if secchi >= clearest.secchi() {
            return Ok(clearest);
        }
        let deeper = |load: f64| Self::with_load(stain, load.exp(), salt).secchi() - secchi;
        let load = root(deeper, LOADS.0.ln(), LOADS.1.ln(), 1e-12).map_or(LOADS.1, f64::exp);
        Ok(Self::with_load(stain, load, salt))
    }

    fn with_load(stain: Stain, load: f64, salt: bool) -> Self {
        let mix = stain.mix();
        // Salt water scatters 1.3 times as much as fresh; from memory.
        let salted = if salt { 1.3 } else { 1.0 };
        let falling = |(at_440, slope): (f64, f64), band| {
            at_440 * (-slope * (wavelength(band) - 440.0)).exp()
        };
        let particles =
            each(|band| load * mix.scatter.0 * (550.0 / wavelength(band)).powf(mix.scatter.1));
        let pure = tables::BW_FRESH.map(|b| salted * b);
        Self {
            load,
            absorption: each(|band| {
                tables::AW[band]
                    + load
                        * (falling(mix.dissolved, band)
                            + mix.algae * tables::APH[band]
                            + falling(mix.silt, band))
            }),
            scattering: each(|band| pure[band] + particles[band]),
            back: each(|band| pure[band] / 2.0 + mix.back * particles[band]),
            pure_back: pure.map(|b| b / 2.0),
        }
    }

    /// Beam attenuation: what a straight path loses.
    pub fn beam(&self) -> Spectrum {
        each(|band| self.absorption[band] + self.scattering[band])
    }

    /// Share of the back scattering in what stops light, 0–1.
    pub fn turbidity(&self) -> Spectrum {
        each(|band| self.back[band] / (self.absorption[band] + self.back[band]))
    }

    /// Diffuse attenuation of daylight that comes in at an angle from the vertical in air, degrees (Lee et
    /// al. 2005, 2013).
    pub fn diffuse(&self, slant: f64) -> Spectrum {
        each(|band| self.diffuse_in(band, slant))
    }

    fn diffuse_in(&self, band: usize, slant: f64) -> f64 {
        let (a, back) = (self.absorption[band], self.back[band]);
        (1.0 + 0.005 * slant) * a
            + 4.259
                * (1.0 - 0.265 * self.pure_back[band] / back)
                * (1.0 - 0.52 * (-10.8 * a).exp())
                * back
    }

    /// Depth at which a white disk is lost, m.
    pub fn secchi(&self) -> f64 {
        let turbidity = self.turbidity();
        DISK_BANDS
            .map(|band| {
                let u = turbidity[band];
                let below = 0.0895 * u + 0.1247 * u * u;
                let above = 0.52 * below / (1.0 - 1.7 * below);
                ((0.14 - above).abs() / 0.013).ln() / (2.5 * self.diffuse_in(band, 30.0))
            })
            .fold(f64::NEG_INFINITY, f64::max)
    }
}
