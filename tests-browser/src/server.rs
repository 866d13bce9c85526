use serde_json::json;
use std::collections::HashMap;
use std::io::{BufRead, BufReader, Write};
use std::path::PathBuf;
use std::process::{Child, Command, Stdio};
use std::sync::{Mutex, OnceLock};
use std::time::Duration;
use thirtyfour::prelude::*;

/// The program on a data file in a folder of its own; ended on drop.
pub struct Demo {
    process: Mutex<Child>,
    address: String,
    folder: tempfile::TempDir,
}

impl Demo {
    /// Starts it on a free port.
    ///
    /// # Panics
    /// When the program is not built or does not start.
    pub fn start() -> Self {
        Self::with(&["demo"])
    }

    /// Starts it with the simulated boat so many times as fast as life.
    ///
    /// # Panics
    /// As [`Demo::start`].
    pub fn sailing(pace: u8) -> Self {
        Self::with(&["demo", "--pace", &pace.to_string()])
    }

    /// Starts it on a free port with an empty data file.
    ///
    /// # Panics
    /// As [`Demo::start`].
    pub fn blank() -> Self {
        Self::with(&["serve"])
    }

    /// Starts it asking everybody for the captain's pass phrase.
    ///
    /// # Panics
    /// As [`Demo::start`].
    pub fn asking(phrase: &str) -> Self {
        let folder = tempfile::tempdir().expect("a temporary folder");
        let mut set = Command::new(program())
            .args(["pass-phrase", "--data"])
            .arg(folder.path().join("demo.db"))
            .stdin(Stdio::piped())
            .spawn()
            .expect("the program starts");
        let mut input = set.stdin.take().expect("its input is piped");
        writeln!(input, "{phrase}").expect("it reads it");
        drop(input);
        assert!(set.wait().expect("it ends").success());
        Self::within(folder, &["demo", "--sign-in"])
    }

    fn with(command: &[&str]) -> Self {
        let folder = tempfile::tempdir().expect("a temporary folder");
        Self::within(folder, command)
    }

    fn within(folder: tempfile::TempDir, command: &[&str]) -> Self {
        let (process, address) = run(command, "127.0.0.1:0", folder.path());
        Self {
            process: Mutex::new(process),
            address,
            folder,
        }
    }

    /// Ends the program, as a battery that runs out does.
    ///
    /// # Panics
    /// When it cannot be ended.
    pub fn stop(&self) {
        let mut process = self.process.lock().expect("nobody fails with it");
        process.kill().expect("it runs");
        process.wait().expect("it ends");
    }

    /// Starts it again where it was, on what is in its file.
    ///
    /// # Panics
    /// As [`Demo::start`].
    pub fn start_again(&self) {
        let host = self.address.trim_start_matches("http://");
        let (process, _) = run(&["serve"], host, self.folder.path());
        *self.process.lock().expect("nobody fails with it") = process;
    }

    /// Where it is.
    pub fn address(&self) -> &str {
        &self.address
    }
}

impl Drop for Demo {
    fn drop(&mut self) {
        // It may be gone already.
        if let Ok(process) = self.process.get_mut() {
            let _ = process.kill();
            let _ = process.wait();
        }
    }
}

/// The program on the data file of a folder, with the address it prints.
fn run(command: &[&str], listen: &str, folder: &std::path::Path) -> (Child, String) {
    let mut process = Command::new(program())
        .args(command)
        .args(["--listen", listen, "--data"])
        .arg(folder.join("demo.db"))
        .stdout(Stdio::piped())
        .spawn()
        .expect("the program starts; build it with `cargo build --workspace`");
    let output = process.stdout.take().expect("its output is piped");
    let mut first = String::new();
    BufReader::new(output)
        .read_line(&mut first)
        .expect("it prints its address");
    let address = first.trim().rsplit(' ').next().unwrap_or_default();
    (process, address.to_owned())
}

fn program() -> PathBuf {
    std::env::var_os("MOTILIS_BIN").map_or_else(
        || PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../target/debug/motilis"),
        PathBuf::from,
    )
}

/// One `ChromeDriver` for all scripts of a run, with the browsers that stand ready: to start one takes longer than
/// most scripts.
pub struct Driver {
    port: u16,
    ready: Mutex<Vec<WebDriver>>,
    _guard: Mutex<Child>,
}

impl Driver {
    /// The driver of this run, started when it is first asked for.
    ///
    /// # Panics
    /// When `chromedriver` is not installed; `./test` installs it.
    pub fn shared() -> &'static Self {
        static DRIVER: OnceLock<Driver> = OnceLock::new();
        DRIVER.get_or_init(|| {
            let port = std::net::TcpListener::bind("127.0.0.1:0")
                .and_then(|listener| listener.local_addr())
                .expect("a free port")
                .port();
            // The driver must not outlive the tests: the shell ends it when its own input closes,
            // which happens when this process ends, however it ends.
            let guarded =
                format!("setsid chromedriver --port={port} & read line; kill -s KILL -- -$!");
            let guard = Command::new("sh")
                .args(["-c", &guarded])
                .stdin(Stdio::piped())
                .stdout(Stdio::null())
                .stderr(Stdio::null())
                .spawn()
                .expect("a shell to start chromedriver; `./test` installs it");
            for _ in 0..100 {
                if std::net::TcpStream::connect(("127.0.0.1", port)).is_ok() {
                    break;
                }
                std::thread::sleep(Duration::from_millis(50));
            }
            Self {
                port,
                ready: Mutex::default(),
                _guard: Mutex::new(guard),
            }
        })
    }

    /// A blank window of a size that remembers nothing.
    ///
    /// # Errors
    /// When the browser does not start.
    pub async fn window(&self, (width, height): (u32, u32)) -> WebDriverResult<WebDriver> {
        let ready = self.ready.lock().expect("nobody fails with it").pop();
        let browser = match ready {
            Some(browser) => browser,
            None => self.start((width, height)).await?,
        };
        // The window's frame takes some of it, and no window is as narrow as a phone.
        let metrics = json!({
            "width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 600
        });
        let cdp = browser.cdp();
        cdp.send_raw("Emulation.setDeviceMetricsOverride", metrics)
            .await?;
        Ok(browser)
    }

    /// Takes a window back whose script is done.
    ///
    /// # Errors
    /// When the browser does not answer.
    pub async fn take_back(&self, browser: WebDriver) -> WebDriverResult<()> {
        browser.goto("about:blank").await?;
        let cdp = browser.cdp();
        cdp.send_raw("Network.clearBrowserCookies", json!({}))
            .await?;
        let nothing = json!({ "media": "", "features": [] });
        cdp.send_raw("Emulation.setEmulatedMedia", nothing).await?;
        // What was asked for while it went.
        for log in ["browser", "performance"] {
            browser.get_log(log).await?;
        }
        self.ready
            .lock()
            .expect("nobody fails with it")
            .push(browser);
        Ok(())
    }

    async fn start(&self, (width, height): (u32, u32)) -> WebDriverResult<WebDriver> {
        let mut capabilities = DesiredCapabilities::chrome();
        for argument in [
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            // Drawings that move are painted sixty times a second, by the processor.
            "--force-prefers-reduced-motion",
            "--disable-gpu-rasterization",
            "--disable-extensions",
            "--disable-breakpad",
            "--disable-dev-shm-usage",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--hide-scrollbars",
            "--force-device-scale-factor=1",
        ] {
            capabilities.add_arg(argument)?;
        }
        capabilities.add_arg(&format!("--window-size={width},{height}"))?;
        // What the pages write on the console, and what they ask for, is looked through at the end.
        capabilities.set(
            "goog:loggingPrefs",
            HashMap::from([("browser", "ALL"), ("performance", "ALL")]),
        )?;
        let browser =
            WebDriver::new(format!("http://127.0.0.1:{}", self.port), capabilities).await?;
        // A script that fails would wait minutes for its window to close; the guard ends them all.
        std::mem::forget(browser.clone());
        Ok(browser)
    }
}
