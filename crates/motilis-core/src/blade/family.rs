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

impl Family {
    /// Every family, in the order a list shows them.
    pub const ALL: [Self; 9] = [
        Self::Colorado,
        Self::Indiana,
        Self::French,
        Self::HatchetCut,
        Self::Willow,
        Self::MagnumWillow,
        Self::ThroughWireOval,
        Self::SoftWing,
        Self::HardWing,
    ];

    /// The name in files and in the JSON interface.
    pub fn key(self) -> &'static str {
        match self {
            Self::Colorado => "colorado",
            Self::Indiana => "indiana",
            Self::French => "french",
            Self::HatchetCut => "hatchet_cut",
            Self::Willow => "willow",
            Self::MagnumWillow => "magnum_willow",
            Self::ThroughWireOval => "through_wire_oval",
            Self::SoftWing => "soft_wing",
            Self::HardWing => "hard_wing",
        }
    }

    /// The family of a key, if there is one.
    pub fn from_key(key: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|family| family.key() == key)
    }

    /// The name an angler reads.
    pub fn name(self) -> &'static str {
        match self {
            Self::Colorado => "Colorado",
            Self::Indiana => "Indiana",
            Self::French => "French",
            Self::HatchetCut => "hatchet-cut",
            Self::Willow => "willow",
            Self::MagnumWillow => "magnum willow",
            Self::ThroughWireOval => "through-wire oval",
            Self::SoftWing => "soft wing",
            Self::HardWing => "hard wing",
        }
    }

    /// Whether the blade is a wing that turns about its centre hole.
    pub fn is_wing(self) -> bool {
        matches!(self, Self::SoftWing | Self::HardWing)
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_key_leads_back_to_its_family() {
        for family in Family::ALL {
            assert_eq!(Family::from_key(family.key()), Some(family));
        }
        assert_eq!(Family::from_key("Colorado"), None);
    }
}
