//! What an entry must be: ranges in SI, and texts that files and spreadsheets can hold.

use crate::error::Error;
use jiff::Timestamp;

/// Ranges that entries of the boat book must lie in, SI.
pub mod limits {
    use crate::error::Range;

    /// Speed of a boat that trolls.
    pub const SPEED: Range = Range::closed(0.0, 4.5, "m/s", "between 0 and 4.5 m/s");
    /// Water temperature.
    pub const TEMPERATURE: Range = Range::closed(-2.0, 40.0, "°C", "between -2 and 40 °C");
    /// Depth at which a white disc is lost.
    pub const CLARITY: Range = Range::closed(0.05, 40.0, "m", "between 0.05 and 40 m");
    /// Depth of the water, and of a rig that is wanted somewhere.
    pub const DEPTH: Range = Range::closed(0.3, 300.0, "m", "between 0.3 and 300 m");
    /// Depth of fish, and of a rig that was logged.
    pub const FISH_DEPTH: Range = Range::closed(0.0, 300.0, "m", "between 0 and 300 m");
    /// Length of a fish.
    pub const LENGTH: Range = Range::closed(0.03, 2.5, "m", "between 0.03 and 2.5 m");
    /// Pieces of a part, or metres of line and wire.
    pub const LEFT: Range = Range::closed(0.0, 100_000.0, "", "between 0 and 100 000");
    /// Cost of one piece or metre.
    pub const COST: Range = Range::closed(0.0, 100_000.0, "", "between 0 and 100 000");
    /// Line let out.
    pub const OUT: Range = Range::closed(0.3, 600.0, "m", "between 0.3 and 600 m");
}

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
