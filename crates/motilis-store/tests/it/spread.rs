//! Spreads in versions, lures with their tables, and what was observed on the water.

use crate::{folder, rig, setup};
use jiff::Timestamp;
use motilis_core::blade::{Learned, Observation};
use motilis_core::book::{
    BottomTouch, DunkTest, PlannedRod, PlannedSpread, RigId, SetupId, SpreadId, Tackle,
};
use motilis_core::line::{Core, LineSetup, Start};
use motilis_core::rig::Practice;
use motilis_core::spread::{DiveTable, Holder, Lure, Stance};
use motilis_core::tackle::{
    DiverSize, LineMaterial, LineStock, ReleaseHole, SideSetting, SinkerStyle, Weight,
    WeightMaterial,
};
use motilis_core::units::{Celsius, FOOT, Hertz, MILE_PER_HOUR, OUNCE};
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{Connection, Error, Store, lures, observed, rigs, setups, spreads};
use rstest::rstest;

fn with_a_rig() -> (tempfile::TempDir, Store, RigId, SetupId) {
    let (folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let (rig, setup) = store
        .write(|c| {
            let setup = setups::add(c, &setup(Start::Board, None))?;
            Ok::<_, Error>((rigs::add(c, &rig(c, setup))?, setup))
        })
        .unwrap();
    (folder, store, rig, setup)
}

fn plug() -> Lure {
    let pairs = vec![(40.0 * FOOT, 5.0 * FOOT), (90.0 * FOOT, 10.0 * FOOT)];
    let speeds = Practice {
        from: 1.0 * MILE_PER_HOUR,
        favourite: 1.6 * MILE_PER_HOUR,
        to: 2.4 * MILE_PER_HOUR,
    };
    Lure::new("Diving plug, perch", speeds, DiveTable::new(pairs).unwrap()).unwrap()
}

fn planned(tackle: Tackle, setup: SetupId) -> PlannedRod {
    PlannedRod {
        holder: Holder::from_key("P3").unwrap(),
        stance: Stance::Long,
        length: 9.0 * FOOT,
        board: Some(80.0 * FOOT),
        above: None,
        tackle,
        setup,
        weight: Some(OUNCE),
        lead: 5.0 * FOOT,
        out: 60.0 * FOOT,
        wanted: 20.0 * FOOT,
    }
}

fn two_lines(c: &Connection, rig: RigId, setup: SetupId) -> Result<PlannedSpread, Error> {
    let lure = lures::add(c, &plug())?;
    let other = PlannedRod {
        holder: Holder::from_key("S1").unwrap(),
        board: None,
        above: Some(2.0 * FOOT),
        weight: None,
        ..planned(Tackle::Lure(lure), setup)
    };
    Ok(PlannedSpread {
        name: "Evening".into(),
        speed: 1.4 * MILE_PER_HOUR,
        rods: vec![planned(Tackle::Rig(rig), setup), other],
    })
}

#[test]
fn a_spread_goes_back_and_forth_through_its_versions() {
    let (_folder, store, rig, setup) = with_a_rig();
    store
        .write(|c| {
            let first = two_lines(c, rig, setup)?;
            let id = spreads::add(c, &first)?;
            assert_eq!(spreads::get(c, id)?.plan, first);
            let mut second = first.clone();
            second.rods.remove(0);
            second.speed = 1.6 * MILE_PER_HOUR;
            spreads::save(c, id, &second)?;
            let now = spreads::get(c, id)?;
            assert!(now.plan == second && now.can_undo && !now.can_redo);
            assert!(spreads::undo(c, id)?);
            let back = spreads::get(c, id)?;
            assert!(back.plan == first && !back.can_undo && back.can_redo);
            assert!(!spreads::undo(c, id)?);
            assert!(spreads::redo(c, id)? && !spreads::redo(c, id)?);
            assert_eq!(spreads::get(c, id)?.plan, second);
            throw(c, Record::Spread(id), Timestamp::UNIX_EPOCH)?;
            assert!(spreads::names(c)?.is_empty());
            take_back(c, Record::Spread(id))?;
            assert_eq!(spreads::names(c)?, [(id, "Evening".into())]);
            Ok::<_, Error>(())
        })
        .unwrap();
    let missing = store.read(|c| spreads::get(c, SpreadId(99))).unwrap_err();
    assert!(missing.is_missing());
}

#[test]
fn a_lure_comes_back_with_its_table() {
    let (_folder, store, ..) = with_a_rig();
    store
        .write(|c| {
            let id = lures::add(c, &plug())?;
            assert_eq!(lures::all(c)?, [(id, plug())]);
            throw(c, Record::Lure(id), Timestamp::UNIX_EPOCH)?;
            assert!(lures::all(c)?.is_empty());
            assert_eq!(lures::ever(c)?, [(id, plug())]);
            Ok::<_, Error>(())
        })
        .unwrap();
}

/// What was seen of a rig's blade comes with the rig wherever it is read, and only while it is not thrown away.
#[test]
fn a_dunk_test_teaches_the_rig_it_was_made_with() {
    let (_folder, store, id, _) = with_a_rig();
    store
        .write(|c| {
            let (blade, _) = rigs::get(c, id)?.rig.front_blade().unwrap();
            let test = |seen| DunkTest {
                seen,
                temperature: Celsius(15.0),
                salt: false,
                family: blade.family,
                length: blade.length,
                at: Timestamp::UNIX_EPOCH,
            };
            let started = test(Observation::Started(0.2 * MILE_PER_HOUR));
            let turned = test(Observation::Turned {
                rate: Hertz(3.0),
                speed: 0.8 * MILE_PER_HOUR,
            });
            let dunk = observed::add_dunk(c, id, &started)?;
            observed::add_dunk(c, id, &turned)?;
            let another = DunkTest {
                length: blade.length * 2.0,
                ..started
            };
            observed::add_dunk(c, id, &another)?;
            assert_eq!(observed::dunks(c, id)?.len(), 3);
            let rig = rigs::get(c, id)?.rig;
            // The test of another blade counts for nothing.
            assert!(matches!(
                rig.learned(),
                [Learned::Torque(_), Learned::Turn(_)]
            ));
            let water = started.water().unwrap();
            let shaft = rig.shaft(&water, Celsius(15.0)).unwrap().unwrap();
            assert!((shaft.start(&water).0 - (0.2 * MILE_PER_HOUR).0).abs() < 1e-9);
            let running = shaft.at(0.8 * MILE_PER_HOUR, &water).unwrap();
            assert!((running.turns.0 - 3.0).abs() < 1e-9);
            throw(c, Record::Dunk(dunk), Timestamp::UNIX_EPOCH)?;
            assert!(matches!(
                rigs::get(c, id)?.rig.learned(),
                [Learned::Turn(_)]
            ));
            Ok::<_, Error>(())
        })
        .unwrap();
}

#[test]
fn a_touch_belongs_to_its_rod_line_and_weight() {
    let (_folder, store, rig, setup_id) = with_a_rig();
    store
        .write(|c| {
            let setup = setups::get(c, setup_id)?;
            let touch = BottomTouch {
                rig,
                setup: setup_id,
                main: setup.main,
                weight: None,
                lead: 5.0 * FOOT,
                out: 80.0 * FOOT,
                bottom: 24.0 * FOOT,
                speed: 1.2 * MILE_PER_HOUR,
                touched: true,
                at: Timestamp::UNIX_EPOCH,
            };
            let id = observed::add_touch(c, &touch)?;
            assert_eq!(observed::touches(c)?, [(id, touch)]);
            assert!(touch.is_with(setup_id, &setup));
            let heavier = LineSetup {
                weight: Some(Weight::Sinker(SinkerStyle::Egg, OUNCE, WeightMaterial::Tin)),
                ..setup
            };
            assert!(!touch.is_with(setup_id, &heavier));
            throw(c, Record::Touch(id), Timestamp::UNIX_EPOCH)?;
            assert!(observed::touches(c)?.is_empty());
            Ok::<_, Error>(())
        })
        .unwrap();
}

#[rstest]
#[case(Some(Weight::TripDiver(DiverSize::Small, SideSetting::Two, ReleaseHole::Middle)))]
#[case(Some(Weight::FloatDiver(DiverSize::Medium)))]
#[case(Some(Weight::Sinker(SinkerStyle::DivingWeight, OUNCE, WeightMaterial::Tin)))]
#[case(None)]
fn every_depth_tool_comes_back_as_it_went_in(#[case] weight: Option<Weight>) {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let setup = LineSetup {
        core: Some(Core {
            stock: LineStock::of_test(LineMaterial::LeadCore, 18).unwrap(),
            length: 90.0 * FOOT,
        }),
        ahead: 20.0 * FOOT,
        ..setup(Start::Board, weight)
    };
    let id = store.write(|c| setups::add(c, &setup)).unwrap();
    assert_eq!(store.read(|c| setups::get(c, id)).unwrap(), setup);
    let changed = LineSetup {
        core: None,
        lead: 3.0 * FOOT,
        ..setup
    };
    store.write(|c| setups::update(c, id, &changed)).unwrap();
    assert_eq!(store.read(|c| setups::get(c, id)).unwrap(), changed);
    let missing = store.write(|c| setups::update(c, SetupId(99), &changed));
    assert!(missing.unwrap_err().is_missing());
}
