use crate::bridge::{Bridge, Known, TypedCurrent, Waters};
use crate::clock::Clock;
use crate::simulator::{Fishery, Rigged, Truth};
use crate::wire::{Boat, Link, Listening, Wire, listen};
use jiff::{SignedDuration, Timestamp};
use motilis_core::boat::{Afloat, Chart, Moment, RodThen};
use motilis_core::track::Point;
use motilis_core::units::Metres;
use motilis_formats::nmea::{Counts, Reader};
use std::collections::{HashMap, VecDeque};
use std::fs::File;
use std::io::{self, Write};
use std::path::PathBuf;
use std::sync::mpsc::{Receiver, RecvTimeoutError, SyncSender, sync_channel};
use std::sync::{Arc, Mutex, PoisonError};
use std::thread;
use std::time::{Duration, Instant};
use tokio::sync::watch;

/// Pieces of a wire that may wait; what comes faster waits at its source.
const WAITING: usize = 64;
/// How often what is known is told, at least and at most.
const TOLD: Duration = Duration::from_millis(900);
const AT_MOST: Duration = Duration::from_millis(200);
/// A piece that waited so long was heard too late: the lines are set to how they run straight on.
const LATE: Duration = Duration::from_secs(3);
/// Moments that are kept, one a second: two hours.
const MOMENTS: usize = 7_200;
/// A moment so far from the one that is asked for is another.
const NEAR: SignedDuration = SignedDuration::from_secs(5);
/// Fixes that came in one piece are no further apart.
const PIECE: SignedDuration = SignedDuration::from_mins(1);
/// Fixes of a day.
const FIXES: usize = 108_000;
/// Bites that are told, and for how long.
const BITES: usize = 12;
const BITING: SignedDuration = SignedDuration::from_mins(10);

/// What comes to the hub's thread.
pub(crate) enum Input {
    /// Bytes of a wire, by its number, and when they came.
    Bytes(u64, Vec<u8>, Instant),
    /// How it stands with a wire.
    Link(u64, Link),
    /// Rods, waters, and the chart of another water.
    Set(Box<Setting>),
    /// Fish that were marked: number, place, depth, when.
    Marks(Vec<(i64, [f64; 2], Metres, Timestamp)>),
    /// A current that was typed in.
    Current(Option<[f64; 2]>),
    /// Another wire.
    Wire(Wire, Option<Box<Sailing>>),
    /// A file to write down what is heard in; none for no more of it.
    Record(Option<(PathBuf, File)>),
    /// What was sounded since.
    Sounded(SyncSender<Vec<((i32, i32), Metres)>>),
    /// Nobody asks any more.
    End,
}

/// What is in the water, and in which.
pub struct Setting {
    /// The water.
    pub waters: Waters,
    /// The rods that are in.
    pub rods: Vec<Afloat>,
    /// What each is called.
    pub names: HashMap<u8, String>,
    /// The angler's own bottom, where the water is another.
    pub chart: Option<Chart>,
}

/// A simulated boat, and the fish under it.
pub struct Sailing {
    /// The boat.
    pub boat: Boat,
    /// The fish, where there are any.
    pub fish: Option<Fishery>,
}

/// A rod that bends on a simulated lake.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bend {
    /// The rod.
    pub rod: u8,
    /// Whether the fish stays on.
    pub hooked: bool,
    /// How long it will be on the board.
    pub length: Metres,
    /// When.
    pub at: Timestamp,
}

/// All that the hub tells.
#[derive(Debug, Clone, Default)]
pub struct Told {
    /// What is known.
    pub known: Arc<Known>,
    /// How it stands with the wire.
    pub link: Link,
    /// Seconds since anything sound was heard on it.
    pub silent_s: Option<f64>,
    /// What became of what was heard.
    pub counts: Counts,
    /// The wire.
    pub wire: Option<Wire>,
    /// Rods that bend, the latest last.
    pub bends: Vec<Bend>,
    /// What was possible, where fish are simulated.
    pub truth: Option<Truth>,
}

/// The boat under way: one thread that listens, tows the twin, and tells all who ask. It ends with the last handle.
#[derive(Clone)]
pub struct Live(Arc<Inner>);

struct Inner {
    to: SyncSender<Input>,
    told: Arc<Mutex<Arc<Told>>>,
    moments: Arc<Mutex<VecDeque<Moment>>>,
    fixes: Arc<Mutex<VecDeque<Point>>>,
    boat: Arc<Mutex<Option<Boat>>>,
    /// The file that is written, known at once.
    written: Arc<Mutex<Option<PathBuf>>>,
    changed: watch::Receiver<u64>,
    clock: Clock,
}

impl Drop for Inner {
    fn drop(&mut self) {
        let _ = self.to.send(Input::End);
    }
}

fn of<T>(lock: &Mutex<T>) -> std::sync::MutexGuard<'_, T> {
    lock.lock().unwrap_or_else(PoisonError::into_inner)
}

impl Live {
    /// Starts the thread.
    pub fn start(clock: Clock) -> Self {
        let (to, from) = sync_channel(WAITING);
        let (changes, changed) = watch::channel(0);
        let inner = Inner {
            to: to.clone(),
            told: Arc::default(),
            moments: Arc::default(),
            fixes: Arc::default(),
            boat: Arc::default(),
            written: Arc::default(),
            changed,
            clock: clock.clone(),
        };
        let hub = Hub {
            told: Arc::clone(&inner.told),
            moments: Arc::clone(&inner.moments),
            fixes: Arc::clone(&inner.fixes),
            written: Arc::clone(&inner.written),
            bridge: Bridge::new(Waters::default()),
            began: Instant::now(),
            clock,
            reader: Reader::default(),
            number: 0,
            listening: None,
            link: Link::Off,
            heard: None,
            wire: None,
            changes,
            fish: None,
            names: HashMap::new(),
            bends: VecDeque::new(),
            record: None,
            published: None,
            to,
        };
        thread::spawn(move || hub.run(&from));
        Self(Arc::new(inner))
    }

    /// The clock that acts and entries go by.
    pub fn clock(&self) -> &Clock {
        &self.0.clock
    }

    /// What is known now.
    pub fn told(&self) -> Arc<Told> {
        Arc::clone(&of(&self.0.told))
    }

    /// Where what is heard is written down, from the moment that is asked for.
    pub fn recording(&self) -> Option<PathBuf> {
        of(&self.0.written).clone()
    }

    /// Tells when something new is known.
    pub fn changes(&self) -> watch::Receiver<u64> {
        self.0.changed.clone()
    }

    /// What was known at a moment, within five seconds of it.
    pub fn moment(&self, at: Timestamp) -> Option<Moment> {
        let moments = of(&self.0.moments);
        let after = moments.partition_point(|moment| moment.at < at);
        let apart = |moment: &&Moment| moment.at.duration_since(at).abs();
        let near = [after.checked_sub(1), Some(after)].into_iter().flatten();
        let near = near
            .filter_map(|place| moments.get(place))
            .min_by_key(apart)?;
        (apart(&near) <= NEAR.max(SignedDuration::from_secs(self.0.clock.pace() as i64)))
            .then(|| near.clone())
    }

    /// Places of the boat since a time, one a second.
    pub fn track_since(&self, since: Timestamp) -> Vec<Point> {
        of(&self.0.fixes)
            .iter()
            .filter(|point| point.at >= since)
            .copied()
            .collect()
    }

    /// Other rods are in, or the water is another.
    pub fn set(&self, setting: Setting) {
        let _ = self.0.to.send(Input::Set(Box::new(setting)));
    }

    /// Fish that were marked.
    pub fn set_marks(&self, marks: Vec<(i64, [f64; 2], Metres, Timestamp)>) {
        let _ = self.0.to.send(Input::Marks(marks));
    }

    /// A current that was typed in, m/s to the north and east.
    pub fn set_current(&self, current: Option<[f64; 2]>) {
        let _ = self.0.to.send(Input::Current(current));
    }

    /// Listens to another wire.
    pub fn listen(&self, wire: Wire) {
        *of(&self.0.boat) = None;
        self.0.clock.go(1.0);
        let _ = self.0.to.send(Input::Wire(wire, None));
    }

    /// Listens to a simulated boat, which the clock goes as fast as.
    pub fn sail(&self, boat: crate::simulator::Simulator, fish: Option<Fishery>, pace: f64) {
        let boat: Boat = Arc::new(Mutex::new(boat));
        *of(&self.0.boat) = Some(Arc::clone(&boat));
        self.0.clock.go(pace);
        let sailing = Sailing { boat, fish };
        let _ = self
            .0
            .to
            .send(Input::Wire(Wire::Simulated(pace), Some(Box::new(sailing))));
    }

    /// The simulated boat, to be steered.
    pub fn boat(&self) -> Option<Boat> {
        of(&self.0.boat).clone()
    }

    /// Writes down what is heard in a new file, or no more of it; while one is written, that one goes on.
    ///
    /// # Errors
    /// When there is such a file, or it cannot be made.
    pub fn record(&self, path: Option<PathBuf>) -> io::Result<()> {
        let mut written = of(&self.0.written);
        if written.is_some() && path.is_some() {
            return Ok(());
        }
        let open = |path: PathBuf| File::create_new(&path).map(|file| (path, file));
        let file = path.map(open).transpose()?;
        *written = file.as_ref().map(|(path, _)| path.clone());
        drop(written);
        let _ = self.0.to.send(Input::Record(file));
        Ok(())
    }

    /// What was sounded since this was asked: the cell, and how deep.
    pub fn take_sounded(&self) -> Vec<((i32, i32), Metres)> {
        let (to, from) = sync_channel(1);
        if self.0.to.send(Input::Sounded(to)).is_err() {
            return Vec::new();
        }
        from.recv_timeout(Duration::from_secs(5))
            .unwrap_or_default()
    }
}

struct Hub {
    told: Arc<Mutex<Arc<Told>>>,
    moments: Arc<Mutex<VecDeque<Moment>>>,
    fixes: Arc<Mutex<VecDeque<Point>>>,
    written: Arc<Mutex<Option<PathBuf>>>,
    bridge: Bridge,
    began: Instant,
    clock: Clock,
    reader: Reader,
    /// The wire's number: what comes from the one before is not heard.
    number: u64,
    listening: Option<Listening>,
    link: Link,
    heard: Option<Instant>,
    wire: Option<Wire>,
    changes: watch::Sender<u64>,
    fish: Option<(Boat, Fishery)>,
    names: HashMap<u8, String>,
    bends: VecDeque<Bend>,
    record: Option<(PathBuf, File)>,
    published: Option<Instant>,
    to: SyncSender<Input>,
}

impl Hub {
    fn run(mut self, from: &Receiver<Input>) {
        loop {
            let last = self.published.map_or(TOLD, |at| at.elapsed());
            match from.recv_timeout(TOLD.saturating_sub(last)) {
                Ok(Input::End) | Err(RecvTimeoutError::Disconnected) => return,
                Ok(input) => {
                    if self.take(input) && last >= AT_MOST {
                        self.publish();
                    }
                }
                Err(RecvTimeoutError::Timeout) => self.publish(),
            }
        }
    }

    fn seconds(&self) -> f64 {
        self.began.elapsed().as_secs_f64()
    }

    /// On the bridge's clock.
    fn then(&self, at: Timestamp) -> f64 {
        self.seconds() - self.clock.now().duration_since(at).as_secs_f64() / self.clock.pace()
    }

    /// Takes what came; tells whether it is worth telling.
    fn take(&mut self, input: Input) -> bool {
        match input {
            Input::Bytes(number, bytes, since) => {
                return number == self.number && self.hear(&bytes, since);
            }
            Input::Link(number, link) => {
                if number != self.number {
                    return false;
                }
                self.link = link;
            }
            Input::Set(setting) => {
                self.names = setting.names;
                self.bridge.set(setting.waters, setting.rods, setting.chart);
            }
            Input::Marks(marks) => {
                let marks = marks
                    .into_iter()
                    .map(|(id, place, depth, at)| (id, place, depth, self.then(at)));
                let marks = marks.collect();
                self.bridge.set_marks(marks);
            }
            Input::Current(current) => {
                let at = self.seconds();
                let typed = current.map(|velocity| TypedCurrent { velocity, at });
                self.bridge.set_current(typed);
            }
            Input::Wire(wire, sailing) => self.rewire(wire, sailing),
            Input::Record(file) => self.record = file,
            Input::Sounded(to) => {
                let _ = to.send(self.bridge.take_sounded());
                return false;
            }
            Input::End => {}
        }
        true
    }

    fn rewire(&mut self, wire: Wire, sailing: Option<Box<Sailing>>) {
        self.number += 1;
        self.listening = None;
        self.link = Link::Off;
        self.reader = Reader::default();
        self.heard = None;
        self.bends.clear();
        self.bridge.forget();
        // What a simulated boat did, or a clock that was faster, is no part of another's way.
        let simulated = |wire: &Wire| matches!(wire, Wire::Simulated(_));
        if simulated(&wire) || self.wire.as_ref().is_some_and(simulated) {
            of(&self.fixes).clear();
            of(&self.moments).clear();
        }
        let boat = sailing.as_ref().map(|sailing| Arc::clone(&sailing.boat));
        self.fish = sailing.and_then(|sailing| Some((sailing.boat, sailing.fish?)));
        self.listening = listen(&wire, boat, self.number, self.to.clone());
        self.wire = (wire != Wire::Off).then_some(wire);
    }

    /// Tells whether a new fix was among what was heard.
    fn hear(&mut self, bytes: &[u8], since: Instant) -> bool {
        // A disk that is full ends the recording, not the listening.
        let kept = self.record.as_mut().map(|(_, file)| file.write_all(bytes));
        if let Some(Err(error)) = kept {
            tracing::warn!(%error, "the recording ends");
            self.record = None;
            *of(&self.written) = None;
        }
        let mut heard = Vec::new();
        self.reader.read(bytes, |one| heard.push(one));
        self.bridge.set_behind(since.elapsed() > LATE);
        let (now, clock) = (self.seconds(), self.clock.now());
        for one in &heard {
            self.heard = Some(Instant::now());
            self.bridge.hear(*one, now, clock);
        }
        let fixes = self.bridge.take_fixes();
        if fixes.is_empty() {
            return false;
        }
        let mut kept = of(&self.fixes);
        let last = fixes.last().map(|fix| fix.at);
        for fix in &fixes {
            // Those that came in one piece are as far apart as they say, and the last of them is the present one.
            let before = last.map_or(SignedDuration::ZERO, |last| last.duration_since(fix.at));
            let believed = (SignedDuration::ZERO..PIECE).contains(&before);
            let at = clock.checked_sub(before).ok().filter(|_| believed);
            kept.push_back(Point {
                at: at.unwrap_or(clock),
                latitude: fix.place[0],
                longitude: fix.place[1],
            });
            if kept.len() > FIXES {
                kept.pop_front();
            }
        }
        drop(kept);
        self.fish(fixes.len() as f64, clock);
        true
    }

    /// Whether a fish of the simulated lake takes something.
    fn fish(&mut self, seconds: f64, clock: Timestamp) {
        let Some((boat, fish)) = &mut self.fish else {
            return;
        };
        let rods = self
            .bridge
            .twin()
            .map(motilis_core::boat::Twin::now)
            .unwrap_or_default();
        let bed = of(boat);
        let rigged: Vec<Rigged> = rods
            .iter()
            .filter(|rod| !rod.line.on_bottom)
            .map(|rod| Rigged {
                rod: rod.number,
                name: self.names.get(&rod.number).cloned().unwrap_or_default(),
                place: rod.place,
                depth: rod.line.depth,
                bottom: bed.bed.depth(rod.place),
                state: rod.line.state,
            })
            .collect();
        drop(bed);
        for bite in fish.pass(seconds, &rigged) {
            self.bends.push_back(Bend {
                rod: bite.rod,
                hooked: bite.hooked,
                length: bite.length,
                at: clock,
            });
        }
        while self.bends.len() > BITES {
            self.bends.pop_front();
        }
    }

    fn publish(&mut self) {
        let now = self.seconds();
        let clock = self.clock.now();
        let known = self.bridge.known(now);
        if self.wire.is_some() {
            self.keep_moment(&known, clock, now);
        }
        let new = |bend: &&Bend| clock.duration_since(bend.at) < BITING;
        let told = Told {
            link: self.link.clone(),
            silent_s: self.heard.map(|heard| heard.elapsed().as_secs_f64()),
            counts: self.reader.counts(),
            wire: self.wire.clone(),
            bends: self.bends.iter().filter(new).copied().collect(),
            truth: self.fish.as_ref().map(|(_, fish)| fish.truth()),
            known: Arc::new(known),
        };
        *of(&self.told) = Arc::new(told);
        self.changes.send_modify(|number| *number += 1);
        self.published = Some(Instant::now());
    }

    fn keep_moment(&self, known: &Known, at: Timestamp, now: f64) {
        let aboard = &known.instruments;
        let moment = Moment {
            at,
            through: known.through.filter(|through| through.age_s.is_some()),
            ground: aboard.ground.and_then(|figure| figure.held(now)),
            position: aboard
                .fix
                .and_then(|figure| figure.held(now))
                .map(|fix| fix.place),
            bottom: aboard.depth.and_then(|figure| figure.held(now)),
            temperature: aboard.temperature.and_then(|figure| figure.held(now)),
            rods: known
                .rods
                .iter()
                .map(|rod| RodThen {
                    number: rod.number,
                    depth: rod.line.depth,
                    bottom: rod
                        .bottom
                        .filter(|under| under.sounded)
                        .map(|under| under.depth),
                })
                .collect(),
        };
        let mut moments = of(&self.moments);
        // A clock that was set back makes the later moments wrong.
        while moments.back().is_some_and(|last| last.at >= at) {
            moments.pop_back();
        }
        moments.push_back(moment);
        if moments.len() > MOMENTS {
            moments.pop_front();
        }
    }
}
