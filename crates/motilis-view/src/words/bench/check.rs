//! What a check of the bench says.

use super::{both, inches, mm, part_name};
use crate::units::System;
use crate::words::capital;
use motilis_core::bench::{Attitude, Check, Level, Rule};
use motilis_core::rig::{Spacing, Stack};
use motilis_core::units::{FOOT, MILLIMETRE, Metres};

/// Which mark stands for a level.
pub fn mark(level: Level) -> &'static str {
    match level {
        Level::Pass => "works",
        Level::Warn => "watch",
        Level::Fail => "cannot",
    }
}

/// A check in one sentence, and its figures in another.
#[allow(clippy::too_many_lines, reason = "one arm a check")]
pub fn check(check: &Check, stack: &Stack, system: System) -> (String, String) {
    let feet = |length| system.depth(length).to_string();
    let speed = |speed| system.speed(speed);
    let good = check.level == Level::Pass;
    let at = check
        .at
        .and_then(|at| stack.pieces.get(at))
        .map(|piece| piece.part);
    let name = at.as_ref().map_or_else(|| "part".to_owned(), part_name);
    let say = |head: String, figures: String| (head, figures);
    match check.rule {
        Rule::Hook => say("No hook yet".into(), "Every rig needs one".into()),
        Rule::Blade { count: 0 } => say("No blade yet".into(), "Start with a blade".into()),
        Rule::Blade { .. } => say(
            "The blades do not pair".into(),
            "One blade, or two of one family and size".into(),
        ),
        Rule::OnClevis => say(
            format!("{} has no clevis", capital(&name)),
            "A stamped blade hangs on one".into(),
        ),
        Rule::Tip { clearance, spacing } => tip(clearance, spacing, good),
        Rule::CapBeads { count } => say(
            if good {
                format!("{count} beads keep the blade off the cap")
            } else if count < 5 {
                "Blade spoils the spin of the bait head cap".into()
            } else {
                "Blade runs too far ahead of the cap".into()
            },
            format!("{count} × 6 mm between, 5–6 wanted"),
        ),
        Rule::Points { span, width } => {
            let ratio = span / width;
            let figures = format!(
                "Points sweep {}, blade {} wide, ratio {ratio:.2}",
                mm(span),
                mm(width)
            );
            let head = if good {
                "Points stand just outside the blade"
            } else if ratio < 1.0 {
                "Blade shields the points"
            } else {
                "Hook is large for the blade"
            };
            say(head.into(), figures)
        }
        Rule::Bore { bore, needs } => say(
            if good {
                "All holes let it through".into()
            } else {
                format!("{} does not go on", capital(&name))
            },
            format!(
                "{}{:.2} mm hole, {:.2} mm wanted",
                if good { "Tightest: " } else { "" },
                bore / MILLIMETRE,
                needs / MILLIMETRE
            ),
        ),
        Rule::Swallow { bore, meets } => say(
            if good {
                "No bead slides over what follows".into()
            } else {
                format!("{} slides over what follows", capital(&name))
            },
            format!(
                "Hole {:.1} mm, next {:.1} mm",
                bore / MILLIMETRE,
                meets / MILLIMETRE
            ),
        ),
        Rule::Clevis { blade, carries } => say(
            if good {
                "Clevis fits its blade".into()
            } else if blade > carries.1 {
                "Clevis is too small for its blade".into()
            } else {
                "Clevis is too large for its blade".into()
            },
            format!(
                "Blade {blade}, clevis carries {}–{}",
                carries.0.max(0.0),
                carries.1
            ),
        ),
        Rule::Bearing => say(
            if good {
                "Turns on a smooth bead".into()
            } else {
                "No smooth bead behind the blade".into()
            },
            if good {
                "Directly behind the clevis".into()
            } else {
                "The clevis binds on an edge".into()
            },
        ),
        Rule::SkirtBead { diameter } => say(
            if good {
                "Skirt keeps its bead outside".into()
            } else {
                "Skirt swallows the bead before it".into()
            },
            format!("Last bead {}, ¼ in or larger wanted", mm(diameter)),
        ),
        Rule::Skirt { past, behind } => say(
            match (good, behind) {
                (true, _) => "Skirt ends level with the hook’s bend",
                (false, Some(false)) if past <= Metres(3e-3) => "Trailing hook lies in the skirt",
                (false, _) => "Skirt hangs past the hook: trim it for short strikes",
            }
            .into(),
            if past.0.abs() < 5e-4 {
                "Trimmed to it".to_owned()
            } else if past.0 > 0.0 {
                format!("{} past the bend", mm(past))
            } else {
                format!("{} short of it", mm(-past))
            },
        ),
        Rule::ClevisRoom { clearance, least } => say(
            if good {
                "Clevis swings free of the eye".into()
            } else if clearance < least {
                "Clevis binds at the eye".into()
            } else {
                "Too much free wire above the clevis".into()
            },
            format!("{} free, {} to ¼ in wanted", mm(clearance), mm(least)),
        ),
        Rule::AboveClevis { parts } => say(
            if good {
                "Nothing above the clevis".into()
            } else {
                "Parts above the clevis only add drag".into()
            },
            if good {
                "Least drag".into()
            } else {
                format!("{parts} there; a second blade is the exception")
            },
        ),
        Rule::HookSpacing { spacing, range } => say(
            if good {
                format!("Hooks {} apart", both(spacing))
            } else if spacing < range.0 {
                "Hooks too near each other".into()
            } else {
                "Hooks too far apart".into()
            },
            format!("{}, {} to {} wanted", mm(spacing), mm(range.0), mm(range.1)),
        ),
        Rule::Bumper => say(
            if good {
                "Bumper bead between the hooks".into()
            } else {
                "No bumper bead between the hooks".into()
            },
            "Keeps the sliding hook off the trailing knot".into(),
        ),
        Rule::Leader { lead, range } => {
            let usual = format!(
                "{} {}",
                system.between(5.0 * FOOT, 6.0 * FOOT),
                system.depth(lead).unit
            );
            say(
                format!("Leader {}", feet(lead)),
                format!(
                    "{} in stained water, {} standard, to {} for shy fish",
                    feet(range.0),
                    usual,
                    feet(range.1)
                ),
            )
        }
        Rule::Netting { lead, rod } => say(
            if good {
                "A fish can be netted".into()
            } else {
                "Leader is longer than the rod".into()
            },
            format!("Leader {}, rod {}", feet(lead), feet(rod)),
        ),
        Rule::Snell { wraps } => say(format!("{wraps} snell wraps"), "8–10 hold".into()),
        Rule::WireEye { wraps, tail } => say(
            if good {
                "Eyes hold".into()
            } else {
                "Eyes may open".into()
            },
            format!("{wraps} wraps, tail {}; 3 and ½ in wanted", mm(tail)),
        ),
        Rule::AttractorLead { lead, quick, easy } => say(
            format!("{} to the lure", inches(lead)),
            if quick == easy {
                format!("{} to {} wanted", inches(quick.0), inches(quick.1))
            } else {
                format!(
                    "{}–{} kicks quickly, {}–{} easily",
                    inches(quick.0),
                    inches(quick.1),
                    inches(easy.0),
                    inches(easy.1)
                )
            },
        ),
        Rule::Twist => say(
            if good {
                "Twist is taken".into()
            } else {
                "A bare wire spinner twists the line".into()
            },
            "Rudder, or a ball-bearing swivel".into(),
        ),
        Rule::Window { from, to, practice } => {
            let range = to.map_or_else(
                || format!("from {}", speed(from)),
                |to| format!("{}–{}", speed(from).value, speed(to)),
            );
            let head = match (check.level, to) {
                (Level::Fail, _) => "Rolls over before it turns".to_owned(),
                _ => format!("Works {range}"),
            };
            let figures = practice.map_or_else(
                || "Computed".to_owned(),
                |(least, most)| {
                    format!(
                        "Computed; practice runs it at {}–{}",
                        speed(least).value,
                        speed(most)
                    )
                },
            );
            say(head, figures)
        }
        Rule::Sinks(attitude) => say(
            match attitude {
                Attitude::TailFirst => "Sinks tail first",
                Attitude::Level => "Sinks level",
                Attitude::NoseFirst => "Sinks nose first",
                Attitude::Floats => "Floats",
            }
            .into(),
            match attitude {
                Attitude::TailFirst | Attitude::Level => "The line stays off the blade",
                Attitude::NoseFirst => "The line falls over the blade",
                Attitude::Floats => "It will not go down by itself",
            }
            .into(),
        ),
        Rule::Cut {
            whole,
            finished,
            left,
        } => {
            let what = if stack.mount.is_wire() {
                "wire"
            } else {
                "line"
            };
            let enough = left.map_or_else(String::new, |left| {
                format!(", {} on the spool", system.depth(left))
            });
            say(
                if good {
                    format!("Cut {} of {what}", mm(whole))
                } else {
                    format!("The spool is short: cut {}", mm(whole))
                },
                format!("Finishes at {}{enough}", mm(finished)),
            )
        }
        Rule::Stock { short } => say(
            if good {
                "All parts are in the box".into()
            } else {
                format!("{short} kinds of part run short")
            },
            if good {
                "Enough for one".into()
            } else {
                format!("The first: {name}")
            },
        ),
        Rule::QuickChange { clear, of, worst } => say(
            format!("{clear} of {of} blades that fit clear the hook"),
            if worst.0 >= 0.0 {
                format!("Nearest tip {} ahead of the eye", mm(worst))
            } else {
                format!("Longest tip {} past the eye", mm(-worst))
            },
        ),
    }
}

fn tip(clearance: Metres, spacing: Spacing, good: bool) -> (String, String) {
    let past = clearance.0 < 0.0;
    let by = mm(Metres(clearance.0.abs()));
    match spacing {
        Spacing::Level => (
            if good {
                "Blade ends level with the hook eye".to_owned()
            } else if past {
                "Blade reaches past the hook eye".to_owned()
            } else {
                "Blade ends short of the hook eye".to_owned()
            },
            if past {
                format!("{by} past it, within 2 mm wanted")
            } else {
                format!("{by} ahead of it, within 2 mm wanted")
            },
        ),
        _ if good => (
            format!("Blade clears front hook by {by}"),
            "2 mm or more keeps it off".to_owned(),
        ),
        _ if past => (
            "Blade fouls the front hook".to_owned(),
            format!("Tip {by} past the hook eye, 2 mm ahead wanted"),
        ),
        _ => (
            "Blade is close to the front hook".to_owned(),
            format!("{by} ahead of the eye, 2 mm or more wanted"),
        ),
    }
}
