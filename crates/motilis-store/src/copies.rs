//! Copies of the data file: one a day, thinned out with age, one before whatever could spoil much, and those that were asked for.

use crate::lock::private;
use crate::{Error, Fault};
use jiff::Timestamp;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use rusqlite::{Connection, MAIN_DB, OpenFlags};
use std::cmp::Reverse;
use std::collections::BTreeSet;
use std::fs::{self, OpenOptions};
use std::io;
use std::path::{Path, PathBuf};

/// Of how many days, weeks and months the last copy stays.
pub const DAYS: usize = 7;
/// Weeks.
pub const WEEKS: usize = 4;
/// Months.
pub const MONTHS: usize = 12;
/// How many copies of each other reason stay; those that were asked for stay all.
const OTHERS: usize = 10;

/// Why a copy was made; its file's name says so.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Why {
    /// It was the day's.
    Day,
    /// Somebody asked for it.
    Asked,
    /// Before a file was brought up to a version.
    Migration(usize),
    /// Before something was read into the file.
    Import,
    /// Before a copy took the file's place: what it replaced.
    Restore,
    /// Before records were mended or set aside.
    Mend,
    /// Before what nobody needs was cleared out.
    Tidy,
}

impl Why {
    fn key(&self) -> String {
        match self {
            Self::Day => "day".to_owned(),
            Self::Asked => "asked".to_owned(),
            Self::Migration(version) => format!("before-v{version}"),
            Self::Import => "before-import".to_owned(),
            Self::Restore => "before-restore".to_owned(),
            Self::Mend => "before-mend".to_owned(),
            Self::Tidy => "before-tidy".to_owned(),
        }
    }

    fn from_key(key: &str) -> Option<Self> {
        let version = key.strip_prefix("before-v").map(str::parse);
        let plain = [
            Self::Day,
            Self::Asked,
            Self::Import,
            Self::Restore,
            Self::Mend,
            Self::Tidy,
        ];
        match version {
            Some(version) => version.ok().map(Self::Migration),
            None => plain.into_iter().find(|why| why.key() == key),
        }
    }
}

/// A copy that lies in the folder.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Copy {
    /// Its file.
    pub path: PathBuf,
    /// When it was made.
    pub at: Timestamp,
    /// Why.
    pub why: Why,
    /// How large it is.
    pub bytes: u64,
}

impl Copy {
    /// Name of its file.
    pub fn name(&self) -> String {
        let name = self.path.file_name().unwrap_or_default();
        name.to_string_lossy().into_owned()
    }
}

/// The folder with the copies of a data file.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Copies {
    folder: PathBuf,
    stem: String,
}

/// How the moment of a copy stands in its name, in UTC.
const MOMENT: &str = "%Y-%m-%dT%H%M%SZ";

impl Copies {
    /// The copies of a data file: in the folder named, or else in one beside it, `NAME.copies`.
    pub fn of(data: &Path, folder: Option<PathBuf>) -> Self {
        let stem = data.file_stem().unwrap_or_default();
        Self {
            folder: folder.unwrap_or_else(|| data.with_extension("copies")),
            stem: stem.to_string_lossy().into_owned(),
        }
    }

    /// Where they lie.
    pub fn folder(&self) -> &Path {
        &self.folder
    }

    /// Every copy, the newest first; none while the folder cannot be read.
    pub fn all(&self) -> Vec<Copy> {
        let Ok(entries) = fs::read_dir(&self.folder) else {
            return Vec::new();
        };
        let mut all: Vec<Copy> = entries
            .filter_map(|entry| self.named(&entry.ok()?.path()))
            .collect();
        // The second copy of one second has a longer name.
        all.sort_by_cached_key(|copy| {
            let name = copy.name();
            Reverse((copy.at, name.len(), name))
        });
        all
    }

    /// The copy of a file's name.
    pub fn get(&self, name: &str) -> Option<Copy> {
        self.all().into_iter().find(|copy| copy.name() == name)
    }

    fn named(&self, path: &Path) -> Option<Copy> {
        let name = path.file_name()?.to_str()?;
        let rest = name.strip_prefix(&self.stem)?.strip_prefix('-')?;
        let (moment, why) = rest.strip_suffix(".db")?.split_once("Z-")?;
        let at = jiff::civil::DateTime::strptime(MOMENT, format!("{moment}Z")).ok()?;
        // ".2" is the second copy of one second.
        let key = why.split_once('.').map_or(why, |(key, _)| key);
        Some(Copy {
            path: path.into(),
            at: at.to_zoned_datetime(TimeZone::UTC).ok()?.timestamp(),
            why: Why::from_key(key)?,
            bytes: fs::metadata(path).ok()?.len(),
        })
    }

    /// A name that is free.
    pub(crate) fn free_name(&self, now: Timestamp, why: &Why) -> PathBuf {
        let moment = now
            .to_zoned_datetime(TimeZone::UTC)
            .strftime(MOMENT)
            .to_string();
        let first = format!("{}-{moment}-{}", self.stem, why.key());
        let names = std::iter::once(first.clone()).chain((2..).map(|n| format!("{first}.{n}")));
        names
            .map(|name| self.folder.join(name + ".db"))
            .find(|path| !path.exists())
            .expect("numbers do not end")
    }

    /// The name of a copy that is to be made now, in a folder that is there.
    ///
    /// # Errors
    /// [`Error::Copy`].
    pub fn named_now(&self, now: Timestamp, why: &Why) -> Result<PathBuf, Error> {
        self.ready()?;
        Ok(self.free_name(now, why))
    }

    /// Makes the folder.
    pub(crate) fn ready(&self) -> Result<(), Error> {
        fs::create_dir_all(&self.folder).map_err(|source| Error::Copy {
            path: self.folder.clone(),
            why: io_words(&source),
        })
    }

    /// Copies an open file while it is in use, looks whether the copy is whole, and thins the old ones out.
    ///
    /// # Errors
    /// [`Error::Copy`]; nothing half made stays.
    pub fn keep(&self, connection: &Connection, now: Timestamp, why: Why) -> Result<Copy, Error> {
        self.ready()?;
        let path = self.free_name(now, &why);
        // What is about to be mended is kept as it is.
        let looked_through = !matches!(why, Why::Mend | Why::Restore);
        copy_to(connection, &path, looked_through)?;
        self.thin();
        self.named(&path).ok_or_else(|| Error::Copy {
            path,
            why: "it is not there any more".to_owned(),
        })
    }

    /// Whether the day has no copy yet, and something was written since the last one.
    pub fn is_due(&self, data: &Path, now: Timestamp) -> bool {
        let of = |at: Timestamp| at.to_zoned_datetime(TimeZone::UTC).date();
        let all = self.all();
        if all
            .iter()
            .any(|copy| copy.why == Why::Day && of(copy.at) == of(now))
        {
            return false;
        }
        let written = [data.to_owned(), crate::file::beside(data, "-wal")];
        let written = written
            .iter()
            .filter_map(|file| Timestamp::try_from(fs::metadata(file).ok()?.modified().ok()?).ok())
            .max();
        match (all.first(), written) {
            (Some(copy), Some(written)) => written > copy.at,
            _ => true,
        }
    }

    /// Takes away what is not kept.
    pub(crate) fn thin(&self) {
        let all = self.all();
        for copy in superfluous(&all) {
            if let Err(error) = fs::remove_file(&copy.path) {
                tracing::warn!(%error, copy = %copy.path.display(), "an old copy could not be taken away");
            }
        }
    }
}

/// Copies a data file that some program may serve, as it is, to a new file.
///
/// # Errors
/// [`Error::Exists`], [`Error::Closed`], [`Error::NotOurs`], [`Error::Copy`].
pub fn copy_file(data: &Path, to: &Path) -> Result<PathBuf, Error> {
    if to.exists() {
        return Err(Error::Exists { path: to.into() });
    }
    let not_there = || Error::Closed {
        path: data.into(),
        source: io::ErrorKind::NotFound.into(),
    };
    crate::opening::look(data)?.ok_or_else(not_there)?;
    let (_copy, connection) = crate::opening::to_look(data)?;
    crate::file::known_version(&connection, data)?;
    copy_to(&connection, to, true)?;
    Ok(to.into())
}

/// Copies an open file to a new one: written under another name first, on disk and looked through before it gets its
/// own.
pub(crate) fn copy_to(
    connection: &Connection,
    path: &Path,
    looked_through: bool,
) -> Result<(), Error> {
    let failed = |why: String| Error::Copy {
        path: path.into(),
        why,
    };
    let mut part = path.as_os_str().to_owned();
    part.push(".part");
    let part = PathBuf::from(part);
    let made = || -> Result<(), Error> {
        let mut open = OpenOptions::new();
        open.write(true).create(true).truncate(true);
        private(&mut open);
        open.open(&part).map_err(|error| failed(io_words(&error)))?;
        let sql = |error: rusqlite::Error| failed(crate::fault::words(&error));
        connection.backup(MAIN_DB, &part, None).map_err(sql)?;
        let copy =
            Connection::open_with_flags(&part, OpenFlags::SQLITE_OPEN_READ_WRITE).map_err(sql)?;
        // One file, that can be opened where nothing can be written.
        copy.pragma_update(None, "journal_mode", "DELETE")
            .map_err(sql)?;
        if looked_through {
            let whole: String = copy
                .query_row("PRAGMA quick_check(1)", [], |row| row.get(0))
                .map_err(sql)?;
            if whole != "ok" {
                return Err(failed(format!("it would not be whole: {whole}")));
            }
        }
        drop(copy);
        fs::File::open(&part)
            .and_then(|file| file.sync_all())
            .and_then(|()| fs::rename(&part, path))
            .and_then(|()| sync_folder(path))
            .map_err(|error| failed(io_words(&error)))
    };
    made().inspect_err(|_| {
        for end in ["", "-journal"] {
            let mut name = part.clone().into_os_string();
            name.push(end);
            // What is not there need not go.
            let _ = fs::remove_file(name);
        }
    })
}

/// A name that was just given is on disk when its folder is.
pub(crate) fn sync_folder(path: &Path) -> io::Result<()> {
    match path.parent() {
        Some(folder) if !folder.as_os_str().is_empty() => fs::File::open(folder)?.sync_all(),
        _ => Ok(()),
    }
}

/// What is wrong with a disk, without the system's numbers.
pub(crate) fn io_words(error: &io::Error) -> String {
    use io::ErrorKind as Kind;
    match error.kind() {
        Kind::StorageFull | Kind::QuotaExceeded => Fault::Full.sentence().to_owned(),
        Kind::PermissionDenied => "this user may not write there".to_owned(),
        Kind::ReadOnlyFilesystem => "nothing can be written on that disk".to_owned(),
        Kind::NotFound => "there is no such folder".to_owned(),
        Kind::NotADirectory => "a part of that path is no folder".to_owned(),
        _ => format!("the disk does not answer ({error})"),
    }
}

/// Which copies are not kept: of the day's, all but the last of each of seven days, four weeks and twelve months; of each other reason
/// all but the last ten; none that was asked for.
fn superfluous(newest_first: &[Copy]) -> Vec<&Copy> {
    let day = |copy: &&Copy| copy.at.to_zoned_datetime(TimeZone::UTC).date();
    let of_days: Vec<&Copy> = newest_first
        .iter()
        .filter(|copy| copy.why == Why::Day)
        .collect();
    let mut kept = BTreeSet::new();
    kept.extend(last_of_each(&of_days, DAYS, |copy| day(copy)));
    kept.extend(last_of_each(&of_days, WEEKS, |copy| monday(day(copy))));
    kept.extend(last_of_each(&of_days, MONTHS, |copy| {
        day(copy).first_of_month()
    }));
    let mut away: Vec<&Copy> = of_days
        .iter()
        .enumerate()
        .filter(|(place, _)| !kept.contains(place))
        .map(|(_, copy)| *copy)
        .collect();
    let reasons: BTreeSet<Option<&Why>> =
        newest_first.iter().map(|copy| reason(&copy.why)).collect();
    for why in reasons.into_iter().flatten() {
        let of_it = newest_first
            .iter()
            .filter(|copy| reason(&copy.why) == Some(why));
        away.extend(of_it.skip(OTHERS));
    }
    away
}

/// Reasons whose copies are counted together; none for those with a rule of their own.
fn reason(why: &Why) -> Option<&Why> {
    match why {
        Why::Day | Why::Asked => None,
        Why::Migration(_) => Some(&Why::Migration(0)),
        other => Some(other),
    }
}

fn monday(date: Date) -> Date {
    let since = date.weekday().to_monday_zero_offset();
    date.checked_sub(jiff::Span::new().days(i64::from(since)))
        .unwrap_or(date)
}

/// Places of the newest of each of the last so many days, weeks or months that have one.
fn last_of_each(newest_first: &[&Copy], most: usize, of: impl Fn(&&Copy) -> Date) -> Vec<usize> {
    let mut seen: Vec<Date> = Vec::new();
    let mut kept = Vec::new();
    for (place, copy) in newest_first.iter().enumerate() {
        let period = of(copy);
        if seen.len() < most && !seen.contains(&period) {
            seen.push(period);
            kept.push(place);
        }
    }
    kept
}

#[cfg(test)]
mod tests {
    use super::*;

    fn copy(at: &str, why: Why) -> Copy {
        Copy {
            path: PathBuf::from(format!("{at}-{}", why.key())),
            at: at.parse().unwrap(),
            why,
            bytes: 1,
        }
    }

    /// A copy a day for two years leaves seven days, four weeks and twelve months.
    #[test]
    fn a_copy_a_day_is_thinned_to_seven_four_and_twelve() {
        let first: Timestamp = "2024-11-29T06:00:00Z".parse().unwrap();
        let mut lying: Vec<Copy> = Vec::new();
        for day in 0..731 {
            let at = first + jiff::SignedDuration::from_hours(24 * day);
            lying.insert(0, copy(&at.to_string(), Why::Day));
            let away: Vec<PathBuf> = superfluous(&lying)
                .iter()
                .map(|one| one.path.clone())
                .collect();
            lying.retain(|one| !away.contains(&one.path));
        }
        let dates: Vec<String> = lying
            .iter()
            .map(|one| one.at.to_string()[..10].to_owned())
            .collect();
        assert_eq!(
            dates,
            [
                // Seven days, of which the last is the last of its week and of its month, too.
                "2026-11-29",
                "2026-11-28",
                "2026-11-27",
                "2026-11-26",
                "2026-11-25",
                "2026-11-24",
                "2026-11-23",
                // The last of three weeks before, and of eleven months.
                "2026-11-22",
                "2026-11-15",
                "2026-11-08",
                "2026-10-31",
                "2026-09-30",
                "2026-08-31",
                "2026-07-31",
                "2026-06-30",
                "2026-05-31",
                "2026-04-30",
                "2026-03-31",
                "2026-02-28",
                "2026-01-31",
                "2025-12-31",
            ]
        );
    }

    #[test]
    fn ten_of_each_reason_stay_and_all_that_were_asked_for() {
        let mut lying = Vec::new();
        for day in (1..=28).rev() {
            for why in [Why::Asked, Why::Import, Why::Migration(day)] {
                lying.push(copy(&format!("2026-02-{day:02}T06:00:00Z"), why));
            }
        }
        let away = superfluous(&lying);
        assert_eq!(away.len(), 2 * 18);
        assert!(
            away.iter().all(
                |one| one.why != Why::Asked && one.at < "2026-02-19T00:00:00Z".parse().unwrap()
            )
        );
    }

    #[test]
    fn a_name_says_when_and_why() {
        let folder = tempfile::tempdir().unwrap();
        let copies = Copies::of(&folder.path().join("boat.db"), None);
        copies.ready().unwrap();
        let now: Timestamp = "2026-11-29T06:12:05Z".parse().unwrap();
        let all = [
            Why::Day,
            Why::Asked,
            Why::Migration(16),
            Why::Import,
            Why::Restore,
            Why::Mend,
            Why::Tidy,
        ];
        for why in &all {
            for _ in 0..2 {
                fs::write(copies.free_name(now, why), "x").unwrap();
            }
        }
        // Somebody else's.
        fs::write(copies.folder().join("boat-notes.db"), "x").unwrap();
        let found = copies.all();
        assert_eq!(found.len(), 14);
        assert!(
            found
                .iter()
                .all(|one| one.at == now && all.contains(&one.why))
        );
        let names: Vec<String> = found.iter().map(Copy::name).collect();
        assert!(
            names.contains(&"boat-2026-11-29T061205Z-before-v16.db".to_owned()),
            "{names:?}"
        );
        assert!(
            names.contains(&"boat-2026-11-29T061205Z-before-v16.2.db".to_owned()),
            "{names:?}"
        );
    }
}
