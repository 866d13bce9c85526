//! JSON requests: an answer or a refusal that is JSON, too.
#![no_main]

use libfuzzer_sys::fuzz_target;
use motilis_solve::What;

fuzz_target!(|bytes: &[u8]| {
    let Some((first, request)) = bytes.split_first() else { return };
    let (_, what) = What::ALL[usize::from(*first) % What::ALL.len()];
    match what.answer(request) {
        Ok(answer) => assert!(answer.starts_with('{')),
        Err(refusal) => assert!(refusal.to_json().starts_with("{\"error\"")),
    }
});
