//! The boat under way: what its instruments say, where every line is now, and what is about to happen to it.
//!
//! - [`Said`] is one thing that an instrument said, [`Instruments`] what all of them said last, each [`Figure`] with its
//!   age; [`Instruments::through`] finds the speed through the water and names its [`Source`]; [`Legs`] learns the current
//!   from stretches gone straight on.
//! - [`Soundings`] is the bottom along the way just gone, [`Chart`] the angler's own bottom of a water.
//! - [`Twin`] tows the rods that are in behind the boat's real movement, in the lumped masses of [`crate::motion`]; the
//!   bottom under each is what the sounder saw there before. [`Twin::ahead`] tows a copy of it on, and tells which
//!   rod will touch, when, and the least act that keeps all of them off.
//!
//! # Places
//! Metres to the north and east of a plane's origin; headings from north through east, so that the second axis lies to
//! starboard of a boat that goes north.

mod ahead;
mod instruments;
mod legs;
mod moment;
mod said;
mod soundings;
mod twin;

pub use ahead::{Ahead, Heed, Mark, Passing, Slow, Warning};
pub use instruments::{Figure, Freshness, Instruments, Remark, Source, Through};
pub use legs::{LearnedCurrent, Legs, StraightLeg};
pub use moment::{Moment, RodThen};
pub use said::{BoatFix, Said};
pub use soundings::{CELL, Cell, Chart, Soundings, Under, under};
pub use twin::{Afloat, Moved, RodNow, StripPoint, Twin, Unfit};
