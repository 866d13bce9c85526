use super::{Blade, Family, Observation};
use crate::error::Error;
use crate::units::{Celsius, MILE_PER_HOUR, Metres, MetresPerSecond};
use crate::water::{SEA_SALINITY, Water};
use jiff::Timestamp;

/// What an angler saw of a rig's blade beside the boat.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DunkTest {
    /// What was seen.
    pub seen: Observation,
    /// Temperature of the water.
    pub temperature: Celsius,
    /// Whether it was salt.
    pub salt: bool,
    /// Family of the blade it was seen of.
    pub family: Family,
    /// Length of that blade.
    pub length: Metres,
    /// When.
    pub at: Timestamp,
}

/// Two dunk tests of one blade that disagree by more than their readings can.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DunksApart {
    /// Places of the two among those asked about, the lower figure first.
    pub tests: (usize, usize),
    /// By how many spreads of a difference of two readings.
    pub spreads: f64,
}

/// Spread of a speed read beside the boat, and of a count of turns; from memory.
const SPEED_READ: MetresPerSecond = MetresPerSecond(0.1 * MILE_PER_HOUR.0);
const COUNT_READ: f64 = 0.05;
/// Spreads from which two are told to disagree.
const APART: f64 = 3.0;

/// The two tests of the same thing that are farthest from each other, if that is too far.
pub fn dunks_apart(tests: &[DunkTest]) -> Option<DunksApart> {
    // What was seen as a logarithm, its spread, and which of the three things it is.
    let read = |seen: &Observation| match *seen {
        Observation::Started(at) => (at.0.ln(), SPEED_READ / at, 0),
        Observation::Turned { rate, speed } => (
            (rate.0 / speed.0).ln(),
            (SPEED_READ / speed).hypot(COUNT_READ),
            1,
        ),
        Observation::RolledOver(at) => (at.0.ln(), SPEED_READ / at, 2),
    };
    let mut worst: Option<DunksApart> = None;
    for (a, one) in tests.iter().enumerate() {
        for (b, other) in tests.iter().enumerate() {
            let ((low, low_spread, thing), (high, high_spread, same)) =
                (read(&one.seen), read(&other.seen));
            let spreads = (high - low) / low_spread.hypot(high_spread);
            let far = spreads > worst.map_or(APART, |worst| worst.spreads);
            if thing == same && far {
                worst = Some(DunksApart {
                    tests: (a, b),
                    spreads,
                });
            }
        }
    }
    worst
}

/// Lengths nearer than this are one blade's.
const SAME: f64 = 1e-4;

impl DunkTest {
    /// The water it was seen in.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a temperature that cannot be.
    pub fn water(&self) -> Result<Water, Error> {
        if self.salt {
            Water::with_salt(self.temperature, SEA_SALINITY)
        } else {
            Water::fresh(self.temperature)
        }
    }

    /// Whether it was seen of such a blade.
    pub fn is_of(&self, blade: &Blade) -> bool {
        self.family == blade.family && (self.length - blade.length).0.abs() < SAME
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::Hertz;

    fn test(seen: Observation) -> DunkTest {
        DunkTest {
            seen,
            temperature: Celsius(15.0),
            salt: false,
            family: Family::Colorado,
            length: Metres(0.0255),
            at: Timestamp::UNIX_EPOCH,
        }
    }

    #[test]
    fn two_that_cannot_both_be_right_are_told() {
        let started = |mph: f64| test(Observation::Started(mph * MILE_PER_HOUR));
        let turned = |rate| {
            test(Observation::Turned {
                rate: Hertz(rate),
                speed: 1.5 * MILE_PER_HOUR,
            })
        };
        assert_eq!(
            dunks_apart(&[started(0.8), started(0.9), turned(3.0)]),
            None
        );
        let apart = dunks_apart(&[started(1.5), turned(3.0), started(0.7), turned(3.1)]).unwrap();
        assert_eq!(apart.tests, (2, 0));
        assert!(apart.spreads > 3.0);
    }
}
