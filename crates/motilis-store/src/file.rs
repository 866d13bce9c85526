use crate::copies::{Copies, Why};
use crate::lock::Lock;
use crate::rescue::Salvage;
use crate::{Error, Fault, trace};
use jiff::Timestamp;
use r2d2::{Pool, PooledConnection};
use r2d2_sqlite::SqliteConnectionManager;
use rusqlite::{Connection, OpenFlags, TransactionBehavior};
use rusqlite_migration::{M, Migrations};
use std::collections::BTreeSet;
use std::fs::OpenOptions;
use std::io::ErrorKind;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use tempfile::TempDir;

/// Steps from an empty file to the newest one; a step that has landed is never edited.
pub(crate) const STEPS: &[M<'static>] = &[
    M::up(include_str!("../migrations/0001-create-boat-book.sql")),
    M::up(include_str!("../migrations/0002-create-settings.sql")),
    M::up(include_str!("../migrations/0003-create-box-and-bench.sql")),
    M::up(include_str!("../migrations/0004-add-light-and-rules.sql")),
    M::up(include_str!("../migrations/0005-add-spreads.sql")).foreign_key_check(),
    M::up(include_str!("../migrations/0006-add-acts.sql")).foreign_key_check(),
    M::up(include_str!("../migrations/0007-set-strum-anew.sql")),
    M::up(include_str!(
        "../migrations/0008-set-attractor-materials.sql"
    )),
    M::up(include_str!(
        "../migrations/0009-add-rivers-and-readings.sql"
    )),
    M::up(include_str!("../migrations/0010-add-release-holes.sql")),
    M::up(include_str!(
        "../migrations/0011-add-carried-conditions.sql"
    )),
    M::up(include_str!("../migrations/0012-add-rods-and-passes.sql")).foreign_key_check(),
    M::up(include_str!(
        "../migrations/0013-add-tracks-spots-experiments.sql"
    )),
    M::up(include_str!("../migrations/0014-add-runs-and-casts.sql")),
    M::up(include_str!(
        "../migrations/0015-add-boat-marks-and-bottom.sql"
    )),
    M::up(include_str!(
        "../migrations/0016-add-set-aside-and-indices.sql"
    )),
];
/// How many read at once.
pub const READERS: u32 = 4;
/// How long somebody waits for another who writes.
const PATIENCE: Duration = Duration::from_secs(5);
/// A page asks some thirty different questions; each is read by `SQLite` once.
const STATEMENTS: usize = 128;
const MIGRATIONS: Migrations<'static> = Migrations::from_slice(STEPS);

/// "Moti", so that other programs can tell whose file it is.
pub(crate) const APPLICATION_ID: i32 = 0x4d6f_7469;

/// The newest version of a data file that this program knows.
pub fn newest_version() -> usize {
    STEPS.len()
}

/// How a file can be used.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Standing {
    /// Read and written.
    Whole,
    /// Only read: it lies where nothing can be written.
    ReadOnly,
    /// What could be read of a damaged file, only read.
    Rescued(Salvage),
}

/// The open data file.
#[derive(Debug, Clone)]
pub struct Store {
    /// Who reads.
    pool: Pool<SqliteConnectionManager>,
    /// The one that writes: whoever else would write waits here, not behind those who read.
    writer: Pool<SqliteConnectionManager>,
    place: Arc<Place>,
}

/// Where the file is, and how it stands with it.
#[derive(Debug)]
struct Place {
    file: PathBuf,
    copies: Copies,
    standing: Standing,
    lock: Mutex<Option<Lock>>,
    /// Where a file is put together that cannot be used as it lies.
    _scratch: Option<TempDir>,
}

impl Store {
    /// Opens a data file, making it when it does not exist.
    ///
    /// An older file is first copied to the folder of its copies and then brought up to date.
    ///
    /// # Errors
    /// [`Error::Newer`] and [`Error::NotOurs`] leave the file as it was.
    pub fn open(path: &Path) -> Result<Self, Error> {
        Self::open_with(path, Copies::of(path, None), None)
    }

    pub(crate) fn open_with(
        path: &Path,
        copies: Copies,
        lock: Option<Lock>,
    ) -> Result<Self, Error> {
        make_private(path)?;
        let mut connection = Connection::open(path)?;
        let version = known_version(&connection, path)?;
        if version > 0 && version < STEPS.len() {
            let why = Why::Migration(STEPS.len());
            copies.keep(&connection, Timestamp::now(), why)?;
        }
        migrate(&mut connection, STEPS.len())?;
        drop(connection);
        let manager = || {
            SqliteConnectionManager::file(path).with_init(|connection| {
                prepare(connection)?;
                trace::watch(connection)
            })
        };
        Ok(Self {
            pool: pool(manager(), READERS)?,
            writer: pool(manager(), 1)?,
            place: Arc::new(Place {
                file: path.into(),
                copies,
                standing: Standing::Whole,
                lock: Mutex::new(lock),
                _scratch: None,
            }),
        })
    }

    /// Opens a file that nothing is written to.
    pub(crate) fn open_to_read(
        (path, of): (&Path, &Path),
        copies: Copies,
        standing: Standing,
        scratch: Option<TempDir>,
    ) -> Result<Self, Error> {
        let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_URI;
        let manager = SqliteConnectionManager::file(immutable(path))
            .with_flags(flags)
            .with_init(|connection| {
                connection.pragma_update(None, "query_only", "ON")?;
                connection.set_prepared_statement_cache_capacity(STATEMENTS);
                Ok(())
            });
        let pool = pool(manager, READERS)?;
        Ok(Self {
            writer: pool.clone(),
            pool,
            place: Arc::new(Place {
                file: of.into(),
                copies,
                standing,
                lock: Mutex::new(None),
                _scratch: scratch,
            }),
        })
    }

    /// The file.
    pub fn path(&self) -> &Path {
        &self.place.file
    }

    /// How it can be used.
    pub fn standing(&self) -> &Standing {
        &self.place.standing
    }

    /// Its copies.
    pub fn copies(&self) -> &Copies {
        &self.place.copies
    }

    /// Writes down for others who serves it, and where.
    pub fn served_by(&self, who: &str) {
        let mut lock = self
            .place
            .lock
            .lock()
            .unwrap_or_else(PoisonError::into_inner);
        if let Some(lock) = lock.as_mut() {
            lock.say(who);
        }
    }

    /// Reads, all of it as the file is at one moment.
    ///
    /// # Errors
    /// What `read` returns, or [`Error::Busy`].
    pub fn read<T, E: From<Error>>(
        &self,
        read: impl FnOnce(&Connection) -> Result<T, E>,
    ) -> Result<T, E> {
        let mut connection = self.connection()?;
        // One transaction: every query of a question sees the same moment.
        let moment = connection.transaction().map_err(Error::from)?;
        read(&moment)
    }

    /// Writes: all of it, on disk when this returns, or nothing.
    ///
    /// # Errors
    /// What `write` returns, after which nothing is changed; [`Error::ReadOnly`], or [`Error::Busy`].
    pub fn write<T, E: From<Error>>(
        &self,
        write: impl FnOnce(&Connection) -> Result<T, E>,
    ) -> Result<T, E> {
        self.writable()?;
        let mut connection = self.writer.get().map_err(Error::from)?;
        // Taking the write lock at once keeps two writers from deadlocking half way.
        let transaction = connection
            .transaction_with_behavior(TransactionBehavior::Immediate)
            .map_err(Error::from)?;
        let value = write(&transaction)?;
        transaction.commit().map_err(Error::from)?;
        Ok(value)
    }

    /// Whether it can be written.
    pub(crate) fn writable(&self) -> Result<(), Error> {
        let why = match self.place.standing {
            Standing::Whole => return Ok(()),
            Standing::ReadOnly => "copy it to a disk that can be written, and open it there",
            Standing::Rescued(_) => {
                "take a copy back, or the rescued file, with `motilis restore`, and go on there"
            }
        };
        Err(Error::ReadOnly {
            path: self.place.file.clone(),
            why,
        })
    }

    /// Folds what the write-ahead log holds into the file, so that a copy of that one file has it; while somebody reads an older
    /// moment, as much as can be. Whether all of it is in the one file now.
    ///
    /// # Errors
    /// [`Error::Sqlite`], [`Error::Busy`].
    pub fn fold(&self) -> Result<bool, Error> {
        if self.place.standing != Standing::Whole || !self.is_unfolded() {
            return Ok(true);
        }
        let connection = self.connection()?;
        // Waiting for readers would hold up those who write.
        connection.busy_timeout(Duration::ZERO)?;
        let folded = connection.query_row("PRAGMA wal_checkpoint(TRUNCATE)", [], |row| row.get(0));
        connection.busy_timeout(PATIENCE)?;
        let busy: i64 = folded?;
        Ok(busy == 0)
    }

    /// Folds everything in and lets go of the lock: the program ends. Whoever still reads has a second.
    ///
    /// # Errors
    /// As [`Store::fold`]; the lock goes all the same.
    pub fn let_go(&self) -> Result<(), Error> {
        let mut folded = Ok(false);
        for _ in 0..20 {
            folded = self.fold();
            if matches!(folded, Ok(true)) {
                break;
            }
            std::thread::sleep(Duration::from_millis(50));
        }
        self.place
            .lock
            .lock()
            .unwrap_or_else(PoisonError::into_inner)
            .take();
        folded.map(drop)
    }

    /// Whether anything lies in the write-ahead log.
    fn is_unfolded(&self) -> bool {
        let log = beside(&self.place.file, "-wal");
        std::fs::metadata(log).is_ok_and(|meta| meta.len() > 0)
    }

    pub(crate) fn connection(&self) -> Result<PooledConnection<SqliteConnectionManager>, Error> {
        Ok(self.pool.get()?)
    }
}

fn pool(
    manager: SqliteConnectionManager,
    size: u32,
) -> Result<Pool<SqliteConnectionManager>, Error> {
    let built = Pool::builder()
        .max_size(size)
        .connection_timeout(PATIENCE + Duration::from_secs(1))
        .build(manager);
    Ok(built?)
}

/// A file that `SQLite` keeps beside the data file.
pub(crate) fn beside(path: &Path, end: &str) -> PathBuf {
    let mut name = path.as_os_str().to_owned();
    name.push(end);
    name.into()
}

/// The address under which a file is read that cannot change.
fn immutable(path: &Path) -> String {
    let text = path.to_string_lossy();
    let text = text
        .replace('%', "%25")
        .replace('?', "%3f")
        .replace('#', "%23");
    format!("file:{text}?immutable=1")
}

/// A file that is only just made is nobody else's to read.
fn make_private(path: &Path) -> Result<(), Error> {
    let mut open = OpenOptions::new();
    open.write(true).create_new(true);
    crate::lock::private(&mut open);
    match open.open(path) {
        Ok(_) => Ok(()),
        Err(error) if error.kind() == ErrorKind::AlreadyExists => Ok(()),
        Err(source) => Err(Error::Folder {
            path: path.into(),
            source,
        }),
    }
}

/// Brings a file up to a version.
pub(crate) fn migrate(connection: &mut Connection, version: usize) -> Result<(), Error> {
    prepare(connection)?;
    connection.pragma_update(None, "application_id", APPLICATION_ID)?;
    // A step may put a new table in an old one's place; the references are checked at its end.
    connection.pragma_update(None, "foreign_keys", "OFF")?;
    Ok(MIGRATIONS.to_version(connection, version)?)
}

pub(crate) fn prepare(connection: &mut Connection) -> rusqlite::Result<()> {
    connection.busy_timeout(PATIENCE)?;
    connection.pragma_update(None, "journal_mode", "WAL")?;
    connection.pragma_update(None, "synchronous", "FULL")?;
    connection.pragma_update(None, "foreign_keys", "ON")?;
    connection.set_prepared_statement_cache_capacity(STATEMENTS);
    Ok(())
}

/// The version of the file, 0 when it is new; a newer one is refused.
pub(crate) fn known_version(connection: &Connection, path: &Path) -> Result<usize, Error> {
    let version = check_ours(connection, path)?;
    if version > STEPS.len() {
        return Err(Error::Newer {
            path: path.into(),
            found: version,
            known: STEPS.len(),
        });
    }
    Ok(version)
}

fn check_ours(connection: &Connection, path: &Path) -> Result<usize, Error> {
    let not_ours = |error: rusqlite::Error| match Fault::of(&error) {
        None | Some(Fault::Damaged) => Error::NotOurs { path: path.into() },
        Some(_) => error.into(),
    };
    let read = |name: &str| connection.pragma_query_value(None, name, |row| row.get::<_, i32>(0));
    let application = read("application_id").map_err(not_ours)?;
    let version = read("user_version").map_err(not_ours)?;
    let tables: i64 = connection
        .query_row("SELECT count(*) FROM sqlite_schema", [], |row| row.get(0))
        .map_err(|error| match Fault::of(&error) {
            Some(Fault::Damaged) if application == APPLICATION_ID => Error::Damaged {
                path: path.into(),
                what: "it does not say any more what lies where".to_owned(),
            },
            _ => not_ours(error),
        })?;
    let is_new = application == 0 && tables == 0;
    match usize::try_from(version) {
        Ok(version) if is_new || application == APPLICATION_ID => Ok(version),
        _ => Err(Error::NotOurs { path: path.into() }),
    }
}

/// An empty file of a version: what any of it should have.
pub(crate) fn model(version: usize) -> Result<Connection, Error> {
    let mut empty = Connection::open_in_memory()?;
    MIGRATIONS.to_version(&mut empty, version)?;
    Ok(empty)
}

/// What a file of a version has, as `table`, `table.column` and `trigger NAME`.
pub(crate) fn expected(version: usize) -> Result<BTreeSet<String>, Error> {
    columns(&model(version)?)
}

/// What a file does by itself: its triggers and views with their text.
pub(crate) fn acting(connection: &Connection) -> Result<BTreeSet<(String, String)>, Error> {
    let mut statement = connection.prepare(
        "SELECT type || ' ' || name, coalesce(sql, '') FROM sqlite_schema WHERE type IN ('trigger', 'view')",
    )?;
    let rows = statement.query_map([], |row| Ok((row.get(0)?, row.get(1)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// What a file has, as `table`, `table.column` and `trigger NAME`.
pub(crate) fn columns(connection: &Connection) -> Result<BTreeSet<String>, Error> {
    let mut statement = connection.prepare(
        "SELECT s.name, c.name FROM sqlite_schema AS s, pragma_table_info(s.name) AS c
         WHERE s.type = 'table' AND s.name NOT LIKE 'sqlite_%'",
    )?;
    let mut all = BTreeSet::new();
    let mut rows = statement.query([])?;
    while let Some(row) = rows.next()? {
        let (table, column): (String, String) = (row.get(0)?, row.get(1)?);
        all.insert(format!("{table}.{column}"));
        all.insert(table);
    }
    all.extend(acting(connection)?.into_iter().map(|(name, _)| name));
    Ok(all)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::settings;
    use motilis_core::book::SetupId;
    use motilis_core::tackle::{ReleaseHole, Weight};

    fn folder() -> (tempfile::TempDir, PathBuf) {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("boat.db");
        (folder, path)
    }

    #[test]
    fn the_migrations_are_sound() {
        MIGRATIONS.validate().unwrap();
    }

    #[test]
    fn the_schema_is_what_we_think_it_is() {
        let (_folder, path) = folder();
        let store = Store::open(&path).unwrap();
        let schema: Vec<String> = store
            .read(|connection| {
                let mut statement = connection
                    .prepare("SELECT sql FROM sqlite_schema WHERE sql IS NOT NULL ORDER BY name")?;
                let rows = statement.query_map([], |row| row.get(0))?;
                Ok::<_, Error>(rows.collect::<Result<_, _>>()?)
            })
            .unwrap();
        insta::assert_snapshot!(schema.join(";\n\n"));
    }

    #[test]
    fn a_newer_file_is_refused_with_a_sentence_and_left_alone() {
        let (_folder, path) = folder();
        Store::open(&path).unwrap();
        let connection = Connection::open(&path).unwrap();
        connection.pragma_update(None, "user_version", 99).unwrap();
        drop(connection);
        let refusal = Store::open(&path).unwrap_err().to_string();
        assert!(refusal.contains("written by a newer Motilis"), "{refusal}");
        let version: i32 = Connection::open(&path)
            .unwrap()
            .pragma_query_value(None, "user_version", |row| row.get(0))
            .unwrap();
        assert_eq!(version, 99);
    }

    #[test]
    fn an_older_file_is_copied_and_brought_up_to_date() {
        let (_folder, path) = folder();
        let mut old = Connection::open(&path).unwrap();
        old.pragma_update(None, "application_id", APPLICATION_ID)
            .unwrap();
        MIGRATIONS.to_version(&mut old, 1).unwrap();
        old.execute(
            "INSERT INTO waters VALUES (7, 'Lake Tamarin', 50.42, -95.61, 'America/Winnipeg', 0, 2.1, NULL)",
            [],
        )
        .unwrap();
        drop(old);

        let store = Store::open(&path).unwrap();
        let water = store
            .read(|c| crate::waters::get(c, motilis_core::book::WaterId(7)))
            .unwrap();
        assert_eq!(water.name, "Lake Tamarin");
        store
            .write(|c| settings::set(c, "units", "metric"))
            .unwrap();

        let copies = store.copies().all();
        assert_eq!(
            (copies.len(), &copies[0].why),
            (1, &Why::Migration(STEPS.len()))
        );
        let copy = Connection::open(&copies[0].path).unwrap();
        let version: i32 = copy
            .pragma_query_value(None, "user_version", |row| row.get(0))
            .unwrap();
        assert_eq!(version, 1);
        let name: String = copy
            .query_row("SELECT name FROM waters", [], |row| row.get(0))
            .unwrap();
        assert_eq!(name, "Lake Tamarin");
    }

    /// Before the light model the sky said when it was twilight, and no water had a stain.
    #[test]
    fn outings_of_before_the_light_come_over() {
        let (_folder, path) = folder();
        let mut old = Connection::open(&path).unwrap();
        old.pragma_update(None, "application_id", APPLICATION_ID)
            .unwrap();
        MIGRATIONS.to_version(&mut old, 3).unwrap();
        old.execute_batch(
            "INSERT INTO waters VALUES (1, 'Orrin Sound', 49.31, -124.02, 'America/Vancouver', 1, 45.0, NULL);
             INSERT INTO outings VALUES (1, 1, 1780567920, 0.9, 12.0, 0.2, 'twilight', 'landlocked_salmon',
                 3.0, 6.0, 20.0, 'shy', 5.0, NULL);",
        )
        .unwrap();
        drop(old);

        let store = Store::open(&path).unwrap();
        let (outing, water) = store
            .read(|c| {
                let outing = crate::outings::get(c, motilis_core::book::OutingId(1))?;
                let water = crate::waters::get(c, outing.water)?;
                Ok::<_, Error>((outing, water))
            })
            .unwrap();
        assert_eq!(outing.sky, motilis_core::advice::Sky::Broken);
        assert_eq!(outing.fish, motilis_core::fish::Fish::LandlockedSockeye);
        // Clarity lies where its stain can have it, so that the light can be computed.
        outing.check().unwrap();
        water.check().unwrap();
        outing.day(&water).unwrap().optics().unwrap();
    }

    /// One line that ran becomes the first rod; its hours stay, and what nobody kept stays unknown.
    #[test]
    fn a_line_that_ran_becomes_the_first_rod() {
        let (_folder, path) = folder();
        let mut old = Connection::open(&path).unwrap();
        old.pragma_update(None, "application_id", APPLICATION_ID)
            .unwrap();
        MIGRATIONS.to_version(&mut old, 11).unwrap();
        old.execute_batch(
            "INSERT INTO waters (id, name, latitude_deg, longitude_deg, zone, salt, clarity_m, stain, river)
                 VALUES (1, 'Lake Tamarin', 50.42, -95.61, 'America/Winnipeg', 0, 2.1, 'tea', 0);
             INSERT INTO line_setups (id, name, start, main_material, main_test_lb, main_diameter_m, leader_material,
                 leader_test_lb, leader_diameter_m, lead_m, strum, reel_m)
                 VALUES (1, 'Rod', 'board', 'nylon', 10, 0.00028, 'nylon', 12, 0.00033, 1.5, 1.3, 90);
             INSERT INTO rigs (id, name, setup_id, version) VALUES (4, 'Two-hook', 1, 0);
             INSERT INTO outings (id, water_id, started_utc_s, speed_mps, temperature_c, clarity_m, sky, fish,
                 fish_from_m, fish_to_m, bottom_m, mood, wanted_depth_m)
                 VALUES (1, 1, 1780567920, 0.9, 12.0, 2.1, 'cloud', 'walleye', 3.0, 6.0, 20.0, 'shy', 5.0);
             INSERT INTO running_lines VALUES (1, 4, 1, 'nylon', 10, 0.00028, NULL, 1.5, 20.0);
             INSERT INTO passes (outing_id, rig_id, from_utc_s, to_utc_s) VALUES
                 (1, 4, 1780567920, 1780569000), (1, 4, 1780570000, NULL);
             INSERT INTO events (outing_id, kind, at_utc_s, entered_utc_s, rig_id, out_m, depth_m, speed_mps, note)
                 VALUES (1, 'fish', 1780568000, 1780568000, 4, 20.0, 5.0, 0.9, 'a good one');",
        )
        .unwrap();
        drop(old);
        let store = Store::open(&path).unwrap();
        let day = motilis_core::book::OutingId(1);
        let (rods, passes, events) = store
            .read(|c| {
                let rods = crate::rods::of_outing(c, day)?;
                let passes = crate::passes::of_outing(c, day)?;
                Ok::<_, Error>((rods, passes, crate::events::of_outing(c, day)?))
            })
            .unwrap();
        assert_eq!((rods.len(), rods[0].number), (1, 1));
        assert!((rods[0].rod.out.0 - 20.0).abs() < 1e-9);
        let of: Vec<_> = passes
            .iter()
            .map(|(_, pass)| (pass.rod, pass.is_open()))
            .collect();
        assert_eq!(of, [(None, false), (Some(1), true)]);
        assert_eq!(passes[0].1.ran, motilis_core::evidence::Ran::default());
        assert_eq!(
            (events[0].1.rod, events[0].1.note.as_str()),
            (None, "a good one")
        );
    }

    /// A rig of the first slice, with a part of each kind: it comes over with the same physics.
    #[test]
    fn rigs_of_the_first_slice_come_over() {
        let (_folder, path) = folder();
        let mut old = Connection::open(&path).unwrap();
        old.pragma_update(None, "application_id", APPLICATION_ID)
            .unwrap();
        MIGRATIONS.to_version(&mut old, 2).unwrap();
        old.execute_batch(
            "INSERT INTO line_setups VALUES (1, 'Rod', 'board', NULL, NULL, NULL, 'nylon', 10, 0.00028,
                 NULL, NULL, NULL, NULL, 'nylon', 12, 0.00033, 1.5, 1.2, 90, NULL);
             INSERT INTO rigs VALUES (4, 'Two-hook', 'crawler_harness', 'leader', 0.00039, NULL, 1, NULL);
             INSERT INTO rigs VALUES (5, 'Wire', 'tail_weighted', 'wire', 0.000762, 3e-5, 1, NULL);
             INSERT INTO rig_parts VALUES
                 (4, 0, 'swivel', 'barrel', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL),
                 (4, 1, 'blade', 'colorado', 'BR', 1, NULL, NULL, 0.0255, 0.02, 0.00047, NULL, 8500, NULL, NULL),
                 (4, 2, 'beads', 'plastic', 'CH', NULL, 5, NULL, NULL, NULL, NULL, 0.006, NULL, NULL, NULL),
                 (4, 3, 'hook', 'octopus', NULL, NULL, NULL, 2, NULL, NULL, NULL, NULL, NULL, NULL, NULL),
                 (4, 4, 'hook', 'octopus', NULL, NULL, NULL, 2, NULL, NULL, NULL, NULL, NULL, NULL, NULL),
                 (4, 5, 'bait', 'crawler', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL),
                 (5, 0, 'blade', 'soft_wing', 'PK', 0, NULL, NULL, 0.0381, 0.0171, 0.00035, NULL, 1390, NULL, 0.4),
                 (5, 1, 'beads', 'metal', 'NI', NULL, 1, NULL, NULL, NULL, NULL, 0.004, NULL, NULL, NULL),
                 (5, 2, 'body', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 0.007, NULL, 0.004, NULL),
                 (5, 3, 'dressing', 'silicone_skirt', 'PU', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL),
                 (5, 4, 'hook', 'treble', NULL, NULL, NULL, 4, NULL, NULL, NULL, NULL, NULL, NULL, NULL);",
        )
        .unwrap();
        drop(old);

        let store = Store::open(&path).unwrap();
        let rigs = store.read(crate::rigs::all).unwrap();
        let names: Vec<_> = rigs
            .iter()
            .map(|(_, owned)| owned.rig.name.as_str())
            .collect();
        assert_eq!(names, ["Two-hook", "Wire"]);
        let words = |place: usize| -> Vec<String> {
            let pieces = &rigs[place].1.rig.stack().pieces;
            let word = |piece: &motilis_core::rig::Piece| {
                let part = &piece.part;
                format!(
                    "{} {} {}",
                    piece.count,
                    part.what().name(),
                    part.size_word()
                )
            };
            pieces.iter().map(word).collect()
        };
        assert_eq!(
            words(0),
            [
                "1 barrel swivel 14 mm",
                "1 Colorado 4",
                "5 bead 6 mm",
                "1 octopus 2",
                "1 octopus 2",
                "1 crawler 125 mm"
            ]
        );
        assert_eq!(
            words(1),
            [
                "1 soft wing 1.5 in",
                "1 bead 4 mm",
                "1 torpedo body 4 g",
                "1 silicone skirt 50 mm",
                "1 treble 4"
            ]
        );
        let wire = &rigs[1].1.rig;
        assert_eq!(wire.front_blade().unwrap().1, Some(0.4));
        assert_eq!(
            wire.observed_moment,
            Some(motilis_core::units::NewtonMetres(3e-5))
        );
        assert_eq!(wire.stack().mount.part().size_word(), "0.030 in");
        assert_eq!(rigs[0].1.rig.stack().mount.part().size_word(), "17 lb");
        let blade = rigs[0].1.rig.front_blade().unwrap().0;
        assert_eq!(
            (blade.length.0, blade.width.0, blade.thickness.0),
            (0.0255, 0.02, 0.00047)
        );
    }

    #[test]
    fn another_programs_file_is_refused() {
        let (_folder, path) = folder();
        std::fs::write(
            &path,
            "this is a diary, not a database, and long enough to look like a file",
        )
        .unwrap();
        assert!(matches!(Store::open(&path), Err(Error::NotOurs { .. })));
        let (_folder, path) = folder();
        Connection::open(&path)
            .unwrap()
            .execute("CREATE TABLE diary (day TEXT)", [])
            .unwrap();
        assert!(matches!(Store::open(&path), Err(Error::NotOurs { .. })));
    }

    #[test]
    fn what_fails_half_way_leaves_nothing_behind() {
        let (_folder, path) = folder();
        let store = Store::open(&path).unwrap();
        let failed: Result<(), Error> = store.write(|connection| {
            settings::set(connection, "units", "metric")?;
            Err(Error::Missing {
                what: "outing",
                id: 1,
            })
        });
        assert!(failed.is_err());
        assert_eq!(store.read(|c| settings::get(c, "units")).unwrap(), None);
    }

    /// A file as a version of before left it.
    fn as_of(path: &Path, version: usize) -> Connection {
        let mut old = Connection::open(path).unwrap();
        old.pragma_update(None, "application_id", APPLICATION_ID)
            .unwrap();
        MIGRATIONS.to_version(&mut old, version).unwrap();
        old
    }

    #[test]
    fn a_set_up_that_nobody_calibrated_takes_the_new_strumming_factor() {
        let (_folder, path) = folder();
        let old = as_of(&path, 6);
        let add = |strum: f64| {
            old.execute(
                "INSERT INTO line_setups (name, start, main_material, main_test_lb, main_diameter_m, weight, diver_size,
                     side_setting, leader_material, leader_test_lb, leader_diameter_m, lead_m, strum, reel_m)
                 VALUES ('Diver rod', 'board', 'nylon', 10, 0.00028, 'trip_diver', 'small', '1', 'nylon', 12, 0.00031, 1.5,
                     ?1, 90)",
                [strum],
            )
            .unwrap();
            SetupId(old.last_insert_rowid())
        };
        let (usual, own) = (add(1.2), add(1.47));
        drop(old);
        let store = Store::open(&path).unwrap();
        let setup = |id| store.read(|c| crate::setups::get(c, id)).unwrap();
        assert!((setup(usual).strum - 1.3).abs() < 1e-12);
        assert!((setup(own).strum - 1.47).abs() < 1e-12);
        let Some(Weight::TripDiver(_, _, hole)) = setup(usual).weight else {
            panic!("it is a trip diver");
        };
        assert_eq!(hole, ReleaseHole::Middle);
    }

    #[test]
    fn attractors_of_a_file_of_before_become_what_they_are_made_of() {
        let (_folder, path) = folder();
        let old = as_of(&path, 7);
        for (style, material) in [
            ("dodger", "brass"),
            ("rotating_flasher", "brass"),
            ("dodger", "lead"),
        ] {
            old.execute(
                "INSERT INTO parts (part, style, size, material, colour) VALUES ('attractor', ?1, 6, ?2, 'NI')",
                (style, material),
            )
            .unwrap();
        }
        drop(old);
        drop(Store::open(&path).unwrap());
        let new = Connection::open(&path).unwrap();
        let mut rows = new
            .prepare("SELECT material FROM parts WHERE part = 'attractor' ORDER BY id")
            .unwrap();
        let made: Vec<String> = rows
            .query_map([], |row| row.get(0))
            .unwrap()
            .map(Result::unwrap)
            .collect();
        // One that somebody said was of lead stays so.
        assert_eq!(made, ["steel", "light_plastic", "lead"]);
    }
}
