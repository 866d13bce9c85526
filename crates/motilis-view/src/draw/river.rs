//! A run of a river: its plan with the casts, its section along a path.

use super::kit::{Path as Drawn, Px, Scale, ticks};
use crate::units::{Quantity, System};
use askama::Template;
use motilis_core::river::{Bank, CELL, Cover, Mark, Moment, Path, Place, Run, Section};
use motilis_core::units::Metres;

/// Room round the water, px.
const ROOM: f64 = 34.0;
/// Rows of water that are tinted, and columns of arrows.
const TINTS: usize = 28;
const ARROW_ROWS: usize = 6;
/// Length of an arrow for a metre a second, m of the plan.
const ARROW: f64 = 1.6;
/// Seconds between two rings of a path.
const RING_EVERY: f64 = 1.0;
/// Water above the head and below the tail-out, into which casts from the ends go, m.
const BEYOND: f64 = 12.0;
/// The shortest piece along that a plan shows, m.
const SHORTEST: f64 = 26.0;
/// How much deeper than long a section is drawn at most.
const STRETCH: f64 = 6.0;

/// A path to be drawn, with what it is.
#[derive(Debug, Clone, Copy)]
pub struct Cast<'a> {
    /// Where the lure goes, from the stand.
    pub path: &'a Path,
    /// Where the tip is.
    pub tip: Place,
    /// Where it lands.
    pub lands: Place,
}

/// What a plan is drawn from.
pub struct RunPlanSource<'a> {
    /// The run.
    pub run: &'a Run,
    /// Its water.
    pub section: &'a Section,
    /// How far below the head one stands, and how far out.
    pub stand: Option<(Metres, Metres)>,
    /// The cast in hand.
    pub cast: Option<Cast<'a>>,
    /// The same with the rod held otherwise.
    pub others: &'a [&'a Path],
    /// What is covered.
    pub cover: Option<&'a Cover>,
    /// Where a fish lies, from the head: along, across; and how far it moves.
    pub lie: Option<(f64, f64, f64)>,
    /// The boat's units.
    pub system: System,
    /// Size of the drawing.
    pub size: (f64, f64),
    /// What a reader who does not see it is told.
    pub title: String,
}

/// A ring on a path.
#[derive(Debug, Clone)]
struct Ring {
    x: Px,
    y: Px,
    class: &'static str,
}

/// A run seen from above, the angler's bank at the bottom.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/run_plan.svg")]
pub struct RunPlan {
    width: Px,
    height: Px,
    tints: Vec<(Px, Px, u8)>,
    left: Px,
    span: Px,
    water: (Px, Px),
    wade: Option<Px>,
    ends: Vec<(Px, &'static str)>,
    arrows: Vec<(Px, Px, Px, Px)>,
    covered: Vec<(Px, Px, Px)>,
    cell: Px,
    marks: Vec<(Px, Px, &'static str, String)>,
    stand: Option<(Px, Px)>,
    throw: Option<((Px, Px), (Px, Px))>,
    others: Vec<String>,
    path: String,
    rings: Vec<Ring>,
    lie: Option<(Px, Px, Px)>,
    bar: (Px, Px, Px),
    bar_words: String,
    flow: (&'static str, Px),
    /// What a hand needs: px a metre, side that is downstream, px of the stand, and along of the left edge.
    hand: String,
    title: String,
}

/// The part of the water that is shown, m along: the run with what lies above and below it, or what lies round the stand.
fn shown(run: &Run, stand: Option<Metres>, width: f64, scale: f64) -> (f64, f64) {
    let most = (width - 2.0 * ROOM) / scale;
    let beyond = if stand.is_some() { BEYOND } else { 1.0 };
    let whole = run.length.0 + 2.0 * beyond;
    if whole <= most {
        return (-beyond, run.length.0 + beyond);
    }
    let middle = stand.map_or(0.5 * run.length.0, |stand| stand.0);
    let from = (middle - 0.5 * most).clamp(-beyond, whole - beyond - most);
    (from, from + most)
}

/// What a ring looks like: closed while the blade turns, open while it stands, a cross on the bed.
fn ring(moment: &Moment) -> &'static str {
    if moment.on_bed {
        "ring ring-bed"
    } else if moment.works() {
        "ring ring-on"
    } else {
        "ring ring-off"
    }
}

/// Moments at equal seconds.
fn seconds(path: &Path) -> Vec<Moment> {
    let count = (path.seconds() / RING_EVERY).floor() as usize;
    (0..=count)
        .map(|second| path.at(second as f64 * RING_EVERY))
        .collect()
}

fn tint(depth: f64) -> u8 {
    // A wash every 16 in or so: rivers are shallow.
    ((depth / 0.4).floor() as u8).min(5)
}

/// How the water lies on the paper.
#[derive(Clone, Copy)]
struct Ground {
    from: f64,
    to: f64,
    left: f64,
    bottom: f64,
    scale: f64,
    to_the_left: bool,
}

impl Ground {
    fn of(source: &RunPlanSource<'_>) -> Self {
        let (width, height) = source.size;
        let across = source.section.width().0;
        let tall = (height - 2.0 * ROOM) / across;
        let scale = tall.min((width - 2.0 * ROOM) / SHORTEST);
        let stand = source.stand.map(|(along, _)| along);
        let (from, to) = shown(source.run, stand, width, scale);
        Self {
            from,
            to,
            left: 0.5 * (width - (to - from) * scale),
            bottom: 0.5 * (height + across * scale),
            scale,
            to_the_left: source.run.bank == Bank::Left,
        }
    }

    fn span(&self) -> f64 {
        (self.to - self.from) * self.scale
    }

    fn x(&self, along: f64) -> Px {
        let off = (along - self.from) * self.scale;
        Px(if self.to_the_left {
            self.left + self.span() - off
        } else {
            self.left + off
        })
    }

    fn y(&self, out: f64) -> Px {
        Px(self.bottom - out * self.scale)
    }

    fn holds(&self, along: f64) -> bool {
        (self.from..=self.to).contains(&along)
    }

    /// Washes by depth: top and height of each row.
    fn tints(&self, section: &Section) -> Vec<(Px, Px, u8)> {
        let step = section.width().0 / TINTS as f64;
        let rows = (0..TINTS).map(|row| {
            let out = row as f64 * step;
            let deep = section.depth(Metres(out + 0.5 * step)).0;
            (self.y(out + step), Px(step * self.scale + 0.4), tint(deep))
        });
        rows.collect()
    }

    /// Arrows as long as the surface is fast: from, height, to, foot of the head.
    fn arrows(&self, section: &Section) -> Vec<(Px, Px, Px, Px)> {
        let columns = ((self.to - self.from) / 9.0).ceil().max(1.0);
        let mut arrows = Vec::new();
        for row in 0..ARROW_ROWS {
            let out = (row as f64 + 0.5) * section.width().0 / ARROW_ROWS as f64;
            let reach = ARROW * section.surface(Metres(out)).0;
            let shift = if row % 2 == 0 { 0.25 } else { 0.65 };
            for column in 0..columns as usize {
                let start = self.from + (column as f64 + shift) * (self.to - self.from) / columns;
                if start + reach <= self.to {
                    let end = self.x(start + reach);
                    let head = if self.to_the_left { 4.0 } else { -4.0 };
                    arrows.push((self.x(start), self.y(out), end, Px(end.0 + head)));
                }
            }
        }
        arrows
    }

    /// Covered stretches of bed: left, top and length.
    fn covered(&self, cover: &Cover) -> Vec<(Px, Px, Px)> {
        let all = cover.stretches().into_iter();
        let seen = all.filter_map(|(row, begin, end)| {
            let (begin, end) = (begin.max(self.from), end.min(self.to));
            let edge = self.x(if self.to_the_left { end } else { begin });
            (end > begin).then(|| (edge, self.y(row + CELL), Px((end - begin) * self.scale)))
        });
        seen.collect()
    }
}

impl RunPlan {
    /// Draws it.
    pub fn new(source: &RunPlanSource<'_>) -> Self {
        let (width, height) = source.size;
        let run = source.run;
        let ground = Ground::of(source);
        let (x, y) = (|along| ground.x(along), |out| ground.y(out));
        let along = source.stand.map_or(0.0, |(along, _)| along.0);
        let at = |place: Place| (x(along + place[0]), y(place[1]));
        let drawn = |path: &Path| {
            let points = path.moments.iter().step_by(2);
            Drawn::through(points.map(|moment| at(moment.place))).to_string()
        };
        let marks = run.marks.iter().filter(|mark| ground.holds(mark.along.0));
        let marks = marks.map(|mark: &Mark| {
            let words = mark.kind.name().to_owned();
            (x(mark.along.0), y(mark.across.0), mark.kind.key(), words)
        });
        let bar = match source.system {
            System::Imperial => Quantity::Depth.unit(source.system).to_si(20.0),
            System::Metric => 5.0,
        };
        let ends = [(0.0, "head"), (run.length.0, "tail-out")];
        let ends = ends.into_iter().filter(|(along, _)| ground.holds(*along));
        let rings = source.cast.map_or_else(Vec::new, |cast| seconds(cast.path));
        let rings = rings.iter().map(|moment| {
            let (x, y) = at(moment.place);
            let class = ring(moment);
            Ring { x, y, class }
        });
        let stand_y = y(source.stand.map_or(0.0, |(_, out)| out.0)).0;
        let lie = source.lie;
        Self {
            width: Px(width),
            height: Px(height),
            tints: ground.tints(source.section),
            left: Px(ground.left),
            span: Px(ground.span()),
            water: (y(source.section.width().0), y(0.0)),
            wade: (run.wade.0 > 0.0).then(|| y(run.wade.0)),
            ends: ends.map(|(along, words)| (x(along), words)).collect(),
            arrows: ground.arrows(source.section),
            covered: source
                .cover
                .map_or_else(Vec::new, |cover| ground.covered(cover)),
            cell: Px(CELL * ground.scale),
            marks: marks.collect(),
            stand: source.stand.map(|(along, out)| (x(along.0), y(out.0))),
            throw: source.cast.map(|cast| (at(cast.tip), at(cast.lands))),
            others: source.others.iter().map(|path| drawn(path)).collect(),
            path: source
                .cast
                .map_or_else(String::new, |cast| drawn(cast.path)),
            rings: rings.collect(),
            lie: lie.map(|(along, out, reach)| (x(along), y(out), Px(reach * ground.scale))),
            bar: (
                Px(ground.left),
                Px(ground.left + bar * ground.scale),
                Px(ground.bottom + 20.0),
            ),
            bar_words: source.system.way(Metres(bar)).to_string(),
            flow: (
                if ground.to_the_left {
                    "downstream ←"
                } else {
                    "downstream →"
                },
                Px(ground.left + ground.span()),
            ),
            hand: format!(
                "{:.3} {} {:.2} {stand_y:.2} {:.2} {:.2}",
                ground.scale,
                if ground.to_the_left { -1 } else { 1 },
                x(along).0,
                x(0.0).0,
                ground.bottom
            ),
            title: source.title.clone(),
        }
    }
}

/// What a section is drawn from.
pub struct RunSectionSource<'a> {
    /// The cast in hand.
    pub path: &'a Path,
    /// The same with the rod held otherwise, and what they are called.
    pub others: &'a [(&'a Path, &'static str)],
    /// Depths between which fish are looked for, by the moment.
    pub zone: &'a dyn Fn(&Moment) -> Option<(f64, f64)>,
    /// The boat's units.
    pub system: System,
    /// Size of the drawing.
    pub size: (f64, f64),
    /// What a reader who does not see it is told.
    pub title: String,
}

/// The water along a path, unrolled: how deep the lure is, and how far over the bed.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/run_section.svg")]
pub struct RunSection {
    width: Px,
    height: Px,
    left: Px,
    span: Px,
    surface: Px,
    water: String,
    zone: String,
    bed: String,
    others: Vec<(String, Px, Px, &'static str)>,
    path: String,
    rings: Vec<Ring>,
    deep: Vec<(Px, String)>,
    along: Vec<(Px, String)>,
    note: String,
    title: String,
}

/// How far along the water each moment of a path lies.
fn unrolled(path: &Path) -> Vec<(f64, Moment)> {
    let mut gone = 0.0;
    let mut all: Vec<(f64, Moment)> = Vec::new();
    for moment in &path.moments {
        if let Some((_, before)) = all.last() {
            let [dx, dy] = [0, 1].map(|axis| moment.place[axis] - before.place[axis]);
            gone += dx.hypot(dy);
        }
        all.push((gone, *moment));
    }
    all
}

/// A ring a second along an unrolled path.
fn each_second(along: &[(f64, Moment)], x: &Scale, y: &Scale) -> Vec<Ring> {
    let mut second = 0.0;
    let mut rings = Vec::new();
    for (gone, moment) in along {
        if moment.at >= second {
            second += RING_EVERY;
            rings.push(Ring {
                x: x.at(*gone),
                y: y.at(moment.place[2].max(0.0)),
                class: ring(moment),
            });
        }
    }
    rings
}

impl RunSection {
    /// Draws it.
    pub fn new(source: &RunSectionSource<'_>) -> Self {
        let (width, height) = source.size;
        let (left, right, top, bottom) = (48.0, 14.0, 26.0, 30.0);
        let along = unrolled(source.path);
        let length = along.last().map_or(1.0, |(gone, _)| *gone).max(4.0);
        let others: Vec<(Vec<(f64, Moment)>, &'static str)> = source
            .others
            .iter()
            .map(|(path, name)| (unrolled(path), *name))
            .collect();
        let beds = along.iter().map(|(_, moment)| moment.bed.0);
        let deepest = beds.fold(0.5, f64::max) * 1.12;
        let wide = (width - left - right) / length;
        let tall = (height - top - bottom) / deepest;
        // The same stretch everywhere, as long as it fits.
        let scale = wide;
        let stretch = (tall / scale).min(STRETCH);
        let x = Scale::new((0.0, length), (left, left + length * scale));
        let y = Scale::new((0.0, deepest), (top, top + deepest * scale * stretch));
        let every = (along.len() / 160).max(1);
        let thin: Vec<&(f64, Moment)> = along.iter().step_by(every).chain(along.last()).collect();
        let line = |figure: &dyn Fn(&Moment) -> f64| {
            let points = thin
                .iter()
                .map(|(gone, moment)| (x.at(*gone), y.at(figure(moment))));
            points.collect::<Vec<_>>()
        };
        let bed = line(&|moment| moment.bed.0);
        let end = x.at(length);
        let floor = y.at(deepest);
        let mut ground = Drawn::through(bed.iter().copied());
        ground.push('L', &[end, floor]);
        ground.push('L', &[Px(left), floor]);
        let zone: Vec<(Px, (Px, Px))> = thin
            .iter()
            .filter_map(|(gone, moment)| {
                let (high, low) = (source.zone)(moment)?;
                let clamp = |depth: f64| y.at(depth.clamp(0.0, moment.bed.0));
                Some((x.at(*gone), (clamp(high), clamp(low))))
            })
            .collect();
        let band = zone
            .iter()
            .map(|(x, (high, _))| (*x, *high))
            .chain(zone.iter().rev().map(|(x, (_, low))| (*x, *low)));
        let mut water = Drawn::through([(Px(left), y.at(0.0)), (end, y.at(0.0))]);
        for (x, y) in bed.iter().rev() {
            water.push('L', &[*x, *y]);
        }
        let rings = each_second(&along, &x, &y);
        let unit = Quantity::Depth.unit(source.system);
        let deep = ticks(0.0, unit.from_si(deepest), 5).into_iter();
        let far = ticks(0.0, unit.from_si(length), 8).into_iter();
        let drawn_others = others.iter().zip(1..).map(|((other, name), place)| {
            let points = other
                .iter()
                .step_by((other.len() / 120).max(1))
                .filter(|(gone, _)| *gone <= length)
                .map(|(gone, moment)| (x.at(*gone), y.at(moment.place[2].max(0.0))));
            let points: Vec<_> = points.collect();
            let at = points
                .get(place * points.len() / 3)
                .copied()
                .unwrap_or((Px(left), Px(top)));
            (
                Drawn::through(points).to_string(),
                at.0,
                Px(at.1.0 - 5.0),
                *name,
            )
        });
        Self {
            width: Px(width),
            height: Px(height),
            left: Px(left),
            span: Px(length * scale),
            surface: y.at(0.0),
            water: water.closed().to_string(),
            zone: if zone.is_empty() {
                String::new()
            } else {
                Drawn::through(band).closed().to_string()
            },
            bed: ground.closed().to_string(),
            others: drawn_others.collect(),
            path: Drawn::through(line(&|moment| moment.place[2].max(0.0))).to_string(),
            rings,
            deep: deep
                .map(|figure| (y.at(unit.to_si(figure)), format!("{figure}")))
                .collect(),
            along: far
                .map(|figure| (x.at(unit.to_si(figure)), format!("{figure}")))
                .collect(),
            note: format!(
                "{} along the path; depth drawn {:.0} times",
                unit.symbol, stretch
            ),
            title: source.title.clone(),
        }
    }
}
