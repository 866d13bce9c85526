//! Today: the conditions of the outing, and the call sheet they make of the box.

mod acts;
mod desk;
mod form;
mod pick;
mod print;
mod secchi;
mod sheet;

use super::{Context, page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Query};
use actix_web::{HttpRequest, HttpResponse};
pub(crate) use acts::{mark, set_clarity, take};
pub(super) use desk::Desk;
use form::RawConditions;
pub(super) use form::stepped;
use motilis_core::book::{OwnedRig, RigId};
use motilis_core::line::LineSetup;
use motilis_store::{Connection, outings, rigs, setups, waters};
pub(crate) use print::{card, changes};
use serde::Deserialize;
pub(super) use sheet::{column, ladder_of, verdict};

/// `GET /`
pub(crate) async fn door() -> HttpResponse {
    see("/today")
}

/// What the page is asked to show beside the sheet.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    #[serde(deserialize_with = "crate::forms::lenient")]
    deleted: Option<i64>,
    /// Depth at which a disk would be lost, m, as the helper found it.
    #[serde(deserialize_with = "crate::forms::lenient")]
    disk: Option<f64>,
}

/// A rig of the box with its usual set-up.
pub(super) type Boxed = (RigId, OwnedRig, LineSetup);

/// Every rig with its usual set-up.
pub(super) fn box_of_rigs(connection: &Connection) -> Result<Vec<Boxed>, Error> {
    rigs::all(connection)?
        .into_iter()
        .map(|(id, owned)| {
            let setup = setups::get(connection, owned.setup)?;
            Ok((id, owned, setup))
        })
        .collect()
}

/// `GET /today`
pub(crate) async fn show(
    app: Data<App>,
    request: HttpRequest,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let ask = ask.into_inner();
    let sheet = app
        .read(move |connection| {
            let desk = Desk::load(connection)?;
            let mut conditions = form::shown(&desk.context, &desk.ways.schools);
            conditions.helper.answer = ask
                .disk
                .map(|disk| secchi::answer(disk, desk.context.system));
            sheet::today(&desk, theme, conditions, ask.deleted)
        })
        .await?;
    page(HttpResponse::Ok(), &sheet)
}

/// `POST /today`: new conditions; when one of them cannot be, none is taken.
pub(crate) async fn set(
    app: Data<App>,
    request: HttpRequest,
    raw: Form<RawConditions>,
) -> Result<HttpResponse, Error> {
    let raw = raw.into_inner();
    let theme = theme_of(&request);
    let refused = app
        .write(move |connection| {
            let context = Context::load(connection)?;
            match form::read(&raw, &context) {
                Ok(outing) => {
                    waters::get(connection, outing.water)?;
                    outings::update(connection, context.id, &outing)?;
                    Ok(None)
                }
                Err(mut conditions) => {
                    let desk = Desk::load(connection)?;
                    conditions.height = form::height(
                        &desk.context.outing,
                        &desk.ways.schools,
                        desk.context.system,
                    );
                    Ok(Some(sheet::today(&desk, theme, conditions, None)?))
                }
            }
        })
        .await?;
    match refused {
        None => Ok(see("/today")),
        Some(sheet) => page(HttpResponse::UnprocessableEntity(), &sheet),
    }
}
