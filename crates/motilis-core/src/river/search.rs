//! The best cast, the slowest retrieve, one cast for many rigs.

use super::cast::{Fineness, Tackle, Thrown, angle_of};
use super::gear::{Angler, Held, Plan};
use super::path::{Path, Zone};
use super::section::Section;
use crate::error::Error;
use crate::towline::TENTH;
use crate::units::{Metres, MetresPerSecond};
use crate::water::Water;
use rayon::prelude::*;

/// Seconds that count at most: what hangs at a lie can be left there as long as one likes.
const LONG_ENOUGH: f64 = 12.0;
/// What a second on the bed costs, and the first touch of it (designed: a snag ends the cast).
const BED_SECOND: f64 = 2.0;
const BED_TOUCH: f64 = 4.0;

/// The water, what is cast into it, from where.
#[derive(Debug, Clone, Copy)]
pub struct Scene<'a> {
    /// The run.
    pub section: &'a Section,
    /// Its water.
    pub water: &'a Water,
    /// Who casts.
    pub angler: &'a Angler,
    /// What is cast.
    pub tackle: &'a Tackle,
}

/// A cast that was tried.
#[derive(Debug, Clone, PartialEq)]
pub struct Tried {
    /// How.
    pub plan: Plan,
    /// Where it went.
    pub path: Path,
    /// Seconds in the zone with the blade turning, off the bed.
    pub zone_seconds: f64,
}

impl Scene<'_> {
    /// Follows one cast.
    ///
    /// # Errors
    /// As [`Plan::check`] and [`Cast::check`](super::Cast::check).
    pub fn path(&self, plan: &Plan, fineness: Fineness) -> Result<Path, Error> {
        plan.check(self.angler)?;
        plan.cast(self.angler)
            .path(self.section, self.tackle, self.water, fineness)
    }

    /// Between which depths the deepest point of a cast lies in eight cases of ten; `path` is the cast itself, and lies between
    /// them even where the bed stops all three.
    ///
    /// Drag over weight decides how far the water carries a lure up. It is unsure by the surface speed (10 %, timed with a
    /// leaf; twice that in the drag), by the lure's drag and by the line's (20 % each, from memory): 28 % in one standard
    /// deviation, which is the speed moved by 14 %.
    ///
    /// # Errors
    /// As [`Scene::path`].
    pub fn deepest_band(&self, plan: &Plan, path: &Path) -> Result<(Metres, Metres), Error> {
        let deepest = |factor: f64| {
            let section = self.section.faster(factor);
            let moved = Scene {
                section: &section,
                ..*self
            };
            Ok::<_, Error>(moved.path(plan, Fineness::COMPARED)?.deepest())
        };
        let off = TENTH * SPEED_UNSURE;
        let all = [deepest(1.0 + off)?, deepest(1.0 - off)?, path.deepest()];
        let (low, high) = all
            .iter()
            .fold((f64::INFINITY, 0.0_f64), |(low, high), one| {
                (low.min(one.0), high.max(one.0))
            });
        Ok((Metres(low), Metres(high)))
    }

    fn tried(&self, plan: Plan, zone: &Zone, fineness: Fineness) -> Option<(f64, Tried)> {
        let path = self.path(&plan, fineness).ok()?;
        let zone_seconds = path.zone_seconds(zone);
        let touches = path.touches();
        let down: f64 = touches.iter().map(|touch| touch.seconds).sum();
        let stays = path.rests_in(zone);
        let there = if stays { LONG_ENOUGH } else { zone_seconds };
        let mut worth = there.min(LONG_ENOUGH) - BED_SECOND * down;
        if !touches.is_empty() {
            worth -= BED_TOUCH;
        }
        if zone_seconds <= 0.0 {
            // Nothing gets there yet: nearer is better, and always worse than being there.
            worth -= 10.0 + zone.apart(&path);
        }
        // Of two alike the shorter cast and the simpler hand.
        worth -= 0.02 * plan.thrown.distance.0 + 0.1 * plan.sink + 0.2 * plan.reel.0;
        worth -= 0.3 * f64::from(plan.lift.is_some());
        Some((
            worth,
            Tried {
                plan,
                path,
                zone_seconds,
            },
        ))
    }

    fn best_of(&self, plans: Vec<Plan>, zone: &Zone, fineness: Fineness) -> Option<(f64, Tried)> {
        plans
            .into_par_iter()
            .filter_map(|plan| self.tried(plan, zone, fineness))
            .max_by(|a, b| a.0.total_cmp(&b.0))
    }

    /// The cast that keeps the lure in a zone the longest, its blade turning and nothing on the bed: all over a coarse grid,
    /// then by steps that get smaller round the best. `None` where nothing can be cast.
    pub fn best_cast(&self, zone: &Zone) -> Option<Tried> {
        let coarse = self.coarse(zone);
        let (mut worth, mut best) = self.best_of(coarse, zone, Fineness::COMPARED)?;
        let mut step = 1.0;
        while step > 0.2 {
            let near = self.near(&best, step);
            match self.best_of(near, zone, Fineness::COMPARED) {
                Some((better, tried)) if better > worth + 1e-6 => {
                    worth = better;
                    best = tried;
                }
                _ => step *= 0.5,
            }
        }
        let path = self.path(&best.plan, Fineness::SHOWN).ok()?;
        Some(Tried {
            plan: best.plan,
            zone_seconds: path.zone_seconds(zone),
            path,
        })
    }

    /// The grid that is looked over first.
    fn coarse(&self, zone: &Zone) -> Vec<Plan> {
        let stand = [0.0, self.angler.stand.0, 0.0];
        let longest = self.angler.longest.0;
        let (toward, far) = match zone {
            Zone::Lie { place, .. } => {
                let far = (place[0] - stand[0]).hypot(place[1] - stand[1]);
                (angle_of(stand, *place), far)
            }
            Zone::Bed | Zone::Depth(_) | Zone::Over(_) => (90.0, 0.6 * longest),
        };
        let mut plans = Vec::new();
        for turn in [-30.0, 0.0, 20.0, 40.0, 60.0, 90.0] {
            for reach in [0.85, 1.05, 1.35, 1.8] {
                let angle_deg = (toward + turn).clamp(5.0, 175.0);
                let distance = Metres((far * reach).clamp(3.0, longest));
                for held in [Held::High, Held::Low] {
                    for reel in [0.0, 0.4, 0.8, 1.4] {
                        for sink in [0.0, 2.0] {
                            plans.push(Plan {
                                thrown: Thrown {
                                    angle_deg,
                                    distance,
                                },
                                held,
                                sink,
                                reel: MetresPerSecond(reel),
                                mend: false,
                                follow: false,
                                lift: None,
                            });
                        }
                    }
                }
            }
        }
        plans.retain(|plan| self.on_water(plan));
        plans
    }

    /// Whether a plan lands on the water.
    fn on_water(&self, plan: &Plan) -> bool {
        let [_, across, _] = plan.lands(self.angler);
        (0.0..=self.section.width().0).contains(&across)
            && plan.check(self.angler).is_ok()
            && plan.thrown.distance <= self.angler.longest
    }

    /// Plans one step away from one.
    fn near(&self, tried: &Tried, step: f64) -> Vec<Plan> {
        let plan = tried.plan;
        let mut plans = Vec::new();
        for (turn, farther, reel, sink) in [
            (12.0, 0.0, 0.0, 0.0),
            (0.0, 2.0, 0.0, 0.0),
            (0.0, 0.0, 0.2, 0.0),
            (0.0, 0.0, 0.0, 1.0),
            (12.0, 2.0, 0.0, 0.0),
            (-12.0, 2.0, 0.0, 0.0),
        ] {
            for sign in [-1.0, 1.0] {
                let by = sign * step;
                plans.push(Plan {
                    thrown: Thrown {
                        angle_deg: (plan.thrown.angle_deg + by * turn).clamp(5.0, 175.0),
                        distance: Metres((plan.thrown.distance.0 + by * farther).max(3.0)),
                    },
                    reel: MetresPerSecond((plan.reel.0 + by * reel).max(0.0)),
                    sink: (plan.sink + by * sink).max(0.0),
                    ..plan
                });
            }
        }
        for held in Held::ALL {
            plans.push(Plan {
                held: *held,
                ..plan
            });
        }
        if let Some(touch) = tried.path.touches().first() {
            plans.push(Plan {
                lift: Some((touch.at - 1.0).max(0.5)),
                ..plan
            });
        }
        if plan.lift.is_some() {
            plans.push(Plan { lift: None, ..plan });
        }
        plans.retain(|plan| self.on_water(plan));
        plans
    }

    /// The slowest speed of the reel with which the blade turns, off the bed, through nearly all of a cast once it is taken up;
    /// `None` when nothing a hand can reel is enough.
    ///
    /// # Errors
    /// As [`Scene::path`].
    pub fn slowest_retrieve(&self, plan: &Plan) -> Result<Option<MetresPerSecond>, Error> {
        let turns = |reel: f64| -> Result<bool, Error> {
            let plan = Plan {
                reel: MetresPerSecond(reel),
                sink: 0.0,
                ..*plan
            };
            let path = self.path(&plan, Fineness::COMPARED)?;
            let fishing = |moment: &super::Moment| moment.at > TAKEN_UP;
            let all = path.seconds_while(fishing);
            let turning =
                path.seconds_while(|moment| fishing(moment) && moment.works() && !moment.on_bed);
            Ok(all > 0.0 && turning >= NEARLY_ALL * all)
        };
        // From below, since a rig that is reeled too fast rolls over.
        let (mut slow, mut fast) = (0.0, 0.0);
        while !turns(fast)? {
            slow = fast;
            fast += COARSE;
            if fast > FASTEST {
                return Ok(None);
            }
        }
        while fast - slow > 0.02 {
            let middle = 0.5 * (slow + fast);
            if turns(middle)? {
                fast = middle;
            } else {
                slow = middle;
            }
        }
        Ok(Some(MetresPerSecond(fast)))
    }
}

/// By how much the speed is moved for all that is unsure, one standard deviation.
const SPEED_UNSURE: f64 = 0.14;
/// Seconds until a cast is taken up and the blade may be asked for.
const TAKEN_UP: f64 = 1.5;
/// The share of a cast through which the blade is asked to turn.
const NEARLY_ALL: f64 = 0.95;
/// Steps in which a speed of the reel is looked for first, m/s.
const COARSE: f64 = 0.2;
/// The fastest a hand reels, m/s; from memory.
const FASTEST: f64 = 2.5;

/// The speed at which line must be taken in so that the water meets the lure at a speed, drawn upstream (`along` 1), across
/// (0) or downstream (−1) through water of a speed: nothing where the current alone is enough.
pub fn reel_for(met: MetresPerSecond, current: MetresPerSecond, along: f64) -> MetresPerSecond {
    // |u + r a|² = u² + 2 u r a + r² = met², for the larger r.
    let (u, a) = (current.0, along.clamp(-1.0, 1.0));
    let under = met.0 * met.0 - u * u * (1.0 - a * a);
    if under <= 0.0 {
        return MetresPerSecond(0.0);
    }
    MetresPerSecond((under.sqrt() - u * a).max(0.0))
}
