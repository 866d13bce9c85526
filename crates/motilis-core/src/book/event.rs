use super::{OutingId, RigId};
use crate::error::Error;
use crate::fields;
use crate::keyed::keyed;
use crate::units::{Metres, MetresPerSecond};
use jiff::Timestamp;

/// What happened on a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum EventKind {
    /// A hit that did not hold.
    Strike,
    /// A fish on.
    Fish,
    /// A fish that came and looked.
    Follow,
    /// The weight touched the bottom.
    BottomTouch,
    /// Fresh bait was put on; its note names a scent.
    FreshBait,
    /// A remark.
    Note,
}

keyed!(EventKind {
    Strike "strike" "Strike",
    Fish "fish" "Fish",
    Follow "follow" "Follow",
    BottomTouch "bottom_touch" "Bottom touch",
    FreshBait "fresh_bait" "Fresh bait",
    Note "note" "Note",
});

/// How the line ran when something happened.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OnLine {
    /// The rig.
    pub rig: RigId,
    /// What was let out.
    pub out: Metres,
    /// Where the rig ran, computed; `None` when the line could not be computed.
    pub depth: Option<Metres>,
}

/// Something that happened on an outing.
#[derive(Debug, Clone, PartialEq)]
pub struct Event {
    /// During which outing.
    pub outing: OutingId,
    /// What.
    pub kind: EventKind,
    /// When it happened.
    pub at: Timestamp,
    /// When it was entered: entries typed in later than this never stretch an outing.
    pub entered: Timestamp,
    /// On which line; a note needs none.
    pub line: Option<OnLine>,
    /// Speed through the water then.
    pub speed: MetresPerSecond,
    /// Length of the fish, measured.
    pub length: Option<Metres>,
    /// Whether the fish was kept; `None` while nobody said.
    pub kept: Option<bool>,
    /// A remark.
    pub note: String,
}

impl Event {
    /// Whether every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field of the entry.
    pub fn check(&self) -> Result<(), Error> {
        fields::SPEED.check(self.speed.0)?;
        if let Some(length) = self.length {
            fields::FISH_LENGTH.check(length.0)?;
        }
        if let Some(line) = self.line {
            fields::OUT.check(line.out.0)?;
            if let Some(depth) = line.depth {
                fields::DEPTH.check(depth.0)?;
            }
        }
        if self.kind != EventKind::Fish && (self.length.is_some() || self.kept.is_some()) {
            return Err(Error::contradiction(
                fields::FISH_LENGTH.key,
                "only a fish has a length and is kept or released; make it a fish, or leave them empty",
            ));
        }
        if self.note.chars().count() > 500 {
            return Err(Error::contradiction(
                "note",
                "the note is longer than 500 characters; shorten it",
            ));
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_a_fish_has_a_length() {
        let event = |kind, length| Event {
            outing: OutingId(1),
            kind,
            at: Timestamp::UNIX_EPOCH,
            entered: Timestamp::UNIX_EPOCH,
            line: None,
            speed: MetresPerSecond(0.5),
            length,
            kept: None,
            note: String::new(),
        };
        assert!(event(EventKind::Fish, Some(Metres(0.5))).check().is_ok());
        assert!(event(EventKind::Strike, Some(Metres(0.5))).check().is_err());
        assert!(event(EventKind::Fish, Some(Metres(9.0))).check().is_err());
        assert!(event(EventKind::Strike, None).check().is_ok());
    }
}
