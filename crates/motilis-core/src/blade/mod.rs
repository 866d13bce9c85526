//! How a spinner blade starts, turns, thumps, drags and rolls over.
//!
//! A semi-empirical model made for this project: each law follows from first principles, with one
//! or two coefficients per blade family set so that common practice holds, and every one of them
//! replaceable by the angler's own observation ([`Observation`]). It is no published model.
//!
//! - [`Blade`] is the piece of metal or film: family, size, thickness, density.
//! - [`Shaft`] is one or two blades on a clevis on wire or line, with what holds the rig upright.
//! - [`Running`] is the answer at a speed: state, turns, side force, drag.
//!
//! # Validity
//! Speeds of trolling and retrieving, 0 to about 3 m/s, a blade free to turn in clean water. The
//! laws scale with `U²` and `L²`; no Reynolds number effect is modelled. Against practice the
//! start speed is good to about 15 %, turn rate and drag to about 20 % (judgement, no source).
//!
//! # Symbols
//! `L`, `W`, `t` length, width, thickness; `A = k L W` plan area; `β` cone angle between the blade and
//! the shaft; `λ` turn coefficient; `C_T`, `C_D`, `C_L` coefficients of torque, drag and side force;
//! `q = ρ U² / 2`.

mod dunk_test;
mod family;
mod observation;
mod running;
mod size;
mod tuning;

pub use dunk_test::{DunkTest, DunksApart, dunks_apart};
pub use family::{Coefficients, Family};
pub use observation::{Learned, Observation};
pub(crate) use running::thump_index;
pub use running::{
    LATERAL_LINE, POLISHED_BEARING, Running, Shaft, State, WAKE, WET_METAL_ON_PLASTIC, Window,
};
pub use size::{BRASS, FILM, HARD_PLASTIC, STEEL};

use crate::error::{Error, Range};
use crate::units::{
    GRAVITY, Hertz, KilogramsPerCubicMetre, Metres, MetresPerSecond, Radians, SquareMetres,
};
use crate::water::Water;
use std::f64::consts::TAU;

const LENGTH: Range = Range::above(0.0, 0.5, "m", "above 0 and at most 0.5 m");
const THICKNESS: Range = Range::above(0.0, 0.02, "m", "above 0 and at most 0.02 m");
const DENSITY: Range = Range::above(0.0, 25_000.0, "kg/m³", "above 0 and at most 25 000 kg/m³");

/// Share of the start speed above it over which a blade swings out from hanging to its cone (designed: it makes the drag
/// continuous).
const SWINGS_OUT: f64 = 0.1;

/// How far a blade has swung out at a speed so many times its start: 0 hanging, 1 at its cone.
pub(crate) fn swung_out(starts: f64) -> f64 {
    let out = ((starts - 1.0) / SWINGS_OUT).clamp(0.0, 1.0);
    out * out * (3.0 - 2.0 * out)
}

/// One blade: its size, what it is made of, and the coefficients it turns by.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Blade {
    /// Shape family.
    pub family: Family,
    /// Length; for a wing its span from tip to tip.
    pub length: Metres,
    /// Greatest width.
    pub width: Metres,
    /// Thickness of the sheet.
    pub thickness: Metres,
    /// Density of the material.
    pub density: KilogramsPerCubicMetre,
    /// Family coefficients, or those that an observation or a bend put in their place.
    pub coefficients: Coefficients,
}

impl Blade {
    /// A blade of measured size, with the coefficients of its family.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a length, width, thickness or density that is not above zero or
    /// larger than any blade.
    pub fn new(
        family: Family,
        length: Metres,
        width: Metres,
        thickness: Metres,
        density: KilogramsPerCubicMetre,
    ) -> Result<Self, Error> {
        LENGTH.check("length_m", length.0)?;
        LENGTH.check("width_m", width.0)?;
        THICKNESS.check("thickness_m", thickness.0)?;
        DENSITY.check("density_kg_m3", density.0)?;
        Ok(Self {
            family,
            length,
            width,
            thickness,
            density,
            coefficients: family.coefficients(),
        })
    }

    /// A blade of a trade size: brass of common gauge, wings of film or hard plastic.
    ///
    /// - `number`: the trade's number (5 for a Colorado 5), for wings the span in inches.
    ///
    /// # Errors
    /// [`Error::Contradiction`] when the family has no such size; the message lists those it has.
    ///
    /// # Source
    /// Generic trade sizes, from memory; a caliper figure in [`Blade::new`] overrides them.
    pub fn of_size(family: Family, number: f64) -> Result<Self, Error> {
        let (length, width) = size::length_and_width(family, number)?;
        Self::new(
            family,
            length,
            width,
            size::gauge(family, length),
            size::material_density(family),
        )
    }

    /// The same soft wing with its wings bent: 0 flat (β 55°) to 1 bent in (β 30°).
    ///
    /// The turn coefficient goes with `cos β`, the share of the flow along the wing, and keeps the family's value at the
    /// bend the wing comes with: bent in it turns faster, flat slower (common practice, no source).
    ///
    /// # Errors
    /// [`Error::OutOfRange`] outside 0–1, [`Error::Contradiction`] for a blade that cannot be bent.
    pub fn bent(mut self, bend: f64) -> Result<Self, Error> {
        if self.family != Family::SoftWing {
            return Err(Error::contradiction(
                "bend",
                format!(
                    "bend belongs to a soft wing, and this is a {}; leave it out",
                    self.family.name()
                ),
            ));
        }
        crate::fields::BEND.check(bend)?;
        let beta = tuning::cone_angle(bend);
        let as_it_comes = self.family.coefficients();
        self.coefficients.turn *= beta.0.cos() / as_it_comes.cone_angle.0.cos();
        self.coefficients.cone_angle = beta;
        Ok(self)
    }

    /// Plan area `A = k L W`.
    pub fn plan_area(&self) -> SquareMetres {
        SquareMetres(self.coefficients.area * self.length.0 * self.width.0)
    }

    /// Radius of the circle that the blade's tip sweeps: `L sin β`, for wings half the span.
    pub fn sweep_radius(&self) -> Metres {
        if self.family.is_wing() {
            0.5 * self.length
        } else {
            self.length * self.coefficients.cone_angle.0.sin()
        }
    }

    /// Slowest speed at which the blade turns over.
    ///
    /// The water's torque `q C_T A r` must lift the blade's submerged weight `(ρ_b − ρ) g A t`
    /// past the top at the radius `r`; area and radius cancel, so thickness and density alone set
    /// it: `U_start = √(2 g t (ρ_b/ρ − 1) / C_T)`. A blade lighter than water always turns.
    pub fn start_speed(&self, water: &Water) -> MetresPerSecond {
        let surplus = (self.density / water.density() - 1.0).max(0.0);
        MetresPerSecond(
            (2.0 * GRAVITY * self.thickness.0 * surplus / self.coefficients.torque).sqrt(),
        )
    }

    /// Turns a second at a speed, given the start speed: `λ U / (2π r) · √(1 − (U_start/U)²)`.
    ///
    /// Width does not enter: far above the start the blade screws itself along the angle its cone makes with the flow,
    /// and what a wider blade has more of torque it has more of drag against turning; the area cancels, as it does in
    /// the start.
    pub(crate) fn turn_rate(&self, speed: MetresPerSecond, start: MetresPerSecond) -> Hertz {
        if speed <= start {
            return Hertz(0.0);
        }
        let slip = (1.0 - (start / speed).powi(2)).sqrt();
        Hertz(self.coefficients.turn * speed.0 / (TAU * self.sweep_radius().0) * slip)
    }

    /// Drag area of one blade at a speed so many times its start: hanging, it lies across the flow; from its start to a
    /// tenth above it swings out to its cone. A narrow cone then shows the water less of it than hanging did: a willow
    /// that begins to turn drags less than it did, a Colorado more.
    pub(crate) fn drag_area(&self, starts: f64) -> SquareMetres {
        let out = swung_out(starts);
        self.hanging_drag_area() * (1.0 - out) + self.turning_drag_area() * out
    }

    /// Drag area of one turning blade, `C_D A sin β`.
    pub fn turning_drag_area(&self) -> SquareMetres {
        self.plan_area() * (self.coefficients.drag * self.coefficients.cone_angle.0.sin())
    }

    /// Drag area of one blade that hangs flat and does not turn: 1.1 on half its plan area.
    pub fn hanging_drag_area(&self) -> SquareMetres {
        self.plan_area() * (1.1 * 0.5)
    }

    /// Side force of one turning blade at a speed, `q C_L A cos β`, N.
    fn side_force(&self, speed: MetresPerSecond, water: &Water) -> f64 {
        water.dynamic_pressure(speed)
            * self.coefficients.side
            * self.plan_area().0
            * self.coefficients.cone_angle.0.cos()
    }

    /// Cone angle between the blade and the shaft while it turns.
    pub fn cone_angle(&self) -> Radians {
        self.coefficients.cone_angle
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::MILLIMETRE;
    use approx::assert_relative_eq;

    #[test]
    fn area_and_size_do_not_change_the_start() {
        let lake = Water::fresh(crate::units::Celsius(15.0)).unwrap();
        let small = Blade::of_size(Family::Colorado, 3.0).unwrap();
        let large = Blade::of_size(Family::Colorado, 7.0).unwrap();
        let same_sheet = Blade {
            thickness: small.thickness,
            ..large
        };
        assert_relative_eq!(small.start_speed(&lake).0, same_sheet.start_speed(&lake).0);
    }

    #[test]
    fn only_a_soft_wing_bends() {
        let willow = Blade::of_size(Family::Willow, 4.0).unwrap();
        assert_eq!(willow.bent(0.5).unwrap_err().quantity(), "bend");
        let wing = Blade::of_size(Family::SoftWing, 1.5).unwrap();
        assert_eq!(wing.bent(1.2).unwrap_err().quantity(), "bend");
        assert_relative_eq!(
            wing.bent(0.0).unwrap().cone_angle().degrees(),
            55.0,
            epsilon = 1e-9
        );
        assert_relative_eq!(
            wing.bent(1.0).unwrap().cone_angle().degrees(),
            30.0,
            epsilon = 1e-9
        );
        assert_relative_eq!(
            wing.bent(0.6).unwrap().cone_angle().degrees(),
            40.0,
            epsilon = 1e-9
        );
    }

    #[test]
    fn nonsense_sizes_are_refused_by_name() {
        let refused = |length: Metres, thickness: Metres| {
            Blade::new(Family::French, length, 10.0 * MILLIMETRE, thickness, BRASS)
                .unwrap_err()
                .quantity()
                .to_owned()
        };
        assert_eq!(refused(Metres(0.0), MILLIMETRE), "length_m");
        assert_eq!(refused(Metres(0.02), Metres(f64::NAN)), "thickness_m");
    }
}
