//! A copy takes the place of the data file; what it replaces is kept.

use crate::copies::{Copies, Copy, Why, copy_to, sync_folder};
use crate::file::{self, STEPS, Store, beside};
use crate::lock::{Lock, Taken};
use crate::{Error, opening, settings};
use jiff::Timestamp;
use rusqlite::{Connection, MAIN_DB, OpenFlags};
use std::fs;
use std::path::{Path, PathBuf};

/// What was done.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Restored {
    /// The file that was replaced, where it lies now; none when there was none.
    pub replaced: Option<PathBuf>,
    /// Version of the data that came, before they were brought up to date.
    pub version: usize,
}

/// Puts a copy in the place of a file that nobody serves.
///
/// # Errors
/// What is wrong with the copy, or [`Error::Held`]; the file is as it was then.
pub fn restore(copy: &Path, data: &Path, copies: &Copies) -> Result<Restored, Error> {
    let lock = match Lock::take(data, "motilis restore")? {
        Taken::Ours(lock) => lock,
        Taken::Unwritable => {
            return Err(Error::ReadOnly {
                path: data.into(),
                why: "name a file on a disk that can be written with --data",
            });
        }
    };
    let (folder, prepared, version) = prepare(copy)?;
    copies.ready()?;
    let replaced = data
        .exists()
        .then(|| copies.free_name(Timestamp::now(), &Why::Restore));
    let failed = |path: &Path| {
        let path = path.to_owned();
        move |error: std::io::Error| Error::Copy {
            path,
            why: crate::copies::io_words(&error),
        }
    };
    let mut part = data.as_os_str().to_owned();
    part.push(".part");
    let part = PathBuf::from(part);
    copy_to(&Connection::open(&prepared)?, &part, true)?;
    if let Some(replaced) = &replaced {
        keep_as_it_is(data, replaced).map_err(failed(replaced))?;
    }
    for end in ["-wal", "-shm"] {
        // What is not there need not go; what stays would be read into the copy.
        match fs::remove_file(beside(data, end)) {
            Err(error) if error.kind() != std::io::ErrorKind::NotFound => {
                return Err(failed(data)(error));
            }
            _ => {}
        }
    }
    fs::rename(&part, data)
        .and_then(|()| sync_folder(data))
        .map_err(failed(data))?;
    drop((folder, lock));
    copies.thin();
    Ok(Restored { replaced, version })
}

impl Store {
    /// Puts a copy in the place of what this file holds, while it is served; the file as it is goes to its copies first.
    ///
    /// # Errors
    /// What is wrong with the copy; the file is as it was then.
    pub fn restore(&self, copy: &Path, now: Timestamp) -> Result<(Copy, Restored), Error> {
        self.writable()?;
        let (folder, prepared, version) = prepare(copy)?;
        let mut connection = self.connection()?;
        let kept = self.copies().keep(&connection, now, Why::Restore)?;
        connection.restore(MAIN_DB, &prepared, None::<fn(_)>)?;
        drop(folder);
        let replaced = Some(kept.path.clone());
        Ok((kept, Restored { replaced, version }))
    }
}

/// A copy of the copy, looked through, brought up to date, and marked as another book than the one it takes the place of.
fn prepare(copy: &Path) -> Result<(tempfile::TempDir, PathBuf, usize), Error> {
    let not_there = || Error::Closed {
        path: copy.into(),
        source: std::io::ErrorKind::NotFound.into(),
    };
    let header = opening::look(copy)?.ok_or_else(not_there)?;
    let (folder, path) = opening::raw_copy(copy)?;
    opening::sound(&path, copy, &header)?;
    let mut connection = Connection::open_with_flags(&path, OpenFlags::SQLITE_OPEN_READ_WRITE)?;
    let version = file::known_version(&connection, copy)?;
    if version == 0 {
        return Err(Error::NotOurs { path: copy.into() });
    }
    file::migrate(&mut connection, STEPS.len())?;
    settings::mark_book(&connection, Timestamp::now())?;
    Ok((folder, path, version))
}

/// Keeps a file with what lies in its log: a damaged one byte for byte.
fn keep_as_it_is(data: &Path, to: &Path) -> std::io::Result<()> {
    let folded =
        Connection::open(data).is_ok_and(|connection| copy_to(&connection, to, true).is_ok());
    if !folded {
        fs::copy(data, to)?;
        let log = beside(data, "-wal");
        if log.exists() {
            fs::copy(log, beside(to, "-wal"))?;
        }
    }
    Ok(())
}
