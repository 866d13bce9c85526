//! What a list does not show: rigs and outings by their words, for the script that looks for them.

use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Query};
use motilis_store::rigs;
use motilis_view::present::outing_choices;
use motilis_view::screens::LISTED;
use serde::Deserialize;

/// The words that are looked for.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Words {
    q: String,
}

/// Those whose label has every word, as pairs of value and label.
fn found(all: impl Iterator<Item = (String, String)>, words: &str) -> HttpResponse {
    let words = words.to_lowercase();
    let has = |(_, label): &(String, String)| {
        let label = label.to_lowercase();
        words.split_whitespace().all(|word| label.contains(word))
    };
    let pairs: Vec<(String, String)> = all.filter(has).take(LISTED).collect();
    HttpResponse::Ok().json(pairs)
}

/// `GET /find/rigs`
pub(crate) async fn by_rig(app: Data<App>, words: Query<Words>) -> Result<HttpResponse, Error> {
    let names = app.ask(|book| Ok(rigs::names(book.connection())?)).await?;
    let pairs = names.into_iter().map(|(id, name)| (id.0.to_string(), name));
    Ok(found(pairs, &words.q))
}

/// `GET /find/outings`
pub(crate) async fn by_outing(app: Data<App>, words: Query<Words>) -> Result<HttpResponse, Error> {
    let all = app.ask(|book| Ok(outing_choices(book.here()?))).await?;
    let pairs = all.into_iter().map(|choice| (choice.value, choice.label));
    Ok(found(pairs, &words.q))
}
