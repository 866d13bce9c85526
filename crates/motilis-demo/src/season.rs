//! The rest of the season: outings between those that are told in full, with every rod's passes and what bit.
//!
//! The truth behind them is known: of four rigs the first catches twice what the others do, and the first two hours
//! after the start are the best. Whoever compares the raw rates of a rig that was fished early is misled by it.

use crate::outings::{Line, Plan, aboard, depth, later, length};
use jiff::{SignedDuration, Timestamp};
use motilis_core::book::{
    BaitAfter, Caught, Event, EventKind, Landing, OnLine, Outing, OutingId, Strike, Touched,
};
use motilis_core::evidence::{Pass, Ran};
use motilis_core::spread::Tackle;
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use motilis_store::{Connection, Error, events, outings, passes, rigs, rods};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// Outings beside those that are told in full.
const MORE: i64 = 54;
/// The first of them, at the hour the crew puts out; after it seven days hold three.
const FIRST: &str = "2026-05-02T10:30:00Z";
const DAYS: (i64, i64) = (7, 3);
/// Rods the crew fishes.
const RODS: u8 = 4;
/// Fish per rod-hour of the lines of a sheet, the best first, and strikes to a fish.
const RATES: [f64; 4] = [0.34, 0.17, 0.13, 0.1];
const STRIKES: f64 = 1.5;
/// How much better the first two hours are than those after.
const EARLY: f64 = 2.0;
const LATE: f64 = 0.7;
/// Minutes a line stays out before it is changed, and a fish keeps it in.
const CHANGED: std::ops::Range<f64> = 50.0..130.0;
const FOUGHT: f64 = 6.0;

/// Adds them: each a day much like one that is told in full, its lines on four rods.
pub(crate) fn add(
    connection: &Connection,
    days: &[(Plan<'_>, Vec<Line<'_>>)],
    random: &mut ChaCha8Rng,
) -> Result<(), Error> {
    let first: Timestamp = FIRST.parse().expect("it is written as RFC 3339");
    let like: Vec<_> = days.iter().filter(|(_, lines)| !lines.is_empty()).collect();
    // Of its own, so that what is tried changes nothing of what bites.
    let mut plays = ChaCha8Rng::seed_from_u64(random.get_seed()[0].into());
    for number in 0..MORE {
        let (plan, lines) = like[random.random_range(0..like.len())];
        let started = later(
            first + SignedDuration::from_hours(24 * (number * DAYS.0 / DAYS.1)),
            random.random_range(0.0..240.0),
        );
        let hours = random.random_range(2.5..6.0);
        let outing = Outing {
            started,
            ended: Some(later(started, hours * 60.0)),
            speed: plan.speed() * random.random_range(0.95..1.05),
            temperature: Celsius(plan.temperature().0 + random.random_range(-2.0..2.0)),
            ..plan.outing()
        };
        let id = outings::add(connection, &outing)?;
        let mut drawn = Vec::new();
        for rod in 1..=RODS {
            let carried = lines[usize::from(rod - 1) % lines.len()];
            rods::put(connection, id, &aboard(rod, carried, outing.wanted_depth))?;
            fish_a_rod(
                connection,
                (id, &outing),
                (plan, lines),
                rod,
                hours,
                &mut drawn,
                random,
            )?;
        }
        try_plays(&mut drawn, &mut plays);
        drawn.sort_by_key(|event| event.at);
        for event in drawn {
            events::add(connection, &event)?;
        }
    }
    Ok(())
}

/// A rod through a day: lines out and in, what bit meanwhile.
fn fish_a_rod(
    connection: &Connection,
    (id, outing): (OutingId, &Outing),
    (plan, lines): (&Plan<'_>, &[Line<'_>]),
    rod: u8,
    hours: f64,
    drawn: &mut Vec<Event>,
    random: &mut ChaCha8Rng,
) -> Result<(), Error> {
    let end = hours * 60.0;
    let mut minutes = f64::from(rod) * 4.0;
    let mut place = usize::from(rod - 1) % lines.len();
    while minutes < end - 5.0 {
        let (rig, out) = lines[place];
        let ran_at = depth(plan, outing, rig, outing.speed, out);
        let until = (minutes + random.random_range(CHANGED)).min(end);
        // The best line is put out early more often than late: the hour misleads whoever does not look at it.
        let early = if minutes < 120.0 { EARLY } else { LATE };
        let rate = RATES[place.min(RATES.len() - 1)] * early;
        let waits =
            |rate: f64, random: &mut ChaCha8Rng| -(1.0 - random.random::<f64>()).ln() / rate * 60.0;
        let bites = minutes + waits(rate, random);
        let mut struck = minutes;
        loop {
            struck += waits(rate * STRIKES, random);
            if struck >= until.min(bites) {
                break;
            }
            let kind = match random.random_range(0..10) {
                0..8 => EventKind::Strike,
                8 => EventKind::Follow,
                _ => EventKind::BottomTouch,
            };
            let on = on_line(
                rig.id,
                out,
                if kind == EventKind::BottomTouch {
                    outing.bottom
                } else {
                    ran_at
                },
            );
            let caught = if kind == EventKind::Strike {
                strike(random)
            } else {
                Caught::default()
            };
            drawn.push(Event {
                rod: Some(rod),
                line: Some(on),
                caught,
                ..Event::new(id, kind, later(outing.started, struck), outing.speed)
            });
        }
        let to = until.min(bites);
        let pass = Pass {
            rod: Some(rod),
            tackle: Tackle::Rig(rig.id),
            from: later(outing.started, minutes),
            to: Some(later(outing.started, to)),
            ran: Ran {
                version: Some(rigs::version(connection, rig.id)?),
                setup: Some(rig.setup),
                out: Some(out),
                lead: Some(rig.line.lead),
                weight: rig.line.weight.and_then(|weight| weight.mass()),
                depth: Some(ran_at),
                speed: Some(outing.speed),
                bait: String::new(),
            },
        };
        passes::add(connection, id, &pass)?;
        if bites < until {
            drawn.push(a_fish(
                id,
                (plan, outing),
                on_line(rig.id, out, ran_at),
                (rod, bites),
                random,
            ));
            minutes = to + FOUGHT;
        } else {
            minutes = to + 3.0;
            place = random
                .random_range(0..lines.len())
                .min(random.random_range(0..lines.len()));
        }
    }
    Ok(())
}

/// Share of touches after which the crew tries something.
const TRIED: f64 = 0.5;

/// After some of what touched and did not hold, one of what practice has for it, a minute later.
fn try_plays(drawn: &mut Vec<Event>, random: &mut ChaCha8Rng) {
    let mut tried = Vec::new();
    for event in drawn.iter() {
        let caught = &event.caught;
        let touched = Touched::of(event.kind, caught.strike, caught.bait_after);
        let Some(touched) = touched.filter(|_| random.random_bool(TRIED)) else {
            continue;
        };
        let plays = touched.plays();
        tried.push(Event {
            rod: event.rod,
            line: event.line,
            play: Some(plays[random.random_range(0..plays.len())]),
            ..Event::new(
                event.outing,
                EventKind::Change,
                later(event.at, 1.0),
                event.speed,
            )
        });
    }
    drawn.extend(tried);
}

fn on_line(rig: motilis_core::book::RigId, out: Metres, depth: Metres) -> OnLine {
    OnLine {
        tackle: Tackle::Rig(rig),
        out,
        depth: Some(depth),
    }
}

fn strike(random: &mut ChaCha8Rng) -> Caught {
    let felt = [Strike::Light, Strike::Hard, Strike::Short, Strike::Short];
    let after = [BaitAfter::Whole, BaitAfter::TailGone, BaitAfter::Stripped];
    Caught {
        strike: Some(felt[random.random_range(0..felt.len())]),
        bait_after: Some(after[random.random_range(0..after.len())]),
        ..Caught::default()
    }
}

fn a_fish(
    id: OutingId,
    (plan, outing): (&Plan<'_>, &Outing),
    line: OnLine,
    (rod, minutes): (u8, f64),
    random: &mut ChaCha8Rng,
) -> Event {
    let landing = match random.random_range(0..10) {
        0 => Landing::BrokeOff,
        1 | 2 => Landing::Lost,
        _ => Landing::Landed,
    };
    let landed = landing == Landing::Landed;
    let speed: MetresPerSecond = outing.speed;
    Event {
        rod: Some(rod),
        line: Some(line),
        length: landed.then(|| length(plan.fish(), random)),
        kept: landed.then(|| random.random_bool(0.4)),
        caught: Caught {
            species: Some(plan.fish()),
            landing: Some(landing),
            ..Caught::default()
        },
        ..Event::new(id, EventKind::Fish, later(outing.started, minutes), speed)
    }
}
