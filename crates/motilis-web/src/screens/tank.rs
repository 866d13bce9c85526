//! Tank: one rig on its line; a pure function of the address, so that it can be kept as a bookmark.

use super::{ok, refused, see};
use crate::app::{Outcome, Reading};
use crate::device::{Looking, Sent};
use crate::{App, Error};
use actix_web::web::{Data, Query};
use actix_web::{HttpRequest, HttpResponse};
use motilis_helm::{Act, Book, Tank as Question};
use motilis_store::observed;
use motilis_view::forms::observed::{RawDunk, RawTouch, dunk as read_dunk, touch as read_touch};
use motilis_view::forms::tank::{RawTank, Settled, Settling, settle};
use motilis_view::present::{TankShown, line_table, message, tank, tank_cannot};
use motilis_view::screens::{Message, Tank};
use motilis_view::{Device, Seen};

/// The tank, or why there is nothing in it.
enum Screen {
    Tank(Box<Tank>),
    Nothing(Box<Message>),
}

impl Screen {
    fn respond(&self) -> Result<HttpResponse, Error> {
        match self {
            Self::Tank(tank) if tank.form.is_sound() => ok(&**tank),
            Self::Tank(tank) => refused(&**tank),
            Self::Nothing(message) => ok(&**message),
        }
    }
}

fn screen(
    book: &Book<'_>,
    raw: &RawTank,
    device: Device,
    path: &str,
    shown: TankShown,
) -> Result<Screen, Error> {
    let question = Seen::new(Question::load(book)?, device);
    let message = |message: Message| Ok(Screen::Nothing(Box::new(message)));
    match settle(raw, &question)? {
        Settling::Runs(both) => {
            let (settled, form) = *both;
            let dunks = observed::dunks(book.connection(), settled.rig.id)?;
            let page = tank(&question, &settled, form, path, shown, &dunks)?;
            Ok(Screen::Tank(Box::new(page)))
        }
        Settling::Cannot(cannot) => message(tank_cannot(&question, &cannot)),
        Settling::Empty => message(self::message(
            device,
            "No rigs yet",
            "The tank shows one rig on its line. Start with a blade.".into(),
            Some(("/bench/new".into(), "Start a rig")),
        )),
    }
}

/// `GET /tank`
pub(crate) async fn show(
    app: Data<App>,
    request: HttpRequest,
    looking: Looking,
    raw: Query<RawTank>,
) -> Result<HttpResponse, Error> {
    let path = request.uri().path_and_query();
    let path = path.map_or_else(|| "/tank".to_owned(), ToString::to_string);
    let shown = TankShown {
        dunk_gone: raw.dunk_gone(),
        touch_gone: raw.touch_gone(),
        ..TankShown::default()
    };
    app.ask(move |book| screen(book, &raw, looking.0, &path, shown))
        .await?
        .respond()
}

/// `GET /tank/table`
pub(crate) async fn table(
    app: Data<App>,
    looking: Looking,
    raw: Query<RawTank>,
) -> Result<HttpResponse, Error> {
    let page = app
        .ask(move |book| {
            let question = Seen::new(Question::load(book)?, looking.0);
            let settled = in_tank(&question, &raw)?;
            Ok(line_table(&question, &settled)?)
        })
        .await?;
    ok(&page)
}

/// What a form of the tank is about.
fn in_tank(question: &Seen<Question<'_, '_>>, raw: &RawTank) -> Result<Settled, Error> {
    match settle(raw, question)? {
        Settling::Runs(both) => Ok(both.0),
        Settling::Cannot(cannot) => Err(cannot.why.into()),
        Settling::Empty => Err(Error::NotFound("there is no rig yet".into())),
    }
}

/// What came of a form: the tank again, or its page with what is wrong.
fn answered(outcome: Outcome<Screen>, address: String) -> Result<HttpResponse, Error> {
    match outcome {
        Outcome::Done(_) => Ok(see(&address)),
        Outcome::Page(Screen::Tank(tank)) => refused(&*tank),
        Outcome::Page(Screen::Nothing(message)) => refused(&*message),
    }
}

/// `POST /tank/dunk`
pub(crate) async fn dunk(app: Data<App>, sent: Sent<RawDunk>) -> Result<HttpResponse, Error> {
    let (raw, device, now) = (sent.form, sent.device, app.seal(&sent.borne).at);
    let address = raw.tank.address();
    let outcome = app
        .act(&sent.borne, move |book| {
            let question = Seen::new(Question::load(book)?, device);
            let settled = in_tank(&question, &raw.tank)?;
            match read_dunk(&raw, &settled, &question, now)? {
                Ok(act) => Ok(Reading::Act(Act::Observed(act))),
                Err(back) => {
                    let shown = TankShown {
                        dunk: Some(back),
                        ..TankShown::default()
                    };
                    Ok(Reading::Page(screen(
                        book, &raw.tank, device, "/tank", shown,
                    )?))
                }
            }
        })
        .await?;
    answered(outcome, address)
}

/// `POST /tank/touch`
pub(crate) async fn touch(app: Data<App>, sent: Sent<RawTouch>) -> Result<HttpResponse, Error> {
    let (raw, device, now) = (sent.form, sent.device, app.seal(&sent.borne).at);
    let address = raw.tank.address();
    let outcome = app
        .act(&sent.borne, move |book| {
            let question = Seen::new(Question::load(book)?, device);
            let settled = in_tank(&question, &raw.tank)?;
            match read_touch(&raw, &settled, &question, now) {
                Ok(act) => Ok(Reading::Act(Act::Observed(act))),
                Err(back) => {
                    let shown = TankShown {
                        touch: Some(back),
                        ..TankShown::default()
                    };
                    Ok(Reading::Page(screen(
                        book, &raw.tank, device, "/tank", shown,
                    )?))
                }
            }
        })
        .await?;
    answered(outcome, address)
}
