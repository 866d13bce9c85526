//! What the boat under way is asked: its rods, what comes next, and how its instruments are set.

use crate::aboard::Aboard;
use crate::book::{Book, Here};
use crate::error::Error;
use crate::switching::{Switching, switching};
use jiff::Timestamp;
use motilis_core::boat::Afloat;
use motilis_core::book::{FishMark, FishMarkId, Tackle};
use motilis_core::evidence::LONGEST;
use motilis_core::spread::{Spread, Towed, Unfit};
use motilis_core::units::Metres;
use motilis_store::{fish_marks, outings, settings};
use std::sync::Arc;

/// Names of the settings.
pub(crate) mod setting_of {
    /// Where instruments are heard.
    pub const WIRE: &str = "boat_wire";
    /// Where they were heard before practice began.
    pub const WIRE_BEFORE: &str = "boat_wire_before";
    /// Line that a turn of the reel lets out, m.
    pub const REEL: &str = "boat_reel_m";
    /// A current that was typed in, m/s to the north and east.
    pub const CURRENT: &str = "boat_current_mps";
    /// How a practice trip went, by its outing.
    pub const SCORE: &str = "practice_score_";
}

/// The boat under way.
pub struct Boat<'b> {
    /// The open outing.
    pub here: &'b Here,
    /// Whether it goes on now.
    pub running: bool,
    /// Whether it is practice.
    pub practice: bool,
    /// Its rods, by number.
    pub rods: Vec<Aboard>,
    /// Numbers of the rods in the order in which they are set out, those that cannot run at the end.
    pub order: Vec<u8>,
    /// The change of rods that is called.
    pub switching: Option<Switching>,
    /// Fish that were marked, the earliest first.
    pub marks: Vec<(FishMarkId, FishMark)>,
    /// How the instruments are set.
    pub set: BoatSettings,
}

/// How the boat's instruments are set.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct BoatSettings {
    /// Where they are heard, as it was typed; empty for nowhere.
    pub wire: String,
    /// Line that a turn of the reel lets out.
    pub reel: Option<Metres>,
    /// A current that was typed in, m/s to the north and east.
    pub current: Option<[f64; 2]>,
}

impl BoatSettings {
    /// Reads them.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn load(book: &Book<'_>) -> Result<Self, Error> {
        let connection = book.connection();
        let figures = |text: String| -> Option<Vec<f64>> {
            text.split(' ').map(|figure| figure.parse().ok()).collect()
        };
        let reel = settings::get(connection, setting_of::REEL)?.and_then(figures);
        let current = settings::get(connection, setting_of::CURRENT)?.and_then(figures);
        Ok(Self {
            wire: settings::get(connection, setting_of::WIRE)?.unwrap_or_default(),
            reel: reel.and_then(|one| one.first().copied()).map(Metres),
            current: current.and_then(|both| Some([*both.first()?, *both.get(1)?])),
        })
    }
}

/// How a practice trip went, as it was kept.
///
/// # Errors
/// [`Error::Store`].
pub fn practice_score(
    book: &Book<'_>,
    outing: motilis_core::book::OutingId,
) -> Result<Option<String>, Error> {
    let name = format!("{}{}", setting_of::SCORE, outing.0);
    Ok(settings::get(book.connection(), &name)?)
}

impl<'b> Boat<'b> {
    /// Reads it.
    ///
    /// # Errors
    /// [`Error::NoOuting`], [`Error::Store`].
    pub fn load(book: &'b Book<'_>, now: Timestamp) -> Result<Self, Error> {
        let here = book.here()?;
        let rods = Aboard::all(book)?;
        let afloat = afloat(book, &rods)?;
        Ok(Self {
            running: is_running(here, now),
            practice: outings::is_practice(book.connection(), here.id)?,
            order: order(here, &afloat),
            switching: switching(book, &rods)?,
            marks: fish_marks::of_outing(book.connection(), here.id)?,
            set: BoatSettings::load(book)?,
            here,
            rods,
        })
    }
}

/// Whether the open outing goes on: it has not ended, and began within a day.
pub fn is_running(here: &Here, now: Timestamp) -> bool {
    let long = now.duration_since(here.outing.started);
    here.outing.ended.is_none() && long.as_secs() >= -60 && long < LONGEST
}

/// The rods made up, whether they are in or not.
///
/// # Errors
/// [`Error::Store`].
pub fn afloat(book: &Book<'_>, rods: &[Aboard]) -> Result<Vec<Afloat>, Error> {
    let made = |aboard: &Aboard| {
        let towed = match (aboard.boat.rod.tackle, &aboard.rig) {
            (Tackle::Lure(lure), _) => {
                let lures = book.lures()?;
                let found = lures.iter().find(|(known, _)| *known == lure);
                let (_, lure) = found.ok_or_else(|| Error::Missing("such lure".into()))?;
                Towed::Lure(Arc::clone(lure))
            }
            (Tackle::Rig(id), rig) => {
                let rig = match rig {
                    Some(rig) => rig.clone(),
                    None => book.rig(id)?,
                };
                match rig.stands {
                    Ok(rig) => Towed::Rig(rig),
                    Err(why) => Towed::Unfit(Arc::new(Unfit {
                        name: rig.name,
                        why,
                    })),
                }
            }
        };
        let setup = Arc::clone(&aboard.in_use.setup);
        Ok(Afloat {
            number: aboard.boat.number,
            rod: aboard.boat.rod.rod(setup, towed),
        })
    };
    rods.iter().map(made).collect()
}

fn order(here: &Here, rods: &[Afloat]) -> Vec<u8> {
    let spread = Spread {
        speed: here.outing.speed,
        rods: rods.iter().map(|afloat| afloat.rod.clone()).collect(),
    };
    let numbers = || rods.iter().map(|afloat| afloat.number);
    let running = here
        .surroundings()
        .ok()
        .and_then(|surroundings| spread.running(&surroundings, None).ok());
    let Some(running) = running else {
        return numbers().collect();
    };
    let set_out = spread.order(&running).set_out;
    let mut order: Vec<u8> = set_out
        .iter()
        .filter_map(|place| Some(rods.get(*place)?.number))
        .collect();
    order.extend(
        numbers().filter(|number| !set_out.iter().any(|place| rods[*place].number == *number)),
    );
    order
}
