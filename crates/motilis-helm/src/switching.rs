//! "That rod catches all the fish; switch the others": called when the day's own hours say so, and the spread holds.

use crate::aboard::Aboard;
use crate::book::Book;
use crate::error::Error;
use crate::season::{Season, logged_today};
use motilis_core::book::{BoatRod, MadeState, RigId, Tackle};
use motilis_core::evidence::{Angler, Belief, Logged, OnRod, SwitchCall, records, switch};
use motilis_core::spread::{Gravity, Spread, Towed, Unfit};
use motilis_store::{made, settings};
use std::sync::Arc;

/// Where a dismissed call is remembered.
const DISMISSED: &str = "switch_dismissed";

/// A change of rods that the day's fish call for.
#[derive(Debug, Clone)]
pub struct Switching {
    /// What is called.
    pub call: SwitchCall,
    /// What the rig that is ahead is called.
    pub name: String,
    /// A rod that stays as it is, by its number.
    pub keep: Option<u8>,
    /// The rods as they would be.
    pub rods: Vec<BoatRod>,
}

/// A rod with the line of the one that is ahead, in its own holder.
fn changed(boat: &BoatRod, ahead: &BoatRod) -> BoatRod {
    let mut rod = ahead.rod;
    rod.holder = boat.rod.holder;
    rod.stance = boat.rod.stance;
    rod.length = boat.rod.length;
    BoatRod {
        number: boat.number,
        rod,
        main: ahead.main,
        bait: String::new(),
        away: false,
    }
}

/// The change that the open outing calls for; `None` where nothing is likely ahead, where nothing more of it lies made
/// up, where the spread would not hold, or where it was dismissed and no fish came since.
///
/// # Errors
/// [`Error::Store`].
pub fn switching(book: &Book<'_>, rods: &[Aboard]) -> Result<Option<Switching>, Error> {
    let (here, connection) = (book.here()?, book.connection());
    let out: Vec<&Aboard> = rods.iter().filter(|rod| !rod.boat.away).collect();
    let on: Vec<OnRod> = out
        .iter()
        .filter_map(|rod| {
            Some(OnRod {
                rod: rod.boat.number,
                rig: rod.rig_id()?,
            })
        })
        .collect();
    if on.len() < 2 {
        return Ok(None);
    }
    let day = logged_today(book)?;
    let season = Season::load(connection, Some(here.outing.fish))?;
    let angler = Angler::of(season.whole());
    let today = records([&day]);
    let mut beliefs: Vec<(RigId, Belief)> = Vec::new();
    for one in &on {
        if beliefs.iter().all(|(rig, _)| *rig != one.rig) {
            let record = today
                .get(&Tackle::Rig(one.rig))
                .copied()
                .unwrap_or_default();
            beliefs.push((one.rig, angler.believes(record)?));
        }
    }
    let made = made::all(connection)?;
    let spare = |rig: RigId| {
        let lie = made
            .iter()
            .filter(|(_, one)| one.rig == rig && one.state != MadeState::ReTie);
        let carried = on.iter().filter(|one| one.rig == rig).count();
        lie.count().saturating_sub(carried)
    };
    let Some(call) = switch(&on, &beliefs, spare) else {
        return Ok(None);
    };
    let dismissed = settings::get(connection, DISMISSED)?;
    if dismissed.as_deref() == Some(stamp(book, call.rig, &day)?.as_str()) {
        return Ok(None);
    }
    let Some(ahead) = out.iter().find(|rod| rod.rig_id() == Some(call.rig)) else {
        return Ok(None);
    };
    let after: Vec<BoatRod> = out
        .iter()
        .map(|rod| {
            if call.rods.contains(&rod.boat.number) {
                changed(&rod.boat, &ahead.boat)
            } else {
                rod.boat.clone()
            }
        })
        .collect();
    let now: Vec<BoatRod> = out.iter().map(|rod| rod.boat.clone()).collect();
    // What would fail that does not fail now breaks the spread.
    if fails(book, &after)? > fails(book, &now)? {
        return Ok(None);
    }
    let stays =
        |rod: &&&Aboard| !call.rods.contains(&rod.boat.number) && rod.rig_id() != Some(call.rig);
    Ok(Some(Switching {
        name: ahead.name.clone(),
        keep: out.iter().find(stays).map(|rod| rod.boat.number),
        rods: after
            .into_iter()
            .filter(|rod| call.rods.contains(&rod.number))
            .collect(),
        call,
    }))
}

/// What a call was dismissed on: another fish makes it another call.
fn stamp(book: &Book<'_>, rig: RigId, day: &Logged) -> Result<String, Error> {
    let fish = day.entries.iter().filter(|entry| entry.fish).count();
    Ok(format!("{}:{}:{fish}", book.here()?.id.0, rig.0))
}

/// Dismisses a call until the evidence moves by a fish.
pub(crate) fn dismiss(book: &Book<'_>, rig: RigId) -> Result<(), Error> {
    let stamp = stamp(book, rig, &logged_today(book)?)?;
    Ok(settings::set(book.connection(), DISMISSED, &stamp)?)
}

/// Lines of some rods that would not fish together.
pub(crate) fn fails(book: &Book<'_>, boats: &[BoatRod]) -> Result<usize, Error> {
    let here = book.here()?;
    let Ok(surroundings) = here.surroundings() else {
        return Ok(0);
    };
    let mut rods = Vec::new();
    for boat in boats {
        let towed = match boat.rod.tackle {
            Tackle::Rig(rig) => {
                let rig = book.rig(rig)?;
                match rig.stands {
                    Ok(rig) => Towed::Rig(rig),
                    Err(why) => Towed::Unfit(Arc::new(Unfit {
                        name: rig.name,
                        why,
                    })),
                }
            }
            Tackle::Lure(lure) => {
                let lures = book.lures()?;
                let lure = lures.iter().find(|(known, _)| *known == lure);
                let (_, lure) = lure.ok_or_else(|| Error::Missing("such lure".into()))?;
                Towed::Lure(Arc::clone(lure))
            }
        };
        let in_use = book.in_use(boat.setup(), &boat.changes())?;
        rods.push(boat.rod.rod(in_use.setup, towed));
    }
    let spread = Spread {
        speed: here.outing.speed,
        rods,
    };
    let Ok(running) = spread.running(&surroundings, None) else {
        return Ok(0);
    };
    let bad = |place: &usize| {
        let faults = running.faults_of(*place);
        faults.iter().any(|fault| fault.gravity() == Gravity::Fails)
    };
    Ok((0..spread.rods.len()).filter(bad).count())
}
