//! What the log says: fish per rod-hour, with how sure that is.
//!
//! `hours` tells how long a rig was in the water: passes, an outing's [`Span`], entries that count and entries
//! that lie beyond it. `rate` is what fish and hours make of a rig's rate; `compare` holds rates against each other, also
//! within the same places and hours, and has the words for it.
//!
//! Fish on a line are taken as a Poisson process with a constant rate; the rate's prior is a gamma
//! distribution of shape ½ around what the angler catches on the whole, so that a rig nobody fished stands
//! at the angler's mean and a few fish move it little. The posterior is a gamma distribution again (the
//! conjugate pair; Gelman et al. 2013, *Bayesian Data Analysis*, 3rd ed., ch. 2, from memory).

mod compare;
mod experiment;
mod hours;
mod rate;
mod stretch;
mod switch;

pub use compare::{Compared, ENOUGH_HOURS, Ratio, Stratum, Verdict, best_of, stratified};
pub use experiment::{Arm, Experiment, Standing, Stop, Way, deal, standing};
pub use hours::{AFTER_LAST, End, Entry, LONGEST, Logged, Pass, Ran, Span, records, whole};
pub use rate::{Angler, Belief, Record};
pub use stretch::{
    CLARITY, DEPTH_BAND, Group, Grouping, Key, LEAD_BAND, Light, Named, SPEED_BAND, Stretch,
    Traits, WARMTH_BAND, grouped, strata, together,
};
pub use switch::{OnRod, SwitchCall, switch};
