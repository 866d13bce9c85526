use super::State;
use crate::keyed::keyed;
use crate::units::Radians;

/// The shape family of a blade, in the trade's words.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Family {
    /// Round with a deep cup.
    Colorado,
    /// A teardrop between Colorado and willow.
    Indiana,
    /// Oval, moderately wide, domed.
    French,
    /// Clipped tail.
    HatchetCut,
    /// Long and narrow.
    Willow,
    /// Long and pointed at both ends, for salmon.
    MagnumWillow,
    /// Oval with the shaft through the blade itself, no clevis.
    ThroughWireOval,
    /// Thin flexible film with a centre hole, its wings bent to tune it.
    SoftWing,
    /// Rigid plastic with a centre hole.
    HardWing,
    /// A spoon in front of a worm harness: it sways instead of turning.
    Spoon,
}

/// What a family turns, drags and thumps by. All dimensionless but the angle.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Coefficients {
    /// `k`: plan area over length times width.
    pub area: f64,
    /// `β`: angle between blade and shaft while it turns.
    pub cone_angle: Radians,
    /// `λ`: tip speed over water speed, far above the start.
    pub turn: f64,
    /// `C_T`: torque that turns the blade over.
    pub torque: f64,
    /// `C_D`: drag.
    pub drag: f64,
    /// `C_L`: side force.
    pub side: f64,
}

keyed!(Family {
    Colorado "colorado" "Colorado",
    Indiana "indiana" "Indiana",
    French "french" "French",
    HatchetCut "hatchet_cut" "hatchet-cut",
    Willow "willow" "willow",
    MagnumWillow "magnum_willow" "magnum willow",
    ThroughWireOval "through_wire_oval" "through-wire oval",
    SoftWing "soft_wing" "soft wing",
    HardWing "hard_wing" "hard wing",
    Spoon "spoon_blade" "spoon blade",
});

impl Family {
    /// Whether the blade is a wing that turns about its centre hole.
    pub fn is_wing(self) -> bool {
        matches!(self, Self::SoftWing | Self::HardWing)
    }

    /// Whether the blade sways from side to side instead of turning about the shaft. Its clevis then passes the shaft no
    /// torque, so nothing rolls over by friction; it is the spoon itself that spins when it is pulled too fast.
    pub fn sways(self) -> bool {
        self == Self::Spoon
    }

    /// What it does between its start and its end.
    pub(crate) fn at_work(self) -> State {
        if self.sways() {
            State::Swaying
        } else {
            State::Turning
        }
    }

    /// The coefficients of the family, chosen so that common practice holds (no published source).
    pub fn coefficients(self) -> Coefficients {
        let (area, degrees, turn, torque, drag, side) = match self {
            Self::Colorado => (0.785, 58.0, 0.80, 0.55, 1.15, 0.90),
            Self::Indiana => (0.78, 45.0, 0.90, 0.48, 1.05, 0.85),
            Self::French => (0.78, 50.0, 0.90, 0.50, 1.05, 0.85),
            Self::HatchetCut => (0.80, 48.0, 0.85, 0.48, 1.10, 0.85),
            Self::Willow => (0.74, 27.0, 1.00, 0.30, 0.80, 0.70),
            Self::MagnumWillow => (0.74, 32.0, 1.00, 0.34, 0.90, 0.75),
            Self::ThroughWireOval => (0.78, 42.0, 0.95, 0.50, 1.00, 0.80),
            // Half its sway for a cone; a Strouhal number of 0.2 over the width of the sway, as flapping plates and foils have
            // it (0.2 to 0.4, Taylor, Nudds & Thomas 2003, Nature 425, from memory): λ = π St.
            // The side force of a plate that leans by that much, no more than a third of its drag (designed).
            Self::Spoon => (0.78, 20.0, 0.63, 0.50, 1.15, 0.30),
            Self::SoftWing | Self::HardWing => (0.75, 40.0, 0.90, 0.30, 1.00, 0.60),
        };
        Coefficients {
            area,
            cone_angle: Radians::from_degrees(degrees),
            turn,
            torque,
            drag,
            side,
        }
    }
}
