//! The rods of a box.

use crate::fleet::{diver, lead_core, rigger};
use crate::rigs::bouncer;
use motilis_core::line::LineSetup;
use motilis_core::tackle::SideSetting;
use std::sync::Arc;

/// The rods of the box.
pub fn tools() -> Vec<Arc<LineSetup>> {
    let rods = [
        bouncer(1.0),
        bouncer(3.0),
        lead_core(),
        diver(SideSetting::Straight),
        rigger(0.0),
    ];
    rods.into_iter().map(Arc::new).collect()
}
