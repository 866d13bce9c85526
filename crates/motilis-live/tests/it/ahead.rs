//! What is foretold against what happens: the rods of a demo evening over the invented bed.

use jiff::Timestamp;
use motilis_core::blade::Family;
use motilis_core::boat::Afloat;
use motilis_core::line::{LineSetup, Surroundings};
use motilis_core::rig::{Kind, Rig};
use motilis_core::spread::{Holder, Rod, Stance, Towed, USUAL_ROD};
use motilis_core::units::{Celsius, FOOT, MILE_PER_HOUR, Metres};
use motilis_core::water::Water;
use motilis_formats::nmea::Reader;
use motilis_live::simulator::{Bed, Helm, Order, Simulator};
use motilis_live::{Bridge, Waters};
use std::sync::Arc;

fn lake() -> Surroundings {
    let temperature = Celsius(14.4);
    Surroundings {
        water: Water::fresh(temperature).unwrap(),
        temperature,
        bottom: None,
    }
}

/// A crawler harness with one Colorado blade.
fn harness(size: f64) -> Rig {
    use motilis_core::rig::{Bait, BeadStyle, Colour, Finish, HookStyle, Mount, Part, Piece, Stack, What};
    let one = |what, size| Piece::one(Part::new(what, size, Finish::plain(Colour::Brass)).unwrap());
    let mut stack = Stack::empty(Kind::CrawlerHarness, Mount::leader(17).unwrap());
    stack.pieces = vec![
        one(What::Blade(Family::Colorado), size),
        Piece::many(one(What::Bead(BeadStyle::Round), 5.0).part, 9),
        one(What::Hook(HookStyle::Octopus), 2.0),
        one(What::Hook(HookStyle::Octopus), 2.0),
        one(What::Bait(Bait::Crawler), What::Bait(Bait::Crawler).sizes()[0]),
    ];
    Rig::new("harness", stack).unwrap()
}

fn rod(number: u8, holder: &str, out: f64, board: Option<f64>) -> Afloat {
    let mut setup = LineSetup::usual().unwrap();
    if board.is_some() {
        setup.start = motilis_core::line::Start::Board;
    }
    Afloat {
        number,
        rod: Rod {
            holder: Holder::from_key(holder).unwrap(),
            stance: Stance::Corner,
            length: USUAL_ROD,
            board: board.map(|feet| feet * FOOT),
            setup: Arc::new(setup),
            towed: Towed::Rig(Arc::new(harness(3.0))),
            out: out * FOOT,
            wanted: Metres(6.0),
        },
    }
}

#[derive(Default, Debug)]
struct Told {
    touches: usize,
    warned: usize,
    alarms: usize,
    false_alarms: usize,
    early: Vec<f64>,
}

/// A boat over the bed of a seed for so many hours, nobody heeding a thing.
fn sail(seed: u64, hours: f64, order: Order, rods: Vec<Afloat>) -> Told {
    let origin = [50.42, -95.61];
    let at: Timestamp = "2026-07-11T23:00:00Z".parse().unwrap();
    let helm = Helm::new([0.0, 0.0], order, 1.2 * MILE_PER_HOUR);
    let mut boat = Simulator::new(Bed::new(seed), helm, origin, at, seed);
    let mut bridge = Bridge::new(Waters {
        origin,
        surroundings: lake(),
        typed: 1.2 * MILE_PER_HOUR,
    });
    bridge.set(
        Waters { origin, surroundings: lake(), typed: 1.2 * MILE_PER_HOUR },
        rods,
        None,
    );
    let mut reader = Reader::default();
    let mut told = Told::default();
    let mut clear = std::collections::HashMap::new();
    let mut warned: std::collections::HashMap<u8, f64> = std::collections::HashMap::new();
    let mut pending: Vec<(u8, f64, f64, f64)> = Vec::new();
    for second in 0..(hours * 3_600.0) as u64 {
        let now = second as f64;
        let text = boat.second();
        let clock = boat.at();
        let mut heard = Vec::new();
        reader.read(text.as_bytes(), |one| heard.push(one));
        if second % 2 == 0 {
            bridge.look_now();
        }
        for one in heard {
            bridge.hear(one, now, clock);
        }
        let known = bridge.known(now);
        for rod in &known.rods {
            let truth = boat.bed.depth(rod.place);
            let clearance = (truth - rod.lowest).0;
            for one in pending.iter_mut().filter(|one| one.0 == rod.number) {
                one.3 = one.3.min(clearance);
            }
            let was_clear = clear.entry(rod.number).or_insert(false);
            if clearance > 0.3 {
                *was_clear = true;
            } else if clearance < 0.1 && *was_clear {
                *was_clear = false;
                if now > 240.0 {
                    told.touches += 1;
                    let ahead = warned.get(&rod.number).map(|since| now - since);
                    told.early.push(ahead.unwrap_or(-1.0));
                    if ahead.is_some_and(|ahead| ahead >= 10.0) {
                        told.warned += 1;
                    } else { println!("MISS rod {} at {now} ahead {ahead:?} known {:?} true {:?} lowest {:?} strip {:?}", rod.number, rod.bottom.map(|b|b.depth), truth, rod.lowest, rod.strip.iter().map(|s|s.bottom.map_or(0.0,|b|b.depth.0)).collect::<Vec<_>>()); }
                }
            }
        }
        if now < 240.0 {
            continue;
        }
        for warning in &known.ahead.warnings {
            if !warned.contains_key(&warning.rod) {
                warned.insert(warning.rod, now);
                told.alarms += 1;
                pending.push((warning.rod, now, now + warning.in_s + 20.0, f64::INFINITY));
            }
        }
        warned.retain(|number, _| known.ahead.warnings.iter().any(|warning| warning.rod == *number));
        let over: Vec<_> = pending.iter().filter(|(.., until, least)| now > *until && *least > 0.3).copied().collect();
        told.false_alarms += over.len();
        for one in &over { println!("false {one:?}"); }
        pending.retain(|(.., until, _)| now <= *until);
    }
    told
}

#[test]
fn explore() {
    let s_turns = Order::STurns { heading_deg: 60.0, angle_deg: 30.0, seconds: 240.0 };
    let route = Order::Route(vec![[-700.0, -600.0], [700.0, -500.0], [650.0, 500.0], [-600.0, 700.0]]);
    for (name, order) in [("straight", Order::Straight(20.0)), ("s", s_turns), ("route", route)] {
        let rods = vec![rod(1, "P1", 60.0, None), rod(2, "S1", 66.0, None), rod(3, "P2", 70.0, None), rod(4, "S2", 75.0, None)];
        let begin = std::time::Instant::now();
        let told = sail(27, 1.0, order, rods);
        println!("{name} {told:?} {:?}", begin.elapsed());
    }
}
