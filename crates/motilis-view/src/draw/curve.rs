use super::kit::{Path, Px, Scale, Tick, ticks};
use askama::Template;

const WIDTH: f64 = 400.0;
const HEIGHT: f64 = 236.0;
const LEFT: f64 = 46.0;
const RIGHT: f64 = 388.0;
const TOP: f64 = 34.0;
const FOOT: f64 = 196.0;

/// What a depth curve is drawn from; all figures in the units shown.
#[derive(Debug, Clone)]
pub struct CurveSource {
    /// Its head.
    pub head: String,
    /// What the horizontal axis is.
    pub x_label: String,
    /// Unit of the depths.
    pub y_unit: &'static str,
    /// Horizontal ends.
    pub x: (f64, f64),
    /// Points `[x, depth]` with what the blade does there.
    pub points: Vec<(f64, f64, Stretch)>,
    /// Where we are: `x`, depth.
    pub now: Option<(f64, f64)>,
    /// Depth of the bottom.
    pub bottom: f64,
    /// The fish.
    pub fish: (f64, f64),
    /// Band about the curve: `x`, upper and lower depth; empty for none.
    pub band: Vec<(f64, f64, f64)>,
    /// What was measured: `x`, depth, whether it touched.
    pub dots: Vec<(f64, f64, bool)>,
    /// Text equivalent.
    pub title: String,
}

/// How a stretch of a curve is drawn: solid where the blade turns.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Stretch {
    /// The blade turns.
    Turning,
    /// It stalls or rolls over.
    NotTurning,
}

/// Depth against something, downwards.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/curve.svg")]
pub struct Curve {
    head: String,
    x_label: String,
    y_unit: &'static str,
    x_ticks: Vec<Tick>,
    y_ticks: Vec<Tick>,
    stretches: Vec<(Path, &'static str)>,
    now: Option<(Px, Px)>,
    /// Top and height of the bed.
    bottom: Option<(Px, Px)>,
    fish: (Px, Px),
    band: Option<Path>,
    dots: Vec<(Px, Px, bool)>,
    title: String,
}

impl Curve {
    /// Draws it.
    pub fn new(source: CurveSource) -> Self {
        let deepest = source
            .points
            .iter()
            .map(|point| point.1)
            .chain(source.now.map(|now| now.1))
            .fold(source.bottom * 1.08, f64::max)
            .min(source.bottom * 1.6);
        let x = Scale::new(source.x, (LEFT, RIGHT));
        let y = Scale::new((0.0, deepest), (TOP, FOOT));
        let inside = |depth: f64| y.at(depth.clamp(0.0, deepest));
        let label = |figure: f64| format!("{}", (figure * 100.0).round() / 100.0);
        let tick = |scale: Scale| {
            move |figure: f64| Tick {
                at: scale.at(figure),
                label: label(figure),
            }
        };
        Self {
            x_ticks: ticks(source.x.0, source.x.1, 8)
                .into_iter()
                .map(tick(x))
                .collect(),
            y_ticks: ticks(0.0, deepest, 5).into_iter().map(tick(y)).collect(),
            stretches: stretches(&source.points, deepest, &x, &y),
            now: source
                .now
                .map(|(at, depth)| (x.at(at.clamp(source.x.0, source.x.1)), inside(depth))),
            bottom: (source.bottom <= deepest).then(|| {
                let top = y.at(source.bottom);
                (top, Px(FOOT - top.0))
            }),
            fish: {
                let top = inside(source.fish.0);
                (top, Px((inside(source.fish.1).0 - top.0).max(1.0)))
            },
            band: (!source.band.is_empty()).then(|| {
                let upper = source
                    .band
                    .iter()
                    .map(|(at, up, _)| (x.at(*at), inside(*up)));
                let lower = source.band.iter().rev();
                let lower = lower.map(|(at, _, down)| (x.at(*at), inside(*down)));
                Path::through(upper.chain(lower)).closed()
            }),
            dots: source
                .dots
                .iter()
                .map(|(at, depth, touched)| {
                    let at = at.clamp(source.x.0, source.x.1);
                    (x.at(at), inside(*depth), *touched)
                })
                .collect(),
            head: source.head,
            x_label: source.x_label,
            y_unit: source.y_unit,
            title: source.title,
        }
    }
}

/// Splits the curve where the blade changes what it does; the pieces share their ends.
fn stretches(
    points: &[(f64, f64, Stretch)],
    deepest: f64,
    x: &Scale,
    y: &Scale,
) -> Vec<(Path, &'static str)> {
    let mut pieces: Vec<(Vec<(Px, Px)>, Stretch)> = Vec::new();
    for (at, depth, stretch) in points.iter().filter(|point| point.1 <= deepest) {
        let point = (x.at(*at), y.at(*depth));
        match pieces.last_mut() {
            Some((piece, same)) if same == stretch => piece.push(point),
            Some((piece, _)) => {
                let joint = *piece.last().expect("a piece starts with a point");
                pieces.push((vec![joint, point], *stretch));
            }
            None => pieces.push((vec![point], *stretch)),
        }
    }
    pieces
        .into_iter()
        .map(|(piece, stretch)| {
            let class = match stretch {
                Stretch::Turning => "c-on",
                Stretch::NotTurning => "c-off",
            };
            (Path::through(piece), class)
        })
        .collect()
}

const _: () = assert!(WIDTH == 400.0 && HEIGHT == 236.0);

#[cfg(test)]
mod tests {
    use super::*;

    fn source(points: Vec<(f64, f64, Stretch)>) -> CurveSource {
        CurveSource {
            head: String::new(),
            x_label: String::new(),
            y_unit: "ft",
            x: (0.0, 3.0),
            points,
            now: Some((1.2, 22.0)),
            bottom: 27.0,
            fish: (20.0, 25.0),
            band: Vec::new(),
            dots: Vec::new(),
            title: String::new(),
        }
    }

    #[test]
    fn a_band_and_its_points_stay_on_the_paper() {
        let curve = Curve::new(CurveSource {
            band: vec![(0.5, 10.0, 14.0), (2.5, 30.0, 400.0)],
            dots: vec![(1.0, 24.0, true), (99.0, 999.0, false)],
            ..source(vec![
                (0.5, 12.0, Stretch::Turning),
                (2.5, 35.0, Stretch::Turning),
            ])
        });
        assert!(curve.band.is_some());
        for (x, y, _) in curve.dots {
            assert!(x.0 < RIGHT + 1e-6 && y.0 < FOOT + 1e-6, "{x} {y}");
        }
    }

    #[test]
    fn a_curve_changes_its_line_where_the_blade_changes() {
        use Stretch::{NotTurning, Turning};
        let curve = Curve::new(source(vec![
            (0.5, 25.0, NotTurning),
            (1.0, 24.0, Turning),
            (1.5, 20.0, Turning),
            (2.5, 15.0, NotTurning),
        ]));
        let classes: Vec<_> = curve.stretches.iter().map(|stretch| stretch.1).collect();
        assert_eq!(classes, ["c-off", "c-on", "c-off"]);
    }

    #[test]
    fn nothing_leaves_the_paper() {
        let curve = Curve::new(source(vec![(0.1, 400.0, Stretch::Turning)]));
        assert!(curve.stretches.is_empty());
        let now = Curve::new(CurveSource {
            now: Some((99.0, 999.0)),
            ..source(vec![])
        })
        .now
        .unwrap();
        assert!(now.0.0 <= RIGHT && now.1.0 <= FOOT);
    }
}
