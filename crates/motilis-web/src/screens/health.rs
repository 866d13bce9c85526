//! How it stands, for a script that watches.

use crate::access::Aboard;
use crate::{App, Error};
use actix_web::web::Data;
use actix_web::{HttpMessage, HttpRequest, HttpResponse};
use motilis_live::Link;
use motilis_store::Standing;
use serde_json::json;

/// `GET /health`: 200 while the data file answers, 503 when it does not. Who is not signed in is told no more than that.
pub(crate) async fn health(app: Data<App>, request: HttpRequest) -> HttpResponse {
    let read = app
        .ask(|book| {
            let count = "SELECT count(*) FROM settings";
            let counted = book
                .connection()
                .query_row(count, [], |row| row.get::<_, i64>(0));
            Ok(counted.map_err(motilis_store::Error::from)?)
        })
        .await;
    let ready = read.is_ok();
    let mut answer = json!({ "ready": ready, "version": env!("CARGO_PKG_VERSION") });
    if request.extensions().get::<Aboard>().is_some() {
        answer["file"] = file(&app, read.err().as_ref());
        answer["last_copy"] = app.store().copies().all().first().map_or(
            serde_json::Value::Null,
            |copy| json!({ "at": copy.at.to_string(), "bytes": copy.bytes, "name": copy.name() }),
        );
        answer["copy_trouble"] = json!(app.upkept().no_copy);
        answer["twin"] = twin(&app);
    }
    let mut response = if ready {
        HttpResponse::Ok()
    } else {
        HttpResponse::ServiceUnavailable()
    };
    response
        .content_type("application/json")
        .body(answer.to_string() + "\n")
}

fn file(app: &App, trouble: Option<&Error>) -> serde_json::Value {
    let bytes = std::fs::metadata(app.store().path()).map_or(0, |meta| meta.len());
    let standing = match app.store().standing() {
        Standing::Whole => "whole",
        Standing::ReadOnly => "read only",
        Standing::Rescued(_) => "rescued",
    };
    json!({
        "path": app.store().path().display().to_string(),
        "bytes": bytes,
        "data_version": motilis_store::newest_version(),
        "standing": standing,
        "unread_records": app.unread().len(),
        "trouble": trouble.map(ToString::to_string),
    })
}

fn twin(app: &App) -> serde_json::Value {
    let told = app.live().told();
    let link = match &told.link {
        Link::Off => "off",
        Link::Open => "open",
        Link::Trying(_) => "trying again",
        Link::Ended => "ended",
        Link::Refused(_) => "refused",
    };
    json!({ "link": link, "rods": told.known.rods.len(), "behind": told.known.behind, "silent_s": told.silent_s })
}
