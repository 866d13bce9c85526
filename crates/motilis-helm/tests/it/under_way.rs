//! What the boat's instruments knew, in entries and passes; practice that counts for nothing; line taken in.

use crate::{Boat, boat, now, refusal, seal};
use motilis_core::boat::{Moment, RodThen, Source, Through};
use motilis_core::book::{EventKind, Given, OutingId};
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use motilis_helm::{Act, BoatAct, Book, Done, LogAct, OutingAct, Refusal, Season, carry_out};
use motilis_store::{events, fish_marks, observed, outings, passes};
use rstest::rstest;

fn moment() -> Moment {
    Moment {
        at: now(),
        through: Some(Through {
            speed: MetresPerSecond(0.61),
            source: Source::Paddle,
            age_s: Some(0.4),
            heading_deg: Some(20.0),
        }),
        ground: Some((MetresPerSecond(0.7), Some(21.0))),
        position: Some([50.42, -95.61]),
        bottom: Some(Metres(9.1)),
        temperature: Some(Celsius(14.2)),
        rods: vec![RodThen {
            number: 1,
            depth: Metres(6.2),
            bottom: Some(Metres(8.8)),
        }],
    }
}

fn tap(kind: EventKind) -> Act {
    Act::Log(LogAct::Tap {
        kind,
        rod: Some(1),
        note: String::new(),
        caught: Box::default(),
        play: None,
    })
}

impl Boat {
    fn seen(&self, id: &str, act: Act) -> Done {
        let done = self.store.write(|connection| {
            carry_out(&Book::new(connection).at(Some(moment())), &seal(id), act)
        });
        done.unwrap()
    }

    /// A new outing, after the demo's own has ended: its rods lie aboard.
    fn under_way(&self) -> OutingId {
        self.act("home", Act::Outing(OutingAct::End(Some(now()))))
            .unwrap();
        let begun = self
            .act("begin", Act::Outing(OutingAct::Begin(None)))
            .unwrap();
        OutingId(begun.made.unwrap())
    }
}

#[rstest]
fn an_entry_bears_the_moment_and_a_touch_teaches_the_line(boat: Boat) {
    let outing = boat.under_way();
    boat.seen("out", Act::Log(LogAct::SetOut(Some(1))));
    let read = |connection: &motilis_store::Connection| passes::of_outing(connection, outing);
    let passes = boat.store.read(read).unwrap();
    assert_eq!(passes[0].1.ran.speed, Some(MetresPerSecond(0.61)));
    let taught = |boat: &Boat| boat.store.read(observed::touches).unwrap().len();
    let before = taught(&boat);
    let id = boat
        .seen("touch", tap(EventKind::BottomTouch))
        .made
        .unwrap();
    assert_eq!(taught(&boat), before + 1);
    let event = boat
        .store
        .read(|connection| events::get(connection, motilis_core::book::EventId(id)))
        .unwrap();
    assert_eq!(
        (event.given, event.speed),
        (Given::Live, MetresPerSecond(0.61))
    );
    assert_eq!(event.line.unwrap().depth, Some(Metres(6.2)));
    assert_eq!(
        (event.bottom, event.temperature),
        (Some(Metres(9.1)), Some(Celsius(14.2)))
    );
    assert_eq!(event.place, Some((50.42, -95.61)));
    // What was not seen by an instrument teaches nothing.
    boat.act("blind", tap(EventKind::BottomTouch)).unwrap();
    assert_eq!(taught(&boat), before + 1);
}

#[rstest]
fn a_moment_is_of_the_outing_that_goes_on_alone(boat: Boat) {
    // The demo's last outing began that morning and has not ended; one that ended bears nothing of now.
    let outing = boat.under_way();
    boat.act("end", Act::Outing(OutingAct::End(Some(now()))))
        .unwrap();
    let id = boat.seen("late", tap(EventKind::Strike)).made.unwrap();
    let event = boat
        .store
        .read(|connection| events::get(connection, motilis_core::book::EventId(id)))
        .unwrap();
    assert_eq!((event.outing, event.given), (outing, Given::Conditions));
}

#[rstest]
fn a_fish_is_marked_where_the_boat_is_or_not_at_all(boat: Boat) {
    let outing = boat.under_way();
    let mark = || Act::Boat(BoatAct::Mark(Metres(6.4)));
    assert_eq!(refusal(boat.act("blind", mark())), Refusal::NoPlace);
    boat.seen("mark", mark());
    let marks = boat
        .store
        .read(|connection| fish_marks::of_outing(connection, outing))
        .unwrap();
    let [latitude, longitude] = marks[0].1.place;
    assert!((latitude - 50.42).abs() < 1e-9 && (longitude + 95.61).abs() < 1e-9);
}

#[rstest]
fn practice_counts_for_nothing_and_gives_the_instruments_back(boat: Boat) {
    boat.act(
        "wire",
        Act::Boat(BoatAct::Wire("tcp 10.0.0.1:10110".into())),
    )
    .unwrap();
    let hours = || {
        let season = boat
            .store
            .read(|connection| Season::load(connection, None))
            .unwrap();
        (season.outings().len(), season.whole())
    };
    boat.act("home", Act::Outing(OutingAct::End(Some(now()))))
        .unwrap();
    let before = hours();
    let begun = boat
        .act(
            "practice",
            Act::Boat(BoatAct::Practice("practice 20 5".into())),
        )
        .unwrap();
    let outing = OutingId(begun.made.unwrap());
    boat.act("out", Act::Log(LogAct::SetOut(None))).unwrap();
    boat.act("fish", tap(EventKind::Fish)).unwrap();
    assert!(
        boat.store
            .read(|connection| outings::is_practice(connection, outing))
            .unwrap()
    );
    assert_eq!(hours(), before);
    boat.act("over", Act::Boat(BoatAct::PracticeOver("{}".into())))
        .unwrap();
    assert_eq!(hours(), before);
    let wire = boat
        .store
        .read(|connection| motilis_store::settings::get(connection, "boat_wire"))
        .unwrap();
    assert_eq!(wire.as_deref(), Some("tcp 10.0.0.1:10110"));
    boat.act("begin", Act::Outing(OutingAct::Begin(None)))
        .unwrap();
    let again = boat.act("no practice", Act::Boat(BoatAct::PracticeOver("{}".into())));
    assert_eq!(refusal(again), Refusal::NoPractice);
}

#[rstest]
fn line_taken_in_is_another_pass_when_it_is_more_than_a_tenth(boat: Boat) {
    let outing = boat.under_way();
    boat.seen("out", Act::Log(LogAct::SetOut(Some(1))));
    let rods = boat
        .store
        .read(|connection| motilis_store::rods::of_outing(connection, outing))
        .unwrap();
    let out = rods[0].rod.out;
    boat.seen("a little", Act::Log(LogAct::Out(1, out - Metres(0.5))));
    boat.seen("more", Act::Log(LogAct::Out(1, out - Metres(4.0))));
    let passes = boat
        .store
        .read(|connection| passes::of_outing(connection, outing))
        .unwrap();
    assert_eq!(passes.len(), 2);
    let refused = refusal(boat.act("too much", Act::Log(LogAct::Out(1, Metres(-1.0)))));
    assert!(matches!(refused, Refusal::Figure(_)));
}
