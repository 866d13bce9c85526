//! Rigs and set-ups of the trade that the checks of practice are made with.

use motilis_core::blade::{Blade, Family};
use motilis_core::line::{Line, LineSetup, Run, Start, Surroundings};
use motilis_core::rig::{
    Bait, BeadMaterial, Colour, Finish, Hook, HookSize, HookStyle, Kind, Mount, Part, Rig,
};
use motilis_core::tackle::{LineMaterial, LineStock, Weight, WeightMaterial};
use motilis_core::towline::STRUM;
use motilis_core::units::{Celsius, FOOT, INCH, MILE_PER_HOUR, MILLIMETRE, Metres, OUNCE};
use motilis_core::water::Water;

pub fn lake() -> Water {
    Water::fresh(Celsius(15.0)).unwrap()
}

pub fn surroundings() -> Surroundings {
    Surroundings {
        water: lake(),
        temperature: Celsius(15.0),
        bottom: None,
    }
}

pub fn blade(family: Family, number: f64) -> Part {
    Part::Blade {
        blade: Blade::of_size(family, number).unwrap(),
        finish: Finish::plain(Colour::Brass),
        bend: None,
    }
}

pub fn beads(count: u8, material: BeadMaterial) -> Part {
    Part::Beads {
        count,
        diameter: 5.0 * MILLIMETRE,
        material,
        colour: Colour::Orange,
    }
}

pub fn hook(style: HookStyle, code: i8) -> Part {
    Part::Hook(Hook {
        style,
        size: HookSize::from_code(code).unwrap(),
    })
}

/// One or two blades ahead of two octopus hooks and a crawler.
pub fn harness(blades: &[Part], hook_code: i8) -> Rig {
    let mut parts = blades.to_vec();
    parts.push(beads(6, BeadMaterial::Plastic));
    parts.extend([hook(HookStyle::Octopus, hook_code); 2]);
    parts.push(Part::Bait(Bait::Crawler));
    Rig::new(
        "harness",
        Kind::CrawlerHarness,
        Mount::Leader(0.39 * MILLIMETRE),
        parts,
    )
    .unwrap()
}

pub fn wing(span: f64) -> Rig {
    let parts = vec![
        blade(Family::SoftWing, span),
        beads(4, BeadMaterial::Plastic),
        hook(HookStyle::BentShank, 2),
        Part::Bait(Bait::HalfCrawler),
    ];
    Rig::new(
        "wing",
        Kind::WingWorm,
        Mount::Leader(0.28 * MILLIMETRE),
        parts,
    )
    .unwrap()
}

/// A French 2 on 0.030 in wire with a brass bearing and a number 6 treble.
pub fn wire_trout() -> Rig {
    let parts = vec![
        blade(Family::French, 2.0),
        beads(1, BeadMaterial::Metal),
        beads(3, BeadMaterial::Plastic),
        hook(HookStyle::Treble, 6),
    ];
    Rig::new("wire", Kind::TrollingWire, Mount::Wire(0.030 * INCH), parts).unwrap()
}

/// A thin French 1 on ring beads, two number 6 hooks and an inch of worm.
pub fn ring_bead() -> Rig {
    let Part::Blade {
        blade,
        finish,
        bend,
    } = blade(Family::French, 1.0)
    else {
        unreachable!("`blade` makes blades")
    };
    let parts = vec![
        Part::Blade {
            blade: blade.of_thickness(0.20 * MILLIMETRE).unwrap(),
            finish,
            bend,
        },
        beads(5, BeadMaterial::Plastic),
        hook(HookStyle::Octopus, 6),
        hook(HookStyle::Octopus, 6),
        Part::Bait(Bait::WormPiece),
    ];
    Rig::new(
        "ring",
        Kind::RingBead,
        Mount::Leader(0.23 * MILLIMETRE),
        parts,
    )
    .unwrap()
}

/// A bottom bouncer of so many ounces on 10 lb nylon from a rod tip 5 ft above the water.
pub fn bouncer(ounces: f64) -> LineSetup {
    LineSetup {
        name: "bouncer".into(),
        start: Start::RodTip { height: 5.0 * FOOT },
        main: LineStock::of_test(LineMaterial::Nylon, 10).unwrap(),
        weight: Some(Weight::BottomBouncer(ounces * OUNCE, WeightMaterial::Lead)),
        leader: LineStock::of_test(LineMaterial::Nylon, 10).unwrap(),
        lead: 5.0 * FOOT,
        strum: STRUM,
        reel: 300.0 * FOOT,
    }
}

pub fn run(rig: &Rig, setup: &LineSetup, mph: f64, feet: f64) -> Run {
    Line::new(rig, setup, surroundings())
        .unwrap()
        .run(mph * MILE_PER_HOUR, feet * FOOT)
        .unwrap()
}

pub fn feet(depth: Metres) -> f64 {
    depth / FOOT
}
