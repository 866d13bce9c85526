//! Today: the conditions of the outing, and what they make of each rig.

mod form;
mod sheet;

use super::{Context, page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Query};
use actix_web::{HttpRequest, HttpResponse};
use form::RawConditions;
pub(super) use form::stepped;
use motilis_core::book::{OwnedRig, RigId};
use motilis_core::line::LineSetup;
use motilis_store::{Connection, outings, rigs, setups, waters};
use serde::Deserialize;
pub(super) use sheet::verdict;

/// `GET /`
pub(crate) async fn door() -> HttpResponse {
    see("/today")
}

/// What the page is asked to show beside the sheet.
#[derive(Default, Deserialize)]
pub(crate) struct Ask {
    deleted: Option<i64>,
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
    let (context, boxed) = app
        .read(|connection| Ok((Context::load(connection)?, box_of_rigs(connection)?)))
        .await?;
    let conditions = form::shown(&context);
    let sheet = sheet::today(
        &context,
        theme_of(&request),
        conditions,
        &boxed,
        ask.deleted,
    )?;
    page(HttpResponse::Ok(), &sheet)
}

/// `POST /today`: new conditions; when one of them cannot be, none is taken.
pub(crate) async fn set(
    app: Data<App>,
    request: HttpRequest,
    raw: Form<RawConditions>,
) -> Result<HttpResponse, Error> {
    let raw = raw.into_inner();
    let refused = app
        .write(move |connection| {
            let context = Context::load(connection)?;
            match form::read(&raw, &context) {
                Ok(outing) => {
                    waters::get(connection, outing.water)?;
                    outings::update(connection, context.id, &outing)?;
                    Ok(None)
                }
                Err(conditions) => Ok(Some((context, conditions, box_of_rigs(connection)?))),
            }
        })
        .await?;
    let Some((context, conditions, boxed)) = refused else {
        return Ok(see("/today"));
    };
    let sheet = sheet::today(&context, theme_of(&request), conditions, &boxed, None)?;
    page(HttpResponse::UnprocessableEntity(), &sheet)
}
