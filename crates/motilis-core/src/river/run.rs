use super::section::{CubicMetresPerSecond, Section, Station};
use crate::book::plain_text;
use crate::error::Error;
use crate::fields;
use crate::ids::WaterId;
use crate::keyed::keyed;
use crate::units::{Metres, MetresPerSecond};

/// What lies on the bottom of a run.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Bed {
    /// Sand or silt.
    Sand,
    /// Gravel.
    Gravel,
    /// Cobble, a fist to a head.
    Cobble,
    /// Boulders.
    Boulders,
    /// Ledges of rock.
    Ledge,
    /// Weed.
    Weed,
    /// Wood.
    Wood,
}

keyed!(Bed {
    Sand "sand" "sand",
    Gravel "gravel" "gravel",
    Cobble "cobble" "cobble",
    Boulders "boulders" "boulders",
    Ledge "ledge" "ledge",
    Weed "weed" "weed",
    Wood "wood" "wood",
});

impl Bed {
    /// Root of the power law over it: rough beds lower (from 5 to 7, from memory).
    pub fn exponent(self) -> f64 {
        match self {
            Self::Sand => 7.0,
            Self::Gravel | Self::Cobble | Self::Ledge => 6.0,
            Self::Boulders | Self::Weed | Self::Wood => 5.0,
        }
    }

    /// Whether a lure that touches it is likely to hang (common practice, no source).
    pub fn snags(self) -> bool {
        matches!(self, Self::Boulders | Self::Ledge | Self::Weed | Self::Wood)
    }
}

/// The bank one stands on, looking downstream.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Bank {
    /// The left one.
    Left,
    /// The right one.
    Right,
}

keyed!(Bank { Left "left" "left bank", Right "right" "right bank" });

/// Where fish are likely, or something to know of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum MarkKind {
    /// A seam between fast and slow water.
    Seam,
    /// A boulder.
    Boulder,
    /// A ledge.
    Ledge,
    /// The lip of the tail-out.
    Tail,
    /// A lane between weeds.
    Lane,
    /// A spawning bed: left alone.
    Spawning,
}

keyed!(MarkKind {
    Seam "seam" "seam",
    Boulder "boulder" "boulder",
    Ledge "ledge" "ledge",
    Tail "tail" "tail-out",
    Lane "lane" "lane in the weed",
    Spawning "spawning" "spawning bed",
});

/// A mark on the plan of a run.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mark {
    /// What is there.
    pub kind: MarkKind,
    /// How far below the head of the run.
    pub along: Metres,
    /// How far from the angler's bank.
    pub across: Metres,
}

/// A place of a river that is fished from one bank.
#[derive(Debug, Clone, PartialEq)]
pub struct Run {
    /// On which water.
    pub water: WaterId,
    /// What it is called: "alder run".
    pub name: String,
    /// The bank one stands on.
    pub bank: Bank,
    /// From its head to its tail-out.
    pub length: Metres,
    /// How far out one can wade.
    pub wade: Metres,
    /// What lies on the bottom.
    pub bed: Bed,
    /// How high weed or wood stands over it.
    pub growth: Metres,
    /// Depths and surface speeds across it.
    pub stations: Vec<Station>,
    /// Marks on its plan.
    pub marks: Vec<Mark>,
}

/// Most marks of a run.
const MARKS: usize = 20;

impl Run {
    /// Whether every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        if self.name.trim().is_empty() {
            return Err(Error::contradiction(
                "name",
                "a run needs a name; give the one you use, such as alder run",
            ));
        }
        plain_text("name", &self.name, 40)?;
        fields::RUN_LENGTH.check(self.length.0)?;
        fields::STAND.check(self.wade.0)?;
        fields::GROWTH.check(self.growth.0)?;
        let section = self.section()?;
        if self.wade.0 > 0.5 * section.width().0 {
            return Err(Error::contradiction(
                fields::STAND.key,
                "one wades no farther than half across; stand nearer the bank, or on the other one",
            ));
        }
        if self.growth.0 >= section.deepest().0 {
            return Err(Error::contradiction(
                fields::GROWTH.key,
                "the weed stands out of the water everywhere; give how high it stands over the bed",
            ));
        }
        if self.marks.len() > MARKS {
            return Err(Error::contradiction(
                "marks",
                format!("a run has at most {MARKS} marks; leave some out"),
            ));
        }
        for (place, mark) in self.marks.iter().enumerate() {
            let along = (0.0..=self.length.0).contains(&mark.along.0);
            let across = (0.0..=section.width().0).contains(&mark.across.0);
            if !along || !across {
                return Err(Error::contradiction(
                    format!("marks[{place}]"),
                    format!(
                        "the {} lies outside the run; it reaches {:.0} m down and {:.1} m across",
                        mark.kind.name(),
                        self.length.0,
                        section.width().0
                    ),
                ));
            }
        }
        Ok(())
    }

    /// Its water, to the tops of what grows in it.
    ///
    /// # Errors
    /// As [`Section::new`].
    pub fn section(&self) -> Result<Section, Error> {
        let section = Section::new(self.stations.clone(), self.bed.exponent())?;
        Ok(section.grown(self.growth))
    }

    /// The same run at another discharge: speeds in proportion, depths as they were.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a discharge that cannot be, [`Error::Contradiction`] when the speeds would be too great.
    pub fn at_discharge(&self, discharge: CubicMetresPerSecond) -> Result<Self, Error> {
        fields::DISCHARGE.check(discharge.0)?;
        let now = self.section()?.discharge();
        if now.0 <= 0.0 {
            return Err(Error::contradiction(
                fields::DISCHARGE.key,
                "water that stands everywhere cannot be brought to a gauge's figure; give a surface speed first",
            ));
        }
        let factor = discharge.0 / now.0;
        let stations = self.stations.iter().map(|station| Station {
            surface: station.surface * factor,
            ..*station
        });
        let run = Self {
            stations: stations.collect(),
            ..self.clone()
        };
        run.section().map_err(|_| {
            Error::contradiction(
                fields::DISCHARGE.key,
                format!(
                    "at {:.1} m³/s the surface would run {:.1} times as fast as typed, more than 4 m/s; correct the gauge's figure or the speeds",
                    discharge.0, factor
                ),
            )
        })?;
        Ok(run)
    }
}

/// Surface speeds that people name instead of timing them; from memory.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Pace {
    /// A leaf stands.
    Still,
    /// Half a walk.
    SlowWalk,
    /// One keeps up with it walking.
    WalkingPace,
    /// One keeps up with it walking fast.
    FastWalk,
    /// One would have to jog.
    Jog,
}

keyed!(Pace {
    Still "still" "still",
    SlowWalk "slow_walk" "slow walk",
    WalkingPace "walking_pace" "walking pace",
    FastWalk "fast_walk" "fast walk",
    Jog "jog" "jogging",
});

impl Pace {
    /// The speed it stands for.
    pub fn speed(self) -> MetresPerSecond {
        MetresPerSecond(match self {
            Self::Still => 0.05,
            Self::SlowWalk => 0.5,
            Self::WalkingPace => 1.3,
            Self::FastWalk => 1.8,
            Self::Jog => 2.5,
        })
    }
}

/// Surface speed by a float or leaf timed over a measured way.
///
/// # Errors
/// [`Error::OutOfRange`] for a way or a time that cannot be, or a speed beyond a river's.
pub fn timed(way: Metres, seconds: f64) -> Result<MetresPerSecond, Error> {
    fields::LEAF_WAY.check(way.0)?;
    fields::LEAF_TIME.check(seconds)?;
    let speed = way.0 / seconds;
    fields::STATION_SPEED.check(speed)?;
    Ok(MetresPerSecond(speed))
}

/// How sure a surface speed timed with a leaf is, one standard deviation as a share: a second's hand on the watch and a
/// way that is paced; from memory.
pub fn timed_sure(way: Metres, seconds: f64) -> f64 {
    let watch = 0.4 / seconds;
    let pacing = 0.05 + 0.1 / way.0;
    watch.hypot(pacing)
}
