use crate::blade::State;
use crate::river::Place;
use crate::units::{Metres, MetresPerSecond};

/// How near bed or fish a lure is in the zone, m (designed).
pub const ZONE: Metres = Metres(0.3);

/// The lure at a moment of a cast.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Moment {
    /// Seconds after it landed.
    pub at: f64,
    /// Where it is.
    pub place: Place,
    /// The speed at which the water meets it.
    pub speed: MetresPerSecond,
    /// What its blade does.
    pub state: State,
    /// Depth of the bed under it.
    pub bed: Metres,
    /// Whether it lies on the bed.
    pub on_bed: bool,
    /// Pull of the line on it, N.
    pub pull: f64,
    /// Line that is out.
    pub out: Metres,
}

impl Moment {
    /// How far over the bed it is.
    pub fn over_bed(&self) -> Metres {
        self.bed - Metres(self.place[2])
    }

    /// Whether it fishes: its blade turns, or it has none.
    pub fn works(&self) -> bool {
        self.state.works()
    }
}

/// Where fish are looked for.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Zone {
    /// Within 0.3 m of the bed.
    Bed,
    /// Within 0.3 m of a depth.
    Depth(Metres),
    /// Within 0.15 m of a height over bed or weed.
    Over(Metres),
    /// Within a reach of a lie.
    Lie {
        /// Where the fish is.
        place: Place,
        /// How far it moves.
        reach: Metres,
    },
}

impl Zone {
    /// Whether a lure at a moment is in it.
    pub fn holds(&self, moment: &Moment) -> bool {
        match self {
            Self::Bed => moment.over_bed() <= ZONE,
            Self::Depth(depth) => (moment.place[2] - depth.0).abs() <= ZONE.0,
            Self::Over(height) => (moment.over_bed() - *height).0.abs() <= 0.5 * ZONE.0,
            Self::Lie { place, reach } => {
                let square: f64 = place
                    .iter()
                    .zip(moment.place)
                    .map(|(a, b)| (a - b) * (a - b))
                    .sum();
                square <= reach.0 * reach.0
            }
        }
    }

    /// How near to it a path comes, m.
    pub(super) fn apart(&self, path: &Path) -> f64 {
        let least = |figure: &dyn Fn(&Moment) -> f64| {
            path.moments
                .iter()
                .map(figure)
                .fold(f64::INFINITY, f64::min)
        };
        match self {
            Self::Bed => least(&|moment| moment.over_bed().0),
            Self::Depth(depth) => least(&|moment| (moment.place[2] - depth.0).abs()),
            Self::Over(height) => least(&|moment| (moment.over_bed() - *height).0.abs()),
            Self::Lie { place, .. } => path.nearest(*place).0,
        }
    }
}

/// Why a path ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Ended {
    /// The time asked for is over.
    Time,
    /// It is reeled in.
    AtTheRod,
    /// It hangs still, or lies still on the bed: there it stays for as long as it is held.
    AtRest,
}

/// The lure on the bed for a while.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Touch {
    /// Since when, s.
    pub at: f64,
    /// For how long, s.
    pub seconds: f64,
    /// Where.
    pub place: Place,
}

impl Touch {
    fn until(&self) -> f64 {
        self.at + self.seconds
    }
}

/// A shorter time off the bed is a hop, s.
const HOP: f64 = 0.5;

/// Where a lure went.
#[derive(Debug, Clone, PartialEq)]
pub struct Path {
    /// Moment after moment, at equal steps.
    pub moments: Vec<Moment>,
    /// Why it ends.
    pub ended: Ended,
}

impl Path {
    /// Seconds from its first moment to its last.
    pub fn seconds(&self) -> f64 {
        self.moments.last().map_or(0.0, |moment| moment.at)
    }

    /// The moment at a time, between two steps in proportion.
    pub fn at(&self, seconds: f64) -> Moment {
        let after = self.moments.partition_point(|moment| moment.at < seconds);
        let Some(late) = self.moments.get(after) else {
            return self.moments[self.moments.len() - 1];
        };
        if after == 0 {
            return *late;
        }
        let early = self.moments[after - 1];
        let share = (seconds - early.at) / (late.at - early.at);
        let mix = |a: f64, b: f64| a + (b - a) * share;
        Moment {
            at: seconds,
            place: std::array::from_fn(|axis| mix(early.place[axis], late.place[axis])),
            speed: MetresPerSecond(mix(early.speed.0, late.speed.0)),
            bed: Metres(mix(early.bed.0, late.bed.0)),
            pull: mix(early.pull, late.pull),
            out: Metres(mix(early.out.0, late.out.0)),
            ..*late
        }
    }

    /// Seconds for which something holds.
    pub fn seconds_while(&self, holds: impl Fn(&Moment) -> bool) -> f64 {
        let steps = self.moments.windows(2);
        steps
            .filter(|pair| holds(&pair[1]))
            .map(|pair| pair[1].at - pair[0].at)
            .fold(0.0, |sum, step| sum + step)
    }

    /// Seconds in a zone with the blade turning, off the bed.
    pub fn zone_seconds(&self, zone: &Zone) -> f64 {
        self.seconds_while(|moment| moment.works() && !moment.on_bed && zone.holds(moment))
    }

    /// Whether it comes to rest in a zone, off the bed, with its blade turning: it can be held there for as long as one likes.
    pub fn rests_in(&self, zone: &Zone) -> bool {
        let last = self.moments.last();
        self.ended == Ended::AtRest
            && last.is_some_and(|last| last.works() && !last.on_bed && zone.holds(last))
    }

    /// Share of its time with the blade turning.
    pub fn working_share(&self) -> f64 {
        self.seconds_while(Moment::works) / self.seconds().max(1e-9)
    }

    /// The deepest it gets.
    pub fn deepest(&self) -> Metres {
        let depths = self.moments.iter().map(|moment| moment.place[2]);
        Metres(depths.fold(f64::NEG_INFINITY, f64::max))
    }

    /// The nearest it comes to a place.
    pub fn nearest(&self, to: Place) -> Metres {
        let squares = self.moments.iter().map(|moment| {
            let parts = moment.place.iter().zip(to);
            parts.map(|(a, b)| (a - b) * (a - b)).sum::<f64>()
        });
        Metres(squares.fold(f64::INFINITY, f64::min).sqrt())
    }

    /// Each time it lay on the bed; hops of less than half a second are one.
    pub fn touches(&self) -> Vec<Touch> {
        let mut touches: Vec<Touch> = Vec::new();
        for pair in self.moments.windows(2) {
            let now = pair[1];
            if !now.on_bed {
                continue;
            }
            let lasts = now.at - pair[0].at;
            match touches.last_mut() {
                Some(touch) if now.at - touch.until() < HOP => {
                    touch.seconds = now.at - touch.at;
                }
                _ => touches.push(Touch {
                    at: pair[0].at,
                    seconds: lasts,
                    place: now.place,
                }),
            }
        }
        touches
    }
}
