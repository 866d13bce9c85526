//! The same question answered the same on every screen: what is let out for a depth, and where the rig then runs.

use motilis_core::book::{
    BottomTouch, Outing, PlannedRod, PlannedSpread, RigId, SetupId, SpreadId,
};
use motilis_core::line::{Changes, OutFor};
use motilis_core::spread::Holder;
use motilis_core::units::{FOOT, MILE_PER_HOUR, Metres, MetresPerSecond};
use motilis_helm::{
    Aboard, Act, Book, Deck, Desk, LogAct, OutingAct, Seal, SpreadAct, Tank, carry_out, planned,
};
use motilis_store::trash::{Record, throw};
use motilis_store::{Connection, Store, observed};
use motilis_view::forms::rod::for_depth;
use motilis_view::forms::tank::{RawTank, Settling, settle};
use motilis_view::forms::{Texts, typed};
use motilis_view::units::System;
use motilis_view::{Device, Seen};
use std::collections::BTreeMap;

fn demo() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("demo.db")).unwrap();
    motilis_demo::fill(&store, motilis_demo::SEED).unwrap();
    (folder, store)
}

fn act(connection: &Connection, act: Act) -> i64 {
    static COUNT: std::sync::atomic::AtomicU64 = std::sync::atomic::AtomicU64::new(0);
    let now = "2026-09-05T13:00:00Z".parse().unwrap();
    let seal = Seal {
        id: format!(
            "{}",
            COUNT.fetch_add(1, std::sync::atomic::Ordering::Relaxed)
        ),
        asked: String::new(),
        at: now,
        now,
    };
    carry_out(&Book::new(connection), &seal, act)
        .unwrap()
        .made
        .unwrap()
}

/// What a screen says: line out and depth to the digit shown, or that it cannot be had.
type Answer = Option<(String, String)>;

fn shown(out: Metres, depth: Metres, system: System) -> (String, String) {
    let figure = |metres: Metres| system.depth(metres).to_string();
    (figure(out), figure(depth))
}

fn today(connection: &Connection, system: System) -> BTreeMap<RigId, Answer> {
    let desk = Desk::without_swaps(&Book::new(connection)).unwrap();
    let (judge, ranking, _) = desk.sheet().unwrap();
    let rows = ranking.rows.iter();
    rows.map(|row| {
        let call = judge.settle(&desk.candidates, &ranking, row).unwrap();
        let answer = match call.out {
            Some(OutFor::Out(run)) => Some(shown(run.out, run.rig.depth, system)),
            _ => None,
        };
        (desk.origins[row.index].rig, answer)
    })
    .collect()
}

/// The tank's answer, and the log's once its line was put out.
fn tank_and_log(connection: &Connection, rig: RigId, system: System) -> (Answer, Answer) {
    let book = Book::new(connection);
    let device = Device {
        system,
        ..Device::default()
    };
    let tank = Seen::new(Tank::load(&book).unwrap(), device);
    // The rig is looked at on its own usual set-up, whatever line runs.
    let setup = book.rig(rig).unwrap().setup;
    let text = |name: &str, value: String| (name.to_owned(), value);
    let texts: Texts = [
        text("rig", rig.0.to_string()),
        text("was_rig", rig.0.to_string()),
        text("setup", setup.0.to_string()),
        text("set", "depth".into()),
    ]
    .into();
    let raw: RawTank = typed(&texts).unwrap();
    let Settling::Runs(both) = settle(&raw, &tank).unwrap() else {
        panic!("a rig of the demo runs");
    };
    let (settled, form) = *both;
    if form.depth.problem.is_some() {
        return (None, None);
    }
    let line = motilis_core::line::Line::new(&settled.runs, &settled.in_use, tank.surroundings);
    let run = line
        .unwrap()
        .run(settled.speed, settled.out)
        .unwrap_or_else(|error| {
            panic!(
                "rig {} {:?} {:?} {:?} {error}",
                rig.0, settled.speed, settled.out, form.out
            )
        });
    let tank_says = shown(settled.out, run.rig.depth, system);
    act(
        connection,
        Act::Log(LogAct::Run(settled.line(), settled.speed, Some(1))),
    );
    let aboard = Aboard::all(&Book::new(connection)).unwrap().remove(0);
    (
        Some(tank_says),
        Some(shown(aboard.boat.rod.out, aboard.depth.unwrap(), system)),
    )
}

fn spread(connection: &Connection, rig: RigId, outing: &Outing, system: System) -> Answer {
    let book = Book::new(connection);
    let setup_id: SetupId = book.rig(rig).unwrap().setup;
    let setup = book.setup(setup_id).unwrap();
    let rod = PlannedRod {
        wanted: outing.wanted_depth,
        ..planned(Holder::all().next().unwrap(), rig, setup_id, &setup)
    };
    let plan = PlannedSpread {
        name: "One rod".into(),
        speed: outing.speed,
        rods: vec![rod],
    };
    let id = SpreadId(act(connection, Act::Spread(SpreadAct::Begin(plan))));
    let book = Book::new(connection);
    let device = Device {
        system,
        ..Device::default()
    };
    let deck = Seen::new(Deck::load(&book, id).unwrap(), device);
    let mut plan = deck.saved.plan.clone();
    let out = for_depth(&deck, &plan, 0, "").unwrap().ok()?;
    plan.rods[0].out = out;
    let running = deck
        .spread(&plan)
        .unwrap()
        .running(&deck.surroundings, None)
        .unwrap();
    Some(shown(out, Metres(running.lines[0].rig[2]), system))
}

/// A touch on every set-up, so that each has a dive curve of its own.
fn touch_everywhere(connection: &Connection) {
    let book = Book::new(connection);
    for rig in book.rigs().unwrap() {
        let in_use = book.in_use(rig.setup, &Changes::default()).unwrap();
        let touch = BottomTouch {
            rig: rig.id,
            setup: rig.setup,
            main: in_use.setup.main,
            weight: in_use.setup.weight.and_then(|weight| weight.mass()),
            lead: in_use.setup.lead,
            out: 90.0 * FOOT,
            bottom: 21.0 * FOOT,
            speed: 1.3 * MILE_PER_HOUR,
            touched: true,
            at: "2026-09-05T12:00:00Z".parse().unwrap(),
        };
        observed::add_touch(connection, &touch).unwrap();
    }
}

fn forget_touches(connection: &Connection) {
    for (id, _) in observed::touches(connection).unwrap() {
        throw(connection, Record::Touch(id), jiff::Timestamp::UNIX_EPOCH).unwrap();
    }
}

fn at_speed(connection: &Connection, mph: f64) -> Outing {
    let book = Book::new(connection);
    let outing = Outing {
        speed: MetresPerSecond(mph * MILE_PER_HOUR.0),
        ..book.here().unwrap().outing.clone()
    };
    act(
        connection,
        Act::Outing(OutingAct::Set(Box::new(outing.clone()))),
    );
    outing
}

#[test]
fn today_tank_spread_and_log_say_the_same() {
    let (_folder, store) = demo();
    let mut told = 0;
    let mut held_by = Vec::new();
    for curve in [false, true] {
        for mph in [1.0, 1.3, 1.8, 2.2] {
            let answers: Result<(usize, f64), motilis_store::Error> = store.write(|connection| {
                forget_touches(connection);
                if curve {
                    touch_everywhere(connection);
                }
                let outing = at_speed(connection, mph);
                let mut told = 0;
                for system in [System::Imperial, System::Metric] {
                    let sheet = today(connection, system);
                    assert_eq!(sheet.len(), 40);
                    for (rig, today_says) in sheet {
                        let (tank, log) = tank_and_log(connection, rig, system);
                        let spread = spread(connection, rig, &outing, system);
                        let what = format!("rig {} at {mph} mph, curve: {curve}", rig.0);
                        assert_eq!(tank, today_says, "tank, {what}");
                        assert_eq!(log, today_says, "log, {what}");
                        assert_eq!(spread, today_says, "spread, {what}");
                        told += usize::from(today_says.is_some());
                    }
                }
                let book = Book::new(connection);
                let first = book.rig(RigId(1)).unwrap().setup;
                let in_use = book.in_use(first, &Changes::default()).unwrap();
                Ok((told, in_use.setup.learned.held))
            });
            let (count, held) = answers.unwrap();
            told += count;
            held_by.push(held);
        }
    }
    // Most can be had, and the curve of the angler's own is another one.
    assert!(told > 400, "{told}");
    assert!((held_by[0] - held_by[4]).abs() > 0.01, "{held_by:?}");
}
