//! What to buy: parts that run short.

use crate::screens::{page, theme_of};
use crate::{App, Error};
use actix_web::http::header::{CONTENT_DISPOSITION, CONTENT_TYPE};
use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::book::BoxPart;
use motilis_store::{Connection, parts};
use motilis_view::screens::{Screen, ShoppingRow, ShoppingScreen};
use motilis_view::words::{self, bench as say};
use std::fmt::Write;

/// Something that runs short, and how many bring it to three times its low mark.
fn row(boxed: &BoxPart) -> (ShoppingRow, f64) {
    let part = &boxed.part;
    let buy = (3.0 * boxed.low - boxed.left).ceil();
    let cost = boxed.unit_cost.map(|cost| cost * buy);
    let row = ShoppingRow {
        words: words::capital(&say::part(part)),
        buy: say::left(part, buy),
        left: say::left(part, boxed.left),
        why: format!("short at {}", say::left(part, boxed.low)),
        cost: cost.map_or_else(String::new, |cost| format!("{cost:.2}")),
    };
    (row, cost.unwrap_or(0.0))
}

fn rows(connection: &Connection) -> Result<(Vec<ShoppingRow>, f64), Error> {
    let short = parts::all(connection)?
        .into_iter()
        .filter(|(_, boxed)| boxed.is_low())
        .map(|(_, boxed)| row(&boxed));
    let (rows, costs): (Vec<_>, Vec<f64>) = short.unzip();
    Ok((rows, costs.into_iter().sum()))
}

/// `GET /box/shopping`
pub(crate) async fn show(app: Data<App>, request: HttpRequest) -> Result<HttpResponse, Error> {
    let theme = theme_of(&request);
    let screen = app
        .read(move |connection| {
            let (rows, cost) = rows(connection)?;
            Ok::<_, Error>(ShoppingScreen {
                frame: crate::screens::frame(connection, Screen::Box, theme, "/box/shopping")?,
                total: format!("{} parts, about {cost:.2}", rows.len()),
                rows,
            })
        })
        .await?;
    page(HttpResponse::Ok(), &screen)
}

/// `GET /box/shopping.txt`
pub(crate) async fn text(app: Data<App>) -> Result<HttpResponse, Error> {
    let (rows, _) = app.read(rows).await?;
    let mut list = String::new();
    for row in rows {
        // Writing to a text cannot fail.
        let _ = writeln!(list, "{} × {} ({} left)", row.buy, row.words, row.left);
    }
    Ok(file("text/plain; charset=utf-8", "shopping.txt", list))
}

/// `GET /box/shopping.csv`
pub(crate) async fn csv(app: Data<App>) -> Result<HttpResponse, Error> {
    let (rows, _) = app.read(rows).await?;
    let records = rows
        .into_iter()
        .map(|row| [row.buy, row.words, row.left, row.cost]);
    let list = motilis_formats::table(["buy", "part", "left", "cost"], records);
    Ok(file("text/csv; charset=utf-8", "shopping.csv", list))
}

/// A text to keep as a file.
pub(super) fn file(kind: &str, name: &str, body: String) -> HttpResponse {
    HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, kind))
        .insert_header((
            CONTENT_DISPOSITION,
            format!("attachment; filename=\"{name}\""),
        ))
        .body(body)
}
