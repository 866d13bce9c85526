//! What a page costs, over loopback from request to last byte: the figures published in
//! `docs/architecture.md`.

use criterion::{Criterion, criterion_group, criterion_main};
use motilis_store::Store;
use motilis_web::{App, Hosts, bind};

/// A server on the demo data, 40 rigs and 250 parts among them; lives as long as the benchmark.
fn serve() -> (tempfile::TempDir, String) {
    let folder = tempfile::tempdir().expect("a temporary folder");
    let store = Store::open(&folder.path().join("demo.db")).expect("a new data file");
    motilis_demo::fill(&store, motilis_demo::SEED).expect("the demo fits");
    let (sender, receiver) = std::sync::mpsc::channel();
    std::thread::spawn(move || {
        actix_web::rt::System::new().block_on(async move {
            let server = bind(App::new(store), Hosts::default(), "127.0.0.1:0").expect("a port");
            sender
                .send(server.addresses()[0])
                .expect("the benchmark waits");
            server.run().await.expect("the server runs");
        });
    });
    let address = receiver.recv().expect("the server starts");
    (folder, format!("http://{address}"))
}

fn bench(c: &mut Criterion) {
    let (_folder, address) = serve();
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
        let url = format!("{address}{path}");
        c.bench_function(name, |b| {
            b.iter(|| {
                agent
                    .get(&url)
                    .call()
                    .expect("a page")
                    .body_mut()
                    .read_to_string()
            });
        });
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
