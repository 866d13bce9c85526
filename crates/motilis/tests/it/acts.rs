//! Four devices at once on a link that drops: every act once, none lost. With the real program.

use motilis_store::Store;
use motilis_store::events;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::process::{Child, Command, Stdio};
use std::time::Duration;

/// The program on demo data; it stops with the test.
struct Program {
    child: Child,
    address: String,
    data: std::path::PathBuf,
    _folder: tempfile::TempDir,
}

impl Program {
    fn start() -> Self {
        let folder = tempfile::tempdir().unwrap();
        let data = folder.path().join("demo.db");
        let mut child = Command::new(env!("CARGO_BIN_EXE_motilis"))
            .args(["demo", "--listen", "127.0.0.1:0", "--data"])
            .arg(&data)
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let mut line = String::new();
        let out = child.stdout.take().unwrap();
        BufReader::new(out).read_line(&mut line).unwrap();
        let address = line.trim().rsplit("http://").next().unwrap().to_owned();
        Self {
            child,
            address,
            data,
            _folder: folder,
        }
    }
}

impl Drop for Program {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// Sends a form; answers status and where it leads, or nothing when the answer is not waited for.
fn post(address: &str, path: &str, body: &str, waits: bool) -> Option<(u16, String)> {
    let mut stream = TcpStream::connect(address).unwrap();
    stream
        .set_read_timeout(Some(Duration::from_mins(1)))
        .unwrap();
    write!(
        stream,
        "POST {path} HTTP/1.1\r\nhost: {address}\r\nconnection: close\r\ncontent-type: application/x-www-form-urlencoded\r\ncontent-length: {}\r\n\r\n{body}",
        body.len()
    )
    .unwrap();
    if !waits {
        // The link is cut before the answer.
        stream.shutdown(std::net::Shutdown::Both).ok();
        return None;
    }
    let mut answer = String::new();
    stream.read_to_string(&mut answer).unwrap();
    let status = answer.split(' ').nth(1).unwrap().parse().unwrap();
    let location = answer
        .lines()
        .find_map(|line| line.strip_prefix("location: "))
        .unwrap_or_default();
    Some((status, location.to_owned()))
}

/// A small generator: which acts are lost and which repeated is the same in every run.
fn next(state: &mut u64) -> u64 {
    *state = state
        .wrapping_mul(6_364_136_223_846_793_005)
        .wrapping_add(1_442_695_040_888_963_407);
    *state >> 33
}

const CLIENTS: u64 = 4;
const EACH: u64 = 250;

/// One device: its acts, some lost on the way, some sent again and again.
fn client(address: &str, number: u64) {
    let mut state = number + 1;
    for act in 0..EACH {
        let kind = ["fish", "strike", "follow", "note"][(next(&mut state) % 4) as usize];
        let body = format!("kind={kind}&note=c{number}-{act}&_act=client-{number}-{act}");
        if next(&mut state).is_multiple_of(3) {
            post(address, "/log", &body, false);
        }
        let (status, first) = post(address, "/log", &body, true).unwrap();
        assert_eq!(status, 303, "{body}");
        for _ in 0..next(&mut state) % 3 {
            // Asked for again, it answers what it answered then.
            assert_eq!(
                post(address, "/log", &body, true).unwrap(),
                (303, first.clone())
            );
        }
    }
}

#[test]
fn a_thousand_acts_from_four_devices_are_each_done_once() {
    let program = Program::start();
    let before = logged(&program).len();
    std::thread::scope(|scope| {
        for number in 0..CLIENTS {
            let address = program.address.clone();
            scope.spawn(move || client(&address, number));
        }
    });
    let mut notes = logged(&program);
    assert_eq!(notes.len() - before, (CLIENTS * EACH) as usize);
    notes.sort();
    notes.dedup();
    let numbered = notes.iter().filter(|note| note.starts_with('c')).count();
    assert_eq!(numbered, (CLIENTS * EACH) as usize);
}

/// Notes of everything on the open outing.
fn logged(program: &Program) -> Vec<String> {
    let store = Store::open(&program.data).unwrap();
    let open = motilis_core::book::OutingId(6);
    let events = store
        .read(|connection| events::of_outing(connection, open))
        .unwrap();
    events.into_iter().map(|(_, event)| event.note).collect()
}
