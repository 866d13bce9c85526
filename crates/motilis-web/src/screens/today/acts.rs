//! What is done with a call: pinned, struck off, or built with another blade.

use super::Desk;
use crate::screens::see;
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Form};
use motilis_core::advice::Mark;
use motilis_core::book::{PartId, RigId};
use motilis_store::{outings, rigs};
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
