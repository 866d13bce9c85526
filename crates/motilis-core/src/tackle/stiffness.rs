//! How a line resists being bent and twisted.

use super::{LineMaterial, LineStock};
use crate::units::{Metres, Newtons};
use std::f64::consts::PI;

impl LineMaterial {
    /// Young's modulus and shear modulus, Pa; from memory. A braid's and a lead-core's threads slide on each other: what
    /// is left is a small share of a rod's.
    fn moduli(self) -> (f64, f64) {
        match self {
            Self::Nylon => (2.0e9, 1.0e9),
            Self::Fluorocarbon => (2.5e9, 1.0e9),
            Self::Braid | Self::LeadCore => (2.0e7, 1.0e7),
            Self::Copper => (1.2e11, 4.5e10),
            Self::SteelWire => (2.0e11, 7.9e10),
        }
    }
}

impl LineStock {
    /// Torsional stiffness `G J`, N·m², with `J = π d⁴ / 32`.
    pub fn torsion(&self) -> f64 {
        let (_, shear) = self.material.moduli();
        shear * PI * self.diameter.0.powi(4) / 32.0
    }

    /// Bending stiffness `E I`, N·m², with `I = π d⁴ / 64`.
    pub fn bending(&self) -> f64 {
        let (young, _) = self.material.moduli();
        young * PI * self.diameter.0.powi(4) / 64.0
    }

    /// Length over which it bends round where it is held, under a pull: `√(E I / T)`.
    pub fn bends_within(&self, pull: Newtons) -> Metres {
        Metres((self.bending() / pull.0.max(1e-6)).sqrt())
    }

    /// Torque above which it throws coils once its pull falls to `slack`: `2 √(E I T)` (Greenhill 1883, the buckling of a
    /// long twisted shaft, from memory).
    pub fn coils_above(&self, slack: Newtons) -> f64 {
        2.0 * (self.bending() * slack.0).sqrt()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    fn nylon(test_lb: u16) -> LineStock {
        LineStock::of_test(LineMaterial::Nylon, test_lb).unwrap()
    }

    #[test]
    fn a_40_lb_leader_bends_within_millimetres_of_a_flasher() {
        // By hand: E I = 2e9 · π · 0.6e-3⁴ / 64 = 1.272e-5; √(1.272e-5 / 1 N) = 3.57 mm.
        assert_relative_eq!(
            nylon(40).bends_within(Newtons(1.0)).0,
            3.57e-3,
            max_relative = 1e-2
        );
        assert!(nylon(40).torsion() > 10.0 * nylon(10).torsion());
    }
}
