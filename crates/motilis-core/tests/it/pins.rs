//! Pins: what every model answers to a fixed question, whole, in four figures. They say nothing of what is right (the
//! reference tables, the laws and practice do); they make a change of a figure a change of a file that is looked at.
//! `cargo insta review`, or `INSTA_UPDATE=always cargo test --package motilis-core pins`.

use crate::fleet::{deep, indiana, lead_core, rigger, twelve, willows};
use crate::pool::{day, pool};
use crate::rigs::{bouncer, harness, lake, ring_bead, surroundings, wing, wire_trout};
use motilis_core::advice::{Judge, Mood, Sky, Ways, draw_up, moves};
use motilis_core::bench::{Stocked, checks, cut, fits, starting, steps};
use motilis_core::blade::{Family, Learned};
use motilis_core::book::PartId;
use motilis_core::evidence::{Angler, Record};
use motilis_core::fish::Fish;
use motilis_core::light::{self, Daylight, Eye, Optics, Stain, Target, View, Watch, rank};
use motilis_core::line::{Line, OutFor, Run};
use motilis_core::motion::{Course, Scene, record};
use motilis_core::rig::{BARE, ClevisStyle, Edit, HookSize, Kind, Part, Piece, Rig, What};
use motilis_core::sky::{Illuminance, Place, moon, sun};
use motilis_core::spread::{Current, Side, Turn, board_balance, kick, mends};
use motilis_core::tackle::LineStock;
use motilis_core::units::{
    Celsius, FOOT, MILE_PER_HOUR, Metres, MetresPerSecond, NewtonMetres, Newtons,
};
use std::fmt::{Debug, Write};
use std::ops::ControlFlow;
use std::sync::Arc;

/// A value as it debugs, its figures rounded to four digits, what is next to nothing to nothing.
fn said(value: &impl Debug) -> String {
    let text = format!("{value:?}");
    let mut said = String::new();
    let mut rest = text.as_str();
    while let Some(at) = rest.find(|c: char| c.is_ascii_digit()) {
        let from = if rest[..at].ends_with('-') {
            at - 1
        } else {
            at
        };
        said.push_str(&rest[..from]);
        let length = rest[at..]
            .find(|c: char| !(c.is_ascii_digit() || ".e-".contains(c)))
            .unwrap_or(rest.len() - at);
        let figure = &rest[from..at + length];
        match figure.parse::<f64>() {
            Ok(value) if figure.contains('.') || figure.contains('e') => {
                said.push_str(&in_four(value));
            }
            _ => said.push_str(figure),
        }
        rest = &rest[at + length..];
    }
    said + rest
}

fn in_four(value: f64) -> String {
    if value.abs() < 1e-9 {
        return "0".to_owned();
    }
    let places = (3 - value.abs().log10().floor() as i32).clamp(0, 12) as usize;
    let text = format!("{value:.places$}");
    if text.contains('.') {
        text.trim_end_matches('0').trim_end_matches('.').to_owned()
    } else {
        text
    }
}

fn line(told: &mut String, name: &str, value: &impl Debug) {
    writeln!(told, "{name}: {}", said(value)).unwrap();
}

#[test]
fn parts() {
    let mut told = String::new();
    for what in What::all() {
        let sizes = what.sizes();
        for size in [sizes[0], sizes[sizes.len() / 2], sizes[sizes.len() - 1]] {
            let part = Part::new(what, size, BARE).unwrap();
            let figures = [
                part.length(),
                part.threaded(),
                part.width(),
                part.thickness(),
                part.diameter(),
                part.bore(),
                part.reach(),
            ]
            .map(|measure| measure.0 * 1e3);
            let weighs = (part.mass().0 * 1e3, part.submerged_weight(&lake()) * 1e3);
            let name = format!("{} {}", what.name(), part.size_word());
            line(&mut told, &name, &(figures, weighs, part.carries()));
        }
    }
    for stock in LineStock::catalogue().step_by(5) {
        line(&mut told, "line", &(stock, stock.submerged_weight(&lake())));
    }
    insta::assert_snapshot!(told);
}

/// Every kind of rig as it is begun, and with each of its pieces taken off.
#[test]
fn benches() {
    let mut told = String::new();
    for kind in Kind::ALL {
        let hook = HookSize::from_code(2).unwrap();
        let stack = starting(*kind, Fish::Walleye, hook, &[]).unwrap();
        let whole = checks(&stack, &[]);
        line(&mut told, kind.name(), &(&whole.layout, &whole.figures));
        line(&mut told, "  cut", &cut(&stack));
        for step in steps(&stack) {
            line(&mut told, "  step", &step);
        }
        for check in &whole.checks {
            let figures = check.rule.figures();
            line(
                &mut told,
                "  check",
                &(check.rule.key(), check.level, check.at, figures),
            );
        }
        for at in 0..stack.pieces.len() {
            let Ok(less) = stack.edited(&Edit::Remove { at }) else {
                continue;
            };
            for check in checks(&less, &[]).checks {
                if check.mends.is_empty() {
                    continue;
                }
                let edits: Vec<usize> = check.mends.iter().map(Vec::len).collect();
                let name = format!("  without {at}");
                line(&mut told, &name, &(check.rule.key(), check.level, edits));
            }
        }
    }
    insta::assert_snapshot!(told);
}

/// A box with some of everything.
fn stock() -> Vec<Stocked> {
    let parts = What::all().flat_map(|what| what.sizes().into_iter().map(move |size| (what, size)));
    let stocked = |(place, (what, size)): (usize, (What, f64))| Stocked {
        id: PartId(place as i64 + 1),
        part: Part::new(what, size, BARE).unwrap(),
        left: (place % 4) as f64,
    };
    parts.enumerate().map(stocked).collect()
}

/// What goes on where, what the box lacks, and which of its blades a quick-change clevis may get.
#[test]
fn boxes() {
    let mut told = String::new();
    let stock = stock();
    for kind in Kind::ALL {
        let hook = HookSize::from_code(2).unwrap();
        let stack = starting(*kind, Fish::Walleye, hook, &stock).unwrap();
        line(&mut told, kind.name(), &stack.pieces.len());
        for at in 0..=stack.pieces.len() {
            let unfit = |one: &&Stocked| !fits(&stack, at, &one.part);
            let names: Vec<i64> = stock.iter().filter(unfit).map(|one| one.id.0).collect();
            line(&mut told, &format!("  not at {at}"), &names);
        }
        let clevis = |piece: &Piece| matches!(piece.part.what(), What::Clevis(_));
        let quick = What::Clevis(ClevisStyle::QuickChange);
        let swapped = stack.pieces.iter().position(clevis).and_then(|at| {
            let size = stack.pieces[at].part.size();
            let piece = Piece::one(Part::new(quick, size, BARE).unwrap());
            stack.edited(&Edit::Replace { at, piece }).ok()
        });
        for stack in [Some(stack), swapped].into_iter().flatten() {
            for check in checks(&stack, &stock).checks {
                let figures = check.rule.figures();
                line(
                    &mut told,
                    "  check",
                    &(check.rule.key(), check.level, check.at, figures),
                );
            }
        }
    }
    insta::assert_snapshot!(told);
}

fn rigs() -> [Rig; 6] {
    [
        indiana(),
        willows(),
        harness(&[crate::rigs::blade(Family::Colorado, 5.0)], 2),
        wing(1.1),
        wire_trout(),
        ring_bead(),
    ]
}

/// A run without the shape of its line.
fn figures(run: &Run) -> impl Debug {
    (
        (run.out, run.rig, run.weight, run.air),
        (run.tilt, run.angle, run.tension, run.bottom),
    )
}

fn answer(out: &OutFor) -> String {
    match out {
        OutFor::Out(run) => said(&figures(run)),
        other => said(other),
    }
}

#[test]
fn lines() {
    let mut told = String::new();
    for rig in rigs() {
        line(
            &mut told,
            &rig.name,
            &(
                rig.window(&lake(), Celsius(15.0)).unwrap(),
                rig.towed_drag_area(MetresPerSecond(0.6), &lake()),
            ),
        );
        for mph in [0.6, 1.2, 2.0] {
            let speed = mph * MILE_PER_HOUR;
            let blade = rig.at(speed, &lake(), Celsius(15.0)).unwrap();
            line(&mut told, &format!("  {mph} mph"), &blade);
            for setup in [bouncer(1.0), lead_core(), rigger(4.0)] {
                let line_out = Line::new(&rig, &setup, surroundings()).unwrap();
                let run = line_out.run(speed, 30.0 * FOOT);
                let name = format!("    {}", setup.name);
                line(&mut told, &name, &run.as_ref().map(figures));
                let out = line_out.out_for(speed, 18.0 * FOOT);
                line(&mut told, "      for 18 ft", &out.as_ref().map(answer));
            }
        }
    }
    let several = [Learned::Turn(2.4), Learned::Turn(3.0), Learned::Turn(3.3)];
    line(&mut told, "learned", &Learned::mean(&several));
    let moments = [0.1, 0.3].map(|moment| Learned::HoldingMoment(NewtonMetres(moment)));
    line(&mut told, "learned", &Learned::mean(&moments));
    insta::assert_snapshot!(told);
}

#[test]
fn spreads() {
    let mut told = String::new();
    let (spread, surroundings) = (twelve(), deep());
    let boxed = rigs().map(Arc::new);
    let turns = [
        None,
        Some(Turn {
            radius: Metres(45.0),
            to: Side::Port,
        }),
    ];
    for turn in turns {
        let running = spread.running(&surroundings, turn).unwrap();
        line(&mut told, "turn", &turn);
        for (place, one) in running.lines.iter().enumerate() {
            let figures = (
                one.speed, one.state, one.tip, one.entry, one.weight, one.rig,
            );
            line(&mut told, &format!("  {place}"), &figures);
            let more = (
                one.bottom,
                one.pull,
                one.lag,
                one.row,
                one.own_from,
                &one.refused,
            );
            line(&mut told, "    more", &more);
            let faults = spread.faults(&running, place, Some(4));
            line(&mut told, "    faults", &faults);
            let mends = mends(&spread, &surroundings, &running, place, Some(4), &boxed);
            line(&mut told, "    mends", &mends);
        }
        line(&mut told, "  order", &spread.order(&running));
        line(&mut told, "  tangles", &running.tangles);
        line(&mut told, "  fishing", &running.fishing());
    }
    line(&mut told, "shared", &spread.shared_speed(&surroundings));
    for to in [Side::Port, Side::Starboard] {
        line(&mut told, "safe turn", &spread.safe_turn(&surroundings, to));
    }
    for place in 0..spread.rods.len() {
        line(&mut told, "out for", &spread.out_for(place, &surroundings));
    }
    let setting = Current::setting(MetresPerSecond(0.3), 200.0, 340.0).unwrap();
    line(
        &mut told,
        "current",
        &(setting, setting.legs(MetresPerSecond(0.6))),
    );
    line(
        &mut told,
        "kick",
        &[
            kick(Metres(0.28), Metres(0.6)),
            kick(Metres(0.2), Metres(0.9)),
        ],
    );
    let balance = board_balance(Metres(20.0), Newtons(4.0), MetresPerSecond(0.6), &lake());
    line(&mut told, "board", &balance);
    insta::assert_snapshot!(told);
}

/// Twelve lines over eight metres of water, in three ways.
#[test]
fn motion() {
    let mut told = String::new();
    let spread = twelve();
    let shallow = motilis_core::line::Surroundings {
        bottom: Some(Metres(8.0)),
        ..deep()
    };
    for course in [
        Course::STurns {
            radius: Metres(40.0),
            angle_deg: 45.0,
        },
        Course::StopAndGo {
            go_s: 6.0,
            stop_s: 8.0,
        },
    ] {
        let scene = Scene {
            spread: &spread,
            surroundings: &shallow,
            course,
            seconds: 24.0,
        };
        let recording = record(&scene, |_| ControlFlow::Continue(()))
            .unwrap()
            .unwrap();
        for frame in recording.frames.iter().step_by(12) {
            let boat = (frame.at_s, frame.speed, frame.boat, frame.heading_deg);
            line(&mut told, "frame", &boat);
            for one in &frame.lines {
                // A rig that is dragged over the bottom on a slack line goes by fits and starts.
                let speed = (!one.on_bottom).then_some(one.speed);
                let figures = (one.depth, speed, one.state, one.on_bottom);
                line(&mut told, "  line", &(figures, one.points.last()));
            }
            line(&mut told, "  near", &frame.near);
        }
    }
    insta::assert_snapshot!(told);
}

#[test]
fn calls() {
    let mut told = String::new();
    let candidates: Vec<_> = pool()
        .iter()
        .step_by(67)
        .enumerate()
        .map(|(place, candidate)| motilis_core::advice::Candidate {
            record: Record {
                fish: (place % 4) as u32,
                rod_hours: (place % 7) as f64,
            },
            ..candidate.clone()
        })
        .collect();
    let mut bright = day();
    bright.sky = Sky::Sun;
    bright.mood = Mood::Shy;
    bright.fish = Fish::LakeTrout;
    bright.speed = 1.9 * MILE_PER_HOUR;
    for day in [day(), bright] {
        let all = candidates
            .iter()
            .fold(Record::default(), |sum, one| Record {
                fish: sum.fish + one.record.fish,
                rod_hours: sum.rod_hours + one.record.rod_hours,
            });
        let ways = Ways {
            angler: Angler::of(all),
            ..Ways::usual(day.fish)
        };
        let judge = Judge::new(&day, &ways).unwrap();
        for (candidate, call) in candidates.iter().zip(judge.all(&candidates).unwrap()) {
            let head = (
                call.score,
                call.best_speed,
                &call.verdict,
                call.out.as_ref().map_or_else(String::new, answer),
            );
            line(&mut told, &candidate.name, &head);
            for term in &call.terms {
                line(
                    &mut told,
                    "  term",
                    &(term.term(), term.points(), term.weight, &term.basis),
                );
            }
        }
        let ranking = judge.rank(&candidates);
        let sheet = draw_up(&judge, &candidates, &ranking, |_| None);
        let picks: Vec<usize> = sheet.picks.iter().map(|pick| pick.index).collect();
        line(&mut told, "sheet", &picks);
        line(&mut told, "moves", &moves(&day));
    }
    insta::assert_snapshot!(told);
}

#[test]
fn skies_and_finishes() {
    let mut told = String::new();
    let place = Place::new(50.42, -95.61).unwrap();
    for at in [
        "2026-06-04T10:12:00Z",
        "2026-09-05T18:00:00Z",
        "2026-12-21T03:30:00Z",
    ] {
        let at: jiff::Timestamp = at.parse().unwrap();
        let (sun, moon) = (sun(place, at).unwrap(), moon(place, at));
        line(&mut told, "sky", &(&sun, &moon, moon.nearness()));
    }
    for (sun_alt, moon_alt, cloud, stain, clarity, depth) in [
        (40.0, -10.0, 0.0, Stain::Clear, 9.0, 15.0),
        (3.0, 20.0, 0.5, Stain::Green, 2.5, 6.0),
        (-12.0, 40.0, 0.2, Stain::Tea, 1.2, 3.0),
        (25.0, -40.0, 1.0, Stain::Muddy, 0.4, 1.0),
    ] {
        let sky = light::Sky {
            sun_alt,
            moon_alt,
            moon_phase: 30.0,
            cloud,
            wind: 4.0,
        };
        line(
            &mut told,
            "lux",
            &Illuminance::at(sun_alt, moon_alt, 30.0, cloud),
        );
        let daylight = Daylight::under(&sky).unwrap();
        let optics = Optics::from_secchi(stain, clarity, false).unwrap();
        let scene = light::Scene::new(&daylight, &optics, depth, View::Level).unwrap();
        for fish in [Fish::Walleye, Fish::LakeTrout] {
            let watch = Watch::new(scene.clone(), Eye::of(fish.sight().viewer));
            let target = Target {
                area: 6e-4,
                flashes: 9.0,
                glow_min: 5.0,
            };
            for (name, sighting, share) in rank(&watch, &target).unwrap() {
                line(&mut told, &format!("  {name}"), &(sighting, share));
            }
        }
    }
    insta::assert_snapshot!(told);
}
