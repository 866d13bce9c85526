//! Log: one tap a rod for a strike or a fish; rods out and in; the list, the passes, and their corrections.

use super::boat_acts::came;
use super::{boat, follow, home, made, ok, refused, see};
use crate::app::{Outcome, Reading};
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use jiff::Timestamp;
use motilis_core::book::Event;
use motilis_core::book::{
    Caught, EventId, EventKind, Landing, PassId, Play, RigId, SpreadId, Strike,
};
use motilis_helm::{Aboard, Act, Book, Done, LogAct, Tank, switching};
use motilis_store::{events, passes};
use motilis_view::Seen;
use motilis_view::forms::tank::{RawTank, Settling, settle};
use motilis_view::forms::{Texts, entry};
use motilis_view::present::{BoatAsk, LogExtra, Told, log};
use motilis_view::screens::Log;
use serde::Deserialize;

/// What the page is asked to show beside the list.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    edit: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    logged: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    deleted: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    pass_gone: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    rod: Option<u8>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    out: Option<u8>,
    #[serde(rename = "in", deserialize_with = "motilis_view::forms::lenient")]
    taken: Option<u8>,
    only: String,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    from: Option<usize>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    at: Option<i64>,
}

impl Ask {
    /// A rod that was moved; 0 stands for all.
    fn moved(&self) -> Option<String> {
        let which = |rod: u8| match rod {
            0 => "All rods".to_owned(),
            rod => format!("Rod {rod}"),
        };
        let out = self.out.map(|rod| format!("{} out.", which(rod)));
        out.or(self.taken.map(|rod| format!("{} aboard.", which(rod))))
    }
}

/// `GET /log`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let told = Told {
        edit: ask.edit,
        logged: ask.logged,
        deleted: ask.deleted,
        pass_gone: ask.pass_gone,
        moved: ask.moved(),
        now: Some(app.now()),
        only: EventKind::from_key(&ask.only),
        rod: ask.rod,
        from: ask.from,
        at: ask.at,
    };
    let page = app
        .ask(move |book| Ok(log(book, looking.0, &told, LogExtra::default())?))
        .await?;
    ok(&page)
}

/// A tap on one of a rod's buttons, or a note.
#[derive(Deserialize)]
pub(crate) struct Tap {
    kind: String,
    #[serde(default)]
    note: String,
    #[serde(default)]
    rod: String,
    #[serde(default)]
    screen: String,
    #[serde(default)]
    sure: String,
}

impl Tap {
    /// What a button stands for: some say how a strike felt, or how a fish was lost, at once.
    fn means(&self) -> Option<(EventKind, Caught, Option<Play>)> {
        if let Some(play) = self.kind.strip_prefix("play:") {
            let play = Play::from_key(play)?;
            return Some((EventKind::Change, Caught::default(), Some(play)));
        }
        let strike = |felt| Caught {
            strike: Some(felt),
            ..Caught::default()
        };
        Some(match self.kind.as_str() {
            "short" => (EventKind::Strike, strike(Strike::Short), None),
            "light" => (EventKind::Strike, strike(Strike::Light), None),
            "broke_off" => {
                let caught = Caught {
                    landing: Some(Landing::BrokeOff),
                    ..Caught::default()
                };
                (EventKind::Fish, caught, None)
            }
            kind => (EventKind::from_key(kind)?, Caught::default(), None),
        })
    }
}

/// `POST /log`
pub(crate) async fn tap(app: Data<App>, sent: Sent<Tap>) -> Result<HttpResponse, Error> {
    let (tap, device) = (sent.form, sent.device);
    let (kind, caught, play) = tap.means().ok_or_else(|| {
        Error::BadRequest(
            "the log takes a strike, fish, follow, bottom touch, snag, tangle, fresh bait, change or note".into(),
        )
    })?;
    let rod = rod(&tap.rod)?;
    let on_boat = tap.screen == "boat";
    let asks = on_boat && kind == EventKind::Fish && tap.sure != "two";
    let (at, pace) = (app.seal(&sent.borne).at, app.live().clock().pace());
    let outcome = app
        .act(&sent.borne, move |book| {
            if let Some(before) = rod
                .filter(|_| asks)
                .map(|rod| twin_of(book, rod, at, pace))
                .transpose()?
                .flatten()
            {
                return Ok(Reading::Page(Asked::Twice(before)));
            }
            let wrong = (kind == EventKind::Note).then(|| entry::note_problem(&tap.note));
            if let Some(problem) = wrong.flatten() {
                let extra = LogExtra::note(&tap.note, problem);
                let page = log(book, device, &Told::default(), extra)?;
                return Ok(Reading::Page(Asked::Again(Box::new(page))));
            }
            Ok(Reading::Act(Act::Log(LogAct::Tap {
                kind,
                rod,
                note: tap.note.trim().to_owned(),
                caught: Box::new(caught),
                play,
            })))
        })
        .await?;
    match outcome {
        Outcome::Done(done) if on_boat => Ok(see(&came(done, "logged"))),
        Outcome::Done(done) => Ok(see(&format!("/log?logged={}", made(done)))),
        Outcome::Page(Asked::Again(page)) => refused(&*page),
        Outcome::Page(Asked::Twice(before)) => {
            let ask = BoatAsk {
                twice: Some(before),
                throttle: boat::throttle(&app),
                ..BoatAsk::default()
            };
            refused(&boat::page(&app, device, ask).await?)
        }
    }
}

/// What a tap is answered with when it is not done.
enum Asked {
    /// The log with what is wrong.
    Again(Box<Log>),
    /// Whether it is a second fish: the rod, and when the first was tapped.
    Twice((u8, Timestamp)),
}

/// Two taps of a fish on one rod so near each other may be one fish, seen from two phones.
const TWINS: f64 = 2.0;

fn twin_of(
    book: &Book<'_>,
    rod: u8,
    at: Timestamp,
    pace: f64,
) -> Result<Option<(u8, Timestamp)>, Error> {
    let here = book.here()?.id;
    let entries = events::of_outing(book.connection(), here)?;
    let near = |event: &Event| {
        let apart = event.at.duration_since(at).as_secs_f64().abs();
        event.kind == EventKind::Fish && event.rod == Some(rod) && apart <= TWINS * pace.max(1.0)
    };
    let Some((_, first)) = entries.iter().find(|(_, event)| near(event)) else {
        return Ok(None);
    };
    // A rod that went out again meanwhile has another; the pass that the first one ended is none of those.
    let passes = passes::of_outing(book.connection(), here)?;
    let again = passes.iter().any(|(_, pass)| {
        let since = pass.from >= first.at && pass.from <= at;
        pass.rod == Some(rod) && since && pass.to != Some(first.at)
    });
    Ok((!again).then_some((rod, first.at)))
}

/// A rod by its number; none when nobody named one.
fn rod(typed: &str) -> Result<Option<u8>, Error> {
    match typed.trim() {
        "" => Ok(None),
        typed => typed
            .parse()
            .map(Some)
            .map_err(|_| Error::BadRequest(format!("rod {typed} is none; it has a number from 1"))),
    }
}

/// A rod that is meant; none for all of them.
#[derive(Deserialize)]
pub(crate) struct Meant {
    #[serde(default)]
    rod: String,
    #[serde(default)]
    away: String,
    #[serde(default)]
    spread: String,
    #[serde(default)]
    screen: String,
}

/// `POST /log/rods/out`
pub(crate) async fn set_out(app: Data<App>, sent: Sent<Meant>) -> Result<HttpResponse, Error> {
    let rod = rod(&sent.form.rod)?;
    let done = app
        .do_act(&sent.borne, Act::Log(LogAct::SetOut(rod)))
        .await?;
    Ok(see(&moved(&sent.form.screen, "out", rod, done)))
}

/// `POST /log/rods/in`
pub(crate) async fn take_in(app: Data<App>, sent: Sent<Meant>) -> Result<HttpResponse, Error> {
    let rod = rod(&sent.form.rod)?;
    let done = app
        .do_act(&sent.borne, Act::Log(LogAct::TakeIn(rod)))
        .await?;
    Ok(see(&moved(&sent.form.screen, "in", rod, done)))
}

/// Where a rod that was moved is looked at again.
fn moved(screen: &str, how: &str, rod: Option<u8>, done: Done) -> String {
    let rod = rod.unwrap_or(0);
    match home(screen) {
        "/boat" => format!("/boat?{how}={rod}&act={}", done.act.0),
        "/boat/set-out" => "/boat/set-out".to_owned(),
        _ => format!("/log?{how}={rod}"),
    }
}

/// `POST /log/rods/away`
pub(crate) async fn away(app: Data<App>, sent: Sent<Meant>) -> Result<HttpResponse, Error> {
    let named = rod(&sent.form.rod)?;
    let number = named.ok_or_else(|| Error::BadRequest("no rod was named; tap one".into()))?;
    let away = sent.form.away == "yes";
    app.do_act(&sent.borne, Act::Log(LogAct::Away(number, away)))
        .await?;
    Ok(match home(&sent.form.screen) {
        "/log" => see(&format!("/log#rod-{number}")),
        elsewhere => see(elsewhere),
    })
}

/// `POST /log/rods/from`: the rods of a spread, instead of those there are.
pub(crate) async fn take_rods(app: Data<App>, sent: Sent<Meant>) -> Result<HttpResponse, Error> {
    let spread = sent
        .form
        .spread
        .parse()
        .map(SpreadId)
        .map_err(|_| Error::BadRequest("no spread was named; choose one of the list".into()))?;
    app.do_act(&sent.borne, Act::Log(LogAct::Rods(spread)))
        .await?;
    Ok(see("/log"))
}

/// Whether a called change is made.
#[derive(Deserialize)]
pub(crate) struct Answer {
    #[serde(rename = "do", default)]
    said: String,
    #[serde(default)]
    rig: i64,
    #[serde(default)]
    screen: String,
}

/// `POST /log/switch`: the change that the day's fish call for is made, or dismissed until another fish comes.
pub(crate) async fn switch(app: Data<App>, sent: Sent<Answer>) -> Result<HttpResponse, Error> {
    let answer = sent.form;
    let (on_boat, yes) = (answer.screen == "boat", answer.said == "yes");
    let outcome: Outcome<Log> = app
        .act(&sent.borne, move |book| {
            if answer.said != "yes" {
                let act = LogAct::Dismiss(RigId(answer.rig));
                return Ok(Reading::Act(Act::Log(act)));
            }
            let called = switching(book, &Aboard::all(book)?)?;
            match called.filter(|called| called.call.rig.0 == answer.rig) {
                Some(called) => Ok(Reading::Act(Act::Log(LogAct::Switch(
                    called.call.rig,
                    called.rods,
                )))),
                None => Err(Error::BadRequest(
                    "that change is not called any more; the log shows how the rods stand".into(),
                )),
            }
        })
        .await?;
    follow(outcome, |done| match (on_boat, yes) {
        (true, true) => format!("/boat?said=changed&act={}", done.act.0),
        (true, false) => "/boat".to_owned(),
        (false, _) => "/log".to_owned(),
    })
}

/// `POST /log/line`: the line of the tank is on a rod from now on.
pub(crate) async fn run_line(app: Data<App>, sent: Sent<RawTank>) -> Result<HttpResponse, Error> {
    let (raw, device) = (sent.form, sent.device);
    let rod = rod(&raw.rod)?;
    if !raw.names_a_rig() {
        return Err(Error::BadRequest(
            "no rig was named; open one in the tank and run it".into(),
        ));
    }
    let outcome: Outcome<Log> = app
        .act(&sent.borne, move |book| {
            let tank = Seen::new(Tank::load(book)?, device);
            let (settled, form) = match settle(&raw, &tank)? {
                Settling::Runs(both) => *both,
                Settling::Cannot(cannot) => return Err(cannot.why.into()),
                Settling::Empty => return Err(Error::NotFound("there is no rig yet".into())),
            };
            if let Some(field) = form.fields().iter().find(|field| field.problem.is_some()) {
                return Err(Error::BadRequest(field.sentence().to_owned()));
            }
            let act = LogAct::Run(settled.line(), settled.speed, rod);
            Ok(Reading::Act(Act::Log(act)))
        })
        .await?;
    follow(outcome, |_| "/log".into())
}

/// `POST /log/{event}`: a corrected entry.
pub(crate) async fn correct(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, form, device) = (EventId(*id), sent.form, sent.device);
    let base = sent.borne.base.clone();
    let now = app.now();
    let whole = form.contains_key("kind") == form.contains_key("at");
    if !whole
        || !["kind", "at", "length", "kept", "landing"]
            .iter()
            .any(|name| form.contains_key(*name))
    {
        return Err(Error::BadRequest(
            "nothing was sent to correct; open the entry again and save it".into(),
        ));
    }
    // The quick form in a fish's notice stays there, with what the rules say of the length.
    let quick = !form.contains_key("kind");
    let on_boat = form.get("screen").is_some_and(|screen| screen == "boat");
    let outcome = app
        .act(&sent.borne, move |book| {
            let event = events::get(book.connection(), id)?;
            let rods = Aboard::all(book)?;
            match entry::read(&form, base.as_deref(), &event, book.here()?, device, &rods) {
                Ok(event) => Ok(Reading::Act(Act::Log(LogAct::Correct(id, Box::new(event))))),
                Err(back) => {
                    let told = Told {
                        edit: Some(id.0),
                        now: Some(now),
                        ..Told::default()
                    };
                    let page = log(book, device, &told, LogExtra::form(back))?;
                    Ok(Reading::Page(page))
                }
            }
        })
        .await?;
    match outcome {
        Outcome::Done(done) if quick && on_boat => Ok(see(&came(done, "logged"))),
        Outcome::Done(_) if quick => Ok(see(&format!("/log?logged={}", id.0))),
        Outcome::Done(_) => Ok(see(&format!("/log?at={0}#entry-{0}", id.0))),
        page @ Outcome::Page(_) => follow(page, |_| String::new()),
    }
}

/// `POST /log/passes/{pass}`: when a rod really went out and came in.
pub(crate) async fn pass_hours(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, form, device, now) = (PassId(*id), sent.form, sent.device, app.now());
    let outcome = app
        .act(&sent.borne, move |book| {
            let (_, pass) = passes::get(book.connection(), id)?;
            match entry::pass_read(&form, &pass, book.here()?) {
                Ok((from, to)) => Ok(Reading::Act(Act::Log(LogAct::Hours(id, from, to)))),
                Err(back) => {
                    let told = Told {
                        now: Some(now),
                        ..Told::default()
                    };
                    let page = log(book, device, &told, LogExtra::pass(id, back))?;
                    Ok(Reading::Page(page))
                }
            }
        })
        .await?;
    follow(outcome, |_| format!("/log#pass-{}", id.0))
}
