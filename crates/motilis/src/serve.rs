//! `motilis serve` and `motilis demo`: bind, open, answer, and clean up on every ending.

use crate::{Listen, tls};
use anyhow::{Context, Result, bail};
use motilis_demo::SEED;
use motilis_helm::Season;
use motilis_live::PACES;
use motilis_store::{Opening, Standing, Store, is_held, settings};
use motilis_view::Role;
use motilis_web::{Access, App, Bound, Hosts};
use qrcode::QrCode;
use qrcode::render::unicode::Dense1x2;
use std::fs::OpenOptions;
use std::io::IsTerminal;
use std::path::{Path, PathBuf};
use std::sync::Mutex;
use std::time::{Duration, SystemTime};
use tracing_subscriber::EnvFilter;

/// `motilis serve`
pub(crate) fn serve(
    data: &Path,
    copies: Option<PathBuf>,
    rescue: bool,
    listen: Listen,
) -> Result<()> {
    let bound = begin(&listen)?;
    let opening = Opening {
        copies,
        rescue,
        who: format!("motilis serve at {}", at(&bound, &listen)),
    };
    let store = opening.open(data)?;
    match store.standing() {
        Standing::Whole => {}
        Standing::ReadOnly => say!(
            "{} can only be read where it lies: nothing can be changed",
            data.display()
        ),
        Standing::Rescued(salvage) => {
            for one in motilis_view::words::data::salvage(salvage) {
                say!("{one}");
            }
        }
    }
    run(store, data, bound, listen)
}

/// `motilis demo`
pub(crate) fn demo(data: Option<PathBuf>, many: bool, pace: f64, listen: Listen) -> Result<()> {
    if !PACES.contains(&pace) {
        bail!("--pace {pace} is not between 0.5 and 20");
    }
    let bound = begin(&listen)?;
    sweep();
    let (_folder, path) = if let Some(path) = data {
        replace(&path)?;
        (None, path)
    } else {
        // Gone with the program, however it ends.
        let folder = tempfile::Builder::new()
            .prefix(DEMO_FOLDER)
            .tempdir()
            .context("no temporary folder can be made for the demo file")?;
        let path = folder.path().join("demo.db");
        (Some(folder), path)
    };
    let opening = Opening {
        who: format!("motilis demo at {}", at(&bound, &listen)),
        ..Opening::default()
    };
    let store = opening.open(&path)?;
    motilis_demo::fill(&store, SEED)?;
    if many {
        motilis_demo::multiply(&store)?;
    }
    store.write(|connection| settings::set(connection, "boat_wire", &format!("demo {pace}")))?;
    run(store, &path, bound, listen)
}

/// What temporary folders of the demo are called.
const DEMO_FOLDER: &str = "motilis-demo-";
/// A folder as young may belong to a demo that is just being filled.
const YOUNG: Duration = Duration::from_mins(10);

/// Takes away what a demo left that was killed.
fn sweep() {
    let Ok(entries) = std::fs::read_dir(std::env::temp_dir()) else {
        return;
    };
    for entry in entries.flatten() {
        let is_demos = entry.file_name().to_string_lossy().starts_with(DEMO_FOLDER);
        let file = entry.path().join("demo.db");
        let is_old = entry
            .metadata()
            .and_then(|meta| meta.modified())
            .is_ok_and(|at| {
                SystemTime::now()
                    .duration_since(at)
                    .is_ok_and(|age| age > YOUNG)
            });
        if !is_demos || !is_old {
            continue;
        }
        // Somebody else's, or gone meanwhile: not ours to mend. One that is not empty stays with what is not ours in it.
        let _ = if !is_held(&file) && motilis_demo::made(&file) {
            std::fs::remove_dir_all(entry.path())
        } else {
            std::fs::remove_dir(entry.path())
        };
    }
}

/// Takes an earlier demo file away; any other file stays.
fn replace(path: &Path) -> Result<()> {
    if !path.exists() {
        return Ok(());
    }
    if !motilis_demo::made(path) {
        bail!(
            "{} was not made by `motilis demo` and stays as it is; name another file with --data, or open it with `motilis serve`",
            path.display()
        );
    }
    if is_held(path) {
        bail!(
            "{} is in use by another Motilis; stop it first, or name another file",
            path.display()
        );
    }
    for suffix in ["", "-wal", "-shm"] {
        let mut file = path.to_owned().into_os_string();
        file.push(suffix);
        match std::fs::remove_file(&file) {
            Err(error) if error.kind() != std::io::ErrorKind::NotFound => {
                return Err(error)
                    .with_context(|| format!("{} cannot be replaced", path.display()));
            }
            _ => {}
        }
    }
    Ok(())
}

/// Begins to keep a log, and takes the address before anything is made.
fn begin(listen: &Listen) -> Result<Bound> {
    logging(listen)?;
    Bound::to(listen.address.as_str()).with_context(|| {
        format!(
            "cannot listen on {}; is another Motilis running there? Name another address with --listen",
            listen.address
        )
    })
}

fn logging(listen: &Listen) -> Result<()> {
    let filter = EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("warn"));
    let (to_file, colours) = match &listen.log.log_file {
        Some(path) => {
            let file = OpenOptions::new()
                .create(true)
                .append(true)
                .open(path)
                .with_context(|| format!("the log file {} cannot be written", path.display()))?;
            (Some(file), false)
        }
        None => (None, std::io::stderr().is_terminal()),
    };
    let log = tracing_subscriber::fmt()
        .with_env_filter(filter)
        // A log that cannot be written, to a full disk or a pipe that is gone, stops nothing.
        .log_internal_errors(false)
        .with_ansi(colours);
    match (to_file, listen.log.log_json) {
        (Some(file), true) => log.json().with_writer(Mutex::new(file)).init(),
        (Some(file), false) => log.with_writer(Mutex::new(file)).init(),
        (None, true) => log.json().with_writer(std::io::stderr).init(),
        (None, false) => log.with_writer(std::io::stderr).init(),
    }
    Ok(())
}

fn scheme(listen: &Listen) -> &'static str {
    if listen.secure() { "https" } else { "http" }
}

fn at(bound: &Bound, listen: &Listen) -> String {
    let address = bound.addresses().first().map(ToString::to_string);
    format!("{}://{}", scheme(listen), address.unwrap_or_default())
}

/// Where recordings of a data file's boat lie: beside it.
fn rides(data: &Path) -> PathBuf {
    data.with_extension("rides")
}

/// Who is let in: everybody on this machine; beyond it, whoever has a pass phrase.
fn access(data: &Path, bound: &Bound, listen: &Listen) -> Result<Access> {
    if listen.no_sign_in {
        if !bound.is_loopback() {
            say!(
                "Whoever reaches this address can open and change the book: nobody is asked (--no-sign-in)."
            );
        }
        return Ok(Access::open());
    }
    if bound.is_loopback() && !listen.sign_in {
        return Ok(Access::open());
    }
    let file = data.with_extension("access.json");
    let access =
        Access::of(file.clone()).with_context(|| format!("{} cannot be read", file.display()))?;
    let access = if listen.sign_in {
        access.asking_everybody()
    } else {
        access
    };
    if access.has_phrase(Role::Captain) {
        return Ok(access);
    }
    if !std::io::stdin().is_terminal() {
        bail!(
            "others reach this address, and no pass phrase is set: set one with `motilis pass-phrase --data {}`, or say --no-sign-in if anybody may come in",
            data.display()
        );
    }
    say!(
        "Others reach this address: they will be asked for a pass phrase, once a season on each device."
    );
    crate::data::ask_phrase(&access, Role::Captain)?;
    Ok(access)
}

fn run(store: Store, data: &Path, bound: Bound, listen: Listen) -> Result<()> {
    let access = access(data, &bound, &listen)?;
    // Twenty years of a log take a second to reckon: done before the first page asks, not by it.
    let warmed = store.clone();
    std::thread::spawn(move || warmed.read(|connection| Season::load(connection, None).map(drop)));
    let rides = rides(data);
    let given = listen.tls_cert.clone().zip(listen.tls_key.clone());
    let tls = if listen.secure() {
        Some(tls::config(data, given.as_ref(), &listen.host)?)
    } else {
        None
    };
    let addresses = bound.addresses();
    let scheme = scheme(&listen);
    let folded = store.clone();
    let served = actix_web::rt::System::new().block_on(async move {
        let hosts = Hosts { named: listen.host };
        let app = App::new(store).asking(access).under_way(rides);
        let server = motilis_web::serve(
            app.clone(),
            hosts,
            bound,
            tls.as_ref().map(|tls| &tls.config),
        )?;
        for address in &addresses {
            say!("Motilis is at {scheme}://{address}");
        }
        if let Some(tls) = &tls {
            say!(
                "Its certificate, to compare on the phone (SHA-256): {}",
                tls.fingerprint
            );
        }
        let others = tls::reached_at(&addresses, scheme == "https");
        if let Some(code) = others.first().and_then(|address| code(address)) {
            say!("For a phone aboard, {}:\n{code}", others[0]);
        }
        app.reached_at(others);
        let handle = server.handle();
        actix_web::rt::spawn(async move {
            ended().await;
            handle.stop(true).await;
        });
        server.run().await
    });
    // The one file alone is whole when the program has ended.
    if let Err(error) = folded.let_go() {
        tracing::warn!(%error, "the log could not be folded into the data file");
    }
    served.context("the server stopped")
}

/// Waits until the program is told to end: by the keyboard, by the system, or because its terminal went.
async fn ended() {
    #[cfg(unix)]
    {
        use actix_web::rt::signal::unix::{SignalKind, signal};
        use futures_util::future::select_all;
        let kinds = [
            SignalKind::interrupt(),
            SignalKind::terminate(),
            SignalKind::hangup(),
            SignalKind::quit(),
        ];
        let mut signals: Vec<_> = kinds
            .into_iter()
            .filter_map(|kind| signal(kind).ok())
            .collect();
        let each = signals.iter_mut().map(|signal| Box::pin(signal.recv()));
        select_all(each).await;
    }
    #[cfg(not(unix))]
    // Without it the program ends by itself.
    let _ = actix_web::rt::signal::ctrl_c().await;
}

/// An address as a code for a camera, two squares a character.
fn code(address: &str) -> Option<String> {
    let code = QrCode::new(address.as_bytes()).ok()?;
    Some(code.render::<Dense1x2>().quiet_zone(true).build())
}
