use jiff::Timestamp;
use thiserror::Error;

/// Why a question has no answer, or an act was not done.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum Error {
    /// The data file.
    #[error(transparent)]
    Store(#[from] motilis_store::Error),
    /// A stored record that a computation cannot bear, and that nothing on the page stands in for.
    #[error(transparent)]
    Core(#[from] motilis_core::Error),
    /// There is no such thing.
    #[error("there is no {0}")]
    Missing(String),
    /// There is no outing yet.
    #[error("there is no outing in this data file yet")]
    NoOuting,
    /// An act was refused.
    #[error("the act was refused: {0:?}")]
    Refused(Refusal),
}

impl From<Refusal> for Error {
    fn from(refusal: Refusal) -> Self {
        Self::Refused(refusal)
    }
}

/// Why an act is refused; the words are the views'.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub enum Refusal {
    /// What it touches has changed since it was seen.
    Overtaken {
        /// What.
        what: &'static str,
    },
    /// An outing needs a water.
    NoWater,
    /// The only outing cannot be thrown away.
    OnlyOuting,
    /// The open outing is on this water.
    OpenOnWater,
    /// The clock of this machine cannot be right.
    Clock(motilis_core::Error),
    /// No line runs that something could happen on.
    NoLine,
    /// The outing has no such rod.
    NoRod(u8),
    /// A pass ends before it begins.
    EndsFirst,
    /// Nothing is threaded that could be built.
    NothingThreaded,
    /// That blade cannot be hung on that rig any more.
    NoSuchSwap,
    /// There is no such step in the order of work.
    NoSuchStep {
        /// Number asked for, from 1.
        step: usize,
        /// How many there are.
        steps: usize,
    },
    /// So many anglers cannot be aboard.
    Crew(u32),
    /// The rule is of another water.
    OtherWater,
    /// No outing was fished in the hours of a track.
    NoOutingThen(Timestamp, Timestamp),
    /// The open outing is not on the water of that run.
    OtherRun,
    /// That experiment is over.
    Over,
    /// Nobody knows where the boat is.
    NoPlace,
    /// The open outing is no practice trip.
    NoPractice,
    /// A figure cannot be.
    Figure(motilis_core::Error),
}
