//! What to buy: parts that run short.

use super::bare_frame;
use crate::screens::{Screen, ShoppingRow, ShoppingScreen};
use crate::seen::Device;
use crate::words::{self, bench as say};
use motilis_core::book::BoxPart;
use motilis_helm::{Book, Error};
use motilis_store::parts;

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

/// Each part that runs short, and what all of them cost.
///
/// # Errors
/// [`Error::Store`].
pub fn rows(book: &Book<'_>) -> Result<(Vec<ShoppingRow>, f64), Error> {
    let short = parts::all(book.connection())?
        .into_iter()
        .filter(|(_, boxed)| boxed.is_low())
        .map(|(_, boxed)| row(&boxed));
    let (rows, costs): (Vec<_>, Vec<f64>) = short.unzip();
    Ok((rows, costs.into_iter().sum()))
}

/// The page of the shopping list.
///
/// # Errors
/// [`Error::Store`].
pub fn shopping(book: &Book<'_>, device: Device) -> Result<ShoppingScreen, Error> {
    let (rows, cost) = rows(book)?;
    Ok(ShoppingScreen {
        frame: bare_frame(book, Screen::Box, device, "/box/shopping")?,
        total: format!("{} parts, about {cost:.2}", rows.len()),
        rows,
    })
}
