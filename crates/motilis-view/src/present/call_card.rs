//! The half page to print, and what would change the call.

use super::today::rules_of;
use super::{frame, pick};
use crate::screens::{CallCard, Changes, Screen};
use crate::seen::Seen;
use crate::units::{Quantity, show};
use crate::words::{self, advice as say};
use motilis_core::advice::{Stand, moves, what_would_change};
use motilis_helm::{Desk, Error};

/// The call sheet to print.
pub fn call_card(desk: &Seen<Desk>) -> Result<CallCard, Error> {
    let (judge, _, sheet) = desk.sheet()?;
    let (here, system) = (&desk.here, desk.device.system);
    let outing = &here.outing;
    let started = here.local(outing.started);
    Ok(CallCard {
        head: format!(
            "{}, {}",
            here.water.name,
            started.strftime("%a %-d %B %Y, %H:%M")
        ),
        conditions: conditions(desk),
        picks: pick::cards(desk, &judge, &sheet)?,
        nothing: super::today::nothing(desk, &sheet).unwrap_or_default(),
        rules: rules_of(desk),
        cautions: words::cautions_of_day(outing, system),
        frame: frame(Some(here), Screen::Today, desk.device, "/today/card"),
    })
}

fn conditions(desk: &Seen<Desk>) -> String {
    let outing = &desk.here.outing;
    let figure = |quantity, si| show(quantity, si, desk.device.system).to_string();
    format!(
        "{}, {}; {} water, disk lost at {}; {}, {}; water {}; rig at {}.",
        outing.fish.name(),
        outing.mood.name(),
        outing.stain.name(),
        figure(Quantity::Depth, outing.clarity.0),
        outing.sky.name(),
        outing.wind.name(),
        figure(Quantity::Temperature, outing.temperature.0),
        figure(Quantity::Depth, outing.wanted_depth.0),
    )
}

/// What would change the first call.
pub fn changes(desk: &Seen<Desk>) -> Result<Changes, Error> {
    let system = desk.device.system;
    let (_, _, sheet) = desk.sheet()?;
    let first = sheet.picks.first().map(|pick| pick.index);
    let mark = |index| desk.mark(index);
    let changed = what_would_change(&desk.day, &desk.ways, &desk.candidates, first, mark)?;
    let tried = moves(&desk.day);
    let kept: Vec<String> = tried
        .iter()
        .filter(|moved| !changed.iter().any(|change| change.moved == **moved))
        .map(|moved| words::small(&say::moved(*moved, system)))
        .collect();
    let instead = |index: Option<usize>, none: &str| {
        index.map_or_else(|| none.to_owned(), |index| called(desk, index))
    };
    Ok(Changes {
        frame: frame(
            Some(&desk.here),
            Screen::Today,
            desk.device,
            "/today/changes",
        ),
        first: instead(first, "nothing"),
        changes: changed
            .iter()
            .map(|change| {
                let then = instead(change.instead, "no rig would work");
                (say::moved(change.moved, system), then)
            })
            .collect(),
        tried: if kept.is_empty() {
            String::new()
        } else {
            format!("It holds {}.", kept.join(", "))
        },
    })
}

fn called(desk: &Desk, index: usize) -> String {
    let candidate = &desk.candidates[index];
    match &candidate.stand {
        Stand::Buildable(changes) if !changes.is_empty() => {
            format!(
                "{}: {}",
                candidate.rig.name,
                words::small(&say::swap(changes))
            )
        }
        _ => candidate.name.clone(),
    }
}
