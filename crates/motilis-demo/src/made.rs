use crate::rigs::DemoRig;
use jiff::Timestamp;
use motilis_core::book::MadeState;
use motilis_store::{Connection, Error, made};

/// A winter evening before the season.
const WINTER: i64 = 1_772_323_200;

/// Makes up what the crew fishes: two or three of each, some of them worn.
pub fn build(connection: &Connection, rigs: &[DemoRig]) -> Result<(), Error> {
    let evening = Timestamp::from_second(WINTER).expect("a second of 2026");
    for (place, rig) in rigs.iter().enumerate() {
        let winder = format!("Winder {}", place + 1);
        let count = if place % 3 == 0 { 3 } else { 2 };
        made::build(connection, rig.id, count, &winder, evening)?;
    }
    for (id, rig) in made::all(connection)? {
        let state = match id.0 % 5 {
            0 => MadeState::ReTie,
            1 | 2 => MadeState::Used,
            _ => MadeState::New,
        };
        made::set_state(connection, id, state, &rig.place)?;
    }
    Ok(())
}
