//! What can still be read of a damaged file, put together in a new one.

use crate::copies::Copies;
use crate::file::{STEPS, Standing, Store, migrate};
use crate::opening::raw_copy;
use crate::{Error, check};
use jiff::Timestamp;
use rusqlite::types::Value;
use rusqlite::{Connection, params_from_iter};
use std::fs::{self, OpenOptions};
use std::io::{Read, Seek, SeekFrom, Write};
use std::path::Path;

/// What came of a rescue.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Salvage {
    /// Rows that could be read.
    pub rows: usize,
    /// Tables of which something could not be read, with how many rows were.
    pub torn: Vec<(String, usize)>,
    /// The file they are in now.
    pub file: std::path::PathBuf,
}

/// How often in a table it is begun anew behind a place that cannot be read.
const BEGINNINGS: i64 = 64;

/// Puts together what can be read and opens it for reading; it stays beside the damaged file, as `NAME.rescued.db`, where something
/// can be written there.
pub(crate) fn open(path: &Path, copies: Copies) -> Result<Store, Error> {
    let (folder, copy) = raw_copy(path)?;
    let rescued = folder.path().join("rescued.db");
    let mut salvage = salvage(&copy, &rescued)?;
    if salvage.rows == 0 {
        return Err(Error::Damaged {
            path: path.into(),
            what: "nothing of it can be read".to_owned(),
        });
    }
    let kept = path.with_extension("rescued.db");
    if fs::copy(&rescued, &kept).is_ok() {
        salvage.file = kept;
    }
    Store::open_to_read(
        (&rescued, path),
        copies,
        Standing::Rescued(salvage),
        Some(folder),
    )
}

/// Reads every row that can be read into a new file.
pub(crate) fn salvage(damaged: &Path, into: &Path) -> Result<Salvage, Error> {
    let mut rescued = Connection::open(into)?;
    empty_torn_schema(damaged).map_err(|error| Error::Copy {
        path: damaged.into(),
        why: crate::copies::io_words(&error),
    })?;
    let source = Connection::open(damaged)?;
    // What of the schema can be read counts as the schema.
    source.pragma_update(None, "writable_schema", "ON")?;
    let version = source
        .pragma_query_value(None, "user_version", |row| row.get::<_, i64>(0))
        .ok()
        .and_then(|version| usize::try_from(version).ok())
        .filter(|version| (1..=STEPS.len()).contains(version));
    migrate(&mut rescued, version.unwrap_or(STEPS.len()))?;
    rescued.pragma_update(None, "foreign_keys", "OFF")?;
    // A page that does not fit is left out, and not the whole answer.
    let _ = source.pragma_update(None, "cell_size_check", "ON");
    let mut salvage = Salvage::default();
    let names: Vec<String> = rescued
        .prepare(
            "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'",
        )?
        .query_map([], |row| row.get(0))?
        .collect::<Result<_, _>>()?;
    let transaction = rescued.transaction()?;
    for name in names {
        transaction.execute(&format!("DELETE FROM {name}"), [])?;
        let whole = read_table(&source, &transaction, &name)?;
        let count = format!("SELECT count(*) FROM {name}");
        let rows = transaction.query_row(&count, [], |row| row.get::<_, i64>(0))?;
        let rows = usize::try_from(rows).unwrap_or(0);
        salvage.rows += rows;
        if !whole {
            salvage.torn.push((name, rows));
        }
    }
    transaction.commit()?;
    migrate(&mut rescued, STEPS.len())?;
    rescued.pragma_update(None, "foreign_keys", "OFF")?;
    check::tie_up(&rescued, Timestamp::now())?;
    rescued.pragma_update(None, "journal_mode", "DELETE")?;
    Ok(salvage)
}

/// Where a page of the schema is torn, nothing at all can be asked: in this program's own copy it is made an empty one, so that the
/// tables whose entries lie elsewhere are found ("File format", sqlite.org/fileformat.html, 1.6).
fn empty_torn_schema(copy: &Path) -> std::io::Result<()> {
    let mut file = OpenOptions::new().read(true).write(true).open(copy)?;
    let mut head = [0; 112];
    if file.read_exact(&mut head).is_err() || head[100] != INTERIOR {
        return Ok(());
    }
    let size = match u64::from(u16::from_be_bytes([head[16], head[17]])) {
        1 => 65_536,
        size => size,
    };
    let mut page = vec![0; usize::try_from(size).unwrap_or(0)];
    file.rewind()?;
    file.read_exact(&mut page)?;
    let number = |at: usize| {
        page.get(at..at + 4)
            .map(|four| u32::from_be_bytes([four[0], four[1], four[2], four[3]]))
    };
    let cells = usize::from(u16::from_be_bytes([page[103], page[104]]));
    let pointers = page[112..].chunks_exact(2).take(cells);
    let places = pointers.map(|two| usize::from(u16::from_be_bytes([two[0], two[1]])));
    let children: Vec<u32> = places.chain([108]).filter_map(number).collect();
    for child in children {
        let at = u64::from(child.saturating_sub(1)) * size;
        let mut kind = [0];
        file.seek(SeekFrom::Start(at))?;
        if file.read_exact(&mut kind).is_ok() && kind != [LEAF] && kind != [INTERIOR] {
            let [.., high, low] = u32::try_from(size).unwrap_or(0).to_be_bytes();
            file.seek(SeekFrom::Start(at))?;
            file.write_all(&[LEAF, 0, 0, 0, 0, high, low, 0])?;
        }
    }
    Ok(())
}

/// How pages of a table begin: those that lead to others, and those with rows.
const INTERIOR: u8 = 5;
const LEAF: u8 = 13;

/// Whether all of a table could be read: from its beginning, from its end, and from places between.
fn read_table(source: &Connection, into: &Connection, name: &str) -> Result<bool, Error> {
    let columns: Vec<(String, bool)> = into
        .prepare("SELECT name, pk FROM pragma_table_info(?1)")?
        .query_map([name], |row| Ok((row.get(0)?, row.get(1)?)))?
        .collect::<Result<_, _>>()?;
    let listed: Vec<&str> = columns.iter().map(|(name, _)| name.as_str()).collect();
    let listed = listed.join(", ");
    let keys: Vec<String> = columns
        .iter()
        .filter(|(_, key)| *key)
        .map(|(name, _)| format!("{name} DESC"))
        .collect();
    let forward = format!("SELECT {listed} FROM {name} NOT INDEXED");
    if copy_rows(source, into, (&forward, name), columns.len())? {
        return Ok(true);
    }
    let backward = format!(
        "SELECT {listed} FROM {name} NOT INDEXED ORDER BY {}",
        keys.join(", ")
    );
    copy_rows(source, into, (&backward, name), columns.len())?;
    if keys.len() == 1 {
        let key = keys[0].trim_end_matches(" DESC");
        let span = into.query_row(
            &format!("SELECT min({key}), max({key}) FROM {name}"),
            [],
            |row| Ok((row.get::<_, i64>(0)?, row.get::<_, i64>(1)?)),
        );
        if let Ok((first, last)) = span {
            for place in 1..BEGINNINGS {
                let from = first + (last - first) / BEGINNINGS * place;
                let between = format!("{forward} WHERE {key} >= {from}");
                copy_rows(source, into, (&between, name), columns.len())?;
            }
        }
    }
    Ok(false)
}

/// Copies what an answer has until it breaks off; whether it came to its end. A row that no file can hold is left out.
fn copy_rows(
    source: &Connection,
    into: &Connection,
    (query, name): (&str, &str),
    width: usize,
) -> Result<bool, Error> {
    let places = vec!["?"; width].join(", ");
    let mut insert =
        into.prepare_cached(&format!("INSERT OR IGNORE INTO {name} VALUES ({places})"))?;
    let Ok(mut statement) = source.prepare(query) else {
        return Ok(false);
    };
    let Ok(mut rows) = statement.query([]) else {
        return Ok(false);
    };
    let mut whole = true;
    loop {
        match rows.next() {
            Ok(None) => return Ok(whole),
            Err(_) => return Ok(false),
            Ok(Some(row)) => {
                let cells: rusqlite::Result<Vec<Value>> =
                    (0..width).map(|place| row.get(place)).collect();
                let kept = cells.and_then(|cells| insert.execute(params_from_iter(cells)));
                whole &= kept.is_ok();
            }
        }
    }
}
