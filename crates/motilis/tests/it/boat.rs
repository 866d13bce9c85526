//! `motilis boat` as another program hears it, and `serve --tls` with the certificate it made itself.

use crate::motilis;
use motilis_formats::nmea::Reader;
use rustls::pki_types::pem::PemObject;
use rustls::pki_types::{CertificateDer, ServerName};
use rustls::{ClientConfig, ClientConnection, RootCertStore, StreamOwned};
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::process::{Child, Stdio};
use std::sync::Arc;
use std::time::{Duration, Instant};

struct Running(Child, String);

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// Starts it and reads the address off its first line.
fn start(arguments: &[&str]) -> Running {
    let mut process = motilis()
        .args(arguments)
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let mut first = String::new();
    BufReader::new(process.stdout.take().unwrap())
        .read_line(&mut first)
        .unwrap();
    let address = first.trim().rsplit(' ').next().unwrap().to_owned();
    Running(process, address)
}

#[test]
fn a_boat_is_called_up_and_every_sentence_is_sound() {
    let boat = start(&["boat", "--listen", "127.0.0.1:0", "--pace", "20"]);
    let mut stream = TcpStream::connect(&boat.1).unwrap();
    stream
        .set_read_timeout(Some(Duration::from_secs(20)))
        .unwrap();
    let (mut reader, began) = (Reader::default(), Instant::now());
    let mut bytes = [0; 4_096];
    while reader.counts().good < 60 {
        let read = stream.read(&mut bytes).unwrap();
        reader.read(&bytes[..read], |_| {});
        assert!(began.elapsed() < Duration::from_secs(30));
    }
    assert_eq!(reader.counts().dropped(), 0);
}

#[test]
fn a_recording_is_said_again_and_a_pace_that_cannot_be_is_refused() {
    let ride = concat!(
        env!("CARGO_MANIFEST_DIR"),
        "/../motilis-formats/tests/data/ride.nmea"
    );
    let boat = start(&[
        "boat",
        "--listen",
        "127.0.0.1:0",
        "--pace",
        "20",
        "--file",
        ride,
    ]);
    let mut stream = BufReader::new(TcpStream::connect(&boat.1).unwrap());
    let mut line = String::new();
    stream.read_line(&mut line).unwrap();
    assert!(!line.trim().is_empty());
    for (arguments, says) in [
        (["boat", "--pace", "900"], "not between 0.5 and 20"),
        (["boat", "--mph", "40"], "not between 0.2 and 5"),
    ] {
        let output = motilis().args(arguments).output().unwrap();
        let why = String::from_utf8(output.stderr).unwrap();
        assert!(
            output.status.code() == Some(1) && why.contains(says),
            "{why}"
        );
    }
}

#[test]
fn https_answers_with_a_certificate_that_is_made_once() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("boat.db");
    let arguments = [
        "serve",
        "--tls",
        "--listen",
        "127.0.0.1:0",
        "--data",
        data.to_str().unwrap(),
    ];
    let server = start(&arguments);
    let address = server.1.strip_prefix("https://").unwrap().to_owned();
    let file = folder.path().join("boat.cert.pem");
    let certificate = std::fs::read(&file).unwrap();
    let mut roots = RootCertStore::empty();
    roots
        .add(CertificateDer::from_pem_slice(&certificate).unwrap())
        .unwrap();
    let provider = Arc::new(rustls::crypto::ring::default_provider());
    let client = ClientConfig::builder_with_provider(provider)
        .with_safe_default_protocol_versions()
        .unwrap()
        .with_root_certificates(roots)
        .with_no_client_auth();
    let name = ServerName::try_from("127.0.0.1").unwrap();
    let connection = ClientConnection::new(Arc::new(client), name).unwrap();
    let mut stream = StreamOwned::new(connection, TcpStream::connect(&address).unwrap());
    write!(
        stream,
        "GET /link HTTP/1.1\r\nHost: {address}\r\nConnection: close\r\n\r\n"
    )
    .unwrap();
    let mut answer = String::new();
    BufReader::new(&mut stream).read_line(&mut answer).unwrap();
    assert!(answer.starts_with("HTTP/1.1 20"), "{answer}");
    drop(server);
    let again = start(&arguments);
    assert_eq!(std::fs::read(&file).unwrap(), certificate);
    drop(again);
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        let key = std::fs::metadata(folder.path().join("boat.key.pem")).unwrap();
        assert_eq!(key.permissions().mode() & 0o077, 0);
    }
}

#[test]
fn a_certificate_that_is_none_is_refused_with_its_name() {
    let folder = tempfile::tempdir().unwrap();
    let nonsense = folder.path().join("nonsense.pem");
    std::fs::write(&nonsense, "no certificate").unwrap();
    let nonsense = nonsense.to_str().unwrap();
    let data = folder.path().join("boat.db");
    let output = motilis()
        .args([
            "serve",
            "--listen",
            "127.0.0.1:0",
            "--data",
            data.to_str().unwrap(),
        ])
        .args(["--tls-cert", nonsense, "--tls-key", nonsense])
        .output()
        .unwrap();
    let why = String::from_utf8(output.stderr).unwrap();
    assert!(
        output.status.code() == Some(1) && why.contains("nonsense.pem"),
        "{why}"
    );
}
