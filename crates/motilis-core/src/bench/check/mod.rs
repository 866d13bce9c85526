//! Judging a stack as it hangs together, each finding with the edits that mend it.

mod bores;
mod parts;
mod rule;
mod spacing;
mod stock;
mod tied;
mod water;

pub use rule::Rule;

use super::figures::{Figures, figures};
use super::layout::Layout;
use super::mend::PLAY;
use super::{Cut, Stocked, cut};
use crate::rig::{Edit, Kind, Stack};
use crate::units::{Celsius, MILE_PER_HOUR, Metres, MetresPerSecond};
use crate::water::Water;

/// How a check came out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Level {
    /// It will not work.
    Fail,
    /// It works, but look at it.
    Warn,
    /// It works.
    Pass,
}

crate::keyed::keyed!(Level { Fail "fail" "Fix", Warn "warn" "Watch", Pass "pass" "Good" });

/// One check of a rig.
#[derive(Debug, Clone, PartialEq)]
pub struct Check {
    /// What was checked.
    pub rule: Rule,
    /// How it came out.
    pub level: Level,
    /// The piece it is about.
    pub at: Option<usize>,
    /// Changes that mend it, the best first: each is applied as a whole.
    pub mends: Vec<Vec<Edit>>,
}

/// A stack with everything that was found about it.
#[derive(Debug, Clone, PartialEq)]
pub struct Checked {
    /// Where each part sits.
    pub layout: Layout,
    /// What to cut.
    pub cut: Cut,
    /// What it weighs and does at its favourite speed.
    pub figures: Figures,
    /// Every check, the worst first.
    pub checks: Vec<Check>,
}

/// Water and speed the bench reckons with when nothing else is asked: fresh, 15 °C.
fn bench_water() -> (Water, Celsius) {
    let temperature = Celsius(15.0);
    let water = Water::fresh(temperature).expect("15 °C is in the range of fresh water");
    (water, temperature)
}

/// The speed a kind of rig is judged at on the bench.
fn bench_speed(kind: Kind) -> MetresPerSecond {
    kind.practice()
        .map_or(2.0 * MILE_PER_HOUR, |practice| practice.favourite)
}

/// Judges a stack, with mends out of a box, in a lake of 15 °C.
pub fn checks(stack: &Stack, stock: &[Stocked]) -> Checked {
    let (water, temperature) = bench_water();
    checks_in(stack, stock, &water, temperature)
}

/// Judges a stack as the bench shows it: no mend is offered that only leads to a fault that nothing mends.
pub fn offered(stack: &Stack, stock: &[Stocked], water: &Water, temperature: Celsius) -> Checked {
    let mut checked = checks_in(stack, stock, water, temperature);
    let fails = |check: &Check| check.level == Level::Fail;
    let now: Vec<Check> = checked
        .checks
        .iter()
        .filter(|check| fails(check))
        .cloned()
        .collect();
    let kind = |check: &Check| std::mem::discriminant(&check.rule);
    // What is still to be threaded comes piece by piece.
    let building = |check: &Check| matches!(check.rule, Rule::Hook | Rule::Blade { .. });
    for check in checked.checks.iter_mut().filter(|check| !building(check)) {
        check.mends.retain(|edits| {
            let Ok(next) = stack.edited_by(edits) else {
                return false;
            };
            let then = checks_in(&next, stock, water, temperature).checks;
            !then.iter().any(|found| {
                let is_new = !now.iter().any(|before| kind(before) == kind(found));
                fails(found) && found.mends.is_empty() && is_new
            })
        });
    }
    checked
}

/// Judges a stack, with mends out of a box, in a water.
pub fn checks_in(stack: &Stack, stock: &[Stocked], water: &Water, temperature: Celsius) -> Checked {
    let mut bench = Bench {
        stack,
        stock,
        layout: Layout::new(stack),
        cut: cut(stack),
        figures: figures(stack, water, temperature, bench_speed(stack.kind)),
        checks: Vec::new(),
    };
    bench.has_its_parts();
    bench.clevises();
    bench.tip();
    bench.quick_change();
    bench.points();
    bench.bores();
    bench.swallowed_beads();
    bench.skirt_bead();
    bench.skirt();
    bench.clevis_room();
    bench.above_clevis();
    bench.hook_spacing();
    bench.knots();
    bench.leader();
    bench.attractor();
    bench.window();
    bench.sinks();
    bench.takes_from_box();
    let Bench {
        layout,
        cut,
        figures,
        mut checks,
        ..
    } = bench;
    checks.sort_by_key(|check| check.level);
    Checked {
        layout,
        cut,
        figures,
        checks,
    }
}

struct Bench<'a> {
    stack: &'a Stack,
    stock: &'a [Stocked],
    layout: Layout,
    cut: Cut,
    figures: Figures,
    checks: Vec<Check>,
}

/// Passes or not.
fn pass_or(level: Level, good: bool) -> Level {
    if good { Level::Pass } else { level }
}

impl Bench<'_> {
    fn add(&mut self, rule: Rule, level: Level, at: Option<usize>, mends: Vec<Vec<Edit>>) {
        let mends = if level == Level::Pass {
            Vec::new()
        } else {
            mends
        };
        self.checks.push(Check {
            rule,
            level,
            at,
            mends,
        });
    }

    fn needs_bore(&self) -> Metres {
        self.stack.mount.diameter() + PLAY
    }
}
