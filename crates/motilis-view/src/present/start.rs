//! The first page of an empty data file.

use super::bare_frame;
use crate::forms::{Texts, start as form, water};
use crate::screens::{Screen, Start, StartForm};
use crate::seen::Device;
use motilis_helm::{Book, Error};
use motilis_store::waters;

/// What a door of the rule is for, and what it needs.
fn is_for(door: &str) -> &'static str {
    match door {
        "tank" => "Tank tows one rig on its line and says how deep it runs.",
        "spread" => "Spread tows all lines together and finds those that cross.",
        "log" => "Log keeps strikes and fish with a tap, and the line each came on.",
        "column" => "Water shows the light at each depth and what a blade looks like there.",
        _ => "Today says which rig to run now, and why.",
    }
}

/// The page, as typed or untouched.
///
/// # Errors
/// [`Error::Store`].
pub fn start(
    book: &Book<'_>,
    device: Device,
    door: &str,
    typed: Option<StartForm>,
) -> Result<Start, Error> {
    let known = waters::all(book.connection())?;
    Ok(Start {
        frame: bare_frame(book, Screen::None, device, "/start")?,
        door: is_for(door).to_owned(),
        waters: known
            .into_iter()
            .map(|(id, water)| (id.0, water.name))
            .collect(),
        typed: typed.is_some(),
        form: typed.unwrap_or_else(|| {
            let mut form = form::read(&form::untouched(device.system), device.system).form;
            form.water = water::without_problems(form.water);
            form
        }),
    })
}

/// The page half typed: the zone that the position proposes is in it, nothing is said of what is still empty.
///
/// # Errors
/// [`Error::Store`].
pub fn half_typed(book: &Book<'_>, device: Device, texts: &Texts) -> Result<Start, Error> {
    let mut form = form::read(texts, device.system).form;
    form.water = water::without_problems(form.water);
    start(book, device, "", Some(form))
}
