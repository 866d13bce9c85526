//! Light: colours of a hundred finishes at thirty depths, and how far sixty are seen at one.

use criterion::{Criterion, criterion_group, criterion_main};
use motilis_core::light::{
    Daylight, Eye, Finish, Optics, Picture, Scene, Sky, Stain, Target, View, Viewer, Watch,
};
use std::hint::black_box;

fn some(count: usize) -> Vec<Finish> {
    let all: Vec<Finish> = Finish::names().filter_map(Finish::from_name).collect();
    all.iter().cycle().take(count).cloned().collect()
}

fn benches(c: &mut Criterion) {
    let noon = Sky {
        sun_alt: 55.0,
        moon_alt: -30.0,
        moon_phase: 90.0,
        cloud: 0.25,
        wind: 3.0,
    };
    let daylight = Daylight::under(&noon).expect("noon is a sky");
    let optics = Optics::from_secchi(Stain::Green, 1.8, false).expect("1.8 m is green water");
    let at = |depth| Scene::new(&daylight, &optics, depth, View::Level).expect("a depth");
    let hundred = some(100);
    c.bench_function("light/100 finishes at 30 depths", |b| {
        b.iter(|| {
            (1..=30)
                .map(|depth| at(0.3 * f64::from(depth)))
                .flat_map(|scene| {
                    hundred
                        .iter()
                        .map(move |finish| Picture::of(finish, &scene, 10.0))
                        .collect::<Vec<_>>()
                })
                .fold(0.0, |sum, picture| sum + picture.finish[0])
        });
    });
    let (sixty, walleye) = (some(60), Eye::of(Viewer::Walleye));
    let target = Target {
        area: 6e-4,
        flashes: 12.0,
        glow_min: 10.0,
    };
    c.bench_function("light/sixty sightings", |b| {
        b.iter(|| {
            let watch = Watch::new(at(3.0), walleye.clone());
            let seen = |finish| watch.sighting(finish, &target).expect("a target").range;
            sixty.iter().map(seen).sum::<f64>()
        });
    });
    c.bench_function("light/water from its Secchi depth", |b| {
        b.iter(|| Optics::from_secchi(Stain::Green, black_box(1.8), false));
    });
}

criterion_group!(all, benches);
criterion_main!(all);
