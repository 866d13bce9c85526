//! The invented demo scenario: the boat Patient Heron, its crew Ines and Tobias, three waters.
//!
//! Everything is made by a generator with a seed, so that the same data come out every time. Depths
//! are computed by the core, not invented; fish and their hours are drawn. Nothing here describes a
//! real water, angler or product.

mod made;
mod outings;
mod rigs;
mod setups;
mod tray;

use motilis_core::book::{WaterBody, WaterId};
use motilis_core::units::Metres;
use motilis_store::{Connection, Error, Store, settings, waters};

/// Seed of the demo that ships.
pub const SEED: u64 = 27;

/// Fills an empty data file with the scenario, all of it or nothing.
///
/// # Errors
/// [`Error`] of the store.
pub fn fill(store: &Store, seed: u64) -> Result<(), Error> {
    store.write(|connection| {
        let waters = add_waters(connection)?;
        let setups = setups::add(connection)?;
        let tray = tray::fill(connection, seed)?;
        let rigs = rigs::add(connection, &setups, &tray)?;
        made::build(connection, &rigs)?;
        let open = outings::add(connection, &waters, &rigs, seed)?;
        settings::set(connection, "units", "imperial")?;
        settings::set(connection, "open_outing", &open.0.to_string())
    })
}

/// The waters of the scenario.
struct Waters {
    tamarin: WaterId,
    orrin: WaterId,
}

fn add_waters(connection: &Connection) -> Result<Waters, Error> {
    let water = |name: &str, (latitude_deg, longitude_deg), zone: &str, salt, clarity| WaterBody {
        name: name.to_owned(),
        latitude_deg,
        longitude_deg,
        zone: zone.to_owned(),
        salt,
        clarity: Metres(clarity),
    };
    let tamarin = water(
        "Lake Tamarin",
        (50.42, -95.61),
        "America/Winnipeg",
        false,
        2.1,
    );
    let orrin = water(
        "Orrin Sound",
        (49.31, -124.02),
        "America/Vancouver",
        true,
        6.0,
    );
    let cassel = water(
        "Cassel River",
        (49.02, -122.11),
        "America/Vancouver",
        false,
        1.5,
    );
    waters::add(connection, &cassel)?;
    Ok(Waters {
        tamarin: waters::add(connection, &tamarin)?,
        orrin: waters::add(connection, &orrin)?,
    })
}

/// The catalogue refused a size of this scenario: a mistake in this crate, found by its test.
const IN_CATALOGUE: &str = "the scenario uses sizes of the catalogue";
