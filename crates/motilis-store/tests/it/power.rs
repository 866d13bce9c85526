//! Power lost at any moment: what was acknowledged is there, what was on its way is there whole or not at all.
//!
//! The model: what was on disk when the last write was acknowledged stays. Of everything written since, each sector of 512 bytes is on
//! the disk or is not, at random: in the log and, while a checkpoint runs, in the file. ("Atomic Commit In `SQLite`",
//! sqlite.org/atomiccommit.html, 2: sectors are written in any order; "Write-Ahead Logging", sqlite.org/wal.html.)

use motilis_store::{Connection, Error, Store};
use std::fs;
use std::path::{Path, PathBuf};

const SECTOR: usize = 512;

/// File and log as they are at a moment.
#[derive(Clone, Default)]
struct Moment {
    file: Vec<u8>,
    log: Vec<u8>,
}

fn log_of(path: &Path) -> PathBuf {
    PathBuf::from(format!("{}-wal", path.display()))
}

impl Moment {
    fn of(path: &Path) -> Self {
        Self {
            file: fs::read(path).unwrap(),
            log: fs::read(log_of(path)).unwrap_or_default(),
        }
    }

    /// This moment with only some of the sectors that were written until the later one.
    fn torn(&self, later: &Self, chance: &mut Chance) -> Self {
        Self {
            file: mixed(&self.file, &later.file, chance),
            log: mixed(&self.log, &later.log, chance),
        }
    }

    fn put(&self, folder: &Path) -> PathBuf {
        let path = folder.join("after.db");
        fs::write(&path, &self.file).unwrap();
        fs::write(log_of(&path), &self.log).unwrap();
        let _ = fs::remove_file(format!("{}-shm", path.display()));
        path
    }
}

/// Sectors of one or the other, and an end at some sector where the later one is longer.
fn mixed(before: &[u8], later: &[u8], chance: &mut Chance) -> Vec<u8> {
    let longest = before.len().max(later.len());
    let grown = later.len().saturating_sub(before.len()) / SECTOR;
    let length = if grown > 0 && chance.in_(2) == 0 {
        before.len() + SECTOR * chance.in_(grown + 1)
    } else {
        longest
    };
    let mut all = vec![0; length];
    for (place, sector) in all.chunks_mut(SECTOR).enumerate() {
        let from = place * SECTOR;
        let part = |of: &[u8], sector: &mut [u8]| {
            let of = of.get(from..).unwrap_or_default();
            let count = of.len().min(sector.len());
            sector[..count].copy_from_slice(&of[..count]);
        };
        // Of a sector that was never written nobody knows what is in it; one that is half full keeps its half ("Powersafe
        // Overwrite", sqlite.org/psow.html).
        part(before, sector);
        if chance.in_(2) == 0 {
            part(later, sector);
        }
    }
    all
}

/// The same in every run.
struct Chance(u64);

impl Chance {
    fn in_(&mut self, below: usize) -> usize {
        self.0 = self
            .0
            .wrapping_mul(6_364_136_223_846_793_005)
            .wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 33) as usize % below
    }
}

const WATER: &str =
    "INSERT INTO waters (id, name, latitude_deg, longitude_deg, zone, salt, clarity_m)
    VALUES (1, 'Lake Tamarin', 50.42, -95.61, 'America/Winnipeg', 0, 2.1)";
/// Rows of one act: they come all or not.
const ROWS: i64 = 12;

fn write(connection: &Connection, act: i64, mut between: impl FnMut()) -> Result<(), Error> {
    for row in 0..ROWS {
        let name = format!(
            "act {act} row {row} {}",
            "and what fills a page ".repeat(20)
        );
        connection.execute(
            "INSERT INTO spots (water_id, name, lat, lon, radius_m) VALUES (1, ?1, 50.4, -95.6, ?2)",
            (name, act),
        )?;
        between();
    }
    Ok(())
}

/// Opens what was left and counts rows by act.
fn after(moment: &Moment, folder: &Path) -> Vec<(i64, i64)> {
    let path = moment.put(folder);
    let connection = Connection::open(&path).unwrap();
    let whole: String = connection
        .query_row("PRAGMA integrity_check", [], |row| row.get(0))
        .unwrap();
    assert_eq!(whole, "ok");
    let mut statement = connection
        .prepare("SELECT CAST(radius_m AS INTEGER), count(*) FROM spots GROUP BY 1 ORDER BY 1")
        .unwrap();
    let rows = statement
        .query_map([], |row| Ok((row.get(0)?, row.get(1)?)))
        .unwrap();
    rows.map(Result::unwrap).collect()
}

/// Looks whether acts up to one are whole, and the next is whole or is not there.
fn nothing_is_lost(acts: &[(i64, i64)], acknowledged: i64) {
    for act in 1..=acknowledged {
        assert!(
            acts.contains(&(act, ROWS)),
            "act {act} of {acknowledged} is not there: {acts:?}"
        );
    }
    for (act, rows) in acts {
        assert!(
            *act <= acknowledged + 1 && *rows == ROWS,
            "act {act} is half there: {acts:?}"
        );
    }
}

/// Two hundred power cuts; `MOTILIS_CYCLES` for another number.
#[test]
fn nothing_acknowledged_is_lost_when_the_power_goes() {
    let cuts: usize = std::env::var("MOTILIS_CYCLES").map_or(200, |cuts| cuts.parse().unwrap());
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("boat.db");
    let store = Store::open(&path).unwrap();
    let made: Result<(), Error> = store.write(|c| Ok(c.execute_batch(WATER)?));
    made.unwrap();
    // What the model rests on: each commit waits until the log is on the disk.
    let synchronous = store.read(|c| {
        let full = c.query_row("PRAGMA synchronous", [], |row| row.get::<_, i64>(0));
        Ok::<_, Error>(full?)
    });
    assert_eq!(synchronous.unwrap(), 2, "FULL");
    store.fold().unwrap();
    let mut chance = Chance(27);
    let mut on_disk = Moment::of(&path);
    let (mut done, mut act) = (0, 0);
    while done < cuts {
        act += 1;
        // Power goes at a row of this act, or just before it is acknowledged.
        let at = chance.in_(ROWS as usize + 1);
        let mut row = 0;
        let mut cut = None;
        let written: Result<(), Error> = store.write(|c| {
            // So little room in memory that rows go to the log before the act is done; and no checkpoint but ours.
            c.execute_batch("PRAGMA cache_size = 4; PRAGMA wal_autocheckpoint = 0")?;
            write(c, act, || {
                row += 1;
                if row == at {
                    cut = Some(Moment::of(&path));
                }
            })
        });
        written.unwrap();
        let acknowledged = Moment::of(&path);
        let cut = cut.unwrap_or_else(|| acknowledged.clone());
        for _ in 0..2 {
            let left = on_disk.torn(&cut, &mut chance);
            nothing_is_lost(&after(&left, folder.path()), act - 1);
            done += 1;
        }
        nothing_is_lost(&after(&acknowledged, folder.path()), act);
        on_disk = acknowledged;
        if chance.in_(4) == 0 {
            // Power goes while the log is folded in: pages of the file are old or new, the log is whole.
            let folded: Result<(), Error> = store
                .read(|c| Ok(c.query_row("PRAGMA wal_checkpoint(PASSIVE)", [], |_| Ok(()))?));
            folded.unwrap();
            let folded = Moment::of(&path);
            let left = on_disk.torn(&folded, &mut chance);
            nothing_is_lost(&after(&left, folder.path()), act);
            done += 1;
            on_disk = folded;
        }
    }
    eprintln!("{done} power cuts over {act} acts, none lost");
}
