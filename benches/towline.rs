//! What one towed line costs: the figures published in `docs/architecture.md`.

use criterion::{Criterion, criterion_group, criterion_main};
use motilis_core::towline::{LONGEST, LineDrag, PointLoad, Segment, Towline};
use motilis_core::units::{
    Celsius, Metres, MetresPerSecond, Newtons, NewtonsPerMetre, SquareMetres,
};
use motilis_core::water::Water;
use std::hint::black_box;

/// A crawler harness on 5 ft of leader behind a 1 oz bouncer and 70 ft of 10 lb nylon at 1.2 mph.
fn bouncer() -> Towline {
    let segment = |length, diameter, node| Segment {
        length: Metres(length),
        diameter: Metres(diameter),
        submerged_weight: NewtonsPerMetre(9e-5),
        node,
    };
    let load = |weight, area| PointLoad {
        submerged_weight: Newtons(weight),
        drag_area: SquareMetres(area),
        down_area: SquareMetres(0.0),
    };
    Towline::new(
        MetresPerSecond(0.536),
        Water::fresh(Celsius(15.0)).expect("15 °C is in range"),
        LineDrag::default(),
        load(0.02, 5e-4),
        vec![
            segment(1.52, 3.9e-4, Some(load(0.253, 7.3e-4))),
            segment(21.3, 2.8e-4, None),
        ],
    )
    .expect("the line is sound")
}

fn bench(c: &mut Criterion) {
    let line = bouncer();
    c.bench_function("towline/forward", |b| b.iter(|| black_box(&line).solve()));
    c.bench_function("towline/inverse", |b| {
        b.iter(|| black_box(&line).reach(Metres(6.7), LONGEST));
    });
}

criterion_group!(benches, bench);
criterion_main!(benches);
