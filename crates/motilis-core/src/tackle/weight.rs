use super::{LineMaterial, LineStock};
use crate::keyed::keyed;
use crate::towline::PointLoad;
use crate::units::{
    GRAVITY, Kilograms, KilogramsPerCubicMetre, Metres, Newtons, OUNCE, Radians, SquareMetres,
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

/// How far a trip diver's plate is turned to the side: it then pulls out as well as down.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum SideSetting {
    /// Straight down.
    Straight,
    /// A little out.
    One,
    /// Half out.
    Two,
    /// As far out as it goes.
    Three,
}

keyed!(SideSetting {
    Straight "0" "straight down",
    One "1" "side setting 1",
    Two "2" "side setting 2",
    Three "3" "side setting 3",
});

impl SideSetting {
    /// By how much its down-force leans to the side; from memory.
    pub fn lean(self) -> Radians {
        Radians::from_degrees(match self {
            Self::Straight => 0.0,
            Self::One => 15.0,
            Self::Two => 30.0,
            Self::Three => 45.0,
        })
    }
}

/// Which hole of a trip diver's arm its release is set in: how hard something must pull before it lets go.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum ReleaseHole {
    /// Nearest the pivot: light rigs and small fish.
    Near,
    /// In the middle.
    Middle,
    /// Farthest out: for what pulls hard.
    Far,
    /// It never lets go; the fish is fought against the diver.
    Held,
}

keyed!(ReleaseHole {
    Near "near" "near hole, lets go easily",
    Middle "middle" "middle hole",
    Far "far" "far hole, lets go hard",
    Held "held" "never lets go",
});

impl ReleaseHole {
    /// The pull at which it lets go; from memory, some 3/4, 1 1/2 and 3 lb. `None` for one that never does.
    pub fn trips_at(self) -> Option<Newtons> {
        match self {
            Self::Near => Some(Newtons(3.3)),
            Self::Middle => Some(Newtons(6.7)),
            Self::Far => Some(Newtons(13.3)),
            Self::Held => None,
        }
    }

    /// The easiest hole that holds a pull with half as much in hand.
    pub fn holding(pull: Newtons) -> Self {
        *Self::ALL
            .iter()
            .find(|hole| hole.trips_at().is_none_or(|at| at.0 >= 1.5 * pull.0))
            .unwrap_or(&Self::Held)
    }
}

/// A diver's release under the steady pull of what it tows.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Release {
    /// What it lets go at; `None` for one that never does.
    pub at: Option<Newtons>,
    /// What the rig pulls.
    pub pull: Newtons,
    /// The easiest hole that holds the rig.
    pub hole: ReleaseHole,
}

impl Release {
    /// Either side of a hole's pull that is not known: it is from memory, and differs from diver to diver.
    pub const UNSURE: f64 = 1.25;

    /// Whether it lets go without a fish, even if its hole holds as much as it may.
    pub fn trips(&self) -> bool {
        self.at.is_some_and(|at| self.pull.0 >= Self::UNSURE * at.0)
    }

    /// Whether it lets go without a fish if its hole holds as little as it may.
    pub fn may_trip(&self) -> bool {
        self.at.is_some_and(|at| self.pull.0 >= at.0 / Self::UNSURE)
    }
}

/// A weight on the line, sold by its mass.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum SinkerStyle {
    /// A body on an L of wire that walks over the bottom.
    BottomBouncer,
    /// A bullet, sliding or pegged.
    Bullet,
    /// An egg with the line through it.
    Egg,
    /// A split shot, or several.
    SplitShot,
    /// A weight clipped to the line.
    ClipOn,
    /// A weight with a face that planes down, and trips on a strike.
    DivingWeight,
}

keyed!(SinkerStyle {
    BottomBouncer "bottom_bouncer" "bottom bouncer",
    Bullet "bullet" "bullet sinker",
    Egg "egg" "egg sinker",
    SplitShot "split_shot" "split shot",
    ClipOn "clip_on" "clip-on weight",
    DivingWeight "diving_weight" "diving weight",
});

/// What takes a line down.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Weight {
    /// Something heavy.
    Sinker(SinkerStyle, Kilograms, WeightMaterial),
    /// A disc that planes down, turned out or not, and trips on a strike.
    TripDiver(DiverSize, SideSetting, ReleaseHole),
    /// A rattling body that planes down and floats when it is stopped.
    FloatDiver(DiverSize),
}

/// Down-force and drag area of a diving weight, m² per ounce^(2/3); from memory.
const DIVING_FACE: (f64, f64) = (6.0e-4, 5.0e-4);
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
    /// How the line feels it, with all its down-force downwards.
    ///
    /// # Source
    /// Defaults from memory; the sphere and cylinder coefficients after Hoerner (1965), from memory.
    pub fn load(&self, water: &Water) -> PointLoad {
        match *self {
            Self::Sinker(style, mass, material) => {
                let sized = (mass / OUNCE).powf(2.0 / 3.0);
                let sphere = |coefficient| sphere_drag(mass, material.density(), coefficient);
                let (down, drag_area) = match style {
                    SinkerStyle::BottomBouncer => {
                        (0.0, SquareMetres(BOUNCER_BODY * sized + BOUNCER_ARM))
                    }
                    SinkerStyle::Bullet | SinkerStyle::Egg | SinkerStyle::SplitShot => {
                        (0.0, sphere(SPHERE))
                    }
                    SinkerStyle::ClipOn => (0.0, sphere(CLIP_ON)),
                    SinkerStyle::DivingWeight => {
                        (DIVING_FACE.0 * sized, SquareMetres(DIVING_FACE.1 * sized))
                    }
                };
                PointLoad {
                    submerged_weight: under_water(mass, material, water),
                    drag_area,
                    down_area: SquareMetres(down),
                }
            }
            Self::TripDiver(size, ..) => planing(size, Newtons(0.0)),
            Self::FloatDiver(size) => planing(size, Newtons(-buoyancy(size))),
        }
    }

    /// Its mass in air, as inertia needs it; a diver's is from memory.
    pub fn inertia(&self) -> Kilograms {
        match *self {
            Self::Sinker(_, mass, _) => mass,
            Self::TripDiver(size, ..) | Self::FloatDiver(size) => Kilograms(match size {
                DiverSize::Small => 0.03,
                DiverSize::Medium => 0.06,
                DiverSize::Large => 0.10,
            }),
        }
    }

    /// By how much its down-force leans to the side.
    pub fn lean(&self) -> Radians {
        match self {
            Self::TripDiver(_, side, _) => side.lean(),
            Self::Sinker(..) | Self::FloatDiver(_) => Radians(0.0),
        }
    }

    /// Whether it dives by the water's push, so that the fish must be netted with it at the rod tip.
    pub fn is_diver(&self) -> bool {
        !matches!(self, Self::Sinker(style, ..) if *style != SinkerStyle::DivingWeight)
    }

    /// What its release does under a rig's pull; `None` for a tool without one.
    pub fn release(&self, pull: Newtons) -> Option<Release> {
        match self {
            Self::TripDiver(_, _, hole) => Some(Release {
                at: hole.trips_at(),
                pull,
                hole: ReleaseHole::holding(pull),
            }),
            Self::Sinker(..) | Self::FloatDiver(_) => None,
        }
    }

    /// Its mass, for those that are sold by it.
    pub fn mass(&self) -> Option<Kilograms> {
        match *self {
            Self::Sinker(_, mass, _) => Some(mass),
            Self::TripDiver(..) | Self::FloatDiver(_) => None,
        }
    }

    /// The same kind with another mass; a diver stays as it is.
    pub fn with_mass(self, mass: Kilograms) -> Self {
        match self {
            Self::Sinker(style, _, material) => Self::Sinker(style, mass, material),
            diver => diver,
        }
    }

    /// The name in files and forms.
    pub fn key(&self) -> &'static str {
        match self {
            Self::Sinker(style, ..) => style.key(),
            Self::TripDiver(..) => "trip_diver",
            Self::FloatDiver(_) => "float_diver",
        }
    }

    /// Every key, in the order a list shows them.
    pub fn keys() -> impl Iterator<Item = &'static str> {
        SinkerStyle::ALL
            .iter()
            .map(|style| style.key())
            .chain(["trip_diver", "float_diver"])
    }

    /// What an angler calls it.
    pub fn name(&self) -> String {
        match self {
            Self::Sinker(style, ..) => style.name().to_owned(),
            Self::TripDiver(size, SideSetting::Straight, _) => {
                format!("{} trip diver", size.name())
            }
            Self::TripDiver(size, side, _) => {
                format!("{} trip diver, {}", size.name(), side.name())
            }
            Self::FloatDiver(size) => format!("{} float diver", size.name()),
        }
    }

    /// Whether it is made of lead, which many waters restrict.
    pub fn is_lead(&self) -> bool {
        matches!(self, Self::Sinker(_, _, WeightMaterial::Lead))
    }
}

/// A diver's plate: down-force and drag by its size, from memory.
fn planing(size: DiverSize, submerged_weight: Newtons) -> PointLoad {
    let (down, drag) = match size {
        DiverSize::Small => (2.2e-3, 2.0e-3),
        DiverSize::Medium => (3.6e-3, 3.0e-3),
        DiverSize::Large => (6.0e-3, 4.5e-3),
    };
    PointLoad {
        submerged_weight,
        drag_area: SquareMetres(drag),
        down_area: SquareMetres(down),
    }
}

/// What lifts a float diver when it is stopped, N; from memory.
fn buoyancy(size: DiverSize) -> f64 {
    match size {
        DiverSize::Small => 0.08,
        DiverSize::Medium => 0.15,
        DiverSize::Large => 0.30,
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

/// A downrigger's stranded steel cable, 0.7 mm; from memory.
pub(crate) const CABLE: LineStock = LineStock {
    material: LineMaterial::SteelWire,
    test_lb: 150,
    diameter: Metres(0.7e-3),
};

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
        let bouncer = SinkerStyle::BottomBouncer;
        let load = Weight::Sinker(bouncer, OUNCE, WeightMaterial::Lead).load(&lake());
        // By hand: 0.028350 · 9.80665 · (1 − 999.1 / 11340) = 0.2535.
        assert_relative_eq!(load.submerged_weight.0, 0.2535, max_relative = 1e-3);
        assert_relative_eq!(load.drag_area.0, 3.3e-4 + 3.96e-4, max_relative = 1e-9);
    }

    #[test]
    fn tungsten_is_smaller_and_tin_larger_than_lead() {
        let egg = |material| Weight::Sinker(SinkerStyle::Egg, OUNCE, material);
        let area = |material| egg(material).load(&lake()).drag_area.0;
        assert!(area(WeightMaterial::Tungsten) < area(WeightMaterial::Lead));
        assert!(area(WeightMaterial::Lead) < area(WeightMaterial::Tin));
    }

    #[test]
    fn a_diver_is_held_down_by_the_water_alone() {
        let diver = Weight::TripDiver(
            DiverSize::Medium,
            SideSetting::Straight,
            ReleaseHole::Middle,
        );
        let load = diver.load(&lake());
        assert_relative_eq!(load.submerged_weight.0, 0.0);
        assert!(load.down_area > load.drag_area);
        assert_eq!(diver.mass(), None);
        assert!(diver.is_diver() && diver.lean() == Radians(0.0));
    }

    #[test]
    fn a_release_lets_go_by_itself_only_under_a_pull_that_its_hole_does_not_hold() {
        let with = |hole| Weight::TripDiver(DiverSize::Medium, SideSetting::Straight, hole);
        let release = |hole, pull| with(hole).release(Newtons(pull)).unwrap();
        assert!(!release(ReleaseHole::Near, 1.0).trips());
        assert!(release(ReleaseHole::Near, 5.0).trips());
        assert!(!release(ReleaseHole::Middle, 5.0).may_trip());
        // At what its hole is said to hold, nobody knows.
        assert!(release(ReleaseHole::Near, 3.3).may_trip());
        assert!(!release(ReleaseHole::Near, 3.3).trips());
        assert!(!release(ReleaseHole::Held, 500.0).trips());
        for pull in [0.0, 1.0, 2.3, 5.0, 9.0, 40.0] {
            let held = release(ReleaseHole::Near, pull).hole;
            assert!(!release(held, pull).may_trip(), "{pull} N in {held:?}");
        }
        assert_eq!(
            Weight::FloatDiver(DiverSize::Small).release(Newtons(9.0)),
            None
        );
    }

    #[test]
    fn a_float_diver_dives_only_while_it_is_towed() {
        let load = Weight::FloatDiver(DiverSize::Small).load(&lake());
        assert!(load.submerged_weight.0 < 0.0 && load.down_area.0 > 0.0);
    }

    #[test]
    fn every_weight_has_a_key_of_its_own() {
        let keys: std::collections::BTreeSet<_> = Weight::keys().collect();
        assert_eq!(keys.len(), Weight::keys().count());
        for style in SinkerStyle::ALL {
            let sinker = Weight::Sinker(*style, OUNCE, WeightMaterial::Tin);
            assert!(keys.contains(sinker.key()) && sinker.inertia() == OUNCE);
        }
    }
}
