//! What computed judgements read like: short sentences with the boat's units.

pub mod advice;
pub mod bench;
pub mod boat;
pub mod data;
pub mod light;
pub mod river;
pub mod rules;
pub mod spread;

use crate::units::System;
use motilis_core::blade::{Running, State};
use motilis_core::book::{Event, Outing, WaterBody};
use motilis_core::evidence::Verdict;
use motilis_core::line::{LineSetup, Start, Sure};
use motilis_core::rig::{Rig, What};
use motilis_core::tackle::Release;
use motilis_core::towline::{Band, Source};
use motilis_core::units::{Celsius, Hertz, MILE_PER_HOUR, Metres, MetresPerSecond};
use motilis_helm::Refusal;

/// What a blade does, as a word beside its mark.
pub fn state(state: State) -> &'static str {
    match state {
        State::Stalled => "Stalling",
        State::Bare => "No blade",
        State::Turning => "Turning",
        State::Swaying => "Swaying",
        State::RollingOver => "Rolling over",
    }
}

/// An amount of money, in what the boat counts in.
pub fn money(amount: f64, currency: &str) -> String {
    let gap = if currency.is_empty() { "" } else { "\u{a0}" };
    // Large sums are round ones.
    if amount.fract() == 0.0 && amount >= 100.0 {
        return format!("{currency}{gap}{amount:.0}");
    }
    format!("{currency}{gap}{amount:.2}")
}

/// Turns a minute, rounded to ten: the model knows no better.
pub fn turns_a_minute(turns: Hertz) -> String {
    format!("{:.0}", (turns.0 * 6.0).round() * 10.0)
}

/// What is counted of a blade: it turns, or it sways.
pub fn beats(state: State) -> &'static str {
    if state == State::Swaying {
        "Sways a minute"
    } else {
        "Turns a minute"
    }
}

/// "290 turns a minute", "160 sways a minute".
pub fn beats_a_minute(blade: &Running) -> String {
    let turns = turns_a_minute(blade.turns);
    format!("{turns} {}", small(beats(blade.state)))
}

/// A diver that lets go by itself, and what holds it.
pub fn trips(release: &Release, system: System) -> String {
    format!(
        "The rig’s {} trips the diver by itself. Set its release to “{}”, or slow down.",
        force(release.pull.0, system),
        release.hole.name()
    )
}

/// A pull in the boat's units.
pub fn force(newtons: f64, system: System) -> String {
    match system {
        System::Metric => format!("{newtons:.2} N"),
        // An ounce-force is the weight of an ounce in standard gravity: 0.278 N.
        System::Imperial => format!("{:.1} oz pull", newtons / 0.278_014),
    }
}

fn speed(value: MetresPerSecond, system: System) -> String {
    system.speed(value).to_string()
}

fn depth(value: Metres, system: System) -> String {
    system.depth(value).to_string()
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
            || weight.name(),
            |mass| format!("{} {}", system.mass_in_fractions(mass), weight.name()),
        ),
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

/// The word with a small letter first; the rest stays as it is.
pub fn small(word: &str) -> String {
    let mut characters = word.chars();
    characters
        .next()
        .map(|first| first.to_lowercase().chain(characters).collect())
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
    if outing.fish.suffers_in_warm_water() && outing.temperature > TROUT_LIMIT {
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

/// What is said at the moment a fish is to be let go: warm water, depth, a deep hook.
pub fn release_cautions(outing: &Outing, event: &Event, system: System) -> Vec<String> {
    let fish = event.caught.species.unwrap_or(outing.fish);
    let mut cautions = Vec::new();
    if event.kept == Some(true) {
        return cautions;
    }
    if fish.suffers_in_warm_water() && outing.temperature > TROUT_LIMIT {
        cautions
            .push("The water is too warm to release it well: be quick, keep it wet.".to_owned());
    }
    let down = event.line.and_then(|line| line.depth);
    if let Some(down) = down.filter(|down| *down >= PRESSURE_INJURY) {
        cautions.push(format!(
            "It came up from {}: it may be hurt by the change of pressure.",
            depth(down, system)
        ));
    }
    let hooked = event.caught.hooked.to_lowercase();
    if ["deep", "gut", "throat"]
        .iter()
        .any(|word| hooked.contains(word))
    {
        cautions.push("Hooked deep: cut the line.".to_owned());
    }
    cautions
}

/// How sure something is better, before "better".
pub fn surely(verdict: Verdict) -> &'static str {
    match verdict {
        Verdict::Clear => "clearly",
        Verdict::Likely => "likely",
        Verdict::Leaning => "perhaps",
        Verdict::CannotTell => "not known to be",
    }
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

/// The water that figures are for: "the water of Orrin Sound, salt, 54 °F".
pub fn water(body: &WaterBody, temperature: Celsius, system: System) -> String {
    format!(
        "the water of {}, {}, {}",
        body.name,
        if body.salt { "salt" } else { "fresh" },
        system.temperature(temperature)
    )
}

/// Why an act was not done, in a sentence.
pub fn refusal(refusal: &Refusal) -> String {
    let sentence = match refusal {
        Refusal::Overtaken { what } => format!(
            "The {what} has changed meanwhile, on another page or device; look at it as it is now and do it again"
        ),
        Refusal::NoWater => "An outing needs a water; open one and begin it there".to_owned(),
        Refusal::OnlyOuting => {
            "This is the only outing; begin a new one before you delete it".to_owned()
        }
        Refusal::OpenOnWater => {
            "The open outing is on this water; open another outing before you throw it away"
                .to_owned()
        }
        Refusal::NoRod(rod) => {
            format!("There is no rod {rod} on this outing any more; the log shows those there are")
        }
        Refusal::NoOutingThen(from, to) => format!(
            "No outing was fished while this track was recorded, from {} to {} UTC; begin one with those hours, or correct an outing’s beginning and end",
            from.strftime("%-d %B %Y, %H:%M"),
            to.strftime("%H:%M")
        ),
        Refusal::NoPlace => {
            "Nobody knows where the boat is: no receiver with a fix is heard; see to the instruments and mark it again".to_owned()
        }
        Refusal::NoPractice => "The open outing is no practice trip; begin one under Boat".to_owned(),
        Refusal::Over => "That outing or experiment is over; begin another one".to_owned(),
        Refusal::EndsFirst => "The pass ends before it begins; correct one of the two".to_owned(),
        Refusal::NoLine => {
            "No line runs yet; open a rig in the tank and run it, then log on it".to_owned()
        }
        Refusal::OtherRun => {
            "The open outing is on another water than this run; open one on its river to log casts"
                .to_owned()
        }
        Refusal::NothingThreaded => "Nothing is threaded yet; start with a blade".to_owned(),
        Refusal::NoSuchSwap => {
            "That blade cannot be hung on that rig any more; draw up the sheet again".to_owned()
        }
        Refusal::NoSuchStep { step, steps } => {
            format!("There is no step {step}; the rig has {steps}")
        }
        Refusal::Crew(crew) => format!("{crew} anglers cannot be aboard; give 1 to 12"),
        Refusal::OtherWater => "That rule is of another water".to_owned(),
        Refusal::Clock(why) | Refusal::Figure(why) => capital(&why.to_string()),
        other => format!("It was not done: {other:?}"),
    };
    format!("{sentence}.")
}

/// A stretch of time, to the nearest thing one would say.
pub fn stretch(seconds: f64) -> String {
    match seconds {
        s if s < 90.0 => format!("{s:.0} s"),
        s if s < 5_400.0 => format!("{:.0} min", s / 60.0),
        s => format!("{:.1} h", s / 3_600.0),
    }
}

/// A depth with its 80 % band, small and plain: "22 ft, 17–27".
pub fn sure(depth: Metres, band: &Band, system: System) -> String {
    format!(
        "{}, {}",
        system.depth(depth),
        system.between(band.low, band.high)
    )
}

/// What a band comes from, what a speed over ground would make of it, and what would narrow it.
pub fn because(depth: Metres, sure: &Sure, touches: usize, system: System) -> String {
    let most: Vec<String> = sure
        .depth
        .because
        .iter()
        .filter(|(_, share)| *share > 0.03)
        .map(|(source, share)| format!("{} {:.0} %", spread_of(*source, system), share * 100.0))
        .collect();
    let narrows = match touches {
        0 => "a touch of the bottom, noted below, narrows it".to_owned(),
        1 => "1 touch of the bottom has narrowed it; another narrows it more".to_owned(),
        many => format!("{many} touches of the bottom have narrowed it"),
    };
    format!(
        "steady shape of the line from weight, drag, speed and water. In eight cases of ten between {} {}; it comes from {}. If that speed is over ground and a current unknown: {}. {}",
        system.between(sure.depth.low, sure.depth.high),
        system.depth(depth).unit,
        most.join(", "),
        system.between(sure.over_ground.low, sure.over_ground.high),
        capital(&narrows)
    )
}

/// What is unsure, by how much (one standard deviation).
fn spread_of(source: Source, system: System) -> String {
    let speed = |mph: f64| system.slow_speed(mph * MILE_PER_HOUR);
    let named = match source {
        Source::Strum => "how a line strums (20 %)",
        Source::Diameter => "its diameter (8 %)",
        Source::NodeDrag => "the weight’s drag (25 %)",
        Source::TailDrag => "the rig’s drag (30 %)",
        Source::NodeWeight => "the weight (3 %)",
        Source::TopLength => "the counter (3 %)",
        Source::Speed => return format!("the speed ({})", speed(0.1)),
        Source::Current => return format!("an unknown current ({})", speed(0.2)),
    };
    named.to_owned()
}
