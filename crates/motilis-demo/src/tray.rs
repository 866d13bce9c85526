use crate::IN_CATALOGUE;
use motilis_core::bench::Stocked;
use motilis_core::blade::Family;
use motilis_core::book::BoxPart;
use motilis_core::rig::{
    AttractorStyle, BARE, Bait, BeadStyle, BodyShape, ClevisStyle, Colour, Dressing, Finish,
    HookStyle, Material, Measured, Over, Part, Piece, SwivelStyle, What,
};
use motilis_core::tackle::LineMaterial;
use motilis_core::units::{MILLIMETRE, Metres};
use motilis_store::{Connection, Error, parts};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// The trays of the box on board.
pub struct Tray {
    pub stock: Vec<Stocked>,
}

impl Tray {
    /// So many of a part as a piece of a rig.
    pub fn take(&self, what: What, size: f64, finish: Finish, count: u8) -> Piece {
        let wanted = part(what, size, finish);
        self.stock
            .iter()
            .find(|stocked| stocked.part.is_same_size(&wanted) && stocked.part.finish == finish)
            .expect(IN_CATALOGUE)
            .piece(count)
    }
}

/// What is put into the box: a part, how many at least and at most, and its cost.
struct Lot {
    part: Part,
    count: (u32, u32),
    cost: f64,
}

fn lot(part: Part, count: (u32, u32), cost: f64) -> Lot {
    Lot { part, count, cost }
}

fn part(what: What, size: f64, finish: Finish) -> Part {
    Part::new(what, size, finish).expect(IN_CATALOGUE)
}

/// Fills the trays, in numbers drawn from the seed.
pub fn fill(connection: &Connection, seed: u64) -> Result<Tray, Error> {
    let mut random = ChaCha8Rng::seed_from_u64(seed ^ 0xB0C5);
    let mut stock = Vec::new();
    for lot in lots() {
        let (least, most) = lot.count;
        let left = f64::from(random.random_range(least..=most));
        let boxed = BoxPart {
            part: lot.part,
            left,
            low: if most > 0 {
                (f64::from(most) / 3.0).ceil()
            } else {
                0.0
            },
            unit_cost: Some(lot.cost),
            place: place(&lot.part),
            size_name: size_name(&lot.part),
        };
        let id = parts::add(connection, &boxed)?;
        stock.push(Stocked {
            id,
            part: lot.part,
            left,
        });
    }
    Ok(Tray { stock })
}

fn place(part: &Part) -> String {
    match part.what() {
        What::Blade(family) if family.is_wing() => "Tray 2, wings".to_owned(),
        What::Blade(_) => "Tray 1, blades".to_owned(),
        What::Clevis(_) | What::Swivel(_) | What::Tubing => "Tray 3, small metal".to_owned(),
        What::Bead(_) => format!("Tray 4, beads {}", part.size_word()),
        What::Body(_) => "Tray 5, bodies".to_owned(),
        What::Dressing(_) => "Tray 6, skirts".to_owned(),
        What::Hook(_) => format!("Tray 7, hooks {}", part.size_word()),
        What::Attractor(_) | What::Rudder => "Long bin".to_owned(),
        What::Bait(_) => "Bait cooler".to_owned(),
        What::Line(_) | What::Wire => "Spool rack".to_owned(),
    }
}

fn lots() -> Vec<Lot> {
    let mut lots = blades();
    lots.extend(hooks());
    lots.extend(beads());
    lots.extend(metal());
    lots.extend(soft());
    lots.extend(plated_and_patterned());
    lots.extend(own_blades());
    lots
}

/// Number 4 Colorados in finishes that few boxes have.
fn plated_and_patterned() -> Vec<Lot> {
    use Colour::{Gold, MatteSilver, Perch, Silver, Tiger};
    [Silver, MatteSilver, Gold, Perch, Tiger]
        .into_iter()
        .map(|colour| {
            let what = What::Blade(Family::Colorado);
            lot(part(what, 4.0, Finish::plain(colour)), (5, 18), 0.85)
        })
        .collect()
}

fn blades() -> Vec<Lot> {
    use Colour::{Brass, Chartreuse, Copper, Nickel, Orange, Pink, Purple, White};
    let smooth = Finish::plain;
    let mut lots = Vec::new();
    let mut add = |family, numbers: &[f64], finishes: &[Finish], cost: f64| {
        for number in numbers {
            for finish in finishes {
                let part = part(What::Blade(family), *number, *finish);
                lots.push(lot(part, (5, 18), cost + 0.1 * number));
            }
        }
    };
    let hammered = Finish::hammered(Brass);
    add(
        Family::Colorado,
        &[3.0, 4.0, 5.0, 6.0],
        &[
            hammered,
            smooth(Chartreuse),
            smooth(Orange),
            smooth(Nickel),
            smooth(White),
        ],
        0.35,
    );
    add(
        Family::Indiana,
        &[3.0, 4.0, 5.0],
        &[
            smooth(Copper),
            smooth(Orange),
            Finish::hammered(Copper),
            smooth(Nickel),
        ],
        0.35,
    );
    add(
        Family::French,
        &[1.0, 2.0, 3.0, 4.0],
        &[smooth(Nickel), smooth(Brass), hammered],
        0.3,
    );
    add(
        Family::Willow,
        &[3.0, 4.0, 5.0],
        &[smooth(Nickel), smooth(Copper), smooth(White)],
        0.4,
    );
    add(
        Family::MagnumWillow,
        &[4.0, 5.0, 6.0, 7.0],
        &[smooth(White), smooth(Chartreuse), smooth(Pink)],
        0.9,
    );
    add(
        Family::HatchetCut,
        &[3.0, 4.0, 5.0],
        &[smooth(Orange), smooth(Brass)],
        0.4,
    );
    add(Family::ThroughWireOval, &[2.0, 3.0], &[smooth(Nickel)], 0.5);
    add(
        Family::SoftWing,
        &[0.8, 1.1, 1.5, 1.9],
        &[smooth(Chartreuse), smooth(Pink), smooth(Purple)],
        0.5,
    );
    add(
        Family::HardWing,
        &[1.1, 1.5],
        &[smooth(Pink), smooth(White)],
        0.5,
    );
    // Thin stamped trout blades, two faces.
    let thin = Measured {
        thickness: Some(0.20 * MILLIMETRE),
        ..Measured::default()
    };
    for number in [0.0, 1.0] {
        let blade = part(What::Blade(Family::French), number, smooth(Copper))
            .measured(thin)
            .expect(IN_CATALOGUE)
            .backed(Some(smooth(Nickel)));
        lots.push(lot(blade, (4, 10), 0.25));
    }
    lots
}

/// Blades of the boat's own: lacquered, barred by hand, and one that goes by a name no table has.
fn own_blades() -> Vec<Lot> {
    use Colour::{Black, Chartreuse, Copper, Nickel, Red};
    let smooth = Finish::plain;
    let blade = |family, number, finish| part(What::Blade(family), number, finish);
    let over = |colour, share| Some(Over { colour, share });
    let lacquered = smooth(Nickel).under(over(Red, None));
    let barred = smooth(Chartreuse).under(over(Black, Some(30)));
    let long = Measured {
        length: Some(27.5 * MILLIMETRE),
        width: Some(12.5 * MILLIMETRE),
        ..Measured::default()
    };
    vec![
        lot(blade(Family::Colorado, 4.0, lacquered), (3, 8), 0.8),
        lot(blade(Family::Indiana, 4.0, barred), (3, 8), 0.8),
        lot(
            blade(Family::French, 3.5, smooth(Copper))
                .measured(long)
                .expect(IN_CATALOGUE),
            (2, 6),
            0.6,
        ),
        lot(
            blade(Family::Spoon, 2.0, Finish::hammered(Copper)),
            (5, 12),
            1.10,
        ),
        lot(blade(Family::Spoon, 2.0, smooth(Chartreuse)), (5, 12), 1.10),
    ]
}

/// The boat's own name of a size: of the one blade that is longer and slimmer than its number.
fn size_name(part: &Part) -> String {
    let is_own = part.own_figures().width.is_some();
    if is_own { "long 3½" } else { "" }.to_owned()
}

fn hooks() -> Vec<Lot> {
    let mut lots = Vec::new();
    let mut add = |style, codes: &[f64], cost: f64, most| {
        for code in codes {
            let part = part(What::Hook(style), *code, BARE);
            lots.push(lot(part, (most / 3, most), cost));
        }
    };
    add(
        HookStyle::Octopus,
        &[8.0, 6.0, 4.0, 2.0, 1.0, -1.0, -2.0, -3.0],
        0.3,
        60,
    );
    add(HookStyle::Beak, &[4.0, 2.0, -1.0], 0.3, 25);
    add(
        HookStyle::Siwash,
        &[6.0, 4.0, 2.0, 1.0, -1.0, -2.0, -3.0, -4.0, -5.0],
        0.6,
        18,
    );
    add(HookStyle::Treble, &[10.0, 8.0, 6.0, 4.0, 2.0], 0.5, 20);
    add(HookStyle::BentShank, &[4.0, 2.0, 1.0], 0.45, 20);
    lots
}

fn beads() -> Vec<Lot> {
    use Colour::{Black, Chartreuse, Glow, Green, Orange, Pink, Purple, Red, White};
    let round = What::Bead(BeadStyle::Round);
    let mut lots: Vec<Lot> = [4.0, 5.0, 6.0, 8.0]
        .into_iter()
        .flat_map(|size| {
            [Chartreuse, Orange, Pink, White, Purple, Red, Green].map(|colour| {
                let bead = part(round, size, Finish::plain(colour));
                lot(bead, (20, 140), 0.02 + 0.005 * size)
            })
        })
        .collect();
    for (size, colours) in [
        (3.0, [Red, White]),
        (3.97, [Red, Black]),
        (4.76, [Red, Black]),
        (5.0, [Glow, Black]),
        (6.35, [Red, Glow]),
        (7.94, [Red, Glow]),
    ] {
        for colour in colours {
            lots.push(lot(
                part(round, size, Finish::plain(colour)),
                (12, 60),
                0.05,
            ));
        }
    }
    for size in [3.0, 4.0, 5.0] {
        let bearing = part(round, size, BARE).of(Material::Brass);
        lots.push(lot(bearing, (60, 160), 0.06));
    }
    for (size, colour) in [(5.0, Colour::Blue), (6.0, Colour::Blue), (6.0, Red)] {
        let cut = part(What::Bead(BeadStyle::Faceted), size, Finish::plain(colour));
        lots.push(lot(cut, (10, 50), 0.12));
    }
    // A bag whose holes came out wide, as the caliper says.
    let wide = Measured {
        bore: Some(2.4 * MILLIMETRE),
        diameter: Some(5.8 * MILLIMETRE),
        length: Some(5.8 * MILLIMETRE),
        ..Measured::default()
    };
    let bag = part(round, 6.0, Finish::plain(Colour::Glow))
        .measured(wide)
        .expect(IN_CATALOGUE);
    lots.push(lot(bag, (30, 60), 0.03));
    lots
}

fn metal() -> Vec<Lot> {
    let mut lots = Vec::new();
    for size in [1.0, 2.0, 3.0, 4.0] {
        for style in [ClevisStyle::Stirrup, ClevisStyle::Folded] {
            lots.push(lot(part(What::Clevis(style), size, BARE), (20, 60), 0.08));
        }
    }
    for size in [2.0, 3.0] {
        let quick = What::Clevis(ClevisStyle::QuickChange);
        lots.push(lot(part(quick, size, BARE), (6, 24), 0.25));
    }
    for (style, cost) in [
        (SwivelStyle::Barrel, 0.1),
        (SwivelStyle::BallBearing, 0.6),
        (SwivelStyle::Snap, 0.1),
        (SwivelStyle::SnapSwivel, 0.2),
    ] {
        for size in [10.0, 14.0] {
            lots.push(lot(part(What::Swivel(style), size, BARE), (12, 50), cost));
        }
    }
    for (style, size, cost) in [
        (SwivelStyle::SplitRing, 7.0, 0.05),
        (SwivelStyle::Clip, 14.0, 0.15),
        (SwivelStyle::Snubber, 200.0, 1.8),
    ] {
        lots.push(lot(part(What::Swivel(style), size, BARE), (4, 30), cost));
    }
    let brass = Finish::plain(Colour::Brass);
    for (shape, grams) in [
        (BodyShape::Torpedo, 3.0),
        (BodyShape::Torpedo, 5.0),
        (BodyShape::Torpedo, 7.0),
        (BodyShape::Bell, 3.0),
        (BodyShape::Bell, 4.0),
        (BodyShape::Ring, 2.0),
        (BodyShape::TailWeight, 4.0),
        (BodyShape::TailWeight, 5.0),
    ] {
        lots.push(lot(part(What::Body(shape), grams, brass), (4, 16), 0.5));
    }
    let egg = part(What::Body(BodyShape::TailWeight), 7.0, BARE).of(Material::Lead);
    lots.push(lot(egg, (4, 12), 0.15));
    for (style, inches, colour) in [
        (AttractorStyle::Dodger, 6.0, Colour::Nickel),
        (AttractorStyle::Dodger, 8.0, Colour::Chartreuse),
        (AttractorStyle::RotatingFlasher, 8.0, Colour::White),
        (AttractorStyle::RotatingFlasher, 11.0, Colour::Green),
        (AttractorStyle::BladeString, 11.0, Colour::Brass),
        (AttractorStyle::Wing, 4.0, Colour::Pink),
    ] {
        let part = part(What::Attractor(style), inches, Finish::plain(colour));
        lots.push(lot(part, (1, 4), 7.5));
    }
    lots.push(lot(part(What::Rudder, 60.0, BARE), (2, 5), 1.4));
    for thousandths in [24.0, 28.0, 30.0, 35.0, 40.0] {
        lots.push(lot(part(What::Wire, thousandths, BARE), (8, 30), 0.6));
    }
    lots
}

fn soft() -> Vec<Lot> {
    use Colour::{Chartreuse, Glow, Green, Orange, Pink, Purple, White};
    let mut lots = Vec::new();
    for (dressing, colours) in [
        (
            Dressing::Squid,
            &[Chartreuse, Pink, White, Purple, Glow][..],
        ),
        (
            Dressing::SiliconeSkirt,
            &[Purple, Orange, White, Chartreuse],
        ),
        (Dressing::Tinsel, &[Pink, Green, White]),
        (Dressing::Hair, &[White, Orange]),
        (Dressing::FoamFloat, &[Chartreuse, Orange, Pink]),
        (Dressing::BaitHeadCap, &[Chartreuse, Glow]),
    ] {
        let what = What::Dressing(dressing);
        for colour in colours {
            let part = part(what, what.sizes()[0], Finish::plain(*colour));
            lots.push(lot(part, (4, 20), 0.45));
        }
    }
    for size in [15.0, 25.0, 40.0] {
        lots.push(lot(part(What::Tubing, size, BARE), (15, 40), 0.08));
    }
    // Corn comes from the kitchen, not from the box.
    for &bait in Bait::ALL.iter().filter(|bait| **bait != Bait::Corn) {
        let what = What::Bait(bait);
        lots.push(lot(
            part(what, what.sizes()[0], Finish::plain(Colour::Pink)),
            (0, 0),
            0.4,
        ));
    }
    for (material, test) in [
        (LineMaterial::Nylon, 6.0),
        (LineMaterial::Nylon, 8.0),
        (LineMaterial::Nylon, 10.0),
        (LineMaterial::Nylon, 12.0),
        (LineMaterial::Nylon, 17.0),
        (LineMaterial::Nylon, 20.0),
        (LineMaterial::Nylon, 30.0),
        (LineMaterial::Nylon, 40.0),
        (LineMaterial::Fluorocarbon, 8.0),
        (LineMaterial::Fluorocarbon, 12.0),
        (LineMaterial::Fluorocarbon, 17.0),
        (LineMaterial::Fluorocarbon, 25.0),
    ] {
        lots.push(lot(part(What::Line(material), test, BARE), (30, 100), 0.12));
    }
    // A spool that the caliper found thicker than its label.
    let thick = Measured {
        diameter: Some(Metres(0.41e-3)),
        ..Measured::default()
    };
    let spool = part(What::Line(LineMaterial::Nylon), 15.0, BARE).measured(thick);
    lots.push(lot(spool.expect(IN_CATALOGUE), (20, 60), 0.12));
    lots
}
