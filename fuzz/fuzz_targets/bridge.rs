//! Sound sentences with any figures in them, with two rods in the water: no panic, and every figure that is told is one.
#![no_main]

use jiff::{SignedDuration, Timestamp};
use libfuzzer_sys::fuzz_target;
use motilis_formats::nmea::Reader;
use motilis_live::{Bridge, Waters};

#[path = "../../crates/motilis-live/tests/it/ahead.rs"]
mod ahead;
#[path = "../sealed.rs"]
mod sealed;

fuzz_target!(|bytes: &[u8]| {
    let waters = Waters {
        origin: [50.42, -95.61],
        surroundings: ahead::lake(),
        ..Waters::default()
    };
    let mut bridge = Bridge::new(waters.clone());
    bridge.set(waters, vec![ahead::rod(1, "P1", 66.0), ahead::rod(2, "S1", 75.0)], None);
    let mut heard = Vec::new();
    Reader::default().read(&sealed::sealed(bytes), |one| heard.push(one));
    let clock: Timestamp = "2026-07-11T23:00:00Z".parse().expect("RFC 3339");
    for (second, one) in heard.into_iter().take(40).enumerate() {
        bridge.hear(one, second as f64, clock + SignedDuration::from_secs(second as i64));
    }
    for rod in bridge.known(40.0).rods {
        assert!(rod.line.depth.0.is_finite() && rod.lowest.0.is_finite());
        assert!(rod.place.iter().all(|along| along.is_finite()));
    }
});
