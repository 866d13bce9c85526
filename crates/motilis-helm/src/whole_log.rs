//! The whole log, with the names of what it speaks of, for tables that go out.

use motilis_core::book::{Event, EventId, Outing, OutingId, PassId, Tackle};
use motilis_core::evidence::Pass;
use motilis_formats::Of;
use motilis_store::{Connection, Error, events, lures, outings, passes, rigs, waters};
use std::collections::{BTreeMap, HashMap};

/// Everything that was logged on outings that are not thrown away.
pub struct WholeLog {
    outings: Vec<(OutingId, Outing)>,
    events: Vec<(EventId, Event)>,
    passes: Vec<(OutingId, PassId, Pass)>,
    names: HashMap<Tackle, String>,
    waters: BTreeMap<i64, String>,
}

impl WholeLog {
    /// Reads it, the oldest outing first.
    ///
    /// # Errors
    /// [`Error::Sqlite`].
    pub fn load(connection: &Connection) -> Result<Self, Error> {
        let mut all = outings::all(connection)?;
        all.reverse();
        let (mut entries, mut stretches) = (Vec::new(), Vec::new());
        for (id, _) in &all {
            let mut of = events::of_outing(connection, *id)?;
            of.reverse();
            entries.extend(of);
            let of = passes::of_outing(connection, *id)?;
            stretches.extend(of.into_iter().map(|(pass, row)| (*id, pass, row)));
        }
        let mut names = HashMap::new();
        let of_entries = entries.iter().filter_map(|(_, event)| event.line);
        let of_passes = stretches.iter().map(|(_, _, pass)| pass.tackle);
        for tackle in of_entries.map(|line| line.tackle).chain(of_passes) {
            if let std::collections::hash_map::Entry::Vacant(place) = names.entry(tackle) {
                place.insert(match tackle {
                    Tackle::Rig(rig) => rigs::name(connection, rig)?,
                    Tackle::Lure(lure) => lures::name(connection, lure)?,
                });
            }
        }
        Ok(Self {
            outings: all,
            events: entries,
            passes: stretches,
            names,
            waters: waters::all(connection)?
                .into_iter()
                .map(|(id, water)| (id.0, water.name))
                .collect(),
        })
    }

    fn of(&self, id: OutingId, tackle: Option<Tackle>) -> Option<Of<'_>> {
        let (_, outing) = self.outings.iter().find(|(known, _)| *known == id)?;
        let name = tackle.and_then(|tackle| self.names.get(&tackle));
        Some(Of {
            outing: id,
            water: self.waters.get(&outing.water.0).map_or("", String::as_str),
            tackle: name.map_or("", String::as_str),
            fish: outing.fish,
        })
    }

    /// Every entry.
    pub fn entries(&self) -> Vec<(EventId, Event, Of<'_>)> {
        let named = self.events.iter().filter_map(|(id, event)| {
            let of = self.of(event.outing, event.line.map(|line| line.tackle))?;
            Some((*id, event.clone(), of))
        });
        named.collect()
    }

    /// Every pass.
    pub fn passes(&self) -> Vec<(PassId, Pass, Of<'_>)> {
        let named = self.passes.iter().filter_map(|(outing, id, pass)| {
            Some((*id, pass.clone(), self.of(*outing, Some(pass.tackle))?))
        });
        named.collect()
    }
}
