//! Waters: where they lie, what they are like, who lives in them, and the rules typed in for them.

mod form;
mod rule;

use super::{Context, frame, page, see, system, theme_of, zone};
use crate::{App, Error};
use actix_web::web::{Data, Form, Path, Query};
use actix_web::{HttpRequest, HttpResponse};
use form::Raw;
use jiff::{SignedDuration, Timestamp};
use motilis_core::book::{RuleId, WaterBody, WaterId};
use motilis_core::column::{Course, hours};
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{Connection, rules, waters};
use motilis_view::screens::{RuleRow, Screen, Theme, Water, WaterRow, Waters};
use motilis_view::units::{Quantity, System, show};
use motilis_view::words::{self, rules as say};
pub(crate) use rule::{add_rule, delete_rule, restore_rule, save_rule};
use serde::Deserialize;

/// What the list is asked to show.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct ListAsk {
    #[serde(deserialize_with = "crate::forms::lenient")]
    deleted: Option<i64>,
}

/// `GET /waters`
pub(crate) async fn list(
    app: Data<App>,
    request: HttpRequest,
    ask: Query<ListAsk>,
) -> Result<HttpResponse, Error> {
    let (theme, deleted, now) = (theme_of(&request), ask.deleted, app.now());
    let screen = app
        .read(move |connection| {
            let units = system(connection)?;
            let rows = waters::all(connection)?
                .iter()
                .map(|(id, water)| row(connection, *id, water, now, units))
                .collect::<Result<_, Error>>()?;
            let undo = match deleted {
                None => None,
                Some(id) => Some((id, waters::get(connection, WaterId(id))?.name)),
            };
            Ok::<_, Error>(Waters {
                frame: frame(connection, Screen::Waters, theme, "/waters")?,
                rows,
                undo,
            })
        })
        .await?;
    page(HttpResponse::Ok(), &screen)
}

fn row(
    connection: &Connection,
    id: WaterId,
    water: &WaterBody,
    now: Timestamp,
    system: System,
) -> Result<WaterRow, Error> {
    let count = rules::of_water(connection, id)?.len();
    let names = |names: Vec<&str>, none: &str| {
        if names.is_empty() {
            none.to_owned()
        } else {
            words::capital(&names.join(", "))
        }
    };
    Ok(WaterRow {
        id: id.0,
        name: water.name.clone(),
        place: place(water),
        zone: format!(
            "{} now, {}",
            now.to_zoned_datetime(zone(water)).strftime("%H:%M"),
            water.zone
        ),
        water: format!(
            "{} water, {}, a white disk lost at {}",
            if water.salt { "Salt" } else { "Fresh" },
            water.stain.name(),
            show(Quantity::Depth, water.clarity.0, system)
        ),
        fish: names(
            water.fish.iter().map(|fish| fish.name()).collect(),
            "No fish entered",
        ),
        forage: names(
            water.forage.iter().map(|forage| forage.name()).collect(),
            "No forage entered",
        ),
        sun: sun(water, now)?,
        rules: match count {
            0 => "Enter its rules".to_owned(),
            1 => "1 rule".to_owned(),
            many => format!("{many} rules"),
        },
    })
}

/// "50.42° N, 95.61° W"
fn place(water: &WaterBody) -> String {
    let of = |degrees: f64, [positive, negative]: [&str; 2]| {
        let side = if degrees < 0.0 { negative } else { positive };
        format!("{:.2}° {side}", degrees.abs())
    };
    format!(
        "{}, {}",
        of(water.latitude_deg, ["N", "S"]),
        of(water.longitude_deg, ["E", "W"])
    )
}

/// Dawn and dusk of today, or that the sun does neither.
fn sun(water: &WaterBody, now: Timestamp) -> Result<String, Error> {
    let local = now.to_zoned_datetime(zone(water));
    let midnight = local.start_of_day().map_or(now, |start| start.timestamp());
    let day = hours(
        water.place()?,
        midnight,
        midnight + SignedDuration::from_hours(24),
    )?;
    let clock = |at: Timestamp| {
        at.to_zoned_datetime(zone(water))
            .strftime("%H:%M")
            .to_string()
    };
    Ok(match day.course {
        Course::RisesAndSets => format!(
            "Light to fish by from {} to {} today",
            clock(day.from),
            clock(day.to)
        ),
        Course::NeverSets => "The sun does not set today".to_owned(),
        Course::NeverRises => "The sun does not rise today".to_owned(),
    })
}

/// What a water's page is asked to show.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    /// The rule in hand.
    #[serde(deserialize_with = "crate::forms::lenient")]
    rule: Option<i64>,
    /// A rule that was thrown away just now.
    #[serde(deserialize_with = "crate::forms::lenient")]
    deleted_rule: Option<i64>,
    saved: String,
}

/// What a page shows beside the water as it is.
#[derive(Default)]
struct Extra {
    water: Option<Raw>,
    /// The rule's form as typed, with its problem.
    rule: Option<(Option<RuleId>, Raw, rule::Refused)>,
    ask: Ask,
}

/// `GET /waters/new`
pub(crate) async fn blank(app: Data<App>, request: HttpRequest) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let screen = app
        .read(move |connection| new_page(connection, theme, &Raw::new(), false))
        .await?;
    page(HttpResponse::Ok(), &screen)
}

fn new_page(connection: &Connection, theme: Theme, raw: &Raw, typed: bool) -> Result<Water, Error> {
    let read = form::read(raw, system(connection)?);
    Ok(Water {
        frame: frame(connection, Screen::Waters, theme, "/waters/new")?,
        id: None,
        title: "A new water".to_owned(),
        form: if typed {
            read.form
        } else {
            form::without_problems(read.form)
        },
        rules: Vec::new(),
        rule: None,
        notice: None,
    })
}

/// `POST /waters/new`
pub(crate) async fn add(
    app: Data<App>,
    request: HttpRequest,
    raw: Form<Raw>,
) -> Result<HttpResponse, Error> {
    let (raw, theme) = (raw.into_inner(), theme_of(&request));
    let added = app
        .write(
            move |connection| match form::read(&raw, system(connection)?).water {
                Some(water) => Ok(Ok(waters::add(connection, &water)?)),
                None => Ok(Err(new_page(connection, theme, &raw, true)?)),
            },
        )
        .await?;
    match added {
        Ok(id) => Ok(see(&format!("/waters/{}?saved=yes", id.0))),
        Err(screen) => page(HttpResponse::UnprocessableEntity(), &screen),
    }
}

/// `GET /waters/{water}`
pub(crate) async fn show_water(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let (id, theme, now) = (WaterId(*id), theme_of(&request), app.now());
    let extra = Extra {
        ask: ask.into_inner(),
        ..Extra::default()
    };
    let screen = app
        .read(move |connection| water_page(connection, id, theme, now, extra))
        .await?;
    page(HttpResponse::Ok(), &screen)
}

/// `POST /waters/{water}`: when one field cannot be, nothing is changed.
pub(crate) async fn save(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
    raw: Form<Raw>,
) -> Result<HttpResponse, Error> {
    let (id, raw, theme, now) = (
        WaterId(*id),
        raw.into_inner(),
        theme_of(&request),
        app.now(),
    );
    let refused = app
        .write(move |connection| {
            if let Some(water) = form::read(&raw, system(connection)?).water {
                waters::update(connection, id, &water)?;
                return Ok(None);
            }
            let extra = Extra {
                water: Some(raw),
                ..Extra::default()
            };
            Ok::<_, Error>(Some(water_page(connection, id, theme, now, extra)?))
        })
        .await?;
    match refused {
        None => Ok(see(&format!("/waters/{}?saved=yes", id.0))),
        Some(screen) => page(HttpResponse::UnprocessableEntity(), &screen),
    }
}

/// `POST /waters/{water}/delete`
pub(crate) async fn delete(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let (id, now) = (WaterId(*id), app.now());
    app.write(move |connection| {
        let open = Context::load(connection).ok();
        if open.is_some_and(|context| context.outing.water == id) {
            return Err(Error::BadRequest(
                "the open outing is on this water; open another outing before you throw it away"
                    .into(),
            ));
        }
        Ok(throw(connection, Record::Water(id), now)?)
    })
    .await?;
    Ok(see(&format!("/waters?deleted={}", id.0)))
}

/// `POST /waters/{water}/restore`
pub(crate) async fn restore(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let id = WaterId(*id);
    app.write(move |connection| Ok::<_, Error>(take_back(connection, Record::Water(id))?))
        .await?;
    Ok(see("/waters"))
}

fn water_page(
    connection: &Connection,
    id: WaterId,
    theme: Theme,
    now: Timestamp,
    extra: Extra,
) -> Result<Water, Error> {
    let units = system(connection)?;
    let water = waters::get(connection, id)?;
    let today = now.to_zoned_datetime(zone(&water)).date();
    let raw = extra.water.unwrap_or_else(|| form::typed_of(&water, units));
    let entered = rules::of_water(connection, id)?;
    let rows = entered
        .iter()
        .map(|(rule_id, rule)| RuleRow {
            id: rule_id.0,
            says: say::says(rule, units),
            span: say::span(rule),
            source: say::source(rule),
            holds: rule.holds_on(today),
        })
        .collect();
    let in_hand = extra
        .ask
        .rule
        .and_then(|rule| entered.iter().find(|(id, _)| id.0 == rule));
    let rule = match (extra.rule, in_hand) {
        (Some((id, raw, refused)), _) => rule::form(id, &raw, &water, units, Some(&refused)),
        (None, Some((id, held))) => {
            rule::form(Some(*id), &rule::typed_of(held, units), &water, units, None)
        }
        (None, None) => rule::form(None, &Raw::new(), &water, units, None),
    };
    let notice = match (extra.ask.deleted_rule, extra.ask.saved.is_empty()) {
        (Some(rule), _) => Some((
            "Rule thrown away.".to_owned(),
            Some(format!("/waters/{}/rules/{rule}/restore", id.0)),
        )),
        (None, false) => Some(("Saved.".to_owned(), None)),
        (None, true) => None,
    };
    Ok(Water {
        frame: frame(connection, Screen::Waters, theme, "/waters")?,
        id: Some(id.0),
        title: water.name.clone(),
        form: form::read(&raw, units).form,
        rules: rows,
        rule: Some(rule),
        notice,
    })
}
