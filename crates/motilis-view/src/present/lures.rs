//! Plugs and spoons with the angler's own dive tables.

use super::bare_frame;
use crate::forms::lure::{RawLure, read};
use crate::screens::{LureForm, LureScreen, Screen};
use crate::seen::Device;
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_helm::{Book, Error};
use motilis_store::lures as table;

/// The page, with the form as it was typed or blank, and what was just thrown away.
///
/// # Errors
/// [`Error::Store`].
pub fn lures(
    book: &Book<'_>,
    device: Device,
    form: Option<LureForm>,
    undo: Option<i64>,
) -> Result<LureScreen, Error> {
    let system = device.system;
    let depth = |metres: Metres| system.depth(metres);
    let speed = |v: MetresPerSecond| system.speed(v);
    let lures = table::all(book.connection())?
        .into_iter()
        .map(|(id, lure)| {
            let pairs = lure.dives.pairs().iter();
            let pairs: Vec<String> = pairs
                .map(|(out, down)| format!("{} back {} down", depth(*out), depth(*down)))
                .collect();
            let speeds = format!(
                "{}–{}, best at {}",
                speed(lure.speeds.from).value,
                speed(lure.speeds.to),
                speed(lure.speeds.favourite)
            );
            let on = lure.on.map_or_else(String::new, |on| {
                format!(", on {} lb {}", on.test_lb, on.material.name())
            });
            (id.0, lure.name, speeds, pairs.join(", ") + &on)
        })
        .collect();
    Ok(LureScreen {
        frame: bare_frame(book, Screen::Spread, device, "/lures")?,
        lures,
        form: form.unwrap_or_else(|| read(&RawLure::default(), system, true).0),
        undo,
    })
}
