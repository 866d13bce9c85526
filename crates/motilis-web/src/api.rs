//! The JSON interface: the same questions and answers as the command line.

use actix_web::HttpResponse;
use actix_web::web::{Bytes, Path, block};
use motilis_solve::{Refusal, What, openapi};

/// `POST /api/v1/solve/{what}`
pub(crate) async fn solve(what: Path<String>, request: Bytes) -> HttpResponse {
    let Some(what) = What::from_name(&what) else {
        let known: Vec<&str> = What::ALL.iter().map(|(name, _)| *name).collect();
        let message = format!(
            "there is nothing to solve under that name; there are {}",
            known.join(", ")
        );
        return json(
            HttpResponse::NotFound(),
            Refusal::new("", message).to_json(),
        );
    };
    match block(move || what.answer(&request)).await {
        Ok(Ok(answer)) => json(HttpResponse::Ok(), answer),
        Ok(Err(refusal)) => json(HttpResponse::UnprocessableEntity(), refusal.to_json()),
        Err(_) => {
            let message = "the program is stopping";
            json(
                HttpResponse::ServiceUnavailable(),
                Refusal::new("", message).to_json(),
            )
        }
    }
}

/// `GET /api/v1/openapi.json`
pub(crate) async fn document() -> HttpResponse {
    json(HttpResponse::Ok(), openapi())
}

fn json(mut response: actix_web::HttpResponseBuilder, body: String) -> HttpResponse {
    response.content_type("application/json").body(body)
}
