use super::flow::Flow;
use crate::blade::{self, Running, Shaft};
use crate::error::Error;
use crate::rig::Rig;
use crate::towline::{LineDrag, PointLoad, Segment, Towline};
use crate::units::{Celsius, GRAVITY, Kilograms, Metres, MetresPerSecond, SquareMetres};
use crate::water::Water;
use glam::{DMat3, DMat4, DVec3, DVec4};
use std::f64::consts::PI;

/// Added mass of a sphere, as a share of the water it displaces.
const SPHERE: f64 = 0.5;
/// Density that stands for a load whose volume nobody knows.
const LOAD_DENSITY: f64 = 4_000.0;
/// Newton's steps inside a step at most, and what counts as done: a change of speed, m/s.
const NEWTONS: usize = 12;
const DONE: f64 = 1e-6;
/// Stiffness by which a segment that is too long is told from a slack one, N/m: only the sign of a sum with it
/// counts.
const TAUT: f64 = 50.0;
/// A top piece that is shorter than this share of the next one is joined to it when line is reeled in.
const USED_UP: f64 = 0.25;
/// The least that stays of the last piece, m.
const SHORTEST: f64 = 0.1;
/// Nothing that hangs on a line sinks faster, m/s.
const FALLS_SLOWER: f64 = 20.0;
/// Speed at which what hangs beside the blade is looked at in a cast; of what is cast nothing changes with it.
const LOOKED_AT: MetresPerSecond = MetresPerSecond(1.0);
/// Below this a thing on the bed creeps instead of standing, m/s.
const CREEP: f64 = 0.02;
/// Least speed at which a direction of motion is told, m/s.
const STILL: f64 = 1e-6;

/// Drag of a rig that depends on what its blade does.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BladeDrag {
    /// Speed at which the blade starts.
    pub start: MetresPerSecond,
    /// Speed at which the rig rolls over.
    pub roll_over: Option<MetresPerSecond>,
    /// Drag area while it hangs, of the whole rig.
    pub hanging: SquareMetres,
    /// Drag area while it turns.
    pub turning: SquareMetres,
    /// What it does between its start and its end.
    pub at_work: blade::State,
}

impl BladeDrag {
    /// What the blade does at a speed.
    pub fn state(&self, speed: MetresPerSecond) -> blade::State {
        if speed <= self.start {
            blade::State::Stalled
        } else if self.roll_over.is_some_and(|limit| speed > limit) {
            blade::State::RollingOver
        } else {
            self.at_work
        }
    }

    fn area(&self, speed: f64) -> f64 {
        let out = if self.start.0 > 0.0 {
            blade::swung_out(speed / self.start.0)
        } else {
            1.0
        };
        self.hanging.0 + (self.turning.0 - self.hanging.0) * out
    }
}

/// Something on the line, with what inertia needs beyond [`PointLoad`].
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct NodeLoad {
    /// As the steady line feels it.
    pub load: PointLoad,
    /// Its mass in air.
    pub mass: Kilograms,
    /// By how much its down-force leans to starboard, rad.
    pub lean: f64,
    /// The blade, for a rig that has one.
    pub blade: Option<BladeDrag>,
}

impl NodeLoad {
    /// A load of which only the steady figures are known: its mass follows from its weight under water.
    pub fn of(load: PointLoad) -> Self {
        let mass = load.submerged_weight.0.max(0.0) / GRAVITY / (1.0 - 1_000.0 / LOAD_DENSITY);
        Self {
            load,
            mass: Kilograms(mass + 1e-3),
            lean: 0.0,
            blade: None,
        }
    }

    /// A rig on its shaft, its blade starting and stopping by itself; what stirs beside the blade is looked at at a speed.
    ///
    /// # Errors
    /// As [`Shaft::at`].
    pub fn of_rig(
        rig: &Rig,
        shaft: Option<&Shaft>,
        speed: MetresPerSecond,
        water: &Water,
    ) -> Result<Self, Error> {
        let running = match shaft {
            Some(shaft) => shaft.at(speed, water)?,
            None => Running::bare(speed)?,
        };
        let others = rig.towed_drag_area(speed, water);
        let blade = shaft.map(|shaft| BladeDrag {
            start: running.start,
            roll_over: running.roll_over,
            hanging: others + shaft.hanging_drag_area(),
            turning: others + shaft.turning_drag_area(),
            at_work: shaft.blade.family.at_work(),
        });
        Ok(Self {
            blade,
            mass: rig.mass(),
            ..Self::of(rig.load(&running, water))
        })
    }

    /// A rig that is cast.
    ///
    /// # Errors
    /// As [`Rig::cast_shaft`].
    pub fn of_cast(rig: &Rig, water: &Water, temperature: Celsius) -> Result<Self, Error> {
        let shaft = rig.cast_shaft(water, temperature)?;
        Self::of_rig(rig, shaft.as_ref(), LOOKED_AT, water)
    }

    /// A load whose mass is known together with the water it carries along, as a sphere does.
    pub fn with_virtual_mass(load: PointLoad, whole: Kilograms) -> Self {
        let displaced = (whole.0 - load.submerged_weight.0 / GRAVITY) / (1.0 + SPHERE);
        Self {
            mass: Kilograms(whole.0 - SPHERE * displaced),
            ..Self::of(load)
        }
    }

    /// The speed at which it sinks on a slack line: where its drag is its weight, `½ ρ A(v) v² = W`; none for what floats.
    pub fn sink_speed(&self, water: &Water) -> MetresPerSecond {
        let weight = self.load.submerged_weight.0;
        if weight <= 0.0 {
            return MetresPerSecond(0.0);
        }
        let held = |speed: f64| {
            water.dynamic_pressure(MetresPerSecond(speed))
                * self.drag_area(MetresPerSecond(speed)).0
        };
        let (mut slow, mut fast) = (0.0, FALLS_SLOWER);
        while fast - slow > 1e-9 {
            let middle = 0.5 * (slow + fast);
            if held(middle) < weight {
                slow = middle;
            } else {
                fast = middle;
            }
        }
        MetresPerSecond(slow)
    }

    /// Drag area at a speed.
    pub fn drag_area(&self, speed: MetresPerSecond) -> SquareMetres {
        SquareMetres(
            self.blade
                .map_or(self.load.drag_area.0, |blade| blade.area(speed.0)),
        )
    }
}

/// A piece of line with what hangs at its lower end.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Piece {
    /// The line; its own node is not looked at.
    pub segment: Segment,
    /// The load at its lower end.
    pub below: Option<NodeLoad>,
    /// Into how many it is cut.
    pub cuts: usize,
    /// Mass of a metre of it with the water it carries along, kg, where that is known; else of a cylinder across itself.
    pub virtual_mass: Option<f64>,
}

/// A load with the water it carries along.
#[derive(Debug, Clone, Copy)]
struct Load {
    node: NodeLoad,
    mass: f64,
    /// Mass of the water whose place it takes.
    displaced: f64,
    half_rho: f64,
}

/// The water at a node in a step: how fast it goes, how fast that changes.
#[derive(Debug, Clone, Copy, Default)]
struct Around {
    velocity: DVec3,
    acceleration: DVec3,
}

/// A cut of line.
#[derive(Debug, Clone, Copy)]
struct Cut {
    length: f64,
    mass: f64,
    added: f64,
    weight_wet: f64,
    /// `½ ρ d ℓ`, to be multiplied by `K C_n |u_n|`.
    across: f64,
    /// `½ ρ C_t π d ℓ`, to be multiplied by `|u_t|`.
    along: f64,
    /// `d / ν`.
    reynolds: f64,
}

impl Cut {
    /// The same line, of another length.
    fn cut_to(&mut self, length: f64) {
        let share = length / self.length;
        self.length = length;
        self.mass *= share;
        self.added *= share;
        self.weight_wet *= share;
        self.across *= share;
        self.along *= share;
    }
}

/// What a node obeys in a step, tensions apart: `A v = b`.
#[derive(Debug, Clone, Copy)]
struct Law {
    a: DMat3,
    b: DVec3,
}

impl Law {
    const NONE: Self = Self {
        a: DMat3::ZERO,
        b: DVec3::ZERO,
    };

    /// Drag against water that moves: linearised about the velocity past it, `drag · (v − water) = held` at rest.
    fn hold(&mut self, drag: DMat3, held: DVec3, water: DVec3) {
        self.a += drag;
        self.b += held + drag * water;
    }
}

/// One line as lumped masses, from its top (node 0, moved by hand) to its tail. Axes: two level ones, depth.
#[derive(Debug, Clone)]
pub struct Chain {
    x: Vec<DVec3>,
    v: Vec<DVec3>,
    around: Vec<Around>,
    time: f64,
    tension: Vec<f64>,
    cuts: Vec<Cut>,
    loads: Vec<Option<Load>>,
    pulled: Vec<DVec3>,
    drag: LineDrag,
    floor: f64,
    down: Vec<bool>,
    /// Line to be taken in; less than nothing where more was taken than asked for.
    ahead: f64,
    laws: Vec<Law>,
    /// Blocks of the elimination, kept between steps for their room.
    blocks: Vec<(DMat4, DVec4)>,
}

impl Chain {
    /// A chain of pieces given from the tail up, laid along `path` from its top to its tail (any number of points).
    ///
    /// - `drag`: how the water holds the line.
    /// - `path`: where it begins; the chain is laid along it by its own lengths, at rest against the earth.
    pub fn new(pieces: &[Piece], drag: LineDrag, water: &Water, path: &[[f64; 3]]) -> Self {
        let rho = water.density().0;
        let mut cuts = Vec::new();
        let mut loads = vec![None];
        // Built from the tail up, then turned round.
        for piece in pieces {
            if let (Some(below), Some(last)) = (piece.below, loads.last_mut()) {
                let displaced = (below.mass.0 - below.load.submerged_weight.0 / GRAVITY).max(0.0);
                *last = Some(Load {
                    node: below,
                    mass: below.mass.0 + SPHERE * displaced,
                    displaced,
                    half_rho: 0.5 * rho,
                });
            }
            let d = piece.segment.diameter.0;
            let section = PI / 4.0 * d * d;
            let linear = piece.segment.submerged_weight.0 / GRAVITY + rho * section;
            let added = piece
                .virtual_mass
                .map_or(rho * section, |whole| (whole - linear).max(0.0));
            let count = piece.cuts.max(1);
            for number in 0..count {
                // Finer at the lower end, where the line bends most.
                let share = |i: usize| (i as f64 / count as f64).powf(1.3);
                let length = piece.segment.length.0 * (share(number + 1) - share(number));
                cuts.push(Cut {
                    length,
                    mass: linear.max(0.1 * rho * section) * length,
                    added: added * length,
                    weight_wet: piece.segment.submerged_weight.0 * length,
                    across: 0.5 * rho * d * length,
                    along: 0.5 * rho * drag.tangential * PI * d * length,
                    reynolds: d / water.viscosity().0,
                });
                loads.push(None);
            }
        }
        cuts.reverse();
        loads.reverse();
        let path: Vec<DVec3> = path.iter().copied().map(DVec3::from).collect();
        let x = laid(&cuts, &path);
        let count = x.len();
        Self {
            v: vec![DVec3::ZERO; count],
            around: vec![Around::default(); count],
            time: 0.0,
            tension: vec![0.0; cuts.len()],
            pulled: vec![DVec3::ZERO; count],
            drag,
            floor: f64::INFINITY,
            down: vec![false; count],
            ahead: 0.0,
            laws: Vec::new(),
            blocks: Vec::new(),
            cuts,
            loads,
            x,
        }
    }

    /// The chain of a towline that lies in one plane, cut into about `cuts` pieces, laid along `path`.
    pub fn of(line: &Towline, cuts: usize, path: &[[f64; 3]]) -> Self {
        let segments = line.segments();
        let total: f64 = segments.iter().map(|segment| segment.length.0).sum();
        let mut below = Some(NodeLoad::of(*line.tail()));
        let pieces: Vec<Piece> = segments
            .iter()
            .map(|segment| {
                let share = segment.length.0 / total.max(1e-9);
                let piece = Piece {
                    segment: *segment,
                    below,
                    cuts: ((cuts as f64 * share).ceil() as usize).max(3),
                    virtual_mass: None,
                };
                below = segment.node.map(NodeLoad::of);
                piece
            })
            .collect();
        Self::new(&pieces, line.drag(), line.water(), path)
    }

    /// Lets every node move with the boat, as on a line that has been towed for long.
    #[must_use]
    pub fn moving(mut self, velocity: [f64; 3]) -> Self {
        self.v.fill(velocity.into());
        self
    }

    /// Carries the whole of it elsewhere, turned from the first axis towards the second.
    pub(super) fn carry(&mut self, at: [f64; 2], heading: f64) {
        let (sin, cos) = heading.sin_cos();
        let turned = |v: DVec3| DVec3::new(v.x * cos - v.y * sin, v.x * sin + v.y * cos, v.z);
        for x in &mut self.x {
            *x = turned(*x) + DVec3::new(at[0], at[1], 0.0);
        }
        for v in &mut self.v {
            *v = turned(*v);
        }
    }

    /// Puts the bottom under it elsewhere.
    pub(super) fn set_floor(&mut self, bottom: Metres) {
        self.floor = bottom.0;
    }

    /// Puts a bottom under it.
    #[must_use]
    pub fn over(mut self, bottom: Metres) -> Self {
        self.floor = bottom.0;
        self
    }

    /// Number of the last node.
    pub fn last(&self) -> usize {
        self.x.len() - 1
    }

    /// Where a node is.
    pub fn place(&self, node: usize) -> [f64; 3] {
        self.x[node].into()
    }

    /// The node a length of line below the top.
    pub fn node_at(&self, length: f64) -> usize {
        let mut down = 0.0;
        for (place, cut) in self.cuts.iter().enumerate() {
            if down >= length - 1e-9 {
                return place;
            }
            down += cut.length;
        }
        self.last()
    }

    /// The speed at which the water met a node in the last step.
    pub fn speed_at(&self, node: usize) -> MetresPerSecond {
        MetresPerSecond((self.v[node] - self.around[node].velocity).length())
    }

    /// Whether a node lies on the bottom.
    pub fn is_down(&self, node: usize) -> bool {
        self.down[node]
    }

    /// Length of line that is out.
    pub fn out(&self) -> Metres {
        Metres(self.cuts.iter().map(|cut| cut.length).sum())
    }

    /// Tension of the piece above a node, N.
    pub fn tension_above(&self, node: usize) -> f64 {
        self.tension[node.max(1) - 1].max(0.0)
    }

    /// Takes line in at the top: the piece next to it gets shorter, and one that is nearly used up goes. A tenth of a metre
    /// stays above the first load.
    pub fn reel_in(&mut self, length: f64) {
        self.ahead += length;
        while self.cuts.len() > 1
            && self.loads[1].is_none()
            && self.cuts[0].length - self.ahead < USED_UP * self.cuts[1].length
        {
            let both = self.cuts[0].length + self.cuts[1].length;
            // A taut line has an angle at the node that goes: what is shorter without it counts as taken in.
            let straight = (self.x[2] - self.x[0]).length();
            let joined = if self.tension[0] > 0.0 {
                straight.clamp(self.cuts[1].length, both)
            } else {
                both
            };
            self.ahead -= both - joined;
            self.cuts[1].cut_to(joined);
            self.cuts.remove(0);
            self.tension.remove(0);
            self.loads.remove(1);
            self.x.remove(1);
            self.v.remove(1);
            self.around.remove(1);
            self.pulled.remove(1);
            self.down.remove(1);
        }
        // Only what no piece without a load follows keeps something.
        let keeps = if self.cuts.len() > 1 && self.loads[1].is_none() {
            0.0
        } else {
            SHORTEST
        };
        let cut = &mut self.cuts[0];
        let taken = self.ahead.clamp(0.0, (cut.length - keeps).max(0.0));
        self.ahead = (self.ahead - taken).min(0.0);
        cut.cut_to(cut.length - taken);
    }

    /// Lets something else pull on a node in the coming step, N; on top of what already does.
    pub fn pull(&mut self, node: usize, force: [f64; 3]) {
        self.pulled[node] += DVec3::from(force);
    }

    /// One step in a flow: `top` is where its upper end is afterwards. Time runs from the chain's first step.
    /// Every pull is let go again.
    pub fn step(&mut self, dt: f64, top: [f64; 3], flow: &impl Flow) {
        let top = DVec3::from(top);
        self.v[0] = (top - self.x[0]) / dt;
        self.time += dt;
        for (around, x) in self.around.iter_mut().zip(&self.x) {
            let place = (*x).into();
            *around = Around {
                velocity: flow.velocity(place, self.time).into(),
                acceleration: flow.acceleration(place, self.time).into(),
            };
        }
        let mut laws = self.laws(dt);
        self.grip(flow.grip(), &mut laws);
        for _ in 0..NEWTONS {
            if self.newton(dt, &laws) < DONE {
                break;
            }
        }
        self.laws = laws;
        for ((x, v), down) in self.x.iter_mut().zip(&mut self.v).zip(&mut self.down) {
            *x += *v * dt;
            let bed = self.floor.min(flow.bed((*x).into()));
            *down = x.z > bed - 1e-6;
            if *down {
                x.z = x.z.min(bed);
                v.z = v.z.min(0.0);
            }
        }
        self.x[0] = top;
        self.pulled.fill(DVec3::ZERO);
    }

    /// What lies on the bed is held by friction: Coulomb's, on what presses it down beside the pull of its line.
    fn grip(&self, friction: f64, laws: &mut [Law]) {
        if friction <= 0.0 {
            return;
        }
        for (node, load) in self.loads.iter().enumerate() {
            let Some(load) = load.filter(|_| self.down[node]) else {
                continue;
            };
            let up = way(self.x[node] - self.x[node - 1]).z * self.tension_above(node);
            let pressed = (load.node.load.submerged_weight.0 - up).max(0.0);
            let slides = self.v[node].truncate().length().max(CREEP);
            laws[node].a += DMat3::IDENTITY * (friction * pressed / slides);
        }
    }

    /// For each node mass and drag against what moves it. Drag is linearised about the velocities it begins with:
    /// across the line it grows with the power `1 + m`, along it and on loads with the square.
    fn laws(&mut self, dt: f64) -> Vec<Law> {
        let mut laws = std::mem::take(&mut self.laws);
        laws.clear();
        laws.resize(self.x.len(), Law::NONE);
        for (place, cut) in self.cuts.iter().enumerate() {
            let way = way(self.x[place + 1] - self.x[place]);
            let along_way = outer(way);
            let ends = [place, place + 1].map(|node| self.x[node].z);
            let wet = submerged(ends[0], ends[1]);
            let weight = 0.5 * cut.weight_wet * wet;
            for (node, depth, other) in [(place, ends[0], ends[1]), (place + 1, ends[1], ends[0])] {
                // What lies under water weighs on the ends by where its middle is.
                let share = wet
                    * if depth > other {
                        1.0 - 0.5 * wet
                    } else {
                        0.5 * wet
                    };
                let inertia = 0.5 * cut.mass / dt;
                let added = cut.added * share / dt;
                let v = self.v[node];
                let water = self.around[node];
                let past = v - water.velocity;
                let along = past.dot(way);
                let across = past - way * along;
                let speed = across.length();
                let (factor, power) = self.drag.across(speed * cut.reynolds);
                let power = 1.0 + power;
                let hold = share * cut.across * factor * speed;
                let slide = share * cut.along * along.abs();
                let law = &mut laws[node];
                law.a += DMat3::IDENTITY * (inertia + added) - along_way * added;
                // The water's own push, and that of the water carried along, by what it does of itself.
                let carried = v + water.acceleration * dt;
                law.b += v * inertia
                    + (carried - way * carried.dot(way) + water.acceleration * dt) * added;
                law.b.z += weight;
                let mut drag = DMat3::IDENTITY * hold + along_way * (2.0 * slide - hold);
                let mut held = way * (slide * along);
                if speed > STILL {
                    let n = across / speed;
                    drag += outer(n) * (power * hold);
                    held += across * (power * hold);
                }
                law.hold(drag, held, water.velocity);
            }
        }
        for (node, load) in self.loads.iter().enumerate() {
            if let Some(load) = load {
                let wet = self.x[node].z >= 0.0;
                load.weigh(dt, wet, self.v[node], self.around[node], &mut laws[node]);
            }
        }
        for (law, pulled) in laws.iter_mut().zip(&self.pulled) {
            law.b += pulled;
        }
        laws
    }

    /// One Newton step for the velocities and tensions at the end of the step, with the segments as they turn in
    /// it. Each node below the top is a block: its velocity and the tension of the segment above it. A segment
    /// that would have to push has no tension instead of a length. Returns the largest change of a velocity.
    fn newton(&mut self, dt: f64, laws: &[Law]) -> f64 {
        let count = self.cuts.len();
        let mut blocks = std::mem::take(&mut self.blocks);
        blocks.clear();
        let mut turned = Vec::with_capacity(count);
        for (place, cut) in self.cuts.iter().enumerate() {
            let after =
                self.x[place + 1] - self.x[place] + (self.v[place + 1] - self.v[place]) * dt;
            let span = after.length();
            let t = way(after);
            let tension = self.tension[place];
            let taut = tension + TAUT * (span - cut.length) > 0.0;
            let stiff = if taut {
                tension.max(0.0) * dt / span.max(1e-9)
            } else {
                0.0
            };
            let swing = (DMat3::IDENTITY - outer(t)) * stiff;
            turned.push((t, swing, taut, (span - cut.length) / dt));
        }
        // From the tail up: what is below a node is eliminated into its own block.
        for node in (1..=count).rev() {
            let (t, swing, taut, over) = turned[node - 1];
            let tension = self.tension[node - 1];
            let mut a = laws[node].a + swing;
            let mut r = laws[node].b - laws[node].a * self.v[node] - t * tension;
            if node < count {
                let (t_below, swing_below, ..) = turned[node];
                a += swing_below;
                r += t_below * self.tension[node];
            }
            let mut right = r.extend(0.0);
            // Taut, it keeps its length; slack, it has no tension.
            let (row, corner) = if taut { (t, 0.0) } else { (DVec3::ZERO, 1.0) };
            right.w = if taut { -over } else { -tension };
            let mut block = bordered(a, t, row, corner);
            if node < count {
                let (inverse, below): &(DMat4, DVec4) = &blocks[blocks.len() - 1];
                let upper = to_below(&turned[node]);
                let lower = to_above(&turned[node]);
                let share = upper * inverse;
                block -= share * lower;
                right -= share * below;
            }
            let inverse = if block.determinant() == 0.0 {
                DMat4::ZERO
            } else {
                block.inverse()
            };
            blocks.push((inverse, right));
        }
        // From the top down again: the top itself is held.
        let mut most = 0.0_f64;
        let mut above = DVec4::ZERO;
        for node in 1..=count {
            let (inverse, right) = &blocks[count - node];
            let change = if node == 1 {
                inverse * right
            } else {
                inverse * (right - to_above(&turned[node - 1]) * above)
            };
            let moved = change.truncate();
            most = most.max(moved.length());
            self.v[node] += moved;
            self.tension[node - 1] += change.w;
            above = change;
        }
        self.blocks = blocks;
        most
    }

    /// Kinetic energy and potential energy against the surface, J; added mass counts.
    pub fn energy(&self) -> f64 {
        let mut energy = 0.0;
        for (place, cut) in self.cuts.iter().enumerate() {
            for node in [place, place + 1] {
                let mass = cut.mass + cut.added;
                energy += 0.25 * mass * self.v[node].length_squared();
                energy -= 0.5 * cut.weight_wet * self.x[node].z;
            }
        }
        for (node, load) in self.loads.iter().enumerate() {
            if let Some(load) = load {
                energy += 0.5 * load.mass * self.v[node].length_squared();
                energy -= load.node.load.submerged_weight.0 * self.x[node].z;
            }
        }
        energy
    }

    /// Pull of the line on whatever holds its top, N.
    pub fn top_pull(&self) -> [f64; 3] {
        (way(self.x[1] - self.x[0]) * self.tension[0].max(0.0)).into()
    }

    /// Length of the whole chain as it lies, against the length of its line.
    pub fn stretch(&self) -> f64 {
        let lies: f64 = self
            .x
            .windows(2)
            .map(|two| (two[1] - two[0]).length())
            .sum();
        let line: f64 = self.cuts.iter().map(|cut| cut.length).sum();
        lies / line
    }
}

/// A segment in a Newton step: its direction, what holds it from swinging, whether it is taut, how fast it would
/// have to shorten.
type Turned = (DVec3, DMat3, bool, f64);

/// How the block of a node depends on the one below it, across the segment between them.
fn to_below((t, swing, ..): &Turned) -> DMat4 {
    bordered(-*swing, -*t, DVec3::ZERO, 0.0)
}

/// How the block of a node depends on the one above it.
fn to_above((t, swing, taut, _): &Turned) -> DMat4 {
    let row = if *taut { -*t } else { DVec3::ZERO };
    bordered(-*swing, DVec3::ZERO, row, 0.0)
}

/// A block of a node: what holds its velocity, with the column and the row of the tension above it.
fn bordered(held: DMat3, column: DVec3, row: DVec3, corner: f64) -> DMat4 {
    DMat4::from_cols(
        held.x_axis.extend(row.x),
        held.y_axis.extend(row.y),
        held.z_axis.extend(row.z),
        column.extend(corner),
    )
}

/// What is along a direction: `n nᵀ`.
fn outer(n: DVec3) -> DMat3 {
    DMat3::from_cols(n * n.x, n * n.y, n * n.z)
}

impl Load {
    /// Down-force of a plate or lip: across the motion, leaning to starboard by `lean`.
    fn down(&self, v: DVec3) -> DVec3 {
        let area = self.node.load.down_area.0;
        let level = v.x.hypot(v.y);
        if area == 0.0 || level < STILL {
            return DVec3::ZERO;
        }
        let ahead = DVec3::new(v.x / level, v.y / level, 0.0);
        let starboard = DVec3::new(-ahead.y, ahead.x, 0.0);
        let (sin, cos) = self.node.lean.sin_cos();
        let down = DVec3::new(0.0, 0.0, cos) + starboard * sin;
        // Turned with the motion, so that it does no work.
        let turned = down * level - ahead * down.dot(v);
        turned * (self.half_rho * area * v.length())
    }

    fn weigh(&self, dt: f64, wet: bool, v: DVec3, water: Around, law: &mut Law) {
        let inertia = self.mass / dt;
        law.a += DMat3::IDENTITY * inertia;
        law.b += v * inertia;
        if !wet {
            law.b.z += self.node.mass.0 * GRAVITY;
            return;
        }
        let past = v - water.velocity;
        let speed = past.length();
        let hold = self.half_rho * self.node.drag_area(MetresPerSecond(speed)).0 * speed;
        law.b.z += self.node.load.submerged_weight.0;
        law.b += self.down(past);
        law.b += water.acceleration * ((1.0 + SPHERE) * self.displaced);
        let mut drag = DMat3::IDENTITY * hold;
        let mut held = DVec3::ZERO;
        if speed > STILL {
            let n = past / speed;
            drag += outer(n) * hold;
            held = past * hold;
        }
        law.hold(drag, held, water.velocity);
    }
}

/// The direction of a piece; downwards for one without length.
fn way(between: DVec3) -> DVec3 {
    between.try_normalize().unwrap_or(DVec3::Z)
}

/// Share of a piece between two depths that lies under water.
fn submerged(a: f64, b: f64) -> f64 {
    let (upper, lower) = (a.min(b), a.max(b));
    if upper >= 0.0 {
        1.0
    } else if lower <= 0.0 {
        0.0
    } else {
        lower / (lower - upper)
    }
}

/// Nodes laid along a path by the lengths of the cuts; beyond its end straight on, without a path straight down.
fn laid(cuts: &[Cut], path: &[DVec3]) -> Vec<DVec3> {
    let first = path.first().copied().unwrap_or(DVec3::ZERO);
    let straight_down = [first, first + DVec3::Z];
    let path = if path.len() > 1 { path } else { &straight_down };
    let mut nodes = vec![first];
    let (mut leg, mut from) = (0, first);
    for cut in cuts {
        let mut left = cut.length;
        loop {
            let span = (path[leg + 1] - from).length();
            if span >= left || leg + 2 >= path.len() {
                from += way(path[leg + 1] - path[leg]) * left;
                break;
            }
            left -= span;
            leg += 1;
            from = path[leg];
        }
        nodes.push(from);
    }
    nodes
}
