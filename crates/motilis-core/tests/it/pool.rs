//! A box that holds everything: every kind of rig in the sizes and finishes of the trade, made up.

use motilis_core::advice::{Candidate, Day, Mood, Response, Sky, Wind};
use motilis_core::bench::{mended, starting};
use motilis_core::blade::Family;
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::{self, Stain};
use motilis_core::line::{LineSetup, Start};
use motilis_core::rig::{Colour, Edit, Finish, Kind, Part, Piece, Rig, Stack, What};
use motilis_core::tackle::{LineMaterial, LineStock};
use motilis_core::units::{Celsius, FOOT, MILE_PER_HOUR, Metres, POUND};
use std::sync::OnceLock;

/// A cloudy summer morning over stained water.
pub fn day() -> Day {
    Day {
        speed: 1.2 * MILE_PER_HOUR,
        temperature: Celsius(17.0),
        salt: false,
        river: false,
        clarity: 7.0 * FOOT,
        stain: Stain::Tea,
        sky: Sky::Cloud,
        overhead: light::Sky {
            sun_alt: 30.0,
            moon_alt: -20.0,
            moon_phase: 90.0,
            cloud: Sky::Cloud.cloud(),
            wind: Wind::Ripple.speed(),
        },
        fish: Fish::Walleye,
        fish_depth: (20.0 * FOOT, 25.0 * FOOT),
        mood: Mood::Neutral,
        forage: Forage::YellowPerch,
        response: Response::Unknown,
        nibblers: false,
        crowd: None,
        bottom: 27.0 * FOOT,
        wanted_depth: 22.0 * FOOT,
    }
}

/// A downrigger, so that every depth can be had.
fn downrigger() -> LineSetup {
    LineSetup {
        name: "Downrigger".into(),
        start: Start::Downrigger {
            ball: 10.0 * POUND,
            drop_back: 20.0 * FOOT,
            above: Metres(0.0),
        },
        main: LineStock::of_test(LineMaterial::Nylon, 12).unwrap(),
        core: None,
        ahead: Metres(0.0),
        weight: None,
        leader: LineStock::of_test(LineMaterial::Nylon, 12).unwrap(),
        lead: 6.0 * FOOT,
        strum: 1.2,
        learned: motilis_core::line::Learned::default(),
        reel: Metres(80.0),
    }
}

/// Families and sizes hung on a kind.
fn blades(kind: Kind) -> Vec<(Family, f64)> {
    use Family::{Colorado, French, HatchetCut, Indiana, MagnumWillow, SoftWing, Willow};
    let sizes = |family, numbers: &[f64]| -> Vec<(Family, f64)> {
        numbers.iter().map(|number| (family, *number)).collect()
    };
    match kind {
        Kind::CrawlerHarness => [
            sizes(Colorado, &[2.0, 3.0, 4.0, 5.0]),
            sizes(Indiana, &[3.0, 4.0, 5.0]),
        ]
        .concat(),
        Kind::FastHarness => sizes(Willow, &[3.0, 4.0, 5.0]),
        Kind::WingWorm => sizes(SoftWing, &[0.8, 1.1, 1.5]),
        Kind::FlasherFly => [
            sizes(SoftWing, &[1.1, 1.5]),
            sizes(Indiana, &[3.0, 4.0]),
            sizes(MagnumWillow, &[3.5, 4.0]),
        ]
        .concat(),
        Kind::BaitSpinner => sizes(SoftWing, &[0.8, 1.1]),
        Kind::LeaderSquid => [sizes(HatchetCut, &[3.0, 4.0]), sizes(Indiana, &[3.0, 4.0])].concat(),
        Kind::SalmonWire => [
            sizes(MagnumWillow, &[3.5, 4.0, 5.0]),
            sizes(HatchetCut, &[4.0]),
        ]
        .concat(),
        Kind::RingBead => [sizes(French, &[0.0, 1.0, 2.0]), sizes(SoftWing, &[0.8])].concat(),
        Kind::Attractor => [sizes(Colorado, &[2.0, 3.0]), sizes(Indiana, &[2.0, 3.0])].concat(),
        Kind::TrollingWire => sizes(French, &[1.0, 2.0, 3.0]),
        Kind::InlineTorpedo | Kind::InlineBell | Kind::TailWeighted => {
            sizes(French, &[1.0, 2.0, 3.0])
        }
        Kind::BareHook => Vec::new(),
    }
}

fn finishes() -> Vec<Finish> {
    Colour::ALL
        .iter()
        .flat_map(|&colour| {
            let hammered = colour.is_metal().then(|| Finish::hammered(colour));
            std::iter::once(Finish::plain(colour)).chain(hammered)
        })
        .collect()
}

/// Every candidate; built once.
pub fn pool() -> &'static [Candidate] {
    static POOL: OnceLock<Vec<Candidate>> = OnceLock::new();
    POOL.get_or_init(|| Kind::ALL.iter().flat_map(|&kind| of_kind(kind)).collect())
}

fn of_kind(kind: Kind) -> Vec<Candidate> {
    if !kind.has_blade() {
        return Vec::new();
    }
    let base = starting(kind, Fish::Walleye, kind.usual_hook_size(), &[]).unwrap();
    let mut made = Vec::new();
    for (family, number) in blades(kind) {
        // Each blade gets the beads that keep its tip off the hook.
        let sized = mended(
            with_blade(&base, family, number, Finish::plain(Colour::Brass)),
            &[],
        );
        let sized = sized.unwrap();
        for finish in finishes() {
            let stack = with_blade(&sized, family, number, finish);
            let hammered = if finish.hammered { " hammered" } else { "" };
            let name = format!(
                "{} {} {number}{hammered} {}",
                kind.key(),
                family.key(),
                finish.colour.name()
            );
            let rig = Rig::new(name, stack).unwrap();
            made.push(Candidate::made_up(rig, downrigger()));
        }
    }
    made
}

fn with_blade(stack: &Stack, family: Family, number: f64, finish: Finish) -> Stack {
    let blade = Part::new(What::Blade(family), number, finish).unwrap();
    let edits: Vec<Edit> = stack
        .blades()
        .map(|(at, _, piece)| Edit::Replace {
            at,
            piece: Piece::many(blade, piece.count),
        })
        .collect();
    stack.edited_by(&edits).unwrap()
}
