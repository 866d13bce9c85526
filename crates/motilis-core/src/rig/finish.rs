use crate::error::Error;
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
    /// What lies over it.
    pub over: Option<Over>,
}

/// What lies over a finish.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Over {
    /// Its colour.
    pub colour: Colour,
    /// Per cent of the side that it covers, as bars, scales or spots; `None` for clear lacquer over all of a metal.
    pub share: Option<u8>,
}

/// Per cent of a side that the lesser of two finishes may cover.
const SHARE: std::ops::RangeInclusive<u8> = 5..=50;

impl Over {
    /// As files name it: `RD` for red lacquer, `BK 30` for black on 30 per cent.
    pub fn key(self) -> String {
        match self.share {
            None => self.colour.key().to_owned(),
            Some(share) => format!("{} {share}", self.colour.key()),
        }
    }

    /// What a file names so.
    pub fn from_key(key: &str) -> Option<Self> {
        let (colour, share) = match key.trim().split_once(' ') {
            None => (key.trim(), None),
            Some((colour, share)) => (colour, Some(share.trim().parse().ok()?)),
        };
        let colour = Colour::from_key(&colour.to_uppercase())?;
        Some(Self { colour, share })
    }
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
            over: None,
        }
    }

    /// A hammered one.
    pub fn hammered(colour: Colour) -> Self {
        Self {
            colour,
            hammered: true,
            over: None,
        }
    }

    /// The same with something over it.
    pub fn under(self, over: Option<Over>) -> Self {
        Self { over, ..self }
    }

    /// The colour that anglers' sayings of it go by: that of the lacquer where there is one.
    pub fn said(self) -> Colour {
        match self.over {
            Some(Over {
                colour,
                share: None,
            }) => colour,
            _ => self.colour,
        }
    }

    /// Whether it can be: lacquer lies over metal, and the lesser of two finishes covers 5 to 50 per cent.
    ///
    /// # Errors
    /// [`Error::Contradiction`] of `over`.
    pub fn check(self) -> Result<(), Error> {
        let Some(over) = self.over else {
            return Ok(());
        };
        let message = match over.share {
            None if !(self.colour.is_metal() || self.colour.is_matte()) => {
                "clear lacquer lies over metal; choose a metal under it, or give the share it covers"
            }
            None if over.colour.is_metal()
                || over.colour.is_matte()
                || over.colour.is_pattern() =>
            {
                "a lacquer has a plain colour; choose one, or give the share it covers"
            }
            Some(share) if !SHARE.contains(&share) => {
                "the second finish covers 5 to 50 per cent of the side; the other way round it is the first"
            }
            _ => return Ok(()),
        };
        Err(Error::contradiction("over", message))
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

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case("RD", Colour::Red, None)]
    #[case("bk 30", Colour::Black, Some(30))]
    fn what_lies_over_a_finish_is_named_and_found(
        #[case] key: &str,
        #[case] colour: Colour,
        #[case] share: Option<u8>,
    ) {
        let over = Over { colour, share };
        assert_eq!(Over::from_key(key), Some(over));
        assert_eq!(Over::from_key(&over.key()), Some(over));
        assert_eq!(Over::from_key("nothing of it"), None);
    }

    #[rstest]
    #[case(Colour::Nickel, "RD", true)]
    #[case(Colour::White, "RD", false)]
    #[case(Colour::Nickel, "CU", false)]
    #[case(Colour::White, "RD 40", true)]
    #[case(Colour::White, "RD 90", false)]
    fn lacquer_wants_metal_and_a_pattern_its_share(
        #[case] colour: Colour,
        #[case] over: &str,
        #[case] can_be: bool,
    ) {
        let finish = Finish::plain(colour).under(Over::from_key(over));
        assert_eq!(finish.check().is_ok(), can_be);
    }
}
