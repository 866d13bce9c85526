//! What is done on Today beside its conditions: a call pinned, struck off, or built with another blade; the
//! clarity set by a white blade.

use super::{Desk, form, secchi, sheet};
use crate::forms::problem;
use crate::screens::{page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::advice::Mark;
use motilis_core::blade::{Blade, Family};
use motilis_core::book::{PartId, RigId};
use motilis_core::light::disk_for_blade;
use motilis_core::units::Metres;
use motilis_store::{outings, rigs};
use motilis_view::screens::SecchiHelper;
use motilis_view::words;
use serde::Deserialize;

/// A rig and what is said of it: `pin`, `veto`, or anything else to take either back.
#[derive(Deserialize)]
pub(crate) struct Marked {
    rig: i64,
    mark: String,
}

/// `POST /today/mark`
pub(crate) async fn mark(app: Data<App>, form: Form<Marked>) -> Result<HttpResponse, Error> {
    let (rig, mark) = (RigId(form.rig), Mark::from_key(&form.mark));
    app.write(move |connection| {
        rigs::get(connection, rig)?;
        let id = crate::screens::Context::load(connection)?.id;
        Ok(outings::set_mark(connection, id, rig, mark)?)
    })
    .await?;
    Ok(see("/today"))
}

/// A rig, and the blade of the box that is swapped in.
#[derive(Deserialize)]
pub(crate) struct Taken {
    rig: i64,
    blade: i64,
}

/// `POST /today/take`: the rig with its other blade becomes a rig of its own, and goes to the bench.
pub(crate) async fn take(app: Data<App>, form: Form<Taken>) -> Result<HttpResponse, Error> {
    let (rig, blade) = (RigId(form.rig), PartId(form.blade));
    let id = app
        .write(move |connection| {
            let desk = Desk::load(connection)?;
            let place = desk
                .origins
                .iter()
                .position(|origin| origin.rig == rig && origin.blade == Some(blade))
                .ok_or_else(|| {
                    Error::BadRequest(
                        "that blade cannot be hung on that rig any more; draw up the sheet again"
                            .into(),
                    )
                })?;
            let candidate = &desk.candidates[place];
            let swapped = candidate
                .rig
                .stack()
                .blades()
                .next()
                .map(|(_, _, piece)| words::bench::part_name(&piece.part))
                .unwrap_or_default();
            let name = format!("{}, {swapped}", candidate.rig.name);
            let setup = desk.origins[place].setup;
            Ok(rigs::add_board(
                connection,
                &name,
                candidate.rig.stack(),
                setup,
            )?)
        })
        .await?;
    Ok(see(&format!("/bench/{}", id.0)))
}

/// The helper's form.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct RawSecchi {
    blade_lost: String,
    blade: String,
}

/// `POST /today/secchi`: the clarity, from how deep a white blade is lost to sight.
pub(crate) async fn set_clarity(
    app: Data<App>,
    request: HttpRequest,
    raw: Form<RawSecchi>,
) -> Result<HttpResponse, Error> {
    let (raw, theme) = (raw.into_inner(), theme_of(&request));
    let answered = app
        .write(move |connection| {
            let desk = Desk::load(connection)?;
            let system = desk.context.system;
            let mut typed = secchi::lost(&raw.blade_lost, system);
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
                blade: secchi::blades(&raw.blade),
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
