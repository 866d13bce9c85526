//! What is observed in the tank's own words: dunk tests of a blade, touches of the bottom.

use super::tank::{RawTank, Settled};
use super::{Typed, problem};
use crate::screens::{Choice, Field};
use crate::seen::Seen;
use crate::units::{Quantity, System};
use jiff::Timestamp;
use motilis_core::blade::Observation;
use motilis_core::book::{BottomTouch, DunkTest};
use motilis_core::fields;
use motilis_core::line::Touch;
use motilis_core::units::{Hertz, Metres, MetresPerSecond};
use motilis_helm::{Error, ObservedAct, Tank};
use serde::Deserialize;
use std::sync::Arc;

/// Turns of a blade in ten seconds.
/// The dunk test's form, with the tank it came from.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub struct RawDunk {
    /// The tank.
    #[serde(flatten)]
    pub tank: RawTank,
    seen: String,
    dunk_speed: String,
    turns: String,
}

/// The touch's form, with the tank it came from.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub struct RawTouch {
    /// The tank.
    #[serde(flatten)]
    pub tank: RawTank,
    touch_out: String,
    touch_depth: String,
    touch_speed: String,
    touched: String,
}

/// A form that came back: its list and its fields with their sentences.
pub type Back = (Vec<Choice>, Vec<Field>);

/// What can be seen beside the boat.
pub(crate) fn sights(chosen: &str) -> Vec<Choice> {
    Choice::list(
        [
            ("started", "the slowest speed it turned at"),
            ("turned", "so many turns in ten seconds"),
            ("rolled_over", "the speed it rolled over at"),
        ],
        chosen,
    )
}

/// Whether it touched.
pub(crate) fn touches(chosen: &str) -> Vec<Choice> {
    Choice::list(
        [("yes", "touched the bottom"), ("no", "did not touch")],
        chosen,
    )
}

/// The fields of a dunk test.
pub(crate) fn dunk_fields(system: System, speed: &str, turns: &str) -> [Typed; 2] {
    [
        Typed::new(
            fields::DUNK_SPEED,
            "At a speed of",
            (Quantity::Speed, system),
            speed,
        ),
        Typed::new(
            fields::TURNS,
            "Turns in 10 s",
            (Quantity::Count, system),
            turns,
        ),
    ]
}

/// The fields of a touch.
pub(crate) fn touch_fields(
    system: System,
    cable: bool,
    [out, depth, speed]: [&str; 3],
) -> [Typed; 3] {
    [
        Typed::new(
            fields::TOUCH_OUT,
            if cable { "Cable out" } else { "Line out" },
            (Quantity::Depth, system),
            out,
        ),
        Typed::new(
            fields::TOUCH_DEPTH,
            "Bottom at",
            (Quantity::Depth, system),
            depth,
        ),
        Typed::new(
            fields::TOUCH_SPEED,
            "Speed",
            (Quantity::Speed, system),
            speed,
        ),
    ]
}

fn fields<const N: usize>(typed: [Typed; N]) -> Vec<Field> {
    typed.map(|typed| typed.field).into()
}

fn sound(typed: &[Typed]) -> bool {
    typed.iter().all(|one| one.field.problem.is_none())
}

/// The dunk test of a form; or the form as it was typed.
///
/// # Errors
/// [`Error::Core`] for a water that cannot be.
pub fn dunk(
    raw: &RawDunk,
    settled: &Settled,
    tank: &Seen<Tank<'_, '_>>,
    now: Timestamp,
) -> Result<Result<ObservedAct, Back>, Error> {
    let mut typed = dunk_fields(tank.device.system, &raw.dunk_speed, &raw.turns);
    let speed = MetresPerSecond(typed[0].or(0.0));
    let seen = match raw.seen.as_str() {
        "started" => Observation::Started(speed),
        "rolled_over" => Observation::RolledOver(speed),
        _ => Observation::Turned {
            rate: Hertz(typed[1].or(0.0) / 10.0),
            speed,
        },
    };
    let Some((blade, _)) = settled.runs.front_blade() else {
        typed[0].field.problem = Some(crate::units::Problem(
            "A bare hook has no blade to see turn; note dunk tests of rigs with one".into(),
        ));
        return Ok(Err((sights(&raw.seen), fields(typed))));
    };
    let test = DunkTest {
        seen,
        temperature: tank.here.outing.temperature,
        salt: tank.here.water.salt,
        family: blade.family,
        length: blade.length,
        at: now,
    };
    if sound(&typed) {
        let water = test.water()?;
        let shaft = settled.runs.shaft(&water, test.temperature)?;
        match shaft.map(|shaft| seen.learn(&shaft, &water)) {
            Some(Err(error)) => typed[0].field.problem = Some(problem(&error)),
            _ => return Ok(Ok(ObservedAct::Dunk(settled.rig.id, test))),
        }
    }
    Ok(Err((sights(&raw.seen), fields(typed))))
}

/// The touch of a form; or the form as it was typed.
pub fn touch(
    raw: &RawTouch,
    settled: &Settled,
    tank: &Seen<Tank<'_, '_>>,
    now: Timestamp,
) -> Result<ObservedAct, Back> {
    let texts = [&raw.touch_out, &raw.touch_depth, &raw.touch_speed].map(String::as_str);
    let mut typed = touch_fields(tank.device.system, settled.in_use.lets_out_cable(), texts);
    let [out, bottom, speed] = typed.each_mut().map(|one| one.or(0.0));
    let record = BottomTouch {
        rig: settled.rig.id,
        setup: settled.setup,
        main: settled.in_use.main,
        weight: settled.in_use.weight.and_then(|weight| weight.mass()),
        lead: settled.in_use.lead,
        out: Metres(out),
        bottom: Metres(bottom),
        speed: MetresPerSecond(speed),
        touched: raw.touched != "no",
        at: now,
    };
    if sound(&typed) {
        let checked = Touch {
            rig: Arc::clone(&settled.runs),
            lead: record.lead,
            out: record.out,
            bottom: record.bottom,
            speed: record.speed,
            touched: record.touched,
        }
        .check();
        match checked {
            Ok(()) => return Ok(ObservedAct::Touch(record)),
            Err(error) => {
                let meant = typed.iter().position(|typed| typed.is_meant(&error));
                let place = meant.unwrap_or(1);
                typed[place].field.problem = Some(problem(&error));
            }
        }
    }
    Err((touches(&raw.touched), fields(typed)))
}
