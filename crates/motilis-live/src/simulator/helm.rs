use motilis_core::units::{MILE_PER_HOUR, MetresPerSecond};
use std::f64::consts::{PI, TAU};

/// How fast a boat with lines out turns, rad/s, and changes its speed, m/s².
const TURN: f64 = 0.035;
const THRUST: f64 = 0.15;
/// A way-point is reached so near, m.
const REACHED: f64 = 15.0;
/// Share of the wind's speed that a boat drifts with.
const DRIFT: f64 = 0.025;

/// What the boat is told to do.
#[derive(Debug, Clone, PartialEq)]
pub enum Order {
    /// From way-point to way-point, and from the last to the first.
    Route(Vec<[f64; 2]>),
    /// In S-turns about a heading, degrees: so far to each side, once in so many seconds.
    STurns {
        /// The middle heading.
        heading_deg: f64,
        /// To each side, degrees.
        angle_deg: f64,
        /// A whole S.
        seconds: f64,
    },
    /// Straight on, degrees.
    Straight(f64),
}

/// How it sails now.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Sailing {
    /// Over ground, metres to the north and east.
    pub place: [f64; 2],
    /// Where the bow points, radians.
    pub heading: f64,
    /// Speed through the water.
    pub through: MetresPerSecond,
    /// Velocity over ground, m/s to the north and east.
    pub ground: [f64; 2],
}

/// A boat with somebody at the helm.
#[derive(Debug, Clone)]
pub struct Helm {
    sailing: Sailing,
    order: Order,
    next: usize,
    throttle: MetresPerSecond,
    /// Where the water goes, m/s.
    pub current: [f64; 2],
    /// Where the wind blows from, degrees, and how fast.
    pub wind: (f64, MetresPerSecond),
    seconds: f64,
}

impl Helm {
    /// A boat at a place, going at a speed.
    pub fn new(place: [f64; 2], order: Order, throttle: MetresPerSecond) -> Self {
        let mut helm = Self {
            sailing: Sailing {
                place,
                heading: 0.0,
                through: throttle,
                ground: [0.0; 2],
            },
            order,
            next: 0,
            throttle,
            current: [0.0; 2],
            wind: (280.0, MetresPerSecond(0.0)),
            seconds: 0.0,
        };
        helm.sailing.heading = helm.wanted();
        helm
    }

    /// How it sails now.
    pub fn sailing(&self) -> Sailing {
        self.sailing
    }

    /// The throttle set to a speed through the water.
    pub fn throttle(&mut self, speed: MetresPerSecond) {
        self.throttle = MetresPerSecond(speed.0.clamp(0.0, 5.0 * MILE_PER_HOUR.0));
    }

    /// What the throttle is set to.
    pub fn throttled(&self) -> MetresPerSecond {
        self.throttle
    }

    /// Another order.
    pub fn order(&mut self, order: Order) {
        self.order = order;
        self.next = 0;
    }

    fn wanted(&self) -> f64 {
        match &self.order {
            Order::Route(points) => {
                let Some(goal) = points.get(self.next) else {
                    return self.sailing.heading;
                };
                let place = self.sailing.place;
                (goal[1] - place[1]).atan2(goal[0] - place[0])
            }
            Order::STurns {
                heading_deg,
                angle_deg,
                seconds,
            } => {
                let phase = (self.seconds / seconds * TAU).sin();
                (heading_deg + angle_deg * phase).to_radians()
            }
            Order::Straight(heading_deg) => heading_deg.to_radians(),
        }
    }

    /// Sails on for so many seconds.
    pub fn sail(&mut self, seconds: f64) {
        self.seconds += seconds;
        let sailing = &self.sailing;
        if let Order::Route(points) = &self.order {
            let reached = points.get(self.next).is_some_and(|goal| {
                (goal[0] - sailing.place[0]).hypot(goal[1] - sailing.place[1]) < REACHED
            });
            if reached {
                self.next = (self.next + 1) % points.len();
            }
        }
        let off = (self.wanted() - self.sailing.heading + PI).rem_euclid(TAU) - PI;
        // A hand at the tiller eases off as the bow comes round.
        let turn = (0.15 * off).clamp(-TURN, TURN) * seconds;
        let asked = self.throttle.0 - self.sailing.through.0;
        let through = self.sailing.through.0 + asked.clamp(-THRUST * seconds, THRUST * seconds);
        let heading = self.sailing.heading + turn;
        let blown = (self.wind.0 + 180.0).to_radians();
        let drift = DRIFT * self.wind.1.0;
        let (sin, cos) = (heading - 0.5 * turn).sin_cos();
        let ground = [
            through * cos + self.current[0] + drift * blown.cos(),
            through * sin + self.current[1] + drift * blown.sin(),
        ];
        let place = self.sailing.place;
        self.sailing = Sailing {
            place: [
                place[0] + ground[0] * seconds,
                place[1] + ground[1] * seconds,
            ],
            heading,
            through: MetresPerSecond(through),
            ground,
        };
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_boat_goes_round_its_way_points() {
        let corners = vec![[0.0, 0.0], [300.0, 0.0], [300.0, 200.0]];
        let mut helm = Helm::new(
            [0.0, -50.0],
            Order::Route(corners.clone()),
            MetresPerSecond(0.6),
        );
        let mut nearest = [f64::INFINITY; 3];
        for _ in 0..2_400 {
            helm.sail(1.0);
            let place = helm.sailing().place;
            for (corner, least) in corners.iter().zip(&mut nearest) {
                *least = least.min((corner[0] - place[0]).hypot(corner[1] - place[1]));
            }
        }
        assert!(nearest.iter().all(|least| *least < 20.0), "{nearest:?}");
    }

    #[test]
    fn a_current_carries_the_boat_and_a_throttle_takes_its_time() {
        let mut helm = Helm::new([0.0; 2], Order::Straight(0.0), MetresPerSecond(0.5));
        helm.current = [0.0, 0.2];
        for _ in 0..100 {
            helm.sail(1.0);
        }
        let sailing = helm.sailing();
        assert!((sailing.place[0] - 50.0).abs() < 1e-9 && (sailing.place[1] - 20.0).abs() < 1e-9);
        helm.throttle(MetresPerSecond(0.8));
        helm.sail(1.0);
        assert!((helm.sailing().through.0 - 0.65).abs() < 1e-9);
    }
}
