use super::kit::{Path, Px};
use crate::units::System;
use askama::Template;
use motilis_core::track::{Pace, Plane, Run, Spot, Track, runs};
use motilis_core::units::Metres;

/// Room around the track, and what the scale bar takes.
const ROOM: f64 = 34.0;
/// How close a drawn track follows the one that is kept, px.
const CLOSE: f64 = 0.6;
/// The smallest stretch of ground a plan shows, m.
const LEAST: f64 = 200.0;

/// An entry on the plan.
#[derive(Debug, Clone)]
pub struct PlanMark {
    /// Latitude and longitude.
    pub place: (f64, f64),
    /// Key of its kind.
    pub mark: &'static str,
    /// What it was, for who asks.
    pub title: String,
}

/// What a plan is drawn from.
pub struct PlanSource<'a> {
    /// Where the boat went.
    pub track: Option<&'a Track>,
    /// Entries whose place is known.
    pub marks: &'a [PlanMark],
    /// Spots, in the order of the list that numbers them.
    pub spots: &'a [Spot],
    /// The boat's units.
    pub system: System,
    /// Size of the drawing.
    pub size: (f64, f64),
    /// What a reader who does not see it is told.
    pub title: String,
}

/// A circle with its number.
#[derive(Debug, Clone)]
struct Circle {
    x: Px,
    y: Px,
    radius: Px,
    number: usize,
}

/// An outing seen from above: north up, no map.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/plan.svg")]
pub struct Plan {
    width: Px,
    height: Px,
    runs: Vec<(String, &'static str)>,
    ends: Vec<(Px, Px)>,
    marks: Vec<(Px, Px, &'static str, String)>,
    spots: Vec<Circle>,
    bar: (Px, Px, Px),
    bar_words: String,
    title: String,
}

fn class(pace: Pace) -> &'static str {
    match pace {
        Pace::Still => "way way-still",
        Pace::Slow => "way way-slow",
        Pace::Brisk => "way way-brisk",
        Pace::Running => "way way-running",
    }
}

/// A round length that is at most so long.
fn round(most: f64) -> f64 {
    let tens = 10_f64.powf(most.log10().floor());
    let steps = [5.0, 2.0, 1.0];
    steps
        .into_iter()
        .map(|step| step * tens)
        .find(|length| *length <= most)
        .unwrap_or(tens)
}

/// The middle of what is shown, metres on the plane, and pixels to the metre.
fn extent(source: &PlanSource<'_>, plane: &Plane) -> ((f64, f64), f64) {
    let (width, height) = source.size;
    // Spots across the lake do not shrink the track to a dot: they are drawn where they lie on the paper.
    let mut places: Vec<(f64, f64)> = Vec::new();
    if let Some(track) = source.track {
        let all = track.points().iter();
        places.extend(all.map(|point| plane.place(point.latitude, point.longitude)));
    }
    places.extend(
        source
            .marks
            .iter()
            .map(|mark| plane.place(mark.place.0, mark.place.1)),
    );
    if places.is_empty() {
        for spot in source.spots {
            let (x, y) = plane.place(spot.latitude, spot.longitude);
            let r = spot.radius.0;
            places.extend([(x - r, y - r), (x + r, y + r)]);
        }
    }
    let ends = |of: fn(&(f64, f64)) -> f64| {
        let low = places.iter().map(of).fold(f64::INFINITY, f64::min);
        let high = places.iter().map(of).fold(f64::NEG_INFINITY, f64::max);
        let more = (LEAST - (high - low)).max(0.0) / 2.0;
        (low - more, high + more)
    };
    let (west, east) = ends(|at| at.0);
    let (south, north) = ends(|at| at.1);
    let scale = ((width - 2.0 * ROOM) / (east - west)).min((height - 2.0 * ROOM) / (north - south));
    let middle = (0.5 * (west + east), 0.5 * (south + north));
    (middle, scale)
}

impl Plan {
    /// Draws it; `None` when nothing on it has a place.
    pub fn new(source: &PlanSource<'_>) -> Option<Self> {
        let (width, height) = source.size;
        let plane = match (source.track, source.marks.first(), source.spots.first()) {
            (Some(track), _, _) => Plane::of(track),
            (None, Some(mark), _) => Plane::at(mark.place.0, mark.place.1),
            (None, None, Some(spot)) => Plane::at(spot.latitude, spot.longitude),
            (None, None, None) => return None,
        };
        let (middle, scale) = extent(source, &plane);
        let on = |(x, y): (f64, f64)| {
            (
                0.5 * width + scale * (x - middle.0),
                0.5 * height - scale * (y - middle.1),
            )
        };
        let of = |latitude, longitude| on(plane.place(latitude, longitude));
        let drawn = |run: &Run| {
            let points: Vec<(f64, f64)> = run.places.iter().map(|place| on(*place)).collect();
            (
                Path::through(points.into_iter().map(|(x, y)| (Px(x), Px(y)))).to_string(),
                class(run.pace),
            )
        };
        let most = Metres(0.28 * width / scale);
        let unit = source.system.way_unit(most);
        let bar = round(unit.from_si(most.0));
        let bar_words = format!("{bar} {}", unit.symbol);
        let bar = scale * unit.to_si(bar);
        let track = source
            .track
            .map(|track| (track, runs(track, &plane, CLOSE / scale)));
        let ends = track.as_ref().map(|(track, _)| {
            let points = track.points();
            [points[0], points[points.len() - 1]].map(|point| of(point.latitude, point.longitude))
        });
        let inside = |(x, y): (f64, f64), r: f64| {
            x + r > 0.0 && x - r < width && y + r > 0.0 && y - r < height
        };
        Some(Self {
            width: Px(width),
            height: Px(height),
            runs: track.iter().flat_map(|(_, runs)| runs).map(drawn).collect(),
            ends: ends
                .into_iter()
                .flatten()
                .map(|(x, y)| (Px(x), Px(y)))
                .collect(),
            marks: source
                .marks
                .iter()
                .map(|mark| {
                    let (x, y) = of(mark.place.0, mark.place.1);
                    (Px(x), Px(y), mark.mark, mark.title.clone())
                })
                .collect(),
            spots: (1..)
                .zip(source.spots)
                .map(|(number, spot)| {
                    (
                        number,
                        of(spot.latitude, spot.longitude),
                        scale * spot.radius.0,
                    )
                })
                .filter(|(_, at, radius)| inside(*at, *radius))
                .map(|(number, (x, y), radius)| Circle {
                    x: Px(x),
                    y: Px(y),
                    radius: Px(radius.max(9.0)),
                    number,
                })
                .collect(),
            bar: (Px(ROOM), Px(ROOM + bar), Px(height - 16.0)),
            bar_words,
            title: source.title.clone(),
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::Timestamp;
    use motilis_core::book::WaterId;
    use motilis_core::track::Point;

    fn track() -> Track {
        let points = (0..3_600).map(|second| {
            let turn = f64::from(second) / 300.0;
            let (latitude, longitude) = Plane::at(50.42, -95.61)
                .back(400.0 * turn.sin() + f64::from(second), 300.0 * turn.cos());
            Point {
                at: Timestamp::from_second(1_780_000_000 + i64::from(second)).unwrap(),
                latitude,
                longitude,
            }
        });
        Track::new("loops", points.collect()).unwrap()
    }

    #[test]
    fn everything_lies_on_the_paper_and_the_scale_bar_is_round() {
        let track = track();
        let mark = PlanMark {
            place: (50.42, -95.60),
            mark: "fish",
            title: String::new(),
        };
        for system in [System::Imperial, System::Metric] {
            let plan = Plan::new(&PlanSource {
                track: Some(&track),
                marks: std::slice::from_ref(&mark),
                spots: &[],
                system,
                size: (390.0, 390.0),
                title: "loops".into(),
            })
            .unwrap();
            for (x, y, ..) in &plan.marks {
                assert!((0.0..=390.0).contains(&x.0) && (0.0..=390.0).contains(&y.0));
            }
            let (from, to, _) = plan.bar;
            assert!((30.0..160.0).contains(&(to.0 - from.0)), "{:?}", plan.bar);
            assert!(!plan.runs.is_empty());
            assert_eq!(plan.ends.len(), 2);
        }
        for (most, is) in [(70.0, 50.0), (0.38, 0.2), (100.0, 100.0)] {
            assert!((round(most) - is).abs() < 1e-12);
        }
    }

    #[test]
    fn without_any_place_there_is_no_plan_and_spots_alone_make_one() {
        let spot = Spot {
            water: WaterId(1),
            name: "bay".into(),
            latitude: 50.0,
            longitude: -95.0,
            radius: Metres(80.0),
            depth: None,
            structure: String::new(),
        };
        let plan = |spots: &[Spot]| {
            Plan::new(&PlanSource {
                track: None,
                marks: &[],
                spots,
                system: System::Metric,
                size: (1_230.0, 500.0),
                title: String::new(),
            })
        };
        assert!(plan(&[]).is_none());
        let drawn = plan(&[spot]).unwrap();
        assert_eq!(drawn.spots.len(), 1);
        assert!(drawn.spots[0].radius.0 > 100.0);
    }
}
