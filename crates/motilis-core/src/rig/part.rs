use super::{Bait, Colour, Dressing, Finish, Hook, HookSize, HookStyle, Material};
use crate::blade::{Blade, Family};
use crate::error::{Error, Range};
use crate::keyed::keyed;
use crate::tackle::{LineMaterial, LineStock};
use crate::units::{GRAM, GRAVITY, INCH, Kilograms, MILLIMETRE, Metres, SquareMetres};
use crate::water::Water;
use std::f64::consts::PI;

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
keyed!(SwivelStyle { Barrel "barrel" "barrel swivel", BallBearing "ball_bearing" "ball-bearing swivel", Snap "snap" "snap", SnapSwivel "snap_swivel" "snap swivel" });
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
            | Self::Attractor(AttractorStyle::Wing)
            | Self::Rudder => Material::HardPlastic,
            Self::Blade(_)
            | Self::Clevis(_)
            | Self::Body(_)
            | Self::Swivel(_)
            | Self::Attractor(_) => Material::Brass,
            Self::Bead(BeadStyle::Round) => Material::Plastic,
            Self::Bead(BeadStyle::Faceted) => Material::Glass,
            Self::Dressing(dressing) => dressing.material(),
            Self::Hook(_) | Self::Wire => Material::Steel,
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

    /// Whether only sizes of the list exist.
    fn is_numbered(self) -> bool {
        matches!(
            self,
            Self::Blade(_) | Self::Clevis(_) | Self::Hook(_) | Self::Line(_)
        )
    }
}

/// A row of the table of clevises, mm and g.
struct ClevisRow {
    number: f64,
    width: f64,
    reach: f64,
    bore: f64,
    grams: f64,
    carries: (f64, f64),
}

const fn clevis(
    number: f64,
    [width, reach, bore, grams]: [f64; 4],
    carries: (f64, f64),
) -> ClevisRow {
    ClevisRow {
        number,
        width,
        reach,
        bore,
        grams,
        carries,
    }
}

/// Number; width on the shaft, reach from the shaft to the blade's hole, bore and mass; the blade
/// numbers it carries. From memory.
const CLEVIS: &[ClevisRow] = &[
    clevis(1.0, [2.6, 3.5, 0.95, 0.10], (0.0, 2.0)),
    clevis(2.0, [3.2, 4.5, 1.10, 0.15], (2.0, 4.0)),
    clevis(3.0, [4.0, 5.5, 1.25, 0.22], (4.0, 6.0)),
    clevis(4.0, [5.0, 7.0, 1.45, 0.35], (5.0, 8.0)),
];

/// Figures somebody took with a caliper or a scale, in place of the table's.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Measured {
    /// Length: of a blade, a body, a shank; what a bead or clevis takes on the shaft.
    pub length: Option<Metres>,
    /// Width of a blade, gap of a hook.
    pub width: Option<Metres>,
    /// Thickness of sheet, wire of a hook.
    pub thickness: Option<Metres>,
    /// Outer diameter; of a hook or swivel that of its eye; of line and wire its own.
    pub diameter: Option<Metres>,
    /// Diameter of the hole.
    pub bore: Option<Metres>,
    /// Mass of one.
    pub mass: Option<Kilograms>,
}

/// One part: what it is, its size, what it is made of and how it looks.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Part {
    what: What,
    size: f64,
    /// What it is made of.
    pub material: Material,
    /// The face of a blade, or the whole of any other part.
    pub finish: Finish,
    /// The back of a blade where it differs.
    pub back: Option<Finish>,
    measured: Measured,
}

/// Length of a part.
pub const LENGTH: Range = Range::above(0.0, 1.0, "m", "above 0 and at most 1 m");
/// Width, diameter or bore of a part.
pub const WIDTH: Range = Range::above(0.0, 0.2, "m", "above 0 and at most 200 mm");
/// Thickness of sheet or wire.
pub const THICKNESS: Range = Range::above(0.0, 0.02, "m", "above 0 and at most 20 mm");
/// Mass of a part.
pub const MASS: Range = Range::above(0.0, 5.0, "kg", "above 0 and at most 5 kg");
const SIZE: Range = Range::above(0.0, 2_000.0, "", "above 0 and at most 2 000");

/// Height of play of a wing on its shaft beside its sheet.
const WING_PLAY: Metres = Metres(0.5e-3);

impl Part {
    /// A part of a trade size in its usual material.
    ///
    /// # Errors
    /// [`Error::Contradiction`] for a number the trade does not make, [`Error::OutOfRange`] for a size
    /// that nothing has.
    pub fn new(what: What, size: f64, finish: Finish) -> Result<Self, Error> {
        if what.is_numbered()
            && !what
                .sizes()
                .iter()
                .any(|listed| (listed - size).abs() < 1e-6)
        {
            let listed: Vec<String> = what
                .sizes()
                .into_iter()
                .map(|size| size_word(what, size))
                .collect();
            return Err(Error::contradiction(
                "size",
                format!(
                    "{} has no size {}; it comes in {}",
                    what.name(),
                    size_word(what, size),
                    listed.join(", ")
                ),
            ));
        }
        if !what.is_numbered() {
            SIZE.check("size", size)?;
        }
        Ok(Self {
            what,
            size,
            material: what.usual_material(),
            finish,
            back: None,
            measured: Measured::default(),
        })
    }

    /// The same part of another material.
    pub fn of(self, material: Material) -> Self {
        Self { material, ..self }
    }

    /// The same part with another back.
    pub fn backed(self, back: Option<Finish>) -> Self {
        Self { back, ..self }
    }

    /// The same part with figures of the angler's own in place of the table's.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the figure's field; [`Error::Contradiction`] for a hole as wide as
    /// the part.
    pub fn measured(self, measured: Measured) -> Result<Self, Error> {
        let check = |range: &Range, field, value: Option<f64>| {
            value.map_or(Ok(()), |value| range.check(field, value).map(|_| ()))
        };
        check(&LENGTH, "length_m", measured.length.map(|m| m.0))?;
        check(&WIDTH, "width_m", measured.width.map(|m| m.0))?;
        check(&THICKNESS, "thickness_m", measured.thickness.map(|m| m.0))?;
        check(&WIDTH, "diameter_m", measured.diameter.map(|m| m.0))?;
        check(&WIDTH, "bore_m", measured.bore.map(|m| m.0))?;
        check(&MASS, "mass_kg", measured.mass.map(|m| m.0))?;
        let part = Self { measured, ..self };
        if let What::Blade(family) = self.what {
            part.as_blade(family)?;
        }
        let holed = matches!(
            self.what,
            What::Bead(_) | What::Body(_) | What::Hook(_) | What::Swivel(_)
        );
        if holed && part.bore() >= part.diameter() {
            return Err(Error::contradiction(
                "bore_m",
                format!(
                    "the hole of {:.2} mm is as wide as the part of {:.2} mm; correct one of the two",
                    part.bore() / MILLIMETRE,
                    part.diameter() / MILLIMETRE
                ),
            ));
        }
        Ok(part)
    }

    /// What it is.
    pub fn what(&self) -> What {
        self.what
    }

    /// Its size in the trade's own count; see [`What`].
    pub fn size(&self) -> f64 {
        self.size
    }

    /// Whether another part is of the same kind and trade size, whatever its finish.
    pub fn is_same_size(&self, other: &Self) -> bool {
        self.what == other.what && (self.size - other.size).abs() < 1e-9
    }

    /// The size as the trade writes it: "4", "3/0", "6 mm", "1/4 in".
    pub fn size_word(&self) -> String {
        size_word(self.what, self.size)
    }

    /// The figures somebody measured.
    pub fn own_figures(&self) -> Measured {
        self.measured
    }

    /// The blade, if it is one.
    pub fn blade(&self) -> Option<Blade> {
        let What::Blade(family) = self.what else {
            return None;
        };
        Some(
            self.as_blade(family)
                .expect("`measured` takes what the blade's ranges hold only"),
        )
    }

    /// The blade of a family with the figures measured in place of the table's.
    fn as_blade(&self, family: Family) -> Result<Blade, Error> {
        let blade = Blade::of_size(family, self.size)?;
        let length = self.measured.length.unwrap_or(blade.length);
        // A measured length of an unmeasured width keeps the family's proportion.
        let width = self
            .measured
            .width
            .unwrap_or(blade.width * (length / blade.length));
        let thickness = self.measured.thickness.unwrap_or(blade.thickness);
        Blade::new(family, length, width, thickness, self.material.density())
    }

    /// The hook, if it is one.
    pub fn hook(&self) -> Option<Hook> {
        let What::Hook(style) = self.what else {
            return None;
        };
        let size =
            HookSize::from_code(self.size as i8).expect("`new` takes sizes of the table only");
        Some(Hook { style, size })
    }

    /// The bait, if it is one.
    pub fn bait(&self) -> Option<Bait> {
        match self.what {
            What::Bait(bait) => Some(bait),
            _ => None,
        }
    }

    /// The line, if it is one.
    pub fn line(&self) -> Option<LineStock> {
        let What::Line(material) = self.what else {
            return None;
        };
        let stock = LineStock::of_test(material, self.size as u16)
            .expect("`new` takes strengths of the catalogue only");
        Some(LineStock {
            diameter: self.measured.diameter.unwrap_or(stock.diameter),
            ..stock
        })
    }

    fn clevis(&self) -> Option<&'static ClevisRow> {
        matches!(self.what, What::Clevis(_)).then(|| {
            CLEVIS
                .iter()
                .find(|row| (row.number - self.size).abs() < 1e-6)
        })?
    }

    /// Blade numbers a clevis carries; a quick-change one takes a number more either way.
    pub fn carries(&self) -> Option<(f64, f64)> {
        let (from, to) = self.clevis()?.carries;
        let more = f64::from(self.what == What::Clevis(ClevisStyle::QuickChange));
        Some((from - more, to + more))
    }

    /// From the shaft to the hole of the blade on a clevis.
    pub fn reach(&self) -> Metres {
        self.clevis()
            .map_or(Metres(0.0), |row| row.reach * MILLIMETRE)
    }

    /// Length: of a blade, a body, a shank; of a bead or clevis along the shaft.
    pub fn length(&self) -> Metres {
        if let Some(measured) = self.measured.length {
            return measured;
        }
        let millimetres = match self.what {
            What::Blade(_) => return self.blade().map_or(Metres(0.0), |blade| blade.length),
            What::Hook(_) => return self.hook().map_or(Metres(0.0), |hook| hook.shank()),
            What::Clevis(_) => self.clevis().map_or(0.0, |row| row.width),
            What::Body(shape) => return shape.proportion().0 * self.diameter(),
            What::Attractor(_) => return self.size * INCH,
            What::Line(_) | What::Wire => 0.0,
            What::Bead(_)
            | What::Dressing(_)
            | What::Swivel(_)
            | What::Tubing
            | What::Rudder
            | What::Bait(_) => self.size,
        };
        millimetres * MILLIMETRE
    }

    /// What it takes on the shaft or leader between its neighbours.
    pub fn threaded(&self) -> Metres {
        match self.what {
            What::Clevis(_) | What::Bead(_) | What::Body(_) | What::Rudder => self.length(),
            What::Dressing(dressing) => dressing.table().collar * MILLIMETRE,
            What::Blade(family) if family.is_wing() => self.thickness() + WING_PLAY,
            // The shaft runs in and out of the blade itself over a third of it.
            What::Blade(Family::ThroughWireOval) => 0.35 * self.length(),
            What::Blade(_)
            | What::Hook(_)
            | What::Swivel(_)
            | What::Tubing
            | What::Attractor(_)
            | What::Bait(_)
            | What::Line(_)
            | What::Wire => Metres(0.0),
        }
    }

    /// Width of a blade, gap of a hook, greatest width of anything else.
    pub fn width(&self) -> Metres {
        if let Some(measured) = self.measured.width {
            return measured;
        }
        match self.what {
            What::Blade(_) => self.blade().map_or(Metres(0.0), |blade| blade.width),
            What::Hook(_) => self.hook().map_or(Metres(0.0), |hook| hook.gap()),
            What::Attractor(_) => 0.25 * self.length(),
            What::Rudder => 0.4 * self.length(),
            _ => self.diameter(),
        }
    }

    /// Thickness of a blade's sheet, wire of a hook.
    pub fn thickness(&self) -> Metres {
        if let Some(measured) = self.measured.thickness {
            return measured;
        }
        match self.what {
            What::Blade(_) => self.blade().map_or(Metres(0.0), |blade| blade.thickness),
            What::Hook(_) => self.hook().map_or(Metres(0.0), |hook| hook.wire()),
            What::Attractor(_) | What::Rudder => 0.9 * MILLIMETRE,
            _ => self.diameter(),
        }
    }

    /// Outer diameter: what a bead that slides against it meets.
    pub fn diameter(&self) -> Metres {
        if let Some(measured) = self.measured.diameter {
            return measured;
        }
        let millimetres = match self.what {
            What::Bead(_) => self.size,
            What::Hook(_) => return self.hook().map_or(Metres(0.0), |hook| hook.eye()),
            What::Body(shape) => {
                let (length, filled) = shape.proportion();
                let volume = self.mass().0 / self.material.density().0;
                return Metres((volume / (filled * length * PI / 4.0)).cbrt());
            }
            What::Dressing(dressing) => dressing.table().diameter,
            What::Clevis(_) => self.clevis().map_or(0.0, |row| row.width),
            What::Blade(_) => return self.width(),
            What::Swivel(_) => 0.28 * self.size,
            What::Tubing => 2.5,
            What::Attractor(_) | What::Bait(_) => 6.0,
            What::Rudder => 4.0,
            What::Line(_) => return self.line().map_or(Metres(0.0), |line| line.diameter),
            What::Wire => return self.size * 1e-3 * INCH,
        };
        millimetres * MILLIMETRE
    }

    /// Diameter of its hole; of a hook or swivel that of its eye.
    pub fn bore(&self) -> Metres {
        if let Some(measured) = self.measured.bore {
            return measured;
        }
        let millimetres = match self.what {
            // Small beads have proportionally large holes; from memory.
            What::Bead(_) => 0.23 * self.size + 0.08,
            What::Body(_) => 1.4,
            What::Dressing(_) => 1.2,
            What::Clevis(style) => {
                let wide = if style == ClevisStyle::QuickChange {
                    0.4
                } else {
                    0.0
                };
                self.clevis().map_or(0.0, |row| row.bore) + wide
            }
            What::Hook(_) => return self.hook().map_or(Metres(0.0), |hook| hook.eye_bore()),
            What::Blade(family) if family.is_wing() => 1.3,
            What::Blade(_) => 1.8,
            What::Swivel(_) => 0.16 * self.size,
            What::Tubing => 1.0,
            What::Attractor(_) => 3.0,
            What::Rudder => 1.6,
            What::Bait(_) | What::Line(_) | What::Wire => 0.0,
        };
        millimetres * MILLIMETRE
    }

    /// Mass of one; of line and wire nothing, they are weighed by the metre.
    pub fn mass(&self) -> Kilograms {
        if let Some(measured) = self.measured.mass {
            return measured;
        }
        let density = self.material.density().0;
        let grams = match self.what {
            What::Blade(_) => {
                let area = self.blade().map_or(0.0, |blade| blade.plan_area().0);
                return Kilograms(area * self.thickness().0 * density);
            }
            What::Bead(_) => {
                let (d, bore) = (self.diameter().0, self.bore().0);
                let hole = PI / 4.0 * bore * bore * d;
                return Kilograms((PI / 6.0 * d.powi(3) - hole) * density);
            }
            What::Body(_) => self.size,
            What::Dressing(dressing) => dressing.table().grams,
            What::Hook(_) => return self.hook().map_or(Kilograms(0.0), |hook| hook.mass()),
            What::Bait(bait) => bait.grams(),
            What::Clevis(_) => self.clevis().map_or(0.0, |row| row.grams),
            What::Swivel(_) => 0.4 * (self.size / 14.0).powi(2),
            What::Tubing => 0.1,
            What::Attractor(_) => {
                let area = 0.75 * self.length().0 * self.width().0;
                return Kilograms(area * self.thickness().0 * density);
            }
            What::Rudder => 1.5,
            What::Line(_) | What::Wire => 0.0,
        };
        grams * GRAM
    }

    /// Weight under water of one, N.
    pub fn submerged_weight(&self, water: &Water) -> f64 {
        self.mass().0 * GRAVITY * water.submerged_share(self.material.density())
    }

    /// Moment by which one holds the rig upright, N·m.
    pub(super) fn moment(&self, water: &Water) -> f64 {
        match self.what {
            What::Hook(_) => {
                let offset = self.hook().map_or(0.0, |hook| hook.offset().0);
                self.submerged_weight(water) * offset
            }
            What::Bait(bait) => self.submerged_weight(water).max(0.0) * bait.sag().0,
            // A keel of plastic that stands as deep as it is wide; from memory.
            What::Rudder => RUDDER_MOMENT,
            _ => 0.0,
        }
    }

    /// Drag area of one beside that of the blades and the common hardware.
    pub(super) fn drag_area(&self) -> SquareMetres {
        match self.what {
            // A body trolls in its own shadow line: 0.3 on its frontal area; from memory.
            What::Body(_) => SquareMetres(0.3 * PI / 4.0 * self.diameter().0.powi(2)),
            What::Dressing(dressing) => dressing.drag_area(),
            What::Bait(bait) => bait.drag_area(),
            // On its projected area at its swing; from memory.
            What::Attractor(style) => {
                let area = 0.75 * self.length().0 * self.width().0;
                let share = match style {
                    AttractorStyle::Dodger | AttractorStyle::Wing => 1.1 * 0.35,
                    AttractorStyle::RotatingFlasher | AttractorStyle::BladeString => 1.2 * 0.5,
                };
                SquareMetres(share * area)
            }
            What::Rudder => SquareMetres(0.5e-4),
            _ => SquareMetres(0.0),
        }
    }
}

/// Moment of a trolling rudder, N·m; from memory.
const RUDDER_MOMENT: f64 = 1.0e-4;

impl BodyShape {
    /// Length over diameter, and how much of its cylinder it fills; from memory.
    fn proportion(self) -> (f64, f64) {
        match self {
            Self::Torpedo => (3.2, 0.60),
            Self::Bell => (1.3, 0.45),
            Self::Ring => (0.8, 0.80),
            Self::TailWeight => (1.5, 0.667),
        }
    }
}

/// A size as the trade writes it.
fn size_word(what: What, size: f64) -> String {
    match what {
        What::Hook(_) if size < 0.0 => format!("{}/0", -size),
        What::Blade(family) if family.is_wing() => format!("{size} in"),
        What::Blade(_) | What::Clevis(_) | What::Hook(_) => format!("{size}"),
        What::Bead(_) => inch_fraction(size).map_or_else(|| format!("{size} mm"), str::to_owned),
        What::Body(_) => format!("{size} g"),
        What::Attractor(_) => format!("{size} in"),
        What::Line(_) => format!("{size} lb"),
        What::Wire => format!("{:.3} in", size * 1e-3),
        What::Dressing(_) | What::Swivel(_) | What::Tubing | What::Rudder | What::Bait(_) => {
            format!("{size} mm")
        }
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

/// The finish of parts nobody looks at.
pub const BARE: Finish = Finish {
    colour: Colour::Nickel,
    hammered: false,
};

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::Celsius;
    use approx::assert_relative_eq;
    use rstest::rstest;

    fn part(what: What, size: f64) -> Part {
        Part::new(what, size, BARE).unwrap()
    }

    #[test]
    fn every_kind_of_part_leads_back_from_its_keys_and_has_a_size() {
        let mut count = 0;
        for what in What::all() {
            let (group, style) = what.keys();
            assert_eq!(What::from_keys(group, style), Some(what));
            for size in what.sizes() {
                let part = part(what, size);
                assert!(
                    part.mass().0 >= 0.0 && part.length().0 >= 0.0,
                    "{what:?} {size}"
                );
                count += 1;
            }
        }
        assert!(count > 150, "{count}");
        assert_eq!(What::from_keys("blade", "stirrup"), None);
    }

    #[test]
    fn foam_carries_and_glass_sinks() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let foam = part(What::Dressing(Dressing::FoamFloat), 14.0);
        let glass = part(What::Bead(BeadStyle::Faceted), 6.0);
        assert!(foam.submerged_weight(&lake) < 0.0);
        assert!(glass.submerged_weight(&lake) > 0.0);
    }

    #[test]
    fn a_brass_torpedo_of_five_grams_is_as_large_as_its_metal() {
        // By hand: 5 g / 8.5 g/cm³ = 588.2 mm³ = 0.60 · π/4 · 3.2 d³, so d³ = 390.1 mm³, d = 7.31 mm.
        let body = part(What::Body(BodyShape::Torpedo), 5.0);
        assert_relative_eq!(body.diameter().0, 7.307e-3, max_relative = 1e-3);
        assert_relative_eq!(body.length().0, 3.2 * 7.307e-3, max_relative = 1e-3);
    }

    #[test]
    fn a_caliper_overrides_the_table() {
        let blade = part(What::Blade(Family::Colorado), 4.0);
        let own = blade
            .measured(Measured {
                length: Some(Metres(26.0e-3)),
                thickness: Some(Metres(0.5e-3)),
                ..Measured::default()
            })
            .unwrap();
        assert_eq!(own.length(), Metres(26.0e-3));
        // 20 mm on 25.5 mm in the table.
        assert_relative_eq!(own.width().0, 26.0e-3 * 20.0 / 25.5, max_relative = 1e-12);
        assert_eq!(own.blade().unwrap().thickness, Metres(0.5e-3));
    }

    #[rstest]
    #[case(
        What::Blade(Family::Colorado),
        9.0,
        "Colorado has no size 9; it comes in 0, 1, 2"
    )]
    #[case(
        What::Hook(HookStyle::Siwash),
        3.0,
        "siwash has no size 3; it comes in 10, 8"
    )]
    #[case(What::Bead(BeadStyle::Round), -4.0, "size -4  is not above 0")]
    #[case(What::Bead(BeadStyle::Round), f64::NAN, "size NaN  is not above 0")]
    fn a_size_nobody_makes_is_refused(#[case] what: What, #[case] size: f64, #[case] says: &str) {
        let refusal = Part::new(what, size, BARE).unwrap_err().to_string();
        assert!(refusal.starts_with(says), "{refusal}");
    }

    #[test]
    fn a_hole_wider_than_its_bead_is_refused() {
        let bead = part(What::Bead(BeadStyle::Round), 4.0);
        let wide = Measured {
            bore: Some(Metres(4.0e-3)),
            ..Measured::default()
        };
        assert_eq!(bead.measured(wide).unwrap_err().quantity(), "bore_m");
        let negative = Measured {
            mass: Some(Kilograms(-1.0)),
            ..Measured::default()
        };
        assert_eq!(bead.measured(negative).unwrap_err().quantity(), "mass_kg");
    }

    #[rstest]
    #[case(What::Hook(HookStyle::Siwash), -3.0, "3/0")]
    #[case(What::Bead(BeadStyle::Round), 6.35, "1/4 in")]
    #[case(What::Bead(BeadStyle::Round), 6.0, "6 mm")]
    #[case(What::Wire, 30.0, "0.030 in")]
    #[case(What::Blade(Family::SoftWing), 1.5, "1.5 in")]
    fn sizes_read_as_the_trade_writes_them(
        #[case] what: What,
        #[case] size: f64,
        #[case] word: &str,
    ) {
        assert_eq!(part(what, size).size_word(), word);
    }
}
