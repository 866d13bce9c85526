//! Bottom touches as the screens use them: the dive curve that each rod, line and weight has taught.

use crate::Error;
use motilis_core::book::{BottomTouch, RigId, SetupId, TouchId};
use motilis_core::line::{DiveFit, LineSetup, Surroundings, Touch};
use motilis_core::rig::Rig;
use motilis_store::{Connection, observed};
use std::sync::Arc;

/// Every touch of the boat book.
pub(crate) struct Calibrations {
    touches: Vec<(TouchId, BottomTouch)>,
}

impl Calibrations {
    /// Reads them.
    pub fn load(connection: &Connection) -> Result<Self, Error> {
        Ok(Self {
            touches: observed::touches(connection)?,
        })
    }

    /// Those made with a rod, line and weight, the newest first.
    pub fn of(&self, setup: SetupId, in_use: &LineSetup) -> Vec<&(TouchId, BottomTouch)> {
        self.touches
            .iter()
            .filter(|(_, touch)| touch.is_with(setup, in_use))
            .collect()
    }

    /// The dive curve they teach; `None` without any.
    pub fn fit(
        &self,
        setup: SetupId,
        in_use: &LineSetup,
        surroundings: Surroundings,
        rig: &dyn Fn(RigId) -> Option<Arc<Rig>>,
    ) -> Option<DiveFit> {
        let touches: Vec<Touch> = self
            .of(setup, in_use)
            .into_iter()
            .filter_map(|(_, touch)| {
                Some(Touch {
                    rig: rig(touch.rig)?,
                    lead: touch.lead,
                    out: touch.out,
                    bottom: touch.bottom,
                    speed: touch.speed,
                    touched: touch.touched,
                })
            })
            .collect();
        DiveFit::to(in_use, surroundings, &touches)
    }
}
