//! Tracks that come in.
#![no_main]

use libfuzzer_sys::fuzz_target;
use motilis_core::track::Track;
use motilis_formats::read_gpx;

fuzz_target!(|bytes: &[u8]| {
    if let Ok(recorded) = read_gpx(bytes) {
        let _ = Track::new(recorded.name, recorded.points);
    }
});
