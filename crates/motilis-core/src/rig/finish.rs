use crate::keyed::keyed;

/// A colour or metal, with the two letters that stand for it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Colour {
    /// Brass.
    Brass,
    /// Copper.
    Copper,
    /// Nickel.
    Nickel,
    /// Chartreuse.
    Chartreuse,
    /// Orange.
    Orange,
    /// Pink.
    Pink,
    /// White.
    White,
    /// Purple.
    Purple,
    /// Red.
    Red,
    /// Green.
    Green,
    /// Blue.
    Blue,
    /// Black.
    Black,
    /// A pale paint that glows after light.
    Glow,
}

/// The finish of one side of a part.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Finish {
    /// Metal or paint.
    pub colour: Colour,
    /// Whether it is hammered.
    pub hammered: bool,
}

keyed!(Colour {
    Brass "BR" "brass",
    Copper "CU" "copper",
    Nickel "NI" "nickel",
    Chartreuse "CH" "chartreuse",
    Orange "OR" "orange",
    Pink "PK" "pink",
    White "WH" "white",
    Purple "PU" "purple",
    Red "RD" "red",
    Green "GN" "green",
    Blue "BL" "blue",
    Black "BK" "black",
    Glow "GL" "glow",
});

impl Finish {
    /// A smooth finish.
    pub fn plain(colour: Colour) -> Self {
        Self {
            colour,
            hammered: false,
        }
    }

    /// A hammered one.
    pub fn hammered(colour: Colour) -> Self {
        Self {
            colour,
            hammered: true,
        }
    }
}

impl Colour {
    /// Whether it is bare metal.
    pub fn is_metal(self) -> bool {
        matches!(self, Self::Brass | Self::Copper | Self::Nickel)
    }
}
