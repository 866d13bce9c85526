use super::{Doing, Made};
use motilis_core::book::{BottomTouch, DunkTest, RigId};
use motilis_store::observed;

/// A change of what was observed.
#[derive(Debug, Clone, PartialEq)]
pub enum ObservedAct {
    /// A dunk test of a rig.
    Dunk(RigId, DunkTest),
    /// A touch of the bottom, or a pass without one.
    Touch(BottomTouch),
}

impl ObservedAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        match self {
            Self::Dunk(rig, test) => Ok(Some(observed::add_dunk(connection, rig, &test)?.0)),
            Self::Touch(touch) => Ok(Some(observed::add_touch(connection, &touch)?.0)),
        }
    }
}
