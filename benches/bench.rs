//! The bench: five bead stacks from a box of forty kinds, and all checks of a rig.

use criterion::{Criterion, criterion_group, criterion_main};
use motilis_core::bench::{Stocked, Wanted, checks, proposals, starting};
use motilis_core::book::PartId;
use motilis_core::fish::Fish;
use motilis_core::rig::{BARE, BeadStyle, Kind, Measured, Part, What};
use motilis_core::units::{MILLIMETRE, Metres};
use std::hint::black_box;

/// Forty kinds of bead, each of another length: the hardest box for the search.
fn forty(left: f64) -> Vec<Stocked> {
    (0..40)
        .map(|i| {
            let own = Measured {
                length: Some(Metres(3.0e-3 + 0.13e-3 * f64::from(i))),
                ..Measured::default()
            };
            let bead = Part::new(What::Bead(BeadStyle::Round), 6.0, BARE)
                .and_then(|part| part.measured(own));
            Stocked {
                id: PartId(i64::from(i)),
                part: bead.expect("6 mm beads exist"),
                left,
            }
        })
        .collect()
}

fn wanted(least: f64, most: f64) -> Wanted {
    Wanted {
        least: least * MILLIMETRE,
        ideal: 0.5 * (least + most) * MILLIMETRE,
        most: most * MILLIMETRE,
        ..Wanted::default()
    }
}

fn benches(c: &mut Criterion) {
    let (plenty, single) = (forty(50.0), forty(1.0));
    let harness = wanted(28.0, 34.0);
    c.bench_function("beads/forty kinds, plenty of each", |b| {
        b.iter(|| proposals(black_box(&harness), &plenty));
    });
    c.bench_function("beads/forty kinds, one of each", |b| {
        b.iter(|| proposals(black_box(&harness), &single));
    });
    let narrow = wanted(52.0, 52.02);
    c.bench_function("beads/long and narrow", |b| {
        b.iter(|| proposals(black_box(&narrow), &plenty));
    });
    let kind = Kind::CrawlerHarness;
    let stack = starting(kind, Fish::Walleye, kind.usual_hook_size(), &[]).expect("it starts");
    c.bench_function("checks/two-hook harness", |b| {
        b.iter(|| checks(black_box(&stack), &plenty));
    });
}

criterion_group!(group, benches);
criterion_main!(group);
