//! Light in the water and the eye of a fish: which finish is seen, from how far, and what it looks like.
//!
//! - [`Daylight`]: spectrum just under the surface, from sun, moon, cloud and wind.
//! - [`Optics`]: what the water absorbs and scatters, found from the Secchi depth and the kind of stain.
//! - [`Scene`]: the light at a depth and what surrounds a lure there.
//! - [`Finish`]: metals, paints, dyes and phosphors, and what each sends back.
//! - [`Eye`]: cones and rods of a species.
//! - [`Watch`]: an eye in a scene; how far it sees a finish, and how coloured it looks.
//! - [`Picture`]: the same as a diver's camera would show it; [`FalseColours`] as the fish's own cones divide it.
//! - [`disk_for_blade`]: the Secchi depth from how deep a white blade is lost to sight.
//! - [`claims`]: what anglers say, beside what all this makes of it.
//!
//! A [`Spectrum`] holds one figure for each band of 10 nm from 360 to 700 nm; every integral is the plain
//! sum over the bands times their width. Lengths are in metres, angles in degrees, light in W m⁻² nm⁻¹
//! (irradiance) or W m⁻² sr⁻¹ nm⁻¹ (radiance).
//!
//! # Limits
//! Distances are for a target the eye is already pointed at. There is no bottom, no glint near the
//! surface, no layering of the water and no mood of the fish in it. Metres are good to perhaps a third;
//! the order among finishes is steadier. Least certain are paint and dye curves (designed for this
//! project), Weber fractions (from memory) and mud, where distances are likely too long.

mod daylight;
mod eye;
mod fading;
mod finish;
mod lore;
mod optics;
mod picture;
mod scene;
mod secchi;
#[expect(
    clippy::unreadable_literal,
    clippy::approx_constant,
    reason = "tables stand as they were printed"
)]
mod tables;
mod watch;

pub use daylight::{Daylight, Sky};
pub use eye::{Eye, Receptor, Viewer};
pub use fading::Fading;
pub use finish::{Finish, Phases};
pub use lore::{Claim, Verdict, claims};
pub use optics::{Optics, Stain};
pub use picture::{Exposure, FalseColours, Picture};
pub use scene::{Scene, View};
pub use secchi::disk_for_blade;
pub use watch::{Catch, Shown, Sighting, Target, Watch, band_of, rank};

/// Bands of a spectrum.
pub const BANDS: usize = 35;

/// Width of a band, nm.
const WIDTH: f64 = 10.0;

/// Lumens a watt gives at the eye's best.
const LUMENS: f64 = 683.0;

/// One figure for each band from 360 to 700 nm.
pub type Spectrum = [f64; BANDS];

/// Middle of a band, nm.
pub fn wavelength(band: usize) -> f64 {
    360.0 + WIDTH * band as f64
}

fn each(figure: impl FnMut(usize) -> f64) -> Spectrum {
    std::array::from_fn(figure)
}

/// Sum of the products, in five sums side by side: they need not wait for each other.
fn dot(a: &Spectrum, b: &Spectrum) -> f64 {
    let mut sums = [0.0; 5];
    for (a, b) in a.chunks_exact(5).zip(b.chunks_exact(5)) {
        for (sum, (a, b)) in sums.iter_mut().zip(a.iter().zip(b)) {
            *sum += a * b;
        }
    }
    sums.iter().sum()
}

fn times(a: &Spectrum, b: &Spectrum) -> Spectrum {
    each(|band| a[band] * b[band])
}

/// What the human eye makes of a spectrum: lux of an irradiance, cd/m² of a radiance.
pub fn luminous(spectrum: &Spectrum) -> f64 {
    LUMENS * WIDTH * dot(spectrum, &tables::YBAR)
}

/// Photons in a joule, by band.
fn photons() -> Spectrum {
    const PLANCK: f64 = 6.626_070_15e-34;
    const LIGHT: f64 = 299_792_458.0;
    each(|band| wavelength(band) * 1e-9 / (PLANCK * LIGHT))
}

/// A bell curve whose sum over the bands times their width is 1.
fn bell(centre: f64, width: f64) -> Spectrum {
    let raw = each(|band| (-0.5 * ((wavelength(band) - centre) / width).powi(2)).exp());
    let area = WIDTH * raw.iter().sum::<f64>();
    raw.map(|share| share / area)
}
