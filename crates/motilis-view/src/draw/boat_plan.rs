use super::kit::{Path, Px};
use crate::units::System;
use askama::Template;
use contour::ContourBuilder;
use motilis_core::boat::{CELL, Chart};
use motilis_core::units::{FOOT, Metres};

/// Size of the drawing, and metres from its middle to its edge.
const SIZE: f64 = 600.0;
const REACH: f64 = 150.0;
/// Contours: every five feet, or every two metres.
const STEP: [f64; 2] = [5.0 * FOOT.0, 2.0];
/// Depths that are washed darker and darker.
const WASHES: [f64; 5] = [3.0, 5.0, 7.5, 10.0, 13.0];

/// What is seen from above.
pub struct BoatPlanSource<'a> {
    /// Where the boat is and where it heads, metres to the north and east, radians; none while nobody knows.
    pub boat: Option<([f64; 2], f64)>,
    /// Where it was, the latest last.
    pub way: &'a [[f64; 2]],
    /// The angler's own bottom.
    pub chart: &'a Chart,
    /// Lines: number, and points aft, to starboard, and down.
    pub lines: &'a [(u8, Vec<[f64; 3]>)],
    /// Fish that were marked.
    pub marks: &'a [[f64; 2]],
    /// The boat's units.
    pub system: System,
}

/// The boat from above, north up: its way, its lines, and the bottom it has sounded.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/boat_plan.svg")]
pub struct BoatPlan {
    size: Px,
    cells: Vec<Square>,
    contours: Vec<(String, Px, Px, String)>,
    way: String,
    lines: Vec<(String, Px, Px, u8)>,
    marks: Vec<(Px, Px)>,
    hull: Option<String>,
    bar: (Px, Px, Px),
    bar_words: String,
    title: String,
}

struct View {
    middle: [f64; 2],
}

impl View {
    fn at(&self, place: [f64; 2]) -> (Px, Px) {
        let scale = SIZE / 2.0 / REACH;
        (
            Px(SIZE / 2.0 + (place[1] - self.middle[1]) * scale),
            Px(SIZE / 2.0 - (place[0] - self.middle[0]) * scale),
        )
    }

    fn sees(&self, place: [f64; 2]) -> bool {
        (0..2).all(|axis| (place[axis] - self.middle[axis]).abs() < REACH + CELL)
    }
}

impl BoatPlan {
    /// Draws it.
    pub fn new(source: &BoatPlanSource<'_>) -> Self {
        let middle = source
            .boat
            .map(|(place, _)| place)
            .or(source.way.last().copied());
        let view = View {
            middle: middle.unwrap_or_default(),
        };
        let long = match source.system {
            System::Imperial => 200.0 * FOOT.0,
            System::Metric => 50.0,
        };
        let seen = source.way.iter().copied().filter(|place| view.sees(*place));
        Self {
            size: Px(SIZE),
            cells: cells(source.chart, &view),
            contours: contours(source.chart, &view, source.system),
            way: Path::through(seen.map(|place| view.at(place))).to_string(),
            lines: source
                .boat
                .map(|boat| lines(source.lines, boat, &view))
                .unwrap_or_default(),
            marks: source
                .marks
                .iter()
                .filter(|place| view.sees(**place))
                .map(|place| view.at(*place))
                .collect(),
            hull: source
                .boat
                .map(|(place, heading)| hull(place, heading, &view)),
            bar: (
                Px(14.0),
                Px(14.0 + long * SIZE / 2.0 / REACH),
                Px(SIZE - 14.0),
            ),
            bar_words: source.system.depth(Metres(long)).to_string(),
            title: format!(
                "The boat from above, north up, {} lines out, over the bottom it has sounded. The rows beside it tell each line.",
                source.lines.len()
            ),
        }
    }
}

/// A square: where, how wide, and how dark.
type Square = (Px, Px, Px, usize);

fn cells(chart: &Chart, view: &View) -> Vec<Square> {
    let side = Px(CELL * SIZE / 2.0 / REACH + 0.3);
    let mut cells: Vec<((i32, i32), Square)> = Vec::new();
    for ((row, column), cell) in chart.cells() {
        let corner = [f64::from(row + 1) * CELL, f64::from(column) * CELL];
        let Some(depth) = cell.median().filter(|_| view.sees(corner)) else {
            continue;
        };
        let wash = WASHES.iter().filter(|from| depth.0 >= **from).count();
        let (x, y) = view.at(corner);
        cells.push(((row, column), (x, y, side, wash)));
    }
    // The same picture every time: a chart has no order of its own.
    cells.sort_by_key(|(at, _)| *at);
    cells.into_iter().map(|(_, cell)| cell).collect()
}

/// Lines of one depth through the cells that were sounded.
fn contours(chart: &Chart, view: &View, system: System) -> Vec<(String, Px, Px, String)> {
    let (low, high) = (
        Chart::at([view.middle[0] - REACH, view.middle[1] - REACH]),
        Chart::at([view.middle[0] + REACH, view.middle[1] + REACH]),
    );
    let (rows, columns) = ((high.0 - low.0 + 1) as usize, (high.1 - low.1 + 1) as usize);
    let depth = |row: usize, column: usize| {
        let at = (low.0 + row as i32, low.1 + column as i32);
        chart.cell(at).and_then(motilis_core::boat::Cell::median)
    };
    let sounded: Vec<Option<f64>> = (0..rows * columns)
        .map(|place| depth(place / columns, place % columns).map(|depth| depth.0))
        .collect();
    let Some(filled) = spread_out(&sounded, rows, columns) else {
        return Vec::new();
    };
    let step = STEP[usize::from(system == System::Metric)];
    let deepest = filled.iter().copied().fold(0.0, f64::max);
    let levels: Vec<f64> = (1..=(deepest / step) as usize)
        .map(|level| level as f64 * step)
        .collect();
    let Ok(found) = ContourBuilder::new(columns, rows, true).lines(&filled, &levels) else {
        return Vec::new();
    };
    let mut drawn = Vec::new();
    for line in found {
        let words = system.depth(Metres(line.threshold())).value;
        for string in &line.geometry().0 {
            // Where nothing was sounded around a point nobody knows that the line goes there.
            let known = |x: f64, y: f64| {
                let (row, column) = ((y - 0.5).round() as isize, (x - 0.5).round() as isize);
                let inside =
                    row >= 0 && column >= 0 && (row as usize) < rows && (column as usize) < columns;
                inside && sounded[row as usize * columns + column as usize].is_some()
            };
            let points: Vec<(f64, f64)> = string.0.iter().map(|point| (point.x, point.y)).collect();
            for run in points
                .split(|(x, y)| !known(*x, *y))
                .filter(|run| run.len() > 2)
            {
                let placed: Vec<(Px, Px)> = run
                    .iter()
                    .map(|(x, y)| {
                        let north = (f64::from(low.0) + y) * CELL;
                        let east = (f64::from(low.1) + x) * CELL;
                        view.at([north, east])
                    })
                    .collect();
                let middle = placed[placed.len() / 2];
                let label = if run.len() > 6 {
                    words.clone()
                } else {
                    String::new()
                };
                drawn.push((Path::through(placed).to_string(), middle.0, middle.1, label));
            }
        }
    }
    drawn
}

/// Depths everywhere, those that were not sounded as their nearest neighbours; none where nothing was sounded.
fn spread_out(sounded: &[Option<f64>], rows: usize, columns: usize) -> Option<Vec<f64>> {
    let mut now = sounded.to_vec();
    now.iter().flatten().next()?;
    while now.iter().any(Option::is_none) {
        let before = now.clone();
        for (place, depth) in now
            .iter_mut()
            .enumerate()
            .filter(|(_, depth)| depth.is_none())
        {
            let (row, column) = (place / columns, place % columns);
            let near = [
                (row > 0).then(|| place - columns),
                (row + 1 < rows).then(|| place + columns),
                (column > 0).then(|| place - 1),
                (column + 1 < columns).then(|| place + 1),
            ];
            let known: Vec<f64> = near
                .into_iter()
                .flatten()
                .filter_map(|near| before[near])
                .collect();
            if !known.is_empty() {
                *depth = Some(known.iter().sum::<f64>() / known.len() as f64);
            }
        }
    }
    now.into_iter().collect()
}

/// From the boat's frame onto the ground.
fn on_ground((place, heading): ([f64; 2], f64), seen: &[f64; 3]) -> [f64; 2] {
    let (sin, cos) = heading.sin_cos();
    [
        place[0] - seen[0] * cos - seen[1] * sin,
        place[1] - seen[0] * sin + seen[1] * cos,
    ]
}

fn lines(
    all: &[(u8, Vec<[f64; 3]>)],
    boat: ([f64; 2], f64),
    view: &View,
) -> Vec<(String, Px, Px, u8)> {
    all.iter()
        .filter_map(|(number, points)| {
            let places = points.iter().map(|seen| view.at(on_ground(boat, seen)));
            let places: Vec<(Px, Px)> = places.collect();
            let (x, y) = *places.last()?;
            Some((Path::through(places).to_string(), x, y, *number))
        })
        .collect()
}

/// A hull of five metres, twice as large as life.
fn hull(place: [f64; 2], heading: f64, view: &View) -> String {
    let outline = [
        [-9.0, 0.0],
        [-4.0, 3.0],
        [3.0, 3.0],
        [3.0, -3.0],
        [-4.0, -3.0],
    ];
    let places = outline
        .iter()
        .map(|[aft, side]| view.at(on_ground((place, heading), &[*aft, *side, 0.0])));
    Path::through(places).closed().to_string()
}
