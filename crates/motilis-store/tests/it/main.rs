//! One life of the data, from an empty file to a reopened one.

mod bottom;
mod life;
mod power;
mod spread;

use jiff::Timestamp;
use motilis_core::advice::{Mark, Mood, Sky, Wind};
use motilis_core::blade::Family;
use motilis_core::book::{
    BaitAfter, BoatRod, BoxPart, Caught, Event, EventId, EventKind, Given, Landing, MadeState,
    OnLine, Outing, OutingId, OwnedRig, PartId, PassId, RigId, RunningLine, SetupId, Strike,
    Tackle, WaterBody, WaterId,
};
use motilis_core::evidence::{Pass, Ran};
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::Stain;
use motilis_core::line::{LineSetup, Start};
use motilis_core::rig::{
    Bait, BeadStyle, BodyShape, Colour, Dressing, Edit, Finish, HookStyle, Kind, Material,
    Measured, Mount, Part, Piece, Rig, Stack, SwivelStyle, What,
};
use motilis_core::rules::{LocalRule, Says, Slot, Topic};
use motilis_core::tackle::{
    DiverSize, LineMaterial, LineStock, ReleaseHole, SideSetting, SinkerStyle, Weight,
    WeightMaterial,
};
use motilis_core::units::{
    Celsius, FOOT, INCH, Kilograms, MILE_PER_HOUR, Metres, NewtonMetres, OUNCE, POUND,
};
use motilis_store::made::Built;
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{
    Connection, Error, Store, events, made, outings, parts, passes, rigs, rods, rules, settings,
    setups, waters,
};
use rstest::rstest;
use std::path::PathBuf;

fn folder() -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("boat \"O'Neil\" 🐟.db");
    (folder, path)
}

fn water() -> WaterBody {
    WaterBody {
        name: "Lake Tamarin".into(),
        latitude_deg: 50.42,
        longitude_deg: -95.61,
        zone: "America/Winnipeg".into(),
        salt: false,
        river: false,
        clarity: Metres(2.1),
        stain: Stain::Tea,
        fish: vec![Fish::Walleye, Fish::LakeTrout],
        forage: vec![Forage::YellowPerch, Forage::Shiner],
    }
}

fn setup(start: Start, weight: Option<Weight>) -> LineSetup {
    LineSetup {
        name: "Port rod".into(),
        start,
        main: LineStock::of_test(LineMaterial::Nylon, 10).unwrap(),
        core: None,
        ahead: Metres(0.0),
        weight,
        leader: LineStock::of_test(LineMaterial::Fluorocarbon, 12).unwrap(),
        lead: 5.0 * FOOT,
        strum: 1.2,
        learned: motilis_core::line::Learned::default(),
        reel: 300.0 * FOOT,
    }
}

fn part(what: What, size: f64, colour: Colour) -> Part {
    Part::new(what, size, Finish::plain(colour)).unwrap()
}

/// A rig with one part of many kinds, each known to the box.
fn rig(c: &Connection, setup: SetupId) -> OwnedRig {
    let own = Measured {
        length: Some(Metres(38.4e-3)),
        width: Some(Metres(17.0e-3)),
        bore: Some(Metres(1.25e-3)),
        ..Measured::default()
    };
    let wing = part(What::Blade(Family::SoftWing), 1.5, Colour::Copper)
        .measured(own)
        .unwrap()
        .backed(Some(Finish::hammered(Colour::Nickel)));
    let known = |part: Part, count| {
        let id = parts::intern(c, &part).unwrap();
        Piece::many(part, count).from_box(id)
    };
    let mut pieces = vec![
        known(
            part(What::Swivel(SwivelStyle::BallBearing), 14.0, Colour::Nickel),
            1,
        ),
        known(wing, 1),
        known(
            part(What::Bead(BeadStyle::Round), 6.0, Colour::Orange).of(Material::Glass),
            5,
        ),
        known(part(What::Body(BodyShape::Bell), 4.0, Colour::Brass), 1),
        known(part(What::Dressing(Dressing::Squid), 60.0, Colour::Pink), 1),
        known(part(What::Hook(HookStyle::Siwash), -3.0, Colour::Nickel), 1),
        known(part(What::Bait(Bait::Leech), 60.0, Colour::Pink), 1),
    ];
    pieces[1].bend = Some(0.4);
    let spool = known(part(What::Wire, 30.0, Colour::Nickel), 1);
    let mut stack = Stack::empty(
        Kind::SalmonWire,
        Mount::new(spool.part, spool.stock).unwrap(),
    );
    stack.pieces = pieces;
    stack.build.knot_use = Some(Metres(0.11));
    let mut rig = Rig::new("Everything", stack).unwrap();
    rig.observed_moment = Some(NewtonMetres(3e-5));
    OwnedRig { rig, setup }
}

fn outing(water: WaterId) -> Outing {
    Outing {
        water,
        started: "2026-06-04T10:12:00Z".parse().unwrap(),
        ended: None,
        speed: 1.2 * MILE_PER_HOUR,
        temperature: Celsius(14.4),
        clarity: Metres(2.1),
        stain: Stain::Green,
        sky: Sky::Cloud,
        wind: Wind::Chop,
        fish: Fish::Walleye,
        fish_depth: (20.0 * FOOT, 25.0 * FOOT),
        bottom: 27.0 * FOOT,
        thermocline: Some(24.0 * FOOT),
        mood: Mood::Neutral,
        forage: Forage::Shad,
        nibblers: true,
        crowd: Some(Kind::CrawlerHarness),
        wanted_depth: 22.0 * FOOT,
    }
}

fn fish(outing: OutingId, rig: RigId) -> Event {
    let at = "2026-06-04T11:00:00Z".parse().unwrap();
    Event {
        rod: Some(2),
        line: Some(OnLine {
            tackle: Tackle::Rig(rig),
            out: 80.0 * FOOT,
            depth: Some(22.0 * FOOT),
        }),
        length: Some(21.5 * INCH),
        kept: Some(false),
        caught: Caught {
            species: Some(Fish::Walleye),
            landing: Some(Landing::Landed),
            girth: Some(11.0 * INCH),
            weight: Some(Kilograms(1.4)),
            sex: "female".into(),
            condition: "fat".into(),
            hooked: "jaw".into(),
            clipped: Some(false),
            strike: Some(Strike::Hard),
            measured: Some(motilis_core::book::Measured::Fork),
            bait_after: Some(BaitAfter::TailGone),
        },
        given: Given::Track,
        place: Some((50.42, -95.61)),
        note: "took the crawler's tail; \"thumped\" once".into(),
        ..Event::new(outing, EventKind::Fish, at, 1.2 * MILE_PER_HOUR)
    }
}

fn pass(rig: RigId) -> Pass {
    Pass {
        rod: Some(2),
        tackle: Tackle::Rig(rig),
        from: "2026-06-04T10:20:00Z".parse().unwrap(),
        to: Some("2026-06-04T11:08:00Z".parse().unwrap()),
        ran: Ran {
            version: Some(0),
            setup: Some(SetupId(1)),
            out: Some(80.0 * FOOT),
            lead: Some(4.0 * FOOT),
            weight: Some(OUNCE),
            depth: Some(22.0 * FOOT),
            speed: Some(1.2 * MILE_PER_HOUR),
            bait: "crawler".into(),
        },
    }
}

#[test]
fn a_day_on_the_water_is_kept() {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let (outing_id, rig_id, line, event_id) = store
        .write(|c| {
            let water_id = waters::add(c, &water())?;
            let setup_id = setups::add(c, &setup(Start::Board, None))?;
            let rig_id = rigs::add(c, &rig(c, setup_id))?;
            let outing_id = outings::add(c, &outing(water_id))?;
            let line = RunningLine {
                rig: rig_id,
                setup: setup_id,
                main: LineStock::of_test(LineMaterial::Braid, 20).unwrap(),
                weight: Some(OUNCE),
                lead: 4.0 * FOOT,
                out: 80.0 * FOOT,
            };
            let line = BoatRod::carrying(2, &line, 22.0 * FOOT);
            rods::put(c, outing_id, &line)?;
            passes::add(c, outing_id, &pass(rig_id))?;
            let event_id = events::add(c, &fish(outing_id, rig_id))?;
            Ok::<_, Error>((outing_id, rig_id, line, event_id))
        })
        .unwrap();
    drop(store);

    let store = Store::open(&path).unwrap();
    store
        .read(|c| {
            assert_eq!(waters::all(c)?, [(WaterId(1), water())]);
            assert_eq!(rigs::all(c)?, [(rig_id, rig(c, SetupId(1)))]);
            assert_eq!(outings::all(c)?, [(outing_id, outing(WaterId(1)))]);
            assert_eq!(rods::of_outing(c, outing_id)?, [line]);
            let passes = passes::of_outing(c, outing_id)?;
            assert_eq!(passes, [(PassId(1), pass(rig_id))]);
            assert_eq!(
                events::of_outing(c, outing_id)?,
                [(event_id, fish(outing_id, rig_id))]
            );
            Ok::<_, Error>(())
        })
        .unwrap();

    let corrected = Event {
        kept: Some(true),
        length: None,
        ..fish(outing_id, rig_id)
    };
    let changed = Outing {
        speed: 0.8 * MILE_PER_HOUR,
        ..outing(WaterId(1))
    };
    store
        .write(|c| {
            events::update(c, event_id, &corrected)?;
            outings::update(c, outing_id, &changed)
        })
        .unwrap();
    assert_eq!(store.read(|c| events::get(c, event_id)).unwrap(), corrected);
    assert_eq!(store.read(|c| outings::get(c, outing_id)).unwrap(), changed);
}

#[rstest]
#[case(Start::RodTip { height: 5.0 * FOOT }, Some(Weight::Sinker(SinkerStyle::BottomBouncer, OUNCE, WeightMaterial::Lead)))]
#[case(Start::Board, Some(Weight::Sinker(SinkerStyle::Egg, 0.5 * OUNCE, WeightMaterial::Tin)))]
#[case(Start::Board, Some(Weight::Sinker(SinkerStyle::ClipOn, 2.0 * OUNCE, WeightMaterial::Tungsten)))]
#[case(Start::RodTip { height: 4.0 * FOOT }, Some(Weight::TripDiver(DiverSize::Large, SideSetting::Straight, ReleaseHole::Middle)))]
#[case(Start::Downrigger { ball: 8.0 * POUND, drop_back: 20.0 * FOOT, above: Metres(0.0) }, None)]
fn every_kind_of_set_up_comes_back_as_it_went_in(
    #[case] start: Start,
    #[case] weight: Option<Weight>,
) {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let setup = setup(start, weight);
    let id = store.write(|c| setups::add(c, &setup)).unwrap();
    assert_eq!(store.read(|c| setups::get(c, id)).unwrap(), setup);
    assert_eq!(store.read(setups::all).unwrap(), [(id, setup)]);
}

#[test]
fn what_is_thrown_away_can_be_taken_back() {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let now = Timestamp::UNIX_EPOCH;
    store
        .write(|c| {
            let water_id = waters::add(c, &water())?;
            let setup_id = setups::add(c, &setup(Start::Board, None))?;
            let rig_id = rigs::add(c, &rig(c, setup_id))?;
            let outing_id = outings::add(c, &outing(water_id))?;
            let event_id = events::add(c, &fish(outing_id, rig_id))?;
            let records = [
                Record::Event(event_id),
                Record::Outing(outing_id),
                Record::Rig(rig_id),
                Record::Setup(setup_id),
                Record::Water(water_id),
            ];
            for record in records {
                throw(c, record, now)?;
                throw(c, record, now)?;
            }
            assert!(events::get(c, event_id).unwrap_err().is_missing());
            assert!(outings::get(c, outing_id).unwrap_err().is_missing());
            assert!(rigs::all(c)?.is_empty() && setups::all(c)?.is_empty());
            // An old log entry still knows its rig and its water.
            assert_eq!(rigs::get(c, rig_id)?.rig.name, "Everything");
            assert_eq!(waters::get(c, water_id)?.name, "Lake Tamarin");
            for record in records {
                take_back(c, record)?;
            }
            assert_eq!(
                events::of_outing(c, outing_id)?,
                [(event_id, fish(outing_id, rig_id))]
            );
            assert_eq!(rigs::all(c)?.len(), 1);
            Ok::<_, Error>(())
        })
        .unwrap();
}

#[test]
fn what_does_not_exist_is_said_so() {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let missing = store.read(|c| events::get(c, EventId(4))).unwrap_err();
    assert_eq!(missing.to_string(), "there is no log entry number 4");
    let missing = store
        .write(|c| throw(c, Record::Event(EventId(4)), Timestamp::UNIX_EPOCH))
        .unwrap_err();
    assert!(missing.is_missing());
    let orphan = store
        .write(|c| outings::add(c, &outing(WaterId(9))))
        .unwrap_err();
    assert!(matches!(orphan, Error::Sqlite(_)), "{orphan:?}");
    let changed = store.write(|c| outings::update(c, OutingId(9), &outing(WaterId(9))));
    assert!(changed.unwrap_err().is_missing());
}

/// A store with a set-up, and a box with enough for three rigs of the kind above.
fn bench(c: &Connection) -> Result<RigId, Error> {
    let setup_id = setups::add(c, &setup(Start::Board, None))?;
    let id = rigs::add(c, &rig(c, setup_id))?;
    for (part, boxed) in parts::all(c)? {
        parts::update(
            c,
            part,
            &BoxPart {
                left: 15.0,
                ..boxed
            },
        )?;
    }
    Ok(id)
}

/// What is left of a group, in thousandths.
fn left(c: &Connection, group: &str) -> i64 {
    let all = parts::all(c).unwrap();
    let of_group = all
        .iter()
        .filter(|(_, boxed)| boxed.part.what().keys().0 == group);
    of_group
        .map(|(_, boxed)| (boxed.left * 1e3).round() as i64)
        .sum()
}

#[test]
fn building_takes_out_of_the_box_and_every_deed_can_be_undone() {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let now = Timestamp::UNIX_EPOCH;
    store
        .write(|c| {
            let rig = bench(c)?;
            let Built::Done(built) = made::build(c, rig, 2, "Winder 7", now)? else {
                panic!("the box suffices")
            };
            assert_eq!(
                (left(c, "bead"), left(c, "hook"), left(c, "bait")),
                (5_000, 13_000, 15_000)
            );
            let wire = left(c, "wire");
            assert!(wire < 15_000 && wire > 14_000, "{wire}");
            let all = made::all(c)?;
            assert_eq!(all.len(), 2);
            let (first, second) = (all[0].0, all[1].0);
            assert_eq!(all[0].1.state, MadeState::New);

            // A third one would need five beads; five are left. A fourth would not do.
            let Built::Short(short) = made::build(c, rig, 2, "", now)? else {
                panic!("the box does not suffice")
            };
            assert_eq!((short.len(), short[0].needs, short[0].left), (1, 10.0, 5.0));
            assert_eq!(left(c, "hook"), 13_000);

            let apart = made::dismantle(c, first, now)?;
            assert_eq!((left(c, "bead"), left(c, "hook")), (10_000, 14_000));
            // Bent wire does not come back.
            assert_eq!(left(c, "wire"), wire);
            assert!(made::dismantle(c, first, now).unwrap_err().is_missing());
            // What was built cannot be undone while one of it is apart.
            assert!(!made::undo(c, built)?);

            let stack = made::stack_of(c, second, &made::get(c, second)?)?;
            let blade = stack.pieces[1].stock.unwrap();
            let lost = made::break_off(c, second, &[(blade, 1.0)], now)?;
            assert_eq!((left(c, "blade"), left(c, "hook")), (15_000, 14_000));
            assert!(made::all(c)?.is_empty());
            assert!(made::undo(c, lost)? && made::undo(c, apart)?);
            assert!(!made::undo(c, apart)?);
            made::set_state(c, second, MadeState::ReTie, "Foam board")?;
            assert_eq!(made::get(c, second)?.place, "Foam board");
            assert!(made::undo(c, built)?);
            assert_eq!((left(c, "bead"), left(c, "hook")), (15_000, 15_000));
            assert_eq!(left(c, "wire"), 15_000);
            Ok::<_, Error>(())
        })
        .unwrap();
}

#[test]
fn a_made_up_rig_keeps_the_parts_it_was_built_to() {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let now = Timestamp::UNIX_EPOCH;
    store
        .write(|c| {
            let rig = bench(c)?;
            made::build(c, rig, 1, "", now)?;
            let board = rigs::board(c, rig)?;
            let bare = board.stack.edited(&Edit::Remove { at: 2 }).unwrap();
            rigs::save(c, rig, &bare)?;
            assert_eq!(rigs::board(c, rig)?.stack, bare);
            let (id, rig) = made::all(c)?.remove(0);
            made::dismantle(c, id, now)?;
            assert_eq!(left(c, "bead"), 15_000, "{rig:?}");
            Ok::<_, Error>(())
        })
        .unwrap();
}

#[test]
fn a_board_goes_back_and_forth_through_its_versions() {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    store
        .write(|c| {
            let rig = bench(c)?;
            let first = rigs::board(c, rig)?;
            assert!(!first.can_undo && !first.can_redo && !rigs::undo(c, rig)?);
            rigs::tick(c, rig, 2, true)?;
            rigs::tick(c, rig, 2, true)?;
            let second = first
                .stack
                .edited(&Edit::Count { at: 2, count: 6 })
                .unwrap();
            rigs::save(c, rig, &second)?;
            assert_eq!(rigs::ticks(c, rig)?, Vec::<usize>::new());
            assert!(rigs::undo(c, rig)?);
            assert_eq!(rigs::board(c, rig)?.stack, first.stack);
            assert_eq!(rigs::ticks(c, rig)?, [2]);
            assert!(rigs::redo(c, rig)? && !rigs::redo(c, rig)?);
            assert_eq!(rigs::board(c, rig)?.stack, second);
            // A change after an undo: redo leads to the new one.
            rigs::undo(c, rig)?;
            let third = first.stack.edited(&Edit::Remove { at: 0 }).unwrap();
            rigs::save(c, rig, &third)?;
            rigs::undo(c, rig)?;
            rigs::redo(c, rig)?;
            assert_eq!(rigs::board(c, rig)?.stack, third);
            Ok::<_, Error>(())
        })
        .unwrap();
}

#[test]
fn a_caliper_figure_changes_every_rig_that_carries_the_part() {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    store
        .write(|c| {
            let rig = bench(c)?;
            let bead = rigs::board(c, rig)?.stack.pieces[2].stock.unwrap();
            let boxed = parts::get(c, bead)?;
            let measured = Measured {
                length: Some(Metres(5.7e-3)),
                ..Measured::default()
            };
            let own = BoxPart {
                part: boxed.part.measured(measured).unwrap(),
                ..boxed
            };
            parts::update(c, bead, &own)?;
            assert_eq!(
                rigs::board(c, rig)?.stack.pieces[2].part.length(),
                Metres(5.7e-3)
            );
            let counted = made::count(c, bead, 3.0, Timestamp::UNIX_EPOCH)?;
            assert_eq!(left(c, "bead"), 3_000);
            assert!(made::undo(c, counted)?);
            assert_eq!(left(c, "bead"), 15_000);
            assert!(
                parts::update(c, PartId(999), &own)
                    .unwrap_err()
                    .is_missing()
            );
            Ok::<_, Error>(())
        })
        .unwrap();
}

/// A store that is empty but for one water.
fn with_a_water() -> (tempfile::TempDir, Store, WaterId) {
    let (folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let id = store.write(|c| waters::add(c, &water())).unwrap();
    (folder, store, id)
}

#[test]
fn a_water_is_corrected_with_its_fish_in_their_order() {
    let (_folder, store, id) = with_a_water();
    store
        .write(|c| {
            assert_eq!(waters::get(c, id)?, water());
            let other = WaterBody {
                name: "Orrin Sound".into(),
                salt: true,
                river: true,
                stain: Stain::Clear,
                clarity: Metres(6.0),
                fish: vec![Fish::Coho, Fish::Chinook],
                forage: Vec::new(),
                ..water()
            };
            waters::update(c, id, &other)?;
            assert_eq!(waters::all(c)?, [(id, other)]);
            let missing = waters::update(c, WaterId(99), &water()).unwrap_err();
            assert!(missing.is_missing());
            Ok::<_, Error>(())
        })
        .unwrap();
}

fn rule(says: Says) -> LocalRule {
    LocalRule {
        says,
        fish: Some(Fish::Walleye),
        from: Some(jiff::civil::date(2026, 5, 9)),
        to: None,
        source: "booklet, \"page 3\"; 2026".into(),
        entered: jiff::civil::date(2026, 4, 18),
    }
}

#[rstest]
#[case(Says::AtMost(Topic::Daily, 4))]
#[case(Says::Holds(Topic::Barbless))]
#[case(Says::Slot(Slot { from: Some(Metres(0.38)), to: Some(Metres(0.6)), protected: true, one_over: false }))]
#[case(Says::Slot(Slot { from: None, to: Some(Metres(0.55)), protected: false, one_over: true }))]
fn a_rule_comes_back_as_it_was_typed(#[case] says: Says) {
    let (_folder, store, water) = with_a_water();
    store
        .write(|c| {
            let id = rules::add(c, water, &rule(says))?;
            assert_eq!(rules::get(c, id)?, (water, rule(says)));
            assert_eq!(rules::of_water(c, water)?, [(id, rule(says))]);
            let later = LocalRule {
                fish: None,
                from: None,
                to: Some(jiff::civil::date(2026, 10, 31)),
                ..rule(Says::AtMost(Topic::Lines, 2))
            };
            rules::update(c, id, &later)?;
            assert_eq!(rules::get(c, id)?.1, later);
            throw(c, Record::Rule(id), Timestamp::UNIX_EPOCH)?;
            assert!(rules::of_water(c, water)?.is_empty());
            assert!(rules::update(c, id, &later).unwrap_err().is_missing());
            take_back(c, Record::Rule(id))?;
            assert_eq!(rules::of_water(c, water)?.len(), 1);
            Ok::<_, Error>(())
        })
        .unwrap();
}

/// An outing with a rig on a rod.
fn fished(c: &Connection, water: WaterId) -> Result<(OutingId, RigId), Error> {
    let rod = setups::add(c, &setup(Start::Board, None))?;
    let rig = rigs::add(c, &rig(c, rod))?;
    Ok((outings::add(c, &outing(water))?, rig))
}

#[test]
fn a_mark_is_kept_for_its_outing_only() {
    let (_folder, store, water) = with_a_water();
    store
        .write(|c| {
            let (day, rig) = fished(c, water)?;
            let other = outings::add(c, &outing(water))?;
            outings::set_mark(c, day, rig, Some(Mark::Pin))?;
            outings::set_mark(c, day, rig, Some(Mark::Veto))?;
            assert_eq!(outings::marks(c, day)?, [(rig, Mark::Veto)]);
            assert!(outings::marks(c, other)?.is_empty());
            outings::set_mark(c, day, rig, None)?;
            assert!(outings::marks(c, day)?.is_empty());
            Ok::<_, Error>(())
        })
        .unwrap();
}

#[test]
fn settings_of_a_kind_are_read_together_and_forgotten_one_by_one() {
    let (_folder, store, _) = with_a_water();
    store
        .write(|c| {
            settings::set(c, "school.colour", "rotate")?;
            settings::set(c, "school.hooks", "treble")?;
            settings::set(c, "schoolyard", "no")?;
            assert_eq!(settings::beginning(c, "school.")?.len(), 2);
            settings::forget(c, "school.hooks")?;
            settings::forget(c, "school.hooks")?;
            let left = settings::beginning(c, "school.")?;
            assert_eq!(left, [("school.colour".into(), "rotate".into())]);
            Ok::<_, Error>(())
        })
        .unwrap();
}
