//! The way in, and who is aboard.

use super::{Nothing, back, ok, page, refused, see};
use crate::access::{self, NotIn};
use crate::device::{Looking, Sent};
use crate::guard::session_cookie;
use crate::{App, Error};
use actix_web::cookie::{Cookie, SameSite, time::Duration};
use actix_web::http::header::{self, HeaderValue};
use actix_web::web::{Data, Form, Path, Query, block};
use actix_web::{HttpMessage, HttpRequest, HttpResponse};
use jiff::Timestamp;
use motilis_view::present::{codes, frame_without_book};
use motilis_view::screens::{AboardScreen, Asked, Field, GuestCard, SessionRow, SignIn};
use motilis_view::units::Problem;
use motilis_view::words::data as say;
use motilis_view::{Device, Role};
use serde::Deserialize;

/// Where to go afterwards.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Way {
    back: String,
}

fn way_in(device: Device, to: &str, problem: Option<String>) -> SignIn {
    SignIn {
        frame: frame_without_book(device, "/today"),
        back: back(to).to_owned(),
        problem,
    }
}

/// `GET /sign-in`
pub(crate) async fn sign_in(looking: Looking, way: Query<Way>) -> Result<HttpResponse, Error> {
    ok(&way_in(looking.0, &way.back, None))
}

/// A pass phrase.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Said {
    phrase: String,
    back: String,
}

/// `POST /sign-in`
pub(crate) async fn come_aboard(
    app: Data<App>,
    request: HttpRequest,
    looking: Looking,
    form: Form<Said>,
) -> Result<HttpResponse, Error> {
    let Said { phrase, back: to } = form.into_inner();
    let Some(peer) = request.peer_addr() else {
        return Err(Error::Stopped);
    };
    let (access, device) = (app.access().clone(), device(&request));
    let answer = block(move || access.sign_in((peer.ip(), &device), &phrase, Timestamp::now()))
        .await
        .map_err(|_| Error::Stopped)??;
    let secure = request.app_config().secure();
    match answer {
        Ok((token, role)) => Ok(with_session(see(back(&to)), &token, role, secure)),
        Err(NotIn::Wrong) => refused(&way_in(
            looking.0,
            &to,
            Some("That is neither the captain’s nor the crew’s pass phrase; look at capitals and spaces.".into()),
        )),
        Err(NotIn::Wait(seconds)) => {
            let sentence = format!("That was tried too often: wait {seconds} s, then try again.");
            let mut response = page(HttpResponse::TooManyRequests(), &way_in(looking.0, &to, Some(sentence)))?;
            let wait = HeaderValue::from(seconds);
            response.headers_mut().insert(header::RETRY_AFTER, wait);
            Ok(response)
        }
    }
}

/// What signs in, by what its browser says of itself, and from where: "a phone at 192.168.4.7".
fn device(request: &HttpRequest) -> String {
    let has = |name: header::HeaderName, word: &str| {
        let header = request.headers().get(name);
        let says = header.and_then(|header| header.to_str().ok());
        says.is_some_and(|says| says.contains(word))
    };
    let kind = if has(header::USER_AGENT, "Tablet") {
        "a tablet"
    } else if has(header::USER_AGENT, "Mobi") {
        "a phone"
    } else if has(header::ACCEPT, "text/html") {
        "a computer"
    } else {
        "a program"
    };
    let from = request.peer_addr().map(|peer| peer.ip().to_canonical());
    from.map_or_else(|| kind.to_owned(), |from| format!("{kind} at {from}"))
}

fn with_session(mut response: HttpResponse, token: &str, role: Role, secure: bool) -> HttpResponse {
    let cookie = Cookie::build(session_cookie(secure), token)
        .path("/")
        .http_only(true)
        .secure(secure)
        // Lax: whoever comes by a code or a link from elsewhere is still signed in; changes are held by their origin.
        .same_site(SameSite::Lax)
        .max_age(Duration::seconds(access::lasts(role)))
        .finish();
    // The name is ours, the token plain letters: the cookie can be written.
    let _ = response.add_cookie(&cookie);
    response
}

/// `POST /sign-out`
pub(crate) async fn sign_out(app: Data<App>, request: HttpRequest) -> Result<HttpResponse, Error> {
    let aboard = request.extensions().get::<access::Aboard>().copied();
    if let Some(session) = aboard.and_then(|aboard| aboard.session) {
        app.access().sign_out(session)?;
    }
    let mut response = see("/sign-in");
    let gone = Cookie::build(session_cookie(request.app_config().secure()), "")
        .path("/")
        .finish();
    // As above.
    let _ = response.add_removal_cookie(&gone);
    // Pages that the device kept go, too; over plain http browsers do not heed it.
    let pages = HeaderValue::from_static("\"cache\", \"storage\"");
    response
        .headers_mut()
        .insert(header::HeaderName::from_static("clear-site-data"), pages);
    Ok(response)
}

/// `GET /guest/{card}`
pub(crate) async fn guest(
    app: Data<App>,
    request: HttpRequest,
    card: Path<String>,
) -> Result<HttpResponse, Error> {
    let token = app
        .access()
        .come_in(&card, &device(&request), Timestamp::now())?;
    match token {
        Some(token) => {
            let secure = request.app_config().secure();
            Ok(with_session(see("/today"), &token, Role::Guest, secure))
        }
        None if !app.access().asks() => Ok(see("/today")),
        None => Err(Error::Forbidden(
            "that guest card counts no more; ask the captain for a new one".into(),
        )),
    }
}

/// What was just done.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    done: String,
}

/// `GET /aboard`
pub(crate) async fn show(
    app: Data<App>,
    request: HttpRequest,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let words = match ask.done.as_str() {
        "phrase" => "The pass phrase is set; whoever came in by the old one is signed out.",
        "out" => "Signed out.",
        "away" => "No card lets anybody in now; guests are signed out.",
        _ => "",
    };
    let done = (!words.is_empty()).then(|| words.to_owned());
    ok(&aboard(&app, &request, looking.0, done))
}

fn aboard(app: &App, request: &HttpRequest, device: Device, done: Option<String>) -> AboardScreen {
    let own = request
        .extensions()
        .get::<access::Aboard>()
        .and_then(|aboard| aboard.session);
    let now = Timestamp::now();
    let ago = |at: Timestamp| say::ago((now - at).as_secs());
    let rows = app
        .access()
        .sessions(now)
        .into_iter()
        .map(|session| SessionRow {
            id: session.id,
            role: say::role(session.role),
            device: session.device,
            since: format!(
                "since {}, last seen {}",
                ago(session.since),
                ago(session.seen)
            ),
            own: own == Some(session.id),
        });
    AboardScreen {
        frame: frame_without_book(device, "/aboard"),
        done,
        asked: match app.access() {
            access if !access.asks() => Asked::Nobody,
            access if access.asks_everybody() => Asked::Everybody,
            _ => Asked::Others,
        },
        captain: phrase("captain", "Captain’s new pass phrase", None),
        crew: phrase("crew", "Crew’s new pass phrase", None),
        has_crew: app.access().has_phrase(Role::Crew),
        has_card: app.access().has_card(),
        sessions: rows.collect(),
    }
}

fn phrase(name: &'static str, label: &'static str, problem: Option<String>) -> Field {
    Field {
        name,
        label,
        unit: "",
        // A pass phrase is never sent back.
        value: String::new(),
        problem: problem.map(Problem),
    }
}

/// A new pass phrase.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Phrases {
    captain: String,
    crew: String,
}

/// `POST /aboard/{role}`
pub(crate) async fn set_phrase(
    app: Data<App>,
    request: HttpRequest,
    role: Path<String>,
    sent: Sent<Phrases>,
) -> Result<HttpResponse, Error> {
    let role = match role.as_str() {
        "captain" => Role::Captain,
        "crew" => Role::Crew,
        _ => return Err(Error::NotFound("there is no such role".into())),
    };
    if !app.access().asks() {
        return Err(Error::BadRequest(
            "nobody is asked for a pass phrase now; start the program for others first, without --no-sign-in".into(),
        ));
    }
    let typed = if role == Role::Captain {
        sent.form.captain
    } else {
        sent.form.crew
    };
    let access = app.access().clone();
    let set = block(move || access.set_phrase(role, &typed))
        .await
        .map_err(|_| Error::Stopped)??;
    let Err(why) = set else {
        return Ok(see("/aboard?done=phrase"));
    };
    let mut page = aboard(&app, &request, sent.device, None);
    let problem = Some(format!(
        "{}.",
        motilis_view::words::capital(&why.to_string())
    ));
    if role == Role::Captain {
        page.captain = phrase("captain", "Captain’s new pass phrase", problem);
    } else {
        page.crew = phrase("crew", "Crew’s new pass phrase", problem);
    }
    refused(&page)
}

/// `POST /aboard/card`
pub(crate) async fn new_card(
    app: Data<App>,
    looking: Looking,
    _sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let card = app.access().new_card()?;
    let at = app
        .addresses()
        .iter()
        .map(|address| format!("{address}/guest/{card}"));
    let addresses: Vec<String> = at.collect();
    ok(&GuestCard {
        frame: frame_without_book(looking.0, "/aboard"),
        codes: codes(&addresses),
        days: access::lasts(Role::Guest) / (24 * 3_600),
    })
}

/// `POST /aboard/card/away`
pub(crate) async fn no_card(app: Data<App>, _sent: Sent<Nothing>) -> Result<HttpResponse, Error> {
    app.access().no_card()?;
    Ok(see("/aboard?done=away"))
}

/// `POST /aboard/sessions/{id}/end`
pub(crate) async fn end_session(
    app: Data<App>,
    id: Path<u64>,
    _sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    app.access().sign_out(*id)?;
    Ok(see("/aboard?done=out"))
}

/// `POST /aboard/sessions/end`
pub(crate) async fn end_all(app: Data<App>, _sent: Sent<Nothing>) -> Result<HttpResponse, Error> {
    app.access().sign_all_out()?;
    Ok(see("/aboard?done=out"))
}
