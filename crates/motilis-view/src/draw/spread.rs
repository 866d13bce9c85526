use super::kit::{Path, Px, Scale, Tick, Washes, drawn_depth, ticks};
use crate::units::{Quantity, System};
use askama::Template;
use motilis_core::light::Fading;
use motilis_core::spread::{LineRunning, Point, Running};
use motilis_core::units::Metres;

/// Width of the boxwood rule of depths at the left.
const SIDE: f64 = 46.0;
/// Height of the boxwood rule of distances between the two views.
const RULE: f64 = 34.0;
/// Where the stern is.
const STERN: f64 = SIDE + 74.0;
/// Height of the air above the water in the side view.
const SKY: f64 = 52.0;
/// Height of the bed.
const BED: f64 = 30.0;
/// Size of a tag.
const TAG: (f64, f64) = (122.0, 45.0);

/// How a line is marked.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Mark {
    /// It fishes.
    Works,
    /// Worth a look.
    Watch,
    /// It does not fish.
    Cannot,
}

impl Mark {
    /// Its class and symbol.
    pub fn key(self) -> &'static str {
        match self {
            Self::Works => "works",
            Self::Watch => "watch",
            Self::Cannot => "cannot",
        }
    }
}

/// What is written at a line.
#[derive(Debug, Clone)]
pub struct LineLabel {
    /// Its mark.
    pub mark: Mark,
    /// Class of its blade's colour.
    pub colour: String,
    /// What is let out, shown.
    pub out: String,
    /// What it is called, for those who cannot see the drawing.
    pub name: String,
    /// What is wrong with it, in a word or two; empty when nothing is.
    pub trouble: String,
    /// Where a tap leads.
    pub address: String,
}

/// What both views of a spread are drawn from.
pub struct SpreadSource<'a> {
    /// The lines as they run.
    pub running: &'a Running,
    /// What is written at each.
    pub labels: Vec<LineLabel>,
    /// The line in hand.
    pub selected: Option<usize>,
    /// Depth of the water.
    pub bottom: Metres,
    /// How light fades in it.
    pub fading: &'a Fading,
    /// Upper and lower end of the fish.
    pub fish: (Metres, Metres),
    /// Share of the surface's light left at depths, shown at the right.
    pub light: Vec<(Metres, String)>,
    /// The boat's units.
    pub system: System,
    /// Size of the drawing.
    pub size: (f64, f64),
    /// Room abreast for lines that swing out, as a multiple of what they need straight on.
    pub room: f64,
}

/// One line in both views.
#[derive(Debug, Clone)]
struct Drawn {
    number: usize,
    mark: Mark,
    selected: bool,
    colour: String,
    name: String,
    address: String,
    plan_tow: Path,
    plan: Path,
    plan_rig: (Px, Px),
    board: Option<(Px, Px, f64)>,
    balloon: (Px, Px),
    air: Path,
    side: Path,
    weight: Option<(Px, Px)>,
    rig: (Px, Px),
    tag: (Px, Px),
    depth: String,
    out: String,
    trouble: String,
}

/// All lines from above and from the side, on one rule of distances.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/spread.svg")]
pub struct SpreadDrawing {
    width: Px,
    height: Px,
    keel: Px,
    plan_foot: Px,
    surface: Px,
    bed: Px,
    washes: Washes,
    depth_ticks: Vec<Tick>,
    depth_minors: Vec<Px>,
    run_ticks: Vec<Tick>,
    run_minors: Vec<Px>,
    light: Vec<(Px, String)>,
    unit: &'static str,
    fish: (Px, Px),
    fish_at: Vec<(Px, Px)>,
    fish_label: String,
    bottom_label: String,
    is_cut: bool,
    lines: Vec<Drawn>,
    note: Vec<(Px, Px, String)>,
    /// Pixels of a metre aft, a metre across in the plan, a metre down; for dragging and for the replay.
    scales: (f64, f64, f64),
    /// A pixel of depth in the unit shown.
    depth_of_px: f64,
    title: String,
}

impl SpreadDrawing {
    /// Draws it.
    #[allow(clippy::too_many_lines, reason = "one drawing, part by part")]
    pub fn new(source: &SpreadSource<'_>) -> Self {
        let (width, height) = source.size;
        let lines = &source.running.lines;
        let unit = Quantity::Depth.unit(source.system);
        let depth = |metres: Metres| source.system.depth(metres);
        let farthest = extent(lines, |p| p[0]).max(8.0);
        let widest = source.room * extent(lines, |p| p[1].abs()).max(3.0);
        let right = width - 96.0;
        let across = (right - STERN) / farthest;
        let plan_height = (0.27 * height).max(150.0);
        let abreast = ((0.5 * plan_height - 14.0) / widest).min(across);
        let keel = 0.5 * plan_height;
        let surface = plan_height + RULE + SKY;
        let bed = height - BED;
        let deepest = extent(lines, |p| p[2]).max(source.fish.1.0);
        let view = drawn_depth(source.bottom, Metres(source.room * deepest));
        let down = (bed - surface) / view.0;
        let x = Scale::new((0.0, 1.0), (STERN, STERN + across));
        // To starboard is up: the boat heads left.
        let beam = Scale::new((0.0, 1.0), (keel, keel - abreast));
        let y = Scale::new((0.0, 1.0), (surface, surface + down));
        let views = Views { x, beam, y, source };
        let drawn = views.lines(width, bed, depth);
        let deepest = unit.from_si(view.0);
        let shown_right = unit.from_si((width - 10.0 - STERN) / across);
        let at_depth = |figure: f64| y.at(unit.to_si(figure));
        let at_run = |figure: f64| x.at(unit.to_si(figure));
        let most = ((bed - surface) / 36.0).clamp(1.0, 9.0) as usize;
        let (from, to) = source.fish;
        let band = (y.at(from.0), Px(y.length((to - from).0).0.max(2.0)));
        let middle = band.0.0 + 0.5 * band.1.0;
        Self {
            width: Px(width),
            height: Px(height),
            keel: Px(keel),
            plan_foot: Px(plan_height),
            surface: Px(surface),
            bed: Px(bed),
            washes: Washes::new(view, source.fading, &y),
            is_cut: view < source.bottom,
            depth_ticks: ticks(0.0, deepest, most)
                .into_iter()
                .filter(|figure| *figure > 0.0)
                .map(|figure| Tick {
                    at: at_depth(figure),
                    label: format!("{figure}"),
                })
                .collect(),
            depth_minors: ticks(0.0, deepest, most * 5)
                .into_iter()
                .map(at_depth)
                .collect(),
            run_ticks: ticks(0.0, shown_right, (width / 82.0) as usize)
                .into_iter()
                .map(|figure| Tick {
                    at: at_run(figure),
                    label: format!("{figure}"),
                })
                .collect(),
            run_minors: ticks(0.0, shown_right, (width / 14.0) as usize)
                .into_iter()
                .map(at_run)
                .collect(),
            light: source
                .light
                .iter()
                .map(|(at, share)| (y.at(at.0), share.clone()))
                .collect(),
            unit: unit.symbol,
            fish: band,
            fish_at: [
                (0.36, -0.3),
                (0.52, 0.3),
                (0.66, -0.1),
                (0.79, 0.3),
                (0.88, -0.3),
            ]
            .iter()
            .map(|(share, up)| {
                (
                    Px(STERN + (right - STERN) * share),
                    Px(middle + up * (band.1.0 - 12.0).max(0.0)),
                )
            })
            .collect(),
            fish_label: format!("fish {}–{}", depth(from).value, depth(to)),
            bottom_label: if view < source.bottom {
                format!("bottom {}, not drawn", depth(source.bottom))
            } else {
                format!("bottom {}", depth(source.bottom))
            },
            note: scale_said(unit.symbol, (across, abreast, down), width, (surface, bed)),
            title: title(source, &drawn),
            lines: drawn,
            scales: (across, abreast, down),
            depth_of_px: unit.from_si(1.0) / down,
        }
    }

    fn span(&self) -> Px {
        Px(self.width.0 - SIDE)
    }

    fn rule_foot(&self) -> Px {
        Px(self.plan_foot.0 + RULE)
    }

    fn below(&self, by: i32) -> Px {
        Px(self.plan_foot.0 + f64::from(by))
    }
}

fn times(share: f64) -> String {
    if share < 0.995 {
        format!("{share:.2}")
    } else {
        format!("{share:.1}")
    }
}

/// How far lines reach by some measure.
fn extent(lines: &[LineRunning], measure: impl Fn(&Point) -> f64) -> f64 {
    lines
        .iter()
        .flat_map(|line| line.path.iter().chain([&line.entry, &line.tip]))
        .map(measure)
        .fold(0.0, f64::max)
}

/// The three scales of a drawing.
struct Views<'a> {
    x: Scale,
    beam: Scale,
    y: Scale,
    source: &'a SpreadSource<'a>,
}

impl Views<'_> {
    fn above(&self, point: &Point) -> (Px, Px) {
        (self.x.at(point[0]), self.beam.at(point[1]))
    }

    fn beside(&self, point: &Point) -> (Px, Px) {
        // A rod tip may stand above the paper on a stretched drawing.
        let y = self.y.at(point[2]).0.max(self.y.at(0.0).0 - SKY + 6.0);
        (self.x.at(point[0]), Px(y))
    }

    fn lines(
        &self,
        width: f64,
        bed: f64,
        depth: impl Fn(Metres) -> crate::units::Figure,
    ) -> Vec<Drawn> {
        let mut places = Places::new(width, self.y.at(0.0).0 + 2.0, bed - 2.0);
        let rigs: Vec<(Px, Px)> = self
            .source
            .running
            .lines
            .iter()
            .map(|line| self.beside(&line.rig))
            .collect();
        places.keep_clear(&rigs);
        for line in &self.source.running.lines {
            let path: Vec<(Px, Px)> = line.path.iter().map(|p| self.beside(p)).collect();
            places.spare(&path);
        }
        let fish = self.y.at(self.source.fish.0.0).0;
        places.taken.push([52.0, fish + 2.0, 150.0, fish + 30.0]);
        for (at, _) in &self.source.light {
            let y = self.y.at(at.0).0;
            places.figures.push([width - 50.0, y - 9.0, width, y + 9.0]);
        }
        let mut balloons = Places::new(width, 2.0, 2.0 * self.beam.at(0.0).0);
        self.source
            .running
            .lines
            .iter()
            .zip(&self.source.labels)
            .enumerate()
            .map(|(place, (line, label))| {
                let rig = self.beside(&[line.rig[0], 0.0, line.rig[2].min(self.source.bottom.0)]);
                let plan_rig = self.above(&line.rig);
                let board_at = line.lag.map(|_| {
                    let (x, y) = self.above(&line.entry);
                    (x, y, if line.entry[1] < 0.0 { -1.0 } else { 1.0 })
                });
                Drawn {
                    number: place + 1,
                    mark: label.mark,
                    selected: self.source.selected == Some(place),
                    colour: label.colour.clone(),
                    name: label.name.clone(),
                    address: label.address.clone(),
                    plan_tow: Path::through([self.above(&line.tip), self.above(&line.entry)]),
                    plan: Path::through(line.path.iter().map(|p| self.above(p))),
                    plan_rig,
                    board: board_at,
                    balloon: balloons
                        .find((plan_rig.0.0 + 12.0, plan_rig.1.0 - 12.0), (26.0, 25.0)),
                    air: Path::through([self.beside(&line.tip), self.beside(&line.entry)]),
                    side: Path::through(line.path.iter().map(|p| self.beside(p))),
                    weight: line.weight.as_ref().map(|p| self.beside(p)),
                    rig,
                    tag: places.find((rig.0.0 + 18.0, rig.1.0 - 0.5 * TAG.1), TAG),
                    // A line that has no course has no depth either.
                    depth: if line.refused.is_some() {
                        "no depth".to_owned()
                    } else {
                        depth(line.depth(Some(self.source.bottom))).to_string()
                    },
                    out: label.out.clone(),
                    trouble: label.trouble.clone(),
                }
            })
            .collect()
    }
}

/// The scale in plain words: in the bottom of a wide drawing, in the sky of a narrow one.
fn scale_said(
    unit: &str,
    (across, abreast, down): (f64, f64, f64),
    width: f64,
    (surface, bed): (f64, f64),
) -> Vec<(Px, Px, String)> {
    let (abreast, down) = (times(abreast / across), times(down / across));
    if width > 600.0 {
        let said = format!(
            "1 {unit} across is drawn as long as {abreast} {unit} behind, 1 {unit} of depth as {down}"
        );
        return vec![(Px(54.0), Px(bed + 21.0), said)];
    }
    let left = Px(width - 176.0);
    vec![
        (
            left,
            Px(surface - 42.0),
            format!("depths drawn {down} times"),
        ),
        (
            left,
            Px(surface - 25.0),
            format!("as long, widths {abreast}"),
        ),
    ]
}

/// Finds room for tags: where one is wanted, or as near below or above as nothing else lies.
struct Places {
    taken: Vec<[f64; 4]>,
    /// What is covered only where there is no other room: lines.
    soft: Vec<[f64; 4]>,
    /// What is covered before a line is: figures of the scale.
    figures: Vec<[f64; 4]>,
    right: f64,
    top: f64,
    foot: f64,
}

impl Places {
    fn new(width: f64, top: f64, foot: f64) -> Self {
        Self {
            taken: Vec::new(),
            soft: Vec::new(),
            figures: Vec::new(),
            right: width - 4.0,
            top,
            foot,
        }
    }

    fn keep_clear(&mut self, points: &[(Px, Px)]) {
        for (x, y) in points {
            self.taken
                .push([x.0 - 4.0, y.0 - 7.0, x.0 + 16.0, y.0 + 7.0]);
        }
    }

    /// A line, as boxes along it.
    fn spare(&mut self, points: &[(Px, Px)]) {
        const EVERY: f64 = 9.0;
        for pair in points.windows(2) {
            let [(ax, ay), (bx, by)] = [pair[0], pair[1]];
            let steps = ((bx.0 - ax.0).hypot(by.0 - ay.0) / EVERY).ceil().max(1.0);
            for step in 0..=steps as usize {
                let share = step as f64 / steps;
                let (x, y) = (ax.0 + share * (bx.0 - ax.0), ay.0 + share * (by.0 - ay.0));
                self.soft.push([x - 2.0, y - 2.0, x + 2.0, y + 2.0]);
            }
        }
    }

    fn find(&mut self, wanted: (f64, f64), size: (f64, f64)) -> (Px, Px) {
        let x = wanted.0.min(self.right - size.0);
        let (lowest, highest) = (self.foot - size.1, self.top);
        let fits = |taken: &[[f64; 4]], x: f64, y: f64| {
            !taken.iter().any(|[left, top, right, foot]| {
                x < *right && x + size.0 > *left && y < *foot && y + size.1 > *top
            })
        };
        let steps = || {
            (0..60).flat_map(|i| {
                let by = f64::from(i) * 7.0;
                [
                    (0.0, by),
                    (0.0, -by),
                    (-size.0 - 44.0, by),
                    (-size.0 - 44.0, -by),
                    (-0.5 * size.0 - 18.0, by),
                    (-2.0 * size.0, by),
                ]
            })
        };
        let spots = || {
            steps().map(|(dx, dy)| {
                (
                    (x + dx).max(SIDE + 4.0),
                    (wanted.1 + dy).clamp(highest, lowest.max(highest)),
                )
            })
        };
        let clear =
            |of: &[&[[f64; 4]]]| spots().find(|(x, y)| of.iter().all(|taken| fits(taken, *x, *y)));
        let found = clear(&[&self.taken, &self.soft, &self.figures])
            .or_else(|| clear(&[&self.taken, &self.soft]))
            .or_else(|| clear(&[&self.taken]));
        let (x, y) = found.unwrap_or((x, wanted.1.clamp(highest, lowest.max(highest))));
        self.taken
            .push([x - 3.0, y - 3.0, x + size.0 + 3.0, y + size.1 + 3.0]);
        (Px(x), Px(y))
    }
}

fn title(source: &SpreadSource<'_>, drawn: &[Drawn]) -> String {
    let lines: Vec<String> = drawn
        .iter()
        .map(|line| {
            let trouble = if line.trouble.is_empty() {
                String::new()
            } else {
                format!(", {}", line.trouble)
            };
            format!(
                "{}: {}, {} deep, {}{trouble}",
                line.number, line.name, line.depth, line.out
            )
        })
        .collect();
    let turn = if source.running.turn.is_some() {
        " in a turn"
    } else {
        ""
    };
    format!(
        "Spread{turn} from above and from the side. {}.",
        lines.join("; ")
    )
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tags_do_not_cover_each_other() {
        let mut places = Places::new(826.0, 260.0, 700.0);
        let found: Vec<(Px, Px)> = (0..12).map(|_| places.find((500.0, 400.0), TAG)).collect();
        for (i, a) in found.iter().enumerate() {
            assert!(a.0.0 >= SIDE && a.0.0 + TAG.0 <= 826.0 && a.1.0 >= 260.0);
            for b in &found[i + 1..] {
                let apart = (a.0.0 - b.0.0).abs() >= TAG.0 || (a.1.0 - b.1.0).abs() >= TAG.1;
                assert!(apart, "{a:?} {b:?}");
            }
        }
    }

    #[test]
    fn a_scale_below_one_keeps_its_digits() {
        assert_eq!((times(0.456), times(2.34)), ("0.46".into(), "2.3".into()));
    }
}
