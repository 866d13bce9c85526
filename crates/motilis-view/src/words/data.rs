//! What is said of the data file, its copies, and of who is aboard.

use crate::seen::Role;
use motilis_store::check::{Mend, Mended, Wrong};
use motilis_store::copies::Why;
use motilis_store::tidy::Tidied;
use motilis_store::{Error, Salvage};

/// What somebody aboard is called.
pub fn role(role: Role) -> &'static str {
    match role {
        Role::Captain => "Captain",
        Role::Crew => "Crew",
        Role::Guest => "Guest",
    }
}

/// Why a copy was made.
pub fn why(why: &Why) -> String {
    match why {
        Why::Day => "the day’s".to_owned(),
        Why::Asked => "asked for".to_owned(),
        Why::Migration(version) => format!("before it was brought up to data version {version}"),
        Why::Import => "before something was read in".to_owned(),
        Why::Restore => "what a copy took the place of".to_owned(),
        Why::Mend => "before mending".to_owned(),
        Why::Tidy => "before clearing out".to_owned(),
    }
}

/// What is said when no file was chosen.
pub const NO_FILE: &str =
    "Choose a file first: a copy that was saved from this page, or a data file.";

/// Why a copy from another device does not take the place of the book; `None` when that lies not with the copy.
pub fn not_put_in(error: &Error, name: &str) -> Option<String> {
    let name = motilis_formats::quoted(name);
    let (what, instead) = match error {
        Error::NotOurs { .. } => (
            format!("{name} is not a Motilis data file"),
            "choose a copy that was saved from this page, or a data file",
        ),
        Error::Newer { found, known, .. } => (
            format!(
                "{name} was written by a newer Motilis (data version {found}, this program knows {known})"
            ),
            "bring this program up to date first",
        ),
        Error::Cut { found, said, .. } => (
            format!("{name} was cut off: {found} of {said} bytes came"),
            "save it once more on the other device, then choose it again",
        ),
        Error::Damaged { what, .. } => {
            (format!("{name} is damaged ({what})"), "choose another copy")
        }
        Error::Gap { version, lacks, .. } => (
            format!("{name} lacks {lacks}, which a file of data version {version} has"),
            "choose another copy",
        ),
        _ => return None,
    };
    Some(format!("{what}: nothing was changed; {instead}."))
}

/// A size for people: 840 kB, 12.3 MB (SI, 1 kB = 1 000 bytes).
pub fn size(bytes: u64) -> String {
    let bytes = bytes as f64;
    match bytes {
        b if b < 1e6 => format!("{:.0} kB", (b / 1e3).ceil()),
        b if b < 1e9 => format!("{:.1} MB", b / 1e6),
        b => format!("{:.1} GB", b / 1e9),
    }
}

/// "1 record", "12 records".
fn so_many(count: usize, what: &str) -> String {
    let s = if count == 1 { "" } else { "s" };
    format!("{count} {what}{s}")
}

/// What is wrong.
pub fn wrong(wrong: &Wrong) -> String {
    match wrong {
        Wrong::Damage(line) => format!("It does not fit together: {line}"),
        Wrong::Index(line) => format!("An index does not agree with its table: {line}"),
        Wrong::Lacks(what) => format!("It lacks {what}"),
        Wrong::Dangling(one) => {
            let row = one
                .row
                .map_or(String::new(), |row| format!(" number {row}"));
            let (table, parent) = (plain(&one.table), plain(&one.parent));
            format!("A row of {table}{row} names something of {parent} that is not there")
        }
        Wrong::Unread(record) => format!(
            "{} number {} cannot be read: {}",
            super::capital(record.what),
            record.id,
            record.why
        ),
    }
}

/// A table's name without its joints.
pub fn plain(table: &str) -> String {
    table.replace('_', " ")
}

/// What mends it.
pub fn mend(wrong: &Wrong) -> &'static str {
    match (wrong.mend(), wrong) {
        (Mend::Restore, _) => "go back to a copy, or start with --rescue and take what can be read",
        (Mend::Reindex, _) => "mended: the index is made anew",
        (Mend::Clear, _) => "mended: the name is taken out, the row stays",
        (Mend::SetAside, Wrong::Unread(_)) => {
            "left out of every list; set aside unless others name it, and can be put back"
        }
        (Mend::SetAside, _) => "set aside, and can be put back",
    }
}

/// Whether anything would go, or much room be free.
pub fn is_worth_it(tidied: &Tidied) -> bool {
    let freed = tidied.before.saturating_sub(tidied.after);
    tidied.records + tidied.versions > 0 || freed * 20 > tidied.before
}

/// What clearing out would do, or did.
pub fn tidying(tidied: &Tidied, done: bool) -> String {
    if !done && !is_worth_it(tidied) {
        return "There is nothing to clear out.".to_owned();
    }
    let freed = tidied.before.saturating_sub(tidied.after);
    let named = match tidied.named {
        0 => String::new(),
        some => format!(
            " {} stay, because others name them.",
            so_many(some, "such record")
        ),
    };
    let (records, versions) = (
        so_many(tidied.records, "record"),
        so_many(tidied.versions, "old step"),
    );
    let (size, freed) = (size(tidied.after), size(freed));
    if done {
        format!(
            "Cleared out: {records} thrown away over 30 days ago and {versions} of bench and spread. {freed} are free, the file has {size} now.{named}"
        )
    } else {
        format!(
            "To clear out: {records} thrown away over 30 days ago and {versions} of bench and spread. It would free {freed}; the file would have {size}.{named} Undo on bench and spread then reaches 20 steps back. A copy is made first."
        )
    }
}

/// What was mended.
pub fn mended(mended: &Mended) -> String {
    let mut parts = Vec::new();
    if mended.indices {
        parts.push("the indices are made anew".to_owned());
    }
    if mended.cleared > 0 {
        parts.push(format!("{} taken out", so_many(mended.cleared, "name")));
    }
    if mended.aside > 0 {
        parts.push(format!("{} set aside", so_many(mended.aside, "record")));
    }
    if parts.is_empty() {
        parts.push("there was nothing to mend".to_owned());
    }
    let left = match mended.left {
        0 => String::new(),
        some => format!(" {} stay as they are.", so_many(some, "finding")),
    };
    format!("{}.{left}", super::capital(&parts.join(", ")))
}

/// "just now", "5 min ago", "3 h ago", "12 days ago".
pub fn ago(seconds: i64) -> String {
    match seconds {
        s if s < 60 => "just now".to_owned(),
        s if s < 5_400 => format!("{} min ago", s / 60),
        s if s < 2 * 86_400 => format!("{} h ago", s / 3_600),
        s => format!("{} days ago", s / 86_400),
    }
}

/// What could not be read of a damaged file.
pub fn salvage(salvage: &Salvage) -> Vec<String> {
    let mut says = vec![format!(
        "This is what could be read of a damaged file: {}. The damaged file is as it was.",
        so_many(salvage.rows, "row")
    )];
    says.extend(salvage.torn.iter().map(|(table, rows)| {
        format!(
            "Of {} some could not be read; {} could.",
            plain(table),
            so_many(*rows, "row")
        )
    }));
    if salvage.file.as_os_str().is_empty() {
        says.push(
            "It could not be kept beside the damaged file: save the book as JSON from Log, Files."
                .to_owned(),
        );
    } else {
        says.push(format!(
            "It is kept as {}. To go on with it, stop the program and run: motilis restore {0} --data with the name of the data file.",
            salvage.file.display()
        ));
    }
    says
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case(0, "0 kB")]
    #[case(4_096, "5 kB")]
    #[case(999_000, "999 kB")]
    #[case(15_040_512, "15.0 MB")]
    #[case(3_210_000_000, "3.2 GB")]
    fn sizes_are_for_people(#[case] bytes: u64, #[case] says: &str) {
        assert_eq!(size(bytes), says);
    }

    #[test]
    fn clearing_out_says_what_stays_and_what_goes() {
        let tidied = Tidied {
            records: 1,
            named: 2,
            versions: 38,
            before: 2_000_000,
            after: 1_500_000,
        };
        let says = tidying(&tidied, false);
        assert!(says.starts_with("To clear out: 1 record thrown away over 30 days ago and 38 old steps of bench and spread. It would free 500 kB; the file would have 1.5 MB. 2 such records stay, because others name them."), "{says}");
        let says = tidying(&tidied, true);
        assert!(
            says.contains("500 kB are free, the file has 1.5 MB now."),
            "{says}"
        );
    }

    #[test]
    fn a_salvage_names_what_is_torn_and_where_it_lies() {
        let says = salvage(&Salvage {
            rows: 1,
            torn: vec![("rig_versions".into(), 12)],
            file: "/boat/heron.rescued.db".into(),
        });
        assert_eq!(
            says[1],
            "Of rig versions some could not be read; 12 rows could."
        );
        assert!(
            says[2].contains("motilis restore /boat/heron.rescued.db"),
            "{}",
            says[2]
        );
    }
}
