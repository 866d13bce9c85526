//! The data file for its owner.

use super::bare_frame;
use crate::screens::{AsideRow, CopyRow, DataScreen, Found, Screen};
use crate::seen::Device;
use crate::words::capital;
use crate::words::data as say;
use jiff::Timestamp;
use jiff::tz::TimeZone;
use motilis_helm::{Book, Error, zone};
use motilis_store::check::{self, Mend, Wrong};
use motilis_store::tidy::Tidied;
use motilis_store::{Standing, Store, free_space};

/// What was looked at, and what was just done.
#[derive(Debug, Default)]
pub struct DataLook {
    /// What the last look through it found, and when.
    pub checked: Option<(Timestamp, Vec<Wrong>)>,
    /// What clearing out would do.
    pub tidying: Option<Tidied>,
    /// Why the day's copy could not be made.
    pub no_copy: Option<String>,
    /// What was just done, and the copy by which it is taken back.
    pub done: Option<(String, Option<String>)>,
    /// Why a copy from another device was not put in.
    pub not_in: Option<String>,
}

/// The page of the data file.
///
/// # Errors
/// [`Error::Store`].
pub fn data(
    book: &Book<'_>,
    device: Device,
    store: &Store,
    look: DataLook,
) -> Result<DataScreen, Error> {
    let clock = book
        .here_if_any()?
        .map_or(TimeZone::UTC, |here| zone(&here.water));
    let when = |at: Timestamp| {
        let there = at.to_zoned_datetime(clock.clone());
        there.strftime("%-d %b %Y, %H:%M").to_string()
    };
    let copies = store.copies().all();
    let mut says = match store.standing() {
        Standing::Whole => Vec::new(),
        Standing::ReadOnly => vec![
            "The file or its folder can only be read here: the book is shown as it is, and nothing can be changed. To go on with it, copy it to a disk that can be written.".to_owned(),
        ],
        Standing::Rescued(salvage) => say::salvage(salvage),
    };
    says.extend(look.no_copy.map(|why| format!("{}.", capital(&why))));
    let asides = check::aside(book.connection())?.into_iter();
    let aside = asides.map(|one| AsideRow {
        id: one.id,
        words: format!("{}: {}", capital(&say::plain(&one.table)), one.why),
        record: one.record,
        at: format!("set aside {}", when(one.at)),
    });
    let last = copies.first().map(|copy| when(copy.at));
    let writable = *store.standing() == Standing::Whole;
    Ok(DataScreen {
        facts: facts(store, last, copies.iter().map(|copy| copy.bytes).sum()),
        frame: bare_frame(book, Screen::None, device, "/data")?,
        done: look.done,
        not_in: look.not_in.unwrap_or_default(),
        says,
        writable,
        found: look.checked.map(|(at, wrong)| Found {
            at: when(at),
            mends: wrong.iter().any(|one| one.mend() != Mend::Restore),
            rows: wrong
                .iter()
                .map(|one| (say::wrong(one), say::mend(one)))
                .collect(),
        }),
        tidying: look
            .tidying
            .map(|tidied| (say::tidying(&tidied, false), say::is_worth_it(&tidied))),
        copies: copies
            .iter()
            .map(|copy| CopyRow {
                name: copy.name(),
                at: when(copy.at),
                why: say::why(&copy.why),
                size: say::size(copy.bytes),
            })
            .collect(),
        aside: aside.collect(),
    })
}

/// Where it is, how large, how safe.
fn facts(store: &Store, last: Option<String>, copied: u64) -> Vec<(&'static str, String, String)> {
    let bytes = |path: &std::path::Path| std::fs::metadata(path).map_or(0, |meta| meta.len());
    let mut log = store.path().as_os_str().to_owned();
    log.push("-wal");
    let mut facts = vec![
        ("File", store.path().display().to_string(), String::new()),
        (
            "Size",
            say::size(bytes(store.path())),
            format!(
                "and {} in its log, folded in every 20 s",
                say::size(bytes(log.as_ref()))
            ),
        ),
        (
            "Last copy",
            last.unwrap_or_else(|| "none yet".to_owned()),
            format!(
                "{} in {}",
                say::size(copied),
                store.copies().folder().display()
            ),
        ),
        (
            "Data version",
            motilis_store::newest_version().to_string(),
            format!("of Motilis {}", env!("CARGO_PKG_VERSION")),
        ),
    ];
    facts.extend(free_space(store.path()).map(|free| {
        (
            "Free",
            say::size(free),
            "on the disk with the file".to_owned(),
        )
    }));
    facts
}
