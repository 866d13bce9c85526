//! The set-out card, and two spreads side by side.

use super::Look;
use super::deck::Deck;
use super::view::{Computed, Paper, choices, drawing};
use crate::screens::{page, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Path, Query};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::book::SpreadId;
use motilis_core::units::Metres;
use motilis_store::spreads;
use motilis_view::screens::{CardRow, ComparedRow, Screen, SetOutCard, SpreadCompare};
use motilis_view::units::{Quantity, show};
use motilis_view::words::{self, spread as say};
use serde::Deserialize;

/// Size of each of two drawings beside each other.
const HALF: Paper = Paper {
    size: (640.0, 520.0),
    room: 1.0,
};

/// `GET /spread/{spread}/card`
pub(crate) async fn card(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
) -> Result<HttpResponse, Error> {
    let (id, theme) = (SpreadId(*id), theme_of(&request));
    let card = app
        .read(move |connection| {
            let deck = Deck::load(connection, id)?;
            let computed = Computed::new(&deck, deck.saved.plan.speed, None)?;
            let (context, system) = (&deck.context, deck.context.system);
            let depth = |metres: Metres| show(Quantity::Depth, metres.0, system).to_string();
            let speed = |v: f64| show(Quantity::Speed, v, system);
            let row = |place: usize| {
                let rod = &computed.spread.rods[place];
                let line = &computed.running.lines[place];
                CardRow {
                    number: place + 1,
                    place: say::place(rod, system),
                    name: rod.towed.name().to_owned(),
                    tool: say::tool(rod, system),
                    out: say::out(rod, system),
                    lead: depth(rod.setup.lead),
                    depth: depth(line.depth(deck.surroundings.bottom)),
                    window: match line.window.to {
                        Some(to) => {
                            format!("{}–{}", speed(line.window.from.0).value, speed(to.0))
                        }
                        None => format!("from {}", speed(line.window.from.0)),
                    },
                }
            };
            let order = &computed.order;
            let numbers: Vec<String> = order.bring_in.iter().map(|i| (i + 1).to_string()).collect();
            let started = context.local(context.outing.started);
            let mut foot = words::cautions_of_day(&context.outing, system);
            foot.insert(
                0,
                deck.allowed.map_or_else(
                    || "Check the current local regulations.".to_owned(),
                    |allowed| {
                        format!("By the rules you entered at most {allowed} lines may be out; check the current local regulations.")
                    },
                ),
            );
            Ok::<_, Error>(SetOutCard {
                frame: context.frame(Screen::Spread, theme, &format!("/spread/{}/card", id.0)),
                id: id.0,
                name: deck.saved.plan.name.clone(),
                head: format!(
                    "{}, {}; {} through the water over {}.",
                    context.water.name,
                    started.strftime("%a %-d %B %Y"),
                    speed(deck.saved.plan.speed.0),
                    depth(context.outing.bottom)
                ),
                rows: order.set_out.iter().map(|place| row(*place)).collect(),
                bring_in: format!("Bring in {}.", numbers.join(", ")),
                foot,
            })
        })
        .await?;
    page(HttpResponse::Ok(), &card)
}

/// Which two.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Pair {
    #[serde(deserialize_with = "crate::forms::lenient")]
    a: Option<i64>,
    #[serde(deserialize_with = "crate::forms::lenient")]
    b: Option<i64>,
}

/// `GET /spread/compare`
pub(crate) async fn compare(
    app: Data<App>,
    request: HttpRequest,
    pair: Query<Pair>,
) -> Result<HttpResponse, Error> {
    let (pair, theme) = (pair.into_inner(), theme_of(&request));
    let screen = app
        .read(move |connection| {
            let names = spreads::names(connection)?;
            let named = |id: Option<i64>| names.iter().find(|(known, _)| Some(known.0) == id);
            let a = named(pair.a).or(names.first()).map(|(id, _)| *id);
            let other = names.iter().find(|(id, _)| Some(*id) != a);
            let b = named(pair.b).or(other).or(names.first()).map(|(id, _)| *id);
            let (Some(a), Some(b)) = (a, b) else {
                return Err(Error::NotFound(
                    "there is no spread to compare yet; begin one on the Spread screen".into(),
                ));
            };
            let decks = [Deck::load(connection, a)?, Deck::load(connection, b)?];
            let computed = [
                Computed::new(&decks[0], decks[0].saved.plan.speed, None)?,
                Computed::new(&decks[1], decks[1].saved.plan.speed, None)?,
            ];
            let drawn = |i: usize| {
                let deck = &decks[i];
                let drawing = drawing(deck, &computed[i], &Look::default(), None, HALF);
                (deck.saved.plan.name.clone(), drawing)
            };
            Ok::<_, Error>(SpreadCompare {
                frame: decks[0]
                    .context
                    .frame(Screen::Spread, theme, "/spread/compare"),
                first: choices(&decks[0], Some(a.0)),
                second: choices(&decks[0], Some(b.0)),
                rows: rows(&decks, &computed)?,
                drawings: [drawn(0), drawn(1)],
            })
        })
        .await?;
    page(HttpResponse::Ok(), &screen)
}

fn rows(decks: &[Deck; 2], computed: &[Computed; 2]) -> Result<Vec<ComparedRow>, Error> {
    use motilis_core::spread::Side;
    let system = decks[0].context.system;
    let speed = |v: f64| show(Quantity::Speed, v, system).to_string();
    let row = |label: &str, [a, b]: [String; 2]| ComparedRow {
        label: label.to_owned(),
        differs: a != b,
        a,
        b,
    };
    let both =
        |figure: &dyn Fn(usize) -> Result<String, Error>| Ok::<_, Error>([figure(0)?, figure(1)?]);
    let turn = |to: Side| {
        move |i: usize| {
            let safe = computed[i].spread.safe_turn(&decks[i].surroundings, to)?;
            Ok(say::safe_turn(to, safe.radius, safe.by, system))
        }
    };
    let mut rows = vec![
        row(
            "Lines",
            both(&|i| Ok(computed[i].spread.rods.len().to_string()))?,
        ),
        row("Speed", both(&|i| Ok(speed(computed[i].spread.speed.0)))?),
        row(
            "Lines that fish",
            both(&|i| Ok(computed[i].running.fishing().to_string()))?,
        ),
        row(
            "Speed that suits most",
            both(&|i| {
                let shared = computed[i].spread.shared_speed(&decks[i].surroundings)?;
                Ok(format!(
                    "{}, {} lines",
                    speed(shared.at.0),
                    shared.inside.len()
                ))
            })?,
        ),
        row("Turn to port", both(&turn(Side::Port))?),
        row("Turn to starboard", both(&turn(Side::Starboard))?),
        row(
            "Nearest two lines",
            both(&|i| {
                Ok(computed[i].running.tangles.first().map_or_else(
                    || "all well apart".to_owned(),
                    |near| {
                        format!(
                            "{} between {} and {}",
                            show(Quantity::Depth, near.distance.0, system),
                            near.lines.0 + 1,
                            near.lines.1 + 1
                        )
                    },
                ))
            })?,
        ),
    ];
    let most = computed
        .iter()
        .map(|one| one.spread.rods.len())
        .max()
        .unwrap_or(0);
    for place in 0..most {
        rows.push(row(
            &format!("Line {}", place + 1),
            both(&|i| {
                Ok(computed[i]
                    .spread
                    .rods
                    .get(place)
                    .map_or_else(String::new, |rod| {
                        format!(
                            "{}: {}, {} back, {} down",
                            say::place(rod, system),
                            rod.towed.name(),
                            say::out(rod, system),
                            show(
                                Quantity::Depth,
                                computed[i].running.lines[place].rig[2],
                                system
                            )
                        )
                    }))
            })?,
        ));
    }
    Ok(rows)
}
