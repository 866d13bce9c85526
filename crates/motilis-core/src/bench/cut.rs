use super::Layout;
use crate::rig::{Hook, Knot, Stack};
use crate::units::{MILLIMETRE, Metres};
use std::f64::consts::PI;

/// What to cut off the spool, with where it goes.
#[derive(Debug, Clone, PartialEq)]
pub struct Cut {
    /// All of it.
    pub whole: Metres,
    /// What stays straight: the wire between its eyes, or the leader to the front hook.
    pub straight: Metres,
    /// What each bent eye with its wraps and tail takes; empty on a leader.
    pub eyes: Vec<Metres>,
    /// What each snell takes with its run and tag, front hook first; empty on wire.
    pub snells: Vec<Metres>,
    /// From the front hook to the last one.
    pub between_hooks: Metres,
    /// What the front knot takes.
    pub knot: Metres,
}

/// Line that runs along the shank under a snell beside its wraps, through the eye and past it.
const SHANK_RUN: Metres = Metres(5.0 * MILLIMETRE.0);
/// Tag of a snell that the fingers hold, trimmed afterwards; from memory.
const SNELL_TAG: Metres = Metres(25.0 * MILLIMETRE.0);

/// Length of a helix: so many turns about a mean diameter at a pitch.
///
/// `n · √((π D)² + p²)`, the arc length of a circular helix (closed form; any calculus text).
pub fn helix(turns: f64, diameter: Metres, pitch: Metres) -> Metres {
    Metres(turns * (PI * diameter.0).hypot(pitch.0))
}

/// What a rig takes off its spool.
///
/// Wire: the straight length, and for each eye `π (d_loop + d_wire)`, the twist wraps as a helix
/// of wire about wire (mean diameter `2 d_wire`, pitch one wire), and the tail that is trimmed.
/// Leader: the finished length, for each hook a snell (wraps as a helix about the shank, mean
/// diameter `d_shank + d_line`, pitch one line; the run along the shank and the tag), the hooks'
/// spacing, and the front knot.
pub fn cut(stack: &Stack) -> Cut {
    let build = &stack.build;
    let layout = Layout::new(stack);
    let d = stack.mount.diameter();
    let hooks: Vec<Hook> = stack
        .hooks()
        .into_iter()
        .filter_map(|at| stack.pieces[at].part.hook())
        .collect();
    let between_hooks = hooks.len().saturating_sub(1) as f64 * build.hook_spacing;
    let (eyes, snells, knot) = if stack.mount.is_wire() {
        let bent = PI * (build.loop_diameter + d);
        let eye = bent + helix(f64::from(build.wraps), 2.0 * d, d) + build.tail;
        (vec![eye; 2], Vec::new(), Metres(0.0))
    } else {
        let snells = hooks.iter().map(|hook| snell(hook, build.snell_wraps, d));
        (Vec::new(), snells.collect(), build.front_knot_takes())
    };
    let parts = eyes.iter().chain(&snells);
    let whole = parts.fold(layout.straight + between_hooks + knot, |sum, part| {
        sum + *part
    });
    Cut {
        whole,
        straight: layout.straight,
        eyes,
        snells,
        between_hooks,
        knot,
    }
}

/// What one snell takes: its wraps, the run beneath them and past the eye, the tag.
fn snell(hook: &Hook, wraps: u8, line: Metres) -> Metres {
    let wraps = f64::from(wraps);
    helix(wraps, hook.wire() + line, line) + wraps * line + SHANK_RUN + SNELL_TAG
}

impl Knot {
    /// Whether a snap or swivel is tied in with it rather than hung in.
    pub fn is_tied_on(self) -> bool {
        self != Self::Loop
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::rig::{BARE, HookStyle, Kind, Mount, Part, Piece, What};
    use crate::units::INCH;
    use approx::assert_relative_eq;

    fn hooks(style: HookStyle, code: f64, count: u8) -> Piece {
        Piece::many(Part::new(What::Hook(style), code, BARE).unwrap(), count)
    }

    /// CP-11 (common practice, no source): a 45 in piece of 40 lb leader with two 3/0 hooks, 10–11
    /// wraps each, two finger widths apart, and a swivel finishes at about 32 in.
    #[test]
    fn forty_five_inches_finish_at_about_thirty_two() {
        let mut stack = Stack::empty(Kind::LeaderSquid, Mount::leader(40).unwrap());
        stack.pieces = vec![hooks(HookStyle::Octopus, -3.0, 2)];
        stack.build.snell_wraps = 10;
        stack.build.hook_spacing = Metres(0.038);
        let taken = cut(&stack).whole - stack.build.finished;
        let finished = 45.0 * INCH - taken;
        assert_relative_eq!(finished / INCH, 32.0, max_relative = 0.10);
    }

    #[test]
    fn the_wire_of_a_spinner_is_what_its_arithmetic_says() {
        let mut stack = Stack::empty(Kind::TrollingWire, Mount::wire(30.0).unwrap());
        stack.pieces = vec![hooks(HookStyle::Treble, 6.0, 1)];
        let wire: f64 = 0.762e-3;
        // An eye: π (3 + 0.762) = 11.819 mm; three wraps of √((π·1.524)² + 0.762²) = 4.848 mm; 12.7 mm.
        let wrap = ((PI * 2.0 * wire).powi(2) + wire * wire).sqrt();
        let eye = PI * (3e-3 + wire) + 3.0 * wrap + 12.7e-3;
        let cut = cut(&stack);
        assert_relative_eq!(cut.eyes[0].0, eye, epsilon = 1e-12);
        assert_relative_eq!(eye, 39.06e-3, epsilon = 1e-5);
        assert_relative_eq!(cut.whole.0, cut.straight.0 + 2.0 * eye, epsilon = 1e-12);
    }

    #[test]
    fn a_leader_harness_adds_up() {
        let mut stack = Stack::empty(Kind::CrawlerHarness, Mount::leader(17).unwrap());
        stack.pieces = vec![hooks(HookStyle::Octopus, 2.0, 2)];
        // Snell, number 2 (0.95 mm wire), 0.39 mm line, 8 wraps: 8 · √((π·1.34)² + 0.39²) = 33.82 mm,
        // 8 · 0.39 = 3.12 mm beneath, 5 mm past the eye, 25 mm tag: 66.94 mm.
        let cut = cut(&stack);
        assert_relative_eq!(cut.snells[0].0, 66.94e-3, epsilon = 1e-5);
        // 1 524 mm + 2 snells + 89 mm + 90 mm of clinch.
        assert_relative_eq!(
            cut.whole.0,
            1.524 + 2.0 * 66.94e-3 + 0.089 + 0.090,
            epsilon = 2e-5
        );
    }

    /// The helix against a numerical sum of its chords: independent of the closed form.
    #[test]
    fn a_helix_is_as_long_as_its_chords() {
        let (turns, d, p) = (7.0, 1.34e-3, 0.39e-3);
        let steps = 70_000;
        let point = |i: usize| {
            let angle = 2.0 * PI * turns * i as f64 / steps as f64;
            (
                0.5 * d * angle.cos(),
                0.5 * d * angle.sin(),
                p * angle / (2.0 * PI),
            )
        };
        let chords: f64 = (0..steps)
            .map(|i| {
                let (a, b) = (point(i), point(i + 1));
                ((a.0 - b.0).powi(2) + (a.1 - b.1).powi(2) + (a.2 - b.2).powi(2)).sqrt()
            })
            .sum();
        assert_relative_eq!(
            helix(turns, Metres(d), Metres(p)).0,
            chords,
            max_relative = 1e-7
        );
    }
}
