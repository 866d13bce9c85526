use super::kit::{Path, Px, Scale, Tick, ticks};
use askama::Template;

/// Room for the numbers of the rods, px.
const SIDE: f64 = 46.0;
/// Height of a curve's strip, of a rod's row, and of the rule of hours.
const STRIP: f64 = 34.0;
const ROW: f64 = 46.0;
const RULE: f64 = 30.0;

/// A stretch of time that a rod was in the water.
#[derive(Debug, Clone)]
pub struct Bar {
    /// Hours after the first midnight.
    pub from: f64,
    /// The same.
    pub to: f64,
    /// Whether it is still out.
    pub open: bool,
    /// Class of its rig's finish.
    pub colour: String,
    /// Code of that finish.
    pub code: String,
    /// What it was, in words.
    pub title: String,
}

/// A rod's row.
#[derive(Debug, Clone)]
pub struct Row {
    /// Its number; empty where nobody kept it.
    pub rod: String,
    /// Its passes.
    pub bars: Vec<Bar>,
    /// What happened on it: hour, and symbol of its kind.
    pub marks: Vec<(f64, &'static str)>,
}

/// A thin curve over the hours.
#[derive(Debug, Clone)]
pub struct Strip {
    /// "speed, mph 1.1–1.3".
    pub label: String,
    /// Hour and height, 0 to 1.
    pub points: Vec<(f64, f64)>,
    /// Whether a figure holds until the next one is known.
    pub stepped: bool,
}

/// What the day is drawn from.
#[derive(Debug, Clone)]
pub struct DaySource {
    /// First and last hour after the first midnight.
    pub hours: (f64, f64),
    /// The curves, from above.
    pub strips: Vec<Strip>,
    /// The rods.
    pub rows: Vec<Row>,
    /// Width of the drawing, px.
    pub width: f64,
    /// What it shows, in words.
    pub title: String,
}

#[derive(Debug, Clone)]
struct DrawnStrip {
    label: String,
    label_y: Px,
    path: Path,
    foot: Px,
}

#[derive(Debug, Clone)]
struct DrawnBar {
    x: Px,
    width: Px,
    open: bool,
    colour: String,
    code: String,
    title: String,
}

#[derive(Debug, Clone)]
struct DrawnRow {
    rod: String,
    top: Px,
    middle: Px,
    bars: Vec<DrawnBar>,
    marks: Vec<(Px, &'static str)>,
}

/// A day as bars: a row a rod, what bit on it, and above it how the day was.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/day_bars.svg")]
pub struct DayBars {
    width: Px,
    height: Px,
    strips: Vec<DrawnStrip>,
    rows: Vec<DrawnRow>,
    rule: Px,
    hours: Vec<Tick>,
    title: String,
}

impl DayBars {
    /// Draws it; `None` when no rod was out.
    pub fn new(source: &DaySource) -> Option<Self> {
        if source.rows.is_empty() {
            return None;
        }
        let (first, last) = (source.hours.0.floor(), source.hours.1.ceil());
        let last = last.max(first + 2.0);
        let x = Scale::new((first, last), (SIDE + 8.0, source.width - 14.0));
        let strips: Vec<DrawnStrip> = (0..)
            .zip(&source.strips)
            .map(|(place, strip): (u32, _)| {
                let top = f64::from(place) * STRIP;
                let y = Scale::new((0.0, 1.0), (top + STRIP - 4.0, top + 16.0));
                let mut points = Vec::new();
                for (hour, height) in &strip.points {
                    let at = (x.at(*hour), y.at(height.clamp(0.0, 1.0)));
                    let before = points.last().map(|(_, y)| *y);
                    if let Some(y) = before.filter(|_| strip.stepped) {
                        points.push((at.0, y));
                    }
                    points.push(at);
                }
                DrawnStrip {
                    label: strip.label.clone(),
                    label_y: Px(top + 13.0),
                    path: Path::through(points),
                    foot: Px(top + STRIP),
                }
            })
            .collect();
        let under = strips.last().map_or(0.0, |strip| strip.foot.0);
        let rows: Vec<DrawnRow> = (0..)
            .zip(&source.rows)
            .map(|(place, row): (u32, _)| {
                let top = under + f64::from(place) * ROW;
                let bars = row.bars.iter().map(|bar| {
                    let from = x.at(bar.from.clamp(first, last));
                    let width = (x.at(bar.to.clamp(first, last)).0 - from.0).max(3.0);
                    DrawnBar {
                        x: from,
                        width: Px(width),
                        open: bar.open,
                        colour: bar.colour.clone(),
                        // A code that does not fit its bar is left to the list.
                        code: if width > 26.0 {
                            bar.code.clone()
                        } else {
                            String::new()
                        },
                        title: bar.title.clone(),
                    }
                });
                let inside = |hour: &f64| (first..=last).contains(hour);
                let marks = row.marks.iter().filter(|(hour, _)| inside(hour));
                DrawnRow {
                    rod: row.rod.clone(),
                    top: Px(top),
                    middle: Px(top + 0.5 * ROW),
                    bars: bars.collect(),
                    marks: marks.map(|(hour, mark)| (x.at(*hour), *mark)).collect(),
                }
            })
            .collect();
        let rule = under + ROW * rows.len() as f64;
        Some(Self {
            width: Px(source.width),
            height: Px(rule + RULE),
            hours: ticks(first, last, (source.width / 70.0) as usize)
                .into_iter()
                .filter(|hour| hour.fract() == 0.0)
                .map(|hour| Tick {
                    at: x.at(hour),
                    label: format!("{:02}:00", hour as i64 % 24),
                })
                .collect(),
            strips,
            rows,
            rule: Px(rule),
            title: source.title.clone(),
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn day(rows: Vec<Row>) -> DaySource {
        DaySource {
            hours: (6.3, 10.2),
            strips: vec![Strip {
                label: "speed".into(),
                points: vec![(6.3, 0.2), (8.0, 1.4), (10.2, 0.5)],
                stepped: true,
            }],
            rows,
            width: 390.0,
            title: "a day".into(),
        }
    }

    fn row(from: f64, to: f64) -> Row {
        Row {
            rod: "1".into(),
            bars: vec![Bar {
                from,
                to,
                open: false,
                colour: "br".into(),
                code: "BR".into(),
                title: String::new(),
            }],
            marks: vec![(7.0, "fish"), (40.0, "strike")],
        }
    }

    #[test]
    fn everything_lies_on_the_paper() {
        let drawn = DayBars::new(&day(vec![row(5.0, 30.0), row(9.0, 9.0)])).unwrap();
        for row in &drawn.rows {
            for bar in &row.bars {
                assert!(bar.x.0 >= SIDE && bar.x.0 + bar.width.0 <= 390.0);
                assert!(bar.width.0 >= 3.0, "a short pass is seen");
            }
            assert_eq!(
                row.marks.len(),
                1,
                "what lies beyond the hours is left to the list"
            );
        }
        assert!(drawn.rows[1].top.0 + ROW <= drawn.rule.0 + 1e-9);
        assert!(DayBars::new(&day(Vec::new())).is_none());
    }
}
