//! One line of a spread solved, straight or in a turn, in the boat's frame.

use super::board::board_balance;
use super::frame::{Point, Turn};
use super::{Rod, Spread, Towed};
use crate::blade::{self, Window};
use crate::error::Error;
use crate::line::{Bottom, Clipped, Hung, LineSetup, Rigging, Sure, Surroundings, against, pull};
use crate::rig::Practice;
use crate::tackle::Release;
use crate::towline::PointLoad;
use crate::units::{Metres, MetresPerSecond, Newtons};

/// What a line's blade or lure does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum State {
    /// It works.
    Works,
    /// A blade too slow to turn.
    Stalled,
    /// A rig that turns instead of its blade.
    RollingOver,
    /// A lure below the speeds typed in for it.
    TooSlow,
    /// A lure above them.
    TooFast,
}

impl From<blade::State> for State {
    fn from(state: blade::State) -> Self {
        match state {
            blade::State::Turning | blade::State::Swaying | blade::State::Bare => Self::Works,
            blade::State::Stalled => Self::Stalled,
            blade::State::RollingOver => Self::RollingOver,
        }
    }
}

/// One line as it runs.
#[derive(Debug, Clone, PartialEq)]
pub struct LineRunning {
    /// Speed of the water at it: the boat's, or more or less in a turn.
    pub speed: MetresPerSecond,
    /// What its blade or lure does.
    pub state: State,
    /// The blade, for a rig that has one.
    pub blade: Option<blade::Running>,
    /// Speeds worth fishing it at.
    pub window: Window,
    /// Speeds practice (or the angler, for a lure) runs it at.
    pub practice: Practice,
    /// Rod tip, and board where it has one.
    pub tip: Point,
    /// Where the line enters the water.
    pub entry: Point,
    /// The line under water, from where it enters down to the rig; a downrigger's begins with the cable.
    pub path: Vec<Point>,
    /// Number of the point at which its own line begins, behind a shared cable.
    pub own_from: usize,
    /// Where the weight, diver or ball runs.
    pub weight: Option<Point>,
    /// Where the rig runs.
    pub rig: Point,
    /// Where it is against the bottom.
    pub bottom: Bottom,
    /// Pull backwards where it enters the water.
    pub pull: Newtons,
    /// Its diver's release under the pull of what it tows.
    pub release: Option<Release>,
    /// Distance by which its board trails the rod tip.
    pub lag: Option<Metres>,
    /// Row of its board: 2 for one that is pulled far behind the others.
    pub row: u8,
    /// Why it could not be solved; everything about its course is then a guess.
    pub refused: Option<Error>,
}

impl LineRunning {
    /// Depth of the rig, or of the bottom where it lies on it.
    pub fn depth(&self, bottom: Option<Metres>) -> Metres {
        Metres(self.rig[2].min(bottom.map_or(f64::INFINITY, |bottom| bottom.0)))
    }
}

/// Where the line enters when it runs straight, before a board's lag: aft and starboard.
fn foot(rod: &Rod) -> [f64; 2] {
    if rod.setup.lets_out_cable() {
        return rod.holder.boom();
    }
    let tip = rod.tip();
    [tip.aft.0, tip.starboard.0]
}

/// The offset to starboard at which a rod's line runs.
pub(super) fn offset(rod: &Rod) -> f64 {
    match rod.board {
        Some(board) if rod.has_board() => rod.holder.side.sign() * board.0,
        _ => foot(rod)[1],
    }
}

/// What hangs at the end of a rod's line, with what its blade does there.
pub(super) fn tail(
    rod: &Rod,
    setup: &LineSetup,
    speed: MetresPerSecond,
    surroundings: &Surroundings,
    fitted_at: MetresPerSecond,
) -> Result<(PointLoad, Option<blade::Running>), Error> {
    match &rod.towed {
        Towed::Rig(rig) => {
            let (load, blade) = rig.at(speed, &surroundings.water, surroundings.temperature)?;
            Ok((load, Some(blade)))
        }
        Towed::Lure(lure) => {
            let load = lure.load(setup, rod.out, fitted_at, &surroundings.water)?;
            Ok((load, None))
        }
        Towed::Unfit(unfit) => Err(unfit.why.clone()),
    }
}

/// Pulls of the other lines on the same downrigger.
pub(super) fn clipped(
    spread: &Spread,
    place: usize,
    speed: MetresPerSecond,
    surroundings: &Surroundings,
) -> Result<Vec<Clipped>, Error> {
    let mut clips = Vec::new();
    for other in 0..spread.rods.len() {
        let hangs = other != place && spread.share_a_cable(place, other);
        // A line that cannot run pulls at nothing.
        if !hangs || spread.trouble(other, surroundings).is_some() {
            continue;
        }
        let rod = &spread.rods[other];
        let setup = rod.line_setup();
        let (load, _) = tail(rod, &setup, speed, surroundings, spread.speed)?;
        clips.push(Rigging::new(&setup, load, speed, &surroundings.water, &[])?.clip());
    }
    Ok(clips)
}

impl Spread {
    /// How sure a line's depth is, straight on; `None` for one that does not run or lies on the water.
    pub fn sure(&self, place: usize, surroundings: &Surroundings) -> Option<Sure> {
        let rod = self.rods.get(place)?;
        let setup = rod.line_setup();
        Sure::of(&setup, rod.out, |by| {
            let speed = by.speed(self.speed);
            let (load, _) = tail(rod, &setup, speed, surroundings, self.speed).ok()?;
            let clips = clipped(self, place, speed, surroundings).ok()?;
            let water = &surroundings.water;
            let rigging = Rigging::moved(&setup, load, speed, water, &clips, by).ok()?;
            Some(rigging.at(rod.out * by.length).ok()?.shape.tail_depth())
        })
    }
}

/// Speeds of a rod's rig or lure.
pub(super) fn speeds(rod: &Rod, surroundings: &Surroundings) -> Result<(Window, Practice), Error> {
    match &rod.towed {
        Towed::Rig(rig) => {
            let water = &surroundings.water;
            let window = rig.window(water, surroundings.temperature)?;
            Ok((window, rig.kind().trolled()))
        }
        Towed::Lure(lure) => {
            let window = Window {
                from: lure.speeds.from,
                to: Some(lure.speeds.to),
            };
            Ok((window, lure.speeds))
        }
        Towed::Unfit(unfit) => Err(unfit.why.clone()),
    }
}

/// Speeds of what cannot run: nothing is known of them.
const NO_PRACTICE: Practice = Practice {
    from: MetresPerSecond(0.0),
    favourite: MetresPerSecond(0.0),
    to: MetresPerSecond(0.0),
};

/// Where a line goes in, as the origin of all that hangs from it.
#[derive(Debug, Clone, Copy)]
struct Inlet {
    aft: f64,
    starboard: f64,
    /// Which way a diver leans out.
    outward: f64,
    turn: Option<Turn>,
}

impl Inlet {
    /// A place behind, outward of and below where the line goes in, in the boat's frame.
    fn place(&self, aft: f64, aside: f64, depth: f64) -> Point {
        let starboard = self.starboard + self.outward * aside;
        match self.turn {
            None => [self.aft + aft, starboard, depth],
            Some(turn) => turn.behind(self.aft, starboard, aft, depth),
        }
    }
}

/// What a blade does, or a lure of which only its speeds are known.
fn state(blade: Option<blade::Running>, speed: MetresPerSecond, window: Window) -> State {
    match blade {
        Some(blade) => blade.state.into(),
        None if speed < window.from => State::TooSlow,
        None if window.holds(speed) => State::Works,
        None => State::TooFast,
    }
}

pub(super) fn solved(
    spread: &Spread,
    place: usize,
    surroundings: &Surroundings,
    turn: Option<Turn>,
) -> LineRunning {
    let rod = &spread.rods[place];
    let setup = rod.line_setup();
    let offset = offset(rod);
    let speed = turn.map_or(spread.speed, |turn| turn.speed_at(spread.speed, offset));
    let known = speeds(rod, surroundings);
    let (window, practice) = known.clone().unwrap_or((Window::ANY, NO_PRACTICE));
    let load = match spread.trouble(place, surroundings) {
        Some(trouble) => Err(trouble),
        None => known.and_then(|_| tail(rod, &setup, speed, surroundings, spread.speed)),
    };
    let blade = load.as_ref().ok().and_then(|(_, blade)| *blade);
    let release = load.as_ref().ok().and_then(|(load, _)| {
        let pull = surroundings.water.dynamic_pressure(speed) * load.drag_area.0;
        setup.weight?.release(Newtons(pull))
    });
    let hung = load.and_then(|(load, _)| {
        let clips = clipped(spread, place, speed, surroundings)?;
        let rigging = Rigging::new(&setup, load, speed, &surroundings.water, &clips)?;
        let hung = rigging.at(rod.out)?;
        let bottom = against(surroundings.bottom, &rigging, &hung)?;
        Ok((hung, bottom))
    });
    let tip = rod.tip();
    let lag = rod.has_board().then(|| {
        let pulled = |(hung, _): &(Hung, Bottom)| Newtons(pull(&hung.shape)[0]);
        let pull = hung.as_ref().map_or(Newtons(0.0), pulled);
        let out = Metres((offset - tip.starboard.0).abs());
        board_balance(out, pull, spread.speed, &surroundings.water).lag
    });
    let inlet = Inlet {
        aft: foot(rod)[0] + lag.map_or(0.0, |lag| lag.0),
        starboard: offset,
        outward: rod.holder.side.sign(),
        turn,
    };
    let entry = inlet.place(0.0, 0.0, 0.0);
    let mut line = LineRunning {
        speed,
        state: state(blade, speed, window),
        blade,
        window,
        practice,
        tip: if setup.lets_out_cable() {
            [inlet.aft, inlet.starboard, -0.6]
        } else {
            [tip.aft.0, tip.starboard.0, -tip.height.0]
        },
        entry,
        path: Vec::new(),
        own_from: 0,
        weight: None,
        rig: entry,
        bottom: Bottom::Unknown,
        pull: Newtons(0.0),
        release,
        lag,
        row: 1,
        refused: None,
    };
    match hung {
        Ok((hung, bottom)) => lay(&mut line, &hung, bottom, surroundings.bottom, inlet),
        Err(refusal) => line.refused = Some(refusal),
    }
    line
}

/// Puts a solved line into the boat's frame.
fn lay(line: &mut LineRunning, hung: &Hung, bottom: Bottom, floor: Option<Metres>, inlet: Inlet) {
    let (air_aft, air_aside) = hung.air_piece();
    let floor = floor.map_or(f64::INFINITY, |bottom| bottom.0);
    let lie = |place: &crate::towline::Place| {
        inlet.place(
            air_aft + place.run.0,
            air_aside + place.aside.0,
            place.depth.0.min(floor),
        )
    };
    line.entry = inlet.place(air_aft, air_aside, 0.0);
    line.path = hung.shape.profile.iter().rev().map(lie).collect();
    line.own_from = (hung.shape.profile.len() - 1).saturating_sub(hung.own);
    line.weight = hung.weight.as_ref().map(lie);
    let rig = &hung.shape.tail;
    line.rig = inlet.place(air_aft + rig.run.0, air_aside + rig.aside.0, rig.depth.0);
    line.bottom = bottom;
    line.pull = Newtons(pull(&hung.shape)[0]);
}
