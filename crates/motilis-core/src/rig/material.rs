use crate::blade::{BRASS, FILM, HARD_PLASTIC, STEEL};
use crate::keyed::keyed;
use crate::units::KilogramsPerCubicMetre;

/// What a part is made of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Material {
    /// Brass.
    Brass,
    /// Steel.
    Steel,
    /// Lead.
    Lead,
    /// Tungsten alloy.
    Tungsten,
    /// Tin.
    Tin,
    /// Polyester film.
    Film,
    /// Hard plastic of wings and clevises.
    HardPlastic,
    /// Plastic of flashers, hardly heavier than water.
    LightPlastic,
    /// Plastic of beads.
    Plastic,
    /// Glass.
    Glass,
    /// Soft vinyl of squids and tubing.
    Vinyl,
    /// Silicone.
    Silicone,
    /// Tinsel, hair, feather.
    Tinsel,
    /// Foam; floats.
    Foam,
    /// Worm, leech, fish.
    Flesh,
    /// Line of any kind; its own table knows how dense.
    Line,
}

keyed!(Material {
    Brass "brass" "brass",
    Steel "steel" "steel",
    Lead "lead" "lead",
    Tungsten "tungsten" "tungsten",
    Tin "tin" "tin",
    Film "film" "film",
    HardPlastic "hard_plastic" "hard plastic",
    LightPlastic "light_plastic" "light plastic",
    Plastic "plastic" "plastic",
    Glass "glass" "glass",
    Vinyl "vinyl" "vinyl",
    Silicone "silicone" "silicone",
    Tinsel "tinsel" "tinsel",
    Foam "foam" "foam",
    Flesh "flesh" "bait",
    Line "line" "line",
});

impl Material {
    /// Its density; metals and film as the blade's, the others from memory.
    pub fn density(self) -> KilogramsPerCubicMetre {
        match self {
            Self::Brass => BRASS,
            Self::Steel => STEEL,
            Self::Film => FILM,
            Self::HardPlastic | Self::Vinyl => HARD_PLASTIC,
            Self::Lead => KilogramsPerCubicMetre(11_340.0),
            Self::Tungsten => KilogramsPerCubicMetre(17_000.0),
            Self::Tin => KilogramsPerCubicMetre(7_290.0),
            Self::LightPlastic | Self::Flesh => KilogramsPerCubicMetre(1_050.0),
            Self::Plastic | Self::Silicone => KilogramsPerCubicMetre(1_150.0),
            Self::Glass => KilogramsPerCubicMetre(2_500.0),
            Self::Tinsel => KilogramsPerCubicMetre(1_390.0),
            Self::Foam => KilogramsPerCubicMetre(200.0),
            Self::Line => KilogramsPerCubicMetre(1_140.0),
        }
    }

    /// Whether a clevis turns on it as on a polished metal bearing.
    pub fn is_metal(self) -> bool {
        matches!(
            self,
            Self::Brass | Self::Steel | Self::Lead | Self::Tungsten | Self::Tin
        )
    }
}
