//! One life of the data, from an empty file to a reopened one.

use jiff::Timestamp;
use motilis_core::advice::{Fish, Mood, Sky};
use motilis_core::blade::{Blade, Family};
use motilis_core::book::{
    Event, EventId, EventKind, OnLine, Outing, OutingId, OwnedRig, RigId, RunningLine, SetupId,
    WaterBody, WaterId,
};
use motilis_core::line::{LineSetup, Start};
use motilis_core::rig::{
    Bait, BeadMaterial, Colour, Dressing, Finish, Hook, HookSize, HookStyle, Kind, Mount, Part, Rig,
};
use motilis_core::tackle::{DiverSize, LineMaterial, LineStock, Weight, WeightMaterial};
use motilis_core::units::{
    Celsius, FOOT, GRAM, INCH, MILE_PER_HOUR, MILLIMETRE, Metres, NewtonMetres, OUNCE, POUND,
};
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{Error, Store, events, outings, rigs, setups, waters};
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
        clarity: Metres(2.1),
    }
}

fn setup(start: Start, weight: Option<Weight>) -> LineSetup {
    LineSetup {
        name: "Port rod".into(),
        start,
        main: LineStock::of_test(LineMaterial::Nylon, 10).unwrap(),
        weight,
        leader: LineStock::of_test(LineMaterial::Fluorocarbon, 12).unwrap(),
        lead: 5.0 * FOOT,
        strum: 1.2,
        reel: 300.0 * FOOT,
    }
}

/// A rig with one part of every kind.
fn rig(setup: SetupId) -> OwnedRig {
    let parts = vec![
        Part::Swivel { ball_bearing: true },
        Part::Blade {
            blade: Blade::of_size(Family::SoftWing, 1.5).unwrap(),
            finish: Finish {
                colour: Colour::Copper,
                hammered: true,
            },
            bend: Some(0.4),
        },
        Part::Beads {
            count: 5,
            diameter: 6.0 * MILLIMETRE,
            material: BeadMaterial::Glass,
            colour: Colour::Orange,
        },
        Part::Body {
            mass: 4.0 * GRAM,
            diameter: 6.0 * MILLIMETRE,
        },
        Part::Dressing {
            dressing: Dressing::Squid,
            colour: Colour::Pink,
        },
        Part::Hook(Hook {
            style: HookStyle::Siwash,
            size: HookSize::aught(3).unwrap(),
        }),
        Part::Bait(Bait::Leech),
    ];
    let mut rig = Rig::new(
        "Everything",
        Kind::SalmonWire,
        Mount::Wire(0.03 * INCH),
        parts,
    )
    .unwrap();
    rig.observed_moment = Some(NewtonMetres(3e-5));
    OwnedRig { rig, setup }
}

fn outing(water: WaterId) -> Outing {
    Outing {
        water,
        started: "2026-06-04T10:12:00Z".parse().unwrap(),
        speed: 1.2 * MILE_PER_HOUR,
        temperature: Celsius(14.4),
        clarity: Metres(2.1),
        sky: Sky::Cloud,
        fish: Fish::Walleye,
        fish_depth: (20.0 * FOOT, 25.0 * FOOT),
        bottom: 27.0 * FOOT,
        mood: Mood::Neutral,
        wanted_depth: 22.0 * FOOT,
    }
}

fn fish(outing: OutingId, rig: RigId) -> Event {
    Event {
        outing,
        kind: EventKind::Fish,
        at: "2026-06-04T11:00:00Z".parse().unwrap(),
        line: Some(OnLine {
            rig,
            out: 80.0 * FOOT,
            depth: 22.0 * FOOT,
        }),
        speed: 1.2 * MILE_PER_HOUR,
        length: Some(21.5 * INCH),
        kept: Some(false),
        note: "took the crawler's tail; \"thumped\" once".into(),
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
            let rig_id = rigs::add(c, &rig(setup_id))?;
            let outing_id = outings::add(c, &outing(water_id))?;
            let line = RunningLine {
                rig: rig_id,
                setup: setup_id,
                main: LineStock::of_test(LineMaterial::Braid, 20).unwrap(),
                weight: Some(OUNCE),
                lead: 4.0 * FOOT,
                out: 80.0 * FOOT,
            };
            outings::run_line(c, outing_id, &line)?;
            let event_id = events::add(c, &fish(outing_id, rig_id))?;
            Ok::<_, Error>((outing_id, rig_id, line, event_id))
        })
        .unwrap();
    drop(store);

    let store = Store::open(&path).unwrap();
    store
        .read(|c| {
            assert_eq!(waters::all(c)?, [(WaterId(1), water())]);
            assert_eq!(rigs::all(c)?, [(rig_id, rig(SetupId(1)))]);
            assert_eq!(outings::all(c)?, [(outing_id, outing(WaterId(1)))]);
            assert_eq!(outings::running_line(c, outing_id)?, Some(line));
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
#[case(Start::RodTip { height: 5.0 * FOOT }, Some(Weight::BottomBouncer(OUNCE, WeightMaterial::Lead)))]
#[case(Start::Board, Some(Weight::Sinker(0.5 * OUNCE, WeightMaterial::Tin)))]
#[case(Start::Board, Some(Weight::ClipOn(2.0 * OUNCE, WeightMaterial::Tungsten)))]
#[case(Start::RodTip { height: 4.0 * FOOT }, Some(Weight::TripDiver(DiverSize::Large)))]
#[case(Start::Downrigger { ball: 8.0 * POUND, drop_back: 20.0 * FOOT }, None)]
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
            let rig_id = rigs::add(c, &rig(setup_id))?;
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
