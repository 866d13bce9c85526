use super::Hook;
use crate::blade::{BRASS, Blade};
use crate::keyed::keyed;
use crate::units::{GRAM, GRAVITY, Kilograms, KilogramsPerCubicMetre, Metres, SquareMetres};
use crate::water::Water;
use std::f64::consts::PI;

/// One part of a rig, in the place where it is threaded.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Part {
    /// The swivel at the front.
    Swivel {
        /// Whether it turns on balls.
        ball_bearing: bool,
    },
    /// A blade on its clevis.
    Blade {
        /// The blade.
        blade: Blade,
        /// Its finish.
        finish: Finish,
        /// Bend of a soft wing, 0 flat to 1 bent in; `None` as it comes.
        bend: Option<f64>,
    },
    /// A run of equal beads.
    Beads {
        /// How many.
        count: u8,
        /// Diameter of each.
        diameter: Metres,
        /// What they are made of.
        material: BeadMaterial,
        /// Their colour.
        colour: Colour,
    },
    /// A body of brass.
    Body {
        /// Its mass.
        mass: Kilograms,
        /// Its greatest diameter.
        diameter: Metres,
    },
    /// A skirt, fly or float.
    Dressing {
        /// Which.
        dressing: Dressing,
        /// Its colour.
        colour: Colour,
    },
    /// A hook.
    Hook(Hook),
    /// What is threaded on the hooks.
    Bait(Bait),
}

/// What beads are made of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum BeadMaterial {
    /// Plastic.
    Plastic,
    /// Glass.
    Glass,
    /// Polished metal: a bearing.
    Metal,
}

/// What dresses a rig.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Dressing {
    /// Vinyl squid skirt.
    Squid,
    /// Silicone skirt.
    SiliconeSkirt,
    /// Tinsel skirt or fly.
    Tinsel,
    /// Foam float.
    FoamFloat,
    /// Bait head cap.
    BaitHeadCap,
}

/// What is on the hooks.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Bait {
    /// A whole crawler.
    Crawler,
    /// Half a crawler.
    HalfCrawler,
    /// An inch of worm.
    WormPiece,
    /// A leech.
    Leech,
    /// A whole small fish.
    BaitFish,
}

/// A colour or metal, with the two letters that stand for it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Colour {
    /// Brass.
    Brass,
    /// Copper.
    Copper,
    /// Nickel.
    Nickel,
    /// Chartreuse.
    Chartreuse,
    /// Orange.
    Orange,
    /// Pink.
    Pink,
    /// White.
    White,
    /// Purple.
    Purple,
}

/// The finish of a blade.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Finish {
    /// Metal or paint.
    pub colour: Colour,
    /// Whether it is hammered.
    pub hammered: bool,
}

keyed!(BeadMaterial { Plastic "plastic" "plastic", Glass "glass" "glass", Metal "metal" "metal" });
keyed!(Dressing {
    Squid "squid" "squid",
    SiliconeSkirt "silicone_skirt" "silicone skirt",
    Tinsel "tinsel" "tinsel",
    FoamFloat "foam_float" "foam float",
    BaitHeadCap "bait_head_cap" "bait head cap",
});
keyed!(Bait {
    Crawler "crawler" "crawler",
    HalfCrawler "half_crawler" "half crawler",
    WormPiece "worm_piece" "inch of worm",
    Leech "leech" "leech",
    BaitFish "bait_fish" "bait fish",
});
keyed!(Colour {
    Brass "BR" "brass",
    Copper "CU" "copper",
    Nickel "NI" "nickel",
    Chartreuse "CH" "chartreuse",
    Orange "OR" "orange",
    Pink "PK" "pink",
    White "WH" "white",
    Purple "PU" "purple",
});

/// Density of worms, leeches and bait fish; from memory.
const BAIT_DENSITY: KilogramsPerCubicMetre = KilogramsPerCubicMetre(1_050.0);
/// How far a bait sags below the axis (fitted, see the rig module's head).
const BAIT_SAG: Metres = Metres(13.2e-3);

impl Finish {
    /// A smooth finish.
    pub fn plain(colour: Colour) -> Self {
        Self {
            colour,
            hammered: false,
        }
    }
}

impl Colour {
    /// Whether it is bare metal.
    pub fn is_metal(self) -> bool {
        matches!(self, Self::Brass | Self::Copper | Self::Nickel)
    }
}

impl BeadMaterial {
    fn density(self) -> KilogramsPerCubicMetre {
        match self {
            Self::Plastic => KilogramsPerCubicMetre(1_150.0),
            Self::Glass => KilogramsPerCubicMetre(2_500.0),
            Self::Metal => BRASS,
        }
    }
}

impl Bait {
    /// Its mass; from memory.
    fn mass(self) -> Kilograms {
        match self {
            Self::Crawler => 5.0 * GRAM,
            Self::HalfCrawler => 2.5 * GRAM,
            Self::WormPiece => 1.05 * GRAM,
            Self::Leech => 2.0 * GRAM,
            Self::BaitFish => 15.0 * GRAM,
        }
    }

    /// Drag area when it is straight: 1 cm² for a whole worm; from memory.
    fn drag_area(self) -> SquareMetres {
        SquareMetres(match self {
            Self::Crawler => 1.0e-4,
            Self::HalfCrawler | Self::Leech => 0.6e-4,
            Self::WormPiece => 0.3e-4,
            Self::BaitFish => 2.0e-4,
        })
    }
}

impl Dressing {
    /// Mass and density; from memory.
    fn mass_and_density(self) -> (Kilograms, KilogramsPerCubicMetre) {
        let (grams, density) = match self {
            Self::Squid => (1.5, 1_200.0),
            Self::SiliconeSkirt => (1.0, 1_150.0),
            Self::Tinsel => (0.5, 1_390.0),
            Self::FoamFloat => (0.2, 200.0),
            Self::BaitHeadCap => (3.0, 1_100.0),
        };
        (grams * GRAM, KilogramsPerCubicMetre(density))
    }

    /// Drag area beside the hardware's: a treble with a skirt comes to 1.5 cm²; from memory.
    fn drag_area(self) -> SquareMetres {
        SquareMetres(match self {
            Self::Squid | Self::SiliconeSkirt | Self::Tinsel => 1.0e-4,
            Self::FoamFloat => 0.3e-4,
            Self::BaitHeadCap => 0.8e-4,
        })
    }
}

impl Part {
    /// The blade, if the part is one.
    pub fn blade(&self) -> Option<&Blade> {
        match self {
            Self::Blade { blade, .. } => Some(blade),
            _ => None,
        }
    }

    /// Weight under water, N.
    pub(super) fn submerged_weight(&self, water: &Water) -> f64 {
        let weigh = |mass: Kilograms, density| mass.0 * GRAVITY * water.submerged_share(density);
        match self {
            Self::Swivel { .. } => weigh(0.4 * GRAM, BRASS),
            Self::Blade { blade, .. } => {
                let mass = blade.plan_area().0 * blade.thickness.0 * blade.density.0;
                weigh(Kilograms(mass), blade.density)
            }
            Self::Beads {
                count,
                diameter,
                material,
                ..
            } => {
                let volume = PI / 6.0 * diameter.0.powi(3) * f64::from(*count);
                weigh(Kilograms(volume * material.density().0), material.density())
            }
            Self::Body { mass, .. } => weigh(*mass, BRASS),
            Self::Dressing { dressing, .. } => {
                let (mass, density) = dressing.mass_and_density();
                weigh(mass, density)
            }
            Self::Hook(hook) => hook.submerged_weight(water),
            Self::Bait(bait) => weigh(bait.mass(), BAIT_DENSITY),
        }
    }

    /// Moment by which it holds the rig upright, N·m.
    pub(super) fn moment(&self, water: &Water) -> f64 {
        match self {
            Self::Hook(hook) => hook.submerged_weight(water) * hook.offset().0,
            Self::Bait(_) => self.submerged_weight(water).max(0.0) * BAIT_SAG.0,
            _ => 0.0,
        }
    }

    /// Drag area beside that of the blades and the common hardware.
    pub(super) fn drag_area(&self) -> SquareMetres {
        match self {
            // A body trolls in its own shadow line: 0.3 on its frontal area; from memory.
            Self::Body { diameter, .. } => SquareMetres(0.3 * PI / 4.0 * diameter.0.powi(2)),
            Self::Dressing { dressing, .. } => dressing.drag_area(),
            Self::Bait(bait) => bait.drag_area(),
            Self::Swivel { .. } | Self::Blade { .. } | Self::Beads { .. } | Self::Hook(_) => {
                SquareMetres(0.0)
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{Celsius, MILLIMETRE};

    #[test]
    fn foam_carries_and_glass_sinks() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let foam = Part::Dressing {
            dressing: Dressing::FoamFloat,
            colour: Colour::Orange,
        };
        let glass = Part::Beads {
            count: 5,
            diameter: 6.0 * MILLIMETRE,
            material: BeadMaterial::Glass,
            colour: Colour::Orange,
        };
        assert!(foam.submerged_weight(&lake) < 0.0);
        assert!(glass.submerged_weight(&lake) > 0.0);
    }
}
