//! How a data file is opened to be served: looked at first, locked, and where it cannot be written or is damaged, only read.

use crate::copies::{Copies, copy_to};
use crate::file::{self, Standing, Store, beside, known_version};
use crate::lock::{Lock, Taken, is_unwritable};
use crate::{Error, Fault, rescue};
use rusqlite::{Connection, OpenFlags};
use std::fs::{self, File, OpenOptions};
use std::io::Read;
use std::path::{Path, PathBuf};

/// What shall be served, and how.
#[derive(Debug, Clone, Default)]
pub struct Opening {
    /// The folder of its copies; beside the file when not given.
    pub copies: Option<PathBuf>,
    /// Whether of a damaged file what can be read shall be served.
    pub rescue: bool,
    /// Who serves it: told to a second program.
    pub who: String,
}

impl Opening {
    /// Opens a file, making it when it does not exist.
    ///
    /// # Errors
    /// One for each way in which a file cannot be served; it is left as it was then.
    pub fn open(&self, path: &Path) -> Result<Store, Error> {
        let copies = Copies::of(path, self.copies.clone());
        let header = look(path)?;
        let lock = match Lock::take(path, &self.who)? {
            Taken::Ours(lock) => Some(lock),
            Taken::Unwritable if header.is_none() => {
                let source = std::io::ErrorKind::PermissionDenied.into();
                return Err(Error::Folder {
                    path: path.into(),
                    source,
                });
            }
            Taken::Unwritable => None,
        };
        let Some(header) = header else {
            return Store::open_with(path, copies, lock).map_err(|error| full(error, path));
        };
        if let Err(wrong) = sound(path, path, &header) {
            let is_torn =
                wrong.fault() == Some(Fault::Damaged) || matches!(wrong, Error::NotOurs { .. });
            return if self.rescue && is_torn {
                rescue::open(path, copies)
            } else {
                Err(wrong)
            };
        }
        if lock.is_none() || !is_writable(path) {
            return read_only(path, copies);
        }
        Store::open_with(path, copies, lock).map_err(|error| full(error, path))
    }
}

/// The beginning of a file.
pub(crate) struct Header {
    bytes: Vec<u8>,
}

impl Header {
    fn number(&self, at: usize, bytes: usize) -> u64 {
        let of = &self.bytes[at..at + bytes];
        of.iter().fold(0, |sum, byte| sum << 8 | u64::from(*byte))
    }

    /// The length that the file says it has, while that can be believed ("File format", sqlite.org/fileformat.html, 1.3.7).
    fn length(&self) -> Option<u64> {
        let size = match self.number(16, 2) {
            1 => 65_536,
            size => size,
        };
        let believed = self.number(24, 4) == self.number(92, 4);
        believed.then(|| size * self.number(28, 4))
    }
}

/// Looks whether there is a file that can be read; none when there is no file, or an empty one.
pub(crate) fn look(path: &Path) -> Result<Option<Header>, Error> {
    let closed = |source| Error::Closed {
        path: path.into(),
        source,
    };
    match fs::metadata(path) {
        Ok(meta) if meta.is_dir() => {
            return Err(closed(std::io::ErrorKind::IsADirectory.into()));
        }
        Ok(_) => {}
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => return Ok(None),
        Err(error) => return Err(closed(error)),
    }
    let mut bytes = Vec::new();
    let file = File::open(path).map_err(closed)?;
    file.take(100).read_to_end(&mut bytes).map_err(closed)?;
    if bytes.is_empty() {
        return Ok(None);
    }
    if bytes.len() < 100 && bytes.starts_with(&b"SQLite format 3\0"[..bytes.len().min(16)]) {
        let found = bytes.len() as u64;
        return Err(Error::Cut {
            path: path.into(),
            found,
            said: 4096.max(found),
        });
    }
    Ok(Some(Header { bytes }))
}

/// The quick look at each start, and at each copy that comes: whether the file is whole, ours, known, and has what its
/// version has and does nothing of its own; `said` is what it is called.
pub(crate) fn sound(path: &Path, said: &Path, header: &Header) -> Result<(), Error> {
    if !header.bytes.starts_with(b"SQLite format 3\0") {
        return Err(Error::NotOurs { path: said.into() });
    }
    let length = fs::metadata(path).map_or(0, |meta| meta.len());
    let log = fs::metadata(beside(path, "-wal")).map_or(0, |meta| meta.len());
    if let Some(whole) = header.length().filter(|whole| log == 0 && *whole > length) {
        return Err(Error::Cut {
            path: said.into(),
            found: length,
            said: whole,
        });
    }
    let (_copy, connection) = to_look(path)?;
    let version = known_version(&connection, said)?;
    let damaged = |what: String| Error::Damaged {
        path: said.into(),
        what,
    };
    let checked = connection.query_row("PRAGMA quick_check(1)", [], |row| row.get::<_, String>(0));
    match checked {
        Ok(whole) if whole == "ok" => {}
        Ok(what) => return Err(damaged(what.replace('\n', " "))),
        Err(error) if Fault::of(&error) == Some(Fault::Damaged) => {
            return Err(damaged(error.to_string()));
        }
        Err(error) => return Err(error.into()),
    }
    let model = file::model(version)?;
    let has = file::columns(&connection)?;
    if let Some(lacks) = file::columns(&model)?.difference(&has).next() {
        return Err(Error::Gap {
            path: said.into(),
            version,
            lacks: lacks.clone(),
        });
    }
    // What a trigger does is done with every entry that is written.
    let acts = file::acting(&connection)?;
    match acts.difference(&file::acting(&model)?).next() {
        None => Ok(()),
        Some((name, _)) => Err(damaged(format!(
            "its {name} is not as this program makes it"
        ))),
    }
}

/// A file that is only looked at, or a copy of it where it cannot be opened as it lies.
pub(crate) fn to_look(path: &Path) -> Result<(Option<tempfile::TempDir>, Connection), Error> {
    if is_writable(path) && is_writable_folder(path) {
        let connection = Connection::open_with_flags(path, OpenFlags::SQLITE_OPEN_READ_WRITE)?;
        return Ok((None, connection));
    }
    let (folder, copy) = raw_copy(path)?;
    Ok((Some(folder), Connection::open(copy)?))
}

/// The file with its log, byte for byte, in a folder of this program's own.
pub(crate) fn raw_copy(path: &Path) -> Result<(tempfile::TempDir, PathBuf), Error> {
    let failed = |source: std::io::Error| Error::Copy {
        path: std::env::temp_dir(),
        why: crate::copies::io_words(&source),
    };
    let folder = tempfile::Builder::new()
        .prefix("motilis-")
        .tempdir()
        .map_err(failed)?;
    let copy = folder.path().join("copy.db");
    fs::copy(path, &copy).map_err(failed)?;
    let log = beside(path, "-wal");
    if log.exists() {
        fs::copy(log, beside(&copy, "-wal")).map_err(failed)?;
    }
    writable(&copy);
    Ok((folder, copy))
}

/// A copy of a file that some program may be writing just now; byte for byte where the database cannot make one.
pub(crate) fn copy_to_check(path: &Path) -> Result<(tempfile::TempDir, PathBuf), Error> {
    let (folder, copy) = raw_copy(path)?;
    let online = folder.path().join("online.db");
    let made = to_look(path).and_then(|(_copy, connection)| copy_to(&connection, &online, false));
    Ok((folder, if made.is_ok() { online } else { copy }))
}

/// A copy keeps the rights of what it was copied from.
fn writable(copy: &Path) {
    for file in [copy.to_owned(), beside(copy, "-wal")] {
        if let Ok(meta) = fs::metadata(&file) {
            let mut rights = meta.permissions();
            #[cfg(unix)]
            std::os::unix::fs::PermissionsExt::set_mode(&mut rights, 0o600);
            #[cfg(not(unix))]
            rights.set_readonly(false);
            // Where that fails, the database says so at once.
            let _ = fs::set_permissions(&file, rights);
        }
    }
}

/// Serves a copy of a file where nothing can be written, brought up to this version, with what lies in its log.
fn read_only(path: &Path, copies: Copies) -> Result<Store, Error> {
    let (folder, copy) = raw_copy(path)?;
    let mut connection = Connection::open(&copy)?;
    file::migrate(&mut connection, file::STEPS.len())?;
    connection.pragma_update(None, "journal_mode", "DELETE")?;
    drop(connection);
    Store::open_to_read((&copy, path), copies, Standing::ReadOnly, Some(folder))
}

fn is_writable(path: &Path) -> bool {
    match OpenOptions::new().write(true).open(path) {
        Ok(_) => true,
        Err(error) => !is_unwritable(&error),
    }
}

/// Whether the database can keep its log beside the file.
fn is_writable_folder(path: &Path) -> bool {
    let folder = path
        .parent()
        .filter(|folder| !folder.as_os_str().is_empty());
    let tried = tempfile::Builder::new()
        .prefix(".motilis-")
        .tempfile_in(folder.unwrap_or(Path::new(".")));
    !tried.is_err_and(|error| is_unwritable(&error))
}

/// A disk without room shows in many ways; what it has left tells.
fn full(error: Error, path: &Path) -> Error {
    let is_disk = matches!(error.fault(), Some(Fault::Disk));
    if is_disk && free_space(path).is_some_and(|free| free < 256 * 1024) {
        return Error::Full { path: path.into() };
    }
    error
}

/// Bytes that can still be written on the disk of a file.
pub fn free_space(path: &Path) -> Option<u64> {
    let folder = path
        .parent()
        .filter(|folder| !folder.as_os_str().is_empty());
    #[cfg(unix)]
    {
        let disk = rustix::fs::statvfs(folder.unwrap_or(Path::new("."))).ok()?;
        Some(disk.f_bavail * disk.f_frsize)
    }
    #[cfg(not(unix))]
    {
        let _ = folder;
        None
    }
}
