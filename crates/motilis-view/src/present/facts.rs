//! Figures of a rig beside its drawing: mass, blade, sinking, cost, what to cut.

use super::stir;
use crate::screens::{Fact, Kind};
use crate::seen::Seen;
use crate::units::System;
use crate::words::{self, bench as say};
use motilis_core::bench::{Attitude, Checked, Cut};
use motilis_core::blade::{State, Window};
use motilis_core::book::PartId;
use motilis_core::rig::{Part, Stack, What};
use motilis_core::units::{INCH, MetresPerSecond};
use motilis_helm::Shop;

fn fact(label: &'static str, value: String, from: impl Into<String>) -> Fact {
    Fact {
        label,
        value,
        kind: Kind::Computed,
        from: from.into(),
    }
}

/// All of them.
pub(crate) fn facts(shop: &Seen<Shop>, checked: &Checked) -> Vec<Fact> {
    let overall = checked.layout.overall();
    let mut facts = vec![
        fact(
            "Length over all",
            format!("{:.1} in, {}", overall / INCH, say::mm(overall)),
            "parts in their places",
        ),
        fact(
            "Mass",
            say::grams(checked.figures.mass),
            "sizes and densities of the parts, without line",
        ),
    ];
    facts.extend(body(&shop.board.stack));
    facts.extend(blade(shop, checked));
    facts.extend(sinking(checked, shop.device.system));
    let (sum, unknown) = cost(shop, checked);
    let from = if unknown == 0 {
        "unit costs in the box".to_owned()
    } else {
        format!("unit costs in the box; {unknown} kinds of part have none")
    };
    facts.push(fact("Cost of one", format!("{sum:.2}"), from));
    facts.push(fact(
        "To cut",
        say::both(checked.cut.whole),
        where_it_goes(&checked.cut, shop.board.stack.mount.is_wire()),
    ));
    facts
}

/// The body by its weight and volume.
fn body(stack: &Stack) -> Option<Fact> {
    let is_body = |part: &Part| matches!(part.what(), What::Body(_));
    let piece = stack.pieces.iter().find(|piece| is_body(&piece.part))?;
    let part = &piece.part;
    let volume = part.mass().0 / part.material.density().0;
    Some(fact(
        "Body",
        format!(
            "{}, {:.2} cm³, {} by {}",
            say::grams(part.mass()),
            volume * 1e6,
            say::mm(part.diameter()),
            say::mm(part.length())
        ),
        "mass over the density of its material; width and length from the shape’s proportions (from memory) until you measure them",
    ))
}

/// Start, window, roll-over, drag and turns of a rig that can run; why it cannot, of one that cannot.
fn blade(shop: &Seen<Shop>, checked: &Checked) -> Vec<Fact> {
    let Some(running) = checked.figures.running else {
        let why = checked.figures.unfit.as_ref();
        let sentence = why.map_or_else(String::new, |why| words::capital(&why.to_string()));
        return vec![fact(
            "Cannot run yet",
            sentence,
            "a hook, and a blade or a pair that the model can bear",
        )];
    };
    let at_speed = running.at_speed;
    let speed = |speed: MetresPerSecond| shop.device.system.speed(speed);
    let slow = |speed: MetresPerSecond| shop.device.system.slow_speed(speed);
    let window = &running.window;
    let mut facts = Vec::new();
    if at_speed.state != State::Bare {
        let (low, high) = at_speed.start_band();
        facts.push(fact(
            "Starts",
            format!(
                "{}, {}–{}",
                slow(at_speed.start),
                slow(low).value,
                slow(high).value
            ),
            format!(
                "the blade’s thickness and density; a model of ours, in {}. Eight cases of ten lie between; a dunk test narrows it",
                water(shop)
            ),
        ));
    }
    facts.extend([usable(window, &water(shop), shop.device.system)]);
    facts.extend(at_speed.roll_over.map(|roll| {
        fact(
            "Rolls over",
            speed(roll).to_string(),
            "clevis friction against what hooks, bait and rudder hold upright",
        )
    }));
    facts.push(fact(
        "Drag area",
        format!("{:.1} cm²", running.drag_area.0 * 1e4),
        "blade turning at its favourite speed, hooks, dressing, bait",
    ));
    if at_speed.state != State::Bare {
        facts.push(fact(
            words::beats(at_speed.state),
            words::turns_a_minute(at_speed.turns),
            "at its favourite speed",
        ));
    }
    facts.extend(running.bait.as_ref().map(stir::bait));
    if let Some(attractor) = &running.attractor {
        facts.extend(stir::attractor(attractor, shop.device.system));
    }
    facts.push(stir::held(&running.spin));
    facts
}

/// The speeds at which a rig works in a water.
pub(crate) fn usable(window: &Window, water: &str, system: System) -> Fact {
    let speed = |speed: MetresPerSecond| system.speed(speed);
    let value = window.to.map_or_else(
        || format!("from {}", speed(window.from)),
        |to| format!("{}–{}", speed(window.from).value, speed(to)),
    );
    let from = format!("1.2 times the start to 0.9 times the roll-over, in {water}");
    fact("Usable", value, from)
}

/// The water the figures are for, in words.
pub(crate) fn water(shop: &Seen<Shop>) -> String {
    let warm = shop.device.system.temperature(shop.temperature);
    match &shop.here {
        Some(here) => words::water(&here.water, shop.temperature, shop.device.system),
        None => format!("fresh water of {warm}"),
    }
}

/// How fast it sinks, and which end is down.
fn sinking(checked: &Checked, system: System) -> [Fact; 2] {
    let figures = &checked.figures;
    let sinks = if figures.attitude == Attitude::Floats {
        "floats".to_owned()
    } else {
        system.sinking(figures.sink_speed)
    };
    let lever = figures.centre_of_mass - figures.centre_of_drag;
    let balance = match figures.attitude {
        Attitude::TailFirst => format!("tail heavy by {}", say::mm(lever)),
        Attitude::NoseFirst => format!("nose heavy by {}", say::mm(-lever)),
        Attitude::Level => "level".to_owned(),
        Attitude::Floats => "floats".to_owned(),
    };
    [
        fact(
            "Sinks",
            sinks,
            "weight under water against drag, blade hanging",
        ),
        fact(
            "Balance",
            balance,
            "centre of mass behind the centre of drag area",
        ),
    ]
}

/// Where the cut piece goes.
fn where_it_goes(cut: &Cut, wire: bool) -> String {
    if wire {
        let eye = cut
            .eyes
            .first()
            .map_or_else(String::new, |eye| say::mm(*eye));
        return format!(
            "{} straight, two eyes of {eye} with wraps and tail",
            say::mm(cut.straight)
        );
    }
    let snells: Vec<String> = cut.snells.iter().map(|snell| say::mm(*snell)).collect();
    format!(
        "{} finished, {} between hooks, snells {}, front knot {}",
        say::mm(cut.straight),
        say::mm(cut.between_hooks),
        snells.join(" and "),
        say::mm(cut.knot)
    )
}

/// What one rig costs, as far as costs are known, and how many of its kinds of part have none.
fn cost(shop: &Shop, checked: &Checked) -> (f64, usize) {
    let stack = &shop.board.stack;
    let unit = |id: Option<PartId>| {
        shop.stock
            .iter()
            .find(|(known, _)| Some(*known) == id)
            .and_then(|(_, boxed)| boxed.unit_cost)
    };
    let mut parts: Vec<(f64, Option<f64>)> = stack
        .pieces
        .iter()
        .map(|piece| (f64::from(piece.count), unit(piece.stock)))
        .collect();
    parts.push((checked.cut.whole.0, unit(stack.mount.stock)));
    let unknown = parts.iter().filter(|(_, cost)| cost.is_none()).count();
    let sum = parts
        .iter()
        .filter_map(|(count, cost)| Some(count * (*cost)?))
        .sum();
    (sum, unknown)
}
