//! The least change that puts a fault right.

use super::running::Running;
use super::{Fault, Gravity, Rod, Spread, Towed};
use crate::error::Error;
use crate::line::Surroundings;
use crate::rig::Rig;
use crate::units::{FOOT, MILE_PER_HOUR, Metres, MetresPerSecond};
use std::sync::Arc;

/// A change that was tried and puts the fault right.
#[derive(Debug, Clone, PartialEq)]
pub enum Mend {
    /// Another speed.
    Speed(MetresPerSecond),
    /// Another rig of the box on the line: its number in the list that was offered.
    Swap(usize),
    /// Another length of line out.
    Out(Metres),
    /// Another distance of the board.
    Board(Metres),
    /// A shorter leader.
    Lead(Metres),
    /// A wider turn.
    Radius(Metres),
    /// This line comes in.
    TakeIn,
}

/// The changes that put the worst fault of a line right, the cheapest first: line and speed before tackle.
///
/// `box_of_rigs` are rigs that lie made up; each mend is tried on the whole spread and kept only when the line
/// then fishes and no other line stops.
///
/// # Errors
/// As [`Spread::running`].
pub fn mends(
    spread: &Spread,
    surroundings: &Surroundings,
    running: &Running,
    place: usize,
    allowed: Option<u32>,
    box_of_rigs: &[Arc<Rig>],
) -> Result<Vec<Mend>, Error> {
    let faults = spread.faults(running, place, allowed);
    let Some(worst) = faults
        .first()
        .filter(|fault| fault.gravity() == Gravity::Fails)
    else {
        return Ok(Vec::new());
    };
    let rod = &spread.rods[place];
    let tried: Vec<Mend> = match worst {
        Fault::Stalled { .. }
        | Fault::RollingOver { .. }
        | Fault::Trips(_)
        | Fault::TooSlow { .. }
        | Fault::TooFast { .. } => {
            let mut tried = speeds(spread, running, place);
            tried.extend(swaps(rod, running, place, surroundings, box_of_rigs));
            tried.extend(wider(spread, surroundings, running)?);
            tried
        }
        Fault::OnBottom { touching, .. } => {
            let mut tried = wider(spread, surroundings, running)?;
            tried.extend(
                [0.97, 0.94, 0.9, 0.8, 0.7]
                    .iter()
                    .map(|share| Mend::Out(whole_feet(*touching * *share))),
            );
            tried
        }
        Fault::Near { .. } => apart(rod),
        Fault::LeaderTooLong { most } => vec![Mend::Lead(*most)],
        Fault::TooManyRods { .. } => return Ok(vec![Mend::TakeIn]),
        Fault::Unsolved(_) if matches!(rod.towed, Towed::Unfit(_)) => {
            swaps(rod, running, place, surroundings, box_of_rigs)
        }
        Fault::Unsolved(_) => [1.2, 1.6, 2.5]
            .iter()
            .map(|times| Mend::Out(whole_feet(rod.out * *times)))
            .collect(),
        Fault::OutsideWindow => Vec::new(),
    };
    let now = running.fishing();
    let mut kept: Vec<Mend> = Vec::new();
    for mend in tried {
        let same_kind = |one: &Mend| std::mem::discriminant(one) == std::mem::discriminant(&mend);
        if kept.iter().any(same_kind) {
            continue;
        }
        if works(
            spread,
            surroundings,
            running,
            place,
            &mend,
            box_of_rigs,
            now,
        ) {
            kept.push(mend);
        }
    }
    Ok(kept)
}

impl Spread {
    /// The spread with a mend made on one of its lines.
    #[must_use]
    pub fn mended(&self, place: usize, mend: &Mend, box_of_rigs: &[Arc<Rig>]) -> Self {
        let mut next = self.clone();
        let rod = &mut next.rods[place];
        match mend {
            Mend::Speed(speed) => next.speed = *speed,
            Mend::Swap(rig) => {
                if let Some(rig) = box_of_rigs.get(*rig) {
                    rod.towed = Towed::Rig(Arc::clone(rig));
                }
            }
            Mend::Out(out) => {
                let out = *out;
                for other in 0..self.rods.len() {
                    if other == place || self.share_a_cable(place, other) {
                        next.rods[other].out = out;
                    }
                }
            }
            Mend::Board(board) => rod.board = Some(*board),
            Mend::Lead(lead) => {
                let mut setup = (*rod.setup).clone();
                setup.lead = *lead;
                rod.setup = Arc::new(setup);
            }
            Mend::Radius(_) => {}
            Mend::TakeIn => {
                next.rods.remove(place);
            }
        }
        next
    }
}

fn works(
    spread: &Spread,
    surroundings: &Surroundings,
    running: &Running,
    place: usize,
    mend: &Mend,
    box_of_rigs: &[Arc<Rig>],
    now: usize,
) -> bool {
    let next = spread.mended(place, mend, box_of_rigs);
    let turn = match (mend, running.turn) {
        (Mend::Radius(radius), Some(turn)) => Some(super::Turn {
            radius: *radius,
            ..turn
        }),
        (_, turn) => turn,
    };
    // A mend that cannot be, such as a board beyond its range, is none.
    let Ok(then) = next.running(surroundings, turn) else {
        return false;
    };
    let leader = next.rods[place].leader_fault().is_none() || !matches!(mend, Mend::Lead(_));
    let more = then.fishing() > now || matches!(mend, Mend::Lead(_)) && then.fishing() >= now;
    leader && more && !then.fails(place)
}

/// Speeds at which the line works, the nearest first, in tenths of a mile an hour.
fn speeds(spread: &Spread, running: &Running, place: usize) -> Vec<Mend> {
    let line = &running.lines[place];
    // In a turn the line meets its own speed; the boat's stands to it as ever.
    let share = if line.speed.0 > 0.0 {
        spread.speed.0 / line.speed.0
    } else {
        1.0
    };
    let tenth = 0.1 * MILE_PER_HOUR.0;
    let now = spread.speed.0;
    let from = (line.window.from.0 * share / tenth).ceil() * tenth;
    let to = line
        .window
        .to
        .map(|to| (to.0 * share / tenth).floor() * tenth);
    let nearest = if now < from { from } else { to.unwrap_or(now) };
    (0..6)
        .map(|i| f64::from(i) * tenth)
        .map(|more| {
            if now < from {
                nearest + more
            } else {
                nearest - more
            }
        })
        .filter(|v| *v > 0.0)
        .map(|v| Mend::Speed(MetresPerSecond(v)))
        .collect()
}

/// Rigs of the box whose window holds the speed: of the same kind first, then the nearest favourite.
fn swaps(
    rod: &Rod,
    running: &Running,
    place: usize,
    surroundings: &Surroundings,
    box_of_rigs: &[Arc<Rig>],
) -> Vec<Mend> {
    let speed = running.lines[place].speed;
    let kind = match &rod.towed {
        Towed::Rig(rig) => Some(rig.kind()),
        Towed::Lure(_) | Towed::Unfit(_) => None,
    };
    let mut fit = Vec::new();
    for (number, rig) in box_of_rigs.iter().enumerate() {
        let water = &surroundings.water;
        let Ok(window) = rig.window(water, surroundings.temperature) else {
            continue;
        };
        if window.holds(speed) && rig.name != rod.towed.name() {
            let off = (rig.kind().trolled().favourite.0 - speed.0).abs();
            fit.push((Some(rig.kind()) != kind, off, number));
        }
    }
    fit.sort_by(|a, b| a.0.cmp(&b.0).then(a.1.total_cmp(&b.1)));
    let tried = fit
        .into_iter()
        .take(3)
        .map(|(_, _, number)| Mend::Swap(number));
    tried.collect()
}

fn wider(
    spread: &Spread,
    surroundings: &Surroundings,
    running: &Running,
) -> Result<Vec<Mend>, Error> {
    let Some(turn) = running.turn else {
        return Ok(Vec::new());
    };
    let safe = spread.safe_turn(surroundings, turn.to)?;
    let wider = safe.radius.filter(|radius| *radius > turn.radius);
    Ok(wider
        .map(|radius| Mend::Radius(Metres((radius.0 * 1.02).ceil())))
        .into_iter()
        .collect())
}

/// Ways to part two lines: the board farther out or nearer, the line shorter or longer.
fn apart(rod: &Rod) -> Vec<Mend> {
    let mut tried = Vec::new();
    if let Some(board) = rod.board.filter(|_| rod.has_board()) {
        for feet in [8.0, -8.0, 16.0, -16.0, 30.0] {
            tried.push(Mend::Board(board + feet * FOOT));
        }
    }
    for share in [0.85, 1.15, 0.7, 1.3, 1.6] {
        tried.push(Mend::Out(whole_feet(rod.out * share)));
    }
    tried
}

fn whole_feet(length: Metres) -> Metres {
    (length / FOOT).round().max(1.0) * FOOT
}
