use jiff::Timestamp;
use motilis_core::boat::{
    Afloat, Ahead, BoatFix, Chart, Freshness, Instruments, LearnedCurrent, Legs, Mark, Moved,
    Remark, RodNow, Said, Source, Through, Twin, Unfit, Warning,
};
use motilis_core::line::Surroundings;
use motilis_core::track::Plane;
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use motilis_core::water::Water;
use motilis_formats::nmea::Heard;
use std::collections::VecDeque;
use std::time::Instant;

/// After a silence so long lines are not towed through it: they start anew, s.
const SILENCE: f64 = 20.0;
/// Between two looks ahead, s of the boat's time; and so many times as long as one took, so that it costs a quarter at most.
const LOOK: f64 = 2.0;
const REST: u32 = 3;
/// A warning stays until two looks in a row are without it.
const STAYS: f64 = 3.0;
/// A touch that comes so soon is told at the first look, s.
const SOON: f64 = 12.0;
/// A receiver's clock that differs from this machine's by so much is told, s.
const CLOCKS: f64 = 120.0;
/// What is to be done about the same rods is found anew after so long, s.
const HEEDED: f64 = 6.0;
/// Places of the way that are kept for the plan, and how far apart, m.
const WAY: (usize, f64) = (1_500, 2.0);
/// Soundings that wait to be written down, when nobody does: two hours of them.
const SOUNDED: usize = 7_200;
/// What was remarked is told for so long, s.
const TOLD: f64 = 60.0;

/// A current that somebody typed in.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TypedCurrent {
    /// Where the water goes, m/s to the north and east.
    pub velocity: [f64; 2],
    /// When, on the bridge's clock.
    pub at: f64,
}

/// Where the lines are towed, and by what.
#[derive(Debug, Clone, PartialEq)]
pub struct Waters {
    /// The origin of all places, degrees: the water's position.
    pub origin: [f64; 2],
    /// What the lines run in.
    pub surroundings: Surroundings,
    /// The outing's speed through the water, as it was typed in.
    pub typed: MetresPerSecond,
}

impl Default for Waters {
    /// Mild fresh water at the origin of all charts, until somebody says which.
    fn default() -> Self {
        let temperature = Celsius(15.0);
        Self {
            origin: [0.0; 2],
            surroundings: Surroundings {
                water: Water::fresh(temperature)
                    .expect("15 degrees are within what water is known for"),
                temperature,
                bottom: None,
            },
            typed: MetresPerSecond(0.55),
        }
    }
}

/// Where the boat is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BoatAt {
    /// Metres to the north and east.
    pub place: [f64; 2],
    /// Degrees.
    pub position: [f64; 2],
    /// Where it heads, radians.
    pub heading: f64,
}

/// All that is known on the bridge at a moment.
#[derive(Debug, Clone, Default)]
pub struct Known {
    /// The moment, on the bridge's clock.
    pub now: f64,
    /// What the instruments said.
    pub instruments: Instruments,
    /// Speed through the water; none before any instrument was heard.
    pub through: Option<Through>,
    /// The current, learnt or typed in, and whether it was typed.
    pub current: Option<(LearnedCurrent, bool)>,
    /// Where the boat is.
    pub boat: Option<BoatAt>,
    /// Every rod that is in.
    pub rods: Vec<RodNow>,
    /// Rods that cannot be towed along.
    pub unfit: Vec<Unfit>,
    /// What will happen.
    pub ahead: Ahead,
    /// Whether the lines are towed too late and were set to how they run straight on.
    pub behind: bool,
    /// What was remarked lately.
    pub remark: Option<Remark>,
    /// How far the receiver's clock is ahead of this machine's, s, where that is worth a word.
    pub clock_off: Option<f64>,
    /// Where the boat was, the latest last.
    pub way: Vec<[f64; 2]>,
}

/// What the instruments say, put together with the rods that are in: one thread's own, without wires. Its clock is who calls it; only how long a look
/// ahead took is measured here, so that looking costs a quarter of the time at most.
#[derive(Debug)]
pub struct Bridge {
    waters: Waters,
    plane: Plane,
    instruments: Instruments,
    legs: Legs,
    typed_current: Option<TypedCurrent>,
    twin: Option<Twin>,
    rods: Vec<Afloat>,
    unfit: Vec<Unfit>,
    chart: Chart,
    marks: Vec<(i64, [f64; 2], Metres, f64)>,
    last: Option<(Timestamp, f64)>,
    ahead: Ahead,
    warned: f64,
    looked: f64,
    rest_until: Option<Instant>,
    heeded: f64,
    /// Rods of which the look before this one warned for the first time: one look alone is none.
    doubted: Vec<u8>,
    way: VecDeque<[f64; 2]>,
    behind: bool,
    remark: Option<(Remark, f64)>,
    clock_off: Option<f64>,
    sounded: Vec<((i32, i32), Metres)>,
    fixes: Vec<BoatFix>,
}

impl Bridge {
    /// A bridge over some water.
    pub fn new(waters: Waters) -> Self {
        let plane = Plane::at(waters.origin[0], waters.origin[1]);
        Self {
            waters,
            plane,
            instruments: Instruments::default(),
            legs: Legs::default(),
            typed_current: None,
            twin: None,
            rods: Vec::new(),
            unfit: Vec::new(),
            chart: Chart::default(),
            marks: Vec::new(),
            last: None,
            ahead: Ahead::default(),
            warned: f64::NEG_INFINITY,
            looked: f64::NEG_INFINITY,
            rest_until: None,
            heeded: f64::NEG_INFINITY,
            doubted: Vec::new(),
            way: VecDeque::new(),
            behind: false,
            remark: None,
            clock_off: None,
            sounded: Vec::new(),
            fixes: Vec::new(),
        }
    }

    /// Other rods are in, or the water is another; a chart comes with another water.
    pub fn set(&mut self, waters: Waters, rods: Vec<Afloat>, chart: Option<Chart>) {
        let plane = Plane::at(waters.origin[0], waters.origin[1]);
        let elsewhere = plane != self.plane;
        self.plane = plane;
        self.waters = waters;
        self.rods = rods;
        if elsewhere {
            self.twin = None;
            self.way.clear();
            self.last = None;
        }
        if let Some(chart) = chart {
            match &mut self.twin {
                Some(twin) => twin.chart = chart,
                None => self.chart = chart,
            }
        }
        if let Some(twin) = &mut self.twin {
            self.unfit = twin.set_rods(&self.rods, self.waters.surroundings);
        }
    }

    /// Fish that were marked: number, place, depth, and when on the bridge's clock.
    pub fn set_marks(&mut self, marks: Vec<(i64, [f64; 2], Metres, f64)>) {
        self.marks = marks;
    }

    /// A current that somebody typed in; none for what the legs tell.
    pub fn set_current(&mut self, current: Option<TypedCurrent>) {
        self.typed_current = current;
    }

    /// The wire is another: nothing of what was said holds, nor the bottom that was sounded by it.
    pub fn forget(&mut self) {
        self.instruments = Instruments::default();
        self.legs = Legs::default();
        self.chart = Chart::default();
        self.sounded.clear();
        self.twin = None;
        self.way.clear();
        self.last = None;
        self.ahead = Ahead::default();
        self.remark = None;
        self.clock_off = None;
    }

    /// Whether the lines are towed too late to go on: they are set to how they run straight on.
    pub fn set_behind(&mut self, behind: bool) {
        self.behind = behind;
    }

    /// Takes what was said, at a moment of a clock that only goes on, and this machine's own time.
    pub fn hear(&mut self, heard: Heard, now: f64, clock: Timestamp) {
        if let Some(remark) = self.instruments.hear(heard.said, now) {
            self.remark = Some((remark, now));
            if let Remark::Elsewhere(_) = remark {
                let place = self.fix().map(|fix| self.place(fix.place));
                if let (Some(twin), Some(place)) = (&mut self.twin, place) {
                    twin.leap(place);
                }
            }
        }
        match heard.said {
            Said::Fix(fix) => {
                let off = fix.at.duration_since(clock).as_secs_f64();
                self.clock_off = (off.abs() > CLOCKS).then_some(off);
                // One that was not believed moves nothing.
                if self.fix() == Some(fix) {
                    if let (Some(ground), Some(course)) = (fix.ground, fix.course_deg) {
                        self.legs.hear(now, ground, course);
                    }
                    self.fixes.push(fix);
                    self.go_on(fix, now);
                }
            }
            Said::Depth(depth) => {
                if let Some(twin) = &mut self.twin {
                    twin.sound(depth);
                    let at = twin.chart.sound(twin.place(), depth);
                    if self.sounded.len() < SOUNDED {
                        self.sounded.push((at, depth));
                    }
                }
            }
            _ => {}
        }
    }

    fn fix(&self) -> Option<BoatFix> {
        self.instruments.fix.map(|figure| figure.value)
    }

    fn place(&self, position: [f64; 2]) -> [f64; 2] {
        let (east, north) = self.plane.place(position[0], position[1]);
        [north, east]
    }

    fn current(&self, now: f64) -> Option<(LearnedCurrent, bool)> {
        let learned = self.legs.current(now).map(|learned| (learned, false));
        let typed = self.typed_current.map(|typed| {
            let current = LearnedCurrent {
                velocity: typed.velocity,
                through: self.waters.typed,
                at: typed.at,
                legs: 0,
                sure: MetresPerSecond(0.0),
            };
            (current, true)
        });
        // What was said later holds.
        match (learned, typed) {
            (Some(learned), Some(typed)) if learned.0.at < typed.0.at => Some(typed),
            (learned, typed) => learned.or(typed),
        }
    }

    fn through(&self, now: f64) -> Through {
        let current = self.current(now).map(|(current, _)| current.velocity);
        self.instruments.through(now, current, self.waters.typed)
    }

    fn go_on(&mut self, fix: BoatFix, now: f64) {
        let through = self.through(now);
        let place = self.place(fix.place);
        let far = |last: &[f64; 2]| (last[0] - place[0]).hypot(last[1] - place[1]);
        if self.way.back().is_none_or(|last| far(last) > WAY.1) {
            self.way.push_back(place);
            if self.way.len() > WAY.0 {
                self.way.pop_front();
            }
        }
        let heading = through.heading_deg.map(f64::to_radians);
        let seconds = self
            .last
            .map(|(last, _)| fix.at.duration_since(last).as_secs_f64());
        self.last = Some((fix.at, now));
        let Some(twin) = &mut self.twin else {
            let heading = heading.unwrap_or_default();
            let mut twin = Twin::new(self.waters.surroundings, place, heading, through.speed);
            twin.chart = std::mem::take(&mut self.chart);
            self.unfit = twin.set_rods(&self.rods, self.waters.surroundings);
            self.twin = Some(twin);
            return;
        };
        let seconds = seconds.unwrap_or(1.0);
        let moved = Moved {
            through: through.speed,
            heading: heading.unwrap_or_else(|| twin.heading()),
            place,
            over_ground: through.source == Source::Ground,
        };
        if (0.0..SILENCE).contains(&seconds) {
            if self.behind {
                // No time to tow them: they run straight on from here.
                twin.advance(0.05, &moved);
                twin.settle();
            } else {
                twin.advance(seconds.max(0.2), &moved);
            }
        } else {
            twin.leap(place);
            twin.advance(0.05, &moved);
            twin.settle();
        }
        self.look(seconds.max(0.2), now);
    }

    fn look(&mut self, seconds: f64, now: f64) {
        self.looked += seconds;
        let rests = self.rest_until.is_some_and(|until| Instant::now() < until);
        let Some(twin) = self.twin.as_ref().filter(|_| !rests) else {
            return;
        };
        if self.looked.is_finite() && self.looked < LOOK {
            return;
        }
        self.looked = 0.0;
        let began = Instant::now();
        let marks: Vec<Mark> = self
            .marks
            .iter()
            .map(|(id, place, depth, at)| Mark {
                id: *id,
                place: *place,
                depth: *depth,
                age_s: (now - at).max(0.0),
            })
            .collect();
        // Nobody warns by a bottom that is not being sounded.
        let sounds = self
            .instruments
            .depth
            .is_some_and(|depth| depth.freshness(now) != Freshness::Gone);
        let anew = now - self.heeded > HEEDED;
        let mut ahead = twin.ahead(&marks, Some(&self.ahead), anew);
        if anew || ahead.heed != self.ahead.heed {
            self.heeded = now;
        }
        if !sounds {
            ahead.warnings.clear();
            ahead.heed.clear();
        }
        let known = |rod: u8| self.ahead.warnings.iter().any(|warning| warning.rod == rod);
        let new: Vec<u8> = ahead
            .warnings
            .iter()
            .map(|warning| warning.rod)
            .filter(|rod| !known(*rod))
            .collect();
        let at_once = |warning: &Warning| warning.in_s < SOON;
        ahead.warnings.retain(|warning| {
            !new.contains(&warning.rod) || self.doubted.contains(&warning.rod) || at_once(warning)
        });
        self.doubted = new;
        if ahead.warnings.is_empty() {
            ahead.heed.clear();
        }
        if !ahead.warnings.is_empty() {
            self.warned = now;
        }
        // A single look without it is no all-clear.
        if ahead.warnings.is_empty() && now - self.warned < STAYS && !self.ahead.warnings.is_empty()
        {
            ahead.warnings.clone_from(&self.ahead.warnings);
            ahead.heed.clone_from(&self.ahead.heed);
        }
        self.ahead = ahead;
        self.rest_until = Some(Instant::now() + began.elapsed() * REST);
    }

    /// The next look ahead is taken at once, whatever the last one cost.
    pub fn look_now(&mut self) {
        self.looked = LOOK;
        self.rest_until = None;
    }

    /// What was sounded since this was asked: the cell, and how deep.
    pub fn take_sounded(&mut self) -> Vec<((i32, i32), Metres)> {
        std::mem::take(&mut self.sounded)
    }

    /// Fixes that came since this was asked.
    pub fn take_fixes(&mut self) -> Vec<BoatFix> {
        std::mem::take(&mut self.fixes)
    }

    /// What was looked ahead to.
    pub fn ahead(&self) -> &Ahead {
        &self.ahead
    }

    /// The twin.
    pub fn twin(&self) -> Option<&Twin> {
        self.twin.as_ref()
    }

    /// All that is known at a moment.
    pub fn known(&self, now: f64) -> Known {
        let heard = self.instruments.fix.is_some()
            || self.instruments.paddle.is_some()
            || self.instruments.depth.is_some();
        let twin = self.twin.as_ref();
        let fresh = self.last.is_some_and(|(_, at)| now - at < SILENCE);
        Known {
            now,
            through: heard.then(|| self.through(now)),
            current: self.current(now),
            boat: twin.map(|twin| {
                let place = twin.place();
                let (latitude, longitude) = self.plane.back(place[1], place[0]);
                BoatAt {
                    place,
                    position: [latitude, longitude],
                    heading: twin.heading(),
                }
            }),
            rods: twin.filter(|_| fresh).map(Twin::now).unwrap_or_default(),
            unfit: self.unfit.clone(),
            ahead: if fresh {
                self.ahead.clone()
            } else {
                Ahead::default()
            },
            behind: self.behind,
            remark: self
                .remark
                .filter(|(_, at)| now - at < TOLD)
                .map(|(remark, _)| remark),
            clock_off: self.clock_off,
            way: self.way.iter().copied().collect(),
            instruments: self.instruments.clone(),
        }
    }
}
