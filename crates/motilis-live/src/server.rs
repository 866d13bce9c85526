//! A boat's instruments for others to call up: simulated, or out of a recording.

use crate::simulator::Simulator;
use std::fs::File;
use std::io::{self, BufRead, BufReader, Write};
use std::net::{SocketAddr, TcpListener, TcpStream, ToSocketAddrs};
use std::path::Path;
use std::sync::{Arc, Mutex, PoisonError};
use std::thread;
use std::time::Duration;

/// How long one who listens may keep the others waiting.
const PATIENCE: Duration = Duration::from_millis(500);

/// Instruments that answer at an address.
#[derive(Debug)]
pub struct BoatServer {
    address: SocketAddr,
    listeners: Arc<Mutex<Vec<TcpStream>>>,
}

impl BoatServer {
    /// Binds an address and takes in whoever calls.
    ///
    /// # Errors
    /// When the address is in use or not this machine's.
    pub fn bind(address: impl ToSocketAddrs) -> io::Result<Self> {
        let listener = TcpListener::bind(address)?;
        let address = listener.local_addr()?;
        let listeners: Arc<Mutex<Vec<TcpStream>>> = Arc::default();
        let taken = Arc::clone(&listeners);
        thread::spawn(move || {
            for stream in listener.incoming().flatten() {
                let _ = stream.set_write_timeout(Some(PATIENCE));
                let _ = stream.set_nodelay(true);
                taken
                    .lock()
                    .unwrap_or_else(PoisonError::into_inner)
                    .push(stream);
            }
        });
        Ok(Self { address, listeners })
    }

    /// Where it answers.
    pub fn address(&self) -> SocketAddr {
        self.address
    }

    /// Says something to all who listen; who does not take it is let go.
    pub fn say(&self, text: &str) {
        let mut listeners = self
            .listeners
            .lock()
            .unwrap_or_else(PoisonError::into_inner);
        listeners.retain_mut(|stream| stream.write_all(text.as_bytes()).is_ok());
    }

    /// Lets a boat go on, so many times as fast as life, for as long as the program runs.
    pub fn sail(&self, mut boat: Simulator, pace: f64) {
        loop {
            self.say(&boat.second());
            thread::sleep(Duration::from_secs_f64(1.0 / pace));
        }
    }

    /// Says what a recording says, from its beginning when it has come to its end.
    ///
    /// # Errors
    /// When it cannot be read.
    pub fn replay(&self, file: &Path, pace: f64) -> io::Result<()> {
        loop {
            for line in BufReader::new(File::open(file)?).split(b'\n') {
                let line = line?;
                let text = String::from_utf8_lossy(&line);
                // A receiver's second begins with this.
                if text.get(3..6) == Some("RMC") {
                    thread::sleep(Duration::from_secs_f64(1.0 / pace));
                }
                self.say(&format!("{text}\n"));
            }
        }
    }
}
