//! What a box begins with: the parts most boxes have, tray by tray, and the rods most boats do.

use crate::blade::Family;
use crate::error::Error;
use crate::keyed::keyed;
use crate::line::{LineSetup, Start};
use crate::rig::{
    AttractorStyle, BARE, Bait, BeadStyle, BodyShape, ClevisStyle, Colour, Dressing, Finish,
    HookStyle, Kind, Material, Part, SwivelStyle, What,
};
use crate::tackle::{DiverSize, LineMaterial, LineStock, ReleaseHole, SideSetting, Weight};
use crate::units::{FOOT, MILE_PER_HOUR, Metres, POUND};

/// A tray of a box to begin with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum StarterTray {
    /// Metal blades of the common families.
    Blades,
    /// Wings of film and plastic.
    Wings,
    /// Beads and bearings.
    Beads,
    /// Clevises, swivels and bodies.
    Metal,
    /// Hooks.
    Hooks,
    /// Skirts, squids and attractors.
    Dressing,
    /// Leader line and wire.
    Line,
    /// What goes on the hook.
    Bait,
}

keyed!(StarterTray {
    Blades "blades" "metal blades",
    Wings "wings" "wings",
    Beads "beads" "beads",
    Metal "metal" "clevises, swivels, bodies",
    Hooks "hooks" "hooks",
    Dressing "dressing" "skirts, squids, flashers",
    Line "line" "leader line and wire",
    Bait "bait" "bait",
});

impl StarterTray {
    /// The parts in it (common practice, no source).
    ///
    /// # Errors
    /// Never: all of them are in the catalogue.
    #[allow(clippy::too_many_lines, reason = "a table, tray by tray")]
    pub fn parts(self) -> Result<Vec<Part>, Error> {
        use Colour::{Brass, Chartreuse, Copper, Nickel, Orange, Pink, Red, White};
        let round = What::Bead(BeadStyle::Round);
        match self {
            Self::Blades => of(&[
                (
                    What::Blade(Family::Colorado),
                    &[3.0, 4.0, 5.0],
                    &[Brass, Nickel, Chartreuse],
                ),
                (
                    What::Blade(Family::Indiana),
                    &[3.0, 4.0],
                    &[Copper, Nickel, Orange],
                ),
                (What::Blade(Family::Willow), &[3.0, 4.0], &[Nickel, Copper]),
                (
                    What::Blade(Family::French),
                    &[0.0, 1.0, 2.0, 3.0],
                    &[Nickel, Brass, Copper],
                ),
                (
                    What::Blade(Family::MagnumWillow),
                    &[4.0, 5.0],
                    &[White, Chartreuse],
                ),
                (
                    What::Blade(Family::HatchetCut),
                    &[3.0, 4.0, 5.0],
                    &[Brass, Orange, Pink, Chartreuse],
                ),
            ]),
            Self::Wings => of(&[
                (
                    What::Blade(Family::SoftWing),
                    &[0.8, 1.1, 1.5],
                    &[Chartreuse, Pink],
                ),
                (What::Blade(Family::HardWing), &[1.1], &[Pink]),
            ]),
            Self::Beads => {
                let mut beads = of(&[
                    (round, &[4.0, 5.0, 6.0], &[Chartreuse, Orange, Red, White]),
                    (round, &[3.0], &[Red]),
                    (round, &[8.0], &[Orange, Red]),
                ])?;
                for size in [3.0, 4.0, 5.0] {
                    beads.push(Part::new(round, size, BARE)?.of(Material::Brass));
                }
                Ok(beads)
            }
            Self::Metal => of(&[
                (
                    What::Clevis(ClevisStyle::Stirrup),
                    &[1.0, 2.0, 3.0],
                    &[BARE.colour],
                ),
                (
                    What::Clevis(ClevisStyle::Folded),
                    &[2.0, 3.0],
                    &[BARE.colour],
                ),
                (
                    What::Clevis(ClevisStyle::QuickChange),
                    &[2.0],
                    &[BARE.colour],
                ),
                (What::Swivel(SwivelStyle::Barrel), &[14.0], &[BARE.colour]),
                (
                    What::Swivel(SwivelStyle::BallBearing),
                    &[14.0, 18.0],
                    &[BARE.colour],
                ),
                (What::Body(BodyShape::Torpedo), &[5.0, 7.0], &[BARE.colour]),
                (What::Body(BodyShape::Bell), &[5.0, 7.0], &[BARE.colour]),
                (What::Body(BodyShape::TailWeight), &[7.0], &[BARE.colour]),
                (What::Tubing, &[15.0, 25.0], &[BARE.colour]),
                (What::Rudder, &[60.0], &[BARE.colour]),
            ]),
            Self::Hooks => of(&[
                (
                    What::Hook(HookStyle::Octopus),
                    &[6.0, 4.0, 2.0, -1.0, -2.0],
                    &[BARE.colour],
                ),
                (
                    What::Hook(HookStyle::Siwash),
                    &[6.0, 4.0, 2.0, -1.0],
                    &[BARE.colour],
                ),
                (
                    What::Hook(HookStyle::Treble),
                    &[8.0, 6.0, 4.0],
                    &[BARE.colour],
                ),
                (
                    What::Hook(HookStyle::BentShank),
                    &[4.0, 2.0],
                    &[BARE.colour],
                ),
            ]),
            Self::Dressing => {
                let mut parts = of(&[
                    (What::Attractor(AttractorStyle::Dodger), &[6.0], &[Nickel]),
                    (
                        What::Attractor(AttractorStyle::RotatingFlasher),
                        &[11.0],
                        &[Chartreuse],
                    ),
                ])?;
                for dressing in Dressing::ALL {
                    let what = What::Dressing(*dressing);
                    parts.push(Part::new(what, what.sizes()[0], Finish::plain(Pink))?);
                }
                Ok(parts)
            }
            Self::Line => of(&[
                (
                    What::Line(LineMaterial::Nylon),
                    &[8.0, 12.0, 17.0, 20.0, 25.0],
                    &[BARE.colour],
                ),
                (What::Wire, &[24.0, 26.0, 30.0], &[BARE.colour]),
            ]),
            Self::Bait => Bait::ALL
                .iter()
                .map(|bait| {
                    let what = What::Bait(*bait);
                    Part::new(what, what.sizes()[0], BARE)
                })
                .collect(),
        }
    }

    /// How many of a part, or metres of line, a tray is put down with where a count is kept.
    pub fn first_count(self) -> f64 {
        match self {
            Self::Beads => 50.0,
            Self::Line => 100.0,
            Self::Bait => 0.0,
            _ => 10.0,
        }
    }
}

/// Every size of every row in every colour of it.
fn of(rows: &[(What, &[f64], &[Colour])]) -> Result<Vec<Part>, Error> {
    rows.iter()
        .flat_map(|(what, sizes, colours)| {
            sizes.iter().flat_map(move |size| {
                colours
                    .iter()
                    .map(move |colour| Part::new(*what, *size, Finish::plain(*colour)))
            })
        })
        .collect()
}

/// A rod to begin with, by what takes its line down.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum StarterRod {
    /// A bottom bouncer.
    Bouncer,
    /// Nothing at all.
    FlatLine,
    /// Lead-core.
    LeadCore,
    /// A trip diver.
    Diver,
    /// A downrigger.
    Downrigger,
    /// A board at the side.
    Board,
}

keyed!(StarterRod {
    Bouncer "bouncer" "bottom bouncer",
    FlatLine "flat_line" "flat line",
    LeadCore "lead_core" "lead-core",
    Diver "diver" "trip diver",
    Downrigger "downrigger" "downrigger",
    Board "board" "side board",
});

impl StarterRod {
    /// It as a set-up (common practice, no source).
    ///
    /// # Errors
    /// Never: the catalogue has these lines.
    pub fn setup(self) -> Result<LineSetup, Error> {
        let nylon = |test| LineStock::of_test(LineMaterial::Nylon, test);
        let usual = LineSetup::usual()?;
        let plain = |name: &str| LineSetup {
            name: name.into(),
            weight: None,
            ..usual.clone()
        };
        Ok(match self {
            Self::Bouncer => usual,
            Self::FlatLine => plain("Flat line"),
            Self::LeadCore => LineSetup {
                main: LineStock::of_test(LineMaterial::LeadCore, 18)?,
                leader: nylon(10)?,
                lead: 20.0 * FOOT,
                ..plain("Lead-core rod")
            },
            Self::Diver => LineSetup {
                main: LineStock::of_test(LineMaterial::Braid, 30)?,
                leader: nylon(25)?,
                weight: Some(Weight::TripDiver(
                    DiverSize::Medium,
                    SideSetting::Straight,
                    ReleaseHole::Middle,
                )),
                ..plain("Diver rod")
            },
            Self::Downrigger => LineSetup {
                start: Start::Downrigger {
                    ball: 10.0 * POUND,
                    drop_back: 20.0 * FOOT,
                    above: Metres(0.0),
                },
                main: nylon(20)?,
                leader: nylon(25)?,
                lead: 6.0 * FOOT,
                reel: 200.0 * FOOT,
                ..plain("Downrigger")
            },
            Self::Board => LineSetup {
                start: Start::Board,
                ..plain("Board, flat line")
            },
        })
    }

    /// Whether a kind of rig usually hangs on it (common practice, no source).
    pub fn suits(self, kind: Kind) -> bool {
        match self {
            Self::Bouncer => matches!(
                kind,
                Kind::CrawlerHarness | Kind::FastHarness | Kind::WingWorm | Kind::BareHook
            ),
            Self::Downrigger | Self::Diver => {
                matches!(
                    kind,
                    Kind::FlasherFly
                        | Kind::SalmonWire
                        | Kind::BaitSpinner
                        | Kind::LeaderSquid
                        | Kind::Attractor
                )
            }
            Self::LeadCore => kind.trolled().favourite <= 1.6 * MILE_PER_HOUR,
            Self::FlatLine | Self::Board => true,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::advice::Stand;
    use crate::bench::{Check, Level, Stocked, checks, starting};
    use crate::fish::Fish;
    use crate::ids::PartId;

    fn whole_box() -> Vec<Stocked> {
        StarterTray::ALL
            .iter()
            .flat_map(|tray| tray.parts().unwrap())
            .zip(1..)
            .map(|(part, id)| Stocked {
                id: PartId(id),
                part,
                left: 100.0,
            })
            .collect()
    }

    #[test]
    fn no_part_lies_in_it_twice() {
        let parts = whole_box();
        for (place, one) in parts.iter().enumerate() {
            let twin = parts[..place].iter().find(|other| other.part == one.part);
            assert_eq!(twin, None);
        }
    }

    /// Whatever is fished for, the box begins with a sound rig of its first kind, and a rod for it.
    #[test]
    fn a_first_rig_comes_out_of_it_for_every_fish() {
        let stock = whole_box();
        let first = Fish::ALL.iter().map(|fish| (fish, fish.kinds()[0]));
        let cast = Fish::ALL.iter().map(|fish| (fish, fish.cast_kinds()[0]));
        for (fish, kind) in first.chain(cast) {
            let stack = starting(kind, *fish, kind.usual_hook_size(), &stock).unwrap();
            let fails = |check: &Check| check.level == Level::Fail;
            let checked = checks(&stack, &stock).checks;
            assert!(!checked.iter().any(fails), "{fish:?}: {checked:?}");
            let stand = Stand::of(&stack, 0, |piece| crate::bench::left_of(&stock, piece));
            assert!(matches!(stand, Stand::Buildable(_)), "{fish:?}: {stand:?}");
            let rod = StarterRod::ALL.iter().find(|rod| rod.suits(kind)).unwrap();
            rod.setup().unwrap().check().unwrap();
        }
    }
}
