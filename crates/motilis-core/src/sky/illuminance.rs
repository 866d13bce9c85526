/// Light on the surface, lux, kept apart by source.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Illuminance {
    /// From the sun and the night sky, under the cloud there is.
    pub sun: f64,
    /// From the moon, under the same cloud.
    pub moon: f64,
    /// What the cloud lets through.
    pub cloud_factor: f64,
}

/// Starlight and airglow, lux.
const NIGHT: f64 = 6.4e-4;

/// From which altitude on, and k₀ to k₃ of log₁₀ lux in altitude/90.
type Piece = (f64, [f64; 4]);

const SUN: &[Piece] = &[
    (20.0, [3.74, 3.97, -4.07, 1.47]),
    (5.0, [3.05, 13.28, -45.98, 64.33]),
    (-0.8, [2.88, 22.26, -207.64, 1_034.3]),
    (-5.0, [2.88, 21.81, -258.11, -858.36]),
    (-12.0, [2.7, 12.17, -431.69, -1_899.83]),
    (-18.0, [13.84, 262.72, 1_447.42, 2_797.93]),
];

const MOON: &[Piece] = &[
    (20.0, [-1.95, 4.06, -4.24, 1.56]),
    (5.0, [-2.58, 12.58, -42.58, 59.06]),
    (-0.8, [-2.79, 24.27, -252.95, 1_321.29]),
];

fn log_lux(pieces: &[Piece], altitude: f64) -> Option<f64> {
    let (_, [k0, k1, k2, k3]) = pieces.iter().find(|(from, _)| *from <= altitude)?;
    let x = altitude / 90.0;
    Some(k0 + x * (k1 + x * (k2 + x * k3)))
}

impl Illuminance {
    /// Light on the surface by the true altitudes of sun and moon (degrees), the moon's phase angle
    /// (degrees, 0 full) and the share of cloud (0–1).
    ///
    /// # Source
    /// Janiczek & `DeYoung` (1987), USNO Circular 171, the moon's rows and phase law from memory; cloud:
    /// Kasten & Czeplak (1980), *Solar Energy* 24:177, `1 − 0.75 N^3.4`.
    pub fn at(sun_alt: f64, moon_alt: f64, moon_phase: f64, cloud: f64) -> Self {
        let cloud_factor = 1.0 - 0.75 * cloud.powf(3.4);
        let sun = log_lux(SUN, sun_alt).map_or(NIGHT, |log| 10_f64.powf(log).max(NIGHT));
        let phase = moon_phase;
        let moon = log_lux(MOON, moon_alt).map_or(0.0, |log| {
            10_f64.powf(log - 0.008_68 * phase - 2.2e-9 * phase.powi(4))
        });
        Self {
            sun: cloud_factor * sun,
            moon: cloud_factor * moon,
            cloud_factor,
        }
    }

    /// All of it.
    pub fn total(&self) -> f64 {
        self.sun + self.moon
    }
}
