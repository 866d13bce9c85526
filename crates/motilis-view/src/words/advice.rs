//! What the match says: why a rig stands where it stands, term by term, and what would change its mind.

use super::{beats_a_minute, capital, depth, speed};
use crate::units::{Figure, Quantity, System, show};
use crate::words::bench;
use motilis_core::advice::Day;
use motilis_core::advice::{
    AboveClevisSchool, AttractorSchool, Basis, Call, Clearness, FlasherBladeSchool, HookSchool,
    Lighting, Misfit, Move, Nothing, Outfit, Reason, Response, Scored, Term, Tool, WeightSchool,
};
use motilis_core::bench::{Check, Level};
use motilis_core::line::LineSetup;
use motilis_core::rig::{BodyShape, Colour, Finish, Part, Rig};
use motilis_core::units::{FOOT, Metres, MetresPerSecond};

/// The one line that says why a rig stands where it stands on the sheet.
pub fn reason(call: &Call, rig: &Rig, system: System) -> String {
    match &call.reason {
        Reason::Short(short) => format!(
            "Cannot be built: {} needed of {}, {:.0} left in the box.",
            short.needs,
            bench::part(&short.part),
            short.left
        ),
        Reason::AgainstRule { topic, .. } => format!(
            "Against a rule you entered: {}. See below, and check the current regulations.",
            topic.name()
        ),
        Reason::Stalls { needs } => format!(
            "Blade hangs at this speed. Needs {} or more.",
            speed(*needs, system)
        ),
        Reason::RollsOver {
            above,
            twists_line: false,
        } => format!(
            "Blows out at this speed. Hold {} or less, or take narrower blades.",
            speed(*above, system)
        ),
        Reason::RollsOver {
            above,
            twists_line: true,
        } => format!(
            "Twists the line at this speed. Hold {} or less, or add a rudder.",
            speed(*above, system)
        ),
        Reason::Trips(release) => super::trips(release, system),
        Reason::NearStall { from } => {
            format!("Barely turns. Safe from {}.", speed(*from, system))
        }
        Reason::NearRollOver { to } => {
            format!("Close to rolling over. Safe to {}.", speed(*to, system))
        }
        Reason::LongLine { out, depth: down } => format!(
            "{} of line for {} down: too much. A heavier weight or another tool holds it.",
            depth(*out, system),
            depth(*down, system)
        ),
        Reason::BallForShallow { depth: down } => format!(
            "A downrigger’s ball is no tool for {}. Fish it on a light line.",
            depth(*down, system)
        ),
        Reason::AttractorIdle { from, to } => format!(
            "Its attractor works from {} to {} only.",
            system.speed(*from).value,
            speed(*to, system)
        ),
        Reason::NotCast => "It is trolled, and this water is a river: it stays at home.".to_owned(),
        Reason::BelowBottom { .. }
        | Reason::TooDeep { .. }
        | Reason::TooShallow { .. }
        | Reason::Drags => out_of_depth(&call.reason, system),
        Reason::Unsound { rule } => {
            let check = Check {
                rule: *rule,
                level: Level::Fail,
                at: None,
                mends: Vec::new(),
            };
            let (head, figures) = bench::check(&check, rig.stack(), system);
            format!("{head}: {}. Mend it on the bench.", figures.to_lowercase())
        }
        Reason::Practice(scored) => format!(
            "{}; {}.",
            beats_a_minute(&call.blade),
            basis(scored, system)
        ),
    }
}

fn out_of_depth(reason: &Reason, system: System) -> String {
    match reason {
        Reason::BelowBottom { bottom } => format!(
            "The depth wanted lies below the bottom at {}.",
            depth(*bottom, system)
        ),
        Reason::TooDeep {
            deepest,
            enough: Some((mass, out)),
        } => format!(
            "Runs no deeper than {}. {} would do it with {} out.",
            depth(*deepest, system),
            system.mass_in_fractions(*mass),
            depth(*out, system)
        ),
        Reason::TooDeep {
            deepest,
            enough: None,
        } => format!(
            "Runs no deeper than {} with all its line.",
            depth(*deepest, system)
        ),
        Reason::TooShallow { least } => format!(
            "Runs at {} or deeper whatever is let out.",
            depth(*least, system)
        ),
        _ => "Its weight drags on the bottom at that depth. Shorten the lead or run it higher."
            .to_owned(),
    }
}

/// The figures a term was counted from, in words; starts with a small letter, ends without a stop.
pub fn basis(scored: &Scored, system: System) -> String {
    match scored.basis {
        Basis::Speed {
            now,
            from,
            to,
            best,
        } => run_at(now, (from, to), best, system),
        Basis::Kind {
            kind,
            place: Some(0),
        } => format!("{} is what is tied for this fish first", kind.name()),
        Basis::Kind {
            kind,
            place: Some(_),
        } => format!("{} is tied for this fish", kind.name()),
        Basis::Kind { kind, place: None } => format!("{} is tied for other fish", kind.name()),
        Basis::Line { out: None, .. } => "its line does not take it there".to_owned(),
        Basis::Line {
            out: Some(out),
            depth: down,
            tool,
        } => format!(
            "{} of {} for {}: {:.1} times the depth",
            depth(out, system),
            if tool == Tool::Ball { "cable" } else { "line" },
            depth(down, system),
            out / down
        ),
        Basis::Run { body, depth, flow } => run(body, depth, flow, system),
        Basis::Thump { index, wanted } => thump(index, wanted),
        Basis::Seen { range, score, best } => format!(
            "seen from {}, {:.0} of 100 among these rigs",
            distance_within(range, system),
            if best > 0.0 {
                100.0 * score / best
            } else {
                0.0
            }
        ),
        Basis::Clarity { .. }
        | Basis::Light { .. }
        | Basis::Forage { .. }
        | Basis::Warmth { .. } => lore(scored, system),
        Basis::Size { length, forage } => format!(
            "{} beside forage of {}",
            system.size(length),
            system.size(forage)
        ),
        Basis::Bait { .. } => bait(scored),
        Basis::Cold { cold, .. } if cold <= 0.0 => "the water is not cold".to_owned(),
        Basis::Cold { span: None, .. } => "no wing in cold water".to_owned(),
        Basis::Cold {
            span: Some(span), ..
        } => format!(
            "cold water asks for a wing of 1½ in or more; this one spans {}",
            System::measure(span)
        ),
        Basis::Leader {
            test_lb, wanted_lb, ..
        } => {
            format!("{test_lb:.0} lb leader where {wanted_lb:.0} lb is asked for")
        }
        Basis::Evidence(belief) if belief.record.rod_hours <= 0.0 => {
            "nothing in your log at this depth and in this light yet".to_owned()
        }
        Basis::Evidence(belief) => {
            let (low, high) = belief.interval();
            format!(
                "{} fish in {:.1} rod-hours at this depth and in this light: {:.2} an hour, 80 % between {low:.2} and {high:.2}; yours on the whole {:.2}",
                belief.record.fish,
                belief.record.rod_hours,
                belief.rate(),
                belief.mean
            )
        }
        Basis::Hooks { .. }
        | Basis::Attractor { .. }
        | Basis::FlasherBlade { .. }
        | Basis::AboveClevis { .. }
        | Basis::Weight { .. }
        | Basis::Ready { .. }
        | Basis::Novelty { .. } => school(scored),
    }
}

fn run_at(
    now: MetresPerSecond,
    (from, to): (MetresPerSecond, MetresPerSecond),
    best: MetresPerSecond,
    system: System,
) -> String {
    let range = format!("{}–{}", system.speed(from).value, speed(to, system));
    if (now - best).0.abs() < 0.02 {
        format!("at its best speed today, {}", speed(best, system))
    } else if now < from || now > to {
        format!(
            "practice runs it at {range}, best today {}",
            speed(best, system)
        )
    } else {
        format!("in its {range}, best today {}", speed(best, system))
    }
}

/// What a body is for in a run.
fn run(body: Option<BodyShape>, down: Metres, flow: MetresPerSecond, system: System) -> String {
    let of = format!(
        "a run of {} at {}",
        depth(down, system),
        speed(flow, system)
    );
    let six = depth(6.0 * FOOT, system);
    match body {
        Some(BodyShape::Torpedo) => {
            format!("torpedo body, for runs to {six} at walking pace and more; here {of}")
        }
        Some(BodyShape::Bell) => format!("bell body, for fast water under {six}; here {of}"),
        Some(BodyShape::TailWeight) => format!("tail weight, it sinks tail first; here {of}"),
        Some(BodyShape::Ring) | None => {
            format!("no body of its own, weight up the line; here {of}")
        }
    }
}

/// What practice does about how the fish answered so far; `None` where the log tells nothing.
pub fn response(day: &Day, system: System) -> Option<String> {
    match day.response {
        Response::Unknown => None,
        Response::Follow => {
            let slower = |share: f64| system.speed(share * day.speed);
            Some(format!(
                "They follow and turn away: slow down step by step, {}, {}, {}.",
                slower(0.9).value,
                slower(0.8).value,
                slower(0.7)
            ))
        }
        Response::Short => Some(
            "They strike short: feed line at the hit and let the blade turn, set the trailing hook at the bait’s tail, put on \
             fresh or shorter bait and scent, trim the skirt to the hook’s bend."
                .to_owned(),
        ),
    }
}

fn thump(index: f64, wanted: f64) -> String {
    let said = match index / wanted {
        share if share > 1.25 => "louder than asked for",
        share if share < 0.8 => "quieter than asked for",
        _ => "as loud as asked for",
    };
    format!("thump {index:.1}, {wanted:.1} wanted: {said}")
}

fn lore(scored: &Scored, system: System) -> String {
    let good = scored.points() > 0.0;
    match scored.basis {
        Basis::Clarity { clearness, colour } => {
            let water = match clearness.most() {
                Clearness::Clear => "clear",
                Clearness::Stained => "stained",
                Clearness::Dirty => "dirty",
            };
            match scored.points() {
                points if points > 0.0 => {
                    format!("anglers like {} in {water} water", colour.name())
                }
                points if points < 0.0 => {
                    format!("anglers leave {} home in {water} water", colour.name())
                }
                _ => format!(
                    "anglers have no saying about {} in {water} water",
                    colour.name()
                ),
            }
        }
        Basis::Light { lighting, finish } => {
            let light = match lighting.most() {
                Lighting::Dark => "in the dark",
                Lighting::Low => "in low light",
                Lighting::Even => "in even light",
                Lighting::Bright => "in bright sun",
            };
            let name = finish_name(finish);
            if good {
                format!("anglers like {name} {light}")
            } else if scored.points() < 0.0 {
                format!("anglers leave {name} home {light}")
            } else {
                format!("anglers have no saying about {name} {light}")
            }
        }
        Basis::Forage { forage, colour } if good => {
            format!("{} goes with {}", colour.name(), forage.name())
        }
        Basis::Forage { forage, colour } => {
            format!("{} is no match for {}", colour.name(), forage.name())
        }
        Basis::Warmth { .. } if good => "copper in its own water".to_owned(),
        Basis::Warmth {
            temperature,
            colour: Colour::Copper,
        } => format!(
            "copper’s water is warmer or cooler than {}",
            system.temperature(temperature)
        ),
        _ => "speaks of copper only".to_owned(),
    }
}

fn bait(scored: &Scored) -> String {
    let Basis::Bait {
        bait,
        place,
        wanted,
        stripped,
    } = scored.basis
    else {
        return String::new();
    };
    let fits = match (bait, place) {
        (None, _) if wanted => "no bait where most are caught on it".to_owned(),
        (None, _) => "no bait, and none needed".to_owned(),
        (Some(bait), Some(0)) => format!("{} is their first bait", bait.name()),
        (Some(bait), Some(_)) => format!("{} is taken", bait.name()),
        (Some(bait), None) => format!("{} is no bait for them", bait.name()),
    };
    if stripped {
        format!("{fits}; small fish strip the second hook")
    } else {
        fits
    }
}

fn school(scored: &Scored) -> String {
    match scored.basis {
        Basis::Hooks { treble: None, .. } => "no spinner of wire".to_owned(),
        Basis::Hooks {
            treble: Some(treble),
            school,
        } => {
            let asked = match school {
                HookSchool::Single => "your school fishes singles",
                HookSchool::Treble => "your school fishes trebles",
            };
            format!("{}; {asked}", if treble { "treble" } else { "single hook" })
        }
        Basis::Attractor { has: None, .. } => "not a fish for attractors".to_owned(),
        Basis::Attractor {
            has: Some(has),
            school,
            ..
        } => {
            let asked = match school {
                AttractorSchool::Half => "your school has half the lines with",
                AttractorSchool::Always => "your school has all lines with",
                AttractorSchool::Never => "your school has none",
            };
            format!(
                "{} attractor; {asked}",
                if has { "with" } else { "without" }
            )
        }
        Basis::FlasherBlade { family: None, .. } => "no rotating flasher ahead".to_owned(),
        Basis::FlasherBlade {
            family: Some(family),
            school,
        } => {
            let asked = match school {
                FlasherBladeSchool::Indiana => "Indiana",
                FlasherBladeSchool::Colorado => "Colorado",
                FlasherBladeSchool::MagnumWillow => "magnum willow",
            };
            format!(
                "{} behind the flasher; your school hangs {asked}",
                family.name()
            )
        }
        Basis::AboveClevis { blades, school } => {
            let asked = match school {
                AboveClevisSchool::None => "one, least drag",
                AboveClevisSchool::SecondBlade => "two, more pull",
            };
            format!(
                "{blades} blade{}; your school hangs {asked}",
                if blades == 1 { "" } else { "s" }
            )
        }
        Basis::Weight { place: None, .. } => "no inline spinner".to_owned(),
        Basis::Weight {
            place: Some(place),
            school,
        } => {
            let of = |school| match school {
                WeightSchool::Front => "at the front",
                WeightSchool::Tail => "at the tail",
                WeightSchool::UpTheLine => "up the line",
            };
            format!("weight {}; your school has it {}", of(place), of(school))
        }
        Basis::Ready { made_up: true, .. } => "lies made up in the box".to_owned(),
        Basis::Ready { changes: 0, .. } => "to be built from the box".to_owned(),
        Basis::Ready { changes, .. } => format!(
            "to be built with {changes} part{} changed",
            if changes == 1 { "" } else { "s" }
        ),
        Basis::Novelty {
            like_the_crowd: Some(true),
            ..
        } => "everybody drags it".to_owned(),
        Basis::Novelty {
            like_the_crowd: Some(false),
            ..
        } => "the others drag something else".to_owned(),
        Basis::Novelty { certainty, .. } if certainty < 0.2 => "hardly tried yet".to_owned(),
        _ => "you know it well".to_owned(),
    }
}

/// What kind of figure a term is.
pub fn kind_of_figure(scored: &Scored) -> &'static str {
    if matches!(scored.basis, Basis::Run { .. }) {
        return "common practice, no source";
    }
    match scored.term() {
        Term::Seen | Term::Thump | Term::Line => "computed",
        Term::Evidence | Term::Novelty => "from your log",
        Term::Ready => "from your box",
        Term::Hooks
        | Term::Attractor
        | Term::FlasherBlade
        | Term::AboveClevis
        | Term::Weight
        | Term::Leader => "your school, common practice",
        Term::Size => "from memory",
        _ => "common practice, no source",
    }
}

/// A finish: "hammered brass", "chartreuse".
pub fn finish_name(finish: Finish) -> String {
    bench::finish(finish)
}

/// A distance under water: centimetres or inches below a metre, the light model knows no better.
pub fn distance(range: Metres, system: System) -> String {
    if range.0 < 0.1 {
        return "nowhere but at the nose".to_owned();
    }
    system.depth(range).to_string()
}

/// The same with its 80 % band: "11 ft (8–15)".
pub fn distance_within(range: f64, system: System) -> String {
    let seen = distance(Metres(range), system);
    if range < 0.1 {
        return seen;
    }
    let (low, high) = motilis_core::light::band_of(range);
    format!("{seen} ({})", system.between(Metres(low), Metres(high)))
}

/// What to change on a rig: "Swap the blade for Indiana 4, hammered copper".
pub fn swap(changes: &[Part]) -> String {
    let names: Vec<String> = changes.iter().map(bench::part).collect();
    match names.as_slice() {
        [] => String::new(),
        [blade] => format!("Swap the blade for {blade}"),
        [blade, rest @ ..] => {
            format!("Swap the blade for {blade}, on a {}", rest.join(" and a "))
        }
    }
}

/// A condition moved: "If the sky turns to cloud".
pub fn moved(moved: Move, system: System) -> String {
    let to = |quantity, si| -> Figure { show(quantity, si, system) };
    match moved {
        Move::Sky(sky) => format!("If the sky turns to {}", sky.name()),
        Move::Temperature(celsius) => format!(
            "If the water comes to {}",
            to(Quantity::Temperature, celsius.0)
        ),
        Move::Clarity(clarity) => format!(
            "If a white disk is lost at {}",
            to(Quantity::Depth, clarity.0)
        ),
        Move::Sun(altitude) if altitude < 0.0 => "At last light".to_owned(),
        Move::Sun(_) => "When the sun stands high".to_owned(),
        Move::Mood(mood) => format!("If they turn {}", mood.name()),
        Move::Speed(fast) => format!("At {}", to(Quantity::Speed, fast.0)),
    }
}

/// A sentence out of a phrase.
pub fn sentence(phrase: &str) -> String {
    format!("{}.", capital(phrase))
}

/// That nothing fits, what comes nearest and what would make it fit.
pub fn nothing(nothing: &Nothing, nearest: Option<&str>, day: &Day, system: System) -> String {
    let asked = speed(day.speed, system);
    let fish = day.fish.name();
    let build = nothing.build.map_or_else(
        || "build one that runs at that speed".to_owned(),
        |kind| format!("build: {}", kind.name()),
    );
    match (nothing.misfit, nearest) {
        (Misfit::Speed, Some(name)) => {
            let best = nothing.best_speed;
            let turn = if best < day.speed { "Slow" } else { "Speed up" };
            format!(
                "Nothing in the box fits {asked} for {fish}. Nearest is {name}, at its best at {}. {turn} to that, or {build}.",
                speed(best, system)
            )
        }
        (Misfit::Depth, Some(name)) => format!(
            "Nothing in the box can go out for {fish} like this. Nearest is {name}; the list below says what it needs."
        ),
        _ => format!(
            "Nothing in the box is tied for {fish}. {}.",
            capital(&build)
        ),
    }
}

/// What a call puts on instead of what its set-up has: "2 oz instead of 1 oz".
pub fn instead(outfit: &Outfit, own: &LineSetup, system: System) -> Option<String> {
    if outfit.tool.is_some() {
        return Some(format!("instead of {}", own.name));
    }
    let own = own.weight.and_then(|weight| weight.mass())?;
    let put_on = outfit.weight?;
    Some(format!(
        "{} instead of {}",
        system.mass_in_fractions(put_on),
        system.mass_in_fractions(own)
    ))
}
