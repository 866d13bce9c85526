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
    /// A whole one threaded up the leader.
    ThreadedCrawler,
    /// Three quarters of one.
    MostCrawler,
    /// Half a crawler.
    HalfCrawler,
    /// An inch of worm.
    WormPiece,
    /// Half an inch of worm.
    HalfInch,
    /// A quarter of an inch of worm.
    QuarterInch,
    /// A leech.
    Leech,
    /// A whole small fish.
    BaitFish,
    /// A strip cut from a fish's side.
    Strip,
    /// Kernels of corn.
    Corn,
    /// An egg.
    Egg,
    /// Dough.
    Dough,
    /// A soft plastic grub's tail.
    GrubTail,
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
    ThreadedCrawler "threaded_crawler" "threaded crawler",
    MostCrawler "three_quarter_crawler" "three-quarter crawler",
    HalfCrawler "half_crawler" "half crawler",
    WormPiece "worm_piece" "inch of worm",
    HalfInch "half_inch_worm" "half inch of worm",
    QuarterInch "quarter_inch_worm" "quarter inch of worm",
    Leech "leech" "leech",
    BaitFish "bait_fish" "bait fish",
    Strip "strip" "fish strip",
    Corn "corn" "corn",
    Egg "egg" "egg",
    Dough "dough" "dough",
    GrubTail "grub_tail" "grub tail",
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

/// Usual figures of a bait; from memory.
struct BaitTable {
    /// Length, mm.
    length: f64,
    /// Thickness across, mm.
    across: f64,
    /// Mass, g.
    grams: f64,
    /// Drag area when it is straight, cm²: 1 for a whole worm.
    drag: f64,
}

impl Bait {
    fn table(self) -> BaitTable {
        let (length, across, grams, drag) = match self {
            Self::Crawler => (125.0, 5.0, 5.0, 1.0),
            Self::ThreadedCrawler => (115.0, 6.0, 5.0, 0.8),
            Self::MostCrawler => (95.0, 5.0, 3.8, 0.8),
            Self::HalfCrawler => (65.0, 5.0, 2.5, 0.6),
            Self::WormPiece => (25.0, 5.0, 1.05, 0.3),
            Self::HalfInch => (13.0, 5.0, 0.5, 0.2),
            Self::QuarterInch => (6.0, 5.0, 0.25, 0.1),
            Self::Leech => (60.0, 8.0, 2.0, 0.6),
            Self::BaitFish => (120.0, 16.0, 15.0, 2.0),
            Self::Strip => (70.0, 8.0, 2.5, 0.5),
            Self::Corn => (12.0, 9.0, 0.6, 0.2),
            Self::Egg => (8.0, 8.0, 0.3, 0.2),
            Self::Dough => (14.0, 12.0, 1.5, 0.5),
            Self::GrubTail => (40.0, 8.0, 1.5, 0.5),
        };
        BaitTable {
            length,
            across,
            grams,
            drag,
        }
    }

    pub(super) fn grams(self) -> f64 {
        self.table().grams
    }

    /// Usual length.
    pub(super) fn length(self) -> f64 {
        self.table().length * 1e-3
    }

    /// Drag area when it is straight.
    pub(super) fn drag_area(self) -> SquareMetres {
        SquareMetres(self.table().drag * 1e-4)
    }

    /// Whether it is a worm, which a bent shank can bend.
    pub fn is_worm(self) -> bool {
        matches!(
            self,
            Self::Crawler
                | Self::ThreadedCrawler
                | Self::MostCrawler
                | Self::HalfCrawler
                | Self::WormPiece
                | Self::HalfInch
                | Self::QuarterInch
        )
    }

    /// How long it stays fresh on the hook (common practice, no source: fresh bait at short strikes; the minutes are from
    /// memory). Plastic stays.
    pub fn fresh_minutes(self) -> Option<u16> {
        match self {
            Self::Crawler | Self::ThreadedCrawler | Self::MostCrawler | Self::HalfCrawler => {
                Some(30)
            }
            Self::WormPiece | Self::HalfInch | Self::QuarterInch | Self::Egg | Self::Dough => {
                Some(20)
            }
            Self::Leech => Some(60),
            Self::BaitFish | Self::Strip | Self::Corn => Some(45),
            Self::GrubTail => None,
        }
    }

    /// Thickness across.
    pub(super) fn thickness(self) -> Metres {
        Metres(self.table().across * 1e-3)
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
