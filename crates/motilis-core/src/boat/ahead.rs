use super::soundings::under;
use super::twin::{Afloat, REELED, Twin};
use crate::motion::{Tow, Wake};
use crate::units::{FOOT, MILE_PER_HOUR, Metres, MetresPerSecond};

/// A step of the look ahead, s: the chains are stable at any, and run straight on.
const STEP: f64 = 0.5;
/// The longest look, s.
const LONGEST: f64 = 120.0;
/// Before anybody does anything, s; how fast a boat changes speed, m/s². From memory.
const HAND: f64 = 3.0;
const THRUST: f64 = 0.25;
/// A rig that comes so near the bottom touches it; one that was farther off cleared it; an act, and an all-clear, keep so much,
/// m. Designed.
const TOUCHES: f64 = 0.05;
const CLEARED: f64 = 0.3;
const KEEPS: f64 = 0.3;
/// A turn that is being made goes on for so long, s: a bend with lines out. From memory.
const BEND: f64 = 12.0;
/// How far a mark reaches, m; how far over a fish a rig should pass (CP-23), and how near to that is near enough, m.
const MARK: f64 = 8.0;
const OVER: f64 = 0.6;
const NEAR: f64 = 0.4;
/// A fish that was marked longer ago has gone, s; from memory.
const GONE: f64 = 900.0;

/// What can be done.
#[derive(Debug, Clone, PartialEq)]
pub enum Heed {
    /// Go at this speed through the water.
    Speed(MetresPerSecond),
    /// Take so much line in, rod by rod.
    WindIn(Vec<(u8, Metres)>),
}

impl Heed {
    /// How much of an effort it is: a tenth of a mile an hour, four feet of line, and another rod to go to, count alike. Designed.
    fn effort(&self, now: MetresPerSecond) -> f64 {
        match self {
            Self::Speed(speed) => (*speed - now).0.abs() / (0.1 * MILE_PER_HOUR.0),
            Self::WindIn(rods) => {
                let feet: f64 = rods.iter().map(|(_, length)| *length / FOOT).sum();
                rods.len() as f64 + feet / 4.0
            }
        }
    }
}

/// A rod that will touch.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Warning {
    /// Its number.
    pub rod: u8,
    /// In how many seconds.
    pub in_s: f64,
    /// How deep its lowest part would run in the bottom.
    pub by: Metres,
    /// One standard deviation of the bottom there: by how far aside it was sounded.
    pub sure: Metres,
}

/// A fish that was seen on the sounder.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mark {
    /// Its number.
    pub id: i64,
    /// Where, metres to the north and east.
    pub place: [f64; 2],
    /// How deep.
    pub depth: Metres,
    /// How long ago.
    pub age_s: f64,
}

/// A slower moment that lets a rig down.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Slow {
    /// Speed through the water.
    pub to: MetresPerSecond,
    /// For how many seconds.
    pub for_s: f64,
}

/// A rod that passes a mark.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Passing {
    /// Its number.
    pub rod: u8,
    /// The mark's.
    pub mark: i64,
    /// In how many seconds.
    pub in_s: f64,
    /// How far over the fish; below it under zero.
    pub over: Metres,
    /// What brings it down to it, where that takes something and nothing else suffers.
    pub slow: Option<Slow>,
}

/// What will happen if the boat goes straight on as it does.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Ahead {
    /// Rods that will touch, the earliest first.
    pub warnings: Vec<Warning>,
    /// What keeps all of them off, the least first.
    pub heed: Vec<Heed>,
    /// Rods that pass a mark, the earliest first.
    pub passing: Vec<Passing>,
}

/// What is done in a look ahead.
#[derive(Debug, Clone, Copy)]
struct Plan<'a> {
    /// Speed that is gone to, after the hand's delay, for so long.
    speed: Option<(MetresPerSecond, f64)>,
    wound: &'a [(u8, Metres)],
}

const AS_IT_IS: Plan<'static> = Plan {
    speed: None,
    wound: &[],
};

/// Where a rod's ends are at an instant of the look.
struct Instant {
    at_s: f64,
    rig: [f64; 2],
    depth: f64,
    /// How far the nearer end clears the bottom, and how sure that bottom is.
    clearance: Option<(f64, Metres)>,
}

/// A rod's look ahead.
struct Look {
    number: u8,
    instants: Vec<Instant>,
}

impl Look {
    /// When it first touches, though it is clear now, and by how much it would. One that was warned of goes on being until
    /// it touches.
    fn touches(&self, warned: bool) -> Option<Warning> {
        let (first, _) = self.instants.iter().find_map(|instant| instant.clearance)?;
        if first < if warned { 0.0 } else { CLEARED } {
            return None;
        }
        let near = if warned { KEEPS } else { TOUCHES };
        let (in_s, sure) = self.instants.iter().find_map(|instant| {
            let (clear, sure) = instant.clearance?;
            (clear < near).then_some((instant.at_s, sure))
        })?;
        Some(Warning {
            rod: self.number,
            in_s,
            sure,
            by: Metres((-self.least()).max(0.0)),
        })
    }

    fn least(&self) -> f64 {
        self.instants
            .iter()
            .filter_map(|instant| Some(instant.clearance?.0))
            .fold(f64::INFINITY, f64::min)
    }

    fn keeps_clear(&self) -> bool {
        self.least() >= KEEPS
    }
}

impl Twin {
    /// Tows a copy of all lines straight on until they have passed where the boat is now, and tells what happens.
    ///
    /// - `before`: what was seen ahead a moment before: a rod warned of then stays warned of until it touches.
    /// - `anew`: whether what can be done is looked for anew; else what was found for the same rods still holds.
    pub fn ahead(&self, marks: &[Mark], before: Option<&Ahead>, anew: bool) -> Ahead {
        if self.speed.0 < 0.1 || self.groups.is_empty() {
            return Ahead::default();
        }
        let looks = self.look(self.horizon(), AS_IT_IS, |_| true);
        let known = before.map_or(&[][..], |before| &before.warnings);
        let warned = |rod: u8| known.iter().any(|warning| warning.rod == rod);
        let mut warnings: Vec<Warning> = looks
            .iter()
            .filter_map(|look| look.touches(warned(look.number)))
            .collect();
        warnings.sort_by(|a, b| a.in_s.total_cmp(&b.in_s));
        let mut passing: Vec<Passing> = looks
            .iter()
            .flat_map(|look| marks.iter().filter_map(|mark| self.passing(look, mark)))
            .collect();
        passing.sort_by(|a, b| a.in_s.total_cmp(&b.in_s));
        let same = |ahead: &&Ahead| numbers(&ahead.warnings) == numbers(&warnings);
        let heed = match before.filter(|_| !anew).filter(same) {
            Some(before) => before.heed.clone(),
            None => self.heed(&warnings),
        };
        Ahead {
            warnings,
            heed,
            passing,
        }
    }

    /// Until the last rig is where the boat is now.
    fn horizon(&self) -> f64 {
        let boat = self.place();
        let behind = self.groups.iter().flat_map(|group| {
            (0..group.rods.len()).map(|place| {
                let rig = self.on_ground(group.tow.ends(place).0);
                (boat[0] - rig[0]).hypot(boat[1] - rig[1])
            })
        });
        (behind.fold(0.0, f64::max) / self.speed.0 + 2.0).min(LONGEST)
    }

    fn look(&self, seconds: f64, plan: Plan<'_>, whom: impl Fn(u8) -> bool) -> Vec<Look> {
        let mut wake: Wake = self.wake.clone().in_steps_of(STEP);
        let mut heading = wake.boat().1;
        let chosen = self
            .groups
            .iter()
            .filter(|group| group.rods.iter().any(|rod| whom(rod.number)));
        let mut tows: Vec<(&[Afloat], Tow)> = chosen
            .map(|group| (&group.rods[..], group.tow.clone()))
            .collect();
        let mut looks: Vec<Look> = Vec::new();
        for (rods, tow) in &mut tows {
            for (place, afloat) in rods.iter().enumerate() {
                tow.lay_bottom(place, Metres(f64::INFINITY));
                looks.push(Look {
                    number: afloat.number,
                    instants: Vec::new(),
                });
            }
        }
        let mut speed = self.speed.0;
        let steps = (seconds / STEP).ceil() as usize;
        for step in 0..=steps {
            let t = step as f64 * STEP;
            if step > 0 {
                let asked = plan
                    .speed
                    .filter(|(_, lasts)| t > HAND && t <= HAND + lasts)
                    .map_or(self.speed.0, |(asked, _)| asked.0);
                speed += (asked - speed).clamp(-THRUST * STEP, THRUST * STEP);
                if t < BEND {
                    heading += self.turning * STEP;
                }
                wake.go(MetresPerSecond(speed), heading);
                for (rods, tow) in &mut tows {
                    wind(tow, rods, plan.wound, t);
                    tow.step(&wake);
                }
            }
            // Once a second is enough of a bottom.
            if step % 2 == 0 {
                let ends = tows.iter().flat_map(|(rods, tow)| {
                    rods.iter()
                        .enumerate()
                        .map(|(place, afloat)| (afloat, tow.ends(place)))
                });
                for (look, (afloat, ends)) in looks.iter_mut().zip(ends) {
                    look.instants.push(self.instant(t, afloat, ends));
                }
            }
        }
        looks
    }

    fn instant(
        &self,
        at_s: f64,
        afloat: &Afloat,
        (rig, weight): ([f64; 3], Option<[f64; 3]>),
    ) -> Instant {
        let reach = Self::reach(afloat);
        let carried = |place: [f64; 3]| {
            let [x, y] = self.on_ground(place);
            [x + self.drift[0] * at_s, y + self.drift[1] * at_s]
        };
        let clear = |end: [f64; 3]| {
            let bottom = under(&self.soundings, &self.chart, carried(end), reach)?;
            Some((bottom.depth.0 - end[2], bottom.sure))
        };
        let ends = [clear(rig), weight.and_then(clear)];
        Instant {
            at_s,
            rig: carried(rig),
            depth: rig[2],
            clearance: ends
                .into_iter()
                .flatten()
                .reduce(|a, b| if b.0 < a.0 { b } else { a }),
        }
    }

    /// What keeps all rods off that would touch, tried on all lines: a higher speed, and the least that each must be wound in.
    fn heed(&self, warnings: &[Warning]) -> Vec<Heed> {
        if warnings.is_empty() {
            return Vec::new();
        }
        let seconds = self.horizon();
        let warned = |number: u8| warnings.iter().any(|warning| warning.rod == number);
        let clear = |looks: Vec<Look>| {
            looks
                .iter()
                .filter(|look| warned(look.number))
                .all(Look::keeps_clear)
        };
        let tenth = 0.1 * MILE_PER_HOUR.0;
        let first = (self.speed.0 / tenth).floor() + 1.0;
        let faster = (0..8)
            .map(|more| MetresPerSecond((first + f64::from(more)) * tenth))
            .filter(|speed| self.works_at(*speed))
            .find(|speed| {
                let plan = Plan {
                    speed: Some((*speed, f64::INFINITY)),
                    wound: &[],
                };
                clear(self.look(seconds, plan, warned))
            });
        let wound: Option<Vec<(u8, Metres)>> = warnings
            .iter()
            .map(|warning| self.wound(seconds, warning.rod))
            .collect();
        let mut all: Vec<Heed> = faster
            .map(Heed::Speed)
            .into_iter()
            .chain(wound.map(Heed::WindIn))
            .collect();
        all.sort_by(|a, b| a.effort(self.speed).total_cmp(&b.effort(self.speed)));
        all
    }

    /// The least a rod must be wound in, in steps of two feet, up to half of what is out.
    fn wound(&self, seconds: f64, number: u8) -> Option<(u8, Metres)> {
        let mut rods = self.groups.iter().flat_map(|group| &group.rods);
        let afloat = rods.find(|rod| rod.number == number)?;
        let most = (afloat.rod.out / FOOT / 2.0) as u32;
        let enough = |feet: u32| {
            let wound = [(number, f64::from(feet) * FOOT)];
            let plan = Plan {
                speed: None,
                wound: &wound,
            };
            let looks = self.look(seconds, plan, |one| one == number);
            looks
                .iter()
                .filter(|look| look.number == number)
                .all(Look::keeps_clear)
        };
        // More line in never hurts: the least is between the last that was not enough and the first that was.
        let (mut least, mut found) = (0, None);
        for feet in [4, 8, 16, 32, 64, 128] {
            if feet > most {
                break;
            }
            if enough(feet) {
                found = Some(feet);
                break;
            }
            least = feet;
        }
        let mut found = found?;
        while found - least > 2 {
            let middle = u32::midpoint(least, found) / 2 * 2;
            if middle == least {
                break;
            }
            if enough(middle) {
                found = middle;
            } else {
                least = middle;
            }
        }
        Some((number, f64::from(found) * FOOT))
    }

    fn passing(&self, look: &Look, mark: &Mark) -> Option<Passing> {
        if mark.age_s > GONE {
            return None;
        }
        let far = |instant: &Instant| {
            (instant.rig[0] - mark.place[0]).hypot(instant.rig[1] - mark.place[1])
        };
        let (nearest, instant) = look
            .instants
            .iter()
            .map(|instant| (far(instant), instant))
            .min_by(|a, b| a.0.total_cmp(&b.0))?;
        let is_passed = instant.at_s == 0.0;
        if nearest > MARK || is_passed {
            return None;
        }
        let over = mark.depth.0 - instant.depth;
        Some(Passing {
            rod: look.number,
            mark: mark.id,
            in_s: instant.at_s,
            over: Metres(over),
            slow: (over > OVER + NEAR)
                .then(|| self.slow(look.number, mark, instant.at_s))
                .flatten(),
        })
    }

    /// The least slowing that lets a rig down to a fish in time, its blade still at work and clear of the bottom.
    fn slow(&self, number: u8, mark: &Mark, in_s: f64) -> Option<Slow> {
        let tenth = 0.1 * MILE_PER_HOUR.0;
        let last = (self.speed.0 / tenth).ceil() - 1.0;
        for less in 0..6 {
            let to = MetresPerSecond((last - f64::from(less)) * tenth);
            if to.0 < 2.0 * tenth || !self.works_at(to) {
                break;
            }
            // Slower, it comes there later.
            let for_s = (in_s * self.speed.0 / to.0 - HAND).max(2.0);
            let plan = Plan {
                speed: Some((to, for_s)),
                wound: &[],
            };
            let looks = self.look(HAND + for_s, plan, |one| one == number);
            let look = looks.iter().find(|look| look.number == number)?;
            let at = look.instants.last()?;
            let over = mark.depth.0 - at.depth;
            if !look
                .instants
                .iter()
                .all(|one| one.clearance.is_none_or(|(clear, _)| clear > TOUCHES))
            {
                break;
            }
            if over <= OVER + NEAR {
                return (over > -NEAR).then_some(Slow {
                    to,
                    for_s: for_s.round(),
                });
            }
        }
        None
    }
}

/// Numbers of the rods that are warned of.
fn numbers(warnings: &[Warning]) -> Vec<u8> {
    let mut numbers: Vec<u8> = warnings.iter().map(|warning| warning.rod).collect();
    numbers.sort_unstable();
    numbers
}

fn wind(tow: &mut Tow, rods: &[Afloat], wound: &[(u8, Metres)], t: f64) {
    for (place, afloat) in rods.iter().enumerate() {
        let Some((_, length)) = wound.iter().find(|(number, _)| *number == afloat.number) else {
            continue;
        };
        let done = (REELED * (t - HAND - STEP)).max(0.0);
        let now = (REELED * (t - HAND)).clamp(0.0, length.0);
        if now > done {
            tow.reel_in(place, Metres(now - done));
        }
    }
}
