//! Bench: one rig, edited part by part; every change is a version that can be taken back.

mod edit;
mod facts;
mod new;
mod rail;
mod sheet;
mod view;

pub(crate) use new::{compare, create, start};
pub(super) use rail::bay_of;
pub(crate) use sheet::{pdf, show as sheet};
pub(super) use view::part_figures;

use super::{page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Path, Query};
use actix_web::{HttpRequest, HttpResponse};
use edit::{Refused, typed_edits};
use motilis_core::book::{Board, BoxPart, PartId, RigId, SetupId};
use motilis_core::line::LineSetup;
use motilis_store::made::Built;
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{Connection, made, parts, rigs, settings, setups};
use motilis_view::screens::{BenchNotice, Frame, Screen, Theme};
use motilis_view::words::bench as words;
use serde::Deserialize;
use std::collections::BTreeMap;

/// What is in hand on the bench: part of the address, so that a page can be come back to.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub(crate) struct Hand {
    #[serde(deserialize_with = "crate::forms::lenient")]
    at: Option<usize>,
    bay: String,
    dim: String,
    tap: String,
    n: String,
    #[serde(deserialize_with = "crate::forms::lenient")]
    built: Option<i64>,
}

impl Hand {
    /// The query that comes back to it.
    fn query(&self) -> String {
        let at = self.at.map_or_else(String::new, |at| at.to_string());
        let safe = |text: &str| {
            text.chars()
                .filter(|c| c.is_ascii_alphanumeric() || *c == '_')
                .take(24)
                .collect::<String>()
        };
        format!(
            "?at={at}&bay={}&dim={}&tap={}&n={}",
            safe(&self.bay),
            safe(&self.dim),
            safe(&self.tap),
            safe(&self.n)
        )
    }

    fn is_back_to(&self, rig: RigId) -> HttpResponse {
        see(&format!("/bench/{}{}", rig.0, self.query()))
    }
}

/// What the bench needs to know of the data file.
pub(super) struct Shop {
    id: RigId,
    board: Board,
    names: Vec<(RigId, String)>,
    stock: Vec<(PartId, BoxPart)>,
    setups: Vec<(SetupId, LineSetup)>,
    ticks: Vec<usize>,
    by_eye: bool,
    frame: Frame,
}

impl Shop {
    fn load(connection: &Connection, id: RigId, theme: Theme) -> Result<Self, Error> {
        let path = format!("/bench/{}", id.0);
        Ok(Self {
            id,
            board: rigs::board(connection, id)?,
            names: rigs::names(connection)?,
            stock: parts::all(connection)?,
            setups: setups::all(connection)?,
            ticks: rigs::ticks(connection, id)?,
            by_eye: settings::get(connection, "measuring")?.as_deref() == Some("by_eye"),
            frame: super::frame(connection, Screen::Bench, theme, &path)?,
        })
    }
}

/// Which rig to open.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Door {
    #[serde(deserialize_with = "crate::forms::lenient")]
    rig: Option<i64>,
}

/// `GET /bench`: the rig asked for, the one opened last, or the first.
pub(crate) async fn door(app: Data<App>, asked: Query<Door>) -> Result<HttpResponse, Error> {
    let asked = asked.into_inner().rig;
    let address = app
        .read(move |connection| {
            let names = rigs::names(connection)?;
            let opened = settings::get(connection, "open_rig")?.and_then(|id| id.parse().ok());
            let wanted = asked
                .or(opened)
                .filter(|id| names.iter().any(|(known, _)| known.0 == *id));
            let first = names.first().map(|(id, _)| id.0);
            Ok::<_, Error>(match wanted.or(first) {
                Some(id) => format!("/bench/{id}"),
                None => "/bench/new".to_owned(),
            })
        })
        .await?;
    Ok(see(&address))
}

/// `GET /bench/{rig}`
pub(crate) async fn show(
    app: Data<App>,
    request: HttpRequest,
    rig: Path<i64>,
    hand: Query<Hand>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    let theme = theme_of(&request);
    let opened = app
        .read(|connection| Ok(settings::get(connection, "open_rig")?))
        .await?;
    if opened != Some(id.0.to_string()) {
        app.write(move |connection| {
            rigs::board(connection, id)?;
            Ok::<_, Error>(settings::set(connection, "open_rig", &id.0.to_string())?)
        })
        .await?;
    }
    let shop = app
        .read(move |connection| Shop::load(connection, id, theme))
        .await?;
    let notice = hand.built.map(|deed| BenchNotice {
        sentence: "Built. The parts are out of the box, the rig lies in it.".into(),
        undo: Some(deed),
    });
    let bench = view::bench(&shop, &hand, notice, None)?;
    page(HttpResponse::Ok(), &bench)
}

/// The bench as typed, with the sentence beside its field.
fn refuse(shop: &Shop, hand: &Hand, refused: Refused) -> Result<HttpResponse, Error> {
    let bench = view::bench(shop, hand, None, Some(refused))?;
    page(HttpResponse::UnprocessableEntity(), &bench)
}

/// `POST /bench/{rig}/edit`
pub(crate) async fn edit(
    app: Data<App>,
    request: HttpRequest,
    rig: Path<i64>,
    hand: Query<Hand>,
    form: Form<BTreeMap<String, String>>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    let theme = theme_of(&request);
    let mut hand = hand.into_inner();
    let shop = app
        .read(move |connection| Shop::load(connection, id, theme))
        .await?;
    let edited = typed_edits(&form, &shop).and_then(|typed| {
        let stack = shop
            .board
            .stack
            .edited_by(&typed.edits)
            .map_err(|error| Refused::of(&error))?;
        Ok((stack, typed.at))
    });
    match edited {
        Ok((stack, at)) => {
            hand.at = at.filter(|at| *at < stack.pieces.len());
            if stack != shop.board.stack {
                app.write(move |connection| Ok::<_, Error>(rigs::save(connection, id, &stack)?))
                    .await?;
            }
            Ok(hand.is_back_to(id))
        }
        Err(refused) => refuse(&shop, &hand, refused),
    }
}

/// `POST /bench/{rig}/undo`
pub(crate) async fn undo(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    app.write(move |connection| Ok::<_, Error>(rigs::undo(connection, id)?))
        .await?;
    Ok(hand.is_back_to(id))
}

/// `POST /bench/{rig}/redo`
pub(crate) async fn redo(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    app.write(move |connection| Ok::<_, Error>(rigs::redo(connection, id)?))
        .await?;
    Ok(hand.is_back_to(id))
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
    tick: Form<Tick>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    app.write(move |connection| {
        let steps = motilis_core::bench::steps(&rigs::board(connection, id)?.stack).len();
        if tick.step >= steps {
            return Err(Error::BadRequest(format!(
                "there is no step {}; the rig has {steps}",
                tick.step + 1
            )));
        }
        Ok(rigs::tick(connection, id, tick.step, tick.done)?)
    })
    .await?;
    Ok(hand.is_back_to(id))
}

/// `POST /bench/{rig}/rename`
pub(crate) async fn rename(
    app: Data<App>,
    request: HttpRequest,
    rig: Path<i64>,
    hand: Query<Hand>,
    form: Form<BTreeMap<String, String>>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    let typed = form.get("name").cloned().unwrap_or_default();
    match new::name(&typed) {
        Ok(name) => {
            app.write(move |connection| Ok::<_, Error>(rigs::rename(connection, id, &name)?))
                .await?;
            Ok(hand.is_back_to(id))
        }
        Err(sentence) => {
            let theme = theme_of(&request);
            let shop = app
                .read(move |connection| Shop::load(connection, id, theme))
                .await?;
            let refused = Refused {
                field: "name".into(),
                typed,
                sentence,
            };
            refuse(&shop, &hand, refused)
        }
    }
}

/// `POST /bench/{rig}/setup`
pub(crate) async fn setup(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
    form: Form<BTreeMap<String, String>>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    let setup = form
        .get("setup")
        .and_then(|setup| setup.parse().ok())
        .map(SetupId);
    let setup = setup.ok_or_else(|| {
        Error::BadRequest("there is no such set-up; choose one of the list".into())
    })?;
    app.write(move |connection| {
        setups::get(connection, setup)?;
        Ok::<_, Error>(rigs::set_setup(connection, id, setup)?)
    })
    .await?;
    Ok(hand.is_back_to(id))
}

/// `POST /bench/{rig}/measuring`: computed spacing, or by eye.
pub(crate) async fn measuring(
    app: Data<App>,
    rig: Path<i64>,
    hand: Query<Hand>,
) -> Result<HttpResponse, Error> {
    app.write(|connection| {
        let by_eye = settings::get(connection, "measuring")?.as_deref() == Some("by_eye");
        let other = if by_eye { "computed" } else { "by_eye" };
        Ok::<_, Error>(settings::set(connection, "measuring", other)?)
    })
    .await?;
    Ok(hand.is_back_to(RigId(*rig)))
}

/// `POST /bench/{rig}/duplicate`
pub(crate) async fn duplicate(app: Data<App>, rig: Path<i64>) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    let copy = app
        .write(move |connection| {
            let board = rigs::board(connection, id)?;
            let names = rigs::names(connection)?;
            let taken = |name: &str| names.iter().any(|(_, known)| known == name);
            let base: String = board.name.chars().take(48).collect();
            // One more than there are names: one of them is free.
            let name = (2..names.len() + 3)
                .map(|number| format!("{base} {number}"))
                .find(|name| !taken(name))
                .unwrap_or(base);
            Ok::<_, Error>(rigs::add_board(
                connection,
                &name,
                &board.stack,
                board.setup,
            )?)
        })
        .await?;
    Ok(see(&format!("/bench/{}", copy.0)))
}

/// `POST /bench/{rig}/delete`
pub(crate) async fn delete(app: Data<App>, rig: Path<i64>) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    let now = app.now();
    app.write(move |connection| Ok::<_, Error>(throw(connection, Record::Rig(id), now)?))
        .await?;
    Ok(see(&format!("/box?gone=rig-{}", id.0)))
}

/// `POST /bench/{rig}/restore`
pub(crate) async fn restore(app: Data<App>, rig: Path<i64>) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    app.write(move |connection| Ok::<_, Error>(take_back(connection, Record::Rig(id))?))
        .await?;
    Ok(see(&format!("/bench/{}", id.0)))
}

/// `POST /bench/{rig}/build`
pub(crate) async fn build(
    app: Data<App>,
    request: HttpRequest,
    rig: Path<i64>,
    hand: Query<Hand>,
    form: Form<BTreeMap<String, String>>,
) -> Result<HttpResponse, Error> {
    let id = RigId(*rig);
    let theme = theme_of(&request);
    let hand = hand.into_inner();
    let typed = |name: &str| form.get(name).cloned().unwrap_or_default();
    let (count, place) = (view::batch(&typed("n")), typed("place").trim().to_owned());
    let sound_place = motilis_core::book::plain_text("place", &place, 60);
    let (count, refused) = match (count, sound_place) {
        (Ok(count), Ok(())) => (count, None),
        (Err(sentence), _) => (1, Some(("n", typed("n"), sentence))),
        (_, Err(error)) => (
            1,
            Some(("place", typed("place"), crate::forms::problem(&error).0)),
        ),
    };
    if let Some((field, typed, sentence)) = refused {
        let shop = app
            .read(move |connection| Shop::load(connection, id, theme))
            .await?;
        let refused = Refused {
            field: field.into(),
            typed,
            sentence,
        };
        return refuse(&shop, &hand, refused);
    }
    let now = app.now();
    let built = app
        .write(move |connection| {
            let board = rigs::board(connection, id)?;
            if board.stack.pieces.is_empty() {
                return Err(Error::BadRequest(
                    "nothing is threaded yet; start with a blade".into(),
                ));
            }
            let built = made::build(connection, id, count, &place, now)?;
            if matches!(built, Built::Done(_)) {
                rigs::clear_ticks(connection, id)?;
            }
            Ok(built)
        })
        .await?;
    match built {
        Built::Done(deed) => Ok(see(&format!(
            "/bench/{}{}&built={}",
            id.0,
            hand.query(),
            deed.0
        ))),
        Built::Short(short) => {
            let shop = app
                .read(move |connection| Shop::load(connection, id, theme))
                .await?;
            let wanted: Vec<String> = short
                .iter()
                .map(|one| {
                    format!(
                        "{}: {} needed, {} left",
                        words::part(&one.part),
                        words::left(&one.part, one.needs),
                        words::left(&one.part, one.left)
                    )
                })
                .collect();
            let notice = BenchNotice {
                sentence: format!("Not built, the box runs short. {}.", wanted.join("; ")),
                undo: None,
            };
            let bench = view::bench(&shop, &hand, Some(notice), None)?;
            page(HttpResponse::UnprocessableEntity(), &bench)
        }
    }
}
