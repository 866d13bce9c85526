//! The bench against rules of the trade (CP-nn: common practice, no source) and its bead solver against
//! brute force.

use motilis_core::bench::{
    Check, Layout, Level, Rule, Stocked, Wanted, checks, proposals, starting, steps,
};
use motilis_core::blade::Family;
use motilis_core::book::PartId;
use motilis_core::fish::Fish;
use motilis_core::rig::{
    BARE, BeadStyle, BodyShape, ClevisStyle, Dressing, Edit, HookSize, HookStyle, Kind, Mount,
    Part, Piece, Setting, Stack, What,
};
use motilis_core::units::{FOOT, INCH, MILLIMETRE, Metres};
use proptest::prelude::*;
use rstest::rstest;

fn part(what: What, size: f64) -> Part {
    Part::new(what, size, BARE).unwrap()
}

fn one(what: What, size: f64) -> Piece {
    Piece::one(part(what, size))
}

fn bead(size: f64, count: u8) -> Piece {
    Piece::many(part(What::Bead(BeadStyle::Round), size), count)
}

fn start(kind: Kind) -> Stack {
    starting(kind, Fish::Walleye, kind.usual_hook_size(), &[]).unwrap()
}

fn found(stack: &Stack, stock: &[Stocked], key: &str) -> Check {
    let checked = checks(stack, stock);
    let known: Vec<&str> = checked
        .checks
        .iter()
        .map(|check| check.rule.key())
        .collect();
    checked
        .checks
        .iter()
        .find(|check| check.rule.key() == key)
        .unwrap_or_else(|| panic!("{key} is not among {known:?}"))
        .clone()
}

fn level(stack: &Stack, key: &str) -> Level {
    found(stack, &[], key).level
}

fn set(stack: &Stack, setting: Setting, value: Metres) -> Stack {
    stack.edited(&Edit::Set(setting, value.0)).unwrap()
}

/// A box of every size of bead, clevis, hook and blade of the trade, plenty of each.
fn full_box() -> Vec<Stocked> {
    What::all()
        .flat_map(|what| what.sizes().into_iter().map(move |size| part(what, size)))
        .enumerate()
        .map(|(id, part)| Stocked {
            id: PartId(id as i64),
            part,
            left: 50.0,
        })
        .collect()
}

/// CP-10: the lead behind a bouncer is 3 ft to 10 ft, 5–6 ft the standard.
#[rstest]
#[case(2.0, Level::Warn)]
#[case(3.0, Level::Pass)]
#[case(5.5, Level::Pass)]
#[case(10.0, Level::Pass)]
#[case(11.0, Level::Warn)]
fn cp_10_the_lead_behind_a_bouncer(#[case] feet: f64, #[case] expected: Level) {
    let stack = set(&start(Kind::CrawlerHarness), Setting::Finished, feet * FOOT);
    assert_eq!(level(&stack, "leader"), expected);
}

/// CP-12: harness hooks stand 3–4 in apart, with 8–10 snell wraps, on a leader of about 5 ft.
#[rstest]
#[case(2.5, 9.0, Level::Warn, Level::Pass)]
#[case(3.0, 8.0, Level::Pass, Level::Pass)]
#[case(4.0, 10.0, Level::Pass, Level::Pass)]
#[case(4.5, 4.0, Level::Warn, Level::Warn)]
fn cp_12_a_harness_is_tied_so(
    #[case] inches: f64,
    #[case] wraps: f64,
    #[case] spacing: Level,
    #[case] snell: Level,
) {
    let stack = start(Kind::CrawlerHarness);
    assert!((stack.build.finished / FOOT - 5.0).abs() < 0.5);
    let stack = set(&stack, Setting::HookSpacing, inches * INCH);
    let stack = stack
        .edited(&Edit::Set(Setting::SnellWraps, wraps))
        .unwrap();
    assert_eq!(level(&stack, "hook_spacing"), spacing);
    assert_eq!(level(&stack, "snell"), snell);
}

/// CP-13: half an inch of tail, 3 twist wraps, at most a quarter inch of free wire above the clevis.
#[test]
fn cp_13_a_wire_spinner_is_bent_so() {
    let stack = start(Kind::TrollingWire);
    assert_eq!((stack.build.wraps, stack.build.tail), (3, 0.5 * INCH));
    assert_eq!(level(&stack, "wire_eye"), Level::Pass);
    assert_eq!(
        level(&set(&stack, Setting::Clearance, 0.25 * INCH), "clevis_room"),
        Level::Pass
    );
    let long = set(&stack, Setting::Clearance, 0.3 * INCH);
    assert_eq!(level(&long, "clevis_room"), Level::Warn);
    // Less than the clevis is wide, and it binds at the eye.
    let short = set(&stack, Setting::Clearance, 1.0 * MILLIMETRE);
    let check = found(&short, &[], "clevis_room");
    assert_eq!(check.level, Level::Warn);
    let mended = short.edited_by(&check.mends[0]).unwrap();
    assert_eq!(level(&mended, "clevis_room"), Level::Pass);
}

/// CP-14: on a salmon spinner the blade ends level with the top of the hook's eye, the points stand
/// just outside the blade's width, 6 mm beads serve sizes 3.5–4 and 8 mm ones 5–7, nothing goes above
/// the clevis.
#[test]
fn cp_14_a_salmon_spinner_is_built_so() {
    for (number, hook) in [(4.0, -1), (5.0, -2), (6.0, -3), (7.0, -5)] {
        let hook = HookSize::from_code(hook).unwrap();
        let mut stack = starting(Kind::SalmonWire, Fish::Chinook, hook, &full_box()).unwrap();
        let blade = stack.blades().next().unwrap().0;
        stack.pieces[blade].part = part(What::Blade(Family::MagnumWillow), number);
        let check = found(&stack, &full_box(), "tip");
        if check.level != Level::Pass {
            stack = stack.edited_by(&check.mends[0]).unwrap();
        }
        let clearance = Layout::new(&stack).tip_clearance(&stack).unwrap();
        assert!(
            clearance.0.abs() <= 2.0e-3 + 1e-9,
            "{number}: {clearance:?}"
        );
        assert_eq!(level(&stack, "points"), Level::Pass, "{number}");
        assert_eq!(level(&stack, "above_clevis"), Level::Pass, "{number}");
        // The beads practice takes lie in the holes and on the wire that it takes.
        let size = if number < 5.0 { 6.0 } else { 8.0 };
        assert!(part(What::Bead(BeadStyle::Round), size).bore().0 > 0.040 * INCH.0 + 1e-4);
    }
    let stack = start(Kind::SalmonWire);
    let above = stack
        .edited(&Edit::Insert {
            at: 0,
            piece: bead(6.0, 1),
        })
        .unwrap();
    let check = found(&above, &[], "above_clevis");
    assert_eq!(check.level, Level::Warn);
    assert_eq!(above.edited_by(&check.mends[0]).unwrap(), stack);
}

/// CP-15: a wing blade ahead of a bait head cap wants 5–6 beads of 6 mm between.
#[rstest]
#[case(4, Level::Fail)]
#[case(5, Level::Pass)]
#[case(6, Level::Pass)]
#[case(7, Level::Fail)]
fn cp_15_beads_keep_the_wing_off_the_cap(#[case] count: u8, #[case] expected: Level) {
    let mut stack = start(Kind::BaitSpinner);
    stack
        .pieces
        .retain(|piece| !matches!(piece.part.what(), What::Bead(_)));
    let wing = stack.blades().next().unwrap().0;
    stack.pieces.insert(wing + 1, bead(6.0, count));
    let check = found(&stack, &full_box(), "cap_beads");
    assert_eq!(check.level, expected);
    if expected == Level::Fail {
        let mended = stack.edited_by(&check.mends[0]).unwrap();
        assert_eq!(level(&mended, "cap_beads"), Level::Pass);
    }
}

/// CP-16: the leader between diver and lure is no longer than the rod.
#[test]
fn cp_16_a_fish_behind_a_diver_can_be_netted() {
    let stack = start(Kind::LeaderSquid);
    assert!(stack.build.finished <= 5.0 * FOOT);
    assert_eq!(level(&stack, "netting"), Level::Pass);
    let long = set(&stack, Setting::Finished, 8.0 * FOOT);
    assert_eq!(level(&long, "netting"), Level::Warn);
}

/// CP-18: 22–24 in or 32–36 in from a rotating flasher, about 30 in from a dodger of 6 in.
#[rstest]
#[case(Kind::FlasherFly, 23.0, Level::Pass)]
#[case(Kind::FlasherFly, 28.0, Level::Warn)]
#[case(Kind::FlasherFly, 34.0, Level::Pass)]
#[case(Kind::Attractor, 30.0, Level::Pass)]
#[case(Kind::Attractor, 20.0, Level::Warn)]
fn cp_18_the_kick_needs_its_distance(#[case] kind: Kind, #[case] inches: f64, #[case] is: Level) {
    let stack = set(&start(kind), Setting::Finished, inches * INCH);
    assert_eq!(level(&stack, "attractor_lead"), is);
}

/// CP-20 as a check: a torpedo ahead of the blade sinks nose first, a tail weight tail first.
#[test]
fn cp_20_a_nose_weight_fouls() {
    let mut nose = start(Kind::TrollingWire);
    let front = nose.front_hardware();
    nose.pieces
        .insert(front, one(What::Body(BodyShape::Torpedo), 7.0));
    let check = found(&nose, &[], "sinks");
    assert_eq!(check.level, Level::Warn);
    let mended = nose.edited_by(&check.mends[0]).unwrap();
    assert_eq!(level(&mended, "sinks"), Level::Pass);
    assert_eq!(level(&start(Kind::TailWeighted), "sinks"), Level::Pass);
    assert_eq!(level(&start(Kind::TrollingWire), "sinks"), Level::Pass);
}

/// CP-22: the last bead before a silicone skirt is 1/4 in or larger, or the skirt swallows it.
#[rstest]
#[case(5.0, Level::Fail)]
#[case(6.0, Level::Fail)]
#[case(6.35, Level::Pass)]
#[case(8.0, Level::Pass)]
fn cp_22_a_skirt_swallows_a_small_bead(#[case] size: f64, #[case] expected: Level) {
    let mut stack = start(Kind::TailWeighted);
    let skirt = stack
        .pieces
        .iter()
        .position(|piece| piece.part.what() == What::Dressing(Dressing::SiliconeSkirt))
        .unwrap();
    stack.pieces.insert(skirt, bead(size, 2));
    let check = found(&stack, &[], "skirt_bead");
    assert_eq!(check.level, expected);
    if expected == Level::Fail {
        let mended = stack.edited_by(&check.mends[0]).unwrap();
        assert_eq!(level(&mended, "skirt_bead"), Level::Pass);
    }
}

#[test]
fn a_wire_too_thick_for_a_hole_is_found_and_mended() {
    let mut stack = start(Kind::TrollingWire);
    stack.mount = Mount::wire(40.0).unwrap();
    let fails: Vec<Check> = checks(&stack, &full_box())
        .checks
        .into_iter()
        .filter(|check| matches!(check.rule, Rule::Bore { .. }) && check.level == Level::Fail)
        .collect();
    // 0.040 in is 1.016 mm and wants 1.116 mm: the 4 mm bearing bead has 1.00.
    assert!(!fails.is_empty());
    let mended = stack.edited_by(&fails[0].mends[0]).unwrap();
    assert!(mended.pieces[fails[0].at.unwrap()].part.bore() >= 1.116 * MILLIMETRE);
}

#[test]
fn a_bead_with_a_wide_hole_slides_over_a_small_eye() {
    let mut stack = start(Kind::RingBead);
    let hook = stack.hooks()[0];
    let wide = motilis_core::rig::Measured {
        bore: Some(2.4 * MILLIMETRE),
        ..Default::default()
    };
    stack
        .pieces
        .insert(hook, Piece::one(bead(4.0, 1).part.measured(wide).unwrap()));
    let check = found(&stack, &[], "swallow");
    assert_eq!(check.level, Level::Fail);
    let mended = stack.edited_by(&check.mends[0]).unwrap();
    assert_eq!(level(&mended, "swallow"), Level::Pass);
}

#[test]
fn a_blade_past_the_bend_fails_and_past_the_eye_warns() {
    let mut stack = start(Kind::CrawlerHarness);
    stack
        .pieces
        .retain(|piece| !matches!(piece.part.what(), What::Bead(_)));
    assert_eq!(level(&stack, "tip"), Level::Fail);
    let blade = stack.blades().next().unwrap().0;
    stack.pieces.insert(blade + 1, bead(6.0, 4));
    assert_eq!(level(&stack, "tip"), Level::Warn);
    let check = found(&stack, &full_box(), "tip");
    assert!(check.mends.len() == 5, "{}", check.mends.len());
    for mend in &check.mends {
        let mended = stack.edited_by(mend).unwrap();
        assert_eq!(level(&mended, "tip"), Level::Pass, "{mend:?}");
    }
}

#[test]
fn a_quick_change_clevis_is_checked_with_every_blade_it_may_get() {
    let mut stack = start(Kind::CrawlerHarness);
    let clevis = stack
        .pieces
        .iter()
        .position(|piece| matches!(piece.part.what(), What::Clevis(_)))
        .unwrap();
    stack.pieces[clevis] = one(What::Clevis(ClevisStyle::QuickChange), 2.0);
    let check = found(&stack, &full_box(), "quick_change");
    let Rule::QuickChange { clear, of, worst } = check.rule else {
        panic!("{check:?}")
    };
    // Numbers 1 to 5 of seven stamped families; a willow 5 of 53 mm cannot clear the stack of a
    // Colorado 4.
    assert!(of > 20 && clear > 5 && clear < of, "{clear} of {of}");
    assert!(worst.0 < -15e-3 && check.level == Level::Warn);
}

#[test]
fn a_kind_with_a_step_for_each_part_leaves_none_out() {
    for &kind in Kind::ALL {
        let stack = start(kind);
        let steps = steps(&stack);
        for (at, piece) in stack.pieces.iter().enumerate() {
            let goes_with_its_blade = matches!(piece.part.what(), What::Clevis(_));
            let named = steps.iter().any(|step| step.action.piece() == Some(at));
            assert!(
                named || goes_with_its_blade,
                "{kind:?}: {:?}",
                piece.part.what()
            );
        }
    }
}

/// Fewest beads, mirrored before not, fewer kinds first: by trying everything.
fn brute_force(wanted: &Wanted, stock: &[Stocked]) -> Option<(u32, bool, usize)> {
    let mut counts = vec![0_u32; stock.len()];
    let mut best = None;
    loop {
        let number: u32 = counts.iter().sum();
        let length: f64 = counts
            .iter()
            .zip(stock)
            .map(|(count, stocked)| f64::from(*count) * stocked.part.size())
            .sum();
        let millimetres = |m: Metres| m.0 * 1e3;
        let fits = number > 0
            && length >= millimetres(wanted.least) - 1e-6
            && length <= millimetres(wanted.most) + 1e-6;
        if fits {
            let odd = counts.iter().filter(|count| *count % 2 == 1).count();
            let kinds = counts.iter().filter(|count| **count > 0).count();
            let key = (number, odd > 1, kinds);
            if best.is_none_or(|known| key < known) {
                best = Some(key);
            }
        }
        let Some(next) = (0..stock.len()).find(|at| f64::from(counts[*at]) < stock[*at].left)
        else {
            return best;
        };
        counts[next] += 1;
        counts[..next].fill(0);
    }
}

proptest! {
    #[test]
    fn the_bead_solver_finds_what_trying_everything_finds(
        sizes in proptest::sample::subsequence(vec![3.0, 3.97, 4.0, 4.76, 5.0, 6.0, 6.35, 8.0], 1..=5),
        left in proptest::collection::vec(0_u8..=3, 5),
        least in 4.0_f64..40.0,
        play in 0.05_f64..6.0,
    ) {
        let stock: Vec<Stocked> = sizes
            .iter()
            .zip(&left)
            .enumerate()
            .map(|(id, (size, left))| Stocked {
                id: PartId(id as i64),
                part: part(What::Bead(BeadStyle::Round), *size),
                left: f64::from(*left),
            })
            .collect();
        // Two decimals: the step of the solver.
        let (least, most) = ((least * 100.0).round() / 100.0, ((least + play) * 100.0).round() / 100.0);
        let wanted = Wanted {
            least: least * MILLIMETRE,
            ideal: least * MILLIMETRE,
            most: (most + 1e-7) * MILLIMETRE,
            ..Wanted::default()
        };
        let found = proposals(&wanted, &stock);
        let best = brute_force(&wanted, &stock);
        prop_assert_eq!(found.is_empty(), best.is_none());
        for stack in &found {
            let length: f64 = stack.iter().map(|p| f64::from(p.count) * p.part.size()).sum();
            prop_assert!(length >= least - 1e-6 && length <= most + 1e-6, "{}", length);
            for stocked in &stock {
                let used: u8 = stack.iter().filter(|p| p.stock == Some(stocked.id)).map(|p| p.count).sum();
                prop_assert!(stocked.has(used));
            }
        }
        if let (Some(first), Some((number, uneven, kinds))) = (found.first(), best) {
            let mut counts = std::collections::BTreeMap::new();
            for piece in first {
                *counts.entry(piece.stock).or_insert(0_u32) += u32::from(piece.count);
            }
            let odd = counts.values().filter(|count| *count % 2 == 1).count();
            let key = (counts.values().sum::<u32>(), odd > 1, counts.len());
            prop_assert_eq!(key, (number, uneven, kinds));
        }
    }
}

/// A stack that is exactly as long as it must be fits: 4.76 + 3 × 5 mm are 19.76 mm.
#[test]
fn a_stack_that_fits_exactly_is_found() {
    let stock: Vec<Stocked> = [(4.76, 1.0), (5.0, 3.0)]
        .into_iter()
        .enumerate()
        .map(|(id, (size, left))| Stocked {
            id: PartId(id as i64),
            part: part(What::Bead(BeadStyle::Round), size),
            left,
        })
        .collect();
    let wanted = Wanted {
        least: 19.76 * MILLIMETRE,
        ideal: 19.76 * MILLIMETRE,
        most: 19.81 * MILLIMETRE,
        ..Wanted::default()
    };
    let found = proposals(&wanted, &stock);
    assert_eq!(found.len(), 1, "{found:?}");
    assert_eq!(found[0].iter().map(|piece| piece.count).sum::<u8>(), 4);
}

#[test]
fn a_style_of_hook_does_not_change_where_the_blade_ends() {
    let stack = start(Kind::CrawlerHarness);
    let hook = stack.hooks()[0];
    let beak = stack
        .edited(&Edit::Replace {
            at: hook,
            piece: one(What::Hook(HookStyle::Beak), 2.0),
        })
        .unwrap();
    assert_eq!(
        Layout::new(&stack).tip_clearance(&stack),
        Layout::new(&beak).tip_clearance(&beak)
    );
}

/// No mend of a sound start, or of one with a fault put into it, leads to a fault that nothing mends.
#[test]
fn a_mend_is_no_dead_end() {
    use motilis_core::bench::{Check, Level, StarterTray, Stocked, offered, starting};
    use motilis_core::book::PartId;
    use motilis_core::rig::Edit;
    let stock: Vec<Stocked> = StarterTray::ALL
        .iter()
        .flat_map(|tray| tray.parts().unwrap())
        .zip(1..)
        .map(|(part, id)| Stocked {
            id: PartId(id),
            part,
            left: 50.0,
        })
        .collect();
    let (water, mild) = (crate::rigs::lake(), motilis_core::units::Celsius(15.0));
    let dead = |check: &Check| check.level == Level::Fail && check.mends.is_empty();
    let mut tried = 0;
    for kind in motilis_core::rig::Kind::ALL {
        let fish = motilis_core::fish::Fish::Walleye;
        let sound = starting(*kind, fish, kind.usual_hook_size(), &stock).unwrap();
        for without in 0..sound.pieces.len() {
            let Ok(broken) = sound.edited(&Edit::Remove { at: without }) else {
                continue;
            };
            let found = offered(&broken, &stock, &water, mild);
            let lost = found.checks.iter().filter(|check| dead(check)).count();
            for mend in found.checks.iter().flat_map(|check| &check.mends) {
                let next = broken.edited_by(mend).unwrap();
                let then = offered(&next, &stock, &water, mild).checks;
                let dead_now = then.iter().filter(|check| dead(check)).count();
                assert!(dead_now <= lost + 1, "{kind:?} without {without}");
                tried += 1;
            }
        }
    }
    assert!(tried > 40, "{tried}");
}
