//! `solve towline`: where a trolled line runs, or how much of it to let out.

use crate::{Refusal, Refused, Water};
use motilis_core::towline::{
    self, LONGEST, LineDrag, NormalDrag, PointLoad, Reach, STRUM, Segment, Shape, Towline,
};
use motilis_core::units::{Metres, MetresPerSecond, Newtons, NewtonsPerMetre, SquareMetres};
use serde::de::{Deserializer, Error as _, Visitor};
use serde::{Deserialize, Serialize};
use std::fmt;
use utoipa::ToSchema;

/// A line with its loads at a speed.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = TowlineRequest, example = json!({
    "speed_mps": 0.536, "water": {"temperature_c": 15},
    "tail": {"submerged_weight_n": 0.02, "drag_area_m2": 5.5e-4},
    "segments": [
        {"length_m": 1.52, "diameter_m": 0.00039, "submerged_weight_n_per_m": 1.7e-4,
         "node": {"submerged_weight_n": 0.253, "drag_area_m2": 7.3e-4}},
        {"length_m": 21.3, "diameter_m": 0.00028, "submerged_weight_n_per_m": 8.6e-5}
    ]
}))]
pub struct Request {
    /// Comes back with the answer.
    pub name: Option<String>,
    /// Speed through the water, 0 to 15 m/s.
    pub speed_mps: f64,
    /// The water.
    pub water: Water,
    /// How the water holds the line; the defaults of fishing line when not given.
    #[serde(default)]
    pub drag: Drag,
    /// The load at the lower end.
    pub tail: Load,
    /// Pieces of line from the tail to the surface, 1 to 100 of them.
    pub segments: Vec<Piece>,
    /// Ask for the length of the last segment that puts the tail at this depth, m; the last
    /// segment's `length_m` is then ignored.
    pub target_tail_depth_m: Option<f64>,
    /// Ask for the profile.
    #[serde(default)]
    pub profile: bool,
    /// Ask for the band of the tail's depth, from how unsure these figures are.
    pub spreads: Option<Spreads>,
}

/// One standard deviation each, as a share of the figure (0 to 0.7), of the speed in m/s (0 to 3); a missing one is none.
#[derive(Debug, Clone, Copy, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
#[schema(as = TowlineSpreads)]
pub struct Spreads {
    /// Of the strumming factor.
    pub strum: f64,
    /// Of the diameter of the last segment.
    pub main_diameter: f64,
    /// Of the drag of the loads on the line.
    pub node_drag: f64,
    /// Of the drag of the tail.
    pub tail_drag: f64,
    /// Of the weight of the loads on the line.
    pub node_weight: f64,
    /// Of the length of the last segment.
    pub top_length: f64,
    /// Of the speed, m/s.
    pub speed_mps: f64,
}

impl From<Spreads> for towline::Spreads {
    fn from(spreads: Spreads) -> Self {
        Self {
            strum: spreads.strum,
            main_diameter: spreads.main_diameter,
            node_drag: spreads.node_drag,
            tail_drag: spreads.tail_drag,
            node_weight: spreads.node_weight,
            top_length: spreads.top_length,
            speed: MetresPerSecond(spreads.speed_mps),
        }
    }
}

/// Drag law of the line.
#[derive(Debug, Clone, Copy, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = TowlineDrag)]
pub struct Drag {
    /// `"sucker_brauer"` (the default), `"reynolds"` or a constant coefficient between 0 and 10.
    #[serde(default)]
    #[schema(value_type = Object)]
    pub normal: Normal,
    /// Tangential friction coefficient, 0 to 1; 0.02 when not given.
    pub tangential: Option<f64>,
    /// Strumming factor, above 0 and at most 10; 1.3 when not given. With `"sucker_brauer"` it counts wholly from Re 60, not at
    /// all below Re 40.
    pub strum: Option<f64>,
}

/// `"sucker_brauer"`, `"reynolds"` or a number.
#[derive(Debug, Clone, Copy, Default)]
pub enum Normal {
    /// The smooth-cylinder fit of Sucker & Brauer; a line strums only where it sheds vortices.
    #[default]
    SuckerBrauer,
    /// The smooth-cylinder fit of White.
    Reynolds,
    /// A constant.
    Constant(f64),
}

impl<'de> Deserialize<'de> for Normal {
    fn deserialize<D: Deserializer<'de>>(json: D) -> Result<Self, D::Error> {
        struct WordOrNumber;
        impl Visitor<'_> for WordOrNumber {
            type Value = Normal;
            fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                f.write_str("\"sucker_brauer\", \"reynolds\" or a number")
            }
            fn visit_f64<E>(self, value: f64) -> Result<Normal, E> {
                Ok(Normal::Constant(value))
            }
            fn visit_u64<E>(self, value: u64) -> Result<Normal, E> {
                Ok(Normal::Constant(value as f64))
            }
            fn visit_i64<E>(self, value: i64) -> Result<Normal, E> {
                Ok(Normal::Constant(value as f64))
            }
            fn visit_str<E: serde::de::Error>(self, word: &str) -> Result<Normal, E> {
                match word {
                    "sucker_brauer" => Ok(Normal::SuckerBrauer),
                    "reynolds" => Ok(Normal::Reynolds),
                    _ => Err(E::invalid_value(serde::de::Unexpected::Str(word), &self)),
                }
            }
        }
        json.deserialize_any(WordOrNumber).map_err(D::Error::custom)
    }
}

/// A rig, weight or diver.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = TowlineLoad)]
pub struct Load {
    /// Weight under water, N; negative when it floats.
    pub submerged_weight_n: f64,
    /// Drag coefficient times area, m².
    pub drag_area_m2: f64,
    /// Down-force coefficient times area, m²; 0 when not given.
    #[serde(default)]
    pub down_area_m2: f64,
}

/// A piece of line and what hangs at its upper end.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = TowlineSegment)]
pub struct Piece {
    /// Length, 0 to 3 000 m.
    pub length_m: f64,
    /// Diameter, above 0 and at most 0.05 m.
    pub diameter_m: f64,
    /// Weight under water per metre, N/m; negative for line that floats.
    pub submerged_weight_n_per_m: f64,
    /// Load at its upper end.
    pub node: Option<Load>,
}

/// Where the line runs. Depths are below the surface, runs behind the point where it leaves the water.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = TowlineAnswer)]
pub struct Answer {
    /// The request's name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// Depth of the tail, m; 0 where it floats.
    pub tail_depth_m: f64,
    /// With spreads: the depth above which it runs in one case of ten, m.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tail_depth_low_m: Option<f64>,
    /// With spreads: the depth below which it runs in one case of ten, m.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tail_depth_high_m: Option<f64>,
    /// Distance of the tail behind, m.
    pub run_m: f64,
    /// Tension where the line leaves the water, N.
    pub tension_top_n: f64,
    /// Angle above the horizontal there, degrees.
    pub angle_top_deg: f64,
    /// Depths of the segments' upper ends, from the tail up; the last is 0.
    pub node_depths_m: Vec<f64>,
    /// Runs of the segments' upper ends, from the tail up; the last is 0.
    pub node_runs_m: Vec<f64>,
    /// With a target: length of the last segment; null when the depth cannot be reached, and the
    /// figures above are then those of the nearest line.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<f64>)]
    pub top_length_m: Option<Option<f64>>,
    /// Why the depth cannot be reached, and which weight would.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub reason: Option<String>,
    /// `[run_m, depth_m]` along the line, tail first.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub profile: Option<Vec<[f64; 2]>>,
}

impl From<Load> for PointLoad {
    fn from(load: Load) -> Self {
        Self {
            submerged_weight: Newtons(load.submerged_weight_n),
            drag_area: SquareMetres(load.drag_area_m2),
            down_area: SquareMetres(load.down_area_m2),
        }
    }
}

impl From<Piece> for Segment {
    fn from(piece: Piece) -> Self {
        Self {
            length: Metres(piece.length_m),
            diameter: Metres(piece.diameter_m),
            submerged_weight: NewtonsPerMetre(piece.submerged_weight_n_per_m),
            node: piece.node.map(PointLoad::from),
        }
    }
}

impl From<Drag> for LineDrag {
    fn from(drag: Drag) -> Self {
        Self {
            normal: match drag.normal {
                Normal::SuckerBrauer => NormalDrag::SuckerBrauer,
                Normal::Reynolds => NormalDrag::Reynolds,
                Normal::Constant(coefficient) => NormalDrag::Constant(coefficient),
            },
            tangential: drag.tangential.unwrap_or(Self::default().tangential),
            strum: drag.strum.unwrap_or(STRUM),
            ..Self::default()
        }
    }
}

/// Answers one request.
///
/// # Errors
/// [`Refusal`] with the field; a depth that cannot be reached is an answer.
#[utoipa::path(post, path = "/api/v1/solve/towline", tag = "solve", request_body = Request, responses(
    (status = 200, description = "Where the line runs", body = Answer),
    (status = 422, description = "The field that is wrong, and why", body = Refused),
))]
pub fn solve(request: Request) -> Result<Answer, Refusal> {
    let line = Towline::new(
        MetresPerSecond(request.speed_mps),
        request.water.properties()?,
        request.drag.into(),
        request.tail.into(),
        request
            .segments
            .iter()
            .copied()
            .map(Segment::from)
            .collect(),
    )?;
    let (shape, top_length_m, reason) = match request.target_tail_depth_m {
        None if request.profile => (line.solve_with_profile()?, None, None),
        None => (line.solve()?, None, None),
        Some(target) => inverse(&line, Metres(target))?,
    };
    let band = match request.spreads {
        Some(spreads) => Some(
            line.with_top(shape.top_length)
                .band(&towline::Spreads::from(spreads))?,
        ),
        None => None,
    };
    let profile = request.profile.then(|| {
        let points = shape.profile.iter();
        points.map(|place| [place.run.0, place.depth.0]).collect()
    });
    Ok(Answer {
        name: request.name,
        tail_depth_m: shape.tail.depth.0,
        tail_depth_low_m: band.as_ref().map(|band| band.low.0),
        tail_depth_high_m: band.as_ref().map(|band| band.high.0),
        run_m: shape.tail.run.0,
        tension_top_n: shape.top.tension.0,
        angle_top_deg: shape.top.angle.degrees(),
        node_depths_m: shape.nodes.iter().map(|node| node.depth.0).collect(),
        node_runs_m: shape.nodes.iter().map(|node| node.run.0).collect(),
        top_length_m,
        reason,
        profile,
    })
}

type Inverse = (Shape, Option<Option<f64>>, Option<String>);

fn inverse(line: &Towline, target: Metres) -> Result<Inverse, Refusal> {
    Ok(match line.reach(target, LONGEST)? {
        Reach::At(shape) => {
            let length = shape.top_length.0;
            (shape, Some(Some(length)), None)
        }
        Reach::TooShallow(shape) => {
            let reason = format!(
                "the segments below the last one alone already take the tail to {:.2} m",
                shape.tail_depth().0
            );
            (shape, Some(None), Some(reason))
        }
        Reach::TooDeep(shape) => {
            let reason = format!(
                "{:.2} m is the depth with {:.0} m of the last segment; {}",
                shape.tail_depth().0,
                LONGEST.0,
                line.weight_to_reach(target, LONGEST).map_or_else(
                    || "no weight would take it to the target".to_owned(),
                    |newtons| format!("{newtons:.3} N under water at its weight would reach it"),
                )
            );
            (shape, Some(None), Some(reason))
        }
    })
}
