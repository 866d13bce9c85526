//! Spread: all lines together, still and in turns; every edit is a version that can be taken back.

mod card;
mod deck;
mod edit;
mod line;
mod lures;
mod motion;
mod view;

pub(crate) use card::{card, compare};
pub(crate) use edit::{
    add, crew, delete, duplicate, holder, keep_speed, mend, redo, rename, restore, set_all, sort,
    to_depth, undo,
};
pub(crate) use line::save as save_line;
pub(crate) use lures::{
    add as add_lure, delete as delete_lure, list as lures, restore as restore_lure,
};
pub(crate) use motion::{Runs, frames, look as look_at_run, set_off, stop as stop_run};

use super::{frame, page, see, theme_of};
use crate::forms::{problem, text};
use crate::{App, Error};
use actix_web::web::{Data, Form, Path, Query};
use actix_web::{HttpRequest, HttpResponse};
use deck::{Deck, first_rod};
use motilis_core::book::{PlannedSpread, SpreadId};
use motilis_core::units::MILE_PER_HOUR;
use motilis_store::{rigs, settings, setups, spreads};
use motilis_view::screens::{Screen, SpreadNew};
use serde::Deserialize;
use view::Shown;

/// What the address says beside the spread: speed and turn looked at, line in hand, what was done.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub(crate) struct Look {
    speed: Option<String>,
    step: String,
    side: String,
    radius: Option<String>,
    #[serde(deserialize_with = "crate::forms::lenient")]
    line: Option<usize>,
    up: String,
    down: String,
    flow: String,
    set: String,
    heading: String,
    said: String,
    #[serde(deserialize_with = "crate::forms::lenient")]
    deleted: Option<i64>,
}

/// Which spread to open.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Door {
    #[serde(deserialize_with = "crate::forms::lenient")]
    spread: Option<i64>,
    #[serde(deserialize_with = "crate::forms::lenient")]
    deleted: Option<i64>,
}

/// `GET /spread`: the one asked for, the one opened last, or the first.
pub(crate) async fn door(app: Data<App>, asked: Query<Door>) -> Result<HttpResponse, Error> {
    let asked = asked.into_inner();
    let address = app
        .read(move |connection| {
            let names = spreads::names(connection)?;
            let opened = settings::get(connection, "open_spread")?.and_then(|id| id.parse().ok());
            let known = |id: &i64| names.iter().any(|(known, _)| known.0 == *id);
            let wanted = asked.spread.filter(known).or(opened.filter(known));
            let first = names.first().map(|(id, _)| id.0);
            Ok::<_, Error>(wanted.or(first).map_or_else(
                || "/spread/new".to_owned(),
                |id| match asked.deleted {
                    Some(gone) => format!("/spread/{id}?deleted={gone}"),
                    None => format!("/spread/{id}"),
                },
            ))
        })
        .await?;
    Ok(see(&address))
}

/// `GET /spread/{spread}`
pub(crate) async fn show(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
    look: Query<Look>,
) -> Result<HttpResponse, Error> {
    let (id, look, theme) = (SpreadId(*id), look.into_inner(), theme_of(&request));
    let opened = app
        .read(|connection| Ok(settings::get(connection, "open_spread")?))
        .await?;
    if opened != Some(id.0.to_string()) {
        app.write(move |connection| {
            spreads::get(connection, id)?;
            Ok::<_, Error>(settings::set(connection, "open_spread", &id.0.to_string())?)
        })
        .await?;
    }
    let (screen, sound) = app
        .read(move |connection| {
            let deck = Deck::load(connection, id)?;
            view::screen(&deck, &look, theme, Shown::default())
        })
        .await?;
    let status = if sound {
        HttpResponse::Ok()
    } else {
        HttpResponse::UnprocessableEntity()
    };
    page(status, &screen)
}

/// `GET /spread/new`
pub(crate) async fn blank(app: Data<App>, request: HttpRequest) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let screen = app
        .read(move |connection| {
            Ok::<_, Error>(SpreadNew {
                frame: frame(connection, Screen::Spread, theme, "/spread/new")?,
                name: text("name", "Name", "Evening spread"),
                can_begin: !rigs::all(connection)?.is_empty(),
            })
        })
        .await?;
    page(HttpResponse::Ok(), &screen)
}

/// A name typed in.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Named {
    name: String,
}

/// `POST /spread`: a spread of one rod.
pub(crate) async fn begin(
    app: Data<App>,
    request: HttpRequest,
    form: Form<Named>,
) -> Result<HttpResponse, Error> {
    let (theme, name) = (theme_of(&request), form.into_inner().name);
    let begun = app
        .write(move |connection| {
            let mut field = text("name", "Name", &name);
            let refused = PlannedSpread::check_name(&name).err();
            let rigs = rigs::all(connection)?;
            if let (None, Some((rig, owned))) = (&refused, rigs.first()) {
                let setup = setups::get(connection, owned.setup)?;
                let plan = PlannedSpread {
                    name: name.trim().to_owned(),
                    speed: 1.2 * MILE_PER_HOUR,
                    rods: vec![first_rod(*rig, owned.setup, &setup)],
                };
                return Ok(Ok(spreads::add(connection, &plan)?));
            }
            field.problem = refused.as_ref().map(problem);
            Ok::<_, Error>(Err(SpreadNew {
                frame: frame(connection, Screen::Spread, theme, "/spread/new")?,
                name: field,
                can_begin: !rigs.is_empty(),
            }))
        })
        .await?;
    match begun {
        Ok(id) => Ok(see(&format!("/spread/{}", id.0))),
        Err(screen) => page(HttpResponse::UnprocessableEntity(), &screen),
    }
}
