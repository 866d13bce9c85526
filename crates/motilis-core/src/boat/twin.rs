use super::soundings::{Chart, Soundings, Under, under};
use crate::error::Error;
use crate::line::{Line, Surroundings};
use crate::motion::{LineFrame, Tow, Wake};
use crate::spread::{Rod, Running, Spread, State, Towed};
use crate::units::{Metres, MetresPerSecond};

/// A step, s: that of a recording.
const STEP: f64 = 0.05;
/// Slower than this nothing is towed: lines are launched as at this speed, m/s.
const SLOWEST: f64 = 0.15;
/// Steps of a strip of bottom from the rig to the boat.
const STRIP: usize = 24;
/// How far aside of the way the bottom is taken from it, m; a board's own distance comes on top.
const ASIDE: f64 = 6.0;
/// How unsure the depth of a lure is by the dive table somebody typed in, as a share; from memory.
const TABLE: f64 = 0.15;
/// How fast a hand turns a reel, m/s; from memory.
pub(super) const REELED: f64 = 0.6;
/// A change of speed after which a depth's uncertainty is reckoned again, m/s.
const ANOTHER_SPEED: f64 = 0.05;
/// A rod in the water, by its number.
#[derive(Debug, Clone, PartialEq)]
pub struct Afloat {
    /// Its number.
    pub number: u8,
    /// Where it stands and what it carries.
    pub rod: Rod,
}

/// A rod that cannot be towed along, and why.
#[derive(Debug, Clone, PartialEq)]
pub struct Unfit {
    /// Its number.
    pub number: u8,
    /// Why.
    pub why: Error,
}

/// What the boat did in a moment.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Moved {
    /// Speed through the water at its end.
    pub through: MetresPerSecond,
    /// Heading at its end, radians from north through east.
    pub heading: f64,
    /// Where the boat is over ground, metres to the north and east.
    pub place: [f64; 2],
    /// Whether that speed is one over ground, and of a current nothing is known.
    pub over_ground: bool,
}

/// Rods that hang on one cable, or one rod by itself, in motion.
#[derive(Debug, Clone)]
pub(super) struct Group {
    pub(super) rods: Vec<Afloat>,
    pub(super) tow: Tow,
    /// Speed at which the shares of uncertainty were reckoned, and they.
    sure: (MetresPerSecond, Vec<Option<f64>>),
    /// Line that is still to be taken in, m.
    winding: f64,
}

impl Group {
    /// Whether another is this one rod with some of its line taken in.
    fn is_longer_than(&self, other: &[Afloat]) -> bool {
        let ([one], [then]) = (other, &self.rods[..]) else {
            return false;
        };
        let as_long = Rod {
            out: then.rod.out,
            ..one.rod.clone()
        };
        !then.rod.setup.lets_out_cable()
            && one.number == then.number
            && one.rod.out < then.rod.out
            && as_long == then.rod
    }

    /// The same line, shorter: it goes on as it runs.
    fn wound_in(mut self, rods: Vec<Afloat>) -> Self {
        self.winding += (self.rods[0].rod.out - rods[0].rod.out).0;
        Self { rods, ..self }
    }

    /// A hand turns the reel for so long.
    fn wind(&mut self, seconds: f64) {
        let turned = self.winding.min(REELED * seconds);
        if turned > 0.0 {
            self.tow.reel_in(0, Metres(turned));
            self.winding -= turned;
        }
    }
}

/// Bottom ahead of a rig, on its way to where the boat is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct StripPoint {
    /// Metres of way ahead of the rig.
    pub ahead: Metres,
    /// The bottom there, where it is known.
    pub bottom: Option<Under>,
}

/// A rod as it is now.
#[derive(Debug, Clone, PartialEq)]
pub struct RodNow {
    /// Its number.
    pub number: u8,
    /// Its line.
    pub line: LineFrame,
    /// Half of the 80 % band of its depth; none on the bottom or on the water.
    pub half: Option<Metres>,
    /// Where its rig is over ground, metres to the north and east.
    pub place: [f64; 2],
    /// The bottom under the rig, where it is known.
    pub bottom: Option<Under>,
    /// The bottom from the rig to the boat.
    pub strip: Vec<StripPoint>,
    /// Depth of the lower of rig and weight.
    pub lowest: Metres,
    /// How far the nearer of rig and weight clears the bottom under it.
    pub clearance: Option<Metres>,
}

/// All rods that are in, towed behind the boat's real movement.
#[derive(Debug, Clone)]
pub struct Twin {
    pub(super) surroundings: Surroundings,
    pub(super) groups: Vec<Group>,
    pub(super) wake: Wake,
    pub(super) speed: MetresPerSecond,
    /// Whether a current unknown to all may hide in it.
    over_ground: bool,
    /// From the water's place to the ground's: a current carries the water along.
    pub(super) offset: [f64; 2],
    /// What the current did to it in the last moments, m/s.
    pub(super) drift: [f64; 2],
    /// How fast the boat has been turning in the last seconds, rad/s.
    pub(super) turning: f64,
    since_lookup: f64,
    /// What the sounder saw.
    pub soundings: Soundings,
    /// The angler's own bottom.
    pub chart: Chart,
}

impl Twin {
    /// A boat at a place over ground.
    pub fn new(
        surroundings: Surroundings,
        place: [f64; 2],
        heading: f64,
        speed: MetresPerSecond,
    ) -> Self {
        Self {
            surroundings: Surroundings {
                bottom: None,
                ..surroundings
            },
            groups: Vec::new(),
            wake: Wake::at([0.0; 2], heading, STEP),
            speed,
            over_ground: false,
            offset: place,
            drift: [0.0; 2],
            turning: 0.0,
            since_lookup: 0.0,
            soundings: Soundings::default(),
            chart: Chart::default(),
        }
    }

    /// The rods that are in, in this water. What was in with the same line goes on as it runs, also with some of it taken in;
    /// what is new, or another line, starts as it runs straight on at the present speed. Rods that cannot run are left out
    /// and named.
    pub fn set_rods(&mut self, rods: &[Afloat], surroundings: Surroundings) -> Vec<Unfit> {
        let surroundings = Surroundings {
            bottom: None,
            ..surroundings
        };
        let same_water = surroundings == self.surroundings;
        self.surroundings = surroundings;
        let mut old = std::mem::take(&mut self.groups);
        let mut unfit = Vec::new();
        for group in grouped(rods) {
            let kept = old.iter().position(|one| same_water && one.rods == group);
            if let Some(kept) = kept {
                self.groups.push(old.swap_remove(kept));
                continue;
            }
            let first = group[0].number;
            if let Some(place) = old
                .iter()
                .position(|one| same_water && one.is_longer_than(&group))
            {
                self.groups.push(old.swap_remove(place).wound_in(group));
                continue;
            }
            match self.launched(group) {
                Ok(group) => self.groups.push(group),
                Err(why) => unfit.push(Unfit { number: first, why }),
            }
        }
        self.groups.sort_by_key(|group| group.rods[0].number);
        unfit
    }

    /// Starts every line anew as it runs straight on at the present speed.
    pub fn settle(&mut self) {
        let groups = std::mem::take(&mut self.groups);
        self.groups = groups
            .into_iter()
            .filter_map(|group| self.launched(group.rods).ok())
            .collect();
    }

    fn launched(&self, rods: Vec<Afloat>) -> Result<Group, Error> {
        let speed = MetresPerSecond(self.speed.0.max(SLOWEST));
        let (spread, running) = steady(&rods, &self.surroundings, speed)?;
        if let Some(why) = running.lines.iter().find_map(|line| line.refused.clone()) {
            return Err(why);
        }
        let (at, heading) = self.wake.boat();
        let tow = Tow::new(&spread, &self.surroundings, running)?.behind(at, heading);
        let sure = (speed, self.shares(&rods, speed));
        Ok(Group {
            rods,
            tow,
            sure,
            winding: 0.0,
        })
    }

    /// Half of the 80 % band of each rod's depth, as a share of it.
    fn shares(&self, rods: &[Afloat], speed: MetresPerSecond) -> Vec<Option<f64>> {
        let share = |afloat: &Afloat| match &afloat.rod.towed {
            Towed::Rig(rig) => {
                let setup = afloat.rod.line_setup();
                let line = Line::new(rig, &setup, self.surroundings).ok()?;
                let sure = line.sure(speed, afloat.rod.out)?;
                let band = if self.over_ground {
                    sure.over_ground
                } else {
                    sure.depth
                };
                Some((band.high.0 - band.low.0) / (band.high.0 + band.low.0))
            }
            Towed::Lure(_) => Some(TABLE),
            Towed::Unfit(_) => None,
        };
        rods.iter().map(share).collect()
    }

    /// The boat moved on for so many seconds, and is now so.
    pub fn advance(&mut self, seconds: f64, moved: &Moved) {
        let steps = ((seconds / STEP).round() as usize).max(1);
        let (from, (_, before)) = (self.speed.0, self.wake.boat());
        let turned = (moved.heading - before + std::f64::consts::PI)
            .rem_euclid(std::f64::consts::TAU)
            - std::f64::consts::PI;
        for step in 1..=steps {
            let share = step as f64 / steps as f64;
            let speed = MetresPerSecond(from + share * (moved.through.0 - from));
            self.wake.go(speed, before + share * turned);
            for group in &mut self.groups {
                group.wind(STEP);
                group.tow.step(&self.wake);
            }
        }
        self.speed = moved.through;
        let other = moved.over_ground != self.over_ground;
        self.over_ground = moved.over_ground;
        if other {
            self.reckon_shares();
        }
        let share = (seconds / 4.0).min(1.0);
        self.turning += share * ((turned / seconds.max(STEP)).clamp(-0.1, 0.1) - self.turning);
        let (at, _) = self.wake.boat();
        let offset = [moved.place[0] - at[0], moved.place[1] - at[1]];
        // What a receiver's place wanders by in a second is no current: only the drift over half a minute is.
        let share = (seconds / 30.0).min(1.0);
        let before = self.offset;
        for ((drift, now), before) in self.drift.iter_mut().zip(offset).zip(before) {
            let rate = (now - before) / seconds.max(STEP);
            if rate.abs() < 5.0 {
                *drift += share * (rate - *drift);
            }
        }
        self.offset = offset;
        self.since_lookup += seconds;
        if self.since_lookup >= 1.0 {
            self.since_lookup = 0.0;
            self.lay_bottoms();
        }
    }

    /// The boat is elsewhere all at once: what it sounded lies somewhere else.
    pub fn leap(&mut self, place: [f64; 2]) {
        let (at, _) = self.wake.boat();
        self.offset = [place[0] - at[0], place[1] - at[1]];
        self.drift = [0.0; 2];
        self.soundings.cut();
    }

    /// What the sounder says at the place where the boat is.
    pub fn sound(&mut self, depth: Metres) {
        let place = self.place();
        self.soundings.pass(place, depth);
    }

    /// Where the boat is over ground.
    pub fn place(&self) -> [f64; 2] {
        let (at, _) = self.wake.boat();
        self.on_ground([at[0], at[1], 0.0])
    }

    /// Where the boat heads, radians from north through east.
    pub fn heading(&self) -> f64 {
        self.wake.boat().1
    }

    /// Speed through the water.
    pub fn speed(&self) -> MetresPerSecond {
        self.speed
    }

    pub(super) fn on_ground(&self, place: [f64; 3]) -> [f64; 2] {
        [place[0] + self.offset[0], place[1] + self.offset[1]]
    }

    /// How far aside of the boat's way a rod's bottom is looked for.
    pub(super) fn reach(afloat: &Afloat) -> f64 {
        ASIDE + afloat.rod.board.map_or(0.0, |board| board.0) + afloat.rod.tip().starboard.0.abs()
    }

    fn lay_bottoms(&mut self) {
        for number in 0..self.groups.len() {
            for place in 0..self.groups[number].rods.len() {
                let group = &self.groups[number];
                let (rig, _) = group.tow.ends(place);
                let reach = Self::reach(&group.rods[place]);
                let bottom = under(&self.soundings, &self.chart, self.on_ground(rig), reach);
                let floor = bottom.map_or(f64::INFINITY, |under| under.depth.0);
                self.groups[number].tow.lay_bottom(place, Metres(floor));
            }
        }
        let moved = |group: &Group| (group.sure.0 - self.speed).0.abs() > ANOTHER_SPEED;
        if self.speed.0 > SLOWEST && self.groups.iter().any(moved) {
            self.reckon_shares();
        }
    }

    /// How sure the depths are at the present speed.
    fn reckon_shares(&mut self) {
        let speed = MetresPerSecond(self.speed.0.max(SLOWEST));
        for number in 0..self.groups.len() {
            let sure = (speed, self.shares(&self.groups[number].rods, speed));
            self.groups[number].sure = sure;
        }
    }

    /// Every rod as it is now, by number.
    pub fn now(&self) -> Vec<RodNow> {
        let mut all: Vec<RodNow> = self
            .groups
            .iter()
            .flat_map(|group| (0..group.rods.len()).map(|place| self.rod_now(group, place)))
            .collect();
        all.sort_by_key(|rod| rod.number);
        all
    }

    fn rod_now(&self, group: &Group, place: usize) -> RodNow {
        let line = group.tow.line(place, &self.wake);
        let (rig, weight) = group.tow.ends(place);
        let afloat = &group.rods[place];
        let reach = Self::reach(afloat);
        let ground = self.on_ground(rig);
        let clear = |end: [f64; 3]| {
            let bottom = under(&self.soundings, &self.chart, self.on_ground(end), reach)?;
            Some(bottom.depth - Metres(end[2]))
        };
        let ends = [clear(rig), weight.and_then(clear)];
        let on_the_water = line.depth.0 < 0.05;
        let share = group.sure.1[place].filter(|_| !line.on_bottom && !on_the_water);
        RodNow {
            number: afloat.number,
            half: share.map(|share| line.depth * share),
            lowest: Metres(weight.map_or(rig[2], |weight| weight[2].max(rig[2]))),
            bottom: under(&self.soundings, &self.chart, ground, reach),
            clearance: ends
                .into_iter()
                .flatten()
                .reduce(|a, b| if b < a { b } else { a }),
            strip: self.strip(ground, reach),
            place: ground,
            line,
        }
    }

    /// The bottom from a rig's place along the boat's way to where the boat is.
    fn strip(&self, rig: [f64; 2], reach: f64) -> Vec<StripPoint> {
        let boat = self.place();
        let (dx, dy) = (boat[0] - rig[0], boat[1] - rig[1]);
        let far = dx.hypot(dy);
        (0..STRIP)
            .map(|step| {
                let share = step as f64 / (STRIP - 1) as f64;
                let place = [rig[0] + share * dx, rig[1] + share * dy];
                StripPoint {
                    ahead: Metres(share * far),
                    bottom: under(&self.soundings, &self.chart, place, reach),
                }
            })
            .collect()
    }

    /// Whether every blade and lure that works now would work at another speed, and none would hang up: steady, straight on.
    pub(super) fn works_at(&self, speed: MetresPerSecond) -> bool {
        self.groups.iter().all(|group| {
            let now = group
                .rods
                .iter()
                .enumerate()
                .map(|(place, _)| group.tow.line(place, &self.wake).state);
            let worked: Vec<bool> = now.map(|state| state == State::Works).collect();
            let Ok((_, running)) = steady(&group.rods, &self.surroundings, speed) else {
                return false;
            };
            running.lines.iter().zip(worked).all(|(line, worked)| {
                let trips = line.release.is_some_and(|release| release.trips());
                !worked || line.state == State::Works && !trips && line.refused.is_none()
            })
        })
    }
}

/// Rods that share a cable hang together, all others by themselves.
fn grouped(rods: &[Afloat]) -> Vec<Vec<Afloat>> {
    let mut groups: Vec<Vec<Afloat>> = Vec::new();
    for afloat in rods {
        let cable = afloat.rod.setup.lets_out_cable();
        let shared = groups.iter_mut().find(|group| {
            let first = &group[0].rod;
            cable && first.setup.lets_out_cable() && first.holder.side == afloat.rod.holder.side
        });
        match shared {
            Some(group) => group.push(afloat.clone()),
            None => groups.push(vec![afloat.clone()]),
        }
    }
    groups
}

/// Rods as they run straight on.
fn steady(
    rods: &[Afloat],
    surroundings: &Surroundings,
    speed: MetresPerSecond,
) -> Result<(Spread, Running), Error> {
    let spread = Spread {
        speed,
        rods: rods.iter().map(|afloat| afloat.rod.clone()).collect(),
    };
    let running = spread.running(surroundings, None)?;
    Ok((spread, running))
}
