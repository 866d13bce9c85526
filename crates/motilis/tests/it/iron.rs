//! The program on bad disks, with strangers, and when it is ended: what it says, and what it leaves.

use crate::{Running, motilis};
use rstest::rstest;
use serde_json::Value;
use std::fs;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::os::unix::fs::PermissionsExt;
use std::os::unix::process::CommandExt;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Output, Stdio};
use std::time::{Duration, Instant, SystemTime};

/// A folder with a demo file that nobody serves.
fn filled() -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("boat.db");
    let store = motilis_store::Store::open(&data).unwrap();
    motilis_demo::fill(&store, motilis_demo::SEED).unwrap();
    drop(store);
    (folder, data)
}

fn said(output: &Output) -> String {
    let text = String::from_utf8_lossy(&output.stderr).into_owned();
    assert!(
        !text.contains("panicked") && !text.contains("Error("),
        "{text}"
    );
    text
}

/// What `motilis serve` says that does not come to serve.
fn serving(data: &Path) -> String {
    let output = motilis()
        .args(["serve", "--listen", "127.0.0.1:0", "--data"])
        .arg(data)
        .output()
        .unwrap();
    assert_eq!(output.status.code(), Some(1));
    let text = said(&output);
    assert_eq!(text.trim_end().lines().count(), 1, "one sentence: {text}");
    text
}

fn run(arguments: &[&str], data: &Path) -> Output {
    motilis()
        .args(arguments)
        .arg("--data")
        .arg(data)
        .output()
        .unwrap()
}

/// Whether this user may read and write everything; then another one is taken where rights matter.
fn is_root() -> bool {
    std::os::unix::fs::MetadataExt::uid(&fs::metadata("/proc/self").unwrap()) == 0
}

/// The program as a user whom rights bind.
fn as_somebody(folder: &Path) -> Command {
    let mut program = motilis();
    if is_root() {
        // The program lies where that user may not look: a copy of it beside the data.
        let copy = folder.join("motilis");
        if !copy.exists() {
            fs::copy(env!("CARGO_BIN_EXE_motilis"), &copy).unwrap();
        }
        program = Command::new(copy);
        program.uid(65_534).gid(65_534);
    }
    program
}

fn signal(process: &Child, name: &str) {
    let sent = Command::new("kill")
        .args([&format!("-{name}"), &process.id().to_string()])
        .status();
    assert!(sent.unwrap().success());
}

fn ends_within(process: &mut Child, time: Duration) -> bool {
    let began = Instant::now();
    while began.elapsed() < time {
        if process.try_wait().unwrap().is_some() {
            return true;
        }
        std::thread::sleep(Duration::from_millis(20));
    }
    false
}

#[test]
fn a_second_program_is_told_who_serves_the_file() {
    let (_folder, data) = filled();
    let first = Running::start(&["serve"], &data);
    let text = serving(&data);
    assert!(
        text.contains("is in use by another Motilis (process ")
            && text.contains(&format!("motilis serve at {}", first.address)),
        "{text}"
    );
    // What only reads, or copies, goes on beside it.
    assert!(run(&["export", "fish"], &data).status.success());
    assert!(run(&["backup"], &data).status.success());
    assert!(run(&["check"], &data).status.success());
    let tidy = run(&["tidy", "--yes"], &data);
    assert!(said(&tidy).contains("is in use by another Motilis"));
}

#[test]
fn the_demo_replaces_its_own_files_and_no_other() {
    let folder = tempfile::tempdir().unwrap();
    let mine = folder.path().join("mine.db");
    drop(motilis_store::Store::open(&mine).unwrap());
    let letter = folder.path().join("letter.txt");
    fs::write(&letter, "Dear harbour master").unwrap();
    for file in [&mine, &letter] {
        let before = fs::read(file).unwrap();
        let output = run(&["demo", "--listen", "127.0.0.1:0"], file);
        assert_eq!(output.status.code(), Some(1));
        assert!(said(&output).contains("was not made by `motilis demo` and stays as it is"));
        assert_eq!(fs::read(file).unwrap(), before);
    }
    let demo = folder.path().join("demo.db");
    let first = Running::start(&["demo"], &demo);
    let text = said(&run(&["demo", "--listen", "127.0.0.1:0"], &demo));
    assert!(text.contains("is in use by another Motilis"), "{text}");
    drop(first);
    drop(Running::start(&["demo"], &demo));
}

#[test]
fn a_demo_sweeps_up_after_those_that_were_killed() {
    let temporary = tempfile::tempdir().unwrap();
    let environment = [("TMPDIR", temporary.path().to_str().unwrap())];
    let folder = |name: &str, letter: bool, old: bool| {
        let folder = temporary.path().join(name);
        fs::create_dir(&folder).unwrap();
        if letter {
            fs::write(folder.join("letter.txt"), "Dear harbour master").unwrap();
        }
        let at = SystemTime::now() - Duration::from_hours(u64::from(old));
        fs::File::open(&folder).unwrap().set_modified(at).unwrap();
        folder
    };
    let killed = folder("motilis-demo-killed", false, true);
    let beginning = folder("motilis-demo-beginning", false, false);
    let letters = folder("motilis-demo-letters", true, true);
    let data = tempfile::tempdir().unwrap();
    // On a file with a name nothing else is made, so nothing is left when it is killed.
    drop(Running::start_with(
        &["demo"],
        &data.path().join("demo.db"),
        &environment,
    ));
    assert!(!killed.exists() && beginning.exists() && letters.exists());
    assert_eq!(fs::read_dir(temporary.path()).unwrap().count(), 2);
}

#[test]
fn a_taken_port_is_said_before_anything_is_made() {
    let holder = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let address = holder.local_addr().unwrap().to_string();
    let folder = tempfile::tempdir().unwrap();
    for what in ["serve", "demo"] {
        let data = folder.path().join("new.db");
        let output = run(&[what, "--listen", &address], &data);
        let text = said(&output);
        assert!(
            text.contains(&format!(
                "cannot listen on {address}; is another Motilis running there?"
            )),
            "{text}"
        );
        assert_eq!(
            fs::read_dir(folder.path()).unwrap().count(),
            0,
            "nothing is left"
        );
    }
}

#[rstest]
#[case::interrupt("INT")]
#[case::terminate("TERM")]
#[case::terminal_gone("HUP")]
fn every_ending_is_quick_and_cleans_up(#[case] name: &str) {
    let temporary = tempfile::tempdir().unwrap();
    let mut program = motilis()
        .args(["demo", "--listen", "127.0.0.1:0"])
        .env("TMPDIR", temporary.path())
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(program.stdout.take().unwrap())
        .read_line(&mut line)
        .unwrap();
    let host = line.trim().rsplit("http://").next().unwrap().to_owned();
    assert_eq!(fs::read_dir(temporary.path()).unwrap().count(), 1);
    // Requests that are half sent, and one who looks on.
    let _half: Vec<TcpStream> = [
        "POST /log HTTP/1.1\r\nhost: x\r\ncontent-length: 999\r\n\r\nkind=",
        "GET /to",
        "GET /boat/live HTTP/1.1\r\nhost: 127.0.0.1\r\n\r\n",
    ]
    .iter()
    .map(|half| {
        let mut stream = TcpStream::connect(&host).unwrap();
        stream.write_all(half.as_bytes()).unwrap();
        stream
    })
    .collect();
    std::thread::sleep(Duration::from_millis(200));
    signal(&program, name);
    assert!(
        ends_within(&mut program, Duration::from_secs(10)),
        "it goes on after {name}"
    );
    let left: Vec<_> = fs::read_dir(temporary.path()).unwrap().collect();
    assert!(left.is_empty(), "{left:?}");
}

/// `motilis serve | head -1`: whoever read what it says is gone, and it serves on.
#[test]
fn it_goes_on_when_nobody_reads_what_it_says() {
    let (_folder, data) = filled();
    let mut program = motilis()
        .args(["serve", "--listen", "127.0.0.1:0", "--data"])
        .arg(&data)
        .env("RUST_LOG", "info")
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(program.stdout.take().unwrap())
        .read_line(&mut line)
        .unwrap();
    drop(program.stderr.take());
    let address = line.trim().rsplit(' ').next().unwrap().to_owned();
    for path in ["/health", "/no-such-page", "/today", "/health"] {
        let answer = ureq::get(format!("{address}{path}"))
            .config()
            .http_status_as_error(false)
            .build()
            .call()
            .unwrap();
        let wanted = if path == "/no-such-page" { 404 } else { 200 };
        assert_eq!(answer.status(), wanted, "{path}");
    }
    signal(&program, "TERM");
    assert!(ends_within(&mut program, Duration::from_secs(10)));
}

/// When it has ended, the one file alone is the whole book.
#[test]
fn the_file_is_whole_when_the_program_has_ended() {
    let (folder, data) = filled();
    let mut program = Running::start(&["serve"], &data);
    let answer = ureq::post(format!("{}/log", program.address))
        .config()
        .max_redirects(0)
        .build()
        .send_form([("kind", "note"), ("note", "the last words")])
        .unwrap();
    assert_eq!(answer.status(), 303);
    signal(&program.process, "TERM");
    assert!(ends_within(&mut program.process, Duration::from_secs(10)));
    let alone = folder.path().join("alone.db");
    fs::copy(&data, &alone).unwrap();
    let log = run(&["export", "log"], &alone);
    assert!(String::from_utf8_lossy(&log.stdout).contains("the last words"));
}

#[test]
fn missing_folders_closed_files_and_folders_say_so() {
    let folder = tempfile::tempdir().unwrap();
    let text = serving(&folder.path().join("ashore/boat.db"));
    assert!(
        text.contains("cannot be made: there is no such folder"),
        "{text}"
    );
    let text = serving(folder.path());
    assert!(text.contains("it is a folder; name a file in it"), "{text}");
    let (folder, data) = filled();
    fs::set_permissions(folder.path(), PermissionsExt::from_mode(0o755)).unwrap();
    fs::set_permissions(&data, PermissionsExt::from_mode(0o000)).unwrap();
    let output = as_somebody(folder.path())
        .args(["serve", "--listen", "127.0.0.1:0", "--data"])
        .arg(&data)
        .output()
        .unwrap();
    let text = said(&output);
    assert!(
        text.contains("this user may not read it; start Motilis as the user it belongs to"),
        "{text}"
    );
}

/// Where nothing can be written the book is served to be read, also with what lies in its log.
#[test]
fn a_card_that_can_only_be_read_is_served_with_a_word() {
    let (folder, data) = filled();
    let program = Running::start(&["serve"], &data);
    let sent = ureq::post(format!("{}/log", program.address))
        .config()
        .max_redirects(0)
        .build()
        .send_form([("kind", "note"), ("note", "only in the log")]);
    assert_eq!(sent.unwrap().status(), 303);
    drop(program);
    for file in fs::read_dir(folder.path()).unwrap() {
        let path = file.unwrap().path();
        if path.is_file() {
            fs::set_permissions(path, PermissionsExt::from_mode(0o444)).unwrap();
        }
    }
    fs::set_permissions(folder.path(), PermissionsExt::from_mode(0o755)).unwrap();
    let mut command = as_somebody(folder.path());
    if is_root() {
        fs::set_permissions(
            folder.path().join("motilis"),
            PermissionsExt::from_mode(0o555),
        )
        .unwrap();
    } else {
        fs::set_permissions(folder.path(), PermissionsExt::from_mode(0o555)).unwrap();
    }
    let mut program = command
        .args(["serve", "--listen", "127.0.0.1:0", "--data"])
        .arg(&data)
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let mut lines = BufReader::new(program.stdout.take().unwrap()).lines();
    let first = lines.next().unwrap().unwrap();
    assert!(
        first.contains("can only be read where it lies: nothing can be changed"),
        "{first}"
    );
    let address = lines
        .next()
        .unwrap()
        .unwrap()
        .rsplit(' ')
        .next()
        .unwrap()
        .to_owned();
    let page = ureq::get(format!("{address}/log"))
        .call()
        .unwrap()
        .into_body()
        .read_to_string()
        .unwrap();
    assert!(page.contains("only in the log") && page.contains("can only be read where it lies"));
    let refused = ureq::post(format!("{address}/log"))
        .config()
        .http_status_as_error(false)
        .build()
        .send_form([("kind", "note"), ("note", "no")])
        .unwrap();
    assert_eq!(refused.status(), 403);
    signal(&program, "TERM");
    assert!(ends_within(&mut program, Duration::from_secs(10)));
    fs::set_permissions(folder.path(), PermissionsExt::from_mode(0o755)).unwrap();
}

/// A disk of two megabytes, where one may be made.
struct SmallDisk(tempfile::TempDir);

impl SmallDisk {
    fn new() -> Option<Self> {
        let folder = tempfile::tempdir().unwrap();
        let mounted = Command::new("mount")
            .args(["-t", "tmpfs", "-o", "size=2m", "tmpfs"])
            .arg(folder.path())
            .stderr(Stdio::null())
            .status();
        mounted
            .is_ok_and(|status| status.success())
            .then_some(Self(folder))
    }
}

impl Drop for SmallDisk {
    fn drop(&mut self) {
        let _ = Command::new("umount").arg(self.0.path()).status();
    }
}

#[test]
fn a_full_disk_is_said_and_what_was_acknowledged_stays() {
    let Some(disk) = SmallDisk::new() else {
        eprintln!("skipped: no small disk can be made here; the store's own test fills a file");
        return;
    };
    let data = disk.0.path().join("boat.db");
    let program = Running::start(&["demo"], &data);
    let note = "y".repeat(300);
    let mut kept = 0;
    let refused = (0..2_000).find_map(|n| {
        let sent = ureq::post(format!("{}/log", program.address))
            .config()
            .max_redirects(0)
            .http_status_as_error(false)
            .build()
            .send_form([
                ("kind", "note"),
                ("note", &format!("acknowledged {n:04} {note}")),
            ])
            .unwrap();
        if sent.status() == 303 {
            kept += 1;
            return None;
        }
        Some((
            sent.status().as_u16(),
            sent.into_body().read_to_string().unwrap(),
        ))
    });
    let (status, page) = refused.expect("two megabytes are full some time");
    assert_eq!(status, 507, "{page}");
    assert!(page.contains("The disk is full"), "{page}");
    assert_eq!(
        ureq::get(format!("{}/today", program.address))
            .call()
            .unwrap()
            .status(),
        200
    );
    drop(program);
    // It cannot even be opened for writing there; elsewhere all that was acknowledged is in it.
    let elsewhere = tempfile::tempdir().unwrap();
    for end in ["", "-wal"] {
        let name = format!("boat.db{end}");
        fs::copy(disk.0.path().join(&name), elsewhere.path().join(&name)).unwrap();
    }
    let log = run(&["export", "log"], &elsewhere.path().join("boat.db"));
    let text = String::from_utf8_lossy(&log.stdout);
    assert_eq!(
        (0..kept)
            .filter(|n| text.contains(&format!("acknowledged {n:04}")))
            .count(),
        kept
    );
    // Started again there it says so, or serves what there is.
    fs::write(disk.0.path().join("rest"), vec![0; 2_000_000]).ok();
    let mut again = motilis()
        .args(["serve", "--listen", "127.0.0.1:0", "--data"])
        .arg(disk.0.path().join("boat.db"))
        .stdout(Stdio::null())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    if ends_within(&mut again, Duration::from_secs(8)) {
        let text = said(&again.wait_with_output().unwrap());
        assert!(text.contains("is full"), "{text}");
    } else {
        again.kill().unwrap();
        again.wait().unwrap();
    }
}

#[test]
fn a_damaged_file_is_refused_rescued_and_replaced() {
    let (folder, data) = filled();
    let mut bytes = fs::read(&data).unwrap();
    let has = |page: &[u8], words: &[u8]| page.windows(words.len()).any(|part| part == words);
    let is_leaf = |page: &[u8]| page[0] == 13 && has(page, b"follow") && !has(page, b"CREATE ");
    let leaf = bytes.chunks(4096).position(is_leaf).unwrap();
    bytes[leaf * 4096..(leaf + 1) * 4096].fill(0xa5);
    fs::write(&data, &bytes).unwrap();
    let text = serving(&data);
    assert!(
        text.contains("is damaged (")
            && text.contains("motilis restore")
            && text.contains("--rescue"),
        "{text}"
    );
    let check = run(&["check"], &data);
    assert_eq!(check.status.code(), Some(1));
    assert!(String::from_utf8_lossy(&check.stdout).contains("go back to a copy"));

    let mut program = motilis()
        .args(["serve", "--rescue", "--listen", "127.0.0.1:0", "--data"])
        .arg(&data)
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let mut lines = BufReader::new(program.stdout.take().unwrap())
        .lines()
        .map_while(Result::ok);
    let told: Vec<String> = lines
        .by_ref()
        .take_while(|line| !line.starts_with("Motilis is at"))
        .collect();
    assert!(
        told.iter()
            .any(|line| line.contains("Of events some could not be read")),
        "{told:?}"
    );
    signal(&program, "TERM");
    assert!(ends_within(&mut program, Duration::from_secs(10)));
    let rescued = folder.path().join("boat.rescued.db");
    let restored = run(&["restore", rescued.to_str().unwrap()], &data);
    let text = String::from_utf8_lossy(&restored.stdout);
    assert!(
        text.contains("what it replaced is kept as"),
        "{text}{}",
        said(&restored)
    );
    assert!(run(&["check"], &data).status.success());
    drop(Running::start(&["serve"], &data));
}

#[test]
fn a_copy_is_made_taken_back_and_never_overwritten() {
    let (folder, data) = filled();
    let to = folder.path().join("card.db");
    let made = run(&["backup", "--to", to.to_str().unwrap()], &data);
    assert!(String::from_utf8_lossy(&made.stdout).contains("is a whole copy"));
    let again = run(&["backup", "--to", to.to_str().unwrap()], &data);
    assert!(said(&again).contains("exists already; name a new file"));
    assert!(run(&["backup"], &data).status.success());
    let before = run(&["export", "log"], &data).stdout;
    let mend = motilis_store::Connection::open(&data).unwrap();
    mend.execute_batch("DELETE FROM photographs; DELETE FROM casts; DELETE FROM events")
        .unwrap();
    drop(mend);
    assert_ne!(run(&["export", "log"], &data).stdout, before);
    // The newest in the folder of copies, where none is named.
    assert!(run(&["restore"], &data).status.success());
    assert_eq!(run(&["export", "log"], &data).stdout, before);
    let nothing = folder.path().join("new.db");
    assert!(said(&run(&["restore"], &nothing)).contains("there is no copy in"));
}

#[test]
fn a_record_that_cannot_be_read_is_named_and_set_aside() {
    let (_folder, data) = filled();
    let spoil = motilis_store::Connection::open(&data).unwrap();
    spoil
        .execute_batch("UPDATE events SET kind = 'mermaid' WHERE id = (SELECT max(id) FROM events WHERE kind = 'note')")
        .unwrap();
    drop(spoil);
    let check = run(&["check"], &data);
    assert_eq!(check.status.code(), Some(1));
    assert!(String::from_utf8_lossy(&check.stdout).contains("kind is \"mermaid\""));
    assert!(said(&check).contains("1 found); --mend mends what can be mended"));
    let mend = run(&["check", "--mend"], &data);
    assert_eq!(mend.status.code(), Some(0), "{}", said(&mend));
    assert!(String::from_utf8_lossy(&mend.stdout).contains("1 record set aside"));
    let tidy = run(&["tidy"], &data);
    assert!(
        String::from_utf8_lossy(&tidy.stdout).contains("Say --yes to do it")
            || tidy.status.success()
    );
}

#[test]
fn others_are_asked_for_a_pass_phrase_or_the_program_says_that_they_are_not() {
    let (folder, data) = filled();
    let start = |more: &[&str]| {
        let mut command = motilis();
        command
            .args(["serve", "--listen", "0.0.0.0:0"])
            .args(more)
            .arg("--data")
            .arg(&data)
            .stdin(Stdio::null())
            .stdout(Stdio::piped())
            .stderr(Stdio::piped());
        command.spawn().unwrap()
    };
    let refused = start(&[]).wait_with_output().unwrap();
    let text = said(&refused);
    assert!(
        text.contains("no pass phrase is set: set one with `motilis pass-phrase")
            && text.contains("--no-sign-in"),
        "{text}"
    );

    let open = start(&["--no-sign-in"]);
    let mut open = open;
    let mut lines = BufReader::new(open.stdout.take().unwrap())
        .lines()
        .map_while(Result::ok);
    assert!(
        lines
            .next()
            .unwrap()
            .contains("nobody is asked (--no-sign-in)")
    );
    open.kill().unwrap();
    open.wait().unwrap();

    let phrase = |arguments: &[&str], words: &str| {
        let mut set = motilis()
            .arg("pass-phrase")
            .args(arguments)
            .arg("--data")
            .arg(&data)
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()
            .unwrap();
        set.stdin
            .take()
            .unwrap()
            .write_all(words.as_bytes())
            .unwrap();
        set.wait_with_output().unwrap()
    };
    assert!(said(&phrase(&[], "short\n")).contains("at least 12 characters"));
    assert!(phrase(&[], "heron cedar nine buoys\n").status.success());
    assert!(said(&phrase(&["--crew"], "heron cedar nine buoys\n")).contains("need different ones"));
    let kept = fs::metadata(folder.path().join("boat.access.json")).unwrap();
    assert_eq!(kept.permissions().mode() & 0o077, 0);
    let mut asking = start(&[]);
    let mut lines = BufReader::new(asking.stdout.take().unwrap())
        .lines()
        .map_while(Result::ok);
    assert!(
        lines
            .next()
            .unwrap()
            .starts_with("Motilis is at http://0.0.0.0:")
    );
    asking.kill().unwrap();
    asking.wait().unwrap();
}

#[test]
fn the_log_goes_where_it_is_told_to() {
    let (folder, data) = filled();
    let log = folder.path().join("motilis.log");
    let program = Running::start_with(
        &["serve", "--log-json", "--log-file", log.to_str().unwrap()],
        &data,
        &[("RUST_LOG", "info")],
    );
    ureq::get(format!("{}/today", program.address))
        .call()
        .unwrap();
    drop(program);
    let text = fs::read_to_string(&log).unwrap();
    let requests: Vec<Value> = text
        .lines()
        .map(|line| serde_json::from_str(line).unwrap())
        .collect();
    let today = requests
        .iter()
        .find(|line| line["fields"]["path"] == "/today")
        .unwrap();
    assert_eq!(today["fields"]["status"], 200);
    assert_eq!(today["level"], "INFO");
    assert!(!text.contains("ERROR") && !text.contains('\u{1b}'));
}

#[test]
fn help_names_the_environment_and_version_is_told() {
    let help = motilis().arg("--help").output().unwrap();
    let text = String::from_utf8_lossy(&help.stdout).into_owned();
    for name in [
        "RUST_LOG",
        "MOTILIS_DATA",
        "MOTILIS_LISTEN",
        "MOTILIS_COPIES",
        "backup",
        "restore",
        "check",
        "tidy",
    ] {
        assert!(text.contains(name), "{name} is not in {text}");
    }
    let version = motilis().arg("--version").output().unwrap();
    assert_eq!(
        String::from_utf8_lossy(&version.stdout),
        format!("motilis {}\n", env!("CARGO_PKG_VERSION"))
    );
}

/// What a device sends in a cycle: log, counts, bench, spread, and an act that was kept without a link.
fn acts(round: usize, n: usize) -> (&'static str, String) {
    let act = format!("_act=cycle-{round}-{n}");
    match n % 5 {
        0 => (
            "/log",
            format!("kind=note&note=round+{round}+act+{n}&{act}"),
        ),
        1 => (
            "/box/parts/1/count",
            format!("left_count={}&{act}", 10 + (round * 31 + n) % 50),
        ),
        2 => ("/bench/1/rename", format!("name=Rig+{round}-{n}&{act}")),
        3 => ("/spread/1/rename", format!("name=Spread+{round}-{n}&{act}")),
        _ => (
            "/log",
            format!("kind=fish&note=kept+{round}+{n}&{act}&_age=60000"),
        ),
    }
}

/// `kill -9` amid writes, again and again: what was acknowledged is there, and the file is whole. Thirty cycles; `MOTILIS_CYCLES=1000`
/// for more.
#[test]
fn kill_minus_nine_loses_nothing_acknowledged() {
    let cycles: usize =
        std::env::var("MOTILIS_CYCLES").map_or(30, |cycles| cycles.parse().unwrap());
    let (_folder, data) = filled();
    let (mut notes, mut names): (Vec<String>, [Option<String>; 2]) = (Vec::new(), [None, None]);
    let mut acknowledged = 0;
    for round in 0..cycles {
        let program = Running::start(&["serve"], &data);
        let host = program.address.trim_start_matches("http://").to_owned();
        // Killed at another moment each time, from before the first answer to amid the fortieth.
        let until = Instant::now() + Duration::from_millis(5 + (round as u64 * 37) % 150);
        let killer = std::thread::spawn({
            let process = program.process.id();
            move || {
                std::thread::sleep(until.saturating_duration_since(Instant::now()));
                Command::new("kill")
                    .args(["-9", &process.to_string()])
                    .status()
                    .unwrap();
            }
        });
        for n in 0.. {
            let (path, body) = acts(round, n);
            let Some(303) = post(&host, path, &body) else {
                break;
            };
            acknowledged += 1;
            match n % 5 {
                0 => notes.push(format!("round {round} act {n}")),
                2 => names[0] = Some(format!("Rig {round}-{n}")),
                3 => names[1] = Some(format!("Spread {round}-{n}")),
                4 => notes.push(format!("kept {round} {n}")),
                _ => {}
            }
        }
        killer.join().unwrap();
        drop(program);
    }
    assert!(
        acknowledged > cycles,
        "{acknowledged} acts in {cycles} cycles"
    );
    assert!(run(&["check"], &data).status.success());
    let log = String::from_utf8(run(&["export", "log"], &data).stdout).unwrap();
    let lost: Vec<&String> = notes
        .iter()
        .filter(|note| !log.contains(note.as_str()))
        .collect();
    assert!(
        lost.is_empty(),
        "{} of {acknowledged} lost: {lost:?}",
        lost.len()
    );
    let book = String::from_utf8(run(&["export", "book"], &data).stdout).unwrap();
    for name in names.into_iter().flatten() {
        // The next one may have been on its way when the program was killed.
        let next = name
            .rsplit_once('-')
            .map(|(head, n)| format!("{head}-{}", n.parse::<usize>().unwrap() + 5))
            .unwrap();
        assert!(book.contains(&name) || book.contains(&next), "{name}");
    }
    eprintln!("{cycles} cycles, {acknowledged} acknowledged, none lost");
}

/// Sends a form; the status, unless the program was killed meanwhile.
fn post(host: &str, path: &str, body: &str) -> Option<u16> {
    let mut stream = TcpStream::connect(host).ok()?;
    stream
        .set_read_timeout(Some(Duration::from_secs(20)))
        .ok()?;
    write!(
        stream,
        "POST {path} HTTP/1.1\r\nhost: {host}\r\nconnection: close\r\ncontent-type: application/x-www-form-urlencoded\r\ncontent-length: {}\r\n\r\n{body}",
        body.len()
    )
    .ok()?;
    let mut answer = String::new();
    stream.read_to_string(&mut answer).ok()?;
    answer.split(' ').nth(1)?.parse().ok()
}
