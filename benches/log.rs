//! What the log costs with 2 000 outings and 100 000 entries behind it, and a track of 43 000 points.

use criterion::{Criterion, criterion_group, criterion_main};
use jiff::{SignedDuration, Timestamp};
use motilis_core::book::OutingId;
use motilis_core::track::{Plane, Point, Track, runs};
use motilis_store::tracks;

/// Twelve hours at one point a second, back and forth with a receiver's noise.
fn long_track(began: Timestamp) -> Track {
    let plane = Plane::at(50.42, -95.61);
    let points = (0..43_200).map(|second| {
        let t = f64::from(second);
        let noise = (t * 12.9898).sin() * 1.5;
        let east = 1_500.0 * (t / 900.0).sin() + noise;
        let north = 600.0 * (t / 2_300.0).cos() + 0.02 * t - noise;
        let (latitude, longitude) = plane.back(east, north);
        Point {
            at: began + SignedDuration::from_secs(i64::from(second)),
            latitude,
            longitude,
        }
    });
    Track::new("long", points.collect()).expect("it stays on the globe")
}

fn bench(c: &mut Criterion) {
    let began: Timestamp = "2026-09-05T11:20:00Z".parse().expect("RFC 3339");
    let track = long_track(began);
    let plane = Plane::of(&track);
    c.bench_function("track/43 000 points to a drawing", |b| {
        b.iter(|| runs(&track, &plane, 3.0));
    });
    let (_folder, address) = motilis_benches::serve(|store| {
        motilis_demo::multiply(store).expect("copies fit");
        store
            .write(|connection| {
                let open: i64 = connection.query_row(
                    "SELECT value FROM settings WHERE name = 'open_outing'",
                    [],
                    |row| Ok(row.get::<_, String>(0)?.parse().unwrap_or(1)),
                )?;
                tracks::add(connection, OutingId(open), &track)
            })
            .expect("a track fits");
    });
    let agent = ureq::Agent::new_with_defaults();
    for (name, path) in [
        ("many/log", "/log"),
        ("many/evidence", "/evidence"),
        (
            "many/evidence, crossed",
            "/evidence?fish=all&by=blade&crossed=after_dawn",
        ),
        ("many/today", "/today"),
        ("many/plan of 43 000 points", "/log/track"),
    ] {
        motilis_benches::page(c, name, &format!("{address}{path}"));
    }
    let url = format!("{address}/log");
    c.bench_function("many/a tap", |b| {
        b.iter(|| {
            agent
                .post(&url)
                .config()
                .max_redirects(0)
                .build()
                .send_form([("kind", "bottom_touch"), ("rod", "1")])
                .expect("an answer")
        });
    });
}

criterion_group!(benches, bench);
criterion_main!(benches);
