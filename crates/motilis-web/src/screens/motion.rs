//! A spread set in motion: computed in the background, looked at when it is done.

use super::{ok, refused, see};
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path};
use motilis_core::book::SpreadId;
use motilis_helm::Deck;
use motilis_view::Seen;
use motilis_view::forms::course::{RawCourse, read};
use motilis_view::forms::look::Look;
use motilis_view::present::{self, Outcome, SpreadShown};

/// `POST /spread/{spread}/motion`
pub(crate) async fn set_off(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<RawCourse>,
) -> Result<HttpResponse, Error> {
    let (id, raw, device) = (SpreadId(*id), sent.form, sent.device);
    let ready = app
        .ask(move |book| {
            let deck = Seen::new(Deck::load(book, id)?, device);
            let (form, asked) = read(&raw, device.system, false);
            if let Some(asked) = asked {
                return Ok(Ok((
                    deck.spread(&deck.saved.plan)?,
                    deck.surroundings,
                    asked,
                )));
            }
            let shown = SpreadShown {
                refusal: Some("It was not set off: see the marked field.".into()),
                course: Some(form),
                editor: None,
            };
            let (screen, _) = present::spread(&deck, &Look::default(), shown)?;
            Ok(Err(Box::new(screen)))
        })
        .await?;
    match ready {
        Ok((spread, surroundings, asked)) => {
            let run = app.runs().start(id, spread, surroundings, asked);
            Ok(see(&format!("/spread/{}/motion/{run}", id.0)))
        }
        Err(screen) => refused(&*screen),
    }
}

/// `GET /spread/{spread}/motion/{run}`
pub(crate) async fn look(
    app: Data<App>,
    looking: Looking,
    path: Path<(i64, u64)>,
) -> Result<HttpResponse, Error> {
    let (id, number) = path.into_inner();
    let run = app.runs().get(SpreadId(id), number)?;
    let page = app
        .ask(move |book| {
            let deck = Seen::new(Deck::load(book, SpreadId(id))?, looking.0);
            let outcome = run.outcome();
            Ok(present::motion(
                &deck,
                number,
                &run.course,
                outcome.as_ref(),
                run.percent(),
            )?)
        })
        .await?;
    ok(&page)
}

/// `POST /spread/{spread}/motion/{run}/stop`
pub(crate) async fn stop(app: Data<App>, path: Path<(i64, u64)>) -> Result<HttpResponse, Error> {
    let (id, number) = path.into_inner();
    app.runs().get(SpreadId(id), number)?.stop();
    Ok(see(&format!("/spread/{id}/motion/{number}")))
}

/// `GET /spread/{spread}/motion/{run}/frames.json`
pub(crate) async fn frames(
    app: Data<App>,
    looking: Looking,
    path: Path<(i64, u64)>,
) -> Result<HttpResponse, Error> {
    let (id, number) = path.into_inner();
    let run = app.runs().get(SpreadId(id), number)?;
    let Some(Outcome::Done(recording)) = run.outcome() else {
        return Err(Error::NotFound("that run is not done yet".into()));
    };
    Ok(HttpResponse::Ok().json(present::frames(&recording, looking.0.system)))
}
