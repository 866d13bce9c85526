//! Questions and acts on the demo's boat book, without a page between.

mod learned;
mod river;
mod under_way;

use jiff::Timestamp;
use motilis_core::book::{EventKind, OutingId, RigId, RunningLine, SetupId, SpreadId};
use motilis_core::evidence::Pass;
use motilis_core::line::Changes;
use motilis_core::rig::{Edit, Setting};
use motilis_core::spread::Towed;
use motilis_core::units::{FOOT, Metres};
use motilis_helm::{
    Aboard, Act, ActId, Book, Deck, Desk, Done, Error, LogAct, Mend, OutingAct, Refusal, RigAct,
    Seal, Season, SpreadAct, Switching, Tank, Undone, WaterAct, carry_out, switching, take_back,
};
use motilis_store::trash::Record;
use motilis_store::{Store, events, passes};
use rstest::{fixture, rstest};

/// A boat book of one's own, with a clock that stands at an hour of the demo's last outing.
pub(crate) struct Boat {
    pub(crate) store: Store,
    _folder: tempfile::TempDir,
}

#[fixture]
pub(crate) fn boat() -> Boat {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("boat.db")).unwrap();
    motilis_demo::fill(&store, motilis_demo::SEED).unwrap();
    Boat {
        store,
        _folder: folder,
    }
}

pub(crate) fn now() -> Timestamp {
    "2026-09-05T16:00:00Z".parse().unwrap()
}

pub(crate) fn seal(id: &str) -> Seal {
    Seal {
        id: id.to_owned(),
        asked: id.to_owned(),
        at: now(),
        now: now(),
    }
}

impl Boat {
    pub(crate) fn act(&self, id: &str, act: Act) -> Result<Done, Error> {
        self.store
            .write(|connection| carry_out(&Book::new(connection), &seal(id), act))
    }

    pub(crate) fn undo(&self, id: &str, act: ActId) -> Undone {
        let undone = |connection: &_| take_back(&Book::new(connection), &seal(id), act);
        self.store.write(undone).unwrap()
    }

    pub(crate) fn ask<T>(&self, question: impl FnOnce(&Book<'_>) -> T) -> T {
        let asked = |connection: &_| Ok::<_, Error>(question(&Book::new(connection)));
        self.store.read(asked).unwrap()
    }

    fn entries(&self) -> usize {
        self.ask(|book| {
            let here = book.here().unwrap().id;
            events::of_outing(book.connection(), here).unwrap().len()
        })
    }

    fn rig_name(&self, id: RigId) -> String {
        self.ask(|book| book.rig(id).unwrap().name)
    }
}

fn fish_on() -> Act {
    Act::Log(LogAct::Tap {
        kind: EventKind::Fish,
        rod: None,
        note: String::new(),
        caught: Box::default(),
        play: None,
    })
}

pub(crate) fn refusal(done: Result<Done, Error>) -> Refusal {
    match done.unwrap_err() {
        Error::Refused(refusal) => refusal,
        other => panic!("{other}"),
    }
}

#[rstest]
fn an_act_asked_for_twice_is_done_once(boat: Boat) {
    let before = boat.entries();
    let first = boat.act("a", fish_on()).unwrap();
    let again = boat.act("a", fish_on()).unwrap();
    assert_eq!((first.act, first.made), (again.act, again.made));
    assert_eq!(boat.entries(), before + 1);
    boat.act("b", fish_on()).unwrap();
    assert_eq!(boat.entries(), before + 2);
}

#[rstest]
fn the_same_number_with_something_else_is_another_act(boat: Boat) {
    let before = boat.entries();
    boat.act("a", fish_on()).unwrap();
    let other = Seal {
        asked: "another form".to_owned(),
        ..seal("a")
    };
    let done = |connection: &_| carry_out(&Book::new(connection), &other, fish_on());
    boat.store.write(done).unwrap();
    assert_eq!(boat.entries(), before + 2);
}

#[rstest]
fn an_act_is_taken_back_by_the_trace_it_left_and_only_once(boat: Boat) {
    let name = boat.rig_name(RigId(1));
    let renamed = Act::Rig(RigAct::Rename(RigId(1), "Morning rig".to_owned()));
    let done = boat.act("a", renamed).unwrap();
    assert_eq!(boat.rig_name(RigId(1)), "Morning rig");
    assert_eq!(boat.undo("b", done.act), Undone::Done);
    assert_eq!(boat.rig_name(RigId(1)), name);
    assert_eq!(boat.undo("b", done.act), Undone::Already);
    assert_eq!(boat.undo("c", done.act), Undone::Already);
    assert_eq!(boat.rig_name(RigId(1)), name);
}

#[rstest]
fn what_was_touched_since_is_not_taken_back(boat: Boat) {
    let rename = |name: &str| Act::Rig(RigAct::Rename(RigId(1), name.to_owned()));
    let first = boat.act("a", rename("Mine")).unwrap();
    boat.act("b", rename("Theirs")).unwrap();
    assert_eq!(boat.undo("c", first.act), Undone::Overtaken);
    assert_eq!(boat.rig_name(RigId(1)), "Theirs");
}

#[rstest]
fn a_refused_act_leaves_nothing_behind(boat: Boat) {
    let steps = refusal(boat.act("a", Act::Rig(RigAct::Tick(RigId(1), 99, true))));
    assert!(
        matches!(steps, Refusal::NoSuchStep { step: 100, .. }),
        "{steps:?}"
    );
    let here = boat.ask(|book| book.here().unwrap().outing.water);
    let gone = refusal(boat.act("b", Act::Throw(Record::Water(here))));
    assert_eq!(gone, Refusal::OpenOnWater);
    // Its number is free: done again with what is right it is done.
    boat.act("a", Act::Rig(RigAct::Tick(RigId(1), 0, true)))
        .unwrap();
}

/// Two people who look at the same version: each takes off the piece that he saw, not whatever lies there now.
#[rstest]
fn two_edits_of_one_version_mean_what_was_seen(boat: Boat) {
    let pieces = |boat: &Boat| {
        boat.ask(|book| {
            let boards = book.boards().unwrap();
            let (_, board) = boards.iter().find(|(id, _)| *id == RigId(1)).unwrap();
            (board.version, board.stack.pieces.clone())
        })
    };
    let (seen, before) = pieces(&boat);
    let remove = |at| {
        Act::Rig(RigAct::Edit {
            rig: RigId(1),
            seen: Some(seen),
            edits: vec![Edit::Remove { at }],
            hand: None,
        })
    };
    boat.act("a", remove(1)).unwrap();
    boat.act("b", remove(3)).unwrap();
    let mut left = before.clone();
    left.remove(3);
    left.remove(1);
    let parts = |pieces: &[motilis_core::rig::Piece]| -> Vec<_> {
        pieces
            .iter()
            .map(|piece| (piece.part.what(), piece.count))
            .collect()
    };
    assert_eq!(parts(&pieces(&boat).1), parts(&left));
    // The one that is gone cannot go again.
    let again = refusal(boat.act("c", remove(1)));
    assert!(
        matches!(again, Refusal::Overtaken { .. } | Refusal::Figure(_)),
        "{again:?}"
    );
}

#[rstest]
fn a_rig_that_cannot_run_stands_with_its_name_and_its_mend(boat: Boat) {
    let hooks = boat.ask(|book| {
        let boards = book.boards().unwrap();
        let (_, board) = boards.iter().find(|(id, _)| *id == RigId(1)).unwrap();
        board.stack.hooks()
    });
    for (number, at) in hooks.into_iter().rev().enumerate() {
        let edits = vec![Edit::Remove { at }];
        let off = RigAct::Edit {
            rig: RigId(1),
            seen: None,
            edits,
            hand: None,
        };
        boat.act(&format!("off {number}"), Act::Rig(off)).unwrap();
    }
    boat.ask(|book| {
        let rig = book.rig(RigId(1)).unwrap();
        let cannot = rig.runs().unwrap_err();
        assert_eq!(cannot.name, rig.name);
        assert_eq!(cannot.mend, Mend::Bench(RigId(1)));
        // Every question that names it still has an answer.
        let desk = Desk::load(book).unwrap();
        assert!(!desk.candidates.is_empty());
        let tank = Tank::load(book).unwrap();
        assert!(tank.runs(RigId(1)).is_none());
        let deck = Deck::load(book, SpreadId(1)).unwrap();
        let spread = deck.spread(&deck.saved.plan).unwrap();
        let unfit = |rod: &motilis_core::spread::Rod| matches!(rod.towed, Towed::Unfit(_));
        assert!(spread.rods.iter().any(unfit));
        let running = spread.running(&deck.surroundings, None).unwrap();
        let refused = running
            .lines
            .iter()
            .filter(|line| line.refused.is_some())
            .count();
        assert_eq!(refused, spread.rods.iter().filter(|rod| unfit(rod)).count());
        assert!(!Aboard::all(book).unwrap().is_empty());
    });
}

/// The line in use is the same whoever asks: the set-up, what is otherwise on it today, the curve its touches taught.
#[rstest]
fn the_line_in_use_knows_its_dive_curve_and_the_days_changes(boat: Boat) {
    boat.ask(|book| {
        let deck = Deck::load(book, SpreadId(1)).unwrap();
        let mut fitted = 0;
        for (id, kept) in book.setups().unwrap() {
            let in_use = book.in_use(*id, &Changes::default()).unwrap();
            match in_use.fit {
                Some(fit) => {
                    fitted += 1;
                    assert_eq!(in_use.setup.learned, fit.learned());
                }
                None => assert_eq!(in_use.setup.learned, kept.learned),
            }
            let changes = Changes {
                lead: Some(4.0 * FOOT),
                ..Changes::default()
            };
            let changed = book.in_use(*id, &changes).unwrap();
            assert_eq!(changed.setup.lead, 4.0 * FOOT);
        }
        assert!(fitted > 0);
        for planned in &deck.saved.plan.rods {
            let in_use = deck.in_use(planned).unwrap();
            assert_eq!(deck.rod(planned).unwrap().setup, in_use.setup);
        }
    });
    let none = boat.ask(|book| book.in_use(SetupId(999), &Changes::default()).is_err());
    assert!(none);
}

#[rstest]
fn an_outing_ends_and_entries_typed_later_do_not_stretch_it(boat: Boat) {
    let hours = |boat: &Boat| {
        boat.ask(|book| {
            let fish = book.here().unwrap().outing.fish;
            let season = Season::load(book.connection(), Some(fish)).unwrap();
            season.whole().rod_hours
        })
    };
    let end: Timestamp = "2026-09-05T18:00:00Z".parse().unwrap();
    boat.act("end", Act::Outing(OutingAct::End(Some(end))))
        .unwrap();
    let before = hours(&boat);
    assert!(before > 0.0);
    let late = Seal {
        at: "2026-12-01T12:00:00Z".parse().unwrap(),
        now: "2026-12-01T12:00:00Z".parse().unwrap(),
        ..seal("late")
    };
    let tapped = |connection: &_| carry_out(&Book::new(connection), &late, fish_on());
    boat.store.write(tapped).unwrap();
    assert!((hours(&boat) - before).abs() < 1e-12);
    let begun_later = Act::Outing(OutingAct::End(Some(
        "2026-09-05T08:00:00Z".parse().unwrap(),
    )));
    assert!(matches!(
        boat.act("early", begun_later),
        Err(Error::Refused(_))
    ));
}

#[rstest]
fn what_is_not_there_is_said(boat: Boat) {
    assert!(
        boat.act("a", Act::Outing(OutingAct::Open(OutingId(999))))
            .is_err()
    );
    assert!(boat.act("b", Act::Throw(Record::Rig(RigId(999)))).is_err());
    let unnamed = boat.ask(|book| {
        let mut plan = Deck::load(book, SpreadId(1)).unwrap().saved.plan;
        plan.name = "=1+1".into();
        plan
    });
    let kept = boat.act("c", Act::Spread(SpreadAct::Keep(SpreadId(1), unnamed)));
    assert!(kept.is_err());
    let water = boat.ask(|book| {
        let mut water = book.here().unwrap().water.clone();
        water.clarity = Metres(900.0);
        water
    });
    let changed = boat.act("d", Act::Water(WaterAct::Add(Box::new(water))));
    assert!(matches!(refusal(changed), Refusal::Figure(_)));
}

#[rstest]
fn a_measure_set_by_two_is_the_last_ones_and_both_are_kept_as_versions(boat: Boat) {
    let set = |boat: &Boat, id: &str, metres: f64| {
        let edits = vec![Edit::Set(Setting::Finished, metres)];
        let edit = RigAct::Edit {
            rig: RigId(1),
            seen: None,
            edits,
            hand: None,
        };
        boat.act(id, Act::Rig(edit)).unwrap();
    };
    let finished = |boat: &Boat| {
        boat.ask(|book| {
            let boards = book.boards().unwrap();
            let (_, board) = boards.iter().find(|(id, _)| *id == RigId(1)).unwrap();
            board.stack.build.finished.0
        })
    };
    let before = finished(&boat);
    set(&boat, "a", 1.2);
    set(&boat, "b", 1.4);
    assert!((finished(&boat) - 1.4).abs() < 1e-12);
    for (id, was) in [("c", 1.2), ("d", before)] {
        boat.act(id, Act::Rig(RigAct::Undo(RigId(1)))).unwrap();
        assert!((finished(&boat) - was).abs() < 1e-12, "{id}");
    }
    boat.act("e", Act::Rig(RigAct::Redo(RigId(1)))).unwrap();
    assert!((finished(&boat) - 1.2).abs() < 1e-12);
}

pub(crate) fn log(act: LogAct) -> Act {
    Act::Log(act)
}

/// Passes of a rod on the open outing, the earliest first: when each ended.
fn passes_of(boat: &Boat, rod: u8) -> Vec<Pass> {
    boat.ask(|book| {
        let here = book.here().unwrap().id;
        let all = passes::of_outing(book.connection(), here).unwrap();
        let of = |pass: &Pass| pass.rod == Some(rod);
        all.into_iter().map(|(_, pass)| pass).filter(of).collect()
    })
}

/// A fish brings its rod in; the others fish on. Setting it out again begins a pass of its own.
#[rstest]
fn a_fish_ends_the_pass_of_its_rod_only(boat: Boat) {
    let tap = |rod| LogAct::Tap {
        kind: EventKind::Fish,
        rod: Some(rod),
        note: String::new(),
        caught: Box::default(),
        play: None,
    };
    assert!(passes_of(&boat, 2).iter().all(Pass::is_open));
    boat.act("fish", log(tap(2))).unwrap();
    assert!(!passes_of(&boat, 2).iter().any(Pass::is_open));
    assert!(passes_of(&boat, 1).iter().any(Pass::is_open));
    boat.act("out", log(LogAct::SetOut(Some(2)))).unwrap();
    let passes = passes_of(&boat, 2);
    assert_eq!(passes.len(), 2);
    assert!(
        passes[1].is_open() && passes[1].ran.depth.is_some() && passes[1].ran.version.is_some()
    );
    // Out already: nothing is doubled.
    boat.act("again", log(LogAct::SetOut(None))).unwrap();
    assert_eq!(passes_of(&boat, 2).len(), 2);
    assert!(matches!(
        refusal(boat.act("none", log(tap(9)))),
        Refusal::NoRod(9)
    ));
}

/// A blank hour counts: taken in without a bite, its pass is there.
#[rstest]
fn a_rod_taken_in_keeps_its_hours(boat: Boat) {
    boat.act("in", log(LogAct::TakeIn(None))).unwrap();
    for rod in 1..=4 {
        let passes = passes_of(&boat, rod);
        assert!(
            !passes.is_empty() && passes.iter().all(|pass| !pass.is_open()),
            "{rod}"
        );
    }
    let undone = boat.ask(|book| Aboard::all(book).unwrap().iter().any(Aboard::fishes));
    assert!(!undone);
}

/// A line that is let out by more than a tenth is another pass; one that is not stays on its own.
#[rstest]
fn a_changed_line_is_another_pass(boat: Boat) {
    let line = boat.ask(|book| Tank::load(book).unwrap().running(Some(RigId(1))).unwrap());
    let speed = boat.ask(|book| book.here().unwrap().outing.speed);
    let run = |out: f64| {
        let line = RunningLine {
            out: line.out * out,
            ..line
        };
        log(LogAct::Run(line, speed, None))
    };
    let before = passes_of(&boat, 1).len();
    boat.act("near", run(1.05)).unwrap();
    assert_eq!(passes_of(&boat, 1).len(), before);
    boat.act("far", run(1.4)).unwrap();
    let passes = passes_of(&boat, 1);
    assert_eq!(passes.len(), before + 1);
    assert!(passes.last().unwrap().is_open());
}

/// The rods of a spread take the place of those there are, aboard until they are set out.
#[rstest]
fn rods_are_taken_from_a_spread(boat: Boat) {
    boat.act("rods", log(LogAct::Rods(SpreadId(1)))).unwrap();
    boat.ask(|book| {
        let all = Aboard::all(book).unwrap();
        let planned = Deck::load(book, SpreadId(1)).unwrap().saved.plan.rods;
        assert_eq!(all.len(), planned.len());
        for (aboard, planned) in all.iter().zip(&planned) {
            assert_eq!(aboard.boat.rod, *planned);
            assert!(!aboard.fishes());
            assert!(aboard.depth.is_ok());
        }
    });
}

/// The change that the fish of the outing call for.
fn called(boat: &Boat) -> Option<Switching> {
    boat.ask(|book| switching(book, &Aboard::all(book).unwrap()).unwrap())
}

/// One rod catches everything: the others are called over, one stays a probe, a dismissed call comes back with a fish.
#[rstest]
fn the_rod_that_catches_everything_is_followed(boat: Boat) {
    let rod = boat.ask(|book| {
        let made = motilis_store::made::all(book.connection()).unwrap();
        let spare = |rig| made.iter().filter(|(_, made)| made.rig == rig).count();
        let all = Aboard::all(book).unwrap();
        let most = all
            .iter()
            .max_by_key(|one| one.rig_id().map_or(0, spare))
            .unwrap();
        assert!(
            spare(most.rig_id().unwrap()) >= 2,
            "the box holds another of it"
        );
        most.boat.number
    });
    let mut taps = 0;
    let mut tap = || {
        taps += 1;
        let fish = LogAct::Tap {
            kind: EventKind::Fish,
            rod: Some(rod),
            note: String::new(),
            caught: Box::default(),
            play: None,
        };
        boat.act(&format!("fish {taps}"), log(fish)).unwrap();
    };
    for _ in 0..9 {
        tap();
    }
    let call = called(&boat).expect("nine fish on one of four rods are a call");
    assert!(!call.call.rods.contains(&rod) && call.call.rods.len() < 4);
    assert!(call.call.probability >= 0.8 && call.keep.is_some());
    boat.act("not now", log(LogAct::Dismiss(call.call.rig)))
        .unwrap();
    assert!(called(&boat).is_none());
    tap();
    let again = called(&boat).expect("another fish makes it another call");
    let first = again.call.rods[0];
    boat.act("change", log(LogAct::Switch(again.call.rig, again.rods)))
        .unwrap();
    let (carries, fishes) = boat.ask(|book| {
        let all = Aboard::all(book).unwrap();
        let one = all.iter().find(|one| one.boat.number == first).unwrap();
        (one.rig_id(), one.fishes())
    });
    assert_eq!((carries, fishes), (Some(again.call.rig), false));
}
