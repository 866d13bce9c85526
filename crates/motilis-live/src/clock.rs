use jiff::{SignedDuration, Timestamp};
use std::sync::{Arc, Mutex, PoisonError};

/// The program's clock: this machine's, or, while a simulated boat goes faster than life, the boat's.
#[derive(Debug, Clone)]
pub struct Clock {
    base: fn() -> Timestamp,
    faster: Arc<Mutex<Option<Faster>>>,
}

/// Since then everything goes so many times as fast.
#[derive(Debug, Clone, Copy)]
struct Faster {
    real: Timestamp,
    then: Timestamp,
    pace: f64,
}

impl Clock {
    /// A clock that goes as another does.
    pub fn new(base: fn() -> Timestamp) -> Self {
        Self {
            base,
            faster: Arc::default(),
        }
    }

    fn faster(&self) -> Option<Faster> {
        *self.faster.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// The time of now.
    pub fn now(&self) -> Timestamp {
        let real = (self.base)();
        let Some(faster) = self.faster() else {
            return real;
        };
        let seconds = real.duration_since(faster.real).as_secs_f64() * faster.pace;
        let later = SignedDuration::try_from_secs_f64(seconds).unwrap_or_default();
        faster.then.checked_add(later).unwrap_or(real)
    }

    /// How many times as fast as life it goes.
    pub fn pace(&self) -> f64 {
        self.faster().map_or(1.0, |faster| faster.pace)
    }

    /// From now on it goes so many times as fast as life; back at one, it is this machine's own again.
    pub fn go(&self, pace: f64) {
        let now = self.now();
        let faster = ((pace - 1.0).abs() > 1e-9).then(|| Faster {
            real: (self.base)(),
            then: now,
            pace,
        });
        *self.faster.lock().unwrap_or_else(PoisonError::into_inner) = faster;
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::sync::atomic::{AtomicI64, Ordering};

    static REAL: AtomicI64 = AtomicI64::new(1_000);

    fn real() -> Timestamp {
        Timestamp::from_second(REAL.load(Ordering::Relaxed)).unwrap()
    }

    #[test]
    fn a_clock_goes_faster_without_a_leap_and_comes_back() {
        let clock = Clock::new(real);
        clock.go(20.0);
        assert_eq!(clock.now().as_second(), 1_000);
        REAL.store(1_030, Ordering::Relaxed);
        assert_eq!(clock.now().as_second(), 1_600);
        clock.go(5.0);
        REAL.store(1_040, Ordering::Relaxed);
        assert_eq!((clock.now().as_second(), clock.pace()), (1_650, 5.0));
        clock.go(1.0);
        assert_eq!(clock.now().as_second(), 1_040);
    }
}
