//! What the bench says: parts, checks, mends, steps. On the bench lengths are in mm, with inches beside
//! where the trade measures in inches.

use crate::words::capital;
use motilis_core::bench::{Action, Attitude, Check, Level, Rule, Step};
use motilis_core::rig::{
    BeadStyle, Edit, Finish, Measured, Part, Piece, Setting, Spacing, Stack, What,
};
use motilis_core::units::{
    GRAM, INCH, Kilograms, MILE_PER_HOUR, MILLIMETRE, Metres, MetresPerSecond,
};

/// What a measure is called beside its field.
pub fn setting_label(setting: Setting) -> &'static str {
    match setting {
        Setting::Finished => "Leader to the front hook",
        Setting::Clearance => "Free wire above the clevis",
        Setting::HookSpacing => "Hook to hook",
        Setting::LoopDiameter => "Eye inside",
        Setting::Wraps => "Twist wraps",
        Setting::Tail => "Wire tail",
        Setting::SnellWraps => "Snell wraps",
        Setting::KnotUse => "Front knot takes",
    }
}

/// A length in mm: to the tenth below 100, thousands apart.
pub fn mm(length: Metres) -> String {
    let figure = length / MILLIMETRE;
    if figure.abs() < 99.95 && (figure - figure.round()).abs() > 0.05 {
        return format!("{}{:.1} mm", minus(figure), figure.abs());
    }
    let whole = figure.abs().round() as i64;
    let digits = if whole >= 1_000 {
        format!("{}\u{a0}{:03}", whole / 1_000, whole % 1_000)
    } else {
        whole.to_string()
    };
    format!("{}{digits} mm", minus(figure))
}

fn minus(figure: f64) -> &'static str {
    if figure <= -0.05 { "−" } else { "" }
}

/// The same in inches and eighths, as a rule of the trade reads.
pub fn inches(length: Metres) -> String {
    let eighths = (length / INCH * 8.0).round() as i64;
    let (whole, rest) = (eighths / 8, eighths % 8);
    let fraction = match rest {
        0 => String::new(),
        2 => "¼".to_owned(),
        4 => "½".to_owned(),
        6 => "¾".to_owned(),
        odd => format!("{odd}/8"),
    };
    match (whole, fraction.as_str()) {
        (0, "") => "0 in".to_owned(),
        (0, _) => format!("{fraction} in"),
        (_, _) if rest % 2 == 1 => format!("{whole} {fraction} in"),
        _ => format!("{whole}{fraction} in"),
    }
}

/// Inches with mm behind them: "3½ in, 89 mm".
pub fn both(length: Metres) -> String {
    format!("{}, {}", inches(length), mm(length))
}

fn mph(speed: MetresPerSecond) -> String {
    format!("{:.1} mph", speed / MILE_PER_HOUR)
}

/// A mass in grams.
pub fn grams(mass: Kilograms) -> String {
    format!("{:.1} g", mass / GRAM)
}

/// A finish in words: "hammered brass".
pub fn finish(finish: Finish) -> String {
    let hammered = if finish.hammered { "hammered " } else { "" };
    format!("{hammered}{}", finish.colour.name())
}

/// What a part is, without its finish: "Colorado 4", "6 mm bead", "octopus 2".
pub fn part_name(part: &Part) -> String {
    let (what, size) = (part.what(), part.size_word());
    match what {
        What::Blade(_) | What::Hook(_) | What::Clevis(_) => format!("{} {size}", what.name()),
        What::Dressing(_) | What::Bait(_) => what.name().to_owned(),
        _ => format!("{size} {}", what.name()),
    }
}

/// What a part looks like, for those whose looks matter: "hammered brass", "chartreuse, nickel back".
pub fn part_looks(part: &Part) -> String {
    let looks = match part.what() {
        What::Hook(_)
        | What::Clevis(_)
        | What::Swivel(_)
        | What::Line(_)
        | What::Wire
        | What::Tubing
        | What::Bait(_)
        | What::Rudder => String::new(),
        _ => finish(part.finish),
    };
    let material = if part.material == part.what().usual_material() {
        String::new()
    } else {
        part.material.name().to_owned()
    };
    let back = part
        .back
        .map_or_else(String::new, |back| format!("{} back", finish(back)));
    let words: Vec<String> = [material, looks, back]
        .into_iter()
        .filter(|word| !word.is_empty())
        .collect();
    words.join(", ")
}

/// Name and looks: "Colorado 4, hammered brass".
pub fn part(part: &Part) -> String {
    let looks = part_looks(part);
    if looks.is_empty() {
        part_name(part)
    } else {
        format!("{}, {looks}", part_name(part))
    }
}

/// Some parts: "5 × 6 mm bead, chartreuse".
pub fn piece(piece: &Piece) -> String {
    if piece.count == 1 {
        part(&piece.part)
    } else {
        format!("{} × {}", piece.count, part(&piece.part))
    }
}

/// How many are left: "12", or "34.5 m" of line and wire.
pub fn left(part: &Part, left: f64) -> String {
    if part.what().is_by_length() {
        format!("{left:.1} m")
    } else {
        format!("{left:.0}")
    }
}

/// The figures a caliper took, in words; empty when there are none.
pub fn measured(own: &Measured) -> String {
    let length = |word: &str, figure: Option<Metres>| {
        figure.map(|figure| format!("{word} {:.2} mm", figure / MILLIMETRE))
    };
    let figures = [
        length("length", own.length),
        length("width", own.width),
        length("thickness", own.thickness),
        length("diameter", own.diameter),
        length("hole", own.bore),
        own.mass.map(|mass| format!("mass {:.2} g", mass / GRAM)),
    ];
    figures.into_iter().flatten().collect::<Vec<_>>().join(", ")
}

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
pub fn check(check: &Check, stack: &Stack) -> (String, String) {
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
        Rule::Leader { lead, range } => say(
            format!("Leader {}", feet(lead)),
            format!(
                "{} in stained water, 5–6 ft standard, to {} for shy fish",
                feet(range.0),
                feet(range.1)
            ),
        ),
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
                || format!("from {}", mph(from)),
                |to| format!("{:.1}–{}", from / MILE_PER_HOUR, mph(to)),
            );
            let head = match (check.level, to) {
                (Level::Fail, _) => "Rolls over before it turns".to_owned(),
                _ => format!("Spins {range}"),
            };
            let figures = practice.map_or_else(
                || "Computed".to_owned(),
                |(least, most)| {
                    format!(
                        "Computed; practice runs it at {:.1}–{}",
                        least / MILE_PER_HOUR,
                        mph(most)
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
                format!(", {:.1} m on the spool", left.0)
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

fn feet(length: Metres) -> String {
    crate::units::show(
        crate::units::Quantity::Depth,
        length.0,
        crate::units::System::Imperial,
    )
    .to_string()
}

/// The word on the button of a mend, and what it does.
pub fn mend(edits: &[Edit]) -> (&'static str, String) {
    match edits {
        [Edit::Insert { piece: new, .. }] => ("Add", format!("add {}", piece(new))),
        [Edit::Replace { piece: new, .. }] => ("Swap", format!("take {}", piece(new))),
        [Edit::Splice { pieces, .. }] => (
            "Rethread",
            pieces.iter().map(piece).collect::<Vec<_>>().join(" + "),
        ),
        [Edit::Set(setting, value), ..] => ("Set", setting_value(*setting, *value)),
        [Edit::Remove { .. }, Edit::Insert { piece: new, .. }] => {
            ("Move back", format!("put {} behind the beads", piece(new)))
        }
        [Edit::Remove { .. }, ..] => ("Take off", "take them off".to_owned()),
        _ => ("Mend", String::new()),
    }
}

/// A measure with its value: "hook to hook 3½ in, 89 mm".
pub fn setting_value(setting: Setting, value: f64) -> String {
    if setting.is_count() {
        format!("{} {value:.0}", setting.name())
    } else {
        format!("{} {}", setting.name(), both(Metres(value)))
    }
}

/// A step as a sentence.
pub fn step(step: &Step, stack: &Stack) -> String {
    let wire = stack.mount.is_wire();
    let spool = part_name(stack.mount.part());
    let at = |place: usize| stack.pieces.get(place).map_or_else(String::new, piece);
    let name = |place: usize| {
        stack
            .pieces
            .get(place)
            .map_or_else(String::new, |piece| part_name(&piece.part))
    };
    match step.action {
        Action::Cut { length } => format!("Cut {} of {spool}.", mm(length)),
        Action::BendEye {
            front,
            inside,
            wraps,
        } => format!(
            "Bend the {} eye {} inside, {wraps} wraps, trim the tail.",
            if front { "front" } else { "lower" },
            mm(inside)
        ),
        Action::HangHook {
            piece,
            inside,
            wraps,
        } => format!(
            "Bend the lower eye {} inside, hang in {}, close with {wraps} wraps, trim.",
            mm(inside),
            name(piece)
        ),
        Action::Thread { piece } => format!("Thread {}.", at(piece)),
        Action::HangBlade { piece } => {
            let carrier = piece
                .checked_sub(1)
                .and_then(|before| stack.pieces.get(before))
                .filter(|before| matches!(before.part.what(), What::Clevis(_)));
            match carrier {
                Some(clevis) => format!(
                    "Hang {} on {}, hollow side to the {}.",
                    at(piece),
                    part_name(&clevis.part),
                    if wire { "shaft" } else { "line" }
                ),
                None => format!("Thread {} through its hole.", at(piece)),
            }
        }
        Action::LeaveRoom { length } => format!("Leave {} to twist the next eye.", mm(length)),
        Action::Straighten => {
            "Crimp an open hook eye, straighten both eyes in one line.".to_owned()
        }
        Action::Snell {
            piece,
            wraps,
            at: None,
            ..
        } => format!("Snell {} as the last hook, {wraps} wraps.", name(piece)),
        Action::Snell {
            piece,
            wraps,
            at: Some(spacing),
            sliding,
            ..
        } => format!(
            "{} {} ahead of it, snell {}, {wraps} wraps{}.",
            if sliding { "About" } else { "At" },
            mm(spacing),
            name(piece),
            if sliding { " that slide" } else { "" }
        ),
        Action::Tie {
            knot,
            piece: Some(piece),
            finished,
        } => format!(
            "Tie on {} with {} {} knot, {} from the front hook.",
            name(piece),
            if knot.name().starts_with(['i', 'u']) {
                "an"
            } else {
                "a"
            },
            knot.name(),
            mm(finished)
        ),
        Action::Tie { knot, finished, .. } => {
            format!(
                "Tie the {} knot {} from the front hook.",
                knot.name(),
                mm(finished)
            )
        }
        Action::Attach { piece } => format!("Hang on {}.", name(piece)),
        Action::Test => "Draw it straight, blow on the blade: it must turn freely.".to_owned(),
        Action::Bait { piece } => format!("On the water: thread {}.", name(piece)),
    }
}

/// The order of beads as one line: "1 × 4 mm CH, 4 × 6 mm OR".
pub fn beads(stack: &Stack) -> String {
    let beads: Vec<String> = stack
        .pieces
        .iter()
        .filter(|piece| matches!(piece.part.what(), What::Bead(_)))
        .map(|piece| {
            let cut = if piece.part.what() == What::Bead(BeadStyle::Faceted) {
                " cut"
            } else {
                ""
            };
            format!(
                "{} × {}{cut} {}",
                piece.count,
                piece.part.size_word(),
                piece.part.finish.colour.key()
            )
        })
        .collect();
    if beads.is_empty() {
        "none".to_owned()
    } else {
        beads.join(", ")
    }
}

/// What a rig is tied on, the blade it turns, its hooks: the title block.
pub fn title_block(stack: &Stack) -> Vec<(&'static str, String)> {
    let blades = stack.blades().count();
    let blade = stack.blades().next().map_or_else(
        || "none".to_owned(),
        |(_, _, piece)| {
            let pair = if blades == 2 { "two " } else { "" };
            format!("{pair}{}", part(&piece.part))
        },
    );
    let hooks = stack.hooks();
    let hook = hooks.first().map_or_else(
        || "none".to_owned(),
        |at| {
            let name = part_name(&stack.pieces[*at].part);
            if hooks.len() > 1 {
                format!("{} × {name}", hooks.len())
            } else {
                name
            }
        },
    );
    let spool = stack.mount.part();
    let kind = if stack.mount.is_wire() {
        "Wire"
    } else {
        "Line"
    };
    let thick = format!(
        "{}, {:.2} mm",
        spool.size_word(),
        spool.diameter() / MILLIMETRE
    );
    vec![
        ("Blade", capital(&blade)),
        ("Beads", beads(stack)),
        ("Hooks", capital(&hook)),
        (kind, thick),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;
    use motilis_core::bench::{checks, starting, steps};
    use motilis_core::fish::Fish;
    use motilis_core::rig::Kind;
    use rstest::rstest;

    #[rstest]
    #[case(0.0048, "4.8 mm")]
    #[case(0.006, "6 mm")]
    #[case(-0.00113, "−1.1 mm")]
    #[case(0.0255, "25.5 mm")]
    #[case(0.0894, "89.4 mm")]
    #[case(0.1504, "150 mm")]
    #[case(1.05, "1\u{a0}050 mm")]
    #[case(-0.00001, "0 mm")]
    fn lengths_read_as_a_bench_reads_them(#[case] metres: f64, #[case] shown: &str) {
        assert_eq!(mm(Metres(metres)), shown);
    }

    #[rstest]
    #[case(3.5, "3½ in")]
    #[case(0.25, "¼ in")]
    #[case(2.0, "2 in")]
    #[case(3.375, "3 3/8 in")]
    #[case(0.01, "0 in")]
    fn inches_read_in_eighths(#[case] figure: f64, #[case] shown: &str) {
        assert_eq!(inches(figure * INCH), shown);
    }

    #[test]
    fn every_check_and_step_of_every_kind_has_its_words() {
        for &kind in Kind::ALL {
            let stack = starting(kind, Fish::Walleye, kind.usual_hook_size(), &[]).unwrap();
            for found in checks(&stack, &[]).checks {
                let (head, figures) = check(&found, &stack);
                assert!(
                    !head.is_empty() && !figures.is_empty(),
                    "{kind:?} {found:?}"
                );
                assert!(
                    !format!("{head}{figures}").contains("NaN"),
                    "{head} {figures}"
                );
            }
            for one in steps(&stack) {
                let words = step(&one, &stack);
                assert!(words.ends_with('.') && words.len() > 12, "{kind:?} {words}");
            }
        }
    }
}
