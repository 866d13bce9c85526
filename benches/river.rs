//! What a cast in a river costs: one path, nine casts, the best cast for a lie, forty rigs on one cast.

use criterion::{Criterion, criterion_group, criterion_main};
use motilis_core::blade::Family;
use motilis_core::rig::{BARE, BodyShape, HookStyle, Kind, Mount, Part, Piece, Rig, Stack, What};
use motilis_core::river::{
    Angler, Fineness, Held, Plan, Scene, School, Section, Spool, Station, Thrown, Zone, rank,
};
use motilis_core::tackle::{LineMaterial, LineStock};
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use motilis_core::water::Water;
use std::hint::black_box;

fn section() -> Section {
    let station = |offset, depth, surface| Station {
        offset: Metres(offset),
        depth: Metres(depth),
        surface: MetresPerSecond(surface),
    };
    let stations = vec![
        station(0.0, 0.3, 0.3),
        station(6.0, 1.2, 1.1),
        station(12.0, 1.9, 1.3),
        station(18.0, 1.5, 1.0),
        station(26.0, 0.4, 0.4),
    ];
    Section::new(stations, 6.0).expect("a run that can be")
}

fn angler() -> Angler {
    Angler {
        stand: Metres(2.0),
        knee: Metres(0.4),
        rod: Metres(2.7),
        longest: Metres(22.0),
        on_reel: Metres(120.0),
        take_up: Metres(0.7),
    }
}

fn spinner(grams: f64) -> Rig {
    let part = |what, size| Piece::one(Part::new(what, size, BARE).expect("a size of the trade"));
    let mut stack = Stack::empty(
        Kind::InlineTorpedo,
        Mount::wire(30.0).expect("a wire of the trade"),
    );
    stack.pieces = vec![
        part(What::Blade(Family::French), 3.0),
        part(What::Body(BodyShape::Torpedo), grams),
        part(What::Hook(HookStyle::Treble), 6.0),
    ];
    Rig::new("spinner", stack).expect("a spinner that runs")
}

fn plan(angle_deg: f64, distance: f64, held: Held, reel: f64) -> Plan {
    Plan {
        thrown: Thrown {
            angle_deg,
            distance: Metres(distance),
        },
        held,
        sink: 0.0,
        reel: MetresPerSecond(reel),
        mend: false,
        follow: false,
        lift: None,
    }
}

fn casts(criterion: &mut Criterion) {
    let water = Water::fresh(Celsius(9.0)).expect("a temperature of rivers");
    let (section, angler) = (section(), angler());
    let spool = Spool {
        main: LineStock::of_test(LineMaterial::Braid, 20).expect("a line of the trade"),
        bumper: None,
        weight: None,
    };
    let tackle = spool
        .tackle(&spinner(7.0), &water, Celsius(9.0))
        .expect("a spinner that runs");
    let scene = Scene {
        section: &section,
        water: &water,
        angler: &angler,
        tackle: &tackle,
    };
    criterion.bench_function("one path, square, swung to its end", |bench| {
        let plan = plan(90.0, 15.0, Held::Level, 0.2);
        bench.iter(|| scene.path(black_box(&plan), Fineness::SHOWN));
    });
    criterion.bench_function("one path, held low, on the bed to 30 s", |bench| {
        let plan = plan(90.0, 15.0, Held::Low, 0.0);
        bench.iter(|| scene.path(black_box(&plan), Fineness::SHOWN));
    });
    criterion.bench_function("best cast for a lie", |bench| {
        let zone = Zone::Lie {
            place: [4.0, 12.0, 1.6],
            reach: Metres(1.0),
        };
        bench.iter(|| scene.best_cast(black_box(&zone)));
    });
    criterion.bench_function("nine casts of a grid", |bench| {
        let plan = plan(90.0, 12.0, Held::Level, 0.5);
        bench.iter(|| scene.fished(black_box(&plan), School::Both));
    });
    let forty: Vec<_> = (0..40)
        .map(|place| {
            let rig = spinner(3.0 + 0.25 * f64::from(place));
            spool
                .tackle(&rig, &water, Celsius(9.0))
                .expect("a spinner that runs")
        })
        .collect();
    criterion.bench_function("forty rigs on one cast", |bench| {
        let plan = plan(90.0, 12.0, Held::Level, 0.5);
        bench.iter(|| {
            rank(
                &section,
                &water,
                &angler,
                black_box(&plan),
                &Zone::Bed,
                &forty,
            )
        });
    });
    criterion.bench_function("slowest retrieve", |bench| {
        let plan = plan(135.0, 15.0, Held::Low, 0.8);
        bench.iter(|| scene.slowest_retrieve(black_box(&plan)));
    });
}

criterion_group!(benches, casts);
criterion_main!(benches);
