use super::candidate::Traits;
use crate::blade::{Blade, Running};
use crate::error::Error;
use crate::light::{self, Shown, Sighting, Target, Watch};
use crate::rig::{BaitSpin, Colour, Finish};
use crate::units::Hertz;

/// Finish and back of what is looked at.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub(super) struct Paint {
    finish: Finish,
    back: Option<Finish>,
    /// A bait that is looked at for itself.
    flesh: bool,
}

impl Paint {
    /// The same before each eye.
    pub fn shown_to(self, watches: &[(Watch, f64)]) -> Vec<Shown> {
        let finish = if self.flesh {
            named("amber_brown")
        } else {
            paint(self.finish, self.back)
        };
        let shown = |(watch, _): &(Watch, f64)| watch.show(&finish, GLOW_MIN);
        watches.iter().map(shown).collect()
    }
}

/// What the light model needs of a blade; rigs with the same look are looked at once.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub(super) struct Look {
    paint: Paint,
    /// Area and flashes as bits, so that they can be compared.
    area: u64,
    flashes: u64,
}

impl Look {
    pub fn of(traits: &Traits, blade: &Running, spun: Option<&BaitSpin>) -> Self {
        let (area, turns): (f64, Hertz) = match (traits.blade, spun) {
            (Some(Blade { length, width, .. }), _) => {
                let each = Target::turning(length.0, width.0);
                (f64::from(traits.blades) * each, blade.turns)
            }
            (None, Some(spun)) => {
                let across = 2.0 * spun.radius.0;
                (Target::turning(spun.length.0, across), spun.turns)
            }
            (None, None) => (
                Target::still(traits.trailing.0.max(BARE_WIDTH), BARE_WIDTH),
                Hertz(0.0),
            ),
        };
        Self {
            paint: Paint {
                finish: traits.finish,
                back: traits.back,
                flesh: traits.blade.is_none() && traits.bait.is_some(),
            },
            area: area.to_bits(),
            // To half a flash a second: the eye cannot tell more.
            flashes: ((2.0 * turns.0).round() / 2.0).to_bits(),
        }
    }

    /// Finish and back.
    pub fn paint(&self) -> Paint {
        self.paint
    }

    /// How it is seen by each watch its paint is shown to, averaged by their shares.
    pub fn seen(&self, watches: &[(Watch, f64)], shown: &[Shown]) -> Result<Sighting, Error> {
        let target = Target {
            area: f64::from_bits(self.area),
            flashes: f64::from_bits(self.flashes),
            glow_min: GLOW_MIN,
        };
        let mut mean: Option<Sighting> = None;
        for ((watch, share), shown) in watches.iter().zip(shown) {
            let one = watch.sighting_of(shown, &target)?;
            let (range, colour) = (share * one.range, share * one.colour);
            match &mut mean {
                Some(mean) => {
                    mean.range += range;
                    mean.colour += colour;
                }
                None => {
                    mean = Some(Sighting {
                        range,
                        colour,
                        ..one
                    });
                }
            }
        }
        mean.ok_or_else(|| Error::contradiction("depth", "nobody looks there"))
    }
}

/// Minutes since the glow paint was charged: practice charges it with a torch every quarter of an hour or so
/// (common practice, no source).
pub const GLOW_MIN: f64 = 10.0;

/// The finish of the light model for a finish of the box, by face and back.
pub fn paint(face: Finish, back: Option<Finish>) -> light::Finish {
    let face = one_side(face);
    back.map_or_else(
        || face.clone(),
        |back| light::Finish::two_sided(&face, &one_side(back)),
    )
}

/// Chartreuse, orange and pink of the trade are fluorescent, and glow paints strontium aluminate (common
/// practice, no source); paint covers the dents of a hammered blade.
fn one_side(finish: Finish) -> light::Finish {
    let bare = whole_side(finish);
    let Some(over) = finish.over else { return bare };
    let other = whole_side(Finish::plain(over.colour));
    match over.share {
        None => bare.under_lacquer(&other),
        Some(share) => bare.with_share(&other, f64::from(share) / 100.0),
    }
}

fn whole_side(finish: Finish) -> light::Finish {
    let name = match (finish.colour, finish.hammered) {
        (Colour::Brass, false) => "brass_polished",
        (Colour::Brass, true) => "brass_hammered",
        (Colour::Copper, false) => "copper_polished",
        (Colour::Copper, true) => "copper_hammered",
        (Colour::Nickel, false) => "nickel_polished",
        (Colour::Nickel, true) => "nickel_hammered",
        (Colour::Chartreuse, _) => "fluoro_chartreuse",
        (Colour::Orange, _) => "fluoro_orange",
        (Colour::Pink, _) => "fluoro_pink",
        (Colour::White, _) => "white",
        (Colour::Purple, _) => "purple",
        (Colour::Red, _) => "red",
        (Colour::Green, _) => "green",
        (Colour::Blue, _) => "blue",
        (Colour::Black, _) => "black",
        (Colour::Glow, _) => "glow_strontium",
        (Colour::MatteSilver, _) => "silver_satin",
        (Colour::MatteGold, _) => "gold_satin",
        (Colour::MatteCopper, _) => "copper_satin",
        (Colour::MatteNickel, _) => "nickel_satin",
        (Colour::MatteChrome, _) => "chrome_satin",
        (Colour::MatteBrass, _) => "brass_satin",
        (Colour::MatteBlackNickel, _) => "black_nickel_satin",
        (Colour::Pearl, _) => "pearl",
        (Colour::UvWhite, _) => "white_uv",
        (Colour::BrightWhite, _) => "white_brightened",
        (Colour::Lime, _) => "lime",
        (Colour::Yellow, _) => "yellow",
        (Colour::Amber, _) => "amber_brown",
        (Colour::DarkGreen, _) => "dark_green",
        (Colour::PlainChartreuse, _) => "chartreuse",
        (Colour::PlainOrange, _) => "orange",
        (Colour::PlainPink, _) => "pink",
        (Colour::FluoroGreen, _) => "fluoro_green",
        (Colour::FluoroRed, _) => "fluoro_red",
        (Colour::ZincGlow, _) => "glow_zinc",
        (Colour::GoldScale, _) => "gold_scale",
        (Colour::SilverScale, _) => "silver_scale",
        (Colour::Perch, _) => "perch_pattern",
        (Colour::Tiger, _) => "tiger_pattern",
        (Colour::Rainbow, _) => "rainbow_pattern",
        (Colour::WhiteRed, _) => "half_white_half_red",
        (Colour::Silver, false) => "silver_polished",
        (Colour::Silver, true) => "silver_hammered",
        (Colour::Gold, false) => "gold_polished",
        (Colour::Gold, true) => "gold_hammered",
        (Colour::Chrome, false) => "chrome_polished",
        (Colour::Chrome, true) => "chrome_hammered",
        (Colour::BlackNickel, false) => "black_nickel_polished",
        (Colour::BlackNickel, true) => "black_nickel_hammered",
    };
    named(name)
}

fn named(name: &str) -> light::Finish {
    light::Finish::from_name(name).expect("every finish of the box has its row in the light model")
}

/// Width of a worm or leech that does not spin, m; from memory.
const BARE_WIDTH: f64 = 6e-3;

#[cfg(test)]
mod tests {
    use super::*;

    /// Red lacquer over nickel looks red, and half white on black between the two.
    #[test]
    fn what_lies_over_a_finish_is_seen() {
        use crate::rig::Over;
        let day = super::super::day::tests::summer();
        let scene = light::Scene::new(
            &day.daylight().unwrap(),
            &day.optics().unwrap(),
            1.0,
            light::View::Level,
        )
        .unwrap();
        let mean = |finish: Finish| paint(finish, None).seen_in(&scene, GLOW_MIN)[0];
        let sum = |spectrum: &[f64]| spectrum.iter().sum::<f64>();
        let red = |finish| {
            let mean = mean(finish);
            sum(&mean[26..]) / sum(&mean)
        };
        let over = |colour, share| Some(Over { colour, share });
        let nickel = Finish::plain(Colour::Nickel);
        assert!(red(nickel.under(over(Colour::Red, None))) > red(nickel));
        let black = Finish::plain(Colour::Black);
        let bright = |finish| sum(&mean(finish));
        let barred = bright(black.under(over(Colour::White, Some(50))));
        let halfway = f64::midpoint(bright(black), bright(Finish::plain(Colour::White)));
        assert!((barred / halfway - 1.0).abs() < 1e-9, "{barred} {halfway}");
    }

    /// The box has every finish of the light model, and each looks as it is called.
    #[test]
    fn every_finish_of_the_box_has_its_light() {
        let mut named = std::collections::BTreeSet::new();
        for &colour in Colour::ALL {
            for finish in [Finish::plain(colour), Finish::hammered(colour)] {
                named.insert(paint(finish, None).name());
                let both = paint(finish, Some(Finish::plain(Colour::Black)));
                assert_eq!(both.name(), paint(finish, None).name());
            }
        }
        let all: std::collections::BTreeSet<_> = light::Finish::names().collect();
        assert_eq!(named, all);
    }
}
