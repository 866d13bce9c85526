//! Rigs and set-ups of the trade that the checks of practice are made with.

use motilis_core::blade::Family;
use motilis_core::line::{Line, LineSetup, Run, Start, Surroundings};
use motilis_core::rig::{
    Bait, BeadStyle, Colour, Finish, HookStyle, Kind, Material, Measured, Mount, Part, Piece, Rig,
    Stack, What,
};
use motilis_core::tackle::{LineMaterial, LineStock, SinkerStyle, Weight, WeightMaterial};
use motilis_core::towline::STRUM;
use motilis_core::units::{Celsius, FOOT, MILE_PER_HOUR, MILLIMETRE, Metres, OUNCE};
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

pub fn blade(family: Family, number: f64) -> Piece {
    one(What::Blade(family), number)
}

fn one(what: What, size: f64) -> Piece {
    Piece::one(Part::new(what, size, Finish::plain(Colour::Brass)).unwrap())
}

pub fn beads(count: u8, material: Material) -> Piece {
    let bead = one(What::Bead(BeadStyle::Round), 5.0).part;
    Piece::many(bead.of(material), count)
}

pub fn hook(style: HookStyle, code: i8) -> Piece {
    one(What::Hook(style), f64::from(code))
}

pub fn bait(bait: Bait) -> Piece {
    let what = What::Bait(bait);
    one(what, what.sizes()[0])
}

pub fn rig(name: &str, kind: Kind, mount: Mount, pieces: Vec<Piece>) -> Rig {
    let mut stack = Stack::empty(kind, mount);
    stack.pieces = pieces;
    Rig::new(name, stack).unwrap()
}

/// One or two blades ahead of two octopus hooks and a crawler.
pub fn harness(blades: &[Piece], hook_code: i8) -> Rig {
    let mut pieces = blades.to_vec();
    // Enough to keep a willow 4 off the hook.
    pieces.push(beads(9, Material::Plastic));
    pieces.extend([hook(HookStyle::Octopus, hook_code); 2]);
    pieces.push(bait(Bait::Crawler));
    let mount = Mount::leader(17).unwrap();
    rig("harness", Kind::CrawlerHarness, mount, pieces)
}

pub fn wing(span: f64) -> Rig {
    let pieces = vec![
        blade(Family::SoftWing, span),
        beads(4, Material::Plastic),
        hook(HookStyle::BentShank, 2),
        bait(Bait::HalfCrawler),
    ];
    rig("wing", Kind::WingWorm, Mount::leader(10).unwrap(), pieces)
}

/// A French 2 on 0.030 in wire with a brass bearing and a number 6 treble.
pub fn wire_trout() -> Rig {
    let pieces = vec![
        blade(Family::French, 2.0),
        beads(1, Material::Brass),
        beads(3, Material::Plastic),
        hook(HookStyle::Treble, 6),
    ];
    rig(
        "wire",
        Kind::TrollingWire,
        Mount::wire(30.0).unwrap(),
        pieces,
    )
}

/// A thin French 1 on ring beads, two number 6 hooks and an inch of worm.
pub fn ring_bead() -> Rig {
    let thin = Measured {
        thickness: Some(0.20 * MILLIMETRE),
        ..Measured::default()
    };
    let blade = blade(Family::French, 1.0).part.measured(thin).unwrap();
    let pieces = vec![
        Piece::one(blade),
        beads(5, Material::Plastic),
        hook(HookStyle::Octopus, 6),
        hook(HookStyle::Octopus, 6),
        bait(Bait::WormPiece),
    ];
    rig("ring", Kind::RingBead, Mount::leader(6).unwrap(), pieces)
}

/// A bottom bouncer of so many ounces on 10 lb nylon from a rod tip 5 ft above the water.
pub fn bouncer(ounces: f64) -> LineSetup {
    LineSetup {
        name: "bouncer".into(),
        start: Start::RodTip { height: 5.0 * FOOT },
        main: LineStock::of_test(LineMaterial::Nylon, 10).unwrap(),
        core: None,
        ahead: Metres(0.0),
        weight: Some(Weight::Sinker(
            SinkerStyle::BottomBouncer,
            ounces * OUNCE,
            WeightMaterial::Lead,
        )),
        leader: LineStock::of_test(LineMaterial::Nylon, 10).unwrap(),
        lead: 5.0 * FOOT,
        strum: STRUM,
        learned: motilis_core::line::Learned::default(),
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
