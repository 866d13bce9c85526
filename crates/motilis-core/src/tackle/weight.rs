use crate::keyed::keyed;
use crate::towline::PointLoad;
use crate::units::{
    GRAVITY, Kilograms, KilogramsPerCubicMetre, Metres, Newtons, OUNCE, SquareMetres,
};
use crate::water::Water;
use std::f64::consts::PI;

/// What a sinker is cast or turned from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum WeightMaterial {
    /// Lead, restricted on many waters.
    Lead,
    /// Tungsten alloy.
    Tungsten,
    /// Tin.
    Tin,
}

keyed!(WeightMaterial {
    Lead "lead" "lead",
    Tungsten "tungsten" "tungsten",
    Tin "tin" "tin",
});

impl WeightMaterial {
    /// Its density; from memory.
    pub fn density(self) -> KilogramsPerCubicMetre {
        KilogramsPerCubicMetre(match self {
            Self::Lead => 11_340.0,
            Self::Tungsten => 17_000.0,
            Self::Tin => 7_290.0,
        })
    }
}

/// Size of a diver.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum DiverSize {
    /// Small.
    Small,
    /// Medium.
    Medium,
    /// Large.
    Large,
}

keyed!(DiverSize {
    Small "small" "small",
    Medium "medium" "medium",
    Large "large" "large",
});

/// What takes a line down, at the upper end of the leader.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Weight {
    /// A lead body on an L of wire that walks over the bottom.
    BottomBouncer(Kilograms, WeightMaterial),
    /// An egg, bullet or split shot: something like a sphere on the line.
    Sinker(Kilograms, WeightMaterial),
    /// A weight clipped to the line.
    ClipOn(Kilograms, WeightMaterial),
    /// A disc that planes down and trips on a strike.
    TripDiver(DiverSize),
}

/// Drag area of a bouncer's body, m² per ounce^(2/3).
const BOUNCER_BODY: f64 = 3.3e-4;
/// Drag area of its wire arm: 1.1 mm × 0.30 m at 1.2.
const BOUNCER_ARM: f64 = 1.1e-3 * 0.30 * 1.2;
/// Drag coefficients on the frontal area of a sphere of the same mass.
const SPHERE: f64 = 0.5;
const CLIP_ON: f64 = 0.6;

/// Drag area of a sphere of a mass and a density at a drag coefficient.
fn sphere_drag(mass: Kilograms, density: KilogramsPerCubicMetre, coefficient: f64) -> SquareMetres {
    let radius = (3.0 * mass.0 / (4.0 * PI * density.0)).cbrt();
    SquareMetres(coefficient * PI * radius * radius)
}

/// Weight under water of a mass of a material.
fn under_water(mass: Kilograms, material: WeightMaterial, water: &Water) -> Newtons {
    Newtons(mass.0 * GRAVITY * water.submerged_share(material.density()))
}

impl Weight {
    /// How the line feels it.
    ///
    /// # Source
    /// Defaults from memory; the sphere and cylinder coefficients after Hoerner (1965), from memory.
    pub fn load(&self, water: &Water) -> PointLoad {
        let hanging = |mass, material, drag_area| PointLoad {
            submerged_weight: under_water(mass, material, water),
            drag_area,
            down_area: SquareMetres(0.0),
        };
        match *self {
            Self::BottomBouncer(mass, material) => {
                let body = BOUNCER_BODY * (mass / OUNCE).powf(2.0 / 3.0);
                hanging(mass, material, SquareMetres(body + BOUNCER_ARM))
            }
            Self::Sinker(mass, material) => hanging(
                mass,
                material,
                sphere_drag(mass, material.density(), SPHERE),
            ),
            Self::ClipOn(mass, material) => hanging(
                mass,
                material,
                sphere_drag(mass, material.density(), CLIP_ON),
            ),
            Self::TripDiver(size) => {
                let (down, drag) = match size {
                    DiverSize::Small => (2.2e-3, 2.0e-3),
                    DiverSize::Medium => (3.6e-3, 3.0e-3),
                    DiverSize::Large => (6.0e-3, 4.5e-3),
                };
                PointLoad {
                    submerged_weight: Newtons(0.0),
                    drag_area: SquareMetres(drag),
                    down_area: SquareMetres(down),
                }
            }
        }
    }

    /// Its mass, for those that are sold by it.
    pub fn mass(&self) -> Option<Kilograms> {
        match *self {
            Self::BottomBouncer(mass, _) | Self::Sinker(mass, _) | Self::ClipOn(mass, _) => {
                Some(mass)
            }
            Self::TripDiver(_) => None,
        }
    }

    /// The same kind with another mass; a diver stays as it is.
    pub fn with_mass(self, mass: Kilograms) -> Self {
        match self {
            Self::BottomBouncer(_, material) => Self::BottomBouncer(mass, material),
            Self::Sinker(_, material) => Self::Sinker(mass, material),
            Self::ClipOn(_, material) => Self::ClipOn(mass, material),
            Self::TripDiver(size) => Self::TripDiver(size),
        }
    }

    /// What an angler calls it.
    pub fn name(&self) -> &'static str {
        match self {
            Self::BottomBouncer(..) => "bottom bouncer",
            Self::Sinker(..) => "sinker",
            Self::ClipOn(..) => "clip-on weight",
            Self::TripDiver(DiverSize::Small) => "small trip diver",
            Self::TripDiver(DiverSize::Medium) => "medium trip diver",
            Self::TripDiver(DiverSize::Large) => "large trip diver",
        }
    }

    /// Whether it is made of lead, which many waters restrict.
    pub fn is_lead(&self) -> bool {
        matches!(
            self,
            Self::BottomBouncer(_, WeightMaterial::Lead)
                | Self::Sinker(_, WeightMaterial::Lead)
                | Self::ClipOn(_, WeightMaterial::Lead)
        )
    }
}

/// A downrigger ball: a lead sphere with a fin.
pub(crate) fn ball_load(mass: Kilograms, water: &Water) -> PointLoad {
    PointLoad {
        submerged_weight: under_water(mass, WeightMaterial::Lead, water),
        drag_area: sphere_drag(mass, WeightMaterial::Lead.density(), SPHERE),
        down_area: SquareMetres(0.0),
    }
}

/// Diameter of a steel downrigger cable; from memory.
pub(crate) const CABLE_DIAMETER: Metres = Metres(0.7e-3);

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::Celsius;
    use approx::assert_relative_eq;

    fn lake() -> Water {
        Water::fresh(Celsius(15.0)).unwrap()
    }

    #[test]
    fn an_ounce_of_lead_weighs_a_quarter_newton_under_water() {
        let load = Weight::BottomBouncer(OUNCE, WeightMaterial::Lead).load(&lake());
        // By hand: 0.028350 · 9.80665 · (1 − 999.1 / 11340) = 0.2535.
        assert_relative_eq!(load.submerged_weight.0, 0.2535, max_relative = 1e-3);
        assert_relative_eq!(load.drag_area.0, 3.3e-4 + 3.96e-4, max_relative = 1e-9);
    }

    #[test]
    fn tungsten_is_smaller_and_tin_larger_than_lead() {
        let area = |material| Weight::Sinker(OUNCE, material).load(&lake()).drag_area.0;
        assert!(area(WeightMaterial::Tungsten) < area(WeightMaterial::Lead));
        assert!(area(WeightMaterial::Lead) < area(WeightMaterial::Tin));
    }

    #[test]
    fn a_diver_is_held_down_by_the_water_alone() {
        let load = Weight::TripDiver(DiverSize::Medium).load(&lake());
        assert_relative_eq!(load.submerged_weight.0, 0.0);
        assert!(load.down_area > load.drag_area);
        assert_eq!(Weight::TripDiver(DiverSize::Medium).mass(), None);
    }
}
