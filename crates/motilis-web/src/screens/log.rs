//! Log: one tap for a strike or a fish; the list, corrections, deletions and their undo.

mod form;
mod view;

use super::observed::Calibrations;
use super::tank::{RawTank, Settled, Stock};
use super::{Context, page, see, tank, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Path, Query};
use actix_web::{HttpRequest, HttpResponse};
use form::RawEntry;
use jiff::Timestamp;
use motilis_core::book::{Event, EventId, EventKind, OnLine, RunningLine};
use motilis_core::line::{Line, LineSetup};
use motilis_core::units::Metres;
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{Connection, events, outings, rigs, setups};
use serde::Deserialize;
use std::sync::Arc;

/// What the page is asked to show beside the list.
#[derive(Default, Deserialize)]
pub(crate) struct Ask {
    edit: Option<i64>,
    logged: Option<i64>,
    deleted: Option<i64>,
}

/// `GET /log`
pub(crate) async fn show(
    app: Data<App>,
    request: HttpRequest,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let log = app
        .read(move |connection| view::log(connection, theme, &ask, view::Extra::default()))
        .await?;
    page(HttpResponse::Ok(), &log)
}

/// A tap on one of the large buttons, or a note.
#[derive(Deserialize)]
pub(crate) struct Tap {
    kind: String,
    #[serde(default)]
    note: String,
}

/// `POST /log`
pub(crate) async fn tap(
    app: Data<App>,
    request: HttpRequest,
    tap: Form<Tap>,
) -> Result<HttpResponse, Error> {
    let (now, theme, tap) = (app.now(), theme_of(&request), tap.into_inner());
    let kind = EventKind::from_key(&tap.kind).ok_or_else(|| {
        Error::BadRequest("the log takes a strike, fish, follow, bottom touch or note".into())
    })?;
    let logged = app
        .write(move |connection| {
            let context = Context::load(connection)?;
            let event = event_now(connection, &context, kind, now, tap.note.trim())?;
            if let Some(problem) = form::note_problem(&event) {
                let extra = view::Extra::note(tap.note, problem);
                return Ok(Err(view::log(connection, theme, &Ask::default(), extra)?));
            }
            Ok(Ok(events::add(connection, &event)?))
        })
        .await?;
    match logged {
        Ok(id) => Ok(see(&format!("/log?logged={}", id.0))),
        Err(log) => page(HttpResponse::UnprocessableEntity(), &log),
    }
}

/// What just happened, on the line that runs.
fn event_now(
    connection: &Connection,
    context: &Context,
    kind: EventKind,
    now: Timestamp,
    note: &str,
) -> Result<Event, Error> {
    let running = outings::running_line(connection, context.id)?;
    let line = match (kind, running) {
        (EventKind::Note, _) => None,
        (_, Some(line)) => Some(on_line(connection, context, &line)?),
        (_, None) => {
            return Err(Error::BadRequest(
                "no line runs yet; open a rig in the tank and run it, then log on it".into(),
            ));
        }
    };
    Ok(Event {
        outing: context.id,
        kind,
        at: now,
        line,
        speed: context.outing.speed,
        length: None,
        kept: None,
        note: note.to_owned(),
    })
}

/// Where the line runs at the outing's speed.
fn on_line(
    connection: &Connection,
    context: &Context,
    line: &RunningLine,
) -> Result<OnLine, Error> {
    let owned = rigs::get(connection, line.rig)?;
    let mut setup: LineSetup = line.in_use(&setups::get(connection, line.setup)?);
    let surroundings = context.outing.day(&context.water)?.surroundings()?;
    let boxed = super::today::box_of_rigs(connection)?;
    let rig = |id| {
        let known = boxed.iter().find(|(known, ..)| *known == id);
        known.map(|(_, owned, _)| Arc::new(owned.rig.clone()))
    };
    let calibrations = Calibrations::load(connection)?;
    if let Some(fit) = calibrations.fit(line.setup, &setup, surroundings, &rig) {
        setup.strum = fit.strum;
    }
    let run = Line::new(&owned.rig, &setup, surroundings)?.run(context.outing.speed, line.out);
    // A line too short for the water skims its surface; one too long lies on the bottom.
    let depth = run.map_or(0.0, |run| {
        run.rig.depth.0.clamp(0.0, context.outing.bottom.0)
    });
    Ok(OnLine {
        rig: line.rig,
        out: line.out,
        depth: Metres(depth),
    })
}

/// `POST /log/line`: the line of the tank is the one that runs from now on.
pub(crate) async fn run_line(app: Data<App>, raw: Form<RawTank>) -> Result<HttpResponse, Error> {
    let raw = raw.into_inner();
    if !raw.names_a_rig() {
        return Err(Error::BadRequest(
            "no rig was named; open one in the tank and run it".into(),
        ));
    }
    app.write(move |connection| {
        let stock = Stock::load(connection)?;
        let (settled, form): (Settled, _) = tank::settle(&raw, &stock)?;
        if let Some(field) = form.fields().iter().find(|field| field.problem.is_some()) {
            return Err(Error::BadRequest(
                field.sentence().trim_end_matches('.').to_owned(),
            ));
        }
        outings::run_line(connection, stock.context.id, &settled.line())?;
        let outing = motilis_core::book::Outing {
            speed: settled.speed,
            ..stock.context.outing
        };
        Ok(outings::update(connection, stock.context.id, &outing)?)
    })
    .await?;
    Ok(see("/log"))
}

/// `POST /log/{event}`: a corrected entry.
pub(crate) async fn correct(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
    raw: Form<RawEntry>,
) -> Result<HttpResponse, Error> {
    let (id, theme, raw) = (EventId(*id), theme_of(&request), raw.into_inner());
    let refused = app
        .write(move |connection| {
            let context = Context::load(connection)?;
            let event = events::get(connection, id)?;
            match form::read(&raw, &event, &context) {
                Ok(event) => {
                    events::update(connection, id, &event)?;
                    Ok(None)
                }
                Err(form) => {
                    let ask = Ask {
                        edit: Some(id.0),
                        ..Ask::default()
                    };
                    let log = view::log(connection, theme, &ask, view::Extra::form(form))?;
                    Ok(Some(log))
                }
            }
        })
        .await?;
    match refused {
        None => Ok(see(&format!("/log#entry-{}", id.0))),
        Some(log) => page(HttpResponse::UnprocessableEntity(), &log),
    }
}

/// `POST /log/{event}/delete`
pub(crate) async fn delete(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let (id, now) = (EventId(*id), app.now());
    app.write(move |connection| {
        events::get(connection, id)?;
        Ok(throw(connection, Record::Event(id), now)?)
    })
    .await?;
    Ok(see(&format!("/log?deleted={}", id.0)))
}

/// `POST /log/{event}/undo`
pub(crate) async fn undo(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let id = EventId(*id);
    app.write(move |connection| Ok(take_back(connection, Record::Event(id))?))
        .await?;
    Ok(see(&format!("/log#entry-{}", id.0)))
}
