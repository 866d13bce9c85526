use crate::units::{Metres, MetresPerSecond, Newtons};
use crate::water::Water;

/// Side-force and drag area of a planer board of some 10 × 3.5 in; from memory.
const SIDE_AREA: f64 = 0.018;
const DRAG_AREA: f64 = 0.007;

/// How a board rides between its tow line and the line it carries.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Balance {
    /// How far it trails behind the rod tip.
    pub lag: Metres,
    /// Angle of its tow line away from straight aft, degrees: small for a hard puller.
    pub angle_deg: f64,
}

/// Where a board rides that is let out to a distance from the rod tip, with a line pulling backwards on it.
///
/// The simple model: the tow line can only pull along itself, so the board comes to rest where the side force
/// that carries it out and the drag of board and line stand in the tow line's direction,
/// `tan α = S / (D + H)`. Distance out over lag is that tangent: what pulls harder trails farther back. The pull
/// `H` grows with the square of the speed nearly as `S` and `D` do, so the picture hardly changes with speed.
pub fn board_balance(out: Metres, pull: Newtons, speed: MetresPerSecond, water: &Water) -> Balance {
    let q = water.dynamic_pressure(speed);
    let tangent = q * SIDE_AREA / (q * DRAG_AREA + pull.0.max(0.0)).max(1e-9);
    Balance {
        lag: Metres(out.0 / tangent.max(0.05)),
        angle_deg: tangent.atan().to_degrees(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{Celsius, MILE_PER_HOUR};

    #[test]
    fn forces_at_a_board_balance_along_its_tow_line() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let speed = 1.5 * MILE_PER_HOUR;
        let q = lake.dynamic_pressure(speed);
        let balance = board_balance(Metres(20.0), Newtons(1.0), speed, &lake);
        // By hand: the tow line runs 20 m out and `lag` aft, and pulls along itself.
        let (side, back) = (q * SIDE_AREA, q * DRAG_AREA + 1.0);
        assert!((side * balance.lag.0 - back * 20.0).abs() < 1e-9);
        assert!((balance.angle_deg.to_radians().tan() - side / back).abs() < 1e-12);
    }

    #[test]
    fn a_hard_puller_trails_in_a_second_row() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let lag = |pull| board_balance(Metres(20.0), Newtons(pull), 1.5 * MILE_PER_HOUR, &lake).lag;
        assert!(lag(4.0).0 > 2.0 * lag(0.5).0);
    }
}
