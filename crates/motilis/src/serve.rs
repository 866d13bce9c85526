use crate::Listen;
use anyhow::{Context, Result};
use motilis_demo::SEED;
use motilis_store::Store;
use motilis_web::{App, Hosts};
use std::path::{Path, PathBuf};
use tracing_subscriber::EnvFilter;

/// `motilis serve`
pub(crate) fn serve(data: &Path, listen: Listen) -> Result<()> {
    run(Store::open(data)?, listen)
}

/// `motilis demo`
pub(crate) fn demo(data: Option<PathBuf>, listen: Listen) -> Result<()> {
    let path = data.unwrap_or_else(|| {
        std::env::temp_dir().join(format!("motilis-demo-{}.db", std::process::id()))
    });
    for suffix in ["", "-wal", "-shm"] {
        let mut file = path.clone().into_os_string();
        file.push(suffix);
        match std::fs::remove_file(&file) {
            Err(error) if error.kind() != std::io::ErrorKind::NotFound => {
                return Err(error)
                    .with_context(|| format!("{} cannot be replaced", path.display()));
            }
            _ => {}
        }
    }
    let store = Store::open(&path)?;
    motilis_demo::fill(&store, SEED)?;
    run(store, listen)
}

fn run(store: Store, listen: Listen) -> Result<()> {
    tracing_subscriber::fmt()
        .with_env_filter(
            EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("warn")),
        )
        .with_writer(std::io::stderr)
        .init();
    actix_web::rt::System::new().block_on(async move {
        let hosts = Hosts { named: listen.host };
        let server = motilis_web::bind(App::new(store), hosts, &listen.listen)
            .with_context(|| format!("cannot listen on {}", listen.listen))?;
        for address in server.addresses() {
            println!("Motilis is at http://{address}");
        }
        server.run().await.context("the server stopped")
    })
}
