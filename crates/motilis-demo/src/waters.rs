use jiff::civil::{Date, date};
use motilis_core::book::{WaterBody, WaterId};
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::Stain;
use motilis_core::rules::{LocalRule, Says, Slot, Topic};
use motilis_core::units::{INCH, Metres};
use motilis_store::{Connection, Error, rules, waters};

/// The waters of the scenario that are fished.
pub struct Waters {
    pub tamarin: (WaterId, WaterBody),
    pub orrin: (WaterId, WaterBody),
    pub cassel: WaterId,
}

/// Adds the three waters with their invented rules.
pub fn add(connection: &Connection) -> Result<Waters, Error> {
    let cassel = waters::add(connection, &cassel())?;
    rule(
        connection,
        cassel,
        Says::Holds(Topic::Barbless),
        None,
        ALL_YEAR,
    )?;
    rule(
        connection,
        cassel,
        Says::AtMost(Topic::Lines, 1),
        None,
        ALL_YEAR,
    )?;
    let steelhead = Some(Fish::Steelhead);
    rule(
        connection,
        cassel,
        Says::AtMost(Topic::Daily, 1),
        steelhead,
        ALL_YEAR,
    )?;
    let tamarin = tamarin();
    let id = waters::add(connection, &tamarin)?;
    add_tamarin_rules(connection, id)?;
    let orrin = orrin();
    let orrin_id = waters::add(connection, &orrin)?;
    rule(
        connection,
        orrin_id,
        Says::Holds(Topic::Barbless),
        None,
        ALL_YEAR,
    )?;
    rule(
        connection,
        orrin_id,
        Says::AtMost(Topic::Daily, 2),
        Some(Fish::Coho),
        SUMMER,
    )?;
    Ok(Waters {
        tamarin: (id, tamarin),
        orrin: (orrin_id, orrin),
        cassel,
    })
}

type Span = (Option<Date>, Option<Date>);
const ALL_YEAR: Span = (None, None);
const SUMMER: Span = (Some(date(2026, 5, 9)), Some(date(2026, 10, 31)));

fn add_tamarin_rules(connection: &Connection, id: WaterId) -> Result<(), Error> {
    let slot = Says::Slot(Slot {
        from: None,
        to: Some(21.7 * INCH),
        protected: false,
        one_over: true,
    });
    let walleye = Some(Fish::Walleye);
    for (says, fish, span) in [
        (Says::AtMost(Topic::Lines, 2), None, ALL_YEAR),
        (Says::AtMost(Topic::Hooks, 3), None, ALL_YEAR),
        (Says::AtMost(Topic::Daily, 4), walleye, SUMMER),
        (slot, walleye, SUMMER),
        (Says::AtMost(Topic::Daily, 2), Some(Fish::LakeTrout), SUMMER),
    ] {
        rule(connection, id, says, fish, span)?;
    }
    Ok(())
}

fn rule(
    connection: &Connection,
    water: WaterId,
    says: Says,
    fish: Option<Fish>,
    (from, to): Span,
) -> Result<(), Error> {
    let rule = LocalRule {
        says,
        fish,
        from,
        to,
        source: "Invented for the scenario, district booklet 2026".into(),
        entered: date(2026, 4, 18),
    };
    rules::add(connection, water, &rule).map(|_| ())
}

fn tamarin() -> WaterBody {
    WaterBody {
        name: "Lake Tamarin".into(),
        latitude_deg: 50.42,
        longitude_deg: -95.61,
        zone: "America/Winnipeg".into(),
        salt: false,
        river: false,
        clarity: Metres(2.1),
        stain: Stain::Tea,
        fish: vec![
            Fish::Walleye,
            Fish::RainbowTrout,
            Fish::LakeTrout,
            Fish::LandlockedSockeye,
            Fish::YellowPerch,
        ],
        forage: vec![Forage::YellowPerch, Forage::Shiner],
    }
}

fn orrin() -> WaterBody {
    WaterBody {
        name: "Orrin Sound".into(),
        latitude_deg: 49.31,
        longitude_deg: -124.02,
        zone: "America/Vancouver".into(),
        salt: true,
        river: false,
        clarity: Metres(6.0),
        stain: Stain::Clear,
        fish: vec![Fish::Chinook, Fish::Coho],
        forage: vec![Forage::Herring, Forage::Squid],
    }
}

fn cassel() -> WaterBody {
    WaterBody {
        name: "Cassel River".into(),
        latitude_deg: 49.02,
        longitude_deg: -122.11,
        zone: "America/Vancouver".into(),
        salt: false,
        river: true,
        clarity: Metres(1.5),
        stain: Stain::Green,
        fish: vec![Fish::Steelhead, Fish::SmallmouthBass],
        forage: vec![Forage::Insects, Forage::Crayfish],
    }
}
