//! The angler's own bottom and fish seen on the sounder: what many outings sounded is kept, nothing of it is lost to a new one.

use crate::{folder, outing, water};
use jiff::Timestamp;
use motilis_core::book::FishMark;
use motilis_core::units::Metres;
use motilis_store::{Store, bottoms, fish_marks, outings, stamps, waters};

fn at(second: i64) -> Timestamp {
    Timestamp::from_second(1_788_000_000 + second).unwrap()
}

#[test]
fn soundings_of_a_later_outing_are_added_to_those_there_are() {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let id = store
        .write(|connection| waters::add(connection, &water()))
        .unwrap();
    let origin = [50.42, -95.61];
    let add = |soundings: &[((i32, i32), f64)], from: [f64; 2], second: i64| {
        let soundings: Vec<_> = soundings
            .iter()
            .map(|(place, depth)| (*place, Metres(*depth)))
            .collect();
        store
            .write(|connection| bottoms::add(connection, id, from, &soundings, at(second)))
            .unwrap();
    };
    add(
        &[
            ((3, -2), 8.0),
            ((3, -2), 8.2),
            ((3, -2), 30.0),
            ((4, -2), 9.0),
        ],
        origin,
        0,
    );
    // Another outing, which knew nothing of them; the first one's origin holds.
    add(&[((3, -2), 8.1), ((3, -2), 8.3)], [50.43, -95.6], 90_000);
    let chart = store
        .read(|connection| bottoms::of_water(connection, id))
        .unwrap();
    let cell = chart.cell((3, -2)).unwrap();
    assert_eq!((cell.count, cell.median()), (5, Some(Metres(8.2))));
    assert_eq!(chart.cells().count(), 2);
    assert_eq!(
        store
            .read(|connection| bottoms::origin(connection, id))
            .unwrap(),
        Some(origin)
    );
    for second in 0..40 {
        add(&[((3, -2), 7.0)], origin, 100_000 + second);
    }
    let chart = store
        .read(|connection| bottoms::of_water(connection, id))
        .unwrap();
    let cell = chart.cell((3, -2)).unwrap();
    assert_eq!(
        (cell.count, cell.depths().count(), cell.median()),
        (45, 25, Some(Metres(7.0)))
    );
}

#[test]
fn a_mark_is_of_its_outing_and_practice_has_no_stamp() {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let (real, practice) = store
        .write(|connection| {
            let water = waters::add(connection, &water())?;
            let real = outings::add(connection, &outing(water))?;
            let practice = outings::add(connection, &outing(water))?;
            outings::set_practice(connection, practice)?;
            Ok::<_, motilis_store::Error>((real, practice))
        })
        .unwrap();
    let mark = FishMark {
        outing: real,
        place: [50.42, -95.61],
        depth: Metres(6.4),
        at: at(0),
    };
    let id = store
        .write(|connection| fish_marks::add(connection, &mark))
        .unwrap();
    assert_eq!(
        store
            .read(|connection| fish_marks::get(connection, id))
            .unwrap(),
        mark
    );
    assert!(
        store
            .read(|connection| fish_marks::of_outing(connection, practice))
            .unwrap()
            .is_empty()
    );
    let stamped: Vec<_> = store
        .read(|connection| stamps::all(connection, None))
        .unwrap();
    let stamped: Vec<_> = stamped.into_iter().map(|(id, _)| id).collect();
    assert_eq!(stamped, [real]);
    assert!(
        store
            .read(|connection| outings::is_practice(connection, practice))
            .unwrap()
    );
}

/// A boat that is heard makes its outing another for who counts hours; one that has ended hears nothing more.
#[test]
fn an_outing_remembers_when_its_boat_was_last_heard() {
    let (_folder, path) = folder();
    let store = Store::open(&path).unwrap();
    let id = store
        .write(|connection| {
            let water = waters::add(connection, &water())?;
            outings::add(connection, &outing(water))
        })
        .unwrap();
    let hear = |second| {
        store
            .write(|connection| outings::set_heard(connection, id, at(second)))
            .unwrap();
        store
            .read(|connection| {
                let heard = outings::heard(connection, id)?;
                Ok::<_, motilis_store::Error>((heard, stamps::all(connection, None)?))
            })
            .unwrap()
    };
    let ((first, stamp), (second, later)) = (hear(60), hear(120));
    assert_eq!((first, second), (Some(at(60)), Some(at(120))));
    assert_ne!(stamp, later);
    store
        .write(|connection| {
            let mut over = outings::get(connection, id)?;
            over.ended = Some(at(150));
            outings::update(connection, id, &over)
        })
        .unwrap();
    assert_eq!(hear(180).0, Some(at(120)));
}
