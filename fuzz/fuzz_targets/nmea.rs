//! Bytes off a wire, whole and in pieces: read without a panic, to the same end, every line counted.
#![no_main]

use libfuzzer_sys::fuzz_target;
use motilis_formats::nmea::{Counts, Heard, Reader};

#[path = "../sealed.rs"]
mod sealed;

fn read(pieces: impl Iterator<Item = impl AsRef<[u8]>>) -> (Vec<Heard>, Counts) {
    let (mut reader, mut heard) = (Reader::default(), Vec::new());
    for piece in pieces {
        reader.read(piece.as_ref(), |one| heard.push(one));
    }
    (heard, reader.counts())
}

fuzz_target!(|bytes: &[u8]| {
    let sealed = sealed::sealed(bytes);
    for bytes in [bytes, &sealed] {
        let at = bytes.first().map_or(1, |first| usize::from(*first) + 1);
        let (heard, counts) = read(std::iter::once(bytes));
        assert_eq!((heard, counts), read(bytes.chunks(at)));
    }
});
