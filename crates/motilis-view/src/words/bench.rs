//! What the bench says: parts, checks, mends, steps. On the bench lengths are in mm, with inches beside
//! where the trade measures in inches.

mod check;
mod step;

pub use check::{check, mark};
pub use step::step;

use crate::units::System;
use crate::words::capital;
use motilis_core::bench::UNCOUNTED;
use motilis_core::rig::{BeadStyle, Edit, Finish, Measured, Part, Piece, Setting, Stack, What};
use motilis_core::units::{GRAM, INCH, Kilograms, MILLIMETRE, Metres};

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
        Setting::Skirt => "Skirt trimmed to",
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

/// A mass in grams.
pub fn grams(mass: Kilograms) -> String {
    format!("{:.1} g", mass / GRAM)
}

/// A finish in words: "hammered brass".
pub fn finish(finish: Finish) -> String {
    let hammered = if finish.hammered { "hammered " } else { "" };
    let bare = format!("{hammered}{}", finish.colour.name());
    match finish.over {
        None => bare,
        Some(over) => match over.share {
            None => format!("{bare} under {} lacquer", over.colour.name()),
            Some(share) => format!("{bare} with {share} % {}", over.colour.name()),
        },
    }
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
pub fn left(part: &Part, left: f64, system: System) -> String {
    if left >= UNCOUNTED {
        return "plenty".to_owned();
    }
    if part.what().is_by_length() {
        system.depth(Metres(left)).to_string()
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
                let (head, figures) = check(&found, &stack, System::Metric);
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
