//! A plug or spoon with the angler's own dive table.

use super::setup::{spools, stock};
use super::{Typed, problem, text};
use crate::screens::LureForm;
use crate::units::{Problem, Quantity, Reader, System};
use motilis_core::book::plain_text;
use motilis_core::fields;
use motilis_core::rig::Practice;
use motilis_core::spread::{DiveTable, Lure};
use motilis_core::tackle::LineMaterial;
use motilis_core::units::{Metres, MetresPerSecond};
use serde::Deserialize;

/// A lure as typed.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub struct RawLure {
    name: String,
    from: String,
    favourite: String,
    to: String,
    line: String,
    pairs: String,
}

/// The form, with the lure it makes when nothing is wrong with it.
pub fn read(raw: &RawLure, system: System, blank: bool) -> (LureForm, Option<Lure>) {
    let speed =
        |asked, label, typed: &str| Typed::new(asked, label, (Quantity::Speed, system), typed);
    let mut name = text("name", "Name", raw.name.trim());
    let mut speeds = [
        speed(fields::LURE_FROM, "Works from", &raw.from),
        speed(fields::LURE_FAVOURITE, "Best at", &raw.favourite),
        speed(fields::LURE_TO, "Works up to", &raw.to),
    ];
    let mut trouble = String::new();
    let mut made = None;
    if !blank {
        let [from, favourite, to] = speeds
            .each_mut()
            .map(|typed| MetresPerSecond(typed.or(0.0)));
        let table = pairs(&raw.pairs, system);
        if name.value.is_empty() {
            name.problem = Some(Problem(
                "A lure needs a name; give it the one you use on the boat.".into(),
            ));
        } else if let Err(error) = plain_text("name", &name.value, 60) {
            name.problem = Some(problem(&error));
        }
        let speeds_read = speeds.iter().all(|typed| typed.field.problem.is_none());
        match table {
            Err(sentence) => trouble = sentence,
            Ok(table) if speeds_read && name.problem.is_none() => {
                let practice = Practice {
                    from,
                    favourite,
                    to,
                };
                match Lure::new(name.value.clone(), practice, table) {
                    Ok(lure) => made = Some(lure.measured_on(stock(&raw.line))),
                    Err(error) => speeds[1].field.problem = Some(problem(&error)),
                }
            }
            Ok(_) => {}
        }
    }
    let mut fields = vec![name];
    fields.extend(speeds.map(|typed| typed.field));
    let form = LureForm {
        fields,
        line: spools(
            &raw.line,
            |material| matches!(material, LineMaterial::Nylon | LineMaterial::Braid),
            Some("not known"),
        ),
        pairs: raw.pairs.clone(),
        problem: trouble,
    };
    (form, made)
}

/// Pairs, one a line: setback and depth in the boat's units, or with their own.
fn pairs(typed: &str, system: System) -> Result<DiveTable, String> {
    let reader = |label, range| Reader {
        label,
        quantity: Quantity::Depth,
        system,
        range,
    };
    let mut pairs = Vec::new();
    for (number, line) in typed
        .lines()
        .filter(|line| !line.trim().is_empty())
        .enumerate()
    {
        // A comma or a tab between the two, or the blank between two plain figures.
        let halves = line
            .split_once(['\t', ';'])
            .or_else(|| line.trim().split_once(' '))
            .ok_or_else(|| {
                format!(
                    "Line {} holds one figure; give setback and depth, like 40 5.",
                    number + 1
                )
            })?;
        let out = reader("Setback", fields::OUT.range).read(halves.0);
        let depth = reader("Depth", fields::DEPTH.range).read(halves.1);
        let at = |sentence: String| format!("Line {}: {sentence}", number + 1);
        pairs.push((
            Metres(out.map_err(|problem| at(problem.0))?),
            Metres(depth.map_err(|problem| at(problem.0))?),
        ));
    }
    DiveTable::new(pairs).map_err(|error| problem(&error).0)
}
