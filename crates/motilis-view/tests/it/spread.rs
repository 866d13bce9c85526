//! The spread drawn and told.

use crate::{bouncer, harness};
use askama::Template;
use motilis_core::Error;
use motilis_core::blade::Blade;
use motilis_core::blade::Family;
use motilis_core::line::{COLOUR, Core, LineSetup, Start, Surroundings};
use motilis_core::motion::{Course, Frame, LineFrame, Near, Recording};
use motilis_core::spread::{Fault, Gravity, Holder, Mend, Rod, Side, Spread, Stance, State, Towed};
use motilis_core::tackle::{DiverSize, LineMaterial, LineStock, ReleaseHole, SideSetting, Weight};
use motilis_core::units::{Celsius, FOOT, MILE_PER_HOUR, Metres, MetresPerSecond, POUND};
use motilis_core::water::Water;
use motilis_view::draw::{LineLabel, Mark, SpreadDrawing, SpreadSource, ThumpWave, TurningBlade};
use motilis_view::units::System;
use motilis_view::words::spread as say;
use rstest::rstest;
use std::sync::Arc;

fn rod(holder: &str, setup: LineSetup, board: Option<f64>) -> Rod {
    Rod {
        holder: Holder::from_key(holder).unwrap(),
        stance: Stance::Corner,
        length: 7.0 * FOOT,
        board: board.map(|board| board * FOOT),
        setup: Arc::new(setup),
        towed: Towed::Rig(Arc::new(harness())),
        out: 60.0 * FOOT,
        wanted: 15.0 * FOOT,
    }
}

fn board(weight: Option<Weight>) -> LineSetup {
    LineSetup {
        start: Start::Board,
        weight,
        ..bouncer()
    }
}

fn surroundings() -> Surroundings {
    Surroundings {
        water: Water::fresh(Celsius(15.0)).unwrap(),
        temperature: Celsius(15.0),
        bottom: Some(27.0 * FOOT),
    }
}

/// A bouncer in the port corner, the same rig on a board to starboard.
fn two() -> Spread {
    Spread {
        speed: 1.2 * MILE_PER_HOUR,
        rods: vec![
            rod("P1", bouncer(), None),
            rod("S4", board(bouncer().weight), Some(60.0)),
        ],
    }
}

fn drawn(width: f64, mark: Mark) -> String {
    let spread = two();
    let running = spread.running(&surroundings(), None).unwrap();
    let label = |out: &str| LineLabel {
        mark,
        colour: "f-br".to_owned(),
        out: out.to_owned(),
        name: "Tamarin two-hook".into(),
        trouble: if mark == Mark::Works {
            String::new()
        } else {
            "stalled".into()
        },
        address: "/spread/1?line=1".into(),
    };
    SpreadDrawing::new(&SpreadSource {
        running: &running,
        labels: vec![label("back 60 ft"), label("cable 61 ft")],
        selected: Some(1),
        bottom: 27.0 * FOOT,
        fading: &crate::tea(),
        fish: (20.0 * FOOT, 25.0 * FOOT),
        light: vec![(3.0 * FOOT, "50 %".into())],
        system: System::Imperial,
        size: (width, 700.0),
        room: 1.0,
    })
    .render()
    .unwrap()
}

/// Numbers behind a word in a drawing.
fn after(svg: &str, word: &str) -> Vec<f64> {
    svg.split(word)
        .skip(1)
        .filter_map(|rest| {
            let figure: String = rest
                .chars()
                .take_while(|c| c.is_ascii_digit() || *c == '.' || *c == '-')
                .collect();
            figure.parse().ok()
        })
        .collect()
}

#[rstest]
#[case(900.0)]
#[case(390.0)]
fn a_spread_is_drawn_from_above_and_from_the_side(#[case] width: f64) {
    let svg = drawn(width, Mark::Works);
    assert_eq!(svg.matches("class=\"sp-line").count(), 4);
    // The line in hand is marked in both views.
    assert_eq!(svg.matches("sp-line sp-on").count(), 2);
    // To starboard is above the keel, to port below it: the boat heads left.
    let keel = after(&svg, "data-keel=\"")[0];
    let board = svg.split("sp-board").next().unwrap();
    let at = board.rsplit("translate(").next().unwrap();
    let y: f64 = at.split([' ', ')']).nth(1).unwrap().parse().unwrap();
    assert!(y < keel - 20.0, "{y} {keel}");
    assert!(svg.contains("1: Tamarin two-hook,") && svg.contains("cable 61 ft"));
    assert!(svg.contains("50 %") && svg.contains("bottom 27 ft") && svg.contains("fish 20–25 ft"));
    // Tags stay on the paper.
    for x in after(&svg, "<rect x=\"") {
        assert!((0.0..width).contains(&x), "{x}");
    }
}

#[test]
fn a_line_in_trouble_says_so_on_its_tag() {
    let svg = drawn(900.0, Mark::Cannot);
    assert!(svg.contains("sp-tag sp-cannot") && svg.contains(">stalled<"));
    assert!(svg.contains("#m-cannot") && !drawn(900.0, Mark::Works).contains("#m-cannot"));
}

fn faults() -> Vec<Fault> {
    let mph = 1.2 * MILE_PER_HOUR;
    vec![
        Fault::Unsolved(Error::contradiction("out_m", "let out more")),
        Fault::Stalled { starts: mph },
        Fault::RollingOver { above: mph },
        Fault::TooSlow { from: mph },
        Fault::TooFast { to: mph },
        Fault::OutsideWindow,
        Fault::OnBottom {
            too_much: 6.0 * FOOT,
            touching: 54.0 * FOOT,
        },
        Fault::Near {
            other: 2,
            distance: 3.0 * FOOT,
        },
        Fault::LeaderTooLong { most: 7.0 * FOOT },
        Fault::TooManyRods { allowed: 4 },
    ]
}

#[test]
fn every_fault_is_said_in_a_sentence_and_in_a_word_that_fits_a_tag() {
    for fault in faults() {
        let sentence = say::fault(&fault, System::Imperial);
        assert!(sentence.ends_with('.') && sentence.len() > 10, "{sentence}");
        let word = say::trouble(&fault);
        assert!(word.len() <= 14, "{word}");
    }
    let said = |i: usize| say::fault(&faults()[i], System::Imperial);
    assert_eq!(said(1), "The blade hangs; it starts at 1.2 mph.");
    assert_eq!(said(6), "On the bottom: 6 ft too much line.");
    assert_eq!(said(7), "Comes within 3 ft of line 3.");
    // What only may go wrong is no failure.
    assert_eq!(Fault::OutsideWindow.gravity(), Gravity::Watch);
}

#[rstest]
#[case(Mend::Speed(1.3 * MILE_PER_HOUR), "Set 1.3 mph")]
#[case(Mend::Swap(0), "Put on Double willow")]
#[case(Mend::Out(54.0 * FOOT), "Set it 54 ft back")]
#[case(Mend::Board(80.0 * FOOT), "Board at 80 ft")]
#[case(Mend::Lead(7.0 * FOOT), "Leader of 7 ft")]
#[case(Mend::Radius(90.0 * FOOT), "Turn no tighter than 90 ft")]
#[case(Mend::TakeIn, "Take it in")]
fn a_mend_says_what_it_does(#[case] mend: Mend, #[case] words: &str) {
    assert_eq!(
        say::mend(&mend, Some("Double willow"), System::Imperial),
        words
    );
}

#[test]
fn a_rod_says_where_it_stands_and_what_takes_its_line_down() {
    let stock = |material, test| LineStock::of_test(material, test).unwrap();
    let place = |rod: &Rod| say::place(rod, System::Imperial);
    let tool = |rod: &Rod| say::tool(rod, System::Imperial);
    let out = |rod: &Rod| say::out(rod, System::Imperial);
    let corner = rod("P1", bouncer(), None);
    assert_eq!(place(&corner), "P1, corner rod");
    assert_eq!(tool(&corner), "1 oz bottom bouncer");
    assert_eq!(out(&corner), "60 ft");
    let flat = rod("S4", board(None), Some(60.0));
    assert_eq!(
        (place(&flat), tool(&flat)),
        ("S4, board at 60 ft".into(), "flat line".into())
    );
    let lead_core = LineSetup {
        main: stock(LineMaterial::LeadCore, 18),
        ..board(None)
    };
    let core = rod("S5", lead_core, Some(60.0));
    assert_eq!(
        (tool(&core), out(&core)),
        ("lead-core".into(), "60 ft, 2.0 colours".into())
    );
    let backed = LineSetup {
        core: Some(Core {
            stock: stock(LineMaterial::LeadCore, 18),
            length: COLOUR,
        }),
        ..board(None)
    };
    let backed = rod("S5", backed, Some(60.0));
    assert_eq!(
        (tool(&backed), out(&backed)),
        ("30 ft of lead-core".into(), "60 ft, 1.0 colours".into())
    );
    let diver = board(Some(Weight::TripDiver(
        DiverSize::Small,
        SideSetting::Two,
        ReleaseHole::Middle,
    )));
    let diver = LineSetup {
        start: Start::RodTip { height: 5.0 * FOOT },
        ..diver
    };
    assert_eq!(
        tool(&rod("P3", diver, None)),
        "small trip diver, side setting 2"
    );
    let rigger = |above: f64| LineSetup {
        start: Start::Downrigger {
            ball: 10.0 * POUND,
            drop_back: 20.0 * FOOT,
            above: above * FOOT,
        },
        weight: None,
        ..bouncer()
    };
    assert_eq!(place(&rod("P7", rigger(0.0), None)), "P7, downrigger");
    assert_eq!(
        place(&rod("P8", rigger(8.0), None)),
        "P8, 8 ft above the ball"
    );
}

/// Two lines for six frames: the first stalls for two of them and drags for one, the second is always well.
#[test]
fn what_happened_in_a_run_is_told_the_worst_first() {
    let line = |depth: f64, state, on_bottom| LineFrame {
        points: Vec::new(),
        depth: depth * FOOT,
        speed: MetresPerSecond(0.5),
        state,
        on_bottom,
    };
    let frame = |at: usize| Frame {
        at_s: at as f64 * 0.5,
        speed: MetresPerSecond(0.5),
        boat: [0.0; 2],
        heading_deg: 0.0,
        lines: vec![
            line(
                20.0 + at as f64,
                if (2..4).contains(&at) {
                    State::Stalled
                } else {
                    State::Works
                },
                at == 5,
            ),
            line(12.0, State::Works, false),
        ],
        near: if at == 3 {
            vec![Near {
                lines: (0, 1),
                distance: Metres(0.9),
            }]
        } else {
            Vec::new()
        },
    };
    let recording = Recording {
        every_s: 0.5,
        frames: (0..6).map(frame).collect(),
    };
    let (mark, told) = say::happened(&recording, 0, System::Imperial);
    assert_eq!(mark, "cannot");
    assert_eq!(told[1], "Stalled for 1 s.");
    assert!(told[0].starts_with("On the bottom") && told[2].starts_with("Came within 3"));
    assert_eq!(told[3], "Between 20 and 25 ft down.");
    let (_, told) = say::happened(&recording, 1, System::Imperial);
    assert_eq!(told.last().unwrap(), "Always 12 ft down.");
}

#[test]
fn courses_and_turns_are_named_in_the_boats_units() {
    let course = |course| say::course(&course, System::Metric);
    let radius = Metres(60.0);
    assert_eq!(course(Course::Straight), "straight on");
    assert_eq!(
        course(Course::Circle {
            radius,
            to: Side::Port
        }),
        "circle of 60.0 m to port"
    );
    assert_eq!(
        course(Course::STurns {
            radius,
            angle_deg: 60.0
        }),
        "S-turns of 60.0 m"
    );
    assert_eq!(
        course(Course::FishOn { share: 0.4 }),
        "a fish on: slowed to 40 %"
    );
    let turn = |radius, by| say::safe_turn(Side::Starboard, radius, by, System::Metric);
    assert_eq!(
        turn(Some(radius), Some(1)),
        "Safe to starboard down to 60.0 m, set by line 2."
    );
    assert!(turn(None, None).starts_with("No turn to starboard"));
}

/// A blade that turns shows where it was, and says how fast; one that hangs hangs.
#[test]
fn a_blade_is_seen_along_its_shaft() {
    let rig = harness();
    let (blade, _) = rig.front_blade().unwrap();
    let at = |mph: f64| {
        let running = rig
            .at(mph * MILE_PER_HOUR, &surroundings().water, Celsius(15.0))
            .unwrap()
            .1;
        let front = TurningBlade::new(&blade, 1, &running, "f-br", "a blade")
            .render()
            .unwrap();
        let wave = ThumpWave::new(running.side_force, running.turns)
            .render()
            .unwrap();
        (front, wave, running.turns.0)
    };
    let (turning, wave, turns) = at(1.2);
    assert_eq!(turning.matches("ghost").count(), 4);
    assert!((after(&turning, "data-turns=\"")[0] - turns).abs() < 1e-9);
    // As many crests as turns in the second it shows: the wave crosses its middle twice a beat.
    let ys: Vec<f64> = wave
        .split("c-on")
        .next()
        .unwrap()
        .split(['M', 'L'])
        .filter_map(|pair| pair.split([' ', '"']).nth(1)?.parse().ok())
        .collect();
    let off: Vec<f64> = ys
        .into_iter()
        .map(|y| y - 42.0)
        .filter(|y| y.abs() > 1e-9)
        .collect();
    let crossings = off.windows(2).filter(|two| two[0] * two[1] < 0.0).count();
    assert!(
        (crossings as f64 - 2.0 * turns).abs() < 1.6,
        "{crossings} {turns}"
    );
    let (hanging, ..) = at(0.3);
    assert!(hanging.contains("is-hanging") && !hanging.contains("ghost"));
    let wing = Blade::of_size(Family::SoftWing, 1.5).unwrap();
    let running = rig
        .at(1.2 * MILE_PER_HOUR, &surroundings().water, Celsius(15.0))
        .unwrap()
        .1;
    let drawn = TurningBlade::new(&wing, 2, &running, "f-ch", "a wing")
        .render()
        .unwrap();
    // A wing has both its halves in one outline.
    assert_eq!(drawn.matches("class=\"part f-ch").count(), 1);
}
