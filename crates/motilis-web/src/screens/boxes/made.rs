//! Made-up rigs: state and place, dismantling, breaking off, undoing.

use crate::screens::{back, page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Path};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::book::{DeedId, MadeId, MadeState, PartId, plain_text};
use motilis_store::{Connection, made, rigs};
use motilis_view::screens::{BreakOff, ReturnRow, Screen, Theme};
use motilis_view::words::{self, bench as say};
use std::collections::BTreeMap;

/// `POST /box/made/{made}/state`
pub(crate) async fn set_state(
    app: Data<App>,
    made: Path<i64>,
    form: Form<BTreeMap<String, String>>,
) -> Result<HttpResponse, Error> {
    let id = MadeId(*made);
    let text = |name: &str| form.get(name).map_or("", String::as_str).trim().to_owned();
    let state = MadeState::from_key(&text("state")).ok_or_else(|| {
        Error::BadRequest("a made-up rig is new, used or re-tie; choose one".into())
    })?;
    let place = text("place");
    plain_text("place", &place, 60).map_err(|error| Error::BadRequest(error.to_string()))?;
    app.write(move |connection| Ok::<_, Error>(made::set_state(connection, id, state, &place)?))
        .await?;
    Ok(see("/box?tray=made"))
}

/// `POST /box/made/{made}/dismantle`
pub(crate) async fn dismantle(app: Data<App>, made: Path<i64>) -> Result<HttpResponse, Error> {
    let (id, now) = (MadeId(*made), app.now());
    let deed = app
        .write(move |connection| Ok::<_, Error>(made::dismantle(connection, id, now)?))
        .await?;
    Ok(see(&format!(
        "/box?tray=made&done=dismantled&deed={}",
        deed.0
    )))
}

/// `GET /box/made/{made}/break-off`
pub(crate) async fn broken(
    app: Data<App>,
    request: HttpRequest,
    made: Path<i64>,
) -> Result<HttpResponse, Error> {
    let (id, theme) = (MadeId(*made), theme_of(&request));
    let screen = app
        .read(move |connection| dialogue(connection, id, theme, &BTreeMap::new()))
        .await?;
    page(HttpResponse::Ok(), &screen)
}

/// `POST /box/made/{made}/break-off`
pub(crate) async fn break_off(
    app: Data<App>,
    request: HttpRequest,
    made: Path<i64>,
    form: Form<BTreeMap<String, String>>,
) -> Result<HttpResponse, Error> {
    let (id, theme, now) = (MadeId(*made), theme_of(&request), app.now());
    let typed = form.into_inner();
    let screen = app
        .read(move |connection| dialogue(connection, id, theme, &typed))
        .await?;
    if screen.parts.iter().any(|row| row.problem.is_some()) {
        return page(HttpResponse::UnprocessableEntity(), &screen);
    }
    let returned: Vec<(PartId, f64)> = screen
        .parts
        .iter()
        .filter_map(|row| Some((PartId(row.part), row.field.trim().parse::<f64>().ok()?)))
        .filter(|(_, count)| *count > 0.0)
        .collect();
    let deed = app
        .write(move |connection| Ok::<_, Error>(made::break_off(connection, id, &returned, now)?))
        .await?;
    Ok(see(&format!("/box?tray=made&done=lost&deed={}", deed.0)))
}

/// The question which parts came back, with what was typed.
fn dialogue(
    connection: &Connection,
    id: MadeId,
    theme: Theme,
    typed: &BTreeMap<String, String>,
) -> Result<BreakOff, Error> {
    let rig = made::get(connection, id)?;
    let stack = made::stack_of(connection, id, &rig)?;
    let spool = stack.mount.stock;
    let parts = made::takes(&stack)
        .into_iter()
        .filter(|(part, _)| Some(*part) != spool)
        .map(|(part, count)| {
            let most = count as u32;
            let field = typed
                .get(&format!("part-{}", part.0))
                .cloned()
                .unwrap_or_else(|| "0".into());
            let words = stack
                .pieces
                .iter()
                .find(|piece| piece.stock == Some(part))
                .map_or_else(String::new, |piece| words::capital(&say::part(&piece.part)));
            let problem = match field.trim().parse::<u32>() {
                Ok(back) if back <= most => None,
                _ => Some(format!(
                    "“{}” cannot have come back; give 0 to {most}.",
                    field.chars().take(12).collect::<String>()
                )),
            };
            ReturnRow {
                part: part.0,
                words,
                most,
                field,
                problem,
            }
        })
        .collect();
    Ok(BreakOff {
        frame: crate::screens::frame(connection, Screen::Box, theme, "/box")?,
        id: id.0,
        name: rigs::board(connection, rig.rig)?.name,
        parts,
    })
}

/// `POST /box/deeds/{deed}/undo`
pub(crate) async fn undo(
    app: Data<App>,
    deed: Path<i64>,
    form: Form<BTreeMap<String, String>>,
) -> Result<HttpResponse, Error> {
    let id = DeedId(*deed);
    let undone = app
        .write(move |connection| Ok::<_, Error>(made::undo(connection, id)?))
        .await?;
    let to = back(form.get("back").map_or("/box", String::as_str)).to_owned();
    if undone && to.starts_with("/bench/") {
        return Ok(see(&to));
    }
    Ok(see(if undone {
        "/box?tray=made&done=undone"
    } else {
        "/box?tray=made&done=used"
    }))
}
