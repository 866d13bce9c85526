use super::{Doing, Made, OutingAct};
use crate::error::Refusal;
use motilis_core::bench::{StarterRod, StarterTray, starting};
use motilis_core::book::{BoxPart, WaterBody};
use motilis_core::rig::Kind;
use motilis_store::{parts, rigs, setups, waters};

/// An empty data file is filled with what its first call needs: a water, a box, rods, a rig, an outing.
#[derive(Debug, Clone, PartialEq)]
pub struct StartAct {
    /// The water, with the fish wanted first.
    pub water: WaterBody,
    /// The trays the box begins with.
    pub trays: Vec<StarterTray>,
    /// The rods aboard.
    pub rods: Vec<StarterRod>,
    /// The rig to begin with.
    pub kind: Kind,
    /// Whether a count of the parts is kept.
    pub counted: bool,
}

impl StartAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        self.water.check().map_err(Refusal::Figure)?;
        let water = waters::add(connection, &self.water)?;
        parts::keep_count(connection, self.counted)?;
        for tray in &self.trays {
            for part in tray.parts()? {
                let id = parts::intern(connection, &part)?;
                let boxed = BoxPart {
                    left: tray.first_count(),
                    ..parts::get(connection, id)?
                };
                parts::update(connection, id, &boxed)?;
            }
        }
        let mut first = None;
        for rod in &self.rods {
            let id = setups::add(connection, &rod.setup()?)?;
            if rod.suits(self.kind) {
                first = first.or(Some(id));
            }
        }
        let setup = match first.or_else(|| Some(setups::all(connection).ok()?.first()?.0)) {
            Some(setup) => setup,
            None => setups::add(connection, &StarterRod::FlatLine.setup()?)?,
        };
        let fish = self.water.fish.first().copied();
        let stock = parts::stocked(connection)?;
        let size = self.kind.usual_hook_size();
        let fish = fish.unwrap_or(motilis_core::fish::Fish::Walleye);
        let stack = starting(self.kind, fish, size, &stock)?;
        let name = format!("First {}", self.kind.name());
        rigs::add_board(connection, &name, &stack, setup)?;
        OutingAct::Begin(Some(water)).done(doing)
    }
}
