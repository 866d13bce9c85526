//! One line out behind the boat: a rig on a rod's line set-up, at a speed, in the water of the day.
//!
//! A [`LineSetup`] is what a rod is rigged with; a [`Line`] joins it with a [`Rig`](crate::rig::Rig) and the
//! [`Surroundings`]. [`Line::run`] tells where it runs with so much let out, [`Line::out_for`] how
//! much to let out for a depth. "Out" is the setback from rod tip or board to the weight (to the leader's
//! end where there is no weight); on a downrigger it is the cable, counted from the water.

mod bottom_touch;
mod dive_curve;
mod rigging;
mod run;
mod setup;
mod sure;
mod twist;

pub use bottom_touch::BottomTouch;
pub use dive_curve::{Apart, DiveFit, Touch};
pub(crate) use rigging::{Clipped, Depth, Hung, Rigging, pull};
pub(crate) use run::{BOTTOM, against};
pub use run::{Bottom, Line, OutFor, Run, Surroundings};
pub use setup::{COLOUR, Changes, Core, LineSetup, Start};
pub use sure::{Learned, SPREADS, Sure, UNKNOWN_CURRENT};
pub use twist::{End, Twist};
