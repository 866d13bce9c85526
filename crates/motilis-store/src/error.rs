use crate::Fault;
use crate::copies::io_words;
use crate::fault::words;
use std::path::PathBuf;
use thiserror::Error;

/// Why the data file did not do what was asked.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum Error {
    /// The file was written by a newer program.
    #[error(
        "{} was written by a newer Motilis (data version {found}, this program knows {known}); start the newer program, or open another file",
        path.display()
    )]
    Newer {
        /// The file.
        path: PathBuf,
        /// Its version.
        found: usize,
        /// The newest this program knows.
        known: usize,
    },
    /// The file is something else.
    #[error("{} is not a Motilis data file; name another file, or a new one", path.display())]
    NotOurs {
        /// The file.
        path: PathBuf,
    },
    /// There is no folder for the file, or nothing can be made in it.
    #[error("{} cannot be made: {}; name another with --data, or make that folder one you may write in", path.display(), io_words(source))]
    Folder {
        /// The file that should be made.
        path: PathBuf,
        /// Why not.
        source: std::io::Error,
    },
    /// The file may not be read by this user, or not at all.
    #[error("{} cannot be opened: {}", path.display(), cannot_open(source))]
    Closed {
        /// The file.
        path: PathBuf,
        /// Why not.
        source: std::io::Error,
    },
    /// Another program serves it.
    #[error("{} is in use by another Motilis ({by}); use that one, or stop it first", path.display())]
    Held {
        /// The file.
        path: PathBuf,
        /// Who it is.
        by: String,
    },
    /// There is no room for what has to be written at the start.
    #[error("{} cannot be opened: the disk is full; make room there and start again, nothing is lost", path.display())]
    Full {
        /// The file.
        path: PathBuf,
    },
    /// It is shorter than it says of itself.
    #[error(
        "{} was cut off: {found} of {said} bytes are there; take a copy back with `motilis restore`, or see what can still be read with `motilis serve --rescue`",
        path.display()
    )]
    Cut {
        /// The file.
        path: PathBuf,
        /// Its length.
        found: u64,
        /// What it says.
        said: u64,
    },
    /// What lies in it does not fit together.
    #[error(
        "{} is damaged ({what}); take a copy back with `motilis restore`, or see what can still be read with `motilis serve --rescue`",
        path.display()
    )]
    Damaged {
        /// The file.
        path: PathBuf,
        /// The first thing that was found.
        what: String,
    },
    /// It says that it is of a version whose tables it does not have.
    #[error(
        "{} lacks {lacks}, which a file of data version {version} has; take a copy back with `motilis restore`, or see what can be read with `motilis serve --rescue`",
        path.display()
    )]
    Gap {
        /// The file.
        path: PathBuf,
        /// The version it says it is of.
        version: usize,
        /// What is not there.
        lacks: String,
    },
    /// It is open for reading only.
    #[error("{} is open for reading only: nothing was changed; {why}", path.display())]
    ReadOnly {
        /// The file.
        path: PathBuf,
        /// Why, and what would help.
        why: &'static str,
    },
    /// A copy could not be made.
    #[error("the copy {} could not be made: {why}", path.display())]
    Copy {
        /// The copy.
        path: PathBuf,
        /// Why.
        why: String,
    },
    /// A record is named by others and cannot be set aside alone.
    #[error(
        "{what} number {id} is named by other records, which would have to go first; it is left out of every list meanwhile"
    )]
    Named {
        /// Kind of record.
        what: &'static str,
        /// Its number.
        id: i64,
    },
    /// There is a file already where a new one should be made.
    #[error("{} exists already; name a new file", path.display())]
    Exists {
        /// The file.
        path: PathBuf,
    },
    /// The document holds no book.
    #[error("the file is no book of this program: {0}")]
    NoBook(String),
    /// There is no such record.
    #[error("there is no {what} number {id}")]
    Missing {
        /// Kind of record.
        what: &'static str,
        /// The number asked for.
        id: i64,
    },
    /// A row holds what no record can.
    #[error("{what} number {id} in the data file cannot be read: {why}")]
    Unreadable {
        /// Kind of record.
        what: &'static str,
        /// Its number.
        id: i64,
        /// What is wrong with it.
        why: String,
    },
    /// The database refused.
    #[error("{}", words(.0))]
    Sqlite(rusqlite::Error),
    /// A migration failed.
    #[error(
        "the data file could not be brought up to date ({0}); a copy of it as it was lies in the folder of its copies"
    )]
    Migration(String),
    /// No connection could be had.
    #[error("the data file is busy: nothing was written; do it again in a moment")]
    Busy,
}

impl From<rusqlite::Error> for Error {
    fn from(error: rusqlite::Error) -> Self {
        Self::Sqlite(error)
    }
}

impl From<r2d2::Error> for Error {
    fn from(error: r2d2::Error) -> Self {
        tracing::warn!(%error, "no connection to the data file");
        Self::Busy
    }
}

impl From<rusqlite_migration::Error> for Error {
    fn from(error: rusqlite_migration::Error) -> Self {
        match error {
            rusqlite_migration::Error::RusqliteError { err, .. } if Fault::of(&err).is_some() => {
                Self::Sqlite(err)
            }
            other => Self::Migration(other.to_string()),
        }
    }
}

fn cannot_open(error: &std::io::Error) -> String {
    match error.kind() {
        std::io::ErrorKind::PermissionDenied => {
            "this user may not read it; start Motilis as the user it belongs to".to_owned()
        }
        std::io::ErrorKind::IsADirectory => "it is a folder; name a file in it".to_owned(),
        std::io::ErrorKind::NotFound => "there is no such file".to_owned(),
        _ => io_words(error),
    }
}

impl Error {
    /// Whether the answer is "no such record".
    pub fn is_missing(&self) -> bool {
        matches!(self, Self::Missing { .. })
    }

    /// What its owner can mend: room, rights, another program, a damaged file.
    pub fn fault(&self) -> Option<Fault> {
        match self {
            Self::Sqlite(error) => Fault::of(error),
            Self::ReadOnly { .. } => Some(Fault::ReadOnly),
            Self::Busy | Self::Held { .. } => Some(Fault::Busy),
            Self::Damaged { .. } | Self::Cut { .. } | Self::Gap { .. } => Some(Fault::Damaged),
            Self::Full { .. } => Some(Fault::Full),
            Self::Copy { .. } => Some(Fault::Disk),
            _ => None,
        }
    }
}
