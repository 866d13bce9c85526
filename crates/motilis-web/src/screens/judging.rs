//! How the call sheet judges: the schools followed and what each term counts, kept for the boat.

use super::{Context, page, see, theme_of};
use crate::forms::Typed;
use crate::{App, Error};
use actix_web::web::{Data, Form, Query};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::advice::{Question, Schools, Term, WEIGHT, Weights};
use motilis_core::fish::Fish;
use motilis_store::{Connection, settings};
use motilis_view::screens::{Choice, Judging, SchoolRow, Screen, Theme, WeightRow};
use motilis_view::units::{Quantity, System};
use motilis_view::words;
use serde::Deserialize;
use std::collections::BTreeMap;

/// The schools followed, and the weights for a fish with the angler's own.
pub(super) fn followed(connection: &Connection, fish: Fish) -> Result<(Schools, Weights), Error> {
    let mut schools = Schools::default();
    for (name, value) in settings::beginning(connection, "school.")? {
        let question = Question::from_key(name.trim_start_matches("school."));
        if let Some(question) = question {
            schools = schools.following(question, &value).unwrap_or(schools);
        }
    }
    let mut weights = Weights::usual(fish, &schools);
    let prefix = format!("weight.{}.", fish.key());
    for (name, value) in settings::beginning(connection, &prefix)? {
        let term = Term::from_key(name.trim_start_matches(&prefix));
        if let (Some(term), Ok(weight)) = (term, value.parse()) {
            weights = weights.with(term, weight)?;
        }
    }
    Ok((schools, weights))
}

/// What was just done.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    set: String,
}

type Raw = BTreeMap<String, String>;

/// `GET /judging`
pub(crate) async fn show(
    app: Data<App>,
    request: HttpRequest,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let (theme, done) = (theme_of(&request), !ask.set.is_empty());
    let screen = app
        .read(move |connection| judging(connection, theme, None, done))
        .await?;
    page(HttpResponse::Ok(), &screen)
}

/// `POST /judging/schools`
pub(crate) async fn set_schools(app: Data<App>, raw: Form<Raw>) -> Result<HttpResponse, Error> {
    let raw = raw.into_inner();
    app.write(move |connection| {
        for &question in Question::ALL {
            let Some(key) = raw.get(question.key()) else {
                continue;
            };
            if Schools::default().following(question, key).is_none() {
                return Err(Error::BadRequest(format!(
                    "no school answers {} with “{key}”; choose one of the list",
                    question.name()
                )));
            }
            settings::set(connection, &format!("school.{}", question.key()), key)?;
        }
        Ok(())
    })
    .await?;
    Ok(see("/judging?set=schools"))
}

/// `POST /judging/weights`: when one of them cannot be, none is taken.
pub(crate) async fn set_weights(
    app: Data<App>,
    request: HttpRequest,
    raw: Form<Raw>,
) -> Result<HttpResponse, Error> {
    let (raw, theme) = (raw.into_inner(), theme_of(&request));
    let refused = app
        .write(move |connection| {
            let screen = judging(connection, theme, Some(&raw), false)?;
            let wrong = screen.weights.iter().any(|row| row.field.problem.is_some());
            if wrong {
                return Ok(Some(screen));
            }
            let fish = Context::load(connection)?.outing.fish;
            for &term in Term::ALL {
                let Some(typed) = raw.get(term.key()) else {
                    continue;
                };
                let name = format!("weight.{}.{}", fish.key(), term.key());
                match field(term, typed).optional() {
                    Some(weight) => settings::set(connection, &name, &weight.to_string())?,
                    None => settings::forget(connection, &name)?,
                }
            }
            Ok::<_, Error>(None)
        })
        .await?;
    match refused {
        None => Ok(see("/judging?set=weights")),
        Some(screen) => page(HttpResponse::UnprocessableEntity(), &screen),
    }
}

fn field(term: Term, typed: &str) -> Typed {
    Typed::new(
        (term.key(), term.name()),
        (Quantity::Count, System::Metric),
        WEIGHT,
        typed,
    )
}

fn judging(
    connection: &Connection,
    theme: Theme,
    typed: Option<&Raw>,
    done: bool,
) -> Result<Judging, Error> {
    let context = Context::load(connection)?;
    let fish = context.outing.fish;
    let (schools, weights) = followed(connection, fish)?;
    let usual = Weights::usual(fish, &schools);
    let row = |&term: &Term| {
        let own = (weights.of(term) - usual.of(term)).abs() > 1e-9;
        let shown = match typed.and_then(|typed| typed.get(term.key())) {
            Some(text) => text.clone(),
            None if own => weights.of(term).to_string(),
            None => String::new(),
        };
        let mut field = field(term, &shown);
        field.optional();
        WeightRow {
            field: field.field,
            name: words::capital(term.name()),
            usual: format!("{:.1}", usual.of(term)),
            reason: term.reason_of_weight(fish, &schools),
        }
    };
    Ok(Judging {
        frame: context.frame(Screen::Today, theme, "/judging"),
        fish: fish.name().to_owned(),
        schools: Question::ALL
            .iter()
            .map(|&question| SchoolRow {
                key: question.key(),
                question: words::capital(question.name()),
                choices: Choice::list(question.schools(), schools.answer(question)),
            })
            .collect(),
        weights: Term::ALL.iter().map(row).collect(),
        done,
    })
}
