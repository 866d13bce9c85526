//! Requests as a hand, a bad line or an enemy would spoil them: an answer or a refusal, never a panic. The same in every run; the
//! fuzzers in `fuzz/` look further.

use motilis_solve::What;
use rstest::rstest;

/// What is spoilt: the requests of the golden figures.
const SEEDS: [(What, &str); 6] = [
    (What::Towline, include_str!("../golden/towline.tsv")),
    (What::Blade, include_str!("../golden/blade.tsv")),
    (What::Rig, include_str!("../golden/rig.tsv")),
    (What::Light, include_str!("../golden/light.tsv")),
    (What::Match, include_str!("../golden/match.tsv")),
    (What::Spread, include_str!("../golden/spread.tsv")),
];

/// The first request of a golden file, spoilt in one or two places.
fn spoilt(request: &str, chance: &mut u64) -> Vec<u8> {
    let mut next = |below: usize| {
        *chance = chance
            .wrapping_mul(6_364_136_223_846_793_005)
            .wrapping_add(1_442_695_040_888_963_407);
        (*chance >> 33) as usize % below.max(1)
    };
    let mut bytes = request.as_bytes().to_vec();
    for _ in 0..=next(2) {
        let at = next(bytes.len());
        match next(6) {
            0 => bytes[at] = next(256) as u8,
            1 => drop(bytes.splice(at..at, *b"1e308")),
            2 => drop(bytes.splice(at..at, *b"-")),
            3 => bytes.truncate(at),
            4 => {
                let to = (at + next(40)).min(bytes.len());
                bytes.drain(at..to);
            }
            _ => {
                // A figure becomes another one.
                if let Some(digit) = bytes[at..].iter().position(u8::is_ascii_digit) {
                    bytes[at + digit] = b"0123456789.e-"[next(13)];
                }
            }
        }
    }
    bytes
}

#[rstest]
fn a_spoilt_request_is_answered_or_refused(#[values(0, 1, 2, 3, 4, 5)] place: usize) {
    let (what, golden) = SEEDS[place];
    let request = golden
        .lines()
        .filter_map(|line| line.split('\t').find(|field| field.starts_with('{')))
        .min_by_key(|request| request.len())
        .expect("a golden file has requests");
    let mut chance = 27 + place as u64;
    let (mut answered, mut refused) = (0, 0);
    for _ in 0..300 {
        match what.answer(&spoilt(request, &mut chance)) {
            Ok(answer) => {
                answered += 1;
                assert!(answer.starts_with('{'));
            }
            Err(refusal) => {
                refused += 1;
                assert!(refusal.message.len() > 5, "{refusal:?}");
            }
        }
    }
    assert!(refused > 50, "{answered} answered, {refused} refused");
}
