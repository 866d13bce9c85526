//! How the call sheet judges: the schools followed and what each term counts.

use super::{follow, ok};
use crate::app::Reading;
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Query};
use motilis_core::advice::Weights;
use motilis_helm::{Act, followed};
use motilis_view::forms::Texts;
use motilis_view::forms::judging::{read_schools, read_weights, weights_of};
use motilis_view::present::judging;
use serde::Deserialize;

/// Number of the act that was just done.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    set: Option<i64>,
}

/// `GET /judging`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let screen = app
        .ask(move |book| Ok(judging(book, looking.0, None, None, ask.set)?))
        .await?;
    ok(&screen)
}

/// `POST /judging/schools`
pub(crate) async fn set_schools(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (form, device, base) = (sent.form, sent.device, sent.borne.base.clone());
    let outcome = app
        .act(&sent.borne, move |book| {
            let (schools, _) = followed(book.connection(), book.here()?.outing.fish)?;
            match read_schools(&form, base.as_deref(), &schools) {
                Ok(act) => Ok(Reading::Act(Act::Ways(act))),
                Err(sentence) => Ok(Reading::Page(judging(
                    book,
                    device,
                    None,
                    Some(sentence),
                    None,
                )?)),
            }
        })
        .await?;
    follow(outcome, |done| format!("/judging?set={}", done.act.0))
}

/// `POST /judging/weights`: when one of them cannot be, none is taken.
pub(crate) async fn set_weights(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (form, device, base) = (sent.form, sent.device, sent.borne.base.clone());
    let outcome = app
        .act(&sent.borne, move |book| {
            let fish = book.here()?.outing.fish;
            let (schools, weights) = followed(book.connection(), fish)?;
            let now = weights_of(&weights, &Weights::usual(fish, &schools));
            match read_weights(&form, base.as_deref(), fish, &now) {
                Ok(act) => Ok(Reading::Act(Act::Ways(act))),
                Err(fields) => Ok(Reading::Page(judging(
                    book,
                    device,
                    Some(fields),
                    None,
                    None,
                )?)),
            }
        })
        .await?;
    follow(outcome, |done| format!("/judging?set={}", done.act.0))
}
