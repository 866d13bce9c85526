//! What stirs beside the blade: attractors, spinning bait, twist. Common practice, no source, but where a law is named.

use crate::rigs::{beads, blade, bouncer, feet, hook, lake, rig, surroundings, wing, wire_trout};
use approx::assert_relative_eq;
use motilis_core::blade::Family;
use motilis_core::line::{End, Line, LineSetup, OutFor, Start, Twist};
use motilis_core::rig::{
    AttractorStyle, BARE, Bait, Holder, HookStyle, Kind, Material, Mount, Part, Piece, Rig, Stir,
    SwivelStyle, What,
};
use motilis_core::tackle::{DiverSize, ReleaseHole, SideSetting, Weight};
use motilis_core::units::{Celsius, FOOT, MILE_PER_HOUR, Metres, POUND};
use rstest::rstest;

fn piece(what: What, size: f64) -> Piece {
    Piece::one(Part::new(what, size, BARE).unwrap())
}

fn behind(style: AttractorStyle, inches: f64) -> Rig {
    let pieces = vec![
        piece(What::Attractor(style), inches),
        blade(Family::Colorado, 3.0),
        beads(4, Material::Plastic),
        hook(HookStyle::Octopus, 2),
    ];
    rig(
        "behind",
        Kind::Attractor,
        Mount::leader(20).unwrap(),
        pieces,
    )
}

fn rigger() -> LineSetup {
    LineSetup {
        start: Start::Downrigger {
            ball: 10.0 * POUND,
            drop_back: 20.0 * FOOT,
            above: Metres(0.0),
        },
        weight: None,
        lead: 6.0 * FOOT,
        ..bouncer(1.0)
    }
}

/// CP-24: a dodger or flasher with its lure runs within about a tenth of the distance back of the ball's depth.
#[rstest]
#[case::dodger(AttractorStyle::Dodger, 6.0, 1.5)]
#[case::large_dodger(AttractorStyle::Dodger, 8.0, 1.8)]
#[case::flasher(AttractorStyle::RotatingFlasher, 11.0, 2.5)]
#[case::small_flasher(AttractorStyle::RotatingFlasher, 8.0, 2.2)]
fn an_attractor_runs_at_its_ball(
    #[case] style: AttractorStyle,
    #[case] inches: f64,
    #[case] mph: f64,
) {
    let (rig, setup) = (behind(style, inches), rigger());
    let line = Line::new(&rig, &setup, surroundings()).unwrap();
    let OutFor::Out(run) = line.out_for(mph * MILE_PER_HOUR, 50.0 * FOOT).unwrap() else {
        panic!("50 ft can be had")
    };
    let ball = run.weight.unwrap();
    let (below, back) = ((run.rig.depth - ball.depth).0, (run.rig.run - ball.run).0);
    assert!(
        below.abs() < 0.1 * back,
        "{:.1} ft below at {:.1}",
        feet(Metres(below)),
        feet(Metres(back))
    );
    let stirs = rig.attraction(mph * MILE_PER_HOUR, &lake()).unwrap();
    assert!(matches!(stirs.stir, Stir::Swings | Stir::Turns));
}

/// An 11 in flasher is hardly heavier than water; a thin steel dodger sinks.
#[test]
fn attractors_weigh_what_they_are_made_of() {
    let weight = |style, inches| {
        piece(What::Attractor(style), inches)
            .part
            .submerged_weight(&lake())
    };
    assert!(weight(AttractorStyle::RotatingFlasher, 11.0) < 0.03);
    assert!((0.1..0.3).contains(&weight(AttractorStyle::Dodger, 6.0)));
}

/// A French 3 on wire, bare but for what is put ahead of it.
fn wire(ahead: &[What]) -> Rig {
    let mut pieces: Vec<Piece> = ahead
        .iter()
        .map(|what| piece(*what, what.sizes()[0]))
        .collect();
    pieces.extend([
        blade(Family::French, 3.0),
        beads(1, Material::Brass),
        beads(3, Material::Plastic),
        hook(HookStyle::Treble, 6),
    ]);
    rig(
        "wire",
        Kind::TrollingWire,
        Mount::wire(30.0).unwrap(),
        pieces,
    )
}

/// A line without a weight, 65 ft of 10 lb nylon in all.
fn flat_line() -> LineSetup {
    LineSetup {
        weight: None,
        lead: 5.0 * FOOT,
        ..bouncer(1.0)
    }
}

fn twist(rig: &Rig, setup: &LineSetup, mph: f64) -> Twist {
    let spin = rig
        .spin(mph * MILE_PER_HOUR, &lake(), Celsius(15.0))
        .unwrap();
    Twist::of(setup, 60.0 * FOOT, &spin, &lake())
}

/// CP-25: a wire spinner trolled bare twists its line at every working speed, a swivel alone does not stop it, a rudder
/// or an attractor does. Some 80 turns in 65 ft of 0.28 mm at a trolling speed.
#[test]
fn a_bare_wire_spinner_winds_up_its_line() {
    let setup = flat_line();
    for mph in [1.2, 1.5, 2.0, 2.5, 3.0] {
        let bare = twist(&wire(&[]), &setup, mph);
        assert!(
            bare.turns > 10.0 && bare.held_by == Holder::Nothing,
            "{mph}: {bare:?}"
        );
        assert_eq!(bare.ends_at, End::Rod);
        let swivelled = twist(&wire(&[What::Swivel(SwivelStyle::Barrel)]), &setup, mph);
        assert_relative_eq!(swivelled.turns, bare.turns, max_relative = 1e-9);
        assert_eq!(swivelled.swivel_turns, Some(false));
        let bearing = twist(
            &wire(&[What::Swivel(SwivelStyle::BallBearing)]),
            &setup,
            mph,
        );
        assert!(
            bearing.turns > 0.0 && bearing.turns < 0.7 * bare.turns,
            "{bearing:?}"
        );
        for stops in [What::Rudder, What::Attractor(AttractorStyle::Dodger)] {
            assert!(twist(&wire(&[stops]), &setup, mph).turns < 1e-9);
        }
    }
    let usual = twist(&wire(&[]), &setup, 2.0);
    assert!((40.0..=160.0).contains(&usual.turns), "{usual:?}");
    assert!(usual.coils && !twist(&wire(&[What::Rudder]), &setup, 2.0).coils);
    // A bouncer's arm holds: only the leader behind it winds.
    let behind = twist(&wire(&[]), &bouncer(1.0), 2.0);
    assert_eq!(behind.ends_at, End::Weight);
    assert!(behind.turns < 0.15 * usual.turns);
}

/// The law itself: `N = M L / (2π G J)`, by hand for 0.28 mm nylon.
#[test]
fn turns_stored_follow_from_torque_and_line() {
    let told = twist(&wire(&[]), &flat_line(), 2.0);
    let stiff = 1e9 * std::f64::consts::PI * 0.28e-3_f64.powi(4) / 32.0;
    let by_hand = told.torque.0 * (65.0 * 0.3048) / (std::f64::consts::TAU * stiff);
    assert_relative_eq!(told.turns, by_hand, max_relative = 1e-9);
}

#[test]
fn a_harness_is_held_by_its_hooks_until_it_rolls_over() {
    let harness = crate::rigs::harness(&[blade(Family::Colorado, 5.0)], 2);
    let slow = twist(&harness, &bouncer(1.0), 1.2);
    assert_eq!(
        (slow.turns.to_bits(), slow.held_by),
        (0.0_f64.to_bits(), Holder::Hooks)
    );
    assert_eq!(twist(&harness, &bouncer(1.0), 2.4).held_by, Holder::Nothing);
}

/// CP-26: a bent-shank hook turns its worm constantly at 0.6 mph and more.
#[test]
fn a_bent_shank_turns_its_worm_at_any_speed() {
    let rig = wing(1.5);
    let turns = |mph: f64| {
        let spun = rig.bait_spin(mph * MILE_PER_HOUR, &lake()).unwrap();
        60.0 * spun.turns.0
    };
    for mph in [0.3, 0.6, 0.8, 1.0, 1.5] {
        assert!(turns(mph) > 20.0, "{mph}: {}", turns(mph));
    }
    assert!((60.0..200.0).contains(&turns(0.8)), "{}", turns(0.8));
    assert!(turns(1.0) > turns(0.6));
    let straight = crate::rigs::harness(&[blade(Family::Colorado, 4.0)], 2);
    assert!(straight.bait_spin(0.5 * MILE_PER_HOUR, &lake()).is_none());
    assert!(
        wire_trout()
            .bait_spin(0.5 * MILE_PER_HOUR, &lake())
            .is_none()
    );
}

/// A tighter bend sweeps a wider circle and thumps harder; a bare hook fishes at any speed and twists its leader.
#[test]
fn a_bare_worm_hook_is_a_rig_of_its_own() {
    let bare = |bend: f64| {
        let mut worm = piece(What::Bait(Bait::HalfCrawler), 65.0);
        worm.bend = Some(bend);
        let pieces = vec![
            piece(What::Swivel(SwivelStyle::Barrel), 14.0),
            hook(HookStyle::BentShank, 2),
            worm,
        ];
        rig("bare", Kind::BareHook, Mount::leader(8).unwrap(), pieces)
    };
    let speed = 0.7 * MILE_PER_HOUR;
    let thump = |bend: f64| {
        let rig = bare(bend);
        let running = rig.running(speed, &lake(), Celsius(15.0)).unwrap();
        assert!(running.state.works() && running.turns.0 == 0.0);
        rig.thump_index(&running, &lake())
    };
    assert!(thump(0.9) > thump(0.2) && thump(0.2) > 0.0);
    let spin = bare(0.5).spin(speed, &lake(), Celsius(15.0)).unwrap();
    assert!(spin.torque.0 > 0.0 && spin.held_by == Holder::Nothing);
    assert!(rig_of_kind(Kind::CrawlerHarness).is_err() && rig_of_kind(Kind::BareHook).is_ok());
}

fn rig_of_kind(kind: Kind) -> Result<Rig, motilis_core::Error> {
    let mut stack = motilis_core::rig::Stack::empty(kind, Mount::leader(8).unwrap());
    stack.pieces = vec![hook(HookStyle::BentShank, 2)];
    Rig::new("x", stack)
}

/// CP-27: silver plate, nickel and matte silver are different finishes down there: nickel is duller and greener than
/// silver, and matte silver hardly flashes, so that a turning blade of it is lost nearer.
#[test]
fn silver_nickel_and_matte_silver_look_different_at_depth() {
    use motilis_core::advice::{Day, Judge, Ways, paint};
    use motilis_core::column::{Blade, Seen};
    use motilis_core::light::{Stain, Target};
    use motilis_core::rig::{Colour, Finish};
    let day = Day {
        stain: Stain::Clear,
        clarity: 15.0 * FOOT,
        wanted_depth: 10.0 * FOOT,
        fish_depth: (8.0 * FOOT, 14.0 * FOOT),
        ..crate::pool::day()
    };
    let ways = Ways::usual(day.fish);
    let judge = Judge::new(&day, &ways).unwrap();
    let (area, flashes) = (Target::turning(0.0255, 0.020), 4.0);
    let look = |colour| {
        let finish = Finish::plain(colour);
        let seen = Seen::by(judge.watch(), finish, None, Blade { area, flashes }).unwrap();
        let target = Target {
            area,
            flashes,
            glow_min: 10.0,
        };
        let sighting = judge.watch().sighting(&paint(finish, None), &target);
        (seen.picture.finish, sighting.unwrap().range)
    };
    let [silver, nickel, matte] = [Colour::Silver, Colour::Nickel, Colour::MatteSilver].map(look);
    let bright = |(picture, _): ([f64; 3], f64)| picture.iter().sum::<f64>();
    assert!(
        bright(silver) > 1.1 * bright(nickel),
        "{silver:?} {nickel:?}"
    );
    let green = |([r, g, b], _): ([f64; 3], f64)| g / (r + b);
    assert!(green(nickel) > green(silver), "{silver:?} {nickel:?}");
    assert!(matte.1 < 0.97 * silver.1, "{matte:?} {silver:?}");
    assert!(
        (matte.1 / nickel.1 - 1.0).abs() > 0.03,
        "{matte:?} {nickel:?}"
    );
}

/// A diver set to let go easily trips under a flasher, and holds a bare rig; the hole it names holds the flasher (common
/// practice, no source). It is no call and a fault of the spread.
#[test]
fn a_release_too_light_for_its_rig_lets_go_by_itself() {
    use motilis_core::advice::{Candidate, Judge, Reason, Ways};
    let diver = |hole| LineSetup {
        weight: Some(Weight::TripDiver(
            DiverSize::Large,
            SideSetting::Straight,
            hole,
        )),
        ..bouncer(1.0)
    };
    let day = motilis_core::advice::Day {
        speed: 2.8 * MILE_PER_HOUR,
        ..crate::pool::day()
    };
    let reason = |rig: &Rig, hole| {
        let ways = Ways::usual(day.fish);
        let judge = Judge::new(&day, &ways).unwrap();
        let candidates = [Candidate::made_up(rig.clone(), diver(hole))];
        judge.all(&candidates).unwrap().remove(0).reason
    };
    let flasher = behind(AttractorStyle::RotatingFlasher, 11.0);
    let Reason::Trips(release) = reason(&flasher, ReleaseHole::Near) else {
        panic!("the near hole holds a flasher");
    };
    assert!(release.trips() && release.hole > ReleaseHole::Near);
    for (rig, hole) in [(&flasher, release.hole), (&wire_trout(), ReleaseHole::Near)] {
        assert!(!matches!(reason(rig, hole), Reason::Trips(_)), "{hole:?}");
    }
}
