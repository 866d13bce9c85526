use crate::{Listen, tls};
use anyhow::{Context, Result, bail};
use motilis_demo::SEED;
use motilis_helm::Season;
use motilis_live::PACES;
use motilis_store::{Store, settings};
use motilis_web::{App, Hosts};
use qrcode::QrCode;
use qrcode::render::unicode::Dense1x2;
use std::path::{Path, PathBuf};
use tracing_subscriber::EnvFilter;

/// `motilis serve`
pub(crate) fn serve(data: &Path, listen: Listen) -> Result<()> {
    run(Store::open(data)?, data, listen)
}

/// `motilis demo`
pub(crate) fn demo(data: Option<PathBuf>, many: bool, pace: f64, listen: Listen) -> Result<()> {
    if !PACES.contains(&pace) {
        bail!("--pace {pace} is not between 0.5 and 20");
    }
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
    if many {
        motilis_demo::multiply(&store)?;
    }
    store.write(|connection| settings::set(connection, "boat_wire", &format!("demo {pace}")))?;
    run(store, &path, listen)
}

/// Where recordings of a data file's boat lie: beside it.
fn rides(data: &Path) -> PathBuf {
    data.with_extension("rides")
}

fn run(store: Store, data: &Path, listen: Listen) -> Result<()> {
    tracing_subscriber::fmt()
        .with_env_filter(
            EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("warn")),
        )
        .with_writer(std::io::stderr)
        .init();
    // Twenty years of a log take a second to reckon: done before the first page asks, not by it.
    let warmed = store.clone();
    std::thread::spawn(move || warmed.read(|connection| Season::load(connection, None).map(drop)));
    let rides = rides(data);
    let given = listen.tls_cert.zip(listen.tls_key);
    let secure = listen.tls || given.is_some();
    let tls = if secure {
        Some(tls::config(data, given.as_ref(), &listen.host)?)
    } else {
        None
    };
    actix_web::rt::System::new().block_on(async move {
        let hosts = Hosts { named: listen.host };
        let app = App::new(store).under_way(rides);
        let server = motilis_web::bind(app.clone(), hosts, &listen.address, tls)
            .with_context(|| format!("cannot listen on {}", listen.address))?;
        let scheme = if secure { "https" } else { "http" };
        for address in server.addresses() {
            println!("Motilis is at {scheme}://{address}");
        }
        let others = tls::reached_at(server.addresses(), secure);
        if let Some(code) = others.first().and_then(|address| code(address)) {
            println!("For a phone aboard, {}:\n{code}", others[0]);
        }
        app.reached_at(others);
        server.run().await.context("the server stopped")
    })
}

/// An address as a code for a camera, two squares a character.
fn code(address: &str) -> Option<String> {
    let code = QrCode::new(address.as_bytes()).ok()?;
    Some(code.render::<Dense1x2>().quiet_zone(true).build())
}
