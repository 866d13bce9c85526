/// Seconds over which the change of the water along its own way is taken.
const INSTANT: f64 = 1e-3;

/// Water that moves: a river, a current, or neither.
pub trait Flow {
    /// Velocity of the water at a place (two level axes, depth; m) and a time (s), m/s over the ground.
    fn velocity(&self, place: [f64; 3], time: f64) -> [f64; 3];

    /// How the velocity of the water that passes a place changes, m/s²: what it is an instant further along its
    /// own way, against what it is here.
    fn acceleration(&self, place: [f64; 3], time: f64) -> [f64; 3] {
        let here = self.velocity(place, time);
        let further = std::array::from_fn(|axis| place[axis] + here[axis] * INSTANT);
        let there = self.velocity(further, time + INSTANT);
        std::array::from_fn(|axis| (there[axis] - here[axis]) / INSTANT)
    }

    /// Depth of the bed under a place, m; without one, as deep as may be.
    fn bed(&self, _: [f64; 3]) -> f64 {
        f64::INFINITY
    }

    /// Friction of what slides over the bed, as a share of what presses it down; none without one.
    fn grip(&self) -> f64 {
        0.0
    }
}

/// Water that does not move.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Still;

impl Flow for Still {
    fn velocity(&self, _: [f64; 3], _: f64) -> [f64; 3] {
        [0.0; 3]
    }

    fn acceleration(&self, _: [f64; 3], _: f64) -> [f64; 3] {
        [0.0; 3]
    }
}

/// Any function of place and time is a flow.
impl<F: Fn([f64; 3], f64) -> [f64; 3]> Flow for F {
    fn velocity(&self, place: [f64; 3], time: f64) -> [f64; 3] {
        self(place, time)
    }
}
