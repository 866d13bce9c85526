use super::kit::{Path, Px, Scale, Tick, ticks};
use askama::Template;

const LEFT: f64 = 46.0;
/// Room right of the curve.
const MARGIN: f64 = 12.0;
const TOP: f64 = 34.0;
const FOOT: f64 = 186.0;

/// What the curve of a day is drawn from; ranges in the units shown, hours since local midnight.
#[derive(Debug, Clone)]
pub struct DayCurveSource {
    /// Width of the drawing, px.
    pub width: f64,
    /// Unit of the ranges.
    pub unit: &'static str,
    /// Hour and altitude of the sun, degrees.
    pub sun: Vec<(f64, f64)>,
    /// Each finish: name, and its range at the hours of `sun`.
    pub finishes: Vec<(String, Vec<f64>)>,
    /// The hour looked at.
    pub now: f64,
    /// Text equivalent.
    pub title: String,
}

/// Sighting distance of two finishes from dawn to dark.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/day_curve.svg")]
pub struct DayCurve {
    width: Px,
    right: Px,
    unit: &'static str,
    hours: Vec<Tick>,
    ranges: Vec<Tick>,
    /// Left end, width and class of the light of each stretch.
    light: Vec<(Px, Px, &'static str)>,
    curves: Vec<(Path, &'static str, String, Px)>,
    now: Px,
    title: String,
}

impl DayCurve {
    /// Draws it.
    pub fn new(source: DayCurveSource) -> Self {
        let right = source.width - MARGIN;
        let first = source.sun.first().map_or(0.0, |point| point.0);
        let last = source.sun.last().map_or(24.0, |point| point.0);
        let farthest = source
            .finishes
            .iter()
            .flat_map(|(_, ranges)| ranges.iter().copied())
            .fold(0.1, f64::max);
        let x = Scale::new((first, last.max(first + 1.0)), (LEFT, right));
        let y = Scale::new((0.0, 1.08 * farthest), (FOOT, TOP));
        let classes = ["c-on", "c-second"];
        let curves = source
            .finishes
            .iter()
            .zip(classes)
            .enumerate()
            .map(|(place, ((name, ranges), class))| {
                let points = source.sun.iter().zip(ranges);
                let path =
                    Path::through(points.map(|((hour, _), range)| (x.at(*hour), y.at(*range))));
                (
                    path,
                    class,
                    name.clone(),
                    Px(if source.width > 500.0 {
                        190.0 + 200.0 * place as f64
                    } else {
                        160.0 + 116.0 * place as f64
                    }),
                )
            })
            .collect();
        let light = source
            .sun
            .windows(2)
            .map(|pair| {
                let (from, to) = (x.at(pair[0].0), x.at(pair[1].0));
                (from, Px(to.0 - from.0 + 0.5), light(pair[0].1))
            })
            .collect();
        Self {
            width: Px(source.width),
            right: Px(right),
            unit: source.unit,
            hours: ticks(first, last, (source.width / 45.0) as usize)
                .into_iter()
                .map(|hour| Tick {
                    at: x.at(hour),
                    label: format!("{:.0}", hour.rem_euclid(24.0)),
                })
                .collect(),
            ranges: ticks(0.0, 1.08 * farthest, 5)
                .into_iter()
                .map(|range| Tick {
                    at: y.at(range),
                    label: format!("{}", (range * 100.0).round() / 100.0),
                })
                .collect(),
            light,
            curves,
            now: x.at(source.now.clamp(first, last.max(first))),
            title: source.title,
        }
    }
}

/// The wash of a stretch by the altitude of the sun.
fn light(altitude: f64) -> &'static str {
    match altitude {
        high if high > 15.0 => "w0",
        low if low > 0.0 => "w1",
        civil if civil > -6.0 => "w3",
        _ => "w5",
    }
}
