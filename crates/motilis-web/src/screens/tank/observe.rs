//! What is observed in the tank's own words: dunk tests of a blade, touches of the bottom.

use super::{RawTank, Shown, Stock, form, view};
use crate::forms::{Typed, problem};
use crate::screens::{page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Path, Query};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::Range;
use motilis_core::blade::Observation;
use motilis_core::book::{BottomTouch, DunkId, DunkTest, TouchId, limits};
use motilis_core::line::Touch;
use motilis_core::units::{Hertz, Metres, MetresPerSecond};
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{Connection, observed};
use motilis_view::screens::{Choice, Field, Tank, Theme};
use motilis_view::units::{Problem, Quantity, System};
use serde::Deserialize;
use std::sync::Arc;

/// Turns of a blade in ten seconds.
const TURNS: Range = Range::above(0.0, 1_000.0, "", "above 0 and at most 1 000");

/// The dunk test's form, with the tank it came from.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub(crate) struct RawDunk {
    #[serde(flatten)]
    tank: RawTank,
    seen: String,
    dunk_speed: String,
    turns: String,
}

/// The touch's form, with the tank it came from.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub(crate) struct RawTouch {
    #[serde(flatten)]
    tank: RawTank,
    touch_out: String,
    touch_depth: String,
    touch_speed: String,
    touched: String,
}

/// What can be seen beside the boat.
pub(super) fn sights(chosen: &str) -> Vec<Choice> {
    Choice::list(
        [
            ("started", "the slowest speed it turned at"),
            ("turned", "so many turns in ten seconds"),
            ("rolled_over", "the speed it rolled over at"),
        ],
        chosen,
    )
}

/// Whether it touched.
pub(super) fn touches(chosen: &str) -> Vec<Choice> {
    Choice::list(
        [("yes", "touched the bottom"), ("no", "did not touch")],
        chosen,
    )
}

/// The fields of a dunk test.
pub(super) fn dunk_fields(system: System, speed: &str, turns: &str) -> [Typed; 2] {
    [
        Typed::new(
            ("dunk_speed", "At a speed of"),
            (Quantity::Speed, system),
            limits::SPEED,
            speed,
        ),
        Typed::new(
            ("turns", "Turns in 10 s"),
            (Quantity::Count, system),
            TURNS,
            turns,
        ),
    ]
}

/// The fields of a touch.
pub(super) fn touch_fields(system: System, [out, depth, speed]: [&str; 3]) -> [Typed; 3] {
    [
        Typed::new(
            ("touch_out", "Line out"),
            (Quantity::Depth, system),
            limits::OUT,
            out,
        ),
        Typed::new(
            ("touch_depth", "Bottom at"),
            (Quantity::Depth, system),
            limits::DEPTH,
            depth,
        ),
        Typed::new(
            ("touch_speed", "Speed"),
            (Quantity::Speed, system),
            limits::SPEED,
            speed,
        ),
    ]
}

fn fields<const N: usize>(typed: [Typed; N]) -> Vec<Field> {
    typed.map(|typed| typed.field).into()
}

/// `POST /tank/dunk`
pub(crate) async fn dunk(
    app: Data<App>,
    request: HttpRequest,
    raw: Form<RawDunk>,
) -> Result<HttpResponse, Error> {
    let (raw, theme, now) = (raw.into_inner(), theme_of(&request), app.now());
    let done = app
        .write(move |connection| {
            let stock = Stock::load(connection)?;
            let (settled, _) = form::settle(&raw.tank, &stock)?;
            let system = stock.context.system;
            let mut typed = dunk_fields(system, &raw.dunk_speed, &raw.turns);
            let speed = MetresPerSecond(typed[0].or(0.0));
            let seen = match raw.seen.as_str() {
                "started" => Observation::Started(speed),
                "rolled_over" => Observation::RolledOver(speed),
                _ => Observation::Turned {
                    rate: Hertz(typed[1].or(0.0) / 10.0),
                    speed,
                },
            };
            let sound = typed.iter().all(|one| one.field.problem.is_none());
            let rig = &settled.rig.1.rig;
            let (blade, ..) = rig.front_blade();
            let test = DunkTest {
                seen,
                temperature: stock.context.outing.temperature,
                salt: stock.context.water.salt,
                family: blade.family,
                length: blade.length,
                at: now,
            };
            if sound {
                let water = test.water()?;
                let shaft = rig.shaft(&water, test.temperature)?;
                match seen.learn(&shaft, &water) {
                    Ok(_) => {
                        let id = settled.rig.0;
                        observed::add_dunk(connection, id, &test)?;
                        return Ok::<_, Error>(Ok(id));
                    }
                    Err(error) => typed[0].field.problem = Some(problem(&error)),
                }
            }
            let shown = Shown {
                dunk: Some((sights(&raw.seen), fields(typed))),
                ..Shown::default()
            };
            Ok(Err(again(connection, &raw.tank, theme, shown)?))
        })
        .await?;
    match done {
        Ok(rig) => Ok(see(&format!("/tank?rig={}", rig.0))),
        Err(tank) => page(HttpResponse::UnprocessableEntity(), &tank),
    }
}

/// `POST /tank/touch`
pub(crate) async fn touch(
    app: Data<App>,
    request: HttpRequest,
    raw: Form<RawTouch>,
) -> Result<HttpResponse, Error> {
    let (raw, theme, now) = (raw.into_inner(), theme_of(&request), app.now());
    let done = app
        .write(move |connection| {
            let stock = Stock::load(connection)?;
            let (settled, _) = form::settle(&raw.tank, &stock)?;
            let system = stock.context.system;
            let mut typed =
                touch_fields(system, [&raw.touch_out, &raw.touch_depth, &raw.touch_speed]);
            let [out, bottom, speed] = typed.each_mut().map(|one| one.or(0.0));
            let record = BottomTouch {
                rig: settled.rig.0,
                setup: settled.setup,
                main: settled.in_use.main,
                weight: settled.in_use.weight.and_then(|weight| weight.mass()),
                lead: settled.in_use.lead,
                out: Metres(out),
                bottom: Metres(bottom),
                speed: MetresPerSecond(speed),
                touched: raw.touched != "no",
                at: now,
            };
            if typed.iter().all(|one| one.field.problem.is_none()) {
                let checked = Touch {
                    rig: Arc::new(settled.rig.1.rig.clone()),
                    lead: record.lead,
                    out: record.out,
                    bottom: record.bottom,
                    speed: record.speed,
                    touched: record.touched,
                }
                .check();
                match checked {
                    Ok(()) => {
                        observed::add_touch(connection, &record)?;
                        return Ok::<_, Error>(Ok((record.rig, record.setup)));
                    }
                    Err(error) => {
                        let place = match error.quantity() {
                            "out" => 0,
                            "speed" => 2,
                            _ => 1,
                        };
                        typed[place].field.problem = Some(Problem(problem(&error).0));
                    }
                }
            }
            let shown = Shown {
                touch: Some((touches(&raw.touched), fields(typed))),
                ..Shown::default()
            };
            Ok(Err(again(connection, &raw.tank, theme, shown)?))
        })
        .await?;
    match done {
        Ok((rig, setup)) => Ok(see(&format!(
            "/tank?rig={}&setup={}&was_rig={}",
            rig.0, setup.0, rig.0
        ))),
        Err(tank) => page(HttpResponse::UnprocessableEntity(), &tank),
    }
}

/// The tank as it was, with what was typed and its sentences.
fn again(
    connection: &Connection,
    raw: &RawTank,
    theme: Theme,
    shown: Shown,
) -> Result<Tank, Error> {
    let stock = Stock::load(connection)?;
    let (settled, form) = form::settle(raw, &stock)?;
    let dunks = observed::dunks(connection, settled.rig.0)?;
    view::tank(&stock, &settled, form, theme, "/tank", shown, &dunks)
}

/// The rig that was in the tank.
#[derive(Debug, Deserialize)]
pub(crate) struct From {
    rig: i64,
}

async fn throw_away(
    app: &App,
    record: Record,
    from: &From,
    told: &str,
) -> Result<HttpResponse, Error> {
    let now = app.now();
    app.write(move |connection| Ok::<_, Error>(throw(connection, record, now)?))
        .await?;
    Ok(see(&format!("/tank?rig={}&{told}", from.rig)))
}

async fn give_back(app: &App, record: Record, from: &From) -> Result<HttpResponse, Error> {
    app.write(move |connection| Ok::<_, Error>(take_back(connection, record)?))
        .await?;
    Ok(see(&format!("/tank?rig={}", from.rig)))
}

/// `POST /tank/dunk/{dunk}/delete`
pub(crate) async fn delete_dunk(
    app: Data<App>,
    id: Path<i64>,
    from: Query<From>,
) -> Result<HttpResponse, Error> {
    let told = format!("dunk_gone={id}");
    throw_away(&app, Record::Dunk(DunkId(*id)), &from, &told).await
}

/// `POST /tank/dunk/{dunk}/restore`
pub(crate) async fn restore_dunk(
    app: Data<App>,
    id: Path<i64>,
    from: Query<From>,
) -> Result<HttpResponse, Error> {
    give_back(&app, Record::Dunk(DunkId(*id)), &from).await
}

/// `POST /tank/touch/{touch}/delete`
pub(crate) async fn delete_touch(
    app: Data<App>,
    id: Path<i64>,
    from: Query<From>,
) -> Result<HttpResponse, Error> {
    let told = format!("touch_gone={id}");
    throw_away(&app, Record::Touch(TouchId(*id)), &from, &told).await
}

/// `POST /tank/touch/{touch}/restore`
pub(crate) async fn restore_touch(
    app: Data<App>,
    id: Path<i64>,
    from: Query<From>,
) -> Result<HttpResponse, Error> {
    give_back(&app, Record::Touch(TouchId(*id)), &from).await
}
