//! The clarity of an angler who has no disk: how deep a white blade is lost to sight.

use crate::forms::Typed;
use crate::screens::{Choice, SecchiHelper};
use crate::units::{Quantity, System};
use motilis_core::fields;
use motilis_core::units::Metres;

/// White blades to hold over the side: Colorado numbers.
const NUMBERS: [f64; 4] = [2.0, 3.0, 4.0, 5.0];

/// The field of the depth at which the blade is lost.
pub fn lost(raw: &str, system: System) -> Typed {
    Typed::new(
        fields::BLADE_LOST,
        "White blade lost at",
        (Quantity::Depth, system),
        raw,
    )
}

/// The form as it stands before anything is typed.
pub fn helper(system: System) -> SecchiHelper {
    let mut field = lost("", system).field;
    field.problem = None;
    SecchiHelper {
        lost: field,
        blade: blades("4"),
        answer: None,
    }
}

/// The white blades to choose from.
pub fn blades(chosen: &str) -> Vec<Choice> {
    NUMBERS
        .iter()
        .map(|number| Choice {
            value: number.to_string(),
            label: format!("Colorado {number}"),
            chosen: number.to_string() == chosen,
        })
        .collect()
}

/// What came of it.
pub fn answer(disk: Metres, system: System) -> String {
    format!(
        "A white disk would be lost at {}. Clarity is set to that; computed, for an eye above still water.",
        system.depth(disk)
    )
}
