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
    /// The copy that is kept before a migration could not be made.
    #[error("the copy {} could not be made before bringing the data file up to date", path.display())]
    Copy {
        /// The copy.
        path: PathBuf,
        /// Why.
        #[source]
        source: rusqlite::Error,
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
    #[error("the data file could not be read or written")]
    Sqlite(#[from] rusqlite::Error),
    /// A migration failed.
    #[error("the data file could not be brought up to date")]
    Migration(#[from] rusqlite_migration::Error),
    /// No connection could be had.
    #[error("the data file is busy")]
    Busy(#[from] r2d2::Error),
}

impl Error {
    /// Whether the answer is "no such record".
    pub fn is_missing(&self) -> bool {
        matches!(self, Self::Missing { .. })
    }
}
