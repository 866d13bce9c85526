//! Between the data file and the boat under way: a thread that tells the boat which rods are in whenever something of the
//! file changes, and writes down the bottom that was sounded.

use crate::{App, Error};
use jiff::Timestamp;
use motilis_core::boat::Chart;
use motilis_core::book::WaterId;
use motilis_core::track::Plane;
use motilis_core::units::MetresPerSecond;
use motilis_helm::{Aboard, BoatSettings, Book, afloat};
use motilis_live::simulator::{Bed, Fishery, Helm, Order, Simulator};
use motilis_live::{Setting, Waters, Wire};
use motilis_store::{Standing, bottoms, fish_marks, outings};
use motilis_view::present::Beside;
use std::collections::HashMap;
use std::sync::{Arc, PoisonError, Weak};
use std::thread;
use std::time::{Duration, Instant};

/// How often it looks whether it is still wanted.
const LOOKS: Duration = Duration::from_millis(500);
/// How often the bottom is written down, and what changes with the hour is read anew.
const KEEPS: Duration = Duration::from_secs(20);
/// Instruments that were silent for longer are not heard, s.
const HEARD: f64 = 30.0;
/// Seed of the demo lake.
const LAKE: u64 = 27;
/// Where a simulated boat goes, metres to the north and east: back and forth over a shoal of the demo lake that rises from 29 ft
/// to 19 to 21 ft, each quarter of an hour.
const ROUTE: [[f64; 2]; 5] = [
    [480.0, -230.0],
    [480.0, 150.0],
    [520.0, 150.0],
    [480.0, -200.0],
    [520.0, -230.0],
];
/// The wind over it, degrees and m/s, and where its water goes, m/s to the north and east.
const WIND: (f64, f64) = (250.0, 3.5);
const CURRENT: [f64; 2] = [0.05, 0.03];

pub(crate) struct Keeper {
    app: App,
    version: Option<u64>,
    wire: Option<String>,
    water: Option<(WaterId, [f64; 2])>,
    kept: Instant,
}

/// Starts it; it ends with the application.
pub(crate) fn start(app: &App, alive: Weak<()>) -> thread::JoinHandle<()> {
    let mut keeper = Keeper {
        app: app.clone(),
        version: None,
        wire: None,
        water: None,
        kept: Instant::now(),
    };
    thread::spawn(move || {
        while alive.strong_count() > 0 {
            keeper.look();
            thread::park_timeout(LOOKS);
        }
    })
}

impl Keeper {
    fn look(&mut self) {
        let version = self.app.version();
        let due = self.kept.elapsed() > KEEPS;
        if self.version != Some(version) || due {
            // What cannot be read now is tried again at the next change.
            let told = self.tell(version).unwrap_or_else(|error| {
                tracing::warn!(%error, "the boat could not be told of its rods");
                Told::All
            });
            self.version = (told == Told::All).then_some(version);
        }
        if due {
            self.kept = Instant::now();
            if *self.app.store().standing() == Standing::Whole {
                self.keep();
                self.sign_of_life();
            }
        }
    }

    /// Tells the boat of its water and rods, and listens where it shall. The bottom of a water goes with a water that is new to the
    /// wire.
    fn tell(&mut self, version: u64) -> Result<Told, Error> {
        let now = self.app.now();
        let before = self.water;
        let read = self.app.store().read(|connection| -> Result<_, Error> {
            let book = Book::new(connection);
            let beside = Beside::load(&book, now, version)?;
            if book.here_if_any()?.is_none() {
                return Ok((beside, None, BoatSettings::load(&book)?));
            }
            let here = book.here()?;
            let all = Aboard::all(&book)?;
            // On an outing that is over nothing is in the water, whatever its passes say.
            let fishing: Vec<Aboard> = all
                .into_iter()
                .filter(|one| beside.running && one.fishes())
                .collect();
            let rods = afloat(&book, &fishing)?;
            let origin = bottoms::origin(connection, here.outing.water)?;
            let origin = origin.unwrap_or([here.water.latitude_deg, here.water.longitude_deg]);
            let water = (here.outing.water, origin);
            let elsewhere = before.is_none_or(|before| before != water);
            let settings = BoatSettings::load(&book)?;
            let chart = match (elsewhere, is_invented(&settings.wire)) {
                (true, false) => Some(bottoms::of_water(connection, here.outing.water)?),
                (true, true) => Some(Chart::default()),
                (false, _) => None,
            };
            let marks = fish_marks::of_outing(connection, here.id)?;
            let names = fishing
                .iter()
                .map(|one| (one.boat.number, one.name.clone()));
            let in_the_water = here.surroundings().ok().map(|surroundings| Setting {
                waters: Waters {
                    origin,
                    surroundings,
                    typed: here.outing.speed,
                },
                rods,
                names: names.collect(),
                chart,
            });
            Ok((beside, Some((water, in_the_water, marks)), settings))
        })?;
        let (beside, aboard, settings) = read;
        let typed = beside.typed;
        self.app.set_beside(beside);
        if let Some((water, setting, marks)) = aboard {
            if self.water.is_some_and(|before| before != water) {
                self.keep();
            }
            // A day whose conditions cannot be has no water: its chart goes out with the next.
            self.water = setting.is_some().then_some(water);
            let plane = Plane::at(water.1[0], water.1[1]);
            let live = self.app.live();
            live.set_marks(
                marks
                    .iter()
                    .map(|(id, mark)| {
                        let (east, north) = plane.place(mark.place[0], mark.place[1]);
                        (id.0, [north, east], mark.depth, mark.at)
                    })
                    .collect(),
            );
            live.set(setting.unwrap_or_else(|| Setting {
                waters: Waters {
                    origin: water.1,
                    ..Waters::default()
                },
                rods: Vec::new(),
                names: HashMap::new(),
                chart: Some(Chart::default()),
            }));
        }
        self.app.live().set_current(settings.current);
        if self.wire.as_deref() == Some(&*settings.wire) {
            return Ok(Told::All);
        }
        self.keep();
        self.rewire(&settings.wire, typed);
        // The wire's bottom begins anew: it is told of the water once more.
        self.water = None;
        Ok(Told::Again)
    }

    fn rewire(&mut self, wire: &str, typed: MetresPerSecond) {
        self.wire = Some(wire.to_owned());
        let live = self.app.live();
        match Wire::of(wire, self.app.rides()) {
            Some(Wire::Simulated(pace)) => {
                let seed = wire
                    .strip_prefix("practice ")
                    .and_then(|rest| rest.split_once(' '))
                    .and_then(|(_, seed)| seed.parse().ok())
                    .unwrap_or(LAKE);
                let origin = self.water.map_or([0.0; 2], |(_, origin)| origin);
                live.sail(
                    boat(seed, origin, typed, self.app.now()),
                    Some(Fishery::new(seed)),
                    pace,
                );
            }
            Some(wire) => live.listen(wire),
            None => live.listen(Wire::Off),
        }
    }

    /// Writes down that the outing's boat is heard: its hours go on without a tap. What a recording says was heard another day, and
    /// a boat on an invented lake is no sign of life on a real one.
    fn sign_of_life(&self) {
        let told = self.app.live().told();
        let heard = told.silent_s.is_some_and(|seconds| seconds < HEARD);
        let now_heard = heard && !matches!(told.wire, None | Some(Wire::Off | Wire::Replay(..)));
        let invented = self.wire.as_deref().is_some_and(is_invented);
        if !now_heard || invented || !self.app.beside().running {
            return;
        }
        let now = self.app.now();
        let kept =
            self.app
                .store()
                .write(|connection| match Book::new(connection).here_if_any()? {
                    Some(here) => Ok(outings::set_heard(connection, here.id, now)?),
                    None => Ok::<_, Error>(()),
                });
        if let Err(error) = kept {
            tracing::warn!(%error, "that the boat is heard could not be written down");
        }
    }

    /// Writes down what was sounded; of an invented lake nothing is.
    fn keep(&self) {
        let sounded = self.app.live().take_sounded();
        let invented = self.wire.as_deref().is_some_and(is_invented);
        let Some((water, origin)) = self.water.filter(|_| !sounded.is_empty() && !invented) else {
            return;
        };
        let now = self.app.now();
        let kept = self
            .app
            .store()
            .write(|connection| bottoms::add(connection, water, origin, &sounded, now));
        if let Err(error) = kept {
            tracing::warn!(%error, "what was sounded could not be written down");
        }
    }
}

/// Whether more is to be told.
#[derive(PartialEq)]
enum Told {
    All,
    Again,
}

/// Whether a wire's lake is no water of this book. The demo's lakes are all invented, and its boat sails on one of them.
fn is_invented(wire: &str) -> bool {
    wire.starts_with("practice") || wire.starts_with("simulated")
}

/// A simulated boat on its route.
pub(crate) fn boat(
    seed: u64,
    origin: [f64; 2],
    speed: MetresPerSecond,
    at: Timestamp,
) -> Simulator {
    let mut helm = Helm::new(ROUTE[0], route(), MetresPerSecond(speed.0.max(0.3)));
    helm.wind = (WIND.0, MetresPerSecond(WIND.1));
    helm.current = CURRENT;
    Simulator::new(Bed::new(seed), helm, origin, at, seed)
}

/// The route as an order.
pub(crate) fn route() -> Order {
    Order::Route(ROUTE.to_vec())
}

/// The lock's value, whatever became of who held it.
pub(crate) fn of<T: Clone>(lock: &Arc<std::sync::Mutex<T>>) -> T {
    lock.lock().unwrap_or_else(PoisonError::into_inner).clone()
}
