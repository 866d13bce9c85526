//! Files that come into box and log: read without a panic, whatever they hold.
#![no_main]

use libfuzzer_sys::fuzz_target;
use motilis_formats::{Format, read, read_log};

fuzz_target!(|bytes: &[u8]| {
    for format in [Format::Csv, Format::Json] {
        let _ = read(bytes, format);
        let _ = read_log(bytes, format);
    }
});
