//! What Motilis computes, and nothing else: no files, no clock, no network, no markup.
//!
//! Four nouns carry the work, each resting on the one before:
//!
//! - [`blade`]: one spinner blade in moving water, from its start to roll-over;
//! - [`rig`]: an ordered stack of parts with a blade, as the line feels it;
//! - [`towline`]: the steady shape of a towed line with point loads;
//! - [`mod@line`]: a rig on a rod's line set-up at a speed, that is, one line out behind the boat.
//!
//! [`mod@bench`] lays a rig out, checks and mends it. [`sky`] and [`light`] tell how far a fish sees a finish.
//! [`fish`] holds what is known of the fish, [`rules`] what the angler typed in of the law, [`evidence`] what
//! the log says, [`track`] where the boat went. [`advice`] judges rigs against the conditions of an outing, [`mod@column`] shows their finishes
//! in its water. [`tackle`] holds the catalogue of
//! line materials and weights, [`water`] the properties of fresh and salt water, [`units`] the
//! quantities every signature is written in. Inside, everything is SI.
//!
//! ```
//! use motilis_core::blade::{Blade, Family};
//! use motilis_core::units::{Celsius, MILE_PER_HOUR};
//! use motilis_core::water::Water;
//!
//! let blade = Blade::of_size(Family::Colorado, 5.0)?;
//! let lake = Water::fresh(Celsius(15.0))?;
//! let start = blade.start_speed(&lake);
//! assert!((start.0 / MILE_PER_HOUR.0 - 0.84).abs() < 0.02);
//! # Ok::<(), motilis_core::Error>(())
//! ```

pub mod advice;
pub mod bench;
pub mod blade;
pub mod boat;
pub mod book;
pub mod column;
mod entry;
mod error;
pub mod evidence;
pub mod fields;
pub mod fish;
mod ids;
mod keyed;
pub mod light;
pub mod line;
pub mod motion;
pub mod numeric;
pub mod rig;
pub mod river;
pub mod rules;
pub mod sky;
pub mod spread;
pub mod tackle;
pub mod towline;
pub mod track;
pub mod units;
pub mod water;

pub use error::{Error, Range};
pub use fields::Field;
