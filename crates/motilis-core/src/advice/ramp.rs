//! How much of each a day is: practice speaks of clear and stained, of cold and warm, of dawn and day; no water and no
//! hour changes from one to the other at a stroke. Ends of the ramps are designed about the figures practice names.

use super::day::{Clearness, Day, Lighting, Sky};
use crate::light::{Stain, View};
use crate::units::{Celsius, Metres};

/// Shares of a few kinds, adding up to 1.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Shares<T, const N: usize>(pub [(T, f64); N]);

impl<T: Copy + PartialEq, const N: usize> Shares<T, N> {
    /// The kind there is most of; of equals the first.
    pub fn most(&self) -> T {
        self.0
            .iter()
            .copied()
            .reduce(|best, next| if next.1 > best.1 { next } else { best })
            .map_or(self.0[0].0, |(kind, _)| kind)
    }

    /// The share of a kind.
    pub fn of(&self, kind: T) -> f64 {
        self.0
            .iter()
            .filter(|(other, _)| *other == kind)
            .map(|(_, share)| share)
            .sum()
    }

    /// A figure of each kind, weighed by its share.
    pub fn mean(&self, figure: impl Fn(T) -> f64) -> f64 {
        self.0
            .iter()
            .map(|(kind, share)| share * figure(*kind))
            .sum()
    }
}

impl From<Clearness> for Shares<Clearness, 3> {
    fn from(only: Clearness) -> Self {
        Self(
            [Clearness::Clear, Clearness::Stained, Clearness::Dirty]
                .map(|kind| (kind, f64::from(u8::from(kind == only)))),
        )
    }
}

impl From<Lighting> for Shares<Lighting, 4> {
    fn from(only: Lighting) -> Self {
        Self(
            [
                Lighting::Dark,
                Lighting::Low,
                Lighting::Even,
                Lighting::Bright,
            ]
            .map(|kind| (kind, f64::from(u8::from(kind == only)))),
        )
    }
}

/// 0 below a stretch, 1 above it, straight between.
pub(super) fn ramp(figure: f64, from: f64, to: f64) -> f64 {
    ((figure - from) / (to - from)).clamp(0.0, 1.0)
}

/// Disk readings between which dirty water becomes stained (about 1 m), and stained water clear (about 4 m).
const STAINED: (f64, f64) = (0.7, 1.4);
const CLEAR: (f64, f64) = (2.4, 4.4);
/// Cold water: about 50 °F; warm water: about 65 °F (from memory).
const COLD: (f64, f64) = (5.5, 14.5);
const WARM: (f64, f64) = (14.3, 22.3);
/// Altitudes of the sun between which dark becomes low light, that even light, and that bright.
const NIGHT: (f64, f64) = (-8.0, -4.0);
const DAY: (f64, f64) = (2.0, 10.0);
const BRIGHT: (f64, f64) = (10.0, 20.0);
/// Half the height of the layer that fish see level, and what they move up and down about it.
const LEVEL: f64 = 0.8;
const STIR: f64 = 0.9;

impl Day {
    /// How clear the water is. Only water without a stain counts as clear.
    pub fn clearness_shares(&self) -> Shares<Clearness, 3> {
        let reading = self.clarity.0.max(1e-3).ln();
        let over = |(from, to): (f64, f64)| ramp(reading, from.ln(), to.ln());
        let (clean, clear) = match self.stain {
            Stain::Muddy => (0.0, 0.0),
            Stain::Clear => (over(STAINED), over(CLEAR)),
            Stain::Green | Stain::Tea => (over(STAINED), 0.0),
        };
        Shares([
            (Clearness::Clear, clear),
            (Clearness::Stained, clean - clear),
            (Clearness::Dirty, 1.0 - clean),
        ])
    }

    /// What light there is.
    pub fn lighting_shares(&self) -> Shares<Lighting, 4> {
        let over = |(from, to): (f64, f64)| ramp(self.overhead.sun_alt, from, to);
        let (up, even) = (over(NIGHT), over(DAY));
        let (even, bright) = match self.sky {
            Sky::Rain => (0.0, 0.0),
            Sky::Sun => (even, over(BRIGHT)),
            Sky::Broken => (even, 0.5 * over(BRIGHT)),
            Sky::Cloud => (even, 0.0),
        };
        Shares([
            (Lighting::Dark, 1.0 - up),
            (Lighting::Low, up - even),
            (Lighting::Even, even - bright),
            (Lighting::Bright, bright),
        ])
    }

    /// How cold the water is: 1 well below 50 °F, 0 well above.
    pub fn cold(&self) -> f64 {
        1.0 - ramp(self.temperature.0, COLD.0, COLD.1)
    }

    /// How warm it is: 0 well below 65 °F, 1 well above.
    pub fn warm(&self) -> f64 {
        ramp(self.temperature.0, WARM.0, WARM.1)
    }

    /// Where the fish look to see a lure at a depth: those below it up, those above it down, averaged over the band they
    /// hold in and what they stir about it.
    pub fn views(&self, depth: Metres) -> Shares<View, 3> {
        let (from, to) = (self.fish_depth.0.0 - STIR, self.fish_depth.1.0 + STIR);
        let above = |at: f64| ramp(at, from, to);
        let (down, up) = (above(depth.0 - LEVEL), 1.0 - above(depth.0 + LEVEL));
        Shares([
            (View::Level, 1.0 - up - down),
            (View::Up, up),
            (View::Down, down),
        ])
    }
}

/// How far a temperature lies in copper's water, 68 to 72 °F.
pub(super) fn copper_water(temperature: Celsius) -> f64 {
    ramp(temperature.0, 18.5, 20.5) * (1.0 - ramp(temperature.0, 22.0, 24.0))
}

#[cfg(test)]
mod tests {
    use super::super::day::tests::summer;
    use super::*;
    use crate::units::FOOT;

    fn add_up<T: Copy + PartialEq, const N: usize>(shares: Shares<T, N>) {
        let sum: f64 = shares.0.iter().map(|(_, share)| share).sum();
        assert!((sum - 1.0).abs() < 1e-12);
        assert!(
            shares
                .0
                .iter()
                .all(|(_, share)| (-1e-12..=1.0 + 1e-12).contains(share))
        );
    }

    /// Whatever is moved by little moves every share by little, and they add up.
    #[test]
    fn shares_add_up_and_move_by_little() {
        let mut last: Option<Day> = None;
        for i in 0..400 {
            let share = f64::from(i) / 400.0;
            let mut day = Day {
                clarity: Metres(0.3 * 60.0_f64.powf(share)),
                temperature: Celsius(2.0 + 26.0 * share),
                wanted_depth: Metres(14.0 * share),
                stain: Stain::Clear,
                sky: Sky::Sun,
                ..summer()
            };
            day.overhead.sun_alt = -12.0 + 60.0 * share;
            let depth = |day: &Day| day.views(day.wanted_depth);
            add_up(day.clearness_shares());
            add_up(day.lighting_shares());
            add_up(depth(&day));
            if let Some(before) = last {
                let near = |a: f64, b: f64| assert!((a - b).abs() < 0.06, "{i}: {a} {b}");
                for kind in 0..3 {
                    near(
                        day.clearness_shares().0[kind].1,
                        before.clearness_shares().0[kind].1,
                    );
                    near(depth(&day).0[kind].1, depth(&before).0[kind].1);
                }
                for kind in 0..4 {
                    near(
                        day.lighting_shares().0[kind].1,
                        before.lighting_shares().0[kind].1,
                    );
                }
                near(day.cold(), before.cold());
                near(day.warm(), before.warm());
            }
            last = Some(day);
        }
    }

    #[test]
    fn a_rig_over_the_fish_is_looked_up_to_and_one_among_them_seen_level() {
        let day = Day {
            fish_depth: (20.0 * FOOT, 25.0 * FOOT),
            ..summer()
        };
        assert_eq!(day.views(10.0 * FOOT).most(), View::Up);
        assert_eq!(day.views(26.9 * FOOT).most(), View::Down);
        assert!((day.views(5.0 * FOOT).of(View::Up) - 1.0).abs() < 1e-12);
        assert!(day.views(22.5 * FOOT).of(View::Level) > 0.3);
        assert!(
            (day.views(22.5 * FOOT).of(View::Up) - day.views(22.5 * FOOT).of(View::Down)).abs()
                < 1e-9
        );
    }

    #[test]
    fn green_water_is_never_clear() {
        for stain in [Stain::Green, Stain::Tea, Stain::Muddy] {
            let day = Day {
                clarity: Metres(6.0),
                stain,
                ..summer()
            };
            assert_ne!(day.clearness_shares().most(), Clearness::Clear);
        }
    }
}
