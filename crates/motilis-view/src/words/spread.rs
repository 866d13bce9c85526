//! What is said of a spread.

use crate::units::System;
use motilis_core::line::Start;
use motilis_core::motion::{Course, Recording};
use motilis_core::spread::{Fault, Group, LineRunning, Mend, Rod, Side, State, Towed};
use motilis_core::units::{Metres, MetresPerSecond};

fn depth(metres: Metres, system: System) -> String {
    system.depth(metres).to_string()
}

fn speed(value: MetresPerSecond, system: System) -> String {
    system.speed(value).to_string()
}

/// Where a rod stands and what its line runs from: "P4, board at 50 ft".
pub fn place(rod: &Rod, system: System) -> String {
    match (rod.setup.start, rod.board) {
        (Start::Board, Some(board)) => format!("{}, board at {}", rod.holder, depth(board, system)),
        (Start::Downrigger { above, .. }, _) if above.0 > 0.0 => {
            format!("{}, {} above the ball", rod.holder, depth(above, system))
        }
        (Start::Downrigger { .. }, _) => format!("{}, downrigger", rod.holder),
        _ => format!("{}, {}", rod.holder, rod.stance.name()),
    }
}

/// What takes it down: "1 oz clip-on weight", "lead-core", "flat line".
pub fn tool(rod: &Rod, system: System) -> String {
    let setup = &rod.setup;
    if setup.weight.is_none() && rod.group() == Group::Unweighted {
        return if let Some(core) = setup.core {
            format!(
                "{} of {}",
                depth(core.length, system),
                core.stock.material.name()
            )
        } else if rod.goes_deep()
            && setup.main.material != motilis_core::tackle::LineMaterial::Nylon
        {
            setup.main.material.name().to_owned()
        } else {
            "flat line".to_owned()
        };
    }
    super::weight(setup, system)
}

/// What is out, by colours where the line has them: "back 90 ft, 3 colours".
pub fn out(rod: &Rod, system: System) -> String {
    use motilis_core::line::COLOUR;
    use motilis_core::tackle::LineMaterial::LeadCore;
    let length = if rod.setup.lets_out_cable() {
        format!("{} of cable", depth(rod.out, system))
    } else {
        depth(rod.out, system)
    };
    let dyed = if rod.setup.main.material == LeadCore {
        Some(rod.out)
    } else {
        rod.setup
            .core
            .filter(|core| core.stock.material == LeadCore)
            .map(|core| Metres(core.length.0.min(rod.out.0)))
    };
    dyed.map_or(length.clone(), |dyed| {
        format!("{length}, {:.1} colours", dyed / COLOUR)
    })
}

/// What its blade or lure does.
pub fn state(line: &LineRunning) -> &'static str {
    match line.state {
        State::Works if line.blade.is_some() => "Turning",
        State::Works => "Working",
        State::Stalled => "Stalled",
        State::RollingOver => "Rolling over",
        State::TooSlow => "Too slow",
        State::TooFast => "Too fast",
    }
}

/// That a lure's dive table was made on another line, and is converted.
pub fn converted(rod: &Rod) -> String {
    match &rod.towed {
        Towed::Lure(lure) if lure.is_converted_on(&rod.setup) => {
            let on = lure.on.map_or_else(String::new, |on| {
                format!("{} lb {}", on.test_lb, on.material.name())
            });
            format!("; its table is of {on}, converted to this line")
        }
        _ => String::new(),
    }
}

/// What is wrong, in a word or two for a tag.
pub fn trouble(fault: &Fault) -> &'static str {
    match fault {
        Fault::Unsolved(_) => "cannot run",
        Fault::Stalled { .. } => "stalled",
        Fault::RollingOver { .. } => "rolling over",
        Fault::TooSlow { .. } => "too slow",
        Fault::TooFast { .. } => "too fast",
        Fault::OutsideWindow => "near its limit",
        Fault::Trips(_) => "trips by itself",
        Fault::OnBottom { .. } => "on bottom",
        Fault::Near { .. } => "near a line",
        Fault::LeaderTooLong { .. } => "long leader",
        Fault::TooManyRods { .. } => "too many",
    }
}

/// What is wrong, in a sentence.
pub fn fault(fault: &Fault, system: System) -> String {
    match fault {
        Fault::Unsolved(error) => format!("{}.", super::capital(&error.to_string())),
        Fault::Stalled { starts } => {
            format!("The blade hangs; it starts at {}.", speed(*starts, system))
        }
        Fault::RollingOver { above } => format!(
            "The whole rig turns instead of its blade above {}.",
            speed(*above, system)
        ),
        Fault::TooSlow { from } => format!("It works from {} on.", speed(*from, system)),
        Fault::TooFast { to } => format!("It works up to {}.", speed(*to, system)),
        Fault::OutsideWindow => {
            "It turns, but so near its limit that a wave or a bend stops it.".to_owned()
        }
        Fault::Trips(release) => super::trips(release, system),
        Fault::OnBottom { too_much, .. } => {
            format!("On the bottom: {} too much line.", depth(*too_much, system))
        }
        Fault::Near { other, distance } => format!(
            "Comes within {} of line {}.",
            depth(*distance, system),
            other + 1
        ),
        Fault::LeaderTooLong { most } => format!(
            "The leader is longer than the {} rod, so the fish stays out of reach of the net (common practice).",
            depth(*most, system)
        ),
        Fault::TooManyRods { allowed } => format!(
            "More lines than the {allowed} that the rules you entered allow; check the local rules."
        ),
    }
}

/// A mend, on its button.
pub fn mend(mend: &Mend, rig: Option<&str>, system: System) -> String {
    match mend {
        Mend::Speed(to) => format!("Set {}", speed(*to, system)),
        Mend::Swap(_) => format!("Put on {}", rig.unwrap_or("another rig")),
        Mend::Out(out) => format!("Set it {} back", depth(*out, system)),
        Mend::Board(board) => format!("Board at {}", depth(*board, system)),
        Mend::Lead(lead) => format!("Leader of {}", depth(*lead, system)),
        Mend::Radius(radius) => format!("Turn no tighter than {}", depth(*radius, system)),
        Mend::TakeIn => "Take it in".to_owned(),
    }
}

/// What a course is.
pub fn course(course: &Course, system: System) -> String {
    match course {
        Course::Straight => "straight on".to_owned(),
        Course::Circle { radius, to } => {
            format!("circle of {} to {}", depth(*radius, system), to.name())
        }
        Course::STurns { radius, .. } => format!("S-turns of {}", depth(*radius, system)),
        Course::Pulses { share, every_s } => {
            format!(
                "{:.0} % faster and slower every {every_s:.0} s",
                share * 100.0
            )
        }
        Course::StopAndGo { go_s, stop_s } => {
            format!("{stop_s:.0} s stopped, {go_s:.0} s under way")
        }
        Course::FishOn { share } => format!("a fish on: slowed to {:.0} %", share * 100.0),
    }
}

/// What happened to a line in a run, worst first, and whether anything did.
pub fn happened(
    recording: &Recording,
    place: usize,
    system: System,
) -> (&'static str, Vec<String>) {
    let lines = || recording.frames.iter().map(|frame| &frame.lines[place]);
    let seconds = |count: usize| format!("{:.0} s", count as f64 * recording.every_s);
    let mut told = Vec::new();
    let count = |is: &dyn Fn(&motilis_core::motion::LineFrame) -> bool| {
        lines().filter(|line| is(line)).count()
    };
    let bottom = count(&|line| line.on_bottom);
    if bottom > 0 {
        told.push(format!("On the bottom for {}.", seconds(bottom)));
    }
    for (state, words) in [
        (State::Stalled, "Stalled"),
        (State::RollingOver, "Rolling over"),
        (State::TooSlow, "Too slow"),
        (State::TooFast, "Too fast"),
    ] {
        let so = count(&|line| line.state == state);
        if so > 0 {
            told.push(format!("{words} for {}.", seconds(so)));
        }
    }
    let nearest = recording
        .frames
        .iter()
        .flat_map(|frame| &frame.near)
        .filter(|near| near.lines.0 == place || near.lines.1 == place)
        .min_by(|a, b| a.distance.0.total_cmp(&b.distance.0));
    if let Some(near) = nearest {
        let other = if near.lines.0 == place {
            near.lines.1
        } else {
            near.lines.0
        };
        told.push(format!(
            "Came within {} of line {}.",
            depth(near.distance, system),
            other + 1
        ));
    }
    let mark = if told.is_empty() { "works" } else { "cannot" };
    let (least, most) = lines().fold((f64::INFINITY, 0.0_f64), |(least, most), line| {
        (least.min(line.depth.0), most.max(line.depth.0))
    });
    let (least, most) = (system.depth(Metres(least)), system.depth(Metres(most)));
    told.push(if least == most {
        format!("Always {most} down.")
    } else {
        format!("Between {} and {most} down.", least.value)
    });
    (mark, told)
}

/// A smallest safe turn.
pub fn safe_turn(to: Side, radius: Option<Metres>, by: Option<usize>, system: System) -> String {
    match (radius, by) {
        (Some(radius), Some(by)) => format!(
            "Safe to {} down to {}, set by line {}.",
            to.name(),
            depth(radius, system),
            by + 1
        ),
        (Some(radius), None) => format!("Safe to {} down to {}.", to.name(), depth(radius, system)),
        (None, _) => format!("No turn to {} keeps every line fishing.", to.name()),
    }
}
