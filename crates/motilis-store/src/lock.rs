//! One program at a time serves a data file; a second one is told which does.

use crate::Error;
use std::fs::{File, OpenOptions, TryLockError};
use std::io::{ErrorKind, Read, Write};
use std::path::{Path, PathBuf};

/// Held while a file is served; let go with the last handle, also when the program is killed.
#[derive(Debug)]
pub(crate) struct Lock {
    path: PathBuf,
    file: File,
}

/// What became of the try.
pub(crate) enum Taken {
    /// It is ours.
    Ours(Lock),
    /// Nothing can be written beside the file, so nobody can hold it.
    Unwritable,
}

impl Lock {
    /// Takes the lock of a data file, and writes down who holds it.
    ///
    /// # Errors
    /// [`Error::Held`] with who has it.
    pub(crate) fn take(data: &Path, who: &str) -> Result<Taken, Error> {
        let path = of(data);
        loop {
            let mut open = OpenOptions::new();
            open.read(true).write(true).create(true).truncate(false);
            private(&mut open);
            let file = match open.open(&path) {
                Ok(file) => file,
                Err(error) if is_unwritable(&error) => return Ok(Taken::Unwritable),
                Err(source) => return Err(Error::Folder { path, source }),
            };
            match file.try_lock() {
                Ok(()) => {}
                Err(TryLockError::WouldBlock) => {
                    return Err(Error::Held {
                        path: data.into(),
                        by: holder(&path),
                    });
                }
                // Some network disks know no locks: the database's own remain.
                Err(TryLockError::Error(error)) => tracing::debug!(%error, "no lock on this disk"),
            }
            // Whoever held it before may have taken the file away between our opening and our locking it.
            if is_still(&file, &path) {
                let mut lock = Self { path, file };
                lock.say(who);
                return Ok(Taken::Ours(lock));
            }
        }
    }

    /// Writes down who holds it; on a full disk nobody is named.
    pub(crate) fn say(&mut self, who: &str) {
        let text = format!("process {}, {who}", std::process::id());
        let written = self
            .file
            .set_len(0)
            .and_then(|()| std::io::Seek::rewind(&mut self.file))
            .and_then(|()| self.file.write_all(text.as_bytes()));
        if let Err(error) = written {
            tracing::debug!(%error, "the holder of the lock is not written down");
        }
    }
}

impl Drop for Lock {
    fn drop(&mut self) {
        // Taken away while it is still held, so that nobody else's goes.
        let _ = std::fs::remove_file(&self.path);
    }
}

/// Whether somebody serves a data file now.
pub fn is_held(data: &Path) -> bool {
    File::open(of(data))
        .is_ok_and(|file| matches!(file.try_lock_shared(), Err(TryLockError::WouldBlock)))
}

fn of(data: &Path) -> PathBuf {
    let mut name = data.as_os_str().to_owned();
    name.push(".lock");
    name.into()
}

fn holder(path: &Path) -> String {
    let mut text = String::new();
    let read = File::open(path).and_then(|file| file.take(400).read_to_string(&mut text));
    match read {
        Ok(_) if !text.trim().is_empty() => text.trim().to_owned(),
        _ => "a program that does not say its name".to_owned(),
    }
}

#[cfg(unix)]
fn is_still(file: &File, path: &Path) -> bool {
    use std::os::unix::fs::MetadataExt;
    let inode = |meta: std::io::Result<std::fs::Metadata>| meta.ok().map(|meta| meta.ino());
    inode(file.metadata()) == inode(std::fs::metadata(path))
}

#[cfg(not(unix))]
fn is_still(_: &File, path: &Path) -> bool {
    path.exists()
}

/// Whether nothing can be written there.
pub(crate) fn is_unwritable(error: &std::io::Error) -> bool {
    matches!(
        error.kind(),
        ErrorKind::PermissionDenied | ErrorKind::ReadOnlyFilesystem
    )
}

/// Nobody else's to read.
pub(crate) fn private(open: &mut OpenOptions) {
    #[cfg(unix)]
    std::os::unix::fs::OpenOptionsExt::mode(open, 0o600);
    #[cfg(not(unix))]
    let _ = open;
}
