use super::candidate::Shortage;
use super::term::{Basis, Scored, Term};
use crate::blade::{Running, Window};
use crate::ids::RuleId;
use crate::light::Sighting;
use crate::line::OutFor;
use crate::rules::Topic;
use crate::tackle::Release;
use crate::units::{Kilograms, Metres, MetresPerSecond};

/// Whether a rig is worth setting out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Verdict {
    /// It works.
    Works,
    /// It works, but something needs an eye.
    Watch,
    /// It cannot work as it is.
    Cannot,
}

/// The one thing to say about a rig.
#[derive(Debug, Clone, PartialEq)]
pub enum Reason {
    /// A part runs short: it cannot be built.
    Short(Box<Shortage>),
    /// A rule that the angler typed in speaks against it.
    AgainstRule {
        /// Which.
        rule: RuleId,
        /// What it is about.
        topic: Topic,
    },
    /// The blade hangs below this speed.
    Stalls {
        /// Slowest usable speed.
        needs: MetresPerSecond,
    },
    /// The rig rolls over above this speed.
    RollsOver {
        /// Fastest usable speed.
        above: MetresPerSecond,
        /// Whether it is on wire, where roll-over is line twist.
        twists_line: bool,
    },
    /// Its diver's release lets go without a fish.
    Trips(Release),
    /// It turns, but so near its start that it is not to be trusted.
    NearStall {
        /// Slowest usable speed.
        from: MetresPerSecond,
    },
    /// It turns, but a little more speed rolls it over.
    NearRollOver {
        /// Fastest usable speed.
        to: MetresPerSecond,
    },
    /// The wanted depth lies below the bottom.
    BelowBottom {
        /// Depth of the bottom.
        bottom: Metres,
    },
    /// All the line does not take it down.
    TooDeep {
        /// Depth with all of it out.
        deepest: Metres,
        /// Weight that would, and what to let out with it.
        enough: Option<(Kilograms, Metres)>,
    },
    /// It runs deeper whatever is done.
    TooShallow {
        /// Its least depth.
        least: Metres,
    },
    /// So much line for the depth that a little speed more or less moves it far.
    LongLine {
        /// What would be out.
        out: Metres,
        /// The depth wanted.
        depth: Metres,
    },
    /// A ball is no tool for so little depth.
    BallForShallow {
        /// The depth wanted.
        depth: Metres,
    },
    /// Its attractor does not do what it is made for at this speed.
    AttractorIdle {
        /// Slowest speed at which it does.
        from: MetresPerSecond,
        /// Fastest.
        to: MetresPerSecond,
    },
    /// It is trolled, and the water is a river.
    NotCast,
    /// The weight would drag over the bottom at the wanted depth.
    Drags,
    /// The bench found that it will not work as built.
    Unsound {
        /// What it found.
        rule: crate::bench::Rule,
    },
    /// It works; the term that speaks most, for it or against it.
    Practice(Scored),
}

/// The judgement of one rig.
#[derive(Debug, Clone, PartialEq)]
pub struct Call {
    /// Whether it works.
    pub verdict: Verdict,
    /// What the blade does at the speed of the day.
    pub blade: Running,
    /// How strongly a fish feels blade and bait.
    pub thump: f64,
    /// Between which speeds the rig is worth fishing.
    pub window: Window,
    /// The speed practice would run it at today, inside that window.
    pub best_speed: MetresPerSecond,
    /// What to let out for the wanted depth; `None` in a river, where it is cast.
    pub out: Option<OutFor>,
    /// How the fish sees it there.
    pub sighting: Sighting,
    /// The one thing to say.
    pub reason: Reason,
    /// Sum of the terms' points times their weights.
    pub score: f64,
    /// Each term, in their order.
    pub terms: Vec<Scored>,
}

impl Call {
    /// A term of it.
    pub fn term(&self, term: Term) -> &Scored {
        &self.terms[term as usize]
    }

    /// What the blade's noticeability is out of 100, the best of the candidates being 100.
    pub fn noticeability(&self) -> f64 {
        match self.term(Term::Seen).basis {
            Basis::Seen { score, best, .. } if best > 0.0 => 100.0 * score / best,
            _ => 0.0,
        }
    }
}
