//! Beginning, opening, deleting an outing, and taking a deletion back.

use super::{Context, back, see};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Form, Path};
use motilis_core::book::{Outing, OutingId, WaterId};
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{Connection, outings, settings, waters};
use serde::Deserialize;

/// On which water; the open outing's when it is not said.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Begin {
    #[serde(deserialize_with = "crate::forms::lenient")]
    water: Option<i64>,
}

/// `POST /outings`: a new outing from now on, with the conditions of the last one on its water, or with what
/// is usual there.
pub(crate) async fn begin(app: Data<App>, form: Form<Begin>) -> Result<HttpResponse, Error> {
    let (now, asked) = (app.now(), form.water.map(WaterId));
    app.write(move |connection| {
        let open = Context::load(connection).ok();
        let asked = asked.or(open.as_ref().map(|context| context.outing.water));
        let id = asked.ok_or_else(|| {
            Error::BadRequest("an outing needs a water; open one and begin it there".into())
        })?;
        let water = waters::get(connection, id)?;
        let last = open.as_ref().and_then(|context| {
            let outings = context.outings.iter();
            let here = |(_, outing): &&(OutingId, Outing)| outing.water == id;
            // The open one first: it is what the angler was looking at.
            std::iter::once(&context.outing)
                .filter(|outing| outing.water == id)
                .chain(outings.filter(here).map(|(_, outing)| outing))
                .next()
                .cloned()
        });
        let outing = match last {
            Some(last) => Outing {
                started: now,
                ..last
            },
            None => Outing::first_on(id, &water, now),
        };
        let new = outings::add(connection, &outing)?;
        if let Some(context) = open
            && let Some(line) = outings::running_line(connection, context.id)?
        {
            outings::run_line(connection, new, &line)?;
        }
        set_open(connection, new)
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
