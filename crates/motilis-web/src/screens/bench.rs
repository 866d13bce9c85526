//! Bench: one rig, edited part by part; every change is a version that can be taken back.

use super::{follow, made, ok, see};
use crate::app::{Outcome, Reading};
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use motilis_core::book::{RigId, SetupId, plain_text};
use motilis_helm::{Act, Book, RigAct, Shop, WaysAct};
use motilis_store::{rigs, settings};
use motilis_view::forms::bench::{Refused, typed_edits};
use motilis_view::forms::{Texts, problem, rig as rig_form};
use motilis_view::present::{self, Hand};
use motilis_view::screens::{Bench, BenchNotice};
use motilis_view::words::bench as words;
use motilis_view::{Device, Seen};
use serde::Deserialize;

/// Which rig to open.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Door {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    rig: Option<i64>,
    /// A rig that was thrown away just now.
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    gone: Option<i64>,
}

/// `GET /bench`: the rig asked for, the one opened last, or the first.
pub(crate) async fn door(app: Data<App>, asked: Query<Door>) -> Result<HttpResponse, Error> {
    let address = app
        .ask(move |book| {
            let names = rigs::names(book.connection())?;
            let opened = settings::get(book.connection(), "open_rig")?;
            let known = |id: &i64| names.iter().any(|(known, _)| known.0 == *id);
            let opened = opened.and_then(|id| id.parse().ok()).filter(known);
            let first = names.first().map(|(id, _)| id.0);
            let wanted = asked.rig.filter(known).or(opened).or(first);
            let gone = asked
                .gone
                .map_or_else(String::new, |id| format!("?gone={id}"));
            Ok(wanted.map_or_else(
                || format!("/bench/new{gone}"),
                |id| format!("/bench/{id}{gone}"),
            ))
        })
        .await?;
    Ok(see(&address))
}

fn bench(
    book: &Book<'_>,
    id: RigId,
    device: Device,
    hand: &Hand,
    told: (Option<BenchNotice>, Option<Refused>),
) -> Result<Bench, Error> {
    let shop = Seen::new(Shop::load(book, id)?, device);
    Ok(present::bench(&shop, hand, told.0, told.1))
}

/// Where the bench is come back to.
fn address(id: RigId, hand: &Hand) -> String {
    format!("/bench/{}{}", id.0, hand.query())
}

/// `GET /bench/{rig}`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    rig: Path<i64>,
    hand: Query<Hand>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    let notice = hand.built.map(|deed| BenchNotice {
        sentence: "Built. The parts are out of the box, the rig lies in it.".into(),
        undo: Some(format!("/box/deeds/{deed}/undo")),
        of_build: true,
    });
    let notice = notice.or_else(|| {
        hand.gone.map(|rig| BenchNotice {
            sentence: "Rig thrown away.".into(),
            undo: Some(format!("/bench/{rig}/restore")),
            of_build: false,
        })
    });
    let page = app
        .ask(move |book| bench(book, id, looking.0, &hand, (notice, None)))
        .await?;
    app.remember("open_rig", id.0).await?;
    ok(&page)
}

/// `POST /bench/{rig}/edit`
pub(crate) async fn edit(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, form, device, seen) = (RigId(*rig), sent.form, sent.device, sent.borne.seen);
    let hand = hand.into_inner();
    let shown = hand.clone();
    let outcome = app
        .act(&sent.borne, move |book| {
            let shop = Seen::new(Shop::load(book, id)?, device);
            let stack = Shop::seen(book, &shop.board, id, seen)?;
            // A mend is found anew on the rig as it is; everything else is meant for the rig as it was shown.
            let seen = seen.filter(|_| form.get("edit").is_none_or(|edit| edit != "mend"));
            let refused = match typed_edits(&form, &shop, &stack) {
                Err(refused) => refused,
                Ok(typed) => {
                    if let Err(why) = RigAct::edited(book, id, seen, &typed.edits)? {
                        Refused::of(&why)
                    } else {
                        let (rig, edits, hand) = (id, typed.edits, typed.at);
                        let act = RigAct::Edit {
                            rig,
                            seen,
                            edits,
                            hand,
                        };
                        return Ok(Reading::Act(Act::Rig(act)));
                    }
                }
            };
            Ok(Reading::Page(present::bench(
                &shop,
                &shown,
                None,
                Some(refused),
            )))
        })
        .await?;
    follow(outcome, |done| {
        let at = done.made.and_then(|at| usize::try_from(at).ok());
        let at = at.or(hand.at);
        address(id, &Hand { at, ..hand })
    })
}

async fn versions(
    app: &App,
    sent: &Sent<super::Nothing>,
    id: RigId,
    hand: &Hand,
    act: RigAct,
) -> Result<HttpResponse, Error> {
    app.do_act(&sent.borne, Act::Rig(act)).await?;
    Ok(see(&address(id, hand)))
}

/// `POST /bench/{rig}/undo`
pub(crate) async fn undo(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
    sent: Sent<super::Nothing>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    versions(&app, &sent, id, &hand, RigAct::Undo(id)).await
}

/// `POST /bench/{rig}/redo`
pub(crate) async fn redo(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
    sent: Sent<super::Nothing>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    versions(&app, &sent, id, &hand, RigAct::Redo(id)).await
}

/// A step and whether it is done.
#[derive(Deserialize)]
pub(crate) struct Tick {
    step: usize,
    done: bool,
}

/// `POST /bench/{rig}/tick`
pub(crate) async fn tick(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
    sent: Sent<Tick>,
) -> Result<HttpResponse, Error> {
    let (id, tick) = (RigId(*rig), &sent.form);
    let act = RigAct::Tick(id, tick.step, tick.done);
    app.do_act(&sent.borne, Act::Rig(act)).await?;
    Ok(see(&address(id, &hand)))
}

/// `POST /bench/{rig}/rename`
pub(crate) async fn rename(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, device) = (RigId(*rig), sent.device);
    let typed = sent.form.get("name").cloned().unwrap_or_default();
    let shown = hand.clone();
    let outcome = app
        .act(&sent.borne, move |book| match rig_form::name(&typed) {
            Ok(name) => Ok(Reading::Act(Act::Rig(RigAct::Rename(id, name)))),
            Err(sentence) => {
                let refused = Refused {
                    field: "name".into(),
                    typed,
                    sentence,
                };
                Ok(Reading::Page(bench(
                    book,
                    id,
                    device,
                    &shown,
                    (None, Some(refused)),
                )?))
            }
        })
        .await?;
    follow(outcome, |_| address(id, &hand))
}

/// `POST /bench/{rig}/setup`
pub(crate) async fn setup(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    let setup = sent.form.get("setup").and_then(|setup| setup.parse().ok());
    let setup = setup.map(SetupId).ok_or_else(|| {
        Error::BadRequest("there is no such set-up; choose one of the list".into())
    })?;
    app.do_act(&sent.borne, Act::Rig(RigAct::GoOn(id, setup)))
        .await?;
    Ok(see(&address(id, &hand)))
}

/// `POST /bench/{rig}/measuring`: computed spacing, or by eye.
pub(crate) async fn measuring(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
    sent: Sent<super::Nothing>,
) -> Result<HttpResponse, Error> {
    app.do_act(&sent.borne, Act::Ways(WaysAct::Measuring))
        .await?;
    Ok(see(&address(RigId(*rig), &hand)))
}

/// `POST /bench/{rig}/duplicate`
pub(crate) async fn duplicate(
    app: Data<App>,
    rig: Path<i64>,
    sent: Sent<super::Nothing>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    let outcome: Outcome<Bench> = app
        .act(&sent.borne, move |book| {
            let name = rig_form::variant_name(book, &rigs::name(book.connection(), id)?)?;
            Ok(Reading::Act(Act::Rig(RigAct::Duplicate(id, name))))
        })
        .await?;
    follow(outcome, |done| format!("/bench/{}", made(done)))
}

/// `POST /bench/{rig}/build`
pub(crate) async fn build(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, form, device) = (RigId(*rig), sent.form, sent.device);
    let shown = hand.clone();
    let outcome = app
        .act(&sent.borne, move |book| {
            let told = match batch(&form) {
                Err(refused) => (None, Some(refused)),
                Ok((count, place)) => match lacking(book, id, count, device)? {
                    Some(notice) => (Some(notice), None),
                    None => return Ok(Reading::Act(Act::Rig(RigAct::Build(id, count, place)))),
                },
            };
            Ok(Reading::Page(bench(book, id, device, &shown, told)?))
        })
        .await?;
    follow(outcome, |done| {
        format!("{}&built={}", address(id, &hand), made(done))
    })
}

/// How many to build, and where to put them.
fn batch(form: &Texts) -> Result<(u8, String), Refused> {
    let typed = |name: &str| form.get(name).cloned().unwrap_or_default();
    let refused = |field: &str, sentence| Refused {
        field: field.into(),
        typed: typed(field),
        sentence,
    };
    let count = present::batch(&typed("n")).map_err(|sentence| refused("n", sentence))?;
    let place = typed("place").trim().to_owned();
    plain_text("place", &place, 60).map_err(|error| refused("place", problem(&error).0))?;
    Ok((count, place))
}

/// What the box lacks for it, in a sentence.
fn lacking(
    book: &Book<'_>,
    id: RigId,
    count: u8,
    device: Device,
) -> Result<Option<BenchNotice>, Error> {
    let short = RigAct::lacks(book.connection(), id, count)?;
    if short.is_empty() {
        return Ok(None);
    }
    let wanted = short.iter().map(|one| {
        format!(
            "{}: {} needed, {} left",
            words::part(&one.part),
            words::left(&one.part, one.needs, device.system),
            words::left(&one.part, one.left, device.system)
        )
    });
    let wanted: Vec<String> = wanted.collect();
    Ok(Some(BenchNotice {
        sentence: format!("Not built, the box runs short. {}.", wanted.join("; ")),
        undo: None,
        of_build: true,
    }))
}

/// `GET /bench/new`
pub(crate) async fn start(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| Ok(present::new_rig(book, looking.0, &Texts::new(), None)?))
        .await?;
    ok(&page)
}

/// `POST /bench/new`
pub(crate) async fn create(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (form, device) = (sent.form, sent.device);
    let outcome = app
        .act(&sent.borne, move |book| {
            match rig_form::read(book, &form)? {
                Ok(act) => Ok(Reading::Act(Act::Rig(act))),
                Err(refused) => Ok(Reading::Page(present::new_rig(
                    book,
                    device,
                    &form,
                    Some(refused),
                )?)),
            }
        })
        .await?;
    follow(outcome, |done| format!("/bench/{}", made(done)))
}

/// Which two rigs.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Pair {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    left: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    right: Option<i64>,
}

/// `GET /bench/compare`
pub(crate) async fn compare(
    app: Data<App>,
    looking: Looking,
    pair: Query<Pair>,
) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| {
            Ok(present::compare_rigs(
                book,
                looking.0,
                (pair.left, pair.right),
            )?)
        })
        .await?;
    let none = "there are no rigs to compare yet; start one on the bench";
    ok(&page.ok_or_else(|| Error::NotFound(none.into()))?)
}
