//! What is said of the boat under way.

use crate::units::System;
use motilis_core::boat::{Ahead, Freshness, Heed, Remark, RodNow, Source};
use motilis_core::spread::State;
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_live::{Known, Link, Told, Wire};

/// A silence so long is worth a word, s.
const SILENT: f64 = 3.0;
/// A bottom that is less sure than this may be another, m.
const UNSURE: f64 = 0.5;
/// Sentences of which most must be sound, before anything is said of them.
const ENOUGH: u64 = 60;

/// How it stands with the instruments; empty while all is well.
pub fn link(told: &Told, system: System) -> String {
    let silent = told.silent_s.filter(|seconds| *seconds > SILENT);
    let for_so_long = silent.map_or(String::new(), |seconds| {
        format!("No data for {seconds:.0} s. ")
    });
    match (&told.link, &told.wire) {
        (_, None) | (Link::Off, _) => {
            return "No instruments are heard: depths are those of a steady run at the outing’s speed.".to_owned();
        }
        (Link::Trying(why), _) => {
            return format!("{for_so_long}{}; trying again.", super::capital(why));
        }
        (Link::Refused(why), _) => return format!("{}.", super::capital(why)),
        (Link::Ended, _) => return "The recording has come to its end.".to_owned(),
        (Link::Open, _) => {}
    }
    if !for_so_long.is_empty() {
        return format!("{for_so_long}The line is open; trying again when it stays silent.");
    }
    if told.silent_s.is_none() && told.counts.sentences == 0 {
        return "The line is open; nothing was said on it yet.".to_owned();
    }
    let counts = &told.counts;
    if counts.sentences > ENOUGH && counts.dropped() * 2 > counts.sentences {
        return format!(
            "{} of {} sentences were dropped: what comes is mostly no NMEA 0183 or damaged.",
            counts.dropped(),
            counts.sentences
        );
    }
    known(&told.known, system)
}

fn known(known: &Known, system: System) -> String {
    if known.behind {
        return "This machine cannot keep up: lines are shown as they run straight on.".to_owned();
    }
    match known.remark {
        Some(Remark::Leap(way)) => {
            return format!(
                "The receiver’s place leapt by {}; it is not believed until it stays.",
                system.way(way)
            );
        }
        Some(Remark::Elsewhere(way)) => {
            return format!(
                "The boat is {} from where it was: what the sounder saw there is forgotten.",
                system.way(way)
            );
        }
        None => {}
    }
    let aboard = &known.instruments;
    if aboard
        .fix
        .is_none_or(|fix| fix.freshness(known.now) == Freshness::Gone)
    {
        return "The receiver has no fix: lines are not towed along.".to_owned();
    }
    let paddle = aboard.paddle.and_then(|paddle| paddle.held(known.now));
    if let Some((speed, _)) = paddle.filter(|_| !aboard.paddle_is_sound(known.now)) {
        return format!(
            "The paddle wheel says {}, which the receiver does not bear out: it is not believed.",
            system.speed(speed)
        );
    }
    if aboard
        .depth
        .is_none_or(|depth| depth.freshness(known.now) == Freshness::Gone)
    {
        return "The sounder has lost the bottom: nobody looks ahead for the rigs.".to_owned();
    }
    if let Some(seconds) = known.clock_off {
        let which = if seconds > 0.0 { "ahead of" } else { "behind" };
        return format!(
            "The receiver’s clock is {:.0} min {which} this machine’s; entries bear this machine’s.",
            (seconds / 60.0).abs()
        );
    }
    String::new()
}

/// By whom a speed through the water is told.
pub fn source(source: Source) -> &'static str {
    match source {
        Source::Paddle => "by paddle",
        Source::LessCurrent => "over ground less current",
        Source::Ground => "over ground, current unknown",
        Source::Typed => "typed in",
    }
}

/// What a blade does: its sign and its word.
pub fn state(state: State) -> (&'static str, &'static str) {
    match state {
        State::Works => ("turning", "Turning"),
        State::Stalled => ("stalled", "Stalled"),
        State::RollingOver => ("rolling", "Rolling over"),
        State::TooSlow => ("stalled", "Too slow"),
        State::TooFast => ("rolling", "Too fast"),
    }
}

fn faster(speed: MetresPerSecond, system: System) -> String {
    format!("go up to {}", system.speed(speed))
}

/// "wind in 8 ft"; of several rods "wind them in by 4 to 8 ft".
fn wound(each: &[(u8, Metres)], system: System) -> String {
    let by = each.iter().map(|(_, length)| length.0);
    let (least, most) = (
        by.clone().fold(f64::INFINITY, f64::min),
        by.fold(0.0, f64::max),
    );
    let (from, to) = (system.depth(Metres(least)), system.depth(Metres(most)));
    match each {
        [_] => format!("wind in {to}"),
        _ if from == to => format!("wind them in by {to}"),
        _ => format!("wind them in by {} to {to}", from.value),
    }
}

/// What keeps the rods off, in words.
pub fn heed(heed: &Heed, system: System) -> String {
    match heed {
        Heed::Speed(speed) => faster(*speed, system),
        Heed::WindIn(rods) => wound(rods, system),
    }
}

/// "Rod 2"; "Rods 1, 2 and 4"; "Rods 1 to 4".
fn rods(numbers: impl Iterator<Item = u8>) -> String {
    let mut numbers: Vec<u8> = numbers.collect();
    numbers.sort_unstable();
    let in_a_row = numbers.windows(2).all(|two| two[0] + 1 == two[1]);
    match numbers.as_slice() {
        [first, _, .., last] if in_a_row && numbers.len() > 2 => format!("Rods {first} to {last}"),
        [all @ .., last] if !all.is_empty() => {
            let all: Vec<String> = all.iter().map(u8::to_string).collect();
            format!("Rods {} and {last}", all.join(", "))
        }
        one => format!("Rod {}", one.first().copied().unwrap_or_default()),
    }
}

/// "Rods 1 and 4 are on the bottom: lift them, or go faster"; `None` where all are off it.
pub fn grounded(now: &[RodNow]) -> Option<String> {
    let on_it: Vec<u8> = now
        .iter()
        .filter(|rod| rod.line.on_bottom)
        .map(|rod| rod.number)
        .collect();
    let (are, them) = match on_it.len() {
        0 => return None,
        1 => ("is", "it"),
        _ => ("are", "them"),
    };
    let which = rods(on_it.into_iter());
    Some(format!(
        "{which} {are} on the bottom: lift {them}, or go faster"
    ))
}

/// "Rod 2 touches in about 25 s: wind in 8 ft, or go up to 1.5 mph"; `None` while nothing does.
pub fn warning(ahead: &Ahead, system: System) -> Option<String> {
    let first = ahead.warnings.first()?;
    let warned = rods(ahead.warnings.iter().map(|warning| warning.rod));
    let one = ahead.warnings.len() == 1;
    // Where the bottom was sounded far aside nobody knows that it is there.
    let touch = match (first.sure.0 > UNSURE, one) {
        (true, _) => "may touch",
        (false, true) => "touches",
        (false, false) => "touch",
    };
    let soonest = if one { "" } else { ", the first" };
    let when = if first.in_s < 1.0 {
        "now".to_owned()
    } else {
        format!("in about {:.0} s", first.in_s)
    };
    let touches = format!("{warned} {touch}{soonest} {when}");
    let acts: Vec<String> = ahead.heed.iter().map(|act| heed(act, system)).collect();
    Some(if acts.is_empty() {
        format!("{touches}: nothing tried keeps it off; lift or take it in")
    } else {
        format!("{touches}: {}", acts.join(", or "))
    })
}

/// That nothing touches, where all is heard and the bottom of every rod is known.
pub fn clear(told: &Told, system: System) -> Option<&'static str> {
    let rods = &told.known.rods;
    let known = !rods.is_empty() && rods.iter().all(|rod| rod.clearance.is_some());
    (known && link(told, system).is_empty()).then_some("Clear as far as the boat has sounded.")
}

/// "Rod 2 passes about 3 ft over your fish in 18 s: slow to 0.9 mph for 12 s"; `None` where no rod comes by one.
pub fn passing(ahead: &Ahead, system: System) -> Option<String> {
    let one = ahead.passing.first()?;
    let off = system.depth(Metres(one.over.0.abs()));
    let where_to = if one.over.0 >= 0.0 { "over" } else { "under" };
    let slow = one.slow.map_or(String::new(), |slow| {
        format!(
            ": slow to {} for {:.0} s",
            system.speed(slow.to),
            slow.for_s
        )
    });
    Some(format!(
        "Rod {} passes about {off} {where_to} your fish in {:.0} s{slow}",
        one.rod, one.in_s
    ))
}

/// How a wire is called.
pub fn wire(wire: &Wire) -> String {
    match wire {
        Wire::Off => "nowhere".to_owned(),
        Wire::Tcp(address) => format!("TCP, {address}"),
        Wire::Udp(port) => format!("UDP, port {port}"),
        Wire::Replay(path, pace) => {
            let name = path
                .file_name()
                .map_or_else(String::new, |name| name.to_string_lossy().into_owned());
            format!("the recording {name}, {pace} times as fast as life")
        }
        Wire::Simulated(pace) if (pace - 1.0).abs() < 1e-9 => "a simulated boat".to_owned(),
        Wire::Simulated(pace) => format!("a simulated boat, {pace} times as fast as life"),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::Timestamp;
    use motilis_core::boat::{BoatFix, Figure, Instruments, Passing, Slow, Warning};
    use motilis_core::motion::LineFrame;
    use motilis_core::units::{FOOT, MILE_PER_HOUR};
    use rstest::rstest;
    use std::sync::Arc;

    fn warning(rod: u8, in_s: f64, sure: f64) -> Warning {
        Warning {
            rod,
            in_s,
            by: Metres(0.3),
            sure: Metres(sure),
        }
    }

    #[rstest]
    #[case::one(vec![warning(2, 25.0, 0.1)], "Rod 2 touches in about 25 s: wind in 8 ft, or go up to 1.5 mph")]
    #[case::aside(vec![warning(2, 25.0, 1.0)], "Rod 2 may touch in about 25 s: wind in 8 ft, or go up to 1.5 mph")]
    #[case::three(
        vec![warning(3, 20.0, 0.1), warning(1, 25.0, 0.1), warning(2, 30.0, 0.1)],
        "Rods 1 to 3 touch, the first in about 20 s: wind in 8 ft, or go up to 1.5 mph"
    )]
    #[case::two_of_three(
        vec![warning(4, 20.0, 0.1), warning(1, 25.0, 0.1), warning(2, 30.0, 0.1)],
        "Rods 1, 2 and 4 touch, the first in about 20 s: wind in 8 ft, or go up to 1.5 mph"
    )]
    #[case::now(vec![warning(2, 0.4, 0.1)], "Rod 2 touches now: wind in 8 ft, or go up to 1.5 mph")]
    fn a_touch_is_told_with_its_acts(#[case] warnings: Vec<Warning>, #[case] says: &str) {
        let ahead = Ahead {
            warnings,
            heed: vec![
                Heed::WindIn(vec![(2, 8.0 * FOOT)]),
                Heed::Speed(1.5 * MILE_PER_HOUR),
            ],
            passing: Vec::new(),
        };
        assert_eq!(warning_of(&ahead), says);
    }

    #[rstest]
    #[case::one(&[8.0], "wind in 8 ft")]
    #[case::alike(&[6.0, 6.0], "wind them in by 6 ft")]
    #[case::each_its_own(&[6.0, 4.0, 12.0], "wind them in by 4 to 12 ft")]
    fn line_is_wound_in(#[case] feet: &[f64], #[case] says: &str) {
        let each: Vec<(u8, Metres)> = (1..).zip(feet.iter().map(|feet| *feet * FOOT)).collect();
        assert_eq!(heed(&Heed::WindIn(each), System::Imperial), says);
    }

    fn warning_of(ahead: &Ahead) -> String {
        super::warning(ahead, System::Imperial).unwrap()
    }

    #[test]
    fn what_nothing_keeps_off_says_so_and_what_does_not_come_says_nothing() {
        let mut ahead = Ahead::default();
        assert_eq!(super::warning(&ahead, System::Metric), None);
        ahead.warnings.push(warning(1, 12.0, 0.0));
        assert_eq!(
            super::warning(&ahead, System::Metric).unwrap(),
            "Rod 1 touches in about 12 s: nothing tried keeps it off; lift or take it in"
        );
    }

    #[rstest]
    #[case::no_rod(&[], true, false)]
    #[case::none_known(&[None], true, false)]
    #[case::one_of_two(&[Some(2.0), None], true, false)]
    #[case::both(&[Some(2.0), Some(4.0)], true, true)]
    #[case::nothing_heard(&[Some(2.0), Some(4.0)], false, false)]
    fn clear_is_said_when_every_rod_is_known_and_all_is_heard(
        #[case] over: &[Option<f64>],
        #[case] heard: bool,
        #[case] says: bool,
    ) {
        let rods = (1..).zip(over).map(|(number, over)| RodNow {
            clearance: over.map(Metres),
            ..rod_now(number, false)
        });
        let fix = BoatFix {
            at: Timestamp::UNIX_EPOCH,
            place: [50.42, -95.61],
            ground: None,
            course_deg: None,
        };
        let mut instruments = Instruments::default();
        instruments.fix = Some(Figure {
            value: fix,
            at: 0.0,
        });
        let depth = Metres(9.0);
        instruments.depth = Some(Figure {
            value: depth,
            at: 0.0,
        });
        let told = Told {
            known: Arc::new(Known {
                rods: rods.collect(),
                instruments,
                ..Known::default()
            }),
            link: Link::Open,
            silent_s: Some(if heard { 0.2 } else { 12.0 }),
            wire: Some(Wire::Udp(1)),
            ..Told::default()
        };
        assert_eq!(clear(&told, System::Imperial).is_some(), says);
    }

    fn rod_now(number: u8, on_bottom: bool) -> RodNow {
        RodNow {
            number,
            line: LineFrame {
                points: Vec::new(),
                depth: Metres(6.0),
                speed: 1.2 * MILE_PER_HOUR,
                state: State::Works,
                on_bottom,
            },
            half: None,
            place: [0.0; 2],
            bottom: None,
            strip: Vec::new(),
            lowest: Metres(6.0),
            clearance: None,
        }
    }

    #[rstest]
    #[case::none([false, false], None)]
    #[case::one([false, true], Some("Rod 2 is on the bottom: lift it, or go faster"))]
    #[case::both([true, true], Some("Rods 1 and 2 are on the bottom: lift them, or go faster"))]
    fn rods_on_the_bottom_are_named(#[case] on_it: [bool; 2], #[case] says: Option<&str>) {
        let rods = [rod_now(1, on_it[0]), rod_now(2, on_it[1])];
        assert_eq!(grounded(&rods).as_deref(), says);
    }

    #[test]
    fn a_fish_that_is_passed_too_high_is_slowed_down_to() {
        let ahead = Ahead {
            passing: vec![Passing {
                rod: 2,
                mark: 1,
                in_s: 18.0,
                over: 3.0 * FOOT,
                slow: Some(Slow {
                    to: 0.9 * MILE_PER_HOUR,
                    for_s: 12.0,
                }),
            }],
            ..Ahead::default()
        };
        assert_eq!(
            passing(&ahead, System::Imperial).unwrap(),
            "Rod 2 passes about 3 ft over your fish in 18 s: slow to 0.9 mph for 12 s"
        );
    }

    #[rstest]
    #[case::off(Told::default(), "No instruments are heard")]
    #[case::trying(
        Told { wire: Some(Wire::Tcp("a:1".into())), link: Link::Trying("a:1 does not answer".into()), silent_s: Some(12.0), ..Told::default() },
        "No data for 12 s. A:1 does not answer; trying again."
    )]
    #[case::ended(
        Told { wire: Some(Wire::Udp(1)), link: Link::Ended, ..Told::default() },
        "The recording has come to its end."
    )]
    #[case::nothing_yet(
        Told { wire: Some(Wire::Udp(1)), link: Link::Open, ..Told::default() },
        "The line is open; nothing was said on it yet."
    )]
    fn a_link_is_told_by_what_is_wrong_with_it(#[case] told: Told, #[case] says: &str) {
        let said = link(&told, System::Imperial);
        assert!(said.starts_with(says), "{said}");
    }
}
