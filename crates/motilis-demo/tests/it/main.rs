//! The scenario is whole, sound, and the same every time.

use motilis_core::advice::{Candidate, Judge, Verdict, Ways};
use motilis_core::bench::{Level, Rule, checks};
use motilis_core::book::{EventKind, WaterId};
use motilis_core::rig::Kind;
use motilis_core::units::{FOOT, MILE_PER_HOUR};
use motilis_demo::{SEED, fill};
use motilis_store::{
    Error, Store, casts, events, made, outings, parts, passes, rigs, rods, runs, setups, tracks,
    waters,
};

fn demo(seed: u64) -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("demo.db")).unwrap();
    fill(&store, seed).unwrap();
    (folder, store)
}

#[test]
fn the_scenario_is_whole() {
    let (_folder, store) = demo(SEED);
    store
        .read(|c| {
            assert_eq!(waters::all(c)?.len(), 3);
            assert_eq!(rigs::boards(c)?.len(), 40);
            assert_eq!(parts::all(c)?.len(), 271);
            assert!(made::all(c)?.len() >= 30);
            let outings = outings::all(c)?;
            assert_eq!(outings.len(), 62);
            for (id, outing) in &outings {
                outing.check().unwrap();
                let events = events::of_outing(c, *id)?;
                assert!(events.len() >= 2, "{} on {}", events.len(), outing.started);
                for (_, event) in &events {
                    event.check().unwrap();
                }
                let passes = passes::of_outing(c, *id)?;
                assert!(!passes.is_empty(), "{}", outing.started);
            }
            let mut all = Vec::new();
            for (id, _) in &outings {
                all.extend(events::of_outing(c, *id)?);
            }
            let count = |kind| all.iter().filter(|(_, event)| event.kind == kind).count();
            let (fish, strikes) = (count(EventKind::Fish), count(EventKind::Strike));
            assert!((250..=350).contains(&fish), "{fish}");
            assert!((300..=500).contains(&strikes), "{strikes}");
            assert_eq!(rods::of_outing(c, outings[0].0)?.len(), 4);
            assert_eq!(tracks::outings(c)?.len(), 3);
            // Three runs, and two days cast through them.
            let runs = runs::of_water(c, WaterId(1))?;
            assert_eq!(runs.len(), 3);
            for (_, run) in &runs {
                run.check().unwrap();
            }
            let mut cast = Vec::new();
            for (id, _) in &outings {
                cast.extend(casts::of_outing(c, *id)?);
            }
            assert!(cast.len() > 100, "{}", cast.len());
            assert!(cast.iter().filter(|(_, cast)| cast.event.is_some()).count() >= 3);
            assert!(all.iter().filter(|(_, event)| event.play.is_some()).count() > 40);
            assert!(
                all.iter()
                    .filter(|(_, event)| event.place.is_some())
                    .count()
                    > 20
            );
            Ok::<_, Error>(())
        })
        .unwrap();
}

#[test]
fn the_same_seed_gives_the_same_day() {
    let all = |seed| {
        let (_folder, store) = demo(seed);
        store.read(|c| {
            let ids: Vec<_> = outings::all(c)?.into_iter().map(|(id, _)| id).collect();
            ids.into_iter()
                .map(|id| events::of_outing(c, id))
                .collect::<Result<Vec<_>, _>>()
        })
    };
    let first = all(SEED).unwrap();
    assert_eq!(first, all(SEED).unwrap());
    assert_ne!(first, all(SEED + 1).unwrap());
}

/// What a newcomer is promised: the harness works at 22 ft over 27, and at 2.1 mph the Colorado 5
/// rolls over while the double willow still turns.
#[test]
fn the_open_day_shows_what_it_should() {
    let (_folder, store) = demo(SEED);
    let (outing, water, owned) = store
        .read(|c| {
            let (_, outing) = outings::all(c)?.remove(0);
            let mut owned = Vec::new();
            for (_, rig) in rigs::all(c)? {
                let setup = setups::get(c, rig.setup)?;
                owned.push((rig.rig, setup));
            }
            let water = waters::get(c, outing.water)?;
            Ok::<_, Error>((outing, water, owned))
        })
        .unwrap();
    assert_eq!(outing.wanted_depth, 22.0 * FOOT);
    let verdict = |name: &str, mph: f64| {
        let (rig, setup) = owned.iter().find(|(rig, _)| rig.name == name).unwrap();
        let mut day = outing.day(&water).unwrap();
        day.speed = mph * MILE_PER_HOUR;
        let ways = Ways::usual(day.fish);
        let judge = Judge::new(&day, &ways).unwrap();
        let candidate = Candidate::made_up(rig.clone(), setup.clone());
        judge.all(&[candidate]).unwrap()[0].verdict
    };
    assert_eq!(verdict("Tamarin two-hook", 1.2), Verdict::Works);
    assert_eq!(verdict("Slow wing", 0.8), Verdict::Works);
    assert_eq!(verdict("Big thumper", 2.1), Verdict::Cannot);
    assert_ne!(verdict("Double willow", 2.1), Verdict::Cannot);
}

#[test]
fn the_box_holds_every_kind_and_the_checks_find_each_fault() {
    let (_folder, store) = demo(SEED);
    let (boards, stock) = store
        .read(|c| Ok::<_, Error>((rigs::boards(c)?, parts::stocked(c)?)))
        .unwrap();
    for kind in Kind::ALL {
        assert!(
            boards.iter().any(|(_, board)| board.stack.kind == *kind),
            "{kind:?}"
        );
    }
    let wrong = |name: &str| -> Vec<&'static str> {
        let (_, board) = boards.iter().find(|(_, board)| board.name == name).unwrap();
        checks(&board.stack, &stock)
            .checks
            .iter()
            .filter(|check| check.level != Level::Pass && !matches!(check.rule, Rule::Stock { .. }))
            .map(|check| check.rule.key())
            .collect()
    };
    for (name, faults) in [
        ("Two beads short", &["tip"][..]),
        ("Tight clevis", &["clevis", "leader"]),
        ("Wide beads", &["swallow"]),
        ("Swallowed bead", &["skirt_bead"]),
        ("Thick wire", &["bore", "points"]),
        ("Nose weight", &["sinks", "clevis_room", "above_clevis"]),
        ("Wrong kick", &["attractor_lead", "hook_spacing"]),
        ("Cap too near", &["cap_beads"]),
    ] {
        let found = wrong(name);
        for fault in faults {
            assert!(found.contains(fault), "{name}: {found:?}");
        }
    }
    let faulty: Vec<_> = boards
        .iter()
        .filter(|(_, board)| !wrong(&board.name).is_empty())
        .map(|(_, board)| (board.name.as_str(), wrong(&board.name)))
        .collect();
    // Two of the sound ones are watched: a knowing angler's choice, not a fault.
    assert!(faulty.len() <= 14, "{faulty:#?}");
    assert!(
        faulty.iter().all(|(name, _)| *name != "Tamarin two-hook"),
        "{faulty:#?}"
    );
}
