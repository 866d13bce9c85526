use super::rigging::{Depth, Hung, Rigging};
use super::setup::LineSetup;
use super::sure::Sure;
use crate::blade::{Running, Window};
use crate::error::{Error, Range};
use crate::rig::Rig;
use crate::towline::Place;
use crate::units::{
    Celsius, Kilograms, MILE_PER_HOUR, Metres, MetresPerSecond, Newtons, OUNCE, Radians,
};
use crate::water::Water;

/// The water a line runs in.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Surroundings {
    /// Its density and viscosity.
    pub water: Water,
    /// Its temperature, which softens a wing.
    pub temperature: Celsius,
    /// Depth of the bottom under the line, if known.
    pub bottom: Option<Metres>,
}

/// How a line stands to the bottom.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Bottom {
    /// The bottom is not known.
    Unknown,
    /// Its deepest point clears the bottom by so much.
    Clear(Metres),
    /// It drags.
    Dragging {
        /// How much line too much is out.
        too_much: Metres,
        /// How much just touches.
        touching: Metres,
    },
}

/// A line out at a speed.
#[derive(Debug, Clone, PartialEq)]
pub struct Run {
    /// How much is let out.
    pub out: Metres,
    /// What the blade does.
    pub blade: Running,
    /// Where the rig runs, were there no bottom.
    pub rig: Place,
    /// Where the weight (or the ball) runs.
    pub weight: Option<Place>,
    /// Length of the straight piece between rod tip and water.
    pub air: Metres,
    /// By how much its plane is tilted to the side, behind a diver that is turned out.
    pub tilt: Radians,
    /// Angle at which the line enters the water.
    pub angle: Radians,
    /// Tension there.
    pub tension: Newtons,
    /// How it stands to the bottom.
    pub bottom: Bottom,
    /// Points along the line under water, rig first.
    pub profile: Vec<Place>,
}

impl Run {
    /// Whether the rig lies on the water.
    pub fn floats(&self) -> bool {
        self.rig.depth.0 <= 0.0
    }
}

/// How much to let out for a depth.
#[derive(Debug, Clone, PartialEq)]
pub enum OutFor {
    /// So much, and how it runs then.
    Out(Box<Run>),
    /// The depth lies below the bottom.
    BelowBottom {
        /// Depth of the bottom.
        bottom: Metres,
    },
    /// The leader alone already runs deeper.
    TooShallow {
        /// Depth with the least line out.
        least: Metres,
    },
    /// All the line on the reel does not take it there.
    TooDeep {
        /// Depth with all of it out.
        deepest: Metres,
        /// The lightest trade weight that would, and what to let out with it.
        enough: Option<(Kilograms, Metres)>,
    },
}

/// Weights the trade sells, oz.
const TRADE_OUNCES: [f64; 13] = [
    0.25, 0.5, 0.75, 1.0, 1.5, 2.0, 3.0, 4.0, 6.0, 8.0, 10.0, 12.0, 16.0,
];

const WANTED: Range = Range::above(0.0, 400.0, "m", "above 0 and at most 400 m");
pub(crate) const BOTTOM: Range = Range::above(0.0, 1_000.0, "m", "above 0 and at most 1 000 m");

/// A rig on a set-up in its water.
#[derive(Debug, Clone, Copy)]
pub struct Line<'a> {
    setup: &'a LineSetup,
    rig: &'a Rig,
    surroundings: Surroundings,
}

impl<'a> Line<'a> {
    /// Joins the three.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a figure of the set-up or a bottom that cannot be.
    pub fn new(
        rig: &'a Rig,
        setup: &'a LineSetup,
        surroundings: Surroundings,
    ) -> Result<Self, Error> {
        setup.check()?;
        if let Some(bottom) = surroundings.bottom {
            BOTTOM.check("water_depth_m", bottom.0)?;
        }
        Ok(Self {
            setup,
            rig,
            surroundings,
        })
    }

    /// Where the line runs with so much let out, as a drawing needs it.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a speed or length that cannot be; [`Error::Contradiction`] when what is
    /// out does not reach the water.
    pub fn run(&self, speed: MetresPerSecond, out: Metres) -> Result<Run, Error> {
        let (rigging, blade) = self.rigging(speed)?;
        let hung = rigging.at(out)?;
        let bottom = self.bottom(&rigging, &hung)?;
        Ok(describe(hung, blade, bottom))
    }

    /// How much to let out so that the rig runs at a depth.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for the speed or the depth; a depth that cannot be had is an answer.
    pub fn out_for(&self, speed: MetresPerSecond, wanted: Metres) -> Result<OutFor, Error> {
        WANTED.check("wanted_depth_m", wanted.0)?;
        if let Some(bottom) = self.surroundings.bottom.filter(|bottom| wanted >= *bottom) {
            return Ok(OutFor::BelowBottom { bottom });
        }
        let (rigging, blade) = self.rigging(speed)?;
        Ok(match rigging.reach(wanted)? {
            Depth::At(hung) => {
                let bottom = self.bottom(&rigging, &hung)?;
                OutFor::Out(Box::new(describe(*hung, blade, bottom)))
            }
            Depth::TooShallow(least) => OutFor::TooShallow { least },
            Depth::TooDeep(deepest) => OutFor::TooDeep {
                deepest,
                enough: self.enough_weight(speed, wanted)?,
            },
        })
    }

    /// Depth of the rig for each of `points` lengths let out, evenly up to the reel's end.
    ///
    /// Lengths that do not reach the water are left out. Returns `[out, depth]`, shortest first.
    ///
    /// # Errors
    /// As [`Line::run`] for the speed.
    pub fn depth_against_out(
        &self,
        speed: MetresPerSecond,
        longest: Metres,
        points: usize,
    ) -> Result<Vec<(Metres, Metres)>, Error> {
        let (rigging, _) = self.rigging(speed)?;
        Ok((1..=points)
            .map(|i| longest * (i as f64 / points as f64))
            .filter_map(|out| Some((out, rigging.at(out).ok()?.shape.tail_depth())))
            .collect())
    }

    /// The line at each of some speeds with so much let out; speeds at which it does not run are left out.
    pub fn against_speed(
        &self,
        out: Metres,
        speeds: impl IntoIterator<Item = MetresPerSecond>,
    ) -> Vec<(MetresPerSecond, Metres, Running)> {
        speeds
            .into_iter()
            .filter_map(|speed| {
                let (rigging, blade) = self.rigging(speed).ok()?;
                let hung = rigging.at(out).ok()?;
                Some((speed, hung.shape.tail_depth(), blade))
            })
            .collect()
    }

    /// What 0.1 mph more does to the rig's depth; negative is shallower.
    ///
    /// # Errors
    /// As [`Line::run`].
    pub fn sensitivity(&self, speed: MetresPerSecond, out: Metres) -> Result<Metres, Error> {
        let depth = |speed| -> Result<Metres, Error> {
            let (rigging, _) = self.rigging(speed)?;
            Ok(rigging.at(out)?.shape.tail_depth())
        };
        Ok(depth(speed + 0.1 * MILE_PER_HOUR)? - depth(speed)?)
    }

    /// How sure the depth is with so much out; `None` for a line that does not run or lies on the water.
    pub fn sure(&self, speed: MetresPerSecond, out: Metres) -> Option<Sure> {
        let Surroundings {
            water, temperature, ..
        } = &self.surroundings;
        Sure::of(self.setup, out, |by| {
            let speed = by.speed(speed);
            let (tail, _) = self.rig.at(speed, water, *temperature).ok()?;
            let rigging = Rigging::moved(self.setup, tail, speed, water, &[], by).ok()?;
            Some(rigging.at(out * by.length).ok()?.shape.tail_depth())
        })
    }

    /// The speeds between which the rig is worth fishing.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a part whose figures cannot be.
    pub fn window(&self) -> Result<Window, Error> {
        self.rig
            .window(&self.surroundings.water, self.surroundings.temperature)
    }

    /// The line as the solver sees it, with what its blade does.
    fn rigging(&self, speed: MetresPerSecond) -> Result<(Rigging<'_>, Running), Error> {
        let water = &self.surroundings.water;
        let (tail, blade) = self.rig.at(speed, water, self.surroundings.temperature)?;
        Ok((Rigging::new(self.setup, tail, speed, water, &[])?, blade))
    }

    fn bottom(&self, rigging: &Rigging<'_>, hung: &Hung) -> Result<Bottom, Error> {
        against(self.surroundings.bottom, rigging, hung)
    }

    /// The lightest trade weight of the same kind that takes the rig down, with what to let out.
    fn enough_weight(
        &self,
        speed: MetresPerSecond,
        wanted: Metres,
    ) -> Result<Option<(Kilograms, Metres)>, Error> {
        let Some(weight) = self.setup.weight else {
            return Ok(None);
        };
        let Some(mass) = weight.mass() else {
            return Ok(None);
        };
        for ounces in TRADE_OUNCES {
            let heavier = ounces * OUNCE;
            if heavier <= mass {
                continue;
            }
            let setup = LineSetup {
                weight: Some(weight.with_mass(heavier)),
                ..self.setup.clone()
            };
            let line = Line {
                setup: &setup,
                ..*self
            };
            let (rigging, _) = line.rigging(speed)?;
            if let Depth::At(hung) = rigging.reach(wanted)? {
                return Ok(Some((heavier, hung.out)));
            }
        }
        Ok(None)
    }
}

/// How a line stands to a bottom, if that is known.
pub(crate) fn against(
    bottom: Option<Metres>,
    rigging: &Rigging<'_>,
    hung: &Hung,
) -> Result<Bottom, Error> {
    let Some(bottom) = bottom else {
        return Ok(Bottom::Unknown);
    };
    let clear = bottom - hung.shape.deepest();
    if clear.0 >= 0.0 {
        return Ok(Bottom::Clear(clear));
    }
    let touching = match rigging.touch(bottom)? {
        Depth::At(touching) => touching.out,
        Depth::TooShallow(_) => Metres(0.0),
        Depth::TooDeep(_) => hung.out,
    };
    Ok(Bottom::Dragging {
        too_much: hung.out - touching,
        touching,
    })
}

fn describe(hung: Hung, blade: Running, bottom: Bottom) -> Run {
    Run {
        out: hung.out,
        blade,
        rig: hung.shape.tail,
        weight: hung.weight,
        air: hung.air,
        tilt: hung.tilt,
        angle: hung.shape.top.angle,
        tension: hung.shape.top.tension,
        bottom,
        profile: hung.shape.profile,
    }
}
