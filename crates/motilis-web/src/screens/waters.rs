//! Waters: where they lie, what they are like, who lives in them, and the rules typed in for them.

use super::{Gone, Nothing, follow, made, ok, see};
use crate::app::Reading;
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use motilis_core::book::{RuleId, WaterId};
use motilis_helm::{Act, Record, WaterAct, zone};
use motilis_store::waters as table;
use motilis_view::forms::{Texts, rule as rule_form, water as form};
use motilis_view::present::{self, WaterExtra};
use serde::Deserialize;

/// `GET /waters`
pub(crate) async fn list(
    app: Data<App>,
    looking: Looking,
    gone: Query<Gone>,
) -> Result<HttpResponse, Error> {
    let now = app.now();
    let page = app
        .ask(move |book| Ok(present::waters(book, looking.0, now, gone.deleted)?))
        .await?;
    ok(&page)
}

/// What a water's page is asked to show.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    /// The rule in hand.
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    rule: Option<i64>,
    /// A rule that was thrown away just now.
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    deleted_rule: Option<i64>,
    saved: String,
    /// A run that was thrown away just now.
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    run_gone: Option<i64>,
}

/// `GET /waters/new`
pub(crate) async fn blank(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| Ok(present::new_water(book, looking.0, None)?))
        .await?;
    ok(&page)
}

/// `POST /waters/new`
pub(crate) async fn add(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (texts, device) = (sent.form, sent.device);
    let outcome = app
        .act(&sent.borne, move |book| {
            let read = form::read(&texts, device.system);
            Ok(match read.water {
                Some(water) => Reading::Act(Act::Water(WaterAct::Add(Box::new(water)))),
                None => Reading::Page(present::new_water(book, device, Some(read.form))?),
            })
        })
        .await?;
    follow(outcome, |done| format!("/waters/{}?saved=yes", made(done)))
}

/// `GET /waters/{water}`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    id: Path<i64>,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let (id, now) = (WaterId(*id), app.now());
    let extra = WaterExtra {
        in_hand: ask.rule,
        deleted_rule: ask.deleted_rule,
        saved: !ask.saved.is_empty(),
        run_gone: ask.run_gone,
        ..WaterExtra::default()
    };
    let page = app
        .ask(move |book| Ok(present::water(book, looking.0, id, now, extra)?))
        .await?;
    ok(&page)
}

/// `POST /waters/{water}`: when one field cannot be, nothing is changed.
pub(crate) async fn save(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, texts, device, now) = (WaterId(*id), sent.form, sent.device, app.now());
    let base = sent.borne.base.clone();
    let outcome = app
        .act(&sent.borne, move |book| {
            let kept = table::get(book.connection(), id)?;
            let read = form::read_over(&texts, base.as_deref(), &kept, device.system);
            if let Some(water) = read.water {
                return Ok(Reading::Act(Act::Water(WaterAct::Change(
                    id,
                    Box::new(water),
                ))));
            }
            let extra = WaterExtra {
                water: Some(read.form),
                ..WaterExtra::default()
            };
            Ok(Reading::Page(present::water(book, device, id, now, extra)?))
        })
        .await?;
    follow(outcome, |_| format!("/waters/{}?saved=yes", id.0))
}

/// `POST /waters/{water}/rules`
pub(crate) async fn add_rule(
    app: Data<App>,
    water: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    keep_rule(&app, WaterId(*water), None, sent).await
}

/// `POST /waters/{water}/rules/{rule}`
pub(crate) async fn save_rule(
    app: Data<App>,
    path: Path<(i64, i64)>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (water, rule) = path.into_inner();
    keep_rule(&app, WaterId(water), Some(RuleId(rule)), sent).await
}

async fn keep_rule(
    app: &App,
    water: WaterId,
    id: Option<RuleId>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (texts, device, now) = (sent.form, sent.device, app.now());
    let base = sent.borne.base.clone();
    let outcome = app
        .act(&sent.borne, move |book| {
            let body = table::get(book.connection(), water)?;
            let today = now.to_zoned_datetime(zone(&body)).date();
            let when = (today, device.system);
            match rule_form::read(book, (water, id), &texts, base.as_deref(), when)? {
                Ok(rule) => {
                    let act = WaterAct::Rule(water, id, Box::new(rule));
                    Ok(Reading::Act(Act::Water(act)))
                }
                Err(refused) => {
                    let extra = WaterExtra {
                        rule: Some((id, texts, refused)),
                        ..WaterExtra::default()
                    };
                    Ok(Reading::Page(present::water(
                        book, device, water, now, extra,
                    )?))
                }
            }
        })
        .await?;
    follow(outcome, |_| format!("/waters/{}?saved=yes", water.0))
}

/// `POST /waters/{water}/rules/{rule}/delete`
pub(crate) async fn delete_rule(
    app: Data<App>,
    path: Path<(i64, i64)>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let (water, rule) = path.into_inner();
    let act = WaterAct::ThrowRule(WaterId(water), RuleId(rule));
    app.do_act(&sent.borne, Act::Water(act)).await?;
    Ok(see(&format!("/waters/{water}?deleted_rule={rule}")))
}

/// `POST /waters/{water}/rules/{rule}/restore`
pub(crate) async fn restore_rule(
    app: Data<App>,
    path: Path<(i64, i64)>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let (water, rule) = path.into_inner();
    let act = Act::TakeBack(Record::Rule(RuleId(rule)));
    app.do_act(&sent.borne, act).await?;
    Ok(see(&format!("/waters/{water}")))
}
