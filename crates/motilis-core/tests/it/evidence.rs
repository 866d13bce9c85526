//! Rates against `SciPy` (see `tests/data/README.md`), and against seasons whose truth is known.

use approx::{assert_abs_diff_eq, assert_relative_eq};
use motilis_core::book::RigId;
use motilis_core::evidence::{
    Angler, Belief, Compared, OnRod, Record, Stratum, Verdict, best_of, stratified, switch,
};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use serde_json::Value;

fn record(case: &Value, fish: &str, hours: &str) -> Record {
    Record {
        fish: u32::try_from(case[fish].as_u64().unwrap()).unwrap(),
        rod_hours: case[hours].as_f64().unwrap(),
    }
}

fn figures(value: &Value) -> Vec<f64> {
    let list = value.as_array().unwrap();
    list.iter().map(|one| one.as_f64().unwrap()).collect()
}

#[test]
fn every_season_is_as_the_reference_has_it() {
    let mut rows = 0;
    for line in include_str!("../data/rate_cases.jsonl").lines() {
        let case: Value = serde_json::from_str(line).unwrap();
        let angler = Angler::with_rate(case["mean_per_hour"].as_f64().unwrap()).unwrap();
        let beliefs: Vec<Belief> = case["rigs"]
            .as_array()
            .unwrap()
            .iter()
            .map(|rig| angler.believes(record(rig, "fish", "rod_hours")).unwrap())
            .collect();
        let expected = &case["expected"];
        for (belief, rate) in beliefs.iter().zip(figures(&expected["rates"])) {
            assert_relative_eq!(belief.rate(), rate, max_relative = 1e-6);
        }
        let ends = figures(&expected["low"])
            .into_iter()
            .zip(figures(&expected["high"]));
        for (belief, (low, high)) in beliefs.iter().zip(ends) {
            assert_relative_eq!(belief.interval().0, low, max_relative = 1e-5);
            assert_relative_eq!(belief.interval().1, high, max_relative = 1e-5);
        }
        let first = expected["p_first_over_second"].as_f64().unwrap();
        assert_abs_diff_eq!(beliefs[0].beats(&beliefs[1]), first, epsilon = 1e-6);
        assert_abs_diff_eq!(beliefs[1].beats(&beliefs[0]), 1.0 - first, epsilon = 1e-6);
        let best = best_of(&beliefs);
        assert_abs_diff_eq!(best.iter().sum::<f64>(), 1.0, epsilon = 1e-9);
        for (ours, theirs) in best.iter().zip(figures(&expected["p_best"])) {
            assert_abs_diff_eq!(*ours, theirs, epsilon = 1e-6);
        }
        let strata: Vec<Stratum> = case["strata"]
            .as_array()
            .unwrap()
            .iter()
            .map(|one| Stratum {
                a: record(one, "a_fish", "a_hours"),
                b: record(one, "b_fish", "b_hours"),
            })
            .collect();
        match (stratified(&strata), expected["stratified_ratio"].as_f64()) {
            (Some(ratio), Some(theirs)) => {
                assert_relative_eq!(ratio.ratio, theirs, max_relative = 1e-9);
                let error = expected["stratified_log_se"].as_f64().unwrap();
                assert_relative_eq!(ratio.log_error, error, max_relative = 1e-9);
            }
            (ours, theirs) => assert_eq!(ours.is_none(), theirs.is_none(), "{}", case["name"]),
        }
        rows += 1;
    }
    assert_eq!(rows, 40);
}

/// Two that are known well: the best of two is the better one, and nothing of the grid is cut off.
#[test]
fn the_best_of_two_is_the_better_one_however_well_they_are_known() {
    for fish in [0, 3, 50, 400, 20_000] {
        let angler = Angler::with_rate(0.4).unwrap();
        let believed = |fish: u32, rod_hours| angler.believes(Record { fish, rod_hours }).unwrap();
        let hours = f64::from(fish) / 0.4 + 5.0;
        let pair = [
            believed(fish, hours),
            believed(fish + fish / 50, hours * 1.01),
        ];
        let best = best_of(&pair);
        assert_abs_diff_eq!(best[0] + best[1], 1.0, epsilon = 1e-8);
        assert_abs_diff_eq!(best[0], pair[0].beats(&pair[1]), epsilon = 1e-8);
    }
}

/// Fish of a Poisson process in some hours, by its gaps.
fn fish(random: &mut ChaCha8Rng, rate: f64, hours: f64) -> u32 {
    let mut at = 0.0;
    for caught in 0.. {
        at -= (1.0 - random.random::<f64>()).ln() / rate;
        if at > hours {
            return caught;
        }
    }
    unreachable!("time goes on")
}

/// A rate as rigs have them: most are poor, a few are good (a gamma of shape ½, by the square of a normal).
fn rate(random: &mut ChaCha8Rng, mean: f64) -> f64 {
    let (u, v): (f64, f64) = (random.random(), random.random());
    let normal = (-2.0 * (1.0 - u).ln()).sqrt() * (std::f64::consts::TAU * v).cos();
    mean * normal * normal
}

const SEASONS: u64 = 200;
const MEAN: f64 = 0.4;

fn believed(random: &mut ChaCha8Rng, rate: f64, rod_hours: f64) -> Belief {
    let caught = Record {
        fish: fish(random, rate, rod_hours),
        rod_hours,
    };
    Angler::with_rate(MEAN).unwrap().believes(caught).unwrap()
}

#[test]
fn eight_intervals_of_ten_hold_the_truth() {
    let (mut held, mut all) = (0.0, 0.0);
    for season in 0..SEASONS {
        let mut random = ChaCha8Rng::seed_from_u64(season);
        for _ in 0..8 {
            let truth = rate(&mut random, MEAN);
            let hours = random.random_range(0.5..40.0);
            let (low, high) = believed(&mut random, truth, hours).interval();
            held += f64::from(u8::from((low..=high).contains(&truth)));
            all += 1.0;
        }
    }
    let share = held / all;
    assert!((0.76..=0.84).contains(&share), "{share}");
}

/// Fish decide over the day; whoever is called ahead should be the better one at least three times in four.
#[test]
fn a_switch_call_is_right_three_times_in_four() {
    let (mut right, mut called) = (0.0, 0.0);
    for season in 0..SEASONS * 10 {
        let mut random = ChaCha8Rng::seed_from_u64(1_000 + season);
        let rigs = [1, 2, 3, 4].map(RigId);
        let rates = rigs.map(|_| rate(&mut random, MEAN));
        let rods: Vec<OnRod> = (1..)
            .zip(rigs)
            .map(|(rod, rig)| OnRod { rod, rig })
            .collect();
        let beliefs: Vec<(RigId, Belief)> = rigs
            .iter()
            .zip(rates)
            .map(|(rig, rate)| (*rig, believed(&mut random, rate, 3.0)))
            .collect();
        if let Some(call) = switch(&rods, &beliefs, |_| 4) {
            let of = |rig: RigId| rates[usize::try_from(rig.0).unwrap() - 1];
            for rod in call.rods {
                let on = rods[usize::from(rod) - 1].rig;
                right += f64::from(u8::from(of(call.rig) > of(on)));
                called += 1.0;
            }
        }
    }
    assert!(called > 200.0, "{called} calls say nothing");
    assert!(right / called >= 0.75, "{} of {called}", right / called);
}

/// The same rig under two names.
#[test]
fn equal_rigs_are_seldom_called_clear() {
    let angler = Angler::with_rate(MEAN).unwrap();
    let mut clear = 0.0;
    let seasons = SEASONS * 5;
    for season in 0..seasons {
        let mut random = ChaCha8Rng::seed_from_u64(50_000 + season);
        let strata: Vec<Stratum> = (0..10)
            .map(|_| {
                let mut some = |hours: f64| Record {
                    fish: fish(&mut random, MEAN, hours),
                    rod_hours: hours,
                };
                Stratum {
                    a: some(2.0),
                    b: some(2.0),
                }
            })
            .collect();
        let compared = Compared::of(angler, &strata).unwrap();
        let first = compared.verdict == Verdict::Clear && compared.probability > 0.5;
        clear += f64::from(u8::from(first));
    }
    let share = clear / seasons as f64;
    assert!(share < 0.05, "{share}");
}

/// The deep rod in the morning, the shallow rod at noon, and mornings are five times as good: rig A is no better than B,
/// it was only fished at the better hour.
#[test]
fn the_hour_misleads_the_raw_comparison_and_not_the_stratified_one() {
    let angler = Angler::with_rate(MEAN).unwrap();
    let (mut raw_wrong, mut strata_wrong, mut misleads) = (0, 0, 0);
    for season in 0..SEASONS {
        let mut random = ChaCha8Rng::seed_from_u64(90_000 + season);
        let mut strata = Vec::new();
        for _ in 0..12 {
            for (rate, a, b) in [(1.0, 3.0, 0.6), (0.2, 0.6, 3.0)] {
                let mut some = |hours: f64| Record {
                    fish: fish(&mut random, rate, hours),
                    rod_hours: hours,
                };
                strata.push(Stratum {
                    a: some(a),
                    b: some(b),
                });
            }
        }
        let compared = Compared::of(angler, &strata).unwrap();
        raw_wrong += i32::from(compared.raw_verdict == Verdict::Clear);
        strata_wrong += i32::from(compared.verdict == Verdict::Clear);
        misleads += i32::from(compared.misleads());
    }
    assert!(raw_wrong > 190, "{raw_wrong}");
    assert!(strata_wrong < 30, "{strata_wrong}");
    assert!(misleads > 100, "{misleads}");
}
