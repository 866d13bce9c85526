//! What computed judgements read like: short sentences with the boat's units.

use crate::units::{Quantity, System, show, show_fraction};
use motilis_core::advice::{Call, Reason, Rule, Scored};
use motilis_core::blade::State;
use motilis_core::line::{LineSetup, Start};
use motilis_core::rig::{Part, Rig};
use motilis_core::units::{Hertz, Metres, MetresPerSecond};

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

/// A rig's blade and what follows it: "Colorado 25×20 mm hammered brass, 5 beads, 2 hooks no. 2, crawler".
pub fn parts(rig: &Rig) -> String {
    let mut words = Vec::new();
    let (blade, finish, _) = rig.front_blade();
    let pair = if rig.blade_count() == 2 { "two " } else { "" };
    let hammered = if finish.hammered { "hammered " } else { "" };
    words.push(format!(
        "{pair}{} {:.0} mm, {hammered}{}",
        blade.family.name(),
        blade.length.0 * 1e3,
        finish.colour.name()
    ));
    let mut hooks: Vec<String> = Vec::new();
    for part in rig.parts() {
        match part {
            Part::Hook(hook) => hooks.push(format!("{} {}", hook.style.name(), hook.size)),
            Part::Dressing { dressing, .. } => words.push(dressing.name().to_owned()),
            Part::Bait(bait) => words.push(bait.name().to_owned()),
            Part::Swivel { .. } | Part::Blade { .. } | Part::Beads { .. } | Part::Body { .. } => {}
        }
    }
    let count = hooks.len();
    if let Some(hook) = hooks.into_iter().next() {
        let words_for = if count > 1 { format!("{count} × {hook}") } else { hook };
        words.insert(1, words_for);
    }
    words.join(", ")
}

/// What takes a line down: "1½ oz bottom bouncer", "medium trip diver", "10 lb ball", "lead-core".
pub fn weight(setup: &LineSetup, system: System) -> String {
    if let Start::Downrigger { ball, .. } = setup.start {
        return match system {
            System::Imperial => {
                format!("{:.0} lb downrigger ball", ball / motilis_core::units::POUND)
            }
            System::Metric => format!("{:.1} kg downrigger ball", ball.0),
        };
    }
    match setup.weight {
        None => setup.main.material.name().to_owned(),
        Some(weight) => weight.mass().map_or_else(
            || weight.name().to_owned(),
            |mass| format!("{} {}", show_fraction(Quantity::Mass, mass.0, system), weight.name()),
        ),
    }
}

/// The one line that says why a rig stands where it stands on the sheet.
pub fn reason(call: &Call, rig: &Rig, now: MetresPerSecond, system: System) -> String {
    match call.reason {
        Reason::Stalls { needs } => {
            format!("Blade hangs at this speed. Needs {} or more.", speed(needs, system))
        }
        Reason::RollsOver { above, twists_line: false } => format!(
            "Blows out at this speed. Hold {} or less, or take narrower blades.",
            speed(above, system)
        ),
        Reason::RollsOver { above, twists_line: true } => format!(
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
            format!("The depth wanted lies below the bottom at {}.", depth(bottom, system))
        }
        Reason::TooDeep { deepest, enough: Some((mass, out)) } => format!(
            "Runs no deeper than {}. {} would do it with {} out.",
            depth(deepest, system),
            show_fraction(Quantity::Mass, mass.0, system),
            depth(out, system)
        ),
        Reason::TooDeep { deepest, enough: None } => {
            format!("Runs no deeper than {} with all its line.", depth(deepest, system))
        }
        Reason::TooShallow { least } => {
            format!("Runs at {} or deeper whatever is let out.", depth(least, system))
        }
        Reason::Drags => {
            "Its weight drags on the bottom at that depth. Shorten the lead or run it higher.".to_owned()
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
    let turns = turns_a_minute(call.blade.turns);
    let (_, finish, _) = rig.front_blade();
    let good = scored.points >= 0.0;
    match scored.rule {
        Rule::Speed => match rig.kind.practice() {
            Some(practice) if good => format!(
                "{turns} turns a minute; practice runs it at {} to {}.",
                speed(practice.from, system),
                speed(practice.to, system)
            ),
            Some(practice) if now > practice.favourite => {
                format!("Turns, but practice runs it at {} or less.", speed(practice.to, system))
            }
            Some(practice) => {
                format!("Turns, but practice runs it at {} or more.", speed(practice.from, system))
            }
            None => format!("{turns} turns a minute."),
        },
        Rule::Kind if good => format!("{turns} turns a minute; tied for this fish."),
        Rule::Kind => "Turns, but practice ties it for other fish.".to_owned(),
        Rule::Thump if good => "Its thump suits their mood.".to_owned(),
        Rule::Thump if call.blade.thump_index() > 0.6 => "Louder than their mood asks for.".to_owned(),
        Rule::Thump => "Quieter than their mood asks for.".to_owned(),
        Rule::Clarity if good => format!("{} shows in this water.", capital(finish.colour.name())),
        Rule::Clarity => format!("{} is lost in this water.", capital(finish.colour.name())),
        Rule::Light => "Its finish suits this light.".to_owned(),
        Rule::Warmth => "Copper's own water temperature.".to_owned(),
    }
}

/// The word with a capital.
pub fn capital(word: &str) -> String {
    let mut characters = word.chars();
    characters
        .next()
        .map(|first| first.to_uppercase().chain(characters).collect())
        .unwrap_or_default()
}
