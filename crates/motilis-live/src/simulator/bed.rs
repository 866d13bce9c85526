use motilis_core::units::Metres;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// Half of the square that is fished, m.
const REACH: f64 = 1_600.0;
/// The mean depth, and how it rolls, m.
const MEAN: f64 = 10.5;
const ROLL: f64 = 1.6;
const HUMPS: usize = 110;
const FLATS: usize = 14;
/// A drowned road: how high it stands and how wide it is, m.
const ROAD: (f64, f64) = (1.3, 9.0);
/// Nowhere shallower, m.
const SHALLOWEST: f64 = 1.5;

/// A rise of the bed: where, how high, how wide.
#[derive(Debug, Clone, Copy)]
struct Hump {
    at: [f64; 2],
    high: f64,
    wide: f64,
}

/// A flat: where, how deep, how wide.
#[derive(Debug, Clone, Copy)]
struct Flat {
    at: [f64; 2],
    deep: f64,
    wide: f64,
}

/// The invented bottom of a lake: metres to the north and east of its position.
#[derive(Debug, Clone)]
pub struct Bed {
    waves: Vec<(f64, f64, f64, f64)>,
    humps: Vec<Hump>,
    flats: Vec<Flat>,
    road: f64,
}

impl Bed {
    /// The bed of a seed; the same every time.
    pub fn new(seed: u64) -> Self {
        let mut draw = ChaCha8Rng::seed_from_u64(seed);
        let place = |draw: &mut ChaCha8Rng| {
            [
                draw.random_range(-REACH..REACH),
                draw.random_range(-REACH..REACH),
            ]
        };
        let humps = (0..HUMPS)
            .map(|_| Hump {
                at: place(&mut draw),
                high: draw.random_range(2.0..6.5),
                wide: draw.random_range(18.0..55.0),
            })
            .collect();
        let flats = (0..FLATS)
            .map(|_| Flat {
                at: place(&mut draw),
                deep: draw.random_range(5.0..9.0),
                wide: draw.random_range(90.0..200.0),
            })
            .collect();
        // Long waves in all directions: a metre on a few hundred.
        let waves = (0..9)
            .map(|_| {
                let (sin, cos) = draw.random_range(0.0..std::f64::consts::TAU).sin_cos();
                let per_metre = std::f64::consts::TAU / draw.random_range(180.0..900.0);
                (
                    cos * per_metre,
                    sin * per_metre,
                    draw.random_range(0.0..6.0),
                    draw.random_range(0.3..1.0),
                )
            })
            .collect();
        Self {
            waves,
            humps,
            flats,
            road: draw.random_range(-200.0..200.0),
        }
    }

    /// How deep it is at a place.
    pub fn depth(&self, place: [f64; 2]) -> Metres {
        let [x, y] = place;
        let waves = self
            .waves
            .iter()
            .map(|(a, b, phase, high)| high * (a * x + b * y + phase).sin());
        let mut depth = MEAN + ROLL * waves.sum::<f64>() / 2.0;
        for flat in &self.flats {
            let far = (x - flat.at[0]).hypot(y - flat.at[1]) / flat.wide;
            // Level within, and over in a fifth of its width.
            let share = 1.0 / (1.0 + ((far - 1.0) * 10.0).exp());
            depth += share * (flat.deep - depth);
        }
        for hump in &self.humps {
            let far = (x - hump.at[0]).hypot(y - hump.at[1]) / hump.wide;
            if far < 4.0 {
                depth -= hump.high * (-0.5 * far * far).exp();
            }
        }
        // The road winds from west to east.
        let off = x - self.road - 120.0 * (y / 350.0).sin();
        depth -= ROAD.0 / (1.0 + (off / ROAD.1).powi(8));
        Metres(depth.max(SHALLOWEST))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_same_seed_is_the_same_lake_and_its_bed_is_smooth() {
        let (bed, again) = (Bed::new(27), Bed::new(27));
        let mut steepest: f64 = 0.0;
        for step in 0..4_000 {
            let place = |metres: f64| [metres, 0.3 * metres];
            let north = f64::from(step) - 2_000.0;
            let (here, there) = (bed.depth(place(north)), bed.depth(place(north + 1.0)));
            assert_eq!(here, again.depth(place(north)));
            assert!((1.5..20.0).contains(&here.0), "{here:?}");
            steepest = steepest.max((here - there).0.abs());
        }
        assert!(steepest < 0.6, "{steepest}");
        assert_ne!(Bed::new(28).depth([0.0; 2]), bed.depth([0.0; 2]));
    }
}
