use super::{BaitAfter, EventKind, Strike};
use crate::keyed::keyed;
use jiff::{SignedDuration, Timestamp};

/// What is tried on a rod after something touched it and did not hold.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Play {
    /// Slower by small steps.
    Slower,
    /// A pulse: a step faster and back.
    Pulse,
    /// Line is fed to the fish.
    FeedLine,
    /// The hook is set nearer the tail.
    HookBack,
    /// A shorter or fresher bait.
    ShorterBait,
    /// Scent.
    Scent,
    /// The skirt is trimmed to the bend of the hook.
    TrimSkirt,
    /// The stripped rig is left running a while: the blade alone.
    LeaveTurning,
    /// A new bait.
    ReBait,
    /// A bigger bait, for small fish that peck.
    BiggerBait,
    /// Another place.
    Move,
}

keyed!(Play {
    Slower "slower" "slow by 0.1 mph steps",
    Pulse "pulse" "give it a pulse",
    FeedLine "feed_line" "feed it line",
    HookBack "hook_back" "set the hook nearer the tail",
    ShorterBait "shorter_bait" "put on a shorter or fresher bait",
    Scent "scent" "add scent",
    TrimSkirt "trim_skirt" "trim the skirt to the bend",
    LeaveTurning "leave_turning" "leave the blade running a while",
    ReBait "re_bait" "re-bait it",
    BiggerBait "bigger_bait" "put on a bigger bait",
    Move "move" "move to another place",
});

/// What touched a rod and did not hold, in the four ways that are answered differently.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Touched {
    /// A fish came along and looked.
    Follow,
    /// It struck behind the hook.
    Short,
    /// It took the bait and left the hook.
    Stripped,
    /// Pecks of small fish.
    Light,
}

keyed!(Touched {
    Follow "follow" "follower",
    Short "short" "short strike",
    Stripped "stripped" "stripped bait",
    Light "light" "light bites",
});

impl Touched {
    /// What an entry is of these; `None` for what held, or is no bite.
    pub fn of(kind: EventKind, strike: Option<Strike>, after: Option<BaitAfter>) -> Option<Self> {
        match (kind, strike, after) {
            (EventKind::Follow, _, _) => Some(Self::Follow),
            (EventKind::Strike, _, Some(BaitAfter::Stripped)) => Some(Self::Stripped),
            (EventKind::Strike, Some(Strike::Short), _)
            | (EventKind::Strike, _, Some(BaitAfter::TailGone)) => Some(Self::Short),
            (EventKind::Strike, Some(Strike::Light), _) => Some(Self::Light),
            _ => None,
        }
    }

    /// What is tried then, in the order it is tried (common practice, no source).
    pub fn plays(self) -> &'static [Play] {
        match self {
            Self::Follow => &[Play::Slower, Play::Pulse],
            Self::Short => &[
                Play::FeedLine,
                Play::HookBack,
                Play::ShorterBait,
                Play::Scent,
                Play::TrimSkirt,
            ],
            Self::Stripped => &[Play::LeaveTurning, Play::ReBait],
            Self::Light => &[Play::BiggerBait, Play::Move],
        }
    }
}

/// A bite within this of a play on the same rod is told as its outcome (designed: about the minutes in which the same fish
/// comes back).
const OUTCOME: SignedDuration = SignedDuration::from_mins(10);

/// How often a play was tried, and how often something bit after it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Tried {
    /// Times it was tried.
    pub tried: u32,
    /// Times a strike or a fish came on the same rod within ten minutes.
    pub bit: u32,
}

/// Something on a rod, as far as plays and their outcomes go.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct OnRodAt {
    /// The rod.
    pub rod: u8,
    /// When.
    pub at: Timestamp,
    /// The play, if it is one.
    pub play: Option<Play>,
    /// Whether it is a strike or a fish.
    pub bite: bool,
}

/// What a play brought on one outing.
pub fn tried(entries: &[OnRodAt], play: Play) -> Tried {
    let plays = entries.iter().filter(|entry| entry.play == Some(play));
    plays.fold(Tried::default(), |sum, played| {
        let bit = entries.iter().any(|other| {
            let after = other.at.duration_since(played.at);
            other.bite
                && other.rod == played.rod
                && after > SignedDuration::ZERO
                && after <= OUTCOME
        });
        Tried {
            tried: sum.tried + 1,
            bit: sum.bit + u32::from(bit),
        }
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_way_of_touching_has_its_own_answers() {
        let of = Touched::of;
        assert_eq!(of(EventKind::Follow, None, None), Some(Touched::Follow));
        assert_eq!(
            of(EventKind::Strike, Some(Strike::Short), None),
            Some(Touched::Short)
        );
        let stripped = Some(BaitAfter::Stripped);
        assert_eq!(
            of(EventKind::Strike, Some(Strike::Hard), stripped),
            Some(Touched::Stripped)
        );
        assert_eq!(of(EventKind::Strike, Some(Strike::Hard), None), None);
        assert_eq!(of(EventKind::Fish, None, None), None);
        let mut all: Vec<Play> = Touched::ALL
            .iter()
            .flat_map(|one| one.plays())
            .copied()
            .collect();
        all.sort_unstable();
        let mut known = Play::ALL.to_vec();
        known.sort_unstable();
        assert_eq!(all, known, "every play answers one thing");
    }

    #[test]
    fn a_bite_on_the_same_rod_within_ten_minutes_is_an_outcome() {
        let entry = |rod, minute: i64, play, bite| OnRodAt {
            rod,
            at: Timestamp::from_second(1_780_000_000 + 60 * minute).unwrap(),
            play,
            bite,
        };
        let fed = Some(Play::FeedLine);
        let entries = [
            entry(1, 0, None, true),
            entry(1, 1, fed, false),
            entry(1, 4, None, true),
            entry(1, 30, fed, false),
            entry(2, 31, None, true),
            entry(1, 41, None, true),
            entry(2, 50, Some(Play::Scent), false),
        ];
        assert_eq!(tried(&entries, Play::FeedLine), Tried { tried: 2, bit: 1 });
        assert_eq!(tried(&entries, Play::Scent), Tried { tried: 1, bit: 0 });
        assert_eq!(tried(&entries, Play::Move), Tried::default());
    }
}
