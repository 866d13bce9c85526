use super::{Spread, Towed};
use crate::error::Error;
use crate::line::{Depth, Line, OutFor, Rigging, Surroundings};
use crate::units::{Kilograms, Metres};

/// What must be out on a rod for its wanted depth, or why that cannot be.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum SetOut {
    /// So much.
    Out(Metres),
    /// The depth lies below the bottom.
    BelowBottom {
        /// Depth of the bottom.
        bottom: Metres,
    },
    /// What hangs below already runs deeper.
    TooShallow {
        /// Depth with the least line out.
        least: Metres,
    },
    /// All the line (or the whole dive table) does not take it there.
    TooDeep {
        /// Depth with all of it out.
        deepest: Metres,
        /// The lightest trade weight that would, and what to let out with it.
        enough: Option<(Kilograms, Metres)>,
    },
}

impl From<OutFor> for SetOut {
    fn from(out: OutFor) -> Self {
        match out {
            OutFor::Out(run) => Self::Out(run.out),
            OutFor::BelowBottom { bottom } => Self::BelowBottom { bottom },
            OutFor::TooShallow { least } => Self::TooShallow { least },
            OutFor::TooDeep { deepest, enough } => Self::TooDeep { deepest, enough },
        }
    }
}

impl Spread {
    /// What must be out on a rod for its wanted depth at the spread's speed.
    ///
    /// # Errors
    /// As [`Spread::running`], and what troubles this line; a depth that cannot be had is an answer.
    pub fn out_for(&self, place: usize, surroundings: &Surroundings) -> Result<SetOut, Error> {
        self.check_whole(surroundings)?;
        if let Some(trouble) = self.trouble(place, surroundings) {
            return Err(trouble);
        }
        let rod = &self.rods[place];
        let setup = rod.line_setup();
        let lure = match &rod.towed {
            Towed::Rig(rig) => {
                let line = Line::new(rig, &setup, *surroundings)?;
                return Ok(line.out_for(self.speed, rod.wanted)?.into());
            }
            Towed::Lure(lure) => lure,
            Towed::Unfit(unfit) => return Err(unfit.why.clone()),
        };
        if let Some(bottom) = surroundings.bottom.filter(|bottom| rod.wanted >= *bottom) {
            return Ok(SetOut::BelowBottom { bottom });
        }
        let too_deep = |deepest| SetOut::TooDeep {
            deepest,
            enough: None,
        };
        if !setup.lets_out_cable() {
            let out = lure.out_for(&setup, rod.wanted, self.speed, &surroundings.water)?;
            return Ok(out.map_or(too_deep(lure.dives.deepest()), SetOut::Out));
        }
        let water = &surroundings.water;
        let load = lure.load(&setup, rod.out, self.speed, water)?;
        let rigging = Rigging::new(&setup, load, self.speed, water, &[])?;
        Ok(match rigging.reach(rod.wanted)? {
            Depth::At(hung) => SetOut::Out(hung.out),
            Depth::TooShallow(least) => SetOut::TooShallow { least },
            Depth::TooDeep(deepest) => too_deep(deepest),
        })
    }
}
