//! What a page costs, over loopback from request to last byte: the figures published in
//! `docs/architecture.md`.

use criterion::{Criterion, criterion_group, criterion_main};

fn bench(c: &mut Criterion) {
    let (_folder, address) = motilis_benches::serve(|_| {});
    let agent = ureq::Agent::new_with_defaults();
    for (name, path) in [
        ("page/today", "/today"),
        ("page/today, what would change", "/today/changes"),
        ("page/column", "/column?hour=700"),
        (
            "page/tank",
            "/tank?rig=1&was_rig=1&setup=1&was_setup=1&speed=1.3&out=70&weight=1&lead=5&line=nylon-10&depth=22",
        ),
        ("page/spread", "/spread/1?speed=1.3"),
        ("page/spread, a line rolling over", "/spread/1?speed=1.9"),
        (
            "page/spread of six in a turn",
            "/spread/2?side=port&radius=200",
        ),
        ("page/log", "/log"),
        ("page/bench", "/bench/1?at=4"),
        ("page/box, blades", "/box"),
    ] {
        motilis_benches::page(c, name, &format!("{address}{path}"));
    }
    // An edit with the page that follows it: one bead more, one bead fewer, each kept on disk.
    let url = format!("{address}/bench/1/edit?at=4");
    let mut more = false;
    c.bench_function("bench/an edit and its page", |b| {
        b.iter(|| {
            more = !more;
            let edit = if more { "more" } else { "fewer" };
            agent
                .post(&url)
                .send_form([("edit", edit), ("at", "4")])
                .expect("a page")
                .body_mut()
                .read_to_string()
        });
    });
}

criterion_group!(benches, bench);
criterion_main!(benches);
