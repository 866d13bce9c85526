use super::chain::{BladeDrag, Chain, NodeLoad, Piece};
use super::flow::Still;
use crate::error::Error;
use crate::line::{LineSetup, Start, Surroundings};
use crate::spread::{LineRunning, Point, Rod, Running, Spread, State, Towed};
use crate::tackle::{CABLE, ball_load};
use crate::towline::{LineDrag, Segment};
use crate::units::{Kilograms, Metres, MetresPerSecond};
use crate::water::Water;

/// Most points of a line that is shown.
const POINTS: usize = 13;

/// Where the boat is, over the water, and where it came from.
pub trait Way {
    /// Seconds of a step.
    fn dt(&self) -> f64;
    /// Where something fixed to the boat is: so far aft and to starboard.
    fn fixed(&self, aft: f64, starboard: f64) -> [f64; 2];
    /// Where something is that follows the boat's way so far behind, so far to starboard: a board.
    fn following(&self, behind: f64, starboard: f64) -> [f64; 2];
    /// A place seen from the boat: aft, starboard, depth.
    fn seen(&self, place: [f64; 3]) -> Point;
}

/// One line in a frame.
#[derive(Debug, Clone, PartialEq)]
pub struct LineFrame {
    /// Points from rod tip, board or cable down to the rig: aft, starboard, depth.
    pub points: Vec<Point>,
    /// Depth of the rig.
    pub depth: Metres,
    /// Speed at which it meets the water.
    pub speed: MetresPerSecond,
    /// What its blade or lure does.
    pub state: State,
    /// Whether rig or weight lies on the bottom.
    pub on_bottom: bool,
}

/// What holds the top of a chain.
#[derive(Debug, Clone, Copy)]
enum Hold {
    /// Fixed to the boat: aft, starboard, height.
    Boat(f64, f64, f64),
    /// A board that follows the boat's way: behind, starboard.
    Board(f64, f64),
    /// A clip on a cable: which cable, which node.
    Clip(usize, usize),
}

#[derive(Debug, Clone)]
struct Moving {
    chain: Chain,
    hold: Hold,
    /// Nodes below the weight's: counted from the tail, for line that is reeled in takes nodes away at the top.
    weight: Option<usize>,
}

impl Moving {
    fn weight_node(&self) -> Option<usize> {
        Some(self.chain.last() - self.weight?)
    }
}

/// The lines of a spread in motion, wherever the boat takes them.
#[derive(Debug, Clone)]
pub struct Tow {
    cables: Vec<Moving>,
    lines: Vec<Moving>,
    steady: Vec<LineRunning>,
}

/// What is launched.
struct Launch<'a> {
    spread: &'a Spread,
    surroundings: &'a Surroundings,
}

impl Tow {
    /// Lines as they run straight on, the boat at the origin and heading along the first axis.
    ///
    /// # Errors
    /// For a line that cannot run.
    pub fn new(
        spread: &Spread,
        surroundings: &Surroundings,
        running: Running,
    ) -> Result<Self, Error> {
        let launch = Launch {
            spread,
            surroundings,
        };
        let (cables, lines) = launched(&launch, &running)?;
        Ok(Self {
            cables,
            lines,
            steady: running.lines,
        })
    }

    /// The same lines behind a boat elsewhere, heading otherwise: so many radians from the first axis towards the second.
    #[must_use]
    pub fn behind(mut self, at: [f64; 2], heading: f64) -> Self {
        for moving in self.cables.iter_mut().chain(&mut self.lines) {
            moving.chain.carry(at, heading);
        }
        self
    }

    /// A step of the boat.
    pub fn step(&mut self, way: &impl Way) {
        for line in &self.lines {
            if let Hold::Clip(cable, node) = line.hold {
                self.cables[cable].chain.pull(node, line.chain.top_pull());
            }
        }
        for cable in &mut self.cables {
            let top = held(way, cable.hold, &[]);
            cable.chain.step(way.dt(), top, &Still);
        }
        for line in &mut self.lines {
            let top = held(way, line.hold, &self.cables);
            line.chain.step(way.dt(), top, &Still);
        }
    }

    /// How many lines there are.
    pub fn count(&self) -> usize {
        self.lines.len()
    }

    /// A line as it is now.
    pub fn line(&self, place: usize, way: &impl Way) -> LineFrame {
        line_frame(&self.lines[place], &self.steady[place], way)
    }

    /// Where the rig of a line is, and the weight where it has one.
    pub fn ends(&self, place: usize) -> ([f64; 3], Option<[f64; 3]>) {
        let line = &self.lines[place];
        let chain = &line.chain;
        let weight = line.weight_node().map(|node| chain.place(node));
        (chain.place(chain.last()), weight)
    }

    /// Puts the bottom so deep under a line.
    pub fn lay_bottom(&mut self, place: usize, bottom: Metres) {
        self.lines[place].chain.set_floor(bottom);
    }

    /// Takes line in.
    pub fn reel_in(&mut self, place: usize, length: Metres) {
        self.lines[place].chain.reel_in(length.0);
    }
}

fn held(way: &impl Way, hold: Hold, cables: &[Moving]) -> Point {
    match hold {
        Hold::Boat(aft, starboard, height) => {
            let [x, y] = way.fixed(aft, starboard);
            [x, y, -height]
        }
        Hold::Board(behind, starboard) => {
            let [x, y] = way.following(behind, starboard);
            [x, y, 0.0]
        }
        Hold::Clip(cable, node) => cables[cable].chain.place(node),
    }
}

/// The chains as they run straight on: the cables, and a line for each rod.
fn launched(scene: &Launch<'_>, running: &Running) -> Result<(Vec<Moving>, Vec<Moving>), Error> {
    let spread = scene.spread;
    let mut cables: Vec<(usize, Moving)> = Vec::new();
    let mut lines = Vec::new();
    for (place, rod) in spread.rods.iter().enumerate() {
        let steady = &running.lines[place];
        let setup = rod.line_setup();
        let rig = rig_load(rod, &setup, scene)?;
        let hold = match setup.start {
            Start::RodTip { height } => {
                let tip = rod.tip();
                Hold::Boat(tip.aft.0, tip.starboard.0, height.0)
            }
            Start::Board => Hold::Board(steady.entry[0], steady.entry[1]),
            Start::Downrigger { ball, above, .. } => {
                let shared = cables
                    .iter()
                    .position(|(first, _)| spread.share_a_cable(*first, place));
                let number = shared.unwrap_or(cables.len());
                if shared.is_none() {
                    cables.push((place, cable(spread, place, ball, steady, scene)));
                }
                let (_, cable) = &cables[number];
                let node = cable.chain.node_at(rod.out.0 - above.0);
                Hold::Clip(number, node)
            }
        };
        lines.push(line(rod, &setup, rig, hold, steady, scene));
    }
    let cables = cables.into_iter().map(|(_, cable)| cable).collect();
    Ok((cables, lines))
}

fn rig_load(rod: &Rod, setup: &LineSetup, scene: &Launch<'_>) -> Result<NodeLoad, Error> {
    let Surroundings {
        water, temperature, ..
    } = scene.surroundings;
    match &rod.towed {
        Towed::Rig(rig) => {
            let shaft = rig.shaft(water, *temperature)?;
            NodeLoad::of_rig(rig, shaft.as_ref(), scene.spread.speed, water)
        }
        Towed::Lure(lure) => {
            let load = lure.load(setup, rod.out, scene.spread.speed, water)?;
            Ok(NodeLoad::of(load))
        }
        Towed::Unfit(unfit) => Err(unfit.why.clone()),
    }
}

/// In the boat's frame a path runs aft and to starboard; at the start the boat heads along the first axis.
fn at_start(path: &[Point]) -> Vec<Point> {
    path.iter().map(|p| [-p[0], p[1], p[2]]).collect()
}

fn cable(
    spread: &Spread,
    place: usize,
    ball: Kilograms,
    steady: &LineRunning,
    scene: &Launch<'_>,
) -> Moving {
    let water = &scene.surroundings.water;
    let mut heights: Vec<f64> = (0..spread.rods.len())
        .filter(|&other| other == place || spread.share_a_cable(place, other))
        .filter_map(|other| match spread.rods[other].setup.start {
            Start::Downrigger { above, .. } => Some(above.0),
            _ => None,
        })
        .chain([spread.rods[place].out.0])
        .collect();
    heights.sort_by(f64::total_cmp);
    heights.dedup_by(|a, b| (*a - *b).abs() < 1e-6);
    let mut from = 0.0;
    let mut below = Some(NodeLoad {
        mass: ball,
        ..NodeLoad::of(ball_load(ball, water))
    });
    let pieces: Vec<Piece> = heights
        .into_iter()
        .filter(|height| *height > 1e-6)
        .map(|height| {
            let length = height - from;
            from = height;
            Piece {
                segment: CABLE.segment(Metres(length), None, water),
                below: below.take(),
                cuts: if length > 5.0 { 10 } else { 3 },
                virtual_mass: None,
            }
        })
        .collect();
    // The cable is drawn from the surface to the ball; the lure line goes on from its clip.
    let top = steady.entry;
    let foot = steady.weight.unwrap_or(top);
    let boat = [scene.spread.speed.0, 0.0, 0.0];
    let chain =
        Chain::new(&pieces, LineDrag::default(), water, &at_start(&[top, foot])).over(floor(scene));
    Moving {
        chain: chain.moving(boat),
        hold: Hold::Boat(top[0], top[1], 0.0),
        weight: Some(0),
    }
}

/// Depth at which a chain comes to lie.
fn floor(scene: &Launch<'_>) -> Metres {
    scene.surroundings.bottom.unwrap_or(Metres(f64::INFINITY))
}

fn line(
    rod: &Rod,
    setup: &LineSetup,
    rig: NodeLoad,
    hold: Hold,
    steady: &LineRunning,
    scene: &Launch<'_>,
) -> Moving {
    let water = &scene.surroundings.water;
    let pieces = pieces(rod, setup, rig, water);
    let mut path = steady.path[steady.own_from.min(steady.path.len() - 1)..].to_vec();
    if let Hold::Boat(..) = hold {
        path.insert(0, steady.tip);
    }
    if path.len() < 2 {
        path.push(steady.rig);
    }
    let chain = Chain::new(&pieces, setup.drag(), water, &at_start(&path)).over(floor(scene));
    // The weight's node is where the pieces above it end.
    let above: usize = pieces
        .iter()
        .skip_while(|piece| !is_weight(piece, &rig))
        .map(|piece| piece.cuts.max(1))
        .sum();
    let last = chain.last();
    Moving {
        chain: chain.moving([scene.spread.speed.0, 0.0, 0.0]),
        hold,
        weight: setup.weight.map(|_| last - above),
    }
}

fn is_weight(piece: &Piece, rig: &NodeLoad) -> bool {
    piece.below.is_some_and(|below| below != *rig)
}

/// The line of a rod from its rig up, as much as is out.
fn pieces(rod: &Rod, setup: &LineSetup, rig: NodeLoad, water: &Water) -> Vec<Piece> {
    let piece = |segment: Segment, below, cuts| Piece {
        segment,
        below,
        cuts,
        virtual_mass: None,
    };
    let mut pieces = vec![piece(
        setup.leader.segment(setup.lead, None, water),
        Some(rig),
        3,
    )];
    if let Start::Downrigger { drop_back, .. } = setup.start {
        if drop_back.0 > 0.0 {
            pieces.push(piece(setup.main.segment(drop_back, None, water), None, 8));
        }
        return pieces;
    }
    let mut hangs = setup.weight.map(|weight| {
        let load = weight.load(water);
        NodeLoad {
            mass: weight.inertia(),
            lean: rod.holder.side.sign() * weight.lean().0,
            blade: None,
            ..NodeLoad::of(load)
        }
    });
    if hangs.is_some() && setup.ahead.0 > 0.0 {
        pieces.push(piece(setup.main.segment(setup.ahead, None, water), None, 6));
    }
    let mut left = rod.out;
    if let Some(core) = setup.core {
        let out = Metres(core.length.0.min(left.0));
        pieces.push(piece(
            core.stock.segment(out, None, water),
            hangs.take(),
            14,
        ));
        left = left - out;
    }
    if left.0 > 1e-6 {
        pieces.push(piece(
            setup.main.segment(left, None, water),
            hangs.take(),
            20,
        ));
    }
    pieces
}

fn line_frame(line: &Moving, steady: &LineRunning, way: &impl Way) -> LineFrame {
    let chain = &line.chain;
    let last = chain.last();
    let every = last.div_ceil(POINTS - 1).max(1);
    let kept = (0..=last)
        .filter(|node| node % every == 0 || *node == last || Some(*node) == line.weight_node());
    let points = kept.map(|node| way.seen(chain.place(node))).collect();
    let speed = chain.speed_at(last);
    let state = match steady.blade {
        Some(blade) => BladeDrag {
            start: blade.start,
            roll_over: blade.roll_over,
            hanging: blade.drag_area,
            turning: blade.drag_area,
            // Either works.
            at_work: crate::blade::State::Turning,
        }
        .state(speed)
        .into(),
        None if speed < steady.window.from => State::TooSlow,
        None if !steady.window.holds(speed) => State::TooFast,
        None => State::Works,
    };
    LineFrame {
        points,
        depth: Metres(chain.place(last)[2]),
        speed,
        state,
        on_bottom: chain.is_down(last)
            || line.weight_node().is_some_and(|node| chain.is_down(node)),
    }
}
