use crate::screens::theme_of;
use actix_web::body::{BoxBody, EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::{StatusCode, header};
use actix_web::middleware::Next;
use actix_web::{HttpResponse, ResponseError};
use askama::Template;
use motilis_view::screens::{Frame, Here, Message, Screen};
use motilis_view::units::System;
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
    /// The data file.
    #[error(transparent)]
    Store(motilis_store::Error),
    /// A computation refused figures that were checked before: our mistake.
    #[error(transparent)]
    Core(#[from] motilis_core::Error),
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
        if error.is_missing() {
            Self::NotFound(error.to_string())
        } else {
            Self::Store(error)
        }
    }
}

impl Error {
    fn head(&self) -> &'static str {
        match self {
            Self::NotFound(_) => "Not here",
            Self::BadRequest(_) | Self::TooLarge(_) => "That could not be read",
            Self::Forbidden(_) => "Not from there",
            Self::Store(_) | Self::Core(_) | Self::Page(_) | Self::Print(_) | Self::Stopped => {
                "Something broke"
            }
        }
    }

    /// What a person reads: inner errors are for the record, not for the page.
    fn sentence(&self) -> String {
        match self {
            Self::NotFound(text)
            | Self::BadRequest(text)
            | Self::TooLarge(text)
            | Self::Forbidden(text) => {
                format!("{}.", motilis_view::words::capital(text))
            }
            Self::Store(_) | Self::Core(_) | Self::Page(_) | Self::Print(_) | Self::Stopped => {
                "Nothing was changed. Try once more; if it stays, look at what the program printed."
                    .to_owned()
            }
        }
    }
}

/// Travels with a response until the page around it is built.
struct Note {
    head: &'static str,
    sentence: String,
}

impl ResponseError for Error {
    fn status_code(&self) -> StatusCode {
        match self {
            Self::NotFound(_) => StatusCode::NOT_FOUND,
            Self::BadRequest(_) => StatusCode::BAD_REQUEST,
            Self::TooLarge(_) => StatusCode::PAYLOAD_TOO_LARGE,
            Self::Forbidden(_) => StatusCode::FORBIDDEN,
            Self::Store(_) | Self::Core(_) | Self::Page(_) | Self::Print(_) => {
                StatusCode::INTERNAL_SERVER_ERROR
            }
            Self::Stopped => StatusCode::SERVICE_UNAVAILABLE,
        }
    }

    fn error_response(&self) -> HttpResponse<BoxBody> {
        if self.status_code().is_server_error() {
            tracing::error!(error = ?self, "request failed");
        }
        let mut response = HttpResponse::new(self.status_code());
        response.extensions_mut().insert(Note {
            head: self.head(),
            sentence: self.sentence(),
        });
        response
    }
}

/// Puts a page, in the reader's own theme, around whatever went wrong.
pub(crate) async fn pages<B: MessageBody + 'static>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B>>, actix_web::Error> {
    let theme = theme_of(request.request());
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
    let bare = ServiceResponse::new(request, response.map_into_boxed_body());
    Ok(dressed(bare, theme, is_api).map_into_right_body())
}

fn dressed(
    mut response: ServiceResponse<BoxBody>,
    theme: motilis_view::screens::Theme,
    is_api: bool,
) -> ServiceResponse<BoxBody> {
    let status = response.status();
    let note = response
        .response_mut()
        .extensions_mut()
        .remove::<Note>()
        .unwrap_or_else(|| Note {
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
        let message = Message {
            frame: Frame {
                screen: Screen::None,
                theme,
                system: System::default(),
                here: Here::default(),
                path: "/today".into(),
            },
            head: note.head.to_owned(),
            sentence: note.sentence,
        };
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
