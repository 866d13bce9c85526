//! What the match, the light and the rules read like, and how the water is drawn.

use askama::Template;
use jiff::civil::date;
use motilis_core::advice::{
    AttractorSchool, Basis, Clearness, HookSchool, Lighting, Mood, Move, Scored, Sky,
};
use motilis_core::book::RuleId;
use motilis_core::column::Seen;
use motilis_core::evidence::{Angler, Record};
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::{FalseColours, Picture, Sighting};
use motilis_core::rig::{Bait, ClevisStyle, Colour, Finish, Kind, Part, What};
use motilis_core::rules::{LocalRule, Says, Slot, Topic, clash};
use motilis_core::units::{Celsius, FOOT, INCH, MILE_PER_HOUR, Metres};
use motilis_view::draw::{DayCurve, DayCurveSource, Sightings};
use motilis_view::units::System;
use motilis_view::words::advice as say;
use motilis_view::words::rules as rule_words;
use rstest::rstest;

fn mph(speed: f64) -> motilis_core::units::MetresPerSecond {
    speed * MILE_PER_HOUR
}

fn speed(now: f64, best: f64) -> Basis {
    Basis::Speed {
        now: mph(now),
        from: mph(1.0),
        to: mph(1.5),
        best: mph(best),
    }
}

fn evidence(fish: u32, rod_hours: f64) -> Basis {
    Basis::Evidence(
        Angler::default()
            .believes(Record { fish, rod_hours })
            .unwrap(),
    )
}

fn bait(bait: Option<Bait>, place: Option<usize>, stripped: bool) -> Basis {
    Basis::Bait {
        bait,
        place,
        wanted: true,
        stripped,
    }
}

#[rstest]
#[case(speed(1.2, 1.2), "at its best speed today, 1.2 mph")]
#[case(speed(1.4, 1.2), "in its 1.0–1.5 mph, best today 1.2 mph")]
#[case(speed(2.0, 1.2), "practice runs it at 1.0–1.5 mph, best today 1.2 mph")]
#[case(Basis::Kind { kind: Kind::WingWorm, place: Some(0) }, "wing on a worm hook is what is tied for this fish first")]
#[case(Basis::Kind { kind: Kind::WingWorm, place: None }, "wing on a worm hook is tied for other fish")]
#[case(Basis::Thump { index: 2.0, wanted: 1.0 }, "thump 2.0, 1.0 wanted: louder than asked for")]
#[case(Basis::Thump { index: 0.3, wanted: 1.0 }, "thump 0.3, 1.0 wanted: quieter than asked for")]
#[case(Basis::Seen { range: 2.0, score: 1.5, best: 2.0 }, "seen from 6.6 ft (4.8–9), 75 of 100 among these rigs")]
#[case(Basis::Seen { range: 0.05, score: 0.0, best: 0.0 }, "seen from nowhere but at the nose, 0 of 100 among these rigs")]
#[case(Basis::Clarity { clearness: Clearness::Stained.into(), colour: Colour::Orange }, "anglers like orange in stained water")]
#[case(Basis::Clarity { clearness: Clearness::Clear.into(), colour: Colour::Orange }, "anglers leave orange home in clear water")]
#[case(Basis::Clarity { clearness: Clearness::Stained.into(), colour: Colour::Nickel }, "anglers have no saying about nickel in stained water")]
#[case(Basis::Light { lighting: Lighting::Low.into(), finish: Finish::hammered(Colour::Brass) }, "anglers like hammered brass in low light")]
#[case(Basis::Light { lighting: Lighting::Bright.into(), finish: Finish::plain(Colour::Glow) }, "anglers leave glow home in bright sun")]
#[case(Basis::Forage { forage: Forage::Shiner, colour: Colour::Nickel }, "nickel goes with shiners")]
#[case(Basis::Forage { forage: Forage::Shiner, colour: Colour::Orange }, "orange is no match for shiners")]
#[case(Basis::Warmth { temperature: Celsius(21.0), colour: Colour::Copper }, "copper in its own water")]
#[case(Basis::Run { body: Some(motilis_core::rig::BodyShape::Bell), depth: Metres(1.2), flow: motilis_core::units::MetresPerSecond(2.0) }, "bell body, for fast water under 6 ft; here a run of 3.9 ft at 4.5 mph")]
#[case(Basis::Size { length: Metres(0.06), forage: Metres(0.075) }, "2.4 in beside forage of 3 in")]
#[case(
    bait(Some(Bait::Crawler), Some(0), false),
    "crawler is their first bait"
)]
#[case(
    bait(Some(Bait::Corn), None, true),
    "corn is no bait for them; small fish strip the second hook"
)]
#[case(bait(None, None, false), "no bait where most are caught on it")]
#[case(Basis::Cold { span: Some(1.1 * INCH), cold: 1.0 }, "cold water asks for a wing of 1½ in or more; this one spans 27.94 mm")]
#[case(
    evidence(0, 0.0),
    "nothing in your log at this depth and in this light yet"
)]
#[case(
    evidence(3, 6.0),
    "3 fish in 6.0 rod-hours at this depth and in this light: 0.44 an hour, 80 % between 0.18 and 0.75; yours on the whole 0.25"
)]
#[case(Basis::Hooks { treble: Some(true), school: HookSchool::Single }, "treble; your school fishes singles")]
#[case(Basis::Attractor { has: Some(false), school: AttractorSchool::Half, mood: Mood::Neutral }, "without attractor; your school has half the lines with")]
#[case(Basis::Ready { made_up: false, changes: 2 }, "to be built with 2 parts changed")]
#[case(Basis::Novelty { like_the_crowd: Some(true), certainty: 0.5 }, "everybody drags it")]
fn a_reason_shows_the_figures_it_was_counted_from(#[case] basis: Basis, #[case] words: &str) {
    let scored = Scored { basis, weight: 1.0 };
    assert_eq!(say::basis(&scored, System::Imperial), words);
    // What the model made is told from what anglers say.
    let computed = matches!(
        basis,
        Basis::Seen { .. } | Basis::Thump { .. } | Basis::Line { .. }
    );
    assert_eq!(say::kind_of_figure(&scored) == "computed", computed);
}

#[test]
fn figures_follow_the_boats_units() {
    let scored = Scored {
        basis: speed(1.2, 1.0),
        weight: 1.0,
    };
    assert_eq!(
        say::basis(&scored, System::Metric),
        "in its 1.6–2.4 km/h, best today 1.6 km/h"
    );
}

#[test]
fn a_swap_names_its_parts() {
    let part = |what, size, finish| Part::new(what, size, finish).unwrap();
    let blade = part(
        What::Blade(motilis_core::blade::Family::Indiana),
        4.0,
        Finish::hammered(Colour::Copper),
    );
    let clevis = part(
        What::Clevis(ClevisStyle::Stirrup),
        3.0,
        Finish::plain(Colour::Nickel),
    );
    assert_eq!(
        say::swap(&[blade]),
        "Swap the blade for Indiana 4, hammered copper"
    );
    assert!(say::swap(&[blade, clevis]).contains(", on a stirrup clevis 3"));
    assert_eq!(say::swap(&[]), "");
}

#[rstest]
#[case(Move::Sky(Sky::Cloud), "If the sky turns to cloud")]
#[case(Move::Temperature(Celsius(10.0)), "If the water comes to 50 °F")]
#[case(Move::Clarity(5.0 * FOOT), "If a white disk is lost at 5 ft")]
#[case(Move::Sun(-4.0), "At last light")]
#[case(Move::Sun(30.0), "When the sun stands high")]
#[case(Move::Mood(Mood::Shy), "If they turn shy")]
#[case(Move::Speed(mph(1.6)), "At 1.6 mph")]
fn a_move_is_told_as_one_would_say_it(#[case] moved: Move, #[case] words: &str) {
    assert_eq!(say::moved(moved, System::Imperial), words);
}

fn rule(says: Says, fish: Option<Fish>) -> LocalRule {
    LocalRule {
        says,
        fish,
        from: None,
        to: None,
        source: "the booklet of 2026".into(),
        entered: date(2026, 4, 18),
    }
}

const SLOT: Slot = Slot {
    from: Some(Metres(0.381)),
    to: Some(Metres(0.5588)),
    protected: false,
    one_over: false,
};

#[rstest]
#[case(Says::AtMost(Topic::Lines, 1), None, "1 line a person")]
#[case(Says::AtMost(Topic::Lines, 2), None, "2 lines a person")]
#[case(Says::AtMost(Topic::Hooks, 3), None, "At most 3 hooks on a line")]
#[case(
    Says::AtMost(Topic::Daily, 4),
    Some(Fish::Walleye),
    "Walleye: at most 4 a day"
)]
#[case(
    Says::AtMost(Topic::Possession, 8),
    None,
    "All fish: at most 8 in possession"
)]
#[case(Says::Holds(Topic::Barbless), None, "Barbless hooks")]
#[case(
    Says::Holds(Topic::Closed),
    Some(Fish::LakeTrout),
    "Lake trout: closed to fishing"
)]
#[case(Says::Slot(SLOT), None, "All fish: keep 15 in to 22 in")]
#[case(Says::Slot(Slot { protected: true, ..SLOT }), None, "All fish: release 15 in to 22 in")]
#[case(Says::Slot(Slot { from: None, one_over: true, ..SLOT }), None, "All fish: keep up to 22 in, one may be longer")]
#[case(Says::Slot(Slot { to: None, ..SLOT }), None, "All fish: keep 15 in and longer")]
fn a_rule_reads_like_a_rule(#[case] says: Says, #[case] fish: Option<Fish>, #[case] words: &str) {
    assert_eq!(rule_words::says(&rule(says, fish), System::Imperial), words);
}

#[test]
fn a_rule_tells_when_it_holds_and_where_it_was_read() {
    let mut summer = rule(Says::Holds(Topic::Bait), None);
    assert_eq!(rule_words::span(&summer), "all year");
    summer.from = Some(date(2026, 5, 9));
    assert_eq!(rule_words::span(&summer), "from 9 May 2026");
    summer.to = Some(date(2026, 10, 31));
    assert_eq!(rule_words::span(&summer), "9 May 2026 to 31 Oct 2026");
    summer.from = None;
    assert_eq!(rule_words::span(&summer), "until 31 Oct 2026");
    assert_eq!(
        rule_words::source(&summer),
        "entered 18 Apr 2026 from: the booklet of 2026"
    );
    assert!(rule_words::CAUTION.contains("not as law"));
}

#[test]
fn rules_that_meet_are_told_apart_from_those_that_contradict() {
    let there = [(RuleId(1), rule(Says::AtMost(Topic::Lines, 2), None))];
    let told = |count| {
        let new = rule(Says::AtMost(Topic::Lines, count), None);
        rule_words::clash(&clash(&new, None, &there).unwrap(), System::Imperial)
    };
    assert!(told(1).starts_with("This contradicts “2 lines a person” (all year)"));
    assert!(told(2).contains("says the same already"));
}

fn seen(colour: Colour, range: f64, receptor: &'static str) -> Seen {
    Seen {
        finish: Finish::hammered(colour),
        sighting: Sighting {
            range,
            receptor,
            colour: 3.0,
        },
        picture: Picture {
            finish: [1.0, 0.5, 0.0],
            behind: [0.0, 0.2, 0.4],
        },
        fish: FalseColours {
            finish: [0.75, 0.5, 0.5],
            behind: [0.5; 3],
        },
    }
}

/// Both pictures of each finish, its bar in the measure of the farthest, and what sees it.
#[test]
fn finishes_are_shown_to_a_diver_and_to_the_fish() {
    let all = [
        seen(Colour::Copper, 4.0, "L"),
        seen(Colour::Nickel, 2.0, "rod"),
    ];
    let shown = Sightings::new(&all, "walleye", System::Metric)
        .render()
        .unwrap();
    assert!(
        shown.contains("hammered copper") && shown.contains("4.0 m") && shown.contains("red cones")
    );
    assert!(shown.contains("rods") && shown.contains("seen by walleye"));
    assert_eq!(shown.matches("fill=\"#ff8000\"").count(), 2);
    assert_eq!(shown.matches("fill=\"#bf8080\"").count(), 2);
    assert!(
        shown.contains("width=\"100\"") && shown.contains("width=\"50\""),
        "{shown}"
    );
    assert!(!shown.contains("NaN") && !shown.contains("style="));
}

#[rstest]
#[case(620.0)]
#[case(400.0)]
fn the_day_is_drawn_from_dawn_to_dark(#[case] width: f64) {
    let sun: Vec<(f64, f64)> = (0..=10)
        .map(|step| {
            (
                5.0 + 1.5 * f64::from(step),
                40.0 - 4.0 * (f64::from(step) - 5.0).powi(2),
            )
        })
        .collect();
    let ranges = |scale: f64| sun.iter().map(|(_, up)| scale * (up + 70.0)).collect();
    let curve = DayCurve::new(DayCurveSource {
        width,
        unit: "ft",
        finishes: vec![
            ("brass".into(), ranges(0.1)),
            ("copper".into(), ranges(0.09)),
        ],
        sun: sun.clone(),
        now: 12.0,
        title: "Through the day.".into(),
    })
    .render()
    .unwrap();
    assert!(curve.contains("brass") && curve.contains("copper"));
    // Night, twilight and day are told apart by their washes.
    for wash in ["w0", "w1", "w5"] {
        assert!(curve.contains(wash), "{wash}");
    }
    assert!(curve.contains(">12<"), "{curve}");
    assert!(!curve.contains("NaN") && !curve.contains("inf"));
}

/// In the polar night there is neither a sun nor a range; the drawing still stands.
#[test]
fn a_day_without_light_can_be_drawn() {
    let curve = DayCurve::new(DayCurveSource {
        width: 620.0,
        unit: "m",
        sun: vec![(0.0, -30.0)],
        finishes: vec![("white".into(), vec![0.0])],
        now: 0.0,
        title: String::new(),
    })
    .render()
    .unwrap();
    assert!(!curve.contains("NaN") && !curve.contains("inf"), "{curve}");
}
