//! `solve river`: where a cast goes in a river, the best cast for a lie, the slowest retrieve, a grid of casts.

use crate::rig::{self, keyed};
use crate::setup::{SpoolRequest, WeightRequest};
use crate::{Refusal, Refused, Water};
use motilis_core::motion::{BladeDrag, NodeLoad};
use motilis_core::rig::Rig;
use motilis_core::river::{
    self, Act, Angler, Cast, EXPONENT, Ended, Fineness, Held, Moment, Path, Plan, Scene, School,
    Section, Spool, Station, Tackle, Thrown, Zone,
};
use motilis_core::towline::{LineDrag, PointLoad, STRUM, Segment};
use motilis_core::units::{
    Celsius, Kilograms, KilogramsPerCubicMetre, Metres, MetresPerSecond, Newtons, NewtonsPerMetre,
    SquareMetres, SquareMetresPerSecond,
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Depth and surface speed across a run.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StationRequest {
    /// Distance from the angler's bank, 0 to 200 m.
    pub offset_m: f64,
    /// Depth of the water, 0.05 to 15 m.
    pub depth_m: f64,
    /// Speed of its surface, 0 to 4 m/s.
    pub surface_mps: f64,
}

/// The water of a run.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RunRequest {
    /// Three to seven stations, in order from the bank.
    pub stations: Vec<StationRequest>,
    /// Root `m` of the power law of speed over depth, 2 to 12; 6 when not given.
    pub profile_exponent: Option<f64>,
    /// How high weed stands over the bed, m; 0 when not given.
    pub growth_m: Option<f64>,
}

/// What is cast, by its figures.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LureRequest {
    /// Weight under water, N.
    pub submerged_weight_n: f64,
    /// Drag coefficient times area of all of it, its blade turning, m².
    pub drag_area_m2: f64,
    /// Its mass with the water it carries along, kg; that of a sphere as dense as brass when not given.
    pub virtual_mass_kg: Option<f64>,
    /// Speed through the water at which its blade starts, m/s; without it there is no blade.
    pub blade_start_mps: Option<f64>,
    /// Speed at which it rolls over, m/s.
    pub roll_over_mps: Option<f64>,
    /// Drag area while the blade hangs, m²; `drag_area_m2` when not given.
    pub hanging_drag_area_m2: Option<f64>,
}

/// A line by its figures.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LineRequest {
    /// Diameter, above 0 and at most 0.05 m.
    pub diameter_m: f64,
    /// Weight under water per metre, N/m; negative for line that floats.
    pub submerged_weight_n_per_m: f64,
    /// Strumming factor, above 0 and at most 10; 1.3 when not given.
    pub strum: Option<f64>,
    /// Mass of a metre with the water it carries along, kg/m; that of a cylinder across itself when not given.
    pub virtual_kg_per_m: Option<f64>,
}

/// A piece of line at the end of the main line.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BumperRequest {
    /// What it is.
    pub line: SpoolRequest,
    /// Its length, 0 to 10 m.
    pub length_m: f64,
}

/// A weight up the line.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct UpTheLineRequest {
    /// The weight.
    pub weight: WeightRequest,
    /// The leader behind it.
    pub leader: SpoolRequest,
    /// Its length, above 0 and at most 60 m.
    pub lead_m: f64,
}

/// Rod, reel and where one stands.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AnglerRequest {
    /// How far out from the bank, 0 to 100 m.
    pub stand_m: f64,
    /// Length of the rod, 1 to 5 m.
    pub rod_m: f64,
    /// The farthest cast, 4 to 80 m.
    pub longest_m: f64,
    /// Line on the reel, 10 to 500 m.
    pub on_reel_m: f64,
    /// Line that a turn of the handle takes in, 0.2 to 1.5 m.
    pub take_up_m: f64,
}

/// A cast.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CastRequest {
    /// From straight downstream: 45 down, 90 square, 135 up, 180 straight up.
    pub angle_deg: f64,
    /// How far it goes from the tip (with an angler: from the stand), 2 to 80 m.
    pub distance_m: f64,
    /// With an angler: `high`, `level` or `low`; level when not given.
    pub held: Option<String>,
    /// With an angler: seconds it is let sink; 0 when not given.
    #[serde(default)]
    pub sink_seconds: f64,
    /// With an angler: speed of the reel after that; 0 (held) when not given.
    #[serde(default)]
    pub reel_mps: f64,
    /// With an angler: whether the line is mended as it lands.
    #[serde(default)]
    pub mend: bool,
    /// With an angler: whether the tip follows the swing.
    #[serde(default)]
    pub follow: bool,
    /// With an angler: when the tip goes up, seconds after it landed.
    pub lift_seconds: Option<f64>,
}

/// What is done with rod and reel for a while.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ActRequest {
    /// For how long, above 0 and at most 120 s.
    pub seconds: f64,
    /// Speed at which line is taken in, 0 to 3 m/s; 0 when not given.
    #[serde(default)]
    pub reel_mps: f64,
    /// Height of the tip at its end, 0 to 6 m; as it was when not given.
    pub tip_height_m: Option<f64>,
    /// How far down and across the tip goes meanwhile, m.
    pub tip_by_m: Option<[f64; 2]>,
}

/// Where fish are looked for; within 0.3 m of the bed when nothing is given.
#[derive(Debug, Clone, Copy, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct ZoneRequest {
    /// Within 0.3 m of this depth.
    pub depth_m: Option<f64>,
    /// Within 0.15 m of this height over bed or weed.
    pub over_m: Option<f64>,
    /// Within reach of this place: downstream, across, height (negative under water).
    pub lie_m: Option<[f64; 3]>,
    /// How far a fish moves; 1 m when not given.
    pub reach_m: Option<f64>,
}

/// A cast into a run.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = RiverRequest, example = json!({
    "run": {"stations": [
        {"offset_m": 0, "depth_m": 0.4, "surface_mps": 0.4},
        {"offset_m": 10, "depth_m": 1.8, "surface_mps": 1.3},
        {"offset_m": 20, "depth_m": 0.9, "surface_mps": 0.8}
    ]},
    "water": {"temperature_c": 9}, "tip_height_m": 1.5,
    "cast": {"angle_deg": 120, "distance_m": 12},
    "acts": [{"seconds": 2}, {"seconds": 10, "reel_mps": 0.5}],
    "lure": {"submerged_weight_n": 0.06, "drag_area_m2": 3.5e-4, "blade_start_mps": 0.35},
    "line": {"diameter_m": 0.00028, "submerged_weight_n_per_m": 8.6e-5},
    "seconds": 12
}))]
pub struct Request {
    /// Comes back with the answer.
    pub name: Option<String>,
    /// The run; or its figures here.
    pub run: Option<RunRequest>,
    /// Without `run`: its stations.
    pub stations: Option<Vec<StationRequest>>,
    /// Without `run`: the root of its power law.
    pub profile_exponent: Option<f64>,
    /// The water; or its density and viscosity here.
    pub water: Option<Water>,
    /// Without `water`: its density, 900 to 1 200 kg/m³.
    pub density_kg_m3: Option<f64>,
    /// Without `water`: its kinematic viscosity, m²/s; that of 10 °C when not given.
    pub kinematic_viscosity_m2_s: Option<f64>,
    /// Height of the tip over the water, 0 to 6 m; it is over the bank's edge. Not with an angler.
    pub tip_height_m: Option<f64>,
    /// Who casts, from where; the tip follows from it.
    pub angler: Option<AnglerRequest>,
    /// The cast, by angle and distance.
    pub cast: Option<CastRequest>,
    /// Where the lure begins: downstream, across, height (negative under water). Instead of `cast`.
    pub start_m: Option<[f64; 3]>,
    /// Line that is out then; straight from the tip when not given.
    pub line_m: Option<f64>,
    /// Line on the reel, 10 to 500 m; no cast is longer.
    pub on_reel_m: Option<f64>,
    /// What is done, one after the other; then the line is held. Not with an angler.
    pub acts: Option<Vec<ActRequest>>,
    /// Instead of acts: line is taken in at this speed all the time, 0 to 3 m/s.
    pub reel_mps: Option<f64>,
    /// What is cast, by its figures.
    pub lure: Option<LureRequest>,
    /// What is cast, as a rig.
    pub rig: Option<rig::Request>,
    /// The line, by its figures; without line and spool it is straight, weighs nothing and is not held.
    pub line: Option<LineRequest>,
    /// The line, off a spool.
    pub spool: Option<SpoolRequest>,
    /// A bumper at its end.
    pub bumper: Option<BumperRequest>,
    /// A weight up the line.
    pub up_the_line: Option<UpTheLineRequest>,
    /// How long it is followed, above 0 and at most 120 s; 30 when not given.
    pub seconds: Option<f64>,
    /// Ask for the path at so many equal steps of the time, 1 to 2 000; 50 when not given.
    pub rows: Option<usize>,
    /// Where fish are looked for.
    #[serde(default)]
    pub zone: ZoneRequest,
    /// With an angler, `best` (the cast that keeps it in the zone the longest), `slowest` (the slowest retrieve with which
    /// the blade turns) or `grid` (nine casts).
    pub ask: Option<String>,
    /// Of a grid: `upstream`, `down_and_across` or `both`; both when not given.
    pub school: Option<String>,
}

/// A row of a path: seconds, downstream, across, height (negative under water), speed through the water, what the blade does.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Row(
    pub f64,
    pub f64,
    pub f64,
    pub f64,
    pub f64,
    pub &'static str,
);

/// A time on the bed.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = BedTouch)]
pub struct TouchAnswer {
    /// Seconds after the cast landed.
    pub at_s: f64,
    /// For how long.
    pub seconds: f64,
    /// Where: downstream, across, height.
    pub place_m: [f64; 3],
}

/// A cast as it was found.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct PlanAnswer {
    /// From straight downstream.
    pub angle_deg: f64,
    /// How far from the stand.
    pub distance_m: f64,
    /// `high`, `level` or `low`.
    pub held: &'static str,
    /// Seconds it is let sink.
    pub sink_seconds: f64,
    /// Speed of the reel.
    pub reel_mps: f64,
    /// The same in turns of the handle a second.
    pub turns_per_s: f64,
    /// When the tip goes up.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lift_seconds: Option<f64>,
}

/// A cast of a grid.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct GridAnswer {
    /// `up`, `square` or `down`.
    pub way: &'static str,
    /// `close`, `middle` or `far`.
    pub far: &'static str,
    /// How far it goes.
    pub distance_m: f64,
    /// How long it takes.
    pub seconds: f64,
    /// Seconds in the zone.
    pub zone_s: f64,
    /// Seconds on the bed.
    pub bed_s: f64,
}

/// Where the lure goes.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = RiverAnswer)]
pub struct Answer {
    /// The request's name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// Its path.
    #[schema(value_type = Vec<Vec<Object>>)]
    pub path: Vec<Row>,
    /// Seconds in the zone with the blade turning, off the bed.
    pub zone_s: f64,
    /// The deepest it gets.
    pub deepest_m: f64,
    /// Each time it lay on the bed.
    pub touches: Vec<TouchAnswer>,
    /// Share of its time with the blade turning.
    pub turning_share: f64,
    /// `time`, `at_the_rod` or `at_rest`.
    pub ended: &'static str,
    /// Discharge of the section by its mean depths and speeds, 0.85 on the surface.
    pub discharge_m3s: f64,
    /// Speed at which the lure sinks on a slack line.
    pub sink_speed_mps: f64,
    /// The cast that was found, for `best`; null where nothing can be cast.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<PlanAnswer>)]
    pub best: Option<Option<PlanAnswer>>,
    /// The slowest retrieve, for `slowest`; null where no hand is fast enough.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<f64>)]
    pub slowest_mps: Option<Option<f64>>,
    /// The casts of a `grid`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub grid: Option<Vec<GridAnswer>>,
}

const ROWS: usize = 50;
const MOST_ROWS: usize = 2_000;
const TEN_DEGREES: Celsius = Celsius(10.0);
const BRASS: f64 = 8_500.0;

impl Request {
    fn section(&self) -> Result<Section, Refusal> {
        let (stations, exponent, growth, path) = match (&self.run, &self.stations) {
            (Some(run), None) => (
                &run.stations,
                run.profile_exponent,
                run.growth_m.unwrap_or(0.0),
                "run",
            ),
            (None, Some(stations)) => (stations, self.profile_exponent, 0.0, ""),
            _ => {
                return Err(Refusal::new(
                    "run",
                    "give the run once: as `run` with its stations, or `stations` here",
                ));
            }
        };
        motilis_core::fields::GROWTH.check(growth)?;
        let stations = stations.iter().map(|one| Station {
            offset: Metres(one.offset_m),
            depth: Metres(one.depth_m),
            surface: MetresPerSecond(one.surface_mps),
        });
        let section =
            Section::new(stations.collect(), exponent.unwrap_or(EXPONENT)).map_err(|error| {
                match path {
                    "" => Refusal::from(error),
                    path => Refusal::from(error.under(path)),
                }
            })?;
        Ok(section.grown(Metres(growth)))
    }

    fn water(&self) -> Result<(motilis_core::water::Water, Celsius), Refusal> {
        if let Some(water) = &self.water {
            let at = water.temperature_c.map_or(TEN_DEGREES, Celsius);
            return Ok((water.properties()?, at));
        }
        let usual = motilis_core::water::Water::fresh(TEN_DEGREES)?;
        let density = self.density_kg_m3.unwrap_or(usual.density().0);
        let viscosity = self.kinematic_viscosity_m2_s.unwrap_or(usual.viscosity().0);
        let water = motilis_core::water::Water::measured(
            KilogramsPerCubicMetre(density),
            SquareMetresPerSecond(viscosity),
        )?;
        Ok((water, TEN_DEGREES))
    }

    fn spool(&self) -> Result<Option<Spool>, Refusal> {
        let Some(spool) = &self.spool else {
            return Ok(None);
        };
        let bumper = match &self.bumper {
            Some(bumper) => {
                let length = motilis_core::fields::BUMPER
                    .range
                    .check("bumper.length_m", bumper.length_m)?;
                Some((bumper.line.stock("bumper.line")?, Metres(length)))
            }
            None => None,
        };
        let weight = match &self.up_the_line {
            Some(up) => {
                let lead = motilis_core::fields::LEAD
                    .range
                    .check("up_the_line.lead_m", up.lead_m)?;
                Some((
                    up.weight.weight("up_the_line.weight")?,
                    up.leader.stock("up_the_line.leader")?,
                    Metres(lead),
                ))
            }
            None => None,
        };
        Ok(Some(Spool {
            main: spool.stock("spool")?,
            bumper,
            weight,
        }))
    }

    fn tackle(&self, water: &motilis_core::water::Water, at: Celsius) -> Result<Tackle, Refusal> {
        let lure = match (&self.lure, &self.rig) {
            (Some(lure), None) => lure.load()?,
            (None, Some(rig)) => {
                let stack = rig.stack().map_err(|refusal| refusal.under("rig"))?;
                let rig = Rig::new(rig.name.as_deref().unwrap_or("rig"), stack)
                    .map_err(|error| error.under("rig"))?;
                NodeLoad::of_cast(&rig, water, at)?
            }
            _ => {
                return Err(Refusal::new(
                    "lure",
                    "give what is cast once: as `lure` with its figures, or as `rig`",
                ));
            }
        };
        if self.line.is_some() && self.spool.is_some() {
            return Err(Refusal::new(
                "line",
                "give the line once: as `line` with its figures, or as `spool`",
            ));
        }
        if let Some(spool) = self.spool()? {
            return Ok(spool.hang(lure, water));
        }
        if self.bumper.is_some() || self.up_the_line.is_some() {
            return Err(Refusal::new(
                "spool",
                "a bumper or a weight up the line hangs on a line off a spool; give `spool`",
            ));
        }
        let main = self.line.as_ref().map(LineRequest::segment).transpose()?;
        Ok(Tackle {
            lure,
            leader: None,
            bumper: None,
            main,
            virtual_mass: self.line.and_then(|line| line.virtual_kg_per_m),
            drag: LineDrag {
                strum: self.line.and_then(|line| line.strum).unwrap_or(STRUM),
                ..LineDrag::default()
            },
        })
    }

    fn zone(&self) -> Result<Zone, Refusal> {
        let zone = &self.zone;
        let given = [
            zone.depth_m.is_some(),
            zone.over_m.is_some(),
            zone.lie_m.is_some(),
        ];
        if given.iter().filter(|given| **given).count() > 1 {
            return Err(Refusal::new(
                "zone",
                "a zone is one of `depth_m`, `over_m` and `lie_m`; leave the others out",
            ));
        }
        let finite = |field: &str, value: f64| {
            if value.is_finite() {
                Ok(value)
            } else {
                Err(Refusal::new(
                    field,
                    format!("{field} is not a number; give metres"),
                ))
            }
        };
        if let Some(depth) = zone.depth_m {
            return Ok(Zone::Depth(Metres(finite("zone.depth_m", depth)?)));
        }
        if let Some(over) = zone.over_m {
            return Ok(Zone::Over(Metres(finite("zone.over_m", over)?)));
        }
        let Some([x, y, z]) = zone.lie_m else {
            return Ok(Zone::Bed);
        };
        let reach = motilis_core::fields::LIE_REACH
            .range
            .check("zone.reach_m", zone.reach_m.unwrap_or(1.0))?;
        Ok(Zone::Lie {
            place: [
                finite("zone.lie_m", x)?,
                finite("zone.lie_m", y)?,
                -finite("zone.lie_m", z)?,
            ],
            reach: Metres(reach),
        })
    }

    /// The cast of tip and acts.
    fn cast(&self) -> Result<Cast, Refusal> {
        let Some(height) = self.tip_height_m else {
            return Err(Refusal::new(
                "tip_height_m",
                "say from where: `tip_height_m` over the water, or an `angler`",
            ));
        };
        let tip = [0.0, 0.0, -height];
        let start = match (&self.cast, self.start_m) {
            (Some(cast), None) => cast.thrown()?.lands(tip),
            (None, Some([x, y, z])) => [x, y, -z],
            _ => {
                return Err(Refusal::new(
                    "cast",
                    "say once where it lands: `cast` with angle and distance, or `start_m`",
                ));
            }
        };
        let seconds = self.seconds.unwrap_or(river::FOLLOWED);
        let acts = match (&self.acts, self.reel_mps) {
            (Some(_), Some(_)) => {
                return Err(Refusal::new(
                    "reel_mps",
                    "say once what is done: `acts`, or one `reel_mps` for all the time",
                ));
            }
            (Some(acts), None) => acts_of(acts, tip),
            (None, reel) => {
                motilis_core::fields::CAST_SECONDS.check(seconds)?;
                vec![Act::reel(seconds, MetresPerSecond(reel.unwrap_or(0.0)))]
            }
        };
        if let Some(on_reel) = self.on_reel_m {
            motilis_core::fields::ON_REEL.check(on_reel)?;
            let out = self.line_m.unwrap_or_else(|| {
                let parts = [start[0], start[1], start[2] + height];
                parts.iter().map(|part| part * part).sum::<f64>().sqrt()
            });
            if out > on_reel {
                return Err(Refusal::new(
                    "on_reel_m",
                    format!(
                        "a cast of {out:.1} m is longer than the {on_reel:.1} m of line on the reel; throw shorter, or fill the reel"
                    ),
                ));
            }
        }
        Ok(Cast {
            tip,
            start,
            line: self.line_m.map(Metres),
            acts,
            seconds,
            until_rest: false,
        })
    }

    fn angler(&self, section: &Section) -> Option<Angler> {
        let angler = self.angler?;
        let stand = Metres(angler.stand_m);
        Some(Angler {
            stand,
            knee: Angler::knee(section, stand),
            rod: Metres(angler.rod_m),
            longest: Metres(angler.longest_m),
            on_reel: Metres(self.on_reel_m.unwrap_or(angler.on_reel_m)),
            take_up: Metres(angler.take_up_m),
        })
    }

    fn plan(&self) -> Result<Plan, Refusal> {
        let Some(cast) = &self.cast else {
            return Err(Refusal::new(
                "cast",
                "say how it is cast: `cast` with angle and distance",
            ));
        };
        let held = cast.held.as_ref();
        let held = held.map_or(Ok(Held::Level), |word| {
            keyed(
                "cast.held",
                word,
                Held::from_key,
                Held::ALL.iter().map(|held| held.key()),
            )
        })?;
        Ok(Plan {
            thrown: cast.thrown()?,
            held,
            sink: cast.sink_seconds,
            reel: MetresPerSecond(cast.reel_mps),
            mend: cast.mend,
            follow: cast.follow,
            lift: cast.lift_seconds,
        })
    }
}

/// Acts with the tip from where it is.
fn acts_of(acts: &[ActRequest], tip: [f64; 3]) -> Vec<Act> {
    let mut now = tip;
    let acts = acts.iter().map(|act| {
        let moves = act.tip_height_m.is_some() || act.tip_by_m.is_some();
        let [down, across] = act.tip_by_m.unwrap_or_default();
        now = [
            now[0] + down,
            now[1] + across,
            act.tip_height_m.map_or(now[2], |height| -height),
        ];
        Act {
            seconds: act.seconds,
            reel: MetresPerSecond(act.reel_mps),
            tip: moves.then_some(now),
        }
    });
    acts.collect()
}

impl CastRequest {
    fn thrown(&self) -> Result<Thrown, Refusal> {
        motilis_core::fields::CAST_ANGLE
            .check(self.angle_deg)
            .and_then(|_| motilis_core::fields::CAST_DISTANCE.check(self.distance_m))
            .map_err(|error| error.under("cast"))?;
        Ok(Thrown {
            angle_deg: self.angle_deg,
            distance: Metres(self.distance_m),
        })
    }
}

impl LureRequest {
    fn load(&self) -> Result<NodeLoad, Refusal> {
        let fields = motilis_core::river::lure_fields(
            self.submerged_weight_n,
            self.drag_area_m2,
            self.virtual_mass_kg,
        );
        fields.map_err(|error| error.under("lure"))?;
        let load = PointLoad {
            submerged_weight: Newtons(self.submerged_weight_n),
            drag_area: SquareMetres(self.drag_area_m2),
            down_area: SquareMetres(0.0),
        };
        // A brass body: what it displaces follows from its weight.
        let virtual_mass = self.virtual_mass_kg.unwrap_or_else(|| {
            let displaced =
                self.submerged_weight_n / motilis_core::units::GRAVITY / (BRASS / 1_000.0 - 1.0);
            displaced * (BRASS / 1_000.0 + 0.5)
        });
        let node = NodeLoad::with_virtual_mass(load, Kilograms(virtual_mass));
        let blade = self.blade_start_mps.map(|start| BladeDrag {
            start: MetresPerSecond(start),
            roll_over: self.roll_over_mps.map(MetresPerSecond),
            hanging: SquareMetres(self.hanging_drag_area_m2.unwrap_or(self.drag_area_m2)),
            turning: SquareMetres(self.drag_area_m2),
            at_work: motilis_core::blade::State::Turning,
        });
        Ok(NodeLoad { blade, ..node })
    }
}

impl LineRequest {
    fn segment(&self) -> Result<Segment, Refusal> {
        motilis_core::river::line_fields(
            self.diameter_m,
            self.submerged_weight_n_per_m,
            self.strum,
            self.virtual_kg_per_m,
        )
        .map_err(|error| error.under("line"))?;
        Ok(Segment {
            length: Metres(0.0),
            diameter: Metres(self.diameter_m),
            submerged_weight: NewtonsPerMetre(self.submerged_weight_n_per_m),
            node: None,
        })
    }
}

fn row(moment: &Moment) -> Row {
    let [x, y, z] = moment.place;
    Row(
        moment.at,
        x,
        y,
        -z + 0.0,
        moment.speed.0,
        moment.state.key(),
    )
}

fn plan_answer(plan: &Plan, angler: &Angler) -> PlanAnswer {
    PlanAnswer {
        angle_deg: plan.thrown.angle_deg,
        distance_m: plan.thrown.distance.0,
        held: plan.held.key(),
        sink_seconds: plan.sink,
        reel_mps: plan.reel.0,
        turns_per_s: angler.turns(plan.reel),
        lift_seconds: plan.lift,
    }
}

/// Answers one request.
///
/// # Errors
/// [`Refusal`] with the field.
#[utoipa::path(post, path = "/api/v1/solve/river", tag = "solve", request_body = Request, responses(
    (status = 200, description = "Where the lure goes", body = Answer),
    (status = 422, description = "The field that is wrong, and why", body = Refused),
))]
pub fn solve(request: Request) -> Result<Answer, Refusal> {
    let section = request.section()?;
    let (water, at) = request.water()?;
    let tackle = request.tackle(&water, at)?;
    let zone = request.zone()?;
    let rows = request.rows.unwrap_or(ROWS);
    if !(1..=MOST_ROWS).contains(&rows) {
        return Err(Refusal::new(
            "rows",
            format!("rows {rows} is not between 1 and {MOST_ROWS}"),
        ));
    }
    let angler = request.angler(&section);
    let (mut best, mut slowest_mps, mut grid) = (None, None, None);
    let path = match (&angler, request.ask.as_deref()) {
        (None, None) => request
            .cast()?
            .path(&section, &tackle, &water, Fineness::SHOWN)?,
        (None, Some(_)) => {
            return Err(Refusal::new(
                "angler",
                "best, slowest and grid are asked of somebody who stands somewhere; give an `angler`",
            ));
        }
        (Some(angler), ask) => {
            angler.check().map_err(|error| error.under("angler"))?;
            if request.tip_height_m.is_some() || request.acts.is_some() || request.start_m.is_some()
            {
                return Err(Refusal::new(
                    "angler",
                    "with an angler the cast says where it goes and what is done; leave `tip_height_m`, `acts` and `start_m` out",
                ));
            }
            let scene = Scene {
                section: &section,
                water: &water,
                angler,
                tackle: &tackle,
            };
            if ask == Some("best") {
                let found = scene.best_cast(&zone);
                best = Some(found.as_ref().map(|found| plan_answer(&found.plan, angler)));
                match found {
                    Some(found) => found.path,
                    None => {
                        return Err(Refusal::new(
                            "angler",
                            "from there no cast lands on the water; stand elsewhere",
                        ));
                    }
                }
            } else {
                let plan = request.plan()?;
                match ask {
                    None => {}
                    Some("slowest") => {
                        let slowest = scene.slowest_retrieve(&plan)?;
                        slowest_mps = Some(slowest.map(|speed| speed.0));
                    }
                    Some("grid") => grid = Some(grid_of(&scene, &plan, &zone, &request)?),
                    Some(other) => {
                        return Err(Refusal::new(
                            "ask",
                            format!(
                                "{other:?} is nothing to ask; it is `best`, `slowest` or `grid`"
                            ),
                        ));
                    }
                }
                scene.path(&plan, Fineness::SHOWN)?
            }
        }
    };
    Ok(Answer {
        name: request.name,
        path: rows_of(&path, request.seconds, rows),
        zone_s: path.zone_seconds(&zone),
        deepest_m: path.deepest().0,
        touches: touches(&path),
        turning_share: path.working_share(),
        ended: match path.ended {
            Ended::Time => "time",
            Ended::AtTheRod => "at_the_rod",
            Ended::AtRest => "at_rest",
        },
        discharge_m3s: section.discharge().0,
        sink_speed_mps: tackle.lure.sink_speed(&water).0,
        best,
        slowest_mps,
        grid,
    })
}

/// The path at equal steps of the time asked for, or of its own; where it ends before, it stays at its end.
fn rows_of(path: &Path, seconds: Option<f64>, rows: usize) -> Vec<Row> {
    let seconds = seconds.unwrap_or(path.seconds());
    (0..=rows)
        .map(|k| row(&path.at(k as f64 * seconds / rows as f64)))
        .collect()
}

fn touches(path: &Path) -> Vec<TouchAnswer> {
    let touches = path.touches().into_iter();
    let answers = touches.map(|touch| TouchAnswer {
        at_s: touch.at,
        seconds: touch.seconds,
        place_m: [touch.place[0], touch.place[1], -touch.place[2]],
    });
    answers.collect()
}

fn grid_of(
    scene: &Scene<'_>,
    plan: &Plan,
    zone: &Zone,
    request: &Request,
) -> Result<Vec<GridAnswer>, Refusal> {
    let school = request.school.as_ref();
    let school = school.map_or(Ok(School::Both), |word| {
        keyed(
            "school",
            word,
            School::from_key,
            School::ALL.iter().map(|school| school.key()),
        )
    })?;
    let fished = scene.fished(plan, school)?;
    let answers = fished.iter().map(|one| GridAnswer {
        way: one.cast.way.key(),
        far: one.cast.far.key(),
        distance_m: one.cast.thrown.distance.0,
        seconds: one.path.seconds(),
        zone_s: one.path.zone_seconds(zone),
        bed_s: one.path.seconds_while(|moment| moment.on_bed),
    });
    Ok(answers.collect())
}
