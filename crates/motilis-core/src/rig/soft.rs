//! What is soft on a rig: dressings and bait, with their figures from memory.

use super::Material;
use crate::keyed::keyed;
use crate::units::{Metres, SquareMetres};

/// What dresses a rig.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Dressing {
    /// Vinyl squid skirt.
    Squid,
    /// Silicone skirt.
    SiliconeSkirt,
    /// Tinsel skirt or fly.
    Tinsel,
    /// Hair.
    Hair,
    /// Foam float.
    FoamFloat,
    /// Bait head cap: a cap that makes a whole bait spin.
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
    /// Kernels of corn.
    Corn,
}

keyed!(Dressing {
    Squid "squid" "squid",
    SiliconeSkirt "silicone_skirt" "silicone skirt",
    Tinsel "tinsel" "tinsel",
    Hair "hair" "hair",
    FoamFloat "foam_float" "foam float",
    BaitHeadCap "bait_head_cap" "bait head cap",
});
keyed!(Bait {
    Crawler "crawler" "crawler",
    HalfCrawler "half_crawler" "half crawler",
    WormPiece "worm_piece" "inch of worm",
    Leech "leech" "leech",
    BaitFish "bait_fish" "bait fish",
    Corn "corn" "corn",
});

/// Usual figures of a dressing, mm and g; from memory.
pub(super) struct DressingTable {
    /// Whole length.
    pub length: f64,
    /// What its collar takes on the shaft.
    pub collar: f64,
    /// Diameter of its head.
    pub diameter: f64,
    /// Mass.
    pub grams: f64,
}

impl Dressing {
    pub(super) fn table(self) -> DressingTable {
        let (length, collar, diameter, grams) = match self {
            Self::Squid => (60.0, 5.0, 7.0, 1.5),
            Self::SiliconeSkirt => (50.0, 6.0, 6.0, 1.0),
            Self::Tinsel => (45.0, 3.0, 4.0, 0.5),
            Self::Hair => (40.0, 4.0, 4.0, 0.4),
            Self::FoamFloat => (14.0, 14.0, 9.0, 0.2),
            Self::BaitHeadCap => (30.0, 16.0, 14.0, 3.0),
        };
        DressingTable {
            length,
            collar,
            diameter,
            grams,
        }
    }

    /// Whether it is a skirt that reaches over the hook.
    pub fn is_skirt(self) -> bool {
        matches!(
            self,
            Self::Squid | Self::SiliconeSkirt | Self::Tinsel | Self::Hair
        )
    }

    pub(super) fn material(self) -> Material {
        match self {
            Self::Squid | Self::BaitHeadCap => Material::Vinyl,
            Self::SiliconeSkirt => Material::Silicone,
            Self::Tinsel | Self::Hair => Material::Tinsel,
            Self::FoamFloat => Material::Foam,
        }
    }

    /// Drag area beside the hardware's: a treble with a skirt comes to 1.5 cm².
    pub(super) fn drag_area(self) -> SquareMetres {
        SquareMetres(match self {
            Self::Squid | Self::SiliconeSkirt | Self::Tinsel | Self::Hair => 1.0e-4,
            Self::FoamFloat => 0.3e-4,
            Self::BaitHeadCap => 0.8e-4,
        })
    }
}

impl Bait {
    pub(super) fn grams(self) -> f64 {
        match self {
            Self::Crawler => 5.0,
            Self::HalfCrawler => 2.5,
            Self::WormPiece => 1.05,
            Self::Leech => 2.0,
            Self::BaitFish => 15.0,
            Self::Corn => 0.6,
        }
    }

    /// Usual length.
    pub(super) fn length(self) -> f64 {
        match self {
            Self::Crawler => 0.125,
            Self::HalfCrawler => 0.065,
            Self::WormPiece => 0.025,
            Self::Leech => 0.06,
            Self::BaitFish => 0.12,
            Self::Corn => 0.012,
        }
    }

    /// Drag area when it is straight: 1 cm² for a whole worm.
    pub(super) fn drag_area(self) -> SquareMetres {
        SquareMetres(match self {
            Self::Crawler => 1.0e-4,
            Self::HalfCrawler | Self::Leech => 0.6e-4,
            Self::WormPiece => 0.3e-4,
            Self::BaitFish => 2.0e-4,
            Self::Corn => 0.2e-4,
        })
    }

    /// Whether it is a worm, which a bent shank can bend.
    pub(super) fn is_worm(self) -> bool {
        matches!(self, Self::Crawler | Self::HalfCrawler | Self::WormPiece)
    }

    /// Thickness across; from memory.
    pub(super) fn thickness(self) -> Metres {
        Metres(match self {
            Self::Crawler | Self::HalfCrawler | Self::WormPiece => 5e-3,
            Self::Leech => 8e-3,
            Self::BaitFish => 16e-3,
            Self::Corn => 9e-3,
        })
    }

    /// How far it sags below the axis (fitted, see the rig module's head).
    #[allow(
        clippy::unused_self,
        reason = "every bait sags alike until somebody measures one"
    )]
    pub(super) fn sag(self) -> Metres {
        Metres(13.2e-3)
    }
}
