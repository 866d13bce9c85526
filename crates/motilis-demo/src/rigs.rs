use crate::IN_CATALOGUE;
use crate::setups::Setups;
use motilis_core::blade::{Blade, Family};
use motilis_core::book::{OwnedRig, RigId, SetupId};
use motilis_core::line::LineSetup;
use motilis_core::rig::{
    Bait, BeadMaterial, Colour, Dressing, Finish, Hook, HookSize, HookStyle, Kind, Mount, Part, Rig,
};
use motilis_core::units::{GRAM, INCH, MILLIMETRE};
use motilis_store::{Connection, Error, rigs};

/// A rig of the box with the rod it goes on.
pub struct DemoRig {
    pub id: RigId,
    pub rig: Rig,
    pub setup: SetupId,
    pub line: LineSetup,
}

/// Tackle in short words.
mod tackle {
    use super::{
        BeadMaterial, Blade, Colour, Dressing, Family, Finish, Hook, HookSize, HookStyle,
        IN_CATALOGUE, MILLIMETRE, Part,
    };

    pub fn blade(family: Family, number: f64, colour: Colour) -> Part {
        Part::Blade {
            blade: Blade::of_size(family, number).expect(IN_CATALOGUE),
            finish: Finish::plain(colour),
            bend: None,
        }
    }

    pub fn hammered(part: Part) -> Part {
        match part {
            Part::Blade {
                blade,
                finish,
                bend,
            } => Part::Blade {
                blade,
                finish: Finish {
                    hammered: true,
                    ..finish
                },
                bend,
            },
            other => other,
        }
    }

    /// The same blade in thin stamped sheet.
    pub fn thin(part: Part) -> Part {
        match part {
            Part::Blade {
                blade,
                finish,
                bend,
            } => Part::Blade {
                blade: blade.of_thickness(0.20 * MILLIMETRE).expect(IN_CATALOGUE),
                finish,
                bend,
            },
            other => other,
        }
    }

    pub fn beads(count: u8, millimetres: f64, material: BeadMaterial, colour: Colour) -> Part {
        Part::Beads {
            count,
            diameter: millimetres * MILLIMETRE,
            material,
            colour,
        }
    }

    pub fn bearing() -> Part {
        beads(1, 4.0, BeadMaterial::Metal, Colour::Nickel)
    }

    pub fn hook(style: HookStyle, code: i8) -> Part {
        let size = HookSize::from_code(code).expect(IN_CATALOGUE);
        Part::Hook(Hook { style, size })
    }

    pub fn dressing(dressing: Dressing, colour: Colour) -> Part {
        Part::Dressing { dressing, colour }
    }

    pub fn swivel() -> Part {
        Part::Swivel {
            ball_bearing: false,
        }
    }
}

/// Fourteen rigs, from the slow wing to the salmon spinner.
#[allow(
    clippy::too_many_lines,
    reason = "a list of rigs, as long as the box is full"
)]
fn box_of_rigs(setups: &Setups) -> Vec<(Rig, &(SetupId, LineSetup))> {
    use BeadMaterial::Plastic;
    use Colour::{Brass, Chartreuse, Copper, Nickel, Orange, Pink, Purple, White};
    use HookStyle::{BentShank, Octopus, Siwash, Treble};
    use tackle::{beads, bearing, blade, dressing, hammered, hook, swivel, thin};

    let leader = |millimetres: f64| Mount::Leader(millimetres * MILLIMETRE);
    let wire = |inches: f64| Mount::Wire(inches * INCH);
    let rig = |name: &str, kind, mount, parts: Vec<Part>| {
        Rig::new(name, kind, mount, parts).expect("the scenario's rigs have a blade and a hook")
    };
    let two_hooks = |front: Vec<Part>, colour, code| {
        let mut parts = vec![swivel()];
        parts.extend(front);
        parts.push(beads(5, 6.0, Plastic, colour));
        parts.extend([
            hook(Octopus, code),
            hook(Octopus, code),
            Part::Bait(Bait::Crawler),
        ]);
        parts
    };
    let one_hook = |front: Part, colour, last: Part, bait: Bait| {
        vec![
            swivel(),
            front,
            beads(4, 5.0, Plastic, colour),
            last,
            Part::Bait(bait),
        ]
    };
    let willow = blade(Family::Willow, 4.0, Nickel);

    vec![
        (
            rig(
                "Tamarin two-hook",
                Kind::CrawlerHarness,
                leader(0.39),
                two_hooks(
                    vec![hammered(blade(Family::Colorado, 4.0, Brass))],
                    Chartreuse,
                    2,
                ),
            ),
            &setups.light_bouncer,
        ),
        (
            rig(
                "Big thumper",
                Kind::CrawlerHarness,
                leader(0.43),
                two_hooks(vec![blade(Family::Colorado, 5.0, Chartreuse)], Orange, 2),
            ),
            &setups.heavy_bouncer,
        ),
        (
            rig(
                "Indiana two-hook",
                Kind::CrawlerHarness,
                leader(0.39),
                two_hooks(vec![blade(Family::Indiana, 4.0, Orange)], Orange, 4),
            ),
            &setups.light_bouncer,
        ),
        (
            rig(
                "Indiana single",
                Kind::CrawlerHarness,
                leader(0.33),
                one_hook(
                    blade(Family::Indiana, 3.0, Copper),
                    Pink,
                    hook(Octopus, 2),
                    Bait::HalfCrawler,
                ),
            ),
            &setups.light_bouncer,
        ),
        (
            rig(
                "Leech single",
                Kind::CrawlerHarness,
                leader(0.33),
                one_hook(
                    hammered(blade(Family::Colorado, 3.0, Brass)),
                    White,
                    hook(Octopus, 2),
                    Bait::Leech,
                ),
            ),
            &setups.light_bouncer,
        ),
        (
            rig(
                "Double willow",
                Kind::FastHarness,
                leader(0.43),
                two_hooks(
                    vec![willow, beads(4, 5.0, Plastic, White), willow],
                    White,
                    2,
                ),
            ),
            &setups.heavy_bouncer,
        ),
        (
            rig(
                "Slow wing",
                Kind::WingWorm,
                leader(0.28),
                one_hook(
                    blade(Family::SoftWing, 1.5, Chartreuse),
                    Chartreuse,
                    hook(BentShank, 2),
                    Bait::HalfCrawler,
                ),
            ),
            &setups.light_bouncer,
        ),
        (
            rig(
                "Little wing",
                Kind::WingWorm,
                leader(0.26),
                one_hook(
                    blade(Family::SoftWing, 1.1, Pink),
                    White,
                    hook(BentShank, 4),
                    Bait::HalfCrawler,
                ),
            ),
            &setups.light_bouncer,
        ),
        (
            rig(
                "Ring-bead rainbow",
                Kind::RingBead,
                leader(0.23),
                vec![
                    thin(blade(Family::French, 1.0, Nickel)),
                    beads(6, 4.0, Plastic, Orange),
                    hook(Octopus, 6),
                    hook(Octopus, 6),
                    Part::Bait(Bait::WormPiece),
                ],
            ),
            &setups.lead_core,
        ),
        (
            rig(
                "Ring-bead wing",
                Kind::RingBead,
                leader(0.23),
                vec![
                    blade(Family::SoftWing, 0.8, Pink),
                    beads(5, 4.0, Plastic, Pink),
                    hook(Octopus, 6),
                    hook(Octopus, 6),
                    Part::Bait(Bait::WormPiece),
                ],
            ),
            &setups.board,
        ),
        (
            rig(
                "Wire trout",
                Kind::TrollingWire,
                wire(0.030),
                vec![
                    blade(Family::French, 2.0, Nickel),
                    bearing(),
                    beads(4, 5.0, Plastic, Orange),
                    hook(Treble, 6),
                ],
            ),
            &setups.lead_core,
        ),
        (
            rig(
                "Tail weight",
                Kind::TailWeighted,
                wire(0.030),
                vec![
                    hammered(blade(Family::French, 3.0, Brass)),
                    bearing(),
                    beads(3, 6.0, Plastic, Purple),
                    Part::Body {
                        mass: 4.0 * GRAM,
                        diameter: 7.0 * MILLIMETRE,
                    },
                    dressing(Dressing::SiliconeSkirt, Purple),
                    hook(Treble, 4),
                ],
            ),
            &setups.board,
        ),
        (
            rig(
                "Orrin magnum",
                Kind::SalmonWire,
                wire(0.035),
                vec![
                    blade(Family::MagnumWillow, 5.0, White),
                    bearing(),
                    beads(4, 8.0, Plastic, Chartreuse),
                    dressing(Dressing::Squid, Chartreuse),
                    dressing(Dressing::Tinsel, Pink),
                    hook(Siwash, -4),
                ],
            ),
            &setups.downrigger,
        ),
        (
            rig(
                "Squid on a leader",
                Kind::LeaderSquid,
                leader(0.52),
                vec![
                    swivel(),
                    blade(Family::HatchetCut, 4.0, Orange),
                    beads(4, 6.0, Plastic, Orange),
                    dressing(Dressing::Squid, Pink),
                    hook(Siwash, -3),
                    hook(Siwash, -3),
                ],
            ),
            &setups.diver,
        ),
    ]
}

pub fn add(connection: &Connection, setups: &Setups) -> Result<Vec<DemoRig>, Error> {
    let rigs = box_of_rigs(setups).into_iter().map(|(rig, (setup, line))| {
        let owned = OwnedRig {
            rig: rig.clone(),
            setup: *setup,
        };
        Ok(DemoRig {
            id: rigs::add(connection, &owned)?,
            rig,
            setup: *setup,
            line: line.clone(),
        })
    });
    rigs.collect()
}
