//! What an entry must be besides its figures: instants, and texts that files and spreadsheets can hold.

use crate::error::Error;
use jiff::Timestamp;

/// Years in which an outing can be: before them a clock was never set, after them it runs wrong.
const YEARS: std::ops::RangeInclusive<i16> = 2000..=2099;

/// Whether an instant can be that of an outing or an entry.
///
/// # Errors
/// [`Error::Contradiction`] with the field.
pub fn check_clock(field: &str, at: Timestamp) -> Result<(), Error> {
    let year = at.to_zoned_datetime(jiff::tz::TimeZone::UTC).year();
    if YEARS.contains(&year) {
        return Ok(());
    }
    Err(Error::contradiction(
        field,
        format!(
            "the clock says {year}, which cannot be; give a day between 2000 and 2099, or set the machine's clock"
        ),
    ))
}

/// Whether a text is one line of a length, and nothing that a spreadsheet would run.
///
/// # Errors
/// [`Error::Contradiction`] with the field.
pub fn plain_text(field: &str, text: &str, most: usize) -> Result<(), Error> {
    if text.chars().count() > most {
        return Err(Error::contradiction(
            field,
            format!("{field} is longer than {most} characters; shorten it"),
        ));
    }
    if text.chars().any(char::is_control) {
        return Err(Error::contradiction(
            field,
            format!("{field} holds characters that cannot be shown; write it on one line"),
        ));
    }
    if text.starts_with(['=', '+', '-', '@']) {
        return Err(Error::contradiction(
            field,
            format!(
                "{field} begins like a spreadsheet's formula; begin it with a letter or figure"
            ),
        ));
    }
    Ok(())
}
