//! What a rig goes out on: whether its line and weight fit the depth, and what would be put on where they do not.

use super::call::{Call, Reason, Verdict};
use super::candidate::Candidate;
use super::day::{Day, Mood};
use super::judge::{Judge, Ranked, Ranking};
use crate::error::Error;
use crate::fish::Fish;
use crate::line::{LineSetup, OutFor, Start};
use crate::tackle::{LineMaterial, Weight};
use crate::units::{FOOT, Kilograms, Metres, OUNCE};
use std::sync::Arc;

/// What takes a line down, as far as it decides how much line is too much.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Tool {
    /// A sinker, or nothing.
    Sinker,
    /// A diver.
    Diver,
    /// Lead-core, copper or wire.
    Core,
    /// A downrigger's ball.
    Ball,
}

impl Tool {
    /// That of a set-up.
    pub fn of(setup: &LineSetup) -> Self {
        let heavy = |material| {
            matches!(
                material,
                LineMaterial::LeadCore | LineMaterial::Copper | LineMaterial::SteelWire
            )
        };
        match (setup.start, setup.weight) {
            (Start::Downrigger { .. }, _) => Self::Ball,
            (_, Some(Weight::TripDiver(..) | Weight::FloatDiver(_))) => Self::Diver,
            _ if heavy(setup.main.material) || setup.core.is_some() => Self::Core,
            _ => Self::Sinker,
        }
    }

    /// Line out over depth up to which nobody minds it, and at which it is no call (common practice, no source: an ounce
    /// from 30 ft down gives way to two; lead-core goes 5 ft a colour of 30).
    fn lengths(self) -> (f64, f64) {
        match self {
            Self::Sinker => (2.8, 5.0),
            Self::Diver => (4.0, 7.0),
            Self::Core => (7.0, 12.0),
            Self::Ball => (2.0, 4.0),
        }
    }
}

/// Depths above which a ball is no tool for it, and from which it is (common practice, no source).
const BALL: (Metres, Metres) = (Metres(3.7), Metres(6.0));

/// How well a tool with so much out fits a depth, −1 to 0.3.
pub(super) fn points(tool: Tool, out: Option<Metres>, depth: Metres) -> f64 {
    let Some(out) = out else {
        return -1.0;
    };
    let fall = |figure: f64, good: f64, bad: f64| {
        0.3 - 1.3 * ((figure - good) / (bad - good)).clamp(0.0, 1.0)
    };
    let (good, bad) = tool.lengths();
    let by_length = fall(out / depth, good, bad);
    if tool == Tool::Ball {
        return by_length.min(fall(-depth.0, -BALL.1.0, -BALL.0.0));
    }
    by_length
}

/// Why a tool with so much out does not fit a depth.
pub(super) fn misfit(tool: Tool, out: Metres, depth: Metres) -> Option<Reason> {
    let (good, bad) = tool.lengths();
    if tool == Tool::Ball && depth < BALL.0 {
        return Some(Reason::BallForShallow { depth });
    }
    // Half way from what nobody minds to what nobody does.
    (out / depth > 0.5 * (good + bad)).then_some(Reason::LongLine { out, depth })
}

/// What a call puts on instead of what the set-up has.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Outfit {
    /// Another mass of the weight.
    pub weight: Option<Kilograms>,
    /// Another set-up of the box, by its place among [`super::Ways::tools`].
    pub tool: Option<usize>,
    /// Another lead.
    pub lead: Option<Metres>,
    /// More line between release and leader.
    pub back: Option<Metres>,
}

/// Weights that a rig is put on when its own is too light.
const HEAVIER: [f64; 7] = [0.5, 1.0, 1.5, 2.0, 3.0, 4.0, 6.0];
/// Leads so many times practice's or more are tied anew.
const OTHER_LEAD: f64 = 1.3;
/// Distance behind the ball for shy landlocked salmon: double the usual, 60 to 80 ft (CP-19; common practice, no source).
const SHY_BACK: (Metres, Metres) = (Metres(60.0 * 0.3048), Metres(80.0 * 0.3048));

impl Judge<'_> {
    /// A ranked candidate judged on what it would go out on: its own set-up with the lead of practice, else with a heavier
    /// weight, else another tool of the box.
    ///
    /// # Errors
    /// As [`Judge::settle`].
    pub fn outfitted(
        &self,
        candidates: &[Candidate],
        ranking: &Ranking,
        row: &Ranked,
    ) -> Result<(Call, Arc<LineSetup>, Outfit), Error> {
        let own = &candidates[row.index];
        if self.day().river {
            let call = self.settle_on(own, &own.setup, ranking, row)?;
            return Ok((call, Arc::clone(&own.setup), Outfit::default()));
        }
        let (setup, outfit) = mended(self.day(), &own.setup);
        let call = self.settle_on(own, &setup, ranking, row)?;
        if !is_of_the_tool(&call.reason) {
            return Ok((call, setup, outfit));
        }
        let heavier = HEAVIER.iter().filter_map(|ounces| {
            let (mass, weight) = (*ounces * OUNCE, own.setup.weight?);
            (weight.mass()? < mass).then(|| {
                let setup = LineSetup {
                    weight: Some(weight.with_mass(mass)),
                    ..(*own.setup).clone()
                };
                let outfit = Outfit {
                    weight: Some(mass),
                    ..Outfit::default()
                };
                (Arc::new(setup), outfit)
            })
        });
        let others = self.ways().tools.iter().enumerate().map(|(place, tool)| {
            let outfit = Outfit {
                tool: Some(place),
                ..Outfit::default()
            };
            (Arc::clone(tool), outfit)
        });
        for (tool, changes) in heavier.chain(others) {
            let (setup, mends) = mended(self.day(), &tool);
            let Ok(other) = self.settle_on(own, &setup, ranking, row) else {
                continue;
            };
            if other.verdict == Verdict::Works {
                let outfit = Outfit {
                    weight: changes.weight,
                    tool: changes.tool,
                    ..mends
                };
                return Ok((other, setup, outfit));
            }
        }
        Ok((call, setup, outfit))
    }
}

/// A set-up with the lead and setback that practice gives it on a day.
fn mended(day: &Day, setup: &Arc<LineSetup>) -> (Arc<LineSetup>, Outfit) {
    let mut outfit = Outfit::default();
    let mut changed = (**setup).clone();
    let lead = half_feet(day.lead());
    let factor = setup.lead / lead;
    if Tool::of(setup) == Tool::Sinker
        && setup.weight.is_some()
        && !(1.0 / OTHER_LEAD..=OTHER_LEAD).contains(&factor)
    {
        outfit.lead = Some(lead);
        changed.lead = lead;
    }
    let landlocked = matches!(
        day.fish,
        Fish::LandlockedSockeye | Fish::LandlockedChinook | Fish::LandlockedAtlantic
    );
    if let (Start::Downrigger { drop_back, .. }, true) =
        (&mut changed.start, landlocked && day.mood == Mood::Shy)
    {
        let behind = (2.0 * (*drop_back + setup.lead).0).clamp(SHY_BACK.0.0, SHY_BACK.1.0);
        let back = Metres((behind - setup.lead.0).max(drop_back.0));
        if back > *drop_back {
            outfit.back = Some(back);
            *drop_back = back;
        }
    }
    if outfit == Outfit::default() {
        (Arc::clone(setup), outfit)
    } else {
        (Arc::new(changed), outfit)
    }
}

/// To the half foot: nobody ties a leader nearer.
fn half_feet(length: Metres) -> Metres {
    0.5 * (2.0 * (length / FOOT)).round() * FOOT
}

/// Whether something else to take it down would mend it.
fn is_of_the_tool(reason: &Reason) -> bool {
    matches!(
        reason,
        Reason::TooDeep { .. }
            | Reason::TooShallow { .. }
            | Reason::Drags
            | Reason::LongLine { .. }
            | Reason::BallForShallow { .. }
    )
}

/// What is out for a depth, where it can be had.
pub(super) fn out_of(out: &OutFor) -> Option<Metres> {
    match out {
        OutFor::Out(run) => Some(run.out),
        _ => None,
    }
}
