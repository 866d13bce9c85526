//! The match: ten thousand candidates ordered and called, and the swaps a box allows.

use criterion::{Criterion, criterion_group, criterion_main};
use motilis_core::advice::{Candidate, Judge, Ways, draw_up, variants};
use motilis_core::bench::Stocked;
use motilis_core::blade::Family;
use motilis_core::book::PartId;
use motilis_core::rig::{Colour, Finish, Part, What};
use std::hint::black_box;

#[path = "../crates/motilis-core/tests/it/pool.rs"]
mod pool;

/// The blades of a well-filled box.
fn blades() -> Vec<Stocked> {
    let families = [
        (Family::Colorado, [2.0, 3.0, 4.0, 5.0]),
        (Family::Indiana, [2.0, 3.0, 4.0, 5.0]),
        (Family::Willow, [3.0, 4.0, 5.0, 6.0]),
        (Family::French, [1.0, 2.0, 3.0, 4.0]),
    ];
    let colours = [
        Colour::Brass,
        Colour::Copper,
        Colour::Nickel,
        Colour::Orange,
    ];
    families
        .iter()
        .flat_map(|(family, numbers)| numbers.iter().map(move |number| (*family, *number)))
        .flat_map(|blade| colours.iter().map(move |colour| (blade, *colour)))
        .zip(1..)
        .map(|(((family, number), colour), id)| Stocked {
            id: PartId(id),
            part: Part::new(What::Blade(family), number, Finish::plain(colour)).expect("a size"),
            left: 4.0,
        })
        .collect()
}

fn benches(c: &mut Criterion) {
    let day = pool::day();
    let ways = Ways::usual(day.fish);
    let candidates: Vec<Candidate> = pool::pool().iter().cycle().take(10_000).cloned().collect();
    c.bench_function("advice/match of 10 000", |b| {
        b.iter(|| {
            let judge = Judge::new(&day, &ways).expect("a day");
            let ranking = judge.rank(black_box(&candidates));
            draw_up(&judge, &candidates, &ranking, |_| None)
        });
    });
    let forty: Vec<&Candidate> = pool::pool().iter().step_by(20).take(40).collect();
    let stock = blades();
    c.bench_function("advice/swaps of forty rigs", |b| {
        b.iter(|| {
            forty
                .iter()
                .map(|base| variants(base, &stock).expect("rigs").len())
                .sum::<usize>()
        });
    });
}

criterion_group!(all, benches);
criterion_main!(all);
