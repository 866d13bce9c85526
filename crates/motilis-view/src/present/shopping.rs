//! What to buy: parts that run short, and parts a rig cannot be built without.

use super::bare_frame;
use super::boxes::currency;
use crate::screens::{Screen, ShoppingRow, ShoppingScreen};
use crate::seen::Device;
use crate::units::System;
use crate::words::{self, bench as say};
use motilis_helm::{Book, Error, Short, shortages};

/// Something that runs short, and how many put that right.
fn row(short: &Short, system: System) -> (ShoppingRow, f64) {
    let boxed = &short.boxed;
    let part = &boxed.part;
    let buy = short.buy().ceil();
    let cost = boxed.unit_cost.map(|cost| cost * buy);
    let row = ShoppingRow {
        words: words::capital(&say::part(part)),
        buy: say::left(part, buy, system),
        left: say::left(part, boxed.left, system),
        why: match &short.wanted {
            Some((rig, takes)) => format!("{rig} takes {}", say::left(part, *takes, system)),
            None => format!("short at {}", say::left(part, boxed.low, system)),
        },
        cost: cost.map_or_else(String::new, |cost| format!("{cost:.2}")),
    };
    (row, cost.unwrap_or(0.0))
}

/// Each part that runs short, and what all of them cost.
///
/// # Errors
/// [`Error::Store`].
pub fn rows(book: &Book<'_>, system: System) -> Result<(Vec<ShoppingRow>, f64), Error> {
    let short = shortages(book)?;
    let (rows, costs): (Vec<_>, Vec<f64>) = short.iter().map(|short| row(short, system)).unzip();
    Ok((rows, costs.into_iter().sum()))
}

/// The page of the shopping list.
///
/// # Errors
/// [`Error::Store`].
pub fn shopping(book: &Book<'_>, device: Device) -> Result<ShoppingScreen, Error> {
    let (rows, cost) = rows(book, device.system)?;
    Ok(ShoppingScreen {
        frame: bare_frame(book, Screen::Box, device, "/box/shopping")?,
        total: format!(
            "{} parts, about {}",
            rows.len(),
            words::money(cost, &currency(book)?)
        ),
        rows,
    })
}
