use super::{Angler, Belief, Record, Verdict};
use crate::error::Error;

/// One of the two that an experiment holds against each other.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Arm {
    /// The first.
    A,
    /// The second.
    B,
}

impl Arm {
    fn other(self) -> Self {
        match self {
            Self::A => Self::B,
            Self::B => Self::A,
        }
    }
}

/// Who fishes what in each period: `deal[period][rod]`.
///
/// In blocks of two periods each rod gets both, in an order drawn from the seed; within a period the arms are spread as
/// evenly over the rods as their number allows, so that neither has the better hour (randomised blocks; Fisher 1935, *The
/// Design of Experiments*, from memory).
pub fn deal(rods: usize, periods: usize, seed: u64) -> Vec<Vec<Arm>> {
    let mut state = seed;
    let mut draw = || {
        state = state.wrapping_add(0x9e37_79b9_7f4a_7c15);
        mix(state)
    };
    let mut dealt = Vec::with_capacity(periods);
    while dealt.len() < periods {
        // Half of the rods begin with A; of an odd number the one over is drawn.
        let mut order: Vec<(u64, usize)> = (0..rods).map(|rod| (draw(), rod)).collect();
        order.sort_unstable();
        let more = if rods % 2 == 1 {
            (draw() & 1) as usize
        } else {
            0
        };
        let mut first = vec![Arm::B; rods];
        for (_, rod) in &order[..rods / 2 + more] {
            first[*rod] = Arm::A;
        }
        dealt.push(first.clone());
        if dealt.len() < periods {
            dealt.push(first.into_iter().map(Arm::other).collect());
        }
    }
    dealt
}

/// `SplitMix64` (Steele, Lea & Flood 2014, from memory): the same seed deals the same on every machine.
fn mix(state: u64) -> u64 {
    let z = (state ^ (state >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    let z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    z ^ (z >> 31)
}

/// How an experiment stands.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Standing {
    /// Probability that A is the better one.
    pub probability: f64,
    /// The word for the better of the two.
    pub verdict: Verdict,
    /// Chance that it becomes likely in the hours left, by what is believed now.
    pub chance: f64,
    /// Whether it may stop: clear, or without a chance worth the hours.
    pub stop: Option<Stop>,
}

/// Why an experiment stops.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Stop {
    /// One is clearly better.
    Clear,
    /// The hours left will not tell.
    CannotTell,
    /// The hours are up.
    Over,
}

/// Below this chance of becoming likely it is not worth the hours (designed).
const WORTH: f64 = 0.15;

/// How A stands to B, and what the hours left can still tell; `left` in rod-hours of each.
///
/// Looks between do not spoil it: what is believed depends on fish and hours, not on when somebody looked.
///
/// # Errors
/// [`Error::OutOfRange`] for hours that cannot be.
pub fn standing(angler: Angler, a: Record, b: Record, left: f64) -> Result<Standing, Error> {
    let (first, second) = (angler.believes(a)?, angler.believes(b)?);
    let probability = first.beats(&second);
    let sure = probability.max(1.0 - probability);
    let verdict = Verdict::of(sure, [a.rod_hours, b.rod_hours]);
    let chance = if verdict >= Verdict::Likely {
        1.0
    } else {
        chance(angler, [first, second], left)?
    };
    let stop = match verdict {
        Verdict::Clear => Some(Stop::Clear),
        _ if left <= 0.0 => Some(Stop::Over),
        _ if chance < WORTH => Some(Stop::CannotTell),
        _ => None,
    };
    Ok(Standing {
        probability,
        verdict,
        chance,
        stop,
    })
}

/// Chance that one of two becomes likely better after some more rod-hours of each: the sum over the fish either may still
/// bring, which are negative binomial under what is believed now.
fn chance(angler: Angler, beliefs: [Belief; 2], left: f64) -> Result<f64, Error> {
    if left <= 0.0 {
        return Ok(0.0);
    }
    let more = beliefs.map(|belief| belief.fish_in(left));
    let mut sum = 0.0;
    for (i, p) in more[0].iter().enumerate() {
        for (j, q) in more[1].iter().enumerate() {
            let then = |belief: &Belief, fish: usize| {
                angler.believes(belief.record.and(Record {
                    fish: u32::try_from(fish).unwrap_or(u32::MAX),
                    rod_hours: left,
                }))
            };
            let (a, b) = (then(&beliefs[0], i)?, then(&beliefs[1], j)?);
            let probability = a.beats(&b);
            let sure = probability.max(1.0 - probability);
            let hours = [a.record.rod_hours, b.record.rod_hours];
            if Verdict::of(sure, hours) >= Verdict::Likely {
                sum += p * q;
            }
        }
    }
    Ok(sum)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case(1)]
    #[case(2)]
    #[case(3)]
    #[case(6)]
    fn every_rod_gets_both_and_no_period_favours_one(#[case] rods: usize) {
        for seed in 0..40 {
            let dealt = deal(rods, 8, seed);
            for rod in 0..rods {
                for block in dealt.chunks(2) {
                    assert_ne!(block[0][rod], block[1][rod]);
                }
            }
            for period in &dealt {
                let of_a = period.iter().filter(|arm| **arm == Arm::A).count();
                assert!(of_a.abs_diff(rods - of_a) <= 1);
            }
            assert_eq!(dealt, deal(rods, 8, seed));
        }
        let first: Vec<Arm> = (0..64).map(|seed| deal(rods, 2, seed)[0][0]).collect();
        assert!(first.contains(&Arm::A) && first.contains(&Arm::B));
    }

    fn stands(a: (u32, f64), b: (u32, f64), left: f64) -> Standing {
        let record = |(fish, rod_hours)| Record { fish, rod_hours };
        standing(Angler::default(), record(a), record(b), left).unwrap()
    }

    #[test]
    fn it_stops_when_clear_or_when_the_hours_cannot_tell() {
        assert_eq!(stands((9, 4.0), (0, 4.0), 4.0).stop, Some(Stop::Clear));
        assert_eq!(
            stands((3, 30.0), (3, 30.0), 0.5).stop,
            Some(Stop::CannotTell)
        );
        assert_eq!(stands((1, 3.0), (1, 3.0), 0.0).stop, Some(Stop::Over));
        let begun = stands((1, 1.0), (0, 1.0), 5.0);
        assert_eq!((begun.stop, begun.verdict), (None, Verdict::CannotTell));
        assert!(begun.chance > 0.3, "{}", begun.chance);
    }

    #[test]
    fn more_hours_left_never_tell_less() {
        let chances: Vec<f64> = [0.5, 1.0, 2.0, 4.0, 8.0, 16.0]
            .map(|left| stands((1, 2.0), (1, 2.0), left).chance)
            .to_vec();
        let slack = |pair: &[f64]| pair[1] > pair[0] - 0.05;
        assert!(chances.windows(2).all(slack), "{chances:?}");
    }
}
