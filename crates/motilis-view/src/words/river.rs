//! What is said of casts in a river.

use crate::forms::river::Settled;
use crate::units::System;
use motilis_core::rig::BodyShape;
use motilis_core::river::{Bank, Bed, Ended, MarkKind, Path, Plan, Presentation, Run, Why, Zone};
use motilis_core::units::{FOOT, Metres, MetresPerSecond};

/// Which way a cast goes: "45 up", "square", "30 down".
pub fn way(angle_deg: f64) -> String {
    let off = (angle_deg - 90.0).round();
    match off {
        off if off >= 88.0 => "straight up".to_owned(),
        off if off <= -88.0 => "straight down".to_owned(),
        off if off.abs() < 5.0 => "square".to_owned(),
        off if off > 0.0 => format!("{off:.0} up"),
        off => format!("{:.0} down", -off),
    }
}

/// How fast the handle turns, as one says it: "just under one turn a second".
pub fn turns(per_second: f64) -> String {
    if per_second < 0.05 {
        return "hold the reel".to_owned();
    }
    let quarters = (per_second * 4.0).round().max(1.0);
    let off = per_second - 0.25 * quarters;
    let side = match off {
        off if off < -0.05 => "just under ",
        off if off > 0.05 => "just over ",
        _ => "",
    };
    let whole = (quarters / 4.0).floor();
    let words = match (whole as u32, quarters as u32 % 4) {
        (0, 1) => "a quarter turn".to_owned(),
        (0, 2) => "half a turn".to_owned(),
        (0, 3) => "three quarters of a turn".to_owned(),
        (1, 0) => "one turn".to_owned(),
        (n, 0) => format!("{n} turns"),
        (n, 1) => format!("{n}¼ turns"),
        (n, 2) => format!("{n}½ turns"),
        (n, _) => format!("{n}¾ turns"),
    };
    format!("turn the reel {side}{words} a second")
}

/// A cast as a guide would say it; `over` is what it is lifted over.
pub fn cast(plan: &Plan, turns_per_s: f64, over: Option<MarkKind>, system: System) -> String {
    let mut said = vec![
        way(plan.thrown.angle_deg),
        system.depth(plan.thrown.distance).to_string(),
    ];
    if plan.mend {
        said.push("mend as it lands".to_owned());
    }
    if plan.sink >= 0.5 {
        said.push(format!("let it sink {:.0} s", plan.sink));
    }
    said.push(plan.held.name().to_owned());
    if plan.follow {
        said.push("follow it round".to_owned());
    }
    said.push(turns(turns_per_s));
    let words = crate::words::capital(&said.join(", "));
    if let Some(lift) = plan.lift {
        let over = over.map(|mark| format!("at the {}", mark.name()));
        let when = over.unwrap_or_else(|| format!("after {lift:.0} s"));
        return format!("{words}; lift {when}.");
    }
    words + "."
}

/// What comes of a cast, in a sentence.
pub fn comes(path: &Path, zone: &Zone, bed: Bed, system: System) -> String {
    let seconds = path.zone_seconds(zone);
    let place = match zone {
        Zone::Lie { .. } => "within reach of the lie",
        Zone::Over(_) => "at that height",
        Zone::Bed | Zone::Depth(_) => "near the bed",
    };
    let mut said = vec![if path.rests_in(zone) {
        format!("It hangs {place} with the blade turning, for as long as you hold it")
    } else if seconds >= 0.5 {
        format!("{seconds:.0} s {place} with the blade turning")
    } else {
        passes(path, zone, system)
    }];
    if let Some(touch) = path.touches().first() {
        let at = touch.at;
        said.push(if bed.snags() {
            format!("on the bed after {at:.0} s, and {} hang up", bed.name())
        } else {
            format!("on the bed after {at:.0} s")
        });
    }
    let working = path.working_share();
    if working < 0.9 {
        said.push(format!(
            "the blade turns {:.0} % of the way",
            100.0 * working
        ));
    }
    let far_out = path.moments.last().is_some_and(|last| last.out.0 > 8.0);
    if path.ended == Ended::Time && far_out && !path.rests_in(zone) {
        said.push("followed for 30 s".to_owned());
    }
    said.join("; ") + "."
}

/// How near a cast comes to where it is wanted and does not get.
fn passes(path: &Path, zone: &Zone, system: System) -> String {
    if let Zone::Lie { place, .. } = zone {
        return format!(
            "It passes the lie at {}",
            system.shallow(path.nearest(*place))
        );
    }
    let over = path.moments.iter().map(|moment| moment.over_bed().0);
    format!(
        "It stays {} over the bed",
        system.shallow(Metres(over.fold(f64::INFINITY, f64::min)))
    )
}

/// What an entry says of its cast: "spinner in Boulder run, 45 up 29 ft, at the boulder".
pub fn note(settled: &Settled, presentation: Presentation, system: System) -> String {
    let thrown = settled.plan.thrown;
    let mut said = vec![
        format!("{} in {}", presentation.name(), settled.run.name),
        format!(
            "{} {}",
            way(thrown.angle_deg),
            system.depth(thrown.distance)
        ),
    ];
    let mark = settled.lie.and_then(|lie| lie.mark);
    said.extend(mark.map(|mark| format!("at the {}", mark.kind.name())));
    said.join(", ")
}

/// What was just done on the page.
pub fn done(word: &str) -> String {
    match word {
        "strike" => {
            "Strike logged on that cast. Feed it line first, then let the blade go on turning: that brings some back (common practice, no source)."
        }
        "fish" => "Fish on, logged on that cast: its length and what became of it are added in the log.",
        "follow" => "Follow logged on that cast.",
        "best" => "Found: this cast keeps it there the longest with the blade turning and nothing on the bed.",
        "none" => "No cast from here reaches it with the blade turning; this one comes nearest. Stand elsewhere, or put on another body.",
        _ => "Cast logged.",
    }
    .to_owned()
}

/// "Sinks 10 ft in 9 s on a slack line", with the seconds to a depth to count down; nothing of what floats.
pub fn sinks(
    speed: MetresPerSecond,
    depth: Metres,
    place: &str,
    system: System,
) -> Option<(String, String)> {
    if speed.0 < 0.01 {
        return None;
    }
    let far = match system {
        System::Imperial => 10.0 * FOOT,
        System::Metric => Metres(3.0),
    };
    let seconds = |depth: Metres| depth.0 / speed.0;
    let words = format!(
        "Sinks {} in {:.0} s on a slack line ({}, computed; some 15 % either way, from memory); {:.0} s to {place}.",
        system.depth(far),
        seconds(far),
        system.sinking(speed),
        seconds(depth)
    );
    Some((words, format!("{:.0}", seconds(depth).clamp(1.0, 120.0))))
}

/// Why a rig stands where it stands.
pub fn why(why: Why, system: System) -> String {
    match why {
        Why::There => "in the zone".to_owned(),
        Why::OnBed(at) => format!("on the bed after {at:.0} s"),
        Why::Stalls(share) => format!("its blade stands {:.0} % of the way", 100.0 * share),
        Why::RollsOver(share) => format!("rolls over {:.0} % of the way", 100.0 * share),
        Why::High(over) => format!("no nearer the bed than {}", system.shallow(over)),
        Why::Past(off) => format!("passes the lie at {}", system.shallow(off)),
    }
}

/// The body that practice puts on (CP-21), in a sentence.
pub fn practice(body: Option<BodyShape>) -> &'static str {
    match body {
        Some(BodyShape::Bell) => {
            "Practice: fast water under 6 ft wants a bell body (common practice, no source)."
        }
        Some(_) => {
            "Practice: a run at walking pace and more wants a torpedo body (common practice, no source)."
        }
        None => {
            "Practice names no body for slow water; a light spinner or a weight up the line serves (from memory)."
        }
    }
}

/// What a run is, in a sentence.
pub fn about(run: &Run, system: System) -> String {
    let width = run.stations.last().map_or(Metres(0.0), |last| last.offset);
    let deepest = run
        .stations
        .iter()
        .map(|station| station.depth.0)
        .fold(0.0, f64::max);
    let fastest = run
        .stations
        .iter()
        .map(|station| station.surface)
        .fold(MetresPerSecond(0.0), |a, b| if b > a { b } else { a });
    format!(
        "{} long, {} wide, to {} deep, surface to {}, {}; from the {}.",
        system.depth(run.length),
        system.depth(width),
        system.depth(Metres(deepest)),
        system.speed(fastest),
        run.bed.name(),
        match run.bank {
            Bank::Left => "left bank",
            Bank::Right => "right bank",
        }
    )
}

/// Cautions of a run: wading, hooks, cold water, the redds.
pub fn cautions(run: &Run, temperature_c: f64, fastest: f64) -> Vec<String> {
    let mut cautions = Vec::new();
    if run.wade.0 > 0.0 {
        cautions.push(if fastest > 1.0 {
            "Wade no deeper than the knee in water this fast; staff and belt on, unclip nothing, face upstream (common practice)."
                .to_owned()
        } else {
            "Wade with staff and belt, and no farther than you can step back from (common practice)."
                .to_owned()
        });
        cautions.push(
            "Felt soles are banned in some places and studs in others: check the current local regulations."
                .to_owned(),
        );
    }
    if matches!(run.bed, Bed::Boulders | Bed::Ledge | Bed::Cobble) {
        cautions.push("Wet boulders are slippery; move one foot at a time.".to_owned());
    }
    if temperature_c < 15.0 {
        cautions.push(
            "Cold water takes strength and breath in minutes; fish with somebody near.".to_owned(),
        );
    }
    cautions.push(
        "Below a dam the water can rise without warning: leave at the first horn, or when stones go under."
            .to_owned(),
    );
    cautions.push("Hooks fly: glasses on, look behind you before each cast; pinch the barbs where fish go back.".to_owned());
    if run.marks.iter().any(|mark| mark.kind == MarkKind::Spawning) {
        cautions.push("There are spawning beds in this run: do not wade on them, do not cast to fish on them.".to_owned());
    }
    cautions
}

#[cfg(test)]
mod tests {
    use super::*;
    use motilis_core::river::{Held, Thrown};
    use rstest::rstest;

    #[rstest]
    #[case(135.0, "45 up")]
    #[case(92.0, "square")]
    #[case(60.0, "30 down")]
    #[case(180.0, "straight up")]
    #[case(1.0, "straight down")]
    fn a_way_is_said_as_anglers_do(#[case] angle: f64, #[case] words: &str) {
        assert_eq!(way(angle), words);
    }

    #[rstest]
    #[case(0.0, "hold the reel")]
    #[case(0.5, "turn the reel half a turn a second")]
    #[case(0.9, "turn the reel just under one turn a second")]
    #[case(1.33, "turn the reel just over 1¼ turns a second")]
    #[case(0.12, "turn the reel just under a quarter turn a second")]
    fn turns_are_said_in_quarters(#[case] turned: f64, #[case] words: &str) {
        assert_eq!(turns(turned), words);
    }

    #[test]
    fn a_cast_is_said_as_a_guide_would() {
        let plan = Plan {
            thrown: Thrown {
                angle_deg: 135.0,
                distance: Metres(12.0),
            },
            held: Held::Low,
            sink: 2.0,
            reel: MetresPerSecond(0.63),
            mend: false,
            follow: false,
            lift: Some(6.0),
        };
        assert_eq!(
            cast(&plan, 0.9, Some(MarkKind::Boulder), System::Metric),
            "45 up, 12.0 m, let it sink 2 s, tip low, turn the reel just under one turn a second; lift at the boulder."
        );
    }
}
