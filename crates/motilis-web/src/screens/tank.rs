//! Tank: one rig on its line; a pure function of the address, so that it can be kept as a bookmark.

mod blades;
mod form;
mod observe;
mod view;

use super::observed::Calibrations;
use super::today::{Boxed, box_of_rigs};
use super::{Context, page, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Query};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::book::{RigId, RunningLine, SetupId};
use motilis_core::line::{LineSetup, Surroundings};
use motilis_store::{Connection, made, observed, outings, setups};
use motilis_view::screens::{Choice, Field};
use std::collections::BTreeSet;

pub(super) use blades::colour;
pub(super) use form::{RawTank, Settled, settle};
pub(crate) use observe::{delete_dunk, delete_touch, dunk, restore_dunk, restore_touch, touch};

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
    /// Rigs that lie made up.
    pub made_up: BTreeSet<RigId>,
    /// What the bottom taught.
    pub calibrations: Calibrations,
}

/// What the page shows beside the tank as it is kept: forms as they were typed, what was thrown away.
#[derive(Default)]
pub(super) struct Shown {
    dunk: Option<(Vec<Choice>, Vec<Field>)>,
    touch: Option<(Vec<Choice>, Vec<Field>)>,
    dunk_gone: Option<i64>,
    touch_gone: Option<i64>,
}

impl Stock {
    /// Reads it.
    pub fn load(connection: &Connection) -> Result<Self, Error> {
        let context = Context::load(connection)?;
        Ok(Self {
            running: outings::running_line(connection, context.id)?,
            rigs: box_of_rigs(connection)?,
            setups: setups::all(connection)?,
            made_up: made::all(connection)?
                .into_iter()
                .map(|(_, made)| made.rig)
                .collect(),
            calibrations: Calibrations::load(connection)?,
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
    let asked = raw.clone();
    let (stock, settled, form, dunks) = app
        .read(move |connection| {
            let stock = Stock::load(connection)?;
            let (settled, form) = form::settle(&asked, &stock)?;
            let dunks = observed::dunks(connection, settled.rig.0)?;
            Ok::<_, Error>((stock, settled, form, dunks))
        })
        .await?;
    let shown = Shown {
        dunk_gone: raw.dunk_gone(),
        touch_gone: raw.touch_gone(),
        ..Shown::default()
    };
    let sound = form.fields().iter().all(|field| field.problem.is_none());
    let path = request
        .uri()
        .path_and_query()
        .map_or("/tank", |path| path.as_str());
    let tank = view::tank(
        &stock,
        &settled,
        form,
        theme_of(&request),
        path,
        shown,
        &dunks,
    )?;
    let response = if sound {
        HttpResponse::Ok()
    } else {
        HttpResponse::UnprocessableEntity()
    };
    page(response, &tank)
}
