use super::downrigger;
use super::setup::{LineSetup, Start};
use crate::blade::{Running, Window};
use crate::error::{Error, Range};
use crate::rig::Rig;
use crate::towline::{LineDrag, Place, Reach, Shape, Towline};
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
    /// Angle at which the line enters the water.
    pub angle: Radians,
    /// Tension there.
    pub tension: Newtons,
    /// How it stands to the bottom.
    pub bottom: Bottom,
    /// Points along the line under water, rig first.
    pub profile: Vec<Place>,
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
const BOTTOM: Range = Range::above(0.0, 1_000.0, "m", "above 0 and at most 1 000 m");

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
        let (towline, blade) = self.towline(speed)?;
        let shape = match self.setup.start {
            Start::Downrigger { ball, .. } => {
                downrigger::with_cable(&towline, ball, out, speed, &self.surroundings.water)?
            }
            _ => towline.solve_setback(out, self.setup.tip_height())?,
        };
        let bottom = self.bottom(&towline, &shape, speed, out)?;
        Ok(self.describe(&shape, blade, out, bottom))
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
        let (towline, blade) = self.towline(speed)?;
        match self.reach(&towline, speed, wanted)? {
            Reach::At(shape) => {
                let out = self.out_of(&shape);
                let bottom = self.bottom(&towline, &shape, speed, out)?;
                Ok(OutFor::Out(Box::new(
                    self.describe(&shape, blade, out, bottom),
                )))
            }
            Reach::TooShallow(shape) => Ok(OutFor::TooShallow {
                least: shape.tail_depth(),
            }),
            Reach::TooDeep(shape) => Ok(OutFor::TooDeep {
                deepest: shape.tail_depth(),
                enough: self.enough_weight(speed, wanted)?,
            }),
        }
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
        let (towline, _) = self.towline(speed)?;
        Ok((1..=points)
            .map(|i| longest * (i as f64 / points as f64))
            .filter_map(|out| Some((out, self.shape(&towline, speed, out).ok()?.tail_depth())))
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
                let (towline, blade) = self.towline(speed).ok()?;
                let shape = self.shape(&towline, speed, out).ok()?;
                Some((speed, shape.tail_depth(), blade))
            })
            .collect()
    }

    /// What 0.1 mph more does to the rig's depth; negative is shallower.
    ///
    /// # Errors
    /// As [`Line::run`].
    pub fn sensitivity(&self, speed: MetresPerSecond, out: Metres) -> Result<Metres, Error> {
        let depth = |speed| -> Result<Metres, Error> {
            let (towline, _) = self.towline(speed)?;
            Ok(self.shape(&towline, speed, out)?.tail_depth())
        };
        Ok(depth(speed + 0.1 * MILE_PER_HOUR)? - depth(speed)?)
    }

    /// The speeds between which the rig is worth fishing.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a part whose figures cannot be.
    pub fn window(&self) -> Result<Window, Error> {
        let water = &self.surroundings.water;
        Ok(self
            .rig
            .shaft(water, self.surroundings.temperature)?
            .window(water))
    }

    /// The line as the solver sees it; on a downrigger the lure line from the release back.
    fn towline(&self, speed: MetresPerSecond) -> Result<(Towline, Running), Error> {
        let water = &self.surroundings.water;
        let (tail, blade) = self.rig.at(speed, water, self.surroundings.temperature)?;
        let node = self.setup.weight.map(|weight| weight.load(water));
        let leader = self.setup.leader.segment(self.setup.lead, node, water);
        // The solver walks the main line as far as it must; only a drop-back has a length of its own.
        let length = match self.setup.start {
            Start::Downrigger { drop_back, .. } => drop_back,
            _ => Metres(1.0),
        };
        let main = self.setup.main.segment(length, None, water);
        let drag = LineDrag {
            strum: self.setup.strum,
            ..LineDrag::default()
        };
        let towline = Towline::new(speed, *water, drag, tail, vec![leader, main])?;
        Ok((towline, blade))
    }

    fn shape(
        &self,
        towline: &Towline,
        speed: MetresPerSecond,
        out: Metres,
    ) -> Result<Shape, Error> {
        match self.setup.start {
            Start::Downrigger { ball, .. } => {
                downrigger::with_cable(towline, ball, out, speed, &self.surroundings.water)
            }
            _ => towline.solve_setback(out, self.setup.tip_height()),
        }
    }

    fn reach(
        &self,
        towline: &Towline,
        speed: MetresPerSecond,
        wanted: Metres,
    ) -> Result<Reach, Error> {
        match self.setup.start {
            Start::Downrigger { ball, .. } => {
                let water = &self.surroundings.water;
                downrigger::reach(towline, ball, wanted, self.setup.reel, speed, water)
            }
            _ => match towline.reach(wanted, self.setup.reel)? {
                // The piece in the air comes off the reel too.
                Reach::At(shape) if self.out_of(&shape) > self.setup.reel => {
                    let all = towline.solve_setback(self.setup.reel, self.setup.tip_height())?;
                    Ok(Reach::TooDeep(all))
                }
                reach => Ok(reach),
            },
        }
    }

    /// What must be let out for a shape: its top piece in the water and the piece in the air.
    fn out_of(&self, shape: &Shape) -> Metres {
        shape.top_length + self.air(shape)
    }

    fn air(&self, shape: &Shape) -> Metres {
        let height = self.setup.tip_height();
        if height.0 == 0.0 {
            return Metres(0.0);
        }
        Metres(height.0 / shape.top.angle.0.sin())
    }

    fn bottom(
        &self,
        towline: &Towline,
        shape: &Shape,
        speed: MetresPerSecond,
        out: Metres,
    ) -> Result<Bottom, Error> {
        let Some(bottom) = self.surroundings.bottom else {
            return Ok(Bottom::Unknown);
        };
        let clear = bottom - shape.deepest();
        if clear.0 >= 0.0 {
            return Ok(Bottom::Clear(clear));
        }
        let touch = match self.setup.start {
            Start::Downrigger { .. } => self.reach(towline, speed, bottom)?,
            _ => towline.touch(bottom, self.setup.reel)?,
        };
        let touching = match &touch {
            Reach::At(shape) => self.out_of(shape),
            Reach::TooShallow(_) => Metres(0.0),
            Reach::TooDeep(_) => out,
        };
        Ok(Bottom::Dragging {
            too_much: out - touching,
            touching,
        })
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
            let (towline, _) = line.towline(speed)?;
            if let Reach::At(shape) = line.reach(&towline, speed, wanted)? {
                return Ok(Some((heavier, line.out_of(&shape))));
            }
        }
        Ok(None)
    }

    fn describe(&self, shape: &Shape, blade: Running, out: Metres, bottom: Bottom) -> Run {
        let has_weight = self.setup.weight.is_some() || self.setup.lets_out_cable();
        // The ball hangs where the cable begins, one node further up than a weight.
        let weight_node = usize::from(self.setup.lets_out_cable());
        Run {
            out,
            blade,
            rig: shape.tail,
            weight: has_weight.then(|| shape.nodes[weight_node]),
            air: self.air(shape),
            angle: shape.top.angle,
            tension: shape.top.tension,
            bottom,
            profile: shape.profile.clone(),
        }
    }
}
