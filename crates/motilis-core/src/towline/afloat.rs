//! Lines of which something floats: the surface is a ceiling.
//!
//! A load or a line that is lighter than water rises no further than the surface; there the water gives way, and it is
//! held by as much of its buoyancy as it needs. Where the line touches the surface it is pushed down by a force that
//! is nowhere negative, and where it does not touch there is none. That is the problem of a string under a ceiling, and
//! it is solved as one: from each touch (the first is the highest point of the line hung free) the push there is the
//! largest with which the rest of the line stays under the ceiling, and where the rest then just touches is the next.
//! A line lighter than water has no shape between two touches but lying on the water; how far it lies is found in the
//! same way.
//!
//! From a rod tip, line past the last thing that touches is lifted off the water: a straight piece in the air.

use super::Towline;
use super::load::Segment;
use super::march::{Slope, Stop, Walk, walk_segment};
use super::shape::Shape;
use crate::error::Error;
use crate::units::{Metres, Radians};

/// Heights that count as the ceiling's, m.
const TOUCHING: f64 = 1e-6;
/// Halvings of a push or a length.
const HALVINGS: usize = 48;

/// Where the upper end of a line is held.
#[derive(Debug, Clone, Copy)]
pub(super) enum Held {
    /// At a depth, with the whole of the last segment out.
    At(Metres),
    /// By a rod tip, with so much out.
    Tip { setback: Metres, height: Metres },
}

/// A place on the line that may touch: walked so far, next to go on from.
#[derive(Clone)]
struct Mark {
    walk: Walk,
    segment: usize,
    /// How much of the segment lies below it.
    along: f64,
    /// How much of the segment walked last is out.
    out: f64,
    /// Its height over the ceiling that it is held against.
    over: f64,
}

/// The places on the line, from a mark to its end, that may touch; to a rod tip that is out of reach, to its last load.
struct Climb(Vec<Mark>);

impl Climb {
    fn highest(&self) -> Option<&Mark> {
        self.0.iter().max_by(|a, b| a.over.total_cmp(&b.over))
    }

    fn is_under(&self) -> bool {
        self.highest().is_none_or(|mark| mark.over <= TOUCHING)
    }
}

/// A line with something that floats, held under the ceiling. `None` when its free shape already lies under it.
pub(super) fn settle(line: &Towline, held: Held, drawing: bool) -> Result<Option<Shape>, Error> {
    let slopes: Vec<Slope> = line
        .segments
        .iter()
        .map(|segment| Slope::new(segment, line, line.pressure()))
        .collect();
    let afloat = Afloat {
        line,
        slopes: &slopes,
        held,
    };
    let tail = afloat.tail(drawing);
    let free = afloat.climb(&tail, 0.0)?;
    let last = line.segments.len();
    let mut touch = free
        .highest()
        .filter(|mark| mark.over > 0.0)
        .unwrap_or(&tail)
        .clone();
    if touch.segment == last {
        return Ok(None);
    }
    let below = touch.over;
    touch.walk.shift(-below);
    // Each touch lies further up than the one before.
    for _ in 0..2 * last + 2 {
        if touch.segment == last {
            return Ok(Some(afloat.shape(touch)));
        }
        if let Some(shape) = afloat.lifted(&touch)? {
            return Ok(Some(shape));
        }
        touch = afloat.next_touch(&touch)?;
    }
    Err(Error::Slack {
        along_m: touch.along,
    })
}

struct Afloat<'a> {
    line: &'a Towline,
    slopes: &'a [Slope],
    held: Held,
}

impl Afloat<'_> {
    fn tail(&self, drawing: bool) -> Mark {
        Mark {
            walk: Walk::from_tail(self.line, drawing),
            segment: 0,
            along: 0.0,
            out: 0.0,
            over: 0.0,
        }
    }

    fn segment(&self, place: usize) -> &Segment {
        &self.line.segments[place]
    }

    fn is_top(&self, place: usize) -> bool {
        place + 1 == self.line.segments.len()
    }

    /// How long a segment is; from a rod tip as much of the last as may be out.
    fn length(&self, place: usize) -> f64 {
        match self.held {
            Held::Tip { setback, .. } if self.is_top(place) => setback.0,
            _ => self.segment(place).length.0,
        }
    }

    /// Walks from a mark, its line lying flat for a while first, to the line's end.
    fn climb(&self, from: &Mark, flat: f64) -> Result<Climb, Error> {
        let mut walk = from.walk.clone();
        let mut marks = Vec::new();
        let mut along = from.along;
        if flat > 0.0 {
            self.slopes[from.segment].lie_flat(&mut walk, flat);
            along += flat;
        }
        for place in from.segment..self.line.segments.len() {
            let slope = &self.slopes[place];
            let is_top = self.is_top(place);
            let length = self.length(place);
            if is_top {
                walk.free = slope.free;
            }
            if let (Held::Tip { setback, height }, true) = (self.held, is_top) {
                let stop = Stop::Setback {
                    setback: setback - Metres(along),
                    tip_height: height,
                };
                let (out, found) = walk_segment(&mut walk, slope, length - along, |s, y| {
                    stop.past(s, y, slope, 0.0)
                })?;
                along += out;
                if !found {
                    return Ok(Climb(marks));
                }
            } else {
                // A floating line that comes up turns down again where its pull is level.
                let crest = |_: f64, y: &[f64; 4]| -y[1];
                if slope.weight < 0.0 && walk.y[1] > 0.0 {
                    let (out, found) = walk_segment(&mut walk, slope, length - along, crest)?;
                    along += out;
                    if found {
                        walk.y[1] = 0.0;
                        marks.push(Mark {
                            over: walk.y[3],
                            walk: walk.clone(),
                            segment: place,
                            along,
                            out: along,
                        });
                    }
                }
                if along < length {
                    walk_segment(&mut walk, slope, length - along, |_, _| -1.0)?;
                }
                along = length;
            }
            walk.end_segment(self.segment(place).node.as_ref(), self.line.pressure());
            marks.push(self.node(&walk, place, along));
            along = 0.0;
        }
        Ok(Climb(marks))
    }

    /// The upper end of a segment of which so much is out.
    fn node(&self, walk: &Walk, segment: usize, out: f64) -> Mark {
        let held = match self.held {
            Held::At(depth) if self.is_top(segment) => depth.0,
            _ => 0.0,
        };
        Mark {
            walk: walk.clone(),
            segment: segment + 1,
            along: 0.0,
            out,
            over: walk.y[3] + held,
        }
    }

    /// The next touch after one: as much push, then as much line on the water, as the rest bears.
    fn next_touch(&self, touch: &Mark) -> Result<Mark, Error> {
        let pull = touch.walk.y[1];
        let pushed = |share: f64| {
            let mut from = touch.clone();
            from.walk.y[1] = pull * (1.0 - share);
            from
        };
        let level = pushed(1.0);
        let slope = &self.slopes[touch.segment];
        let rest = self.length(touch.segment) - touch.along;
        let lies = slope.weight <= 0.0 || rest <= 0.0;
        if lies && self.climb(&level, 0.0)?.is_under() {
            if self.climb(&level, rest)?.is_under() {
                let mut walk = level.walk;
                slope.lie_flat(&mut walk, rest);
                walk.end_segment(
                    self.segment(touch.segment).node.as_ref(),
                    self.line.pressure(),
                );
                return Ok(self.node(&walk, touch.segment, touch.along + rest));
            }
            return Self::last_under(rest, |flat| self.climb(&level, flat));
        }
        Self::last_under(1.0, |share| self.climb(&pushed(share), 0.0))
    }

    /// Where the last climb that stays under the ceiling touches it, of climbs that rise with their parameter.
    fn last_under(most: f64, climb: impl Fn(f64) -> Result<Climb, Error>) -> Result<Mark, Error> {
        let (mut under, mut over) = (0.0, most);
        for _ in 0..HALVINGS {
            let middle = 0.5 * (under + over);
            if climb(middle)?.is_under() {
                under = middle;
            } else {
                over = middle;
            }
        }
        let (reached, beyond) = (climb(under)?, climb(over)?);
        let touching = |mark: &&Mark| {
            let first = beyond.highest();
            first.is_some_and(|first| first.over > TOUCHING && first.segment == mark.segment)
        };
        let Some(touch) = reached.0.iter().rfind(touching) else {
            return Err(Error::contradiction(
                "setback_m",
                "so little line does not reach from the rod tip past what floats; let out more",
            ));
        };
        let mut touch = touch.clone();
        let over = touch.over;
        touch.walk.y[3] -= over;
        Ok(touch)
    }

    /// A rod tip lifts whatever line lies past the last thing on the water.
    fn lifted(&self, touch: &Mark) -> Result<Option<Shape>, Error> {
        let Held::Tip { setback, height } = self.held else {
            return Ok(None);
        };
        if !self.is_top(touch.segment) || height.0 == 0.0 {
            return Ok(None);
        }
        let air = setback.0 - touch.along;
        if air <= height.0 {
            return Err(Error::contradiction(
                "setback_m",
                format!(
                    "setback {:.1} m does not let the float down to the water from {:.1} m; let out more",
                    setback.0, height.0
                ),
            ));
        }
        let mut walk = touch.walk.clone();
        let angle = (height.0 / air).asin();
        walk.y[1] = walk.y[0].max(1e-9) * angle.tan();
        walk.end_segment(None, self.line.pressure());
        let mut shape = self.shape(Mark {
            walk,
            segment: self.line.segments.len(),
            along: 0.0,
            out: touch.along,
            over: 0.0,
        });
        shape.top.angle = Radians(angle);
        Ok(Some(shape))
    }

    fn shape(&self, mut end: Mark) -> Shape {
        let held = match self.held {
            Held::At(depth) => depth.0,
            Held::Tip { .. } => 0.0,
        };
        // Depths are counted from where the line is held; what touches lies on the water to the last figure.
        end.walk.clip(end.walk.y[3] + held);
        end.walk.shape(end.out)
    }
}
