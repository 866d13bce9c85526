use super::clevis::CLEVIS;
use super::{Bait, Dressing, HookSize, HookStyle, Material};
use crate::blade::Family;
use crate::keyed::keyed;
use crate::tackle::{LineMaterial, LineStock};

/// What a part is, with its shape.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum What {
    /// A blade; its size is the trade's number, for wings the span in inches.
    Blade(Family),
    /// A clevis; its size is its number.
    Clevis(ClevisStyle),
    /// A bead; its size is its diameter in mm.
    Bead(BeadStyle),
    /// A body of metal; its size is its mass in g.
    Body(BodyShape),
    /// A skirt, fly, float or cap; its size is its length in mm.
    Dressing(Dressing),
    /// A hook; its size is its number, minus the aught.
    Hook(HookStyle),
    /// A swivel or snap; its size is its length in mm.
    Swivel(SwivelStyle),
    /// Hook tubing; its size is its length in mm.
    Tubing,
    /// An attractor; its size is its length in inches.
    Attractor(AttractorStyle),
    /// A trolling rudder against twist; its size is its length in mm.
    Rudder,
    /// A bait; its size is its length in mm.
    Bait(Bait),
    /// Line off the spool; its size is its strength in lb.
    Line(LineMaterial),
    /// Spring wire; its size is its diameter in thousandths of an inch.
    Wire,
}

/// How a clevis carries its blade.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum ClevisStyle {
    /// A bent wire or strip with two holes.
    Stirrup,
    /// Folded sheet.
    Folded,
    /// Lets a blade be swapped.
    QuickChange,
}

/// The surface of a bead.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum BeadStyle {
    /// Smooth: a clevis turns on it.
    Round,
    /// Cut: flashes, but wears a clevis.
    Faceted,
}

/// The shape of a body.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum BodyShape {
    /// Slim and dense: sinks fast.
    Torpedo,
    /// Large: catches current, stays up.
    Bell,
    /// A short ring.
    Ring,
    /// An egg sinker hidden under a skirt.
    TailWeight,
}

/// A swivel, with or without a snap.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum SwivelStyle {
    /// Barrel.
    Barrel,
    /// Ball bearing.
    BallBearing,
    /// A snap alone.
    Snap,
    /// Barrel with a snap.
    SnapSwivel,
    /// Split ring.
    SplitRing,
    /// A clip that is tied once and changes rigs by hand.
    Clip,
    /// A snubber: rubber that gives at the strike.
    Snubber,
}

/// What swings or turns ahead of a rig.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum AttractorStyle {
    /// Swings side to side.
    Dodger,
    /// Turns full circles.
    RotatingFlasher,
    /// Several blades on a cable.
    BladeString,
    /// A wing.
    Wing,
}

keyed!(ClevisStyle { Stirrup "stirrup" "stirrup clevis", Folded "folded" "folded clevis", QuickChange "quick_change" "quick-change clevis" });
keyed!(BeadStyle { Round "round" "bead", Faceted "faceted" "faceted bead" });
keyed!(BodyShape { Torpedo "torpedo" "torpedo body", Bell "bell" "bell body", Ring "ring" "ring body", TailWeight "tail_weight" "tail weight" });
keyed!(SwivelStyle { Barrel "barrel" "barrel swivel", BallBearing "ball_bearing" "ball-bearing swivel", Snap "snap" "snap", SnapSwivel "snap_swivel" "snap swivel", SplitRing "split_ring" "split ring", Clip "clip" "clip", Snubber "snubber" "snubber" });
keyed!(AttractorStyle { Dodger "dodger" "dodger", RotatingFlasher "rotating_flasher" "rotating flasher", BladeString "blade_string" "blade string", Wing "wing" "wing attractor" });

impl What {
    /// Every kind of part in every shape.
    pub fn all() -> impl Iterator<Item = Self> {
        fn each<T: Copy>(all: &'static [T], what: fn(T) -> What) -> impl Iterator<Item = What> {
            all.iter().map(move |one| what(*one))
        }
        each(Family::ALL, What::Blade)
            .chain(each(ClevisStyle::ALL, What::Clevis))
            .chain(each(BeadStyle::ALL, What::Bead))
            .chain(each(BodyShape::ALL, What::Body))
            .chain(each(Dressing::ALL, What::Dressing))
            .chain(each(HookStyle::ALL, What::Hook))
            .chain(each(SwivelStyle::ALL, What::Swivel))
            .chain([What::Tubing])
            .chain(each(AttractorStyle::ALL, What::Attractor))
            .chain([What::Rudder])
            .chain(each(Bait::ALL, What::Bait))
            .chain(each(LineMaterial::ALL, What::Line))
            .chain([What::Wire])
    }

    /// Group and style, as files name them.
    pub fn keys(self) -> (&'static str, &'static str) {
        match self {
            Self::Blade(family) => ("blade", family.key()),
            Self::Clevis(style) => ("clevis", style.key()),
            Self::Bead(style) => ("bead", style.key()),
            Self::Body(shape) => ("body", shape.key()),
            Self::Dressing(dressing) => ("dressing", dressing.key()),
            Self::Hook(style) => ("hook", style.key()),
            Self::Swivel(style) => ("swivel", style.key()),
            Self::Tubing => ("tubing", "hook_tubing"),
            Self::Attractor(style) => ("attractor", style.key()),
            Self::Rudder => ("rudder", "trolling_rudder"),
            Self::Bait(bait) => ("bait", bait.key()),
            Self::Line(material) => ("line", material.key()),
            Self::Wire => ("wire", "spring_wire"),
        }
    }

    /// The kind of part of a group and a style.
    pub fn from_keys(group: &str, style: &str) -> Option<Self> {
        Self::all().find(|what| what.keys() == (group, style))
    }

    /// What an angler calls it.
    pub fn name(self) -> &'static str {
        match self {
            Self::Blade(family) => family.name(),
            Self::Clevis(style) => style.name(),
            Self::Bead(style) => style.name(),
            Self::Body(shape) => shape.name(),
            Self::Dressing(dressing) => dressing.name(),
            Self::Hook(style) => style.name(),
            Self::Swivel(style) => style.name(),
            Self::Tubing => "hook tubing",
            Self::Attractor(style) => style.name(),
            Self::Rudder => "trolling rudder",
            Self::Bait(bait) => bait.name(),
            Self::Line(material) => material.name(),
            Self::Wire => "spring wire",
        }
    }

    /// Whether it is bought by the metre.
    pub fn is_by_length(self) -> bool {
        matches!(self, Self::Line(_) | Self::Wire)
    }

    /// What it is made of unless somebody says otherwise.
    pub fn usual_material(self) -> Material {
        match self {
            Self::Blade(Family::SoftWing) => Material::Film,
            Self::Blade(Family::HardWing)
            | Self::Clevis(ClevisStyle::QuickChange)
            | Self::Rudder => Material::HardPlastic,
            Self::Attractor(style) => style.material(),
            Self::Swivel(SwivelStyle::SplitRing | SwivelStyle::Clip) | Self::Wire => {
                Material::Steel
            }
            Self::Swivel(SwivelStyle::Snubber) => Material::Silicone,
            Self::Blade(_) | Self::Clevis(_) | Self::Body(_) | Self::Swivel(_) => Material::Brass,
            Self::Bead(BeadStyle::Round) => Material::Plastic,
            Self::Bead(BeadStyle::Faceted) => Material::Glass,
            Self::Dressing(dressing) => dressing.material(),
            Self::Hook(_) => Material::Steel,
            Self::Tubing => Material::Vinyl,
            Self::Bait(_) => Material::Flesh,
            Self::Line(_) => Material::Line,
        }
    }

    /// Sizes of the trade to choose from; other sizes are taken where a ruler can tell them.
    pub fn sizes(self) -> Vec<f64> {
        match self {
            Self::Blade(family) => family.numbers(),
            Self::Clevis(_) => CLEVIS.iter().map(|row| row.number).collect(),
            // 5/32, 3/16, 1/4 and 5/16 in stand between the metric ones.
            Self::Bead(_) => vec![3.0, 3.97, 4.0, 4.76, 5.0, 6.0, 6.35, 7.94, 8.0],
            Self::Body(_) => vec![2.0, 3.0, 4.0, 5.0, 7.0, 10.0, 14.0],
            Self::Dressing(dressing) => vec![dressing.table().length],
            Self::Hook(_) => HookSize::all().map(|size| f64::from(size.code())).collect(),
            Self::Swivel(SwivelStyle::Snubber) => vec![200.0, 300.0],
            Self::Swivel(SwivelStyle::SplitRing) => vec![5.0, 7.0, 9.0],
            Self::Swivel(_) => vec![10.0, 14.0, 18.0, 22.0],
            Self::Tubing => vec![15.0, 25.0, 40.0],
            Self::Attractor(_) => vec![4.0, 6.0, 8.0, 11.0],
            Self::Rudder => vec![60.0],
            Self::Bait(bait) => vec![bait.length() * 1e3],
            Self::Line(material) => LineStock::catalogue()
                .filter(|stock| stock.material == material)
                .map(|stock| f64::from(stock.test_lb))
                .collect(),
            Self::Wire => vec![20.0, 24.0, 26.0, 28.0, 30.0, 35.0, 40.0],
        }
    }

    /// A size as the trade writes it.
    pub(super) fn size_word(self, size: f64) -> String {
        match self {
            Self::Hook(_) if size < 0.0 => format!("{}/0", -size),
            Self::Blade(family) if family.is_wing() => format!("{size} in"),
            Self::Blade(_) | Self::Clevis(_) | Self::Hook(_) => format!("{size}"),
            Self::Bead(_) => {
                inch_fraction(size).map_or_else(|| format!("{size} mm"), str::to_owned)
            }
            Self::Body(_) => format!("{size} g"),
            Self::Attractor(_) => format!("{size} in"),
            Self::Line(_) => format!("{size} lb"),
            Self::Wire => format!("{:.3} in", size * 1e-3),
            Self::Dressing(_) | Self::Swivel(_) | Self::Tubing | Self::Rudder | Self::Bait(_) => {
                format!("{size} mm")
            }
        }
    }

    /// Whether only sizes of the list exist.
    pub(super) fn is_numbered(self) -> bool {
        matches!(
            self,
            Self::Blade(_) | Self::Clevis(_) | Self::Hook(_) | Self::Line(_)
        )
    }
}

/// The fraction of an inch a bead is sold by, where it is.
fn inch_fraction(millimetres: f64) -> Option<&'static str> {
    [
        (3.97, "5/32 in"),
        (4.76, "3/16 in"),
        (6.35, "1/4 in"),
        (7.94, "5/16 in"),
    ]
    .into_iter()
    .find(|(listed, _)| (listed - millimetres).abs() < 0.005)
    .map(|(_, word)| word)
}
