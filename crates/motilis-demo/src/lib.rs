//! The invented demo scenario: the boat Patient Heron, its crew Ines and Tobias, three waters.
//!
//! Everything is made by a generator with a seed, so that the same data come out every time. Depths
//! are computed by the core, not invented; fish and their hours are drawn. Nothing here describes a
//! real water, angler or product.

mod made;
mod many;
mod outings;
mod rigs;
mod river;
mod season;
mod setups;
mod spreads;
mod tracks;
mod tray;
mod waters;

pub use many::multiply;

use motilis_store::{Error, Store, settings};
use std::path::Path;

/// Seed of the demo that ships.
pub const SEED: u64 = 27;

/// Fills an empty data file with the scenario, all of it or nothing.
///
/// # Errors
/// [`Error`] of the store.
pub fn fill(store: &Store, seed: u64) -> Result<(), Error> {
    store.write(|connection| {
        let waters = waters::add(connection)?;
        let setups = setups::add(connection)?;
        let tray = tray::fill(connection, seed)?;
        let rigs = rigs::add(connection, &setups, &tray)?;
        made::build(connection, &rigs)?;
        let open = outings::add(connection, &waters, &rigs, seed)?;
        tracks::add(connection, &waters, seed)?;
        river::add(connection, &waters, seed)?;
        let spread = spreads::add(connection, &rigs, &setups)?;
        settings::set(connection, "open_spread", &spread.0.to_string())?;
        settings::set(connection, "crew", "2")?;
        settings::set(connection, "units", "imperial")?;
        settings::set(connection, MADE, &seed.to_string())?;
        settings::set(connection, "open_outing", &open.0.to_string())
    })
}

/// Under which name a demo file says that it is one.
const MADE: &str = "demo_seed";

/// Whether a file was made by this crate: only such a one is replaced.
pub fn made(file: &Path) -> bool {
    settings::of_file(file, MADE).is_some()
}

/// The catalogue refused a size of this scenario: a mistake in this crate, found by its test.
const IN_CATALOGUE: &str = "the scenario uses sizes of the catalogue";
