use super::path::{Ended, Moment, Path};
use super::section::Section;
use crate::blade::State;
use crate::error::Error;
use crate::fields;
use crate::motion::{Chain, Flow, NodeLoad, Piece};
use crate::towline::{LineDrag, NormalDrag, Segment};
use crate::units::{Metres, MetresPerSecond, NewtonsPerMetre};
use crate::water::Water;

/// A place: downstream, across from the bank, depth; m. Above the water its depth is negative.
pub type Place = [f64; 3];

/// The cast is over when no more line than this is out, m: the rest is the rod's.
const AT_THE_ROD: f64 = 1.5;
/// What has not moved farther than this in that time is at rest, m, s.
const STILL_WITHIN: f64 = 0.05;
const STILL_FOR: f64 = 1.5;
/// What lies on the bed for so long under a line that is held is left there: it hangs, or is lifted out, s.
const LIES_FOR: f64 = 3.0;
/// Diameter that stands for a line without one, m.
const NO_LINE: f64 = 1e-6;

/// What is done with rod and reel for a while.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Act {
    /// For how long, s.
    pub seconds: f64,
    /// Speed at which line is taken in.
    pub reel: MetresPerSecond,
    /// Where the tip is at its end; where it was, without one.
    pub tip: Option<Place>,
}

impl Act {
    /// Line taken in at a speed, or held at none, the tip where it is.
    pub fn reel(seconds: f64, reel: MetresPerSecond) -> Self {
        Self {
            seconds,
            reel,
            tip: None,
        }
    }

    /// The tip moved somewhere, no line taken in.
    pub fn move_tip(seconds: f64, tip: Place) -> Self {
        Self {
            seconds,
            reel: MetresPerSecond(0.0),
            tip: Some(tip),
        }
    }

    /// The belly of the line laid upstream: the tip up and over, and down again where it was.
    pub fn mend(tip: Place) -> [Self; 2] {
        let [x, y, z] = tip;
        [
            Self::move_tip(0.5, [x - MEND, y, z - MEND]),
            Self::move_tip(0.5, tip),
        ]
    }
}

/// How far the tip goes up and upstream in a mend, m (common practice, no source).
const MEND: f64 = 1.5;

/// A line from the reel to the lure; lengths of its pieces are those of the last ones.
#[derive(Debug, Clone, PartialEq)]
pub struct Tackle {
    /// The lure.
    pub lure: NodeLoad,
    /// The leader below a weight up the line, with that weight.
    pub leader: Option<(Segment, NodeLoad)>,
    /// A bumper: a piece of another line at the end of the main line.
    pub bumper: Option<Segment>,
    /// The main line; its length follows from the cast. Without one the line is straight, weighs nothing and is not held.
    pub main: Option<Segment>,
    /// Mass of a metre of the main line with the water it carries along, kg, where somebody knows it.
    pub virtual_mass: Option<f64>,
    /// How the water holds it.
    pub drag: LineDrag,
}

impl Tackle {
    /// The pieces of a line of a whole length, from the lure up.
    fn pieces(&self, length: f64, cuts: usize) -> Vec<Piece> {
        let Some(main) = self.main else {
            let segment = Segment {
                length: Metres(length),
                diameter: Metres(NO_LINE),
                submerged_weight: NewtonsPerMetre(0.0),
                node: None,
            };
            return vec![Piece {
                segment,
                below: Some(self.lure),
                cuts: 1,
                virtual_mass: None,
            }];
        };
        let mut below = Some(self.lure);
        let mut left = length;
        let mut pieces = Vec::new();
        let mut add = |segment: Segment, below: Option<NodeLoad>, least: usize, left: &mut f64| {
            // The piece at the top keeps something to be reeled.
            let length = segment.length.0.min(*left - AT_THE_ROD);
            if length <= 0.0 {
                return false;
            }
            *left -= length;
            let share = (cuts as f64 * length / 15.0).ceil() as usize;
            pieces.push(Piece {
                segment: Segment {
                    length: Metres(length),
                    ..segment
                },
                below,
                cuts: share.clamp(least, cuts),
                virtual_mass: None,
            });
            true
        };
        if let Some((leader, weight)) = self.leader
            && add(leader, below, 2, &mut left)
        {
            below = Some(weight);
        }
        if let Some(bumper) = self.bumper
            && add(bumper, below, 2, &mut left)
        {
            below = None;
        }
        pieces.push(Piece {
            segment: Segment {
                length: Metres(left),
                ..main
            },
            below,
            cuts,
            virtual_mass: self.virtual_mass,
        });
        pieces
    }

    fn drag(&self) -> LineDrag {
        if self.main.is_some() {
            self.drag
        } else {
            LineDrag {
                normal: NormalDrag::Constant(0.0),
                tangential: 0.0,
                ..self.drag
            }
        }
    }
}

/// How finely a cast is computed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Fineness {
    /// A step, s.
    pub step: f64,
    /// Pieces of the main line.
    pub cuts: usize,
}

impl Fineness {
    /// For a path that is shown.
    pub const SHOWN: Self = Self {
        step: 0.03,
        cuts: 12,
    };
    /// For one of many that are compared.
    pub const COMPARED: Self = Self {
        step: 0.08,
        cuts: 5,
    };
}

/// A cast: where it begins and what is done with it.
#[derive(Debug, Clone, PartialEq)]
pub struct Cast {
    /// Where the tip is when the lure lands.
    pub tip: Place,
    /// Where the lure lands.
    pub start: Place,
    /// Line that is out then; straight from tip to lure without it.
    pub line: Option<Metres>,
    /// What is done, one after the other; then the line is held.
    pub acts: Vec<Act>,
    /// How long it is followed, s.
    pub seconds: f64,
    /// Whether it is over as well when nothing moves any more, or the lure is at the rod; else it is followed for all of its
    /// time.
    pub until_rest: bool,
}

/// A throw by angle and distance.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Thrown {
    /// From straight downstream, degrees.
    pub angle_deg: f64,
    /// How far from the tip it lands.
    pub distance: Metres,
}

impl Thrown {
    /// Where it lands, thrown from a tip.
    pub fn lands(&self, tip: Place) -> Place {
        let (sin, cos) = self.angle_deg.to_radians().sin_cos();
        [
            tip[0] + self.distance.0 * cos,
            tip[1] + self.distance.0 * sin,
            0.0,
        ]
    }
}

/// The angle of a throw from a tip to a place, degrees from straight downstream.
pub fn angle_of(tip: Place, to: Place) -> f64 {
    (to[1] - tip[1]).atan2(to[0] - tip[0]).to_degrees()
}

impl Cast {
    /// Checks what was asked for.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self, section: &Section) -> Result<(), Error> {
        fields::CAST_TIP.check(-self.tip[2])?;
        fields::CAST_SECONDS.check(self.seconds)?;
        for (place, act) in self.acts.iter().enumerate() {
            let path = format!("acts[{place}]");
            fields::ACT_SECONDS
                .check(act.seconds)
                .and_then(|_| fields::CAST_REEL.check(act.reel.0))
                .map_err(|error| error.under(&path))?;
            if let Some(tip) = act.tip {
                let height = fields::CAST_TIP.check(-tip[2]);
                height.map_err(|error| error.under(&path))?;
            }
        }
        fields::CAST_DISTANCE.check(apart(self.tip, self.start))?;
        let [_, across, depth] = self.start;
        if !(0.0..=section.width().0).contains(&across) {
            return Err(Error::contradiction(
                "start_m",
                format!(
                    "the cast lands {across:.1} m from the bank, and the water reaches from 0 to {:.1} m; throw shorter or turn it",
                    section.width().0
                ),
            ));
        }
        if depth < 0.0 || depth > section.depth(Metres(across)).0 {
            return Err(Error::contradiction(
                "start_m",
                format!(
                    "the lure begins {depth:.2} m deep where the water is {:.2} m; begin between surface and bed",
                    section.depth(Metres(across)).0
                ),
            ));
        }
        if let Some(line) = self.line {
            let straight = apart(self.tip, self.start);
            if line.0 < straight - 1e-6 {
                return Err(Error::contradiction(
                    "line_m",
                    format!(
                        "{:.2} m of line do not reach a lure {straight:.2} m from the tip; give at least that",
                        line.0
                    ),
                ));
            }
        }
        Ok(())
    }

    /// How a line of a length lies as the lure lands: straight, or in a bow downstream where there is more of it.
    fn laid(&self, length: f64) -> Vec<Place> {
        let straight = apart(self.tip, self.start);
        let slack = length * length - straight * straight;
        if slack < 1e-6 {
            return vec![self.tip, self.start];
        }
        let middle: Place = std::array::from_fn(|axis| 0.5 * (self.tip[axis] + self.start[axis]));
        // To the side of the line on the water, towards where the water goes.
        let way = [self.start[0] - self.tip[0], self.start[1] - self.tip[1]];
        let level = way[0].hypot(way[1]).max(1e-9);
        let side = if way[1] >= 0.0 { 1.0 } else { -1.0 };
        let aside = 0.5 * slack.sqrt() * side / level;
        let bow = [
            middle[0] + aside * way[1],
            middle[1] - aside * way[0],
            middle[2],
        ];
        vec![self.tip, bow, self.start]
    }

    /// Follows the lure until the cast is over.
    ///
    /// # Errors
    /// As [`Cast::check`].
    pub fn path(
        &self,
        section: &Section,
        tackle: &Tackle,
        water: &Water,
        fineness: Fineness,
    ) -> Result<Path, Error> {
        self.check(section)?;
        let straight = apart(self.tip, self.start);
        let length = self.line.map_or(straight, |line| line.0);
        let pieces = tackle.pieces(length, fineness.cuts);
        let mut chain = Chain::new(&pieces, tackle.drag(), water, &self.laid(length));
        let steps = (self.seconds / fineness.step).ceil().max(1.0) as usize;
        let dt = self.seconds / steps as f64;
        let mut hand = Hand::new(self);
        let mut moments = vec![moment(0.0, &chain, section, tackle, self.start)];
        let mut ended = Ended::Time;
        let mut down_for = 0.0;
        // A straight line draws the lure in from the first instant; a real one is taken up first.
        if let (None, Some(first)) = (tackle.main, self.acts.first()) {
            let way: [f64; 3] = std::array::from_fn(|axis| self.tip[axis] - self.start[axis]);
            let drawn = way.map(|part| part / straight.max(1e-9) * first.reel.0);
            moments[0] = first_moment(moments[0], drawn, section, tackle);
        }
        for step in 1..=steps {
            let (tip, reeled) = hand.after(dt);
            chain.reel_in(reeled);
            chain.step(dt, tip, section);
            let place = chain.place(chain.last());
            let now = moment(step as f64 * dt, &chain, section, tackle, place);
            moments.push(now);
            let was = moments[moments.len().saturating_sub((STILL_FOR / dt) as usize + 1)];
            let still = apart(was.place, place) < STILL_WITHIN && now.at - was.at > 0.9 * STILL_FOR;
            down_for = if now.on_bed { down_for + dt } else { 0.0 };
            if self.until_rest && (still || down_for > LIES_FOR) && hand.holds() {
                ended = Ended::AtRest;
                break;
            }
            if self.until_rest && chain.out().0 <= AT_THE_ROD {
                ended = Ended::AtTheRod;
                break;
            }
        }
        Ok(Path { moments, ended })
    }
}

/// How far apart two places are.
fn apart(a: Place, b: Place) -> f64 {
    let square: f64 = a.iter().zip(b).map(|(a, b)| (a - b) * (a - b)).sum();
    square.sqrt()
}

fn state(tackle: &Tackle, speed: MetresPerSecond) -> State {
    let blade = tackle.lure.blade;
    blade.map_or(State::Bare, |blade| blade.state(speed))
}

fn first_moment(at: Moment, drawn: [f64; 3], section: &Section, tackle: &Tackle) -> Moment {
    let water = section.velocity(at.place, 0.0);
    let past: [f64; 3] = std::array::from_fn(|axis| drawn[axis] - water[axis]);
    let speed = MetresPerSecond(past.iter().map(|part| part * part).sum::<f64>().sqrt());
    Moment {
        speed,
        state: state(tackle, speed),
        ..at
    }
}

fn moment(at: f64, chain: &Chain, section: &Section, tackle: &Tackle, place: Place) -> Moment {
    let last = chain.last();
    let speed = if at > 0.0 {
        chain.speed_at(last)
    } else {
        section.speed(Metres(place[1]), Metres(place[2]))
    };
    Moment {
        at,
        place,
        speed,
        state: state(tackle, speed),
        bed: section.floor(Metres(place[1])),
        on_bed: chain.is_down(last),
        pull: chain.tension_above(last),
        out: chain.out(),
    }
}

/// Rod and reel, act after act.
struct Hand<'a> {
    acts: std::slice::Iter<'a, Act>,
    now: Option<(Act, Place, f64)>,
    tip: Place,
}

impl<'a> Hand<'a> {
    fn new(cast: &'a Cast) -> Self {
        Self {
            acts: cast.acts.iter(),
            now: None,
            tip: cast.tip,
        }
    }

    /// Whether nothing more is done: neither reel nor tip moves in what is left.
    fn holds(&self) -> bool {
        let done = |act: &Act| act.reel.0 <= 0.0 && act.tip.is_none();
        self.now.as_ref().is_none_or(|(act, ..)| done(act)) && self.acts.as_slice().iter().all(done)
    }

    /// Where the tip is after so many seconds more, and how much line was taken in in them.
    fn after(&mut self, seconds: f64) -> (Place, f64) {
        let mut left = seconds;
        let mut reeled = 0.0;
        while left > 1e-12 {
            let Some((act, from, done)) = self.now.take().or_else(|| {
                let act = self.acts.next()?;
                Some((*act, self.tip, 0.0))
            }) else {
                break;
            };
            let step = left.min(act.seconds - done);
            let done = done + step;
            left -= step;
            reeled += act.reel.0 * step;
            if let Some(to) = act.tip {
                let share = (done / act.seconds).min(1.0);
                self.tip = std::array::from_fn(|axis| from[axis] + (to[axis] - from[axis]) * share);
            }
            if done < act.seconds - 1e-12 {
                self.now = Some((act, from, done));
            }
        }
        (self.tip, reeled)
    }
}
