use crate::rigs::DemoRig;
use crate::waters::Waters;
use jiff::{SignedDuration, Timestamp};
use motilis_core::advice::{self, Candidate, Judge, Mood, Sky, Verdict, Ways, Wind};
use motilis_core::book::{
    BoatRod, Event, EventKind, OnLine, Outing, OutingId, RunningLine, TemperatureReading,
    WaterBody, WaterId,
};
use motilis_core::evidence::{Pass, Ran};
use motilis_core::fish::Fish;
use motilis_core::line::{self, OutFor};
use motilis_core::spread::Tackle;
use motilis_core::units::{Celsius, FOOT, INCH, MILE_PER_HOUR, Metres, MetresPerSecond};
use motilis_store::{Connection, Error, events, outings, passes, readings, rigs as boards, rods};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// When, how fast (mph), how warm (°F), how clear (ft), fish from–to, water and wanted depth (ft).
pub(crate) struct Plan<'a> {
    water: &'a (WaterId, WaterBody),
    started: &'static str,
    mph: f64,
    fahrenheit: f64,
    clarity_ft: f64,
    sky: Sky,
    fish: Fish,
    fish_ft: (f64, f64),
    bottom_ft: f64,
    mood: Mood,
    wanted_ft: f64,
    /// Hours on the water.
    hours: f64,
}

/// A rig of the box with the line that puts it where it is wanted.
pub(crate) type Line<'a> = (&'a DemoRig, Metres);

impl Plan<'_> {
    pub(crate) fn fish(&self) -> Fish {
        self.fish
    }

    pub(crate) fn speed(&self) -> MetresPerSecond {
        self.mph * MILE_PER_HOUR
    }

    pub(crate) fn temperature(&self) -> Celsius {
        Celsius::from_fahrenheit(self.fahrenheit)
    }

    /// Its conditions.
    pub(crate) fn outing(&self) -> Outing {
        outing(self)
    }
}

/// The day a newcomer opens.
const OPEN_DAY: &str = "2026-09-05T11:20:00Z";

/// Six outings from May to September 2026 that are told in full; the last one is left open.
fn plans(waters: &Waters) -> [Plan<'_>; 6] {
    let tamarin = Plan {
        water: &waters.tamarin,
        started: OPEN_DAY,
        mph: 1.2,
        fahrenheit: 58.0,
        clarity_ft: 7.0,
        sky: Sky::Cloud,
        fish: Fish::Walleye,
        fish_ft: (20.0, 25.0),
        bottom_ft: 27.0,
        mood: Mood::Neutral,
        wanted_ft: 22.0,
        hours: 4.0,
    };
    let orrin = |started, fish, wanted_ft| Plan {
        water: &waters.orrin,
        started,
        mph: 2.2,
        fahrenheit: 54.0,
        clarity_ft: 20.0,
        sky: Sky::Broken,
        fish,
        fish_ft: (wanted_ft - 5.0, wanted_ft + 25.0),
        bottom_ft: 140.0,
        mood: Mood::Active,
        wanted_ft,
        hours: 5.0,
    };
    [
        Plan {
            started: "2026-05-16T12:05:00Z",
            fahrenheit: 49.0,
            mph: 0.9,
            mood: Mood::Shy,
            fish_ft: (10.0, 15.0),
            bottom_ft: 16.0,
            wanted_ft: 12.0,
            ..tamarin
        },
        Plan {
            started: "2026-06-04T10:12:00Z",
            fahrenheit: 61.0,
            mph: 1.3,
            mood: Mood::Active,
            fish_ft: (14.0, 19.0),
            bottom_ft: 21.0,
            wanted_ft: 16.0,
            ..tamarin
        },
        Plan {
            started: "2026-06-21T09:40:00Z",
            fahrenheit: 66.0,
            mph: 1.5,
            sky: Sky::Sun,
            fish: Fish::RainbowTrout,
            fish_ft: (15.0, 25.0),
            bottom_ft: 60.0,
            wanted_ft: 18.0,
            ..tamarin
        },
        orrin("2026-07-12T12:30:00Z", Fish::Chinook, 60.0),
        orrin("2026-08-08T12:45:00Z", Fish::Coho, 40.0),
        tamarin,
    ]
}

const NOTES: [&str; 6] = [
    "Bait on the graph just above the fish.",
    "Wind swung to the south, drifting toward the point.",
    "Changed to a fresh crawler.",
    "Two short strikes, trailing hook moved back.",
    "Weed on the bottom along the drop-off.",
    "Ines takes the port rod.",
];

/// Adds the outings with their events and returns the one left open.
pub fn add(
    connection: &Connection,
    waters: &Waters,
    rigs: &[DemoRig],
    seed: u64,
) -> Result<OutingId, Error> {
    let mut random = ChaCha8Rng::seed_from_u64(seed);
    let mut last = OutingId(0);
    let mut days = Vec::new();
    for plan in plans(waters) {
        let outing = outing(&plan);
        let id = outings::add(connection, &outing)?;
        let lines = lines_that_work(&plan, &outing, rigs);
        // On the open day the first rig of the box is on the first rod; on the others the best one was.
        let open = plan.started == OPEN_DAY;
        let mut order: Vec<usize> = (0..lines.len()).collect();
        if open {
            order.sort_by_key(|place| lines[*place].0.id != rigs[0].id);
        }
        let rod_of = |place: usize| order.iter().zip(1..).find(|(one, _)| **one == place);
        for (place, (rig, out)) in lines.iter().enumerate() {
            let rod: u8 = rod_of(place).map_or(1, |(_, rod)| rod);
            let boat = aboard(rod, (rig, *out), outing.wanted_depth);
            rods::put(connection, id, &boat)?;
            // Rods come in at the end; on the open day all but the first are still out.
            let pass = Pass {
                rod: Some(rod),
                tackle: Tackle::Rig(rig.id),
                from: outing.started,
                to: (!open).then(|| later(outing.started, plan.hours * 60.0)),
                ran: Ran {
                    version: Some(boards::version(connection, rig.id)?),
                    setup: Some(rig.setup),
                    out: Some(*out),
                    lead: Some(rig.line.lead),
                    weight: boat.rod.weight,
                    depth: Some(depth(&plan, &outing, rig, outing.speed, *out)),
                    speed: Some(outing.speed),
                    bait: String::new(),
                },
            };
            passes::add(connection, id, &pass)?;
        }
        let rod = |place| rod_of(place).map(|(_, rod)| rod);
        for event in draw_events(id, &plan, &outing, &lines, rod, &mut random) {
            events::add(connection, &event)?;
        }
        for reading in read_at(id, &plan, &outing) {
            readings::add(connection, &reading)?;
        }
        last = id;
        days.push((plan, lines));
    }
    crate::season::add(connection, &days, &mut random)?;
    Ok(last)
}

/// A rod that carries a line.
pub(crate) fn aboard(number: u8, (rig, out): Line<'_>, wanted: Metres) -> BoatRod {
    let line = RunningLine {
        rig: rig.id,
        setup: rig.setup,
        main: rig.line.main,
        weight: rig.line.weight.and_then(|weight| weight.mass()),
        lead: rig.line.lead,
        out,
    };
    BoatRod::carrying(number, &line, wanted)
}

/// Temperatures read along the reservoir: place, minutes after the start, °F over the outing's.
const READ: [(&str, f64, f64); 3] = [
    ("stone point", 12.0, 0.0),
    ("reed bay", 41.0, 4.0),
    ("dam basin", 96.0, -2.0),
];

/// The temperatures read on an outing: in the reservoir's cool water, along its shore.
fn read_at(id: OutingId, plan: &Plan<'_>, outing: &Outing) -> Vec<TemperatureReading> {
    if plan.water.1.salt || plan.fahrenheit > 60.0 {
        return Vec::new();
    }
    READ.map(|(place, minutes, over)| TemperatureReading {
        outing: id,
        place: place.to_owned(),
        at: later(outing.started, minutes),
        depth: 2.0 * FOOT,
        temperature: Celsius::from_fahrenheit(plan.fahrenheit + over),
    })
    .into()
}

fn outing(plan: &Plan<'_>) -> Outing {
    let started = plan
        .started
        .parse()
        .expect("the plans' times are written as RFC 3339");
    Outing {
        water: plan.water.0,
        started,
        ended: (plan.started != OPEN_DAY).then(|| later(started, plan.hours * 60.0)),
        speed: plan.mph * MILE_PER_HOUR,
        temperature: Celsius::from_fahrenheit(plan.fahrenheit),
        clarity: plan.clarity_ft * FOOT,
        stain: plan.water.1.stain,
        sky: plan.sky,
        wind: Wind::Ripple,
        fish: plan.fish,
        fish_depth: (plan.fish_ft.0 * FOOT, plan.fish_ft.1 * FOOT),
        bottom: plan.bottom_ft * FOOT,
        thermocline: None,
        mood: plan.mood,
        forage: plan.water.1.forage[0],
        nibblers: false,
        crowd: None,
        wanted_depth: plan.wanted_ft * FOOT,
    }
}

/// The rigs that work that day, best first, with what to let out.
fn lines_that_work<'a>(plan: &Plan<'_>, outing: &Outing, rigs: &'a [DemoRig]) -> Vec<Line<'a>> {
    let candidates: Vec<_> = rigs
        .iter()
        .map(|rig| Candidate::made_up(rig.rig.clone(), rig.line.clone()))
        .collect();
    let day = outing.day(&plan.water.1).expect(SOUND);
    let ways = Ways::usual(plan.fish);
    let judge = Judge::new(&day, &ways).expect(SOUND);
    let mut calls: Vec<_> = rigs
        .iter()
        .zip(judge.all(&candidates).expect(SOUND))
        .filter_map(|(rig, call)| match (&call.out, call.verdict) {
            (Some(OutFor::Out(run)), Verdict::Works) => Some((rig, run.out, call)),
            _ => None,
        })
        .collect();
    calls.sort_by(|a, b| advice::before((&a.2, &a.0.rig.name), (&b.2, &b.0.rig.name)));
    calls
        .into_iter()
        .map(|(rig, out, _)| (rig, out))
        .take(4)
        .collect()
}

/// The plans' conditions lie inside every range; the scenario's test judges them.
const SOUND: &str = "the scenario's conditions and rigs can be";

fn draw_events(
    id: OutingId,
    plan: &Plan<'_>,
    outing: &Outing,
    lines: &[Line<'_>],
    rod: impl Fn(usize) -> Option<u8>,
    random: &mut ChaCha8Rng,
) -> Vec<Event> {
    let mut minutes = 0.0;
    let mut drawn = Vec::new();
    loop {
        minutes += random.random_range(6.0..34.0);
        if minutes > plan.hours * 60.0 || lines.is_empty() {
            return drawn;
        }
        // The first line of the sheet catches more, as it should.
        let place = random
            .random_range(0..lines.len())
            .min(random.random_range(0..lines.len()));
        let (rig, out) = lines[place];
        let speed = outing.speed * random.random_range(0.94..1.06);
        let kind = match random.random_range(0..100) {
            0..45 => EventKind::Fish,
            45..75 => EventKind::Strike,
            75..84 => EventKind::Follow,
            84..93 if rig.line.weight.is_some() => EventKind::BottomTouch,
            _ => EventKind::Note,
        };
        let line = (kind != EventKind::Note).then(|| OnLine {
            tackle: Tackle::Rig(rig.id),
            out,
            depth: Some(if kind == EventKind::BottomTouch {
                outing.bottom
            } else {
                depth(plan, outing, rig, speed, out)
            }),
        });
        let fish = kind == EventKind::Fish;
        let note = if kind == EventKind::Note {
            NOTES[random.random_range(0..NOTES.len())].to_owned()
        } else {
            String::new()
        };
        let at = later(outing.started, minutes);
        drawn.push(Event {
            rod: line.and(rod(place)),
            line,
            length: fish.then(|| length(plan.fish, random)),
            kept: fish.then(|| random.random_bool(0.4)),
            note,
            ..Event::new(id, kind, at, speed)
        });
    }
}

pub(crate) fn later(start: Timestamp, minutes: f64) -> Timestamp {
    start + SignedDuration::from_secs((minutes * 60.0) as i64)
}

/// Where the rig ran, as the core computes it; the wanted depth where it cannot.
pub(crate) fn depth(
    plan: &Plan<'_>,
    outing: &Outing,
    rig: &DemoRig,
    speed: MetresPerSecond,
    out: Metres,
) -> Metres {
    let computed = outing
        .day(&plan.water.1)
        .and_then(|day| day.surroundings())
        .and_then(|water| line::Line::new(&rig.rig, &rig.line, water)?.run(speed, out));
    computed.map_or(outing.wanted_depth, |run| run.rig.depth)
}

/// A length to the quarter inch, drawn around what the species runs to.
pub(crate) fn length(fish: Fish, random: &mut ChaCha8Rng) -> Metres {
    let (small, large): (f64, f64) = match fish {
        Fish::Chinook => (22.0, 38.0),
        Fish::Coho => (18.0, 29.0),
        Fish::RainbowTrout => (11.0, 20.0),
        _ => (13.0, 26.0),
    };
    let inches = small + (large - small) * random.random_range(0.0..1.0_f64).powf(1.6);
    (inches * 4.0).round() / 4.0 * INCH
}
