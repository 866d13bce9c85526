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
    /// Silver.
    Silver,
    /// Gold.
    Gold,
    /// Chrome.
    Chrome,
    /// Black nickel.
    BlackNickel,
    /// Matte silver.
    MatteSilver,
    /// Matte gold.
    MatteGold,
    /// Matte copper.
    MatteCopper,
    /// Matte nickel.
    MatteNickel,
    /// Matte chrome.
    MatteChrome,
    /// Matte brass.
    MatteBrass,
    /// Matte black nickel.
    MatteBlackNickel,
    /// Pearl.
    Pearl,
    /// Ultraviolet white.
    UvWhite,
    /// Brightened white.
    BrightWhite,
    /// Lime.
    Lime,
    /// Yellow.
    Yellow,
    /// Amber.
    Amber,
    /// Dark green.
    DarkGreen,
    /// Plain chartreuse.
    PlainChartreuse,
    /// Plain orange.
    PlainOrange,
    /// Plain pink.
    PlainPink,
    /// Fluorescent green.
    FluoroGreen,
    /// Fluorescent red.
    FluoroRed,
    /// Zinc glow.
    ZincGlow,
    /// Gold with black scale.
    GoldScale,
    /// Silver with black scale.
    SilverScale,
    /// Green with black bars.
    Perch,
    /// Bars in three colours.
    Tiger,
    /// Spots over silver.
    Rainbow,
    /// Half white, half red.
    WhiteRed,
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
    Silver "SI" "silver",
    Gold "GO" "gold",
    Chrome "CR" "chrome",
    BlackNickel "BN" "black nickel",
    MatteSilver "MS" "matte silver",
    MatteGold "MG" "matte gold",
    MatteCopper "MC" "matte copper",
    MatteNickel "MN" "matte nickel",
    MatteChrome "MR" "matte chrome",
    MatteBrass "MB" "matte brass",
    MatteBlackNickel "MK" "matte black nickel",
    Pearl "PL" "pearl",
    UvWhite "UV" "ultraviolet white",
    BrightWhite "BW" "brightened white",
    Lime "LI" "lime",
    Yellow "YE" "yellow",
    Amber "AM" "amber",
    DarkGreen "DG" "dark green",
    PlainChartreuse "PC" "plain chartreuse",
    PlainOrange "PO" "plain orange",
    PlainPink "PP" "plain pink",
    FluoroGreen "FG" "fluorescent green",
    FluoroRed "FR" "fluorescent red",
    ZincGlow "GZ" "zinc glow",
    GoldScale "GS" "gold with black scale",
    SilverScale "SS" "silver with black scale",
    Perch "XP" "green with black bars",
    Tiger "XT" "bars in three colours",
    Rainbow "XR" "spots over silver",
    WhiteRed "XW" "half white, half red",
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
    /// Whether it is polished or hammered bare metal.
    pub fn is_metal(self) -> bool {
        matches!(
            self,
            Self::Brass
                | Self::Copper
                | Self::Nickel
                | Self::Silver
                | Self::Gold
                | Self::Chrome
                | Self::BlackNickel
        )
    }

    /// Whether it is matte metal.
    pub fn is_matte(self) -> bool {
        matches!(
            self,
            Self::MatteSilver
                | Self::MatteGold
                | Self::MatteCopper
                | Self::MatteNickel
                | Self::MatteChrome
                | Self::MatteBrass
                | Self::MatteBlackNickel
        )
    }

    /// Whether it is a pattern of several.
    pub fn is_pattern(self) -> bool {
        matches!(
            self,
            Self::GoldScale
                | Self::SilverScale
                | Self::Perch
                | Self::Tiger
                | Self::Rainbow
                | Self::WhiteRed
        )
    }

    /// The one of the plain finishes that anglers' sayings of it go by (common practice, no source).
    pub fn goes_as(self) -> Self {
        match self {
            Self::Silver
            | Self::Chrome
            | Self::MatteNickel
            | Self::MatteChrome
            | Self::SilverScale
            | Self::Rainbow => Self::Nickel,
            Self::Gold | Self::MatteGold | Self::MatteBrass | Self::GoldScale => Self::Brass,
            Self::BlackNickel | Self::MatteBlackNickel => Self::Black,
            Self::MatteSilver
            | Self::Pearl
            | Self::UvWhite
            | Self::BrightWhite
            | Self::WhiteRed => Self::White,
            Self::MatteCopper | Self::Amber => Self::Copper,
            Self::Lime | Self::Yellow | Self::PlainChartreuse | Self::FluoroGreen | Self::Tiger => {
                Self::Chartreuse
            }
            Self::DarkGreen | Self::Perch => Self::Green,
            Self::PlainOrange => Self::Orange,
            Self::PlainPink => Self::Pink,
            Self::FluoroRed => Self::Red,
            Self::ZincGlow => Self::Glow,
            plain => plain,
        }
    }
}
