//! Changes of the boat under way: its instruments, marks, practice, and a simulated boat's helm.

use super::boat::{instruments_page, page, rides};
use super::{made, ok, refused, see};
use crate::app::{Outcome, Reading};
use crate::device::{Borne, Sent};
use crate::keeper;
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::Data;
use motilis_core::track::Track;
use motilis_core::units::{MILE_PER_HOUR, Metres, MetresPerSecond};
use motilis_helm::{Act, BoatAct, LogAct};
use motilis_live::simulator::Order;
use motilis_store::rods;
use motilis_view::forms::{Texts, boat as form};
use motilis_view::present::{BoatAsk, InstrumentsAsk, Score};
use serde::Deserialize;
use std::sync::PoisonError;

/// Where a setting comes back to.
const SET: &str = "/boat/instruments?set=yes";
/// Least line that stays out when some is wound in.
const LEAST: Metres = Metres(1.0);

/// `POST /boat/instruments`: where the instruments are heard.
pub(crate) async fn listen(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    match form::wire_read(&sent.form, &rides(&app)) {
        Ok(wire) => {
            app.do_act(&sent.borne, Act::Boat(BoatAct::Wire(wire)))
                .await?;
            Ok(see(SET))
        }
        Err(wire) => {
            let ask = InstrumentsAsk {
                wire: Some(wire),
                ..InstrumentsAsk::default()
            };
            refused(&instruments_page(&app, sent.device, ask).await?)
        }
    }
}

/// Whether to record.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Record {
    record: String,
}

/// `POST /boat/record`
pub(crate) async fn record(app: Data<App>, sent: Sent<Record>) -> Result<HttpResponse, Error> {
    let begins = sent.form.record == "yes";
    let folder = app.rides().to_owned();
    let name = format!("{}.nmea", app.now().strftime("%Y-%m-%d-%H%M%S"));
    let path = folder.join(name);
    let begun = if begins {
        std::fs::create_dir_all(&folder).and_then(|()| app.live().record(Some(path.clone())))
    } else {
        app.live().record(None)
    };
    begun.map_err(|error| {
        Error::BadRequest(format!("{} cannot be made: {error}", path.display()))
    })?;
    Ok(see(SET))
}

/// `POST /boat/current`
pub(crate) async fn current(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let read = if sent.form.contains_key("learn") {
        Ok(None)
    } else {
        form::current_read(&sent.form, sent.device.system).map(Some)
    };
    match read {
        Ok(current) => {
            app.do_act(&sent.borne, Act::Boat(BoatAct::Current(current)))
                .await?;
            Ok(see(SET))
        }
        Err(fields) => {
            let ask = InstrumentsAsk {
                current: Some(fields),
                ..InstrumentsAsk::default()
            };
            refused(&instruments_page(&app, sent.device, ask).await?)
        }
    }
}

/// `POST /boat/reel`
pub(crate) async fn reel(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    match form::reel_read(&sent.form, sent.device.system) {
        Ok(reel) => {
            app.do_act(&sent.borne, Act::Boat(BoatAct::Reel(reel)))
                .await?;
            Ok(see(SET))
        }
        Err(fields) => {
            let ask = InstrumentsAsk {
                reel: Some(fields),
                ..InstrumentsAsk::default()
            };
            refused(&instruments_page(&app, sent.device, ask).await?)
        }
    }
}

/// `POST /boat/helm`: throttle and course of a simulated boat.
pub(crate) async fn helm(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let Some(boat) = app.live().boat() else {
        return Err(Error::BadRequest(
            "no simulated boat is under way; your own is steered by hand".into(),
        ));
    };
    let figure = |name: &str, most: f64| match sent.form.get(name) {
        None => Ok(None),
        Some(text) => match text.parse::<f64>() {
            Ok(figure) if figure.abs() <= most => Ok(Some(figure)),
            _ => Err(Error::BadRequest(format!(
                "{name} is no figure between -{most} and {most}; use the buttons of the boat"
            ))),
        },
    };
    let (by, speed) = (figure("by", 5.0)?, figure("speed_mps", 5.0)?);
    let turn = figure("turn", 180.0)?;
    let on = sent
        .form
        .get("screen")
        .is_some_and(|screen| screen == "instruments");
    let typed = if sent.form.contains_key("speed") {
        match form::helm_read(&sent.form, sent.device.system) {
            Ok(typed) => typed,
            Err(fields) => {
                let ask = InstrumentsAsk {
                    helm: Some(fields),
                    ..InstrumentsAsk::default()
                };
                return refused(&instruments_page(&app, sent.device, ask).await?);
            }
        }
    } else {
        (None, None)
    };
    {
        let mut boat = boat.lock().unwrap_or_else(PoisonError::into_inner);
        let now = boat.helm.throttled();
        let by = by.map(|faster| (now.0 + faster * MILE_PER_HOUR.0).max(0.0));
        if let Some(speed) = speed.or(by).or(typed.0) {
            boat.helm.throttle(MetresPerSecond(speed));
        }
        let heading = boat.helm.sailing().heading.to_degrees();
        let turned = turn.map(|by| heading + by);
        if let Some(heading) = typed.1.or(turned) {
            boat.helm.order(Order::Straight(heading.rem_euclid(360.0)));
        }
        if sent.form.contains_key("route") {
            boat.helm.order(keeper::route());
        }
    }
    Ok(see(if on { SET } else { "/boat" }))
}

/// `POST /boat/mark`
pub(crate) async fn mark(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    match form::mark_read(&sent.form, sent.device.system) {
        Ok(depth) => {
            let done = app
                .do_act(&sent.borne, Act::Boat(BoatAct::Mark(depth)))
                .await?;
            Ok(see(&format!("/boat?said=marked&act={}", done.act.0)))
        }
        Err(field) => {
            let ask = BoatAsk {
                mark: Some(field),
                throttle: super::boat::throttle(&app),
                ..BoatAsk::default()
            };
            refused(&page(&app, sent.device, ask).await?)
        }
    }
}

/// A rod, and by how much its line was taken in.
#[derive(Deserialize)]
pub(crate) struct Wound {
    rod: u8,
    by_m: f64,
}

/// `POST /boat/wind`
pub(crate) async fn wind(app: Data<App>, sent: Sent<Wound>) -> Result<HttpResponse, Error> {
    let Wound { rod, by_m } = sent.form;
    if !(0.0..=100.0).contains(&by_m) {
        return Err(Error::BadRequest(
            "no line was taken in; wind between 0 and 100 m".into(),
        ));
    }
    let outcome: Outcome<motilis_view::screens::Boat> = app
        .act(&sent.borne, move |book| {
            let here = book.here()?.id;
            let all = rods::of_outing(book.connection(), here)?;
            let found = all.iter().find(|one| one.number == rod);
            let out = found.map_or(LEAST, |one| one.rod.out);
            let left = Metres((out.0 - by_m).max(LEAST.0.min(out.0)));
            Ok(Reading::Act(Act::Log(LogAct::Out(rod, left))))
        })
        .await?;
    match outcome {
        Outcome::Done(done) => Ok(see(&format!("/boat?said=wound&act={}", done.act.0))),
        Outcome::Page(page) => ok(&page),
    }
}

/// `POST /boat/practice`
pub(crate) async fn begin_practice(
    app: Data<App>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    match form::trip_read(&sent.form) {
        Ok((pace, seed)) => {
            let wire = format!("practice {pace} {seed}");
            app.do_act(&sent.borne, Act::Boat(BoatAct::Practice(wire)))
                .await?;
            Ok(see("/boat"))
        }
        Err(trip) => refused(&super::boat::practice_page(&app, sent.device, trip).await?),
    }
}

/// `POST /boat/practice/end`
pub(crate) async fn end_practice(
    app: Data<App>,
    sent: Sent<super::Nothing>,
) -> Result<HttpResponse, Error> {
    let told = app.live().told();
    let score = told.truth.as_ref().map(Score::from);
    let written = score
        .and_then(|score| serde_json::to_string(&score).ok())
        .unwrap_or_default();
    app.do_act(&sent.borne, Act::Boat(BoatAct::PracticeOver(written)))
        .await?;
    keep_track(&app, &sent.borne).await?;
    Ok(see("/boat/practice"))
}

/// Keeps where the boat was on the open outing, once it has ended.
pub(crate) async fn keep_track(app: &App, borne: &Borne) -> Result<(), Error> {
    let here = app
        .ask(|book| {
            let here = book.here()?;
            Ok((here.id, here.outing.started, here.water.name.clone()))
        })
        .await?;
    let (outing, started, name) = here;
    let points = app.live().track_since(started);
    let Ok(track) = Track::new(name, points) else {
        // Nobody was heard: there is none to keep.
        return Ok(());
    };
    let act = Act::Log(LogAct::Track(Box::new(track), Some(outing)));
    app.do_act(&borne.and("track"), act).await?;
    Ok(())
}

/// The rods that a tap named, as one who comes back to the boat sees them.
pub(crate) fn came(done: motilis_helm::Done, said: &str) -> String {
    format!("/boat?{said}={}&act={}", made(done), done.act.0)
}
