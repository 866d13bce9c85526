//! Three runs on Cassel River and two days cast through them: where the lure goes is computed, what bites is drawn.

use crate::waters::Waters;
use jiff::{SignedDuration, Timestamp};
use motilis_core::advice::{Mood, Sky, Wind};
use motilis_core::book::{
    Event, EventKind, Landing, Measured, OnLine, Outing, OutingId, RigId, RiverCast, RunId,
};
use motilis_core::evidence::{Pass, Ran};
use motilis_core::fish::Fish;
use motilis_core::rig::Rig;
use motilis_core::river::{
    Angler, Bank, Bed, Fished, Gear, Held, Mark, MarkKind, Moment, Plan, Presentation, Run, Scene,
    School, Station, Thrown, stands,
};
use motilis_core::spread::Tackle;
use motilis_core::units::{Celsius, FOOT, INCH, Metres, MetresPerSecond};
use motilis_core::water::Water;
use motilis_store::{Connection, Error, casts, events, outings, passes, rigs, runs};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// The runs are sound: a mistake in this crate, found by its test.
const SOUND: &str = "the scenario's runs can be cast into";

/// Seconds from one cast to the next.
const EVERY: i64 = 48;
/// A strike, and a fish, on one cast of a hundred.
const STRIKES: f64 = 2.2;
const FISH: f64 = 1.3;

/// Offset (ft), depth (ft), surface (mph).
type Rows = &'static [(f64, f64, f64)];
/// What, down from the head (ft), out from the bank (ft).
type Marks = &'static [(MarkKind, f64, f64)];

/// A run by its figures in the trade's units.
struct Plot {
    name: &'static str,
    bank: Bank,
    length: f64,
    wade: f64,
    bed: Bed,
    rows: Rows,
    marks: Marks,
    /// What the crew casts there.
    rig: &'static str,
}

const PLOTS: [Plot; 3] = [
    Plot {
        name: "Boulder run",
        bank: Bank::Right,
        length: 130.0,
        wade: 7.0,
        bed: Bed::Boulders,
        rows: &[
            (0.0, 1.0, 0.7),
            (15.0, 3.6, 1.8),
            (32.0, 6.0, 2.9),
            (48.0, 5.0, 2.3),
            (66.0, 1.6, 1.0),
        ],
        marks: &[
            (MarkKind::Boulder, 44.0, 30.0),
            (MarkKind::Seam, 70.0, 22.0),
            (MarkKind::Boulder, 92.0, 40.0),
            (MarkKind::Tail, 122.0, 30.0),
        ],
        rig: "Cassel torpedo",
    },
    Plot {
        name: "Alder riffle",
        bank: Bank::Left,
        length: 80.0,
        wade: 10.0,
        bed: Bed::Cobble,
        rows: &[
            (0.0, 0.7, 1.2),
            (18.0, 2.6, 3.4),
            (36.0, 3.8, 4.3),
            (52.0, 1.4, 2.4),
        ],
        marks: &[(MarkKind::Ledge, 30.0, 34.0), (MarkKind::Seam, 52.0, 20.0)],
        rig: "Cassel bell",
    },
    Plot {
        name: "Lower tail-out",
        bank: Bank::Right,
        length: 110.0,
        wade: 12.0,
        bed: Bed::Gravel,
        rows: &[
            (0.0, 0.8, 0.5),
            (24.0, 2.4, 1.3),
            (46.0, 3.4, 1.8),
            (70.0, 1.2, 0.9),
        ],
        marks: &[
            (MarkKind::Tail, 98.0, 40.0),
            (MarkKind::Spawning, 104.0, 14.0),
        ],
        rig: "Small torpedo",
    },
];

impl Plot {
    fn run(&self, waters: &Waters) -> Run {
        let mph = |speed: f64| speed * motilis_core::units::MILE_PER_HOUR;
        Run {
            water: waters.cassel,
            name: self.name.into(),
            bank: self.bank,
            length: self.length * FOOT,
            wade: self.wade * FOOT,
            bed: self.bed,
            growth: Metres(0.0),
            stations: self
                .rows
                .iter()
                .map(|(offset, depth, surface)| Station {
                    offset: *offset * FOOT,
                    depth: *depth * FOOT,
                    surface: mph(*surface),
                })
                .collect(),
            marks: self
                .marks
                .iter()
                .map(|(kind, along, across)| Mark {
                    kind: *kind,
                    along: *along * FOOT,
                    across: *across * FOOT,
                })
                .collect(),
        }
    }
}

/// A day on the river: when it began, which runs were fished, in which order.
const DAYS: [(&str, f64, &[usize]); 2] = [
    ("2026-07-25T13:10:00Z", 59.0, &[1, 0]),
    ("2026-08-22T13:40:00Z", 61.0, &[0, 2]),
];

/// Adds the runs, and the two days with their casts.
pub(crate) fn add(connection: &Connection, waters: &Waters, seed: u64) -> Result<(), Error> {
    let mut random = ChaCha8Rng::seed_from_u64(seed ^ 0x7269_7665);
    let mut known = Vec::new();
    for plot in &PLOTS {
        let run = plot.run(waters);
        known.push((runs::add(connection, &run)?, run, plot.rig));
    }
    let boards = rigs::boards(connection)?;
    for (started, fahrenheit, order) in DAYS {
        let outing = outing(waters, started, fahrenheit);
        let id = outings::add(connection, &outing)?;
        let mut at = outing.started;
        for place in order {
            let (run_id, run, name) = &known[*place];
            let board = boards.iter().find(|(_, board)| board.name == *name);
            let (rig_id, board) = board.expect(SOUND);
            let rig = board.rig().expect(SOUND).rig;
            let day = Day {
                outing: id,
                run: (*run_id, run),
                rig: (*rig_id, &rig),
                water: Water::fresh(outing.temperature).expect(SOUND),
                temperature: outing.temperature,
            };
            at = day.fish(connection, at, &mut random)?;
            at += SignedDuration::from_mins(20);
        }
        let ended = Outing {
            ended: Some(at),
            ..outing
        };
        outings::update(connection, id, &ended)?;
    }
    Ok(())
}

fn outing(waters: &Waters, started: &str, fahrenheit: f64) -> Outing {
    Outing {
        water: waters.cassel,
        started: started
            .parse()
            .expect("the days' times are written as RFC 3339"),
        ended: None,
        speed: 2.0 * motilis_core::units::MILE_PER_HOUR,
        temperature: Celsius::from_fahrenheit(fahrenheit),
        clarity: 5.0 * FOOT,
        stain: motilis_core::light::Stain::Green,
        sky: Sky::Broken,
        wind: Wind::Calm,
        fish: Fish::Steelhead,
        fish_depth: (2.0 * FOOT, 6.0 * FOOT),
        bottom: 6.0 * FOOT,
        thermocline: None,
        mood: Mood::Neutral,
        forage: motilis_core::fish::Forage::Insects,
        nibblers: false,
        crowd: None,
        wanted_depth: 4.0 * FOOT,
    }
}

/// A run fished through on a day.
struct Day<'a> {
    outing: OutingId,
    run: (RunId, &'a Run),
    rig: (RigId, &'a Rig),
    water: Water,
    temperature: Celsius,
}

impl Day<'_> {
    /// Casts through it, stand after stand; returns when it was done.
    fn fish(
        &self,
        connection: &Connection,
        from: Timestamp,
        random: &mut ChaCha8Rng,
    ) -> Result<Timestamp, Error> {
        let (run_id, run) = self.run;
        let (rig_id, _) = self.rig;
        let plan = Plan {
            thrown: Thrown {
                angle_deg: 90.0,
                distance: Metres(10.0),
            },
            held: Held::Level,
            sink: 0.0,
            reel: MetresPerSecond(0.45),
            mend: false,
            follow: false,
            lift: None,
        };
        let fished = self.paths(&plan);
        let mut at = from;
        let mut deepest = None;
        // Every third stand: a long run is not fished step for step.
        for stand in stands(run.length, School::Both).into_iter().step_by(3) {
            for one in &fished {
                let bite = self.bite(one, at, random);
                let event = bite
                    .as_ref()
                    .map(|event| events::add(connection, event))
                    .transpose()?;
                if let Some(event) = &bite {
                    deepest = deepest.or(event.line.and_then(|line| line.depth));
                }
                let cast = RiverCast {
                    outing: self.outing,
                    run: run_id,
                    rod: 1,
                    rig: Some(rig_id),
                    at,
                    presentation: Presentation::Spinner,
                    stand,
                    grid: Some((one.cast.way, one.cast.far)),
                    plan: Plan {
                        thrown: one.cast.thrown,
                        ..plan
                    },
                    event,
                };
                casts::add(connection, &cast)?;
                let fought = bite.is_some_and(|event| event.kind == EventKind::Fish);
                at += SignedDuration::from_secs(if fought { 6 * EVERY } else { EVERY });
            }
        }
        let pass = Pass {
            rod: Some(1),
            tackle: Tackle::Rig(rig_id),
            from,
            to: Some(at),
            ran: Ran {
                version: Some(rigs::version(connection, rig_id)?),
                out: fished.first().map(|one| one.cast.thrown.distance),
                depth: deepest,
                ..Ran::default()
            },
        };
        passes::add(connection, self.outing, &pass)?;
        Ok(at)
    }

    fn paths(&self, plan: &Plan) -> Vec<Fished> {
        let (_, run) = self.run;
        let (_, rig) = self.rig;
        let gear = Gear::usual();
        let section = run.section().expect(SOUND);
        let angler = gear.angler(run.wade, Angler::knee(&section, run.wade));
        let spool = gear.spool(rig.kind());
        let tackle = spool
            .tackle(rig, &self.water, self.temperature)
            .expect(SOUND);
        let scene = Scene {
            section: &section,
            water: &self.water,
            angler: &angler,
            tackle: &tackle,
        };
        scene.fished(plan, School::Both).expect(SOUND)
    }

    /// What bit on a cast, if anything did: where its lure fished.
    fn bite(&self, one: &Fished, at: Timestamp, random: &mut ChaCha8Rng) -> Option<Event> {
        let drawn = 100.0 * random.random::<f64>();
        let fishes = |moment: &&Moment| moment.works() && !moment.on_bed;
        let fished: Vec<&Moment> = one.path.moments.iter().filter(fishes).collect();
        let moment = fished.get(fished.len() / 2)?;
        let kind = if drawn < FISH {
            EventKind::Fish
        } else if drawn < FISH + STRIKES {
            EventKind::Strike
        } else {
            return None;
        };
        let mut event = Event {
            rod: Some(1),
            line: Some(OnLine {
                tackle: Tackle::Rig(self.rig.0),
                out: one.cast.thrown.distance,
                depth: Some(Metres(moment.place[2].max(0.1))),
            }),
            note: format!("spinner in {}", self.run.1.name),
            ..Event::new(self.outing, kind, at, moment.speed)
        };
        if kind == EventKind::Fish {
            event.length = Some((24.0 + 9.0 * random.random::<f64>()).round() * INCH);
            event.kept = Some(false);
            event.caught.species = Some(Fish::Steelhead);
            event.caught.landing = Some(Landing::Landed);
            event.caught.measured = Some(Measured::Total);
        }
        Some(event)
    }
}
