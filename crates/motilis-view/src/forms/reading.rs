//! The form of a temperature read at a place.

use super::{Texts, Typed, instant, text};
use crate::screens::ReadingForm;
use crate::units::{Problem, Quantity, System};
use jiff::Timestamp;
use motilis_core::book::TemperatureReading;
use motilis_core::fields;
use motilis_core::units::{Celsius, FOOT, Metres};
use motilis_formats::quoted;
use motilis_helm::{Here, zone};

/// The form with nothing typed yet: at the surface, now.
pub fn blank(system: System) -> ReadingForm {
    let mut figures = figures("", "", system);
    figures[0].fill((2.0 * FOOT).0);
    form(text("place", PLACE, ""), text("taken", TAKEN, ""), figures)
}

const PLACE: &str = "Place";
const TAKEN: &str = "Hour, or empty for now";

fn figures(depth: &str, temperature: &str, system: System) -> [Typed; 2] {
    [
        Typed::new(
            fields::READING_DEPTH,
            "How deep",
            (Quantity::Depth, system),
            depth,
        ),
        Typed::new(
            fields::READING_TEMPERATURE,
            "Read",
            (Quantity::Temperature, system),
            temperature,
        ),
    ]
}

fn form(
    place: crate::screens::Field,
    taken: crate::screens::Field,
    figures: [Typed; 2],
) -> ReadingForm {
    ReadingForm {
        place,
        taken,
        figures: figures.map(|typed| typed.field),
    }
}

/// The reading that a form tells of, on the open outing.
///
/// # Errors
/// The form as it was typed, with a sentence beside each field that cannot be.
pub fn read(
    raw: &Texts,
    here: &Here,
    now: Timestamp,
    system: System,
) -> Result<TemperatureReading, Box<ReadingForm>> {
    let value = |name: &str| raw.get(name).map_or("", String::as_str);
    let mut place = text("place", PLACE, value("place"));
    let mut taken = text("taken", TAKEN, value("taken"));
    let mut figures = figures(
        value(fields::READING_DEPTH.form),
        value(fields::READING_TEMPERATURE.form),
        system,
    );
    let at = match value("taken").trim() {
        "" => now,
        hour => {
            let zone = zone(&here.water);
            let on = |date| instant(&format!("{date} {hour:0>5}"), &zone);
            let date = here.local(here.outing.started).date();
            let read = if hour.len() > 5 {
                instant(hour, &zone)
            } else {
                // An hour long before the start is one of the night that follows.
                on(date).and_then(
                    |at| match here.outing.started.duration_since(at).as_hours() {
                        12.. => on(date.tomorrow().unwrap_or(date)),
                        _ => Ok(at),
                    },
                )
            };
            read.unwrap_or_else(|_| {
                taken.problem = Some(Problem(format!(
                    "Hour {} cannot be read; write it like 07:40, or leave it empty for now.",
                    quoted(hour)
                )));
                now
            })
        }
    };
    let [depth, temperature] = &mut figures;
    let reading = TemperatureReading {
        outing: here.id,
        place: value("place").trim().to_owned(),
        at,
        depth: Metres(depth.or(0.0)),
        temperature: Celsius(temperature.or(15.0)),
    };
    let sound =
        taken.problem.is_none() && figures.iter().all(|typed| typed.field.problem.is_none());
    match reading.check() {
        Ok(()) if sound => return Ok(reading),
        Err(error) if error.quantity() == "place" => {
            place.problem = Some(super::problem(&error));
        }
        Err(error) if error.quantity() == "taken" => {
            taken.problem = Some(super::problem(&error));
        }
        _ => {}
    }
    Err(Box::new(form(place, taken, figures)))
}
