//! What rigs and lures are called, whatever became of them.

use motilis_core::book::Tackle;
use motilis_store::{Connection, Error, lures, rigs};
use std::collections::HashMap;
use std::collections::hash_map::Entry;

/// Names of tackle that records speak of.
#[derive(Debug, Clone, Default)]
pub struct Names(HashMap<Tackle, String>);

impl Names {
    /// Those of some tackle; each is read once.
    ///
    /// # Errors
    /// [`Error::Missing`] for tackle that never was.
    pub fn of(
        connection: &Connection,
        tackle: impl IntoIterator<Item = Tackle>,
    ) -> Result<Self, Error> {
        let mut names = HashMap::new();
        for tackle in tackle {
            if let Entry::Vacant(place) = names.entry(tackle) {
                place.insert(match tackle {
                    Tackle::Rig(rig) => rigs::name(connection, rig)?,
                    Tackle::Lure(lure) => lures::name(connection, lure)?,
                });
            }
        }
        Ok(Self(names))
    }

    /// What one is called; empty for one that was not asked for.
    pub fn get(&self, tackle: Tackle) -> &str {
        self.0.get(&tackle).map_or("", String::as_str)
    }
}
