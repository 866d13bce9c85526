//! Casting in a river: the run, what is cast, and what was cast so far.

use crate::book::{Book, Here};
use crate::error::Error;
use crate::standing::StandingRig;
use motilis_core::book::{CastId, RigId, RiverCast, RunId, WaterId};
use motilis_core::rig::Rig;
use motilis_core::river::{Gear, Order, Run, School};
use motilis_core::tackle::{LineMaterial, LineStock};
use motilis_core::units::{Celsius, Kilograms, Metres};
use motilis_core::water::Water;
use motilis_store::{Connection, casts, runs, settings};
use std::sync::Arc;

/// What the settings are called.
pub(crate) mod setting_of {
    pub const GEAR: &str = "casting_gear";
    pub const SCHOOL: &str = "casting_school";
    pub const ORDER: &str = "casting_order";
}

/// What the page of a river needs to know.
pub struct River<'b, 'c> {
    /// The boat book.
    pub book: &'b Book<'c>,
    /// The open outing.
    pub here: &'b Here,
    /// The river: that of the outing, or the first there is.
    pub river: Option<(WaterId, String)>,
    /// Whether the open outing is on it: then casts can be logged.
    pub on_it: bool,
    /// Its water.
    pub water: Water,
    /// How warm it is.
    pub temperature: Celsius,
    /// Its runs.
    pub runs: Vec<(RunId, Run)>,
    /// Rigs that can be cast, by name.
    pub rigs: Vec<&'b StandingRig>,
    /// Rod, reel and line.
    pub gear: Gear,
    /// From which side a hold is fished.
    pub school: School,
    /// What is shown to the fish, one after the other.
    pub order: Order,
    /// Casts of the outing, the first first.
    pub casts: Vec<(CastId, RiverCast)>,
}

impl<'b, 'c> River<'b, 'c> {
    /// Reads it.
    ///
    /// # Errors
    /// [`Error::NoOuting`]; [`Error::Core`] for a temperature that cannot be; [`Error::Store`].
    pub fn load(book: &'b Book<'c>) -> Result<Self, Error> {
        let (here, connection) = (book.here()?, book.connection());
        let has_runs = |id| Ok::<_, Error>(!runs::of_water(connection, id)?.is_empty());
        let on_it = here.water.river || has_runs(here.outing.water)?;
        let own = (here.outing.water, here.water.name.clone());
        let mut river = on_it.then_some(own);
        if river.is_none() {
            for (id, water) in &here.waters {
                let name = || (*id, water.name.clone());
                if has_runs(*id)? {
                    river = Some(name());
                    break;
                }
                if water.river && river.is_none() {
                    river = Some(name());
                }
            }
        }
        let runs = match &river {
            Some((id, _)) => runs::of_water(connection, *id)?,
            None => Vec::new(),
        };
        let temperature = here.outing.temperature;
        let rigs = book.rigs()?.iter();
        let word = |name| settings::get(connection, name);
        Ok(Self {
            river,
            on_it,
            water: Water::fresh(temperature)?,
            temperature,
            runs,
            rigs: rigs.filter(|rig| is_cast(rig)).collect(),
            gear: gear(connection)?,
            school: word(setting_of::SCHOOL)?
                .and_then(|key| School::from_key(&key))
                .unwrap_or(School::Both),
            order: word(setting_of::ORDER)?
                .and_then(|key| Order::from_key(&key))
                .unwrap_or(Order::SpinnersOnly),
            casts: casts::of_outing(connection, here.id)?,
            book,
            here,
        })
    }

    /// A rig of the box that can be cast.
    pub fn rig(&self, id: RigId) -> Option<&'b Arc<Rig>> {
        let rig = self.rigs.iter().find(|rig| rig.id == id)?;
        rig.stands.as_ref().ok()
    }
}

/// Whether a rig can run, and is cast.
fn is_cast(rig: &StandingRig) -> bool {
    rig.stands.as_ref().is_ok_and(|rig| rig.kind().is_cast())
}

/// The casting rod that is kept, or the one people begin with.
pub(crate) fn gear(connection: &Connection) -> Result<Gear, Error> {
    let kept = settings::get(connection, setting_of::GEAR)?;
    let read = kept.and_then(|text| read_gear(&text));
    Ok(read.unwrap_or_else(Gear::usual))
}

pub(crate) fn keep_gear(connection: &Connection, gear: &Gear) -> Result<(), Error> {
    Ok(settings::set(
        connection,
        setting_of::GEAR,
        &write_gear(gear),
    )?)
}

/// Figures and spools, apart by blanks.
fn write_gear(gear: &Gear) -> String {
    let spool = |stock: LineStock| format!("{} {}", stock.material.key(), stock.test_lb);
    format!(
        "{} {} {} {} {} {} {} {} {}",
        gear.rod.0,
        gear.longest.0,
        gear.on_reel.0,
        gear.take_up.0,
        spool(gear.main),
        spool(gear.bumper),
        gear.bumper_length.0,
        gear.shot.0,
        gear.lead.0
    )
}

fn read_gear(text: &str) -> Option<Gear> {
    let words: Vec<&str> = text.split(' ').collect();
    let [
        rod,
        longest,
        on_reel,
        take_up,
        main,
        main_test,
        bumper,
        bumper_test,
        bumper_length,
        shot,
        lead,
    ] = words[..]
    else {
        return None;
    };
    let figure = |word: &str| word.parse::<f64>().ok();
    let spool = |material: &str, test: &str| {
        LineStock::of_test(LineMaterial::from_key(material)?, test.parse().ok()?).ok()
    };
    let gear = Gear {
        rod: Metres(figure(rod)?),
        longest: Metres(figure(longest)?),
        on_reel: Metres(figure(on_reel)?),
        take_up: Metres(figure(take_up)?),
        main: spool(main, main_test)?,
        bumper: spool(bumper, bumper_test)?,
        bumper_length: Metres(figure(bumper_length)?),
        shot: Kilograms(figure(shot)?),
        lead: Metres(figure(lead)?),
    };
    gear.check().ok()?;
    Some(gear)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn gear_reads_back_as_it_was_kept() {
        let gear = Gear {
            rod: Metres(2.4384),
            shot: Kilograms(0.0),
            ..Gear::usual()
        };
        assert_eq!(read_gear(&write_gear(&gear)), Some(gear));
        assert_eq!(read_gear("2.7 far"), None);
        // What a hand wrote into the file and cannot be is not taken.
        let wild = Gear {
            take_up: Metres(90.0),
            ..gear
        };
        assert_eq!(read_gear(&write_gear(&wild)), None);
    }
}
