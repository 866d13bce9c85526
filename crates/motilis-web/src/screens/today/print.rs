//! The half page to print, and what would change the call.

use super::Desk;
use super::pick;
use super::sheet::rules_of;
use crate::screens::{page, theme_of};
use crate::{App, Error};
use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::advice::{moves, what_would_change};
use motilis_view::screens::{CallCard, Changes, Screen};
use motilis_view::units::{Quantity, show};
use motilis_view::words::{self, advice as say};

/// `GET /today/card`
pub(crate) async fn card(app: Data<App>, request: HttpRequest) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let card = app
        .read(move |connection| {
            let desk = Desk::load(connection)?;
            let (judge, ranking, sheet) = desk.sheet()?;
            let (context, system) = (&desk.context, desk.context.system);
            let outing = &context.outing;
            let started = context.local(outing.started);
            let figure = |quantity, si| show(quantity, si, system).to_string();
            Ok::<_, Error>(CallCard {
                head: format!(
                    "{}, {}",
                    context.water.name,
                    started.strftime("%a %-d %B %Y, %H:%M")
                ),
                conditions: format!(
                    "{}, {}; {} water, disk lost at {}; {}, {}; water {}; rig at {}.",
                    outing.fish.name(),
                    outing.mood.name(),
                    outing.stain.name(),
                    figure(Quantity::Depth, outing.clarity.0),
                    outing.sky.name(),
                    outing.wind.name(),
                    figure(Quantity::Temperature, outing.temperature.0),
                    figure(Quantity::Depth, outing.wanted_depth.0),
                ),
                picks: pick::cards(&desk, &judge, &ranking, &sheet)?,
                rules: rules_of(&desk),
                cautions: words::cautions_of_day(outing, system),
                frame: context.frame(Screen::Today, theme, "/today/card"),
            })
        })
        .await?;
    page(HttpResponse::Ok(), &card)
}

/// `GET /today/changes`
pub(crate) async fn changes(app: Data<App>, request: HttpRequest) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let changes = app
        .read(move |connection| {
            let desk = Desk::load(connection)?;
            let system = desk.context.system;
            let (_, _, sheet) = desk.sheet()?;
            let first = sheet.picks.first().map(|pick| pick.index);
            let called = |index: usize| {
                let candidate = &desk.candidates[index];
                match &candidate.stand {
                    motilis_core::advice::Stand::Buildable(changes) if !changes.is_empty() => {
                        format!(
                            "{}: {}",
                            candidate.rig.name,
                            words::small(&say::swap(changes))
                        )
                    }
                    _ => candidate.name.clone(),
                }
            };
            let changed =
                what_would_change(&desk.day, &desk.ways, &desk.candidates, first, |index| {
                    desk.mark(index)
                })?;
            let tried = moves(&desk.day);
            let kept: Vec<String> = tried
                .iter()
                .filter(|moved| !changed.iter().any(|change| change.moved == **moved))
                .map(|moved| words::small(&say::moved(*moved, system)))
                .collect();
            Ok::<_, Error>(Changes {
                frame: desk.context.frame(Screen::Today, theme, "/today/changes"),
                first: first.map_or_else(|| "nothing".to_owned(), called),
                changes: changed
                    .iter()
                    .map(|change| {
                        let instead = change
                            .instead
                            .map_or_else(|| "no rig would work".to_owned(), called);
                        (say::moved(change.moved, system), instead)
                    })
                    .collect(),
                tried: if kept.is_empty() {
                    String::new()
                } else {
                    format!("It holds {}.", kept.join(", "))
                },
            })
        })
        .await?;
    page(HttpResponse::Ok(), &changes)
}
