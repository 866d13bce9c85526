//! River: where a cast goes, what is cast, and the runs of a water.

use super::{Nothing, follow, made, ok, page, refused, see};
use crate::app::Reading;
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::web::{Data, Path, Query};
use actix_web::{HttpResponse, HttpResponseBuilder};
use motilis_core::book::{EventKind, RiverCast, RunId, WaterId};
use motilis_core::river::{Fineness, Order, Presentation, School};
use motilis_helm::{Act, Book, CastAct, CastBite, Record, River, WaterAct};
use motilis_store::runs;
use motilis_view::Device;
use motilis_view::forms::river::{found, grid_of, settle};
use motilis_view::forms::{Texts, gear, run};
use motilis_view::present::{self, RiverAsk, RiverPage, RunExtra};
use motilis_view::words;

/// The page as its question answers it.
fn river(book: &Book<'_>, device: Device, ask: RiverAsk) -> Result<RiverPage, Error> {
    let question = River::load(book)?;
    Ok(present::river(&question, device, ask)?)
}

fn shown(screen: &RiverPage, sound: HttpResponseBuilder) -> Result<HttpResponse, Error> {
    match screen {
        RiverPage::River(river) if river.is_sound() => page(sound, &**river),
        RiverPage::River(river) => refused(&**river),
        RiverPage::None(none) => ok(&**none),
    }
}

/// `GET /river`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    raw: Query<Texts>,
) -> Result<HttpResponse, Error> {
    let raw = raw.into_inner();
    let undo = raw
        .get("cast")
        .and_then(|act| act.parse::<i64>().ok())
        .map(|act| format!("/acts/{act}/undo"));
    let says = raw.get("done").map(|done| words::river::done(done));
    let ask = RiverAsk {
        done: says.map(|says| (says, undo)),
        raw,
        ..RiverAsk::default()
    };
    let screen = app.ask(move |book| river(book, looking.0, ask)).await?;
    shown(&screen, HttpResponse::Ok())
}

/// `GET /river/rigs`
pub(crate) async fn rigs(
    app: Data<App>,
    looking: Looking,
    raw: Query<Texts>,
) -> Result<HttpResponse, Error> {
    let raw = raw.into_inner();
    let screen = app
        .ask(move |book| {
            let question = River::load(book)?;
            Ok(present::river_rigs(&question, looking.0, &raw)?)
        })
        .await?;
    match screen {
        Some(screen) => ok(&screen),
        None => Ok(see("/river")),
    }
}

/// `GET /river/best`: looks for the best cast and shows it.
pub(crate) async fn best(
    app: Data<App>,
    looking: Looking,
    raw: Query<Texts>,
) -> Result<HttpResponse, Error> {
    let (raw, system) = (raw.into_inner(), looking.0.system);
    let address = app
        .ask(move |book| {
            let question = River::load(book)?;
            Ok(found(&raw, &question, system)?)
        })
        .await?;
    Ok(see(&address))
}

/// What bit, by the button that was pressed.
fn bite(key: &str) -> Option<EventKind> {
    match key {
        "strike" => Some(EventKind::Strike),
        "fish" => Some(EventKind::Fish),
        "follow" => Some(EventKind::Follow),
        _ => None,
    }
}

/// `POST /river/cast`: a cast was made, and perhaps something bit.
pub(crate) async fn cast(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (raw, device) = (sent.form, sent.device);
    let value = |name: &str| raw.get(name).cloned().unwrap_or_default();
    let kind = bite(&value("bite"));
    let word = match kind {
        Some(kind) => kind.key(),
        None => "cast",
    };
    let of_grid = !value("grid").is_empty();
    // A cast of the grid goes on to the next one; a cast of one's own stays as it is.
    let back: Vec<(String, String)> = raw
        .iter()
        .filter(|(name, _)| {
            let own = matches!(name.as_str(), "g" | "cast_angle" | "distance");
            let posted = matches!(
                name.as_str(),
                "bite" | "grid" | "presentation" | "done" | "cast"
            );
            !(posted || name.starts_with('_') || (of_grid && own))
        })
        .map(|(name, value)| (name.clone(), value.clone()))
        .collect();
    let outcome = app
        .act(&sent.borne, move |book| {
            let question = River::load(book)?;
            let Some(settled) = settle(&raw, &question, device.system)? else {
                return Ok(Reading::Page(Box::new(river(
                    book,
                    device,
                    RiverAsk {
                        raw,
                        ..RiverAsk::default()
                    },
                )?)));
            };
            if !settled.sound {
                let ask = RiverAsk {
                    raw,
                    ..RiverAsk::default()
                };
                return Ok(Reading::Page(Box::new(river(book, device, ask)?)));
            }
            let presentation = raw.get("presentation").map_or("", String::as_str);
            let presentation =
                Presentation::from_key(presentation).unwrap_or(Presentation::Spinner);
            let (depth, speed) = match kind {
                Some(_) if presentation.spins() => {
                    present::where_it_bites(&question, &settled, Fineness::SHOWN)?.unzip()
                }
                _ => (None, None),
            };
            let cast = RiverCast {
                outing: question.here.id,
                run: settled.run_id,
                rod: 1,
                rig: settled
                    .rig
                    .as_ref()
                    .filter(|_| presentation.spins())
                    .map(|(id, ..)| *id),
                at: jiff::Timestamp::UNIX_EPOCH,
                presentation,
                stand: settled.stand,
                grid: raw.get("grid").and_then(|key| grid_of(key)),
                plan: settled.plan,
                event: None,
            };
            let note = words::river::note(&settled, presentation, device.system);
            let bite = kind.map(|kind| CastBite {
                kind,
                depth,
                speed,
                note,
            });
            Ok(Reading::Act(Act::Cast(CastAct::Made(Box::new(cast), bite))))
        })
        .await?;
    match outcome {
        crate::app::Outcome::Done(done) => {
            let mut back = back;
            back.push(("_units".into(), device.system.key().into()));
            back.push(("done".into(), word.into()));
            back.push(("cast".into(), done.act.0.to_string()));
            let query = serde_urlencoded::to_string(&back)
                .map_err(|error| Error::BadRequest(error.to_string()))?;
            Ok(see(&format!("/river?{query}")))
        }
        crate::app::Outcome::Page(screen) => shown(&screen, HttpResponse::UnprocessableEntity()),
    }
}

/// Where a form of the page comes back to.
fn back_of(raw: &Texts) -> String {
    let back = raw.get("back").map_or("", String::as_str);
    if back.starts_with("/river") {
        back.to_owned()
    } else {
        "/river".to_owned()
    }
}

/// `POST /river/gear`
pub(crate) async fn set_gear(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (raw, device) = (sent.form, sent.device);
    let back = back_of(&raw);
    let outcome = app
        .act(&sent.borne, move |book| {
            let question = River::load(book)?;
            match gear::read(&raw, &question.gear, device.system) {
                Ok(gear) => Ok(Reading::Act(Act::Cast(CastAct::Gear(Box::new(gear))))),
                Err(form) => {
                    let ask = RiverAsk {
                        gear: Some(*form),
                        ..RiverAsk::default()
                    };
                    Ok(Reading::Page(Box::new(river(book, device, ask)?)))
                }
            }
        })
        .await?;
    match outcome {
        crate::app::Outcome::Done(_) => Ok(see(&back)),
        crate::app::Outcome::Page(screen) => shown(&screen, HttpResponse::UnprocessableEntity()),
    }
}

/// `POST /river/ways`
pub(crate) async fn set_ways(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let raw = sent.form;
    let back = back_of(&raw);
    let outcome: crate::app::Outcome<motilis_view::screens::Message> = app
        .act(&sent.borne, move |book| {
            let question = River::load(book)?;
            let word = |name: &str| raw.get(name).map_or("", String::as_str);
            let school = School::from_key(word("school")).unwrap_or(question.school);
            let order = Order::from_key(word("order")).unwrap_or(question.order);
            Ok(Reading::Act(Act::Cast(CastAct::Ways(school, order))))
        })
        .await?;
    follow(outcome, |_| back)
}

/// `GET /waters/{water}/runs/new`
pub(crate) async fn blank_run(
    app: Data<App>,
    looking: Looking,
    water: Path<i64>,
) -> Result<HttpResponse, Error> {
    let water = WaterId(*water);
    let page = app
        .ask(move |book| {
            Ok(present::run_page(
                book,
                looking.0,
                water,
                None,
                RunExtra::default(),
            )?)
        })
        .await?;
    ok(&page)
}

/// `GET /runs/{run}`
pub(crate) async fn show_run(
    app: Data<App>,
    looking: Looking,
    id: Path<i64>,
    ask: Query<Texts>,
) -> Result<HttpResponse, Error> {
    let id = RunId(*id);
    let done = ask.contains_key("saved").then(|| "Kept.".to_owned());
    let page = app
        .ask(move |book| {
            let water = runs::get(book.connection(), id)?.water;
            let extra = RunExtra {
                done,
                ..RunExtra::default()
            };
            Ok(present::run_page(book, looking.0, water, Some(id), extra)?)
        })
        .await?;
    ok(&page)
}

/// `POST /waters/{water}/runs`
pub(crate) async fn add_run(
    app: Data<App>,
    water: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (water, texts, device) = (WaterId(*water), sent.form, sent.device);
    let outcome = app
        .act(&sent.borne, move |book| {
            let read = run::read(&texts, water, None, device.system);
            if let Some(run) = read.run {
                return Ok(Reading::Act(Act::Water(WaterAct::Run(None, Box::new(run)))));
            }
            let extra = RunExtra {
                form: Some(read.form),
                ..RunExtra::default()
            };
            let page = present::run_page(book, device, water, None, extra)?;
            Ok(Reading::Page(page))
        })
        .await?;
    follow(outcome, |done| format!("/runs/{}?saved=yes", made(done)))
}

/// `POST /runs/{run}`: when one field cannot be, nothing is changed.
pub(crate) async fn save_run(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, texts, device) = (RunId(*id), sent.form, sent.device);
    let base = sent.borne.base.clone();
    let outcome = app
        .act(&sent.borne, move |book| {
            let kept = runs::get(book.connection(), id)?;
            let read = run::read_over(&texts, base.as_deref(), &kept, device.system);
            if let Some(run) = read.run {
                let act = WaterAct::Run(Some(id), Box::new(run));
                return Ok(Reading::Act(Act::Water(act)));
            }
            let extra = RunExtra {
                form: Some(read.form),
                ..RunExtra::default()
            };
            let page = present::run_page(book, device, kept.water, Some(id), extra)?;
            Ok(Reading::Page(page))
        })
        .await?;
    follow(outcome, |_| format!("/runs/{}?saved=yes", id.0))
}

/// `POST /runs/{run}/delete`
pub(crate) async fn delete_run(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let id = RunId(*id);
    let water = app
        .ask(move |book| Ok(runs::get(book.connection(), id)?.water))
        .await?;
    super::acts::throw(&app, &sent, Record::Run(id), |id| {
        format!("/waters/{}?run_gone={id}#runs", water.0)
    })
    .await
}

/// `POST /runs/{run}/restore`
pub(crate) async fn restore_run(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    super::acts::restore(&app, &sent, Record::Run(RunId(*id)), |id| {
        format!("/runs/{id}")
    })
    .await
}
