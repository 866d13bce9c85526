use super::Spread;
use super::line_running::speeds;
use crate::error::Error;
use crate::line::Surroundings;
use crate::units::{MILE_PER_HOUR, MetresPerSecond};

/// The speed that suits most lines.
#[derive(Debug, Clone, PartialEq)]
pub struct Shared {
    /// The speed: most lines inside their windows, of those most inside what practice runs them at, of those the
    /// nearest to their favourites.
    pub at: MetresPerSecond,
    /// The speeds around it at which the same lines are inside their windows.
    pub from: MetresPerSecond,
    /// Their upper end.
    pub to: MetresPerSecond,
    /// Lines inside their windows.
    pub inside: Vec<usize>,
    /// Lines outside of them.
    pub outside: Vec<usize>,
    /// Lines inside what practice runs them at.
    pub favoured: usize,
}

/// Fastest speed looked at.
const FASTEST: f64 = 4.0;

impl Spread {
    /// One speed for all lines.
    ///
    /// # Errors
    /// As [`Spread::running`].
    pub fn shared_speed(&self, surroundings: &Surroundings) -> Result<Shared, Error> {
        self.check_whole(surroundings)?;
        // A line that cannot run has no speed.
        let run: Vec<usize> = (0..self.rods.len())
            .filter(|&place| self.trouble(place, surroundings).is_none())
            .collect();
        let lines = run
            .iter()
            .map(|&place| speeds(&self.rods[place], surroundings))
            .collect::<Result<Vec<_>, _>>()?;
        let ends = |i: usize| {
            let window = &lines[i].0;
            (window.from.0, window.to.map_or(FASTEST, |to| to.0))
        };
        let holds = |i: usize, v: f64| {
            let (from, to) = ends(i);
            (from - 1e-9..=to + 1e-9).contains(&v)
        };
        let rate = |v: f64| {
            let inside = (0..lines.len()).filter(|&i| holds(i, v)).count();
            let favoured = lines
                .iter()
                .filter(|(_, practice)| {
                    (practice.from.0 - 1e-9..=practice.to.0 + 1e-9).contains(&v)
                })
                .count();
            let off: f64 = lines
                .iter()
                .map(|(_, practice)| (practice.favourite.0 - v).abs())
                .sum();
            (inside, favoured, off)
        };
        // Tenths of a mile an hour are what a throttle can hold; ends of windows may lie between them.
        let tenths = (1..).map(|i| 0.1 * f64::from(i) * MILE_PER_HOUR.0);
        let marks = (0..lines.len()).flat_map(|i| <[f64; 2]>::from(ends(i)));
        let mut best: Option<(f64, (usize, usize, f64))> = None;
        for v in tenths.take_while(|v| *v <= FASTEST).chain(marks) {
            let rated = rate(v);
            let better = best.is_none_or(|(_, was)| {
                (rated.0, rated.1) > (was.0, was.1)
                    || (rated.0, rated.1) == (was.0, was.1) && rated.2 < was.2 - 1e-9
            });
            if better && v > 0.0 {
                best = Some((v, rated));
            }
        }
        let (at, (_, favoured, _)) = best.unwrap_or((self.speed.0, (0, 0, 0.0)));
        let works: Vec<usize> = (0..lines.len()).filter(|&i| holds(i, at)).collect();
        let from = works.iter().map(|&i| ends(i).0).fold(0.0, f64::max);
        let to = works.iter().map(|&i| ends(i).1).fold(FASTEST, f64::min);
        let inside: Vec<usize> = works.iter().map(|&i| run[i]).collect();
        let outside = (0..self.rods.len())
            .filter(|place| !inside.contains(place))
            .collect();
        Ok(Shared {
            at: MetresPerSecond(at),
            from: MetresPerSecond(from.min(at)),
            to: MetresPerSecond(to.max(at)),
            inside,
            outside,
            favoured,
        })
    }
}
