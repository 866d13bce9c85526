use crate::keyed::keyed;

/// What is shown to the fish.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Presentation {
    /// A bait drifted under a float.
    Float,
    /// A bait drifted along the bed.
    Drift,
    /// A fly or jig swung through.
    Swing,
    /// A small spinner.
    SmallSpinner,
    /// The spinner.
    Spinner,
}

keyed!(Presentation {
    Float "float" "bait under a float",
    Drift "drift" "bait along the bed",
    Swing "swing" "fly or jig, swung",
    SmallSpinner "small_spinner" "small dull spinner",
    Spinner "spinner" "spinner",
});

impl Presentation {
    /// Whether it is a spinner, whose way the program computes.
    pub fn spins(self) -> bool {
        matches!(self, Self::SmallSpinner | Self::Spinner)
    }
}

/// In which order a hold is shown things: anglers disagree.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Order {
    /// The least intrusive first, the spinner cleans up.
    QuietFirst,
    /// The spinner first, for fresh fish that want to bite.
    SpinnerFirst,
    /// Spinners alone, small before large.
    SpinnersOnly,
}

keyed!(Order {
    QuietFirst "quiet_first" "quiet first, the spinner cleans up",
    SpinnerFirst "spinner_first" "spinner first, for fresh fish",
    SpinnersOnly "spinners_only" "spinners only",
});

impl Order {
    /// What is shown, with the casts of each (4 to 6 of a spinner, CP-30; common practice, no source; the others from memory).
    pub fn steps(self) -> &'static [(Presentation, u32)] {
        match self {
            Self::QuietFirst => &[
                (Presentation::Float, 8),
                (Presentation::Drift, 8),
                (Presentation::Swing, 6),
                (Presentation::Spinner, 5),
            ],
            Self::SpinnerFirst => &[
                (Presentation::Spinner, 5),
                (Presentation::Swing, 6),
                (Presentation::Drift, 8),
            ],
            Self::SpinnersOnly => &[(Presentation::SmallSpinner, 4), (Presentation::Spinner, 5)],
        }
    }

    /// Which step is next after so many casts of each kind; `None` when all are done.
    pub fn next(self, cast: impl Fn(Presentation) -> u32) -> Option<(Presentation, u32)> {
        let left = |(presentation, casts): &(Presentation, u32)| {
            (*presentation, casts.saturating_sub(cast(*presentation)))
        };
        self.steps().iter().map(left).find(|(_, left)| *left > 0)
    }
}
