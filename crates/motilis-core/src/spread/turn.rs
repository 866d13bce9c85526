use super::frame::Turn;
use super::line_running::{offset, speeds, tail};
use super::running::Running;
use super::{Fault, Rod, Side, Spread, Towed};
use crate::error::Error;
use crate::fields;
use crate::line::{Rigging, Surroundings};
use crate::numeric::root;
use crate::units::{Metres, MetresPerSecond};

/// The tightest turn to a side in which nothing fails.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SafeTurn {
    /// The side.
    pub to: Side,
    /// Its least radius; `None` when no turn is safe, as with a spread that fails straight on.
    pub radius: Option<Metres>,
    /// The line that sets it.
    pub by: Option<usize>,
}

impl Spread {
    /// The smallest safe turn to a side: no blade stalls or rolls over that works straight on, no line comes to
    /// the bottom, no two tangle.
    ///
    /// # Errors
    /// As [`Spread::running`].
    pub fn safe_turn(&self, surroundings: &Surroundings, to: Side) -> Result<SafeTurn, Error> {
        let straight = self.running(surroundings, None)?;
        let mut radius = 5.0_f64;
        let mut by = None;
        for (place, rod) in self.rods.iter().enumerate() {
            if straight.fails(place) {
                continue;
            }
            let least = least_radius(self, rod, surroundings, to)?;
            if least > radius {
                (radius, by) = (least, Some(place));
            }
        }
        // A line at its own limit straight on bears no turn at all.
        if radius > fields::TURN_RADIUS.range.most {
            return Ok(SafeTurn {
                to,
                radius: None,
                by,
            });
        }
        // Lines that sink or rise may meet: open the turn until none do.
        for _ in 0..14 {
            let turn = Turn {
                radius: Metres(radius.min(2_000.0)),
                to,
            };
            let turning = self.running(surroundings, Some(turn))?;
            match newly_tangled(&straight, &turning) {
                None => {
                    return Ok(SafeTurn {
                        to,
                        radius: Some(turn.radius),
                        by,
                    });
                }
                Some(place) => (radius, by) = (radius * 1.3, Some(place)),
            }
        }
        Ok(SafeTurn {
            to,
            radius: None,
            by,
        })
    }
}

fn newly_tangled(straight: &Running, turning: &Running) -> Option<usize> {
    let tangled = |running: &Running, pair: (usize, usize)| {
        running
            .tangles
            .iter()
            .any(|one| one.lines == pair && one.distance < super::TANGLED)
    };
    turning
        .tangles
        .iter()
        .find(|one| one.distance < super::TANGLED && !tangled(straight, one.lines))
        .map(|one| one.lines.0)
}

/// The radius at which a line's own speed reaches the first of its limits.
fn least_radius(
    spread: &Spread,
    rod: &Rod,
    surroundings: &Surroundings,
    to: Side,
) -> Result<f64, Error> {
    let boat = spread.speed.0;
    let inside = to.sign() * offset(rod);
    if inside > 0.0 {
        let slowest = slowest(spread, rod, surroundings)?;
        Ok(inside / (1.0 - slowest / boat).max(1e-6))
    } else {
        let fastest = match &rod.towed {
            Towed::Rig(rig) => rig
                .shaft(&surroundings.water, surroundings.temperature)?
                .and_then(|shaft| shaft.roll_over(&surroundings.water)),
            Towed::Lure(lure) => Some(lure.speeds.to),
            Towed::Unfit(unfit) => return Err(unfit.why.clone()),
        };
        Ok(fastest.map_or(0.0, |limit| -inside / (limit.0 / boat - 1.0).max(1e-6)))
    }
}

/// The least speed at which it still works and clears the bottom.
fn slowest(spread: &Spread, rod: &Rod, surroundings: &Surroundings) -> Result<f64, Error> {
    let stall = match &rod.towed {
        Towed::Rig(rig) => rig
            .shaft(&surroundings.water, surroundings.temperature)?
            .map_or(MetresPerSecond(0.0), |shaft| {
                shaft.start(&surroundings.water)
            }),
        Towed::Lure(_) | Towed::Unfit(_) => speeds(rod, surroundings)?.0.from,
    };
    let Some(bottom) = surroundings.bottom else {
        return Ok(stall.0);
    };
    let setup = rod.line_setup();
    let over = |speed: f64| {
        let speed = MetresPerSecond(speed);
        tail(rod, &setup, speed, surroundings, spread.speed)
            .and_then(|(load, _)| {
                let water = &surroundings.water;
                Rigging::new(&setup, load, speed, water, &[])?.at(rod.out)
            })
            .map_or(f64::NAN, |hung| bottom.0 - hung.shape.deepest().0)
    };
    let boat = spread.speed.0;
    if over(stall.0.min(boat)) >= 0.0 {
        return Ok(stall.0);
    }
    Ok(root(over, stall.0.min(boat), boat, 1e-4).unwrap_or(boat))
}

impl Running {
    /// Whether something stops a line from fishing: its blade, the bottom, another line.
    pub fn fails(&self, place: usize) -> bool {
        self.faults_of(place).iter().any(|fault| {
            fault.gravity() == super::Gravity::Fails
                && !matches!(fault, Fault::LeaderTooLong { .. })
        })
    }
}
