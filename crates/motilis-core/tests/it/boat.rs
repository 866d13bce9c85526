//! The boat's twin against the recorded motion of the same path, and what it foretells over a bottom that is known.

use crate::fleet::{indiana, willows};
use crate::rigs::{bouncer, surroundings};
use approx::assert_relative_eq;
use motilis_core::boat::{Afloat, Heed, Mark, Moved, Twin};
use motilis_core::line::Surroundings;
use motilis_core::motion::{Course, Scene, Track, record};
use motilis_core::spread::{Holder, Rod, Side, Spread, Stance, State, Towed, USUAL_ROD};
use motilis_core::units::{FOOT, MILE_PER_HOUR, Metres, MetresPerSecond};
use std::ops::ControlFlow;
use std::sync::Arc;

const SPEED: MetresPerSecond = MetresPerSecond(1.2 * MILE_PER_HOUR.0);

fn open_water() -> Surroundings {
    Surroundings {
        bottom: None,
        ..surroundings()
    }
}

fn rod(number: u8, holder: &str, feet: f64, rig: motilis_core::rig::Rig) -> Afloat {
    Afloat {
        number,
        rod: Rod {
            holder: Holder::from_key(holder).unwrap(),
            stance: Stance::Corner,
            length: USUAL_ROD,
            board: None,
            setup: Arc::new(bouncer(1.0)),
            towed: Towed::Rig(Arc::new(rig)),
            out: feet * FOOT,
            wanted: Metres(6.0),
        },
    }
}

fn two() -> Vec<Afloat> {
    vec![rod(1, "P1", 60.0, indiana()), rod(2, "S1", 75.0, willows())]
}

/// A twin at the origin, heading north, with two rods in.
fn twin() -> Twin {
    let mut twin = Twin::new(open_water(), [0.0; 2], 0.0, SPEED);
    assert!(twin.set_rods(&two(), open_water()).is_empty());
    twin
}

/// Goes straight north at a speed for so many seconds, in water that a current carries along; nothing is sounded.
fn go(twin: &mut Twin, speed: MetresPerSecond, seconds: usize, current: [f64; 2]) {
    let from = twin.place();
    for second in 1..=seconds {
        let after = second as f64;
        let moved = Moved {
            through: speed,
            heading: 0.0,
            place: [
                from[0] + (speed.0 + current[0]) * after,
                from[1] + current[1] * after,
            ],
            over_ground: false,
        };
        twin.advance(1.0, &moved);
    }
}

/// Goes straight north over a bottom for so many metres; the sounder sees all of it.
fn sail(twin: &mut Twin, metres: f64, bottom: impl Fn(f64) -> f64) {
    let from = twin.place()[0];
    let seconds = (metres / SPEED.0) as usize;
    for second in 1..=seconds {
        let north = from + SPEED.0 * second as f64;
        let moved = Moved {
            through: SPEED,
            heading: 0.0,
            place: [north, 0.0],
            over_ground: false,
        };
        twin.advance(1.0, &moved);
        twin.sound(Metres(bottom(north)));
    }
}

/// boat.md: within 1 % of the depth, through S-turns and a change of speed.
#[test]
fn a_twin_goes_as_the_recorded_motion_of_the_same_path() {
    let spread = Spread {
        speed: SPEED,
        rods: two().into_iter().map(|afloat| afloat.rod).collect(),
    };
    let mut compared = 0;
    for course in [
        Course::STurns {
            radius: Metres(30.0),
            angle_deg: 45.0,
        },
        Course::Pulses {
            share: 0.3,
            every_s: 20.0,
        },
    ] {
        let scene = Scene {
            spread: &spread,
            surroundings: &open_water(),
            course,
            seconds: 100.0,
        };
        let recording = record(&scene, |_| ControlFlow::Continue(()))
            .unwrap()
            .unwrap();
        let track = Track::new(&course, SPEED, 100.0, 0.05);
        let mut twin = twin();
        for frame in recording.frames.iter().skip(1) {
            let step = (frame.at_s / 0.05).round() as usize;
            let (place, heading) = track.boat(step);
            // Half a second of the boat's own movement at a time.
            let moved = Moved {
                through: track.speed(step),
                heading,
                place,
                over_ground: false,
            };
            twin.advance(0.5, &moved);
            for (now, then) in twin.now().iter().zip(&frame.lines) {
                assert_relative_eq!(now.line.depth.0, then.depth.0, max_relative = 0.01);
                compared += 1;
            }
        }
    }
    assert!(compared > 700, "{compared}");
}

/// Long enough at a speed, whatever was before, the lines run as the steady solution says: slower is deeper.
#[test]
fn in_the_end_a_twin_runs_as_the_steady_solution() {
    let mut twin = twin();
    let mut shallowest = [f64::INFINITY; 2];
    for mph in [1.0, 1.3, 1.6] {
        let speed = mph * MILE_PER_HOUR;
        go(&mut twin, speed, 150, [0.0; 2]);
        let spread = Spread {
            speed,
            rods: two().into_iter().map(|afloat| afloat.rod).collect(),
        };
        let steady = spread.running(&open_water(), None).unwrap();
        for (place, rod) in twin.now().iter().enumerate() {
            let depth = steady.lines[place].rig[2];
            assert_relative_eq!(rod.line.depth.0, depth, max_relative = 0.01);
            assert!(rod.line.depth.0 < shallowest[place], "{mph} mph");
            shallowest[place] = rod.line.depth.0;
        }
    }
}

/// A current carries boat, lines and rigs alike: depths are those of still water, places are not.
#[test]
fn a_current_moves_the_rigs_over_ground_and_leaves_their_depth() {
    let (mut still, mut carried) = (twin(), twin());
    go(&mut still, SPEED, 120, [0.0; 2]);
    go(&mut carried, SPEED, 120, [0.1, -0.2]);
    for (still, carried) in still.now().iter().zip(carried.now()) {
        assert_relative_eq!(
            still.line.depth.0,
            carried.line.depth.0,
            max_relative = 1e-9
        );
        assert_relative_eq!(carried.place[0] - still.place[0], 12.0, epsilon = 0.2);
        assert_relative_eq!(carried.place[1] - still.place[1], -24.0, epsilon = 0.4);
    }
}

/// A boat that stops lets its lines down: on to the bottom, never through it, and nobody is warned of what is there.
#[test]
fn lines_of_a_boat_that_stops_lie_on_the_bottom() {
    let mut twin = twin();
    sail(&mut twin, 80.0, |_| 9.0);
    go(&mut twin, MetresPerSecond(0.0), 120, [0.0; 2]);
    for rod in twin.now() {
        assert!(rod.line.on_bottom, "{rod:?}");
        assert!(rod.lowest.0 <= 9.0 + 0.1, "{rod:?}");
        assert_eq!(rod.half, None);
        assert_ne!(rod.line.state, State::Works);
    }
    assert!(twin.ahead(&[], None, true).warnings.is_empty());
}

/// What is foretold comes when it was said to: the seconds to the touch against the touch itself.
#[test]
fn a_touch_comes_when_it_was_foretold() {
    let mut twin = twin();
    let wall = |north: f64| if north > 112.0 { 4.0 } else { 12.0 };
    sail(&mut twin, 120.0, wall);
    let ahead = twin.ahead(&[], None, true);
    assert_eq!(ahead.warnings.len(), 2, "{ahead:?}");
    for warning in ahead.warnings {
        let mut after = twin.clone();
        let mut touched = None;
        for second in 1..=90 {
            let from = after.place()[0];
            sail(&mut after, SPEED.0 * 1.001, wall);
            assert_relative_eq!(after.place()[0] - from, SPEED.0, epsilon = 1e-9);
            let now = after.now();
            let rod = now.iter().find(|rod| rod.number == warning.rod).unwrap();
            if rod.clearance.is_some_and(|clear| clear.0 < 0.05) {
                touched = Some(f64::from(second));
                break;
            }
        }
        let touched = touched.expect("nobody heeded it");
        assert!(
            (touched - warning.in_s).abs() < 3.0,
            "{touched} {warning:?}"
        );
    }
}

/// Line that is taken in brings a rig up, for a moment even higher than it will run, since it is drawn faster through the water; and
/// what is not known of a current widens the band.
#[test]
fn less_line_is_shallower_and_an_unknown_current_makes_unsure() {
    let mut twin = twin();
    go(&mut twin, SPEED, 60, [0.0; 2]);
    let before = twin.now()[0].clone();
    let mut shorter = two();
    shorter[0].rod.out = 48.0 * FOOT;
    twin.set_rods(&shorter, open_water());
    let (mut highest, mut last) = (f64::INFINITY, f64::INFINITY);
    for _ in 0..40 {
        go(&mut twin, SPEED, 3, [0.0; 2]);
        last = twin.now()[0].line.depth.0;
        assert!(last < before.line.depth.0, "{last} {before:?}");
        highest = f64::min(highest, last);
    }
    assert!(last < before.line.depth.0 - 0.5, "{last} {before:?}");
    assert!(highest < last, "{highest} {last}");
    let known = twin.now()[1].half.unwrap();
    twin.advance(
        1.0,
        &Moved {
            through: SPEED,
            heading: 0.0,
            place: twin.place(),
            over_ground: true,
        },
    );
    assert!(twin.now()[1].half.unwrap() > known);
}

#[test]
fn over_a_level_bottom_nobody_is_warned() {
    let mut twin = twin();
    sail(&mut twin, 120.0, |_| 12.0);
    let ahead = twin.ahead(&[], None, true);
    assert!(ahead.warnings.is_empty() && ahead.heed.is_empty());
    let now = twin.now();
    assert_eq!(now.len(), 2);
    for rod in now {
        assert!(rod.number == 2 || rod.line.state == State::Works);
        assert!(rod.half.unwrap().0 > 0.2 && rod.clearance.unwrap().0 > 2.0);
        assert_relative_eq!(rod.bottom.unwrap().depth.0, 12.0, epsilon = 0.01);
    }
}

/// The sounder has passed a shoal, the rigs have not: each is told before it comes there, and what is advised keeps it off.
#[test]
fn a_shoal_is_foretold_with_acts_that_keep_the_rods_off() {
    let mut twin = twin();
    let shoal = |north: f64| 12.0 - 6.5 * (-((north - 125.0) / 9.0).powi(2)).exp();
    sail(&mut twin, 128.0, shoal);
    let ahead = twin.ahead(&[], None, true);
    assert_eq!(ahead.warnings.len(), 2, "{ahead:?}");
    assert!(
        ahead
            .warnings
            .iter()
            .all(|warning| warning.in_s > 10.0 && warning.in_s < 70.0)
    );
    assert!(!ahead.heed.is_empty());
    for heed in &ahead.heed {
        let mut after = twin.clone();
        let speed = match heed {
            Heed::Speed(speed) => *speed,
            Heed::WindIn(rods) => {
                let mut shorter = two();
                for (number, length) in rods {
                    let afloat = shorter
                        .iter_mut()
                        .find(|one| one.number == *number)
                        .unwrap();
                    afloat.rod.out = afloat.rod.out - *length;
                }
                after.set_rods(&shorter, open_water());
                SPEED
            }
        };
        let (from, mut least) = (after.place()[0], f64::INFINITY);
        for second in 1..=90 {
            let moved = Moved {
                through: speed,
                heading: 0.0,
                place: [from + speed.0 * f64::from(second), 0.0],
                over_ground: false,
            };
            after.advance(1.0, &moved);
            after.sound(Metres(12.0));
            for rod in after.now() {
                if let Some(clear) = rod.clearance {
                    least = least.min(clear.0);
                }
            }
        }
        assert!(least > 0.0, "{heed:?}: {least}");
    }
}

/// CP-23: a rig should pass just above a fish; where it would pass too high, slowing lets it down in time.
#[test]
fn a_marked_fish_is_passed_and_slowing_lets_a_rig_down_to_it() {
    let mut twin = twin();
    sail(&mut twin, 120.0, |_| 14.0);
    let depth = twin.now()[0].line.depth;
    let mark = Mark {
        id: 1,
        place: [twin.place()[0] - 3.0, 0.0],
        depth: depth + Metres(2.2),
        age_s: 5.0,
    };
    let ahead = twin.ahead(&[mark], None, false);
    let passing = ahead
        .passing
        .iter()
        .find(|passing| passing.rod == 1)
        .unwrap();
    assert!(passing.in_s > 15.0 && passing.over.0 > 1.0);
    let slow = passing.slow.unwrap();
    assert!(slow.to < SPEED && slow.for_s > 5.0);
    let old = Mark {
        age_s: 3_600.0,
        ..mark
    };
    assert!(twin.ahead(&[old], None, false).passing.is_empty());
}

#[test]
fn a_rod_that_stays_goes_on_and_a_boat_elsewhere_forgets_the_bottom() {
    let mut twin = twin();
    sail(&mut twin, 100.0, |_| 12.0);
    let before = twin.now()[0].line.clone();
    let mut three = two();
    three.push(rod(3, "P2", 50.0, indiana()));
    twin.set_rods(&three, open_water());
    assert_eq!(twin.now()[0].line, before);
    assert_eq!(twin.now().len(), 3);
    twin.leap([5_000.0, 0.0]);
    assert!(twin.now().iter().all(|rod| rod.bottom.is_none()));
    assert!(twin.ahead(&[], None, true).warnings.is_empty());
}

/// Port and starboard are mirror images: turned the other way, the other rod sinks as the one did.
#[test]
fn a_turn_to_port_is_a_turn_to_starboard_seen_in_a_mirror() {
    let deepest = |to: Side| {
        let mut twin = Twin::new(open_water(), [0.0; 2], 0.0, SPEED);
        let rods = [rod(1, "P1", 60.0, indiana()), rod(2, "S1", 60.0, indiana())];
        twin.set_rods(&rods, open_water());
        let mut heading: f64 = 0.0;
        for _ in 0..60 {
            heading += to.sign() * 0.02;
            let moved = Moved {
                through: SPEED,
                heading,
                place: [0.0; 2],
                over_ground: false,
            };
            twin.advance(1.0, &moved);
        }
        let now = twin.now();
        [now[0].line.depth.0, now[1].line.depth.0]
    };
    let (port, starboard) = (deepest(Side::Port), deepest(Side::Starboard));
    assert_relative_eq!(port[0], starboard[1], max_relative = 1e-6);
    assert_relative_eq!(port[1], starboard[0], max_relative = 1e-6);
}
