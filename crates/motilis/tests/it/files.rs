//! The book and the log as files, by the command line: out, in, and back to the last digit.

use super::motilis;
use motilis_store::Store;
use std::path::{Path, PathBuf};
use std::process::Output;

/// A data file with the demo in it.
fn demo() -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("boat.db");
    let store = Store::open(&path).unwrap();
    motilis_demo::fill(&store, motilis_demo::SEED).unwrap();
    (folder, path)
}

fn run(data: &Path, arguments: &[&str]) -> Output {
    motilis()
        .args(arguments)
        .arg("--data")
        .arg(data)
        .output()
        .unwrap()
}

fn out(data: &Path, arguments: &[&str]) -> String {
    let output = run(data, arguments);
    assert!(
        output.status.success(),
        "{}",
        String::from_utf8_lossy(&output.stderr)
    );
    String::from_utf8(output.stdout).unwrap()
}

#[test]
fn a_book_moves_into_a_new_file_and_its_log_is_the_same() {
    let (folder, data) = demo();
    let book = folder.path().join("book.json");
    std::fs::write(&book, out(&data, &["export", "book"])).unwrap();
    let new = folder.path().join("new.db");
    let said = out(&new, &["import", "book", book.to_str().unwrap()]);
    assert!(said.contains("rows are in"), "{said}");
    assert_eq!(
        out(&new, &["export", "book"]),
        std::fs::read_to_string(&book).unwrap()
    );
    // An existing file is left alone.
    let again = run(&new, &["import", "book", book.to_str().unwrap()]);
    let said = String::from_utf8_lossy(&again.stderr).into_owned();
    assert!(
        !again.status.success() && said.contains("exists already"),
        "{said}"
    );
    let log = folder.path().join("log.json");
    std::fs::write(&log, out(&data, &["export", "log", "--json"])).unwrap();
    let said = out(&new, &["import", "log", log.to_str().unwrap()]);
    assert!(
        said.starts_with("0 new, 0 changed") && said.contains(" 0 wrong"),
        "{said}"
    );
}

#[test]
fn a_wrong_line_is_named_and_nothing_comes_in() {
    let (folder, data) = demo();
    let entries = out(&data, &["export", "log"]);
    let path = folder.path().join("entries.csv");
    std::fs::write(&path, entries.replacen(",fish,", ",fsh,", 1)).unwrap();
    let output = run(&data, &["import", "log", path.to_str().unwrap()]);
    let said = String::from_utf8_lossy(&output.stderr).into_owned();
    assert!(!output.status.success());
    assert!(said.contains("kind: “fsh” is not one of"), "{said}");
    assert_eq!(out(&data, &["export", "log"]), entries);
}

#[test]
fn a_track_goes_out_and_comes_in() {
    let (folder, data) = demo();
    let gpx = out(&data, &["export", "track", "--gpx"]);
    let path = folder.path().join("track.gpx");
    std::fs::write(&path, &gpx).unwrap();
    let said = out(&data, &["import", "track", path.to_str().unwrap()]);
    assert!(said.contains("is in the log"), "{said}");
    // The same track, the same entries where they were.
    assert_eq!(out(&data, &["export", "track", "--gpx"]), gpx);
    assert!(out(&data, &["export", "track"]).starts_with("at_utc,lat,lon"));
    let none = run(&data, &["export", "track", "--outing", "2"]);
    assert!(!none.status.success());
}
