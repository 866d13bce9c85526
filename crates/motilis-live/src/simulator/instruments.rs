use super::{Bed, Helm};
use jiff::{SignedDuration, Timestamp};
use motilis_core::boat::BoatFix;
use motilis_core::track::Plane;
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use motilis_formats::nmea::Sentences;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// How deep the transducer hangs.
pub const TRANSDUCER: Metres = Metres(0.3);
/// A receiver's place wanders by so much, m, and comes back within so many seconds.
const WANDERS: f64 = 1.2;
const WITHIN: f64 = 60.0;
/// What a speed, a course, a depth and a temperature are said wrongly by.
const SPEED: f64 = 0.015;
const COURSE: f64 = 0.6;
const DEPTH: f64 = 0.03;
const TEMPERATURE: f64 = 0.05;

/// What is wrong with the instruments.
#[allow(
    clippy::struct_excessive_bools,
    reason = "faults come together in any number"
)]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Faults {
    /// The receiver has no fix.
    pub no_fix: bool,
    /// The sounder has lost the bottom.
    pub no_bottom: bool,
    /// Depth is nought.
    pub depth_nought: bool,
    /// There is no paddle.
    pub no_paddle: bool,
    /// The place is five kilometres off.
    pub leap: bool,
    /// The receiver's clock is an hour fast.
    pub fast_clock: bool,
    /// A tenth of the sentences is damaged.
    pub damaged: bool,
}

/// A boat on a lake, and what its instruments say.
#[derive(Debug, Clone)]
pub struct Simulator {
    /// The lake's bottom.
    pub bed: Bed,
    /// The boat.
    pub helm: Helm,
    /// What is wrong with its instruments.
    pub faults: Faults,
    /// Temperature of the water.
    pub temperature: Celsius,
    plane: Plane,
    at: Timestamp,
    wander: [f64; 2],
    seconds: u64,
    draw: ChaCha8Rng,
}

impl Simulator {
    /// A boat on a bed whose origin lies at a position, degrees, at a time.
    pub fn new(bed: Bed, helm: Helm, origin: [f64; 2], at: Timestamp, seed: u64) -> Self {
        Self {
            bed,
            helm,
            faults: Faults::default(),
            temperature: Celsius(14.4),
            plane: Plane::at(origin[0], origin[1]),
            at,
            wander: [0.0; 2],
            seconds: 0,
            draw: ChaCha8Rng::seed_from_u64(seed ^ 0x5eed),
        }
    }

    /// Its time.
    pub fn at(&self) -> Timestamp {
        self.at
    }

    /// The true depth under the boat.
    pub fn depth(&self) -> Metres {
        self.bed.depth(self.helm.sailing().place)
    }

    fn about(&mut self, by: f64) -> f64 {
        // Near enough to normal: the sum of four even draws.
        let sum: f64 = (0..4).map(|_| self.draw.random_range(-1.0..1.0)).sum();
        by * sum * 0.866
    }

    /// A second goes by; what the instruments say of it.
    pub fn second(&mut self) -> String {
        for _ in 0..5 {
            self.helm.sail(0.2);
        }
        self.at += SignedDuration::from_secs(1);
        self.seconds += 1;
        for axis in 0..2 {
            let step = self.about(WANDERS * (2.0 / WITHIN).sqrt());
            self.wander[axis] += step - self.wander[axis] / WITHIN;
        }
        let mut said = Sentences::default();
        self.say_fix(&mut said);
        if self.seconds.is_multiple_of(2) {
            self.say_water(&mut said);
        }
        if self.seconds.is_multiple_of(2) {
            let degrees = self.temperature.0 + self.about(TEMPERATURE);
            said.temperature(Celsius(degrees));
        }
        if self.seconds.is_multiple_of(5) {
            let (from, speed) = self.helm.wind;
            let bow = self.helm.sailing().heading.to_degrees();
            said.wind(from - bow, speed);
        }
        let text = said.into_text();
        if self.faults.damaged {
            self.damage(&text)
        } else {
            text
        }
    }

    fn say_fix(&mut self, said: &mut Sentences) {
        let at = if self.faults.fast_clock {
            self.at + SignedDuration::from_hours(1)
        } else {
            self.at
        };
        if self.faults.no_fix {
            said.no_fix(at);
            return;
        }
        let sailing = self.helm.sailing();
        let leap = if self.faults.leap { 5_000.0 } else { 0.0 };
        let place = [
            sailing.place[0] + self.wander[0] + leap,
            sailing.place[1] + self.wander[1],
        ];
        let (latitude, longitude) = self.plane.back(place[1], place[0]);
        let [north, east] = sailing.ground;
        let speed = (north.hypot(east) + self.about(SPEED)).max(0.0);
        let course = east.atan2(north).to_degrees() + self.about(COURSE);
        said.fix(&BoatFix {
            at,
            place: [latitude, longitude],
            ground: Some(MetresPerSecond(speed)),
            course_deg: Some(((course.rem_euclid(360.0)) * 10.0).round() / 10.0 % 360.0),
        });
    }

    fn say_water(&mut self, said: &mut Sentences) {
        if self.faults.no_bottom {
            said.no_depth(TRANSDUCER);
        } else if self.faults.depth_nought {
            said.depth(Metres(0.0), Metres(0.0));
        } else {
            let depth = self.depth().0 + self.about(DEPTH);
            said.depth(Metres(depth), TRANSDUCER);
        }
        if !self.faults.no_paddle {
            let speed = self.helm.sailing().through.0 + self.about(SPEED);
            said.through(MetresPerSecond(speed.max(0.0)));
        }
    }

    /// A character turned over here and there.
    fn damage(&mut self, text: &str) -> String {
        let turned = |line: &str, draw: &mut ChaCha8Rng| {
            let mut bytes = line.as_bytes().to_vec();
            if draw.random_range(0..10) == 0 {
                let place = draw.random_range(0..bytes.len());
                bytes[place] = b'!' + draw.random_range(0..80);
            }
            String::from_utf8_lossy(&bytes).into_owned()
        };
        text.lines()
            .map(|line| turned(line, &mut self.draw) + "\r\n")
            .collect()
    }
}
