//! The order of work: what to do first, with which measure, tool and caution.

use super::baiting::{Baiting, baiting};
use super::cut;
use crate::rig::{Kind, Knot, Piece, Stack, What};
use crate::units::Metres;

/// What is done in a step. `piece` is a place in the stack.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Action {
    /// Cut the wire or line.
    Cut {
        /// So much.
        length: Metres,
    },
    /// Bend an eye, twist its wraps, trim the tail.
    BendEye {
        /// Whether it is the front one.
        front: bool,
        /// Inner diameter.
        inside: Metres,
        /// Wraps.
        wraps: u8,
    },
    /// Bend the lower eye, hang the hook in before it is closed.
    HangHook {
        /// The hook.
        piece: usize,
        /// Inner diameter of the eye.
        inside: Metres,
        /// Wraps that close it.
        wraps: u8,
    },
    /// Thread some parts.
    Thread {
        /// Which.
        piece: usize,
    },
    /// Thread a blade on its clevis, hollow side towards the shaft.
    HangBlade {
        /// The blade.
        piece: usize,
    },
    /// Leave room for the twist of the next eye.
    LeaveRoom {
        /// How much.
        length: Metres,
    },
    /// Crimp the hook's open eye and straighten both eyes of the wire in one line.
    Straighten,
    /// Snell a hook.
    Snell {
        /// Which piece.
        piece: usize,
        /// Which hook of it.
        nth: u8,
        /// Wraps.
        wraps: u8,
        /// Eye to eye from the hook before it; none for the first one tied.
        at: Option<Metres>,
        /// Whether it shall slide on the line.
        sliding: bool,
    },
    /// Tie the front knot.
    Tie {
        /// Which.
        knot: Knot,
        /// The swivel, snap or attractor it holds.
        piece: Option<usize>,
        /// Leader from the knot to the front hook when it is drawn tight.
        finished: Metres,
    },
    /// Hang hardware to the front.
    Attach {
        /// Which.
        piece: usize,
    },
    /// Trim a skirt level with the hook's bend.
    Trim {
        /// The skirt.
        piece: usize,
        /// What is left of it.
        length: Metres,
    },
    /// Draw it straight, turn the blade with the breath, measure it.
    Test,
    /// Put the bait on.
    Bait {
        /// Which.
        piece: usize,
        /// What is done with it.
        how: Baiting,
    },
}

/// What it is done with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Tool {
    /// Side cutters and a ruler.
    Cutters,
    /// Round-nose pliers.
    RoundPliers,
    /// Flat pliers.
    FlatPliers,
    /// Scissors and a ruler.
    Scissors,
    /// Fingers.
    Fingers,
}

/// What to mind.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Caution {
    /// Wire ends fly and prick: eye protection.
    WireEnds,
    /// Points are sharp: hold the bend, keep side cutters within reach.
    Points,
    /// Lead: wash hands.
    Lead,
}

crate::keyed::keyed!(Tool {
    Cutters "cutters" "side cutters, ruler",
    RoundPliers "round_pliers" "round-nose pliers",
    FlatPliers "flat_pliers" "flat pliers",
    Scissors "scissors" "scissors, ruler",
    Fingers "fingers" "fingers",
});

crate::keyed::keyed!(Caution {
    WireEnds "wire_ends" "Wear eye protection: wire ends fly.",
    Points "points" "Hold the hook by its bend; keep side cutters within reach.",
    Lead "lead" "Lead: wash hands afterwards, keep it from children and food.",
});

/// One step of the work.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Step {
    /// What is done.
    pub action: Action,
    /// With what.
    pub tool: Tool,
    /// What to mind.
    pub caution: Option<Caution>,
}

impl Action {
    /// Its name in the JSON interface.
    pub fn key(&self) -> &'static str {
        match self {
            Self::Cut { .. } => "cut",
            Self::BendEye { .. } => "bend_eye",
            Self::HangHook { .. } => "hang_hook",
            Self::Thread { .. } => "thread",
            Self::HangBlade { .. } => "hang_blade",
            Self::LeaveRoom { .. } => "leave_room",
            Self::Straighten => "straighten",
            Self::Snell { .. } => "snell",
            Self::Tie { .. } => "tie",
            Self::Attach { .. } => "attach",
            Self::Trim { .. } => "trim",
            Self::Test => "test",
            Self::Bait { .. } => "bait",
        }
    }

    /// The piece it is about.
    pub fn piece(&self) -> Option<usize> {
        match self {
            Self::HangHook { piece, .. }
            | Self::Thread { piece }
            | Self::HangBlade { piece }
            | Self::Snell { piece, .. }
            | Self::Attach { piece }
            | Self::Trim { piece, .. }
            | Self::Bait { piece, .. } => Some(*piece),
            Self::Tie { piece, .. } => *piece,
            _ => None,
        }
    }

    /// The measure to take, where there is one.
    pub fn measure(&self) -> Option<Metres> {
        match self {
            Self::Cut { length } | Self::LeaveRoom { length } | Self::Trim { length, .. } => {
                Some(*length)
            }
            Self::BendEye { inside, .. } | Self::HangHook { inside, .. } => Some(*inside),
            Self::Snell { at, .. } => *at,
            Self::Tie { finished, .. } => Some(*finished),
            _ => None,
        }
    }
}

/// The steps of a stack in the order they are done.
///
/// Wire spinners are built from the front eye backwards; the salmon wire school starts at the hook and
/// ends with the front eye. Leaders are tied from the trailing hook forwards and end at the swivel
/// (common practice, no source).
pub fn steps(stack: &Stack) -> Vec<Step> {
    let work = Work { stack };
    let mut steps = if !stack.mount.is_wire() {
        work.leader()
    } else if stack.kind == Kind::SalmonWire {
        work.wire_from_the_hook()
    } else {
        work.wire_from_the_front()
    };
    if let Some((piece, Some(length))) = stack.skirt() {
        let trim = Action::Trim { piece, length };
        steps.push(step(trim, Tool::Scissors, Some(Caution::Points)));
    }
    steps.push(step(Action::Test, Tool::Fingers, Some(Caution::Points)));
    for piece in work.pieces(|piece| piece.part.bait().is_some()) {
        let hows = stack.pieces[piece]
            .part
            .bait()
            .map_or_else(Vec::new, |bait| baiting(stack, bait));
        steps.extend(hows.into_iter().map(|how| {
            let action = Action::Bait { piece, how };
            step(action, Tool::Fingers, Some(Caution::Points))
        }));
    }
    steps
}

fn step(action: Action, tool: Tool, caution: Option<Caution>) -> Step {
    Step {
        action,
        tool,
        caution,
    }
}

struct Work<'a> {
    stack: &'a Stack,
}

impl Work<'_> {
    fn pieces(&self, wanted: impl Fn(&Piece) -> bool) -> impl DoubleEndedIterator<Item = usize> {
        let places: Vec<usize> = (0..self.stack.pieces.len())
            .filter(|at| wanted(&self.stack.pieces[*at]))
            .collect();
        places.into_iter()
    }

    fn cut(&self, tool: Tool, caution: Option<Caution>) -> Step {
        let length = cut(self.stack).whole;
        step(Action::Cut { length }, tool, caution)
    }

    /// The step that threads a piece; a clevis goes on with its blade.
    fn thread(&self, at: usize) -> Option<Step> {
        let part = &self.stack.pieces[at].part;
        let next_is_blade = self
            .stack
            .pieces
            .get(at + 1)
            .is_some_and(|next| next.part.blade().is_some());
        let caution = (part.material == crate::rig::Material::Lead).then_some(Caution::Lead);
        let action = match part.what() {
            What::Clevis(_) if next_is_blade => return None,
            What::Hook(_) | What::Bait(_) => return None,
            What::Blade(_) => Action::HangBlade { piece: at },
            _ => Action::Thread { piece: at },
        };
        Some(step(action, Tool::Fingers, caution))
    }

    /// Places of what is threaded between the front hardware and the front hook.
    fn threaded(&self) -> std::ops::Range<usize> {
        let to = self
            .stack
            .hooks()
            .first()
            .copied()
            .unwrap_or(self.stack.pieces.len());
        self.stack.front_hardware().min(to)..to
    }

    fn eye(&self, front: bool) -> Step {
        let build = &self.stack.build;
        let action = Action::BendEye {
            front,
            inside: build.loop_diameter,
            wraps: build.wraps,
        };
        step(action, Tool::RoundPliers, Some(Caution::WireEnds))
    }

    fn hook_in_eye(&self) -> Step {
        let build = &self.stack.build;
        match self.stack.hooks().first() {
            Some(&piece) => step(
                Action::HangHook {
                    piece,
                    inside: build.loop_diameter,
                    wraps: build.wraps,
                },
                Tool::RoundPliers,
                Some(Caution::WireEnds),
            ),
            None => self.eye(false),
        }
    }

    fn attach(&self) -> impl Iterator<Item = Step> {
        (0..self.stack.front_hardware())
            .rev()
            .map(|piece| step(Action::Attach { piece }, Tool::FlatPliers, None))
    }

    fn room(&self) -> Step {
        let build = &self.stack.build;
        let wire = self.stack.mount.diameter();
        let length = f64::from(build.wraps) * wire + build.loop_diameter;
        step(Action::LeaveRoom { length }, Tool::Cutters, None)
    }

    /// What ends the work on every wire.
    fn straightened(&self) -> Vec<Step> {
        let mut steps = vec![step(
            Action::Straighten,
            Tool::FlatPliers,
            Some(Caution::Points),
        )];
        steps.extend(self.attach());
        steps
    }

    fn wire_from_the_front(&self) -> Vec<Step> {
        let mut steps = vec![
            self.cut(Tool::Cutters, Some(Caution::WireEnds)),
            self.eye(true),
        ];
        steps.extend(self.threaded().filter_map(|at| self.thread(at)));
        steps.push(self.room());
        steps.push(self.hook_in_eye());
        steps.extend(self.straightened());
        steps
    }

    fn wire_from_the_hook(&self) -> Vec<Step> {
        let mut steps = vec![
            self.cut(Tool::Cutters, Some(Caution::WireEnds)),
            self.hook_in_eye(),
        ];
        steps.extend(self.threaded().rev().filter_map(|at| self.thread(at)));
        steps.push(self.room());
        steps.push(self.eye(true));
        steps.extend(self.straightened());
        steps
    }

    fn leader(&self) -> Vec<Step> {
        let build = &self.stack.build;
        let mut steps = vec![self.cut(Tool::Scissors, None)];
        let hooks = self.stack.hooks();
        let sliding = self.stack.kind == Kind::BaitSpinner;
        for (place, &piece) in hooks.iter().enumerate().rev() {
            let is_last = place + 1 == hooks.len();
            let nth = hooks[..place].iter().filter(|at| **at == piece).count() as u8;
            steps.push(step(
                Action::Snell {
                    piece,
                    nth,
                    wraps: build.snell_wraps,
                    at: (!is_last).then_some(build.hook_spacing),
                    sliding: sliding && !is_last,
                },
                Tool::Fingers,
                Some(Caution::Points),
            ));
            // What lies between two hooks goes on before the next one.
            if let Some(&ahead) = place.checked_sub(1).and_then(|ahead| hooks.get(ahead)) {
                steps.extend((ahead + 1..piece).rev().filter_map(|at| self.thread(at)));
            }
        }
        steps.extend(self.threaded().rev().filter_map(|at| self.thread(at)));
        let held = self.stack.front_hardware().checked_sub(1);
        let tie = Action::Tie {
            knot: build.front_knot,
            piece: held.filter(|_| build.front_knot.is_tied_on()),
            finished: build.finished,
        };
        steps.push(step(tie, Tool::Scissors, None));
        let hung = held.map_or(0, |held| held + usize::from(!build.front_knot.is_tied_on()));
        steps.extend(
            (0..hung)
                .rev()
                .map(|piece| step(Action::Attach { piece }, Tool::FlatPliers, None)),
        );
        steps
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::bench::starting;
    use crate::fish::Fish;
    use crate::rig::HookSize;
    use rstest::rstest;

    fn order(kind: Kind, hook: i8) -> Vec<&'static str> {
        let stack = starting(kind, Fish::Walleye, HookSize::from_code(hook).unwrap(), &[]).unwrap();
        steps(&stack).iter().map(|step| step.action.key()).collect()
    }

    /// The true orders of the trade (common practice, no source).
    #[rstest]
    #[case::torpedo(
        Kind::InlineTorpedo, 4,
        &["cut", "bend_eye", "hang_blade", "thread", "thread", "leave_room", "hang_hook", "straighten", "test"]
    )]
    #[case::harness(
        Kind::CrawlerHarness, 2,
        &["cut", "snell", "snell", "thread", "thread", "hang_blade", "tie", "test", "bait", "bait", "bait"]
    )]
    fn a_kind_is_built_in_the_trades_order(
        #[case] kind: Kind,
        #[case] hook: i8,
        #[case] expected: &[&str],
    ) {
        assert_eq!(order(kind, hook), expected);
    }

    #[test]
    fn a_salmon_spinner_starts_at_its_hook_and_ends_at_its_front_eye() {
        let order = order(Kind::SalmonWire, -3);
        let place = |key| order.iter().position(|step| *step == key).unwrap();
        assert!(place("hang_hook") < place("thread"));
        assert!(place("thread") < place("hang_blade"));
        assert!(place("hang_blade") < place("bend_eye"));
    }

    #[test]
    fn a_bumper_goes_on_between_the_snells() {
        let stack = starting(
            Kind::BaitSpinner,
            Fish::Chinook,
            HookSize::from_code(-2).unwrap(),
            &[],
        )
        .unwrap();
        let keys: Vec<&str> = steps(&stack).iter().map(|step| step.action.key()).collect();
        assert_eq!(keys[..4], ["cut", "snell", "thread", "snell"]);
        let slides = steps(&stack)
            .iter()
            .any(|step| matches!(step.action, Action::Snell { sliding: true, .. }));
        assert!(slides);
    }

    #[test]
    fn every_wire_step_that_cuts_or_bends_warns_of_wire_ends() {
        let stack = starting(
            Kind::TrollingWire,
            Fish::RainbowTrout,
            HookSize::from_code(6).unwrap(),
            &[],
        )
        .unwrap();
        let warned = steps(&stack)
            .iter()
            .filter(|step| step.caution == Some(Caution::WireEnds))
            .count();
        assert_eq!(warned, 3);
    }
}
