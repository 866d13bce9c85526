//! Beginning, opening, deleting an outing, and taking a deletion back.

use super::{Context, back, see};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Form, Path};
use motilis_core::book::{Outing, OutingId};
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{Connection, outings, settings};
use serde::Deserialize;

/// `POST /outings`: a new outing from now on, with the conditions of the open one.
pub(crate) async fn begin(app: Data<App>) -> Result<HttpResponse, Error> {
    let now = app.now();
    app.write(move |connection| {
        let open = Context::load(connection)?;
        let outing = Outing {
            started: now,
            ..open.outing
        };
        let id = outings::add(connection, &outing)?;
        if let Some(line) = outings::running_line(connection, open.id)? {
            outings::run_line(connection, id, &line)?;
        }
        set_open(connection, id)
    })
    .await?;
    Ok(see("/today"))
}

/// Which outing, and where to come back to.
#[derive(Deserialize)]
pub(crate) struct Open {
    outing: i64,
    #[serde(default)]
    back: String,
}

/// `POST /outings/open`
pub(crate) async fn open(app: Data<App>, form: Form<Open>) -> Result<HttpResponse, Error> {
    let id = OutingId(form.outing);
    app.write(move |connection| {
        outings::get(connection, id)?;
        set_open(connection, id)
    })
    .await?;
    Ok(see(back(&form.back)))
}

/// `POST /outings/{outing}/delete`
pub(crate) async fn delete(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let (id, now) = (OutingId(*id), app.now());
    app.write(move |connection| {
        outings::get(connection, id)?;
        if outings::all(connection)?.len() == 1 {
            return Err(Error::BadRequest(
                "this is the only outing; begin a new one before you delete it".into(),
            ));
        }
        Ok(throw(connection, Record::Outing(id), now)?)
    })
    .await?;
    Ok(see(&format!("/today?deleted={}", id.0)))
}

/// `POST /outings/{outing}/undo`
pub(crate) async fn undo(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let id = OutingId(*id);
    app.write(move |connection| {
        take_back(connection, Record::Outing(id))?;
        set_open(connection, id)
    })
    .await?;
    Ok(see("/today"))
}

fn set_open(connection: &Connection, id: OutingId) -> Result<(), Error> {
    Ok(settings::set(connection, "open_outing", &id.0.to_string())?)
}
