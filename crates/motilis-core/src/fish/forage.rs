use crate::keyed::keyed;
use crate::rig::Colour;
use crate::units::{MILLIMETRE, Metres};

/// What the fish feed on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Forage {
    /// Shiners.
    Shiner,
    /// Shad.
    Shad,
    /// Smelt.
    Smelt,
    /// Young yellow perch.
    YellowPerch,
    /// Young walleye.
    YoungWalleye,
    /// Herring.
    Herring,
    /// Squid.
    Squid,
    /// Crayfish.
    Crayfish,
    /// Insects and their larvae.
    Insects,
    /// Plankton.
    Plankton,
}

keyed!(Forage {
    Shiner "shiner" "shiners",
    Shad "shad" "shad",
    Smelt "smelt" "smelt",
    YellowPerch "yellow_perch" "young perch",
    YoungWalleye "young_walleye" "young walleye",
    Herring "herring" "herring",
    Squid "squid" "squid",
    Crayfish "crayfish" "crayfish",
    Insects "insects" "insects",
    Plankton "plankton" "plankton",
});

impl Forage {
    /// The length it is mostly eaten at; from memory.
    pub fn length(self) -> Metres {
        MILLIMETRE
            * match self {
                Self::Shiner | Self::YellowPerch | Self::YoungWalleye => 75.0,
                Self::Shad | Self::Smelt => 100.0,
                Self::Herring => 150.0,
                Self::Squid => 90.0,
                Self::Crayfish => 55.0,
                Self::Insects => 25.0,
                Self::Plankton => 20.0,
            }
    }

    /// Whether practice matches a finish to it.
    pub fn goes_with(self, colour: Colour) -> bool {
        self.colours().contains(&colour.goes_as())
    }

    /// Finishes that practice matches to it: silver for shiners and shad, gold for young walleye and perch,
    /// green for perch (common practice, no source).
    pub fn colours(self) -> &'static [Colour] {
        match self {
            Self::Shiner | Self::Shad | Self::Smelt | Self::Herring => {
                &[Colour::Nickel, Colour::White, Colour::Blue]
            }
            Self::YellowPerch => &[Colour::Green, Colour::Brass, Colour::Chartreuse],
            Self::YoungWalleye => &[Colour::Brass],
            Self::Squid => &[Colour::Pink, Colour::Purple, Colour::Glow],
            Self::Crayfish => &[Colour::Copper, Colour::Orange, Colour::Red],
            Self::Insects => &[Colour::Brass, Colour::Copper, Colour::Black],
            Self::Plankton => &[Colour::Pink, Colour::Orange, Colour::Red],
        }
    }
}
