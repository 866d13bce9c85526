use super::{Doing, Made};
use crate::error::{Error, Refusal};
use crate::river::{keep_gear, setting_of};
use motilis_core::book::{Event, EventKind, OnLine, RiverCast, Tackle};
use motilis_core::evidence::{Pass, Ran};
use motilis_core::river::{Gear, Order, School};
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_store::{casts, events, passes, rigs, runs, settings};

/// A change of what is cast in a river.
#[derive(Debug, Clone, PartialEq)]
pub enum CastAct {
    /// A cast was made; with what bit on it, and how deep and how fast the lure ran there.
    Made(Box<RiverCast>, Option<Bite>),
    /// Rod, reel and line.
    Gear(Box<Gear>),
    /// From which side and in which order a hold is fished.
    Ways(School, Order),
}

/// What bit on a cast.
#[derive(Debug, Clone, PartialEq)]
pub struct Bite {
    /// A strike, a fish, a follow.
    pub kind: EventKind,
    /// How deep the lure ran.
    pub depth: Option<Metres>,
    /// How fast the water met it.
    pub speed: Option<MetresPerSecond>,
    /// Run, cast and lie, in words.
    pub note: String,
}

impl CastAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        match self {
            Self::Made(cast, bite) => made(doing, *cast, bite),
            Self::Gear(gear) => {
                gear.check().map_err(Refusal::Figure)?;
                keep_gear(connection, &gear)?;
                Ok(None)
            }
            Self::Ways(school, order) => {
                settings::set(connection, setting_of::SCHOOL, school.key())?;
                settings::set(connection, setting_of::ORDER, order.key())?;
                Ok(None)
            }
        }
    }
}

fn made(doing: &Doing<'_, '_>, cast: RiverCast, bite: Option<Bite>) -> Made {
    let (connection, here) = (doing.book.connection(), doing.book.here()?);
    let run = runs::get(connection, cast.run)?;
    if run.water != here.outing.water {
        return Err(Refusal::OtherRun.into());
    }
    let cast = RiverCast {
        outing: here.id,
        at: doing.at,
        ..cast
    };
    cast.check().map_err(Refusal::Figure)?;
    if let Some(rig) = cast.rig {
        fishes(doing, &cast, Tackle::Rig(rig), bite.as_ref())?;
    }
    let event = bite.map(|bite| -> Result<_, Error> {
        let line = cast.rig.map(|rig| OnLine {
            tackle: Tackle::Rig(rig),
            out: cast.plan.thrown.distance,
            depth: bite.depth,
        });
        let event = Event {
            entered: doing.now,
            rod: Some(cast.rod),
            line,
            note: bite.note,
            ..Event::new(
                here.id,
                bite.kind,
                doing.at,
                bite.speed.unwrap_or(here.outing.speed),
            )
        };
        event.check().map_err(Refusal::Figure)?;
        Ok(events::add(connection, &event)?)
    });
    let event = event.transpose()?;
    let id = casts::add(connection, &RiverCast { event, ..cast })?;
    Ok(Some(id.0))
}

/// A cast rod is in the water from its first cast on: a pass of its own for each rig, until another goes on.
fn fishes(
    doing: &Doing<'_, '_>,
    cast: &RiverCast,
    tackle: Tackle,
    bite: Option<&Bite>,
) -> Result<(), Error> {
    let (connection, here) = (doing.book.connection(), doing.book.here()?);
    let open = passes::of_outing(connection, here.id)?;
    let open = open
        .into_iter()
        .filter(|(_, pass)| pass.is_open() && pass.rod == Some(cast.rod));
    let mut goes_on = false;
    for (id, pass) in open {
        if pass.tackle == tackle {
            goes_on = true;
        } else {
            let to = Some(doing.at.max(pass.from));
            passes::set_hours(connection, id, pass.from, to)?;
        }
    }
    if goes_on {
        return Ok(());
    }
    let version = cast
        .rig
        .map(|rig| rigs::version(connection, rig))
        .transpose()?;
    let pass = Pass {
        rod: Some(cast.rod),
        tackle,
        from: doing.at,
        to: None,
        ran: Ran {
            version,
            out: Some(cast.plan.thrown.distance),
            depth: bite.and_then(|bite| bite.depth),
            ..Ran::default()
        },
    };
    passes::add(connection, here.id, &pass)?;
    Ok(())
}
