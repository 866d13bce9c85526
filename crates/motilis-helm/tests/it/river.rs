//! Casts in a river as acts: passes that open and close with them, entries, what is refused, what is believed by the cast.

use crate::{Boat, boat, now, refusal, seal};
use motilis_core::book::{EventKind, OutingId, RigId, RiverCast, RunId, WaterId};
use motilis_core::evidence::Named;
use motilis_core::fish::Fish;
use motilis_core::river::{Far, Gear, Held, Order, Plan, Presentation, School, Thrown, Way};
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_helm::{
    Act, Book, CastAct, CastBite, Evidence, OutingAct, Refusal, River, Undone, WaterAct, carry_out,
};
use motilis_store::trash::Record;
use motilis_store::{casts, events, passes, runs};
use rstest::rstest;

fn cast(rig: i64, run: i64) -> RiverCast {
    RiverCast {
        outing: OutingId(0),
        run: RunId(run),
        rod: 1,
        rig: Some(RigId(rig)),
        at: now(),
        presentation: Presentation::Spinner,
        stand: Metres(9.0),
        grid: Some((Way::Square, Far::Close)),
        plan: Plan {
            thrown: Thrown {
                angle_deg: 90.0,
                distance: Metres(9.0),
            },
            held: Held::Level,
            sink: 0.0,
            reel: MetresPerSecond(0.4),
            mend: false,
            follow: false,
            lift: None,
        },
        event: None,
    }
}

fn made(rig: i64, bite: Option<EventKind>) -> Act {
    let bite = bite.map(|kind| CastBite {
        kind,
        depth: Some(Metres(1.1)),
        speed: Some(MetresPerSecond(0.8)),
        note: "spinner in Boulder run".into(),
    });
    Act::Cast(CastAct::Made(Box::new(cast(rig, 1)), bite))
}

impl Boat {
    /// An outing on the river, now.
    fn on_the_river(&self) {
        let river = Some(WaterId(1));
        self.act("river", Act::Outing(OutingAct::Begin(river)))
            .unwrap();
    }
}

#[rstest]
fn a_cast_opens_a_pass_and_another_rig_closes_it(boat: Boat) {
    boat.on_the_river();
    boat.act("a", made(16, None)).unwrap();
    boat.act("b", made(16, Some(EventKind::Strike))).unwrap();
    boat.act("c", made(17, None)).unwrap();
    boat.ask(|book| {
        let here = book.here().unwrap().id;
        let all = passes::of_outing(book.connection(), here).unwrap();
        assert_eq!(all.len(), 2);
        let open: Vec<_> = all.iter().filter(|(_, pass)| pass.is_open()).collect();
        assert_eq!(open[0].1.tackle.rig(), Some(RigId(17)));
        let entry = &events::of_outing(book.connection(), here).unwrap()[0].1;
        assert_eq!(entry.line.unwrap().depth, Some(Metres(1.1)));
        assert_eq!(entry.note, "spinner in Boulder run");
    });
    // Its end takes in what was cast as it takes in rods.
    boat.act("end", Act::Outing(OutingAct::End(Some(now()))))
        .unwrap();
    boat.ask(|book| {
        let here = book.here().unwrap().id;
        let all = passes::of_outing(book.connection(), here).unwrap();
        assert!(all.iter().all(|(_, pass)| !pass.is_open()));
    });
}

#[rstest]
fn a_strike_taken_back_takes_its_cast_along_and_one_thrown_away_leaves_it(boat: Boat) {
    boat.on_the_river();
    let struck = boat.act("a", made(16, Some(EventKind::Strike))).unwrap();
    let count = || {
        boat.ask(|book| {
            let here = book.here().unwrap().id;
            let all = casts::of_outing(book.connection(), here).unwrap();
            let bites = all.iter().filter(|(_, cast)| cast.event.is_some()).count();
            (all.len(), bites)
        })
    };
    assert_eq!(count(), (1, 1));
    assert_eq!(boat.undo("u", struck.act), Undone::Done);
    assert_eq!(count(), (0, 0));
    boat.act("b", made(16, Some(EventKind::Fish))).unwrap();
    let event = boat.ask(|book| {
        let here = book.here().unwrap().id;
        events::of_outing(book.connection(), here).unwrap()[0].0
    });
    boat.act("t", Act::Throw(Record::Event(event))).unwrap();
    assert_eq!(count(), (1, 0));
}

#[rstest]
fn a_cast_is_refused_where_it_cannot_have_been(boat: Boat) {
    // The open outing of the demo is on a lake.
    assert_eq!(refusal(boat.act("a", made(16, None))), Refusal::OtherRun);
    boat.on_the_river();
    let mut far = cast(16, 1);
    far.plan.thrown.distance = Metres(900.0);
    let far = Act::Cast(CastAct::Made(Box::new(far), None));
    assert!(matches!(refusal(boat.act("b", far)), Refusal::Figure(_)));
    let nowhere = Act::Cast(CastAct::Made(Box::new(cast(16, 99)), None));
    assert!(boat.act("c", nowhere).is_err());
}

#[rstest]
fn a_run_thrown_away_leaves_its_casts_readable(boat: Boat) {
    boat.on_the_river();
    boat.act("a", made(16, None)).unwrap();
    boat.act("t", Act::Throw(Record::Run(RunId(1)))).unwrap();
    boat.ask(|book| {
        let river = River::load(book).unwrap();
        assert_eq!(river.runs.len(), 2);
        assert_eq!(river.casts.len(), 1);
        assert_eq!(
            runs::get(book.connection(), RunId(1)).unwrap().name,
            "Boulder run"
        );
    });
}

#[rstest]
fn gear_and_ways_are_kept(boat: Boat) {
    let gear = Gear {
        take_up: Metres(0.6),
        ..Gear::usual()
    };
    boat.act("g", Act::Cast(CastAct::Gear(Box::new(gear))))
        .unwrap();
    let ways = CastAct::Ways(School::Upstream, Order::QuietFirst);
    boat.act("w", Act::Cast(ways)).unwrap();
    boat.ask(|book| {
        let river = River::load(book).unwrap();
        assert_eq!(river.gear, gear);
        assert_eq!(
            (river.school, river.order),
            (School::Upstream, Order::QuietFirst)
        );
    });
    let wild = Gear {
        take_up: Metres(9.0),
        ..gear
    };
    let refused = boat.act("x", Act::Cast(CastAct::Gear(Box::new(wild))));
    assert!(matches!(refusal(refused), Refusal::Figure(_)));
}

#[rstest]
fn a_run_is_kept_as_it_is_and_refused_where_it_cannot_be(boat: Boat) {
    let run = boat.ask(|book| runs::get(book.connection(), RunId(2)).unwrap());
    let longer = motilis_core::river::Run {
        length: Metres(33.0),
        ..run.clone()
    };
    let act = Act::Water(WaterAct::Run(Some(RunId(2)), Box::new(longer.clone())));
    boat.act("a", act).unwrap();
    let kept = boat.ask(|book| runs::get(book.connection(), RunId(2)).unwrap());
    assert_eq!(kept, longer);
    let dry = motilis_core::river::Run {
        stations: Vec::new(),
        ..run
    };
    let act = Act::Water(WaterAct::Run(None, Box::new(dry)));
    assert!(matches!(refusal(boat.act("b", act)), Refusal::Figure(_)));
}

/// A hundred casts without a fish are believed less than a fish on a hundred; the demo's two days stand at their mean.
#[rstest]
fn rates_by_the_cast_move_with_what_bit(boat: Boat) {
    const NAMED: Named<'_> = Named {
        blade: &|_| None,
        finish: &|_| None,
        bait: &|_| None,
    };
    let rate = |rig| {
        boat.ask(|book| {
            let evidence = Evidence::load(book, Some(Fish::Steelhead), &NAMED).unwrap();
            let all = evidence.by_cast().unwrap();
            let one = all
                .into_iter()
                .find(|one| one.tackle.rig() == Some(RigId(rig)))
                .unwrap();
            (one.casts, one.belief.unwrap().rate())
        })
    };
    boat.on_the_river();
    boat.act("first", made(20, None)).unwrap();
    let (one, before) = rate(20);
    for count in 0..30 {
        let done = |connection: &_| {
            carry_out(
                &Book::new(connection),
                &seal(&format!("n{count}")),
                made(20, None),
            )
        };
        boat.store.write(done).unwrap();
    }
    let (many, dry) = rate(20);
    assert_eq!((one, many), (1, 31));
    assert!(dry < before, "{dry} {before}");
    boat.act("fish", made(20, Some(EventKind::Fish))).unwrap();
    assert!(rate(20).1 > dry);
}
