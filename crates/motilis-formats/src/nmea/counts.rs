use serde::{Deserialize, Serialize};

/// Why a sentence was dropped.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Fault {
    /// Its checksum is another.
    BadChecksum,
    /// Its end is missing.
    CutShort,
    /// No sentence at all.
    Noise,
    /// The same as the one before it.
    Duplicate,
    /// Older than what was known.
    Late,
    /// A receiver without a fix.
    VoidFix,
    /// Whole, but with figures that cannot be.
    Unreadable,
}

/// How many sentences came, and what became of them.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct Counts {
    /// Lines that came.
    pub sentences: u64,
    /// Sentences that were taken.
    pub good: u64,
    /// Dropped for their checksum.
    pub bad_checksum: u64,
    /// Dropped because their end was missing.
    pub cut_short: u64,
    /// Dropped because they were none.
    pub noise: u64,
    /// Dropped as said twice.
    pub duplicate: u64,
    /// Dropped as older than what was known.
    pub late: u64,
    /// Dropped for want of a fix.
    pub void_fix: u64,
    /// Dropped for figures that cannot be.
    #[serde(default, skip_serializing_if = "is_none")]
    pub unreadable: u64,
}

#[allow(
    clippy::trivially_copy_pass_by_ref,
    reason = "serde hands the field by reference"
)]
fn is_none(count: &u64) -> bool {
    *count == 0
}

impl Counts {
    pub(super) fn drop_for(&mut self, fault: Fault) {
        *match fault {
            Fault::BadChecksum => &mut self.bad_checksum,
            Fault::CutShort => &mut self.cut_short,
            Fault::Noise => &mut self.noise,
            Fault::Duplicate => &mut self.duplicate,
            Fault::Late => &mut self.late,
            Fault::VoidFix => &mut self.void_fix,
            Fault::Unreadable => &mut self.unreadable,
        } += 1;
    }

    /// Sentences that were dropped.
    pub fn dropped(&self) -> u64 {
        self.sentences - self.good
    }
}
