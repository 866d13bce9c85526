//! What is wrong with disk or file when the database refuses, in a sentence that says what to do.

use rusqlite::ErrorCode;

/// Why the data file could not be read or written, as far as its owner can mend it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Fault {
    /// There is no room.
    Full,
    /// It may be read only.
    ReadOnly,
    /// Another program holds it.
    Busy,
    /// What lies in it is no whole data file any more.
    Damaged,
    /// The disk does not answer.
    Disk,
}

impl Fault {
    /// The fault behind an error of the database, if it is one.
    pub fn of(error: &rusqlite::Error) -> Option<Self> {
        let code = error.sqlite_error_code()?;
        Some(match code {
            ErrorCode::DiskFull => Self::Full,
            ErrorCode::ReadOnly => Self::ReadOnly,
            ErrorCode::DatabaseBusy | ErrorCode::DatabaseLocked => Self::Busy,
            ErrorCode::DatabaseCorrupt | ErrorCode::NotADatabase => Self::Damaged,
            ErrorCode::SystemIoFailure | ErrorCode::CannotOpen => Self::Disk,
            _ => return None,
        })
    }

    /// What it is and what to do.
    pub fn sentence(self) -> &'static str {
        match self {
            Self::Full => {
                "the disk with the data file is full: nothing was written and nothing is lost; make room there and do it again"
            }
            Self::ReadOnly => {
                "the data file can only be read where it lies: nothing was written; copy it to a disk that can be written and open it there"
            }
            Self::Busy => {
                "another program holds the data file: nothing was written; close that program, or do it again in a moment"
            }
            Self::Damaged => {
                "the data file is damaged at this place: nothing was written; look at `motilis check`, and take a copy back with `motilis restore`"
            }
            Self::Disk => {
                "the disk with the data file does not answer: look whether it is still plugged in, then do it again"
            }
        }
    }
}

/// The words of an error of the database.
pub(crate) fn words(error: &rusqlite::Error) -> String {
    Fault::of(error).map_or_else(
        || format!("the data file could not be read or written ({error})"),
        |fault| fault.sentence().to_owned(),
    )
}
