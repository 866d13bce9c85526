use crate::hub::Input;
use crate::simulator::Simulator;
use std::fs::File;
use std::io::{BufRead, BufReader, Read};
use std::net::{SocketAddr, TcpStream, ToSocketAddrs, UdpSocket};
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::mpsc::{SyncSender, TrySendError};
use std::sync::{Arc, Mutex, PoisonError};
use std::thread;
use std::time::{Duration, Instant};

/// Where instruments are listened to when nobody says otherwise.
pub const PORT: u16 = 10_110;
/// How many times as fast as life a boat may go.
pub const PACES: std::ops::RangeInclusive<f64> = 0.5..=20.0;
/// How long a wire may be silent before it is taken for dead, and how long it is waited for one that opens.
const SILENT: Duration = Duration::from_secs(10);
const OPENS: Duration = Duration::from_secs(4);
/// Between two tries: the first, and the longest.
const AGAIN: (Duration, Duration) = (Duration::from_secs(1), Duration::from_secs(20));
/// How often a thread looks whether it is still wanted.
const WANTED: Duration = Duration::from_millis(250);
/// Pieces of a datagram flood are dropped, not piled up.
const DATAGRAM: usize = 4_096;

/// Where the instruments are heard.
#[derive(Debug, Clone, PartialEq)]
pub enum Wire {
    /// Nowhere.
    Off,
    /// At an address that is called up, `host:port`.
    Tcp(String),
    /// From whoever sends to this machine's port.
    Udp(u16),
    /// In a recording, so many times as fast as life.
    Replay(PathBuf, f64),
    /// On a simulated boat, so many times as fast as life.
    Simulated(f64),
}

impl Wire {
    /// The wire of a setting as it is kept: `tcp HOST:PORT`, `udp PORT`, `replay PACE NAME`, `simulated PACE`, `demo PACE` (simulated too), `practice PACE SEED`; nothing
    /// for anything else. Recordings lie in a folder.
    pub fn of(setting: &str, rides: &Path) -> Option<Self> {
        let (kind, rest) = setting.split_once(' ')?;
        let pace = |text: &str| text.parse().ok().filter(|pace: &f64| PACES.contains(pace));
        match kind {
            "tcp" => Some(Self::Tcp(rest.to_owned())),
            "udp" => rest.parse().ok().map(Self::Udp),
            "replay" => {
                let (times, name) = rest.split_once(' ')?;
                // A name, no way out of the folder.
                let name = Path::new(name).file_name()?;
                Some(Self::Replay(rides.join(name), pace(times)?))
            }
            "simulated" | "demo" => Some(Self::Simulated(pace(rest)?)),
            "practice" => Some(Self::Simulated(pace(rest.split(' ').next()?)?)),
            _ => None,
        }
    }
}

/// How it stands with a wire.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub enum Link {
    /// Nothing is listened to.
    #[default]
    Off,
    /// It is open.
    Open,
    /// It cannot be opened, or was lost, and is tried again.
    Trying(String),
    /// The recording has come to its end.
    Ended,
    /// It cannot be listened to at all.
    Refused(String),
}

/// A simulated boat that several may steer.
pub type Boat = Arc<Mutex<Simulator>>;

/// A thread that listens, until it is dropped.
#[derive(Debug)]
pub(crate) struct Listening {
    stop: Arc<AtomicBool>,
}

impl Drop for Listening {
    fn drop(&mut self) {
        self.stop.store(true, Ordering::Relaxed);
    }
}

/// What a listening thread tells its hub.
struct Ear {
    stop: Arc<AtomicBool>,
    number: u64,
    to: SyncSender<Input>,
}

impl Ear {
    fn is_wanted(&self) -> bool {
        !self.stop.load(Ordering::Relaxed)
    }

    fn link(&self, link: Link) {
        let _ = self.to.send(Input::Link(self.number, link));
    }

    fn hear(&self, bytes: &[u8]) {
        let _ = self
            .to
            .send(Input::Bytes(self.number, bytes.to_vec(), Instant::now()));
    }

    /// What nobody holds back is dropped where it comes too fast.
    fn hear_if_possible(&self, bytes: &[u8]) {
        let input = Input::Bytes(self.number, bytes.to_vec(), Instant::now());
        if let Err(TrySendError::Full(_)) = self.to.try_send(input) {
            thread::sleep(Duration::from_millis(20));
        }
    }

    /// Waits, unless it is not wanted any more.
    fn wait(&self, how_long: Duration) {
        let until = Instant::now() + how_long;
        while self.is_wanted() && Instant::now() < until {
            thread::sleep(WANTED.min(until.saturating_duration_since(Instant::now())));
        }
    }
}

/// Listens to a wire on a thread of its own.
pub(crate) fn listen(
    wire: &Wire,
    boat: Option<Boat>,
    number: u64,
    to: SyncSender<Input>,
) -> Option<Listening> {
    let stop = Arc::new(AtomicBool::new(false));
    let ear = Ear {
        stop: Arc::clone(&stop),
        number,
        to,
    };
    match wire.clone() {
        Wire::Off => return None,
        Wire::Tcp(address) => drop(thread::spawn(move || tcp(&ear, &address))),
        Wire::Udp(port) => drop(thread::spawn(move || udp(&ear, port))),
        Wire::Replay(path, pace) => drop(thread::spawn(move || replay(&ear, &path, pace))),
        Wire::Simulated(pace) => {
            let boat = boat?;
            thread::spawn(move || simulated(&ear, &boat, pace));
        }
    }
    Some(Listening { stop })
}

fn open(address: &str) -> Result<TcpStream, String> {
    let with_port = if address.contains(':') {
        address.to_owned()
    } else {
        format!("{address}:{PORT}")
    };
    let places: Vec<SocketAddr> = with_port
        .to_socket_addrs()
        .map_err(|error| format!("{address} is not known here: {error}"))?
        .collect();
    let mut why = format!("{address} is not known here");
    for place in places {
        match TcpStream::connect_timeout(&place, OPENS) {
            Ok(stream) => return Ok(stream),
            Err(error) => why = format!("{address} does not answer: {}", error.kind()),
        }
    }
    Err(why)
}

fn tcp(ear: &Ear, address: &str) {
    let mut pause = AGAIN.0;
    let mut bytes = [0; 4_096];
    while ear.is_wanted() {
        let mut stream = match open(address) {
            Ok(stream) => stream,
            Err(why) => {
                ear.link(Link::Trying(why));
                ear.wait(pause);
                pause = (pause * 2).min(AGAIN.1);
                continue;
            }
        };
        let _ = stream.set_read_timeout(Some(WANTED));
        ear.link(Link::Open);
        let mut last = Instant::now();
        let why = loop {
            if !ear.is_wanted() {
                return;
            }
            match stream.read(&mut bytes) {
                Ok(0) => break format!("{address} has closed the line"),
                Ok(read) => {
                    last = Instant::now();
                    pause = AGAIN.0;
                    ear.hear(&bytes[..read]);
                }
                Err(error)
                    if matches!(
                        error.kind(),
                        std::io::ErrorKind::WouldBlock | std::io::ErrorKind::TimedOut
                    ) =>
                {
                    if last.elapsed() > SILENT {
                        break format!("{address} says nothing");
                    }
                }
                Err(error) => break format!("the line to {address} is cut: {}", error.kind()),
            }
        };
        ear.link(Link::Trying(why));
        ear.wait(pause);
        pause = (pause * 2).min(AGAIN.1);
    }
}

fn udp(ear: &Ear, port: u16) {
    let socket = match UdpSocket::bind(("0.0.0.0", port)) {
        Ok(socket) => socket,
        Err(error) => {
            ear.link(Link::Refused(format!(
                "port {port} cannot be listened to: {}",
                error.kind()
            )));
            return;
        }
    };
    let _ = socket.set_read_timeout(Some(WANTED));
    ear.link(Link::Open);
    let mut bytes = [0; DATAGRAM];
    while ear.is_wanted() {
        if let Ok((read, _)) = socket.recv_from(&mut bytes) {
            ear.hear_if_possible(&bytes[..read]);
        }
    }
}

/// The second that a line of a recording names.
fn second_of(line: &str) -> Option<u32> {
    let mut fields = line.split(',');
    if !fields.next()?.ends_with("RMC") {
        return None;
    }
    let clock = fields.next()?;
    let two = |from: usize| clock.get(from..from + 2)?.parse::<u32>().ok();
    Some(two(0)? * 3_600 + two(2)? * 60 + two(4)?)
}

fn replay(ear: &Ear, path: &PathBuf, pace: f64) {
    let file = match File::open(path) {
        Ok(file) => BufReader::new(file),
        Err(error) => {
            ear.link(Link::Refused(format!(
                "{} cannot be opened: {}",
                path.display(),
                error.kind()
            )));
            return;
        }
    };
    ear.link(Link::Open);
    let mut last: Option<u32> = None;
    let mut due = Instant::now();
    for line in file.split(b'\n') {
        let Ok(line) = line else { break };
        if !ear.is_wanted() {
            return;
        }
        let second = second_of(&String::from_utf8_lossy(&line));
        if let (Some(second), Some(before)) = (second, last) {
            // A day has as many seconds; what lies farther apart is a break of the recording.
            let gap = (second + 86_400 - before) % 86_400;
            due += Duration::from_secs_f64(f64::from(gap.min(30)) / pace.max(0.1));
            ear.wait(due.saturating_duration_since(Instant::now()));
        }
        last = second.or(last);
        ear.hear(&[&line[..], b"\n"].concat());
    }
    ear.link(Link::Ended);
}

fn simulated(ear: &Ear, boat: &Boat, pace: f64) {
    ear.link(Link::Open);
    let mut due = Instant::now();
    while ear.is_wanted() {
        let text = boat.lock().unwrap_or_else(PoisonError::into_inner).second();
        ear.hear(text.as_bytes());
        due += Duration::from_secs_f64(1.0 / pace.max(0.1));
        // A machine that was asleep does not catch up.
        due = due.max(
            Instant::now()
                .checked_sub(Duration::from_secs(1))
                .unwrap_or(due),
        );
        thread::sleep(due.saturating_duration_since(Instant::now()));
    }
}
