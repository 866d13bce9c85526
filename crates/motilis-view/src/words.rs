//! What computed judgements read like: short sentences with the boat's units.

pub mod bench;

use crate::units::{Quantity, System, show, show_fraction};
use motilis_core::advice::Fish;
use motilis_core::advice::{Call, Reason, Rule, Scored};
use motilis_core::bench::{Check, Level};
use motilis_core::blade::State;
use motilis_core::book::Outing;
use motilis_core::line::{LineSetup, Start};
use motilis_core::rig::{Rig, What};
use motilis_core::units::{Celsius, Hertz, Metres, MetresPerSecond};

/// What a blade does, as a word beside its mark.
pub fn state(state: State) -> &'static str {
    match state {
        State::Stalled => "Stalling",
        State::Turning => "Turning",
        State::RollingOver => "Rolling over",
    }
}

/// Turns a minute, rounded to ten: the model knows no better.
pub fn turns_a_minute(turns: Hertz) -> String {
    format!("{:.0}", (turns.0 * 6.0).round() * 10.0)
}

fn speed(value: MetresPerSecond, system: System) -> String {
    show(Quantity::Speed, value.0, system).to_string()
}

fn depth(value: Metres, system: System) -> String {
    show(Quantity::Depth, value.0, system).to_string()
}

/// A rig's blade and what follows it: "Colorado 4, hammered brass, 2 × octopus 2, crawler".
pub fn parts(rig: &Rig) -> String {
    let pieces = &rig.stack().pieces;
    let blade = pieces.iter().find(|piece| piece.part.blade().is_some());
    let pair = if rig.blade_count() == 2 { "two " } else { "" };
    let mut words: Vec<String> = blade
        .map(|piece| format!("{pair}{}", bench::part(&piece.part)))
        .into_iter()
        .collect();
    let hooks: Vec<_> = rig.stack().hooks();
    if let Some(first) = hooks.first() {
        let name = bench::part_name(&pieces[*first].part);
        words.push(if hooks.len() > 1 {
            format!("{} × {name}", hooks.len())
        } else {
            name
        });
    }
    let soft = pieces.iter().filter(|piece| {
        matches!(
            piece.part.what(),
            What::Dressing(_) | What::Bait(_) | What::Attractor(_)
        )
    });
    words.extend(soft.map(|piece| piece.part.what().name().to_owned()));
    words.join(", ")
}

/// What takes a line down: "1½ oz bottom bouncer", "medium trip diver", "10 lb ball", "lead-core".
pub fn weight(setup: &LineSetup, system: System) -> String {
    if let Start::Downrigger { ball, .. } = setup.start {
        return match system {
            System::Imperial => {
                format!(
                    "{:.0} lb downrigger ball",
                    ball / motilis_core::units::POUND
                )
            }
            System::Metric => format!("{:.1} kg downrigger ball", ball.0),
        };
    }
    match setup.weight {
        None => setup.main.material.name().to_owned(),
        Some(weight) => weight.mass().map_or_else(
            || weight.name().to_owned(),
            |mass| {
                format!(
                    "{} {}",
                    show_fraction(Quantity::Mass, mass.0, system),
                    weight.name()
                )
            },
        ),
    }
}

/// The one line that says why a rig stands where it stands on the sheet.
pub fn reason(call: &Call, rig: &Rig, now: MetresPerSecond, system: System) -> String {
    match call.reason {
        Reason::Stalls { needs } => {
            format!(
                "Blade hangs at this speed. Needs {} or more.",
                speed(needs, system)
            )
        }
        Reason::RollsOver {
            above,
            twists_line: false,
        } => format!(
            "Blows out at this speed. Hold {} or less, or take narrower blades.",
            speed(above, system)
        ),
        Reason::RollsOver {
            above,
            twists_line: true,
        } => format!(
            "Twists the line at this speed. Hold {} or less, or add a rudder.",
            speed(above, system)
        ),
        Reason::NearStall { from } => {
            format!("Barely turns. Safe from {}.", speed(from, system))
        }
        Reason::NearRollOver { to } => {
            format!("Close to rolling over. Safe to {}.", speed(to, system))
        }
        Reason::BelowBottom { bottom } => {
            format!(
                "The depth wanted lies below the bottom at {}.",
                depth(bottom, system)
            )
        }
        Reason::TooDeep {
            deepest,
            enough: Some((mass, out)),
        } => format!(
            "Runs no deeper than {}. {} would do it with {} out.",
            depth(deepest, system),
            show_fraction(Quantity::Mass, mass.0, system),
            depth(out, system)
        ),
        Reason::TooDeep {
            deepest,
            enough: None,
        } => {
            format!(
                "Runs no deeper than {} with all its line.",
                depth(deepest, system)
            )
        }
        Reason::TooShallow { least } => {
            format!(
                "Runs at {} or deeper whatever is let out.",
                depth(least, system)
            )
        }
        Reason::Drags => {
            "Its weight drags on the bottom at that depth. Shorten the lead or run it higher."
                .to_owned()
        }
        Reason::Unsound { rule } => {
            let check = Check {
                rule,
                level: Level::Fail,
                at: None,
                mends: Vec::new(),
            };
            let (head, figures) = bench::check(&check, rig.stack());
            format!("{head}: {}. Mend it on the bench.", figures.to_lowercase())
        }
        Reason::Practice(scored) => practice(scored, call, rig, now, system),
    }
}

fn practice(
    scored: Scored,
    call: &Call,
    rig: &Rig,
    now: MetresPerSecond,
    system: System,
) -> String {
    let (_, finish, _) = rig.front_blade();
    let good = scored.points >= 0.0;
    let said = match scored.rule {
        Rule::Speed => match rig.kind().practice() {
            Some(practice) if good => format!(
                "practice runs it at {}–{}",
                show(Quantity::Speed, practice.from.0, system).value,
                speed(practice.to, system)
            ),
            Some(practice) if now > practice.favourite => {
                format!("practice runs it at {} or less", speed(practice.to, system))
            }
            Some(practice) => format!(
                "practice runs it at {} or more",
                speed(practice.from, system)
            ),
            None => "practice names no speed for it".to_owned(),
        },
        Rule::Kind if good => "tied for this fish".to_owned(),
        Rule::Kind => "tied for other fish".to_owned(),
        Rule::Thump if good => "its thump suits their mood".to_owned(),
        Rule::Thump if call.blade.thump_index() > 0.6 => {
            "louder than their mood asks for".to_owned()
        }
        Rule::Thump => "quieter than their mood asks for".to_owned(),
        Rule::Clarity if good => format!("{} shows in this water", finish.colour.name()),
        Rule::Clarity => format!("{} is lost in this water", finish.colour.name()),
        Rule::Light => "its finish suits this light".to_owned(),
        Rule::Warmth => "copper's own water temperature".to_owned(),
    };
    format!(
        "{} turns a minute; {said}.",
        turns_a_minute(call.blade.turns)
    )
}

/// The word with a capital.
pub fn capital(word: &str) -> String {
    let mut characters = word.chars();
    characters
        .next()
        .map(|first| first.to_uppercase().chain(characters).collect())
        .unwrap_or_default()
}

/// Cautions that apply to an outing: short, and deferring to local law.
pub fn cautions_of_day(outing: &Outing, system: System) -> Vec<String> {
    let mut cautions = Vec::new();
    // The trade rounds these two in its own way.
    let (cold, warm) = match system {
        System::Imperial => ("60 °F", "68 °F"),
        System::Metric => ("15 °C", "20 °C"),
    };
    if outing.temperature < COLD_SHOCK {
        cautions.push(format!(
            "Water below {cold}: cold shock. Wear the life jacket and the cut-off lanyard."
        ));
    }
    let trout = matches!(
        outing.fish,
        Fish::RainbowTrout | Fish::LakeTrout | Fish::Steelhead | Fish::LandlockedSalmon
    );
    if trout && outing.temperature > TROUT_LIMIT {
        cautions.push(format!(
            "Water above {warm}: do not fish for trout to release them."
        ));
    }
    if outing.fish_depth.1 >= PRESSURE_INJURY {
        cautions.push(format!(
            "Fish from {} and deeper may be hurt by the change of pressure.",
            depth(PRESSURE_INJURY, system)
        ));
    }
    cautions
}

/// Caution about a set-up's lead, where it has some.
pub fn caution_of_setup(setup: &LineSetup) -> Option<String> {
    let ball = setup.lets_out_cable();
    let lead = setup.weight.is_some_and(|weight| weight.is_lead());
    (ball || lead).then(|| {
        "Lead: wash hands, keep it from children and food; many waters restrict it. Check the local rules."
            .to_owned()
    })
}

/// Below this, cold-water shock (usual caution, 60 °F / 15 °C).
const COLD_SHOCK: Celsius = Celsius(15.0);
/// Above this, trout do not survive release well (usual caution, 68 °F / 20 °C).
const TROUT_LIMIT: Celsius = Celsius(20.0);
/// From this depth on, pressure injury (usual caution, about 30 ft / 9 m).
const PRESSURE_INJURY: Metres = Metres(9.0);
