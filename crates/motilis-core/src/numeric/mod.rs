//! The two methods the solvers rest on: Brent's root finder and a Dormand–Prince integrator.
//!
//! Both are our own because they are the inner loop of every drawing and every live change; the
//! tests hold them against an independent library and against closed forms.

mod brent;
mod dormand_prince;

pub use brent::{root, root_within};
pub use dormand_prince::{DormandPrince, Step, Stopped};
