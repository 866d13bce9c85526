//! Every line of a spread as it runs, and how near they come to each other.

use super::Spread;
use super::frame::Turn;
use super::line_running::{LineRunning, solved};
use super::tangle::{NEAR, Tangle, closest};
use crate::error::Error;
use crate::line::Surroundings;
use crate::units::{Metres, MetresPerSecond};

/// A spread as it runs.
#[derive(Debug, Clone, PartialEq)]
pub struct Running {
    /// Speed of the boat through the water.
    pub speed: MetresPerSecond,
    /// The turn it is in.
    pub turn: Option<Turn>,
    /// Its lines, in the order of the rods.
    pub lines: Vec<LineRunning>,
    /// Lines that come nearer than [`NEAR`], the nearest first.
    pub tangles: Vec<Tangle>,
}

/// Boards that trail so much farther than the others make a second row.
const SECOND_ROW: Metres = Metres(1.5);

impl Spread {
    /// Solves every line at the spread's speed.
    ///
    /// A line that cannot be solved (its rig is not finished, its leader is longer than the water is deep, its setback
    /// shorter than the piece in the air) keeps its place in the answer with the reason; the others are solved as ever.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] for what holds for all lines: speed, bottom, their number,
    /// the turn.
    pub fn running(
        &self,
        surroundings: &Surroundings,
        turn: Option<Turn>,
    ) -> Result<Running, Error> {
        self.check_whole(surroundings)?;
        if let Some(turn) = turn {
            turn.check().map_err(|refusal| refusal.under("turn"))?;
        }
        let mut lines: Vec<_> = (0..self.rods.len())
            .map(|place| solved(self, place, surroundings, turn))
            .collect();
        rows(self, &mut lines);
        let tangles = tangles(self, &lines);
        Ok(Running {
            speed: self.speed,
            turn,
            lines,
            tangles,
        })
    }
}

/// Boards pulled far behind the line of the others make a second row.
fn rows(spread: &Spread, lines: &mut [LineRunning]) {
    for side in super::Side::ALL {
        let boards: Vec<usize> = (0..lines.len())
            .filter(|&i| spread.rods[i].holder.side == *side && lines[i].lag.is_some())
            .collect();
        let ratio = |i: usize| {
            let lag = lines[i].lag.map_or(0.0, |lag| lag.0);
            lag / spread.rods[i].board.map_or(1.0, |board| board.0.max(1.0))
        };
        let first = boards
            .iter()
            .map(|&i| ratio(i))
            .fold(f64::INFINITY, f64::min);
        let second: Vec<usize> = boards
            .iter()
            .copied()
            .filter(|&i| {
                let board = spread.rods[i].board.map_or(0.0, |board| board.0);
                (ratio(i) - first) * board > SECOND_ROW.0
            })
            .collect();
        for i in second {
            lines[i].row = 2;
        }
    }
}

fn tangles(spread: &Spread, lines: &[LineRunning]) -> Vec<Tangle> {
    let mut tangles = Vec::new();
    for a in 0..lines.len() {
        for b in a + 1..lines.len() {
            let (from_a, from_b) = if spread.share_a_cable(a, b) {
                (lines[a].own_from, lines[b].own_from)
            } else {
                (0, 0)
            };
            let (path_a, path_b) = (
                &lines[a].path[from_a.min(lines[a].path.len())..],
                &lines[b].path[from_b.min(lines[b].path.len())..],
            );
            let (distance, at) = closest(path_a, path_b);
            if distance < NEAR.0 {
                tangles.push(Tangle {
                    lines: (a, b),
                    distance: Metres(distance),
                    at,
                });
            }
        }
    }
    tangles.sort_by(|a, b| a.distance.0.total_cmp(&b.distance.0));
    tangles
}
