use super::{Doing, Made};
use motilis_core::spread::Lure;
use motilis_store::lures;

/// A change of the plugs and spoons.
#[derive(Debug, Clone, PartialEq)]
pub enum LureAct {
    /// A new one.
    Add(Box<Lure>),
}

impl LureAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let Self::Add(lure) = self;
        Ok(Some(lures::add(doing.book.connection(), &lure)?.0))
    }
}
