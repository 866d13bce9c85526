use crate::units::Metres;
use std::collections::{HashMap, VecDeque};

/// Echoes of the way just gone that are kept, and how far apart they are at least, m.
const KEPT: usize = 400;
const APART: f64 = 0.5;
/// A cell of the angler's own bottom, m, and soundings of it that are kept.
pub const CELL: f64 = 10.0;
const OF_A_CELL: usize = 25;
/// How unsure the bottom beside a sounding is, as a share of the distance: slopes of lakes; from memory.
const SLOPE: f64 = 0.05;
/// Echoes farther from each other have a hole between them, m.
const HOLE: f64 = 12.0;
/// Nearer than this to the way the sounder's own echo is taken before the chart.
const OWN: f64 = 6.0;

/// Depth of the bottom at a place.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Under {
    /// How deep.
    pub depth: Metres,
    /// One standard deviation of it: by how far aside it was sounded.
    pub sure: Metres,
    /// Whether this way's own echo said so, not the chart.
    pub sounded: bool,
}

/// What the sounder saw along the way just gone: places, metres to the north and east, and depths.
#[derive(Debug, Clone, Default)]
pub struct Soundings {
    echoes: VecDeque<([f64; 2], f64)>,
    /// The last three depths: one that differs from both its neighbours is a fish.
    last: VecDeque<f64>,
}

impl Soundings {
    /// The sounder saw the bottom under a place.
    pub fn pass(&mut self, place: [f64; 2], depth: Metres) {
        self.last.push_back(depth.0);
        if self.last.len() > 3 {
            self.last.pop_front();
        }
        let mut three: Vec<f64> = self.last.iter().copied().collect();
        three.sort_by(f64::total_cmp);
        let depth = three[three.len() / 2];
        match self.echoes.back_mut() {
            // A boat that stands sounds the same place again.
            Some((before, there)) if (before[0] - place[0]).hypot(before[1] - place[1]) < APART => {
                *there = depth;
            }
            _ => self.echoes.push_back((place, depth)),
        }
        if self.echoes.len() > KEPT {
            self.echoes.pop_front();
        }
    }

    /// Nothing of the way before is known any more.
    pub fn cut(&mut self) {
        self.echoes.clear();
        self.last.clear();
    }

    /// The bottom under a place no farther than `reach` from the way: between the echoes before and after it.
    pub fn under(&self, place: [f64; 2], reach: f64) -> Option<Under> {
        let mut best: Option<(f64, f64)> = None;
        for ((a, from), (b, to)) in self.echoes.iter().zip(self.echoes.iter().skip(1)) {
            let to_place = [place[0] - a[0], place[1] - a[1]];
            // Too far whatever the next echo is.
            if to_place[0].abs().max(to_place[1].abs()) > reach + HOLE {
                continue;
            }
            let along = [b[0] - a[0], b[1] - a[1]];
            let length = along[0] * along[0] + along[1] * along[1];
            if length > HOLE * HOLE {
                continue;
            }
            let share = if length > 0.0 {
                ((to_place[0] * along[0] + to_place[1] * along[1]) / length).clamp(0.0, 1.0)
            } else {
                0.0
            };
            let off = (to_place[0] - share * along[0]).hypot(to_place[1] - share * along[1]);
            // Of two crossings the later one counts: water levels change.
            if off < reach && best.is_none_or(|(least, _)| off <= least) {
                best = Some((off, from + share * (to - from)));
            }
        }
        best.map(|(off, depth)| Under {
            depth: Metres(depth),
            sure: Metres(SLOPE * off),
            sounded: true,
        })
    }
}

/// A cell of the angler's own bottom: what was sounded in it, the latest last.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Cell {
    depths: VecDeque<f64>,
    /// How often it was sounded.
    pub count: u32,
}

impl Cell {
    /// A cell as it was kept.
    pub fn of(depths: impl IntoIterator<Item = Metres>, count: u32) -> Self {
        Self {
            depths: depths.into_iter().map(|depth| depth.0).collect(),
            count,
        }
    }

    /// The soundings that are kept.
    pub fn depths(&self) -> impl Iterator<Item = Metres> + '_ {
        self.depths.iter().map(|depth| Metres(*depth))
    }

    /// Takes another.
    pub fn sound(&mut self, depth: Metres) {
        self.depths.push_back(depth.0);
        if self.depths.len() > OF_A_CELL {
            self.depths.pop_front();
        }
        self.count = self.count.saturating_add(1);
    }

    /// The middle one of those that are kept.
    pub fn median(&self) -> Option<Metres> {
        let mut sorted: Vec<f64> = self.depths.iter().copied().collect();
        sorted.sort_by(f64::total_cmp);
        let middle = sorted.len() / 2;
        Some(Metres(match sorted.len() {
            0 => return None,
            count if count % 2 == 1 => sorted[middle],
            _ => 0.5 * (sorted[middle - 1] + sorted[middle]),
        }))
    }
}

/// The angler's own bottom of a water: cells of [`CELL`] metres, by their number to the north and east of its position.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Chart {
    cells: HashMap<(i32, i32), Cell>,
}

impl Chart {
    /// Puts a cell in.
    pub fn put(&mut self, at: (i32, i32), cell: Cell) {
        self.cells.insert(at, cell);
    }

    /// A sounding at a place, metres to the north and east; tells which cell took it.
    pub fn sound(&mut self, place: [f64; 2], depth: Metres) -> (i32, i32) {
        let at = Self::at(place);
        self.cells.entry(at).or_default().sound(depth);
        at
    }

    /// A cell.
    pub fn cell(&self, at: (i32, i32)) -> Option<&Cell> {
        self.cells.get(&at)
    }

    /// All cells that were sounded.
    pub fn cells(&self) -> impl Iterator<Item = ((i32, i32), &Cell)> {
        self.cells.iter().map(|(at, cell)| (*at, cell))
    }

    /// The cell a place lies in.
    pub fn at(place: [f64; 2]) -> (i32, i32) {
        let number = |metres: f64| (metres / CELL).floor() as i32;
        (number(place[0]), number(place[1]))
    }

    /// The bottom under a place, between the middles of the cells around it that were sounded.
    pub fn under(&self, place: [f64; 2]) -> Option<Under> {
        let (row, column) = Self::at([place[0] - 0.5 * CELL, place[1] - 0.5 * CELL]);
        let (mut sum, mut whole) = (0.0, 0.0);
        for (i, j) in [(0, 0), (0, 1), (1, 0), (1, 1)] {
            let (i, j) = (row + i, column + j);
            let Some(depth) = self.cell((i, j)).and_then(Cell::median) else {
                continue;
            };
            let middle = |number: i32| (f64::from(number) + 0.5) * CELL;
            let near = |a: f64, b: f64| (1.0 - (a - b).abs() / CELL).max(0.0);
            let weight = near(place[0], middle(i)) * near(place[1], middle(j));
            sum += weight * depth.0;
            whole += weight;
        }
        (whole > 0.2).then(|| Under {
            depth: Metres(sum / whole),
            sure: Metres(SLOPE * CELL),
            sounded: false,
        })
    }
}

/// The bottom under a place: what this way's sounder saw close by, else the chart, else what it saw farther aside.
pub fn under(soundings: &Soundings, chart: &Chart, place: [f64; 2], reach: f64) -> Option<Under> {
    soundings
        .under(place, OWN.min(reach))
        .or_else(|| chart.under(place))
        .or_else(|| soundings.under(place, reach))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn straight(depth: impl Fn(f64) -> Option<f64>) -> Soundings {
        let mut soundings = Soundings::default();
        for metre in 0..200 {
            let north = f64::from(metre);
            if let Some(depth) = depth(north) {
                soundings.pass([north, 0.0], Metres(depth));
            }
        }
        soundings
    }

    #[test]
    fn the_bottom_under_a_place_is_what_the_sounder_saw_there() {
        let soundings = straight(|north| Some(10.0 - 0.02 * north));
        let under = soundings.under([100.5, 3.0], 10.0).unwrap();
        // The middle of three echoes comes a metre late.
        assert!((under.depth.0 - 8.0).abs() < 0.05, "{under:?}");
        assert!((under.sure.0 - 0.15).abs() < 1e-9);
        assert_eq!(soundings.under([100.5, 12.0], 10.0), None);
    }

    #[test]
    fn a_fish_under_the_boat_is_no_bottom() {
        let soundings = straight(|north| {
            Some(if (north - 100.0).abs() < 0.5 {
                2.0
            } else {
                9.0
            })
        });
        assert!((soundings.under([100.0, 0.0], 5.0).unwrap().depth.0 - 9.0).abs() < 1e-9);
    }

    #[test]
    fn where_the_sounder_lost_the_bottom_nobody_knows_it() {
        let soundings = straight(|north| (!(60.0..120.0).contains(&north)).then_some(9.0));
        assert_eq!(soundings.under([90.0, 0.0], 10.0), None);
        assert!(soundings.under([50.0, 0.0], 10.0).is_some());
    }

    #[test]
    fn a_cell_keeps_the_middle_of_its_latest_soundings() {
        let mut chart = Chart::default();
        for depth in [8.0, 30.0, 8.2, 8.1, 8.3] {
            chart.sound([14.0, -3.0], Metres(depth));
        }
        let cell = chart.cell((1, -1)).unwrap();
        assert_eq!((cell.median(), cell.count), (Some(Metres(8.2)), 5));
        for _ in 0..40 {
            chart.sound([14.0, -3.0], Metres(9.0));
        }
        let cell = chart.cell((1, -1)).unwrap();
        assert_eq!(
            (cell.median(), cell.count, cell.depths().count()),
            (Some(Metres(9.0)), 45, 25)
        );
    }

    #[test]
    fn the_chart_slopes_between_its_cells() {
        let mut chart = Chart::default();
        chart.sound([5.0, 5.0], Metres(6.0));
        chart.sound([15.0, 5.0], Metres(10.0));
        let at = |north: f64| chart.under([north, 5.0]).unwrap().depth.0;
        assert!((at(10.0) - 8.0).abs() < 1e-9 && at(7.5) < at(12.5));
        assert_eq!(chart.under([60.0, 5.0]), None);
    }
}
