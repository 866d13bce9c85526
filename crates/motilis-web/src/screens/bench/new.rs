//! A new rig, and two rigs side by side.

use super::edit::Refused;
use crate::forms;
use crate::screens::{page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Query};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::bench::{checks, starting};
use motilis_core::book::{Board, SetupId, plain_text};
use motilis_core::fish::Fish;
use motilis_core::line::LineSetup;
use motilis_core::rig::{HookSize, Kind};
use motilis_core::units::{INCH, MILE_PER_HOUR};
use motilis_store::{Connection, parts, rigs, setups};
use motilis_view::draw::{BenchDrawing, BenchSource};
use motilis_view::screens::{BenchNew, Choice, Compare, CompareRow, Frame, Screen};
use motilis_view::units::Problem;
use motilis_view::words::{self, bench as say};
use serde::Deserialize;
use std::collections::BTreeMap;

/// A rig's name as typed: one line, not empty.
pub(super) fn name(typed: &str) -> Result<String, String> {
    let name = typed.trim();
    if name.is_empty() {
        return Err("Name is empty; call the rig something, like Tamarin two-hook.".into());
    }
    plain_text("name", name, 60).map_err(|error| forms::problem(&error).0)?;
    Ok(name.to_owned())
}

/// The form of a new rig, as typed before or as it begins.
fn form(
    frame: Frame,
    setups: &[(SetupId, LineSetup)],
    typed: &BTreeMap<String, String>,
    wrong: Option<Refused>,
) -> BenchNew {
    let text = |name: &str| typed.get(name).map_or("", String::as_str);
    let mut named = forms::text("name", "Name", text("name"));
    let mut refusal = None;
    if let Some(wrong) = wrong {
        if wrong.field == "name" {
            named.problem = Some(Problem(wrong.sentence));
        } else {
            refusal = Some(wrong.sentence);
        }
    }
    let kind = if text("kind").is_empty() {
        Kind::CrawlerHarness.key()
    } else {
        text("kind")
    };
    let mut hook = vec![Choice {
        value: String::new(),
        label: "As usual for the kind".into(),
        chosen: text("hook").is_empty(),
    }];
    hook.extend(HookSize::all().map(|size| Choice {
        value: size.code().to_string(),
        label: format!("No. {size}"),
        chosen: text("hook") == size.code().to_string(),
    }));
    BenchNew {
        frame,
        name: named,
        kind: Choice::list(Kind::ALL.iter().map(|kind| (kind.key(), kind.name())), kind),
        fish: Choice::list(
            Fish::ALL.iter().map(|fish| (fish.key(), fish.name())),
            text("fish"),
        ),
        hook,
        setup: setups
            .iter()
            .map(|(id, setup)| Choice {
                value: id.0.to_string(),
                label: setup.name.clone(),
                chosen: text("setup") == id.0.to_string(),
            })
            .collect(),
        refusal,
    }
}

/// `GET /bench/new`
pub(crate) async fn start(app: Data<App>, request: HttpRequest) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let (frame, setups) = app
        .read(move |connection| {
            let frame = crate::screens::frame(connection, Screen::Bench, theme, "/bench/new")?;
            Ok::<_, Error>((frame, setups::all(connection)?))
        })
        .await?;
    page(
        HttpResponse::Ok(),
        &form(frame, &setups, &BTreeMap::new(), None),
    )
}

/// `POST /bench/new`
pub(crate) async fn create(
    app: Data<App>,
    request: HttpRequest,
    typed: Form<BTreeMap<String, String>>,
) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let typed = typed.into_inner();
    let asked = typed.clone();
    let made = app
        .write(move |connection| Ok::<_, Error>(make(connection, &asked)?.map(|id| id.0)))
        .await?;
    match made {
        Ok(id) => Ok(see(&format!("/bench/{id}"))),
        Err(refused) => {
            let (frame, setups) = app
                .read(move |connection| {
                    let frame =
                        crate::screens::frame(connection, Screen::Bench, theme, "/bench/new")?;
                    Ok::<_, Error>((frame, setups::all(connection)?))
                })
                .await?;
            let page_of = form(frame, &setups, &typed, Some(refused));
            page(HttpResponse::UnprocessableEntity(), &page_of)
        }
    }
}

/// Adds the rig, or says what is wrong.
fn make(
    connection: &Connection,
    typed: &BTreeMap<String, String>,
) -> Result<Result<motilis_core::book::RigId, Refused>, Error> {
    let text = |name: &str| typed.get(name).map_or("", String::as_str);
    let refuse = |field: &str, sentence: String| Refused {
        field: field.to_owned(),
        typed: text(field).to_owned(),
        sentence,
    };
    let name = match name(text("name")) {
        Ok(name) => name,
        Err(sentence) => return Ok(Err(refuse("name", sentence))),
    };
    let Some(kind) = Kind::from_key(text("kind")) else {
        return Ok(Err(refuse(
            "kind",
            "There is no such kind of rig; choose one of the list.".into(),
        )));
    };
    let fish = Fish::from_key(text("fish")).unwrap_or(Fish::Walleye);
    let hook = match text("hook") {
        "" => kind.usual_hook_size(),
        code => match code.parse().ok().map(HookSize::from_code) {
            Some(Ok(size)) => size,
            _ => {
                return Ok(Err(refuse(
                    "hook",
                    "There is no such hook size; choose one of the list.".into(),
                )));
            }
        },
    };
    let setup = match text("setup").parse().ok().map(SetupId) {
        Some(id) => {
            setups::get(connection, id)?;
            id
        }
        // A fresh file has no rod yet.
        None => match setups::all(connection)?.first() {
            Some((id, _)) => *id,
            None => setups::add(connection, &LineSetup::usual()?)?,
        },
    };
    let stock = parts::stocked(connection)?;
    let mut stack = starting(kind, fish, hook, &stock)?;
    if text("start") == "empty" {
        stack.pieces.clear();
    }
    Ok(Ok(rigs::add_board(connection, &name, &stack, setup)?))
}

/// Which two rigs.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct Pair {
    #[serde(deserialize_with = "crate::forms::lenient")]
    left: Option<i64>,
    #[serde(deserialize_with = "crate::forms::lenient")]
    right: Option<i64>,
}

/// `GET /bench/compare`
pub(crate) async fn compare(
    app: Data<App>,
    request: HttpRequest,
    pair: Query<Pair>,
) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let (left, right) = (pair.left, pair.right);
    let compare = app
        .read(move |connection| {
            let boards = rigs::boards(connection)?;
            if boards.is_empty() {
                return Err(Error::NotFound(
                    "there are no rigs to compare yet; start one on the bench".into(),
                ));
            }
            let place = |asked: Option<i64>, otherwise: usize| {
                asked
                    .and_then(|asked| boards.iter().position(|(id, _)| id.0 == asked))
                    .unwrap_or(otherwise)
            };
            let a = place(left, 0);
            let b = place(right, if a == 0 { boards.len().min(2) - 1 } else { 0 });
            let choices = |chosen: usize| {
                let all = boards.iter().enumerate();
                all.map(|(at, (id, board))| Choice {
                    value: id.0.to_string(),
                    label: board.name.clone(),
                    chosen: at == chosen,
                })
                .collect()
            };
            let stock = parts::stocked(connection)?;
            let (one, other) = (&boards[a].1, &boards[b].1);
            Ok(Compare {
                frame: crate::screens::frame(connection, Screen::Bench, theme, "/bench/compare")?,
                left: choices(a),
                right: choices(b),
                names: (one.name.clone(), other.name.clone()),
                drawings: (drawn(one), drawn(other)),
                rows: rows(one, other, &stock)?,
            })
        })
        .await?;
    page(HttpResponse::Ok(), &compare)
}

fn drawn(board: &Board) -> BenchDrawing {
    let layout = motilis_core::bench::Layout::new(&board.stack);
    BenchDrawing::new(&BenchSource::plain(&board.stack, &layout, &board.name))
}

/// Part by part, then measures and figures.
fn rows(
    one: &Board,
    other: &Board,
    stock: &[motilis_core::bench::Stocked],
) -> Result<Vec<CompareRow>, Error> {
    let mut rows = vec![CompareRow {
        label: "Kind".into(),
        left: one.stack.kind.name().into(),
        right: other.stack.kind.name().into(),
    }];
    let spool = |board: &Board| say::part(board.stack.mount.part());
    rows.push(CompareRow {
        label: "Line or wire".into(),
        left: spool(one),
        right: spool(other),
    });
    let piece = |board: &Board, at: usize| {
        board
            .stack
            .pieces
            .get(at)
            .map_or_else(|| "nothing".to_owned(), say::piece)
    };
    for at in 0..one.stack.pieces.len().max(other.stack.pieces.len()) {
        rows.push(CompareRow {
            label: format!("Part {}", at + 1),
            left: piece(one, at),
            right: piece(other, at),
        });
    }
    let (a, b) = (checks(&one.stack, stock)?, checks(&other.stack, stock)?);
    let mut figure = |label: &str, show: &dyn Fn(&motilis_core::bench::Checked) -> String| {
        rows.push(CompareRow {
            label: label.into(),
            left: show(&a),
            right: show(&b),
        });
    };
    figure("Length over all", &|checked| {
        format!(
            "{:.1} in, {}",
            checked.layout.overall() / INCH,
            say::mm(checked.layout.overall())
        )
    });
    figure("Stack", &|checked| say::mm(checked.layout.stack_length()));
    figure("To cut", &|checked| say::both(checked.cut.whole));
    figure("Mass", &|checked| say::grams(checked.figures.mass));
    let speed =
        |value: motilis_core::units::MetresPerSecond| format!("{:.2} mph", value / MILE_PER_HOUR);
    figure("Starts", &|checked| {
        checked.figures.running.map_or_else(
            || "no blade".into(),
            |running| speed(running.at_speed.start),
        )
    });
    figure("Rolls over", &|checked| {
        let running = checked.figures.running;
        running
            .and_then(|running| running.at_speed.roll_over)
            .map_or_else(|| "not".into(), speed)
    });
    figure("Drag area", &|checked| {
        checked.figures.running.map_or_else(
            || "no blade".into(),
            |running| format!("{:.1} cm²", running.drag_area.0 * 1e4),
        )
    });
    figure("Sink speed", &|checked| {
        format!("{:.2} m/s", checked.figures.sink_speed.0)
    });
    figure("Checks to fix or watch", &|checked| {
        let open = checked
            .checks
            .iter()
            .filter(|check| check.level != motilis_core::bench::Level::Pass);
        open.count().to_string()
    });
    Ok(rows.into_iter().map(capitals).collect())
}

fn capitals(row: CompareRow) -> CompareRow {
    CompareRow {
        left: words::capital(&row.left),
        right: words::capital(&row.right),
        ..row
    }
}
