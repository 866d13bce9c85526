use motilis_core::light::Fading;
use motilis_core::units::{FOOT, Metres};
use std::fmt;

/// A coordinate, shown to a tenth of a pixel.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd)]
pub struct Px(pub f64);

impl fmt::Display for Px {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let tenths = (self.0 * 10.0).round() / 10.0;
        // No "-0".
        write!(f, "{}", if tenths == 0.0 { 0.0 } else { tenths })
    }
}

/// A straight scale from a domain (SI or trade units) to pixels.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Scale {
    from: f64,
    start: f64,
    slope: f64,
}

impl Scale {
    /// Maps `domain.0` to `range.0` and `domain.1` to `range.1`; an empty domain maps to `range.0`.
    pub fn new(domain: (f64, f64), range: (f64, f64)) -> Self {
        let width = domain.1 - domain.0;
        Self {
            from: domain.0,
            start: range.0,
            slope: if width == 0.0 {
                0.0
            } else {
                (range.1 - range.0) / width
            },
        }
    }

    /// Where a value lies.
    pub fn at(&self, value: f64) -> Px {
        Px(self.start + (value - self.from) * self.slope)
    }

    /// How long a difference of values is.
    pub fn length(&self, difference: f64) -> Px {
        Px((difference * self.slope).abs())
    }
}

/// A mark on a scale.
#[derive(Debug, Clone, PartialEq)]
pub struct Tick {
    /// Where.
    pub at: Px,
    /// Its figure; empty for a minor mark.
    pub label: String,
}

/// Round figures (steps of 1, 2 or 5) between two values, at most `most` of them.
pub fn ticks(from: f64, to: f64, most: usize) -> Vec<f64> {
    let width = to - from;
    if width <= 0.0 || !width.is_finite() {
        return vec![from];
    }
    let least = width / most as f64;
    let power = 10_f64.powf(least.log10().floor());
    let step = [1.0, 2.0, 5.0, 10.0]
        .into_iter()
        .map(|times| times * power)
        .find(|step| *step >= least * (1.0 - 1e-9))
        .unwrap_or(10.0 * power);
    let first = (from / step).ceil() as i64;
    let last = ((to + 1e-9 * width) / step).floor() as i64;
    (first..=last).map(|i| i as f64 * step).collect()
}

/// The data of an SVG path.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Path {
    commands: String,
}

impl Path {
    /// A path through points.
    pub fn through(points: impl IntoIterator<Item = (Px, Px)>) -> Self {
        let mut path = Self::default();
        for (x, y) in points {
            let command = if path.commands.is_empty() { 'M' } else { 'L' };
            path.push(command, &[x, y]);
        }
        path
    }

    /// The same path, closed.
    pub fn closed(mut self) -> Self {
        self.commands.push('Z');
        self
    }

    /// Adds a command with its coordinates.
    pub fn push(&mut self, command: char, coordinates: &[Px]) {
        use fmt::Write;
        self.commands.push(command);
        for (place, coordinate) in coordinates.iter().enumerate() {
            let space = if place > 0 { " " } else { "" };
            // Writing to a text cannot fail.
            let _ = write!(self.commands, "{space}{coordinate}");
        }
    }
}

impl fmt::Display for Path {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.commands)
    }
}

/// How water darkens with depth: flat washes of 6 ft and ruled lines that close up as light goes.
#[derive(Debug, Clone, PartialEq)]
pub struct Washes {
    /// Top, height and number (0 pale to 5 dark) of each wash.
    pub bands: Vec<(Px, Px, usize)>,
    /// Heights of the ruled lines.
    pub rules: Vec<Px>,
}

impl Washes {
    /// The washes of water of a depth, in which light fades so, on a scale of metres.
    pub fn new(depth: Metres, fading: &Fading, y: &Scale) -> Self {
        let band = 6.0 * FOOT;
        let count = (depth / band).ceil().min(200.0) as usize;
        let bands = (0..count)
            .map(|i| {
                let top = band * i as f64;
                let below = Metres((top.0 + band.0).min(depth.0));
                (y.at(top.0), y.length((below - top).0), i.min(5))
            })
            .collect();
        let mut rules = Vec::new();
        let mut at = Metres(0.0);
        while rules.len() < 160 {
            let light = fading.share(at);
            // Deep water would need thousands of lines: the gap grows with the drawing's scale.
            let least = 4.0 / y.length(1.0).0.max(1e-6);
            at = at + Metres(((0.38 + 2.1 * light.powf(0.6)) * FOOT.0).max(least));
            if at >= depth {
                break;
            }
            rules.push(y.at(at.0));
        }
        Self { bands, rules }
    }
}

/// How deep a drawing goes: to the bottom, unless what is looked at lies so far above it that it would shrink to a strip.
pub(super) fn drawn_depth(bottom: Metres, deepest: Metres) -> Metres {
    let view = Metres((1.4 * deepest.0).max(2.0));
    if bottom.0 > 1.4 * view.0 {
        view
    } else {
        bottom
    }
}

/// The first of several spots for a label that covers nothing of what must be seen; the last when none is free.
pub(super) fn free_spot(
    spots: &[(f64, f64)],
    (width, height): (f64, f64),
    seen: &[(f64, f64)],
    (right, floor): (f64, f64),
) -> (f64, f64) {
    const ROOM: f64 = 5.0;
    let is_free = |&&(x, y): &&(f64, f64)| {
        let inside = x >= 0.0 && y >= 0.0 && x + width <= right && y + height <= floor;
        inside
            && !seen.iter().any(|(px, py)| {
                (x - ROOM..=x + width + ROOM).contains(px)
                    && (y - ROOM..=y + height + ROOM).contains(py)
            })
    };
    spots
        .iter()
        .find(is_free)
        .or(spots.last())
        .copied()
        .unwrap_or_default()
}

#[cfg(test)]
mod tests {
    use super::*;
    use motilis_core::light::{Daylight, Optics, Sky, Stain};

    #[test]
    fn a_scale_maps_its_ends() {
        let scale = Scale::new((10.0, 20.0), (300.0, 100.0));
        assert_eq!((scale.at(10.0), scale.at(20.0)), (Px(300.0), Px(100.0)));
        assert_eq!(scale.length(5.0), Px(100.0));
        assert_eq!(Scale::new((1.0, 1.0), (5.0, 9.0)).at(1.0), Px(5.0));
    }

    #[test]
    fn ticks_are_round_and_few() {
        assert_eq!(ticks(0.0, 27.0, 8), [0.0, 5.0, 10.0, 15.0, 20.0, 25.0]);
        assert_eq!(
            ticks(0.0, 3.0, 6),
            [0.0, 0.5, 1.0, 1.5, 2.0, 2.5, 3.0][..].to_vec()
        );
        assert_eq!(ticks(5.0, 5.0, 6), [5.0]);
        assert!(ticks(0.0, 1e6, 8).len() <= 9);
    }

    #[test]
    fn a_path_is_written_to_a_tenth_of_a_pixel() {
        let path = Path::through([(Px(0.04), Px(-0.04)), (Px(10.26), Px(3.0))]).closed();
        assert_eq!(path.to_string(), "M0 0L10.3 3Z");
    }

    fn fading(secchi: f64) -> Fading {
        let daylight = Daylight::under(&Sky {
            sun_alt: 40.0,
            moon_alt: -20.0,
            moon_phase: 90.0,
            cloud: 0.3,
            wind: 3.0,
        })
        .unwrap();
        let optics = Optics::from_secchi(Stain::Muddy, secchi, false).unwrap();
        Fading::new(&daylight, &optics)
    }

    #[test]
    fn rules_close_up_as_light_goes_and_stay_drawable() {
        let y = Scale::new((0.0, 10.0), (0.0, 300.0));
        let washes = Washes::new(Metres(10.0), &fading(2.0), &y);
        let gaps: Vec<f64> = washes
            .rules
            .windows(2)
            .map(|pair| pair[1].0 - pair[0].0)
            .collect();
        assert!(gaps.first() > gaps.last());
        let deep = Washes::new(
            Metres(300.0),
            &fading(0.3),
            &Scale::new((0.0, 300.0), (0.0, 300.0)),
        );
        assert!(deep.rules.len() <= 160);
        let covered: f64 = deep.bands.iter().map(|band| band.1.0).sum();
        assert!((covered - 300.0).abs() < 1e-6);
    }
}
