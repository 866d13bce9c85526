//! Three tracks and the spots they pass: the boat trolls from mark to mark, slows down while a fish is on, and runs out
//! and home.

use crate::waters::Waters;
use jiff::SignedDuration;
use motilis_core::book::{Event, EventKind, Given, Outing, OutingId, WaterBody, WaterId};
use motilis_core::track::{Plane, Point, Spot, Track};
use motilis_core::units::{FOOT, Metres};
use motilis_store::{Connection, Error, events, outings, spots, tracks};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// A point every so many seconds.
const EVERY: i64 = 5;
/// Metres a second under way, and while a fish is fought.
const RUNNING: f64 = 9.0;
const FIGHTING: f64 = 0.25;
/// Seconds a fish keeps the boat slow.
const FOUGHT: i64 = 300;

/// A spot of the scenario: metres east and north of the water's middle, reach and depth in feet.
type Place = (&'static str, (f64, f64), f64, f64, &'static str);

const TAMARIN: [Place; 3] = [
    (
        "Gravel point",
        (620.0, 340.0),
        400.0,
        24.0,
        "gravel running out over the break",
    ),
    (
        "Reed bay",
        (-780.0, 120.0),
        500.0,
        14.0,
        "reeds inside, mud before them",
    ),
    (
        "The hump",
        (-80.0, -420.0),
        300.0,
        19.0,
        "rock top in deep water",
    ),
];
const ORRIN: [Place; 1] = [(
    "North shelf",
    (0.0, 900.0),
    700.0,
    90.0,
    "a ledge along the drop",
)];

/// Adds them: the two newest outings of one water and the newest of the other have a track.
pub(crate) fn add(connection: &Connection, waters: &Waters, seed: u64) -> Result<(), Error> {
    let mut random = ChaCha8Rng::seed_from_u64(seed ^ 0x7261_636b);
    for (water, places, count) in [
        (&waters.tamarin, &TAMARIN[..], 2),
        (&waters.orrin, &ORRIN, 1),
    ] {
        for place in places {
            spots::add(connection, &spot(water, place))?;
        }
        let all = outings::all(connection)?.into_iter();
        let of_water = all.filter(|(_, outing)| outing.water == water.0);
        for (id, outing) in of_water.take(count) {
            follow(connection, (id, &outing), water, places, &mut random)?;
        }
    }
    Ok(())
}

fn plane((_, water): &(WaterId, WaterBody)) -> Plane {
    Plane::at(water.latitude_deg, water.longitude_deg)
}

fn spot(water: &(WaterId, WaterBody), place: &Place) -> Spot {
    let (name, (east, north), reach_ft, depth_ft, structure) = *place;
    let (latitude, longitude) = plane(water).back(east, north);
    Spot {
        water: water.0,
        name: name.into(),
        latitude,
        longitude,
        radius: reach_ft * FOOT,
        depth: Some(Metres((depth_ft * FOOT).0)),
        structure: structure.into(),
    }
}

/// The track of an outing, and what it says of its entries.
fn follow(
    connection: &Connection,
    (id, outing): (OutingId, &Outing),
    water: &(WaterId, WaterBody),
    places: &[Place],
    random: &mut ChaCha8Rng,
) -> Result<(), Error> {
    let entries = events::of_outing(connection, id)?;
    let last = entries.iter().map(|(_, event)| event.at).max();
    let Some(last) = last else { return Ok(()) };
    let seconds = (last.as_second() - outing.started.as_second()) + 600;
    let fish: Vec<i64> = entries
        .iter()
        .filter(|(_, event)| event.kind == EventKind::Fish)
        .map(|(_, event)| event.at.as_second() - outing.started.as_second())
        .collect();
    let plane = plane(water);
    let (mut east, mut north) = (1_500.0_f64, -900.0_f64);
    let mut mark = (places[0].1.0 + 200.0, places[0].1.1);
    let mut next = 0;
    let mut points = Vec::new();
    for second in (0..=seconds).step_by(EVERY as usize) {
        let (latitude, longitude) = plane.back(
            east + random.random_range(-1.5..1.5),
            north + random.random_range(-1.5..1.5),
        );
        points.push(Point {
            at: outing.started + SignedDuration::from_secs(second),
            latitude,
            longitude,
        });
        let fights = fish.iter().any(|on| (*on..on + FOUGHT).contains(&second));
        let speed = match second {
            _ if fights => FIGHTING,
            0..150 => RUNNING,
            _ if seconds - second < 150 => RUNNING,
            _ => outing.speed.0 * random.random_range(0.9..1.1),
        };
        if seconds - second < 150 {
            mark = (1_500.0, -900.0);
        }
        let (dx, dy) = (mark.0 - east, mark.1 - north);
        let away = dx.hypot(dy);
        if away < 30.0 {
            next += 1;
            let around = places[next % places.len()].1;
            mark = (
                around.0 + random.random_range(-220.0..220.0),
                around.1 + random.random_range(-160.0..160.0),
            );
        }
        let step = speed * EVERY as f64 / away.max(1.0);
        let bend = 0.35 * (second as f64 / 240.0).sin();
        let (sin, cos) = bend.sin_cos();
        east += step * (dx * cos - dy * sin);
        north += step * (dx * sin + dy * cos);
    }
    let name = format!("{}, {}", water.1.name, outing.started.strftime("%-d %b"));
    let track = Track::new(name, points).expect("the scenario stays on the globe and within a day");
    tracks::add(connection, id, &track)?;
    // As the file keeps it, to the centimetre.
    let Some((_, track)) = tracks::of_outing(connection, id)? else {
        return Ok(());
    };
    for (entry, event) in entries {
        if let Some(fix) = track.fix(event.at) {
            let filled = Event {
                given: Given::Track,
                place: Some((fix.latitude, fix.longitude)),
                ground: fix.ground,
                course_deg: fix.course_deg,
                ..event
            };
            events::update(connection, entry, &filled)?;
        }
    }
    Ok(())
}
