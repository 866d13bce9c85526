//! How sure a line's depth is, and how much line its depth may take.

use super::setup::{LineSetup, Start};
use crate::towline::{Band, Moved, Source, Spreads, TENTH};
use crate::units::{MILE_PER_HOUR, Metres, MetresPerSecond};

/// How unsure an angler's figures are, one standard deviation each; from memory, but for the strumming factor's, which
/// is the width that practice leaves (CP-07, CP-09).
pub const SPREADS: Spreads = Spreads {
    strum: 0.20,
    main_diameter: 0.08,
    node_drag: 0.25,
    tail_drag: 0.30,
    node_weight: 0.03,
    top_length: 0.03,
    speed: MetresPerSecond(0.1 * MILE_PER_HOUR.0),
};

/// A current nobody knows of; from memory.
pub const UNKNOWN_CURRENT: MetresPerSecond = MetresPerSecond(0.2 * MILE_PER_HOUR.0);

/// Share of the depth by which sounder, counter and speed are off together at a bottom touch; from memory.
pub(super) const READING: f64 = 0.06;

/// What a line's own bottom touches have taught.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Learned {
    /// By what the drag across it is multiplied.
    pub held: f64,
    /// On how many touches that rests; 0 while it is the model's own.
    pub touches: usize,
}

impl Default for Learned {
    fn default() -> Self {
        Self {
            held: 1.0,
            touches: 0,
        }
    }
}

/// The 80 % bands of a line with so much out at a speed.
#[derive(Debug, Clone, PartialEq)]
pub struct Sure {
    /// Of the rig's depth, at a speed through the water.
    pub depth: Band,
    /// The same where the speed is over ground and a current unknown.
    pub over_ground: Band,
    /// Of what must be out for the depth it has; `None` where line hardly changes it.
    pub out: Option<(Metres, Metres)>,
}

/// Power of the depth in what is out below which line does not set the depth.
const LEAST_POWER: f64 = 0.15;

impl Sure {
    /// From the depths that moved figures give; `None` for a line that lies on the water.
    pub(crate) fn of(
        setup: &LineSetup,
        out: Metres,
        depth: impl Fn(&Moved) -> Option<Metres>,
    ) -> Option<Self> {
        let middle = depth(&Moved::default()).filter(|depth| depth.0 > 0.05)?.0;
        let current = Spreads {
            speed: UNKNOWN_CURRENT,
            ..SPREADS
        };
        let ends = |source| {
            let spreads = if source == Source::Current {
                &current
            } else {
                &SPREADS
            };
            [-TENTH, TENTH].map(|deviations| {
                depth(&spreads.moved(source, deviations)).map_or(middle, |depth| depth.0)
            })
        };
        let moved: Vec<(Source, [f64; 2])> = sources(setup)
            .map(|source| (source, ends(source)))
            .collect();
        let over_ground = moved
            .iter()
            .copied()
            .chain([(Source::Current, ends(Source::Current))]);
        let left = left_open(middle, &moved, setup.learned.touches);
        let weight = |source| if stays(source) { left } else { 1.0 };
        let band = Band::about(middle, moved.iter().copied(), weight);
        let [short, long] = ends(Source::TopLength);
        let lengths = (1.0 + TENTH * SPREADS.top_length) / (1.0 - TENTH * SPREADS.top_length);
        let power = (long / short).ln() / lengths.ln();
        let needed = |at: Metres| out * (middle / at.0).powf(1.0 / power);
        Some(Self {
            out: (power > LEAST_POWER).then(|| (needed(band.high), needed(band.low))),
            over_ground: Band::about(middle, over_ground, weight),
            depth: band,
        })
    }
}

/// What the depth of a set-up can come from.
fn sources(setup: &LineSetup) -> impl Iterator<Item = Source> {
    let on_the_line = setup.weight.is_some() || matches!(setup.start, Start::Downrigger { .. });
    [
        Source::Strum,
        Source::Diameter,
        Source::NodeDrag,
        Source::NodeWeight,
        Source::TailDrag,
        Source::TopLength,
        Source::Speed,
    ]
    .into_iter()
    .filter(move |source| on_the_line || !matches!(source, Source::NodeDrag | Source::NodeWeight))
}

/// Whether a source is the same in every pass, so that a touch of the bottom tells of it.
fn stays(source: Source) -> bool {
    !matches!(source, Source::TopLength | Source::Speed | Source::Current)
}

/// Share of the squares of what stays that so many touches leave open: each is a reading of their sum (normal, in the
/// logarithm of the depth).
fn left_open(middle: f64, moved: &[(Source, [f64; 2])], touches: usize) -> f64 {
    let square: f64 = moved
        .iter()
        .filter(|(source, _)| stays(*source))
        .map(|(_, [a, b])| {
            let [a, b] = [a, b].map(|depth| (depth.max(0.01) / middle).ln() / TENTH);
            0.5 * (a * a + b * b)
        })
        .sum();
    1.0 / (1.0 + touches as f64 * square / (READING * READING))
}
