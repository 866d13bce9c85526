//! A working rig of a kind to start from.

use super::{Level, Rule, Stocked, checks};
use crate::blade::Family;
use crate::error::Error;
use crate::fish::Fish;
use crate::ids::PartId;
use crate::rig::{
    AttractorStyle, BARE, Bait, BeadStyle, BodyShape, Colour, Dressing, Finish, HookSize,
    HookStyle, Kind, Material, Mount, Part, Piece, Stack, SwivelStyle, What,
};

/// The blade practice puts on a kind of rig.
pub(super) fn usual_blade(kind: Kind) -> (What, f64) {
    let (family, number) = match kind {
        Kind::InlineTorpedo | Kind::InlineBell | Kind::TailWeighted => (Family::French, 3.0),
        Kind::TrollingWire => (Family::French, 2.0),
        Kind::SalmonWire => (Family::MagnumWillow, 4.0),
        Kind::RingBead => (Family::French, 1.0),
        Kind::WingWorm | Kind::FlasherFly => (Family::SoftWing, 1.5),
        Kind::BaitSpinner => (Family::SoftWing, 1.1),
        Kind::FastHarness => (Family::Willow, 4.0),
        Kind::LeaderSquid => (Family::HatchetCut, 4.0),
        Kind::CrawlerHarness | Kind::Attractor | Kind::BareHook => (Family::Colorado, 4.0),
    };
    (What::Blade(family), number)
}

/// The hook practice puts on a kind of rig.
pub(super) fn usual_hook(kind: Kind) -> (What, f64) {
    let (style, code) = match kind {
        Kind::InlineTorpedo | Kind::InlineBell | Kind::TailWeighted => (HookStyle::Siwash, 4.0),
        Kind::TrollingWire => (HookStyle::Siwash, 6.0),
        Kind::SalmonWire => (HookStyle::Siwash, -1.0),
        Kind::WingWorm => (HookStyle::BentShank, 2.0),
        Kind::RingBead => (HookStyle::Octopus, 6.0),
        Kind::FlasherFly | Kind::LeaderSquid | Kind::BaitSpinner => (HookStyle::Octopus, -2.0),
        Kind::CrawlerHarness | Kind::FastHarness | Kind::Attractor | Kind::BareHook => {
            (HookStyle::Octopus, 2.0)
        }
    };
    (What::Hook(style), code)
}

impl Kind {
    /// Size of hook practice starts from.
    pub fn usual_hook_size(self) -> HookSize {
        let (_, code) = usual_hook(self);
        HookSize::from_code(code as i8).expect("the table above names sizes of the trade")
    }
}

/// Repairs tried before a rig is handed over as it is.
const REPAIRS: usize = 16;

/// A rig of a kind on a hook of a size, with everything the checks ask for: out of the box where it
/// has what is needed, of trade sizes otherwise.
///
/// On wire the blade is the one whose width the hook's points just clear; on a leader the fish decides
/// whether it is a number smaller or larger than usual.
///
/// # Errors
/// [`Error`] of the blade model.
pub fn starting(kind: Kind, fish: Fish, hook: HookSize, stock: &[Stocked]) -> Result<Stack, Error> {
    let mut stack = Stack::empty(kind, mount(kind, stock)?);
    stack.pieces = skeleton(kind, fish, hook, stock)?;
    if kind == Kind::SalmonWire {
        stack.build.hook_spacing.0 = 0.038;
    }
    mended(stack, stock)
}

/// A stack with every mend made that its checks propose, from the worst on: out of the box where it
/// can, with common beads of the trade where it must.
///
/// # Errors
/// [`Error`] of the blade model.
pub fn mended(mut stack: Stack, stock: &[Stocked]) -> Result<Stack, Error> {
    let box_and_shop = with_common_beads(stock);
    for repair in 0..REPAIRS {
        // The box first; what it cannot mend, common beads of the trade can.
        let stock = if repair % 2 == 0 {
            stock
        } else {
            &box_and_shop
        };
        let checked = checks(&stack, stock);
        let mendable = checked.checks.iter().find(|check| {
            check.level != Level::Pass
                && !check.mends.is_empty()
                && !matches!(check.rule, Rule::Stock { .. })
        });
        match mendable {
            Some(check) => stack = stack.edited_by(&check.mends[0])?,
            None if repair % 2 == 1 => break,
            None => {}
        }
    }
    for piece in &mut stack.pieces {
        // What came from the shop is not in the box.
        piece.stock = piece.stock.filter(|id| id.0 >= 0);
    }
    Ok(stack)
}

/// The box with plenty of common beads under numbers that no box has.
fn with_common_beads(stock: &[Stocked]) -> Vec<Stocked> {
    let what = What::Bead(BeadStyle::Round);
    let common = [4.0, 5.0, 6.0, 8.0]
        .into_iter()
        .enumerate()
        .filter_map(|(place, size)| {
            Some(Stocked {
                id: PartId(-1 - place as i64),
                part: Part::new(what, size, Finish::plain(Colour::Orange)).ok()?,
                left: 50.0,
            })
        });
    stock.iter().copied().chain(common).collect()
}

fn mount(kind: Kind, stock: &[Stocked]) -> Result<Mount, Error> {
    let (what, size) = match kind {
        Kind::SalmonWire => (What::Wire, 35.0),
        _ if kind.is_on_wire() => (What::Wire, 30.0),
        Kind::RingBead => (What::Line(crate::tackle::LineMaterial::Nylon), 6.0),
        Kind::WingWorm => (What::Line(crate::tackle::LineMaterial::Nylon), 10.0),
        Kind::FlasherFly | Kind::LeaderSquid | Kind::BaitSpinner => {
            (What::Line(crate::tackle::LineMaterial::Nylon), 30.0)
        }
        _ => (What::Line(crate::tackle::LineMaterial::Nylon), 17.0),
    };
    let wanted = Part::new(what, size, BARE)?;
    let spool = stock
        .iter()
        .find(|stocked| stocked.part.is_same_size(&wanted));
    Mount::new(
        spool.map_or(wanted, |stocked| stocked.part),
        spool.map(|stocked| stocked.id),
    )
}

/// The parts of a kind, before the checks add what they ask for.
#[allow(clippy::too_many_lines, reason = "a list of rigs, one arm a kind")]
fn skeleton(
    kind: Kind,
    fish: Fish,
    hook: HookSize,
    stock: &[Stocked],
) -> Result<Vec<Piece>, Error> {
    let take = |what: What, size: f64, count: u8, finish: Finish| -> Result<Piece, Error> {
        let wanted = Part::new(what, size, finish)?;
        let in_box = stock
            .iter()
            .find(|stocked| stocked.part.is_same_size(&wanted) && stocked.has(count));
        Ok(in_box.map_or(Piece::many(wanted, count), |stocked| stocked.piece(count)))
    };
    let bare = |what, size| take(what, size, 1, BARE);
    let plain = |what, size, colour| take(what, size, 1, Finish::plain(colour));
    let (hook_what, _) = usual_hook(kind);
    let hooks = |count| take(hook_what, f64::from(hook.code()), count, BARE);
    let (blade_what, mut number) = usual_blade(kind);
    let (step, colour) = for_fish(fish);
    if kind.is_on_wire() {
        number = wire_blade(blade_what, hook).unwrap_or(number);
    } else if blade_what.sizes().contains(&(number + step)) {
        number += step;
    }
    let blade = plain(blade_what, number, colour)?;
    // Wire spinners turn on brass, leaders on plastic.
    let bearing = || -> Result<Piece, Error> {
        let (finish, material) = if kind.is_on_wire() {
            (BARE, Material::Brass)
        } else {
            (Finish::plain(Colour::Red), Material::Plastic)
        };
        let bead = Part::new(What::Bead(BeadStyle::Round), 4.0, finish)?.of(material);
        let in_box = stock.iter().find(|stocked| {
            stocked.part.is_same_size(&bead) && stocked.part.material == material && stocked.has(1)
        });
        Ok(in_box.map_or(Piece::one(bead), |stocked| stocked.piece(1)))
    };
    let swivel = || bare(What::Swivel(SwivelStyle::Barrel), 14.0);
    let ball_bearing = || bare(What::Swivel(SwivelStyle::BallBearing), 14.0);
    let body = |shape, grams| bare(What::Body(shape), grams);
    let dressing = |dressing: Dressing, colour| {
        plain(
            What::Dressing(dressing),
            What::Dressing(dressing).sizes()[0],
            colour,
        )
    };
    let bait = |bait: Bait| bare(What::Bait(bait), What::Bait(bait).sizes()[0]);
    Ok(match kind {
        Kind::InlineTorpedo => vec![blade, bearing()?, body(BodyShape::Torpedo, 5.0)?, hooks(1)?],
        Kind::InlineBell => vec![blade, bearing()?, body(BodyShape::Bell, 4.0)?, hooks(1)?],
        // The default school: a rudder whenever a wire spinner runs bare.
        Kind::TrollingWire => vec![bare(What::Rudder, 60.0)?, blade, bearing()?, hooks(1)?],
        Kind::TailWeighted => vec![
            blade,
            bearing()?,
            take(
                What::Bead(BeadStyle::Round),
                6.0,
                1,
                Finish::plain(Colour::Purple),
            )?,
            body(BodyShape::TailWeight, 5.0)?,
            dressing(Dressing::SiliconeSkirt, Colour::Purple)?,
            hooks(1)?,
        ],
        Kind::SalmonWire => vec![
            blade,
            bearing()?,
            dressing(Dressing::Squid, Colour::Chartreuse)?,
            dressing(Dressing::Tinsel, Colour::Pink)?,
            bare(What::Tubing, 25.0)?,
            hooks(1)?,
        ],
        Kind::RingBead => vec![blade, bearing()?, hooks(2)?, bait(Bait::WormPiece)?],
        Kind::WingWorm => vec![swivel()?, blade, hooks(1)?, bait(Bait::HalfCrawler)?],
        Kind::CrawlerHarness => vec![
            swivel()?,
            blade,
            bearing()?,
            hooks(2)?,
            bait(Bait::Crawler)?,
        ],
        Kind::FastHarness => vec![
            swivel()?,
            blade,
            bearing()?,
            take(
                What::Bead(BeadStyle::Round),
                5.0,
                2,
                Finish::plain(Colour::Orange),
            )?,
            blade,
            bearing()?,
            hooks(2)?,
            bait(Bait::Crawler)?,
        ],
        Kind::FlasherFly => vec![
            bare(What::Attractor(AttractorStyle::RotatingFlasher), 11.0)?,
            ball_bearing()?,
            blade,
            dressing(Dressing::Tinsel, Colour::Green)?,
            hooks(2)?,
        ],
        Kind::BaitSpinner => vec![
            swivel()?,
            blade,
            dressing(Dressing::BaitHeadCap, Colour::Chartreuse)?,
            hooks(2)?,
            bait(Bait::BaitFish)?,
        ],
        Kind::LeaderSquid => vec![
            swivel()?,
            blade,
            bearing()?,
            dressing(Dressing::Squid, Colour::Pink)?,
            hooks(2)?,
        ],
        Kind::BareHook => vec![swivel()?, hooks(1)?, bait(Bait::Leech)?],
        Kind::Attractor => vec![
            bare(What::Attractor(AttractorStyle::Dodger), 6.0)?,
            ball_bearing()?,
            blade,
            bearing()?,
            hooks(1)?,
            bait(Bait::HalfCrawler)?,
        ],
    })
}

/// How many numbers larger a fish wants its blade, and in which finish (common practice, no source).
fn for_fish(fish: Fish) -> (f64, Colour) {
    match fish {
        Fish::Walleye | Fish::Sauger | Fish::YellowPerch | Fish::BrownTrout => (0.0, Colour::Brass),
        Fish::RainbowTrout | Fish::BrookTrout | Fish::Cutthroat => (-1.0, Colour::Nickel),
        Fish::LandlockedSockeye => (-1.0, Colour::Copper),
        Fish::Pink => (-1.0, Colour::Pink),
        Fish::LakeTrout => (1.0, Colour::Nickel),
        Fish::LandlockedAtlantic => (0.0, Colour::Nickel),
        Fish::Coho | Fish::Chinook | Fish::LandlockedChinook | Fish::Chum => {
            (1.0, Colour::Chartreuse)
        }
        Fish::Steelhead | Fish::SmallmouthBass => (0.0, Colour::Copper),
    }
}

/// The number of a family whose width a hook's points just clear, the widest of them.
fn wire_blade(what: What, hook: HookSize) -> Option<f64> {
    let span = crate::rig::Hook {
        style: HookStyle::Siwash,
        size: hook,
    }
    .span();
    let clears = |number: &f64| {
        let blade = Part::new(what, *number, BARE)
            .ok()
            .and_then(|part| part.blade());
        blade.is_some_and(|blade| (1.0..=1.3).contains(&(span / blade.width)))
    };
    let What::Blade(family) = what else {
        return None;
    };
    family.common_numbers().into_iter().rfind(clears)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    /// Every kind of the trade starts as a rig that nothing is wrong with but that the box is empty.
    #[test]
    fn every_kind_starts_with_all_checks_good() {
        for (&kind, &fish) in Kind::ALL
            .iter()
            .flat_map(|k| Fish::ALL.iter().map(move |f| (k, f)))
        {
            let stack = starting(kind, fish, kind.usual_hook_size(), &[]).unwrap();
            let checked = checks(&stack, &[]);
            let wrong: Vec<_> = checked
                .checks
                .iter()
                .filter(|check| check.level != Level::Pass)
                .filter(|check| !matches!(check.rule, Rule::Stock { .. }))
                .collect();
            assert!(wrong.is_empty(), "{kind:?} {fish:?}: {wrong:#?}");
        }
    }

    #[rstest]
    #[case(4)]
    #[case(2)]
    #[case(-1)]
    fn a_larger_hook_on_wire_gets_a_wider_blade(#[case] code: i8) {
        let hook = HookSize::from_code(code).unwrap();
        let stack = starting(Kind::TrollingWire, Fish::RainbowTrout, hook, &[]).unwrap();
        let (_, blade, _) = stack.blades().next().unwrap();
        let ratio = crate::rig::Hook {
            style: HookStyle::Siwash,
            size: hook,
        }
        .span()
            / blade.width;
        assert!((1.0..=1.3).contains(&ratio), "{ratio}");
    }
}
