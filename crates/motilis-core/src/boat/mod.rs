//! The boat under way.

mod said;

pub use said::{BoatFix, Said};
