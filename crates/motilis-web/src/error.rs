use crate::device::device_of;
use actix_web::body::{BoxBody, EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::{StatusCode, header};
use actix_web::middleware::Next;
use actix_web::{HttpResponse, ResponseError};
use askama::Template;
use motilis_helm::{Error as Helm, Refusal};
use motilis_store::Fault;
use motilis_view::Device;
use motilis_view::present::{message, refusal_sentence};
use motilis_view::words::capital;
use thiserror::Error;

/// Why a request was not answered with its page.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum Error {
    /// There is no such page or record.
    #[error("{0}")]
    NotFound(String),
    /// The request makes no sense; what it would need is said.
    #[error("{0}")]
    BadRequest(String),
    /// The request holds more, or other, than is taken.
    #[error("{0}")]
    TooLarge(String),
    /// The request comes from somewhere it must not come from.
    #[error("{0}")]
    Forbidden(String),
    /// The page is of a book that another has taken the place of.
    #[error(
        "a copy has taken the place of the book that this page is of: nothing was changed; look at the page anew, then do it again"
    )]
    OtherBook,
    /// Whoever asks is not signed in.
    #[error("sign in first, then do it again: nothing was changed")]
    SignIn,
    /// Too many send at once.
    #[error("{0}")]
    Crowded(String),
    /// It did not arrive in time.
    #[error("it took too long to arrive; nothing was changed: do it again")]
    Slow,
    /// The disk refused what is not in the data file.
    #[error("{0}")]
    Disk(#[from] std::io::Error),
    /// The question has no answer, or the act was refused.
    #[error(transparent)]
    Helm(#[from] Helm),
    /// A page could not be written.
    #[error(transparent)]
    Page(#[from] askama::Error),
    /// A sheet could not be printed.
    #[error(transparent)]
    Print(#[from] motilis_print::Error),
    /// The server is shutting down.
    #[error("the program is stopping")]
    Stopped,
}

impl From<motilis_store::Error> for Error {
    fn from(error: motilis_store::Error) -> Self {
        Self::Helm(error.into())
    }
}

impl From<motilis_core::Error> for Error {
    fn from(error: motilis_core::Error) -> Self {
        Self::Helm(error.into())
    }
}

/// The data file has no outing yet: its start page answers.
struct Empty;

/// What a person reads instead of the page: head, sentence, the door to go on by.
struct Said {
    head: &'static str,
    sentence: String,
    door: Option<(String, &'static str)>,
}

impl Said {
    fn new(head: &'static str, text: &str) -> Self {
        Self {
            head,
            sentence: format!("{}.", capital(text.trim_end_matches('.'))),
            door: None,
        }
    }

    fn with_door(self, address: &str, words: &'static str) -> Self {
        Self {
            door: Some((address.to_owned(), words)),
            ..self
        }
    }
}

impl Error {
    /// Inner errors are for the record, not for the page.
    fn said(&self) -> Said {
        match self {
            Self::NotFound(text) => Said::new("Not here", text),
            Self::BadRequest(text) | Self::TooLarge(text) => {
                Said::new("That could not be read", text)
            }
            Self::Forbidden(text) => Said::new("Not from there", text),
            Self::OtherBook => Said::new("Another book", &self.to_string()),
            Self::SignIn => {
                Said::new("Who is it", &self.to_string()).with_door("/sign-in", "Sign in")
            }
            Self::Slow => Said::new("Not now", &self.to_string()),
            Self::Crowded(text) => Said::new("Not now", text),
            Self::Disk(_) => Said::new(
                "Not done",
                "the disk beside the data file refused: nothing was changed; look whether it is full or can only be read",
            ),
            Self::Helm(error) => of_helm(error),
            Self::Page(_) | Self::Print(_) | Self::Stopped => broke(),
        }
    }
}

fn broke() -> Said {
    Said::new(
        "Something broke",
        "Nothing was changed. Try once more; if it stays, look at what the program printed",
    )
}

fn of_helm(error: &Helm) -> Said {
    match error {
        Helm::Missing(_) => Said::new("Not here", &error.to_string()),
        Helm::NoOuting => Said::new(
            "No outing yet",
            "there is no outing in this data file yet; open the start page (`motilis demo` shows a filled-in day)",
        )
        .with_door("/start", "Start"),
        Helm::Refused(refusal) => Said::new("Not done", &refusal_sentence(refusal)),
        Helm::Core(why) => Said::new(
            "That cannot be computed",
            &format!("{why}. Nothing is lost: correct the conditions, the rig or the set-up it comes from"),
        ),
        Helm::Store(error) if error.is_missing() => Said::new("Not here", &error.to_string()),
        Helm::Store(error @ motilis_store::Error::Unreadable { .. }) => Said::new(
            "That cannot be read",
            &format!("{error}. It is kept as it is; a newer program may know it"),
        ),
        Helm::Store(error) => match error.fault() {
            Some(fault) => of_fault(fault, error),
            None => broke(),
        },
        _ => broke(),
    }
}

/// What the owner can mend.
fn of_fault(fault: Fault, error: &motilis_store::Error) -> Said {
    let head = match fault {
        Fault::Full => "The disk is full",
        Fault::ReadOnly => "Only to be read",
        Fault::Busy => "Not now",
        Fault::Damaged => "Damaged",
        Fault::Disk => "No answer from the disk",
    };
    Said::new(head, &error.to_string()).with_door("/data", "Data file")
}

impl ResponseError for Error {
    fn status_code(&self) -> StatusCode {
        match self {
            Self::NotFound(_) | Self::Helm(Helm::Missing(_) | Helm::NoOuting) => {
                StatusCode::NOT_FOUND
            }
            Self::Helm(Helm::Refused(Refusal::Overtaken { .. } | Refusal::Figure(_))) => {
                StatusCode::CONFLICT
            }
            Self::Helm(Helm::Refused(Refusal::OtherWater)) => StatusCode::NOT_FOUND,
            Self::BadRequest(_) | Self::Helm(Helm::Refused(_)) => StatusCode::BAD_REQUEST,
            Self::TooLarge(_) => StatusCode::PAYLOAD_TOO_LARGE,
            Self::OtherBook => StatusCode::CONFLICT,
            Self::SignIn => StatusCode::UNAUTHORIZED,
            Self::Slow => StatusCode::REQUEST_TIMEOUT,
            Self::Disk(_) => StatusCode::INSUFFICIENT_STORAGE,
            Self::Forbidden(_) => StatusCode::FORBIDDEN,
            Self::Helm(Helm::Core(_)) => StatusCode::UNPROCESSABLE_ENTITY,
            Self::Helm(Helm::Store(error)) => match error {
                error if error.is_missing() => StatusCode::NOT_FOUND,
                motilis_store::Error::Unreadable { .. } => StatusCode::UNPROCESSABLE_ENTITY,
                motilis_store::Error::Named { .. } => StatusCode::CONFLICT,
                error if error.fault().is_some() => of_status(error.fault()),
                _ => StatusCode::INTERNAL_SERVER_ERROR,
            },
            Self::Helm(_) | Self::Page(_) | Self::Print(_) => StatusCode::INTERNAL_SERVER_ERROR,
            Self::Crowded(_) | Self::Stopped => StatusCode::SERVICE_UNAVAILABLE,
        }
    }

    fn error_response(&self) -> HttpResponse<BoxBody> {
        // What the owner of the disk can mend is no fault of the program's.
        let theirs = matches!(self, Self::Crowded(_) | Self::Disk(_) | Self::Stopped)
            || matches!(self, Self::Helm(Helm::Store(error)) if error.fault().is_some());
        if theirs {
            tracing::warn!(error = %self, "request refused");
        } else if self.status_code().is_server_error() {
            tracing::error!(error = ?self, "request failed");
        }
        if matches!(self, Self::Slow) {
            // The request is gone, and with it whose page it would be.
            return HttpResponse::RequestTimeout().body(self.to_string());
        }
        let mut response = HttpResponse::new(self.status_code());
        response.extensions_mut().insert(self.said());
        if matches!(self, Self::Helm(Helm::NoOuting)) {
            response.extensions_mut().insert(Empty);
        }
        response
    }
}

/// A fault of disk or file as the protocol has it (RFC 9110; RFC 4918, 11.5).
fn of_status(fault: Option<Fault>) -> StatusCode {
    match fault {
        Some(Fault::ReadOnly) => StatusCode::FORBIDDEN,
        Some(Fault::Busy) => StatusCode::SERVICE_UNAVAILABLE,
        _ => StatusCode::INSUFFICIENT_STORAGE,
    }
}

/// Puts a page, in the reader's own theme and units, around whatever went wrong.
pub(crate) async fn pages<B: MessageBody + 'static>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B>>, actix_web::Error> {
    let is_api = request.path().starts_with("/api/");
    let response = next.call(request).await?;
    let status = response.status();
    let has_page = response
        .headers()
        .get(header::CONTENT_TYPE)
        .is_some_and(|kind| {
            kind.as_bytes().starts_with(b"text/html")
                || kind.as_bytes().starts_with(b"application/json")
        });
    if has_page || !(status.is_client_error() || status.is_server_error()) {
        return Ok(response.map_into_left_body());
    }
    let (request, response) = response.into_parts();
    let device = device_of(&request, None);
    if !is_api && response.extensions().get::<Empty>().is_some() {
        let door = request.path().split('/').nth(1).unwrap_or_default();
        let start = crate::screens::see(&format!("/start?door={door}"));
        return Ok(ServiceResponse::new(request, start).map_into_right_body());
    }
    let bare = ServiceResponse::new(request, response.map_into_boxed_body());
    Ok(dressed(bare, device, is_api).map_into_right_body())
}

fn dressed(
    mut response: ServiceResponse<BoxBody>,
    device: Device,
    is_api: bool,
) -> ServiceResponse<BoxBody> {
    let status = response.status();
    let note = response
        .response_mut()
        .extensions_mut()
        .remove::<Said>()
        .unwrap_or_else(|| Said {
            door: None,
            head: if status == StatusCode::NOT_FOUND {
                "Not here"
            } else {
                "That could not be read"
            },
            sentence: match status {
                StatusCode::NOT_FOUND => {
                    "There is no such page. The rule above leads to those there are.".into()
                }
                StatusCode::METHOD_NOT_ALLOWED => "That page cannot be used in this way.".into(),
                StatusCode::PAYLOAD_TOO_LARGE => "That is more than this page takes.".into(),
                _ => "The request could not be read.".into(),
            },
        });
    let body = if is_api {
        motilis_solve::Refusal::new("", note.sentence.clone()).to_json()
    } else {
        let message = message(device, note.head, note.sentence, note.door);
        message.render().unwrap_or(message.sentence)
    };
    let kind = if is_api {
        "application/json"
    } else {
        "text/html; charset=utf-8"
    };
    let page = HttpResponse::build(status).content_type(kind).body(body);
    response.into_response(page)
}
