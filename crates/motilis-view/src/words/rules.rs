//! Local rules as sentences, always with where and when they were read; none of them says what is legal.

use crate::units::System;
use motilis_core::rules::{Clash, Landed, LocalRule, Saying, Says, Slot, Topic};
use motilis_core::units::Metres;

/// What a rule says: "walleye: at most 4 a day".
pub fn says(rule: &LocalRule, system: System) -> String {
    let said = match rule.says {
        Says::AtMost(Topic::Lines, 1) => "1 line a person".to_owned(),
        Says::AtMost(Topic::Lines, most) => format!("{most} lines a person"),
        Says::AtMost(Topic::Points, most) => {
            format!("at most {most} hook points on a line, a treble counting three")
        }
        Says::AtMost(Topic::Hooks, most) => format!("at most {most} hooks on a line"),
        Says::AtMost(Topic::Possession, most) => format!("at most {most} in possession"),
        Says::AtMost(_, most) => format!("at most {most} a day"),
        Says::Holds(topic) => topic.name().to_owned(),
        Says::Slot(slot) => lengths(slot, system),
    };
    match rule.fish {
        Some(fish) => format!("{}: {said}", super::capital(fish.name())),
        None if rule.says.topic().is_of_a_fish() => format!("All fish: {said}"),
        None => super::capital(&said),
    }
}

fn lengths(slot: Slot, system: System) -> String {
    let length = |end: Metres| system.length(end).to_string();
    let act = if slot.protected { "release" } else { "keep" };
    let span = match (slot.from, slot.to) {
        (Some(from), Some(to)) => format!("{act} {} to {}", length(from), length(to)),
        (Some(from), None) => format!("{act} {} and longer", length(from)),
        (None, Some(to)) => format!("{act} up to {}", length(to)),
        (None, None) => act.to_owned(),
    };
    if slot.one_over {
        format!("{span}, one may be longer")
    } else {
        span
    }
}

/// When a rule holds: "9 May to 31 October 2026", "all year".
pub fn span(rule: &LocalRule) -> String {
    let day = |date: jiff::civil::Date| date.strftime("%-d %b %Y").to_string();
    match (rule.from, rule.to) {
        (None, None) => "all year".to_owned(),
        (Some(from), None) => format!("from {}", day(from)),
        (None, Some(to)) => format!("until {}", day(to)),
        (Some(from), Some(to)) => format!("{} to {}", day(from), day(to)),
    }
}

/// Where a rule comes from: "entered 18 Apr 2026 from the booklet".
pub fn source(rule: &LocalRule) -> String {
    format!(
        "entered {} from: {}",
        rule.entered.strftime("%-d %b %Y"),
        rule.source
    )
}

/// What is said wherever rules are shown.
pub const CAUTION: &str =
    "Shown as you entered them, not as law. Check the current local regulations.";

/// Why a new rule is not taken.
pub fn clash(clash: &Clash<'_>, system: System) -> String {
    let there = format!("“{}” ({})", says(clash.rule, system), span(clash.rule));
    if clash.contradicts {
        format!(
            "This contradicts {there} on days that both cover; end the one before the other begins, or change it."
        )
    } else {
        format!("{there} says the same already; change its dates instead of entering it again.")
    }
}

/// What a rule says of a fish on the board; `None` where it says nothing worth reading.
pub fn landed(
    landed: &Landed,
    saying: Saying,
    rule: &LocalRule,
    kept: bool,
    system: System,
) -> Option<String> {
    let fish = landed.fish.name();
    let by = format!(
        "By the rule you entered on {} ({})",
        rule.entered.strftime("%-d %B %Y"),
        rule.source
    );
    let length = |length: Metres| system.length_in_fractions(length).to_string();
    let measured = landed
        .length
        .map_or_else(String::new, |own| format!("{}. ", length(own)));
    Some(match saying {
        Saying::GoesBack { slot, next } => {
            let until = next.map_or_else(String::new, |next| {
                let day = next.from.yesterday().unwrap_or(next.from);
                let then = next.slot.map_or_else(
                    || "then no such rule is entered".to_owned(),
                    |slot| {
                        let from = next.from.strftime("%-d %B");
                        format!("from {from}: {}", lengths(slot, system))
                    },
                );
                format!(" until {}; {then}", day.strftime("%-d %B"))
            });
            format!(
                "{measured}{by}, this {fish} goes back: {}{until}.",
                lengths(slot, system)
            )
        }
        Saying::OneOver(slot) => format!(
            "{measured}{by}, {}: this is the one over.",
            lengths(slot, system)
        ),
        Saying::OverTaken(slot) => format!(
            "{measured}{by}, {}: one over it was kept already, this {fish} goes back.",
            lengths(slot, system)
        ),
        Saying::TooClose(limit) => format!(
            "{measured}Too close to call against {}: measure again. {by}.",
            length(limit)
        ),
        Saying::TooMany(Topic::Possession, nth, most) if kept => format!(
            "{nth}{} {fish} kept in the last {POSSESSED_DAYS} days by this log; the possession rule you entered on {} says {most} ({}). Those already eaten do not count.",
            ordinal(nth),
            rule.entered.strftime("%-d %B %Y"),
            rule.source
        ),
        Saying::TooMany(_, nth, most) if kept => format!(
            "{nth}{} {fish} kept aboard today; the rule you entered on {} says {most} for each angler ({}).",
            ordinal(nth),
            rule.entered.strftime("%-d %B %Y"),
            rule.source
        ),
        Saying::TooMany(_, _, most) => format!("{by}, {most} {fish} are kept already."),
        Saying::Counts(Topic::Daily, nth, most) if kept => {
            format!(
                "{nth}{} of {most} {fish} for each angler by the rule you entered.",
                ordinal(nth)
            )
        }
        Saying::Closed => format!("{by}, the water is closed to {fish}."),
        Saying::WithinSlot(_) | Saying::Counts(..) => return None,
    })
}

/// Days over which kept fish are counted as possessed: how long a cooler keeps them (common practice, no source); the log
/// does not know when one is eaten.
pub const POSSESSED_DAYS: i64 = 7;

fn ordinal(number: u32) -> &'static str {
    match (number % 10, number % 100) {
        (1, last) if last != 11 => "st",
        (2, last) if last != 12 => "nd",
        (3, last) if last != 13 => "rd",
        _ => "th",
    }
}
