//! Today: the conditions of the outing, and the call sheet they make of the box.

use super::{Gone, follow, made, ok, see};
use crate::app::{Outcome, Reading};
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Query};
use motilis_core::advice::Mark;
use motilis_core::blade::{Blade, Family};
use motilis_core::book::{PartId, RigId};
use motilis_core::light::disk_for_blade;
use motilis_core::units::Metres;
use motilis_helm::{Act, Book, Desk, OutingAct, Refusal, RigAct, followed};
use motilis_view::forms::{Texts, conditions, problem, reading, secchi};
use motilis_view::present::{self, Thrown};
use motilis_view::screens::{Conditions, ReadingForm, SecchiHelper, Today};
use motilis_view::words::bench as say;
use motilis_view::{Device, Seen};
use serde::Deserialize;

/// `GET /`
pub(crate) async fn door() -> HttpResponse {
    see("/today")
}

/// Whether the helper just set the clarity, and which reading was just thrown away.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Asked {
    helped: String,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    reading_gone: Option<i64>,
    /// A rig that was just marked, how, and at which place of the sheet.
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    marked: Option<i64>,
    mark: String,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    place: Option<usize>,
    /// Rigs that are looked for by name.
    find: String,
}

/// The page, with its form as it is kept or as it came back.
fn today(
    book: &Book<'_>,
    device: Device,
    form: Option<Box<Conditions>>,
    change: impl FnOnce(&mut Conditions),
    (thrown, find): (Thrown, &str),
    reading: Option<ReadingForm>,
) -> Result<Today, Error> {
    let here = book.here()?;
    let (schools, _) = followed(book.connection(), here.outing.fish)?;
    let mut form = form.unwrap_or_else(|| Box::new(conditions::shown(here, &schools, device)));
    change(&mut form);
    let desk = match &here.day {
        Ok(_) => Ok(Desk::seeking(book, find)?),
        Err(why) => Err(why.clone()),
    };
    Ok(present::today(here, desk, device, form, thrown, reading)?)
}

/// `GET /today`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    gone: Query<Gone>,
    asked: Query<Asked>,
) -> Result<HttpResponse, Error> {
    let device = looking.0;
    let asked = asked.into_inner();
    let (helped, find) = (!asked.helped.is_empty(), asked.find);
    let thrown = Thrown {
        outing: gone.deleted,
        reading: asked.reading_gone,
        marked: asked
            .marked
            .map(|rig| (rig, Mark::from_key(&asked.mark), asked.place)),
    };
    let sheet = app
        .ask(move |book| {
            let clarity = book.here()?.outing.clarity;
            let answer = helped.then(|| secchi::answer(clarity, device.system));
            let answered = |form: &mut Conditions| form.helper.answer = answer;
            today(book, device, None, answered, (thrown, &find), None)
        })
        .await?;
    ok(&sheet)
}

/// `POST /today`: new conditions; when one of them cannot be, none is taken.
pub(crate) async fn set(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (form, device, borne) = (sent.form, sent.device, sent.borne);
    let base = borne.base.clone();
    let outcome = app
        .act(&borne, move |book| {
            let here = book.here()?;
            let (schools, _) = followed(book.connection(), here.outing.fish)?;
            match conditions::read(&form, base.as_deref(), here, &schools, device) {
                Ok(outing) => Ok(Reading::Act(Act::Outing(OutingAct::Set(Box::new(outing))))),
                Err(back) => {
                    let page = today(
                        book,
                        device,
                        Some(back),
                        |_| {},
                        (Thrown::default(), ""),
                        None,
                    )?;
                    Ok(Reading::Page(page))
                }
            }
        })
        .await?;
    follow(outcome, |_| "/today".into())
}

/// `POST /today/readings`: a temperature that was read at a place.
pub(crate) async fn add_reading(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    let (texts, device, now) = (sent.form, sent.device, app.now());
    let outcome = app
        .act(&sent.borne, move |book| {
            Ok(
                match reading::read(&texts, book.here()?, now, device.system) {
                    Ok(read) => Reading::Act(Act::Outing(OutingAct::Read(Box::new(read)))),
                    Err(back) => Reading::Page(today(
                        book,
                        device,
                        None,
                        |_| {},
                        (Thrown::default(), ""),
                        Some(*back),
                    )?),
                },
            )
        })
        .await?;
    follow(outcome, |_| "/today#readings-head".into())
}

/// `GET /today/card`
pub(crate) async fn card(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let card = app
        .ask(move |book| {
            Ok(present::call_card(&Seen::new(
                Desk::load(book)?,
                looking.0,
            ))?)
        })
        .await?;
    ok(&card)
}

/// `GET /today/changes`
pub(crate) async fn changes(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let changes = app
        .ask(move |book| Ok(present::changes(&Seen::new(Desk::load(book)?, looking.0))?))
        .await?;
    ok(&changes)
}

/// A rig and what is said of it: `pin`, `veto`, or anything else to take either back.
#[derive(Deserialize)]
pub(crate) struct Marked {
    rig: i64,
    mark: String,
    #[serde(default, deserialize_with = "motilis_view::forms::lenient")]
    place: Option<usize>,
}

/// `POST /today/mark`
pub(crate) async fn mark(app: Data<App>, sent: Sent<Marked>) -> Result<HttpResponse, Error> {
    let act = OutingAct::Mark(RigId(sent.form.rig), Mark::from_key(&sent.form.mark));
    app.do_act(&sent.borne, Act::Outing(act)).await?;
    let place = sent
        .form
        .place
        .map_or_else(String::new, |place| format!("&place={place}"));
    let mark = Mark::from_key(&sent.form.mark).map_or("none", Mark::key);
    let rig = sent.form.rig;
    Ok(see(&format!("/today?marked={rig}&mark={mark}{place}")))
}

/// `POST /today/confirm`: what was carried over holds.
pub(crate) async fn confirm(
    app: Data<App>,
    sent: Sent<super::Nothing>,
) -> Result<HttpResponse, Error> {
    app.do_act(&sent.borne, Act::Outing(OutingAct::Confirm))
        .await?;
    Ok(see("/today"))
}

/// A rig, and the blade of the box that is swapped in.
#[derive(Deserialize)]
pub(crate) struct Taken {
    rig: i64,
    blade: i64,
}

/// `POST /today/take`: the rig with its other blade becomes a rig of its own, and goes to the bench.
pub(crate) async fn take(app: Data<App>, sent: Sent<Taken>) -> Result<HttpResponse, Error> {
    let (rig, blade) = (RigId(sent.form.rig), PartId(sent.form.blade));
    let outcome: Outcome<Today> = app
        .act(&sent.borne, move |book| {
            let part = motilis_store::parts::get(book.connection(), blade);
            let part = part
                .map_err(|_| motilis_helm::Error::from(Refusal::NoSuchSwap))?
                .part;
            let name = format!("{}, {}", book.rig(rig)?.name, say::part_name(&part));
            Ok(Reading::Act(Act::Rig(RigAct::Take { rig, blade, name })))
        })
        .await?;
    follow(outcome, |done| format!("/bench/{}", made(done)))
}

/// The helper's form.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct RawSecchi {
    blade_lost: String,
    blade: String,
}

/// `POST /today/secchi`: the clarity, from how deep a white blade is lost to sight.
pub(crate) async fn set_clarity(
    app: Data<App>,
    sent: Sent<RawSecchi>,
) -> Result<HttpResponse, Error> {
    let (raw, device) = (sent.form, sent.device);
    let outcome = app
        .act(&sent.borne, move |book| match disk(&raw, book, device)? {
            Ok(disk) => Ok(Reading::Act(Act::Outing(OutingAct::Clarity(Metres(disk))))),
            Err(helper) => {
                let came_back = |form: &mut Conditions| form.helper = helper;
                let nothing = (Thrown::default(), "");
                let page = today(book, device, None, came_back, nothing, None)?;
                Ok(Reading::Page(page))
            }
        })
        .await?;
    follow(outcome, |_| "/today?helped=yes".into())
}

/// Depth at which a disk would be lost, m; or the helper with what is wrong.
fn disk(
    raw: &RawSecchi,
    book: &Book<'_>,
    device: Device,
) -> Result<Result<f64, SecchiHelper>, Error> {
    let day = book.here()?.day()?;
    let mut typed = secchi::lost(&raw.blade_lost, device.system);
    let depth = typed.or(f64::NAN);
    let number = raw.blade.parse().unwrap_or(4.0);
    let blade = Blade::of_size(Family::Colorado, number)
        .or_else(|_| Blade::of_size(Family::Colorado, 4.0))?;
    if typed.field.problem.is_none() {
        let size = (blade.length.0, blade.width.0);
        match disk_for_blade(&day.daylight()?, day.stain, day.salt, size, depth) {
            Ok(disk) => return Ok(Ok(disk)),
            Err(error) => typed.field.problem = Some(problem(&error)),
        }
    }
    Ok(Err(SecchiHelper {
        lost: typed.field,
        blade: secchi::blades(&raw.blade),
        answer: None,
    }))
}
