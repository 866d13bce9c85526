//! Plugs and spoons with the angler's own dive tables.

use crate::forms::{Typed, problem, text};
use crate::screens::{frame, page, see, system, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Path, Query};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::book::{LureId, limits, plain_text};
use motilis_core::rig::Practice;
use motilis_core::spread::{DiveTable, Lure};
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{Connection, lures};
use motilis_view::screens::{LureForm, LureScreen, Screen, Theme};
use motilis_view::units::{Quantity, Reader, System, show};
use serde::Deserialize;

/// What was thrown away.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    #[serde(deserialize_with = "crate::forms::lenient")]
    deleted: Option<i64>,
}

/// A lure as typed.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub(crate) struct RawLure {
    name: String,
    from: String,
    favourite: String,
    to: String,
    pairs: String,
}

/// `GET /lures`
pub(crate) async fn list(
    app: Data<App>,
    request: HttpRequest,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let (theme, deleted) = (theme_of(&request), ask.deleted);
    let screen = app
        .read(move |connection| {
            let (form, _) = read(&RawLure::default(), system(connection)?, true);
            screen(connection, theme, form, deleted)
        })
        .await?;
    page(HttpResponse::Ok(), &screen)
}

fn screen(
    connection: &Connection,
    theme: Theme,
    form: LureForm,
    undo: Option<i64>,
) -> Result<LureScreen, Error> {
    let system = system(connection)?;
    let depth = |metres: Metres| show(Quantity::Depth, metres.0, system);
    let speed = |v: MetresPerSecond| show(Quantity::Speed, v.0, system);
    let lures = lures::all(connection)?
        .into_iter()
        .map(|(id, lure)| {
            let pairs: Vec<String> = lure
                .dives
                .pairs()
                .iter()
                .map(|(out, down)| format!("{} back {} down", depth(*out), depth(*down)))
                .collect();
            let speeds = format!(
                "{}–{}, best at {}",
                speed(lure.speeds.from).value,
                speed(lure.speeds.to),
                speed(lure.speeds.favourite)
            );
            (id.0, lure.name, speeds, pairs.join(", "))
        })
        .collect();
    Ok(LureScreen {
        frame: frame(connection, Screen::Spread, theme, "/lures")?,
        lures,
        form,
        undo,
    })
}

/// The form, with the lure it makes when nothing is wrong with it.
fn read(raw: &RawLure, system: System, blank: bool) -> (LureForm, Option<Lure>) {
    let speed = |name, label, typed: &str| {
        Typed::new(
            (name, label),
            (Quantity::Speed, system),
            limits::SPEED,
            typed,
        )
    };
    let mut name = text("name", "Name", raw.name.trim());
    let mut speeds = [
        speed("from", "Works from", &raw.from),
        speed("favourite", "Best at", &raw.favourite),
        speed("to", "Works up to", &raw.to),
    ];
    let mut trouble = String::new();
    let mut made = None;
    if !blank {
        let [from, favourite, to] = speeds
            .each_mut()
            .map(|typed| MetresPerSecond(typed.or(0.0)));
        let table = pairs(&raw.pairs, system);
        if name.value.is_empty() {
            name.problem = Some(motilis_view::units::Problem(
                "A lure needs a name; give it the one you use on the boat.".into(),
            ));
        } else if let Err(error) = plain_text("name", &name.value, 60) {
            name.problem = Some(problem(&error));
        }
        let speeds_read = speeds.iter().all(|typed| typed.field.problem.is_none());
        match table {
            Err(sentence) => trouble = sentence,
            Ok(table) if speeds_read && name.problem.is_none() => {
                let practice = Practice {
                    from,
                    favourite,
                    to,
                };
                match Lure::new(name.value.clone(), practice, table) {
                    Ok(lure) => made = Some(lure),
                    Err(error) => speeds[1].field.problem = Some(problem(&error)),
                }
            }
            Ok(_) => {}
        }
    }
    let mut fields = vec![name];
    fields.extend(speeds.map(|typed| typed.field));
    let form = LureForm {
        fields,
        pairs: raw.pairs.clone(),
        problem: trouble,
    };
    (form, made)
}

/// Pairs, one a line: setback and depth in the boat's units, or with their own.
fn pairs(typed: &str, system: System) -> Result<DiveTable, String> {
    let reader = |label, range| Reader {
        label,
        quantity: Quantity::Depth,
        system,
        range,
    };
    let mut pairs = Vec::new();
    for (number, line) in typed
        .lines()
        .filter(|line| !line.trim().is_empty())
        .enumerate()
    {
        // A comma or a tab between the two, or the blank between two plain figures.
        let halves = line
            .split_once(['\t', ';'])
            .or_else(|| line.trim().split_once(' '))
            .ok_or_else(|| {
                format!(
                    "Line {} holds one figure; give setback and depth, like 40 5.",
                    number + 1
                )
            })?;
        let out = reader("Setback", limits::OUT).read(halves.0);
        let depth = reader("Depth", limits::FISH_DEPTH).read(halves.1);
        let at = |sentence: String| format!("Line {}: {sentence}", number + 1);
        pairs.push((
            Metres(out.map_err(|problem| at(problem.0))?),
            Metres(depth.map_err(|problem| at(problem.0))?),
        ));
    }
    DiveTable::new(pairs).map_err(|error| problem(&error).0)
}

/// `POST /lures`
pub(crate) async fn add(
    app: Data<App>,
    request: HttpRequest,
    form: Form<RawLure>,
) -> Result<HttpResponse, Error> {
    let (raw, theme) = (form.into_inner(), theme_of(&request));
    let refused = app
        .write(move |connection| {
            let (form, made) = read(&raw, system(connection)?, false);
            match made {
                Some(lure) => {
                    lures::add(connection, &lure)?;
                    Ok::<_, Error>(None)
                }
                None => Ok(Some(screen(connection, theme, form, None)?)),
            }
        })
        .await?;
    match refused {
        None => Ok(see("/lures")),
        Some(screen) => page(HttpResponse::UnprocessableEntity(), &screen),
    }
}

/// `POST /lures/{lure}/delete`
pub(crate) async fn delete(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let (id, now) = (LureId(*id), app.now());
    app.write(move |connection| Ok::<_, Error>(throw(connection, Record::Lure(id), now)?))
        .await?;
    Ok(see(&format!("/lures?deleted={}", id.0)))
}

/// `POST /lures/{lure}/restore`
pub(crate) async fn restore(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let id = LureId(*id);
    app.write(move |connection| Ok::<_, Error>(take_back(connection, Record::Lure(id))?))
        .await?;
    Ok(see("/lures"))
}
