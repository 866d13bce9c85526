//! Log: one tap for a strike or a fish; the list and its corrections.

use super::{follow, made, ok, see};
use crate::app::{Outcome, Reading};
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use motilis_core::book::{EventId, EventKind};
use motilis_helm::{Act, LogAct, Tank};
use motilis_store::events;
use motilis_view::Seen;
use motilis_view::forms::tank::{RawTank, Settling, settle};
use motilis_view::forms::{Texts, entry};
use motilis_view::present::{LogExtra, Told, log};
use motilis_view::screens::Log;
use serde::Deserialize;

/// What the page is asked to show beside the list.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    edit: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    logged: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    deleted: Option<i64>,
}

/// `GET /log`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let told = Told {
        edit: ask.edit,
        logged: ask.logged,
        deleted: ask.deleted,
        now: Some(app.now()),
    };
    let page = app
        .ask(move |book| Ok(log(book, looking.0, told, LogExtra::default())?))
        .await?;
    ok(&page)
}

/// A tap on one of the large buttons, or a note.
#[derive(Deserialize)]
pub(crate) struct Tap {
    kind: String,
    #[serde(default)]
    note: String,
}

/// `POST /log`
pub(crate) async fn tap(app: Data<App>, sent: Sent<Tap>) -> Result<HttpResponse, Error> {
    let (tap, device) = (sent.form, sent.device);
    let kind = EventKind::from_key(&tap.kind).ok_or_else(|| {
        Error::BadRequest(
            "the log takes a strike, fish, follow, bottom touch, fresh bait or note".into(),
        )
    })?;
    let outcome = app
        .act(&sent.borne, move |book| {
            let wrong = (kind == EventKind::Note).then(|| entry::note_problem(&tap.note));
            if let Some(problem) = wrong.flatten() {
                let extra = LogExtra::note(&tap.note, problem);
                return Ok(Reading::Page(log(book, device, Told::default(), extra)?));
            }
            let note = tap.note.trim().to_owned();
            Ok(Reading::Act(Act::Log(LogAct::Tap { kind, note })))
        })
        .await?;
    follow(outcome, |done| format!("/log?logged={}", made(done)))
}

/// `POST /log/line`: the line of the tank is the one that runs from now on.
pub(crate) async fn run_line(app: Data<App>, sent: Sent<RawTank>) -> Result<HttpResponse, Error> {
    let (raw, device) = (sent.form, sent.device);
    if !raw.names_a_rig() {
        return Err(Error::BadRequest(
            "no rig was named; open one in the tank and run it".into(),
        ));
    }
    let outcome: Outcome<Log> = app
        .act(&sent.borne, move |book| {
            let tank = Seen::new(Tank::load(book)?, device);
            let (settled, form) = match settle(&raw, &tank)? {
                Settling::Runs(both) => *both,
                Settling::Cannot(cannot) => return Err(cannot.why.into()),
                Settling::Empty => return Err(Error::NotFound("there is no rig yet".into())),
            };
            if let Some(field) = form.fields().iter().find(|field| field.problem.is_some()) {
                return Err(Error::BadRequest(field.sentence().to_owned()));
            }
            let act = LogAct::Run(settled.line(), settled.speed);
            Ok(Reading::Act(Act::Log(act)))
        })
        .await?;
    follow(outcome, |_| "/log".into())
}

/// `POST /log/{event}`: a corrected entry.
pub(crate) async fn correct(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, form, device) = (EventId(*id), sent.form, sent.device);
    let base = sent.borne.base.clone();
    let outcome = app
        .act(&sent.borne, move |book| {
            let event = events::get(book.connection(), id)?;
            match entry::read(&form, base.as_deref(), &event, book.here()?, device) {
                Ok(event) => Ok(Reading::Act(Act::Log(LogAct::Correct(id, Box::new(event))))),
                Err(back) => {
                    let told = Told {
                        edit: Some(id.0),
                        ..Told::default()
                    };
                    let page = log(book, device, told, LogExtra::form(back))?;
                    Ok(Reading::Page(page))
                }
            }
        })
        .await?;
    match outcome {
        Outcome::Done(_) => Ok(see(&format!("/log#entry-{}", id.0))),
        page @ Outcome::Page(_) => follow(page, |_| String::new()),
    }
}
