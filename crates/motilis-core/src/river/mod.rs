//! Casting in moving water: where a spinner goes between the cast and the rod, and what that is good for.
//!
//! A [`Section`] is the water of a run: depths and surface speeds across it, the same all along. A [`Cast`] throws a
//! [`Load`](crate::motion::NodeLoad) on a [`Tackle`] into it and works it by [`Act`]s; [`Cast::path`] follows it through
//! the lumped masses of [`crate::motion`], the line getting shorter as it is reeled, the tip moved, the bed as a floor. What
//! a [`Path`] is worth is asked of it: seconds in a [`Zone`], share of it with the blade turning, touches of the bed.
//! [`Scene::best_cast`], [`Scene::slowest_retrieve`] and [`Scene::fished`] turn that round.
//!
//! # Axes
//! `x` downstream, `y` across from the angler's own bank, depth downwards from the surface; the far bank is a mirror.
//! Angles of a cast are counted from straight downstream: 45° down, 90° square across, 135° up, 180° straight up.
//!
//! # Validity
//! A run that is the same all along; surface speeds and depths linear between the stations; speed over depth by a power law
//! `u = u_s (1 − d/H)^(1/m)` (m 6, from 5 to 7; rough beds lower; from memory). No eddies, no upwelling, no waves. A lure that
//! touches the bed slides on: whether it hangs there the bed decides, and the page says so. A bed of boulders has
//! slack water behind each that no section shows.
//!
//! # Sources
//! Discharge by the mean-section method, velocity coefficient 0.85 on surface speeds: S. E. Rantz and others (1982),
//! *Measurement and computation of streamflow*, USGS Water-Supply Paper 2175 (from memory). The paths are held against
//! independent solutions of the same equations (`tests/it/river.rs`).

mod cast;
mod gear;
mod grid;
mod order;
mod path;
mod rank;
mod run;
mod search;
mod section;

pub use cast::{Act, Cast, Fineness, Place, Tackle, Thrown, angle_of};
pub use gear::{Angler, FOLLOWED, Gear, Held, Plan, Spool, line_fields, lure_fields};
pub use grid::{
    CELL, Cover, FIRST, Far, Fished, GridCast, STEP, STEPS, School, Way, Whole, grid, stands, whole,
};
pub use order::{Order, Presentation};
pub use path::{Ended, Moment, Path, Touch, ZONE, Zone};
pub use rank::{Ranked, Why, body_by_practice, rank};
pub use run::{Bank, Bed, Mark, MarkKind, Pace, Run, timed, timed_sure};
pub use search::{Scene, Tried, reel_for};
pub use section::{CubicMetresPerSecond, EXPONENT, SURFACE_COEFFICIENT, Section, Station};
