use super::chain::{BladeDrag, Chain, NodeLoad, Piece};
use super::course::{Course, Track};
use super::flow::Still;
use crate::error::Error;
use crate::fields;
use crate::line::{LineSetup, Start, Surroundings};
use crate::spread::{LineRunning, NEAR, Point, Rod, Running, Spread, State, Towed, closest};
use crate::tackle::{CABLE, ball_load};
use crate::towline::{LineDrag, Segment};
use crate::units::{Kilograms, Metres, MetresPerSecond};
use crate::water::Water;
use std::ops::ControlFlow;

/// A step, s.
const STEP: f64 = 0.05;
/// A frame, s.
const EVERY: f64 = 0.5;
/// Most points of a line in a frame.
const POINTS: usize = 13;

/// What is set in motion.
#[derive(Debug, Clone, Copy)]
pub struct Scene<'a> {
    /// The lines.
    pub spread: &'a Spread,
    /// Their water.
    pub surroundings: &'a Surroundings,
    /// What the boat does.
    pub course: Course,
    /// For how long.
    pub seconds: f64,
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

/// Two lines that come near each other.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Near {
    /// Which.
    pub lines: (usize, usize),
    /// How near.
    pub distance: Metres,
}

/// The spread at an instant.
#[derive(Debug, Clone, PartialEq)]
pub struct Frame {
    /// Seconds from the start.
    pub at_s: f64,
    /// Speed of the boat.
    pub speed: MetresPerSecond,
    /// Where it is, over the water.
    pub boat: [f64; 2],
    /// Its heading away from the one it began with, degrees to starboard.
    pub heading_deg: f64,
    /// Its lines, in the order of the rods.
    pub lines: Vec<LineFrame>,
    /// Lines nearer than [`NEAR`].
    pub near: Vec<Near>,
}

/// A spread in motion.
#[derive(Debug, Clone, PartialEq)]
pub struct Recording {
    /// Seconds from frame to frame.
    pub every_s: f64,
    /// The frames.
    pub frames: Vec<Frame>,
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

struct Moving {
    chain: Chain,
    hold: Hold,
    /// Node of the weight.
    weight: Option<usize>,
}

/// Tows a spread along a course. `progress` is told the share that is done and may stop it; then `None`.
///
/// # Errors
/// As [`Spread::check`] and [`Course::check`]; [`Error::OutOfRange`] for the time.
pub fn record(
    scene: &Scene<'_>,
    mut progress: impl FnMut(f64) -> ControlFlow<()>,
) -> Result<Option<Recording>, Error> {
    scene.course.check()?;
    fields::SECONDS.check(scene.seconds)?;
    let spread = scene.spread;
    let running = spread.running(scene.surroundings, None)?;
    if let Some(refusal) = running.lines.iter().find_map(|line| line.refused.clone()) {
        return Err(refusal);
    }
    let track = Track::new(&scene.course, spread.speed, scene.seconds, STEP);
    let (mut cables, mut lines) = launched(scene, &running)?;
    let mut frames = Vec::new();
    let a_frame = (EVERY / STEP).round() as usize;
    for step in 0..=track.steps() {
        if step > 0 {
            advance(&track, step, &mut cables, &mut lines);
        }
        if step % a_frame == 0 {
            frames.push(frame(scene, &running, &track, step, &lines));
            let done = step as f64 / track.steps() as f64;
            if progress(done).is_break() {
                return Ok(None);
            }
        }
    }
    Ok(Some(Recording {
        every_s: EVERY,
        frames,
    }))
}

fn advance(track: &Track, step: usize, cables: &mut [Moving], lines: &mut [Moving]) {
    for line in lines.iter() {
        if let Hold::Clip(cable, node) = line.hold {
            cables[cable].chain.pull(node, line.chain.top_pull());
        }
    }
    for cable in cables.iter_mut() {
        let top = held(track, step, cable.hold, &[]);
        cable.chain.step(track.dt(), top, &Still);
    }
    for line in lines {
        let top = held(track, step, line.hold, cables);
        line.chain.step(track.dt(), top, &Still);
    }
}

fn held(track: &Track, step: usize, hold: Hold, cables: &[Moving]) -> Point {
    match hold {
        Hold::Boat(aft, starboard, height) => {
            let [x, y] = track.fixed(step, aft, starboard);
            [x, y, -height]
        }
        Hold::Board(behind, starboard) => {
            let [x, y] = track.following(step, behind, starboard);
            [x, y, 0.0]
        }
        Hold::Clip(cable, node) => cables[cable].chain.place(node),
    }
}

/// The chains as they run straight on: the cables, and a line for each rod.
fn launched(scene: &Scene<'_>, running: &Running) -> Result<(Vec<Moving>, Vec<Moving>), Error> {
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

fn rig_load(rod: &Rod, setup: &LineSetup, scene: &Scene<'_>) -> Result<NodeLoad, Error> {
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
    scene: &Scene<'_>,
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
    let last = chain.last();
    Moving {
        chain: chain.moving(boat),
        hold: Hold::Boat(top[0], top[1], 0.0),
        weight: Some(last),
    }
}

/// Depth at which a chain comes to lie.
fn floor(scene: &Scene<'_>) -> Metres {
    scene.surroundings.bottom.unwrap_or(Metres(f64::INFINITY))
}

fn line(
    rod: &Rod,
    setup: &LineSetup,
    rig: NodeLoad,
    hold: Hold,
    steady: &LineRunning,
    scene: &Scene<'_>,
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
    Moving {
        chain: chain.moving([scene.spread.speed.0, 0.0, 0.0]),
        hold,
        weight: setup.weight.map(|_| above),
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

fn frame(
    scene: &Scene<'_>,
    running: &Running,
    track: &Track,
    step: usize,
    lines: &[Moving],
) -> Frame {
    let (boat, heading) = track.boat(step);
    let shown: Vec<LineFrame> = lines
        .iter()
        .zip(&running.lines)
        .map(|(line, steady)| line_frame(line, steady, track, step))
        .collect();
    let mut near = Vec::new();
    for a in 0..shown.len() {
        for b in a + 1..shown.len() {
            let (a_points, b_points) = (wet(&shown[a].points), wet(&shown[b].points));
            let (distance, _) = closest(a_points, b_points);
            if distance < NEAR.0 && !scene.spread.share_a_cable(a, b) {
                near.push(Near {
                    lines: (a, b),
                    distance: Metres(distance),
                });
            }
        }
    }
    Frame {
        at_s: step as f64 * track.dt(),
        speed: track.speed(step),
        boat,
        heading_deg: heading.to_degrees(),
        lines: shown,
        near,
    }
}

/// The part of a line that is under water.
fn wet(points: &[Point]) -> &[Point] {
    let from = points.iter().position(|point| point[2] >= 0.0);
    &points[from.unwrap_or(0)..]
}

fn line_frame(line: &Moving, steady: &LineRunning, track: &Track, step: usize) -> LineFrame {
    let chain = &line.chain;
    let last = chain.last();
    let every = last.div_ceil(POINTS - 1).max(1);
    let kept =
        (0..=last).filter(|node| node % every == 0 || *node == last || Some(*node) == line.weight);
    let points = kept
        .map(|node| track.seen(step, chain.place(node)))
        .collect();
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
        on_bottom: chain.is_down(last) || line.weight.is_some_and(|node| chain.is_down(node)),
    }
}
