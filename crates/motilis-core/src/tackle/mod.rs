//! The catalogue: what lines and weights are made of, how thick, how heavy, how much they drag.
//!
//! Every figure is a default "from memory" unless its table names a source; a caliper or a scale
//! overrides it. No maker's product is described.

mod line_stock;
mod stiffness;
mod weight;

pub use line_stock::{LineMaterial, LineStock};
pub(crate) use weight::{CABLE, ball_load};
pub use weight::{
    DiverSize, Release, ReleaseHole, SideSetting, SinkerStyle, Weight, WeightMaterial,
};
