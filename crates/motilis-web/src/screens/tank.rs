//! Tank: one rig on its line; a pure function of the address, so that it can be kept as a bookmark.

mod form;
mod view;

use super::today::{Boxed, box_of_rigs};
use super::{Context, page, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Query};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::book::RunningLine;
use motilis_core::book::SetupId;
use motilis_core::line::{LineSetup, Surroundings};
use motilis_store::{Connection, outings, setups};

pub(super) use form::{RawTank, Settled, settle};

/// What the tank needs to know of the data file.
pub(super) struct Stock {
    /// The open outing.
    pub context: Context,
    /// Every rig with its usual set-up.
    pub rigs: Vec<Boxed>,
    /// Every set-up.
    pub setups: Vec<(SetupId, LineSetup)>,
    /// The line that runs.
    pub running: Option<RunningLine>,
}

impl Stock {
    /// Reads it.
    pub fn load(connection: &Connection) -> Result<Self, Error> {
        let context = Context::load(connection)?;
        Ok(Self {
            running: outings::running_line(connection, context.id)?,
            rigs: box_of_rigs(connection)?,
            setups: setups::all(connection)?,
            context,
        })
    }

    /// What a line of the outing runs in.
    fn surroundings(&self) -> Result<Surroundings, Error> {
        Ok(self
            .context
            .outing
            .day(&self.context.water)?
            .surroundings()?)
    }
}

/// `GET /tank`
pub(crate) async fn show(
    app: Data<App>,
    request: HttpRequest,
    raw: Query<RawTank>,
) -> Result<HttpResponse, Error> {
    let stock = app.read(Stock::load).await?;
    let (settled, form) = form::settle(&raw, &stock)?;
    let sound = form.fields().iter().all(|field| field.problem.is_none());
    let path = request
        .uri()
        .path_and_query()
        .map_or("/tank", |path| path.as_str());
    let tank = view::tank(&stock, &settled, form, theme_of(&request), path)?;
    let response = if sound {
        HttpResponse::Ok()
    } else {
        HttpResponse::UnprocessableEntity()
    };
    page(response, &tank)
}
