//! Judges lines against the conditions of an outing: which work, which cannot, and why.
//!
//! First what is computed: does the blade turn at the speed of the day, can the wanted depth be had
//! ([`Verdict`], [`Reason`]). Among the lines that work the order follows a few [`Rule`]s of common
//! practice, each worth −1 to 1 points times its weight. The whole judgement is deterministic; ties
//! go by name.

mod day;
mod rule;

pub use day::{Day, Fish, Mood, Sky};
pub use rule::{Rule, Scored};

use crate::blade::{Running, State, Window};
use crate::error::Error;
use crate::line::{Bottom, Line, LineSetup, OutFor};
use crate::rig::Rig;
use crate::units::{Kilograms, Metres, MetresPerSecond};

/// Whether a line is worth setting out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Verdict {
    /// It works.
    Works,
    /// It works, but something needs an eye.
    Watch,
    /// It cannot work as it is.
    Cannot,
}

/// The one thing to say about a line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Reason {
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
    /// The weight would drag over the bottom at the wanted depth.
    Drags,
    /// The bench found that it will not work as built.
    Unsound {
        /// What it found.
        rule: crate::bench::Rule,
    },
    /// It works; the rule that speaks most, for it or against it.
    Practice(Scored),
}

/// The judgement of one line.
#[derive(Debug, Clone, PartialEq)]
pub struct Call {
    /// Whether it works.
    pub verdict: Verdict,
    /// What the blade does at the speed of the day.
    pub blade: Running,
    /// Between which speeds the rig is worth fishing.
    pub window: Window,
    /// What to let out for the wanted depth.
    pub out: OutFor,
    /// The one thing to say.
    pub reason: Reason,
    /// Sum of the rules' points times their weights.
    pub score: f64,
    /// Each rule with its points, in the order of the rules.
    pub rules: Vec<Scored>,
}

/// Judges one rig on its set-up for a day.
///
/// # Errors
/// [`Error`] for conditions, a rig or a set-up whose figures cannot be.
pub fn call(day: &Day, rig: &Rig, setup: &LineSetup) -> Result<Call, Error> {
    let line = Line::new(rig, setup, day.surroundings()?)?;
    let water = day.water()?;
    let (_, blade) = rig.at(day.speed, &water, day.temperature)?;
    let window = line.window()?;
    let out = line.out_for(day.speed, day.wanted_depth)?;
    let rules = rule::all(day, rig, &blade);
    let (verdict, reason) = judge(day, rig, &blade, window, &out, &rules);
    Ok(Call {
        verdict,
        blade,
        window,
        out,
        reason,
        score: rules.iter().map(Scored::weighted).sum(),
        rules,
    })
}

/// The order of a call sheet: by verdict, then by score from the highest, then by name.
pub fn before(a: (&Call, &str), b: (&Call, &str)) -> std::cmp::Ordering {
    let ((a, a_name), (b, b_name)) = (a, b);
    a.verdict
        .cmp(&b.verdict)
        .then_with(|| b.score.total_cmp(&a.score))
        .then_with(|| a_name.cmp(b_name))
}

fn judge(
    day: &Day,
    rig: &Rig,
    blade: &Running,
    window: Window,
    out: &OutFor,
    rules: &[Scored],
) -> (Verdict, Reason) {
    match blade.state {
        State::Stalled => return (Verdict::Cannot, Reason::Stalls { needs: window.from }),
        State::RollingOver => {
            let reason = Reason::RollsOver {
                above: window.to.unwrap_or(day.speed),
                twists_line: rig.stack().mount.is_wire(),
            };
            return (Verdict::Cannot, reason);
        }
        State::Turning => {}
    }
    match out {
        OutFor::BelowBottom { bottom } => {
            return (Verdict::Cannot, Reason::BelowBottom { bottom: *bottom });
        }
        OutFor::TooDeep { deepest, enough } => {
            let reason = Reason::TooDeep {
                deepest: *deepest,
                enough: *enough,
            };
            return (Verdict::Cannot, reason);
        }
        OutFor::TooShallow { least } => {
            return (Verdict::Cannot, Reason::TooShallow { least: *least });
        }
        OutFor::Out(run) if matches!(run.bottom, Bottom::Dragging { .. }) => {
            return (Verdict::Watch, Reason::Drags);
        }
        OutFor::Out(_) => {}
    }
    if let Some(rule) = unsound(rig) {
        return (Verdict::Watch, Reason::Unsound { rule });
    }
    if day.speed < window.from {
        return (Verdict::Watch, Reason::NearStall { from: window.from });
    }
    if let Some(to) = window.to.filter(|to| day.speed > *to) {
        return (Verdict::Watch, Reason::NearRollOver { to });
    }
    // That it is tied for the fish goes without saying; that it is not must be said.
    let worth_saying = |scored: &&Scored| scored.rule != Rule::Kind || scored.points < 0.0;
    let loudest = rules
        .iter()
        .filter(worth_saying)
        .copied()
        .max_by(|a, b| a.weighted().abs().total_cmp(&b.weighted().abs()))
        .expect("there are rules");
    (Verdict::Works, Reason::Practice(loudest))
}

/// What the bench says will not work as built: a check that fails, or a blade that reaches the hook.
fn unsound(rig: &Rig) -> Option<crate::bench::Rule> {
    use crate::bench::{Level, Rule, checks};
    let found = checks(rig.stack(), &[]).ok()?.checks;
    found
        .into_iter()
        .find(|check| match check.rule {
            Rule::Tip { clearance, .. } => clearance.0 < -2e-3 && check.level != Level::Pass,
            // A rig that is fished hangs its blade on something, noted or not.
            Rule::OnClevis => false,
            _ => check.level == Level::Fail,
        })
        .map(|check| check.rule)
}
