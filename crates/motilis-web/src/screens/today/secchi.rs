//! The clarity of an angler who has no disk: how deep a white blade is lost to sight.

use super::{Desk, form, sheet};
use crate::forms::{Typed, problem};
use crate::screens::{page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::blade::{Blade, Family};
use motilis_core::book::limits;
use motilis_core::light::disk_for_blade;
use motilis_core::units::Metres;
use motilis_store::outings;
use motilis_view::screens::{Choice, SecchiHelper};
use motilis_view::units::{Quantity, System, show};
use serde::Deserialize;

/// White blades to hold over the side: Colorado numbers.
const NUMBERS: [f64; 4] = [2.0, 3.0, 4.0, 5.0];

/// The helper's form.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct RawSecchi {
    blade_lost: String,
    blade: String,
}

fn lost(raw: &str, system: System) -> Typed {
    Typed::new(
        ("blade_lost", "White blade lost at"),
        (Quantity::Depth, system),
        limits::CLARITY,
        raw,
    )
}

/// The form as it stands before anything is typed.
pub(super) fn helper(system: System) -> SecchiHelper {
    let mut field = lost("", system).field;
    field.problem = None;
    SecchiHelper {
        lost: field,
        blade: blades("4"),
        answer: None,
    }
}

fn blades(chosen: &str) -> Vec<Choice> {
    NUMBERS
        .iter()
        .map(|number| Choice {
            value: number.to_string(),
            label: format!("Colorado {number}"),
            chosen: number.to_string() == chosen,
        })
        .collect()
}

/// What came of it.
pub(super) fn answer(disk: f64, system: System) -> String {
    format!(
        "A white disk would be lost at {}. Clarity is set to that; computed, for an eye above still water.",
        show(Quantity::Depth, disk, system)
    )
}

/// `POST /today/secchi`
pub(crate) async fn secchi(
    app: Data<App>,
    request: HttpRequest,
    raw: Form<RawSecchi>,
) -> Result<HttpResponse, Error> {
    let (raw, theme) = (raw.into_inner(), theme_of(&request));
    let answered = app
        .write(move |connection| {
            let desk = Desk::load(connection)?;
            let system = desk.context.system;
            let mut typed = lost(&raw.blade_lost, system);
            let depth = typed.or(f64::NAN);
            let number = raw.blade.parse().unwrap_or(4.0);
            let blade = Blade::of_size(Family::Colorado, number)
                .or_else(|_| Blade::of_size(Family::Colorado, 4.0))?;
            if typed.field.problem.is_none() {
                let size = (blade.length.0, blade.width.0);
                let day = &desk.day;
                match disk_for_blade(&day.daylight()?, day.stain, day.salt, size, depth) {
                    Ok(disk) => {
                        let mut outing = desk.context.outing.clone();
                        outing.clarity = Metres(disk);
                        outings::update(connection, desk.context.id, &outing)?;
                        return Ok(Ok(disk));
                    }
                    Err(error) => typed.field.problem = Some(problem(&error)),
                }
            }
            let mut conditions = form::shown(&desk.context, &desk.ways.schools);
            conditions.helper = SecchiHelper {
                lost: typed.field,
                blade: blades(&raw.blade),
                answer: None,
            };
            Ok(Err(sheet::today(&desk, theme, conditions, None)?))
        })
        .await?;
    match answered {
        Ok(disk) => Ok(see(&format!("/today?disk={disk:.3}"))),
        Err(sheet) => page(HttpResponse::UnprocessableEntity(), &sheet),
    }
}
