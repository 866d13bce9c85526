//! Laws of the match: what holds whatever the conditions and the box.

use crate::pool::{day, pool};
use motilis_core::advice::{
    Basis, Candidate, Day, Judge, Mark, Mood, Schools, Sky, Stand, Term, Verdict, Ways, Weights,
    before, draw_up, variants,
};
use motilis_core::bench::Stocked;
use motilis_core::blade::Family;
use motilis_core::book::{PartId, RuleId};
use motilis_core::evidence::{Angler, Record};
use motilis_core::fish::Fish;
use motilis_core::rig::{Colour, Finish, Part, What};
use motilis_core::rules::{Limits, Topic};
use motilis_core::units::{Celsius, MILE_PER_HOUR, Metres};
use proptest::prelude::*;

/// A box of every seventh rig of the trade, with logs drawn from their places.
fn some() -> Vec<Candidate> {
    pool()
        .iter()
        .step_by(7)
        .enumerate()
        .map(|(place, candidate)| Candidate {
            record: Record {
                fish: (place % 5) as u32,
                rod_hours: (place % 11) as f64,
            },
            ..candidate.clone()
        })
        .collect()
}

prop_compose! {
    fn days()(
        mph in 0.6..2.6_f64,
        celsius in 4.0..26.0_f64,
        clarity in 0.4..5.5_f64,
        sun_alt in -20.0..60.0_f64,
        fish in prop::sample::select(Fish::ALL.to_vec()),
        mood in prop::sample::select(Mood::ALL.to_vec()),
        sky in prop::sample::select(Sky::ALL.to_vec()),
        nibblers in any::<bool>(),
    ) -> Day {
        let mut day = Day {
            speed: mph * MILE_PER_HOUR,
            temperature: Celsius(celsius),
            clarity: Metres(clarity),
            sky, fish, mood, nibblers,
            forage: fish.usual_forage(),
            ..day()
        };
        day.overhead.sun_alt = sun_alt;
        day.overhead.cloud = sky.cloud();
        day
    }
}

/// Names on the sheet and scores of all, as one text that can be compared.
fn outcome(day: &Day, candidates: &[Candidate]) -> (Vec<String>, Vec<(String, u64)>) {
    let ways = Ways::usual(day.fish);
    let judge = Judge::new(day, &ways).unwrap();
    let ranking = judge.rank(candidates);
    let sheet = draw_up(&judge, candidates, &ranking, |_| None);
    (
        sheet
            .picks
            .iter()
            .map(|pick| candidates[pick.index].name.clone())
            .collect(),
        ranking
            .rows
            .iter()
            .map(|row| (candidates[row.index].name.clone(), row.score.to_bits()))
            .collect(),
    )
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn the_order_of_the_box_makes_no_difference(day in days(), turn in 1_usize..150) {
        let candidates = some();
        let mut turned = candidates.clone();
        let turn = turn % candidates.len();
        turned.rotate_left(turn);
        turned.reverse();
        prop_assert_eq!(outcome(&day, &candidates), outcome(&day, &turned));
    }

    #[test]
    fn what_is_vetoed_or_does_not_work_never_appears(day in days(), veto in 0_usize..200) {
        let mut candidates = some();
        let veto = veto % candidates.len();
        // Every third one cannot be built.
        let short = Stand::of(candidates[0].rig.stack(), 0, |_| 0.0);
        for candidate in candidates.iter_mut().skip(1).step_by(3) {
            candidate.stand = short.clone();
        }
        let ways = Ways::usual(day.fish);
        let judge = Judge::new(&day, &ways).unwrap();
        let ranking = judge.rank(&candidates);
        let mark = |index: usize| {
            if index == veto { Some(Mark::Veto) } else if index.is_multiple_of(2) { Some(Mark::Pin) } else { None }
        };
        let sheet = draw_up(&judge, &candidates, &ranking, mark);
        let calls = judge.all(&candidates).unwrap();
        for pick in sheet.picks {
            prop_assert_ne!(pick.index, veto);
            prop_assert_eq!(calls[pick.index].verdict, Verdict::Works);
            let short = matches!(candidates[pick.index].stand, Stand::Short(_));
            prop_assert!(!short);
            let window = calls[pick.index].window;
            prop_assert!(window.holds(day.speed));
        }
    }

    #[test]
    fn a_better_term_never_lowers_a_rank(day in days(), place in 0_usize..200, term in 0_usize..20) {
        let candidates = some();
        let place = place % candidates.len();
        let ways = Ways::usual(day.fish);
        let mut calls = Judge::new(&day, &ways).unwrap().all(&candidates).unwrap();
        let rank = |calls: &[motilis_core::advice::Call]| {
            let mut order: Vec<usize> = (0..calls.len()).collect();
            order.sort_by(|a, b| {
                before((&calls[*a], &candidates[*a].name), (&calls[*b], &candidates[*b].name))
            });
            order.iter().position(|index| *index == place).unwrap()
        };
        let then = rank(&calls);
        // As good as the term can get, with everything else as it was.
        let call = &mut calls[place];
        let gained = (1.0 - call.terms[term].points()) * call.terms[term].weight;
        prop_assert!(gained >= 0.0);
        call.score += gained;
        prop_assert!(rank(&calls) <= then);
    }

    #[test]
    fn the_figure_of_a_reason_is_what_was_counted(day in days()) {
        let candidates = some();
        let ways = Ways::usual(day.fish);
        let judge = Judge::new(&day, &ways).unwrap();
        let calls = judge.all(&candidates).unwrap();
        for (candidate, call) in candidates.iter().zip(&calls) {
            let sum: f64 = call.terms.iter().map(|term| term.points() * term.weight).sum();
            prop_assert_eq!(sum.to_bits(), call.score.to_bits());
            for term in &call.terms {
                prop_assert!((-1.0..=1.0).contains(&term.points()), "{:?}", term);
                match term.basis {
                    Basis::Speed { now, best, .. } => {
                        prop_assert_eq!(now, day.speed);
                        prop_assert_eq!(best, call.best_speed);
                    }
                    Basis::Thump { index, .. } => {
                        prop_assert_eq!(index.to_bits(), call.thump.to_bits());
                    }
                    Basis::Seen { range, score, .. } => {
                        prop_assert_eq!(range.to_bits(), call.sighting.range.to_bits());
                        prop_assert_eq!(score.to_bits(), call.sighting.score().to_bits());
                    }
                    Basis::Kind { kind, .. } => prop_assert_eq!(kind, candidate.rig.kind()),
                    Basis::Evidence(belief) => prop_assert_eq!(belief.record, candidate.record),
                    _ => {}
                }
            }
        }
        // The best of them is the hundred.
        let best = calls.iter().map(motilis_core::advice::Call::noticeability).fold(0.0, f64::max);
        prop_assert!((best - 100.0).abs() < 1e-9);
    }
}

/// The call that a day makes of a box.
fn called(ways: &Ways, day: &Day, candidates: &[Candidate]) -> Vec<motilis_core::advice::Call> {
    Judge::new(day, ways).unwrap().all(candidates).unwrap()
}

#[test]
fn typed_in_rules_keep_a_rig_off_the_sheet() {
    use motilis_core::advice::Reason;
    let candidates = some();
    let limits = Limits {
        hooks: Some((1, RuleId(7))),
        no_bait: Some(RuleId(8)),
        ..Limits::default()
    };
    let ways = Ways {
        limits,
        ..Ways::usual(Fish::Walleye)
    };
    let calls = called(&ways, &day(), &candidates);
    let mut topics = Vec::new();
    for (candidate, call) in candidates.iter().zip(&calls) {
        let stack = candidate.rig.stack();
        let hooks: u8 = stack.hooks().iter().map(|&at| stack.pieces[at].count).sum();
        let bait = stack.pieces.iter().any(|piece| piece.part.bait().is_some());
        if hooks > 1 || bait {
            let Reason::AgainstRule { rule, topic } = call.reason else {
                panic!("{} {:?}", candidate.name, call.reason);
            };
            assert_eq!(call.verdict, Verdict::Cannot);
            assert_eq!(rule, if hooks > 1 { RuleId(7) } else { RuleId(8) });
            topics.push(topic);
        }
    }
    assert!(topics.contains(&Topic::Hooks) && topics.contains(&Topic::Bait));
}

/// Where the rule counts points, a treble has three.
#[test]
fn a_treble_counts_as_three_points() {
    use motilis_core::advice::Reason;
    let against = |most| {
        let ways = Ways {
            limits: Limits {
                points: Some((most, RuleId(9))),
                ..Limits::default()
            },
            ..Ways::usual(Fish::Walleye)
        };
        let rig = crate::rigs::wire_trout();
        let candidates = [Candidate::made_up(rig, crate::rigs::bouncer(1.0))];
        let call = called(&ways, &day(), &candidates).remove(0);
        matches!(
            call.reason,
            Reason::AgainstRule {
                topic: Topic::Points,
                ..
            }
        )
    };
    assert!(against(2));
    assert!(!against(3));
}

#[test]
fn fish_in_the_log_move_a_rig_up() {
    let plain = some();
    let ways = Ways::usual(Fish::Walleye);
    let mut lucky = plain.clone();
    lucky[3].record = Record {
        fish: 12,
        rod_hours: 10.0,
    };
    let score = |candidates: &[Candidate]| called(&ways, &day(), candidates)[3].score;
    assert!(score(&lucky) > score(&plain));
    let mut empty = plain.clone();
    empty[3].record = Record {
        fish: 0,
        rod_hours: 30.0,
    };
    assert!(score(&empty) < score(&plain));
}

#[test]
fn an_angler_who_catches_more_asks_more_of_a_rig() {
    let candidates = some();
    let evidence = |angler| {
        let ways = Ways {
            angler,
            ..Ways::usual(Fish::Walleye)
        };
        called(&ways, &day(), &candidates)[4]
            .term(Term::Evidence)
            .points()
    };
    let busy = Angler::of(Record {
        fish: 80,
        rod_hours: 60.0,
    });
    assert!(evidence(busy) < evidence(Angler::default()));
}

#[test]
fn a_weight_of_nothing_silences_a_term() {
    let candidates = some();
    let weights = Term::ALL
        .iter()
        .try_fold(
            Weights::usual(Fish::Walleye, &Schools::default()),
            |weights, &term| weights.with(term, 0.0),
        )
        .unwrap();
    let ways = Ways {
        weights,
        ..Ways::usual(Fish::Walleye)
    };
    for call in called(&ways, &day(), &candidates) {
        assert!(call.score.abs() < 1e-12);
    }
}

/// With a better blade in the box the sheet proposes to swap it, and says which.
#[test]
fn a_blade_of_the_box_is_proposed() {
    let base: Vec<Candidate> = pool()
        .iter()
        .filter(|one| one.name == "crawler_harness colorado 4 purple")
        .cloned()
        .collect();
    assert_eq!(base.len(), 1);
    let stock: Vec<Stocked> = [
        (Family::Indiana, 3.0, Colour::Chartreuse),
        (Family::Colorado, 4.0, Colour::Purple),
    ]
    .into_iter()
    .zip(1..)
    .map(|((family, number, colour), id)| Stocked {
        id: PartId(id),
        part: Part::new(What::Blade(family), number, Finish::plain(colour)).unwrap(),
        left: 4.0,
    })
    .collect();
    let mut candidates = base.clone();
    candidates.extend(variants(&base[0], &stock).unwrap());
    // The blade it already carries is no variant.
    assert_eq!(candidates.len(), 2);
    let ways = Ways::usual(Fish::Walleye);
    let today = day();
    let judge = Judge::new(&today, &ways).unwrap();
    let ranking = judge.rank(&candidates);
    let sheet = draw_up(&judge, &candidates, &ranking, |_| None);
    let Stand::Buildable(changes) = &candidates[sheet.picks[0].index].stand else {
        panic!("{:?}", sheet.picks[0]);
    };
    assert_eq!(changes[0], stock[0].part);
}
