//! How large and how heavy a part is: what somebody measured, else what the trade's table has for its size.

use super::attractor::plan_area;
use super::clevis::{CLEVIS, ClevisRow};
use super::{BodyShape, ClevisStyle, Part, SwivelStyle, What};
use crate::blade::Family;
use crate::units::{GRAM, GRAVITY, INCH, Kilograms, MILLIMETRE, Metres, SquareMetres};
use crate::water::Water;
use std::f64::consts::PI;

/// Height of play of a wing on its shaft beside its sheet.
const WING_PLAY: Metres = Metres(0.5e-3);

/// Moment of a trolling rudder, N·m; from memory.
const RUDDER_MOMENT: f64 = 1.0e-4;

impl Part {
    fn clevis(&self) -> Option<&'static ClevisRow> {
        matches!(self.what(), What::Clevis(_)).then(|| {
            CLEVIS
                .iter()
                .find(|row| (row.number - self.size()).abs() < 1e-6)
        })?
    }

    /// Blade numbers a clevis carries; a quick-change one takes a number more either way.
    pub fn carries(&self) -> Option<(f64, f64)> {
        let (from, to) = self.clevis()?.carries;
        let more = f64::from(self.what() == What::Clevis(ClevisStyle::QuickChange));
        Some((from - more, to + more))
    }

    /// From the shaft to the hole of the blade on a clevis.
    pub fn reach(&self) -> Metres {
        self.clevis()
            .map_or(Metres(0.0), |row| row.reach * MILLIMETRE)
    }

    /// Length: of a blade, a body, a shank; of a bead or clevis along the shaft.
    pub fn length(&self) -> Metres {
        if let Some(measured) = self.own_figures().length {
            return measured;
        }
        let millimetres = match self.what() {
            What::Blade(_) => return self.blade().map_or(Metres(0.0), |blade| blade.length),
            What::Hook(_) => return self.hook().map_or(Metres(0.0), |hook| hook.shank()),
            What::Clevis(_) => self.clevis().map_or(0.0, |row| row.width),
            What::Body(shape) => return shape.proportion().0 * self.diameter(),
            What::Attractor(_) => return self.size() * INCH,
            What::Line(_) | What::Wire => 0.0,
            What::Bead(_)
            | What::Dressing(_)
            | What::Swivel(_)
            | What::Tubing
            | What::Rudder
            | What::Bait(_) => self.size(),
        };
        millimetres * MILLIMETRE
    }

    /// What it takes on the shaft or leader between its neighbours.
    pub fn threaded(&self) -> Metres {
        match self.what() {
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
        if let Some(measured) = self.own_figures().width {
            return measured;
        }
        match self.what() {
            What::Blade(_) => self.blade().map_or(Metres(0.0), |blade| blade.width),
            What::Hook(_) => self.hook().map_or(Metres(0.0), |hook| hook.gap()),
            What::Attractor(_) => 0.25 * self.length(),
            What::Rudder => 0.4 * self.length(),
            _ => self.diameter(),
        }
    }

    /// Thickness of a blade's sheet, wire of a hook.
    pub fn thickness(&self) -> Metres {
        if let Some(measured) = self.own_figures().thickness {
            return measured;
        }
        match self.what() {
            What::Blade(_) => self.blade().map_or(Metres(0.0), |blade| blade.thickness),
            What::Hook(_) => self.hook().map_or(Metres(0.0), |hook| hook.wire()),
            What::Attractor(style) => style.sheet(),
            What::Rudder => 0.9 * MILLIMETRE,
            _ => self.diameter(),
        }
    }

    /// Outer diameter: what a bead that slides against it meets.
    pub fn diameter(&self) -> Metres {
        if let Some(measured) = self.own_figures().diameter {
            return measured;
        }
        let millimetres = match self.what() {
            What::Bead(_) => self.size(),
            What::Hook(_) => return self.hook().map_or(Metres(0.0), |hook| hook.eye()),
            What::Body(shape) => {
                let (length, filled) = shape.proportion();
                let volume = self.mass().0 / self.material.density().0;
                return Metres((volume / (filled * length * PI / 4.0)).cbrt());
            }
            What::Dressing(dressing) => dressing.table().diameter,
            What::Clevis(_) => self.clevis().map_or(0.0, |row| row.width),
            What::Blade(_) => return self.width(),
            What::Swivel(SwivelStyle::Snubber) => 5.0,
            What::Swivel(SwivelStyle::SplitRing) => 1.2,
            What::Swivel(_) => 0.28 * self.size(),
            What::Tubing => 2.5,
            What::Attractor(_) | What::Bait(_) => 6.0,
            What::Rudder => 4.0,
            What::Line(_) => return self.line().map_or(Metres(0.0), |line| line.diameter),
            What::Wire => return self.size() * 1e-3 * INCH,
        };
        millimetres * MILLIMETRE
    }

    /// Diameter of its hole; of a hook or swivel that of its eye.
    pub fn bore(&self) -> Metres {
        if let Some(measured) = self.own_figures().bore {
            return measured;
        }
        let millimetres = match self.what() {
            // Small beads have proportionally large holes; from memory.
            What::Bead(_) => 0.23 * self.size() + 0.08,
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
            What::Swivel(SwivelStyle::SplitRing) => 0.8,
            What::Swivel(SwivelStyle::Snubber) => 2.0,
            What::Swivel(_) => 0.16 * self.size(),
            What::Tubing => 1.0,
            What::Attractor(_) => 3.0,
            What::Rudder => 1.6,
            What::Bait(_) | What::Line(_) | What::Wire => 0.0,
        };
        millimetres * MILLIMETRE
    }

    /// Mass of one; of line and wire nothing, they are weighed by the metre.
    pub fn mass(&self) -> Kilograms {
        if let Some(measured) = self.own_figures().mass {
            return measured;
        }
        let density = self.material.density().0;
        let grams = match self.what() {
            What::Blade(_) => {
                let area = self.blade().map_or(0.0, |blade| blade.plan_area().0);
                return Kilograms(area * self.thickness().0 * density);
            }
            What::Bead(_) => {
                let (d, bore) = (self.diameter().0, self.bore().0);
                let hole = PI / 4.0 * bore * bore * d;
                return Kilograms((PI / 6.0 * d.powi(3) - hole) * density);
            }
            What::Body(_) => self.size(),
            What::Dressing(dressing) => dressing.table().grams,
            What::Hook(_) => return self.hook().map_or(Kilograms(0.0), |hook| hook.mass()),
            What::Bait(bait) => bait.grams(),
            What::Clevis(_) => self.clevis().map_or(0.0, |row| row.grams),
            // Of a 5 mm tube of rubber, a millimetre thick.
            What::Swivel(SwivelStyle::Snubber) => 0.014 * self.size(),
            What::Swivel(SwivelStyle::SplitRing) => 0.12 * (self.size() / 7.0).powi(2),
            What::Swivel(_) => 0.4 * (self.size() / 14.0).powi(2),
            What::Tubing => 0.1,
            What::Attractor(_) => {
                return Kilograms(plan_area(self) * self.thickness().0 * density);
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
        match self.what() {
            What::Hook(_) => {
                let offset = self.hook().map_or(0.0, |hook| hook.offset().0);
                self.submerged_weight(water) * offset
            }
            What::Bait(bait) => self.submerged_weight(water).max(0.0) * bait.sag().0,
            // A keel of plastic that stands as deep as it is wide; from memory.
            What::Rudder => RUDDER_MOMENT,
            // What swings or turns ahead cannot be turned by a blade's clevis, and a short leader hands that on.
            What::Attractor(_) => 2.0 * RUDDER_MOMENT,
            _ => 0.0,
        }
    }

    /// Drag area of one beside that of the blades, the attractor and the common hardware.
    pub(super) fn drag_area(&self) -> SquareMetres {
        match self.what() {
            What::Body(shape) => SquareMetres(shape.drag() * PI / 4.0 * self.diameter().0.powi(2)),
            What::Dressing(dressing) => dressing.drag_area(),
            What::Bait(bait) => bait.drag_area(),
            What::Rudder => SquareMetres(0.5e-4),
            _ => SquareMetres(0.0),
        }
    }
}

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

    /// Drag coefficient on its frontal area: a torpedo is a streamlined body with its eyes, a bell a cone that opens
    /// backwards, a ring a short cylinder end on, an egg a sphere drawn out (Hoerner 1965, from memory).
    fn drag(self) -> f64 {
        match self {
            Self::Torpedo => 0.3,
            Self::Bell => 0.7,
            Self::Ring => 0.6,
            Self::TailWeight => 0.35,
        }
    }
}
