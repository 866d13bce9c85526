use super::cast::{Fineness, Tackle};
use super::gear::{Angler, Plan};
use super::path::{Moment, Path, Zone};
use super::search::Scene;
use super::section::Section;
use crate::blade::State;
use crate::rig::BodyShape;
use crate::units::{FOOT, Metres, MetresPerSecond};
use crate::water::Water;
use rayon::prelude::*;

/// What keeps a rig from the zone, or that nothing does.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Why {
    /// It is there.
    There,
    /// It lies on the bed from so many seconds on.
    OnBed(f64),
    /// Its blade stands for that share of the time.
    Stalls(f64),
    /// It rolls over for that share of the time.
    RollsOver(f64),
    /// It runs that far over the bed at its deepest.
    High(Metres),
    /// It passes the place at that distance.
    Past(Metres),
}

/// A rig tried on a cast.
#[derive(Debug, Clone, PartialEq)]
pub struct Ranked {
    /// Its place in what was given.
    pub place: usize,
    /// Where it goes.
    pub path: Path,
    /// Seconds in the zone with its blade turning, off the bed.
    pub zone_seconds: f64,
    /// Seconds on the bed.
    pub bed_seconds: f64,
    /// Why it stands where it stands.
    pub why: Why,
}

/// Half of its time is a lot.
const MOSTLY: f64 = 0.5;

/// Tries every tackle on one cast and puts them in order of their time in a zone; what lies on the bed comes later. What
/// cannot be cast so is left out.
pub fn rank(
    section: &Section,
    water: &Water,
    angler: &Angler,
    plan: &Plan,
    zone: &Zone,
    tackles: &[Tackle],
) -> Vec<Ranked> {
    let tried = tackles
        .par_iter()
        .enumerate()
        .filter_map(|(place, tackle)| {
            let scene = Scene {
                section,
                water,
                angler,
                tackle,
            };
            let path = scene.path(plan, Fineness::COMPARED).ok()?;
            let zone_seconds = path.zone_seconds(zone);
            Some(Ranked {
                place,
                why: why(&path, zone, zone_seconds),
                zone_seconds,
                bed_seconds: path.seconds_while(|moment| moment.on_bed),
                path,
            })
        });
    let mut ranked: Vec<Ranked> = tried.collect();
    let worth = |one: &Ranked| one.zone_seconds - one.bed_seconds;
    ranked.sort_by(|a, b| worth(b).total_cmp(&worth(a)));
    ranked
}

fn why(path: &Path, zone: &Zone, zone_seconds: f64) -> Why {
    if let Some(touch) = path.touches().first() {
        return Why::OnBed(touch.at);
    }
    let share = |state| {
        path.seconds_while(|moment: &Moment| moment.state == state) / path.seconds().max(1e-9)
    };
    let stalls = share(State::Stalled);
    if stalls > MOSTLY {
        return Why::Stalls(stalls);
    }
    let rolls = share(State::RollingOver);
    if rolls > MOSTLY {
        return Why::RollsOver(rolls);
    }
    if zone_seconds > 0.0 {
        return Why::There;
    }
    if let Zone::Lie { place, .. } = zone {
        return Why::Past(path.nearest(*place));
    }
    let over = path.moments.iter().map(|moment| moment.over_bed().0);
    Why::High(Metres(over.fold(f64::INFINITY, f64::min)))
}

/// The body practice puts into a run (CP-21: torpedo for runs to 6 ft deep at walking pace and more, bell for fast water under
/// 6 ft; common practice, no source); `None` for slow water.
pub fn body_by_practice(depth: Metres, surface: MetresPerSecond) -> Option<BodyShape> {
    if surface.0 >= FAST && depth < 6.0 * FOOT {
        Some(BodyShape::Bell)
    } else if surface.0 >= WALKING {
        Some(BodyShape::Torpedo)
    } else {
        None
    }
}

/// Walking pace begins here, fast water there, m/s; from memory.
const WALKING: f64 = 0.9;
const FAST: f64 = 1.7;
