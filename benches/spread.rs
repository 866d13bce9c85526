//! What a spread of twelve lines costs, still and in motion: the figures published in `docs/architecture.md`.

#[path = "../crates/motilis-core/tests/it/fleet.rs"]
#[allow(dead_code, reason = "the tests use more of it")]
mod fleet;
#[path = "../crates/motilis-core/tests/it/rigs.rs"]
#[allow(dead_code, reason = "the tests use more of it")]
mod rigs;

use criterion::{Criterion, criterion_group, criterion_main};
use motilis_core::motion::{Course, Scene, record};
use motilis_core::spread::Side;
use motilis_core::units::Metres;
use std::hint::black_box;
use std::ops::ControlFlow;

fn bench(c: &mut Criterion) {
    let (spread, surroundings) = (fleet::twelve(), fleet::deep());
    c.bench_function("spread/solved, ordered and checked", |b| {
        b.iter(|| {
            let running = black_box(&spread)
                .running(&surroundings, None)
                .expect("it can be");
            let faults: usize = (0..12)
                .map(|place| spread.faults(&running, place, Some(4)).len())
                .sum();
            (
                spread.order(&running),
                spread.shared_speed(&surroundings),
                faults,
            )
        });
    });
    c.bench_function("spread/smallest safe turn", |b| {
        b.iter(|| black_box(&spread).safe_turn(&surroundings, Side::Port));
    });
    let scene = Scene {
        spread: &spread,
        surroundings: &surroundings,
        course: Course::STurns {
            radius: Metres(60.0),
            angle_deg: 45.0,
        },
        seconds: 120.0,
    };
    let mut group = c.benchmark_group("spread");
    group.sample_size(10);
    group.bench_function("120 s of S-turns", |b| {
        b.iter(|| record(black_box(&scene), |_| ControlFlow::Continue(())));
    });
}

criterion_group!(benches, bench);
criterion_main!(benches);
