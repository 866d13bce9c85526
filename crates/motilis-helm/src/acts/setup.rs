use super::{Doing, Made};
use crate::error::Refusal;
use motilis_core::book::SetupId;
use motilis_core::line::LineSetup;
use motilis_store::setups;

/// A change of a line set-up.
#[derive(Debug, Clone, PartialEq)]
pub enum SetupAct {
    /// A new one.
    Add(Box<LineSetup>),
    /// A set-up as it is from now on; rods that use it follow.
    Change(SetupId, Box<LineSetup>),
}

impl SetupAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        let (Self::Add(setup) | Self::Change(_, setup)) = &self;
        setup.check().map_err(Refusal::Figure)?;
        match self {
            Self::Add(setup) => Ok(Some(setups::add(connection, &setup)?.0)),
            Self::Change(id, setup) => {
                setups::update(connection, id, &setup)?;
                Ok(Some(id.0))
            }
        }
    }
}
