//! `solve spread`: all lines behind the boat, straight or in a turn, in order and in motion.

use crate::rig;
use crate::setup::{SetupRequest, SpoolRequest, key};
use crate::{Refusal, Refused, Water};
use motilis_core::line::{Bottom, LineSetup, Surroundings};
use motilis_core::motion::{self, Recording};
use motilis_core::rig::{Practice, Rig};
use motilis_core::spread::{
    Current, DiveTable, Fault, Holder, Lure, MOST_LINES, Rod, Running, SetOut, Side, Spread,
    Stance, State, Towed, Turn,
};
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use serde::{Deserialize, Serialize};
use std::ops::ControlFlow;
use std::sync::Arc;
use utoipa::ToSchema;

/// A plug or spoon with its owner's dive table.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LureRequest {
    /// What it is called; comes back.
    pub name: String,
    /// Slowest speed at which it works.
    pub from_mps: f64,
    /// The favourite.
    pub favourite_mps: f64,
    /// The fastest.
    pub to_mps: f64,
    /// Pairs of line behind the release (the leader counted in) and depth, m.
    pub dives: Vec<[f64; 2]>,
    /// The line they were measured on; on another they are converted through the line model.
    pub line: Option<SpoolRequest>,
}

/// A rod with its line.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RodRequest {
    /// `P1` to `P8`, `S1` to `S8`, from the stern forwards.
    pub holder: String,
    /// `corner`, `inside` or `long`; corner when not given.
    pub stance: Option<String>,
    /// Length of the rod; 2.13 m when not given.
    pub rod_m: Option<f64>,
    /// Distance of its board from the keel, for set-ups that start from one.
    pub board_m: Option<f64>,
    /// A rig, as `solve rig` takes it; or a lure.
    pub rig: Option<rig::Request>,
    /// A lure; or a rig.
    pub lure: Option<LureRequest>,
    /// What it is rigged with.
    pub setup: SetupRequest,
    /// Line (or cable) out; not needed with a wanted depth.
    pub out_m: Option<f64>,
    /// Depth wanted: what is out is then worked out.
    pub wanted_m: Option<f64>,
}

/// A steady turn.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TurnRequest {
    /// Radius of the boat's circle, 5 to 2 000 m.
    pub radius_m: f64,
    /// `port` or `starboard`.
    pub to: String,
}

/// A current as it meets the run.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CurrentRequest {
    /// Along the run, positive with the boat on the way down.
    pub along_mps: f64,
    /// Across it; 0 when not given.
    #[serde(default)]
    pub across_mps: f64,
}

/// What the boat does.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum CourseRequest {
    /// Straight on.
    Straight,
    /// A circle.
    Circle {
        /// Its radius.
        radius_m: f64,
        /// To starboard instead of to port.
        #[serde(default)]
        starboard: bool,
    },
    /// S-turns.
    STurns {
        /// Radius of the bends.
        radius_m: f64,
        /// Angle away from the course.
        angle_deg: f64,
    },
    /// Faster and slower.
    Pulses {
        /// Share by which the speed rises and falls.
        share: f64,
        /// Seconds from pulse to pulse.
        every_s: f64,
    },
    /// Stop and go.
    StopAndGo {
        /// Seconds under way.
        go_s: f64,
        /// Seconds stopped.
        stop_s: f64,
    },
    /// Slowed down for a fish.
    FishOn {
        /// Share of the speed that is kept.
        share: f64,
    },
}

/// The spread in motion.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct MotionRequest {
    /// What the boat does.
    pub course: CourseRequest,
    /// For how long, 5 to 3 600 s.
    pub seconds: f64,
}

/// Rods behind one boat.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = SpreadRequest, example = json!({"speed_mps": 0.54, "water": {"temperature_c": 15}, "bottom_m": 12.0,
    "turn": {"radius_m": 60, "to": "port"}, "rods_allowed": 2,
    "rods": [
        {"holder": "P4", "board_m": 20, "wanted_m": 5,
         "setup": {"start": "board", "main": {"material": "nylon", "test_lb": 10}, "leader": {"material": "nylon", "test_lb": 12},
            "weight": {"kind": "clip_on", "mass_kg": 0.0283}, "lead_m": 1.8, "reel_m": 90},
         "rig": {"name": "two-hook", "kind": "crawler_harness", "mount": {"part": "line", "style": "nylon", "size": 17},
            "pieces": [{"part": "swivel", "style": "barrel", "size": 10}, {"part": "blade", "style": "indiana", "size": 4, "colour": "OR"},
                {"part": "bead", "style": "round", "size": 5, "count": 6}, {"part": "hook", "style": "octopus", "size": 2, "count": 2},
                {"part": "bait", "style": "crawler", "size": 140}]}},
        {"holder": "S1", "out_m": 15,
         "setup": {"start": "rod_tip", "tip_height_m": 1.5, "main": {"material": "nylon", "test_lb": 10},
            "leader": {"material": "nylon", "test_lb": 12}, "lead_m": 1.5, "reel_m": 90},
         "lure": {"name": "plug", "from_mps": 0.4, "favourite_mps": 0.7, "to_mps": 1.1, "dives": [[12, 1.5], [24, 2.7]]}}
    ]}))]
pub struct Request {
    /// Comes back.
    pub name: Option<String>,
    /// Speed through the water.
    pub speed_mps: f64,
    /// The water.
    pub water: Water,
    /// Depth of the bottom, if known.
    pub bottom_m: Option<f64>,
    /// The rods, 1 to 16.
    pub rods: Vec<RodRequest>,
    /// The turn they are in.
    pub turn: Option<TurnRequest>,
    /// The current on the run.
    pub current: Option<CurrentRequest>,
    /// Lines the rules allow.
    pub rods_allowed: Option<u32>,
    /// Whether the lines' places come back too.
    #[serde(default)]
    pub paths: bool,
    /// Sets it in motion.
    pub motion: Option<MotionRequest>,
}

/// Something wrong with a line.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FaultAnswer {
    /// `unsolved`, `stalled`, `rolling_over`, `too_slow`, `too_fast`, `outside_window`, `on_bottom`, `near`,
    /// `leader_too_long` or `too_many_rods`.
    pub kind: &'static str,
    /// Whether the line does not fish for it.
    pub fails: bool,
    /// The other line, for one that is near.
    pub line: Option<usize>,
    /// Why it cannot be solved.
    pub reason: Option<String>,
}

/// A line as it runs. Places: aft of the transom, to starboard of the keel, below the surface.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct LineAnswer {
    /// Its holder.
    pub holder: String,
    /// What it tows.
    pub towed: String,
    /// What is out; worked out for a wanted depth.
    pub out_m: f64,
    /// Speed of the water at it.
    pub speed_mps: f64,
    /// `works`, `stalled`, `rolling_over`, `too_slow` or `too_fast`.
    pub state: &'static str,
    /// Slowest usable speed.
    pub window_from_mps: f64,
    /// Fastest usable speed.
    pub window_to_mps: Option<f64>,
    /// Depth of the rig, were there no bottom.
    pub depth_m: f64,
    /// How far aft it runs.
    pub aft_m: f64,
    /// How far to starboard.
    pub starboard_m: f64,
    /// Line too much, on the bottom.
    pub too_much_m: Option<f64>,
    /// Turns of its blade a second.
    pub turns_per_s: Option<f64>,
    /// How far its board trails the rod tip.
    pub lag_m: Option<f64>,
    /// Row of its board.
    pub row: u8,
    /// What is wrong with it, the worst first.
    pub faults: Vec<FaultAnswer>,
    /// Its places from the surface down to the rig.
    pub path: Option<Vec<[f64; 3]>>,
}

/// Two lines that come within 1.5 m.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct NearAnswer {
    /// The two, counted from 0.
    pub lines: [usize; 2],
    /// Their least distance.
    pub distance_m: f64,
}

/// The speed that suits most.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SharedAnswer {
    /// The speed.
    pub at_mps: f64,
    /// Speeds around it at which the same lines are inside their windows.
    pub from_mps: f64,
    /// Their upper end.
    pub to_mps: f64,
    /// Lines inside their windows.
    pub inside: Vec<usize>,
    /// Lines outside.
    pub outside: Vec<usize>,
}

/// The order of practice.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct OrderAnswer {
    /// Lines as they are set out.
    pub set_out: Vec<usize>,
    /// Lines as they are brought in.
    pub bring_in: Vec<usize>,
    /// Boards that should run elsewhere: line and distance.
    pub moves: Vec<(usize, f64)>,
    /// For each line those its fish would cross.
    pub crossed: Vec<Vec<usize>>,
}

/// Speeds over ground that keep the blades the same on both legs.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct LegsAnswer {
    /// Against the current.
    pub up_mps: f64,
    /// With it.
    pub down_mps: f64,
    /// Angle into a current from the side.
    pub crab_deg: f64,
}

/// An instant of the motion.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FrameAnswer {
    /// Seconds from the start.
    pub at_s: f64,
    /// Speed of the boat.
    pub speed_mps: f64,
    /// Heading away from the first one, to starboard.
    pub heading_deg: f64,
    /// Depth of each rig.
    pub depths_m: Vec<f64>,
    /// Speed of the water at each rig.
    pub speeds_mps: Vec<f64>,
    /// State of each.
    pub states: Vec<&'static str>,
    /// Whether each lies on the bottom.
    pub on_bottom: Vec<bool>,
    /// Lines that are near.
    pub near: Vec<NearAnswer>,
}

/// A spread as it runs.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = SpreadAnswer)]
pub struct Answer {
    /// As it was given.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// The lines, as the rods were given.
    pub lines: Vec<LineAnswer>,
    /// Lines that come near, the nearest first.
    pub near: Vec<NearAnswer>,
    /// One speed for all.
    pub shared: SharedAnswer,
    /// The order of practice.
    pub order: OrderAnswer,
    /// Smallest safe turn to port; null when there is none.
    pub safe_port_m: Option<f64>,
    /// Smallest safe turn to starboard.
    pub safe_starboard_m: Option<f64>,
    /// Both legs of the run, with a current.
    pub legs: Option<LegsAnswer>,
    /// The motion, a frame every half second.
    pub frames: Option<Vec<FrameAnswer>>,
}

impl RodRequest {
    fn rod(&self, path: &str) -> Result<Rod, Refusal> {
        let holder = Holder::from_key(&self.holder).ok_or_else(|| {
            Refusal::new(
                format!("{path}.holder"),
                format!("holder {:?} is not one of P1 to P8, S1 to S8", self.holder),
            )
        })?;
        let stance = key(
            &format!("{path}.stance"),
            self.stance.as_deref().unwrap_or("corner"),
            Stance::from_key,
            Stance::ALL,
            Stance::key,
        )?;
        let towed = match (&self.rig, &self.lure) {
            (Some(rig), None) => Towed::Rig(Arc::new(rig_of(rig, path)?)),
            (None, Some(lure)) => Towed::Lure(Arc::new(lure.lure(&format!("{path}.lure"))?)),
            _ => {
                return Err(Refusal::new(
                    format!("{path}.rig"),
                    "a rod needs a rig or a lure, one of the two",
                ));
            }
        };
        let setup: LineSetup = self.setup.setup(&format!("{path}.setup"))?;
        let (out, wanted) = match (self.out_m, self.wanted_m) {
            (Some(out), wanted) => (out, wanted.unwrap_or(1.0)),
            (None, Some(wanted)) => (10.0, wanted),
            (None, None) => {
                return Err(Refusal::new(
                    format!("{path}.out_m"),
                    "a rod needs out_m, or wanted_m to work it out from",
                ));
            }
        };
        Ok(Rod {
            holder,
            stance,
            length: Metres(self.rod_m.unwrap_or(2.13)),
            board: self.board_m.map(Metres),
            setup: Arc::new(setup),
            towed,
            out: Metres(out),
            wanted: Metres(wanted),
        })
    }
}

fn rig_of(request: &rig::Request, path: &str) -> Result<Rig, Refusal> {
    let under = |refusal: Refusal| refusal.under(&format!("{path}.rig"));
    let stack = request.stack().map_err(under)?;
    let name = request.name.clone().unwrap_or_default();
    Rig::new(name, stack).map_err(|error| under(error.into()))
}

impl LureRequest {
    fn lure(&self, path: &str) -> Result<Lure, Refusal> {
        let under = |error: motilis_core::Error| Refusal::from(error).under(path);
        let pairs = self
            .dives
            .iter()
            .map(|[out, depth]| (Metres(*out), Metres(*depth)));
        let dives = DiveTable::new(pairs.collect()).map_err(under)?;
        let speeds = Practice {
            from: MetresPerSecond(self.from_mps),
            favourite: MetresPerSecond(self.favourite_mps),
            to: MetresPerSecond(self.to_mps),
        };
        let line = match &self.line {
            Some(line) => Some(line.stock(&format!("{path}.line"))?),
            None => None,
        };
        let lure = Lure::new(self.name.clone(), speeds, dives).map_err(under)?;
        Ok(lure.measured_on(line))
    }
}

impl From<CourseRequest> for motion::Course {
    fn from(course: CourseRequest) -> Self {
        match course {
            CourseRequest::Straight => Self::Straight,
            CourseRequest::Circle {
                radius_m,
                starboard,
            } => Self::Circle {
                radius: Metres(radius_m),
                to: if starboard {
                    Side::Starboard
                } else {
                    Side::Port
                },
            },
            CourseRequest::STurns {
                radius_m,
                angle_deg,
            } => Self::STurns {
                radius: Metres(radius_m),
                angle_deg,
            },
            CourseRequest::Pulses { share, every_s } => Self::Pulses { share, every_s },
            CourseRequest::StopAndGo { go_s, stop_s } => Self::StopAndGo { go_s, stop_s },
            CourseRequest::FishOn { share } => Self::FishOn { share },
        }
    }
}

/// Answers one request.
///
/// # Errors
/// [`Refusal`] with the field.
#[utoipa::path(post, path = "/api/v1/solve/spread", tag = "solve", request_body = Request, responses(
    (status = 200, description = "Every line as it runs", body = Answer),
    (status = 422, description = "The field that is wrong, and why", body = Refused),
))]
pub fn solve(request: Request) -> Result<Answer, Refusal> {
    let surroundings = Surroundings {
        water: request.water.properties()?,
        temperature: Celsius(request.water.temperature_c.unwrap_or(15.0)),
        bottom: request.bottom_m.map(Metres),
    };
    if request.rods.is_empty() || request.rods.len() > MOST_LINES {
        return Err(Refusal::new(
            "rods",
            format!(
                "a spread has between 1 and {MOST_LINES} lines, not {}",
                request.rods.len()
            ),
        ));
    }
    let mut rods = Vec::with_capacity(request.rods.len());
    for (place, rod) in request.rods.iter().enumerate() {
        rods.push(rod.rod(&format!("rods[{place}]"))?);
    }
    let mut spread = Spread {
        speed: MetresPerSecond(request.speed_mps),
        rods,
    };
    spread.check(&surroundings)?;
    set(&mut spread, &request.rods, &surroundings)?;
    let turn = match &request.turn {
        None => None,
        Some(turn) => Some(Turn {
            radius: Metres(turn.radius_m),
            to: key("turn.to", &turn.to, Side::from_key, Side::ALL, Side::key)?,
        }),
    };
    let running = spread.running(&surroundings, turn)?;
    let order = spread.order(&running);
    let shared = spread.shared_speed(&surroundings)?;
    let safe = |to| -> Result<Option<f64>, Refusal> {
        let safe = spread.safe_turn(&surroundings, to)?;
        Ok(safe.radius.map(|radius| radius.0))
    };
    let legs = match request.current {
        None => None,
        Some(current) => {
            let along = MetresPerSecond(current.along_mps);
            let legs = Current::new(along, MetresPerSecond(current.across_mps))
                .and_then(|current| current.legs(spread.speed))
                .map_err(|error| Refusal::new("current.along_mps", error.to_string()))?;
            Some(LegsAnswer {
                up_mps: legs.up.0,
                down_mps: legs.down.0,
                crab_deg: legs.crab_deg,
            })
        }
    };
    let frames = match &request.motion {
        None => None,
        Some(motion) => Some(frames(&towed(&spread, &surroundings, motion)?)),
    };
    Ok(Answer {
        lines: (0..spread.rods.len())
            .map(|place| line(&spread, &running, place, &request))
            .collect(),
        near: running
            .tangles
            .iter()
            .map(|tangle| near(tangle.lines, tangle.distance))
            .collect(),
        shared: SharedAnswer {
            at_mps: shared.at.0,
            from_mps: shared.from.0,
            to_mps: shared.to.0,
            inside: shared.inside,
            outside: shared.outside,
        },
        order: OrderAnswer {
            moves: order
                .moves
                .iter()
                .map(|way| (way.rod, way.board.0))
                .collect(),
            set_out: order.set_out,
            bring_in: order.bring_in,
            crossed: order.crossed,
        },
        safe_port_m: safe(Side::Port)?,
        safe_starboard_m: safe(Side::Starboard)?,
        legs,
        frames,
        name: request.name,
    })
}

/// Lets out what the wanted depths need, on lines whose length was not given.
fn set(
    spread: &mut Spread,
    asked: &[RodRequest],
    surroundings: &Surroundings,
) -> Result<(), Refusal> {
    for (place, rod) in asked.iter().enumerate() {
        if rod.out_m.is_some() {
            continue;
        }
        let cannot = |why: String| Refusal::new(format!("rods[{place}].wanted_m"), why);
        let answer = spread
            .out_for(place, surroundings)
            .map_err(|error| cannot(error.to_string()))?;
        let out = match answer {
            SetOut::Out(out) => out,
            SetOut::BelowBottom { bottom } => {
                return Err(cannot(format!(
                    "the bottom lies at {:.2} m; choose less",
                    bottom.0
                )));
            }
            SetOut::TooShallow { least } => {
                return Err(cannot(format!(
                    "it runs at {:.2} m or deeper; choose more",
                    least.0
                )));
            }
            SetOut::TooDeep { deepest, .. } => {
                return Err(cannot(format!(
                    "it runs no deeper than {:.2} m; choose less, or more weight",
                    deepest.0
                )));
            }
        };
        for other in 0..asked.len() {
            if other == place || spread.share_a_cable(place, other) {
                spread.rods[other].out = out;
            }
        }
    }
    Ok(())
}

fn towed(
    spread: &Spread,
    surroundings: &Surroundings,
    asked: &MotionRequest,
) -> Result<Recording, Refusal> {
    let scene = motion::Scene {
        spread,
        surroundings,
        course: asked.course.into(),
        seconds: asked.seconds,
    };
    let recording = motion::record(&scene, |_| ControlFlow::Continue(()))
        .map_err(|error| Refusal::from(error).under("motion"))?;
    Ok(recording.expect("nobody stops it"))
}

fn near((a, b): (usize, usize), distance: Metres) -> NearAnswer {
    NearAnswer {
        lines: [a, b],
        distance_m: distance.0,
    }
}

fn state(state: State) -> &'static str {
    match state {
        State::Works => "works",
        State::Stalled => "stalled",
        State::RollingOver => "rolling_over",
        State::TooSlow => "too_slow",
        State::TooFast => "too_fast",
    }
}

fn fault(fault: &Fault) -> FaultAnswer {
    let (kind, line, reason) = match fault {
        Fault::Unsolved(error) => ("unsolved", None, Some(error.to_string())),
        Fault::Stalled { .. } => ("stalled", None, None),
        Fault::RollingOver { .. } => ("rolling_over", None, None),
        Fault::TooSlow { .. } => ("too_slow", None, None),
        Fault::TooFast { .. } => ("too_fast", None, None),
        Fault::OutsideWindow => ("outside_window", None, None),
        Fault::Trips(_) => ("trips", None, None),
        Fault::OnBottom { .. } => ("on_bottom", None, None),
        Fault::Near { other, .. } => ("near", Some(*other), None),
        Fault::LeaderTooLong { .. } => ("leader_too_long", None, None),
        Fault::TooManyRods { .. } => ("too_many_rods", None, None),
    };
    FaultAnswer {
        kind,
        fails: fault.gravity() == motilis_core::spread::Gravity::Fails,
        line,
        reason,
    }
}

fn line(spread: &Spread, running: &Running, place: usize, request: &Request) -> LineAnswer {
    let (rod, line) = (&spread.rods[place], &running.lines[place]);
    LineAnswer {
        holder: rod.holder.to_string(),
        towed: rod.towed.name().to_owned(),
        out_m: rod.out.0,
        speed_mps: line.speed.0,
        state: state(line.state),
        window_from_mps: line.window.from.0,
        window_to_mps: line.window.to.map(|to| to.0),
        depth_m: line.rig[2],
        aft_m: line.rig[0],
        starboard_m: line.rig[1],
        too_much_m: match line.bottom {
            Bottom::Dragging { too_much, .. } => Some(too_much.0),
            Bottom::Clear(_) | Bottom::Unknown => None,
        },
        turns_per_s: line.blade.map(|blade| blade.turns.0),
        lag_m: line.lag.map(|lag| lag.0),
        row: line.row,
        faults: spread
            .faults(running, place, request.rods_allowed)
            .iter()
            .map(fault)
            .collect(),
        path: request.paths.then(|| line.path.clone()),
    }
}

fn frames(recording: &Recording) -> Vec<FrameAnswer> {
    recording
        .frames
        .iter()
        .map(|frame| FrameAnswer {
            at_s: frame.at_s,
            speed_mps: frame.speed.0,
            heading_deg: frame.heading_deg,
            depths_m: frame.lines.iter().map(|line| line.depth.0).collect(),
            speeds_mps: frame.lines.iter().map(|line| line.speed.0).collect(),
            states: frame.lines.iter().map(|line| state(line.state)).collect(),
            on_bottom: frame.lines.iter().map(|line| line.on_bottom).collect(),
            near: frame
                .near
                .iter()
                .map(|one| near(one.lines, one.distance))
                .collect(),
        })
        .collect()
}
