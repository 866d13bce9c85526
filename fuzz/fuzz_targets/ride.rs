//! A recording of any sound sentences: laid out second by second, each later than the one before.
#![no_main]

use libfuzzer_sys::fuzz_target;
use motilis_formats::nmea::ride;

#[path = "../sealed.rs"]
mod sealed;

fuzz_target!(|bytes: &[u8]| {
    let ride = ride(sealed::sealed(bytes).as_slice()).expect("bytes in memory can be read");
    assert!(ride.rows.windows(2).all(|two| two[0].at < two[1].at));
});
