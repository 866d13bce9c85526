use super::{Doing, Made};
use crate::aboard::Aboard;
use crate::book::Book;
use crate::error::{Error, Refusal};
use crate::log_import::LogImport;
use crate::switching::dismiss;
use crate::track::{back_fill, filled, outing_of};
use jiff::Timestamp;
use motilis_core::book::{
    BoatRod, BottomTouch, Caught, Event, EventId, EventKind, Given, OnLine, Outing, OutingId,
    PassId, PlannedSpread, Play, RigId, RunningLine, SpreadId,
};
use motilis_core::evidence::Pass;
use motilis_core::fields;
use motilis_core::track::Track;
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_store::photographs::Photograph;
use motilis_store::{events, observed, outings, passes, photographs, rods, spreads, tracks};

/// A change of the log.
#[derive(Debug, Clone, PartialEq)]
pub enum LogAct {
    /// Something just happened on a rod; `None` is the only one, or the first that fishes.
    Tap {
        /// What.
        kind: EventKind,
        /// On which rod.
        rod: Option<u8>,
        /// A remark.
        note: String,
        /// What else there is to say of it.
        caught: Box<Caught>,
        /// What was tried, of a change that is one of the playbook.
        play: Option<Play>,
    },
    /// An entry as it really was.
    Correct(EventId, Box<Event>),
    /// This line is on a rod from now on, and fishes, at this speed; `None` is the rod that carries its rig, or the first.
    Run(RunningLine, MetresPerSecond, Option<u8>),
    /// The rods of a spread, instead of those there are; they are aboard until they are set out.
    Rods(SpreadId),
    /// A rod goes into the water; `None` is every rod that is not put away.
    SetOut(Option<u8>),
    /// A rod comes out of it; `None` is every rod.
    TakeIn(Option<u8>),
    /// A rod has so much line out from now on.
    Out(u8, Metres),
    /// A rod is put away for the day, or taken back.
    Away(u8, bool),
    /// Rods take over the line of the rig that is ahead; they are aboard until they are set out with it.
    Switch(RigId, Vec<BoatRod>),
    /// The call to do so is dismissed until another fish comes.
    Dismiss(RigId),
    /// A photograph of a fish; `None` takes it away.
    Photo(EventId, Option<Box<Photograph>>),
    /// A track comes in: to an outing, or to the one it shares most hours with, whose entries it tells where they were.
    Track(Box<Track>, Option<OutingId>),
    /// The records of a file come in.
    Import(Box<LogImport>),
    /// When a pass really began and ended.
    Hours(PassId, Timestamp, Option<Timestamp>),
}

impl LogAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        match self {
            Self::Tap {
                kind,
                rod,
                note,
                caught,
                play,
            } => tap(doing, kind, rod, note, (*caught, play)),
            Self::Correct(id, event) => {
                event.check().map_err(Refusal::Figure)?;
                let track = tracks::of_outing(connection, event.outing)?;
                let track = track.as_ref().map(|(_, track)| track);
                events::update(connection, id, &filled(*event, track))?;
                Ok(Some(id.0))
            }
            Self::Run(line, speed, rod) => run(doing, &line, speed, rod),
            Self::Rods(spread) => {
                let plan = spreads::get(connection, spread)?.plan;
                put_rods(doing, &plan)?;
                Ok(Some(spread.0))
            }
            Self::SetOut(rod) => {
                for aboard in chosen(doing, rod)? {
                    set_out(doing, aboard)?;
                }
                Ok(rod.map(i64::from))
            }
            Self::TakeIn(rod) => {
                for aboard in chosen(doing, rod)? {
                    take_in(doing, &aboard)?;
                }
                Ok(rod.map(i64::from))
            }
            Self::Out(rod, out) => {
                let [before] = one(doing, rod)?;
                fields::OUT.check(out.0).map_err(Refusal::Figure)?;
                let mut boat = before.boat.clone();
                boat.rod.out = out;
                change(doing, &before, boat)?;
                Ok(Some(i64::from(rod)))
            }
            Self::Away(rod, away) => {
                let [aboard] = one(doing, rod)?;
                take_in(doing, &aboard)?;
                let here = doing.book.here()?;
                let boat = BoatRod {
                    away,
                    ..aboard.boat
                };
                rods::put(connection, here.id, &boat)?;
                Ok(Some(i64::from(rod)))
            }
            Self::Switch(rig, rods) => {
                for boat in rods {
                    let [before] = one(doing, boat.number)?;
                    take_in(doing, &before)?;
                    let here = doing.book.here()?;
                    rods::put(connection, here.id, &boat)?;
                    let changed = Event {
                        entered: doing.now,
                        rod: Some(boat.number),
                        note: format!("from {}", before.name),
                        line: Some(Aboard::of(doing.book, boat, None)?.on_line()),
                        ..Event::new(here.id, EventKind::Change, doing.at, here.outing.speed)
                    };
                    events::add(connection, &changed)?;
                }
                Ok(Some(rig.0))
            }
            Self::Dismiss(rig) => {
                dismiss(doing.book, rig)?;
                Ok(Some(rig.0))
            }
            Self::Photo(id, photo) => {
                events::get(connection, id)?;
                match photo {
                    Some(photo) => photographs::put(connection, id, &photo)?,
                    None => drop(photographs::remove(connection, id)?),
                }
                Ok(Some(id.0))
            }
            Self::Track(track, outing) => {
                let outing = outing.map_or_else(|| outing_of(connection, &track), Ok)?;
                let id = tracks::add(connection, outing, &track)?;
                back_fill(connection, outing)?;
                Ok(Some(id.0))
            }
            Self::Import(import) => Ok(i64::try_from(import.carry_out(connection)?).ok()),
            Self::Hours(id, from, to) => {
                passes::get(connection, id)?;
                if to.is_some_and(|to| to < from) {
                    return Err(Refusal::EndsFirst.into());
                }
                passes::set_hours(connection, id, from, to)?;
                Ok(Some(id.0))
            }
        }
    }
}

/// One rod, by its number.
fn one(doing: &Doing<'_, '_>, rod: u8) -> Result<[Aboard; 1], Error> {
    let all = Aboard::all(doing.book)?.into_iter();
    let mut found = all.filter(|aboard| aboard.boat.number == rod);
    Ok([found.next().ok_or(Refusal::NoRod(rod))?])
}

/// A rod, or all that are not put away.
fn chosen(doing: &Doing<'_, '_>, rod: Option<u8>) -> Result<Vec<Aboard>, Error> {
    if let Some(rod) = rod {
        return Ok(one(doing, rod)?.into());
    }
    let all = Aboard::all(doing.book)?.into_iter();
    Ok(all.filter(|aboard| !aboard.boat.away).collect())
}

/// Opens a pass for a rod that has none.
pub(super) fn set_out(doing: &Doing<'_, '_>, mut aboard: Aboard) -> Result<(), Error> {
    if aboard.fishes() {
        return Ok(());
    }
    let (connection, here) = (doing.book.connection(), doing.book.here()?);
    if aboard.boat.away {
        aboard.boat.away = false;
        rods::put(connection, here.id, &aboard.boat)?;
    }
    let pass = Pass {
        rod: Some(aboard.boat.number),
        tackle: aboard.boat.rod.tackle,
        from: doing.at,
        to: None,
        ran: aboard.ran(doing.book)?,
    };
    passes::add(connection, here.id, &pass)?;
    Ok(())
}

/// Closes the pass of a rod that fishes.
pub(super) fn take_in(doing: &Doing<'_, '_>, aboard: &Aboard) -> Result<(), Error> {
    if let Some((id, pass)) = &aboard.open {
        let to = doing.at.max(pass.from);
        passes::set_hours(doing.book.connection(), *id, pass.from, Some(to))?;
    }
    Ok(())
}

/// Something just happened. On a line that cannot be computed it happened all the same: its depth is then not known.
fn tap(
    doing: &Doing<'_, '_>,
    kind: EventKind,
    rod: Option<u8>,
    note: String,
    (caught, play): (Caught, Option<Play>),
) -> Made {
    let here = doing.book.here()?;
    let aboard = match (kind, rod) {
        (EventKind::Note, None) => None,
        (_, Some(rod)) => {
            let [aboard] = one(doing, rod)?;
            Some(aboard)
        }
        (_, None) => {
            let mut all = chosen(doing, None)?;
            all.sort_by_key(|aboard| !aboard.fishes());
            Some(all.into_iter().next().ok_or(Refusal::NoLine)?)
        }
    };
    let event = witnessed(
        doing.book,
        Event {
            entered: doing.now,
            rod: aboard.as_ref().map(|aboard| aboard.boat.number),
            line: aboard.as_ref().map(Aboard::on_line),
            caught,
            play,
            note,
            ..Event::new(here.id, kind, doing.at, here.outing.speed)
        },
    );
    event.check().map_err(Refusal::Figure)?;
    let id = events::add(doing.book.connection(), &event)?;
    if let Some(aboard) = aboard {
        match kind {
            EventKind::BottomTouch => touched(doing, &aboard)?,
            // It comes in with the fish, or to be cleared.
            EventKind::Fish | EventKind::Tangle => take_in(doing, &aboard)?,
            EventKind::FreshBait => {
                let boat = BoatRod {
                    bait: event.note.clone(),
                    ..aboard.boat.clone()
                };
                change(doing, &aboard, boat)?;
            }
            _ => {}
        }
    }
    Ok(Some(id.0))
}

/// What the boat's instruments knew when something happened.
fn witnessed(book: &Book<'_>, event: Event) -> Event {
    let Some(moment) = book.moment() else {
        return event;
    };
    let then = event.rod.and_then(|rod| moment.rod(rod));
    // What an instrument said and no record takes is left out: a tap is not lost for it.
    let taken = |field: fields::Field, figure: f64| field.check(figure).is_ok();
    let through = moment.through.map(|through| through.speed);
    let ground = moment
        .ground
        .filter(|(speed, _)| taken(fields::GROUND, speed.0));
    Event {
        speed: through
            .filter(|speed| taken(fields::SPEED, speed.0))
            .unwrap_or(event.speed),
        line: event.line.map(|line| OnLine {
            depth: then
                .map(|then| then.depth)
                .filter(|depth| taken(fields::DEPTH, depth.0))
                .or(line.depth),
            ..line
        }),
        given: Given::Live,
        place: moment
            .position
            .map(|[latitude, longitude]| (latitude, longitude)),
        ground: ground.map(|(speed, _)| speed),
        course_deg: ground
            .and_then(|(_, course)| course)
            .filter(|course| taken(fields::COURSE, *course)),
        temperature: moment
            .temperature
            .filter(|degrees| taken(fields::TEMPERATURE, degrees.0)),
        bottom: moment
            .bottom
            .filter(|bottom| taken(fields::BOTTOM, bottom.0)),
        ..event
    }
}

/// A bottom touch over a bottom that was sounded, at a speed that an instrument said, teaches the line its dive curve.
fn touched(doing: &Doing<'_, '_>, aboard: &Aboard) -> Result<(), Error> {
    let Some(moment) = doing.book.moment() else {
        return Ok(());
    };
    let bottom = moment
        .rod(aboard.boat.number)
        .and_then(|rod| rod.bottom)
        .filter(|bottom| fields::BOTTOM.check(bottom.0).is_ok());
    let through = moment
        .through
        .filter(|through| fields::TOWED.check(through.speed.0).is_ok());
    let (Some(bottom), Some(through), Some(rig)) = (bottom, through, aboard.rig_id()) else {
        return Ok(());
    };
    let (setup, rod) = (&aboard.in_use.setup, &aboard.boat.rod);
    let touch = BottomTouch {
        rig,
        setup: rod.setup,
        main: setup.main,
        weight: setup.weight.and_then(|weight| weight.mass()),
        lead: setup.lead,
        out: rod.out,
        bottom,
        speed: through.speed,
        touched: true,
        at: doing.at,
    };
    observed::add_touch(doing.book.connection(), &touch)?;
    Ok(())
}

/// Puts a rod in place of another; what fishes goes on fishing, on a pass of its own where it is another line.
fn change(doing: &Doing<'_, '_>, before: &Aboard, boat: BoatRod) -> Result<(), Error> {
    let here = doing.book.here()?;
    rods::put(doing.book.connection(), here.id, &boat)?;
    if before.fishes() && boat.is_another_pass_than(&before.boat) {
        take_in(doing, before)?;
        set_out(doing, Aboard::of(doing.book, boat, None)?)?;
    }
    Ok(())
}

fn run(doing: &Doing<'_, '_>, line: &RunningLine, speed: MetresPerSecond, rod: Option<u8>) -> Made {
    let (connection, here) = (doing.book.connection(), doing.book.here()?);
    let outing = Outing {
        speed,
        ..here.outing.clone()
    };
    outings::update(connection, here.id, &outing)?;
    let all = Aboard::all(doing.book)?;
    let carries = |aboard: &&Aboard| aboard.rig_id() == Some(line.rig);
    let idle = |aboard: &&Aboard| !aboard.fishes();
    let number = rod
        .or_else(|| all.iter().find(carries).map(|aboard| aboard.boat.number))
        .or_else(|| all.iter().find(idle).map(|aboard| aboard.boat.number))
        .unwrap_or(1);
    let before = all.iter().find(|aboard| aboard.boat.number == number);
    let boat = before.map_or_else(
        || BoatRod::carrying(number, line, here.outing.wanted_depth),
        |before| before.boat.with_line(line),
    );
    match before {
        Some(before) if before.fishes() => change(doing, before, boat)?,
        _ => {
            rods::put(connection, here.id, &boat)?;
            set_out(doing, Aboard::of(doing.book, boat, None)?)?;
        }
    }
    Ok(Some(i64::from(number)))
}

/// The rods of a plan, instead of those there are.
fn put_rods(doing: &Doing<'_, '_>, plan: &PlannedSpread) -> Result<(), Error> {
    let (connection, here) = (doing.book.connection(), doing.book.here()?);
    for aboard in Aboard::all(doing.book)? {
        take_in(doing, &aboard)?;
    }
    rods::clear(connection, here.id)?;
    for (number, rod) in (1..).zip(&plan.rods) {
        let boat = BoatRod {
            number,
            rod: *rod,
            main: None,
            bait: String::new(),
            away: false,
        };
        rods::put(connection, here.id, &boat)?;
    }
    Ok(())
}
