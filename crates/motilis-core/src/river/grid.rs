use super::cast::{Fineness, Thrown};
use super::gear::{Angler, Plan};
use super::path::Path;
use super::search::Scene;
use super::section::Section;
use crate::error::Error;
use crate::keyed::keyed;
use crate::units::Metres;
use rayon::prelude::*;

/// Which way a cast of the grid goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Way {
    /// 45° upstream.
    Up,
    /// Square across.
    Square,
    /// 45° downstream.
    Down,
}

keyed!(Way { Up "up" "45 up", Square "square" "square", Down "down" "45 down" });

impl Way {
    /// From straight downstream, degrees.
    pub fn angle_deg(self) -> f64 {
        match self {
            Self::Up => 135.0,
            Self::Square => 90.0,
            Self::Down => 45.0,
        }
    }
}

/// How far a cast of the grid goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Far {
    /// Close.
    Close,
    /// Middle.
    Middle,
    /// As far as one casts.
    Far,
}

keyed!(Far { Close "close" "close", Middle "middle" "middle", Far "far" "far" });

impl Far {
    /// As a share of the longest cast (designed).
    fn share(self) -> f64 {
        match self {
            Self::Close => 0.4,
            Self::Middle => 0.7,
            Self::Far => 1.0,
        }
    }
}

/// From which side fish are cast to: anglers disagree.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum School {
    /// Upstream only: small water, one stays behind the fish.
    Upstream,
    /// Down and across.
    DownAndAcross,
    /// Both.
    Both,
}

keyed!(School {
    Upstream "upstream" "upstream only",
    DownAndAcross "down_and_across" "down and across",
    Both "both" "both ways",
});

impl School {
    /// The ways it casts, in its order.
    pub fn ways(self) -> &'static [Way] {
        match self {
            Self::Upstream => &[Way::Up],
            Self::DownAndAcross => &[Way::Square, Way::Down],
            Self::Both => &[Way::Up, Way::Square, Way::Down],
        }
    }

    /// Which way it walks: behind the fish one steps up, else down.
    pub fn steps_up(self) -> bool {
        self == Self::Upstream
    }
}

/// Steps between two series of casts, and how long one is (CP-30; common practice, no source).
pub const STEPS: u32 = 2;
/// A step, m.
pub const STEP: Metres = Metres(1.5);
/// Casts into a hold that matter most (CP-30; common practice, no source).
pub const FIRST: usize = 3;
/// From a cast's end to the next one's landing, s; from memory.
const HANDLING: f64 = 8.0;
/// Nearer the far bank than this nothing is thrown, m.
const OFF_THE_BANK: f64 = 0.5;

/// A cast of the grid.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GridCast {
    /// Which way.
    pub way: Way,
    /// How far.
    pub far: Far,
    /// Where it goes.
    pub thrown: Thrown,
}

/// The casts of a stand, close ones first so that no line lies over fish that are still to be fished.
pub fn grid(section: &Section, angler: &Angler, school: School) -> Vec<GridCast> {
    let mut casts = Vec::new();
    for &far in Far::ALL {
        for &way in school.ways() {
            let across = way.angle_deg().to_radians().sin();
            let room = (section.width() - angler.stand).0 - OFF_THE_BANK;
            let longest = angler.longest.0.min(room / across).max(2.0);
            casts.push(GridCast {
                way,
                far,
                thrown: Thrown {
                    angle_deg: way.angle_deg(),
                    distance: Metres((far.share() * longest).max(2.0)),
                },
            });
        }
    }
    casts
}

/// A cast of the grid with its way through the water.
#[derive(Debug, Clone, PartialEq)]
pub struct Fished {
    /// The cast.
    pub cast: GridCast,
    /// Where the lure goes.
    pub path: Path,
}

impl Scene<'_> {
    /// All casts of a stand, worked as a plan says.
    ///
    /// # Errors
    /// As [`Scene::path`].
    pub fn fished(&self, plan: &Plan, school: School) -> Result<Vec<Fished>, Error> {
        grid(self.section, self.angler, school)
            .into_par_iter()
            .map(|cast| {
                let plan = Plan {
                    thrown: cast.thrown,
                    ..*plan
                };
                let path = self.path(&plan, Fineness::COMPARED)?;
                Ok(Fished { cast, path })
            })
            .collect()
    }
}

/// A side of a cell of the bed, m.
pub const CELL: f64 = 0.5;
/// How far to the side, and how far below it, a fish sees a lure that is worked (designed).
const SIDE: f64 = 1.0;
const BELOW: f64 = 1.0;
/// Shallower water holds no fish, m (designed).
const HOLDS: f64 = 0.3;

/// The bed of a run in cells of half a metre, and which of them casts have covered.
#[derive(Debug, Clone, PartialEq)]
pub struct Cover {
    along: usize,
    across: usize,
    fished: Vec<bool>,
    holds: Vec<bool>,
}

impl Cover {
    /// The bed of a run, nothing of it covered.
    pub fn of(section: &Section, length: Metres) -> Self {
        let along = (length.0 / CELL).ceil() as usize;
        let across = (section.width().0 / CELL).ceil() as usize;
        let holds = (0..across).map(|row| {
            let middle = (row as f64 + 0.5) * CELL;
            section.depth(Metres(middle)).0 >= HOLDS
        });
        Self {
            along,
            across,
            fished: vec![false; along * across],
            holds: holds.collect(),
        }
    }

    /// Covers what a lure passes with its blade turning, thrown from so far below the head.
    pub fn add(&mut self, path: &Path, stand: Metres) {
        for moment in &path.moments {
            if !moment.works() || moment.over_bed().0 > BELOW {
                continue;
            }
            let [x, y, _] = moment.place;
            let x = x + stand.0;
            let first = |middle: f64| ((middle - SIDE) / CELL - 0.5).ceil().max(0.0) as usize;
            let last = |middle: f64, cells: usize| {
                let last = ((middle + SIDE) / CELL - 0.5).floor();
                if last < 0.0 {
                    0..0
                } else {
                    first(middle)..(last as usize + 1).min(cells)
                }
            };
            for column in last(x, self.along) {
                for row in last(y, self.across) {
                    let off = Self::middle(column, row);
                    if (off.0 - x).hypot(off.1 - y) <= SIDE {
                        self.fished[column * self.across + row] = true;
                    }
                }
            }
        }
    }

    fn middle(column: usize, row: usize) -> (f64, f64) {
        ((column as f64 + 0.5) * CELL, (row as f64 + 0.5) * CELL)
    }

    /// Share of the bed that holds fish and is covered.
    pub fn share(&self) -> f64 {
        let cells = (0..self.along * self.across).filter(|cell| self.holds[cell % self.across]);
        let (all, fished) = cells.fold((0_usize, 0_usize), |(all, fished), cell| {
            (all + 1, fished + usize::from(self.fished[cell]))
        });
        fished as f64 / all.max(1) as f64
    }

    /// Covered stretches, row by row: where a row lies across, from where to where it is covered along; m.
    pub fn stretches(&self) -> Vec<(f64, f64, f64)> {
        let mut stretches = Vec::new();
        for row in 0..self.across {
            let mut from = None;
            for column in 0..=self.along {
                let is = column < self.along && self.fished[column * self.across + row];
                match (is, from) {
                    (true, None) => from = Some(column),
                    (false, Some(begun)) => {
                        let at = |cell: usize| cell as f64 * CELL;
                        stretches.push((at(row), at(begun), at(column)));
                        from = None;
                    }
                    _ => {}
                }
            }
        }
        stretches
    }
}

/// What a whole run takes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Whole {
    /// Places one stands at.
    pub stands: usize,
    /// Casts in all.
    pub casts: usize,
    /// Minutes they take.
    pub minutes: f64,
    /// Share of the bed they cover.
    pub share: f64,
}

/// Where one stands, from the head of the run down, or from its tail up: two steps apart.
pub fn stands(length: Metres, school: School) -> Vec<Metres> {
    let apart = f64::from(STEPS) * STEP.0;
    let count = (length.0 / apart).floor() as usize + 1;
    let down = (0..count).map(|place| Metres(place as f64 * apart));
    if school.steps_up() {
        down.rev().collect()
    } else {
        down.collect()
    }
}

/// Casts, minutes and cover of a run that is fished through with these casts.
pub fn whole(section: &Section, length: Metres, fished: &[Fished], school: School) -> Whole {
    let stands = stands(length, school);
    let seconds: f64 = fished.iter().map(|one| one.path.seconds() + HANDLING).sum();
    let mut cover = Cover::of(section, length);
    for stand in &stands {
        for one in fished {
            cover.add(&one.path, *stand);
        }
    }
    Whole {
        stands: stands.len(),
        casts: stands.len() * fished.len(),
        minutes: stands.len() as f64 * seconds / 60.0,
        share: cover.share(),
    }
}
