//! The life of a data file: copies, restore, check, tidying, and every way in which it cannot be opened.

use jiff::{SignedDuration, Timestamp};
use motilis_store::check::{self, Mend, Wrong};
use motilis_store::copies::{Copies, Why};
use motilis_store::restore::restore;
use motilis_store::{
    Connection, Error, Fault, Opening, Salvage, Standing, Store, is_held, settings, tidy, trash,
};
use rstest::rstest;
use std::fs;
use std::os::unix::fs::PermissionsExt;
use std::path::{Path, PathBuf};

const NOW: &str = "2026-11-29T06:12:05Z";

fn now() -> Timestamp {
    NOW.parse().unwrap()
}

/// A file with a water, 60 days on it and 2 400 entries.
fn filled() -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("boat.db");
    let store = Store::open(&path).unwrap();
    let filled = store.write(|connection| {
        connection.execute_batch(
            "INSERT INTO waters (id, name, latitude_deg, longitude_deg, zone, salt, clarity_m)
                 VALUES (1, 'Lake Tamarin', 50.42, -95.61, 'America/Winnipeg', 0, 2.1);
             WITH RECURSIVE n (n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM n WHERE n < 60)
             INSERT INTO outings (id, water_id, started_utc_s, speed_mps, temperature_c, clarity_m, sky, fish,
                 fish_from_m, fish_to_m, bottom_m, mood, wanted_depth_m, forage)
                 SELECT n, 1, 1780000000 + 86400 * n, 0.5, 15, 2, 'cloud', 'walleye', 5, 6, 8, 'neutral', 5, 'yellow_perch'
                 FROM n;
             WITH RECURSIVE n (n) AS (SELECT 0 UNION ALL SELECT n + 1 FROM n WHERE n < 2399)
             INSERT INTO events (id, outing_id, kind, at_utc_s, entered_utc_s, speed_mps, note)
                 SELECT n + 1, 1 + n / 40, 'note', 1780000100 + 86400 * (n / 40 + 1) + n, 1780000100, 0.5,
                     'entry ' || n || ', and some words that fill the page'
                 FROM n;",
        )?;
        Ok::<_, Error>(())
    });
    filled.unwrap();
    drop(store);
    (folder, path)
}

fn count(connection: &Connection, table: &str) -> i64 {
    let query = format!("SELECT count(*) FROM {table}");
    connection.query_row(&query, [], |row| row.get(0)).unwrap()
}

fn entries(store: &Store) -> i64 {
    let counted = store.read(|connection| Ok::<_, Error>(count(connection, "events")));
    counted.unwrap()
}

fn serve(path: &Path) -> Result<Store, Error> {
    Opening {
        who: "motilis serve at http://127.0.0.1:8620".into(),
        ..Opening::default()
    }
    .open(path)
}

/// What a file says when it is opened to be served, without the path.
fn refusal(path: &Path) -> String {
    let error = serve(path).unwrap_err();
    let text = error.to_string();
    assert!(text.starts_with(&path.display().to_string()), "{text}");
    assert!(
        !text.contains("Error") && !text.contains('\n') && !text.contains('{'),
        "{text}"
    );
    text.replace(&path.display().to_string(), "FILE")
}

fn damage(path: &Path, from: usize, bytes: &[u8]) {
    let mut file = fs::read(path).unwrap();
    file[from..from + bytes.len()].copy_from_slice(bytes);
    fs::write(path, file).unwrap();
}

#[test]
fn a_new_file_and_what_lies_beside_it_are_nobody_elses_to_read() {
    let (_folder, path) = filled();
    let store = serve(&path).unwrap();
    let written: Result<(), Error> = store.write(|c| settings::set(c, "units", "metric"));
    written.unwrap();
    let connection = store.read(|c| store.copies().keep(c, now(), Why::Asked));
    let copy = connection.unwrap();
    let of = |end: &str| PathBuf::from(format!("{}{end}", path.display()));
    for file in [of(""), of("-wal"), of("-shm"), of(".lock"), copy.path] {
        let mode = fs::metadata(&file).unwrap().permissions().mode();
        assert_eq!(mode & 0o077, 0, "{} {mode:o}", file.display());
    }
}

#[test]
fn a_second_program_is_told_who_holds_the_file() {
    let (_folder, path) = filled();
    let first = serve(&path).unwrap();
    assert!(is_held(&path));
    let said = refusal(&path);
    let me = std::process::id();
    assert_eq!(
        said,
        format!(
            "FILE is in use by another Motilis (process {me}, motilis serve at http://127.0.0.1:8620); use that one, or stop it first"
        )
    );
    drop(first);
    assert!(!is_held(&path));
    // A lock that a killed program left behind holds nobody up.
    fs::write(
        format!("{}.lock", path.display()),
        "process 1, motilis serve",
    )
    .unwrap();
    serve(&path).unwrap();
}

#[rstest]
#[case::note(
    b"dear diary",
    "FILE is not a Motilis data file; name another file, or a new one"
)]
#[case::text(b"a letter to the harbour master, long enough to be read as the head of a file, and then some more of it........", "FILE is not a Motilis data file; name another file, or a new one")]
#[case::short(
    b"SQLite format 3\0 and no more",
    "FILE was cut off: 28 of 4096 bytes are there; take a copy back with `motilis restore`, or see what can still be read with `motilis serve --rescue`"
)]
fn what_is_no_data_file_says_so(#[case] bytes: &[u8], #[case] says: &str) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("boat.db");
    fs::write(&path, bytes).unwrap();
    assert_eq!(refusal(&path), says);
    assert_eq!(fs::read(&path).unwrap(), bytes);
}

#[test]
fn another_programs_database_is_refused() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("boat.db");
    Connection::open(&path)
        .unwrap()
        .execute_batch("CREATE TABLE notes (text)")
        .unwrap();
    assert_eq!(
        refusal(&path),
        "FILE is not a Motilis data file; name another file, or a new one"
    );
}

#[test]
fn a_folder_and_a_missing_folder_say_so() {
    let folder = tempfile::tempdir().unwrap();
    assert_eq!(
        refusal(folder.path()),
        "FILE cannot be opened: it is a folder; name a file in it"
    );
    let nowhere = folder.path().join("ashore/boat.db");
    let text = serve(&nowhere).unwrap_err().to_string();
    assert!(
        text.contains("cannot be made: there is no such folder; name another with --data"),
        "{text}"
    );
}

#[test]
fn a_newer_file_is_left_alone() {
    let (_folder, path) = filled();
    Connection::open(&path)
        .unwrap()
        .pragma_update(None, "user_version", 99)
        .unwrap();
    let said = refusal(&path);
    assert!(
        said.contains("was written by a newer Motilis (data version 99, this program knows"),
        "{said}"
    );
}

#[test]
fn a_file_that_lacks_what_its_version_has_says_what() {
    let (_folder, path) = filled();
    Connection::open(&path)
        .unwrap()
        .execute_batch("DROP TABLE fish_marks")
        .unwrap();
    let said = refusal(&path);
    assert!(
        said.starts_with("FILE lacks fish_marks, which a file of data version 16 has"),
        "{said}"
    );
}

/// What a trigger does is done with every entry: one that is gone, other, or somebody else's is said.
#[rstest]
#[case::gone(
    "DROP TRIGGER box_parts_i",
    "FILE lacks trigger box_parts_i, which a file of data version 16 has"
)]
#[case::other(
    "DROP TRIGGER box_parts_i;
     CREATE TRIGGER box_parts_i AFTER INSERT ON parts BEGIN DELETE FROM events; END",
    "FILE is damaged (its trigger box_parts_i is not as this program makes it)"
)]
#[case::foreign(
    "CREATE TRIGGER mine AFTER INSERT ON events BEGIN DELETE FROM passes; END",
    "FILE is damaged (its trigger mine is not as this program makes it)"
)]
#[case::view(
    "CREATE VIEW mine AS SELECT * FROM events",
    "FILE is damaged (its view mine is not as this program makes it)"
)]
fn a_file_that_does_what_no_program_of_ours_made_is_refused(
    #[case] spoilt: &str,
    #[case] says: &str,
) {
    let (_folder, path) = filled();
    let connection = Connection::open(&path).unwrap();
    connection.execute_batch(spoilt).unwrap();
    drop(connection);
    assert!(refusal(&path).starts_with(says), "{}", refusal(&path));
    // Nor does it come in as a copy.
    let (_other, book) = filled();
    let before = fs::read(&book).unwrap();
    let error = restore(&path, &book, &Copies::of(&book, None)).unwrap_err();
    let text = error
        .to_string()
        .replace(&path.display().to_string(), "FILE");
    assert!(text.starts_with(says), "{text}");
    assert_eq!(fs::read(&book).unwrap(), before);
}

#[test]
fn a_file_that_was_cut_says_how_much_is_there() {
    let (_folder, path) = filled();
    let whole = fs::read(&path).unwrap();
    let half = whole.len() / 2;
    fs::write(&path, &whole[..half]).unwrap();
    assert_eq!(
        refusal(&path),
        format!(
            "FILE was cut off: {half} of {} bytes are there; take a copy back with `motilis restore`, or see what can still be read with `motilis serve --rescue`",
            whole.len()
        )
    );
}

/// Where the leaves of the table of entries lie, by their beginning in the file.
fn leaves(path: &Path) -> Vec<usize> {
    let bytes = fs::read(path).unwrap();
    let pages = bytes.chunks(4096).enumerate();
    pages
        .filter(|(_, page)| page[0] == 13 && page.windows(10).any(|part| part == b"some words"))
        .map(|(place, _)| place * 4096)
        .collect()
}

fn rescue(path: &Path) -> Result<Store, Error> {
    let opening = Opening {
        rescue: true,
        ..Opening::default()
    };
    opening.open(path)
}

/// What is saved of a damaged file, served.
fn rescued(path: &Path) -> (Store, Salvage) {
    let store = rescue(path).unwrap();
    let Standing::Rescued(salvage) = store.standing() else {
        panic!("{:?}", store.standing());
    };
    let salvage = salvage.clone();
    (store, salvage)
}

#[test]
fn a_damaged_file_is_rescued_as_far_as_it_can_be_read() {
    let (folder, path) = filled();
    let leaves = leaves(&path);
    assert!(leaves.len() > 20, "{}", leaves.len());
    // Two places, so that neither the way from the front nor the one from behind gets through.
    for leaf in [leaves[5], leaves[leaves.len() - 5]] {
        damage(&path, leaf, &[0xa5; 4096]);
    }
    let damaged = fs::read(&path).unwrap();
    let said = refusal(&path);
    assert!(
        said.starts_with("FILE is damaged (") && said.contains("motilis restore"),
        "{said}"
    );

    let (store, salvage) = rescued(&path);
    let (table, rows) = &salvage.torn[0];
    assert_eq!((table.as_str(), salvage.torn.len()), ("events", 1));
    let most = 2_400 * (leaves.len() - 3) / leaves.len();
    assert!(
        *rows > most && *rows < 2_400,
        "{rows} of 2400, {} leaves",
        leaves.len()
    );
    assert_eq!(entries(&store), *rows as i64);
    let refused: Result<(), Error> = store.write(|c| settings::set(c, "units", "metric"));
    assert!(
        refused
            .unwrap_err()
            .to_string()
            .contains("open for reading only")
    );
    assert_eq!(
        fs::read(&path).unwrap(),
        damaged,
        "the damaged file is as it was"
    );

    // What was rescued takes its place; the damaged file is kept.
    let saved = folder.path().join("boat.rescued.db");
    assert_eq!(salvage.file, saved);
    drop(store);
    let restored = restore(&saved, &path, &Copies::of(&path, None)).unwrap();
    assert_eq!(fs::read(restored.replaced.unwrap()).unwrap(), damaged);
    let store = serve(&path).unwrap();
    assert_eq!(store.standing(), &Standing::Whole);
    assert_eq!(store.read(check::all).unwrap(), []);
}

/// The page that says where tables lie is torn: what lies elsewhere is still found.
#[test]
fn a_file_with_a_torn_schema_is_rescued_but_for_what_it_named() {
    let (_folder, path) = filled();
    let bytes = fs::read(&path).unwrap();
    let is_torn = |page: &[u8]| {
        page[0] == 13
            && page
                .windows(22)
                .any(|part| part == b"CREATE TABLE \"events\" ")
    };
    let place = bytes.chunks(4096).position(is_torn).unwrap();
    damage(&path, place * 4096, &[0xa5; 4096]);
    assert!(refusal(&path).contains("is damaged ("));
    let (store, salvage) = rescued(&path);
    assert!(
        salvage.torn.contains(&("events".to_owned(), 0)),
        "{salvage:?}"
    );
    assert!(salvage.rows > 60 && salvage.torn.len() < 16, "{salvage:?}");
    let waters = store.read(|c| Ok::<_, Error>((count(c, "waters"), count(c, "outings"))));
    assert_eq!(waters.unwrap(), (1, 60));
}

#[test]
fn of_noise_nothing_is_rescued_and_that_is_said() {
    let (_folder, path) = filled();
    let whole = fs::read(&path).unwrap().len();
    damage(&path, 100, &vec![0xa5; whole - 100]);
    assert!(
        rescue(&path)
            .unwrap_err()
            .to_string()
            .contains("nothing of it can be read")
    );
}

#[test]
fn a_file_without_its_head_is_no_data_file_but_its_copy_comes_back() {
    let (_folder, path) = filled();
    let store = serve(&path).unwrap();
    let copy = store
        .read(|c| store.copies().keep(c, now(), Why::Day))
        .unwrap();
    drop(store);
    damage(&path, 0, &[0; 512]);
    assert_eq!(
        refusal(&path),
        "FILE is not a Motilis data file; name another file, or a new one"
    );
    let restored = restore(&copy.path, &path, &Copies::of(&path, None)).unwrap();
    assert!(restored.replaced.unwrap().exists());
    assert_eq!(entries(&serve(&path).unwrap()), 2_400);
}

#[test]
fn what_is_not_a_copy_takes_nothings_place() {
    let (folder, path) = filled();
    let copies = Copies::of(&path, None);
    let wrong = folder.path().join("letter.db");
    fs::write(&wrong, "dear harbour master").unwrap();
    let none = folder.path().join("none.db");
    for (copy, says) in [
        (&wrong, "is not a Motilis data file"),
        (&none, "there is no such file"),
    ] {
        let text = restore(copy, &path, &copies).unwrap_err().to_string();
        assert!(text.contains(says), "{text}");
    }
    let served = serve(&path).unwrap();
    let copy = served
        .read(|c| served.copies().keep(c, now(), Why::Day))
        .unwrap();
    let text = restore(&copy.path, &path, &copies).unwrap_err().to_string();
    assert!(text.contains("is in use by another Motilis"), "{text}");
    drop(served);
    assert_eq!(entries(&serve(&path).unwrap()), 2_400);
}

#[test]
fn a_copy_comes_back_under_a_running_program() {
    let (_folder, path) = filled();
    let store = serve(&path).unwrap();
    let copy = store
        .read(|c| store.copies().keep(c, now(), Why::Asked))
        .unwrap();
    let other = store.clone();
    let gone: Result<(), Error> = store.write(|c| {
        c.execute("DELETE FROM events WHERE id > 100", [])?;
        Ok(())
    });
    gone.unwrap();
    assert_eq!(entries(&other), 100);
    let (kept, _) = store.restore(&copy.path, now()).unwrap();
    assert_eq!((entries(&other), kept.why.clone()), (2_400, Why::Restore));
    // And what it replaced comes back, too.
    store.restore(&kept.path, now()).unwrap();
    assert_eq!(entries(&other), 100);
    let goes_on: Result<(), Error> = other.write(|c| settings::set(c, "units", "metric"));
    goes_on.unwrap();
}

#[test]
fn the_one_file_alone_has_what_was_folded_in() {
    let (folder, path) = filled();
    let store = serve(&path).unwrap();
    let written: Result<(), Error> = store.write(|c| settings::set(c, "currency", "coins"));
    written.unwrap();
    let alone = folder.path().join("alone.db");
    let of_alone = |path: &Path| {
        let _ = fs::remove_file(&alone);
        fs::copy(path, &alone).unwrap();
        let connection = Connection::open(&alone).unwrap();
        settings::get(&connection, "currency").unwrap()
    };
    assert_eq!(of_alone(&path), None);
    store.fold().unwrap();
    assert_eq!(of_alone(&path).as_deref(), Some("coins"));
    assert_eq!(
        fs::metadata(format!("{}-wal", path.display()))
            .unwrap()
            .len(),
        0
    );
    // A reader of an older moment holds nobody up.
    let again: Result<(), Error> = store.read(|_| {
        store.write(|c| settings::set(c, "currency", "shells"))?;
        store.fold().map(drop)
    });
    again.unwrap();
}

/// Where nothing can be written a file is read as it is: also with what lies in its log, also an older one.
#[rstest]
#[case::as_it_is(false)]
#[case::with_its_log(true)]
fn a_file_that_cannot_be_written_is_read(#[case] logged: bool) {
    if fs::metadata("/proc/self").is_ok_and(|me| std::os::unix::fs::MetadataExt::uid(&me) == 0) {
        eprintln!(
            "skipped: for this user every file can be written; the program's own tests start another user"
        );
        return;
    }
    let (folder, path) = filled();
    if logged {
        let store = Store::open(&path).unwrap();
        let written: Result<(), Error> = store.write(|c| settings::set(c, "currency", "coins"));
        written.unwrap();
        fs::copy(&path, folder.path().join("kept.db")).unwrap();
        fs::copy(
            format!("{}-wal", path.display()),
            folder.path().join("kept.db-wal"),
        )
        .unwrap();
        drop(store);
        fs::rename(folder.path().join("kept.db"), &path).unwrap();
        fs::rename(
            folder.path().join("kept.db-wal"),
            format!("{}-wal", path.display()),
        )
        .unwrap();
    }
    fs::set_permissions(folder.path(), PermissionsExt::from_mode(0o500)).unwrap();
    let store = serve(&path).unwrap();
    assert_eq!(store.standing(), &Standing::ReadOnly);
    assert_eq!(entries(&store), 2_400);
    let currency = store.read(|c| settings::get(c, "currency")).unwrap();
    assert_eq!(currency.is_some(), logged);
    fs::set_permissions(folder.path(), PermissionsExt::from_mode(0o700)).unwrap();
}

#[test]
fn a_full_disk_changes_nothing_and_says_so() {
    let (_folder, path) = filled();
    let store = Store::open(&path).unwrap();
    let filling: Result<(), Error> = store.write(|c| {
        let pages: i64 = c.query_row("PRAGMA page_count", [], |row| row.get(0))?;
        c.query_row(&format!("PRAGMA max_page_count = {pages}"), [], |_| Ok(()))?;
        settings::set(c, "currency", &"x".repeat(100_000))
    });
    let error = filling.unwrap_err();
    assert_eq!(error.fault(), Some(Fault::Full));
    assert_eq!(error.to_string(), Fault::Full.sentence());
    assert_eq!(store.read(|c| settings::get(c, "currency")).unwrap(), None);
}

#[test]
fn what_another_program_holds_is_not_waited_for_without_end() {
    let (_folder, path) = filled();
    let store = Store::open(&path).unwrap();
    let other = Connection::open(&path).unwrap();
    other.execute_batch("BEGIN IMMEDIATE").unwrap();
    let began = std::time::Instant::now();
    let held: Result<(), Error> = store.write(|c| settings::set(c, "units", "metric"));
    assert_eq!(held.unwrap_err().fault(), Some(Fault::Busy));
    assert!(began.elapsed().as_secs() < 20);
    assert_eq!(entries(&store), 2_400);
}

#[test]
fn what_is_wrong_is_named_mended_or_set_aside_and_put_back() {
    let (_folder, path) = filled();
    let store = Store::open(&path).unwrap();
    assert_eq!(store.read(check::all).unwrap(), []);
    let spoil = Connection::open(&path).unwrap();
    spoil
        .execute_batch(
            "PRAGMA foreign_keys = OFF;
             UPDATE events SET kind = 'mermaid' WHERE id = 7;
             UPDATE events SET outing_id = 900 WHERE id = 8;
             INSERT INTO photographs VALUES (8, 'image/png', x'89504e47');
             INSERT INTO water_fish VALUES (77, 0, 'walleye');
             UPDATE outings SET sky = 'plaid' WHERE id = 3;",
        )
        .unwrap();
    let found = store.read(check::all).unwrap();
    let mends: Vec<Mend> = found.iter().map(Wrong::mend).collect();
    assert_eq!(mends, [Mend::SetAside; 4]);
    let words = format!("{found:?}");
    for said in [
        "kind is \\\"mermaid\\\"",
        "sky is \\\"plaid\\\"",
        "parent: \"outings\"",
        "parent: \"waters\"",
    ] {
        assert!(words.contains(said), "{words}");
    }
    let (mended, _) = check::mend(&store, now()).unwrap();
    // The outing is named by its entries: it stays, left out of lists, and goes on being told.
    assert_eq!((mended.aside, mended.cleared, mended.left), (4, 0, 1));
    assert_eq!(entries(&store), 2_398);
    let aside = store.read(check::aside).unwrap();
    assert_eq!(aside.len(), 4);
    let entry = aside
        .iter()
        .find(|one| one.record.contains("mermaid"))
        .unwrap();
    store.write(|c| check::put_back(c, entry.id)).unwrap();
    let lost = aside.iter().find(|one| one.record.contains("900")).unwrap();
    let still = store.write(|c| check::put_back(c, lost.id)).unwrap_err();
    assert!(
        still
            .to_string()
            .contains("what it names is still not there"),
        "{still}"
    );
    assert_eq!(entries(&store), 2_399);
    assert_eq!(store.read(check::aside).unwrap().len(), 3);
    assert_eq!(store.copies().all()[0].why, Why::Mend);
}

#[test]
fn an_index_that_does_not_agree_is_made_anew() {
    let (_folder, path) = filled();
    let root: i64 = Connection::open(&path)
        .unwrap()
        .query_row(
            "SELECT rootpage FROM sqlite_schema WHERE name = 'outings_by_start'",
            [],
            |row| row.get(0),
        )
        .unwrap();
    // A leaf page of an index with no entries.
    damage(
        &path,
        (root as usize - 1) * 4096,
        &[10, 0, 0, 0, 0, 16, 0, 0],
    );
    let store = Store::open(&path).unwrap();
    let found = store.read(check::all).unwrap();
    assert!(
        found.iter().all(|wrong| wrong.mend() == Mend::Reindex) && !found.is_empty(),
        "{found:?}"
    );
    let (mended, _) = check::mend(&store, now()).unwrap();
    assert!(mended.indices);
    assert_eq!(store.read(check::all).unwrap(), []);
}

#[test]
fn what_was_thrown_away_long_ago_goes_when_nothing_names_it() {
    let (_folder, path) = filled();
    let store = Store::open(&path).unwrap();
    let day = |days: i64| now() - SignedDuration::from_hours(24 * days);
    let thrown = store.write(|c| {
        let of = |key: &str, id: i64| trash::Record::of(key, id).unwrap();
        trash::throw(c, of("outings", 1), day(40))?;
        trash::throw(c, of("outings", 2), day(20))?;
        trash::throw(c, of("events", 200), day(40))?;
        // Outings that stay name it.
        trash::throw(c, of("waters", 1), day(40))?;
        c.execute_batch(
            "INSERT INTO photographs VALUES (1, 'image/png', zeroblob(400000));
             INSERT INTO line_setups (id, name, start, main_material, main_test_lb, main_diameter_m, leader_material,
                 leader_test_lb, leader_diameter_m, lead_m, strum, reel_m)
                 VALUES (1, 'Rod', 'board', 'nylon', 10, 0.00028, 'nylon', 12, 0.00033, 1.5, 1.3, 90);
             INSERT INTO parts (id, part, style, material, colour) VALUES (1, 'mount', 'leader', 'nylon', 'CL');
             INSERT INTO rigs (id, name, setup_id, version) VALUES (4, 'Two-hook', 1, 59);
             WITH RECURSIVE n (n) AS (SELECT 0 UNION ALL SELECT n + 1 FROM n WHERE n < 59)
             INSERT INTO rig_versions (rig_id, version, comes_from, kind, mount_part_id, finished_m, clearance_m, hook_spacing_m,
                 loop_diameter_m, wraps, tail_m, snell_wraps, front_knot, spacing)
                 SELECT 4, n, iif(n = 0, NULL, n - 1), 'crawler_harness', 1, 0.9, 0.01, 0.1, 0.01, 3, 0.02, 8, 'loop', 'even' FROM n;
             INSERT INTO passes (outing_id, rig_id, rig_version, from_utc_s) VALUES (5, 4, 11, 1780000000);",
        )?;
        Ok::<_, Error>(())
    });
    thrown.unwrap();
    store.fold().unwrap();
    let preview = tidy::preview(&store, now()).unwrap();
    assert_eq!(entries(&store), 2_400, "only looked at");
    let (tidied, _) = tidy::tidy(&store, now()).unwrap();
    assert_eq!((tidied.records, tidied.named), (2, 1));
    // Of sixty versions the one that stands, twenty before it and the one that was fished stay.
    assert_eq!(tidied.versions, 60 - 22);
    assert_eq!(
        (preview.records, preview.named, preview.versions),
        (2, 1, 38)
    );
    assert!(tidied.before - tidied.after > 400_000, "{tidied:?}");
    assert!(
        preview.after.abs_diff(tidied.after) <= 8_192,
        "{preview:?} {tidied:?}"
    );
    assert_eq!(entries(&store), 2_400 - 40 - 1);
    let found = store.read(check::all).unwrap();
    assert!(
        found.iter().all(|wrong| matches!(wrong, Wrong::Unread(_))),
        "{found:?}"
    );
    // Nothing is left to clear out; and all of it lies in the copy.
    assert_eq!(tidy::tidy(&store, now()).unwrap().0.records, 0);
    let copies = store.copies().all();
    let copy = copies.iter().rfind(|copy| copy.why == Why::Tidy).unwrap();
    assert_eq!(
        count(&Connection::open(&copy.path).unwrap(), "events"),
        2_400
    );
}
