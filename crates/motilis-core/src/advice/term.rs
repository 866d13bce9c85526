use super::day::{Clearness, Lighting, Mood};
use super::outfit::{self, Tool};
use super::ramp::{Shares, copper_water, ramp};
use super::school::{AboveClevisSchool, AttractorSchool, FlasherBladeSchool, HookSchool};
use super::school::{LeaderSchool, WeightSchool};
use crate::blade::Family;
use crate::evidence::Belief;
use crate::fish::Forage;
use crate::keyed::keyed;
use crate::rig::{Bait, BodyShape, Colour, Finish, Kind};
use crate::units::{Celsius, INCH, Metres, MetresPerSecond};

/// What a rig is judged by. Each gives −1 (against it) to 1 (for it), times its weight.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Term {
    /// Run it at the speed practice runs its kind, slower in cold water and for shy fish.
    Speed,
    /// Tie what is tied for the fish.
    Kind,
    /// No more line than the depth asks for, off a tool that fits it; in a river the body for the run.
    Line,
    /// Much thump for active fish and in bad light, little for shy ones and in the cold.
    Thump,
    /// How far this fish sees the finish there, by the light model.
    Seen,
    /// Metal and blue in clear water, loud paint in stained water, flash in mud.
    Clarity,
    /// Dark, dull or glowing finishes in low light, polished metal in the sun.
    Light,
    /// The finish of what they eat.
    Forage,
    /// Copper from 68 to 72 °F.
    Warmth,
    /// Near the length of what they eat.
    Size,
    /// The bait the fish takes.
    Bait,
    /// A size up in wings below 50 °F.
    Cold,
    /// Thin or heavy leader.
    Leader,
    /// Single or treble.
    Hooks,
    /// With or without an attractor.
    Attractor,
    /// The blade behind a rotating flasher.
    FlasherBlade,
    /// One blade or two.
    AboveClevis,
    /// Where an inline spinner carries its weight.
    Weight,
    /// Made up already, or to be built first.
    Ready,
    /// What the log says of it.
    Evidence,
    /// Something other than everybody drags, or than was dragged so far.
    Novelty,
}

keyed!(Term {
    Speed "speed" "speed",
    Kind "kind" "kind of rig",
    Line "line" "line and tool",
    Thump "thump" "thump",
    Seen "seen" "seen from",
    Clarity "clarity" "finish for the water",
    Light "light" "finish for the light",
    Forage "forage" "finish of the forage",
    Warmth "warmth" "copper's water",
    Size "size" "size of the forage",
    Bait "bait" "bait",
    Cold "cold" "wing in cold water",
    Leader "leader" "leader",
    Hooks "hooks" "hooks",
    Attractor "attractor" "attractor",
    FlasherBlade "flasher_blade" "blade behind the flasher",
    AboveClevis "above_clevis" "above the clevis",
    Weight "weight" "weight on the spinner",
    Ready "ready" "made up",
    Evidence "evidence" "your log",
    Novelty "novelty" "something else",
});

impl Term {
    /// Whether it judges the finish by what anglers say.
    pub fn is_lore_of_finish(self) -> bool {
        matches!(
            self,
            Self::Clarity | Self::Light | Self::Forage | Self::Warmth
        )
    }

    /// Whether it judges the finish at all.
    pub fn is_of_finish(self) -> bool {
        self == Self::Seen || self.is_lore_of_finish()
    }
}

/// The figures a term rests on: its points are computed from these and nothing else, so that what a reason
/// shows is what was counted.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Basis {
    /// Speed asked, range in use and the best speed of the day for it.
    Speed {
        /// Speed asked.
        now: MetresPerSecond,
        /// Slowest in use.
        from: MetresPerSecond,
        /// Fastest in use.
        to: MetresPerSecond,
        /// Best of the day.
        best: MetresPerSecond,
    },
    /// Place among the kinds tied for the fish, 0 the favourite.
    Kind {
        /// The kind.
        kind: Kind,
        /// Its place.
        place: Option<usize>,
    },
    /// What is out for the depth, and what takes it down.
    Line {
        /// What is out; `None` where the depth cannot be had.
        out: Option<Metres>,
        /// The depth wanted.
        depth: Metres,
        /// The tool.
        tool: Tool,
    },
    /// The body of what is cast, for a run of a river.
    Run {
        /// What body it has; `None` where the weight is up the line.
        body: Option<BodyShape>,
        /// Depth of the run.
        depth: Metres,
        /// Speed of its water.
        flow: MetresPerSecond,
    },
    /// Thump as a multiple of a number 4 Colorado's at 1.2 mph, and what the day wants.
    Thump {
        /// The blade's.
        index: f64,
        /// Wanted.
        wanted: f64,
    },
    /// Sighting distance with its score, and the best score among the candidates.
    Seen {
        /// Metres from which it is seen.
        range: f64,
        /// [`crate::light::Sighting::score`].
        score: f64,
        /// The best.
        best: f64,
    },
    /// Finish by clearness of the water.
    Clarity {
        /// How clear.
        clearness: Shares<Clearness, 3>,
        /// The finish.
        colour: Colour,
    },
    /// Finish by light.
    Light {
        /// What light.
        lighting: Shares<Lighting, 4>,
        /// The finish.
        finish: Finish,
    },
    /// Finish by forage.
    Forage {
        /// What they eat.
        forage: Forage,
        /// The finish.
        colour: Colour,
    },
    /// Copper by temperature.
    Warmth {
        /// Of the water.
        temperature: Celsius,
        /// The finish.
        colour: Colour,
    },
    /// Length of what the fish sees, and of what it eats.
    Size {
        /// The longer of blade and what trails.
        length: Metres,
        /// Of the forage.
        forage: Metres,
    },
    /// The bait on the hooks.
    Bait {
        /// What it is.
        bait: Option<Bait>,
        /// Its place among the fish's baits, 0 the favourite.
        place: Option<usize>,
        /// Whether bait is the rule for this fish.
        wanted: bool,
        /// Whether small fish would strip a second hook.
        stripped: bool,
    },
    /// Span of a wing in cold water.
    Cold {
        /// The span; `None` for what is no wing.
        span: Option<Metres>,
        /// How cold the water is, 0 to 1.
        cold: f64,
    },
    /// Strength of the leader, lb, and what the school wants.
    Leader {
        /// The leader's.
        test_lb: f64,
        /// Wanted.
        wanted_lb: f64,
        /// The school.
        school: LeaderSchool,
    },
    /// Hooks of a spinner.
    Hooks {
        /// Whether one is a treble; `None` for what is no spinner.
        treble: Option<bool>,
        /// The school.
        school: HookSchool,
    },
    /// An attractor ahead of it.
    Attractor {
        /// Whether it has one; `None` for fish nobody uses one for.
        has: Option<bool>,
        /// The school.
        school: AttractorSchool,
        /// Their mood.
        mood: Mood,
    },
    /// The family behind a rotating flasher.
    FlasherBlade {
        /// `None` without one.
        family: Option<Family>,
        /// The school.
        school: FlasherBladeSchool,
    },
    /// How many blades.
    AboveClevis {
        /// One or two.
        blades: u8,
        /// The school.
        school: AboveClevisSchool,
    },
    /// Where an inline spinner carries its weight.
    Weight {
        /// `None` for what is no inline spinner.
        place: Option<WeightSchool>,
        /// The school.
        school: WeightSchool,
    },
    /// Made up, or how many parts must be changed first.
    Ready {
        /// Whether one lies in the box.
        made_up: bool,
        /// Parts to change.
        changes: u8,
    },
    /// The log.
    Evidence(Belief),
    /// What the others drag, and how well this one is known.
    Novelty {
        /// Whether it is the kind everybody drags; `None` when they drag this and that.
        like_the_crowd: Option<bool>,
        /// 0 never fished to 1 well known.
        certainty: f64,
    },
}

impl Basis {
    /// The term it belongs to.
    pub fn term(&self) -> Term {
        match self {
            Self::Speed { .. } => Term::Speed,
            Self::Kind { .. } => Term::Kind,
            Self::Line { .. } | Self::Run { .. } => Term::Line,
            Self::Thump { .. } => Term::Thump,
            Self::Seen { .. } => Term::Seen,
            Self::Clarity { .. } => Term::Clarity,
            Self::Light { .. } => Term::Light,
            Self::Forage { .. } => Term::Forage,
            Self::Warmth { .. } => Term::Warmth,
            Self::Size { .. } => Term::Size,
            Self::Bait { .. } => Term::Bait,
            Self::Cold { .. } => Term::Cold,
            Self::Leader { .. } => Term::Leader,
            Self::Hooks { .. } => Term::Hooks,
            Self::Attractor { .. } => Term::Attractor,
            Self::FlasherBlade { .. } => Term::FlasherBlade,
            Self::AboveClevis { .. } => Term::AboveClevis,
            Self::Weight { .. } => Term::Weight,
            Self::Ready { .. } => Term::Ready,
            Self::Evidence(_) => Term::Evidence,
            Self::Novelty { .. } => Term::Novelty,
        }
    }

    /// −1 against it to 1 for it.
    pub fn points(&self) -> f64 {
        match *self {
            Self::Speed {
                now,
                from,
                to,
                best,
            } => speed(now, from, to, best),
            Self::Kind { place, .. } => place.map_or(-1.0, |place| 1.0 - 0.15 * place as f64),
            Self::Line { out, depth, tool } => outfit::points(tool, out, depth),
            Self::Run { body, depth, flow } => body_for(body, depth, flow),
            // A factor of e off is nothing for it, a factor of seven speaks against it as loudly as can be.
            Self::Thump { index, wanted } => nearness(index, wanted, 1.0),
            Self::Seen { score, best, .. } => {
                if best > 0.0 {
                    2.0 * score / best - 1.0
                } else {
                    0.0
                }
            }
            Self::Clarity { clearness, colour } => {
                clearness.mean(|clearness| clarity(clearness, colour))
            }
            Self::Light { lighting, finish } => lighting.mean(|lighting| light(lighting, finish)),
            Self::Forage { forage, colour } => flag(forage.goes_with(colour), 1.0, 0.0),
            Self::Warmth {
                temperature,
                colour,
            } => flag(
                matches!(colour, Colour::Copper | Colour::MatteCopper),
                copper_water(temperature),
                0.0,
            ),
            Self::Size { length, forage } => nearness(length.0, forage.0, 3.0_f64.ln()),
            Self::Bait {
                bait,
                place,
                wanted,
                stripped,
            } => {
                let fits = match (bait, place) {
                    (None, _) => flag(wanted, -0.6, 0.0),
                    (Some(_), None) => -0.4,
                    (Some(_), Some(place)) => 1.0 - 0.2 * place as f64,
                };
                (fits - flag(stripped, 0.8, 0.0)).max(-1.0)
            }
            Self::Cold { span, cold } => {
                cold * span.map_or(0.0, |span| flag(span.0 >= 1.5 * INCH.0, 1.0, -1.0))
            }
            Self::Leader {
                test_lb, wanted_lb, ..
            } => nearness(test_lb, wanted_lb, 3.0_f64.ln()),
            Self::Hooks { treble, school } => treble.map_or(0.0, |treble| {
                flag(treble == (school == HookSchool::Treble), 1.0, -1.0)
            }),
            Self::Attractor { has, school, mood } => attractor(has, school, mood),
            Self::FlasherBlade { family, school } => flasher_blade(family, school),
            Self::AboveClevis { blades, school } => match (blades, school) {
                (2, AboveClevisSchool::SecondBlade) => 1.0,
                (2, AboveClevisSchool::None) => -0.3,
                _ => 0.0,
            },
            Self::Weight { place, school } => {
                place.map_or(0.0, |place| flag(place == school, 1.0, -0.5))
            }
            Self::Ready { made_up, changes } => match (made_up, changes) {
                (true, _) => 1.0,
                (false, changes) => -0.5 * f64::from(changes),
            },
            Self::Evidence(belief) => belief.points(),
            Self::Novelty {
                like_the_crowd,
                certainty,
            } => match like_the_crowd {
                Some(true) => -1.0,
                Some(false) => 0.5,
                None => 0.25 - 0.5 * certainty,
            },
        }
    }
}

/// How well a body suits a run (CP-21; common practice, no source): torpedo for runs to 6 ft deep at walking pace and more,
/// bell for fast water under 6 ft. That slow shallow water wants no heavy body is from memory.
fn body_for(body: Option<BodyShape>, depth: Metres, flow: MetresPerSecond) -> f64 {
    let fast = ramp(flow.0, 1.4, 2.0);
    let shallow = 1.0 - ramp(depth.0, 1.5, 2.2);
    let slow = 1.0 - ramp(flow.0, 0.4, 0.9);
    match body {
        Some(BodyShape::Torpedo) => 1.0 - shallow * (1.5 * fast + slow),
        Some(BodyShape::Bell) => 1.3 * fast * shallow - 0.3,
        Some(BodyShape::TailWeight) => 0.5 - 0.5 * shallow * fast,
        Some(BodyShape::Ring) | None => 0.4 * slow * shallow,
    }
}

fn flag(holds: bool, yes: f64, no: f64) -> f64 {
    if holds { yes } else { no }
}

/// 1 where two figures are equal, 0 where they are a factor of e to the `scale` apart, −1 far off.
fn nearness(figure: f64, wanted: f64, scale: f64) -> f64 {
    if figure <= 0.0 {
        return -1.0;
    }
    (1.0 - (figure / wanted).ln().abs() / scale).max(-1.0)
}

/// 1 at the best speed, 0 at the ends of the range in use, down to −1 beyond it.
fn speed(
    now: MetresPerSecond,
    from: MetresPerSecond,
    to: MetresPerSecond,
    best: MetresPerSecond,
) -> f64 {
    let end = if now < best { from } else { to };
    // Where the day pushes the best speed to an end, a tenth of the range is left on that side.
    let reach = (end - best).0.abs().max(0.1 * (to - from).0);
    (1.0 - (now - best).0.abs() / reach).max(-1.0)
}

/// What practice says of finishes by clearness (common practice, no source).
fn clarity(clearness: Clearness, colour: Colour) -> f64 {
    // Bars and patterns are for stained and dirty water.
    if colour.is_pattern() && clearness != Clearness::Clear {
        return 0.7;
    }
    said_in(clearness, colour.goes_as())
}

fn said_in(clearness: Clearness, colour: Colour) -> f64 {
    use Colour::{
        Blue, Brass, Chartreuse, Copper, Glow, Green, Nickel, Orange, Pink, Purple, Red, White,
    };
    match (clearness, colour) {
        (Clearness::Clear, Nickel | Blue | Purple)
        | (Clearness::Stained, Orange | Chartreuse | Pink)
        | (Clearness::Dirty, Nickel | Brass | Copper) => 1.0,
        (Clearness::Clear, Brass | Copper | Green | White) => 0.3,
        (Clearness::Stained, Brass | Copper) => 0.5,
        (Clearness::Dirty, Chartreuse | Orange | White | Glow) => 0.7,
        (Clearness::Clear, Chartreuse | Orange | Pink | Glow)
        | (Clearness::Stained, Blue | Purple)
        | (Clearness::Dirty, Blue | Purple | Green | Red | Pink) => -0.5,
        // Of the others nobody has a saying.
        _ => 0.0,
    }
}

/// What practice says of finishes by light (common practice, no source).
fn light(lighting: Lighting, finish: Finish) -> f64 {
    let metal = finish.colour.is_metal();
    // Matte silver throws white; other matte metal is as dull as hammered (CP-27).
    if finish.colour.is_matte() {
        return flag(matches!(lighting, Lighting::Dark | Lighting::Low), 0.8, 0.0);
    }
    match (lighting, finish.colour.goes_as()) {
        (Lighting::Dark, Colour::Glow) => 1.0,
        (Lighting::Dark | Lighting::Low, Colour::Black | Colour::White) => 0.8,
        (Lighting::Dark | Lighting::Low, _) if metal && finish.hammered => 0.8,
        (Lighting::Low, Colour::Glow) => 0.6,
        (Lighting::Bright, _) if metal && !finish.hammered => 1.0,
        (Lighting::Bright, Colour::Glow) => -0.5,
        _ => 0.0,
    }
}

fn attractor(has: Option<bool>, school: AttractorSchool, mood: Mood) -> f64 {
    let Some(has) = has else { return 0.0 };
    match (school, mood) {
        // Shy fish are let alone with it, whatever the school (CP-19; common practice, no source).
        (_, Mood::Shy) | (AttractorSchool::Never, _) => flag(has, -1.0, 0.5),
        (AttractorSchool::Always, _) => flag(has, 1.0, -1.0),
        (AttractorSchool::Half, _) => 0.0,
    }
}

fn flasher_blade(family: Option<Family>, school: FlasherBladeSchool) -> f64 {
    let Some(family) = family else { return 0.0 };
    let favourite = match school {
        FlasherBladeSchool::Indiana => Family::Indiana,
        FlasherBladeSchool::Colorado => Family::Colorado,
        FlasherBladeSchool::MagnumWillow => Family::MagnumWillow,
    };
    match (family == favourite, family.is_wing()) {
        (true, _) => 1.0,
        // A wing spins behind a flasher for every school.
        (false, true) => 0.3,
        (false, false) => -0.3,
    }
}

/// A term with its weight and what it rests on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Scored {
    /// The figures.
    pub basis: Basis,
    /// How much the term counts.
    pub weight: f64,
}

impl Scored {
    /// The term.
    pub fn term(&self) -> Term {
        self.basis.term()
    }

    /// −1 against it to 1 for it.
    pub fn points(&self) -> f64 {
        self.basis.points()
    }

    /// Points times weight.
    pub fn weighted(&self) -> f64 {
        self.points() * self.weight
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    const MPH: f64 = 0.447_04;

    #[rstest]
    #[case::their_first(Some(0), 1.0)]
    #[case::their_third(Some(2), 0.7)]
    #[case::none_of_theirs(None, -1.0)]
    fn a_later_kind_counts_for_less(#[case] place: Option<usize>, #[case] points: f64) {
        let basis = Basis::Kind {
            kind: Kind::CrawlerHarness,
            place,
        };
        assert!((basis.points() - points).abs() < 1e-12);
    }

    #[rstest]
    #[case::at_its_best(1.2, 1.2, 1.0)]
    #[case::at_the_end(1.5, 1.2, 0.0)]
    #[case::far_beyond(3.0, 1.2, -1.0)]
    #[case::slow_water(1.0, 1.0, 1.0)]
    fn speed_has_its_best(#[case] now: f64, #[case] best: f64, #[case] points: f64) {
        let mph = |speed: f64| MetresPerSecond(speed * MPH);
        let basis = Basis::Speed {
            now: mph(now),
            from: mph(1.0),
            to: mph(1.5),
            best: mph(best),
        };
        assert!((basis.points() - points).abs() < 1e-9, "{}", basis.points());
    }

    #[rstest]
    #[case::clear(Clearness::Clear, Colour::Nickel, Colour::Orange)]
    #[case::stained(Clearness::Stained, Colour::Chartreuse, Colour::Nickel)]
    #[case::dirty(Clearness::Dirty, Colour::Nickel, Colour::Purple)]
    fn the_water_chooses_the_finish(
        #[case] clearness: Clearness,
        #[case] better: Colour,
        #[case] worse: Colour,
    ) {
        assert!(clarity(clearness, better) > clarity(clearness, worse));
    }

    #[test]
    fn sun_wants_polish_and_low_light_wants_dull() {
        let (smooth, hammered) = (
            Finish::plain(Colour::Brass),
            Finish::hammered(Colour::Brass),
        );
        assert!(light(Lighting::Bright, smooth) > light(Lighting::Bright, hammered));
        assert!(light(Lighting::Low, hammered) > light(Lighting::Low, smooth));
        let glow = Finish::plain(Colour::Glow);
        assert!(light(Lighting::Dark, glow) > light(Lighting::Bright, glow));
    }

    #[test]
    fn copper_has_its_water() {
        let at = |celsius, colour| {
            Basis::Warmth {
                temperature: Celsius(celsius),
                colour,
            }
            .points()
        };
        assert!(at(21.0, Colour::Copper) > at(12.0, Colour::Copper));
        assert!(at(21.0, Colour::Copper) > at(21.0, Colour::Nickel));
    }

    #[test]
    fn panfish_strip_a_second_hook() {
        let bait = |stripped| {
            Basis::Bait {
                bait: Some(Bait::Crawler),
                place: Some(0),
                wanted: true,
                stripped,
            }
            .points()
        };
        assert!(bait(false) > bait(true));
    }

    #[test]
    fn shy_fish_want_no_attractor_whatever_the_school() {
        for &school in AttractorSchool::ALL {
            assert!(attractor(Some(true), school, Mood::Shy) < 0.0);
            assert!(attractor(Some(true), school, Mood::Active) >= -1.0);
        }
        let always = |has| attractor(Some(has), AttractorSchool::Always, Mood::Neutral);
        assert!(always(true) > always(false));
    }

    #[test]
    fn every_term_stays_between_minus_one_and_one() {
        for &clearness in &[Clearness::Clear, Clearness::Stained, Clearness::Dirty] {
            for &colour in Colour::ALL {
                assert!(clarity(clearness, colour).abs() <= 1.0);
            }
        }
        assert!((nearness(0.0, 1.0, 1.0) + 1.0).abs() < 1e-12);
        assert!((nearness(1e9, 1.0, 1.0) + 1.0).abs() < 1e-12);
        assert!((nearness(1.0, 1.0, 1.0) - 1.0).abs() < 1e-12);
    }
}
