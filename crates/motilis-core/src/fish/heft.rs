use super::Fish;
use crate::units::{GRAM, INCH, Kilograms, MILLIMETRE, Metres, POUND};

/// A published standard weight: `log10 Ws = a + b log10 TL`, g and mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct StandardWeight {
    /// Intercept `a`.
    pub intercept: f64,
    /// Slope `b`.
    pub slope: f64,
    /// Shortest fish it holds for.
    pub least: Metres,
    /// Where it stands; its figures are set down from memory.
    pub source: &'static str,
}

impl StandardWeight {
    /// The weight of a fish in good condition, by its total length; `None` below the least length.
    pub fn of(&self, length: Metres) -> Option<Kilograms> {
        (length >= self.least).then(|| {
            let log = self.intercept + self.slope * (length / MILLIMETRE).log10();
            10.0_f64.powf(log) * GRAM
        })
    }

    /// Relative weight `Wr`, %: what it weighs over what it should.
    pub fn relative(&self, length: Metres, weight: Kilograms) -> Option<f64> {
        Some(100.0 * (weight / self.of(length)?))
    }
}

impl Fish {
    /// Its standard weight in lakes, or in rivers where both were published; `None` where we know of none.
    pub fn standard_weight(self, river: bool) -> Option<StandardWeight> {
        let (intercept, slope, least_mm, source) = match (self, river) {
            (Self::Walleye, _) => (-5.453, 3.180, 150.0, "Murphy and others 1990"),
            (Self::RainbowTrout, false) => (-4.898, 2.990, 120.0, "Simpkins & Hubert 1996, lentic"),
            (Self::RainbowTrout, true) => (-5.023, 3.024, 120.0, "Simpkins & Hubert 1996, lotic"),
            (Self::BrownTrout, false) => (-5.422, 3.194, 140.0, "Hyatt & Hubert 2001, lentic"),
            (Self::BrownTrout, true) => (-4.867, 2.960, 140.0, "Milewski & Brown 1994, lotic"),
            (Self::BrookTrout, _) => (-5.186, 3.103, 120.0, "Hyatt & Hubert 2001"),
            (Self::LakeTrout, _) => (-5.681, 3.246, 280.0, "Piccolo and others 1993"),
            (Self::Chinook | Self::LandlockedChinook, _) => {
                (-4.661, 2.901, 200.0, "Halseth and others 1990")
            }
            (Self::LandlockedSockeye, _) => (-5.062, 3.033, 120.0, "Hyatt & Hubert 2000"),
            (Self::SmallmouthBass, _) => (-5.329, 3.200, 150.0, "Kolander and others 1993"),
            (Self::YellowPerch, _) => (-5.386, 3.230, 100.0, "Willis and others 1991"),
            (
                Self::Coho
                | Self::Steelhead
                | Self::LandlockedAtlantic
                | Self::Cutthroat
                | Self::Sauger
                | Self::Pink
                | Self::Chum,
                _,
            ) => return None,
        };
        Some(StandardWeight {
            intercept,
            slope,
            least: least_mm * MILLIMETRE,
            source,
        })
    }
}

/// A weight from length and girth: length times girth squared over 800, inches and pounds (common practice, no source).
pub fn weight_by_girth(length: Metres, girth: Metres) -> Kilograms {
    let (length, girth) = (length / INCH, girth / INCH);
    length * girth * girth / 800.0 * POUND
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use rstest::rstest;

    /// The printed equation at a round length, worked by hand: 10^(-5.453 + 3.180 · 2.69897) = 1 347 g.
    #[test]
    fn a_walleye_of_half_a_metre_weighs_what_the_equation_says() {
        let walleye = Fish::Walleye.standard_weight(false).unwrap();
        let weight = walleye.of(Metres(0.5)).unwrap();
        assert_relative_eq!(weight.0, 1.347, max_relative = 2e-3);
        assert_relative_eq!(walleye.relative(Metres(0.5), weight).unwrap(), 100.0);
        assert_eq!(walleye.of(Metres(0.149)), None);
    }

    /// A fish as long as a forearm weighs a pound or two, whatever its kind (common practice, no source).
    #[rstest]
    #[case(Fish::Walleye)]
    #[case(Fish::RainbowTrout)]
    #[case(Fish::BrownTrout)]
    #[case(Fish::BrookTrout)]
    #[case(Fish::LakeTrout)]
    #[case(Fish::Chinook)]
    #[case(Fish::LandlockedSockeye)]
    #[case(Fish::SmallmouthBass)]
    fn a_fish_of_sixteen_inches_weighs_a_pound_or_two(#[case] fish: Fish) {
        for river in [false, true] {
            let weight = fish
                .standard_weight(river)
                .unwrap()
                .of(16.0 * INCH)
                .unwrap();
            assert!(
                (1.2..2.6).contains(&(weight / POUND)),
                "{fish:?}: {weight:?}"
            );
        }
    }

    #[test]
    fn girth_counts_squared() {
        let weight = |girth: f64| weight_by_girth(24.0 * INCH, girth * INCH) / POUND;
        assert_relative_eq!(weight(12.0), 4.32, max_relative = 1e-9);
        assert_relative_eq!(weight(24.0) / weight(12.0), 4.0, max_relative = 1e-9);
    }
}
