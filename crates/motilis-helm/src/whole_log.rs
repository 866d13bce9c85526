//! The whole log, with the names of what it speaks of, for tables that go out.

use crate::names::Names;
use motilis_core::book::{
    CastId, Event, EventId, Outing, OutingId, PassId, RiverCast, RunId, SetupId, Tackle,
};
use motilis_core::evidence::Pass;
use motilis_formats::Of;
use motilis_store::{Connection, Error, casts, events, outings, passes, runs, setups, waters};
use std::collections::hash_map::Entry;
use std::collections::{BTreeMap, HashMap};

/// Everything that was logged on outings that are not thrown away.
pub struct WholeLog {
    outings: BTreeMap<OutingId, Outing>,
    events: Vec<(EventId, Event)>,
    passes: Vec<(OutingId, PassId, Pass)>,
    casts: Vec<(CastId, RiverCast)>,
    runs: HashMap<RunId, String>,
    names: Names,
    setups: HashMap<SetupId, String>,
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
        let (mut entries, mut stretches, mut cast) = (Vec::new(), Vec::new(), Vec::new());
        for (id, _) in &all {
            let mut of = events::of_outing(connection, *id)?;
            of.reverse();
            entries.extend(of);
            let of = passes::of_outing(connection, *id)?;
            stretches.extend(of.into_iter().map(|(pass, row)| (*id, pass, row)));
            cast.extend(casts::of_outing(connection, *id)?);
        }
        let mut known = HashMap::new();
        for (_, one) in &cast {
            if let Entry::Vacant(run) = known.entry(one.run) {
                run.insert(runs::get(connection, one.run)?.name);
            }
        }
        let of_casts = cast.iter().filter_map(|(_, one)| one.rig.map(Tackle::Rig));
        let of_entries = entries.iter().filter_map(|(_, event)| event.line);
        let of_passes = stretches.iter().map(|(_, _, pass)| pass.tackle);
        let named = of_entries
            .map(|line| line.tackle)
            .chain(of_passes)
            .chain(of_casts);
        let waters = waters::all(connection)?.into_iter();
        let setups = setups::all(connection)?.into_iter();
        Ok(Self {
            names: Names::of(connection, named)?,
            outings: all.into_iter().collect(),
            events: entries,
            passes: stretches,
            casts: cast,
            runs: known,
            setups: setups.map(|(id, setup)| (id, setup.name)).collect(),
            waters: waters.map(|(id, water)| (id.0, water.name)).collect(),
        })
    }

    fn water(&self, outing: &Outing) -> &str {
        self.waters.get(&outing.water.0).map_or("", String::as_str)
    }

    fn of(&self, id: OutingId, tackle: Option<Tackle>, setup: Option<SetupId>) -> Option<Of<'_>> {
        let outing = self.outings.get(&id)?;
        let setup = setup.and_then(|setup| self.setups.get(&setup));
        Some(Of {
            outing: id,
            started: outing.started,
            water: self.water(outing),
            tackle: tackle.map_or("", |tackle| self.names.get(tackle)),
            setup: setup.map_or("", String::as_str),
            fish: outing.fish,
        })
    }

    /// Every cast in a river, with what its run is called, the oldest first.
    pub fn casts(&self) -> Vec<(CastId, RiverCast, Of<'_>, &str)> {
        let all = self.casts.iter().filter_map(|(id, cast)| {
            let of = self.of(cast.outing, cast.rig.map(Tackle::Rig), None)?;
            let run = self.runs.get(&cast.run).map_or("", String::as_str);
            Some((*id, cast.clone(), of, run))
        });
        all.collect()
    }

    /// Every outing with its water's name, the oldest first.
    pub fn outings(&self) -> Vec<(OutingId, Outing, &str)> {
        let all = self.outings.iter();
        let mut all: Vec<_> = all
            .map(|(id, outing)| (*id, outing.clone(), self.water(outing)))
            .collect();
        all.sort_by_key(|(id, outing, _)| (outing.started, *id));
        all
    }

    /// Every entry.
    pub fn entries(&self) -> Vec<(EventId, Event, Of<'_>)> {
        let named = self.events.iter().filter_map(|(id, event)| {
            let of = self.of(event.outing, event.line.map(|line| line.tackle), None)?;
            Some((*id, event.clone(), of))
        });
        named.collect()
    }

    /// Every pass.
    pub fn passes(&self) -> Vec<(PassId, Pass, Of<'_>)> {
        let named = self.passes.iter().filter_map(|(outing, id, pass)| {
            let of = self.of(*outing, Some(pass.tackle), pass.ran.setup)?;
            Some((*id, pass.clone(), of))
        });
        named.collect()
    }
}
