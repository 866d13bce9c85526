use super::line_running::State;
use super::running::Running;
use super::{Rod, Spread, TANGLED};
use crate::line::Bottom;
use crate::tackle::Release;
use crate::units::{Metres, MetresPerSecond};

/// What is wrong with a line.
#[derive(Debug, Clone, PartialEq)]
pub enum Fault {
    /// It cannot be solved; the sentence says why.
    Unsolved(crate::Error),
    /// Its blade does not turn.
    Stalled {
        /// Speed at which it starts.
        starts: MetresPerSecond,
    },
    /// Its rig turns instead of its blade.
    RollingOver {
        /// Speed at which that begins.
        above: MetresPerSecond,
    },
    /// Its lure is slower than it works.
    TooSlow {
        /// Least speed.
        from: MetresPerSecond,
    },
    /// Its lure is faster than it works.
    TooFast {
        /// Greatest speed.
        to: MetresPerSecond,
    },
    /// It turns, but outside the speeds worth fishing it at.
    OutsideWindow,
    /// Its diver's release lets go without a fish.
    Trips(Release),
    /// It is on the bottom.
    OnBottom {
        /// Line too much.
        too_much: Metres,
        /// What just touches.
        touching: Metres,
    },
    /// It comes near another line.
    Near {
        /// The other line.
        other: usize,
        /// Their least distance.
        distance: Metres,
    },
    /// Its leader behind a diver is longer than the rod, so the fish cannot be netted (CP-16).
    LeaderTooLong {
        /// The longest that can be netted.
        most: Metres,
    },
    /// More rods are out than the rules that were typed in allow.
    TooManyRods {
        /// Lines allowed.
        allowed: u32,
    },
}

/// How bad a fault is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Gravity {
    /// Worth a look.
    Watch,
    /// The line does not fish.
    Fails,
}

impl Fault {
    /// How bad it is.
    pub fn gravity(&self) -> Gravity {
        match self {
            Self::OutsideWindow => Gravity::Watch,
            Self::Near { distance, .. } if *distance >= TANGLED => Gravity::Watch,
            _ => Gravity::Fails,
        }
    }
}

impl Running {
    /// What is wrong with a line as it runs, the worst first.
    pub fn faults_of(&self, place: usize) -> Vec<Fault> {
        let line = &self.lines[place];
        let mut faults = Vec::new();
        if let Some(refusal) = &line.refused {
            faults.push(Fault::Unsolved(refusal.clone()));
        }
        if let Bottom::Dragging { too_much, touching } = line.bottom {
            faults.push(Fault::OnBottom { too_much, touching });
        }
        faults.extend(line.release.filter(Release::trips).map(Fault::Trips));
        let blade = line.blade.as_ref();
        match line.state {
            State::Works if line.window.holds(line.speed) => {}
            State::Works => faults.push(Fault::OutsideWindow),
            State::Stalled => faults.extend(blade.map(|blade| Fault::Stalled {
                starts: blade.start,
            })),
            State::RollingOver => {
                let above = blade.and_then(|blade| blade.roll_over);
                faults.extend(above.map(|above| Fault::RollingOver { above }));
            }
            State::TooSlow => faults.push(Fault::TooSlow {
                from: line.window.from,
            }),
            State::TooFast => faults.push(Fault::TooFast {
                to: line.practice.to,
            }),
        }
        for tangle in &self.tangles {
            let (a, b) = tangle.lines;
            let other = match place {
                _ if place == a => b,
                _ if place == b => a,
                _ => continue,
            };
            faults.push(Fault::Near {
                other,
                distance: tangle.distance,
            });
        }
        faults.sort_by_key(|fault| std::cmp::Reverse(fault.gravity()));
        faults
    }

    /// How many lines fish: nothing about them fails.
    pub fn fishing(&self) -> usize {
        (0..self.lines.len())
            .filter(|&place| !self.fails(place))
            .count()
    }
}

impl Rod {
    /// The fault of a leader that is too long behind a diver.
    pub fn leader_fault(&self) -> Option<Fault> {
        let diver = self.setup.weight.is_some_and(|weight| weight.is_diver());
        (diver && self.setup.lead > self.length)
            .then_some(Fault::LeaderTooLong { most: self.length })
    }
}

impl Spread {
    /// Everything wrong with a line: as it runs, and as it is rigged; `allowed` lines by the typed-in rules.
    pub fn faults(&self, running: &Running, place: usize, allowed: Option<u32>) -> Vec<Fault> {
        let mut faults = running.faults_of(place);
        faults.extend(self.rods[place].leader_fault());
        if let Some(allowed) = allowed.filter(|allowed| place >= *allowed as usize) {
            faults.push(Fault::TooManyRods { allowed });
        }
        faults.sort_by_key(|fault| std::cmp::Reverse(fault.gravity()));
        faults
    }
}
