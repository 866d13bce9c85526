//! Which rig, today: judges rigs against the conditions of an outing, with reasons.
//!
//! - [`Day`]: the conditions; [`overhead`] puts sun and moon in their place.
//! - [`Candidate`]: a rig that lies made up or can be built; [`variants`] swaps its blade for others of the box.
//! - [`Ways`]: [`Schools`] followed, [`Weights`] of the terms, the limits of the typed-in rules, the angler.
//! - [`Judge`]: first what is hard ([`Verdict`], [`Reason`]: box, rules, speed, depth, build), then the sum of
//!   named [`Term`]s, each −1 to 1 times its weight. A term's points are computed from its [`Basis`] alone,
//!   which is also what its reason shows.
//! - [`draw_up`]: the call sheet of a first call, a contrast and a probe; [`what_would_change`] judges again
//!   with one condition moved.
//!
//! All of it is deterministic, and the order in which candidates are given makes no difference: ties go by
//! name. Rules of practice are common practice without a source; weights are designed for this project.

mod call;
mod candidate;
mod count;
mod day;
mod judge;
mod look;
mod outfit;
mod ramp;
mod school;
mod sheet;
mod term;
mod weight;

pub use call::{Call, Reason, Verdict};
pub use candidate::{Candidate, Shortage, Stand, variants, worth_swapping};
pub use day::{Clearness, Day, Lighting, Mood, Response, Sky, Wind, overhead};
pub use judge::{Judge, Ranked, Ranking};
pub use look::{GLOW_MIN, paint};
pub use outfit::{Outfit, Tool};
pub use ramp::Shares;
pub use school::{
    AboveClevisSchool, AttractorSchool, ColourSchool, FlasherBladeSchool, HeightSchool, HookSchool,
    LeaderSchool, Question, Schools, WeightSchool,
};
pub use sheet::{
    Changed, Mark, Misfit, Move, Nothing, Pick, Role, Sheet, before, differences, draw_up, moves,
    what_would_change,
};
pub use term::{Basis, Scored, Term};
pub use weight::{WEIGHT, Ways, Weights};

#[cfg(test)]
pub(crate) mod tests_support {
    pub(crate) use super::day::tests::summer;
}
