use super::{Daylight, Optics, Spectrum, each, times};
use crate::error::{Error, Range};
use crate::keyed::keyed;

/// Where the fish looks.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum View {
    /// Along the level.
    Level,
    /// Up, from below the lure.
    Up,
    /// Down, from above it.
    Down,
}

keyed!(View {
    Level "level" "level",
    Up "up" "from below",
    Down "down" "from above",
});

const DEPTH: Range = Range::closed(0.0, 300.0, "m", "between 0 and 300 m");

/// Light at a depth, and what surrounds a turning lure there, all by band.
#[derive(Debug, Clone, PartialEq)]
pub struct Scene {
    /// Where the fish looks.
    pub view: View,
    /// Depth of the lure, m.
    pub depth: f64,
    /// Irradiance from above.
    pub irradiance: Spectrum,
    /// Diffuse attenuation of that light, 1/m.
    pub diffuse: Spectrum,
    /// Beam attenuation, 1/m.
    pub beam: Spectrum,
    /// Radiance of the water behind the lure.
    pub background: Spectrum,
    /// What a turning mirror shows: on the whole, at its brightest and at its darkest, radiance.
    pub(super) mirrored: [Spectrum; 3],
    /// What falls on a turning face in the same three phases, irradiance.
    pub(super) lit: [Spectrum; 3],
}

impl Scene {
    /// The light at a depth, m, in a water under a daylight.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for the depth.
    ///
    /// # Source
    /// Fits, made for this project, to a discrete-ordinate solution of the radiative transfer equation
    /// (Fournier-Forand phase function, uniform sky); light from below: Gordon et al. (1988).
    pub fn new(
        daylight: &Daylight,
        optics: &Optics,
        depth: f64,
        view: View,
    ) -> Result<Self, Error> {
        DEPTH.check("depth", depth)?;
        let diffuse = optics.diffuse(daylight.slant);
        let irradiance = each(|band| daylight.below[band] * (-diffuse[band] * depth).exp());
        let shares = optics.turbidity().map(|u| Shares::at(u, view));
        let of = |share: fn(&Shares) -> f64| each(|band| share(&shares[band]) * irradiance[band]);
        Ok(Self {
            view,
            depth,
            irradiance,
            diffuse,
            beam: optics.beam(),
            background: of(|s| s.background),
            mirrored: [
                of(|s| s.mirror[0]),
                of(|s| s.mirror[1]),
                of(|s| s.mirror[2]),
            ],
            lit: [of(|s| s.face[0]), of(|s| s.face[1]), of(|s| s.face[2])],
        })
    }

    /// Radiance of the water behind the lure as the eye sees it from a range, m.
    pub(super) fn behind(&self, range: f64) -> Spectrum {
        let sign = match self.view {
            View::Level => return self.background,
            View::Up => -1.0,
            View::Down => 1.0,
        };
        times(
            &self.background,
            &self.diffuse.map(|kd| (sign * kd * range).exp()),
        )
    }

    /// The farthest range, m, from which a fish can look: it stays under the surface.
    pub(super) fn farthest(&self) -> f64 {
        const CLEAR: f64 = 60.0;
        match self.view {
            View::Down => self.depth.clamp(super::watch::NEAREST, CLEAR),
            View::Level | View::Up => CLEAR,
        }
    }
}

/// What surrounds a lure per unit of light from above: mean, bright and dark phase of a turn.
struct Shares {
    background: f64,
    mirror: [f64; 3],
    face: [f64; 3],
}

#[expect(
    clippy::approx_constant,
    reason = "0.318 is a coefficient of a fit, not 1/π"
)]
impl Shares {
    fn at(u: f64, view: View) -> Self {
        let level = 0.473 * u / (1.0 + 0.582 * u);
        let above = (0.782 + 1.124 * u) / (1.0 + 4.485 * u);
        let beneath = 0.0895 * u + 0.1247 * u * u;
        let tilted_up = (0.728 + 2.309 * u) / (1.0 + 2.292 * u);
        let tilted_down = (0.0004 + 0.964 * u) / (1.0 + 0.513 * u);
        let upwelling = u * (0.356 + 7.58 * u) / (1.0 + 10.94 * u);
        let (background, mirror, face) = match view {
            View::Level => (
                level,
                [0.183 + 0.0605 * u, above, beneath],
                [
                    (0.300 + 1.550 * u) / (1.0 + 1.500 * u),
                    tilted_up,
                    tilted_down,
                ],
            ),
            View::Up => (
                above,
                [(0.0479 + 0.318 * u) / (1.0 + 0.780 * u), level, beneath],
                [
                    (0.0074 + 0.825 * u) / (1.0 + 0.275 * u),
                    tilted_down,
                    upwelling,
                ],
            ),
            View::Down => (
                beneath,
                [0.256, above, level],
                [(0.816 + 2.403 * u) / (1.0 + 2.403 * u), 1.0, tilted_up],
            ),
        };
        Self {
            background,
            mirror,
            face,
        }
    }
}
