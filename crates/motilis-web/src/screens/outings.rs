//! Beginning, opening and ending an outing.

use super::{back, home, see};
use crate::device::Sent;
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::Data;
use motilis_core::book::{OutingId, WaterId};
use motilis_helm::{Act, OutingAct};
use serde::Deserialize;

/// On which water; the open outing's when it is not said.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Begin {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    water: Option<i64>,
    back: String,
}

/// `POST /outings`
pub(crate) async fn begin(app: Data<App>, sent: Sent<Begin>) -> Result<HttpResponse, Error> {
    app.leave_practice();
    let act = OutingAct::Begin(sent.form.water.map(WaterId));
    app.do_act(&sent.borne, Act::Outing(act)).await?;
    Ok(see(back(&sent.form.back)))
}

/// Which outing, and where to come back to.
#[derive(Deserialize)]
pub(crate) struct Open {
    outing: i64,
    #[serde(default)]
    back: String,
}

/// `POST /outings/open`
pub(crate) async fn open(app: Data<App>, sent: Sent<Open>) -> Result<HttpResponse, Error> {
    app.leave_practice();
    let act = OutingAct::Open(OutingId(sent.form.outing));
    app.do_act(&sent.borne, Act::Outing(act)).await?;
    Ok(see(back(&sent.form.back)))
}

/// `now`, or `no` when it goes on.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct End {
    ended: String,
    screen: String,
}

/// `POST /outings/end`
pub(crate) async fn end(app: Data<App>, sent: Sent<End>) -> Result<HttpResponse, Error> {
    let ended = (sent.form.ended == "now").then(|| app.seal(&sent.borne).at);
    let act = OutingAct::End(ended);
    app.do_act(&sent.borne, Act::Outing(act)).await?;
    if ended.is_some() {
        super::boat_acts::keep_track(&app, &sent.borne).await?;
    }
    Ok(see(home(&sent.form.screen)))
}
