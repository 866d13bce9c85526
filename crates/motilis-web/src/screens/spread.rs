//! Spread: all lines together, still and in turns.

use super::{Nothing, follow, made, ok, page, see};
use crate::app::{Outcome, Reading};
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use motilis_core::book::{PlannedRod, PlannedSpread, SpreadId};
use motilis_core::line::OutFor;
use motilis_core::spread::Holder;
use motilis_core::units::{MILE_PER_HOUR, MetresPerSecond};
use motilis_helm::{Act, Book, Deck, Desk, SpreadAct, planned};
use motilis_store::{settings, spreads};
use motilis_view::Seen;
use motilis_view::forms::look::Look;
use motilis_view::present::{self, SpreadShown};
use motilis_view::screens::SpreadNew;
use serde::Deserialize;

/// Which spread to open.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Door {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    spread: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    deleted: Option<i64>,
}

/// `GET /spread`: the one asked for, the one opened last, or the first.
pub(crate) async fn door(app: Data<App>, asked: Query<Door>) -> Result<HttpResponse, Error> {
    let address = app
        .ask(move |book| {
            let names = spreads::names(book.connection())?;
            let known = |id: &i64| names.iter().any(|(known, _)| known.0 == *id);
            let opened = settings::get(book.connection(), "open_spread")?;
            let opened = opened.and_then(|id| id.parse().ok()).filter(known);
            let first = names.first().map(|(id, _)| id.0);
            let wanted = asked.spread.filter(known).or(opened).or(first);
            Ok(wanted.map_or_else(
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
    looking: Looking,
    id: Path<i64>,
    look: Query<Look>,
) -> Result<HttpResponse, Error> {
    let id = SpreadId(*id);
    let (screen, sound) = app
        .ask(move |book| {
            let deck = Seen::new(Deck::load(book, id)?, looking.0);
            Ok(present::spread(&deck, &look, SpreadShown::default())?)
        })
        .await?;
    app.remember("open_spread", id.0).await?;
    let status = if sound {
        HttpResponse::Ok()
    } else {
        HttpResponse::UnprocessableEntity()
    };
    page(status, &screen)
}

/// `GET /spread/new`
pub(crate) async fn blank(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let screen = app
        .ask(move |book| Ok(present::new_spread(book, looking.0, None)?))
        .await?;
    ok(&screen)
}

/// A name typed in.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Named {
    pub name: String,
}

/// `POST /spread`: a spread of one rod.
pub(crate) async fn begin(app: Data<App>, sent: Sent<Named>) -> Result<HttpResponse, Error> {
    let (name, device) = (sent.form.name, sent.device);
    let outcome = app
        .act(&sent.borne, move |book| {
            let refused = PlannedSpread::check_name(&name).err();
            let rig = book.rigs()?.iter().find(|rig| rig.stands.is_ok());
            let (None, Some(rig), Some(holder)) = (&refused, rig, Holder::all().next()) else {
                let typed = refused.map(|refusal| (name.as_str(), refusal));
                return Ok(Reading::Page(present::new_spread(book, device, typed)?));
            };
            let rod = planned(holder, rig.id, rig.setup, &*book.setup(rig.setup)?);
            Ok(Reading::Act(Act::Spread(SpreadAct::Begin(PlannedSpread {
                name: name.trim().to_owned(),
                speed: speed_of(book)?,
                rods: vec![rod],
            }))))
        })
        .await?;
    follow(outcome, |done| format!("/spread/{}", made(done)))
}

/// The speed of the open outing; a harness's where there is none.
fn speed_of(book: &Book<'_>) -> Result<MetresPerSecond, Error> {
    let here = book.here_if_any()?;
    let speed = here.map_or(MetresPerSecond(0.0), |here| here.outing.speed);
    Ok(if speed.0 > 0.0 {
        speed
    } else {
        1.2 * MILE_PER_HOUR
    })
}

/// `POST /spread/today`: the calls of today on both sides of the boat, each let out for the depth that is wanted.
pub(crate) async fn of_today(app: Data<App>, sent: Sent<Nothing>) -> Result<HttpResponse, Error> {
    let outcome: Outcome<SpreadNew> = app
        .act(&sent.borne, move |book| {
            let (desk, speed) = (Desk::load(book)?, speed_of(book)?);
            let wanted = desk.here.outing.wanted_depth;
            let (_, _, sheet) = desk.sheet()?;
            let mut holders: Vec<Holder> = Holder::all().collect();
            holders.sort_by_key(|holder| (holder.number, holder.side));
            let calls = sheet.picks.iter().filter(|pick| desk.origins[pick.index].blade.is_none());
            let mut rods = Vec::new();
            // The first holders are the same on either side: each call goes to both.
            for (pick, pair) in calls.zip(holders.chunks(2)) {
                let origin = desk.origins[pick.index];
                for holder in pair {
                    let rod = planned(*holder, origin.rig, origin.setup, &pick.setup);
                    rods.push(PlannedRod {
                        wanted,
                        out: match &pick.call.out {
                            Some(OutFor::Out(run)) => run.out,
                            _ => rod.out,
                        },
                        ..rod
                    });
                }
            }
            if rods.is_empty() {
                return Err(Error::BadRequest(
                    "today calls no rig that is made up, so there is nothing to set out; build one on the bench first".into(),
                ));
            }
            let day = desk.here.local(desk.here.outing.started);
            Ok(Reading::Act(Act::Spread(SpreadAct::Begin(PlannedSpread {
                name: format!("Calls of {}", day.strftime("%-d %b")),
                speed,
                rods,
            }))))
        })
        .await?;
    follow(outcome, |done| format!("/spread/{}", made(done)))
}

/// `GET /spread/{spread}/card`
pub(crate) async fn card(
    app: Data<App>,
    looking: Looking,
    id: Path<i64>,
) -> Result<HttpResponse, Error> {
    let card = app
        .ask(move |book| {
            let deck = Seen::new(Deck::load(book, SpreadId(*id))?, looking.0);
            Ok(present::set_out_card(&deck)?)
        })
        .await?;
    ok(&card)
}

/// Which two.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Pair {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    a: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    b: Option<i64>,
}

/// `GET /spread/compare`
pub(crate) async fn compare(
    app: Data<App>,
    looking: Looking,
    pair: Query<Pair>,
) -> Result<HttpResponse, Error> {
    let screen = app
        .ask(move |book| {
            let names = spreads::names(book.connection())?;
            let named = |id: Option<i64>| names.iter().find(|(known, _)| Some(known.0) == id);
            let a = named(pair.a).or(names.first()).map(|(id, _)| *id);
            let other = names.iter().find(|(id, _)| Some(*id) != a);
            let b = named(pair.b).or(other).or(names.first()).map(|(id, _)| *id);
            let (Some(a), Some(b)) = (a, b) else {
                return Err(Error::NotFound(
                    "there is no spread to compare yet; begin one on the Spread screen".into(),
                ));
            };
            let decks = [
                Seen::new(Deck::load(book, a)?, looking.0),
                Seen::new(Deck::load(book, b)?, looking.0),
            ];
            Ok(present::compare_spreads(&decks)?)
        })
        .await?;
    ok(&screen)
}
