//! What was thrown away lately, to be taken back.

use super::bare_frame;
use crate::screens::{Deleted, DeletedRow, Screen};
use crate::seen::Device;
use crate::words::capital;
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use motilis_helm::{Book, Error, zone};
use motilis_store::trash;

/// How far back is shown.
const DAYS: i64 = 30;

/// The page of what was thrown away.
///
/// # Errors
/// [`Error::Store`].
pub fn deleted(book: &Book<'_>, device: Device, now: Timestamp) -> Result<Deleted, Error> {
    let clock = book
        .here_if_any()?
        .map_or(TimeZone::UTC, |here| zone(&here.water));
    let from = now
        .checked_sub(SignedDuration::from_hours(24 * DAYS))
        .unwrap_or(now);
    let rows = trash::since(book.connection(), from)?.into_iter();
    Ok(Deleted {
        frame: bare_frame(book, Screen::None, device, "/deleted")?,
        rows: rows
            .map(|one| DeletedRow {
                key: one.record.key(),
                id: one.record.number(),
                words: format!("{}: {}", capital(one.what), one.name),
                at: one
                    .at
                    .to_zoned_datetime(clock.clone())
                    .strftime("%-d %b, %H:%M")
                    .to_string(),
            })
            .collect(),
    })
}
