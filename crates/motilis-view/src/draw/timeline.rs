use super::kit::{Px, Scale, Tick, ticks};
use crate::units::{Quantity, System};
use askama::Template;
use motilis_core::units::Metres;
use std::collections::BTreeMap;

const SIDE: f64 = 46.0;
const RULE: f64 = 30.0;
const SKY: f64 = 14.0;

/// Something that happened, as the timeline draws it.
#[derive(Debug, Clone)]
pub struct Happening {
    /// Seconds after the first midnight shown.
    pub second: f64,
    /// How deep the rig ran.
    pub depth: Metres,
    /// Symbol of its kind.
    pub mark: &'static str,
}

/// What the timeline of an outing is drawn from.
pub struct TimelineSource<'a> {
    /// What happened on a line, in any order.
    pub happenings: &'a [Happening],
    /// Depth of the water.
    pub bottom: Metres,
    /// The boat's units.
    pub system: System,
    /// Size of the drawing.
    pub size: (f64, f64),
}

/// The outing on its hours: each strike and fish at the depth it came from.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/timeline.svg")]
pub struct Timeline {
    width: Px,
    height: Px,
    surface: Px,
    bed: Px,
    foot: Px,
    hours: Vec<Tick>,
    depths: Vec<Tick>,
    unit: &'static str,
    marks: Vec<(Px, Px, &'static str)>,
    title: String,
}

impl Timeline {
    /// Draws it; `None` when nothing happened on a line.
    pub fn new(source: &TimelineSource<'_>) -> Option<Self> {
        let seconds = || source.happenings.iter().map(|happening| happening.second);
        let hour = 3_600.0;
        let first = (seconds().reduce(f64::min)? / hour - 0.2).floor();
        let last = (seconds().reduce(f64::max)? / hour + 0.2)
            .ceil()
            .max(first + 2.0);
        let (width, height) = source.size;
        let foot = height - RULE;
        let bed = foot - 8.0;
        let x = Scale::new((first, last), (SIDE + 24.0, width - 24.0));
        let y = Scale::new((0.0, source.bottom.0), (SKY, bed));
        let unit = Quantity::Depth.unit(source.system);
        let depth = |metres: Metres| source.system.depth(metres);
        let most_hours = (width / 90.0) as usize;
        let named = source
            .happenings
            .iter()
            .filter(|one| one.mark == "fish")
            .count();
        Some(Self {
            width: Px(width),
            height: Px(height),
            surface: Px(SKY),
            bed: Px(bed),
            foot: Px(foot),
            hours: ticks(first, last, most_hours)
                .into_iter()
                .filter(|hour| hour.fract() == 0.0)
                .map(|hour| Tick {
                    at: x.at(hour),
                    label: format!("{:02}:00", hour as i64 % 24),
                })
                .collect(),
            depths: ticks(0.0, unit.from_si(source.bottom.0), 4)
                .into_iter()
                .filter(|figure| *figure > 0.0)
                .map(|figure| Tick {
                    at: y.at(unit.to_si(figure)),
                    label: format!("{figure}"),
                })
                .collect(),
            unit: unit.symbol,
            marks: apart(source.happenings.iter().map(|one| {
                (
                    x.at(one.second / hour),
                    y.at(one.depth.0.min(source.bottom.0)),
                    one.mark,
                )
            })),
            title: format!(
                "Hours of the outing from {first:02.0}:00 to {last:02.0}:00 over {} of water: {} entries, {named} of them fish. The list below tells each.",
                depth(source.bottom),
                source.happenings.len()
            ),
        })
    }
}

/// Width and height within which marks would lie on each other.
const CELL: (f64, f64) = (13.0, 9.0);

/// Marks that do not lie on each other: of those in one place the first, a fish before anything else.
fn apart(marks: impl Iterator<Item = (Px, Px, &'static str)>) -> Vec<(Px, Px, &'static str)> {
    let mut kept: BTreeMap<(i32, i32), (Px, Px, &'static str)> = BTreeMap::new();
    for mark in marks {
        let cell = ((mark.0.0 / CELL.0) as i32, (mark.1.0 / CELL.1) as i32);
        let there = kept.entry(cell).or_insert(mark);
        if there.2 != "fish" && mark.2 == "fish" {
            *there = mark;
        }
    }
    kept.into_values().collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn timeline(happenings: &[Happening]) -> Option<Timeline> {
        Timeline::new(&TimelineSource {
            happenings,
            bottom: Metres(8.0),
            system: System::Metric,
            size: (390.0, 160.0),
        })
    }

    #[test]
    fn an_outing_without_a_strike_has_no_timeline() {
        assert!(timeline(&[]).is_none());
    }

    /// Twenty years of bites are no more marks than there is paper, and no fish hides under a strike.
    #[test]
    fn marks_do_not_lie_on_each_other() {
        let all: Vec<Happening> = (0..60_000)
            .map(|n| Happening {
                second: f64::from(n % 86_400),
                depth: Metres(f64::from(n % 79) / 10.0),
                mark: if n % 50 == 0 { "fish" } else { "strike" },
            })
            .collect();
        let drawn = timeline(&all).unwrap();
        assert!(drawn.marks.len() < 900, "{}", drawn.marks.len());
        let two = [("strike", 22_000.0), ("fish", 22_060.0)].map(|(mark, second)| Happening {
            second,
            depth: Metres(4.0),
            mark,
        });
        let drawn = timeline(&two).unwrap();
        assert_eq!(
            drawn.marks.iter().map(|mark| mark.2).collect::<Vec<_>>(),
            ["fish"]
        );
    }

    #[test]
    fn every_mark_lies_on_the_paper() {
        let one = |second, depth| Happening {
            second,
            depth: Metres(depth),
            mark: "fish",
        };
        let drawn =
            timeline(&[one(22_000.0, 6.0), one(35_000.0, 40.0), one(22_000.0, 0.0)]).unwrap();
        for (x, y, _) in &drawn.marks {
            assert!((SIDE..=390.0).contains(&x.0) && (SKY..=drawn.bed.0).contains(&y.0));
        }
        assert!(drawn.hours.len() >= 2);
    }
}
