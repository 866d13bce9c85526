//! Who goes where and who goes first (CP-17: common practice, no source).

use super::running::Running;
use super::{Rod, Side, Spread, TANGLED, Towed, closest};
use crate::keyed::keyed;
use crate::tackle::LineMaterial;
use crate::units::Metres;

/// How practice sorts lines across: the first run farthest out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Group {
    /// Goes deep without a weight: lead-core, copper, a diving plug; or runs flat.
    Unweighted,
    /// Carries a weight.
    Weighted,
    /// Pulls hard: a diver.
    Diver,
    /// Hangs on a downrigger, straight under the boat.
    Downrigger,
}

keyed!(Group {
    Unweighted "unweighted" "without a weight",
    Weighted "weighted" "with a weight",
    Diver "diver" "diver",
    Downrigger "downrigger" "on the downrigger",
});

impl Rod {
    /// Its group.
    pub fn group(&self) -> Group {
        if self.setup.lets_out_cable() {
            return Group::Downrigger;
        }
        match self.setup.weight {
            Some(weight) if weight.is_diver() => Group::Diver,
            Some(_) => Group::Weighted,
            None => Group::Unweighted,
        }
    }

    /// Whether its line sinks by itself or its lure dives.
    pub fn goes_deep(&self) -> bool {
        let sinks = |material| matches!(material, LineMaterial::LeadCore | LineMaterial::Copper);
        sinks(self.setup.main.material)
            || self.setup.core.is_some()
            || matches!(self.towed, Towed::Lure(_))
    }
}

/// A rod's place by practice.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Way {
    /// The rod.
    pub rod: usize,
    /// Distance at which its board should run.
    pub board: Metres,
}

/// The order of a spread.
#[derive(Debug, Clone, PartialEq)]
pub struct Order {
    /// Rods in the order they are set out: the farthest out first.
    pub set_out: Vec<usize>,
    /// Rods in the order they are brought in: the nearest first.
    pub bring_in: Vec<usize>,
    /// Boards that should change places, with the distance practice gives them.
    pub moves: Vec<Way>,
    /// For each rod the lines its fish would cross when it is led in past them.
    pub crossed: Vec<Vec<usize>>,
}

impl Spread {
    /// The order practice sets this spread out in, and what crosses on the way in.
    pub fn order(&self, running: &Running) -> Order {
        let mut set_out: Vec<usize> = (0..self.rods.len()).collect();
        let outness = |&place: &usize| {
            let rod = &self.rods[place];
            let lateral = super::line_running::offset(rod).abs();
            // Downriggers last: they hang under the boat whatever else is out.
            let rigger = rod.group() == Group::Downrigger;
            (rigger, -lateral, -rod.out.0)
        };
        set_out.sort_by(|a, b| {
            let (a, b) = (outness(a), outness(b));
            a.0.cmp(&b.0)
                .then(a.1.total_cmp(&b.1))
                .then(a.2.total_cmp(&b.2))
        });
        Order {
            bring_in: set_out.iter().rev().copied().collect(),
            moves: Side::ALL
                .iter()
                .flat_map(|&side| self.board_moves(side))
                .collect(),
            crossed: (0..self.rods.len())
                .map(|place| self.crossed(running, place))
                .collect(),
            set_out,
        }
    }

    /// Boards of a side in the order of practice, with the distances there are dealt out anew.
    fn board_moves(&self, side: Side) -> Vec<Way> {
        let mut boards: Vec<usize> = (0..self.rods.len())
            .filter(|&i| self.rods[i].holder.side == side && self.rods[i].has_board())
            .collect();
        let distance = |i: usize| self.rods[i].board.unwrap_or_default();
        let mut distances: Vec<Metres> = boards.iter().map(|&i| distance(i)).collect();
        distances.sort_by(|a, b| b.0.total_cmp(&a.0));
        boards.sort_by(|&a, &b| {
            let (one, other) = (&self.rods[a], &self.rods[b]);
            one.group()
                .cmp(&other.group())
                .then(other.out.0.total_cmp(&one.out.0))
                // What is alike stays where it is.
                .then(distance(b).0.total_cmp(&distance(a).0))
        });
        boards
            .into_iter()
            .zip(distances)
            .filter(|&(rod, board)| (distance(rod) - board).0.abs() > 1e-9)
            .map(|(rod, board)| Way { rod, board })
            .collect()
    }

    /// Lines that a fish on a rod would cross, led straight from where it was hooked to the corner of the stern.
    fn crossed(&self, running: &Running, place: usize) -> Vec<usize> {
        let line = &running.lines[place];
        let side = self.rods[place].holder.side.sign();
        let way = [line.rig, [0.0, side, 0.0]];
        (0..self.rods.len())
            .filter(|&other| other != place && !self.share_a_cable(place, other))
            .filter(|&other| {
                let path = &running.lines[other].path;
                // Seen from above: a fish on its way in may be at any depth.
                let flat: Vec<_> = path.iter().map(|p| [p[0], p[1], 0.0]).collect();
                let way = way.map(|p| [p[0], p[1], 0.0]);
                !flat.is_empty() && closest(&way, &flat).0 < TANGLED.0
            })
            .collect()
    }
}
