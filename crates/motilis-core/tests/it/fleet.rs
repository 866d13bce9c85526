//! Twelve lines behind one boat: boards, divers, riggers with stacked releases, corner rods.

use crate::rigs::{blade, bouncer, harness, surroundings, wire_trout};
use motilis_core::blade::Family;
use motilis_core::line::{LineSetup, Start, Surroundings};
use motilis_core::rig::{Practice, Rig};
use motilis_core::spread::{DiveTable, Holder, Lure, Rod, Spread, Stance, Towed};
use motilis_core::tackle::{
    DiverSize, LineMaterial, LineStock, ReleaseHole, SideSetting, SinkerStyle, Weight,
    WeightMaterial,
};
use motilis_core::units::{FOOT, MILE_PER_HOUR, Metres, OUNCE, POUND};
use std::sync::Arc;

/// Water of 60 ft.
pub fn deep() -> Surroundings {
    Surroundings {
        bottom: Some(60.0 * FOOT),
        ..surroundings()
    }
}

pub fn indiana() -> Rig {
    harness(&[blade(Family::Indiana, 4.0)], 2)
}

pub fn willows() -> Rig {
    let willow = blade(Family::Willow, 4.0);
    harness(&[willow, willow], 2)
}

pub fn on_board(weight: Option<Weight>) -> LineSetup {
    LineSetup {
        start: Start::Board,
        weight,
        ..bouncer(1.0)
    }
}

pub fn lead_core() -> LineSetup {
    LineSetup {
        main: LineStock::of_test(LineMaterial::LeadCore, 18).unwrap(),
        lead: 20.0 * FOOT,
        ..on_board(None)
    }
}

pub fn clip_on() -> Weight {
    Weight::Sinker(SinkerStyle::ClipOn, OUNCE, WeightMaterial::Lead)
}

pub fn diver(side: SideSetting) -> LineSetup {
    LineSetup {
        main: LineStock::of_test(LineMaterial::Braid, 30).unwrap(),
        weight: Some(Weight::TripDiver(
            DiverSize::Small,
            side,
            ReleaseHole::Middle,
        )),
        ..bouncer(1.0)
    }
}

pub fn rigger(above_feet: f64) -> LineSetup {
    LineSetup {
        start: Start::Downrigger {
            ball: 10.0 * POUND,
            drop_back: 20.0 * FOOT,
            above: above_feet * FOOT,
        },
        weight: None,
        ..bouncer(1.0)
    }
}

/// A plug whose owner measured it: 40 ft back 5 ft down, 80 ft 9 ft, 120 ft 12 ft.
pub fn plug() -> Lure {
    let pairs = [(40.0, 5.0), (80.0, 9.0), (120.0, 12.0)];
    let pairs = pairs.map(|(out, depth)| (out * FOOT, depth * FOOT));
    let speeds = Practice {
        from: 0.8 * MILE_PER_HOUR,
        favourite: 1.6 * MILE_PER_HOUR,
        to: 2.4 * MILE_PER_HOUR,
    };
    Lure::new("plug", speeds, DiveTable::new(pairs.to_vec()).unwrap()).unwrap()
}

/// A rod with a rig: holder, board in ft, set-up, line out in ft.
pub fn rod(holder: &str, board: Option<f64>, setup: LineSetup, rig: Rig, out: f64) -> Rod {
    Rod {
        holder: Holder::from_key(holder).unwrap(),
        stance: Stance::Corner,
        length: 7.0 * FOOT,
        board: board.map(|board| board * FOOT),
        setup: Arc::new(setup),
        towed: Towed::Rig(Arc::new(rig)),
        out: out * FOOT,
        wanted: 20.0 * FOOT,
    }
}

/// Twelve rods at 1.5 mph.
pub fn twelve() -> Spread {
    let stance = |stance, length: f64, rod: Rod| Rod {
        stance,
        length: length * FOOT,
        ..rod
    };
    let mut rods = Vec::new();
    for side in ["P", "S"] {
        let at = |number: u8| format!("{side}{number}");
        let plain = Rod {
            towed: Towed::Lure(Arc::new(plug())),
            ..rod(&at(6), Some(100.0), on_board(None), indiana(), 90.0)
        };
        rods.extend([
            plain,
            rod(&at(5), Some(75.0), lead_core(), willows(), 120.0),
            rod(
                &at(4),
                Some(50.0),
                on_board(Some(clip_on())),
                indiana(),
                60.0,
            ),
            stance(
                Stance::Long,
                9.0,
                rod(&at(3), None, diver(SideSetting::Two), wire_trout(), 50.0),
            ),
            rod(&at(1), None, bouncer(2.0), indiana(), 60.0),
            rod(&at(8), None, rigger(0.0), willows(), 40.0),
        ]);
    }
    rods[11].setup = Arc::new(rigger(8.0));
    rods[11].holder = Holder::from_key("P7").unwrap();
    Spread {
        speed: 1.5 * MILE_PER_HOUR,
        rods,
    }
}

/// The same without anything that was not asked for: a spread of these rods at a speed in mph.
pub fn spread(mph: f64, rods: Vec<Rod>) -> Spread {
    Spread {
        speed: mph * MILE_PER_HOUR,
        rods,
    }
}

/// A length in ft.
pub fn ft(length: Metres) -> f64 {
    length / FOOT
}
