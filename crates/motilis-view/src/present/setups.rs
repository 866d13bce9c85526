//! Line set-ups: what the rods are rigged with, every depth tool among them.

use super::bare_frame;
use crate::screens::{Screen, SetupForm, SetupRow, Setups};
use crate::seen::Device;
use crate::words;
use motilis_core::line::Start;
use motilis_core::units::Metres;
use motilis_helm::{Book, Error};

/// The page, with a form and what was just thrown away.
///
/// # Errors
/// [`Error::Store`].
pub fn setups(
    book: &Book<'_>,
    device: Device,
    form: SetupForm,
    undo: Option<i64>,
) -> Result<Setups, Error> {
    let system = device.system;
    let depth = |metres: Metres| system.depth(metres).to_string();
    let rows = book
        .setups()?
        .iter()
        .map(|(id, setup)| {
            let start = match setup.start {
                Start::RodTip { .. } => "rod tip",
                Start::Board => "board",
                Start::Downrigger { .. } => "downrigger",
            };
            let core = setup.core.map_or_else(String::new, |core| {
                format!(", {} of {}", depth(core.length), core.stock.material.name())
            });
            let weighs = setup.weight.is_some() || setup.lets_out_cable();
            let tool = if weighs {
                format!(" {};", words::weight(setup, system))
            } else {
                String::new()
            };
            SetupRow {
                id: id.0,
                says: format!(
                    "{start}; {} lb {}{core};{tool} lead {}",
                    setup.main.test_lb,
                    setup.main.material.name(),
                    depth(setup.lead)
                ),
                name: setup.name.clone(),
            }
        })
        .collect();
    Ok(Setups {
        frame: bare_frame(book, Screen::Spread, device, "/setups")?,
        rows,
        form,
        undo,
    })
}
