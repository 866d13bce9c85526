use super::day::{Day, Mood, Sky};
use crate::blade::Running;
use crate::rig::{Colour, Rig};
use crate::units::{Celsius, Metres};

/// A rule of common practice (no source) by which working lines are ordered.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Rule {
    /// Run it at the speed practice runs its kind.
    Speed,
    /// Tie what is tied for the fish.
    Kind,
    /// Much thump for active fish, little for shy ones.
    Thump,
    /// Bright metal in clear water, loud paint in stained water.
    Clarity,
    /// Dull or white finishes at twilight and in rain, polished metal in the sun.
    Light,
    /// Copper in warm water.
    Warmth,
}

/// A rule with what it says of one line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Scored {
    /// The rule.
    pub rule: Rule,
    /// −1 against it to 1 for it.
    pub points: f64,
}

impl Rule {
    /// How much the rule counts.
    pub fn weight(self) -> f64 {
        match self {
            Self::Kind => 1.2,
            Self::Speed => 1.0,
            Self::Thump => 0.7,
            Self::Clarity => 0.6,
            Self::Light => 0.4,
            Self::Warmth => 0.3,
        }
    }
}

impl Scored {
    /// Points times weight.
    pub fn weighted(&self) -> f64 {
        self.points * self.rule.weight()
    }
}

/// Water is stained when a white disc is lost above this depth.
const CLEAR_FROM: Metres = Metres(4.0);
/// And muddy when it is lost above this one.
const STAINED_FROM: Metres = Metres(1.0);
/// Copper's water: 68–72 °F.
const COPPER_WATER: (Celsius, Celsius) = (Celsius(20.0), Celsius(22.3));

/// Every rule with its points, in a fixed order.
pub(super) fn all(day: &Day, rig: &Rig, blade: &Running) -> Vec<Scored> {
    let (_, finish, _) = rig.front_blade();
    let colour = finish.colour;
    [
        (Rule::Speed, speed(day, rig)),
        (
            Rule::Kind,
            if day.fish.kinds().contains(&rig.kind()) {
                1.0
            } else {
                -1.0
            },
        ),
        (Rule::Thump, thump(day.mood, blade.thump_index())),
        (Rule::Clarity, clarity(day.clarity, colour)),
        (Rule::Light, light(day.sky, colour, finish.hammered)),
        (Rule::Warmth, warmth(day.temperature, colour)),
    ]
    .into_iter()
    .map(|(rule, points)| Scored { rule, points })
    .collect()
}

/// 1 at the favourite speed, 0 at the ends of the range in use, down to −1 beyond it.
fn speed(day: &Day, rig: &Rig) -> f64 {
    let Some(practice) = rig.kind().practice() else {
        return 0.0;
    };
    let end = if day.speed < practice.favourite {
        practice.from
    } else {
        practice.to
    };
    let reach = (end - practice.favourite).0.abs();
    let off = (day.speed - practice.favourite).0.abs();
    (1.0 - off / reach).max(-1.0)
}

/// 1 where the thump is what the mood asks for, −1 where it is more than seven times too much or little.
fn thump(mood: Mood, index: f64) -> f64 {
    let wanted: f64 = match mood {
        Mood::Active => 1.5,
        Mood::Neutral => 0.6,
        Mood::Shy => 0.15,
    };
    if index <= 0.0 {
        return -1.0;
    }
    (1.0 - (index / wanted).ln().abs()).max(-1.0)
}

fn clarity(clarity: Metres, colour: Colour) -> f64 {
    use Colour::{Chartreuse, Nickel, Orange, Pink, Purple, White};
    let (good, poor): (&[Colour], &[Colour]) = if clarity >= CLEAR_FROM {
        (&[Nickel, Purple], &[Chartreuse, Orange])
    } else if clarity >= STAINED_FROM {
        (&[Orange, Chartreuse, Pink], &[Purple])
    } else {
        (&[Chartreuse, Orange, White], &[Purple, Pink])
    };
    if good.contains(&colour) {
        1.0
    } else if poor.contains(&colour) {
        -0.5
    } else {
        0.0
    }
}

fn light(sky: Sky, colour: Colour, hammered: bool) -> f64 {
    match sky {
        Sky::Sun if colour.is_metal() && !hammered => 1.0,
        Sky::Twilight | Sky::Rain if colour == Colour::White || hammered => 1.0,
        Sky::Sun | Sky::Twilight | Sky::Rain | Sky::Cloud => 0.0,
    }
}

fn warmth(temperature: Celsius, colour: Colour) -> f64 {
    let warm = temperature >= COPPER_WATER.0 && temperature <= COPPER_WATER.1;
    if warm && colour == Colour::Copper {
        1.0
    } else {
        0.0
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case::active_fish_want_a_loud_blade(Mood::Active, 1.5, 0.3)]
    #[case::shy_fish_want_a_quiet_one(Mood::Shy, 0.2, 1.2)]
    fn the_mood_chooses_the_thump(#[case] mood: Mood, #[case] better: f64, #[case] worse: f64) {
        assert!(thump(mood, better) > thump(mood, worse));
        assert!(thump(mood, 0.0) <= thump(mood, worse));
    }

    #[rstest]
    #[case::clear(8.0, Colour::Nickel, Colour::Orange)]
    #[case::stained(2.0, Colour::Chartreuse, Colour::Nickel)]
    #[case::muddy(0.5, Colour::White, Colour::Purple)]
    fn the_water_chooses_the_finish(
        #[case] metres: f64,
        #[case] better: Colour,
        #[case] worse: Colour,
    ) {
        assert!(clarity(Metres(metres), better) > clarity(Metres(metres), worse));
    }

    #[test]
    fn sun_wants_polish_and_rain_wants_dull() {
        assert!(light(Sky::Sun, Colour::Brass, false) > light(Sky::Sun, Colour::Brass, true));
        assert!(light(Sky::Rain, Colour::Brass, true) > light(Sky::Rain, Colour::Brass, false));
    }

    #[test]
    fn copper_has_its_water() {
        assert!(warmth(Celsius(21.0), Colour::Copper) > warmth(Celsius(12.0), Colour::Copper));
        assert!(warmth(Celsius(21.0), Colour::Copper) > warmth(Celsius(21.0), Colour::Nickel));
    }
}
