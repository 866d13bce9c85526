use motilis_core::spread::State;
use motilis_core::units::Metres;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

const SCHOOLS: usize = 60;
/// Half of the square they are in, m.
const REACH: f64 = 1_600.0;
/// Fish an hour on a rod in the best of places, and away from all schools as a share of it.
const BEST: f64 = 1.6;
const AWAY: f64 = 0.25;
/// How much better the best rig is than the worst.
const TASTE: f64 = 4.0;
/// Of those that bite so many stay on.
const HOOKED: f64 = 0.65;

/// Fish that hold together.
#[derive(Debug, Clone, Copy)]
struct School {
    at: [f64; 2],
    wide: f64,
    over_bottom: f64,
}

/// A rod as the fish meet it.
#[derive(Debug, Clone, PartialEq)]
pub struct Rigged {
    /// Its number.
    pub rod: u8,
    /// What is on it.
    pub name: String,
    /// Where its rig is, metres to the north and east.
    pub place: [f64; 2],
    /// How deep.
    pub depth: Metres,
    /// Depth of the bottom there.
    pub bottom: Metres,
    /// Whether it fishes.
    pub state: State,
}

/// A rod bends.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bite {
    /// Which.
    pub rod: u8,
    /// Whether the fish stays on.
    pub hooked: bool,
    /// How long it is.
    pub length: Metres,
}

/// What was possible, told when all is over.
#[derive(Debug, Clone, PartialEq)]
pub struct Truth {
    /// The rigs that were out, and how often each is taken where the best is taken once: the best first.
    pub taste: Vec<(String, f64)>,
    /// Rod-hours that were fished.
    pub rod_hours: f64,
    /// Fish an hour on a rod that were hooked on the average as it was fished.
    pub fished: f64,
    /// Fish an hour on a rod, had every rod had the best of those rigs, at work, at the depth of the fish.
    pub possible: f64,
}

/// Schools in a lake and what they like; nobody but this knows.
#[derive(Debug, Clone)]
pub struct Fishery {
    schools: Vec<School>,
    seed: u64,
    draw: ChaCha8Rng,
    rod_hours: f64,
    expected: f64,
    possible: f64,
    met: Vec<String>,
}

impl Fishery {
    /// The fish of a seed.
    pub fn new(seed: u64) -> Self {
        let mut draw = ChaCha8Rng::seed_from_u64(seed ^ 0xf15);
        let schools = (0..SCHOOLS)
            .map(|_| School {
                at: [
                    draw.random_range(-REACH..REACH),
                    draw.random_range(-REACH..REACH),
                ],
                wide: draw.random_range(60.0..220.0),
                over_bottom: draw.random_range(0.6..2.5),
            })
            .collect();
        Self {
            schools,
            seed,
            draw,
            rod_hours: 0.0,
            expected: 0.0,
            possible: 0.0,
            met: Vec::new(),
        }
    }

    /// How the fish like a rig: one for the best, less for any other.
    fn taste(&self, name: &str) -> f64 {
        // A name's own number, the same on every machine.
        let mut sum = self.seed ^ 0xcbf2_9ce4_8422_2325;
        for byte in name.bytes() {
            sum = (sum ^ u64::from(byte)).wrapping_mul(0x0100_0000_01b3);
        }
        let share = f64::from((sum >> 40) as u32) / f64::from(1_u32 << 24);
        TASTE.powf(share - 1.0)
    }

    /// Bites an hour at a place, were the rig the best: at a depth over the bottom, and at the best of all depths.
    fn rate(&self, place: [f64; 2], over_bottom: f64) -> (f64, f64) {
        let height = |at: f64, wide: f64| (-0.5 * ((over_bottom - at) / wide).powi(2)).exp();
        let (mut here, mut best) = (AWAY * height(1.5, 1.8), AWAY);
        for school in &self.schools {
            let far = (place[0] - school.at[0]).hypot(place[1] - school.at[1]) / school.wide;
            if far < 4.0 {
                let near = (-0.5 * far * far).exp();
                here = here.max(near * height(school.over_bottom, 1.2));
                best = best.max(near);
            }
        }
        (BEST * here, BEST * best)
    }

    /// So many seconds go by over these rods.
    pub fn pass(&mut self, seconds: f64, rods: &[Rigged]) -> Vec<Bite> {
        for rod in rods {
            if !self.met.contains(&rod.name) {
                self.met.push(rod.name.clone());
            }
        }
        let best = self
            .met
            .iter()
            .map(|name| self.taste(name))
            .fold(0.0, f64::max);
        let mut bites = Vec::new();
        for rod in rods {
            let over = (rod.bottom - rod.depth).0;
            let works = if rod.state == State::Works { 1.0 } else { 0.05 };
            let (here, at_best) = self.rate(rod.place, over);
            let rate = works * self.taste(&rod.name) * here;
            let hours = seconds / 3_600.0;
            self.rod_hours += hours;
            self.expected += HOOKED * rate * hours;
            self.possible += HOOKED * best * at_best * hours;
            if self.draw.random_range(0.0..1.0) < rate * hours {
                let spread: f64 = (0..3).map(|_| self.draw.random_range(-1.0..1.0)).sum();
                bites.push(Bite {
                    rod: rod.rod,
                    hooked: self.draw.random_range(0.0..1.0) < HOOKED,
                    length: Metres((0.43 + 0.07 * spread).max(0.2)),
                });
            }
        }
        bites
    }

    /// What was possible.
    pub fn truth(&self) -> Truth {
        let best = self
            .met
            .iter()
            .map(|name| self.taste(name))
            .fold(1e-9, f64::max);
        let mut taste: Vec<(String, f64)> = self
            .met
            .iter()
            .map(|name| (name.clone(), self.taste(name) / best))
            .collect();
        taste.sort_by(|a, b| b.1.total_cmp(&a.1).then_with(|| a.0.cmp(&b.0)));
        let hours = self.rod_hours.max(1e-9);
        Truth {
            taste,
            rod_hours: self.rod_hours,
            fished: self.expected / hours,
            possible: self.possible / hours,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn rods(state: State) -> Vec<Rigged> {
        ["Amber wing", "Brass thumper", "Double willow"]
            .iter()
            .zip(1..)
            .map(|(name, rod)| Rigged {
                rod,
                name: (*name).into(),
                place: [10.0, 20.0],
                depth: Metres(8.0),
                bottom: Metres(9.5),
                state,
            })
            .collect()
    }

    /// Bites come as often as their rate says: within three standard deviations of a count.
    #[test]
    fn bites_come_at_their_rate_and_only_where_something_fishes() {
        let mut fishery = Fishery::new(4);
        let mut bites = 0;
        for _ in 0..20_000 {
            bites += fishery.pass(60.0, &rods(State::Works)).len();
        }
        let truth = fishery.truth();
        let expected = truth.fished / HOOKED * truth.rod_hours;
        assert!(
            (bites as f64 - expected).abs() < 3.0 * expected.sqrt(),
            "{bites} {expected}"
        );
        assert!(truth.fished <= truth.possible);
        assert!((truth.taste[0].1 - 1.0).abs() < 1e-12 && truth.taste.len() == 3);
        let mut hanging = Fishery::new(4);
        let quiet: usize = (0..20_000)
            .map(|_| hanging.pass(60.0, &rods(State::Stalled)).len())
            .sum();
        assert!((quiet as f64) < 0.1 * bites as f64);
    }
}
