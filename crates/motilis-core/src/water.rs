//! Density and viscosity of the water a line is towed through.
//!
//! Cold water is denser and, what matters more, nearly twice as viscous as warm water, so the same
//! line runs slightly shallower in it. At the surface pressure of a trolling depth nothing else counts.
//!
//! | property | correlation | range | accuracy stated |
//! |---|---|---|---|
//! | density, fresh | Kell 1975 | 0–150 °C | 1·10⁻⁵ relative |
//! | density, salt term | Millero & Poisson 1981 (EOS-80) | −2–40 °C, 0–42 g/kg | 4·10⁻⁶ relative |
//! | viscosity | Sharqawy, Lienhard & Zubair 2010 | 0–180 °C, 0–150 g/kg | 1.5 % |
//!
//! # Sources
//! - G. S. Kell (1975), *J. Chem. Eng. Data* 20:97, eq. 16 (coefficients from memory, checked
//!   against its printed densities).
//! - F. J. Millero and A. Poisson (1981), *Deep-Sea Research* 28A:625, as adopted in UNESCO
//!   Technical Papers in Marine Science 36 and 44 (coefficients from memory, checked against the
//!   check values of paper 44).
//! - M. H. Sharqawy, J. H. Lienhard V and S. M. Zubair (2010), *Desalination and Water Treatment*
//!   10:354, eqs. 22–23 (from memory, checked against IAPWS 2008 for pure water).

use crate::error::{Error, Range};
use crate::units::{Celsius, GramsPerKilogram, KilogramsPerCubicMetre, SquareMetresPerSecond};

const TEMPERATURE: Range = Range::closed(-2.0, 45.0, "°C", "between -2 and 45 °C");
const SALINITY: Range = Range::closed(0.0, 42.0, "g/kg", "between 0 and 42 g/kg");
const DENSITY: Range = Range::closed(900.0, 1_200.0, "kg/m³", "between 900 and 1 200 kg/m³");
const VISCOSITY: Range = Range::closed(1e-7, 1e-5, "m²/s", "between 1e-7 and 1e-5 m²/s");

/// Salinity of the open sea, g/kg.
pub const SEA_SALINITY: GramsPerKilogram = GramsPerKilogram(35.0);

/// The two properties that a towed line and a blade feel.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Water {
    density: KilogramsPerCubicMetre,
    viscosity: SquareMetresPerSecond,
}

impl Water {
    /// Fresh water at a temperature between −2 and 45 °C.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for any other temperature.
    pub fn fresh(temperature: Celsius) -> Result<Self, Error> {
        Self::with_salt(temperature, GramsPerKilogram(0.0))
    }

    /// Water of a temperature and a salinity of 0 to 42 g/kg; see [`SEA_SALINITY`].
    ///
    /// # Errors
    /// [`Error::OutOfRange`] naming the temperature or the salinity.
    pub fn with_salt(temperature: Celsius, salinity: GramsPerKilogram) -> Result<Self, Error> {
        let t = TEMPERATURE.check("water.temperature_c", temperature.0)?;
        let s = SALINITY.check("water.salinity_g_kg", salinity.0)?;
        let density = density_kell(t) + salt_density(t, s);
        Ok(Self {
            density: KilogramsPerCubicMetre(density),
            viscosity: SquareMetresPerSecond(dynamic_viscosity(t, s) / density),
        })
    }

    /// Water of which both properties are known.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] outside 900–1 200 kg/m³ or 1e-7–1e-5 m²/s.
    pub fn measured(
        density: KilogramsPerCubicMetre,
        viscosity: SquareMetresPerSecond,
    ) -> Result<Self, Error> {
        DENSITY.check("water.density_kg_m3", density.0)?;
        VISCOSITY.check("water.kinematic_viscosity_m2_s", viscosity.0)?;
        Ok(Self { density, viscosity })
    }

    /// Density.
    pub fn density(&self) -> KilogramsPerCubicMetre {
        self.density
    }

    /// Kinematic viscosity.
    pub fn viscosity(&self) -> SquareMetresPerSecond {
        self.viscosity
    }

    /// Dynamic pressure `q = ρ U² / 2` at a speed, Pa.
    pub fn dynamic_pressure(&self, speed: crate::units::MetresPerSecond) -> f64 {
        0.5 * self.density.0 * speed.0 * speed.0
    }

    /// Share of its weight in air that a body of a density keeps under water; negative when it floats.
    pub fn submerged_share(&self, body: KilogramsPerCubicMetre) -> f64 {
        1.0 - self.density.0 / body.0
    }
}

/// Kell (1975), eq. 16, kg/m³, `t` in °C.
fn density_kell(t: f64) -> f64 {
    let powers = 999.839_52
        + t * (16.945_176
            + t * (-7.987_040_1e-3
                + t * (-46.170_461e-6 + t * (105.563_02e-9 - t * 280.542_53e-12))));
    powers / (1.0 + 16.879_850e-3 * t)
}

/// The terms that salt adds to the density, Millero & Poisson (1981), kg/m³, `s` in g/kg.
fn salt_density(t: f64, s: f64) -> f64 {
    let a = 8.244_93e-1 + t * (-4.089_9e-3 + t * (7.643_8e-5 + t * (-8.246_7e-7 + t * 5.387_5e-9)));
    let b = -5.724_66e-3 + t * (1.022_7e-4 - t * 1.654_6e-6);
    let c = 4.831_4e-4;
    a * s + b * s.powf(1.5) + c * s * s
}

/// Sharqawy et al. (2010), eqs. 22–23, Pa·s, `s` in g/kg.
fn dynamic_viscosity(t: f64, s: f64) -> f64 {
    let pure = 4.284_4e-5 + 1.0 / (0.157 * (t + 64.993).powi(2) - 91.296);
    let a = 1.541 + t * (1.998e-2 - t * 9.52e-5);
    let b = 7.974 + t * (-7.561e-2 + t * 4.724e-4);
    let s = s / 1_000.0;
    pure * (1.0 + s * (a + b * s))
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::{assert_abs_diff_eq, assert_relative_eq};
    use rstest::rstest;

    // Kell (1975), table of densities of air-free water at 1 atm; values from memory.
    #[rstest]
    #[case(0.0, 999.839_5)]
    #[case(4.0, 999.972_0)]
    #[case(10.0, 999.699_6)]
    #[case(20.0, 998.204_1)]
    #[case(30.0, 995.647_3)]
    fn fresh_water_has_the_density_of_kell(#[case] celsius: f64, #[case] published: f64) {
        let water = Water::fresh(Celsius(celsius)).unwrap();
        assert_abs_diff_eq!(water.density().0, published, epsilon = 2e-3);
    }

    // UNESCO Technical Papers in Marine Science 44 (1983), check values at zero pressure; from
    // memory. The tolerance covers the change of temperature scale since (0.024 % of t).
    #[rstest]
    #[case(5.0, 35.0, 1_027.675_47)]
    #[case(25.0, 35.0, 1_023.343_06)]
    fn sea_water_has_the_density_of_eos_80(
        #[case] celsius: f64,
        #[case] salinity: f64,
        #[case] published: f64,
    ) {
        let sea = Water::with_salt(Celsius(celsius), GramsPerKilogram(salinity)).unwrap();
        assert_abs_diff_eq!(sea.density().0, published, epsilon = 2e-2);
    }

    // IAPWS R12-08 (2008), viscosity of liquid water at 0.1 MPa, mPa·s; values from memory.
    #[rstest]
    #[case(0.01, 1.791_0)]
    #[case(10.0, 1.305_9)]
    #[case(20.0, 1.001_6)]
    #[case(25.0, 0.890_0)]
    #[case(30.0, 0.797_2)]
    fn fresh_water_has_the_viscosity_of_iapws(#[case] celsius: f64, #[case] millipascal_s: f64) {
        let water = Water::fresh(Celsius(celsius)).unwrap();
        let dynamic = water.viscosity().0 * water.density().0 * 1e3;
        assert_relative_eq!(dynamic, millipascal_s, max_relative = 0.005);
    }

    #[test]
    fn salt_makes_water_denser_and_more_viscous() {
        let lake = Water::fresh(Celsius(12.0)).unwrap();
        let sea = Water::with_salt(Celsius(12.0), SEA_SALINITY).unwrap();
        assert!(sea.density() > lake.density());
        assert!(sea.viscosity() > lake.viscosity());
    }

    #[rstest]
    #[case(f64::NAN)]
    #[case(-3.0)]
    #[case(46.0)]
    fn ice_and_steam_are_refused(#[case] celsius: f64) {
        let refusal = Water::fresh(Celsius(celsius)).unwrap_err();
        assert_eq!(refusal.quantity(), "water.temperature_c");
    }
}
