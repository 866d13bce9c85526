use super::{Angler, Belief, Entry, Pass, Record, Verdict};
use crate::entry::plain_text;
use crate::error::Error;
use crate::fields;
use crate::ids::{OutingId, RigId};
use crate::spread::Tackle;
use crate::units::Metres;
use jiff::{SignedDuration, Timestamp};

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

/// One of the two ways of fishing that are held against each other.
#[derive(Debug, Clone, PartialEq)]
pub struct Way {
    /// The rig.
    pub rig: RigId,
    /// Its lead; `None` leaves each rod's own.
    pub lead: Option<Metres>,
    /// What is on the hook; `None` leaves each rod's own.
    pub bait: Option<String>,
}

/// Leads within this are the same.
const SAME_LEAD: f64 = 0.05;

impl Way {
    /// Whether a pass was fished this way.
    fn is_of(&self, pass: &Pass) -> bool {
        let same = |lead: Metres, ran: Metres| (lead - ran).0.abs() <= SAME_LEAD;
        let lead = self
            .lead
            .is_none_or(|lead| pass.ran.lead.is_some_and(|ran| same(lead, ran)));
        let bait = self.bait.as_ref().is_none_or(|bait| *bait == pass.ran.bait);
        pass.tackle == Tackle::Rig(self.rig) && lead && bait
    }
}

/// Two ways of fishing held against each other on some rods of an outing, dealt in random blocks.
#[derive(Debug, Clone, PartialEq)]
pub struct Experiment {
    /// On which outing.
    pub outing: OutingId,
    /// When it began.
    pub began: Timestamp,
    /// When its hours are up: dusk, or the end of the day.
    pub until: Timestamp,
    /// When it was ended.
    pub ended: Option<Timestamp>,
    /// How long a rod fishes one way before it changes.
    pub period: SignedDuration,
    /// What the order is drawn from.
    pub seed: u64,
    /// The rods, by their numbers.
    pub rods: Vec<u8>,
    /// A and B.
    pub ways: [Way; 2],
}

impl Experiment {
    /// Whether it can be made.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        if self.ways[0] == self.ways[1] {
            return Err(Error::contradiction(
                "b",
                "A and B are the same; let them differ in rig, lead or bait",
            ));
        }
        if self.rods.len() < 2 {
            return Err(Error::contradiction(
                "rods",
                "an experiment needs two rods or more, so that A and B are fished at the same hour; tick two",
            ));
        }
        fields::SWAP_AFTER.check(self.period.as_secs_f64() / 60.0)?;
        if self.until.duration_since(self.began) < self.period * 2 {
            return Err(Error::contradiction(
                "until",
                "the hours left hold no two periods, so no rod could fish both ways; end later, or swap more often",
            ));
        }
        if self.until.duration_since(self.began) > super::LONGEST {
            return Err(Error::contradiction(
                "until",
                "an experiment lasts a day at most; end it earlier",
            ));
        }
        for way in &self.ways {
            if let Some(lead) = way.lead {
                fields::LEAD.check(lead.0)?;
            }
            if let Some(bait) = &way.bait {
                plain_text("bait", bait, 60)?;
            }
        }
        Ok(())
    }

    /// Which period an instant lies in, from 0.
    fn period_at(&self, at: Timestamp) -> usize {
        let since = at.duration_since(self.began).as_secs_f64();
        (since / self.period.as_secs_f64()).max(0.0) as usize
    }

    /// What each rod fishes at an instant.
    pub fn dealt(&self, at: Timestamp) -> Vec<(u8, Arm)> {
        let period = self.period_at(at);
        let dealt = deal(self.rods.len(), period + 1, self.seed);
        let arms = dealt[period].iter().copied();
        self.rods.iter().copied().zip(arms).collect()
    }

    /// When the rods change next after an instant; `None` when its hours are up before.
    pub fn next_swap(&self, at: Timestamp) -> Option<Timestamp> {
        let periods = i32::try_from(self.period_at(at) + 1).ok()?;
        let swap = self.began + self.period * periods;
        (swap < self.until && self.ended.is_none()).then_some(swap)
    }

    /// How a way is fished.
    pub fn way(&self, arm: Arm) -> &Way {
        match arm {
            Arm::A => &self.ways[0],
            Arm::B => &self.ways[1],
        }
    }

    /// The hours that count: from its beginning to its end, or to an instant before that.
    pub fn hours(&self, now: Timestamp) -> (Timestamp, Timestamp) {
        let end = self.ended.unwrap_or(now).min(self.until);
        (self.began, end.max(self.began))
    }

    /// Fish and rod-hours of A and of B: passes on its rods that were fished so, within its hours.
    pub fn records(&self, passes: &[Pass], entries: &[Entry], now: Timestamp) -> [Record; 2] {
        let (from, to) = self.hours(now);
        let on = |rod: Option<u8>| rod.is_some_and(|rod| self.rods.contains(&rod));
        let mut records = [Record::default(); 2];
        for pass in passes.iter().filter(|pass| on(pass.rod)) {
            let Some(arm) = self.ways.iter().position(|way| way.is_of(pass)) else {
                continue;
            };
            let (began, ended) = (pass.from.max(from), pass.to.unwrap_or(to).min(to));
            let seconds = ended.duration_since(began).as_secs_f64().max(0.0);
            records[arm].rod_hours += seconds / 3_600.0;
            let caught = |entry: &&Entry| {
                entry.fish
                    && entry.rod == pass.rod
                    && (began..=ended).contains(&entry.at)
                    && pass.to.is_none_or(|to| entry.at <= to)
            };
            let fish = entries.iter().filter(caught).count();
            records[arm].fish += u32::try_from(fish).unwrap_or(u32::MAX);
        }
        records
    }

    /// How it stands at an instant.
    ///
    /// # Errors
    /// As [`standing`].
    pub fn standing(
        &self,
        angler: Angler,
        [a, b]: [Record; 2],
        now: Timestamp,
    ) -> Result<Standing, Error> {
        let left = self.until.duration_since(now).as_secs_f64().max(0.0) / 3_600.0;
        let left = if self.ended.is_some() { 0.0 } else { left };
        standing(angler, a, b, left * self.rods.len() as f64 / 2.0)
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

    fn minute(minute: i64) -> Timestamp {
        Timestamp::from_second(1_780_000_000 + 60 * minute).unwrap()
    }

    fn leads() -> Experiment {
        let way = |lead| Way {
            rig: RigId(1),
            lead: Some(Metres(lead)),
            bait: None,
        };
        Experiment {
            outing: OutingId(1),
            began: minute(0),
            until: minute(240),
            ended: None,
            period: SignedDuration::from_mins(20),
            seed: 7,
            rods: vec![1, 2, 4],
            ways: [way(1.5), way(3.0)],
        }
    }

    #[test]
    fn hours_and_fish_count_by_how_a_rod_was_fished() {
        let experiment = leads();
        experiment.check().unwrap();
        let pass = |rod, lead, from, to| Pass {
            rod: Some(rod),
            tackle: Tackle::Rig(RigId(1)),
            from: minute(from),
            to,
            ran: super::super::Ran {
                lead: Some(Metres(lead)),
                ..Default::default()
            },
        };
        let fish = |rod, at| Entry {
            rod: Some(rod),
            tackle: None,
            at: minute(at),
            entered: minute(at),
            fish: true,
            strike: false,
        };
        let passes = [
            pass(1, 1.5, -30, Some(minute(20))),
            pass(2, 3.02, 0, None),
            // Neither way, and a rod that is not in it.
            pass(4, 2.0, 0, None),
            pass(3, 1.5, 0, None),
        ];
        let entries = [fish(1, -5), fish(1, 20), fish(2, 30), fish(3, 10)];
        let [a, b] = experiment.records(&passes, &entries, minute(60));
        assert!((a.rod_hours - 1.0 / 3.0).abs() < 1e-9 && (b.rod_hours - 1.0).abs() < 1e-9);
        assert_eq!((a.fish, b.fish), (1, 1));
        // Ended: what comes later does not count.
        let ended = Experiment {
            ended: Some(minute(30)),
            ..experiment
        };
        let [_, b] = ended.records(&passes, &[fish(2, 45)], minute(90));
        assert!((b.rod_hours - 0.5).abs() < 1e-9 && b.fish == 0);
        assert_eq!(ended.next_swap(minute(40)), None);
    }

    #[test]
    fn rods_swap_at_each_period_until_the_hours_are_up() {
        let experiment = leads();
        let [first, second] = [minute(5), minute(25)].map(|at| experiment.dealt(at));
        for (before, after) in first.iter().zip(&second) {
            assert_eq!(before.0, after.0);
            assert_ne!(before.1, after.1);
        }
        assert_eq!(experiment.next_swap(minute(5)), Some(minute(20)));
        assert_eq!(experiment.next_swap(minute(20)), Some(minute(40)));
        assert_eq!(experiment.next_swap(minute(225)), None);
    }

    #[rstest]
    #[case(Experiment { rods: vec![1], ..leads() }, "rods")]
    #[case(Experiment { ways: [leads().ways[0].clone(), leads().ways[0].clone()], ..leads() }, "b")]
    #[case(Experiment { until: minute(30), ..leads() }, "until")]
    #[case(Experiment { until: minute(3_000), ..leads() }, "until")]
    #[case(Experiment { period: SignedDuration::from_mins(1), ..leads() }, "swap_after_min")]
    fn what_is_no_experiment_is_refused(#[case] experiment: Experiment, #[case] field: &str) {
        assert_eq!(experiment.check().unwrap_err().quantity(), field);
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
