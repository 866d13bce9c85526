use crate::Refusal;
use motilis_core::units::{
    Celsius, GramsPerKilogram, KilogramsPerCubicMetre, SquareMetresPerSecond,
};
use serde::Deserialize;
use utoipa::ToSchema;

/// The water: either its density and viscosity, or a temperature to compute them from.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Water {
    /// Temperature, −2 to 45 °C. Taken into account only when density or viscosity is not given.
    #[schema(example = 15.0)]
    pub temperature_c: Option<f64>,
    /// Salinity, 0 to 42 g/kg; 0 when not given.
    pub salinity_g_kg: Option<f64>,
    /// Density, 900 to 1 200 kg/m³.
    pub density_kg_m3: Option<f64>,
    /// Kinematic viscosity, 1e-7 to 1e-5 m²/s.
    pub kinematic_viscosity_m2_s: Option<f64>,
}

impl Water {
    /// The water of the core; what is not given is computed from the temperature.
    pub(crate) fn properties(&self) -> Result<motilis_core::water::Water, Refusal> {
        let computed = self
            .temperature_c
            .map(|celsius| {
                let salinity = GramsPerKilogram(self.salinity_g_kg.unwrap_or(0.0));
                motilis_core::water::Water::with_salt(Celsius(celsius), salinity)
            })
            .transpose()?;
        let missing = || {
            Refusal::new(
                "water",
                "water needs density_kg_m3 and kinematic_viscosity_m2_s, or temperature_c to compute them from",
            )
        };
        let density = match (self.density_kg_m3, computed) {
            (Some(density), _) => KilogramsPerCubicMetre(density),
            (None, Some(water)) => water.density(),
            (None, None) => return Err(missing()),
        };
        let viscosity = match (self.kinematic_viscosity_m2_s, computed) {
            (Some(viscosity), _) => SquareMetresPerSecond(viscosity),
            (None, Some(water)) => water.viscosity(),
            (None, None) => return Err(missing()),
        };
        Ok(motilis_core::water::Water::measured(density, viscosity)?)
    }
}
