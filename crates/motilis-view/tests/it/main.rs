//! Drawings and words, rendered without a server.

mod advice;
mod one_answer;
mod spread;

use askama::Template;
use motilis_core::advice::{Candidate, Day, Judge, Mood, Sky, Ways, Wind};
use motilis_core::bench::Layout;
use motilis_core::blade::Family;
use motilis_core::book::{Board, SetupId};
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::{self, Stain};
use motilis_core::line::{Line, LineSetup, Run, Start, Surroundings};
use motilis_core::rig::{
    Bait, BeadStyle, ClevisStyle, Colour, Finish, HookStyle, Kind, Mount, Part, Piece, Rig, Stack,
    SwivelStyle, What,
};
use motilis_core::tackle::{LineMaterial, LineStock, SinkerStyle, Weight, WeightMaterial};
use motilis_core::units::{Celsius, FOOT, MILE_PER_HOUR, Metres, OUNCE};
use motilis_core::water::Water;
use motilis_view::draw::{
    BenchDrawing, BenchSource, ColumnSource, Paper, Sheet, SideSource, SideView, SpeedRule,
    WaterColumn,
};
use motilis_view::units::System;
use motilis_view::words;
use rstest::rstest;

fn piece(what: What, size: f64, colour: Colour, count: u8) -> Piece {
    Piece::many(Part::new(what, size, Finish::plain(colour)).unwrap(), count)
}

fn harness() -> Rig {
    let mut blade = piece(What::Blade(Family::Colorado), 4.0, Colour::Brass, 1);
    blade.part.finish = Finish::hammered(Colour::Brass);
    let mut stack = Stack::empty(Kind::CrawlerHarness, Mount::leader(17).unwrap());
    stack.pieces = vec![
        piece(What::Swivel(SwivelStyle::Barrel), 14.0, Colour::Nickel, 1),
        piece(What::Clevis(ClevisStyle::Stirrup), 2.0, Colour::Nickel, 1),
        blade,
        piece(What::Bead(BeadStyle::Round), 6.0, Colour::Chartreuse, 5),
        piece(What::Hook(HookStyle::Octopus), 2.0, Colour::Nickel, 2),
        piece(What::Bait(Bait::Crawler), 125.0, Colour::Pink, 1),
    ];
    Rig::new("Tamarin two-hook", stack).unwrap()
}

fn drawn(hanging: bool) -> BenchDrawing {
    let rig = harness();
    BenchDrawing::new(&BenchSource {
        hanging,
        ..BenchSource::plain(rig.stack(), &Layout::new(rig.stack()), &rig.name)
    })
}

fn bouncer() -> LineSetup {
    LineSetup {
        name: "Light bouncer rod".into(),
        start: Start::RodTip { height: 5.0 * FOOT },
        main: LineStock::of_test(LineMaterial::Nylon, 10).unwrap(),
        core: None,
        ahead: Metres(0.0),
        weight: Some(Weight::Sinker(
            SinkerStyle::BottomBouncer,
            OUNCE,
            WeightMaterial::Lead,
        )),
        leader: LineStock::of_test(LineMaterial::Nylon, 12).unwrap(),
        lead: 5.0 * FOOT,
        strum: 1.2,
        learned: motilis_core::line::Learned::default(),
        reel: 300.0 * FOOT,
    }
}

fn run(out: Metres) -> Run {
    let here = Surroundings {
        water: Water::fresh(Celsius(14.4)).unwrap(),
        temperature: Celsius(14.4),
        bottom: Some(27.0 * FOOT),
    };
    let (rig, setup) = (harness(), bouncer());
    Line::new(&rig, &setup, here)
        .unwrap()
        .run(1.2 * MILE_PER_HOUR, out)
        .unwrap()
}

/// Tea-stained water that loses a disk at 7 ft.
pub(crate) fn tea() -> light::Fading {
    let daylight = light::Daylight::under(&light::Sky {
        sun_alt: 40.0,
        moon_alt: -20.0,
        moon_phase: 90.0,
        cloud: 0.3,
        wind: 3.0,
    })
    .unwrap();
    let optics = light::Optics::from_secchi(Stain::Tea, 7.0 * FOOT.0, false).unwrap();
    light::Fading::new(&daylight, &optics)
}

fn side(run: Option<&Run>, system: System, stretched: bool) -> String {
    SideView::new(&SideSource {
        run,
        tip_height: 5.0 * FOOT,
        board: false,
        bottom: 27.0 * FOOT,
        fading: &tea(),
        fish: (20.0 * FOOT, 25.0 * FOOT),
        sure: None,
        cable: false,
        system,
        size: if stretched {
            (390.0, 400.0)
        } else {
            (860.0, 430.0)
        },
        stretched,
    })
    .render()
    .unwrap()
}

/// Numbers of an SVG attribute, in order.
fn numbers(path: &str) -> Vec<f64> {
    path.split(|c: char| !(c.is_ascii_digit() || c == '.' || c == '-'))
        .filter_map(|number| number.parse().ok())
        .collect()
}

fn path_of(svg: &str, class: &str) -> Vec<(f64, f64)> {
    let end = svg.find(&format!("\" class=\"{class}\"")).unwrap();
    let start = svg[..end].rfind("d=\"").unwrap() + 3;
    numbers(&svg[start..end])
        .chunks(2)
        .map(|point| (point[0], point[1]))
        .collect()
}

#[test]
fn the_side_view_is_to_scale() {
    let run = run(68.0 * FOOT);
    let curve = path_of(&side(Some(&run), System::Imperial, false), "towed");
    let (entry, rig) = (curve[0], curve[curve.len() - 1]);
    let drawn = (rig.0 - entry.0) / (rig.1 - entry.1);
    let computed = run.rig.run / run.rig.depth;
    assert!((drawn / computed - 1.0).abs() < 0.01, "{drawn} {computed}");
    // A weighted line is steep at the weight and flattens towards the surface.
    let slope = |a: (f64, f64), b: (f64, f64)| (b.1 - a.1) / (b.0 - a.0);
    let weight = curve.len() - 8;
    assert!(slope(curve[0], curve[3]) < slope(curve[weight - 6], curve[weight - 3]));
}

#[test]
fn a_stretched_view_says_by_how_much() {
    let run = run(68.0 * FOOT);
    assert!(side(Some(&run), System::Metric, true).contains("a depth is drawn"));
    assert!(!side(Some(&run), System::Metric, false).contains("depths drawn"));
}

#[test]
fn a_view_tells_in_words_what_it_shows() {
    let run = run(120.0 * FOOT);
    let text = side(Some(&run), System::Imperial, false);
    assert!(text.contains("With 120 ft out the rig runs at") && text.contains("The line drags"));
    assert!(side(None, System::Imperial, false).contains("Side view to scale, bottom at 27 ft."));
}

#[rstest]
#[case(System::Imperial, "rig at 22 ft", "walleye 20–25 ft")]
#[case(System::Metric, "rig at 6.7 m", "walleye 6.1–7.6 m")]
fn the_column_speaks_the_boats_units(
    #[case] system: System,
    #[case] rig: &str,
    #[case] fish: &str,
) {
    let shade = [0.2, 0.3, 0.1];
    let finishes = [(Finish::plain(Colour::Copper), vec![[0.8, 0.4, 0.2]; 2])];
    let column = WaterColumn::new(&ColumnSource {
        width: 400.0,
        water: &[shade; 4],
        rungs: &[5.0 * FOOT, 15.0 * FOOT],
        finishes: &finishes,
        thermocline: Some(24.0 * FOOT),
        wanted_word: "rig at",
        bottom: 27.0 * FOOT,
        clarity: 7.0 * FOOT,
        fish: (20.0 * FOOT, 25.0 * FOOT),
        fish_name: "walleye",
        wanted: 22.0 * FOOT,
        temperature: "58 °F".into(),
        system,
    })
    .render()
    .unwrap();
    assert!(column.contains(rig) && column.contains(fish), "{column}");
    // Four washes and two blades in the colours that were computed.
    assert_eq!(column.matches("fill=\"#334d1a\"").count(), 4);
    assert_eq!(column.matches("fill=\"#cc6633\"").count(), 2);
    assert!(column.contains("thermocline") && column.contains(">CU<"));
}

#[test]
fn a_sketch_turns_its_blade_when_it_turns() {
    let turning = drawn(false).render().unwrap();
    let hanging = drawn(true).render().unwrap();
    assert_ne!(turning, hanging);
    assert_eq!(turning.matches("class=\"hook\"").count(), 2);
    assert_eq!(turning.matches("f-ch").count(), 5);
    assert!(turning.contains("hammered"));
}

#[test]
fn drawings_hold_no_style_and_no_number_that_is_none() {
    let run = run(68.0 * FOOT);
    let rule = SpeedRule::new(1.2 * MILE_PER_HOUR, System::Imperial);
    for svg in [
        side(Some(&run), System::Imperial, false),
        rule.render().unwrap(),
    ] {
        assert!(!svg.contains("style=") && !svg.contains("NaN") && !svg.contains("inf"));
    }
}

#[rstest]
#[case(0.3, "Blade hangs at this speed. Needs 1.0 mph or more.")]
#[case(1.2, "140 turns a minute; at its best speed today, 1.2 mph.")]
#[case(
    3.0,
    "Blows out at this speed. Hold 1.9 mph or less, or take narrower blades."
)]
fn a_reason_is_one_plain_sentence(#[case] mph: f64, #[case] sentence: &str) {
    let day = Day {
        speed: mph * MILE_PER_HOUR,
        temperature: Celsius(14.4),
        salt: false,
        river: false,
        clarity: 7.0 * FOOT,
        stain: Stain::Tea,
        sky: Sky::Cloud,
        overhead: light::Sky {
            sun_alt: 30.0,
            moon_alt: -20.0,
            moon_phase: 90.0,
            cloud: Sky::Cloud.cloud(),
            wind: Wind::Ripple.speed(),
        },
        fish: Fish::Walleye,
        fish_depth: (20.0 * FOOT, 25.0 * FOOT),
        mood: Mood::Neutral,
        forage: Forage::YellowPerch,
        response: motilis_core::advice::Response::Unknown,
        nibblers: false,
        crowd: None,
        bottom: 27.0 * FOOT,
        wanted_depth: 22.0 * FOOT,
    };
    let (rig, setup) = (harness(), bouncer());
    let ways = Ways::usual(day.fish);
    let judge = Judge::new(&day, &ways).unwrap();
    let candidate = Candidate::made_up(rig.clone(), setup.clone());
    let call = &judge.all(&[candidate]).unwrap()[0];
    assert_eq!(
        words::advice::reason(call, &rig, System::Imperial),
        sentence
    );
    assert_eq!(
        words::parts(&rig),
        "Colorado 4, hammered brass, 2 × octopus 2, crawler"
    );
    assert_eq!(
        words::weight(&setup, System::Imperial),
        "1 oz bottom bouncer"
    );
    assert!(
        words::caution_of_setup(&setup)
            .unwrap()
            .starts_with("Lead:")
    );
}

/// The sheet of every paper holds its check bars, its steps and nothing that is no number.
#[rstest]
#[case(Paper::A4, "297mm", "210mm")]
#[case(Paper::Letter, "279.4mm", "215.9mm")]
fn a_sheet_is_as_large_as_its_paper(
    #[case] paper: Paper,
    #[case] width: &str,
    #[case] height: &str,
) {
    let board = Board {
        name: "Tamarin \"two-hook\" & co".into(),
        stack: harness().stack().clone(),
        setup: SetupId(1),
        observed_moment: None,
        dunked: Vec::new(),
        version: 0,
        can_undo: false,
        can_redo: false,
    };
    let svg = Sheet::of_board(&board, paper).alone().render().unwrap();
    assert!(svg.contains(&format!("width=\"{width}\" height=\"{height}\"")));
    // 100 mm and 4 in, in pixels of 1/96 in, from the same left end.
    let bar = |length: f64| {
        let starts = svg
            .split("class=\"check-bar\"")
            .filter_map(|before| before.rsplit("d=\"M").next());
        starts
            .filter_map(|path| {
                let (x, rest) = path.split_once(' ')?;
                let end = rest.split_once('H')?.1.trim_end_matches("\" ");
                Some(end.parse::<f64>().ok()? - x.parse::<f64>().ok()?)
            })
            .any(|drawn| (drawn - length).abs() < 0.06)
    };
    assert!(bar(100.0 / 25.4 * 96.0) && bar(4.0 * 96.0));
    assert!(svg.contains("1  Cut 1") && svg.contains("Snell octopus 2"));
    // Labels hold whole parts: no bead count that breaks off.
    assert!(svg.contains("class=\"label-parts\">Colorado"), "{svg}");
    for label in svg.split("class=\"label-parts\">").skip(1) {
        let label = label.split('<').next().unwrap();
        let block = words::bench::title_block(&board.stack);
        let parts: Vec<String> = block.into_iter().map(|(_, part)| part).collect();
        assert!(parts.join(", ").starts_with(label), "{label}");
        assert!((1..=4).any(|n| parts[..n].join(", ") == label), "{label}");
    }
    assert!(svg.contains("&#38; co") || svg.contains("&amp; co"));
    assert!(!svg.contains("NaN") && !svg.contains("var("));
}
