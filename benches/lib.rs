//! Benchmarks of Motilis, each beside the figure it publishes in `docs/architecture.md`: `cargo bench --package
//! motilis-benches`. A package of their own, so that `./test` builds nothing that only they need.

use criterion::Criterion;
use motilis_store::Store;
use motilis_web::{App, Bound, Hosts};
use std::path::Path;

/// Measures a page from request to last byte.
pub fn page(c: &mut Criterion, name: &str, url: &str) {
    let agent = ureq::Agent::new_with_defaults();
    c.bench_function(name, |b| {
        b.iter(|| {
            agent
                .get(url)
                .call()
                .expect("a page")
                .body_mut()
                .read_to_string()
        });
    });
}

/// A server on the demo data, 40 rigs and 250 parts among them, with more put in; lives as long as the benchmark.
pub fn serve(more: impl FnOnce(&Store)) -> (tempfile::TempDir, String) {
    start(more, |app, _| app)
}

/// The same with a boat under way, that listens to its instruments.
pub fn serve_under_way(more: impl FnOnce(&Store)) -> (tempfile::TempDir, String) {
    start(more, |app, folder| app.under_way(folder.join("rides")))
}

fn start(
    more: impl FnOnce(&Store),
    wire: impl FnOnce(App, &Path) -> App + Send + 'static,
) -> (tempfile::TempDir, String) {
    let folder = tempfile::tempdir().expect("a temporary folder");
    let store = Store::open(&folder.path().join("demo.db")).expect("a new data file");
    motilis_demo::fill(&store, motilis_demo::SEED).expect("the demo fits");
    more(&store);
    let path = folder.path().to_owned();
    let (sender, receiver) = std::sync::mpsc::channel();
    std::thread::spawn(move || {
        actix_web::rt::System::new().block_on(async move {
            let app = wire(App::new(store), &path);
            let bound = Bound::to("127.0.0.1:0").expect("a port");
            let address = bound.addresses()[0];
            let server = motilis_web::serve(app, Hosts::default(), bound, None).expect("a port");
            sender.send(address).expect("the benchmark waits");
            server.run().await.expect("the server runs");
        });
    });
    let address = receiver.recv().expect("the server starts");
    (folder, format!("http://{address}"))
}
