use crate::IN_CATALOGUE;
use motilis_core::book::SetupId;
use motilis_core::line::{COLOUR, Core, LineSetup, Start};
use motilis_core::tackle::{
    DiverSize, LineMaterial, LineStock, ReleaseHole, SideSetting, SinkerStyle, Weight,
    WeightMaterial,
};
use motilis_core::towline::STRUM;
use motilis_core::units::{FOOT, Metres, OUNCE, POUND};
use motilis_store::{Connection, Error, setups};

/// The rods of the Patient Heron.
pub struct Setups {
    pub light_bouncer: (SetupId, LineSetup),
    pub heavy_bouncer: (SetupId, LineSetup),
    pub board: (SetupId, LineSetup),
    pub lead_core: (SetupId, LineSetup),
    pub diver: (SetupId, LineSetup),
    pub side_diver: (SetupId, LineSetup),
    pub core_board: (SetupId, LineSetup),
    pub plain_board: (SetupId, LineSetup),
    pub downrigger: (SetupId, LineSetup),
}

pub fn add(connection: &Connection) -> Result<Setups, Error> {
    let stock = |material, test| LineStock::of_test(material, test).expect(IN_CATALOGUE);
    let nylon = |test| stock(LineMaterial::Nylon, test);
    let rod = |name: &str, weight, lead: f64| LineSetup {
        name: name.to_owned(),
        start: Start::RodTip { height: 5.0 * FOOT },
        main: nylon(10),
        core: None,
        ahead: Metres(0.0),
        weight,
        leader: nylon(12),
        lead: lead * FOOT,
        strum: STRUM,
        learned: motilis_core::line::Learned::default(),
        reel: 300.0 * FOOT,
    };
    let bouncer = |ounces: f64| {
        Some(Weight::Sinker(
            SinkerStyle::BottomBouncer,
            ounces * OUNCE,
            WeightMaterial::Lead,
        ))
    };
    let add = |setup: LineSetup| Ok::<_, Error>((setups::add(connection, &setup)?, setup));
    Ok(Setups {
        light_bouncer: add(rod("Light bouncer rod", bouncer(1.0), 5.0))?,
        heavy_bouncer: add(rod("Heavy bouncer rod", bouncer(2.0), 5.0))?,
        board: add(LineSetup {
            start: Start::Board,
            ..rod(
                "Board with a clip-on",
                Some(Weight::Sinker(
                    SinkerStyle::ClipOn,
                    1.0 * OUNCE,
                    WeightMaterial::Tin,
                )),
                6.0,
            )
        })?,
        lead_core: add(LineSetup {
            main: stock(LineMaterial::LeadCore, 18),
            leader: nylon(8),
            reel: 300.0 * FOOT,
            ..rod("Lead-core rod", None, 20.0)
        })?,
        diver: add(LineSetup {
            main: stock(LineMaterial::Braid, 30),
            leader: nylon(25),
            ..rod(
                "Diver rod",
                Some(Weight::TripDiver(
                    DiverSize::Medium,
                    SideSetting::Straight,
                    ReleaseHole::Middle,
                )),
                5.0,
            )
        })?,
        side_diver: add(LineSetup {
            main: stock(LineMaterial::Braid, 30),
            leader: nylon(25),
            ..rod(
                "Side diver",
                Some(Weight::TripDiver(
                    DiverSize::Small,
                    SideSetting::Two,
                    ReleaseHole::Middle,
                )),
                5.0,
            )
        })?,
        plain_board: add(LineSetup {
            start: Start::Board,
            ..rod("Board, flat line", None, 5.0)
        })?,
        core_board: add(LineSetup {
            start: Start::Board,
            core: Some(Core {
                stock: stock(LineMaterial::LeadCore, 18),
                length: 2.0 * COLOUR,
            }),
            leader: nylon(10),
            ..rod("Two colours on a board", None, 12.0)
        })?,
        downrigger: add(LineSetup {
            start: Start::Downrigger {
                ball: 10.0 * POUND,
                drop_back: 20.0 * FOOT,
                above: Metres(0.0),
            },
            main: nylon(20),
            leader: nylon(25),
            reel: Metres(60.0),
            ..rod("Downrigger", None, 6.0)
        })?,
    })
}
