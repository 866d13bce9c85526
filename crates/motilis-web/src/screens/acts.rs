//! Acts taken back, and records thrown away and taken back out.

use super::{Nothing, back, made, ok, see};
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use motilis_core::book::{
    DunkId, EventId, FishMarkId, LureId, OutingId, PartId, PassId, ReadingId, RigId, SetupId,
    SpotId, SpreadId, TouchId, TrackId, WaterId,
};
use motilis_helm::{Act, ActId, Book, Record, Undone};
use motilis_view::Role;
use motilis_view::present;
use serde::Deserialize;

/// Where to come back to.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Back {
    back: String,
}

/// `POST /acts/{act}/undo`
pub(crate) async fn undo(
    app: Data<App>,
    act: Path<i64>,
    sent: Sent<Back>,
) -> Result<HttpResponse, Error> {
    let act = ActId(*act);
    if sent.device.role != Role::Captain
        && !app.ask(move |book| Ok(is_the_crews(book, act)?)).await?
    {
        return Err(Error::Forbidden(
            "that was not done on Boat or Log: the captain takes it back".into(),
        ));
    }
    match app.take_back(&sent.borne, act).await? {
        Undone::Done | Undone::Already => Ok(see(back(&sent.form.back))),
        Undone::Overtaken => Err(Error::BadRequest(
            "that cannot be taken back any more: something done since stands on it".into(),
        )),
        Undone::Forgotten => Err(Error::BadRequest(
            "that lies too far back to be taken back".into(),
        )),
    }
}

/// Whether an act is one that the crew does, and so takes back.
fn is_the_crews(book: &Book<'_>, act: ActId) -> Result<bool, motilis_store::Error> {
    let name = motilis_store::acts::name(book.connection(), act)?;
    Ok(matches!(name.as_deref(), Some("log" | "boat" | "cast")))
}

/// `GET /deleted`
pub(crate) async fn deleted(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let now = app.now();
    let page = app
        .ask(move |book| Ok(present::deleted(book, looking.0, now)?))
        .await?;
    ok(&page)
}

/// `POST /deleted/{kind}/{id}/restore`
pub(crate) async fn take_out(
    app: Data<App>,
    path: Path<(String, i64)>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let (kind, id) = path.into_inner();
    let record = Record::of(&kind, id)
        .ok_or_else(|| Error::NotFound("nothing of that kind can be thrown away".into()))?;
    restore(&app, &sent, record, |_| "/deleted".to_owned()).await
}

pub(crate) async fn throw(
    app: &App,
    sent: &Sent<Nothing>,
    record: Record,
    address: impl FnOnce(i64) -> String,
) -> Result<HttpResponse, Error> {
    let done = app.do_act(&sent.borne, Act::Throw(record)).await?;
    Ok(see(&address(made(done))))
}

pub(crate) async fn restore(
    app: &App,
    sent: &Sent<Nothing>,
    record: Record,
    address: impl FnOnce(i64) -> String,
) -> Result<HttpResponse, Error> {
    let done = app.do_act(&sent.borne, Act::TakeBack(record)).await?;
    Ok(see(&address(made(done))))
}

/// Two handlers for a kind of record: thrown away, and taken back out.
macro_rules! thrown {
    ($($delete:ident $restore:ident $record:ident $id:ident $gone:literal $back:literal;)*) => { $(
        /// Throws one away.
        pub(crate) async fn $delete(
            app: Data<App>, id: Path<i64>, sent: Sent<Nothing>,
        ) -> Result<HttpResponse, Error> {
            throw(&app, &sent, Record::$record($id(*id)), |id| $gone.replace("{}", &id.to_string())).await
        }

        /// Takes it back out.
        pub(crate) async fn $restore(
            app: Data<App>, id: Path<i64>, sent: Sent<Nothing>,
        ) -> Result<HttpResponse, Error> {
            restore(&app, &sent, Record::$record($id(*id)), |id| $back.replace("{}", &id.to_string())).await
        }
    )* };
}

thrown! {
    delete_water restore_water Water WaterId "/waters?deleted={}" "/waters";
    delete_rig restore_rig Rig RigId "/bench?gone={}" "/bench/{}";
    delete_part restore_part Part PartId "/box?gone=part-{}" "/box/parts/{}";
    delete_setup restore_setup Setup SetupId "/setups?deleted={}" "/setups";
    delete_outing restore_outing Outing OutingId "/today?deleted={}" "/today";
    delete_reading restore_reading Reading ReadingId "/today?reading_gone={}#readings-head" "/today#readings-head";
    delete_event restore_event Event EventId "/log?deleted={}" "/log?at={}#entry-{}";
    delete_pass restore_pass Pass PassId "/log?pass_gone={}" "/log#pass-{}";
    delete_track restore_track Track TrackId "/log/track?track_gone={}" "/log/track";
    delete_mark restore_mark FishMark FishMarkId "/boat/instruments?deleted={}" "/boat/instruments";
    delete_spot restore_spot Spot SpotId "/log/track?spot_gone={}" "/log/track#spot-{}";
    delete_spread restore_spread Spread SpreadId "/spread?deleted={}" "/spread/{}";
    delete_lure restore_lure Lure LureId "/lures?deleted={}" "/lures";
}

/// The rig that was in the tank.
#[derive(Debug, Deserialize)]
pub(crate) struct From {
    rig: i64,
}

/// `POST /tank/dunk/{dunk}/delete`
pub(crate) async fn delete_dunk(
    app: Data<App>,
    id: Path<i64>,
    from: Query<From>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let rig = from.rig;
    throw(&app, &sent, Record::Dunk(DunkId(*id)), |id| {
        format!("/tank?rig={rig}&dunk_gone={id}")
    })
    .await
}

/// `POST /tank/dunk/{dunk}/restore`
pub(crate) async fn restore_dunk(
    app: Data<App>,
    id: Path<i64>,
    from: Query<From>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let address = format!("/tank?rig={}", from.rig);
    restore(&app, &sent, Record::Dunk(DunkId(*id)), |_| address).await
}

/// `POST /tank/touch/{touch}/delete`
pub(crate) async fn delete_touch(
    app: Data<App>,
    id: Path<i64>,
    from: Query<From>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let rig = from.rig;
    throw(&app, &sent, Record::Touch(TouchId(*id)), |id| {
        format!("/tank?rig={rig}&touch_gone={id}")
    })
    .await
}

/// `POST /tank/touch/{touch}/restore`
pub(crate) async fn restore_touch(
    app: Data<App>,
    id: Path<i64>,
    from: Query<From>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let address = format!("/tank?rig={}", from.rig);
    restore(&app, &sent, Record::Touch(TouchId(*id)), |_| address).await
}
